//! The mesh of a piece as views and mesh files take it: with every hole, or without those of patterns.

use ground::geom::triangulate::TaggedLoop;
use ground::geom::{CHORD, Contour, Hole};

use crate::formed::mesh::FlatMesh;
use crate::result::{FeatureName, PieceResult};

/// About how many triangles the solid with every hole in it has, told without making it.
pub fn mesh_size(result: &PieceResult) -> usize {
    // A side makes a wall of two triangles; a face of v corners with h holes has v + 2h − 2 of them.
    let sides = |c: &Contour| c.flatten_tagged(CHORD).len();
    contours(result).map(|c| 4 * sides(c) + 4).sum()
}

/// The mesh with every hole in it, for files. Holes take away their true area, so that it weighs what the
/// figures say; where such holes would touch one another they keep to their arcs.
pub fn full_mesh(result: &PieceResult) -> FlatMesh {
    let of = |flattened: fn(&Contour) -> TaggedLoop| {
        FlatMesh::of(
            &result.flat.outer,
            &result.flat.holes,
            &result.zones,
            result.thickness,
            false,
            flattened,
        )
    };
    let full = of(|c| c.flatten_true(CHORD));
    if full.solid(&result.zones, 1.0, result.thickness).is_watertight() {
        full
    } else {
        of(|c| c.flatten_tagged(CHORD))
    }
}

/// What meshes and the formed picture do not show of a piece, in words; empty for nothing.
pub fn unseen(result: &PieceResult) -> String {
    let mut kinds: std::collections::BTreeMap<&str, usize> = std::collections::BTreeMap::new();
    result.flat.pressed.iter().for_each(|p| *kinds.entry(p.pressed.kind()).or_default() += 1);
    let told: Vec<String> = kinds.into_iter().map(|(what, n)| ground::quantity::counted(n, what)).collect();
    if told.is_empty() {
        String::new()
    } else {
        format!(
            "Not in STL, GLB and the formed picture: {} (they are on the flat and in the DXF)",
            told.join(", ")
        )
    }
}

/// A line that makes more cuts than this is a pattern.
const PATTERN: usize = 200;

/// Whether a piece has patterns: their holes can be left out of its pictures and of a plain mesh.
pub fn has_patterns(result: &PieceResult) -> bool {
    patterned(result).iter().any(|p| *p)
}

/// For each hole whether patterns made it, and nothing else.
fn patterned(result: &PieceResult) -> Vec<bool> {
    let mut cuts: std::collections::HashMap<&str, usize> = std::collections::HashMap::new();
    result.features.iter().for_each(|f| *cuts.entry(f.line.as_str()).or_default() += 1);
    let by_pattern =
        |s: &u32| result.features.get(*s as usize).is_some_and(|f| cuts[f.line.as_str()] > PATTERN);
    result.flat.holes.iter().map(|h| !h.sources.is_empty() && h.sources.iter().all(by_pattern)).collect()
}

/// The mesh without the holes of patterns, for pictures and for readers that cannot bear them all; and how
/// many were left out.
pub fn plain_mesh(result: &PieceResult) -> (FlatMesh, usize) {
    let holes = result.flat.holes.iter().zip(patterned(result));
    let kept: Vec<Hole> = holes.filter(|(_, patterned)| !patterned).map(|(h, _)| h.clone()).collect();
    let left = result.flat.holes.len() - kept.len();
    (
        FlatMesh::of(&result.flat.outer, &kept, &result.zones, result.thickness, true, |c| {
            c.flatten_true(CHORD)
        }),
        left,
    )
}

/// Whether a hole is left out of views: every cut that made it is.
pub fn is_hidden_in_views(hole: &Hole, features: &[FeatureName]) -> bool {
    !hole.sources.is_empty()
        && hole.sources.iter().all(|&s| features.get(s as usize).is_some_and(|f| f.hidden_in_views))
}

/// The outline and holes as contours, the outline first.
pub fn contours(result: &PieceResult) -> impl Iterator<Item = &Contour> {
    std::iter::once(&result.flat.outer).chain(result.flat.holes.iter().map(|h| &h.contour))
}

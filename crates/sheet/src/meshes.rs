//! The mesh of a piece as views and mesh files take it: with every hole, or without those of patterns.

use ground::geom::triangulate::TaggedLoop;
use ground::geom::{CHORD, COINCIDENT, Contour, Grid, Hole, Segment, closest};

use crate::formed::mesh::FlatMesh;
use crate::formed::wells::Well;
use crate::result::{BoreMark, FeatureName, PieceResult};

impl PieceResult {
    /// The mesh of views: without light patterns, and without holes where there are very many.
    pub fn mesh(&self) -> &FlatMesh {
        if let Some(made) = self.mesh.get() {
            return made;
        }
        // Made outside of the lock: who makes it may be made to wait or be halted, and another who wants it
        // must not hang on that.
        let made = self.view_mesh();
        self.mesh.get_or_init(|| made)
    }

    fn view_mesh(&self) -> FlatMesh {
        if !self.made {
            return FlatMesh::default();
        }
        let seen: Vec<&Hole> =
            self.flat.holes.iter().filter(|h| !is_hidden_in_views(h, &self.features)).collect();
        let light = seen.len() < self.flat.holes.len();
        let (holes, wells) = sunk(self, &seen);
        let mut mesh = FlatMesh::new(&self.flat.outer, &holes, &wells, &self.zones, self.thickness, true);
        mesh.light |= light;
        mesh.bevelled(&self.flat.outer, &self.flat.bevels)
    }
}

/// About how many triangles the solid with every hole in it has, told without making it.
pub fn mesh_size(result: &PieceResult) -> usize {
    // A side makes a wall of two triangles; a face of v corners with h holes has v + 2h − 2 of them.
    let sides = |c: &Contour| c.flatten_tagged(CHORD).len();
    contours(result).map(|c| 4 * sides(c) + 4).sum()
}

/// The mesh with every hole in it, for files. Holes take away their true area, so that it weighs what the
/// figures say; where such holes would touch one another they keep to their arcs.
pub fn full_mesh(result: &PieceResult) -> FlatMesh {
    let holes: Vec<&Hole> = result.flat.holes.iter().collect();
    let (holes, wells) = sunk(result, &holes);
    let of = |flattened: fn(&Contour) -> TaggedLoop| {
        FlatMesh::of(&result.flat.outer, &holes, &wells, &result.zones, result.thickness, false, flattened)
            .bevelled(&result.flat.outer, &result.flat.bevels)
    };
    let full = of(|c| c.flatten_true(CHORD));
    if full.solid(&result.zones, 1.0, result.thickness).is_watertight() {
        full
    } else {
        of(|c| c.flatten_tagged(CHORD))
    }
}

/// Holes as meshes have them: those that only go through the sheet, and drilled ones with more below them.
/// One that stands over an edge or another cut is only cut through.
pub(crate) fn sunk(result: &PieceResult, holes: &[&Hole]) -> (Vec<Hole>, Vec<Well>) {
    let flat = &result.flat;
    if flat.bores.iter().all(|b| b.bore.is_plain()) {
        return (holes.iter().map(|h| (*h).clone()).collect(), Vec::new());
    }
    let first = result.tags.len() - result.features.len();
    let by_name: std::collections::HashMap<&str, usize> =
        result.features.iter().enumerate().map(|(k, f)| (f.name.as_str(), k)).collect();
    let deep = flat.bores.iter().filter(|b| !b.bore.is_plain());
    let feet: Vec<(usize, Well)> = deep
        .filter_map(|b| {
            let k = *by_name.get(b.name.as_str())?;
            let profile = b.bore.profile(result.thickness);
            let tag = (first + k) as u32;
            Some((k, Well::new(&profile, b.bore.back, b.at.into(), tag, result.thickness)))
        })
        .collect();
    // Every side that a well may not touch, with the feature that it belongs to.
    let own = |h: &Hole| if let [k] = h.sources[..] { k as usize } else { usize::MAX };
    let sides: Vec<(Segment, usize)> = flat
        .outer
        .segments()
        .map(|s| (s, usize::MAX))
        .chain(flat.holes.iter().flat_map(|h| h.contour.segments().map(move |s| (s, own(h)))))
        .chain(feet.iter().flat_map(|(k, w)| w.around.segments().map(move |s| (s, *k))))
        .collect();
    let grid = Grid::new(&sides.iter().map(|s| s.0.bounds()).collect::<Vec<_>>(), COINCIDENT);
    let clear = |k: usize, w: &Well| {
        ground::halt::often();
        let near = grid.near(&w.around.bounds());
        flat.outer.contains(w.around.bounds().centre())
            && near.into_iter().map(|i| &sides[i as usize]).filter(|s| s.1 != k).all(|(s, _)| {
                !w.around.contains(s.a) && w.around.segments().all(|o| closest(&o, s).gap > COINCIDENT)
            })
    };
    let wells: Vec<(usize, Well)> = feet.iter().filter(|(k, w)| clear(*k, w)).cloned().collect();
    let taken: std::collections::HashSet<usize> = wells.iter().map(|w| w.0).collect();
    let plain = holes.iter().filter(|h| !taken.contains(&own(h))).map(|h| (*h).clone()).collect();
    (plain, wells.into_iter().map(|w| w.1).collect())
}

/// The holes of a piece as bodies have them.
#[derive(Clone, Debug)]
pub struct Bored<'a> {
    /// What only goes through the sheet.
    pub holes: Vec<Hole>,
    /// Drilled ones with more below their loop, clear of all else.
    pub deep: Vec<&'a BoreMark>,
}

pub fn bored(result: &PieceResult) -> Bored<'_> {
    let (holes, wells) = sunk(result, &result.flat.holes.iter().collect::<Vec<_>>());
    let deep = |b: &&BoreMark| !b.bore.is_plain() && wells.iter().any(|w| w.stands_at(b.at.into()));
    Bored { holes, deep: result.flat.bores.iter().filter(deep).collect() }
}

/// What meshes and the formed picture do not show of a piece, in words; empty for nothing.
pub fn unseen(result: &PieceResult) -> String {
    let mut kinds: std::collections::BTreeMap<&str, usize> = std::collections::BTreeMap::new();
    let pressed = || result.flat.pressed.iter().map(|p| &p.pressed);
    pressed().filter(|p| !p.is_pad()).for_each(|p| *kinds.entry(p.kind()).or_default() += 1);
    let deep = || result.flat.bores.iter().filter(|b| !b.bore.is_plain());
    let (_, wells) = sunk(result, &[]);
    if wells.len() < deep().count() {
        let made = |b: &&BoreMark| wells.iter().any(|w| w.stands_at(b.at.into()));
        deep().filter(|b| !made(b)).for_each(|b| *kinds.entry(b.bore.name()).or_default() += 1);
    }
    let told: Vec<String> = kinds.into_iter().map(|(what, n)| ground::quantity::counted(n, what)).collect();
    let mut out = Vec::new();
    if !told.is_empty() {
        out.push(format!(
            "Not in STL, GLB and the formed picture: {} (they are on the flat and in the DXF)",
            told.join(", ")
        ));
    }
    let pads = pressed().filter(|p| p.is_pad()).count();
    if pads > 0 {
        let pads = ground::quantity::counted(pads, "pad");
        out.push(format!("Not in STL and GLB: {pads}, which have files of their own"));
    }
    out.join(". ")
}

/// A line that makes more cuts than this is a pattern.
const PATTERN: usize = 200;

/// Whether a piece has patterns: their holes can be left out of its pictures and of a plain mesh.
pub fn has_patterns(result: &PieceResult) -> bool {
    result.features.len() > PATTERN && patterned(result).iter().any(|p| *p)
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
    let kept: Vec<&Hole> = holes.filter(|(_, patterned)| !patterned).map(|(h, _)| h).collect();
    let left = result.flat.holes.len() - kept.len();
    let (kept, wells) = sunk(result, &kept);
    (
        FlatMesh::of(&result.flat.outer, &kept, &wells, &result.zones, result.thickness, true, |c| {
            c.flatten_true(CHORD)
        })
        .bevelled(&result.flat.outer, &result.flat.bevels),
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

//! Results as the web receives them. Coordinates rounded to 0.0001 mm: for drawing only, figures carry full
//! precision.

use std::collections::BTreeMap;

use serde::Serialize;
use steelk_core::halt;
use steelk_core::quantity::Display;
use steelk_core::result::*;
use steelk_core::sheet::raised::{Raised, relief};
use steelk_core::sheet::zones::Kind;
use steelk_core::sheet::{edges_on, said_in};
use utoipa::ToSchema;

use crate::packed::{Names, Packed, floats, steps};

/// Holes, one number each in every list: thousands of small objects would stop a
/// page for longer than their sight is worth.
#[derive(Default, Serialize, ToSchema)]
pub struct HolesView {
    /// Which of `features` made it, from 1; 0 where none is known.
    pub made_by: Packed,
    /// Which of `shapes`.
    pub shape: Packed,
    /// Where its first point lies: x, y in turn.
    pub at: Packed,
}

/// Named cuts: in each list one number a cut, an index into `names`.
#[derive(Serialize, ToSchema)]
pub struct FeaturesView {
    pub name: Packed,
    /// The line that made it.
    pub line: Packed,
}

#[derive(Serialize, ToSchema)]
pub struct FlatView {
    pub outer: Vec<[f64; 3]>,
    /// Name of each side of the outline.
    pub sides: Vec<String>,
    pub holes: HolesView,
    /// Outlines of holes from their first point, `[x, y, bulge]` triples: equal holes share one.
    pub shapes: Vec<Vec<[f64; 3]>>,
    /// Parts that fall out.
    pub dropped: Vec<Vec<[f64; 3]>>,
    pub bends: Vec<BendMark>,
    pub dimensions: Vec<Dimension>,
    /// Kept sizes that slant.
    pub kept: Vec<SlantingSize>,
    pub marks: Vec<HoleMark>,
    pub pressed: Vec<PressedView>,
    pub bores: Vec<BoreView>,
    /// Holes of light patterns that are not listed here.
    pub left_out: usize,
    pub min: [f64; 2],
    pub max: [f64; 2],
}

/// A pressed shape: footprint and the side it stands out on (none for a rib, which stands into its bend).
#[derive(Serialize, ToSchema)]
pub struct PressedView {
    pub name: String,
    pub line: String,
    pub points: Vec<[f64; 3]>,
    pub at: [f64; 2],
    pub up: Option<bool>,
    pub text: String,
}

/// A drilled hole: what is seen of it beside its hole through the sheet.
#[derive(Serialize, ToSchema)]
pub struct BoreView {
    pub name: String,
    pub line: String,
    pub at: [f64; 2],
    /// All that it covers of the sheet.
    pub points: Vec<[f64; 3]>,
    /// Circles of its mouth, and of a blind hole.
    pub rings: Vec<Vec<[f64; 3]>>,
    /// Three quarters of a circle for a thread, point by point; none where it has none.
    pub thread: Vec<[f64; 2]>,
    /// From the face that the flat does not show.
    pub back: bool,
    pub text: String,
}

/// Pressed shapes and drilled holes as surfaces over the flat, which fold with it.
#[derive(Serialize, ToSchema)]
pub struct RaisedView {
    /// x and y in the flat, height over its lower face, in turn.
    pub points: Packed,
    /// The zone that each point folds with.
    pub zones: Packed,
    /// Three indices a triangle.
    pub triangles: Packed,
    /// Which of the flat's pressed shapes, or behind them of its drilled holes, each triangle belongs to.
    pub shapes: Packed,
    /// From, to in turn.
    pub lines: Packed,
}

#[derive(Serialize, ToSchema)]
pub struct ConeZoneView {
    pub apex: [f64; 2],
    pub sweep: f64,
    pub turn: f64,
    pub up: bool,
}

#[derive(Serialize, ToSchema)]
pub struct BendZoneView {
    pub angle: f64,
    pub up: bool,
    pub allowance: f64,
    pub k: f64,
    /// A line, on which both panels are mitred.
    pub creased: bool,
}

/// A part of the flat and how it moves when the piece is folded.
#[derive(Serialize, ToSchema)]
pub struct ZoneView {
    pub name: String,
    pub line: String,
    pub parent: Option<usize>,
    pub origin: [f64; 2],
    pub along: [f64; 2],
    pub min: [f64; 2],
    pub max: [f64; 2],
    /// The outer faces round a panel: least x and y, greatest x and y.
    pub outside: Option<[f64; 4]>,
    /// Pointer in the piece of the length that its tip stands at.
    pub tip: Option<String>,
    /// Corners in the flat.
    pub region: Vec<[f64; 2]>,
    pub bend: Option<BendZoneView>,
    pub cone: Option<ConeZoneView>,
    /// A strip that is to be glued.
    pub glued: bool,
    /// Whether it can carry shapes: a panel of a folded piece, or what is rolled.
    pub carries: bool,
    /// Names of the edges of this panel that can be folded or told from.
    pub edges: Vec<String>,
}

/// Triangles of the flat.
#[derive(Serialize, ToSchema)]
pub struct MeshView {
    /// x, y in the flat, in turn.
    pub points: Packed,
    pub zones: Packed,
    /// Three indices a triangle.
    pub triangles: Packed,
    pub triangle_zones: Packed,
    /// From, to, tag in turn.
    pub walls: Packed,
    /// From, to in turn.
    pub creases: Packed,
    pub light: bool,
}

/// Pieces with more holes than this come without their geometry where it is not asked for.
const MANY_HOLES: usize = 400;

/// Holes, and the outlines that they share.
fn holes(p: &PieceResult) -> (HolesView, Vec<Vec<[f64; 3]>>, usize) {
    let mut known: std::collections::HashMap<Vec<[i64; 3]>, u32> = std::collections::HashMap::new();
    let (mut made_by, mut shape, mut at) = (Vec::new(), Vec::new(), Vec::new());
    let (mut shapes, mut left_out) = (Vec::new(), 0);
    for h in &p.flat.holes {
        halt::often();
        if steelk_core::sheet::is_hidden_in_views(h, &p.features) {
            left_out += 1;
            continue;
        }
        let first = h.contour.vertices[0].p;
        let from: Vec<[f64; 3]> = h
            .contour
            .vertices
            .iter()
            .map(|v| [r(v.p.x - first.x), r(v.p.y - first.y), (v.bulge * 1e9).round() / 1e9])
            .collect();
        let key = from
            .iter()
            .map(|v| [(v[0] * 1e4).round() as i64, (v[1] * 1e4).round() as i64, (v[2] * 1e9).round() as i64])
            .collect();
        shape.push([*known.entry(key).or_insert_with(|| {
            shapes.push(from);
            shapes.len() as u32 - 1
        })]);
        made_by.push([h.sources.first().filter(|s| (**s as usize) < p.features.len()).map_or(0, |s| s + 1)]);
        at.extend(pair(first));
    }
    let holes = HolesView {
        made_by: steps(made_by.into_iter()),
        shape: steps(shape.into_iter()),
        at: floats(at.into_iter()),
    };
    (holes, shapes, left_out)
}

fn mesh_view(mesh: &steelk_core::sheet::mesh::FlatMesh) -> MeshView {
    MeshView {
        points: floats(mesh.points.iter().flat_map(|q| pair(*q))),
        zones: steps(mesh.zones.iter().map(|z| [*z])),
        triangles: steps(mesh.triangles.iter().copied()),
        triangle_zones: steps(mesh.triangle_zones.iter().map(|z| [*z])),
        walls: steps(mesh.walls.iter().map(|w| [w.0, w.1, w.2])),
        creases: steps(mesh.creases.iter().map(|c| [c.0, c.1])),
        light: mesh.light,
    }
}

/// One piece evaluated.
#[derive(Serialize, ToSchema)]
pub struct PieceView {
    pub id: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub material: String,
    pub thickness: f64,
    pub thickness_text: String,
    /// The piece's usual inside radius, as typed.
    pub radius_text: String,
    pub display: Display,
    pub made: bool,
    /// False when its geometry is left out: holes, mesh, marks and names are then to be asked for.
    pub drawn: bool,
    pub flat: FlatView,
    pub zones: Vec<ZoneView>,
    pub mesh: MeshView,
    pub raised: RaisedView,
    /// Names of zones and edges as they are read.
    pub said: BTreeMap<String, String>,
    /// What `tags` and `features` name.
    pub names: Vec<String>,
    /// Name by tag: indices into `names`.
    pub tags: Packed,
    pub features: FeaturesView,
    pub corners: Vec<CornerName>,
    /// Bends in the order they are made.
    pub bend_rows: Vec<BendRow>,
    /// How the order of bends stands, in a sentence.
    pub order_said: String,
    /// A longer search may find a better order.
    pub order_open: bool,
    /// What is rolled is rolled after the bends.
    pub rolled_last: bool,
    /// Its start tells an outline side by side, by letters.
    pub lettered: bool,
    /// Values that were left open and found.
    pub found: Vec<FoundValue>,
    /// Where its start tells too little: some of the outlines that fit.
    pub family: Vec<Vec<[f64; 3]>>,
    /// Names of the first one's sides.
    pub family_sides: Vec<String>,
    pub figures: Vec<FigureResult>,
    pub findings: Vec<Finding>,
    pub faults: Vec<LineFault>,
}

fn r(v: f64) -> f64 {
    (v * 1e4).round() / 1e4
}

fn pair(p: glam::DVec2) -> [f64; 2] {
    if p.is_finite() { [r(p.x), r(p.y)] } else { [0.0; 2] }
}

fn rounded(c: &steelk_core::geom::Contour) -> Loop {
    c.vertices.iter().map(|v| [r(v.p.x), r(v.p.y), (v.bulge * 1e9).round() / 1e9]).collect()
}

/// Name of the side that leaves each vertex.
fn names_of(c: &steelk_core::geom::Contour, tags: &[String]) -> Vec<String> {
    c.vertices.iter().map(|v| tags.get(v.tag as usize).cloned().unwrap_or_default()).collect()
}

fn pressed(f: &PressedMark) -> PressedView {
    PressedView {
        name: f.name.clone(),
        line: f.line.clone(),
        points: rounded(&f.footprint),
        at: f.at,
        up: f.pressed.up(),
        text: f.text.clone(),
    }
}

fn bore(b: &BoreMark) -> BoreView {
    BoreView {
        name: b.name.clone(),
        line: b.line.clone(),
        at: b.at,
        points: rounded(&b.bore.footprint(&b.plan, b.at.into())),
        rings: b.rings().iter().map(rounded).collect(),
        thread: b.thread().into_iter().map(|p| pair(p.into())).collect(),
        back: b.bore.back,
        text: b.text.clone(),
    }
}

fn raised_view(r: &Raised) -> RaisedView {
    RaisedView {
        points: floats(r.points.iter().flat_map(|s| [s.at.x, s.at.y, s.z])),
        zones: steps(r.points.iter().map(|s| [s.zone as u32])),
        triangles: steps(r.triangles.iter().copied()),
        shapes: steps(r.shapes.iter().map(|s| [*s])),
        lines: steps(r.lines.iter().copied()),
    }
}

/// `geometry` false leaves out what is heavy of a piece with many holes.
pub fn piece_view(p: &PieceResult, geometry: bool) -> PieceView {
    let bounds = p.family.outlines.iter().fold(p.flat.outer.bounds(), |b, c| b.join(&c.bounds()));
    let drawn = geometry || p.flat.holes.len().max(p.features.len()) <= MANY_HOLES;
    let (holes, shapes, left_out) = if drawn { holes(p) } else { Default::default() };
    let (known_tags, known_features): (&[String], &[FeatureName]) =
        if drawn { (&p.tags, &p.features) } else { Default::default() };
    let none = Default::default();
    let mesh = if drawn { p.mesh() } else { &none };
    let mut names = Names::default();
    let tags = names.steps(known_tags.iter().map(String::as_str));
    let features = FeaturesView {
        name: names.steps(known_features.iter().map(|f| f.name.as_str())),
        line: names.steps(known_features.iter().map(|f| f.line.as_str())),
    };
    let edges: Vec<Vec<String>> = p.zones.iter().map(|z| edges_on(p, z)).collect();
    let sides = names_of(&p.flat.outer, &p.tags);
    let said = p.zones.iter().map(|z| &z.name).chain(edges.iter().flatten()).chain(&sides);
    let said = said.map(|n| (n.clone(), said_in(p, n))).filter(|(n, words)| n != words).collect();
    PieceView {
        said,
        id: p.id.clone(),
        mark: p.mark.clone(),
        name: p.name.clone(),
        quantity: p.quantity,
        material: p.material.clone(),
        thickness: p.thickness,
        thickness_text: p.thickness_text.clone(),
        radius_text: p.display.typed(p.radius),
        display: p.display,
        made: p.made,
        drawn,
        flat: FlatView {
            outer: rounded(&p.flat.outer),
            sides,
            holes,
            shapes,
            dropped: p.flat.dropped.iter().map(rounded).collect(),
            bends: p.flat.bends.clone(),
            dimensions: p.flat.dimensions.clone(),
            kept: p.flat.kept.clone(),
            marks: if drawn { p.flat.marks.clone() } else { Vec::new() },
            pressed: p.flat.pressed.iter().map(pressed).collect(),
            bores: if drawn { p.flat.bores.iter().map(bore).collect() } else { Vec::new() },
            left_out,
            min: pair(bounds.min),
            max: pair(bounds.max),
        },
        zones: p
            .zones
            .iter()
            .enumerate()
            .map(|(k, z)| ZoneView {
                outside: p.outside.get(k).copied().flatten(),
                tip: p.tips.get(k).cloned().flatten(),
                carries: p.carries.get(k).copied().unwrap_or_default(),
                glued: z.is_glued,
                name: z.name.clone(),
                line: z.line.clone(),
                parent: z.parent,
                origin: z.origin.to_array(),
                along: z.along.to_array(),
                min: z.min.to_array(),
                max: z.max.to_array(),
                region: z.region.iter().map(|q| pair(*q)).collect(),
                bend: z.bend().map(|b| BendZoneView {
                    angle: b.angle,
                    up: b.up,
                    allowance: b.allowance,
                    k: b.k,
                    creased: b.is_crease(),
                }),
                cone: match z.kind {
                    Kind::Cone(c) => {
                        Some(ConeZoneView { apex: c.apex.to_array(), sweep: c.sweep, turn: c.turn, up: c.up })
                    }
                    _ => None,
                },
                edges: edges.get(k).cloned().unwrap_or_default(),
            })
            .collect(),
        raised: raised_view(&relief(p, mesh)),
        mesh: mesh_view(mesh),
        tags,
        features,
        names: names.told,
        corners: p.corners.clone(),
        bend_rows: p.bend_rows.clone(),
        order_said: p.plan.said.clone(),
        order_open: p.plan.open,
        rolled_last: p.plan.rolled == Some(false),
        lettered: p.lettered,
        found: p.found.clone(),
        family: p.family.outlines.iter().map(rounded).collect(),
        family_sides: p.family.outlines.first().map_or_else(Vec::new, |c| names_of(c, &p.family.sides)),
        figures: p.figures.clone(),
        findings: p.findings.clone(),
        faults: p.faults.clone(),
    }
}

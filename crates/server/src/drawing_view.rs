//! A drawing that is being brought in, as the page shows it. Coordinates in mm, y up.

use glam::DVec2;
use serde::Serialize;
use steelk_core::geom::Bounds;
use steelk_core::job::{Assume, DrawingOptions, LayerUse};
use steelk_core::quantity::{Display, LengthUnit, trim_number};
use steelk_formats::drawn::{Content, LoopRole, RepairKind, usual_use};
use steelk_formats::svg;
use utoipa::ToSchema;

#[derive(Serialize, ToSchema)]
pub struct LayerView {
    pub name: String,
    /// Lines, arcs and curves on it.
    pub strokes: usize,
    pub used: LayerUse,
    /// What it is for by its name.
    pub usual: LayerUse,
}

#[derive(Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum LoopRoleView {
    Outline,
    Cut,
    Skipped,
}

#[derive(Serialize, ToSchema)]
pub struct LoopView {
    /// Path data.
    pub d: String,
    pub role: LoopRoleView,
    /// A place on it.
    pub at: [f64; 2],
    pub said: String,
}

#[derive(Serialize, ToSchema)]
pub struct RepairView {
    pub said: String,
    pub places: Vec<[f64; 2]>,
    /// Something is no longer as it was drawn; the others only say less often what was said twice.
    pub shifts: bool,
}

/// Between two loose ends.
#[derive(Serialize, ToSchema)]
pub struct GapView {
    pub from: [f64; 2],
    pub to: [f64; 2],
    pub said: String,
}

/// What the numbers of a file without a unit may be, with the size that it would have.
#[derive(Serialize, ToSchema)]
pub struct UnitView {
    pub unit: Assume,
    pub words: String,
    pub size: String,
    /// Why this one is likely; empty at the others.
    pub because: String,
}

#[derive(Serialize, ToSchema)]
pub struct DrawnPartView {
    pub size: String,
    pub cuts: usize,
    pub folds: usize,
}

#[derive(Serialize, ToSchema)]
pub struct DrawingView {
    /// The unit of its numbers, as the file names it or as it was told; none as long as it is asked.
    pub unit: Option<String>,
    /// The file names none.
    pub unit_told: bool,
    /// Asked where the file names no unit and none was told.
    pub units: Vec<UnitView>,
    pub length: LengthUnit,
    pub layers: Vec<LayerView>,
    pub min: [f64; 2],
    pub max: [f64; 2],
    pub loops: Vec<LoopView>,
    pub parts: Vec<DrawnPartView>,
    /// Path data of bend lines: up and down.
    pub folds: [String; 2],
    /// Path data of what does not close.
    pub open: String,
    /// Path data of what is on layers that are not taken.
    pub aside: String,
    pub gaps: Vec<GapView>,
    pub repairs: Vec<RepairView>,
    pub left_out: Vec<String>,
    /// Why nothing can be taken as it stands; empty where something can.
    pub trouble: String,
    /// How it was taken, with what is usual where nothing was told.
    pub options: DrawingOptions,
    /// Whether it has short chords that arcs were made of, or would be.
    pub chords: bool,
}

fn at(p: DVec2) -> [f64; 2] {
    [p.x, p.y].map(|v| (v * 1e4).round() / 1e4)
}

fn shifts(kind: RepairKind) -> bool {
    !matches!(kind, RepairKind::Doubled | RepairKind::Overlapped | RepairKind::Twice | RepairKind::Repeated)
}

fn words(unit: Assume) -> &'static str {
    match unit {
        Assume::Mm => "millimetres",
        Assume::In => "inches",
        Assume::Px => "pixels, 96 to the inch",
        Assume::Pt => "points, 72 to the inch",
    }
}

/// What a person may answer, with the size of the whole.
fn units(content: &Content, size: DVec2) -> Vec<UnitView> {
    let Some(guess) = &content.guess else { return Vec::new() };
    let raw = size / content.mm;
    [Assume::Mm, Assume::In, Assume::Px, Assume::Pt]
        .into_iter()
        .map(|unit| {
            let mm = raw * unit.mm();
            let told = |v: f64| trim_number(v, 1);
            UnitView {
                unit,
                words: words(unit).into(),
                size: format!("{} × {} mm", told(mm.x), told(mm.y)),
                because: if guess.unit == unit { guess.because.clone() } else { String::new() },
            }
        })
        .collect()
}

pub fn view(c: &Content, options: DrawingOptions) -> DrawingView {
    let assumed = options.assume;
    let length = c.working_unit(assumed);
    let display = Display { length, ..Display::default() };
    let size = |b: &Bounds| {
        let s = b.size();
        format!("{} × {}", display.length(s.x), display.length(s.y))
    };
    let mut all = Bounds::EMPTY;
    let boxes: Vec<Bounds> = c.loops.iter().map(|l| l.contour.bounds()).collect();
    boxes.iter().for_each(|b| all = all.join(b));
    c.open.iter().for_each(|o| all = all.join(&o.bounds));
    c.folds.iter().for_each(|f| [f.from, f.to].into_iter().for_each(|p| all.add(p)));
    c.aside.iter().for_each(|s| all = all.join(&s.bounds()));
    if all.min.x > all.max.x {
        all = Bounds { min: DVec2::ZERO, max: DVec2::ONE };
    }
    let loops = { c.loops.iter().zip(&boxes) }
        .map(|(l, b)| LoopView {
            d: svg::path(&l.contour),
            role: match l.role {
                LoopRole::Outline => LoopRoleView::Outline,
                LoopRole::Cut => LoopRoleView::Cut,
                LoopRole::Skipped => LoopRoleView::Skipped,
            },
            at: l.contour.vertices[0].p.to_array(),
            said: match l.contour.as_circle() {
                Some((_, r)) => format!("⌀{}", display.length(2.0 * r)),
                None => size(b),
            },
        })
        .collect();
    let fold = |up| {
        let lines = c.folds.iter().filter(|f| f.up == up);
        svg::strokes(lines.map(|f| steelk_core::geom::Segment::line(f.from, f.to)))
    };
    DrawingView {
        unit: c.unit.map(|u| u.name).or(assumed.map(words)).map(str::to_string),
        unit_told: c.unit.is_none(),
        units: units(c, all.size()),
        length,
        layers: c
            .layers
            .iter()
            .map(|l| LayerView {
                name: l.name.clone(),
                strokes: l.strokes,
                used: l.used,
                usual: usual_use(&l.name),
            })
            .collect(),
        min: at(all.min),
        max: at(all.max),
        loops,
        parts: c
            .parts
            .iter()
            .map(|p| {
                let (outer, cuts, folds) = c.part(p);
                DrawnPartView { size: size(&outer.bounds()), cuts: cuts.len(), folds: folds.len() }
            })
            .collect(),
        folds: [fold(true), fold(false)],
        open: svg::strokes(c.open.iter().flat_map(|o| o.segments.iter().copied())),
        aside: svg::strokes(c.aside.iter().copied()),
        gaps: c
            .gaps
            .iter()
            .map(|g| GapView {
                from: g.from.to_array(),
                to: g.to.to_array(),
                said: format!("{} on layer {}, at {}", c.length(g.width()), g.layer, c.place(g.from)),
            })
            .collect(),
        repairs: c
            .repairs
            .iter()
            .map(|r| RepairView {
                said: r.said.clone(),
                places: r.places.iter().map(|p| at(*p)).collect(),
                shifts: shifts(r.kind),
            })
            .collect(),
        left_out: c.left_out.clone(),
        trouble: c.nothing().unwrap_or_default(),
        chords: !options.arcs || c.repairs.iter().any(|r| r.kind == RepairKind::Arcs),
        options,
    }
}

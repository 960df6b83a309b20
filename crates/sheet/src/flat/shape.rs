//! Shapes that are cut out: their contours about their own middle.

use ground::geom::ROUNDING;
use std::f64::consts::TAU;

use glam::DVec2;
use ground::geom::{Contour, Vertex, fillet};
use ground::quantity::Display;

/// A shape lying along x before it is turned; lengths in mm.
#[derive(Clone, Debug, PartialEq)]
pub enum ShapeSpec {
    Round {
        diameter: f64,
    },
    /// `corner` is the radius of its corners, 0 for sharp ones.
    Square {
        side: f64,
        corner: f64,
    },
    Rectangle {
        width: f64,
        height: f64,
        corner: f64,
    },
    /// `told` as it was told: overall, or centre to centre.
    Slot {
        told: f64,
        width: f64,
        centres: bool,
    },
    /// Two equal sides, point to the north.
    Triangle {
        base: f64,
        height: f64,
    },
    /// Regular, across its flats, the first of them to the south.
    Polygon {
        sides: usize,
        across: f64,
    },
    /// An entry at the origin and a slot to the north; `length` from the middle of the entry to the end of
    /// the slot.
    Keyhole {
        entry: f64,
        slot: f64,
        length: f64,
    },
    /// A circle with one flat, to the south; `across` from the flat to the far side.
    D {
        diameter: f64,
        across: f64,
    },
    /// About the middle of its box.
    Outline {
        contour: Contour,
    },
}

impl ShapeSpec {
    /// An outline, wherever its points were counted from.
    pub fn outline(contour: &Contour) -> ShapeSpec {
        ShapeSpec::Outline { contour: contour.moved(0.0, -contour.bounds().centre()) }
    }

    pub fn contour(&self) -> Contour {
        match *self {
            ShapeSpec::Round { diameter } => Contour::circle(DVec2::ZERO, diameter / 2.0, 0),
            ShapeSpec::Square { side, corner } => rounded(upright(side, side), corner),
            ShapeSpec::Rectangle { width, height, corner } => rounded(upright(width, height), corner),
            ShapeSpec::Slot { told, width, centres } => {
                Contour::slot(DVec2::ZERO, if centres { told + width } else { told }, width, 0)
            }
            ShapeSpec::Triangle { base: b, height: h } => Contour::polygon(
                [DVec2::new(-b / 2.0, -h / 2.0), DVec2::new(b / 2.0, -h / 2.0), DVec2::new(0.0, h / 2.0)],
                0,
            ),
            ShapeSpec::Polygon { sides, across } => {
                let n = sides as f64;
                // Told across flats: twice the inradius. The first flat lies south.
                let radius = across / 2.0 / (TAU / n / 2.0).cos();
                let first = -TAU / 4.0 - TAU / n / 2.0;
                let points = (0..sides).map(|k| DVec2::from_angle(first + TAU * k as f64 / n) * radius);
                Contour::polygon(points, 0)
            }
            ShapeSpec::Keyhole { entry, slot, length } => keyhole(entry / 2.0, slot / 2.0, length),
            ShapeSpec::D { diameter, across } => d_hole(diameter / 2.0, across),
            ShapeSpec::Outline { ref contour } => contour.clone(),
        }
    }

    /// Its smallest width.
    pub fn least(&self) -> f64 {
        match *self {
            ShapeSpec::Round { diameter } => diameter,
            ShapeSpec::Square { side, .. } => side,
            ShapeSpec::Rectangle { width, height, .. } => width.min(height),
            ShapeSpec::Slot { width, .. } => width,
            ShapeSpec::Triangle { base, height } => {
                let leg = (base / 2.0).hypot(height);
                (base * height / leg.max(base)).min(base).min(height)
            }
            ShapeSpec::Polygon { across, .. } | ShapeSpec::D { across, .. } => across,
            ShapeSpec::Keyhole { slot, .. } => slot,
            ShapeSpec::Outline { ref contour } => contour.bounds().size().min_element(),
        }
    }

    /// As it is written beside it: `⌀9`, `slot 40 × 9`.
    pub fn mark(&self, display: &Display) -> String {
        let n = |v: f64| display.brief(v);
        let rounded = |corner: f64| if corner > 0.0 { format!(" R{}", n(corner)) } else { String::new() };
        match *self {
            ShapeSpec::Round { diameter } => format!("⌀{}", n(diameter)),
            ShapeSpec::Square { side, corner } => format!("□{}{}", n(side), rounded(corner)),
            ShapeSpec::Rectangle { width, height, corner } => {
                format!("{} × {}{}", n(width), n(height), rounded(corner))
            }
            ShapeSpec::Slot { told, width, centres } => {
                format!("slot {}{} × {}", n(told), if centres { " c/c" } else { "" }, n(width))
            }
            ShapeSpec::Triangle { base, height } => format!("triangle {} × {}", n(base), n(height)),
            ShapeSpec::Polygon { sides, across } => format!("{sides}-sided {}", n(across)),
            ShapeSpec::Keyhole { entry, slot, length } => {
                format!("keyhole ⌀{} / {} × {}", n(entry), n(slot), n(length))
            }
            ShapeSpec::D { diameter, across } => format!("D ⌀{}, {} across", n(diameter), n(across)),
            ShapeSpec::Outline { .. } => "cut-out".into(),
        }
    }
}

/// A box about the origin.
pub fn upright(width: f64, height: f64) -> Contour {
    let half = DVec2::new(width, height) / 2.0;
    Contour::rectangle(-half, half, 0).retagged(0)
}

/// A box with its corners rounded.
fn rounded(sharp: Contour, corner: f64) -> Contour {
    if corner <= 0.0 {
        return sharp;
    }
    let most = sharp.bounds().size().min_element() / 2.0;
    let picks: Vec<(usize, f64)> = (0..sharp.vertices.len()).map(|i| (i, corner.min(most))).collect();
    fillet(&sharp, &picks).without_short_sides()
}

/// A circle of radius `r` with its flat `across` below the north end.
fn d_hole(r: f64, across: f64) -> Contour {
    let y = r - across;
    let half = (r * r - y * y).sqrt();
    let v = |x: f64, y: f64, bulge: f64| Vertex { p: DVec2::new(x, y), bulge, tag: 0 };
    let quarter = |from: f64, to: f64| ((to - from) / 4.0).tan();
    let start = y.atan2(half);
    let turn = quarter(start, TAU / 4.0);
    Contour { vertices: vec![v(half, y, turn), v(0.0, r, turn), v(-half, y, 0.0)] }
}

/// A circle of radius `e` at the origin with a slot of half width `w` reaching `l` north.
fn keyhole(e: f64, w: f64, l: f64) -> Contour {
    let y = (e * e - w * w).sqrt();
    let v = |x: f64, y: f64, bulge: f64| Vertex { p: DVec2::new(x, y), bulge, tag: 0 };
    // From the slot's west side counter-clockwise round the entry to its east side, in two arcs.
    let from = y.atan2(-w);
    let sweep = TAU - (from - y.atan2(w));
    let half = (sweep / 8.0).tan();
    let mut out = vec![v(-w, y, half), v(0.0, -e, half), v(w, y, 0.0), v(w, l - w, 1.0), v(-w, l - w, 0.0)];
    if l - w - y < ROUNDING {
        out = vec![v(-w, y, half), v(0.0, -e, half), v(w, y, 1.0)];
    }
    Contour { vertices: out }
}

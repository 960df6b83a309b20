//! Holes that a drill makes: blind, countersunk, counterbored, spot-faced, tapped, and for a screw. What of
//! them goes through the sheet is cut as any hole is; the rest is a body of revolution below one face.

use std::f64::consts::PI;

use ground::geom::{COINCIDENT, Contour};
use ground::quantity::Display;
use shop::threads::{Screw, Thread};

/// What is drilled; lengths in mm, angles in rad.
#[derive(Clone, Debug, PartialEq)]
pub struct Bore {
    pub kind: BoreKind,
    /// Of the drill: the hole itself, or the tap drill.
    pub diameter: f64,
    /// Of the full diameter; none where it goes through.
    pub depth: Option<f64>,
    /// Whole angle of the drill's point; 180° for a flat bottom.
    pub point: f64,
    pub mouth: Option<Mouth>,
    /// From the back: the face that the flat does not show.
    pub back: bool,
    /// The screw that it was told for.
    pub screw: Option<&'static Screw>,
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub enum BoreKind {
    Clearance,
    Blind,
    Countersunk,
    Counterbored,
    SpotFaced,
    /// Of the thread its depth; none where it goes through.
    Tapped {
        thread: &'static Thread,
        depth: Option<f64>,
    },
}

/// A wider beginning of a hole.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Mouth {
    /// At the face.
    pub diameter: f64,
    /// How deep it stays as wide; nothing for a cone that begins at the face.
    pub flat: f64,
    /// Whole angle of its cone; 180° for a flat floor.
    pub angle: f64,
}

impl Mouth {
    /// How deep it goes round a hole.
    pub fn depth(&self, hole: f64) -> f64 {
        self.flat + cone(self.diameter - hole, self.angle)
    }
}

/// Height of a cone that narrows by so much, over its whole angle.
fn cone(narrows: f64, angle: f64) -> f64 {
    narrows / 2.0 / (angle / 2.0).tan()
}

impl Bore {
    pub fn through(&self) -> bool {
        self.depth.is_none()
    }

    /// Nothing more than a hole through the sheet.
    pub fn is_plain(&self) -> bool {
        self.through() && self.mouth.is_none()
    }

    /// The widest it is anywhere.
    pub fn widest(&self) -> f64 {
        self.mouth.map_or(self.diameter, |m| m.diameter)
    }

    /// How far from its face it takes anything, the point of the drill with it; none where it goes through.
    pub fn reach(&self) -> Option<f64> {
        self.depth.map(|d| d + cone(self.diameter, self.point))
    }

    /// Radius and distance from its face, from the face inwards, in a sheet so thick; ends at the far face
    /// or, blind, in the middle. What would come out of the far face ends there.
    pub fn profile(&self, t: f64) -> Vec<(f64, f64)> {
        let r = self.diameter / 2.0;
        let mut out = Vec::new();
        if let Some(m) = self.mouth {
            out.push((m.diameter / 2.0, 0.0));
            if m.flat > COINCIDENT {
                out.push((m.diameter / 2.0, m.flat));
            }
            out.push((r, m.depth(self.diameter)));
        } else {
            out.push((r, 0.0));
        }
        match (self.depth, self.reach()) {
            (Some(depth), Some(reach)) => out.extend([(r, depth), (0.0, reach)]),
            _ => out.push((r, t)),
        }
        out.dedup_by(|b, a| (a.0 - b.0).abs() < COINCIDENT && (a.1 - b.1).abs() < COINCIDENT);
        ended(out, t)
    }

    /// Metal that it takes beside what is cut through the sheet, mm³.
    pub fn taken(&self, t: f64) -> f64 {
        let solid: f64 = self
            .profile(t)
            .windows(2)
            .map(|w| {
                let ((a, from), (b, to)) = (w[0], w[1]);
                PI / 3.0 * (a * a + a * b + b * b) * (to - from)
            })
            .sum();
        let r = self.diameter / 2.0;
        if self.through() { solid - PI * r * r * t } else { solid }
    }

    /// Radius at a distance from the front of a sheet so thick; nothing where it has none.
    pub fn radius_at(&self, from_front: f64, t: f64) -> f64 {
        let z = if self.back { t - from_front } else { from_front };
        let profile = self.profile(t);
        let within = |w: &[(f64, f64)]| {
            let ((a, from), (b, to)) = (w[0], w[1]);
            let inside = z > from - COINCIDENT && z < to + COINCIDENT;
            inside.then(|| {
                if to - from < COINCIDENT { a.max(b) } else { a + (b - a) * (z - from) / (to - from) }
            })
        };
        profile.windows(2).filter_map(within).fold(0.0, f64::max)
    }

    /// What it covers of the sheet, seen from above.
    pub fn footprint(&self, through: &Contour, centre: glam::DVec2) -> Contour {
        if self.widest() > self.diameter + COINCIDENT {
            Contour::circle(centre, self.widest() / 2.0, 0)
        } else {
            through.clone()
        }
    }

    /// The depth that a drawing tells: of the thread, or of the hole; none where it goes through.
    pub fn told_depth(&self) -> Option<f64> {
        match self.kind {
            BoreKind::Tapped { depth, .. } => depth,
            _ => self.depth,
        }
    }

    /// What the trade calls it.
    pub fn name(&self) -> &'static str {
        match self.kind {
            BoreKind::Clearance => "clearance hole",
            BoreKind::Blind => "blind hole",
            BoreKind::Countersunk => "countersunk hole",
            BoreKind::Counterbored => "counterbored hole",
            BoreKind::SpotFaced => "spot-faced hole",
            BoreKind::Tapped { .. } => "tapped hole",
        }
    }

    /// What is made and from which side, as short as a drawing says it: `M8 × 12, back`.
    pub fn mark(&self, d: &Display) -> String {
        self.size(d) + if self.back { ", back" } else { "" }
    }

    /// `M8 × 12`, `⌀5.5 csk ⌀11.2 × 90°`.
    pub fn size(&self, d: &Display) -> String {
        let n = |v: f64| d.exact(v);
        let mut out = match self.kind {
            BoreKind::Tapped { thread, depth } => {
                let deep = depth.map_or_else(String::new, |v| format!(" × {}", n(v)));
                format!("{}{deep}", thread.size)
            }
            _ => format!("⌀{}", n(self.diameter)),
        };
        if let (BoreKind::Blind, Some(depth)) = (self.kind, self.depth) {
            out += &format!(" × {}", n(depth));
        }
        if let Some(m) = self.mouth {
            let (word, size) = match self.kind {
                BoreKind::Countersunk => ("csk", d.angle(m.angle)),
                BoreKind::SpotFaced => ("spot face", n(m.flat)),
                _ => ("cbore", n(m.flat)),
            };
            out += &format!(" {word} ⌀{} × {size}", n(m.diameter));
        }
        out
    }

    /// The whole of it: `tapped hole M8 × 12, drill ⌀6.8 × 15.8, 118° point, from the back`.
    pub fn said(&self, d: &Display) -> String {
        self.told(d) + if self.back { ", from the back" } else { "" }
    }

    /// The same without its side.
    pub fn told(&self, d: &Display) -> String {
        let n = |v: f64| d.exact(v);
        let mut out = format!("{} {}", self.name(), self.size(d));
        if let BoreKind::Tapped { .. } = self.kind {
            out += &format!(", drill ⌀{}", n(self.diameter));
            if let Some(depth) = self.depth {
                out += &format!(" × {}", n(depth));
            }
        }
        if !self.through() {
            out += &if self.point > PI - COINCIDENT {
                ", flat bottom".to_string()
            } else {
                format!(", {} point", d.angle(self.point))
            };
        }
        if let Some(screw) = self.screw {
            out += &format!(", for {}", screw.size);
        }
        out
    }
}

/// A profile that ends at the far face.
fn ended(profile: Vec<(f64, f64)>, t: f64) -> Vec<(f64, f64)> {
    let mut out: Vec<(f64, f64)> = Vec::with_capacity(profile.len());
    for p in profile {
        match out.last() {
            Some(last) if p.1 > t => {
                let share = (t - last.1) / (p.1 - last.1);
                out.push((last.0 + (p.0 - last.0) * share, t));
                return out;
            }
            _ => out.push(p),
        }
    }
    out
}

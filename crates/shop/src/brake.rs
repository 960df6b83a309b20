//! The press brake: its tools, the V that a thickness wants, the radius and force of an air bend. Lengths mm,
//! forces kN, angles rad. All of it common practice: the plates on the shop's own machine and tools come
//! first.

use std::f64::consts::{FRAC_PI_2, PI};

use super::Material;
use super::limits::{Limit, v_opening};

const PRACTICE: &str = "common practice";

/// The brake that bends are checked against.
#[derive(Clone, Debug, PartialEq)]
pub struct BrakeOf {
    pub force: f64,
    pub length: f64,
    /// Rising.
    pub openings: Vec<f64>,
    pub tools: Tools,
    /// Nobody has told a brake: usual figures.
    pub assumed: bool,
}

impl Default for BrakeOf {
    fn default() -> Self {
        let openings = vec![6.0, 8.0, 10.0, 12.0, 16.0, 20.0, 24.0, 32.0, 40.0, 50.0, 63.0, 80.0, 100.0];
        BrakeOf { force: 1000.0, length: 3000.0, openings, tools: Tools::default(), assumed: true }
    }
}

/// The tools, by their sections. Beam and bed run along the whole machine; punch and die are made up to the
/// length of the bend.
#[derive(Clone, Debug, PartialEq)]
pub struct Tools {
    /// From the tip to the beam, with its holder.
    pub punch_height: f64,
    pub punch_thickness: f64,
    /// Included.
    pub punch_angle: f64,
    pub beam_thickness: f64,
    /// None where the shop tells none: 60, or one and a half openings for a wide V.
    pub die_height: Option<f64>,
    /// Of the V, included.
    pub die_angle: f64,
    /// Beside the V, on either side.
    pub die_shoulder: f64,
    pub bed_thickness: f64,
    /// Of the stop's face above the die.
    pub stop_height: f64,
    /// The furthest that the stop stands from the middle of the V.
    pub stop_reach: f64,
    /// What of a bend may stay without punch at either end; none: 10 t, at least 10 mm. Never more than 15 %
    /// of the bend.
    pub unsupported: Option<f64>,
}

impl Default for Tools {
    fn default() -> Self {
        Tools {
            punch_height: 160.0,
            punch_thickness: 24.0,
            punch_angle: 30f64.to_radians(),
            beam_thickness: 80.0,
            die_height: None,
            die_angle: 30f64.to_radians(),
            die_shoulder: 10.0,
            bed_thickness: 120.0,
            stop_height: 30.0,
            stop_reach: 600.0,
            unsupported: None,
        }
    }
}

/// A figure of the tools where nobody tells it, in a job of mm and in one of inches.
pub struct UsualTool {
    /// Its name in `brake.tools`.
    pub field: &'static str,
    pub mm: String,
    pub inch: String,
}

/// Every figure of the tools, in the order they are told.
pub fn usual_tools() -> Vec<UsualTool> {
    use ground::quantity::trim_number;
    let usual = Tools::default();
    let length = |field, v: f64| UsualTool { field, mm: trim_number(v, 1), inch: trim_number(v / 25.4, 3) };
    let same = |field, text: String| UsualTool { field, mm: text.clone(), inch: text };
    let angle = |field, v: f64| same(field, trim_number(v.to_degrees(), 1));
    vec![
        length("punch_height", usual.punch_height),
        length("punch_thickness", usual.punch_thickness),
        angle("punch_angle", usual.punch_angle),
        length("beam_thickness", usual.beam_thickness),
        // 60 mm, or 1.5 V if wide.
        same("die_height", "by the V".into()),
        angle("die_angle", usual.die_angle),
        length("die_shoulder", usual.die_shoulder),
        length("bed_thickness", usual.bed_thickness),
        length("stop_height", usual.stop_height),
        length("stop_reach", usual.stop_reach),
        same("unsupported", "10 t".into()),
    ]
}

/// The most of a bend that may stay without punch at either end, as a share of it.
const MOST_UNSUPPORTED: f64 = 0.15;

impl Tools {
    pub fn die_height(&self, v: f64) -> f64 {
        self.die_height.unwrap_or_else(|| (1.5 * v).max(60.0))
    }

    /// The furthest that punch and die bend.
    pub fn most_angle(&self) -> f64 {
        PI - self.punch_angle.max(self.die_angle)
    }

    /// What of a bend this long may stay without punch at either end.
    pub fn unsupported(&self, t: f64, length: f64) -> f64 {
        self.unsupported.unwrap_or_else(|| (10.0 * t).max(10.0)).min(MOST_UNSUPPORTED * length)
    }
}

impl BrakeOf {
    /// The die on the rack nearest to what the thickness wants.
    pub fn opening(&self, t: f64) -> f64 {
        let wanted = v_opening(t).value;
        let apart = |v: &f64| (v / wanted).ln().abs();
        self.openings.iter().copied().min_by(|a, b| apart(a).total_cmp(&apart(b))).unwrap_or(wanted)
    }
}

/// From and to: the openings that bend a thickness well. The smallest V of all is 6.
pub fn suited(t: f64) -> (f64, f64) {
    (5.0 * t, (12.0 * t).max(6.0))
}

/// Inside radius that air bending over a V opening gives.
pub fn air_radius(material: &Material, v: f64) -> Limit {
    let factor = match material.family.as_str() {
        f if f.contains("stainless") => 0.21,
        f if f.contains("aluminium") => 0.14,
        _ => 0.16,
    };
    Limit { value: factor * v, rule: format!("air bending forms about {factor} V inside"), source: PRACTICE }
}

/// Force to air-bend this length: F = (1 + 4 t/V)·Rm·L·t²/V.
pub fn force(strength: f64, t: f64, v: f64, length: f64) -> f64 {
    (1.0 + 4.0 * t / v) * strength * length * t * t / v / 1000.0
}

/// What stands under every bend sheet, on the screen and on paper.
pub const NOTES: [&str; 2] = [
    "The stop from the middle of the bend; the outside length is measured after bending.",
    "Two hands clear of punch and gauge, nobody on the gauge side. Forces and tools by common practice: the \
        brake's own plate, the guards and the \
     local rules come first.",
];

/// A bend past this is folded acute in one stroke and pressed flat in another, rad.
pub const CLOSED: f64 = 170.0 * PI / 180.0;

/// It is folded at least this far before it is pressed flat, rad.
pub const HEM_FIRST: f64 = 2.0 * std::f64::consts::FRAC_PI_3;

/// Pressing a fold flat takes this many times its air bend over the usual V.
pub const FLATTENING: f64 = 4.0;

/// The shortest flange over a V, told outside: it must reach the shoulder of the die when the bend is made.
/// 0.7 V up to 90°; beyond, the leg stands steeper and must be longer, by cos 45° / cos(α/2).
pub fn shortest_flange(v: f64, angle: f64) -> Limit {
    let angle = angle.min(150f64.to_radians());
    let steep = if angle > FRAC_PI_2 { (FRAC_PI_2 / 2.0).cos() / (angle / 2.0).cos() } else { 1.0 };
    let n = |x: f64| ground::quantity::trim_number(x, 2);
    Limit {
        value: 0.7 * v * steep,
        rule: format!("shortest flange about {} V at this angle, V = {} mm", n(0.7 * steep), n(v)),
        source: PRACTICE,
    }
}

/// Tolerances of a bend unless the shop says better: of the angle (rad) and of the bent length.
pub fn tolerance(t: f64) -> (f64, f64) {
    (1f64.to_radians(), if t <= 3.0 { 0.5 } else { 1.0 })
}

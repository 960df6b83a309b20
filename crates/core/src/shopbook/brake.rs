//! The press brake: V openings, the radius that air bending gives, force, and the shortest flange. Lengths mm, forces kN.

use super::Material;
use super::limits::{Limit, v_opening};

/// The brake that bends are checked against.
#[derive(Clone, Debug, PartialEq)]
pub struct BrakeOf {
    pub force: f64,
    pub length: f64,
    /// Rising.
    pub openings: Vec<f64>,
    /// Nobody has told a brake: usual figures.
    pub assumed: bool,
}

impl Default for BrakeOf {
    fn default() -> Self {
        let openings = vec![6.0, 8.0, 10.0, 12.0, 16.0, 20.0, 24.0, 32.0, 40.0, 50.0, 63.0, 80.0, 100.0];
        BrakeOf { force: 1000.0, length: 3000.0, openings, assumed: true }
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

/// Inside radius that air bending over a V opening gives.
pub fn air_radius(material: &Material, v: f64) -> Limit {
    let factor = match material.family.as_str() {
        f if f.contains("stainless") => 0.21,
        f if f.contains("aluminium") => 0.14,
        _ => 0.16,
    };
    Limit { value: factor * v, rule: format!("air bending forms about {factor} V inside"), source: "common practice" }
}

/// Force to air-bend this length: F = (1 + 4 t/V)·Rm·L·t²/V.
pub fn force(strength: f64, t: f64, v: f64, length: f64) -> f64 {
    (1.0 + 4.0 * t / v) * strength * length * t * t / v / 1000.0
}

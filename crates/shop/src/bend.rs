//! Bend schools: how much flat length a bend takes. All lengths mm, angles radians; the angle is the one
//! swept (90° for a square flange).

use ground::geom::ROUNDING;
use std::f64::consts::{FRAC_PI_2, PI};

use serde::{Deserialize, Serialize};

use super::Material;

/// Which rule gives the allowance.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum BendMethod {
    #[default]
    #[serde(rename = "din6935")]
    Din6935,
    #[serde(rename = "k_factor")]
    KFactor,
    #[serde(rename = "handbook90")]
    Handbook90,
    /// The shop's own table.
    #[serde(rename = "table")]
    Table,
    /// The K of a logged test bend.
    #[serde(rename = "test_bend")]
    TestBend,
}

impl BendMethod {
    pub const ALL: [BendMethod; 5] = [
        BendMethod::Din6935,
        BendMethod::KFactor,
        BendMethod::Handbook90,
        BendMethod::Table,
        BendMethod::TestBend,
    ];

    pub fn said(self) -> &'static str {
        match self {
            BendMethod::Din6935 => "DIN 6935",
            BendMethod::KFactor => "K-factor",
            BendMethod::Handbook90 => "handbook 90°",
            BendMethod::Table => "bend table",
            BendMethod::TestBend => "test bend",
        }
    }
}

/// The school picked for a job, a piece or a bend.
#[derive(Clone, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BendRule {
    pub school: BendMethod,
    /// The K-factor, as typed; only the K-factor school reads it.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub k: String,
    /// Id of the test bend; only that school reads it. Empty means the one logged for this material and
    /// thickness.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub test: String,
}

/// Material class of the handbook 90° rule.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Handbook {
    /// Soft brass and copper: 0.55 t.
    Soft,
    /// Half-hard copper and brass, soft steel, aluminium: 0.64 t.
    HalfHard,
    /// Bronze, hard copper, cold-rolled and spring steel: 0.71 t.
    Hard,
}

impl Handbook {
    pub fn factor(self) -> f64 {
        match self {
            Handbook::Soft => 0.55,
            Handbook::HalfHard => 0.64,
            Handbook::Hard => 0.71,
        }
    }
}

/// What a school says of one bend.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Allowance {
    /// Arc length in the flat.
    pub length: f64,
    /// The neutral factor this amounts to: (length/α − r)/t.
    pub k: f64,
    pub rule: String,
    pub source: String,
    pub formula: String,
    pub filled: String,
    pub assumption: Option<String>,
}

/// The school with its K worked out.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum AllowanceRule {
    Din6935,
    /// K, and whether the shop gave it.
    KFactor(f64, bool),
    Handbook90,
    /// Bent so wide (r/t ≥ 5) that the middle stays neutral.
    Rolled,
}

/// Where the neutral line of a bend can lie at all, and where it lies in ordinary bending: one rule for every
/// school.
pub const K_POSSIBLE: std::ops::RangeInclusive<f64> = -0.2..=0.8;
pub const K_USUAL: std::ops::RangeInclusive<f64> = 0.0..=0.5;

/// K where the job gives none (common practice for air-bent mild steel).
pub const USUAL_K: f64 = 0.44;

/// Setback from the tangent line to where a length told from this face ends: to the virtual sharp up to 90°,
/// to the outermost tangent beyond.
/// `radius` is that of the face: r inside, r + t/2 middle, r + t outside.
pub fn setback(radius: f64, angle: f64) -> f64 {
    if angle <= FRAC_PI_2 + ROUNDING { radius * (angle / 2.0).tan() } else { radius }
}

/// DIN 6935 correction factor k, twice the neutral factor.
pub fn din_k(r: f64, t: f64) -> f64 {
    if r / t > 5.0 { 1.0 } else { din_unheld(r, t).clamp(0.0, 1.0) }
}

/// The same before it is held at zero, which it falls below where r/t is less than 10^−1.3, about 0.05.
fn din_unheld(r: f64, t: f64) -> f64 {
    0.65 + 0.5 * (r / t).max(1e-12).log10()
}

/// Flat length that a bend of `angle` at inside radius `r` in thickness `t` takes.
pub fn allowance(method: AllowanceRule, material: &Material, angle: f64, r: f64, t: f64) -> Allowance {
    let deg = angle.to_degrees();
    let from_k = |k: f64| angle * (r + k * t);
    let n = |v: f64| ground::quantity::trim_number(v, 4);
    match method {
        AllowanceRule::KFactor(k, given) => {
            let length = from_k(k);
            Allowance {
                length,
                k,
                rule: "Bend allowance by K-factor".into(),
                source: "arc length of the neutral line (geometry)".into(),
                formula: "BA = α·π/180·(r + K·t)".into(),
                filled: format!("{}·π/180·({} + {}·{}) = {}", n(deg), n(r), n(k), n(t), n(length)),
                assumption: (!given)
                    .then(|| format!("K = {k} is common practice; no test bend stands behind it")),
            }
        }
        AllowanceRule::Rolled => {
            let length = from_k(0.5);
            Allowance {
                length,
                k: 0.5,
                rule: "Rolled: the middle of the sheet keeps its length".into(),
                source: "geometry; K tends to 0.5 as r/t grows (common practice from r/t = 5)".into(),
                formula: "BA = α·π/180·(r + t/2)".into(),
                filled: format!("{}·π/180·({} + {}/2) = {}", n(deg), n(r), n(t), n(length)),
                assumption: None,
            }
        }
        AllowanceRule::Din6935 => {
            let k = din_k(r, t);
            let opening = 180.0 - deg;
            let (length, formula, filled) = if opening > 165.0 {
                let length = 2.0 * setback(r + t, angle);
                (
                    length,
                    "β > 165°: v = 0, BA = 2·OSSB".to_string(),
                    format!("β = {}°: BA = {}", n(opening), n(length)),
                )
            } else {
                let length = PI * (180.0 - opening) / 180.0 * (r + k * t / 2.0);
                let v = length - 2.0 * setback(r + t, angle);
                let k_said = if r / t > 5.0 {
                    "k = 1 (r/t > 5)".to_string()
                } else if r <= 0.0 {
                    "k = 0, held there (no radius)".to_string()
                } else if k == 0.0 {
                    format!(
                        "k = 0, held there (0.65 + 0.5·log10({}/{}) = {})",
                        n(r),
                        n(t),
                        n(din_unheld(r, t))
                    )
                } else {
                    format!("k = 0.65 + 0.5·log10({}/{}) = {}", n(r), n(t), n(k))
                };
                (
                    length,
                    "v = π·(180° − β)/180°·(r + k·t/2) − 2·OSSB, BA = v + 2·OSSB".to_string(),
                    format!(
                        "{k_said}; BA = π·{}/180·({} + {}·{}/2) = {}; v = {}",
                        n(deg),
                        n(r),
                        n(k),
                        n(t),
                        n(length),
                        n(v)
                    ),
                )
            };
            let held = k == 0.0 && opening <= 165.0;
            Allowance {
                length,
                k: (length / angle - r) / t,
                rule: "Compensation by DIN 6935".into(),
                source: "DIN 6935 (cold bending of flat rolled steel)".into(),
                formula,
                filled,
                assumption: held
                    .then(|| "k is held at 0: DIN 6935 says nothing of a radius below 0.05 t".to_string()),
            }
        }
        AllowanceRule::Handbook90 => {
            let factor = material.handbook.map_or(0.64, Handbook::factor);
            let length = (1.57 * r + factor * t) * deg / 90.0;
            Allowance {
                length,
                k: (length / angle - r) / t,
                rule: "Handbook rule for 90° bends".into(),
                source: "Machinery's Handbook, lengths of bends in sheet metal".into(),
                formula: format!("BA = (1.57·r + {factor}·t)·α/90"),
                filled: format!("(1.57·{} + {factor}·{})·{}/90 = {}", n(r), n(t), n(deg), n(length)),
                assumption: match (material.handbook, (deg - 90.0).abs() > 0.01) {
                    (None, _) => Some(
                        "the handbook does not speak of this material; the soft-steel factor is used".into(),
                    ),
                    (_, true) => Some("told for 90°; other angles in proportion (from memory)".into()),
                    _ => None,
                },
            }
        }
    }
}

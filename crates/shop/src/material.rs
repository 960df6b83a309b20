//! The material shelf, read from `data/materials.csv`.

use std::sync::{Arc, OnceLock};

use serde::{Deserialize, Serialize};

use super::bend::Handbook;
use super::gauge::Series;

/// How the smallest inside radius of a material is found.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum RadiusRule {
    /// EN 10025-2 cold flanging, S235.
    En10025S235,
    /// EN 10025-2 cold flanging, S355.
    En10025S355,
    /// This many thicknesses (common practice).
    Factor(f64),
    /// Not a metal to be bent cold.
    NotBent,
}

/// What it is, as far as its rules go.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Stuff {
    /// Punched, cut and welded.
    #[default]
    Metal,
    Plastic,
    /// Thin plastic that hands fold.
    Film,
    /// Sawn and drilled.
    Wood,
}

/// How it is bent.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Bent {
    /// At a brake.
    #[default]
    Cold,
    /// Over a heated line.
    Hot,
    /// Cut part way through along the bend.
    Scored,
    ByHand,
    Not,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Material {
    pub id: String,
    pub name: String,
    pub family: String,
    /// kg/m³.
    pub density: f64,
    /// Tensile strength, MPa, the lowest that its standard allows: for press forces only.
    pub strength: f64,
    /// The highest; for the force that a machine must give.
    pub upper_strength: f64,
    /// Class of the handbook 90° rule; none where the rule does not speak of the material.
    pub handbook: Option<Handbook>,
    pub radius: RadiusRule,
    /// The gauge series that sells this material by number.
    pub gauge: Option<Series>,
    pub stuff: Stuff,
    pub bent: Bent,
    /// Of a kilogram, in the shop's money; none where it is not told.
    pub cost: Option<f64>,
    pub source: String,
}

impl Material {
    /// Metals are welded; the others are glued, screwed or riveted.
    pub fn is_welded(&self) -> bool {
        self.stuff == Stuff::Metal
    }
}

/// Every material, in the order of the shelf.
pub fn materials() -> &'static [Arc<Material>] {
    static SHELF: OnceLock<Vec<Arc<Material>>> = OnceLock::new();
    SHELF.get_or_init(|| {
        include_str!("../data/materials.csv").lines().skip(1).filter_map(read).map(Arc::new).collect()
    })
}

fn read(line: &str) -> Option<Material> {
    let f: Vec<&str> = line.splitn(12, ',').collect();
    let [id, name, family, density, strength, upper, handbook, radius, gauge, stuff, bent, source] = f[..]
    else {
        return None;
    };
    Some(Material {
        id: id.into(),
        name: name.into(),
        family: family.into(),
        density: density.parse().ok()?,
        strength: strength.parse().ok()?,
        upper_strength: if upper.is_empty() { strength } else { upper }.parse().ok()?,
        handbook: match handbook {
            "soft" => Some(Handbook::Soft),
            "half hard" | "soft steel" => Some(Handbook::HalfHard),
            "hard" => Some(Handbook::Hard),
            _ => None,
        },
        radius: match radius {
            "en10025" => RadiusRule::En10025S235,
            "en10025-355" => RadiusRule::En10025S355,
            "none" => RadiusRule::NotBent,
            factor => RadiusRule::Factor(factor.strip_prefix("factor ")?.parse().ok()?),
        },
        gauge: match gauge {
            "manufacturers" => Some(Series::Manufacturers),
            "galvanised" => Some(Series::Galvanised),
            "stainless" => Some(Series::Stainless),
            "brown-sharpe" => Some(Series::BrownSharpe),
            _ => None,
        },
        stuff: match stuff {
            "metal" => Stuff::Metal,
            "plastic" => Stuff::Plastic,
            "film" => Stuff::Film,
            "wood" => Stuff::Wood,
            _ => return None,
        },
        bent: match bent {
            "cold" => Bent::Cold,
            "hot" => Bent::Hot,
            "scored" => Bent::Scored,
            "by hand" => Bent::ByHand,
            "no" => Bent::Not,
            _ => return None,
        },
        cost: None,
        source: source.into(),
    })
}

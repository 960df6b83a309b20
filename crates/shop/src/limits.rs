//! The limits of sheet work: smallest radii, V openings, shortest flanges, hole and web sizes. Lengths mm.

use super::Material;
use super::material::{RadiusRule, Stuff};
use ground::geom::{COINCIDENT, ROUNDING};

/// A limit, the rule in words and where it comes from.
#[derive(Clone, Debug, PartialEq)]
pub struct Limit {
    pub value: f64,
    pub rule: String,
    pub source: &'static str,
}

const PRACTICE: &str = "common practice";

/// EN 10025-2, recommended smallest inside radii for cold flanging, bend line transverse to rolling: (up to
/// t, S235, S355). From memory.
const FLANGING: [(f64, f64, f64); 10] = [
    (1.5, 1.6, 2.5),
    (2.5, 2.5, 4.0),
    (3.0, 3.0, 5.0),
    (4.0, 5.0, 6.0),
    (5.0, 6.0, 8.0),
    (6.0, 8.0, 10.0),
    (7.0, 10.0, 12.0),
    (8.0, 12.0, 16.0),
    (10.0, 16.0, 20.0),
    (12.0, 20.0, 25.0),
];

/// Smallest inside radius; `None` for materials that are not bent cold.
pub fn smallest_radius(material: &Material, t: f64) -> Option<Limit> {
    let flanging = |pick: fn(&(f64, f64, f64)) -> f64| {
        let row = FLANGING.iter().find(|row| t <= row.0 + ROUNDING);
        let value = row.map_or(t * 2.0, pick);
        Limit {
            value,
            rule: "smallest inside radius for cold flanging, across the rolling".into(),
            source: "EN 10025-2 (from memory)",
        }
    };
    match material.radius {
        RadiusRule::NotBent => None,
        RadiusRule::En10025S235 => Some(flanging(|row| row.1)),
        RadiusRule::En10025S355 => Some(flanging(|row| row.2)),
        RadiusRule::Factor(f) => Some(Limit {
            value: f * t,
            rule: format!("smallest inside radius about {f} t"),
            source: PRACTICE,
        }),
    }
}

/// The same for a bend line along the rolling: from 4 mm up one step of the table larger (EN 10025-2, from
/// memory), for other materials by half (common practice).
pub fn smallest_radius_along(material: &Material, t: f64) -> Option<Limit> {
    let across = smallest_radius(material, t)?;
    let step = |pick: fn(&(f64, f64, f64)) -> f64| {
        let i = FLANGING.iter().position(|row| t <= row.0 + ROUNDING)?;
        FLANGING.get(i + 1).map(pick)
    };
    let value = match material.radius {
        RadiusRule::Factor(_) => Some(across.value * 1.5),
        _ if t < 4.0 - ROUNDING => None,
        RadiusRule::En10025S355 => step(|row| row.2),
        _ => step(|row| row.1),
    };
    let rule = across.rule.replace("across the rolling", "along the rolling");
    let rule = if matches!(material.radius, RadiusRule::Factor(_)) {
        format!("{rule}, half as much again along the rolling")
    } else {
        rule
    };
    Some(Limit { value: value.unwrap_or(across.value), rule, source: across.source })
}

/// The V opening an air bend of this thickness is made over.
pub fn v_opening(t: f64) -> Limit {
    let factor = if t < 3.0 {
        6.0
    } else if t <= 10.0 {
        8.0
    } else {
        10.0
    };
    Limit { value: factor * t, rule: format!("V opening about {factor} t"), source: PRACTICE }
}

/// How far a hole or slot must stay from the tangent line of a bend. `along` is its extent along the bend,
/// `across` the other way.
pub fn hole_to_bend(t: f64, along: f64, across: f64) -> Limit {
    let slot = along > across + COINCIDENT && along > 3.0 * t;
    let factor = match along {
        _ if !slot => 2.0,
        a if a <= 25.0 => 2.5,
        a if a <= 50.0 => 3.0,
        _ => 4.0,
    };
    let what = if slot { "slot" } else { "hole" };
    Limit {
        value: factor * t,
        rule: format!("{what} edge to tangent line at least {factor} t"),
        source: PRACTICE,
    }
}

/// The smallest opening that cuts or punches cleanly; what is drilled has none.
pub fn smallest_hole(material: &Material, t: f64) -> Option<Limit> {
    let limit = |value, rule: &str| Some(Limit { value, rule: rule.into(), source: PRACTICE });
    match material.stuff {
        Stuff::Metal => limit(t, "hole at least one thickness wide"),
        Stuff::Plastic => {
            limit((t / 2.0).max(1.0), "hole in plastic at least half a thickness wide, 1 mm or more")
        }
        Stuff::Film | Stuff::Wood => None,
    }
}

/// Material between two holes, the narrower of them so wide.
pub fn web_between(material: &Material, t: f64, width: f64) -> Limit {
    let (value, rule) = match material.stuff {
        Stuff::Metal => (t, "web between holes at least one thickness"),
        Stuff::Plastic => {
            (t.max(width), "web between holes in plastic at least one thickness and one diameter: it cracks")
        }
        Stuff::Film => (1.0, "web between holes in film at least 1 mm"),
        Stuff::Wood => (width, "web between holes in wood at least one diameter: it splits"),
    };
    Limit { value, rule: rule.into(), source: PRACTICE }
}

/// Material between a hole so wide and the edge.
pub fn hole_to_edge(material: &Material, t: f64, width: f64) -> Limit {
    let (value, rule) = match material.stuff {
        Stuff::Metal => (1.5 * t, "hole to edge at least 1.5 t"),
        Stuff::Plastic => {
            ((1.5 * t).max(width), "hole in plastic to edge at least 1.5 t and one diameter: it cracks")
        }
        Stuff::Film => (1.0, "hole in film to edge at least 1 mm"),
        Stuff::Wood => (1.5 * width, "hole in wood to edge at least one and a half diameters: it splits"),
    };
    Limit { value, rule: rule.into(), source: PRACTICE }
}

/// Where a hole so wide is drilled, metal stands nearer than where it is punched or cut: 1.2 diameters from
/// its middle to the edge, 2.2 to the next (EN 1993-1-8, table 3.3).
pub fn drilled(material: &Material, of: Limit, width: f64, to_edge: bool) -> Limit {
    let (value, rule) = if to_edge {
        (0.7 * width, "edge of a plate at least 1.2 diameters from the middle of a drilled hole")
    } else {
        (1.2 * width, "middles of drilled holes at least 2.2 diameters apart")
    };
    if material.stuff != Stuff::Metal || value > of.value {
        return of;
    }
    Limit { value, rule: rule.into(), source: "EN 1993-1-8, table 3.3 (from memory)" }
}

/// Thread that a screw of this diameter wants to hold by: its own diameter in steel, twice that in what is
/// softer.
pub fn thread_engagement(material: &Material, diameter: f64) -> Limit {
    let hard = material.stuff == Stuff::Metal && material.density > LIGHT_METAL;
    let (factor, rule) = if hard {
        (1.0, "a thread in steel holds over one diameter at least")
    } else {
        (2.0, "a thread in light metal, plastic or wood holds over two diameters at least")
    };
    Limit { value: factor * diameter, rule: rule.into(), source: PRACTICE }
}

/// Metals lighter than this are soft ones, kg/m³.
const LIGHT_METAL: f64 = 5000.0;

/// Width of a relief beside a bend that ends short of a corner.
pub fn relief_width(t: f64) -> Limit {
    Limit {
        value: t.max(1.0),
        rule: "bend relief at least one thickness wide, 1 mm or more".into(),
        source: PRACTICE,
    }
}

/// How far a relief goes past the tangent line.
pub fn relief_depth(t: f64, r: f64) -> Limit {
    Limit { value: r + t, rule: "bend relief at least r + t past the tangent line".into(), source: PRACTICE }
}

/// Usual gap between two folds that meet, to be welded or left.
pub fn corner_gap(t: f64) -> Limit {
    Limit {
        value: (t / 4.0).clamp(0.2, 1.0),
        rule: "gap between folds about t/4, 0.2 to 1 mm".into(),
        source: PRACTICE,
    }
}

/// Side or diameter of a relief where two bends meet.
pub fn corner_relief(t: f64, r: f64) -> Limit {
    Limit { value: 2.0 * (r + t), rule: "corner relief about 2·(r + t) across".into(), source: PRACTICE }
}

/// Return of a hem, told outside.
pub fn hem_return(t: f64) -> Limit {
    Limit { value: 4.0 * t, rule: "hem return at least 4 t".into(), source: PRACTICE }
}

/// Offset of a joggle that two bends can make.
pub fn joggle_height(t: f64) -> Limit {
    Limit {
        value: 2.0 * t,
        rule: "joggle of at least 2 t with two bends, else a tool".into(),
        source: PRACTICE,
    }
}

/// Room round a pressed shape: to bends, edges, cuts and other pressed shapes.
pub fn pressed_room(t: f64) -> Limit {
    Limit { value: 3.0 * t, rule: "pressed shapes keep 3 t clear".into(), source: PRACTICE }
}

/// Depth of a bead of this width.
pub fn bead_depth(width: f64, t: f64) -> Limit {
    Limit {
        value: (width / 3.0).max(t),
        rule: "bead no deeper than a third of its width".into(),
        source: PRACTICE,
    }
}

/// Depth of a dimple of this diameter.
pub fn dimple_depth(diameter: f64) -> Limit {
    Limit {
        value: 0.3 * diameter,
        rule: "dimple no deeper than 0.3 of its diameter".into(),
        source: PRACTICE,
    }
}

/// Height of a louvre.
pub fn louvre_height(t: f64) -> Limit {
    Limit { value: 6.0 * t, rule: "louvre no higher than about 6 t".into(), source: PRACTICE }
}

/// Above this a piece is not lifted by one person.
pub const HEAVY_KG: f64 = 25.0;

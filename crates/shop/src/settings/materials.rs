//! Materials of the shop's own.

use std::sync::Arc;

use ground::reader::Reader;
use ground::said;

use crate::{Bent, Material, Shelf, Stuff};

said! {
    /// A material that the book does not have.
    pub struct OwnMaterial {
        /// What pieces and frames call it; none of the book's.
        pub id: String,
        pub name: String,
        /// kg/m³.
        pub density: String,
        /// Tensile strength, MPa, for press forces; empty for none told.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub strength: String,
        /// Smallest inside radius in thicknesses; empty for one.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        /// Of a kilogram, in the shop's money; empty where costs are not told.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub cost: String,
        /// Metal is welded, plastic cracks, film folds, wood is drilled.
        #[serde(default)]
        pub stuff: Stuff,
        #[serde(default)]
        pub bent: Bent,
    }
}

/// Own materials of one job.
const MOST: usize = 100;

/// How far a delivery may be stronger than its material promises, where no standard says (common practice).
const UPPER: f64 = 1.3;

/// Those that can be used; the others are told.
pub fn read(reader: &mut Reader, told: &[OwnMaterial]) -> Shelf {
    let mut out = Shelf::default();
    if told.len() > MOST {
        reader.refuse(
            "/materials",
            "",
            format!("the job has {} materials of its own; {MOST} is the most", told.len()),
            "take some out",
        );
    }
    for (i, own) in told.iter().enumerate().take(MOST) {
        let at = |f: &str| format!("/materials/{i}/{f}");
        let id = own.id.trim();
        if id.is_empty() || id.chars().count() > 40 || id.contains(char::is_whitespace) {
            reader.refuse(
                &at("id"),
                &own.id,
                "a material is called by one word of at most 40 letters",
                "write one, such as larch",
            );
            continue;
        }
        if crate::material(id).is_some() || out.own.iter().any(|m| m.id == id) {
            reader.refuse(
                &at("id"),
                &own.id,
                format!("'{id}' is the name of another material"),
                "write another",
            );
            continue;
        }
        let mut number = |field: &str, text: &str, usual: Option<f64>, least: f64, most: f64| {
            if let Some(usual) = usual.filter(|_| text.trim().is_empty()) {
                return Some(usual);
            }
            let v = reader.number(&at(field), text)?;
            if (least..=most).contains(&v) {
                return Some(v);
            }
            reader.refuse(
                &at(field),
                text,
                format!("this is not between {least} and {most}"),
                "write a number between them",
            );
            None
        };
        let density = number("density", &own.density, None, 1.0, 25_000.0);
        let strength = number("strength", &own.strength, Some(0.0), 0.0, 3_000.0);
        let radius = number("radius", &own.radius, Some(1.0), 0.0, 100.0);
        let cost = number("cost", &own.cost, Some(0.0), 0.0, 1e9);
        let (Some(density), Some(strength), Some(radius), Some(cost)) = (density, strength, radius, cost)
        else {
            continue;
        };
        // A force from no strength would be a lie.
        if strength == 0.0 && own.bent == Bent::Cold && own.stuff == Stuff::Metal {
            reader.refuse(
                &at("strength"),
                &own.strength,
                "a metal that is bent at a brake needs its tensile strength",
                "write it in MPa, such as 360",
            );
            continue;
        }
        out.own.push(Arc::new(Material {
            id: id.into(),
            name: if own.name.trim().is_empty() {
                id.into()
            } else {
                own.name.trim().chars().take(80).collect()
            },
            family: "own".into(),
            density,
            strength,
            upper_strength: strength * UPPER,
            handbook: None,
            radius: crate::radius_rule(own.bent, radius),
            gauge: None,
            stuff: own.stuff,
            bent: own.bent,
            cost: (cost > 0.0).then_some(cost),
            source: "told in this job".into(),
        }));
    }
    out
}

//! The shop's own materials, read from the job.

use std::sync::Arc;

use super::reader::Reader;
use crate::job::Job;
use crate::quantity::FigureTable;
use crate::sheet::result::LineFault;
use crate::shopbook::{self, Bent, Material, Shelf, Stuff};

/// Own materials of one job.
const MOST: usize = 100;

/// How far a delivery may be stronger than its material promises, where no standard says (common practice).
const UPPER: f64 = 1.3;

/// Those that can be used; faults of the others.
pub fn shelf(job: &Job, table: &FigureTable) -> (Shelf, Vec<LineFault>) {
    let mut reader = Reader::new(table, job.display);
    let mut out = Shelf::default();
    if job.materials.len() > MOST {
        reader.refuse(
            "/materials",
            "",
            format!("the job has {} materials of its own; {MOST} is the most", job.materials.len()),
            "take some out",
        );
    }
    for (i, own) in job.materials.iter().enumerate().take(MOST) {
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
        if shopbook::material(id).is_some() || out.own.iter().any(|m| m.id == id) {
            reader.refuse(
                &at("id"),
                &own.id,
                format!("'{id}' is the name of another material"),
                "write another",
            );
            continue;
        }
        let mut told = |field: &str, text: &str, usual: Option<f64>, least: f64, most: f64| {
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
        let density = told("density", &own.density, None, 1.0, 25_000.0);
        let strength = told("strength", &own.strength, Some(0.0), 0.0, 3_000.0);
        let radius = told("radius", &own.radius, Some(1.0), 0.0, 100.0);
        let cost = told("cost", &own.cost, Some(0.0), 0.0, 1e9);
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
            radius: shopbook::radius_rule(own.bent, radius),
            gauge: None,
            stuff: own.stuff,
            bent: own.bent,
            cost: (cost > 0.0).then_some(cost),
            source: "told in this job".into(),
        }));
    }
    (out, reader.faults)
}

//! The formed piece: it may not run into itself.

use super::finding;
use crate::SegmentForm;
use crate::context::PieceContext;
use crate::formed::mesh::FlatMesh;
use crate::formed::overlap::overlap;
use crate::result::{Finding, Severity};

/// Holes that are looked at when a place is found without them.
const MOST_HOLES: usize = 2_000;

/// One rule for every piece, told as a profile or by folds: its solids, to a tenth of a millimetre.
pub fn check(m: &PieceContext, out: &mut Vec<Finding>) {
    let zones = &m.blank.zones;
    if zones.len() < 2 || m.overlap.is_some() {
        return;
    }
    let (mut found, mut all) = overlap(m.outline_mesh(), zones, m.t);
    // What a hole takes away is not there to be run into.
    if found.is_some() && !m.outcome.holes.is_empty() && m.outcome.holes.len() <= MOST_HOLES {
        let mesh = FlatMesh::new(&m.outcome.outer, &m.outcome.holes, &[], zones, m.t, false);
        (found, all) = overlap(&mesh, zones, m.t);
    }
    let Some(o) = found else {
        if !all {
            let message =
                "The outline has too many sides to look for places where the formed piece runs into itself"
                    .to_string();
            out.push(finding(
                "formed_not_looked_at",
                Severity::Note,
                message,
                "the formed piece keeps clear of itself",
                "geometry",
            ));
        }
        return;
    };
    let called = |i: usize| {
        let strip = m.blank.strip.as_ref().filter(|s| s.parts.len() == zones.len());
        strip.map_or_else(
            || zones[i].name.clone(),
            |s| {
                let p = &s.parts[i];
                match p.made {
                    SegmentForm::Leg { .. } => format!("leg {}", p.id),
                    SegmentForm::Bend { .. } => format!("bend {}", p.id),
                    SegmentForm::Arc { .. } => format!("arc {}", p.id),
                }
            },
        )
    };
    let message = format!("Formed, {} runs into {}", called(o.a), called(o.b));
    out.push(
        finding(
            "formed_through_itself",
            Severity::Stop,
            message,
            "the formed piece keeps clear of itself",
            "geometry",
        )
        .by(format!("{} deep", m.display.length_unit(o.deep)))
        .on(
            vec![zones[o.a].name.clone(), zones[o.b].name.clone()],
            Some(&zones[o.b].line),
            Some(o.at.to_array()),
        ),
    );
}

//! What is added up: plates, sub-assemblies and sections.

use super::bars::cells_of;
use super::{AssemblyRow, BarRow, PlateRow, SectionTotal, per_run, run};
use crate::FrameResult;
use crate::document::Frame;
use ground::quantity::Display;

pub(super) fn plate_row(frame: &Frame, p: &crate::Plate, frames: usize, display: &Display) -> PlateRow {
    let quantity = p.places.len() * frames;
    let unit = p.piece.value("mass");
    let size = p.piece.flat.outer.bounds().size();
    let keys: Vec<&str> = p.places.iter().map(|q| q.name.as_str()).collect();
    PlateRow {
        key: p.name.clone(),
        piece: p.piece.id.clone(),
        mark: p.piece.mark.clone(),
        name: p.piece.name.clone(),
        quantity,
        material: p.piece.material.clone(),
        thickness: display.thickness_number(p.piece.thickness),
        stock: match p.tube {
            Some([outside, wall]) => format!("tube {} × {}", display.brief(outside), display.brief(wall)),
            None => format!("plate {}", display.thickness(p.piece.thickness)),
        },
        // A ring is told by how much of its tube it takes.
        size: match p.tube {
            Some(_) => display.length(p.piece.thickness),
            None => {
                format!("{} × {}", display.length(size.max_element()), display.length(size.min_element()))
            }
        },
        unit_mass: display.mass_number(unit),
        total_mass: display.mass_number(unit * quantity as f64),
        cells: cells_of(frame, &keys),
        members: keys.iter().map(|k| k.to_string()).collect(),
        stops: p.piece.stops(),
        holes: !p.piece.flat.holes.is_empty() || !p.piece.flat.bores.is_empty(),
    }
}

pub(super) fn assembly_rows(
    r: &FrameResult,
    bars: &[BarRow],
    plates: &[PlateRow],
    display: &Display,
) -> Vec<AssemblyRow> {
    let mut out = Vec::new();
    for (i, a) in r.assemblies.iter().enumerate() {
        // One copy of it, the first.
        let mut parts = Vec::new();
        let mut mass = 0.0;
        for row in bars {
            ground::halt::point();
            let of: Vec<usize> = r
                .members
                .iter()
                .enumerate()
                .filter(|(_, m)| m.assembly == Some((i, 0)) && row.members.contains(&m.name))
                .map(|(k, _)| k)
                .collect();
            mass += of.iter().map(|&k| r.facts[k].mass).sum::<f64>();
            if !of.is_empty() {
                parts.push(format!("{} × {}", of.len(), row.mark));
            }
        }
        for (row, p) in plates.iter().zip(&r.plates) {
            let n = p.places.iter().filter(|q| q.assembly == Some((i, 0))).count();
            mass += n as f64 * p.piece.value("mass");
            if n > 0 {
                parts.push(format!("{n} × {}", row.mark));
            }
        }
        out.push(AssemblyRow {
            mark: a.mark.clone(),
            name: a.name.clone(),
            quantity: a.copies.max(1) * r.quantity,
            parts,
            unit_mass: display.mass(mass),
        });
    }
    out
}

pub(super) fn section_totals(r: &FrameResult, display: &Display) -> Vec<SectionTotal> {
    let mut out = Vec::new();
    for (i, p) in r.profiles.iter().enumerate() {
        let of: Vec<usize> = (0..r.members.len()).filter(|&k| r.members[k].profile == i).collect();
        let Some(&first) = of.first() else { continue };
        let density = r.members[first].material.density;
        out.push(SectionTotal {
            section: p.section.designation.clone(),
            pieces: of.len() * r.quantity,
            length: run(
                display,
                of.iter().map(|&k| r.facts[k].lengths.overall).sum::<f64>() * r.quantity as f64,
            ),
            mass: display.mass(of.iter().map(|&k| r.facts[k].mass).sum::<f64>() * r.quantity as f64),
            worked: per_run(display, p.properties.area * density * 1e-6),
            published: p.section.mass.map_or_else(String::new, |m| per_run(display, m)),
            source: p.section.source.clone(),
        });
    }
    out
}

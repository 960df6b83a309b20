//! Bars of the list: equal bodies in one row.

use super::bender_table::bender_table;
use super::saw_cells::cell;
use super::{BarRow, CutCell, said};
use crate::bent;
use crate::document::Frame;
use crate::ends::{self, Cut, EndRelation};
use crate::hole_text;
use crate::model::EndPressed;
use crate::pressed::pressed_width;
use crate::skin::has_wall;
use crate::{FrameResult, Member, MemberFacts, Profile};
use ground::quantity::{Display, Printed};
use layout::bars::Part;
use shop::settings::{SawFacts, small};

pub(super) fn cells_of(frame: &Frame, keys: &[&str]) -> Vec<String> {
    let told = said(frame, keys).map(|r| r.cells.clone()).unwrap_or_default();
    (0..frame.columns.len()).map(|i| told.get(i).cloned().unwrap_or_default()).collect()
}

/// The cell of an end that is pressed flat says so.
fn worked_flat(cut: CutCell, m: &Member, end: usize, display: &Display) -> CutCell {
    let Some(told) = &m.pressed[end] else { return cut };
    CutCell { text: Printed::words(format!("flat {}", display.length(told.length))), ..cut }
}

/// Ends that are pressed flat, in words.
fn worked(m: &Member, p: &Profile, d: &Display) -> Vec<String> {
    let Some(flat) = pressed_width(p) else { return Vec::new() };
    let said = |e: &EndPressed| {
        let [long, over, wide, thick] = [e.length, e.over, flat.x, flat.y].map(|v| d.length(v));
        format!("pressed flat over {long}, {wide} × {thick}, round again over {over}")
    };
    match m.pressed.each_ref().map(|e| e.as_ref().map(said)) {
        [Some(start), Some(end)] if start == end => vec![format!("both ends {start}")],
        ends => {
            let named = ["start", "end"].into_iter().zip(ends);
            named.filter_map(|(which, said)| Some(format!("{which} {}", said?))).collect()
        }
    }
}

pub(super) fn bar_rows(frame: &Frame, r: &FrameResult, display: &Display, saw: &SawFacts) -> Vec<BarRow> {
    let mut out = Vec::new();
    let mut templates = 0;
    for g in &r.groups {
        ground::halt::point();
        for opposite in [false, true] {
            let of: Vec<usize> = g.fits.iter().filter(|f| f.mirrored == opposite).map(|f| f.member).collect();
            let Some(&first) = of.first() else { continue };
            let (m, f): (_, &MemberFacts) = (&r.members[first], &r.facts[first]);
            let p = &r.profiles[m.profile];
            let keys: Vec<&str> = of.iter().map(|&i| r.members[i].name.as_str()).collect();
            let said = said(frame, &keys);
            let text = |get: fn(&crate::document::RowSaid) -> &String| {
                said.map(|s| get(s).trim().to_string()).filter(|t| !t.is_empty())
            };
            let cuts = [0, 1].map(|k| {
                let cut = cell(&f.cuts[k], saw, display, &mut templates);
                worked_flat(cut, m, k, display)
            });
            let (lie, turn) = ends::end_relation(&f.cuts[0], &f.cuts[1]);
            let set = saw.length(f.lengths.overall);
            let (drilled, stations) = hole_text::drilled(m, p, display);
            let quantity = of.len() * r.quantity;
            let name = text(|s| &s.name).unwrap_or_else(|| {
                if opposite { format!("{} (opposite hand)", m.call) } else { m.call.clone() }
            });
            out.push(BarRow {
                key: said.map_or_else(|| m.name.clone(), |s| s.piece.clone()),
                mark: text(|s| &s.mark).unwrap_or_else(|| format!("{}/{}", frame.mark, out.len() + 1)),
                name,
                quantity,
                opposite,
                section: p.section.designation.clone(),
                material: m.material.name.clone(),
                length: saw.told(display).length_number(set),
                edge: if f.lengths.overall - f.lengths.long > 0.05 {
                    saw.told(display).length_number(saw.length(f.lengths.long))
                } else {
                    Printed::default()
                },
                bends: bent::told(m, p.section.shape.is_round(), display),
                worked: worked(m, p, display),
                bender: bender_table(m, p, display),
                // In the same steps: the shorter never reads longer.
                centre: saw.told(display).length_number(saw.length(f.lengths.centre)),
                short: saw.told(display).length_number(saw.length(f.lengths.short)),
                length_gap: if (set - f.lengths.overall).abs() > 0.05 {
                    small(display, (set - f.lengths.overall).abs())
                } else {
                    String::new()
                },
                cuts,
                lie,
                ends: lie.said(&display.angle(turn.abs())),
                look: ends::side_view(m, p, [&f.cuts[0], &f.cuts[1]]),
                skin: m.is_straight() && has_wall(p),
                holes: m.holes.iter().filter(|h| h.notch.is_none()).count(),
                work: hole_text::count(m),
                drilled,
                stations,
                unit_mass: display.mass_number(f.mass),
                total_mass: display.mass_number(f.mass * quantity as f64),
                surface: display.area(p.properties.perimeter * f.lengths.centre),
                cells: cells_of(frame, &keys),
                members: keys.iter().map(|k| k.to_string()).collect(),
                seen: std::iter::once(&p.outer).chain(&p.holes).cloned().collect(),
                drilled_to: hole_text::ways(m),
                ends_seen: (m.is_straight()
                    && f.cuts.iter().any(|c| matches!(c, Cut::Planes(_) | Cut::Round(_) | Cut::Cope)))
                .then(|| [0, 1].map(|k| ends::silhouette(m, p, ends::up([&f.cuts[0], &f.cuts[1]]), k))),
                way: if m.is_straight() { Default::default() } else { bent::drawn(m) },
                part: part(m, p, f),
            });
        }
    }
    out
}

/// A piece as the saw sees it from the side. Plain cuts in one plane can share a cut with their neighbour;
/// others keep their points to themselves.
pub(super) fn part(m: &Member, p: &Profile, f: &MemberFacts) -> Part {
    let plain = f.cuts.iter().all(|c| match c {
        Cut::Square | Cut::None => true,
        Cut::Plane(q) => q.bevel == 0.0,
        _ => false,
    });
    let (lie, _) = ends::end_relation(&f.cuts[0], &f.cuts[1]);
    if !plain || lie == EndRelation::Turned {
        return Part { length: f.lengths.overall, start: 0.0, end: 0.0, depth: 1.0, turns: true };
    }
    let look = ends::side_view(m, p, [&f.cuts[0], &f.cuts[1]]);
    // Tubes, bars and beams lie the same when they are turned over or about.
    Part {
        length: f.lengths.centre,
        start: look.start,
        end: look.end,
        depth: look.depth.max(1.0),
        turns: p.symmetries.len() >= 4,
    }
}

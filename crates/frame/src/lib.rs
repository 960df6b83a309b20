//! Welded frames: skeleton → joints → pieces. `evaluate_frame` is pure: the same frame gives the same result,
//! and no input makes it panic.

mod alike;
mod arrivals;
mod assembly;
mod attached;
mod bar;
mod bent;
mod bores;
mod check;
mod chords;
mod clashes;
mod copying;
pub mod document;
mod doubles;
mod drill;
mod end_cuts;
mod ends;
mod figures;
mod hole_text;
mod holes;
mod joints;
mod list;
mod model;
mod plate_places;
mod plates;
mod profile;
mod result;
mod room;
mod said;
mod scene;
mod section_card;
mod skeleton;
mod skin;
mod solid;
pub mod verbs;
mod weld;
mod weld_list;
mod wrap;

use std::sync::Arc;

use glam::{DVec2, DVec3};

pub use alike::{Fit, Group};
pub use arrivals::Arrival;
pub use bar::{Bar, Motion, Surface};
pub use bores::Walls;
pub use end_cuts::EndCuts;
pub use ends::{Cut, Lie, Look, Plane};
pub use joints::{Joint, Role};
pub use list::{AssemblyRow, BarRow, CutCell, FrameList, PlateRow, SectionTotal, frame_list};
pub use model::{Cause, Hole, Member, Node, Stretch, Trim};
pub use profile::Profile;
pub use result::{Assembly, FrameResult, MemberFacts, Plate, PlatePlace};
pub use scene::{Place, Standing, standing, whole};
pub use section_card::{SectionCard, SectionFigure, section_cards};
pub use shop::settings::SawFacts;
use skeleton::Known;
pub use skeleton::{Skeleton, stand};
pub use skin::{NoSkin, skin_holes, skin_outline, unrolled};
pub use solid::{Body, Lengths, body};
pub use weld::Weld;
pub use weld_list::WeldRow;
pub use wrap::{copes, round_the_outside, template_outline, wrap_template};

use crate::document::{Frame, FrameLine};
use crate::verbs::FrameSay;
use ground::reader::{Range, Reader};
use sheet::result::PieceResult;
use shop::FrameShop;

pub const MOST_FRAMES: usize = 100;
pub const MOST_FRAME_LINES: usize = 2_000;

/// The piece of the job with a mark, for a section that is its flat.
pub type PieceOf<'a> = &'a dyn Fn(&str) -> Option<Arc<PieceResult>>;

/// The sections that a frame names, as its lines tell them: one may be the mark of a piece.
pub fn sections_named(frame: &Frame) -> impl Iterator<Item = &str> {
    let of_members = frame.lines.iter().filter_map(|l| match &l.say {
        FrameSay::Members(m) => Some(m.section.as_str()),
        _ => None,
    });
    std::iter::once(frame.section.as_str()).chain(of_members).map(str::trim).filter(|s| !s.is_empty())
}

/// One frame, made in a shop.
pub fn evaluate_frame(shop: &FrameShop, frame: &Frame, piece_of: PieceOf) -> FrameResult {
    let display = frame.display.unwrap_or(shop.sheet.display);
    let mut reader = Reader::new(&shop.sheet.figures, display);
    let mut out = FrameResult::empty(frame, display);
    out.quantity = reader.count("/quantity", &frame.quantity, 1, 100_000).unwrap_or(0);
    let gap = if frame.gap.trim().is_empty() {
        0.0
    } else {
        reader.length("/gap", &frame.gap, Range::ZeroUp).unwrap_or(0.0)
    };
    let materials = &shop.sheet.materials;
    let material = skeleton::material_of(&mut reader, materials, "/material", &frame.material);
    if let Some(m) = &material {
        out.material = m.name.clone();
    }
    if frame.lines.len() > MOST_FRAME_LINES {
        reader.refuse(
            "/lines",
            "",
            format!("the frame has {} lines; {MOST_FRAME_LINES} is the most", frame.lines.len()),
            "use mirror and repeat, or split the frame",
        );
        out.faults = reader.tell.faults;
        return out;
    }
    let mut s = Skeleton::with(materials.clone());
    let lines: Vec<&FrameLine> = said::own_ids(&mut reader, frame);
    let said = said::say(&mut reader, &mut s, &Known { shop, piece_of }, frame, &lines);
    out.joints = joints::close(&mut s, &said.joints, frame.joint, gap);
    for &(node, n) in &s.crowded {
        let most = joints::MOST_AT_NODE;
        let message = format!(
            "{n} members meet at node '{}'; {most} is the most that are fitted to one another: their ends \
             there are left square",
            s.nodes[node].name
        );
        reader.enter("");
        reader.refuse("/lines", "", message, "let them meet at a plate or a ring with nodes of its own");
    }
    let refused = joints::told_trims(&mut s);
    joints::prune(&mut s);
    seat_notches(&mut s);
    let volumes: Vec<(f64, DVec3)> =
        s.members.iter().map(|m| solid::volume(m, &s.profiles[m.profile])).collect();
    out.groups = alike::groups(&s, &volumes.iter().map(|v| v.0).collect::<Vec<_>>(), frame.apart);
    out.facts = facts(&s, &out.groups, &volumes);
    out.assemblies = assembly::assemblies(&mut s, &out.joints, &said.assemblies);
    let placed = plate_places::place(&mut reader, &s, &lines, &said.plates);
    out.welds =
        weld::welds(&s, &out.joints, &placed, &said.welds, material.as_ref().map_or(0.0, |m| m.density));
    // Without a material, which is told, there are no plates.
    if let Some(material) = material {
        let of = plate_places::Of { frame, quantity: out.quantity, material };
        out.plates = plate_places::pieces(&mut reader, &shop.sheet, &of, &s, &placed, &said.assemblies);
    }
    out.made = !s.members.is_empty() || !out.plates.is_empty();
    out.faults = reader.tell.faults;
    (out.nodes, out.profiles, out.members) = (s.nodes, s.profiles, s.members);
    out.figures = figures::figures(&out);
    check::check(&shop.saw, &mut out, &refused);
    out
}

/// Notches lie at the finished ends, measured at the middle of the section.
fn seat_notches(s: &mut Skeleton) {
    for i in 0..s.members.len() {
        let m = &s.members[i];
        if m.holes.iter().all(|h| h.notch.is_none()) {
            continue;
        }
        let ends = [m.station(0, DVec2::ZERO), m.length - m.station(1, DVec2::ZERO)];
        for h in &mut s.members[i].holes {
            match h.notch {
                Some(0) => h.along = ends[0] + h.length / 2.0,
                Some(_) => h.along = ends[1] - h.length / 2.0,
                None => {}
            }
        }
    }
}

fn facts(s: &Skeleton, groups: &[Group], volumes: &[(f64, DVec3)]) -> Vec<MemberFacts> {
    let mut out: Vec<Option<MemberFacts>> = vec![None; s.members.len()];
    for g in groups {
        // Lengths are those of the body; the cuts of each are its own.
        let first = g.fits[0].member;
        let lengths = solid::lengths(&s.members[first], &s.profiles[s.members[first].profile]);
        for fit in &g.fits {
            let m = &s.members[fit.member];
            let p = &s.profiles[m.profile];
            let (volume, centre) = volumes[fit.member];
            let cuts = [ends::cut(m, p, 0), ends::cut(m, p, 1)];
            out[fit.member] =
                Some(MemberFacts { lengths, volume, centre, mass: volume * m.material.density * 1e-9, cuts });
        }
    }
    out.into_iter().flatten().collect()
}

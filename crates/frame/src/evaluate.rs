//! A frame evaluated: its lines read, its skeleton grown line by line, its joints closed, its plates cut, and
//! all of it looked at. The same frame gives the same result, and no input makes it panic.

use glam::{DVec2, DVec3};
use ground::lines;
use ground::reader::{Range, Reader, Tell};
use shop::FrameShop;

use crate::build::overrides::FrameOverrides;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{PieceOf, Spec, Turn, Usual};
use crate::document::Frame;
use crate::mends::Mends;
use crate::result::{FrameResult, MemberFacts};
use crate::verbs::FrameOperation;
use crate::{
    Group, assembly, ends, figures, findings, grouping, joints, plate_places, solid, trims, weld, worked_ends,
};

pub const MOST_FRAMES: usize = 100;
pub const MOST_FRAME_LINES: usize = 2_000;

/// What a frame names that may be the mark of a piece: sections, as its lines tell them, and ribs.
pub fn pieces_named(frame: &Frame) -> impl Iterator<Item = &str> {
    let of_lines = frame.lines.iter().flat_map(|l| match &l.say {
        FrameOperation::Members(m) => vec![m.section.as_str()],
        FrameOperation::Ribs(r) => r.pieces().collect(),
        FrameOperation::Through(t) => vec![t.section.as_str(), t.spacers.as_str()],
        _ => Vec::new(),
    });
    std::iter::once(frame.section.as_str()).chain(of_lines).map(str::trim).filter(|s| !s.is_empty())
}

/// One frame, made in a shop.
pub fn evaluate_frame(shop: &FrameShop, frame: &Frame, piece_of: PieceOf) -> FrameResult {
    let display = frame.display.unwrap_or(shop.sheet.display);
    let mut reader = Reader::new(&shop.sheet.figures, display);
    let mut out = FrameResult::empty(frame, display);
    out.quantity = reader.count("/quantity", &frame.quantity, 1, 100_000).unwrap_or(0);
    let gap = reader.length_or("/gap", &frame.gap, Range::ZeroUp, 0.0).unwrap_or(0.0);
    let usual = Usual::of(&frame.section, &frame.material, shop, piece_of);
    let material = usual.material(&mut reader, "/material", "");
    if let Some(m) = &material {
        out.material = m.name.clone();
    }
    let Some(lines) = read_lines(&mut reader, frame, &usual) else {
        out.faults = lines::settled(reader.tell, frame, &frame.lines);
        return out;
    };
    let mut tell = reader.tell;
    let mut s = Skeleton::default();
    let told = carry_out(&mut tell, &lines, &mut s);
    out.joints = joints::close(&mut s, &told.joints, frame.joint, gap);
    for &(node, n) in &s.crowded {
        let most = joints::MOST_AT_NODE;
        let message = format!(
            "{n} members meet at node '{}'; {most} is the most that are fitted to one another: their ends \
             there are left square",
            s.nodes[node].name
        );
        tell.enter("");
        tell.refuse_at("/lines", message, "let them meet at a plate or a ring with nodes of its own");
    }
    let refused = trims::told_trims(&mut s);
    trims::prune(&mut s);
    worked_ends::seat(&mut tell, &mut s);
    seat_notches(&mut s);
    let volumes: Vec<(f64, DVec3)> =
        s.members.iter().map(|m| solid::volume(m, &s.profiles[m.profile])).collect();
    out.groups = grouping::groups(&s, &volumes.iter().map(|v| v.0).collect::<Vec<_>>(), frame.apart);
    out.facts = facts(&s, &out.groups, &volumes);
    out.assemblies = assembly::assemblies(&mut s, &out.joints, &told.assemblies);
    let placed = plate_places::place(&mut tell, &s, &lines, &told);
    out.welds =
        weld::welds(&s, &out.joints, &placed, &told.welds, material.as_ref().map_or(0.0, |m| m.density));
    // Without a material, which is told, there are no plates.
    if let Some(material) = material {
        let of = plate_places::Of { frame, quantity: out.quantity, material };
        out.plates = plate_places::pieces(&mut tell, &shop.sheet, &of, &s, &placed, &told.assemblies);
    }
    out.made = !s.members.is_empty() || !out.plates.is_empty();
    out.faults = lines::settled(tell, frame, &frame.lines);
    (out.nodes, out.profiles, out.members) = (s.nodes, s.profiles, s.members);
    out.figures = figures::figures(&out);
    findings::check(shop, frame, &mut out, &refused, &s.ribs);
    let mends = Mends::of(frame);
    out.choices = out.joints.iter().map(|j| mends.choices(&out, j)).collect();
    out
}

/// A line, read; without a spec where it could not be.
pub struct LineSpec {
    pub id: String,
    pub spec: Option<Spec>,
}

/// Every line that is on and has a name of its own, read. One that cannot be read is told; it makes nothing.
fn read_lines(reader: &mut Reader, frame: &Frame, usual: &Usual) -> Option<Vec<LineSpec>> {
    if frame.lines.len() > MOST_FRAME_LINES {
        reader.refuse_at(
            "/lines",
            format!("the frame has {} lines; {MOST_FRAME_LINES} is the most", frame.lines.len()),
            "use mirror and repeat, or split the frame",
        );
        return None;
    }
    let told = lines::carried_out(reader, &frame.lines).into_iter().map(|(_, line)| {
        reader.enter(&line.id);
        LineSpec { id: line.id.clone(), spec: line.say.spoken().read(reader, usual) }
    });
    Some(told.collect())
}

/// The lines in order. A line that fails is told and left out, and the rest goes on.
fn carry_out(tell: &mut Tell, lines: &[LineSpec], s: &mut Skeleton) -> FrameOverrides {
    let mut told = FrameOverrides::default();
    let mut above: Vec<String> = Vec::new();
    for line in lines {
        ground::halt::point();
        tell.enter(&line.id);
        if let Some(Spec::Tells(spec)) = &line.spec {
            let _ = spec.tell(&mut Turn { tell, line: &line.id, above: &above, rims: &[] }, s, &mut told);
            // What is told of others makes nothing that could be copied.
            continue;
        }
        let turn = &mut Turn { tell, line: &line.id, above: &above, rims: &told.rims };
        match &line.spec {
            Some(Spec::Shapes(spec)) => {
                let _ = spec.make(turn, s);
            }
            Some(Spec::Plates(spec)) => {
                let set = spec.set(turn, s);
                s.told.extend(set.and_then(|()| spec.room(turn, s)).into_iter().flatten());
            }
            Some(Spec::Tells(_)) | None => {}
        }
        above.push(line.id.clone());
    }
    told
}

/// Notches lie at the finished ends, measured at the middle of the section.
fn seat_notches(s: &mut Skeleton) {
    for i in 0..s.members.len() {
        let m = &s.members[i];
        if m.holes.iter().all(|h| h.notch.is_none()) {
            continue;
        }
        let ends = [m.station(0, DVec2::ZERO), m.length - m.station(1, DVec2::ZERO)];
        let beyond = [0, 1].map(|k| solid::stands_out(m, &s.profiles[m.profile], k));
        for h in &mut s.members[i].holes {
            h.beyond = h.notch.map_or(0.0, |end| beyond[end.min(1)]);
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

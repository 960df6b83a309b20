//! Lines that cut members: rows of holes, slots, and notches at their ends.

use glam::DVec2;

use super::bores::Walls;
use super::model::Hole;
use super::plates::{optional, positive};
use super::skeleton::Skeleton;
use crate::verbs::*;
use ground::reader::{Range, Reader};

/// Holes drilled into members, and into their copies later on.
pub fn holes(reader: &mut Reader, s: &mut Skeleton, say: &HoleSaid) -> Option<()> {
    let d = positive(reader, "/say/diameter", &say.diameter)?;
    let slot = optional(reader, "/say/slot", &say.slot)?;
    let at = reader.length("/say/at", &say.at, Range::ZeroUp)?;
    let off =
        if say.off.trim().is_empty() { 0.0 } else { reader.length("/say/off", &say.off, Range::Any)? };
    let count =
        if say.count.trim().is_empty() { 1 } else { reader.count("/say/count", &say.count, 1, 500)? };
    let pitch = if count > 1 { positive(reader, "/say/pitch", &say.pitch)? } else { 0.0 };
    if slot > 0.0 && slot < d {
        reader.refuse(
            "/say/slot",
            &say.slot,
            "the slot is shorter than it is wide",
            "write its overall length",
        );
        return None;
    }
    let of = members_named(reader, s, &say.members)?;
    let out = outwards(say.face);
    for i in of {
        let (m, p) = (&s.members[i], &s.profiles[s.members[i].profile]);
        let last = at + pitch * (count - 1) as f64 + slot.max(d) / 2.0;
        if last > m.length || at < slot.max(d) / 2.0 {
            reader.refuse(
                "/say/at",
                &say.at,
                format!("{} holes do not fit on {}", count, m.name),
                "start further in, or write fewer holes",
            );
            return None;
        }
        let across = p.reach(out.perp()) + p.reach(-out.perp());
        if off.abs() * 2.0 + d >= across {
            reader.refuse(
                "/say/off",
                &say.off,
                format!("the hole leaves the face of {}", p.section.designation),
                "write a smaller hole, or nearer the middle",
            );
            return None;
        }
        let walls = Walls::new(p);
        let (Some(face), Some(floor)) = (walls.face(out, off), walls.floor(out, off, d, say.through)) else {
            reader.refuse(
                "/say/off",
                &say.off,
                format!("{} has no metal there", p.section.designation),
                "write another distance from the middle",
            );
            return None;
        };
        let holes: Vec<Hole> = (0..count)
            .map(|k| Hole {
                along: at + pitch * k as f64,
                at: out * face + out.perp() * off,
                out,
                diameter: d,
                length: slot.max(d),
                floor,
                through: say.through,
                notch: None,
            })
            .collect();
        let half = slot.max(d) / 2.0;
        let bends =
            |h: &Hole| m.straight_at(h.along - half).is_none_or(|a| m.straight_at(h.along + half) != Some(a));
        if holes.iter().any(bends) {
            reader.refuse(
                "/say/at",
                &say.at,
                format!("a hole lies in a bend of {}", m.name),
                "move it onto a straight stretch",
            );
            return None;
        }
        s.members[i].holes.extend(holes);
    }
    Some(())
}

/// Members by name; a line's name means all of its members.
fn members_named(reader: &mut Reader, s: &Skeleton, names: &[String]) -> Option<Vec<usize>> {
    let mut of = Vec::new();
    for (i, name) in names.iter().enumerate() {
        let all: Vec<usize> = (0..s.members.len())
            .filter(|&k| s.members[k].line == name.trim() && s.members[k].root == k)
            .collect();
        if all.is_empty() {
            of.push(s.known_member(reader, &format!("/say/members/{i}"), name)?);
        }
        of.extend(all);
    }
    Some(of)
}

/// The way out of the material through a face, in the section.
pub fn outwards(face: Face) -> DVec2 {
    match face {
        Face::Top => DVec2::Y,
        Face::Bottom => -DVec2::Y,
        Face::Left => DVec2::X,
        Face::Right => -DVec2::X,
    }
}

/// Notches at ends; where they lie along the bar is found when the ends are.
pub fn notches(reader: &mut Reader, s: &mut Skeleton, say: &NotchEnd) -> Option<()> {
    let (width, length) =
        (positive(reader, "/say/width", &say.width)?, positive(reader, "/say/length", &say.length)?);
    let out = outwards(say.face);
    for i in members_named(reader, s, &say.members)? {
        let (m, p) = (&s.members[i], &s.profiles[s.members[i].profile]);
        let across = p.reach(out.perp()) + p.reach(-out.perp());
        if width >= across || length >= m.length {
            reader.refuse(
                "/say/width",
                &say.width,
                format!("the notch takes the whole end of {}", m.name),
                "write a narrower or a shorter one",
            );
            return None;
        }
        let end = usize::from(say.tip == Tip::End);
        let along = if end == 0 { length / 2.0 } else { m.length - length / 2.0 };
        let walls = Walls::new(p);
        let (Some(face), Some(floor)) = (walls.face(out, 0.0), walls.floor(out, 0.0, width, say.through))
        else {
            reader.refuse(
                "/say/width",
                &say.width,
                format!("{} has no metal there", p.section.designation),
                "notch another face",
            );
            return None;
        };
        let at = out * face;
        s.members[i].holes.push(Hole {
            along,
            at,
            out,
            diameter: width,
            length,
            floor,
            through: say.through,
            notch: Some(end),
        });
    }
    Some(())
}

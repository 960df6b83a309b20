//! Holes, slots and notches in members: where they fit, and how deep they go.

use std::sync::Arc;

use glam::DVec2;
use sheet::Bore;

use super::skeleton::Skeleton;
use crate::bores::Walls;
use crate::build::spec::Turn;
use crate::model::Hole;

/// A row of holes or slots in one face; lengths in mm.
#[derive(Clone)]
pub struct Drilled {
    /// The way out of the material, in the section.
    pub out: DVec2,
    pub diameter: f64,
    /// Overall, along the member.
    pub length: f64,
    pub row: InARow,
    pub through: bool,
    /// What is drilled beside a hole through the wall.
    pub bore: Option<Arc<Bore>>,
}

/// Several along a member; lengths in mm.
#[derive(Clone, Copy)]
pub struct InARow {
    /// Of the first, along the member.
    pub at: f64,
    /// Off the middle of the face.
    pub off: f64,
    pub count: usize,
    pub pitch: f64,
}

/// A square notch in an end.
#[derive(Clone, Copy)]
pub struct Notched {
    /// 0 for the start, 1 for the end.
    pub end: usize,
    pub out: DVec2,
    /// Across the face, and along from the finished end.
    pub width: f64,
    pub length: f64,
    pub through: bool,
}

/// A row drilled into a member, and into its copies later on.
pub fn drill(turn: &mut Turn, s: &mut Skeleton, member: usize, row: &Drilled) -> Option<()> {
    let &Drilled { out, diameter, length, row: InARow { at, off, count, pitch }, through, ref bore } = row;
    let (m, p) = (&s.members[member], &s.profiles[s.members[member].profile]);
    let half = length / 2.0;
    if at + pitch * (count - 1) as f64 + half > m.length || at < half {
        let message = format!("{count} holes do not fit on {}", m.name);
        turn.tell.refuse_at("/say/at", message, "start further in, or write fewer holes");
        return None;
    }
    let across = p.reach(out.perp()) + p.reach(-out.perp());
    let widest = bore.as_ref().map_or(diameter, |b| b.widest());
    if off.abs() * 2.0 + widest >= across {
        let message = format!("the hole leaves the face of {}", p.section.designation);
        turn.tell.refuse_at("/say/off", message, "write a smaller hole, or nearer the middle");
        return None;
    }
    let walls = Walls::new(p);
    let Some((face, floor)) = walls.face(out, off).zip(walls.floor(out, off, diameter, through)) else {
        let message = format!("{} has no metal there", p.section.designation);
        turn.tell.refuse_at("/say/off", message, "write another distance from the middle");
        return None;
    };
    // What does not go through its wall ends in it.
    let depth = bore.as_ref().and_then(|b| b.depth);
    let floor = depth.map_or(floor, |depth| floor.max(face - depth));
    let hole = |k: usize| Hole {
        along: at + pitch * k as f64,
        at: out * face + out.perp() * off,
        out,
        diameter,
        length,
        floor,
        through: through && depth.is_none(),
        notch: None,
        beyond: 0.0,
        bore: bore.clone(),
    };
    let holes: Vec<Hole> = (0..count).map(hole).collect();
    let bends =
        |h: &Hole| m.straight_at(h.along - half).is_none_or(|a| m.straight_at(h.along + half) != Some(a));
    if holes.iter().any(bends) {
        let message = format!("a hole lies in a bend of {}", m.name);
        turn.tell.refuse_at("/say/at", message, "move it onto a straight stretch");
        return None;
    }
    s.members[member].holes.extend(holes);
    Some(())
}

/// A notch; where it lies along the bar is found when the ends are.
pub fn notch(turn: &mut Turn, s: &mut Skeleton, member: usize, notch: &Notched) -> Option<()> {
    let &Notched { end, out, width, length, through } = notch;
    let (m, p) = (&s.members[member], &s.profiles[s.members[member].profile]);
    let across = p.reach(out.perp()) + p.reach(-out.perp());
    if width >= across || length >= m.length {
        let message = format!("the notch takes the whole end of {}", m.name);
        turn.tell.refuse_at("/say/width", message, "write a narrower or a shorter one");
        return None;
    }
    let walls = Walls::new(p);
    let Some((face, floor)) = walls.face(out, 0.0).zip(walls.floor(out, 0.0, width, through)) else {
        let message = format!("{} has no metal there", p.section.designation);
        turn.tell.refuse_at("/say/width", message, "notch another face");
        return None;
    };
    let along = if end == 0 { length / 2.0 } else { m.length - length / 2.0 };
    let (at, notch) = (out * face, Some(end));
    let hole =
        Hole { along, at, out, diameter: width, length, floor, through, notch, beyond: 0.0, bore: None };
    s.members[member].holes.push(hole);
    Some(())
}

/// Members by name; a line's name means all of its members.
pub fn members_named(turn: &mut Turn, s: &Skeleton, names: &[String]) -> Option<Vec<usize>> {
    let mut of = Vec::new();
    for (i, name) in names.iter().enumerate() {
        let of_line = |k: &usize| s.members[*k].line == name.trim() && s.members[*k].root == *k;
        let all: Vec<usize> = (0..s.members.len()).filter(of_line).collect();
        if all.is_empty() {
            of.push(s.known_member(turn.tell, &format!("/say/members/{i}"), name)?);
        }
        of.extend(all);
    }
    Some(of)
}

//! Mirrors and repeats: nodes and members again elsewhere. What lands on itself stays one, and what ends
//! square at a mirror goes on as one with its image.

use ground::geom::ROUNDING;
use ground::reference;
use std::collections::HashMap;

use glam::{DMat3, DVec3};

use super::skeleton::{Copy, MOST_MEMBERS, MOST_NODES, SAME, Skeleton, ToldTrim};
use crate::bar::Motion;
use crate::build::spec::Turn;
use crate::model::{CentrelineSegment, EndCut, Hole, Member};

impl Skeleton {
    /// Mirrored in the plane at `at` across `n`.
    pub fn mirror(&mut self, turn: &mut Turn, n: DVec3, at: f64, of: &[String]) -> Option<()> {
        self.copy(turn, "", across(n, at), of, Some((n, at)))
    }

    /// Again elsewhere, `last` added to the names.
    pub fn shifted(&mut self, turn: &mut Turn, last: &str, by: DVec3, of: &[String]) -> Option<()> {
        self.copy(turn, last, Motion { m: DMat3::IDENTITY, by }, of, None)
    }

    /// Copies nodes and members. What lands on itself or on another stays one; what ends square at the mirror
    /// becomes one with its image.
    fn copy(
        &mut self,
        turn: &mut Turn,
        last: &str,
        motion: Motion,
        of: &[String],
        mirror: Option<(DVec3, f64)>,
    ) -> Option<()> {
        let line = turn.line;
        let named = |name: &str| reference::part(line, format!("{name}{last}"));
        // Copies that this very line has made so far are not copied again.
        let of_set: std::collections::HashSet<&str> = of.iter().map(String::as_str).collect();
        let made: Vec<usize> = (0..self.members.len())
            .filter(|&i| {
                of_set.contains(self.members[i].line.as_str())
                    && reference::within(&self.members[i].name, line).is_none()
            })
            .collect();
        if self.members.len() + made.len() > MOST_MEMBERS || self.nodes.len() + made.len() > MOST_NODES {
            turn.tell.refuse_at(
                "/say/of",
                format!("the frame would have more than {MOST_MEMBERS} members"),
                "copy fewer, or split the frame",
            );
            return None;
        }
        let alone: Vec<usize> = (0..self.nodes.len())
            .filter(|&i| {
                of_set.contains(self.nodes[i].line.as_str())
                    && reference::within(&self.nodes[i].name, line).is_none()
            })
            .collect();
        let mut nodes: HashMap<usize, usize> = HashMap::new();
        let ends: Vec<usize> =
            made.iter().flat_map(|&i| [self.members[i].from, self.members[i].to]).collect();
        for i in alone.into_iter().chain(ends) {
            if nodes.contains_key(&i) {
                continue;
            }
            let (name, at, root, by) = (
                self.nodes[i].name.clone(),
                motion.point(self.nodes[i].at),
                self.nodes[i].root,
                self.nodes[i].line.clone(),
            );
            let Some(put) = self.put(&named(&name), at, &by, Some(root)) else {
                turn.tell.refuse_at(
                    "/say/of",
                    format!("the frame would have more than {MOST_NODES} nodes"),
                    "copy fewer, or split the frame",
                );
                return None;
            };
            nodes.insert(i, put);
        }
        let mut there: HashMap<(usize, usize, usize), Vec<usize>> = HashMap::new();
        for (i, m) in self.members.iter().enumerate() {
            there.entry((m.from.min(m.to), m.from.max(m.to), m.profile)).or_default().push(i);
        }
        for i in made {
            let m = &self.members[i];
            let (mut from, mut to) = (nodes[&m.from], nodes[&m.to]);
            if motion.mirrors() {
                std::mem::swap(&mut from, &mut to);
            }
            // The body itself must lie there: two bars may share their nodes and stand side by side.
            let middle = motion.point(m.middle());
            let key = (from.min(to), from.max(to), m.profile);
            let twin = there.get(&key).and_then(|of| {
                of.iter().copied().find(|&k| self.members[k].middle().distance(middle) < SAME)
            });
            if let Some(twin) = twin {
                self.member_names.insert(named(&self.members[i].name), twin);
                continue;
            }
            if let Some((n, at)) = mirror
                && self.grow(i, n, at, &nodes)
            {
                self.member_names.insert(named(&self.members[i].name), i);
                continue;
            }
            let m = &self.members[i];
            let (way, holes) = m.moved(&motion);
            let mut copy = Member { name: named(&m.name), from, to, way, holes, ..m.clone() };
            if motion.mirrors() {
                copy.rounds.reverse();
                copy.pressed.reverse();
            }
            let at = self.members.len();
            there.entry(key).or_default().push(at);
            let root = self.members[i].root;
            let flip = usize::from(motion.mirrors());
            let told: Vec<ToldTrim> = self
                .told
                .iter()
                .filter(|t| t.member == i && of.contains(&t.line))
                .map(|t| t.moved(at, t.end ^ flip, &motion))
                .collect();
            self.told.extend(told);
            self.keep(copy, Some(root));
        }
        self.copies.push(Copy { line: line.into(), motion, of: of.to_vec(), until: self.copies.len() });
        Some(())
    }

    /// A member that ends square at the mirror plane goes on to its image's far end, with all that it
    /// carries.
    fn grow(&mut self, i: usize, n: DVec3, at: f64, nodes: &HashMap<usize, usize>) -> bool {
        let m = &self.members[i];
        let on = |k: usize| (self.nodes[k].at.dot(n) - at).abs() < SAME;
        if m.closed || on(m.from) == on(m.to) {
            return false;
        }
        let seam = usize::from(on(m.to));
        if m.end(seam).d.dot(n).abs() < 1.0 - ROUNDING {
            return false;
        }
        let by = across(n, at);
        let (way, holes) = m.moved(&by);
        let own: Vec<Hole> = m.holes.iter().filter(|h| h.notch != Some(seam)).cloned().collect();
        let image: Vec<Hole> = holes.into_iter().filter(|h| h.notch != Some(seam ^ 1)).collect();
        let length = m.length;
        let further = move |h: Hole| Hole { along: h.along + length, ..h };
        let m = &mut self.members[i];
        if seam == 0 {
            (m.from, m.to) = (nodes[&m.to], m.to);
            m.way = joined(way.into_iter().chain(m.way.iter().copied()));
            m.holes = image.into_iter().chain(own.into_iter().map(further)).collect();
        } else {
            (m.from, m.to) = (m.from, nodes[&m.from]);
            m.way = joined(m.way.iter().copied().chain(way));
            m.holes = own.into_iter().chain(image.into_iter().map(further)).collect();
        }
        m.length = 2.0 * length;
        m.rounds[seam] = m.rounds[seam ^ 1].clone();
        m.pressed[seam] = m.pressed[seam ^ 1].clone();
        self.told.retain(|t| t.member != i || t.end != seam);
        let told: Vec<ToldTrim> =
            self.told.iter().filter(|t| t.member == i).map(|t| t.moved(i, t.end ^ 1, &by)).collect();
        self.told.extend(told);
        true
    }
}

/// Stretches that go on in line, or round the same bend, made one.
fn joined(way: impl Iterator<Item = CentrelineSegment>) -> Vec<CentrelineSegment> {
    let mut out: Vec<CentrelineSegment> = Vec::new();
    for next in way {
        match (out.last_mut(), next) {
            (
                Some(CentrelineSegment::Straight { length, .. }),
                CentrelineSegment::Straight { length: more, .. },
            ) => *length += more,
            (
                Some(CentrelineSegment::Bend { centre, axis, sweep, .. }),
                CentrelineSegment::Bend { centre: c, axis: a, sweep: more, .. },
            ) if centre.distance(c) < SAME && axis.dot(a) > 1.0 - ROUNDING => {
                *sweep += more;
            }
            _ => out.push(next),
        }
    }
    out
}

impl ToldTrim {
    fn moved(&self, member: usize, end: usize, by: &Motion) -> ToldTrim {
        let trim = EndCut { surface: self.trim.surface.moved(by), ..self.trim.clone() };
        ToldTrim { member, end, trim, line: self.line.clone(), lengthen: self.lengthen }
    }
}

/// The mirror in the plane at `at` across `n`.
fn across(n: DVec3, at: f64) -> Motion {
    let m = DMat3::from_cols(DVec3::X - n * 2.0 * n.x, DVec3::Y - n * 2.0 * n.y, DVec3::Z - n * 2.0 * n.z);
    Motion { m, by: n * (2.0 * at) }
}

/// The lines that a copy is made of: those named, or all above.
pub fn lines_named(turn: &mut Turn, of: &[String]) -> Option<Vec<String>> {
    if of.is_empty() {
        return Some(turn.above.to_vec());
    }
    for (i, name) in of.iter().enumerate() {
        if !turn.above.contains(name) {
            turn.tell.refuse_at(
                &format!("/say/of/{i}"),
                format!("no line above this one is called '{name}'"),
                "name lines further up, or none for all of them",
            );
            return None;
        }
    }
    Some(of.to_vec())
}

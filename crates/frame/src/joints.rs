//! Nodes → end cuts. At a node some members pass and some end. Ends are mitred in pairs or put in an order:
//! each is trimmed by those before it, on the face it comes upon from its own far end, and only where the two
//! would run into one another.

use super::meets::{NEARLY_IN_LINE, Near, TOUCH, face_met, mitre, near};
use ground::geom::ROUNDING;
use std::collections::HashMap;

use super::bar::{Bar, Surface};
use super::members_at_node::{MemberAtNode, members_at_node};
use super::model::{Cause, EndCut};
use super::profile::Profile;
use crate::build::overrides::JointOverride;
use crate::build::skeleton::Skeleton;
use crate::choices::JointHow;

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Role {
    Passes,
    Through,
    Mitred,
    Against,
    /// Ends here alone, or nothing is in its way.
    Free,
}

/// What became of a node.
#[derive(Clone, Debug)]
pub struct Joint {
    pub node: usize,
    pub line: String,
    pub how: JointHow,
    pub members_at_node: Vec<(MemberAtNode, Role)>,
    /// Pairs that meet: the one that ends, the one it ends at.
    pub meets: Vec<(usize, usize)>,
    /// Pairs that touch besides: the first was already cut clear of the second.
    pub touches: Vec<(usize, usize)>,
    /// Passing members that run into one another.
    pub clashes: Vec<(usize, usize)>,
}

/// Members that are fitted to one another at one node.
pub const MOST_AT_NODE: usize = 100;

/// Works out the cuts of every node in turn.
pub fn close(
    s: &mut Skeleton,
    told: &HashMap<usize, JointOverride>,
    usual: JointHow,
    gap: f64,
) -> Vec<Joint> {
    let at = members_at_node(s);
    let mut out = Vec::new();
    for (node, mut here) in at.into_iter().enumerate() {
        if here.len() < 2 {
            continue;
        }
        if here.len() > MOST_AT_NODE {
            s.crowded.push((node, here.len()));
            continue;
        }
        let told = told.get(&node).or_else(|| told.get(&s.nodes[node].root));
        let mitred = [node, s.nodes[node].root].iter().any(|n| s.mitred.contains(n));
        let how = told.map_or(if mitred { JointHow::Mitre } else { usual }, |t| t.how);
        let gap = told.and_then(|t| t.gap).unwrap_or(gap);
        rank(s, told, &mut here);
        out.push(node_cuts(s, node, here, how, gap, told));
    }
    out
}

/// Passing members first, then as told, then the larger section, then posts, then as said.
fn rank(s: &Skeleton, told: Option<&JointOverride>, here: &mut [MemberAtNode]) {
    here.sort_by(|a, b| {
        let key = |x: &MemberAtNode| {
            let m = &s.members[x.member];
            let place = told
                .and_then(|t| t.first.iter().position(|&f| f == m.root || f == x.member))
                .unwrap_or(usize::MAX);
            let size = s.profiles[m.profile].section.shape.size();
            // Of a copy its original counts: what nobody told is decided alike there.
            (
                x.end.is_some(),
                place,
                -(size.x * size.y * 1e3).round(),
                -(x.bar.d.z.abs() * 1e3).round(),
                (m.root, x.member),
            )
        };
        let (p, q) = (key(a), key(b));
        p.0.cmp(&q.0)
            .then(p.1.cmp(&q.1))
            .then(p.2.total_cmp(&q.2))
            .then(p.3.total_cmp(&q.3))
            .then(p.4.cmp(&q.4))
    });
}

fn node_cuts(
    s: &mut Skeleton,
    node: usize,
    here: Vec<MemberAtNode>,
    how: JointHow,
    gap: f64,
    told: Option<&JointOverride>,
) -> Joint {
    let mut joint = Joint {
        node,
        line: told.map_or_else(String::new, |t| t.line.clone()),
        how,
        members_at_node: Vec::new(),
        meets: Vec::new(),
        touches: Vec::new(),
        clashes: Vec::new(),
    };
    let mut roles = vec![Role::Free; here.len()];
    let passing = here.iter().take_while(|a| a.end.is_none()).count();
    for (i, role) in roles.iter_mut().enumerate().take(passing) {
        *role = Role::Passes;
        joint.clashes.extend(here[..i].iter().map(|a| (a.member, here[i].member)));
    }
    let mut pairs: Vec<(usize, usize)> = Vec::new();
    let told_pair = told.is_some_and(|t| t.how == JointHow::Mitre && t.first.len() >= 2);
    // Ends in line with one another are spliced, square, whatever else comes there; a told mitre comes first.
    for in_line in [!told_pair, told_pair] {
        if in_line {
            for j in passing..here.len() {
                ground::halt::point();
                for i in passing..j {
                    if here[i].bar.d.dot(here[j].bar.d)
                        < if told.is_some() { -1.0 + ROUNDING } else { NEARLY_IN_LINE }
                    {
                        close_in_line(s, &here, (i, j), gap, &mut pairs, &mut roles, &mut joint);
                    }
                }
            }
        } else if how == JointHow::Mitre
            && (passing == 0 || told.is_some())
            && let Some(pair) = mitred_pair(s, &here, passing, told, &pairs)
        {
            mitre_pair(s, &here, pair, gap, &mut pairs, &mut roles, &mut joint);
        }
    }
    let mut against: Vec<usize> = Vec::new();
    for j in passing.max(1)..here.len() {
        ground::halt::point();
        for i in 0..j {
            if pairs.contains(&(i, j)) {
                continue;
            }
            match near(s, &here[j], &here[i], TOUCH + gap) {
                Near::Collides => {}
                Near::Touches => {
                    joint.touches.push((here[j].member, here[i].member));
                    continue;
                }
                Near::Apart => continue,
            }
            let (wall, own) = (
                &s.profiles[s.members[here[i].member].profile],
                &s.profiles[s.members[here[j].member].profile],
            );
            let surface = face_met(wall, &here[i].bar, &here[j].bar, own, gap);
            put(s, &here[j], surface, Cause::Against, here[i].member);
            if roles[j] == Role::Free {
                roles[j] = Role::Against;
            }
            joint.meets.push((here[j].member, here[i].member));
            if i == 0 && passing == 0 {
                against.push(j);
            }
        }
    }
    if passing == 0 && roles[0] != Role::Mitred && !against.is_empty() {
        roles[0] = Role::Through;
        run_through(s, &here, &against);
    }
    joint.members_at_node = here.into_iter().zip(roles).collect();
    joint
}

/// Cuts two ends on one plane, where there is one.
fn mitre_pair(
    s: &mut Skeleton,
    here: &[MemberAtNode],
    (i, j): (usize, usize),
    gap: f64,
    pairs: &mut Vec<(usize, usize)>,
    roles: &mut [Role],
    joint: &mut Joint,
) {
    let Some(cuts) = mitre(side(s, &here[i]), side(s, &here[j]), gap) else { return };
    for (k, surface) in [i, j].into_iter().zip(cuts) {
        put(s, &here[k], surface, Cause::Mitre, here[i + j - k].member);
        roles[k] = Role::Mitred;
    }
    joint.meets.push((here[j].member, here[i].member));
    pairs.push((i, j));
}

/// Splices two ends in line. Where one is mitred with a third already, the other is cut square, clear of it.
fn close_in_line(
    s: &mut Skeleton,
    here: &[MemberAtNode],
    (i, j): (usize, usize),
    gap: f64,
    pairs: &mut Vec<(usize, usize)>,
    roles: &mut [Role],
    joint: &mut Joint,
) {
    let taken = |k: usize| pairs.iter().any(|p| p.0 == k || p.1 == k);
    let (first, second) = match (taken(i), taken(j)) {
        (false, false) => return mitre_pair(s, here, (i, j), gap, pairs, roles, joint),
        (true, true) => return,
        (true, false) => (i, j),
        (false, true) => (j, i),
    };
    let (a, b) = (&here[first], &here[second]);
    let Some(end) = a.end else { return };
    let m = &s.members[a.member];
    let cuts = m.cuts(end);
    let beyond = m.rim(&s.profiles[m.profile], end).iter().map(|&q| cuts.station(q)).fold(0.0, f64::min);
    let surface = Surface::Plane { at: a.bar.o + a.bar.d * (beyond - gap), normal: b.bar.d };
    put(s, b, surface, Cause::Against, a.member);
    roles[second] = Role::Against;
    joint.meets.push((b.member, a.member));
    pairs.push((i, j));
}

fn side<'a>(s: &'a Skeleton, a: &'a MemberAtNode) -> (&'a Bar, &'a Profile) {
    (&a.bar, &s.profiles[s.members[a.member].profile])
}

fn put(s: &mut Skeleton, a: &MemberAtNode, surface: Surface, cause: Cause, by: usize) {
    if let Some(k) = a.end {
        s.members[a.member].trims[k].push(EndCut { surface, cause, by: Some(by) });
    }
}

/// The two ends that are mitred: those told first, or the first two of one section that do not fold back on
/// one another.
fn mitred_pair(
    s: &Skeleton,
    here: &[MemberAtNode],
    passing: usize,
    told: Option<&JointOverride>,
    taken: &[(usize, usize)],
) -> Option<(usize, usize)> {
    let named = |a: &MemberAtNode| {
        told.is_some_and(|t| t.first.iter().take(2).any(|&f| f == s.members[a.member].root || f == a.member))
    };
    let folds = |i: usize, j: usize| here[i].bar.d.dot(here[j].bar.d) > 1.0 - ROUNDING;
    if told.is_some_and(|t| t.first.len() >= 2) {
        let mut of = (passing..here.len()).filter(|&i| named(&here[i]));
        let (i, j) = (of.next()?, of.next()?);
        return (!folds(i, j)).then_some((i, j));
    }
    let pairs = (passing..here.len()).flat_map(|i| (i + 1..here.len()).map(move |j| (i, j)));
    let alike = |i: usize, j: usize| s.members[here[i].member].profile == s.members[here[j].member].profile;
    let two = here.len() - passing == 2;
    let free = |k: usize| !taken.iter().any(|p| p.0 == k || p.1 == k);
    pairs.filter(|&(i, j)| free(i) && free(j) && !folds(i, j)).find(|&(i, j)| two || alike(i, j))
}

/// The first runs on, square, until it carries the whole foot of the others.
fn run_through(s: &mut Skeleton, here: &[MemberAtNode], against: &[usize]) {
    let first = &here[0];
    let mut reach: f64 = f64::INFINITY;
    for &j in against {
        ground::halt::point();
        let (Some(end), m) = (here[j].end, &s.members[here[j].member]) else { continue };
        let cuts = m.cuts(end);
        for &q in m.rim(&s.profiles[m.profile], end) {
            reach = reach.min((cuts.tip(q) - first.bar.o).dot(first.bar.d));
        }
    }
    if reach.is_finite() {
        let surface = Surface::Plane { at: first.bar.o + first.bar.d * reach, normal: first.bar.d };
        put(s, first, surface, Cause::Through, here[against[0]].member);
    }
}

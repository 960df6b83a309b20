//! Nodes → end cuts. At a node some members pass and some end. Ends are mitred in pairs or put in an order:
//! each is trimmed by those before it, on the face it comes upon from its own far end, and only where the two
//! would run into one another.

use std::collections::HashMap;

use glam::{DVec2, DVec3};

use super::arrivals::{Arrival, arrivals};
use super::bar::{Bar, Surface};
use super::chords::Chords;
use super::model::{Cause, Trim};
use super::profile::Profile;
use crate::build::skeleton::Skeleton;
use crate::build::told::JointOverride;
use crate::choices::JointHow;

/// Members that stand nearer than this touch, mm.
const TOUCH: f64 = 0.1;

/// Cosine between ends that go on in line but for a kink of 15°: too shallow for one to end at the other's
/// face.
const NEARLY_IN_LINE: f64 = -0.966;

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
    pub arrivals: Vec<(Arrival, Role)>,
    /// Pairs that meet: the one that ends, the one it ends at.
    pub meets: Vec<(usize, usize)>,
    /// Pairs that touch besides: the first was already cut clear of the second.
    pub touches: Vec<(usize, usize)>,
    /// Passing members that run into one another.
    pub clashes: Vec<(usize, usize)>,
}

/// The surface that a bar coming from its far end meets on another: a face, a round, or the whole outline.
pub fn face_met(wall: &Profile, w: &Bar, bar: &Bar, profile: &Profile, gap: f64) -> Surface {
    let shape = &wall.section.shape;
    if shape.is_round() {
        return Surface::Round { at: w.o, axis: w.d, radius: shape.size().x / 2.0 + gap };
    }
    let (v, _) = w.turned(bar.d);
    let whole = Surface::Outline { bar: *w, outline: wall.outline.clone(), gap };
    if v.length() < 1e-6 {
        return Surface::Plane { at: bar.o, normal: bar.d };
    }
    // The side of the box that the middle of the bar comes upon; beside the box, the side that faces it most.
    let half = shape.size() / 2.0;
    let (p, _) = w.local(bar.o);
    let sides = [(DVec2::X, half.x), (-DVec2::X, half.x), (DVec2::Y, half.y), (-DVec2::Y, half.y)];
    let facing = sides.iter().filter(|(n, _)| n.dot(v) > 1e-6);
    let mut entries: Vec<(f64, DVec2, f64)> =
        facing.map(|&(n, r)| ((r - n.dot(p)) / n.dot(v), n, r)).collect();
    entries.sort_by(|a, b| a.0.total_cmp(&b.0));
    let Some(&(first, n, r)) = entries.first() else { return whole };
    // Upon a corner, no one face is met.
    if entries.get(1).is_some_and(|e| e.0 - first < 1e-6) {
        return whole;
    }
    let normal = w.y * n.x + w.z * n.y;
    let plane = Surface::Plane { at: w.o + normal * (r + gap), normal };
    if shape.is_boxed() {
        return plane;
    }
    // An open section is met by a plane only where every point of the bar comes upon that side.
    let flat = profile.outline.iter().all(|&q| {
        let o = bar.point(q, 0.0);
        (whole.station(o, bar.d) - plane.station(o, bar.d)).abs() < 1e-3
    });
    if flat { plane } else { whole }
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Near {
    Collides,
    Touches,
    Apart,
}

/// Whether a bar that ends would run into another: some line of it, from its own cut on, lies inside the
/// other where that has material. If not, whether it would if it ended later by `slack`: the two touch.
fn near(s: &Skeleton, j: &Arrival, i: &Arrival, slack: f64) -> Near {
    let (mj, mi) = (&s.members[j.member], &s.members[i.member]);
    let (pj, pi) = (&s.profiles[mj.profile], &s.profiles[mi.profile]);
    let (v, slope) = i.bar.turned(j.bar.d);
    let (Some(end), Some(chords)) = (j.end, Chords::new(&pi.outline, v)) else { return Near::Apart };
    let (own, other) = (mj.cuts(end), i.end.map(|k| mi.cuts(k)));
    let spots = pj
        .rim
        .iter()
        .map(|&q| q * 0.999)
        .chain(pj.outline.iter().map(|&q| q * 0.5))
        .chain(std::iter::once(DVec2::ZERO));
    let mut out = Near::Apart;
    for q in spots {
        ground::halt::point();
        let (p, along) = i.bar.local(j.bar.point(q, 0.0));
        let begins = own.station(q);
        if chords.beyond(p) < begins - slack {
            continue;
        }
        let Some((low, high)) = chords.inside(p) else { continue };
        let to = high.min(mj.length);
        let runs_in = |from: f64| {
            to - from >= 1e-3
                && other.as_ref().is_none_or(|other| {
                    // Where the line is inside the other's outline, does the other have material there?
                    [0.02, 0.35, 0.65, 0.98].iter().any(|t| {
                        let at = from + (to - from) * t;
                        let begins = other.station(p + v * at);
                        along + slope * at > begins + 1e-3 && along + slope * at < mi.length + begins.abs()
                    })
                })
        };
        if runs_in(low.max(begins)) {
            return Near::Collides;
        }
        if out == Near::Apart && runs_in(low.max(begins - slack)) {
            out = Near::Touches;
        }
    }
    out
}

/// The plane through the outer and the inner corner of two bars that meet: half the angle for equal sections,
/// and for any at a shallow corner.
fn mitre(a: (&Bar, &Profile), b: (&Bar, &Profile), gap: f64) -> Option<[Surface; 2]> {
    let (da, db) = (a.0.d, b.0.d);
    let w = da.cross(db);
    if w.length() < 1e-6 {
        // In line: a square splice; folded back on itself: nothing to mitre.
        return (da.dot(db) < 0.0).then(|| {
            let at = a.0.o;
            [
                Surface::Plane { at: at + da * gap / 2.0, normal: da },
                Surface::Plane { at: at + db * gap / 2.0, normal: db },
            ]
        });
    }
    let w = w.normalize();
    // Inwards is towards the other bar.
    let sides = |bar: &Bar, profile: &Profile, other: DVec3| {
        let t = (other - bar.d * bar.d.dot(other)).normalize();
        let (v, _) = bar.turned(t);
        (bar.o + t * profile.reach(v), bar.o - t * profile.reach(-v))
    };
    let (a_in, a_out) = sides(a.0, a.1, db);
    let (b_in, b_out) = sides(b.0, b.1, da);
    let meet = |p: DVec3, q: DVec3| {
        // p + s·da and q + t·db in the plane across w.
        let v = (q - p) - w * w.dot(q - p);
        let s = v.cross(db).dot(w) / da.cross(db).dot(w);
        p + da * s
    };
    let (inner, outer) = (meet(a_in, b_in), meet(a_out, b_out));
    let along = inner - outer;
    let half = (da - db).normalize();
    let corners = if along.length() > 1e-6 { along.cross(w).normalize() } else { half };
    // Where the sections differ by more than the corner bears, no plane from corner to corner lies between
    // the two: both are cut at half the angle, and the larger stands over.
    let off = |n: DVec3, d: DVec3| n.dot(d).abs().clamp(0.0, 1.0).acos();
    let between = (off(corners, da) + off(corners, db) - da.angle_between(-db)).abs() < 1e-6;
    let (normal, inner) = if between { (corners, inner) } else { (half, meet(a.0.o, b.0.o)) };
    let toward = |d: DVec3| normal * normal.dot(d).signum();
    let (na, nb) = (toward(da), toward(db));
    if na.dot(nb) > 0.0 {
        return None;
    }
    Some([
        Surface::Plane { at: inner + na * gap / 2.0, normal: na },
        Surface::Plane { at: inner + nb * gap / 2.0, normal: nb },
    ])
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
    let at = arrivals(s);
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
        let how = told.map_or(usual, |t| t.how);
        let gap = told.and_then(|t| t.gap).unwrap_or(gap);
        rank(s, told, &mut here);
        out.push(node_cuts(s, node, here, how, gap, told));
    }
    out
}

/// Passing members first, then as told, then the larger section, then posts, then as said.
fn rank(s: &Skeleton, told: Option<&JointOverride>, here: &mut [Arrival]) {
    here.sort_by(|a, b| {
        let key = |x: &Arrival| {
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
    here: Vec<Arrival>,
    how: JointHow,
    gap: f64,
    told: Option<&JointOverride>,
) -> Joint {
    let mut joint = Joint {
        node,
        line: told.map_or_else(String::new, |t| t.line.clone()),
        how,
        arrivals: Vec::new(),
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
                        < if told.is_some() { -1.0 + 1e-9 } else { NEARLY_IN_LINE }
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
    joint.arrivals = here.into_iter().zip(roles).collect();
    joint
}

/// Cuts two ends on one plane, where there is one.
fn mitre_pair(
    s: &mut Skeleton,
    here: &[Arrival],
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
    here: &[Arrival],
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

fn side<'a>(s: &'a Skeleton, a: &'a Arrival) -> (&'a Bar, &'a Profile) {
    (&a.bar, &s.profiles[s.members[a.member].profile])
}

fn put(s: &mut Skeleton, a: &Arrival, surface: Surface, cause: Cause, by: usize) {
    if let Some(k) = a.end {
        s.members[a.member].trims[k].push(Trim { surface, cause, by: Some(by) });
    }
}

/// The two ends that are mitred: those told first, or the first two of one section that do not fold back on
/// one another.
fn mitred_pair(
    s: &Skeleton,
    here: &[Arrival],
    passing: usize,
    told: Option<&JointOverride>,
    taken: &[(usize, usize)],
) -> Option<(usize, usize)> {
    let named = |a: &Arrival| {
        told.is_some_and(|t| t.first.iter().take(2).any(|&f| f == s.members[a.member].root || f == a.member))
    };
    let folds = |i: usize, j: usize| here[i].bar.d.dot(here[j].bar.d) > 1.0 - 1e-9;
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
fn run_through(s: &mut Skeleton, here: &[Arrival], against: &[usize]) {
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

/// Told trims, once the joints stand: each shortens, or lengthens where it was told to. Returns those that
/// would have lengthened, with by how much.
pub fn told_trims(s: &mut Skeleton) -> Vec<(String, usize, f64)> {
    let mut refused = Vec::new();
    for told in std::mem::take(&mut s.told) {
        ground::halt::point();
        let m = &s.members[told.member];
        let reach = |q: DVec2| m.station_of(told.end, &told.trim.surface, q) - m.station(told.end, q);
        // At the middle it may lie outside the end and yet take a corner off.
        let rim = m.rim(&s.profiles[m.profile], told.end);
        let (middle, most) =
            (reach(DVec2::ZERO), rim.iter().map(|&q| reach(q)).fold(f64::NEG_INFINITY, f64::max));
        let m = &mut s.members[told.member];
        if told.lengthen && middle < -1e-6 {
            m.trims[told.end] = vec![told.trim];
        } else if most > 1e-6 || middle > -1e-6 {
            if m.trims[told.end].is_empty() && middle < -1e-6 {
                // The rest of the end stays where it was.
                let bar = m.end(told.end);
                m.trims[told.end]
                    .push(Trim { surface: Surface::Plane { at: bar.o, normal: bar.d }, ..told.trim.clone() });
            }
            m.trims[told.end].push(told.trim);
        } else {
            refused.push((told.line, told.member, -middle));
        }
    }
    refused
}

/// Leaves out cuts that nothing of the section comes upon.
pub fn prune(s: &mut Skeleton) {
    for i in 0..s.members.len() {
        ground::halt::point();
        for end in 0..2 {
            let m = &s.members[i];
            if m.trims[end].len() < 2 {
                continue;
            }
            let (mut used, cuts) = (vec![false; m.trims[end].len()], m.cuts(end));
            for k in s.profiles[m.profile].rim.iter().filter_map(|&q| cuts.first(q)) {
                used[k] = true;
            }
            let mut keep = used.iter();
            s.members[i].trims[end].retain(|_| *keep.next().unwrap_or(&true));
        }
    }
}

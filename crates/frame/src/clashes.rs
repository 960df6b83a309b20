//! Members whose metal meets where no joint brings them together: pairs that come near one another, then
//! their bodies, each drawn in by what is still a touch.

use std::collections::{HashMap, HashSet};

use glam::{DVec2, DVec3};

use super::FrameResult;
use super::body::{Body, body};
use super::drill::drill;
use super::model::{Hole, Member};
use super::profile::Profile;

/// This deep in one another is a touch, mm: what a weld and a drawn round leave open.
const TOUCH: f64 = 0.3;
/// The most pairs that are told of one frame.
pub const MOST: usize = 40;

/// Two members that take one place, and where.
#[derive(Clone, Debug, PartialEq)]
pub struct Clash {
    pub a: usize,
    pub b: usize,
    pub at: DVec3,
}

struct Hull {
    low: DVec3,
    high: DVec3,
}

impl Hull {
    fn of(points: impl IntoIterator<Item = DVec3>) -> Hull {
        let none = Hull { low: DVec3::INFINITY, high: DVec3::NEG_INFINITY };
        points.into_iter().fold(none, |h, p| Hull { low: h.low.min(p), high: h.high.max(p) })
    }

    fn meets(&self, other: &Hull) -> bool {
        self.low.cmple(other.high).all() && other.low.cmple(self.high).all()
    }
}

pub fn clashes(r: &FrameResult) -> Vec<Clash> {
    let joined: HashSet<(usize, usize)> = r
        .joints
        .iter()
        .flat_map(|j| {
            j.members_at_node.iter().flat_map(|(x, _)| {
                j.members_at_node.iter().map(|(y, _)| (x.member.min(y.member), x.member.max(y.member)))
            })
        })
        .collect();
    // Members from west to east, each with those that begin before it ends.
    let reach: Vec<f64> =
        r.profiles.iter().map(|p| p.fine.iter().map(|q| q.length()).fold(0.0, f64::max)).collect();
    let hulls: Vec<Hull> = r.members.iter().map(|m| hull(m, reach[m.profile])).collect();
    let mut order: Vec<usize> = (0..hulls.len()).collect();
    order.sort_by(|a, b| hulls[*a].low.x.total_cmp(&hulls[*b].low.x));
    let mut bodies: HashMap<usize, Option<Drawn>> = HashMap::new();
    let mut seen: HashSet<(usize, usize)> = HashSet::new();
    let mut out = Vec::new();
    for (k, &i) in order.iter().enumerate() {
        ground::halt::point();
        for &j in order[k + 1..].iter().take_while(|j| hulls[**j].low.x <= hulls[i].high.x) {
            let (a, b) = (i.min(j), i.max(j));
            if !hulls[i].meets(&hulls[j])
                || joined.contains(&(a, b))
                || apart(r, a, b, reach[r.members[a].profile] + reach[r.members[b].profile])
            {
                continue;
            }
            let roots = (r.members[a].root, r.members[b].root);
            if seen.contains(&roots) {
                continue;
            }
            for n in [a, b] {
                bodies
                    .entry(n)
                    .or_insert_with(|| Drawn::new(&r.members[n], &r.profiles[r.members[n].profile]));
            }
            if let (Some(Some(x)), Some(Some(y))) = (bodies.get(&a), bodies.get(&b))
                && let Some(at) = x.meets(y)
            {
                seen.insert(roots);
                out.push(Clash { a, b, at });
            }
            if out.len() >= MOST {
                return out;
            }
        }
    }
    out.sort_by_key(|c| (c.a, c.b));
    out
}

fn hull(m: &Member, reach: f64) -> Hull {
    let ends = m.way.iter().flat_map(|s| [0.0, 0.25, 0.5, 0.75, 1.0].map(|t| s.at(t).o));
    let beyond = [0, 1].map(|k| m.end(k).point(DVec2::ZERO, m.station(k, DVec2::ZERO).min(0.0)));
    let h = Hull::of(ends.chain(beyond));
    // A bend stands out between the places that were looked at by less than a part of its radius; ends slant
    // by the section's size.
    let more = reach * 3.0
        + m.way
            .iter()
            .map(|s| {
                if let super::model::CentrelineSegment::Bend { radius, .. } = s { radius * 0.3 } else { 0.0 }
            })
            .fold(0.0, f64::max);
    Hull { low: h.low - more, high: h.high + more }
}

/// Whether two straight members keep clear of one another by their lines alone.
fn apart(r: &FrameResult, a: usize, b: usize, reach: f64) -> bool {
    let (ma, mb) = (&r.members[a], &r.members[b]);
    if !ma.is_straight() || !mb.is_straight() {
        return false;
    }
    let line = |m: &Member| {
        let bar = m.end(0);
        // As far as its points go, wherever its ends are cut.
        let slack = 3.0 * reach;
        (bar.o - bar.d * slack, bar.o + bar.d * (m.length + slack))
    };
    let ((p, q), (s, t)) = (line(ma), line(mb));
    between(p, q, s, t) > reach
}

/// Shortest distance between two segments (after Ericson 2005, 5.1.9).
fn between(p1: DVec3, q1: DVec3, p2: DVec3, q2: DVec3) -> f64 {
    let (d1, d2, r) = (q1 - p1, q2 - p2, p1 - p2);
    let (a, e, f, c, b) = (d1.dot(d1), d2.dot(d2), d2.dot(r), d1.dot(r), d1.dot(d2));
    let denom = a * e - b * b;
    let mut s = if denom > 1e-12 * a * e { ((b * f - c * e) / denom).clamp(0.0, 1.0) } else { 0.0 };
    let mut t = (b * s + f) / e.max(1e-18);
    if t < 0.0 {
        t = 0.0;
        s = (-c / a.max(1e-18)).clamp(0.0, 1.0);
    } else if t > 1.0 {
        t = 1.0;
        s = ((b - c) / a.max(1e-18)).clamp(0.0, 1.0);
    }
    (p1 + d1 * s).distance(p2 + d2 * t)
}

/// A body drawn in by half a touch all round.
struct Drawn {
    points: Vec<DVec3>,
    triangles: Vec<([DVec3; 3], Hull)>,
    edges: Vec<(DVec3, DVec3)>,
    hull: Hull,
}

impl Drawn {
    fn new(m: &Member, p: &Profile) -> Option<Drawn> {
        let inset = drawn_in(p);
        let own = inset.as_ref().unwrap_or(p);
        let mut b = body(m, own, true);
        if !m.closed && m.is_straight() {
            let n = b.points.len() / 2;
            let by = m.end(0).d * (TOUCH / 2.0);
            b.points[..n].iter_mut().for_each(|q| *q += by);
            b.points[n..].iter_mut().for_each(|q| *q -= by);
        }
        // What passes through a hole does not clash.
        let wider = |h: &Hole| Hole { diameter: h.diameter + TOUCH, length: h.length + TOUCH, ..h.clone() };
        for h in m.holes.iter().map(wider) {
            if let Some(bar) = m.straight_at(h.along) {
                b = drill(b, own, std::slice::from_ref(&h), &|q| bar.point(DVec2::new(q.y, q.z), q.x), None);
            }
        }
        Some(Drawn::of(&b)).filter(|d| !d.triangles.is_empty())
    }

    fn of(b: &Body) -> Drawn {
        let at = |i: u32| b.points[i as usize];
        let triangles = b.triangles.iter().map(|t| t.map(at)).map(|t| (t, Hull::of(t))).collect();
        let mut sides: Vec<(u32, u32)> = b
            .triangles
            .iter()
            .flat_map(|t| [(t[0], t[1]), (t[1], t[2]), (t[2], t[0])])
            .map(|(i, j)| (i.min(j), i.max(j)))
            .collect();
        sides.sort_unstable();
        sides.dedup();
        Drawn {
            triangles,
            edges: sides.into_iter().map(|(i, j)| (at(i), at(j))).collect(),
            hull: Hull::of(b.points.iter().copied()),
            points: b.points.clone(),
        }
    }

    /// A place that both take: where an edge of one comes through a face of the other, or a point of one that
    /// lies wholly in the other.
    fn meets(&self, other: &Drawn) -> Option<DVec3> {
        if !self.hull.meets(&other.hull) {
            return None;
        }
        let through = |edges: &Drawn, faces: &Drawn| {
            let near: Vec<&([DVec3; 3], Hull)> =
                faces.triangles.iter().filter(|t| t.1.meets(&edges.hull)).collect();
            edges.edges.iter().find_map(|&(p, q)| {
                ground::halt::often();
                let own = Hull::of([p, q]);
                if !own.meets(&faces.hull) {
                    return None;
                }
                near.iter().filter(|t| t.1.meets(&own)).find_map(|t| pierced(p, q, &t.0))
            })
        };
        let inside = |small: &Drawn, large: &Drawn| small.points.first().copied().filter(|p| large.holds(*p));
        through(self, other)
            .or_else(|| through(other, self))
            .or_else(|| inside(self, other))
            .or_else(|| inside(other, self))
    }

    /// Whether a point lies in the metal: an odd number of faces on the way out of it.
    fn holds(&self, p: DVec3) -> bool {
        // In no direction that a frame is built in.
        let far = p + DVec3::new(0.5377, 0.8339, 0.1234) * (self.hull.high - self.hull.low).length() * 2.0;
        self.triangles.iter().filter(|t| pierced(p, far, &t.0).is_some()).count() % 2 == 1
    }
}

/// The section drawn in by half a touch; none where that leaves nothing of a thin wall.
fn drawn_in(p: &Profile) -> Option<Profile> {
    let by = (TOUCH / 2.0).min(p.section.shape.thickness() / 4.0);
    let outer = p.outer.inset(by)?;
    let holes = p.holes.iter().map(|h| h.inset(-by)).collect::<Option<Vec<_>>>()?;
    Some(Profile { outer, holes, ..p.clone() })
}

/// Where a segment comes through a triangle (after Möller and Trumbore 1997).
fn pierced(p: DVec3, q: DVec3, t: &[DVec3; 3]) -> Option<DVec3> {
    let d = q - p;
    let (u, v) = (t[1] - t[0], t[2] - t[0]);
    let h = d.cross(v);
    let det = u.dot(h);
    if det.abs() < 1e-12 * d.length() * u.length() * v.length() {
        return None;
    }
    let s = p - t[0];
    let a = s.dot(h) / det;
    let k = s.cross(u);
    let b = d.dot(k) / det;
    let at = v.dot(k) / det;
    (a >= 0.0 && b >= 0.0 && a + b <= 1.0 && (0.0..=1.0).contains(&at)).then(|| p + d * at)
}

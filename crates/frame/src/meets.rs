//! How two ends at a node come upon one another: face to face, or in line, and where each is cut.

use super::bar::{Bar, Surface};
use super::chords::Chords;
use super::members_at_node::MemberAtNode;
use super::profile::Profile;
use crate::build::skeleton::Skeleton;
use glam::{DVec2, DVec3};
use ground::geom::COINCIDENT;

/// Members that stand nearer than this touch, mm.
pub(crate) const TOUCH: f64 = 0.1;

/// Cosine between ends that go on in line but for a kink of 15°: too shallow for one to end at the other's
/// face.
pub(crate) const NEARLY_IN_LINE: f64 = -0.966;

/// The surface that a bar coming from its far end meets on another: a face, a round, or the whole outline.
pub fn face_met(wall: &Profile, w: &Bar, bar: &Bar, profile: &Profile, gap: f64) -> Surface {
    let shape = &wall.section.shape;
    if shape.is_round() {
        return Surface::Round { at: w.o, axis: w.d, radius: shape.size().x / 2.0 + gap };
    }
    let (v, _) = w.turned(bar.d);
    let whole = Surface::Outline { bar: *w, outline: wall.outline.clone(), gap };
    if v.length() < COINCIDENT {
        return Surface::Plane { at: bar.o, normal: bar.d };
    }
    // The side of the box that the middle of the bar comes upon; beside the box, the side that faces it most.
    let half = shape.size() / 2.0;
    let (p, _) = w.local(bar.o);
    let sides = [(DVec2::X, half.x), (-DVec2::X, half.x), (DVec2::Y, half.y), (-DVec2::Y, half.y)];
    let facing = sides.iter().filter(|(n, _)| n.dot(v) > COINCIDENT);
    let mut entries: Vec<(f64, DVec2, f64)> =
        facing.map(|&(n, r)| ((r - n.dot(p)) / n.dot(v), n, r)).collect();
    entries.sort_by(|a, b| a.0.total_cmp(&b.0));
    let Some(&(first, n, r)) = entries.first() else { return whole };
    // Upon a corner, no one face is met.
    if entries.get(1).is_some_and(|e| e.0 - first < COINCIDENT) {
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
pub(crate) enum Near {
    Collides,
    Touches,
    Apart,
}

/// Whether a bar that ends would run into another: some line of it, from its own cut on, lies inside the
/// other where that has material. If not, whether it would if it ended later by `slack`: the two touch.
pub(crate) fn near(s: &Skeleton, j: &MemberAtNode, i: &MemberAtNode, slack: f64) -> Near {
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
pub(crate) fn mitre(a: (&Bar, &Profile), b: (&Bar, &Profile), gap: f64) -> Option<[Surface; 2]> {
    let (da, db) = (a.0.d, b.0.d);
    let w = da.cross(db);
    if w.length() < COINCIDENT {
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
    let corners = if along.length() > COINCIDENT { along.cross(w).normalize() } else { half };
    // Where the sections differ by more than the corner bears, no plane from corner to corner lies between
    // the two: both are cut at half the angle, and the larger stands over.
    let off = |n: DVec3, d: DVec3| n.dot(d).abs().clamp(0.0, 1.0).acos();
    let between = (off(corners, da) + off(corners, db) - da.angle_between(-db)).abs() < COINCIDENT;
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

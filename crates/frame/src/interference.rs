//! Whether two bars that meet at a slant share a place after their joint: the cuts of some corners leave
//! metal in metal.

use glam::DVec2;
use ground::geom::ROUNDING;

use super::chords::Chords;
use super::model::Member;
use super::profile::Profile;
use super::{FrameResult, Joint, MemberAtNode};

/// Two bars nearer to square than this (cosine) are closed by faces and leave nothing; among more, any slant
/// counts.
const SLANT: f64 = 0.5;
const ANY_SLANT: f64 = 0.02;
/// Places looked at along each line where it runs inside the other.
const STEPS: u32 = 40;
/// Less is within what a weld fills, mm.
const SHARED: f64 = 1.0;

/// How far inside a closed outline a point lies; below zero outside.
pub fn within(outline: &[DVec2], p: DVec2) -> f64 {
    let (mut inside, mut away) = (false, f64::INFINITY);
    for (i, &a) in outline.iter().enumerate() {
        let b = outline[(i + 1) % outline.len()];
        if (a.y > p.y) != (b.y > p.y) && p.x < a.x + (p.y - a.y) / (b.y - a.y) * (b.x - a.x) {
            inside = !inside;
        }
        let share = ((p - a).dot(b - a) / (b - a).length_squared().max(1e-18)).clamp(0.0, 1.0);
        away = away.min(p.distance(a.lerp(b, share)));
    }
    if inside { away } else { -away }
}

/// How deep metal of `a` near one of its ends lies in `b`, mm.
fn depth(a: (&Member, &Profile), end: usize, b: (&Member, &Profile)) -> f64 {
    let ((ma, pa), (mb, pb)) = (a, b);
    let (bar, other) = (ma.end(end), mb.end(0));
    let (cuts, others) = ([0, 1].map(|k| ma.cuts(k)), [0, 1].map(|k| mb.cuts(k)));
    let reach = 6.0 * (pa.section.shape.size().max_element() + pb.section.shape.size().max_element());
    let (v, slope) = other.turned(bar.d);
    let Some(chords) = Chords::new(&pb.fine, v) else { return 0.0 };
    let mut worst: f64 = 0.0;
    for q in pa
        .fine
        .iter()
        .step_by((pa.fine.len() / 24).max(1))
        .map(|q| *q * 0.995)
        .filter(|q| within(&pa.fine, *q) > 0.0)
    {
        let from = cuts[end].station(q);
        let to = (ma.length - cuts[end ^ 1].station(q)).min(from + reach);
        // Only where the line runs inside the other's outline.
        let (p, along) = other.local(bar.point(q, 0.0));
        let Some((low, high)) = chords.inside(p) else { continue };
        let (from, to) = (from.max(low), to.min(high));
        if to <= from {
            continue;
        }
        for k in 0..=STEPS {
            let s = from + (to - from) * f64::from(k) / f64::from(STEPS);
            let (at, along) = (p + v * s, along + slope * s);
            let inside = (along - others[0].station(at)).min(mb.length - others[1].station(at) - along);
            if inside > worst {
                worst = worst.max(within(&pb.fine, at).min(inside));
            }
        }
    }
    worst
}

/// Pairs of members at a joint that share a place, and how deep.
pub fn shared(r: &FrameResult, j: &Joint) -> Vec<(usize, usize, f64)> {
    let mut out = Vec::new();
    let of = |i: usize| (&r.members[i], &r.profiles[r.members[i].profile]);
    let lean = |x: &MemberAtNode, y: &MemberAtNode| {
        of(x.member).0.end(x.end.unwrap_or(0)).d.dot(of(y.member).0.end(y.end.unwrap_or(0)).d).abs()
    };
    let pairs: Vec<(&MemberAtNode, &MemberAtNode, f64)> = (0..j.members_at_node.len())
        .flat_map(|k| (0..k).map(move |i| (k, i)))
        .map(|(k, i)| (&j.members_at_node[k].0, &j.members_at_node[i].0))
        .map(|(x, y)| (x, y, lean(x, y)))
        .filter(|p| p.2 < 1.0 - ROUNDING)
        .collect();
    let least = if pairs.len() > 1 { ANY_SLANT } else { SLANT };
    if pairs.iter().all(|p| p.2 < least) {
        return out;
    }
    for (x, y, _) in pairs {
        ground::halt::point();
        let (a, b) = (of(x.member), of(y.member));
        if !a.0.is_straight() || !b.0.is_straight() {
            continue;
        }
        let one = x.end.map_or(0.0, |end| depth(a, end, b));
        let other = y.end.map_or(0.0, |end| depth(b, end, a));
        if one.max(other) > SHARED {
            out.push((x.member, y.member, one.max(other)));
        }
    }
    out
}

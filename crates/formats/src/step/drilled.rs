//! Holes through the flat walls of a bar: on either side of a wall a rim, between them cylinders, and planes
//! along a slot.

use glam::{DVec2, DVec3};
use steelk_core::frame::{Hole, Profile, Walls};
use steelk_core::geom::Segment;

use super::bar::{LEAST, Stand};
use super::ends::End;
use super::shell::{Curve, Face, Shell, Surface};

/// Flat faces along the bar, by their sides in the section, with what is drilled in each: across and along.
pub struct Flats {
    pub faces: Vec<(usize, Segment)>,
    taken: Vec<(usize, [DVec2; 2])>,
}

impl Flats {
    pub fn new(faces: Vec<(usize, Segment)>) -> Flats {
        Flats { faces, taken: Vec::new() }
    }

    /// The face that lies square across a hole's way, so far out, with room for all of its rim.
    fn under(&mut self, h: &Hole, level: f64, ends: &[End; 2]) -> Option<usize> {
        let across = h.out.perp();
        let (off, r, half) = (h.at.dot(across), h.diameter / 2.0, h.length.max(h.diameter) / 2.0);
        let low = DVec2::new(off - r, h.along - half);
        let high = DVec2::new(off + r, h.along + half);
        for u in [low.x, high.x] {
            let q = h.out * level + across * u;
            if low.y < ends[0].station(q) + LEAST || high.y > ends[1].station(q) - LEAST {
                return None;
            }
        }
        let fits = |s: &Segment| {
            let (a, b) = (s.a.dot(across), s.b.dot(across));
            (s.a.dot(h.out) - level).abs() < LEAST
                && (s.b.dot(h.out) - level).abs() < LEAST
                && a.min(b) < low.x - LEAST
                && a.max(b) > high.x + LEAST
        };
        let face = self.faces.iter().find(|f| f.1.is_line() && fits(&f.1))?.0;
        let beside = |(on, [a, b]): &(usize, [DVec2; 2])| {
            *on != face || a.cmpgt(high + LEAST).any() || b.cmplt(low - LEAST).any()
        };
        if !self.taken.iter().all(beside) {
            return None;
        }
        self.taken.push((face, [low, high]));
        Some(face)
    }
}

/// The rim of a hole about its own middle, across and along, against the clock as it is looked at from
/// outside; each side with the middle of its round.
fn plan(h: &Hole) -> Vec<(DVec2, Option<DVec2>)> {
    let (r, half) = (h.diameter / 2.0, (h.length - h.diameter).max(0.0) / 2.0);
    if half < LEAST {
        return vec![(DVec2::new(r, 0.0), Some(DVec2::ZERO)), (DVec2::new(-r, 0.0), Some(DVec2::ZERO))];
    }
    let end = DVec2::new(0.0, half);
    vec![
        (DVec2::new(r, -half), None),
        (DVec2::new(r, half), Some(end)),
        (DVec2::new(-r, half), None),
        (DVec2::new(-r, -half), Some(-end)),
    ]
}

/// Drills a hole through each wall that it meets; none where one of them is not flat, or has no room for it.
pub fn drill(
    out: &mut Shell,
    flats: &mut Flats,
    h: &Hole,
    p: &Profile,
    ends: &[End; 2],
    at: &Stand,
) -> Option<()> {
    if h.notch.is_some() || h.bore.is_some() {
        return None;
    }
    let off = h.at.dot(h.out.perp());
    let mut drilled = false;
    for (top, bottom) in Walls::new(p).through(h.out, off) {
        if top <= h.floor + LEAST {
            continue;
        }
        // A wall that it ends in.
        if bottom < h.floor - LEAST {
            return None;
        }
        let faces = [bottom, top].map(|level| flats.under(h, level, ends));
        wall(out, [faces[0]?, faces[1]?], h, [bottom, top], at);
        drilled = true;
    }
    drilled.then_some(())
}

fn wall(out: &mut Shell, faces: [usize; 2], h: &Hole, levels: [f64; 2], at: &Stand) {
    let across = h.out.perp();
    let middle = DVec2::new(h.at.dot(across), h.along);
    let place = |uv: DVec2, level: f64| at.point(h.out * level + across * uv.x, uv.y);
    let turned = |v: DVec2| at.y * v.x + at.z * v.y;
    // In a left hand it is looked at in a mirror.
    let hand = at.y.cross(at.z).dot(at.d).signum();
    let (outwards, along) = (turned(h.out), turned(across));
    let plan = plan(h);
    let n = plan.len();
    let points: Vec<[usize; 2]> =
        plan.iter().map(|(q, _)| levels.map(|l| out.point(place(middle + *q, l)))).collect();
    let uprights: Vec<usize> = points.iter().map(|p| out.edge(*p, Curve::Line)).collect();
    let mut rims: [Vec<usize>; 2] = [Vec::new(), Vec::new()];
    for i in 0..n {
        let next = (i + 1) % n;
        for k in 0..2 {
            let curve = plan[i].1.map_or(Curve::Line, |c| Curve::Circle {
                at: place(middle + c, levels[k]),
                axis: outwards * hand,
            });
            rims[k].push(out.edge([points[i][k], points[next][k]], curve));
        }
        let surface = match plan[i].1 {
            Some(c) => Surface::Cylinder {
                at: place(middle + c, levels[0]),
                axis: outwards,
                radius: h.diameter / 2.0,
                inside: true,
            },
            None => {
                let inwards = (plan[next].0 - plan[i].0).perp().normalize_or_zero();
                let normal: DVec3 = along * inwards.x + at.d * inwards.y;
                Surface::Plane { at: place(middle + plan[i].0, levels[0]), normal }
            }
        };
        let run = vec![(rims[1][i], true), (uprights[next], false), (rims[0][i], false), (uprights[i], true)];
        out.faces.push(Face { surface, loops: vec![run] });
    }
    out.faces[faces[0]].loops.push(rims[0].iter().map(|e| (*e, true)).collect());
    out.faces[faces[1]].loops.push(rims[1].iter().rev().map(|e| (*e, false)).collect());
}

//! Holes through the walls of a bar, flat or round: on either side of a wall a rim, between them cylinders,
//! and planes along a slot.

use std::f64::consts::{PI, TAU};

use glam::{DVec2, DVec3};
use steelk_core::frame::{Bar, Hole, Profile, Walls};
use steelk_core::geom::{Contour, Segment, Vertex};
use steelk_core::sheet::Bore;

use super::bar::LEAST;
use super::cubics::{arcs, cubics};
use super::ends::End;
use super::shell::{Curve, Face, Shell, Surface};
use super::well::Mouth;

/// A round wall that is drilled nearer to its half width than this share is drilled along itself.
const STEEPEST: f64 = 0.95;

/// How far out one side of a wall lies, by the place across the way of a hole.
#[derive(Clone, Copy)]
enum Skin {
    Flat(f64),
    /// Middle out and across, radius, and which half.
    Round {
        middle: DVec2,
        radius: f64,
        half: f64,
    },
}

impl Skin {
    fn level(&self, u: f64) -> f64 {
        match *self {
            Skin::Flat(level) => level,
            Skin::Round { middle, radius, half } => {
                middle.x + half * (radius.powi(2) - (u - middle.y).powi(2)).max(0.0).sqrt()
            }
        }
    }
}

/// Faces along the bar, by their sides in the section, with what is drilled in each: round or across, and
/// along.
pub struct Sides {
    pub faces: Vec<(usize, Segment)>,
    taken: Vec<(usize, [DVec2; 2])>,
}

impl Sides {
    pub fn new(faces: Vec<(usize, Segment)>) -> Sides {
        Sides { faces, taken: Vec::new() }
    }

    /// The face that a hole goes through so far out, with room for all of its rim, and how that lies.
    fn under(&mut self, h: &Hole, level: f64, ends: &[End; 2]) -> Option<(usize, Skin)> {
        let across = h.out.perp();
        let (off, r, half) = (h.at.dot(across), h.diameter / 2.0, h.length.max(h.diameter) / 2.0);
        let reach = [off - r, off + r];
        let (&(face, side), skin) =
            self.faces.iter().find_map(|f| Some((f, skin(&f.1, h, level, reach)?)))?;
        let place = |u: f64| h.out * skin.level(u) + across * u;
        for u in [reach[0], off, reach[1]] {
            let q = place(u);
            if h.along - half < ends[0].station(q) + LEAST || h.along + half > ends[1].station(q) - LEAST {
                return None;
            }
        }
        // Where on the face: by the way along its side.
        let along = |u: f64| match side.arc() {
            None => (place(u) - side.a).length(),
            Some(arc) => {
                let turned = (side.a - arc.centre).angle_to(place(u) - arc.centre) * arc.sweep.signum();
                turned.rem_euclid(TAU) * arc.radius
            }
        };
        let (a, b) = (along(reach[0]), along(reach[1]));
        let low = DVec2::new(a.min(b), h.along - half);
        let high = DVec2::new(a.max(b), h.along + half);
        let beside = |(on, [a, b]): &(usize, [DVec2; 2])| {
            *on != face || a.cmpgt(high + LEAST).any() || b.cmplt(low - LEAST).any()
        };
        if !self.taken.iter().all(beside) {
            return None;
        }
        self.taken.push((face, [low, high]));
        Some((face, skin))
    }
}

/// A side of the section as a hole meets it so far out; none where it does not lie there over all of `reach`.
fn skin(side: &Segment, h: &Hole, level: f64, reach: [f64; 2]) -> Option<Skin> {
    let across = h.out.perp();
    let off = h.at.dot(across);
    let Some(arc) = side.arc() else {
        let (a, b) = (side.a.dot(across), side.b.dot(across));
        let fits = (side.a.dot(h.out) - level).abs() < LEAST
            && (side.b.dot(h.out) - level).abs() < LEAST
            && a.min(b) < reach[0] - LEAST
            && a.max(b) > reach[1] + LEAST;
        return fits.then_some(Skin::Flat(level));
    };
    let middle = DVec2::new(arc.centre.dot(h.out), arc.centre.dot(across));
    let round = |half: f64| Skin::Round { middle, radius: arc.radius, half };
    let skin = [1.0, -1.0].map(round).into_iter().find(|s| (s.level(off) - level).abs() < LEAST)?;
    let holds = |u: f64| {
        let from = h.out * skin.level(u) + across * u - arc.centre;
        (u - middle.y).abs() < arc.radius * STEEPEST && arc.has_angle(from.to_angle())
    };
    [reach[0], off, reach[1]].into_iter().all(holds).then_some(skin)
}

/// A round contour parted where no hole meets it: its uprights run beside all of them.
pub fn parted_beside(c: Contour, holes: &[Hole]) -> Contour {
    let Some((centre, radius)) = c.as_circle().filter(|_| !holes.is_empty()) else { return c };
    let free = |turn: f64| {
        let to_hole = |h: &Hole| {
            let wide = ((h.at - centre).dot(h.out.perp()).abs() + h.diameter / 2.0) / radius;
            // It may go through both walls.
            let off = (turn - h.out.to_angle()).rem_euclid(PI);
            off.min(PI - off) - wide.min(1.0).asin()
        };
        holes.iter().map(to_hole).fold(f64::INFINITY, f64::min)
    };
    let turns = (0..PARTS).map(|k| PI * f64::from(k) / f64::from(PARTS));
    let Some(best) = turns.max_by(|a, b| free(*a).total_cmp(&free(*b))) else { return c };
    let way = DVec2::from_angle(best) * radius;
    let bulge = c.signed_area().signum();
    let at = |p: DVec2| Vertex { p, bulge, tag: 0 };
    Contour { vertices: vec![at(centre + way), at(centre - way)] }
}

/// Places round a tube at which it may be parted.
const PARTS: u32 = 72;

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

/// Drills a hole through each wall that it meets; none where one of them has no room for it.
pub fn drill(
    out: &mut Shell,
    flats: &mut Sides,
    h: &Hole,
    p: &Profile,
    ends: &[End; 2],
    at: &Bar,
) -> Option<()> {
    if h.notch.is_some() {
        return None;
    }
    let off = h.at.dot(h.out.perp());
    let mut drilled = false;
    for (n, (top, bottom)) in Walls::new(p).through(h.out, off).into_iter().enumerate() {
        if top <= h.floor + LEAST {
            continue;
        }
        if let Some(bore) = h.bore.as_deref().filter(|b| n == 0 && !b.is_plain()) {
            sink(out, flats, (h, bore), [bottom, top], ends, at)?;
            drilled = true;
            continue;
        }
        // A wall that it ends in.
        if bottom < h.floor - LEAST {
            return None;
        }
        let [below, above] = [bottom, top].map(|level| flats.under(h, level, ends));
        wall(out, [below?, above?], h, at);
        drilled = true;
    }
    drilled.then_some(())
}

/// A hole with a mouth, or one that does not come out, in a flat wall.
fn sink(
    out: &mut Shell,
    flats: &mut Sides,
    (h, bore): (&Hole, &Bore),
    [bottom, top]: [f64; 2],
    ends: &[End; 2],
    at: &Bar,
) -> Option<()> {
    if bore.back || h.length > h.diameter + LEAST {
        return None;
    }
    let t = top - bottom;
    let profile = bore.profile(t);
    let wide = Hole { diameter: bore.widest(), length: bore.widest(), ..h.clone() };
    let own = flats.under(&wide, top, ends)?;
    // What comes out is as wide there as it is told.
    let &(r, deep) = profile.last()?;
    let narrow = Hole { diameter: 2.0 * r, length: 2.0 * r, ..h.clone() };
    let comes_out = deep > t - LEAST && r > LEAST;
    let far = if comes_out { flats.under(&narrow, bottom, ends)? } else { own };
    if [own, far].iter().any(|s| matches!(s.1, Skin::Round { .. })) {
        return None;
    }
    let across = h.out.perp();
    let turned = |v: DVec2| at.y * v.x + at.z * v.y;
    let mouth = Mouth {
        at: at.point(h.out * top + across * h.at.dot(across), h.along),
        out_of: turned(h.out),
        across: at.d,
        hand: at.y.cross(at.z).dot(at.d).signum(),
        t,
        faces: [own.0, far.0],
    };
    out.well(&mouth, &profile);
    Some(())
}

fn wall(out: &mut Shell, sides: [(usize, Skin); 2], h: &Hole, at: &Bar) {
    let across = h.out.perp();
    let middle = DVec2::new(h.at.dot(across), h.along);
    let place = |uv: DVec2, skin: &Skin| at.point(h.out * skin.level(uv.x) + across * uv.x, uv.y);
    let skins = sides.map(|s| s.1);
    let turned = |v: DVec2| at.y * v.x + at.z * v.y;
    // In a left hand it is looked at in a mirror.
    let hand = at.y.cross(at.z).dot(at.d).signum();
    let (outwards, along) = (turned(h.out), turned(across));
    let plan = plan(h);
    let n = plan.len();
    let points: Vec<[usize; 2]> =
        plan.iter().map(|(q, _)| skins.map(|s| out.point(place(middle + *q, &s)))).collect();
    let uprights: Vec<usize> = points.iter().map(|p| out.edge(*p, Curve::Line)).collect();
    let mut rims: [Vec<usize>; 2] = [Vec::new(), Vec::new()];
    for i in 0..n {
        let next = (i + 1) % n;
        for k in 0..2 {
            let curve = match (plan[i].1, &skins[k]) {
                (None, _) => Curve::Line,
                (Some(c), skin @ Skin::Flat(_)) => {
                    Curve::Circle { at: place(middle + c, skin), axis: outwards * hand }
                }
                // Half round, against the clock.
                (Some(c), skin) => {
                    let from = plan[i].0 - c;
                    let on = |f: f64| place(middle + c + DVec2::from_angle(PI * f).rotate(from), skin);
                    Curve::Cubics(cubics(on, arcs(2.0 * PI)))
                }
            };
            rims[k].push(out.edge([points[i][k], points[next][k]], curve));
        }
        let surface = match plan[i].1 {
            Some(c) => Surface::Cylinder {
                at: place(middle + c, &skins[0]),
                axis: outwards,
                radius: h.diameter / 2.0,
                inside: true,
            },
            None => {
                let inwards = (plan[next].0 - plan[i].0).perp().normalize_or_zero();
                let normal: DVec3 = along * inwards.x + at.d * inwards.y;
                Surface::Plane { at: place(middle + plan[i].0, &skins[0]), normal }
            }
        };
        let run = vec![(rims[1][i], true), (uprights[next], false), (rims[0][i], false), (uprights[i], true)];
        out.faces.push(Face { surface, loops: vec![run] });
    }
    out.faces[sides[0].0].loops.push(rims[0].iter().map(|e| (*e, true)).collect());
    out.faces[sides[1].0].loops.push(rims[1].iter().rev().map(|e| (*e, false)).collect());
}

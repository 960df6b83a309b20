//! The faces of a formed piece: for every panel and bend its two sides, for every side of the outline and the
//! holes a wall, for drilled holes what is below the sheet's face.

use std::collections::HashMap;

use glam::{DAffine3, DVec2, DVec3};
use steelk_core::geom::{CHORD, COINCIDENT, Contour, Segment, Vertex};
use steelk_core::result::{BoreMark, PieceResult};
use steelk_core::sheet::mesh::FlatMesh;
use steelk_core::sheet::zones::{Kind, Zone, formed, frames};
use steelk_core::sheet::{Bored, bored};

use super::shell::{Curve, Face, Shell, Surface};

/// Why there is no STEP file of a piece.
#[derive(Debug, thiserror::Error, PartialEq)]
pub enum NoBody {
    #[error(
        "{0} has {1} holes; {MOST} is the most that a STEP file is made of. Take the DXF or the STL, which have them all"
    )]
    TooMany(String, usize),
    #[error("{0} is rolled to a cone, which STEP files are not made of yet. Take the STL or the GLB")]
    Cone(String),
    #[error("the faces of {0} do not close at their edges. Take the STL or the GLB")]
    Open(String),
}

/// Holes of a STEP file.
const MOST: usize = 2_500;
/// A curve over a bend is told in steps of this turn, rad: 1e-7 of its radius off.
const STEP: f64 = 0.04;
/// mm within which a side runs along a bend or across it.
const ALONG: f64 = 1e-7;

/// Which side of which contour.
type Side = (usize, usize);

/// What an edge of a face is shared by.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
enum Border {
    Wall(Side),
    /// The next face, by its number.
    Next(usize),
}

pub fn shell(p: &PieceResult) -> Result<Shell, NoBody> {
    if p.flat.holes.len() > MOST {
        return Err(NoBody::TooMany(p.mark.clone(), p.flat.holes.len()));
    }
    if p.zones.iter().any(|z| matches!(z.kind, Kind::Cone(_))) {
        return Err(NoBody::Cone(p.mark.clone()));
    }
    let mut bored = bored(p);
    // Chords would meet the borders of bends beside the arcs that they stand for.
    let borders: Vec<[DVec2; 2]> = p.zones.iter().flat_map(Zone::tangents).collect();
    let outer = parted(&p.flat.outer, &borders);
    bored.holes.iter_mut().for_each(|h| h.contour = parted(&h.contour, &borders));
    let mesh = FlatMesh::new(&outer, &bored.holes, &[], &p.zones, p.thickness, false);
    let contours: Vec<&Contour> =
        std::iter::once(&outer).chain(bored.holes.iter().map(|h| &h.contour)).collect();
    let mut made = Made {
        zones: &p.zones,
        frames: frames(&p.zones, 1.0, p.thickness),
        t: p.thickness,
        sides: contours.iter().map(|c| c.segments().collect()).collect(),
        mesh: &mesh,
        out: Shell::default(),
        points: HashMap::new(),
        edges: HashMap::new(),
        uprights: HashMap::new(),
    };
    made.build(&bored);
    if made.out.is_closed() { Ok(made.out) } else { Err(NoBody::Open(p.mark.clone())) }
}

/// A contour with a corner wherever an arc of it runs over one of these lines.
fn parted(c: &Contour, lines: &[[DVec2; 2]]) -> Contour {
    let mut out = Vec::with_capacity(c.vertices.len());
    for (v, s) in c.vertices.iter().zip(c.segments()) {
        let Some(arc) = s.arc() else {
            out.push(*v);
            continue;
        };
        let over = |[p, q]: &[DVec2; 2]| {
            let way = (*q - *p).normalize_or_zero();
            let foot = *p + way * (arc.centre - *p).dot(way);
            let half = (arc.radius.powi(2) - foot.distance_squared(arc.centre)).max(0.0).sqrt();
            let long = p.distance(*q);
            [-half, half]
                .map(|by| foot + way * by)
                .into_iter()
                .filter_map(move |at| {
                    let along = (at - *p).dot(way);
                    let turned = (s.a - arc.centre).angle_to(at - arc.centre) * arc.sweep.signum();
                    let part = turned.rem_euclid(std::f64::consts::TAU) / arc.sweep.abs();
                    let within = along > -COINCIDENT && along < long + COINCIDENT;
                    (within && half > COINCIDENT && part > ALONG && part < 1.0 - ALONG).then_some(part)
                })
                .collect::<Vec<f64>>()
        };
        let mut parts: Vec<f64> = lines.iter().flat_map(over).collect();
        parts.sort_by(f64::total_cmp);
        parts.dedup_by(|a, b| (*a - *b).abs() < ALONG);
        parts.push(1.0);
        let mut from = 0.0;
        for part in parts {
            let p = if from == 0.0 { v.p } else { arc.at(from) };
            out.push(Vertex { p, bulge: (arc.sweep * (part - from) / 4.0).tan(), tag: v.tag });
            from = part;
        }
    }
    Contour { vertices: out }
}

struct Made<'a> {
    zones: &'a [Zone],
    frames: Vec<DAffine3>,
    t: f64,
    /// The sides of each contour.
    sides: Vec<Vec<Segment>>,
    mesh: &'a FlatMesh,
    out: Shell,
    /// By point of the flat and face: 1 the upper, 0 the lower.
    points: HashMap<(u32, usize), usize>,
    /// By their ends in the flat, what they run along, and face.
    edges: HashMap<(u32, u32, Option<Side>, usize), usize>,
    uprights: HashMap<u32, usize>,
}

/// A stretch of a face's border, metal on its left: ends, what it borders on, points between.
#[derive(Clone, Debug)]
struct Stretch {
    from: u32,
    to: u32,
    border: Border,
    through: u32,
}

impl Made<'_> {
    fn build(&mut self, bored: &Bored) {
        let (zone_of, loops) = self.borders();
        let mut walls: Vec<(usize, Stretch)> = Vec::new();
        let mut deep: Vec<&BoreMark> = bored.deep.clone();
        for (zone, loops) in zone_of.into_iter().zip(loops) {
            let mut sides = [Vec::new(), Vec::new()];
            for ring in &loops {
                let mut run: [Vec<(usize, bool)>; 2] = [Vec::new(), Vec::new()];
                for s in ring {
                    for (level, run) in run.iter_mut().enumerate() {
                        run.push(self.along(zone, s, level));
                    }
                    if matches!(s.border, Border::Wall(_)) {
                        walls.push((zone, s.clone()));
                    }
                }
                let [low, high] = run;
                // Seen from below everything runs the other way.
                sides[0].push(low.into_iter().rev().map(|(e, f)| (e, !f)).collect());
                sides[1].push(high);
            }
            let [low, high] = sides;
            let at = [low, high].map(|loops| {
                self.out
                    .faces
                    .push(Face { surface: Surface::Plane { at: DVec3::ZERO, normal: DVec3::Z }, loops });
                self.out.faces.len() - 1
            });
            for (level, face) in at.into_iter().enumerate() {
                self.out.faces[face].surface = self.side_of(zone, level);
            }
            let of = &self.zones[zone];
            let (here, rest) = std::mem::take(&mut deep)
                .into_iter()
                .partition(|b| of.is_panel() && of.contains(DVec2::from(b.at)));
            deep = rest;
            let here: Vec<&BoreMark> = here;
            for b in here {
                self.well(zone, b.at.into(), &b.bore.profile(self.t), b.bore.back, at);
            }
        }
        for (zone, s) in walls {
            self.wall(zone, &s);
        }
    }

    /// The faces of the flat, each a zone or a part of one, and the rings round them, the outer one first.
    fn borders(&self) -> (Vec<usize>, Vec<Vec<Vec<Stretch>>>) {
        let m = self.mesh;
        let mut of_side: HashMap<(u32, u32), usize> = HashMap::new();
        for (i, t) in m.triangles.iter().enumerate() {
            for k in 0..3 {
                of_side.insert((t[k], t[(k + 1) % 3]), i);
            }
        }
        let mut part = vec![usize::MAX; m.triangles.len()];
        let mut zones = Vec::new();
        for i in 0..m.triangles.len() {
            if part[i] != usize::MAX {
                continue;
            }
            let mut stack = vec![i];
            part[i] = zones.len();
            while let Some(k) = stack.pop() {
                let t = m.triangles[k];
                for e in 0..3 {
                    let Some(&n) = of_side.get(&(t[(e + 1) % 3], t[e])) else { continue };
                    if part[n] == usize::MAX && m.triangle_zones[n] == m.triangle_zones[i] {
                        part[n] = zones.len();
                        stack.push(n);
                    }
                }
            }
            zones.push(m.triangle_zones[i] as usize);
        }
        let chords = self.chords();
        let mut sides: Vec<HashMap<u32, Vec<(u32, Border)>>> = vec![HashMap::new(); zones.len()];
        for (i, t) in m.triangles.iter().enumerate() {
            for k in 0..3 {
                let (a, b) = (t[k], t[(k + 1) % 3]);
                let border = match of_side.get(&(b, a)) {
                    Some(&n) if part[n] == part[i] => continue,
                    Some(&n) => Border::Next(part[n]),
                    None => Border::Wall(chords.side(m.points[a as usize], m.points[b as usize])),
                };
                sides[part[i]].entry(a).or_default().push((b, border));
            }
        }
        let rings = sides.into_iter().map(|s| self.rings(s)).collect();
        (zones, rings)
    }

    fn rings(&self, mut sides: HashMap<u32, Vec<(u32, Border)>>) -> Vec<Vec<Stretch>> {
        let at = |i: u32| self.mesh.points[i as usize];
        let mut out: Vec<(f64, Vec<Stretch>)> = Vec::new();
        let mut starts: Vec<u32> = sides.keys().copied().collect();
        starts.sort_unstable();
        for start in starts {
            while sides.get(&start).is_some_and(|s| !s.is_empty()) {
                let mut steps: Vec<(u32, u32, Border)> = Vec::new();
                let (mut here, mut way) = (start, DVec2::ZERO);
                while let Some(next) = sides.get_mut(&here) {
                    // Where two rings touch, the sharpest turn to the left stays in this one.
                    let turn = |b: u32| if way == DVec2::ZERO { 0.0 } else { way.angle_to(at(b) - at(here)) };
                    let Some(k) =
                        (0..next.len()).max_by(|&a, &b| turn(next[a].0).total_cmp(&turn(next[b].0)))
                    else {
                        break;
                    };
                    let (to, border) = next.swap_remove(k);
                    steps.push((here, to, border));
                    way = at(to) - at(here);
                    here = to;
                    if here == start {
                        break;
                    }
                }
                let area: f64 = steps.iter().map(|(a, b, _)| at(*a).perp_dot(at(*b))).sum();
                out.push((area, self.stretches(&steps)));
            }
        }
        out.sort_by(|a, b| b.0.total_cmp(&a.0));
        out.into_iter().map(|r| r.1).collect()
    }

    /// Steps along one side, or along one straight border, as one.
    fn stretches(&self, steps: &[(u32, u32, Border)]) -> Vec<Stretch> {
        let at = |i: u32| self.mesh.points[i as usize];
        let goes_on = |a: &(u32, u32, Border), b: &(u32, u32, Border)| {
            let (p, q) = (at(a.1) - at(a.0), at(b.1) - at(b.0));
            let straight = p.perp_dot(q).abs() <= 1e-9 * p.length() * q.length() && p.dot(q) > 0.0;
            a.2 == b.2 && (matches!(a.2, Border::Wall(_)) || straight)
        };
        let n = steps.len();
        // Begun where something changes.
        let first = (0..n).find(|&k| !goes_on(&steps[(k + n - 1) % n], &steps[k])).unwrap_or(0);
        let mut out: Vec<Stretch> = Vec::new();
        for k in 0..n {
            let s = &steps[(first + k) % n];
            let before = &steps[(first + k + n - 1) % n];
            match out.last_mut() {
                Some(last) if k > 0 && goes_on(before, s) => last.to = s.1,
                _ => out.push(Stretch { from: s.0, to: s.1, border: s.2, through: s.1 }),
            }
        }
        out
    }

    fn point(&mut self, zone: usize, i: u32, level: usize) -> usize {
        if let Some(n) = self.points.get(&(i, level)) {
            return *n;
        }
        let z = if level == 1 { self.t } else { 0.0 };
        let p = self.place(zone, self.mesh.points[i as usize], z);
        let n = self.out.point(p);
        self.points.insert((i, level), n);
        n
    }

    fn place(&self, zone: usize, p: DVec2, z: f64) -> DVec3 {
        formed(&self.zones[zone], &self.frames[zone], 1.0, self.t, p, z)
    }

    /// The edge under a stretch on one face of the sheet, and whether it runs that way.
    fn along(&mut self, zone: usize, s: &Stretch, level: usize) -> (usize, bool) {
        let side = match s.border {
            Border::Wall(side) => Some(side),
            Border::Next(_) => None,
        };
        let ends = (s.from.min(s.to), s.from.max(s.to));
        let key = (ends.0, ends.1, side, level);
        if let Some(e) = self.edges.get(&key) {
            return (*e, self.out.edges[*e].ends[0] == self.points[&(s.from, level)]);
        }
        let [a, b] = [s.from, s.to].map(|i| self.point(zone, i, level));
        let z = if level == 1 { self.t } else { 0.0 };
        let curve = self.curve(zone, s, z);
        let e = self.out.edge([a, b], curve);
        self.edges.insert(key, e);
        (e, true)
    }

    /// The side that a stretch runs along, from its start to its end.
    fn flat(&self, s: &Stretch) -> Segment {
        let (a, b) = (self.mesh.points[s.from as usize], self.mesh.points[s.to as usize]);
        let Border::Wall((c, k)) = s.border else { return Segment::line(a, b) };
        let whole = self.sides[c][k];
        let Some(arc) = whole.arc() else { return Segment::line(a, b) };
        // The first of its chords tells which way round it runs.
        let from = |i: DVec2| i - arc.centre;
        let sign = from(a).angle_to(from(self.mesh.points[s.through as usize])).signum();
        let sweep = (from(a).angle_to(from(b)) * sign).rem_euclid(std::f64::consts::TAU) * sign;
        Segment { a, b, bulge: (sweep / 4.0).tan() }
    }

    fn curve(&self, zone: usize, s: &Stretch, z: f64) -> Curve {
        let flat = self.flat(s);
        let (of, frame) = (&self.zones[zone], &self.frames[zone]);
        match (&of.kind, flat.arc()) {
            (Kind::Panel, None) => Curve::Line,
            (Kind::Panel, Some(arc)) => Curve::Circle {
                at: self.place(zone, arc.centre, z),
                axis: frame.transform_vector3(DVec3::Z) * arc.sweep.signum(),
            },
            (_, None) if (flat.b - flat.a).dot(of.along).abs() < ALONG => Curve::Line,
            (_, None) if (flat.b - flat.a).dot(of.along.perp()).abs() < ALONG => {
                let up = of.bend().is_some_and(|b| b.up);
                let on = (flat.b - flat.a).dot(of.along) > 0.0;
                let across = frame.transform_vector3(of.along.perp().extend(0.0));
                Curve::Circle {
                    at: self.axis_at(zone, flat.a),
                    axis: if up == on { -across } else { across },
                }
            }
            _ => Curve::Cubics(self.cubics(zone, &flat, z)),
        }
    }

    /// Of a bend: the place of its axis beside a place of the flat.
    fn axis_at(&self, zone: usize, p: DVec2) -> DVec3 {
        let of = &self.zones[zone];
        let up = of.bend().is_some_and(|b| b.up);
        let radius = of.bend().map_or(0.0, |b| b.allowance / b.angle - b.k * self.t);
        let height = if up { self.t + radius } else { -radius };
        let across = of.along.perp();
        let at = of.origin + across * (p - of.origin).dot(across);
        self.frames[zone].transform_point3(at.extend(height))
    }

    /// A side wrapped round a bend, as cubic arcs through its places with its directions.
    fn cubics(&self, zone: usize, flat: &Segment, z: f64) -> Vec<DVec3> {
        let bend = self.zones[zone].bend();
        let turn = bend.map_or(1.0, |b| b.angle / b.allowance.max(1e-9));
        let sweep = flat.arc().map_or(0.0, |a| a.sweep.abs());
        let reach = flat.length() * turn + sweep;
        let n = (reach / STEP).ceil().clamp(1.0, 400.0) as usize;
        let at = |f: f64| self.place(zone, flat.at(f), z);
        let h = 1.0 / n as f64;
        let slope = |f: f64| {
            // By places beside it, of the sixth order: what is smooth has no closer derivative.
            let d = h * 0.05;
            let (lo, hi) = ((f - 3.0 * d).max(0.0), (f + 3.0 * d).min(1.0));
            let c = (lo + hi) / 2.0;
            if (c - f).abs() < 1e-15 {
                let w = [(1.0, 45.0), (2.0, -9.0), (3.0, 1.0)];
                w.iter().map(|(k, w)| (at(f + k * d) - at(f - k * d)) * *w).sum::<DVec3>() / (60.0 * d)
            } else {
                let s = if f < 0.5 { d } else { -d };
                let w = [-147.0, 360.0, -450.0, 400.0, -225.0, 72.0, -10.0];
                w.iter().enumerate().map(|(k, w)| at(f + s * k as f64) * *w).sum::<DVec3>() / (60.0 * s)
            }
        };
        let mut out = vec![at(0.0)];
        for k in 0..n {
            let (f, g) = (k as f64 * h, (k + 1) as f64 * h);
            let (a, b) = (at(f), at(g));
            out.extend([a + slope(f) * (h / 3.0), b - slope(g) * (h / 3.0), b]);
        }
        out
    }

    /// What one face of a zone lies on.
    fn side_of(&self, zone: usize, level: usize) -> Surface {
        let (of, frame) = (&self.zones[zone], &self.frames[zone]);
        let up = frame.transform_vector3(DVec3::Z);
        match of.bend() {
            None => Surface::Plane {
                at: frame.transform_point3(of.origin.extend(if level == 1 { self.t } else { 0.0 })),
                normal: if level == 1 { up } else { -up },
            },
            Some(b) => {
                let radius = b.allowance / b.angle - b.k * self.t;
                let inside = b.up == (level == 1);
                Surface::Cylinder {
                    at: self.axis_at(zone, of.origin),
                    axis: frame.transform_vector3(of.along.perp().extend(0.0)),
                    radius: if inside { radius } else { radius + self.t },
                    inside,
                }
            }
        }
    }

    /// The wall over a stretch of the outline or of a hole.
    fn wall(&mut self, zone: usize, s: &Stretch) {
        let low = self.along(zone, s, 0);
        let high = self.along(zone, s, 1);
        let [left, right] = [s.from, s.to].map(|i| self.upright(zone, i));
        let loops = vec![vec![low, (right, true), (high.0, !high.1), (left, false)]];
        let flat = self.flat(s);
        let (of, frame) = (&self.zones[zone], self.frames[zone]);
        let poles = |e: usize, forward: bool, out: &Shell| match &out.edges[e].curve {
            Curve::Cubics(p) if forward => Some(p.clone()),
            Curve::Cubics(p) => Some(p.iter().rev().copied().collect()),
            _ => None,
        };
        let ruled = poles(low.0, low.1, &self.out).zip(poles(high.0, high.1, &self.out));
        let surface = match (ruled, &of.kind, flat.arc()) {
            (Some((from, to)), ..) => Surface::Ruled { from, to },
            (None, Kind::Panel, Some(arc)) => Surface::Cylinder {
                at: self.place(zone, arc.centre, 0.0),
                axis: frame.transform_vector3(DVec3::Z),
                radius: arc.radius,
                inside: arc.sweep < 0.0,
            },
            _ => {
                let at = self.place(zone, flat.a, 0.0);
                let up = self.place(zone, flat.a, self.t) - at;
                let step = flat.length().min(1.0) * 1e-3;
                let along = self.place(zone, flat.at(step / flat.length()), 0.0) - at;
                // Round a bend a wall that runs with it lies across its axis.
                let across = frame.transform_vector3(of.along.perp().extend(0.0));
                let runs = of.bend().is_some() && (flat.b - flat.a).dot(of.along.perp()).abs() < ALONG;
                let normal = along.cross(up).normalize_or_zero();
                Surface::Plane {
                    at,
                    normal: if runs { across * normal.dot(across).signum() } else { normal },
                }
            }
        };
        self.out.faces.push(Face { surface, loops });
    }

    fn upright(&mut self, zone: usize, i: u32) -> usize {
        if let Some(e) = self.uprights.get(&i) {
            return *e;
        }
        let ends = [self.point(zone, i, 0), self.point(zone, i, 1)];
        let e = self.out.edge(ends, Curve::Line);
        self.uprights.insert(i, e);
        e
    }

    /// What a drilled hole leaves below the face that it is drilled from. `faces`: the lower and the
    /// upper one
    /// of its panel.
    fn well(&mut self, zone: usize, at: DVec2, profile: &[(f64, f64)], back: bool, faces: [usize; 2]) {
        let frame = self.frames[zone];
        let up = frame.transform_vector3(DVec3::Z);
        // Out of the face that it is drilled from.
        let out_of = if back { -up } else { up };
        let middle = |depth: f64| self.place(zone, at, if back { depth } else { self.t - depth });
        let mut rings: Vec<(f64, f64)> = profile.to_vec();
        rings.dedup_by(|b, a| (a.0 - b.0).abs() < COINCIDENT && (a.1 - b.1).abs() < COINCIDENT);
        let across = frame.transform_vector3(DVec3::X);
        // Two halves of each ring, against the clock as it is seen from outside; a point where it closes.
        let centres: Vec<DVec3> = rings.iter().map(|r| middle(r.1)).collect();
        let mut halves: Vec<Option<[usize; 2]>> = Vec::new();
        let mut ends: Vec<[usize; 2]> = Vec::new();
        for (k, (r, _)) in rings.iter().enumerate() {
            if *r < COINCIDENT {
                let tip = self.out.point(centres[k]);
                ends.push([tip, tip]);
                halves.push(None);
                continue;
            }
            let [a, b] = [across * *r, across * -*r].map(|v| self.out.point(centres[k] + v));
            let ring = || Curve::Circle { at: centres[k], axis: out_of };
            ends.push([a, b]);
            halves.push(Some([self.out.edge([a, b], ring()), self.out.edge([b, a], ring())]));
        }
        // The mouth is a hole in its face: metal on the left runs with the clock.
        let hole = |h: [usize; 2], seen: bool| {
            if seen { vec![(h[1], false), (h[0], false)] } else { vec![(h[0], true), (h[1], true)] }
        };
        let [own, far] = if back { [faces[0], faces[1]] } else { [faces[1], faces[0]] };
        if let Some(h) = halves[0] {
            self.out.faces[own].loops.push(hole(h, true));
        }
        let last = rings.len() - 1;
        if let (Some(h), true) = (halves[last], (rings[last].1 - self.t).abs() < COINCIDENT) {
            self.out.faces[far].loops.push(hole(h, false));
        }
        for k in 0..last {
            let ((r0, z0), (r1, z1)) = (rings[k], rings[k + 1]);
            let deep = z1 - z0;
            if deep.abs() < COINCIDENT {
                // A ledge looks out of the face; what is drilled narrows downwards.
                let mut loops = Vec::new();
                if let Some(h) = halves[k] {
                    loops.push(vec![(h[0], true), (h[1], true)]);
                }
                if let Some(h) = halves[k + 1] {
                    loops.push(vec![(h[1], false), (h[0], false)]);
                }
                self.out
                    .faces
                    .push(Face { surface: Surface::Plane { at: centres[k], normal: out_of }, loops });
                continue;
            }
            let surface = if (r0 - r1).abs() < COINCIDENT {
                Surface::Cylinder { at: centres[k], axis: out_of, radius: r0, inside: true }
            } else {
                // Its axis goes to where it is wider.
                let axis = if r0 > r1 { out_of } else { -out_of };
                let (at, radius) = if r0 > r1 { (centres[k + 1], r1) } else { (centres[k], r0) };
                Surface::Cone { at, axis, radius, half_angle: ((r0 - r1).abs() / deep).atan(), inside: true }
            };
            let lines = [0, 1].map(|i| self.out.edge([ends[k][i], ends[k + 1][i]], Curve::Line));
            for i in 0..2 {
                let (a, b) = (lines[i], lines[1 - i]);
                // Seen from the axis, which is outside of the metal: along above, down, back below, up.
                let mut ring = Vec::new();
                if let Some(h) = halves[k] {
                    ring.push((h[i], true));
                }
                ring.push((b, true));
                if let Some(h) = halves[k + 1] {
                    ring.push((h[i], false));
                }
                ring.push((a, false));
                self.out.faces.push(Face { surface: surface.clone(), loops: vec![ring] });
            }
        }
        // Flat at its end, and not through.
        if let (Some(h), false) = (halves[last], (rings[last].1 - self.t).abs() < COINCIDENT) {
            let loops = vec![vec![(h[0], true), (h[1], true)]];
            self.out
                .faces
                .push(Face { surface: Surface::Plane { at: centres[last], normal: out_of }, loops });
        }
    }

    fn chords(&self) -> Chords {
        Chords::new(&self.sides)
    }
}

/// Chords of all sides, by the cells that they lie in.
struct Chords {
    pace: f64,
    cells: HashMap<(i64, i64), Vec<u32>>,
    chords: Vec<([DVec2; 2], Side)>,
}

impl Chords {
    fn new(sides: &[Vec<Segment>]) -> Chords {
        let mut chords = Vec::new();
        let mut points = Vec::new();
        for (c, sides) in sides.iter().enumerate() {
            for (k, s) in sides.iter().enumerate() {
                points.clear();
                points.push(s.a);
                s.flatten(CHORD, &mut points);
                chords.extend(points.windows(2).map(|w| ([w[0], w[1]], (c, k))));
            }
        }
        let mean = chords.iter().map(|c| c.0[0].distance(c.0[1])).sum::<f64>() / chords.len().max(1) as f64;
        let mut out = Chords { pace: mean.max(0.5), cells: HashMap::new(), chords };
        for i in 0..out.chords.len() {
            let [a, b] = out.chords[i].0;
            let parts = (a.distance(b) / out.pace).ceil().max(1.0) as usize;
            for k in 0..=parts {
                let c = out.cell(a.lerp(b, k as f64 / parts as f64));
                out.cells.entry(c).or_default().push(i as u32);
            }
        }
        out
    }

    fn cell(&self, p: DVec2) -> (i64, i64) {
        ((p.x / self.pace).floor() as i64, (p.y / self.pace).floor() as i64)
    }

    /// The side that a side of the mesh lies on.
    fn side(&self, a: DVec2, b: DVec2) -> Side {
        let middle = (a + b) / 2.0;
        let (x, y) = self.cell(middle);
        let off = |[p, q]: [DVec2; 2]| Segment::line(p, q).nearest(middle).distance(middle);
        let near = (-1..2).flat_map(|i| (-1..2).map(move |j| (x + i, y + j)));
        let found = near
            .filter_map(|c| self.cells.get(&c))
            .flatten()
            .min_by(|a, b| off(self.chords[**a as usize].0).total_cmp(&off(self.chords[**b as usize].0)));
        found.map_or((0, 0), |i| self.chords[*i as usize].1)
    }
}

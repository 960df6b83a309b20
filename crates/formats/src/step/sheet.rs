//! The faces of a formed piece: for every panel and bend its two sides, for every side of the outline and the
//! holes a wall, for drilled holes what is below the sheet's face.

use std::collections::HashMap;

use glam::{DAffine3, DVec2, DVec3};
use steelk_core::geom::{Contour, Segment};
use steelk_core::result::{BoreMark, PieceResult};
use steelk_core::sheet::mesh::FlatMesh;
use steelk_core::sheet::zones::{BendZone, ConeZone, Kind, Zone, formed, frames};
use steelk_core::sheet::{Bored, bored};

use super::borders::{Border, Side, Stretch, borders, parted};
use super::cubics::{arcs, cubics};
use super::shell::{Curve, Face, Shell, Surface};
use super::well::Mouth;

/// Why there is no STEP file of a piece.
#[derive(Debug, thiserror::Error, PartialEq)]
pub enum NoBody {
    #[error(
        "{0} has {1} holes; {MOST} is the most that a STEP file is made of. Take the DXF or the STL, which \
            have them all"
    )]
    TooMany(String, usize),
    #[error("{0} is a cone up to its very tip, which no STEP file is made of. Take the STL or the GLB")]
    Tip(String),
    #[error("{0} has creases, which no STEP file is made of. Take the STL or the GLB, or write it bent")]
    Creased(String),
    #[error(
        "{0} has bevelled edges, which no STEP file of one plate is made of. Take that of its frame, or the \
            STL"
    )]
    Bevelled(String),
    #[error("the faces of {0} do not close at their edges. Take the STL or the GLB")]
    Open(String),
}

/// Holes of a STEP file.
const MOST: usize = 2_500;
/// mm within which a side runs along a bend or across it.
const ALONG: f64 = 1e-7;

pub fn shell(p: &PieceResult) -> Result<Shell, NoBody> {
    if p.flat.holes.len() > MOST {
        return Err(NoBody::TooMany(p.mark.clone(), p.flat.holes.len()));
    }
    let at_tip = |c: &ConeZone| p.flat.outer.vertices.iter().any(|v| v.p.distance(c.apex) < p.thickness);
    if p.zones.iter().any(|z| matches!(&z.kind, Kind::Cone(c) if at_tip(c))) {
        return Err(NoBody::Tip(p.mark.clone()));
    }
    if p.flat.bends.iter().any(|b| b.creased) {
        return Err(NoBody::Creased(p.mark.clone()));
    }
    if !p.flat.bevels.is_empty() {
        return Err(NoBody::Bevelled(p.mark.clone()));
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

/// A body in the making.
pub struct Made<'a> {
    zones: &'a [Zone],
    pub frames: Vec<DAffine3>,
    pub t: f64,
    /// The sides of each contour.
    sides: Vec<Vec<Segment>>,
    mesh: &'a FlatMesh,
    pub out: Shell,
    /// By point of the flat and face: 1 the upper, 0 the lower.
    points: HashMap<(u32, usize), usize>,
    /// By their ends in the flat, what they run along, and face.
    edges: HashMap<(u32, u32, Option<Side>, usize), usize>,
    uprights: HashMap<u32, usize>,
}

impl Made<'_> {
    fn build(&mut self, bored: &Bored) {
        let (zone_of, loops) = borders(self.mesh, &self.sides);
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
                let (frame, back) = (self.frames[zone], b.bore.back);
                let up = frame.transform_vector3(DVec3::Z);
                let [below, above] = at;
                let mouth = Mouth {
                    at: self.place(zone, b.at.into(), if back { 0.0 } else { self.t }),
                    out_of: if back { -up } else { up },
                    across: frame.transform_vector3(DVec3::X),
                    hand: 1.0,
                    t: self.t,
                    faces: if back { [below, above] } else { [above, below] },
                };
                self.out.well(&mouth, &b.bore.profile(self.t));
            }
        }
        for (zone, s) in walls {
            self.wall(zone, &s);
        }
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

    pub fn place(&self, zone: usize, p: DVec2, z: f64) -> DVec3 {
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
            (Kind::Cone(c), None) if (flat.a - c.apex).perp_dot(flat.b - flat.a).abs() < ALONG => Curve::Line,
            (Kind::Cone(c), Some(arc)) if arc.centre.distance(c.apex) < ALONG => {
                let ring = c.ring(self.t, arc.radius, z);
                Curve::Circle {
                    at: frame.transform_point3(ring.centre),
                    axis: frame.transform_vector3(ring.axis) * c.sense() * arc.sweep.signum(),
                }
            }
            (Kind::Cone(_), _) => Curve::Cubics(self.cubics(zone, &flat, z)),
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

    /// Inside radius of a bend whose neutral line keeps its length.
    fn inside(&self, b: &BendZone) -> f64 {
        b.allowance / b.angle - b.k * self.t
    }

    /// Of a bend: the place of its axis beside a place of the flat.
    fn axis_at(&self, zone: usize, p: DVec2) -> DVec3 {
        let of = &self.zones[zone];
        let up = of.bend().is_some_and(|b| b.up);
        let radius = of.bend().map_or(0.0, |b| self.inside(b));
        let height = if up { self.t + radius } else { -radius };
        let across = of.along.perp();
        let at = of.origin + across * (p - of.origin).dot(across);
        self.frames[zone].transform_point3(at.extend(height))
    }

    /// A side wrapped round a bend, as cubic arcs through its places with its directions.
    fn cubics(&self, zone: usize, flat: &Segment, z: f64) -> Vec<DVec3> {
        let turn = match &self.zones[zone].kind {
            Kind::Panel => 1.0,
            Kind::Bend(b) => b.angle / b.allowance.max(1e-9),
            // Nearest to the tip it turns the most.
            Kind::Cone(c) => {
                let near = flat.nearest(c.apex).distance(c.apex).max(self.t);
                1.0 / (c.slope().sin() * near)
            }
        };
        let sweep = flat.arc().map_or(0.0, |a| a.sweep.abs());
        let reach = flat.length() * turn + sweep;
        cubics(|f| self.place(zone, flat.at(f), z), arcs(reach))
    }

    /// What one face of a zone lies on.
    fn side_of(&self, zone: usize, level: usize) -> Surface {
        let (of, frame) = (&self.zones[zone], &self.frames[zone]);
        let up = frame.transform_vector3(DVec3::Z);
        match &of.kind {
            Kind::Panel => Surface::Plane {
                at: frame.transform_point3(of.origin.extend(if level == 1 { self.t } else { 0.0 })),
                normal: if level == 1 { up } else { -up },
            },
            Kind::Bend(b) => {
                let radius = self.inside(b);
                let inside = b.up == (level == 1);
                Surface::Cylinder {
                    at: self.axis_at(zone, of.origin),
                    axis: frame.transform_vector3(of.along.perp().extend(0.0)),
                    radius: if inside { radius } else { radius + self.t },
                    inside,
                }
            }
            Kind::Cone(c) => {
                let z = if level == 1 { self.t } else { 0.0 };
                let ring = c.ring(self.t, of.max.distance(c.apex), z);
                Surface::Cone {
                    at: frame.transform_point3(ring.centre),
                    axis: frame.transform_vector3(ring.axis),
                    radius: ring.radius,
                    half_angle: c.slope(),
                    inside: c.outside(self.t, z) < 0.0,
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
            // Square to the sheet all round a ring: a cone that opens towards the tip.
            (None, Kind::Cone(c), Some(arc)) => {
                let ring = c.ring(self.t, arc.radius, self.t / 2.0);
                Surface::Cone {
                    at: frame.transform_point3(ring.centre),
                    axis: -frame.transform_vector3(ring.axis),
                    radius: ring.radius,
                    half_angle: std::f64::consts::FRAC_PI_2 - c.slope(),
                    inside: arc.sweep < 0.0,
                }
            }
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
}

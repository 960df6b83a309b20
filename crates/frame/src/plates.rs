//! Plates of a frame: caps, bases, gussets, fitted plates, lugs, rings and blocks. Each is a contour with a
//! thickness and a place.

use glam::{DMat2, DVec2, DVec3};

use super::bar::{Bar, Motion};
use super::model::{Member, Stretch};
use super::skeleton::{SAME, Skeleton};
use crate::verbs::*;
use ground::geom::{Contour, Vertex};
use ground::reader::{Range, Reader};

/// A plate where it stands: its contour's plane, and the side that its thickness goes to.
#[derive(Clone, Debug)]
pub struct Cutting {
    /// Told from other plates of its line: `left`, `near`.
    pub part: String,
    pub call: String,
    pub outer: Contour,
    pub holes: Vec<Contour>,
    pub thickness: f64,
    pub o: DVec3,
    pub x: DVec3,
    pub y: DVec3,
    pub z: DVec3,
    /// Welded along this length, mm.
    pub weld: f64,
    /// Wall that it is welded to.
    pub against: f64,
    pub lifting: bool,
    /// Outside and wall of the tube that it is cut from instead of plate, mm.
    pub tube: Option<[f64; 2]>,
}

impl Cutting {
    /// A plate lying in x and y, its thickness upwards from `o`.
    pub fn new(call: &str, outer: Contour, thickness: f64, o: DVec3, x: DVec3, y: DVec3) -> Self {
        let outer = outer.outward();
        Cutting {
            part: String::new(),
            call: call.into(),
            outer,
            holes: Vec::new(),
            thickness,
            o,
            x,
            y,
            z: x.cross(y),
            weld: 0.0,
            against: thickness,
            lifting: false,
            tube: None,
        }
    }

    pub fn point(&self, p: DVec2, h: f64, by: &Motion) -> DVec3 {
        by.point(self.o + self.x * p.x + self.y * p.y + self.z * h)
    }

    /// The same plate with its flat laid in the one way that all plates of its shape have, turned over if
    /// need be.
    pub fn laid(self) -> Self {
        let n = self.outer.vertices.len();
        if n > 120 {
            return self;
        }
        let mut best: Option<(Vec<[i64; 3]>, DMat2, DMat2, DVec2)> = None;
        for flip in [DMat2::IDENTITY, DMat2::from_diagonal(DVec2::new(1.0, -1.0))] {
            let c =
                if flip == DMat2::IDENTITY { self.outer.clone() } else { self.outer.mirrored(|p| flip * p) };
            for i in 0..n {
                let a = c.vertices[i].p;
                let turn = DMat2::from_angle(-(c.vertices[(i + 1) % n].p - a).to_angle());
                let told = (0..n).map(|k| {
                    let v = c.vertices[(i + k) % n];
                    let q = turn * (v.p - a);
                    [q.x, q.y, v.bulge * 100.0].map(|v| (v * 100.0).round() as i64)
                });
                let told: Vec<_> = told.collect();
                if best.as_ref().is_none_or(|b| told < b.0) {
                    best = Some((told, turn, flip, a));
                }
            }
        }
        let Some((_, turn, flip, a)) = best else { return self };
        let lay = |c: &Contour| {
            let c = if flip == DMat2::IDENTITY { c.clone() } else { c.mirrored(|p| flip * p) };
            Contour { vertices: c.vertices.iter().map(|v| Vertex { p: turn * (v.p - a), ..*v }).collect() }
        };
        let back = |p: DVec2| flip * (turn.transpose() * p);
        let axis = |p: DVec2| self.x * p.x + self.y * p.y;
        let o = self.o + axis(flip * a);
        let (x, y) = (axis(back(DVec2::X)), axis(back(DVec2::Y)));
        let (outer, holes) = (lay(&self.outer), self.holes.iter().map(lay).collect());
        Cutting { outer, holes, o, x, y, ..self }
    }

    pub fn part(mut self, part: &str) -> Self {
        self.part = part.into();
        self
    }

    pub fn welded(mut self, length: f64, against: f64) -> Self {
        self.weld = length;
        self.against = against;
        self
    }
}

pub fn positive(reader: &mut Reader, path: &str, text: &str) -> Option<f64> {
    reader.length(path, text, Range::AboveZero)
}

pub fn optional(reader: &mut Reader, path: &str, text: &str) -> Option<f64> {
    if text.trim().is_empty() { Some(0.0) } else { reader.length(path, text, Range::ZeroUp) }
}

/// The one straight end that stands at a node.
fn end_at(reader: &mut Reader, s: &Skeleton, path: &str, name: &str) -> Option<(usize, usize)> {
    let node = s.known(reader, path, name)?;
    let mut ends = s
        .members
        .iter()
        .enumerate()
        .flat_map(|(i, m)| [(i, 0, m.from), (i, 1, m.to)])
        .filter(|e| e.2 == node && !s.members[e.0].closed);
    let first = ends.next();
    // Where several meet, the one that stands up takes the plate.
    let best = first.map(|f| {
        ends.fold(f, |a, b| {
            if s.members[b.0].end(b.1).d.z.abs() > s.members[a.0].end(a.1).d.z.abs() + 1e-6 { b } else { a }
        })
    });
    if best.is_none() {
        reader.refuse(path, name, format!("no member ends at '{name}'"), "name a node where one ends");
    }
    best.map(|b| (b.0, b.1))
}

pub fn cap(reader: &mut Reader, s: &Skeleton, say: &CapSaid) -> Option<Vec<Cutting>> {
    let t = positive(reader, "/say/thickness", &say.thickness)?;
    let inset = if say.inset.trim().is_empty() {
        0.0
    } else {
        reader.length("/say/inset", &say.inset, Range::Any)?
    };
    let mut out = Vec::new();
    for (i, name) in say.at.iter().enumerate() {
        let (member, end) = end_at(reader, s, &format!("/say/at/{i}"), name)?;
        let m = &s.members[member];
        let (bar, p) = (m.end(end), &s.profiles[m.profile]);
        let half = p.section.shape.size() / 2.0 - DVec2::splat(inset);
        if half.min_element() <= 0.0 {
            reader.refuse("/say/inset", &say.inset, "nothing of the cap is left", "write a smaller inset");
            return None;
        }
        // The cap lies on the cut, square or slanted.
        let foot = |q: DVec2| m.tip(end, q);
        let o = foot(DVec2::ZERO);
        let (ey, ez) = (foot(DVec2::X) - o, foot(DVec2::Y) - o);
        let out_of = ey.cross(ez).normalize() * -ey.cross(ez).dot(bar.d).signum();
        let x = ey.normalize();
        let y = out_of.cross(x);
        let flat = |q: DVec2| {
            let v = ey * q.x + ez * q.y;
            DVec2::new(v.dot(x), v.dot(y))
        };
        let outline = if p.section.shape.is_round() && ey.length() < 1.0 + 1e-9 && ez.length() < 1.0 + 1e-9 {
            Contour::circle(DVec2::ZERO, half.x, 0)
        } else if p.section.shape.is_round() {
            Contour::polygon(super::profile::ring(half.x, 96).into_iter().map(flat), 0)
        } else {
            let corners = [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)];
            Contour::polygon(corners.map(|(a, b)| flat(DVec2::new(a * half.x, b * half.y))), 0)
        };
        let weld = p.properties.perimeter.min(outline.perimeter());
        out.push(
            Cutting::new("cap", outline, t, o, x, y).part(name).welded(weld, p.section.shape.thickness()),
        );
    }
    Some(out)
}

/// The plate, and how much the post gives up for it is told as a trim by the caller.
pub fn base(reader: &mut Reader, s: &Skeleton, say: &BaseSaid) -> Option<Vec<(Cutting, usize, usize)>> {
    let (w, l) = (positive(reader, "/say/width", &say.width)?, positive(reader, "/say/length", &say.length)?);
    let t = positive(reader, "/say/thickness", &say.thickness)?;
    let hole = optional(reader, "/say/hole", &say.hole)?;
    let edge =
        if say.edge.trim().is_empty() { hole * 2.0 } else { positive(reader, "/say/edge", &say.edge)? };
    if hole > 0.0 && (edge * 2.0 + hole >= w.min(l) || edge <= hole / 2.0) {
        reader.refuse(
            "/say/edge",
            &say.edge,
            "the holes do not fit on the plate",
            "write a distance of at least a diameter from the edges, or a larger plate",
        );
        return None;
    }
    let mut out = Vec::new();
    for (i, name) in say.at.iter().enumerate() {
        let (member, end) = end_at(reader, s, &format!("/say/at/{i}"), name)?;
        let m = &s.members[member];
        let (bar, p) = (m.end(end), &s.profiles[m.profile]);
        let outline = Contour::rectangle(DVec2::new(-w, -l) / 2.0, DVec2::new(w, l) / 2.0, 0);
        // Thickness goes from the node into the post; the frame of an end seen from inside is turned over.
        let (x, y) = if bar.y.cross(bar.z).dot(bar.d) > 0.0 { (bar.y, bar.z) } else { (-bar.y, bar.z) };
        let mut plate = Cutting::new("base plate", outline, t, bar.o, x, y)
            .part(name)
            .welded(p.properties.perimeter, p.section.shape.thickness());
        if hole > 0.0 {
            let at = DVec2::new(w / 2.0 - edge, l / 2.0 - edge);
            let corners = [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)];
            plate.holes =
                corners.map(|(a, b)| Contour::circle(at * DVec2::new(a, b), hole / 2.0, 0)).to_vec();
        }
        out.push((plate, member, end));
    }
    Some(out)
}

/// A straight stretch of a member at a node, away from it.
struct Leg {
    member: usize,
    bar: Bar,
    /// Until it bends; without end for a straight member, whose own end is looked at elsewhere.
    room: f64,
}

/// The straight stretch at a node that runs the way a name points: a member's own, or towards another node.
fn leg(reader: &mut Reader, s: &Skeleton, node: usize, path: &str, name: &str) -> Option<Leg> {
    let at = s.nodes[node].at;
    let mut here: Vec<Leg> = Vec::new();
    for (i, m) in s.members.iter().enumerate() {
        for stretch in &m.way {
            let Stretch::Straight { bar, length } = *stretch else { continue };
            // The line that nodes lie on, beside the middle where the section sits off it.
            let (a, length) = if m.is_straight() {
                (s.nodes[m.from].at, s.nodes[m.from].at.distance(s.nodes[m.to].at))
            } else {
                (bar.point(m.sits, 0.0), length)
            };
            let along = (at - a).dot(bar.d);
            if (at - a - bar.d * along).length() >= SAME {
                continue;
            }
            let from = |d: DVec3, room: f64| {
                let along = (at - bar.o).dot(bar.d);
                Leg {
                    member: i,
                    bar: Bar { o: bar.o + bar.d * along, d, ..bar },
                    room: if m.is_straight() { f64::INFINITY } else { room },
                }
            };
            if along < length - SAME && along > -SAME {
                here.push(from(bar.d, length - along));
            }
            if along > SAME && along < length + SAME {
                here.push(from(-bar.d, along));
            }
        }
    }
    let k = match (s.node(name), s.member(name)) {
        (Some(other), _) if other != node => {
            let to = (s.nodes[other].at - at).normalize_or_zero();
            here.iter().position(|l| l.bar.d.dot(to) > 1.0 - 1e-6)
        }
        (_, Some(member)) => here.iter().position(|l| l.member == member),
        _ => None,
    };
    if k.is_none() {
        reader.refuse(
            path,
            name,
            format!(
                "no straight member, nor straight leg of a bent one, runs from '{}' that way",
                s.nodes[node].name
            ),
            "name a member at this node, or the node that it runs to",
        );
    }
    k.map(|k| here.swap_remove(k))
}

pub fn gusset(reader: &mut Reader, s: &Skeleton, say: &GussetSaid) -> Option<Vec<Cutting>> {
    let node = s.known(reader, "/say/at", &say.at);
    let a = positive(reader, "/say/leg", &say.leg);
    let b = if say.leg_2.trim().is_empty() { a } else { positive(reader, "/say/leg_2", &say.leg_2) };
    let t = positive(reader, "/say/thickness", &say.thickness);
    let (nose, snipe) =
        (optional(reader, "/say/nose", &say.nose)?, optional(reader, "/say/snipe", &say.snipe)?);
    let (node, a, b, t) = (node?, a?, b?, t?);
    let [first, second] = &say.between[..] else {
        reader.refuse(
            "/say/between",
            "",
            "a gusset stands between two members",
            "name two members, or the two nodes they run to",
        );
        return None;
    };
    let one = leg(reader, s, node, "/say/between/0", first)?;
    let two = leg(reader, s, node, "/say/between/1", second)?;
    for (l, long, path) in [
        (&one, a, "/say/leg"),
        (&two, b, if say.leg_2.trim().is_empty() { "/say/leg" } else { "/say/leg_2" }),
    ] {
        if long > l.room {
            let left = reader.display.length_unit(l.room);
            reader.refuse(
                path,
                &say.leg,
                format!(
                    "the leg runs into the bend of {}: {left} are straight there",
                    s.members[l.member].name
                ),
                "write a shorter leg",
            );
            return None;
        }
    }
    let ((m1, b1), (m2, b2)) = ((one.member, one.bar), (two.member, two.bar));
    let w = b1.d.cross(b2.d);
    if w.length() < 0.05 {
        reader.refuse("/say/between", "", "the two members run in line", "name two that make a corner");
        return None;
    }
    let w = w.normalize();
    let (in1, in2) = ((b2.d - b1.d * b1.d.dot(b2.d)).normalize(), (b1.d - b2.d * b2.d.dot(b1.d)).normalize());
    let (p1, p2) = (&s.profiles[s.members[m1].profile], &s.profiles[s.members[m2].profile]);
    let face = |bar: &Bar, p: &super::profile::Profile, v: DVec3| bar.o + v * p.reach(bar.turned(v).0);
    let (f1, f2) = (face(&b1, p1, in1), face(&b2, p2, in2));
    let between = f2 - f1;
    let s1 = between.cross(b2.d).dot(w) / b1.d.cross(b2.d).dot(w);
    let root = f1 + b1.d * s1;
    let root = root - w * w.dot(root - s.nodes[node].at);
    if nose + snipe >= a.min(b) {
        reader.refuse(
            "/say/nose",
            &say.nose,
            "nose and snipe leave nothing of the leg",
            "write a longer leg",
        );
        return None;
    }
    let flat = |v: DVec3| DVec2::new(v.dot(b1.d), v.dot(w.cross(b1.d)));
    let (e1, e2, n1, n2) = (flat(b1.d), flat(b2.d), flat(in1), flat(in2));
    let mut corners = vec![e1 * snipe, e1 * a];
    if nose > 0.0 {
        corners.extend([e1 * a + n1 * nose, e2 * b + n2 * nose]);
    }
    corners.push(e2 * b);
    if snipe > 0.0 {
        corners.push(e2 * snipe);
    }
    let outline = Contour::polygon(corners, 0);
    if ground::geom::first_crossing(&outline).is_some() {
        reader.refuse(
            "/say/nose",
            &say.nose,
            "the noses run into one another",
            "write a narrower nose or longer legs",
        );
        return None;
    }
    // Seen along w the far side is where w points.
    let reach = |v: DVec3| {
        [(&b1, p1), (&b2, p2)]
            .iter()
            .map(|(bar, p)| (bar.o - root).dot(v) + p.reach(bar.turned(v).0))
            .fold(f64::INFINITY, f64::min)
    };
    let thin = p1.section.shape.thickness().min(p2.section.shape.thickness());
    let plate = |part: &str, low: f64| {
        Cutting::new("gusset", outline.clone(), t, root + w * low, b1.d, w.cross(b1.d))
            .part(part)
            .welded(2.0 * (a + b - 2.0 * snipe), thin)
    };
    let (near, far) = (-reach(-w), reach(w) - t);
    Some(match say.place {
        GussetPlace::Middle => vec![plate("", -t / 2.0)],
        GussetPlace::Near => vec![plate("", near)],
        GussetPlace::Far => vec![plate("", far)],
        GussetPlace::Both => vec![plate("near", near), plate("far", far)],
    })
}

pub fn fit(reader: &mut Reader, s: &Skeleton, say: &FitSaid) -> Option<Vec<Cutting>> {
    let t = positive(reader, "/say/thickness", &say.thickness)?;
    let clearance = optional(reader, "/say/clearance", &say.clearance)?;
    let mut at = Vec::new();
    for (i, n) in say.around.iter().enumerate() {
        at.push(s.nodes[s.known(reader, &format!("/say/around/{i}"), n)?].at);
    }
    let k = at.len();
    let normal: DVec3 = (0..k).map(|i| at[i].cross(at[(i + 1) % k])).sum();
    if k < 3 || normal.length() < 1.0 {
        reader.refuse(
            "/say/around",
            "",
            "these nodes enclose nothing",
            "name three or more nodes round an opening",
        );
        return None;
    }
    let normal = normal.normalize();
    if let Some(i) = at.iter().position(|p| (*p - at[0]).dot(normal).abs() > 0.5) {
        reader.refuse(
            &format!("/say/around/{i}"),
            &say.around[i],
            "the nodes do not lie in one plane",
            "leave this node out",
        );
        return None;
    }
    let mut sides = Vec::new();
    let mut rise = f64::NEG_INFINITY;
    for i in 0..k {
        let (a, b) = (at[i], at[(i + 1) % k]);
        let d = (b - a).normalize_or_zero();
        let inward = normal.cross(d);
        let on = |m: &Member| {
            let near = |p: DVec3| {
                let v = s.nodes[m.from].at - p;
                let along = (s.nodes[m.to].at - s.nodes[m.from].at).normalize_or_zero();
                (v - along * v.dot(along)).length() < SAME
            };
            m.is_straight() && near(a) && near(b) && m.end(0).d.dot(d).abs() > 1.0 - 1e-6
        };
        let mut inner = f64::NEG_INFINITY;
        for m in s.members.iter().filter(|m| on(m)) {
            let (bar, p) = (m.end(0), &s.profiles[m.profile]);
            let way = if say.over { -inward } else { inward };
            let face = (bar.o - a).dot(way) + p.reach(bar.turned(way).0);
            inner = inner.max(if say.over { -face } else { face });
            rise = rise.max((bar.o - a).dot(normal) + p.reach(bar.turned(normal).0));
        }
        if inner == f64::NEG_INFINITY {
            inner = 0.0;
        }
        let p = a + inward * (inner + clearance);
        sides.push((p, d));
    }
    let x = sides[0].1;
    let y = normal.cross(x);
    let flat = |v: DVec3| DVec2::new(v.dot(x), v.dot(y));
    let origin = at[0];
    let mut corners = Vec::new();
    for i in 0..k {
        let ((p, d), (q, e)) = (sides[(i + k - 1) % k], sides[i]);
        let cross = flat(d).perp_dot(flat(e));
        if cross.abs() < 1e-6 {
            corners.push(flat(q - origin));
            continue;
        }
        let along = flat(q - p).perp_dot(flat(e)) / cross;
        corners.push(flat(p + d * along - origin));
    }
    let outline = Contour::polygon(corners, 0);
    if outline.signed_area() < 1.0 || ground::geom::first_crossing(&outline).is_some() {
        reader.refuse(
            "/say/clearance",
            &say.clearance,
            "nothing is left between the members",
            "write a smaller clearance",
        );
        return None;
    }
    let off = if say.off.trim().is_empty() {
        if say.over && rise.is_finite() { rise + t / 2.0 } else { 0.0 }
    } else {
        reader.length("/say/off", &say.off, Range::Any)?
    };
    let weld = outline.perimeter();
    Some(vec![Cutting::new("plate", outline, t, origin + normal * (off - t / 2.0), x, y).welded(weld, t)])
}

//! Faces laid flat as one piece: each hung on the one before it over a bend or a crease, the inside up.

use std::f64::consts::PI;

use glam::{DVec2, DVec3};
use ground::geom::convex::moved_in;
use ground::geom::{COINCIDENT, Contour, Vertex};
use ground::reference::part;
use shop::bend::{Allowance, setback};

use super::face::{Along, Face, Plane, Tip};
use crate::flat::bend_allowance::{bend_by, crease};
use crate::flat::bends::{BendFact, BendRole};
use crate::flat::blank::Blank;
use crate::flat::spec::Turn;
use crate::formed::zones::{BendZone, Kind, Zone};

/// A face hung on another: its parent, the side of that, and its own side.
#[derive(Clone, Copy, Debug)]
pub struct Hung {
    pub parent: usize,
    pub side: usize,
    pub own: usize,
}

/// Faces and what each hangs on, the root first; none but the root is without.
pub struct Net {
    pub faces: Vec<Face>,
    pub hung: Vec<Option<Hung>>,
    /// What it is cut by, and meets its mirror at.
    pub cut: Option<Plane>,
}

/// How faces that hang together are bent.
pub enum Made {
    /// With this inside radius.
    Bent(f64),
    /// Along a line, without allowance.
    Creased,
}

/// What is wrong with a net.
pub enum NoNet {
    /// Bends of this face leave nothing of it.
    Crowded(String),
    /// No allowance, which is told.
    Told,
}

/// Corners of the outline nearer than this are one, mm.
const CORNER: f64 = 1e-4;

/// A link of the net, bent: from the sharp on the middle of the sheet to either tangent line, and how wide it
/// is in the flat.
struct Link {
    angle: f64,
    radius: f64,
    back: f64,
    allowance: Allowance,
}

impl Net {
    fn links(&self, made: &Made, turn: &mut Turn) -> Option<Vec<Option<Link>>> {
        let t = turn.stock.t;
        let mut link = |face: &Face, hung: Hung| {
            let angle = face.out.angle_between(self.faces[hung.parent].out);
            let (radius, allowance) = match *made {
                Made::Creased => crease(t),
                Made::Bent(r) => (r, bend_by(turn.tell, turn.stock.rule, turn.stock, angle, r)?),
            };
            Some(Link { angle, radius, back: (radius + t / 2.0) * (angle / 2.0).tan(), allowance })
        };
        let all = self.faces.iter().zip(&self.hung);
        all.map(|(face, hung)| hung.map_or(Some(None), |h| link(face, h).map(Some))).collect()
    }

    /// The blank with a zone for every face and every bend.
    pub fn blank(&self, made: &Made, turn: &mut Turn) -> Result<Blank, NoNet> {
        let links = self.links(made, turn).ok_or(NoNet::Told)?;
        let n = self.faces.len();
        let mut laid = Laid {
            net: self,
            links: &links,
            line: turn.at.line.into(),
            t: turn.stock.t,
            is_creased: matches!(made, Made::Creased),
            beside: vec![Vec::new(); n],
            outline: Vec::new(),
            tags: Vec::new(),
            zones: Vec::new(),
            bends: Vec::new(),
        };
        for (k, hung) in self.hung.iter().enumerate() {
            if let Some(hung) = hung {
                laid.beside[hung.parent].push((hung.side, k));
            }
        }
        let root = self.hung.iter().position(Option::is_none).unwrap_or(0);
        let flat = Flat::of(&self.faces[root]);
        laid.face(root, &flat, None)?;
        laid.bends.sort_by_key(|b| b.0);
        let bends = laid.bends.into_iter().map(|b| b.1).collect();
        let outer = Contour { vertices: apart(&laid.outline) };
        Ok(Blank { bends, ..Blank::new(&laid.line, outer, laid.zones, laid.tags) })
    }
}

/// The corners of a face in the flat as sharp as it is told, in the order that the outline runs in: seen from
/// inside the ring runs the other way.
struct Flat {
    corners: Vec<DVec2>,
}

impl Flat {
    /// A side of it along an opening lies to the south.
    fn of(face: &Face) -> Flat {
        let rests = face.side(Along::Low).or_else(|| face.side(Along::High)).unwrap_or(0);
        let [a, b] = face.ends(rests);
        // Seen from inside what ran to the east runs to the west.
        let along_it =
            (a - b).normalize_or_zero() * if face.along[rests] == Along::High { -1.0 } else { 1.0 };
        // A floor lies as it stands.
        let east = (DVec3::X - face.out * face.out.x).normalize_or(along_it);
        let x = if face.is_end { east } else { along_it };
        let y = (-face.out).cross(x);
        let o = face.ring[rests];
        Flat {
            corners: face.ring.iter().rev().map(|p| DVec2::new((*p - o).dot(x), (*p - o).dot(y))).collect(),
        }
    }

    /// So turned and moved that a side lies on another, which runs the other way.
    fn against(&self, side: usize, [p, q]: [DVec2; 2]) -> Flat {
        let n = self.corners.len();
        let (a, b) = (self.corners[side], self.corners[(side + 1) % n]);
        let turn = (p - q).normalize_or_zero();
        let own = (b - a).normalize_or_zero();
        let turn = turn.rotate(DVec2::new(own.x, -own.y));
        Flat { corners: self.corners.iter().map(|c| q + turn.rotate(*c - a)).collect() }
    }
}

/// Index in the flat of a side of a face, whose ring runs the other way there.
fn turned_over(side: usize, n: usize) -> usize {
    (2 * n - 2 - side) % n
}

/// Where the side before each corner ends, and its own begins: apart where the corner is taken off.
/// In the flat the ring of the face runs the other way.
fn cut_off(corners: &[DVec2], tips: &[Tip]) -> Vec<[DVec2; 2]> {
    let n = corners.len();
    let at = |c: usize| {
        let Some(tip) = tips.iter().find(|t| n - 1 - t.corner == c) else { return [corners[c]; 2] };
        let off = |to: usize, by: f64| corners[c] + (corners[to] - corners[c]).normalize_or_zero() * by;
        [off((c + n - 1) % n, tip.after), off((c + 1) % n, tip.before)]
    };
    (0..n).map(at).collect()
}

struct Laid<'a> {
    net: &'a Net,
    links: &'a [Option<Link>],
    line: String,
    t: f64,
    is_creased: bool,
    /// Sides of each face and what hangs there.
    beside: Vec<Vec<(usize, usize)>>,
    outline: Vec<Vertex>,
    tags: Vec<String>,
    zones: Vec<Zone>,
    /// With the face beyond each.
    bends: Vec<(usize, BendFact)>,
}

/// Corners of an outline that lie apart: either end of a crease is one.
fn apart(outline: &[Vertex]) -> Vec<Vertex> {
    let mut out: Vec<Vertex> = Vec::new();
    for v in outline {
        match out.last_mut() {
            Some(last) if last.p.distance(v.p) < CORNER => last.tag = v.tag,
            _ => out.push(*v),
        }
    }
    while out.len() > 1 && out[0].p.distance(out[out.len() - 1].p) < CORNER {
        out.pop();
    }
    out
}

impl Laid<'_> {
    fn tag(&mut self, name: &str) -> u32 {
        let name = part(&self.line, name);
        let known = self.tags.iter().position(|t| *t == name);
        known.unwrap_or_else(|| {
            self.tags.push(name);
            self.tags.len() - 1
        }) as u32
    }

    fn called(face: &Face, what: &str) -> String {
        format!("{}-{what}", face.name)
    }

    /// What a free side of a face is called.
    fn side_called(face: &Face, side: usize) -> String {
        match face.along[side] {
            Along::Cut => Self::called(face, "cut"),
            _ if face.is_end => Self::called(face, &(side + 1).to_string()),
            Along::Low => Self::called(face, "bottom"),
            Along::High => Self::called(face, "top"),
            Along::Next => Self::called(face, "right"),
            Along::Before => Self::called(face, "left"),
        }
    }

    /// Lays a face, then what hangs on it; `from` is its parent's zone and the line of the bend there.
    fn face(
        &mut self,
        k: usize,
        flat: &Flat,
        from: Option<(usize, [DVec2; 2])>,
    ) -> Result<[DVec2; 2], NoNet> {
        let face = &self.net.faces[k];
        let n = flat.corners.len();
        let own = self.net.hung[k].map(|h| turned_over(h.own, n));
        let hung: Vec<Option<usize>> = (0..n)
            .map(|s| self.beside[k].iter().find(|(side, _)| turned_over(*side, n) == s).map(|(_, c)| *c))
            .collect();
        let back = |s: usize| match hung[s].or((own == Some(s)).then_some(k)) {
            Some(bent) => self.links[bent].as_ref().map_or(0.0, |l| l.back),
            None => face.cut_back[turned_over(s, n)],
        };
        let corners = moved_in(&flat.corners, back).ok_or_else(|| NoNet::Crowded(face.name.clone()))?;
        let corners = cut_off(&corners, &face.tips);
        let ends = |s: usize| [corners[s][1], corners[(s + 1) % n][0]];
        let zone = self.zones.len();
        let place = match (from, own) {
            (Some((_, [p, q])), Some(s)) => {
                let [a, b] = ends(s);
                [(a + b) / 2.0, -(q - p).normalize_or_zero().perp()]
            }
            _ => [corners.iter().map(|c| c[0]).sum::<DVec2>() / n as f64, DVec2::X],
        };
        let mut region: Vec<DVec2> = corners.iter().flatten().copied().collect();
        region.dedup();
        let name = part(&self.line, &face.name);
        let parent = from.map(|f| f.0);
        self.zones.push(Zone::new(name, &self.line, Kind::Panel, parent, place, region));
        let seam = Self::called(face, "seam");
        let first = own.map_or(0, |s| s + 1);
        if own.is_some() {
            self.cut_corner(corners[first % n], &seam);
        }
        for s in (first..first + n - usize::from(own.is_some())).map(|s| s % n) {
            let tag =
                if hung[s].is_some() { 0 } else { self.tag(&Self::side_called(face, turned_over(s, n))) };
            self.outline.push(Vertex { p: corners[s][1], bulge: 0.0, tag });
            if let Some(child) = hung[s] {
                self.bend(child, zone, ends(s), [flat.corners[s], flat.corners[(s + 1) % n]])?;
            }
            self.cut_corner(corners[(s + 1) % n], &seam);
        }
        Ok(own.map_or([DVec2::ZERO; 2], ends))
    }

    /// The side where a seam takes a corner off.
    fn cut_corner(&mut self, [from, to]: [DVec2; 2], name: &str) {
        if from != to {
            let tag = self.tag(name);
            self.outline.push(Vertex { p: from, bulge: 0.0, tag });
        }
    }

    /// The bend from a side of a face, whose tangent line and sharp are given, and the face beyond it.
    fn bend(
        &mut self,
        child: usize,
        parent: usize,
        near: [DVec2; 2],
        sharp: [DVec2; 2],
    ) -> Result<(), NoNet> {
        let (face, hung) = (&self.net.faces[child], self.net.hung[child]);
        let (Some(link), Some(hung)) = (&self.links[child], hung) else { return Ok(()) };
        let along = -(sharp[1] - sharp[0]).normalize_or_zero().perp();
        let width = link.allowance.length;
        let shift = along * (width - 2.0 * link.back);
        let whole = Flat::of(face);
        let own = turned_over(hung.own, whole.corners.len());
        let laid = whole.against(own, sharp.map(|p| p + shift));
        let bend = self.zones.len();
        let name = part(&self.line, format!("{}.bend", face.name));
        let kind = Kind::Bend(BendZone {
            angle: link.angle,
            up: true,
            radius: link.radius,
            allowance: width,
            k: link.allowance.k,
        });
        let middle = (near[0] + near[1]) / 2.0;
        let line = self.line.clone();
        self.zones.push(Zone::new(name.clone(), &line, kind, Some(parent), [middle, along], Vec::new()));
        let at = self.outline.len();
        let far = self.face(child, &laid, Some((bend, near)))?;
        let region = vec![near[1], near[0], far[1], far[0]];
        self.zones[bend] = Zone::new(name.clone(), &line, kind, Some(parent), [middle, along], region);
        // The ends of the bend belong to the sides of the face beyond it.
        if let (Some(tag), true) = (self.outline.get(at).map(|v| v.tag), at > 0) {
            self.outline[at - 1].tag = tag;
        }
        let last = self.outline.last().map_or(0, |v| v.tag);
        self.outline.push(Vertex { p: far[0], bulge: 0.0, tag: last });
        let ossb = setback(link.radius + self.t, link.angle);
        let fact = BendFact {
            zone: bend,
            name,
            label: part(&line, &face.name),
            line,
            role: if self.is_creased { BendRole::Crease } else { BendRole::Fold },
            angle: link.angle,
            up: true,
            radius: link.radius,
            deduction: 2.0 * ossb - width,
            allowance: link.allowance.clone(),
            ossb,
            rolled: false,
            ends: [(near[0] + far[1]) / 2.0, (near[1] + far[0]) / 2.0],
            pointer: None,
            flange: None,
        };
        self.bends.push((child, fact));
        Ok(())
    }
}

impl Net {
    /// Cuts the sides back that meet another face without hanging on it, so that the inner edges touch:
    /// half a thickness each, and half of a gap.
    pub fn cut_back(&mut self, t: f64, gap: f64) {
        let mut cuts = Vec::new();
        for (i, face) in self.faces.iter().enumerate() {
            for s in (0..face.ring.len()).filter(|s| self.beyond(i, *s).is_none()) {
                let meets = |o: &&Face| o.meeting(face.ends(s)).is_some();
                let mirrored = |p: Plane| face.out - 2.0 * p.way * face.out.dot(p.way);
                // The plane itself stands off its mirror by the gap.
                let (other, gap) = match face.along[s] {
                    Along::Cut => (self.cut.map(mirrored), 0.0),
                    _ => (self.faces.iter().find(meets).map(|o| o.out), gap),
                };
                if let Some(other) = other {
                    let angle = face.out.angle_between(other).min(PI - 0.1);
                    cuts.push((i, s, t / 2.0 * (angle / 2.0).tan() + gap / 2.0));
                }
            }
        }
        cuts.into_iter().for_each(|(i, s, by)| self.faces[i].cut_back[s] = by);
        self.cut_tips();
    }

    /// Where a face that is cut back along a seam ends in a point, the seam goes on through its neighbour.
    fn cut_tips(&mut self) {
        let upright = |f: &Face, s: usize| matches!(f.along[s], Along::Next | Along::Before);
        let mut tips: Vec<(usize, Tip)> = Vec::new();
        for (i, face) in self.faces.iter().enumerate() {
            let n = face.ring.len();
            for s in (0..n).filter(|s| face.cut_back[*s] > 0.0 && upright(face, *s)) {
                // The other side of the face at either end; at a tip it too runs from opening to opening.
                for (tip, other) in [(s, (s + n - 1) % n), ((s + 1) % n, (s + 1) % n)] {
                    let Some((j, r)) = self.beyond(i, other).filter(|_| upright(face, other)) else {
                        continue;
                    };
                    let (at, near) = (face.ring[tip], &self.faces[j]);
                    let m = near.ring.len();
                    let Some(k) =
                        [r, (r + 1) % m].into_iter().find(|k| near.ring[*k].distance(at) < COINCIDENT)
                    else {
                        continue;
                    };
                    let rim = if k == r { (k + m - 1) % m } else { k };
                    let to = |f: &Face, side: usize| {
                        let [a, b] = f.ends(side);
                        if a.distance(at) < COINCIDENT { b - a } else { a - b }
                    };
                    let first = to(face, s).angle_between(to(face, other));
                    let second = first + to(near, r).angle_between(to(near, rim));
                    if second > PI - 0.1 || self.beyond(j, rim).is_some() {
                        continue;
                    }
                    let [on_line, on_rim] = [first, second].map(|a| face.cut_back[s] / a.sin());
                    if on_line < to(near, r).length() / 2.0 && on_rim < to(near, rim).length() / 2.0 {
                        let [before, after] = if k == r { [on_rim, on_line] } else { [on_line, on_rim] };
                        tips.push((j, Tip { corner: k, before, after }));
                    }
                }
            }
        }
        tips.into_iter().for_each(|(j, tip)| self.faces[j].tips.push(tip));
    }

    /// The face that hangs on a side of another, or that it hangs on, and its side there.
    fn beyond(&self, face: usize, side: usize) -> Option<(usize, usize)> {
        let own = self.hung[face].filter(|h| h.own == side).map(|h| (h.parent, h.side));
        own.or_else(|| {
            let hangs = |h: &&Hung| h.parent == face && h.side == side;
            let child = self.hung.iter().position(|h| h.as_ref().filter(hangs).is_some())?;
            Some((child, self.hung[child]?.own))
        })
    }
}

//! Pressed shapes and drilled holes as surfaces over the flat, for a picture: points with the zone that they
//! fold with and their height over the lower face. The true forms of pressed shapes depend on the tool; what
//! is drawn has the told footprint and height.

use std::f64::consts::{FRAC_PI_2, PI, TAU};

use glam::DVec2;

use crate::flat::pressed::Pressed;
use crate::formed::mesh::FlatMesh;
use crate::formed::zones::{Zone, zone_of};
use crate::result::{PieceResult, PressedMark};
use ground::geom::CHORD;
use ground::geom::triangulate::triangulate;

/// A point of a pressed shape: where over the flat it stands, and in which zone.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stand {
    pub zone: usize,
    pub at: DVec2,
    pub z: f64,
}

#[derive(Clone, Debug, Default, PartialEq)]
pub struct Raised {
    pub points: Vec<Stand>,
    pub triangles: Vec<[u32; 3]>,
    /// Which shape each triangle belongs to.
    pub shapes: Vec<u32>,
    /// From, to.
    pub lines: Vec<[u32; 2]>,
}

/// Steps across a bead.
const ACROSS: usize = 6;
/// Steps down each end of a louvre or bead, by the turn of its curve: between its ends it is straight.
const END: usize = 6;
/// Points of a ring, and of a footprint's outline.
const ROUND: usize = 24;
/// Rings of a dimple.
const RINGS: usize = 4;
/// Steps along a rib.
const RIB: usize = 14;
/// A line on the sheet itself would flicker, mm.
const CLEAR: f64 = 0.2;
/// How full a louvre is along its opening: 8 is nearly square at its ends.
const LOUVRE_ENDS: i32 = 8;

/// All that is pressed out of the flat, folded with its zones.
fn raised(shapes: &[PressedMark], zones: &[Zone], thickness: f64) -> Raised {
    let mut out = Raised::default();
    for (index, mark) in (0u32..).zip(shapes) {
        let Some(zone) = zone_of(zones, mark.at.into()) else { continue };
        let size = mark.footprint.moved(-mark.turn, DVec2::ZERO).bounds().size();
        let mut shape = Shape { mark, zone, zones, thickness, size, index, out: &mut out };
        match mark.pressed {
            Pressed::Rib { .. } => shape.rib(),
            Pressed::Dimple { .. } => {
                shape.footprint();
                shape.dome();
            }
            Pressed::Collar { .. } => {
                shape.footprint();
                shape.collar();
            }
            Pressed::Pad { .. } => shape.pad(),
            Pressed::Louvre { .. } => {
                shape.footprint();
                // Full along the opening on the south side, down to nothing at the north and the ends.
                let rise = |u: f64, v: f64| (1.0 - v) / 2.0 * (1.0 - u.powi(LOUVRE_ENDS)).max(0.0).sqrt();
                let slices = from_ends(|turn| turn.cos().powf(2.0 / f64::from(LOUVRE_ENDS)));
                // Straight from the opening to the sheet.
                shape.grid(&slices, 1, rise, |_| 1.0, 0);
            }
            Pressed::Bead { .. } => {
                shape.footprint();
                let half = shape.size / 2.0;
                // Its ends are round: the width shrinks over the last half width.
                let width = move |u: f64| {
                    let into = half.x - (u * half.x).abs();
                    if into >= half.y { 1.0 } else { circle((half.y - into) / half.y) }
                };
                let slices = from_ends(|turn| 1.0 - half.y / half.x * (1.0 - turn.cos()));
                shape.grid(&slices, ACROSS, |_, v| circle(v), width, ACROSS / 2);
            }
        }
    }
    out
}

/// What stands out of a piece and what is sunk into it: pressed shapes, then drilled holes, both numbered in
/// the order of the flat.
pub fn relief(p: &PieceResult, mesh: &FlatMesh) -> Raised {
    let mut out = raised(&p.flat.pressed, &p.zones, p.thickness);
    let (t, pressed) = (p.thickness, p.flat.pressed.len());
    let bores: std::collections::HashMap<&str, usize> =
        p.flat.bores.iter().enumerate().map(|(k, b)| (b.name.as_str(), k)).collect();
    let n = mesh.points.len() as u32;
    let mut known = std::collections::HashMap::new();
    let mut stand = |out: &mut Raised, i: u32| {
        *known.entry(i).or_insert_with(|| {
            out.points.push(match i {
                i if i < n => {
                    Stand { zone: mesh.zones[i as usize] as usize, at: mesh.points[i as usize], z: t }
                }
                i if i < 2 * n => {
                    let k = (i - n) as usize;
                    Stand { zone: mesh.zones[k] as usize, at: mesh.points[k], z: 0.0 }
                }
                i => {
                    let deep = mesh.wells.points[(i - 2 * n) as usize];
                    Stand { zone: deep.zone as usize, at: deep.at, z: deep.z }
                }
            });
            out.points.len() as u32 - 1
        })
    };
    for (triangle, tag) in mesh.wells.triangles.iter().zip(&mesh.wells.tags) {
        let Some(bore) = p.tags.get(*tag as usize).and_then(|name| bores.get(name.as_str())) else {
            continue;
        };
        let corners = triangle.map(|i| stand(&mut out, i));
        out.triangles.push(corners);
        out.shapes.push((pressed + bore) as u32);
    }
    for edge in &mesh.wells.edges {
        let ends = edge.map(|i| stand(&mut out, i));
        out.lines.push(ends);
    }
    out
}

/// The height of a half circle of radius 1 beside its middle.
fn circle(v: f64) -> f64 {
    (1.0 - v * v).max(0.0).sqrt()
}

/// Places along a shape from −1 to 1, close together where its ends turn down: `at` is told the turn from the
/// very end, where it is 1, to where the straight begins, a quarter of a circle on.
fn from_ends(at: impl Fn(f64) -> f64) -> Vec<f64> {
    let end: Vec<f64> = (0..=END).map(|k| at(FRAC_PI_2 * k as f64 / END as f64)).collect();
    let mut out: Vec<f64> = end.iter().map(|u| -u).chain(end.iter().rev().copied()).collect();
    out.dedup_by(|a, b| *a - *b < 1e-9);
    out
}

struct Shape<'a> {
    mark: &'a PressedMark,
    zone: usize,
    zones: &'a [Zone],
    thickness: f64,
    /// Along the shape, across it.
    size: DVec2,
    index: u32,
    out: &'a mut Raised,
}

impl Shape<'_> {
    fn place(&self, u: f64, v: f64) -> DVec2 {
        DVec2::from(self.mark.at) + DVec2::from_angle(self.mark.turn).rotate(DVec2::new(u, v))
    }

    fn is_down(&self) -> bool {
        self.mark.pressed.up() == Some(false)
    }

    /// A share of the shape's height, on the side that it stands out on.
    fn height(&self, share: f64) -> f64 {
        let by = self.mark.pressed.height() * share;
        if self.is_down() { -by } else { self.thickness + by }
    }

    fn point(&mut self, zone: usize, at: DVec2, z: f64) -> u32 {
        self.out.points.push(Stand { zone, at, z });
        (self.out.points.len() - 1) as u32
    }

    fn face(&mut self, [a, b, c]: [u32; 3]) {
        // Standing out below, the other side is seen.
        self.out.triangles.push(if self.is_down() { [a, c, b] } else { [a, b, c] });
        self.out.shapes.push(self.index);
    }

    /// A closed line.
    fn loop_of(&mut self, ring: &[u32]) {
        let next = ring.iter().skip(1).chain(ring.first());
        self.out.lines.extend(ring.iter().zip(next).map(|(a, b)| [*a, *b]));
    }

    /// Heights over the footprint: `u` along, at `slices`, and `v` across run from −1 to 1, `rise` is a share
    /// of the height, `width` of the width. The line along `ridge` is drawn.
    fn grid(
        &mut self,
        slices: &[f64],
        across: usize,
        rise: impl Fn(f64, f64) -> f64,
        width: impl Fn(f64) -> f64,
        ridge: usize,
    ) {
        let mut rows: Vec<Vec<u32>> = Vec::new();
        for &u in slices {
            let mut row = Vec::new();
            for k in 0..=across {
                let v = -(PI * k as f64 / across as f64).cos();
                let at = self.place(u * self.size.x / 2.0, v * width(u) * self.size.y / 2.0);
                let z = self.height(rise(u, v) * width(u));
                row.push(self.point(self.zone, at, z));
            }
            rows.push(row);
        }
        for pair in rows.windows(2) {
            for k in 0..across {
                let (a, b, c, d) = (pair[0][k], pair[1][k], pair[1][k + 1], pair[0][k + 1]);
                self.face([a, b, c]);
                self.face([a, c, d]);
            }
            self.out.lines.push([pair[0][ridge], pair[1][ridge]]);
        }
    }

    fn ring(&mut self, radius: f64, share: f64) -> Vec<u32> {
        let z = self.height(share);
        let at = |k: usize| DVec2::from_angle(TAU * k as f64 / ROUND as f64) * radius;
        let middle = DVec2::from(self.mark.at);
        (0..ROUND).map(|k| self.point(self.zone, middle + at(k), z)).collect()
    }

    fn band(&mut self, inner: &[u32], outer: &[u32]) {
        let n = inner.len();
        for k in 0..n {
            let (a, b, c, d) = (inner[k], outer[k], outer[(k + 1) % n], inner[(k + 1) % n]);
            self.face([a, b, c]);
            self.face([a, c, d]);
        }
    }

    fn dome(&mut self) {
        let rings: Vec<Vec<u32>> = (0..=RINGS)
            .map(|k| {
                let share = k as f64 / RINGS as f64;
                self.ring(self.size.x / 2.0 * share, circle(share))
            })
            .collect();
        for pair in rings.windows(2) {
            self.band(&pair[0], &pair[1]);
        }
        self.loop_of(&rings[1]);
    }

    fn collar(&mut self) {
        let outer = self.size.x / 2.0;
        let inner = (outer - self.thickness).max(0.0);
        let height = self.mark.pressed.height();
        let top = if height > 0.0 { ((height - self.thickness) / height).max(0.0) } else { 0.0 };
        let foot = self.ring(outer, 0.0);
        let rim = self.ring(outer, top);
        let lip = self.ring(inner, top);
        let well = self.ring(inner, 0.0);
        self.band(&rim, &foot);
        self.band(&lip, &rim);
        self.band(&well, &lip);
        self.loop_of(&rim);
        self.loop_of(&lip);
    }

    /// A prism on its face.
    fn pad(&mut self) {
        let outline = self.mark.footprint.clone().outward();
        let face = triangulate(&[outline.flatten_tagged(CHORD)], &[]);
        let around = outline.flatten(CHORD);
        let ring = |s: &mut Self, share: f64| -> Vec<u32> {
            let z = s.height(share);
            around.iter().map(|p| s.point(s.zone, *p, z)).collect()
        };
        let (foot, top) = (ring(self, 0.0), ring(self, 1.0));
        let n = foot.len();
        for k in 0..n {
            let next = (k + 1) % n;
            self.face([foot[k], foot[next], top[next]]);
            self.face([foot[k], top[next], top[k]]);
        }
        let z = self.height(1.0);
        let lid: Vec<u32> = face.points.iter().map(|p| self.point(self.zone, *p, z)).collect();
        for t in face.triangles {
            self.face(t.map(|k| lid[k as usize]));
        }
        self.loop_of(&top);
    }

    /// The footprint drawn on both faces, a hair off them: what stands out on one side is seen to be pressed
    /// from the other.
    fn footprint(&mut self) {
        let around: Vec<DVec2> = (0..self.mark.footprint.vertices.len())
            .flat_map(|i| {
                let side = self.mark.footprint.segment(i);
                let parts = if side.is_line() { 1 } else { ROUND / 4 };
                (0..parts).map(move |k| side.at(k as f64 / parts as f64))
            })
            .collect();
        for z in [self.thickness + CLEAR, -CLEAR] {
            let ring: Vec<u32> = around.iter().map(|p| self.point(self.zone, *p, z)).collect();
            self.loop_of(&ring);
        }
    }

    /// A straight web from leg to leg, over the inside of the bend.
    fn rib(&mut self) {
        let zone = &self.zones[self.zone];
        let Some(bend) = zone.bend().copied() else { return };
        let inside = if bend.up { self.thickness } else { 0.0 };
        let before = zone.parent.unwrap_or(self.zone);
        let beyond = self
            .zones
            .iter()
            .position(|z| z.parent == Some(self.zone) && z.bend().is_none())
            .unwrap_or(self.zone);
        let half = self.size / 2.0;
        // Which way the bend runs across the rib.
        let forward = DVec2::from_angle(self.mark.turn).dot(zone.along) >= 0.0;
        let mut sides = Vec::new();
        for v in [-half.y, half.y] {
            let side: Vec<u32> = (0..=RIB)
                .map(|k| {
                    let u = half.x * (2.0 * k as f64 / RIB as f64 - 1.0);
                    let along = if forward { u } else { -u } + bend.allowance / 2.0;
                    let own = if along < 0.0 {
                        before
                    } else if along > bend.allowance {
                        beyond
                    } else {
                        self.zone
                    };
                    let at = self.place(u, v);
                    self.point(own, at, inside)
                })
                .collect();
            sides.push(side);
        }
        let (a, b) = (&sides[0], &sides[1]);
        let ends = [a[0], a[RIB], b[RIB], b[0]];
        let mut both = |t: [u32; 3]| {
            self.face(t);
            self.face([t[0], t[2], t[1]]);
        };
        for s in [a, b] {
            (1..RIB).for_each(|k| both([s[0], s[k], s[k + 1]]));
        }
        both([ends[0], ends[1], ends[2]]);
        both([ends[0], ends[2], ends[3]]);
        self.loop_of(&ends);
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::formed::zones::Kind;
    use ground::geom::Contour;

    fn panel() -> Vec<Zone> {
        let place = [DVec2::ZERO, DVec2::X];
        vec![Zone::upright(
            "flat".into(),
            "start-1",
            Kind::Panel,
            None,
            place,
            DVec2::splat(-100.0),
            DVec2::splat(100.0),
        )]
    }

    fn mark(pressed: Pressed, footprint: Contour, turn: f64) -> PressedMark {
        PressedMark {
            name: "louvre-1".into(),
            line: "louvre-1".into(),
            at: [10.0, 20.0],
            turn,
            footprint,
            pressed,
            text: String::new(),
        }
    }

    /// A louvre is as high as told along its opening, on the side told, and nothing at its ends.
    #[test]
    fn a_louvre_stands_out_where_it_opens() {
        for (up, turn) in [(true, 0.0), (false, 0.0), (true, FRAC_PI_2)] {
            let footprint = Contour::rectangle(DVec2::new(-30.0, -6.0), DVec2::new(30.0, 6.0), 0)
                .moved(turn, DVec2::new(10.0, 20.0));
            let pressed = Pressed::Louvre { length: 60.0, width: 12.0, height: 5.0, up };
            let r = raised(&[mark(pressed, footprint, turn)], &panel(), 2.0);
            let z = |s: &Stand| if up { s.z - 2.0 } else { -s.z };
            let most = r.points.iter().map(z).fold(f64::MIN, f64::max);
            assert!((most - 5.0).abs() < 1e-9, "{most}");
            let high = r.points.iter().find(|s| z(s) > 4.999).unwrap();
            // South of the middle, turned with the shape.
            let south = DVec2::from_angle(turn).rotate(DVec2::NEG_Y);
            assert!(((high.at - DVec2::new(10.0, 20.0)).dot(south) - 6.0).abs() < 1e-9);
            assert_eq!(r.shapes.len(), r.triangles.len());
            assert!(
                r.lines
                    .iter()
                    .flatten()
                    .chain(r.triangles.iter().flatten())
                    .all(|i| (*i as usize) < r.points.len())
            );
        }
    }

    /// Between its points too what is drawn lies near the shape, in a few triangles where it is straight: a
    /// louvre of 192 was half of what a picture of an enclosure took.
    #[test]
    fn few_triangles_lie_near_the_shape() {
        // Along, across, and which share of the height stands there.
        type High = fn(f64, f64) -> f64;
        let louvre: High = |u, v| (6.0 - v) / 12.0 * (1.0 - (u / 30.0).powi(8)).sqrt();
        let bead: High = |u, v| {
            let past = (u.abs() - 24.0).max(0.0);
            let half = (36.0 - past * past).sqrt();
            (1.0 - (v / half).powi(2)).max(0.0).sqrt() * half / 6.0
        };
        let long = Pressed::Louvre { length: 60.0, width: 12.0, height: 5.0, up: true };
        let round = Pressed::Bead { flat: false, depth: 5.0, width: 12.0, length: 60.0, up: true };
        for (pressed, high, most) in [(long, louvre, 30), (round, bead, 160)] {
            let footprint = Contour::rectangle(DVec2::new(-20.0, 14.0), DVec2::new(40.0, 26.0), 0);
            let r = raised(&[mark(pressed, footprint, 0.0)], &panel(), 2.0);
            assert!(r.triangles.len() <= most, "{} triangles", r.triangles.len());
            for t in &r.triangles {
                let [a, b, c] = t.map(|k| r.points[k as usize]);
                let at = (a.at + b.at + c.at) / 3.0 - DVec2::new(10.0, 20.0);
                let drawn = ((a.z + b.z + c.z) / 3.0 - 2.0) / 5.0;
                // Where it falls steeply, as near as the eye tells along the sheet.
                let near: Vec<f64> = (0..9)
                    .map(|k| at + DVec2::new(f64::from(k % 3 - 1), f64::from(k / 3 - 1)) * 0.3)
                    .map(|p| high(p.x.clamp(-30.0, 30.0), p.y.clamp(-6.0, 6.0)))
                    .collect();
                let (low, top) = near.iter().fold((1.0f64, 0.0f64), |(l, t), z| (l.min(*z), t.max(*z)));
                assert!(drawn > low - 0.06 && drawn < top + 0.06, "{at}: {drawn}, {low} to {top}");
            }
            let area: f64 = r
                .triangles
                .iter()
                .map(|t| t.map(|k| r.points[k as usize].at))
                .map(|[a, b, c]| (b - a).perp_dot(c - a) / 2.0)
                .sum();
            let whole = if most == 30 { 60.0 * 12.0 } else { 48.0 * 12.0 + 36.0 * PI };
            assert!((area / whole - 1.0).abs() < 0.02, "{area} of {whole}");
        }
    }

    /// A dome reaches its depth in the middle; its foot lies on the sheet.
    #[test]
    fn a_dimple_is_a_dome() {
        let footprint = Contour::circle(DVec2::new(10.0, 20.0), 8.0, 0);
        let r = raised(
            &[mark(Pressed::Dimple { diameter: 16.0, depth: 3.0, up: true }, footprint, 0.0)],
            &panel(),
            1.5,
        );
        for s in &r.points {
            let from = s.at.distance(DVec2::new(10.0, 20.0)) / 8.0;
            let dome = 1.5 + 3.0 * (1.0 - from * from).max(0.0).sqrt();
            assert!(
                (s.z - dome).abs() < 1e-6 || (s.z - 1.7).abs() < 1e-9 || (s.z + 0.2).abs() < 1e-9,
                "{s:?}"
            );
        }
    }
}

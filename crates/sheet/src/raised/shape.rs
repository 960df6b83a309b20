//! One pressed shape as points, triangles and lines over the flat.

use std::f64::consts::{FRAC_PI_2, PI, TAU};

use glam::DVec2;
use ground::geom::CHORD;
use ground::geom::triangulate::triangulate;

use super::{Raised, Stand};
use crate::formed::zones::Zone;
use crate::result::PressedMark;

/// Steps across what is round across.
pub(super) const ACROSS: usize = 6;
/// Steps down each end of what is pressed long, by the turn of its curve: between its ends it is straight.
const END: usize = 6;
/// Points of a ring, and of a footprint's outline.
const ROUND: usize = 24;
/// Rings of a dimple.
const RINGS: usize = 4;
/// Steps along a rib.
const RIB: usize = 14;
/// A line on the sheet itself would flicker, mm.
const CLEAR: f64 = 0.2;
/// The height of a half circle of radius 1 beside its middle.
pub(super) fn circle(v: f64) -> f64 {
    (1.0 - v * v).max(0.0).sqrt()
}

/// Places along a shape from −1 to 1, close together where its ends turn down: `at` is told the turn from the
/// very end, where it is 1, to where the straight begins, a quarter of a circle on.
pub(super) fn from_ends(at: impl Fn(f64) -> f64) -> Vec<f64> {
    let end: Vec<f64> = (0..=END).map(|k| at(FRAC_PI_2 * k as f64 / END as f64)).collect();
    let mut out: Vec<f64> = end.iter().map(|u| -u).chain(end.iter().rev().copied()).collect();
    out.dedup_by(|a, b| *a - *b < 1e-9);
    out
}

/// A pressed shape that is being drawn.
pub(super) struct Shape<'a> {
    pub mark: &'a PressedMark,
    pub zone: usize,
    pub zones: &'a [Zone],
    pub thickness: f64,
    /// Along the shape, across it.
    pub size: DVec2,
    pub index: u32,
    pub out: &'a mut Raised,
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
    pub fn grid(
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

    pub fn dome(&mut self) {
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

    pub fn collar(&mut self) {
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
    pub fn pad(&mut self) {
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
    pub fn footprint(&mut self) {
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
    pub fn rib(&mut self) {
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

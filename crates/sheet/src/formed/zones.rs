//! Zones: the parts of a flat, each with its isometric way into space. A panel moves rigidly, a bend wraps
//! round a cylinder, a cone round its axis. The flat lies with its top face up, z from 0 to t; an upward bend
//! has the top face inside.

use glam::{DAffine3, DMat3, DVec2, DVec3};
use ground::geom::ROUNDING;

use ground::geom::{Bounds, COINCIDENT, Segment};

/// What a zone does when the piece is folded.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Kind {
    Panel,
    Bend(BendZone),
    Cone(ConeZone),
}

/// An annular sector of the flat rolled to a cone. The middle of the sheet keeps its length.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ConeZone {
    /// The point of the flat that the rings run round.
    pub apex: DVec2,
    /// Sweep of the sector in the flat, rad; its middle lies along +x and stays in place.
    pub sweep: f64,
    /// Angle that the rolled piece turns through round its axis, rad.
    pub turn: f64,
    pub up: bool,
}

/// A strip of the flat wrapped on a cylinder.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BendZone {
    /// Angle swept, rad.
    pub angle: f64,
    pub up: bool,
    /// Inside radius.
    pub radius: f64,
    /// Width in the flat.
    pub allowance: f64,
    /// Neutral factor.
    pub k: f64,
}

#[derive(Clone, Debug, PartialEq)]
pub struct Zone {
    pub name: String,
    /// The recipe line that made it.
    pub line: String,
    pub kind: Kind,
    /// The zone it hangs on; the root stays still.
    pub parent: Option<usize>,
    /// A point of the line it shares with its parent.
    pub origin: DVec2,
    /// Unit direction away from the parent.
    pub along: DVec2,
    /// Where it lies in the flat: corners in order, arcs as chords. The outline may take less of it.
    pub region: Vec<DVec2>,
    /// Extent of the region.
    pub min: DVec2,
    pub max: DVec2,
    /// A strip that is glued to another panel.
    pub is_glued: bool,
}

impl Zone {
    pub fn new(
        name: String,
        line: &str,
        kind: Kind,
        parent: Option<usize>,
        [origin, along]: [DVec2; 2],
        region: Vec<DVec2>,
    ) -> Zone {
        let b = Bounds::of(region.iter().copied());
        let (line, min, max) = (line.into(), b.min, b.max);
        Zone { name, line, kind, parent, origin, along, region, min, max, is_glued: false }
    }

    /// The same with another region.
    pub fn lying_in(&self, region: Vec<DVec2>) -> Zone {
        let b = Bounds::of(region.iter().copied());
        Zone { region, min: b.min, max: b.max, ..self.clone() }
    }

    /// An upright rectangle.
    pub fn upright(
        name: String,
        line: &str,
        kind: Kind,
        parent: Option<usize>,
        place: [DVec2; 2],
        min: DVec2,
        max: DVec2,
    ) -> Zone {
        Zone::new(
            name,
            line,
            kind,
            parent,
            place,
            vec![min, DVec2::new(max.x, min.y), max, DVec2::new(min.x, max.y)],
        )
    }

    pub fn contains(&self, p: DVec2) -> bool {
        let e = COINCIDENT;
        if p.x < self.min.x - e || p.x > self.max.x + e || p.y < self.min.y - e || p.y > self.max.y + e {
            return false;
        }
        let n = self.region.len();
        let mut inside = false;
        for i in 0..n {
            let (a, b) = (self.region[i], self.region[(i + 1) % n]);
            if (a.y > p.y) != (b.y > p.y) && p.x < a.x + (b.x - a.x) * (p.y - a.y) / (b.y - a.y) {
                inside = !inside;
            }
        }
        inside || self.off(p) <= e
    }

    /// How far a point lies from the region's border.
    pub fn off(&self, p: DVec2) -> f64 {
        let n = self.region.len();
        (0..n)
            .map(|i| Segment::line(self.region[i], self.region[(i + 1) % n]).nearest(p).distance(p))
            .fold(f64::INFINITY, f64::min)
    }

    pub fn bend(&self) -> Option<&BendZone> {
        match &self.kind {
            Kind::Bend(b) => Some(b),
            _ => None,
        }
    }

    pub fn is_panel(&self) -> bool {
        self.kind == Kind::Panel
    }

    pub fn centre(&self) -> DVec2 {
        (self.min + self.max) / 2.0
    }

    /// To the right along the fold line, seen with the fold at the bottom.
    pub fn right(&self) -> DVec2 {
        -self.along.perp()
    }

    /// Area of the region (shoelace).
    pub fn area(&self) -> f64 {
        let n = self.region.len();
        (0..n).map(|i| self.region[i].perp_dot(self.region[(i + 1) % n])).sum::<f64>().abs() / 2.0
    }

    /// The lines where a bent or rolled zone begins and ends, as wide as the zone; a cone has none.
    pub fn tangents(&self) -> Vec<[DVec2; 2]> {
        let Some(bend) = self.bend() else { return Vec::new() };
        let across = self.along.perp();
        let (low, high) = self.extent()[1];
        [0.0, bend.allowance].map(|u| [low, high].map(|v| self.origin + self.along * u + across * v)).to_vec()
    }

    /// Extent of the region along its own `along`, from its origin, and across it (to the left).
    pub fn extent(&self) -> [(f64, f64); 2] {
        [self.along, self.along.perp()].map(|d| {
            self.region
                .iter()
                .map(|p| (*p - self.origin).dot(d))
                .fold((f64::INFINITY, f64::NEG_INFINITY), |(lo, hi), v| (lo.min(v), hi.max(v)))
        })
    }

    /// The span across (to the left) that the region has at `u` along; `None` where it has none. For convex
    /// regions.
    pub fn span_at(&self, u: f64) -> Option<(f64, f64)> {
        let n = self.region.len();
        let local = |p: DVec2| ((p - self.origin).dot(self.along), (p - self.origin).dot(self.along.perp()));
        let mut out: Option<(f64, f64)> = None;
        let mut add = |v: f64| out = Some(out.map_or((v, v), |(lo, hi)| (lo.min(v), hi.max(v))));
        for i in 0..n {
            let ((ua, va), (ub, vb)) = (local(self.region[i]), local(self.region[(i + 1) % n]));
            if (ua - u).abs() <= COINCIDENT {
                add(va);
            }
            if (ua < u - COINCIDENT && ub > u + COINCIDENT) || (ub < u - COINCIDENT && ua > u + COINCIDENT) {
                add(va + (vb - va) * (u - ua) / (ub - ua));
            }
        }
        out
    }

    /// Zone coordinates (along, across, z) as columns.
    pub fn basis(&self) -> DAffine3 {
        let (n, d) = (self.along, self.along.perp());
        DAffine3::from_mat3_translation(
            DMat3::from_cols(n.extend(0.0), d.extend(0.0), DVec3::Z),
            self.origin.extend(0.0),
        )
    }
}

/// Where a ring of a cone lies once it is rolled.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Ring {
    /// On the axis.
    pub centre: DVec3,
    /// Unit, from the tip to the wide end.
    pub axis: DVec3,
    pub radius: f64,
}

impl ConeZone {
    /// Half the angle at the tip, rad.
    pub fn slope(&self) -> f64 {
        (self.sweep / self.turn).clamp(0.0, 1.0).asin()
    }

    /// Which way round a place runs about the axis that goes against the clock about the tip.
    pub fn sense(&self) -> f64 {
        if self.up { 1.0 } else { -1.0 }
    }

    /// How far the face at height `z` lies outside of the middle of the sheet.
    pub fn outside(&self, t: f64, z: f64) -> f64 {
        -self.sense() * (z - t / 2.0)
    }

    /// The ring of the places that lie `rho` from the tip in the flat, at height `z`.
    pub fn ring(&self, t: f64, rho: f64, z: f64) -> Ring {
        let (sin, cos) = self.slope().sin_cos();
        let out = self.outside(t, z);
        let axis = DVec3::new(cos, 0.0, self.sense() * sin);
        let tip = DVec3::new(self.apex.x, self.apex.y, t / 2.0);
        Ring { centre: tip + axis * (rho * cos - out * sin), axis, radius: rho * sin + out * cos }
    }

    /// A point of the flat at height `z`, with the cone rolled by `fold`. The middle generator stays tangent
    /// to the flat.
    fn rolled(&self, fold: f64, t: f64, p: DVec2, z: f64) -> DVec3 {
        let v = p - self.apex;
        let (rho, theta) = (v.length(), v.to_angle());
        let turn = self.sweep + (self.turn - self.sweep) * fold;
        // Sine of the half angle at the tip: ring length over slant.
        let sin = (self.sweep / turn).clamp(0.0, 1.0);
        let cos = (1.0 - sin * sin).sqrt();
        let side = if self.up { 1.0 } else { -1.0 };
        let phi = theta / sin;
        // In the cone's frame: apex at zero, axis along (cos, 0, side·sin); the middle generator along x.
        let (s, c) = phi.sin_cos();
        let axis = DVec3::new(cos, 0.0, side * sin);
        let out = DVec3::new(sin, 0.0, -side * cos);
        let generator = axis * cos + out * (sin * c) + DVec3::Y * (sin * s);
        // The face away from the axis: at the middle generator this is −side·z.
        let normal = (out * c + DVec3::Y * s) * cos - axis * sin;
        let lift = -side * (z - t / 2.0);
        // At the very tip the faces meet on the axis.
        let at = if rho < ROUNDING { axis * (-lift / sin) } else { generator * rho + normal * lift };
        at + DVec3::new(self.apex.x, self.apex.y, t / 2.0)
    }
}

/// How far a mitre reaches out, in half thicknesses.
const SHARPEST: f64 = 2.0;

impl BendZone {
    /// A line, not a strip.
    pub fn is_crease(&self) -> bool {
        self.allowance <= ROUNDING
    }

    /// Folded by `fold` of its angle: the angle and inside radius then. The neutral line keeps its length.
    fn folded(&self, fold: f64, t: f64) -> Option<(f64, f64)> {
        let angle = self.angle * fold;
        (angle > ROUNDING).then(|| (angle, self.allowance / angle - self.k * t))
    }

    /// (along, z) after bending of a point at `u` along and height `z`; beyond the bend it continues
    /// straight.
    pub fn bent(&self, fold: f64, t: f64, u: f64, z: f64) -> (f64, f64) {
        let Some((angle, r)) = self.folded(fold, t) else { return (u, z) };
        let beyond = (u - self.allowance).max(0.0);
        let (sin, cos) = (angle * (u - beyond) / self.allowance).sin_cos();
        if self.up {
            let rho = r + t - z;
            (rho * sin + beyond * cos, t + r - rho * cos + beyond * sin)
        } else {
            let rho = r + z;
            (rho * sin + beyond * cos, -r + rho * cos - beyond * sin)
        }
    }

    /// (along, z) of a point of a crease: where the faces of both panels meet; of a very sharp one not so far
    /// out.
    fn mitred(&self, fold: f64, t: f64, z: f64) -> (f64, f64) {
        let half = self.angle * fold / 2.0;
        let off = (z - t / 2.0) * (1.0 / half.cos()).min(SHARPEST);
        let sense = if self.up { -1.0 } else { 1.0 };
        (sense * off * half.sin(), t / 2.0 + off * half.cos())
    }

    /// The rigid motion of everything beyond the bend, in zone coordinates.
    fn motion(&self, fold: f64, t: f64) -> DAffine3 {
        let Some((angle, _)) = self.folded(fold, t) else { return DAffine3::IDENTITY };
        let (sin, cos) = angle.sin_cos();
        let sin = if self.up { sin } else { -sin };
        let (x, z) = self.bent(fold, t, self.allowance, 0.0);
        let matrix = DMat3::from_cols(DVec3::new(cos, 0.0, sin), DVec3::Y, DVec3::new(-sin, 0.0, cos));
        let foot = matrix * DVec3::new(self.allowance, 0.0, 0.0);
        DAffine3::from_mat3_translation(matrix, DVec3::new(x, 0.0, z) - foot)
    }
}

/// Where each zone's neighbourhood stands in space, with every bend folded by `fold` (0 flat, 1 formed).
pub fn frames(zones: &[Zone], fold: f64, t: f64) -> Vec<DAffine3> {
    frames_by(zones, &vec![fold; zones.len()], t)
}

/// The same with each bend folded by its own share.
pub fn frames_by(zones: &[Zone], folds: &[f64], t: f64) -> Vec<DAffine3> {
    let mut out: Vec<Option<DAffine3>> = vec![None; zones.len()];
    for start in 0..zones.len() {
        let mut chain = vec![start];
        while let Some(&top) = chain.last() {
            match zones[top].parent {
                Some(p) if out[p].is_none() && chain.len() <= zones.len() => chain.push(p),
                _ => break,
            }
        }
        for &i in chain.iter().rev() {
            if out[i].is_some() {
                continue;
            }
            out[i] = Some(match zones[i].parent {
                None => DAffine3::IDENTITY,
                Some(p) => {
                    let frame = out[p].unwrap_or(DAffine3::IDENTITY);
                    match zones[p].bend() {
                        None => frame,
                        Some(b) => {
                            let basis = zones[p].basis();
                            frame * basis * b.motion(folds[p], t) * basis.inverse()
                        }
                    }
                }
            });
        }
    }
    out.into_iter().map(|f| f.unwrap_or(DAffine3::IDENTITY)).collect()
}

/// A flat point at height `z`, in space.
pub fn formed(zone: &Zone, frame: &DAffine3, fold: f64, t: f64, p: DVec2, z: f64) -> DVec3 {
    match &zone.kind {
        Kind::Panel => frame.transform_point3(p.extend(z)),
        Kind::Cone(c) => frame.transform_point3(c.rolled(fold, t, p, z)),
        Kind::Bend(b) => {
            let (u, v) = ((p - zone.origin).dot(zone.along), (p - zone.origin).dot(zone.along.perp()));
            let (x, z) = if b.is_crease() { b.mitred(fold, t, z) } else { b.bent(fold, t, u, z) };
            frame.transform_point3((zone.origin + zone.along * x + zone.along.perp() * v).extend(z))
        }
    }
}

/// The zone that holds a flat point: the furthest from the root, where borders meet; the nearest, where
/// chords of an arc leave it out.
pub fn zone_of(zones: &[Zone], p: DVec2) -> Option<usize> {
    if zones.len() < 2 {
        return (!zones.is_empty()).then_some(0);
    }
    zones.iter().rposition(|z| z.contains(p)).or_else(|| {
        let apart = |z: &Zone| z.off(p);
        (0..zones.len()).min_by(|&a, &b| apart(&zones[a]).total_cmp(&apart(&zones[b])))
    })
}

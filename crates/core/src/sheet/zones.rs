//! Zones: the parts of a flat, each with its isometric way into space. A panel moves rigidly, a bend wraps round a cylinder.
//! The flat lies with its top face up, z from 0 to t; an upward bend has the top face inside.

use glam::{DAffine3, DMat3, DVec2, DVec3};

/// What a zone does when the piece is folded.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Kind {
    Panel,
    Bend(BendZone),
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
    /// Extent in the flat.
    pub min: DVec2,
    pub max: DVec2,
}

impl Zone {
    pub fn contains(&self, p: DVec2) -> bool {
        let e = crate::geom::COINCIDENT;
        p.x >= self.min.x - e && p.x <= self.max.x + e && p.y >= self.min.y - e && p.y <= self.max.y + e
    }

    pub fn bend(&self) -> Option<&BendZone> {
        match &self.kind {
            Kind::Bend(b) => Some(b),
            Kind::Panel => None,
        }
    }

    /// Zone coordinates (along, across, z) as columns.
    fn basis(&self) -> DAffine3 {
        let (n, d) = (self.along, self.along.perp());
        DAffine3::from_mat3_translation(DMat3::from_cols(n.extend(0.0), d.extend(0.0), DVec3::Z), self.origin.extend(0.0))
    }
}

impl BendZone {
    /// Folded by `fold` of its angle: the angle and inside radius then. The neutral line keeps its length.
    fn folded(&self, fold: f64, t: f64) -> Option<(f64, f64)> {
        let angle = self.angle * fold;
        (angle > 1e-9).then(|| (angle, self.allowance / angle - self.k * t))
    }

    /// (along, z) after bending of a point at `u` along and height `z`; beyond the bend it continues straight.
    fn bent(&self, fold: f64, t: f64, u: f64, z: f64) -> (f64, f64) {
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

    /// The rigid motion of everything beyond the bend, in zone coordinates.
    fn motion(&self, fold: f64, t: f64) -> DAffine3 {
        let at = |u: f64, z: f64| {
            let (x, z) = self.bent(fold, t, self.allowance + u, z);
            DVec3::new(x, 0.0, z)
        };
        let origin = at(0.0, 0.0);
        let matrix = DMat3::from_cols(at(1.0, 0.0) - origin, DVec3::Y, at(0.0, 1.0) - origin);
        DAffine3::from_mat3_translation(matrix, origin - matrix * DVec3::new(self.allowance, 0.0, 0.0))
    }
}

/// Where each zone's neighbourhood stands in space, with every bend folded by `fold` (0 flat, 1 formed).
pub fn frames(zones: &[Zone], fold: f64, t: f64) -> Vec<DAffine3> {
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
                            frame * basis * b.motion(fold, t) * basis.inverse()
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
        Kind::Bend(b) => {
            let (u, v) = ((p - zone.origin).dot(zone.along), (p - zone.origin).dot(zone.along.perp()));
            let (x, z) = b.bent(fold, t, u, z);
            frame.transform_point3((zone.origin + zone.along * x + zone.along.perp() * v).extend(z))
        }
    }
}

/// The zone that holds a flat point.
pub fn zone_of(zones: &[Zone], p: DVec2) -> Option<usize> {
    zones.iter().position(|z| z.contains(p))
}

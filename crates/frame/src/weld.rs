//! Welds where pieces meet: kind, leg, length and metal.

use std::collections::HashMap;

use glam::DVec3;

use super::joints::Joint;
use super::model::Cause;
use super::plate_places::Placed;
use crate::build::overrides::WeldTold;
use crate::build::plates::Met;
use crate::build::skeleton::Skeleton;
use crate::choices::WeldKind;

#[derive(Clone, Debug, PartialEq)]
pub struct Weld {
    /// The node, or the plate's name.
    pub at: String,
    pub between: [String; 2],
    pub kind: WeldKind,
    /// Leg of a fillet, mm; wall of a butt weld.
    pub size: f64,
    /// Smallest leg that the rule allows here.
    pub least: f64,
    pub length: f64,
    /// How often it stands in the frame.
    pub count: usize,
    /// Metal laid down, mm³.
    pub metal: f64,
    /// Of that, at the density of what is welded, kg.
    pub mass: f64,
    /// The thinner of what it joins, mm.
    pub wall: f64,
}

/// Smallest leg of a fillet by the thicker part (AWS D1.1, table of minimum fillet sizes; metric as in
/// shop-rules), never more than the thinner part.
pub fn least_leg(thick: f64, thin: f64) -> f64 {
    let least = if thick <= 6.0 + 0.35 {
        3.0
    } else if thick <= 12.7 {
        5.0
    } else if thick <= 19.05 + 0.95 {
        6.0
    } else {
        8.0
    };
    f64::min(least, thin)
}

/// Throat 0.7 of the leg, throat squared the section, a tenth for reinforcement (common practice).
pub fn fillet_metal(leg: f64, length: f64) -> f64 {
    (0.7 * leg).powi(2) * length * 1.1
}

/// The seam round the cut end of a member.
struct Seam {
    length: f64,
    /// The part of it that each member makes that cuts it; none where one cut makes it all.
    shares: Vec<(Option<usize>, f64)>,
}

impl Seam {
    fn along(&self, by: usize) -> f64 {
        let share =
            |s: &Vec<(Option<usize>, f64)>| s.iter().filter(|x| x.0 == Some(by)).map(|x| x.1).sum::<f64>();
        if self.shares.is_empty() { self.length } else { self.length * share(&self.shares) }
    }
}

/// Its outline on the cut, and whose each side of that is.
fn seam(s: &Skeleton, member: usize, end: usize) -> Seam {
    let m = &s.members[member];
    let p = &s.profiles[m.profile];
    if p.section.shape.is_round() && m.trims[end].is_empty() {
        return Seam { length: p.properties.perimeter, shares: Vec::new() };
    }
    let (flat, cuts) = (m.rim(p, end), m.cuts(end));
    let tips: Vec<DVec3> = flat.iter().map(|&q| cuts.tip(q)).collect();
    let (mut round, mut drawn) = (0.0, 0.0);
    let mut shares: Vec<(Option<usize>, f64)> =
        if cuts.trims().len() > 1 { cuts.trims().iter().map(|t| (t.by, 0.0)).collect() } else { Vec::new() };
    for (i, &a) in flat.iter().enumerate() {
        let next = (i + 1) % flat.len();
        let (b, side) = (flat[next], tips[i].distance(tips[next]));
        round += a.distance(b);
        drawn += side;
        // Side by side, each told by its middle.
        if !shares.is_empty()
            && let Some(k) = cuts.first((a + b) / 2.0)
        {
            shares[k].1 += side;
        }
    }
    for s in &mut shares {
        s.1 /= drawn.max(1e-9);
    }
    // Chords are shorter than the arcs they stand for: brought up to the true perimeter.
    Seam { length: drawn * p.properties.perimeter / round.max(1e-9), shares }
}

/// Plates are welded at `density`, kg/m³; members at their own.
pub fn welds(
    s: &Skeleton,
    joints: &[Joint],
    plates: &[Placed],
    told: &[WeldTold],
    density: f64,
) -> Vec<Weld> {
    let mut out = Vec::new();
    for j in joints {
        let said = told
            .iter()
            .rev()
            .find(|t| t.at.is_empty() || t.at.contains(&j.node) || t.at.contains(&s.nodes[j.node].root));
        // An end that meets several others is gone round once.
        let mut seams: HashMap<(usize, usize), Seam> = HashMap::new();
        for &(a, b) in &j.meets {
            // Wood and plastic are fastened otherwise.
            if ![a, b].iter().all(|i| s.members[*i].material.is_welded()) {
                continue;
            }
            let end = j.members_at_node.iter().find(|(x, _)| x.member == a).and_then(|(x, _)| x.end);
            let Some(end) = end else { continue };
            let (pa, pb) = (
                &s.profiles[s.members[a].profile].section.shape,
                &s.profiles[s.members[b].profile].section.shape,
            );
            let (thick, thin) = (pa.thickness().max(pb.thickness()), pa.thickness().min(pb.thickness()));
            let mitred = s.members[a].trims[end].iter().any(|t| t.cause == Cause::Mitre && t.by == Some(b));
            // A mitre is closed by a butt weld all round; where one ends against another, by a fillet.
            let kind = said.map_or(if mitred { WeldKind::Butt } else { WeldKind::Fillet }, |t| t.kind);
            let length = seams.entry((a, end)).or_insert_with(|| seam(s, a, end)).along(b);
            let least = least_leg(thick, thin);
            let size = match kind {
                WeldKind::Fillet => said.and_then(|t| t.size).unwrap_or(least),
                WeldKind::Butt | WeldKind::Groove => said.and_then(|t| t.size).unwrap_or(pa.thickness()),
            };
            let metal = match kind {
                WeldKind::Fillet => fillet_metal(size, length),
                // A root gap of half the wall, filled (common practice).
                WeldKind::Butt | WeldKind::Groove => size * size / 2.0 * length * 1.1,
            };
            let between = [s.members[a].name.clone(), s.members[b].name.clone()];
            out.push(Weld {
                at: s.nodes[j.node].name.clone(),
                between,
                kind,
                size,
                least,
                length,
                count: 1,
                metal,
                mass: metal * s.members[a].material.density * 1e-9,
                wall: thin,
            });
        }
    }
    out.extend(s.toes.iter().map(|t| {
        let m = &s.members[t.member];
        let wall = s.profiles[m.profile].section.shape.thickness();
        let (thick, thin) = (wall.max(t.against), wall.min(t.against));
        let said = told.iter().rev().find(|w| w.at.is_empty() && w.kind == WeldKind::Fillet);
        let least = least_leg(thick, thin);
        let size = said.and_then(|w| w.size).unwrap_or(least);
        let metal = fillet_metal(size, t.length);
        Weld {
            at: m.name.clone(),
            between: [m.name.clone(), String::new()],
            kind: WeldKind::Fillet,
            size,
            least,
            length: t.length,
            count: s.members.iter().filter(|o| o.root == t.member).count(),
            metal,
            mass: metal * m.material.density * 1e-9,
            wall: thin,
        }
    }));
    for p in plates.iter().filter(|p| p.cutting.weld > 0.0) {
        let c = &p.cutting;
        let least = least_leg(c.thickness.max(c.against), c.thickness.min(c.against));
        let said = told.iter().rev().find(|t| t.at.is_empty());
        // Square edges that meet leave a groove, which is filled flush; what meets over its whole thickness
        // is closed as a mitre of bars is.
        let corner = c.corner.as_ref().filter(|_| said.is_none_or(|t| t.kind != WeldKind::Fillet));
        let kind = match corner.map(|k| k.how) {
            Some(Met::Edge) => WeldKind::Groove,
            Some(Met::Mitred) => WeldKind::Butt,
            Some(Met::Lapped) | None => WeldKind::Fillet,
        };
        let size = match kind {
            WeldKind::Fillet => {
                said.filter(|t| t.kind == WeldKind::Fillet).and_then(|t| t.size).unwrap_or(least)
            }
            _ => said.and_then(|t| t.size).unwrap_or(c.thickness).min(c.thickness),
        };
        let metal = match (kind, corner) {
            (WeldKind::Groove, Some(corner)) => corner.groove(size) * c.weld * 1.1,
            (WeldKind::Butt, _) => size * size / 2.0 * c.weld * 1.1,
            _ => fillet_metal(size, c.weld),
        };
        out.push(Weld {
            at: p.name.clone(),
            between: [p.name.clone(), String::new()],
            kind,
            size,
            least,
            length: c.weld,
            count: p.motions.len(),
            metal,
            mass: metal * density * 1e-9,
            wall: c.thickness.min(c.against),
        });
    }
    out
}

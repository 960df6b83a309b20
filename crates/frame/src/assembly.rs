//! Sub-assemblies: members and plates that are welded first, and how many copies of each the frame has.

use glam::DVec3;

use super::Assembly;
use super::joints::Joint;
use super::model::Member;
use crate::build::skeleton::Skeleton;

/// The copies of each sub-assembly: members of its lines that meet one another hang together.
pub fn assemblies(s: &mut Skeleton, joints: &[Joint], told: &[(Assembly, Vec<String>)]) -> Vec<Assembly> {
    let mut out: Vec<Assembly> = told.iter().map(|a| a.0.clone()).collect();
    for (a, (assembly, (_, of))) in out.iter_mut().zip(told).enumerate() {
        let mut group: Vec<Option<usize>> =
            s.members.iter().enumerate().map(|(i, m)| of.contains(&m.line).then_some(i)).collect();
        let root = |group: &[Option<usize>], mut i: usize| {
            while let Some(up) = group[i].filter(|&up| up != i) {
                i = up;
            }
            i
        };
        for &(i, j) in joints.iter().flat_map(|j| j.meets.iter().chain(&j.touches)) {
            if group[i].is_some() && group[j].is_some() {
                let (p, q) = (root(&group, i), root(&group, j));
                group[p.max(q)] = Some(p.min(q));
            }
        }
        let mut roots: Vec<usize> = Vec::new();
        for i in 0..s.members.len() {
            if group[i].is_none() {
                continue;
            }
            let top = root(&group, i);
            let copy = roots.iter().position(|r| *r == top).unwrap_or_else(|| {
                roots.push(top);
                roots.len() - 1
            });
            s.members[i].assembly = Some((a, copy));
        }
        assembly.copies = roots.len();
    }
    out
}

/// The copy of a sub-assembly that a plate stands nearest to.
pub fn nearest_copy(s: &Skeleton, a: usize, at: DVec3) -> usize {
    let away = |m: &Member| {
        let bar = m.end(0);
        let along = (at - bar.o).dot(bar.d).clamp(0.0, m.length);
        at.distance(bar.o + bar.d * along)
    };
    let of = s.members.iter().filter_map(|m| m.assembly.filter(|x| x.0 == a).map(|x| (away(m), x.1)));
    of.min_by(|p, q| p.0.total_cmp(&q.0)).map_or(0, |p| p.1)
}

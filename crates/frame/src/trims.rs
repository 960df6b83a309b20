//! Told trims once the joints stand, and cuts that another leaves nothing of.

use super::bar::Surface;
use super::model::EndCut;
use crate::build::skeleton::Skeleton;
use glam::DVec2;
use ground::geom::COINCIDENT;

/// Told trims, once the joints stand: each shortens, or lengthens where it was told to. Returns those that
/// would have lengthened, with by how much.
pub fn told_trims(s: &mut Skeleton) -> Vec<(String, usize, f64)> {
    let mut refused = Vec::new();
    for told in std::mem::take(&mut s.told) {
        ground::halt::point();
        let m = &s.members[told.member];
        let reach = |q: DVec2| m.station_of(told.end, &told.trim.surface, q) - m.station(told.end, q);
        // At the middle it may lie outside the end and yet take a corner off.
        let rim = m.rim(&s.profiles[m.profile], told.end);
        let (middle, most) =
            (reach(DVec2::ZERO), rim.iter().map(|&q| reach(q)).fold(f64::NEG_INFINITY, f64::max));
        let m = &mut s.members[told.member];
        if told.lengthen && middle < -COINCIDENT {
            m.trims[told.end] = vec![told.trim];
        } else if most > COINCIDENT || middle > -COINCIDENT {
            if m.trims[told.end].is_empty() && middle < -COINCIDENT {
                // The rest of the end stays where it was.
                let bar = m.end(told.end);
                m.trims[told.end].push(EndCut {
                    surface: Surface::Plane { at: bar.o, normal: bar.d },
                    ..told.trim.clone()
                });
            }
            m.trims[told.end].push(told.trim);
        } else {
            refused.push((told.line, told.member, -middle));
        }
    }
    refused
}

/// Leaves out cuts that nothing of the section comes upon.
pub fn prune(s: &mut Skeleton) {
    for i in 0..s.members.len() {
        ground::halt::point();
        for end in 0..2 {
            let m = &s.members[i];
            if m.trims[end].len() < 2 {
                continue;
            }
            let (mut used, cuts) = (vec![false; m.trims[end].len()], m.cuts(end));
            for k in s.profiles[m.profile].rim.iter().filter_map(|&q| cuts.first(q)) {
                used[k] = true;
            }
            let mut keep = used.iter();
            s.members[i].trims[end].retain(|_| *keep.next().unwrap_or(&true));
        }
    }
}

//! A body cut by a plane square to where one looks: the faces of the cut, and what lies behind it.

use std::collections::HashMap;

use glam::DVec2;
use ground::geom::triangulate::{TaggedLoop, triangulate};
use sheet::mesh::Solid;

use super::{Body, Sight};

/// A plane through corners of the body is moved by this, mm, until it meets none.
const STEP: f64 = 1e-4;
/// Corners nearer to the plane than this, mm, lie on it.
const ON: f64 = 1e-6;
/// Steps that are tried.
const MOST_STEPS: usize = 50;

pub struct Cut {
    /// Loops of the cut faces as the view lies; material lies inside them, even-odd.
    pub loops: Vec<Vec<DVec2>>,
    /// What is left behind the plane, closed by the cut faces.
    pub rest: Body,
}

/// Cuts at a nearness to the eye; none where the plane meets nothing.
pub fn cut(body: &Body, sight: &Sight, near: f64) -> Option<Cut> {
    let depth: Vec<f64> = body.solid.points.iter().map(|p| p.dot(sight.eye)).collect();
    let free = |at: &f64| depth.iter().all(|d| (d - at).abs() > ON);
    let at = (0..MOST_STEPS).map(|k| near - STEP * k as f64).find(free)?;
    let mut points = body.solid.points.clone();
    let mut known: HashMap<(u32, u32), u32> = HashMap::new();
    let behind = |i: u32| depth[i as usize] < at;
    let mut crossing = |a: u32, b: u32, points: &mut Vec<glam::DVec3>| {
        // Told from one end, whichever triangle asks.
        let (a, b) = (a.min(b), a.max(b));
        *known.entry((a, b)).or_insert_with(|| {
            let (da, db) = (depth[a as usize], depth[b as usize]);
            let meets = points[a as usize].lerp(points[b as usize], (at - da) / (db - da));
            points.push(meets);
            points.len() as u32 - 1
        })
    };
    let mut triangles: Vec<[u32; 3]> = Vec::new();
    // Round the cut faces with their material on the left, as who looks sees them.
    let mut next: HashMap<u32, u32> = HashMap::new();
    for t in &body.solid.triangles {
        ground::halt::often();
        let n = t.iter().filter(|i| behind(**i)).count();
        if n == 3 {
            triangles.push(*t);
        }
        if n == 0 || n == 3 {
            continue;
        }
        // Turned so that the one corner that is alone on its side comes first.
        let alone = (0..3).find(|&k| behind(t[k]) == (n == 1)).unwrap_or(0);
        let [a, b, c] = [t[alone], t[(alone + 1) % 3], t[(alone + 2) % 3]];
        let (p, q) = (crossing(a, b, &mut points), crossing(c, a, &mut points));
        if n == 1 {
            triangles.push([a, p, q]);
            next.insert(q, p);
        } else {
            triangles.extend([[p, b, c], [p, c, q]]);
            next.insert(p, q);
        }
    }
    let loops = loops(&mut next);
    if loops.is_empty() {
        return None;
    }
    let mut half = |[a, b]: [u32; 2], points: &mut Vec<glam::DVec3>| match (behind(a), behind(b)) {
        (true, true) => Some([a, b]),
        (false, false) => None,
        (left, _) => Some([if left { a } else { b }, crossing(a, b, points)]),
    };
    let mut sharp: Vec<[u32; 2]> = body.sharp.iter().filter_map(|e| half(*e, &mut points)).collect();
    let soft: Vec<[u32; 2]> = body.soft.iter().filter_map(|e| half(*e, &mut points)).collect();
    let flat: Vec<Vec<DVec2>> =
        loops.iter().map(|l| l.iter().map(|i| sight.flat(points[*i as usize])).collect()).collect();
    for l in &loops {
        sharp.extend((0..l.len()).map(|k| [l[k], l[(k + 1) % l.len()]]));
    }
    // The cut faces hide what lies behind them.
    let tagged: Vec<TaggedLoop> = flat.iter().map(|l| l.iter().map(|p| (*p, 0)).collect()).collect();
    let face = triangulate(&tagged, &[]);
    let first = points.len() as u32;
    points.extend(face.points.iter().map(|p| sight.right * p.x + sight.up * p.y + sight.eye * at));
    triangles.extend(face.triangles.iter().map(|t| t.map(|i| i + first)));
    Some(Cut { loops: flat, rest: Body { solid: Solid { points, triangles }, sharp, soft } })
}

/// Closed loops of what follows what; an end without a next is of no closed surface, and is left out.
fn loops(next: &mut HashMap<u32, u32>) -> Vec<Vec<u32>> {
    let mut starts: Vec<u32> = next.keys().copied().collect();
    // Of a map no order can be relied on.
    starts.sort_unstable();
    let mut out = Vec::new();
    for start in starts {
        let mut loop_ = Vec::new();
        let mut at = start;
        while let Some(to) = next.remove(&at) {
            loop_.push(at);
            at = to;
        }
        if at == start && loop_.len() > 2 {
            out.push(loop_);
        }
    }
    out
}

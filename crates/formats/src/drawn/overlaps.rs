//! Loose lines and arcs that lie partly over one another, cut at each other's ends: what lies over the
//! other is
//! then the same stroke, drawn twice.

use glam::DVec2;
use steelk_core::geom::{Bounds, Grid, Segment};
use steelk_core::halt;

use super::strokes::{Run, SAME};

/// Of one segment's end and another segment: further from it than this it does not lie on it, mm.
const ON: f64 = 2.0 * SAME;

/// Runs that do not close, as single segments, those that lie over one another cut at each other's ends; and
/// the places of those cuts.
pub fn cut_at_overlaps(loose: Vec<Run>) -> (Vec<Run>, Vec<DVec2>) {
    let mut places = Vec::new();
    let singles: Vec<Run> = loose
        .into_iter()
        .flat_map(|r| {
            let (layer, curve) = (r.layer.clone(), r.curve);
            let single = move |s| Run { segments: vec![s], layer: layer.clone(), curve };
            r.segments.into_iter().filter(|s| s.a.distance(s.b) > SAME).map(single)
        })
        .collect();
    let boxes: Vec<Bounds> = singles.iter().map(Run::bounds).collect();
    let grid = Grid::new(&boxes, ON);
    let mut out = Vec::with_capacity(singles.len());
    for (k, run) in singles.iter().enumerate() {
        halt::often();
        let s = run.segments[0];
        let mut cuts: Vec<f64> = Vec::new();
        for other in grid.near(&boxes[k]) {
            let o = singles[other as usize].segments[0];
            if other as usize == k {
                continue;
            }
            for (end, onward) in [(o.a, true), (o.b, false)] {
                let inside = end.distance(s.a) > ON && end.distance(s.b) > ON;
                if inside && s.nearest(end).distance(end) <= ON && runs_along(&o, onward, &s) {
                    cuts.push(along(&s, end));
                }
            }
        }
        cuts.sort_by(f64::total_cmp);
        cuts.dedup_by(|a, b| s.at(*a).distance(s.at(*b)) <= ON);
        places.extend(cuts.iter().map(|t| s.at(*t)));
        out.extend(pieces(&s, &cuts).map(|s| Run { segments: vec![s], ..run.clone() }));
    }
    (out, places)
}

/// Whether `o`, from the one end or the other, goes along `s` for a stretch, either way.
fn runs_along(o: &Segment, onward: bool, s: &Segment) -> bool {
    let (from, length) = (if onward { o.a } else { o.b }, o.length());
    let room = from.distance(s.a).max(from.distance(s.b));
    let step = 0.5 * length.min(room) / length;
    let p = o.at(if onward { step } else { 1.0 - step });
    s.nearest(p).distance(p) <= ON && p.distance(from) > 10.0 * SAME
}

/// Share of the way at a place on it.
fn along(s: &Segment, p: DVec2) -> f64 {
    match s.arc() {
        None => (p - s.a).dot(s.b - s.a) / (s.b - s.a).length_squared(),
        Some(arc) => {
            let turned = ((p - arc.centre).to_angle() - arc.start) * arc.sweep.signum();
            turned.rem_euclid(std::f64::consts::TAU) / arc.sweep.abs()
        }
    }
}

fn pieces<'a>(s: &'a Segment, cuts: &'a [f64]) -> impl Iterator<Item = Segment> + 'a {
    let sweep = 4.0 * s.bulge.atan();
    let edges = move |k: usize| match k {
        0 => (0.0, s.a),
        k if k > cuts.len() => (1.0, s.b),
        k => (cuts[k - 1], s.at(cuts[k - 1])),
    };
    (0..=cuts.len()).map(move |k| {
        let ((from, a), (to, b)) = (edges(k), edges(k + 1));
        Segment { a, b, bulge: if cuts.is_empty() { s.bulge } else { (sweep * (to - from) / 4.0).tan() } }
    })
}

/// Of what stays open, whether it lies wholly on contours that close: then it says nothing new.
pub fn lies_on(open: &[Segment], closed: &[Segment], grid: &Grid) -> bool {
    open.iter().all(|s| {
        let near = grid.near(&s.bounds());
        [0.0, 0.25, 0.5, 0.75, 1.0].iter().all(|t| {
            let p = s.at(*t);
            near.iter().any(|k| closed[*k as usize].nearest(p).distance(p) <= ON)
        })
    })
}

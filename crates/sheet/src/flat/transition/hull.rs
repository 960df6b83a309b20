//! The plane faces between two rings of corners: what a taut skin round both touches.

use glam::{DMat3, DVec2, DVec3};
use ground::geom::COINCIDENT;
use ground::geom::convex::moved_in;

use super::openings::Opening;

/// A face by its corners of either ring, each against the clock seen from above.
#[derive(Clone, Debug, PartialEq)]
pub struct Facet {
    pub low: Vec<usize>,
    pub high: Vec<usize>,
    /// Out of the piece.
    pub out: DVec3,
}

/// The corners of both openings in space, the lower first.
pub type Rings = [Vec<DVec3>; 2];

/// Faces whose ways out differ by less are one, as a sine.
const PLANE: f64 = 1e-7;

/// The faces in turn, against the clock seen from above; none where an opening lies within the other or runs
/// into its plane.
pub fn facets(rings: &Rings) -> Option<Vec<Facet>> {
    let [low, high] = rings;
    let all = || low.iter().chain(high);
    let holds = |at: DVec3, out: DVec3| all().all(|p| (*p - at).dot(out) < COINCIDENT);
    let across = |a: DVec3, b: DVec3, c: DVec3| (b - a).cross(c - a).normalize_or_zero();
    let (mut i, mut j) = (0, 0);
    if low.len() > 1 && high.len() > 1 {
        j = (0..high.len()).find(|j| {
            let out = across(low[0], low[1], high[*j]);
            out != DVec3::ZERO && holds(low[0], out)
        })?;
        i = 1;
    }
    let edges = |ring: &Vec<DVec3>| if ring.len() > 1 { ring.len() } else { 0 };
    let (mut left_low, mut left_high) = (edges(low), edges(high));
    let mut out: Vec<Facet> = Vec::new();
    while left_low + left_high > 0 {
        let (a, b) = (low[i % low.len()], high[j % high.len()]);
        let (next_a, next_b) = (low[(i + 1) % low.len()], high[(j + 1) % high.len()]);
        let by_low = across(a, next_a, b);
        let is_low = left_low > 0 && (left_high == 0 || (next_b - a).dot(by_low) < COINCIDENT / 10.0);
        out.push(if is_low {
            left_low -= 1;
            i += 1;
            Facet { low: vec![(i - 1) % low.len(), i % low.len()], high: vec![j % high.len()], out: by_low }
        } else {
            left_high -= 1;
            j += 1;
            Facet {
                low: vec![i % low.len()],
                high: vec![(j - 1) % high.len(), j % high.len()],
                out: across(a, next_b, b),
            }
        });
    }
    if out.iter().any(|f| f.out == DVec3::ZERO || !holds(low[f.low[0]], f.out)) {
        return None;
    }
    let apart = |a: &Facet, b: &Facet| a.out.cross(b.out).length() > PLANE;
    let first = (0..out.len()).find(|k| apart(&out[(k + out.len() - 1) % out.len()], &out[*k]))?;
    out.rotate_left(first);
    let mut whole: Vec<Facet> = Vec::new();
    for f in out {
        match whole.last_mut() {
            Some(last) if !apart(last, &f) => {
                for (all, more) in [(&mut last.low, f.low), (&mut last.high, f.high)] {
                    all.extend(more.into_iter().skip(1));
                }
            }
            _ => whole.push(f),
        }
    }
    Some(whole)
}

/// The faces between two openings, as told and with the sheet's thickness.
pub struct Skin {
    pub told: Rings,
    /// Of what is told.
    pub faces: Vec<Facet>,
    pub moved: Rings,
}

/// Why there is none.
pub enum NoSkin {
    /// An opening runs into the plane of the other.
    Crosses,
    /// Moved so far an opening loses a side.
    Thick,
}

impl Skin {
    /// With `lines` corners for each round one, and every face moved out (inwards below zero).
    pub fn of(both: &[Opening; 2], lines: usize, by: f64) -> Result<Skin, NoSkin> {
        let [low, high] = both;
        let flat = [low.ring(high, lines), high.ring(low, lines)];
        let told: Rings = [0, 1].map(|k| flat[k].iter().map(|p| both[k].point(*p)).collect());
        let crosses = told[0].iter().any(|p| (*p - high.o).dot(high.normal()) > -COINCIDENT)
            || told[1].iter().any(|p| p.z < COINCIDENT);
        let faces = facets(&told).filter(|_| !crosses).ok_or(NoSkin::Crosses)?;
        let moved = match by {
            0.0 => told.clone(),
            _ => moved_out(both, [&flat[0], &flat[1]], &faces, by).ok_or(NoSkin::Thick)?,
        };
        Ok(Skin { told, faces, moved })
    }
}

/// The corners of both openings in their planes with every face moved out by `by` (inwards below zero); none
/// where a side is lost over it.
fn moved_out(openings: &[Opening; 2], rings: [&[DVec2]; 2], facets: &[Facet], by: f64) -> Option<Rings> {
    let [low, high] = [0, 1].map(|upper| {
        let (opening, ring) = (&openings[upper], rings[upper]);
        let n = ring.len();
        if n == 1 {
            return moved_point(opening.point(ring[0]), facets, by).map(|p| vec![p]);
        }
        let out = |k: usize| {
            let d = ring[(k + 1) % n] - ring[k];
            DVec2::new(d.y, -d.x).normalize_or_zero()
        };
        let off = |k: usize| {
            let runs = |f: &&Facet| {
                let of = if upper == 0 { &f.low } else { &f.high };
                of.windows(2).any(|w| w[0] == k && w[1] == (k + 1) % n)
            };
            let way = out(k);
            let leans = facets.iter().find(runs)?.out.dot(opening.x * way.x + opening.y * way.y);
            (leans > 1e-3).then(|| by / leans)
        };
        let offs: Vec<f64> = (0..n).map(off).collect::<Option<_>>()?;
        // A side that is as long as nothing is lost too.
        let moved = moved_in(ring, |k| -offs[k])?;
        let stands = |k: usize| moved[(k + 1) % n].distance(moved[k]) > COINCIDENT;
        (0..n).all(stands).then(|| moved.iter().map(|p| opening.point(*p)).collect())
    });
    Some([low?, high?])
}

/// The point that lies nearest to every face, moved.
fn moved_point(p: DVec3, facets: &[Facet], by: f64) -> Option<DVec3> {
    let mut square = DMat3::ZERO;
    let mut right = DVec3::ZERO;
    for f in facets {
        square += DMat3::from_cols(f.out * f.out.x, f.out * f.out.y, f.out * f.out.z);
        right += f.out * by;
    }
    (square.determinant().abs() > 1e-9).then(|| p + square.inverse() * right)
}

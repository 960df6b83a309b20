//! Which faces of a transition are there, where it is cut open, and what hangs on what.

use std::f64::consts::{FRAC_PI_2, PI, TAU};

use glam::DVec3;

use super::face::{Along, Face, Plane};
use super::hull::{Facet, Rings};
use super::net::{Hung, Net};
use super::openings::Opening;
use crate::choices::Compass;

/// What is made of it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Stands {
    Whole,
    /// Without the side that looks this way.
    Without(Compass),
    Half(Compass),
}

/// How it is laid.
pub struct Laying {
    /// Which way the seam looks.
    pub seam: f64,
    /// Of edges that meet without a bend.
    pub gap: f64,
    pub stands: Stands,
    /// Round the lower opening or the upper one; else face beside face.
    pub round: Option<bool>,
    pub floor: bool,
    pub lid: bool,
    /// A side that hangs on the floor, or else on the lid, and on no side beside it.
    pub ripped: Option<Compass>,
    /// Only what lies beyond this is made.
    pub cut: Option<Plane>,
}

/// Headings nearer than this are one, rad.
const SAME: f64 = 1e-6;

fn heading(out: DVec3) -> f64 {
    out.y.atan2(out.x)
}

/// How far against the clock from one heading to another.
fn from(a: f64, b: f64) -> f64 {
    let turn = (b - a).rem_euclid(TAU);
    if turn > TAU - SAME { 0.0 } else { turn }
}

fn looks(face: &Face, to: Compass) -> bool {
    let off = from(to.out().to_angle(), heading(face.out));
    off.min(TAU - off) < SAME
}

/// The faces with their names: by where they look, else numbered.
pub fn named(facets: &[Facet], rings: &Rings) -> Vec<Face> {
    let mut numbered = 0;
    let named = facets.iter().map(|f| {
        let mut face = Face::of(f, rings, String::new());
        face.name = Compass::ALL.iter().find(|c| looks(&face, **c)).map_or_else(
            || {
                numbered += 1;
                format!("face-{numbered}")
            },
            |c| c.name().into(),
        );
        face
    });
    named.collect()
}

/// Faces from one heading all the way round; where one looks that way itself it is halved.
fn opened(faces: &[Face], at: f64) -> Vec<Face> {
    let away = |f: &Face| from(at, heading(f.out));
    let mut order: Vec<&Face> = faces.iter().collect();
    order.sort_by(|a, b| away(a).total_cmp(&away(b)));
    let mut out: Vec<Face> = order.into_iter().cloned().collect();
    if out.first().is_some_and(|f| away(f) < SAME) {
        let [before, after] = out.remove(0).halved();
        out.insert(0, after);
        out.push(before);
    }
    out
}

/// Why it is not there.
pub enum NotThere {
    /// No side looks this way.
    Side(Compass),
    /// No straight line from opening to opening parts it in halves.
    Half,
    /// What is left of it hangs together no more; nothing is left.
    Parted,
    Gone,
    /// A side with both its edges ripped hangs on nothing.
    Loose(Compass),
}

/// Whether what begins and ends here is cut through the middles of both openings, square to the way that the
/// half looks.
fn is_half(row: &[Face], openings: &[Opening; 2], to: Compass) -> bool {
    let way = to.out().extend(0.0);
    let through = |face: Option<&Face>, along: Along| {
        let ends = face.and_then(|f| Some(f.ends(f.side(along)?)));
        ends.is_some_and(|[a, b]| {
            let met = if along == Along::Next { [a, b] } else { [b, a] };
            (0..2).all(|k| (met[k] - openings[k].o).dot(way).abs() < NEAR)
        })
    };
    through(row.first(), Along::Before) && through(row.last(), Along::Next)
}

/// How far from the middle an end of a cut through it may lie, mm.
const NEAR: f64 = 1e-3;

/// What of a row lies beyond a plane.
fn beyond(row: &[Face], plane: &Plane) -> Result<Vec<Face>, NotThere> {
    let kept: Vec<Option<Face>> = row.iter().map(|f| f.beyond(plane)).collect();
    let first = kept.iter().position(Option::is_some).ok_or(NotThere::Gone)?;
    let last = kept.iter().rposition(Option::is_some).unwrap_or(first);
    let kept: Vec<Face> = kept[first..=last].iter().flatten().cloned().collect();
    let joined = |w: &[Face]| w[0].side(Along::Next).is_some_and(|k| w[1].meeting(w[0].ends(k)).is_some());
    let is_whole = kept.len() == last + 1 - first && kept.windows(2).all(joined);
    if is_whole { Ok(kept) } else { Err(NotThere::Parted) }
}

/// The faces as they hang on one another.
pub fn unrolled(
    facets: &[Facet],
    rings: &Rings,
    openings: &[Opening; 2],
    how: &Laying,
) -> Result<Net, NotThere> {
    let faces = named(facets, rings);
    let all_but = |side: Compass| {
        let mut kept: Vec<Face> = faces.iter().filter(|f| !looks(f, side)).cloned().collect();
        let at = side.out().to_angle();
        kept.sort_by(|a, b| from(at, heading(a.out)).total_cmp(&from(at, heading(b.out))));
        if kept.len() < faces.len() { Ok(kept) } else { Err(NotThere::Side(side)) }
    };
    let mut row = match (how.stands, how.ripped) {
        (Stands::Whole, None) => opened(&faces, how.seam),
        (Stands::Without(side), _) | (Stands::Whole, Some(side)) => all_but(side)?,
        (Stands::Half(side), _) => {
            let start = side.out().to_angle() - FRAC_PI_2;
            let all = opened(&faces, start);
            let far = |f: &Face| from(start, heading(f.out));
            let n = all.len();
            let mut kept = Vec::new();
            for (k, f) in all.into_iter().enumerate() {
                // The second half of what is cut open looks the same way as the first.
                let turn = if k + 1 == n && far(&f) < SAME { TAU } else { far(&f) };
                if turn < PI - SAME {
                    kept.push(f);
                } else if turn < PI + SAME {
                    let [before, _] = f.halved();
                    kept.push(before);
                }
            }
            if !is_half(&kept, openings, side) {
                return Err(NotThere::Half);
            }
            kept
        }
    };
    if let Some(plane) = &how.cut {
        row = beyond(&row, plane)?;
    }
    let mut hung: Vec<Option<Hung>> = vec![None; row.len()];
    // What lies still is the widest face about the middle of the row.
    let half = row.len() / 2;
    let about = half - row.len() / 6..=(half + row.len() / 6).min(row.len() - 1);
    let middle = about.max_by(|a, b| row[*a].area().total_cmp(&row[*b].area())).unwrap_or(half);
    let side = |row: &[Face], k: usize, along: Along| row[k].side(along);
    let beside = |row: &[Face], k: usize, next: bool| {
        let (parent, own, on) =
            if next { (k - 1, Along::Before, Along::Next) } else { (k + 1, Along::Next, Along::Before) };
        Some(Hung { parent, side: side(row, parent, on)?, own: side(row, k, own)? })
    };
    let count = row.len();
    // Nearest to the middle first.
    let mut by_middle: Vec<usize> = (0..count).collect();
    by_middle.sort_by_key(|k| k.abs_diff(middle));
    match how.round {
        None => {
            for (k, h) in hung.iter_mut().enumerate() {
                if k != middle {
                    *h = beside(&row, k, k > middle);
                }
            }
        }
        Some(upper) => {
            let along = if upper { Along::High } else { Along::Low };
            for (k, h) in hung.iter_mut().enumerate() {
                // Those without a side there hang on the one before them, the first on the one after.
                if side(&row, k, along).is_none() {
                    *h = beside(&row, k, k > 0);
                }
            }
        }
    }
    for (upper, has) in [(false, how.floor), (true, how.lid)] {
        if !has {
            continue;
        }
        let along = if upper { Along::High } else { Along::Low };
        let out = if upper { openings[1].normal() } else { -openings[0].normal() };
        let end =
            Face::end(&rings[usize::from(upper)], upper, out, if upper { "lid" } else { "floor" }.into());
        let end = match &how.cut {
            None => end,
            Some(plane) => match end.beyond(plane) {
                Some(end) => end,
                None => continue,
            },
        };
        let at = row.len();
        let meets = |row: &[Face], k: usize| {
            let own = side(row, k, along)?;
            let there = end.meeting(row[k].ends(own))?;
            Some((own, there))
        };
        if how.round == Some(upper) {
            for (k, h) in hung.iter_mut().enumerate().take(count) {
                if let Some((own, there)) = meets(&row, k) {
                    *h = Some(Hung { parent: at, side: there, own });
                }
            }
            hung.push(None);
        } else {
            let on = by_middle.iter().find_map(|k| meets(&row, *k).map(|m| (*k, m)));
            let Some((parent, (own, there))) = on else { continue };
            hung.push(Some(Hung { parent, side: own, own: there }));
        }
        row.push(end);
    }
    if let Some(side) = how.ripped {
        let whole = faces.into_iter().find(|f| looks(f, side)).ok_or(NotThere::Side(side))?;
        let face = match &how.cut {
            None => whole,
            Some(plane) => whole.beyond(plane).ok_or(NotThere::Gone)?,
        };
        let on = |(parent, end): (usize, &Face)| {
            (0..face.ring.len())
                .find_map(|own| Some(Hung { parent, own, side: end.meeting(face.ends(own))? }))
        };
        let met = row.iter().enumerate().skip(count).find_map(on);
        hung.push(Some(met.ok_or(NotThere::Loose(side))?));
        row.push(face);
    }
    Ok(Net { faces: row, hung, cut: how.cut })
}

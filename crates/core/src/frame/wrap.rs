//! Copes laid flat: the skin of a member unrolled, as a paper template to wrap round it and as a cut for a tube laser.

use glam::DVec2;

use super::bores::plan;
use super::profile::divided;
use super::{Cut, FrameResult, Member, Profile};
use crate::geom::{Contour, Vertex};
use crate::job::{Job, Piece};
use crate::result::PieceResult;

/// Points round the outside, from the middle of its top, by distance round it: where they are in the section.
pub fn round_the_outside(p: &Profile) -> Vec<(f64, DVec2)> {
    const PARTS: usize = 256;
    if p.section.shape.is_round() {
        let r = p.section.shape.size().x / 2.0;
        let turn = std::f64::consts::TAU;
        return (0..=PARTS).map(|i| i as f64 / PARTS as f64).map(|f| (f * turn * r, DVec2::from_angle(turn * (0.25 + f)) * r)).collect();
    }
    let outline = p.outer.flatten(p.section.shape.size().max_element() * 2e-4);
    let longest = p.properties.perimeter / PARTS as f64;
    let mut fine = divided(&outline, longest);
    let top = DVec2::new(0.0, p.section.shape.size().y / 2.0);
    let first = (0..fine.len()).min_by(|&a, &b| fine[a].distance(top).total_cmp(&fine[b].distance(top))).unwrap_or(0);
    fine.rotate_left(first);
    let mut out = vec![(0.0, fine[0])];
    let mut at = 0.0;
    for i in 0..fine.len() {
        let next = fine[(i + 1) % fine.len()];
        at += fine[i].distance(next);
        out.push((at, next));
    }
    out
}

/// Members whose ends are copes, in the order that the list numbers its templates: number, member, end.
pub fn copes(r: &FrameResult) -> Vec<(String, usize, usize)> {
    let mut out = Vec::new();
    for g in &r.groups {
        for opposite in [false, true] {
            let Some(f) = g.fits.iter().find(|f| f.mirrored == opposite) else { continue };
            for end in 0..2 {
                if r.facts[f.member].cuts[end] == Cut::Cope {
                    out.push((format!("C{}", out.len() + 1), f.member, end));
                }
            }
        }
    }
    out
}

/// Strip behind the deepest point of a template, mm.
const STRIP: f64 = 40.0;

/// The wrap-round template of a cope: its upper edge is the cut, its lower edge square, with notches on the quarter lines and the widest
/// one on the top of the bar.
pub fn template_outline(m: &Member, p: &Profile, end: usize) -> Contour {
    let points = round_the_outside(p);
    let run = points[points.len() - 1].0;
    let cuts = m.cuts(end);
    let stations: Vec<f64> = points.iter().map(|q| cuts.station(q.1)).collect();
    let deepest = stations.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let v = |x: f64, y: f64| Vertex { p: DVec2::new(x, y), bulge: 0.0, tag: 0 };
    // From the far end of the cut back, then along the square edge.
    let mut out: Vec<Vertex> = points.iter().zip(&stations).rev().map(|(q, s)| v(q.0, deepest - s + STRIP)).collect();
    // The top line is the seam: half a wide notch at either side of it.
    let (wide, small) = (run.min(120.0) / 12.0, run.min(120.0) / 30.0);
    out.push(v(0.0, wide));
    out.push(v(wide, 0.0));
    for quarter in 1..4 {
        let at = run * f64::from(quarter) / 4.0;
        out.extend([v(at - small, 0.0), v(at, small), v(at + small, 0.0)]);
    }
    out.push(v(run - wide, 0.0));
    out.push(v(run, wide));
    Contour { vertices: out }.outward()
}

/// The whole skin of a member unrolled, both ends cut: along x from its start, round it along y.
pub fn skin_outline(m: &Member, p: &Profile) -> Contour {
    let points = round_the_outside(p);
    let v = |x: f64, y: f64| Vertex { p: DVec2::new(x, y), bulge: 0.0, tag: 0 };
    let ends = [0, 1].map(|k| m.cuts(k));
    let low = points.iter().map(|q| ends[0].station(q.1)).fold(f64::INFINITY, f64::min);
    let mut out: Vec<Vertex> = points.iter().rev().map(|q| v(ends[0].station(q.1) - low, q.0)).collect();
    out.extend(points.iter().map(|q| v(m.length - ends[1].station(q.1) - low, q.0)));
    Contour { vertices: out }.outward()
}

/// Holes and notches of a member on its unrolled skin: through the near wall, and through the far one where they go on. One that runs
/// over the seam stands at both sides of it.
pub fn skin_holes(m: &Member, p: &Profile) -> Vec<Contour> {
    let points = round_the_outside(p);
    let run = points[points.len() - 1].0;
    let start = m.cuts(0);
    let low = points.iter().map(|q| start.station(q.1)).fold(f64::INFINITY, f64::min);
    let mut out = Vec::new();
    for h in &m.holes {
        let across = h.out.perp();
        let off = h.at.dot(across);
        // Where the wall crosses the line of the hole, on the near or the far side.
        let place = |t: f64, far: bool| {
            let crossing = points.windows(2).filter_map(|w| {
                let (a, b) = (w[0].1.dot(across) - t, w[1].1.dot(across) - t);
                let share = a / (a - b);
                ((a <= 0.0) != (b <= 0.0)).then(|| (w[0].0 + (w[1].0 - w[0].0) * share, w[0].1.lerp(w[1].1, share).dot(h.out)))
            });
            let side = if far { -1.0 } else { 1.0 };
            crossing.max_by(|a, b| (a.1 * side).total_cmp(&(b.1 * side))).map(|c| c.0)
        };
        let v = |x: f64, y: f64| Vertex { p: DVec2::new(x, y), bulge: 0.0, tag: 0 };
        for far in if h.through { [false, true].as_slice() } else { [false].as_slice() } {
            let Some(middle) = place(off, *far) else { continue };
            // Beside the middle by less than half way round: no jump at the seam.
            let near = |y: f64| y - run * ((y - middle) / run).round();
            let rim: Vec<Vertex> = plan(h).iter().filter_map(|q| Some(v(h.along + q.x - low, near(place(off + q.y, *far)?)))).collect();
            let (least, most) = rim.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), q| (a.min(q.p.y), b.max(q.p.y)));
            let shifts = [0.0, run, -run].into_iter().filter(|s| least + s < run && most + s > 0.0);
            out.extend(shifts.map(|s| Contour { vertices: rim.iter().map(|q| v(q.p.x, q.p.y + s)).collect() }.outward()));
        }
    }
    out
}

fn as_piece(job: &Job, r: &FrameResult, m: &Member, mark: String, name: String, outline: &[Contour]) -> PieceResult {
    let p = &r.profiles[m.profile];
    let piece = Piece {
        id: mark.clone(),
        mark,
        name,
        quantity: "1".into(),
        material: m.material.id.clone(),
        thickness: r.display.typed(p.section.shape.thickness().min(150.0)),
        display: Some(r.display),
        lines: crate::sheet::lines_from(outline, &r.display),
        ..Piece::default()
    };
    crate::sheet::evaluate_piece(job, &piece)
}

/// The template of the cope with this number, as a flat that the papers can draw.
pub fn wrap_template(job: &Job, r: &FrameResult, number: &str) -> Option<PieceResult> {
    let (number, member, end) = copes(r).into_iter().find(|c| c.0.eq_ignore_ascii_case(number))?;
    let m = &r.members[member];
    let p = &r.profiles[m.profile];
    // Short enough for the head of a page.
    let name = format!("{} {}, {}: wide notch on top", p.section.designation, m.call, if end == 0 { "start" } else { "end" });
    Some(as_piece(job, r, m, format!("{} {number}", r.mark), name, &[template_outline(m, p, end)]))
}

/// The unrolled skin of the member with this name.
pub fn unrolled(job: &Job, r: &FrameResult, member: &str) -> Option<PieceResult> {
    let m = r.members.iter().find(|m| m.name == member && m.is_straight())?;
    let p = &r.profiles[m.profile];
    let contours: Vec<Contour> = std::iter::once(skin_outline(m, p)).chain(skin_holes(m, p)).collect();
    Some(as_piece(job, r, m, format!("{} {}", r.mark, m.name), format!("skin of {}", p.section.designation), &contours))
}

//! Copes laid flat: a paper template to wrap round the end of a bar.

use glam::DVec2;

use super::profile::divided;
use super::{Cut, FrameResult, Member, Profile};
use ground::geom::{Contour, Vertex};
use sheet::result::PieceResult;
use sheet::{PlateSpec, evaluate_plate};
use shop::{SheetShop, THICKEST};

/// Points round the outside, from the middle of its top, by distance round it: where they are in the section.
pub fn round_the_outside(p: &Profile) -> Vec<(f64, DVec2)> {
    const PARTS: usize = 256;
    if p.section.shape.is_round() {
        let r = p.section.shape.size().x / 2.0;
        let turn = std::f64::consts::TAU;
        return (0..=PARTS)
            .map(|i| i as f64 / PARTS as f64)
            .map(|f| (f * turn * r, DVec2::from_angle(turn * (0.25 + f)) * r))
            .collect();
    }
    let outline = p.outer.flatten(p.section.shape.size().max_element() * 2e-4);
    let longest = p.properties.perimeter / PARTS as f64;
    let mut fine = divided(&outline, longest);
    let top = DVec2::new(0.0, p.section.shape.size().y / 2.0);
    let first =
        (0..fine.len()).min_by(|&a, &b| fine[a].distance(top).total_cmp(&fine[b].distance(top))).unwrap_or(0);
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

/// The wrap-round template of a cope: its upper edge is the cut, its lower edge square, with notches on the
/// quarter lines and the widest one on the top of the bar.
pub fn template_outline(m: &Member, p: &Profile, end: usize) -> Contour {
    let points = round_the_outside(p);
    let run = points[points.len() - 1].0;
    let cuts = m.cuts(end);
    let stations: Vec<f64> = points.iter().map(|q| cuts.station(q.1)).collect();
    let deepest = stations.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let v = |x: f64, y: f64| Vertex { p: DVec2::new(x, y), bulge: 0.0, tag: 0 };
    // From the far end of the cut back, then along the square edge.
    let mut out: Vec<Vertex> =
        points.iter().zip(&stations).rev().map(|(q, s)| v(q.0, deepest - s + STRIP)).collect();
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

pub fn as_piece(
    shop: &SheetShop,
    r: &FrameResult,
    m: &Member,
    mark: String,
    name: String,
    quantity: usize,
    outline: &[Contour],
) -> PieceResult {
    let p = &r.profiles[m.profile];
    let plate = PlateSpec {
        id: mark.clone(),
        mark,
        name,
        quantity,
        material: m.material.clone(),
        thickness: p.section.shape.thickness().min(THICKEST),
        display: r.display,
        outer: outline.first().cloned().unwrap_or_default(),
        holes: outline.iter().skip(1).cloned().collect(),
        bores: Vec::new(),
        folds: Vec::new(),
        bevels: Vec::new(),
        is_joined: false,
    };
    evaluate_plate(shop, &plate)
}

/// The template of the cope with this number, as a flat that the papers can draw.
pub fn wrap_template(shop: &SheetShop, r: &FrameResult, number: &str) -> Option<PieceResult> {
    let (number, member, end) = copes(r).into_iter().find(|c| c.0.eq_ignore_ascii_case(number))?;
    let m = &r.members[member];
    let p = &r.profiles[m.profile];
    // Short enough for the head of a page.
    let name = format!(
        "{} {}, {}: wide notch on top",
        p.section.designation,
        m.call,
        if end == 0 { "start" } else { "end" }
    );
    Some(as_piece(shop, r, m, format!("{} {number}", r.mark), name, 1, &[template_outline(m, p, end)]))
}

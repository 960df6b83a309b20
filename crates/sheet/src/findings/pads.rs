//! Pads: what they lie on, what they lie over, and each other.

use ground::geom::{Bounds, Contour, Grid, Vertex, common};

use super::{finding, told};
use crate::context::PieceContext;
use crate::result::{Finding, PressedMark, Severity};

/// Told one by one up to this many of a kind.
const TOLD: usize = 5;
/// More pads than these on one piece are no assembly any more.
const MOST_PADS: usize = 1_000;
/// Areas of less than this are a touch, mm².
const TOUCH: f64 = 1e-3;
/// Less of a pad than this over the edge is a rounded corner under it.
const HANGS: f64 = 0.005;
const RULE: &str = "a pad lies on one flat face, on sheet, beside other pads";

pub fn check(m: &PieceContext, pressed: &[PressedMark], out: &mut Vec<Finding>) {
    let pads: Vec<&PressedMark> = pressed.iter().filter(|p| p.pressed.is_pad()).collect();
    if pads.is_empty() {
        return;
    }
    if pads.len() > MOST_PADS {
        let message = format!("{} pads: not looked at, {MOST_PADS} are the most", pads.len());
        out.push(finding("pads_many", Severity::Stop, message, RULE, "geometry"));
        return;
    }
    let said = |p: &PressedMark, check, severity, message: String| {
        finding(check, severity, message, RULE, "geometry").on(
            vec![p.name.clone()],
            Some(p.line.as_str()),
            Some(p.at),
        )
    };
    let area = |a: &Contour, b: &Contour| common(a, b).iter().map(Contour::area).sum::<f64>();
    let boxes: Vec<Bounds> = m.features.iter().map(|f| f.contour.bounds()).collect();
    let grid = Grid::new(&boxes, 0.0);
    let of_pads: Vec<Bounds> = pads.iter().map(|p| p.footprint.bounds()).collect();
    let beside = Grid::new(&of_pads, 0.0);
    let (mut bent, mut over, mut covers, mut both) = (vec![], vec![], vec![], vec![]);
    for (i, p) in pads.iter().enumerate() {
        ground::halt::point();
        let foot = &p.footprint;
        for z in m.blank.zones.iter().filter(|z| !z.is_panel()) {
            let corners = z.region.iter().map(|p| Vertex { p: *p, bulge: 0.0, tag: 0 });
            if area(foot, &Contour { vertices: corners.collect() }.outward()) > TOUCH {
                let message = format!("{} lies over bend {}", p.name, z.name);
                bent.push(said(p, "pad_bent", Severity::Stop, message));
                break;
            }
        }
        let hangs = foot.area() - area(foot, &m.outcome.outer);
        if hangs > HANGS * foot.area() {
            let message = format!("{} hangs over the edge: {} of it has no sheet under it", p.name, {
                m.display.area(hangs)
            });
            over.push(said(p, "pad_hangs", Severity::Note, message));
        }
        let up = p.pressed.up();
        let under = grid.near(&foot.bounds()).into_iter().map(|k| &m.features[k as usize]);
        let is_open =
            |f: &crate::Feature| f.is_cut_through() || f.bore.as_ref().is_some_and(|b| Some(b.back) != up);
        let holes: Vec<&str> = under
            .filter(|f| (is_open(f) || f.pressed.as_ref().is_some_and(|o| !o.is_pad())) && f.name != p.name)
            .filter(|f| area(foot, &f.footprint()) > TOUCH)
            .map(|f| f.name.as_str())
            .collect();
        if let [first, more @ ..] = &holes[..] {
            let more = if more.is_empty() { String::new() } else { format!(" and {} more", more.len()) };
            let message = format!("{} lies over {first}{more}; nothing of that is cut in the pad", p.name);
            covers.push(said(p, "pad_covers", Severity::Warn, message));
        }
        for j in beside.near(&of_pads[i]).into_iter().map(|j| j as usize).filter(|&j| j > i) {
            if up == pads[j].pressed.up() && area(foot, &pads[j].footprint) > TOUCH {
                let message = format!("{} and {} lie in one another", p.name, pads[j].name);
                let mut f = said(p, "pads_meet", Severity::Stop, message);
                f.names.push(pads[j].name.clone());
                both.push(f);
            }
        }
    }
    for found in [bent, both, covers, over] {
        told(found, TOLD, out);
    }
}

//! What a closed outline is called where a few numbers make it.

use glam::DVec2;
use ground::geom::Contour;
use ground::quantity::{Display, trim_number};

/// mm and rad within which an outline is what it is called.
const LIKE: f64 = 1e-4;

/// The words that make it, about its middle; none where it has to be told by its points.
pub fn said(c: &Contour, d: &Display) -> Option<String> {
    if let Some((_, r)) = c.as_circle() {
        return Some(format!("⌀{}", d.exact(2.0 * r)));
    }
    slot(c, d).or_else(|| rectangle(c, d))
}

/// The middle that it is told about.
pub fn middle(c: &Contour) -> DVec2 {
    c.as_circle().map_or_else(|| c.bounds().centre(), |c| c.0)
}

/// Degrees within half a turn.
fn turned(way: DVec2) -> String {
    let mut a = way.to_angle().rem_euclid(std::f64::consts::PI);
    if std::f64::consts::PI - a < LIKE {
        a = 0.0;
    }
    format!("at {}°", trim_number(a.to_degrees(), 3))
}

fn slot(c: &Contour, d: &Display) -> Option<String> {
    let s: Vec<_> = c.segments().collect();
    if s.len() != 4 {
        return None;
    }
    let k = usize::from(s[0].is_line());
    let (a, b) = (s[k].arc()?, s[k + 2 - 2 * usize::from(k + 2 > 3)].arc()?);
    let lines = [s[(k + 1) % 4], s[(k + 3) % 4]];
    let half = |x: f64| (x.abs() - std::f64::consts::PI).abs() < LIKE;
    let same = (a.radius - b.radius).abs() < LIKE && half(a.sweep) && half(b.sweep);
    let tangent = lines.iter().all(|l| l.is_line());
    let way = b.centre - a.centre;
    (same && tangent && way.length() > LIKE).then(|| {
        let long = way.length() + 2.0 * a.radius;
        format!("slot {} × {} {}", d.exact(long), d.exact(2.0 * a.radius), turned(way))
    })
}

/// With or without rounded corners.
fn rectangle(c: &Contour, d: &Display) -> Option<String> {
    let s: Vec<_> = c.segments().collect();
    let lines: Vec<_> = s.iter().filter(|s| s.is_line()).collect();
    let arcs: Vec<_> = s.iter().filter_map(|s| s.arc()).collect();
    if lines.len() != 4 || (s.len() != 4 && s.len() != 8) {
        return None;
    }
    let quarter = std::f64::consts::FRAC_PI_2;
    let r = arcs.first().map_or(0.0, |a| a.radius);
    let alike = |a: &ground::geom::Arc| (a.radius - r).abs() < LIKE && (a.sweep.abs() - quarter).abs() < LIKE;
    if !arcs.iter().all(alike) || (s.len() == 8 && arcs.len() != 4) {
        return None;
    }
    let ways: Vec<DVec2> = lines.iter().map(|l| l.tangent(false)).collect();
    let square = (0..4).all(|k| ways[k].dot(ways[(k + 1) % 4]).abs() < LIKE);
    // Outward corners only: each turns the same way.
    let turns = (0..4).all(|k| ways[k].perp_dot(ways[(k + 1) % 4]) * ways[0].perp_dot(ways[1]) > 0.0);
    let bulge = arcs.iter().all(|a| a.sweep * ways[0].perp_dot(ways[1]) > 0.0);
    if !(square && turns && bulge) {
        return None;
    }
    let size = [lines[0].length() + 2.0 * r, lines[1].length() + 2.0 * r];
    let (way, long, wide) =
        if size[0] + LIKE >= size[1] { (ways[0], size[0], size[1]) } else { (ways[1], size[1], size[0]) };
    let round = if r > 0.0 { format!(" R{}", d.exact(r)) } else { String::new() };
    Some(format!("rectangle {} × {}{round} {}", d.exact(long), d.exact(wide), turned(way)))
}

//! Patterns of holes: how open the sheet is.

use super::{figure, geometry};
use crate::context::PieceContext;
use crate::result::{FigureResult, Flat};
use ground::geom::{COINCIDENT, ROUNDING};
use ground::quantity::{fixed, trim_number};
use ground::reference::{self, part};
use ground::working::Term;

/// Open area of each filled pattern, of the panel it fills.
pub(super) fn patterns(m: &PieceContext, flat: &Flat, out: &mut Vec<FigureResult>) {
    for line in m.lines {
        let Some(on) = line.spec.as_ref().and_then(|s| s.cuts()).and_then(|s| s.fills()) else { continue };
        let own: Vec<&crate::Feature> = m.features.iter().filter(|f| f.line == line.index).collect();
        let Some(first) = own.first() else { continue };
        let one = first.contour.area();
        let open = one * own.len() as f64;
        let zone = m.blank.zones.iter().find(|z| z.name == on).filter(|_| m.blank.zones.len() > 1);
        let whole = flat.outer.area();
        let d = &m.display;
        let field = field_of(&own, one);
        let shares: Vec<(String, f64)> = [
            (zone.map_or_else(String::new, |z| last_part(&z.name)), zone.map_or(0.0, |z| z.area())),
            ("the flat".into(), whole),
            ("its field".into(), field),
        ]
        .into_iter()
        .filter(|s| s.1 > ROUNDING)
        .collect();
        let share = |of: f64| 100.0 * open / of;
        let mut terms = vec![
            Term::plain("n", "whole shapes", format!("{}", own.len())).of_line(&line.id),
            Term::plain("a", "area of one", d.area(one)),
        ];
        terms.extend(
            shares.iter().map(|(name, of)| {
                Term::plain("A", &format!("area of {name}, holes counted in"), d.area(*of))
            }),
        );
        let filled: Vec<String> = shares
            .iter()
            .map(|(name, of)| {
                format!(
                    "of {name} {} × {} / {} = {} %",
                    own.len(),
                    d.area(one),
                    d.area(*of),
                    trim_number(share(*of), 1)
                )
            })
            .collect();
        let w = geometry("Open area of a pattern", "n·a/A", filled.join("; "), terms);
        // Two are said, the widest and the closest; the working has all.
        let ends = shares.first().into_iter().chain(shares.last().filter(|_| shares.len() > 1));
        let said: Vec<String> =
            ends.map(|(name, of)| format!("{} % of {name}", fixed(share(*of), 1))).collect();
        let first = shares.first().map_or(0.0, |s| share(s.1));
        out.push(figure(
            &part(&line.id, "open"),
            &format!("Open area, {}", line.id),
            first,
            format!("{} ({} holes)", said.join(", "), own.len()),
            true,
            w,
        ));
    }
}

/// The sheet that a pattern takes: the box round its middles and half a step more on every side; nothing for
/// one row.
pub(super) fn field_of(own: &[&crate::Feature], one: f64) -> f64 {
    let b = ground::geom::Bounds::of(own.iter().map(|f| f.centre));
    let size = b.size();
    if own.len() < 4 || size.min_element() < one.sqrt() {
        return 0.0;
    }
    // The least step each way; of staggered rows half a pitch along them.
    let mut xs: Vec<f64> = own.iter().map(|f| f.centre.x).collect();
    let mut ys: Vec<f64> = own.iter().map(|f| f.centre.y).collect();
    let step = |v: &mut Vec<f64>| {
        v.sort_by(f64::total_cmp);
        v.dedup_by(|a, b| (*a - *b).abs() < COINCIDENT);
        v.windows(2).map(|w| w[1] - w[0]).fold(f64::INFINITY, f64::min)
    };
    let (dx, dy) = (step(&mut xs), step(&mut ys));
    if !dx.is_finite() || !dy.is_finite() {
        return 0.0;
    }
    (size.x + dx) * (size.y + dy)
}

/// `north` of `fold-1.north`.
pub(super) fn last_part(name: &str) -> String {
    reference::last(name).to_string()
}

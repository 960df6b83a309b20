//! The outline and the piece as a whole: crossings, parts that fall off, stock size, weight, sharp corners.

use super::finding;
use crate::context::PieceContext;
use crate::flat::corners::SHARP;
use crate::piece::Line;
use crate::result::{Finding, Mend, Patch, PieceResult, Severity};
use crate::verbs::{Operation, Round, Treatment};
use ground::geom::COINCIDENT;
use ground::geom::first_crossing;
use shop::limits;

pub fn check(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    let d = &m.display;
    let overlaps = &m.overlap;
    if let Some(x) = overlaps {
        let tag = |i: usize| m.blank.outer.vertices.get(i).and_then(|v| m.tags.get(v.tag as usize)).cloned();
        let names: Vec<String> = [x.segments.0, x.segments.1].into_iter().filter_map(tag).collect();
        let message = format!(
            "The flat pattern overlaps itself: {} runs into {}",
            names.first().map_or("a side", |s| s),
            names.last().map_or("another", |s| s)
        );
        out.push(
            finding(
                "flat_overlaps",
                Severity::Stop,
                message,
                "folds that share a sheet do not overlap in the flat",
                "geometry",
            )
            .on(names, None, Some(x.at.to_array())),
        );
    }
    let contours = std::iter::once(&result.flat.outer)
        .filter(|_| overlaps.is_none())
        .chain(result.flat.holes.iter().filter(|h| h.sources.len() > 1).map(|h| &h.contour));
    for c in contours {
        if let Some(x) = first_crossing(c) {
            let message = "A contour crosses or touches itself here: it cannot be cut".to_string();
            out.push(
                finding(
                    "contour_crosses",
                    Severity::Stop,
                    message,
                    "contours are closed and do not cross",
                    "geometry",
                )
                .on(Vec::new(), None, Some(x.at.to_array())),
            );
        }
    }
    let dropped: f64 = m.outcome.dropped.iter().map(|c| c.area()).sum();
    if let Some(first) = m.outcome.dropped.first() {
        let n = m.outcome.dropped.len();
        let what = if n == 1 { "a part".to_string() } else { format!("{n} parts") };
        let message = format!("The cuts free {what} of the sheet, {}, that fall out", d.area(dropped));
        out.push(
            finding("part_falls", Severity::Warn, message, "a piece is one connected part", "geometry").on(
                Vec::new(),
                None,
                Some(first.centroid().to_array()),
            ),
        );
    }
    stock(m, result, out);
    let mass = result.value("mass");
    if mass > limits::HEAVY_KG {
        let message = format!(
            "The piece weighs {}: two people or lifting gear. Local rules for lifting by hand come first",
            d.mass(mass)
        );
        out.push(finding(
            "heavy",
            Severity::Note,
            message,
            "over 25 kg is not lifted by one person",
            "common practice",
        ));
    }
    if m.material.family == "galvanised steel" {
        let message = "Galvanised: welding or hot cutting gives off zinc fume. Grind the zinc off or \
            ventilate; local rules come first"
            .to_string();
        out.push(finding("zinc", Severity::Note, message, "zinc fume", "common practice"));
    }
    sharp(m, result, out);
}

fn stock(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    if m.shop.stock.is_empty() {
        return;
    }
    let d = &m.display;
    let r = result.blank().size;
    let (long, short) = (r.max_element(), r.min_element());
    if m.shop.stock.iter().any(|[l, w]| long <= l + COINCIDENT && short <= w + COINCIDENT) {
        return;
    }
    let [l, w] =
        m.shop.stock.iter().copied().fold([0.0; 2], |a, b| if b[0] * b[1] > a[0] * a[1] { b } else { a });
    let message = format!(
        "The flat needs {} × {}; the largest sheet is {} × {}",
        d.length(long),
        d.length_unit(short),
        d.length(l),
        d.length_unit(w)
    );
    let over = (long - l).max(short - w);
    out.push(
        finding(
            "larger_than_stock",
            Severity::Stop,
            message,
            "the flat fits a sheet on the rack",
            "stock of this job",
        )
        .by(format!("{} over", d.length_unit(over))),
    );
}

/// Sharp outer corners: hands find them.
fn sharp(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    // The ends of a transition are joined to others.
    if m.blank.transition.is_some() {
        return;
    }
    let outer = &result.flat.outer;
    let corners: Vec<_> =
        (0..outer.vertices.len()).filter_map(|i| outer.corner(i)).filter(|c| c.turn > SHARP).collect();
    let Some(first) = corners.first() else { return };
    let n = corners.len();
    let shortest = corners.iter().map(|c| c.before.min(c.after)).fold(f64::INFINITY, f64::min);
    let size = m.t.max(3.0).min(shortest / 2.5);
    let size = if m.display.length.mm() == 1.0 {
        (size * 2.0).round() / 2.0
    } else {
        ((size / 25.4 * 16.0).round() / 16.0) * 25.4
    };
    let mend = (size > 0.4 && size * 2.0 <= shortest).then(|| {
        let ids = |k: usize| format!("round-{k}");
        let id = (1..).map(ids).find(|id| m.piece.lines.iter().all(|l| l.id != *id)).unwrap_or_default();
        let round = Round { treatment: Treatment::Radius, size: m.display.typed(size), corners: Vec::new() };
        let line = Line::new(id, Operation::Round(round));
        Mend {
            label: format!("round them R{}", m.display.fine(size)),
            patch: vec![Patch::add("/lines/-".into(), serde_json::to_value(line).unwrap_or_default())],
        }
    });
    let message =
        if n == 1 { "One corner is left sharp".to_string() } else { format!("{n} corners are left sharp") };
    out.push(
        finding(
            "sharp_corners",
            Severity::Note,
            message,
            "break corners that hands can reach",
            "common practice",
        )
        .on(Vec::new(), None, Some(first.at.to_array()))
        .with(mend),
    );
}

//! The figures of a piece, each with its working.

mod bends;
mod formed;
mod mass;
mod patterns;

use crate::choices::Measure;
use crate::context::PieceContext;
use crate::flat::strip::{SegmentForm, Strip};
use crate::formed::zones::Zone;
use crate::result::{FigureResult, Flat};
use ground::geom::COINCIDENT;
use ground::geom::smallest_rectangle;
use ground::quantity::trim_number;
use ground::reference::part;
use ground::working::{Term, Working};

pub use mass::with_pads;

pub fn figures(m: &PieceContext, flat: &Flat, zones: &[Zone]) -> Vec<FigureResult> {
    let mut out = Vec::new();
    flat_size(m, flat, &mut out);
    told_outline(m, &mut out);
    stuff(m, flat, &mut out);
    bends::bends(m, &mut out);
    formed::cone(m, &mut out);
    bends::bent_mass(m, flat, zones, &mut out);
    patterns::patterns(m, flat, &mut out);
    formed::formed(m, zones, &mut out);
    out
}

fn figure(key: &str, label: &str, value: f64, text: String, main: bool, working: Working) -> FigureResult {
    FigureResult { key: key.into(), label: label.into(), value, text, main, working }
}

fn geometry(rule: &str, formula: &str, filled: String, terms: Vec<Term>) -> Working {
    Working {
        rule: rule.into(),
        source: "geometry".into(),
        formula: formula.into(),
        filled,
        terms,
        assumption: None,
    }
}

/// How an outline that was told by its sides was found.
fn told_outline(m: &PieceContext, out: &mut Vec<FigureResult>) {
    let start = m.lines.iter().find_map(|l| Some((l, l.spec.as_ref()?.start()?)));
    if let Some((text, working)) = start.and_then(|(l, s)| s.working(&m.display, &l.id)) {
        let count = working.terms.len() as f64;
        out.push(figure("sides", "Sides of the contour", count, text, false, working));
    }
}

fn flat_size(m: &PieceContext, flat: &Flat, out: &mut Vec<FigureResult>) {
    let d = &m.display;
    let size = flat.outer.bounds().size();
    let line = m.blank.line.as_str();
    let grown = |s: &Strip| {
        size.x > s.parts.last().map_or(0.0, |p| p.to) + COINCIDENT || size.y > s.width + COINCIDENT
    };
    match m.blank.strip.as_ref().filter(|s| !grown(s)) {
        Some(strip) => {
            let length = strip.parts.last().map_or(0.0, |p| p.to);
            out.push(figure(
                "flat_length",
                "Flat length",
                length,
                d.length_unit(length),
                true,
                developed(m, strip, length),
            ));
            let w = geometry(
                "Width as told",
                "w",
                d.fine(strip.width),
                vec![Term::plain("w", "width of the strip", d.length_unit(strip.width)).of_line(line)],
            );
            out.push(figure("flat_width", "Flat width", strip.width, d.length_unit(strip.width), true, w));
        }
        None => {
            for (key, label, v) in
                [("flat_length", "Flat length", size.x), ("flat_width", "Flat width", size.y)]
            {
                let w = geometry(
                    "Extent of the outline",
                    "greatest − least coordinate",
                    d.fine(v),
                    vec![Term::plain("", "outline of the flat", "").of_line(line)],
                );
                out.push(figure(key, label, v, d.length_unit(v), true, w));
            }
        }
    }
    let r = smallest_rectangle(&flat.outer);
    let (long, short) = (r.size.max_element(), r.size.min_element());
    let text = format!("{} × {}", d.length(long), d.length_unit(short));
    let w = geometry(
        "Smallest rectangle round the outline, at any angle",
        "one side lies on a side of the convex hull",
        format!("{} × {} turned {}", d.fine(long), d.fine(short), d.angle(r.angle)),
        Vec::new(),
    );
    out.push(figure("blank", "Smallest blank", long * short, text, false, w));
}

/// ΣL − ΣBD in whichever face the strip is told from: the sum that a pocket calculator can follow.
fn developed(m: &PieceContext, strip: &Strip, length: f64) -> Working {
    let d = &m.display;
    let (face, symbol) = match strip.measure {
        Measure::Outside => ("outside", "BD"),
        Measure::Inside => ("inside", "D"),
        Measure::Middle => ("middle", "D"),
    };
    let mut terms = Vec::new();
    let (mut legs, mut takes, mut arcs) = (Vec::new(), Vec::new(), Vec::new());
    let mut crowded = false;
    for p in &strip.parts {
        match &p.made {
            SegmentForm::Leg { told, straight } => {
                crowded |= *straight < 0.0;
                legs.push(d.fine(*told));
                terms.push(
                    Term::plain(&format!("L{}", p.id), &format!("leg {}, told {face}", p.id), d.fine(*told))
                        .of_line(&m.blank.line),
                );
            }
            SegmentForm::Bend { allowance, told_setback, .. } => {
                let take = 2.0 * told_setback - allowance.length;
                takes.push(d.fine(take));
                let meaning = format!("bend {}: twice the {face} setback less the allowance", p.id);
                terms.push(
                    Term::plain(&format!("{symbol}{}", p.id), &meaning, d.fine(take))
                        .of_figure(&part(&part(&m.blank.line, &p.id), "deduction")),
                );
            }
            SegmentForm::Arc { allowance, .. } => {
                arcs.push(d.fine(allowance.length));
                terms.push(
                    Term::plain(
                        &format!("B{}", p.id),
                        &format!("arc {}: length of its neutral line", p.id),
                        d.fine(allowance.length),
                    )
                    .of_figure(&part(&part(&m.blank.line, &p.id), "allowance")),
                );
            }
        }
    }
    let mut formula = "flat = ΣL".to_string();
    let mut filled = if legs.is_empty() { "0".into() } else { legs.join(" + ") };
    if !arcs.is_empty() {
        formula += " + ΣBA";
        filled += &format!(" + {}", arcs.join(" + "));
    }
    if !takes.is_empty() {
        formula += &format!(" − Σ{symbol}");
        filled += &format!(" − ({})", takes.join(" + "));
    }
    Working {
        rule: format!("Developed length from {face} lengths"),
        source: "bend deduction: BD = 2·OSSB − BA".into(),
        formula,
        filled: format!("{filled} = {}", d.fine(length)),
        terms,
        assumption: crowded.then(|| {
            "a leg is too short for its bends; it is counted as nothing, so this sum does not hold".into()
        }),
    }
}

fn stuff(m: &PieceContext, flat: &Flat, out: &mut Vec<FigureResult>) {
    let d = &m.display;
    let outline = flat.outer.area();
    let holes: f64 = flat.holes.iter().map(|h| h.contour.area()).sum();
    let area = outline - holes;
    let n = flat.holes.len();
    let square = |v: f64| trim_number(v / d.length.mm().powi(2), 2);
    let unit = if d.length.mm() == 1.0 { "mm²" } else { "in²" };
    let terms = vec![
        Term::plain("Ao", "area inside the outline, arcs exact", format!("{} {unit}", square(outline))),
        Term::plain("Ah", &format!("area of {n} holes"), format!("{} {unit}", square(holes))),
    ];
    out.push(figure(
        "area",
        "Area, one face",
        area,
        d.area(area),
        false,
        geometry(
            "Outline less holes",
            "A = Ao − Ah",
            format!("{} − {} = {} {unit}", square(outline), square(holes), square(area)),
            terms,
        ),
    ));

    let t_working =
        m.t_working.clone().unwrap_or_else(|| geometry("Thickness as told", "t", d.fine(m.t), Vec::new()));
    out.push(figure("thickness", "Thickness", m.t, d.length_unit(m.t), false, t_working));

    mass::mass(m, flat, area, out);
    mass::cost(m, out);

    let outer = flat.outer.perimeter();
    let inner: f64 = flat.holes.iter().map(|h| h.contour.perimeter()).sum();
    let terms = vec![
        Term::plain("Lo", "length of the outline", d.length_unit(outer)),
        Term::plain("Lh", &format!("length round {n} holes"), d.length_unit(inner)),
    ];
    let w = geometry(
        "Every contour once round",
        "L = Lo + Lh",
        format!("{} + {} = {}", d.fine(outer), d.fine(inner), d.fine(outer + inner)),
        terms,
    );
    out.push(figure("cut_length", "Cut length", outer + inner, d.length_unit(outer + inner), true, w));
    let w = geometry("One pierce a contour", "holes + 1", format!("{n} + 1 = {}", n + 1), Vec::new());
    out.push(figure("pierces", "Pierces", (n + 1) as f64, format!("{}", n + 1), true, w));
}

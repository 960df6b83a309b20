//! The figures of a piece, each with its working.

use super::Making;
use super::mesh::FlatMesh;
use super::strip::{Made, Strip};
use super::zones::Zone;
use crate::geom::smallest_rectangle;
use crate::job::Measure;
use crate::quantity::trim_number;
use crate::result::{FigureResult, Flat};
use crate::working::{Term, Working};

pub fn figures(m: &Making, flat: &Flat, mesh: &FlatMesh, zones: &[Zone]) -> Vec<FigureResult> {
    let mut out = Vec::new();
    flat_size(m, flat, &mut out);
    stuff(m, flat, &mut out);
    if let Some(strip) = &m.blank.strip {
        bends(m, strip, &mut out);
    }
    formed(m, mesh, zones, &mut out);
    out
}

fn figure(key: &str, label: &str, value: f64, text: String, main: bool, working: Working) -> FigureResult {
    FigureResult { key: key.into(), label: label.into(), value, text, main, working }
}

fn geometry(rule: &str, formula: &str, filled: String, terms: Vec<Term>) -> Working {
    Working { rule: rule.into(), source: "geometry".into(), formula: formula.into(), filled, terms, assumption: None }
}

fn flat_size(m: &Making, flat: &Flat, out: &mut Vec<FigureResult>) {
    let d = &m.display;
    let size = flat.outer.bounds().size();
    let line = m.blank.line.as_str();
    match &m.blank.strip {
        Some(strip) => {
            let length = strip.parts.last().map_or(0.0, |p| p.to);
            out.push(figure("flat_length", "Flat length", length, d.length_unit(length), true, developed(m, strip, length)));
            let w = geometry("Width as told", "w", d.fine(strip.width), vec![Term::plain("w", "width of the strip", d.length_unit(strip.width)).of_line(line)]);
            out.push(figure("flat_width", "Flat width", strip.width, d.length_unit(strip.width), true, w));
        }
        None => {
            for (key, label, v) in [("flat_length", "Flat length", size.x), ("flat_width", "Flat width", size.y)] {
                let w =
                    geometry("Extent of the outline", "greatest − least coordinate", d.fine(v), vec![Term::plain("", "outline of the flat", "").of_line(line)]);
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
fn developed(m: &Making, strip: &Strip, length: f64) -> Working {
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
            Made::Leg { told, straight } => {
                crowded |= *straight < 0.0;
                legs.push(d.fine(*told));
                terms.push(Term::plain(&format!("L{}", p.id), &format!("leg {}, told {face}", p.id), d.fine(*told)).of_line(&m.blank.line));
            }
            Made::Bend { allowance, told_setback, .. } => {
                let take = 2.0 * told_setback - allowance.length;
                takes.push(d.fine(take));
                let meaning = format!("bend {}: twice the {face} setback less the allowance", p.id);
                terms.push(Term::plain(&format!("{symbol}{}", p.id), &meaning, d.fine(take)).of_figure(&format!("{}.{}.deduction", m.blank.line, p.id)));
            }
            Made::Arc { allowance, .. } => {
                arcs.push(d.fine(allowance.length));
                terms.push(
                    Term::plain(&format!("B{}", p.id), &format!("arc {}: length of its neutral line", p.id), d.fine(allowance.length))
                        .of_figure(&format!("{}.{}.allowance", m.blank.line, p.id)),
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
        assumption: crowded.then(|| "a leg is too short for its bends; it is counted as nothing, so this sum does not hold".into()),
    }
}

fn stuff(m: &Making, flat: &Flat, out: &mut Vec<FigureResult>) {
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
        geometry("Outline less holes", "A = Ao − Ah", format!("{} − {} = {} {unit}", square(outline), square(holes), square(area)), terms),
    ));

    let t_working = m.t_working.clone().unwrap_or_else(|| geometry("Thickness as told", "t", d.fine(m.t), Vec::new()));
    out.push(figure("thickness", "Thickness", m.t, d.length_unit(m.t), false, t_working));

    let mass = area * m.t * m.material.density * 1e-9;
    let w = Working {
        rule: "Volume of the flat × density".into(),
        source: m.material.source.clone(),
        formula: "m = A·t·ρ".into(),
        filled: format!("{:.6} m² × {:.6} m × {} kg/m³ = {} kg", area / 1e6, m.t / 1e3, m.material.density, trim_number(mass, 4)),
        terms: vec![
            Term::plain("A", "area, one face", d.area(area)).of_figure("area"),
            Term::plain("t", "thickness", d.length_unit(m.t)).of_figure("thickness"),
            Term::plain("ρ", &format!("density of {}", m.material.name), format!("{} kg/m³", m.material.density)),
        ],
        assumption: None,
    };
    out.push(figure("mass", "Mass, one piece", mass, d.mass(mass), true, w));

    let outer = flat.outer.perimeter();
    let inner: f64 = flat.holes.iter().map(|h| h.contour.perimeter()).sum();
    let terms =
        vec![Term::plain("Lo", "length of the outline", d.length_unit(outer)), Term::plain("Lh", &format!("length round {n} holes"), d.length_unit(inner))];
    let w = geometry("Every contour once round", "L = Lo + Lh", format!("{} + {} = {}", d.fine(outer), d.fine(inner), d.fine(outer + inner)), terms);
    out.push(figure("cut_length", "Cut length", outer + inner, d.length_unit(outer + inner), true, w));
    let w = geometry("One pierce a contour", "holes + 1", format!("{n} + 1 = {}", n + 1), Vec::new());
    out.push(figure("pierces", "Pierces", (n + 1) as f64, format!("{}", n + 1), true, w));
}

fn bends(m: &Making, strip: &Strip, out: &mut Vec<FigureResult>) {
    let d = &m.display;
    let mm = |v: f64| trim_number(v, 4);
    let line = m.blank.line.as_str();
    let mut sum = 0.0;
    let mut said = Vec::new();
    for p in &strip.parts {
        let (allowance, angle, radius) = match &p.made {
            Made::Leg { .. } => continue,
            Made::Bend { allowance, angle, radius, .. } | Made::Arc { allowance, angle, radius, .. } => (allowance, *angle, *radius),
        };
        sum += p.turn();
        said.push(format!(
            "{}{}",
            if p.turn() < 0.0 {
                "− "
            } else if said.is_empty() {
                ""
            } else {
                "+ "
            },
            d.angle(angle)
        ));
        let key = format!("{line}.{}", p.id);
        let terms = vec![
            Term::plain("α", "angle swept", d.angle(angle)).of_line(line),
            Term::plain("r", "inside radius", d.fine(radius)).of_line(line),
            Term::plain("t", "thickness", d.fine(m.t)).of_figure("thickness"),
            Term::plain("K", "neutral factor this amounts to", mm(allowance.k)),
        ];
        let unit = if d.length.mm() == 1.0 { "" } else { " (in mm)" };
        let w = Working {
            rule: allowance.rule.into(),
            source: allowance.source.into(),
            formula: allowance.formula.clone(),
            filled: format!("{}{unit}", allowance.filled),
            terms,
            assumption: allowance.assumption.clone(),
        };
        out.push(figure(&format!("{key}.allowance"), &format!("Bend {} allowance", p.id), allowance.length, d.length_unit(allowance.length), false, w));
        if let Made::Bend { deduction, ossb, told_setback, .. } = &p.made {
            deductions(m, &key, &p.id, (*deduction, *ossb, *told_setback, allowance.length, angle, radius), strip.measure, out);
        }
    }
    if said.is_empty() {
        return;
    }
    // How far the last leg is from parallel to the first: the turn to the nearest half turn.
    let half = std::f64::consts::PI;
    let off = (sum - (sum / half).round() * half).abs();
    let parallel = if off < 1e-9 { "parallel".to_string() } else { format!("{} off parallel", d.angle(off)) };
    let w = geometry(
        "Angles added up, up bends positive: how far the last leg is from parallel to the first",
        "Σα",
        format!("{} = {}; {parallel}", said.join(" "), d.angle(sum)),
        Vec::new(),
    );
    out.push(figure("angle_sum", "Sum of angles", sum, format!("{}, {parallel}", d.angle(sum)), true, w));
}

fn deductions(
    m: &Making,
    key: &str,
    id: &str,
    (bd, ossb, told, ba, angle, radius): (f64, f64, f64, f64, f64, f64),
    measure: Measure,
    out: &mut Vec<FigureResult>,
) {
    let d = &m.display;
    let wide = angle > std::f64::consts::FRAC_PI_2 + 1e-9;
    let ossb_said = if wide { "OSSB = r + t (beyond 90°: to the outermost tangent)" } else { "OSSB = (r + t)·tan(α/2)" };
    let (face, depth) = match measure {
        Measure::Outside => ("outside", m.t),
        Measure::Middle => ("middle", m.t / 2.0),
        Measure::Inside => ("inside", 0.0),
    };
    let mut terms = vec![Term::plain("BA", "bend allowance", d.fine(ba)).of_figure(&format!("{key}.allowance")), Term::plain("OSSB", ossb_said, d.fine(ossb))];
    let mut filled = format!("2·{} − {} = {}", d.fine(ossb), d.fine(ba), d.fine(bd));
    if measure != Measure::Outside {
        let take = 2.0 * told - ba;
        terms.push(Term::plain("S", &format!("setback on the {face} face, radius {}", d.fine(radius + depth)), d.fine(told)));
        filled += &format!("; from the {face} D = 2·{} − {} = {}", d.fine(told), d.fine(ba), d.fine(take));
    }
    let w = Working {
        rule: "Bend deduction".into(),
        source: "geometry of the outside setback".into(),
        formula: "BD = 2·OSSB − BA".into(),
        filled,
        terms,
        assumption: None,
    };
    out.push(figure(&format!("{key}.deduction"), &format!("Bend {id} deduction"), bd, d.length_unit(bd), false, w));
}

fn formed(m: &Making, mesh: &FlatMesh, zones: &[Zone], out: &mut Vec<FigureResult>) {
    if m.blank.strip.is_none() || mesh.points.is_empty() {
        return;
    }
    let d = &m.display;
    let (low, high) = mesh.solid(zones, 1.0, m.t).bounds();
    let size = high - low;
    let text = format!("{} × {} × {}", d.length(size.x), d.length(size.y), d.length_unit(size.z));
    let terms = vec![
        Term::plain("x", "along the leg that lies still", d.length_unit(size.x)),
        Term::plain("y", "across the strip", d.length_unit(size.y)),
        Term::plain("z", "up from the leg that lies still", d.length_unit(size.z)),
    ];
    let w = geometry("Extent of the formed solid", "greatest − least coordinate", text.clone(), terms);
    out.push(figure("formed_size", "Formed size", size.max_element(), text, true, w));
    for (key, label, v) in [("formed_x", "Formed along", size.x), ("formed_y", "Formed across", size.y), ("formed_z", "Formed up", size.z)] {
        let w = geometry("Extent of the formed solid", "greatest − least coordinate", d.fine(v), Vec::new());
        out.push(figure(key, label, v, d.length_unit(v), false, w));
    }
}

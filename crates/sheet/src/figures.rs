//! The figures of a piece, each with its working.

use std::f64::consts::TAU;

use glam::{DVec2, DVec3};

use crate::choices::Measure;
use crate::context::PieceContext;
use crate::flat::cone::ConeFact;
use crate::flat::strip::{Made, Strip};
use crate::formed::mesh::FlatMesh;
use crate::formed::zones::Zone;
use crate::result::{FigureResult, Flat};
use ground::geom::{Bounds, Contour, area_within, smallest_rectangle};
use ground::quantity::{fixed, trim_number};
use ground::reference::{self, part};
use ground::working::{Term, Working};
use shop::bend::setback;

pub fn figures(m: &PieceContext, flat: &Flat, zones: &[Zone]) -> Vec<FigureResult> {
    let mut out = Vec::new();
    flat_size(m, flat, &mut out);
    stuff(m, flat, &mut out);
    bends(m, &mut out);
    cone(m, &mut out);
    bent_mass(m, flat, zones, &mut out);
    patterns(m, flat, &mut out);
    formed(m, zones, &mut out);
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

fn flat_size(m: &PieceContext, flat: &Flat, out: &mut Vec<FigureResult>) {
    let d = &m.display;
    let size = flat.outer.bounds().size();
    let line = m.blank.line.as_str();
    let grown = |s: &Strip| size.x > s.parts.last().map_or(0.0, |p| p.to) + 1e-6 || size.y > s.width + 1e-6;
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
            Made::Leg { told, straight } => {
                crowded |= *straight < 0.0;
                legs.push(d.fine(*told));
                terms.push(
                    Term::plain(&format!("L{}", p.id), &format!("leg {}, told {face}", p.id), d.fine(*told))
                        .of_line(&m.blank.line),
                );
            }
            Made::Bend { allowance, told_setback, .. } => {
                let take = 2.0 * told_setback - allowance.length;
                takes.push(d.fine(take));
                let meaning = format!("bend {}: twice the {face} setback less the allowance", p.id);
                terms.push(
                    Term::plain(&format!("{symbol}{}", p.id), &meaning, d.fine(take))
                        .of_figure(&part(&part(&m.blank.line, &p.id), "deduction")),
                );
            }
            Made::Arc { allowance, .. } => {
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

    let mass = area * m.t * m.material.density * 1e-9;
    let w = Working {
        rule: "Volume of the flat × density".into(),
        source: m.material.source.clone(),
        formula: "m = A·t·ρ".into(),
        filled: format!(
            "{:.6} m² × {:.6} m × {} kg/m³ = {} kg",
            area / 1e6,
            m.t / 1e3,
            m.material.density,
            trim_number(mass, 4)
        ),
        terms: vec![
            Term::plain("A", "area, one face", d.area(area)).of_figure("area"),
            Term::plain("t", "thickness", d.length_unit(m.t)).of_figure("thickness"),
            Term::plain(
                "ρ",
                &format!("density of {}", m.material.name),
                format!("{} kg/m³", m.material.density),
            ),
        ],
        assumption: None,
    };
    out.push(figure("mass", "Mass, one piece", mass, d.mass(mass), true, w));
    cost(m, out);

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

fn bends(m: &PieceContext, out: &mut Vec<FigureResult>) {
    let d = &m.display;
    let mm = |v: f64| trim_number(v, 4);
    let measure = m.blank.strip.as_ref().map_or(Measure::Outside, |s| s.measure);
    for b in &m.blank.bends {
        let line = b.line.as_str();
        let key = part(line, reference::within(&b.label, line).unwrap_or(&b.label));
        let allowance = &b.allowance;
        let terms = vec![
            Term::plain("α", "angle swept", d.angle(b.angle)).of_line(line),
            Term::plain("r", "inside radius", d.fine(b.radius)).of_line(line),
            Term::plain("t", "thickness", d.fine(m.t)).of_figure("thickness"),
            Term::plain("K", "neutral factor this amounts to", mm(allowance.k)),
        ];
        let unit = if d.length.mm() == 1.0 { "" } else { " (in mm)" };
        let w = Working {
            rule: allowance.rule.clone(),
            source: allowance.source.clone(),
            formula: allowance.formula.clone(),
            filled: format!("{}{unit}", allowance.filled),
            terms,
            assumption: allowance.assumption.clone(),
        };
        out.push(figure(
            &part(&key, "allowance"),
            &format!("Bend {} allowance", b.label),
            allowance.length,
            d.length_unit(allowance.length),
            false,
            w,
        ));
        if !b.rolled {
            let told = match measure {
                Measure::Outside => b.ossb,
                Measure::Middle => setback(b.radius + m.t / 2.0, b.angle),
                Measure::Inside => setback(b.radius, b.angle),
            };
            deductions(
                m,
                &key,
                &b.label,
                (b.deduction, b.ossb, told, allowance.length, b.angle, b.radius),
                measure,
                out,
            );
        }
    }
    let made = m.blank.bends.iter().filter(|b| !b.rolled).count();
    if made > 0 {
        let w = geometry("Bends made at the brake", "n", format!("{made}"), Vec::new());
        out.push(figure("bends", "Bends", made as f64, format!("{made}"), m.blank.strip.is_none(), w));
    }
    if let Some(strip) = &m.blank.strip {
        angle_sum(m, strip, out);
    }
}

/// The size of a cone that stands on its end: across, across, and up. Its middle generator lies along x, the
/// axis leans off it by half the tip.
fn cone_size(c: &ConeFact, points: &[DVec3], t: f64) -> DVec3 {
    let (s, k) = c.slope.sin_cos();
    let rise = c.slant * k + t * s;
    if c.turn > TAU * 0.9999 {
        let wide = c.middle[0] + t * k;
        return DVec3::new(wide, wide, rise);
    }
    let spread = |d: DVec3| {
        points
            .iter()
            .map(|p| p.dot(d))
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)))
    };
    let across = spread(DVec3::new(-s, 0.0, k));
    let side = spread(DVec3::Y);
    DVec3::new(side.1 - side.0, across.1 - across.0, rise)
}

/// How far the last leg of a strip is from parallel to the first.
fn angle_sum(m: &PieceContext, strip: &Strip, out: &mut Vec<FigureResult>) {
    let d = &m.display;
    let turns: Vec<f64> = strip.parts.iter().map(|p| p.turn()).filter(|t| *t != 0.0).collect();
    if turns.is_empty() || strip.parts.len() < 2 {
        return;
    }
    let sum: f64 = turns.iter().sum();
    let sign = |i: usize, t: f64| {
        if t < 0.0 {
            "− "
        } else if i == 0 {
            ""
        } else {
            "+ "
        }
    };
    let said: Vec<String> =
        turns.iter().enumerate().map(|(i, t)| format!("{}{}", sign(i, *t), d.angle(t.abs()))).collect();
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

/// Slant and sweep of a cone.
fn cone(m: &PieceContext, out: &mut Vec<FigureResult>) {
    let Some(c) = &m.blank.cone else { return };
    let d = &m.display;
    let line = m.blank.line.as_str();
    let terms = |c: &ConeFact| {
        vec![
            Term::plain("Dm", "middle diameter of the wide end", d.length_unit(c.middle[0])).of_line(line),
            Term::plain("dm", "middle diameter of the narrow end", d.length_unit(c.middle[1])).of_line(line),
            Term::plain("φ", "half the angle at the tip", d.angle(c.slope)),
        ]
    };
    let filled = format!(
        "({} − {})/(2·sin {}) = {}",
        d.fine(c.middle[0]),
        d.fine(c.middle[1]),
        d.angle(c.slope),
        d.fine(c.slant)
    );
    let w = geometry(
        "Slant of the frustum on the middle of the sheet",
        "s = (Dm − dm)/(2·sin φ)",
        filled,
        terms(c),
    );
    out.push(figure("slant", "Slant", c.slant, d.length_unit(c.slant), true, w));
    let filled = format!("{}·sin {} = {}", d.angle(c.turn), d.angle(c.slope), d.angle(c.sweep));
    let w = geometry("Sweep of the flat sector", "θ = turn·sin φ", filled, terms(c));
    out.push(figure("sweep", "Sweep of the sector", c.sweep, d.angle(c.sweep), true, w));
    for (key, label, v) in [
        ("sector_far", "Outer radius of the sector", c.far),
        ("sector_near", "Inner radius of the sector", c.near),
    ] {
        let w = geometry(
            "Middle radius of the end over the sine of half the tip",
            "R = Dm/(2·sin φ)",
            d.fine(v),
            terms(c),
        );
        out.push(figure(key, label, v, d.length_unit(v), false, w));
    }
}

/// Open area of each filled pattern, of the panel it fills.
fn patterns(m: &PieceContext, flat: &Flat, out: &mut Vec<FigureResult>) {
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
        .filter(|s| s.1 > 1e-9)
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

/// Chords of outlines whose areas are told to a part in a thousand, mm.
const FINE: f64 = 0.005;

/// What the sheet that a piece is cut from costs, where the shop tells a price.
fn cost(m: &PieceContext, out: &mut Vec<FigureResult>) {
    let (Some(price), Some(blank)) =
        (m.material.cost, out.iter().find(|f| f.key == "blank").map(|f| f.value))
    else {
        return;
    };
    let d = &m.display;
    let mass = blank * m.t * m.material.density * 1e-9;
    let value = mass * price;
    let w = Working {
        rule: "Mass of the rectangle that it is cut from × price of a kilogram".into(),
        source: "the price told in this job, in the shop's money".into(),
        formula: "c = A_blank·t·ρ·p".into(),
        filled: format!(
            "{} kg × {} = {}",
            trim_number(mass, 4),
            trim_number(price, 4),
            trim_number(value, 2)
        ),
        terms: vec![
            Term::plain("A_blank", "blank", d.area(blank)).of_figure("blank"),
            Term::plain("p", "price of a kilogram", trim_number(price, 4)),
        ],
        assumption: None,
    };
    out.push(figure("material_cost", "Material, one piece", value, trim_number(value, 2), false, w));
}

/// Where the solid as bent, of even thickness, weighs otherwise than the flat: thick bars with small radii,
/// whose allowance is shorter than the middle of their bends.
fn bent_mass(m: &PieceContext, flat: &Flat, zones: &[Zone], out: &mut Vec<FigureResult>) {
    let Some(of_flat) = out.iter().find(|f| f.key == "mass").map(|f| f.value) else { return };
    let mut more = 0.0;
    for z in zones {
        let Some(b) = z.bend().filter(|b| b.allowance > 1e-9) else { continue };
        let metal = |c: &Contour| {
            // What lies wholly in the bend has its own area; only what crosses its borders is clipped.
            let b = c.bounds();
            let corners = [b.min, DVec2::new(b.max.x, b.min.y), b.max, DVec2::new(b.min.x, b.max.y)];
            if corners.iter().all(|p| z.contains(*p)) {
                c.area()
            } else {
                area_within(&c.flatten(FINE), &z.region)
            }
        };
        let bounds = Bounds { min: z.min, max: z.max };
        let holes = flat
            .holes
            .iter()
            .filter(|h| h.contour.bounds().near(&bounds, 0.0))
            .map(|h| metal(&h.contour))
            .sum::<f64>();
        let middle = b.angle * (b.radius + m.t / 2.0);
        more += (metal(&flat.outer) - holes) * (middle / b.allowance - 1.0);
    }
    let mass = of_flat + more * m.t * m.material.density * 1e-9;
    if (mass / of_flat - 1.0).abs() < 0.005 {
        return;
    }
    let d = &m.display;
    let w = Working {
        rule: "The solid as bent, with its full thickness in the bends".into(),
        source: "geometry; a real bend thins, and weighs what its flat weighs".into(),
        formula: "m = ρ·t·(A + Σ A_bend·(α·(r + t/2)/BA − 1))".into(),
        filled: format!(
            "{} + {} m² of bends more = {}",
            d.mass(of_flat),
            trim_number(more / 1e6, 6),
            d.mass(mass)
        ),
        terms: vec![
            Term::plain("m", "mass of the flat: what is bought and cut", d.mass(of_flat)).of_figure("mass"),
        ],
        assumption: None,
    };
    out.push(figure("bent_mass", "Mass as bent", mass, d.mass(mass), true, w));
}

/// `north` of `fold-1.north`.
fn last_part(name: &str) -> String {
    reference::last(name).to_string()
}

/// The sheet that a pattern takes: the box round its middles and half a step more on every side; nothing for
/// one row.
fn field_of(own: &[&crate::Feature], one: f64) -> f64 {
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
        v.dedup_by(|a, b| (*a - *b).abs() < 1e-6);
        v.windows(2).map(|w| w[1] - w[0]).fold(f64::INFINITY, f64::min)
    };
    let (dx, dy) = (step(&mut xs), step(&mut ys));
    if !dx.is_finite() || !dy.is_finite() {
        return 0.0;
    }
    (size.x + dx) * (size.y + dy)
}

fn deductions(
    m: &PieceContext,
    key: &str,
    id: &str,
    (bd, ossb, told, ba, angle, radius): (f64, f64, f64, f64, f64, f64),
    measure: Measure,
    out: &mut Vec<FigureResult>,
) {
    let d = &m.display;
    let wide = angle > std::f64::consts::FRAC_PI_2 + 1e-9;
    let ossb_said = if wide {
        "OSSB = r + t (beyond 90°: to the outermost tangent)"
    } else {
        "OSSB = (r + t)·tan(α/2)"
    };
    let (face, depth) = match measure {
        Measure::Outside => ("outside", m.t),
        Measure::Middle => ("middle", m.t / 2.0),
        Measure::Inside => ("inside", 0.0),
    };
    let mut terms = vec![
        Term::plain("BA", "bend allowance", d.fine(ba)).of_figure(&part(key, "allowance")),
        Term::plain("OSSB", ossb_said, d.fine(ossb)),
    ];
    let mut filled = format!("2·{} − {} = {}", d.fine(ossb), d.fine(ba), d.fine(bd));
    if measure != Measure::Outside {
        let take = 2.0 * told - ba;
        terms.push(Term::plain(
            "S",
            &format!("setback on the {face} face, radius {}", d.fine(radius + depth)),
            d.fine(told),
        ));
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
    out.push(figure(
        &part(key, "deduction"),
        &format!("Bend {id} deduction"),
        bd,
        d.length_unit(bd),
        false,
        w,
    ));
}

fn formed(m: &PieceContext, zones: &[Zone], out: &mut Vec<FigureResult>) {
    if m.blank.zones.iter().all(|z| z.is_panel()) {
        return;
    }
    // A sheet bends along straight lines, and what is furthest out along each is one of its ends: on the
    // outline, never at a hole.
    let mesh = FlatMesh::new(&m.outcome.outer, &[], zones, m.t, true);
    if mesh.points.is_empty() {
        return;
    }
    let d = &m.display;
    let solid = mesh.solid(zones, 1.0, m.t);
    let size = match &m.blank.cone {
        Some(c) => cone_size(c, &solid.points, m.t),
        None => {
            let (low, high) = solid.bounds();
            high - low
        }
    };
    let text = format!("{} × {} × {}", d.length(size.x), d.length(size.y), d.length_unit(size.z));
    let words = match &m.blank.cone {
        Some(_) => ["across the cone, which stands on its end", "across, square to that", "along its axis"],
        None => ["west to east on the part that lies still", "south to north on it", "square to it"],
    };
    let terms = vec![
        Term::plain("x", words[0], d.length_unit(size.x)),
        Term::plain("y", words[1], d.length_unit(size.y)),
        Term::plain("z", words[2], d.length_unit(size.z)),
    ];
    let w = geometry("Extent of the formed solid", "greatest − least coordinate", text.clone(), terms);
    out.push(figure("formed_size", "Formed size", size.max_element(), text, true, w));
    for (key, label, v) in [
        ("formed_x", "Formed along", size.x),
        ("formed_y", "Formed across", size.y),
        ("formed_z", "Formed up", size.z),
    ] {
        let w = geometry("Extent of the formed solid", "greatest − least coordinate", d.fine(v), Vec::new());
        out.push(figure(key, label, v, d.length_unit(v), false, w));
    }
}

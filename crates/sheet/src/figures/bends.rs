//! What is told of bends: allowances, deductions, the sum of the angles, and the mass as bent.

use super::{figure, geometry};
use crate::choices::Measure;
use crate::context::PieceContext;
use crate::flat::strip::Strip;
use crate::formed::zones::Zone;
use crate::result::{FigureResult, Flat};
use glam::DVec2;
use ground::geom::ROUNDING;
use ground::geom::{Bounds, Contour, area_within};
use ground::quantity::trim_number;
use ground::reference::{self, part};
use ground::working::{Term, Working};
use shop::bend::setback;

/// Chords of outlines whose areas are told to a part in a thousand, mm.
pub(super) const FINE: f64 = 0.005;

pub(super) fn bends(m: &PieceContext, out: &mut Vec<FigureResult>) {
    let d = &m.display;
    let mm = |v: f64| trim_number(v, 4);
    let measure = m.blank.strip.as_ref().map_or(Measure::Outside, |s| s.measure);
    for b in m.blank.bends.iter().filter(|b| !b.is_crease()) {
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
    let made = m.blank.bends.iter().filter(|b| b.is_struck()).count();
    if made > 0 {
        let w = geometry("Bends made at the brake", "n", format!("{made}"), Vec::new());
        out.push(figure("bends", "Bends", made as f64, format!("{made}"), m.blank.strip.is_none(), w));
    }
    let creases = m.blank.bends.iter().filter(|b| b.is_crease()).count();
    if creases > 0 {
        let w = geometry("Lines that are creased, without allowance", "n", format!("{creases}"), Vec::new());
        out.push(figure("creases", "Creases", creases as f64, format!("{creases}"), true, w));
    }
    if let Some(strip) = &m.blank.strip {
        angle_sum(m, strip, out);
    }
}

pub(super) fn deductions(
    m: &PieceContext,
    key: &str,
    id: &str,
    (bd, ossb, told, ba, angle, radius): (f64, f64, f64, f64, f64, f64),
    measure: Measure,
    out: &mut Vec<FigureResult>,
) {
    let d = &m.display;
    let wide = angle > std::f64::consts::FRAC_PI_2 + ROUNDING;
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

/// How far the last leg of a strip is from parallel to the first.
pub(super) fn angle_sum(m: &PieceContext, strip: &Strip, out: &mut Vec<FigureResult>) {
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
    let parallel =
        if off < ROUNDING { "parallel".to_string() } else { format!("{} off parallel", d.angle(off)) };
    let w = geometry(
        "Angles added up, up bends positive: how far the last leg is from parallel to the first",
        "Σα",
        format!("{} = {}; {parallel}", said.join(" "), d.angle(sum)),
        Vec::new(),
    );
    out.push(figure("angle_sum", "Sum of angles", sum, format!("{}, {parallel}", d.angle(sum)), true, w));
}

/// Where the solid as bent, of even thickness, weighs otherwise than the flat: thick bars with small radii,
/// whose allowance is shorter than the middle of their bends.
pub(super) fn bent_mass(m: &PieceContext, flat: &Flat, zones: &[Zone], out: &mut Vec<FigureResult>) {
    let Some(of_flat) = out.iter().find(|f| f.key == "mass").map(|f| f.value) else { return };
    let mut more = 0.0;
    for z in zones {
        let Some(b) = z.bend().filter(|b| b.allowance > ROUNDING) else { continue };
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

//! What a piece weighs, and what the sheet for it costs.

use super::figure;
use crate::BoreKind;
use crate::context::PieceContext;
use crate::edge_bevel::CutBack;
use crate::result::{FigureResult, Flat, PieceResult};
use ground::geom::ROUNDING;
use ground::quantity::trim_number;
use ground::working::{Term, Working};

/// The mass of the flat: `area` of one face, less what drills take beside what goes through the sheet.
pub fn mass(m: &PieceContext, flat: &Flat, area: f64, out: &mut Vec<FigureResult>) {
    let d = &m.display;
    let taken: f64 = flat.bores.iter().map(|b| b.bore.taken(m.t)).sum();
    let drilled = taken > ROUNDING;
    let ground = CutBack::new(&flat.outer, &flat.bevels).map_or(0.0, |c| c.taken(m.t));
    let mass = (area * m.t - taken - ground) * m.material.density * 1e-9;
    let sheet = format!("{:.6} m² × {:.6} m", area / 1e6, m.t / 1e3);
    let less = [(taken, "V"), (ground, "B")].into_iter().filter(|l| l.0 > ROUNDING);
    let (less, called): (Vec<String>, Vec<&str>) =
        less.map(|(v, called)| (format!(" − {:.9} m³", v / 1e9), called)).unzip();
    let volume = if less.is_empty() { sheet } else { format!("({sheet}{})", less.concat()) };
    let mut terms = vec![
        Term::plain("A", "area, one face", d.area(area)).of_figure("area"),
        Term::plain("t", "thickness", d.length_unit(m.t)).of_figure("thickness"),
        Term::plain("ρ", &format!("density of {}", m.material.name), format!("{} kg/m³", m.material.density)),
    ];
    if drilled {
        let what = "what drills take beside the holes through it: cones, bores and blind holes, each whole";
        terms.push(Term::plain("V", what, d.volume(taken)));
    }
    if ground > ROUNDING {
        let what = "what is ground off its edges: prisms between both faces";
        terms.push(Term::plain("B", what, d.volume(ground)));
    }
    let tapped = flat.bores.iter().any(|b| matches!(b.bore.kind, BoreKind::Tapped { .. }));
    let w = Working {
        rule: "Volume of the flat × density".into(),
        source: m.material.source.clone(),
        formula: match called.as_slice() {
            [] => "m = A·t·ρ".into(),
            called => format!("m = (A·t − {})·ρ", called.join(" − ")),
        },
        filled: format!("{volume} × {} kg/m³ = {} kg", m.material.density, trim_number(mass, 4)),
        terms,
        assumption: tapped.then(|| "a tapped hole weighs as its tap drill".into()),
    };
    out.push(figure("mass", "Mass, one piece", mass, d.mass(mass), true, w));
}

/// What it weighs with all that is laid on it.
pub fn with_pads(out: &mut PieceResult) {
    if out.pads.is_empty() {
        return;
    }
    let d = out.display;
    let value = out.mass_with_pads();
    let own = out.value("mass");
    let mut terms = vec![Term::plain("m", "the piece itself", d.mass(own)).of_figure("mass")];
    let mut sum = vec![trim_number(own, 4)];
    for p in &out.pads {
        let (n, one) = (p.names.len(), p.piece.value("mass"));
        let line = out.flat.pressed.iter().find(|q| q.name == p.names[0]).map_or("", |q| q.line.as_str());
        let times = if n > 1 { format!("{n} × ") } else { String::new() };
        terms.push(Term::plain("mp", &format!("{times}{}", p.piece.name), d.mass(one)).of_line(line));
        sum.push(times + &trim_number(one, 4));
    }
    let w = Working {
        rule: "The piece and the pads laid on it".into(),
        source: "geometry".into(),
        formula: "m + Σ n·mp".into(),
        filled: format!("{} = {} kg", sum.join(" + "), trim_number(value, 4)),
        terms,
        assumption: Some("what holds them on (weld, glue, screws) is not weighed".into()),
    };
    let at = out.figures.iter().position(|f| f.key == "mass").map_or(out.figures.len(), |k| k + 1);
    out.figures.insert(at, figure("mass_with_pads", "Mass with its pads", value, d.mass(value), true, w));
}

/// What the sheet that a piece is cut from costs, where the shop tells a price.
pub fn cost(m: &PieceContext, out: &mut Vec<FigureResult>) {
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

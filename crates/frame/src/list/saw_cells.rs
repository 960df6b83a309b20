//! How the saw is set for an end of a bar.

use super::CutCell;
use crate::ends::{Cut, Plane};
use ground::geom::ROUNDING;
use ground::quantity::{Display, Printed};
use shop::settings::{SawFacts, small};

fn plane_cell(p: &Plane, saw: &SawFacts, display: &Display) -> CutCell {
    let (set, tilt) = (saw.angle(p.angle), saw.angle(p.bevel));
    let off = (p.angle.tan() - set.tan()).abs() * p.depth;
    // With a tilt it is two angles, and no one number.
    let both = |angle: f64, bevel: f64| {
        let angle = Printed::degrees(angle, 2);
        if p.bevel > 1e-5 {
            Printed::words(format!("{angle} × {}", Printed::degrees(bevel, 2)))
        } else {
            angle
        }
    };
    CutCell {
        text: both(set, tilt),
        exact: both(p.angle, p.bevel),
        from_axis: Printed::degrees(std::f64::consts::FRAC_PI_2 - p.angle, 2).to_string(),
        gap: if off > 0.05 { small(display, off) } else { String::new() },
        beyond: p.angle > saw.most + ROUNDING || p.bevel > 45f64.to_radians() + ROUNDING,
        template: String::new(),
    }
}

pub(super) fn cell(cut: &Cut, saw: &SawFacts, display: &Display, templates: &mut usize) -> CutCell {
    let plain = |text: &str| CutCell {
        text: Printed::words(text),
        exact: Printed::default(),
        from_axis: String::new(),
        ..CutCell::default()
    };
    match cut {
        Cut::Square => {
            CutCell { from_axis: "90°".into(), exact: Printed::degrees(0.0, 2), ..plain("square") }
        }
        Cut::None => plain("none"),
        Cut::Round(r) => {
            let radius = display.length(r.radius);
            let text = if r.is_full { format!("full round R{radius}") } else { format!("corners R{radius}") };
            CutCell { from_axis: "90°".into(), exact: Printed::degrees(0.0, 2), ..plain(&text) }
        }
        Cut::Plane(p) => plane_cell(p, saw, display),
        Cut::Planes(planes) => {
            let cells: Vec<CutCell> = planes.iter().map(|p| plane_cell(p, saw, display)).collect();
            let join = |f: fn(&CutCell) -> &str| {
                cells.iter().map(f).filter(|t| !t.is_empty()).collect::<Vec<_>>().join(" + ")
            };
            CutCell {
                text: Printed::words(join(|c| &c.text)),
                exact: Printed::words(join(|c| &c.exact)),
                from_axis: join(|c| &c.from_axis),
                gap: join(|c| &c.gap),
                beyond: cells.iter().any(|c| c.beyond),
                template: String::new(),
            }
        }
        Cut::Cope => {
            *templates += 1;
            let template = format!("C{templates}");
            CutCell { text: Printed::words(format!("cope {template}")), template, ..CutCell::default() }
        }
    }
}

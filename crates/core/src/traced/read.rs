//! The typed values of a tracing, and the plane that they make of the picture.

use glam::DVec2;
use ground::quantity::{Display, Fault, PieceNames, Scope};
use shop::Shop;
use trace::{Gray, Plane, PlaneError, Reading, Square, Straight, corners, fit_line, snap};

use super::{ReadingView, TracedResult, TracingFault, px};
use crate::job::{Job, Tracing};

/// A tracing, read.
pub struct Told {
    pub plane: Plane,
    /// Millimetres a pixel, where anything tells them.
    pub scaled: Option<f64>,
    pub axis: Option<Straight>,
    /// Nothing: not rounded.
    pub step: Option<f64>,
    pub angle_step: Option<f64>,
}

/// Readings that differ by more than this share of their length tell a stretched picture.
const APART: f64 = 0.003;

pub fn read(job: &Job, tracing: &Tracing, display: &Display, picture: &Gray, out: &mut TracedResult) -> Told {
    let shop = Shop::of(&job.settings());
    let names = PieceNames { table: &shop.sheet().figures, t: None, r: None };
    let scope = Scope { unit: display.length, names: &names };
    let mut faults: Vec<TracingFault> = Vec::new();
    let mut length = |field: String, text: &str| -> Option<f64> {
        let told = scope.length(text).and_then(|v| {
            let span = (0, text.chars().count());
            let positive = v > 0.0 && v.is_finite();
            positive
                .then_some(v)
                .ok_or_else(|| Fault::new("a length above nothing belongs here", "measure it", span))
        });
        told.map_err(|fault| faults.push(TracingFault { field, fault })).ok()
    };
    let step = (!tracing.step.trim().is_empty()).then(|| length("/step".into(), &tracing.step)).flatten();
    let put = |p: [f64; 2], reach: f64| {
        let p = DVec2::from_array(p);
        let looks = reach > 0.0 && reach.is_finite() && picture.holds(p);
        looks.then(|| snap(picture, p, reach.min(60.0))).flatten().unwrap_or(p)
    };
    let mut readings = Vec::new();
    for (k, r) in tracing.readings.iter().enumerate() {
        let (from, to) = (put(r.from, r.reach), put(r.to, r.reach));
        let told = length(format!("/readings/{k}/length"), &r.length);
        readings.extend(told.map(|length| (k, Reading { from, to, length })));
        out.readings.push(ReadingView { from: from.to_array(), to: to.to_array(), said: String::new() });
    }
    let square = tracing.square.as_ref().and_then(|s| {
        let told = s.corners.map(DVec2::from_array);
        let sound = told.iter().all(|p| p.is_finite() && p.abs().max_element() < 1e6);
        let found = if sound && s.reach > 0.0 { corners(picture, told, s.reach.min(60.0)) } else { told };
        out.corners = found.iter().map(|p| p.to_array()).collect();
        let (wide, high) = (length("/square/wide".into(), &s.wide), length("/square/high".into(), &s.high));
        Some(Square { corners: found, wide: wide?, high: high? })
    });
    let angle_step = Some(tracing.angle_step.trim()).filter(|t| !t.is_empty()).and_then(|t| {
        let told = scope.angle(t).and_then(|v| {
            let span = (0, t.chars().count());
            (v > 0.0)
                .then_some(v)
                .ok_or_else(|| Fault::new("an angle above nothing belongs here", "such as 1°", span))
        });
        told.map_err(|fault| faults.push(TracingFault { field: "/angle_step".into(), fault })).ok()
    });
    let all: Vec<Reading> = readings.iter().map(|r| r.1).collect();
    let plane = match &square {
        Some(s) => Plane::of_square(s),
        None if tracing.square.is_some() => Err(PlaneError::NoScale),
        None => Plane::of_readings(&all, APART),
    };
    if let Err(e) = &plane
        && (*e != PlaneError::NoScale || square.is_some())
    {
        out.trouble = e.to_string();
    }
    let scaled = plane.as_ref().ok().map(|p| (p.scale.x * p.scale.y).sqrt());
    let plane = plane.unwrap_or_else(|_| Plane::scaled(DVec2::ONE));
    if scaled.is_some() {
        said(&plane, square.is_some(), &readings, display, out);
    }
    let axis = tracing.axis.and_then(|a| fit_line(&a.map(|p| plane.mm(DVec2::from_array(p)))));
    out.faults = faults;
    out.corners = out
        .corners
        .iter()
        .map(|p| px(&Plane::scaled(DVec2::new(1.0, -1.0)), DVec2::new(p[0], p[1])))
        .collect();
    Told { plane, scaled, axis, step, angle_step }
}

/// What the scale rests on, and each reading beside what the picture says then.
fn said(
    plane: &Plane,
    squared: bool,
    readings: &[(usize, Reading)],
    display: &Display,
    out: &mut TracedResult,
) {
    let fine = |v: f64| ground::quantity::trim_number(v, 5);
    let (x, y) = (plane.scale.x, plane.scale.y);
    out.scale = match (squared, (x / y - 1.0).abs() > 1e-9) {
        (true, _) => format!(
            "straightened by its four corners; a pixel is {} mm about its middle",
            fine((x * y).sqrt())
        ),
        (false, true) => format!(
            "the readings disagree by direction: a pixel is {} mm wide and {} mm high ({} % apart)",
            fine(x),
            fine(y),
            ground::quantity::trim_number(100.0 * (x / y - 1.0).abs(), 2)
        ),
        (false, false) => format!("a pixel is {} mm", fine(x)),
    };
    for (k, r) in readings {
        let seen = plane.mm(r.from).distance(plane.mm(r.to));
        out.readings[*k].said =
            format!("the picture says {} ({:+.2} %)", display.fine(seen), 100.0 * (seen / r.length - 1.0));
    }
}

//! Fitted sides → an outline told side by side, its figures rounded. All directions are told; of the
//! lengths and
//! radii two are left open, so that the rest can be round and the outline still closes.

use std::f64::consts::{FRAC_PI_2, TAU};

use glam::DVec2;
use ground::geom::Contour;
use ground::quantity::{Display, trim_number};
use trace::{Carrier, Chain, Straight};

use super::deviation::Fit;
use super::letter;
use crate::job::{From, Line, Offset, Operation, Place, Punch, Shape, StartContour};
use sheet::verbs::{ArcWay, ContourRun, ContourSide, Toward};

/// How figures are rounded and typed.
pub struct Steps<'a> {
    pub length: Option<f64>,
    pub angle: Option<f64>,
    pub display: &'a Display,
}

impl Steps<'_> {
    pub fn rounded(&self, v: f64) -> f64 {
        let step = self.length.unwrap_or(0.01);
        (v / step).round().max(1.0) * step
    }

    fn turned(&self, rad: f64) -> f64 {
        let step = self.angle.unwrap_or(0.1f64.to_radians());
        (rad / step).round() * step
    }

    pub fn typed(&self, mm: f64) -> String {
        trim_number(mm / self.display.length.mm(), 6)
    }
}

pub struct Spoken {
    pub line: Line,
    /// By how much the part is turned against the picture.
    pub turn: f64,
    pub notes: Vec<String>,
    /// Sides that are arcs: their names, and their middles in the picture.
    pub arcs: Vec<(String, DVec2)>,
}

/// A side with its rounded figures.
struct Side {
    /// The way it sets out, and how far it turns.
    from: f64,
    sweep: f64,
    /// Length of a line, radius of an arc; as it was found, and rounded.
    found: f64,
    size: f64,
    arc: bool,
    tangent: bool,
}

impl Side {
    /// Where it leads for every millimetre of its size.
    fn leads(&self) -> DVec2 {
        if !self.arc {
            return DVec2::from_angle(self.from);
        }
        // ∫ of the way along a circle of radius one.
        let hand = self.sweep.signum();
        let at = |t: f64| DVec2::from_angle(t - hand * FRAC_PI_2);
        (at(self.from + self.sweep) - at(self.from)) * 1.0
    }
}

/// The longest line is level, or the axis of a mirrored outline plumb.
fn turn(outline: &Chain, axis: Option<&Straight>) -> f64 {
    let longest = (0..outline.sides.len())
        .filter(|k| matches!(outline.sides[*k], Carrier::Line { .. }))
        .max_by(|i, j| length(outline, *i).total_cmp(&length(outline, *j)));
    let way = match (axis, longest) {
        (Some(a), _) => a.along.to_angle(),
        (None, Some(k)) => heading(outline, k, false),
        (None, None) => return 0.0,
    };
    // To the nearest of the four, so that the part lies as it is seen.
    (way / FRAC_PI_2).round() * FRAC_PI_2 - way
}

fn length(outline: &Chain, k: usize) -> f64 {
    let n = outline.joints.len();
    outline.joints[k].distance(outline.joints[(k + 1) % n])
}

/// The way that a side goes at its beginning or its end.
fn heading(outline: &Chain, k: usize, end: bool) -> f64 {
    let n = outline.joints.len();
    let (a, b) = (outline.joints[k], outline.joints[(k + 1) % n]);
    match &outline.sides[k] {
        Carrier::Line { .. } => (b - a).to_angle(),
        Carrier::Arc { circle, .. } => {
            let p = if end { b } else { a };
            ((p - circle.centre).perp() * outline.sweep(k).signum()).to_angle()
        }
    }
}

fn near_to(angle: f64, other: f64) -> f64 {
    angle + ((other - angle) / TAU).round() * TAU
}

/// Sides with rounded directions: where two run on into one another, both have the direction of the line.
/// What
/// runs on from an arc at both its ends has its direction from those, and is not rounded.
fn sides(outline: &Chain, turn: f64, steps: &Steps) -> Vec<Side> {
    let n = outline.sides.len();
    let line = |k: usize| matches!(outline.sides[k], Carrier::Line { .. });
    let follows = |k: usize| outline.tangent[k] && outline.tangent[(k + 1) % n];
    // The direction of a side at one of its ends, and whose it is.
    let own = |k: usize, end: bool| {
        let (joint, other) = if end { ((k + 1) % n, (k + 1) % n) } else { (k, (k + n - 1) % n) };
        if outline.tangent[joint] && !line(k) && line(other) {
            (other, heading(outline, other, !end))
        } else {
            (k, heading(outline, k, end))
        }
    };
    // Two arcs that run on into one another have one direction there: that of the first's end.
    let way = |k: usize, end: bool| {
        let (k, end) = match end {
            false if outline.tangent[k] && !line(k) && !line((k + n - 1) % n) => ((k + n - 1) % n, true),
            _ => (k, end),
        };
        let (whose, raw) = own(k, end);
        let consequence =
            if line(whose) { follows(whose) } else { outline.tangent[(whose + usize::from(end)) % n] };
        if consequence { fine(raw + turn) } else { steps.turned(raw + turn) }
    };
    (0..n)
        .map(|k| {
            let from = way(k, false);
            let swept = outline.sweep(k);
            let sweep = if line(k) { 0.0 } else { near_to(way(k, true) - from, swept) };
            let found = match &outline.sides[k] {
                Carrier::Line { .. } => length(outline, k),
                Carrier::Arc { circle, .. } => circle.radius,
            };
            let size = steps.rounded(found);
            Side { from, sweep, found, size, arc: !line(k), tangent: outline.tangent[k] }
        })
        .collect()
}

/// As found, to a hundredth of a degree.
fn fine(rad: f64) -> f64 {
    (rad.to_degrees() * 100.0).round() / 100.0 * std::f64::consts::PI / 180.0
}

/// Leaves two sizes open: those two that close the outline so that all sizes stay nearest to what was found.
fn closed(sides: &mut [Side], step: f64) -> Option<[usize; 2]> {
    let n = sides.len();
    let leads: Vec<DVec2> = sides.iter().map(Side::leads).collect();
    let gap: DVec2 = sides.iter().zip(&leads).map(|(s, l)| *l * s.size).sum();
    let strays = |s: &Side, size: f64| (size - s.found).abs();
    let all: f64 = sides.iter().map(|s| strays(s, s.size)).sum();
    let mut best: Option<(f64, [usize; 2], [f64; 2])> = None;
    for i in 0..n {
        for j in i + 1..n {
            let turn = leads[i].perp_dot(leads[j]);
            if turn.abs() < 0.05 {
                continue;
            }
            // gap + leads[i]·a + leads[j]·b = 0.
            let (a, b) = (-gap.perp_dot(leads[j]) / turn, gap.perp_dot(leads[i]) / turn);
            let sizes = [sides[i].size + a, sides[j].size + b];
            if sizes.iter().any(|s| *s <= 0.0) {
                continue;
            }
            let told = all - strays(&sides[i], sides[i].size) - strays(&sides[j], sides[j].size);
            let open = strays(&sides[i], sizes[0]) + strays(&sides[j], sizes[1]);
            // Of equals lines before arcs, and the last, as one would leave them.
            let arcs = f64::from(u8::from(sides[i].arc)) + f64::from(u8::from(sides[j].arc));
            let cost = told + open + arcs * step - 1e-6 * (i + j) as f64;
            if best.is_none_or(|o| cost < o.0) {
                best = Some((cost, [i, j], sizes));
            }
        }
    }
    let (_, open, sizes) = best?;
    (sides[open[0]].size, sides[open[1]].size) = (sizes[0], sizes[1]);
    Some(open)
}

fn toward(angle: f64) -> Toward {
    let deg = angle.to_degrees().rem_euclid(360.0);
    let is = |v: f64| (deg - v).abs() < 1e-7 || (deg - v).abs() > 360.0 - 1e-7;
    match () {
        () if is(0.0) => Toward::East {},
        () if is(90.0) => Toward::North {},
        () if is(180.0) => Toward::West {},
        () if is(270.0) => Toward::South {},
        () => Toward::At { angle: trim_number(if deg > 180.0 { deg - 360.0 } else { deg }, 4) },
    }
}

/// The outline as one spoken line.
pub fn outline_line(outline: &Chain, steps: &Steps, axis: Option<&Straight>) -> Result<Spoken, String> {
    let turn = turn(outline, axis);
    let mut all = sides(outline, turn, steps);
    if all.iter().any(|s| s.arc && s.sweep.abs() < 1e-6) {
        return Err("an arc turns by less than the step of angles: take a finer one".into());
    }
    let open = closed(&mut all, steps.length.unwrap_or(0.2))
        .ok_or("rounded like this the outline does not close: take finer steps")?;
    // Begun with a line that goes east where there is one: the others follow in their order.
    let n = all.len();
    let begin = (0..n)
        .filter(|k| !all[*k].arc)
        .max_by(|i, j| {
            let east = |k: usize| {
                u8::from(all[k].from.rem_euclid(TAU).min(TAU - all[k].from.rem_euclid(TAU)) < 1e-6)
            };
            east(*i).cmp(&east(*j)).then(all[*i].size.total_cmp(&all[*j].size))
        })
        .unwrap_or(0);
    let mut said = Vec::new();
    let mut arcs = Vec::new();
    for i in 0..n {
        let k = (begin + i) % n;
        let (s, next) = (&all[k], &all[(k + 1) % n]);
        let before = &all[(k + n - 1) % n];
        let size = if open.contains(&k) { String::new() } else { steps.typed(s.size) };
        let id = letter(i);
        let mut side = ContourSide { id: id.clone(), ..ContourSide::default() };
        if s.arc {
            side.kind = ContourRun::Arc;
            side.way = if s.sweep > 0.0 { ArcWay::Left } else { ArcWay::Right };
            side.radius = size;
            // What follows says where it ends, where it runs on into a line that is told.
            if !(next.tangent && !next.arc && i + 1 < n) {
                side.angle = trim_number(s.sweep.abs().to_degrees(), 4);
            }
            if !s.tangent || i == 0 {
                side.toward = Some(toward(s.from));
            }
            if let Carrier::Arc { circle, .. } = &outline.sides[k] {
                arcs.push((format!("start-1.{id}"), circle.centre));
            }
        } else {
            side.length = size;
            side.toward = Some(toward(s.from));
        }
        side.sharp = i > 0 && !s.tangent && (s.arc || before.arc);
        said.push(side);
    }
    let names: Vec<String> = open.iter().map(|k| letter((k + n - begin) % n)).collect();
    let mut notes = vec![format!(
        "{} and {} are left open: they close the outline when the others are round",
        names[0].clone().min(names[1].clone()),
        names[0].clone().max(names[1].clone())
    )];
    if turn.abs() > 1e-4 {
        let by = trim_number(turn.to_degrees().abs(), 2);
        let what = if axis.is_some() { "its axis" } else { "its longest line" };
        notes.push(format!("turned by {by}° so that {what} is level or plumb"));
    }
    let say = Operation::StartContour(StartContour { sides: said, rules: Vec::new() });
    Ok(Spoken { line: Line::new("start-1", say), turn, notes, arcs })
}

/// Holes of the recipe, and where they lie on the part: about an arc of the outline that has their
/// middle, else
/// from its west and south.
pub fn hole_lines(
    circles: &[(Option<usize>, Carrier)],
    fit: &Fit,
    low: DVec2,
    arcs: &[(String, DVec2)],
    near: f64,
    steps: &Steps,
) -> (Vec<Line>, Vec<Contour>) {
    let (mut lines, mut holes) = (Vec::new(), Vec::new());
    for (_, c) in circles {
        let Carrier::Arc { circle, .. } = c else { continue };
        let radius = steps.rounded(2.0 * circle.radius) / 2.0;
        let middle = fit.to_part(circle.centre);
        let about = { arcs.iter() }
            .map(|(name, m)| (name, *m))
            .find(|(_, m)| m.distance(circle.centre) < 2.0 * near && !fit.side_centres.is_empty());
        let (place, middle) = match about.and_then(|(name, _)| Some((name, fit.centre_of(name)?))) {
            Some((name, at)) => (Place { on: "flat".into(), about: name.clone(), ..Place::default() }, at),
            None => {
                let from = |v: f64| steps.length.map_or((v / 0.01).round() * 0.01, |s| (v / s).round() * s);
                let (x, y) = (from(middle.x - low.x), from(middle.y - low.y));
                let at = |from: From, d: f64| Offset { from, distance: steps.typed(d), ..Offset::default() };
                let place = Place {
                    on: "flat".into(),
                    x: at(From::West, x),
                    y: at(From::South, y),
                    ..Place::default()
                };
                (place, low + DVec2::new(x, y))
            }
        };
        let shape = Shape::Round { diameter: steps.typed(2.0 * radius) };
        let id = format!("punch-{}", lines.len() + 1);
        lines.push(Line::new(id, Operation::Punch(Punch { shape, place })));
        holes.push(Contour::circle(middle, radius, 0));
    }
    (lines, holes)
}

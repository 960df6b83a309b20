//! What was laid over a picture → the figures it comes to, and the recipe that says them.

mod deviation;
mod read;
mod spoken;

use glam::DVec2;
use ground::geom::Contour;
use ground::quantity::{Display, Fault};
use serde::Serialize;
use trace::{Carrier, Chain, Followed, Gray, Plane, Shape, Straight, chain, mirrored};

use crate::evaluate::evaluate_piece;
use crate::job::{Job, Line, Piece, TracedShape};
use deviation::{Fit, laid};
use read::{Told, read};
use spoken::{Steps, hole_lines, outline_line};

/// An element as it was found.
#[derive(Clone, Debug, Default, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct TracedView {
    pub id: String,
    /// Its name in the outline, `a`, `b` …; empty for holes.
    pub letter: String,
    /// Where it was found, place by place in the picture.
    pub path: Vec<[f64; 2]>,
    /// Its size.
    pub said: String,
    /// How far the edge strays from it.
    pub strays: String,
    /// How far the outline or hole that is said lies from the picture; empty where none is said.
    pub off: String,
    /// Little of an edge was found along it, in words; empty where all is well.
    pub doubt: String,
}

/// What a reading says beside the picture.
#[derive(Clone, Debug, Default, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct ReadingView {
    /// Its ends as they were put upon the edges.
    pub from: [f64; 2],
    pub to: [f64; 2],
    pub said: String,
}

/// A fault of a value of the tracing, at its JSON pointer.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct TracingFault {
    pub field: String,
    pub fault: Fault,
}

#[derive(Clone, Debug, Default, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct TracedResult {
    pub wide: usize,
    pub high: usize,
    /// How large a pixel is, and what that rests on.
    pub scale: String,
    pub elements: Vec<TracedView>,
    pub readings: Vec<ReadingView>,
    /// The corners that the picture is straightened by, put upon the edges.
    pub corners: Vec<[f64; 2]>,
    /// The outline that is said, in the picture; and its holes.
    pub outline: Vec<[f64; 2]>,
    pub holes: Vec<Vec<[f64; 2]>>,
    /// Of the whole outline from the picture.
    pub off: String,
    /// Lines of a recipe that say it.
    pub lines: Vec<Line>,
    /// Why there are none; empty where there are.
    pub trouble: String,
    /// What rests on a convention, and what was rounded away.
    pub notes: Vec<String>,
    pub faults: Vec<TracingFault>,
}

/// Elements of one tracing.
pub const MOST_ELEMENTS: usize = 200;

/// Works a tracing out, from the picture alone and the piece's own settings.
pub fn traced(job: &Job, piece: &Piece, picture: &Gray) -> TracedResult {
    let mut out = TracedResult { wide: picture.wide, high: picture.high, ..TracedResult::default() };
    let Some(tracing) = &piece.tracing else {
        out.trouble = "the piece was not traced from a picture".into();
        return out;
    };
    let display = piece.display.unwrap_or(job.display);
    let told = read(job, tracing, &display, picture, &mut out);
    let found = elements(tracing, picture, &told, &display, &mut out);
    let Some(scaled) = told.scaled else {
        if out.trouble.is_empty() {
            out.trouble = "nothing tells how large it is: measure between two places".into();
        }
        return out;
    };
    let steps = Steps { length: told.step, angle: told.angle_step, display: &display };
    let made = make(job, piece, &found, &told, &steps, scaled, &mut out);
    if let Err(why) = made {
        out.trouble = why;
    }
    out
}

/// An element that was found, beside its place in the list.
struct Found {
    at: usize,
    shape: Shape,
    followed: Followed,
}

fn shape(of: TracedShape) -> Shape {
    match of {
        TracedShape::Line => Shape::Line,
        TracedShape::Arc => Shape::Arc,
        TracedShape::Circle => Shape::Circle,
    }
}

fn letter(k: usize) -> String {
    // As contours name their sides: without those that are read as numbers or times.
    const LETTERS: &[u8] = b"abcdefghijklmnopqrstuvwyz";
    if k < LETTERS.len() { char::from(LETTERS[k]).to_string() } else { format!("side-{}", k + 1) }
}

fn elements(
    tracing: &crate::job::Tracing,
    picture: &Gray,
    told: &Told,
    display: &Display,
    out: &mut TracedResult,
) -> Vec<Found> {
    let mut found = Vec::new();
    let mut sides = 0;
    for (at, e) in tracing.elements.iter().enumerate() {
        ground::halt::point();
        let shape = shape(e.shape);
        let mut view = TracedView { id: e.id.clone(), ..TracedView::default() };
        if shape != Shape::Circle {
            view.letter = letter(sides);
            sides += 1;
        }
        let points: Vec<DVec2> = e.points.iter().map(|p| DVec2::from_array(*p)).collect();
        let fewest = if shape == Shape::Line { 2 } else { 3 };
        let sound = points.iter().all(|p| p.is_finite() && p.abs().max_element() < 1e6);
        let by = (!e.by_hand && e.reach > 0.0).then_some(picture);
        let reach = if e.reach.is_finite() { e.reach.clamp(1.5, 60.0) } else { 8.0 };
        let followed = (sound && (fewest..=60).contains(&points.len()) && at < MOST_ELEMENTS)
            .then(|| trace::follow(by, &told.plane, shape, &points, reach))
            .flatten();
        match followed {
            Some(f) => {
                view.path = path(&f.carrier, shape, &told.plane);
                view.said = said(&f.carrier, shape, told, display);
                view.strays = format!("± {}", length(f.rms, told, display));
                if f.seen == 0.0 {
                    view.doubt = "no edge was found along it: it lies as it was told".into();
                } else if f.seen < 0.5 {
                    view.doubt = format!("an edge on {:.0} % of it only", 100.0 * f.seen);
                }
                found.push(Found { at, shape, followed: f });
            }
            None if points.len() < fewest => view.doubt = format!("{} more places", fewest - points.len()),
            None => view.doubt = "these places tell no line or circle".into(),
        }
        out.elements.push(view);
    }
    found
}

/// A length of the picture; in pixels as long as nothing scales it.
fn length(v: f64, told: &Told, display: &Display) -> String {
    if told.scaled.is_some() {
        format!("{} {}", display.fine(v), display.length.sign())
    } else {
        format!("{v:.2} px")
    }
}

fn said(c: &Carrier, shape: Shape, told: &Told, display: &Display) -> String {
    match (c, shape) {
        (Carrier::Line { .. }, _) => length(c.length(), told, display),
        (Carrier::Arc { circle, .. }, Shape::Circle) => {
            format!("⌀{}", length(2.0 * circle.radius, told, display))
        }
        (Carrier::Arc { circle, sweep, .. }, _) => {
            format!("R{}, {}", length(circle.radius, told, display), display.angle(sweep.abs()))
        }
    }
}

/// Places along an element, in the picture.
fn path(c: &Carrier, shape: Shape, plane: &Plane) -> Vec<[f64; 2]> {
    let n = match (c, shape) {
        (Carrier::Line { .. }, _) => 8,
        (_, Shape::Circle) => 96,
        _ => 48,
    };
    (0..=n).map(|k| px(plane, c.at(f64::from(k) / f64::from(n)).0)).collect()
}

fn px(plane: &Plane, p: DVec2) -> [f64; 2] {
    plane.pixel(p).to_array().map(|v| (v * 100.0).round() / 100.0)
}

/// The outline and the holes, said and laid back over the picture.
fn make(
    job: &Job,
    piece: &Piece,
    found: &[Found],
    told: &Told,
    steps: &Steps,
    scaled: f64,
    out: &mut TracedResult,
) -> Result<(), String> {
    // Nearer than a pixel and a half nobody can tell a corner from none.
    let near = 1.5 * scaled;
    let plane = &told.plane;
    let mut sides: Vec<Carrier> =
        found.iter().filter(|f| f.shape != Shape::Circle).map(|f| f.followed.carrier).collect();
    let mut circles: Vec<(Option<usize>, Carrier)> = { found.iter() }
        .filter(|f| f.shape == Shape::Circle)
        .map(|f| (Some(f.at), f.followed.carrier))
        .collect();
    let axis = told.axis.map(|a| through_middles(&a, &sides, &circles, near, out));
    if let Some(axis) = &axis {
        sides = mirrored(&sides, axis, near);
        let beside = |c: &Carrier| match c {
            Carrier::Arc { circle, .. } => {
                axis.off(circle.centre).abs() > (2.0 * near).max(0.1 * circle.radius)
            }
            Carrier::Line { .. } => false,
        };
        let images: Vec<(Option<usize>, Carrier)> =
            circles.iter().filter(|(_, c)| beside(c)).map(|(_, c)| (None, c.mirrored(axis))).collect();
        circles.extend(images);
        out.notes.push("mirrored about the axis: what is said of one half holds for the other".into());
    }
    let outline = if sides.is_empty() {
        None
    } else if sides.len() < 2 {
        return Err("one side encloses nothing: lay the next line or arc".into());
    } else {
        let joined = chain(sides, near);
        if let Some(k) = joined.apart.first() {
            let (a, b) = (letter(*k), letter((k + 1) % joined.sides.len()));
            return Err(format!(
                "{a} and {b} do not meet: lay what is between them, or set their order right"
            ));
        }
        Some(if joined.contour().signed_area() < 0.0 { joined.reversed() } else { joined })
    };
    let (line, fitted) = match &outline {
        Some(c) => said_outline(job, piece, c, axis.as_ref(), steps, out)?,
        None => {
            let largest =
                (0..circles.len()).max_by(|i, j| circles[*i].1.length().total_cmp(&circles[*j].1.length()));
            let k = largest.ok_or("lay lines and arcs along the outline, or a circle")?;
            let (_, disc) = circles.remove(k);
            disc_line(&disc, steps)?
        }
    };
    let at: DVec2 = fitted.contour.bounds().min;
    let arcs = fitted.arcs.clone();
    let (lines, holes) = hole_lines(&circles, &fitted, at, &arcs, near, steps);
    out.lines = std::iter::once(line).chain(lines).collect();
    let worst = lay_back(found, told, &fitted, &circles, &holes, steps.display, out);
    out.outline =
        fitted.contour.flatten(0.2 * scaled).into_iter().map(|p| px(plane, fitted.to_picture(p))).collect();
    let round =
        |h: &Contour| h.flatten(0.2 * scaled).into_iter().map(|p| px(plane, fitted.to_picture(p))).collect();
    out.holes = holes.iter().map(round).collect();
    // Further than any rounding or hand explains.
    let size = fitted.contour.bounds().size().max_element();
    if worst > (10.0 * near).max(3.0 * steps.length.unwrap_or(0.0)).max(0.04 * size) {
        out.lines.clear();
        return Err(format!(
            "what would be said lies {} from the picture: a side is missing, or they are out of order",
            length(worst, told, steps.display)
        ));
    }
    Ok(())
}

/// An axis that a hand laid, put through the middles of the rounds that it runs through.
fn through_middles(
    told: &Straight,
    sides: &[Carrier],
    circles: &[(Option<usize>, Carrier)],
    near: f64,
    out: &mut TracedResult,
) -> Straight {
    let rounds = sides.iter().chain(circles.iter().map(|c| &c.1)).filter_map(|c| match c {
        Carrier::Arc { circle, .. } => Some(circle),
        Carrier::Line { .. } => None,
    });
    let on: Vec<DVec2> = rounds
        .filter(|c| told.off(c.centre).abs() < (5.0 * near).max(0.1 * c.radius))
        .map(|c| c.centre)
        .collect();
    let Some(first) = on.first() else { return *told };
    let spread = on.iter().map(|p| told.along.dot(*p - *first).abs()).fold(0.0, f64::max);
    out.notes.push(format!(
        "the axis runs through the middles of {}",
        ground::quantity::counted(on.len(), "round")
    ));
    match trace::fit_line(&on).filter(|_| spread > 20.0 * near) {
        Some(through) => through,
        None => Straight { at: on.iter().sum::<DVec2>() / on.len() as f64, along: told.along },
    }
}

/// The outline as a spoken line, worked out as any recipe is, and laid over the picture.
fn said_outline(
    job: &Job,
    piece: &Piece,
    outline: &Chain,
    axis: Option<&Straight>,
    steps: &Steps,
    out: &mut TracedResult,
) -> Result<(Line, Fit), String> {
    let spoken = outline_line(outline, steps, axis)?;
    let alone = Piece { lines: vec![spoken.line.clone()], tracing: None, origin: None, ..piece.clone() };
    let made = evaluate_piece(job, &alone);
    if !made.made {
        let why = made.faults.first().map_or("it encloses nothing".into(), |f| f.fault.message.clone());
        return Err(format!("rounded like this the outline does not close ({why}): take finer steps"));
    }
    out.notes.extend(spoken.notes);
    let points: Vec<DVec2> = told_points(outline);
    let arcs = spoken.arcs;
    Ok((spoken.line, laid(made.flat.outer.clone(), outline.contour(), spoken.turn, &points, arcs)))
}

/// Places on the outline as it was found, to lay the said one over.
fn told_points(outline: &Chain) -> Vec<DVec2> {
    let contour = outline.contour();
    contour.segments().flat_map(|s| (0..12).map(move |k| s.at((f64::from(k) + 0.5) / 12.0))).collect()
}

/// A round outline: a disc of a rounded diameter.
fn disc_line(disc: &Carrier, steps: &Steps) -> Result<(Line, Fit), String> {
    use crate::job::{Operation, Point, StartOutline};
    let Carrier::Arc { circle, .. } = disc else { return Err("no circle".into()) };
    let radius = steps.rounded(2.0 * circle.radius) / 2.0;
    let typed = |v: f64| steps.typed(v);
    let point = |x: f64, y: f64| Point { x: typed(x), y: typed(y), bulge: "1".into() };
    let say = Operation::StartOutline(StartOutline {
        points: vec![point(2.0 * radius, radius), point(0.0, radius)],
    });
    let contour = Contour::circle(DVec2::splat(radius), radius, 0);
    let fit = Fit::shifted(contour, circle.centre - DVec2::splat(radius));
    Ok((Line::new("start-1", say), fit))
}

/// How far what is said lies from the picture, element by element and as a whole.
fn lay_back(
    found: &[Found],
    told: &Told,
    fit: &Fit,
    circles: &[(Option<usize>, Carrier)],
    holes: &[Contour],
    display: &Display,
    out: &mut TracedResult,
) -> f64 {
    let off = |c: &Contour, points: &[DVec2]| {
        let away = |p: &DVec2| {
            let p = fit.to_part(*p);
            c.segments().map(|s| s.nearest(p).distance(p)).fold(f64::INFINITY, f64::min)
        };
        points.iter().map(away).fold(0.0, f64::max)
    };
    let mut worst: f64 = 0.0;
    for f in found {
        let hole = circles.iter().position(|(at, _)| *at == Some(f.at)).map(|k| &holes[k]);
        let far = off(hole.unwrap_or(&fit.contour), &f.followed.points);
        worst = worst.max(far);
        out.elements[f.at].off = length(far, told, display);
    }
    out.off = length(worst, told, display);
    worst
}

//! `punch`: a shape and its place → one feature.

use std::f64::consts::TAU;

use glam::DVec2;

use super::blank::{Blank, told_contour};
use super::feature::Feature;
use super::reader::{Range, Reader};
use crate::geom::{Bounds, Contour};
use crate::job::{From, Offset, Place, Punch, Shape, SlotMeasure, To};

pub fn punch(reader: &mut Reader, id: &str, line: usize, say: &Punch, blank: &Blank) -> Option<Feature> {
    let shape = shape(reader, &say.shape);
    let field = field(reader, "/say/place/on", &say.place.on, blank);
    let turn = if say.place.turn.is_empty() { Some(0.0) } else { reader.angle("/say/place/turn", &say.place.turn) };
    let ((shape, least), field, turn) = (shape?, field?, turn?);
    let shape = shape.moved(turn, DVec2::ZERO);
    let centre = place(reader, &say.place, &shape.bounds(), &field)?;
    Some(Feature { name: id.to_string(), line, contour: shape.moved(0.0, centre), centre, least, field })
}

/// The shape about its own centre, and its smallest width.
fn shape(reader: &mut Reader, shape: &Shape) -> Option<(Contour, f64)> {
    let mut size = |field: &str, text: &str| reader.length(&format!("/say/shape/{field}"), text, Range::AboveZero);
    let upright = |w: f64, h: f64| Contour::rectangle(-DVec2::new(w, h) / 2.0, DVec2::new(w, h) / 2.0, 0).retagged(0);
    Some(match shape {
        Shape::Round { diameter } => {
            let d = size("diameter", diameter)?;
            (Contour::circle(DVec2::ZERO, d / 2.0, 0), d)
        }
        Shape::Square { side } => {
            let s = size("side", side)?;
            (upright(s, s), s)
        }
        Shape::Rectangle { width, height } => {
            let (w, h) = (size("width", width), size("height", height));
            let (w, h) = (w?, h?);
            (upright(w, h), w.min(h))
        }
        Shape::Slot { length, width, measure } => {
            let (told, w) = (size("length", length), size("width", width));
            let (told, w) = (told?, w?);
            let overall = if *measure == SlotMeasure::Centres { told + w } else { told };
            if overall < w + 1e-6 {
                reader.refuse("/say/shape/length", length, "the slot is no longer than it is wide", "write a greater length, or punch a round hole");
                return None;
            }
            (Contour::slot(DVec2::ZERO, overall, w, 0), w)
        }
        Shape::Triangle { base, height } => {
            let (b, h) = (size("base", base), size("height", height));
            let (b, h) = (b?, h?);
            let points = [DVec2::new(-b / 2.0, -h / 2.0), DVec2::new(b / 2.0, -h / 2.0), DVec2::new(0.0, h / 2.0)];
            let leg = (b / 2.0).hypot(h);
            (Contour::polygon(points, 0), (b * h / leg.max(b)).min(b).min(h))
        }
        Shape::Polygon { sides, across } => {
            let across = size("across", across);
            let n = reader.count("/say/shape/sides", sides, 3, 64);
            let (n, across) = (n?, across?);
            // Told across flats: twice the inradius. The first flat lies south.
            let radius = across / 2.0 / (TAU / n as f64 / 2.0).cos();
            let first = -TAU / 4.0 - TAU / n as f64 / 2.0;
            let points = (0..n).map(|k| DVec2::from_angle(first + TAU * k as f64 / n as f64) * radius);
            (Contour::polygon(points, 0), across)
        }
        Shape::Outline { points } => {
            let contour = told_contour(reader, "/say/shape/points", points, 0)?;
            let least = contour.bounds().size().min_element();
            (contour, least)
        }
    })
}

/// The rectangle that places are told in.
pub fn field(reader: &mut Reader, path: &str, on: &str, blank: &Blank) -> Option<Bounds> {
    if on == "flat" {
        return Some(blank.outer.bounds());
    }
    match blank.zones.iter().find(|z| z.name == on && z.bend().is_none()) {
        Some(z) => Some(Bounds { min: z.min, max: z.max }),
        None => {
            let known: Vec<&str> = blank.zones.iter().filter(|z| z.bend().is_none()).map(|z| z.name.as_str()).take(12).collect();
            reader.refuse(path, on, format!("no panel is called '{on}'"), format!("pick flat, or one of {}", known.join(", ")));
            None
        }
    }
}

fn place(reader: &mut Reader, place: &Place, shape: &Bounds, field: &Bounds) -> Option<DVec2> {
    let x = along(reader, "/say/place/x", &place.x, [From::West, From::East], (shape.min.x, shape.max.x), (field.min.x, field.max.x));
    let y = along(reader, "/say/place/y", &place.y, [From::South, From::North], (shape.min.y, shape.max.y), (field.min.y, field.max.y));
    Some(DVec2::new(x?, y?))
}

fn along(reader: &mut Reader, path: &str, o: &Offset, [low, high]: [From; 2], shape: (f64, f64), field: (f64, f64)) -> Option<f64> {
    let distance =
        if o.distance.trim().is_empty() && o.from == From::Centre { 0.0 } else { reader.length(&format!("{path}/distance"), &o.distance, Range::Any)? };
    let side = o.to == To::Side;
    Some(match o.from {
        From::Centre => (field.0 + field.1) / 2.0 + distance,
        f if f == low => field.0 + distance - if side { shape.0 } else { 0.0 },
        f if f == high => field.1 - distance - if side { shape.1 } else { 0.0 },
        _ => {
            reader.refuse(&format!("{path}/from"), "", "this edge runs the other way", "east and west for the first distance, south and north for the second");
            return None;
        }
    })
}

//! Small pictures of pieces and frames for the list of a job: one path each, drawn in the page's own ink.

use std::fmt::Write;
use std::hash::{DefaultHasher, Hash, Hasher};

use glam::{DVec2, DVec3};
use serde::Serialize;
use steelk_core::frame::{FrameResult, Plate, PlatePlace};
use steelk_core::geom::Bounds;
use steelk_core::result::PieceResult;
use utoipa::ToSchema;

/// The box that a path is drawn in: tenths of a pixel of a picture 48 wide and 36 high.
const BOX: DVec2 = DVec2::new(480.0, 360.0);
const EDGE: f64 = 12.0;
/// More openings than this are not told apart so small.
const OPENINGS: usize = 60;
/// More bars than this are a blot.
const BARS: usize = 400;

#[derive(Clone, Debug, PartialEq, Serialize, ToSchema)]
pub struct Thumb {
    pub id: String,
    /// Changes with the picture.
    pub key: String,
    /// SVG path in a box of 480 × 360; none where the page has this one already.
    pub path: Option<String>,
    /// Filled even-odd; else lines only.
    pub filled: bool,
}

impl Thumb {
    /// Without its path where that is known by its key.
    pub fn unless(self, known: Option<&String>) -> Thumb {
        if known == Some(&self.key) { Thumb { path: None, ..self } } else { self }
    }
}

fn made(id: &str, path: String, filled: bool) -> Thumb {
    let mut key = DefaultHasher::new();
    path.hash(&mut key);
    Thumb { id: id.into(), key: format!("{:x}", key.finish()), path: Some(path), filled }
}

/// Points y up → the box y down, as large as they fit.
fn fitted(bounds: Bounds) -> impl Fn(DVec2) -> DVec2 {
    let room = BOX - DVec2::splat(2.0 * EDGE);
    let scale = (room / bounds.size().max(DVec2::splat(1e-9))).min_element();
    let middle = bounds.centre();
    move |p| (p - middle) * DVec2::new(scale, -scale) + BOX / 2.0
}

fn drawn(out: &mut String, points: &[DVec2], close: bool) {
    let mut last = None;
    for p in points {
        let at = [p.x.round() as i64, p.y.round() as i64];
        if last == Some(at) {
            continue;
        }
        let _ = write!(out, "{}{} {}", if last.is_none() { 'M' } else { 'L' }, at[0], at[1]);
        last = Some(at);
    }
    if close {
        out.push('z');
    }
}

/// The flat with its larger openings; nothing of a piece that could not be made.
pub fn of_piece(p: &PieceResult) -> Thumb {
    let mut path = String::new();
    if p.made {
        let size = p.flat.outer.bounds().size().max_element();
        let chord = size / 300.0;
        let outline = p.flat.outer.flatten(chord);
        let to = fitted(Bounds::of(outline.iter().copied()));
        let mut holes: Vec<_> =
            p.flat.holes.iter().map(|h| (h.contour.bounds().size().min_element(), h)).collect();
        holes.retain(|h| h.0 > size / 40.0);
        holes.sort_by(|a, b| b.0.total_cmp(&a.0));
        holes.truncate(OPENINGS);
        let loops = std::iter::once(outline).chain(holes.into_iter().map(|h| h.1.contour.flatten(chord)));
        for points in loops {
            drawn(&mut path, &points.into_iter().map(&to).collect::<Vec<_>>(), true);
        }
    }
    made(&p.id, path, true)
}

/// The lines of its bars and the outlines of its plates, seen at an angle.
pub fn of_frame(f: &FrameResult) -> Thumb {
    let eye = DVec3::new(-0.55, -0.75, 0.6).normalize();
    let right = DVec3::Z.cross(eye).normalize();
    let up = eye.cross(right);
    let seen = |p: DVec3| DVec2::new(p.dot(right), p.dot(up));
    let bars = f.members.iter().take(BARS).map(|m| {
        let steps = if m.is_straight() { 1 } else { 12 };
        let on = m.way.iter().flat_map(|w| (0..=steps).map(move |k| w.at(f64::from(k) / f64::from(steps)).o));
        on.map(seen).collect()
    });
    // Of plates their outlines, closed.
    let around = |p: &Plate, at: &PlatePlace| -> Vec<DVec2> {
        let corners = p.piece.flat.outer.vertices.iter().chain(p.piece.flat.outer.vertices.first());
        corners.map(|v| seen(at.o + at.x * v.p.x + at.y * v.p.y)).collect()
    };
    let plates = f.plates.iter().flat_map(|p| p.places.iter().map(move |at| around(p, at))).take(BARS);
    let bars: Vec<Vec<DVec2>> = bars.chain(plates).collect();
    let mut path = String::new();
    if !bars.is_empty() {
        let to = fitted(Bounds::of(bars.iter().flatten().copied()));
        for bar in &bars {
            drawn(&mut path, &bar.iter().map(|p| to(*p)).collect::<Vec<_>>(), false);
        }
    }
    made(&f.id, path, false)
}

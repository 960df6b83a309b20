//! The blank that a recipe starts with: an outline in the flat, its zones, and the names of its edges.

use glam::DVec2;

use super::reader::{Range, Reader};
use super::zones::{Kind, Zone};
use crate::geom::{CHORD, Contour, Vertex, first_crossing};
use crate::job::{Point, StartOutline, StartPlate};

/// Tags 0 to 3 are the sides of a rectangular blank.
pub const SIDES: [&str; 4] = ["south", "east", "north", "west"];

pub struct Blank {
    /// Id of the start line.
    pub line: String,
    pub outer: Contour,
    pub zones: Vec<Zone>,
    /// Names by tag.
    pub tags: Vec<String>,
    pub strip: Option<super::strip::Strip>,
}

pub fn rectangle(line: &str, min: DVec2, max: DVec2) -> (Contour, Vec<String>) {
    (Contour::rectangle(min, max, 0), SIDES.iter().map(|s| format!("{line}.{s}")).collect())
}

fn single_panel(line: &str, outer: Contour, tags: Vec<String>) -> Blank {
    let centre = outer.bounds().centre();
    let zone = Zone::new(format!("{line}.panel"), line, Kind::Panel, None, [centre, DVec2::X], outer.flatten(CHORD));
    Blank { line: line.into(), outer, zones: vec![zone], tags, strip: None }
}

pub fn plate(reader: &mut Reader, line: &str, say: &StartPlate) -> Option<Blank> {
    let width = reader.length("/say/width", &say.width, Range::AboveZero);
    let height = reader.length("/say/height", &say.height, Range::AboveZero);
    let half = DVec2::new(width?, height?) / 2.0;
    let (outer, tags) = rectangle(line, -half, half);
    Some(single_panel(line, outer, tags))
}

pub fn outline(reader: &mut Reader, line: &str, say: &StartOutline) -> Option<Blank> {
    let outer = told_contour(reader, "/say/points", &say.points, 0)?;
    let tags = (1..=outer.vertices.len()).map(|k| format!("{line}.side-{k}")).collect();
    let outer = Contour { vertices: outer.vertices.iter().zip(0..).map(|(v, tag)| Vertex { tag, ..*v }).collect() };
    Some(single_panel(line, outer.outward(), tags))
}

/// A contour told point by point, checked to be one that can be cut.
pub fn told_contour(reader: &mut Reader, path: &str, points: &[Point], tag: u32) -> Option<Contour> {
    if !(2..=20_000).contains(&points.len()) || (points.len() == 2 && points.iter().all(|p| p.bulge.is_empty())) {
        reader.refuse(path, "", format!("a contour of {} points encloses nothing", points.len()), "tell at least three corners (at most 20,000)");
        return None;
    }
    let mut vertices = Vec::with_capacity(points.len());
    for (i, p) in points.iter().enumerate() {
        let x = reader.length(&format!("{path}/{i}/x"), &p.x, Range::Any)?;
        let y = reader.length(&format!("{path}/{i}/y"), &p.y, Range::Any)?;
        let bulge = if p.bulge.is_empty() { 0.0 } else { reader.number(&format!("{path}/{i}/bulge"), &p.bulge)? };
        if bulge.abs() > 1.0 + 1e-9 {
            reader.refuse(&format!("{path}/{i}/bulge"), &p.bulge, "one arc may sweep at most a half circle", "split the arc in two");
            return None;
        }
        vertices.push(Vertex { p: DVec2::new(x, y), bulge, tag });
    }
    let contour = Contour { vertices };
    if let Some(c) = first_crossing(&contour) {
        let at = format!("{}, {}", reader.display.length(c.at.x), reader.display.length(c.at.y));
        let (i, j) = (c.segments.0 + 1, c.segments.1 + 1);
        reader.refuse(path, "", format!("the contour crosses or touches itself at {at} (sides {i} and {j})"), format!("move point {i} or {j}"));
        return None;
    }
    Some(contour.outward())
}

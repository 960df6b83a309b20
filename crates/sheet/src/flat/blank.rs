//! The blank that a recipe starts with: an outline in the flat, its zones, and the names of its edges.

use glam::DVec2;

use super::bends::BendFact;
use crate::formed::zones::{Kind, Zone};
use crate::verbs::{Point, StartOutline, StartPlate};
use ground::geom::{CHORD, Contour, Vertex, first_crossing};
use ground::reader::{Range, Reader};

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
    pub bends: Vec<BendFact>,
    pub cone: Option<super::starts::ConeFact>,
    /// Corners where two folds meet.
    pub corners: Vec<super::folds::Met>,
    /// Folds narrower than the edge that they were told on.
    pub narrowed: Vec<super::folds::Narrowed>,
}

impl Blank {
    /// A straight side of the outline by name, in the direction of travel; `start-1.b.north` is the part of
    /// `start-1.north` beside leg b.
    pub fn edge(&self, reader: &mut Reader, path: &str, name: &str) -> Option<(DVec2, DVec2)> {
        let found = straight_side(&self.outer, &self.tags, &self.zones, name);
        if found.is_none() {
            let mut known: Vec<&str> = self
                .outer
                .vertices
                .iter()
                .filter_map(|v| self.tags.get(v.tag as usize))
                .map(String::as_str)
                .collect();
            known.dedup();
            known.truncate(12);
            reader.refuse(
                path,
                name,
                format!("no straight edge is called '{name}' here"),
                format!("pick from {}", known.join(", ")),
            );
        }
        found
    }

    /// Whether a zone is rolled so wide that it is worked on like a panel.
    pub fn is_shell(&self, zone: &Zone) -> bool {
        matches!(zone.kind, Kind::Cone(_))
            || self
                .bends
                .iter()
                .any(|b| b.rolled && self.zones.get(b.zone).is_some_and(|z| z.name == zone.name))
    }
}

/// The longest straight side of an outline with this name.
pub fn straight_side(outer: &Contour, tags: &[String], zones: &[Zone], name: &str) -> Option<(DVec2, DVec2)> {
    let longest = |name: &str| {
        let named = |i: &usize| {
            tags.get(outer.vertices[*i].tag as usize).is_some_and(|t| t == name)
                && outer.segment(*i).is_line()
        };
        let best = (0..outer.vertices.len())
            .filter(named)
            .max_by(|&a, &b| outer.segment(a).length().total_cmp(&outer.segment(b).length()))?;
        let s = outer.segment(best);
        Some((s.a, s.b))
    };
    longest(name).or_else(|| {
        let (zone, side) = name.rsplit_once('.')?;
        let leg = zones.iter().find(|z| z.name == zone && z.is_panel())?;
        let (a, b) = longest(&format!("{}.{side}", zone.rsplit_once('.')?.0))?;
        let dir = (b - a).normalize_or_zero();
        let (p, q) = ((leg.min - a).dot(dir), (leg.max - a).dot(dir));
        let (p, q) = (p.min(q).max(0.0), p.max(q).min(a.distance(b)));
        (q - p > 1e-6).then_some((a + dir * p, a + dir * q))
    })
}

pub fn rectangle(line: &str, min: DVec2, max: DVec2) -> (Contour, Vec<String>) {
    (Contour::rectangle(min, max, 0), SIDES.iter().map(|s| format!("{line}.{s}")).collect())
}

fn single_panel(line: &str, outer: Contour, tags: Vec<String>) -> Blank {
    let centre = outer.bounds().centre();
    let zone =
        Zone::new(format!("{line}.panel"), line, Kind::Panel, None, [centre, DVec2::X], outer.flatten(CHORD));
    Blank {
        line: line.into(),
        outer,
        zones: vec![zone],
        tags,
        strip: None,
        bends: Vec::new(),
        cone: None,
        corners: Vec::new(),
        narrowed: Vec::new(),
    }
}

/// A rectangle centred on its middle.
pub fn plate_of(line: &str, size: DVec2) -> Blank {
    let (outer, tags) = rectangle(line, -size / 2.0, size / 2.0);
    single_panel(line, outer, tags)
}

pub fn plate(reader: &mut Reader, line: &str, say: &StartPlate) -> Option<Blank> {
    let width = reader.length("/say/width", &say.width, Range::AboveZero);
    let height = reader.length("/say/height", &say.height, Range::AboveZero);
    Some(plate_of(line, DVec2::new(width?, height?)))
}

pub fn outline(reader: &mut Reader, line: &str, say: &StartOutline) -> Option<Blank> {
    let outer = told_contour(reader, "/say/points", &say.points, 0)?;
    let tags = (1..=outer.vertices.len()).map(|k| format!("{line}.side-{k}")).collect();
    let outer =
        Contour { vertices: outer.vertices.iter().zip(0..).map(|(v, tag)| Vertex { tag, ..*v }).collect() };
    Some(single_panel(line, outer.outward(), tags))
}

/// A contour told point by point, checked to be one that can be cut.
pub fn told_contour(reader: &mut Reader, path: &str, points: &[Point], tag: u32) -> Option<Contour> {
    if !(2..=20_000).contains(&points.len())
        || (points.len() == 2 && points.iter().all(|p| p.bulge.is_empty()))
    {
        reader.refuse(
            path,
            "",
            format!("a contour of {} points encloses nothing", points.len()),
            "tell at least three corners (at most 20,000)",
        );
        return None;
    }
    let mut vertices = Vec::with_capacity(points.len());
    for (i, p) in points.iter().enumerate() {
        let x = reader.length(&format!("{path}/{i}/x"), &p.x, Range::Any)?;
        let y = reader.length(&format!("{path}/{i}/y"), &p.y, Range::Any)?;
        let bulge =
            if p.bulge.is_empty() { 0.0 } else { reader.number(&format!("{path}/{i}/bulge"), &p.bulge)? };
        if bulge.abs() > 1.0 + 1e-9 {
            reader.refuse(
                &format!("{path}/{i}/bulge"),
                &p.bulge,
                "one arc may sweep at most a half circle",
                "split the arc in two",
            );
            return None;
        }
        vertices.push(Vertex { p: DVec2::new(x, y), bulge, tag });
    }
    let contour = Contour { vertices };
    if let Some(c) = first_crossing(&contour) {
        let at = format!("{}, {}", reader.display.length(c.at.x), reader.display.length(c.at.y));
        let (i, j) = (c.segments.0 + 1, c.segments.1 + 1);
        reader.refuse(
            path,
            "",
            format!("the contour crosses or touches itself at {at} (sides {i} and {j})"),
            format!("move point {i} or {j}"),
        );
        return None;
    }
    Some(contour.outward())
}

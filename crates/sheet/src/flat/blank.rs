//! The blank that a recipe starts with: an outline in the flat, its zones, and the names of its edges.

use glam::DVec2;
use ground::geom::COINCIDENT;
use ground::geom::{CHORD, Contour, Vertex, first_crossing};
use ground::quantity::Display;
use ground::reader::Tell;
use ground::reference;

use super::bends::BendFact;
use crate::formed::zones::{Kind, Zone};

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
    pub cone: Option<super::cone::ConeFact>,
    pub transition: Option<super::transition::TransitionFact>,
    /// Corners where two folds meet.
    pub corners: Vec<super::folds::Met>,
    /// Folds narrower than the edge that they were told on.
    pub narrowed: Vec<super::folds::Narrowed>,
}

impl Blank {
    pub fn new(line: &str, outer: Contour, zones: Vec<Zone>, tags: Vec<String>) -> Blank {
        Blank {
            line: line.into(),
            outer,
            zones,
            tags,
            strip: None,
            bends: Vec::new(),
            cone: None,
            transition: None,
            corners: Vec::new(),
            narrowed: Vec::new(),
        }
    }

    /// A straight side of the outline by name, in the direction of travel; `start-1.b.north` is the part of
    /// `start-1.north` beside leg b.
    pub fn edge(&self, tell: &mut Tell, path: &str, name: &str) -> Option<(DVec2, DVec2)> {
        straight_side(tell, path, name, (&self.outer, &self.tags, &self.zones))
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

/// The longest straight side of an outline with this name; told where there is none.
pub fn straight_side(
    tell: &mut Tell,
    path: &str,
    name: &str,
    (outer, tags, zones): (&Contour, &[String], &[Zone]),
) -> Option<(DVec2, DVec2)> {
    let found = side_called(outer, tags, zones, name);
    if found.is_none() {
        let mut known: Vec<&str> =
            outer.vertices.iter().filter_map(|v| tags.get(v.tag as usize)).map(String::as_str).collect();
        known.dedup();
        known.truncate(12);
        tell.refuse_at(
            path,
            format!("no straight edge is called '{name}' here"),
            format!("pick from {}", known.join(", ")),
        );
    }
    found
}

/// The same, untold.
pub fn side_called(outer: &Contour, tags: &[String], zones: &[Zone], name: &str) -> Option<(DVec2, DVec2)> {
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
        let (zone, side) = reference::parent(name)?;
        let leg = zones.iter().find(|z| z.name == zone && z.is_panel())?;
        let (a, b) = longest(&reference::part(reference::parent(zone)?.0, side))?;
        let dir = (b - a).normalize_or_zero();
        let (p, q) = ((leg.min - a).dot(dir), (leg.max - a).dot(dir));
        let (p, q) = (p.min(q).max(0.0), p.max(q).min(a.distance(b)));
        (q - p > COINCIDENT).then_some((a + dir * p, a + dir * q))
    })
}

pub fn rectangle(line: &str, min: DVec2, max: DVec2) -> (Contour, Vec<String>) {
    (Contour::rectangle(min, max, 0), SIDES.iter().map(|s| reference::part(line, s)).collect())
}

fn single_panel(line: &str, outer: Contour, tags: Vec<String>) -> Blank {
    let centre = outer.bounds().centre();
    let zone = Zone::new(
        reference::part(line, "panel"),
        line,
        Kind::Panel,
        None,
        [centre, DVec2::X],
        outer.flatten(CHORD),
    );
    Blank::new(line, outer, vec![zone], tags)
}

/// A rectangle centred on its middle.
pub fn plate_of(line: &str, size: DVec2) -> Blank {
    let (outer, tags) = rectangle(line, -size / 2.0, size / 2.0);
    single_panel(line, outer, tags)
}

/// An outline, its sides named in turn.
pub fn outline_of(line: &str, outer: &Contour) -> Blank {
    let tags = (1..=outer.vertices.len()).map(|k| reference::part(line, format!("side-{k}"))).collect();
    let outer =
        Contour { vertices: outer.vertices.iter().zip(0..).map(|(v, tag)| Vertex { tag, ..*v }).collect() };
    outline_named(line, outer, tags)
}

/// An outline whose vertices are tagged with their sides, named so.
pub fn outline_named(line: &str, outer: Contour, names: Vec<String>) -> Blank {
    single_panel(line, outer.outward(), names)
}

/// Where a contour crosses or touches itself, in words, and how to mend it.
pub fn crossing_of(contour: &Contour, display: &Display) -> Option<(String, String)> {
    let c = first_crossing(contour)?;
    let at = format!("{}, {}", display.length(c.at.x), display.length(c.at.y));
    let (i, j) = (c.segments.0 + 1, c.segments.1 + 1);
    Some((
        format!("the contour crosses or touches itself at {at} (sides {i} and {j})"),
        format!("move point {i} or {j}"),
    ))
}

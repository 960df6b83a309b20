//! Sections of the shop's own, told by the corners of their outline.

use glam::DVec2;

use ground::geom::{Contour, first_crossing};
use ground::reader::{Range, Reader};
use ground::said;

use super::Named;
use crate::section::{Section, Shape};

said! {
    /// A section of the shop's own: an outline told by its corners.
    pub struct OwnSection {
        pub name: String,
        /// Across and up, in turn, counter-clockwise.
        pub points: Vec<[String; 2]>,
        /// Inner outline of a hollow section.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub bore: Vec<[String; 2]>,
    }
}

/// Corners of one outline.
const MOST_CORNERS: usize = 200;
/// The longest side of a section, mm.
pub const LARGEST: f64 = 3000.0;

pub fn read(reader: &mut Reader, told: &[OwnSection]) -> Vec<Named> {
    let one = |(i, own): (usize, &OwnSection)| Named {
        name: own.name.trim().to_string(),
        section: section(reader, &format!("/sections/{i}"), own),
    };
    told.iter().enumerate().map(one).collect()
}

/// The section with its box's middle at the origin.
fn section(reader: &mut Reader, at: &str, own: &OwnSection) -> Option<Section> {
    let outer = outline(reader, &format!("{at}/points"), &own.points)?;
    let middle = outer.bounds().centre();
    let bore = if own.bore.is_empty() {
        Vec::new()
    } else {
        let bore = outline(reader, &format!("{at}/bore"), &own.bore)?;
        if bore.vertices.iter().any(|v| !outer.contains(v.p)) {
            reader.refuse(
                &format!("{at}/bore"),
                "",
                "the bore is not inside the outline",
                "move its corners, or leave it out",
            );
            return None;
        }
        vec![bore]
    };
    let moved = |c: &Contour| c.moved(0.0, -middle);
    Some(own_section(own.name.trim(), moved(&outer), bore.iter().map(moved).collect(), "the shop's own"))
}

fn outline(reader: &mut Reader, at: &str, points: &[[String; 2]]) -> Option<Contour> {
    if !(3..=MOST_CORNERS).contains(&points.len()) {
        let message = format!("an outline has 3 to {MOST_CORNERS} corners, this one {}", points.len());
        reader.refuse(at, "", message, "tell the corners in turn");
        return None;
    }
    let mut out = Vec::new();
    for (k, [x, y]) in points.iter().enumerate() {
        let x = reader.length(&format!("{at}/{k}/0"), x, Range::Any);
        let y = reader.length(&format!("{at}/{k}/1"), y, Range::Any);
        out.push(x.zip(y).map(|(x, y)| DVec2::new(x, y)));
    }
    let c = Contour::polygon(out.into_iter().collect::<Option<Vec<_>>>()?, 0).outward();
    if c.area() < 1.0 || first_crossing(&c).is_some() || c.bounds().size().max_element() > LARGEST {
        let message = "the outline crosses itself, has no size, or is larger than 3 m";
        reader.refuse(at, "", message, "check the order of its corners, and the unit");
        return None;
    }
    Some(c)
}

/// A section by its outline, whose box has its middle at the origin.
pub fn own_section(name: &str, outer: Contour, holes: Vec<Contour>, source: &str) -> Section {
    let shape = Shape::Own { outer, holes };
    Section {
        designation: name.into(),
        shape,
        series: None,
        source: source.into(),
        mass: None,
        area: None,
        inertia: None,
        design_wall: None,
    }
}

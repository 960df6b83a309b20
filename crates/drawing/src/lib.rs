//! Drawings as plain marks on paper: millimetres, x right, y down. Knows nothing of the file formats that
//! carry them.

mod at_the_tools;
mod bar_plan;
mod bend_sheet;
mod check_sheet;
pub mod dimensioned;
mod flat;
mod formed;
mod hatching;
mod hole_marks;
mod hole_sheet;
pub mod labels;
mod section;
mod sizes;
mod template;
pub mod views;
mod wrapped;

use std::sync::Arc;

use glam::{DVec2, Vec2Swizzles};

use ground::geom::Contour;

pub use at_the_tools::at_the_tools;
pub use bar_plan::bar_plan;
pub use bend_sheet::bend_sheet;
pub use check_sheet::{CheckHead, check_sheet};
pub use flat::flat_drawing;
pub use formed::{facets, formed_drawing, formed_sketch, picture};
pub use hole_marks::text_box;
pub use hole_sheet::hole_sheet;
pub use section::section;
pub use template::{Paper, Printed, measured_line, template, template_for};

/// How a line is drawn. Style, never colour alone, tells them apart.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Pen {
    /// Cut through.
    Cut,
    /// Bend up: dash-dot.
    BendUp,
    /// Bend down: long dashes.
    BendDown,
    /// Dimensions, crop marks, frames.
    Hair,
    /// Helping lines: short dashes.
    Faint,
    /// Edges that are seen.
    Edge,
    /// Edges behind others: dashes.
    Hidden,
    /// Middle lines, and where a section is taken: long dashes and dots.
    Centre,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Anchor {
    Start,
    Middle,
    End,
}

#[derive(Clone, Debug, PartialEq)]
pub enum Item {
    Line {
        a: DVec2,
        b: DVec2,
        pen: Pen,
    },
    /// Open, of straight sides.
    Path {
        points: Vec<DVec2>,
        pen: Pen,
    },
    /// Closed, arcs kept; several loops fill even-odd.
    Shape {
        loops: Vec<Contour>,
        pen: Pen,
        filled: bool,
    },
    /// A shaded facet, 0 dark to 1 light.
    Facet {
        points: Vec<DVec2>,
        shade: f64,
    },
    /// Baseline at `at`; `turn` in degrees clockwise.
    Text {
        at: DVec2,
        text: String,
        size: f64,
        anchor: Anchor,
        turn: f64,
        bold: bool,
    },
    /// Kept as it is, as large as it fits, at the left of its room.
    Picture {
        min: DVec2,
        max: DVec2,
        picture: Picture,
    },
    /// Items seen through a window.
    Window {
        min: DVec2,
        max: DVec2,
        items: Vec<Item>,
    },
    /// Items drawn so many times as large across and down.
    Scaled {
        by: DVec2,
        items: Vec<Item>,
    },
}

impl Item {
    pub fn text(at: DVec2, text: impl Into<String>, size: f64, anchor: Anchor) -> Self {
        Item::Text { at, text: text.into(), size, anchor, turn: 0.0, bold: false }
    }

    /// Set smaller where it has more letters than its room holds: nothing is cut off.
    pub fn fitted(at: DVec2, text: impl Into<String>, size: f64, most: usize, anchor: Anchor) -> Self {
        let text = text.into();
        let letters = text.chars().count().max(1);
        Item::text(at, text, size * (most as f64 / letters as f64).min(1.0), anchor)
    }

    pub fn bold(self) -> Self {
        match self {
            Item::Text { at, text, size, anchor, turn, .. } => {
                Item::Text { at, text, size, anchor, turn, bold: true }
            }
            other => other,
        }
    }

    pub fn line(a: DVec2, b: DVec2, pen: Pen) -> Self {
        Item::Line { a, b, pen }
    }

    pub fn frame(min: DVec2, max: DVec2, pen: Pen) -> Self {
        Item::Shape { loops: vec![Contour::rectangle(min, max, 0)], pen, filled: false }
    }
}

/// A PNG or JPEG, as its bytes stand.
#[derive(Clone, PartialEq)]
pub struct Picture {
    /// `image/png` or `image/jpeg`.
    pub mime: &'static str,
    pub bytes: Arc<[u8]>,
}

impl std::fmt::Debug for Picture {
    fn fmt(&self, f: &mut std::fmt::Formatter) -> std::fmt::Result {
        write!(f, "{} of {} bytes", self.mime, self.bytes.len())
    }
}

/// A sheet of paper.
#[derive(Clone, Debug, PartialEq)]
pub struct Drawing {
    pub size: DVec2,
    pub title: String,
    pub items: Vec<Item>,
}

/// Flat coordinates (y up) to paper (y down): scaled, then moved.
#[derive(Clone, Copy, Debug)]
pub struct ToPaper {
    pub scale: f64,
    pub shift: DVec2,
}

impl Drawing {
    /// A page that was laid out for A4 lying down, on another paper: as large as it fits, in the middle.
    pub fn on(self, paper: Paper) -> Drawing {
        let size = paper.size().yx();
        let scale = (size / self.size).min_element();
        let shift = (size - self.size * scale) / 2.0;
        if paper == Paper::A4 {
            return self;
        }
        let items = self.items.into_iter().map(|i| i.scaled(scale, shift)).collect();
        Drawing { size, items, ..self }
    }
}

impl Item {
    /// The same further on.
    pub fn moved(self, by: DVec2) -> Item {
        self.scaled(1.0, by)
    }

    pub(crate) fn scaled(self, scale: f64, shift: DVec2) -> Item {
        let at = |p: DVec2| p * scale + shift;
        match self {
            Item::Line { a, b, pen } => Item::Line { a: at(a), b: at(b), pen },
            Item::Shape { mut loops, pen, filled } => {
                loops.iter_mut().flat_map(|l| &mut l.vertices).for_each(|v| v.p = at(v.p));
                Item::Shape { loops, pen, filled }
            }
            Item::Path { points, pen } => Item::Path { points: points.into_iter().map(at).collect(), pen },
            Item::Facet { points, shade } => {
                Item::Facet { points: points.into_iter().map(at).collect(), shade }
            }
            Item::Text { at: p, text, size, anchor, turn, bold } => {
                Item::Text { at: at(p), text, size: size * scale, anchor, turn, bold }
            }
            Item::Picture { min, max, picture } => Item::Picture { min: at(min), max: at(max), picture },
            Item::Window { min, max, items } => Item::Window {
                min: at(min),
                max: at(max),
                items: items.into_iter().map(|i| i.scaled(scale, shift)).collect(),
            },
            // Its own scale comes after: the shift is told in what it is drawn in.
            Item::Scaled { by, items } => {
                Item::Scaled { by, items: items.into_iter().map(|i| i.scaled(scale, shift / by)).collect() }
            }
        }
    }
}

impl ToPaper {
    pub fn point(&self, p: DVec2) -> DVec2 {
        DVec2::new(p.x, -p.y) * self.scale + self.shift
    }

    pub fn contour(&self, c: &Contour) -> Contour {
        let mut out = c.clone();
        for v in &mut out.vertices {
            v.p = self.point(v.p);
            v.bulge = -v.bulge;
        }
        out
    }
}

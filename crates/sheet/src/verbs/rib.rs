//! `rib`: a stiffening rib pressed into a bend from the outside, or a bead along a panel. The blank keeps its
//! size.

use ground::geom::ROUNDING;
use std::f64::consts::PI;

use glam::DVec2;
use grammar::*;
use ground::geom::Contour;
use ground::quantity::Display;
use ground::reader::{Range, Reader};
use shop::bend::setback;

use super::bending::UP_DOWN;
use crate::choices::Direction;
use crate::flat::bends::BendFact;
use crate::flat::feature::Feature;
use crate::flat::pressed::Pressed;
use crate::flat::shape::upright;
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;
use crate::formed::zones::Zone;

pub static VERB: Verb = Verb {
    tag: "rib",
    stem: "rib",
    about: "A stiffening rib pressed into a bend from the outside, or a bead along a panel.",
    role: Role::Cut,
    starts: &[Start {
        key: 'i',
        name: "rib",
        mm: "rib $bend 15 deep, 9 wide, at 30, 50 long",
        inch: "rib $bend 5/8 deep, 3/8 wide, at 1, 2 long",
    }],
    offers: &[
        Offer {
            on: "bend",
            words: "Press a stiffening rib into it",
            mm: "rib $this 15 deep, 9 wide, at 30",
            inch: "rib $this 5/8 deep, 3/8 wide, at 1",
        },
        Offer {
            on: "zone",
            words: "Press a bead along it",
            mm: "rib $this 3 deep, 9 wide, at 30, 50 long",
            inch: "rib $this 1/8 deep, 3/8 wide, at 1, 2 long",
        },
    ],
    sentence: &[
        verb("Press a rib on|rib|rib on"),
        name("/on", "bend or panel", Kind::Zone),
        quiet("/shape", "shape of the rib", &[("round", "round"), ("flat", "flat-topped|flat")]),
        must(&[length("/depth", "depth"), word("deep")]),
        also(&[word("deep|depth"), length("/depth", "depth")]),
        must(&[length("/width", "width"), word("wide")]),
        also(&[word("wide"), length("/width", "width")]),
        must(&[
            word("at"),
            length("/offset", "offset"),
            quiet(
                "/from",
                "end of the bend",
                &[
                    ("left", "from its left end or its fold|from left"),
                    ("right", "from its right end|from right"),
                    ("west", "from its west end|from west"),
                    ("east", "from its east end|from east"),
                    ("south", "from its south end|from south"),
                    ("north", "from its north end|from north"),
                ],
            ),
        ]),
        clause(&[length_or("/length", "length", "as the bend needs"), word("long")]),
        also(&[word("long"), length("/length", "length")]),
        clause(&[pick("/direction", "side", UP_DOWN)]),
        clause(&[word("draft"), angle_or("/draft", "draft", "none")]),
        clause(&[
            word("corners inside|inner"),
            radius_or("/inner_radius", "inner corner radius", "as thick"),
        ]),
        clause(&[word("outside|outer"), radius_or("/outer_radius", "outer corner radius", "as thick")]),
    ],
    examples: &[
        "rib fold-1.north.bend, 15 deep, 8 wide, at 30 from west",
        "rib panel flat, 3 deep, 16 wide, at 90, 200 long, down",
    ],
};

word! {
    /// The end of its bend that a rib is told from. Left and right are seen from the panel that the bend
    /// folds away from; the others are the flat's, whichever way the bend is made.
    pub enum RibEnd {
        #[default]
        Left,
        Right,
        West,
        East,
        South,
        North,
    }
}

impl RibEnd {
    pub fn is_left(&self) -> bool {
        *self == RibEnd::Left
    }
}

word! {
    pub enum RibShape {
        #[default]
        Round,
        Flat,
    }
}

spoken! {
    /// A stiffening rib pressed into a bend from the outside, or a bead along a panel. The blank keeps its
    /// size.
    pub struct Rib {
        /// Name of a bend; or of a panel, for a bead along it.
        pub on: String,
        pub shape: RibShape,
        /// How deep it is pressed; for a rib, from the virtual sharp along each leg.
        pub depth: String,
        pub width: String,
        /// For a rib: from an end of the bend to its middle. For a bead: from the south or fold side.
        pub offset: String,
        /// For a rib: which end.
        #[serde(skip_serializing_if = "RibEnd::is_left")]
        pub from: RibEnd,
        /// For a bead: its length, in the middle of the panel.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub length: String,
        /// For a bead: the side it stands out on. A rib stands into its bend.
        pub direction: Direction,
        /// Slope of its sides off square; empty means none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub draft: String,
        /// Radii of its inner and outer corners; empty means the thickness.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub inner_radius: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub outer_radius: String,
    }
}

/// A rib or a bead, read: which of them it is, what it lies on tells.
struct RibSpec {
    on: String,
    flat: bool,
    depth: f64,
    width: f64,
    offset: f64,
    from: RibEnd,
    /// Of a bead; none where it is not told.
    length: Option<f64>,
    up: bool,
    draft: f64,
    inner: f64,
    outer: f64,
}

impl Spoken for Rib {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let depth = reader.length("/say/depth", &self.depth, Range::AboveZero);
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        let offset = reader.length("/say/offset", &self.offset, Range::ZeroUp);
        let length = reader.length_if("/say/length", &self.length, Range::AboveZero);
        let draft = reader.angle_or("/say/draft", &self.draft, 0.0);
        let inner = reader.length_or("/say/inner_radius", &self.inner_radius, Range::ZeroUp, stock.t);
        let outer = reader.length_or("/say/outer_radius", &self.outer_radius, Range::ZeroUp, stock.t);
        let draft = draft?;
        if !(0.0..PI / 4.0 + ROUNDING).contains(&draft) {
            reader.refuse_at("/say/draft", "a draft lies between 0° and 45°", "write a smaller angle");
            return None;
        }
        Some(Spec::Cuts(Box::new(RibSpec {
            on: self.on.clone(),
            flat: self.shape == RibShape::Flat,
            depth: depth?,
            width: width?,
            offset: offset?,
            from: self.from,
            length: length?,
            up: self.direction == Direction::Up,
            draft,
            inner: inner?,
            outer: outer?,
        })))
    }
}

impl Cuts for RibSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let blank = standing.blank;
        let on = |b: &&BendFact| (b.name == self.on || b.label == self.on) && !b.rolled;
        let (contour, centre, pressed) = match blank.bends.iter().find(on) {
            Some(bend) => self.across(turn, bend, &blank.zones[bend.zone])?,
            None => match blank.zones.iter().find(|z| z.name == self.on && z.is_panel()) {
                Some(panel) => self.along(turn, panel)?,
                None => {
                    let bends = blank.bends.iter().map(|b| b.name.as_str());
                    let panels = blank.zones.iter().filter(|z| z.is_panel()).map(|z| z.name.as_str());
                    let known: Vec<&str> = bends.chain(panels).take(12).collect();
                    turn.tell.refuse_at(
                        "/say/on",
                        format!("no bend or panel is called '{}'", self.on),
                        format!("pick from {}", known.join(", ")),
                    );
                    return None;
                }
            },
        };
        let (at, field) = (turn.at, blank.outer.bounds());
        let footprint = Feature::cut(at.line.into(), at.index, contour, centre, self.width, field);
        Some(vec![Feature { pressed: Some(pressed), ..footprint }])
    }

    fn mark(&self, display: &Display, pressed: Option<&Pressed>) -> Option<String> {
        pressed.map(|p| p.mark(display))
    }
}

impl RibSpec {
    /// A rib across a bend: its footprint, its middle, and what is pressed.
    fn across(&self, turn: &mut Turn, bend: &BendFact, zone: &Zone) -> Option<(Contour, DVec2, Pressed)> {
        let &RibSpec { flat, depth, width, draft, inner, outer, .. } = self;
        let leg = depth - setback(bend.radius, bend.angle);
        if leg <= 0.0 {
            let least = turn.tell.display.length_unit(setback(bend.radius, bend.angle));
            turn.tell.refuse_at(
                "/say/depth",
                "the rib does not reach past the bend's own radius",
                format!("write more than {least}"),
            );
            return None;
        }
        let (low, high) = zone.span_at(bend.allowance.length / 2.0)?;
        if self.offset > high - low {
            turn.tell.refuse_at(
                "/say/offset",
                "the rib lies beyond the end of its bend",
                "write a smaller distance",
            );
            return None;
        }
        let long = bend.allowance.length + 2.0 * leg;
        let left = zone.along.perp();
        let across = if self.at_left(turn, left)? { high - self.offset } else { low + self.offset };
        let centre = zone.origin + zone.along * (bend.allowance.length / 2.0) + left * across;
        // A round rib narrows to its ends; a flat one is cut square.
        let shape = if flat || long <= width {
            upright(long, width)
        } else {
            Contour::slot(DVec2::ZERO, long, width, 0)
        };
        let pressed = Pressed::Rib { bend: bend.name.clone(), flat, depth, width, draft, inner, outer };
        Some((shape.moved(zone.along.to_angle(), centre), centre, pressed))
    }

    /// Whether it is told from the end of its bend that lies in this direction of the flat.
    fn at_left(&self, turn: &mut Turn, left: DVec2) -> Option<bool> {
        let towards = match self.from {
            RibEnd::Left => return Some(true),
            RibEnd::Right => return Some(false),
            RibEnd::West => -DVec2::X,
            RibEnd::East => DVec2::X,
            RibEnd::South => -DVec2::Y,
            RibEnd::North => DVec2::Y,
        };
        let share = left.dot(towards);
        if share.abs() >= 1e-3 {
            return Some(share > 0.0);
        }
        let (runs, ends) = if left.x.abs() > left.y.abs() {
            ("west to east", "west or east")
        } else {
            ("south to north", "south or north")
        };
        turn.tell.refuse_at(
            "/say/from",
            format!("this bend runs from {runs}"),
            format!("pick {ends}, or left or right"),
        );
        None
    }

    /// A bead along a panel: along the fold of a folded one, west to east on the start.
    fn along(&self, turn: &mut Turn, zone: &Zone) -> Option<(Contour, DVec2, Pressed)> {
        let &RibSpec { flat, depth, width, up, .. } = self;
        let Some(length) = self.length else {
            turn.tell.refuse_at("/say/length", "a bead has a length", "write how long it is, such as 80");
            return None;
        };
        if length <= width {
            turn.tell.refuse_at("/say/length", "a bead is longer than it is wide", "write a greater length");
            return None;
        }
        let (right, ahead) =
            if zone.parent.is_some() { (zone.right(), zone.along) } else { (DVec2::X, DVec2::Y) };
        let spread = |d: DVec2| {
            let ends = (f64::INFINITY, f64::NEG_INFINITY);
            zone.region.iter().map(|p| p.dot(d)).fold(ends, |(l, h), v| (l.min(v), h.max(v)))
        };
        let (x, y) = (spread(right), spread(ahead));
        let centre = right * ((x.0 + x.1) / 2.0) + ahead * (y.0 + self.offset);
        let shape = Contour::slot(DVec2::ZERO, length, width, 0).moved(right.to_angle(), centre);
        Some((shape, centre, Pressed::Bead { flat, depth, width, length, up }))
    }
}

//! `ring`, `sector`, `L-shape`, `two-bolt flange` …: outlines that shops make often, some with their holes.

use glam::DVec2;
use grammar::*;
use ground::geom::{Bounds, COINCIDENT, Contour};
use ground::reader::Reader;
use ground::reference;

use super::shape::Shape;
use super::sizes::Sizes;
use crate::flat::blank::{Blank, outline_of};
use crate::flat::feature::Feature;
use crate::flat::outlines;
use crate::flat::shape::ShapeSpec;
use crate::flat::spec::{At, Begins, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "start_shape",
    stem: "start",
    about: "Starts a piece with a common outline: disc, ring, sector, L, T, gusset, D, bolted flange, \
        keyhole plate.",
    role: Role::Start,
    starts: &[],
    offers: &[],
    sentence: &[beginning("/shape", "kind", "outline", SHAPES)],
    examples: &[
        "disc ⌀160",
        "ring ⌀200, hole ⌀120",
        "sector R150 to R90, 120°",
        "L-shape 120 x 80, legs 30 and 20 wide",
        "T-shape 140 x 100, flange 20, web 15",
        "gusset 120 x 100, snipped 15, tips 10",
        "D-plate ⌀100, 80 across",
        "rounded bar 180 x 40",
        "two-bolt flange ⌀80, ends R18, bolts ⌀11 at 110, bore ⌀50",
        "four-bolt flange 140, corners R20, bolts ⌀14 at 100, bore ⌀60",
        "keyhole plate 160 x 60, corners R6, keyholes ⌀14, slot 7, 16 long, at 100",
    ],
};

const SHAPES: &[Case] = &[
    case("disc", "Start with a disc|disc", &[diameter("/diameter", "diameter")], ["160", "6"]),
    case(
        "ring",
        "Start with a ring|ring",
        &[
            diameter("/diameter", "outside diameter"),
            sign(","),
            printed("hole"),
            diameter("/hole", "inside diameter"),
        ],
        ["200, hole ⌀120", "8, hole ⌀5"],
    ),
    case(
        "sector",
        "Start with a sector|sector",
        &[
            radius("/outer", "outer radius"),
            aside(&[word("to"), radius_or("/inner", "inner radius", "the middle")]),
            must(&[angle("/angle", "angle")]),
        ],
        ["R150, 90°", "R6, 90°"],
    ),
    case(
        "angle",
        "Start with an L|L-shape",
        &[
            length("/width", "width"),
            times(),
            length("/height", "height"),
            sign(","),
            word("legs"),
            length("/lower", "width of the lower leg"),
            word("and"),
            length("/upright", "width of the upright leg"),
            printed("wide"),
        ],
        ["120 x 80, legs 30 and 20 wide", "5 x 3, legs 1 and 3/4 wide"],
    ),
    case(
        "tee",
        "Start with a T|T-shape",
        &[
            length("/width", "width"),
            times(),
            length("/height", "height"),
            sign(","),
            word("flange"),
            length("/flange", "height of the flange"),
            sign(","),
            word("web"),
            length("/web", "width of the web"),
        ],
        ["140 x 100, flange 20, web 15", "6 x 4, flange 3/4, web 5/8"],
    ),
    case(
        "gusset",
        "Start with a gusset|gusset",
        &[
            length("/width", "width"),
            times(),
            length("/height", "height"),
            clause(&[word("snipped"), length_or("/snip", "snip of the corner", "not")]),
            clause(&[word("tips"), length_or("/tip", "width of its tips", "sharp")]),
        ],
        ["120 x 100, snipped 15, tips 10", "5 x 4, snipped 5/8, tips 3/8"],
    ),
    case(
        "d",
        "Start with a D|D-plate",
        &[
            diameter("/diameter", "diameter"),
            sign(","),
            length("/across", "across the flat"),
            printed("across the flat|across|flat"),
        ],
        ["100, 80 across", "4, 3 across"],
    ),
    case(
        "bar",
        "Start with a rounded bar|rounded bar",
        &[length("/length", "length"), times(), length("/width", "width")],
        ["180 x 40", "7 x 1 1/2"],
    ),
    case(
        "two_bolt",
        "Start with a two-bolt flange|two-bolt flange",
        &[
            diameter("/diameter", "diameter of the middle"),
            sign(","),
            word("ends"),
            radius("/end", "radius of the ends"),
            sign(","),
            word("bolts"),
            diameter("/bolt", "bolt hole"),
            word("at"),
            length("/centres", "bolt centres"),
            clause(&[word("bore"), diameter_or("/bore", "bore", "none")]),
        ],
        ["80, ends R18, bolts ⌀11 at 110, bore ⌀50", "3, ends R3/4, bolts ⌀7/16 at 4 1/2, bore ⌀2"],
    ),
    case(
        "four_bolt",
        "Start with a four-bolt flange|four-bolt flange",
        &[
            length("/side", "side"),
            clause(&[word("corners"), radius_or("/corner", "corner radius", "sharp")]),
            must(&[
                word("bolts"),
                diameter("/bolt", "bolt hole"),
                word("at"),
                length("/centres", "bolt centres along a side"),
            ]),
            clause(&[word("bore"), diameter_or("/bore", "bore", "none")]),
        ],
        ["140, corners R20, bolts ⌀14 at 100, bore ⌀60", "5, corners R3/4, bolts ⌀1/2 at 3 1/2, bore ⌀2"],
    ),
    case(
        "keyholed",
        "Start with a keyhole plate|keyhole plate",
        &[
            length("/width", "width"),
            times(),
            length("/height", "height"),
            clause(&[word("corners"), radius_or("/corner", "corner radius", "sharp")]),
            must(&[
                word("keyholes"),
                diameter("/entry", "entry diameter"),
                sign(","),
                word("slot"),
                length("/slot", "slot width"),
                sign(","),
                length("/length", "length of the slot"),
                printed("long"),
            ]),
            clause(&[word("at"), length_or("/centres", "centres of two keyholes", "one")]),
        ],
        [
            "160 x 60, corners R6, keyholes ⌀14, slot 7, 16 long, at 100",
            "6 x 2 1/2, corners R1/4, keyholes ⌀9/16, slot 1/4, 5/8 long, at 4",
        ],
    ),
];

choice! {
    /// A common outline.
    pub enum CommonShape by "kind" {
        Disc {
            #[serde(default)]
            diameter: String,
        },
        Ring { diameter: String, hole: String },
        Sector {
            outer: String,
            /// Empty for a piece of a disc.
            #[serde(default, skip_serializing_if = "String::is_empty")]
            inner: String,
            #[serde(default)]
            angle: String,
        },
        /// Two legs that meet in the south-west.
        Angle { width: String, height: String, lower: String, upright: String },
        /// A flange to the north.
        Tee { width: String, height: String, flange: String, web: String },
        /// A right angle in the south-west.
        Gusset {
            width: String,
            height: String,
            #[serde(default, skip_serializing_if = "String::is_empty")]
            snip: String,
            #[serde(default, skip_serializing_if = "String::is_empty")]
            tip: String,
        },
        D { diameter: String, across: String },
        Bar { length: String, width: String },
        TwoBolt {
            diameter: String,
            end: String,
            bolt: String,
            centres: String,
            #[serde(default, skip_serializing_if = "String::is_empty")]
            bore: String,
        },
        FourBolt {
            side: String,
            #[serde(default, skip_serializing_if = "String::is_empty")]
            corner: String,
            #[serde(default)]
            bolt: String,
            #[serde(default)]
            centres: String,
            #[serde(default, skip_serializing_if = "String::is_empty")]
            bore: String,
        },
        /// Hangs on screws: one keyhole in the middle, or two on its middle line, their slots to the north.
        Keyholed {
            width: String,
            height: String,
            #[serde(default, skip_serializing_if = "String::is_empty")]
            corner: String,
            #[serde(default)]
            entry: String,
            #[serde(default)]
            slot: String,
            /// From the middle of the entry to the end of the slot.
            #[serde(default)]
            length: String,
            /// Empty for one.
            #[serde(default, skip_serializing_if = "String::is_empty")]
            centres: String,
        },
    }
}

impl Default for CommonShape {
    fn default() -> Self {
        CommonShape::Disc { diameter: String::new() }
    }
}

spoken! {
    /// A common outline, some with their holes.
    pub struct StartShape {
        pub shape: CommonShape,
    }
}

struct ShapeStart {
    outer: Contour,
    /// Name within the line, middle, shape.
    holes: Vec<(String, DVec2, ShapeSpec)>,
}

impl Spoken for StartShape {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let made = Sizes { reader }.read(&self.shape)?;
        Some(Spec::Start(Box::new(made)))
    }
}

impl Begins for ShapeStart {
    fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        Some(outline_of(turn.at.line, &self.outer))
    }

    fn cuts(&self, at: At, field: Bounds) -> Vec<Feature> {
        let hole = |(name, middle, shape): &(String, DVec2, ShapeSpec)| {
            let contour = shape.contour().moved(0.0, *middle);
            Feature::cut(reference::part(at.line, name), at.index, contour, *middle, shape.least(), field)
        };
        self.holes.iter().map(hole).collect()
    }
}

impl Sizes<'_, '_> {
    fn read(&mut self, shape: &CommonShape) -> Option<ShapeStart> {
        let bare = |outer: Contour| ShapeStart { outer, holes: Vec::new() };
        let of = |shape: ShapeSpec| bare(shape.contour());
        Some(match shape {
            CommonShape::Disc { diameter } => {
                of(ShapeSpec::Round { diameter: self.size("diameter", diameter)? })
            }
            CommonShape::Ring { diameter, hole } => {
                let (d, hole) = (self.size("diameter", diameter), self.size("hole", hole));
                let d = d?;
                let hole = self.below("hole", hole?, d, "the ring")?;
                let holes = vec![("hole".into(), DVec2::ZERO, ShapeSpec::Round { diameter: hole })];
                ShapeStart { holes, ..of(ShapeSpec::Round { diameter: d }) }
            }
            CommonShape::Sector { outer, inner, angle } => {
                let (outer, inner) = (self.size("outer", outer), self.size_or("inner", inner));
                let angle = self.reader.angle("/say/shape/angle", angle);
                let (outer, angle) = (outer?, angle?);
                let inner = self.below("inner", inner?, outer, "the sector")?;
                if !(outlines::SECTOR.0..=outlines::SECTOR.1).contains(&angle) {
                    let mend = "write an angle above 0° and below 360°, or start with a ring";
                    return self.refuse("angle", "no sector has this angle", mend);
                }
                bare(outlines::sector(outer, inner, angle))
            }
            CommonShape::Angle { width, height, lower, upright } => {
                let [w, h] = self.box_of(width, height)?;
                let (lower, upright) = (self.size("lower", lower), self.size("upright", upright));
                let lower = self.below("lower", lower?, h, "the upright leg")?;
                let upright = self.below("upright", upright?, w, "the lower leg")?;
                bare(outlines::angle(w, h, lower, upright))
            }
            CommonShape::Tee { width, height, flange, web } => {
                let [w, h] = self.box_of(width, height)?;
                let (flange, web) = (self.size("flange", flange), self.size("web", web));
                let flange = self.below("flange", flange?, h, "the web")?;
                let web = self.below("web", web?, w, "the flange")?;
                bare(outlines::tee(w, h, flange, web))
            }
            CommonShape::Gusset { width, height, snip, tip } => {
                let [w, h] = self.box_of(width, height)?;
                let (snip, tip) = (self.size_or("snip", snip), self.size_or("tip", tip));
                let least = w.min(h);
                let tip = self.below("tip", tip?, least, "the slope")?;
                let snip = self.below("snip", snip?, least, "its sides")?;
                // The corner that is left must stand clear of the slope.
                let on_slope = |x: f64, y: f64| (x - tip) / (w - tip) + (y - tip) / (h - tip);
                if on_slope(snip, 0.0) >= 1.0 || on_slope(0.0, snip) >= 1.0 {
                    return self.refuse("snip", "the snip reaches the slope", "write a smaller snip");
                }
                bare(outlines::right_triangle(w, h, snip, tip))
            }
            CommonShape::D { diameter, across } => {
                let (d, across) = (self.size("diameter", diameter), self.size("across", across));
                let d = d?;
                let across = self.below("across", across?, d, "the flat")?;
                if across <= d / 2.0 {
                    let mend = "write more than half the diameter";
                    return self.refuse("across", "the flat cuts half or more off the circle", mend);
                }
                of(ShapeSpec::D { diameter: d, across })
            }
            CommonShape::Bar { length, width } => {
                let (length, width) = (self.size("length", length), self.size("width", width));
                let length = length?;
                let width = self.below("width", width?, length, "its straight sides")?;
                of(ShapeSpec::Slot { told: length, width, centres: false })
            }
            CommonShape::TwoBolt { diameter, end, bolt, centres, bore } => {
                let (d, end) = (self.size("diameter", diameter), self.size("end", end));
                let (centres, bolts) = (self.size("centres", centres), self.size("bolt", bolt));
                let bore = self.size_or("bore", bore);
                let (d, end, centres) = (d?, end?, centres?);
                if !outlines::is_two_bolt(d / 2.0, end, centres) {
                    let mend = "write ends no rounder than the middle, and centres that stand out of it";
                    return self.refuse("end", "the ends do not stand out of the middle", mend);
                }
                let bolt = self.below("bolt", bolts?, 2.0 * end, "the ends")?;
                let bore = self.below("bore", bore?, d, "the middle")?;
                let at = DVec2::X * (centres / 2.0);
                let holes = with_bore(bore, [-at, at].into_iter(), bolt);
                ShapeStart { outer: outlines::two_bolt(d / 2.0, end, centres), holes }
            }
            CommonShape::FourBolt { side, corner, bolt, centres, bore } => {
                let (side, corner) = (self.size("side", side), self.size_or("corner", corner));
                let (centres, bolts) = (self.size("centres", centres), self.size("bolt", bolt));
                let bore = self.size_or("bore", bore);
                let side = side?;
                let corner = self.below("corner", corner?, side / 2.0 + 2.0 * COINCIDENT, "the sides")?;
                let bolt = bolts?;
                let centres = self.below("centres", centres?, side - bolt, "the edge")?;
                let bore = self.below("bore", bore?, side, "the flange")?;
                let h = centres / 2.0;
                let at = [(-h, -h), (h, -h), (h, h), (-h, h)].map(|p| DVec2::new(p.0, p.1));
                let outer = ShapeSpec::Square { side, corner }.contour();
                ShapeStart { outer, holes: with_bore(bore, at.into_iter(), bolt) }
            }
            CommonShape::Keyholed { width, height, corner, entry, slot, length, centres } => {
                let [w, h] = self.box_of(width, height)?;
                let corner = self.size_or("corner", corner);
                let (entry, slot, length) = (entry.clone(), slot.clone(), length.clone());
                let keyhole = Shape::Keyhole { entry, slot, length }.read(self.reader, "/say/shape")?;
                let size = keyhole.contour().bounds();
                let centres = self.size_or("centres", centres)?;
                let corner = self.below("corner", corner?, w.min(h) / 2.0 + 2.0 * COINCIDENT, "the sides")?;
                self.below("length", size.size().y, h, "the plate")?;
                self.below("centres", centres + size.size().x, w, "its ends")?;
                let at = DVec2::new(0.0, -size.centre().y);
                let places: &[f64] = if centres > COINCIDENT { &[-0.5, 0.5] } else { &[0.0] };
                let holes = places.iter().zip(1..).map(|(share, n)| {
                    (format!("keyhole-{n}"), at + DVec2::X * (centres * share), keyhole.clone())
                });
                let outer = ShapeSpec::Rectangle { width: w, height: h, corner }.contour();
                ShapeStart { outer, holes: holes.collect() }
            }
        })
    }
}

fn with_bore(bore: f64, bolts: impl Iterator<Item = DVec2>, bolt: f64) -> Vec<(String, DVec2, ShapeSpec)> {
    let round = |diameter| ShapeSpec::Round { diameter };
    let middle = (bore > COINCIDENT).then(|| ("bore".to_string(), DVec2::ZERO, round(bore)));
    let bolts = bolts.enumerate().map(|(k, at)| (format!("bolt-{}", k + 1), at, round(bolt)));
    middle.into_iter().chain(bolts).collect()
}

//! `pad`: a block or pad laid on a face: a piece of its own, with its place.

use grammar::*;
use ground::quantity::Display;
use ground::reader::Reader;
use shop::thickness;

use super::drill::DrillSide;
use super::place::{PLACE, Place};
use super::shape::{LAID, Shape};
use crate::flat::feature::Feature;
use crate::flat::place::PlaceSpec;
use crate::flat::pressed::Pressed;
use crate::flat::shape::ShapeSpec;
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "pad",
    stem: "pad",
    about: "Lays a pad or block on a face: a piece of its own, of its own thickness and material, counted in \
        the list.",
    role: Role::Cut,
    starts: &[Start {
        key: 'p',
        name: "pad",
        mm: "pad rectangle 60 x 40, 10 thick",
        inch: "pad rectangle 2 1/2 x 1 1/2, 3/8 thick",
    }],
    offers: &[Offer {
        on: "panel",
        words: "Lay a pad here",
        mm: "pad rectangle 60 x 40, 10 thick $place",
        inch: "pad rectangle 2 1/2 x 1 1/2, 3/8 thick $place",
    }],
    sentence: &[
        verb("Lay a pad|pad|block"),
        union("/shape", "kind", "shape of the pad", LAID),
        sign(","),
        Slot::new("/thickness", "thickness of the pad", Kind::Thickness).part(),
        word("thick"),
        clause(&[
            word("of"),
            Slot::new("/material", "material of the pad", Kind::Material).empty("the same").part(),
        ]),
        SIDE_LAID,
        Part::Within("/place", PLACE),
    ],
    examples: &[
        "pad rectangle 60 x 40, 10 thick, 20 from west, 15 from south",
        "pad rectangle 30 x 200, corners R3, 18 thick, of oak, on the back, 0 clear of east",
        "pad disc ⌀50, 16 ga thick",
        "pad outline (0, 0) (30, 0) (30, 20), 6 thick, turned 45°",
    ],
};

/// The face that it lies on.
const SIDE_LAID: Part =
    clause(&[pick("/side", "face", &[("front", "on the front"), ("back", "on the back|on the back|back")])]);

spoken! {
    /// Lays a pad or block on a face.
    pub struct Pad {
        pub thickness: String,
        /// Id of a material; empty for the piece's.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub material: String,
        pub shape: Shape,
        pub side: DrillSide,
        pub place: Place,
    }
}

struct PadSpec {
    pad: Pressed,
    /// The smallest width of its outline.
    least: f64,
    place: PlaceSpec,
}

impl Spoken for Pad {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let material = if self.material.is_empty() {
            stock.shelf.material(&stock.material.id)
        } else {
            stock.shelf.material(&self.material)
        };
        if material.is_none() {
            let message = format!("neither the shop book nor this job has a material '{}'", self.material);
            reader.refuse("/say/material", &self.material, message, stock.shelf.said());
        }
        let shape = self.shape.read(reader, "/say/shape");
        let thickness = thickness(reader, "/say/thickness", &self.thickness, material.as_deref());
        let place = self.place.read(reader, "/say/place");
        let shape = shape?;
        let (outline, least) = (shape.contour(), shape.least());
        let n = |v: f64| reader.display.brief(v);
        let size = match shape {
            ShapeSpec::Outline { ref contour } => {
                let size = contour.bounds().size();
                format!("outline {} × {}", n(size.x), n(size.y))
            }
            ShapeSpec::Slot { width, .. } => {
                format!("round-ended {} × {}", n(outline.bounds().size().x), n(width))
            }
            _ => shape.mark(&reader.display),
        };
        let up = self.side == DrillSide::Front;
        let pad = Pressed::Pad { outline, size, thickness: thickness?.0, material: material?, up };
        Some(Spec::Cuts(Box::new(PadSpec { pad, least, place: place? })))
    }
}

impl Cuts for PadSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let Pressed::Pad { outline, .. } = &self.pad else { return None };
        let spot = self.place.spot(turn.tell, standing)?;
        let set = self.place.set(turn.tell, outline, &spot)?;
        let laid = Feature::set(turn.at.line.into(), turn.at.index, set, self.least);
        Some(vec![Feature { pressed: Some(self.pad.clone()), ..laid }])
    }

    fn mark(&self, display: &Display, pad: Option<&Pressed>) -> Option<String> {
        pad.map(|p| p.mark(display))
    }

    fn place(&self) -> Option<&PlaceSpec> {
        Some(&self.place)
    }
}

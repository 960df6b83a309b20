//! `fill`: fills a panel or a rolled shell with a shape, whole shapes only.

use grammar::*;
use ground::quantity::Display;
use ground::reader::{Range, Reader};

use super::place::flat;
use super::shape::{FILLING, Shape};
use crate::flat::feature::Feature;
use crate::flat::fill::FillSpec;
use crate::flat::pressed::Pressed;
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "fill",
    stem: "fill",
    about: "Fills a panel or a rolled shell with a shape, as many whole ones as there is room for.",
    role: Role::Cut,
    starts: &[Start {
        key: 'g',
        name: "fill",
        mm: "fill square 6, pitch 12, margin 20",
        inch: "fill square 1/4, pitch 1/2, margin 1",
    }],
    offers: &[
        Offer {
            on: "panel",
            words: "Fill it with holes",
            mm: "fill $on square 6, pitch 12, margin 20",
            inch: "fill $on square 1/4, pitch 1/2, margin 1",
        },
        Offer {
            on: "shell",
            words: "Fill it with holes",
            mm: "fill $this square 6, pitch 12, margin 20",
            inch: "fill $this square 1/4, pitch 1/2, margin 1",
        },
    ],
    sentence: &[
        verb("Fill|fill"),
        Slot::new("/on", "filled", Kind::Surface).usual("flat").part(),
        aloud("with"),
        union("/shape", "kind", "shape", FILLING),
        clause(&[pick("/pattern", "pattern", &[("square", "square pattern"), ("staggered", "staggered")])]),
        must(&[word("pitch"), length("/pitch", "pitch")]),
        clause(&[word("across"), length_or("/pitch_across", "pitch across", "the same")]),
        must(&[word("margin"), length("/margin", "margin")]),
        clause(&[word("to bends"), length_or("/bend_margin", "margin to bends", "by rule")]),
        aloud(", whole holes only"),
        clause(&[flag(
            "/light",
            "drawn or light",
            &[("false", "drawn"), ("true", "light: left out of the views|light")],
        )]),
    ],
    examples: &[
        "fill square 6, pitch 12, margin 20",
        "fill panel hole ⌀8, staggered, pitch 12, margin 15, light",
    ],
};

word! {
    pub enum Pattern {
        /// Rows over one another.
        #[default]
        Square,
        /// Every other row half a pitch along.
        Staggered,
    }
}

spoken! {
    /// Fills a panel or a rolled shell with a shape, whole shapes only.
    pub struct Fill {
        pub shape: Shape,
        /// `flat`, or the name of a panel or a rolled zone.
        #[serde(default = "flat")]
        pub on: String,
        pub pattern: Pattern,
        /// Middle to middle, west to east.
        pub pitch: String,
        /// South to north; empty means the same, or for a staggered pattern the height of even triangles.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub pitch_across: String,
        /// From the outline, and from other cuts above this line.
        pub margin: String,
        /// From the tangent lines of bends; empty means what the rules want.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub bend_margin: String,
        /// Left out of the views, never out of figures and files.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub light: bool,
    }
}

impl Spoken for Fill {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let shape = self.shape.read(reader, "/say/shape");
        let pitch = reader.length("/say/pitch", &self.pitch, Range::AboveZero);
        let across = reader.length_if("/say/pitch_across", &self.pitch_across, Range::AboveZero);
        let margin = reader.length("/say/margin", &self.margin, Range::ZeroUp);
        let to_bend = reader.length_if("/say/bend_margin", &self.bend_margin, Range::ZeroUp);
        Some(Spec::Cuts(Box::new(FillSpec {
            shape: shape?,
            on: self.on.clone(),
            staggered: self.pattern == Pattern::Staggered,
            pitch: pitch?,
            across: across?,
            margin: margin?,
            to_bend: to_bend?,
            hidden_in_views: self.light,
        })))
    }
}

impl Cuts for FillSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        self.filled(turn, standing)
    }

    fn mark(&self, display: &Display, _: Option<&Pressed>) -> Option<String> {
        Some(self.shape.mark(display))
    }

    fn fills(&self) -> Option<&str> {
        Some(&self.on)
    }
}

//! `mirror`: the same cuts on the other side of a midplane, an edge or a bend.

use glam::DVec2;
use grammar::*;
use ground::geom::COINCIDENT;
use ground::reader::Reader;
use ground::reference;

use super::place::flat;
use super::repeat::Axis;
use crate::flat::bends::BendFact;
use crate::flat::copies::{targets, within_limits};
use crate::flat::feature::Feature;
use crate::flat::place::field;
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "mirror",
    stem: "mirror",
    about: "The same cuts on the other side of the middle of a panel, or of an edge or a bend.",
    role: Role::Cut,
    starts: &[Start { key: 'm', name: "mirror", mm: "mirror $cut, east", inch: "mirror $cut, east" }],
    offers: &[
        Offer {
            on: "hole",
            words: "Mirror {} west to east",
            mm: "mirror $this, east",
            inch: "mirror $this, east",
        },
        Offer {
            on: "hole",
            words: "Mirror {} south to north",
            mm: "mirror $this, north",
            inch: "mirror $this, north",
        },
    ],
    sentence: &[
        verb("Mirror|mirror"),
        names("/of", "cuts mirrored", Kind::Cut),
        sign(","),
        Pick::new(
            "/axis",
            "mirror direction",
            &[("east", "west to east|east"), ("north", "south to north|north")],
        )
        .lacks()
        .part(),
        Clause::new(&[
            word("about|about|across"),
            Slot::new("/about", "mirror about", Kind::About).usual("flat").part(),
        ])
        .part(),
    ],
    examples: &["mirror punch-1, north", "mirror punch-1 and repeat-1, east, about panel"],
};

spoken! {
    /// The same cuts on the other side of a midplane.
    pub struct Mirror {
        pub of: Vec<String>,
        /// The direction that is turned round: `east` swaps west and east. Not used about an edge or a bend.
        pub axis: Axis,
        /// The panel whose middle is the mirror, `flat`, or the name of a straight edge or a bend that is the
        /// mirror itself.
        #[serde(default = "flat")]
        pub about: String,
    }
}

struct MirrorSpec {
    of: Vec<String>,
    axis: Axis,
    about: String,
}

impl Spoken for Mirror {
    fn read(&self, _: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let (of, about) = (self.of.clone(), self.about.clone());
        Some(Spec::Cuts(Box::new(MirrorSpec { of, axis: self.axis, about })))
    }
}

impl MirrorSpec {
    /// A point of the mirror, and the direction square to it.
    fn plane(&self, turn: &mut Turn, standing: &Standing) -> Option<(DVec2, DVec2)> {
        let blank = standing.blank;
        if self.about == "flat" || blank.zones.iter().any(|z| z.name == self.about && z.bend().is_none()) {
            let field = field(turn.tell, "/say/about", &self.about, blank)?;
            return Some((field.centre(), self.axis.unit()));
        }
        let named = |b: &&BendFact| b.name == self.about || b.label == self.about;
        let (a, b) = match blank.bends.iter().find(named) {
            Some(b) => (b.ends[0], b.ends[1]),
            None => blank.edge(turn.tell, "/say/about", &self.about)?,
        };
        Some((a, (b - a).normalize_or_zero().perp()))
    }
}

impl Cuts for MirrorSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let features = targets(turn, &self.of, standing);
        let (middle, across) = self.plane(turn, standing)?;
        let features = features?;
        if !within_limits(turn, "/say/of", &features, 1, standing) {
            return None;
        }
        let at = turn.at;
        let flip = |p: DVec2| p - across * (2.0 * (p - middle).dot(across));
        let again = |f: &Feature| {
            let name = reference::part(at.line, &f.name);
            f.mirrored(name, at.index, middle, across).at_home(standing.blank)
        };
        // What lies on the mirror already would be cut twice.
        Some(features.iter().filter(|f| flip(f.centre).distance(f.centre) > COINCIDENT).map(again).collect())
    }
}

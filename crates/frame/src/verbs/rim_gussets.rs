//! `rim_gussets`: triangular plates under the flanges round an opening.

use std::sync::Arc;

use grammar::*;
use ground::reader::{Range, Reader};
use sheet::smallest_radius;
use shop::Material;

use super::UNDER_FLANGE;
use super::cap::THICK;
use crate::build::gussets::{RimGussets, gussets};
use crate::build::plates::Cutting;
use crate::build::rims::{MOST_HOLES, Rims};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "rim_gussets",
    stem: "gussets",
    about: "Triangular plates under the flanges round an opening, that hold them against their sides.",
    role: Role::Other,
    starts: &[Start {
        key: '8',
        name: "gussets under flanges",
        mm: "gussets under $rim, 30 x 50, 5 thick, 2 a side",
        inch: "gussets under $rim, 1 1/4 x 2, 3/16 thick, 2 a side",
    }],
    offers: &[],
    sentence: &[
        verb("Gussets|gussets"),
        printed("under"),
        name("/under", "line of the flanges", Kind::Line),
        must(&[length("/leg", "along the flange"), times(), length("/leg_2", "down the side")]),
        THICK,
        clause(&[
            Slot::new("/count", "gussets a side", Kind::Count).empty("between the holes").part(),
            word("a side"),
        ]),
        clause(&[word("nose"), length_or("/nose", "nose", "none")]),
        clause(&[word("snipe"), length_or("/snipe", "snipe", "clear of the bend")]),
    ],
    examples: &[
        "gussets under rim-1, 40 x 60, 5 thick, nose 8",
        "gussets under rim-1, 30 x 50, 4 thick, 3 a side, snipe 12",
    ],
};

spoken! {
    /// Triangular plates under the flanges round an opening.
    pub struct RimGussetsSaid {
        /// Line of the flanges.
        pub under: String,
        /// Along the flange, from the corner of its lower face and the side's outer face.
        pub leg: String,
        /// Down the side from there.
        pub leg_2: String,
        pub thickness: String,
        /// On each side, at equal steps; empty for one between every two holes.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub count: String,
        /// Width left at the tips, so that the weld can go round.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub nose: String,
        /// Cut off at the root; empty for as much as the bend takes.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub snipe: String,
    }
}

struct RimGussetsSpec {
    under: String,
    gussets: RimGussets,
    /// Of the sides, as their flanges take their usual radius from it.
    material: Arc<Material>,
}

impl Spoken for RimGussetsSaid {
    fn read(&self, reader: &mut Reader, usual: &Usual) -> Option<Spec> {
        let legs = [("/say/leg", &self.leg), ("/say/leg_2", &self.leg_2)]
            .map(|(path, told)| reader.length(path, told, Range::AboveZero));
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let nose = reader.length_or("/say/nose", &self.nose, Range::ZeroUp, 0.0);
        let snipe = reader.length_if("/say/snipe", &self.snipe, Range::ZeroUp);
        let count = match self.count.trim() {
            "" => None,
            told => Some(reader.count("/say/count", told, 1, MOST_HOLES)?),
        };
        let material = usual.material(reader, "/say/under", "");
        Some(Spec::Plates(Box::new(RimGussetsSpec {
            under: self.under.trim().into(),
            gussets: RimGussets {
                called: UNDER_FLANGE,
                legs: [legs[0]?, legs[1]?],
                nose: nose?,
                snipe: snipe?,
                thickness: thickness?,
                count,
                radius: 0.0,
            },
            material: material?,
        })))
    }
}

impl Plates for RimGussetsSpec {
    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let Some(rim) = turn.rims.iter().find(|r| r.line == self.under) else {
            let message = format!("{} tells of no flanges", self.under);
            turn.tell.refuse_at("/say/under", message, "name a line that does, such as rim-1");
            return None;
        };
        let on = skeleton.standing(turn.tell, "/say/under", &rim.of)?;
        if rim.inwards {
            let mend = "turn the flanges outward, or leave the gussets out";
            turn.tell.refuse_at("/say/under", "these flanges turn inward, with no corner outside", mend);
            return None;
        }
        if self.gussets.count.is_none() && rim.holes.is_none() {
            let mend = "write how many a side";
            turn.tell.refuse_at("/say/count", "these flanges have no holes to stand between", mend);
            return None;
        }
        let mut quiet = ground::reader::Tell::new(turn.tell.display);
        let rims = Rims::of(&mut quiet, turn.rims, &rim.of, &on.sides);
        let radius = smallest_radius(&self.material, on.sides.thickness);
        let told = RimGussets { radius, ..self.gussets };
        let made = gussets(on, &rims, rim, &told, &turn.tell.display);
        let out = made.map_err(|(path, message, mend)| turn.tell.refuse_at(path, message, mend)).ok()?;
        // Where no flange stands its own line says why.
        if out.is_empty() && rims.told.iter().any(|t| t.2.line == rim.line) {
            let mend = "write how many a side";
            turn.tell.refuse_at("/say/count", "no flange has two holes to stand between", mend);
        }
        Some(out)
    }
}

//! `channel`: lip, side, web, side, lip, bent from one strip.

use std::f64::consts::FRAC_PI_2;

use grammar::*;
use ground::reader::{Range, Reader};

use super::start_strip::TOLD_FROM;
use crate::choices::{Measure, Side};
use crate::flat::spec::{Spec, Spoken};
use crate::flat::stock::SheetStock;
use crate::flat::strip::{PartKind, PartSpec, StripSpec};

pub static VERB: Verb = Verb {
    tag: "start_channel",
    stem: "start",
    about: "Starts a piece with a channel: lip, side, web, side, lip, bent from one strip.",
    role: Role::Start,
    starts: &[],
    offers: &[],
    sentence: &[
        verb("Start with a channel|channel"),
        length("/length", "length"),
        printed("long"),
        must(&[word("web"), length("/web", "web")]),
        must(&[word("sides|sides|side"), length("/side", "side")]),
        clause(&[word("west side"), length_or("/west_side", "west side", "the same")]),
        clause(&[
            word("lips|lips|lip"),
            length_or("/lip", "lip", "none"),
            Clause::new(&[flag(
                "/lips_out",
                "lips",
                &[("false", "turned inwards|inwards"), ("true", "turned outwards|outwards|out")],
            )])
            .close()
            .shown(When::Told("/lip"))
            .part(),
        ]),
        TOLD_FROM,
    ],
    examples: &[
        "channel 600 long, web 120, sides 60, lips 15",
        "channel 600 long, web 120, sides 60, lips 15 outwards, inside",
    ],
};

spoken! {
    /// Lip, side, web, side, lip, bent from one strip.
    pub struct StartChannel {
        /// Along the channel, south to north.
        pub length: String,
        /// Width of the web.
        pub web: String,
        /// Height of the sides; `west_side` empty means the same as `side`.
        pub side: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub west_side: String,
        /// Width of the lips; empty means none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub lip: String,
        /// Lips turned away from the middle.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub lips_out: bool,
        pub measure: Measure,
    }
}

impl Spoken for StartChannel {
    /// A strip of lip, side, web, side, lip.
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let length = reader.length("/say/length", &self.length, Range::AboveZero);
        let web = reader.length("/say/web", &self.web, Range::AboveZero);
        let side = reader.length("/say/side", &self.side, Range::AboveZero);
        let west = reader.length_if("/say/west_side", &self.west_side, Range::AboveZero);
        let lip = reader.length_if("/say/lip", &self.lip, Range::AboveZero);
        let (length, web, side, west, lip) = (length?, web?, side?, west?, lip?);
        // Its parts are told by no fields of their own.
        let part = |id: &str, kind| PartSpec { id: id.into(), kind, at: None };
        let leg = |id, length| part(id, PartKind::Leg(length));
        let bend = |id, up| part(id, PartKind::Bend { angle: FRAC_PI_2, up, radius: stock.r, rule: None });
        let mut parts = vec![
            leg("west", west.unwrap_or(side)),
            bend("west-bend", true),
            leg("web", web),
            bend("east-bend", true),
            leg("east", side),
        ];
        if let Some(lip) = lip {
            parts.splice(0..0, [leg("west-lip", lip), bend("west-lip-bend", !self.lips_out)]);
            parts.extend([bend("east-lip-bend", !self.lips_out), leg("east-lip", lip)]);
        }
        let stays = parts.iter().position(|p| p.id == "web")?;
        let (side, measure, at) = (Side::Symmetric, self.measure, "/say/web");
        Some(Spec::Start(Box::new(StripSpec { width: length, side, measure, parts, stays, at })))
    }
}

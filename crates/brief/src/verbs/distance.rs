//! `from A to west 15`, `gap A to B 12`: how far two things are apart.

use grammar::*;
use ground::reader::{Range, Reader};
use serde_json::json;

use super::tolerance::{TOLERANCE, ToldLength};
use super::{Look, Reading, Spoken, Standing, Tie, Tolerance, Wanted};
use crate::measure::{DistanceKind, Way, distance};
use crate::model::{SIDES, Thing, ThingKind};

pub static VERB: Verb = Verb {
    tag: "distance",
    stem: "span",
    about: "How far two things are apart: holes, edges, panels, sides, nodes. Between panels it \
        runs from outside to outside; a gap is the clear space.",
    role: Role::Other,
    starts: &[
        Start { key: 'd', name: "distance", mm: "from to 10", inch: "from to 1/2" },
        Start { key: 'g', name: "gap", mm: "gap to 10", inch: "gap to 1/2" },
    ],
    offers: &[],
    sentence: &[
        Pick::new(
            "/between",
            "told between",
            &[
                ("middles", "From|from|distance from|distance"),
                ("gap", "Gap from|gap|gap from|clear from|clear"),
                ("over", "Over all from|over|over all from|over all"),
            ],
        )
        .begins()
        .part(),
        Slot::new("/from", "from", Kind::Thing).empty("…").part(),
        word("to|to|and"),
        Slot::new("/to", "to", Kind::Thing).empty("…").part(),
        length("/value", "distance"),
        TOLERANCE,
        clause_when(
            When::Told("/way"),
            &[Pick::new(
                "/way",
                "direction",
                &[
                    ("straight", "straight across|straight"),
                    ("east", "along east"),
                    ("north", "along north"),
                    ("up", "upwards"),
                ],
            )
            .quiet()
            .part()],
        ),
    ],
    examples: &[
        "from A to west 15 ± 0.2",
        "gap A to B 12",
        "from punch-1 to punch-2 40, along east",
        "over start-1.a to start-1.c 60",
    ],
};

spoken! {
    /// How far two things are apart.
    pub struct DistanceFigure {
        pub between: DistanceKind,
        /// A letter of the drawing, a side (west or left, east or right, south, north, bottom, top), or a
        /// name of the model.
        pub from: String,
        pub to: String,
        pub value: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub tolerance: Option<Tolerance>,
        #[serde(skip_serializing_if = "is_straight")]
        pub way: Way,
    }
}

fn is_straight(way: &Way) -> bool {
    *way == Way::Straight
}

struct DistanceSpec {
    between: DistanceKind,
    from: String,
    to: String,
    told: ToldLength,
    way: Way,
}

impl Spoken for DistanceFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let told = ToldLength::read(reader, &self.value, Range::ZeroUp, self.tolerance.as_ref())?;
        Some(Box::new(DistanceSpec {
            between: self.between,
            from: self.from.clone(),
            to: self.to.clone(),
            told,
            way: self.way,
        }))
    }
}

/// Kinds of things that distances are told between.
const ENDS: [ThingKind; 3] = [ThingKind::Hole, ThingKind::Node, ThingKind::Panel];

/// Of each kind so many are tried where nothing says which: each with each is the square of it.
const MOST_TRIED: usize = 80;

impl DistanceSpec {
    /// What an end that is not told could be.
    fn candidates(&self, at: &Standing) -> Vec<Thing> {
        let things = ENDS.iter().flat_map(|kind| at.model.of_kind(*kind).take(MOST_TRIED)).cloned();
        things.chain(SIDES.iter().filter_map(|s| at.model.thing(s.0).ok())).collect()
    }
}

impl Wanted for DistanceSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        let reading = if self.from.is_empty() || self.to.is_empty() {
            Reading::Untied
        } else {
            match (at.thing(&self.from), at.thing(&self.to)) {
                (Ok(a), Ok(b)) => Reading::of(distance(&a, &b, self.between, self.way), &[&a, &b]),
                (Err(why), _) | (_, Err(why)) => Reading::Lost(why),
            }
        };
        vec![self.told.look(at, ["too far", "too near"], reading)]
    }

    fn ties(&self, at: &Standing) -> Vec<Tie> {
        if !self.from.is_empty() && !self.to.is_empty() {
            return Vec::new();
        }
        let end = |word: &str| {
            if word.is_empty() { self.candidates(at) } else { at.thing(word).into_iter().collect() }
        };
        let (from, to) = (end(&self.from), end(&self.to));
        let letter = |told: &str, t: &Thing| if told.is_empty() { t.name.clone() } else { told.to_string() };
        let mut out: Vec<Tie> = Vec::new();
        for a in &from {
            ground::halt::point();
            for b in to.iter().filter(|b| b.name != a.name) {
                let Ok(v) = distance(a, b, self.between, self.way) else { continue };
                // The same two the other way round are the same.
                let known = |t: &Tie| t.names == [b.name.clone(), a.name.clone()];
                if !self.told.allows(at, v) || out.iter().any(known) {
                    continue;
                }
                // A hole is placed from a side sooner than from anything else.
                let rank = match (a.kind, b.kind) {
                    (ThingKind::Hole, ThingKind::Side) | (ThingKind::Side, ThingKind::Hole) => 0,
                    (ThingKind::Hole, ThingKind::Hole) => 1,
                    (ThingKind::Side, ThingKind::Side) => 3,
                    _ => 2,
                };
                out.push(Tie {
                    fields: vec![
                        ("/say/from", json!(letter(&self.from, a))),
                        ("/say/to", json!(letter(&self.to, b))),
                    ],
                    value: v,
                    said: format!("{} to {}", a.said, b.said),
                    names: vec![a.name.clone(), b.name.clone()],
                    rank,
                });
            }
        }
        out
    }
    fn tries_all(&self, at: &Standing) -> bool {
        ENDS.iter().all(|kind| at.model.of_kind(*kind).nth(MOST_TRIED).is_none())
    }
}

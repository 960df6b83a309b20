//! `round`, `chamfer`, `full round`: takes the point off corners of the outline.

use grammar::*;
use ground::geom::{Contour, chamfer, fillet};
use ground::reader::{Range, Reader};

use crate::choices::Treatment;
use crate::flat::blank::Blank;
use crate::flat::corners::{Named, SHARP, fits, full_end, names, with_room};
use crate::flat::spec::{Corners, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "round",
    stem: "round",
    about: "Takes the point off corners of the outline: a radius, a chamfer, or a half circle over a whole \
        end.",
    role: Role::Other,
    starts: &[Start { key: 'r', name: "round", mm: "round 5", inch: "round 1/4" }],
    offers: &[
        Offer { on: "edge", words: "Round every sharp outer corner", mm: "round 5", inch: "round 1/4" },
        Offer {
            on: "end",
            words: "Round the whole {} end to a half circle",
            mm: "full round at $this",
            inch: "full round at $this",
        },
        Offer { on: "corner", words: "Round corner {}", mm: "round 5 at $this", inch: "round 1/4 at $this" },
        Offer {
            on: "corner",
            words: "Chamfer corner {}",
            mm: "chamfer 5 at $this",
            inch: "chamfer 1/4 at $this",
        },
        Offer { on: "corner", words: "Round every sharp outer corner", mm: "round 5", inch: "round 1/4" },
    ],
    sentence: &[
        Pick::new(
            "/treatment",
            "treatment",
            &[
                ("radius", "Round|round"),
                ("chamfer", "Chamfer|chamfer"),
                ("full_end", "Round a whole end|full round"),
            ],
        )
        .begins()
        .part(),
        Clause::new(&[Slot::new("/size", "size", Kind::Length).empty("").part()])
            .close()
            .shown(When::IsNot("/treatment", &["full_end"]))
            .part(),
        Clause::new(&[
            printed("at"),
            names_or(
                "/corners",
                "corners",
                Kind::Corner,
                "every sharp outer corner with room|all corners|all",
            ),
        ])
        .close()
        .part(),
    ],
    examples: &["round 5", "chamfer 5 at north-east and south-west", "full round at west"],
};

spoken! {
    /// Takes the point off corners of the outline.
    pub struct Round {
        pub treatment: Treatment,
        /// Radius, or chamfer length along each side; not used for a full round end.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub size: String,
        /// Corner names (`north-east`, …), or for a full end the edge (`west`). Empty means every sharp outer
        /// corner.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub corners: Vec<String>,
    }
}

struct RoundSpec {
    treatment: Treatment,
    /// Radius, or chamfer length along each side; 0 for a full round end.
    size: f64,
    corners: Vec<String>,
}

impl Spoken for Round {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let size = match self.treatment {
            Treatment::FullEnd => 0.0,
            _ => reader.length("/say/size", &self.size, Range::AboveZero)?,
        };
        if self.treatment == Treatment::FullEnd && self.corners.is_empty() {
            reader.refuse_at(
                "/say/corners",
                "no end is picked",
                "name the edge that becomes a half circle, for example west",
            );
            return None;
        }
        let (treatment, corners) = (self.treatment, self.corners.clone());
        Some(Spec::Corners(Box::new(RoundSpec { treatment, size, corners })))
    }
}

impl RoundSpec {
    /// The corners that are worked on, each with its size.
    fn picks(
        &self,
        turn: &mut Turn,
        outer: &Contour,
        corners: &[Named],
        blank: &Blank,
        tags: &[String],
    ) -> Option<Vec<(usize, f64)>> {
        let tell = &mut *turn.tell;
        let mut picks: Vec<(usize, f64)> = Vec::new();
        if self.treatment == Treatment::FullEnd {
            for (k, edge) in self.corners.iter().enumerate() {
                let Some(both) = full_end(outer, corners, blank, tags, edge) else {
                    tell.refuse_at(
                        &format!("/say/corners/{k}"),
                        format!("'{edge}' is not a straight edge between two square corners"),
                        "pick west, east, south or north, before its corners are cut",
                    );
                    return None;
                };
                picks.extend(both);
            }
        } else if self.corners.is_empty() {
            picks.extend(corners.iter().filter(|c| c.turn > SHARP).map(|c| (c.vertex, self.size)));
            with_room(outer, self.treatment, &mut picks);
        } else {
            for (k, name) in self.corners.iter().enumerate() {
                let Some(c) = corners.iter().find(|c| c.is_called(name)) else {
                    let known: Vec<&str> = corners.iter().map(|c| c.name.as_str()).take(12).collect();
                    tell.refuse_at(
                        &format!("/say/corners/{k}"),
                        format!("the outline has no straight corner called '{name}' here"),
                        format!("pick from {}", known.join(", ")),
                    );
                    return None;
                };
                picks.push((c.vertex, self.size));
            }
        }
        Some(picks)
    }
}

impl Corners for RoundSpec {
    fn round(&self, turn: &mut Turn, outer: &Contour, blank: &Blank, tags: &[String]) -> Option<Contour> {
        let corners = names(outer, blank, tags);
        let picks = self.picks(turn, outer, &corners, blank, tags)?;
        if picks.is_empty() {
            turn.tell.refuse_at(
                "/say/corners",
                "there is no sharp corner left with room for this size",
                "write a smaller size, or take the line out",
            );
            return None;
        }
        if let Some(short) = fits(outer, self.treatment, &picks, &corners) {
            let d = &turn.tell.display;
            let (need, have) = (d.length_unit(short.need), d.length_unit(short.have));
            turn.tell.refuse_at(
                "/say/size",
                format!("corner {} needs {need} of a side that has {have}", short.name),
                "write a smaller size, or pick fewer corners",
            );
            return None;
        }
        Some(match self.treatment {
            Treatment::Chamfer => chamfer(outer, &picks),
            _ => fillet(outer, &picks),
        })
    }
}

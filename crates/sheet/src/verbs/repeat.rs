//! `repeat`: the same cut again, in a row or a grid.

use glam::DVec2;
use grammar::*;
use ground::geom::{COINCIDENT, ROUNDING};
use ground::reader::{Range, Reader};
use ground::reference;

use crate::flat::copies::{targets, within_limits};
use crate::flat::feature::{Feature, MOST_FEATURES};
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "repeat",
    stem: "repeat",
    about: "The same cuts again, in a row, along an edge, or in a grid.",
    role: Role::Cut,
    starts: &[Start { key: 'e', name: "repeat", mm: "repeat $cut, 3 x 40", inch: "repeat $cut, 3 x 1 1/2" }],
    offers: &[
        Offer {
            on: "hole",
            words: "Repeat {} to the east",
            mm: "repeat $this, 3 x 40",
            inch: "repeat $this, 3 x 1 1/2",
        },
        Offer {
            on: "hole",
            words: "Repeat {} to the north",
            mm: "repeat $this, 3 x 40, north",
            inch: "repeat $this, 3 x 1 1/2, north",
        },
    ],
    sentence: &[
        verb("Repeat|repeat"),
        names("/of", "cuts repeated", Kind::Cut),
        must(&[union("/spacing", "by", "spacing", SPACING)]),
        clause(&[pick(
            "/axis",
            "direction",
            &[("east", "to the east|east"), ("north", "to the north|north")],
        )]),
        clause_when(
            When::Told("/along"),
            &[word("along"), Slot::new("/along", "edge it runs along", Kind::Edge).empty("").part()],
        ),
        clause_when(
            When::Told("/across/by"),
            &[word("rows across:|across"), union_or("/across", "by", "spacing across", "none", SPACING)],
        ),
    ],
    examples: &[
        "repeat punch-1, 5 x 30",
        "repeat punch-1, 2 last 18, across 2 last 18",
        "repeat punch-1, fill pitch 14 margin 24, north",
        "repeat punch-1, 4 x 50, along north",
    ],
};

const SPACING: &[Case] = &[
    case(
        "pitch",
        "evenly:||",
        &[
            count("/count", "count"),
            printed("times at a pitch of|x|×|times at|at|by"),
            length("/pitch", "pitch"),
        ],
        ["3 x 40", "3 x 1 1/2"],
    ),
    case(
        "last",
        "up to the far end:||",
        &[
            count("/count", "count"),
            aloud("times,"),
            word("the last|last|with the last"),
            length("/distance", "distance of the last from the end"),
            aloud("from the far end"),
        ],
        ["3 last 20", "3 last 1"],
    ),
    case(
        "gap",
        "with even gaps:||",
        &[count("/count", "count"), aloud("times,"), word("with gaps of|gaps|gap"), length("/gap", "gap")],
        ["3 gaps 10", "3 gaps 1/2"],
    ),
    case(
        "fill",
        "to fill:|fill",
        &[
            printed("pitch|pitch|at"),
            length("/pitch", "pitch"),
            printed("margin"),
            length("/margin", "margin"),
        ],
        ["pitch 40 margin 20", "pitch 1 1/2 margin 1"],
    ),
];

word! {
    pub enum Axis {
        /// West to east.
        #[default]
        East,
        /// South to north.
        North,
    }
}

choice! {
    /// How the members of a row are spaced. The first stays where its own line puts it.
    pub enum Spacing by "by" {
        /// So many at a pitch; a negative pitch runs back.
        Pitch {
            #[serde(default)]
            count: String,
            #[serde(default)]
            pitch: String,
        },
        /// So many, the last centred this far from the far end.
        Last { count: String, distance: String },
        /// So many with this much material between one and the next.
        Gap { count: String, gap: String },
        /// At a pitch, as many as leave at least this margin at the far end.
        Fill { pitch: String, margin: String },
    }
}

impl Default for Spacing {
    fn default() -> Self {
        Spacing::Pitch { count: String::new(), pitch: String::new() }
    }
}

spoken! {
    /// The same cut again, in a row or a grid.
    pub struct Repeat {
        /// Ids of the lines repeated.
        pub of: Vec<String>,
        pub axis: Axis,
        /// A straight edge to run along instead, from its left end to its right, seen from the piece looking
        /// out.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub along: String,
        pub spacing: Spacing,
        /// The other way, for a grid.
        #[serde(skip_serializing_if = "Option::is_none")]
        pub across: Option<Spacing>,
    }
}

impl Axis {
    pub fn unit(self) -> DVec2 {
        match self {
            Axis::East => DVec2::X,
            Axis::North => DVec2::Y,
        }
    }

    fn other(self) -> Axis {
        match self {
            Axis::East => Axis::North,
            Axis::North => Axis::East,
        }
    }
}

/// A row, read; lengths in mm.
#[derive(Clone, Copy)]
enum Row {
    Pitch { count: usize, pitch: f64 },
    Last { count: usize, distance: f64 },
    Gap { count: usize, gap: f64 },
    Fill { pitch: f64, margin: f64 },
}

/// Members of a row.
const MOST: usize = MOST_FEATURES + 1;

impl Spacing {
    fn read(&self, reader: &mut Reader, path: &str) -> Option<Row> {
        let at = |field: &str| format!("{path}/{field}");
        let count = |reader: &mut Reader, text: &str, low| reader.count(&at("count"), text, low, MOST);
        match self {
            Spacing::Pitch { count: n, pitch } => {
                let n = count(reader, n, 1);
                let pitch = reader.length(&at("pitch"), pitch, Range::Any)?;
                Some(Row::Pitch { count: n?, pitch })
            }
            Spacing::Gap { count: n, gap } => {
                let n = count(reader, n, 1);
                let gap = reader.length(&at("gap"), gap, Range::Any)?;
                if gap < 0.0 {
                    let by = reader.display.length_unit(-gap);
                    reader.refuse_at(
                        &at("gap"),
                        format!(
                            "a gap of less than nothing: shapes that overlap by {by}, or a row the other way?"
                        ),
                        "write a gap above zero; for a row the other way, or for overlaps, write a pitch",
                    );
                    return None;
                }
                Some(Row::Gap { count: n?, gap })
            }
            Spacing::Last { count: n, distance } => {
                let n = count(reader, n, 2);
                let distance = reader.length(&at("distance"), distance, Range::Any)?;
                Some(Row::Last { count: n?, distance })
            }
            Spacing::Fill { pitch, margin } => {
                let pitch = reader.length(&at("pitch"), pitch, Range::Any);
                let margin = reader.length(&at("margin"), margin, Range::ZeroUp);
                let (pitch, margin) = (pitch?, margin?);
                if pitch.abs() < 1e-3 {
                    reader.refuse_at(
                        &at("pitch"),
                        "a pitch of nothing never fills",
                        "write a pitch above zero",
                    );
                    return None;
                }
                Some(Row::Fill { pitch, margin })
            }
        }
    }
}

struct RepeatSpec {
    of: Vec<String>,
    axis: Axis,
    /// A straight edge to run along instead.
    edge: Option<String>,
    along: Row,
    across: Option<Row>,
}

impl Spoken for Repeat {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let along = self.spacing.read(reader, "/say/spacing");
        let across = match &self.across {
            Some(s) => s.read(reader, "/say/across").map(Some),
            None => Some(None),
        };
        let edge = (!self.along.trim().is_empty()).then(|| self.along.clone());
        let (of, axis) = (self.of.clone(), self.axis);
        Some(Spec::Cuts(Box::new(RepeatSpec { of, axis, edge, along: along?, across: across? })))
    }
}

impl Cuts for RepeatSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let features = targets(turn, &self.of, standing)?;
        let field = features.first()?.field;
        let spread = |d: DVec2| {
            let (a, b) = (field.min.dot(d), field.max.dot(d));
            (a.min(b), a.max(b))
        };
        let (dir, other, ends) = match &self.edge {
            None => (self.axis.unit(), self.axis.other().unit(), spread(self.axis.unit())),
            Some(edge) => {
                // From left to right, seen from the piece looking out: against the travel of the outline.
                let (a, b) = standing.blank.edge(turn.tell, "/say/along", edge)?;
                let dir = (a - b).normalize_or_zero();
                (dir, dir.perp(), (b.dot(dir), a.dot(dir)))
            }
        };
        let along = self.along.steps(turn, "/say/spacing", dir, ends, &features);
        let across = match &self.across {
            Some(row) => row.steps(turn, "/say/across", other, spread(other), &features),
            None => Some(vec![DVec2::ZERO]),
        };
        let (along, across) = (along?, across?);
        let times = along.len().saturating_mul(across.len());
        if !within_limits(turn, "/say/spacing", &features, times, standing) {
            return None;
        }
        let at = turn.at;
        let mut out = Vec::with_capacity(features.len() * times);
        for (j, up) in across.iter().enumerate() {
            for (i, by) in along.iter().enumerate() {
                ground::halt::point();
                if i == 0 && j == 0 {
                    continue;
                }
                for f in &features {
                    let name = match self.across {
                        None => reference::copy(&reference::part(at.line, &f.name), i + 1),
                        Some(_) => reference::copy_at(&reference::part(at.line, &f.name), j + 1, i + 1),
                    };
                    out.push(f.moved(name, at.index, *by + *up).at_home(standing.blank));
                }
            }
        }
        Some(out)
    }
}

impl Row {
    /// Where the members stand relative to the first, itself included.
    fn steps(
        self,
        turn: &mut Turn,
        path: &str,
        dir: DVec2,
        (low, high): (f64, f64),
        features: &[Feature],
    ) -> Option<Vec<DVec2>> {
        let first = features.first()?.centre.dot(dir);
        // Extent of what is repeated, along the row.
        let extent = || {
            let turned = features.iter().map(|f| f.contour.moved(-dir.to_angle(), DVec2::ZERO).bounds());
            let ends = (f64::INFINITY, f64::NEG_INFINITY);
            turned.fold(ends, |(l, h), b| (l.min(b.min.x), h.max(b.max.x)))
        };
        let (count, pitch) = match self {
            Row::Pitch { count, pitch } => (count, pitch),
            Row::Gap { count, gap } => {
                let (least, most) = extent();
                (count, most - least + gap)
            }
            Row::Last { count, distance } => {
                // The far end is the one further from the first.
                let to = if high - first >= first - low { high - distance } else { low + distance };
                (count, (to - first) / (count - 1) as f64)
            }
            Row::Fill { pitch, margin } => {
                // Room from the shape's far side to the margin.
                let (least, most) = extent();
                let room = if pitch > 0.0 { high - margin - most } else { least - (low + margin) };
                let n = (room / pitch.abs() + ROUNDING).floor();
                if n < 0.0 {
                    turn.tell.refuse_at(
                        &format!("{path}/margin"),
                        "the first cut already lies inside the margin",
                        "write a smaller margin, or move the first cut",
                    );
                    return None;
                }
                if n >= MOST as f64 {
                    turn.tell.refuse_at(
                        &format!("{path}/pitch"),
                        format!("this pitch makes {n:.0} cuts in a row"),
                        "write a larger pitch",
                    );
                    return None;
                }
                (n as usize + 1, pitch)
            }
        };
        if count > 1 && pitch.abs() < COINCIDENT {
            turn.tell.refuse_at(
                &format!("{path}/pitch"),
                "the members would lie on one another",
                "write a pitch other than zero",
            );
            return None;
        }
        Some((0..count).map(|k| dir * (pitch * k as f64)).collect())
    }
}

//! What holds between the sides of a contour, as it is said.

use grammar::*;
use ground::reader::{Range, Reader};
use ground::word;

use super::start_contour::{corner_of, side_of};
use crate::choices::BesideWay;
use crate::contour::{Condition, Run, Side};

pub const CONDITIONS: &[Case] = &[
    case("equal", "equal", SIDES, ["a and c", "a and c"]),
    case("parallel", "parallel", SIDES, ["a and c", "a and c"]),
    case("square", "square to one another|square", SIDES, ["a and b", "a and b"]),
    case("in_line", "in line", SIDES, ["a and c", "a and c"]),
    case("concentric", "about one middle|concentric", SIDES, ["b and d", "b and d"]),
    case(
        "distance",
        "the distance between|distance",
        &[names("/between", "sides", Kind::Side), aloud("is"), length("/by", "distance")],
        ["a and c 80", "a and c 3"],
    ),
    case(
        "symmetric",
        "it is symmetric about the middle of|symmetric about",
        &[name("/of", "middle side", Kind::Side)],
        ["a", "a"],
    ),
    case(
        "offset",
        "the end of|end of",
        &[
            name("/of", "side", Kind::Side),
            aloud("is"),
            length("/by", "distance"),
            pick(
                "/way",
                "direction",
                &[
                    ("east", "to the east of|east of"),
                    ("north", "to the north of|north of"),
                    ("west", "to the west of|west of"),
                    ("south", "to the south of|south of"),
                ],
            ),
            name("/from", "corner", Kind::SideEnd),
        ],
        ["a 60 north of start", "a 2 north of start"],
    ),
];

const SIDES: &[Part] = &[names("/between", "sides", Kind::Side)];

word! {
    pub enum ContourRuleKind {
        /// Lines of one length, arcs of one radius.
        #[default]
        Equal,
        Parallel,
        Square,
        InLine,
        Concentric,
        /// Between parallel lines, middles of arcs, or such a middle and a line.
        Distance,
        Symmetric,
        /// The end of a side from another corner.
        Offset,
    }
}

fn is_east(way: &BesideWay) -> bool {
    *way == BesideWay::East
}

spoken! {
    /// What holds between sides of a contour.
    pub struct ContourRule {
        pub kind: ContourRuleKind,
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub between: Vec<String>,
        /// The side it is about, or whose end it speaks of.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub of: String,
        /// A side for its end, or `start`.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub from: String,
        #[serde(skip_serializing_if = "is_east")]
        pub way: BesideWay,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub by: String,
    }
}

/// Conditions of one contour.
const MOST: usize = 200;

/// What the rules come to, each with the rule it is of; none where one cannot be read.
pub fn read_rules(
    rules: &[ContourRule],
    reader: &mut Reader,
    ids: &[String],
    sides: &[Side],
) -> Option<Vec<Condition>> {
    if rules.len() > MOST {
        let message = format!("the contour has {} conditions; {MOST} is the most", rules.len());
        reader.refuse_at("/say/rules", message, "leave some out");
        return None;
    }
    let read = |(k, rule): (usize, &ContourRule)| {
        let mut told = RuleReader { reader, at: format!("/say/rules/{k}"), ids, sides };
        told.read(rule)
    };
    let all: Vec<Option<Vec<Condition>>> = rules.iter().enumerate().map(read).collect();
    Some(all.into_iter().collect::<Option<Vec<_>>>()?.concat())
}

struct RuleReader<'r, 'a> {
    reader: &'r mut Reader<'a>,
    at: String,
    ids: &'r [String],
    sides: &'r [Side],
}

impl RuleReader<'_, '_> {
    fn read(&mut self, rule: &ContourRule) -> Option<Vec<Condition>> {
        use Condition as C;
        use ContourRuleKind as K;
        Some(match rule.kind {
            K::Equal => {
                let all = self.row(rule, 2)?;
                let alike = all.iter().all(|k| self.is_arc(*k) == self.is_arc(all[0]));
                self.require(alike, "a line and an arc cannot be equal", "name lines, or arcs")?;
                all.windows(2).map(|w| C::Equal(w[0], w[1])).collect()
            }
            K::Parallel => self.lines(rule)?.windows(2).map(|w| C::Parallel(w[0], w[1])).collect(),
            K::InLine => self.lines(rule)?.windows(2).map(|w| C::InLine(w[0], w[1])).collect(),
            K::Square => {
                let all = self.lines(rule)?;
                self.require(all.len() == 2, "square speaks of two lines", "name two")?;
                vec![C::Square(all[0], all[1])]
            }
            K::Concentric => {
                let all = self.row(rule, 2)?;
                let arcs = all.iter().all(|k| self.is_arc(*k));
                self.require(arcs, "only arcs have a middle", "name arcs")?;
                all.windows(2).map(|w| C::Concentric(w[0], w[1])).collect()
            }
            K::Distance => {
                let all = self.row(rule, 2);
                let by = self.reader.length(&self.field("by"), &rule.by, Range::AboveZero);
                let all = all?;
                self.require(all.len() == 2, "a distance lies between two sides", "name two")?;
                vec![C::Distance(all[0], all[1], by?)]
            }
            K::Symmetric => {
                let of = side_of(self.reader, &self.field("of"), &rule.of, self.ids)?;
                self.require(
                    self.is_mirrored(of),
                    "the sides before and behind it are no mirror images of one another",
                    "name the side in the middle",
                )?;
                vec![C::Symmetric(of)]
            }
            K::Offset => {
                let corner = self.corner("of", &rule.of);
                let from = self.corner("from", &rule.from);
                let by = self.reader.length(&self.field("by"), &rule.by, Range::Any)?;
                let (corner, from) = (corner?, from?);
                self.require(corner != from, "these are one corner", "name another")?;
                let north = matches!(rule.way, BesideWay::North | BesideWay::South);
                let sign = if matches!(rule.way, BesideWay::West | BesideWay::South) { -1.0 } else { 1.0 };
                vec![C::Offset { corner, from, north, by: by * sign }]
            }
        })
    }

    fn field(&self, field: &str) -> String {
        format!("{}/{field}", self.at)
    }

    fn is_arc(&self, k: usize) -> bool {
        self.sides[k].run.is_arc()
    }

    fn require(&mut self, is: bool, message: &str, mend: &str) -> Option<()> {
        if !is {
            let at = self.field("kind");
            self.reader.refuse_at(&at, message, mend);
        }
        is.then_some(())
    }

    /// So many sides at least, none of them twice.
    fn row(&mut self, rule: &ContourRule, least: usize) -> Option<Vec<usize>> {
        let at = self.field("between");
        let mut all = Vec::new();
        for (k, name) in rule.between.iter().enumerate() {
            all.push(side_of(self.reader, &format!("{at}/{k}"), name, self.ids)?);
        }
        let twice = (1..all.len()).any(|k| all[..k].contains(&all[k]));
        if all.len() < least || twice {
            let mend = "name two sides or more, each once: a and c";
            self.reader.refuse_at(&at, "this speaks of several sides", mend);
            return None;
        }
        Some(all)
    }

    fn lines(&mut self, rule: &ContourRule) -> Option<Vec<usize>> {
        let all = self.row(rule, 2)?;
        let lines = all.iter().all(|k| !self.is_arc(*k));
        self.require(lines, "an arc has no direction", "name lines")?;
        Some(all)
    }

    fn corner(&mut self, field: &str, name: &str) -> Option<usize> {
        let at = self.field(field);
        match corner_of(self.reader, &at, name, self.ids)? {
            Some(k) => Some(k),
            None => {
                self.reader.refuse_at(&at, "no corner is named", "name a side for its end, or start");
                None
            }
        }
    }

    /// Whether sides before and behind this one can be images of one another.
    fn is_mirrored(&self, about: usize) -> bool {
        let n = self.sides.len();
        (1..=(n - 1) / 2).all(|j| {
            let (a, b) = (&self.sides[(about + n - j) % n].run, &self.sides[(about + j) % n].run);
            match (a, b) {
                (Run::Arc { left: a, .. }, Run::Arc { left: b, .. }) => a == b,
                (a, b) => !a.is_arc() && !b.is_arc(),
            }
        })
    }
}

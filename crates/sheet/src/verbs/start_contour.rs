//! `contour`: an outline told side by side, as one goes along it; what is not told is found from what is.

use grammar::*;
use ground::geom::COINCIDENT;
use ground::reader::{Range, Reader};
use ground::{choice, word};

use super::contour_rules::{CONDITIONS, ContourRule, read_rules};
use crate::choices::Treatment;
use crate::contour::{Named, Run, Side, System, Told, solve};
use crate::flat::contour_start::{CornerCut, outcome};
use crate::flat::spec::{Spec, Spoken};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "start_contour",
    stem: "start",
    about: "Starts a piece with an outline told side by side: lines, arcs, and what holds between \
        them. What is not told is found from what is.",
    role: Role::Start,
    starts: &[],
    offers: &[],
    sentence: &[
        verb("Start with a contour going|contour"),
        Part::List(List {
            path: "/sides",
            label: "side",
            item: &[union("", "kind", "kind", RUNS)],
            lead: "",
            between: ",",
            ids: Ids::Words(LETTERS, "side"),
            least: 0,
            adds: &[
                ("a line", "40 east", "1 1/2 east"),
                ("an arc", "arc left R20 90°", "arc left R3/4 90°"),
                ("the way back", "close", "close"),
            ],
            close: true,
            chain: true,
        }),
        Part::List(List {
            path: "/rules",
            label: "condition",
            item: &[union("", "kind", "condition", CONDITIONS)],
            lead: "where",
            between: ",",
            ids: Ids::None,
            least: 0,
            adds: &[
                ("equal sides", "equal a and c", "equal a and c"),
                ("a distance", "distance a and c 80", "distance a and c 3"),
                ("symmetry", "symmetric about a", "symmetric about a"),
            ],
            close: false,
            chain: false,
        }),
    ],
    examples: &[
        "contour line 120 east, line 60 north, line west plumb with start, close",
        "contour line 80 east, arc left R20 90°, line 40, arc left R20, line west, close",
        "contour line east, arc left R25 180°, line west, arc left 180°, where distance b and d 110",
        "contour line 90 east rounded R8, line 40 at 60° snipped 5, line west plumb with start, close",
        "contour line 60 east, line, arc left R20, line, where symmetric about a, where distance a and c 50",
    ],
};

const LETTERS: &[&str] = &[
    "a", "b", "c", "d", "e", "f", "g", "h", "i", "j", "k", "l", "m", "n", "o", "p", "q", "r", "s", "t", "u",
    "v", "w", "y", "z",
];

const RUNS: &[Case] = &[
    case(
        "line",
        "line|line|",
        &[length_or("/length", "length of {id}", "open"), TOWARD, SHARP, LEVEL, PLUMB, MEETS, CORNER],
        ["40 east", "1 1/2 east"],
    ),
    case(
        "arc",
        "arc",
        &[
            pick("/way", "way of {id}", &[("left", "to the left|left"), ("right", "to the right|right")]),
            radius_or("/radius", "radius of {id}", "open"),
            angle_or("/angle", "angle of {id}", "open"),
            SETS_OUT,
            SHARP,
            LEVEL,
            PLUMB,
            MEETS,
            CORNER,
        ],
        ["left R20 90°", "left R3/4 90°"],
    ),
    case("close", "straight back to the start|close", &[CORNER], ["", ""]),
];

const TOWARD: Part = aside(&[DIRECTION]);
const SETS_OUT: Part = aside(&[printed("setting out"), DIRECTION]);

const DIRECTION: Part = union_or(
    "/toward",
    "kind",
    "direction of {id}",
    "as it comes",
    &[
        case("east", "to the east|east|right", &[], ["", ""]),
        case("north", "to the north|north|up", &[], ["", ""]),
        case("west", "to the west|west", &[], ["", ""]),
        case("south", "to the south|south|down", &[], ["", ""]),
        case("at", "at", &[angle("/angle", "angle of {id} from east")], ["30°", "30°"]),
        case("left", "turned left", &[angle("/angle", "turn of {id}")], ["45°", "45°"]),
        case("right", "turned right", &[angle("/angle", "turn of {id}")], ["45°", "45°"]),
    ],
);

/// Words for what begins at a corner though an arc meets it.
const SHARP: Part = Clause::new(&[flag(
    "/sharp",
    "beginning of {id}",
    &[("false", "running on"), ("true", "from a corner|sharp")],
)])
.close()
.shown(When::Told("/sharp"))
.part();

const LEVEL: Part = end_clause("/level_with", &[word("level with"), point("/level_with", "level with")]);
const PLUMB: Part = end_clause("/plumb_with", &[word("plumb with"), point("/plumb_with", "plumb with")]);
const MEETS: Part = end_clause(
    "/meets",
    &[word("until it meets|meeting"), Slot::new("/meets", "side it meets", Kind::Side).part()],
);

const fn point(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::SideEnd).part()
}

const fn end_clause(path: &'static str, parts: &'static [Part]) -> Part {
    Clause::new(parts).close().shown(When::Told(path)).part()
}

const CORNER: Part = Clause::new(&[union_or(
    "/corner",
    "kind",
    "corner behind {id}",
    "as it is",
    &[
        case(
            "rounded",
            "its corner rounded|rounded",
            &[radius("/size", "radius behind {id}")],
            ["R5", "R1/4"],
        ),
        case("snipped", "its corner snipped|snipped", &[length("/size", "snip behind {id}")], ["5", "1/4"]),
    ],
)])
.close()
.shown(When::Told("/corner/kind"))
.part();

word! {
    /// What a side is.
    pub enum ContourRun {
        #[default]
        Line,
        Arc,
        /// Straight back to the start.
        Close,
    }
}

word! {
    /// The way an arc turns, as one goes along.
    pub enum ArcWay {
        #[default]
        Left,
        Right,
    }
}

choice! {
    /// The way a side sets out.
    pub enum Toward by "kind" {
        East {},
        North {},
        West {},
        South {},
        /// From east, counter-clockwise.
        At {
            #[serde(default)]
            angle: String,
        },
        /// From the way that the side before arrives.
        Left {
            #[serde(default)]
            angle: String,
        },
        Right {
            #[serde(default)]
            angle: String,
        },
    }
}

choice! {
    /// What is done to the corner behind a side.
    pub enum CornerSaid by "kind" {
        Rounded {
            #[serde(default)]
            size: String,
        },
        Snipped {
            #[serde(default)]
            size: String,
        },
    }
}

fn is_left(way: &ArcWay) -> bool {
    *way == ArcWay::Left
}

spoken! {
    /// A side of a contour; what is empty is found.
    pub struct ContourSide {
        pub id: String,
        pub kind: ContourRun,
        /// Of a line.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub length: String,
        /// Of an arc, as its radius and the angle it turns through.
        #[serde(skip_serializing_if = "is_left")]
        pub way: ArcWay,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub angle: String,
        /// The way it sets out; absent where it runs on from an arc, or is to be found.
        #[serde(skip_serializing_if = "Option::is_none")]
        pub toward: Option<Toward>,
        /// Begins at a corner even where an arc meets it.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub sharp: bool,
        /// Side whose end it ends level with, or `start`.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub level_with: String,
        /// Side whose end it ends plumb with, or `start`.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub plumb_with: String,
        /// Side that its end lies on.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub meets: String,
        /// What is done to the corner behind it.
        #[serde(skip_serializing_if = "Option::is_none")]
        pub corner: Option<CornerSaid>,
    }
}

spoken! {
    /// An outline told side by side.
    pub struct StartContour {
        pub sides: Vec<ContourSide>,
        /// What holds between them.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub rules: Vec<ContourRule>,
    }
}

/// Sides of one contour.
const MOST: usize = 200;

impl Spoken for StartContour {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        if !(2..=MOST).contains(&self.sides.len()) {
            reader.refuse_at(
                "/say/sides",
                format!("a contour of {} sides encloses nothing", self.sides.len()),
                format!("tell 2 to {MOST} lines and arcs, one after another"),
            );
            return None;
        }
        let ids: Vec<String> = self.sides.iter().map(|s| s.id.clone()).collect();
        let named = self.named(reader, &ids);
        let sides: Vec<Option<Side>> = (0..ids.len()).map(|k| self.side(reader, k, &ids)).collect();
        let cuts: Vec<Option<Option<CornerCut>>> = (0..ids.len()).map(|k| self.corner(reader, k)).collect();
        let sides = sides.into_iter().collect::<Option<Vec<Side>>>();
        let conditions = read_rules(&self.rules, reader, &ids, sides.as_deref()?);
        let told = Told { sides: sides?, conditions: conditions? };
        let cuts = cuts.into_iter().collect::<Option<Vec<_>>>()?;
        named.then_some(())?;
        let system = System::new(&told, None);
        let names = Named { ids: &ids, at: "/say/sides", rules: "/say/rules" };
        let start = outcome(&mut reader.tell, &names, &told, &system, solve(&system), &cuts);
        Some(Spec::Start(Box::new(start)))
    }
}

impl StartContour {
    /// Whether every side has a name of its own.
    fn named(&self, reader: &mut Reader, ids: &[String]) -> bool {
        let mut all = true;
        for (k, id) in ids.iter().enumerate() {
            if !id.is_empty() && id != START && !ids[..k].contains(id) {
                continue;
            }
            all = false;
            reader.refuse_at(
                &format!("/say/sides/{k}/id"),
                format!("'{id}' is no name for a side: another has it, or it means the start"),
                "give each side its own name",
            );
        }
        all
    }

    fn side(&self, reader: &mut Reader, k: usize, ids: &[String]) -> Option<Side> {
        let said = &self.sides[k];
        let at = |field: &str| format!("/say/sides/{k}/{field}");
        if said.kind == ContourRun::Close && k + 1 < self.sides.len() {
            let mend = "put it last, or tell a line";
            reader.refuse_at(&at("kind"), "only the last side goes back to the start", mend);
            return None;
        }
        let run = match said.kind {
            ContourRun::Line => reader
                .length_if(&at("length"), &said.length, Range::AboveZero)
                .map(|length| Run::Line { length }),
            ContourRun::Close => Some(Run::Close),
            ContourRun::Arc => {
                let radius = reader.length_if(&at("radius"), &said.radius, Range::AboveZero);
                let sweep = self.sweep(reader, &at("angle"), &said.angle);
                radius.zip(sweep).map(|(radius, sweep)| Run::Arc {
                    left: said.way == ArcWay::Left,
                    radius,
                    sweep,
                })
            }
        };
        let toward = self.toward(reader, &at("toward/angle"), said.toward.as_ref());
        let mut corner = |field: &str, name: &str| corner_of(reader, &at(field), name, ids);
        let (level, plumb) = (corner("level_with", &said.level_with), corner("plumb_with", &said.plumb_with));
        let meets = match said.meets.as_str() {
            "" => Some(None),
            name => side_of(reader, &at("meets"), name, ids).map(Some),
        };
        let (heading, turned) = toward?;
        let sharp = said.sharp;
        Some(Side { run: run?, heading, turned, sharp, level: level?, plumb: plumb?, meets: meets? })
    }

    /// How far an arc turns, where that is told.
    fn sweep(&self, reader: &mut Reader, at: &str, text: &str) -> Option<Option<f64>> {
        if text.trim().is_empty() {
            return Some(None);
        }
        let sweep = reader.angle(at, text)?;
        if sweep > COINCIDENT && sweep < std::f64::consts::TAU - COINCIDENT {
            return Some(Some(sweep));
        }
        let mend = "write more than 0° and less than 360°; left or right stands beside it";
        reader.refuse(at, text, "an arc cannot turn through this", mend);
        None
    }

    /// Its heading, or its turn to the left.
    fn toward(
        &self,
        reader: &mut Reader,
        at: &str,
        toward: Option<&Toward>,
    ) -> Option<(Option<f64>, Option<f64>)> {
        let quarter = |k: f64| Some((Some(k * std::f64::consts::FRAC_PI_2), None));
        match toward {
            None => Some((None, None)),
            Some(Toward::East {}) => quarter(0.0),
            Some(Toward::North {}) => quarter(1.0),
            Some(Toward::West {}) => quarter(2.0),
            Some(Toward::South {}) => quarter(3.0),
            Some(Toward::At { angle }) => reader.angle(at, angle).map(|a| (Some(a), None)),
            Some(Toward::Left { angle }) => reader.angle(at, angle).map(|a| (None, Some(a))),
            Some(Toward::Right { angle }) => reader.angle(at, angle).map(|a| (None, Some(-a))),
        }
    }

    /// What is done to the corner behind a side; none of it where it cannot be read.
    fn corner(&self, reader: &mut Reader, k: usize) -> Option<Option<CornerCut>> {
        let at = format!("/say/sides/{k}/corner/size");
        Some(match &self.sides[k].corner {
            None => None,
            Some(CornerSaid::Rounded { size }) => Some(CornerCut {
                treatment: Treatment::Radius,
                size: reader.length(&at, size, Range::AboveZero)?,
            }),
            Some(CornerSaid::Snipped { size }) => Some(CornerCut {
                treatment: Treatment::Chamfer,
                size: reader.length(&at, size, Range::AboveZero)?,
            }),
        })
    }
}

/// The corner that all starts from.
const START: &str = "start";

/// A side by its name.
pub fn side_of(reader: &mut Reader, at: &str, name: &str, ids: &[String]) -> Option<usize> {
    let found = ids.iter().position(|id| id == name);
    if found.is_none() {
        let message = format!("no side of the contour is called '{name}'");
        reader.refuse(at, name, message, format!("pick from {}", ids.join(", ")));
    }
    found
}

/// The corner at the end of a side, or the start; none where nothing is told.
pub fn corner_of(reader: &mut Reader, at: &str, name: &str, ids: &[String]) -> Option<Option<usize>> {
    match name {
        "" => Some(None),
        START => Some(Some(0)),
        name => side_of(reader, at, name, ids).map(|k| Some((k + 1) % ids.len())),
    }
}

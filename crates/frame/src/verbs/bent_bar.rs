//! `bent bar`: a bar told leg by leg, or by the points where its legs meet.

use std::f64::consts::TAU;
use std::sync::Arc;

use glam::DVec3;
use grammar::*;
use ground::quantity::Display;
use ground::reader::{Range, Reader, Tell};
use ground::{choice, reference, word};
use shop::Material;

use super::bar_legs::{BarHeading, BarLeg, HEADINGS, LEGS, leg, point};
use crate::bent::{self, Leg, LegKind, NoWay};
use crate::build::skeleton::{MOST_MEMBERS, Skeleton};
use crate::build::spec::{SectionSpec, Shapes, Spec, Spoken, Turn, Usual};
use crate::choices::Alignment;
use crate::model::{Bending, CentrelineSegment, Member, MemberOf};
use crate::profile::Profile;

pub static VERB: Verb = Verb {
    tag: "bent_bar",
    stem: "bent",
    about: "A bent bar, tube or flat: straight legs, bends and spirals in their order, or the points where \
        its legs meet, each with the radius of the drawn line.",
    role: Role::Member,
    starts: &[Start {
        key: '2',
        name: "bent bar",
        mm: "bent bar: 200, bend 90° R40, 100",
        inch: "bent bar: 8, bend 90° R1 1/2, 4",
    }],
    offers: &[],
    sentence: &[
        verb("Bent bar|bent bar"),
        aside(&[word("called"), Slot::new("/name", "call", Kind::Text).empty("bent bar").part()]),
        aside(&[word("from"), Slot::new("/from", "start", Kind::Node).empty("the origin").part()]),
        clause(&[pick("/heading", "heading", HEADINGS)]),
        clause(&[aloud("of"), Slot::new("/section", "section", Kind::Section).empty("usual section").part()]),
        clause(&[pick("/sits", "sits", super::members::SITS)]),
        clause(&[word("turned|turned|turn"), angle_or("/turn", "turn", "not")]),
        clause(&[pick(
            "/told",
            "legs are told",
            &[
                ("tangents", "legs to their tangents|to tangents"),
                ("corners", "legs to their corners|to corners"),
            ],
        )]),
        clause(&[quiet_union(
            "/neutral",
            "kind",
            "what keeps its length",
            &[
                case("middle", "by its middle", &[], ["", ""]),
                case("k", "by K", &[Slot::new("/k", "K-factor", Kind::Number).part()], ["0.45", "0.45"]),
                case(
                    "test",
                    "by the test bend|by test bend",
                    &[name("/name", "test bend", Kind::Test)],
                    ["T-1", "T-1"],
                ),
            ],
        )]),
        clause(&[word("clamp"), length_or("/clamp", "straight that the bender needs", "not looked at")]),
        clause(&[
            word("material"),
            Slot::new("/material", "material of the bar", Kind::Material).empty("as usual").part(),
        ]),
        sign(":"),
        Part::List(List {
            path: "/legs",
            label: "leg",
            item: &[union("", "kind", "kind", LEGS)],
            lead: "",
            between: ",",
            ids: Ids::None,
            least: 1,
            adds: &[
                ("a bend and a leg", "bend 90° R40; 100", "bend 90° R1 1/2; 4"),
                ("a spiral", "spiral 360° R20 to R60", "spiral 360° R3/4 to R2 1/2"),
                ("a leg", "100", "4"),
                ("a twist and a leg", "twist 90° over 100; 100", "twist 90° over 4; 4"),
                ("a point", "point (100, 0, 0)", "point (4, 0, 0)"),
            ],
            close: false,
            chain: true,
        }),
    ],
    examples: &[
        "bent bar, ROUND 16: 200, bend 90° R40, 60, bend 90° R40 turned 90°, 200",
        "bent bar called \"U-bolt\", up, ROUND 10: 70, bend 180° R27 east, 70",
        "bent bar called \"hook\", up, ROUND 12: 150, bend 180° R30 east, 40",
        "bent bar from A, CHS 33.7x2.6, by K 0.45, clamp 60: 300, bend 45° R100 north, 200",
        "bent bar called \"scroll\", FLAT 20x6, turned 90°: spiral 540° R12 to R80",
        "bent bar, FLAT 30x6: 80, twist 90° over 120, 60, bend 90° R20 up, 80",
        "bent bar, ROUND 10: point (300, 0, 0) R25, point (300, 0, 120) R25, point (300, 80, 120)",
    ],
};

word! {
    /// What the lengths of legs run to.
    pub enum LegsTold {
        /// To where bends begin.
        #[default]
        Tangents,
        /// To where the drawn lines meet.
        Corners,
    }
}

choice! {
    /// The line of the section that keeps its length where the bar is bent.
    pub enum NeutralLine by "kind" {
        Middle {},
        /// Its place from the inside of the bend to the outside, from 0 to 1.
        K { k: String },
        /// As a test bend of the job says.
        Test { name: String },
    }
}

impl Default for NeutralLine {
    fn default() -> Self {
        NeutralLine::Middle {}
    }
}

impl NeutralLine {
    pub fn is_middle(&self) -> bool {
        matches!(self, NeutralLine::Middle {})
    }
}

spoken! {
    /// A bent bar, told leg by leg or by points.
    pub struct BentBarSaid {
        #[serde(skip_serializing_if = "String::is_empty")]
        pub name: String,
        /// Node that it starts at; empty for the origin.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub from: String,
        pub heading: BarHeading,
        /// Empty for the frame's usual section.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub section: String,
        /// Id of a material; empty for the frame's.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub material: String,
        /// About its own line, from long side up (where it starts upright: long side north).
        #[serde(skip_serializing_if = "String::is_empty")]
        pub turn: String,
        #[serde(skip_serializing_if = "Alignment::is_middle")]
        pub sits: Alignment,
        pub told: LegsTold,
        #[serde(skip_serializing_if = "NeutralLine::is_middle")]
        pub neutral: NeutralLine,
        /// Straight that the bender needs before, between and behind bends; empty where it is not looked at.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub clamp: String,
        pub legs: Vec<BarLeg>,
    }
}

/// A bent bar, read; lengths in mm, angles in rad.
struct BentBarSpec {
    call: String,
    from: String,
    section: SectionSpec,
    material: Arc<Material>,
    turn: f64,
    sits: Alignment,
    course: Course,
    bending: Bending,
}

/// How its way is told.
enum Course {
    Legs {
        heading: DVec3,
        legs: Vec<Leg>,
        to_corners: bool,
    },
    /// Steps from the start, with the radius at each.
    Points(Vec<(DVec3, f64)>),
}

/// Legs of one bar.
const MOST: usize = 500;
/// Arcs and straights that it may come to: a spiral has many.
const MOST_ARCS: usize = 4_000;

impl Spoken for BentBarSaid {
    fn read(&self, reader: &mut Reader, usual: &Usual) -> Option<Spec> {
        let section = usual.section(reader, "/say/section", &self.section);
        let material = usual.material(reader, "/say/material", &self.material);
        let turn = reader.angle_or("/say/turn", &self.turn, 0.0);
        let clamp = reader.length_if("/say/clamp", &self.clamp, Range::AboveZero);
        let neutral = self.neutral(reader, usual);
        let course = self.course(reader);
        let call = if self.name.trim().is_empty() { "bent bar" } else { self.name.trim() };
        Some(Spec::Shapes(Box::new(BentBarSpec {
            call: call.into(),
            from: self.from.clone(),
            section: section?,
            material: material?,
            turn: turn?,
            sits: self.sits,
            course: course?,
            bending: Bending { clamp: clamp?, ..neutral? },
        })))
    }
}

impl BentBarSaid {
    fn neutral(&self, reader: &mut Reader, usual: &Usual) -> Option<Bending> {
        match &self.neutral {
            NeutralLine::Middle {} => Some(Bending::default()),
            NeutralLine::K { k } => {
                let at = "/say/neutral/k";
                let told = reader.number(at, k)?;
                if !(0.0..=1.0).contains(&told) {
                    reader.refuse(
                        at,
                        k,
                        "K lies between 0, the inside, and 1, the outside",
                        "write 0.3 to 0.5",
                    );
                    return None;
                }
                Some(Bending { neutral: told, ..Bending::default() })
            }
            NeutralLine::Test { name } => {
                let tests = &usual.shop.sheet.bends.tests;
                let Some(test) = tests.iter().find(|t| t.id == name.trim()) else {
                    let known: Vec<&str> = tests.iter().map(|t| t.id.as_str()).take(8).collect();
                    let mend = match known.as_slice() {
                        [] => "log one in the job's settings, its thickness the depth of the bar".to_string(),
                        known => format!("name one of {}", known.join(", ")),
                    };
                    let message = format!("no test bend is called '{}'", name.trim());
                    reader.refuse("/say/neutral/name", name, message, mend);
                    return None;
                };
                Some(Bending { neutral: test.k(), by: test.id.clone(), clamp: None })
            }
        }
    }

    fn course(&self, reader: &mut Reader) -> Option<Course> {
        if self.legs.is_empty() || self.legs.len() > MOST {
            let message = format!("a bar of {} legs cannot be made", self.legs.len());
            reader.refuse_at("/say/legs", message, format!("tell 1 to {MOST} legs, bends and spirals"));
            return None;
        }
        let is_point = |l: &BarLeg| matches!(l, BarLeg::Point { .. });
        let by_points = is_point(&self.legs[0]);
        if let Some(at) = self.legs.iter().position(|l| is_point(l) != by_points) {
            let mend = "tell all of it by points, or all of it by legs and bends";
            reader.refuse_at(&format!("/say/legs/{at}/kind"), "points and legs are mixed", mend);
            return None;
        }
        if by_points {
            let read = |(at, l): (usize, &BarLeg)| point(reader, at, l);
            let points: Vec<_> = self.legs.iter().enumerate().map(read).collect();
            return Some(Course::Points(points.into_iter().collect::<Option<_>>()?));
        }
        let straight = |l: Option<&BarLeg>| matches!(l, Some(BarLeg::Straight { .. }));
        let beside = |at: usize| [at.checked_sub(1).and_then(|k| self.legs.get(k)), self.legs.get(at + 1)];
        let twists = self.legs.iter().enumerate().filter(|l| matches!(l.1, BarLeg::Twist { .. }));
        for (at, _) in twists {
            if !beside(at).into_iter().all(straight) {
                let mend = "tell a straight leg before and behind it";
                reader.refuse_at(
                    &format!("/say/legs/{at}/kind"),
                    "a twist begins and ends in straights",
                    mend,
                );
                return None;
            }
            if !self.sits.is_middle() {
                let mend = "let the bar sit on its middle";
                reader.refuse_at("/say/sits", "a bar is twisted about its own middle", mend);
                return None;
            }
        }
        let read = |(at, l): (usize, &BarLeg)| Some(Leg { at, kind: leg(reader, at, l)? });
        let legs: Vec<_> = self.legs.iter().enumerate().map(read).collect();
        Some(Course::Legs {
            heading: self.heading.unit(),
            legs: legs.into_iter().collect::<Option<_>>()?,
            to_corners: self.told == LegsTold::Corners,
        })
    }
}

impl Shapes for BentBarSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let from = match self.from.trim() {
            "" => DVec3::ZERO,
            name => skeleton.nodes[skeleton.known(turn.tell, "/say/from", name)?].at,
        };
        if skeleton.members.len() >= MOST_MEMBERS {
            let message = format!("the frame has more than {MOST_MEMBERS} members");
            turn.tell.refuse_at("/say/legs", message, "split the frame");
            return None;
        }
        let profile = skeleton.profile(&self.section);
        let way = self.way(turn, from, &skeleton.profiles[profile])?;
        let shift = skeleton.profiles[profile].sits(self.sits);
        let ends = [way.first()?.at(0.0), way.last()?.at(1.0)].map(|bar| bar.point(shift, 0.0));
        let nodes = [("start", ends[0]), ("end", ends[1])].map(|(name, at)| {
            let name = reference::part(turn.line, name);
            skeleton.put(&name, at, turn.line, None)
        });
        let [Some(a), Some(b)] = nodes else {
            turn.tell.refuse_at("/say/legs", "the frame has too many nodes", "split the frame");
            return None;
        };
        let of = MemberOf { profile, material: self.material.clone() };
        let member = Member {
            sits: shift,
            bending: self.bending.clone(),
            ..Member::new(turn.line, &self.call, of, [a, b], way)
        };
        skeleton.keep(member, None);
        Some(())
    }
}

impl BentBarSpec {
    fn way(&self, turn: &mut Turn, from: DVec3, profile: &Profile) -> Option<Vec<CentrelineSegment>> {
        let display = turn.tell.display;
        let told = match &self.course {
            Course::Legs { heading, legs, to_corners } => Ok((*heading, legs.clone(), *to_corners)),
            Course::Points(points) => bent::by_points(DVec3::ZERO, points).map(|(d, legs)| (d, legs, true)),
        };
        let made = told.and_then(|(heading, legs, to_corners)| {
            let way = bent::walked(from, heading, self.turn, &legs, to_corners, &display)?;
            coils(&legs, &way, profile, &display).map_or(Ok(way), Err)
        });
        let fault = |tell: &mut Tell, why: NoWay| {
            tell.refuse_at(&format!("/say/legs/{}{}", why.at, why.field), why.message, why.mend);
        };
        let way = made.map_err(|why| fault(turn.tell, why)).ok()?;
        if way.len() > MOST_ARCS {
            let message = format!("the bar has more than {MOST_ARCS} arcs and straights");
            turn.tell.refuse_at("/say/legs", message, "write fewer spirals, or shorter ones");
            return None;
        }
        if way.is_empty() {
            turn.tell.refuse_at("/say/legs", "nothing of the bar is left", "write longer legs");
            return None;
        }
        bent::seated(way, profile, self.sits)
            .map_err(|(message, mend)| turn.tell.refuse_at("/say/legs", message, mend))
            .ok()
    }
}

/// Why the coils of a spiral run into one another, if they do.
fn coils(legs: &[Leg], way: &[CentrelineSegment], profile: &Profile, display: &Display) -> Option<NoWay> {
    let deep = way.iter().filter_map(|s| bent::depth(profile, s)).map(|(_, deep)| deep);
    let deep = deep.reduce(f64::max)?;
    legs.iter().find_map(|leg| {
        let LegKind::Spiral { angle, radii, .. } = leg.kind else { return None };
        let growth = (radii[1] - radii[0]).abs() / angle * TAU;
        (angle > TAU && growth < deep).then(|| NoWay {
            at: leg.at,
            field: "/until",
            message: format!(
                "the coils grow by {} a turn, and the bar is {} deep: they run into one another",
                display.length_unit(growth),
                display.length_unit(deep)
            ),
            mend: "let the radius change by more, or turn it by less".into(),
        })
    })
}

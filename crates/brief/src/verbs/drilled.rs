//! `tapped hole C M8, 14 deep, 4 off`: drilled holes as a drawing names them, with depth, head and side.

use grammar::*;
use ground::reader::{Range, Reader};
use ground::word;
use sheet::{Bore, BoreKind};
use shop::threads::{thread, threads_like};

use super::hole::{families, read_count, ties_of};
use super::{Limits, Look, Quantity, Reading, Spoken, Standing, Tie, Wanted, is_within};
use crate::model::Thing;

pub static VERB: Verb = Verb {
    tag: "drilled",
    stem: "drilled",
    about: "Drilled holes of one kind: tapped, countersunk, counterbored, spot-faced, blind.",
    role: Role::Other,
    starts: &[Start { key: 'b', name: "tapped holes", mm: "tapped hole M8", inch: "tapped hole 1/4-20" }],
    offers: &[],
    sentence: &[
        beginning(
            "/hole",
            "kind",
            "kind of hole",
            &[
                case("tapped", "Tapped hole|tapped hole|tapped holes|tapped", TAPPED, ["M8", "1/4-20"]),
                case(
                    "countersunk",
                    "Countersunk hole|countersunk hole|countersunk holes|countersunk",
                    COUNTERSUNK,
                    ["⌀9, head ⌀17.92 at 90°", "⌀0.221, head ⌀0.385 at 82°"],
                ),
                case(
                    "counterbored",
                    "Counterbored hole|counterbored hole|counterbored holes|counterbored",
                    COUNTERBORED,
                    ["⌀9, bore ⌀15, 8.6 deep", "⌀0.344, bore ⌀0.5312, 0.3125 deep"],
                ),
                case(
                    "spot_faced",
                    "Spot-faced hole|spot-faced hole|spot-faced holes|spot-faced",
                    SPOT_FACED,
                    ["⌀9, face ⌀20, 1 deep", "⌀0.344, face ⌀3/4, 1/32 deep"],
                ),
                case(
                    "blind",
                    "Blind hole|blind hole|blind holes|blind",
                    BLIND,
                    ["⌀8, 10 deep", "⌀5/16, 3/8 deep"],
                ),
            ],
        ),
        clause(&[pick(
            "/side",
            "side",
            &[
                ("either", "from either side"),
                ("front", "from the front|from the front|front"),
                ("back", "from the back|from the back|back"),
            ],
        )]),
        clause(&[Slot::new("/count", "count", Kind::Count).usual("1").part(), word("off")]),
        clause(&[word("is"), names_or("/is", "hole of the model", Kind::Thing, "not tied")]),
    ],
    examples: &[
        "tapped hole C M8, 14 deep, 4 off, is drill-2",
        "tapped hole #8-32, 0.2875 deep, from the back, 4 off",
        "countersunk hole ⌀9, head ⌀17.92 at 90°, 2 off",
        "counterbored hole D ⌀11, bore ⌀18, 10.6 deep, from the back, 2 off",
        "blind hole ⌀8, 10 deep",
    ],
};

const LABEL: Part = Slot::new("/label", "letter on the drawing", Kind::Letter).empty("").part();
const TAPPED: &[Part] = &[
    LABEL,
    Slot::new("/thread", "thread", Kind::Thread).part(),
    clause(&[length_or("/depth", "depth of thread", "through"), word("deep")]),
];
const COUNTERSUNK: &[Part] = &[
    LABEL,
    diameter("/diameter", "diameter"),
    sign(","),
    printed("head"),
    diameter("/wider", "head diameter"),
    printed("at"),
    angle("/angle", "angle of the cone"),
];
const COUNTERBORED: &[Part] = &[
    LABEL,
    diameter("/diameter", "diameter"),
    sign(","),
    printed("bore"),
    diameter("/wider", "bore diameter"),
    sign(","),
    length("/depth", "depth of bore"),
    printed("deep"),
];
const SPOT_FACED: &[Part] = &[
    LABEL,
    diameter("/diameter", "diameter"),
    sign(","),
    printed("face"),
    diameter("/wider", "face diameter"),
    sign(","),
    length("/depth", "depth of face"),
    printed("deep"),
];
const BLIND: &[Part] =
    &[LABEL, diameter("/diameter", "diameter"), sign(","), length("/depth", "depth"), printed("deep")];

word! {
    pub enum DrilledKind {
        #[default]
        Tapped,
        Countersunk,
        Counterbored,
        SpotFaced,
        Blind,
    }
}

word! {
    /// The face that the drawing has them from.
    pub enum DrilledSide {
        #[default]
        Either,
        Front,
        Back,
    }
}

spoken! {
    /// What a drawing says of a drilled hole.
    pub struct DrilledHole {
        pub kind: DrilledKind,
        /// What the drawing calls it.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub label: String,
        /// Of a tapped one.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub thread: String,
        /// Of the others.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub diameter: String,
        /// Of the head, the bore or the face.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub wider: String,
        /// Whole angle of a countersink.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub angle: String,
        /// Of the thread, the bore, the face or the blind hole.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub depth: String,
    }
}

spoken! {
    /// Drilled holes of one kind.
    pub struct DrilledFigure {
        pub hole: DrilledHole,
        pub side: DrilledSide,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub count: String,
        /// Holes of the model or the lines that make them; copies go with the one they are copies of.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub is: Vec<String>,
    }
}

/// A size of a hole: what the drawing has, and how the model's is found.
struct Size {
    what: &'static str,
    quantity: Quantity,
    nominal: f64,
    /// By the drawing's class; else it is this or another.
    general: bool,
    more: [&'static str; 2],
    /// Of an angle, mm.
    shorter: Option<f64>,
    of: fn(&Bore) -> Option<f64>,
}

struct DrilledSpec {
    kind: DrilledKind,
    sizes: Vec<Size>,
    /// A thread that goes through.
    through: bool,
    side: DrilledSide,
    count: usize,
    is: Vec<String>,
}

const LARGE: [&str; 2] = ["too large", "too small"];
const DEEP: [&str; 2] = ["too deep", "too shallow"];
const MANY: [&str; 2] = ["too many", "too few"];

fn size(what: &'static str, nominal: f64, more: [&'static str; 2], of: fn(&Bore) -> Option<f64>) -> Size {
    Size { what, quantity: Quantity::Length, nominal, general: true, more, shorter: None, of }
}

fn wider(b: &Bore) -> Option<f64> {
    b.mouth.map(|m| m.diameter)
}

fn told_depth(b: &Bore) -> Option<f64> {
    b.mouth.map(|m| m.flat).or(b.told_depth())
}

impl Spoken for DrilledFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let hole = &self.hole;
        let count = read_count(reader, &self.count);
        let mut sizes = Vec::new();
        let length = |reader: &mut Reader, field: &str, text: &str| {
            reader.length(&format!("/say/hole/{field}"), text, Range::AboveZero)
        };
        let through = hole.kind == DrilledKind::Tapped && hole.depth.trim().is_empty();
        if hole.kind == DrilledKind::Tapped {
            let Some(t) = thread(&hole.thread) else {
                let message = format!("no table here has a thread '{}'", hole.thread.trim());
                reader.refuse("/say/hole/thread", &hole.thread, message, threads_like(&hole.thread));
                return None;
            };
            // A thread is this one or another: nothing is allowed beside it.
            let exact = |s: Size| Size { general: false, ..s };
            sizes.push(exact(size("thread", t.major, LARGE, |b| tapped(b).map(|t| t.major))));
            sizes.push(exact(size("pitch", t.pitch, LARGE, |b| tapped(b).map(|t| t.pitch))));
        } else {
            let d = length(reader, "diameter", &hole.diameter);
            sizes.push(size("diameter", d?, LARGE, |b| Some(b.diameter)));
        }
        match hole.kind {
            DrilledKind::Countersunk => {
                let head = length(reader, "wider", &hole.wider);
                let angle = reader.angle("/say/hole/angle", &hole.angle);
                let (head, angle) = (head?, angle?);
                // Of a cone the side of the angle is its slant.
                let slant = (head - sizes[0].nominal) / 2.0 / (angle / 2.0).sin();
                sizes.push(size("head", head, LARGE, wider));
                let cone = size("angle", angle, LARGE, |b| b.mouth.map(|m| m.angle));
                sizes.push(Size { quantity: Quantity::Angle, shorter: Some(slant.abs()), ..cone });
            }
            DrilledKind::Counterbored | DrilledKind::SpotFaced => {
                let head = length(reader, "wider", &hole.wider);
                let what = if hole.kind == DrilledKind::SpotFaced { "face" } else { "bore" };
                sizes.push(size(what, head?, LARGE, wider));
            }
            DrilledKind::Tapped | DrilledKind::Blind => {}
        }
        if !through && hole.kind != DrilledKind::Countersunk {
            let depth = length(reader, "depth", &hole.depth);
            sizes.push(size("depth", depth?, DEEP, told_depth));
        }
        let (kind, side, is) = (hole.kind, self.side, self.is.clone());
        Some(Box::new(DrilledSpec { kind, sizes, through, side, count: count?, is }))
    }

    fn label(&self) -> Option<(&str, &[String])> {
        let label = &self.hole.label;
        (!label.is_empty()).then_some((label.as_str(), &self.is))
    }
}

fn tapped(b: &Bore) -> Option<&'static shop::threads::Thread> {
    if let BoreKind::Tapped { thread, .. } = b.kind { Some(thread) } else { None }
}

impl DrilledKind {
    fn is(self, b: &Bore) -> bool {
        matches!(
            (self, &b.kind),
            (DrilledKind::Tapped, BoreKind::Tapped { .. })
                | (DrilledKind::Countersunk, BoreKind::Countersunk)
                | (DrilledKind::Counterbored, BoreKind::Counterbored)
                | (DrilledKind::SpotFaced, BoreKind::SpotFaced)
                | (DrilledKind::Blind, BoreKind::Blind)
        )
    }

    fn said(self) -> &'static str {
        match self {
            DrilledKind::Tapped => "tapped",
            DrilledKind::Countersunk => "countersunk",
            DrilledKind::Counterbored => "counterbored",
            DrilledKind::SpotFaced => "spot-faced",
            DrilledKind::Blind => "blind",
        }
    }
}

impl DrilledSpec {
    fn limits(&self, at: &Standing, s: &Size) -> Limits {
        let by = match (s.general, s.quantity) {
            (false, _) => Some(0.0),
            (true, Quantity::Angle) => Some(at.class.angle(s.shorter)),
            (true, _) => at.class.length(s.nominal),
        };
        by.map(|by| (s.nominal - by, s.nominal + by))
    }

    /// The measure that is furthest from what was told.
    fn worst(&self, s: &Size, bores: &[(&Thing, &Bore)]) -> Result<f64, String> {
        let mut worst: Option<f64> = None;
        for (t, b) in bores {
            let Some(v) = (s.of)(b) else { return Err(format!("{} has no {}", t.said, s.what)) };
            if worst.is_none_or(|w| (v - s.nominal).abs() > (w - s.nominal).abs()) {
                worst = Some(v);
            }
        }
        worst.ok_or_else(|| format!("the model has no hole called '{}'", self.is.join("' or '")))
    }

    /// The drilled holes of these, or the first that is none of this kind.
    fn bores<'t>(&self, found: &[&'t Thing]) -> Result<Vec<(&'t Thing, &'t Bore)>, String> {
        let of = |t: &&'t Thing| match t.bore.as_deref().filter(|b| self.kind.is(b)) {
            Some(b) => Ok((*t, b)),
            None => Err(format!("{} is not {}", t.said, self.kind.said())),
        };
        found.iter().map(of).collect()
    }

    fn fits(&self, at: &Standing, b: &Bore) -> bool {
        let sized = |s: &Size| (s.of)(b).is_some_and(|v| is_within(self.limits(at, s), v));
        self.kind.is(b) && self.sizes.iter().all(sized) && (!self.through || b.through()) && self.side.is(b)
    }
}

impl DrilledSide {
    fn is(self, b: &Bore) -> bool {
        match self {
            DrilledSide::Either => true,
            DrilledSide::Front => !b.back,
            DrilledSide::Back => b.back,
        }
    }
}

impl Wanted for DrilledSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        let found = families(at, &self.is);
        let bores = self.bores(&found);
        let reading = |measured: Result<f64, String>| {
            if self.is.is_empty() { Reading::Untied } else { Reading::of(measured, &found) }
        };
        let of = |s: &Size| Look {
            what: s.what,
            quantity: s.quantity,
            nominal: s.nominal,
            limits: self.limits(at, s),
            by: if s.general { at.class.said().into() } else { String::new() },
            more: s.more,
            reading: reading(bores.clone().and_then(|b| self.worst(s, &b))),
        };
        let mut out: Vec<Look> = self.sizes.iter().map(of).collect();
        let n = self.count as f64;
        let mut counted = |what, measured: &dyn Fn(&Bore) -> bool| {
            let count = |b: Vec<(&Thing, &Bore)>| match b.len() {
                0 => Err(format!("the model has no hole called '{}'", self.is.join("' or '"))),
                _ => Ok(b.iter().filter(|b| measured(b.1)).count() as f64),
            };
            out.push(Look {
                what,
                quantity: Quantity::Count,
                nominal: n,
                limits: Some((n, n)),
                by: String::new(),
                more: MANY,
                reading: reading(bores.clone().and_then(count)),
            });
        };
        if self.through {
            counted("through", &|b| b.through());
        }
        match self.side {
            DrilledSide::Either => counted("count", &|_| true),
            DrilledSide::Front => counted("count from the front", &|b| !b.back),
            DrilledSide::Back => counted("count from the back", &|b| b.back),
        }
        out
    }

    fn ties(&self, at: &Standing) -> Vec<Tie> {
        if !self.is.is_empty() {
            return Vec::new();
        }
        let fits = |t: &&Thing| t.bore.as_deref().is_some_and(|b| self.fits(at, b));
        let value = self.sizes.first().map_or(0.0, |s| s.nominal);
        ties_of(at, &fits, self.count, value)
    }
}

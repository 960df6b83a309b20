//! `angle of fold-1.bend 90°`, `angle of a to b 120°`: a bend by what it is bent, or two things by what they
//! enclose.

use grammar::*;
use ground::reader::Reader;

use super::tolerance::{self, ANGLE_TOLERANCE, Allowed};
use super::{Limits, Look, Quantity, Reading, Spoken, Standing, Tie, Tolerance, Wanted, is_within};
use crate::measure::angle as between;
use crate::model::{Bent, Thing, ThingKind};

pub static VERB: Verb = Verb {
    tag: "angle",
    stem: "angle",
    about: "The angle that a bend is bent by, or the angle that two panels or bars enclose.",
    role: Role::Other,
    starts: &[Start { key: 'a', name: "angle", mm: "angle 90", inch: "angle 90" }],
    offers: &[],
    sentence: &[
        verb("Angle|angle"),
        Clause::new(&[
            word("of"),
            name("/of", "bend or panel", Kind::Thing),
            Clause::new(&[word("to"), name("/to", "other panel", Kind::Thing)])
                .close()
                .shown(When::Told("/to"))
                .part(),
        ])
        .close()
        .shown(When::Is("/count", &[""]))
        .part(),
        grammar::angle("/value", "angle"),
        ANGLE_TOLERANCE,
        clause(&[Slot::new("/count", "count", Kind::Count).usual("1").part(), word("off")]),
    ],
    examples: &["angle of fold-1.north.bend 90°", "angle of start-1.a to start-1.b 105° ± 1°", "angle 75°"],
};

spoken! {
    /// An angle.
    pub struct AngleFigure {
        /// A bend, or the first of two panels or bars.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub of: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub to: String,
        pub value: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub tolerance: Option<Tolerance>,
        /// How many bends have it.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub count: String,
    }
}

struct AngleSpec {
    of: String,
    to: String,
    value: f64,
    allowed: Allowed,
    /// Where several bends have it.
    count: Option<usize>,
}

impl Spoken for AngleFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let value = reader.angle("/say/value", &self.value);
        let allowed = tolerance::read_angle(self.tolerance.as_ref(), reader);
        let count = if self.count.trim().is_empty() {
            Some(None)
        } else {
            reader.count("/say/count", &self.count, 1, 1000).map(Some)
        };
        Some(Box::new(AngleSpec {
            of: self.of.clone(),
            to: self.to.clone(),
            value: value?,
            allowed: allowed?,
            count: count?,
        }))
    }
}

impl AngleSpec {
    /// The measure, and the shorter side of the angle where it is known.
    fn measured(&self, at: &Standing) -> (Reading, Option<f64>) {
        if self.of.is_empty() {
            return (Reading::Untied, None);
        }
        let a = match at.thing(&self.of) {
            Ok(t) => t,
            Err(why) => return (Reading::Lost(why), None),
        };
        if self.to.is_empty() {
            return match a.bent {
                Some(b) => (Reading::Is(b.angle, vec![a.name]), Some(b.shorter)),
                None => (Reading::Lost(format!("{} is no bend: say to what", a.said)), None),
            };
        }
        match at.thing(&self.to) {
            Ok(b) => (Reading::of(between(&a, &b), &[&a, &b]), None),
            Err(why) => (Reading::Lost(why), None),
        }
    }

    /// Where several bends have it: the one of them that departs most, and how many they are.
    fn look_at_all(&self, at: &Standing, n: usize) -> Vec<Look> {
        let off = |b: &Bent| (b.angle - self.value).abs();
        let found = self.fitting(at);
        let worst = found.iter().max_by(|a, b| off(&a.1).total_cmp(&off(&b.1)));
        let names: Vec<String> = found.iter().map(|f| f.0.name.clone()).collect();
        let row = |what, quantity, nominal, limits, more, reading| Look {
            what,
            quantity,
            nominal,
            limits,
            by: self.allowed.said(at.class.said()),
            more,
            reading,
        };
        let angle = match worst {
            Some((_, b)) => Reading::Is(b.angle, names.clone()),
            None => Reading::Lost("no bend is bent so".into()),
        };
        let limits = self.limits(at, worst.map(|w| w.1.shorter));
        let count = n as f64;
        vec![
            row("angle", Quantity::Angle, self.value, limits, ["too much", "too little"], angle),
            row(
                "count",
                Quantity::Count,
                count,
                Some((count, count)),
                ["too many", "too few"],
                Reading::Is(names.len() as f64, names),
            ),
        ]
    }

    /// Bends that are bent so, each by what its own sides allow.
    fn fitting<'m>(&self, at: &'m Standing) -> Vec<(&'m Thing, Bent)> {
        let all = at.model.of_kind(ThingKind::Bend).filter_map(|t| Some((t, t.bent?)));
        all.filter(|(_, b)| is_within(self.limits(at, Some(b.shorter)), b.angle)).collect()
    }

    fn limits(&self, at: &Standing, shorter: Option<f64>) -> Limits {
        self.allowed.limits(self.value, Some(at.class.angle(shorter)))
    }
}

impl Wanted for AngleSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        if let Some(n) = self.count {
            return self.look_at_all(at, n);
        }
        let (reading, shorter) = self.measured(at);
        let mut by = self.allowed.said(at.class.said());
        if self.allowed == Allowed::General && shorter.is_none() && matches!(reading, Reading::Is(..)) {
            by += ", its narrowest";
        }
        vec![Look {
            what: "",
            quantity: Quantity::Angle,
            nominal: self.value,
            limits: self.limits(at, shorter),
            by,
            more: ["too much", "too little"],
            reading,
        }]
    }

    fn ties(&self, at: &Standing) -> Vec<Tie> {
        if !self.of.is_empty() || self.count.is_some() {
            return Vec::new();
        }
        self.fitting(at).into_iter().map(|(t, b)| Tie::one("/say/of", t, b.angle, 0)).collect()
    }
}

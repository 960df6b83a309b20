//! `path`: the same cuts evenly along a told path.

use glam::DVec2;
use grammar::*;
use ground::geom::Segment;
use ground::geom::{COINCIDENT, ROUNDING};
use ground::reader::Reader;
use ground::reference;

use super::shape::{Point, points};
use crate::flat::copies::{targets, within_limits};
use crate::flat::feature::{Feature, MOST_FEATURES};
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "path",
    stem: "path",
    about: "The same cuts evenly along a told path, whose points are told from the first cut.",
    role: Role::Cut,
    starts: &[Start {
        key: 'y',
        name: "path",
        mm: "path $cut, 4 altogether: (40, 20)",
        inch: "path $cut, 4 altogether: (1 1/2, 1)",
    }],
    offers: &[],
    sentence: &[
        verb("Lay along a path|path"),
        names("/of", "cuts along the path", Kind::Cut),
        must(&[count("/count", "count"), printed("altogether")]),
        clause(&[flag(
            "/turned",
            "turned or upright",
            &[("false", "kept upright"), ("true", "turned with it|turned")],
        )]),
        sign(":"),
        points("/points", "point", 0),
    ],
    examples: &["path punch-1, 4 altogether: (40, 20) (80, 0)"],
};

spoken! {
    /// The same cuts evenly along a told path; the first stays where it is, and the path starts there.
    pub struct Path {
        pub of: Vec<String>,
        pub count: String,
        /// Open: the bulge of the last point is not used. Points relative to the first cut.
        pub points: Vec<Point>,
        /// Turned with the path.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub turned: bool,
    }
}

struct PathSpec {
    of: Vec<String>,
    count: usize,
    /// From the first cut on, which lies at the origin.
    segments: Vec<Segment>,
    turned: bool,
}

/// Points of one path.
const MOST_POINTS: usize = 2_000;

impl Spoken for Path {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let count = reader.count("/say/count", &self.count, 2, MOST_FEATURES);
        if !(1..=MOST_POINTS).contains(&self.points.len()) {
            reader.refuse_at(
                "/say/points",
                format!("a path of {} points leads nowhere", self.points.len()),
                "tell 1 to 2,000 points, from the first cut on",
            );
            return None;
        }
        let mut segments = Vec::new();
        let (mut from, mut bulge) = (DVec2::ZERO, 0.0);
        for (i, p) in self.points.iter().enumerate() {
            let (to, next) = p.read(reader, &format!("/say/points/{i}"))?;
            if to.distance(from) > COINCIDENT {
                segments.push(Segment { a: from, b: to, bulge });
            }
            (from, bulge) = (to, next.clamp(-1.0, 1.0));
        }
        if segments.iter().map(Segment::length).sum::<f64>() < 1e-3 {
            reader.refuse_at("/say/points", "the path has no length", "tell a point other than 0, 0");
            return None;
        }
        let (of, turned) = (self.of.clone(), self.turned);
        Some(Spec::Cuts(Box::new(PathSpec { of, count: count?, segments, turned })))
    }
}

impl PathSpec {
    /// The point so far along the path, and the way it goes there, rad.
    fn at(&self, mut along: f64) -> (DVec2, f64) {
        for g in &self.segments {
            if along <= g.length() + ROUNDING {
                let at = g.at((along / g.length()).clamp(0.0, 1.0));
                let round = |a: ground::geom::Arc| (at - a.centre).perp() * a.sweep.signum();
                return (at, g.arc().map_or_else(|| g.tangent(false), round).to_angle());
            }
            along -= g.length();
        }
        self.segments.last().map_or((DVec2::ZERO, 0.0), |g| (g.b, g.tangent(true).to_angle()))
    }
}

impl Cuts for PathSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let features = targets(turn, &self.of, standing)?;
        if !within_limits(turn, "/say/count", &features, self.count, standing) {
            return None;
        }
        let total: f64 = self.segments.iter().map(Segment::length).sum();
        let (at, start, origin) = (turn.at, self.at(0.0).1, features.first()?.centre);
        let mut out = Vec::new();
        for k in 1..self.count {
            ground::halt::point();
            let (by, heading) = self.at(total * k as f64 / (self.count - 1) as f64);
            for f in &features {
                let name = reference::copy(&reference::part(at.line, &f.name), k + 1);
                let member = if self.turned {
                    f.turned(name.clone(), at.index, origin, heading - start)
                } else {
                    f.clone()
                };
                out.push(member.moved(name, at.index, by));
            }
        }
        Some(out)
    }
}

//! `plate` of a frame: a plate cut to fit between members that close a ring; it follows them.

use glam::{DVec2, DVec3};
use grammar::*;
use ground::geom::COINCIDENT;
use ground::geom::{Contour, first_crossing};
use ground::reader::{Range, Reader};

use super::cap::THICK;
use crate::build::plates::Cutting;
use crate::build::skeleton::{SAME, Skeleton};
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};
use crate::model::Member;

pub static VERB: Verb = Verb {
    tag: "fit",
    stem: "plate",
    about: "A plate cut to fit between members that close a ring, or over them; it follows them.",
    role: Role::Other,
    starts: &[Start {
        key: 'p',
        name: "plate",
        mm: "plate $nodes, 6 thick",
        inch: "plate $nodes, 1/4 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Plate|plate"),
        flag("/over", "fitted", &[("false", "between"), ("true", "over")]),
        aloud("the members round"),
        row("/around", "around", Kind::Node),
        also(&[flag("/over", "fitted", &[("false", "between"), ("true", "over")])]),
        THICK,
        clause(&[word("clearance"), length_or("/clearance", "clearance", "none")]),
        clause(&[word("off the plane by|off"), length_or("/off", "off", "nothing")]),
    ],
    examples: &["plate over A B C D, 6 thick", "plate A B C D, 6 thick, clearance 1, off 20"],
};

spoken! {
    /// A plate cut to fit between members that close a ring; it follows them.
    pub struct FitSaid {
        /// Nodes round the opening, in turn.
        pub around: Vec<String>,
        pub thickness: String,
        /// Left open all round.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Of the plate's middle from the plane of the nodes, towards the side they run round
        /// counter-clockwise.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub off: String,
        /// Stands over the members instead of between them: to their outer faces.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub over: bool,
    }
}

struct FitSpec {
    around: Vec<String>,
    thickness: f64,
    clearance: f64,
    /// Of its middle from the plane of the nodes; none for where it is usual.
    off: Option<f64>,
    over: bool,
}

impl Spoken for FitSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let clearance = reader.length_or("/say/clearance", &self.clearance, Range::ZeroUp, 0.0);
        let off = reader.length_if("/say/off", &self.off, Range::Any);
        Some(Spec::Plates(Box::new(FitSpec {
            around: self.around.clone(),
            thickness: thickness?,
            clearance: clearance?,
            off: off?,
            over: self.over,
        })))
    }
}

impl Plates for FitSpec {
    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let t = self.thickness;
        let mut at = Vec::new();
        for (i, n) in self.around.iter().enumerate() {
            at.push(skeleton.nodes[skeleton.known(turn.tell, &format!("/say/around/{i}"), n)?].at);
        }
        let k = at.len();
        let normal: DVec3 = (0..k).map(|i| at[i].cross(at[(i + 1) % k])).sum();
        if k < 3 || normal.length() < 1.0 {
            turn.tell.refuse_at(
                "/say/around",
                "these nodes enclose nothing",
                "name three or more nodes round an opening",
            );
            return None;
        }
        let normal = normal.normalize();
        if let Some(i) = at.iter().position(|p| (*p - at[0]).dot(normal).abs() > 0.5) {
            turn.tell.refuse_at(
                &format!("/say/around/{i}"),
                "the nodes do not lie in one plane",
                "leave this node out",
            );
            return None;
        }
        let mut sides = Vec::new();
        let mut rise = f64::NEG_INFINITY;
        for i in 0..k {
            let (a, b) = (at[i], at[(i + 1) % k]);
            let d = (b - a).normalize_or_zero();
            let inward = normal.cross(d);
            let on = |m: &Member| {
                let near = |p: DVec3| {
                    let v = skeleton.nodes[m.from].at - p;
                    let along = (skeleton.nodes[m.to].at - skeleton.nodes[m.from].at).normalize_or_zero();
                    (v - along * v.dot(along)).length() < SAME
                };
                m.is_straight() && near(a) && near(b) && m.end(0).d.dot(d).abs() > 1.0 - COINCIDENT
            };
            let mut inner = f64::NEG_INFINITY;
            for m in skeleton.members.iter().filter(|m| on(m)) {
                let (bar, p) = (m.end(0), &skeleton.profiles[m.profile]);
                let way = if self.over { -inward } else { inward };
                let face = (bar.o - a).dot(way) + p.reach(bar.turned(way).0);
                inner = inner.max(if self.over { -face } else { face });
                rise = rise.max((bar.o - a).dot(normal) + p.reach(bar.turned(normal).0));
            }
            if inner == f64::NEG_INFINITY {
                inner = 0.0;
            }
            let p = a + inward * (inner + self.clearance);
            sides.push((p, d));
        }
        let x = sides[0].1;
        let y = normal.cross(x);
        let flat = |v: DVec3| DVec2::new(v.dot(x), v.dot(y));
        let origin = at[0];
        let mut corners = Vec::new();
        for i in 0..k {
            let ((p, d), (q, e)) = (sides[(i + k - 1) % k], sides[i]);
            let cross = flat(d).perp_dot(flat(e));
            if cross.abs() < COINCIDENT {
                corners.push(flat(q - origin));
                continue;
            }
            let along = flat(q - p).perp_dot(flat(e)) / cross;
            corners.push(flat(p + d * along - origin));
        }
        let outline = Contour::polygon(corners, 0);
        if outline.signed_area() < 1.0 || first_crossing(&outline).is_some() {
            turn.tell.refuse_at(
                "/say/clearance",
                "nothing is left between the members",
                "write a smaller clearance",
            );
            return None;
        }
        let over = if self.over && rise.is_finite() { rise + t / 2.0 } else { 0.0 };
        let off = self.off.unwrap_or(over);
        let weld = outline.perimeter();
        Some(vec![Cutting::new("plate", outline, t, origin + normal * (off - t / 2.0), x, y).welded(weld, t)])
    }
}

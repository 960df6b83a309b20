//! Dimensions that are kept with a piece: what they run between, looked for on the flat as it is cut.

use glam::DVec2;
use ground::geom::{COINCIDENT, CutOutcome, Segment};
use ground::reference;

use super::blank::{Blank, side_called};
use super::corners::{corner_name, names};
use super::feature::Feature;
use super::spec::Turn;

/// Read from a line.
pub struct KeptSpec {
    pub from: String,
    pub to: String,
    /// 0 along east, 1 along north; none for the shortest.
    pub along: Option<usize>,
}

/// A size between two places of the flat.
#[derive(Clone, Debug, PartialEq)]
pub struct KeptSize {
    /// The line that keeps it.
    pub line: String,
    pub from: Spot,
    pub to: Spot,
    /// 0 along east, 1 along north; none where it slants.
    pub along: Option<usize>,
    pub length: f64,
}

/// What a dimension ends at: a point, or any place along a straight line.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Spot {
    /// Where the dimension meets it.
    pub at: DVec2,
    /// Where the line begins and ends; both `at` for a point.
    pub ends: [DVec2; 2],
}

/// Lines that lean to one another by less than this are parallel: 0.01°, rad.
const PARALLEL: f64 = 1.7e-4;

#[derive(Clone, Copy)]
enum Thing {
    Point(DVec2),
    Line(DVec2, DVec2),
}

/// What a dimension may run between: the flat as it is cut, and what cuts it.
pub struct Finished<'a> {
    pub outcome: &'a CutOutcome,
    pub blank: &'a Blank,
    pub tags: &'a [String],
    pub features: &'a [Feature],
}

/// Why it cannot be told, and the mend.
type Refusal = (String, String);

impl Finished<'_> {
    fn thing(&self, name: &str) -> Result<Thing, Refusal> {
        if let Some(k) = self.features.iter().position(|f| f.name == name) {
            if self.outcome.missed.contains(&(k as u32)) {
                return Err((
                    format!("'{name}' meets no sheet: there is nothing to tell a size to"),
                    "move it onto the sheet, or pick something else".into(),
                ));
            }
            return Ok(Thing::Point(self.features[k].centre));
        }
        let bend = |b: &&super::bends::BendFact| b.name == name || b.label == name;
        if let Some(b) = self.blank.bends.iter().find(bend) {
            return Ok(Thing::Line(b.ends[0], b.ends[1]));
        }
        let outer = &self.outcome.outer;
        let long = reference::part(&self.blank.line, name);
        for name in [name, &long] {
            if let Some((a, b)) = side_called(outer, self.tags, &self.blank.zones, name) {
                return Ok(Thing::Line(a, b));
            }
        }
        if let Some(centre) = self.arc(&[name, &long]) {
            return Ok(Thing::Point(centre));
        }
        self.corner(name).ok_or_else(|| self.unknown(name))
    }

    /// The middle of a curved side.
    fn arc(&self, names: &[&str]) -> Option<DVec2> {
        let outer = &self.outcome.outer;
        let own = |i: &usize| {
            let tag = self.tags.get(outer.vertices[*i].tag as usize);
            tag.is_some_and(|t| names.contains(&t.as_str()))
        };
        (0..outer.vertices.len()).filter(own).find_map(|i| outer.segment(i).arc()).map(|a| a.centre)
    }

    /// A corner; where it is rounded or chamfered the sharp one that its sides would meet in.
    fn corner(&self, name: &str) -> Option<Thing> {
        let outer = &self.outcome.outer;
        let short = reference::within(name, &self.blank.line).unwrap_or(name);
        if let Some(c) = names(outer, self.blank, self.tags).iter().find(|c| c.is_called(short)) {
            return Some(Thing::Point(outer.vertices[c.vertex].p));
        }
        let n = outer.vertices.len();
        let tag = |i: usize| self.tags.get(outer.vertices[i].tag as usize).map_or("", String::as_str);
        let said = |i: usize| reference::within(tag(i), &self.blank.line).unwrap_or_else(|| tag(i));
        let worked = |i: &usize| {
            let (before, after) = ((i + n - 1) % n, (i + 1) % n);
            let straight = outer.segment(before).is_line() && outer.segment(after).is_line();
            straight && said(before) != said(after) && corner_name(said(before), said(after)) == short
        };
        let i = (0..n).find(worked)?;
        sharp(&outer.segment((i + n - 1) % n), &outer.segment((i + 1) % n)).map(Thing::Point)
    }

    fn unknown(&self, name: &str) -> Refusal {
        if self.blank.zones.iter().any(|z| z.name == name) {
            let mend = "name one of its edges, a corner or a hole on it";
            return (format!("'{name}' is a panel: a size runs to a place of it"), mend.into());
        }
        let outer = &self.outcome.outer;
        let sides = outer.vertices.iter().filter_map(|v| self.tags.get(v.tag as usize)).map(String::as_str);
        let mut known: Vec<&str> = sides.collect();
        known.dedup();
        known.truncate(8);
        known.extend(self.features.iter().map(|f| f.name.as_str()).take(4));
        let message = format!("no edge, corner, bend or hole is called '{name}' here");
        (message, format!("pick from {}, or click it on the flat", known.join(", ")))
    }
}

/// Where two straight sides would meet.
fn sharp(a: &Segment, b: &Segment) -> Option<DVec2> {
    let (d, e) = ((a.b - a.a).normalize_or_zero(), (b.b - b.a).normalize_or_zero());
    let turn = d.perp_dot(e);
    (turn.abs() > PARALLEL).then(|| a.b + d * ((b.a - a.b).perp_dot(e) / turn))
}

/// The size, with the line's own name; told where there is none.
pub fn measured(turn: &mut Turn, spec: &KeptSpec, on: &Finished) -> Option<KeptSize> {
    let mut find = |path: &str, name: &str| match on.thing(name) {
        Ok(t) => Some(t),
        Err((message, mend)) => {
            turn.tell.refuse_at(path, message, mend);
            None
        }
    };
    let (from, to) = (find("/say/from", &spec.from), find("/say/to", &spec.to));
    match between(from?, to?, spec.along) {
        Ok((from, to, along)) => {
            let v = to.at - from.at;
            let length = along.map_or(v.length(), |k| v[k].abs());
            if length < COINCIDENT {
                turn.tell.refuse_at(
                    "/say/to",
                    format!("there is nothing between {} and {}", spec.from, spec.to),
                    "pick two things that are apart, or another direction",
                );
                return None;
            }
            Some(KeptSize { line: turn.at.line.to_string(), from, to, along, length })
        }
        Err(lean) if spec.along.is_some() => {
            turn.tell.refuse_at(
                "/say/way",
                format!("an edge or bend that it runs to leans by {:.2}° out of that way", lean.to_degrees()),
                "leave the direction out, or pick corners",
            );
            None
        }
        Err(lean) => {
            turn.tell.refuse_at(
                "/say/to",
                format!("{} and {} stand at {:.2}° to one another", spec.from, spec.to, lean.to_degrees()),
                "pick corners or holes on them",
            );
            None
        }
    }
}

/// Where a size between two things runs, and along which axis; or by how much it cannot, rad.
fn between(a: Thing, b: Thing, along: Option<usize>) -> Result<(Spot, Spot, Option<usize>), f64> {
    let point = |p: DVec2| Spot { at: p, ends: [p, p] };
    // Square to a line, a size along an axis is the shortest one: any other is not told.
    let square = |p: DVec2, q: DVec2| match along {
        Some(k) => {
            let d = (q - p).normalize_or_zero();
            let lean = d[k].abs().asin();
            if lean > PARALLEL { Err(lean) } else { Ok(()) }
        }
        None => Ok(()),
    };
    let foot = |from: DVec2, p: DVec2, q: DVec2| {
        let d = (q - p).normalize_or_zero();
        Spot { at: p + d * (from - p).dot(d), ends: [p, q] }
    };
    let (from, to) = match (a, b) {
        (Thing::Point(p), Thing::Point(q)) => (point(p), point(q)),
        (Thing::Point(c), Thing::Line(p, q)) => {
            square(p, q)?;
            (point(c), foot(c, p, q))
        }
        (Thing::Line(p, q), Thing::Point(c)) => {
            square(p, q)?;
            (foot(c, p, q), point(c))
        }
        (Thing::Line(p, q), Thing::Line(r, s)) => {
            let (d, e) = ((q - p).normalize_or_zero(), (s - r).normalize_or_zero());
            let lean = d.perp_dot(e).abs().asin();
            if lean > PARALLEL {
                return Err(lean);
            }
            square(p, q)?;
            // In the middle of what both pass; else between their nearest ends.
            let (low, high) = ((r - p).dot(d).min((s - p).dot(d)), (r - p).dot(d).max((s - p).dot(d)));
            let at = p + d * ((low.max(0.0) + high.min(p.distance(q))) / 2.0);
            (Spot { at, ends: [p, q] }, foot(at, r, s))
        }
    };
    let v = to.at - from.at;
    let axis = (0..2).find(|k| v[1 - k].abs() < COINCIDENT);
    Ok((from, to, along.or(axis)))
}

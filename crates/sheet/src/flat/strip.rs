//! `start strip`: legs, bends and arcs of a side profile → the developed strip and its zones, west to east.

use glam::DVec2;

use super::bend_allowance::{arc_by, bend_by};
use super::bends::BendFact;
use super::blank::{Blank, rectangle};
use crate::formed::zones::{BendZone, Kind, Zone};
use crate::verbs::{Direction, Element, Measure, Side, StartStrip};
use ground::reader::{LONGEST, Range, Reader};
use shop::bend::{Allowance, setback};
use shop::bend_book::BendBook;
use shop::{BendRule, Material};

/// A profile worked out.
pub struct Strip {
    pub parts: Vec<Part>,
    pub measure: Measure,
    pub width: f64,
}

/// One element of the profile.
pub struct Part {
    pub id: String,
    /// Index in the recipe's profile.
    pub index: usize,
    pub made: Made,
    /// Where it lies in the flat.
    pub from: f64,
    pub to: f64,
}

pub enum Made {
    Leg {
        /// As told, between virtual sharps on the told face.
        told: f64,
        /// Between tangent lines; negative when the bends leave no room.
        straight: f64,
    },
    Bend {
        angle: f64,
        up: bool,
        radius: f64,
        allowance: Allowance,
        /// 2·OSSB − BA, whatever face the strip is told from.
        deduction: f64,
        /// Outside setback.
        ossb: f64,
        /// Setback on the told face.
        told_setback: f64,
    },
    Arc {
        angle: f64,
        up: bool,
        radius: f64,
        allowance: Allowance,
    },
}

impl Part {
    pub fn length(&self) -> f64 {
        self.to - self.from
    }

    /// Signed turn: up positive.
    pub fn turn(&self) -> f64 {
        match &self.made {
            Made::Leg { .. } => 0.0,
            Made::Bend { angle, up, .. } | Made::Arc { angle, up, .. } => {
                if *up {
                    *angle
                } else {
                    -angle
                }
            }
        }
    }
}

/// The most elements a profile may have.
const MOST: usize = 200;

/// What the strip is made of.
pub struct SheetStock<'a> {
    pub material: &'a Material,
    pub t: f64,
    pub r: f64,
    pub rule: &'a BendRule,
    pub book: &'a BendBook,
}

pub fn strip(reader: &mut Reader, line: &str, say: &StartStrip, stuff: &SheetStock) -> Option<Blank> {
    let width = reader.length("/say/width", &say.width, Range::AboveZero);
    if say.profile.is_empty() || say.profile.len() > MOST {
        reader.refuse(
            "/say/profile",
            "",
            format!("a profile of {} parts cannot be made", say.profile.len()),
            format!("tell 1 to {MOST} legs, bends and arcs"),
        );
        return None;
    }
    let mut made = Vec::with_capacity(say.profile.len());
    for (i, e) in say.profile.iter().enumerate() {
        let twin = say.profile[..i].iter().any(|o| o.id() == e.id());
        if twin || e.id().is_empty() {
            reader.refuse(
                &format!("/say/profile/{i}/id"),
                e.id(),
                format!("'{}' already names another part of the profile", e.id()),
                "give each part its own id",
            );
            made.push(None);
            continue;
        }
        made.push(element(reader, i, e, say.measure, stuff));
    }
    let made: Vec<Made> = made.into_iter().collect::<Option<_>>()?;
    let parts = lay_out(say, made);
    // A strip shorter than nothing: the faults of its legs say why.
    let length = parts.last()?.to;
    if !(1e-3..=LONGEST).contains(&length) {
        reader.refuse(
            "/say/profile",
            "",
            "the strip has no length that can be cut",
            "make its legs longer than their bends need",
        );
        return None;
    }
    let width = width?;
    let (south, north) = match say.side {
        Side::Symmetric => (-width / 2.0, width / 2.0),
        Side::North => (0.0, width),
        Side::South => (-width, 0.0),
    };
    let (outer, tags) = rectangle(line, DVec2::new(0.0, south), DVec2::new(length, north));
    let root = root(reader, say, &parts);
    let zones = zones(line, &parts, root, south, north);
    let index = reader.index();
    let bends = parts.iter().filter_map(|p| fact(p, line, index, south, north)).collect();
    let strip = Some(Strip { parts, measure: say.measure, width });
    Some(Blank {
        line: line.into(),
        outer,
        zones,
        tags,
        strip,
        bends,
        cone: None,
        corners: Vec::new(),
        narrowed: Vec::new(),
    })
}

fn fact(p: &Part, line: &str, index: usize, south: f64, north: f64) -> Option<BendFact> {
    let (angle, up, radius, allowance, deduction, ossb, rolled) = match &p.made {
        Made::Leg { .. } => return None,
        Made::Bend { angle, up, radius, allowance, deduction, ossb, .. } => {
            (*angle, *up, *radius, allowance, *deduction, *ossb, false)
        }
        Made::Arc { angle, up, radius, allowance } => (*angle, *up, *radius, allowance, 0.0, 0.0, true),
    };
    let x = (p.from + p.to) / 2.0;
    Some(BendFact {
        zone: p.index,
        name: format!("{line}.{}", p.id),
        label: p.id.clone(),
        line: line.into(),
        angle,
        up,
        radius,
        allowance: allowance.clone(),
        deduction,
        ossb,
        rolled,
        ends: [DVec2::new(x, south), DVec2::new(x, north)],
        pointer: (!rolled).then(|| format!("/lines/{index}/say/profile/{}", p.index)),
        flange: None,
    })
}

fn element(reader: &mut Reader, i: usize, e: &Element, measure: Measure, stuff: &SheetStock) -> Option<Made> {
    let at = |field: &str| format!("/say/profile/{i}/{field}");
    let t = stuff.t;
    Some(match e {
        Element::Leg(leg) => {
            Made::Leg { told: reader.length(&at("length"), &leg.length, Range::AboveZero)?, straight: 0.0 }
        }
        Element::Bend(b) => {
            let angle = reader.bend_angle(&at("angle"), &b.angle, 180.0);
            let radius = if b.radius.is_empty() {
                Some(stuff.r)
            } else {
                reader.length(&at("radius"), &b.radius, Range::ZeroUp)
            };
            let rule = b.bend_rule.as_ref().unwrap_or(stuff.rule);
            let path = if b.bend_rule.is_some() { format!("/say/profile/{i}") } else { String::new() };
            let (angle, radius) = (angle?, radius?);
            let allowance = bend_by(reader, &path, rule, stuff, angle, radius)?;
            let ossb = setback(radius + t, angle);
            let face = match measure {
                Measure::Outside => radius + t,
                Measure::Middle => radius + t / 2.0,
                Measure::Inside => radius,
            };
            Made::Bend {
                angle,
                up: b.direction == Direction::Up,
                radius,
                deduction: 2.0 * ossb - allowance.length,
                allowance,
                ossb,
                told_setback: setback(face, angle),
            }
        }
        Element::Arc(a) => {
            let angle = reader.bend_angle(&at("angle"), &a.angle, 360.0);
            let told = reader.length(&at("radius"), &a.radius, Range::AboveZero)?;
            let radius = match measure {
                Measure::Outside => told - t,
                Measure::Middle => told - t / 2.0,
                Measure::Inside => told,
            };
            if radius < 0.0 {
                reader.refuse(
                    &at("radius"),
                    &a.radius,
                    "the radius is smaller than the thickness leaves inside",
                    "write a larger radius, or tell the strip from the inside",
                );
                return None;
            }
            let angle = angle?;
            let allowance = arc_by(reader, stuff.rule, stuff, angle, radius)?;
            Made::Arc { angle, up: a.direction == Direction::Up, radius, allowance }
        }
    })
}

/// Setbacks off the legs, then everything in a row.
fn lay_out(say: &StartStrip, mut made: Vec<Made>) -> Vec<Part> {
    let setbacks: Vec<f64> = made
        .iter()
        .map(|m| if let Made::Bend { told_setback, .. } = m { *told_setback } else { 0.0 })
        .collect();
    let n = made.len();
    for (i, m) in made.iter_mut().enumerate() {
        if let Made::Leg { told, straight } = m {
            let before = if i > 0 { setbacks[i - 1] } else { 0.0 };
            let after = if i + 1 < n { setbacks[i + 1] } else { 0.0 };
            *straight = *told - before - after;
        }
    }
    let mut x = 0.0;
    made.into_iter()
        .enumerate()
        .map(|(index, made)| {
            let length = match &made {
                Made::Leg { straight, .. } => straight.max(0.0),
                Made::Bend { allowance, .. } | Made::Arc { allowance, .. } => allowance.length,
            };
            let from = x;
            x += length;
            Part { id: say.profile[index].id().to_string(), index, made, from, to: x }
        })
        .collect()
}

fn root(reader: &mut Reader, say: &StartStrip, parts: &[Part]) -> usize {
    let is_leg = |p: &Part| matches!(p.made, Made::Leg { .. });
    let first = parts.iter().position(is_leg).unwrap_or(0);
    if say.stays.is_empty() {
        return first;
    }
    match parts.iter().position(|p| p.id == say.stays && is_leg(p)) {
        Some(i) => i,
        None => {
            reader.refuse(
                "/say/stays",
                &say.stays,
                format!("no leg is called '{}'", say.stays),
                "pick one of the strip's legs",
            );
            first
        }
    }
}

fn zones(line: &str, parts: &[Part], root: usize, south: f64, north: f64) -> Vec<Zone> {
    parts
        .iter()
        .enumerate()
        .map(|(i, p)| {
            let east = i >= root;
            let kind = match &p.made {
                Made::Leg { .. } => Kind::Panel,
                Made::Bend { angle, up, radius, allowance, .. }
                | Made::Arc { angle, up, radius, allowance } => Kind::Bend(BendZone {
                    angle: *angle,
                    up: *up,
                    radius: *radius,
                    allowance: allowance.length,
                    k: allowance.k,
                }),
            };
            let parent = match i.cmp(&root) {
                std::cmp::Ordering::Equal => None,
                std::cmp::Ordering::Greater => Some(i - 1),
                std::cmp::Ordering::Less => Some(i + 1),
            };
            let place = if east {
                [DVec2::new(p.from, 0.0), DVec2::X]
            } else {
                [DVec2::new(p.to, 0.0), DVec2::NEG_X]
            };
            Zone::upright(
                format!("{line}.{}", p.id),
                line,
                kind,
                parent,
                place,
                DVec2::new(p.from, south),
                DVec2::new(p.to, north),
            )
        })
        .collect()
}

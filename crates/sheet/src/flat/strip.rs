//! A strip by its side profile: legs, bends and arcs → the developed strip and its zones, west to east.

use glam::DVec2;
use ground::reader::LONGEST;
use ground::reference;
use shop::bend::{Allowance, setback};

use super::bend_allowance::{Rule, arc_by, bend_by};
use super::bends::{BendFact, BendRole};
use super::blank::{Blank, rectangle};
use super::spec::Turn;
use crate::choices::{Measure, Side};
use crate::formed::zones::{BendZone, Kind, Zone};

/// A strip, read; lengths in mm, angles in rad.
pub struct StripSpec {
    pub width: f64,
    pub side: Side,
    pub measure: Measure,
    pub parts: Vec<PartSpec>,
    /// The leg that lies still.
    pub stays: usize,
    /// JSON pointer of the profile, or of what stands for it.
    pub at: &'static str,
}

/// One part of a profile, read.
pub struct PartSpec {
    pub id: String,
    pub kind: PartKind,
    /// JSON pointer in the line of the part, where it has one of its own.
    pub at: Option<String>,
}

pub enum PartKind {
    /// Between virtual sharps on the told face.
    Leg(f64),
    Bend {
        angle: f64,
        up: bool,
        radius: f64,
        rule: Option<Rule>,
    },
    /// Its radius on the told face.
    Arc {
        angle: f64,
        up: bool,
        radius: f64,
    },
}

/// A profile worked out.
pub struct Strip {
    pub parts: Vec<ProfileSegment>,
    pub measure: Measure,
    pub width: f64,
}

/// One element of the profile.
pub struct ProfileSegment {
    pub id: String,
    /// Its place in the profile.
    pub index: usize,
    /// JSON pointer in the piece of what tells it, where it has one of its own.
    pub pointer: Option<String>,
    pub made: SegmentForm,
    /// Where it lies in the flat.
    pub from: f64,
    pub to: f64,
}

pub enum SegmentForm {
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

impl ProfileSegment {
    pub fn length(&self) -> f64 {
        self.to - self.from
    }

    /// Signed turn: up positive.
    pub fn turn(&self) -> f64 {
        match &self.made {
            SegmentForm::Leg { .. } => 0.0,
            SegmentForm::Bend { angle, up, .. } | SegmentForm::Arc { angle, up, .. } => {
                if *up {
                    *angle
                } else {
                    -angle
                }
            }
        }
    }
}

impl StripSpec {
    pub fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        let made: Vec<Option<SegmentForm>> = self.parts.iter().map(|p| self.made(turn, p)).collect();
        let parts = self.in_a_row(turn, made.into_iter().collect::<Option<_>>()?);
        // A strip shorter than nothing: the faults of its legs say why.
        let length = parts.last()?.to;
        if !(1e-3..=LONGEST).contains(&length) {
            turn.tell.refuse_at(
                self.at,
                "the strip has no length that can be cut",
                "make its legs longer than their bends need",
            );
            return None;
        }
        let (south, north) = match self.side {
            Side::Symmetric => (-self.width / 2.0, self.width / 2.0),
            Side::North => (0.0, self.width),
            Side::South => (-self.width, 0.0),
        };
        let line = turn.at.line;
        let (outer, tags) = rectangle(line, DVec2::new(0.0, south), DVec2::new(length, north));
        let zones = zones(line, &parts, self.stays, south, north);
        let bends = parts.iter().filter_map(|p| fact(p, line, south, north)).collect();
        let strip = Some(Strip { parts, measure: self.measure, width: self.width });
        Some(Blank { strip, bends, ..Blank::new(line, outer, zones, tags) })
    }

    fn made(&self, turn: &mut Turn, part: &PartSpec) -> Option<SegmentForm> {
        let t = turn.stock.t;
        Some(match &part.kind {
            PartKind::Leg(told) => SegmentForm::Leg { told: *told, straight: 0.0 },
            &PartKind::Bend { angle, up, radius, ref rule } => {
                let rule = rule.as_ref().unwrap_or(turn.stock.rule);
                let allowance = bend_by(turn.tell, rule, turn.stock, angle, radius)?;
                let ossb = setback(radius + t, angle);
                let face = match self.measure {
                    Measure::Outside => radius + t,
                    Measure::Middle => radius + t / 2.0,
                    Measure::Inside => radius,
                };
                let (deduction, told_setback) = (2.0 * ossb - allowance.length, setback(face, angle));
                SegmentForm::Bend { angle, up, radius, allowance, deduction, ossb, told_setback }
            }
            &PartKind::Arc { angle, up, radius: told } => {
                let radius = match self.measure {
                    Measure::Outside => told - t,
                    Measure::Middle => told - t / 2.0,
                    Measure::Inside => told,
                };
                let allowance = arc_by(turn.tell, turn.stock, angle, radius)?;
                SegmentForm::Arc { angle, up, radius, allowance }
            }
        })
    }

    /// Setbacks off the legs, then everything in a row.
    fn in_a_row(&self, turn: &Turn, mut made: Vec<SegmentForm>) -> Vec<ProfileSegment> {
        let setbacks: Vec<f64> = made
            .iter()
            .map(|m| if let SegmentForm::Bend { told_setback, .. } = m { *told_setback } else { 0.0 })
            .collect();
        let n = made.len();
        for (i, m) in made.iter_mut().enumerate() {
            if let SegmentForm::Leg { told, straight } = m {
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
                    SegmentForm::Leg { straight, .. } => straight.max(0.0),
                    SegmentForm::Bend { allowance, .. } | SegmentForm::Arc { allowance, .. } => {
                        allowance.length
                    }
                };
                let from = x;
                x += length;
                let part = &self.parts[index];
                let pointer = part.at.as_ref().map(|at| turn.at.pointer(at));
                ProfileSegment { id: part.id.clone(), index, pointer, made, from, to: x }
            })
            .collect()
    }
}

fn fact(p: &ProfileSegment, line: &str, south: f64, north: f64) -> Option<BendFact> {
    let (angle, up, radius, allowance, deduction, ossb, rolled) = match &p.made {
        SegmentForm::Leg { .. } => return None,
        SegmentForm::Bend { angle, up, radius, allowance, deduction, ossb, .. } => {
            (*angle, *up, *radius, allowance, *deduction, *ossb, false)
        }
        SegmentForm::Arc { angle, up, radius, allowance } => {
            (*angle, *up, *radius, allowance, 0.0, 0.0, true)
        }
    };
    let x = (p.from + p.to) / 2.0;
    Some(BendFact {
        zone: p.index,
        name: reference::part(line, &p.id),
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
        pointer: p.pointer.clone().filter(|_| !rolled),
        role: BendRole::Fold,
        flange: None,
    })
}

fn zones(line: &str, parts: &[ProfileSegment], root: usize, south: f64, north: f64) -> Vec<Zone> {
    parts
        .iter()
        .enumerate()
        .map(|(i, p)| {
            let east = i >= root;
            let kind = match &p.made {
                SegmentForm::Leg { .. } => Kind::Panel,
                SegmentForm::Bend { angle, up, radius, allowance, .. }
                | SegmentForm::Arc { angle, up, radius, allowance } => Kind::Bend(BendZone {
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
                reference::part(line, &p.id),
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

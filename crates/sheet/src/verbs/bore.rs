//! What a drill makes: blind, countersunk, counterbored, spot-faced and tapped holes, told by sizes or by the
//! screw that goes into them, and plain ones for a screw.

use std::f64::consts::PI;

use grammar::*;
use ground::geom::COINCIDENT;
use ground::reader::{Range, Reader};
use shop::threads::{Fit, Screw, Thread, screw, screws_like, thread, threads_like};

use super::shape::SlotMeasure;
use crate::flat::bore::{Bore, BoreKind, Mouth};
use crate::flat::shape::ShapeSpec;

choice! {
    /// What is drilled.
    pub enum Drilled by "kind" {
        Tapped {
            /// `M8`, `M8x1`, `#8-32`, `1/4-20`.
            #[serde(default)]
            thread: String,
            /// Of the thread; empty for one that goes through.
            #[serde(default, skip_serializing_if = "String::is_empty")]
            depth: String,
            /// Of the tap drill; empty for three pitches more than the thread.
            #[serde(default, skip_serializing_if = "String::is_empty")]
            drilled: String,
            #[serde(default)]
            bottom: Bottom,
        },
        Countersunk {
            diameter: String,
            /// Of the cone, where the head ends.
            head: String,
            angle: String,
            /// How far the head lies below the face; empty for flush.
            #[serde(default, skip_serializing_if = "String::is_empty")]
            below: String,
        },
        CountersunkFor {
            screw: String,
            #[serde(default)]
            fit: Fit,
            #[serde(default, skip_serializing_if = "String::is_empty")]
            below: String,
        },
        Counterbored { diameter: String, bore: String, depth: String },
        CounterboredFor {
            screw: String,
            #[serde(default)]
            fit: Fit,
            /// How far the head lies below the face; empty for what the table has.
            #[serde(default, skip_serializing_if = "String::is_empty")]
            below: String,
        },
        SpotFaced { diameter: String, face: String, depth: String },
        Blind {
            diameter: String,
            depth: String,
            #[serde(default)]
            bottom: Bottom,
        },
        Clearance {
            screw: String,
            #[serde(default)]
            fit: Fit,
        },
        ClearanceSlot {
            screw: String,
            length: String,
            #[serde(default)]
            measure: SlotMeasure,
            #[serde(default)]
            fit: Fit,
        },
    }
}

impl Default for Drilled {
    fn default() -> Self {
        Drilled::Tapped {
            thread: String::new(),
            depth: String::new(),
            drilled: String::new(),
            bottom: Bottom::default(),
        }
    }
}

word! {
    /// How a blind hole ends.
    pub enum Bottom {
        #[default]
        Point118,
        Point90,
        Point135,
        Point140,
        Flat,
    }
}

impl Bottom {
    /// Whole angle.
    fn angle(self) -> f64 {
        match self {
            Bottom::Point90 => 90f64.to_radians(),
            Bottom::Point118 => 118f64.to_radians(),
            Bottom::Point135 => 135f64.to_radians(),
            Bottom::Point140 => 140f64.to_radians(),
            Bottom::Flat => PI,
        }
    }
}

/// A hole for the drill: its plan through the sheet, and the rest.
#[derive(Clone, Debug)]
pub struct BoreSpec {
    pub plan: ShapeSpec,
    pub bore: Bore,
}

impl Drilled {
    /// Its numbers; `path` is the JSON pointer of it.
    pub fn read(&self, reader: &mut Reader, path: &str, back: bool) -> Option<BoreSpec> {
        let r = &mut At { reader, path };
        let through = |kind, diameter: f64, mouth, screw| Bore {
            kind,
            diameter,
            depth: None,
            point: PI,
            mouth,
            back,
            screw,
        };
        let bore = match self {
            Drilled::Tapped { thread, depth, drilled, bottom } => {
                return tapped(r, (thread, depth, drilled), *bottom, back);
            }
            Drilled::Countersunk { diameter, head, angle, below } => {
                let sizes = r.hole_and(diameter, "head", head);
                let (angle, below) = (r.cone(angle), r.below(below));
                let (d, head) = sizes?;
                let mouth = sunk(head, angle?, below?);
                through(BoreKind::Countersunk, d, Some(mouth), None)
            }
            Drilled::CountersunkFor { screw, fit, below } => {
                let (s, below) = (r.screw(screw), r.below(below));
                let (s, below) = (s?, below?);
                let head = r.of_table(s, s.head, "a countersunk head")?;
                let mouth = sunk(head, s.head_angle(), below);
                through(BoreKind::Countersunk, s.clearance(*fit), Some(mouth), Some(s))
            }
            Drilled::Counterbored { diameter, bore, depth } => {
                let (sizes, depth) = (r.hole_and(diameter, "bore", bore), r.size("depth", depth));
                let (d, bore) = sizes?;
                through(BoreKind::Counterbored, d, Some(stepped(bore, depth?)), None)
            }
            Drilled::CounterboredFor { screw, fit, below } => {
                let (s, told) = (r.screw(screw), r.below(below));
                let (s, told) = (s?, told?);
                let bore = r.of_table(s, s.bore, "a socket head")?;
                let depth = if below.trim().is_empty() { s.bore_depth() } else { s.diameter + told };
                through(BoreKind::Counterbored, s.clearance(*fit), Some(stepped(bore, depth)), Some(s))
            }
            Drilled::SpotFaced { diameter, face, depth } => {
                let (sizes, depth) = (r.hole_and(diameter, "face", face), r.size("depth", depth));
                let (d, face) = sizes?;
                through(BoreKind::SpotFaced, d, Some(stepped(face, depth?)), None)
            }
            Drilled::Blind { diameter, depth, bottom } => {
                let (d, depth) = (r.size("diameter", diameter), r.size("depth", depth));
                let whole = through(BoreKind::Blind, d?, None, None);
                Bore { depth: Some(depth?), point: bottom.angle(), ..whole }
            }
            Drilled::Clearance { screw, fit } => {
                let s = r.screw(screw)?;
                through(BoreKind::Clearance, s.clearance(*fit), None, Some(s))
            }
            Drilled::ClearanceSlot { screw, length, measure, fit } => {
                let (s, told) = (r.screw(screw), r.size("length", length));
                let (s, told) = (s?, told?);
                let (width, centres) = (s.clearance(*fit), *measure == SlotMeasure::Centres);
                if !centres && told < width + COINCIDENT {
                    r.refuse("length", "the slot is no longer than it is wide", "write a greater length");
                    return None;
                }
                let bore = through(BoreKind::Clearance, width, None, Some(s));
                return Some(BoreSpec { plan: ShapeSpec::Slot { told, width, centres }, bore });
            }
        };
        Some(BoreSpec { plan: ShapeSpec::Round { diameter: bore.diameter }, bore })
    }
}

/// A countersink whose head ends so far below the face.
fn sunk(head: f64, angle: f64, below: f64) -> Mouth {
    Mouth { diameter: head + 2.0 * below * (angle / 2.0).tan(), flat: 0.0, angle }
}

fn stepped(diameter: f64, depth: f64) -> Mouth {
    Mouth { diameter, flat: depth, angle: PI }
}

fn tapped(
    r: &mut At,
    (thread, depth, drilled): (&str, &str, &str),
    bottom: Bottom,
    back: bool,
) -> Option<BoreSpec> {
    let thread = r.thread(thread);
    let depth = r.size_if("depth", depth);
    let drilled = r.size_if("drilled", drilled);
    let (thread, depth, drilled) = (thread?, depth?, drilled?);
    let drill = match (depth, drilled) {
        (None, None) => None,
        (None, Some(_)) => {
            r.refuse(
                "drilled",
                "a thread that goes through has no depth of its drill",
                "tell the thread's depth too",
            );
            return None;
        }
        (Some(depth), None) => Some(depth + thread.run_out()),
        (Some(depth), Some(drill)) if drill < depth - COINCIDENT => {
            r.refuse("drilled", "the drill goes less deep than the thread", "write a greater depth");
            return None;
        }
        (Some(_), drill) => drill,
    };
    let point = if drill.is_some() { bottom.angle() } else { PI };
    let kind = BoreKind::Tapped { thread, depth };
    let bore = Bore { kind, diameter: thread.drill, depth: drill, point, mouth: None, back, screw: None };
    Some(BoreSpec { plan: ShapeSpec::Round { diameter: thread.drill }, bore })
}

/// Where it is read.
struct At<'r, 'a, 'p> {
    reader: &'r mut Reader<'a>,
    path: &'p str,
}

impl At<'_, '_, '_> {
    fn at(&self, field: &str) -> String {
        format!("{}/{field}", self.path)
    }

    fn refuse(&mut self, field: &str, message: impl Into<String>, mend: impl Into<String>) {
        let at = self.at(field);
        self.reader.refuse_at(&at, message, mend);
    }

    fn size(&mut self, field: &str, text: &str) -> Option<f64> {
        let at = self.at(field);
        self.reader.length(&at, text, Range::AboveZero)
    }

    fn size_if(&mut self, field: &str, text: &str) -> Option<Option<f64>> {
        let at = self.at(field);
        self.reader.length_if(&at, text, Range::AboveZero)
    }

    fn below(&mut self, text: &str) -> Option<f64> {
        let at = self.at("below");
        self.reader.length_or(&at, text, Range::ZeroUp, 0.0)
    }

    /// The hole, and what is wider round it.
    fn hole_and(&mut self, diameter: &str, field: &str, wider: &str) -> Option<(f64, f64)> {
        let (d, w) = (self.size("diameter", diameter), self.size(field, wider));
        let (d, w) = (d?, w?);
        if w < d + COINCIDENT {
            let mend = "write a greater diameter, or drill a plain hole";
            self.refuse(field, "this is no wider than the hole", mend);
            return None;
        }
        Some((d, w))
    }

    /// Whole angle of a countersink.
    fn cone(&mut self, text: &str) -> Option<f64> {
        let at = self.at("angle");
        let v = self.reader.angle(&at, text)?;
        if v < 30f64.to_radians() - COINCIDENT || v > 150f64.to_radians() + COINCIDENT {
            self.refuse(
                "angle",
                "no countersink has this angle",
                "write the whole angle: 82°, 90°, 100° or 120°",
            );
            return None;
        }
        Some(v)
    }

    fn screw(&mut self, text: &str) -> Option<&'static Screw> {
        let found = screw(text);
        if found.is_none() {
            let message = match text.trim() {
                "" => "no screw is told".to_string(),
                told => format!("no table here has a hole for a screw '{told}'"),
            };
            self.refuse("screw", message, screws_like(text));
        }
        found
    }

    fn thread(&mut self, text: &str) -> Option<&'static Thread> {
        let found = thread(text);
        if found.is_none() {
            let message = match text.trim() {
                "" => "no thread is told".to_string(),
                told => format!("no table here has a thread '{told}'"),
            };
            self.refuse("thread", message, threads_like(text));
        }
        found
    }

    fn of_table(&mut self, screw: &Screw, value: Option<f64>, what: &str) -> Option<f64> {
        if value.is_none() {
            let mend = "tell its sizes instead";
            self.refuse("screw", format!("no table here has {what} for {}", screw.size), mend);
        }
        value
    }
}

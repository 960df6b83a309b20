//! The bender's table of a bent bar, as it is printed.

use ground::quantity::{Display, trim_number};
use serde::Serialize;

use crate::bent::{BenderCorner, BenderStep, as_cut, bender, gain, side};
use crate::model::{CentrelineSegment, Member};
use crate::profile::Profile;

/// The table as it is printed; lengths in the unit of the job.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BenderTable {
    pub steps: Vec<BenderRow>,
    /// Straight behind the last bend.
    pub tail: String,
    pub corners: Vec<CornerRow>,
    /// What the cut length rests on, and how the table is read.
    pub notes: Vec<String>,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BenderRow {
    /// Where the bend begins, from the start of the bar as it is cut.
    pub mark: String,
    pub straight: String,
    /// Clockwise seen along the bar; empty for none. Of the first bend the side of the section that it goes
    /// to, where the section is not round.
    pub turn: String,
    pub angle: String,
    pub radius: String,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CornerRow {
    pub x: String,
    pub y: String,
    pub z: String,
    /// `R40.0`, or what is here instead of a corner.
    pub what: String,
}

pub(super) fn bender_table(m: &Member, p: &Profile, d: &Display) -> Option<BenderTable> {
    let b = bender(m, p)?;
    let first = if p.section.shape.is_round() { String::new() } else { side(b.first, d) };
    let row = |(i, s): (usize, &BenderStep)| BenderRow {
        mark: d.length(s.mark),
        straight: d.length(s.straight),
        turn: match i {
            0 => first.clone(),
            _ if s.turn > 0.0 => d.angle(s.turn),
            _ => String::new(),
        },
        angle: d.angle(s.angle),
        radius: match s.radii {
            [a, b] if a == b => d.length(a),
            [a, b] => format!("{} to {}", d.length(a), d.length(b)),
        },
    };
    let corner = |c: &BenderCorner| CornerRow {
        x: d.length(c.at.x),
        y: d.length(c.at.y),
        z: d.length(c.at.z),
        what: c.radius.map_or(c.note.into(), |r| format!("R{}", d.length(r))),
    };
    let gained = gain(m, p);
    let rests = if gained == 0.0 {
        "the middle of the bar keeps its length".to_string()
    } else {
        let by = &m.bending.by;
        let by = if by.is_empty() { "as told".into() } else { format!("of test bend {by}") };
        let so = if gained > 0.0 { "shorter" } else { "longer" };
        let k = trim_number(m.bending.neutral, 3);
        format!("K {k} {by}: cut {} {so} than its middle", d.length_unit(gained.abs()))
    };
    let mut notes = vec![
        rests,
        "turns are clockwise seen along the bar, marks lie on the straight bar".into(),
        "corners are those of its middle line: x along its start, y to the side of its first bend".into(),
    ];
    if m.is_twisted() {
        notes.extend(twists(m, d));
        notes.push("sides and turns go by the section where the bend is; twists keep the length".into());
    }
    Some(BenderTable {
        steps: b.steps.iter().enumerate().map(row).collect(),
        tail: d.length(b.tail),
        corners: b.corners.iter().map(corner).collect(),
        notes,
    })
}

/// Where a bar is twisted, from its start along its middle.
fn twists(m: &Member, d: &Display) -> Vec<String> {
    let mut from = 0.0;
    let mut out = Vec::new();
    for s in as_cut(m) {
        if let CentrelineSegment::Twist { length, angle, .. } = s {
            let (turned, way) =
                (d.angle(angle.abs()), if angle < 0.0 { "anticlockwise" } else { "clockwise" });
            let [at, over] = [from, length].map(|v| d.length(v));
            out.push(format!("twisted {turned} {way} over {over}, from {at} on"));
        }
        from += s.length();
    }
    out
}

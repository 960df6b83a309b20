//! An outline that is a band of one width all along is a bar seen from the side: it can be bent instead of
//! cut out of plate.

use glam::DVec2;
use ground::finding::finding;
use ground::geom::{Contour, Segment};
use ground::quantity::{Display, trim_number};
use shop::bend::setback;
use shop::{Bent, THICKEST};

use crate::choices::{Direction, Measure};
use crate::context::PieceContext;
use crate::result::{Finding, Mend, Patch, Severity};
use crate::verbs::{Bend, Element, Leg, Operation, ProfileArc, StartStrip};

/// Sides that lie within this of where a band has them are its sides, mm.
const TRUE: f64 = 0.01;
/// Directions that differ by less run on into one another, rad.
const SMOOTH: f64 = 1e-3;
/// Up to so many thicknesses an inside radius is bent at once; a larger one is rolled.
const AT_ONCE: f64 = 5.0;
/// What turns further is rolled.
const MOST_BENT: f64 = 179.0 * std::f64::consts::PI / 180.0;
/// So many sides are looked at, and so many legs have a letter.
const MOST_SIDES: usize = 100;
const MOST_LEGS: usize = 26;

pub fn check(m: &PieceContext, out: &mut Vec<Finding>) {
    let mut on = m.piece.lines.iter().enumerate().filter(|l| !l.1.off);
    let (Some((k, line)), None) = (on.next(), on.next()) else { return };
    let told = matches!(line.say, Operation::StartContour(_) | Operation::StartOutline(_));
    if !told || m.material.bent == Bent::Not {
        return;
    }
    let Some(band) = band(&m.outcome.outer).filter(|b| b.wide <= THICKEST) else { return };
    let d = &m.display;
    let bends = band.runs.iter().filter(|r| r.turn != 0.0).count();
    let message = format!(
        "Seen from the side this is a bar {} × {}, bent {}: it can be bent instead of cut from plate",
        d.length(band.wide),
        d.length_unit(m.t),
        if bends == 1 { "once".into() } else { format!("{bends} times") }
    );
    let rule = "a band of one width all along is bent from bar";
    let found = finding("bent_bar", Severity::Note, message, rule, "common practice");
    let mend = strip(&band, m.t, d)
        .map(Operation::StartStrip)
        .and_then(|say| serde_json::to_value(say).ok())
        .map(|say| Mend {
            label: "make it a bent strip".into(),
            patch: vec![
                Patch::replace(format!("/lines/{k}/say"), say),
                Patch::replace("/thickness".into(), d.typed(band.wide)),
            ],
        });
    let at = band.from.to_array();
    out.push(Finding { mend, ..found.on(Vec::new(), Some(&line.id), Some(at)) });
}

/// A straight or a round part of a band.
struct Run {
    /// Straight ones have a length, round ones turn about an inside radius; left is positive.
    length: f64,
    turn: f64,
    inside: f64,
}

struct Band {
    wide: f64,
    runs: Vec<Run>,
    from: DVec2,
}

/// The band that an outline is; none where it is none, or runs straight.
fn band(outer: &Contour) -> Option<Band> {
    let sides: Vec<Segment> = outer.clone().outward().segments().collect();
    let n = sides.len();
    if !(6..=MOST_SIDES).contains(&n) || !n.is_multiple_of(2) {
        return None;
    }
    // From the end that closes the outline, as it was told.
    (n / 2..n).rev().find_map(|i| band_from(&sides, i))
}

/// The same with side `i` as one end and the one across as the other.
fn band_from(sides: &[Segment], i: usize) -> Option<Band> {
    let n = sides.len();
    let (end, far) = (&sides[i], &sides[(i + n / 2) % n]);
    let wide = end.length();
    if !end.is_line() || !far.is_line() || (far.length() - wide).abs() > TRUE {
        return None;
    }
    let mut runs = Vec::new();
    let mut before = (end.b - end.a).normalize_or_zero().perp();
    for k in 0..n / 2 - 1 {
        // The one side of the band, and the other which runs back.
        let (a, b) = (&sides[(i + 1 + k) % n], &sides[(i + n - 1 - k) % n]);
        if a.tangent(false).angle_to(before).abs() > SMOOTH {
            return None;
        }
        let across = |p: DVec2, along: DVec2| p + along.perp() * wide;
        let square = across(a.a, a.tangent(false)).distance(b.b) < TRUE
            && across(a.b, a.tangent(true)).distance(b.a) < TRUE;
        if !square {
            return None;
        }
        runs.push(match (a.arc(), b.arc()) {
            (None, None) => Run { length: a.length(), turn: 0.0, inside: 0.0 },
            (Some(p), Some(q)) => {
                let inside = p.radius.min(q.radius);
                let apart = p.centre.distance(q.centre);
                if apart > TRUE || ((p.radius - q.radius).abs() - wide).abs() > TRUE {
                    return None;
                }
                Run { length: 0.0, turn: p.sweep, inside }
            }
            _ => return None,
        });
        before = a.tangent(true);
    }
    let square_end = (far.b - far.a).normalize_or_zero().perp().angle_to(-before).abs() < SMOOTH;
    let long: f64 = runs.iter().map(|r| r.length + r.turn.abs() * (r.inside + wide / 2.0)).sum();
    let bent = runs.iter().any(|r| r.turn != 0.0);
    (square_end && bent && long > 3.0 * wide).then_some(Band { wide, runs, from: end.at(0.5) })
}

/// The strip that has the band as its profile, told from the outside.
fn strip(band: &Band, width: f64, d: &Display) -> Option<StartStrip> {
    let runs = &band.runs;
    let is_leg = |k: Option<usize>| k.and_then(|k| runs.get(k)).is_some_and(|r| r.turn == 0.0);
    let is_bend = |k: usize| {
        let r = &runs[k];
        r.turn != 0.0
            && r.turn.abs() < MOST_BENT
            && r.inside <= AT_ONCE * band.wide
            && is_leg(k.checked_sub(1))
            && is_leg(Some(k + 1))
    };
    // From where a bend begins to where a length that is told from the outside ends.
    let sharp = |k: usize| setback(runs[k].inside + band.wide, runs[k].turn.abs());
    let (mut legs, mut turns) = (0u8, 0);
    let mut profile = Vec::new();
    for (k, r) in runs.iter().enumerate() {
        if r.turn == 0.0 {
            if usize::from(legs) >= MOST_LEGS {
                return None;
            }
            let before = k.checked_sub(1).filter(|k| is_bend(*k)).map_or(0.0, sharp);
            let after = Some(k + 1).filter(|k| *k < runs.len() && is_bend(*k)).map_or(0.0, sharp);
            let id = char::from(b'a' + legs).to_string();
            profile.push(Element::Leg(Leg { id, length: d.typed(r.length + before + after) }));
            legs += 1;
            continue;
        }
        turns += 1;
        let (id, angle) = (turns.to_string(), trim_number(r.turn.abs().to_degrees(), 4));
        let direction = if r.turn > 0.0 { Direction::Up } else { Direction::Down };
        profile.push(if is_bend(k) {
            Element::Bend(Bend { id, angle, direction, radius: d.typed(r.inside), bend_rule: None })
        } else {
            Element::Arc(ProfileArc { id, radius: d.typed(r.inside + band.wide), angle, direction })
        });
    }
    Some(StartStrip { width: d.typed(width), measure: Measure::Outside, profile, ..StartStrip::default() })
}

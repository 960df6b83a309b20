//! Bends at the press brake: the order they are made in, and of each bend its tools, force, gauge and
//! handling, and what every school says of it.

mod bodies;
mod gauge;
mod handling;
mod lying;
mod order;
mod picture;
mod strike;
mod stroke;
mod sweep;
mod tools;

use crate::context::PieceContext;
use crate::flat::bends::BendFact;
use crate::formed::zones::Kind;
use bodies::{Body, bodies};
pub use gauge::Outermost;
use gauge::outermost;
use ground::geom::{COINCIDENT, ROUNDING};
use handling::Lay;
pub(crate) use handling::cautions;
pub use order::{Effort, Search};
use order::{Order, preferred, search};
pub use picture::{StepPicture, picture};
use shop::brake::BrakeOf;
use strike::Bench;
pub(crate) use strike::said as strikes_said;
pub use strike::{Short, Strike};
use stroke::{BendSet, MOST_BENDS, Side, Stroke};
pub use tools::Tool;

/// One bend in its turn.
#[derive(Clone, Debug)]
pub struct Step {
    /// Index among the piece's bends.
    pub bend: usize,
    pub reason: String,
    pub strikes: Vec<Strike>,
    /// Where the punch must be shorter than the bend.
    pub short: Option<Short>,
    /// What lies at the stop.
    pub stop: Outermost,
    /// The outside length there after the stroke: to the sharp up to 90°, beyond to the outermost tangent.
    pub measure: f64,
    /// Whether the stop's face meets it, and reaches it.
    pub found: bool,
    pub reached: bool,
    /// How far the piece stands out before the tools.
    pub front: f64,
    /// What hands do with the piece since the last bend.
    pub turned: String,
    /// To where punch and die bend it, rad.
    pub most: f64,
    at_stop: Side,
    stroke: usize,
    before: BendSet,
}

/// All that is known of a piece at the brake.
#[derive(Clone, Debug, Default)]
pub struct Plan {
    pub steps: Vec<Step>,
    /// How the order stands, in a sentence.
    pub said: String,
    /// A longer search may find a better order.
    pub open: bool,
    /// Why strikes were not looked for; empty where they were.
    pub unseen: String,
    /// Whether rolled arcs are rolled before the bends; none where nothing is rolled.
    pub rolled: Option<bool>,
    /// Names of the told order that are no bends made at the brake.
    pub unknown: Vec<String>,
    pub brake: BrakeOf,
    bodies: Vec<Body>,
    strokes: Vec<Stroke>,
}

impl Plan {
    /// How far the two sides of a step's bend reach along the tools.
    pub(crate) fn reach(&self, step: &Step) -> (f64, f64) {
        self.strokes[step.stroke].reach
    }
}

/// The piece's bends in their order.
pub(crate) fn plan(m: &PieceContext, brake: &BrakeOf, how: &mut Search) -> Plan {
    let (zones, bends, told, t) = (&m.blank.zones, &m.blank.bends, &m.piece.bend_order, m.t);
    if !bends.iter().any(BendFact::is_struck) {
        return Plan { brake: brake.clone(), unknown: told.clone(), ..Plan::default() };
    }
    let (bodies, coarse) = bodies(m, zones, t);
    let at_brake = bends.iter().enumerate().filter(|(_, b)| b.is_struck());
    let strokes: Vec<Stroke> =
        at_brake.filter_map(|(i, b)| Stroke::new(i, b, zones, &bodies, brake, t)).collect();
    let mut out = Plan { brake: brake.clone(), ..Plan::default() };
    let mut fixed: Vec<usize> = Vec::new();
    for name in told {
        match strokes.iter().position(|s| bends[s.bend].name == *name) {
            Some(k) if !fixed.contains(&k) => fixed.push(k),
            _ => out.unknown.push(name.clone()),
        }
    }
    let usual = preferred(zones, bends, &strokes);
    out.unseen = if strokes.len() > MOST_BENDS {
        format!(
            "{} bends are more than the {MOST_BENDS} that are looked at: mind every stroke",
            strokes.len()
        )
    } else if zones.iter().any(|z| matches!(z.kind, Kind::Cone(_))) {
        "a cone is not looked at: mind it at every stroke".into()
    } else if coarse {
        "the outline has too many corners: each panel was looked at by its corners alone".into()
    } else {
        String::new()
    };
    let looked = strokes.len() <= MOST_BENDS;
    let mut try_it = |rolled_first: bool| {
        let mut bench = Bench::new(zones, &bodies, &strokes, brake, rolled_first);
        if looked {
            let order = search(&mut bench, &usual, &fixed, how);
            return (bench, order);
        }
        let rest = usual.iter().copied().filter(|k| !fixed.contains(k));
        (
            bench,
            Order {
                strokes: fixed.iter().copied().chain(rest).collect(),
                by_hand: fixed.len(),
                ..Order::default()
            },
        )
    };
    let (mut bench, mut order) = try_it(true);
    out.rolled = bends.iter().any(|b| b.rolled).then_some(true);
    if out.rolled.is_some() && order.struck > 0 {
        let (after, other) = try_it(false);
        if other.struck < order.struck {
            (bench, order, out.rolled) = (after, other, Some(false));
        }
    }
    out.open = looked && order.struck > 0 && !order.proven && order.by_hand < strokes.len();
    out.said = said(&order, strokes.len(), looked);
    if let Some(first) = out.rolled {
        out.said += if first {
            "; what is rolled, before the bends"
        } else {
            "; what is rolled, after the bends: before them it would strike"
        };
    }
    let mut made: BendSet = 0;
    let mut shares = bench.shares(0);
    let mut last: Option<Lay> = None;
    for (i, &k) in order.strokes.iter().enumerate() {
        let s = &strokes[k];
        let b = &bends[s.bend];
        let found = if looked { bench.look(k, made) } else { Default::default() };
        let sides =
            [Side::Far, Side::Near].map(|side| (side, outermost(&bench, &m.outcome.outer, k, &shares, side)));
        let Some((at_stop, stop, front)) = at_stop(sides, brake) else { continue };
        let lay = Lay::new(b.up, zones[b.zone].along, at_stop);
        let usual_now = usual.iter().find(|u| !order.strokes[..i].contains(u)) == Some(&k);
        out.steps.push(Step {
            bend: s.bend,
            reason: why(zones, bends, b, &order, i, usual_now, &strokes),
            strikes: found.strikes,
            short: found.short,
            found: is_found(&stop, brake),
            reached: stop.away <= brake.tools.stop_reach + ROUNDING,
            measure: stop.away - b.allowance.length / 2.0 + b.ossb,
            stop,
            front,
            turned: lay.said(last.as_ref()),
            most: s.most,
            at_stop,
            stroke: k,
            before: made,
        });
        last = Some(lay);
        made |= 1u128.checked_shl(k as u32).unwrap_or(0);
        shares[s.zone] = 1.0;
    }
    (out.bodies, out.strokes) = (bodies, strokes);
    out
}

fn is_found(o: &Outermost, brake: &BrakeOf) -> bool {
    o.above > -COINCIDENT && o.above < brake.tools.stop_height
}

/// The end that goes to the stop: the nearer of those that its face meets.
fn at_stop(sides: [(Side, Option<Outermost>); 2], brake: &BrakeOf) -> Option<(Side, Outermost, f64)> {
    let ends: Vec<(Side, Outermost)> = sides.iter().filter_map(|(s, o)| Some((*s, (*o)?))).collect();
    let meets: Vec<&(Side, Outermost)> = ends.iter().filter(|e| is_found(&e.1, brake)).collect();
    let pool: Vec<&(Side, Outermost)> = if meets.is_empty() { ends.iter().collect() } else { meets };
    let best = pool.into_iter().min_by(|a, b| a.1.away.total_cmp(&b.1.away))?;
    let front = ends.iter().find(|e| e.0 != best.0).map_or(0.0, |e| e.1.away);
    Some((best.0, best.1, front))
}

/// How the order stands, in a sentence.
fn said(order: &Order, bends: usize, looked: bool) -> String {
    let n = order.looked;
    let hand = if order.by_hand == bends {
        "in the order set by hand"
    } else {
        "with those set by hand as they are"
    };
    match (looked, order.struck, order.proven && order.by_hand < bends, order.by_hand) {
        (false, ..) => "the order is the usual one; nothing was looked at".into(),
        (_, 0, _, 0) => "nothing is struck in this order".into(),
        (_, 0, ..) => format!("nothing is struck {hand}"),
        (_, s, _, h) if h == bends => format!("{} {hand}", strokes(s)),
        (_, s, true, 0) => {
            format!("no order is free of strikes: in the best {} (every order was looked at)", strokes(s))
        }
        (_, s, true, _) => format!(
            "no order {hand} is free of strikes: in the best {} (every order was looked at)",
            strokes(s)
        ),
        (_, s, false, _) => format!(
            "none found that is free of strikes: in the best {} ({n} strokes were looked at; not proven)",
            strokes(s)
        ),
    }
}

fn strokes(n: usize) -> String {
    if n == 1 { "1 bend strikes".into() } else { format!("{n} bends strike") }
}

fn why(
    zones: &[crate::formed::zones::Zone],
    bends: &[BendFact],
    b: &BendFact,
    order: &Order,
    i: usize,
    usual: bool,
    strokes: &[Stroke],
) -> String {
    if i < order.by_hand {
        return "set by hand".into();
    }
    if !usual {
        return "taken before one that would strike now".into();
    }
    let later = &order.strokes[i + 1..];
    let own = order::depth(zones, b.zone);
    let inner = later.iter().map(|k| &bends[strokes[*k].bend]).find(|o| order::depth(zones, o.zone) < own);
    match (inner, later.is_empty()) {
        (Some(o), _) => format!("from the outside in: before {}", o.label),
        (None, true) => "the last one left".into(),
        (None, false) => "the shorter flange first".into(),
    }
}

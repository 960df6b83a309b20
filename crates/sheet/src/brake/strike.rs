//! What a half-bent piece strikes while a bend is made: every body swept from lying on the die to its full
//! angle, against the tools and against the bodies on the other side. Steps are as long as gap and speed
//! allow, so nothing is passed over; what is found for one body rests only on the bends between it and the
//! one in the making, and is kept for every order that has those alike.

use std::cell::OnceCell;
use std::rc::Rc;

use glam::DAffine3;
use rustc_hash::FxHashMap;

use super::bodies::Body;
use super::lying::{Kept, Lying, Outline, Place, placed};
use super::stroke::{BendSet, Side, Stroke};
use super::sweep::{Met, crossed, crossing, met};
use super::tools::Tool;
use crate::formed::zones::Zone;
use ground::geom::convex::Prism;
use shop::brake::BrakeOf;

/// Something in the way of a tool.
#[derive(Clone, Debug, PartialEq)]
pub struct Strike {
    /// Name of the zone that is in the way.
    pub panel: String,
    pub tool: Tool,
    /// The angle bent so far when they meet, rad.
    pub at: f64,
}

/// Strikes in words, a sentence a tool: a bend is named only where no panel beside it is.
pub fn said(strikes: &[Strike], zones: &[Zone]) -> Vec<String> {
    let mut out = Vec::new();
    for tool in Tool::ALL {
        let of: Vec<&Strike> = strikes.iter().filter(|s| s.tool == tool).collect();
        let panel = |s: &&&Strike| zones.iter().any(|z| z.name == s.panel && z.is_panel());
        let panels: Vec<&str> = of.iter().filter(panel).map(|s| s.panel.as_str()).collect();
        let names = if panels.is_empty() { of.iter().map(|s| s.panel.as_str()).collect() } else { panels };
        let first = of.iter().map(|s| s.at).fold(f64::INFINITY, f64::min).to_degrees();
        match names.split_last() {
            None => {}
            Some((one, [])) => out.push(format!("{one} strikes the {} at {first:.0}°", tool.said())),
            Some((last, rest)) => out.push(format!(
                "{} and {last} strike the {}, first at {first:.0}°",
                rest.join(", "),
                tool.said()
            )),
        }
    }
    out
}

/// How far each zone is formed before a stroke, and where it stands.
type Before = (Vec<f64>, Vec<DAffine3>);

const SWEEP: u64 = 100;

/// Where the punch must end short of the bend.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Short {
    /// What stays without punch at the low and at the high end along y.
    pub ends: [f64; 2],
    /// What stands there.
    pub beside: [Option<String>; 2],
}

/// What one zone does during one stroke.
#[derive(Clone, Debug)]
enum Meets {
    Nothing,
    Strikes(Tool, f64),
    /// It stands where a punch as long as the bend would, from and to along y.
    Ends(Vec<(f64, f64)>),
}

pub struct Bench<'a> {
    pub zones: &'a [Zone],
    pub bodies: &'a [Body],
    pub strokes: &'a [Stroke],
    brake: &'a BrakeOf,
    /// For each stroke and zone: the bends between them, and the side it is on (none for the bend itself).
    paths: Vec<Vec<(BendSet, Option<Side>)>>,
    /// Zones that are rolled, and whether that is done before anything is bent.
    rolled: Vec<bool>,
    rolled_first: bool,
    /// Bodies of each zone.
    of: Vec<Vec<&'a Body>>,
    outlines: Vec<Outline>,
    kept: Kept,
    met: FxHashMap<Place, Meets>,
    pairs: FxHashMap<(u32, u32, u32, BendSet), Option<f64>>,
    /// For each stroke: bends, and which of them made, that are known to strike.
    known: Vec<Vec<(BendSet, BendSet)>>,
    /// Work done so far, in looks at what is known: a sweep costs as much as `SWEEP` of them.
    pub looks: u64,
}

/// All that a stroke strikes, and how short the punch must be.
#[derive(Clone, Debug, Default)]
pub struct Looked {
    pub strikes: Vec<Strike>,
    pub short: Option<Short>,
}

impl<'a> Bench<'a> {
    pub fn new(
        zones: &'a [Zone],
        bodies: &'a [Body],
        strokes: &'a [Stroke],
        brake: &'a BrakeOf,
        rolled_first: bool,
    ) -> Bench<'a> {
        let bit = |zone: usize| {
            strokes
                .iter()
                .position(|s| s.zone == zone)
                .map_or(0, |k| 1u128.checked_shl(k as u32).unwrap_or(0))
        };
        let up = |mut z: usize| {
            let mut chain = vec![z];
            while let Some(p) = zones[z].parent.filter(|_| chain.len() <= zones.len()) {
                chain.push(p);
                z = p;
            }
            chain
        };
        let chains: Vec<Vec<usize>> = (0..zones.len()).map(up).collect();
        let path = |a: usize, b: usize| {
            let (a, b) = (&chains[a], &chains[b]);
            let common = a.iter().rev().zip(b.iter().rev()).take_while(|(p, q)| p == q).count();
            let last = a.get(a.len() - common).copied().unwrap_or(a[a.len() - 1]);
            (a[..a.len() - common].iter().chain(&b[..b.len() - common]).copied().collect::<Vec<_>>(), last)
        };
        let of = |s: &Stroke| {
            (0..zones.len())
                .map(|z| {
                    let (mut between, meet) = path(s.zone, z);
                    between.push(meet);
                    let made = between.iter().filter(|b| **b != s.zone).fold(0, |m, b| m | bit(*b));
                    let side = if z == s.zone {
                        None
                    } else if chains[z].contains(&s.zone) {
                        Some(Side::Far)
                    } else {
                        Some(Side::Near)
                    };
                    (made, side)
                })
                .collect()
        };
        let mut of_zone = vec![Vec::new(); zones.len()];
        bodies.iter().for_each(|b| of_zone[b.zone].push(b));
        Bench {
            zones,
            bodies,
            strokes,
            brake,
            paths: strokes.iter().map(of).collect(),
            rolled_first,
            rolled: zones
                .iter()
                .enumerate()
                .map(|(k, z)| !z.is_panel() && strokes.iter().all(|s| s.zone != k))
                .collect(),
            outlines: of_zone.iter().map(|b| Outline::of(b)).collect(),
            of: of_zone,
            kept: Kept::default(),
            met: FxHashMap::default(),
            pairs: FxHashMap::default(),
            known: vec![Vec::new(); strokes.len()],
            looks: 0,
        }
    }

    /// How far each zone is formed, with these bends made and one in the making still flat.
    pub fn shares(&self, made: BendSet) -> Vec<f64> {
        let mut out: Vec<f64> =
            self.rolled.iter().map(|r| if *r && self.rolled_first { 1.0 } else { 0.0 }).collect();
        for (k, s) in self.strokes.iter().enumerate() {
            out[s.zone] = if made.checked_shr(k as u32).unwrap_or(0) & 1 == 1 { 1.0 } else { 0.0 };
        }
        out
    }

    /// Every body as it lies before a stroke, among its tools.
    pub fn lying(&self, stroke: usize, made: BendSet) -> Vec<Prism> {
        let shares = self.shares(made);
        let places = self.strokes[stroke].places(self.zones, &shares);
        self.bodies.iter().map(|b| placed(b, &places[b.zone], shares[b.zone] > 0.5)).collect()
    }

    pub fn side(&self, stroke: usize, zone: usize) -> Option<Side> {
        self.paths[stroke][zone].1
    }

    /// A panel, its bends and the panels behind those lie against one another on purpose.
    fn are_neighbours(&self, a: usize, b: usize) -> bool {
        let up = |z: usize| self.zones[z].parent;
        let above = |z: usize, other: usize| up(z) == Some(other) || up(z).and_then(up) == Some(other);
        a == b || above(a, b) || above(b, a) || up(a) == up(b)
    }

    /// Whether anything is struck.
    pub fn is_struck(&mut self, stroke: usize, made: BendSet) -> bool {
        if self.known[stroke].iter().any(|(mask, value)| made & mask == *value) {
            return true;
        }
        self.visit(stroke, made, &mut |_, _| true)
    }

    /// All that is struck.
    pub fn look(&mut self, stroke: usize, made: BendSet) -> Looked {
        let mut out = Looked::default();
        let s = &self.strokes[stroke];
        let (reach, limit) = (s.reach, self.brake.tools.unsupported(s.t, s.reach.1 - s.reach.0));
        let mut short = Short::default();
        let zones = self.zones;
        self.visit(stroke, made, &mut |zone, found| {
            let name = &zones[zone].name;
            match found {
                Meets::Strikes(tool, at) => {
                    if out.strikes.iter().all(|s| s.panel != *name || s.tool != *tool) {
                        out.strikes.push(Strike { panel: name.clone(), tool: *tool, at: *at });
                    }
                }
                Meets::Ends(ends) => {
                    for (low, high) in ends {
                        let (k, off) =
                            if *low < reach.0 + limit { (0, high - reach.0) } else { (1, reach.1 - low) };
                        if off > short.ends[k] {
                            short.ends[k] = off;
                            short.beside[k] = Some(name.clone());
                        }
                    }
                }
                Meets::Nothing => {}
            }
            false
        });
        out.short = (short.ends[0].max(short.ends[1]) > 0.0).then_some(short);
        out
    }

    /// Each zone that meets something, in turn; where `tell` has enough, the first that strikes ends it.
    fn visit(&mut self, stroke: usize, made: BendSet, tell: &mut dyn FnMut(usize, &Meets) -> bool) -> bool {
        let s = &self.strokes[stroke];
        let before = OnceCell::new();
        let mut struck = false;
        for zone in 0..self.zones.len() {
            let (mask, side) = self.paths[stroke][zone];
            let Some(side) = side.filter(|_| !self.of[zone].is_empty()) else { continue };
            self.looks += 1;
            let key = (stroke as u32, zone as u32, made & mask);
            if !self.met.contains_key(&key) {
                ground::halt::often();
                let lie = self.lying_zone(key, side, made, &before);
                // What lies in one plane with a leg of the bend is that leg: it rests on the die and clears
                // the punch by its angle.
                let leg = made & mask == 0 && lie.level;
                let met = self.meets(s, side, &lie, zone, leg);
                self.looks += SWEEP;
                self.met.insert(key, met);
            }
            let met = &self.met[&key];
            if matches!(met, Meets::Nothing) {
                continue;
            }
            let strikes = matches!(met, Meets::Strikes(..));
            struck |= strikes;
            if tell(zone, met) && strikes {
                self.known[stroke].push((mask, made & mask));
                return true;
            }
        }
        for far in 0..self.zones.len() {
            let (mask_far, side) = self.paths[stroke][far];
            if side != Some(Side::Far) || self.of[far].is_empty() {
                continue;
            }
            for near in 0..self.zones.len() {
                let (mask_near, side) = self.paths[stroke][near];
                let apart = self.of[near].is_empty() || self.are_neighbours(far, near);
                if side != Some(Side::Near) || apart {
                    continue;
                }
                self.looks += 1;
                let mask = mask_far | mask_near;
                let key = (stroke as u32, far as u32, near as u32, made & mask);
                if !self.pairs.contains_key(&key) {
                    ground::halt::often();
                    let at = |zone: usize, mask: BendSet| (stroke as u32, zone as u32, made & mask);
                    let a = self.lying_zone(at(far, mask_far), Side::Far, made, &before);
                    let b = self.lying_zone(at(near, mask_near), Side::Near, made, &before);
                    self.looks += SWEEP;
                    let met = between(s, (&a, &self.of[far]), (&b, &self.of[near]));
                    self.pairs.insert(key, met);
                }
                if let Some(at) = self.pairs[&key] {
                    struck = true;
                    if tell(far, &Meets::Strikes(Tool::Piece, at)) {
                        self.known[stroke].push((mask, made & mask));
                        return true;
                    }
                }
            }
        }
        struck
    }

    /// A zone before a stroke; `before` holds how all are formed then and where they stand, once asked for.
    fn lying_zone(&mut self, at: Place, side: Side, made: BendSet, before: &OnceCell<Before>) -> Rc<Lying> {
        if let Some(held) = self.kept.zone(&at) {
            return held;
        }
        let s = &self.strokes[at.0 as usize];
        let (shares, places) = before.get_or_init(|| {
            let shares = self.shares(made);
            let places = s.places(self.zones, &shares);
            (shares, places)
        });
        let zone = at.1 as usize;
        let outline = &self.outlines[zone];
        let lying = Rc::new(Lying::new(outline, places[zone], shares[zone] > 0.5, s, side));
        self.kept.keep(at, lying.clone());
        lying
    }

    /// What a zone meets: its hull first, and where that meets something its bodies.
    fn meets(&self, s: &Stroke, side: Side, lie: &Lying, zone: usize, leg: bool) -> Meets {
        let tools = &self.brake.tools;
        let mut ends = Vec::new();
        let mut struck: Option<(Tool, f64)> = None;
        for section in s.sections.iter().filter(|section| !leg || !section.parted) {
            // Nothing in the hull meets what the hull does not, nor before it does.
            let Some(first) = lie.whole.first_deep(s, side, section, 0.0) else { continue };
            for body in lie.each(s, &self.of[zone]) {
                match met(s, tools, side, body, section, first) {
                    None => {}
                    Some(Met::Strikes(at)) if struck.is_none_or(|was| at < was.1) => {
                        struck = Some((section.tool, at))
                    }
                    Some(Met::Strikes(_)) => {}
                    Some(Met::End(low, high)) => ends.push((low, high)),
                }
            }
        }
        match struck {
            Some((tool, at)) => Meets::Strikes(tool, at),
            None if ends.is_empty() => Meets::Nothing,
            None => Meets::Ends(ends),
        }
    }
}

/// The first angle at which a zone of the far side is deeper in one of the near side than a touch; each with
/// its bodies.
fn between(s: &Stroke, far: (&Lying, &[&Body]), near: (&Lying, &[&Body])) -> Option<f64> {
    // Hulls first: where their shadows stay apart nothing in them meets, nor before they do.
    let first = crossed(s, &far.0.whole, &near.0.whole, 0.0, |_| 0.0)?;
    let pairs = far.0.each(s, far.1).flat_map(|a| near.0.each(s, near.1).map(move |b| (a, b)));
    pairs.filter_map(|(a, b)| crossing(s, a, b, first)).min_by(f64::total_cmp)
}

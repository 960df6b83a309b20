//! What a half-bent piece strikes while a bend is made: every body swept from lying on the die to its full angle, against the tools and against
//! the bodies on the other side. Steps are as long as the gap allows, so nothing is passed over; what is found for one body rests only on the
//! bends between it and the one in the making, and is kept for every order that has those alike.

use glam::{DAffine3, DVec2};
use rustc_hash::FxHashMap;

use super::bodies::Body;
use super::lie::{MOST_STEP, Made, Side, Stroke};
use super::tools::{Section, Tool};
use crate::geom::convex::{Prism, apart, hull};
use crate::sheet::zones::Zone;
use crate::shopbook::brake::{BrakeOf, Tools};

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
            Some((last, rest)) => out.push(format!("{} and {last} strike the {}, first at {first:.0}°", rest.join(", "), tool.said())),
        }
    }
    out
}

const SWEEP: u64 = 100;

/// Deeper than this is a strike; nearer is a touch.
const TOUCH: f64 = 0.25;

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
    paths: Vec<Vec<(Made, Option<Side>)>>,
    /// Zones that are rolled, and whether that is done before anything is bent.
    rolled: Vec<bool>,
    rolled_first: bool,
    /// Bodies of each zone.
    of: Vec<Vec<usize>>,
    met: FxHashMap<(u32, u32, Made), Meets>,
    pairs: FxHashMap<(u32, u32, u32, Made), Option<f64>>,
    /// For each stroke: bends, and which of them made, that are known to strike.
    known: Vec<Vec<(Made, Made)>>,
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
    pub fn new(zones: &'a [Zone], bodies: &'a [Body], strokes: &'a [Stroke], brake: &'a BrakeOf, rolled_first: bool) -> Bench<'a> {
        let bit = |zone: usize| strokes.iter().position(|s| s.zone == zone).map_or(0, |k| 1u128.checked_shl(k as u32).unwrap_or(0));
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
        Bench {
            zones,
            bodies,
            strokes,
            brake,
            paths: strokes.iter().map(of).collect(),
            rolled_first,
            rolled: zones.iter().enumerate().map(|(k, z)| !z.is_panel() && strokes.iter().all(|s| s.zone != k)).collect(),
            of: (0..zones.len()).map(|z| (0..bodies.len()).filter(|b| bodies[*b].zone == z).collect()).collect(),
            met: FxHashMap::default(),
            pairs: FxHashMap::default(),
            known: vec![Vec::new(); strokes.len()],
            looks: 0,
        }
    }

    /// How far each zone is formed, with these bends made and one in the making still flat.
    pub fn shares(&self, made: Made) -> Vec<f64> {
        let mut out: Vec<f64> = self.rolled.iter().map(|r| if *r && self.rolled_first { 1.0 } else { 0.0 }).collect();
        for (k, s) in self.strokes.iter().enumerate() {
            out[s.zone] = if made.checked_shr(k as u32).unwrap_or(0) & 1 == 1 { 1.0 } else { 0.0 };
        }
        out
    }

    /// The bodies as they lie before a stroke, among its tools.
    pub fn lying(&self, stroke: usize, made: Made) -> Vec<Prism> {
        let shares = self.shares(made);
        let places = self.strokes[stroke].places(self.zones, &shares);
        self.bodies.iter().map(|b| placed(b, &places, &shares)).collect()
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
    pub fn is_struck(&mut self, stroke: usize, made: Made) -> bool {
        if self.known[stroke].iter().any(|(mask, value)| made & mask == *value) {
            return true;
        }
        self.visit(stroke, made, &mut |_, _| true)
    }

    /// All that is struck.
    pub fn look(&mut self, stroke: usize, made: Made) -> Looked {
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
                        let (k, off) = if *low < reach.0 + limit { (0, high - reach.0) } else { (1, reach.1 - low) };
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
    fn visit(&mut self, stroke: usize, made: Made, tell: &mut dyn FnMut(usize, &Meets) -> bool) -> bool {
        let s = &self.strokes[stroke];
        let mut lying: Option<Lying> = None;
        let mut struck = false;
        for zone in 0..self.zones.len() {
            let (mask, side) = self.paths[stroke][zone];
            let Some(side) = side.filter(|_| !self.of[zone].is_empty()) else { continue };
            self.looks += 1;
            let key = (stroke as u32, zone as u32, made & mask);
            if !self.met.contains_key(&key) {
                crate::halt::often();
                let lie = lying.get_or_insert_with(|| Lying::new(self, stroke, made));
                // What lies in one plane with a leg of the bend is that leg: it rests on the die and clears the punch by its angle.
                let leg = made & mask == 0 && lie.is_level(&self.of[zone]);
                let met = self.meets(s, side, lie, zone, leg);
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
            if side != Some(Side::Far) {
                continue;
            }
            for near in 0..self.zones.len() {
                let (mask_near, side) = self.paths[stroke][near];
                if side != Some(Side::Near) || self.are_neighbours(far, near) {
                    continue;
                }
                self.looks += 1;
                let mask = mask_far | mask_near;
                let key = (stroke as u32, far as u32, near as u32, made & mask);
                if !self.pairs.contains_key(&key) {
                    crate::halt::often();
                    let lie = lying.get_or_insert_with(|| Lying::new(self, stroke, made));
                    let met = self.crossing(s, lie, far, near);
                    self.looks += SWEEP;
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

    /// What a zone meets: its hull first, and where that meets something its bodies.
    fn meets(&self, s: &Stroke, side: Side, lie: &Lying, zone: usize, leg: bool) -> Meets {
        let tools = &self.brake.tools;
        let bodies = &self.of[zone];
        let whole = Shadow::of(bodies.iter().map(|b| &lie.prisms[*b]), s, side);
        let mut ends = Vec::new();
        let mut struck: Option<(Tool, f64)> = None;
        for section in s.sections.iter().filter(|section| !leg || !section.parted) {
            if whole.first_deep(s, side, section).is_none() {
                continue;
            }
            for body in bodies {
                match met(s, tools, side, &lie.prisms[*body], section) {
                    None => {}
                    Some(Met::Strikes(at)) if struck.is_none_or(|was| at < was.1) => struck = Some((section.tool, at)),
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

    /// The first angle at which a zone of the far side is deeper in one of the near side than a touch.
    fn crossing(&self, s: &Stroke, lie: &Lying, far: usize, near: usize) -> Option<f64> {
        let of = |zone: usize, side: Side| Shadow::of(self.of[zone].iter().map(|b| &lie.prisms[*b]), s, side);
        if self.of[far].is_empty() || self.of[near].is_empty() || !may_cross(s, &of(far, Side::Far), &of(near, Side::Near)) {
            return None;
        }
        let pairs = self.of[far].iter().flat_map(|a| self.of[near].iter().map(move |b| (*a, *b)));
        pairs.filter_map(|(a, b)| crossing(s, &lie.prisms[a], &lie.prisms[b])).min_by(f64::total_cmp)
    }
}

fn placed(body: &Body, places: &[DAffine3], shares: &[f64]) -> Prism {
    let to = places[body.zone];
    body.as_it_is(shares[body.zone] > 0.5).mapped(|p| to.transform_point3(p))
}

/// The piece before a stroke.
struct Lying {
    prisms: Vec<Prism>,
    /// Height of the sheet's underside.
    floor: f64,
}

impl Lying {
    fn new(bench: &Bench, stroke: usize, made: Made) -> Lying {
        Lying { prisms: bench.lying(stroke, made), floor: -bench.strokes[stroke].t }
    }

    /// Whether bodies lie flat on the die, as the leg does.
    fn is_level(&self, bodies: &[usize]) -> bool {
        bodies.iter().flat_map(|b| &self.prisms[*b].corners).all(|p| p.z < 1e-6 && p.z > self.floor - 1e-6)
    }
}

/// Convex bodies seen along the tools.
struct Shadow {
    ring: Vec<DVec2>,
    /// From where to where along y.
    span: (f64, f64),
    /// The nearest and the furthest from the bend's end.
    radii: (f64, f64),
}

impl Shadow {
    fn of<'p>(prisms: impl Iterator<Item = &'p Prism> + Clone, s: &Stroke, side: Side) -> Shadow {
        let corners = prisms.flat_map(|p| &p.corners);
        let span = corners.clone().map(|c| c.y).fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), y| (l.min(y), h.max(y)));
        let ring = hull(corners.map(|c| DVec2::new(c.x, c.z)).collect());
        let end = s.end_of(side);
        let far = ring.iter().map(|p| p.distance(end)).fold(0.0, f64::max);
        Shadow { radii: (nearest(&ring, end), far), ring, span }
    }

    /// What stays above the leg's underside keeps off the die on its own side, which that underside rests on; what stays below the leg's inside
    /// keeps off the punch, whose flanks stand steeper.
    fn is_clear(&self, s: &Stroke, side: Side, section: &Section) -> bool {
        let beyond = self.ring.iter().all(|p| p.x * side.sign() >= -1e-9);
        let above = self.ring.iter().all(|p| p.y >= -s.t - 1e-6);
        let below = self.ring.iter().all(|p| p.y <= 1e-6);
        match section.tool {
            Tool::Die => beyond && above && section.corners.iter().any(|c| c.x * side.sign() > 1e-9),
            Tool::Bed => beyond && above,
            Tool::Punch => beyond && below,
            _ => false,
        }
    }

    /// The first angle at which it is deeper in a section than a touch.
    fn first_deep(&self, s: &Stroke, side: Side, section: &Section) -> Option<f64> {
        let beside = self.span.1 < section.run.0 + TOUCH || self.span.0 > section.run.1 - TOUCH;
        if beside || self.is_clear(s, side, section) || !s.within_reach(section, self.radii.1) {
            return None;
        }
        let (mut now, mut tool) = (Vec::with_capacity(self.ring.len()), Vec::with_capacity(8));
        let mut phi = 0.0;
        loop {
            now.clear();
            now.extend(self.ring.iter().copied().map(s.motion(side, phi)));
            s.standing(section, phi, &mut tool);
            let gap = apart(&now, &tool) + TOUCH;
            if gap <= 0.0 {
                return Some(phi);
            }
            if phi >= s.most {
                return None;
            }
            let speed = s.speed(self.radii.1) + if section.on_die { s.die_speed(phi) } else { 0.0 };
            phi = (phi + (gap.max(TOUCH / 2.0) / speed).min(MOST_STEP)).min(s.most);
        }
    }
}

/// Distance of a convex polygon from a point; zero where it holds it.
fn nearest(ring: &[DVec2], p: DVec2) -> f64 {
    let n = ring.len();
    let inside = n > 2 && (0..n).all(|i| (ring[(i + 1) % n] - ring[i]).perp_dot(p - ring[i]) >= 0.0);
    if inside {
        return 0.0;
    }
    let to_side = |i: usize| crate::geom::Segment::line(ring[i], ring[(i + 1) % n]).nearest(p).distance(p);
    (0..n).map(to_side).fold(f64::INFINITY, f64::min)
}

/// What one body does with one tool.
enum Met {
    Strikes(f64),
    End(f64, f64),
}

fn met(s: &Stroke, tools: &Tools, side: Side, prism: &Prism, section: &Section) -> Option<Met> {
    let shadow = Shadow::of(std::iter::once(prism), s, side);
    let first = shadow.first_deep(s, side, section)?;
    if !section.parted {
        return Some(Met::Strikes(first));
    }
    let limit = tools.unsupported(s.t, s.reach.1 - s.reach.0);
    // Where all of it stands near an end, the whole is as good as the part that meets the tool.
    let (low, high) = shadow.span;
    let level = prism.corners.iter().all(|c| (c.y - low).abs() < 1e-6 || (c.y - high).abs() < 1e-6);
    let within = (low.max(section.run.0), high.min(section.run.1));
    if level && !is_midway(s, limit, within) {
        return Some(Met::End(within.0, within.1));
    }
    let most = if is_midway(s, limit, within) { MOST_FOLLOWED } else { FEW_FOLLOWED };
    followed(s, side, prism, section, first, (s.most - first) / most, limit)
}

/// Whether something from here to there along y keeps a punch out that leaves only a little of the bend.
fn is_midway(s: &Stroke, limit: f64, (low, high): (f64, f64)) -> bool {
    let (from, to) = (s.reach.0 + limit, s.reach.1 - limit);
    high > from + 1e-9 && low < to - 1e-9
}

/// Steps in which the part of a body that stands in a parted tool is followed, at most: many where it may be a strike, few where only the length
/// of the punch hangs on it.
const MOST_FOLLOWED: f64 = 400.0;
const FEW_FOLLOWED: f64 = 32.0;

/// From where to where along y a body stands in a tool that is made up to length; the angle where that leaves too much of the bend without punch.
fn followed(s: &Stroke, side: Side, prism: &Prism, section: &Section, first: f64, least: f64, limit: f64) -> Option<Met> {
    let mut out: Option<(f64, f64)> = None;
    let mut tool = Vec::with_capacity(8);
    let end = s.end_of(side);
    let radius = prism.corners.iter().map(|c| DVec2::new(c.x, c.z).distance(end)).fold(0.0, f64::max);
    let speed = s.speed(radius) + if section.on_die { s.die_speed(first) } else { 0.0 };
    let step = (TOUCH / speed).max(least);
    let mut phi = first;
    loop {
        s.standing(section, phi, &mut tool);
        let now = prism.mapped(|p| s.moved_in_space(side, phi, p));
        if let Some((l, h)) = now.inside(&tool, TOUCH) {
            let (l, h) = (l.max(section.run.0), h.min(section.run.1));
            if h > l {
                let all = out.map_or((l, h), |o| (o.0.min(l), o.1.max(h)));
                if is_midway(s, limit, all) {
                    return Some(Met::Strikes(phi));
                }
                out = Some(all);
            }
        }
        if phi >= s.most {
            return out.map(|(l, h)| Met::End(l, h));
        }
        phi = (phi + step).min(s.most);
    }
}

/// Whether two shadows may cross at all: beside one another along y, and by their distances from the bend's end, which hardly wanders.
fn may_cross(s: &Stroke, far: &Shadow, near: &Shadow) -> bool {
    let (a, b, wander) = (far.radii, near.radii, 2.0 * s.wander());
    let beside = far.span.1 - TOUCH < near.span.0 || near.span.1 - TOUCH < far.span.0;
    !beside && a.0 <= b.1 + wander && b.0 <= a.1 + wander
}

/// The first angle at which a body of the far side is deeper in one of the near side than a touch.
fn crossing(s: &Stroke, far: &Prism, near: &Prism) -> Option<f64> {
    let a = Shadow::of(std::iter::once(far), s, Side::Far);
    let b = Shadow::of(std::iter::once(near), s, Side::Near);
    if !may_cross(s, &a, &b) {
        return None;
    }
    let speed = s.speed(a.radii.1) + s.speed(b.radii.1);
    let (mut now_a, mut now_b) = (Vec::new(), Vec::new());
    let mut phi = 0.0;
    loop {
        now_a.clear();
        now_b.clear();
        now_a.extend(a.ring.iter().copied().map(s.motion(Side::Far, phi)));
        now_b.extend(b.ring.iter().copied().map(s.motion(Side::Near, phi)));
        let mut gap = apart(&now_a, &now_b) + TOUCH;
        if gap <= 0.0 {
            let at = |p: &Prism, side: Side| p.mapped(|p| s.moved_in_space(side, phi, p));
            gap = at(far, Side::Far).apart(&at(near, Side::Near)) + TOUCH;
            if gap <= 0.0 {
                return Some(phi);
            }
        }
        if phi >= s.angle {
            return None;
        }
        phi = (phi + (gap.max(TOUCH / 2.0) / speed).min(MOST_STEP)).min(s.angle);
    }
}

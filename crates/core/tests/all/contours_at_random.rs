//! A thousand random outlines, told with figures left out: each is found again, or told to be short of as
//! many figures as it is. How many that is, and whether what was found is as told, is worked out here anew.

use std::f64::consts::{PI, TAU};

use steelk_core::evaluate::evaluate_piece;
use steelk_core::result::PieceResult;

use crate::common::*;

/// Numbers from a seed.
struct Dice(u64);

impl Dice {
    fn to(&mut self, from: f64, to: f64) -> f64 {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        from + (to - from) * (self.0 >> 11) as f64 / (1u64 << 53) as f64
    }

    fn is(&mut self, share: f64) -> bool {
        self.to(0.0, 1.0) < share
    }
}

type Point = [f64; 2];

/// A side as it truly is: an arc where its sweep, to the left above zero, is not nought.
#[derive(Clone, Copy, Debug)]
struct True {
    heading: f64,
    size: f64,
    sweep: f64,
    /// Runs on from the side before.
    tangent: bool,
    /// Which of length or radius, sweep, and direction are told; the direction perhaps by its turn.
    told: [bool; 3],
    by_turn: bool,
}

impl True {
    fn goes(&self) -> Point {
        let (h, e) = (self.heading, self.heading + self.sweep);
        if self.sweep == 0.0 {
            return [self.size * h.cos(), self.size * h.sin()];
        }
        let r = self.size * self.sweep.signum();
        [r * (e.sin() - h.sin()), r * (h.cos() - e.cos())]
    }
}

fn less(a: Point, b: Point) -> Point {
    [a[0] - b[0], a[1] - b[1]]
}

fn line(a: Point, b: Point) -> True {
    let d = less(b, a);
    True {
        heading: d[1].atan2(d[0]),
        size: d[0].hypot(d[1]),
        sweep: 0.0,
        tangent: false,
        told: [true; 3],
        by_turn: false,
    }
}

/// A polygon about a middle, some of its corners rounded and some of its sides bowed, seen in a mirror or
/// not.
fn outline(dice: &mut Dice) -> Vec<True> {
    let n = dice.to(3.0, 8.0) as usize;
    let corner = |k: usize, dice: &mut Dice| {
        let (a, r) = ((k as f64 + dice.to(-0.25, 0.25)) / n as f64 * TAU, dice.to(60.0, 100.0));
        [r * a.cos(), r * a.sin()]
    };
    let corners: Vec<Point> = (0..n).map(|k| corner(k, dice)).collect();
    let edges: Vec<True> = (0..n).map(|k| line(corners[k], corners[(k + 1) % n])).collect();
    let turn = |k: usize| (edges[k].heading - edges[(k + n - 1) % n].heading + PI).rem_euclid(TAU) - PI;
    // How far a rounding reaches back along both its sides.
    let reach: Vec<f64> = (0..n)
        .map(|k| {
            let room = edges[k].size.min(edges[(k + n - 1) % n].size);
            if dice.is(0.5) && turn(k).abs() > 0.1 { dice.to(0.1, 0.4) * room } else { 0.0 }
        })
        .collect();
    let mut out = Vec::new();
    for k in 0..n {
        if reach[k] > 0.0 {
            let radius = reach[k] / (turn(k).abs() / 2.0).tan();
            let heading = edges[(k + n - 1) % n].heading;
            out.push(True { heading, size: radius, sweep: turn(k), tangent: true, ..edges[k] });
        }
        let next = reach[(k + 1) % n];
        let straight = True { size: edges[k].size - reach[k] - next, tangent: reach[k] > 0.0, ..edges[k] };
        if reach[k] == 0.0 && next == 0.0 && dice.is(0.4) {
            let sweep = dice.to(0.2, 0.7) * if dice.is(0.5) { 1.0 } else { -1.0 };
            let size = straight.size / 2.0 / (sweep.abs() / 2.0).sin();
            out.push(True { heading: straight.heading - sweep / 2.0, size, sweep, ..straight });
        } else {
            out.push(straight);
        }
    }
    if dice.is(0.5) {
        out.iter_mut().for_each(|s| (s.heading, s.sweep) = (-s.heading, -s.sweep));
    }
    let first = dice.to(0.0, out.len() as f64) as usize;
    out.rotate_left(first);
    out
}

/// Leaves figures out.
fn forget(sides: &mut [True], dice: &mut Dice) {
    for side in sides.iter_mut() {
        side.by_turn = dice.is(0.3);
        // What runs on needs no direction.
        side.told[2] = !side.tangent || (side.sweep == 0.0 && dice.is(0.3));
        side.told[1] = side.sweep != 0.0;
        side.by_turn &= !side.tangent;
    }
    for _ in 0..dice.to(0.0, 6.0) as usize {
        let (k, which) = (dice.to(0.0, sides.len() as f64) as usize, dice.to(0.0, 3.0) as usize);
        sides[k].told[which] = false;
    }
}

fn typed(sides: &[True]) -> String {
    let degrees = |a: f64| format!("{:.13}°", a.to_degrees());
    let said: Vec<String> = (0..sides.len())
        .map(|k| {
            let (s, before) = (sides[k], sides[(k + sides.len() - 1) % sides.len()]);
            let sign = if s.sweep != 0.0 { "R" } else { "" };
            let size = if s.told[0] { format!("{sign}{:.13}", s.size) } else { String::new() };
            let turn = (s.heading - before.heading - before.sweep + PI).rem_euclid(TAU) - PI;
            let way = if turn > 0.0 { "left" } else { "right" };
            let toward = match (s.told[2], s.by_turn) {
                (false, _) => String::new(),
                (true, true) => format!("turned {way} {}", degrees(turn.abs())),
                (true, false) => format!("at {}", degrees(s.heading.rem_euclid(TAU))),
            };
            let arc = s.sweep != 0.0 || before.sweep != 0.0;
            let sharp = if !s.tangent && arc { "sharp" } else { "" };
            if s.sweep == 0.0 {
                return format!("line {size} {toward} {sharp}");
            }
            let sweep = if s.told[1] { degrees(s.sweep.abs()) } else { String::new() };
            format!("arc {} {size} {sweep} {toward} {sharp}", if s.sweep > 0.0 { "left" } else { "right" })
        })
        .collect();
    format!("contour {}", said.join(", "))
}

/// How many figures it is short of: unknowns less the rank of what is told of them, by elimination. None
/// where that is too close to say.
fn short_of(sides: &[True]) -> Option<usize> {
    let n = sides.len();
    let unknowns = 3 * n;
    let mut rows: Vec<Vec<f64>> = Vec::new();
    let unit = |terms: &[(usize, f64)]| {
        let mut row = vec![0.0; unknowns];
        terms.iter().for_each(|(k, v)| row[*k] += v);
        row
    };
    for (k, s) in sides.iter().enumerate() {
        let before = (k + n - 1) % n;
        let runs_on = [(3 * k, 1.0), (3 * before, -1.0), (3 * before + 2, -1.0)];
        if s.told[0] {
            rows.push(unit(&[(3 * k + 1, 1.0)]));
        }
        if s.told[1] || s.sweep == 0.0 {
            rows.push(unit(&[(3 * k + 2, 1.0)]));
        }
        if s.tangent || (s.told[2] && s.by_turn) {
            rows.push(unit(&runs_on));
        }
        if s.told[2] && !s.by_turn {
            rows.push(unit(&[(3 * k, 1.0)]));
        }
    }
    if sides.iter().all(|s| !s.told[2] || s.by_turn) {
        rows.push(unit(&[(0, 1.0)]));
    }
    // Closing, by differences.
    let end = |sides: &[True]| {
        sides.iter().map(True::goes).fold([0.0, 0.0], |sum, g| [sum[0] + g[0] / 80.0, sum[1] + g[1] / 80.0])
    };
    let slope = |k: usize| {
        let at = |by: f64| {
            let mut moved = sides.to_vec();
            let s = &mut moved[k / 3];
            match k % 3 {
                0 => s.heading += by,
                1 => s.size += by * 80.0,
                _ if s.sweep != 0.0 => s.sweep += by,
                _ => {}
            }
            end(&moved)
        };
        let d = less(at(1e-5), at(-1e-5));
        [d[0] / 2e-5, d[1] / 2e-5]
    };
    let slopes: Vec<Point> = (0..unknowns).map(slope).collect();
    rows.extend((0..2).map(|axis| slopes.iter().map(|s| s[axis]).collect()));
    let mut rank = 0;
    while rank < rows.len() && rank < unknowns {
        let size = |&(i, k): &(usize, usize)| rows[i][k].abs();
        let all = (rank..rows.len()).flat_map(|i| (0..unknowns).map(move |k| (i, k)));
        let (i, k) = all.max_by(|a, b| size(a).total_cmp(&size(b)))?;
        let pivot = rows[i][k];
        if pivot.abs() < 1e-7 {
            break;
        }
        if pivot.abs() < 1e-2 {
            return None;
        }
        rows.swap(rank, i);
        let own = rows[rank].clone();
        for row in &mut rows[rank + 1..] {
            let by = row[k] / pivot;
            row.iter_mut().zip(&own).for_each(|(r, o)| *r -= by * o);
        }
        rank += 1;
    }
    Some(unknowns - rank)
}

/// The corners of what was found, in the order they were told.
fn corners(out: &PieceResult) -> Vec<Point> {
    let sides = out.figures.iter().find(|f| f.key == "sides").unwrap();
    let number = |t: &str| t.trim().parse::<f64>().unwrap();
    let at = |t: &str| {
        let (x, y) = t.strip_prefix("from ").unwrap().split_once(", ").unwrap();
        [number(x), number(y)]
    };
    sides.working.terms.iter().map(|t| at(&t.meaning)).collect()
}

#[test]
fn random_outlines_are_found_or_told_to_be_short() {
    let mut dice = Dice(20261126);
    let (mut all, mut found, mut several, mut short, mut open, mut either) = (0, 0, 0, 0, 0, 0);
    while all < 1000 {
        let mut sides = outline(&mut dice);
        forget(&mut sides, &mut dice);
        let Some(free) = short_of(&sides) else { continue };
        all += 1;
        let text = typed(&sides);
        let out = evaluate_piece(&job(Default::default()), &piece("6", "6", &[&text]));
        let said = out.faults.iter().map(|f| format!("{}: {}", f.path, f.fault.message)).collect::<String>();
        if free > 0 {
            short += 1;
            let wanted = if free == 1 {
                "one figure is missing".into()
            } else {
                format!("{free} figures are missing")
            };
            assert!(said.contains(&wanted), "{text}\nshort of {free}, yet: {said}");
            continue;
        }
        if said.contains("it closes in") {
            several += 1;
            // The field that is asked for, and what it truly is.
            let mut path = said.split([':', '/']).skip(3);
            let k: usize = path.next().unwrap().parse().unwrap();
            let of = match path.next().unwrap() {
                "angle" => format!("{:.2}", sides[k].sweep.abs().to_degrees()),
                _ => format!("{:.3}", sides[k].size),
            };
            let of = of.trim_end_matches('0').trim_end_matches('.');
            assert!(said.contains(of), "{text}\nis truly {of}, yet: {said}");
            continue;
        }
        assert!(out.made, "{text}\n{said}");
        found += 1;
        open += usize::from(!out.found.is_empty());
        let sum = sides.iter().map(True::goes);
        let mut at = [0.0, 0.0];
        let working = &out.figures.iter().find(|f| f.key == "sides").unwrap().working;
        if working.assumption.as_ref().is_some_and(|a| a.contains("either way")) {
            either += 1;
            continue;
        }
        let turned = if sides.iter().all(|s| !s.told[2] || s.by_turn) { -sides[0].heading } else { 0.0 };
        for (k, (goes, corner)) in sum.zip(corners(&out)).enumerate() {
            let (sin, cos) = turned.sin_cos();
            let true_at: Point = [at[0] * cos - at[1] * sin, at[0] * sin + at[1] * cos];
            let off = less(true_at, corner);
            assert!(off[0].hypot(off[1]) < 2e-3, "{text}\ncorner {k}: {true_at:?} was found at {corner:?}");
            at = [at[0] + goes[0], at[1] + goes[1]];
        }
    }
    let told = format!(
        "{found} found ({open} with open figures, {either} either way), {several} several, {short} short"
    );
    assert!(found > 700 && open > 400 && short > 100 && several < 60 && either < 60, "{told}");
}

/// A side or a condition of any kind, its figures from nowhere.
fn anything(dice: &mut Dice, n: usize) -> String {
    const WAYS: [&str; 8] =
        ["east", "north", "west", "south", "at 37°", "turned left 45°", "turned right 90°", ""];
    let pick = |dice: &mut Dice, of: &[&'static str]| of[dice.to(0.0, of.len() as f64) as usize];
    let name = |dice: &mut Dice| format!("s{}", dice.to(0.0, n as f64) as usize);
    let maybe = |dice: &mut Dice, text: String| if dice.is(0.5) { text } else { String::new() };
    let mut sides = Vec::new();
    for k in 0..n {
        let toward = pick(dice, &WAYS);
        let sharp = pick(dice, &["sharp", "", ""]);
        let end = match dice.to(0.0, 8.0) as usize {
            0 => format!("level with {}", name(dice)),
            1 => format!("plumb with {}", name(dice)),
            2 => format!("meeting {}", name(dice)),
            3 => "rounded R3".to_string(),
            _ => String::new(),
        };
        let size = dice.to(1.0, 90.0);
        sides.push(if dice.is(0.6) {
            let size = maybe(dice, format!("{size:.2}"));
            format!("s{k}: line {size} {toward} {sharp} {end}")
        } else {
            let (radius, sweep) = (maybe(dice, format!("R{size:.2}")), dice.to(5.0, 350.0));
            let sweep = maybe(dice, format!("{sweep:.1}°"));
            format!("s{k}: arc {} {radius} {sweep} {toward} {sharp} {end}", pick(dice, &["left", "right"]))
        });
    }
    if dice.is(0.7) {
        *sides.last_mut().unwrap() = format!("s{}: close", n - 1);
    }
    for _ in 0..dice.to(0.0, 1.8) as usize {
        let (a, b, by) = (name(dice), name(dice), dice.to(1.0, 80.0));
        sides.push(match dice.to(0.0, 8.0) as usize {
            0 => format!("where equal {a} and {b}"),
            1 => format!("where parallel {a} and {b}"),
            2 => format!("where square {a} and {b}"),
            3 => format!("where in line {a} and {b}"),
            4 => format!("where concentric {a} and {b}"),
            5 => format!("where distance {a} and {b} {by:.1}"),
            6 => format!("where symmetric about {a}"),
            _ => format!("where end of {a} {by:.1} north of start"),
        });
    }
    format!("contour {}", sides.join(", "))
}

/// Whatever is told of an outline, it is made or it is said why not, at a field and with a mend; every side
/// of what is made has some length, and it comes back to where it began.
#[test]
fn whatever_is_told_is_made_or_refused() {
    let mut dice = Dice(4711);
    let mut made = 0;
    for k in 0..400 {
        let n = 2 + dice.to(0.0, 5.0) as usize;
        let text = anything(&mut dice, n);
        let out = evaluate_piece(&job(Default::default()), &piece("6", "6", &[&text]));
        assert_ne!(out.made, out.faults.iter().any(|f| f.line == "start-1"), "{k}: {text}\n{:?}", out.faults);
        assert!(out.faults.iter().all(|f| f.path.starts_with("/say/") && !f.fault.mend.is_empty()), "{text}");
        if out.made {
            made += 1;
            let outer = &out.flat.outer;
            assert!(outer.is_finite() && outer.signed_area() > 0.0, "{text}");
            assert!(outer.segments().all(|s| s.length() > 1e-7), "{text}");
        }
    }
    assert!(made > 5, "{made} made");
}

/// Two hundred sides of which nothing is known, and two hundred that contradict, end: the work is counted.
#[test]
fn large_outlines_end() {
    let open = vec!["arc left"; 200].join(", ");
    let odd = vec!["arc left R10", "line 7", "arc right 30°", "line 9 turned left 10°"];
    let odd = odd.into_iter().cycle().take(198).collect::<Vec<_>>().join(", ");
    for text in [format!("contour {open}"), format!("contour {odd}, line 5 east, line 3 north")] {
        let out = evaluate_piece(&job(Default::default()), &piece("6", "6", &[&text]));
        assert_eq!(out.faults.len(), 1, "{:?}", out.faults);
    }
}

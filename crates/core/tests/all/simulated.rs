//! The press brake simulated a second time, by a general collision library (parry3d) and kinematics of its
//! own: random profiles and boxes are bent in the order that Steelk proposes, in small steps, against solid
//! tools. It takes from Steelk what was flat (the triangulated flat and its zones) and what is claimed of the
//! brake; nothing of how that was come by. Figures of the tools are those of docs/shop-rules.md.

use crate::common::*;
use glam::{DAffine3, DVec2, DVec3};
use parry3d_f64::math::{Pose, Vector};
use parry3d_f64::query::intersection_test;
use parry3d_f64::shape::{ConvexPolyhedron, Shape, Triangle};
use serde_json::{Value, json};
use steelk_core::job::Piece;
use steelk_core::result::PieceResult;
use steelk_core::sheet::brake::{Step, Tool};
use steelk_core::sheet::mesh::FlatMesh;
use steelk_core::shop::BendMethod;

/// A box round something, to look closer only where it is worth it.
#[derive(Clone, Copy)]
struct Round(DVec3, DVec3);

impl Round {
    fn of(points: &[DVec3]) -> Round {
        points
            .iter()
            .fold(Round(DVec3::INFINITY, DVec3::NEG_INFINITY), |r, p| Round(r.0.min(*p), r.1.max(*p)))
    }

    fn meets(&self, o: &Round) -> bool {
        self.0.cmple(o.1).all() && o.0.cmple(self.1).all()
    }
}

fn v(p: DVec3) -> Vector {
    Vector::new(p.x, p.y, p.z)
}

/// A tool as a solid.
struct Solid {
    tool: Tool,
    shape: ConvexPolyhedron,
    round: Round,
}

/// The corners of a convex polygon whose sides are moved in by `by`.
fn inset(corners: &[DVec2], by: f64) -> Vec<DVec2> {
    let n = corners.len();
    let line = |i: usize| {
        let d = (corners[(i + 1) % n] - corners[i]).normalize();
        (corners[i] + d.perp() * by, d)
    };
    (0..n)
        .map(|i| {
            let ((p, d), (q, e)) = (line((i + n - 1) % n), line(i));
            p + d * ((q - p).perp_dot(e) / d.perp_dot(e))
        })
        .collect()
}

fn solid(tool: Tool, corners: &[(f64, f64)], up: f64, run: (f64, f64), by: f64) -> Option<Solid> {
    let ring = inset(&corners.iter().map(|c| DVec2::new(c.0, c.1 + up)).collect::<Vec<_>>(), by);
    let points: Vec<DVec3> =
        [run.0, run.1].iter().flat_map(|y| ring.iter().map(|p| DVec3::new(p.x, *y, p.y))).collect();
    let round = Round::of(&points);
    (run.0 < run.1).then(|| Solid {
        tool,
        shape: ConvexPolyhedron::from_convex_hull(&points.iter().map(|p| v(*p)).collect::<Vec<_>>()).unwrap(),
        round,
    })
}

/// Straight punch 160 high, 24 thick, 30°; beam 80 thick; die 60 high or 1.5 V, V of 30°, shoulders of 10;
/// bed 120 thick; 3 m long.
fn tools(opening: f64, die_top: f64, parted: (f64, f64), whole: (f64, f64), by: f64) -> Vec<Solid> {
    let slope = 15f64.to_radians().tan();
    let (h, half) = ((1.5 * opening).max(60.0), opening / 2.0);
    let deep = (half / slope).min(h - 15.0);
    let foot = half - deep * slope;
    let out = half + 10.0;
    let far = 2_000.0;
    [
        solid(
            Tool::Punch,
            &[(0.0, 0.0), (12.0, 12.0 / slope), (12.0, 160.0), (-12.0, 160.0), (-12.0, 12.0 / slope)],
            0.0,
            parted,
            by,
        ),
        solid(Tool::Beam, &[(-40.0, 160.0), (40.0, 160.0), (40.0, far), (-40.0, far)], 0.0, whole, by),
        solid(Tool::Die, &[(foot, -deep), (out, -deep), (out, 0.0), (half, 0.0)], die_top, parted, by),
        solid(Tool::Die, &[(-foot, -deep), (-half, 0.0), (-out, 0.0), (-out, -deep)], die_top, parted, by),
        solid(Tool::Die, &[(-out, -h), (out, -h), (out, -deep), (-out, -deep)], die_top, parted, by),
        solid(Tool::Bed, &[(-60.0, -far), (60.0, -far), (60.0, -h), (-60.0, -h)], die_top, whole, by),
    ]
    .into_iter()
    .flatten()
    .collect()
}

struct Sim<'a> {
    p: &'a PieceResult,
    mesh: FlatMesh,
    t: f64,
}

#[derive(Clone, Copy)]
enum Walls {
    None,
    Piece,
    Triangles,
}

/// One zone's metal among the tools: triangles of its faces and walls.
struct Metal {
    zone: usize,
    triangles: Vec<[DVec3; 3]>,
    round: Round,
}

impl Sim<'_> {
    fn new(p: &PieceResult) -> Sim<'_> {
        Sim { p, mesh: FlatMesh::new(&p.flat.outer, &[], &[], &p.zones, p.thickness, false), t: p.thickness }
    }

    /// A point `u` into a bend of `angle`, in the flat's own place of the bend.
    fn rolled(&self, z: usize, angle: f64, share: f64) -> DAffine3 {
        let zone = &self.p.zones[z];
        let b = zone.bend().unwrap();
        let back = DAffine3::from_translation(zone.along.extend(0.0) * (-share * b.allowance));
        if angle < 1e-9 {
            return DAffine3::IDENTITY;
        }
        // The neutral line keeps its length.
        let r = b.allowance / angle - b.k * self.t;
        let (height, sign) = if b.up { (self.t + r, 1.0) } else { (-r, -1.0) };
        let centre = zone.origin.extend(height);
        let turn = DAffine3::from_axis_angle(-zone.along.perp().extend(0.0), sign * angle * share);
        DAffine3::from_translation(centre) * turn * DAffine3::from_translation(-centre) * back
    }

    /// How each zone's flat has moved, by the bends before it.
    fn moved(&self, angles: &[f64]) -> Vec<DAffine3> {
        let zones = &self.p.zones;
        let of = |z: usize| {
            let mut m = DAffine3::IDENTITY;
            let mut at = zones[z].parent;
            while let Some(q) = at {
                if zones[q].bend().is_some() {
                    m = self.rolled(q, angles[q], 1.0) * m;
                }
                at = zones[q].parent;
            }
            m
        };
        (0..zones.len()).map(of).collect()
    }

    fn point(&self, z: usize, p: DVec2, h: f64, moved: &[DAffine3], angles: &[f64]) -> DVec3 {
        let zone = &self.p.zones[z];
        let flat = p.extend(h);
        match zone.bend() {
            None => moved[z].transform_point3(flat),
            Some(b) => {
                let share = ((p - zone.origin).dot(zone.along) / b.allowance).clamp(0.0, 1.0);
                let m = self.rolled(z, angles[z], share);
                moved[z].transform_point3(m.transform_point3(flat))
            }
        }
    }

    /// From space to the tools of a bend: the tip of the punch on the inside of its middle.
    fn among_tools(&self, c: usize, moved: &[DAffine3], angles: &[f64]) -> DAffine3 {
        let zone = &self.p.zones[c];
        let b = zone.bend().unwrap();
        let inside = if b.up { self.t } else { 0.0 };
        let at = |share: f64| {
            self.point(c, zone.origin + zone.along * (share * b.allowance), inside, moved, angles)
        };
        let x = (at(1.0) - at(0.0)).normalize();
        let y = moved[c].transform_vector3(zone.along.perp().extend(0.0));
        let z = x.cross(y) * if b.up { 1.0 } else { -1.0 };
        DAffine3::from_cols(x, y, z, at(0.5)).inverse()
    }

    /// Everything as it stands at `phi` of one bend, faces drawn in by `by`; with the walls of the piece, or
    /// of every triangle: zones end inside it.
    fn metal(&self, c: usize, angles: &[f64], by: f64, walls: Walls) -> Vec<Metal> {
        let moved = self.moved(angles);
        let to = self.among_tools(c, &moved, angles);
        let mesh = &self.mesh;
        // Corners on a border belong to both zones: each triangle is placed by its own.
        let place = |z: usize, i: u32, h: f64| {
            to.transform_point3(self.point(z, mesh.points[i as usize], h, &moved, angles))
        };
        let mut out: Vec<Metal> = (0..self.p.zones.len())
            .map(|zone| Metal { zone, triangles: Vec::new(), round: Round::of(&[]) })
            .collect();
        for (tri, z) in mesh.triangles.iter().zip(&mesh.triangle_zones) {
            for h in [by, self.t - by] {
                out[*z as usize].triangles.push(tri.map(|i| place(*z as usize, i, h)));
            }
        }
        let around =
            mesh.walls.iter().map(|&(a, b, _)| (mesh.zones[a as usize].min(mesh.zones[b as usize]), a, b));
        let each = mesh
            .triangles
            .iter()
            .zip(&mesh.triangle_zones)
            .flat_map(|(t, z)| (0..3).map(|k| (*z, t[k], t[(k + 1) % 3])));
        let sides: Vec<(u32, u32, u32)> = match walls {
            Walls::None => Vec::new(),
            Walls::Piece => around.collect(),
            Walls::Triangles => each.collect(),
        };
        for (z, a, b) in sides {
            let z = z as usize;
            let q = [(a, 0.0), (b, 0.0), (b, self.t), (a, self.t)].map(|(i, h)| place(z, i, h));
            out[z].triangles.extend([[q[0], q[1], q[2]], [q[0], q[2], q[3]]]);
        }
        for m in &mut out {
            m.round = Round::of(&m.triangles.iter().flatten().copied().collect::<Vec<_>>());
        }
        out
    }

    /// Height of the die's shoulders under the sheet.
    fn die_top(&self, c: usize, angle: f64, opening: f64) -> f64 {
        let b = self.p.zones[c].bend().unwrap();
        if angle < 1e-9 {
            return -self.t;
        }
        let r = b.allowance / angle - b.k * self.t;
        let (half, turn) = (opening / 2.0, angle / 2.0);
        // The underside: an arc about (0, r), then straight on along its tangent.
        let end = DVec2::new(0.0, r) + DVec2::from_angle(turn - std::f64::consts::FRAC_PI_2) * (r + self.t);
        if half < end.x {
            r - ((r + self.t).powi(2) - half * half).sqrt()
        } else {
            end.y + (half - end.x) * turn.tan()
        }
    }

    fn hangs_on(&self, mut z: usize, c: usize) -> bool {
        while let Some(p) = self.p.zones[z].parent {
            if p == c {
                return true;
            }
            z = p;
        }
        false
    }

    /// One panel, its bends, and the panels behind them.
    fn joined(&self, a: usize, b: usize) -> bool {
        let up = |z: usize| self.p.zones[z].parent;
        let near = |z: usize, o: usize| up(z) == Some(o) || up(z).and_then(up) == Some(o);
        a == b || near(a, b) || near(b, a) || up(a) == up(b)
    }
}

fn meet(a: &[DVec3; 3], shape: &dyn Shape, round: &Round) -> bool {
    let tri = Triangle::new(v(a[0]), v(a[1]), v(a[2]));
    Round::of(a).meets(round)
        && intersection_test(&Pose::identity(), &tri, &Pose::identity(), shape).unwrap().intersecting
}

fn in_tool(m: &Metal, s: &Solid) -> bool {
    m.round.meets(&s.round) && m.triangles.iter().any(|t| meet(t, &s.shape, &s.round))
}

fn crossed(a: &Metal, b: &Metal) -> bool {
    let common = Round(a.round.0.max(b.round.0), a.round.1.min(b.round.1));
    if !a.round.meets(&b.round) {
        return false;
    }
    let near =
        |m: &Metal| m.triangles.iter().copied().filter(|t| Round::of(t).meets(&common)).collect::<Vec<_>>();
    let (a, b) = (near(a), near(b));
    a.iter().any(|p| {
        b.iter().any(|q| {
            Round::of(p).meets(&Round::of(q))
                && meet(p, &Triangle::new(v(q[0]), v(q[1]), v(q[2])), &Round::of(q))
        })
    })
}

const STEP: f64 = 1.5 * std::f64::consts::PI / 180.0;

/// Every stroke of the piece in its proposed order. Returns how many struck, and how many were made.
fn simulate(p: &PieceResult, what: &str) -> (usize, usize) {
    let sim = Sim::new(p);
    let opening: f64 = p.bend_rows.first().map_or(0.0, |r| r.die.parse().unwrap());
    let mut angles = vec![0.0; p.zones.len()];
    let mut struck = 0;
    for (row, step) in p.bend_rows.iter().zip(&p.plan.steps) {
        let c = p.zones.iter().position(|z| z.name == row.name).unwrap();
        let what = format!("{what}: {}", row.name);
        gauged(&sim, c, step, &mut angles, &what);
        stroke(&sim, c, step, &mut angles, opening, &what);
        struck += usize::from(!step.strikes.is_empty());
        angles[c] = p.zones[c].bend().unwrap().angle;
    }
    (struck, p.bend_rows.len())
}

/// The stop and the measure after the stroke, against the outermost points of the metal: within 0.01 mm.
fn gauged(sim: &Sim, c: usize, step: &Step, angles: &mut [f64], what: &str) {
    let full = sim.p.zones[c].bend().unwrap().angle;
    // Every side of every triangle, finely: along a bend it is an arc.
    let points = |z: usize| {
        let sides =
            sim.mesh.triangles.iter().zip(&sim.mesh.triangle_zones).filter(move |t| *t.1 as usize == z);
        sides
            .flat_map(|(t, _)| (0..3).map(|k| [t[k], t[(k + 1) % 3]].map(|i| sim.mesh.points[i as usize])))
            .flat_map(|[a, b]| (0..=60).map(move |k| a.lerp(b, f64::from(k) / 60.0)))
    };
    let extent = |zones: &dyn Fn(usize) -> bool, angles: &[f64], along: &dyn Fn(DVec3) -> f64| {
        let moved = sim.moved(angles);
        let of = (0..sim.p.zones.len())
            .filter(|z| zones(*z))
            .flat_map(|z| points(z).flat_map(move |p| [(z, p, 0.0), (z, p, sim.t)]));
        of.map(|(z, p, h)| along(sim.point(z, p, h, &moved, angles)))
            .fold((f64::INFINITY, f64::NEG_INFINITY), |r, x| (r.0.min(x), r.1.max(x)))
    };
    let far = |z: usize| sim.hangs_on(z, c);
    let near = |z: usize| z != c && !sim.hangs_on(z, c);
    angles[c] = 0.0;
    let to = sim.among_tools(c, &sim.moved(angles), angles);
    let x = |p: DVec3| to.transform_point3(p).x;
    let ends = [extent(&far, angles, &x).1, -extent(&near, angles, &x).0];
    let k = usize::from((step.stop.away - ends[0]).abs() > (step.stop.away - ends[1]).abs());
    assert!(
        (step.stop.away - ends[k]).abs() < 0.01 && (step.front - ends[1 - k]).abs() < 0.01,
        "{what}: {} and {} of {ends:?}",
        step.stop.away,
        step.front
    );
    if full < std::f64::consts::FRAC_PI_2 - 1e-9 {
        return;
    }
    angles[c] = full;
    // Along the leg at the stop, from the outermost tangent of the bend.
    let zone = &sim.p.zones[c];
    let leg = if k == 0 {
        sim.rolled(c, full, 1.0).transform_vector3(zone.along.extend(0.0))
    } else {
        -zone.along.extend(0.0)
    };
    let leg = sim.moved(angles)[c].transform_vector3(leg);
    let out = |p: DVec3| p.dot(leg);
    let side: &dyn Fn(usize) -> bool = if k == 0 { &far } else { &near };
    let measure = extent(side, angles, &out).1 - extent(&|z| z == c, angles, &out).0;
    assert!((step.measure - measure).abs() < 0.01, "{what}: measures {} for {measure}", step.measure);
    angles[c] = 0.0;
}

fn stroke(sim: &Sim, c: usize, step: &Step, angles: &mut [f64], opening: f64, what: &str) {
    let zones = &sim.p.zones;
    let full = zones[c].bend().unwrap().angle;
    let across = |i: &u32| (sim.mesh.points[*i as usize] - zones[c].origin).dot(zones[c].along.perp());
    let own = sim
        .mesh
        .triangles
        .iter()
        .zip(&sim.mesh.triangle_zones)
        .filter(|t| *t.1 as usize == c)
        .flat_map(|t| t.0)
        .map(across);
    let reach = own.fold((f64::INFINITY, f64::NEG_INFINITY), |r, y| (r.0.min(y), r.1.max(y)));
    let middle = (reach.0 + reach.1) / 2.0;
    let whole = (middle - 1_500.0, middle + 1_500.0);
    let limit = (10.0 * sim.t).max(10.0).min(0.15 * (reach.1 - reach.0));
    let off = step.short.as_ref().map_or([0.0; 2], |s| s.ends);
    assert!(off[0].max(off[1]) <= limit + 1e-6, "{what}: {off:?} of {limit}");
    let punch = (reach.0 + off[0] + 0.5, reach.1 - off[1] - 0.5);
    let claimed = |tool: Option<Tool>| step.strikes.iter().any(|s| tool.is_none_or(|t| s.tool == t));
    let mut phi: f64 = 0.0;
    loop {
        angles[c] = phi;
        // What is 0.5 mm deep must have been told.
        let metal = sim.metal(c, angles, 0.0, Walls::Piece);
        if phi <= step.most && !claimed(None) {
            for s in tools(opening, sim.die_top(c, phi, opening), punch, whole, 0.5) {
                for m in &metal {
                    assert!(
                        !in_tool(m, &s),
                        "{what}: {} is in the {:?} at {:.1}° and nothing was said",
                        zones[m.zone].name,
                        s.tool,
                        phi.to_degrees()
                    );
                }
            }
        }
        if !claimed(Some(Tool::Piece)) {
            let drawn_in = sim.metal(c, angles, 0.5, Walls::None);
            for m in &metal {
                for o in &drawn_in {
                    let sides = sim.hangs_on(m.zone, c) != sim.hangs_on(o.zone, c);
                    let apart = sides && m.zone != c && o.zone != c && !sim.joined(m.zone, o.zone);
                    let said = || {
                        format!(
                            "{what}: {} is in {} at {:.1}° and nothing was said",
                            zones[m.zone].name,
                            zones[o.zone].name,
                            phi.to_degrees()
                        )
                    };
                    assert!(!apart || !crossed(m, o), "{}", said());
                }
            }
        }
        if phi >= full {
            break;
        }
        phi = (phi + STEP).min(full);
    }
    // And what was told must be there, where it was told.
    for s in &step.strikes {
        angles[c] = s.at;
        let metal = sim.metal(c, angles, 0.0, Walls::Triangles);
        let of = metal.iter().find(|m| zones[m.zone].name == s.panel).unwrap();
        let found = match s.tool {
            Tool::Piece => metal.iter().any(|o| {
                sim.hangs_on(of.zone, c) != sim.hangs_on(o.zone, c) && o.zone != c && crossed(of, o)
            }),
            tool => {
                let run = (reach.0 + limit - 0.1, reach.1 - limit + 0.1);
                tools(opening, sim.die_top(c, s.at, opening), run, whole, 0.0)
                    .iter()
                    .any(|t| t.tool == tool && in_tool(of, t))
            }
        };
        assert!(found, "{what}: {s:?} was told and is not there");
    }
    angles[c] = 0.0;
}

/// Numbers at random, the same at every run (SplitMix64, Steele and others 2014).
struct Lot(u64);

impl Lot {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9E37_79B9_7F4A_7C15);
        let z = (self.0 ^ (self.0 >> 30)).wrapping_mul(0xBF58_476D_1CE4_E5B9);
        let z = (z ^ (z >> 27)).wrapping_mul(0x94D0_49BB_1331_11EB);
        z ^ (z >> 31)
    }

    fn between(&mut self, low: f64, high: f64) -> f64 {
        let share = (self.next() >> 11) as f64 / (1u64 << 53) as f64;
        ((low + (high - low) * share) * 10.0).round() / 10.0
    }

    fn of<T: Copy>(&mut self, list: &[T]) -> T {
        list[(self.next() % list.len() as u64) as usize]
    }
}

fn profile(lot: &mut Lot) -> (Piece, String) {
    let bends = lot.of(&[2, 3, 3, 4, 4, 5, 6]);
    let t = lot.of(&["1", "1.5", "2", "3"]);
    let mut text = format!("strip {}", lot.between(12.0, 60.0));
    for _ in 0..bends {
        let way = lot.of(&["up", "up", "down"]);
        let angle = lot.of(&["30", "45", "60", "90", "90", "90", "90", "120", "135"]);
        let leg =
            if lot.next().is_multiple_of(3) { lot.between(100.0, 320.0) } else { lot.between(14.0, 90.0) };
        text += &format!(" {way} {angle} {leg}");
    }
    text += &format!(" wide {}", lot.of(&[60, 240]));
    (piece(t, t, &[&text]), text)
}

fn boxed(lot: &mut Lot) -> (Piece, String) {
    let t = lot.of(&["1", "1.5", "2"]);
    let size = |l: &mut Lot| l.of(&[120.0, 180.0, 260.0, 400.0, 700.0]) + l.between(0.0, 30.0);
    let (w, d) = (size(lot), size(lot));
    let h = lot.of(&[25.0, 40.0, 60.0, 90.0, 130.0, 180.0, 300.0]);
    let mut start = json!({ "verb": "start_tray", "width": w.to_string(), "depth": d.to_string(),
        "height": h.to_string(), "relief": "round" });
    let mut says = Vec::new();
    match lot.next() % 4 {
        0 => {}
        1 => {
            start["lip"] = lot.of(&["14", "20", "35"]).into();
            start["lips_in"] = true.into();
        }
        2 => {
            start["lip"] = lot.of(&["14", "25"]).into();
            start["lips_in"] = false.into();
        }
        _ => {
            let edges = lot
                .of(&[["start-1.east.tip", "start-1.west.tip"], ["start-1.north.tip", "start-1.south.tip"]]);
            let way = lot.of(&["up", "down"]);
            says.push(json!({ "verb": "hem", "edges": edges, "hem": { "kind": "closed", "length": "10" },
                "direction": way }));
        }
    }
    says.insert(0, start);
    let said = Value::Array(says.clone()).to_string();
    (told(t, t, &says), said)
}

/// How many strokes of so many random pieces strike, and how many there are.
fn simulated(seed: u64, pieces: usize, make: impl Fn(&mut Lot) -> (Piece, String)) -> (usize, usize) {
    let mut lot = Lot(seed);
    let (mut struck, mut made) = (0, 0);
    for _ in 0..pieces {
        let (piece, said) = make(&mut lot);
        let p = steelk_core::evaluate::evaluate_piece(&job(school(BendMethod::Din6935)), &piece);
        if p.made {
            let n = simulate(&p, &said);
            (struck, made) = (struck + n.0, made + n.1);
        }
    }
    (struck, made)
}

/// 300 random profiles: channels, hats, Z, sigma and whatever else comes.
#[test]
fn profiles_strike_where_they_are_said_to() {
    let (struck, made) = simulated(20_261_125, 300, profile);
    assert!(made > 800 && struck > 40, "{struck} of {made}: the cases say nothing");
}

#[test]
fn boxes_strike_where_they_are_said_to() {
    let (struck, made) = simulated(7, 60, boxed);
    assert!(made > 200 && struck > 20, "{struck} of {made}: the cases say nothing");
}

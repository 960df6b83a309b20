//! Views with hidden lines: a line is seen where nothing stands before it, by a ray sent to the eye from many
//! places of it, and no two lines lie on one another.

use glam::{DAffine3, DVec2, DVec3, dvec3};
use steelk_core::drawing::dimensioned::{Head, Piece, piece_drawing};
use steelk_core::drawing::views::{Body, Sight, Wires, bare, cut, of_sheet, wires};
use steelk_core::drawing::{Item, Paper};
use steelk_core::evaluate::{evaluate, evaluate_piece};
use steelk_core::job::{FORMAT, Job};
use steelk_core::sheet::{has_patterns, plain_mesh};

use super::drawn_sizes::sample;
use crate::common::piece;

/// A block from corner to corner.
fn block(low: DVec3, high: DVec3) -> Body {
    let at = |k: usize| {
        let pick = |bit: usize, a: f64, b: f64| if k >> bit & 1 == 1 { b } else { a };
        dvec3(pick(0, low.x, high.x), pick(1, low.y, high.y), pick(2, low.z, high.z))
    };
    let points: Vec<DVec3> = (0..8).map(at).collect();
    // Each face by its corners, seen from outside against the clock.
    let faces = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]];
    let triangles: Vec<[u32; 3]> =
        faces.iter().flat_map(|[a, b, c, d]| [[*a, *b, *c], [*a, *c, *d]]).collect();
    bare(&points, &triangles, &DAffine3::IDENTITY)
}

fn length(strokes: &[Vec<DVec2>]) -> f64 {
    strokes.iter().flat_map(|s| s.windows(2)).map(|w| w[0].distance(w[1])).sum()
}

#[test]
fn of_a_cube_in_space_nine_edges_are_seen_and_three_are_not() {
    let w = wires(&[block(DVec3::ZERO, DVec3::splat(30.0))], &Sight::isometric(), true);
    let edge = 30.0 * (2.0f64 / 3.0).sqrt();
    assert!((length(&w.seen) - 9.0 * edge).abs() < 2e-3, "{}", length(&w.seen));
    assert!((length(&w.hidden) - 3.0 * edge).abs() < 2e-3, "{}", length(&w.hidden));
    // From the front only a square is left of it.
    let w = wires(&[block(DVec3::ZERO, DVec3::splat(30.0))], &Sight::FRONT, true);
    assert!((length(&w.seen) - 120.0).abs() < 2e-3 && w.hidden.is_empty(), "{w:?}");
}

/// A bar behind another: hidden exactly as far as it is covered; by hand.
#[test]
fn a_bar_behind_another_is_dashed_where_it_is_covered() {
    let near = block(dvec3(40.0, 0.0, -5.0), dvec3(60.0, 10.0, 50.0));
    let far = block(dvec3(0.0, 20.0, 10.0), dvec3(100.0, 30.0, 20.0));
    let w = wires(&[near, far], &Sight::FRONT, true);
    // Seen: the whole post, and the rail's sides and ends without what lies behind the post.
    let (post, rail) = (2.0 * (20.0 + 55.0), 2.0 * (100.0 + 10.0) - 2.0 * 20.0);
    assert!((length(&w.seen) - post - rail).abs() < 2e-3, "{}", length(&w.seen));
    assert!((length(&w.hidden) - 40.0).abs() < 2e-3, "{}", length(&w.hidden));
}

/// Whether a facet stands between a place in space and the eye (Möller and Trumbore 1997).
fn covered(bodies: &[Body], from: DVec3, eye: DVec3, past: f64) -> bool {
    bodies.iter().any(|b| {
        b.solid.triangles.iter().any(|t| {
            let [p, q, r] = t.map(|i| b.solid.points[i as usize]);
            let (e, f) = (q - p, r - p);
            let h = eye.cross(f);
            let d = e.dot(h);
            if d.abs() < 1e-9 * e.length() * f.length() {
                return false;
            }
            let s = from - p;
            let u = s.dot(h) / d;
            let k = s.cross(e);
            let v = eye.dot(k) / d;
            let inside = u > 1e-6 && v > 1e-6 && u + v < 1.0 - 1e-6;
            inside && f.dot(k) / d > past
        })
    })
}

/// Each edge in twenty places: where nothing covers it, a line is drawn there that is seen; where something
/// does, none is, unless another edge is seen in the same place.
fn tells_the_truth(bodies: &[Body], sight: &Sight, what: &str) {
    let w = wires(bodies, sight, true);
    let within = |strokes: &[Vec<DVec2>], p: DVec2, reach: f64| {
        let off = |a: DVec2, b: DVec2| {
            let way = b - a;
            let t = ((p - a).dot(way) / way.length_squared().max(1e-12)).clamp(0.0, 1.0);
            p.distance(a + way * t)
        };
        strokes.iter().flat_map(|s| s.windows(2)).any(|x| off(x[0], x[1]) < reach)
    };
    let near = |strokes: &[Vec<DVec2>], p: DVec2| within(strokes, p, 0.01);
    let mut looked = 0;
    for body in bodies {
        let step = (body.sharp.len() / 300).max(1);
        for [a, b] in body.sharp.iter().step_by(step) {
            let [a, b] = [*a, *b].map(|i| body.solid.points[i as usize]);
            if sight.flat(a).distance(sight.flat(b)) < 0.1 {
                continue;
            }
            for k in 1..20 {
                let p = a.lerp(b, f64::from(k) / 20.0);
                let at = sight.flat(p);
                let hidden = covered(bodies, p, sight.eye, 0.02);
                // Within a hair of where it changes nothing is claimed.
                let beside = [DVec2::X, DVec2::Y, DVec2::NEG_X, DVec2::NEG_Y].map(|d| {
                    let q = p + (sight.right * d.x + sight.up * d.y) * 0.03;
                    covered(bodies, q, sight.eye, 0.05)
                });
                if !hidden && !beside.contains(&true) {
                    assert!(near(&w.seen, at), "{what}: the edge at {p} is seen and not drawn");
                    looked += 1;
                } else if hidden && !beside.contains(&false) {
                    // Dashes that only blur a line beside them are left out.
                    let beside = |l: &[Vec<DVec2>]| within(l, at, 0.07);
                    let drawn = beside(&w.hidden) || beside(&w.seen) || beside(&w.soft);
                    assert!(drawn, "{what}: the edge at {p} is hidden and not drawn");
                    looked += 1;
                }
            }
        }
    }
    assert!(looked > 100, "{what}: {looked}");
    lie_apart(&w, what);
    // Dashes may cross a line, and never run along it.
    for x in w.hidden.iter().flat_map(|s| s.windows(2)).filter(|x| x[0].distance(x[1]) > 0.2) {
        let both = [0.3, 0.7].map(|t| near(&w.seen, x[0].lerp(x[1], t)));
        assert!(both != [true, true], "{what}: a line at {} is drawn full and dashed", x[0]);
    }
}

/// No dash is drawn twice: where two lay on one another they would flicker.
fn lie_apart(w: &Wires, what: &str) {
    let sides: Vec<[DVec2; 2]> = w
        .hidden
        .iter()
        .flat_map(|s| s.windows(2).map(|x| [x[0], x[1]]))
        .filter(|[a, b]| a.distance(*b) > 0.5)
        .collect();
    for (i, [a, b]) in sides.iter().enumerate() {
        let way = (*b - *a).normalize();
        let twin = sides[i + 1..].iter().find(|[p, q]| {
            let along = |v: DVec2| (v - *a).dot(way);
            let off = |v: DVec2| (v - *a).perp_dot(way).abs();
            let over = along(*p).max(along(*q)).min(a.distance(*b)) - along(*p).min(along(*q)).max(0.0);
            off(*p) < 5e-4 && off(*q) < 5e-4 && over > 0.05
        });
        assert!(twin.is_none(), "{what}: {a} to {b} and {twin:?} lie on one another");
    }
}

#[test]
fn every_view_of_the_sample_tells_the_truth() {
    for p in evaluate(&sample()).pieces.iter().filter(|p| p.made && !p.flat.bends.is_empty()) {
        let plain = has_patterns(p).then(|| plain_mesh(p).0);
        let body = of_sheet(p, plain.as_ref().unwrap_or_else(|| p.mesh()));
        for (sight, called) in [(Sight::FRONT, "front"), (Sight::TOP, "top"), (Sight::LEFT, "left")] {
            tells_the_truth(std::slice::from_ref(&body), &sight, &format!("{} {called}", p.mark));
        }
        tells_the_truth(&[body], &Sight::isometric(), &format!("{} in space", p.mark));
    }
}

fn area(loops: &[Vec<DVec2>]) -> f64 {
    let one = |l: &Vec<DVec2>| (0..l.len()).map(|k| l[k].perp_dot(l[(k + 1) % l.len()])).sum::<f64>() / 2.0;
    loops.iter().map(one).sum()
}

/// By hand: a block cut square to its length has the face of its end, and what is left is as long as told;
/// a plane beside it meets nothing.
#[test]
fn a_block_is_cut_into_its_face_and_its_rest() {
    let body = block(dvec3(-10.0, 5.0, 0.0), dvec3(90.0, 25.0, 12.0));
    let c = cut(&body, &Sight::RIGHT, 30.0).unwrap();
    assert_eq!(c.loops.len(), 1);
    assert!((area(&c.loops) - 20.0 * 12.0).abs() < 1e-9, "{}", area(&c.loops));
    assert!((c.rest.solid.volume() - 40.0 * 20.0 * 12.0).abs() < 1e-6);
    // A plane in an end of it goes a hair inwards.
    assert!(cut(&body, &Sight::RIGHT, 90.0).is_some_and(|c| (area(&c.loops) - 240.0).abs() < 1e-9));
    assert!(cut(&body, &Sight::RIGHT, 95.0).is_none() && cut(&body, &Sight::LEFT, 15.0).is_none());
}

/// Whatever is cut, the two rests are the whole (divergence theorem), and each lies behind its plane.
#[test]
fn two_rests_of_a_cut_are_the_whole() {
    let job = sample();
    for p in evaluate(&job).pieces.iter().filter(|p| !p.zones.is_empty()) {
        let mesh = if has_patterns(p) { plain_mesh(p).0 } else { p.mesh().clone() };
        let body = of_sheet(p, &mesh);
        let (low, high) = body.solid.bounds();
        let whole = body.solid.volume();
        for share in [0.13, 0.37, 0.47, 0.81] {
            for (sight, back) in [
                (Sight::RIGHT, Sight::LEFT),
                (Sight::FRONT, Sight { right: -Sight::FRONT.right, eye: -Sight::FRONT.eye, ..Sight::FRONT }),
            ] {
                let at = low.lerp(high, share).dot(sight.eye);
                let (a, b) = (cut(&body, &sight, at).unwrap(), cut(&body, &back, -at).unwrap());
                let sum = a.rest.solid.volume() + b.rest.solid.volume();
                assert!((sum / whole - 1.0).abs() < 1e-5, "{} at {share}: {sum} of {whole}", p.mark);
                assert!(area(&a.loops) > 0.0, "{} at {share}", p.mark);
                // Cut in another place by a hair at most.
                assert!((area(&a.loops) / area(&b.loops) - 1.0).abs() < 1e-2, "{} at {share}", p.mark);
            }
        }
    }
}

/// By hand: the section of a tray is as long as its middle, and as thick as its sheet (Pappus, plane case);
/// who looks sees a base and two sides. A channel shows its profile anyhow, and is not cut.
#[test]
fn a_tray_is_drawn_in_section_and_a_channel_is_not() {
    let made =
        |lines: &[&str]| evaluate_piece(&Job { format: FORMAT, ..Job::default() }, &piece("2", "3", lines));
    let tray = made(&["tray 200 120 40"]);
    assert!(tray.faults.is_empty(), "{:?}", tray.faults);
    let body = of_sheet(&tray, tray.mesh());
    let (low, high) = body.solid.bounds();
    let c = cut(&body, &Sight::LEFT, -(low.x + high.x) / 2.0).unwrap();
    let (t, r) = (2.0, 3.0);
    let (wide, tall) = (high.y - low.y, high.z - low.z);
    let middle = (wide - 2.0 * (r + t)) + 2.0 * (tall - (r + t)) + std::f64::consts::PI * (r + t / 2.0);
    assert!((area(&c.loops) / (middle * t) - 1.0).abs() < 2e-3, "{} for {}", area(&c.loops), middle * t);
    let texts = |p: &steelk_core::result::PieceResult| -> Vec<String> {
        let of = Piece { result: p, mesh: p.mesh(), unseen: Vec::new() };
        let sheets = piece_drawing(&of, Paper::A4, &Head::default());
        let text = |i: Item| if let Item::Text { text, .. } = i { Some(text) } else { None };
        sheets.into_iter().flat_map(|d| d.items).filter_map(text).collect()
    };
    let count = |texts: &[String], what: &str| texts.iter().filter(|t| *t == what).count();
    let told = texts(&tray);
    assert_eq!((count(&told, "section A–A"), count(&told, "A"), count(&told, "from the left")), (1, 2, 0));
    let told = texts(&made(&["strip 200 up 90 100 up 90 60 wide 80"]));
    assert_eq!((count(&told, "section A–A"), count(&told, "from the front")), (0, 1));
}

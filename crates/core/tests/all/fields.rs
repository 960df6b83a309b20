//! Fields of equal holes, triangulated once a cell, against the same region triangulated as a whole.

use glam::DVec2;
use proptest::prelude::*;
use steelk_core::geom::fields::triangulate_fields;
use steelk_core::geom::triangulate::{Crease, Creases, Family, TaggedLoop, Triangles, triangulate};

/// A hole of `n` corners, clockwise, each side with a tag of its own.
fn hole(centre: DVec2, radius: f64, n: u32, first: u32) -> TaggedLoop {
    let corner = |k: u32| DVec2::from_angle(-std::f64::consts::TAU * (f64::from(k) + 0.3) / f64::from(n));
    (0..n).map(|k| (centre + corner(k) * radius, first + k)).collect()
}

fn area(t: &Triangles) -> f64 {
    let doubled = |c: &[u32; 3]| {
        let [a, b, c] = c.map(|i| t.points[i as usize]);
        (b - a).perp_dot(c - a)
    };
    t.triangles.iter().map(doubled).sum::<f64>() / 2.0
}

fn length(t: &Triangles, sides: impl Iterator<Item = (u32, u32)>) -> f64 {
    sides.map(|(a, b)| t.points[a as usize].distance(t.points[b as usize])).sum()
}

/// Every side of a triangle is that of one neighbour, or a wall; no triangle is turned over.
fn is_whole(t: &Triangles) -> Result<(), String> {
    let mut sides = std::collections::HashMap::new();
    for c in &t.triangles {
        let [a, b, d] = c.map(|i| t.points[i as usize]);
        if (b - a).perp_dot(d - a) < -1e-9 {
            return Err(format!("turned over: {a} {b} {d}"));
        }
        for k in 0..3 {
            if sides.insert((c[k], c[(k + 1) % 3]), ()).is_some() {
                return Err(format!("two triangles on one side of {:?}", (c[k], c[(k + 1) % 3])));
            }
        }
    }
    let walls: std::collections::HashSet<(u32, u32)> = t.walls.iter().map(|w| (w.0, w.1)).collect();
    for side in sides.keys() {
        let twin = sides.contains_key(&(side.1, side.0));
        if twin == walls.contains(side) {
            let [a, b] = [side.0, side.1].map(|i| t.points[i as usize]);
            return Err(format!("{a} to {b}: neighbour {twin}, wall {}", !twin));
        }
    }
    Ok(())
}

/// The region as loops: a plate with a field of holes, some of them left out or replaced by others.
fn plate(
    columns: u32,
    rows: u32,
    pitch: DVec2,
    radius: f64,
    staggered: bool,
    odd: &[u32],
) -> Vec<TaggedLoop> {
    let size = DVec2::new(f64::from(columns) + 1.5, f64::from(rows) + 1.0) * pitch;
    let corners = [DVec2::ZERO, DVec2::new(size.x, 0.0), size, DVec2::new(0.0, size.y)];
    let mut out: Vec<TaggedLoop> = vec![corners.iter().zip(0..).map(|(c, k)| (*c, k)).collect()];
    for row in 0..rows {
        for column in 0..columns {
            let shift = if staggered && row % 2 == 1 { 0.5 } else { 0.0 };
            let at = DVec2::new(f64::from(column) + 1.0 + shift, f64::from(row) + 1.0) * pitch;
            let n = row * columns + column;
            match odd.iter().position(|o| *o == n) {
                None => out.push(hole(at, radius, 12, 100 + 20 * n)),
                // Another shape, large enough to reach into the cells beside it.
                Some(1) => out.push(hole(at, pitch.min_element() - radius - 0.1, 5, 100 + 20 * n)),
                Some(_) => {}
            }
        }
    }
    out
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    #[test]
    fn a_field_is_the_region_that_it_was(
        columns in 14u32..30, rows in 14u32..24, pitch in (5.0..9.0f64, 5.0..9.0f64), share in 0.2..0.49f64,
        staggered in any::<bool>(), odd in prop::collection::vec(0u32..400, 0..6),
        lines in prop::collection::vec(0.0..1.0f64, 0..7), across in any::<bool>(), beyond in 1.01..1.2f64,
    ) {
        let pitch = DVec2::new(pitch.0, pitch.1);
        let loops = plate(columns, rows, pitch, pitch.min_element() * share, staggered, &odd);
        let size = loops[0][2].0;
        let n = if across { DVec2::Y } else { DVec2::X };
        let (deep, wide) = (size.dot(n), size.dot(DVec2::ONE - n));
        let mut at: Vec<f64> = lines.iter().map(|l| l * deep).collect();
        at.sort_by(f64::total_cmp);
        at.dedup_by(|a, b| (*a - *b).abs() < 0.01);
        // Along n.perp(), which runs the other way for y.
        let (low, high) = if across { (-wide * beyond, 1.0) } else { (-1.0, wide * beyond) };
        let lines = at.iter().map(|&at| Crease { at, low, high }).collect::<Vec<_>>();
        let creases = if lines.is_empty() { vec![] } else { vec![Creases { family: Family::Parallel(n),
            lines }] };
        let (cells, whole) = (triangulate_fields(&loops, &creases), triangulate(&loops, &creases));
        is_whole(&cells).map_err(TestCaseError::fail)?;
        let close = |a: f64, b: f64| (a - b).abs() < 1e-6 * a.abs().max(1.0);
        prop_assert!(close(area(&cells), area(&whole)), "{} {}", area(&cells), area(&whole));
        // The same walls with the same tags, as long; the same creases.
        let tagged = |t: &Triangles| {
            let mut by = std::collections::BTreeMap::<u32, f64>::new();
            t.walls.iter().for_each(|w| *by.entry(w.2).or_default() += length(t, [(w.0, w.1)].into_iter()));
            by
        };
        let (a, b) = (tagged(&cells), tagged(&whole));
        prop_assert!(a.len() == b.len() && a.iter().zip(&b).all(|(p, q)| p.0 == q.0 && close(*p.1, *q.1)));
        let long = |t: &Triangles| length(t, t.creases.iter().copied());
        prop_assert!(close(long(&cells), long(&whole)), "{} {}", long(&cells), long(&whole));
    }
}

/// A staggered screen is made of few different cells: the way is taken, and it is the way that is tested.
#[test]
fn a_screen_is_made_of_cells() {
    let loops = plate(60, 60, DVec2::new(8.0, 7.0), 2.5, true, &[]);
    let lines = (0..20).map(|k| Crease { at: 13.37 + 23.0 * f64::from(k), low: -1.0, high: 1e4 }).collect();
    let creases = [Creases { family: Family::Parallel(DVec2::X), lines }];
    let (cells, whole) = (triangulate_fields(&loops, &creases), triangulate(&loops, &creases));
    is_whole(&cells).unwrap();
    // Each cell has corners of its own: more points than the whole has.
    assert!(cells.points.len() > whole.points.len() + 3_000, "{} {}", cells.points.len(), whole.points.len());
    assert!((area(&cells) - area(&whole)).abs() < 1e-6 * area(&whole));
}

//! Drawings brought in: everything that a cutter would see on the screen is there, in its place and unit, and
//! what is not is told.

use std::f64::consts::PI;
use std::time::{Duration, Instant};

use approx::assert_abs_diff_eq;
use glam::DVec2;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::geom::Contour;
use steelk_core::job::Assume;
use steelk_formats::drawn::{Content, DrawingError, Options};
use steelk_formats::{dxf, layers};

fn asked(assume: Option<Assume>) -> Options {
    Options { assume, ..Options::default() }
}

/// The largest part of a drawing, and what is told of all.
#[derive(Debug)]
struct Seen {
    contours: Vec<Contour>,
    mended: Vec<String>,
    left_out: Vec<String>,
    all: Content,
}

fn seen(all: Content) -> Seen {
    let (outer, cuts, _) = all.part(all.parts.first().unwrap_or_else(|| panic!("{:?}", all.left_out)));
    Seen {
        contours: std::iter::once(outer).chain(cuts).cloned().collect(),
        mended: all.repairs.iter().map(|r| r.said.clone()).collect(),
        left_out: all.left_out.clone(),
        all,
    }
}

fn read(bytes: &[u8], assume: Option<Assume>) -> Result<Content, DrawingError> {
    dxf::read(bytes, &asked(assume))
}

/// A drawing: number of its unit, layers (name, flags, colour), blocks (name, base, entities), entities.
#[derive(Default)]
struct Drawing {
    units: i64,
    layers: Vec<(&'static str, i64, i64)>,
    blocks: Vec<(&'static str, [f64; 2], String)>,
    entities: String,
}

impl Drawing {
    fn bytes(&self) -> Vec<u8> {
        let mut t = format!(
            "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n{}\n0\nENDSEC\n\
             0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n",
            self.units
        );
        for (name, flags, colour) in &self.layers {
            t += &format!("0\nLAYER\n2\n{name}\n70\n{flags}\n62\n{colour}\n");
        }
        t += "0\nENDTAB\n0\nENDSEC\n0\nSECTION\n2\nBLOCKS\n";
        for (name, [x, y], entities) in &self.blocks {
            t += &format!("0\nBLOCK\n8\n0\n2\n{name}\n10\n{x}\n20\n{y}\n{entities}0\nENDBLK\n");
        }
        (t + &format!("0\nENDSEC\n0\nSECTION\n2\nENTITIES\n{}0\nENDSEC\n0\nEOF\n", self.entities))
            .into_bytes()
    }

    fn read(&self) -> Seen {
        seen(read(&self.bytes(), Some(Assume::Mm)).unwrap_or_else(|e| panic!("{e}")))
    }
}

fn of(entities: String) -> Drawing {
    Drawing { units: 4, entities, ..Drawing::default() }
}

/// An entity of pairs; `2` and `8` first.
fn entity(kind: &str, pairs: &[(i32, f64)]) -> String {
    let whole = |c: &i32| (60..80).contains(c);
    pairs.iter().fold(format!("0\n{kind}\n"), |t, (c, v)| {
        t + &if whole(c) { format!("{c}\n{}\n", *v as i64) } else { format!("{c}\n{v}\n") }
    })
}

fn on(layer: &str, entity: &str) -> String {
    let (kind, rest) = entity[2..].split_once('\n').unwrap();
    format!("0\n{kind}\n8\n{layer}\n{rest}")
}

fn insert(block: &str, pairs: &[(i32, f64)]) -> String {
    let (kind, rest) =
        entity("INSERT", pairs)[2..].split_once('\n').map(|(k, r)| (k.to_string(), r.to_string())).unwrap();
    format!("0\n{kind}\n2\n{block}\n{rest}")
}

fn line(a: [f64; 2], b: [f64; 2]) -> String {
    entity("LINE", &[(10, a[0]), (20, a[1]), (11, b[0]), (21, b[1])])
}

fn path(points: &[[f64; 2]], closed: bool) -> String {
    let mut pairs = vec![(90, points.len() as f64), (70, f64::from(u8::from(closed)))];
    points.iter().for_each(|p| pairs.extend([(10, p[0]), (20, p[1])]));
    entity("LWPOLYLINE", &pairs)
}

fn plate(w: f64, h: f64) -> String {
    path(&[[0.0, 0.0], [w, 0.0], [w, h], [0.0, h]], true)
}

fn circle(x: f64, y: f64, r: f64) -> String {
    entity("CIRCLE", &[(10, x), (20, y), (40, r)])
}

/// The cuts: middle and area, from left to right.
fn cuts(c: &Seen) -> Vec<(DVec2, f64)> {
    let mut out: Vec<_> = c.contours[1..].iter().map(|k| (k.bounds().centre(), k.area())).collect();
    out.sort_by(|a, b| a.0.x.total_cmp(&b.0.x));
    out
}

/// A block set in twice, once mirrored and turned, its base point not its zero; a block in that block; a grid
/// of them.
#[test]
fn holes_in_blocks_are_cut() {
    let mut d = of(plate(400.0, 200.0)
        + &insert("bolt", &[(10, 50.0), (20, 60.0)])
        + &insert("BOLT", &[(10, 150.0), (20, 60.0), (41, -2.0), (42, 2.0), (50, 90.0)])
        + &insert("pair", &[(10, 300.0), (20, 100.0), (70, 3.0), (71, 2.0), (44, 30.0), (45, 40.0)]));
    d.blocks = vec![
        ("Bolt", [1.0, 2.0], circle(11.0, 2.0, 3.0)),
        ("pair", [0.0, 0.0], insert("bolt", &[]) + &path(&[[0.0, 10.0], [4.0, 10.0], [0.0, 14.0]], true)),
    ];
    let c = d.read();
    assert_eq!(c.contours.len(), 1 + 1 + 1 + 12, "{:?}", c.left_out);
    let got = cuts(&c);
    // 10 from its base; and 10 to the left of it, twice as large, turned a quarter: below.
    assert!(got[0].0.distance(DVec2::new(60.0, 60.0)) < 1e-9);
    assert!(got[1].0.distance(DVec2::new(150.0, 40.0)) < 1e-9, "{:?}", got[1]);
    assert_abs_diff_eq!(got[1].1, PI * 36.0, epsilon = 1e-9);
    assert!(
        got.iter().any(|(at, a)| at.distance(DVec2::new(370.0, 140.0)) < 1e-9 && (a - PI * 9.0).abs() < 1e-9),
        "{got:?}"
    );
    assert!(c.mended.is_empty() && c.left_out.is_empty(), "{c:?}");
}

/// A circle in a block that is stretched one way is an ellipse; a bulged polyline too: areas grow by both
/// factors.
#[test]
fn stretched_blocks_stretch_their_arcs() {
    let mut d = of(plate(400.0, 200.0) + &insert("a", &[(10, 100.0), (20, 100.0), (41, 3.0), (42, -0.5)]));
    let slot = entity(
        "LWPOLYLINE",
        &[
            (90, 4.0),
            (70, 1.0),
            (10, 20.0),
            (20, -5.0),
            (10, 40.0),
            (20, -5.0),
            (42, 1.0),
            (10, 40.0),
            (20, 5.0),
            (10, 20.0),
            (20, 5.0),
            (42, 1.0),
        ],
    );
    d.blocks = vec![("a", [0.0, 0.0], circle(0.0, 0.0, 10.0) + &slot)];
    let got = cuts(&d.read());
    // Chords inside and arcs outside even out far below what the curve may stray by times its length.
    assert_abs_diff_eq!(got[0].1, PI * 100.0 * 1.5, epsilon = 0.2);
    assert_abs_diff_eq!(got[1].1, (20.0 * 10.0 + PI * 25.0) * 1.5, epsilon = 0.2);
}

/// A spline's arcs lie within a hundredth of it. The spline here is a cubic of one stretch, so that the check
/// has its formula for itself.
#[test]
fn splines_become_arcs_within_a_hundredth() {
    let p = [DVec2::new(0.0, 0.0), DVec2::new(40.0, 90.0), DVec2::new(160.0, -70.0), DVec2::new(200.0, 50.0)];
    let mut pairs = vec![(71, 3.0)];
    pairs.extend([0.0, 0.0, 0.0, 0.0, 1.0, 1.0, 1.0, 1.0].map(|k| (40, k)));
    p.iter().for_each(|p| pairs.extend([(10, p.x), (20, p.y), (30, 0.0)]));
    let c =
        of(entity("SPLINE", &pairs)
            + &path(&[[200.0, 50.0], [200.0, 300.0], [0.0, 300.0], [0.0, 0.0]], false))
        .read();
    let bernstein = |t: f64| {
        p[0] * (1.0 - t).powi(3)
            + p[1] * 3.0 * t * (1.0 - t).powi(2)
            + p[2] * 3.0 * t * t * (1.0 - t)
            + p[3] * t.powi(3)
    };
    let off = (0..=2000)
        .map(|k| bernstein(f64::from(k) / 2000.0))
        .map(|q| c.contours[0].segments().map(|s| s.nearest(q).distance(q)).fold(f64::MAX, f64::min));
    let worst = off.fold(0.0, f64::max);
    assert!(worst < 0.01, "{worst}");
    let n = c.contours[0].vertices.len();
    assert!(n < 60, "{n} sides are more than a cutter wants");
}

/// A circle as a rational spline of four quarters is a circle again; an ellipse and a part of one keep their
/// area (Abramowitz and Stegun: π a b).
#[test]
fn round_splines_and_ellipses() {
    let w = 0.5f64.sqrt();
    let ring = [
        [1.0, 0.0],
        [1.0, 1.0],
        [0.0, 1.0],
        [-1.0, 1.0],
        [-1.0, 0.0],
        [-1.0, -1.0],
        [0.0, -1.0],
        [1.0, -1.0],
        [1.0, 0.0],
    ];
    let mut pairs = vec![(71, 2.0)];
    pairs.extend([0.0, 0.0, 0.0, 1.0, 1.0, 2.0, 2.0, 3.0, 3.0, 4.0, 4.0, 4.0].map(|k| (40, k)));
    ring.iter().enumerate().for_each(|(i, p)| {
        pairs.extend([
            (10, 100.0 + 8.0 * p[0]),
            (20, 50.0 + 8.0 * p[1]),
            (30, 0.0),
            (41, if i % 2 == 1 { w } else { 1.0 }),
        ])
    });
    let whole = entity(
        "ELLIPSE",
        &[(10, 200.0), (20, 50.0), (11, 12.0), (21, 16.0), (40, 0.3), (41, 0.0), (42, 2.0 * PI)],
    );
    // From behind, half of it runs the other way round: its flat side is closed by a line.
    let half = entity(
        "ELLIPSE",
        &[(10, 300.0), (20, 50.0), (11, 20.0), (21, 0.0), (40, 0.5), (41, 0.0), (42, PI), (230, -1.0)],
    ) + &line([280.0, 50.0], [320.0, 50.0]);
    let c = of(plate(400.0, 100.0) + &entity("SPLINE", &pairs) + &whole + &half).read();
    let got = cuts(&c);
    let round = c.contours.iter().find_map(Contour::as_circle).expect("a circle");
    assert!((round.1 - 8.0).abs() < 1e-6 && round.0.distance(DVec2::new(100.0, 50.0)) < 1e-6, "{round:?}");
    assert_abs_diff_eq!(got[1].1, PI * 20.0 * 6.0, epsilon = 0.3);
    assert_abs_diff_eq!(got[2].1, PI * 20.0 * 10.0 / 2.0, epsilon = 0.3);
    assert!(got[2].0.y < 50.0, "seen from behind its bow hangs down: {:?}", got[2]);
}

/// A closed curve told by wrapped control points runs between its inner knots; by the basis functions (Cox
/// and de Boor's recursion) its points lie on the arcs.
#[test]
fn wrapped_splines_close() {
    fn basis(i: usize, p: usize, t: f64) -> f64 {
        // Knots 0, 1, 2, …
        let at = i as f64;
        if p == 0 {
            return f64::from(u8::from(at <= t && t < at + 1.0));
        }
        (t - at) / p as f64 * basis(i, p - 1, t)
            + (at + p as f64 + 1.0 - t) / p as f64 * basis(i + 1, p - 1, t)
    }
    let control: Vec<DVec2> = (0..11)
        .map(|k| {
            DVec2::from_angle(2.0 * PI * f64::from(k % 8) / 8.0) * (30.0 + 10.0 * f64::from(k % 8 % 2)) + 60.0
        })
        .collect();
    let mut pairs = vec![(70, 11.0), (71, 3.0)];
    pairs.extend((0..15).map(|k| (40, f64::from(k))));
    control.iter().for_each(|p| pairs.extend([(10, p.x), (20, p.y), (30, 0.0)]));
    let c = of(plate(200.0, 120.0) + &entity("SPLINE", &pairs)).read();
    let cut = c.contours.get(1).unwrap_or_else(|| panic!("{c:?}"));
    for k in 0..400 {
        let t = 3.0 + 8.0 * f64::from(k) / 400.0;
        let p: DVec2 = (0..11).map(|i| control[i] * basis(i, 3, t)).sum();
        assert!(cut.segments().map(|s| s.nearest(p).distance(p)).fold(f64::MAX, f64::min) < 0.01, "{t}");
    }
}

/// A polyline in the old form, with a bulge; points of its frame are not on it.
#[test]
fn old_polylines_are_read() {
    let vertex = |x: f64, y: f64, bulge: f64, flags: f64| {
        entity("VERTEX", &[(10, x), (20, y), (42, bulge), (70, flags)])
    };
    let old = entity("POLYLINE", &[(66, 1.0), (70, 1.0)])
        + &vertex(0.0, 0.0, 0.0, 0.0)
        + &vertex(60.0, 0.0, 1.0, 0.0)
        + &vertex(500.0, 500.0, 0.0, 16.0)
        + &vertex(60.0, 40.0, 0.0, 0.0)
        + &vertex(0.0, 40.0, 0.0, 0.0)
        + "0\nSEQEND\n";
    let c = of(old + &circle(20.0, 20.0, 5.0)).read();
    assert_abs_diff_eq!(c.contours[0].area(), 2400.0 + PI * 200.0, epsilon = 1e-9);
    assert_eq!(c.contours.len(), 2);
}

/// Seen from behind, everything that is told in a plane of its own is mirrored; lines, which are not, stay.
#[test]
fn entities_seen_from_behind_are_mirrored() {
    let back = (230, -1.0);
    let mut d = of(path(&[[-200.0, 0.0], [0.0, 0.0], [0.0, 100.0], [-200.0, 100.0]], true)
        + &entity("CIRCLE", &[(10, 30.0), (20, 20.0), (40, 4.0), back])
        + &entity("ARC", &[(10, 100.0), (20, 50.0), (40, 10.0), (50, 0.0), (51, 90.0), back])
        + &line([-110.0, 50.0], [-100.0, 60.0])
        + &entity("INSERT", &[(10, 150.0), (20, 50.0), back]).replacen("INSERT\n", "INSERT\n2\nb\n", 1));
    d.blocks = vec![("b", [0.0, 0.0], circle(10.0, 0.0, 2.0))];
    let c = d.read();
    let got = cuts(&c);
    assert!(got[0].0.distance(DVec2::new(-160.0, 50.0)) < 1e-9, "{got:?}");
    // The quarter that runs from -110, 50 over to -100, 60: cut off by its chord.
    assert_abs_diff_eq!(got[1].1, PI * 25.0 - 50.0, epsilon = 1e-9);
    assert!(got[2].0.distance(DVec2::new(-30.0, 20.0)) < 1e-9);
    let tilted =
        of(plate(100.0, 50.0)
            + &entity("CIRCLE", &[(10, 30.0), (20, 20.0), (40, 4.0), (210, 1.0), (230, 1.0)]))
        .read();
    assert!(
        tilted.contours.len() == 1 && tilted.left_out[0].contains("1 circle not flat"),
        "{:?}",
        tilted.left_out
    );
}

/// Off, frozen, invisible, in paper space, of a block that is not there: left out and told; layer 0 in a
/// block follows the block's.
#[test]
fn what_is_not_to_be_seen_is_not_cut() {
    let hole = circle(50.0, 50.0, 3.0);
    let mut d = of(plate(400.0, 100.0)
        + &on("OFF", &hole)
        + &on("ice", &hole)
        + &hole.replacen("CIRCLE\n", "CIRCLE\n60\n1\n", 1)
        + &hole.replacen("CIRCLE\n", "CIRCLE\n67\n1\n", 1)
        + &on("Ice", &insert("b", &[(10, 100.0)]))
        + &on("off", &insert("b", &[(10, 200.0)]))
        + &insert("gone", &[(10, 1.0)])
        + &entity("TEXT", &[(10, 1.0), (20, 1.0), (40, 5.0)])
        + &entity("TEXT", &[(10, 1.0), (20, 9.0), (40, 5.0)]));
    d.layers = vec![("Off", 0, -7), ("ICE", 1, 7), ("seen", 0, 3)];
    d.blocks = vec![("b", [0.0, 0.0], circle(50.0, 50.0, 3.0) + &on("seen", &circle(70.0, 50.0, 2.0)))];
    let c = d.read();
    // Of the block on the layer that is off only what stands on a layer of its own.
    let got = cuts(&c);
    assert!(got.len() == 1 && got[0].0.distance(DVec2::new(270.0, 50.0)) < 1e-9, "{got:?}");
    let told = c.left_out.join("\n");
    for said in [
        "1 circle on layer OFF, which is off",
        "1 circle on layer off, which is off",
        "1 circle on layer ice, which is frozen",
        "1 block on layer Ice, which is frozen",
        "1 circle not visible",
        "1 circle in paper space",
    ] {
        assert!(told.contains(said), "{said}: {told}");
    }
    assert!(
        told.contains("1 block of a block 'GONE' that the file does not hold")
            && told.contains("2 texts which no cut follows"),
        "{told}"
    );
    let seen: Vec<_> = c.all.layers.iter().map(|l| (l.name.as_str(), l.strokes)).collect();
    assert_eq!(seen, [("0", 1), ("seen", 1)]);
}

#[rstest]
#[case(1, 25.4, "inches")]
#[case(2, 304.8, "feet")]
#[case(4, 1.0, "millimetres")]
#[case(5, 10.0, "centimetres")]
#[case(6, 1000.0, "metres")]
#[case(9, 0.0254, "thousandths of an inch")]
#[case(13, 0.001, "micrometres")]
#[case(14, 100.0, "decimetres")]
fn the_head_names_the_unit(#[case] units: i64, #[case] mm: f64, #[case] name: &str) {
    let c = Drawing { units, entities: plate(40.0 / mm, 30.0 / mm), ..Drawing::default() }.read();
    assert_abs_diff_eq!(c.contours[0].area(), 1200.0, epsilon = 1e-6);
    assert_eq!(c.all.unit.map(|u| u.name), Some(name));
}

#[test]
fn a_file_without_a_unit_asks() {
    let d = Drawing { entities: plate(12.5, 8.0), ..Drawing::default() };
    let asked = read(&d.bytes(), None).unwrap();
    let guess = asked.guess.expect("a question");
    assert!(guess.unit == Assume::Mm && guess.because.contains('%'), "{guess:?}");
    assert_abs_diff_eq!(
        seen(read(&d.bytes(), Some(Assume::In)).unwrap()).contours[0].area(),
        100.0 * 645.16,
        epsilon = 1e-6
    );
}

/// Loose lines with a doubled one, one without length, gaps of 0.03, and an outline drawn twice, once as
/// lines: the same plate, and told.
#[test]
fn small_faults_are_mended_and_told() {
    let twice = plate(100.0, 60.0)
        + &line([0.0, 0.0], [100.0, 0.0])
        + &line([100.0, 0.0], [100.0, 60.0])
        + &line([100.0, 60.0], [0.0, 60.0])
        + &line([0.0, 60.0], [0.0, 0.0]);
    let hole = line([20.0, 20.0], [40.0, 20.03])
        + &line([40.0, 20.0], [40.0, 40.0])
        + &line([40.0, 40.0], [20.0, 20.0])
        + &line([40.0, 40.0], [40.0, 20.0])
        + &line([40.0, 40.0], [40.0, 40.0]);
    let steps = path(&[[60.0, 20.0], [60.0, 20.0], [80.0, 20.0], [80.0, 40.0], [80.0, 40.0]], true);
    let c = of(twice + &hole + &steps).read();
    assert_eq!(c.contours.len(), 3, "{c:?}");
    assert!(
        c.contours[1..].iter().all(|k| k.vertices.len() == 3 && (k.area() - 200.0).abs() < 0.7),
        "{:?}",
        c.contours
    );
    let told = c.mended.join("\n");
    for said in [
        "1 stroke drawn over another",
        "1 contour drawn twice",
        "3 steps without length",
        "1 gap closed, the widest 0.03 mm",
    ] {
        assert!(told.contains(said), "{said}: {told}");
    }
    assert!(c.left_out.is_empty());
}

/// Larger gaps are told in the file's own unit, with place and layer; a hole that is open cuts nothing, an
/// outline that is open is refused.
#[test]
fn large_gaps_are_told() {
    let open = on("inner", &path(&[[1.0, 1.0], [2.0, 1.0], [2.0, 2.0], [1.0, 1.25]], false));
    let d = Drawing { units: 1, entities: plate(8.0, 5.0) + &open, ..Drawing::default() };
    let c = d.read();
    assert!(
        c.left_out[0].contains("on layer inner from 1, 1 to 1, 1.25, open by 0.25 in"),
        "{:?}",
        c.left_out
    );
    let d = Drawing {
        units: 1,
        entities: circle(4.0, 2.0, 0.5)
            + &path(&[[0.0, 0.0], [8.0, 0.0], [8.0, 5.0], [0.0, 5.0], [0.0, 0.125]], false),
        ..Drawing::default()
    };
    let c = read(&d.bytes(), None).unwrap();
    let said = c.nothing().expect("an open outline");
    assert!(said.contains("at 0, 0.125 on layer 0 a gap of 0.125 in"), "{said}");
    // Closed by hand, the plate is one with its hole.
    let join = [[0.0, 0.0], [0.0, 0.125 * 25.4]];
    let mended = dxf::read(&d.bytes(), &Options { joins: vec![join], ..Options::default() }).unwrap();
    assert!(mended.nothing().is_none() && mended.parts[0].cuts.len() == 1, "{:?}", mended.left_out);
    assert_abs_diff_eq!(seen(mended).contours[0].area(), 40.0 * 645.16, epsilon = 1e-6);
    // And so by a wider reach.
    let wide = dxf::read(&d.bytes(), &Options { closes: 3.5, ..Options::default() }).unwrap();
    assert!(wide.nothing().is_none() && wide.repairs.iter().any(|r| r.said.contains("the widest 0.125 in")));
}

/// Two parts in one file, a part in what falls out of a part, bend lines on their layer: three pieces, and a
/// contour that is left out by hand leaves what is in it alone.
#[test]
fn parts_beside_and_in_one_another_are_told_apart() {
    let away = |t: String, by: f64| {
        t.replace("10\n0\n", &format!("10\n{by}\n")).replace("10\n30\n", &format!("10\n{}\n", by + 30.0))
    };
    let d = of(plate(100.0, 60.0)
        + &circle(50.0, 30.0, 20.0)
        + &circle(50.0, 30.0, 5.0)
        + &away(plate(30.0, 20.0), 150.0)
        + &on(layers::BEND_UP, &line([10.0, 0.0], [10.0, 60.0])));
    let c = d.read();
    assert_eq!((c.contours.len(), c.all.folds.len()), (2, 1), "{:?}", c.left_out);
    let areas: Vec<f64> = c.all.parts.iter().map(|p| c.all.contour(p.outline).area()).collect();
    assert_abs_diff_eq!(areas[..], [6000.0, 600.0, PI * 25.0][..], epsilon = 1e-9);
    assert_eq!(c.all.part(&c.all.parts[0]).2.len(), 1, "the bend line lies on the first");
    assert_eq!(c.all.part(&c.all.parts[1]).2.len(), 0);
    let skips = vec![[70.0, 30.0], [150.0, 0.0]];
    let c = seen(dxf::read(&d.bytes(), &Options { skips, ..Options::default() }).unwrap());
    assert_eq!(
        (c.all.parts.len(), c.contours.len()),
        (1, 2),
        "the small hole is now a cut: {:?}",
        c.left_out
    );
    assert!(c.left_out.iter().any(|s| s == "2 contours left out by hand"), "{:?}", c.left_out);
    // A cut over the edge of the plate is one.
    assert_eq!(of(plate(100.0, 60.0) + &circle(100.0, 30.0, 8.0)).read().contours.len(), 2);
}

/// Loops that touch in a point, and a line that ends in a corner: the loops close, the line is told.
#[test]
fn loops_that_touch_close_each_for_itself() {
    let corners = [[10.0, 10.0], [20.0, 10.0], [20.0, 20.0], [10.0, 20.0]];
    let side = |i: usize, by: f64| line(corners[i].map(|v| v + by), corners[(i + 1) % 4].map(|v| v + by));
    let loose: String = [2, 0, 3, 1].iter().map(|i| side(*i, 0.0) + &side(*i, 10.0)).collect();
    let c = of(plate(100.0, 60.0) + &loose + &line([10.0, 10.0], [5.0, 5.0])).read();
    let got = cuts(&c);
    assert!(got.len() == 2 && got.iter().all(|g| (g.1 - 100.0).abs() < 1e-9), "{got:?}");
    assert!(c.left_out.len() == 1 && c.left_out[0].starts_with("a line on layer 0"), "{:?}", c.left_out);
}

/// What would break a reader is refused or passed over: groups in groups, blocks in themselves, blocks that
/// double, odd numbers.
#[test]
fn hostile_drawings_end_in_words() {
    let nested = of(plate(10.0, 10.0).replacen(
        "LWPOLYLINE\n",
        &format!("LWPOLYLINE\n{}", "102\n{A\n".repeat(40_000)),
        1,
    ));
    assert!(read(&nested.bytes(), None).unwrap().nothing().is_some());
    let mut d = of(insert("a", &[]));
    d.blocks = vec![("a", [0.0, 0.0], insert("a", &[]))];
    let said = read(&d.bytes(), None).unwrap_err().to_string();
    assert!(said.contains("16 deep"), "{said}");
    let many = insert("a", &[(70, 30000.0), (71, 30000.0), (44, 1.0), (45, 1.0)]);
    let d = Drawing { blocks: vec![("a", [0.0, 0.0], circle(0.0, 0.0, 0.1))], ..of(many) };
    let begun = Instant::now();
    assert!(read(&d.bytes(), None).unwrap_err().to_string().contains("1000000"));
    assert!(begun.elapsed() < Duration::from_secs(10));
    for odd in ["nan", "inf", "1e308", "-", "", "1,5"] {
        let c = of(plate(10.0, 10.0) + &format!("0\nCIRCLE\n10\n{odd}\n20\n5\n40\n1\n")).read();
        assert!(c.contours.len() == 1 && c.left_out.len() == 1, "{odd}: {c:?}");
    }
    let said = read(b"AC1015\0\0binary", None).unwrap_err().to_string();
    assert!(said.contains("text DXF"), "{said}");
    for date in ["1e300", "-99999999999", "nan"] {
        let head = format!("0\nSECTION\n2\nHEADER\n9\n$TDCREATE\n40\n{date}\n0\nENDSEC\n0\nEOF\n");
        assert!(
            read(head.as_bytes(), None).unwrap().nothing().is_some_and(|s| s.contains("no closed contour")),
            "{date}"
        );
    }
}

/// Sixty thousand loose lines of fifteen thousand holes, shuffled: joined in the time of a breath. (It was
/// the square of their number: 20 s.)
#[test]
fn many_loose_lines_are_joined_in_linear_time() {
    let mut lines: Vec<String> = Vec::new();
    for k in 0..15_000 {
        let (x, y) = (10.0 * f64::from(k % 150) + 1.0, 10.0 * f64::from(k / 150) + 1.0);
        let p = [[x, y], [x + 5.0, y], [x + 5.0, y + 6.0], [x, y + 6.0]];
        lines.extend((0..4).map(|i| line(p[i], p[(i + 1) % 4])));
    }
    let n = lines.len();
    let shuffled: String = (0..n).map(|k| lines[k * 7919 % n].as_str()).collect();
    let d = of(plate(1600.0, 1100.0) + &shuffled).bytes();
    let begun = Instant::now();
    let c = read(&d, None).unwrap();
    let took = begun.elapsed();
    assert_eq!(c.loops.len(), 15_001);
    assert!(took < Duration::from_secs(4), "{took:?}, four times the aim, for a machine that others share");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(150))]

    /// A plate of any form, its sides as loose lines and arcs in any order and direction: the same area and
    /// outline come back.
    #[test]
    fn loose_sides_in_any_order_close(radii in prop::collection::vec((5.0..50.0f64, -0.6..0.6f64,
        any::<bool>()), 3..12), turn in 0usize..12) {
        let n = radii.len();
        let at = |i: usize| DVec2::from_angle(2.0 * PI * (i % n) as f64 / n as f64) * radii[i % n].0;
        // A side as a line, or as an arc that bows so little that no side meets another.
        let mut sides: Vec<String> = (0..n).map(|i| {
            let (a, b, bulge, back) = (at(i), at(i + 1), radii[i].1 * 0.05, radii[i].2);
            let (a, b, bulge) = if back { (b, a, -bulge) } else { (a, b, bulge) };
            entity("LWPOLYLINE", &[(90, 2.0), (70, 0.0), (10, a.x), (20, a.y), (42, bulge), (10, b.x), (20,
                b.y)])
        }).collect();
        sides.rotate_left(turn % n);
        let c = of(sides.concat()).read();
        prop_assert_eq!(c.contours.len(), 1);
        // Shoelace, and the segment of each bow.
        let area: f64 = (0..n).map(|i| {
            let (a, b, sweep) = (at(i), at(i + 1), 4.0 * (radii[i].1 * 0.05).atan());
            let r = a.distance(b) / (2.0 * (sweep / 2.0).sin().abs());
            a.perp_dot(b) / 2.0 + if sweep == 0.0 { 0.0 } else {
                sweep.signum() * r * r * (sweep.abs() - sweep.abs().sin()) / 2.0 }
        }).sum();
        prop_assert!((c.contours[0].area() - area).abs() < 1e-6 * area, "{} {area}", c.contours[0].area());
    }
}

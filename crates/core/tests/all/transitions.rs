//! Transitions: closed forms, and random ones folded up by the test's own few lines to the openings that
//! were told.

use std::collections::BTreeMap;
use std::f64::consts::{FRAC_PI_2, PI, TAU};

use approx::{assert_abs_diff_eq, assert_relative_eq};
use glam::{DAffine3, DMat3, DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::geom::first_crossing;
use steelk_core::result::PieceResult;
use steelk_core::shop::BendMethod;

use crate::common::*;

/// How each panel stands when every bend is folded: a panel beyond a bend turns about the axis of that bend.
fn stands(p: &PieceResult) -> BTreeMap<usize, DAffine3> {
    let t = p.thickness;
    let mut out: BTreeMap<usize, DAffine3> = BTreeMap::new();
    while out.len() < p.zones.iter().filter(|z| z.is_panel()).count() {
        for (k, z) in p.zones.iter().enumerate().filter(|z| z.1.is_panel()) {
            let Some(bend) = z.parent else {
                out.insert(k, DAffine3::IDENTITY);
                continue;
            };
            let of = p.zones[bend].bend().unwrap();
            let Some(above) = p.zones[bend].parent.and_then(|a| out.get(&a)) else { continue };
            let (along, across) = (p.zones[bend].along, p.zones[bend].along.perp());
            // Unrolled the far tangent line lies an allowance on; folded it has turned about the axis.
            let (high, sense) = if of.up { (t + of.radius, 1.0) } else { (-of.radius, -1.0) };
            let axis = p.zones[bend].origin.extend(high);
            let turn = DMat3::from_axis_angle(-across.extend(0.0), sense * of.angle);
            let back = DAffine3::from_translation(-(along * of.allowance).extend(0.0));
            let about = DAffine3::from_translation(axis)
                * DAffine3::from_mat3(turn)
                * DAffine3::from_translation(-axis);
            out.insert(k, *above * about * back);
        }
    }
    out
}

/// The ends of the sides that are called so, on the middle of the sheet where it stands.
fn sides(p: &PieceResult, end: &str) -> Vec<[DVec3; 2]> {
    let stand = stands(p);
    let on = |k: usize| p.tags[p.flat.outer.vertices[k].tag as usize].ends_with(end);
    let segments: Vec<_> = p.flat.outer.segments().collect();
    (0..segments.len())
        .filter(|k| on(*k) && segments[*k].length() > 1e-3)
        .filter_map(|k| {
            let s = segments[k];
            let middle = (s.a + s.b) / 2.0;
            // The ends of bends lie along an opening too.
            let panel =
                (0..p.zones.len()).find(|z| p.zones[*z].is_panel() && p.zones[*z].off(middle) < 1e-4)?;
            Some([s.a, s.b].map(|q| stand[&panel].transform_point3(q.extend(p.thickness / 2.0))))
        })
        .collect()
}

/// Those along the lower and the upper opening.
fn rims(p: &PieceResult) -> [Vec<[DVec3; 2]>; 2] {
    ["-bottom", "-top"].map(|end| sides(p, end))
}

/// The middle of the circle through three places.
fn round_about(a: DVec3, b: DVec3, c: DVec3) -> DVec3 {
    let (u, v) = (b - a, c - a);
    let w = u.cross(v);
    a + (w.cross(u) * v.length_squared() + v.cross(w) * u.length_squared()) / (2.0 * w.length_squared())
}

/// Corners that several sides share, once each.
fn corners(sides: &[[DVec3; 2]]) -> Vec<DVec3> {
    let mut out: Vec<DVec3> = Vec::new();
    for p in sides.iter().flatten() {
        if !out.iter().any(|q| q.distance(*p) < 1e-3) {
            out.push(*p);
        }
    }
    // A seam in the middle of a side makes no corner of it.
    let whole = out.clone();
    let between = |p: &DVec3, a: &DVec3, b: &DVec3| {
        p != a && p != b && p.distance(*a) + p.distance(*b) - a.distance(*b) < 1e-6
    };
    out.retain(|p| !whole.iter().any(|a| whole.iter().any(|b| between(p, a, b))));
    out
}

fn sorted(mut all: Vec<f64>) -> Vec<f64> {
    all.sort_by(f64::total_cmp);
    all
}

fn apart(points: &[DVec3]) -> Vec<f64> {
    let pairs = (0..points.len()).flat_map(|i| (0..i).map(move |j| (i, j)));
    sorted(pairs.map(|(i, j)| points[i].distance(points[j])).collect())
}

fn area(p: &PieceResult) -> f64 {
    p.value("area")
}

/// A box: six squares, five creases of 90°, fourteen sides to cut, however it is laid.
#[test]
fn a_cube_is_six_squares() {
    let line = |laid: &str| {
        format!(
            "transition rectangle 100 x 100 to rectangle 100 x 100 middle, 100 high, creased, {laid}\
             closed below, closed above"
        )
    };
    for laid in ["", "round the bottom, ", "round the top, "] {
        let p = din("0.05", "1", &[&line(laid)]);
        assert_relative_eq!(area(&p), 60_000.0, max_relative = 1e-7);
        assert_relative_eq!(p.value("cut_length"), 1400.0, max_relative = 1e-7);
        assert_eq!(p.flat.bends.len(), 5, "{laid}");
        assert!(p.flat.bends.iter().all(|b| (b.angle - FRAC_PI_2).abs() < 1e-9 && b.creased));
        assert!(p.findings.iter().all(|f| f.check != "formed_through_itself"), "{laid}");
    }
}

/// A pyramid off its middle: every true length by Pythagoras, area by Heron.
#[test]
fn an_oblique_pyramid_by_its_edges() {
    let p = din(
        "0.1",
        "1",
        &["transition rectangle 60 x 40 to point middle, 50 high, 25 east, 10 north, creased, \
             seam south-east"],
    );
    let tip = DVec3::new(25.0, 10.0, 50.0);
    let low =
        [(-30.0, -20.0), (30.0, -20.0), (30.0, 20.0), (-30.0, 20.0)].map(|(x, y)| DVec3::new(x, y, 0.0));
    let heron = |a: f64, b: f64, c: f64| {
        let s = (a + b + c) / 2.0;
        (s * (s - a) * (s - b) * (s - c)).sqrt()
    };
    let edges = low.map(|q| q.distance(tip));
    let sides = [60.0, 40.0, 60.0, 40.0];
    let wanted: f64 = (0..4).map(|k| heron(sides[k], edges[k], edges[(k + 1) % 4])).sum();
    assert_relative_eq!(area(&p), wanted, max_relative = 1e-7);
    // Three creases as long as their edges; the seam is cut on both sides.
    let lines = sorted(p.flat.bends.iter().map(|b| b.length).collect());
    for (got, want) in lines.iter().zip(sorted(vec![edges[0], edges[2], edges[3]])) {
        assert_abs_diff_eq!(*got, want, epsilon = 1e-4);
    }
    assert_abs_diff_eq!(p.value("cut_length"), 200.0 + 2.0 * edges[1], epsilon = 1e-3);
    // Between two faces through the tip, each square to its own two edges.
    let out = |a: DVec3, b: DVec3| (b - a).cross(tip - a).normalize();
    let turn = out(low[3], low[0]).dot(out(low[0], low[1])).acos();
    assert!(p.flat.bends.iter().any(|b| (b.angle - turn).abs() < 1e-9));
}

/// A duct by hand: inside sizes less the radius at each bend, and DIN 6935 for the bends.
#[test]
fn a_bent_duct_by_hand() {
    let (t, r, w, d): (f64, f64, f64, f64) = (2.0, 3.0, 300.0, 200.0);
    let p = din(
        "2",
        "3",
        &["transition rectangle 300 x 200 to rectangle 300 x 200 inside, 150 high, seam south-east"],
    );
    let k = 0.65 + 0.5 * (r / t).log10();
    let allowance = FRAC_PI_2 * (r + t / 2.0 * k);
    // At the seam the inner edges touch.
    assert_abs_diff_eq!(p.value("flat_length"), 2.0 * (w + d) - 6.0 * r + 3.0 * allowance, epsilon = 1e-3);
    assert_abs_diff_eq!(p.value("flat_width"), 150.0, epsilon = 1e-9);
    let p = din(
        "2",
        "3",
        &["transition rectangle 300 x 200 to rectangle 300 x 200 outside, 150 high, seam south gap 1"],
    );
    let (w, d) = (w - 2.0 * t, d - 2.0 * t);
    assert_abs_diff_eq!(
        p.value("flat_length"),
        2.0 * (w + d) - 8.0 * r + 4.0 * allowance - 1.0,
        epsilon = 1e-3
    );
    // In inches the same.
    let inch = din(
        "0.078740157in",
        "0.118110236in",
        &["transition rectangle 11.811023622in x 7.874015748in to \
             rectangle 11.811023622in x 7.874015748in inside, \
           5.905511811in high, seam south-east"],
    );
    assert_abs_diff_eq!(
        inch.value("flat_length"),
        2.0 * (300.0 + 200.0) - 6.0 * r + 3.0 * allowance,
        epsilon = 1e-3
    );
}

/// The lines of a square-to-round by the triangulation of textbooks: each is √(plan² + height²).
#[test]
fn square_to_round_by_triangulation() {
    let (a, radius, h, n) = (400.0, 100.0, 250.0, 4);
    let p = din("1.5", "2", &["transition rectangle 400 x 400 to round ⌀200 middle, 250 high"]);
    // Flats together as long as the circle.
    let far = PI * radius / (16.0 * (PI / 16.0).sin());
    let mut wanted: Vec<f64> = (0..=n)
        .map(|k| {
            let angle = FRAC_PI_2 * k as f64 / n as f64;
            let plan = DVec2::from_angle(angle) * far - DVec2::splat(a / 2.0);
            (plan.length_squared() + h * h).sqrt()
        })
        .collect();
    wanted = sorted([wanted.clone(), wanted.clone(), wanted.clone(), wanted].concat());
    let lines = sorted(p.flat.bends.iter().map(|b| b.length).collect());
    assert_eq!(lines.len(), 20);
    for (got, want) in lines.iter().zip(&wanted) {
        assert_abs_diff_eq!(*got, *want, epsilon = 1e-3);
    }
    let [low, high] = rims(&p);
    assert_relative_eq!(
        high.iter().map(|s| s[0].distance(s[1])).sum::<f64>(),
        TAU * radius,
        max_relative = 1e-6
    );
    assert_relative_eq!(low.iter().map(|s| s[0].distance(s[1])).sum::<f64>(), 4.0 * a, max_relative = 1e-6);
}

/// With many lines the area is that of the smooth surface: plane triangles, and a part of an oblique cone in
/// each corner, summed by the test over thin triangles from the corner.
#[test]
fn many_lines_come_to_the_smooth_surface() {
    let p =
        din("1", "2", &["transition rectangle 300 x 200 to round ⌀150 middle, 180 high, 40 east, 20 lines"]);
    let (c, h, radius) = (DVec2::new(40.0, 0.0), 180.0, 75.0);
    let ring = |angle: f64| (c + DVec2::from_angle(angle) * radius).extend(h);
    let tri = |a: DVec3, b: DVec3, c: DVec3| (b - a).cross(c - a).length() / 2.0;
    let corner = [(150.0, 100.0), (-150.0, 100.0), (-150.0, -100.0), (150.0, -100.0)]
        .map(|(x, y)| DVec3::new(x, y, 0.0));
    let mut smooth = 0.0;
    for (k, q) in corner.iter().enumerate() {
        let (from, steps) = (k as f64 * FRAC_PI_2, 20_000);
        let at = |i: usize| from + FRAC_PI_2 * i as f64 / steps as f64;
        smooth += (0..steps).map(|i| tri(*q, ring(at(i)), ring(at(i + 1)))).sum::<f64>();
        smooth += tri(*q, corner[(k + 1) % 4], ring(from + FRAC_PI_2));
    }
    assert_relative_eq!(area(&p), smooth, max_relative = 1e-3);
}

/// What two halves weigh the whole weighs; a side left out is left out.
#[test]
fn halves_and_sides_make_up_the_whole() {
    let of = |more: &str| {
        let line = format!("transition rectangle 300 x 200 to round ⌀150 middle, 180 high, 40 east{more}");
        area(&din("1", "2", &[&line]))
    };
    let whole = of("");
    assert_relative_eq!(of(", half north") + of(", half south"), whole, max_relative = 1e-6);
    assert_relative_eq!(of(", half east") + of(", half west"), whole, max_relative = 1e-6);
    assert!(of(", half east") < of(", half west"));
    // The plane side on the north: its base, and its height on the slope to the circle.
    let far = 75.0 * PI / (16.0 * (PI / 16.0).sin());
    let side = 300.0 * f64::hypot(180.0, 100.0 - far) / 2.0;
    assert_relative_eq!(whole - of(", without north"), side, max_relative = 1e-6);
    assert_relative_eq!(of(", scaled 2"), 4.0 * whole, max_relative = 1e-3);
}

#[derive(Clone, Debug)]
enum Shape {
    Rectangle(f64, f64),
    Rounded(f64, f64, f64),
    Round(f64),
    Polygon(usize, f64),
    Point,
}

impl Shape {
    fn said(&self) -> String {
        match self {
            Shape::Rectangle(a, b) => format!("rectangle {a} x {b}"),
            Shape::Rounded(a, b, r) => format!("rectangle {a} x {b} corners R{r}"),
            Shape::Round(d) => format!("round ⌀{d}"),
            Shape::Polygon(n, a) => format!("polygon {n} sides, {a} across"),
            Shape::Point => "point".into(),
        }
    }

    /// How far its corners lie from one another, where it has sharp ones.
    fn apart(&self) -> Option<Vec<f64>> {
        let ring: Vec<DVec3> = match *self {
            Shape::Rectangle(a, b) => [(1., 1.), (-1., 1.), (-1., -1.), (1., -1.)]
                .map(|(x, y)| DVec3::new(a * x, b * y, 0.0) / 2.0)
                .into(),
            Shape::Polygon(n, across) => (0..n)
                .map(|k| {
                    let far = across / 2.0 / (PI / n as f64).cos();
                    (DVec2::from_angle(TAU * k as f64 / n as f64) * far).extend(0.0)
                })
                .collect(),
            _ => return None,
        };
        Some(apart(&ring))
    }

    fn girth(&self) -> f64 {
        match *self {
            Shape::Rectangle(a, b) => 2.0 * (a + b),
            Shape::Rounded(a, b, r) => 2.0 * (a + b) - 8.0 * r + TAU * r,
            Shape::Round(d) => PI * d,
            Shape::Polygon(n, across) => n as f64 * across * (PI / n as f64).tan(),
            Shape::Point => 0.0,
        }
    }
}

fn shape() -> impl Strategy<Value = Shape> {
    let size = || (20u32..400).prop_map(f64::from);
    prop_oneof![
        (size(), size()).prop_map(|(a, b)| Shape::Rectangle(a, b)),
        (size(), size(), 0.05..0.45f64).prop_map(|(a, b, k)| Shape::Rounded(
            a,
            b,
            (a.min(b) * k * 10.0).round() / 10.0
        )),
        size().prop_map(Shape::Round),
        (3usize..9, size()).prop_map(|(n, a)| Shape::Polygon(n, a)),
        Just(Shape::Point),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(1000))]

    /// Creased at middle, whole and in a row: folded up its seam closes, both rims lie in planes as
    /// far apart and as tilted as told, and are the openings that were told.
    #[test]
    fn random_transitions_fold_to_what_was_told(
        low in shape(), high in shape(),
        height in 10u32..500, east in -200i32..200, north in -200i32..200,
        turn in 0u32..360, tilt in 0u32..50, lines in 2usize..9, seam in 0usize..9,
    ) {
        let seams = [
            "", ", seam south", ", seam south-east", ", seam east", ", seam north-east", ", seam north",
            ", seam north-west", ", seam west", ", seam south-west",
        ];
        let line = format!(
            "transition {} to {} middle, {height} high, {east} east, {north} north, turned {turn}°, tilted \
             {tilt}° to the east, {lines} lines, creased{}",
            low.said(), high.said(), seams[seam]
        );
        let p = evaluate_piece(&job(school(BendMethod::Din6935)), &piece("0.5", "1", &[&line]));
        if !p.faults.is_empty() {
            let points = matches!((&low, &high), (Shape::Point, Shape::Point));
            // Only where the planes of the openings run into one another.
            let reach = 400.0 * 2.0f64.sqrt();
            let steep = (reach + 200.0) * f64::from(tilt).to_radians().tan();
            prop_assert!(points || f64::from(height) < steep + 1.0, "{line}: {:?}", p.faults);
            return Ok(());
        }
        let crosses = first_crossing(&p.flat.outer).is_some();
        prop_assert_eq!(crosses, p.findings.iter().any(|f| f.check == "overlap"), "{}", line);
        if crosses {
            return Ok(());
        }
        // Both sides of the seam come to lie on one another.
        let [left, right] = ["-left", "-right"].map(|end| sides(&p, end));
        prop_assert_eq!((left.len(), right.len()), (1, 1), "{}", line);
        for (q, r) in [(left[0][0], right[0][1]), (left[0][1], right[0][0])] {
            prop_assert!(q.distance(r) < 1e-3, "{line}: the seam is {} open", q.distance(r));
        }
        let [below, above] = rims(&p);
        let planes = [&below, &above].map(|sides| {
            let all = corners(sides);
            if all.len() < 3 {
                return None;
            }
            let middle = all.iter().sum::<DVec3>() / all.len() as f64;
            let normal = (0..sides.len())
                .map(|k| (sides[k][0] - middle).cross(sides[k][1] - middle))
                .fold(DVec3::ZERO, |a, b| a + b)
                .normalize();
            Some((normal, all[0], all))
        });
        for (plane, shape, sides) in [(&planes[0], &low, &below), (&planes[1], &high, &above)] {
            let Some((normal, at, all)) = plane else {
                prop_assert!(matches!(shape, Shape::Point), "{line}");
                continue;
            };
            for q in all {
                prop_assert!(normal.dot(*q - *at).abs() < 1e-3, "{line}: off its plane");
            }
            let girth: f64 = sides.iter().map(|s| s[0].distance(s[1])).sum();
            let told = shape.girth();
            // Of few flats a round corner is shorter than its arc, by less than a chord of a quarter is.
            let rounded = matches!(shape, Shape::Rounded(..));
            let short = if rounded { 0.12 / (lines - 1).pow(2) as f64 } else { 1e-5 };
            prop_assert!((girth / told - 1.0).abs() < short, "{line}: {girth} of {told}");
            if let Some(told) = shape.apart() {
                let got = apart(all);
                prop_assert_eq!(got.len(), told.len(), "{}", line);
                for (a, b) in got.iter().zip(&told) {
                    prop_assert!((a - b).abs() < 2e-3, "{line}: {a} for {b}");
                }
            }
            if let Shape::Round(_) = shape {
                let middle = round_about(all[0], all[all.len() / 3], all[2 * all.len() / 3]);
                for q in all {
                    let off = q.distance(middle) - all[0].distance(middle);
                    prop_assert!(off.abs() < 2e-3, "{line}: {off} off round");
                }
            }
        }
        if let [Some((a, _, low_all)), Some((b, _, high_all))] = &planes {
            prop_assert!((a.dot(*b).abs() - f64::from(tilt).to_radians().cos()).abs() < 1e-5, "{line}: tilt");
            // The middle of a shape with a centre is that of its corners only where they stand evenly.
            if low.apart().is_some() && high.apart().is_some() {
                let [m, n] = [low_all, high_all].map(|all| all.iter().sum::<DVec3>() / all.len() as f64);
                prop_assert!((a.dot(n - m).abs() - f64::from(height)).abs() < 2e-3, "{line}: height");
                let told = f64::from(height * height) + f64::from(east * east) + f64::from(north * north);
                prop_assert!((m.distance(n) - told.sqrt()).abs() < 2e-3, "{line}: moved");
            }
        }
    }

    /// Bent, told from the inside: the inner faces, folded up, meet the plane of each opening in lines as
    /// long as told.
    #[test]
    fn random_bent_hoppers_are_as_wide_inside_as_told(
        a in 60u32..400, b in 60u32..400, c in 60u32..400, d in 60u32..400,
        height in 40u32..400, east in -60i32..60, north in -60i32..60, t in 5u32..40,
    ) {
        let line = format!(
            "transition rectangle {a} x {b} to rectangle {c} x {d} inside, {height} high, {east} east, \
             {north} north"
        );
        let t = f64::from(t) / 10.0;
        let told = format!("{t}");
        let p = evaluate_piece(&job(school(BendMethod::Din6935)), &piece(&told, &told, &[&line]));
        prop_assume!(p.faults.is_empty());
        let stand = stands(&p);
        let [low, _] = rims(&p);
        // The plane of the lower opening, from the middle of the sheet.
        let at = low[0][0];
        let normal = (low[0][1] - low[0][0]).cross(low[1][1] - low[1][0]).normalize();
        for s in low.iter().flatten() {
            prop_assert!(normal.dot(*s - at).abs() < 1e-6, "{line}");
        }
        let inner: Vec<(DVec3, DVec3)> = stand
            .iter()
            .map(|(k, s)| (k, s, DVec3::Z))
            .map(|(k, s, up)| (s.transform_vector3(up), s.transform_point3(p.zones[*k].region[0].extend(t))))
            .collect();
        prop_assert_eq!(inner.len(), 4);
        for (size, height) in [([a, b], 0.0), ([c, d], f64::from(height))] {
            let middle = inner.iter().map(|i| i.1).sum::<DVec3>() / 4.0;
            let way = normal.dot(middle - at).signum();
            let off = normal.dot(at) + way * height;
            let corner = |i: usize, j: usize| {
                let m = DMat3::from_cols(inner[i].0, inner[j].0, normal).transpose();
                m.inverse() * DVec3::new(inner[i].0.dot(inner[i].1), inner[j].0.dot(inner[j].1), off)
            };
            // Round it: neighbours in the row, and the two ends at the seam.
            let order = order(&p);
            let ring: Vec<DVec3> = (0..4).map(|k| corner(order[k], order[(k + 1) % 4])).collect();
            let sides = sorted((0..4).map(|k| ring[k].distance(ring[(k + 1) % 4])).collect());
            let told = sorted(vec![size[0], size[0], size[1], size[1]].into_iter().map(f64::from).collect());
            for (x, y) in sides.iter().zip(&told) {
                prop_assert!((x - y).abs() < 1e-6, "{line}: {sides:?} for {told:?}");
            }
        }
    }
}

/// Places of the panels among themselves, as they stand round the piece.
fn order(p: &PieceResult) -> Vec<usize> {
    let panels: Vec<usize> = (0..p.zones.len()).filter(|k| p.zones[*k].is_panel()).collect();
    let name = |side: &str| panels.iter().position(|k| p.zones[*k].name.ends_with(side)).unwrap();
    ["south", "east", "north", "west"].map(name).into()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// A side whose edges are both ripped hangs on the closed end alone; folded up every free side along an
    /// edge lies on another one, and nothing is larger or smaller than with one seam.
    #[test]
    fn a_side_with_both_edges_ripped_closes(
        a in 60u32..300, b in 60u32..300, c in 0u32..300, d in 60u32..300, height in 40u32..300,
        east in -60i32..60, north in -60i32..60, above in any::<bool>(),
        side in prop::sample::select(vec!["north", "east", "south", "west"]),
    ) {
        let pointed = c < 60;
        let top = if pointed { "point".into() } else { format!("rectangle {c} x {d}") };
        let shut = if above && !pointed { "closed above" } else { "closed below" };
        let line = |seam: &str| {
            format!("transition rectangle {a} x {b} to {top} middle, {height} high, {east} east, \
                {north} north, creased, {seam}{shut}")
        };
        let p = din("0.05", "1", &[&line(&format!("seam both {side}, "))]);
        let whole = din("0.05", "1", &[&line("")]);
        prop_assert!((area(&p) - area(&whole)).abs() < 1e-6 * area(&whole), "{}", line(side));
        // Both edges ripped: one more of them is cut than with a seam.
        prop_assert_eq!(p.flat.bends.len(), 4);
        prop_assert_eq!(whole.flat.bends.len(), 4);
        let at = p.zones.iter().position(|z| z.name.ends_with(side)).unwrap();
        let hangs = p.zones[at].parent.and_then(|bend| p.zones[bend].parent).map(|k| p.zones[k].name.clone());
        let end = if shut == "closed above" { "lid" } else { "floor" };
        prop_assert!(hangs.is_some_and(|name| name.ends_with(end)), "{}", line(side));
        let free: Vec<[DVec3; 2]> = ["-left", "-right"].iter().flat_map(|s| sides(&p, s)).collect();
        prop_assert_eq!(free.len(), 4);
        for (k, s) in free.iter().enumerate() {
            let near = |o: &[DVec3; 2]| s[0].distance(o[1]) < 1e-3 && s[1].distance(o[0]) < 1e-3;
            let met = free.iter().enumerate().any(|(j, o)| j != k && near(o));
            prop_assert!(met, "{}: {k} is open", line(side));
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// Cut by an upright plane, what lies on either side of it comes to the whole, and both meet along the
    /// same line, which lies in a plane so far from the middle.
    #[test]
    fn two_parts_of_a_cut_come_to_the_whole(
        low in shape(), high in shape(), height in 60u32..300, east in -200i32..200, at in -60i32..60,
        lines in 2usize..8, eastward in any::<bool>(),
    ) {
        let line = |kept: &str| {
            format!("transition {} to {} middle, {height} high, {east} {}, {lines} lines, creased{kept}",
                low.said(), high.said(), if eastward { "east" } else { "north" })
        };
        let [one, other] = if eastward { ["east", "west"] } else { ["north", "south"] };
        let whole = evaluate_piece(&job(school(BendMethod::Din6935)), &piece("0.05", "1", &[&line("")]));
        prop_assume!(whole.faults.is_empty());
        let part = |way: &str| {
            let told = line(&format!(", only {way} of {at}"));
            evaluate_piece(&job(school(BendMethod::Din6935)), &piece("0.05", "1", &[&told]))
        };
        let parts = [part(one), part(other)];
        if let Some(refused) = parts.iter().find(|p| !p.faults.is_empty()) {
            // Nothing there, or in more parts than one: never silently.
            prop_assert_eq!(&refused.faults[0].path, "/say/kept/at");
            // Too many of these and there is no test.
            prop_assume!(false);
        }
        let both = parts.iter().map(area).sum::<f64>();
        prop_assert!((both - area(&whole)).abs() < 1e-5 * area(&whole), "{}: {both}", line(""));
        let cuts = parts.each_ref().map(|p| sides(p, "-cut"));
        let length = |cut: &[[DVec3; 2]]| cut.iter().map(|[a, b]| a.distance(*b)).sum::<f64>();
        prop_assert!((length(&cuts[0]) - length(&cuts[1])).abs() < 1e-3, "{}", line(""));
        for cut in cuts.iter().filter(|c| c.len() > 1) {
            let points: Vec<DVec3> = cut.iter().flatten().copied().collect();
            let o = points[0];
            let n = points.iter().map(|p| (*p - o).cross(points[1] - o)).max_by(|a, b| {
                a.length().total_cmp(&b.length())
            }).unwrap();
            if n.length() > 1.0 {
                let n = n.normalize();
                prop_assert!(points.iter().all(|p| (*p - o).dot(n).abs() < 1e-3), "{}: not plane", line(""));
            }
        }
    }
}

/// A leg of a Y of two equal rounds: an oblique cylinder cut where it meets its mirror. Area of what is kept,
/// by the integral along its generators, and the longest and the shortest of them by similar triangles.
#[test]
fn a_leg_of_a_y_by_its_generators() {
    let (r, e, h) = (150.0, 220.0, 300.0);
    let p = din(
        "0.5",
        "1",
        &["transition round ⌀300 to round ⌀300 middle, 300 high, 220 east, 24 lines, \
        only east of 0"],
    );
    let steps = 20_000;
    let kept: f64 = (0..steps)
        .map(|k| {
            let phi = (k as f64 + 0.5) / steps as f64 * 2.0 * PI;
            // A generator leaves x = 0 after this share of its length.
            let cut = (-r * phi.cos() / e).clamp(0.0, 1.0);
            r * (h * h + (e * phi.cos()).powi(2)).sqrt() * (1.0 - cut) * 2.0 * PI / steps as f64
        })
        .sum();
    assert_relative_eq!(area(&p), kept, max_relative = 2e-3);
    let whole = h.hypot(e);
    let lengths = p.flat.bends.iter().map(|b| DVec2::from(b.from).distance(b.to.into()));
    let [least, most] = lengths.fold([f64::INFINITY, 0.0], |[l, m]: [f64; 2], v| [l.min(v), m.max(v)]);
    assert_relative_eq!(most, whole, max_relative = 1e-9);
    // The seam is the shortest; the crease beside it stands a flat further round.
    assert_relative_eq!(least, whole * (1.0 - r / e), max_relative = 1e-2);
    // A gap of 2 takes 1 off every generator, along it as much more as it slants.
    let gap = din(
        "0.5",
        "1",
        &["transition round ⌀300 to round ⌀300 middle, 300 high, 220 east, 24 lines, \
        only east of 0, seam west gap 2"],
    );
    assert!(area(&gap) < area(&p));
}

/// Cut and ripped at once: what hangs on the floor is cut as well.
#[test]
fn a_ripped_side_is_cut_with_the_rest() {
    let line = |kept: &str| {
        format!(
            "transition rectangle 200 x 160 to point, 150 high, middle, creased{kept}, seam both south, \
            closed below"
        )
    };
    let [whole, east, west] =
        ["", ", only east of 30", ", only west of 30"].map(|kept| area(&din("0.05", "1", &[&line(kept)])));
    assert_relative_eq!(east + west, whole, max_relative = 1e-7);
    // The floor is 70 of its 200 wide on the one side.
    assert!(east > 70.0 * 160.0 && east < 0.5 * whole, "{east} of {whole}");
}

/// A strip 8 wide on a side of 100, cut at 45° at its left end and square at its right one: a trapezium. What
/// is to be glued is the strip beyond its crease.
#[test]
fn the_ends_of_a_flap_differ() {
    let p = din("0.05", "1", &["plate 100 x 60", "flap north, 8, ends 45°, right end 90°, glued"]);
    assert_relative_eq!(area(&p), 100.0 * 60.0 + 8.0 * (100.0 + 92.0) / 2.0, max_relative = 1e-9);
    let b = p.flat.outer.bounds();
    let of_tip = p.flat.outer.vertices.iter().filter(|v| v.p.y > b.max.y - 0.01);
    let tip: Vec<f64> = of_tip.map(|v| v.p.x - b.min.x).collect();
    // Seen to the north from the plate, left is the west.
    let ends = [f64::INFINITY, f64::NEG_INFINITY];
    let [low, high] = tip.iter().fold(ends, |[l, h], x| [l.min(*x), h.max(*x)]);
    assert_relative_eq!(low, 8.0, epsilon = 1e-9);
    assert_relative_eq!(high, 100.0, epsilon = 1e-9);
    let glued: Vec<&str> = p.zones.iter().filter(|z| z.is_glued).map(|z| z.name.as_str()).collect();
    assert_eq!(glued, ["flap-1.north"]);
    let faults = |line: &str| {
        evaluate_piece(&job(school(BendMethod::Din6935)), &piece("0.05", "1", &["plate 100 x 60", line]))
            .faults
    };
    assert_eq!(faults("flap north, 8, right end 91°")[0].path, "/say/right");
    // 60 to the left and 40 to the right: nothing is left of the tip.
    assert_eq!(faults("flap north, 60, right end 56.3°")[0].path, "/say/width");
    assert!(faults("flap north, 59, right end 56.4°").is_empty());
}

#[rstest]
#[case("transition rectangle 50 x 50 to point, 50 high, seam both south", "/say/seam")]
#[case("transition rectangle 50 x 50 to point, 50 high, round the bottom, seam both south", "/say/seam")]
#[case("transition polygon 5 sides, 50 across to point, 50 high, seam both north, closed below", "/say/seam")]
#[case("transition rectangle 50 x 50 to point, 50 high, half north, seam both north", "/say/seam")]
#[case("transition rectangle 50 x 50 to point, 50 high, only east of 25", "/say/kept/at")]
#[case(
    "transition rectangle 50 x 50 to rectangle 20 x 20, 50 high, only east of 0, seam east",
    "/say/kept/at"
)]
#[case("transition point to point, 50 high", "/say/top")]
#[case("transition rectangle 50 x 50 to point, 0 high", "/say/height")]
#[case("transition rectangle 50 x 50 to point, 50 high, tilted 90° to the north", "/say/tilt")]
#[case(
    "transition rectangle 50 x 50 to rectangle 400 x 400, 50 high, tilted 45° to the north",
    "/say/height"
)]
#[case("transition rectangle 50 x 50 corners R26 to point, 50 high", "/say/bottom/corner")]
#[case("transition polygon 2 sides, 50 across to point, 50 high", "/say/bottom/sides")]
#[case("transition round ⌀50 to point, 50 high, 1 lines", "/say/lines")]
#[case("transition round ⌀50 to point, 50 high, scaled 0", "/say/scale")]
#[case("transition rectangle 50 x 50 to point, 50 high, closed above", "/say/lid")]
#[case("transition rectangle 50 x 50 to point, 50 high, round the top", "/say/lid")]
#[case("transition rectangle 50 x 50 to point, 50 high, half east, closed below", "/say/floor")]
#[case("transition polygon 5 sides, 50 across to point, 50 high, half north", "/say/stands")]
#[case("transition rectangle 50 x 50 to rectangle 20 x 20, 50 high, turned 30°, half north", "/say/stands")]
#[case("transition rectangle 50 x 50 to point, 50 high, half north, seam south", "/say/seam")]
#[case("transition polygon 5 sides, 50 across to point, 50 high, without north", "/say/stands")]
#[case("transition rectangle 50 x 50 to rectangle 3 x 3 outside, 50 high", "/say/measure")]
#[case("transition rectangle 3 x 3 to rectangle 3 x 3 inside, 50 high", "/say/made")]
fn what_cannot_be_is_refused(#[case] line: &str, #[case] path: &str) {
    let p = evaluate_piece(&job(school(BendMethod::Din6935)), &piece("4", "6", &[line]));
    let at: Vec<&str> = p.faults.iter().map(|f| f.path.as_str()).collect();
    assert_eq!(at, [path], "{:?}", p.faults);
    assert!(!p.faults[0].fault.mend.is_empty());
}

/// The solid of creased faces, mitred in every crease, weighs what its flat weighs.
#[test]
fn creased_solids_are_as_heavy_as_their_flats() {
    for line in [
        "transition rectangle 180 x 140 to rectangle 60 x 40, 120 high, middle, creased",
        "transition rectangle 100 x 100 to rectangle 100 x 100, 80 high, middle, creased, round the bottom",
        "transition rectangle 80 x 80 to point, 90 high, middle, creased",
        "transition rectangle 250 x 250 to round ⌀160, 180 high, inside, 20 east, seam north gap 0.5",
        "transition round ⌀300 to round ⌀160, 200 high, 90 north, 8 lines",
    ] {
        let p = din("2", "2", &[line]);
        let solid = p.mesh().solid(&p.zones, 1.0, 2.0);
        assert!(solid.is_watertight(), "{line}");
        assert_relative_eq!(solid.volume(), 2.0 * area(&p), max_relative = 2e-3);
    }
}

/// A side runs over a bend however short the leg beyond it is; the side of a face that ends in a point runs
/// over none.
#[test]
fn sides_run_over_bends_or_do_not() {
    let faults = |t: &str, texts: &[&str]| {
        let p = evaluate_piece(&job(school(BendMethod::Din6935)), &piece(t, "2", texts));
        p.faults.into_iter().map(|f| f.fault.message).collect::<Vec<_>>()
    };
    let of = faults("2", &["strip 50 wide: 400, up 90°, 12", "fold start-1.north up 90°, 20"]);
    assert!(of.len() == 1 && of[0].contains("runs over bends"), "{of:?}");
    let line = "transition rectangle 120 x 90 corners R10 to round ⌀60, 80 high, 3 lines, seam west gap 1";
    assert_eq!(faults("1", &[line, "flap start-1.west-1-right, 0.5"]), Vec::<String>::new());
}

/// Round its bottom, bent: the floor by hand. No corner of it is cut off where its sides meet unbent.
#[test]
fn the_floor_of_a_bent_pyramid_by_hand() {
    let (t, r, h) = (2.0f64, 3.0f64, 60.0f64);
    let line =
        "transition rectangle 100 x 100 to point inside, 60 high, bent, round the bottom, closed below";
    let p = din("2", "3", &[line]);
    let floor = p.zones.iter().find(|z| z.name.ends_with("floor")).unwrap();
    assert_eq!(floor.region.len(), 4, "{:?}", floor.region);
    let half = 50.0f64;
    for got in [floor.max.x - floor.min.x, floor.max.y - floor.min.y] {
        // The middle of the sheet lies out by half a thickness square to the side.
        let middle = half + t / 2.0 * half.hypot(h) / h;
        let turn = (-half / half.hypot(h)).acos();
        assert_abs_diff_eq!(got, 2.0 * (middle - (r + t / 2.0) * (turn / 2.0).tan()), epsilon = 1e-9);
    }
    assert!(p.tags.iter().all(|t| !t.ends_with("-seam")));
}

/// Along a seam with a gap nothing comes nearer to its middle than half of that, at its tip neither.
#[test]
fn a_seam_is_open_up_to_its_tip() {
    let gap = 3.0;
    let p =
        din("1", "2", &["transition rectangle 300 x 300 to round ⌀160 middle, 200 high, seam north gap 3"]);
    let [left, right] = ["-left", "-right"].map(|end| sides(&p, end)[0]);
    // Either neighbour has a corner taken off.
    let cut = sides(&p, "-seam");
    assert_eq!(cut.len(), 2);
    let tip = (cut[0][0] + cut[1][0]) / 2.0;
    let middle = |s: [DVec3; 2]| (s[0] + s[1]) / 2.0;
    let across = (middle(right) - middle(left)).normalize();
    let at = (middle(right) + middle(left)) / 2.0;
    assert_relative_eq!((middle(right) - middle(left)).length(), gap, max_relative = 1e-6);
    let mut looked = 0;
    for (k, stand) in stands(&p) {
        let ring: Vec<DVec3> =
            p.zones[k].region.iter().map(|q| stand.transform_point3(q.extend(0.5))).collect();
        if ring.iter().all(|q| q.distance(tip) > 12.0) {
            continue;
        }
        let side = ring.iter().map(|q| (*q - at).dot(across)).sum::<f64>().signum();
        for q in ring {
            // The seam is straight in the flat: past its tip it turns with the crease by a hair.
            assert!((q - at).dot(across) * side > gap / 2.0 * 0.98, "{} at {q}", p.zones[k].name);
            looked += 1;
        }
    }
    assert!(looked > 10, "{looked}");
}

/// A rectangle as round as it is wide is a circle.
#[test]
fn corners_may_take_all_of_a_side() {
    let p = din("0.5", "1", &["transition rectangle 80 x 80 corners R40 to point middle, 60 high, 24 lines"]);
    let [low, _] = rims(&p);
    let girth: f64 = low.iter().map(|s| s[0].distance(s[1])).sum();
    assert_relative_eq!(girth, 80.0 * PI, max_relative = 1e-4);
    assert_relative_eq!(area(&p), PI * 40.0 * 40f64.hypot(60.0), max_relative = 2e-3);
}

/// Flanges out of a chute in one piece, each by the lean of its side: all level with the opening, as long as
/// their edge less what they are drawn in by, and no bend ends in another.
#[rstest]
#[case("seam south-east")]
#[case("round the top, closed above")]
fn flanges_of_one_piece(#[case] laid: &str) {
    let chute = format!("transition rectangle 200 x 150 to rectangle 300 x 200, 150 high, inside, {laid}");
    let (end, cos) = ("bottom", [25.0 / 25.0f64.hypot(150.0), 50.0 / 50.0f64.hypot(150.0)]);
    // A side that opens upwards leans out: below, its flange turns by more than a right angle.
    let [deep, wide] = cos.map(|c| (-c).acos().to_degrees());
    let fold = |a: &str, b: &str, by: f64| {
        format!("fold start-1.{a}-{end} and start-1.{b}-{end} down {by}°, 30, inset 12 and 12")
    };
    let (ns, ew) = (fold("south", "north", deep), fold("east", "west", wide));
    let plain = din("2", "2", &[&chute]);
    let p = din("2", "2", &[&chute, &ns, &ew]);
    assert!(plain.faults.is_empty() && p.faults.is_empty(), "{:?}", p.faults);
    assert!(p.findings.iter().all(|f| plain.findings.iter().any(|o| o.check == f.check)), "{:?}", p.findings);
    let stand = stands(&p);
    let round = corners(&sides(&plain, &format!("-{end}")));
    let level = (round[1] - round[0]).cross(round[2] - round[0]).normalize();
    let flanges: Vec<usize> = (0..p.zones.len())
        .filter(|k| p.zones[*k].is_panel() && p.zones[*k].line.starts_with("fold"))
        .collect();
    assert_eq!(flanges.len(), 4);
    let mut lengths: Vec<f64> = Vec::new();
    for k in flanges {
        let up = stand[&k].matrix3 * DVec3::Z;
        assert!(up.cross(level).length() < 1e-9, "{} leans by {}", p.zones[k].name, up.cross(level).length());
        let bend = &p.zones[p.zones[k].parent.unwrap()];
        let on: Vec<f64> = bend.region.iter().map(|q| q.dot(bend.along.perp())).collect();
        let most = |f: fn(f64, f64) -> f64| on.iter().copied().reduce(f).unwrap();
        lengths.push(most(f64::max) - most(f64::min));
    }
    lengths.sort_by(f64::total_cmp);
    // Less than the opening, as the bends of the corners take their part of an edge.
    let mut edges: Vec<f64> =
        sides(&plain, &format!("-{end}")).iter().map(|[a, b]| a.distance(*b) - 24.0).collect();
    edges.sort_by(f64::total_cmp);
    assert_eq!(edges.len(), 4);
    for ((got, edge), told) in lengths.iter().zip(edges).zip([126.0, 126.0, 176.0, 176.0]) {
        assert!((got - edge).abs() < 1e-9 && (got - told).abs() < 4.0, "{lengths:?}");
    }
}

//! Rolled shells, cones, patterns, and shapes that are pressed: closed forms.

use crate::common::*;
use approx::{assert_abs_diff_eq, assert_relative_eq};
use glam::DVec2;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};
use std::f64::consts::{PI, TAU};
use steelk_core::evaluate::evaluate_piece;
use steelk_core::job::Piece;
use steelk_core::result::PieceResult;
use steelk_core::sheet::zones::{formed, frames};
use steelk_core::sheet::{full_mesh, plain_mesh, unseen};
use steelk_core::shop::BendMethod;

fn din_told(t: &str, r: &str, says: &[Value]) -> PieceResult {
    made(school(BendMethod::Din6935), &told(t, r, says))
}

fn faults(piece: &Piece) -> Vec<String> {
    evaluate_piece(&job(school(BendMethod::Din6935)), piece).faults.into_iter().map(|f| f.path).collect()
}

/// Any two of radius, angle and arc length give the same shell: length of the middle of the sheet.
#[rstest]
#[case(json!({ "radius": "250", "angle": "120" }))]
#[case(json!({ "diameter": "500", "arc": format!("{}", 250.0 * TAU / 3.0) }))]
#[case(json!({ "angle": "120", "arc": format!("{}", 250.0 * TAU / 3.0) }))]
fn a_shell_from_any_two(#[case] sizes: Value) {
    let mut say = json!({ "verb": "start_rolled", "length": "400" });
    for (k, v) in sizes.as_object().unwrap() {
        say[k] = v.clone();
    }
    let p = din_told("3", "3", &[say]);
    assert_abs_diff_eq!(p.value("flat_length"), 248.5 * TAU / 3.0, epsilon = 1e-6);
    assert_abs_diff_eq!(p.value("flat_width"), 400.0, epsilon = 1e-9);
}

/// A full drum: the seam gap is taken off along the told face, a lap put on.
#[test]
fn drums_with_gap_and_lap() {
    let drum = |seam: &str, size: &str| {
        json!({ "verb": "start_rolled", "length": "300", "diameter": "200",
        "angle": "360", "seam": seam, "seam_size": size })
    };
    let p = din_told("2", "2", &[drum("gap", "1")]);
    assert_abs_diff_eq!(p.value("flat_length"), (TAU - 0.01) * 99.0, epsilon = 1e-6);
    let p = din_told("2", "2", &[drum("lap", "20")]);
    assert_abs_diff_eq!(p.value("flat_length"), (TAU + 0.2) * 99.0, epsilon = 1e-6);
    assert!(p.mesh().solid(&p.zones, 1.0, 2.0).is_watertight());
    assert_eq!(
        faults(&told("2", "2", &[json!({ "verb": "start_rolled", "length": "300", "radius": "100" })])),
        ["/say/radius"]
    );
    let all =
        json!({ "verb": "start_rolled", "length": "300", "radius": "100", "angle": "90", "arc": "100" });
    assert_eq!(faults(&told("2", "2", &[all])), ["/say/arc"]);
}

fn cone(wide: f64, narrow: f64, height: f64, more: Value) -> Value {
    let mut say = json!({ "verb": "start_cone", "wide": format!("{wide}"), "narrow": format!("{narrow}"),
        "height": format!("{height}"), "measure": "middle" });
    for (k, v) in more.as_object().unwrap() {
        say[k] = v.clone();
    }
    say
}

/// Slant √(h² + ((D − d)/2)²), sector radii D/(2 sin φ), sweep 2π sin φ; area π (R + r) s.
#[rstest]
#[case(400.0, 200.0, 300.0)]
#[case(300.0, 0.0, 150.0)]
#[case(100.0, 98.0, 400.0)]
fn cones_in_closed_form(#[case] wide: f64, #[case] narrow: f64, #[case] height: f64) {
    let p = din_told("1.5", "2", &[cone(wide, narrow, height, json!({}))]);
    let slant = height.hypot((wide - narrow) / 2.0);
    let sin = (wide - narrow) / 2.0 / slant;
    assert_abs_diff_eq!(p.value("slant"), slant, epsilon = 1e-9);
    assert_abs_diff_eq!(p.value("sweep"), TAU * sin, epsilon = 1e-12);
    assert_abs_diff_eq!(p.value("sector_far"), wide / 2.0 / sin, epsilon = 1e-6);
    assert_abs_diff_eq!(p.value("area"), PI * (wide + narrow) / 2.0 * slant, epsilon = 1e-4);
    let solid = p.mesh().solid(&p.zones, 1.0, 1.5);
    assert!(solid.is_watertight());
    // The middle of the sheet keeps its area, so the volume is that of the flat, facets aside.
    assert!(
        (solid.volume() / (p.value("area") * 1.5) - 1.0).abs() < 4e-3,
        "{}",
        solid.volume() / (p.value("area") * 1.5)
    );
    // Every ring of the middle face is a circle of its own radius, at one height.
    let z = &p.zones[0];
    let frame = frames(&p.zones, 1.0, 1.5)[0];
    let at = |r: f64, share: f64| formed(z, &frame, 1.0, 1.5, DVec2::from_angle(TAU * sin * share) * r, 0.75);
    let far = wide / 2.0 / sin;
    assert_abs_diff_eq!(at(far, -0.5).distance(at(far, 0.5)), 0.0, epsilon = 1e-6);
    assert_abs_diff_eq!(at(far, 0.0).distance(at(far, 0.5)), wide, epsilon = 1e-6);
    assert_abs_diff_eq!(at(far, 0.1).distance(at(far - slant, 0.1)), slant, epsilon = 1e-9);
    // Flat again, everything is where it was.
    let q = DVec2::from_angle(0.3 * sin) * (far - slant / 3.0);
    assert!((formed(z, &frame, 0.0, 1.5, q, 0.4) - q.extend(0.4)).length() < 1e-9);
}

#[test]
fn cones_told_from_a_face_and_in_part() {
    let (t, phi) = (2.0, (100.0f64 / 300.0).atan());
    let level =
        din_told("2", "2", &[cone(400.0, 200.0, 300.0, json!({ "measure": "outside", "ends": "level" }))]);
    assert_abs_diff_eq!(level.value("sector_far"), (200.0 - t / 2.0 / phi.cos()) / phi.sin(), epsilon = 1e-9);
    // As cut, the rims themselves measure what was told: the edge of the outer face furthest from the axis.
    for (measure, face) in [("outside", 0.0), ("inside", t)] {
        let p = din_told("2", "2", &[cone(400.0, 200.0, 300.0, json!({ "measure": measure }))]);
        let (z, frame) = (&p.zones[0], frames(&p.zones, 1.0, t)[0]);
        for (r, told) in [(p.value("sector_far"), 400.0), (p.value("sector_near"), 200.0)] {
            let rim =
                |share: f64| formed(z, &frame, 1.0, t, DVec2::from_angle(p.value("sweep") * share) * r, face);
            assert_abs_diff_eq!(rim(0.0).distance(rim(0.5)), told, epsilon = 1e-6);
        }
        // Its size is that of the cone on its end, not of its side lying down.
        let outer = if measure == "outside" { 400.0 } else { 400.0 + 2.0 * t * phi.cos() };
        assert_abs_diff_eq!(p.value("formed_x"), outer, epsilon = 1e-6);
        assert_abs_diff_eq!(p.value("formed_z"), 300.0 + t * phi.sin(), epsilon = 1e-6);
    }
    let half = din_told("2", "2", &[cone(400.0, 200.0, 300.0, json!({ "angle": "180" }))]);
    assert_abs_diff_eq!(half.value("sweep"), PI * phi.sin(), epsilon = 1e-12);
    assert_eq!(faults(&told("2", "2", &[cone(200.0, 200.0, 300.0, json!({}))])), ["/say/narrow"]);
}

fn fill(more: Value) -> Value {
    let mut say =
        json!({ "verb": "fill", "shape": { "kind": "square", "side": "5" }, "pitch": "8", "margin": "20" });
    for (k, v) in more.as_object().unwrap() {
        say[k] = v.clone();
    }
    say
}

/// Counts by hand: floor((room − 2·margin − size) / pitch) + 1 each way; open area n·a/A.
#[test]
fn a_pattern_fills_whole_shapes_only() {
    let plate = json!({ "verb": "start_plate", "width": "200", "height": "120" });
    let p = din_told("1", "1", &[plate.clone(), fill(json!({}))]);
    let n = ((200.0 - 40.0 - 5.0) / 8.0f64).floor() + 1.0;
    let m = ((120.0 - 40.0 - 5.0) / 8.0f64).floor() + 1.0;
    assert_eq!(p.flat.holes.len() as f64, n * m);
    assert_abs_diff_eq!(p.value("fill-1.open"), 100.0 * n * m * 25.0 / 24_000.0, epsilon = 1e-9);
    // The classic open area of staggered round holes at 60°: 0.9069·(d/p)², seen on a large plate.
    let large = json!({ "verb": "start_plate", "width": "1000", "height": "1000" });
    let round =
        fill(json!({ "shape": { "kind": "round", "diameter": "5" }, "pattern": "staggered", "margin": "0" }));
    let p = din_told("1", "1", &[large, round]);
    assert!((p.value("fill-1.open") - 90.69 * 25.0 / 64.0).abs() < 0.7, "{}", p.value("fill-1.open"));
    // Clear of an earlier cut by the margin.
    let hole = json!({ "verb": "punch", "shape": { "kind": "round", "diameter": "30" },
        "place": { "x": { "from": "centre", "distance": "" }, "y": { "from": "centre", "distance": "" } } });
    let p = din_told("1", "1", &[plate, hole, fill(json!({ "margin": "10" }))]);
    for h in &p.flat.holes[1..] {
        assert!(h.contour.vertices.iter().all(|v| v.p.length() >= 25.0 - 1e-6));
    }
    assert!(
        faults(&told(
            "1",
            "1",
            &[json!({ "verb": "start_plate", "width": "30", "height": "30" }), fill(json!({}))]
        ))
        .contains(&"/say/margin".to_string())
    );
}

/// Left out of the view, in every file: the mesh for files has all holes, figures too.
#[test]
fn a_light_pattern_is_only_out_of_sight() {
    let shell = json!({ "verb": "start_rolled", "length": "200", "diameter": "200", "angle": "360",
        "seam_size": "2" });
    let heavy = din_told("1", "1", &[shell.clone(), fill(json!({ "on": "start-1.shell" }))]);
    let light = din_told("1", "1", &[shell, fill(json!({ "on": "start-1.shell", "light": true }))]);
    assert!(heavy.flat.holes.len() > 1000);
    assert_eq!(heavy.flat.holes.len(), light.flat.holes.len());
    assert_abs_diff_eq!(heavy.value("mass"), light.value("mass"), epsilon = 1e-12);
    assert!(
        light.mesh().light
            && !heavy.mesh().light
            && light.mesh().triangles.len() * 10 < heavy.mesh().triangles.len()
    );
    assert_eq!(full_mesh(&light).triangles.len(), heavy.mesh().triangles.len());
}

/// A solid for files weighs what the figures say: holes take their true area away, round, slotted and with
/// round corners. (Inscribed, a screen was 1.1 % too heavy.)
#[test]
fn meshes_for_files_weigh_what_the_figures_say() {
    let at = json!({ "x": { "from": "centre", "distance": "" }, "y": { "from": "centre", "distance": "" } });
    let slot =
        json!({ "verb": "punch", "shape": { "kind": "slot", "length": "30", "width": "12" }, "place": at });
    let p = din_told(
        "2",
        "2",
        &[
            json!({ "verb": "start_plate", "width": "400", "height": "300" }),
            slot,
            fill(
                json!({ "on": "flat", "pattern": "staggered", "shape": { "kind": "round", "diameter": "6" },
                    "pitch": "14" }),
            ),
        ],
    );
    assert!(p.faults.is_empty() && p.flat.holes.len() > 300, "{:?}", p.faults);
    let true_volume = p.value("area") * 2.0;
    let mesh = full_mesh(&p).solid(&p.zones, 1.0, 2.0);
    assert!(mesh.is_watertight());
    assert_relative_eq!(mesh.volume(), true_volume, max_relative = 1e-9);
    assert!(
        p.mesh().solid(&p.zones, 1.0, 2.0).volume() > true_volume * 1.0002,
        "in pictures holes are inscribed"
    );
    let (plain, left_out) = plain_mesh(&p);
    assert_eq!(left_out, p.flat.holes.len() - 1);
    assert_relative_eq!(
        plain.solid(&p.zones, 1.0, 2.0).volume(),
        (400.0 * 300.0 - 18.0 * 12.0 - PI * 36.0) * 2.0,
        max_relative = 1e-9
    );
}

/// What meshes and the formed picture leave out is told, by kind and number.
#[test]
fn pressed_shapes_that_meshes_leave_out_are_told() {
    let plate = json!({ "verb": "start_plate", "width": "300", "height": "200" });
    let at = |x: &str| {
        json!({ "x": { "from": "west", "distance": x }, "y": { "from": "centre",
        "distance": "" } })
    };
    let louvre = |x: &str| {
        json!({ "verb": "press", "shape": { "kind": "louvre", "length": "50",
        "width": "12", "height": "5" }, "place": at(x) })
    };
    let p = din_told("1", "1", &[plate.clone(), louvre("60"), louvre("200")]);
    assert!(p.faults.is_empty(), "{:?}", p.faults);
    assert_eq!(
        unseen(&p),
        "Not in STL, GLB and the formed picture: 2 louvres (they are on the flat and in the DXF)"
    );
    assert_eq!(unseen(&din_told("1", "1", &[plate])), "");
}

#[test]
fn keyhole_and_d_by_hand() {
    let at = json!({ "x": { "from": "centre", "distance": "" }, "y": { "from": "centre", "distance": "" } });
    let punched = |shape: Value| {
        let p = din_told(
            "1",
            "1",
            &[
                json!({ "verb": "start_plate", "width": "100", "height": "100" }),
                json!({ "verb": "punch", "shape": shape, "place": at }),
            ],
        );
        10_000.0 - p.value("area")
    };
    // Entry ⌀14, slot 6, 15 long: the circle, the slot beyond it, less what they share.
    let (r, w, l): (f64, f64, f64) = (7.0, 3.0, 15.0);
    let y = (r * r - w * w).sqrt();
    let cap = r * r * (w / r).asin() - w * y;
    assert_abs_diff_eq!(
        punched(json!({ "kind": "keyhole", "entry": "14", "slot": "6", "length": "15" })),
        PI * r * r - cap + (l - w - y) * 2.0 * w + PI * w * w / 2.0,
        epsilon = 1e-9
    );
    // D ⌀20, 17 across: the circle less a segment of height 3.
    let theta = 2.0 * (7.0f64 / 10.0).acos();
    assert_abs_diff_eq!(
        punched(json!({ "kind": "d", "diameter": "20", "across": "17" })),
        PI * 100.0 - 50.0 * (theta - theta.sin()),
        epsilon = 1e-9
    );
}

/// A collar takes its pilot from the volume of the ring it is drawn from.
#[test]
fn a_collar_keeps_its_volume() {
    let at = json!({ "x": { "from": "centre", "distance": "" }, "y": { "from": "centre", "distance": "" } });
    let say = json!({ "verb": "press", "shape": { "kind": "collar", "diameter": "20", "height": "4" },
        "place": at });
    let p = din_told("2", "2", &[json!({ "verb": "start_plate", "width": "100", "height": "100" }), say]);
    let pilot = p.flat.holes[0].contour.as_circle().unwrap().1 * 2.0;
    let (outside, t) = (24.0f64, 2.0);
    assert_abs_diff_eq!(
        (outside.powi(2) - pilot.powi(2)) * t,
        (outside.powi(2) - 400.0) * 4.0,
        epsilon = 1e-9
    );
    assert_eq!(p.flat.pressed.len(), 1);
    assert_eq!(p.flat.holes.len(), 1);
}

/// Ribs repeated along a bend and mirrored; the blank keeps its size.
#[test]
fn ribs_louvres_and_their_repeats() {
    let says = [
        json!({ "verb": "start_plate", "width": "300", "height": "100" }),
        json!({ "verb": "fold", "edges": ["start-1.north"], "angle": "90", "reach": { "to": "length",
            "length": "60" } }),
        json!({ "verb": "rib", "on": "fold-1.north.bend", "depth": "14", "width": "8", "offset": "30" }),
        json!({ "verb": "repeat", "of": ["rib-1"], "along": "start-1.south", "spacing": { "by": "pitch",
            "count": "3", "pitch": "-40" } }),
        json!({ "verb": "mirror", "of": ["rib-1", "repeat-1"], "about": "start-1.panel" }),
        json!({ "verb": "press", "shape": { "kind": "louvre", "length": "50", "width": "12", "height": "5" },
            "place": { "on": "fold-1.north", "x": { "from": "left", "distance": "60" },
                "y": { "from": "outside", "distance": "35" } } }),
        json!({ "verb": "mirror", "of": ["press-1"], "about": "fold-1.north" }),
    ];
    let p = din_told("2", "3", &says);
    let plain = din_told("2", "3", &says[..2]);
    assert_abs_diff_eq!(p.value("area"), plain.value("area"), epsilon = 1e-9);
    let names: Vec<&str> = p.flat.pressed.iter().map(|f| f.name.as_str()).collect();
    assert!(
        names.contains(&"rib-1")
            && names.contains(&"repeat-1.rib-1#3")
            && names.contains(&"mirror-1.repeat-1.rib-1#2")
            && names.contains(&"mirror-2.press-1"),
        "{names:?}"
    );
    assert_eq!(names.len(), 8);
    let centre = |name: &str| p.flat.pressed.iter().find(|f| f.name == name).unwrap().at;
    assert_abs_diff_eq!(centre("rib-1")[0], -120.0, epsilon = 1e-9);
    assert_abs_diff_eq!(centre("repeat-1.rib-1#3")[0], -40.0, epsilon = 1e-9);
    assert_abs_diff_eq!(centre("mirror-1.rib-1")[0], 120.0, epsilon = 1e-9);
    // 35 from the outside of the bend: the outside setback r + t before the tangent line.
    let foot = p.zones.iter().find(|z| z.name == "fold-1.north").unwrap().min.y;
    assert_abs_diff_eq!(centre("press-1")[1], foot + 35.0 - 5.0, epsilon = 1e-9);
    assert_abs_diff_eq!(centre("press-1")[0], -90.0, epsilon = 1e-9);
    assert_abs_diff_eq!(centre("mirror-2.press-1")[0], 90.0, epsilon = 1e-9);
}

#[test]
fn rings_paths_and_gaps() {
    let base = [
        json!({ "verb": "start_plate", "width": "300", "height": "300" }),
        json!({ "verb": "punch", "shape": { "kind": "slot", "length": "20", "width": "6" },
            "place": { "x": { "from": "centre", "distance": "100" }, "y": { "from": "centre",
                "distance": "" } } }),
    ];
    let with = |say: Value| din_told("2", "2", &[base[0].clone(), base[1].clone(), say]);
    let at = json!({ "on": "flat", "x": { "from": "centre", "distance": "" }, "y": { "from": "centre",
        "distance": "" } });
    let p = with(json!({ "verb": "ring", "of": ["punch-1"], "count": "6", "centre": at }));
    assert_eq!(p.flat.holes.len(), 6);
    for h in &p.flat.holes {
        assert_abs_diff_eq!(h.contour.centroid().length(), 100.0, epsilon = 1e-9);
        // Turned with the ring, a slot that pointed out still does: its far end lies 10 further.
        let far = h.contour.segments().map(|s| s.at(0.5).length()).fold(0.0, f64::max);
        assert_abs_diff_eq!(far, 110.0, epsilon = 1e-9);
    }
    let p =
        with(json!({ "verb": "path", "of": ["punch-1"], "count": "4", "turned": true, "points": [{ "x": "0",
            "y": "60" }, { "x": "-30", "y": "60" }] }));
    let centres: Vec<DVec2> = p.flat.holes.iter().map(|h| h.contour.centroid()).collect();
    for want in [DVec2::new(100.0, 30.0), DVec2::new(100.0, 60.0), DVec2::new(70.0, 60.0)] {
        assert!(centres.iter().any(|c| c.distance(want) < 1e-6), "{centres:?}");
    }
    let p = with(
        json!({ "verb": "repeat", "of": ["punch-1"], "axis": "north", "spacing": { "by": "gap", "count": "3",
            "gap": "9" } }),
    );
    let mut ys: Vec<f64> = p.flat.holes.iter().map(|h| h.contour.centroid().y).collect();
    ys.sort_by(f64::total_cmp);
    assert_abs_diff_eq!(ys[2], 30.0, epsilon = 1e-9);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// Random cuts, patterns and pressed shapes on a folded piece: no panic, nothing outside its margin,
    /// every name once.
    #[test]
    fn any_pattern(pitch in 6.0..40.0f64, margin in 0.0..30.0f64, side in 2.0..20.0f64, staggered: bool,
        on_flange: bool, d in 1.0..80.0f64, depth in 1.0..20.0f64) {
        let says = [
            json!({ "verb": "start_tray", "width": "240", "depth": "160", "height": "70" }),
            json!({ "verb": "punch", "shape": { "kind": "round", "diameter": format!("{d:.1}") },
                "place": { "x": { "from": "west", "distance": "90" }, "y": { "from": "centre",
                    "distance": "" } } }),
            json!({ "verb": "fill", "shape": { "kind": "square", "side": format!("{side:.2}") },
                "pitch": format!("{pitch:.2}"), "margin": format!("{margin:.2}"),
                "pattern": if staggered { "staggered" } else { "square" },
                    "on": if on_flange { "start-1.north" } else { "start-1.panel" } }),
            json!({ "verb": "rib", "on": "start-1.east.bend", "depth": format!("{depth:.1}"), "width": "6",
                "offset": format!("{d:.1}") }),
            json!({ "verb": "press", "shape": { "kind": "dimple", "diameter": format!("{d:.1}"),
                "depth": format!("{depth:.1}") },
                "place": { "on": "start-1.west", "x": { "from": "right",
                    "distance": format!("{margin:.1}") }, "y": { "from": "tip",
                        "distance": format!("{depth:.1}") } } }),
        ];
        let p = evaluate_piece(&job(school(BendMethod::Din6935)), &told("1.5", "2", &says));
        prop_assert!(p.made);
        let names: std::collections::HashSet<&String> = p.features.iter().map(|f| &f.name).collect();
        prop_assert_eq!(names.len(), p.features.len());
        let zone = p.zones.iter().find(|z| z.name == if on_flange { "start-1.north" } else {
            "start-1.panel" }).unwrap();
        for (f, h) in p.flat.holes.iter().filter_map(|h| Some((p.features.get(*h.sources.first()? as usize)?,
            h))).filter(|(f, _)| f.line == "fill-1") {
            prop_assert!(h.contour.vertices.iter().all(|v| zone.contains(v.p)), "{} leaves its panel",
                f.name);
        }
        prop_assert!(p.mesh().solid(&p.zones, 1.0, 1.5).is_watertight());
    }
}

//! Folds on edges: flat sizes by hand for every school and bend position, corners that close, and what holds
//! for every folded piece.

use crate::common::*;
use approx::assert_abs_diff_eq;
use glam::{DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};
use steelk_core::result::PieceResult;
use steelk_core::sheet::zones::{Zone, formed, frames};
use steelk_core::shop::{BendMethod, BendRule};

fn plate(w: f64, h: f64) -> Value {
    json!({ "verb": "start_plate", "width": format!("{w}"), "height": format!("{h}") })
}

fn fold(edges: &[&str], angle: f64, length: f64) -> Value {
    let edges: Vec<String> =
        edges.iter().map(|e| if e.contains('.') { e.to_string() } else { format!("start-1.{e}") }).collect();
    json!({ "verb": "fold", "edges": edges, "angle": format!("{angle}"), "reach": { "to": "length",
        "length": format!("{length}") } })
}

fn with(mut say: Value, more: Value) -> Value {
    for (k, v) in more.as_object().unwrap() {
        say[k] = v.clone();
    }
    say
}

/// Allowance of a 90° bend by each school, written out.
fn allowance_90(rule: &BendRule, r: f64, t: f64) -> f64 {
    let quarter = std::f64::consts::FRAC_PI_2;
    match rule.school {
        BendMethod::Din6935 => quarter * (r + (0.65 + 0.5 * (r / t).log10()) * t / 2.0),
        BendMethod::KFactor => quarter * (r + 0.42 * t),
        _ => 1.57 * r + 0.64 * t,
    }
}

fn schools() -> Vec<BendRule> {
    vec![school(BendMethod::Din6935), k_factor("0.42"), school(BendMethod::Handbook90)]
}

/// A tray of 200 × 120 × 40, t 2, r 3, with its bends in each of the four places: the flat by hand.
#[test]
fn a_tray_by_hand() {
    let (w, d, h, r, t) = (200.0, 120.0, 40.0, 3.0, 2.0);
    for rule in schools() {
        let ba = allowance_90(&rule, r, t);
        let straight = h - (r + t);
        for (at, inside) in [("from_edge", 0.0), ("inner_face", r), ("outer_face", r + t), ("sharp", r + t)] {
            let p = made(
                rule.clone(),
                &told(
                    "2",
                    "3",
                    &[
                        plate(w, d),
                        with(fold(&["north", "east", "south", "west"], 90.0, h), json!({ "bend_at": at })),
                    ],
                ),
            );
            let more = 2.0 * (ba + straight - inside);
            assert_abs_diff_eq!(p.value("flat_length"), w + more, epsilon = 1e-9);
            assert_abs_diff_eq!(p.value("flat_width"), d + more, epsilon = 1e-9);
            let out = if at == "from_edge" {
                2.0 * (r + t)
            } else if at == "inner_face" {
                2.0 * t
            } else {
                0.0
            };
            assert_abs_diff_eq!(p.value("formed_x"), w + out, epsilon = 1e-6);
            assert_abs_diff_eq!(p.value("formed_y"), d + out, epsilon = 1e-6);
            assert_abs_diff_eq!(p.value("formed_z"), h, epsilon = 1e-6);
        }
    }
}

/// `start tray` says the same, less its clearance, and from the inside.
#[test]
fn a_tray_said_whole() {
    let tray = |more: Value| {
        with(json!({ "verb": "start_tray", "width": "200", "depth": "120", "height": "40" }), more)
    };
    let p = made(school(BendMethod::Din6935), &told("2", "3", &[tray(json!({ "clearance": "1.5" }))]));
    assert_abs_diff_eq!(p.value("formed_x"), 197.0, epsilon = 1e-6);
    assert_abs_diff_eq!(p.value("formed_y"), 117.0, epsilon = 1e-6);
    let p = made(school(BendMethod::Din6935), &told("2", "3", &[tray(json!({ "measure": "inside" }))]));
    assert_abs_diff_eq!(p.value("formed_x"), 204.0, epsilon = 1e-6);
    assert_abs_diff_eq!(p.value("formed_z"), 42.0, epsilon = 1e-6);
    for lips_in in [true, false] {
        let p = made(
            school(BendMethod::Din6935),
            &told("2", "3", &[tray(json!({ "lip": "15", "lips_in": lips_in }))]),
        );
        assert_abs_diff_eq!(p.value("formed_z"), 40.0, epsilon = 1e-6);
        let out = if lips_in { 0.0 } else { 2.0 * (15.0 - 2.0) };
        assert_abs_diff_eq!(p.value("formed_x"), 200.0 + out, epsilon = 1e-6);
        check_whole(&p);
    }
}

/// A lipped channel: Σ outside lengths − four deductions, in every school; web, side and lip as told when
/// formed.
#[test]
fn a_channel_by_hand() {
    for rule in schools() {
        let ba = allowance_90(&rule, 2.0, 2.0);
        let say = json!({ "verb": "start_channel", "length": "600", "web": "120", "side": "60",
            "west_side": "45", "lip": "15" });
        let p = made(rule.clone(), &told("2", "2", std::slice::from_ref(&say)));
        let bd = 2.0 * 4.0 - ba;
        assert_abs_diff_eq!(
            p.value("flat_length"),
            120.0 + 60.0 + 45.0 + 2.0 * 15.0 - 4.0 * bd,
            epsilon = 1e-9
        );
        assert_abs_diff_eq!(p.value("flat_width"), 600.0, epsilon = 1e-9);
        assert_abs_diff_eq!(p.value("formed_x"), 120.0, epsilon = 1e-6);
        assert_abs_diff_eq!(p.value("formed_z"), 60.0, epsilon = 1e-6);
        let out =
            made(rule.clone(), &told("2", "2", &[with(say, json!({ "lips_out": true, "west_side": "" }))]));
        assert_abs_diff_eq!(out.value("formed_x"), 120.0 + 2.0 * (15.0 - 2.0), epsilon = 1e-6);
    }
}

fn zone<'a>(p: &'a PieceResult, name: &str) -> (usize, &'a Zone) {
    p.zones.iter().enumerate().find(|z| z.1.name == name).unwrap_or_else(|| {
        panic!("no zone {name} in {:?}", p.zones.iter().map(|z| &z.name).collect::<Vec<_>>())
    })
}

/// Ends of a panel's side in space on its inner (top) face: foot and tip.
fn side_in_space(p: &PieceResult, panel: &str, left: bool) -> [DVec3; 2] {
    let frames = frames(&p.zones, 1.0, p.thickness);
    let (i, z) = zone(p, panel);
    let [u, _] = z.extent();
    let at = |u: f64| {
        let (low, high) = z.span_at(u).unwrap();
        let q = z.origin + z.along * u + z.along.perp() * if left { high } else { low };
        formed(z, &frames[i], 1.0, p.thickness, q, p.thickness)
    };
    [at(0.0), at(u.1)]
}

/// Two flanges that lean at any angle close edge to edge with their gap, all the way up.
#[rstest]
#[case(90.0)]
#[case(70.0)]
#[case(110.0)]
#[case(45.0)]
fn corners_keep_their_gap(#[case] angle: f64) {
    let says = [
        plate(300.0, 200.0),
        fold(&["north", "east"], angle, 60.0),
        json!({ "verb": "corner", "gap": "0.8" }),
    ];
    let p = made(school(BendMethod::Din6935), &told("2", "3", &says));
    // Counter-clockwise the east fold comes before the corner; its far end is its left.
    let east = side_in_space(&p, "fold-1.east", true);
    let north = side_in_space(&p, "fold-1.north", false);
    for k in 0..2 {
        assert_abs_diff_eq!(east[k].distance(north[k]), 0.8, epsilon = 1e-6);
    }
    check_whole(&p);
}

/// Lapped: one end reaches the other's outer face, the other stops at its inner face less the gap.
#[test]
fn lapped_corners() {
    for (close, over, under) in [("lap_before", "east", "north"), ("lap_after", "north", "east")] {
        let says = [
            plate(300.0, 200.0),
            fold(&["north", "east"], 90.0, 60.0),
            json!({ "verb": "corner", "close": close, "gap": "0.5" }),
        ];
        let p = made(school(BendMethod::Din6935), &told("2", "3", &says));
        let reach = |panel: &str| {
            let end = side_in_space(&p, &format!("fold-1.{panel}"), panel == "east")[1];
            if panel == "east" { end.y - 100.0 } else { end.x - 150.0 }
        };
        assert_abs_diff_eq!(reach(over), 0.0, epsilon = 1e-6);
        assert_abs_diff_eq!(reach(under), -2.0 - 0.5, epsilon = 1e-6);
        check_whole(&p);
    }
}

/// A hexagon folded up all round closes on itself.
#[test]
fn a_hexagon_closes() {
    let points: Vec<Value> = (0..6)
        .map(|k| {
            let a = std::f64::consts::PI / 3.0 * k as f64;
            json!({ "x": format!("{}", 100.0 * a.cos()), "y": format!("{}", 100.0 * a.sin()) })
        })
        .collect();
    let says = [
        json!({ "verb": "start_outline", "points": points }),
        with(fold(&[], 75.0, 50.0), json!({ "edges": [] })),
        json!({ "verb": "corner", "gap": "0.4" }),
    ];
    let p = made(school(BendMethod::Din6935), &told("1.5", "2", &says));
    for k in 1..=6 {
        let a = side_in_space(&p, &format!("fold-1.side-{k}"), true);
        let b = side_in_space(&p, &format!("fold-1.side-{}", k % 6 + 1), false);
        assert_abs_diff_eq!(a[0].distance(b[0]), 0.4, epsilon = 1e-6);
        assert_abs_diff_eq!(a[1].distance(b[1]), 0.4, epsilon = 1e-6);
    }
    check_whole(&p);
}

#[test]
fn folds_reach_a_height_or_a_neighbour() {
    let height = |angle: f64| {
        let says = [
            plate(200.0, 100.0),
            with(fold(&["north"], angle, 1.0), json!({ "reach": { "to": "height", "height": "55" } })),
            with(fold(&["south"], 90.0, 1.0), json!({ "reach": { "to": "level", "with": "fold-1.north" } })),
        ];
        made(school(BendMethod::Din6935), &told("2", "3", &says))
    };
    for angle in [40.0, 90.0, 120.0] {
        let p = height(angle);
        let frames = frames(&p.zones, 1.0, 2.0);
        for name in ["fold-1.north", "fold-2.south"] {
            let (i, z) = zone(&p, name);
            let tops =
                z.region.iter().flat_map(|q| [0.0, 2.0].map(|h| formed(z, &frames[i], 1.0, 2.0, *q, h).z));
            assert_abs_diff_eq!(tops.fold(0.0, f64::max), 55.0, epsilon = 1e-9);
        }
    }
}

/// A lip on a leaning wall, folded until it lies parallel to the bottom again.
#[test]
fn folded_until_parallel() {
    for angle in [60.0, 90.0, 130.0] {
        for (direction, want) in [("down", angle), ("up", 180.0 - angle)] {
            let says = [
                plate(200.0, 100.0),
                fold(&["north"], angle, 80.0),
                with(
                    fold(&["fold-1.north.tip"], 1.0, 30.0),
                    json!({ "angle": "", "parallel_to": "start-1.panel", "direction": direction }),
                ),
            ];
            let p = made(school(BendMethod::Din6935), &told("2", "3", &says));
            assert_abs_diff_eq!(p.flat.bends[1].angle.to_degrees(), want, epsilon = 1e-9);
            let frames = frames(&p.zones, 1.0, 2.0);
            let (i, _) = zone(&p, "fold-2.fold-1-north-tip");
            assert_abs_diff_eq!(frames[i].transform_vector3(DVec3::Z).z.abs(), 1.0, epsilon = 1e-12);
        }
    }
}

/// The side of a strip's leg folds too, with reliefs beside the strip's own bends.
#[test]
fn a_flange_on_the_side_of_a_leg() {
    let strip = json!({ "verb": "start_channel", "length": "300", "web": "100", "side": "50" });
    let p = made(
        school(BendMethod::Din6935),
        &told("2", "3", &[strip, fold(&["start-1.web.north"], 90.0, 30.0)]),
    );
    let (_, bend) = zone(&p, "fold-1.web-north.bend");
    let web = zone(&p, "start-1.web").1;
    // Tangent lines of the web's bends to the fold: one relief width each.
    assert_abs_diff_eq!(bend.max.x - bend.min.x, web.max.x - web.min.x - 2.0 * 2.0, epsilon = 1e-9);
    check_whole(&p);
}

#[test]
fn hems_by_hand() {
    let (t, len) = (1.0, 12.0);
    let hem = |kind: Value| {
        made(
            k_factor("0.4"),
            &told(
                "1",
                "1",
                &[plate(200.0, 100.0), json!({ "verb": "hem", "edges": ["start-1.north"], "hem": kind })],
            ),
        )
    };
    let pi = std::f64::consts::PI;
    // Closed: 100 + 12 outside less the hem's 0.43 t (2·t − π·t/2).
    let p = hem(json!({ "kind": "closed", "length": "12" }));
    assert_abs_diff_eq!(p.value("flat_width"), 100.0 + len - (2.0 - pi / 2.0) * t, epsilon = 1e-9);
    assert_abs_diff_eq!(p.value("formed_y"), 100.0, epsilon = 1e-6);
    assert_abs_diff_eq!(p.value("formed_z"), 2.0 * t, epsilon = 1e-6);
    // Open, gap 2: r 1, K 0.4 from the job.
    let p = hem(json!({ "kind": "open", "length": "12", "gap": "2" }));
    assert_abs_diff_eq!(
        p.value("flat_width"),
        100.0 + len - 2.0 * (1.0 + t) + pi * (1.0 + 0.4 * t),
        epsilon = 1e-9
    );
    assert_abs_diff_eq!(p.value("formed_z"), 4.0 * t, epsilon = 1e-6);
    // Teardrop: the tip comes down to the sheet.
    let p = hem(json!({ "kind": "teardrop", "length": "14", "radius": "2" }));
    let straight = 14.0 - 2.0 - t;
    let angle = pi + 2.0 * (2.0f64 / straight).atan();
    assert_abs_diff_eq!(
        p.value("flat_width"),
        100.0 - 3.0 + straight + angle * (2.0 + 0.4 * t),
        epsilon = 1e-9
    );
    let frames = frames(&p.zones, 1.0, t);
    let (i, z) = zone(&p, "hem-1.north");
    let tip = z.region.iter().map(|q| formed(z, &frames[i], 1.0, t, *q, t).z).fold(f64::INFINITY, f64::min);
    assert_abs_diff_eq!(tip, t, epsilon = 1e-9);
    // Rolled: an arc and nothing beyond.
    let p = hem(json!({ "kind": "rolled", "radius": "3", "angle": "270" }));
    assert_abs_diff_eq!(p.value("flat_width"), 100.0 - 4.0 + 1.5 * pi * (3.0 + 0.4 * t), epsilon = 1e-9);
}

/// Height, run and parallel lip of a joggle, whatever they are.
#[rstest]
#[case(6.0, 14.0)]
#[case(4.0, 20.0)]
#[case(12.0, 12.0)]
fn joggles_offset_by_their_height(#[case] h: f64, #[case] run: f64) {
    let says = [
        plate(200.0, 100.0),
        json!({ "verb": "joggle", "edges": ["start-1.north"], "height": format!("{h}"),
            "run": format!("{run}"), "length": "20", "radius": "2" }),
    ];
    let p = made(school(BendMethod::Din6935), &told("1.5", "2", &says));
    assert_abs_diff_eq!(p.value("formed_z"), h + 1.5, epsilon = 1e-9);
    assert_abs_diff_eq!(p.value("formed_y"), 100.0 + run + 20.0, epsilon = 1e-9);
    check_whole(&p);
}

/// A bend line takes nothing off the flat; what lies beyond comes up.
#[test]
fn bend_lines_in_a_row() {
    let line = |d: &str, angle: &str, direction: &str, at: &str| {
        json!({ "verb": "bend_line",
        "edge": "start-1.east", "distance": d, "angle": angle, "direction": direction, "at": at })
    };
    let says = [
        plate(300.0, 80.0),
        line("150", "90", "up", "centre"),
        line("100", "45", "down", "centre"),
        line("40", "60", "up", "tangent"),
    ];
    let p = made(school(BendMethod::Din6935), &told("2", "3", &says));
    assert_abs_diff_eq!(p.value("flat_length"), 300.0, epsilon = 1e-9);
    assert_eq!(p.flat.bends.len(), 3);
    assert_eq!(
        p.zones.iter().map(|z| z.parent).collect::<Vec<_>>(),
        [None, Some(0), Some(1), Some(2), Some(3), Some(4), Some(5)]
    );
    check_whole(&p);
    // Sharp on the line: the outside length of the part that stays is the distance to the far edge.
    let p = made(
        school(BendMethod::Din6935),
        &told("2", "3", &[plate(300.0, 80.0), line("100", "90", "up", "sharp")]),
    );
    assert_abs_diff_eq!(p.value("formed_x"), 200.0, epsilon = 1e-6);
    // A slanted line across the plate, and the near side held still.
    let says = [
        plate(300.0, 80.0),
        with(line("100", "90", "up", "centre"), json!({ "turn": "20", "stays": "near" })),
    ];
    check_whole(&made(school(BendMethod::Din6935), &told("2", "3", &says)));
}

#[test]
fn inset_folds_get_their_reliefs() {
    for kind in ["square", "round_ended", "torn"] {
        for at in ["from_edge", "outer_face"] {
            let more = json!({ "span": { "by": "inset", "left": "30", "right": "20" }, "bend_at": at,
                "relief": { "kind": kind } });
            let p = made(
                school(BendMethod::Din6935),
                &told("2", "3", &[plate(200.0, 100.0), with(fold(&["north"], 90.0, 40.0), more)]),
            );
            let (_, z) = zone(&p, "fold-1.north");
            assert_abs_diff_eq!(z.min.x, -100.0 + 30.0, epsilon = 1e-9);
            assert_abs_diff_eq!(z.max.x, 100.0 - 20.0, epsilon = 1e-9);
            check_whole(&p);
        }
    }
    // No room for the relief: said in words, and the plate stands.
    let more = json!({ "span": { "by": "inset", "left": "1", "right": "20" } });
    let p = steelk_core::evaluate::evaluate_piece(
        &job(school(BendMethod::Din6935)),
        &told("2", "3", &[plate(200.0, 100.0), with(fold(&["north"], 90.0, 40.0), more)]),
    );
    assert!(p.made && p.faults[0].path == "/say/span" && p.flat.bends.is_empty());
}

#[test]
fn tabs_and_notches_stand_on_their_edges() {
    let says = [
        plate(200.0, 100.0),
        fold(&["north"], 90.0, 40.0),
        json!({ "verb": "tab", "edge": "fold-1.north.tip", "width": "30", "length": "12", "place": "50" }),
        json!({ "verb": "notch", "edge": "start-1.south", "shape": { "kind": "square", "width": "20",
            "depth": "8" } }),
        json!({ "verb": "notch", "edge": "fold-1.north.left", "shape": { "kind": "vee", "width": "10",
            "depth": "6" } }),
    ];
    let p = made(school(BendMethod::Din6935), &told("2", "3", &says));
    let plain = made(school(BendMethod::Din6935), &told("2", "3", &says[..2]));
    assert_abs_diff_eq!(
        p.value("area"),
        plain.value("area") + 30.0 * 12.0 - 20.0 * 8.0 - 10.0 * 6.0 / 2.0,
        epsilon = 1e-6
    );
    assert_abs_diff_eq!(p.value("formed_z"), 52.0, epsilon = 1e-6);
    check_whole(&p);
}

fn tab(edge: &str, width: &str, place: &str) -> serde_json::Value {
    json!({ "verb": "tab", "edge": edge, "width": width, "length": "12", "place": place })
}

/// A tab stands on the edge as it is when the corners have closed: in its middle, or from its true end.
#[test]
fn a_tab_stands_on_the_edge_that_the_corners_leave() {
    let tray = json!({ "verb": "start_tray", "width": "200", "depth": "120", "height": "40" });
    let tip = |p: &PieceResult, side: &str| {
        let on: Vec<f64> = p
            .flat
            .outer
            .vertices
            .iter()
            .filter(|v| p.tags[v.tag as usize].starts_with("tab-") && p.tags[v.tag as usize].ends_with(side))
            .map(|v| v.p.x)
            .collect();
        assert_eq!(on.len(), 1, "{:?}", p.tags);
        on[0]
    };
    let p = made(
        school(BendMethod::Din6935),
        &told("2", "2", &[tray.clone(), tab("start-1.north.tip", "60", "")]),
    );
    // Travel runs from east to west on the north side: the tip begins at its east end.
    assert_abs_diff_eq!(tip(&p, ".tip"), 30.0, epsilon = 1e-9);
    assert_abs_diff_eq!(tip(&p, ".left"), -30.0, epsilon = 1e-9);
    check_whole(&p);
    // From the left end, which is the west end here: where the wall ends, beside the closed corner.
    let plain = made(school(BendMethod::Din6935), &told("2", "2", std::slice::from_ref(&tray)));
    let wall = &zone(&plain, "start-1.north").1;
    let p = made(
        school(BendMethod::Din6935),
        &told("2", "2", &[tray.clone(), tab("start-1.north.tip", "60", "50")]),
    );
    assert_abs_diff_eq!(tip(&p, ".left"), wall.min.x + 50.0 - 30.0, epsilon = 1e-9);
    // The tab belongs to its wall: no zone of its own, and its metal stands up with it.
    assert_eq!(p.zones.len(), plain.zones.len());
    assert_abs_diff_eq!(p.value("formed_z"), 52.0, epsilon = 1e-6);
    assert_abs_diff_eq!(p.value("area"), plain.value("area") + 60.0 * 12.0, epsilon = 1e-6);
    // As wide as the wall and a little more: refused by the wall that there is, not by the plate's side.
    let left = wall.max.x - wall.min.x;
    for (width, fits) in [(left - 0.01, true), (left + 0.01, false)] {
        let p = steelk_core::evaluate::evaluate_piece(
            &job(school(BendMethod::Din6935)),
            &told("2", "2", &[tray.clone(), tab("start-1.north.tip", &width.to_string(), "")]),
        );
        assert_eq!(p.faults.is_empty(), fits, "{width}: {:?}", p.faults);
        assert!(p.made && (fits || p.faults[0].path == "/say/width"));
    }
}

/// A pyramid's side grows wider towards its tip: a tab as wide as that has room. Two tabs stand on one edge,
/// and a tab is folded on.
#[test]
fn tabs_on_tapering_sides_side_by_side_and_folded() {
    let sides = fold(&["north", "east", "south", "west"], 60.0, 80.0);
    let base = [plate(100.0, 100.0), sides];
    let p = made(school(BendMethod::Din6935), &told("1", "1", &base));
    let (_, z) = zone(&p, "fold-1.north");
    let wide = z.max.x - z.min.x;
    assert!(wide > 130.0, "{wide}");
    let with_tab = |more: &[serde_json::Value]| told("1", "1", &[&base[..], more].concat());
    let p = made(school(BendMethod::Din6935), &with_tab(&[tab("fold-1.north.tip", "125", "")]));
    check_whole(&p);
    let p = made(
        school(BendMethod::Din6935),
        &with_tab(&[
            tab("fold-1.north.tip", "20", "30"),
            tab("fold-1.north.tip", "20", "90"),
            fold(&["tab-2.tip"], 90.0, 10.0),
        ]),
    );
    let bend = p
        .flat
        .bends
        .iter()
        .find(|b| b.name == "fold-2.tab-2-tip.bend")
        .unwrap_or_else(|| panic!("{:?}", p.flat.bends.iter().map(|b| &b.name).collect::<Vec<_>>()));
    assert_abs_diff_eq!(bend.length, 20.0, epsilon = 1e-9);
    check_whole(&p);
    let over = steelk_core::evaluate::evaluate_piece(
        &job(school(BendMethod::Din6935)),
        &with_tab(&[tab("fold-1.north.tip", "40", "30"), tab("fold-1.north.tip", "40", "60")]),
    );
    assert!(
        over.faults.len() == 1
            && over.faults[0].line.starts_with("tab-")
            && over.faults[0].fault.message.contains("over what else"),
        "{:?}",
        over.faults
    );
}

/// Names come from lines and edges: a line put before them changes none.
#[test]
fn names_survive_a_line_before_them() {
    let says =
        [plate(200.0, 100.0), fold(&["north", "east"], 90.0, 40.0), fold(&["fold-1.north.tip"], 90.0, 15.0)];
    let names =
        |p: &PieceResult| p.zones.iter().map(|z| z.name.clone()).collect::<std::collections::BTreeSet<_>>();
    let a = told("2", "3", &says);
    let mut b = a.clone();
    b.lines.insert(1, line("other-1", fold(&["south"], 45.0, 30.0)));
    let (a, b) = (made(school(BendMethod::Din6935), &a), made(school(BendMethod::Din6935), &b));
    assert!(names(&a).is_subset(&names(&b)));
    assert!(names(&b).contains("fold-2.fold-1-north-tip"));
}

/// What holds for every piece: watertight at any fold; zones fill the flat; the formed volume is that of
/// panels and bend sectors; neighbours agree where they meet; panels keep their distances; unfolded,
/// everything is where it was.
fn check_whole(p: &PieceResult) {
    let t = p.thickness;
    for fold in [0.0, 0.4, 1.0] {
        assert!(p.mesh().solid(&p.zones, fold, t).is_watertight(), "fold {fold}");
    }
    let point = |i: u32| p.mesh().points[i as usize];
    let mut areas = vec![0.0; p.zones.len()];
    for (k, zone) in p.mesh().triangles.iter().zip(&p.mesh().triangle_zones) {
        areas[*zone as usize] += (point(k[1]) - point(k[0])).perp_dot(point(k[2]) - point(k[0])) / 2.0;
    }
    let area = p.value("area");
    assert!((areas.iter().sum::<f64>() - area).abs() < area * 2e-3, "{} {area}", areas.iter().sum::<f64>());
    let volume: f64 = p
        .zones
        .iter()
        .zip(&areas)
        .map(|(z, a)| z.bend().map_or(a * t, |b| b.angle * t * (b.radius + t / 2.0) * a / b.allowance))
        .sum();
    let solid = p.mesh().solid(&p.zones, 1.0, t).volume();
    assert!((solid - volume).abs() < volume * 4e-3, "{solid} {volume}");
    let (folded, flat) = (frames(&p.zones, 1.0, t), frames(&p.zones, 0.0, t));
    for (i, z) in p.zones.iter().enumerate() {
        let at = |q: DVec2, h: f64| formed(z, &folded[i], 1.0, t, q, h);
        for (a, b) in z.region.iter().zip(z.region.iter().skip(1)) {
            if z.is_panel() {
                assert!((at(*a, 0.0).distance(at(*b, 0.0)) - a.distance(*b)).abs() < 1e-9);
            }
            assert!((formed(z, &flat[i], 0.0, t, *a, 1.0) - a.extend(1.0)).length() < 1e-9);
        }
        if let Some(q) = z.parent {
            let theirs = formed(&p.zones[q], &folded[q], 1.0, t, z.origin, t / 3.0);
            assert!((at(z.origin, t / 3.0) - theirs).length() < 1e-9, "{} leaves its parent", z.name);
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    /// Any recipe of folds: no panic, no NaN; what is made without a stop holds together.
    #[test]
    fn any_recipe_of_folds(
        t in 0.8..4.0f64, r in 0.5..6.0f64, w in 60.0..400.0f64, h in 60.0..300.0f64,
        folds in prop::collection::vec((0usize..8, 20.0..150.0f64, 10.0..80.0f64, any::<bool>(), 0usize..4,
            0usize..3), 1..6),
        corner in (0usize..4, 0usize..4), line in prop::option::of((10.0..200.0f64, 20.0..160.0f64)),
    ) {
        let mut says = vec![plate((w * 10.0).round() / 10.0, (h * 10.0).round() / 10.0)];
        let mut edges: Vec<String> = ["north", "east", "south",
            "west"].map(|s| format!("start-1.{s}")).to_vec();
        for (k, (edge, angle, length, up, at, span)) in folds.iter().enumerate() {
            let name = edges[edge % edges.len()].clone();
            let at = ["from_edge", "inner_face", "outer_face", "sharp"][*at];
            let span = [json!({ "by": "full" }), json!({ "by": "inset", "left": "12", "right": "15" }),
                json!({ "by": "centred", "width": "30" })][*span].clone();
            says.push(with(fold(&[&name], (angle * 10.0).round() / 10.0, (length * 10.0).round() / 10.0),
                json!({ "direction": if *up { "up" } else { "down" }, "bend_at": at, "span": span })));
            let short = name.strip_prefix("start-1.").map_or(name.replace('.', "-"), str::to_string);
            edges.push(format!("fold-{}.{short}.tip", k + 1));
            edges.push(format!("fold-{}.{short}.left", k + 1));
        }
        let (close, relief) = corner;
        let (close, relief) = (["edge", "lap_before", "lap_after", "open"][close], ["none", "square",
            "round", "slot"][relief]);
        says.push(json!({ "verb": "corner", "close": close, "relief": relief }));
        if let Some((d, a)) = line {
            says.push(json!({ "verb": "bend_line", "edge": "start-1.west", "distance": format!("{d:.1}"),
                "angle": format!("{a:.1}") }));
        }
        let piece = told(&format!("{t:.2}"), &format!("{r:.2}"), &says);
        let p = steelk_core::evaluate::evaluate_piece(&job(school(BendMethod::Din6935)), &piece);
        prop_assert!(p.made);
        for f in &p.figures {
            prop_assert!(f.value.is_finite(), "{} is {}", f.key, f.value);
        }
        let names: std::collections::HashSet<_> = p.zones.iter().map(|z| &z.name).collect();
        prop_assert_eq!(names.len(), p.zones.len());
        if p.findings.iter().all(|f| f.severity != steelk_core::result::Severity::Stop) {
            check_whole(&p);
        }
    }
}

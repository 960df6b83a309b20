//! Drilled holes: what they weigh, by closed forms of cylinders and cones and by the volume of their mesh;
//! what is told of them; that copies and folds keep them.

use std::f64::consts::PI;

use crate::common::*;
use approx::{assert_abs_diff_eq, assert_relative_eq};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::result::{PieceResult, Severity};
use steelk_core::sheet::full_mesh;
use steelk_core::shop::material;

const INCH: f64 = 25.4;

fn density() -> f64 {
    material("s235").unwrap().density * 1e-9
}

fn cylinder(d: f64, h: f64) -> f64 {
    PI * d * d / 4.0 * h
}

/// A cone cut off: diameters at its ends.
fn frustum(d: f64, e: f64, h: f64) -> f64 {
    PI * h / 12.0 * (d * d + d * e + e * e)
}

/// By triangles: nothing of it is shared with the closed forms.
fn mesh_mass(p: &PieceResult) -> f64 {
    let solid = full_mesh(p).solid(&p.zones, 0.0, p.thickness);
    assert!(solid.is_watertight());
    solid.volume() * density()
}

/// What is told beside the corners of a plain plate.
fn checks(p: &PieceResult) -> Vec<(&str, Severity)> {
    p.findings.iter().filter(|f| f.check != "sharp_corners").map(|f| (f.check, f.severity)).collect()
}

/// A plate as drawings have it, in mm: plain, countersunk, counterbored, spot-faced, blind and tapped holes,
/// two of them from the back. Sizes: ISO 273 (M8 9.0, M10 11.0), ISO 10642 (M8 17.92), DIN 974-1 (M10
/// 18 × 10.6).
#[test]
fn a_plate_of_every_kind_weighs_what_its_cylinders_and_cones_leave() {
    let p = din(
        "15",
        "15",
        &[
            "plate 300 x 160",
            "hole for M10, 50 from west, 45 from south",
            "countersunk hole for M8, 90 from west, 45 from south",
            "counterbored hole for M10, from the back, 130 from west, 45 from south",
            "spot-faced hole ⌀9, face ⌀20, 1 deep, 170 from west, 45 from south",
            "blind hole ⌀8, 6 deep, 210 from west, 45 from south",
            "blind hole ⌀10, 9 deep, flat bottom, from the back, 245 from west, 45 from south",
            "tapped hole M8, 70 from west, 115 from south",
            "tapped hole M8, 8 deep, from the back, 110 from west, 115 from south",
            "countersunk hole ⌀5.5, head ⌀11.2 at 82°, sunk 0.5, 150 from west, 115 from south",
        ],
    );
    let half = |a: f64| (a / 2.0).to_radians().tan();
    let csk_m8 = (17.92 - 9.0) / 2.0;
    // Sunk by 0.5: the cone goes on out to the face.
    let wide = 11.2 + 2.0 * 0.5 * half(82.0);
    let deep = (wide - 5.5) / 2.0 / half(82.0);
    let holes = [
        cylinder(11.0, 15.0),
        frustum(17.92, 9.0, csk_m8) + cylinder(9.0, 15.0 - csk_m8),
        cylinder(18.0, 10.6) + cylinder(11.0, 15.0 - 10.6),
        cylinder(20.0, 1.0) + cylinder(9.0, 14.0),
        cylinder(8.0, 6.0) + frustum(8.0, 0.0, 4.0 / half(118.0)),
        cylinder(10.0, 9.0),
        cylinder(6.8, 15.0),
        cylinder(6.8, 8.0 + 3.75) + frustum(6.8, 0.0, 3.4 / half(118.0)),
        frustum(wide, 5.5, deep) + cylinder(5.5, 15.0 - deep),
    ];
    let mass = (300.0 * 160.0 * 15.0 - holes.iter().sum::<f64>()) * density();
    assert_relative_eq!(p.value("mass"), mass, max_relative = 1e-12);
    assert_relative_eq!(mesh_mass(&p), mass, max_relative = 1e-9);
    // Blind holes are not cut: the flat has the other seven.
    assert_eq!((p.flat.holes.len(), p.flat.bores.len()), (6, 9));
    let texts: Vec<&str> = p.flat.bores.iter().map(|b| b.text.as_str()).collect();
    assert_eq!(
        texts,
        [
            "clearance hole ⌀11, for M10",
            "countersunk hole ⌀9 csk ⌀17.92 × 90°, for M8",
            "counterbored hole ⌀11 cbore ⌀18 × 10.6, for M10, from the back",
            "spot-faced hole ⌀9 spot face ⌀20 × 1",
            "blind hole ⌀8 × 6, 118° point",
            "blind hole ⌀10 × 9, flat bottom, from the back",
            "tapped hole M8, drill ⌀6.8",
            "tapped hole M8 × 8, drill ⌀6.8 × 11.75, 118° point, from the back",
            "countersunk hole ⌀5.5 csk ⌀12.069 × 82°",
        ]
    );
    assert_eq!(checks(&p), []);
}

/// The plate of a drawing in inches: two countersunk at 82°, four tapped from the other side, half an inch in
/// from each corner. #8-32: drill 0.136, 0.2875 deep and three pitches more (ASME B1.1).
#[test]
fn a_plate_in_inches_is_drilled_from_both_sides() {
    let mut told = piece(
        "1/2in",
        "1/2in",
        &[
            "plate 5in x 3in",
            "countersunk hole ⌀0.196in, head ⌀0.332in at 82°, 2in from west",
            "mirror drill-1, east",
            "tapped hole #8-32, 0.2875in deep, from the back, 0.5in from west, 0.5in from south",
            "mirror drill-2, east",
            "mirror drill-2 and mirror-2, north",
        ],
    );
    told.material = "s235".into();
    let p = made(school(steelk_core::shop::BendMethod::Din6935), &told);
    let tan = 41f64.to_radians().tan();
    let cone = (0.332 - 0.196) / 2.0 / tan;
    let sunk = frustum(0.332, 0.196, cone) + cylinder(0.196, 0.5 - cone);
    let point = 0.068 / 59f64.to_radians().tan();
    let tapped = cylinder(0.136, 0.2875 + 3.0 / 32.0) + frustum(0.136, 0.0, point);
    let cubic = 5.0 * 3.0 * 0.5 - 2.0 * sunk - 4.0 * tapped;
    assert_relative_eq!(p.value("mass"), cubic * INCH.powi(3) * density(), max_relative = 1e-12);
    assert_relative_eq!(mesh_mass(&p), p.value("mass"), max_relative = 1e-9);
    assert!(p.flat.bores.iter().filter(|b| b.line != "drill-1").skip(1).all(|b| b.bore.back));
    let corners: Vec<[i64; 2]> = p
        .flat
        .bores
        .iter()
        .filter(|b| b.bore.back)
        .map(|b| b.at.map(|v| (v / INCH * 1000.0).round() as i64))
        .collect();
    assert_eq!(corners, [[-2000, -1000], [2000, -1000], [-2000, 1000], [2000, 1000]]);
}

/// Each rule just kept and just broken.
#[rstest]
#[case::cone_flush_with_the_far_face("countersunk hole ⌀5, head ⌀21 at 90°", None)]
#[case::cone_too_deep("countersunk hole ⌀5, head ⌀21.01 at 90°", Some("mouth_deep"))]
#[case::floor_left("counterbored hole ⌀5, bore ⌀10, 7.9 deep", None)]
#[case::no_floor("counterbored hole ⌀5, bore ⌀10, 8 deep", Some("mouth_deep"))]
#[case::point_stays_inside("blind hole ⌀10, 4.9 deep", None)]
#[case::point_comes_out("blind hole ⌀10, 5 deep", Some("drill_point"))]
#[case::flat_stays_inside("blind hole ⌀10, 7.9 deep, flat bottom", None)]
#[case::through("blind hole ⌀10, 8 deep, flat bottom", Some("drill_through"))]
#[case::thread_holds("tapped hole M8", None)]
#[case::thread_short("tapped hole M10", Some("thread_short"))]
#[case::thread_blind_short("tapped hole M4, 3.9 deep", Some("thread_short"))]
#[case::tap_runs_out("tapped hole M4, 4 deep, drilled 6.1, flat bottom", None)]
#[case::tap_has_no_room("tapped hole M4, 4 deep, drilled 6, flat bottom", Some("tap_run_out"))]
fn rules_hold_to_the_last_step(#[case] hole: &str, #[case] check: Option<&str>) {
    let p = din("8", "8", &["plate 200 x 100", hole]);
    let told: Vec<&str> = checks(&p).into_iter().map(|c| c.0).collect();
    assert_eq!(told, check.into_iter().collect::<Vec<_>>(), "{:?}", p.findings);
}

/// Aluminium holds a thread over twice its diameter.
#[test]
fn a_soft_plate_wants_a_longer_thread() {
    let mut told = piece("8", "8", &["plate 200 x 100", "tapped hole M5"]);
    told.material = steelk_core::shop::materials().iter().find(|m| m.density < 2800.0).unwrap().id.clone();
    let p = made(school(steelk_core::shop::BendMethod::Din6935), &told);
    assert_eq!(checks(&p), [("thread_short", Severity::Warn)]);
    assert!(p.findings[0].message.contains("10.0 mm wanted"), "{}", p.findings[0].message);
}

/// Holes from both faces: 6 and 5 deep in 12 leave metal, 7 and 5 meet; beside one another they do not.
#[rstest]
#[case("7", "4.9", "0", false)]
#[case("7", "5.1", "0", true)]
#[case("7", "5.1", "7.9", true)]
#[case("7", "5.1", "8.1", false)]
fn holes_from_both_faces_may_meet(
    #[case] front: &str,
    #[case] back: &str,
    #[case] aside: &str,
    #[case] meet: bool,
) {
    let p = din(
        "12",
        "12",
        &[
            "plate 200 x 100",
            &format!("blind hole ⌀8, {front} deep, flat bottom"),
            &format!(
                "blind hole ⌀8, {back} deep, flat bottom, from the back, {aside} from the middle eastwards"
            ),
        ],
    );
    let told: Vec<(&str, Severity)> = checks(&p).into_iter().filter(|c| c.0 == "bores_meet").collect();
    assert_eq!(!told.is_empty(), meet, "{:?}", p.findings);
}

/// A cone over the edge, a bore in another hole, a blind hole off the sheet.
#[test]
fn what_stands_over_an_edge_is_told_and_still_made() {
    let p = din(
        "12",
        "12",
        &[
            "plate 200 x 100",
            "countersunk hole ⌀9, head ⌀18 at 90°, 8 from west, 50 from south",
            "hole ⌀10, 100 from west, 50 from south",
            "counterbored hole ⌀9, bore ⌀20, 5 deep, 114 from west, 50 from south",
            "blind hole ⌀10, 5 deep, flat bottom, 2 from east, 50 from south",
        ],
    );
    let edges = p.findings.iter().filter(|f| f.check == "bore_edge");
    let names: Vec<&str> = edges.map(|f| f.names[0].as_str()).collect();
    assert_eq!(names, ["drill-1", "drill-2"]);
    assert!(p.findings.iter().any(|f| f.check == "cut_misses" && f.names == ["drill-3"]));
    assert_eq!(p.flat.bores.len(), 2);
    assert!(full_mesh(&p).solid(&p.zones, 1.0, 12.0).is_watertight());
}

/// On a folded panel, told by its own sides; repeated and mirrored ones keep kind and face, and fold along.
#[test]
fn drilled_holes_fold_with_their_panel() {
    let p = din(
        "6",
        "6",
        &[
            "strip 100 up 90 80 wide 60",
            "tapped hole M5, 4 deep, drilled 4.2, flat bottom, from the back, on b, 15 from left, 20 from \
                tip",
            "countersunk hole for M4, on a, 15 from west, 15 from south",
            "repeat drill-2, 2 x 40",
        ],
    );
    for fold in [0.0, 0.5, 1.0] {
        let solid = full_mesh(&p).solid(&p.zones, fold, 6.0);
        assert!(solid.is_watertight(), "{fold}");
    }
    let panels = full_mesh(&p).solid(&p.zones, 0.0, 6.0).volume() * density();
    assert_relative_eq!(p.value("mass"), panels, max_relative = 1e-9);
    let csk: Vec<&str> =
        p.flat.bores.iter().filter(|b| b.text.contains("csk")).map(|b| b.name.as_str()).collect();
    assert_eq!(csk, ["drill-2", "repeat-1.drill-2#2"]);
    let mark = p.flat.marks.iter().find(|m| m.name == "drill-2").unwrap();
    assert_eq!(mark.text, "2× ⌀4.5 csk ⌀8.96 × 90°");
    // A hole in a bend's way is told as others are, by the edge of its cone.
    let near = din("6", "6", &["strip 100 up 90 80 wide 60", "countersunk hole for M8, on a, 20 from east"]);
    let gap = near.findings.iter().find(|f| f.check == "hole_near_bend").expect("told");
    assert!(
        gap.message.contains(&format!("is {}", near.display.fine(20.0 - 17.92 / 2.0))),
        "{}",
        gap.message
    );
    let moved = mended(
        &piece("6", "6", &["strip 100 up 90 80 wide 60", "countersunk hole for M8, on a, 20 from east"]),
        gap,
    );
    let clear = made(school(steelk_core::shop::BendMethod::Din6935), &moved);
    assert!(clear.findings.iter().all(|f| f.check != "hole_near_bend"), "{:?}", clear.findings);
}

/// A drilled hole may stand nearer to an edge and to the next than a punched one: 1.2 and 2.2 diameters from
/// middle to edge and middle (EN 1993-1-8, table 3.3).
#[rstest]
#[case("hole for M8, 10.8 from west", "hole for M8, 100 from west", &[])]
#[case("hole for M8, 10.7 from west", "hole for M8, 100 from west", &["edge_thin"])]
#[case("hole ⌀9, 10.8 from west", "hole for M8, 100 from west", &["edge_thin"])]
#[case("hole for M8, 80 from west", "hole for M8, 99.8 from west", &[])]
#[case("hole for M8, 80 from west", "hole for M8, 99.7 from west", &["web_thin"])]
#[case("hole for M8, 80 from west", "hole ⌀9, 99.8 from west", &["web_thin"])]
fn drilled_holes_want_less_metal_round_them(#[case] a: &str, #[case] b: &str, #[case] wanted: &[&str]) {
    let p = din("20", "20", &["plate 200 x 100", a, b]);
    let told: Vec<&str> = checks(&p).into_iter().map(|c| c.0).filter(|c| *c != "hole_small").collect();
    assert_eq!(told, wanted, "{:?}", p.findings);
}

/// Beside another hole: by the gap between their edges or by their middles, in line with it or at a height
/// of its own; by the copy it means; from a slot by its own end.
#[rstest]
#[case("hole ⌀10, 12 clear east of punch-1", [32.0, 0.0])]
#[case("hole ⌀10, 12 clear west of punch-1, 5 from the middle northwards", [-32.0, 5.0])]
#[case("slot 30 x 8, 12 clear north of punch-1", [0.0, 31.0])]
#[case("hole ⌀10, 40 south of punch-1", [0.0, -40.0])]
#[case("tapped hole M6, 40 east of punch-1, 20 from south", [40.0, -80.0])]
#[case("countersunk hole for M6, 10 clear west of repeat-1.punch-1#2", [-60.0 - 15.0 - 10.0 - 3.3, 0.0])]
fn a_hole_is_told_from_another(#[case] line: &str, #[case] at: [f64; 2]) {
    let p = din("8", "8", &["plate 300 x 200", "hole ⌀30", "repeat punch-1, 2 x -60", line]);
    let last = p.flat.holes.iter().find(|h| {
        let name = p.hole_name(h);
        name != "punch-1" && !name.starts_with("repeat")
    });
    let middle = last.unwrap().contour.bounds().centre();
    assert_abs_diff_eq!(middle.x, at[0], epsilon = 1e-9);
    assert_abs_diff_eq!(middle.y, at[1], epsilon = 1e-9);
}

/// Told twice, or beside what is not there, it is refused; the hole that it is told from moves it.
#[test]
fn a_hole_beside_another_follows_it() {
    let fault = |line: &str| {
        let p = piece("8", "8", &["plate 300 x 200", "hole ⌀30, 100 from west", line]);
        let out = steelk_core::evaluate::evaluate_piece(&job(Default::default()), &p);
        out.faults.iter().map(|f| (f.path.clone(), f.fault.mend.clone())).collect::<Vec<_>>()
    };
    assert_eq!(fault("hole ⌀9, 12 clear east of punch-1"), []);
    assert!(fault("hole ⌀9, 12 clear east of punch-7")[0].1.contains("punch-1"));
    let twice = fault("hole ⌀9, 12 clear east of punch-1, 20 from west");
    assert_eq!((twice.len(), twice[0].0.as_str()), (1, "/say/place/x/distance"));
    let x = |first: &str| {
        let p = din(
            "8",
            "8",
            &["plate 300 x 200", first, "hole ⌀10, 12 clear east of punch-1", "mirror punch-2, east"],
        );
        p.flat
            .holes
            .iter()
            .find(|h| p.hole_name(h) == "mirror-1.punch-2")
            .unwrap()
            .contour
            .bounds()
            .centre()
            .x
    };
    // 100 − 150 + 15 + 12 + 5, then 10 wider on either side.
    assert_abs_diff_eq!(x("hole ⌀30, 100 from west"), 18.0, epsilon = 1e-9);
    assert_abs_diff_eq!(x("hole ⌀50, 100 from west"), 8.0, epsilon = 1e-9);
}

/// What no table has is refused at its field, with what there is.
#[rstest]
#[case("tapped hole M7", "/say/hole/thread", "M8")]
#[case("tapped hole #8", "/say/hole/thread", "#8-32, #8-36")]
#[case("countersunk hole for M18", "/say/hole/screw", "sizes")]
#[case("hole for 9/17", "/say/hole/screw", "5/16")]
#[case("counterbored hole ⌀9, bore ⌀8, 3 deep", "/say/hole/bore", "greater")]
#[case("countersunk hole ⌀5, head ⌀10 at 20°", "/say/hole/angle", "90°")]
#[case("tapped hole M8, 10 deep, drilled 9", "/say/hole/drilled", "greater")]
#[case("slot for M8, 8 long", "/say/hole/length", "greater")]
fn what_cannot_be_drilled_is_refused_at_its_field(
    #[case] hole: &str,
    #[case] path: &str,
    #[case] mend: &str,
) {
    let p = piece("20", "20", &["plate 200 x 100", hole]);
    let out = steelk_core::evaluate::evaluate_piece(&job(Default::default()), &p);
    assert_eq!(out.faults.len(), 1, "{:?}", out.faults);
    assert_eq!((out.faults[0].line.as_str(), out.faults[0].path.as_str()), ("drill-1", path));
    assert!(out.faults[0].fault.mend.contains(mend), "{}", out.faults[0].fault.mend);
    assert!(out.made);
}

/// A slot for a screw is as wide as its hole.
#[test]
fn a_slot_for_a_screw_has_the_width_of_its_table() {
    let p = din("8", "8", &["plate 200 x 100", "slot for M8, 20 long centre to centre, loose fit"]);
    assert_abs_diff_eq!(p.flat.holes[0].contour.bounds().size().x, 30.0, epsilon = 1e-9);
    assert_abs_diff_eq!(p.flat.holes[0].contour.bounds().size().y, 10.0, epsilon = 1e-9);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]
    /// Whatever is drilled, the solid is closed and, where nothing meets, weighs what the figures say.
    #[test]
    fn any_drilled_plate_is_a_solid_of_its_weight(
        holes in prop::collection::vec(
            (0..6usize, 0..2usize, -90.0..90.0f64, -40.0..40.0f64, 2.0..12.0f64, 1.0..9.0f64),
            1..7,
        ),
        t in 4.0..16.0f64,
    ) {
        let mut texts = vec!["plate 200 x 100".to_string()];
        for (kind, side, x, y, d, deep) in holes {
            let side = ["from the front", "from the back"][side];
            let at = format!("{x:.2} from the middle eastwards, {y:.2} from the middle northwards");
            let hole = match kind {
                0 => format!("blind hole ⌀{d:.2}, {deep:.2} deep"),
                1 => format!("countersunk hole ⌀{d:.2}, head ⌀{:.2} at 82°", d + 2.0 * deep),
                2 => format!("counterbored hole ⌀{d:.2}, bore ⌀{:.2}, {deep:.2} deep", d + 3.0),
                3 => format!("tapped hole M6, {deep:.2} deep, flat bottom"),
                4 => format!("spot-faced hole ⌀{d:.2}, face ⌀{:.2}, 0.5 deep", 2.0 * d),
                _ => format!("hole ⌀{d:.2}"),
            };
            texts.push(if kind == 5 { format!("{hole}, {at}") } else { format!("{hole}, {side}, {at}") });
        }
        let texts: Vec<&str> = texts.iter().map(String::as_str).collect();
        let p = din(&format!("{t:.2}"), "20", &texts);
        let solid = full_mesh(&p).solid(&p.zones, 1.0, p.thickness);
        prop_assert!(solid.is_watertight());
        // Two that overlap as seen from above, one from each face, are not in meshes, and told so.
        let told = !steelk_core::sheet::unseen(&p).is_empty();
        if !told && !p.findings.iter().any(|f| matches!(f.check, "bores_meet" | "bore_edge")) {
            let off = (solid.volume() * density() / p.value("mass") - 1.0).abs();
            prop_assert!(off < 1e-9, "off by {off}");
        }
    }
}

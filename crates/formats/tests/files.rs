//! Files written are read back: DXF without loss, STL and GLB byte by byte, the template at its true scale.

use approx::assert_abs_diff_eq;
use glam::DVec2;
use proptest::prelude::*;
use steelk_core::drawing::{Paper, flat_drawing, formed_drawing, template};
use steelk_core::geom::Contour;
use steelk_core::job::{FORMAT, Job, Line, Piece};
use steelk_core::quantity::{Display, InchStyle, LengthUnit};
use steelk_core::result::PieceResult;
use steelk_core::sheet::{contours, evaluate_piece, full_mesh, lines_from, read_short};
use steelk_formats::{csv, dxf, jobfile, mesh, name, pdf, svg};

fn piece(texts: &[&str], display: Option<Display>) -> Piece {
    let known = vec!["l1".to_string(), "l2".to_string()];
    let lines =
        texts.iter().enumerate().map(|(i, t)| Line { id: format!("l{i}"), off: false, say: read_short(t, &known).unwrap_or_else(|f| panic!("{t}: {f}")) });
    Piece {
        id: "p".into(),
        mark: "P-7".into(),
        name: "bracket".into(),
        quantity: "4".into(),
        material: "s235".into(),
        thickness: "3mm".into(),
        radius: "3mm".into(),
        display,
        lines: lines.collect(),
        ..Piece::default()
    }
}

fn made(texts: &[&str], display: Option<Display>) -> PieceResult {
    let out = evaluate_piece(&Job { format: FORMAT, ..Job::default() }, &piece(texts, display));
    assert!(out.made && out.faults.is_empty(), "{:?}", out.faults);
    out
}

const BRACKET: [&str; 5] = [
    "strip 60 up 90 80 down 45 50 wide 40",
    "hole 9 at 20 from west",
    "slot 30 x 8 at 60 from west turned 20",
    "rectangle 12 x 10 at 0 clear of east, 0 clear of north",
    "round 4",
];

/// Nearest distance between two contours' corners, taken round to the same start.
fn same(a: &Contour, b: &Contour) -> f64 {
    if a.vertices.len() != b.vertices.len() {
        return f64::INFINITY;
    }
    let n = a.vertices.len();
    (0..n)
        .map(|shift| {
            (0..n).map(|i| (&a.vertices[i], &b.vertices[(i + shift) % n])).map(|(v, w)| v.p.distance(w.p).max((v.bulge - w.bulge).abs())).fold(0.0, f64::max)
        })
        .fold(f64::INFINITY, f64::min)
}

fn goes_round(p: &PieceResult) {
    let content = dxf::read(&dxf::write(p, 0), Some(LengthUnit::Mm)).unwrap();
    assert_eq!(content.unit, Some(if p.display.length == LengthUnit::Mm { "millimetres" } else { "inches" }));
    let mut mine: Vec<Contour> = contours(p).cloned().map(Contour::outward).collect();
    mine.sort_by(|a, b| b.area().total_cmp(&a.area()));
    assert_eq!(content.contours.len(), mine.len());
    for c in &mine {
        let best = content.contours.iter().map(|d| same(c, d)).fold(f64::INFINITY, f64::min);
        assert!(best < 1e-9, "a contour came back {best} off");
    }
    // Every part of a bend line that has metal, and nothing between them.
    let parts: Vec<_> = p.flat.bends.iter().flat_map(|b| b.parts.iter().map(|l| (*l, b.up))).collect();
    assert_eq!(content.bends.len(), parts.len());
    for (([a, b], bent_up), (from, to, up)) in parts.into_iter().zip(&content.bends) {
        assert!(DVec2::from(a).distance(*from) < 1e-9 && DVec2::from(b).distance(*to) < 1e-9 && bent_up == *up);
    }
}

#[test]
fn dxf_goes_round_without_loss() {
    goes_round(&made(&BRACKET, None));
    goes_round(&made(&["plate 8 x 5 1/2", "hole 9/32 at 3/4 from west", "round 1/2"], Some(Display { length: LengthUnit::In, inches: InchStyle::Decimal })));
}

#[test]
fn dxf_says_its_version_units_and_true_circles() {
    let text = String::from_utf8(dxf::write(&made(&BRACKET, None), 0)).unwrap();
    let lines: Vec<&str> = text.lines().map(str::trim).collect();
    let after = |key: &str| lines.iter().position(|l| *l == key).map(|i| lines[i + 2]);
    assert_eq!(after("$ACADVER"), Some("AC1015"), "R2000");
    assert_eq!(after("$INSUNITS"), Some("4"), "millimetres");
    assert_eq!(lines.iter().filter(|l| **l == "CIRCLE").count(), 1);
    for layer in [dxf::CUT, dxf::BEND_UP, dxf::BEND_DOWN, dxf::MARKS] {
        assert!(lines.contains(&layer), "{layer}");
    }
    assert!(text.contains("P-7 S235-steel 3mm x4"));
}

/// A piece made from the contours of a DXF has the same area and the same holes.
#[test]
fn dxf_becomes_a_recipe() {
    let p = made(&["plate 120 x 80", "hole 9 at 20 from west", "slot 30 x 8 at 80 from west turned 20", "round 6"], None);
    let content = dxf::read(&dxf::write(&p, 0), Some(LengthUnit::Mm)).unwrap();
    let again = Piece { lines: lines_from(&content.contours, &Display::default()), ..piece(&["plate 1 x 1"], None) };
    let q = evaluate_piece(&Job { format: FORMAT, ..Job::default() }, &again);
    assert!(q.faults.is_empty(), "{:?}", q.faults);
    assert_eq!(q.flat.holes.len(), 2);
    assert_abs_diff_eq!(q.value("area"), p.value("area"), epsilon = 1e-6);
    assert_abs_diff_eq!(q.value("cut_length"), p.value("cut_length"), epsilon = 1e-6);
}

fn loose(entities: &[&str]) -> Vec<u8> {
    format!("0\nSECTION\n2\nENTITIES\n{}0\nENDSEC\n0\nEOF\n", entities.concat()).into_bytes()
}

fn line(x0: f64, y0: f64, x1: f64, y1: f64) -> String {
    format!("0\nLINE\n8\n0\n10\n{x0}\n20\n{y0}\n11\n{x1}\n21\n{y1}\n")
}

#[test]
fn loose_lines_are_joined_and_a_gap_is_named() {
    let sides = [line(0.0, 0.0, 10.0, 0.0), line(10.0, 10.0, 10.0, 0.0), line(10.0, 10.0, 0.0, 10.0), line(0.0, 10.0, 0.0, 0.0)];
    let all: Vec<&str> = sides.iter().map(String::as_str).collect();
    let content = dxf::read(&loose(&all), Some(LengthUnit::In)).unwrap();
    assert_abs_diff_eq!(content.contours[0].area(), 100.0 * 25.4 * 25.4, epsilon = 1e-6);
    let open = line(0.0, 10.0, 0.0, 0.5);
    let refused = dxf::read(&loose(&[all[0], all[1], all[2], &open]), Some(LengthUnit::Mm)).unwrap_err().to_string();
    assert!(refused.contains("not closed") && refused.contains("gap of 0.5 mm is open") && refused.contains("at 0, 0.5 on layer 0"), "{refused}");
    assert!(dxf::read(&loose(&[]), Some(LengthUnit::Mm)).unwrap_err().to_string().contains("no closed contour"));
    let quarter = "0\nARC\n8\n0\n10\n0\n20\n0\n40\n10\n50\n0\n51\n90\n".to_string();
    let content = dxf::read(&loose(&[&quarter, &line(0.0, 10.0, 0.0, 0.0), &line(0.0, 0.0, 10.0, 0.0)]), Some(LengthUnit::Mm)).unwrap();
    assert_abs_diff_eq!(content.contours[0].area(), 25.0 * std::f64::consts::PI, epsilon = 1e-9);
}

#[test]
fn stl_and_glb_hold_the_solid() {
    let p = made(&BRACKET, None);
    let solid = full_mesh(&p).solid(&p.zones, 1.0, p.thickness);
    let stl = mesh::stl(&[mesh::single(&solid, "P-7", "S235", "")], "P-7");
    let count = u32::from_le_bytes(stl[80..84].try_into().unwrap()) as usize;
    assert_eq!((count, stl.len()), (solid.triangles.len(), 84 + 50 * count));
    let float = |at: usize| f64::from(f32::from_le_bytes(stl[at..at + 4].try_into().unwrap()));
    let corner = |t: usize, k: usize| [0, 1, 2].map(|a| float(84 + 50 * t + 12 + 12 * k + 4 * a));
    let volume: f64 = (0..count)
        .map(|t| {
            let [a, b, c] = [corner(t, 0), corner(t, 1), corner(t, 2)].map(glam::DVec3::from);
            a.dot(b.cross(c)) / 6.0
        })
        .sum();
    assert_abs_diff_eq!(volume, solid.volume(), epsilon = 0.5);
    let glb = mesh::glb(&[mesh::single(&solid, "P-7", "S235", "")], "P-7");
    let word = |at: usize| u32::from_le_bytes(glb[at..at + 4].try_into().unwrap()) as usize;
    assert_eq!((&glb[..4], word(4), word(8), &glb[16..20]), (&b"glTF"[..], 2, glb.len(), &b"JSON"[..]));
    let json: serde_json::Value = serde_json::from_slice(&glb[20..20 + word(12)]).unwrap();
    assert_eq!(json["accessors"][1]["count"], solid.triangles.len() * 3);
    assert_eq!(json["buffers"][0]["byteLength"], word(20 + word(12)));
}

/// Pages of the template: their true size in points, and between them every place of the flat.
#[test]
fn the_template_tiles_at_full_size() {
    let p = made(&["plate 500 x 330", "hole 9"], None);
    for (paper, width, height) in [(Paper::A4, 210.0, 297.0), (Paper::A3, 297.0, 420.0), (Paper::Letter, 215.9, 279.4)] {
        let pages = template(&p, paper).unwrap();
        let (tile_x, tile_y): (f64, f64) = (width - 20.0, height - 42.0);
        let count = |length: f64, tile: f64| ((length - tile) / (tile - 10.0)).ceil() as usize + 1;
        assert_eq!(pages.len(), count(504.0, tile_x) * count(334.0, tile_y));
        let bytes = pdf::pdf(&pages).unwrap();
        let text = String::from_utf8_lossy(&bytes);
        let boxes: Vec<&str> = text.split("/MediaBox").skip(1).map(|t| &t[..t.find(']').unwrap()]).collect();
        assert_eq!(boxes.len(), pages.len());
        let numbers: Vec<f64> = boxes[0].trim_matches([' ', '[']).split_whitespace().map(|n| n.parse().unwrap()).collect();
        assert_abs_diff_eq!(numbers[2], width * 72.0 / 25.4, epsilon = 0.01);
        assert_abs_diff_eq!(numbers[3], height * 72.0 / 25.4, epsilon = 0.01);
    }
    assert!(template(&made(&["plate 9000 x 9000"], None), Paper::A4).is_none(), "too many pages are refused");
}

/// The check square is drawn 100 mm (4 in where the piece is in inches) on every page.
#[test]
fn every_page_has_its_check_square() {
    let inches = Some(Display { length: LengthUnit::In, inches: InchStyle::Decimal });
    for (display, side) in [(None, 100.0), (inches, 101.6)] {
        for page in template(&made(&["plate 300mm x 300mm"], display), Paper::A4).unwrap() {
            let squares = page.items.iter().filter(|i| match i {
                steelk_core::drawing::Item::Shape { loops, .. } => {
                    let s = loops[0].bounds().size();
                    (s.x - side).abs() < 1e-9 && (s.y - side).abs() < 1e-9
                }
                _ => false,
            });
            assert_eq!(squares.count(), 1);
            assert!(svg::svg(&page).contains("check square"));
        }
    }
}

#[test]
fn svg_is_sound_xml_at_true_size() {
    let mut p = made(&BRACKET, None);
    p.name = "a <b> & \"c\" \u{1}".into();
    for (drawing, least) in [(flat_drawing(&p, 1.0, true), p.value("flat_length")), (formed_drawing(&p, p.mesh(), 200.0, 120.0), 199.0)] {
        let text = svg::svg(&drawing);
        let tree = usvg::Tree::from_str(&text, &usvg::Options::default()).unwrap();
        // usvg works at 96 dots to the inch.
        let width = f64::from(tree.size().width()) * 25.4 / 96.0;
        assert!(width > least && (width - drawing.size.x).abs() < 0.01, "{width}");
    }
}

#[test]
fn names_and_lists() {
    let p = made(&BRACKET, None);
    assert_eq!(name::file_stem(&p), "P-7_S235-steel_3mm_x4");
    assert_eq!(name::safe("../..//x y"), "..-..-x-y");
    let mut job = Job { format: FORMAT, pieces: vec![piece(&BRACKET, None)], ..Job::default() };
    job.pieces[0].name = "=HYPERLINK(1), \"quoted\"".into();
    let result = steelk_core::sheet::evaluate(&job);
    let bytes = csv::cut_list(&steelk_core::cutlist::cut_list(&job, &result)).unwrap();
    let text = String::from_utf8(bytes).unwrap();
    // A mark by which spreadsheets know UTF-8, then the pieces, then what sheet is to be bought.
    let rows: Vec<&str> = text.strip_prefix('\u{feff}').expect("a byte-order mark").lines().collect();
    assert_eq!(rows.len(), 5, "{rows:?}");
    assert!(rows[0].starts_with("mark,name,quantity,material,thickness [mm],blank [mm],flat length [mm]"));
    assert!(rows[3].starts_with("material,thickness [mm],pieces,") && rows[4].starts_with("S235 steel,3,4,"), "{rows:?}");
    assert!(rows[1].starts_with("P-7,\"'=HYPERLINK(1), \"\"quoted\"\"\",4,S235 steel,3,"), "{}", rows[1]);
}

#[test]
fn job_files_go_round_and_strangers_are_refused() {
    let job = Job { format: FORMAT, title: "x".into(), pieces: vec![piece(&BRACKET, None)], ..Job::default() };
    assert_eq!(jobfile::read(&jobfile::write(&job)).unwrap(), job);
    assert!(matches!(jobfile::read(b"{"), Err(jobfile::JobFileError::NotJson(_))));
    assert!(matches!(jobfile::read(b"[]"), Err(jobfile::JobFileError::NotAJob)));
    assert!(matches!(jobfile::read(br#"{"format": 2, "title": "later"}"#), Err(jobfile::JobFileError::Newer(2))));
    let stray = br#"{"format":1,"title":"x","pieces":[{"id":"a","mark":"m","name":"n","quantity":"1","material":"s235","thickness":"3","lines":[{"id":"l","say":{"verb":"punch","shape":{"kind":"star"},"place":{"x":{"from":"west","distance":"1"},"y":{"from":"south","distance":"1"}}}}]}]}"#;
    match jobfile::read(stray) {
        Err(jobfile::JobFileError::Field { at, why }) => assert!(at.starts_with("pieces[0].lines[0]") && why.contains("star"), "{at}: {why}"),
        other => panic!("{other:?}"),
    }
    let unknown = br#"{"format":1,"title":"x","colour":"red"}"#;
    assert!(matches!(jobfile::read(unknown), Err(jobfile::JobFileError::Field { .. })), "a field that would be lost is refused");
    let deep = format!("{{\"format\":1,\"title\":{}1{}}}", "[".repeat(100_000), "]".repeat(100_000));
    assert!(jobfile::read(deep.as_bytes()).is_err());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// No bytes make the readers panic.
    #[test]
    fn any_bytes_are_read_or_refused(bytes in prop::collection::vec(any::<u8>(), 0..400)) {
        let _ = dxf::read(&bytes, Some(LengthUnit::Mm));
        let _ = jobfile::read(&bytes);
    }

    /// A sound DXF with a stretch of it changed is read or refused.
    #[test]
    fn bent_dxf_is_read_or_refused(at in 0.0..1.0f64, text in "[0-9A-Z.\\n -]{0,12}") {
        let mut bytes = dxf::write(&made(&["plate 50 x 40", "hole 9", "round 4"], None), 0);
        let i = (at * bytes.len() as f64) as usize;
        let end = (i + text.len()).min(bytes.len());
        bytes.splice(i..end, text.bytes());
        if let Ok(c) = dxf::read(&bytes, Some(LengthUnit::Mm)) {
            prop_assert!(c.contours.iter().all(Contour::is_finite));
        }
    }
}

/// Names as odd as text can be: every file stays readable, names of files stay short.
#[test]
fn odd_names_break_no_file() {
    let mut odd = piece(&["plate 50 x 40"], None);
    odd.name = "a\u{fffe}\u{ffff}\u{0}<&\"'\u{1b}b".into();
    odd.mark = "x".repeat(5000);
    let p = evaluate_piece(&Job { format: FORMAT, ..Job::default() }, &odd);
    for drawing in [flat_drawing(&p, 1.0, true), formed_drawing(&p, p.mesh(), 100.0, 80.0)] {
        let text = svg::svg(&drawing);
        usvg::Tree::from_str(&text, &usvg::Options::default()).unwrap_or_else(|e| panic!("{e}"));
        assert!(!text.contains(['\u{fffe}', '\u{ffff}']));
    }
    let pages = template(&p, Paper::A4).unwrap();
    assert!(pdf::pdf(&pages).unwrap().starts_with(b"%PDF"));
    assert!(name::file_stem(&p).len() < 250, "{}", name::file_stem(&p).len());
}

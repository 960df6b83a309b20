//! Drilled holes in files: what is cut and what is drilled on layers of their own, the hole table, the hole
//! sheet.

use approx::assert_abs_diff_eq;
use steelk_core::drawing::{Item, hole_sheet};
use steelk_core::evaluate::evaluate;
use steelk_core::grammar::Context;
use steelk_core::job::{FORMAT, Job, Line, Piece, read_line};
use steelk_core::quantity::LengthUnit;
use steelk_core::result::PieceResult;
use steelk_formats::drawn::Options;
use steelk_formats::{csv, dxf, holes};

fn drilled(inch: bool) -> PieceResult {
    let texts = if inch {
        [
            "plate 8 x 4",
            "tapped hole 1/4-20, 0.25 deep, from the back, 1 from west, 1 from south",
            "countersunk hole for #10, 1 from east, 1 1/4 from south",
            "blind hole ⌀1/4, 3/16 deep, 2 from west, 3 from south",
            "hole ⌀1/2",
            "repeat drill-3, 3 x 1",
        ]
    } else {
        [
            "plate 200 x 100",
            "tapped hole M8, from the back, 25.25 from west, 20 from south",
            "countersunk hole for M5, 30 from east, 40 from south",
            "counterbored hole for M6, 60 from west, 70 from south",
            "slot 30 x 9",
            "repeat drill-3, 2 x 30",
        ]
    };
    let mut lines: Vec<Line> = Vec::new();
    for (k, text) in texts.iter().enumerate() {
        let known: Vec<String> = lines.iter().map(|l| l.id.clone()).collect();
        let say = read_line(text, &Context::knowing(&known)).unwrap_or_else(|f| panic!("{text}: {f}"));
        let id = ["start-1", "drill-1", "drill-2", "drill-3", "punch-1", "repeat-1"][k];
        lines.push(Line::new(id, say));
    }
    let piece = Piece {
        id: "p".into(),
        mark: "P-1".into(),
        quantity: "1".into(),
        material: "s235".into(),
        thickness: if inch { "1/2" } else { "12" }.into(),
        lines,
        ..Piece::default()
    };
    let mut job = Job { format: FORMAT, pieces: vec![piece], ..Job::default() };
    if inch {
        job.display.length = LengthUnit::In;
    }
    let out = evaluate(&job).pieces.remove(0);
    assert!(out.made && out.faults.is_empty(), "{:?}", out.faults);
    (*out).clone()
}

/// Circles of a file by layer: diameters.
fn circles(bytes: &[u8]) -> Vec<(String, f64)> {
    let text = String::from_utf8_lossy(bytes).replace("\r\n", "\n");
    let mut out = Vec::new();
    for entity in text.split("\n  0\n").flat_map(|e| e.split("\n0\n")).filter(|e| e.starts_with("CIRCLE")) {
        let lines: Vec<&str> = entity.lines().map(str::trim).collect();
        let of = |code: &str| lines[1..].chunks(2).find(|c| c[0] == code).map(|c| c[1]).unwrap();
        out.push((of("8").to_string(), 2.0 * of("40").parse::<f64>().unwrap()));
    }
    out
}

/// A tap drill that goes through is cut; thread, cone and bore lie on layers of their own by face. What is
/// brought in again has the cuts alone.
#[test]
fn drilled_holes_lie_on_layers_of_their_own() {
    for (inch, wanted) in [
        (
            false,
            vec![
                ("CUT", 6.8),
                ("CUT", 5.5),
                ("CUT", 6.6),
                ("CUT", 6.6),
                ("TAP_BACK", 8.0),
                ("CSK_FRONT", 11.2),
                ("CBORE_FRONT", 11.0),
                ("CBORE_FRONT", 11.0),
            ],
        ),
        (
            true,
            vec![
                ("CUT", 0.221),
                ("CUT", 0.5),
                ("DRILL_BACK", 0.201),
                ("TAP_BACK", 0.25),
                ("CSK_FRONT", 0.385),
                ("DRILL_FRONT", 0.25),
                ("DRILL_FRONT", 0.25),
                ("DRILL_FRONT", 0.25),
            ],
        ),
    ] {
        let p = drilled(inch);
        let bytes = dxf::write(&p, 0);
        let mut got = circles(&bytes);
        let mut wanted: Vec<(String, f64)> = wanted.into_iter().map(|(l, d)| (l.to_string(), d)).collect();
        let order = |a: &(String, f64), b: &(String, f64)| a.0.cmp(&b.0).then(a.1.total_cmp(&b.1));
        got.sort_by(order);
        wanted.sort_by(order);
        assert_eq!(got.len(), wanted.len(), "{got:?}");
        for (g, w) in got.iter().zip(&wanted) {
            assert_eq!(g.0, w.0);
            assert_abs_diff_eq!(g.1, w.1, epsilon = 1e-5);
        }
        let again = dxf::read(&bytes, &Options::default()).unwrap_or_else(|e| panic!("{e}"));
        assert_eq!(again.loops.len(), p.flat.holes.len() + 1);
    }
}

/// Places from the south-west corner, as told; one row a hole, one kind for equal holes.
#[test]
fn the_hole_table_tells_every_hole_from_one_datum() {
    let table =
        |inch: bool| String::from_utf8(csv::table(&holes::hole_rows(&drilled(inch))).unwrap()).unwrap();
    let mm: Vec<String> = table(false).trim_start_matches('\u{feff}').lines().map(str::to_string).collect();
    assert_eq!(mm[0], "hole,x [mm],y [mm],kind,size,side,depth [mm],as told,name");
    assert!(
        mm.contains(&"A1,25.25,20,tapped hole,M8,back,through,\"tapped hole M8, drill ⌀6.8\",drill-1".into()),
        "{mm:#?}"
    );
    assert!(
        mm.iter().any(|r| r.starts_with("B1,170,40,countersunk hole,⌀5.5 csk ⌀11.2 × 90°,front,through,"))
    );
    assert!(
        mm.iter().any(|r| r.starts_with("C2,90,70,counterbored hole,⌀6.6 cbore ⌀11 × 6.4,front,through,"))
    );
    assert!(mm.iter().any(|r| r.starts_with("D1,100,50,cut,slot 30 × 9,front,through,slot 30 × 9,punch-1")));
    assert_eq!(mm.len(), 6);
    let inch = table(true);
    for row in [
        "1,1,tapped hole,1/4-20 × 0.25,back,0.25,",
        "7,1.25,countersunk hole,⌀0.221 csk ⌀0.385 × 82°,front,through,",
        "4,3,blind hole,⌀0.25 × 0.1875,front,0.1875,",
    ] {
        assert!(inch.contains(row), "{row} not in {inch}");
    }
}

/// Every hole stands on the sheet once, with its tag at the flat and in the list.
#[test]
fn the_hole_sheet_has_every_hole_once() {
    let pages = hole_sheet(&drilled(false));
    assert_eq!(pages.len(), 1);
    let texts: Vec<&str> = pages[0]
        .items
        .iter()
        .filter_map(|i| if let Item::Text { text, .. } = i { Some(text.as_str()) } else { None })
        .collect();
    for tag in ["A1", "B1", "C1", "C2", "D1"] {
        assert_eq!(texts.iter().filter(|t| **t == tag).count(), 2, "{tag}");
    }
    assert!(texts.contains(&"2× ⌀6.6 cbore ⌀11 × 6.4"), "{texts:?}");
    assert!(texts.contains(&"1× M8, from the back"), "{texts:?}");
}

//! Papers of folded, rolled and pressed pieces: DXF bend lines and marks, the bend sheet, sections, the demo
//! as a whole.

use approx::assert_abs_diff_eq;
use dxf::entities::EntityType;
use glam::DVec2;
use steelk_core::drawing::{Item, Paper, Pen, bend_sheet, flat_drawing, section};
use steelk_core::evaluate::cut_list;
use steelk_core::evaluate::evaluate;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::grammar::Context;
use steelk_core::job::{FORMAT, Job, Line, Piece};
use steelk_core::result::{JobResult, PieceResult};
use steelk_core::sheet::{bend_said, said_in};
use steelk_core::verbs::read_line;
use steelk_formats::{dxf as files, pdf, svg};

fn demo() -> (Job, JobResult) {
    let job: Job = serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap();
    let result = evaluate(&job);
    (job, result)
}

fn of<'a>(result: &'a JobResult, id: &str) -> &'a PieceResult {
    result.pieces.iter().find(|p| p.id == id).unwrap()
}

fn told(texts: &[&str]) -> PieceResult {
    let lines = texts.iter().enumerate().map(|(i, t)| {
        Line::new(format!("l-{i}"), read_line(t, &Context::knowing(&["l-1".to_string()])).unwrap())
    });
    let piece = Piece {
        id: "p".into(),
        mark: "P-9".into(),
        name: "tray".into(),
        quantity: "1".into(),
        material: "dc01".into(),
        thickness: "1.5mm".into(),
        radius: "2mm".into(),
        lines: lines.collect(),
        ..Piece::default()
    };
    let out = evaluate_piece(&Job { format: FORMAT, ..Job::default() }, &piece);
    assert!(out.made && out.faults.is_empty(), "{:?}", out.faults);
    out
}

/// The sample job stands: nothing to stop for, and the figures of its folded pieces follow from their own
/// sizes.
#[test]
fn the_demo_comes_out_right() {
    let (job, result) = demo();
    for p in &result.pieces {
        assert!(
            p.made && p.stops() == 0,
            "{}: {:?} {:?}",
            p.mark,
            p.faults,
            p.findings.iter().map(|f| &f.message).collect::<Vec<_>>()
        );
    }
    let din = |r: f64, t: f64| std::f64::consts::FRAC_PI_2 * (r + (0.65 + 0.5 * (r / t).log10()) * t / 2.0);
    // Trough: web 400, two sides of 180, two lips of 20, four bends of R2 in 2 mm.
    let bd = 2.0 * 4.0 - din(2.0, 2.0);
    let trough = of(&result, "trough");
    assert_abs_diff_eq!(
        trough.value("flat_length"),
        400.0 + 2.0 * 180.0 + 2.0 * 20.0 - 4.0 * bd,
        epsilon = 1e-9
    );
    // The tray drops into the trough: 400 less two walls and twice the fit, outside.
    let tray = of(&result, "tray");
    let wall = |side: &str| tray.zones.iter().find(|z| z.name == format!("start-1.{side}")).unwrap();
    let bottom = wall("east").origin.x - wall("west").origin.x;
    // Between the feet of the walls in the flat: the bottom as told outside, less twice r + t, and two bends.
    assert_abs_diff_eq!(bottom, 396.0 - 2.0 * 1.5 - 2.0 * 3.5 + 2.0 * din(2.0, 1.5), epsilon = 1e-9);
    assert_eq!(tray.flat.bends.iter().filter(|b| !b.up).count(), 2);
    // Enclosure and door: the door goes over the box with 1 mm round it.
    let (enclosure, door) = (of(&result, "box"), of(&result, "door"));
    assert_abs_diff_eq!(enclosure.value("formed_x"), 300.0, epsilon = 1e-6);
    assert_abs_diff_eq!(enclosure.value("formed_z"), 150.0, epsilon = 1e-6);
    assert_abs_diff_eq!(door.value("formed_x"), 300.0 + 2.0 * (1.0 + 1.5), epsilon = 1e-6);
    assert_eq!(enclosure.flat.pressed.len(), 8);
    // Drum: the middle of the sheet, less the seam.
    let drum = of(&result, "drum");
    let middle = 210.0 - 0.75;
    assert_abs_diff_eq!(
        drum.value("flat_length"),
        (std::f64::consts::TAU - 2.0 / 210.0) * middle,
        epsilon = 1e-6
    );
    let list = cut_list(&job, &result);
    assert_eq!(list.rows.iter().find(|r| r.mark == "P-109").unwrap().bends, 8);
    assert_eq!(list.rows.iter().find(|r| r.mark == "P-111").unwrap().rolls, 1);
}

/// Bend lines on their layers, end to end; pressed shapes as marks that are not cut.
#[test]
fn dxf_carries_bends_and_marks() {
    let p = told(&[
        "tray 200 120 40 lip 15",
        "louvre 50 x 12 high 5 down at 60 from left, 20 from outside on l-0.north",
    ]);
    let bytes = files::write(&p, 0);
    let d = dxf::Drawing::load(&mut std::io::Cursor::new(&bytes)).unwrap();
    let on = |layer: &str| d.entities().filter(|e| e.common.layer == layer).count();
    assert_eq!((on("BEND_UP"), on("BEND_DOWN")), (4, 4));
    assert_eq!(on("CUT"), 1);
    let texts: Vec<String> = d
        .entities()
        .filter_map(|e| if let EntityType::Text(t) = &e.specific { Some(t.value.clone()) } else { None })
        .collect();
    assert!(texts.iter().any(|t| t.contains("louvre 50 × 12, 5 down")), "{texts:?}");
    let back = files::read(&bytes, &Default::default()).unwrap();
    assert_eq!(back.folds.len(), 8);
    let want: f64 = p.flat.bends.iter().map(|b| DVec2::from(b.from).distance(DVec2::from(b.to))).sum();
    let got: f64 = back.folds.iter().map(|b| b.from.distance(b.to)).sum();
    assert_abs_diff_eq!(got, want, epsilon = 1e-6);
}

/// A roll is where it begins and ends, on a layer of its own, with its angle and radius; a bend says its own
/// along its line.
#[test]
fn dxf_tells_rolls_from_bends() {
    let said = |texts: &[&str]| {
        let bytes = files::write(&told(texts), 0);
        let d = dxf::Drawing::load(&mut std::io::Cursor::new(&bytes)).unwrap();
        let lines: Vec<String> = d
            .entities()
            .filter(|e| matches!(e.specific, EntityType::Line(_)))
            .map(|e| e.common.layer.clone())
            .collect();
        let texts: Vec<String> = d
            .entities()
            .filter_map(|e| if let EntityType::Text(t) = &e.specific { Some(t.value.clone()) } else { None })
            .collect();
        (lines, texts)
    };
    let (lines, texts) = said(&["shell 400 diameter 300 angle 180"]);
    assert_eq!(lines, ["ROLL_UP", "ROLL_UP"]);
    assert!(texts.iter().any(|t| t.starts_with("ROLL UP 180%%d R14")), "{texts:?}");
    let (lines, texts) = said(&["strip 60 down 45 60 wide 40"]);
    assert_eq!(lines, ["BEND_DOWN"]);
    assert!(texts.iter().any(|t| t.starts_with("BEND DOWN 45%%d R")), "{texts:?}");
}

/// Every bend once, in its order, on pages that become a PDF; a flat plate has no sheet.
#[test]
fn the_bend_sheet_lists_every_bend() {
    let p = told(&["tray 200 120 40 lip 15"]);
    let pages = bend_sheet(&p);
    let texts: Vec<&str> = pages
        .iter()
        .flat_map(|d| &d.items)
        .filter_map(|i| if let Item::Text { text, .. } = i { Some(text.as_str()) } else { None })
        .collect();
    for r in &p.bend_rows {
        // In the words of the piece: no name of the recipe's own.
        let at_stop = format!("at the stop {}: {}", said_in(&p, &r.at_stop), r.gauge);
        assert!(
            texts.iter().any(|t| t.starts_with(&bend_said(&p, &r.label)))
                && texts.contains(&at_stop.as_str()),
            "{}: {texts:?}",
            r.label
        );
    }
    let bytes = pdf::pdf(&pages, &pdf::About::default()).unwrap();
    assert_eq!(&bytes[..4], b"%PDF");
    assert!(bend_sheet(&told(&["plate 100 x 60"])).is_empty());
    // Four cards stand on the first page, six on each other.
    let many: Vec<String> = (0..20)
        .map(|i| format!("bend {} from west {} 20", 30 + 25 * i, if i % 2 == 0 { "up" } else { "down" }))
        .collect();
    let many: Vec<String> = many.iter().map(|t| t.replace("west", "l-0.west")).collect();
    let p = told(&["plate 600 x 60"].into_iter().chain(many.iter().map(String::as_str)).collect::<Vec<_>>());
    assert_eq!(p.bend_rows.len(), 20);
    // Cards with strikes are taller.
    assert!((4..=6).contains(&bend_sheet(&p).len()), "{}", bend_sheet(&p).len());
}

/// A bend has its number and its name: `bend 2` where its name is a number. A hem is two strokes, acute and
/// then flat; nothing is cut off, all strikes and cautions stand there; the sheet comes on the paper that is
/// asked for.
#[test]
fn the_bend_sheet_says_strokes_and_names() {
    let texts = |p: &PieceResult| -> Vec<(String, f64)> {
        let of =
            |i: &Item| if let Item::Text { text, size, .. } = i { Some((text.clone(), *size)) } else { None };
        bend_sheet(p).iter().flat_map(|d| d.items.iter().filter_map(of).collect::<Vec<_>>()).collect()
    };
    let strip = told(&["strip 60 up 90 60 up 90 40 wide 40"]);
    let said = texts(&strip);
    assert!(
        said.iter().any(|t| t.0.starts_with("bend 1")) && said.iter().any(|t| t.0.starts_with("bend 2")),
        "{said:?}"
    );
    assert!(
        said.iter().any(|t| t.0.starts_with("aim at 90°")) && said.iter().any(|t| t.0.contains("± 0.5 mm")),
        "{said:?}"
    );
    let hemmed = told(&["tray 200 120 40", "hem l-0.north.tip closed 10"]);
    assert!(hemmed.faults.is_empty(), "{:?}", hemmed.faults);
    let said = texts(&hemmed);
    let hem = hemmed.bend_rows.iter().find(|r| r.angle > 3.1).unwrap();
    assert!(
        said.iter().any(|t| t.0.starts_with("first stroke 150°"))
            && said.iter().any(|t| t.0.starts_with("then press flat")),
        "{said:?}"
    );
    assert!(hem.closing_force.starts_with("about "));
    // Long words go on to as many lines as they need, on a card as tall as they are.
    let mut long = strip.clone();
    long.bend_rows[0].strikes =
        (1..20).map(|k| format!("wall number {k} strikes the beam at {k}°")).collect();
    let told = texts(&long);
    assert!(
        (1..20).all(|k| told
            .iter()
            .any(|t| t.0.starts_with(&format!("! wall number {k} strikes")) && t.1 == 3.0)),
        "{told:?}"
    );
    let below = |d: &steelk_core::drawing::Drawing| {
        d.items.iter().any(|i| matches!(i, Item::Text { at, .. } if at.y > d.size.y - 6.0))
    };
    assert!(!bend_sheet(&long).iter().any(below), "a card runs off its page");
    for (paper, width, height) in [(Paper::A3, 420.0, 297.0), (Paper::Letter, 279.4, 215.9)] {
        for page in bend_sheet(&strip).into_iter().map(|d| d.on(paper)) {
            assert_eq!((page.size.x, page.size.y), (width, height));
            let inside = |q: &DVec2| q.x >= 0.0 && q.y >= 0.0 && q.x <= width && q.y <= height;
            assert!(page.items.iter().all(|i| match i {
                Item::Line { a, b, .. } => inside(a) && inside(b),
                Item::Text { at, .. } => inside(at),
                _ => true,
            }));
        }
    }
}

/// The neutral line in the picture is as long as the allowance, at the scale that the picture says.
#[test]
fn sections_draw_the_allowance_to_scale() {
    let p = told(&["plate 200 x 100", "bend 60 from l-0.east up 120 r3", "bend 60 from l-0.west down 45 r2"]);
    for b in &p.flat.bends {
        let d = section(&p, b, DVec2::new(120.0, 90.0));
        let pen = if b.up { Pen::BendUp } else { Pen::BendDown };
        let drawn: f64 = d
            .items
            .iter()
            .map(|i| {
                if let Item::Line { a, b, pen: p } = i
                    && *p == pen
                {
                    a.distance(*b)
                } else {
                    0.0
                }
            })
            .sum();
        let ratio = d.items.iter().find_map(|i| {
            if let Item::Text { text, .. } = i {
                text.split_once(" : ").map(|(a, b)| a.parse::<f64>().unwrap() / b.parse::<f64>().unwrap())
            } else {
                None
            }
        });
        assert_abs_diff_eq!(drawn / ratio.unwrap(), b.allowance, epsilon = 2e-3 * b.allowance);
        assert!(svg::svg(&d).starts_with("<svg"));
        // Nothing lies outside the picture.
        for i in &d.items {
            if let Item::Shape { loops, .. } = i {
                let s = loops[0].bounds();
                assert!(s.min.min_element() >= 0.0 && s.max.cmple(d.size).all(), "{s:?}");
            }
        }
    }
}

/// Labels of bends that run aslant lie along them, and all are there.
#[test]
fn flat_drawings_label_every_bend() {
    let (_, result) = demo();
    for id in ["tray", "box", "door", "trough"] {
        let p = of(&result, id);
        let texts = flat_drawing(p, 1.0, true)
            .items
            .iter()
            .filter(|i| {
                matches!(i, Item::Text { text,
                .. } if text.starts_with("up ") || text.starts_with("down "))
            })
            .count();
        assert_eq!(texts, p.flat.bends.len(), "{id}");
    }
}

//! Files written are read back: DXF without loss, STL and GLB byte by byte, the template at its true scale.

use approx::assert_abs_diff_eq;
use glam::{DVec2, Vec2Swizzles};
use proptest::prelude::*;
use steelk_core::drawing::{
    Drawing, Item, Paper, bend_sheet, dimensioned, flat_drawing, formed_drawing, template,
};
use steelk_core::evaluate::evaluate_piece;
use steelk_core::geom::Contour;
use steelk_core::grammar::Context;
use steelk_core::job::{Assume, FORMAT, Job, Line, Piece};
use steelk_core::quantity::{Display, InchStyle, LengthUnit};
use steelk_core::result::PieceResult;
use steelk_core::sheet::{contours, full_mesh, lines_from};
use steelk_core::verbs::read_line;
use steelk_formats::drawn::{Content, Options};
use steelk_formats::{csv, dxf, jobfile, layers, mesh, name, pdf, svg};

fn piece(texts: &[&str], display: Option<Display>) -> Piece {
    let known = ["l0", "l1", "l2"].map(String::from);
    let lines = texts.iter().enumerate().map(|(i, t)| {
        Line::new(
            format!("l{i}"),
            read_line(t, &Context::knowing(&known)).unwrap_or_else(|f| panic!("{t}: {f}")),
        )
    });
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
            (0..n)
                .map(|i| (&a.vertices[i], &b.vertices[(i + shift) % n]))
                .map(|(v, w)| v.p.distance(w.p).max((v.bulge - w.bulge).abs()))
                .fold(0.0, f64::max)
        })
        .fold(f64::INFINITY, f64::min)
}

fn goes_round(p: &PieceResult) {
    let content = read(&dxf::write(p, 0), Assume::Mm);
    assert_eq!(
        content.unit.map(|u| u.name),
        Some(if p.display.length == LengthUnit::Mm { "millimetres" } else { "inches" })
    );
    let mut mine: Vec<Contour> = contours(p).cloned().map(Contour::outward).collect();
    mine.sort_by(|a, b| b.area().total_cmp(&a.area()));
    assert_eq!(content.loops.len(), mine.len());
    for c in &mine {
        let best = content.loops.iter().map(|d| same(c, &d.contour)).fold(f64::INFINITY, f64::min);
        assert!(best < 1e-9, "a contour came back {best} off");
    }
    // Every part of a bend line that has metal, and nothing between them.
    let parts: Vec<_> = p.flat.bends.iter().flat_map(|b| b.parts.iter().map(|l| (*l, b.up))).collect();
    assert_eq!(content.folds.len(), parts.len());
    for (([a, b], bent_up), f) in parts.into_iter().zip(&content.folds) {
        assert!(
            DVec2::from(a).distance(f.from) < 1e-9 && DVec2::from(b).distance(f.to) < 1e-9 && bent_up == f.up
        );
    }
}

#[test]
fn dxf_goes_round_without_loss() {
    goes_round(&made(&BRACKET, None));
    goes_round(&made(
        &["plate 8 x 5 1/2", "hole 9/32 at 3/4 from west", "round 1/2"],
        Some(Display { length: LengthUnit::In, inches: InchStyle::Decimal }),
    ));
}

#[test]
fn dxf_says_its_version_units_and_true_circles() {
    let text = String::from_utf8(dxf::write(&made(&BRACKET, None), 0)).unwrap();
    let lines: Vec<&str> = text.lines().map(str::trim).collect();
    let after = |key: &str| lines.iter().position(|l| *l == key).map(|i| lines[i + 2]);
    assert_eq!(after("$ACADVER"), Some("AC1015"), "R2000");
    assert_eq!(after("$INSUNITS"), Some("4"), "millimetres");
    assert_eq!(lines.iter().filter(|l| **l == "CIRCLE").count(), 1);
    for layer in [layers::CUT, layers::BEND_UP, layers::BEND_DOWN, layers::MARKS] {
        assert!(lines.contains(&layer), "{layer}");
    }
    assert!(text.contains("P-7 S235-steel 3mm x4"));
}

fn read(bytes: &[u8], assume: Assume) -> Content {
    dxf::read(bytes, &Options { assume: Some(assume), ..Options::default() }).unwrap()
}

fn largest(c: &Content) -> &Contour {
    c.part(&c.parts[0]).0
}

/// A piece made from the contours of a DXF has the same area and the same holes.
#[test]
fn dxf_becomes_a_recipe() {
    let p = made(
        &["plate 120 x 80", "hole 9 at 20 from west", "slot 30 x 8 at 80 from west turned 20", "round 6"],
        None,
    );
    let content = read(&dxf::write(&p, 0), Assume::Mm);
    let (outer, cuts, folds) = content.part(&content.parts[0]);
    let (lines, _) = lines_from(outer, &cuts, &folds, &Display::default());
    let again = Piece { lines, ..piece(&["plate 1 x 1"], None) };
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
    let sides = [
        line(0.0, 0.0, 10.0, 0.0),
        line(10.0, 10.0, 10.0, 0.0),
        line(10.0, 10.0, 0.0, 10.0),
        line(0.0, 10.0, 0.0, 0.0),
    ];
    let all: Vec<&str> = sides.iter().map(String::as_str).collect();
    let content = read(&loose(&all), Assume::In);
    assert_abs_diff_eq!(largest(&content).area(), 100.0 * 25.4 * 25.4, epsilon = 1e-6);
    let open = line(0.0, 10.0, 0.0, 0.5);
    let gap = read(&loose(&[all[0], all[1], all[2], &open]), Assume::Mm);
    let refused = gap.nothing().expect("an open outline");
    assert!(
        refused.contains("not closed")
            && refused.contains("gap of 0.5 mm is open")
            && refused.contains("on layer 0"),
        "{refused}"
    );
    assert_eq!(gap.gaps.len(), 1);
    assert!(read(&loose(&[]), Assume::Mm).nothing().is_some_and(|s| s.contains("no closed contour")));
    let quarter = "0\nARC\n8\n0\n10\n0\n20\n0\n40\n10\n50\n0\n51\n90\n".to_string();
    let (left, foot) = (line(0.0, 10.0, 0.0, 0.0), line(0.0, 0.0, 10.0, 0.0));
    let content = read(&loose(&[&quarter, &left, &foot]), Assume::Mm);
    assert_abs_diff_eq!(largest(&content).area(), 25.0 * std::f64::consts::PI, epsilon = 1e-9);
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

/// Pages of the template: their true size in points, upright or lying, whichever are fewer. What each paper
/// gives of the flat by hand.
#[test]
fn the_template_tiles_at_full_size() {
    let p = made(&["plate 500 x 330", "hole 9"], None);
    for (paper, width, height) in
        [(Paper::A4, 210.0, 297.0), (Paper::A3, 297.0, 420.0), (Paper::Letter, 215.9, 279.4)]
    {
        let pages = template(&p, paper).unwrap();
        let count = |length: f64, tile: f64| ((length - tile) / (tile - 10.0)).ceil() as usize + 1;
        let tiles = |w: f64, h: f64| count(504.0, w - 28.0) * count(334.0, h - 44.0);
        let (upright, lying) = (tiles(width, height), tiles(height, width));
        assert!(pages.len() <= upright.min(lying), "{paper:?}: {} of {upright} or {lying}", pages.len());
        let bytes = pdf::pdf(&pages, &pdf::About::default()).unwrap();
        let text = String::from_utf8_lossy(&bytes);
        let boxes: Vec<&str> = text.split("/MediaBox").skip(1).map(|t| &t[..t.find(']').unwrap()]).collect();
        assert_eq!(boxes.len(), pages.len());
        let numbers: Vec<f64> =
            boxes[0].trim_matches([' ', '[']).split_whitespace().map(|n| n.parse().unwrap()).collect();
        assert_abs_diff_eq!(numbers[2].min(numbers[3]), width * 72.0 / 25.4, epsilon = 0.01);
        assert_abs_diff_eq!(numbers[2].max(numbers[3]), height * 72.0 / 25.4, epsilon = 0.01);
    }
    assert!(template(&made(&["plate 9000 x 9000"], None), Paper::A4).is_none(), "too many pages are refused");
    // A strip that lies fits one page lying; upright it would want two.
    let lying = template(&made(&["plate 255 x 40"], None), Paper::A4).unwrap();
    assert_eq!((lying.len(), lying[0].size.x), (1, 297.0));
}

/// A strip to be glued is hatched on the template, and nothing else: strokes 3 mm apart times 3 mm come to
/// its area, and all lie on it. The page says what they mean.
#[test]
fn strips_to_be_glued_are_hatched() {
    let flap = |told: &str| made(&["plate 140 x 60", &format!("flap l0.north, 20, ends 90°{told}")], None);
    let page = |p: &PieceResult| template(p, Paper::A4).unwrap().remove(0);
    let strokes = |page: &Drawing| -> Vec<[DVec2; 2]> {
        let Some(Item::Window { items, .. }) = page.items.first() else { panic!("no window") };
        let slanting = |i: &Item| match i {
            Item::Line { a, b, .. } if (b.x - a.x).abs() > 0.1 && (b.y - a.y).abs() > 0.1 => Some([*a, *b]),
            _ => None,
        };
        items.iter().filter_map(slanting).collect()
    };
    let glued = page(&flap(", glued"));
    let lines = strokes(&glued);
    let length: f64 = lines.iter().map(|[a, b]| a.distance(*b)).sum();
    assert!((length * 3.0 / (140.0 * 20.0) - 1.0).abs() < 0.03, "{length}");
    let ends = lines.iter().flatten();
    let (low, high) = ends.fold((DVec2::INFINITY, DVec2::NEG_INFINITY), |(l, h), p| (l.min(*p), h.max(*p)));
    assert!(high.x - low.x < 140.001 && high.y - low.y < 20.001, "{low} {high}");
    let said = |page: &Drawing| laid(page).1.join(" ");
    assert!(said(&glued).contains("Hatched strips are glued."), "{}", said(&glued));
    let bare = page(&flap(""));
    assert!(strokes(&bare).is_empty() && !said(&bare).contains("Hatched"));
}

/// Lines and texts of a page outside its window, and the loops within.
fn laid(page: &Drawing) -> (Vec<(DVec2, DVec2)>, Vec<&str>, Vec<&Contour>) {
    let line = |i: &Item| if let Item::Line { a, b, .. } = i { Some((*a, *b)) } else { None };
    let (mut texts, mut loops) = (Vec::new(), Vec::new());
    for i in &page.items {
        match i {
            Item::Text { text, .. } => texts.push(text.as_str()),
            Item::Window { items, .. } => loops.extend(
                items
                    .iter()
                    .filter_map(|i| if let Item::Shape { loops, .. } = i { Some(loops) } else { None })
                    .flatten(),
            ),
            _ => {}
        }
    }
    (page.items.iter().filter_map(line).collect(), texts, loops)
}

/// On every page a line of 100 mm (4 in where the piece is in inches) each way; neither crosses the window
/// that shows the flat. (A square did, on 174 of 924 pages.)
#[test]
fn every_page_has_its_two_rules_clear_of_the_flat() {
    let inches = Some(Display { length: LengthUnit::In, inches: InchStyle::Decimal });
    for (display, length) in [(None, 100.0), (inches, 101.6)] {
        for page in template(&made(&["plate 500mm x 420mm"], display), Paper::A4).unwrap() {
            let window = page
                .items
                .iter()
                .find_map(|i| if let Item::Window { min, max, .. } = i { Some((*min, *max)) } else { None })
                .unwrap();
            let (lines, texts, _) = laid(&page);
            let rules: Vec<_> =
                lines.iter().filter(|(a, b)| (a.distance(*b) - length).abs() < 1e-9).collect();
            assert_eq!(rules.len(), 2);
            assert!((rules[0].1 - rules[0].0).dot(rules[1].1 - rules[1].0).abs() < 1e-9, "one each way");
            for (a, b) in rules {
                let clear = a.max(*b).cmplt(window.0).any() || a.min(*b).cmpgt(window.1).any();
                assert!(
                    clear
                        && a.min(*b).cmpge(DVec2::splat(9.0)).all()
                        && a.max(*b).cmple(page.size - 9.0).all(),
                    "{a} {b}"
                );
            }
            assert!(texts.iter().any(|t| t.contains("measure both before you cut")));
        }
    }
}

/// Pages on which no line falls are not printed: of a ring only those on its rim. Together the printed pages
/// show every part of the outline.
#[test]
fn empty_pages_are_not_printed() {
    let p = made(&["plate 1200 x 1000", "hole 8 at 600 from west, 500 from south"], None);
    let pages = template(&p, Paper::A4).unwrap();
    let names: Vec<String> = pages
        .iter()
        .flat_map(|d| {
            laid(d).1.into_iter().filter(|t| t.starts_with("page ")).map(str::to_string).collect::<Vec<_>>()
        })
        .collect();
    // Lying: 5 columns of 269 − 10 and 7 rows of 166 − 10: the rim has 20 pages, the hole one, of 35.
    assert_eq!(names.len(), pages.len());
    assert!(names[0] == format!("page A1 · 1 of {}", pages.len()), "{}", names[0]);
    assert!(pages.len() < 26, "{names:?}");
    for page in &pages {
        let (min, max) = page
            .items
            .iter()
            .find_map(|i| if let Item::Window { min, max, .. } = i { Some((*min, *max)) } else { None })
            .unwrap();
        let strokes: Vec<[DVec2; 2]> = laid(page)
            .2
            .into_iter()
            .flat_map(|c| {
                let p = c.flatten(0.5);
                (0..p.len()).map(|k| [p[k], p[(k + 1) % p.len()]]).collect::<Vec<_>>()
            })
            .collect();
        let inside = |p: DVec2| p.cmpge(min).all() && p.cmple(max).all();
        assert!(
            strokes.iter().any(|[a, b]| (0..=200).any(|k| inside(a.lerp(*b, f64::from(k) / 200.0)))),
            "a page without a line"
        );
    }
    // Every hole has its middle and its size.
    let all: Vec<String> = pages.iter().map(svg::svg).collect();
    assert!(all.iter().any(|t| t.contains("Ø8")));
}

/// Every letter on the demo's papers has a shape in the fonts that the PDF carries (the sign for diameters
/// had none and came out as a box), and what is meant bold is set in the bold.
#[test]
fn papers_have_a_shape_for_every_letter() {
    let regular = ttf_parser::Face::parse(include_bytes!("../fonts/Barlow-Regular.ttf"), 0).unwrap();
    let bold = ttf_parser::Face::parse(include_bytes!("../fonts/Barlow-SemiBold.ttf"), 0).unwrap();
    let job = jobfile::read(include_bytes!("../../../demo/orchard-line.steelk.json")).unwrap();
    let result = steelk_core::evaluate::evaluate(&job);
    let list = steelk_core::evaluate::cut_list(&job, &result);
    let head = job.drawing_head();
    let mut pages = Vec::new();
    for p in result.sheets().filter(|p| p.made) {
        pages.push(flat_drawing(p, 1.0, true));
        pages.extend(template(p, Paper::A3).unwrap_or_default());
        pages.extend(bend_sheet(p));
        let of = dimensioned::Piece { result: p, mesh: p.mesh(), unseen: Vec::new() };
        pages.extend(dimensioned::piece_drawing(&of, Paper::A4, &head));
    }
    for (r, l) in result.frames.iter().zip(&list.frames) {
        pages.extend(dimensioned::frame_drawing(r, l, Paper::A4, &head));
    }
    let mut seen = 0;
    for text in pages.iter().map(svg::svg) {
        for part in text.split("<text ").skip(1) {
            let (head, rest) = part.split_once('>').unwrap();
            let said = rest
                .split_once("</text>")
                .unwrap()
                .0
                .replace("&amp;", "&")
                .replace("&lt;", "<")
                .replace("&gt;", ">")
                .replace("&quot;", "\"");
            let face = if head.contains("font-weight") { &bold } else { &regular };
            for c in said.chars() {
                assert!(face.glyph_index(c).is_some(), "no shape for '{c}' in '{said}'");
                seen += 1;
            }
        }
    }
    assert!(seen > 3000, "{seen}");
    let bytes = pdf::pdf(&pages[1..2], &pdf::About::default()).unwrap();
    assert!(String::from_utf8_lossy(&bytes).contains("Barlow-SemiBold"), "the heading's font");
}

/// A paper says what it is, of which job and revision, and when that was saved.
#[test]
fn papers_carry_title_job_revision_and_date() {
    let pages = template(&made(&["plate 50 x 40"], None), Paper::A4).unwrap();
    let about = pdf::About {
        title: "P-7 plate, template".into(),
        subject: "J-014 Orchard, revision 3".into(),
        saved_at: 1_700_000_000,
    };
    let bytes = pdf::pdf(&pages, &about).unwrap();
    let text = String::from_utf8_lossy(&bytes);
    for said in ["P-7 plate, template", "J-014 Orchard, revision 3", "20231114"] {
        assert!(text.contains(said), "{said}");
    }
    assert_eq!(bytes, pdf::pdf(&pages, &about).unwrap(), "the same job gives the same bytes");
}

#[test]
fn svg_is_sound_xml_at_true_size() {
    let mut p = made(&BRACKET, None);
    p.name = "a <b> & \"c\" \u{1}".into();
    for (drawing, least) in [
        (flat_drawing(&p, 1.0, true), p.value("flat_length")),
        (formed_drawing(&p, p.mesh(), 200.0, 120.0), 199.0),
    ] {
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
    let result = steelk_core::evaluate::evaluate(&job);
    let bytes = csv::cut_list(&steelk_core::evaluate::cut_list(&job, &result)).unwrap();
    let text = String::from_utf8(bytes).unwrap();
    // A mark by which spreadsheets know UTF-8, then the pieces, then what sheet is to be bought.
    let rows: Vec<&str> = text.strip_prefix('\u{feff}').expect("a byte-order mark").lines().collect();
    assert_eq!(rows.len(), 5, "{rows:?}");
    assert!(rows[0].starts_with("mark,name,quantity,material,thickness [mm],blank [mm],flat length [mm]"));
    assert!(
        rows[3].starts_with("material,thickness [mm],pieces,") && rows[4].starts_with("S235 steel,3,4,"),
        "{rows:?}"
    );
    assert!(rows[1].starts_with("P-7,\"'=HYPERLINK(1), \"\"quoted\"\"\",4,S235 steel,3,"), "{}", rows[1]);
}

#[test]
fn job_files_go_round_and_strangers_are_refused() {
    let job =
        Job { format: FORMAT, title: "x".into(), pieces: vec![piece(&BRACKET, None)], ..Job::default() };
    assert_eq!(jobfile::read(&jobfile::write(&job)).unwrap(), job);
    assert!(matches!(jobfile::read(b"{"), Err(jobfile::JobFileError::NotJson(_))));
    assert!(matches!(jobfile::read(b"[]"), Err(jobfile::JobFileError::NotAJob)));
    assert!(matches!(
        jobfile::read(br#"{"format": 2, "title": "later"}"#),
        Err(jobfile::JobFileError::Newer(2))
    ));
    let stray = br#"{"format":1,"title":"x","pieces":[{"id":"a","mark":"m","name":"n","quantity":"1",
        "material":"s235","thickness":"3","lines":[{"id":"l","say":{"verb":"punch",
        "shape":{"kind":"star"},"place":{"x":{"from":"west","distance":"1"},
        "y":{"from":"south","distance":"1"}}}}]}]}"#;
    match jobfile::read(stray) {
        Err(jobfile::JobFileError::Field { at, why }) => {
            assert!(at.starts_with("pieces[0].lines[0]") && why.contains("star"), "{at}: {why}")
        }
        other => panic!("{other:?}"),
    }
    let unknown = br#"{"format":1,"title":"x","colour":"red"}"#;
    assert!(
        matches!(jobfile::read(unknown), Err(jobfile::JobFileError::Field { .. })),
        "a field that would be lost is refused"
    );
    let deep = format!("{{\"format\":1,\"title\":{}1{}}}", "[".repeat(100_000), "]".repeat(100_000));
    assert!(jobfile::read(deep.as_bytes()).is_err());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// No bytes make the readers panic.
    #[test]
    fn any_bytes_are_read_or_refused(bytes in prop::collection::vec(any::<u8>(), 0..400)) {
        let _ = dxf::read(&bytes, &Options::default());
        let _ = svg::read(&bytes, &Options::default());
        let _ = jobfile::read(&bytes);
    }

    /// A sound DXF with a stretch of it changed is read or refused.
    #[test]
    fn bent_dxf_is_read_or_refused(at in 0.0..1.0f64, text in "[0-9A-Z.\\n -]{0,12}") {
        let mut bytes = dxf::write(&made(&["plate 50 x 40", "hole 9", "round 4"], None), 0);
        let i = (at * bytes.len() as f64) as usize;
        let end = (i + text.len()).min(bytes.len());
        bytes.splice(i..end, text.bytes());
        if let Ok(c) = dxf::read(&bytes, &Options::default()) {
            prop_assert!(c.loops.iter().all(|l| l.contour.is_finite()));
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
    assert!(pdf::pdf(&pages, &pdf::About::default()).unwrap().starts_with(b"%PDF"));
    assert!(name::file_stem(&p).len() < 250, "{}", name::file_stem(&p).len());
}

/// A printer that shrinks: what is drawn larger for it is true once its reading is put on it, across and
/// down, upright and lying; a page says so, boldly where it is far off.
#[test]
fn a_template_is_drawn_for_what_its_printer_makes_of_it() {
    use steelk_core::drawing::{Printed, template_for};
    let office = Printed { name: "Office".into(), short: 0.985, long: 0.992 };
    for (line, lying) in [("plate 120 x 200", false), ("plate 255 x 40", true)] {
        let p = made(&[line], None);
        let pages = template_for(&p, Paper::A4, Some(&office)).unwrap();
        let paper = if lying { Paper::A4.size().yx() } else { Paper::A4.size() };
        let prints = if lying { DVec2::new(0.992, 0.985) } else { DVec2::new(0.985, 0.992) };
        for page in &pages {
            assert!((page.size - paper).length() < 1e-9, "the sheet is the sheet: {}", page.size);
            let [Item::Scaled { by, items }] = page.items.as_slice() else { panic!("not scaled") };
            // What the printer makes of what is drawn: the flat itself.
            assert!((*by * prints - DVec2::ONE).length() < 1e-12);
            let flat = items.iter().find_map(|i| match i {
                Item::Window { items, .. } => items.iter().find_map(|i| match i {
                    Item::Shape { loops, filled: true, .. } => Some(loops[0].bounds().size()),
                    _ => None,
                }),
                _ => None,
            });
            let size = p.flat.outer.bounds().size();
            assert!((flat.unwrap() - size).length() < 1e-9);
            // All of it lies on the sheet once it is drawn larger.
            let low =
                items.iter().filter_map(|i| if let Item::Window { max, .. } = i { Some(*max) } else { None });
            assert!(low.map(|m| m * *by).all(|m| m.x <= paper.x && m.y <= paper.y));
            let is_said = |t: &str| t.contains("For printer Office") && t.contains("−1.5 %");
            let said =
                items.iter().any(|i| matches!(i, Item::Text { text, bold: true, .. } if is_said(text)));
            assert!(said, "the page says whose it is");
        }
        let svg = steelk_formats::svg::svg(&pages[0]);
        assert!(
            svg.contains(&format!("scale({:.9} {:.9})", 1.0 / prints.x, 1.0 / prints.y)),
            "{}",
            &svg[..600]
        );
    }
    // One that prints true changes nothing of the flat.
    let true_one = Printed { name: "Plotter".into(), short: 1.0, long: 1.0 };
    let p = made(&["plate 120 x 200"], None);
    assert_eq!(
        template_for(&p, Paper::A4, Some(&true_one)).unwrap().len(),
        template(&p, Paper::A4).unwrap().len()
    );
}

//! Drawings of other programs: SVG, strokes over one another, chords that stand for arcs, guesses of the
//! unit,
//! and what a revised drawing moves.

use std::f64::consts::{PI, TAU};

use approx::assert_abs_diff_eq;
use glam::DVec2;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::geom::Contour;
use steelk_core::job::{Assume, LayerUse};
use steelk_formats::drawn::{Change, Content, Options, RepairKind, changes};
use steelk_formats::{drawing, svg};

fn asked(assume: Assume) -> Options {
    Options { assume: Some(assume), ..Options::default() }
}

fn lines(of: &[([f64; 2], [f64; 2])]) -> Vec<u8> {
    let one = |(a, b): &([f64; 2], [f64; 2])| {
        format!("0\nLINE\n8\n0\n10\n{}\n20\n{}\n11\n{}\n21\n{}\n", a[0], a[1], b[0], b[1])
    };
    let all: String = of.iter().map(one).collect();
    format!("0\nSECTION\n2\nENTITIES\n{all}0\nENDSEC\n0\nEOF\n").into_bytes()
}

fn path(points: &[DVec2]) -> Vec<u8> {
    let all: String = points.iter().map(|p| format!("10\n{}\n20\n{}\n", p.x, p.y)).collect();
    format!("0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n8\n0\n70\n1\n{all}0\nENDSEC\n0\nEOF\n").into_bytes()
}

fn read(bytes: &[u8]) -> Content {
    drawing(bytes, &asked(Assume::Mm)).unwrap_or_else(|e| panic!("{e}"))
}

fn outline(c: &Content) -> &Contour {
    c.contour(c.parts.first().unwrap_or_else(|| panic!("{:?}", c.left_out)).outline)
}

fn repaired(c: &Content, kind: RepairKind) -> usize {
    c.repairs.iter().filter(|r| r.kind == kind).map(|r| r.places.len()).sum()
}

fn page(head: &str, body: &str) -> Vec<u8> {
    format!("<?xml version='1.0'?><svg xmlns='http://www.w3.org/2000/svg' {head}>{body}</svg>").into_bytes()
}

/// The unit of the page carries over its own numbers; without one it is asked, and a pixel is the 96th
/// part of
/// an inch (CSS Values and Units, 6.2).
#[rstest]
#[case("width='200mm' height='100mm' viewBox='0 0 200 100'", None, 1.0)]
#[case("width='20cm' height='10cm' viewBox='0 0 400 200'", None, 0.5)]
#[case("width='4in' height='2in' viewBox='0 0 8 4'", None, 12.7)]
#[case("width='72pt' viewBox='0 0 1 1'", None, 25.4)]
#[case("width='2in' height='2in'", None, 25.4 / 96.0)]
#[case("viewBox='0 0 200 100'", Some(Assume::Mm), 1.0)]
#[case("width='200' height='100'", Some(Assume::Px), 25.4 / 96.0)]
#[case("width='200px' height='100px' viewBox='0 0 100 50'", Some(Assume::Px), 2.0 * 25.4 / 96.0)]
#[case("", Some(Assume::In), 25.4)]
fn a_page_has_its_unit(#[case] head: &str, #[case] assume: Option<Assume>, #[case] mm: f64) {
    let body = "<rect x='10' y='5' width='40' height='20'/>";
    let c = svg::read(&page(head, body), &Options { assume, ..Options::default() }).unwrap();
    assert_abs_diff_eq!(outline(&c).area(), 800.0 * mm * mm, epsilon = 1e-6 * mm * mm);
    assert!(c.guess.is_none());
    let unasked = svg::read(&page(head, body), &Options::default()).unwrap();
    assert_eq!(unasked.guess.is_some(), assume.is_some(), "only a page without a unit asks");
}

/// Every element that has a shape, turned, set in by reference, in groups; what hides is left out. The
/// page's y
/// runs down: what is drawn above stands above.
#[test]
fn elements_become_contours() {
    let body = "
        <rect x='0' y='0' width='300' height='200' rx='12'/>
        <defs><circle id='bolt' r='5'/><path id='never' d='M0 0h9v9z'/></defs>
        <g transform='translate(40 30)'>
            <use href='#bolt'/><use xlink:href='#bolt' xmlns:xlink='x' x='50'/>
        </g>
        <ellipse cx='200' cy='60' rx='30' ry='10' transform='rotate(30 200 60)'/>
        <polygon points='20,100 60,100 40,140'/>
        <polyline points='100,100 140,100 140,140 100,140 100,100'/>
        <path d='M 200 120 a 10 10 0 0 1 20 0 l 0 20 a 10 10 0 0 1 -20 0 z'/>
        <path d='M250,120 c0,5.5228475 -4.4771525,10 -10,10 s-10,-4.4771525 -10,-10
            4.4771525,-10 10,-10 10,4.4771525 10,10z'/>
        <g style='display: none'><circle cx='9' cy='9' r='1'/></g>
        <circle cx='9' cy='9' r='1' fill='none' stroke='none'/>
        <circle cx='9' cy='9' r='1' visibility='hidden'/>
        <text x='1' y='2'>M8</text>
        <use href='#gone'/>";
    let c = read(&page("viewBox='0 0 300 200'", body));
    assert_abs_diff_eq!(outline(&c).area(), 60_000.0 - (4.0 - PI) * 144.0, epsilon = 1e-6);
    let cuts: Vec<&Contour> = c.parts[0].cuts.iter().map(|k| c.contour(*k)).collect();
    let find = |x: f64, y: f64| -> &Contour {
        let at = DVec2::new(x, y);
        cuts.iter()
            .min_by(|a, b| { a.bounds().centre().distance(at) }.total_cmp(&b.bounds().centre().distance(at)))
            .unwrap()
    };
    assert_eq!((cuts.len(), c.parts.len()), (7, 1), "{:?}", c.left_out);
    for x in [40.0, 90.0] {
        let (m, r) = find(x, -30.0).as_circle().expect("a circle");
        assert!(m.distance(DVec2::new(x, -30.0)) < 1e-9 && (r - 5.0).abs() < 1e-9);
    }
    assert_abs_diff_eq!(find(200.0, -60.0).area(), PI * 300.0, epsilon = 0.3);
    // Turned with the clock as seen: its right end hangs down.
    assert!(find(200.0, -60.0).contains(DVec2::new(200.0 + 24.0, -60.0 - 13.0)));
    assert_abs_diff_eq!(find(40.0, -120.0).area(), 800.0, epsilon = 1e-9);
    assert_abs_diff_eq!(find(120.0, -120.0).area(), 1600.0, epsilon = 1e-9);
    assert_abs_diff_eq!(find(210.0, -130.0).area(), 400.0 + PI * 100.0, epsilon = 1e-9);
    // Four curves that stand for a circle (they stray 2.7e-4 of its radius) are one.
    let (m, r) = find(240.0, -120.0).as_circle().expect("four curves are a circle");
    assert!(m.distance(DVec2::new(240.0, -120.0)) < 1e-3 && (r - 10.0).abs() < 1e-3, "{r}");
    let told = c.left_out.join("\n");
    for said in
        ["1 group not visible", "2 circles not visible", "1 text which no cut", "of 'gone', which the file"]
    {
        assert!(told.contains(said), "{said}: {told}");
    }
}

/// Layers are groups by their labels, else the colour of the stroke; each can be put to another use.
#[test]
fn layers_of_a_page_are_groups_and_colours() {
    let body = "<g id='cuts'><rect width='100' height='50'/></g>
        <g id='g7' label='Fold lines'><line x1='50' y1='0' x2='50' y2='50' stroke='blue'/></g>
        <circle cx='20' cy='20' r='4' stroke='#FF0000' fill='none'/>
        <circle cx='70' cy='20' r='4' style='stroke: green'/>";
    let bytes = page("width='100mm' viewBox='0 0 100 50'", body);
    let c = svg::read(&bytes, &Options::default()).unwrap();
    let seen: Vec<(&str, LayerUse)> = c.layers.iter().map(|l| (l.name.as_str(), l.used)).collect();
    let wanted = [
        ("Fold lines", LayerUse::FoldUp),
        ("cuts", LayerUse::Cut),
        ("strokes in #ff0000", LayerUse::Cut),
        ("strokes in green", LayerUse::Cut),
    ];
    assert_eq!(seen, wanted);
    assert_eq!((c.parts[0].cuts.len(), c.folds.len()), (2, 1));
    let layers = [("strokes in green".to_string(), LayerUse::Out)].into();
    let c = svg::read(&bytes, &Options { layers, ..Options::default() }).unwrap();
    assert_eq!((c.parts[0].cuts.len(), c.aside.len()), (1, 2));
}

/// References in a ring, groups without end, entities that grow: refused or left out, in words.
#[test]
fn hostile_pages_end_in_words() {
    let ring =
        page("", "<g id='a'><use href='#b'/></g><g id='b'><use href='#a'/></g><rect width='9' height='9'/>");
    assert!(svg::read(&ring, &Options::default()).unwrap_err().to_string().contains("16 deep"));
    let twice = |n: usize| format!("<g id='n{}'><use href='#n{n}'/><use href='#n{n}'/></g>", n + 1);
    let grown: String = (0..15).map(twice).collect();
    let grown = page("", &format!("<g id='n0'>{}</g>{grown}", "<path d='M0 0h1v1z'/>".repeat(60)));
    assert!(svg::read(&grown, &Options::default()).unwrap_err().to_string().contains("1000000"));
    let laughs = "<!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaa'>".to_string()
        + &(0..9)
            .map(|k| format!("<!ENTITY a{k} '{}'>", format!("&a{};", k - 1).repeat(20)))
            .collect::<String>()
        + "]><svg>&a8;</svg>";
    assert!(svg::read(laughs.as_bytes(), &Options::default()).is_err());
    let deep = page("", &("<g>".repeat(5_000) + &"</g>".repeat(5_000)));
    assert!(svg::read(&deep, &Options::default()).is_err());
    for odd in ["M 1e400 0 h 3 v 3 z", "M0 0 L nan 4", "M 0 0 A 0 5 0 0 0 9 9 z", "M5", "Z Z Z", "M0 0 C"] {
        let c = svg::read(&page("", &format!("<path d='{odd}'/>")), &Options::default()).unwrap();
        assert!(c.nothing().is_some(), "{odd}");
    }
}

/// A side drawn in two stretches that lie over one another, another as a whole and in halves, and a
/// stroke that
/// lies on an edge: one plate, and the places are told.
#[test]
fn strokes_that_lie_partly_over_one_another_count_once() {
    let c = read(&lines(&[
        ([0.0, 0.0], [60.0, 0.0]),
        ([100.0, 0.0], [40.0, 0.0]),
        ([100.0, 0.0], [100.0, 50.0]),
        ([100.0, 50.0], [100.0, 20.0]),
        ([100.0, 50.0], [0.0, 50.0]),
        ([0.0, 50.0], [0.0, 0.0]),
        ([0.0, 10.0], [0.0, 30.0]),
    ]));
    assert_abs_diff_eq!(outline(&c).area(), 5000.0, epsilon = 1e-6);
    assert!(c.open.is_empty(), "{:?}", c.left_out);
    assert!(repaired(&c, RepairKind::Overlapped) >= 2, "{:?}", c.repairs);
}

/// Gaps beyond the tolerance are paired, nearest ends first, each with both its places.
#[test]
fn gaps_are_paired() {
    let c = read(&lines(&[
        ([0.0, 0.0], [100.0, 0.0]),
        ([100.3, 0.4], [100.0, 50.0]),
        ([100.0, 50.0], [2.0, 50.0]),
        ([0.0, 50.0], [0.0, 0.0]),
    ]));
    let mut widths: Vec<f64> = c.gaps.iter().map(|g| g.width()).collect();
    widths.sort_by(f64::total_cmp);
    assert_abs_diff_eq!(widths[..], [0.5, 2.0][..], epsilon = 1e-12);
    assert!(c.parts.is_empty() && c.nothing().unwrap().contains("not closed"));
}

fn round(n: usize, radius: f64, about: DVec2) -> Vec<DVec2> {
    (0..n).map(|k| about + DVec2::from_angle(TAU * (k as f64 + 0.3) / n as f64) * radius).collect()
}

/// A circle of 48 chords is a circle; polygons of up to 20 sides stay what they are; switched off, all stays.
#[test]
fn chords_of_a_circle_are_a_circle() {
    let c = read(&path(&round(48, 25.0, DVec2::new(40.0, 30.0))));
    let (m, r) = outline(&c).as_circle().expect("a circle");
    assert!(m.distance(DVec2::new(40.0, 30.0)) < 1e-9 && (r - 25.0).abs() < 1e-9);
    assert_eq!(repaired(&c, RepairKind::Arcs), 1);
    for n in [3, 4, 6, 8, 12, 16, 20] {
        assert_eq!(outline(&read(&path(&round(n, 25.0, DVec2::ZERO)))).vertices.len(), n);
    }
    let off = Options { arcs: false, ..asked(Assume::Mm) };
    let c = drawing(&path(&round(48, 25.0, DVec2::ZERO)), &off).unwrap();
    assert_eq!(outline(&c).vertices.len(), 48);
}

/// Asks of two parts only by closed forms: a slot, its round ends as chords.
#[test]
fn chords_of_a_slot_are_half_circles() {
    let half = |about: DVec2, from: f64| {
        (0..=24).map(move |k| about + DVec2::from_angle(from + PI * f64::from(k) / 24.0) * 10.0)
    };
    let points: Vec<DVec2> =
        half(DVec2::new(60.0, 0.0), -PI / 2.0).chain(half(DVec2::ZERO, PI / 2.0)).collect();
    let c = read(&path(&points));
    assert_eq!(outline(&c).vertices.len(), 4, "{:?}", outline(&c));
    assert_abs_diff_eq!(outline(&c).area(), 1200.0 + PI * 100.0, epsilon = 1e-6);
}

/// The likely unit, and why: common practice, and only ever a question.
#[rstest]
#[case(&[[0.0, 0.0], [120.0, 0.0], [120.0, 80.0]], Assume::Mm, "large part in inches")]
#[case(&[[0.0, 0.0], [4.375, 0.0], [4.375, 2.25]], Assume::In, "small part in millimetres")]
#[case(&[[0.0, 0.0], [20.0, 0.0], [20.0, 15.0], [0.0, 15.0]], Assume::Mm, "% of its sizes")]
#[case(&[[0.0, 0.0], [20.0625, 0.0], [20.0625, 13.1875], [0.0, 13.1875]], Assume::In, "sixteenths")]
fn the_unit_is_guessed_and_asked(#[case] points: &[[f64; 2]], #[case] unit: Assume, #[case] because: &str) {
    let points: Vec<DVec2> = points.iter().map(|p| DVec2::from_array(*p)).collect();
    let c = drawing(&path(&points), &Options::default()).unwrap();
    let guess = c.guess.expect("a question");
    assert!(guess.unit == unit && guess.because.contains(because), "{guess:?}");
}

fn moved(c: &Contour, by: DVec2) -> Contour {
    c.moved(0.0, by)
}

/// Of a plate's cuts one stays, one moves, one grows, one goes, one comes; equal holes that shift
/// together are
/// each found again.
#[test]
fn a_revision_says_what_moved() {
    let hole = |x: f64, y: f64, r: f64| Contour::circle(DVec2::new(x, y), r, 0);
    let old = [hole(10.0, 10.0, 4.5), hole(30.0, 10.0, 4.5), hole(50.0, 10.0, 3.0), hole(90.0, 40.0, 6.0)];
    let new = [hole(50.0, 10.0, 3.3), hole(10.0, 10.0, 4.5), hole(35.0, 12.0, 4.5), hole(20.0, 60.0, 8.0)];
    let got = changes(&old, &new);
    assert_eq!(got[0], Change::Same { old: 0, new: 1 });
    assert_eq!(got[1], Change::Moved { old: 1, new: 2, by: DVec2::new(5.0, 2.0) });
    assert!(matches!(got[2], Change::Reshaped { old: 2, new: 0, .. }), "{:?}", got[2]);
    assert_eq!(got[3..], [Change::Gone { old: 3 }, Change::New { new: 3 }]);
    let row: Vec<Contour> = (0..20).map(|k| hole(10.0 * f64::from(k), 0.0, 2.0)).collect();
    let shifted: Vec<Contour> = row.iter().rev().map(|c| moved(c, DVec2::new(1.5, 0.0))).collect();
    let got = changes(&row, &shifted);
    assert!(
        got.len() == 20
            && got.iter().enumerate().all(|(k, c)| {
                *c == Change::Moved { old: k, new: 19 - k, by: DVec2::new(1.5, 0.0) }
                    || matches!(c, Change::Moved { old, new, by }
                if (*old, *new) == (k, 19 - k) && (by.x - 1.5).abs() < 1e-9)
            }),
        "{got:?}"
    );
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]

    /// A plate with rounded corners, its arcs as chords and its sides loose and in any order: the
    /// arcs come back
    /// with their radii, wherever the chords begin.
    #[test]
    fn rounded_plates_of_chords_come_back(w in 60.0..200.0f64, h in 60.0..150.0f64,
        radii in prop::array::uniform4(4.0..25.0f64), chords in 8usize..40, turn in 0.0..TAU,
        begin in 0usize..100) {
        let corners = [(0.0, 0.0, PI), (w, 0.0, -PI / 2.0), (w, h, 0.0), (0.0, h, PI / 2.0)];
        let mut points: Vec<DVec2> = Vec::new();
        for ((x, y, from), r) in corners.iter().zip(radii) {
            let inward = DVec2::new(if *x == 0.0 { r } else { -r }, if *y == 0.0 { r } else { -r });
            let m = DVec2::new(*x, *y) + inward;
            let turned = |k: usize| DVec2::from_angle(from + PI / 2.0 * k as f64 / chords as f64);
            points.extend((0..=chords).map(|k| m + turned(k) * r));
        }
        let n = points.len();
        points.rotate_left(begin % n);
        let turned: Vec<DVec2> = points.iter().map(|p| DVec2::from_angle(turn).rotate(*p)).collect();
        let c = read(&path(&turned));
        let o = outline(&c);
        let exact = w * h - radii.iter().map(|r| (1.0 - PI / 4.0) * r * r).sum::<f64>();
        prop_assert!((o.area() - exact).abs() < 0.01 * o.perimeter(), "{} {exact}", o.area());
        let mut got: Vec<f64> = o.segments().filter_map(|s| s.arc()).map(|a| a.radius).collect();
        prop_assert_eq!(got.len(), 4, "{:?}", o);
        let mut wanted = radii.to_vec();
        got.sort_by(f64::total_cmp);
        wanted.sort_by(f64::total_cmp);
        for (g, w) in got.iter().zip(&wanted) {
            prop_assert!((g - w).abs() < 0.02, "{g} {w}");
        }
    }

    /// A page with a stretch of it changed is read or refused; what is read is sound.
    #[test]
    fn a_bent_page_is_read_or_refused(at in 0.0..1.0f64, text in "[0-9a-zA-Z.,<>/='# -]{0,14}") {
        let body = "<g transform='rotate(20)'><path d='M0 0h40v30a9 9 0 0 1 -9 9q-20 4 -31 0z'/>
            <circle r='3' cx='9' cy='9'/></g>";
        let mut bytes = page("width='80mm' viewBox='0 0 80 60'", body);
        let i = (at * bytes.len() as f64) as usize;
        let end = (i + text.len()).min(bytes.len());
        bytes.splice(i..end, text.bytes());
        if let Ok(c) = svg::read(&bytes, &Options::default()) {
            prop_assert!(c.loops.iter().all(|l| l.contour.is_finite() && l.contour.area() > 0.0));
        }
    }

    /// Any loose strokes: never a panic, every contour sound, and nothing both taken and told open.
    #[test]
    fn any_strokes_are_sorted(points in prop::collection::vec((0i32..6, 0i32..6), 2..40),
        closes in 0.0..3.0f64) {
        let ends: Vec<([f64; 2], [f64; 2])> = points.windows(2).step_by(2)
            .map(|p| ([p[0].0, p[0].1].map(f64::from), [p[1].0, p[1].1].map(f64::from))).collect();
        let c = drawing(&lines(&ends), &Options { closes, ..asked(Assume::Mm) }).unwrap();
        prop_assert!(c.loops.iter().all(|l| l.contour.area() > 0.0));
        // What is taken and what is told open together are no longer than what was drawn, and than
        // the gaps closed.
        let drawn: f64 = ends.iter().map(|(a, b)| DVec2::from(*a).distance(DVec2::from(*b))).sum();
        let taken: f64 = c.loops.iter().map(|l| l.contour.perimeter()).sum();
        let open: f64 = c.open.iter().flat_map(|o| &o.segments).map(|s| s.length()).sum();
        let gaps = 2.0 * closes * ends.len() as f64;
        prop_assert!(taken + open <= drawn + gaps + 1e-6, "{taken} {open} {drawn}");
    }

    /// Rings in rings, shuffled: outline, cut, part in what falls out, in turn, wherever they stand;
    /// the metal is
    /// what the radii say.
    #[test]
    fn rings_in_rings_are_outlines_and_cuts_in_turn(deep in prop::collection::vec(1usize..7, 1..5),
        order in any::<u64>()) {
        let mut rings: Vec<(f64, f64)> = Vec::new();
        for (k, n) in deep.iter().enumerate() {
            rings.extend((0..*n).map(|i| (150.0 * k as f64, 60.0 - 9.0 * i as f64)));
        }
        let mut seed = order;
        for k in (1..rings.len()).rev() {
            seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            rings.swap(k, (seed >> 33) as usize % (k + 1));
        }
        let circle = |(x, r): &(f64, f64)| format!("0\nCIRCLE\n8\n0\n10\n{x}\n20\n7\n40\n{r}\n");
        let all: String = rings.iter().map(circle).collect();
        let c = read(format!("0\nSECTION\n2\nENTITIES\n{all}0\nENDSEC\n0\nEOF\n").as_bytes());
        let parts: usize = deep.iter().map(|n| n.div_ceil(2)).sum();
        prop_assert_eq!(c.parts.len(), parts);
        let metal: f64 = c.parts.iter().map(|p| {
            c.contour(p.outline).area() - p.cuts.iter().map(|k| c.contour(*k).area()).sum::<f64>()
        }).sum();
        let of = |n: usize| (0..n).map(|i| {
            let r = 60.0 - 9.0 * i as f64;
            PI * r * r * if i % 2 == 0 { 1.0 } else { -1.0 }
        }).sum::<f64>();
        let wanted: f64 = deep.iter().map(|n| of(*n)).sum();
        prop_assert!((metal - wanted).abs() < 1e-6 * wanted, "{metal} {wanted}");
        prop_assert!(c.parts.iter().all(|p| p.cuts.len() <= 1));
    }

    /// Holes that keep their form and all shift a little, in any order: each is found again, none is new.
    #[test]
    fn a_plate_of_holes_that_shifts_is_found_again(holes in prop::collection::vec((0usize..12, 0usize..8,
        1usize..4), 1..30), by in (-2.0..2.0f64, -2.0..2.0f64), order in any::<u64>()) {
        let places: std::collections::BTreeMap<(usize, usize), usize> =
            holes.iter().map(|(x, y, r)| ((*x, *y), *r)).collect();
        let old: Vec<Contour> = places.iter()
            .map(|((x, y), r)| (DVec2::new(*x as f64, *y as f64) * 25.0, *r as f64 * 2.0))
            .map(|(at, r)| Contour::circle(at, r, 0)).collect();
        let by = DVec2::from(by);
        prop_assume!(by.length() > 0.05);
        let n = old.len();
        let step = 1 + order as usize % n;
        let divides = |d: usize, of: usize| of.is_multiple_of(d);
        let prime_to = |s: &usize| (2..=n).all(|d| !divides(d, n) || !divides(d, *s));
        let step = (step..).find(prime_to).unwrap();
        let new: Vec<Contour> = (0..n).map(|k| moved(&old[k * step % n], by)).collect();
        let got = changes(&old, &new);
        prop_assert_eq!(got.len(), n);
        for (k, c) in got.iter().enumerate() {
            let found = matches!(c, Change::Moved { old, new, by: b }
                if *old == k && new * step % n == k && b.distance(by) < 1e-9);
            prop_assert!(found, "{c:?}");
        }
    }
}

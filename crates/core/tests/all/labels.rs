//! Labels keep clear: of one another, of what must not be covered, of the rim of their view.

use glam::{DVec2, dvec2};
use proptest::prelude::*;
use steelk_core::drawing::labels::{Label, Obstacles, Placed, place};
use steelk_core::geom::Bounds;

fn label(x: f64, y: f64, w: f64) -> Label {
    Label { anchor: dvec2(x, y), size: dvec2(w, 3.0), clear: 1.0, weight: 1.0, before: None }
}

fn view(w: f64, h: f64) -> Bounds {
    Bounds { min: DVec2::ZERO, max: dvec2(w, h) }
}

fn body(l: &Label, p: &Placed) -> Bounds {
    Bounds { min: p.at - l.size / 2.0, max: p.at + l.size / 2.0 }
}

/// How deep two boxes lie in one another; written out here once more, corner by corner.
fn deep(a: &Bounds, b: &Bounds) -> f64 {
    let x = a.max.x.min(b.max.x) - a.min.x.max(b.min.x);
    let y = a.max.y.min(b.max.y) - a.min.y.max(b.min.y);
    if x > 0.0 && y > 0.0 { x.min(y) } else { 0.0 }
}

fn clear_of_all(labels: &[Label], placed: &[Option<Placed>], fixed: &[Bounds], v: Bounds) {
    let bodies: Vec<Bounds> =
        labels.iter().zip(placed).filter_map(|(l, p)| p.as_ref().map(|p| body(l, p))).collect();
    for (i, a) in bodies.iter().enumerate() {
        assert!(a.min.cmpge(v.min).all() && a.max.cmple(v.max).all(), "outside: {a:?}");
        for b in bodies[i + 1..].iter().chain(fixed) {
            assert!(deep(a, b) == 0.0, "{a:?} over {b:?}");
        }
    }
}

#[test]
fn alone_it_stands_above_what_it_speaks_of_without_a_leader() {
    let l = label(50.0, 50.0, 20.0);
    for (down, sign) in [(false, 1.0), (true, -1.0)] {
        let p = place(&[l], &Obstacles::default(), view(100.0, 100.0), down)[0].unwrap();
        assert!(p.leader.is_none() && (p.at.x - 50.0).abs() < 1e-9);
        assert!((p.at.y - 50.0) * sign > l.clear + l.size.y / 2.0);
    }
}

#[test]
fn it_leaves_a_line_alone_where_there_is_room_beside() {
    let line = [dvec2(0.0, 53.5), dvec2(100.0, 53.5)];
    let keep = Obstacles { lines: vec![line], ..Obstacles::default() };
    let l = label(50.0, 50.0, 20.0);
    let p = place(&[l], &keep, view(100.0, 100.0), false)[0].unwrap();
    let b = body(&l, &p);
    assert!(b.max.y < 53.5 || b.min.y > 53.5, "{b:?}");
}

/// Eleven holes in a row so near that no two labels have room side by side: all stand, some with leaders that
/// end at the rim of their hole.
#[test]
fn a_crowd_is_led_apart() {
    let labels: Vec<Label> = (0..11).map(|k| label(60.0 + 6.0 * k as f64, 80.0, 24.0)).collect();
    let v = view(200.0, 160.0);
    let placed = place(&labels, &Obstacles::default(), v, false);
    clear_of_all(&labels, &placed, &[], v);
    assert!(placed.iter().all(Option::is_some));
    let mut led = 0;
    for (l, p) in labels.iter().zip(placed.iter().flatten()) {
        if let Some([from, to]) = p.leader {
            led += 1;
            assert!((to.distance(l.anchor) - l.clear).abs() < 1e-9);
            assert!(from.distance(l.anchor) > to.distance(l.anchor));
        }
    }
    assert!(led > 2, "{led}");
}

#[test]
fn what_has_no_room_is_told_and_the_heavier_one_stays() {
    let mut light = label(10.0, 5.0, 18.0);
    let mut heavy = light;
    (light.weight, heavy.weight) = (1.0, 2.0);
    let v = view(20.0, 11.0);
    let placed = place(&[light, heavy], &Obstacles::default(), v, false);
    assert!(placed[0].is_none() && placed[1].is_some(), "{placed:?}");
    // No number at all is no place.
    let bad = Label { anchor: dvec2(f64::NAN, 1.0), ..light };
    assert_eq!(place(&[bad], &Obstacles::default(), v, false), [None]);
}

/// Zoomed a little, a label keeps its place as long as that is free.
#[test]
fn where_it_stood_it_stays() {
    let labels: Vec<Label> = (0..40).map(|k| label(5.0 * k as f64, 60.0, 22.0)).collect();
    let v = view(220.0, 140.0);
    let first = place(&labels, &Obstacles::default(), v, false);
    let held = |l: &Label, p: &Option<Placed>| Label { before: p.map(|p| p.at - l.anchor), ..*l };
    let again: Vec<Label> = labels.iter().zip(&first).map(|(l, p)| held(l, p)).collect();
    let second = place(&again, &Obstacles::default(), v, false);
    let stayed = first.iter().zip(&second).filter(|(a, b)| a.map(|p| p.at) == b.map(|p| p.at)).count();
    assert!(stayed >= 38, "{stayed} of 40");
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 96, ..ProptestConfig::default() })]

    #[test]
    fn no_two_overlap_and_none_leaves_its_view(
        at in prop::collection::vec(
            (0.0..300.0f64, 0.0..200.0f64, 4.0..60.0f64, 0.0..8.0f64, 0.0..3.0f64), 1..160,
        ),
        fixed in prop::collection::vec((0.0..280.0f64, 0.0..180.0f64, 1.0..30.0f64), 0..30),
        lines in prop::collection::vec((0.0..300.0f64, 0.0..200.0f64, 0.0..300.0f64, 0.0..200.0f64), 0..40),
        down in any::<bool>(),
    ) {
        let labels: Vec<Label> = at
            .iter()
            .map(|&(x, y, w, clear, weight)| Label { clear, weight, ..label(x, y, w) })
            .collect();
        let boxes: Vec<Bounds> =
            fixed
                .iter()
                .map(|&(x, y, s)| Bounds { min: dvec2(x, y), max: dvec2(x + s, y + s / 3.0) })
                .collect();
        let lines = lines.iter().map(|&(a, b, c, d)| [dvec2(a, b), dvec2(c, d)]).collect();
        let keep = Obstacles { boxes: boxes.clone(), lines };
        let v = view(300.0, 200.0);
        let placed = place(&labels, &keep, v, down);
        clear_of_all(&labels, &placed, &boxes, v);
        prop_assert_eq!(&placed, &place(&labels, &keep, v, down));
        // Where there is plenty of room, all of them stand.
        let covered: f64 = labels.iter().map(|l| l.size.x * l.size.y).sum();
        if covered < 1500.0 && boxes.is_empty() {
            prop_assert!(placed.iter().all(Option::is_some));
        }
    }
}

/// Every flat of the sample job on paper, at four scales: no two texts lie on one another, none leaves its
/// sheet. The breadth of a text is taken here from Barlow's own advance widths.
#[test]
fn no_two_texts_of_a_flat_overlap() {
    use steelk_core::drawing::flat_drawing;
    let job: steelk_core::job::Job =
        serde_json::from_str(include_str!("../../../../demo/orchard-line.steelk.json")).unwrap();
    let result = steelk_core::evaluate::evaluate(&job);
    let mut texts = 0;
    for p in result.sheets().filter(|p| p.made) {
        let size = p.flat.outer.bounds().size().max_element();
        for wide in [90.0, 150.0, 260.0, 420.0] {
            let page = flat_drawing(p, wide / size, true);
            texts += apart(&page);
        }
    }
    assert!(texts > 400, "{texts}");
}

/// A hundred pieces at random, flat at four scales and drawn on two papers: no two texts lie on one another,
/// none leaves its sheet.
#[test]
fn no_two_texts_of_a_random_piece_overlap() {
    use steelk_core::drawing::dimensioned::Projection;
    use steelk_core::drawing::{Paper, flat_drawing};
    let mut seed = 0x2545_f491_4f6c_dd1d_u64;
    let mut below = |n: u64| {
        seed ^= seed << 13;
        seed ^= seed >> 7;
        seed ^= seed << 17;
        seed % n
    };
    let mut made = 0;
    for k in 0..100 {
        let (w, h) = (60 + below(900), 40 + below(500));
        let mut texts = vec![format!("plate {w} x {h}")];
        for (edge, way) in [("north", "up"), ("east", "down"), ("west", "up")] {
            if below(3) == 0 {
                texts.push(format!(
                    "fold {edge} {way} {} {}",
                    [90, 60, 135][below(3) as usize],
                    15 + below(40)
                ));
            }
        }
        for _ in 0..below(9) {
            let shape = match below(5) {
                0 => format!("slot {} x {}", 16 + below(30), 6 + below(8)),
                1 => format!("rectangle {} x {}, corners R2", 12 + below(30), 9 + below(20)),
                2 => "tapped hole M6".into(),
                _ => format!("hole ⌀{}", 4 + below(18)),
            };
            let on = if texts.iter().any(|t| t.starts_with("fold")) { " on flat" } else { "" };
            texts.push(format!("{shape}{on}, {} from west, {} from south", 8 + below(w), 8 + below(h)));
        }
        let texts: Vec<&str> = texts.iter().map(String::as_str).collect();
        let job = crate::common::job(Default::default());
        let mut job = job;
        job.pieces = vec![crate::common::piece("3", "3", &texts)];
        let result = steelk_core::evaluate::evaluate(&job);
        let p = &result.pieces[0];
        if !p.made {
            continue;
        }
        made += 1;
        let size = p.flat.outer.bounds().size().max_element();
        for wide in [90.0, 150.0, 260.0, 420.0] {
            apart(&flat_drawing(p, wide / size, true));
        }
        for paper in [Paper::A4, Paper::Tabloid] {
            for page in super::drawn_sizes::drawn(p, paper, [Projection::First, Projection::Third][k % 2]) {
                apart(&page);
            }
        }
    }
    assert!(made > 90, "{made}");
}

/// No text of a sheet lies on another, and none leaves it; how many there are.
pub fn apart(page: &steelk_core::drawing::Drawing) -> usize {
    use steelk_core::drawing::Item;
    let said = |i: &Item| match i {
        Item::Text { text, .. } => Some((text.clone(), text_box(i))),
        _ => None,
    };
    let boxes: Vec<(String, Bounds)> = page.items.iter().filter_map(said).collect();
    let sheet = view(page.size.x, page.size.y);
    for (i, (a, on)) in boxes.iter().enumerate() {
        let out = on.min.cmplt(sheet.min - 0.5).any() || on.max.cmpgt(sheet.max + 0.5).any();
        assert!(!out, "{}: {a} leaves the sheet {on:?}", page.title);
        for (b, other) in &boxes[i + 1..] {
            assert!(deep(on, other) < 0.3, "{} {}: {a} on {b}", page.title, page.size);
        }
    }
    boxes.len()
}

/// As it is set in Barlow: digits and capitals 0.6 of the height wide, small letters 0.5, signs less.
fn text_box(item: &steelk_core::drawing::Item) -> Bounds {
    use steelk_core::drawing::{Anchor, Item};
    let Item::Text { at, text, size, anchor, turn, .. } = item else { unreachable!() };
    let breadth = |c: char| match c {
        '0'..='9' | 'A'..='Z' | '⌀' | '×' | '°' => 0.56,
        ' ' | '.' | ',' | ':' | 'i' | 'l' | 'j' | 't' | 'r' | 'f' => 0.26,
        _ => 0.5,
    };
    let wide: f64 = text.chars().map(breadth).sum::<f64>() * size;
    let from = match anchor {
        Anchor::Start => 0.0,
        Anchor::Middle => -wide / 2.0,
        Anchor::End => -wide,
    };
    let (sin, cos) = turn.to_radians().sin_cos();
    let corners = [[from, -0.7], [from + wide, -0.7], [from + wide, 0.2], [from, 0.2]];
    let turned = corners.map(|[x, y]| {
        let y = y * size;
        *at + dvec2(x * cos - y * sin, x * sin + y * cos)
    });
    Bounds::of(turned)
}

//! What pieces and frames begin with: every beginning makes what its sizes say, in millimetres and in inches,
//! and each letter of its picture stands where that size is. Sizes are looked for in the formed body, not in
//! the lines.

use std::collections::BTreeMap;

use crate::common::frame::clean;
use approx::assert_abs_diff_eq;
use glam::DVec3;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::{evaluate_frame, evaluate_piece};
use steelk_core::frame::{FrameResult, whole};
use steelk_core::grammar::TextLine;
use steelk_core::job::text::{new_doc, new_job};
use steelk_core::job::{Frame, FrameLine, Line, Piece};
use steelk_core::quantity::LengthUnit;
use steelk_core::result::{PieceResult, Severity};
use steelk_core::starts::{Beginning, Begun, beginning, beginnings, picture};

fn told(sizes: &[(char, &str)]) -> BTreeMap<char, String> {
    sizes.iter().map(|(c, t)| (*c, t.to_string())).collect()
}

fn made(b: &Begun, unit: LengthUnit) -> PieceResult {
    let line = |l: &TextLine| Line::new(&l.id, serde_json::from_value(l.say.clone()).unwrap());
    let piece = Piece { lines: b.lines.iter().map(line).collect(), ..new_doc("piece", unit) };
    evaluate_piece(&new_job(unit), &piece)
}

fn framed(b: &Begun, unit: LengthUnit) -> FrameResult {
    let line = |l: &TextLine| FrameLine::new(&l.id, serde_json::from_value(l.say.clone()).unwrap());
    let frame = Frame { lines: b.lines.iter().map(line).collect(), ..new_doc("frame", unit) };
    evaluate_frame(&new_job(unit), &frame)
}

/// East, north and up over the formed body.
fn stands(p: &PieceResult, [north, east]: [f64; 2]) -> DVec3 {
    let turn =
        glam::DMat3::from_rotation_y(north.to_radians()) * glam::DMat3::from_rotation_x(east.to_radians());
    let solid = p.mesh().solid(&p.zones, 1.0, p.thickness);
    let at = || solid.points.iter().map(|q| turn * *q);
    at().reduce(DVec3::max).unwrap() - at().reduce(DVec3::min).unwrap()
}

/// As far as the nodes reach, not the bars; without any, the plates.
fn reaches(r: &FrameResult) -> DVec3 {
    let mut at: Vec<DVec3> = r.nodes.iter().map(|n| n.at).collect();
    if at.is_empty() {
        at = whole(r, true).points;
    }
    let low = at.iter().copied().reduce(DVec3::min).unwrap();
    at.into_iter().reduce(DVec3::max).unwrap() - low
}

fn value(text: &str, unit: LengthUnit) -> f64 {
    use steelk_core::quantity::{FigureTable, PieceNames, Scope};
    let table = FigureTable::new(&[], unit);
    Scope { unit, names: &PieceNames { table: &table, t: None, r: None } }.length(text).unwrap()
}

fn letters_stand_where_the_sizes_are(of: &Beginning, unit: LengthUnit, body: DVec3, within: f64) {
    let usual = of.usual(unit);
    for s in of.sizes.iter().filter(|s| s.from != s.to) {
        let share = DVec3::from(s.to) - DVec3::from(s.from);
        // Shares of the box are those of the millimetres.
        if unit == LengthUnit::In && (share.length() - 1.0).abs() > 1e-9 {
            continue;
        }
        let shown = (share * body).length();
        let size = value(&usual[&s.letter], unit);
        assert!((shown - size).abs() < within * size, "{} {}: {shown} for {size}", of.tag, s.letter);
    }
}

#[rstest]
#[case(LengthUnit::Mm)]
#[case(LengthUnit::In)]
fn every_beginning_makes_what_its_picture_says(#[case] unit: LengthUnit) {
    let exact = 1e-5;
    for of in beginnings() {
        let parts = of.lines(of.usual(unit), unit).unwrap_or_else(|f| panic!("{}: {f}", of.tag));
        if of.is_frame() {
            let r = framed(&parts[0], unit);
            clean(&r);
            // Plates told inside reach further by their thickness.
            let within = if r.nodes.is_empty() { 2e-2 } else { exact };
            letters_stand_where_the_sizes_are(of, unit, reaches(&r), within);
        } else {
            for part in &parts {
                let p = made(part, unit);
                assert!(p.made && p.faults.is_empty(), "{}: {:?}", of.tag, p.faults);
                let bad: Vec<_> = p.findings.iter().filter(|f| f.severity != Severity::Note).collect();
                assert!(bad.is_empty(), "{} in {unit:?}: {bad:?}", of.tag);
            }
            // Facets stand round what is round; a cone with square edges reaches a little further, and so do
            // corners where creases meet.
            letters_stand_where_the_sizes_are(
                of,
                unit,
                stands(&made(&parts[0], unit), of.stood),
                exact.max(if of.tag == "transition" { 1.2e-2 } else { 8e-3 }),
            );
        }
    }
}

/// Letters are told apart, and so are keys and tags on one bench.
#[test]
fn letters_keys_and_tags_are_given_once() {
    for bench in [false, true] {
        let of: Vec<&Beginning> = beginnings().filter(|b| b.is_frame() == bench).collect();
        let mut keys: Vec<char> = of.iter().map(|b| b.key).collect();
        keys.sort_unstable();
        keys.dedup();
        assert_eq!(keys.len(), of.len());
    }
    let mut tags: Vec<&str> = beginnings().map(|b| b.tag).collect();
    let n = tags.len();
    tags.sort_unstable();
    tags.dedup();
    assert_eq!(tags.len(), n);
    for b in beginnings() {
        let letters: Vec<char> = b.sizes.iter().map(|s| s.letter).collect();
        assert_eq!(letters, ('A'..).take(letters.len()).collect::<Vec<_>>(), "{}", b.tag);
    }
}

/// A lid goes over its box: what is clear between them is the play, on both sides of both directions.
#[test]
fn a_lid_goes_over_its_box_with_the_play_that_was_told() {
    let sizes = told(&[('A', "11in"), ('B', "150 + 20"), ('C', "80"), ('D', "25"), ('E', "0.75")]);
    let parts = beginning("box").unwrap().lines(sizes, LengthUnit::Mm).unwrap();
    let [body, lid] = [&parts[0], &parts[1]].map(|b| stands(&made(b, LengthUnit::Mm), [0.0; 2]));
    assert_abs_diff_eq!(body.x, 279.4, epsilon = 1e-6);
    assert_abs_diff_eq!(body.y, 170.0, epsilon = 1e-6);
    // Two walls of 3 mm and twice the play.
    for (inner, outer) in [(body.x, lid.x), (body.y, lid.y)] {
        assert_abs_diff_eq!(outer - inner, 2.0 * 3.0 + 2.0 * 0.75, epsilon = 1e-6);
    }
    assert_abs_diff_eq!(lid.z, 25.0 + 3.0, epsilon = 1e-6);
}

#[rstest]
#[case("plate", &[('A', "200"), ('B', "")], 'B', "missing")]
#[case("plate", &[('A', "200 x"), ('B', "100")], 'A', "")]
#[case("plate", &[('A', "200\nhole 5"), ('B', "100")], 'A', "")]
#[case("truss", &[('A', "3000"), ('B', "2000"), ('C', "400"), ('D', "1")], 'D', "")]
#[case("truss", &[('A', "3000"), ('B', "2000"), ('C', "400"), ('D', "4000")], 'D', "")]
#[case("handrail", &[('A', "3000"), ('B', "1100"), ('C', "bays")], 'C', "")]
fn a_size_that_is_none_is_told_at_its_letter(
    #[case] tag: &str,
    #[case] sizes: &[(char, &str)],
    #[case] letter: char,
    #[case] says: &str,
) {
    let fault = beginning(tag).unwrap().lines(told(sizes), LengthUnit::Mm).map(|_| ()).unwrap_err();
    assert_eq!(fault.letter, letter, "{fault}");
    assert!(fault.message.contains(says) && !fault.mend.is_empty(), "{fault}");
}

/// A job's figure may be a size: it stands in the line by its name.
#[test]
fn a_size_may_be_a_figures_name() {
    let sizes = told(&[('A', "box_w"), ('B', "2*box_w"), ('C', "t")]);
    let parts = beginning("tray").unwrap().lines(sizes, LengthUnit::Mm).unwrap();
    assert_eq!(parts[0].lines[0].say["width"], "box_w");
    assert_eq!(parts[0].lines[0].say["depth"], "2*box_w");
}

/// Nothing of a picture lies outside of its page, and every letter is in it.
#[test]
fn pictures_hold_every_letter() {
    for of in beginnings() {
        let page = picture(of);
        let texts: Vec<(String, glam::DVec2)> = page
            .items
            .iter()
            .filter_map(|i| match i {
                steelk_core::drawing::Item::Text { text, at, .. } => Some((text.clone(), *at)),
                _ => None,
            })
            .collect();
        let letters: String = texts.iter().map(|t| t.0.as_str()).collect();
        assert_eq!(letters, of.sizes.iter().map(|s| s.letter).collect::<String>(), "{}", of.tag);
        for (text, at) in &texts {
            let inside = at.cmpge(glam::DVec2::splat(1.5)).all() && at.cmple(page.size - 0.5).all();
            assert!(inside, "{} {text} at {at}", of.tag);
            for (other, beside) in texts.iter().filter(|t| t.0 != *text) {
                assert!(at.distance(*beside) > 2.5, "{}: {text} on {other}", of.tag);
            }
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 48, ..ProptestConfig::default() })]

    /// Any truss: both chords as long as told, in the middle of one another, the bays equal, and as many bars
    /// as a zigzag has.
    #[test]
    fn a_truss_is_as_it_was_told(
        a in 800.0..9000.0f64, part in 0.3..1.4f64, c in 200.0..1500.0f64, n in 2usize..14,
    ) {
        let b = a * part;
        let sizes = told(&[
            ('A', &format!("{a:.3}")), ('B', &format!("{b:.3}")),
            ('C', &format!("{c:.3}")), ('D', &n.to_string()),
        ]);
        let parts = beginning("truss").unwrap().lines(sizes, LengthUnit::Mm).unwrap();
        let r = framed(&parts[0], LengthUnit::Mm);
        prop_assert!(r.faults.is_empty(), "{:?}", r.faults);
        let at = |name: &str| r.nodes.iter().find(|x| x.name == name).unwrap().at;
        prop_assert!((at("B").x - a).abs() < 2e-3);
        prop_assert!((at("D").x - at("C").x - b).abs() < 2e-3);
        prop_assert!((at("C").x + at("D").x - a).abs() < 4e-3);
        prop_assert!((at("D").z - c).abs() < 1e-3);
        prop_assert_eq!(r.members.len(), 2 + 2 * n);
        for k in 1..n {
            let point = at(&format!("P{k}"));
            prop_assert!((point.x - a * k as f64 / n as f64).abs() < 1e-2);
        }
        prop_assert!(whole(&r, false).volume() > 0.0);
    }
}

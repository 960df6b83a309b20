//! A dimensioned drawing read as a hand at the bench reads it: the flat is built again from what is printed,
//! and from nothing else, and has to come out as it is, within the last printed place.

use std::collections::BTreeMap;
use std::f64::consts::PI;

use glam::{DVec2, dvec2};
use steelk_core::drawing::dimensioned::{Head, Piece, Projection, piece_drawing};
use steelk_core::drawing::{Anchor, Drawing, Item, Paper, Pen};
use steelk_core::evaluate::evaluate;
use steelk_core::geom::{Contour, Segment};
use steelk_core::job::{Job, Line};
use steelk_core::quantity::LengthUnit;
use steelk_core::result::PieceResult;
use steelk_core::sheet::{BoreKind, has_patterns, plain_mesh, unseen};

use crate::common::{din, job, lines, piece};

pub fn sample() -> Job {
    serde_json::from_str(include_str!("../../../../demo/orchard-line.steelk.json")).unwrap()
}

pub fn drawn(p: &PieceResult, paper: Paper, projection: Projection) -> Vec<Drawing> {
    let plain = has_patterns(p).then(|| plain_mesh(p).0);
    let mesh = plain.as_ref().unwrap_or_else(|| p.mesh());
    let head = Head { projection, job: "J".into(), ..Head::default() };
    piece_drawing(&Piece { result: p, mesh, unseen: vec![unseen(p)] }, paper, &head)
}

struct Word {
    page: usize,
    at: DVec2,
    text: String,
    end: bool,
    turn: f64,
    bold: bool,
}

fn words(pages: &[Drawing]) -> Vec<Word> {
    let of = |(page, d): (usize, &Drawing)| -> Vec<Word> {
        let word = |i: &Item| match i {
            Item::Text { at, text, anchor, turn, bold, .. } => Some(Word {
                page,
                at: *at,
                text: text.clone(),
                end: *anchor == Anchor::End,
                turn: *turn,
                bold: *bold,
            }),
            _ => None,
        };
        d.items.iter().filter_map(word).collect()
    };
    pages.iter().enumerate().flat_map(of).collect()
}

/// `2.5`, `1/4`, `2 1/4`.
fn number(text: &str) -> Option<f64> {
    text.split_whitespace().try_fold(0.0, |sum, part| {
        let v = match part.split_once('/') {
            Some((n, d)) => n.parse::<f64>().ok()? / d.parse::<f64>().ok()?,
            None => part.parse().ok()?,
        };
        Some(sum + v)
    })
}

/// The rows of a table by the words of its headings, over all sheets that it goes on over.
fn table(words: &[Word], title: &str) -> Vec<BTreeMap<String, String>> {
    let mut out = Vec::new();
    let is = |w: &&Word| w.bold && (w.text == title || w.text == format!("{title}, continued"));
    for head in words.iter().filter(is) {
        let here = |w: &&Word| {
            w.page == head.page && w.at.x >= head.at.x && w.at.x < head.at.x + 88.5 && w.at.y > head.at.y
        };
        let mut own: Vec<&Word> = words.iter().filter(here).collect();
        own.sort_by(|a, b| a.at.y.total_cmp(&b.at.y).then(a.at.x.total_cmp(&b.at.x)));
        let mut rows = own.chunk_by(|a, b| a.at.y == b.at.y);
        let Some(heads) = rows.next() else { continue };
        let mut last = heads[0].at.y;
        for row in rows {
            // The next table, or the title block.
            if row[0].bold || row[0].at.y > last + 5.0 {
                break;
            }
            last = row[0].at.y;
            let cell = |w: &&Word| {
                let column = heads.iter().find(|h| (h.at.x - w.at.x).abs() < 1e-9 && h.end == w.end);
                // A column without a heading is that of the tags.
                (column.map_or(String::new(), |h| h.text.clone()), w.text.clone())
            };
            out.push(row.iter().map(cell).collect());
        }
    }
    out
}

/// A point of an outline as it is told.
#[derive(Debug)]
struct Node {
    at: DVec2,
    round: Option<f64>,
    /// Radius, out of the metal, more than a half.
    arc: Option<(f64, bool, bool)>,
}

/// The area of an outline from its points: by the trapezes under it, less round corners, and the caps of
/// arcs.
fn area(nodes: &[Node]) -> f64 {
    let n = nodes.len();
    let at = |k: usize| nodes[k % n].at;
    let mut sum = (0..n).map(|k| at(k).perp_dot(at(k + 1))).sum::<f64>() / 2.0;
    let hand = sum.signum();
    for (k, node) in nodes.iter().enumerate() {
        if let Some(r) = node.round {
            let (a, b) = (at(k) - at(k + n - 1), at(k + 1) - at(k));
            let turn = a.angle_to(b);
            sum -= turn.signum() * r * r * ((turn.abs() / 2.0).tan() - turn.abs() / 2.0);
        }
        if let Some((r, out, large)) = node.arc {
            let half = (at(k).distance(at(k + 1)) / 2.0 / r).min(1.0).asin();
            let sweep = if large { 2.0 * PI - 2.0 * half } else { 2.0 * half };
            let cap = r * r / 2.0 * (sweep - sweep.sin());
            sum += hand * if out { cap } else { -cap };
        }
    }
    sum.abs()
}

fn nodes_of(rows: &[BTreeMap<String, String>], mm: f64) -> Vec<Node> {
    let node = |r: &BTreeMap<String, String>| {
        let v = |k: &str| number(&r[k]).unwrap() * mm;
        let radius = |t: &str| number(t.strip_prefix('R').unwrap()).unwrap() * mm;
        let arc = r["to the next"]
            .split_once(' ')
            .map(|(r, how)| (radius(r), how.starts_with("outwards"), how.ends_with("the long way")));
        Node { at: dvec2(v("x"), v("y")), round: r.get("rounded").map(|t| radius(t)), arc }
    };
    rows.iter().map(node).collect()
}

/// Whether an arc only rounds a corner between two straight sides.
fn rounds(before: &Segment, s: &Segment, after: &Segment) -> bool {
    let smooth = |a: DVec2, b: DVec2| a.perp_dot(b).abs() < 1e-4 && a.dot(b) > 0.0;
    let Some(arc) = s.arc() else { return false };
    before.is_line()
        && after.is_line()
        && arc.sweep.abs() < 2.6
        && smooth(before.tangent(true), s.tangent(false))
        && smooth(s.tangent(true), after.tangent(false))
}

/// The outline as the eye follows it on the paper: corners, and which of them are rounded, how far.
fn followed(c: &Contour) -> Vec<Node> {
    let s: Vec<Segment> = c.segments().collect();
    let n = s.len();
    let (prev, next) = (|k: usize| &s[(k + n - 1) % n], |k: usize| &s[(k + 1) % n]);
    let mut out = Vec::new();
    for (k, here) in s.iter().enumerate() {
        if n > 3 && rounds(prev(k), here, next(k)) {
            let (p, q) = (prev(k).tangent(true), next(k).tangent(false));
            let at = here.a + p * ((here.b - here.a).perp_dot(q) / p.perp_dot(q));
            out.push(Node { at, round: Some(here.arc().unwrap().radius), arc: None });
        } else if !(n > 3 && rounds(prev((k + n - 1) % n), prev(k), here)) {
            let arc = here.arc().map(|a| (a.radius, a.sweep > 0.0, a.sweep.abs() > PI + 1e-6));
            out.push(Node { at: here.a, round: None, arc });
        }
    }
    out
}

/// Corners by the figures at the ends of their lines, radii by the figure nearest to what is drawn.
fn by_ordinates(page: &Drawing, own: &[Word], scale: f64, mm: f64) -> Vec<Node> {
    let lines: Vec<[DVec2; 2]> = page
        .items
        .iter()
        .filter_map(|i| if let Item::Line { a, b, pen: Pen::Hair } = i { Some([*a, *b]) } else { None })
        .collect();
    let outline = page.items.iter().find_map(|i| match i {
        Item::Shape { loops, pen: Pen::Cut, filled: true } => Some(&loops[0]),
        _ => None,
    });
    // From a figure back along its line to what it tells.
    let told = |w: &Word| -> Option<(bool, f64, f64)> {
        let value = number(w.text.split(" bend").next()?)? * mm;
        let mut at = lines.iter().find(|l| l[1].distance(w.at) < 2.2)?[1];
        while let Some(l) = lines.iter().find(|l| l[1].distance(at) < 1e-9) {
            at = l[0];
        }
        let upright = w.turn != 0.0;
        Some((upright, if upright { at.x } else { at.y }, value))
    };
    let figures: Vec<(bool, f64, f64)> = own.iter().filter_map(told).collect();
    let find = |upright: bool, v: f64| {
        let near = figures.iter().filter(|f| f.0 == upright && (f.1 - v).abs() < 1e-3);
        near.map(|f| f.2).next().unwrap_or_else(|| panic!("nothing tells {v} of {}", page.title))
    };
    let radii: Vec<f64> = own
        .iter()
        .filter_map(|w| number(w.text.rsplit("× ").next()?.strip_prefix('R')?))
        .map(|r| r * mm)
        .collect();
    let radius = |r: f64| {
        let near = |a: &&f64, b: &&f64| (**a - r / scale).abs().total_cmp(&(**b - r / scale).abs());
        *radii.iter().min_by(near).unwrap_or_else(|| panic!("no radius tells {r} of {}", page.title))
    };
    followed(outline.unwrap())
        .into_iter()
        .map(|q| Node {
            at: dvec2(find(true, q.at.x), find(false, q.at.y)),
            round: q.round.map(radius),
            // Paper is seen from above with y downwards: what turns with the clock there is turned over.
            arc: q.arc.map(|(r, out, large)| (radius(r), !out, large)),
        })
        .collect()
}

/// Beside its caption in the title block.
fn cell(own: &[Word], caption: &str) -> String {
    let head = own.iter().find(|w| w.text == caption).unwrap();
    let below = |w: &&Word| w.at.x == head.at.x && w.at.y > head.at.y && w.at.y < head.at.y + 8.0;
    own.iter().find(below).map_or(String::new(), |w| w.text.clone())
}

/// What the drawing says of a piece, against the piece.
fn is_told_whole(p: &PieceResult) {
    let pages = drawn(p, Paper::A3, Projection::First);
    let all = words(&pages);
    let mm = if p.display.length == LengthUnit::In { 25.4 } else { 1.0 };
    // Half of the last printed place.
    let off = if mm > 1.0 { 0.0005 * 25.4 } else { 0.005 } + 1e-6;
    let flat = all.iter().find(|w| w.text == "flat").unwrap().page;
    let own: Vec<Word> = words(&pages[flat..=flat]);
    let (a, b) =
        cell(&own, "scale").split_once(':').map(|(a, b)| (number(a).unwrap(), number(b).unwrap())).unwrap();
    let outer = &p.flat.outer;
    let datum = outer.bounds().min;
    let rows = table(&all, "Outline");
    let spread = off * (outer.perimeter() + 10.0);
    if let Some((centre, r)) = outer.as_circle() {
        let told = all.iter().find_map(|w| w.text.strip_prefix('⌀')?.split_once(" about "));
        let (d, at) = told.unwrap_or_else(|| panic!("{}: no diameter", p.mark));
        let at: Vec<f64> = at.split(", ").map(|v| number(v).unwrap() * mm).collect();
        assert!((number(d).unwrap() * mm - 2.0 * r).abs() < off, "{}: {d}", p.mark);
        assert!(dvec2(at[0], at[1]).distance(centre - datum) < off * 1.5, "{}: {at:?}", p.mark);
        return holes_are_told(p, &all, mm, off);
    }
    let nodes =
        if rows.is_empty() { by_ordinates(&pages[flat], &own, a / b, mm) } else { nodes_of(&rows, mm) };
    let built = area(&nodes);
    assert!((built - outer.area()).abs() < spread, "{}: {built} for {}", p.mark, outer.area());
    let expected = followed(outer);
    assert_eq!(nodes.len(), expected.len(), "{}", p.mark);
    for e in &expected {
        let near = nodes.iter().map(|q| q.at.distance(e.at - datum)).fold(f64::INFINITY, f64::min);
        assert!(near < off * 1.5, "{}: no point at {}, {near} off", p.mark, e.at - datum);
    }
    // Bends: as many, each with its line.
    let bends = table(&all, "Bends");
    assert_eq!(bends.len(), p.flat.bends.len(), "{}", p.mark);
    for (m, row) in p.flat.bends.iter().zip(&bends) {
        assert_eq!(
            (row["angle"].as_str(), row["inside R"].as_str()),
            (m.angle_text.as_str(), m.radius_text.as_str())
        );
        let n = &row[""];
        let line = own.iter().find(|w| w.text.ends_with(&format!(" bend {n}")));
        let k = usize::from((m.from[0] - m.to[0]).abs() > 1e-6);
        match line {
            Some(w) => {
                let v = number(w.text.split(' ').next().unwrap()).unwrap() * mm;
                assert!((v - (m.from[k] - datum[k])).abs() < off, "{} bend {n}: {v}", p.mark);
            }
            None => assert!(row.contains_key("line from, to"), "{} bend {n} is nowhere", p.mark),
        }
    }
    holes_are_told(p, &all, mm, off);
}

fn holes_are_told(p: &PieceResult, all: &[Word], mm: f64, off: f64) {
    let datum = p.flat.outer.bounds().min;
    let kinds = table(all, "Holes and shapes");
    let said: BTreeMap<&str, &str> = kinds.iter().map(|k| (k[""].as_str(), k["what"].as_str())).collect();
    let mut places: Vec<(String, DVec2)> = Vec::new();
    for row in table(all, "Places, from the datum") {
        let v = |k: &str| number(&row[k]).unwrap() * mm;
        let tag = row[""].trim_end_matches(|c: char| c.is_ascii_digit()).to_string();
        let steps = |way: &str| {
            let on = row.get("and on").map_or("", String::as_str);
            let part = on.split(", ").find_map(|t| t.strip_suffix(way)?.split_once(" at "));
            part.map_or((1, 0.0), |(n, by)| (n.parse().unwrap(), number(by.trim()).unwrap() * mm))
        };
        let ((n, dx), (m, dy)) = (steps("east"), steps("north"));
        for j in 0..m {
            places.extend(
                (0..n).map(|i| (tag.clone(), dvec2(v("x") + dx * f64::from(i), v("y") + dy * f64::from(j)))),
            );
        }
    }
    for k in &kinds {
        let n = places.iter().filter(|q| q.0 == k[""]).count();
        assert_eq!(n.to_string(), k["count"], "{} {}", p.mark, k[""]);
    }
    let one = |tag: &str| -> f64 {
        let what = said[tag];
        // Fractions stand with a blank: such sizes are read whole.
        let sides = |from: &str| -> Vec<f64> {
            let body = what.strip_prefix(from).unwrap().split(" at ").next().unwrap();
            body.split(" × ")
                .filter_map(|t| number(t.split(" R").next().unwrap().trim()))
                .map(|v| v * mm)
                .collect()
        };
        if what.starts_with("slot ") {
            let s = sides("slot ");
            (s[0] - s[1]) * s[1] + PI * s[1] * s[1] / 4.0
        } else if what.starts_with("rectangle ") {
            let s = sides("rectangle ");
            let r = what
                .split(" R")
                .nth(1)
                .map_or(0.0, |t| number(t.split(" at ").next().unwrap()).unwrap() * mm);
            s[0] * s[1] - (4.0 - PI) * r * r
        } else if let Some(d) = what.strip_prefix('⌀') {
            let d = number(d).unwrap() * mm;
            PI * d * d / 4.0
        } else if what.ends_with("by points") {
            let title = ["from its place", "from its middle"].map(|t| format!("Outline of {tag}, {t}"));
            let rows: Vec<_> = title.iter().flat_map(|t| table(all, t)).collect();
            area(&nodes_of(&rows, mm))
        } else {
            panic!("{tag} is told as '{what}', which makes no outline")
        }
    };
    let drilled = |name: &str| p.flat.bores.iter().any(|b| b.name == name);
    let cut = |tag: &str| {
        let what = said[tag];
        what.starts_with(['⌀', 's', 'r']) && !what.contains(": ") || what.ends_with("by points")
    };
    let (mut found, mut round) = (0.0, 0.0);
    for h in p.flat.holes.iter() {
        let middle = h.contour.as_circle().map_or_else(|| h.contour.bounds().centre(), |c| c.0) - datum;
        let near =
            places.iter().min_by(|a, b| a.1.distance(middle).total_cmp(&b.1.distance(middle))).unwrap();
        // Steps are printed finer than places; over a row they add up to a place's rounding once more.
        assert!(near.1.distance(middle) < off * 2.0, "{} at {middle}: {near:?}", p.mark);
        if !drilled(p.hole_name(h)) && cut(&near.0) {
            found += one(&near.0);
            round += h.contour.area();
        }
    }
    let edge: f64 = p.flat.holes.iter().map(|h| h.contour.perimeter() + 4.0).sum();
    assert!((found - round).abs() <= off * edge, "{}: holes of {found} for {round}", p.mark);
    for b in &p.flat.bores {
        let at = DVec2::from(b.at) - datum;
        let near = places.iter().filter(|q| q.1.distance(at) < off * 1.5);
        let words: Vec<&str> = near.map(|q| said[q.0.as_str()]).collect();
        let kind = match b.bore.kind {
            BoreKind::Tapped { .. } => "tapped",
            BoreKind::Countersunk => "countersunk",
            _ => "",
        };
        assert!(words.iter().any(|w| w.starts_with(kind)), "{} {}: {words:?}", p.mark, b.name);
    }
    for m in &p.flat.pressed {
        let at = m.footprint.bounds().centre() - datum;
        assert!(places.iter().any(|q| q.1.distance(at) < off * 1.5), "{} {}", p.mark, m.name);
    }
}

#[test]
fn every_flat_of_the_sample_is_built_again_from_its_drawing() {
    let result = evaluate(&sample());
    let mut n = 0;
    for p in result.sheets().filter(|p| p.made) {
        is_told_whole(p);
        n += 1;
    }
    assert!(n > 12, "{n}");
}

/// What the sample has not: a tapered edge, arcs that go out and in, a slanting bend line, inches in
/// fractions,
/// a slot across, a rounded window, a mirrored outline.
#[test]
fn odd_flats_are_built_again_too() {
    for texts in [
        &[
            "outline (0, 0) (120, 0) (100, 70) curved 0.3 (20, 70) (0, 40) curved -0.2",
            "round 3 at side-1/side-2",
        ][..],
        &[
            "plate 200 x 120",
            "slot 60 x 12, 80 from west, 60 from south, turned 30°",
            "rectangle 40 x 22, corners R4, 150 from west",
        ],
        &["plate 150 x 90", "chamfer 12", "bend 60 from west up 30°, turned 20°"],
        &["disc 180", "hole ⌀40"],
        &["plate 90 x 60", "rectangle 20 x 14, 0 clear of east, 0 clear of north", "round 2"],
    ] {
        let p = din("2", "3", texts);
        assert!(p.made);
        is_told_whole(&p);
    }
    let mut inches = job(Default::default());
    inches.display.length = LengthUnit::In;
    inches.display.inches = steelk_core::quantity::InchStyle::SixtyFourths;
    let mut said = piece("1/8", "1/8", &[]);
    said.lines =
        lines(&["plate 7 1/2 x 4 3/16", "slot 2 1/8 x 3/8, 2 1/3 from west", "round 5/16"]) as Vec<Line>;
    said.display = Some(inches.display);
    inches.pieces = vec![said];
    let result = evaluate(&inches);
    assert!(result.pieces[0].made && result.pieces[0].faults.is_empty(), "{:?}", result.pieces[0].faults);
    is_told_whole(&result.pieces[0]);
}

/// The sizes of the formed piece that a recipe tells are there, each once, in both angles of projection.
#[test]
fn outside_sizes_are_told_once() {
    let result = evaluate(&sample());
    for projection in [Projection::First, Projection::Third] {
        for (mark, told) in [
            ("P-101", &["90", "260", "80", "60"][..]),
            ("P-102", &["2× 25", "40", "60", "480"]),
            ("P-107", &["400", "180", "2× 20", "436", "1200"]),
            ("P-109", &["150", "2× 14", "2× 14", "300", "400"]),
        ] {
            let p = result.pieces.iter().find(|p| p.mark == mark).unwrap();
            let first = words(&drawn(p, Paper::A3, projection)[..1]);
            let is_size = |t: &str| !t.is_empty() && number(t.rsplit("× ").next().unwrap()).is_some();
            let title = first.iter().find(|w| w.text == "name").unwrap().at.y;
            let mut sizes: Vec<&str> = first
                .iter()
                .filter(|w| w.at.y < title - 3.0 && is_size(&w.text))
                .map(|w| w.text.as_str())
                .collect();
            sizes.sort_unstable();
            let overall = sizes.len() - told.len();
            for t in told {
                let n = told.iter().filter(|o| *o == t).count();
                assert_eq!(sizes.iter().filter(|s| *s == t).count(), n, "{mark} {t}: {sizes:?}");
            }
            // Beside what is told, the whole, where it is nothing that was told.
            assert!(overall <= 2, "{mark}: {sizes:?}");
        }
    }
}

/// No text lies on another and none leaves its sheet, on any paper.
#[test]
fn no_two_texts_of_a_drawing_overlap() {
    let result = evaluate(&sample());
    for p in result.sheets().filter(|p| p.made) {
        for paper in Paper::ALL {
            for page in drawn(p, paper, Projection::Third) {
                super::labels::apart(&page);
            }
        }
    }
}

/// Every different bar of a frame is told whole: its mark, its length from tip to tip, both cuts, where its
/// holes are; every plate by its flat. No text lies on another, whichever the paper.
#[test]
fn a_frame_is_told_whole_and_no_two_texts_overlap() {
    use steelk_core::drawing::dimensioned::frame_drawing;
    use steelk_core::evaluate::cut_list;
    let job = sample();
    let result = evaluate(&job);
    let list = cut_list(&job, &result);
    let (r, list) = (&result.frames[0], &list.frames[0]);
    for paper in Paper::ALL {
        for projection in [Projection::First, Projection::Third] {
            let pages = frame_drawing(r, list, paper, &Head { projection, ..Head::default() });
            let texts: usize = pages.iter().map(super::labels::apart).sum();
            assert!(texts > 300, "{texts}");
            let all = words(&pages);
            let says = |t: &str| all.iter().any(|w| w.text.contains(t));
            for b in &list.bars {
                let head = all.iter().find(|w| w.text.starts_with(&format!("{} · ", b.mark)));
                let head = head.unwrap_or_else(|| panic!("{} has no detail", b.mark));
                let own = all
                    .iter()
                    .filter(|w| w.page == head.page && w.at.y > head.at.y && w.at.y < head.at.y + 70.0);
                let own: Vec<&str> = own.map(|w| w.text.as_str()).collect();
                let length = format!("{} mm", b.length);
                assert!(own.contains(&length.as_str()), "{} {length}: {own:?}", b.mark);
                for c in &b.cuts {
                    assert!(own.contains(&c.text.as_str()), "{} {}: {own:?}", b.mark, c.text.as_str());
                }
                for told in &b.drilled {
                    for at in told.split(" at ").nth(1).unwrap_or_default().split(" · ") {
                        let value = at.split(' ').next().unwrap();
                        assert!(own.contains(&value), "{} hole at {value}: {own:?}", b.mark);
                    }
                }
            }
            for p in &list.plates {
                assert!(says(&format!("{} · ", p.mark)), "{} has no detail", p.mark);
            }
            assert_eq!(table(&all, "Welds").len(), list.welds.len());
        }
    }
}

/// A bar too long for its sheet is broken, and its figures stay those of the whole.
#[test]
fn a_long_bar_is_broken_where_nothing_happens() {
    use steelk_core::drawing::dimensioned::frame_drawing;
    use steelk_core::evaluate::cut_list;
    let text = "job \"x\", in mm, by DIN 6935\n\nframe F-1 \"Rail\", of SHS 40x40x3, material s235\n\
        \x20 node A 0, 0, 0\n  node B 11800, 0, 0\n  rail A B\n\
        \x20 hole ⌀9 on rail-1, 150 from its start\n";
    let (job, faults) = steelk_core::job::text::read_job(text);
    assert!(faults.is_empty(), "{faults:?}");
    let result = evaluate(&job);
    assert!(result.frames[0].faults.is_empty(), "{:?}", result.frames[0].faults);
    let list = cut_list(&job, &result);
    let pages = frame_drawing(&result.frames[0], &list.frames[0], Paper::A4, &Head::default());
    let all = words(&pages);
    assert!(
        all.iter().any(|w| w.text.ends_with(", broken")),
        "{:?}",
        all.iter().map(|w| &w.text).collect::<Vec<_>>()
    );
    assert!(all.iter().any(|w| w.text == "11800.0 mm"));
    let inside = |p: &DVec2, d: &Drawing| p.cmpge(DVec2::ZERO).all() && p.cmple(d.size).all();
    for d in &pages {
        for i in &d.items {
            if let Item::Path { points, .. } = i {
                assert!(points.iter().all(|p| inside(p, d)), "{}: a line leaves the sheet", d.title);
            }
        }
        super::labels::apart(d);
    }
}

/// A frame in inches in a job of millimetres: its drawing is in inches throughout, lists and all.
#[test]
fn a_frame_with_a_unit_of_its_own_is_drawn_in_it() {
    use steelk_core::drawing::dimensioned::{bar_drawing, frame_drawing};
    use steelk_core::evaluate::list_of_frame;
    let text = "job \"x\", in mm, by DIN 6935\n\n\
    frame F-1 \"Rail\", of SHS 40x40x3, material s235, in inches to 1/64\n\
        \x20 node A 0, 0, 0\n  node B 50, 0, 0\n  rail A B\n  hole ⌀3/8 on rail-1, 10 from its start\n";
    let (job, faults) = steelk_core::job::text::read_job(text);
    assert!(faults.is_empty(), "{faults:?}");
    let result = evaluate(&job);
    let r = &result.frames[0];
    let list = list_of_frame(&job, &result, &r.id).unwrap();
    let head = Head { note: "galvanise after welding".into(), ..Head::default() };
    let pages = frame_drawing(r, &list, Paper::A3, &head);
    let all = words(&pages);
    let one = words(&[bar_drawing(r, &list.bars[0], Projection::Third)]);
    for (all, what) in [(&all, "drawing"), (&one, "bar")] {
        assert!(
            all.iter().any(|w| w.text == "50 in"),
            "{what}: {:?}",
            all.iter().map(|w| &w.text).collect::<Vec<_>>()
        );
        assert!(all.iter().any(|w| w.text == "10"), "{what}: where the hole is");
        assert!(all.iter().all(|w| !w.text.contains("1270")), "{what} has millimetres");
    }
    assert!(all.iter().any(|w| w.text == "galvanise after welding"), "the job's note");
    assert_eq!(cell(&words(&pages[..1]), "sizes in"), "inches");
}

/// Of plates alone: seen from three sides, and no word about members that are not there.
#[test]
fn a_hopper_is_drawn_from_above_too_and_speaks_of_its_plates() {
    use steelk_core::drawing::dimensioned::frame_drawing;
    use steelk_core::evaluate::list_of_frame;
    let text = "job \"x\", in mm, by DIN 6935\n\nframe F-1 \"Hopper\", of SHS 40x40x3, material s235\n\
        \x20 hopper 200 x 200 to 800 x 600, 500 high, 4 thick\n";
    let (job, faults) = steelk_core::job::text::read_job(text);
    assert!(faults.is_empty(), "{faults:?}");
    let result = evaluate(&job);
    let list = list_of_frame(&job, &result, &result.frames[0].id).unwrap();
    let pages = frame_drawing(&result.frames[0], &list, Paper::A3, &Head::default());
    let all = words(&pages);
    for told in ["from the front", "from above", "from the left", "502.1", "538.5"] {
        let told_once = all.iter().any(|w| w.text.contains(told));
        assert!(told_once, "{told}: {:?}", all.iter().map(|w| &w.text).collect::<Vec<_>>());
    }
    assert!(all.iter().all(|w| !w.text.contains("members meet")));
    for d in &pages {
        super::labels::apart(d);
    }
}

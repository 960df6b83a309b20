//! STEP files as they are written: every face closes at its edges, every reference is there, what cannot be
//! told is refused. Volumes and surfaces are measured by another kernel (`outside/test_step.py`).

use std::collections::{HashMap, HashSet};

use glam::{DVec2, DVec3};
use proptest::prelude::*;
use steelk_core::evaluate::{evaluate, list_of_frame};
use steelk_core::job::Job;
use steelk_core::job::text::read_job;
use steelk_core::result::PieceResult;
use steelk_formats::step::{self, NoBody};

fn pieces(text: &str) -> Vec<PieceResult> {
    let (job, faults) = read_job(text);
    assert!(faults.is_empty(), "{faults:?}");
    let made = evaluate(&job).pieces;
    made.iter().for_each(|p| assert!(p.made && p.faults.is_empty(), "{}: {:?}", p.mark, p.faults));
    made.into_iter().map(|p| (*p).clone()).collect()
}

fn told(p: &PieceResult) -> String {
    String::from_utf8(step::piece(p, 1_700_000_000).unwrap()).unwrap()
}

/// Entities by number.
fn entities(text: &str) -> HashMap<u32, &str> {
    let data = text.split("DATA;\n").nth(1).unwrap().split("ENDSEC;").next().unwrap();
    let entity = |l: &'_ str| {
        let (n, e) = l.strip_prefix('#').unwrap().split_once('=').unwrap();
        (n.parse().unwrap(), l.len() - e.len())
    };
    data.lines().map(|l| (entity(l).0, &l[entity(l).1..l.len() - 1])).collect()
}

/// The numbers that an entity names.
fn names(entity: &str) -> Vec<u32> {
    entity
        .split('#')
        .skip(1)
        .map(|t| t.split(|c: char| !c.is_ascii_digit()).next().unwrap().parse().unwrap())
        .collect()
}

/// The numbers that an entity tells, those that name others left out.
fn numbers(entity: &str) -> Vec<f64> {
    let inner = entity.split_once('(').unwrap().1;
    inner.split([',', '(', ')']).filter_map(|t| t.parse().ok()).collect()
}

fn vector(all: &HashMap<u32, &str>, n: u32) -> DVec3 {
    DVec3::from_slice(&numbers(all[&n])[..3])
}

/// How far a place lies off a surface; none of one that is told by poles.
fn off(all: &HashMap<u32, &str>, surface: u32, p: DVec3) -> Option<f64> {
    let entity = all[&surface];
    let sizes = numbers(entity);
    let placed = names(all.get(names(entity).first()?)?);
    let [at, axis] = [*placed.first()?, *placed.get(1)?].map(|n| vector(all, n));
    let along = (p - at).dot(axis);
    let round = (p - at - axis * along).length();
    Some(match entity.split_once('(')?.0 {
        "PLANE" => along.abs(),
        "CYLINDRICAL_SURFACE" => (round - sizes[0]).abs(),
        "CONICAL_SURFACE" => ((round - sizes[0]) * sizes[1].cos() - along * sizes[1].sin()).abs(),
        "TOROIDAL_SURFACE" => (DVec2::new(round - sizes[0], along).length() - sizes[1]).abs(),
        _ => return None,
    })
}

/// Every corner of a face, and every place that its curves run through, lies on what the face lies on; both
/// ends of a circle are as far from its middle as it is wide. Gives how many places were looked at.
fn lies_on_its_faces(text: &str, what: &str) -> usize {
    let all = entities(text);
    let mut seen = 0;
    for face in all.values().filter(|e| e.starts_with("ADVANCED_FACE(")) {
        let of = names(face);
        let (surface, bounds) = of.split_last().unwrap();
        let edges = bounds.iter().flat_map(|b| names(all[&names(all[b])[0]]));
        for edge in edges.map(|e| names(all[&names(all[&e])[0]])) {
            let [a, b] = [edge[0], edge[1]].map(|v| vector(&all, names(all[&v])[0]));
            let curve = all[&edge[2]];
            let mut places = vec![a, b];
            if curve.starts_with("B_SPLINE") {
                places.extend(names(curve).iter().step_by(3).map(|n| vector(&all, *n)));
            }
            if curve.starts_with("CIRCLE(") {
                let middle = vector(&all, names(all[&names(curve)[0]])[0]);
                let radius = *numbers(curve).last().unwrap();
                for p in [a, b] {
                    assert!((p.distance(middle) - radius).abs() < 1e-6, "{what}: {curve} and {p}");
                }
            }
            for p in places {
                let Some(off) = off(&all, *surface, p) else { continue };
                assert!(off < 1e-6, "{what}: {p} lies {off} off {}", all[surface]);
                seen += 1;
            }
        }
    }
    seen
}

fn is_sound(text: &str, what: &str) {
    are_sound(text, what, 1);
}

/// So many solids.
fn are_sound(text: &str, what: &str, solids: usize) {
    let all = entities(text);
    assert!(lies_on_its_faces(text, what) > 20, "{what}");
    for (n, e) in &all {
        for r in names(e) {
            assert!(r < *n && all.contains_key(&r), "{what}: #{n} names #{r}, which is not told before it");
        }
    }
    // Each edge is run along once each way.
    let count = |kind: &str| all.values().filter(|e| e.starts_with(kind)).count();
    assert_eq!(
        (count("MANIFOLD_SOLID_BREP("), count("CLOSED_SHELL("), count("COLOUR_RGB(")),
        (solids, solids, solids),
        "{what}"
    );
    let mut runs: HashMap<u32, Vec<bool>> = HashMap::new();
    for e in all.values().filter(|e| e.starts_with("ORIENTED_EDGE(")) {
        runs.entry(names(e)[0]).or_default().push(e.ends_with(".T.)"));
    }
    assert_eq!(runs.len(), count("EDGE_CURVE("));
    assert!(runs.values().all(|r| r.len() == 2 && r[0] != r[1]), "{what}: an edge is open");
    // Corners − edges + faces − rings within faces = 2 bodies − 2 holes through it: even, and no more
    // than two.
    let faces = count("ADVANCED_FACE(") as i64;
    let rings = count("FACE_BOUND(") as i64;
    let corners: HashSet<u32> = all
        .iter()
        .filter(|e| e.1.starts_with("EDGE_CURVE("))
        .flat_map(|e| names(e.1)[..2].to_vec())
        .collect();
    let euler = corners.len() as i64 - runs.len() as i64 + faces - rings;
    assert!(euler <= 2 * solids as i64 && euler % 2 == 0, "{what}: {euler}");
}

#[test]
fn every_piece_of_the_sample_closes() {
    let job: Job = serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap();
    let result = evaluate(&job);
    let mut n = 0;
    for p in result.sheets().filter(|p| p.made) {
        match step::piece(p, 0) {
            Ok(bytes) => {
                is_sound(&String::from_utf8(bytes).unwrap(), &p.mark);
                n += 1;
            }
            Err(NoBody::Creased(mark)) => assert!(["P-117", "P-118"].contains(&mark.as_str()), "{mark}"),
            Err(e) => assert_eq!(e, NoBody::TooMany("P-111".into(), 2988)),
        }
    }
    assert!(n > 14, "{n}");
}

/// Holes over bends, at a slant, at the very border of one; countersinks and blind holes from both sides; a
/// second bend; a rolled arc; inches.
#[test]
fn odd_pieces_close_too() {
    let text = "job \"x\", in mm, by DIN 6935\n\n\
        piece P-1 \"over\", 3 thick s235, R4\n  plate 160 x 90\n  fold east up 70 40, then up 110 30\n\
        \x20 hole ⌀22 on flat, 155 from west, 45 from south\n\
        \x20 slot 50 x 9 on flat, 150 from west, 20 from south, turned 33°\n\
        \x20 rectangle 30 x 12, corners R3 on flat, 160 from west, 72 from south\n  round 6\n\n\
        piece P-2 \"drilled\", 12 thick s235\n  plate 90 x 60\n\
        \x20 countersunk hole for M8, 20 from west, 20 from south\n\
        \x20 blind hole ⌀8, 6 deep, from the back, 45 from west, 30 from south\n\
        \x20 tapped hole M6, 70 from west, 40 from south\n\
        \x20 counterbored hole for M6, from the back, 70 from west, 15 from south\n\n\
        piece P-3 \"bow\", 2 thick s235, R3\n\
        \x20 strip 40 wide: 30, up 90°, 50, roll: arc down 200° R60, 30\n  full round at west\n\n\
        piece P-4 \"inch\", 1/8in thick s235, R1/8, in inches to 1/64\n  tray 6 x 4 x 1\n\n\
        piece P-5 \"round\", 4 thick s235\n  disc 120\n  hole ⌀30\n";
    for p in pieces(text) {
        let text = told(&p);
        is_sound(&text, &p.mark);
        let has = |kind: &str| text.contains(kind);
        match p.mark.as_str() {
            "P-1" => assert!(has("B_SPLINE_SURFACE") && has("CYLINDRICAL_SURFACE")),
            "P-4" => assert!(has("CYLINDRICAL_SURFACE")),
            "P-2" => assert!(has("CONICAL_SURFACE") && !has("B_SPLINE")),
            _ => assert!(has("CYLINDRICAL_SURFACE") && !has("B_SPLINE_SURFACE"), "{}", p.mark),
        }
        assert_eq!(text, told(&p), "the same bytes");
        assert!(text.contains("2023-11-14T22:13:20") && text.contains(&format!("PRODUCT('{} ", p.mark)));
    }
}

#[test]
fn what_cannot_be_told_is_refused_with_what_else_there_is() {
    let text = "job \"x\", in mm, by DIN 6935\n\n\
        piece P-1 \"cone\", 2 thick s235\n  cone ⌀300 to ⌀0, 200 high\n";
    let refused = step::piece(&pieces(text)[0], 0).unwrap_err();
    assert!(
        refused.to_string().contains("to its very tip") && refused.to_string().contains("STL"),
        "{refused}"
    );
    let name = "job \"x\", in mm, by DIN 6935\n\npiece P-1 \"Träger 'A' 5\", 2 thick s235\n  plate 20 x 10\n";
    let text = told(&pieces(name)[0]);
    assert!(text.contains("P-1 Tr\\X2\\00E4\\X0\\ger ''A'' 5"), "{}", &text[..400]);
}

/// A mitred round tube, a coped one, a leaning brace, a mirrored copy, a slot through both walls, one drilled
/// through its round, one notched in a slanting end, all exactly; one notched beside its bend in facets that
/// say so.
#[test]
fn frames_and_their_members_close() {
    let text = "job \"x\", in mm, by DIN 6935\n\n\
        frame F-1 \"stand\", of SHS 60x60x3, material s235, corners mitred\n  node A 0, 0, 0\n\
        \x20 node B 900 east from A\n\
        \x20 node C 700 up from B\n  node D 400 north from C\n  rail A B\n  post B C\n  arm C D\n\
        \x20 node P between B and C, 300 along\n  node Q between A and B, 400 along\n\
        \x20 brace P Q, SHS 40x40x3\n  hole \u{2300}9 on rail-1, 120 from its start, left face, slot 30 \
        long, both walls\n\
        \x20 hole \u{2300}11 on post-1, 300 from its start, left face, 3 x 60\n\
        \x20 mirror rail-1 and post-1 across north at 900\n\n\
        frame F-2 \"rail\", of CHS 48.3x3.2, material s235, corners mitred\n  node A 0, 0, 0\n\
        \x20 node B 800 up from A\n\
        \x20 node C 1000 east, 300 up from B\n  node D 500 east from A\n\
        \x20 node E between A and B, 400 along\n  post A B\n  rail B C\n  strut D E\n\
        \x20 node H 0, 500, 0\n  node I 600 east from H\n  node J 500 north from I\n  pipe H I J bent 200\n\
        \x20 notch rail-1 start 6 x 20, both walls\n  notch pipe-1 end 6 x 20, top face\n\
        \x20 hole \u{2300}11 on post-1, 300 from its start, left face\n";
    let (job, faults) = read_job(text);
    assert!(faults.is_empty(), "{faults:?}");
    let result = evaluate(&job);
    for r in &result.frames {
        assert!(r.made && r.faults.is_empty(), "{:?}", r.faults);
        let bodies = r.members.len() + r.plates.iter().map(|p| p.places.len()).sum::<usize>();
        let told =
            String::from_utf8(step::frame(r, &list_of_frame(&job, &result, &r.id).unwrap(), 0).unwrap())
                .unwrap();
        are_sound(&told, &r.mark, bodies);
        for m in &r.members {
            let told = String::from_utf8(step::member(r, m, "M-1", 0).unwrap()).unwrap();
            is_sound(&told, &m.name);
            let faceted = m.name.starts_with("pipe");
            assert_eq!(told.contains("(in facets)"), faceted, "{} {}", r.mark, m.name);
            let coped = m.name.starts_with("strut");
            let drilled = r.mark == "F-2" && m.name.starts_with("post");
            assert_eq!(told.contains("B_SPLINE_CURVE"), coped || drilled, "{} {}", r.mark, m.name);
            assert!(faceted || told.contains("CYLINDRICAL_SURFACE"), "{}", m.name);
        }
    }
    let tubes = String::from_utf8(
        step::frame(&result.frames[1], &list_of_frame(&job, &result, &result.frames[1].id).unwrap(), 0)
            .unwrap(),
    )
    .unwrap();
    assert!(tubes.contains("MANIFOLD_SOLID_BREP('F-2/1 post-1'"), "mark and name");
    assert!(tubes.contains("ELLIPSE("), "a mitre of a round is an ellipse");
}

/// The only member that a frame of these lines makes beside a post of CHS 60.3x4, as a file.
fn bar(lines: &str, name: &str) -> String {
    let text = format!(
        "job \"x\", in mm, by DIN 6935\n\n\
        frame F-1 \"a\", of CHS 60.3x4, material s235, corners mitred\n{lines}"
    );
    let (job, faults) = read_job(&text);
    assert!(faults.is_empty(), "{faults:?} in {text}");
    let r = &evaluate(&job).frames[0];
    assert!(r.made && r.faults.is_empty(), "{:?} in {text}", r.faults);
    let m = r.members.iter().find(|m| m.name == name).unwrap_or_else(|| panic!("no {name} in {text}"));
    String::from_utf8(step::member(r, m, "M-1", 0).unwrap()).unwrap()
}

fn section() -> impl Strategy<Value = &'static str> {
    prop::sample::select(vec!["CHS 33.7x2.6", "CHS 60.3x4", "SHS 40x40x3", "L 30x30x3", "FLAT 40x8"])
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// Whatever way a bar bends and however it is turned, its faces close and lie where they are told.
    #[test]
    fn bent_bars_close(
        a in 450.0..900.0f64, b in 450.0..900.0f64, up in -200.0..200.0f64,
        radius in 90.0..180.0f64, turned in -180.0..180.0f64, of in section(),
    ) {
        let lines = format!(
            "  node A 0, 0, 0\n  node B {a:.2} east from A\n  node C {b:.2} north, {up:.2} up from B\n\
            \x20 pipe A B C bent \
             {radius:.2}, {of}, turned {turned:.1}\n"
        );
        let told = bar(&lines, "pipe-1");
        is_sound(&told, &lines);
        prop_assert!(!told.contains("(in facets)"), "{lines}");
        prop_assert!(told.contains("TOROIDAL_SURFACE") || !of.starts_with("CHS"), "{lines}");
    }

    /// Wherever a tube comes upon a round post, from either end, drilled or not.
    #[test]
    fn coped_and_drilled_tubes_close(
        x in 350.0..700.0f64, y in -350.0..350.0f64, z in 150.0..750.0f64, reversed: bool,
        hole in 5.0..22.0f64, at in 160.0..200.0f64,
        face in prop::sample::select(vec!["top", "left", "right", "bottom"]),
        of in prop::sample::select(vec!["CHS 33.7x2.6", "CHS 48.3x3.2", "CHS 60.3x4"]),
    ) {
        let ends = if reversed { "E D" } else { "D E" };
        let lines = format!(
            "  node A 0, 0, 0\n  node B 900 up from A\n  node E between A and B, 450 along\n\
            \x20 node D {x:.2}, {y:.2}, {z:.2}\n  \
             post A B\n  arm {ends}, {of}\n  hole \u{2300}{hole:.1} on arm-1, {at:.1} from its start, \
             {face} face, both walls\n"
        );
        let told = bar(&lines, "arm-1");
        is_sound(&told, &lines);
        prop_assert!(!told.contains("(in facets)"), "{lines}");
    }

    /// Wherever a bar comes upon a post of any section, however that is turned: ends of several planes.
    #[test]
    fn bars_coped_to_sections_close(
        x in 350.0..700.0f64, y in -350.0..350.0f64, z in 150.0..750.0f64, reversed: bool,
        turned in -180.0..180.0f64,
        post in prop::sample::select(vec!["FLAT 50x30", "SHS 40x40x3", "L 60x60x6", "IPE 120", "UPN 100"]),
        of in section(),
    ) {
        let ends = if reversed { "E D" } else { "D E" };
        let lines = format!(
            "  node A 0, 0, 0\n  node B 900 up from A\n  node E between A and B, 450 along\n\
            \x20 node D {x:.2}, {y:.2}, {z:.2}\n  \
             post A B, {post}, turned {turned:.1}\n  arm {ends}, {of}\n"
        );
        let told = bar(&lines, "arm-1");
        is_sound(&told, &lines);
        // An open section may be come upon behind its own edges: a step in the end.
        prop_assert!(!told.contains("(in facets)") || !post.starts_with(['F', 'S']), "{lines}");
    }

    /// Notches of any depth in an end that one plane cuts, or two, or none; the file says where it
    /// cannot tell
    /// them.
    #[test]
    fn notched_bars_close(
        of in prop::sample::select(vec!["CHS 60.3x4", "SHS 60x60x4", "L 60x60x6", "FLAT 60x20"]),
        turn in prop::option::of(20.0..150.0f64), cut in prop::option::of((-40.0..40.0f64, -40.0..40.0f64)),
        wide in 4.0..20.0f64, long in 5.0..150.0f64, other in 5.0..150.0f64,
        face in prop::sample::select(vec!["top", "left", "right", "bottom"]),
    ) {
        let mut lines = String::from("  node A 0, 0, 0\n  node B 900 east from A\n");
        if let Some(turn) = turn {
            let (sin, cos) = f64::to_radians(turn).sin_cos();
            lines += &format!("  node C {:.3} east, {:.3} up from B\n", 600.0 * cos, 600.0 * sin);
        }
        lines += &format!("  rail A B, {of}\n");
        if turn.is_some() {
            lines += &format!("  post B C, {of}\n");
        }
        if let Some((a, b)) = cut {
            let nodes = [(0.0, 0.0), (a, 100.0), (b, -100.0)].map(|(x, y)| (x - 80.0, y));
            for (name, (x, y)) in ["P", "Q", "R"].into_iter().zip(nodes) {
                lines += &format!("  node {name} {:.3}, {y:.3}, 0\n", 900.0 + x);
            }
            lines += "  node S 820, 0, 100\n  trim rail-1 end by nodes P Q S\n\
            \x20 trim rail-1 end by nodes P R S\n";
        }
        lines += &format!("  notch rail-1 end {wide:.1} x {long:.1}, both walls\n");
        lines += &format!("  notch rail-1 end {:.1} x {other:.1}, {face} face\n", wide / 2.0);
        let told = bar(&lines, "rail-1");
        is_sound(&told, &lines);
        // Deep enough to be clear of the slant.
        let clear = long > 80.0 && other > 80.0 && turn.is_none() && cut.is_none();
        prop_assert!(!clear || !told.contains("(in facets)"), "{lines}");
    }

    /// Mouths and blind holes in flat walls, one after the other along a bar, in its mirrored copy too.
    #[test]
    fn drilled_bars_close(
        deep in 2.0..40.0f64, across in 4.0..12.0f64, head in 13.0..20.0f64, off in -8.0..8.0f64,
        face in prop::sample::select(vec!["top", "left"]), mirrored: bool,
        end in prop::sample::select(vec!["flat bottom", "118\u{b0} point", "90\u{b0} point"]),
        of in prop::sample::select(vec!["SHS 60x60x4", "FLAT 60x40", "L 80x80x8"]),
    ) {
        let mut lines = format!(
            "  node A 0, 0, 0\n  node B 900 east from A\n  rail A B, {of}\n  \
             blind hole \u{2300}{across:.2}, {deep:.2} deep, {end} on rail-1, 100 from its start, {face} \
             face\n  \
             countersunk hole \u{2300}{across:.2}, head \u{2300}{head:.2} at 90\u{b0} on rail-1, 200 from \
             its start, \
             {off:.2} off the middle, {face} face\n\
             \x20 counterbored hole \u{2300}{across:.2}, bore \u{2300}{head:.2}, \
             2 deep on rail-1, 300 from its start, {face} face\n"
        );
        if mirrored {
            lines += "  mirror rail-1 across north at 300\n";
        }
        let text = format!(
            "job \"x\", in mm, by DIN 6935\n\n\
            frame F-1 \"a\", of CHS 60.3x4, material s235, corners mitred\n{lines}"
        );
        let (job, faults) = read_job(&text);
        prop_assert!(faults.is_empty(), "{faults:?} in {text}");
        let r = &evaluate(&job).frames[0];
        // What is too deep for its wall is refused; the rest is drilled.
        for m in &r.members {
            let told = String::from_utf8(step::member(r, m, "M-1", 0).unwrap()).unwrap();
            is_sound(&told, &lines);
            prop_assert!(!told.contains("(in facets)"), "{lines} {:?}", r.faults);
        }
    }
}

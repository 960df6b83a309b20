//! The list of a frame: saw settings and what rounding leaves, rows, welds, holes, sections, totals; against
//! hand sums.

use approx::assert_relative_eq;
use rstest::rstest;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::*;
use steelk_core::job::*;
use steelk_core::quantity::{Display, InchStyle, LengthUnit};
use steelk_core::shop::Shop;

use crate::common::frame::*;

fn listed(
    section: &str,
    joint: JointHow,
    lines: &[&str],
    change: impl Fn(&mut Job, &mut Frame),
) -> (FrameResult, FrameList) {
    let (mut job, mut f) = told(section, joint, lines);
    change(&mut job, &mut f);
    let r = evaluate_frame(&job, &f);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let shop = Shop::of(&job.settings());
    assert!(shop.faults.is_empty());
    let list = frame_list(&f, &r, &job.display, &shop.frame.saw);
    (r, list)
}

fn inches(style: InchStyle) -> Display {
    Display { length: LengthUnit::In, inches: style }
}

/// A mitre off by a step: a corner of 97.3° is cut 41.35° off square, set to the saw's step; the far side of
/// a 60 mm tube then stands open by 60·|tan 41.35° − tan set|.
#[rstest]
#[case("", 41.5)]
#[case("1", 41.0)]
#[case("0.2", 41.4)]
fn angles_are_set_in_steps(#[case] step: &str, #[case] set: f64) {
    let lines =
        ["node A 500 0 0", "node B 0 0 0", "node C 500*cos(97.3) 500*sin(97.3) 0", "rail A B", "rail B C"];
    let (_, list) = listed("60x60x3", JointHow::Mitre, &lines, |job, _| {
        job.saw = Some(Saw { angle_step: step.into(), ..Saw::default() })
    });
    let cell = &list.bars[0].cuts[1];
    assert_eq!(cell.text, format!("{set}°"));
    assert_eq!((cell.exact.as_str(), cell.from_axis.as_str()), ("41.35°", "48.65°"));
    let open = 60.0 * (f64::to_radians(41.35).tan() - f64::to_radians(set).tan()).abs();
    let told: f64 = cell.gap.trim_end_matches(" mm").parse().unwrap();
    assert!((told - open).abs() <= 0.05 + 1e-9, "{} {open}", cell.gap);
    assert!(!cell.beyond);
}

/// Further than the saw swings: marked in the list, a warning among the findings.
#[test]
fn beyond_the_swing() {
    let lines =
        ["node A 500 0 0", "node B 0 0 0", "node C 500*cos(50) 500*sin(50) 0", "rail A B", "rail B C"];
    for (most, beyond) in [("60", true), ("66", false)] {
        let (r, list) = listed("60x60x3", JointHow::Mitre, &lines, |job, _| {
            job.saw = Some(Saw { most: most.into(), ..Saw::default() })
        });
        // Cut 90° − 25° off square.
        assert_eq!((list.bars[0].cuts[1].text.as_str(), list.bars[0].cuts[1].beyond), ("65°", beyond));
        assert_eq!(r.findings.iter().any(|f| f.check == "saw_swing"), beyond);
    }
}

/// Lengths to the saw's step, and what that leaves; in inches as finely as the step needs.
#[rstest]
#[case(Display::default(), "", "503.6", "")]
#[case(Display::default(), "0.5", "503.5", "0.1 mm")]
#[case(Display::default(), "1", "504.0", "0.4 mm")]
#[case(inches(InchStyle::Sixteenths), "", "19 13/16", "")]
#[case(inches(InchStyle::Sixteenths), "1/64", "19 53/64", "")]
#[case(inches(InchStyle::SixtyFourths), "", "19 53/64", "")]
#[case(inches(InchStyle::Decimal), "", "19.827", "")]
#[case(inches(InchStyle::Decimal), "1/32", "19.813", "")]
fn lengths_are_told_in_steps(
    #[case] display: Display,
    #[case] step: &str,
    #[case] wanted: &str,
    #[case] gap: &str,
) {
    let (_, list) = listed(
        "60x60x3",
        JointHow::Mitre,
        &["node A 0 0 0", "node B 503.6mm 0 0", "rail A B SHS 60mmx60mmx3mm"],
        |job, f| {
            job.display = display;
            f.section = "FLAT 1x1".into();
            job.saw = Some(Saw { length_step: step.into(), ..Saw::default() });
        },
    );
    assert_eq!(list.bars[0].length, wanted);
    if !gap.is_empty() {
        assert_eq!(list.bars[0].length_gap, gap);
    }
}

/// A compound cut: two slopes at one end give a swing and a tilt. By hand for a plane whose normal is (1, tan
/// 20°, tan 30°) against a bar along x: swing atan(tan 30°), tilt atan(tan 20° · cos 30°).
#[test]
fn a_compound_cut() {
    let (t20, t30) = (f64::to_radians(20.0).tan(), f64::to_radians(30.0).tan());
    let node = |n: &str, y: f64, z: f64| format!("node {n} {} {y} {z}", 500.0 - t20 * y - t30 * z);
    let (job, mut f) = told(
        "60x60x3",
        JointHow::Mitre,
        &[
            "node A 0 0 0",
            "node B 500 0 0",
            &node("P", 0.0, 0.0),
            &node("Q", 100.0, 0.0),
            &node("R", 0.0, 100.0),
            "rail A B",
        ],
    );
    let by = TrimBy::Nodes { nodes: ["B", "Q", "R"].map(String::from).to_vec() };
    f.lines.retain(|l| l.id != "node-3");
    f.lines.push(FrameLine::new(
        "t",
        FrameOperation::Trim(TrimSaid { member: "rail-1".into(), tip: Tip::End, by, ..TrimSaid::default() }),
    ));
    let r = evaluate_frame(&job, &f);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let p = plane(&r.facts[0].cuts[1]);
    assert_relative_eq!(p.angle, f64::to_radians(30.0), epsilon = 1e-9);
    assert_relative_eq!(p.bevel, (t20 * f64::to_radians(30.0).cos()).atan(), epsilon = 1e-9);
    let list = frame_list(&f, &r, &job.display, &SawFacts::usual(&job.display));
    assert_eq!(list.bars[0].cuts[1].text, "30° × 17.5°");
}

/// How ends lie: a parallelogram, a trapezium, a quarter turn between them.
#[rstest]
#[case(&["node A 0 0 0", "node B 500 0 0", "node C 500 -300 0", "node D 0 300 0", "rail A B", "leg B C",
    "leg A D"], EndRelation::Same, "same way")]
#[case(&["node A 0 0 0", "node B 500 0 0", "node C 500 300 0", "node D 0 300 0", "rail A B", "leg B C",
    "leg A D"], EndRelation::Opposite, "opposite")]
#[case(&["node A 0 0 0", "node B 500 0 0", "node C 500 300 0", "node D 0 0 300", "rail A B", "leg B C",
    "leg A D"], EndRelation::Turned, "turned 90°")]
#[case(&["node A 0 0 0", "node B 500 0 0", "node C 500 300 0", "rail A B", "leg B C"], EndRelation::Plain,
    "")]
fn how_ends_lie(#[case] lines: &[&str], #[case] lie: EndRelation, #[case] ends: &str) {
    let (_, list) = listed("60x60x3", JointHow::Mitre, lines, |_, _| {});
    assert_eq!((list.bars[0].lie, list.bars[0].ends.as_str()), (lie, ends));
    let look = list.bars[0].look;
    match lie {
        EndRelation::Same => assert_relative_eq!(look.start, -look.end, epsilon = 1e-6),
        EndRelation::Opposite => assert_relative_eq!(look.start, look.end, epsilon = 1e-6),
        _ => {}
    }
}

/// Two frames of the portal: quantities, masses and totals by hand; a column and a name of one's own.
#[test]
fn totals_by_hand() {
    let lines = [
        "node A 0 0 0",
        "node B from A up 800",
        "node C from B east 1000",
        "node D from C down 800",
        "post A B",
        "rail B C",
        "post D C",
        "foot A D 120 x 120 thick 8",
    ];
    let (r, list) = listed("60x60x3", JointHow::Mitre, &lines, |_, f| {
        f.quantity = "2".into();
        f.columns = vec!["part number".into()];
        f.rows.push(RowSaid {
            piece: "post-2".into(),
            mark: "X9".into(),
            name: "upright".into(),
            cells: vec!["77".into()],
        });
    });
    let area = r.profiles[0].properties.area;
    let posts = &list.bars[0];
    // 800 up, 30 more at the long point, 8 less for the foot.
    assert_eq!(
        (posts.quantity, posts.length.as_str(), posts.centre.as_str(), posts.short.as_str()),
        (4, "822.0", "792.0", "762.0")
    );
    assert_eq!(
        (posts.mark.as_str(), posts.name.as_str(), posts.cells.as_slice()),
        ("X9", "upright", ["77".to_string()].as_slice())
    );
    assert_relative_eq!(posts.unit_mass.parse::<f64>().unwrap(), area * 792.0 * 7850e-9, epsilon = 5e-4);
    let rail = &list.bars[1];
    assert_eq!(
        (rail.quantity, rail.length.as_str(), rail.cells.as_slice()),
        (2, "1060.0", ["".to_string()].as_slice())
    );
    assert_eq!((list.plates[0].quantity, list.plates[0].size.as_str()), (4, "120.0 × 120.0"));
    let plate = 120.0 * 120.0 * 8.0 * 7850e-9;
    let whole = 2.0 * (area * (2.0 * 792.0 + 1000.0) * 7850e-9 + 2.0 * plate);
    assert_eq!((list.sections[0].pieces, list.sections[0].length.as_str()), (6, "5.41 m"));
    // Outer perimeter × length: what is painted.
    let painted = r.profiles[0].properties.perimeter * 792.0 / 1e6;
    assert_eq!(posts.surface, format!("{painted:.4} m²"));
    // Each row's total is its quantity times its unit; all of them make the mass.
    let sum: f64 = list
        .bars
        .iter()
        .map(|b| b.total_mass.parse::<f64>().unwrap())
        .chain(list.plates.iter().map(|p| p.total_mass.parse::<f64>().unwrap()))
        .sum();
    assert_relative_eq!(sum, whole, epsilon = 0.02);
    // The total is what whoever adds the rows up gets.
    assert_relative_eq!(list.mass.trim_end_matches(" kg").parse::<f64>().unwrap(), sum, epsilon = 1e-9);
}

/// Welds of copies stand in one row with how often; their lengths and metal are those of all of them.
#[test]
fn welds_of_copies_are_one_row() {
    let half = [
        "node A 400 0 0",
        "node B 400 0 700",
        "node T 0 0 700",
        "post A B",
        "rail B T",
        "foot A 100 x 100 thick 8",
    ];
    let (r, list) = listed(
        "60x60x3",
        JointHow::Mitre,
        &[&half[..], &["mirror east 0", "repeat 3 north 500"]].concat(),
        |_, f| f.quantity = "2".into(),
    );
    assert_eq!(r.welds.len(), 6 + 1);
    let rows: Vec<(&str, WeldKind, usize)> =
        list.welds.iter().map(|w| (w.between.as_str(), w.kind, w.count)).collect();
    assert_eq!(rows, [("rail-1 – post-1", WeldKind::Butt, 12), ("foot-1.A", WeldKind::Fillet, 12)]);
    // Round a mitre of 45°: two sides are longer by √2. Chords stand for the corner arcs.
    let p = &r.profiles[0].properties;
    let around: f64 = list.welds[0].length.parse().unwrap();
    assert!(around > p.perimeter * 1.15 && around < p.perimeter * 1.25, "{around}");
    assert_eq!(list.welds[0].names.len(), 12);
    let all = 12.0 * (around + list.welds[1].length.parse::<f64>().unwrap()) / 1000.0;
    assert_relative_eq!(list.weld_length.trim_end_matches(" m").parse::<f64>().unwrap(), all, epsilon = 0.02);
}

/// A told weld: its kind and leg at its nodes; one below the rule's smallest is a finding.
#[test]
fn told_welds() {
    let lines = [
        "node A -500 0 0",
        "node B 500 0 0",
        "node M 0 0 0",
        "node D 0 0 400",
        "chord A B",
        "post M D 60x60x5",
    ];
    for (line, kind, size, small) in [
        ("weld M fillet 4", WeldKind::Fillet, "4.0", true),
        ("weld fillet 5", WeldKind::Fillet, "5.0", false),
        ("weld M butt", WeldKind::Butt, "5.0", false),
    ] {
        let (r, list) = listed("100x100x8", JointHow::Butt, &[&lines[..], &[line]].concat(), |_, _| {});
        assert_eq!((list.welds[0].kind, list.welds[0].size.as_str()), (kind, size));
        assert_eq!(list.welds[0].least, if kind == WeldKind::Fillet { "5.0" } else { "" });
        assert_eq!(r.findings.iter().any(|f| f.check == "weld_small"), small, "{line}");
    }
}

/// Holes as the list tells them: from the long point of the start, a row in one text, slots and notches with
/// their walls.
#[test]
fn how_a_bar_is_drilled() {
    let lines = [
        "node A 0 0 0",
        "node B 500 0 0",
        "node C 0 300 0",
        "rail A B",
        "rail A C",
        "holes 9 on rail-1, 100 from its start, left, through, 3 x 50",
        "holes 11 on rail-1, 400 from its start, top, slot 31, 5 off the middle",
        "notch rail-1 end 6 x 40 top",
    ];
    let (_, list) = listed("60x60x3", JointHow::Mitre, &lines, |_, _| {});
    let bar = &list.bars[0];
    // The mitre's long point stands 30 before the node.
    assert_eq!(
        bar.drilled,
        [
            "top: notch 6 wide, 40 long, at the end",
            "left, both walls: 3 × Ø9 at 130.0 · 180.0 · 230.0",
            "top, 5.0 off the middle: 1 × slot 11 × 31 at 430.0"
        ]
    );
    let parts: Vec<f64> = bar.stations.iter().map(|s| s * 530.0).collect();
    assert_eq!(parts.iter().map(|s| s.round() as i64).collect::<Vec<_>>(), [130, 180, 230, 430]);
    assert_eq!((bar.holes, bar.work.as_str()), (4, "4 holes, 1 notch"));
    assert!(
        list.bars[1].work.is_empty() && list.bars[1].drilled.is_empty() && list.bars[1].stations.is_empty()
    );
}

/// Cards of sections: worked out beside published, in the job's units; design walls are said.
#[test]
fn section_cards_tell_both_figures() {
    let lines = [
        "node A 0 0 0",
        "node B 1000 0 0",
        "node C 0 500 0",
        "node D 1000 500 0",
        "rail A B",
        "rail C D IPE 200",
        "beam A C L 60x40x5",
        "brace B D HSS 4x4x1/4",
    ];
    let (r, _) = listed("SHS 100x100x5", JointHow::Butt, &lines, |_, _| {});
    let cards = section_cards(&r);
    assert_eq!(
        cards.iter().map(|c| (c.section.as_str(), c.members)).collect::<Vec<_>>(),
        [("SHS 100x100x5", 1), ("IPE 200", 1), ("L 60x40x5", 1), ("HSS 4x4x1/4", 1)]
    );
    let find = |c: &SectionCard, label: &str| c.figures.iter().find(|f| f.label == label).cloned().unwrap();
    // EN 10219-2: 18.4 cm² and 14.4 kg/m; EN 10365: IPE 200 1943 cm⁴ and 142 cm⁴ (from memory).
    assert_relative_eq!(find(&cards[0], "area").worked.parse::<f64>().unwrap(), 18.36, epsilon = 0.01);
    let mass = find(&cards[0], "mass");
    assert_eq!(
        (mass.unit.as_str(), mass.published.as_str(), mass.apart.as_str()),
        ("kg/m", "14.4", "+0.1 %")
    );
    assert_relative_eq!(
        find(&cards[1], "second moment, up and down").worked.parse::<f64>().unwrap(),
        1943.0,
        max_relative = 1e-3
    );
    assert_relative_eq!(
        find(&cards[1], "second moment, sideways").worked.parse::<f64>().unwrap(),
        142.4,
        max_relative = 1e-3
    );
    assert!(cards[1].figures.iter().all(|f| !f.label.starts_with("centroid")));
    assert!(find(&cards[2], "centroid from the left").worked.parse::<f64>().unwrap() < 15.0);
    // AISC: A 3.37 in², I 7.80 in⁴ with the design wall.
    let design = find(&cards[3], "area");
    assert!(
        cards[3].note.contains("design wall")
            && design.apart.trim_end_matches(" %").parse::<f64>().unwrap().abs() < 0.5,
        "{design:?}"
    );
    assert_eq!(cards[0].loops.len(), 2);
    let (job, f) = told("HSS 4x4x1/4", JointHow::Butt, &["node A 0 0 0", "node B 40 0 0", "rail A B"]);
    let r = evaluate_frame(&Job { display: inches(InchStyle::Decimal), ..job }, &f);
    let card = &section_cards(&r)[0];
    assert_eq!((find(card, "area").unit.as_str(), find(card, "area").published.as_str()), ("in²", "3.37"));
    assert_eq!(find(card, "second moment, sideways").published, "7.8");
    assert_relative_eq!(find(card, "mass").worked.parse::<f64>().unwrap(), 12.21, max_relative = 0.005);
    assert_eq!(card.told, ["4.000", "4.000"]);
}

/// Bare sizes: the metric catalogue first, then the American one; a size of its own is written the
/// catalogue's way.
#[test]
fn bare_sizes_find_their_catalogue() {
    let (job, f) = told(
        "2x2x1/8",
        JointHow::Butt,
        &["node A 0 0 0", "node B 40 0 0", "node C 0 9 0", "rail A B", "rail A C round 3/4"],
    );
    let r = evaluate_frame(&Job { display: inches(InchStyle::Decimal), ..job }, &f);
    assert_eq!(
        r.profiles.iter().map(|p| p.section.designation.as_str()).collect::<Vec<_>>(),
        ["HSS 2x2x1/8", "ROUND 3/4"]
    );
    assert!(r.profiles[0].section.mass.is_some());
}

fn paper(r: &FrameResult, list: &FrameList) -> Vec<steelk_core::drawing::Drawing> {
    use steelk_core::drawing::{Paper, dimensioned};
    dimensioned::frame_drawing(r, list, Paper::A4, &dimensioned::Head::default())
}

fn texts(drawings: &[steelk_core::drawing::Drawing]) -> Vec<String> {
    use steelk_core::drawing::Item;
    let text = |i: &Item| if let Item::Text { text, .. } = i { Some(text.clone()) } else { None };
    drawings.iter().flat_map(|d| d.items.iter().filter_map(text)).collect()
}

/// The drawing on paper: every row, its balloon, the details with their drilling, and the notes; long lists
/// go on to further sheets.
#[test]
fn the_frame_on_paper() {
    use steelk_core::drawing::Item;
    let lines = [
        "node A 0 0 0",
        "node B 500 0 0",
        "rail A B",
        "holes 9 on rail-1, 100 from its start, left, through, 3 x 50",
        "lug rail-1 top at 250 thick 10 radius 25 eye 20 height 40",
    ];
    let (r, list) = listed("60x60x3", JointHow::Mitre, &lines, |_, _| {});
    let pages = paper(&r, &list);
    let said = texts(&pages);
    // Overview, views, bars, a sheet each of the plates.
    assert_eq!(pages.len(), 3 + list.plates.len());
    for wanted in [
        "F/1",
        "500.0 mm",
        "100.0",
        "200.0",
        "left, both walls: 3 × Ø9 at 100.0 · 150.0 · 200.0",
        &format!("2 of {}", pages.len()),
        "from the start, top up",
    ] {
        assert!(said.iter().any(|t| t == wanted), "{wanted}: {said:?}");
    }
    assert!(said.iter().any(|t| t.contains("qualified person")));
    assert!(
        list.plates.iter().all(|p| said.iter().any(|t| t.starts_with(&format!("{} · {}", p.mark, p.name)))),
        "{said:?}"
    );
    assert!(!list.welds.is_empty());
    for w in &list.welds {
        let row = [format!("{} {}", w.kind.said(), w.size), w.length.to_string(), w.between.clone()];
        assert!(row.iter().all(|t| said.contains(t)), "{w:?}: {said:?}");
    }
    // The rail runs east, its left is north: seen from the start, the drilled sides are marked at the left
    // and, through, at the right.
    let marks: Vec<f64> = pages[2]
        .items
        .iter()
        .filter_map(|i| if let Item::Facet { points, .. } = i { Some(points[0].x) } else { None })
        .collect();
    assert_eq!(marks.len(), 2);
    assert!((marks[0] - marks[1]).abs() > 11.0);
    // Nothing is cut off, however long a name is.
    let long = "a very long name of a bar that no column has room for".to_string();
    let (r2, mut list2) = (r.clone(), list.clone());
    list2.bars[0].name.clone_from(&long);
    let said = texts(&paper(&r2, &list2));
    assert!(said.iter().any(|t| t.contains(&long)) && said.iter().all(|t| !t.contains('…')));
    let many: Vec<String> = (0..45)
        .flat_map(|i| {
            [
                format!("node A{i} 0 {} 0", i * 100),
                format!("node B{i} {} {} 0", 500 + i, i * 100),
                format!("rail A{i} B{i}"),
            ]
        })
        .collect();
    let (r, list) =
        listed("60x60x3", JointHow::Mitre, &many.iter().map(String::as_str).collect::<Vec<_>>(), |_, _| {});
    let said = texts(&paper(&r, &list));
    assert_eq!(list.bars.len(), 45);
    for b in &list.bars {
        // In the list and in its detail.
        let detail = format!("{} · ", b.mark);
        assert!(said.contains(&b.mark) && said.iter().any(|t| t.starts_with(&detail)), "{}", b.mark);
        assert!(said.iter().any(|t| *t == format!("{} mm", b.length)), "{}", b.mark);
    }
    assert!(said.iter().any(|t| t.starts_with("Balances at")));
}

/// Wood is not welded: its joints have none in the list, and the frame says so; steel beside it is.
#[test]
fn wood_is_not_welded() {
    let lines = ["node A 0 0 0", "node B 500 0 0", "node C 500 400 0", "rail A B", "rail B C"];
    let (steel, list) = listed("60x60x3", JointHow::Butt, &lines, |_, _| {});
    assert!(!list.welds.is_empty() && !steel.findings.iter().any(|f| f.check == "not_welded"));
    let (oak, list) = listed("FLAT 80x40", JointHow::Butt, &lines, |_, f| f.material = "oak".into());
    assert!(list.welds.is_empty(), "{:?}", list.welds);
    assert!(
        oak.findings.iter().any(|f| f.check == "not_welded" && f.message.starts_with("Oak is not welded"))
    );
}

/// Equal members of different names are one row, or rows of their own where that is chosen: the same pieces
/// and mass either way.
#[test]
fn equal_members_of_different_names_may_be_listed_apart() {
    let lines = [
        "node A 0 0 0",
        "node B 500 0 0",
        "node C 0 200 0",
        "node D 500 200 0",
        "node E 0 400 0",
        "node F 500 400 0",
        "rail A B",
        "beam C D",
        "rail E F",
    ];
    let (_, together) = listed("60x60x3", JointHow::Butt, &lines, |_, _| {});
    let (r, apart) = listed("60x60x3", JointHow::Butt, &lines, |_, f| f.apart = true);
    let rows = |l: &FrameList| {
        l.bars.iter().map(|b| (b.quantity, b.name.clone(), b.length.to_string())).collect::<Vec<_>>()
    };
    assert_eq!(rows(&together), [(3, "rail".to_string(), "500.0".to_string())]);
    assert_eq!(
        rows(&apart),
        [(2, "rail".to_string(), "500.0".to_string()), (1, "beam".to_string(), "500.0".to_string())]
    );
    assert_eq!(together.mass, apart.mass);
    // Each body stands where its member is.
    let at: Vec<f64> = r.members.iter().map(|m| m.end(0).o.y).collect();
    assert_eq!(at, [0.0, 200.0, 400.0]);
    assert_eq!(r.groups.iter().map(|g| g.fits.len()).collect::<Vec<_>>(), [2, 1]);
}

/// Each balloon of the sheet points at metal, that of a bent bar too, and a bent bar says in the list that it
/// is.
#[test]
fn balloons_point_at_metal() {
    use geo::{Coord, Distance, Euclidean, Point, Polygon};
    use glam::DVec3;
    use steelk_core::drawing::Item;
    use steelk_core::drawing::views::{Body, Sight, bare};
    use steelk_core::frame::standing;
    use steelk_core::geom::Bounds;
    let lines = [
        "node A 600 0 0",
        "node B 600 0 900",
        "node M 0 0 1300",
        "node C -600 0 900",
        "node D -600 0 0",
        "node E 600 900 900",
        "post A B",
        "post D C",
        "bow B M C arc",
        "pipe A B E 48.3x3 bent 150",
        "hoop D C M 33.7x2.6 arc closed",
    ]
    .map(|l| l.replace("bow", "rail"));
    let (r, list) =
        listed("40x40x3", JointHow::Mitre, &lines.iter().map(String::as_str).collect::<Vec<_>>(), |_, _| {});
    let page = &paper(&r, &list)[0];
    // Where the picture lies on the sheet, from the box round its lines.
    let bodies: Vec<Body> = standing(&r, false)
        .iter()
        .flat_map(|s| {
            s.places.iter().map(|p| bare(&s.body.points, &s.body.triangles, &p.at)).collect::<Vec<_>>()
        })
        .collect();
    let sight = Sight::isometric();
    let seen = bodies.iter().flat_map(|b| b.solid.points.iter().map(|p| sight.flat(*p)));
    let from = Bounds::of(seen);
    let strokes =
        page.items.iter().filter_map(|i| if let Item::Path { points, .. } = i { Some(points) } else { None });
    let to = Bounds::of(strokes.flatten().copied());
    let scale = (to.size() / from.size()).min_element();
    let at = |p: DVec3| {
        let q = (sight.flat(p) - from.centre()) * scale;
        Coord { x: to.centre().x + q.x, y: to.centre().y - q.y }
    };
    let facet = |b: &Body, t: &[u32; 3]| {
        Polygon::new(t.map(|i| at(b.solid.points[i as usize])).to_vec().into(), Vec::new())
    };
    let facets: Vec<Polygon> = bodies
        .iter()
        .flat_map(|b| b.solid.triangles.iter().map(|t| facet(b, t)).collect::<Vec<_>>())
        .collect();
    let mut balloons = 0;
    for w in page.items.windows(4) {
        let [
            Item::Line { b, .. },
            Item::Shape { .. },
            Item::Shape { filled: true, .. },
            Item::Text { text, .. },
        ] = w
        else {
            continue;
        };
        let foot = Point::new(b.x, b.y);
        let off = facets.iter().map(|f| Euclidean.distance(&foot, f)).fold(f64::INFINITY, f64::min);
        assert!(off < 0.5, "{text} points {off:.1} mm off its bar");
        balloons += 1;
    }
    assert_eq!(balloons, list.bars.len());
    let bent = texts(std::slice::from_ref(page)).iter().filter(|t| *t == "bent").count();
    assert_eq!(bent, 3);
}

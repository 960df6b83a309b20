//! The speeds of docs/benchmarks.md that are the core's.

use std::hint::black_box;
use std::time::Duration;

use criterion::{Criterion, criterion_group, criterion_main};
use steelk_core::brief::{Model, check};
use steelk_core::evaluate::evaluate;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::frame::{SawFacts, frame_list};
use steelk_core::grammar::Context;
use steelk_core::job::{Brief, BriefLine, Frame, FrameLine, Job, Line, Piece, text};
use steelk_core::quantity::{Display, FigureTable, LengthUnit};
use steelk_core::verbs::read_figure;
use steelk_core::verbs::read_frame_line;
use steelk_core::verbs::read_line;

/// A sheet rolled to most of a drum, with `n` × `n` square holes.
fn rolled(n: usize) -> Piece {
    let say = |id: &str, text: &str| {
        Line::new(id, read_line(text, &Context::knowing(&["punch-1".to_string()])).unwrap())
    };
    let side = n as f64 * 8.0 + 40.0;
    let radius = side / 5.0;
    let mut start = say("start-1", &format!("strip 10 wide {side}"));
    start.say = serde_json::from_value(serde_json::json!({
        "verb": "start_strip", "width": format!("{side}"),
        "profile": [{ "kind": "arc", "id": "shell", "radius": format!("{}", radius + 1.0),
            "angle": format!("{}", (side / (radius + 0.5)).to_degrees()) }]
    }))
    .unwrap();
    let mut repeat = say("repeat-1", &format!("repeat punch-1 {n} at 8 east"));
    if let steelk_core::job::Operation::Repeat(r) = &mut repeat.say {
        r.across = Some(steelk_core::job::Spacing::Pitch { count: format!("{n}"), pitch: "8".into() });
    }
    Piece {
        id: "drum".into(),
        quantity: "1".into(),
        material: "1.4301".into(),
        thickness: "1".into(),
        lines: vec![start, say("punch-1", "square 4 at 24 from west, 24 from south"), repeat],
        ..Piece::default()
    }
}

/// A rolled shell filled with round holes in a staggered pattern, as drums and screens have them: 12,800.
fn screen() -> Piece {
    let say = |id: &str, value: serde_json::Value| Line::new(id, serde_json::from_value(value).unwrap());
    let shell = serde_json::json!({ "verb": "start_rolled", "length": "720", "diameter": "400",
        "angle": "350", "measure": "outside" });
    let fill = serde_json::json!({ "verb": "fill", "on": "start-1.shell", "shape": { "kind": "round",
        "diameter": "5" },
        "pattern": "staggered", "pitch": "8.7", "margin": "9" });
    Piece {
        id: "screen".into(),
        quantity: "1".into(),
        material: "1.4301".into(),
        thickness: "1".into(),
        lines: vec![say("start-1", shell), say("fill-1", fill)],
        ..Piece::default()
    }
}

/// A rack of 2,000 members: uprights, beams and diagonals of two kinds, in bays and decks, half of it
/// mirrored.
/// A frame of typed lines, the first of its verb called `verb-1`.
fn frame_of(lines: &[&str]) -> Frame {
    let line = |(k, text): (usize, &&str)| {
        let stem = text.split_whitespace().next().unwrap();
        let n = 1 + lines[..k].iter().filter(|l| l.starts_with(stem)).count();
        FrameLine::new(format!("{stem}-{n}"), read_frame_line(text, &Context::default()).unwrap())
    };
    let lines = lines.iter().enumerate().map(line).collect();
    Frame { lines, ..rack() }
}

fn rack() -> Frame {
    let text = [
        "node A 400 0 0",
        "node B 400 800 0",
        "node C 400 0 600",
        "node D 400 800 600",
        "post A C 60x60x3",
        "post B D 60x60x3",
        "rail C D 50x30x3",
        "brace A D 30x30x3",
        "brace B C 48.3x3",
        "repeat 20 north 800",
        "repeat 12 up 600",
        "mirror east 0",
    ];
    let lines = text
        .iter()
        .enumerate()
        .map(|(i, t)| FrameLine::new(format!("line-{i}"), read_frame_line(t, &Context::default()).unwrap()));
    Frame {
        id: "rack".into(),
        mark: "R".into(),
        quantity: "1".into(),
        material: "s235".into(),
        section: "60x60x3".into(),
        lines: lines.collect(),
        ..Frame::default()
    }
}

fn speeds(c: &mut Criterion) {
    let job: Job = serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap();
    for piece in &job.pieces {
        c.bench_function(&format!("evaluate demo {}", piece.id), |b| {
            b.iter(|| evaluate_piece(black_box(&job), black_box(piece)))
        });
    }
    c.bench_function("evaluate demo job", |b| b.iter(|| evaluate(black_box(&job))));
    let empty = Job { format: 1, ..Job::default() };
    let rack = rack();
    let many = evaluate_frame(&empty, &rack).members.len();
    let told = evaluate_frame(&empty, &rack).faults;
    assert!((1_900..2_400).contains(&many), "{many} {told:?}");
    let saw = SawFacts::usual(&empty.display);
    c.bench_function("cut list of a frame of 2,000 members", |b| {
        b.iter(|| {
            let r = evaluate_frame(black_box(&empty), black_box(&rack));
            frame_list(&rack, &r, &empty.display, &saw)
        })
    });
    c.bench_function("evaluate demo press frame", |b| {
        b.iter(|| evaluate_frame(black_box(&job), black_box(&job.frames[0])))
    });
    let chute = [
        "hopper 900 x 700 to 1400 x 1100, 800 high, 4 thick, rising to 950 north, flush north",
        "rim hopper-1 top, 60 wide, mitred 2, holes 12, 15 a side, counter-flange 8",
    ];
    let chute = frame_of(&chute);
    let made = evaluate_frame(&empty, &chute);
    assert!(made.faults.is_empty() && made.plates.len() >= 4, "{:?}", made.faults);
    c.bench_function("a hopper with flanges and 60 holes", |b| {
        b.iter(|| evaluate_frame(black_box(&empty), black_box(&chute)))
    });
    let round = "piece P-1 \"to round\", 2 thick s235\n  \
        transition rectangle 600 x 400 to round ⌀250, 300 high, 60 east, tilted 10° to the north, 24 lines\n";
    let round = text::read_piece(round).0.unwrap();
    assert!(evaluate_piece(&empty, &round).flat.bends.len() == 96);
    c.bench_function("a square-to-round with 96 creases", |b| {
        b.iter(|| evaluate_piece(black_box(&empty), black_box(&round)))
    });
    // A profile of tangent arcs; bars beside one another.
    let profile = "piece P-1 \"rib\", 0 off, 18 thick plywood\n  plate 480 x 420\n  round 60\n  hole ⌀90\n";
    let with_profile = Job { pieces: vec![text::read_piece(profile).0.unwrap()], ..empty.clone() };
    let mut lines = vec!["ribs P-1, 200 off, every 40".to_string()];
    let bar = |k: usize| {
        format!(
            "through ribs-1: CHS 26.9x2.3, {} from west, 60 from south, spacers CHS 33.7x2.6",
            80 + 50 * k
        )
    };
    lines.extend((0..6).map(bar));
    let ribs = frame_of(&lines.iter().map(String::as_str).collect::<Vec<_>>());
    let made = evaluate_frame(&with_profile, &ribs);
    assert!(made.faults.is_empty() && made.members.len() == 6, "{:?}", made.faults);
    c.bench_function("200 ribs with 6 bars and their spacers", |b| {
        b.iter(|| evaluate_frame(black_box(&with_profile), black_box(&ribs)))
    });
    // Ten bends that no order keeps free: every order is looked at.
    let coil = "strip 30 up 90 40 up 90 40 down 90 40 down 90 40 up 90 50 up 90 50 up 90 45 up 90 30 down 90 \
        30 down 90 30 wide 300";
    let lines = vec![Line::new("start-1", read_line(coil, &Context::default()).unwrap())];
    let coil = Piece {
        id: "coil".into(),
        quantity: "1".into(),
        material: "s235".into(),
        thickness: "2".into(),
        radius: "2".into(),
        lines,
        ..Piece::default()
    };
    assert!(evaluate_piece(&empty, &coil).plan.said.contains("every order was looked at"));
    c.bench_function("evaluate a coil of ten bends, proven to have no order", |b| {
        b.iter(|| evaluate_piece(black_box(&empty), black_box(&coil)))
    });
    let mut slow = c.benchmark_group("holes");
    slow.sample_size(10).measurement_time(Duration::from_secs(8));
    for (name, n) in [("10,000 in a rolled sheet", 100), ("100,000 in a rolled sheet", 316)] {
        let piece = rolled(n);
        assert!(evaluate_piece(&empty, &piece).flat.holes.len() == n * n);
        slow.bench_function(name, |b| b.iter(|| evaluate_piece(black_box(&empty), black_box(&piece))));
    }
    let screen = screen();
    let holes = evaluate_piece(&empty, &screen).flat.holes.len();
    assert!((12_700..12_900).contains(&holes), "{holes}");
    slow.bench_function("12,800 round, staggered, in a rolled shell", |b| {
        b.iter(|| evaluate_piece(black_box(&empty), black_box(&screen)))
    });
    slow.bench_function("12,800 round, staggered, with their mesh", |b| {
        b.iter(|| evaluate_piece(black_box(&empty), black_box(&screen)).mesh().points.len())
    });
    slow.finish();
}

/// An outline of 60 sides, steps with rounded corners whose arcs follow from the ways beside them; and a
/// brief of 200 figures beside the plate it is of.
fn drawn(c: &mut Criterion) {
    let shop = Job::default();
    let made = |text: &str| {
        let lines = vec![Line::new("start-1", read_line(text, &Context::default()).unwrap())];
        Piece {
            id: "c".into(),
            quantity: "1".into(),
            material: "s235".into(),
            thickness: "3".into(),
            lines,
            ..Piece::default()
        }
    };
    let step = "line 10 east, arc left R2, line 8 north, arc right R2, ";
    let end = "line 20 east, arc left R4, line 30 north, arc left R4, line west, arc left R4, line south, \
        arc left R4";
    let steps = format!("contour {}{end}", step.repeat(13));
    let piece = made(&steps);
    assert!(evaluate_piece(&shop, &piece).made);
    c.bench_function("a contour of 60 sides", |b| {
        b.iter(|| evaluate_piece(black_box(&shop), black_box(&piece)))
    });
    let (plate, brief) = drilled();
    let model = Model::of_piece(&std::sync::Arc::new(evaluate_piece(&shop, &plate))).unwrap();
    let figures = FigureTable::new(&[], LengthUnit::Mm);
    let one = || check(black_box(&brief), &figures, Display::default(), Some(&model), "");
    let tally = one().tally;
    assert!(tally.all >= 200 && tally.met == tally.all, "{tally:?}");
    c.bench_function("a brief of 200 figures checked", |b| b.iter(one));
    c.bench_function("the plate of it made ready to be measured", |b| {
        let made = std::sync::Arc::new(evaluate_piece(&shop, &plate));
        b.iter(|| Model::of_piece(black_box(&made)))
    });
}

/// A plate with fifty holes, and a drawing that says of each where it lies and how large it is, tied.
fn drilled() -> (Piece, Brief) {
    let context = Context::default();
    let mut lines = vec![Line::new("start-1", read_line("plate 600 x 300", &context).unwrap())];
    let mut told = Vec::new();
    for k in 1..=50 {
        let (x, y) = (30 + (k - 1) % 10 * 60, 30 + (k - 1) / 10 * 60);
        let hole = format!("hole ⌀9, {x} from west, {y} from south");
        lines.push(Line::new(format!("punch-{k}"), read_line(&hole, &context).unwrap()));
        for text in [
            format!("hole \"h{k}\" ⌀9, is punch-{k}"),
            format!("from punch-{k} to west {x}"),
            format!("from punch-{k} to south {y}"),
        ] {
            told.push(BriefLine {
                pin: None,
                id: format!("f-{}", told.len()),
                off: false,
                note: String::new(),
                group: String::new(),
                say: read_figure(&text, &context).unwrap_or_else(|e| panic!("{text}: {e}")),
            });
        }
    }
    let plate = Piece {
        id: "p".into(),
        mark: "P-1".into(),
        quantity: "1".into(),
        material: "s235".into(),
        thickness: "3".into(),
        lines,
        ..Piece::default()
    };
    (plate, Brief { id: "b".into(), of: "P-1".into(), lines: told, ..Brief::default() })
}

/// Every example of every verb, read and printed: the time of one line on average.
fn lines(c: &mut Criterion) {
    use steelk_core::grammar::{Bench, print, read};
    use steelk_core::verbs::{FRAME, PIECE};
    let context = Context::default();
    let of = |bench: &'static Bench| {
        bench.verbs.iter().flat_map(move |r| r.verb.examples.iter().map(move |e| (bench, *e)))
    };
    let all: Vec<_> = of(&PIECE).chain(of(&FRAME)).collect();
    let said: Vec<_> =
        all.iter().map(|(b, e)| (*b, (b.normal)(&read(b, e, &context).unwrap()).unwrap())).collect();
    c.bench_function(&format!("{} lines read", all.len()), |b| {
        b.iter(|| all.iter().for_each(|(bench, text)| drop(black_box(read(bench, text, &context)))))
    });
    c.bench_function(&format!("{} lines printed", all.len()), |b| {
        b.iter(|| said.iter().for_each(|(bench, say)| drop(black_box(print(bench, say, &context)))))
    });
}

/// Two thousand labels of many breadths, as holes stand: in staggered rows, among their sides.
fn labels(c: &mut Criterion) {
    use steelk_core::drawing::labels::{Label, Obstacles, place};
    use steelk_core::geom::Bounds;
    let at = |k: usize| {
        let (row, column) = (k / 50, k % 50);
        glam::DVec2::new(30.0 * column as f64 + 15.0 * (row % 2) as f64 + 20.0, 26.0 * row as f64 + 20.0)
    };
    let all: Vec<Label> = (0..2000)
        .map(|k| Label {
            anchor: at(k),
            size: glam::DVec2::new(8.0 + (k * 7 % 23) as f64, 3.0),
            clear: 3.0,
            weight: (k % 3) as f64,
            before: None,
        })
        .collect();
    let ring = |l: &Label| {
        let on = |n: usize| l.anchor + glam::DVec2::from_angle(n as f64 * std::f64::consts::TAU / 16.0) * 3.0;
        (0..16).map(move |n| [on(n), on(n + 1)]).collect::<Vec<_>>()
    };
    let keep = Obstacles { boxes: Vec::new(), lines: all.iter().flat_map(ring).collect() };
    let view = Bounds { min: glam::DVec2::ZERO, max: glam::DVec2::new(1560.0, 1080.0) };
    c.bench_function("2,000 labels placed among 32,000 sides", |b| {
        b.iter(|| black_box(place(&all, &keep, view, true)))
    });
}

criterion_group!(benches, speeds, drawn, lines, labels);
criterion_main!(benches);

//! The speeds of docs/benchmarks.md that are the writers'.

use criterion::{Criterion, criterion_group, criterion_main};
use steelk_core::drawing::{Paper, dimensioned, template};
use steelk_core::evaluate::{cut_list, evaluate, evaluate_piece};
use steelk_core::grammar::Context;
use steelk_core::job::{Job, Line, Operation, Piece, Spacing};
use steelk_core::sheet::{has_patterns, plain_mesh};
use steelk_core::verbs::read_line;
use steelk_formats::drawn::Options;
use steelk_formats::{dxf, pdf};

fn speeds(c: &mut Criterion) {
    let job = Job { format: 1, ..Job::default() };
    let say = |id: &str, text: &str| {
        Line::new(id, read_line(text, &Context::knowing(&["punch-1".to_string()])).unwrap())
    };
    let mut repeat = say("repeat-1", "repeat punch-1 100 at 8 east");
    if let Operation::Repeat(r) = &mut repeat.say {
        r.across = Some(Spacing::Pitch { count: "100".into(), pitch: "8".into() });
    }
    let lines = vec![
        say("start-1", "plate 840 x 840"),
        say("punch-1", "hole 4 at 24 from west, 24 from south"),
        repeat,
    ];
    let piece = Piece {
        id: "grate".into(),
        quantity: "1".into(),
        material: "1.4301".into(),
        thickness: "1".into(),
        lines,
        ..Piece::default()
    };
    let made = evaluate_piece(&job, &piece);
    assert_eq!(made.flat.holes.len(), 10_000);
    let mut group = c.benchmark_group("write");
    group.sample_size(10);
    group.bench_function("DXF of 10,000 holes", |b| b.iter(|| dxf::write(&made, 0)));
    let demo: Job = serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap();
    let stand = evaluate_piece(&demo, &demo.pieces[0]);
    group.bench_function("DXF of the stand", |b| b.iter(|| dxf::write(&stand, 0)));
    group.bench_function("template of the stand, A4", |b| {
        b.iter(|| pdf::pdf(&template(&stand, Paper::A4).unwrap(), &pdf::About::default()).unwrap())
    });
    let heads = demo.drawing_head();
    for mark in ["P-101", "P-109", "P-108", "P-111"] {
        let piece = demo.pieces.iter().find(|p| p.mark == mark).unwrap();
        let made = evaluate_piece(&demo, piece);
        let plain = has_patterns(&made).then(|| plain_mesh(&made).0);
        let mesh = plain.as_ref().unwrap_or_else(|| made.mesh());
        group.bench_function(format!("drawing of {mark}, A3"), |b| {
            let of = || dimensioned::Piece { result: &made, mesh, unseen: Vec::new() };
            b.iter(|| dimensioned::piece_drawing(&of(), Paper::A3, &heads))
        });
    }
    let truss = truss(&demo);
    let result = evaluate(&truss);
    let list = cut_list(&truss, &result);
    assert!(result.frames[0].members.len() >= 300, "{}", result.frames[0].members.len());
    group.bench_function("drawing of a frame of 300 members, A3", |b| {
        b.iter(|| dimensioned::frame_drawing(&result.frames[0], &list.frames[0], Paper::A3, &heads))
    });
    group.finish();
    let drawing = large_drawing();
    assert!(drawing.len() > 5_000_000);
    let mut group = c.benchmark_group("read");
    group.sample_size(10);
    group.bench_function("a DXF of 5 MB: chords, slots of loose strokes, splines, staggered", |b| {
        b.iter(|| steelk_formats::drawing(&drawing, &Options::default()).unwrap())
    });
    group.finish();
}

/// A long truss: 75 bays of four members.
fn truss(demo: &Job) -> Job {
    let mut text =
        String::from("job \"x\", in mm, by DIN 6935\n\nframe F-1 \"Truss\", of SHS 60x60x3, material s235\n");
    let (mut nodes, mut bars) = (String::new(), String::new());
    for k in 0..76 {
        let x = 800 * k;
        nodes += &format!("  node L{k} {x}, 0, 0\n  node U{k} {x}, 0, 1200\n");
        if k > 0 {
            bars += &format!("  rail L{} L{k}\n  rail U{} U{k}\n  brace L{} U{k}\n", k - 1, k - 1, k - 1);
        }
        bars += &format!("  post L{k} U{k}\n");
    }
    text += &(nodes + &bars);
    let (job, faults) = steelk_core::job::text::read_job(&text);
    assert!(faults.is_empty(), "{faults:?}");
    Job { display: demo.display, ..job }
}

/// 5 MB of what drawing offices send: circles of chords, slots of loose lines and arcs, closed splines, in
/// staggered rows on one plate.
fn large_drawing() -> Vec<u8> {
    use std::f64::consts::TAU;
    let at = |x: f64, y: f64| format!("10\n{x:.6}\n20\n{y:.6}\n");
    let mut out =
        String::from("0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n");
    let mut k = 0;
    while out.len() < 5_000_000 {
        let row = f64::from(k / 60);
        let (x, y) = (f64::from(k % 60) * 22.0 + 11.0 * (row % 2.0) + 20.0, row * 20.0 + 20.0);
        out += &match k % 3 {
            0 => {
                let corner = |i: u32| {
                    let t = TAU * f64::from(i) / 48.0;
                    at(x + 5.0 * t.cos(), y + 5.0 * t.sin())
                };
                format!("0\nLWPOLYLINE\n8\nCUTS\n90\n48\n70\n1\n{}", (0..48).map(corner).collect::<String>())
            }
            1 => {
                let line = |s: f64| {
                    let to = format!("11\n{:.6}\n21\n{:.6}\n", x + 4.0 * s, y - 3.0 * s);
                    format!("0\nLINE\n8\nCUTS\n{}{to}", at(x - 4.0 * s, y - 3.0 * s))
                };
                let arc = |s: f64, from: u32, to: u32| {
                    format!("0\nARC\n8\nCUTS\n{}40\n3.0\n50\n{from}\n51\n{to}\n", at(x + 4.0 * s, y))
                };
                line(1.0) + &arc(1.0, 270, 90) + &line(-1.0) + &arc(-1.0, 90, 270)
            }
            _ => {
                let point = |i: u32| {
                    let t = TAU * f64::from(i % 9) / 9.0 + 0.3;
                    at(x + 6.0 * t.cos() * (1.0 + 0.2 * f64::from(i % 9 % 2)), y + 5.0 * t.sin())
                };
                let knots: String = (0..16).map(|i| format!("40\n{i}.0\n")).collect();
                let points: String = (0..12).map(point).collect();
                format!("0\nSPLINE\n8\nCUTS\n70\n11\n71\n3\n{knots}{points}")
            }
        };
        k += 1;
    }
    let (w, h) = (60.0 * 22.0 + 60.0, f64::from(k / 60 + 3) * 20.0);
    let rim: String = [(0.0, 0.0), (w, 0.0), (w, h), (0.0, h)].map(|(x, y)| at(x, y)).concat();
    out += &format!("0\nLWPOLYLINE\n8\nCUTS\n90\n4\n70\n1\n{rim}0\nENDSEC\n0\nEOF\n");
    out.into_bytes()
}

criterion_group!(benches, speeds);
criterion_main!(benches);

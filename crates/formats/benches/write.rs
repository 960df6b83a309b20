//! The speeds of docs/benchmarks.md that are the writers'.

use criterion::{Criterion, criterion_group, criterion_main};
use steelk_core::drawing::{Paper, template};
use steelk_core::evaluate::evaluate_piece;
use steelk_core::grammar::Context;
use steelk_core::job::{Job, Line, Operation, Piece, Spacing};
use steelk_core::verbs::read_line;
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
    group.finish();
}

criterion_group!(benches, speeds);
criterion_main!(benches);

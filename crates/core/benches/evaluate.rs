//! The speeds of docs/benchmarks.md that are the core's.

use std::hint::black_box;
use std::time::Duration;

use criterion::{Criterion, criterion_group, criterion_main};
use steelk_core::job::{Job, Line, Piece};
use steelk_core::sheet::{evaluate, evaluate_piece, read_short};

/// A sheet rolled to most of a drum, with `n` × `n` square holes.
fn rolled(n: usize) -> Piece {
    let say = |id: &str, text: &str| Line { id: id.into(), off: false, say: read_short(text, &["punch-1".to_string()]).unwrap() };
    let side = n as f64 * 8.0 + 40.0;
    let radius = side / 5.0;
    let mut start = say("start-1", &format!("strip 10 wide {side}"));
    start.say = serde_json::from_value(serde_json::json!({
        "verb": "start_strip", "width": format!("{side}"),
        "profile": [{ "kind": "arc", "id": "shell", "radius": format!("{}", radius + 1.0), "angle": format!("{}", (side / (radius + 0.5)).to_degrees()) }]
    }))
    .unwrap();
    let mut repeat = say("repeat-1", &format!("repeat punch-1 {n} at 8 east"));
    if let steelk_core::job::Say::Repeat(r) = &mut repeat.say {
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

fn speeds(c: &mut Criterion) {
    let job: Job = serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap();
    for piece in &job.pieces {
        c.bench_function(&format!("evaluate demo {}", piece.id), |b| b.iter(|| evaluate_piece(black_box(&job), black_box(piece))));
    }
    c.bench_function("evaluate demo job", |b| b.iter(|| evaluate(black_box(&job))));
    let empty = Job { format: 1, ..Job::default() };
    let mut slow = c.benchmark_group("holes");
    slow.sample_size(10).measurement_time(Duration::from_secs(8));
    for (name, n) in [("10,000 in a rolled sheet", 100), ("100,000 in a rolled sheet", 316)] {
        let piece = rolled(n);
        assert!(evaluate_piece(&empty, &piece).flat.holes.len() == n * n);
        slow.bench_function(name, |b| b.iter(|| evaluate_piece(black_box(&empty), black_box(&piece))));
    }
    slow.finish();
}

criterion_group!(benches, speeds);
criterion_main!(benches);

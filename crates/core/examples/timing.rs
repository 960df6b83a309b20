use steelk_core::job::Job;
use steelk_core::sheet::evaluate_piece;
fn main() {
    for f in std::env::args().skip(1) {
        let Ok(text) = std::fs::read_to_string(&f) else { continue };
        let v: serde_json::Value = serde_json::from_str(&text).unwrap();
        let v = v.get("job").cloned().unwrap_or(v);
        let Ok(job) = serde_json::from_value::<Job>(v) else {
            println!("{f}: no job");
            continue;
        };
        for p in &job.pieces {
            let r = evaluate_piece(&job, p);
            let n = 100;
            let t = std::time::Instant::now();
            for _ in 0..n {
                std::hint::black_box(evaluate_piece(&job, p));
            }
            for b in &r.bend_rows {
                println!(
                    "   {} {} gauge {} check {} | {} | {} | {} | {:?} {:?}",
                    b.order, b.name, b.gauge, b.check, b.turned, b.punch, b.reason, b.strikes, b.cautions
                );
            }
            println!(
                "{:30} {:8.2} ms  bends {} rows {} | {}",
                p.id,
                t.elapsed().as_secs_f64() * 1000.0 / n as f64,
                r.flat.bends.len(),
                r.bend_rows.len(),
                r.plan.said
            );
        }
    }
}

use steelk_core::job::*;
use steelk_core::sheet::{evaluate_piece, read_short};
fn main() {
    let a: Vec<String> = std::env::args().collect();
    let mut p = Piece { id: "p".into(), quantity: "1".into(), material: "s235".into(), thickness: a[1].clone(), radius: a[1].clone(), ..Piece::default() };
    let mut known = vec![];
    for (i, t) in a[2..].iter().enumerate() {
        let say = read_short(t, &known).unwrap();
        p.lines.push(Line { id: if i == 0 { "start-1".into() } else { format!("l-{i}") }, off: false, say });
        if i > 0 {
            known.push(format!("l-{i}"));
        }
    }
    let job = Job { format: FORMAT, ..Job::default() };
    let r = evaluate_piece(&job, &p);
    println!("{:?} {}", r.faults, r.plan.said);
    for (s, row) in r.plan.steps.iter().zip(&r.bend_rows) {
        println!("{} {} gauge {} {:?} {:?}", row.order, row.name, row.gauge, s.strikes, s.short);
        let pic = steelk_core::sheet::brake::picture(&r.plan, &r.zones, s);
        if a[1] == "x" {
            println!("{pic:?}");
        }
        if std::env::var("PIC").is_ok() {
            for b in &pic.before {
                println!("   {b:?}");
            }
            for t in &pic.tools {
                println!("  tool {:?} {:?}", t.0, t.1);
            }
            println!("die {:?}", pic.die);
        }
    }
}

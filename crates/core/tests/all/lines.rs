//! Every kind of line: said whole it is made; said badly it is told where and how to mend, and the rest of
//! the piece stands.

use crate::common::*;
use proptest::prelude::*;
use serde_json::{Value, json};
use steelk_core::evaluate::evaluate_piece;
use steelk_core::grammar::Context;
use steelk_core::job::{Operation, Piece};
use steelk_core::shop::BendMethod;
use steelk_core::verbs::read_line;

/// A start of each kind, and every other line said well on a plate that is folded.
fn starts() -> Vec<Value> {
    [
        "plate 240 x 160",
        "strip 60 up 90 80 down 45 60 wide 50",
        "channel 300 web 120 side 60 lip 15 out",
        "tray 240 160 50 less 1.5 lip 14 inwards gap 0.4 relief round 6",
        "shell 200 diameter 300 angle 360 gap 2",
        "cone 300 to 150 high 200",
    ]
    .iter()
    .map(|t| serde_json::to_value(read_line(t, &Context::default()).unwrap()).unwrap())
    .collect()
}

const SAID: [&str; 22] = [
    "fold north east up 90 40 inside r3 inner then up 90 12",
    "fold south down 60 35 inset 20 20",
    "corners edge gap 0.5 relief square 6",
    "hem fold-1.north.lip.tip closed 9",
    "joggle west up 6 over 20 then 25",
    "bend 16 from fold-2.south.tip up 30 r3",
    "tab joggle-1.west.lip.tip 30 x 12 at 60",
    "notch fold-2.south.tip vee 12 x 6 at 40",
    "keyhole 14 7 16 at 120 from west",
    "dhole 20 17",
    "fill start-1.panel square 6 pitch 12 margin 20 staggered",
    "rib fold-1.north.bend deep 15 wide 8 at 60",
    "louvre 40 x 12 high 5 down at 40 from left, 25 from outside on fold-1.east",
    "dimple 12 deep 2 at 30 from west, 30 from south on start-1.panel",
    "collar 16 high 4 at 60 from east, 30 from south on start-1.panel",
    "ring punch-1 5 at 30 from west, 30 from south",
    "repeat punch-1 3 at 30 east",
    "mirror punch-1 east",
    "round 4",
    "hole 9 at 15 from left, 12 from tip on fold-1.north",
    "hem fold-1.east.lip.tip teardrop 14 r2",
    "notch fold-1.east.lip.right round 10 x 9",
];

fn all() -> Piece {
    let mut p = piece("1.5", "2", &[]);
    let texts: Vec<&str> = ["plate 240 x 160"].into_iter().chain(SAID).collect();
    p.lines = lines(&texts);
    p
}

#[test]
fn every_line_is_made_from_its_short_text() {
    let out = evaluate_piece(&job(BendMethod::Din6935.into_rule()), &all());
    let bad: Vec<String> =
        out.faults.iter().map(|f| format!("{} {}: {}", f.line, f.path, f.fault.message)).collect();
    assert!(bad.is_empty(), "{bad:#?}");
    assert!(
        out.made && out.flat.bends.len() >= 9 && out.flat.pressed.len() >= 4,
        "{} {:?}",
        out.flat.bends.len(),
        out.findings.iter().filter(|f| f.check == "cut_misses").collect::<Vec<_>>()
    );
    for say in starts() {
        let mut p = piece("1.5", "2", &[]);
        p.lines = vec![line("start-1", say.clone())];
        assert!(made(BendMethod::Din6935.into_rule(), &p).made, "{say}");
    }
}

trait IntoRule {
    fn into_rule(self) -> steelk_core::shop::BendRule;
}

impl IntoRule for BendMethod {
    fn into_rule(self) -> steelk_core::shop::BendRule {
        school(self)
    }
}

/// Every text in a line, by JSON pointer.
fn texts(value: &Value, at: &str, out: &mut Vec<String>) {
    match value {
        Value::String(_) if !at.ends_with("/verb") => out.push(at.to_string()),
        Value::Array(list) => list.iter().enumerate().for_each(|(i, v)| texts(v, &format!("{at}/{i}"), out)),
        Value::Object(map) => map.iter().for_each(|(k, v)| texts(v, &format!("{at}/{k}"), out)),
        _ => {}
    }
}

const BAD: [&str; 16] = [
    "",
    "0",
    "-5",
    "1e9",
    "abc",
    "90deg",
    "45",
    "179.9",
    "2*t",
    "0.0001",
    "99999",
    "start-1.north",
    "12in",
    "1/0",
    "💥",
    "fold-1.north.tip",
];

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// One or more values of one or more lines replaced by anything: no panic, no figure that is not a
    /// number, no fault without words; lines that were left alone and stand on nothing bad are still carried
    /// out.
    #[test]
    fn any_value_is_read_or_told(changes in prop::collection::vec((0usize..23, 0usize..12, 0usize..16),
        1..4), start in 0usize..6) {
        let mut piece = all();
        if start > 0 {
            piece.lines[0].say = serde_json::from_value(starts()[start].clone()).unwrap();
        }
        for (l, field, bad) in changes {
            let l = l % piece.lines.len();
            let mut value = serde_json::to_value(&piece.lines[l].say).unwrap();
            let mut fields = Vec::new();
            texts(&value, "", &mut fields);
            if fields.is_empty() {
                continue;
            }
            *value.pointer_mut(&fields[field % fields.len()]).unwrap() = json!(BAD[bad]);
            if let Ok(say) = serde_json::from_value::<Operation>(value) {
                piece.lines[l].say = say;
            }
        }
        let out = evaluate_piece(&job(school(BendMethod::Din6935)), &piece);
        for f in &out.figures {
            prop_assert!(f.value.is_finite(), "{}", f.key);
        }
        for f in &out.faults {
            prop_assert!(!f.fault.message.is_empty() && !f.fault.mend.is_empty() && f.path.starts_with('/'),
                "{f:?}");
        }
        for f in &out.findings {
            prop_assert!(!f.message.is_empty() && !f.rule.is_empty() && !f.source.is_empty());
            prop_assert!(f.at.is_none_or(|at| at.iter().all(|v| v.is_finite())), "{}", f.check);
        }
        if out.made {
            prop_assert!(out.mesh().solid(&out.zones, 1.0,
                out.thickness).points.iter().all(|p| p.is_finite()));
        }
    }
}

//! Typed lines of frames: what each says, as it is stored; what is refused points at its words.

use rstest::rstest;
use serde_json::{Value, json};
use steelk_core::grammar::Context;
use steelk_core::verbs::read_frame_line;

fn knowing() -> Context {
    Context { nodes: ["A", "B", "C", "D", "M"].map(String::from).into(), ..Context::default() }
}

#[rstest]
#[case("node A 0 0 0", json!({"verb": "node", "name": "A", "x": "0", "y": "0", "z": "0"}))]
#[case("node B from A up 1200", json!({"verb": "node", "name": "B", "from": "A", "x": "0", "y": "0",
    "z": "1200"}))]
#[case("node C from B west 40 north 2*t down 60", json!({"verb": "node", "name": "C", "from": "B",
    "x": "-40", "y": "2*t", "z": "-60"}))]
#[case("node C south 2*t", json!({"verb": "node", "name": "C", "x": "0", "y": "-(2*t)", "z": "0"}))]
#[case("node M between A and B, 1/3 of the way", json!({"verb": "between", "name": "M", "from": "A",
    "to": "B", "by": "share", "at": "1/3"}))]
#[case("node M between A and B, 300 along", json!({"verb": "between", "name": "M", "from": "A", "to": "B",
    "by": "length", "at": "300"}))]
#[case("node M between A and B, 3/4in along", json!({"verb": "between", "name": "M", "from": "A", "to": "B",
    "by": "length", "at": "3/4in"}))]
#[case("node P on rail-1, 1/3 of the way", json!({"verb": "on", "name": "P", "member": "rail-1",
    "by": "share", "at": "1/3"}))]
#[case("node P on bow-1, 250 along", json!({"verb": "on", "name": "P", "member": "bow-1", "by": "length",
    "at": "250"}))]
#[case("node P on post-1, 1/2 of the way", json!({"verb": "on", "name": "P", "member": "post-1",
    "by": "share", "at": "1/2"}))]
#[case("rail from A to B, 60×60×3", json!({"verb": "members", "name": "rail", "path": ["A", "B"],
    "section": "60×60×3"}))]
#[case("rail A B RHS 80x40x3 turned 90", json!({"verb": "members", "name": "rail", "path": ["A", "B"],
    "section": "RHS 80x40x3", "turn": "90"}))]
#[case("post A B C closed turn 45 top", json!({"verb": "members", "name": "post", "path": ["A", "B", "C"],
    "closed": true, "section": "", "turn": "45", "sits": "top"}))]
#[case("pipe A B C 48.3x3 bent 150", json!({"verb": "members", "name": "pipe", "path": ["A", "B", "C"],
    "section": "48.3x3", "radius": "150"}))]
#[case("rail A M B arc", json!({"verb": "members", "name": "rail", "path": ["A", "M", "B"], "arc": true}))]
#[case("hoop A M B closed, arc 33.7x3", json!({"verb": "members", "name": "hoop", "path": ["A", "M", "B"],
    "closed": true, "section": "33.7x3", "arc": true}))]
#[case("brace A D L 60x40x5 centroid", json!({"verb": "members", "name": "brace", "path": ["A", "D"],
    "section": "L 60x40x5", "sits": "centroid"}))]
#[case("mitre B C", json!({"verb": "joint", "at": ["B", "C"], "how": "mitre"}))]
#[case("butt B first post-1 rail-2 gap 2", json!({"verb": "joint", "at": ["B"], "how": "butt",
    "first": ["post-1", "rail-2"], "gap": "2"}))]
#[case("trim brace-1 start by rail-1 gap 1", json!({"verb": "trim", "member": "brace-1", "tip": "start",
    "by": {"by": "member", "member": "rail-1"}, "gap": "1"}))]
#[case("trim brace-1 end at up 800 lengthen", json!({"verb": "trim", "member": "brace-1", "tip": "end",
    "by": {"by": "plane", "way": "up", "at": "800"}, "lengthen": true}))]
#[case("mirror about east 0", json!({"verb": "mirror_frame", "of": [], "across": "east", "at": "0"}))]
#[case("repeat 4 north 500", json!({"verb": "repeat_frame", "of": [], "count": "4", "x": "0", "y": "500",
    "z": "0"}))]
#[case("holes 9 on rail-1, 50 from its start, top, 12 off the middle, through, 5 x 100",
    json!({"verb": "hole", "members": ["rail-1"], "face": "top", "diameter": "9", "at": "50", "off": "12",
        "through": true, "count": "5", "pitch": "100"}))]
#[case("notch rail-1 end 6 x 80 left through", json!({"verb": "notch_end", "members": ["rail-1"],
    "tip": "end", "face": "left", "width": "6", "length": "80", "through": true}))]
#[case("cap B C thick 3 inset 1", json!({"verb": "cap", "at": ["B", "C"], "thickness": "3", "inset": "1"}))]
#[case("foot A 120 x 150 thick 8 hole 11 edge 22", json!({"verb": "base", "at": ["A"], "width": "120",
    "length": "150", "thickness": "8", "hole": "11", "edge": "22"}))]
#[case("gusset B A C leg 100 thick 6 nose 10 snipe 12 both", json!({"verb": "gusset", "at": "B",
    "between": ["A", "C"], "leg": "100", "thickness": "6", "nose": "10", "snipe": "12", "place": "both"}))]
#[case("plate A B C D over thick 6 clearance 1", json!({"verb": "fit", "around": ["A", "B", "C", "D"],
    "thickness": "6", "clearance": "1", "over": true}))]
#[case("lug rail-1 top at 500 thick 12 radius 30 eye 26 height 60", json!({"verb": "lug", "member": "rail-1",
    "face": "top", "at": "500", "base_length": "", "base_width": "", "thickness": "12", "radius": "30",
        "eye": "26", "height": "60"}))]
#[case("clamp post-1 at 300 outside 63.5 wide 30 clearance 0.2 split 5 ear 28 thick 8 bolt 9",
    json!({"verb": "ring_clamp", "member": "post-1", "at": "300", "outside": "63.5", "width": "30",
        "clearance": "0.2", "split": "5", "ear": "28", "thickness": "8", "bolt": "9"}))]
#[case("stack on B 100x80x20 shim 60×60×5", json!({"verb": "stack", "at": "B", "blocks": [{"name": "block",
    "length": "100", "width": "80", "height": "20"}, {"name": "shim", "length": "60", "width": "60",
        "height": "5"}]}))]
#[case("weld fillet 4", json!({"verb": "weld", "at": [], "kind": "fillet", "size": "4"}))]
#[case("weld B C butt", json!({"verb": "weld", "at": ["B", "C"], "kind": "butt"}))]
#[case("assembly F-1A side post-1 rail-2", json!({"verb": "assembly", "mark": "F-1A", "name": "side",
    "of": ["post-1", "rail-2"]}))]
fn a_line_says(#[case] text: &str, #[case] wanted: Value) {
    let say = read_frame_line(text, &knowing()).unwrap_or_else(|f| panic!("{text}: {}", f.message));
    let mut told = serde_json::to_value(&say).unwrap();
    // What is empty or the usual is not looked at unless it is named.
    let told = told.as_object_mut().unwrap();
    for (key, value) in wanted.as_object().unwrap() {
        let empty = value == "" && !told.contains_key(key);
        assert!(
            empty || told.get(key) == Some(value),
            "{text}: {key} is {:?}, wanted {value}",
            told.get(key)
        );
    }
    let usual = |k: &str, v: &Value| {
        matches!(v, Value::Bool(false))
            || v == ""
            || (k == "sits" && v == "middle")
            || (k == "place" && v == "middle")
            || (k == "face" && v == "top")
    };
    let more: Vec<_> =
        told.iter().filter(|(k, v)| !wanted.as_object().unwrap().contains_key(*k) && !usual(k, v)).collect();
    assert!(more.is_empty(), "{text}: says {more:?} besides");
}

#[rstest]
#[case("", "empty")]
#[case("beams A B", "starts with 'beams'")]
#[case("rail A", "path is missing")]
#[case("mitre", "nodes are missing")]
#[case("node", "name is missing")]
#[case("node N from", "missing")]
#[case("node N from A sideways 5", "missing")]
#[case("repeat", "count is missing")]
#[case("trim rail-1 end", "goes on")]
#[case("gusset B A C thick 6", "leg is missing")]
#[case("foot A 120", "width is missing")]
#[case("cap B", "thickness is missing")]
#[case("plate A B C D clearance 1", "thickness is missing")]
#[case("lug rail-1 thick 12", "distance along is missing")]
#[case("clamp post-1 outside 60", "distance along is missing")]
#[case("stack B", "block east is missing")]
#[case("stack B 100x80", "goes on")]
#[case("stack B pad 100x80", "goes on")]
#[case("weld nowhere", "node")]
#[case("assembly F-1A", "name is missing")]
#[case("notch rail-1 end 6", "length is missing")]
#[case("mirror up 0 twice", "'twice' is not understood")]
fn a_line_is_refused(#[case] text: &str, #[case] says: &str) {
    let f = read_frame_line(text, &Context::default()).expect_err(text);
    assert!(f.message.contains(says), "{text}: {}", f.message);
    assert!(!f.mend.is_empty());
    let (from, to) = (f.start, f.end);
    assert!(from <= to && to <= text.chars().count().max(1), "{text}: {from}..{to}");
}

#[test]
fn a_line_is_no_longer_than_can_be_read() {
    let f = read_frame_line(&"rail ".repeat(50_000), &Context::default()).unwrap_err();
    assert!(f.message.contains("200000"), "{}", f.message);
}

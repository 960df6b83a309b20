//! What mends a frame: each patch, carried out, makes its finding go; each way to close a node becomes the
//! way
//! that it is closed.

use rstest::rstest;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::FrameResult;
use steelk_core::job::{Frame, Job, JointHow};
use steelk_core::result::Mend;

use crate::common::frame::*;
use crate::common::patched;

fn again(job: &Job, frame: &Frame, mend: &Mend) -> FrameResult {
    let r = evaluate_frame(job, &patched(frame, mend));
    assert!(r.faults.is_empty(), "{}: {:?}", mend.label, r.faults);
    r
}

#[rstest]
#[case::twice("double", "60x60x3", &["node A 0 0 0", "node B 500 0 0", "rail A B", "bar A B"],
    "switch bar-1 off")]
#[case::lengthened(
    "trim_would_lengthen", "60x60x3",
    &["node A 0 0 0", "node B 500 0 0", "rail A B", "trim rail-1 end east 520"],
    "let it lengthen"
)]
#[case::tight(
    "tight_bend", "48.3x3",
    &["node A 0 0 0", "node B 500 0 0", "node C 500 400 0", "pipe A B C bent 90"],
    "bend it round 96.6 mm"
)]
#[case::small(
    "weld_small", "60x60x3",
    &["node A 0 0 0", "node B 500 0 0", "rail A B", "node M between A and B, 1/2 of the way",
        "node N 250 0 400", "post M N", "weld fillet 2"],
    "make the leg 3.0 mm"
)]
#[case::large(
    "weld_large", "60x60x3",
    &["node A 0 0 0", "node B 500 0 0", "rail A B", "node M between A and B, 1/2 of the way",
        "node N 250 0 400", "post M N", "weld fillet 5"],
    "make the leg 3.0 mm"
)]
fn mends_mend(#[case] check: &str, #[case] section: &str, #[case] lines: &[&str], #[case] label: &str) {
    let (job, frame) = told(section, JointHow::Butt, lines);
    let before = evaluate_frame(&job, &frame);
    let f = before.findings.iter().find(|f| f.check == check).unwrap_or_else(|| panic!("no {check}"));
    let mend = f.mend.as_ref().unwrap_or_else(|| panic!("no mend of {check}"));
    assert_eq!(mend.label, label);
    let after = again(&job, &frame, mend);
    assert!(after.findings.iter().all(|f| f.check != check), "{:?}", after.findings);
}

/// A line that makes others too is not switched off for one of them.
#[test]
fn a_line_of_several_is_not_switched_off() {
    let lines = ["node A 0 0 0", "node B 500 0 0", "node C 500 400 0", "rail A B", "bar A B C"];
    let (job, frame) = told("60x60x3", JointHow::Butt, &lines);
    let r = evaluate_frame(&job, &frame);
    let f = r.findings.iter().find(|f| f.check == "double").unwrap();
    assert_eq!(f.mend, None);
}

const CORNER: [&str; 8] = [
    "node A 0 0 0",
    "node B 500 0 0",
    "node C 500 400 0",
    "node D 500 0 300",
    "rail A B",
    "rail B C",
    "post B D",
    "brace A C",
];

/// Every way at every node, told in a line of its own, in one of several nodes, or not at all.
#[rstest]
#[case::untold(&[])]
#[case::own(&["butt at B, gap 2"])]
#[case::several(&["mitre at A B C"])]
#[case::both(&["mitre at A B", "butt at B C, first rail-2"])]
#[case::mitred_usually(&["mitre at A"])]
fn a_chosen_way_is_the_way_it_closes(#[case] told_too: &[&str]) {
    let lines: Vec<&str> = CORNER.iter().chain(told_too).copied().collect();
    for usual in [JointHow::Mitre, JointHow::Butt] {
        let (job, frame) = told("60x60x3", usual, &lines);
        let r = evaluate_frame(&job, &frame);
        assert!(r.faults.is_empty(), "{:?}", r.faults);
        assert_eq!(r.joints.len(), r.choices.len());
        let mut tried = 0;
        for (j, choices) in r.joints.iter().zip(&r.choices) {
            let node = &r.nodes[j.node].name;
            for c in choices.iter().skip(1) {
                let after = again(&job, &frame, &c.mend);
                let i = after.joints.iter().position(|k| after.nodes[k.node].name == *node).unwrap();
                assert_eq!(after.choices[i][0].words, c.words, "at {node}, from {}", choices[0].words);
                // Others close as they did.
                for (k, own) in r.joints.iter().zip(&r.choices).filter(|(k, _)| k.node != j.node) {
                    let name = &r.nodes[k.node].name;
                    let i = after.joints.iter().position(|x| after.nodes[x.node].name == *name).unwrap();
                    let first = |c: &[steelk_core::frame::JointChoice]| c.first().map(|c| c.words.clone());
                    assert_eq!(first(&after.choices[i]), first(own), "{name}, after {} at {node}", c.words);
                }
                tried += 1;
            }
        }
        assert!(tried >= 5, "{tried}");
    }
}

/// A gap that was told stays; an id that was given out is not given again.
#[test]
fn what_was_told_beside_it_stays() {
    let lines: Vec<&str> = CORNER.iter().copied().chain(["butt at B, gap 2"]).collect();
    let (job, mut frame) = told("60x60x3", JointHow::Butt, &lines);
    let of = |frame: &Frame, node: &str| {
        let r = evaluate_frame(&job, frame);
        let i = r.joints.iter().position(|j| r.nodes[j.node].name == node).unwrap();
        patched(frame, &r.choices[i][1].mend)
    };
    let line = of(&frame, "B").lines.into_iter().find(|l| l.id == "butt-1").unwrap();
    assert!(serde_json::to_string(&line).unwrap().contains("\"gap\":\"2\""));
    frame.issued.insert("joint".into(), 4);
    let after = of(&frame, "A");
    assert_eq!(after.lines.last().unwrap().id, "joint-5");
    assert_eq!(after.issued["joint"], 5);
}

//! Frames from typed lines.
#![allow(dead_code)]

use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::*;
use steelk_core::grammar::Context;
use steelk_core::job::*;

/// A frame of S235, its lines typed; ids are `word-n`.
pub fn frame(section: &str, joint: JointHow, lines: &[&str]) -> FrameResult {
    let (job, frame) = told(section, joint, lines);
    evaluate_frame(&job, &frame)
}

pub fn told(section: &str, joint: JointHow, lines: &[&str]) -> (Job, Frame) {
    let mut nodes = std::collections::HashSet::new();
    let mut out = Vec::new();
    for text in lines {
        let say = read_frame_line(text, &Context { nodes: nodes.clone(), ..Context::default() })
            .unwrap_or_else(|f| panic!("{text}: {} {}", f.message, f.mend));
        if let FrameOperation::Node(NodeSaid { name, .. })
        | FrameOperation::Between(Between { name, .. })
        | FrameOperation::On(On { name, .. }) = &say
        {
            nodes.insert(name.clone());
        }
        let stem = text.split_whitespace().next().unwrap();
        let n = out.iter().filter(|l: &&FrameLine| l.id.starts_with(&format!("{stem}-"))).count() + 1;
        out.push(FrameLine::new(format!("{stem}-{n}"), say));
    }
    let f = Frame {
        id: "f".into(),
        mark: "F".into(),
        quantity: "1".into(),
        material: "s235".into(),
        section: section.into(),
        joint,
        lines: out,
        ..Frame::default()
    };
    (Job { format: FORMAT, ..Job::default() }, f)
}

pub fn clean(r: &FrameResult) {
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let stops: Vec<_> = r
        .findings
        .iter()
        .filter(|f| f.severity != steelk_core::result::Severity::Note)
        .map(|f| &f.message)
        .collect();
    assert!(stops.is_empty(), "{stops:?}");
}

pub fn of<'a>(r: &'a FrameResult, name: &str) -> (&'a Member, &'a MemberFacts) {
    let i =
        r.members.iter().position(|m| m.name == name).unwrap_or_else(|| {
            panic!("no {name}: {:?}", r.members.iter().map(|m| &m.name).collect::<Vec<_>>())
        });
    (&r.members[i], &r.facts[i])
}

pub fn plane(c: &Cut) -> Plane {
    match c {
        Cut::Plane(p) => *p,
        other => panic!("{other:?}"),
    }
}

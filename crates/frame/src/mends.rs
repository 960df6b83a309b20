//! What a frame's lines are changed to where a joint or a finding is to be otherwise: patches of the frame.

use grammar::Numbers;
use ground::finding::{Mend, Patch};
use ground::quantity::Display;
use serde_json::{Value, json};

use crate::choices::{JointChoice, JointHow, WeldKind};
use crate::document::{Frame, FrameLine};
use crate::joints::{Joint, Role};
use crate::result::FrameResult;
use crate::verbs::FrameOperation;

/// The lines of a frame, to be changed.
pub struct Mends<'a> {
    frame: &'a Frame,
}

impl<'a> Mends<'a> {
    pub fn of(frame: &'a Frame) -> Self {
        Mends { frame }
    }

    /// Lines that are on, with their places, the last first.
    fn lines(&self) -> impl Iterator<Item = (usize, &'a FrameLine)> {
        self.frame.lines.iter().enumerate().rev().filter(|(_, l)| !l.off)
    }

    fn line(&self, id: &str) -> Option<(usize, &'a FrameLine)> {
        self.lines().find(|(_, l)| l.id == id)
    }

    /// A field of a line is told anew.
    pub fn set(
        &self,
        line: &str,
        field: &str,
        value: impl Into<Value>,
        label: impl FnOnce() -> String,
    ) -> Option<Mend> {
        let (i, _) = self.line(line)?;
        let patch = vec![Patch::add(format!("/lines/{i}/say/{field}"), value.into())];
        Some(Mend { label: label(), patch })
    }

    /// A length that a line tells is told as another.
    pub fn resized(&self, line: &str, field: &str, d: &Display, to: f64, words: &str) -> Option<Mend> {
        let (_, told) = self.line(line)?;
        let said = serde_json::to_value(&told.say).ok()?;
        // What nothing tells is not of this line.
        said.get(field).and_then(Value::as_str).filter(|t| !t.trim().is_empty())?;
        self.set(line, field, d.typed(to), || format!("{words} {}", d.length_unit(to)))
    }

    pub fn off(&self, line: &str) -> Option<Mend> {
        let (i, _) = self.line(line)?;
        let patch = vec![Patch::add(format!("/lines/{i}/off"), true.into())];
        Some(Mend { label: format!("switch {line} off"), patch })
    }

    /// The leg of the fillet that a line tells for this node, or for all.
    pub fn leg(&self, at: &str, d: &Display, leg: f64) -> Option<Mend> {
        let (_, line) = self.lines().find(|(_, l)| match &l.say {
            FrameOperation::Weld(w) => {
                w.kind == WeldKind::Fillet && (w.at.is_empty() || w.at.iter().any(|n| n == at))
            }
            _ => false,
        })?;
        self.resized(&line.id, "size", d, leg, "make the leg")
    }

    /// The ways a node can be closed, the present one first.
    pub fn choices(&self, r: &FrameResult, joint: &Joint) -> Vec<JointChoice> {
        let ends: Vec<_> = joint.members_at_node.iter().filter(|a| a.1 != Role::Passes).collect();
        if ends.len() < 2 {
            return Vec::new();
        }
        let passing = joint.members_at_node.len() > ends.len();
        let node = &r.nodes[r.nodes[joint.node].root].name;
        let name = |member: usize| r.members[member].name.clone();
        let choice = |how, words: String, first: Vec<String>, members| JointChoice {
            how,
            mend: Mend { label: words.clone(), patch: self.joint(node, how, &first) },
            words,
            members,
        };
        let mut all = Vec::new();
        if !passing {
            let members = ends.iter().map(|e| name(e.0.member)).collect();
            all.push(choice(JointHow::Mitre, "mitre".into(), Vec::new(), members));
        }
        let firsts = all.len();
        for (a, _) in &ends {
            let own = name(a.member);
            let words =
                if passing { format!("{own} before the others") } else { format!("{own} runs through") };
            all.push(choice(JointHow::Butt, words, vec![name(r.members[a.member].root)], vec![own]));
        }
        let mitred = ends.iter().any(|e| e.1 == Role::Mitred);
        // Ends are told in the order that they run through.
        let now = if mitred && !passing { 0 } else { firsts };
        all.rotate_left(now);
        all
    }

    /// How a node closes is told: in its own line, which is made where there is none.
    fn joint(&self, node: &str, how: JointHow, first: &[String]) -> Vec<Patch> {
        let mut say = json!({ "verb": "joint", "at": [node], "how": how });
        if !first.is_empty() {
            say["first"] = json!(first);
        }
        let mut told = self.lines().filter_map(|(i, l)| match &l.say {
            FrameOperation::Joint(j) if j.at.iter().any(|n| n == node) => Some((i, j)),
            _ => None,
        });
        let last = told.next();
        if let Some((i, j)) = last.filter(|(_, j)| j.at.len() == 1) {
            if !j.gap.is_empty() {
                say["gap"] = json!(j.gap);
            }
            return vec![Patch::replace(format!("/lines/{i}/say"), say)];
        }
        // A line for several nodes lets this one go.
        let mut out: Vec<Patch> = last
            .into_iter()
            .chain(told)
            .filter(|(_, j)| j.at.len() > 1)
            .map(|(i, j)| {
                let rest: Vec<&String> = j.at.iter().filter(|n| *n != node).collect();
                Patch::replace(format!("/lines/{i}/say/at"), json!(rest))
            })
            .collect();
        let mut numbers = Numbers::of(self.frame.lines.iter().map(|l| l.id.as_str()));
        self.frame.issued.iter().for_each(|(stem, n)| numbers.issued(stem, u64::from(*n)));
        let id = numbers.next("joint");
        if let Some((stem, n)) = grammar::numbered(&id) {
            let mut issued = self.frame.issued.clone();
            issued.insert(stem.into(), n.min(u64::from(u32::MAX)) as u32);
            out.push(Patch::add("/issued".into(), json!(issued)));
        }
        out.push(Patch::add("/lines/-".into(), json!({ "id": id, "say": say })));
        out
    }
}

//! The lines of a frame, read in order: what they make of the skeleton, and what waits until it stands.

use std::collections::{HashMap, HashSet};

use super::bar::Surface;
use super::joints::Told;
use super::model::{Cause, Trim};
use super::result::Assembly;
use super::skeleton::Known;
use super::skeleton::{self, Skeleton};
use super::{copying, holes, plates};
use crate::document::{Frame, FrameLine};
use crate::verbs::{FrameSay, WeldKind};
use ground::line_names::own_name;
use ground::reader::{Range, Reader};

/// What lines say besides the skeleton, gathered on the way.
#[derive(Default)]
pub struct Said {
    pub joints: HashMap<usize, Told>,
    pub plates: Vec<usize>,
    pub welds: Vec<(Vec<usize>, WeldKind, Option<f64>)>,
    pub assemblies: Vec<(Assembly, Vec<String>)>,
}

/// Lines that are on and have names of their own; the others are told and left out.
pub fn own_ids<'a>(reader: &mut Reader, frame: &'a Frame) -> Vec<&'a FrameLine> {
    let mut seen = HashSet::new();
    frame.lines.iter().filter(|l| !l.off && own_name(reader, &mut seen, &l.id)).collect()
}

/// The lines in order. A line that fails is left out, and the rest goes on.
pub fn say(
    reader: &mut Reader,
    s: &mut Skeleton,
    known: &Known,
    frame: &Frame,
    lines: &[&FrameLine],
) -> Said {
    let mut said = Said::default();
    let mut above: Vec<String> = Vec::new();
    for (i, line) in lines.iter().enumerate() {
        reader.enter(&line.id);
        match &line.say {
            FrameSay::Node(n) => s.say_node(reader, &line.id, n),
            FrameSay::Between(n) => s.say_between(reader, &line.id, n),
            FrameSay::On(n) => s.say_on(reader, &line.id, n),
            FrameSay::Members(m) => s.say_members(reader, known, frame, line, m),
            FrameSay::Trim(t) => s.say_trim(reader, &line.id, t),
            FrameSay::MirrorFrame(m) => s.say_mirror(reader, &line.id, m, &above),
            FrameSay::RepeatFrame(r) => s.say_repeat(reader, &line.id, r, &above),
            FrameSay::Hole(h) => holes::holes(reader, s, h),
            FrameSay::NotchEnd(n) => holes::notches(reader, s, n),
            FrameSay::Base(b) => base_room(reader, s, &line.id, b, &mut said, i),
            FrameSay::Cap(_)
            | FrameSay::Gusset(_)
            | FrameSay::Fit(_)
            | FrameSay::Lug(_)
            | FrameSay::RingClamp(_)
            | FrameSay::Stack(_) => {
                said.plates.push(i);
                Some(())
            }
            FrameSay::Joint(j) => joint(reader, s, &line.id, j, &mut said),
            FrameSay::Weld(w) => weld_said(reader, s, w, &mut said),
            FrameSay::Assembly(a) => copying::lines_named(reader, &a.of, &above).map(|of| {
                said.assemblies.push((
                    Assembly { mark: a.mark.trim().into(), name: a.name.trim().into(), copies: 0 },
                    of,
                ));
            }),
        };
        if skeleton::makes(&line.say) {
            above.push(line.id.clone());
        }
    }
    said
}

/// A base plate takes its thickness off the post that stands on it.
fn base_room(
    reader: &mut Reader,
    s: &mut Skeleton,
    line: &str,
    say: &crate::verbs::BaseSaid,
    said: &mut Said,
    i: usize,
) -> Option<()> {
    for (plate, member, end) in plates::base(reader, s, say)? {
        let bar = s.members[member].end(end);
        let surface = Surface::Plane { at: bar.o + bar.d * plate.thickness, normal: bar.d };
        let trim = Trim { surface, cause: Cause::Told, by: None };
        s.told.push(skeleton::ToldTrim { line: line.into(), member, end, trim, lengthen: false });
    }
    said.plates.push(i);
    Some(())
}

fn joint(
    reader: &mut Reader,
    s: &Skeleton,
    line: &str,
    say: &crate::verbs::JointSaid,
    said: &mut Said,
) -> Option<()> {
    let gap = if say.gap.trim().is_empty() {
        None
    } else {
        Some(reader.length("/say/gap", &say.gap, Range::ZeroUp)?)
    };
    let mut first = Vec::new();
    for (i, name) in say.first.iter().enumerate() {
        first.push(s.known_member(reader, &format!("/say/first/{i}"), name)?);
    }
    for (i, name) in say.at.iter().enumerate() {
        let node = s.known(reader, &format!("/say/at/{i}"), name)?;
        said.joints.insert(node, Told { line: line.into(), how: say.how, first: first.clone(), gap });
    }
    Some(())
}

fn weld_said(reader: &mut Reader, s: &Skeleton, say: &crate::verbs::WeldSaid, said: &mut Said) -> Option<()> {
    let size = if say.size.trim().is_empty() {
        None
    } else {
        Some(reader.length("/say/size", &say.size, Range::AboveZero)?)
    };
    let mut at = Vec::new();
    for (i, name) in say.at.iter().enumerate() {
        at.push(s.known(reader, &format!("/say/at/{i}"), name)?);
    }
    said.welds.push((at, say.kind, size));
    Some(())
}

//! `mitre`, `butt`: how the ends at a node close, where the frame's usual way is not meant.

use grammar::*;
use ground::reader::{Range, Reader};

use crate::build::overrides::{FrameOverrides, JointOverride};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Spec, Spoken, Tells, Turn, Usual};
use crate::choices::JointHow;

pub static VERB: Verb = Verb {
    tag: "joint",
    stem: "joint",
    about: "How the ends at a node close, where the frame's usual way is not meant.",
    role: Role::Other,
    starts: &[Start { key: 'j', name: "joint", mm: "butt at $node", inch: "butt at $node" }],
    offers: &[],
    sentence: &[
        Pick::new("/how", "joint", &[("mitre", "Mitre|mitre"), ("butt", "Butt|butt")]).begins().part(),
        printed("at"),
        row("/at", "nodes", Kind::Node),
        clause(&[word("first|first|through|the two"), row_or("/first", "first", Kind::Member, "as ranked")]),
        clause(&[word("gap"), length_or("/gap", "gap", "usual")]),
    ],
    examples: &["mitre at B C", "butt at B, first post-1 rail-2, gap 2"],
};

spoken! {
    /// How the ends at these nodes close, where the frame's usual way is not meant.
    pub struct JointSaid {
        pub at: Vec<String>,
        pub how: JointHow,
        /// Members in the order they run through; the first two are mitred with one another.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub first: Vec<String>,
        /// Left open for the weld.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
    }
}

struct JointSpec {
    at: Vec<String>,
    how: JointHow,
    first: Vec<String>,
    gap: Option<f64>,
}

impl Spoken for JointSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let gap = reader.length_if("/say/gap", &self.gap, Range::ZeroUp)?;
        let (at, how, first) = (self.at.clone(), self.how, self.first.clone());
        Some(Spec::Tells(Box::new(JointSpec { at, how, first, gap })))
    }
}

impl Tells for JointSpec {
    fn tell(&self, turn: &mut Turn, skeleton: &Skeleton, told: &mut FrameOverrides) -> Option<()> {
        let mut first = Vec::new();
        for (i, name) in self.first.iter().enumerate() {
            first.push(skeleton.known_member(turn.tell, &format!("/say/first/{i}"), name)?);
        }
        let (how, gap) = (self.how, self.gap);
        for (i, name) in self.at.iter().enumerate() {
            let node = skeleton.known(turn.tell, &format!("/say/at/{i}"), name)?;
            let line = turn.line.into();
            told.joints.insert(node, JointOverride { line, how, first: first.clone(), gap });
        }
        Some(())
    }
}

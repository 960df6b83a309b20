//! `weld`: welds at nodes, where the usual fillet is not meant.

use grammar::*;
use ground::reader::{Range, Reader};

use crate::build::overrides::{FrameOverrides, WeldTold};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Spec, Spoken, Tells, Turn, Usual};
use crate::choices::WeldKind;

pub static VERB: Verb = Verb {
    tag: "weld",
    stem: "weld",
    about: "Welds at nodes, or everywhere, where the usual fillet is not meant.",
    role: Role::Other,
    starts: &[Start { key: 'w', name: "weld", mm: "weld fillet", inch: "weld fillet" }],
    offers: &[],
    sentence: &[
        verb("Weld|weld"),
        row_or("/at", "nodes", Kind::Node, "everywhere"),
        pick(
            "/kind",
            "kind",
            &[("fillet", "fillet"), ("butt", "butt weld|butt"), ("groove", "groove weld|groove")],
        ),
        Slot::new("/size", "size", Kind::Length).empty("smallest by rule").part(),
    ],
    examples: &["weld A B fillet 4", "weld butt"],
};

spoken! {
    /// Welds at these nodes, where the usual fillet is not meant.
    pub struct WeldSaid {
        /// Empty for all.
        pub at: Vec<String>,
        pub kind: WeldKind,
        /// Leg of a fillet; empty for the smallest that the rule allows.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub size: String,
    }
}

struct WeldSpec {
    at: Vec<String>,
    kind: WeldKind,
    size: Option<f64>,
}

impl Spoken for WeldSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let size = reader.length_if("/say/size", &self.size, Range::AboveZero)?;
        Some(Spec::Tells(Box::new(WeldSpec { at: self.at.clone(), kind: self.kind, size })))
    }
}

impl Tells for WeldSpec {
    fn tell(&self, turn: &mut Turn, skeleton: &Skeleton, told: &mut FrameOverrides) -> Option<()> {
        let mut at = Vec::new();
        for (i, name) in self.at.iter().enumerate() {
            at.push(skeleton.known(turn.tell, &format!("/say/at/{i}"), name)?);
        }
        told.welds.push(WeldTold { at, kind: self.kind, size: self.size });
        Some(())
    }
}

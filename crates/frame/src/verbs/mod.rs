//! What can be said of a frame: one file a verb, with its type, its sentence, its usual values, its keys and
//! its examples. A verb is registered by one line below.

mod assembly;
mod base;
mod between;
mod cap;
mod fit;
mod gusset;
mod hole;
mod joint;
mod lug;
mod members;
mod mirror_frame;
mod node;
mod notch_end;
mod on;
mod repeat_frame;
mod ring_clamp;
mod stack;
mod trim;
mod weld;

use grammar::{Context, verbs};
use ground::quantity::Fault;

pub use assembly::AssemblySaid;
pub use base::BaseSaid;
pub use between::{AlongBy, Between};
pub use cap::CapSaid;
pub use fit::FitSaid;
pub use gusset::{GussetPlace, GussetSaid};
pub use hole::{Face, HoleSaid};
pub use joint::{JointHow, JointSaid};
pub use lug::{LugSaid, LugWeld};
pub use members::{Members, Sits};
pub use mirror_frame::{MirrorFrame, Way};
pub use node::NodeSaid;
pub use notch_end::NotchEnd;
pub use on::On;
pub use repeat_frame::RepeatFrame;
pub use ring_clamp::RingSaid;
pub use stack::{Block, StackSaid};
pub use trim::{Tip, TrimBy, TrimSaid};
pub use weld::{WeldKind, WeldSaid};

verbs! {
    /// What a line of a frame does.
    FrameSay, FRAME:
    Node(node::NodeSaid),
    Between(between::Between),
    On(on::On),
    Members(members::Members),
    Joint(joint::JointSaid),
    Trim(trim::TrimSaid),
    MirrorFrame(mirror_frame::MirrorFrame),
    RepeatFrame(repeat_frame::RepeatFrame),
    Hole(hole::HoleSaid),
    NotchEnd(notch_end::NotchEnd),
    Cap(cap::CapSaid),
    Base(base::BaseSaid),
    Gusset(gusset::GussetSaid),
    Fit(fit::FitSaid),
    Lug(lug::LugSaid),
    RingClamp(ring_clamp::RingSaid),
    Stack(stack::StackSaid),
    Weld(weld::WeldSaid),
    Assembly(assembly::AssemblySaid),
}

/// A typed line of a frame → what it says.
pub fn read_frame_line(text: &str, context: &Context) -> Result<FrameSay, Fault> {
    grammar::into_type(grammar::read(&FRAME, text, context)?, text)
}

fn zero() -> String {
    "0".into()
}

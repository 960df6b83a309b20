//! What can be said of a frame: one file a verb, with its type, its sentence, its usual values, its keys and
//! its examples. A verb is registered by one line below.

mod assembly;
mod bar_legs;
mod base;
mod bent_bar;
mod between;
mod bore_plate;
mod cap;
mod cut_plate;
mod drill;
mod fit;
mod flatten;
mod gusset;
mod hole;
mod hopper;
mod hopper_corners;
mod joint;
mod lap;
mod lug;
mod members;
mod mirror_frame;
mod node;
mod notch_end;
mod older_sides;
mod on;
mod repeat_frame;
mod ribs;
mod rim;
mod rim_angles;
mod rim_gussets;
mod ring_clamp;
mod round_end;
mod stack;
mod stiffen;
mod through;
mod transition;
mod trim;
mod weld;

use glam::DVec3;
use grammar::{Context, verbs};
use ground::quantity::Fault;
use ground::reader::{Range, Reader};

use crate::build::spec::Spoken;

pub use crate::choices::*;
pub use assembly::AssemblySaid;
pub use bar_legs::{BarHeading, BarLeg, BendTowards};
pub use base::BaseSaid;
pub use bent_bar::{BentBarSaid, LegsTold, NeutralLine};
pub use between::{AlongBy, Between};
pub use bore_plate::BorePlateSaid;
pub use cap::CapSaid;
pub use cut_plate::{CutPlateSaid, RowWay, XFrom, YFrom};
pub use drill::DrillSaid;
pub use fit::FitSaid;
pub use flatten::{FlatLies, FlattenSaid};
pub use gusset::{GussetPlace, GussetSaid, UNDER_FLANGE};
pub use hole::HoleSaid;
pub use hopper::HopperSaid;
pub use hopper_corners::{HopperCornerOf, HopperCornerSaid, HopperCorners};
pub use joint::JointSaid;
pub use lap::{LapSaid, RailSide};
pub use lug::{LugSaid, LugWeld};
pub use members::Members;
pub use mirror_frame::MirrorFrame;
pub use node::NodeSaid;
pub use notch_end::NotchEnd;
pub use on::On;
pub use repeat_frame::RepeatFrame;
pub use ribs::{RibSpread, RibsAmong, RibsSaid};
pub use rim::RimSaid;
pub use ring_clamp::RingSaid;
pub use round_end::{RoundEndSaid, RoundOver};
pub use stack::{Block, StackSaid};
pub use stiffen::{AngleLeg, StiffenSaid};
pub use through::ThroughSaid;
pub use transition::{PanelCorners, TransitionSaid};
pub use trim::{TrimBy, TrimSaid};
pub use weld::WeldSaid;

verbs! {
    /// What a line of a frame does.
    FrameOperation as Spoken, FRAME:
    Node(node::NodeSaid),
    Between(between::Between),
    On(on::On),
    Members(members::Members),
    BentBar(bent_bar::BentBarSaid),
    Joint(joint::JointSaid),
    Trim(trim::TrimSaid),
    MirrorFrame(mirror_frame::MirrorFrame),
    RepeatFrame(repeat_frame::RepeatFrame),
    Hole(hole::HoleSaid),
    Drill(drill::DrillSaid),
    NotchEnd(notch_end::NotchEnd),
    RoundEnd(round_end::RoundEndSaid),
    Flatten(flatten::FlattenSaid),
    Cap(cap::CapSaid),
    Base(base::BaseSaid),
    Gusset(gusset::GussetSaid),
    Fit(fit::FitSaid),
    Lug(lug::LugSaid),
    RingClamp(ring_clamp::RingSaid),
    CutPlate(cut_plate::CutPlateSaid),
    BorePlate(bore_plate::BorePlateSaid),
    Stack(stack::StackSaid),
    Hopper(hopper::HopperSaid),
    Transition(transition::TransitionSaid),
    Rim(rim::RimSaid),
    RimAngles(rim_angles::RimAnglesSaid),
    RimGussets(rim_gussets::RimGussetsSaid),
    Stiffen(stiffen::StiffenSaid),
    Ribs(ribs::RibsSaid),
    Through(through::ThroughSaid),
    Lap(lap::LapSaid),
    Weld(weld::WeldSaid),
    Assembly(assembly::AssemblySaid),
}

/// A typed line of a frame → what it says.
pub fn read_frame_line(text: &str, context: &Context) -> Result<FrameOperation, Fault> {
    grammar::into_type(grammar::read(&FRAME, text, context)?, text)
}

/// A step east, north and up; what is not told is none.
fn steps(reader: &mut Reader, told: [&str; 3]) -> Option<DVec3> {
    let [x, y, z] = [("/say/x", told[0]), ("/say/y", told[1]), ("/say/z", told[2])]
        .map(|(path, text)| reader.length_or(path, text, Range::Any, 0.0));
    Some(DVec3::new(x?, y?, z?))
}

fn zero() -> String {
    "0".into()
}

//! What can be said of a piece: one file a verb, with its type, its sentence, its usual values, its keys and
//! its examples. A verb is registered by one line below.

mod bend_line;
pub(crate) mod bending;
pub mod bore;
pub mod bore_cases;
mod contour_rules;
mod corner;
mod dimension;
pub mod drill;
mod fill;
mod flap;
mod fold;
pub(crate) mod further;
mod hem;
mod joggle;
mod mirror;
mod notch;
mod pad;
mod path;
mod place;
mod press;
mod punch;
mod repeat;
mod rib;
mod ring;
mod round;
pub mod shape;
mod sizes;
mod start_channel;
mod start_cone;
mod start_contour;
mod start_outline;
mod start_plate;
mod start_rolled;
mod start_shape;
mod start_strip;
mod start_transition;
mod start_tray;
mod tab;
mod transition_choices;
mod transition_opening;

use crate::flat::spec::Spoken;
use grammar::{Context, Role, verbs};
use ground::quantity::Fault;
use serde::Deserialize;

pub use crate::choices::*;
pub use bend_line::{BendLine, Stays};
pub use bending::{BEND_K, BEND_TEST, Relief, SCHOOLS, Span};
pub use bore::{Bottom, Drilled};
pub use corner::Corner;
pub use dimension::{KeptDimension, Run};
pub use drill::{Drill, DrillSide};
pub use fill::{Fill, Pattern};
pub use flap::Flap;
pub use fold::{Fold, FoldMeasure, Reach};
pub use further::Further;
pub use hem::{Hem, HemKind};
pub use joggle::Joggle;
pub use mirror::Mirror;
pub use notch::{Notch, NotchShape};
pub use pad::Pad;
pub use path::Path;
pub use place::{Beside, Offset, Place};
pub use press::{Press, PressShape};
pub use punch::{Punch, PunchSpec};
pub use repeat::{Axis, Repeat, Spacing};
pub use rib::{Rib, RibEnd, RibShape};
pub use ring::Ring;
pub use round::Round;
pub use shape::{Point, Shape, SlotMeasure};
pub use start_channel::StartChannel;
pub use start_cone::StartCone;
pub use start_contour::{ArcWay, ContourRun, ContourSide, StartContour, Toward};
pub use start_outline::{OutlineSpec, StartOutline};
pub use start_plate::StartPlate;
pub use start_rolled::{Seam, StartRolled};
pub use start_shape::{CommonShape, StartShape};
pub use start_strip::{Bend, Element, Leg, ProfileArc, StartStrip, TOLD_FROM};
pub use start_transition::StartTransition;
pub use start_tray::{StartTray, TrayMeasure};
pub use tab::Tab;
pub use transition_opening::TransitionOpening;

/// Two openings, as sentences of pieces and of frames tell them.
pub mod openings {
    pub use super::transition_opening::{
        BOTTOM, OpeningsTold, TOP, TOP_EAST, TOP_NORTH, TOP_TILTED, TOP_TURNED,
    };
}

verbs! {
    /// What a line of a piece does.
    Operation as Spoken, PIECE:
    StartPlate(start_plate::StartPlate),
    StartStrip(start_strip::StartStrip),
    StartOutline(start_outline::StartOutline),
    StartShape(start_shape::StartShape),
    StartContour(start_contour::StartContour),
    StartChannel(start_channel::StartChannel),
    StartTray(start_tray::StartTray),
    StartRolled(start_rolled::StartRolled),
    StartCone(start_cone::StartCone),
    StartTransition(start_transition::StartTransition),
    Fold(fold::Fold),
    Corner(corner::Corner),
    BendLine(bend_line::BendLine),
    Hem(hem::Hem),
    Joggle(joggle::Joggle),
    Tab(tab::Tab),
    Flap(flap::Flap),
    Notch(notch::Notch),
    Punch(punch::Punch),
    Drill(drill::Drill),
    Fill(fill::Fill),
    Rib(rib::Rib),
    Press(press::Press),
    Pad(pad::Pad),
    Round(round::Round),
    Repeat(repeat::Repeat),
    Ring(ring::Ring),
    Path(path::Path),
    Mirror(mirror::Mirror),
    Dimension(dimension::KeptDimension),
}

impl Operation {
    pub fn is_start(&self) -> bool {
        self.verb().role == Role::Start
    }

    pub fn bends(&self) -> bool {
        self.verb().role == Role::Bend
    }

    /// Makes features that can be repeated and mirrored.
    pub fn is_cut(&self) -> bool {
        self.verb().role == Role::Cut
    }
}

/// A typed line of a piece → what it says.
pub fn read_line(text: &str, context: &Context) -> Result<Operation, Fault> {
    grammar::into_type(grammar::read(&PIECE, text, context)?, text)
}

/// A value that is told and says nothing is the same as one that is not told.
fn unusual<'de, D, T>(from: D) -> Result<Option<T>, D::Error>
where
    D: serde::Deserializer<'de>,
    T: Default + PartialEq + Deserialize<'de>,
{
    Ok(Option::<T>::deserialize(from)?.filter(|v| *v != T::default()))
}

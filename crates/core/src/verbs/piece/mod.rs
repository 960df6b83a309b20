//! The lines of a piece.

mod bend_line;
mod bending;
mod corner;
mod fill;
mod fold;
mod hem;
mod joggle;
mod mirror;
mod notch;
mod path;
mod place;
mod press;
mod punch;
mod repeat;
mod rib;
mod ring;
mod round;
mod shape;
mod start_channel;
mod start_cone;
mod start_outline;
mod start_plate;
mod start_rolled;
mod start_strip;
mod start_tray;
mod tab;

use super::*;

pub use bend_line::{BendLine, LineAt, Stays};
pub use bending::{BEND_K, BEND_TEST, BendAt, Direction, Relief, ReliefKind, SCHOOLS, Span};
pub use corner::{Close, Corner, CornerRelief};
pub use fill::{Fill, Pattern};
pub use fold::{Fold, FoldMeasure, Further, Reach};
pub use hem::{Hem, HemKind};
pub use joggle::Joggle;
pub use mirror::Mirror;
pub use notch::{Notch, NotchShape};
pub use path::Path;
pub use place::{EdgeOf, From, Offset, Place, To};
pub use press::{Press, PressShape};
pub use punch::Punch;
pub use repeat::{Axis, Repeat, Spacing};
pub use rib::{Rib, RibEnd, RibShape};
pub use ring::Ring;
pub use round::{Round, Treatment};
pub use shape::{Point, Shape, SlotMeasure};
pub use start_channel::StartChannel;
pub use start_cone::{ConeEnds, StartCone};
pub use start_outline::StartOutline;
pub use start_plate::StartPlate;
pub use start_rolled::{Seam, StartRolled};
pub use start_strip::{Bend, Element, Leg, Measure, ProfileArc, Side, StartStrip};
pub use start_tray::{StartTray, TrayMeasure};
pub use tab::Tab;

verbs! {
    /// What a line of a piece does.
    Say, PIECE:
    StartPlate(start_plate::StartPlate),
    StartStrip(start_strip::StartStrip),
    StartOutline(start_outline::StartOutline),
    StartChannel(start_channel::StartChannel),
    StartTray(start_tray::StartTray),
    StartRolled(start_rolled::StartRolled),
    StartCone(start_cone::StartCone),
    Fold(fold::Fold),
    Corner(corner::Corner),
    BendLine(bend_line::BendLine),
    Hem(hem::Hem),
    Joggle(joggle::Joggle),
    Tab(tab::Tab),
    Notch(notch::Notch),
    Punch(punch::Punch),
    Fill(fill::Fill),
    Rib(rib::Rib),
    Press(press::Press),
    Round(round::Round),
    Repeat(repeat::Repeat),
    Ring(ring::Ring),
    Path(path::Path),
    Mirror(mirror::Mirror),
}

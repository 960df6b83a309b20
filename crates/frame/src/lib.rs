//! Welded frames: skeleton → joints → pieces. `evaluate_frame` is pure: the same frame gives the same result,
//! and no input makes it panic.

mod assembly;
mod bar;
mod bent;
mod body;
mod bores;
mod build;
pub mod choices;
mod chords;
mod clashes;
pub mod document;
mod drill;
mod duplicates;
mod end_cuts;
mod ends;
mod evaluate;
mod extent;
mod figures;
mod findings;
mod grouping;
mod hole_text;
mod interference;
mod joints;
mod list;
mod meets;
mod members_at_node;
mod mends;
mod model;
mod notches;
mod plate_places;
mod pressed;
mod profile;
mod result;
mod rounds;
mod scene;
mod section_card;
mod skin;
mod solid;
mod trims;
pub mod verbs;
mod weld;
mod weld_list;
mod worked_ends;
mod wrap;

pub use bar::{Bar, Motion, Surface};
pub use bent::{Bender, BenderCorner, BenderStep, bender};
pub use body::{Body, body};
pub use bores::Walls;
pub use build::overrides::Assembly;
pub use build::skeleton::{Skeleton, stand};
pub use build::spec::PieceOf;
pub use choices::JointChoice;
pub use end_cuts::EndCuts;
pub use ends::{Cut, EndRelation, Plane, SideView};
pub use evaluate::{MOST_FRAME_LINES, MOST_FRAMES, evaluate_frame, pieces_named};
pub use extent::extent;
pub use grouping::{Fit, Group};
pub use joints::{Joint, Role};
pub use list::{
    AssemblyRow, BarRow, BenderRow, BenderTable, CornerRow, CutCell, FrameList, PlateRow, SectionTotal,
    frame_list,
};
pub use members_at_node::MemberAtNode;
pub use model::{Cause, CentrelineSegment, EndCut, Hole, Member, Node};
pub use notches::{left_of, on_the_left};
pub use profile::Profile;
pub use result::{FrameResult, MemberFacts, Plate, PlatePlace};
pub use scene::{Place, Standing, standing, whole};
pub use section_card::{SectionCard, SectionFigure, section_cards};
pub use shop::settings::SawFacts;
pub use skin::{NoSkin, skin_holes, skin_outline, unrolled};
pub use solid::Lengths;
pub use weld::Weld;
pub use weld_list::WeldRow;
pub use wrap::{copes, round_the_outside, template_outline, wrap_template};

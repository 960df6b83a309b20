//! The job as it is said and stored: pieces, their recipes, the job's figures and settings. Values are kept as typed.

use serde::{Deserialize, Serialize};

use crate::quantity::{Display, Figure};
use crate::shopbook::BendRule;

/// The format number that this version writes and reads.
pub const FORMAT: u32 = 1;

macro_rules! said {
    ($(#[$m:meta])* pub struct $name:ident { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
        #[serde(deny_unknown_fields)]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub struct $name { $($body)* }
    };
}

macro_rules! word {
    ($(#[$m:meta])* pub enum $name:ident { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
        #[serde(rename_all = "snake_case")]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub enum $name { $($body)* }
    };
}

said! {
    /// A job: the document that is saved, sent and evaluated.
    pub struct Job {
        pub format: u32,
        pub title: String,
        #[serde(default)]
        pub number: String,
        #[serde(default)]
        pub customer: String,
        #[serde(default)]
        pub note: String,
        #[serde(default)]
        pub display: Display,
        #[serde(default)]
        pub bend_rule: BendRule,
        #[serde(default)]
        pub figures: Vec<Figure>,
        /// Sheets on the rack; the first is the usual one.
        #[serde(default)]
        pub stock: Vec<StockSheet>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub bend_table: Vec<TableRow>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub test_bends: Vec<TestBend>,
        /// The press brake that the piece is bent at.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub brake: Option<Brake>,
        #[serde(default)]
        pub pieces: Vec<Piece>,
    }
}

word! {
    /// The rolling direction in the flat.
    pub enum Rolling {
        /// Bends count as across it.
        #[default]
        Unknown,
        /// West to east.
        East,
        /// South to north.
        North,
    }
}

impl Rolling {
    pub fn is_unknown(&self) -> bool {
        *self == Rolling::Unknown
    }
}

word! {
    pub enum TableKind {
        #[default]
        Deduction,
        Allowance,
    }
}

said! {
    /// A row of the shop's bend table.
    pub struct TableRow {
        /// Id of a material; empty means any.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub material: String,
        pub thickness: String,
        /// Inside radius.
        pub radius: String,
        /// Angle swept.
        pub angle: String,
        #[serde(default)]
        pub kind: TableKind,
        pub value: String,
        /// The die it was made over, in words.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub die: String,
    }
}

said! {
    /// A strip of known length, bent once, its legs measured outside.
    pub struct TestStrip {
        pub length: String,
        pub a: String,
        pub b: String,
    }
}

said! {
    /// A test bend, repeated or not.
    pub struct TestBend {
        pub id: String,
        pub material: String,
        pub thickness: String,
        pub radius: String,
        pub angle: String,
        pub strips: Vec<TestStrip>,
        /// Die, date, who.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub note: String,
    }
}

said! {
    /// The shop's press brake.
    pub struct Brake {
        /// Greatest force, kN.
        pub force: String,
        /// Greatest length of bend.
        pub length: String,
        /// V openings of the dies on the rack.
        #[serde(default)]
        pub openings: Vec<String>,
    }
}

said! {
    /// A sheet size that flat patterns must fit.
    pub struct StockSheet {
        pub length: String,
        pub width: String,
    }
}

said! {
    pub struct Piece {
        /// Never changes once given; marks may.
        pub id: String,
        pub mark: String,
        pub name: String,
        pub quantity: String,
        /// Id of a material of the shop book.
        pub material: String,
        /// A length or a gauge (`16 ga`).
        pub thickness: String,
        /// Usual inside bend radius; empty means the smallest the material allows.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        /// Where this piece departs from the job's unit.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub display: Option<Display>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
        /// Which way the sheet was rolled, lying as its flat does; smallest radii are larger for bends along it.
        #[serde(default, skip_serializing_if = "Rolling::is_unknown")]
        pub rolling: Rolling,
        /// Names of bends in the order they are made, as far as a hand has set it; the rest follows as proposed.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub bend_order: Vec<String>,
        #[serde(default)]
        pub lines: Vec<Line>,
    }
}

/// One spoken line of a recipe.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Line {
    /// The stem of every name this line makes; never changes once given.
    pub id: String,
    /// Switched off: kept, but not carried out.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
    pub say: Say,
}

/// What a line does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "verb", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Say {
    StartPlate(StartPlate),
    StartStrip(StartStrip),
    StartOutline(StartOutline),
    StartChannel(StartChannel),
    StartTray(StartTray),
    StartRolled(StartRolled),
    StartCone(StartCone),
    Fold(Fold),
    Corner(Corner),
    BendLine(BendLine),
    Hem(Hem),
    Joggle(Joggle),
    Tab(Tab),
    Notch(Notch),
    Punch(Punch),
    Fill(Fill),
    Rib(Rib),
    Press(Press),
    Round(Round),
    Repeat(Repeat),
    Ring(Ring),
    Path(Path),
    Mirror(Mirror),
}

impl Say {
    pub fn is_start(&self) -> bool {
        use Say::*;
        matches!(self, StartPlate(_) | StartStrip(_) | StartOutline(_) | StartChannel(_) | StartTray(_) | StartRolled(_) | StartCone(_))
    }

    /// Makes features that `repeat`, `ring`, `path` and `mirror` can name.
    pub fn is_cut(&self) -> bool {
        use Say::*;
        matches!(self, Notch(_) | Punch(_) | Fill(_) | Rib(_) | Press(_) | Repeat(_) | Ring(_) | Path(_) | Mirror(_))
    }
}

said! {
    /// A rectangle centred on its middle.
    pub struct StartPlate {
        /// West to east.
        pub width: String,
        /// South to north.
        pub height: String,
    }
}

said! {
    /// A contour told point by point.
    pub struct StartOutline {
        pub points: Vec<Point>,
    }
}

said! {
    /// A corner of a told contour. `bulge` curves the side that leaves it: tan(sweep / 4), positive counter-clockwise.
    pub struct Point {
        pub x: String,
        pub y: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub bulge: String,
    }
}

word! {
    /// The face that leg lengths are told from.
    pub enum Measure {
        #[default]
        Outside,
        Inside,
        Middle,
    }
}

word! {
    /// Which way the width lies from the profile.
    pub enum Side {
        #[default]
        Symmetric,
        North,
        South,
    }
}

word! {
    pub enum Direction {
        #[default]
        Up,
        Down,
    }
}

said! {
    /// A strip told by its side profile: legs, bends and arcs from west to east.
    pub struct StartStrip {
        pub width: String,
        #[serde(default)]
        pub side: Side,
        #[serde(default)]
        pub measure: Measure,
        pub profile: Vec<Element>,
        /// Id of the leg that lies still; empty means the first.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub stays: String,
    }
}

/// A part of a strip's profile.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Element {
    Leg(Leg),
    Bend(Bend),
    Arc(ProfileArc),
}

impl Element {
    pub fn id(&self) -> &str {
        match self {
            Element::Leg(e) => &e.id,
            Element::Bend(e) => &e.id,
            Element::Arc(e) => &e.id,
        }
    }
}

said! {
    pub struct Leg {
        pub id: String,
        pub length: String,
    }
}

said! {
    /// A bend between two legs; leg lengths run to its virtual sharp.
    pub struct Bend {
        pub id: String,
        /// Angle swept: 90 for a square flange.
        pub angle: String,
        #[serde(default)]
        pub direction: Direction,
        /// Inside radius; empty means the piece's.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
    }
}

said! {
    /// A curved part of the profile; neighbouring legs run to its tangent points.
    pub struct ProfileArc {
        pub id: String,
        /// Of the face that the strip is told from.
        pub radius: String,
        pub angle: String,
        #[serde(default)]
        pub direction: Direction,
    }
}

said! {
    /// Cuts a shape out.
    pub struct Punch {
        pub shape: Shape,
        pub place: Place,
    }
}

/// The shape of a cut, lying along x before it is turned.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Shape {
    Round {
        diameter: String,
    },
    Square {
        side: String,
    },
    Rectangle {
        width: String,
        height: String,
    },
    Slot {
        length: String,
        width: String,
        #[serde(default)]
        measure: SlotMeasure,
    },
    /// Two equal sides, point to the north.
    Triangle {
        base: String,
        height: String,
    },
    /// Regular, told across its flats.
    Polygon {
        sides: String,
        across: String,
    },
    /// An entry for the head and a slot for the shank, the slot to the north.
    Keyhole {
        entry: String,
        slot: String,
        /// From the middle of the entry to the end of the slot.
        length: String,
    },
    /// A circle with one flat, to the south; `across` from the flat to the far side.
    D {
        diameter: String,
        across: String,
    },
    Outline {
        points: Vec<Point>,
    },
}

impl Default for Shape {
    fn default() -> Self {
        Shape::Round { diameter: String::new() }
    }
}

word! {
    pub enum SlotMeasure {
        #[default]
        Overall,
        Centres,
    }
}

said! {
    /// Where a shape goes: on a panel, or in the flat across bends.
    pub struct Place {
        /// `flat`, or the name of a panel.
        #[serde(default = "flat")]
        pub on: String,
        pub x: Offset,
        pub y: Offset,
        /// Turned counter-clockwise; empty means not.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub turn: String,
    }
}

fn flat() -> String {
    "flat".into()
}

word! {
    /// The edge a distance is told from. East, north, right and tip distances run inwards.
    pub enum From {
        #[default]
        Centre,
        West,
        East,
        South,
        North,
        /// Ends of a folded panel, seen with its fold at the bottom.
        Left,
        Right,
        /// The tangent line of a folded panel.
        Fold,
        /// The outside of the bend that a folded panel hangs on: where its outside length starts.
        Outside,
        /// The free edge of a folded panel.
        Tip,
    }
}

word! {
    /// What of the shape the distance runs to.
    pub enum To {
        #[default]
        Centre,
        /// The shape's side nearest that edge.
        Side,
    }
}

said! {
    pub struct Offset {
        pub from: From,
        pub distance: String,
        #[serde(default)]
        pub to: To,
    }
}

word! {
    pub enum Treatment {
        #[default]
        Radius,
        Chamfer,
        /// A half circle over the whole end.
        FullEnd,
    }
}

said! {
    /// Takes the point off corners of the outline.
    pub struct Round {
        #[serde(default)]
        pub treatment: Treatment,
        /// Radius, or chamfer length along each side; not used for a full round end.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub size: String,
        /// Corner names (`north-east`, …), or for a full end the edge (`west`). Empty means every sharp outer corner.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub corners: Vec<String>,
    }
}

word! {
    pub enum Axis {
        /// West to east.
        #[default]
        East,
        /// South to north.
        North,
    }
}

/// How the members of a row are spaced. The first stays where its own line puts it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "by", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Spacing {
    /// So many at a pitch; a negative pitch runs back.
    Pitch { count: String, pitch: String },
    /// So many, the last centred this far from the far end.
    Last { count: String, distance: String },
    /// So many with this much material between one and the next.
    Gap { count: String, gap: String },
    /// At a pitch, as many as leave at least this margin at the far end.
    Fill { pitch: String, margin: String },
}

impl Default for Spacing {
    fn default() -> Self {
        Spacing::Pitch { count: String::new(), pitch: String::new() }
    }
}

said! {
    /// The same cut again, in a row or a grid.
    pub struct Repeat {
        /// Ids of the lines repeated.
        pub of: Vec<String>,
        #[serde(default)]
        pub axis: Axis,
        /// A straight edge to run along instead, from its left end to its right, seen from the piece looking out.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub along: String,
        pub spacing: Spacing,
        /// The other way, for a grid.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub across: Option<Spacing>,
    }
}

said! {
    /// The same cuts on the other side of a midplane.
    pub struct Mirror {
        pub of: Vec<String>,
        /// The direction that is turned round: `east` swaps west and east. Not used about an edge or a bend.
        #[serde(default)]
        pub axis: Axis,
        /// The panel whose middle is the mirror, `flat`, or the name of a straight edge or a bend that is the mirror itself.
        #[serde(default = "flat")]
        pub about: String,
    }
}

said! {
    /// The same cuts round a point.
    pub struct Ring {
        pub of: Vec<String>,
        /// All of them, the first included.
        pub count: String,
        /// From the first to the last; empty means evenly all the way round.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub sweep: String,
        /// The middle of the ring.
        pub centre: Place,
        /// Kept upright instead of turned with the ring.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub upright: bool,
    }
}

said! {
    /// The same cuts evenly along a told path; the first stays where it is, and the path starts there.
    pub struct Path {
        pub of: Vec<String>,
        pub count: String,
        /// Open: the bulge of the last point is not used. Points relative to the first cut.
        pub points: Vec<Point>,
        /// Turned with the path.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub turned: bool,
    }
}

word! {
    pub enum Pattern {
        /// Rows over one another.
        #[default]
        Square,
        /// Every other row half a pitch along.
        Staggered,
    }
}

said! {
    /// Fills a panel or a rolled shell with a shape, whole shapes only.
    pub struct Fill {
        pub shape: Shape,
        /// `flat`, or the name of a panel or a rolled zone.
        #[serde(default = "flat")]
        pub on: String,
        #[serde(default)]
        pub pattern: Pattern,
        /// Middle to middle, west to east.
        pub pitch: String,
        /// South to north; empty means the same, or for a staggered pattern the height of even triangles.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub pitch_across: String,
        /// From the outline, and from other cuts above this line.
        pub margin: String,
        /// From the tangent lines of bends; empty means what the rules want.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub bend_margin: String,
        /// Left out of the views, never out of figures and files.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub light: bool,
    }
}

said! {
    /// Lip, side, web, side, lip, bent from one strip.
    pub struct StartChannel {
        /// Along the channel, south to north.
        pub length: String,
        /// Width of the web.
        pub web: String,
        /// Height of the sides; `west_side` empty means the same as `side`.
        pub side: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub west_side: String,
        /// Width of the lips; empty means none.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub lip: String,
        /// Lips turned away from the middle.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub lips_out: bool,
        #[serde(default)]
        pub measure: Measure,
    }
}

said! {
    /// A plate with four sides folded up.
    pub struct StartTray {
        /// West to east, south to north and up, told over `measure`.
        pub width: String,
        pub depth: String,
        pub height: String,
        #[serde(default)]
        pub measure: TrayMeasure,
        /// Taken off the width and the depth on each side, so that it goes into what was told.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Lips on top of the sides; empty means none.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub lip: String,
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub lips_in: bool,
        #[serde(default)]
        pub close: Close,
        /// Between neighbouring sides; empty means the usual.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub gap: String,
        #[serde(default)]
        pub relief: CornerRelief,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub relief_size: String,
    }
}

word! {
    /// What a tray's width, depth and height run over.
    pub enum TrayMeasure {
        #[default]
        Outside,
        Inside,
    }
}

word! {
    /// How the ends of a full round meet.
    pub enum Seam {
        /// A gap to weld.
        #[default]
        Gap,
        /// One end over the other: that much longer.
        Lap,
    }
}

said! {
    /// A rolled shell: two of radius or diameter, angle, and arc length.
    pub struct StartRolled {
        /// Along the axis, south to north.
        pub length: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub diameter: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub angle: String,
        /// Along the face that the shell is told from.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub arc: String,
        #[serde(default)]
        pub measure: Measure,
        #[serde(default)]
        pub direction: Direction,
        /// For a full round (360°): gap or lap along the face told.
        #[serde(default)]
        pub seam: Seam,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub seam_size: String,
    }
}

said! {
    /// A frustum of a cone, or a part of one.
    pub struct StartCone {
        /// Diameters of the two ends, on the face told.
        pub wide: String,
        pub narrow: String,
        /// Square from end to end.
        pub height: String,
        /// Part of the full round; empty means 360°.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub angle: String,
        #[serde(default)]
        pub measure: Measure,
        /// For a full round: gap at the wide end.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub seam_gap: String,
    }
}

word! {
    /// What a folded panel's length is told from.
    pub enum FoldMeasure {
        #[default]
        Outside,
        Inside,
        /// The tangent line.
        Tangent,
    }
}

word! {
    /// Where the bend sits relative to the edge that is folded.
    pub enum BendAt {
        /// The outer face of the folded panel in line with the edge (beyond 90°: its outermost tangent).
        #[default]
        OuterFace,
        /// The inner face in line with the edge.
        InnerFace,
        /// The bend starts at the edge: the panel keeps its size.
        FromEdge,
        /// The virtual sharp of the outer faces on the edge, at any angle.
        Sharp,
    }
}

/// How far a fold reaches.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "to", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Reach {
    Length {
        length: String,
        #[serde(default)]
        measure: FoldMeasure,
    },
    /// Overall, square to the panel it is folded from, over the panel's outer face.
    Height { height: String },
    /// As high as another fold of the same panel.
    Level { with: String },
}

impl Default for Reach {
    fn default() -> Self {
        Reach::Length { length: String::new(), measure: FoldMeasure::default() }
    }
}

/// How much of the edge is folded.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(tag = "by", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Span {
    #[default]
    Full,
    /// From either end of the edge, seen from the piece looking out.
    Inset { left: String, right: String },
    /// In the middle of the edge.
    Centred { width: String },
}

word! {
    /// What is cut beside a bend that ends short of a corner.
    pub enum ReliefKind {
        #[default]
        Square,
        RoundEnded,
        /// A slit only: the material tears.
        Torn,
    }
}

said! {
    /// Cut beside a bend.
    pub struct Relief {
        #[serde(default)]
        pub kind: ReliefKind,
        /// Empty means what the rules want.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub width: String,
        /// Past the tangent line; empty means what the rules want.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub depth: String,
    }
}

said! {
    /// Folds a panel up or down along an edge.
    pub struct Fold {
        /// Names of straight edges; empty means all round the start.
        #[serde(default)]
        pub edges: Vec<String>,
        /// Angle swept: 90 for a square flange. Not used with `parallel_to`.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub angle: String,
        /// Folded until parallel to this panel.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub parallel_to: String,
        #[serde(default)]
        pub direction: Direction,
        pub reach: Reach,
        #[serde(default)]
        pub bend_at: BendAt,
        #[serde(default)]
        pub span: Span,
        /// Inside radius; empty means the piece's.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub relief: Option<Relief>,
        /// Further folds, each on the tip of the one before: lip, return.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub then: Vec<Further>,
    }
}

said! {
    /// A fold that follows on the tip of the one before.
    pub struct Further {
        pub id: String,
        pub angle: String,
        #[serde(default)]
        pub direction: Direction,
        /// Told from outside.
        pub length: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
    }
}

word! {
    /// How two neighbouring folds meet.
    pub enum Close {
        /// Inner edge to inner edge, the outside open for a weld; folds that lean come out mitred.
        #[default]
        Edge,
        /// The fold before the corner (counter-clockwise) laps the end of the other.
        LapBefore,
        /// The fold after the corner laps the end of the other.
        LapAfter,
        /// Each ends at the tangent line of the other.
        Open,
    }
}

word! {
    pub enum CornerRelief {
        #[default]
        None,
        Square,
        Round,
        /// Along the middle of the corner.
        Slot,
    }
}

said! {
    /// How neighbouring folds meet at corners of the panel between them.
    pub struct Corner {
        /// Names of corners: `north-east`, or the two edges with a stroke between; empty means every corner between two folds.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub at: Vec<String>,
        #[serde(default)]
        pub close: Close,
        /// Empty means the usual.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub gap: String,
        #[serde(default)]
        pub relief: CornerRelief,
        /// Side, diameter or slot width; empty means what the rules want.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub relief_size: String,
    }
}

word! {
    /// What of the bend lies on the line.
    pub enum LineAt {
        /// The middle of the bend.
        #[default]
        Centre,
        /// The tangent line on the side that stays.
        Tangent,
        /// The virtual sharp of the outer faces.
        Sharp,
    }
}

word! {
    pub enum Stays {
        /// What lies on the far side of the line from its edge.
        #[default]
        Far,
        /// What lies between the edge and the line.
        Near,
    }
}

said! {
    /// A bend across a panel. The flat keeps its size.
    pub struct BendLine {
        /// The straight edge it is told from.
        pub edge: String,
        /// From the edge inwards, in the flat.
        pub distance: String,
        /// Out of parallel with the edge, about the middle; empty means parallel.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub turn: String,
        #[serde(default)]
        pub at: LineAt,
        pub angle: String,
        #[serde(default)]
        pub direction: Direction,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(default)]
        pub stays: Stays,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
    }
}

/// How an edge is turned over.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum HemKind {
    /// Flat on itself.
    Closed { length: String },
    /// Parallel, with a gap.
    Open { length: String, gap: String },
    /// Round inside, the tip touching the sheet.
    Teardrop { length: String, radius: String },
    /// Curled through an angle, no straight end.
    Rolled { radius: String, angle: String },
}

impl Default for HemKind {
    fn default() -> Self {
        HemKind::Closed { length: String::new() }
    }
}

said! {
    /// Turns an edge over.
    pub struct Hem {
        #[serde(default)]
        pub edges: Vec<String>,
        pub hem: HemKind,
        #[serde(default)]
        pub direction: Direction,
        #[serde(default)]
        pub bend_at: BendAt,
        #[serde(default)]
        pub span: Span,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub relief: Option<Relief>,
    }
}

said! {
    /// Sets an edge off to another height by two opposite bends, so that it laps a neighbour.
    pub struct Joggle {
        #[serde(default)]
        pub edges: Vec<String>,
        /// From face to same face.
        pub height: String,
        /// From the first tangent line to the last, along the sheet.
        pub run: String,
        /// Beyond the last tangent line.
        pub length: String,
        #[serde(default)]
        pub direction: Direction,
        #[serde(default)]
        pub span: Span,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub relief: Option<Relief>,
    }
}

said! {
    /// A tongue that stands out of an edge, in the plane of its panel.
    pub struct Tab {
        pub edge: String,
        /// Along the edge.
        pub width: String,
        /// Out from the edge.
        pub length: String,
        /// From the left end of the edge, seen from the piece looking out, to the tab's middle; empty means the middle of the edge.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub place: String,
    }
}

/// The shape of a notch.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum NotchShape {
    Square {
        width: String,
        depth: String,
    },
    /// A point inwards.
    Vee {
        width: String,
        depth: String,
    },
    /// Round-ended.
    Round {
        width: String,
        depth: String,
    },
}

impl Default for NotchShape {
    fn default() -> Self {
        NotchShape::Square { width: String::new(), depth: String::new() }
    }
}

said! {
    /// A cut into an edge.
    pub struct Notch {
        pub edge: String,
        pub shape: NotchShape,
        /// From the left end of the edge, seen from the piece looking out, to its middle; empty means the middle of the edge.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub place: String,
    }
}

word! {
    pub enum RibShape {
        #[default]
        Round,
        Flat,
    }
}

said! {
    /// A stiffening rib pressed into a bend from the outside, or a bead along a panel. The blank keeps its size.
    pub struct Rib {
        /// Name of a bend; or of a panel, for a bead along it.
        pub on: String,
        #[serde(default)]
        pub shape: RibShape,
        /// How deep it is pressed; for a rib, from the virtual sharp along each leg.
        pub depth: String,
        pub width: String,
        /// For a rib: from the left end of the bend to its middle. For a bead: from the south or fold side.
        pub offset: String,
        /// For a bead: its length, in the middle of the panel.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub length: String,
        /// For a bead: the side it stands out on. A rib stands into its bend.
        #[serde(default)]
        pub direction: Direction,
        /// Slope of its sides off square; empty means none.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub draft: String,
        /// Radii of its inner and outer corners; empty means the thickness.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub inner_radius: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub outer_radius: String,
    }
}

/// A shape that is pressed, not cut to size.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum PressShape {
    /// Lanced along one long side and raised there; `width` across. The opening lies south before it is turned.
    Louvre {
        length: String,
        width: String,
        height: String,
    },
    Dimple {
        diameter: String,
        depth: String,
    },
    /// A collar drawn from a pilot hole; `diameter` inside the collar.
    Collar {
        diameter: String,
        height: String,
    },
}

impl Default for PressShape {
    fn default() -> Self {
        PressShape::Dimple { diameter: String::new(), depth: String::new() }
    }
}

said! {
    /// Presses a louvre, a dimple or a collared hole.
    pub struct Press {
        pub shape: PressShape,
        pub place: Place,
        #[serde(default)]
        pub direction: Direction,
    }
}

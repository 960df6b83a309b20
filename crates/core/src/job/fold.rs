//! Folds, corners, bend lines, hems, joggles and tabs.

use serde::{Deserialize, Serialize};

use crate::shopbook::BendRule;

word! {
    pub enum Direction {
        #[default]
        Up,
        Down,
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

//! A picture that an outline is traced from, and what was laid over it. Places in pixels from its upper left
//! corner; values as typed.

use ground::{said, word};

word! {
    pub enum TracedShape {
        #[default]
        Line,
        Arc,
        /// A hole; without lines and arcs the largest is the outline.
        Circle,
    }
}

said! {
    /// A line, an arc or a circle through places of the picture; lines and arcs in the order of the outline.
    pub struct TracedElement {
        /// Never changes once given.
        pub id: String,
        pub shape: TracedShape,
        pub points: Vec<[f64; 2]>,
        /// How far from there the picture's edge is looked for, pixels.
        #[serde(default)]
        pub reach: f64,
        /// Lies as it was told, not on the picture's edge.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub by_hand: bool,
    }
}

said! {
    /// What a caliper says between two places.
    pub struct CaliperReading {
        pub from: [f64; 2],
        pub to: [f64; 2],
        pub length: String,
        /// How far from the places the picture's edge is looked for, pixels; nothing: they stand where told.
        #[serde(default)]
        pub reach: f64,
    }
}

said! {
    /// Four corners of a rectangle, in order, for a picture that was taken at an angle.
    pub struct StraightenBy {
        pub corners: [[f64; 2]; 4],
        /// From the first corner to the second.
        pub wide: String,
        /// From the second to the third.
        pub high: String,
        /// How far from its sides the picture's edges are looked for, pixels.
        #[serde(default)]
        pub reach: f64,
    }
}

said! {
    /// A picture and what was traced of it.
    pub struct Tracing {
        /// Digest of the kept picture (SHA-256).
        pub picture: String,
        /// Its name as it was brought in.
        pub name: String,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub readings: Vec<CaliperReading>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub square: Option<StraightenBy>,
        /// Two places on the axis that the outline is mirrored about; half of it is traced then.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub axis: Option<[[f64; 2]; 2]>,
        #[serde(default)]
        pub elements: Vec<TracedElement>,
        /// Lengths and radii are rounded to this; empty: as found, to 0.01 mm.
        #[serde(default)]
        pub step: String,
        /// Directions are rounded to this; empty: as found, to 0.1°.
        #[serde(default)]
        pub angle_step: String,
        /// Lines of the recipe that say it, as they were last made: outline, then holes.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub said: Vec<String>,
    }
}

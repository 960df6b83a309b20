//! How the sides of a hopper meet: in all corners, and in those that are told by themselves.

use grammar::*;
use ground::reader::{Range, Reader};
use ground::word;
use sheet::choices::Compass;

use crate::build::hoppers::{Corners, HopperCorner};

pub const EDGE: (&str, &str) = ("edge", "edge to edge in the corners|edge to edge");
pub const MITRE: (&str, &str) = ("mitre", "mitred through the thickness|mitred");

pub const CORNERS: &[(&str, &str)] = &[
    EDGE,
    ("north_south", "north and south over the others|north and south over"),
    ("east_west", "east and west over the others|east and west over"),
    MITRE,
];

/// Corners that are not as the others.
pub const CORNERS_TOLD: Part = Part::List(List {
    path: "/but",
    label: "corner told by itself",
    item: &[
        pick(
            "/corner",
            "corner",
            &[
                ("south_east", "south-east"),
                ("north_east", "north-east"),
                ("north_west", "north-west"),
                ("south_west", "south-west"),
            ],
        ),
        pick(
            "/how",
            "how it is made",
            &[
                ("edge", "edge to edge"),
                ("north_south", "its north or south side over|north or south over"),
                ("east_west", "its east or west side over|east or west over"),
                MITRE,
            ],
        ),
        aside(&[word("gap"), length_or("/gap", "gap there", "none")]),
    ],
    lead: "but",
    between: ",",
    ids: Ids::None,
    least: 0,
    adds: &[("a corner", "south-east edge to edge", "south-east edge to edge")],
    close: false,
    chain: false,
});

word! {
    /// How the sides meet in the corners.
    pub enum HopperCorners {
        /// Inner edge to inner edge.
        #[default]
        Edge,
        /// These two run over the edges of the others.
        NorthSouth,
        EastWest,
        /// Edges bevelled, so that they meet over their whole thickness.
        Mitre,
    }
}

word! {
    /// A corner of a hopper.
    pub enum HopperCornerOf {
        #[default]
        SouthEast,
        NorthEast,
        NorthWest,
        SouthWest,
    }
}

impl HopperCornerOf {
    /// The side that comes first in it, against the clock.
    fn first(self) -> Compass {
        match self {
            HopperCornerOf::SouthEast => Compass::South,
            HopperCornerOf::NorthEast => Compass::East,
            HopperCornerOf::NorthWest => Compass::North,
            HopperCornerOf::SouthWest => Compass::West,
        }
    }
}

spoken! {
    /// A corner that is not as the others.
    pub struct HopperCornerSaid {
        pub corner: HopperCornerOf,
        pub how: HopperCorners,
        /// Left between the plates there, for the weld; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
    }
}

impl HopperCorners {
    pub fn is_edge(&self) -> bool {
        *self == HopperCorners::Edge
    }

    fn read(&self) -> Corners {
        match self {
            HopperCorners::Edge => Corners::Edge,
            HopperCorners::NorthSouth => Corners::Over(Compass::North),
            HopperCorners::EastWest => Corners::Over(Compass::East),
            HopperCorners::Mitre => Corners::Mitred,
        }
    }
}

/// The four corners, each under the side that comes first in it, against the clock.
pub fn corners(
    reader: &mut Reader,
    all: HopperCorners,
    gap: f64,
    but: &[HopperCornerSaid],
) -> Option<[HopperCorner; 4]> {
    let mut out = [HopperCorner { how: all.read(), gap }; 4];
    for (k, told) in but.iter().enumerate() {
        if but[..k].iter().any(|other| other.corner == told.corner) {
            let mend = "take one of the two out";
            reader.refuse_at(&format!("/say/but/{k}/corner"), "this corner is told twice", mend);
            return None;
        }
        let gap = reader.length_or(&format!("/say/but/{k}/gap"), &told.gap, Range::ZeroUp, 0.0);
        out[told.corner.first() as usize] = HopperCorner { how: told.how.read(), gap: gap? };
    }
    Some(out)
}

//! Names of the layers that our drawings have.

pub const CUT: &str = "CUT";
pub const BEND_UP: &str = "BEND_UP";
pub const BEND_DOWN: &str = "BEND_DOWN";
/// Where a rolled arc begins and ends.
pub const ROLL_UP: &str = "ROLL_UP";
pub const ROLL_DOWN: &str = "ROLL_DOWN";
pub const MARKS: &str = "MARKS";
/// Drilled holes, from the front and from the back: blind ones at their diameter, threads at their nominal
/// diameter, countersinks and counterbores (spot faces too) at their widest.
pub const DRILLED: [[&str; 2]; 4] = [
    ["DRILL_FRONT", "DRILL_BACK"],
    ["TAP_FRONT", "TAP_BACK"],
    ["CSK_FRONT", "CSK_BACK"],
    ["CBORE_FRONT", "CBORE_BACK"],
];

/// All of them that tell and do not cut; bend lines are for themselves.
pub const DRAWN: [&str; 11] = [
    MARKS,
    ROLL_UP,
    ROLL_DOWN,
    DRILLED[0][0],
    DRILLED[0][1],
    DRILLED[1][0],
    DRILLED[1][1],
    DRILLED[2][0],
    DRILLED[2][1],
    DRILLED[3][0],
    DRILLED[3][1],
];

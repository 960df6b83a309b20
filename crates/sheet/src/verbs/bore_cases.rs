//! How drilled holes are said: a case a kind, with its words, its slots and its usual sizes.

use grammar::*;

use super::shape::TOLD_BY;

const FIT: Part = clause(&[pick(
    "/fit",
    "fit",
    &[
        ("normal", "normal fit|normal fit|normal|medium fit|medium"),
        ("close", "close fit|close fit|close|fine fit|fine"),
        ("loose", "loose fit|loose fit|loose|coarse fit|coarse"),
    ],
)]);
const BELOW: Part =
    clause(&[word("sunk"), length_or("/below", "below the face", "flush"), aloud("below the face")]);
const HEAD_BELOW: Part =
    clause(&[word("sunk"), length_or("/below", "below the face", "by the table"), aloud("below the face")]);
const BOTTOMS: Part = pick(
    "/bottom",
    "bottom",
    &[
        ("point118", "118° point"),
        ("point90", "90° point"),
        ("point135", "135° point"),
        ("point140", "140° point"),
        ("flat", "flat bottom"),
    ],
);
const BOTTOM: Part = clause(&[BOTTOMS]);
/// A thread that goes through has none.
const BOTTOM_OF_BLIND: Part = Clause::new(&[BOTTOMS]).shown(When::Told("/depth")).part();
/// `for` begins a screw, and is never the name of a size.
const NOT_FOR: Part = heard("for");
const SCREW: Part = Slot::new("/screw", "screw", Kind::Screw).part();

/// The kinds of drilled holes; their words begin the line.
pub const DRILLED: &[Case] = &[
    case(
        "tapped",
        "Tap a hole|tapped hole|tap|tap a hole",
        &[
            Slot::new("/thread", "thread", Kind::Thread).part(),
            clause(&[length_or("/depth", "depth of thread", "through"), word("deep")]),
            Clause::new(&[
                word("drilled"),
                length_or("/drilled", "depth of drill", "three pitches deeper"),
                aloud("deep"),
            ])
            .shown(When::Told("/depth"))
            .part(),
            BOTTOM_OF_BLIND,
        ],
        ["M8", "1/4-20"],
    ),
    case(
        "countersunk_for",
        "Countersink a hole for|countersunk hole for|countersink for",
        &[SCREW, FIT, BELOW],
        ["M5", "#10"],
    ),
    case(
        "countersunk",
        "Countersink a hole|countersunk hole|countersink",
        &[
            NOT_FOR,
            diameter("/diameter", "diameter"),
            sign(","),
            printed("head"),
            diameter("/head", "head diameter"),
            printed("at"),
            angle("/angle", "angle of the cone"),
            BELOW,
        ],
        ["5.5, head ⌀11.2 at 90°", "0.221, head ⌀0.385 at 82°"],
    ),
    case(
        "counterbored_for",
        "Counterbore a hole for|counterbored hole for|counterbore for",
        &[SCREW, FIT, HEAD_BELOW],
        ["M8", "5/16"],
    ),
    case(
        "counterbored",
        "Counterbore a hole|counterbored hole|counterbore",
        &[
            NOT_FOR,
            diameter("/diameter", "diameter"),
            sign(","),
            printed("bore"),
            diameter("/bore", "bore diameter"),
            sign(","),
            length("/depth", "depth of bore"),
            printed("deep"),
        ],
        ["9, bore ⌀15, 8.6 deep", "0.344, bore ⌀0.5312, 0.3125 deep"],
    ),
    case(
        "spot_faced",
        "Spot-face a hole|spot-faced hole|spot-face",
        &[
            diameter("/diameter", "diameter"),
            sign(","),
            printed("face"),
            diameter("/face", "face diameter"),
            sign(","),
            length("/depth", "depth of face"),
            printed("deep"),
        ],
        ["9, face ⌀20, 1 deep", "0.344, face ⌀3/4, 1/32 deep"],
    ),
    case(
        "blind",
        "Drill a blind hole|blind hole",
        &[diameter("/diameter", "diameter"), sign(","), length("/depth", "depth"), printed("deep"), BOTTOM],
        ["8, 5 deep", "5/16, 3/16 deep"],
    ),
    case(
        "clearance",
        "Drill a hole for|hole for|clearance hole for|clearance hole",
        &[SCREW, FIT],
        ["M8", "5/16"],
    ),
    case(
        "clearance_slot",
        "Cut a slot for|slot for|clearance slot for|clearance slot",
        &[SCREW, sign(","), length("/length", "length"), printed("long"), TOLD_BY, FIT],
        ["M8, 20 long", "5/16, 3/4 long"],
    ),
];

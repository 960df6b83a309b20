//! What a piece, a frame and a brief are told to be, before their lines.

use grammar::*;
use sheet::verbs::{BEND_K, BEND_TEST, SCHOOLS};
use shop::tolerances::CLASSES;

/// What a piece goes by that may go by its job's rule.
pub const SCHOOLS_OR_JOB: &[(&str, &str)] =
    &[("", "by the job's rule"), SCHOOLS[0], SCHOOLS[1], SCHOOLS[2], SCHOOLS[3], SCHOOLS[4]];

pub const THICKNESS: Part = Slot::new("/thickness", "thickness", Kind::Thickness).part();

pub const INCHES: Part = Clause::new(&[pick(
    "/display/inches",
    "fractions",
    &[("decimal", "decimal"), ("1/16", "to 1/16"), ("1/32", "to 1/32"), ("1/64", "to 1/64")],
)])
.shown(When::Is("/display/length", &["in"]))
.close()
.part();

/// Where a piece or frame departs from the job's unit.
pub const OWN_UNIT: Part = clause(&[Pick::new(
    "/display/length",
    "unit",
    &[("", "in the job's unit"), ("mm", "in mm"), ("in", "in inches")],
)
.leads()
.part()]);

/// Told in a text, and known to a screen that shows what it belongs to.
pub const ID: Part =
    Clause::new(&[word("id"), Slot::new("/id", "id", Kind::Word).empty("").part()]).shown(When::Never).part();

pub const OFF: Part =
    clause(&[Slot::new("/quantity", "quantity", Kind::Count).usual("1").part(), word("off")]);

pub const fn text_or(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Text).empty("none").part()
}

/// Kept with the job and not made.
pub const ARCHIVED: Part =
    Clause::new(&[flag("/archived", "archive", &[("false", "made"), ("true", "archived")])])
        .shown(When::Never)
        .part();

pub const PIECE: &[Part] = &[
    verb("piece"),
    name("/mark", "mark", Kind::Word),
    text("/name", "name"),
    OFF,
    must(&[THICKNESS, word("thick"), name("/material", "material", Kind::Material)]),
    clause(&[aloud("bends"), radius_or("/radius", "inside radius", "smallest|own")]),
    Clause::new(&[
        Pick::new("/bend_rule/school", "bend rule", SCHOOLS_OR_JOB).leads().part(),
        BEND_K,
        BEND_TEST,
    ])
    .close()
    .part(),
    clause(&[pick(
        "/rolling",
        "rolling direction",
        &[("unknown", "rolled either way"), ("east", "rolled east"), ("north", "rolled north")],
    )]),
    clause(&[Pick::new(
        "/hand",
        "hand",
        &[("none", "no hand"), ("left", "left hand"), ("right", "right hand")],
    )
    .part()]),
    clause(&[word("finish"), text_or("/finish", "finish")]),
    ASSEMBLY,
    OWN_UNIT,
    INCHES,
    Clause::new(&[
        word("bend"),
        row_or("/bend_order", "order of bends", Kind::Line, "as proposed"),
        word("first"),
    ])
    .shown(When::Never)
    .part(),
    ARCHIVED,
    ID,
];

pub const FRAME: &[Part] = &[
    verb("frame"),
    name("/mark", "mark", Kind::Word),
    text("/name", "name"),
    OFF,
    must(&[word("of"), name("/section", "usual section", Kind::Section)]),
    must(&[word("material"), name("/material", "material", Kind::Material)]),
    clause(&[aloud("corners"), pick("/joint", "usual joint", &[("mitre", "mitred"), ("butt", "butted")])]),
    clause(&[word("gap"), length_or("/gap", "usual gap", "none")]),
    ASSEMBLY,
    OWN_UNIT,
    INCHES,
    Clause::new(&[flag("/apart", "list", &[("false", "listed by shape"), ("true", "listed by name")])])
        .shown(When::Never)
        .part(),
    ARCHIVED,
    ID,
];

pub const BRIEF: &[Part] = &[
    verb("brief"),
    name("/mark", "number of the drawing", Kind::Word),
    text("/name", "sheet or view"),
    must(&[word("of"), name("/of", "piece or frame", Kind::Mark)]),
    clause(&[Pick::new("/class", "general tolerances", CLASSES).part()]),
    OWN_UNIT,
    INCHES,
    ID,
];

const ASSEMBLY: Part = clause(&[word("goes into"), text_or("/assembly", "assembly")]);

pub const NOTE: Part = clause(&[word("note"), text_or("/note", "note")]);

const ANGLES: &[(&str, &str)] =
    &[("usual", "in the usual angle"), ("first", "in first angle"), ("third", "in third angle")];

pub const DRAWINGS: &[Part] = &[
    verb("drawings"),
    clause(&[pick("/angle", "projection", ANGLES)]),
    clause(&[word("shop"), text_or("/shop", "name of the shop")]),
    clause(&[word("drawn by"), text_or("/drawn", "drawn by")]),
    clause(&[word("checked by"), text_or("/checked", "checked by")]),
    clause(&[word("dated"), text_or("/date", "date of the drawings")]),
    clause(&[word("revision"), text_or("/revision", "revision")]),
    clause(&[word("tolerances"), text_or("/tolerances", "general tolerances")]),
    clause(&[word("surfaces"), text_or("/surfaces", "surfaces")]),
    clause(&[word("edges"), text_or("/edges", "edges")]),
    NOTE,
];

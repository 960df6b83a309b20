//! The lines of a job's text that are no verbs of a piece or frame: the job itself, its figures and the
//! shop's settings, and the heads of pieces and frames.

use std::sync::LazyLock;

use grammar::*;
use sheet::verbs::{BEND_K, BEND_TEST, SCHOOLS};

/// A line that is stored in the list of this name, or in the job itself.
pub struct Setting {
    pub list: &'static str,
    pub verb: Verb,
}

const fn setting(list: &'static str, tag: &'static str, sentence: &'static [Part]) -> Setting {
    let verb = Verb {
        tag,
        stem: "",
        about: "",
        role: Role::Other,
        starts: &[],
        offers: &[],
        sentence,
        examples: &[],
    };
    Setting { list, verb }
}

const fn text_or(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Text).empty("none").part()
}

const fn value(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Number).part()
}

const fn value_or(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Number).empty("usual").part()
}

const NOTE: Part = clause(&[word("note"), text_or("/note", "note")]);
const MATERIAL: Part =
    clause(&[word("material"), Slot::new("/material", "material", Kind::Material).empty("any").part()]);
const THICKNESS: Part = Slot::new("/thickness", "thickness", Kind::Thickness).part();

const UNITS: &[(&str, &str)] = &[("mm", "in mm"), ("in", "in inches")];
const INCHES: Part = clause(&[pick(
    "/display/inches",
    "fractions",
    &[("decimal", "decimal"), ("1/16", "to 1/16"), ("1/32", "to 1/32"), ("1/64", "to 1/64")],
)]);
/// Where a piece or frame departs from the job's unit.
const OWN_UNIT: Part = clause(&[Pick::new("/display/length", "unit", UNITS).usual("").part()]);
const ID: Part = clause(&[word("id"), Slot::new("/id", "id", Kind::Word).empty("").part()]);
const OFF: Part = clause(&[Slot::new("/quantity", "quantity", Kind::Count).usual("1").part(), word("off")]);

/// A point told as a pair.
const PAIR: &[Part] =
    &[opening("("), value("/0", "x of point {n}"), sign(","), value("/1", "y of point {n}"), sign(")")];

const fn pairs(path: &'static str, lead: &'static str) -> Part {
    Part::List(List {
        path,
        label: "point",
        item: PAIR,
        lead,
        between: "",
        ids: Ids::None,
        least: 0,
        adds: &[],
        chain: false,
    })
}

macro_rules! tool {
    ($path:literal, $words:literal) => {
        clause(&[word($words), Slot::new($path, $words, Kind::Number).empty("usual").part()])
    };
}

pub static SETTINGS: [Setting; 14] = [
    setting(
        "",
        "job",
        &[
            verb("job"),
            text("/title", "title"),
            clause(&[word("number"), text_or("/number", "number")]),
            clause(&[word("customer"), text_or("/customer", "customer")]),
            clause(&[pick("/display/length", "unit", UNITS)]),
            INCHES,
            clause(&[pick("/bend_rule/school", "bend rule", SCHOOLS), BEND_K, BEND_TEST]),
            NOTE,
        ],
    ),
    setting(
        "figures",
        "figure",
        &[verb("figure"), name("/name", "name", Kind::Word), word("="), value("/value", "value"), NOTE],
    ),
    setting(
        "stock",
        "sheet",
        &[verb("sheet"), length("/length", "length"), times(), length("/width", "width")],
    ),
    setting(
        "bend_table",
        "table_row",
        &[
            verb("bend table"),
            pick("/kind", "kind", &[("deduction", "deduction"), ("allowance", "allowance")]),
            value("/value", "value"),
            word("at"),
            THICKNESS,
            word("thick"),
            sign(","),
            radius("/radius", "inside radius"),
            sign(","),
            angle("/angle", "angle"),
            MATERIAL,
            clause(&[word("die"), text_or("/die", "die")]),
        ],
    ),
    setting(
        "test_bends",
        "test_bend",
        &[
            verb("test bend"),
            name("/id", "name", Kind::Word),
            MATERIAL,
            must(&[THICKNESS, word("thick")]),
            must(&[radius("/radius", "inside radius")]),
            must(&[word("bent"), angle("/angle", "angle")]),
            clause(&[word("springback"), angle_or("/springback", "springback", "none")]),
            NOTE,
            Part::List(List {
                path: "/strips",
                label: "strip",
                item: &[
                    length("/length", "length of strip {n}"),
                    word("to"),
                    length("/a", "first leg of strip {n}"),
                    word("and"),
                    length("/b", "second leg of strip {n}"),
                ],
                lead: "strip",
                between: ",",
                ids: Ids::None,
                least: 0,
                adds: &[],
                chain: false,
            }),
        ],
    ),
    setting(
        "brake",
        "brake",
        &[
            verb("brake"),
            value("/force", "force"),
            word("kN"),
            must(&[length("/length", "length"), word("long")]),
            clause(&[word("dies"), row_or("/openings", "openings", Kind::Number, "none")]),
            Part::Within(
                "/tools",
                &[
                    tool!("/punch_height", "punch height"),
                    tool!("/punch_thickness", "punch thickness"),
                    tool!("/punch_angle", "punch angle"),
                    tool!("/beam_thickness", "beam thickness"),
                    tool!("/die_height", "die height"),
                    tool!("/die_angle", "die angle"),
                    tool!("/die_shoulder", "die shoulder"),
                    tool!("/bed_thickness", "bed thickness"),
                    tool!("/stop_height", "stop height"),
                    tool!("/stop_reach", "stop reach"),
                    tool!("/unsupported", "without punch"),
                ],
            ),
        ],
    ),
    setting(
        "materials",
        "material",
        &[
            verb("material"),
            name("/id", "id", Kind::Word),
            text("/name", "name"),
            must(&[word("density"), value("/density", "density")]),
            clause(&[word("strength"), value_or("/strength", "strength")]),
            clause(&[word("radius"), value_or("/radius", "smallest radius")]),
            clause(&[word("cost"), value_or("/cost", "cost")]),
            clause(&[pick(
                "/stuff",
                "stuff",
                &[("metal", "metal"), ("plastic", "plastic"), ("film", "film"), ("wood", "wood")],
            )]),
            clause(&[pick(
                "/bent",
                "how it is bent",
                &[
                    ("cold", "bent at a brake"),
                    ("hot", "bent hot"),
                    ("scored", "scored and folded"),
                    ("by_hand", "folded by hand"),
                    ("not", "not bent"),
                ],
            )]),
        ],
    ),
    setting(
        "sections",
        "section",
        &[verb("section"), text("/name", "name"), sign(":"), pairs("/points", ""), pairs("/bore", "bore")],
    ),
    setting(
        "saw",
        "saw",
        &[
            verb("saw"),
            clause(&[word("kerf"), value_or("/kerf", "kerf")]),
            clause(&[word("trim"), value_or("/trim", "trim")]),
            clause(&[word("angle step"), value_or("/angle_step", "angle step")]),
            clause(&[word("length step"), value_or("/length_step", "length step")]),
            clause(&[word("swings to"), value_or("/most", "furthest angle")]),
            clause(&[word("keeps offcuts from"), value_or("/offcut", "shortest offcut")]),
        ],
    ),
    setting(
        "bars",
        "bar",
        &[
            verb("bar stock"),
            length("/length", "length"),
            printed("long"),
            clause(&[
                word("of"),
                Slot::new("/section", "section", Kind::Section).empty("every section").part(),
            ]),
            clause(&[Slot::new("/count", "count", Kind::Count).empty("any number").part(), word("pieces")]),
            clause(&[flag("/offcut", "offcut", &[("false", "new"), ("true", "offcut")])]),
        ],
    ),
    setting(
        "pieces",
        "piece",
        &[
            verb("piece"),
            name("/mark", "mark", Kind::Word),
            text("/name", "name"),
            OFF,
            must(&[THICKNESS, word("thick"), name("/material", "material", Kind::Material)]),
            clause(&[radius_or("/radius", "usual inside radius", "own")]),
            clause(&[Pick::new(
                "/hand",
                "hand",
                &[("none", "no hand"), ("left", "left hand"), ("right", "right hand")],
            )
            .part()]),
            clause(&[word("finish"), text_or("/finish", "finish")]),
            clause(&[pick(
                "/rolling",
                "rolling direction",
                &[("unknown", "rolled either way"), ("east", "rolled east"), ("north", "rolled north")],
            )]),
            OWN_UNIT,
            INCHES,
            clause(&[
                Pick::new("/bend_rule/school", "bend rule", SCHOOLS).usual("").part(),
                BEND_K,
                BEND_TEST,
            ]),
            clause(&[
                word("bend"),
                row_or("/bend_order", "order of bends", Kind::Line, "as proposed"),
                word("first"),
            ]),
            ID,
        ],
    ),
    setting(
        "frames",
        "frame",
        &[
            verb("frame"),
            name("/mark", "mark", Kind::Word),
            text("/name", "name"),
            OFF,
            must(&[word("of"), name("/section", "usual section", Kind::Section)]),
            must(&[word("material"), name("/material", "material", Kind::Material)]),
            clause(&[pick("/joint", "usual joint", &[("mitre", "mitred"), ("butt", "butted")])]),
            clause(&[word("gap"), length_or("/gap", "usual gap", "none")]),
            OWN_UNIT,
            INCHES,
            clause(&[flag("/apart", "list", &[("false", "listed by shape"), ("true", "listed by name")])]),
            ID,
        ],
    ),
    setting("columns", "column", &[verb("column"), text("/heading", "heading")]),
    setting(
        "rows",
        "row",
        &[
            verb("row"),
            name("/piece", "piece of the row", Kind::Member),
            clause(&[word("mark"), text_or("/mark", "mark")]),
            clause(&[word("called"), text_or("/name", "name")]),
            clause(&[word("cells"), row_or("/cells", "cells", Kind::Text, "none")]),
        ],
    ),
];

/// The settings as a bench of their own.
pub static BENCH: LazyLock<Bench> =
    LazyLock::new(|| Bench::of(SETTINGS.iter().map(|s| &s.verb), |v| Some(v.clone())));

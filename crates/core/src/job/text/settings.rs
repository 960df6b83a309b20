//! The lines of a job's text that are no verbs of a piece or frame: the job itself, its figures and the
//! shop's settings, and the heads of pieces and frames.

use std::sync::LazyLock;

use grammar::*;
use sheet::verbs::{BEND_K, BEND_TEST, SCHOOLS};

use super::heads::{BRIEF, DRAWINGS, FRAME, INCHES, NOTE, PIECE, THICKNESS, text_or};

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

impl Setting {
    /// What it is, and what it says when it is added.
    const fn added(self, about: &'static str, starts: &'static [Start]) -> Setting {
        Setting { verb: Verb { about, starts, ..self.verb }, ..self }
    }
}

/// Added by its name, in mm and in inches.
const fn start(name: &'static str, mm: &'static str, inch: &'static str) -> Start {
    Start { key: ' ', name, mm, inch }
}

const fn value(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Number).part()
}

const fn value_or(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Number).empty("usual").part()
}

const MATERIAL: Part =
    clause(&[word("material"), Slot::new("/material", "material", Kind::Material).empty("any").part()]);

const UNITS: &[(&str, &str)] = &[("mm", "in mm"), ("in", "in inches")];

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
        close: false,
        chain: false,
    })
}

macro_rules! tool {
    ($path:literal, $words:literal) => {
        clause(&[word($words), Slot::new($path, $words, Kind::Number).empty("usual").part()])
    };
}

pub static SETTINGS: [Setting; 19] = [
    setting(
        "",
        "job",
        &[
            verb("job"),
            text("/title", "title"),
            clause(&[word("number"), text_or("/number", "number")]),
            clause(&[word("customer"), text_or("/customer", "customer")]),
            clause(&[aloud("told"), pick("/display/length", "unit of the job", UNITS)]),
            INCHES,
            clause(&[flag(
                "/light",
                "views of the job",
                &[("false", "views with every hole"), ("true", "views without rows of holes|light views")],
            )]),
            clause(&[
                aloud("bends"),
                pick("/bend_rule/school", "bend rule of the job", SCHOOLS),
                BEND_K,
                BEND_TEST,
            ]),
            NOTE,
        ],
    )
    .added(
        "",
        &[start(
            "job",
            "job \"New job\", in mm, by DIN 6935",
            "job \"New job\", in inches, to 1/64, by DIN 6935",
        )],
    ),
    setting(
        "figures",
        "figure",
        &[
            verb("figure"),
            name("/name", "name", Kind::Word),
            word("="),
            value("/value", "value"),
            clause(&[quiet(
                "/kind",
                "kind",
                &[
                    ("any", "as its value says"),
                    ("length", "a length|length"),
                    ("angle", "an angle|angle"),
                    ("count", "a count|count"),
                    ("ratio", "a ratio|ratio"),
                ],
            )]),
            Clause::new(&[word("from"), Slot::new("/least", "least", Kind::Number).empty("no bound").part()])
                .shown(When::Told("/least"))
                .part(),
            Clause::new(&[word("up to"), Slot::new("/most", "most", Kind::Number).empty("no bound").part()])
                .shown(When::Told("/most"))
                .part(),
            Clause::new(&[word("note"), text_or("/note", "note")]).shown(When::Told("/note")).part(),
        ],
    )
    .added(
        "a value with a name, for fields of all pieces and frames",
        &[start("figure", "figure size = 10", "figure size = 1/2")],
    ),
    setting(
        "variants",
        "variant",
        &[
            verb("variant"),
            text("/name", "name"),
            Part::List(List {
                path: "/values",
                label: "value",
                item: &[name("/figure", "figure", Kind::Figure), word("="), value("/value", "value")],
                lead: "with",
                between: ",",
                ids: Ids::None,
                least: 0,
                adds: &[("a figure", "\"\" = 10", "\"\" = 1/2")],
                close: false,
                chain: false,
            }),
        ],
    )
    .added(
        "other values of the job's figures",
        &[start("variant", "variant \"other\"", "variant \"other\"")],
    ),
    setting(
        "stock",
        "sheet",
        &[verb("sheet"), length("/length", "length"), times(), length("/width", "width")],
    )
    .added("a sheet as it is bought", &[start("sheet", "sheet 2500 × 1250", "sheet 96 × 48")]),
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
    )
    .added(
        "what the shop knows a bend to take, told outright",
        &[start(
            "row",
            "bend table deduction 3.8 at 2 thick, R2, 90",
            "bend table deduction 0.15 at 5/64 thick, R5/64, 90",
        )],
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
                least: 1,
                adds: &[("strip", "100 to 52 and 52", "4 to 2 1/16 and 2 1/16")],
                close: false,
                chain: false,
            }),
        ],
    )
    .added(
        "strips that were cut, bent and measured: the shop's own K",
        &[start(
            "test bend",
            "test bend test, material s235, 2 thick, R2, bent 90, strip 100 to 52 and 52",
            "test bend test, material s235, 5/64 thick, R5/64, bent 90, strip 4 to 2 1/16 and 2 1/16",
        )],
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
    )
    .added(
        "what bends the sheets",
        &[start(
            "brake",
            "brake 1000 kN, 3000mm long, dies 8mm 12mm 16mm 24mm 40mm",
            "brake 1000 kN, 120 long, dies 3/8 1/2 5/8 1 1.5",
        )],
    ),
    setting(
        "materials",
        "material",
        &[
            verb("material"),
            name("/id", "id", Kind::Word),
            text("/name", "name"),
            must(&[word("density"), value("/density", "density"), aloud("kg/m³")]),
            clause(&[word("strength"), value_or("/strength", "strength"), aloud("MPa")]),
            clause(&[word("radius"), value_or("/radius", "smallest radius"), aloud("t")]),
            clause(&[word("cost"), value_or("/cost", "cost"), aloud("a kg")]),
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
    )
    .added(
        "what the book does not have",
        &[start(
            "material",
            "material own \"Own material\", density 7850, strength 360",
            "material own \"Own material\", density 7850, strength 360",
        )],
    ),
    setting(
        "sections",
        "section",
        &[verb("section"), text("/name", "name"), sign(":"), pairs("/points", ""), pairs("/bore", "bore")],
    )
    .added(
        "an outline that the catalogue does not have",
        &[start(
            "section",
            "section \"OWN 40x40\": (0, 0) (40, 0) (40, 4) (4, 4) (4, 40) (0, 40)",
            "section \"OWN 2x2\": (0, 0) (2, 0) (2, 1/8) (1/8, 1/8) (1/8, 2) (0, 2)",
        )],
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
    )
    .added("what cuts the bars", &[]),
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
    )
    .added(
        "a bar as it is bought, or an offcut on the rack",
        &[start("bar", "bar stock 6000 long", "bar stock 20ft long")],
    ),
    setting(
        "printers",
        "printer",
        &[
            verb("printer"),
            text("/name", "name"),
            clause(&[
                word("prints"),
                Slot::new("/told", "length of the lines", Kind::Length).empty("100 mm or 4 in").part(),
            ]),
            must(&[word("as"), length("/short", "along the short side"), printed("short side")]),
            must(&[length("/long", "along the long side"), printed("long side")]),
        ],
    )
    .added(
        "what a printer made of the two lines of a template",
        &[start("printer", "printer \"Office\" as 100, 100", "printer \"Office\" as 4, 4")],
    ),
    setting("drawings", "drawings", DRAWINGS).added(
        "the title block of drawings, and how their views stand",
        &[start("drawings", "drawings", "drawings")],
    ),
    setting("pieces", "piece", PIECE).added(
        "a part of sheet or plate",
        &[start(
            "piece",
            "piece P-101 \"New piece\", 3 thick s235",
            "piece P-101 \"New piece\", 1/8 thick s235",
        )],
    ),
    setting("frames", "frame", FRAME).added(
        "members, joints and plates",
        &[start(
            "frame",
            "frame F-1 \"New frame\", of SHS 60x60x3, material s235, mitred",
            "frame F-1 \"New frame\", of HSS 2x2x1/8, material s235, mitred",
        )],
    ),
    setting("briefs", "brief", BRIEF).added(
        "what a drawing says of a piece or frame",
        &[start("brief", "brief D-1 \"front view\", of P-101", "brief D-1 \"front view\", of P-101")],
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
    setting(
        "measured",
        "measured",
        &[
            verb("measured"),
            name("/line", "figure of the drawing", Kind::Line),
            Clause::new(&[word("its"), Slot::new("/what", "what of it", Kind::Word).empty("").part()])
                .close()
                .part(),
            quiet("/piece", "piece", &[("first", "on the first piece"), ("last", "on the last piece")]),
            must(&[word("as"), value("/value", "measured value")]),
            clause(&[word("by"), text_or("/who", "by whom")]),
            clause(&[word("when"), text_or("/on", "when")]),
        ],
    ),
];

/// The settings as a bench of their own.
pub static BENCH: LazyLock<Bench> =
    LazyLock::new(|| Bench::of(SETTINGS.iter().map(|s| &s.verb), |v| Some(v.clone())));

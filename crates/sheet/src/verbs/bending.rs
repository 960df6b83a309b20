//! What folds, hems and joggles have in common: which way, where the bend sits, how much of the edge, what is
//! cut beside it.

use grammar::*;
use ground::geom::ROUNDING;
use ground::reader::{Range, Reader};
use shop::{BendRule, limits};

use crate::choices::ReliefKind;
use crate::flat::bend_allowance::Rule;
use crate::flat::folds::{ReliefOf, SpanOf};
use crate::flat::stock::SheetStock;

pub const UP_DOWN: &[(&str, &str)] = &[("up", "up"), ("down", "down")];

pub const BEND_AT: Part = clause(&[pick(
    "/bend_at",
    "where the bend sits",
    &[
        ("outer_face", "outer face in line with the edge|outer face|outer"),
        ("inner_face", "inner face in line with the edge|inner face|inner"),
        ("from_edge", "bend from the edge outwards|bend from the edge|from the edge|from edge"),
        ("sharp", "virtual sharp on the edge|sharp on the edge|sharp"),
    ],
)]);

choice! {
    /// How much of the edge is folded.
    pub enum Span by "by" {
        Full {},
        /// From either end of the edge, seen from the piece looking out.
        Inset { left: String, right: String },
        /// In the middle of the edge.
        Centred { width: String },
    }
}

impl Default for Span {
    fn default() -> Self {
        Span::Full {}
    }
}

pub const SPAN: Part = clause(&[quiet_union(
    "/span",
    "by",
    "width of the fold",
    &[
        case("full", "full width", &[], ["", ""]),
        case(
            "inset",
            "inset",
            &[
                length("/left", "inset from the left"),
                printed("from its left and|and"),
                length("/right", "inset from the right"),
                aloud("from its right end"),
            ],
            ["20 and 20", "1 and 1"],
        ),
        case(
            "centred",
            "in the middle|middle",
            &[length("/width", "width of the fold"), printed("wide")],
            ["50 wide", "2 wide"],
        ),
    ],
)]);

spoken! {
    /// Cut beside a bend.
    pub struct Relief {
        #[serde(default)]
        pub kind: ReliefKind,
        /// Empty means what the rules want.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub width: String,
        /// Past the tangent line; empty means what the rules want.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub depth: String,
    }
}

const CUT: When = When::IsNot("/kind", &["torn"]);

pub const RELIEF: Part = clause_when(
    When::Is("/span/by", &["inset", "centred"]),
    &[Part::Within(
        "/relief",
        &[
            quiet(
                "/kind",
                "relief",
                &[("square", "square"), ("round_ended", "round-ended"), ("torn", "torn")],
            ),
            word("reliefs|reliefs|relief"),
            Clause::new(&[length_or("/width", "relief width", "usual"), word("wide")])
                .close()
                .shown(CUT)
                .part(),
            clause_when(
                CUT,
                &[length_or("/depth", "relief depth", "usual"), word("past the tangent line|deep")],
            ),
        ],
    )],
);

pub const RADIUS: Part = clause(&[radius_or("/radius", "inside radius", "own")]);

/// A bend that does not follow the job's rule.
pub const BEND_RULE: Part = clause_when(
    When::Told("/bend_rule/school"),
    &[Pick::new("/bend_rule/school", "bend rule", SCHOOLS).usual("").leads().part(), BEND_K, BEND_TEST],
);

/// The schools as they are said.
pub const SCHOOLS: &[(&str, &str)] = &[
    ("din6935", "by DIN 6935"),
    ("k_factor", "by K"),
    ("handbook90", "by the handbook 90° rule|by handbook"),
    ("table", "by the bend table|by table"),
    ("test_bend", "by the test bend|by test bend"),
];

/// The K of a rule, and the test bend that it goes by.
pub const BEND_K: Part = Slot::new("/bend_rule/k", "K-factor", Kind::Number)
    .empty("")
    .shown(When::Is("/bend_rule/school", &["k_factor"]))
    .part();
pub const BEND_TEST: Part =
    Clause::new(&[word("named"), Slot::new("/bend_rule/test", "test bend", Kind::Test).empty("").part()])
        .shown(When::Is("/bend_rule/school", &["test_bend"]))
        .close()
        .part();

impl Span {
    pub fn read(&self, reader: &mut Reader) -> Option<SpanOf> {
        Some(match self {
            Span::Full {} => SpanOf::Full,
            Span::Inset { left, right } => {
                let left = reader.length("/say/span/left", left, Range::ZeroUp);
                let right = reader.length("/say/span/right", right, Range::ZeroUp);
                match (left?, right?) {
                    (l, r) if l < ROUNDING && r < ROUNDING => SpanOf::Full,
                    (l, r) => SpanOf::Inset(l, r),
                }
            }
            Span::Centred { width } => {
                SpanOf::Centred(reader.length("/say/span/width", width, Range::AboveZero)?)
            }
        })
    }
}

/// A slit is drawn as narrow as a contour can be cut, mm.
const SLIT: f64 = 0.1;

/// What is cut beside a bend of this radius, where nothing else is told.
pub fn usual_relief(stock: &SheetStock, radius: f64) -> ReliefOf {
    ReliefOf {
        kind: ReliefKind::default(),
        width: limits::relief_width(stock.t).value,
        depth: limits::relief_depth(stock.t, radius).value,
    }
}

/// What is cut beside a bend of this radius.
pub fn read_relief(
    reader: &mut Reader,
    told: &Option<Relief>,
    radius: f64,
    stock: &SheetStock,
) -> Option<ReliefOf> {
    let usual = usual_relief(stock, radius);
    let Some(told) = told else { return Some(usual) };
    let torn = told.kind == ReliefKind::Torn;
    let width = if torn { SLIT } else { usual.width };
    let width = reader.length_or("/say/relief/width", &told.width, Range::AboveZero, width);
    let depth = reader.length_or("/say/relief/depth", &told.depth, Range::AboveZero, usual.depth);
    let width = width?;
    Some(ReliefOf { kind: told.kind, width: if torn { width.min(SLIT) } else { width }, depth: depth? })
}

/// An inside radius: the piece's own where none is told.
pub fn read_radius(reader: &mut Reader, path: &str, text: &str, stock: &SheetStock) -> Option<f64> {
    reader.length_or(path, text, Range::ZeroUp, stock.r)
}

/// The rule of a line that tells its own.
pub fn read_rule(reader: &Reader, at: &str, told: &Option<BendRule>) -> Option<Rule> {
    told.as_ref().map(|r| Rule::read(reader, &format!("{at}/bend_rule"), r))
}

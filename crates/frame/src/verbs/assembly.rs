//! `assembly`: lines whose pieces are welded together first.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "assembly",
    stem: "assembly",
    about: "Lines whose pieces are welded together first, under a mark of their own.",
    role: Role::Other,
    starts: &[Start {
        key: 'a',
        name: "weld first",
        mm: "assembly \"\" side: $member",
        inch: "assembly \"\" side: $member",
    }],
    offers: &[],
    sentence: &[
        verb("Weld first|assembly"),
        name("/mark", "mark", Kind::Word),
        name("/name", "name", Kind::Word),
        sign(":"),
        names_or("/of", "lines", Kind::Line, "no line"),
    ],
    examples: &["assembly F-1A side: post-1 and rail-2"],
};

spoken! {
    /// Lines whose pieces are welded together first.
    pub struct AssemblySaid {
        pub mark: String,
        pub name: String,
        pub of: Vec<String>,
    }
}

//! `mirror` of a frame: everything told above, or the lines named, again on the other side of a plane.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "mirror_frame",
    stem: "mirror",
    about: "Everything told above, or the lines named, again on the other side of a plane.",
    role: Role::Other,
    starts: &[Start {
        key: 'y',
        name: "mirror",
        mm: "mirror across east at 0",
        inch: "mirror across east at 0",
    }],
    offers: &[],
    sentence: &[
        verb("Mirror|mirror"),
        names_or("/of", "lines", Kind::Line, "everything above"),
        printed("across|across|about"),
        pick("/across", "across", WAYS),
        printed("at"),
        length("/at", "at"),
    ],
    examples: &["mirror across east at 0", "mirror post-1 and rail-1 across north at 300"],
};

pub const WAYS: &[(&str, &str)] = &[("east", "east"), ("north", "north"), ("up", "up")];

word! {
    /// A direction of the shop floor: east x, north y, up z.
    pub enum Way {
        #[default]
        East,
        North,
        Up,
    }
}

spoken! {
    /// Everything told above (or the lines named), again on the other side of a plane.
    pub struct MirrorFrame {
        pub of: Vec<String>,
        pub across: Way,
        pub at: String,
    }
}

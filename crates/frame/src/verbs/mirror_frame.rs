//! `mirror` of a frame: everything told above, or the lines named, again on the other side of a plane.

use grammar::*;
use ground::reader::{Range, Reader};

use crate::build::copying::lines_named;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};
use crate::choices::FrameAxis;

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

spoken! {
    /// Everything told above (or the lines named), again on the other side of a plane.
    pub struct MirrorFrame {
        pub of: Vec<String>,
        pub across: FrameAxis,
        pub at: String,
    }
}

struct MirrorSpec {
    of: Vec<String>,
    across: FrameAxis,
    at: f64,
}

impl Spoken for MirrorFrame {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let at = reader.length("/say/at", &self.at, Range::Any)?;
        Some(Spec::Shapes(Box::new(MirrorSpec { of: self.of.clone(), across: self.across, at })))
    }
}

impl Shapes for MirrorSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let of = lines_named(turn, &self.of)?;
        skeleton.mirror(turn, self.across.unit(), self.at, &of)
    }
}

//! `assembly`: lines whose pieces are welded together first.

use grammar::*;
use ground::reader::Reader;

use crate::build::copying::lines_named;
use crate::build::overrides::Assembly;
use crate::build::overrides::FrameOverrides;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Spec, Spoken, Tells, Turn, Usual};

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

struct AssemblySpec {
    assembly: Assembly,
    of: Vec<String>,
}

impl Spoken for AssemblySaid {
    fn read(&self, _: &mut Reader, _: &Usual) -> Option<Spec> {
        let assembly = Assembly { mark: self.mark.trim().into(), name: self.name.trim().into(), copies: 0 };
        Some(Spec::Tells(Box::new(AssemblySpec { assembly, of: self.of.clone() })))
    }
}

impl Tells for AssemblySpec {
    fn tell(&self, turn: &mut Turn, _: &Skeleton, told: &mut FrameOverrides) -> Option<()> {
        let of = lines_named(turn, &self.of)?;
        told.assemblies.push((self.assembly.clone(), of));
        Some(())
    }
}

//! `stack`: blocks and plates stacked on a point.

use glam::{DVec2, DVec3};
use grammar::*;
use ground::geom::Contour;
use ground::reader::{Range, Reader};

use crate::build::plates::Cutting;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "stack",
    stem: "stack",
    about: "Blocks and plates stacked on a point: pads, shims.",
    role: Role::Other,
    starts: &[Start {
        key: 'k',
        name: "stack",
        mm: "stack on $node: 100 x 100 x 20",
        inch: "stack on $node: 4 x 4 x 3/4",
    }],
    offers: &[],
    sentence: &[
        verb("Stack|stack"),
        printed("on"),
        name("/at", "node", Kind::Node),
        sign(":"),
        Part::List(List {
            path: "/blocks",
            label: "block",
            item: &[
                Slot::new("/name", "block {n} name", Kind::Word).usual("block").part(),
                length("/length", "block {n} east"),
                word("×|x|by"),
                length("/width", "block {n} north"),
                word("×|x|by"),
                length("/height", "block {n} up"),
            ],
            lead: "",
            between: ",",
            ids: Ids::None,
            least: 1,
            adds: &[("block", "100 x 100 x 20", "4 x 4 x 3/4")],
            close: false,
            chain: false,
        }),
    ],
    examples: &["stack on B: 100 x 80 x 20, shim 60 x 60 x 5"],
};

spoken! {
    /// Blocks and plates stacked on a point.
    pub struct StackSaid {
        pub at: String,
        pub blocks: Vec<Block>,
    }
}

fn block() -> String {
    "block".into()
}

spoken! {
    pub struct Block {
        #[serde(default = "block")]
        pub name: String,
        /// East.
        pub length: String,
        /// North.
        pub width: String,
        pub height: String,
    }
}

struct StackSpec {
    at: String,
    blocks: Vec<BlockSpec>,
}

struct BlockSpec {
    name: String,
    /// East and north.
    size: DVec2,
    height: f64,
}

/// Blocks on one point.
const MOST_BLOCKS: usize = 50;

impl Spoken for StackSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        if self.blocks.len() > MOST_BLOCKS {
            reader.refuse_at(
                "/say/blocks",
                format!("{} blocks are told; {MOST_BLOCKS} is the most", self.blocks.len()),
                "tell the rest on a node of their own",
            );
            return None;
        }
        let mut blocks = Vec::new();
        for (i, block) in self.blocks.iter().enumerate() {
            let mut size = |field: &str, text: &str| {
                reader.length(&format!("/say/blocks/{i}/{field}"), text, Range::AboveZero)
            };
            let (length, width) = (size("length", &block.length), size("width", &block.width));
            let height = size("height", &block.height)?;
            let name = if block.name.trim().is_empty() { "block" } else { block.name.trim() };
            blocks.push(BlockSpec { name: name.into(), size: DVec2::new(length?, width?), height });
        }
        Some(Spec::Plates(Box::new(StackSpec { at: self.at.clone(), blocks })))
    }
}

impl Plates for StackSpec {
    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let mut o = skeleton.nodes[skeleton.known(turn.tell, "/say/at", &self.at)?].at;
        let mut out = Vec::new();
        for (i, block) in self.blocks.iter().enumerate() {
            let (size, height) = (block.size, block.height);
            let outline = Contour::rectangle(-size / 2.0, size / 2.0, 0);
            // What lies at the bottom stands on nothing that it is welded to.
            let weld = if i == 0 { 0.0 } else { 2.0 * (size.x + size.y) };
            let plate = Cutting::new(&block.name, outline, height, o, DVec3::X, DVec3::Y);
            out.push(plate.part(&format!("{}", i + 1)).welded(weld, height));
            o.z += height;
        }
        Some(out)
    }
}

//! What stands out of a face and leaves the blank its size: ribs, beads, louvres, dimples and collars, which
//! are pressed (a collar takes its pilot hole out), and pads, which are laid on.

use std::sync::Arc;

use ground::geom::Contour;
use ground::quantity::Display;
use shop::Material;
use shop::limits::{self, Limit};

/// What is pressed; lengths in mm.
#[derive(Clone, Debug, PartialEq)]
pub enum Pressed {
    /// Across a bend: name of the bend's zone, depth along each leg from the inside sharp.
    Rib {
        bend: String,
        flat: bool,
        depth: f64,
        width: f64,
        draft: f64,
        inner: f64,
        outer: f64,
    },
    Bead {
        flat: bool,
        depth: f64,
        width: f64,
        length: f64,
        up: bool,
    },
    Louvre {
        length: f64,
        width: f64,
        height: f64,
        up: bool,
    },
    Dimple {
        diameter: f64,
        depth: f64,
        up: bool,
    },
    /// `pilot` is the hole cut for it.
    Collar {
        diameter: f64,
        height: f64,
        pilot: f64,
        up: bool,
    },
    /// A piece of its own that lies on a face; `outline` about its own middle.
    Pad {
        outline: Contour,
        /// What it is, as a mark says it: `60 × 40`.
        size: String,
        thickness: f64,
        material: Arc<Material>,
        up: bool,
    },
}

impl Pressed {
    /// The side it stands out on; a rib stands into the bend.
    pub fn up(&self) -> Option<bool> {
        match self {
            Pressed::Rib { .. } => None,
            Pressed::Bead { up, .. }
            | Pressed::Louvre { up, .. }
            | Pressed::Dimple { up, .. }
            | Pressed::Collar { up, .. }
            | Pressed::Pad { up, .. } => Some(*up),
        }
    }

    /// What the trade calls it.
    pub fn kind(&self) -> &'static str {
        match self {
            Pressed::Rib { .. } => "rib",
            Pressed::Bead { .. } => "bead",
            Pressed::Louvre { .. } => "louvre",
            Pressed::Dimple { .. } => "dimple",
            Pressed::Collar { .. } => "collar",
            Pressed::Pad { .. } => "pad",
        }
    }

    /// Laid on, not pressed.
    pub fn is_pad(&self) -> bool {
        matches!(self, Pressed::Pad { .. })
    }

    /// How far it may stand out of a sheet of this thickness.
    pub fn highest(&self, t: f64) -> Option<Limit> {
        match self {
            Pressed::Bead { width, .. } => Some(limits::bead_depth(*width, t)),
            Pressed::Dimple { diameter, .. } => Some(limits::dimple_depth(*diameter)),
            Pressed::Louvre { .. } => Some(limits::louvre_height(t)),
            Pressed::Rib { .. } | Pressed::Collar { .. } | Pressed::Pad { .. } => None,
        }
    }

    /// How far it stands out.
    pub fn height(&self) -> f64 {
        match self {
            Pressed::Rib { depth, .. } | Pressed::Bead { depth, .. } | Pressed::Dimple { depth, .. } => {
                *depth
            }
            Pressed::Louvre { height, .. } | Pressed::Collar { height, .. } => *height,
            Pressed::Pad { thickness, .. } => *thickness,
        }
    }

    /// `louvre 60 × 12, 6 up`: what is pressed, and on which side it stands out.
    pub fn mark(&self, display: &Display) -> String {
        let n = |v: f64| display.brief(v);
        let side = |up: bool| if up { "up" } else { "down" };
        match self {
            Pressed::Rib { flat, depth, width, .. } => {
                format!(
                    "{} rib {} deep, {} wide, into the bend",
                    if *flat { "flat" } else { "round" },
                    n(*depth),
                    n(*width)
                )
            }
            Pressed::Bead { depth, width, length, up, .. } => {
                format!("bead {} × {}, {} {}", n(*length), n(*width), n(*depth), side(*up))
            }
            Pressed::Louvre { length, width, height, up } => {
                format!("louvre {} × {}, {} {}", n(*length), n(*width), n(*height), side(*up))
            }
            Pressed::Dimple { diameter, depth, up } => {
                format!("dimple ⌀{}, {} {}", n(*diameter), n(*depth), side(*up))
            }
            Pressed::Pad { size, thickness, material, up, .. } => {
                let back = if *up { "" } else { ", back" };
                format!("pad {size} × {} {}{back}", display.thickness(*thickness), material.name)
            }
            Pressed::Collar { diameter, height, pilot, up } => {
                format!("collar ⌀{} × {} {}, pilot ⌀{}", n(*diameter), n(*height), side(*up), n(*pilot))
            }
        }
    }
}

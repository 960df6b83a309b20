//! What lines tell besides the skeleton, gathered on the way and carried out when it stands.

use std::collections::HashMap;

use crate::build::plate_holes::PlateHoles;
use crate::build::rims::Rim;
use crate::choices::{JointHow, WeldKind};

#[derive(Default)]
pub struct FrameOverrides {
    /// By node.
    pub joints: HashMap<usize, JointOverride>,
    pub welds: Vec<WeldTold>,
    /// Each with the lines that it is made of.
    pub assemblies: Vec<(Assembly, Vec<String>)>,
    /// Holes in plates, cut when those stand.
    pub plate_holes: Vec<PlateHoles>,
    /// Flanges round the openings of hoppers and transitions.
    pub rims: Vec<Rim>,
}

/// Welds at nodes; none named means everywhere.
pub struct WeldTold {
    pub at: Vec<usize>,
    pub kind: WeldKind,
    /// Leg of a fillet, mm; none for the smallest by rule.
    pub size: Option<f64>,
}

/// A sub-assembly as told.
#[derive(Clone, Debug)]
pub struct Assembly {
    pub mark: String,
    pub name: String,
    pub copies: usize,
}

/// A joint as told, for the nodes it names.
#[derive(Clone, Debug)]
pub struct JointOverride {
    pub line: String,
    pub how: JointHow,
    /// Roots of the members in the order they run through.
    pub first: Vec<usize>,
    pub gap: Option<f64>,
}

//! Materials of the shop's own.

use serde::{Deserialize, Serialize};

use crate::shopbook::{Bent, Stuff};

said! {
    /// A material that the book does not have.
    pub struct OwnMaterial {
        /// What pieces and frames call it; none of the book's.
        pub id: String,
        pub name: String,
        /// kg/m³.
        pub density: String,
        /// Tensile strength, MPa, for press forces; empty for none told.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub strength: String,
        /// Smallest inside radius in thicknesses; empty for one.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        /// Of a kilogram, in the shop's money; empty where costs are not told.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub cost: String,
        /// Metal is welded, plastic cracks, film folds, wood is drilled.
        #[serde(default)]
        pub stuff: Stuff,
        #[serde(default)]
        pub bent: Bent,
    }
}

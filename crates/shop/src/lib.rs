//! What the shop knows: materials, gauges, bend schools and the limits of sheet work, each with its source.

use std::sync::Arc;

pub mod bend;
pub mod bend_book;
pub mod brake;
pub mod gauge;
pub mod limits;
mod material;
pub mod section;
pub mod settings;
mod thickness;
pub mod threads;
pub mod tolerances;

pub use bend::{Allowance, BendMethod, BendRule, Handbook};
pub use material::{Bent, Material, RadiusRule, Stuff, materials};
pub use section::{Section, Shape};
pub use settings::{FrameShop, SheetShop, Shop};
pub use thickness::{THICKEST, TOO_THICK, gauge_number, thickness};

/// The material of the book with this id.
pub fn material(id: &str) -> Option<&'static Arc<Material>> {
    materials().iter().find(|m| m.id == id)
}

/// The smallest radius of a material by how it is bent.
pub fn radius_rule(bent: Bent, factor: f64) -> RadiusRule {
    if matches!(bent, Bent::Not | Bent::Scored) { RadiusRule::NotBent } else { RadiusRule::Factor(factor) }
}

/// The materials of a job: the book's, and its own.
#[derive(Clone, Debug, Default)]
pub struct Shelf {
    pub own: Vec<Arc<Material>>,
}

impl Shelf {
    pub fn material(&self, id: &str) -> Option<Arc<Material>> {
        material(id).or_else(|| self.own.iter().find(|m| m.id == id)).cloned()
    }

    /// All of them with their ids, for who named another.
    pub fn said(&self) -> String {
        let all: Vec<String> =
            self.own.iter().chain(materials()).map(|m| format!("{} ({})", m.id, m.name)).collect();
        format!("pick one of {}", all.join(", "))
    }
}

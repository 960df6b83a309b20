//! What the shop knows: materials, gauges, bend schools and the limits of sheet work, each with its source.

pub mod bend;
pub mod bend_book;
pub mod brake;
pub mod gauge;
pub mod limits;
mod material;
pub mod section;

pub use bend::{Allowance, BendRule, Handbook, School};
pub use material::{Bent, Material, Stuff, materials};
pub use section::{Section, Shape};

/// The material with this id.
pub fn material(id: &str) -> Option<&'static Material> {
    materials().iter().find(|m| m.id == id)
}

/// The materials with their ids, for who named another.
pub fn materials_said() -> String {
    let all: Vec<String> = materials().iter().map(|m| format!("{} ({})", m.id, m.name)).collect();
    format!("pick one of {}", all.join(", "))
}

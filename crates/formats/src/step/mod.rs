//! STEP (ISO 10303-21, AP214): bodies by their faces, planes and cylinders as what they are, millimetres.

mod bar;
mod bent;
mod borders;
mod cubics;
mod drilled;
mod ends;
mod facets;
mod file;
mod frame;
mod planes;
mod sheet;
mod shell;
mod stretches;
mod well;

use steelk_core::result::PieceResult;

use file::Solid;
pub use frame::{frame, member};
pub use sheet::NoBody;

/// A formed piece as one solid. `saved_at`, seconds since 1970, is the time in its head: the same job gives
/// the same bytes.
pub fn piece(p: &PieceResult, saved_at: i64) -> Result<Vec<u8>, NoBody> {
    let name = [p.mark.as_str(), p.name.as_str()].join(" ").trim().to_string();
    let solid = Solid { shell: sheet::shell(p)?, name: name.clone(), material: p.material.clone() };
    Ok(file::write(&[solid], &name, &p.material, saved_at))
}

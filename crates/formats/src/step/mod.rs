//! STEP (ISO 10303-21, AP214): bodies by their faces, planes and cylinders as what they are, millimetres.

mod borders;
mod file;
mod sheet;
mod shell;
mod well;

use steelk_core::result::PieceResult;

pub use sheet::NoBody;

/// A formed piece as one solid. `saved_at`, seconds since 1970, is the time in its head: the same job gives
/// the same bytes.
pub fn piece(p: &PieceResult, saved_at: i64) -> Result<Vec<u8>, NoBody> {
    let shell = sheet::shell(p)?;
    let name = [p.mark.as_str(), p.name.as_str()].join(" ");
    Ok(file::write(&shell, name.trim(), &p.material, saved_at))
}

//! Reading and writing: SVG, PDF, DXF, CSV, spreadsheet, STL, GLB and the job file. No rules of the trade
//! live here.

pub mod csv;
pub mod drawn;
pub mod dxf;
pub mod holes;
pub mod jobfile;
pub mod layers;
pub mod mesh;
pub mod name;
pub mod pdf;
pub mod skeleton;
pub mod step;
pub mod strict;
pub mod svg;
pub mod table;
pub mod xlsx;
pub mod zipped;

/// What a drawing holds, whatever its format.
pub fn drawing(bytes: &[u8], options: &drawn::Options) -> Result<drawn::Content, drawn::DrawingError> {
    if drawn::is_svg(bytes) { svg::read(bytes, options) } else { dxf::read(bytes, options) }
}

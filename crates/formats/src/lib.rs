//! Reading and writing: SVG, PDF, DXF, CSV, spreadsheet, STL, GLB and the job file. No rules of the trade
//! live here.

pub mod csv;
pub mod dxf;
pub mod holes;
pub mod jobfile;
pub mod mesh;
pub mod name;
pub mod pdf;
pub mod skeleton;
pub mod strict;
pub mod svg;
pub mod table;
pub mod xlsx;
pub mod zipped;

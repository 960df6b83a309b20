//! Several files as one.

use std::io::{Cursor, Write};

use zip::result::ZipError;
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

/// Files with their paths within the archive. The same files give the same bytes: no clock goes in.
pub fn zip(files: &[(String, Vec<u8>)]) -> Result<Vec<u8>, ZipError> {
    let mut out = ZipWriter::new(Cursor::new(Vec::new()));
    let how = SimpleFileOptions::default().compression_method(CompressionMethod::Deflated);
    for (path, bytes) in files {
        out.start_file(path.as_str(), how)?;
        out.write_all(bytes)?;
    }
    Ok(out.finish()?.into_inner())
}

//! Which way up a picture was taken: the orientation of its Exif data (CIPA DC-008, tag 0x0112).

/// How the picture as it is stored becomes the picture as it was seen: rows and columns change places,
/// and are
/// then counted from the other end.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Turned {
    pub lies: bool,
    /// The stored columns from the right.
    pub across: bool,
    /// The stored rows from below.
    pub over: bool,
}

/// Of a TIFF structure, with or without the mark that a JPEG puts before it. What cannot be read says
/// nothing.
pub fn turned(exif: &[u8]) -> Turned {
    let exif = exif.strip_prefix(b"Exif\0\0").unwrap_or(exif);
    let of = |lies, across, over| Turned { lies, across, over };
    match orientation(exif) {
        Some(2) => of(false, true, false),
        Some(3) => of(false, true, true),
        Some(4) => of(false, false, true),
        Some(5) => of(true, false, false),
        Some(6) => of(true, false, true),
        Some(7) => of(true, true, true),
        Some(8) => of(true, true, false),
        _ => Turned::default(),
    }
}

fn orientation(tiff: &[u8]) -> Option<u16> {
    let little = match tiff.get(..4)? {
        b"II*\0" => true,
        b"MM\0*" => false,
        _ => return None,
    };
    let short = |at: usize| {
        let b: [u8; 2] = tiff.get(at..at.checked_add(2)?)?.try_into().ok()?;
        Some(if little { u16::from_le_bytes(b) } else { u16::from_be_bytes(b) })
    };
    let long = |at: usize| {
        let b: [u8; 4] = tiff.get(at..at.checked_add(4)?)?.try_into().ok()?;
        Some(if little { u32::from_le_bytes(b) } else { u32::from_be_bytes(b) })
    };
    let directory = long(4)? as usize;
    let entries = usize::from(short(directory)?);
    let at = |k: usize| directory.checked_add(2 + 12 * k);
    (0..entries).filter_map(at).find(|e| short(*e) == Some(0x0112)).and_then(|e| short(e.checked_add(8)?))
}

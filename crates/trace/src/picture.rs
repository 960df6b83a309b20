//! A PNG or JPEG as grey values, upright as its own data say.

use std::io::Cursor;

use glam::DVec2;
use image::{DynamicImage, ImageDecoder, ImageReader, Limits};

/// Larger pictures are refused before they are unpacked.
pub const MOST_PIXELS: u64 = 40_000_000;

#[derive(Debug, thiserror::Error)]
pub enum PictureError {
    #[error("the picture cannot be read: {0}")]
    Read(String),
    #[error("the picture has {wide} × {high} pixels; {} million at most are taken", MOST_PIXELS / 1_000_000)]
    TooLarge { wide: u32, high: u32 },
}

/// Grey values, row by row from the top.
pub struct Gray {
    pub wide: usize,
    pub high: usize,
    data: Vec<u8>,
}

/// Unpacked, turned as it was taken (Exif), its colours weighed to grey (ITU-R BT.709).
pub fn read(bytes: &[u8]) -> Result<Gray, PictureError> {
    let bad = |e: image::ImageError| PictureError::Read(e.to_string());
    let mut reader = ImageReader::new(Cursor::new(bytes))
        .with_guessed_format()
        .map_err(|e| PictureError::Read(e.to_string()))?;
    let mut limits = Limits::default();
    limits.max_alloc = Some(4 * MOST_PIXELS + (16 << 20));
    reader.limits(limits);
    let mut decoder = reader.into_decoder().map_err(bad)?;
    let (wide, high) = decoder.dimensions();
    if u64::from(wide) * u64::from(high) > MOST_PIXELS {
        return Err(PictureError::TooLarge { wide, high });
    }
    let turned = decoder.orientation().map_err(bad)?;
    let mut picture = DynamicImage::from_decoder(decoder).map_err(bad)?;
    picture.apply_orientation(turned);
    let gray = picture.into_luma8();
    Ok(Gray { wide: gray.width() as usize, high: gray.height() as usize, data: gray.into_raw() })
}

impl Gray {
    /// `data` row by row, `wide` values each.
    pub fn new(wide: usize, high: usize, data: Vec<u8>) -> Option<Gray> {
        (wide > 1 && high > 1 && data.len() == wide * high).then_some(Gray { wide, high, data })
    }

    /// Between the four nearest pixels; the nearest of the rim beyond it.
    pub fn at(&self, p: DVec2) -> f64 {
        let x = (p.x - 0.5).clamp(0.0, self.wide as f64 - 1.001);
        let y = (p.y - 0.5).clamp(0.0, self.high as f64 - 1.001);
        let (i, j) = (x as usize, y as usize);
        let (u, v) = (x - i as f64, y - j as f64);
        let value = |i: usize, j: usize| f64::from(self.data[j * self.wide + i]);
        let (i1, j1) = ((i + 1).min(self.wide - 1), (j + 1).min(self.high - 1));
        (value(i, j) * (1.0 - u) + value(i1, j) * u) * (1.0 - v)
            + (value(i, j1) * (1.0 - u) + value(i1, j1) * u) * v
    }

    pub fn holds(&self, p: DVec2) -> bool {
        p.x >= 0.0 && p.y >= 0.0 && p.x <= self.wide as f64 && p.y <= self.high as f64
    }

    pub fn bytes(&self) -> usize {
        self.data.len()
    }
}

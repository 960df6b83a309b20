//! A PNG or JPEG as grey values, upright as its own data say.

use std::io::Cursor;

use glam::DVec2;
use zune_jpeg::JpegDecoder;
use zune_jpeg::zune_core::colorspace::ColorSpace;
use zune_jpeg::zune_core::options::DecoderOptions;

use super::exif::{Turned, turned};

/// Larger pictures are refused before they are unpacked.
pub const MOST_PIXELS: u64 = 40_000_000;

#[derive(Debug, thiserror::Error)]
pub enum PictureError {
    #[error("the picture cannot be read: {0}")]
    Read(String),
    #[error("the picture has {wide} × {high} pixels; {} million at most are taken", MOST_PIXELS / 1_000_000)]
    TooLarge { wide: usize, high: usize },
}

/// Grey values, row by row from the top.
pub struct Gray {
    pub wide: usize,
    pub high: usize,
    data: Vec<u8>,
}

/// Unpacked, turned as it was taken (Exif), its colours weighed to grey (ITU-R BT.709).
pub fn read(bytes: &[u8]) -> Result<Gray, PictureError> {
    if bytes.starts_with(&[0xff, 0xd8]) { jpeg(bytes) } else { png(bytes) }
}

fn bad(e: impl std::fmt::Debug) -> PictureError {
    PictureError::Read(format!("{e:?}"))
}

fn bounded(wide: usize, high: usize) -> Result<(), PictureError> {
    match (wide as u64).saturating_mul(high as u64) {
        0..=1 => Err(PictureError::Read("it has no size".into())),
        n if n > MOST_PIXELS => Err(PictureError::TooLarge { wide, high }),
        _ => Ok(()),
    }
}

fn jpeg(bytes: &[u8]) -> Result<Gray, PictureError> {
    let options = DecoderOptions::default()
        .set_strict_mode(false)
        .set_max_width(1 << 16)
        .set_max_height(1 << 16)
        .jpeg_set_out_colorspace(ColorSpace::RGB);
    let mut decoder = JpegDecoder::new_with_options(Cursor::new(bytes), options);
    decoder.decode_headers().map_err(bad)?;
    let info = decoder.info().ok_or_else(|| bad("it has no head"))?;
    let (wide, high) = (usize::from(info.width), usize::from(info.height));
    bounded(wide, high)?;
    let turn = decoder.exif().map_or(Turned::default(), |e| turned(e));
    let data = decoder.decode().map_err(bad)?;
    let parts = decoder.output_colorspace().map_or(3, |c| c.num_components());
    gray(wide, high, parts, &data).map(|g| g.upright(turn))
}

fn png(bytes: &[u8]) -> Result<Gray, PictureError> {
    let limits = png::Limits { bytes: 4 * MOST_PIXELS as usize + (16 << 20) };
    let mut decoder = png::Decoder::new_with_limits(Cursor::new(bytes), limits);
    // Palettes, single bits and sixteen of them all become eight.
    decoder.set_transformations(png::Transformations::normalize_to_color8());
    let mut reader = decoder.read_info().map_err(bad)?;
    let (wide, high) = (reader.info().width as usize, reader.info().height as usize);
    bounded(wide, high)?;
    let turn = reader.info().exif_metadata.as_ref().map_or(Turned::default(), |e| turned(e));
    let size = reader.output_buffer_size().ok_or_else(|| bad("it is too large"))?;
    let mut data = vec![0; size];
    let frame = reader.next_frame(&mut data).map_err(bad)?;
    let parts = frame.color_type.samples();
    gray(wide, high, parts, &data[..frame.buffer_size()]).map(|g| g.upright(turn))
}

/// `parts` values a pixel: grey, grey and alpha, red green blue, and alpha.
fn gray(wide: usize, high: usize, parts: usize, data: &[u8]) -> Result<Gray, PictureError> {
    let weigh = |p: &[u8]| {
        (f32::from(p[0]) * 0.2126 + f32::from(p[1]) * 0.7152 + f32::from(p[2]) * 0.0722).round() as u8
    };
    let data: Vec<u8> = match parts {
        1 => data.to_vec(),
        2 => data.chunks_exact(2).map(|p| p[0]).collect(),
        3 | 4 => data.chunks_exact(parts).map(weigh).collect(),
        _ => return Err(PictureError::Read(format!("{parts} values a pixel"))),
    };
    Gray::new(wide, high, data).ok_or_else(|| PictureError::Read("it ends in its middle".into()))
}

impl Gray {
    /// `data` row by row, `wide` values each.
    pub fn new(wide: usize, high: usize, data: Vec<u8>) -> Option<Gray> {
        (wide > 1 && high > 1 && data.len() == wide * high).then_some(Gray { wide, high, data })
    }

    /// Turned and mirrored as it was taken.
    fn upright(self, by: Turned) -> Gray {
        if by == Turned::default() {
            return self;
        }
        let (w, h) = if by.lies { (self.high, self.wide) } else { (self.wide, self.high) };
        let mut data = Vec::with_capacity(self.data.len());
        for y in 0..h {
            for x in 0..w {
                let (mut i, mut j) = if by.lies { (y, x) } else { (x, y) };
                if by.across {
                    i = self.wide - 1 - i;
                }
                if by.over {
                    j = self.high - 1 - j;
                }
                data.push(self.data[j * self.wide + i]);
            }
        }
        Gray { wide: w, high: h, data }
    }

    /// Between the four nearest pixels; the nearest of the rim beyond it.
    pub fn at(&self, p: DVec2) -> f64 {
        let x = (p.x - 0.5).clamp(0.0, self.wide as f64 - 1.0);
        let y = (p.y - 0.5).clamp(0.0, self.high as f64 - 1.0);
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

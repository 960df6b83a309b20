//! Drawings as PDF pages at true size. The SVG is drawn once and carried over, so paper and screen cannot
//! differ.

use std::sync::{Arc, OnceLock};

use chrono::{Datelike, Timelike};
use krilla::Document;
use krilla::geom::Size;
use krilla::metadata::{DateTime, Metadata};
use krilla::page::PageSettings;
use krilla_svg::{SurfaceExt, SvgSettings};
use steelk_core::drawing::Drawing;

#[derive(Debug, thiserror::Error)]
#[error("the PDF could not be written: {0}")]
pub struct PdfError(String);

fn fonts() -> Arc<usvg::fontdb::Database> {
    static FONTS: OnceLock<Arc<usvg::fontdb::Database>> = OnceLock::new();
    FONTS
        .get_or_init(|| {
            let mut db = usvg::fontdb::Database::new();
            db.load_font_data(include_bytes!("../fonts/Barlow-Regular.ttf").to_vec());
            db.load_font_data(include_bytes!("../fonts/Barlow-SemiBold.ttf").to_vec());
            db.load_font_data(include_bytes!("../fonts/IBMPlexMono-Regular.ttf").to_vec());
            Arc::new(db)
        })
        .clone()
}

/// What a paper says of itself to whoever looks at its properties.
#[derive(Clone, Debug, Default)]
pub struct About {
    /// `P-101 stand, template`.
    pub title: String,
    /// Job and revision.
    pub subject: String,
    /// When the job was saved, seconds since 1970; 0 for not known.
    pub saved_at: i64,
}

impl About {
    fn metadata(&self) -> Metadata {
        let mut m = Metadata::new()
            .title(self.title.clone())
            .description(self.subject.clone())
            .creator("Steelk".into())
            .language("en".into());
        if let Some(t) = chrono::DateTime::from_timestamp(self.saved_at, 0).filter(|_| self.saved_at > 0) {
            let at =
                DateTime::new(t.year().clamp(1970, 9999) as u16).month(t.month() as u8).day(t.day() as u8);
            let at = at
                .hour(t.hour() as u8)
                .minute(t.minute() as u8)
                .second(t.second() as u8)
                .utc_offset_hour(0)
                .utc_offset_minute(0);
            m = m.creation_date(at);
        }
        m
    }
}

/// One page a drawing, each as large as its drawing.
pub fn pdf(pages: &[Drawing], about: &About) -> Result<Vec<u8>, PdfError> {
    let options = usvg::Options { fontdb: fonts(), font_family: "Barlow".into(), ..usvg::Options::default() };
    let mut document = Document::new();
    document.set_metadata(about.metadata());
    for drawing in pages {
        let text = crate::svg::svg(drawing);
        let tree = usvg::Tree::from_str(&text, &options).map_err(|e| PdfError(e.to_string()))?;
        // PDF points: 72 to the inch.
        let points = drawing.size * 72.0 / 25.4;
        let size = Size::from_wh(points.x as f32, points.y as f32)
            .ok_or_else(|| PdfError("a page has no size".into()))?;
        let mut page = document.start_page_with(PageSettings::new(size));
        let mut surface = page.surface();
        surface
            .draw_svg(&tree, size, SvgSettings::default())
            .ok_or_else(|| PdfError("a page could not be drawn".into()))?;
        surface.finish();
        page.finish();
    }
    document.finish().map_err(|e| PdfError(format!("{e:?}")))
}

//! Drawings as PDF pages at true size. The SVG is drawn once and carried over, so paper and screen cannot differ.

use std::sync::{Arc, OnceLock};

use krilla::Document;
use krilla::geom::Size;
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

/// One page a drawing, each as large as its drawing.
pub fn pdf(pages: &[Drawing]) -> Result<Vec<u8>, PdfError> {
    let options = usvg::Options { fontdb: fonts(), font_family: "Barlow".into(), ..usvg::Options::default() };
    let mut document = Document::new();
    for drawing in pages {
        let text = crate::svg::svg(drawing);
        let tree = usvg::Tree::from_str(&text, &options).map_err(|e| PdfError(e.to_string()))?;
        // PDF points: 72 to the inch.
        let points = drawing.size * 72.0 / 25.4;
        let size = Size::from_wh(points.x as f32, points.y as f32).ok_or_else(|| PdfError("a page has no size".into()))?;
        let mut page = document.start_page_with(PageSettings::new(size));
        let mut surface = page.surface();
        surface.draw_svg(&tree, size, SvgSettings::default()).ok_or_else(|| PdfError("a page could not be drawn".into()))?;
        surface.finish();
        page.finish();
    }
    document.finish().map_err(|e| PdfError(format!("{e:?}")))
}

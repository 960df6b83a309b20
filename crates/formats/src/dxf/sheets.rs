//! Sheets of a drawing as a DXF: paper millimetres, one sheet beside the other, what is drawn by its pen on a
//! layer of its own.

use glam::DVec2;
use steelk_core::drawing::{Anchor, Drawing, Item, Pen};
use steelk_core::geom::{Bounds, Contour};
use steelk_core::quantity::LengthUnit;

use super::file::{CENTRE, File, HIDDEN};
use crate::layers::{BEND_DOWN, BEND_UP};

const EDGES: &str = "EDGES";
const THIN: &str = "THIN";
const TEXT: &str = "TEXT";

/// Layers and their colours by number.
const LAYERS: [(&str, i64); 7] =
    [(EDGES, 7), (HIDDEN, 8), (CENTRE, 8), (THIN, 9), (BEND_UP, 5), (BEND_DOWN, 30), (TEXT, 7)];
/// Between sheets, mm.
const GAP: f64 = 20.0;

/// `saved_at`, seconds since 1970, is the time in its head.
pub fn sheets(pages: &[Drawing], saved_at: i64) -> Vec<u8> {
    let mut file = File::default();
    let mut all = Bounds::of([DVec2::ZERO]);
    let mut left = 0.0;
    for page in pages {
        let origin = DVec2::new(left, page.size.y);
        all.add(DVec2::new(left, 0.0));
        all.add(DVec2::new(left + page.size.x, page.size.y));
        items(&mut file, &page.items, DVec2::ONE, origin);
        left += page.size.x + GAP;
    }
    file.finish(&LAYERS, LengthUnit::Mm, all, saved_at)
}

fn layer(pen: Pen) -> &'static str {
    match pen {
        Pen::Cut | Pen::Edge => EDGES,
        Pen::Hidden => HIDDEN,
        Pen::Centre => CENTRE,
        Pen::Hair | Pen::Faint => THIN,
        Pen::BendUp => BEND_UP,
        Pen::BendDown => BEND_DOWN,
    }
}

/// Paper grows downwards, the file upwards.
fn items(file: &mut File, list: &[Item], by: DVec2, origin: DVec2) {
    let at = |p: DVec2| origin + DVec2::new(p.x, -p.y) * by;
    for item in list {
        match item {
            Item::Line { a, b, pen } => file.line(layer(*pen), at(*a), at(*b)),
            Item::Path { points, pen } => {
                let points: Vec<DVec2> = points.iter().map(|p| at(*p)).collect();
                file.path(layer(*pen), &points);
            }
            Item::Shape { loops, pen, .. } => {
                loops.iter().for_each(|c| shape(file, layer(*pen), c, by.x, &at));
            }
            // Shades are for the eye, and the format keeps no picture within itself.
            Item::Facet { .. } | Item::Picture { .. } => {}
            Item::Text { at: p, text, size, anchor, turn, .. } => {
                let place = match anchor {
                    Anchor::Start => 0,
                    Anchor::Middle => 1,
                    Anchor::End => 2,
                };
                // Letters are told by the height of a capital.
                file.aligned(TEXT, at(*p), size * 0.7 * by.y, -turn.to_radians(), text, place);
            }
            Item::Window { items: inner, .. } => items(file, inner, by, origin),
            Item::Scaled { by: more, items: inner } => items(file, inner, by * *more, origin),
        }
    }
}

fn shape(file: &mut File, layer: &str, c: &Contour, by: f64, at: &impl Fn(DVec2) -> DVec2) {
    if let Some((centre, radius)) = c.as_circle() {
        file.circle(layer, at(centre), radius * by);
    } else {
        let corners: Vec<(DVec2, f64)> = c.vertices.iter().map(|v| (at(v.p), -v.bulge)).collect();
        file.polyline(layer, &corners);
    }
}

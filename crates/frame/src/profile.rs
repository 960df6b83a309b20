//! A section made ready for a frame: its outline in points, points to integrate over, and the ways it lies on
//! itself.

use std::sync::Arc;

use glam::{DMat2, DVec2};

use crate::choices::Alignment;
use ground::geom::Contour;
use shop::section::{Properties, Section};

#[derive(Clone, Debug)]
pub struct Profile {
    pub section: Section,
    pub properties: Properties,
    pub outer: Contour,
    pub holes: Vec<Contour>,
    /// The outline for finding what meets what: few points.
    pub outline: Arc<Vec<DVec2>>,
    /// The outline for lengths and pictures.
    pub fine: Vec<DVec2>,
    /// The same with its sides divided, for cuts that are not one plane.
    pub rim: Vec<DVec2>,
    /// Points and weights that integrate a linear function over the material exactly; weights add up to the
    /// area.
    pub spread: Vec<(DVec2, f64)>,
    pub symmetries: Vec<DMat2>,
}

/// Slices of the material that integrals are taken over.
const SLICES: usize = 64;

impl Profile {
    pub fn new(section: Section) -> Self {
        let (outer, holes) = section.shape.contours();
        let size = section.shape.size().max_element();
        let properties = section.shape.properties();
        let outline = Arc::new(if section.shape.is_round() {
            ring(section.shape.size().x / 2.0, 16)
        } else {
            outer.flatten(size * 0.02)
        });
        let fine = if section.shape.is_round() {
            ring(section.shape.size().x / 2.0, 48)
        } else {
            outer.flatten((size * 0.004).max(0.02))
        };
        let rim = divided(&fine, size / 16.0);
        let spread = spread(&outer, &holes, &properties);
        let symmetries = section.shape.symmetries();
        Profile { section, properties, outer, holes, outline, fine, rim, spread, symmetries }
    }

    /// The point of the section that lies on the member's line. Left is the left face: up stays up, looking
    /// from the start.
    pub fn sits(&self, at: Alignment) -> DVec2 {
        let h = self.section.shape.size() / 2.0;
        let p = |x: f64, y: f64| DVec2::new(h.x * x, h.y * y);
        match at {
            Alignment::Middle => DVec2::ZERO,
            Alignment::Centroid => self.properties.centroid,
            Alignment::Top => p(0.0, 1.0),
            Alignment::Bottom => p(0.0, -1.0),
            Alignment::Left => p(1.0, 0.0),
            Alignment::Right => p(-1.0, 0.0),
            Alignment::TopLeft => p(1.0, 1.0),
            Alignment::TopRight => p(-1.0, 1.0),
            Alignment::BottomLeft => p(1.0, -1.0),
            Alignment::BottomRight => p(-1.0, -1.0),
        }
    }

    /// Furthest the outline reaches in a direction of the section's plane.
    pub fn reach(&self, v: DVec2) -> f64 {
        if self.section.shape.is_round() {
            return self.section.shape.size().x / 2.0 * v.length();
        }
        self.fine.iter().map(|p| p.dot(v)).fold(f64::NEG_INFINITY, f64::max)
    }
}

/// A closed outline with no side longer than `longest`.
pub fn divided(outline: &[DVec2], longest: f64) -> Vec<DVec2> {
    let mut out = Vec::with_capacity(outline.len() * 4);
    for (i, &a) in outline.iter().enumerate() {
        let b = outline[(i + 1) % outline.len()];
        let parts = (a.distance(b) / longest).ceil().max(1.0) as usize;
        out.extend((0..parts).map(|k| a.lerp(b, k as f64 / parts as f64)));
    }
    out
}

/// Points of a circle, evenly.
pub fn ring(r: f64, n: usize) -> Vec<DVec2> {
    (0..n).map(|i| DVec2::from_angle(i as f64 / n as f64 * std::f64::consts::TAU) * r).collect()
}

fn spread(outer: &Contour, holes: &[Contour], properties: &Properties) -> Vec<(DVec2, f64)> {
    let b = outer.bounds();
    let chord = b.size().max_element() * 1e-4;
    let loops: Vec<Vec<DVec2>> = std::iter::once(outer).chain(holes).map(|c| c.flatten(chord)).collect();
    let step = b.size().y / SLICES as f64;
    let gauss = 0.5 / 3f64.sqrt();
    let mut out = Vec::with_capacity(SLICES * 4);
    for k in 0..SLICES {
        let z = b.min.y + (k as f64 + 0.5) * step;
        let mut cuts: Vec<f64> = Vec::new();
        for points in &loops {
            for (i, p) in points.iter().enumerate() {
                let q = points[(i + 1) % points.len()];
                if (p.y <= z) != (q.y <= z) {
                    cuts.push(p.x + (z - p.y) / (q.y - p.y) * (q.x - p.x));
                }
            }
        }
        cuts.sort_by(f64::total_cmp);
        for pair in cuts.chunks_exact(2) {
            let (a, w) = (pair[0], pair[1] - pair[0]);
            // Long slices take more points: a flange against a cope.
            let parts = (w / (b.size().x / 8.0)).ceil().clamp(1.0, 8.0);
            for i in 0..parts as usize {
                let middle = a + w * (i as f64 + 0.5) / parts;
                for g in [-gauss, gauss] {
                    out.push((DVec2::new(middle + g * w / parts, z), w / parts * step / 2.0));
                }
            }
        }
    }
    let sum: f64 = out.iter().map(|q| q.1).sum();
    let mean = out.iter().map(|q| q.0 * q.1).sum::<DVec2>() / sum.max(1e-12);
    out.iter().map(|q| (q.0 - mean + properties.centroid, q.1 * properties.area / sum.max(1e-12))).collect()
}

//! The picture on a job's ticket: its first pieces as they stand, light enough for a rack of hundreds.

use steelk_core::drawing::formed_sketch;
use steelk_core::geom::Contour;
use steelk_core::result::JobResult;
use steelk_core::sheet::mesh::FlatMesh;

/// Changed when tickets come to look otherwise.
pub const TICKET_LOOK: u32 = 3;

/// Facets of one piece on a ticket; the smallest are left out first.
const TICKET_FACETS: usize = 500;

/// Tones on a ticket.
const TONES: f64 = 14.0;

/// The outline with its small roundings as straight sides: on a ticket they are not seen.
fn plain(outer: &Contour) -> Contour {
    let small = outer.bounds().size().max_element() / 12.0;
    let mut out = outer.clone();
    let chords: Vec<f64> = outer.segments().map(|s| s.a.distance(s.b)).collect();
    for (v, chord) in out.vertices.iter_mut().zip(chords) {
        if chord < small {
            v.bulge = 0.0;
        }
    }
    out
}

/// The job's ticket picture: its first pieces, formed, side by side; without their holes, in a few kB.
pub fn ticket(result: &JobResult) -> String {
    use std::fmt::Write;
    use steelk_core::drawing::Item;
    let cell = glam::DVec2::new(60.0, 44.0);
    let mut facets: Vec<(Vec<glam::DVec2>, u32)> = Vec::new();
    for (i, p) in
        result.pieces.iter().filter(|p| p.made && p.flat.outer.vertices.len() < 2_000).take(3).enumerate()
    {
        let shift = glam::DVec2::new(cell.x * i as f64, 0.0);
        let light = FlatMesh::new(&plain(&p.flat.outer), &[], &[], &p.zones, p.thickness, true);
        let mut own: Vec<(Vec<glam::DVec2>, u32, f64)> = Vec::new();
        for item in formed_sketch(p, &light, cell.x, cell.y).items {
            if let Item::Facet { points, shade } = item {
                let area = (points[1] - points[0]).perp_dot(points[2] - points[0]).abs() / 2.0;
                own.push((
                    points.into_iter().map(|q| q + shift).collect(),
                    (shade * TONES).round() as u32,
                    area,
                ));
            }
        }
        if own.len() > TICKET_FACETS {
            let mut areas: Vec<f64> = own.iter().map(|f| f.2).collect();
            areas.sort_by(|a, b| b.total_cmp(a));
            let least = areas[TICKET_FACETS];
            own.retain(|f| f.2 > least);
        }
        facets.extend(own.into_iter().map(|(points, tone, _)| (points, tone)));
    }
    let pieces = result.pieces.iter().filter(|p| p.made).count().clamp(1, 3);
    let (w, h) = (cell.x * pieces as f64, cell.y);
    // Tenths of a millimetre, each corner told from the one before.
    let (wide, high) = (w * 10.0, h * 10.0);
    let mut out = format!(
        r#"<svg xmlns="http://www.w3.org/2000/svg" width="{w}mm" height="{h}mm" viewBox="0 0 {wide} {high}"
            stroke-width="1.5" stroke-linejoin="round">"#
    );
    // Facets that follow one another in one tone are one path.
    for run in facets.chunk_by(|a, b| a.1 == b.1) {
        let v = |from: f64, to: f64| (from + (to - from) * (f64::from(run[0].1) / TONES).min(1.0)) as u8;
        let colour = format!("#{:02x}{:02x}{:02x}", v(70.0, 226.0), v(72.0, 219.0), v(76.0, 205.0));
        let _ = write!(out, r#"<path fill="{colour}" stroke="{colour}" d=""#);
        for (points, _) in run {
            let spots: Vec<[i64; 2]> =
                points.iter().map(|p| [(p.x * 10.0).round() as i64, (p.y * 10.0).round() as i64]).collect();
            let _ = write!(out, "M{} {}l", spots[0][0], spots[0][1]);
            for (k, pair) in spots.windows(2).enumerate() {
                let _ = write!(
                    out,
                    "{}{} {}",
                    if k > 0 { " " } else { "" },
                    pair[1][0] - pair[0][0],
                    pair[1][1] - pair[0][1]
                );
            }
            out.push('z');
        }
        out.push_str(r#""/>"#);
    }
    out + "</svg>"
}

//! The formed piece as a picture: parallel projection from above and in front, facets shaded and painted from
//! the back.

use glam::{DVec2, DVec3};
use ground::geom::ROUNDING;

use super::{Drawing, Item};
use sheet::mesh::{FlatMesh, Solid};
use sheet::result::PieceResult;

/// A picture at most `width` × `height` mm.
pub fn formed_drawing(piece: &PieceResult, mesh: &FlatMesh, width: f64, height: f64) -> Drawing {
    let solid = mesh.solid(&piece.zones, 1.0, piece.thickness);
    let (items, _) = picture(&solid, width, height);
    Drawing { size: DVec2::new(width, height), title: format!("{} {} formed", piece.mark, piece.name), items }
}

/// The same in few facets, for small pictures.
pub fn formed_sketch(piece: &PieceResult, mesh: &FlatMesh, width: f64, height: f64) -> Drawing {
    let solid = mesh.solid(&piece.zones, 1.0, piece.thickness);
    Drawing {
        size: DVec2::new(width, height),
        title: String::new(),
        items: shaded(&solid, width, height, 4.0).0,
    }
}

/// Shaded facets of a solid, fitted into `width` × `height`, and where a point of space comes to lie.
pub fn facets(solid: &Solid, width: f64, height: f64) -> (Vec<Item>, impl Fn(DVec3) -> DVec2 + use<>) {
    shaded(solid, width, height, 6.0)
}

/// The same as fine as a page shows it.
pub fn picture(solid: &Solid, width: f64, height: f64) -> (Vec<Item>, impl Fn(DVec3) -> DVec2 + use<>) {
    shaded(solid, width, height, if solid.triangles.len() > 9_000 { 3.0 } else { 14.0 })
}

/// `fine`: facets are no longer than this part of the picture.
fn shaded(solid: &Solid, width: f64, height: f64, fine: f64) -> (Vec<Item>, impl Fn(DVec3) -> DVec2 + use<>) {
    let eye = DVec3::new(-0.55, -0.75, 0.6).normalize();
    let right = DVec3::Z.cross(eye).normalize();
    let up = eye.cross(right);
    let light = DVec3::new(-0.25, -0.45, 0.85).normalize();
    let seen: Vec<DVec2> = solid.points.iter().map(|p| DVec2::new(p.dot(right), -p.dot(up))).collect();
    let b = ground::geom::Bounds::of(seen.iter().copied());
    let size = b.size();
    let scale = if seen.is_empty() {
        1.0
    } else {
        ((width - 4.0) / size.x.max(1e-6)).min((height - 4.0) / size.y.max(1e-6))
    };
    let shift = DVec2::new(width, height) / 2.0 - b.centre() * scale;
    let mut facets: Vec<(f64, [DVec3; 3], f64)> = Vec::new();
    // Facets much longer than their neighbours cannot be ordered by depth: they are halved first.
    let longest = size.max_element() / fine;
    for t in &solid.triangles {
        let corners = t.map(|i| solid.points[i as usize]);
        let [a, b, c] = corners;
        let normal = (b - a).cross(c - a).normalize_or_zero();
        if normal.dot(eye) > ROUNDING {
            let shade = 0.35 + 0.65 * normal.dot(light).max(0.0);
            halved(corners, longest, &mut |t| facets.push(((t[0] + t[1] + t[2]).dot(eye), t, shade)));
        }
    }
    facets.sort_by(|p, q| p.0.total_cmp(&q.0));
    let at = move |p: DVec3| DVec2::new(p.dot(right), -p.dot(up)) * scale + shift;
    let items =
        facets.into_iter().map(|(_, t, shade)| Item::Facet { points: t.map(at).to_vec(), shade }).collect();
    (items, at)
}

/// Splits a triangle across its longest side until no side is longer than `longest`.
fn halved(t: [DVec3; 3], longest: f64, out: &mut impl FnMut([DVec3; 3])) {
    let mut stack = vec![t];
    while let Some(t) = stack.pop() {
        let sides = [0, 1, 2].map(|k| t[k].distance(t[(k + 1) % 3]));
        let k = (0..3).max_by(|&i, &j| sides[i].total_cmp(&sides[j])).unwrap_or(0);
        if sides[k] <= longest.max(1e-3) || stack.len() > 64 {
            out(t);
            continue;
        }
        let (a, b, c) = (t[k], t[(k + 1) % 3], t[(k + 2) % 3]);
        let middle = (a + b) / 2.0;
        stack.extend([[a, middle, c], [middle, b, c]]);
    }
}

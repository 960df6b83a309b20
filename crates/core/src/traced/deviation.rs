//! What is said, laid back over the picture: turned and shifted so that it lies nearest to what was found.

use glam::{DMat3, DVec2, DVec3};
use ground::geom::Contour;

/// The outline that is said, in the part's own coordinates, and how it lies in the picture's plane.
#[derive(Clone, Debug)]
pub struct Fit {
    pub contour: Contour,
    turn: f64,
    shift: DVec2,
    /// Names of arcs, and their middles in the picture's plane.
    pub arcs: Vec<(String, DVec2)>,
    /// Middles of the said outline's arcs, in the part.
    pub side_centres: Vec<DVec2>,
}

impl Fit {
    /// Not turned.
    pub fn shifted(contour: Contour, shift: DVec2) -> Fit {
        Fit { contour, turn: 0.0, shift, arcs: Vec::new(), side_centres: Vec::new() }
    }

    pub fn to_picture(&self, part: DVec2) -> DVec2 {
        DVec2::from_angle(-self.turn).rotate(part) + self.shift
    }

    pub fn to_part(&self, mm: DVec2) -> DVec2 {
        DVec2::from_angle(self.turn).rotate(mm - self.shift)
    }

    /// The middle of the said arc of this name: the one that lies nearest to where it was found.
    pub fn centre_of(&self, name: &str) -> Option<DVec2> {
        let found = self.to_part(self.arcs.iter().find(|a| a.0 == name)?.1);
        self.side_centres.iter().copied().min_by(|a, b| a.distance(found).total_cmp(&b.distance(found)))
    }
}

/// Least squares of the distances of `points` (in the picture's plane) from the said outline, begun where
/// both
/// middles lie on one another.
pub fn laid(said: Contour, found: Contour, turn: f64, points: &[DVec2], arcs: Vec<(String, DVec2)>) -> Fit {
    let side_centres = said.segments().filter_map(|s| s.arc()).map(|a| a.centre).collect();
    let shift = found.centroid() - DVec2::from_angle(-turn).rotate(said.centroid());
    let mut fit = Fit { contour: said, turn, shift, arcs, side_centres };
    for _ in 0..20 {
        ground::halt::often();
        let (mut m, mut r) = (DMat3::ZERO, DVec3::ZERO);
        for p in points {
            let q = fit.to_part(*p);
            let near = |s: &ground::geom::Segment| s.nearest(q);
            let foot = fit
                .contour
                .segments()
                .map(|s| near(&s))
                .min_by(|a, b| a.distance_squared(q).total_cmp(&b.distance_squared(q)));
            let Some(foot) = foot else { return fit };
            let off = q - foot;
            let Some(normal) = off.try_normalize() else { continue };
            // A step (x, y) of the part and a turn about its zero, in the part's own coordinates.
            let row = DVec3::new(normal.x, normal.y, normal.dot(q.perp()));
            m += DMat3::from_cols(row * row.x, row * row.y, row * row.z);
            r += row * off.length();
        }
        let scale = (m.x_axis.x + m.y_axis.y) / 2.0;
        if m.determinant().abs() < 1e-12 * scale.powi(3) || !m.is_finite() {
            break;
        }
        let step = m.inverse() * r;
        if !step.is_finite() || step.z.abs() > 0.2 {
            break;
        }
        // q' = q − step − turn × q: the same as another turn and shift of the plane.
        fit.turn -= step.z;
        fit.shift = fit.to_picture(step.truncate());
        if step.truncate().length() < 1e-9 && step.z.abs() < 1e-12 {
            break;
        }
    }
    fit
}

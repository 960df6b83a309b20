//! Pressed shapes and drilled holes as surfaces over the flat, for a picture: points with the zone that they
//! fold with and their height over the lower face. The true forms of pressed shapes depend on the tool; what
//! is drawn has the told footprint and height.

mod shape;

use std::f64::consts::FRAC_PI_2;

use glam::DVec2;

use crate::flat::pressed::Pressed;
use crate::formed::mesh::FlatMesh;
use crate::formed::zones::{Zone, zone_of};
use crate::result::{PieceResult, PressedMark};
use shape::{ACROSS, Shape, circle, from_ends};

/// A point of a pressed shape: where over the flat it stands, and in which zone.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stand {
    pub zone: usize,
    pub at: DVec2,
    pub z: f64,
}

#[derive(Clone, Debug, Default, PartialEq)]
pub struct Raised {
    pub points: Vec<Stand>,
    pub triangles: Vec<[u32; 3]>,
    /// Which shape each triangle belongs to.
    pub shapes: Vec<u32>,
    /// From, to.
    pub lines: Vec<[u32; 2]>,
}

/// How full a louvre is along its opening: 8 is nearly square at its ends.
const LOUVRE_ENDS: i32 = 8;

/// All that is pressed out of the flat, folded with its zones.
fn raised(shapes: &[PressedMark], zones: &[Zone], thickness: f64) -> Raised {
    let mut out = Raised::default();
    for (index, mark) in (0u32..).zip(shapes) {
        let Some(zone) = zone_of(zones, mark.at.into()) else { continue };
        let size = mark.footprint.moved(-mark.turn, DVec2::ZERO).bounds().size();
        let mut shape = Shape { mark, zone, zones, thickness, size, index, out: &mut out };
        match mark.pressed {
            Pressed::Rib { .. } => shape.rib(),
            Pressed::Dimple { .. } => {
                shape.footprint();
                shape.dome();
            }
            Pressed::Collar { .. } => {
                shape.footprint();
                shape.collar();
            }
            Pressed::Pad { .. } => shape.pad(),
            Pressed::Louvre { .. } => {
                shape.footprint();
                // Full along the opening on the south side, down to nothing at the north and the ends.
                let rise = |u: f64, v: f64| (1.0 - v) / 2.0 * (1.0 - u.powi(LOUVRE_ENDS)).max(0.0).sqrt();
                let across = 2.0 / f64::from(LOUVRE_ENDS);
                let slices = from_ends(|turn| (FRAC_PI_2 - turn).sin().powf(across));
                // Straight from the opening to the sheet.
                shape.grid(&slices, 1, rise, |_| 1.0, 0);
            }
            Pressed::Bead { .. } => {
                shape.footprint();
                let half = shape.size / 2.0;
                // Its ends are round: the width shrinks over the last half width.
                let width = move |u: f64| {
                    let into = half.x - (u * half.x).abs();
                    if into >= half.y { 1.0 } else { circle((half.y - into) / half.y) }
                };
                let slices = from_ends(|turn| 1.0 - half.y / half.x * (1.0 - turn.cos()));
                shape.grid(&slices, ACROSS, |_, v| circle(v), width, ACROSS / 2);
            }
        }
    }
    out
}

/// What stands out of a piece and what is sunk into it: pressed shapes, then drilled holes, both numbered in
/// the order of the flat.
pub fn relief(p: &PieceResult, mesh: &FlatMesh) -> Raised {
    let mut out = raised(&p.flat.pressed, &p.zones, p.thickness);
    let (t, pressed) = (p.thickness, p.flat.pressed.len());
    let bores: std::collections::HashMap<&str, usize> =
        p.flat.bores.iter().enumerate().map(|(k, b)| (b.name.as_str(), k)).collect();
    let n = mesh.points.len() as u32;
    let mut known = std::collections::HashMap::new();
    let mut stand = |out: &mut Raised, i: u32| {
        *known.entry(i).or_insert_with(|| {
            out.points.push(match i {
                i if i < n => {
                    Stand { zone: mesh.zones[i as usize] as usize, at: mesh.points[i as usize], z: t }
                }
                i if i < 2 * n => {
                    let k = (i - n) as usize;
                    Stand { zone: mesh.zones[k] as usize, at: mesh.points[k], z: 0.0 }
                }
                i => {
                    let deep = mesh.wells.points[(i - 2 * n) as usize];
                    Stand { zone: deep.zone as usize, at: deep.at, z: deep.z }
                }
            });
            out.points.len() as u32 - 1
        })
    };
    for (triangle, tag) in mesh.wells.triangles.iter().zip(&mesh.wells.tags) {
        let Some(bore) = p.tags.get(*tag as usize).and_then(|name| bores.get(name.as_str())) else {
            continue;
        };
        let corners = triangle.map(|i| stand(&mut out, i));
        out.triangles.push(corners);
        out.shapes.push((pressed + bore) as u32);
    }
    for edge in &mesh.wells.edges {
        let ends = edge.map(|i| stand(&mut out, i));
        out.lines.push(ends);
    }
    out
}

#[cfg(test)]
mod tests {
    use std::f64::consts::PI;

    use super::*;
    use crate::formed::zones::Kind;
    use ground::geom::Contour;

    fn panel() -> Vec<Zone> {
        let place = [DVec2::ZERO, DVec2::X];
        vec![Zone::upright(
            "flat".into(),
            "start-1",
            Kind::Panel,
            None,
            place,
            DVec2::splat(-100.0),
            DVec2::splat(100.0),
        )]
    }

    fn mark(pressed: Pressed, footprint: Contour, turn: f64) -> PressedMark {
        PressedMark {
            name: "louvre-1".into(),
            line: "louvre-1".into(),
            at: [10.0, 20.0],
            turn,
            footprint,
            pressed,
            text: String::new(),
        }
    }

    /// A louvre is as high as told along its opening, on the side told, and nothing at its ends.
    #[test]
    fn a_louvre_stands_out_where_it_opens() {
        for (up, turn) in [(true, 0.0), (false, 0.0), (true, FRAC_PI_2)] {
            let footprint = Contour::rectangle(DVec2::new(-30.0, -6.0), DVec2::new(30.0, 6.0), 0)
                .moved(turn, DVec2::new(10.0, 20.0));
            let pressed = Pressed::Louvre { length: 60.0, width: 12.0, height: 5.0, up };
            let r = raised(&[mark(pressed, footprint, turn)], &panel(), 2.0);
            let z = |s: &Stand| if up { s.z - 2.0 } else { -s.z };
            let most = r.points.iter().map(z).fold(f64::MIN, f64::max);
            assert!((most - 5.0).abs() < 1e-9, "{most}");
            let high = r.points.iter().find(|s| z(s) > 4.999).unwrap();
            // South of the middle, turned with the shape.
            let south = DVec2::from_angle(turn).rotate(DVec2::NEG_Y);
            assert!(((high.at - DVec2::new(10.0, 20.0)).dot(south) - 6.0).abs() < 1e-9);
            assert_eq!(r.shapes.len(), r.triangles.len());
            assert!(
                r.lines
                    .iter()
                    .flatten()
                    .chain(r.triangles.iter().flatten())
                    .all(|i| (*i as usize) < r.points.len())
            );
        }
    }

    /// Between its points too what is drawn lies near the shape, in a few triangles where it is straight: a
    /// louvre of 192 was half of what a picture of an enclosure took.
    #[test]
    fn few_triangles_lie_near_the_shape() {
        // Along, across, and which share of the height stands there.
        type High = fn(f64, f64) -> f64;
        let louvre: High = |u, v| (6.0 - v) / 12.0 * (1.0 - (u / 30.0).powi(8)).sqrt();
        let bead: High = |u, v| {
            let past = (u.abs() - 24.0).max(0.0);
            let half = (36.0 - past * past).sqrt();
            (1.0 - (v / half).powi(2)).max(0.0).sqrt() * half / 6.0
        };
        let long = Pressed::Louvre { length: 60.0, width: 12.0, height: 5.0, up: true };
        let round = Pressed::Bead { flat: false, depth: 5.0, width: 12.0, length: 60.0, up: true };
        for (pressed, high, most) in [(long, louvre, 24), (round, bead, 156)] {
            let footprint = Contour::rectangle(DVec2::new(-20.0, 14.0), DVec2::new(40.0, 26.0), 0);
            let r = raised(&[mark(pressed, footprint, 0.0)], &panel(), 2.0);
            assert!(r.triangles.len() <= most, "{} triangles", r.triangles.len());
            for t in &r.triangles {
                let [a, b, c] = t.map(|k| r.points[k as usize]);
                let at = (a.at + b.at + c.at) / 3.0 - DVec2::new(10.0, 20.0);
                let drawn = ((a.z + b.z + c.z) / 3.0 - 2.0) / 5.0;
                // Where it falls steeply, as near as the eye tells along the sheet.
                let near: Vec<f64> = (0..9)
                    .map(|k| at + DVec2::new(f64::from(k % 3 - 1), f64::from(k / 3 - 1)) * 0.3)
                    .map(|p| high(p.x.clamp(-30.0, 30.0), p.y.clamp(-6.0, 6.0)))
                    .collect();
                let (low, top) = near.iter().fold((1.0f64, 0.0f64), |(l, t), z| (l.min(*z), t.max(*z)));
                assert!(drawn > low - 0.06 && drawn < top + 0.06, "{at}: {drawn}, {low} to {top}");
            }
            let area: f64 = r
                .triangles
                .iter()
                .map(|t| t.map(|k| r.points[k as usize].at))
                .map(|[a, b, c]| (b - a).perp_dot(c - a) / 2.0)
                .sum();
            let whole = if most == 24 { 60.0 * 12.0 } else { 48.0 * 12.0 + 36.0 * PI };
            assert!((area / whole - 1.0).abs() < 0.02, "{area} of {whole}");
        }
    }

    /// A dome reaches its depth in the middle; its foot lies on the sheet.
    #[test]
    fn a_dimple_is_a_dome() {
        let footprint = Contour::circle(DVec2::new(10.0, 20.0), 8.0, 0);
        let r = raised(
            &[mark(Pressed::Dimple { diameter: 16.0, depth: 3.0, up: true }, footprint, 0.0)],
            &panel(),
            1.5,
        );
        for s in &r.points {
            let from = s.at.distance(DVec2::new(10.0, 20.0)) / 8.0;
            let dome = 1.5 + 3.0 * (1.0 - from * from).max(0.0).sqrt();
            assert!(
                (s.z - dome).abs() < 1e-6 || (s.z - 1.7).abs() < 1e-9 || (s.z + 0.2).abs() < 1e-9,
                "{s:?}"
            );
        }
    }
}

//! The frame as bodies in space: each body once, with the places where it stands.

use glam::{DAffine3, DMat3, DVec2, DVec3};

use super::body::{Body, body};
use super::drill::drill;
use super::pressed::Pressed;
use super::{FrameResult, Group};
use sheet::mesh::Solid;

/// Where a body stands. A mirrored place turns its triangles inside out.
#[derive(Clone, Debug)]
pub struct Place {
    /// Member or plate.
    pub name: String,
    pub line: String,
    pub at: DAffine3,
}

#[derive(Clone, Debug)]
pub struct Standing {
    pub body: Body,
    pub places: Vec<Place>,
    pub is_plate: bool,
}

/// Members by group, then plates. Without bores tubes are drawn as if they were solid: the same from outside,
/// with fewer facets.
pub fn standing(r: &FrameResult, bores: bool) -> Vec<Standing> {
    let mut out = Vec::new();
    for g in &r.groups {
        let first = &r.members[g.fits[0].member];
        if first.is_straight() {
            out.push(straight(r, g, bores));
        } else {
            // A bent bar is drawn where it stands.
            for f in &g.fits {
                let m = &r.members[f.member];
                let place = Place { name: m.name.clone(), line: m.line.clone(), at: DAffine3::IDENTITY };
                let p = &r.profiles[m.profile];
                // Each straight stretch has its own holes.
                let drilled = m.holes.iter().fold(body(m, p, bores), |b, h| match m.straight_at(h.along) {
                    Some(bar) => {
                        let place = |q: DVec3| bar.point(DVec2::new(q.y, q.z), q.x);
                        drill(b, p, std::slice::from_ref(h), &place, Pressed::of(m, p).as_ref())
                    }
                    None => b,
                });
                out.push(Standing { body: drilled, places: vec![place], is_plate: false });
            }
        }
    }
    for p in &r.plates {
        let flat = p.piece.mesh();
        let mesh = flat.solid(&p.piece.zones, 1.0, p.piece.thickness);
        let n = flat.points.len() as u32;
        let rims = flat.walls.iter().flat_map(|w| [[w.0, w.1], [w.0 + n, w.1 + n]]);
        let edges = rims.chain(flat.wells.edges.iter().copied()).collect();
        let body = Body { points: mesh.points, triangles: mesh.triangles, edges };
        let place = |q: &super::PlatePlace| Place {
            name: q.name.clone(),
            line: p.line.clone(),
            at: DAffine3 { matrix3: DMat3::from_cols(q.x, q.y, q.z), translation: q.o },
        };
        out.push(Standing { body, places: p.places.iter().map(place).collect(), is_plate: true });
    }
    out
}

fn straight(r: &FrameResult, g: &Group, bores: bool) -> Standing {
    let first = &r.members[g.fits[0].member];
    let bar = first.end(0);
    let mut local = body(first, &r.profiles[first.profile], bores);
    for p in &mut local.points {
        let (q, s) = bar.local(*p);
        *p = DVec3::new(s, q.x, q.y);
    }
    let p = &r.profiles[first.profile];
    let local = drill(local, p, &first.holes, &|p| p, Pressed::of(first, p).as_ref());
    let from = first.station(0, DVec2::ZERO);
    let places = g.fits.iter().map(|f| {
        let m = &r.members[f.member];
        let b = m.end(0);
        let (start, end) = (m.station(0, DVec2::ZERO), m.length - m.station(1, DVec2::ZERO));
        let axis = |v: DVec2| b.y * v.x + b.z * v.y;
        let (along, at) = if f.flip { (-b.d, end + from) } else { (b.d, start - from) };
        let matrix3 = DMat3::from_cols(along, axis(f.m * DVec2::X), axis(f.m * DVec2::Y));
        Place {
            name: m.name.clone(),
            line: m.line.clone(),
            at: DAffine3 { matrix3, translation: b.o + b.d * at },
        }
    });
    Standing { body: local, places: places.collect(), is_plate: false }
}

/// The whole frame as one heap of triangles, for STL, GLB and pictures.
pub fn whole(r: &FrameResult, bores: bool) -> Solid {
    let mut out = Solid { points: Vec::new(), triangles: Vec::new() };
    for s in standing(r, bores) {
        for p in &s.places {
            let base = out.points.len() as u32;
            out.points.extend(s.body.points.iter().map(|q| p.at.transform_point3(*q)));
            let inside_out = p.at.matrix3.determinant() < 0.0;
            out.triangles.extend(s.body.triangles.iter().map(|t| {
                let [a, b, c] = t.map(|i| i + base);
                if inside_out { [a, c, b] } else { [a, b, c] }
            }));
        }
    }
    out
}

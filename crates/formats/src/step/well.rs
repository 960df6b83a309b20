//! What a drilled hole leaves in a body: rings of cylinders, cones and ledges below the face that it is
//! drilled from.

use glam::DVec3;
use steelk_core::geom::COINCIDENT;

use super::shell::{Curve, Face, Shell, Surface};

/// Where a hole is drilled.
pub struct Mouth {
    /// Its middle on the face that it is drilled from.
    pub at: DVec3,
    /// Out of the metal there.
    pub out_of: DVec3,
    /// Along that face.
    pub across: DVec3,
    /// -1 in a body that is made as in a mirror and turned round after.
    pub hand: f64,
    /// How thick the metal is.
    pub t: f64,
    /// The face that it is drilled from, and the one across.
    pub faces: [usize; 2],
}

impl Shell {
    /// What a drilled hole leaves, by its radius and depth from its face inwards.
    pub fn well(&mut self, mouth: &Mouth, profile: &[(f64, f64)]) {
        let Mouth { out_of, across, t, faces: [own, far], .. } = *mouth;
        let middle = |depth: f64| mouth.at - out_of * depth;
        let mut rings: Vec<(f64, f64)> = profile.to_vec();
        rings.dedup_by(|b, a| (a.0 - b.0).abs() < COINCIDENT && (a.1 - b.1).abs() < COINCIDENT);
        // Two halves of each ring, against the clock as it is seen from outside; a point where it closes.
        let centres: Vec<DVec3> = rings.iter().map(|r| middle(r.1)).collect();
        let mut halves: Vec<Option<[usize; 2]>> = Vec::new();
        let mut ends: Vec<[usize; 2]> = Vec::new();
        for (k, (r, _)) in rings.iter().enumerate() {
            if *r < COINCIDENT {
                let tip = self.point(centres[k]);
                ends.push([tip, tip]);
                halves.push(None);
                continue;
            }
            let [a, b] = [across * *r, across * -*r].map(|v| self.point(centres[k] + v));
            let ring = || Curve::Circle { at: centres[k], axis: out_of * mouth.hand };
            ends.push([a, b]);
            halves.push(Some([self.edge([a, b], ring()), self.edge([b, a], ring())]));
        }
        // The mouth is a hole in its face: metal on the left runs with the clock.
        let hole = |h: [usize; 2], seen: bool| {
            if seen { vec![(h[1], false), (h[0], false)] } else { vec![(h[0], true), (h[1], true)] }
        };
        if let Some(h) = halves[0] {
            self.faces[own].loops.push(hole(h, true));
        }
        let last = rings.len() - 1;
        if let (Some(h), true) = (halves[last], (rings[last].1 - t).abs() < COINCIDENT) {
            self.faces[far].loops.push(hole(h, false));
        }
        for k in 0..last {
            let ((r0, z0), (r1, z1)) = (rings[k], rings[k + 1]);
            let deep = z1 - z0;
            if deep.abs() < COINCIDENT {
                // A ledge looks out of the face; what is drilled narrows downwards.
                let mut loops = Vec::new();
                if let Some(h) = halves[k] {
                    loops.push(vec![(h[0], true), (h[1], true)]);
                }
                if let Some(h) = halves[k + 1] {
                    loops.push(vec![(h[1], false), (h[0], false)]);
                }
                self.faces.push(Face { surface: Surface::Plane { at: centres[k], normal: out_of }, loops });
                continue;
            }
            let surface = if (r0 - r1).abs() < COINCIDENT {
                Surface::Cylinder { at: centres[k], axis: out_of, radius: r0, inside: true }
            } else {
                // Its axis goes to where it is wider.
                let axis = if r0 > r1 { out_of } else { -out_of };
                let (at, radius) = if r0 > r1 { (centres[k + 1], r1) } else { (centres[k], r0) };
                Surface::Cone { at, axis, radius, half_angle: ((r0 - r1).abs() / deep).atan(), inside: true }
            };
            let lines = [0, 1].map(|i| self.edge([ends[k][i], ends[k + 1][i]], Curve::Line));
            for i in 0..2 {
                let (a, b) = (lines[i], lines[1 - i]);
                // Seen from the axis, which is outside of the metal: along above, down, back below, up.
                let mut ring = Vec::new();
                if let Some(h) = halves[k] {
                    ring.push((h[i], true));
                }
                ring.push((b, true));
                if let Some(h) = halves[k + 1] {
                    ring.push((h[i], false));
                }
                ring.push((a, false));
                self.faces.push(Face { surface: surface.clone(), loops: vec![ring] });
            }
        }
        // Flat at its end, and not through.
        if let (Some(h), false) = (halves[last], (rings[last].1 - t).abs() < COINCIDENT) {
            let loops = vec![vec![(h[0], true), (h[1], true)]];
            self.faces.push(Face { surface: Surface::Plane { at: centres[last], normal: out_of }, loops });
        }
    }
}

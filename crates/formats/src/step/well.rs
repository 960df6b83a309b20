//! What a drilled hole leaves in a body: rings of cylinders, cones and ledges below the face that it is
//! drilled
//! from.

use glam::{DVec2, DVec3};
use steelk_core::geom::COINCIDENT;

use super::sheet::Made;
use super::shell::{Curve, Face, Surface};

impl Made<'_> {
    /// What a drilled hole leaves below the face that it is drilled from. `faces`: the lower and the
    /// upper one
    /// of its panel.
    pub fn well(&mut self, zone: usize, at: DVec2, profile: &[(f64, f64)], back: bool, faces: [usize; 2]) {
        let frame = self.frames[zone];
        let up = frame.transform_vector3(DVec3::Z);
        // Out of the face that it is drilled from.
        let out_of = if back { -up } else { up };
        let middle = |depth: f64| self.place(zone, at, if back { depth } else { self.t - depth });
        let mut rings: Vec<(f64, f64)> = profile.to_vec();
        rings.dedup_by(|b, a| (a.0 - b.0).abs() < COINCIDENT && (a.1 - b.1).abs() < COINCIDENT);
        let across = frame.transform_vector3(DVec3::X);
        // Two halves of each ring, against the clock as it is seen from outside; a point where it closes.
        let centres: Vec<DVec3> = rings.iter().map(|r| middle(r.1)).collect();
        let mut halves: Vec<Option<[usize; 2]>> = Vec::new();
        let mut ends: Vec<[usize; 2]> = Vec::new();
        for (k, (r, _)) in rings.iter().enumerate() {
            if *r < COINCIDENT {
                let tip = self.out.point(centres[k]);
                ends.push([tip, tip]);
                halves.push(None);
                continue;
            }
            let [a, b] = [across * *r, across * -*r].map(|v| self.out.point(centres[k] + v));
            let ring = || Curve::Circle { at: centres[k], axis: out_of };
            ends.push([a, b]);
            halves.push(Some([self.out.edge([a, b], ring()), self.out.edge([b, a], ring())]));
        }
        // The mouth is a hole in its face: metal on the left runs with the clock.
        let hole = |h: [usize; 2], seen: bool| {
            if seen { vec![(h[1], false), (h[0], false)] } else { vec![(h[0], true), (h[1], true)] }
        };
        let [own, far] = if back { [faces[0], faces[1]] } else { [faces[1], faces[0]] };
        if let Some(h) = halves[0] {
            self.out.faces[own].loops.push(hole(h, true));
        }
        let last = rings.len() - 1;
        if let (Some(h), true) = (halves[last], (rings[last].1 - self.t).abs() < COINCIDENT) {
            self.out.faces[far].loops.push(hole(h, false));
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
                self.out
                    .faces
                    .push(Face { surface: Surface::Plane { at: centres[k], normal: out_of }, loops });
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
            let lines = [0, 1].map(|i| self.out.edge([ends[k][i], ends[k + 1][i]], Curve::Line));
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
                self.out.faces.push(Face { surface: surface.clone(), loops: vec![ring] });
            }
        }
        // Flat at its end, and not through.
        if let (Some(h), false) = (halves[last], (rings[last].1 - self.t).abs() < COINCIDENT) {
            let loops = vec![vec![(h[0], true), (h[1], true)]];
            self.out
                .faces
                .push(Face { surface: Surface::Plane { at: centres[last], normal: out_of }, loops });
        }
    }
}

//! A closed body as faces that share their edges.

use glam::DVec3;

/// What a face lies on.
#[derive(Clone, Debug)]
pub enum Surface {
    /// Its outward normal.
    Plane { at: DVec3, normal: DVec3 },
    /// `inside`: the metal is outside of it, as round a hole.
    Cylinder { at: DVec3, axis: DVec3, radius: f64, inside: bool },
    /// Wider along its axis; the radius is told at `at`.
    Cone { at: DVec3, axis: DVec3, radius: f64, half_angle: f64, inside: bool },
    /// Straight from one curve to the other, pole by pole; its outward normal is along first × across.
    Ruled { from: Vec<DVec3>, to: Vec<DVec3> },
}

/// What an edge runs along, from its start to its end.
#[derive(Clone, Debug)]
pub enum Curve {
    Line,
    /// Against the clock about its axis.
    Circle {
        at: DVec3,
        axis: DVec3,
    },
    /// Cubic arcs end to end, four poles each, ends shared.
    Cubics(Vec<DVec3>),
}

#[derive(Clone, Debug)]
pub struct Edge {
    pub ends: [usize; 2],
    pub curve: Curve,
}

#[derive(Clone, Debug)]
pub struct Face {
    pub surface: Surface,
    /// Each edge with whether it is run along as it goes; the outer loop first, metal on the left as it is
    /// seen from outside.
    pub loops: Vec<Vec<(usize, bool)>>,
}

#[derive(Clone, Debug, Default)]
pub struct Shell {
    pub points: Vec<DVec3>,
    pub edges: Vec<Edge>,
    pub faces: Vec<Face>,
}

impl Shell {
    pub fn point(&mut self, p: DVec3) -> usize {
        self.points.push(p);
        self.points.len() - 1
    }

    pub fn edge(&mut self, ends: [usize; 2], curve: Curve) -> usize {
        self.edges.push(Edge { ends, curve });
        self.edges.len() - 1
    }

    /// Whether each edge is run along once each way.
    pub fn is_closed(&self) -> bool {
        let mut runs = vec![[0usize; 2]; self.edges.len()];
        for (e, forward) in self.faces.iter().flat_map(|f| &f.loops).flatten() {
            runs[*e][usize::from(*forward)] += 1;
        }
        !runs.is_empty() && runs.iter().all(|r| *r == [1, 1])
    }
}

//! A closed body as faces that share their edges.

use glam::{DAffine3, DVec3};

/// What a face lies on.
#[derive(Clone, Debug)]
pub enum Surface {
    /// Its outward normal.
    Plane { at: DVec3, normal: DVec3 },
    /// `inside`: the metal is outside of it, as round a hole.
    Cylinder { at: DVec3, axis: DVec3, radius: f64, inside: bool },
    /// Wider along its axis; the radius is told at `at`.
    Cone { at: DVec3, axis: DVec3, radius: f64, half_angle: f64, inside: bool },
    /// A round of the minor radius carried round the axis.
    Torus { at: DVec3, axis: DVec3, major: f64, minor: f64, inside: bool },
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
    /// Against the clock about its axis; half its length along, as a vector, and half its width.
    Ellipse {
        at: DVec3,
        axis: DVec3,
        major: DVec3,
        minor: f64,
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

    /// A body made in a left hand, seen from outside: every loop runs the other way, curves as they go.
    pub fn turn_round(&mut self) {
        for f in &mut self.faces {
            for l in &mut f.loops {
                l.reverse();
                l.iter_mut().for_each(|(_, forward)| *forward = !*forward);
            }
        }
    }

    /// The same body in another place, mirrored where that mirrors.
    pub fn moved(mut self, by: &DAffine3) -> Shell {
        let mirrored = by.matrix3.determinant() < 0.0;
        let place = |p: &mut DVec3| *p = by.transform_point3(*p);
        let turn = |v: &mut DVec3| *v = by.transform_vector3(*v);
        // What turns about an axis turns the other way in a mirror.
        let spin = |v: &mut DVec3| *v = by.transform_vector3(*v) * if mirrored { -1.0 } else { 1.0 };
        self.points.iter_mut().for_each(place);
        for e in &mut self.edges {
            match &mut e.curve {
                Curve::Line => {}
                Curve::Circle { at, axis } => {
                    place(at);
                    spin(axis);
                }
                Curve::Ellipse { at, axis, major, .. } => {
                    place(at);
                    spin(axis);
                    turn(major);
                }
                Curve::Cubics(poles) => poles.iter_mut().for_each(place),
            }
        }
        for f in &mut self.faces {
            match &mut f.surface {
                Surface::Plane { at, normal: axis }
                | Surface::Cylinder { at, axis, .. }
                | Surface::Cone { at, axis, .. }
                | Surface::Torus { at, axis, .. } => {
                    place(at);
                    turn(axis);
                }
                Surface::Ruled { from, to } => {
                    from.iter_mut().chain(to.iter_mut()).for_each(place);
                    if mirrored {
                        std::mem::swap(from, to);
                    }
                }
            }
        }
        if mirrored {
            self.turn_round();
        }
        self
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

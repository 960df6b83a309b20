//! Holes told on the flat of a frame's plate, and which hand of the plate a mirrored copy is.

use glam::DVec2;
use ground::geom::{COINCIDENT, Contour};
use ground::reader::Tell;
use sheet::verbs::bore::BoreSpec;
use sheet::{EdgeBevel, EdgeFold, ShapeSpec};

use super::plates::Cutting;

/// How far from a side of the flat.
#[derive(Clone, Copy, Debug)]
pub enum Across {
    Middle,
    /// From the west or south side; true for the east or north one.
    From(f64, bool),
}

impl Across {
    /// Where it lies between the two sides.
    pub fn between(self, low: f64, high: f64) -> f64 {
        match self {
            Across::Middle => (low + high) / 2.0,
            Across::From(v, true) => high - v,
            Across::From(v, false) => low + v,
        }
    }
}

/// What is cut.
#[derive(Clone, Debug)]
pub enum Through {
    Shape(ShapeSpec),
    Bore(BoreSpec),
}

/// Holes of one line, for the plates that it names.
pub struct PlateHoles {
    pub line: String,
    pub of: Vec<String>,
    pub through: Through,
    pub at: [Across; 2],
    pub steps: Vec<DVec2>,
}

/// A drilled hole of a plate, in its flat.
#[derive(Clone, Debug)]
pub struct PlateBore {
    pub at: DVec2,
    pub hole: BoreSpec,
}

impl PlateBore {
    /// The same from the other face.
    pub fn turned_over(&self) -> PlateBore {
        let mut out = self.clone();
        out.hole.bore.back = !out.hole.bore.back;
        out
    }
}

impl PlateHoles {
    fn names(&self, plate: &str, line: &str) -> bool {
        self.of.iter().any(|n| n == plate || n == line)
    }

    fn put(&self, c: &mut Cutting) {
        let b = c.outer.bounds();
        let first = DVec2::new(self.at[0].between(b.min.x, b.max.x), self.at[1].between(b.min.y, b.max.y));
        // A row told from the far side runs away from it.
        let runs = |across: Across| if matches!(across, Across::From(_, true)) { -1.0 } else { 1.0 };
        let sense = DVec2::new(runs(self.at[0]), runs(self.at[1]));
        let middle = self.steps.last().copied().unwrap_or_default() / 2.0;
        let centred = DVec2::new(f64::from(is_middle(self.at[0])), f64::from(is_middle(self.at[1]))) * middle;
        for step in &self.steps {
            let at = first + (*step - centred) * sense;
            match &self.through {
                Through::Shape(shape) => c.holes.push(shape.contour().moved(0.0, at)),
                Through::Bore(hole) => c.bores.push(PlateBore { at, hole: hole.clone() }),
            }
        }
    }
}

fn is_middle(across: Across) -> bool {
    matches!(across, Across::Middle)
}

/// Puts what lines tell into a plate.
pub fn put(holes: &[PlateHoles], line: &str, name: &str, c: &mut Cutting) {
    holes.iter().filter(|h| h.names(name, line)).for_each(|h| h.put(c));
}

/// Lines that name what is no plate are told so.
pub fn unknown(tell: &mut Tell, holes: &[PlateHoles], plates: &[(String, String)]) {
    for h in holes {
        for (i, name) in h.of.iter().enumerate() {
            if plates.iter().any(|(plate, line)| plate == name || line == name) {
                continue;
            }
            tell.enter(&h.line);
            let mut known: Vec<&str> = plates.iter().map(|p| p.1.as_str()).collect();
            known.dedup();
            let mend = if known.is_empty() {
                "say a plate first".into()
            } else {
                format!("name one of {}", known.join(", "))
            };
            tell.refuse_at(&format!("/say/of/{i}"), format!("'{name}' makes no plate"), mend);
        }
    }
}

impl Cutting {
    /// It has more on one face than on the other.
    pub fn is_sided(&self) -> bool {
        !(self.folds.is_empty() && self.bevels.is_empty())
            || self.bores.iter().any(|b| !b.hole.bore.is_plain())
    }

    /// What its mirror image is: the same flat, drilled from the other face and bent the other way; one that
    /// is bent is laid as all of its shape are.
    pub fn other_hand(&self) -> Cutting {
        let bores = self.bores.iter().map(PlateBore::turned_over).collect();
        let folds = self.folds.iter().map(EdgeFold::turned_over).collect();
        let bevels = self.bevels.iter().map(EdgeBevel::turned_over).collect();
        let out = Cutting { bores, folds, bevels, ..self.clone() };
        if out.folds.is_empty() && out.bevels.is_empty() { out } else { out.laid() }
    }

    /// Whether its mirror image is the same plate turned over about a middle line of its flat: 0 for one that
    /// stands up, 1 for one that lies.
    pub fn mirrors_itself(&self) -> Option<usize> {
        let b = self.outer.bounds();
        let middle = b.centre();
        (0..2).find(|&k| {
            let flip = |p: DVec2| {
                let mut q = p;
                q[k] = 2.0 * middle[k] - p[k];
                q
            };
            let image = |c: &Contour| c.mirrored(flip);
            same(&image(&self.outer), &self.outer)
                && self.holes.iter().all(|h| self.holes.iter().any(|o| same(&image(h), o)))
                && self.bores.iter().all(|a| {
                    let is =
                        |o: &PlateBore| o.at.distance(flip(a.at)) < COINCIDENT && o.hole.bore == a.hole.bore;
                    self.bores.iter().any(is)
                })
                && self.folds.iter().all(|f| {
                    let image = f.laid(flip, true).turned_over();
                    self.folds.iter().any(|o| o.is_like(&image))
                })
                && self.bevels.iter().all(|b| {
                    let image = b.laid(flip, true).turned_over();
                    self.bevels.iter().any(|o| o.key() == image.key())
                })
        })
    }
}

/// The same outline, wherever it begins.
fn same(a: &Contour, b: &Contour) -> bool {
    let n = a.vertices.len();
    let (a, b) = (a.clone().outward(), b.clone().outward());
    n == b.vertices.len()
        && (0..n).any(|from| {
            (0..n).all(|k| {
                let (p, q) = (a.vertices[(from + k) % n], b.vertices[k]);
                p.p.distance(q.p) < COINCIDENT && (p.bulge - q.bulge).abs() < COINCIDENT
            })
        })
}

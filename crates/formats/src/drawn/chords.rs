//! Short chords of a circle → its arc. Programs that know no arcs write them so.

use std::f64::consts::{PI, TAU};

use glam::DVec2;
use steelk_core::geom::{Contour, Segment, Vertex, arcs};
use steelk_core::halt;

/// Chords of one arc, at least; each turns by so much at most: a hexagon stays one, and so does a polygon of
/// twenty sides.
const FEWEST: usize = 4;
const WIDEST: f64 = 15.5 * PI / 180.0;
/// Longest chord against the shortest.
const UNEVEN: f64 = 1.8;

/// Sums that a circle is fitted by (Kåsa: least squares of x² + y² = 2ax + 2by + c).
#[derive(Clone, Copy, Default)]
struct Sums {
    n: f64,
    x: f64,
    y: f64,
    xx: f64,
    xy: f64,
    yy: f64,
    xz: f64,
    yz: f64,
    z: f64,
}

impl Sums {
    fn add(&mut self, p: DVec2) {
        let z = p.length_squared();
        self.n += 1.0;
        self.x += p.x;
        self.y += p.y;
        self.xx += p.x * p.x;
        self.xy += p.x * p.y;
        self.yy += p.y * p.y;
        self.xz += p.x * z;
        self.yz += p.y * z;
        self.z += z;
    }

    /// Middle and radius.
    fn circle(&self) -> Option<(DVec2, f64)> {
        let (mx, my) = (self.x / self.n, self.y / self.n);
        let (a, b, c) = (self.xx - self.n * mx * mx, self.xy - self.n * mx * my, self.yy - self.n * my * my);
        let (d, e) = ((self.xz - self.z * mx) / 2.0, (self.yz - self.z * my) / 2.0);
        let det = a * c - b * b;
        if det.abs() < 1e-12 * (a + c) * (a + c) {
            return None;
        }
        let m = DVec2::new((d * c - e * b) / det, (a * e - b * d) / det);
        let r2 = self.z / self.n - 2.0 * (m.x * mx + m.y * my) + m.length_squared();
        (r2 > 0.0).then(|| (m, r2.sqrt()))
    }
}

/// The contour with arcs for its chords, and where each arc lies.
pub fn arcs_of(c: &Contour) -> (Contour, Vec<DVec2>) {
    let n = c.vertices.len();
    if n <= FEWEST || c.vertices.iter().filter(|v| v.bulge == 0.0).count() < FEWEST {
        return (c.clone(), Vec::new());
    }
    if let Some(whole) = circle(c) {
        let at = whole.vertices[0].p;
        return (whole, vec![at]);
    }
    // Begun where no arc goes on: a corner, or a side that is none.
    let first = (0..n).find(|k| !goes_on(c, (k + n - 1) % n)).unwrap_or(0);
    let (mut out, mut places) = (Vec::with_capacity(n), Vec::new());
    let mut k = 0;
    while k < n {
        halt::often();
        let at = (first + k) % n;
        match stretch(c, at, n - k) {
            Some((taken, segments)) => {
                places.push(segments[0].at(0.5));
                out.extend(segments.iter().map(|s| Vertex { p: s.a, bulge: s.bulge, tag: 0 }));
                k += taken;
            }
            None => {
                out.push(c.vertices[at]);
                k += 1;
            }
        }
    }
    (Contour { vertices: out }, places)
}

fn point(c: &Contour, k: usize) -> DVec2 {
    c.vertices[k % c.vertices.len()].p
}

/// How the contour turns from its side `k` to the next.
fn turn(c: &Contour, k: usize) -> f64 {
    let (u, v) = (point(c, k + 1) - point(c, k), point(c, k + 2) - point(c, k + 1));
    u.angle_to(v)
}

/// Whether side `k` and the next may be chords of one arc.
fn goes_on(c: &Contour, k: usize) -> bool {
    let n = c.vertices.len();
    let flat = c.vertices[k % n].bulge == 0.0 && c.vertices[(k + 1) % n].bulge == 0.0;
    let (a, b) = (point(c, k).distance(point(c, k + 1)), point(c, k + 1).distance(point(c, k + 2)));
    let by = turn(c, k).abs();
    flat && by > 1e-5 && by <= WIDEST && a.max(b) <= UNEVEN * a.min(b)
}

/// The whole contour as a circle.
fn circle(c: &Contour) -> Option<Contour> {
    let n = c.vertices.len();
    let even = n as f64 * WIDEST >= TAU && (0..n).all(|k| goes_on(c, k));
    if !even {
        return None;
    }
    let near = c.vertices[0].p;
    let mut sums = Sums::default();
    c.vertices.iter().for_each(|v| sums.add(v.p - near));
    let (middle, radius) = sums.circle()?;
    let round =
        { c.vertices.iter() }.all(|v| ((v.p - near - middle).length() - radius).abs() <= arcs::WITHIN);
    round.then(|| Contour::circle(near + middle, radius, 0))
}

/// The longest arc that begins at vertex `k`: how many sides it takes, and its arcs.
fn stretch(c: &Contour, k: usize, left: usize) -> Option<(usize, Vec<Segment>)> {
    if !goes_on(c, k) {
        return None;
    }
    let near = point(c, k);
    let hand = turn(c, k).signum();
    let mut sums = Sums::default();
    sums.add(DVec2::ZERO);
    sums.add(point(c, k + 1) - near);
    let (mut sides, mut turned) = (1, 0.0);
    while sides < left && goes_on(c, k + sides - 1) && turn(c, k + sides - 1).signum() == hand {
        turned += turn(c, k + sides - 1).abs();
        if turned > TAU - WIDEST {
            break;
        }
        let p = point(c, k + sides + 1) - near;
        let fits = |(m, r): (DVec2, f64)| ((p - m).length() - r).abs() <= 2.0 * arcs::WITHIN;
        if sides >= FEWEST && !sums.circle().is_some_and(fits) {
            break;
        }
        sums.add(p);
        sides += 1;
    }
    while sides >= FEWEST {
        if let Some(found) = through(c, k, sides) {
            return Some((sides, found));
        }
        sides = if sides > 2 * FEWEST { sides * 3 / 4 } else { sides - 1 };
    }
    None
}

/// One or two arcs over so many sides from vertex `k`, every corner of them within reach.
fn through(c: &Contour, k: usize, sides: usize) -> Option<Vec<Segment>> {
    let (a, b) = (point(c, k), point(c, k + sides));
    let mut sums = Sums::default();
    (0..=sides).for_each(|i| sums.add(point(c, k + i) - a));
    let (middle, radius) = sums.circle()?;
    let hand = turn(c, k).signum();
    let sweep = {
        let by = (-middle).angle_to(b - a - middle) * hand;
        by.rem_euclid(TAU) * hand
    };
    let made = if sweep.abs() <= PI + 1e-6 {
        vec![Segment { a, b, bulge: (sweep / 4.0).tan() }]
    } else {
        let apex = a + middle + DVec2::from_angle(sweep / 2.0).rotate(-middle).normalize() * radius;
        let half = |a: DVec2, b: DVec2| Segment { a, b, bulge: (sweep / 8.0).tan() };
        vec![half(a, apex), half(apex, b)]
    };
    let near = |p: DVec2| made.iter().any(|s| s.nearest(p).distance(p) <= arcs::WITHIN);
    (1..sides).all(|i| near(point(c, k + i))).then_some(made)
}

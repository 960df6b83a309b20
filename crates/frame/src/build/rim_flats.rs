//! Flat rings and frames of strips in the plane of an opening: flanges that are welded onto the ends of its
//! sides, and what is screwed to flanges of either kind.

use glam::{DMat2, DVec2, DVec3};
use ground::geom::{COINCIDENT, Contour};
use ground::reader::Tell;
use sheet::{EdgeEnd, EdgeFold};

use super::plates::Cutting;
use super::rims::{Rim, Rims, name, rimmed};
use super::sides::{SideFace, Sides};

/// Of one side that comes to the opening with an edge.
pub(super) struct Line {
    pub side: usize,
    /// Out of the opening, and how far its root lies out.
    pub out: DVec2,
    off: f64,
    /// A strip of this one is told.
    pub told: bool,
    /// Middles of its holes.
    pub holes: Vec<DVec2>,
}

/// The plane of an opening, and the root of a flange all round it.
pub(super) struct Level<'a> {
    sides: &'a Sides,
    rim: &'a Rim,
    o: DVec3,
    x: DVec3,
    y: DVec3,
    pub lines: Vec<Line>,
}

type Refused = (&'static str, String, &'static str);

impl<'a> Level<'a> {
    pub fn of(sides: &'a Sides, rims: &Rims, rim: &'a Rim) -> Self {
        let end = sides.end(rim.upper);
        let x = (DVec3::X - end.out * end.out.x).normalize_or_zero();
        let (y, o) = (end.out.cross(x), end.out * end.off);
        let line = |side: usize| {
            let plane = &sides.all[side].plane;
            let out = DVec2::new(plane.out.dot(x), plane.out.dot(y));
            let off = (plane.off + rim.lift(sides) - plane.out.dot(o)) / out.length();
            let told = rims.at(side, rim.upper).is_some_and(|r| r.line == rim.line);
            Line { side, out: out.normalize_or_zero(), off, told, holes: Vec::new() }
        };
        let mut lines: Vec<Line> = sides.round(rim.upper).into_iter().map(line).collect();
        // Against the clock as the opening is looked at from where it opens to.
        if !rim.upper {
            lines.reverse();
        }
        Level { sides, rim, o, x, y, lines }
    }

    fn point(&self, p: DVec3) -> DVec2 {
        DVec2::new((p - self.o).dot(self.x), (p - self.o).dot(self.y))
    }

    pub fn place(&self, p: DVec2) -> DVec3 {
        self.o + self.way(p)
    }

    pub fn way(&self, p: DVec2) -> DVec3 {
        self.x * p.x + self.y * p.y
    }

    /// The holes of flanges that are bent.
    pub fn as_bent(&mut self, flanged: &[(&SideFace, &[EdgeFold])]) {
        for (face, folds) in flanged {
            let Some(at) = rimmed(self.sides, face, self.rim) else { continue };
            let [a, b] = at.ends;
            let along = (b - a).normalize_or_zero();
            let made = folds.iter().filter(|f| f.told_by == self.rim.line).flat_map(|f| &f.holes);
            let holes = made.map(|h| self.point(a + along * h.along + at.way * h.across)).collect();
            if let Some(line) = self.lines.iter_mut().find(|l| l.side == face.side) {
                line.holes = holes;
            }
        }
    }

    pub fn beside(&self, k: usize, next: bool) -> usize {
        let n = self.lines.len();
        (k + if next { 1 } else { n - 1 }) % n
    }

    /// The corner of a line and the next, so far out.
    pub fn corner(&self, k: usize, by: f64) -> DVec2 {
        let (a, b) = (&self.lines[k], &self.lines[self.beside(k, true)]);
        DMat2::from_cols(a.out, b.out).transpose().inverse() * DVec2::new(a.off + by, b.off + by)
    }

    /// The edge of a line, so far out.
    pub fn edge(&self, k: usize, by: f64) -> [DVec2; 2] {
        [self.corner(self.beside(k, false), by), self.corner(k, by)]
    }

    /// From root to tip, the way out.
    pub fn reach(&self) -> f64 {
        if self.rim.inwards { -self.rim.width } else { self.rim.width }
    }

    fn along(&self, k: usize) -> DVec2 {
        self.lines[k].out.perp()
    }

    /// Where a strip ends beside its neighbour: how far back from the line that halves the corner, and how
    /// far that one runs along for each mm across, away from the strip.
    fn end(&self, k: usize, next: bool) -> Option<(f64, f64)> {
        let other = &self.lines[self.beside(k, next)];
        let half = self.lines[k].out.angle_to(other.out).abs() / 2.0;
        let back = self.rim.gap.unwrap_or(0.0) / 2.0 / half.cos();
        let slope = if self.rim.inwards { -half.tan() } else { half.tan() };
        other.told.then_some((back, slope))
    }

    fn ends(&self, k: usize) -> [EdgeEnd; 2] {
        [false, true].map(|next| match self.end(k, next) {
            Some((back, slope)) => EdgeEnd::Slanting { slope, back },
            None => EdgeEnd::Square,
        })
    }

    /// A strip from its root to its tip.
    fn strip(&self, k: usize) -> Result<[DVec2; 4], Refused> {
        let (line, along) = (&self.lines[k], self.along(k));
        let (reach, root) = (self.reach(), self.edge(k, 0.0));
        let ends = [false, true].map(|next| {
            let (at, sense) = (root[usize::from(next)], if next { 1.0 } else { -1.0 });
            let (back, slope) = self.end(k, next).unwrap_or((0.0, 0.0));
            let root = at - along * (sense * back);
            [root, root + line.out * reach + along * (sense * slope * reach.abs())]
        });
        let [[a, d], [b, c]] = ends;
        if (b - a).dot(along).min((c - d).dot(along)) < COINCIDENT {
            let message = format!("{}: its strip ends before it begins", self.sides.all[line.side].name);
            return Err(("/say/width", message, "write a smaller width or gap"));
        }
        Ok([a, b, c, d])
    }

    /// Drills what is welded on, by what is told of the holes.
    pub fn drill(&mut self) -> Result<(), Refused> {
        let Some(holes) = self.rim.holes else { return Ok(()) };
        for k in 0..self.lines.len() {
            if !self.lines[k].told {
                continue;
            }
            let [a, b] = self.edge(k, 0.0);
            let row = holes.along(a.distance(b), &self.ends(k), [0.0; 2]);
            let mend = "write fewer holes, or a smaller distance";
            let row = row.map_err(|(path, message)| {
                (path, format!("{}: {message}", self.sides.all[self.lines[k].side].name), mend)
            })?;
            let across = self.lines[k].out * holes.across * self.reach().signum();
            let (along, line) = (self.along(k), &mut self.lines[k]);
            line.holes = row.into_iter().map(|at| a + along * at + across).collect();
        }
        Ok(())
    }

    /// Flats with their holes: welded onto the plates, or lying so far out of the opening on flanges.
    fn flats(&self, from: DVec3, thickness: f64, on_flanges: Option<f64>) -> Result<Vec<Cutting>, Refused> {
        let out = self.sides.end(self.rim.upper).out * on_flanges.unwrap_or(0.0);
        let (call, part, against) = match on_flanges {
            Some(_) => ("counter-flange", "counter", thickness),
            None => ("weld-on flange", "flange", self.sides.thickness),
        };
        let part = format!("{}-{part}", name(self.rim.upper));
        let flat = |outer: Contour| Cutting::new(call, outer, thickness, self.o + from + out, self.x, self.y);
        let all = 0..self.lines.len();
        if self.rim.in_strips {
            let strips = all.filter(|k| self.lines[*k].told).map(|k| {
                let (line, [a, b, c, d]) = (&self.lines[k], self.strip(k)?);
                // Each mitre is told of the strip that comes first.
                let mitre = if self.end(k, true).is_some() { b.distance(c) } else { 0.0 };
                let root = if on_flanges.is_some() { 0.0 } else { a.distance(b) };
                let name = format!("{part}-{}", self.sides.all[line.side].name);
                Ok(Cutting {
                    holes: self.drilled(line).collect(),
                    is_joined: true,
                    lies_long: true,
                    ..flat(Contour::polygon([a, b, c, d], 0)).part(&name).welded(mitre + root, against)
                })
            });
            return strips.collect();
        }
        let edges = |by: f64| all.clone().map(move |k| self.edge(k, by));
        if edges(self.reach()).zip(all.clone()).any(|([a, b], k)| (b - a).dot(self.along(k)) < COINCIDENT) {
            let mend = "write a smaller width";
            return Err(("/say/width", "the flanges leave nothing of the opening".into(), mend));
        }
        let ring = |by: f64| Contour::polygon(edges(by).map(|[_, b]| b), 0).outward();
        let (outer, inner) = if self.rim.inwards { (0.0, self.reach()) } else { (self.reach(), 0.0) };
        let mut made = flat(ring(outer)).part(&part);
        made.holes.push(ring(inner));
        made.holes.extend(self.lines.iter().flat_map(|line| self.drilled(line)));
        let root = edges(0.0).map(|[a, b]| a.distance(b)).sum();
        Ok(vec![if on_flanges.is_some() { made } else { made.welded(root, against) }])
    }

    fn drilled<'l>(&self, line: &'l Line) -> impl Iterator<Item = Contour> + use<'l> {
        let radius = self.rim.holes.map_or(0.0, |h| h.diameter) / 2.0;
        line.holes.iter().map(move |at| Contour::circle(*at, radius, 0))
    }
}

/// The flats of all openings: welded onto the ends of the sides, and on flanges, with the holes of those.
pub fn flats(
    tell: &mut Tell,
    rims: &Rims,
    sides: &Sides,
    flanged: &[(&SideFace, &[EdgeFold])],
    from: DVec3,
) -> Vec<Cutting> {
    let mut out = Vec::new();
    let mut done: Vec<&str> = Vec::new();
    for (_, _, rim) in &rims.told {
        let has_flats = rim.counter.is_some() || rim.welded.is_some();
        if !has_flats || done.contains(&rim.line.as_str()) {
            continue;
        }
        done.push(&rim.line);
        tell.enter(&rim.line);
        match of_rim(rims, sides, flanged, rim, from) {
            Ok(made) => out.extend(made),
            Err((path, message, mend)) => tell.refuse_at(path, message, mend),
        }
    }
    out
}

/// Of a flat welded onto a side: how its ends run, as the side's own outline comes by them, and the middles
/// of its holes on the face that lies on the side's end.
pub fn welded_on(rims: &Rims, sides: &Sides, rim: &Rim, side: usize) -> ([EdgeEnd; 2], Vec<DVec3>) {
    let mut level = Level::of(sides, rims, rim);
    // What cannot be drilled is told where the flats are made.
    let _ = level.drill();
    let Some(k) = level.lines.iter().position(|l| l.side == side) else {
        return ([EdgeEnd::Square; 2], Vec::new());
    };
    let holes = level.lines[k].holes.iter().map(|p| level.place(*p)).collect();
    // Round the opening is the other way along the edge of the side.
    let [before, next] = level.ends(k);
    ([next, before], holes)
}

fn of_rim(
    rims: &Rims,
    sides: &Sides,
    flanged: &[(&SideFace, &[EdgeFold])],
    rim: &Rim,
    from: DVec3,
) -> Result<Vec<Cutting>, Refused> {
    let mut level = Level::of(sides, rims, rim);
    let whole = level.lines.iter().all(|l| l.told);
    if rim.welded.is_some() {
        if !whole && !rim.in_strips {
            let mend = "have it as strips, or tell all sides at once";
            return Err(("/say/flats", "a ring goes round all sides of its opening".into(), mend));
        }
        level.drill()?;
    } else {
        if !whole || rim.angle.is_some() {
            let message = "a counter-flange lies on the flanges of all sides, told by one line and level \
                with their opening";
            let mend = "tell all sides at once, without an angle, or leave it out";
            return Err(("/say/counter", message.into(), mend));
        }
        level.as_bent(flanged);
    }
    let welded = rim.welded.map(|thickness| level.flats(from, thickness, None)).transpose()?;
    let lies = rim.welded.unwrap_or(0.0);
    let counter = rim.counter.map(|thickness| level.flats(from, thickness, Some(lies))).transpose()?;
    Ok(welded.into_iter().chain(counter).flatten().collect())
}

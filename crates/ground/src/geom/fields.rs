//! Fields of equal holes: each hole lies in a cell of a lattice, and all cells that are crossed by creases in
//! the same way are triangulated as one. What lies between the fields is triangulated round them, with their
//! borders as seams.

use glam::DVec2;
use rustc_hash::{FxHashMap as HashMap, FxHashSet as HashSet};

use super::triangulate::{Crease, Creases, Family, TaggedLoop, Triangles, triangulate};

/// Fewer equal holes than this are no field.
const LEAST: usize = 200;
/// Cells that are crossed in so many ways that each has less than this many like it are no gain.
const LEAST_ALIKE: usize = 4;
/// Places nearer than this are one, mm.
const SAME: f64 = 1e-6;
/// How far creases, holes and other sides keep from the border of a cell, mm.
const CLEAR: f64 = 1e-4;
/// Tag of sides that are no walls.
const SEAM: u32 = u32::MAX - 1;

/// Triangulates the region inside `loops` (the outline first), fields of equal holes once a cell.
pub fn triangulate_fields(loops: &[TaggedLoop], creases: &[Creases]) -> Triangles {
    let fields: Vec<Field> = alike(loops)
        .into_iter()
        .filter_map(|of| Field::new(loops, of))
        .filter_map(|field| field.cells(loops, creases))
        .collect();
    if fields.is_empty() {
        return triangulate(loops, creases);
    }
    let within: HashSet<usize> = fields.iter().flat_map(|f| f.cells.iter().map(|c| c.hole)).collect();
    let mut around: Vec<TaggedLoop> = Vec::new();
    around.extend(loops.iter().enumerate().filter(|(i, _)| !within.contains(i)).map(|(_, l)| l.clone()));
    around.extend(fields.iter().flat_map(Field::seams));
    let mut out = triangulate(&around, creases);
    if out.triangles.is_empty() {
        return triangulate(loops, creases);
    }
    out.walls.retain(|w| w.2 != SEAM);
    let mut near = Near::new(&out.points);
    for field in &fields {
        if !field.fill(loops, creases, &mut near, &mut out) {
            return triangulate(loops, creases);
        }
    }
    out
}

fn key(p: DVec2) -> (i64, i64) {
    ((p.x / SAME).round() as i64, (p.y / SAME).round() as i64)
}

fn bounds(l: &TaggedLoop) -> (DVec2, DVec2) {
    let wide = (DVec2::INFINITY, DVec2::NEG_INFINITY);
    l.iter().fold(wide, |(low, high), v| (low.min(v.0), high.max(v.0)))
}

/// Holes of one shape, by index of their loops, where there are many.
fn alike(loops: &[TaggedLoop]) -> Vec<Vec<usize>> {
    let mut kinds: HashMap<Vec<(i64, i64)>, Vec<usize>> = HashMap::default();
    for (i, l) in loops.iter().enumerate().skip(1) {
        crate::halt::often();
        let (low, high) = bounds(l);
        let centre = (low + high) / 2.0;
        kinds.entry(l.iter().map(|v| key(v.0 - centre)).collect()).or_default().push(i);
    }
    let mut out: Vec<Vec<usize>> = kinds.into_values().filter(|of| of.len() >= LEAST).collect();
    out.sort_unstable();
    out
}

/// A lattice of cells: columns half a pitch wide, so that every other row may lie half a pitch along.
struct Field {
    origin: DVec2,
    /// Half the pitch, and the height of a row.
    step: DVec2,
    half: DVec2,
    /// Hole, row and column of its middle.
    holes: Vec<(usize, i64, i64)>,
    cells: Vec<Cell>,
    taken: HashSet<(i64, i64)>,
}

struct Cell {
    hole: usize,
    row: i64,
    column: i64,
    /// Creases that cross it: family and line, in order.
    crossed: Vec<(usize, usize)>,
    like: Like,
}

/// How creases cross a cell: the axis that each stands across, and how far from the middle. Cells crossed in
/// the same way are alike.
type Like = Vec<(usize, i64)>;

impl Field {
    /// The lattice that all of the holes lie on; none where they lie on none, or have no room in its cells.
    fn new(loops: &[TaggedLoop], of: Vec<usize>) -> Option<Field> {
        let (low, high) = bounds(&loops[of[0]]);
        let size = (high - low) / 2.0;
        let middles: Vec<(usize, DVec2)> = of
            .iter()
            .map(|&i| {
                let (low, high) = bounds(&loops[i]);
                (i, (low + high) / 2.0)
            })
            .collect();
        let origin = middles.iter().fold(DVec2::INFINITY, |o, m| o.min(m.1));
        let mut ys: Vec<f64> = middles.iter().map(|m| m.1.y).collect();
        ys.sort_by(f64::total_cmp);
        let up = ys.windows(2).map(|w| w[1] - w[0]).filter(|d| *d > SAME).fold(f64::INFINITY, f64::min);
        let mut rows: HashMap<i64, Vec<f64>> = HashMap::default();
        middles.iter().for_each(|m| rows.entry(key(m.1).1).or_default().push(m.1.x));
        let mut pitch = f64::INFINITY;
        for row in rows.values_mut() {
            row.sort_by(f64::total_cmp);
            pitch = row.windows(2).map(|w| w[1] - w[0]).filter(|d| *d > SAME).fold(pitch, f64::min);
        }
        if !pitch.is_finite() {
            return None;
        }
        // One row alone has cells as high as they are wide.
        let up = if up.is_finite() { up } else { pitch };
        let (step, half) = (DVec2::new(pitch / 2.0, up), DVec2::new(pitch, up) / 2.0);
        if (size + CLEAR).cmpge(half).any() {
            return None;
        }
        let mut holes = Vec::with_capacity(of.len());
        for (i, m) in middles {
            let at = (m - origin) / step;
            let on = at.round();
            if ((at - on) * step).abs().max_element() > SAME {
                return None;
            }
            holes.push((i, on.y as i64, on.x as i64));
        }
        let (cells, taken) = (Vec::new(), HashSet::default());
        Some(Field { origin, step, half, holes, cells, taken })
    }

    /// Where columns and rows meet: the lower border of a row lies half a row below its middle.
    fn corner(&self, column: i64, row: i64) -> DVec2 {
        let y = self.origin.y + (row as f64 - 0.5) * self.step.y;
        DVec2::new(self.origin.x + column as f64 * self.step.x, y)
    }

    /// The cells that nothing but their own hole and plain creases enter; none of the field where that gains
    /// nothing.
    fn cells(mut self, loops: &[TaggedLoop], creases: &[Creases]) -> Option<Field> {
        let own: HashSet<usize> = self.holes.iter().map(|h| h.0).collect();
        let mut blocked: HashSet<(i64, i64)> = HashSet::default();
        for (_, l) in loops.iter().enumerate().filter(|(i, _)| !own.contains(i)) {
            for k in 0..l.len() {
                crate::halt::often();
                self.block(l[k].0, l[(k + 1) % l.len()].0, &mut blocked);
            }
        }
        let mut kinds: HashSet<Like> = HashSet::default();
        for &(hole, row, column) in &self.holes {
            crate::halt::often();
            let halves = [(row, column - 1), (row, column)];
            let free = |h: &(i64, i64)| !blocked.contains(h) && !self.taken.contains(h);
            if !halves.iter().all(free) {
                continue;
            }
            let Some((crossed, like)) = self.crossed(row, column, creases) else { continue };
            kinds.insert(like.clone());
            self.taken.extend(halves);
            self.cells.push(Cell { hole, row, column, crossed, like });
        }
        (self.cells.len() >= LEAST && kinds.len() * LEAST_ALIKE <= self.cells.len()).then_some(self)
    }

    /// Marks the half cells that a side enters or comes near to.
    fn block(&self, a: DVec2, b: DVec2, blocked: &mut HashSet<(i64, i64)>) {
        let (low, high) = (a.min(b) - CLEAR, a.max(b) + CLEAR);
        let first = ((low - self.origin) / self.step + DVec2::new(0.0, 0.5)).floor();
        let last = ((high - self.origin) / self.step + DVec2::new(0.0, 0.5)).floor();
        let d = b - a;
        for row in first.y as i64..=last.y as i64 {
            // The part of the side in this row.
            let (y0, y1) = (self.corner(0, row).y - CLEAR, self.corner(0, row + 1).y + CLEAR);
            let at = |y: f64| if d.y.abs() < 1e-12 { None } else { Some(((y - a.y) / d.y).clamp(0.0, 1.0)) };
            let (s, t) = at(y0).zip(at(y1)).unwrap_or((0.0, 1.0));
            let (p, q) = (a.x + d.x * s, a.x + d.x * t);
            let column = |x: f64| ((x - self.origin.x) / self.step.x).floor() as i64;
            for h in column(p.min(q) - CLEAR)..=column(p.max(q) + CLEAR) {
                blocked.insert((row, h));
            }
        }
    }

    /// The creases that cross a cell, and how. None where one ends in it, runs slanted, or lies on its
    /// border.
    fn crossed(&self, row: i64, column: i64, creases: &[Creases]) -> Option<(Vec<(usize, usize)>, Like)> {
        let (low, high) = (self.corner(column - 1, row), self.corner(column + 1, row + 1));
        let middle = (low + high) / 2.0;
        let (mut crossed, mut like) = (Vec::new(), Vec::new());
        for (f, set) in creases.iter().enumerate() {
            let Family::Parallel(n) = set.family else { return None };
            let corners = [low, high, DVec2::new(low.x, high.y), DVec2::new(high.x, low.y)];
            let spread = |d: DVec2| {
                let at = corners.map(|c| c.dot(d));
                (
                    at.into_iter().fold(f64::INFINITY, f64::min),
                    at.into_iter().fold(f64::NEG_INFINITY, f64::max),
                )
            };
            let ((from, to), (near, far)) = (spread(n), spread(n.perp()));
            let first = set.lines.partition_point(|l| l.at < from - CLEAR);
            for (k, l) in set.lines.iter().enumerate().skip(first).take_while(|(_, l)| l.at <= to + CLEAR) {
                if l.high < near - CLEAR || l.low > far + CLEAR {
                    continue;
                }
                let axis = if n.x > 1.0 - 1e-12 { 0 } else { 1 };
                let straight = n.x > 1.0 - 1e-12 || n.y > 1.0 - 1e-12;
                let through = l.low < near - CLEAR && l.high > far + CLEAR;
                let off = l.at - middle[axis];
                let on_border =
                    [-self.half[axis], 0.0, self.half[axis]].iter().any(|b| (off - b).abs() < CLEAR);
                if !straight || !through || on_border {
                    return None;
                }
                crossed.push((f, k));
                like.push((axis, (off / SAME).round() as i64));
            }
        }
        Some((crossed, like))
    }

    /// The border of all cells, as closed loops.
    fn seams(&self) -> Vec<TaggedLoop> {
        let mut next: HashMap<(i64, i64), Vec<(i64, i64)>> = HashMap::default();
        for &(row, h) in &self.taken {
            let sides = [
                ((row - 1, h), (h, row), (h + 1, row)),
                ((row, h + 1), (h + 1, row), (h + 1, row + 1)),
                ((row + 1, h), (h + 1, row + 1), (h, row + 1)),
                ((row, h - 1), (h, row + 1), (h, row)),
            ];
            for (beside, from, to) in sides {
                if !self.taken.contains(&beside) {
                    next.entry(from).or_default().push(to);
                }
            }
        }
        let mut starts: Vec<(i64, i64)> = next.keys().copied().collect();
        starts.sort_unstable();
        let mut out = Vec::new();
        for start in starts {
            while let Some(mut at) = next.get_mut(&start).and_then(Vec::pop) {
                let mut run = vec![(self.corner(start.0, start.1), SEAM)];
                while at != start {
                    run.push((self.corner(at.0, at.1), SEAM));
                    let Some(further) = next.get_mut(&at).and_then(Vec::pop) else { break };
                    at = further;
                }
                out.push(run);
            }
        }
        out
    }

    /// Puts every cell in. False where one could not be triangulated.
    fn fill(&self, loops: &[TaggedLoop], creases: &[Creases], near: &mut Near, out: &mut Triangles) -> bool {
        let mut made: HashMap<&[(usize, i64)], Template> = HashMap::default();
        let mut border: HashMap<Border, u32> = HashMap::default();
        let mut of: Vec<u32> = Vec::new();
        for cell in &self.cells {
            crate::halt::point();
            let template =
                made.entry(&cell.like).or_insert_with(|| Template::new(self, cell, &loops[cell.hole]));
            if template.triangles.triangles.is_empty() {
                return false;
            }
            let centre =
                (self.corner(cell.column - 1, cell.row) + self.corner(cell.column + 1, cell.row + 1)) / 2.0;
            of.clear();
            for (p, place) in template.triangles.points.iter().zip(&template.places) {
                let Some(place) = place else {
                    of.push(out.points.len() as u32);
                    out.points.push(centre + *p);
                    continue;
                };
                let (id, at) = self.on_border(cell, *place, creases);
                let index = *border.entry(id).or_insert_with(|| {
                    near.find(&out.points, at).unwrap_or_else(|| {
                        out.points.push(at);
                        out.points.len() as u32 - 1
                    })
                });
                of.push(index);
            }
            let t = &template.triangles;
            let to = |i: u32| of[i as usize];
            out.triangles.extend(t.triangles.iter().map(|c| c.map(to)));
            out.creases.extend(t.creases.iter().map(|&(a, b)| (to(a), to(b))));
            let hole = &loops[cell.hole];
            let walls = t.walls.iter().filter(|w| w.2 != SEAM);
            out.walls.extend(walls.map(|&(a, b, k)| (to(a), to(b), hole[k as usize].1)));
        }
        true
    }

    /// What a point on the border of a cell is called, and where it lies: the same for both its cells.
    fn on_border(&self, cell: &Cell, place: Place, creases: &[Creases]) -> (Border, DVec2) {
        let line = |k: usize| {
            let (f, l) = cell.crossed[k];
            ((f, l), creases[f].lines[l].at)
        };
        match place {
            Place::Corner(dx, dy) => {
                let (column, row) = (cell.column + dx, cell.row + dy);
                (Border::Corner(column, row), self.corner(column, row))
            }
            Place::OnRow(dy, k) => {
                let (crease, x) = line(k);
                let row = cell.row + dy;
                (Border::OnRow(row, crease), DVec2::new(x, self.corner(0, row).y))
            }
            Place::OnColumn(dx, k) => {
                let (crease, y) = line(k);
                let column = cell.column + dx;
                (Border::OnColumn(column, crease), DVec2::new(self.corner(column, 0).x, y))
            }
        }
    }
}

/// A point on the border of a cell: a corner (or the middle of its upper or lower side), or where a crease
/// crosses one of its sides. Columns −1, 0, 1 and rows 0, 1 of the cell.
#[derive(Clone, Copy)]
enum Place {
    Corner(i64, i64),
    OnRow(i64, usize),
    OnColumn(i64, usize),
}

#[derive(Clone, Copy, PartialEq, Eq, Hash)]
enum Border {
    Corner(i64, i64),
    OnRow(i64, (usize, usize)),
    OnColumn(i64, (usize, usize)),
}

/// One cell about its middle, its walls tagged by the corner of the hole that they leave.
struct Template {
    triangles: Triangles,
    /// Where its points lie on its border; none for those inside.
    places: Vec<Option<Place>>,
}

impl Template {
    fn new(field: &Field, cell: &Cell, hole: &TaggedLoop) -> Template {
        let half = field.half;
        let corners = [(-1, 0), (0, 0), (1, 0), (1, 1), (0, 1), (-1, 1)];
        let at = |(dx, dy): (i64, i64)| DVec2::new(dx as f64 * half.x, (dy as f64 * 2.0 - 1.0) * half.y);
        let rim: TaggedLoop = corners.iter().map(|&c| (at(c), SEAM)).collect();
        let (low, high) = bounds(hole);
        let middle = (low + high) / 2.0;
        let hole: TaggedLoop = hole.iter().zip(0..).map(|(v, k)| (v.0 - middle, k)).collect();
        let reach = 2.0 * half.max_element();
        let lines = |axis: usize| {
            let own = cell.like.iter().filter(|l| l.0 == axis);
            own.map(|l| Crease { at: l.1 as f64 * SAME, low: -reach, high: reach }).collect::<Vec<_>>()
        };
        let creases: Vec<Creases> = [DVec2::X, DVec2::Y]
            .into_iter()
            .enumerate()
            .map(|(axis, n)| Creases { family: Family::Parallel(n), lines: lines(axis) })
            .filter(|c| !c.lines.is_empty())
            .collect();
        let triangles = triangulate(&[rim, hole], &creases);
        let place = |p: &DVec2| {
            if let Some(&(dx, dy)) = corners.iter().find(|c| at(**c).distance(*p) < SAME) {
                return Some(Place::Corner(dx, dy));
            }
            let crease = |axis: usize| {
                cell.like.iter().position(|l| l.0 == axis && (l.1 as f64 * SAME - p[axis]).abs() < SAME)
            };
            if (p.y.abs() - half.y).abs() < SAME {
                return crease(0).map(|k| Place::OnRow(i64::from(p.y > 0.0), k));
            }
            if (p.x.abs() - half.x).abs() < SAME {
                return crease(1).map(|k| Place::OnColumn(if p.x > 0.0 { 1 } else { -1 }, k));
            }
            None
        };
        let places = triangles.points.iter().map(place).collect();
        Template { triangles, places }
    }
}

/// Points found by place.
struct Near {
    cells: HashMap<(i64, i64), Vec<u32>>,
}

impl Near {
    const CELL: f64 = 1e-3;

    fn cell(p: DVec2) -> (i64, i64) {
        ((p.x / Self::CELL).floor() as i64, (p.y / Self::CELL).floor() as i64)
    }

    fn new(points: &[DVec2]) -> Near {
        let mut cells: HashMap<(i64, i64), Vec<u32>> = HashMap::default();
        for (p, i) in points.iter().zip(0..) {
            cells.entry(Self::cell(*p)).or_default().push(i);
        }
        Near { cells }
    }

    fn find(&self, points: &[DVec2], at: DVec2) -> Option<u32> {
        let (x, y) = Self::cell(at);
        let mut cells = (-1..=1).flat_map(|dx| (-1..=1).map(move |dy| (x + dx, y + dy)));
        cells.find_map(|c| {
            let mut here = self.cells.get(&c)?.iter();
            here.find(|&&i| points[i as usize].distance(at) < SAME).copied()
        })
    }
}

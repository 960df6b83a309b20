//! The faces of a straight bar with square notches in its ends, or with ends of several planes: stretches of
//! one section each, one after the other; where the section changes, floors.

use glam::DVec2;
use steelk_core::frame::{Bar, Hole, Member, Profile, left_of};
use steelk_core::geom::{Contour, Segment, Vertex};

use super::bar::{LEAST, along_side, metal_on_the_left};
use super::drilled::{Sides, drill, parted_beside};
use super::ends::End;
use super::planes::SAME;
use super::shell::{Curve, Face, Shell, Surface};

/// A row of the section across the bar: its corners and edges, each made once.
struct Row {
    end: End,
    /// What ends in it, forwards and backwards.
    parts: Vec<Ending>,
    /// Corners of the sections beside it and of its own planes.
    corners: Vec<DVec2>,
    points: Vec<(DVec2, usize)>,
    edges: Vec<([usize; 2], DVec2, usize)>,
}

/// A section by the faces that it ends in, less the section that goes on; forwards 1, backwards -1.
struct Ending {
    of: Vec<(Section, Surface)>,
    less: Option<usize>,
    way: f64,
}

impl Row {
    fn new(end: End, row: usize, sections: &[Section], at: &Bar) -> Option<Row> {
        let (before, after) = (row.checked_sub(1), Some(row).filter(|k| *k < sections.len()));
        let mut parts = Vec::new();
        for (of, less, way) in [(before, after, 1.0), (after, before, -1.0)] {
            let Some(of) = of else { continue };
            parts.push(Ending { of: end.faces(&sections[of], way, at)?, less, way });
        }
        let beside = [before, after].into_iter().flatten().map(|k| &sections[k]);
        let cut = parts.iter().flat_map(|p| &p.of).map(|p| &p.0);
        let corners = beside.chain(cut).flatten().flat_map(|c| c.vertices.iter().map(|v| v.p)).collect();
        Some(Row { end, parts, corners, points: Vec::new(), edges: Vec::new() })
    }

    fn point(&mut self, out: &mut Shell, q: DVec2, at: &Bar) -> usize {
        if let Some(known) = self.points.iter().find(|p| p.0.distance(q) < SAME) {
            return known.1;
        }
        let n = out.point(at.point(q, self.end.station(q)));
        self.points.push((q, n));
        n
    }

    /// The edge along a side, and whether it runs that way.
    fn edge(&mut self, out: &mut Shell, side: &Segment, at: &Bar) -> (usize, bool) {
        let ends = [side.a, side.b].map(|q| self.point(out, q, at));
        let middle = side.at(0.5);
        let known = self
            .edges
            .iter()
            .find(|(e, m, _)| m.distance(middle) < SAME && (*e == ends || *e == [ends[1], ends[0]]));
        if let Some((e, _, n)) = known {
            return (*n, *e == ends);
        }
        let n = out.edge(ends, self.end.rim(side, at));
        self.edges.push((ends, middle, n));
        (n, true)
    }
}

/// Loops of a section, metal on the left.
type Section = Vec<Contour>;
/// Edges one after the other, each with whether it is run along as it goes.
type Run = Vec<(usize, bool)>;

/// The bar; none where an end is coped to a round, or a notch ends within a slant or leaves nothing.
pub fn shell(m: &Member, p: &Profile, at: &Bar) -> Option<Shell> {
    if !m.is_straight() || m.closed {
        return None;
    }
    let notches: Vec<&Hole> = m.holes.iter().filter(|h| h.notch.is_some()).collect();
    let [start, end] = [End::of(m, p, 0)?, End::of(m, p, 1)?];
    let plain = |e: &End| matches!(e, End::Plane { .. });
    if notches.is_empty() && plain(&start) && plain(&end) {
        return None;
    }
    if [&start, &end].iter().any(|e| matches!(e, End::Round(_))) {
        return None;
    }
    let drilled: Vec<Hole> = m.holes.iter().filter(|h| h.notch.is_none()).cloned().collect();
    // Floors in their order along the bar, and the section of each stretch between them.
    let floor = |h: &Hole| h.along + if h.notch == Some(0) { h.length } else { -h.length } / 2.0;
    let mut floors: Vec<f64> = notches.iter().map(|h| floor(h)).collect();
    floors.sort_by(f64::total_cmp);
    floors.dedup_by(|a, b| (*a - *b).abs() < LEAST);
    let [first, last] = [&start, &end].map(|e| e.station(DVec2::ZERO));
    let marks: Vec<f64> = [first].into_iter().chain(floors.iter().copied()).chain([last]).collect();
    if marks.windows(2).any(|w| w[1] - w[0] < LEAST) {
        return None;
    }
    let base: Section = { std::iter::once(&p.outer).chain(&p.holes).enumerate() }
        .map(|(n, c)| parted_beside(metal_on_the_left(c, n == 0), &drilled))
        .collect();
    let sections: Vec<Section> = marks
        .windows(2)
        .map(|w| {
            let middle = (w[0] + w[1]) / 2.0;
            let here = notches.iter().filter(|h| (h.along - middle).abs() < h.length / 2.0);
            left_of(p, &base, &here.copied().collect::<Vec<_>>())
        })
        .collect::<Option<_>>()?;
    let ends = [start].into_iter().chain(floors.iter().map(|s| End::Plane { at: *s, slope: DVec2::ZERO }));
    let mut rows = Vec::with_capacity(marks.len());
    for (r, end) in ends.chain([end]).enumerate() {
        rows.push(Row::new(end, r, &sections, at)?);
    }
    let mut out = Shell::default();
    let mut flats: Vec<Sides> = Vec::new();
    for (k, section) in sections.iter().enumerate() {
        let [low, high] = [k, k + 1].map(|r| rows[r].corners.clone());
        // Every place of it lies between its rows.
        let runs =
            section.iter().flat_map(Contour::segments).flat_map(|s| [0.0, 0.25, 0.5, 0.75].map(|f| s.at(f)));
        if runs.into_iter().any(|q| rows[k + 1].end.station(q) - rows[k].end.station(q) < LEAST) {
            return None;
        }
        let mut of_stretch = Vec::new();
        for c in section {
            let n = c.vertices.len();
            let rims: [Vec<Run>; 2] = [(k, &low), (k + 1, &high)].map(|(r, corners)| {
                let side = |s: Segment| -> Run {
                    split(&s, corners).iter().map(|part| rows[r].edge(&mut out, part, at)).collect()
                };
                c.segments().map(side).collect()
            });
            let uprights: Vec<usize> = { c.vertices.iter() }
                .map(|v| {
                    let two = [k, k + 1].map(|r| rows[r].point(&mut out, v.p, at));
                    out.edge(two, Curve::Line)
                })
                .collect();
            for (i, side) in c.segments().enumerate() {
                of_stretch.push((out.faces.len(), side));
                let mut run = rims[0][i].clone();
                run.push((uprights[(i + 1) % n], true));
                run.extend(rims[1][i].iter().rev().map(|(e, forward)| (*e, !forward)));
                run.push((uprights[i], false));
                out.faces.push(Face { surface: along_side(&side, at), loops: vec![run] });
            }
        }
        flats.push(Sides::new(of_stretch));
    }
    let none = Section::new();
    for row in &mut rows {
        for Ending { of, less, way } in std::mem::take(&mut row.parts) {
            let less = less.map_or(&none, |k| &sections[k]);
            for (of, surface) in of {
                for loops in rest(row, &mut out, &of, less, at)? {
                    let turned = |l: Run| -> Run {
                        if way > 0.0 { l } else { l.into_iter().rev().map(|(e, f)| (e, !f)).collect() }
                    };
                    let loops = loops.into_iter().map(turned).collect();
                    out.faces.push(Face { surface: surface.clone(), loops });
                }
            }
        }
    }
    for h in &drilled {
        let k = marks.windows(2).position(|w| w[0] < h.along && h.along < w[1])?;
        drill(&mut out, &mut flats[k], h, p, &[rows[k].end.clone(), rows[k + 1].end.clone()], at)?;
    }
    if at.y.cross(at.z).dot(at.d) < 0.0 {
        out.turn_round();
    }
    out.is_closed().then_some(out)
}

/// A side in parts, from corner to corner.
fn split(s: &Segment, corners: &[DVec2]) -> Vec<Segment> {
    let within =
        |q: &&DVec2| q.distance(s.a) > SAME && q.distance(s.b) > SAME && s.nearest(**q).distance(**q) < SAME;
    let share = |q: DVec2| match s.arc() {
        None => (q - s.a).length() / s.length(),
        Some(a) => {
            let turned = (s.a - a.centre).angle_to(q - a.centre) * a.sweep.signum();
            turned.rem_euclid(std::f64::consts::TAU) / a.sweep.abs()
        }
    };
    let mut at: Vec<(f64, DVec2)> = corners.iter().filter(within).map(|q| (share(*q), *q)).collect();
    at.sort_by(|a, b| a.0.total_cmp(&b.0));
    at.dedup_by(|a, b| a.1.distance(b.1) < SAME);
    at.push((1.0, s.b));
    let sweep = s.arc().map_or(0.0, |a| a.sweep);
    let mut out = Vec::new();
    let (mut from, mut a) = (0.0, s.a);
    for (to, b) in at {
        out.push(Segment { a, b, bulge: (sweep * (to - from) / 4.0).tan() });
        (from, a) = (to, b);
    }
    out
}

/// The loops round what a section has and another has not, a face each: the outer loop first.
fn rest(row: &mut Row, out: &mut Shell, of: &Section, less: &Section, at: &Bar) -> Option<Vec<Vec<Run>>> {
    let corners = row.corners.clone();
    let mut parts = |c: &Section| -> Vec<(usize, bool, Segment)> {
        let sides = c.iter().flat_map(Contour::segments).flat_map(|s| split(&s, &corners));
        sides
            .map(|s| {
                let (e, forward) = row.edge(out, &s, at);
                (e, forward, s)
            })
            .collect()
    };
    let (own, other) = (parts(of), parts(less));
    let mut open: Vec<(usize, bool, Segment)> =
        own.iter().filter(|a| other.iter().all(|b| b.0 != a.0)).copied().collect();
    // Of what is taken away the metal lies on the other hand.
    let backwards = |&(e, forward, s): &(usize, bool, Segment)| {
        (e, !forward, Segment { a: s.b, b: s.a, bulge: -s.bulge })
    };
    open.extend(other.iter().filter(|b| own.iter().all(|a| a.0 != b.0)).map(backwards));
    // Where the other reaches beyond, this has nothing to tell.
    let inside = |q: DVec2| of.iter().fold(false, |n, c| n != c.contains(q));
    open.retain(|(_, _, s)| {
        // In its middle an arc runs as its chord does.
        let left = (s.b - s.a).perp().normalize_or_zero() * (SAME * 10.0);
        inside(s.at(0.5) + left) && !less.iter().fold(false, |n, c| n != c.contains(s.at(0.5) + left))
    });
    let mut rings: Vec<(Contour, Run)> = Vec::new();
    while let Some(first) = open.pop() {
        let mut ring = vec![first];
        while ring[ring.len() - 1].2.b.distance(first.2.a) > SAME {
            let end = ring[ring.len() - 1].2.b;
            let next = open.iter().position(|s| s.2.a.distance(end) < SAME)?;
            ring.push(open.swap_remove(next));
        }
        let vertices = ring.iter().map(|s| Vertex { p: s.2.a, bulge: s.2.bulge, tag: 0 }).collect();
        rings.push((Contour { vertices }, ring.iter().map(|s| (s.0, s.1)).collect()));
    }
    let (outers, inners): (Vec<_>, Vec<_>) = rings.into_iter().partition(|r| r.0.signed_area() > 0.0);
    let mut faces: Vec<(Contour, Vec<Run>)> = outers.into_iter().map(|(c, l)| (c, vec![l])).collect();
    for (c, l) in inners {
        let holder = faces.iter_mut().find(|f| f.0.contains(c.vertices[0].p))?;
        holder.1.push(l);
    }
    Some(faces.into_iter().map(|f| f.1).collect())
}

//! `fill`: a pattern of whole shapes over a panel or a rolled shell, clear of edges, bends and earlier cuts.

use glam::DVec2;

use super::blank::Blank;
use super::feature::{Feature, MOST_CORNERS, MOST_FEATURES};
use super::punch::{field, shape};
use super::strip::SheetStock;
use crate::formed::zones::{Zone, zone_of};
use crate::verbs::{Fill, Pattern};
use ground::geom::{Bounds, COINCIDENT, Contour, Grid, Segment, closest};
use ground::reader::{Range, Reader};
use shop::limits;

pub fn fill(
    reader: &mut Reader,
    id: &str,
    line: usize,
    say: &Fill,
    made: &[(String, Vec<Feature>)],
    blank: &Blank,
    stuff: &SheetStock,
) -> Option<Vec<Feature>> {
    let shape = shape(reader, "/say/shape", &say.shape);
    let bounds = field(reader, "/say/on", &say.on, blank);
    let pitch = reader.length("/say/pitch", &say.pitch, Range::AboveZero);
    let across = if say.pitch_across.trim().is_empty() {
        Some(None)
    } else {
        reader.length("/say/pitch_across", &say.pitch_across, Range::AboveZero).map(Some)
    };
    let margin = reader.length("/say/margin", &say.margin, Range::ZeroUp);
    let to_bend = if say.bend_margin.trim().is_empty() {
        Some(None)
    } else {
        reader.length("/say/bend_margin", &say.bend_margin, Range::ZeroUp).map(Some)
    };
    let ((shape, least), bounds, pitch, across, margin, to_bend) =
        (shape?, bounds?, pitch?, across?, margin?, to_bend?);
    let own = shape.bounds();
    // Set about its own middle, so that the margins at both ends come out alike.
    let shape = shape.moved(0.0, -own.centre());
    let half = own.size() / 2.0;
    let staggered = say.pattern == Pattern::Staggered;
    let up = across.unwrap_or(if staggered { pitch * 0.75f64.sqrt() } else { pitch });
    let room = bounds.size() - DVec2::splat(2.0 * margin) - 2.0 * half;
    if room.min_element() < -1e-9 {
        reader.refuse(
            "/say/margin",
            &say.margin,
            "the margins leave no room for one",
            "write a smaller margin, or a smaller shape",
        );
        return None;
    }
    let counts = [(room.x / pitch + 1e-9).floor() + 1.0, (room.y / up + 1e-9).floor() + 1.0];
    let had: usize = made.iter().map(|m| m.1.len()).sum();
    let all = counts[0] * counts[1];
    if all + had as f64 > MOST_FEATURES as f64 || all * shape.vertices.len() as f64 > MOST_CORNERS as f64 {
        reader.refuse(
            "/say/pitch",
            &say.pitch,
            format!("this fills with {all:.0} shapes; {MOST_FEATURES} cuts is the most for one piece"),
            "write a larger pitch",
        );
        return None;
    }
    let (columns, rows) = (counts[0] as usize, counts[1] as usize);
    let spare = DVec2::new(room.x - (columns - 1) as f64 * pitch, room.y - (rows - 1) as f64 * up);
    let first = bounds.min + DVec2::splat(margin) + half + spare / 2.0;
    let keep = Clear::new(say, made, blank, stuff, margin, to_bend, &own);
    let mut out = Vec::with_capacity(columns * rows);
    for row in 0..rows {
        ground::halt::point();
        let odd = staggered && row % 2 == 1;
        let shift = if odd { pitch / 2.0 } else { 0.0 };
        for column in 0..columns {
            let centre = first + DVec2::new(column as f64 * pitch + shift, row as f64 * up);
            if centre.x + half.x > bounds.max.x - margin + 1e-9 {
                continue;
            }
            let contour = shape.moved(0.0, centre);
            if keep.allows(&contour, centre, half) {
                let mut f = Feature::cut(
                    format!("{id}#{}.{}", row + 1, column + 1),
                    line,
                    contour,
                    centre,
                    least,
                    bounds,
                );
                f.light = say.light;
                out.push(f);
            }
        }
    }
    if out.is_empty() {
        reader.refuse(
            "/say/margin",
            &say.margin,
            "no whole shape has room",
            "write a smaller margin, or a smaller shape",
        );
        return None;
    }
    Some(out)
}

/// What the pattern keeps clear of.
struct Clear<'a> {
    blank: &'a Blank,
    on: Option<&'a Zone>,
    margin: f64,
    sides: Lines,
    cuts: Lines,
    bends: Lines,
    bend_margin: f64,
}

/// Segments found by place.
struct Lines {
    segments: Vec<Segment>,
    boxes: Vec<Bounds>,
    grid: Grid,
}

impl Lines {
    fn new(segments: Vec<Segment>, gap: f64) -> Lines {
        let boxes: Vec<Bounds> = segments.iter().map(|s| s.bounds()).collect();
        let grid = Grid::new(&boxes, gap);
        Lines { segments, boxes, grid }
    }

    /// Whether a contour keeps this far from all of them.
    fn clear(&self, contour: &Contour, near: &Bounds, gap: f64) -> bool {
        let close = self.grid.near(near);
        let mut close = close.into_iter().filter(|&i| self.boxes[i as usize].near(near, gap));
        !close.any(|i| {
            contour.segments().any(|s| closest(&s, &self.segments[i as usize]).gap < gap - COINCIDENT)
        })
    }
}

impl<'a> Clear<'a> {
    fn new(
        say: &Fill,
        made: &[(String, Vec<Feature>)],
        blank: &'a Blank,
        stuff: &SheetStock,
        margin: f64,
        to_bend: Option<f64>,
        own: &Bounds,
    ) -> Clear<'a> {
        let size = own.size();
        let bend_margin =
            to_bend.unwrap_or(limits::hole_to_bend(stuff.t, size.max_element(), size.min_element()).value);
        let tight = |z: &&Zone| z.bend().is_some_and(|b| b.radius / stuff.t < 5.0);
        let border = |z: &Zone| {
            (0..z.region.len())
                .map(|i| Segment::line(z.region[i], z.region[(i + 1) % z.region.len()]))
                .collect::<Vec<_>>()
        };
        let bends = blank.zones.iter().filter(tight).flat_map(border).collect();
        let cuts = made.iter().flat_map(|m| &m.1).flat_map(|f| f.contour.segments()).collect();
        Clear {
            blank,
            on: blank.zones.iter().find(|z| z.name == say.on),
            margin,
            sides: Lines::new(blank.outer.segments().collect(), margin),
            cuts: Lines::new(cuts, margin),
            bends: Lines::new(bends, bend_margin),
            bend_margin,
        }
    }

    fn allows(&self, contour: &Contour, centre: DVec2, half: DVec2) -> bool {
        let near = Bounds { min: centre - half, max: centre + half };
        let zones = &self.blank.zones;
        if zones.len() > 1 {
            let Some(z) = zone_of(zones, centre).map(|z| &zones[z]) else { return false };
            if self.on.is_some_and(|on| on.name != z.name) || z.bend().is_some() && !self.blank.is_shell(z) {
                return false;
            }
        }
        self.sides.clear(contour, &near, self.margin)
            && self.blank.outer.contains(centre)
            && self.cuts.clear(contour, &near, self.margin)
            && self.bends.clear(contour, &near, self.bend_margin)
    }
}

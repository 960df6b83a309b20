//! A pattern of whole shapes over a panel or a rolled shell, clear of edges, bends and earlier cuts.

use glam::DVec2;
use ground::geom::ROUNDING;
use ground::geom::{Bounds, COINCIDENT, Contour, Grid, Segment, closest};
use ground::reference;
use shop::limits;

use super::blank::Blank;
use super::feature::{Feature, MOST_CORNERS, MOST_FEATURES};
use super::place::field;
use super::shape::ShapeSpec;
use super::spec::{Standing, Turn};
use super::stock::SheetStock;
use crate::formed::zones::{Zone, zone_of};

/// A pattern, read; lengths in mm.
pub struct FillSpec {
    pub shape: ShapeSpec,
    /// `flat`, or the name of a panel or a rolled zone.
    pub on: String,
    /// Every other row half a pitch along.
    pub staggered: bool,
    /// Middle to middle, west to east.
    pub pitch: f64,
    /// South to north; none for the same, or the height of even triangles where it is staggered.
    pub across: Option<f64>,
    /// From the outline, and from cuts above.
    pub margin: f64,
    /// From the tangent lines of bends; none for what the rules want.
    pub to_bend: Option<f64>,
    /// Left out of the views.
    pub hidden_in_views: bool,
}

impl FillSpec {
    pub fn filled(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let (pitch, margin) = (self.pitch, self.margin);
        let bounds = field(turn.tell, "/say/on", &self.on, standing.blank)?;
        let shape = self.shape.contour();
        let own = shape.bounds();
        // Set about its own middle, so that the margins at both ends come out alike.
        let shape = shape.moved(0.0, -own.centre());
        let half = own.size() / 2.0;
        let up = self.across.unwrap_or(if self.staggered { pitch * 0.75f64.sqrt() } else { pitch });
        let room = bounds.size() - DVec2::splat(2.0 * margin) - 2.0 * half;
        if room.min_element() < -ROUNDING {
            turn.tell.refuse_at(
                "/say/margin",
                "the margins leave no room for one",
                "write a smaller margin, or a smaller shape",
            );
            return None;
        }
        let counts = [(room.x / pitch + ROUNDING).floor() + 1.0, (room.y / up + ROUNDING).floor() + 1.0];
        let all = counts[0] * counts[1];
        let corners = all * shape.vertices.len() as f64;
        if all + standing.had() as f64 > MOST_FEATURES as f64 || corners > MOST_CORNERS as f64 {
            let message =
                format!("this fills with {all:.0} shapes; {MOST_FEATURES} cuts is the most for one piece");
            turn.tell.refuse_at("/say/pitch", message, "write a larger pitch");
            return None;
        }
        let (columns, rows) = (counts[0] as usize, counts[1] as usize);
        let spare = DVec2::new(room.x - (columns - 1) as f64 * pitch, room.y - (rows - 1) as f64 * up);
        let first = bounds.min + DVec2::splat(margin) + half + spare / 2.0;
        let keep = Clear::new(self, standing, turn.stock, &own);
        let least = self.shape.least();
        let mut out = Vec::with_capacity(columns * rows);
        for row in 0..rows {
            ground::halt::point();
            let shift = if self.staggered && row % 2 == 1 { pitch / 2.0 } else { 0.0 };
            for column in 0..columns {
                let centre = first + DVec2::new(column as f64 * pitch + shift, row as f64 * up);
                if centre.x + half.x > bounds.max.x - margin + ROUNDING {
                    continue;
                }
                let contour = shape.moved(0.0, centre);
                if keep.allows(&contour, centre, half) {
                    let name = reference::copy_at(turn.at.line, row + 1, column + 1);
                    let mut f = Feature::cut(name, turn.at.index, contour, centre, least, bounds);
                    f.hidden_in_views = self.hidden_in_views;
                    out.push(f);
                }
            }
        }
        if out.is_empty() {
            turn.tell.refuse_at(
                "/say/margin",
                "no whole shape has room",
                "write a smaller margin, or a smaller shape",
            );
            return None;
        }
        Some(out)
    }
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
    fn new(spec: &'a FillSpec, standing: &Standing<'a>, stock: &SheetStock, own: &Bounds) -> Clear<'a> {
        let (blank, margin) = (standing.blank, spec.margin);
        let size = own.size();
        let bend_margin = spec
            .to_bend
            .unwrap_or(limits::hole_to_bend(stock.t, size.max_element(), size.min_element()).value);
        let tight = |z: &&Zone| z.bend().is_some_and(|b| b.radius / stock.t < 5.0);
        let border = |z: &Zone| {
            (0..z.region.len())
                .map(|i| Segment::line(z.region[i], z.region[(i + 1) % z.region.len()]))
                .collect::<Vec<_>>()
        };
        let bends = blank.zones.iter().filter(tight).flat_map(border).collect();
        let cuts = standing.above.iter().flat_map(|m| &m.1).flat_map(|f| f.contour.segments()).collect();
        Clear {
            blank,
            on: blank.zones.iter().find(|z| z.name == spec.on),
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

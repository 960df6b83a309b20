//! Where a shape goes: on a panel or in the flat, so far from its edges.

use glam::DVec2;
use ground::geom::ROUNDING;
use ground::geom::{Bounds, Contour};
use ground::reader::Tell;

use super::blank::Blank;
use super::spec::Standing;
use crate::choices::{BesideBy, BesideWay, EdgeOf, From, To};

/// A place, read. `at` is the JSON pointer of what tells it.
#[derive(Clone, Debug)]
pub struct PlaceSpec {
    pub at: &'static str,
    /// `flat`, or the name of a panel.
    pub on: String,
    pub x: OffsetSpec,
    pub y: OffsetSpec,
    pub beside: Option<BesideSpec>,
    /// The curved side or the hole whose middle it has.
    pub about: Option<String>,
    /// Counter-clockwise, rad.
    pub turn: f64,
}

#[derive(Clone, Copy, Debug)]
pub struct OffsetSpec {
    pub from: From,
    /// mm.
    pub distance: f64,
    pub to: To,
    pub edge: EdgeOf,
    /// Not left to what is usual.
    pub told: bool,
}

/// Beside another hole: how far, on which side, between what.
#[derive(Clone, Debug)]
pub struct BesideSpec {
    /// mm.
    pub distance: f64,
    pub way: BesideWay,
    pub by: BesideBy,
    pub of: String,
}

impl PlaceSpec {
    /// The middle of a field.
    pub fn middle(at: &'static str, on: &str) -> PlaceSpec {
        let middle = OffsetSpec {
            from: From::Centre,
            distance: 0.0,
            to: To::Centre,
            edge: EdgeOf::Panel,
            told: false,
        };
        PlaceSpec { at, on: on.into(), x: middle, y: middle, beside: None, about: None, turn: 0.0 }
    }
}

/// Where a place is told: the field, and for a folded panel's own words its frame.
pub struct Spot {
    pub field: Bounds,
    /// The outer faces round the panel: least and greatest x and y of the place's own words. None on the
    /// whole flat.
    outside: Option<[(f64, f64); 2]>,
    /// The hole that it lies beside: its box and its middle.
    other: Option<(Bounds, DVec2)>,
    /// The middle that it has.
    middle: Option<DVec2>,
    /// A folded panel's frame: origin on its tangent line, x to the right, y to the tip.
    own: Option<Own>,
}

struct Own {
    origin: DVec2,
    right: DVec2,
    x: (f64, f64),
    y: (f64, f64),
    /// From the outside of its bend to its tangent line.
    setback: f64,
}

/// A shape set in its place.
pub struct Set {
    pub contour: Contour,
    pub centre: DVec2,
    /// The rectangle it was placed in.
    pub field: Bounds,
}

impl PlaceSpec {
    /// The field of the place, on what stands.
    pub fn spot(&self, tell: &mut Tell, standing: &Standing) -> Option<Spot> {
        let (path, blank) = (self.at, standing.blank);
        let other = match &self.beside {
            Some(b) => Some(self.other(tell, b, standing)?),
            None => None,
        };
        let middle = match &self.about {
            Some(of) => Some(self.middle_of(tell, of, standing)?),
            None => None,
        };
        let field = field(tell, &format!("{path}/on"), &self.on, blank)?;
        let panel = blank.zones.iter().position(|z| z.name == self.on && z.is_panel());
        if !self.x.from.is_own() && !self.y.from.is_own() {
            let far = |d: DVec2| panel.map(|k| outside(blank, k, d));
            let spread = |d: DVec2| Some((-far(-d)?, far(d)?));
            let outside = spread(DVec2::X).zip(spread(DVec2::Y)).map(|(x, y)| [x, y]);
            return Some(Spot { field, outside, other, middle, own: None });
        }
        let mixed = |f: From| !f.is_own() && f != From::Centre;
        if mixed(self.x.from) || mixed(self.y.from) {
            let which = if mixed(self.x.from) { "x" } else { "y" };
            tell.refuse_at(
                &format!("{path}/{which}/from"),
                "one distance is told by the panel's own ends, the other by the compass",
                "tell both the same way",
            );
            return None;
        }
        let zone = blank.zones.iter().find(|z| z.name == self.on);
        let Some((zone, parent)) = zone.and_then(|z| Some((z, z.parent?))) else {
            tell.refuse_at(
                &format!("{path}/x/from"),
                "only a folded panel has a left, a right, a fold and a tip",
                "use west, east, south and north, or name a folded panel",
            );
            return None;
        };
        let [y, across] = zone.extent();
        let setback = blank.bends.iter().find(|b| b.zone == parent).map_or(0.0, |b| b.ossb);
        let own = Own { origin: zone.origin, right: zone.right(), x: (-across.1, -across.0), y, setback };
        let outside = panel.map(|k| {
            let far = |d: DVec2| outside(blank, k, d);
            let spread = |d: DVec2| (-far(-d) - own.origin.dot(d), far(d) - own.origin.dot(d));
            [spread(own.right), spread(zone.along)]
        });
        if self.beside.is_some() {
            tell.refuse_at(
                &format!("{path}/beside/of"),
                "a place beside a hole is told by the compass, not by the panel's own ends",
                "tell the other distance from west, east, south or north",
            );
            return None;
        }
        Some(Spot { field, outside, other, middle, own: Some(own) })
    }

    /// The hole that a place is told from, among those that stand above.
    fn other(&self, tell: &mut Tell, b: &BesideSpec, standing: &Standing) -> Option<(Bounds, DVec2)> {
        let (along, said) = match b.way {
            BesideWay::East | BesideWay::West => (&self.x, "x"),
            BesideWay::North | BesideWay::South => (&self.y, "y"),
        };
        if along.told {
            tell.refuse_at(
                &format!("{}/{said}/distance", self.at),
                "this distance is told twice: from an edge, and beside a hole",
                "leave one of the two out",
            );
            return None;
        }
        let mut all = standing.above.iter().flat_map(|(_, made)| made);
        let named = standing.above.iter().find(|m| m.0 == b.of).and_then(|m| m.1.first());
        let Some(f) = named.or_else(|| all.find(|f| f.name == b.of)) else {
            let known: Vec<&str> =
                standing.above.iter().filter(|m| !m.1.is_empty()).map(|m| m.0.as_str()).take(12).collect();
            let mend = if known.is_empty() {
                "make the other hole in a line above this one".to_string()
            } else {
                format!("pick one of {}", known.join(", "))
            };
            tell.refuse_at(
                &format!("{}/beside/of", self.at),
                format!("no hole above is called '{}'", b.of),
                mend,
            );
            return None;
        };
        Some((f.contour.bounds(), f.centre))
    }

    /// The middle of a curved side of the outline, or of a hole above.
    fn middle_of(&self, tell: &mut Tell, of: &str, standing: &Standing) -> Option<DVec2> {
        let at = format!("{}/about", self.at);
        if self.x.told || self.y.told || self.beside.is_some() {
            tell.refuse_at(
                &at,
                "its place is told twice: by a middle, and by distances",
                "leave one of the two out",
            );
            return None;
        }
        let blank = standing.blank;
        let named =
            |i: &usize| blank.tags.get(blank.outer.vertices[*i].tag as usize).is_some_and(|t| t == of);
        let mut sides = (0..blank.outer.vertices.len()).filter(named);
        let arc = sides.find_map(|i| blank.outer.segment(i).arc()).map(|a| a.centre);
        let line = standing.above.iter().find(|m| m.0 == of).and_then(|m| m.1.first());
        let mut all = standing.above.iter().flat_map(|(_, made)| made);
        let middle = arc.or_else(|| line.or_else(|| all.find(|f| f.name == of)).map(|f| f.centre));
        if middle.is_none() {
            tell.refuse_at(
                &at,
                format!("neither a curved side nor a hole above is called '{of}'"),
                "name an arc of the outline, or a hole of a line above this one",
            );
        }
        middle
    }

    /// A shape, told about its own middle, set where the place is.
    pub fn set(&self, tell: &mut Tell, shape: &Contour, spot: &Spot) -> Option<Set> {
        let shape = shape.moved(self.turn, DVec2::ZERO);
        let b = shape.bounds();
        let (xs, ys) = ((b.min.x, b.max.x), (b.min.y, b.max.y));
        let (x_path, y_path) = (format!("{}/x", self.at), format!("{}/y", self.at));
        let beyond = |k: usize| spot.outside.map(|o| o[k]);
        let Some(own) = &spot.own else {
            let f = &spot.field;
            let x = edges(tell, &x_path, &self.x, (f.min.x, f.max.x), beyond(0))?;
            let y = edges(tell, &y_path, &self.y, (f.min.y, f.max.y), beyond(1))?;
            let x = along(tell, &x_path, &self.x, [From::West, From::East], xs, x, "east and west");
            let y = along(tell, &y_path, &self.y, [From::South, From::North], ys, y, "south and north");
            let mut centre = DVec2::new(x?, y?);
            if let (Some(beside), Some(other)) = (&self.beside, spot.other) {
                centre = beside.centre(centre, [self.x.told, self.y.told], &b, other);
            }
            let centre = spot.middle.unwrap_or(centre);
            return Some(Set { contour: shape.moved(0.0, centre), centre, field: *f });
        };
        let across = edges(tell, &x_path, &self.x, own.x, beyond(0))?;
        let up = edges(tell, &y_path, &self.y, own.y, beyond(1))?;
        let x = along(tell, &x_path, &self.x, [From::Left, From::Right], xs, across, "left and right");
        let known = "fold, outside and tip";
        let y = if self.y.from == From::Outside {
            let from_fold = OffsetSpec { from: From::Fold, ..self.y };
            along(tell, &y_path, &from_fold, [From::Fold, From::Tip], ys, own.y, known)
                .map(|y| y - own.setback)
        } else {
            along(tell, &y_path, &self.y, [From::Fold, From::Tip], ys, up, known)
        };
        let told = own.origin + own.right.rotate(DVec2::new(x?, y?));
        let centre = spot.middle.unwrap_or(told);
        Some(Set { contour: shape.moved(own.right.to_angle(), centre), centre, field: spot.field })
    }
}

impl BesideSpec {
    /// Where the middle lies: along the way by the distance, across it in line with the other hole unless
    /// that is told. `own` is the box of the shape about its middle.
    fn centre(
        &self,
        told: DVec2,
        is_told: [bool; 2],
        own: &Bounds,
        (hole, middle): (Bounds, DVec2),
    ) -> DVec2 {
        let gap = self.by == BesideBy::Gap;
        let k = usize::from(matches!(self.way, BesideWay::North | BesideWay::South));
        let ahead = matches!(self.way, BesideWay::East | BesideWay::North);
        let mut out = middle;
        if is_told[1 - k] {
            out[1 - k] = told[1 - k];
        }
        out[k] = match (gap, ahead) {
            (false, true) => middle[k] + self.distance,
            (false, false) => middle[k] - self.distance,
            (true, true) => hole.max[k] + self.distance - own.min[k],
            (true, false) => hole.min[k] - self.distance - own.max[k],
        };
        out
    }
}

/// The outer faces round a panel, in the flat: least x and y, greatest x and y; none of what is no panel.
pub fn outside_box(blank: &Blank, zone: usize) -> Option<[f64; 4]> {
    let far = |d: DVec2| outside(blank, zone, d);
    blank.zones[zone].is_panel().then(|| [-far(-DVec2::X), -far(-DVec2::Y), far(DVec2::X), far(DVec2::Y)])
}

/// How far the outer face reaches in a direction of the flat, beside a panel: of the fold on that edge, of
/// the bend that the panel hangs on, or of the wall that closes the corner there; where nothing is bent, the
/// end of the panel's metal.
fn outside(blank: &Blank, panel: usize, d: DVec2) -> f64 {
    let far = |k: usize| blank.zones[k].region.iter().map(|p| p.dot(d)).fold(f64::NEG_INFINITY, f64::max);
    let bend_of = |zone: usize| blank.bends.iter().find(|b| b.zone == zone && !b.rolled);
    let along = |k: usize| blank.zones[k].along.dot(d) > 1.0 - ROUNDING;
    // The folds on this edge of a panel; the one that stands furthest out counts.
    let folded = |k: usize| {
        let on = blank
            .bends
            .iter()
            .filter(|b| !b.rolled && blank.zones[b.zone].parent == Some(k) && along(b.zone));
        on.map(|b| blank.zones[b.zone].origin.dot(d) + b.ossb).reduce(f64::max)
    };
    let zone = &blank.zones[panel];
    if let Some(out) = folded(panel) {
        return out;
    }
    let Some(hangs) = zone.parent.and_then(bend_of) else { return far(panel) };
    if zone.along.dot(d) < -1.0 + ROUNDING {
        return zone.origin.dot(d) + hangs.ossb;
    }
    let square = zone.along.dot(d).abs() < ROUNDING;
    blank.zones[hangs.zone].parent.filter(|_| square).and_then(folded).unwrap_or_else(|| far(panel))
}

/// The two edges that a distance may be told from: the panel's own, or the outer faces where those are meant.
fn edges(
    tell: &mut Tell,
    path: &str,
    o: &OffsetSpec,
    panel: (f64, f64),
    outside: Option<(f64, f64)>,
) -> Option<(f64, f64)> {
    if o.edge == EdgeOf::Panel || matches!(o.from, From::Centre | From::Outside) {
        return Some(panel);
    }
    if outside.is_none() {
        tell.refuse_at(
            &format!("{path}/edge"),
            "the whole flat has no outer faces to measure from",
            "name the panel that the shape lies on, or tell the flat's edge",
        );
    }
    outside
}

/// The rectangle that places are told in.
pub fn field(tell: &mut Tell, path: &str, on: &str, blank: &Blank) -> Option<Bounds> {
    if on == "flat" {
        return Some(blank.outer.bounds());
    }
    match blank.zones.iter().find(|z| z.name == on && (z.is_panel() || blank.is_shell(z))) {
        Some(z) => Some(Bounds { min: z.min, max: z.max }),
        None => {
            let known: Vec<&str> = blank
                .zones
                .iter()
                .filter(|z| z.is_panel() || blank.is_shell(z))
                .map(|z| z.name.as_str())
                .take(12)
                .collect();
            let mend = if known.is_empty() {
                "pick flat".to_string()
            } else {
                format!("pick flat, or one of {}", known.join(", "))
            };
            tell.refuse_at(path, format!("no panel is called '{on}'"), mend);
            None
        }
    }
}

fn along(
    tell: &mut Tell,
    path: &str,
    o: &OffsetSpec,
    [low, high]: [From; 2],
    shape: (f64, f64),
    field: (f64, f64),
    known: &str,
) -> Option<f64> {
    let distance = o.distance;
    let side = o.to == To::Side;
    Some(match o.from {
        From::Centre => (field.0 + field.1) / 2.0 + distance,
        f if f == low => field.0 + distance - if side { shape.0 } else { 0.0 },
        f if f == high => field.1 - distance - if side { shape.1 } else { 0.0 },
        _ => {
            tell.refuse_at(
                &format!("{path}/from"),
                "this edge runs the other way",
                format!("pick the middle, {known}"),
            );
            return None;
        }
    })
}

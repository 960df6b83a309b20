//! Rails half-lapped into a row of ribs: a strip on edge along the row, slotted from its inner edge where a
//! rib crosses it, and the slots of the ribs from the side that it lies in.

use std::sync::Arc;

use glam::DVec2;
use ground::geom::{Bounds, COINCIDENT, Contour, Cut, cut_out, in_material};
use sheet::choices::Compass;
use shop::Material;

use super::plates::Cutting;
use super::ribs::{RibRow, RibShape, is_clear};

/// A rail as told, in the plane of the profile.
#[derive(Clone, Debug)]
pub struct Rail {
    /// Across the row: how deep the strip stands, and its thickness.
    pub depth: f64,
    pub thickness: f64,
    /// That it lies in.
    pub side: Compass,
    /// Its middle along that side.
    pub middle: f64,
    /// By how much its outer edge stands out of the profile there.
    pub proud: f64,
    /// By how much slots are wider than what stands in them.
    pub fit: f64,
    pub overhang: f64,
    /// How deep the rail itself is slotted, the ribs by the rest of what laps; half of it where none is told.
    pub slot: Option<f64>,
    /// That of the ribs where none is told.
    pub material: Option<Arc<Material>>,
}

/// A rail of a row.
#[derive(Clone, Debug)]
pub struct RowRail {
    pub line: String,
    pub cutting: Cutting,
    /// In the plane of the profile.
    pub place: Bounds,
    pub length: f64,
    pub depth: f64,
    pub thickness: f64,
    /// How deep it is slotted, where that is told.
    pub slot: Option<f64>,
}

/// Why a rail cannot be let in.
pub enum NoRail {
    /// The profile has nothing on its way.
    Beside,
    /// It stands out by all its depth, or further.
    Above,
    /// All that laps is no deeper than this, and slotted so far it would leave the ribs whole.
    Deep(f64),
    /// Its slots would leave nothing between them.
    Slots,
    /// The rail of another line is in its way.
    Meets(String),
    /// A rib, from 1: too low for the rail, cut apart by the slot, or with a hole in its way.
    Low(usize),
    Parted(usize),
    Hole(usize),
}

impl Rail {
    /// How far out a rib reaches over the rail's middle.
    fn level(&self, rib: &RibShape) -> Option<f64> {
        let b = rib.outer.bounds();
        let far = b.min.abs().max(b.max.abs()).length() + 1.0;
        let [from, to] = [-far, far].map(|out| self.point(self.middle, out));
        in_material(from, to, &rib.outer, std::iter::empty()).last().map(|part| part[1].dot(self.out()))
    }

    fn out(&self) -> DVec2 {
        self.side.out()
    }

    /// Along the side: to the east or to the north.
    pub fn across(&self) -> DVec2 {
        self.out().perp().abs()
    }

    fn point(&self, across: f64, out: f64) -> DVec2 {
        self.across() * across + self.out() * out
    }

    /// Lets the rail into every rib of a row and cuts it.
    pub fn let_into(&self, row: &mut RibRow, line: &str) -> Result<RowRail, NoRail> {
        let (h, t) = (self.depth, row.thickness);
        let level = self.level(&row.ribs[0]).ok_or(NoRail::Beside)?;
        let lapped = h - self.proud;
        if lapped < COINCIDENT {
            return Err(NoRail::Above);
        }
        if row.ribs.len() > 1 && row.gap() - self.fit < COINCIDENT {
            return Err(NoRail::Slots);
        }
        // Sunk all of it laps.
        let lapped = lapped.min(h);
        let (outer, deep) = (level + self.proud, self.slot.unwrap_or(lapped / 2.0));
        if deep > lapped - COINCIDENT {
            return Err(NoRail::Deep(lapped));
        }
        let inner = outer - h;
        // Where the slots of rail and ribs meet.
        let meet = inner + deep;
        let half = (self.thickness + self.fit) / 2.0;
        let corners = [(-half, inner), (half, outer)];
        let place = Bounds::of(corners.map(|(x, y)| self.point(self.middle + x, y)));
        if let Some(other) = row.rails.iter().find(|r| r.place.near(&place, 0.0)) {
            return Err(NoRail::Meets(other.line.clone()));
        }
        let mut ribs: Vec<RibShape> = Vec::with_capacity(row.ribs.len());
        for (k, rib) in row.ribs.iter().enumerate() {
            ground::halt::point();
            if let Some(before) = k.checked_sub(1).filter(|b| row.ribs[*b] == *rib) {
                ribs.push(ribs[before].clone());
                continue;
            }
            if self.level(rib).is_none_or(|l| l < meet + COINCIDENT) {
                return Err(NoRail::Low(k + 1));
            }
            let b = rib.outer.bounds();
            let top = b.min.dot(self.out()).max(b.max.dot(self.out())).max(outer) + 1.0;
            let down_to = |low: f64| {
                let corners = [(-half, low), (half, low), (half, top), (-half, top)];
                Contour::polygon(corners.map(|(x, y)| self.point(self.middle + x, y)), 0).outward()
            };
            if !is_clear(rib, &row.through, &down_to(inner)) {
                return Err(NoRail::Hole(k + 1));
            }
            let slot = down_to(meet);
            let cut = cut_out(rib.outer.clone(), &[Cut { contour: slot, source: 0 }]);
            let is_whole = cut.dropped.is_empty() && cut.holes.is_empty() && !cut.nothing_left;
            if !is_whole {
                return Err(NoRail::Parted(k + 1));
            }
            ribs.push(RibShape { outer: cut.outer, holes: rib.holes.clone() });
        }
        let length = row.over() + 2.0 * self.overhang;
        let mut edge = vec![DVec2::ZERO];
        let slots = if deep > COINCIDENT { row.ribs.len() } else { 0 };
        for k in 0..slots {
            let near = self.overhang + row.pitch * k as f64 - self.fit / 2.0;
            let (a, b) = (near.max(0.0), (near + t + self.fit).min(length));
            edge.extend([(a, 0.0), (a, deep), (b, deep), (b, 0.0)].map(|(x, y)| DVec2::new(x, y)));
        }
        edge.push(DVec2::new(length, 0.0));
        // A slot at an end is open there.
        edge.dedup_by(|a, b| a.distance(*b) < COINCIDENT);
        let mut ring = edge;
        if let [a, b, ..] = ring[..]
            && a.x < COINCIDENT
            && b.x < COINCIDENT
        {
            ring.remove(0);
        }
        if let [.., a, b] = ring[..]
            && a.x > length - COINCIDENT
            && b.x > length - COINCIDENT
        {
            ring.pop();
        }
        ring.extend([DVec2::new(length, h), DVec2::new(0.0, h)]);
        let along = row.d;
        let up = row.x * self.out().x + row.y * self.out().y;
        let corner = row.point(self.point(self.middle, inner), -self.overhang);
        let o = corner - along.cross(up) * (self.thickness / 2.0);
        let mut cutting = Cutting::new("rail", Contour::polygon(ring, 0), self.thickness, o, along, up);
        cutting.material = Some(self.material.as_ref().unwrap_or(&row.material).clone());
        cutting.lies_long = true;
        row.ribs = ribs;
        let (line, thickness, slot) = (line.into(), self.thickness, self.slot);
        Ok(RowRail { line, cutting, place, length, depth: h, thickness, slot })
    }
}

//! Zones as they lie among the tools before a stroke, placed and seen along the tools. Where one lies rests
//! only on the bends between it and the one in the making: it is kept for every order that has those alike.

use std::cell::OnceCell;
use std::rc::Rc;

use glam::{DAffine3, DVec3};
use ground::geom::COINCIDENT;
use ground::geom::convex::{Prism, hull};
use rustc_hash::FxHashMap;

use super::bodies::Body;
use super::stroke::{BendSet, Side, Stroke};
use super::sweep::Shadow;

/// As many zones are kept: some tens of megabytes at most.
const MOST_KEPT: usize = 8_000;

/// A stroke, a zone, and which of the bends between them are made.
pub type Place = (u32, u32, BendSet);

#[derive(Default)]
pub struct Kept {
    zones: FxHashMap<Place, Rc<Lying>>,
}

impl Kept {
    pub fn zone(&self, at: &Place) -> Option<Rc<Lying>> {
        self.zones.get(at).cloned()
    }

    pub fn keep(&mut self, at: Place, zone: Rc<Lying>) {
        if self.zones.len() >= MOST_KEPT {
            self.zones.clear();
        }
        self.zones.insert(at, zone);
    }
}

/// The outermost corners of a zone's bodies, in the frame of its neighbourhood: lying flat, and as formed
/// where that differs.
pub struct Outline {
    flat: Vec<DVec3>,
    bent: Option<Vec<DVec3>>,
}

impl Outline {
    pub fn of(bodies: &[&Body]) -> Outline {
        let all = |formed: bool| bodies.iter().flat_map(move |b| &b.as_it_is(formed).corners).copied();
        let faces = hull(all(false).map(|p| p.truncate()).collect());
        let heights = all(false).map(|p| p.z).fold([0.0f64; 2], |[l, h], z| [l.min(z), h.max(z)]);
        let flat = heights.iter().flat_map(|z| faces.iter().map(|p| p.extend(*z))).collect();
        let bent = bodies.iter().any(|b| b.bends()).then(|| {
            // Slices share their corners.
            let mut corners: Vec<DVec3> = all(true).collect();
            let in_order = |a: &DVec3, b: &DVec3| {
                a.x.total_cmp(&b.x).then(a.y.total_cmp(&b.y)).then(a.z.total_cmp(&b.z))
            };
            corners.sort_unstable_by(in_order);
            corners.dedup();
            corners
        });
        Outline { flat, bent }
    }
}

/// One zone before a stroke.
pub struct Lying {
    pub whole: Shadow,
    /// Flat on the die, as the leg of the bend.
    pub level: bool,
    side: Side,
    place: DAffine3,
    formed: bool,
    /// Its bodies, and how they are seen along the tools, once they are looked at.
    bodies: OnceCell<Vec<(Prism, OnceCell<Shadow>)>>,
}

impl Lying {
    pub fn new(outline: &Outline, place: DAffine3, formed: bool, s: &Stroke, side: Side) -> Lying {
        let corners = outline.bent.as_ref().filter(|_| formed).unwrap_or(&outline.flat);
        let placed: Vec<DVec3> = corners.iter().map(|p| place.transform_point3(*p)).collect();
        let on_die = |z: f64| z < COINCIDENT && z > -s.t - COINCIDENT;
        Lying {
            level: placed.iter().all(|p| on_die(p.z)),
            whole: Shadow::of(&placed, s, side),
            side,
            place,
            formed,
            bodies: OnceCell::new(),
        }
    }

    pub fn each<'a>(
        &'a self,
        s: &'a Stroke,
        bodies: &'a [&'a Body],
    ) -> impl Iterator<Item = (&'a Prism, &'a Shadow)> {
        let lay = |b: &&Body| (placed(b, &self.place, self.formed), OnceCell::new());
        let all = self.bodies.get_or_init(|| bodies.iter().map(lay).collect());
        all.iter()
            .map(|(body, shadow)| (body, shadow.get_or_init(|| Shadow::of(&body.corners, s, self.side))))
    }
}

/// A body as its zone is formed, in its place.
pub fn placed(body: &Body, place: &DAffine3, formed: bool) -> Prism {
    body.as_it_is(formed).mapped(|p| place.transform_point3(p))
}

//! A frame as it can be measured.

use std::cell::OnceCell;
use std::sync::Arc;

use frame::FrameResult;
use glam::DVec3;

use super::{Model, Probe, Thing, ThingKind};

impl Model {
    pub fn of_frame(r: &Arc<FrameResult>) -> Option<Model> {
        if !r.made {
            return None;
        }
        let mut things: Vec<Thing> = Vec::new();
        for n in &r.nodes {
            let words = format!("node {}", n.name);
            things.push(Thing::new(&n.name, words, ThingKind::Node, Probe::Point(n.at)));
        }
        for (m, f) in r.members.iter().zip(&r.facts) {
            ground::halt::often();
            let (a, b) = (r.nodes[m.from].at, r.nodes[m.to].at);
            let probe = match (b - a).try_normalize() {
                Some(dir) if m.is_straight() => Probe::Axis { at: (a + b) / 2.0, dir, radius: None },
                _ => Probe::Point((a + b) / 2.0),
            };
            let words = format!("member {}", m.name);
            let thing = Thing::new(&m.name, words, ThingKind::Member, probe);
            things.push(Thing { length: Some(f.lengths.long), ..thing });
        }
        for place in r.plates.iter().flat_map(|p| p.places.iter().map(move |q| (p, q))) {
            let (p, q) = place;
            let middle = p.piece.flat.outer.bounds().centre();
            let probe = Probe::Plate {
                at: q.o + q.x * middle.x + q.y * middle.y,
                normal: q.z,
                thick: p.piece.thickness,
            };
            things.push(Thing::new(&q.name, format!("plate {}", q.name), ThingKind::Panel, probe));
        }
        let of = Arc::clone(r);
        let reach = move || frame::extent(&of).unwrap_or((DVec3::ZERO, DVec3::ZERO));
        Some(Model {
            things,
            flat: None,
            thickness: None,
            mass: r.mass(),
            quantity: r.quantity,
            plates: r.plates.iter().map(|p| p.places.len()).sum(),
            reach: Box::new(reach),
            extent: OnceCell::new(),
        })
    }
}

//! What of a piece or frame can be measured: each thing with its name and where it stands in space.

mod frame;
mod piece;

use std::cell::OnceCell;

use glam::DVec3;
use ground::reference::Reference;
use sheet::Bore;

/// What a thing is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum ThingKind {
    Hole,
    /// A straight edge of the outline.
    Edge,
    /// A curved one, or a rounded corner.
    Arc,
    Panel,
    Bend,
    Corner,
    /// The outermost plane of the whole on one side.
    Side,
    Node,
    Member,
}

/// Where a thing stands, mm; directions are unit vectors.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Probe {
    Point(DVec3),
    /// A hole's axis through its middle; the radius of a round one.
    Axis {
        at: DVec3,
        dir: DVec3,
        radius: Option<f64>,
    },
    /// A flat face.
    Plane {
        at: DVec3,
        normal: DVec3,
    },
    /// A plate between two faces: `at` on the one, the other `thick` along the normal.
    Plate {
        at: DVec3,
        normal: DVec3,
        thick: f64,
    },
}

/// A thing of the model that a figure can be of.
#[derive(Clone, Debug, PartialEq)]
pub struct Thing {
    pub name: String,
    /// As it is read out.
    pub said: String,
    pub kind: ThingKind,
    pub probe: Probe,
    /// Length of an edge or member, mm.
    pub length: Option<f64>,
    /// Inside radius of a bend, radius of a round hole or of a curved edge, mm.
    pub radius: Option<f64>,
    /// Of a bend.
    pub bent: Option<Bent>,
    /// Of a drilled hole.
    pub bore: Option<Box<Bore>>,
}

/// How a bend is bent.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Bent {
    /// Swept, rad.
    pub angle: f64,
    pub up: bool,
    /// The shorter of the panels beside it, mm.
    pub shorter: f64,
}

impl Thing {
    fn new(name: &str, said: String, kind: ThingKind, probe: Probe) -> Thing {
        Thing { name: name.into(), said, kind, probe, length: None, radius: None, bent: None, bore: None }
    }
}

/// The six sides, as they may be called.
pub const SIDES: [(&str, &str); 6] = [
    ("west", "west|left"),
    ("east", "east|right"),
    ("south", "south|front"),
    ("north", "north|back"),
    ("bottom", "bottom|underside"),
    ("top", "top"),
];

/// A piece or frame, as it can be measured.
pub struct Model {
    pub things: Vec<Thing>,
    /// Of a piece: extents of its flat, and its thickness, mm.
    pub flat: Option<[f64; 2]>,
    pub thickness: Option<f64>,
    /// kg.
    pub mass: f64,
    /// How many of it the job makes.
    pub quantity: usize,
    pub plates: usize,
    /// The least and the greatest east, north and up, worked out where it is asked for.
    reach: Box<dyn Fn() -> (DVec3, DVec3)>,
    extent: OnceCell<(DVec3, DVec3)>,
}

impl Model {
    /// The least and the greatest east, north and up that it reaches, mm.
    pub fn extent(&self) -> (DVec3, DVec3) {
        *self.extent.get_or_init(|| (self.reach)())
    }

    fn side(&self, name: &str) -> Option<Thing> {
        let k = SIDES.iter().position(|s| s.1.split('|').any(|w| w.eq_ignore_ascii_case(name)))?;
        let dir = [DVec3::X, DVec3::Y, DVec3::Z][k / 2];
        let (low, high) = self.extent();
        let at = if k % 2 == 1 { high } else { low };
        let probe = Probe::Plane { at, normal: if k % 2 == 1 { dir } else { -dir } };
        Some(Thing::new(SIDES[k].0, format!("{} side", SIDES[k].0), ThingKind::Side, probe))
    }

    /// The thing of this name. A side is its outermost plane; a name's last part will do where only one thing
    /// can be meant.
    pub fn thing(&self, name: &str) -> Result<Thing, String> {
        if let Some(t) = self.things.iter().find(|t| t.name == name) {
            return Ok(t.clone());
        }
        if let Some(side) = self.side(name) {
            return Ok(side);
        }
        let ends = |t: &&Thing| t.name.strip_suffix(name).is_some_and(|head| head.ends_with('.'));
        let found: Vec<&Thing> = self.things.iter().filter(ends).collect();
        let own: Vec<&Thing> =
            self.things.iter().filter(|t| Reference::parse(&t.name).line == name).collect();
        match found.as_slice() {
            [one] => Ok((*one).clone()),
            // A line that makes one hole is called for it.
            [] => match own.as_slice() {
                [one] => Ok((*one).clone()),
                [] => Err(format!("the model has nothing called '{name}'")),
                [a, .., b] => Err(format!("'{name}' makes several, from {} to {}", a.name, b.name)),
            },
            [a, b, ..] => Err(format!("'{name}' may be {} or {}", a.name, b.name)),
        }
    }

    /// A hole and all copies of it, or all holes of a line.
    pub fn family(&self, name: &str) -> Vec<&Thing> {
        let of = |t: &&Thing| {
            let r = Reference::parse(&t.name);
            t.kind == ThingKind::Hole
                && (t.name == name || r.line == name || r.part.split('.').any(|p| p == name))
        };
        self.things.iter().filter(of).collect()
    }

    pub fn of_kind(&self, kind: ThingKind) -> impl Iterator<Item = &Thing> {
        self.things.iter().filter(move |t| t.kind == kind)
    }
}

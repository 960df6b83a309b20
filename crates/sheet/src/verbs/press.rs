//! `louvre`, `dimple`, `collar`: shapes that are pressed. The blank keeps its size.

use glam::DVec2;
use grammar::*;
use ground::geom::Contour;
use ground::quantity::Display;
use ground::reader::{Range, Reader};
use ground::reference;

use super::bending::UP_DOWN;
use super::place::{PLACE, Place};
use crate::choices::Direction;
use crate::flat::feature::Feature;
use crate::flat::place::PlaceSpec;
use crate::flat::pressed::Pressed;
use crate::flat::shape::upright;
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "press",
    stem: "press",
    about: "Presses a louvre, a dimple or a collared hole.",
    role: Role::Cut,
    starts: &[Start {
        key: 'u',
        name: "louvre",
        mm: "louvre 50 x 12, 5 high",
        inch: "louvre 2 x 1/2, 3/16 high",
    }],
    offers: &[
        Offer {
            on: "panel",
            words: "Press a louvre here",
            mm: "louvre 50 x 12, 5 high $place",
            inch: "louvre 2 x 1/2, 3/16 high $place",
        },
        Offer {
            on: "panel",
            words: "Press a dimple here",
            mm: "dimple ⌀12, 2 deep $place",
            inch: "dimple ⌀1/2, 1/16 deep $place",
        },
        Offer {
            on: "panel",
            words: "Draw a collared hole here",
            mm: "collar ⌀20, 5 high $place",
            inch: "collar ⌀1, 1/4 high $place",
        },
    ],
    sentence: &[
        beginning(
            "/shape",
            "kind",
            "what is pressed",
            &[
                case(
                    "louvre",
                    "Press a louvre|louvre",
                    &[
                        length("/length", "length"),
                        times(),
                        length("/width", "width"),
                        sign(","),
                        heard("high"),
                        length("/height", "height"),
                        printed("high"),
                    ],
                    ["50 x 12, 5 high", "2 x 1/2, 3/16 high"],
                ),
                case(
                    "dimple",
                    "Press a dimple|dimple",
                    &[
                        diameter("/diameter", "diameter"),
                        sign(","),
                        heard("deep"),
                        length("/depth", "depth"),
                        printed("deep"),
                    ],
                    ["12, 2 deep", "1/2, 1/16 deep"],
                ),
                case(
                    "collar",
                    "Draw a collared hole|collar",
                    &[
                        diameter("/diameter", "diameter"),
                        sign(","),
                        heard("high"),
                        length("/height", "height"),
                        printed("high"),
                    ],
                    ["20, 5 high", "1, 1/4 high"],
                ),
            ],
        ),
        quiet("/direction", "side", UP_DOWN),
        Part::Within("/place", PLACE),
    ],
    examples: &[
        "louvre 60 x 12, 5 high on west, 30 from left, 25 from tip",
        "dimple ⌀12, 2 deep down, 30 from west",
        "collar ⌀20, 5 high",
    ],
};

choice! {
    /// A shape that is pressed, not cut to size.
    pub enum PressShape by "kind" {
        /// Lanced along one long side and raised there; `width` across. The opening lies south before it is
        /// turned.
        Louvre { length: String, width: String, height: String },
        Dimple {
            #[serde(default)]
            diameter: String,
            #[serde(default)]
            depth: String,
        },
        /// A collar drawn from a pilot hole; `diameter` inside the collar.
        Collar { diameter: String, height: String },
    }
}

impl Default for PressShape {
    fn default() -> Self {
        PressShape::Dimple { diameter: String::new(), depth: String::new() }
    }
}

spoken! {
    /// Presses a louvre, a dimple or a collared hole.
    pub struct Press {
        pub shape: PressShape,
        pub place: Place,
        pub direction: Direction,
    }
}

struct PressSpec {
    shape: Pressed,
    /// About its own middle.
    footprint: Contour,
    /// The smallest width of the footprint.
    least: f64,
    place: PlaceSpec,
}

impl Spoken for Press {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let up = self.direction == Direction::Up;
        let shape = self.shape.read(reader, stock.t, up);
        let place = self.place.read(reader, "/say/place");
        let (footprint, least, shape) = shape?;
        Some(Spec::Cuts(Box::new(PressSpec { shape, footprint, least, place: place? })))
    }
}

impl PressShape {
    /// Its footprint, the smallest width of that, and what is pressed.
    fn read(&self, reader: &mut Reader, t: f64, up: bool) -> Option<(Contour, f64, Pressed)> {
        let mut size =
            |field: &str, text: &str| reader.length(&format!("/say/shape/{field}"), text, Range::AboveZero);
        let round = |diameter: f64| Contour::circle(DVec2::ZERO, diameter / 2.0, 0);
        match self {
            PressShape::Louvre { length, width, height } => {
                let (length, width, height) =
                    (size("length", length), size("width", width), size("height", height));
                let (length, width, height) = (length?, width?, height?);
                if height >= width {
                    reader.refuse_at(
                        "/say/shape/height",
                        "a louvre stands out less than it is wide",
                        "write a smaller height, or a wider louvre",
                    );
                    return None;
                }
                Some((upright(length, width), width, Pressed::Louvre { length, width, height, up }))
            }
            PressShape::Dimple { diameter, depth } => {
                let (diameter, depth) = (size("diameter", diameter), size("depth", depth));
                let (diameter, depth) = (diameter?, depth?);
                if depth >= diameter / 2.0 {
                    reader.refuse_at(
                        "/say/shape/depth",
                        "a dimple is less deep than half its diameter",
                        "write a smaller depth",
                    );
                    return None;
                }
                Some((round(diameter), diameter, Pressed::Dimple { diameter, depth, up }))
            }
            PressShape::Collar { diameter, height } => {
                let (diameter, height) = (size("diameter", diameter), size("height", height));
                let (diameter, height) = (diameter?, height?);
                let outside = diameter + 2.0 * t;
                let pilot = pilot_of(reader, diameter, height, t)?;
                Some((round(outside), diameter, Pressed::Collar { diameter, height, pilot, up }))
            }
        }
    }
}

/// No pilot hole is smaller than this share of its collar: the ring would tear (common practice).
const LEAST_PILOT: f64 = 0.3;

/// The pilot hole of a collar. The ring between it and the outside rises into the collar, its wall as thick
/// as the sheet: (D² − p²)·t = (D² − d²)·h.
fn pilot_of(reader: &mut Reader, diameter: f64, height: f64, t: f64) -> Option<f64> {
    let square = |v: f64| v * v;
    let outside = square(diameter + 2.0 * t);
    let ring = outside - square(diameter);
    let squared = outside - ring * height / t;
    let least = square(LEAST_PILOT * diameter);
    if height > t && squared > least {
        return Some(squared.sqrt());
    }
    let most = reader.display.length_unit((outside - least) * t / ring);
    reader.refuse_at(
        "/say/shape/height",
        "no collar of this height can be drawn here",
        format!("write more than the thickness and less than about {most}"),
    );
    None
}

impl Cuts for PressSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let spot = self.place.spot(turn.tell, standing)?;
        let set = self.place.set(turn.tell, &self.footprint, &spot)?;
        let (at, centre, field) = (turn.at, set.centre, set.field);
        let mut out = Vec::new();
        if let Pressed::Collar { pilot, .. } = self.shape {
            let hole = Contour::circle(centre, pilot / 2.0, 0);
            out.push(Feature::cut(reference::part(at.line, "pilot"), at.index, hole, centre, pilot, field));
        }
        let footprint = Feature::set(at.line.into(), at.index, set, self.least);
        out.push(Feature { pressed: Some(self.shape.clone()), ..footprint });
        Some(out)
    }

    fn mark(&self, display: &Display, pressed: Option<&Pressed>) -> Option<String> {
        pressed.map(|p| p.mark(display))
    }
}

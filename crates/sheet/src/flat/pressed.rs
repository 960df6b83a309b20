//! Ribs, beads, louvres, dimples and collars: pressed, so the blank keeps its size; a collar takes its pilot
//! hole out.

use std::f64::consts::PI;

use glam::DVec2;

use super::blank::Blank;
use super::feature::Feature;
use super::punch::{set, spot};
use super::strip::SheetStock;
use crate::verbs::{Direction, Press, PressShape, Rib, RibEnd, RibShape};
use ground::geom::Contour;
use ground::reader::{Range, Reader};
use shop::bend::setback;

/// What is pressed; lengths in mm.
#[derive(Clone, Debug, PartialEq)]
pub enum Pressed {
    /// Across a bend: name of the bend's zone, depth along each leg from the inside sharp.
    Rib {
        bend: String,
        flat: bool,
        depth: f64,
        width: f64,
        draft: f64,
        inner: f64,
        outer: f64,
    },
    Bead {
        flat: bool,
        depth: f64,
        width: f64,
        length: f64,
        up: bool,
    },
    Louvre {
        length: f64,
        width: f64,
        height: f64,
        up: bool,
    },
    Dimple {
        diameter: f64,
        depth: f64,
        up: bool,
    },
    /// `pilot` is the hole cut for it.
    Collar {
        diameter: f64,
        height: f64,
        pilot: f64,
        up: bool,
    },
}

impl Pressed {
    /// The side it stands out on; a rib stands into the bend.
    pub fn up(&self) -> Option<bool> {
        match self {
            Pressed::Rib { .. } => None,
            Pressed::Bead { up, .. }
            | Pressed::Louvre { up, .. }
            | Pressed::Dimple { up, .. }
            | Pressed::Collar { up, .. } => Some(*up),
        }
    }

    /// What the trade calls it.
    pub fn kind(&self) -> &'static str {
        match self {
            Pressed::Rib { .. } => "rib",
            Pressed::Bead { .. } => "bead",
            Pressed::Louvre { .. } => "louvre",
            Pressed::Dimple { .. } => "dimple",
            Pressed::Collar { .. } => "collar",
        }
    }

    /// How far it stands out.
    pub fn height(&self) -> f64 {
        match self {
            Pressed::Rib { depth, .. } | Pressed::Bead { depth, .. } | Pressed::Dimple { depth, .. } => {
                *depth
            }
            Pressed::Louvre { height, .. } | Pressed::Collar { height, .. } => *height,
        }
    }
}

fn upright(w: f64, h: f64) -> Contour {
    Contour::rectangle(-DVec2::new(w, h) / 2.0, DVec2::new(w, h) / 2.0, 0).retagged(0)
}

pub fn press(
    reader: &mut Reader,
    id: &str,
    line: usize,
    say: &Press,
    blank: &Blank,
    stuff: &SheetStock,
) -> Option<Vec<Feature>> {
    let up = say.direction == Direction::Up;
    let mut size =
        |field: &str, text: &str| reader.length(&format!("/say/shape/{field}"), text, Range::AboveZero);
    let (shape, least, pressed, pilot) = match &say.shape {
        PressShape::Louvre { length, width, height } => {
            let (l, w, h) = (size("length", length), size("width", width), size("height", height));
            let (l, w, h) = (l?, w?, h?);
            if h >= w {
                reader.refuse(
                    "/say/shape/height",
                    height,
                    "a louvre stands out less than it is wide",
                    "write a smaller height, or a wider louvre",
                );
                return None;
            }
            (upright(l, w), w, Pressed::Louvre { length: l, width: w, height: h, up }, None)
        }
        PressShape::Dimple { diameter, depth } => {
            let (d, h) = (size("diameter", diameter), size("depth", depth));
            let (d, h) = (d?, h?);
            if h >= d / 2.0 {
                reader.refuse(
                    "/say/shape/depth",
                    depth,
                    "a dimple is less deep than half its diameter",
                    "write a smaller depth",
                );
                return None;
            }
            (Contour::circle(DVec2::ZERO, d / 2.0, 0), d, Pressed::Dimple { diameter: d, depth: h, up }, None)
        }
        PressShape::Collar { diameter, height } => {
            let (d, h) = (size("diameter", diameter), size("height", height));
            let (d, h) = (d?, h?);
            let outside = d + 2.0 * stuff.t;
            // The ring between pilot and outside rises into the collar, wall as thick as the sheet: (D² −
            // p²)·t = (D² − d²)·h.
            let squared = outside * outside - (outside * outside - d * d) * h / stuff.t;
            if h <= stuff.t || squared <= (0.3 * d) * (0.3 * d) {
                let most = (outside * outside - 0.09 * d * d) * stuff.t / (outside * outside - d * d);
                let most = reader.display.length_unit(most);
                reader.refuse(
                    "/say/shape/height",
                    height,
                    "no collar of this height can be drawn here",
                    format!("write more than the thickness and less than about {most}"),
                );
                return None;
            }
            let pilot = squared.sqrt();
            (
                Contour::circle(DVec2::ZERO, outside / 2.0, 0),
                d,
                Pressed::Collar { diameter: d, height: h, pilot, up },
                Some(pilot),
            )
        }
    };
    let spot = spot(reader, "/say/place", &say.place, blank)?;
    let (contour, centre, field) = set(reader, "/say/place", &say.place, &shape, &spot)?;
    let mut out = Vec::new();
    if let Some(p) = pilot {
        out.push(Feature::cut(
            format!("{id}.pilot"),
            line,
            Contour::circle(centre, p / 2.0, 0),
            centre,
            p,
            field,
        ));
    }
    out.push(Feature {
        pressed: Some(pressed),
        ..Feature::cut(id.to_string(), line, contour, centre, least, field)
    });
    Some(out)
}

/// A rib across a bend, or a bead along a panel.
pub fn rib(
    reader: &mut Reader,
    id: &str,
    line: usize,
    say: &Rib,
    blank: &Blank,
    stuff: &SheetStock,
) -> Option<Feature> {
    let depth = reader.length("/say/depth", &say.depth, Range::AboveZero);
    let width = reader.length("/say/width", &say.width, Range::AboveZero);
    let offset = reader.length("/say/offset", &say.offset, Range::ZeroUp);
    let draft = if say.draft.trim().is_empty() { Some(0.0) } else { reader.angle("/say/draft", &say.draft) };
    let mut usual = |field: &str, text: &str| {
        if text.trim().is_empty() {
            Some(stuff.t)
        } else {
            reader.length(&format!("/say/{field}"), text, Range::ZeroUp)
        }
    };
    let (inner, outer) = (usual("inner_radius", &say.inner_radius), usual("outer_radius", &say.outer_radius));
    let (depth, width, offset, draft, inner, outer) = (depth?, width?, offset?, draft?, inner?, outer?);
    if !(0.0..PI / 4.0 + 1e-9).contains(&draft) {
        reader.refuse("/say/draft", &say.draft, "a draft lies between 0° and 45°", "write a smaller angle");
        return None;
    }
    let flat = say.shape == RibShape::Flat;
    let field = blank.outer.bounds();
    if let Some(bend) = blank.bends.iter().find(|b| (b.name == say.on || b.label == say.on) && !b.rolled) {
        let zone = &blank.zones[bend.zone];
        let leg = depth - setback(bend.radius, bend.angle);
        if leg <= 0.0 {
            let least = reader.display.length_unit(setback(bend.radius, bend.angle));
            reader.refuse(
                "/say/depth",
                &say.depth,
                "the rib does not reach past the bend's own radius",
                format!("write more than {least}"),
            );
            return None;
        }
        let (low, high) = zone.span_at(bend.allowance.length / 2.0)?;
        if offset > high - low {
            reader.refuse(
                "/say/offset",
                &say.offset,
                "the rib lies beyond the end of its bend",
                "write a smaller distance",
            );
            return None;
        }
        let long = bend.allowance.length + 2.0 * leg;
        let left = zone.along.perp();
        let from_left = match say.from {
            RibEnd::Left => true,
            RibEnd::Right => false,
            compass => {
                let towards = match compass {
                    RibEnd::West => -DVec2::X,
                    RibEnd::East => DVec2::X,
                    RibEnd::South => -DVec2::Y,
                    _ => DVec2::Y,
                };
                let share = left.dot(towards);
                if share.abs() < 1e-3 {
                    let (runs, ends) = if left.x.abs() > left.y.abs() {
                        ("west to east", "west or east")
                    } else {
                        ("south to north", "south or north")
                    };
                    reader.refuse(
                        "/say/from",
                        "",
                        format!("this bend runs from {runs}"),
                        format!("pick {ends}, or left or right"),
                    );
                    return None;
                }
                share > 0.0
            }
        };
        let across = if from_left { high - offset } else { low + offset };
        let centre = zone.origin + zone.along * (bend.allowance.length / 2.0) + left * across;
        // A round rib narrows to its ends; a flat one is cut square.
        let shape = if flat || long <= width {
            upright(long, width)
        } else {
            Contour::slot(DVec2::ZERO, long, width, 0)
        };
        let pressed = Pressed::Rib { bend: bend.name.clone(), flat, depth, width, draft, inner, outer };
        return Some(Feature {
            pressed: Some(pressed),
            ..Feature::cut(
                id.to_string(),
                line,
                shape.moved(zone.along.to_angle(), centre),
                centre,
                width,
                field,
            )
        });
    }
    let Some(zone) = blank.zones.iter().find(|z| z.name == say.on && z.is_panel()) else {
        let known: Vec<&str> = blank
            .bends
            .iter()
            .map(|b| b.name.as_str())
            .chain(blank.zones.iter().filter(|z| z.is_panel()).map(|z| z.name.as_str()))
            .take(12)
            .collect();
        reader.refuse(
            "/say/on",
            &say.on,
            format!("no bend or panel is called '{}'", say.on),
            format!("pick from {}", known.join(", ")),
        );
        return None;
    };
    let length = reader.length("/say/length", &say.length, Range::AboveZero)?;
    if length <= width {
        reader.refuse(
            "/say/length",
            &say.length,
            "a bead is longer than it is wide",
            "write a greater length",
        );
        return None;
    }
    // Along the fold of a folded panel; west to east on the start.
    let folded = zone.parent.is_some();
    let (right, up) = if folded { (zone.right(), zone.along) } else { (DVec2::X, DVec2::Y) };
    let spread = |d: DVec2| {
        zone.region
            .iter()
            .map(|p| p.dot(d))
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)))
    };
    let (x, y) = (spread(right), spread(up));
    let centre = right * ((x.0 + x.1) / 2.0) + up * (y.0 + offset);
    let shape = Contour::slot(DVec2::ZERO, length, width, 0).moved(right.to_angle(), centre);
    let pressed = Pressed::Bead { flat, depth, width, length, up: say.direction == Direction::Up };
    Some(Feature {
        pressed: Some(pressed),
        ..Feature::cut(id.to_string(), line, shape, centre, width, field)
    })
}

//! The picture of a beginning: what its usual sizes make, standing, with the sizes lettered.

use drawing::{Anchor, Drawing, Item, Pen, facets};
use frame::whole;
use glam::{DMat3, DVec2, DVec3};
use grammar::TextLine;
use ground::quantity::LengthUnit;
use sheet::mesh::Solid;

use super::{Beginning, Begun, Size};
use crate::evaluate::{evaluate_frame, evaluate_piece};
use crate::job::text::{new_doc, new_job};
use crate::job::{Frame, FrameLine, Line, Piece};

const PAGE: DVec2 = DVec2::new(40.0, 30.0);
/// Left free on each side for the letters.
const ROOM: f64 = 5.0;
const LETTER: f64 = 3.0;
/// From the body to its dimension line.
const AWAY: f64 = 1.7;

/// The picture, on a small page.
pub fn picture(of: &Beginning) -> Drawing {
    let bodies: Vec<Solid> = bodies(of).into_iter().map(|b| stood(b, of.stood)).collect();
    let (low, high) = bodies.first().map_or((DVec3::ZERO, DVec3::ONE), Solid::bounds);
    let inner = PAGE - DVec2::splat(2.0 * ROOM);
    let (items, at) = facets(&stacked(bodies), inner.x, inner.y);
    let shift = DVec2::splat(ROOM);
    let mut all: Vec<Item> = items.into_iter().map(|i| i.moved(shift)).collect();
    let place = |p: [f64; 3]| at(low + (high - low) * DVec3::from(p)) + shift;
    let middle = at((low + high) / 2.0) + shift;
    all.extend(of.sizes.iter().flat_map(|s| lettered(s, place, middle)));
    Drawing { size: PAGE, title: of.name.into(), items: all }
}

/// What the usual sizes make, each standing by itself.
fn bodies(of: &Beginning) -> Vec<Solid> {
    let begun = of.lines(of.usual(LengthUnit::Mm), LengthUnit::Mm).unwrap_or_default();
    begun.iter().map(|b| if of.is_frame() { framed(b) } else { formed(b) }).collect()
}

fn formed(of: &Begun) -> Solid {
    let line = |l: &TextLine| Some(Line::new(&l.id, serde_json::from_value(l.say.clone()).ok()?));
    let lines = of.lines.iter().filter_map(line).collect();
    let piece = Piece { lines, ..new_doc("piece", LengthUnit::Mm) };
    let made = evaluate_piece(&new_job(LengthUnit::Mm), &piece);
    made.mesh().solid(&made.zones, 1.0, made.thickness)
}

fn framed(of: &Begun) -> Solid {
    let line = |l: &TextLine| Some(FrameLine::new(&l.id, serde_json::from_value(l.say.clone()).ok()?));
    let lines = of.lines.iter().filter_map(line).collect();
    let frame = Frame { lines, ..new_doc("frame", LengthUnit::Mm) };
    whole(&evaluate_frame(&new_job(LengthUnit::Mm), &frame), false)
}

/// Turned about the line north or east, by so many degrees: a cone lies on its side when it is folded.
fn stood(mut body: Solid, [north, east]: [f64; 2]) -> Solid {
    let turn = DMat3::from_rotation_y(north.to_radians()) * DMat3::from_rotation_x(east.to_radians());
    body.points.iter_mut().for_each(|p| *p = turn * *p);
    body
}

/// The first as it stands; what goes over it hangs above it, upside down.
fn stacked(bodies: Vec<Solid>) -> Solid {
    let mut all = Solid { points: Vec::new(), triangles: Vec::new() };
    let mut above = 0.0;
    for (k, body) in bodies.into_iter().enumerate() {
        let (low, high) = body.bounds();
        let base = all.points.len() as u32;
        let turn = |p: DVec3| if k == 0 { p } else { DVec3::new(p.x, -p.y, above + low.z + high.z - p.z) };
        all.points.extend(body.points.iter().map(|p| turn(*p)));
        all.triangles.extend(body.triangles.iter().map(|t| t.map(|i| i + base)));
        above = high.z + 0.35 * (high.z - low.z);
    }
    all
}

/// A size in the picture: a line with ticks beside the body and its letter, or the letter alone.
fn lettered(size: &Size, place: impl Fn([f64; 3]) -> DVec2, middle: DVec2) -> Vec<Item> {
    let (a, b) = (place(size.from), place(size.to));
    let letter = |at: DVec2| {
        let foot = at + DVec2::new(0.0, LETTER * 0.36);
        Item::text(foot, size.letter, LETTER, Anchor::Middle).bold()
    };
    if a.distance(b) < 0.05 {
        return vec![letter(a)];
    }
    let along = (b - a).normalize();
    let out = if along.perp().dot((a + b) / 2.0 - middle) < 0.0 { -along.perp() } else { along.perp() };
    let (from, to) = (a + out * AWAY, b + out * AWAY);
    let tick = (along + out) * 0.5;
    let mut items = vec![Item::line(from, to, Pen::Hair)];
    for (end, foot) in [(from, a), (to, b)] {
        items.push(Item::line(foot + out * 0.4, end + out * 0.6, Pen::Hair));
        items.push(Item::line(end - tick, end + tick, Pen::Hair));
    }
    items.push(letter((from + to) / 2.0 + out * LETTER * 0.7));
    items
}

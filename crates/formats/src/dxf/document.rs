//! What stands in a DXF: unit, layers, blocks and entities, each as it is told there. Coordinates of entities
//! that are told in a plane of their own are brought into the drawing's here.

use std::collections::HashMap;
use std::f64::consts::TAU;
use std::rc::Rc;

use glam::{DAffine2, DMat2, DVec2, DVec3};
use steelk_core::halt;

use super::groups::{Group, Groups};
use super::spline::Spline;
use super::unreadable;
use crate::drawn::DrawingError;

#[derive(Debug)]
pub enum Kind {
    Line(DVec2, DVec2),
    /// Around `centre`: `u` where the angle is nothing, `v` a quarter further; a circle where they are square
    /// and alike.
    Round {
        centre: DVec2,
        u: DVec2,
        v: DVec2,
        from: f64,
        sweep: f64,
    },
    Poly {
        vertices: Vec<(DVec2, f64)>,
        closed: bool,
    },
    Spline(Spline),
    Insert {
        block: String,
        place: DAffine2,
        columns: DVec2,
        rows: DVec2,
        many: [usize; 2],
    },
    /// Nothing to cut along.
    Other,
    /// Why it cannot be used.
    Unfit(&'static str),
}

#[derive(Debug)]
pub struct Entity {
    pub kind: Kind,
    /// As the file calls it.
    pub called: String,
    pub layer: Rc<str>,
    pub hidden: bool,
    pub paper: bool,
    /// Line of the file that it begins at.
    pub line: usize,
}

#[derive(Clone, Copy, Debug, Default)]
pub struct Layer {
    pub off: bool,
    pub frozen: bool,
}

#[derive(Debug, Default)]
pub struct Block {
    pub base: DVec2,
    pub entities: Vec<Entity>,
}

#[derive(Debug, Default)]
pub struct Document {
    /// The header's number for the unit of length; 0 says nothing.
    pub units: i64,
    /// The header's system of measures: 0 inches, 1 metric.
    pub metric: Option<bool>,
    pub layers: HashMap<String, Layer>,
    pub blocks: HashMap<String, Block>,
    pub entities: Vec<Entity>,
}

/// Names are the same in any case.
pub fn key(name: &str) -> String {
    name.trim().to_uppercase()
}

/// One item between two codes 0: what it is, and its groups.
struct Items<'a> {
    groups: std::iter::Peekable<Groups<'a>>,
}

impl<'a> Items<'a> {
    /// Fills `out` with the groups of the next item; its first has code 0.
    fn next(&mut self, out: &mut Vec<Group<'a>>) -> Result<bool, DrawingError> {
        out.clear();
        halt::often();
        let mut skipping = 0usize;
        while let Some(g) = self.groups.next() {
            let g = g?;
            match g.code {
                // Notes of programs to themselves.
                102 if g.text().starts_with('{') => skipping += 1,
                102 if g.text().starts_with('}') => skipping = skipping.saturating_sub(1),
                1000.. => {}
                _ if skipping > 0 => {}
                _ => out.push(g),
            }
            if matches!(self.groups.peek(), Some(Ok(next)) if next.code == 0) {
                break;
            }
        }
        Ok(!out.is_empty())
    }
}

/// Entities in all, at most: more is more than a cutter's file has.
const MOST_ENTITIES: usize = 1_000_000;

pub fn document(bytes: &[u8]) -> Result<Document, DrawingError> {
    let mut items = Items { groups: Groups::new(bytes)?.peekable() };
    let mut d = Document::default();
    let mut names: HashMap<String, Rc<str>> = HashMap::new();
    let (mut section, mut block): (String, Option<(String, Block)>) = Default::default();
    let (mut item, mut count) = (Vec::new(), 0usize);
    // An old polyline stands as a head, its vertices, and an end.
    let mut open: Option<Old> = None;
    let mut known = false;
    while items.next(&mut item)? {
        let what = item[0].text();
        if item[0].code != 0 {
            continue;
        }
        match (&*what, section.as_str()) {
            ("SECTION", _) => {
                section = item.iter().find(|g| g.code == 2).map_or(String::new(), |g| g.text().into_owned());
                known = true;
                if section == "HEADER" {
                    let told = |name: &str| {
                        let at = item.iter().position(|g| g.is(9, name));
                        at.and_then(|i| item.get(i + 1)).filter(|g| g.code == 70).map(Group::whole)
                    };
                    d.units = told("$INSUNITS").unwrap_or(0);
                    d.metric = told("$MEASUREMENT").map(|m| m == 1);
                }
            }
            ("ENDSEC", _) => section.clear(),
            ("EOF", _) => break,
            ("LAYER", "TABLES") => {
                let name = item.iter().find(|g| g.code == 2).map_or(String::new(), |g| key(&g.text()));
                let number = |code| item.iter().find(|g| g.code == code).map_or(0, Group::whole);
                d.layers.insert(name, Layer { off: number(62) < 0, frozen: number(70) & 1 == 1 });
            }
            ("BLOCK", "BLOCKS") => {
                let name = item.iter().find(|g| g.code == 2).map_or(String::new(), |g| key(&g.text()));
                block = Some((name, Block { base: point(&item, 10).truncate(), entities: Vec::new() }));
            }
            ("ENDBLK", "BLOCKS") => {
                if let Some((name, block)) = block.take() {
                    d.blocks.insert(name, block);
                }
            }
            (_, "ENTITIES" | "BLOCKS") => {
                let into = block.as_mut().map_or(&mut d.entities, |(_, b)| &mut b.entities);
                count += 1;
                if count > MOST_ENTITIES {
                    return Err(unreadable(format!("it holds more than {MOST_ENTITIES} entities")));
                }
                match (&*what, open.as_mut()) {
                    ("VERTEX", Some(old)) => old.vertex(&item),
                    ("SEQEND", Some(_)) => into.extend(open.take().map(Old::entity)),
                    _ => {
                        into.extend(open.take().map(Old::entity));
                        let head = head(&item, &mut names);
                        if &*what == "POLYLINE" {
                            open = Some(Old::new(head, &item));
                        } else {
                            into.push(Entity { kind: kind(&what, &item), ..head });
                        }
                    }
                }
            }
            _ => {}
        }
    }
    d.entities.extend(open.map(Old::entity));
    if known { Ok(d) } else { Err(unreadable("it has no sections")) }
}

fn head(item: &[Group], names: &mut HashMap<String, Rc<str>>) -> Entity {
    let layer = item.iter().find(|g| g.code == 8).map_or("0".into(), |g| g.text());
    let layer = names.entry(layer.to_string()).or_insert_with(|| layer.as_ref().into()).clone();
    let flag = |code| item.iter().find(|g| g.code == code).is_some_and(|g| g.whole() == 1);
    Entity {
        kind: Kind::Other,
        called: item[0].text().into_owned(),
        layer,
        hidden: flag(60),
        paper: flag(67),
        line: item[0].line,
    }
}

fn number(item: &[Group], code: i32) -> Option<f64> {
    item.iter().find(|g| g.code == code).map(Group::number)
}

fn point(item: &[Group], code: i32) -> DVec3 {
    let at = |k: i32| number(item, code + 10 * k).unwrap_or(0.0);
    DVec3::new(at(0), at(1), at(2))
}

/// Into the drawing's plane from the one that the entity is told in: as it is, or seen from behind. None
/// where that plane is tilted.
fn plane(item: &[Group]) -> Option<DMat2> {
    let normal = DVec3::new(
        number(item, 210).unwrap_or(0.0),
        number(item, 220).unwrap_or(0.0),
        number(item, 230).unwrap_or(1.0),
    );
    let normal = normal.try_normalize()?;
    (normal.truncate().length() < 1e-6).then(|| DMat2::from_diagonal(DVec2::new(normal.z.signum(), 1.0)))
}

const TILTED: &str = "not flat in the drawing's plane";
const BROKEN: &str = "with numbers that cannot be read";
const EMPTY: &str = "without size";

fn kind(what: &str, item: &[Group]) -> Kind {
    let made = match what {
        "LINE" => {
            let (a, b) = (point(item, 10), point(item, 11));
            if (a.z - b.z).abs() > 1e-6 {
                Kind::Unfit(TILTED)
            } else {
                Kind::Line(a.truncate(), b.truncate())
            }
        }
        "CIRCLE" | "ARC" => circle(what == "ARC", item),
        "ELLIPSE" => ellipse(item),
        "LWPOLYLINE" => light(item),
        "SPLINE" => Spline::read(item).map_or_else(Kind::Unfit, Kind::Spline),
        "INSERT" => insert(item),
        _ => Kind::Other,
    };
    let sound = match &made {
        Kind::Line(a, b) => a.is_finite() && b.is_finite(),
        Kind::Round { centre, u, v, from, sweep } => {
            centre.is_finite() && u.is_finite() && v.is_finite() && (from + sweep).is_finite()
        }
        Kind::Poly { vertices, .. } => vertices.iter().all(|(p, bulge)| p.is_finite() && bulge.is_finite()),
        Kind::Insert { place, columns, rows, .. } => {
            place.is_finite() && columns.is_finite() && rows.is_finite()
        }
        _ => true,
    };
    if sound { made } else { Kind::Unfit(BROKEN) }
}

fn circle(arc: bool, item: &[Group]) -> Kind {
    let Some(flip) = plane(item) else { return Kind::Unfit(TILTED) };
    let radius = number(item, 40).unwrap_or(0.0);
    if radius <= 0.0 {
        return Kind::Unfit(EMPTY);
    }
    let angle = |code, usual: f64| number(item, code).unwrap_or(usual).to_radians();
    let (from, to) = if arc { (angle(50, 0.0), angle(51, 360.0)) } else { (0.0, TAU) };
    Kind::Round {
        centre: flip * point(item, 10).truncate(),
        u: flip * DVec2::new(radius, 0.0),
        v: flip * DVec2::new(0.0, radius),
        from,
        sweep: sweep(from, to),
    }
}

/// Always forward, a whole turn where it ends where it began.
fn sweep(from: f64, to: f64) -> f64 {
    let swept = (to - from).rem_euclid(TAU);
    if swept < 1e-9 { TAU } else { swept }
}

fn ellipse(item: &[Group]) -> Kind {
    let (Some(flip), u) = (plane(item), point(item, 11)) else { return Kind::Unfit(TILTED) };
    let ratio = number(item, 40).unwrap_or(1.0);
    if u.z.abs() > 1e-6 {
        return Kind::Unfit(TILTED);
    }
    let u = u.truncate();
    if u.length() <= 0.0 || ratio <= 0.0 {
        return Kind::Unfit(EMPTY);
    }
    let (from, to) = (number(item, 41).unwrap_or(0.0), number(item, 42).unwrap_or(TAU));
    // Centre and axis are told in the drawing; which way it runs follows the side that it is seen from.
    Kind::Round {
        centre: point(item, 10).truncate(),
        u,
        v: u.perp() * ratio * flip.determinant(),
        from,
        sweep: sweep(from, to),
    }
}

fn light(item: &[Group]) -> Kind {
    let Some(flip) = plane(item) else { return Kind::Unfit(TILTED) };
    let mut vertices: Vec<(DVec2, f64)> = Vec::new();
    for g in item {
        match (g.code, vertices.last_mut()) {
            (10, _) => vertices.push((DVec2::new(g.number(), 0.0), 0.0)),
            (20, Some(v)) => v.0.y = g.number(),
            (42, Some(v)) => v.1 = g.number(),
            _ => {}
        }
    }
    flipped(vertices, flip, number(item, 70).unwrap_or(0.0) as i64 & 1 == 1)
}

fn flipped(mut vertices: Vec<(DVec2, f64)>, flip: DMat2, closed: bool) -> Kind {
    vertices.iter_mut().for_each(|(p, bulge)| (*p, *bulge) = (flip * *p, *bulge * flip.determinant()));
    Kind::Poly { vertices, closed }
}

fn insert(item: &[Group]) -> Kind {
    let Some(flip) = plane(item) else { return Kind::Unfit(TILTED) };
    let scale = DVec2::new(number(item, 41).unwrap_or(1.0), number(item, 42).unwrap_or(1.0));
    let turn = DMat2::from_angle(number(item, 50).unwrap_or(0.0).to_radians());
    let place = DAffine2::from_mat2_translation(
        flip * turn * DMat2::from_diagonal(scale),
        flip * point(item, 10).truncate(),
    );
    let many = |code| number(item, code).filter(|n| *n >= 1.0).map_or(1, |n| n as usize);
    Kind::Insert {
        block: item.iter().find(|g| g.code == 2).map_or(String::new(), |g| key(&g.text())),
        place,
        columns: flip * turn * DVec2::new(number(item, 44).unwrap_or(0.0), 0.0),
        rows: flip * turn * DVec2::new(0.0, number(item, 45).unwrap_or(0.0)),
        many: [many(70), many(71)],
    }
}

/// A polyline in the old form, being read.
struct Old {
    head: Entity,
    flags: i64,
    flip: Option<DMat2>,
    vertices: Vec<(DVec2, f64)>,
    heights: [f64; 2],
}

impl Old {
    fn new(head: Entity, item: &[Group]) -> Old {
        let flags = item.iter().find(|g| g.code == 70).map_or(0, Group::whole);
        Old { head, flags, flip: plane(item), vertices: Vec::new(), heights: [f64::MAX, f64::MIN] }
    }

    fn vertex(&mut self, item: &[Group]) {
        // Points that only frame a smoothed curve are not on it.
        if item.iter().find(|g| g.code == 70).map_or(0, Group::whole) & 16 != 0 {
            return;
        }
        let p = point(item, 10);
        self.heights = [self.heights[0].min(p.z), self.heights[1].max(p.z)];
        self.vertices.push((p.truncate(), number(item, 42).unwrap_or(0.0)));
    }

    fn entity(self) -> Entity {
        let spatial = self.flags & 8 != 0;
        let kind = match self.flip {
            _ if self.flags & (16 | 64) != 0 => Kind::Other,
            _ if spatial && self.heights[1] - self.heights[0] > 1e-6 => Kind::Unfit(TILTED),
            None if !spatial => Kind::Unfit(TILTED),
            flip => flipped(
                self.vertices,
                flip.filter(|_| !spatial).unwrap_or(DMat2::IDENTITY),
                self.flags & 1 == 1,
            ),
        };
        let sound = !matches!(&kind, Kind::Poly { vertices, .. } if !vertices.iter().all(|(p,
            b)| p.is_finite() && b.is_finite()));
        Entity { kind: if sound { kind } else { Kind::Unfit(BROKEN) }, ..self.head }
    }
}

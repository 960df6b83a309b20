//! Lines of a frame → nodes and members, with the copies that mirrors and bays make.

use std::collections::HashMap;

use glam::{DVec2, DVec3};

use super::bar::{Bar, Motion, Surface};
use super::bent;
use super::model::{Cause, Member, Node, Stretch, Trim};
use super::profile::Profile;
use crate::PieceOf;
use crate::document::{Frame, FrameLine};
use crate::verbs::{AlongBy, Between, FrameSay, Members, NodeSaid, On, TrimBy, TrimSaid, Way};
use ground::geom::Contour;
use ground::reader::{Range, Reader};
use sheet::result::PieceResult;
use shop::settings::{LARGEST, own_section};
use shop::{FrameShop, Material, Section, Shelf, section};

/// Nodes nearer than this are one, mm.
pub const SAME: f64 = 1e-3;
pub const MOST_NODES: usize = 20_000;
pub const MOST_MEMBERS: usize = 10_000;

/// A copy of told things, made by one line.
pub struct Copy {
    pub line: String,
    pub motion: Motion,
    /// Lines whose things were copied.
    pub of: Vec<String>,
    /// Copies made earlier that were copied with them.
    pub until: usize,
}

#[derive(Default)]
pub struct Skeleton {
    pub nodes: Vec<Node>,
    names: HashMap<String, usize>,
    cells: HashMap<[i64; 3], Vec<usize>>,
    pub members: Vec<Member>,
    pub member_names: HashMap<String, usize>,
    pub profiles: Vec<Profile>,
    profile_names: HashMap<String, Option<usize>>,
    pub copies: Vec<Copy>,
    /// Trims as told, copies with them.
    pub told: Vec<ToldTrim>,
    /// Nodes with more members than are fitted to one another, and how many.
    pub crowded: Vec<(usize, usize)>,
    /// Materials of the job.
    pub shelf: Shelf,
}

/// A trim that a line tells, before the joints say whether it shortens.
#[derive(Clone, Debug)]
pub struct ToldTrim {
    pub line: String,
    pub member: usize,
    pub end: usize,
    pub trim: Trim,
    pub lengthen: bool,
}

pub fn unit(way: Way) -> DVec3 {
    match way {
        Way::East => DVec3::X,
        Way::North => DVec3::Y,
        Way::Up => DVec3::Z,
    }
}

/// The frame of a bar along `d`: up is up, for a post north is up; then turned.
pub fn stand(o: DVec3, d: DVec3, turn: f64) -> Bar {
    let up = if d.z.abs() > 0.999_9 { DVec3::Y } else { DVec3::Z };
    let z = (up - d * up.dot(d)).normalize();
    let y = z.cross(d);
    let (s, c) = turn.sin_cos();
    Bar { o, d, y: y * c + z * s, z: z * c - y * s }
}

impl Skeleton {
    pub fn with(shelf: Shelf) -> Self {
        Skeleton { shelf, ..Skeleton::default() }
    }

    pub fn node(&self, name: &str) -> Option<usize> {
        self.names.get(name.trim()).copied()
    }

    /// The member with this name, or the only one of this line.
    pub fn member(&self, name: &str) -> Option<usize> {
        let name = name.trim();
        self.member_names.get(name).copied().or_else(|| {
            let mut of = self
                .members
                .iter()
                .enumerate()
                .filter(|(_, m)| m.line == name && m.root == self.member_names[&m.name]);
            let first = of.next()?.0;
            of.next().is_none().then_some(first)
        })
    }

    fn near(&self, at: DVec3) -> Option<usize> {
        let cell = at.floor().as_i64vec3();
        let around = |k: i64| [-1, 0, 1].map(|d| k.saturating_add(d));
        let cells = around(cell.x).into_iter().flat_map(|x| {
            around(cell.y).into_iter().flat_map(move |y| around(cell.z).map(move |z| [x, y, z]))
        });
        let mut here = cells.filter_map(|c| self.cells.get(&c)).flatten();
        here.find(|&&i| self.nodes[i].at.distance(at) < SAME).copied()
    }

    /// The node at a place, made when none stands there. A second name for a place is an alias.
    pub fn put(&mut self, name: &str, at: DVec3, line: &str, root: Option<usize>) -> Option<usize> {
        let i = match self.near(at) {
            Some(i) => i,
            None if self.nodes.len() >= MOST_NODES => return None,
            None => {
                let i = self.nodes.len();
                let cell = at.floor().as_i64vec3().to_array();
                self.cells.entry(cell).or_default().push(i);
                self.nodes.push(Node { name: name.into(), at, line: line.into(), root: root.unwrap_or(i) });
                i
            }
        };
        self.names.entry(name.to_string()).or_insert(i);
        Some(i)
    }

    pub fn say_node(&mut self, reader: &mut Reader, line: &str, say: &NodeSaid) -> Option<()> {
        let from = if say.from.trim().is_empty() {
            DVec3::ZERO
        } else {
            let i = self.known(reader, "/say/from", &say.from)?;
            self.nodes[i].at
        };
        let (x, y, z) =
            (step(reader, "/say/x", &say.x), step(reader, "/say/y", &say.y), step(reader, "/say/z", &say.z));
        self.name_node(reader, line, &say.name, from + DVec3::new(x?, y?, z?))
    }

    pub fn say_between(&mut self, reader: &mut Reader, line: &str, say: &Between) -> Option<()> {
        let (a, b) = (self.known(reader, "/say/from", &say.from)?, self.known(reader, "/say/to", &say.to)?);
        let (a, b) = (self.nodes[a].at, self.nodes[b].at);
        let share = match say.by {
            AlongBy::Share => reader.number("/say/at", &say.at)?,
            AlongBy::Length => {
                let length = reader.length("/say/at", &say.at, Range::Any)?;
                if a.distance(b) < SAME {
                    reader.refuse(
                        "/say/to",
                        &say.to,
                        "both nodes stand in one place",
                        "name two that are apart",
                    );
                    return None;
                }
                length / a.distance(b)
            }
        };
        if !(-100.0..=100.0).contains(&share) {
            reader.refuse(
                "/say/at",
                &say.at,
                "this is far off the way between the two",
                "write a part of the way such as 1/2, or a length",
            );
            return None;
        }
        self.name_node(reader, line, &say.name, a.lerp(b, share))
    }

    pub fn say_on(&mut self, reader: &mut Reader, line: &str, say: &On) -> Option<()> {
        let member = self.known_member(reader, "/say/member", &say.member)?;
        let length = self.members[member].length;
        let along = match say.by {
            AlongBy::Share => reader.number("/say/at", &say.at)? * length,
            AlongBy::Length => reader.length("/say/at", &say.at, Range::Any)?,
        };
        let Some(at) = self.members[member].place(along) else {
            let d = reader.display;
            let told = format!(
                "{} is {} long: this lies beyond it",
                self.members[member].name,
                d.length_unit(length)
            );
            reader.refuse(
                "/say/at",
                &say.at,
                told,
                "write a part of the way such as 1/2, or a length from its start",
            );
            return None;
        };
        self.name_node(reader, line, &say.name, at)
    }

    fn name_node(&mut self, reader: &mut Reader, line: &str, name: &str, at: DVec3) -> Option<()> {
        let name = name.trim();
        let fault = match name {
            "" => Some(("the node has no name".to_string(), "write a letter or a short word")),
            n if n.chars().count() > 40 || n.contains(|c: char| c.is_whitespace() || c == ',') => Some((
                format!("'{n}' cannot be a node's name"),
                "use up to 40 letters and digits without spaces",
            )),
            n if self.names.contains_key(n) => {
                Some((format!("two nodes are called '{n}'"), "rename one of them"))
            }
            _ => None,
        };
        if let Some((message, mend)) = fault {
            reader.refuse("/say/name", name, message, mend);
            return None;
        }
        if self.put(name, at, line, None).is_none() {
            reader.refuse(
                "/say/name",
                name,
                format!("the frame has more than {MOST_NODES} nodes"),
                "split the frame",
            );
        }
        Some(())
    }

    pub fn known(&self, reader: &mut Reader, path: &str, name: &str) -> Option<usize> {
        let found = self.node(name);
        if found.is_none() {
            reader.refuse(
                path,
                name,
                format!("no node above this line is called '{}'", name.trim()),
                "name a node that is told further up",
            );
        }
        found
    }

    pub fn known_member(&self, reader: &mut Reader, path: &str, name: &str) -> Option<usize> {
        let found = self.member(name);
        if found.is_none() {
            let own: Vec<&str> = self
                .members
                .iter()
                .filter(|m| m.line == name.trim())
                .map(|m| m.name.as_str())
                .take(8)
                .collect();
            let (message, mend) = if own.is_empty() {
                let known: Vec<&str> = self.members.iter().map(|m| m.name.as_str()).take(8).collect();
                let mend = if known.is_empty() {
                    "tell a member above this line first".to_string()
                } else {
                    format!("name one member, such as {}", known.join(", "))
                };
                (format!("no member above this line is called '{}'", name.trim()), mend)
            } else {
                (
                    format!("'{}' makes several members", name.trim()),
                    format!("name one of them: {}", own.join(", ")),
                )
            };
            reader.refuse(path, name, message, mend);
        }
        found
    }

    /// The section that a text names; told once when it cannot be read.
    pub fn profile(&mut self, reader: &mut Reader, known: &Known, path: &str, text: &str) -> Option<usize> {
        if let Some(found) = self.profile_names.get(text) {
            if found.is_none() {
                reader.refuse(
                    path,
                    text,
                    format!("the section '{}' cannot be read", text.trim()),
                    format!("write {}", section::KINDS),
                );
            }
            return *found;
        }
        let called = |name: &str| !text.trim().is_empty() && name.eq_ignore_ascii_case(text.trim());
        let own = known.shop.sections.iter().find(|s| called(&s.name));
        let read = match own {
            Some(own) => own.section.clone().ok_or_else(|| {
                format!("the shop's own section '{}' is not right yet: see the job's settings", own.name)
            }),
            None => match (known.piece_of)(text.trim()) {
                Some(piece) => flat_as_section(&piece),
                None => {
                    let scope = reader.scope();
                    section::by_text(text, |t| scope.length(t).ok())
                }
            },
        };
        let found = match read {
            Ok(s) => {
                self.profiles.push(Profile::new(s));
                Some(self.profiles.len() - 1)
            }
            Err(message) => {
                reader.refuse(path, text, message, format!("write {}", section::KINDS));
                None
            }
        };
        self.profile_names.insert(text.to_string(), found);
        found
    }

    pub fn say_members(
        &mut self,
        reader: &mut Reader,
        known: &Known,
        frame: &Frame,
        line: &FrameLine,
        say: &Members,
    ) -> Option<()> {
        let text = if say.section.trim().is_empty() { &frame.section } else { &say.section };
        let profile = self.profile(reader, known, "/say/section", text);
        let material = if say.material.is_empty() { &frame.material } else { &say.material };
        let material = material_of(reader, &self.shelf, "/say/material", material);
        let turn = if say.turn.trim().is_empty() { Some(0.0) } else { reader.angle("/say/turn", &say.turn) };
        let mut nodes = Vec::new();
        for (i, name) in say.path.iter().enumerate() {
            ground::halt::point();
            nodes.push(self.known(reader, &format!("/say/path/{i}"), name)?);
        }
        if nodes.len() < 2 {
            reader.refuse(
                "/say/path",
                "",
                "a member runs between two nodes at least",
                "name two or more nodes",
            );
            return None;
        }
        let (profile, material, turn) = (profile?, material?, turn?);
        if say.closed && nodes.len() > 2 {
            nodes.push(nodes[0]);
        }
        if let Some(i) =
            nodes.windows(2).position(|w| self.nodes[w[0]].at.distance(self.nodes[w[1]].at) < SAME)
        {
            reader.refuse(
                &format!("/say/path/{}", i + 1),
                &say.path[(i + 1) % say.path.len()],
                "this node stands where the one before it does",
                "name two nodes that are apart",
            );
            return None;
        }
        if self.members.len() + nodes.len() > MOST_MEMBERS {
            reader.refuse(
                "/say/path",
                "",
                format!("the frame has more than {MOST_MEMBERS} members"),
                "split the frame",
            );
            return None;
        }
        let shift = self.profiles[profile].sits(say.sits);
        let make = |name: String, way: Vec<Stretch>, from: usize, to: usize, closed: bool| Member {
            name,
            line: line.id.clone(),
            call: if say.name.trim().is_empty() { "member".into() } else { say.name.trim().into() },
            root: 0,
            profile,
            material: material.clone(),
            from,
            to,
            length: way.iter().map(Stretch::length).sum(),
            way,
            sits: shift,
            trims: [Vec::new(), Vec::new()],
            holes: Vec::new(),
            assembly: None,
            closed,
        };
        let radius = if say.radius.trim().is_empty() {
            None
        } else {
            Some(reader.length("/say/radius", &say.radius, Range::AboveZero)?)
        };
        if say.arc || (radius.is_some() && nodes.len() > 2) {
            let points: Vec<DVec3> = nodes.iter().map(|&i| self.nodes[i].at).collect();
            let (path, text, made) = match radius {
                _ if say.arc => (
                    "/say/path",
                    String::new(),
                    bent::arc(&points[..points.len() - usize::from(say.closed)], say.closed, turn),
                ),
                radius => (
                    "/say/radius",
                    say.radius.clone(),
                    bent::way(&points, say.closed, radius.unwrap_or(0.0), turn),
                ),
            };
            let refused = made.and_then(|way| {
                let reach = self.profiles[profile].section.shape.size().max_element() / 2.0;
                let way = bent::set_off(way, shift).filter(|way| {
                    !way.iter().any(|s| matches!(s, Stretch::Bend { radius, .. } if *radius <= reach))
                });
                way.ok_or_else(|| {
                    (
                        "the bend is tighter than the bar is deep".into(),
                        "let it run round a centreline radius larger than half the section".into(),
                    )
                })
            });
            let way = match refused {
                Ok(way) => way,
                Err((message, mend)) => {
                    reader.refuse(path, &text, message, mend);
                    return None;
                }
            };
            let (from, to) = (nodes[0], nodes[nodes.len() - 1]);
            self.keep(make(line.id.clone(), way, from, to, say.closed), None);
            return Some(());
        }
        let off = |bar: Bar| Bar { o: bar.o - bar.y * shift.x - bar.z * shift.y, ..bar };
        let single = nodes.len() == 2;
        for (k, w) in nodes.windows(2).enumerate() {
            let (a, b) = (self.nodes[w[0]].at, self.nodes[w[1]].at);
            let bar = off(stand(a, (b - a).normalize(), turn));
            let name = if single { line.id.clone() } else { format!("{}.{}", line.id, k + 1) };
            let way = vec![Stretch::Straight { bar, length: a.distance(b) }];
            self.keep(make(name, way, w[0], w[1], false), None);
        }
        Some(())
    }

    pub fn keep(&mut self, mut member: Member, root: Option<usize>) {
        let at = self.members.len();
        member.root = root.unwrap_or(at);
        self.member_names.entry(member.name.clone()).or_insert(at);
        self.members.push(member);
    }

    /// A told trim. Whether it shortens is decided when the joints are known.
    pub fn say_trim(&mut self, reader: &mut Reader, line: &str, say: &TrimSaid) -> Option<()> {
        let member = self.known_member(reader, "/say/member", &say.member)?;
        let end = usize::from(say.tip == crate::verbs::Tip::End);
        let gap = if say.gap.trim().is_empty() {
            0.0
        } else {
            reader.length("/say/gap", &say.gap, Range::ZeroUp)?
        };
        let bar = self.members[member].end(end);
        let mut by = None;
        let surface = match &say.by {
            TrimBy::Plane { way, at } => {
                let at = reader.length("/say/by/at", at, Range::Any)?;
                Surface::Plane { at: unit(*way) * at, normal: unit(*way) }
            }
            TrimBy::Nodes { nodes } => {
                let mut p = Vec::new();
                for (i, n) in nodes.iter().enumerate() {
                    p.push(self.nodes[self.known(reader, &format!("/say/by/nodes/{i}"), n)?].at);
                }
                let normal = if p.len() == 3 { (p[1] - p[0]).cross(p[2] - p[0]) } else { DVec3::ZERO };
                if normal.length() < 1.0 {
                    reader.refuse(
                        "/say/by/nodes",
                        "",
                        "these nodes span no plane",
                        "name three nodes that do not lie on one line",
                    );
                    return None;
                }
                Surface::Plane { at: p[0], normal: normal.normalize() }
            }
            TrimBy::Member { member: other } => {
                let other = self.known_member(reader, "/say/by/member", other)?;
                if other == member {
                    reader.refuse(
                        "/say/by/member",
                        "",
                        "a member cannot be trimmed by itself",
                        "name another member",
                    );
                    return None;
                }
                if !self.members[other].is_straight() {
                    reader.refuse(
                        "/say/by/member",
                        &self.members[other].name.clone(),
                        "this member is bent: it has no one face to end at",
                        "trim by a plane instead",
                    );
                    return None;
                }
                by = Some(other);
                let wall = self.members[other].way[0].at(0.0);
                super::joints::face_met(
                    &self.profiles[self.members[other].profile],
                    &wall,
                    &bar,
                    &self.profiles[self.members[member].profile],
                    0.0,
                )
            }
        };
        let surface = match surface {
            Surface::Plane { at, normal } => {
                if normal.dot(bar.d).abs() < 0.05 {
                    reader.refuse(
                        "/say/by",
                        "",
                        "this plane runs nearly along the member",
                        "choose a plane that crosses it",
                    );
                    return None;
                }
                let normal = normal * normal.dot(bar.d).signum();
                let surface = Surface::Plane { at: at + normal * gap, normal };
                let m = &self.members[member];
                let tip = m.inward(end, DVec2::ZERO, m.station_of(end, &surface, DVec2::ZERO));
                if ((tip - at).dot(normal) - gap).abs() > 1e-3 {
                    reader.refuse(
                        "/say/by",
                        "",
                        "the bend does not come to this plane",
                        "choose a plane that it crosses",
                    );
                    return None;
                }
                surface
            }
            Surface::Round { at, axis, radius } => Surface::Round { at, axis, radius: radius + gap },
            Surface::Outline { bar, outline, gap: g } => Surface::Outline { bar, outline, gap: g + gap },
        };
        self.told.push(ToldTrim {
            line: line.into(),
            member,
            end,
            trim: Trim { surface, cause: Cause::Told, by },
            lengthen: say.lengthen,
        });
        Some(())
    }
}

pub fn step(reader: &mut Reader, path: &str, text: &str) -> Option<f64> {
    if text.trim().is_empty() { Some(0.0) } else { reader.length(path, text, Range::Any) }
}

pub fn material_of(
    reader: &mut Reader,
    shelf: &Shelf,
    path: &str,
    id: &str,
) -> Option<std::sync::Arc<Material>> {
    let found = shelf.material(id);
    if found.is_none() {
        reader.refuse(
            path,
            id,
            format!("neither the shop book nor this job has a material '{id}'"),
            shelf.said(),
        );
    }
    found
}

/// Lines that make things which can be copied.
pub fn makes(say: &FrameSay) -> bool {
    !matches!(say, FrameSay::Joint(_) | FrameSay::Weld(_) | FrameSay::Assembly(_))
}

/// The flat of a piece on the bench as a section, east across and north up.
fn flat_as_section(r: &PieceResult) -> Result<Section, String> {
    if !r.made || r.flat.outer.bounds().size().max_element() > LARGEST {
        return Err(format!(
            "the flat of {} is no section: it cannot be made yet, or is larger than 3 m",
            r.mark
        ));
    }
    let middle = r.flat.outer.bounds().centre();
    let moved = |c: &Contour| c.moved(0.0, -middle).outward();
    let holes = r.flat.holes.iter().map(|h| moved(&h.contour)).collect();
    Ok(own_section(&r.mark, moved(&r.flat.outer), holes, "the flat of a piece of this job"))
}

/// What the lines of a frame may name besides one another.
pub struct Known<'a> {
    pub shop: &'a FrameShop,
    pub piece_of: PieceOf<'a>,
}

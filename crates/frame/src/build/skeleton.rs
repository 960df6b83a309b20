//! Lines of a frame → nodes and members, with the copies that mirrors and bays make.

use super::ribs::RibRow;
use super::sides::Standing;
use std::collections::HashMap;

use glam::DVec3;
use ground::reader::Tell;

use crate::bar::{Bar, Motion};
use crate::build::spec::{SectionSpec, Turn};
use crate::model::{EndCut, Member, Node};
use crate::profile::Profile;

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
    profile_names: HashMap<String, usize>,
    pub copies: Vec<Copy>,
    /// Trims as told, copies with them.
    pub told: Vec<ToldTrim>,
    /// Rows of ribs, with what runs through them.
    pub ribs: Vec<RibRow>,
    /// Plates round two openings by their lines; none where they cannot be made.
    pub standing: HashMap<String, Option<Standing>>,
    /// Nodes whose ends are mitred whatever is usual.
    pub mitred: Vec<usize>,
    /// Members that are welded to something along a toe.
    pub toes: Vec<Toe>,
    /// Nodes with more members than are fitted to one another, and how many.
    pub crowded: Vec<(usize, usize)>,
}

/// A member welded along its length; lengths in mm.
#[derive(Clone, Copy, Debug)]
pub struct Toe {
    pub member: usize,
    pub length: f64,
    /// Wall that it is welded to.
    pub against: f64,
}

/// A trim that a line tells, before the joints say whether it shortens.
#[derive(Clone, Debug)]
pub struct ToldTrim {
    pub line: String,
    pub member: usize,
    pub end: usize,
    pub trim: EndCut,
    pub lengthen: bool,
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

    /// The row of ribs of a line above.
    pub fn row(&self, tell: &mut Tell, line: &str) -> Option<usize> {
        let found = self.ribs.iter().position(|r| r.line == line);
        if found.is_none() {
            let known: Vec<&str> = self.ribs.iter().map(|r| r.line.as_str()).collect();
            let mend = match known.as_slice() {
                [] => "say ribs first".into(),
                known => format!("name one of {}", known.join(", ")),
            };
            tell.refuse_at("/say/of", format!("no ribs above are called '{line}'"), mend);
        }
        found
    }

    /// The plates round two openings of a line, where they can be made.
    pub fn standing(&self, tell: &mut Tell, path: &str, line: &str) -> Option<&Standing> {
        let Some(found) = self.standing.get(line) else {
            self.no_openings(tell, path, line);
            return None;
        };
        if found.is_none() {
            tell.refuse_at(path, format!("{line} cannot be made yet"), "see what its line says");
        }
        found.as_ref()
    }

    /// Says of a line that it makes no plates round openings.
    pub fn no_openings(&self, tell: &mut Tell, path: &str, line: &str) {
        let mut known: Vec<&str> = self.standing.keys().map(String::as_str).collect();
        known.sort_unstable();
        let mend = match known.as_slice() {
            [] => "say a hopper or a transition first".into(),
            known => format!("name one of {}", known.join(", ")),
        };
        tell.refuse_at(path, format!("'{line}' makes no plates round openings"), mend);
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

    pub fn name_node(&mut self, turn: &mut Turn, name: &str, at: DVec3) -> Option<()> {
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
            turn.tell.refuse_at("/say/name", message, mend);
            return None;
        }
        if self.put(name, at, turn.line, None).is_none() {
            turn.tell.refuse_at(
                "/say/name",
                format!("the frame has more than {MOST_NODES} nodes"),
                "split the frame",
            );
        }
        Some(())
    }

    pub fn known(&self, tell: &mut Tell, path: &str, name: &str) -> Option<usize> {
        let found = self.node(name);
        if found.is_none() {
            tell.refuse_at(
                path,
                format!("no node above this line is called '{}'", name.trim()),
                "name a node that is told further up",
            );
        }
        found
    }

    pub fn known_member(&self, tell: &mut Tell, path: &str, name: &str) -> Option<usize> {
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
            tell.refuse_at(path, message, mend);
        }
        found
    }

    /// The profile of a section, made once.
    pub fn profile(&mut self, spec: &SectionSpec) -> usize {
        let (profiles, names) = (&mut self.profiles, &mut self.profile_names);
        *names.entry(spec.called.clone()).or_insert_with(|| {
            profiles.push(Profile::new((*spec.section).clone()));
            profiles.len() - 1
        })
    }

    pub fn keep(&mut self, mut member: Member, root: Option<usize>) {
        let at = self.members.len();
        member.root = root.unwrap_or(at);
        self.member_names.entry(member.name.clone()).or_insert(at);
        self.members.push(member);
    }
}

//! Panels and the folds between them, as told. Every panel lies in its own frame: the start's is the flat's,
//! a folded panel has its fold line along x from left to right and reaches up to its tip in y.

use glam::{DMat3, DVec2, DVec3};
use ground::geom::ROUNDING;

use super::close::Trim;
use crate::choices::{BendAt, Close, CornerRelief, ReliefKind};
use crate::flat::bend_allowance::crease;
use crate::flat::bends::BendRole;
use crate::formed::zones::Zone;
use ground::geom::{Contour, Segment};
use ground::reference;
use shop::bend::{Allowance, setback};

/// Sides of a folded panel, counter-clockwise from the fold line (0); the last is its left side.
pub const RIGHT: usize = 1;
pub const TIP: usize = 2;

/// The tag of a fold line: never part of the outline.
pub const NO_TAG: u32 = u32::MAX;

/// A fold with its values worked out.
#[derive(Clone, Debug)]
pub struct FoldSpec {
    /// Index of the recipe line, its id, and the JSON pointer in it of what has this fold's own radius.
    pub index: usize,
    pub line: String,
    pub path: Option<String>,
    /// JSON pointer of what tells how much of its edge it takes.
    pub width_at: &'static str,
    /// Name of the panel; its bend adds `.bend`.
    pub name: String,
    pub role: BendRole,
    /// A tongue that hangs on its edge without a bend, and lies in the zone of the panel it is part of.
    pub is_tab: bool,
    /// A strip that is glued to another panel.
    pub is_glued: bool,
    pub bend: Bent,
    pub span: SpanOf,
    pub relief: ReliefOf,
    /// How its ends are cut where no fold beside it says so, in the order in which the outline runs.
    pub trims: [Trim; 2],
}

/// How a fold is bent; lengths in mm, angles in rad.
#[derive(Clone, Debug)]
pub struct Bent {
    pub angle: f64,
    pub up: bool,
    pub radius: f64,
    pub allowance: Allowance,
    pub bend_at: BendAt,
    /// Beyond the far tangent line.
    pub straight: f64,
}

/// Part of an edge, told from its ends (left is the far end of a counter-clockwise outline).
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum SpanOf {
    Full,
    Inset(f64, f64),
    Centred(f64),
    /// Its middle from the left end, and its width.
    At(f64, f64),
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ReliefOf {
    pub kind: ReliefKind,
    pub width: f64,
    /// Past the tangent line.
    pub depth: f64,
}

impl FoldSpec {
    /// A flange: a hand may want it longer, and corners close on it.
    pub fn is_flange(&self) -> bool {
        self.role == BendRole::Fold && !self.is_tab
    }
}

impl Bent {
    /// Not bent at all: straight out of its edge.
    pub fn straight_out(length: f64) -> Bent {
        Bent {
            angle: 0.0,
            up: true,
            radius: 0.0,
            allowance: Allowance::default(),
            bend_at: BendAt::FromEdge,
            straight: length,
        }
    }

    /// Along its edge, without allowance.
    pub fn creased(angle: f64, up: bool, t: f64, length: f64) -> Bent {
        let (radius, allowance) = crease(t);
        Bent { angle, up, radius, allowance, bend_at: BendAt::FromEdge, straight: length }
    }

    /// How far the tangent line lies inside the edge.
    pub fn shift(&self, t: f64) -> f64 {
        match self.bend_at {
            BendAt::FromEdge => 0.0,
            BendAt::InnerFace => setback(self.radius, self.angle),
            BendAt::OuterFace => setback(self.radius + t, self.angle),
            // At half a turn and beyond there is no sharp: the outermost tangent.
            BendAt::Sharp if self.angle < 3.0 => (self.radius + t) * (self.angle / 2.0).tan(),
            BendAt::Sharp => self.radius + t,
        }
    }

    /// Overall height over the outer face of the panel it is folded from.
    pub fn height(&self, t: f64) -> f64 {
        let (s, c) = self.angle.sin_cos();
        let (r, l) = (self.radius, self.straight);
        let tip = (t + r - r * c + l * s).max(t + r - (r + t) * c + l * s);
        // Past 90° the bend itself may stand highest.
        let crown = if self.angle > std::f64::consts::FRAC_PI_2 {
            t + r + (r + t) * if self.angle >= std::f64::consts::PI { 1.0 } else { -c }
        } else {
            tip
        };
        tip.max(crown)
    }
}

#[derive(Clone, Debug)]
pub struct Side {
    pub from: DVec2,
    pub bulge: f64,
    pub tag: u32,
    /// Nodes folded from this side.
    pub folds: Vec<usize>,
}

#[derive(Clone, Debug)]
pub struct Node {
    pub sides: Vec<Side>,
    /// How it is folded; none for the start.
    pub spec: Option<FoldSpec>,
    /// The zone of the start that it hangs on, or the panel.
    pub parent: usize,
    /// Orientation when formed (columns: its x, its y, its normal), sides not yet trimmed.
    pub pose: DMat3,
    /// Direction of its x in the flat, sides not yet trimmed.
    pub turn: DVec2,
    /// The part of its edge that it was told on (the leg of a strip), from the edge's start.
    pub part: Option<(f64, f64)>,
    /// How many panels lie between it and the start, with itself.
    pub deep: usize,
    /// Left out: its line has a fault.
    pub off: bool,
}

/// How near to a side what lies on it may lie, mm.
const ON: f64 = 1e-4;

/// Longer chains of panels than this are refused.
pub const DEEPEST: usize = 64;

/// How the folds at a corner meet.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Closing {
    pub close: Close,
    pub gap: f64,
    pub relief: CornerRelief,
    pub relief_size: f64,
}

/// A line that tells corners.
#[derive(Clone, Debug)]
pub struct CornerTreatment {
    pub line: String,
    pub index: usize,
    pub at: Vec<String>,
    pub how: Closing,
}

pub struct Tree {
    pub t: f64,
    pub nodes: Vec<Node>,
    pub tags: Vec<String>,
    /// Zones of the start and where they stand when formed.
    pub base: Vec<Zone>,
    pub base_frames: Vec<DMat3>,
    /// Told corners: the line, names (empty means all), and how.
    pub closings: Vec<CornerTreatment>,
}

/// An edge that was found: a side of a node, and the part of it that the name means.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Edge {
    pub node: usize,
    pub side: usize,
    /// From the side's start, where the name means only a part (a leg of a strip).
    pub part: Option<(f64, f64)>,
}

impl Tree {
    pub fn new(outer: &Contour, tags: Vec<String>, base: &[Zone], t: f64) -> Tree {
        let sides = outer
            .vertices
            .iter()
            .map(|v| Side { from: v.p, bulge: v.bulge, tag: v.tag, folds: Vec::new() })
            .collect();
        let frames = crate::formed::zones::frames(base, 1.0, t);
        let root = Node {
            sides,
            spec: None,
            parent: 0,
            pose: DMat3::IDENTITY,
            turn: DVec2::X,
            part: None,
            deep: 0,
            off: false,
        };
        let base_frames = frames.iter().map(|f| f.matrix3).collect();
        Tree { t, nodes: vec![root], tags, base: base.to_vec(), base_frames, closings: Vec::new() }
    }

    pub fn tag(&mut self, name: String) -> u32 {
        self.tags.push(name);
        self.tags.len() as u32 - 1
    }

    pub fn ends(&self, node: usize, side: usize) -> [DVec2; 2] {
        let sides = &self.nodes[node].sides;
        [sides[side].from, sides[(side + 1) % sides.len()].from]
    }

    /// The straight side that a name means: `start-1.north`, `fold-1.north.tip`, `start-1.b.north` (the side
    /// of a strip's leg).
    pub fn edge(&self, name: &str) -> Result<Edge, String> {
        let mut bent = false;
        for (n, node) in self.nodes.iter().enumerate().filter(|n| !n.1.off) {
            for (s, side) in node.sides.iter().enumerate() {
                if side.tag != NO_TAG && self.tags.get(side.tag as usize).is_some_and(|t| t == name) {
                    if side.bulge.abs() > ROUNDING {
                        return Err(format!("'{name}' is curved; only straight edges fold"));
                    }
                    // Ends of bends are called as the side beside them.
                    if n == 0 && self.runs_over_bends(s) {
                        bent = true;
                        continue;
                    }
                    return Ok(Edge { node: n, side: s, part: None });
                }
            }
        }
        if bent {
            let leg = self.leg_edge(name);
            return Err(format!("'{name}' runs over bends; name the side of one leg, such as {leg}"));
        }
        // The side of a leg: `start-1.b.north` is the part of `start-1.north` beside leg b.
        if let Some((zone, compass)) = reference::parent(name)
            && let Some(leg) = self.base.iter().find(|z| z.name == zone && z.is_panel())
            && let Some((stem, _)) = reference::parent(zone)
            && let Ok((s, _)) = self.find_root(&reference::part(stem, compass))
        {
            let [a, b] = self.ends(0, s);
            let dir = (b - a).normalize_or_zero();
            let (p, q) = ((leg.min - a).dot(dir), (leg.max - a).dot(dir));
            return Ok(Edge {
                node: 0,
                side: s,
                part: Some((p.min(q).max(0.0), p.max(q).min(a.distance(b)))),
            });
        }
        Err(format!("no edge is called '{name}' here"))
    }

    fn find_root(&self, name: &str) -> Result<(usize, u32), ()> {
        let found = self.nodes[0]
            .sides
            .iter()
            .enumerate()
            .find(|(_, s)| self.tags.get(s.tag as usize).is_some_and(|t| t == name));
        found.map(|(i, s)| (i, s.tag)).ok_or(())
    }

    /// Whether a side of the start runs over bends of it: one begins or ends on the way, or lies all along.
    fn across_bends(&self, side: usize) -> bool {
        let [a, b] = self.ends(0, side);
        let on = Segment::line(a, b);
        let within = |p: &DVec2| on.nearest(*p).distance(*p) < ON && p.distance(a) > ON && p.distance(b) > ON;
        let bends = self.base.iter().filter(|z| !z.is_panel());
        bends.flat_map(|z| &z.region).any(within)
            || !self.base[self.base_zone(side, a.distance(b) / 2.0)].is_panel()
    }

    fn runs_over_bends(&self, side: usize) -> bool {
        self.base.len() > 1 && self.across_bends(side)
    }

    /// Whether another side with the name of this one lies beside one panel.
    fn is_end_of_bend(&self, side: usize) -> bool {
        let sides = &self.nodes[0].sides;
        (0..sides.len()).any(|k| sides[k].tag == sides[side].tag && !self.runs_over_bends(k))
    }

    fn leg_edge(&self, name: &str) -> String {
        let compass = reference::last(name);
        self.base.iter().find(|z| z.is_panel()).map_or(String::new(), |z| reference::part(&z.name, compass))
    }

    /// Names of the straight edges that stand now.
    pub fn edge_names(&self) -> Vec<String> {
        let mut out = Vec::new();
        for (n, node) in self.nodes.iter().enumerate().filter(|n| !n.1.off) {
            for (s, side) in node.sides.iter().enumerate() {
                if side.tag == NO_TAG || side.bulge.abs() > ROUNDING || !side.folds.is_empty() {
                    continue;
                }
                let name = &self.tags[side.tag as usize];
                if n == 0 && self.runs_over_bends(s) {
                    if self.is_end_of_bend(s) {
                        continue;
                    }
                    let compass = reference::last(name);
                    out.extend(
                        self.base.iter().filter(|z| z.is_panel()).map(|z| reference::part(&z.name, compass)),
                    );
                } else {
                    out.push(name.clone());
                }
            }
        }
        out
    }

    /// The zone of the start beside the middle of a part of one of its sides.
    fn base_zone(&self, side: usize, at: f64) -> usize {
        let [a, b] = self.ends(0, side);
        let dir = (b - a).normalize_or_zero();
        crate::formed::zones::zone_of(&self.base, a + dir * at + dir.perp() * 1e-3).unwrap_or(0)
    }

    /// Orientation of the panel that an edge belongs to, and the edge's direction in the flat.
    pub fn pose_at(&self, edge: &Edge) -> (DMat3, DVec2, usize) {
        let [a, b] = self.ends(edge.node, edge.side);
        let node = &self.nodes[edge.node];
        let dir = node.turn.rotate((b - a).normalize_or_zero());
        if edge.node > 0 {
            return (node.pose, dir, 0);
        }
        let middle = edge.part.map_or(a.distance(b) / 2.0, |(p, q)| (p + q) / 2.0);
        let zone = self.base_zone(edge.side, middle);
        (self.base_frames[zone], dir, zone)
    }

    /// Hangs a panel on an edge. `width` is the nominal width of the folded part.
    pub fn hang(&mut self, edge: &Edge, spec: FoldSpec) -> usize {
        let (pose, dir, zone) = self.pose_at(edge);
        let [a, b] = self.ends(edge.node, edge.side);
        let length = edge.part.map_or(a.distance(b), |(p, q)| q - p);
        let width = match spec.span {
            SpanOf::Full => length,
            SpanOf::Inset(l, r) => length - l - r,
            SpanOf::Centred(w) | SpanOf::At(_, w) => w,
        };
        // Seen with the fold at the bottom, right is back along the outline.
        let (right, out) = (-dir, -dir.perp());
        let local = edge.node > 0;
        let (x, y) = if local {
            let turn = self.nodes[edge.node].turn;
            let back = |v: DVec2| DVec2::new(turn.x, -turn.y).rotate(v);
            (back(right), back(out))
        } else {
            (right, out)
        };
        let space = |v: DVec2| pose * v.extend(0.0);
        let normal = pose * DVec3::Z;
        let side = if spec.bend.up { 1.0 } else { -1.0 };
        let (s, c) = spec.bend.angle.sin_cos();
        let (x3, y3) = (space(x), space(y) * c + normal * (side * s));
        let pose = DMat3::from_cols(x3, y3, x3.cross(y3));
        let corners = [
            DVec2::ZERO,
            DVec2::new(width, 0.0),
            DVec2::new(width, spec.bend.straight),
            DVec2::new(0.0, spec.bend.straight),
        ];
        let name = spec.name.clone();
        let tags = [
            NO_TAG,
            self.tag(reference::part(&name, "right")),
            self.tag(reference::part(&name, "tip")),
            self.tag(reference::part(&name, "left")),
        ];
        let sides = corners
            .iter()
            .zip(tags)
            .map(|(&from, tag)| Side { from, bulge: 0.0, tag, folds: Vec::new() })
            .collect();
        let parent = if edge.node == 0 { zone } else { edge.node };
        let deep = self.nodes[edge.node].deep + 1;
        self.nodes.push(Node {
            sides,
            spec: Some(spec),
            parent,
            pose,
            turn: right,
            part: edge.part,
            deep,
            off: false,
        });
        let id = self.nodes.len() - 1;
        self.nodes[edge.node].sides[edge.side].folds.push(id);
        id
    }

    /// The panels folded from one panel.
    pub fn folds_beside(&self, node: usize) -> Vec<usize> {
        self.nodes[node].sides.iter().flat_map(|s| s.folds.iter().copied()).collect()
    }

    /// Whether the whole of an edge is folded.
    pub fn is_folded(&self, edge: &Edge) -> bool {
        let full = |&f: &usize| self.nodes[f].spec.as_ref().is_some_and(|s| s.span == SpanOf::Full);
        self.nodes[edge.node].sides[edge.side].folds.iter().any(full)
    }

    /// The node with this panel name.
    pub fn panel(&self, name: &str) -> Option<usize> {
        self.nodes.iter().position(|n| !n.off && n.spec.as_ref().is_some_and(|s| s.name == name))
    }

    /// Orientation of any panel by name: one of the start's, or a folded one.
    pub fn pose_of(&self, name: &str) -> Option<DMat3> {
        let base = self.base.iter().position(|z| z.name == name && z.is_panel()).map(|i| self.base_frames[i]);
        base.or_else(|| self.panel(name).map(|n| self.nodes[n].pose))
    }
}

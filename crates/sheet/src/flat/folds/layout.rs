//! The tree of panels laid out flat: where tangent lines, ends and reliefs come to lie, the outline round it
//! all, and its zones.

use glam::DVec2;
use ground::geom::ROUNDING;

use super::close::Trim;
use super::on_edge::{Beside, End, Placed};
use super::reliefs::{Met, ReliefCut};
use super::tree::{DEEPEST, FoldSpec, NO_TAG, Node, RIGHT, TIP, Tree};
use crate::flat::bends::BendFact;
use crate::formed::zones::{BendZone, Kind, Zone};
use ground::geom::{CHORD, Contour, Vertex};
use ground::reference;
use shop::bend::setback;

/// What cannot be laid out: the node, what is wrong, how to mend it.
pub struct Trouble {
    pub node: usize,
    pub message: String,
    pub mend: String,
}

#[derive(Default)]
pub struct Laid {
    pub outer: Contour,
    pub zones: Vec<Zone>,
    pub bends: Vec<BendFact>,
    pub corners: Vec<Met>,
    pub narrowed: Vec<Narrowed>,
    pub reliefs: Vec<ReliefCut>,
    pub troubles: Vec<Trouble>,
    /// Told corners that no two folds meet at: told index, name.
    pub unmet: Vec<(usize, String)>,
    /// Names that corners go by here.
    pub corner_names: Vec<String>,
}

/// Where a panel is laid: the flat place of its frame, and how its ends are trimmed.
pub(super) struct Seat {
    pub origin: DVec2,
    pub turn: DVec2,
    /// x of the base's ends in its own frame: left, right.
    pub base: [f64; 2],
    pub trims: [Trim; 2],
    pub ctx: [Option<Beside>; 2],
    pub zone: usize,
    pub width: f64,
}

/// An edge whose fold is narrower than the edge was told, for its bend begins inside a panel that tapers.
#[derive(Clone, Debug)]
pub struct Narrowed {
    /// The fold, and its line.
    pub name: String,
    pub line: String,
    pub told: f64,
    pub got: f64,
    pub at: DVec2,
}

/// Narrower by less is not told, mm.
const NARROWED: f64 = 0.05;

pub fn lay_out(tree: &Tree) -> Laid {
    let mut out = Laid { zones: tree.base.clone(), ..Laid::default() };
    let mut work =
        Work { tree, out: &mut out, named: vec![false; tree.closings.iter().map(|c| c.at.len()).sum()] };
    let seat = Seat {
        origin: DVec2::ZERO,
        turn: DVec2::X,
        base: [0.0; 2],
        trims: [Trim::default(); 2],
        ctx: [None; 2],
        zone: 0,
        width: 0.0,
    };
    let mut outline = Vec::new();
    work.panel(0, &seat, &mut outline, 0);
    let named = work.named;
    let mut k = 0;
    for (i, told) in tree.closings.iter().enumerate() {
        for name in &told.at {
            if !named[k] {
                out.unmet.push((i, name.clone()));
            }
            k += 1;
        }
    }
    out.outer = Contour { vertices: outline }.without_short_sides();
    out
}

pub(super) struct Work<'a> {
    pub tree: &'a Tree,
    pub out: &'a mut Laid,
    /// Which told corner names were met.
    pub named: Vec<bool>,
}

impl Work<'_> {
    /// Corners of a panel in its own frame, its ends trimmed.
    fn corners(&self, node: &Node, seat: &Seat) -> Vec<DVec2> {
        let Some(spec) = &node.spec else { return node.sides.iter().map(|s| s.from).collect() };
        let [left, right] = seat.trims;
        let at = |t: &Trim, y: f64| {
            t.low
                + (t.high - t.low) * if spec.bend.straight > ROUNDING { y / spec.bend.straight } else { 0.0 }
        };
        let place = |p: DVec2| match p.x {
            x if x <= ROUNDING => DVec2::new(x + seat.base[0] - at(&left, p.y), p.y),
            x if x >= seat.width - ROUNDING => {
                DVec2::new(x - seat.width + seat.base[1] + at(&right, p.y), p.y)
            }
            _ => p,
        };
        node.sides.iter().map(|s| place(s.from)).collect()
    }

    /// Lays a panel and what hangs on it; returns the outline of the panel itself, in the flat.
    fn panel(&mut self, id: usize, seat: &Seat, outline: &mut Vec<Vertex>, deep: usize) -> Vec<Vertex> {
        let tree = self.tree;
        let node = &tree.nodes[id];
        let corners = self.corners(node, seat);
        let n = corners.len();
        let mut placed = self.place(id, &corners);
        let dir = |i: usize| (corners[(i + 1) % n] - corners[i]).normalize_or_zero();
        // Where the corners go when tangent lines move in.
        let moved = |i: usize| {
            let before = placed
                .iter()
                .filter(|p| p.side == (i + n - 1) % n && p.ends[1] == End::Corner)
                .map(|p| p.shift)
                .next_back();
            let after = placed.iter().find(|p| p.side == i && p.ends[0] == End::Corner).map(|p| p.shift);
            let (d, e) = (dir((i + n - 1) % n), dir(i));
            let (p, q) =
                (corners[i] + d.perp() * before.unwrap_or(0.0), corners[i] + e.perp() * after.unwrap_or(0.0));
            let cross = d.perp_dot(e);
            if before.is_none() && after.is_none() || cross.abs() < ROUNDING {
                corners[i]
            } else {
                p + d * ((q - p).perp_dot(e) / cross)
            }
        };
        let at: Vec<DVec2> = (0..n).map(moved).collect();
        let flat = |p: DVec2| seat.origin + seat.turn.rotate(p);
        for p in &mut placed {
            let (d, s) = (dir(p.side), corners[p.side]);
            for k in 0..2 {
                p.base[k] = match p.ends[k] {
                    End::Corner => at[(p.side + k) % n],
                    _ => s + d * p.span[k] + d.perp() * p.shift,
                };
            }
        }
        let alone = |side: usize| !placed.iter().any(|p| p.side == side);
        let narrowed = placed
            .iter()
            .filter(|p| alone((p.side + n - 1) % n) && alone((p.side + 1) % n))
            .filter_map(|p| {
                let (told, got) = (p.span[1] - p.span[0], (p.base[1] - p.base[0]).dot(dir(p.side)));
                // What comes from geometry is as wide as it is meant to be.
                let meant = |s: &&FoldSpec| s.path.is_some() && told - got > NARROWED;
                let spec = tree.nodes[p.node].spec.as_ref().filter(meant)?;
                Some(Narrowed {
                    name: spec.name.clone(),
                    line: spec.line.clone(),
                    told,
                    got,
                    at: flat((p.base[0] + p.base[1]) / 2.0),
                })
            });
        self.out.narrowed.extend(narrowed);
        self.close_corners(&mut placed, &at, &dir, &flat, n);
        self.tips(node, &mut placed, seat);
        // The panel's own zone: the outline with each fold cut off at its tangent line.
        let mut region = Vec::new();
        let mut pieces: Vec<(Vec<Vertex>, Option<usize>)> = Vec::new();
        for i in 0..n {
            let side = &node.sides[i];
            if side.tag == NO_TAG {
                region.push(at[i]);
                continue;
            }
            let mut run = vec![Vertex { p: at[i], bulge: side.bulge, tag: side.tag }];
            for (k, p) in placed.iter().enumerate().filter(|p| p.1.side == i) {
                let spec = tree.nodes[p.node].spec.as_ref();
                let relief = spec.map(|s| s.relief);
                if let (End::Relieved, Some(r)) = (p.ends[0], relief) {
                    run.extend(self.notch(
                        corners[i] + dir(i) * p.span[0],
                        dir(i),
                        p.shift,
                        &r,
                        side.tag,
                        false,
                    ));
                }
                run.push(Vertex { p: p.base[0], bulge: 0.0, tag: side.tag });
                pieces.push((std::mem::take(&mut run), Some(k)));
                run.push(Vertex { p: p.base[1], bulge: 0.0, tag: side.tag });
                if let (End::Relieved, Some(r)) = (p.ends[1], relief) {
                    run.extend(self.notch(
                        corners[i] + dir(i) * p.span[1],
                        dir(i),
                        p.shift,
                        &r,
                        side.tag,
                        true,
                    ));
                }
            }
            pieces.push((run, None));
        }
        // Round the panel and its tabs, which lie in its zone.
        let mut own = Vec::new();
        for (run, fold) in pieces {
            let run: Vec<Vertex> = run.into_iter().map(|v| Vertex { p: flat(v.p), ..v }).collect();
            own.extend(run.iter().copied());
            outline.extend(run);
            if let Some(k) = fold
                && deep < DEEPEST
            {
                own.extend(self.flange(&placed[k], id, seat, dir(placed[k].side), outline, deep));
            }
        }
        let zone = &mut self.out.zones[seat.zone];
        let is_tab = node.spec.as_ref().is_some_and(|s| s.is_tab);
        let remade = if id == 0 { tree.base.len() == 1 && !placed.is_empty() } else { !is_tab };
        if remade {
            let region = match id {
                0 => Contour { vertices: own.clone() }.without_short_sides().flatten(CHORD),
                _ => region.into_iter().map(flat).chain(own.iter().map(|v| v.p)).collect(),
            };
            let parent = zone.parent.filter(|_| id > 0);
            *zone = Zone { parent, ..zone.lying_in(region) };
        }
        own
    }

    /// The bend and the panel beyond it; of a tab, what it adds to the outline of the panel that it is part
    /// of.
    fn flange(
        &mut self,
        p: &Placed,
        parent: usize,
        seat: &Seat,
        dir: DVec2,
        outline: &mut Vec<Vertex>,
        deep: usize,
    ) -> Vec<Vertex> {
        let tree = self.tree;
        let node = &tree.nodes[p.node];
        let Some(spec) = &node.spec else { return Vec::new() };
        let out = -dir.perp();
        let flat = |q: DVec2| seat.origin + seat.turn.rotate(q);
        let ba = spec.bend.allowance.length;
        let ends =
            [p.base[0] - dir * p.trims[0].bend + out * ba, p.base[1] + dir * p.trims[1].bend + out * ba];
        let along = seat.turn.rotate(out);
        let middle = flat((p.base[0] + p.base[1]) / 2.0);
        let zone = BendZone {
            angle: spec.bend.angle,
            up: spec.bend.up,
            radius: spec.bend.radius,
            allowance: ba,
            k: spec.bend.allowance.k,
        };
        let region = [p.base[1], p.base[0], ends[0], ends[1]].map(flat).to_vec();
        let above = if parent == 0 { node.parent } else { seat.zone };
        if spec.is_tab {
            if let Some(v) = outline.last_mut() {
                v.tag = node.sides[RIGHT].tag;
            }
            let base = [0.0, p.base[0].distance(p.base[1])];
            let turn = seat.turn.rotate(-dir);
            let seat = Seat {
                origin: flat(p.base[1]),
                turn,
                base,
                trims: [Trim::default(); 2],
                ctx: [None; 2],
                zone: above,
                width: base[1],
            };
            return self.panel(p.node, &seat, outline, deep + 1);
        }
        let bend = reference::part(&spec.name, "bend");
        self.out.zones.push(Zone::new(
            bend.clone(),
            &spec.line,
            Kind::Bend(zone),
            Some(above),
            [middle, along],
            region,
        ));
        let bend_zone = self.out.zones.len() - 1;
        let place = [middle + along * ba, along];
        let has_panel = spec.bend.straight > ROUNDING;
        if has_panel {
            let (name, from) = (spec.name.clone(), Some(bend_zone));
            let panel = Zone::new(name, &spec.line, Kind::Panel, from, place, vec![place[0]]);
            self.out.zones.push(Zone { is_glued: spec.is_glued, ..panel });
        }
        let panel_zone = self.out.zones.len() - 1;
        let ossb = setback(spec.bend.radius + tree.t, spec.bend.angle);
        self.out.bends.push(BendFact {
            zone: bend_zone,
            name: bend,
            label: spec.name.clone(),
            line: spec.line.clone(),
            angle: spec.bend.angle,
            up: spec.bend.up,
            radius: spec.bend.radius,
            deduction: 2.0 * ossb - ba,
            allowance: spec.bend.allowance.clone(),
            ossb,
            rolled: false,
            ends: [flat((p.base[0] + ends[0]) / 2.0), flat((p.base[1] + ends[1]) / 2.0)],
            pointer: spec.path.as_ref().map(|p| format!("/lines/{}{p}", spec.index)),
            role: spec.role,
            flange: spec.is_flange().then_some(spec.bend.straight + ossb),
        });
        // The panel's frame: x to the right (back along the outline) from the left end of its fold line.
        let (right_tag, left_tag) = (node.sides[RIGHT].tag, node.sides.last().map_or(0, |s| s.tag));
        let foot = p.base[1] + out * ba;
        let base = [0.0, p.base[0].distance(p.base[1])];
        let trims = [p.trims[1], p.trims[0]];
        // The sides of the bend belong to the sides of the panel.
        if let Some(v) = outline.last_mut() {
            v.tag = right_tag;
        }
        let v = |q: DVec2, tag: u32| Vertex { p: flat(q), bulge: 0.0, tag };
        outline.push(v(ends[0], if has_panel { right_tag } else { node.sides[TIP].tag }));
        if has_panel {
            let width = node.sides[RIGHT].from.x;
            let seat = Seat {
                origin: flat(foot),
                turn: seat.turn.rotate(-dir),
                base,
                trims,
                ctx: [p.ctx[1], p.ctx[0]],
                zone: panel_zone,
                width,
            };
            self.panel(p.node, &seat, outline, deep + 1);
            outline.push(v(foot + dir * p.trims[1].low, left_tag));
        }
        outline.push(v(ends[1], left_tag));
        Vec::new()
    }
}

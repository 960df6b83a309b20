//! The tree of panels laid out flat: where tangent lines, ends and reliefs come to lie, the outline round it
//! all, and its zones.

use glam::DVec2;

use super::close::{Profile, Trim, close, closes, mitre};
use super::reliefs::{Met, ReliefCut, corner_name, relief};
use super::tree::{Closing, DEEPEST, FoldSpec, NO_TAG, Node, RIGHT, ReliefOf, SpanOf, TIP, Tree};
use crate::choices::{Close, CornerRelief, ReliefKind};
use crate::flat::bends::BendFact;
use crate::formed::zones::{BendZone, Kind, Zone};
use ground::geom::{CHORD, Contour, Vertex};
use ground::reference;
use shop::bend::setback;
use shop::limits;

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

/// One end of a fold on its edge.
#[derive(Clone, Copy, Debug, PartialEq)]
enum End {
    /// At a corner of the panel.
    Corner,
    /// On the edge with nothing cut beside it.
    Flush,
    /// With a relief beside it.
    Relieved,
}

/// A fold in place: distances along its side, its ends in the direction of travel.
struct Placed {
    node: usize,
    side: usize,
    span: [f64; 2],
    ends: [End; 2],
    shift: f64,
    trims: [Trim; 2],
    ctx: [Option<Beside>; 2],
    /// On the near tangent line.
    base: [DVec2; 2],
}

/// The neighbour that shares a closed corner, for what is folded from the tips of both.
#[derive(Clone, Copy, Debug)]
struct Beside {
    half: f64,
    /// Section of the wall where its panel starts.
    profile: Profile,
    node: usize,
}

/// Where a panel is laid: the flat place of its frame, and how its ends are trimmed.
struct Seat {
    origin: DVec2,
    turn: DVec2,
    /// x of the base's ends in its own frame: left, right.
    base: [f64; 2],
    trims: [Trim; 2],
    ctx: [Option<Beside>; 2],
    zone: usize,
    width: f64,
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

struct Work<'a> {
    tree: &'a Tree,
    out: &'a mut Laid,
    /// Which told corner names were met.
    named: Vec<bool>,
}

impl Work<'_> {
    /// Corners of a panel in its own frame, its ends trimmed.
    fn corners(&self, node: &Node, seat: &Seat) -> Vec<DVec2> {
        let Some(spec) = &node.spec else { return node.sides.iter().map(|s| s.from).collect() };
        let [left, right] = seat.trims;
        let at = |t: &Trim, y: f64| {
            t.low + (t.high - t.low) * if spec.bend.straight > 1e-9 { y / spec.bend.straight } else { 0.0 }
        };
        let place = |p: DVec2| match p.x {
            x if x <= 1e-9 => DVec2::new(x + seat.base[0] - at(&left, p.y), p.y),
            x if x >= seat.width - 1e-9 => DVec2::new(x - seat.width + seat.base[1] + at(&right, p.y), p.y),
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
            if before.is_none() && after.is_none() || cross.abs() < 1e-9 {
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
                let spec = tree.nodes[p.node].spec.as_ref().filter(|_| told - got > NARROWED)?;
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
            *zone = Zone::new(
                zone.name.clone(),
                &zone.line,
                zone.kind,
                zone.parent.filter(|_| id > 0),
                [zone.origin, zone.along],
                region,
            );
        }
        own
    }

    /// The folds of a panel along their sides.
    fn place(&mut self, id: usize, corners: &[DVec2]) -> Vec<Placed> {
        let tree = self.tree;
        let node = &tree.nodes[id];
        let n = corners.len();
        let mut out: Vec<Placed> = Vec::new();
        for (i, side) in node.sides.iter().enumerate() {
            let (a, b) = (corners[i], corners[(i + 1) % n]);
            let length = a.distance(b);
            let mut here: Vec<Placed> = Vec::new();
            for &f in side.folds.iter().filter(|f| !tree.nodes[**f].off) {
                let Some(spec) = &tree.nodes[f].spec else { continue };
                let shift = spec.bend.shift(tree.t);
                let (p, q) = tree.nodes[f].part.unwrap_or((0.0, length));
                // Seen with the fold at the bottom, left is the far end of travel.
                let (after, before) = match spec.span {
                    SpanOf::Full => (0.0, 0.0),
                    SpanOf::Inset(left, right) => (left, right),
                    SpanOf::Centred(w) => ((q - p - w) / 2.0, (q - p - w) / 2.0),
                    SpanOf::At(middle, w) => (middle - w / 2.0, q - p - middle - w / 2.0),
                };
                let mut span = [p + before, q - after];
                let mut ends = [End::Flush; 2];
                for k in 0..if spec.is_tab { 0 } else { 2 } {
                    let inset = [before, after][k];
                    let at_corner = if k == 0 { p < 1e-6 } else { q > length - 1e-6 };
                    let cut = spec.relief.kind != ReliefKind::Torn || shift > 1e-9;
                    ends[k] = if inset > 1e-9 {
                        if cut { End::Relieved } else { End::Flush }
                    } else if at_corner {
                        let end = self.corner_end(node, corners, i, k, shift);
                        if end == End::Relieved {
                            span[k] += if k == 0 { spec.relief.width } else { -spec.relief.width };
                        }
                        end
                    } else {
                        span[k] += if k == 0 { spec.relief.width } else { -spec.relief.width };
                        End::Relieved
                    };
                }
                here.push(Placed {
                    node: f,
                    side: i,
                    span,
                    ends,
                    shift,
                    trims: [Trim::default(); 2],
                    ctx: [None; 2],
                    base: [DVec2::ZERO; 2],
                });
            }
            here.sort_by(|a, b| a.span[0].total_cmp(&b.span[0]));
            let mut from = 0.0;
            here.retain(|p| {
                let spec = tree.nodes[p.node].spec.as_ref();
                let width = |k: usize| {
                    if p.ends[k] == End::Relieved { spec.map_or(0.0, |s| s.relief.width) } else { 0.0 }
                };
                let told_inset = spec.is_some_and(|s| s.span != SpanOf::Full);
                let (low, high) = (p.span[0] - width(0), p.span[1] + width(1));
                let sliver = told_inset
                    && ((low > -1e-6 && low < 1e-6 && p.ends[0] == End::Relieved)
                        || (high - length).abs() < 1e-6 && p.ends[1] == End::Relieved);
                let inward = (b - a).normalize_or_zero().perp();
                let room = corners.iter().map(|c| (*c - a).dot(inward)).fold(0.0, f64::max);
                let cut = if p.ends.contains(&End::Relieved) {
                    spec.map_or(0.0, |s| if s.relief.kind == ReliefKind::Torn { 0.0 } else { s.relief.depth })
                } else {
                    0.0
                };
                if p.shift + cut > room - 1e-6 {
                    let message =
                        "the bend and its reliefs reach deeper than the panel behind the edge".to_string();
                    let mend = "bend from the edge, use a smaller radius or relief, or make the panel longer"
                        .to_string();
                    self.out.troubles.push(Trouble { node: p.node, message, mend });
                    return false;
                }
                let fits =
                    low >= from - 1e-6 && high <= length + 1e-6 && p.span[1] - p.span[0] > 1e-3 && !sliver;
                if fits {
                    from = high;
                } else if spec.is_some_and(|s| s.is_tab) {
                    let message =
                        "the tab runs past the end of its edge, or over what else is told there".to_string();
                    self.out.troubles.push(Trouble {
                        node: p.node,
                        message,
                        mend: "write a smaller width, or another place".to_string(),
                    });
                } else {
                    let message = "the fold and the reliefs beside it do not fit on the edge".to_string();
                    let mend = "write a smaller width, a larger inset, or fold the full edge".to_string();
                    self.out.troubles.push(Trouble { node: p.node, message, mend });
                }
                fits
            });
            out.append(&mut here);
        }
        out
    }

    /// How a fold that runs to the end of its side ends there.
    fn corner_end(&self, node: &Node, corners: &[DVec2], side: usize, k: usize, shift: f64) -> End {
        let n = corners.len();
        let (vertex, beside) =
            if k == 0 { (side, (side + n - 1) % n) } else { ((side + 1) % n, (side + 1) % n) };
        let dir = |i: usize| (corners[(i + 1) % n] - corners[i]).normalize_or_zero();
        let neighbour = &node.sides[beside];
        // Beside the fold that the panel itself hangs on, the bend would tear.
        if neighbour.tag == NO_TAG {
            return End::Relieved;
        }
        let turn = dir((vertex + n - 1) % n).angle_to(dir(vertex));
        if neighbour.bulge.abs() < 1e-9 && turn > 1e-3 {
            End::Corner
        } else if shift < 1e-9 {
            End::Flush
        } else {
            End::Relieved
        }
    }

    /// The relief beside one end of a fold, in the order of travel. `after`: it follows the fold.
    fn notch(&self, at: DVec2, dir: DVec2, shift: f64, r: &ReliefOf, tag: u32, after: bool) -> Vec<Vertex> {
        let inward = dir.perp();
        let out = if after { dir } else { -dir };
        let (w, deep) = (r.width, shift + if r.kind == ReliefKind::Torn { 0.0 } else { r.depth });
        let v = |p: DVec2, bulge: f64| Vertex { p, bulge, tag };
        let mut run = match r.kind {
            ReliefKind::RoundEnded => {
                let mouth = (deep - w / 2.0).max(0.0);
                // Clockwise round the end, as the outline runs with material on its left.
                vec![
                    v(at + out * w, 0.0),
                    v(at + out * w + inward * mouth, -1.0),
                    v(at + inward * mouth, 0.0),
                ]
            }
            _ => vec![v(at + out * w, 0.0), v(at + out * w + inward * deep, 0.0), v(at + inward * deep, 0.0)],
        };
        if after {
            run.reverse();
            // A bulge belongs to the vertex that the arc leaves.
            if r.kind == ReliefKind::RoundEnded {
                run[0].bulge = -1.0;
                run[1].bulge = 0.0;
            }
        }
        run
    }

    /// Trims of folds that meet, and the reliefs at their corners.
    fn close_corners(
        &mut self,
        placed: &mut [Placed],
        at: &[DVec2],
        dir: &dyn Fn(usize) -> DVec2,
        flat: &dyn Fn(DVec2) -> DVec2,
        n: usize,
    ) {
        let tree = self.tree;
        for (i, corner) in at.iter().enumerate() {
            let before = placed.iter().rposition(|p| p.side == (i + n - 1) % n && p.ends[1] == End::Corner);
            let after = placed.iter().position(|p| p.side == i && p.ends[0] == End::Corner);
            let (Some(b), Some(a)) = (before, after) else { continue };
            if a == b {
                continue;
            }
            let (Some(bs), Some(after_spec)) =
                (tree.nodes[placed[b].node].spec.as_ref(), tree.nodes[placed[a].node].spec.as_ref())
            else {
                continue;
            };
            let name = corner_name(tree, placed[b].node, placed[a].node);
            let (how, told) = self.told(&name);
            let (d, e) = (dir((i + n - 1) % n), dir(i));
            let turn = d.angle_to(e);
            let [before_trim, after_trim] = close(bs, after_spec, turn, &how, tree.t);
            placed[b].trims[1] = before_trim;
            placed[a].trims[0] = after_trim;
            if how.close != Close::Open && closes(bs, after_spec) {
                let half = (turn / 2.0).tan();
                let wall = |s: &FoldSpec| Profile::START.bent(s, tree.t);
                placed[b].ctx[1] = Some(Beside { half, profile: wall(bs), node: placed[a].node });
                placed[a].ctx[0] = Some(Beside { half, profile: wall(after_spec), node: placed[b].node });
            }
            let c = flat(*corner);
            let outward = flat(*corner - (d.perp() + e.perp())) - c;
            let cut = relief(&how, c, outward.normalize_or_zero(), bs, after_spec, tree.t);
            if let (Some((contour, least)), Some(told)) = (cut, told.map(|i| &tree.closings[i])) {
                self.out.reliefs.push(ReliefCut {
                    name: reference::part(&told.line, &name),
                    index: told.index,
                    contour,
                    centre: c,
                    least,
                });
            }
            self.out.corner_names.push(name.clone());
            self.out.corners.push(Met {
                name,
                at: c,
                panels: [bs.name.clone(), after_spec.name.clone()],
                relief: how.relief,
            });
        }
    }

    /// How a corner is told to meet: the last line that names it, or all.
    fn told(&mut self, name: &str) -> (Closing, Option<usize>) {
        let mut k = 0;
        let mut found: Option<(Closing, usize)> = None;
        for (i, told) in self.tree.closings.iter().enumerate() {
            if told.at.is_empty() {
                found = Some((told.how, i));
            }
            for at in &told.at {
                if at == name {
                    self.named[k] = true;
                    found = Some((told.how, i));
                }
                k += 1;
            }
        }
        let usual = Closing {
            close: Close::Edge,
            gap: limits::corner_gap(self.tree.t).value,
            relief: CornerRelief::None,
            relief_size: 0.0,
        };
        (found.map_or(usual, |f| f.0), found.map(|f| f.1))
    }

    /// Ends of folds on the tip of this panel, where the neighbour round the corner has the same.
    fn tips(&self, node: &Node, placed: &mut [Placed], seat: &Seat) {
        let tree = self.tree;
        let Some(own) = &node.spec else { return };
        if node.sides.len() != 4 {
            return;
        }
        for p in placed.iter_mut().filter(|p| p.side == TIP) {
            let Some(spec) = &tree.nodes[p.node].spec else { continue };
            for k in 0..2 {
                // Travel along the tip runs from right to left.
                let Some(ctx) = seat.ctx[1 - k] else { continue };
                let Some(twin) = tip_fold(tree, ctx.node) else { continue };
                let same = tree.nodes[twin].spec.as_ref().is_some_and(|t| {
                    t.bend.up == spec.bend.up && (t.bend.angle - spec.bend.angle).abs() < 1e-9
                });
                if !same || p.ends[k] != End::Corner {
                    continue;
                }
                let start = ctx.profile.on(own.bend.straight - p.shift);
                p.trims[k] = mitre(spec, start, ctx.half, tree.t);
                p.ctx[k] = Some(Beside { half: ctx.half, profile: start.bent(spec, tree.t), node: twin });
            }
        }
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
        let has_panel = spec.bend.straight > 1e-9;
        if has_panel {
            self.out.zones.push(Zone::new(
                spec.name.clone(),
                &spec.line,
                Kind::Panel,
                Some(bend_zone),
                place,
                vec![place[0]],
            ));
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

/// The fold that covers the whole tip of a panel.
fn tip_fold(tree: &Tree, node: usize) -> Option<usize> {
    let node = &tree.nodes[node];
    let side = (node.sides.len() == 4).then(|| &node.sides[TIP])?;
    let mut folds = side.folds.iter().copied().filter(|f| !tree.nodes[*f].off);
    let first = folds.next()?;
    let full = tree.nodes[first].spec.as_ref().is_some_and(|s| s.span == SpanOf::Full);
    (full && folds.next().is_none()).then_some(first)
}

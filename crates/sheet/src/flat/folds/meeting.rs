//! Folds that meet at a corner: how far each runs into it, and the relief that is cut there.

use glam::DVec2;
use ground::geom::ROUNDING;

use super::close::{Profile, close, closes, mitre};
use super::layout::{Seat, Work};
use super::on_edge::{Beside, End, Placed};
use super::reliefs::{Met, ReliefCut, corner_name, relief};
use super::tree::{Closing, FoldSpec, Node, SpanOf, TIP, Tree};
use crate::choices::{Close, CornerRelief};
use crate::flat::bends::BendRole;
use ground::reference;
use shop::limits;

impl Work<'_> {
    /// Trims of folds that meet, and the reliefs at their corners.
    pub(super) fn close_corners(
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
            // Ends of what is creased are told, and nothing tears there.
            if [bs, after_spec].iter().any(|s| s.role == BendRole::Crease) {
                continue;
            }
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
    pub(super) fn tips(&self, node: &Node, placed: &mut [Placed], seat: &Seat) {
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
                    t.bend.up == spec.bend.up && (t.bend.angle - spec.bend.angle).abs() < ROUNDING
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

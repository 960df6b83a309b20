//! The folds of a panel along its edges: where each begins and ends, what is cut beside it, and those that
//! find
//! no room.

use glam::DVec2;
use ground::geom::{COINCIDENT, ROUNDING};

use super::close::{Profile, Trim};
use super::layout::{Trouble, Work};
use super::tree::{NO_TAG, Node, ReliefOf, SpanOf};
use crate::choices::ReliefKind;
use ground::geom::Vertex;

/// One end of a fold on its edge.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum End {
    /// At a corner of the panel.
    Corner,
    /// On the edge with nothing cut beside it.
    Flush,
    /// With a relief beside it.
    Relieved,
}

/// A fold in place: distances along its side, its ends in the direction of travel.
pub(super) struct Placed {
    pub node: usize,
    pub side: usize,
    pub span: [f64; 2],
    pub ends: [End; 2],
    pub shift: f64,
    pub trims: [Trim; 2],
    pub ctx: [Option<Beside>; 2],
    /// On the near tangent line.
    pub base: [DVec2; 2],
}

/// The neighbour that shares a closed corner, for what is folded from the tips of both.
#[derive(Clone, Copy, Debug)]
pub(super) struct Beside {
    pub half: f64,
    /// Section of the wall where its panel starts.
    pub profile: Profile,
    pub node: usize,
}

impl Work<'_> {
    /// The folds of a panel along their sides.
    pub(super) fn place(&mut self, id: usize, corners: &[DVec2]) -> Vec<Placed> {
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
                    let at_corner = if k == 0 { p < COINCIDENT } else { q > length - COINCIDENT };
                    let cut = spec.relief.kind != ReliefKind::Torn || shift > ROUNDING;
                    ends[k] = if inset > ROUNDING {
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
                    trims: spec.trims,
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
                    && ((low > -COINCIDENT && low < COINCIDENT && p.ends[0] == End::Relieved)
                        || (high - length).abs() < COINCIDENT && p.ends[1] == End::Relieved);
                let inward = (b - a).normalize_or_zero().perp();
                let room = corners.iter().map(|c| (*c - a).dot(inward)).fold(0.0, f64::max);
                let cut = if p.ends.contains(&End::Relieved) {
                    spec.map_or(0.0, |s| if s.relief.kind == ReliefKind::Torn { 0.0 } else { s.relief.depth })
                } else {
                    0.0
                };
                if p.shift + cut > room - COINCIDENT {
                    let message =
                        "the bend and its reliefs reach deeper than the panel behind the edge".to_string();
                    let mend = "bend from the edge, use a smaller radius or relief, or make the panel longer"
                        .to_string();
                    self.out.troubles.push(Trouble { node: p.node, message, mend });
                    return false;
                }
                let fits = low >= from - COINCIDENT
                    && high <= length + COINCIDENT
                    && p.span[1] - p.span[0] > 1e-3
                    && !sliver;
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
    pub(super) fn corner_end(
        &self,
        node: &Node,
        corners: &[DVec2],
        side: usize,
        k: usize,
        shift: f64,
    ) -> End {
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
        if neighbour.bulge.abs() < ROUNDING && turn > 1e-3 {
            End::Corner
        } else if shift < ROUNDING {
            End::Flush
        } else {
            End::Relieved
        }
    }

    /// The relief beside one end of a fold, in the order of travel. `after`: it follows the fold.
    pub(super) fn notch(
        &self,
        at: DVec2,
        dir: DVec2,
        shift: f64,
        r: &ReliefOf,
        tag: u32,
        after: bool,
    ) -> Vec<Vertex> {
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
}

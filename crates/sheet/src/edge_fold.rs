//! A flange on an edge of a plate that comes from geometry: where its edge lies, how far it is bent, how its
//! ends are cut, and the holes along it.

use glam::DVec2;
use ground::geom::{Bounds, COINCIDENT, Contour};
use ground::quantity::Display;
use ground::reference;

use crate::choices::BendAt;
use crate::flat::bend_allowance::bend_by;
use crate::flat::bends::BendRole;
use crate::flat::feature::Feature;
use crate::flat::folds::{Bent, Edge, FoldSpec, SpanOf, Tree, Trim};
use crate::flat::pressed::Pressed;
use crate::flat::shape::ShapeSpec;
use crate::flat::spec::{Cuts, Panels, Standing, Turn};
use crate::verbs::bending::usual_relief;
use crate::verbs::further::too_short;

/// A flange; lengths in mm, angles in rad. Both ends are told in the order in which the outline runs, and
/// lengths across from the sharp edge where the outer faces meet, which is the plate's edge.
#[derive(Clone, Debug, PartialEq)]
pub struct EdgeFold {
    pub name: String,
    /// The line that tells it.
    pub told_by: String,
    /// In the flat of the plate, the way its outline runs.
    pub edge: [DVec2; 2],
    pub up: bool,
    pub angle: f64,
    /// The smallest that the material allows where none is told.
    pub radius: Option<f64>,
    pub width: f64,
    pub ends: [EdgeEnd; 2],
    /// How far in from either end the plate's edge is bevelled away: the bend keeps out of that, and square
    /// ends and those that are set back count from there.
    pub clear: [f64; 2],
    pub holes: Vec<EdgeHole>,
}

/// How a flange ends.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum EdgeEnd {
    /// Square, at the end of its edge.
    Square,
    /// Square, so far before it, with a relief.
    SetBack(f64),
    /// Along a line: beyond the end of its edge by `slope` for each mm across, less `back`.
    Slanting { slope: f64, back: f64 },
}

/// A round hole of a flange.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct EdgeHole {
    /// From the first end of the edge.
    pub along: f64,
    pub across: f64,
    pub diameter: f64,
}

impl EdgeFold {
    /// What the row of its holes is called.
    pub fn holes_id(&self) -> String {
        format!("{}-holes", self.told_by)
    }

    pub fn length(&self) -> f64 {
        self.edge[0].distance(self.edge[1])
    }

    fn along(&self) -> DVec2 {
        (self.edge[1] - self.edge[0]).normalize_or_zero()
    }

    /// The same on a plate that is laid elsewhere; `over` when it is turned over to lie there.
    pub fn laid(&self, to: impl Fn(DVec2) -> DVec2, over: bool) -> EdgeFold {
        let mut out = EdgeFold { edge: self.edge.map(to), ..self.clone() };
        if over {
            out.edge.reverse();
            out.ends.reverse();
            out.clear.reverse();
            out.up = !out.up;
            let length = self.length();
            out.holes.iter_mut().for_each(|h| h.along = length - h.along);
        }
        out
    }

    /// The same on the other side of its plate.
    pub fn turned_over(&self) -> EdgeFold {
        EdgeFold { up: !self.up, ..self.clone() }
    }

    /// Flanges with the same key are the same, to a hundredth.
    pub fn key(&self) -> String {
        let r = |v: f64| (v * 100.0).round() as i64;
        let point = |p: DVec2| format!("{},{}", r(p.x), r(p.y));
        let end = |e: &EdgeEnd| match *e {
            EdgeEnd::Square => "square".into(),
            EdgeEnd::SetBack(v) => format!("back {}", r(v)),
            EdgeEnd::Slanting { slope, back } => format!("slanting {},{}", r(slope * 100.0), r(back)),
        };
        let mut holes: Vec<[i64; 3]> =
            self.holes.iter().map(|h| [h.along, h.across, h.diameter].map(r)).collect();
        holes.sort();
        let [edge, ends] = [self.edge.map(point), [0, 1].map(|k| end(&self.ends[k]))].map(|e| e.join(" "));
        let (angle, radius) = (r(self.angle.to_degrees() * 10.0), self.radius.map(r));
        format!("{edge} {} {angle} {radius:?} {} {ends} {holes:?}", self.up, r(self.width))
    }

    /// The same flange, wherever within what is one it was worked out.
    pub fn is_like(&self, other: &EdgeFold) -> bool {
        self.key() == other.key()
    }

    /// From the sharp to either tangent line.
    fn sharp(&self, r: f64, t: f64) -> f64 {
        (r + t) * (self.angle / 2.0).tan()
    }

    /// The side of the start that is its edge.
    fn side(&self, tree: &Tree) -> Option<usize> {
        (0..tree.nodes[0].sides.len()).find(|s| {
            let [a, b] = tree.ends(0, *s);
            a.distance(self.edge[0]) < COINCIDENT && b.distance(self.edge[1]) < COINCIDENT
        })
    }

    /// How far its end lies beyond that of its bend, at the far tangent line and at its tip. `from` is where
    /// the bend ends on the near one, beyond the end of the edge.
    fn trim(&self, k: usize, from: f64, sharp: f64) -> Trim {
        let clear = self.clear[k];
        let at = |across: f64| match self.ends[k] {
            EdgeEnd::Square => from.min(0.0) - clear - from,
            EdgeEnd::SetBack(_) => 0.0,
            EdgeEnd::Slanting { slope, back } => slope * across - back - from,
        };
        let low = at(sharp);
        let bend = if matches!(self.ends[k], EdgeEnd::SetBack(_)) { low } else { low.min(-clear) };
        Trim { bend, low, high: at(self.width) }
    }
}

/// A flange and where it is told.
pub struct HungFold {
    pub fold: EdgeFold,
    /// The usual inside radius.
    pub radius: f64,
}

impl Panels for HungFold {
    fn hang(&self, turn: &mut Turn, tree: &mut Tree) -> Option<()> {
        let (f, t) = (&self.fold, tree.t);
        let (r, angle) = (f.radius.unwrap_or(self.radius), f.angle);
        let Some(side) = f.side(tree) else {
            let mend = "leave the flange out";
            turn.tell.refuse_at(
                "/say/width",
                format!("the edge of its {} flange is not there", f.name),
                mend,
            );
            return None;
        };
        let sharp = f.sharp(r, t);
        if f.width < sharp {
            too_short(turn.tell, "/say/width", sharp - f.width);
            return None;
        }
        let allowance = bend_by(turn.tell, turn.stock.rule, turn.stock, angle, r)?;
        // Where sides beside the edge slant, its bend ends elsewhere than it does.
        let n = tree.nodes[0].sides.len();
        let dir = |s: usize| {
            let [a, b] = tree.ends(0, s % n);
            (b - a).normalize_or_zero()
        };
        let own = dir(side);
        let from = [dir(side + n - 1), dir(side + 1)].map(|d| {
            let across = own.perp_dot(d).abs();
            if across < COINCIDENT { 0.0 } else { own.dot(d) * sharp / across }
        });
        let set_back = [0, 1].map(|k| if let EdgeEnd::SetBack(v) = f.ends[k] { v + f.clear[k] } else { 0.0 });
        let relief = usual_relief(turn.stock, r);
        // Of what stands beside the relief the bevel takes its part.
        if (0..2).any(|k| f.clear[k] > 0.0 && set_back[k] > 0.0 && set_back[k] < f.clear[k] + relief.width) {
            let least = turn.tell.display.length_unit(relief.width);
            let message = format!("beside its {} flange the relief runs into the bevelled edge", f.name);
            turn.tell.refuse_at("/say/ends/by", message, format!("write {least} or more"));
            return None;
        }
        let is_set_back = set_back.iter().any(|v| *v > 0.0);
        let span = if is_set_back { SpanOf::Inset(set_back[1], set_back[0]) } else { SpanOf::Full };
        let beyond = [0, 1].map(|k| if set_back[k] > 0.0 { -set_back[k] } else { from[k] });
        let trims = [0, 1].map(|k| f.trim(k, beyond[k], sharp));
        let base = f.length() + beyond[0] + beyond[1];
        let narrowest = [trims.map(|t| t.low), trims.map(|t| t.high)].map(|[a, b]| base + a + b);
        if narrowest[0].min(narrowest[1]) < COINCIDENT {
            let message = format!("nothing is left of its {} flange between its ends", f.name);
            turn.tell.refuse_at("/say/width", message, "write a narrower flange, or a smaller gap");
            return None;
        }
        let edge = Edge { node: 0, side, part: None };
        tree.hang(
            &edge,
            FoldSpec {
                index: turn.at.index,
                line: turn.at.line.into(),
                path: None,
                width_at: "/say/width",
                name: reference::part(turn.at.line, &f.name),
                role: BendRole::Fold,
                is_tab: false,
                is_glued: false,
                bend: Bent {
                    angle,
                    up: f.up,
                    radius: r,
                    allowance,
                    bend_at: BendAt::Sharp,
                    straight: f.width - sharp,
                },
                span,
                relief,
                trims,
            },
        );
        Some(())
    }
}

/// The holes of a flange, cut when it is laid flat.
pub struct HungHoles {
    pub fold: EdgeFold,
    pub radius: f64,
}

impl Cuts for HungHoles {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let (f, t) = (&self.fold, turn.stock.t);
        let name = reference::part(&f.told_by, &f.name);
        // Without its flange, which is told, there is nothing to cut.
        let zone = standing.blank.zones.iter().find(|z| z.name == name)?;
        let sharp = f.sharp(f.radius.unwrap_or(self.radius), t);
        let in_bend = |h: &&EdgeHole| h.across - h.diameter / 2.0 < sharp;
        if let Some(h) = f.holes.iter().find(in_bend) {
            let display = turn.tell.display;
            let [at, end, least] =
                [h.across, sharp, sharp + h.diameter / 2.0].map(|v| display.length_unit(v));
            let message = format!("holes {at} from the root reach into the bend, which ends at {end}");
            turn.tell.refuse_at("/say/across", message, format!("write {least} or more from the root"));
            return None;
        }
        let (along, out) = (f.along(), zone.along);
        let foot = zone.origin.dot(out) - sharp;
        let field = Bounds { min: zone.min, max: zone.max };
        let holes = f.holes.iter().enumerate().map(|(i, h)| {
            let centre = along * (f.edge[0].dot(along) + h.along) + out * (foot + h.across);
            let shape = ShapeSpec::Round { diameter: h.diameter };
            let contour: Contour = shape.contour().moved(0.0, centre);
            let id = turn.at.line;
            let name = if i > 0 { reference::copy(id, i + 1) } else { id.into() };
            Feature::cut(name, turn.at.index, contour, centre, shape.least(), field)
        });
        Some(holes.collect())
    }

    fn mark(&self, display: &Display, _: Option<&Pressed>) -> Option<String> {
        let first = self.fold.holes.first()?;
        Some(ShapeSpec::Round { diameter: first.diameter }.mark(display))
    }
}

//! What must be nought where an outline is as told.

use super::dual::{Dual, Pair};
use super::told::{Cause, Condition};
use super::unknowns::{System, Walk, wrapped};

impl Walk {
    /// The middle of an arc.
    fn middle(&self, system: &System, k: usize) -> Pair {
        let left = system.is_left(k);
        let out = Pair::direction(&self.begins[k]).left();
        self.corners[k].clone() + &out.times(&self.sizes[k].clone().times(if left { 1.0 } else { -1.0 }))
    }

    /// How far a point lies to the left of a line.
    fn beside(&self, line: usize, point: &Pair) -> Dual {
        let across = Pair::direction(&self.begins[line]).left();
        (point.clone() - &self.corners[line]).dot(&across)
    }

    /// The angle between the ways of two sides, turned to where its sine or cosine must be nought.
    fn between(&self, a: usize, b: usize) -> Dual {
        self.begins[b].clone() - &self.begins[a]
    }

    /// How far the outline turns to the left where a side begins.
    fn turn(&self, k: usize) -> Dual {
        let before = (k + self.ends.len() - 1) % self.ends.len();
        let turn = self.begins[k].clone() - &self.ends[before];
        Dual { value: wrapped(turn.value), slope: turn.slope }
    }
}

impl System<'_> {
    pub fn is_left(&self, k: usize) -> bool {
        matches!(self.told.sides[k].run, super::told::Run::Arc { left: true, .. })
    }

    fn is_arc(&self, k: usize) -> bool {
        self.told.sides[k].run.is_arc()
    }

    /// How far each thing that was told is from being so; lengths by the scale, angles in rad.
    pub fn misses(&self, x: &[f64]) -> Vec<Dual> {
        let walk = self.walk(x);
        let n = self.told.sides.len();
        let mut out = vec![walk.corners[n].x.clone(), walk.corners[n].y.clone()];
        out.extend(self.whole_turns(x));
        for (k, side) in self.told.sides.iter().enumerate() {
            let end = &walk.corners[k + 1];
            if let Some(at) = side.level.filter(|_| self.holds(Cause::Level(k))) {
                out.push(end.y.clone() - &walk.corners[at].y);
            }
            if let Some(at) = side.plumb.filter(|_| self.holds(Cause::Plumb(k))) {
                out.push(end.x.clone() - &walk.corners[at].x);
            }
            if let Some(on) = side.meets.filter(|_| self.holds(Cause::Meets(k))) {
                out.push(if self.is_arc(on) {
                    let out = end.clone() - &walk.middle(self, on);
                    out.dot(&out) - &(walk.sizes[on].clone() * &walk.sizes[on])
                } else {
                    walk.beside(on, end)
                });
            }
        }
        for (k, condition) in self.told.conditions.iter().enumerate() {
            if self.holds(Cause::Condition(k)) {
                self.condition(condition, &walk, &mut out);
            }
        }
        out
    }

    fn condition(&self, condition: &Condition, walk: &Walk, out: &mut Vec<Dual>) {
        match *condition {
            Condition::Equal(a, b) => out.push(walk.sizes[a].clone() - &walk.sizes[b]),
            Condition::Parallel(a, b) => out.push(walk.between(a, b).sin()),
            Condition::Square(a, b) => out.push(walk.between(a, b).cos()),
            Condition::InLine(a, b) => {
                out.push(walk.between(a, b).sin());
                out.push(walk.beside(a, &walk.corners[b]));
            }
            Condition::Concentric(a, b) => {
                let apart = walk.middle(self, a) - &walk.middle(self, b);
                out.extend([apart.x, apart.y]);
            }
            Condition::Distance(a, b, by) => {
                let by = by / self.scale;
                let square = match (self.is_arc(a), self.is_arc(b)) {
                    (true, true) => {
                        let apart = walk.middle(self, a) - &walk.middle(self, b);
                        apart.dot(&apart)
                    }
                    (false, false) => {
                        out.push(walk.between(a, b).sin());
                        let beside = walk.beside(a, &walk.corners[b]);
                        beside.clone() * &beside
                    }
                    (arc, _) => {
                        let (arc, line) = if arc { (a, b) } else { (b, a) };
                        let beside = walk.beside(line, &walk.middle(self, arc));
                        beside.clone() * &beside
                    }
                };
                // Near the distance it is what is missing of it.
                out.push((square - &Dual::known(by * by)).times(0.5 / by));
            }
            Condition::Symmetric(about) => {
                let n = self.told.sides.len();
                let pair = |j: usize| [(about + n - j) % n, (about + j) % n];
                for [a, b] in (1..=(n - 1) / 2).map(pair) {
                    out.push(walk.sizes[a].clone() - &walk.sizes[b]);
                    if self.is_arc(a) {
                        out.push(walk.sweeps[a].clone() - &walk.sweeps[b]);
                    }
                }
                for [a, b] in (1..=n / 2).map(pair) {
                    out.push(walk.turn((a + 1) % n) - &walk.turn(b));
                }
            }
            Condition::Offset { corner, from, north, by } => {
                let apart = walk.corners[corner].clone() - &walk.corners[from];
                let along = if north { apart.y } else { apart.x };
                out.push(along - &Dual::known(by / self.scale));
            }
        }
    }
}

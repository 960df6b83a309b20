//! Convex rings that move in their plane: how far two of them stand apart, without placing a corner.

use glam::DVec2;

use super::COINCIDENT;

/// A motion of the plane that keeps its shapes: turned about the origin, then shifted, and how both go on.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Motion {
    /// Cosine and sine of the turn.
    pub turn: DVec2,
    pub shift: DVec2,
    /// How fast it turns, rad, and shifts, while what drives it goes on by one.
    pub rate: f64,
    pub drift: DVec2,
}

impl Motion {
    /// Shifted, and at rest there.
    pub fn shifted(shift: DVec2) -> Motion {
        Motion { turn: DVec2::X, shift, rate: 0.0, drift: DVec2::ZERO }
    }

    /// Turned about `from`, which has come to `to` and goes on by `drift`.
    pub fn about(turn: DVec2, rate: f64, from: DVec2, to: DVec2, drift: DVec2) -> Motion {
        let turned = turn.rotate(from);
        Motion { turn, shift: to - turned, rate, drift: drift - turned.perp() * rate }
    }

    pub fn of(&self, p: DVec2) -> DVec2 {
        self.turn.rotate(p) + self.shift
    }

    /// How fast a point goes where it is.
    pub fn speed_of(&self, p: DVec2) -> DVec2 {
        self.turn.rotate(p).perp() * self.rate + self.drift
    }

    /// Where what was moved came from.
    pub fn back(&self) -> Motion {
        let turn = DVec2::new(self.turn.x, -self.turn.y);
        let shift = -turn.rotate(self.shift);
        Motion { turn, shift, rate: -self.rate, drift: -turn.rotate(self.drift) - shift.perp() * self.rate }
    }

    /// First that one, then this.
    pub fn after(&self, first: &Motion) -> Motion {
        Motion {
            turn: self.turn.rotate(first.turn),
            shift: self.of(first.shift),
            rate: self.rate + first.rate,
            drift: self.speed_of(first.shift) + self.turn.rotate(first.drift),
        }
    }
}

/// How far from straight the ways of a ring's corners are, seen from another ring: no corner's speed changes
/// faster than by `least`, and by `more` for each millimetre that it lies from `about`.
#[derive(Clone, Copy, Debug)]
pub struct Swing {
    pub about: DVec2,
    pub least: f64,
    pub more: f64,
}

/// A convex polygon, counter-clockwise, with its sides as half planes.
#[derive(Clone, Debug, PartialEq)]
pub struct Ring {
    pub corners: Vec<DVec2>,
    /// The way out over a side, and how far out the side lies.
    pub(super) sides: Vec<(DVec2, f64)>,
    /// A point inside.
    middle: DVec2,
}

impl Ring {
    pub fn new(corners: Vec<DVec2>) -> Ring {
        let side = |i: usize| {
            let (from, to) = (corners[i], corners[(i + 1) % corners.len()]);
            let along = to - from;
            let length = along.length();
            let out = DVec2::new(along.y, -along.x) / length;
            (length >= COINCIDENT).then(|| (out, out.dot(from)))
        };
        let sides = (0..corners.len()).filter_map(side).collect();
        let middle = corners.iter().sum::<DVec2>() / corners.len().max(1) as f64;
        Ring { corners, sides, middle }
    }

    /// How far a point lies outside; zero inside.
    pub fn distance(&self, p: DVec2) -> f64 {
        let within = self.corners.len() > 2 && self.sides.iter().all(|(out, at)| p.dot(*out) <= *at);
        if within {
            return 0.0;
        }
        let n = self.corners.len();
        let to_side = |i: usize| {
            let (from, side) = (self.corners[i], self.corners[(i + 1) % n] - self.corners[i]);
            let along = (p - from).dot(side) / side.length_squared().max(f64::MIN_POSITIVE);
            (p - from - side * along.clamp(0.0, 1.0)).length_squared()
        };
        (0..n).map(to_side).fold(f64::INFINITY, f64::min).sqrt()
    }

    pub fn moved(&self, by: &Motion) -> Ring {
        let side = |(out, at): &(DVec2, f64)| {
            let out = by.turn.rotate(*out);
            (out, at + out.dot(by.shift))
        };
        Ring {
            corners: self.corners.iter().map(|p| by.of(*p)).collect(),
            sides: self.sides.iter().map(side).collect(),
            middle: by.of(self.middle),
        }
    }

    /// How far it and another, moved, stand apart along the way out of a side of either: never more than
    /// their true distance, below zero where they overlap, then by how much one must move to be clear.
    /// Once a side holds the two as far apart as `enough` no better one is looked for. `best` is the side
    /// that held them furthest apart last, of this one's and then of the other's: of two that move little it
    /// mostly does so again, and the rest are seen to be worse at a glance.
    pub fn apart(&self, other: &Ring, moved: &Motion, enough: f64, best: &mut usize) -> f64 {
        let (n, all) = (self.sides.len(), self.sides.len() + other.sides.len());
        let back = DVec2::new(moved.turn.x, -moved.turn.y);
        let mut most = f64::NEG_INFINITY;
        let start = *best;
        for k in 0..all {
            let i = if start + k < all { start + k } else { start + k - all };
            let gap = if i < n {
                let (out, at) = self.sides[i];
                least(other, back.rotate(out), at - out.dot(moved.shift), most)
            } else {
                let (out, at) = other.sides[i - n];
                let out = moved.turn.rotate(out);
                least(self, out, at + out.dot(moved.shift), most)
            };
            if gap > most {
                (most, *best) = (gap, i);
                if most >= enough {
                    break;
                }
            }
        }
        most
    }

    /// How long a motion may go on until the two may be deeper in one another than `touch`, by the side that
    /// held them apart: its corner that would be there first, `swings` of this one's corners and the other's.
    pub fn clear_for(
        &self,
        other: &Ring,
        moved: &Motion,
        side: usize,
        touch: f64,
        swings: [&Swing; 2],
    ) -> f64 {
        let n = self.sides.len();
        // The side stands still, the corners of the other ring move against it.
        let (ring, swing, way, (out, at)) = if side < n {
            (other, swings[1], *moved, self.sides[side])
        } else {
            (self, swings[0], moved.back(), other.sides[side - n])
        };
        let lasts = |p: &DVec2| {
            let gap = (way.of(*p).dot(out) - at + touch).max(0.0);
            let speed = way.speed_of(*p).dot(out);
            let bends = swing.least + swing.more * p.distance(swing.about);
            // gap + speed h - bends h²/2 = 0, in the form that does not cancel.
            let root = (speed * speed + 2.0 * bends * gap).sqrt();
            if speed > 0.0 {
                (speed + root) / bends
            } else {
                2.0 * gap / (root - speed).max(f64::MIN_POSITIVE)
            }
        };
        ring.corners.iter().map(lasts).fold(f64::INFINITY, f64::min)
    }
}

/// How far all of a ring lies out beyond `at`; once a point of it is no further than `most`, no more are
/// looked at, its middle first.
fn least(ring: &Ring, out: DVec2, at: f64, most: f64) -> f64 {
    let mut least = ring.middle.dot(out) - at;
    if least > most {
        for p in &ring.corners {
            least = least.min(p.dot(out) - at);
            if least <= most {
                break;
            }
        }
    }
    least
}

#[cfg(test)]
mod tests {
    use super::super::convex::hull;
    use super::*;
    use proptest::prelude::*;

    fn cloud() -> impl Strategy<Value = Vec<DVec2>> {
        let point = (-50.0..50.0, -50.0..50.0).prop_map(|(x, y)| DVec2::new(x, y));
        prop::collection::vec(point, 3..9).prop_map(hull).prop_filter("a face", |r| r.len() > 2)
    }

    /// A ring that turns about a point of its own which goes along a line.
    #[derive(Clone, Debug)]
    struct Way {
        about: DVec2,
        from: DVec2,
        drift: DVec2,
        turn: f64,
        rate: f64,
    }

    impl Way {
        fn at(&self, h: f64) -> Motion {
            let turn = DVec2::from_angle(self.turn + self.rate * h);
            Motion::about(turn, self.rate, self.about, self.from + self.drift * h, self.drift)
        }
    }

    fn way() -> impl Strategy<Value = Way> {
        let point = |most: f64| (-most..most, -most..most).prop_map(|(x, y)| DVec2::new(x, y));
        (point(30.0), point(80.0), point(60.0), -4.0..4.0, -1.5..1.5)
            .prop_map(|(about, from, drift, turn, rate)| Way { about, from, drift, turn, rate })
    }

    fn motion() -> impl Strategy<Value = Motion> {
        way().prop_map(|w| w.at(0.0))
    }

    /// The gap along the best of the sides' ways out: shadows of the corners, moved by hand.
    fn shadows_apart(a: &[DVec2], b: &[DVec2]) -> f64 {
        let normals = |r: &[DVec2]| {
            let side = |i: usize| -(r[(i + 1) % r.len()] - r[i]).perp().normalize();
            (0..r.len()).map(side).collect::<Vec<_>>()
        };
        let spread = |r: &[DVec2], way: DVec2| {
            let on: Vec<f64> = r.iter().map(|p| p.dot(way)).collect();
            (on.iter().copied().fold(f64::INFINITY, f64::min), on.iter().copied().fold(-1e9, f64::max))
        };
        let beyond = |of: &[DVec2], other: &[DVec2]| {
            let gap = |out: DVec2| spread(other, out).0 - spread(of, out).1;
            normals(of).into_iter().map(gap).fold(-1e9, f64::max)
        };
        beyond(a, b).max(beyond(b, a))
    }

    proptest! {
        #[test]
        fn rings_stand_apart_by_the_gap_of_their_shadows(
            a in cloud(), b in cloud(), m in motion(), at in 0usize..9,
        ) {
            let placed: Vec<DVec2> = b.iter().map(|p| m.of(*p)).collect();
            let (one, other) = (Ring::new(a.clone()), Ring::new(b));
            let mut best = at % (one.sides.len() + other.sides.len());
            let gap = one.apart(&other, &m, f64::INFINITY, &mut best);
            prop_assert!((gap - shadows_apart(&a, &placed)).abs() < 1e-9);
            // Enough is enough, and the side that gave it is remembered.
            let enough = gap / 2.0;
            let early = one.apart(&other, &m, enough, &mut best);
            prop_assert!(early <= gap && (gap <= 0.0 || enough <= early));
            let again = one.apart(&other, &m, enough, &mut best);
            prop_assert!(gap <= 0.0 || early == again);
        }

        /// Of a point out from a side or a corner; of a point inside none.
        #[test]
        fn a_point_is_as_far_as_it_was_put(
            a in cloud(), at in 0usize..9, share in 0.0..1.0f64, away in 0.0..90.0f64,
        ) {
            let ring = Ring::new(a.clone());
            let n = a.len();
            let i = at % n;
            let side = a[(i + 1) % n] - a[i];
            let out = -side.perp().normalize();
            let off = |p: DVec2| (ring.distance(p) - away).abs() < 1e-9;
            prop_assert!(off(a[i] + side * share + out * away), "off a side");
            let before = -(a[i] - a[(i + n - 1) % n]).perp().normalize();
            prop_assert!(off(a[i] + (out + before).normalize_or(out) * away), "off a corner");
            let middle = a.iter().sum::<DVec2>() / n as f64;
            prop_assert_eq!(ring.distance(middle.lerp(a[i], share)), 0.0);
        }

        #[test]
        fn motions_are_undone_and_follow_one_another(m in way(), n in way(), p in cloud()) {
            let (now, then) = (|h: f64| m.at(h), |h: f64| n.at(h));
            let both = |h: f64| now(h).after(&then(h));
            const H: f64 = 1e-5;
            let by_hand = |of: &dyn Fn(f64) -> DVec2| (of(H) - of(-H)) / (2.0 * H);
            for p in p {
                prop_assert!((now(0.0).back().of(now(0.0).of(p)) - p).length() < 1e-9);
                prop_assert!((both(0.0).of(p) - now(0.0).of(then(0.0).of(p))).length() < 1e-9);
                prop_assert!((now(0.0).of(m.about) - m.from).length() < 1e-9);
                // Speeds against differences.
                for (said, seen) in [
                    (now(0.0).speed_of(p), by_hand(&|h| now(h).of(p))),
                    (now(0.0).back().speed_of(p), by_hand(&|h| now(h).back().of(p))),
                    (both(0.0).speed_of(p), by_hand(&|h| now(h).of(then(h).of(p)))),
                ] {
                    prop_assert!((said - seen).length() < 1e-4, "{said} {seen}");
                }
            }
        }

        /// Nothing comes deeper before the time that is told, and a sweep in such steps comes to its end.
        #[test]
        fn what_is_clear_for_a_while_is_clear_all_that_while(a in cloud(), b in cloud(), way in way()) {
            let (one, other) = (Ring::new(a.clone()), Ring::new(b.clone()));
            // Most of them apart.
            let way = Way { from: way.from * 2.5, ..way };
            // Seen from `one` the others turn about a point that goes straight; seen from them it is `one`
            // that does, and its corners bend by the way that point goes as well.
            let theirs = Swing { about: way.about, least: 0.0, more: way.rate * way.rate };
            let far = way.from.length() + way.drift.length() * 2.0;
            let mine = Swing {
                about: DVec2::ZERO,
                least: way.rate * way.rate * far + 2.0 * way.rate.abs() * way.drift.length(),
                more: way.rate * way.rate,
            };
            let mut best = 0;
            let gap = one.apart(&other, &way.at(0.0), f64::INFINITY, &mut best);
            prop_assume!(gap > 0.0);
            let time = one.clear_for(&other, &way.at(0.0), best, 0.25, [&mine, &theirs]).min(2.0);
            for i in 0..=40 {
                let now = way.at(time * i as f64 / 40.0);
                let placed: Vec<DVec2> = b.iter().map(|p| now.of(*p)).collect();
                prop_assert!(shadows_apart(&a, &placed) > -0.25 - 1e-9, "{i} of 40, {time}");
            }
        }
    }
}

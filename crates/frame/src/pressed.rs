//! Ends of round tubes pressed flat: the wall keeps its thickness, and its middle the length round.

use std::f64::consts::{FRAC_PI_2, PI};

use glam::{DVec2, DVec3};
use shop::section::Shape;

use super::bar::Bar;
use super::model::{EndPressed, Member};
use super::profile::Profile;

/// The inner faces of what is pressed stand this far apart, mm, so that its mesh bounds a body.
const OPEN: f64 = 0.01;
/// Parts that the change from round to flat is drawn in.
const PARTS: usize = 12;

/// How wide a round tube is pressed flat, and how thick; none for any other section.
pub fn pressed_width(p: &Profile) -> Option<DVec2> {
    let Shape::Tube { d, t } = p.section.shape else { return None };
    // Of the middle of the wall what does not go round either edge lies in two flats.
    Some(DVec2::new((PI * (d - t) - PI * t) / 2.0 + 2.0 * t, 2.0 * t))
}

/// A section as it changes towards ends that are pressed.
pub struct Pressed<'a> {
    /// Of each end: where the bar begins, what is told, and the bar looking in.
    ends: [Option<(f64, &'a EndPressed, Bar)>; 2],
    length: f64,
    wall: f64,
    /// Half across the middle of the wall while it is round.
    radius: f64,
}

impl<'a> Pressed<'a> {
    /// None where neither end is pressed.
    pub fn of(m: &'a Member, p: &Profile) -> Option<Pressed<'a>> {
        let Shape::Tube { d, t } = p.section.shape else { return None };
        let ends = [0, 1].map(|k| m.pressed[k].as_ref().map(|e| (m.station(k, DVec2::ZERO), e, m.end(k))));
        let any = ends.iter().any(Option::is_some);
        any.then_some(Pressed { ends, length: m.length, wall: t, radius: (d - t) / 2.0 })
    }

    /// Places along the bar where rows of its mesh are wanted.
    pub fn rows(&self) -> Vec<f64> {
        let mut out = Vec::new();
        for (k, end) in self.ends.iter().enumerate() {
            let Some((at, told, _)) = end else { continue };
            let steps = (0..=PARTS).map(|i| told.length + told.over * i as f64 / PARTS as f64);
            out.extend(steps.map(|s| if k == 0 { at + s } else { self.length - at - s }));
        }
        out.sort_by(f64::total_cmp);
        out
    }

    /// The middle of the wall where it is round by this share of the way: the radius of its rounds, and half
    /// the flats between. `tight` is the radius where it is flat.
    fn stadium(&self, share: f64, tight: f64) -> (f64, f64) {
        // Eased at both ends, as the wall bends.
        let round = share * share * (3.0 - 2.0 * share);
        let rho = tight + (self.radius - tight) * round;
        // The middle of the wall keeps its length: the flats take what the rounds give.
        (rho, PI * (self.radius - rho) / 2.0)
    }

    /// The furthest that its ends reach in a direction.
    pub fn reach(&self, d: DVec3) -> f64 {
        let tight = self.wall / 2.0;
        let of = |&(at, told, bar): &(f64, &EndPressed, Bar)| {
            let (across, along) = bar.turned(d);
            let (aside, all) = (across.dot(told.across).abs(), across.length());
            let place = |s: f64, share: f64| {
                let (rho, half) = self.stadium(share, tight);
                bar.o.dot(d) + along * (at + s) + half * aside + (rho + self.wall / 2.0) * all
            };
            // On the way to round it stands still where along·over + k·6x(1 - x) = 0.
            let k = (self.radius - tight) * (all - PI * aside / 2.0);
            let root = (1.0 + 4.0 * along * told.over / (6.0 * k)).sqrt();
            let still =
                [(1.0 - root) / 2.0, (1.0 + root) / 2.0].into_iter().filter(|x| (0.0..=1.0).contains(x));
            let change = still.chain([0.0, 1.0]).map(|x| place(told.length + told.over * x, x));
            change.fold(place(0.0, 0.0), f64::max)
        };
        self.ends.iter().flatten().map(of).fold(f64::NEG_INFINITY, f64::max)
    }

    /// Where a point of the round section lies so far along the bar.
    pub fn place(&self, q: DVec2, along: f64) -> DVec2 {
        let near = self.ends.iter().enumerate().find_map(|(k, end)| {
            let (at, told, _) = (*end)?;
            let from = if k == 0 { along - at } else { self.length - at - along };
            (from < told.length + told.over).then(|| ((from - told.length) / told.over, told.across))
        });
        let Some((share, across)) = near else { return q };
        let share = share.clamp(0.0, 1.0);
        let (rho, half) = self.stadium(share, (self.wall + OPEN) / 2.0);
        let v = DVec2::new(q.dot(across), q.dot(across.perp()));
        let off = v.length() - self.radius;
        let along_wall = self.radius * v.y.abs().atan2(v.x.abs());
        let (at, normal) = if along_wall <= rho * FRAC_PI_2 {
            let n = DVec2::from_angle(along_wall / rho);
            (DVec2::new(half, 0.0) + n * rho, n)
        } else {
            (DVec2::new((half - (along_wall - rho * FRAC_PI_2)).max(0.0), rho), DVec2::Y)
        };
        let w = (at + normal * off) * DVec2::new(sign(v.x), sign(v.y));
        across * w.x + across.perp() * w.y
    }
}

/// -1 on the far side, else 1.
fn sign(v: f64) -> f64 {
    if v < 0.0 { -1.0 } else { 1.0 }
}

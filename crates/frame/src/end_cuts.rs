//! The cuts of one end, made ready to be asked at many points of the section.

use glam::{DVec2, DVec3};
use ground::geom::{COINCIDENT, ROUNDING};

use super::bar::{Bar, Surface, back_to_round};
use super::chords::Chords;
use super::model::{CentrelineSegment, EndCut, Member, across};

/// A cut as a function of the point of the section.
enum Ready<'a> {
    /// Of a straight bar, a plane: where it lies at the middle, and how it slopes.
    Plane {
        at: f64,
        slope: DVec2,
    },
    /// Of a straight bar, the outside of another: lines of one direction across its outline.
    Outline {
        wall: Bar,
        own: Bar,
        chords: Chords,
        gap: f64,
    },
    /// Of a straight bar, a round: its way across the axis from the middle, for a step in the section, and
    /// along the bar.
    Round {
        from: DVec3,
        y: DVec3,
        z: DVec3,
        on: DVec3,
        radius: f64,
    },
    Any(&'a Surface),
}

impl<'a> Ready<'a> {
    fn new(stretch: &CentrelineSegment, surface: &'a Surface) -> Self {
        let CentrelineSegment::Straight { bar, .. } = *stretch else { return Ready::Any(surface) };
        match surface {
            Surface::Plane { at, normal } => {
                let (across, along) = bar.turned(*normal);
                if along.abs() < ROUNDING {
                    return Ready::Plane { at: 0.0, slope: DVec2::ZERO };
                }
                Ready::Plane { at: normal.dot(*at - bar.o) / along, slope: -across / along }
            }
            Surface::Outline { bar: wall, outline, gap } => {
                let (v, _) = wall.turned(bar.d);
                match Chords::new(outline, v) {
                    Some(chords) => Ready::Outline { wall: *wall, own: bar, chords, gap: gap / v.length() },
                    None => Ready::Any(surface),
                }
            }
            Surface::Rounded(_) => Ready::Any(surface),
            Surface::Round { at, axis, radius } => {
                let [from, y, z, on] = [bar.o - *at, bar.y, bar.z, bar.d].map(|v| across(v, *axis));
                if on.length_squared() < 1e-12 {
                    Ready::Any(surface)
                } else {
                    Ready::Round { from, y, z, on, radius: *radius }
                }
            }
        }
    }

    fn at(&self, stretch: &CentrelineSegment, p: DVec2) -> f64 {
        match self {
            Ready::Plane { at, slope } => at + slope.dot(p),
            Ready::Outline { wall, own, chords, gap } => chords.last(wall.local(own.point(p, 0.0)).0) + gap,
            Ready::Round { from, y, z, on, radius } => {
                back_to_round(*from + *y * p.x + *z * p.y, *on, *radius)
            }
            Ready::Any(surface) => stretch.met(surface, p),
        }
    }
}

/// All cuts of an end, seen from it, looking in.
pub struct EndCuts<'a> {
    stretch: CentrelineSegment,
    cuts: Vec<Ready<'a>>,
    trims: &'a [EndCut],
}

impl Member {
    /// The cuts of an end, for more than a few points of the section.
    pub fn cuts(&self, end: usize) -> EndCuts<'_> {
        let (stretch, trims) = (self.end_stretch(end), self.trims[end].as_slice());
        EndCuts { stretch, cuts: trims.iter().map(|t| Ready::new(&stretch, &t.surface)).collect(), trims }
    }
}

impl EndCuts<'_> {
    /// As `Member::station`.
    pub fn station(&self, p: DVec2) -> f64 {
        self.each(p).reduce(f64::max).unwrap_or(0.0)
    }

    /// Where each of them lies, in their order.
    pub fn each(&self, p: DVec2) -> impl Iterator<Item = f64> {
        self.cuts.iter().map(move |c| c.at(&self.stretch, p))
    }

    /// Which of them makes the end here: of two that lie in one place, the earlier.
    pub fn first(&self, p: DVec2) -> Option<usize> {
        let most = self.station(p);
        self.each(p).position(|v| v > most - COINCIDENT)
    }

    /// As `Member::tip`.
    pub fn tip(&self, p: DVec2) -> DVec3 {
        self.stretch.inward(p, self.station(p))
    }

    pub fn trims(&self) -> &[EndCut] {
        self.trims
    }
}

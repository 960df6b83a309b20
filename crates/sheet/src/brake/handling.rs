//! How hands bring the piece to the tools for a bend: what lies at the stop, how it is turned since the last
//! bend, and what to mind.

use glam::DVec2;

use super::stroke::Side;
use ground::quantity::Display;
use shop::limits::HEAVY_KG;

/// How the piece lies at the machine: the face that is up, and the direction of the flat (seen from its top)
/// that points to the stop.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Lay {
    pub top_up: bool,
    pub to_stop: DVec2,
}

impl Lay {
    pub fn new(up: bool, along: DVec2, at_stop: Side) -> Lay {
        Lay { top_up: up, to_stop: if at_stop == Side::Far { along } else { -along } }
    }

    /// What hands do to come here from the last bend, or from the table.
    pub fn said(&self, last: Option<&Lay>) -> String {
        let Some(last) = last else {
            return if self.top_up { "top face up".into() } else { "bottom face up".into() };
        };
        let turn = last.to_stop.angle_to(self.to_stop).to_degrees();
        if last.top_up == self.top_up {
            // Seen from the face that is up.
            return turned(if self.top_up { turn } else { -turn });
        }
        match turn.abs() {
            a if a > 179.0 => "flipped front to back".into(),
            a if a < 1.0 => "flipped side to side".into(),
            _ => format!("flipped side to side, then {}", turned(if self.top_up { turn } else { -turn })),
        }
    }
}

/// What points to the stop was this far anticlockwise of it, in degrees.
fn turned(by: f64) -> String {
    match by.abs() {
        a if a < 1.0 => "as it lies".into(),
        a if a > 179.0 => "turned end for end".into(),
        a => format!("turned {a:.0}° {}", if by > 0.0 { "clockwise" } else { "anticlockwise" }),
    }
}

/// In front of the tools there is less than this to hold, mm.
const LITTLE_TO_HOLD: f64 = 60.0;
/// A front this deep rises fast enough to hurt.
const WHIPS: f64 = 600.0;
/// Longer than this along the bend one person cannot hold it level.
const LONG: f64 = 2_000.0;

/// What to mind at one bend (common practice). `front` is what stands before the tools, `rise` how high its
/// edge comes up.
pub fn cautions(d: &Display, front: f64, rise: f64, length: f64, kg: f64) -> Vec<String> {
    let mut out = Vec::new();
    if front < LITTLE_TO_HOLD {
        out.push(format!("only {} to hold in front: use a holder, not fingers", d.length_unit(front)));
    }
    if front >= WHIPS {
        out.push(format!(
            "the front whips up by about {}: stand clear of it, follow it up with a support",
            d.length_unit(rise)
        ));
    }
    if kg > HEAVY_KG || length > LONG || front > LONG / 2.0 {
        out.push("two people, or a support: one of them works the pedal, hands of both in sight".into());
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn hands_are_told_how_to_turn_the_piece() {
        let lay = |up, x, y| Lay { top_up: up, to_stop: DVec2::new(x, y) };
        let from = lay(true, 1.0, 0.0);
        assert_eq!(from.said(None), "top face up");
        assert_eq!(from.said(Some(&from)), "as it lies");
        assert_eq!(lay(true, -1.0, 0.0).said(Some(&from)), "turned end for end");
        // North pointed a quarter anticlockwise of the stop: the piece turns clockwise until it points there.
        assert_eq!(lay(true, 0.0, 1.0).said(Some(&from)), "turned 90° clockwise");
        assert_eq!(lay(false, -1.0, 0.0).said(Some(&from)), "flipped front to back");
        assert_eq!(lay(false, 1.0, 0.0).said(Some(&from)), "flipped side to side");
        // From below the same quarter is the other way round.
        assert_eq!(lay(false, 0.0, 1.0).said(Some(&lay(false, 1.0, 0.0))), "turned 90° anticlockwise");
        assert_eq!(
            lay(false, 0.0, 1.0).said(Some(&from)),
            "flipped side to side, then turned 90° anticlockwise"
        );
    }

    #[test]
    fn what_to_mind_stands_where_it_applies() {
        let d = Display::default();
        assert!(cautions(&d, 200.0, 140.0, 500.0, 3.0).is_empty());
        let all = cautions(&d, 1_200.0, 850.0, 2_500.0, 40.0);
        assert!(all.len() == 2 && all[0].contains("850.0 mm") && all[1].starts_with("two people"), "{all:?}");
        assert!(cautions(&d, 12.0, 8.0, 100.0, 0.1)[0].contains("12.0 mm to hold"));
    }
}

//! The tools as convex sections, run along y.

use glam::DVec2;
use ground::geom::rings::Ring;

use shop::brake::Tools;

/// What may be struck.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Tool {
    Punch,
    Beam,
    Die,
    Bed,
    /// No tool: metal of the piece.
    Piece,
}

impl Tool {
    pub const ALL: [Tool; 5] = [Tool::Punch, Tool::Beam, Tool::Die, Tool::Bed, Tool::Piece];

    pub fn said(self) -> &'static str {
        match self {
            Tool::Punch => "punch",
            Tool::Beam => "beam",
            Tool::Die => "die",
            Tool::Bed => "bed",
            Tool::Piece => "piece itself",
        }
    }
}

#[derive(Clone, Debug)]
pub struct Section {
    pub tool: Tool,
    /// Counter-clockwise, across and up. Of punch and beam from the tip of the punch, of die and bed from the
    /// top of the die.
    pub ring: Ring,
    pub on_die: bool,
    /// From where to where along y.
    pub run: (f64, f64),
    /// Made up to a length, so that it may be shorter than the bend.
    pub parted: bool,
}

/// Beam and bed go on as far as any piece.
pub const BEAM_TALL: f64 = 5_000.0;

/// Below the V of a die at least this much is left.
const DIE_FLOOR: f64 = 15.0;

/// Every section for a bend that reaches from `reach.0` to `reach.1`, in the middle of a machine this long.
pub fn sections(tools: &Tools, v: f64, reach: (f64, f64), machine: f64) -> Vec<Section> {
    let middle = (reach.0 + reach.1) / 2.0;
    let whole = (middle - machine / 2.0, middle + machine / 2.0);
    let of = |tool: Tool, corners: &[(f64, f64)]| {
        let parted = matches!(tool, Tool::Punch | Tool::Die);
        let ring = Ring::new(corners.iter().map(|c| DVec2::new(c.0, c.1)).collect());
        Section {
            tool,
            ring,
            on_die: matches!(tool, Tool::Die | Tool::Bed),
            run: if parted { reach } else { whole },
            parted,
        }
    };
    let (height, half) = (tools.punch_height, tools.punch_thickness / 2.0);
    let slope = (tools.punch_angle / 2.0).tan();
    let shoulder = half / slope;
    let punch = if shoulder < height {
        of(Tool::Punch, &[(0.0, 0.0), (half, shoulder), (half, height), (-half, height), (-half, shoulder)])
    } else {
        of(Tool::Punch, &[(0.0, 0.0), (height * slope, height), (-height * slope, height)])
    };
    let beam = tools.beam_thickness / 2.0;
    let (h, edge) = (tools.die_height(v), v / 2.0);
    let wall = edge + tools.die_shoulder;
    let slope = (tools.die_angle / 2.0).tan();
    let deep = (edge / slope).min((h - DIE_FLOOR).max(h / 2.0));
    let foot = edge - deep * slope;
    let bed = tools.bed_thickness / 2.0;
    vec![
        punch,
        of(
            Tool::Beam,
            &[(-beam, height), (beam, height), (beam, height + BEAM_TALL), (-beam, height + BEAM_TALL)],
        ),
        of(Tool::Die, &[(foot, -deep), (wall, -deep), (wall, 0.0), (edge, 0.0)]),
        of(Tool::Die, &[(-foot, -deep), (-edge, 0.0), (-wall, 0.0), (-wall, -deep)]),
        of(Tool::Die, &[(-wall, -h), (wall, -h), (wall, -deep), (-wall, -deep)]),
        of(Tool::Bed, &[(-bed, -h - BEAM_TALL), (bed, -h - BEAM_TALL), (bed, -h), (-bed, -h)]),
    ]
}

//! A bend at the tools as it is seen along them: the piece before and after the stroke, cut in the middle of
//! the bend, the tools and the stop.

use glam::DVec2;

use super::strike::Bench;
use super::stroke::Side;
use super::tools::Tool;
use super::{Plan, Step};
use crate::formed::zones::Zone;

/// Polygons across and up, mm; the origin where the tip of the punch touches the sheet, the stop to the
/// right.
#[derive(Clone, Debug, Default)]
pub struct StepPicture {
    pub before: Vec<Vec<DVec2>>,
    pub after: Vec<Vec<DVec2>>,
    /// As they stand after the stroke.
    pub tools: Vec<(Tool, Vec<DVec2>)>,
    /// Top of the die before and after the stroke.
    pub die: [f64; 2],
    /// From the middle to the stop's face.
    pub gauge: f64,
    pub angle: f64,
}

/// One step, or an empty picture where it is not the plan's.
pub fn picture(plan: &Plan, zones: &[Zone], step: &Step) -> StepPicture {
    let Some(s) = plan.strokes.get(step.stroke) else { return StepPicture::default() };
    let bench = Bench::new(zones, &plan.bodies, &plan.strokes, &plan.brake, plan.rolled != Some(false));
    let prisms = bench.lying(step.stroke, step.before);
    let at = (s.reach.0 + s.reach.1) / 2.0;
    let angle = step.most.min(s.angle);
    let turn = if step.at_stop == Side::Far { 1.0 } else { -1.0 };
    let seen = |p: DVec2| DVec2::new(p.x * turn, p.y);
    let ring = |r: Vec<DVec2>| ground::geom::convex::hull(r.into_iter().map(seen).collect());
    let bent = s.at(angle);
    let mut out = StepPicture {
        die: [s.die_top(&s.at(0.0)), s.die_top(&bent)],
        gauge: step.stop.away,
        angle,
        ..StepPicture::default()
    };
    for (body, prism) in plan.bodies.iter().zip(&prisms) {
        let cut = prism.cut(at);
        if cut.len() < 3 {
            continue;
        }
        let after = match bench.side(step.stroke, body.zone) {
            Some(side) => cut.iter().map(|p| s.motion(side, &bent).of(*p)).collect(),
            // The bend itself: slice by slice round the tip of the punch.
            None => s.bent(&cut, angle),
        };
        out.before.push(ring(cut));
        out.after.push(ring(after));
    }
    for section in &s.sections {
        let stands = s.standing(section, &bent);
        out.tools.push((section.tool, ring(section.ring.corners.iter().map(|p| stands.of(*p)).collect())));
    }
    out
}

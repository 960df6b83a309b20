//! A rolled shell whose ends lap.

use glam::DVec2;
use ground::geom::Contour;
use shop::bend::{AllowanceRule, allowance};

use super::blank::{Blank, plate_of};
use super::stock::SheetStock;
use crate::formed::zones::{Kind, Zone};

/// A shell that laps itself: the arc goes on past the full round.
pub fn lapped(blank: Blank, line: &str, angle: f64, stock: &SheetStock) -> Option<Blank> {
    let zone = blank.zones.first()?;
    let mut bend = *zone.bend()?;
    let more = angle / bend.angle;
    bend.allowance *= more;
    bend.angle = angle;
    let mut out =
        Blank { strip: None, ..plate_of(line, DVec2::new(bend.allowance, zone.max.y - zone.min.y)) };
    out.outer = Contour::rectangle(DVec2::new(0.0, zone.min.y), DVec2::new(bend.allowance, zone.max.y), 0);
    out.zones = vec![Zone::upright(
        zone.name.clone(),
        line,
        Kind::Bend(bend),
        None,
        [zone.origin, zone.along],
        zone.min,
        DVec2::new(bend.allowance, zone.max.y),
    )];
    out.bends = blank.bends;
    let fact = out.bends.first_mut()?;
    fact.angle = angle;
    fact.allowance = allowance(AllowanceRule::Rolled, stock.material, angle, bend.radius, stock.t);
    fact.ends = fact.ends.map(|p| DVec2::new(bend.allowance / 2.0, p.y));
    Some(out)
}

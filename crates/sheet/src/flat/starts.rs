//! `start channel`, `start tray`, `start rolled` and `start cone`: blanks that are said whole.

use std::f64::consts::TAU;

use glam::DVec2;

use super::blank::{Blank, SIDES, plate_of};
use super::strip::{SheetStock, strip};
use crate::formed::zones::{ConeZone, Kind, Zone};
use crate::verbs::{
    Bend, ConeEnds, Direction, Element, Leg, Measure, ProfileArc, Seam, Side, StartChannel, StartCone,
    StartRolled, StartStrip, StartTray,
};
use ground::geom::{CHORD, Contour, Vertex};
use ground::reader::{Range, Reader};
use shop::bend::allowance;

/// A strip of lip, side, web, side, lip; its faults told in the channel's own fields.
pub fn channel(reader: &mut Reader, line: &str, say: &StartChannel, stuff: &SheetStock) -> Option<Blank> {
    let west = if say.west_side.trim().is_empty() { &say.side } else { &say.west_side };
    let leg = |id: &str, length: &str| Element::Leg(Leg { id: id.into(), length: length.into() });
    let bend = |id: &str, out: bool| {
        let direction = if out { Direction::Down } else { Direction::Up };
        Element::Bend(Bend { id: id.into(), angle: "90deg".into(), direction, ..Bend::default() })
    };
    let mut profile = vec![
        leg("west", west),
        bend("west-bend", false),
        leg("web", &say.web),
        bend("east-bend", false),
        leg("east", &say.side),
    ];
    let mut fields =
        vec![if say.west_side.trim().is_empty() { "side" } else { "west_side" }, "", "web", "", "side"];
    if !say.lip.trim().is_empty() {
        profile.splice(0..0, [leg("west-lip", &say.lip), bend("west-lip-bend", say.lips_out)]);
        profile.extend([bend("east-lip-bend", say.lips_out), leg("east-lip", &say.lip)]);
        fields.splice(0..0, ["lip", ""]);
        fields.extend(["", "lip"]);
    }
    let first = reader.faults.len();
    let told = StartStrip {
        width: say.length.clone(),
        side: Side::Symmetric,
        measure: say.measure,
        profile,
        stays: "web".into(),
    };
    let made = strip(reader, line, &told, stuff);
    for f in &mut reader.faults[first..] {
        let at =
            f.path.strip_prefix("/say/profile/").and_then(|p| p.split('/').next()?.parse::<usize>().ok());
        f.path = match at.and_then(|i| fields.get(i)) {
            Some(field) if !field.is_empty() => format!("/say/{field}"),
            _ if f.path == "/say/width" => "/say/length".into(),
            _ => f.path.clone(),
        };
    }
    // Its bends are told by no field of their own.
    let mut made = made?;
    made.bends.iter_mut().for_each(|b| b.pointer = None);
    Some(made)
}

/// The bottom of a tray, smaller by its clearance; its sides are folded onto it.
pub fn tray(reader: &mut Reader, line: &str, say: &StartTray) -> Option<Blank> {
    let width = reader.length("/say/width", &say.width, Range::AboveZero);
    let depth = reader.length("/say/depth", &say.depth, Range::AboveZero);
    let clearance = if say.clearance.trim().is_empty() {
        Some(0.0)
    } else {
        reader.length("/say/clearance", &say.clearance, Range::Any)
    };
    let (w, d, c) = (width?, depth?, clearance?);
    let size = DVec2::new(w - 2.0 * c, d - 2.0 * c);
    if size.min_element() <= 1e-3 {
        reader.refuse(
            "/say/clearance",
            &say.clearance,
            "the clearance leaves nothing of the tray",
            "write a smaller clearance",
        );
        return None;
    }
    Some(plate_of(line, size))
}

/// Radius on the told face and sweep of a rolled shell, from two of what was told.
fn round(reader: &mut Reader, say: &StartRolled) -> Option<(f64, f64)> {
    let told = |text: &str| !text.trim().is_empty();
    if told(&say.radius) && told(&say.diameter) {
        reader.refuse(
            "/say/diameter",
            &say.diameter,
            "radius and diameter are both told",
            "tell one of them",
        );
        return None;
    }
    let radius = if told(&say.radius) {
        Some(reader.length("/say/radius", &say.radius, Range::AboveZero)?)
    } else if told(&say.diameter) {
        Some(reader.length("/say/diameter", &say.diameter, Range::AboveZero)? / 2.0)
    } else {
        None
    };
    let angle =
        if told(&say.angle) { Some(reader.bend_angle("/say/angle", &say.angle, 360.0)?) } else { None };
    let arc =
        if told(&say.arc) { Some(reader.length("/say/arc", &say.arc, Range::AboveZero)?) } else { None };
    let (r, a) = match (radius, angle, arc) {
        (Some(r), Some(a), None) => (r, a),
        (Some(r), None, Some(s)) => (r, s / r),
        (None, Some(a), Some(s)) => (s / a, a),
        (Some(_), Some(_), Some(_)) => {
            reader.refuse(
                "/say/arc",
                &say.arc,
                "radius, angle and arc length are all told",
                "leave one of them empty: the other two give it",
            );
            return None;
        }
        _ => {
            reader.refuse(
                "/say/radius",
                "",
                "two of radius (or diameter), angle and arc length are needed",
                "tell two of them",
            );
            return None;
        }
    };
    if a > TAU + 1e-9 {
        reader.refuse(
            "/say/arc",
            &say.arc,
            "the arc goes more than once round",
            "write a shorter arc, or a larger radius",
        );
        return None;
    }
    Some((r, a))
}

/// One rolled zone: a strip of a single arc.
pub fn rolled(reader: &mut Reader, line: &str, say: &StartRolled, stuff: &SheetStock) -> Option<Blank> {
    let length = reader.length("/say/length", &say.length, Range::AboveZero);
    let round = round(reader, say);
    let seam = if say.seam_size.trim().is_empty() {
        Some(0.0)
    } else {
        reader.length("/say/seam_size", &say.seam_size, Range::ZeroUp)
    };
    let (_, (told, mut angle), seam) = (length?, round?, seam?);
    if angle > TAU - 1e-6 && seam > 0.0 {
        angle += if say.seam == Seam::Lap { seam / told } else { -seam / told };
    }
    if angle <= 1e-6 {
        reader.refuse(
            "/say/seam_size",
            &say.seam_size,
            "the gap leaves nothing of the shell",
            "write a smaller gap",
        );
        return None;
    }
    let degrees = |a: f64| format!("{:.12}deg", a.to_degrees());
    let mm = |v: f64| format!("{v:.12}mm");
    // A lap runs past the full round: the strip itself takes at most 360°, so its zone is widened here.
    let arc = ProfileArc {
        id: "shell".into(),
        radius: mm(told),
        angle: degrees(angle.min(TAU)),
        direction: say.direction,
    };
    let strip_say = StartStrip {
        width: say.length.clone(),
        measure: say.measure,
        profile: vec![Element::Arc(arc)],
        ..StartStrip::default()
    };
    let first = reader.faults.len();
    let made = strip(reader, line, &strip_say, stuff);
    let field = if say.radius.trim().is_empty() { "diameter" } else { "radius" };
    for f in &mut reader.faults[first..] {
        f.path = match f.path.as_str() {
            "/say/width" => "/say/length".into(),
            "/bend_rule/k" => "/bend_rule/k".into(),
            _ => format!("/say/{field}"),
        };
    }
    let blank = made?;
    if angle <= TAU { Some(blank) } else { lapped(blank, line, angle, stuff) }
}

/// A shell that laps itself: the arc goes on past the full round.
fn lapped(blank: Blank, line: &str, angle: f64, stuff: &SheetStock) -> Option<Blank> {
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
    fact.allowance = allowance(shop::bend::Method::Rolled, stuff.material, angle, bend.radius, stuff.t);
    fact.ends = fact.ends.map(|p| DVec2::new(bend.allowance / 2.0, p.y));
    Some(out)
}

/// An annular sector, its middle generator along +x from the tip of the cone.
pub fn cone(reader: &mut Reader, line: &str, say: &StartCone, stuff: &SheetStock) -> Option<Blank> {
    let wide = reader.length("/say/wide", &say.wide, Range::AboveZero);
    let narrow = reader.length("/say/narrow", &say.narrow, Range::ZeroUp);
    let height = reader.length("/say/height", &say.height, Range::AboveZero);
    let angle = if say.angle.trim().is_empty() {
        Some(TAU)
    } else {
        reader.bend_angle("/say/angle", &say.angle, 360.0)
    };
    let gap = if say.seam_gap.trim().is_empty() {
        Some(0.0)
    } else {
        reader.length("/say/seam_gap", &say.seam_gap, Range::ZeroUp)
    };
    let (wide, narrow, height, mut turn, gap) = (wide?, narrow?, height?, angle?, gap?);
    if narrow > wide - 1e-6 {
        reader.refuse(
            "/say/narrow",
            &say.narrow,
            "the narrow end is not narrower than the wide one",
            "swap them, or start a rolled shell",
        );
        return None;
    }
    // From the face told to the middle of the sheet: square to the generator where the rim is as it was cut,
    // level where it is ground.
    let slope = ((wide - narrow) / 2.0).atan2(height);
    let inward = match say.measure {
        Measure::Outside => stuff.t / 2.0,
        Measure::Middle => 0.0,
        Measure::Inside => -stuff.t / 2.0,
    };
    let share = if say.ends == ConeEnds::Square { slope.cos() } else { 1.0 / slope.cos() };
    let radius = |d: f64| d / 2.0 - inward * share;
    let (rw, rn) = (radius(wide), radius(narrow).max(0.0));
    if rw <= 1e-6 || (narrow > 0.0 && radius(narrow) < 0.0) {
        reader.refuse(
            "/say/narrow",
            &say.narrow,
            "the sheet is too thick for so narrow an end",
            "write a wider end, or tell the cone from the inside",
        );
        return None;
    }
    let (far, near) = (rw / slope.sin(), rn / slope.sin());
    if gap > 0.0 && turn > TAU - 1e-9 {
        turn -= gap / rw;
    }
    let sweep = turn * slope.sin();
    if turn <= 1e-3 {
        reader.refuse(
            "/say/seam_gap",
            &say.seam_gap,
            "the gap leaves nothing of the cone",
            "write a smaller gap",
        );
        return None;
    }
    // Arcs of at most a half circle: two each; the sector counter-clockwise, seam to the south first.
    let quarter = (sweep / 8.0).tan();
    let at = |r: f64, share: f64| DVec2::from_angle(sweep * share) * r;
    let v = |p: DVec2, bulge: f64, tag: u32| Vertex { p, bulge, tag };
    let mut vertices = vec![
        v(at(near, -0.5), 0.0, 0),
        v(at(far, -0.5), quarter, 1),
        v(at(far, 0.0), quarter, 1),
        v(at(far, 0.5), 0.0, 2),
    ];
    if near > 1e-6 {
        vertices.extend([v(at(near, 0.5), -quarter, 3), v(at(near, 0.0), -quarter, 3)]);
    } else {
        vertices[0].p = DVec2::ZERO;
    }
    let outer = Contour { vertices };
    let names = [SIDES[0], "wide", SIDES[2], "narrow"];
    let kind = Kind::Cone(ConeZone { apex: DVec2::ZERO, sweep, turn, up: true });
    let zone =
        Zone::new(format!("{line}.shell"), line, kind, None, [DVec2::ZERO, DVec2::X], outer.flatten(CHORD));
    let tags = names.iter().map(|s| format!("{line}.{s}")).collect();
    let cone = ConeFact { slant: far - near, far, near, sweep, turn, slope, middle: [2.0 * rw, 2.0 * rn] };
    Some(Blank {
        line: line.into(),
        outer,
        zones: vec![zone],
        tags,
        strip: None,
        bends: Vec::new(),
        cone: Some(cone),
        corners: Vec::new(),
        narrowed: Vec::new(),
    })
}

/// A cone worked out, on the middle of the sheet.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ConeFact {
    pub slant: f64,
    /// Radii of the sector.
    pub far: f64,
    pub near: f64,
    pub sweep: f64,
    pub turn: f64,
    /// Half the angle at the tip.
    pub slope: f64,
    /// Diameters of the middle of the sheet: wide, narrow.
    pub middle: [f64; 2],
}

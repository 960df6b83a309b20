//! Bends: radius, flange, legs without room, odd neutral factors.

use super::{finding, spot};
use crate::context::PieceContext;
use crate::flat::bends::BendRole;
use crate::piece::{Line, Rolling};
use crate::result::{Finding, Mend, Patch, Severity};
use crate::verbs::{Corner, CornerRelief, Measure, Operation};
use crate::{ProfileSegment, SegmentForm, Strip};
use ground::geom::{COINCIDENT, ROUNDING};
use ground::reference;
use shop::bend::{K_POSSIBLE, K_USUAL};
use shop::brake::{CLOSED, shortest_flange};
use shop::{Bent, limits};

pub fn check(m: &PieceContext, v: f64, out: &mut Vec<Finding>) {
    bent_how(m, out);
    if m.material.bent != Bent::ByHand {
        radii(m, out);
    }
    // Only a brake wants flanges of a length.
    if m.material.bent == Bent::Cold {
        flanges(m, v, out);
        joggles(m, out);
    }
    neutral(m, out);
    corners(m, out);
    narrowed(m, out);
    if let Some(strip) = &m.blank.strip {
        legs(m, strip, v, out);
    }
}

/// What is not bent at a brake says how it is bent.
fn bent_how(m: &PieceContext, out: &mut Vec<Finding>) {
    let name = &m.material.name;
    let (check, severity, message, rule) = match m.material.bent {
        Bent::Cold | Bent::Not => return,
        Bent::Hot => (
            "bent_hot",
            Severity::Note,
            format!("{name} is bent over a heated line: try it first, a flat shrinks or grows with the heat"),
            "plastics are bent hot",
        ),
        Bent::Scored => {
            let message = format!(
                "{name} is not bent but scored: cut part way through along each bend, and the bend has no \
                 radius to speak of"
            );
            ("bent_scored", Severity::Warn, message, "boards are scored and folded")
        }
        Bent::ByHand => (
            "bent_by_hand",
            Severity::Note,
            format!("{name} is folded by hand, at any radius"),
            "film is folded by hand",
        ),
    };
    if let Some(b) = m.blank.bends.first() {
        out.push(finding(check, severity, message, rule, "common practice").on(
            vec![b.name.clone()],
            Some(&b.line),
            spot(b),
        ));
    }
}

fn name(m: &PieceContext, p: &ProfileSegment) -> String {
    reference::part(&m.blank.line, &p.id)
}

fn middle(p: &ProfileSegment) -> Option<[f64; 2]> {
    Some([(p.from + p.to) / 2.0, 0.0])
}

/// JSON pointer to a profile element of the start line.
fn pointer(p: &ProfileSegment, field: &str) -> Option<String> {
    p.pointer.as_ref().map(|at| format!("{at}/{field}"))
}

/// Past this a hem lies flat on its sheet: its radius is that of the material folded over.
const FOLDED_FLAT: f64 = 3.1;

fn radii(m: &PieceContext, out: &mut Vec<Finding>) {
    let d = &m.display;
    for b in &m.blank.bends {
        // Within 30° of the rolling a bend counts as along it.
        let line = (b.ends[1] - b.ends[0]).normalize_or_zero();
        let along = match m.piece.rolling {
            Rolling::Unknown => false,
            Rolling::East => line.x.abs() > 0.866,
            Rolling::North => line.y.abs() > 0.866,
        };
        let limit = if along {
            limits::smallest_radius_along(m.material, m.t)
        } else {
            limits::smallest_radius(m.material, m.t)
        };
        let Some(limit) = limit else {
            if m.material.bent == Bent::Scored {
                return;
            }
            let message =
                format!("{} is not bent: bend {} cannot be made this way", m.material.name, b.label);
            out.push(
                finding(
                    "material_not_bent",
                    Severity::Stop,
                    message,
                    "materials that bend",
                    "common practice",
                )
                .on(vec![b.name.clone()], Some(&b.line), spot(b)),
            );
            continue;
        };
        // A hem is closed on purpose; its smallest radius is that of the material folded flat.
        let hem = b.role == BendRole::TurnedOver && b.angle > FOLDED_FLAT;
        if b.radius < limit.value - ROUNDING && !hem && !b.is_crease() {
            let message = format!(
                "Inside radius {} of bend {} is below the smallest, {}",
                d.fine(b.radius),
                b.label,
                d.length_unit(limit.value)
            );
            // Where the bend has no radius of its own, the piece's.
            let at = b.pointer.clone().unwrap_or_default();
            let mend = (!b.rolled).then(|| Mend {
                label: format!("use R{}", d.fine(limit.value)),
                patch: vec![Patch::add(format!("{at}/radius"), d.typed(limit.value).into())],
            });
            out.push(
                finding("radius_small", Severity::Warn, message, &limit.rule, limit.source)
                    .by(format!("{} short", d.length_unit(limit.value - b.radius)))
                    .on(vec![b.name.clone()], Some(&b.line), spot(b))
                    .with(mend),
            );
        }
    }
}

/// Folded panels too short for the die, hems too short to hold.
fn flanges(m: &PieceContext, v: f64, out: &mut Vec<Finding>) {
    let d = &m.display;
    for b in &m.blank.bends {
        let least = shortest_flange(v, b.angle);
        if let Some(outside) = b.flange.filter(|f| *f < least.value - ROUNDING) {
            let message = format!(
                "{} is {} outside, below the shortest flange, {}",
                b.label,
                d.fine(outside),
                d.length_unit(least.value)
            );
            out.push(
                finding("flange_short", Severity::Warn, message, &least.rule, least.source)
                    .by(format!("{} short", d.length_unit(least.value - outside)))
                    .on(vec![b.name.clone()], Some(&b.line), spot(b)),
            );
        }
        let back = limits::hem_return(m.t);
        let panel = m.blank.zones.iter().find(|z| z.parent == Some(b.zone));
        let Some(panel) = panel.filter(|_| b.role == BendRole::TurnedOver && b.angle > FOLDED_FLAT) else {
            continue;
        };
        let outside = panel.extent()[0].1 + b.ossb;
        if outside < back.value - ROUNDING {
            let message =
                format!("Hem {} returns {}, {} wanted", b.label, d.fine(outside), d.length_unit(back.value));
            out.push(
                finding("hem_short", Severity::Warn, message, &back.rule, back.source)
                    .by(format!("{} short", d.length_unit(back.value - outside)))
                    .on(vec![b.name.clone()], Some(&b.line), spot(b)),
            );
        }
    }
}

/// Offsets too low for two bends over a V.
fn joggles(m: &PieceContext, out: &mut Vec<Finding>) {
    let limit = limits::joggle_height(m.t);
    for b in m.blank.bends.iter().filter(|b| b.role == BendRole::SetOff) {
        // From face to same face, over both bends and the straight between them.
        let straight = m
            .blank
            .zones
            .iter()
            .find(|z| z.parent == Some(b.zone) && z.is_panel())
            .map_or(0.0, |z| z.extent()[0].1);
        let height = 2.0 * (b.radius + m.t / 2.0) * (1.0 - b.angle.cos()) + straight * b.angle.sin();
        if height < limit.value - ROUNDING {
            let message = format!(
                "Joggle {} is {} high, {} wanted",
                b.label,
                m.display.fine(height),
                m.display.length_unit(limit.value)
            );
            out.push(
                finding("joggle_low", Severity::Warn, message, &limit.rule, limit.source)
                    .by(format!("{} short", m.display.length_unit(limit.value - height)))
                    .on(vec![b.name.clone()], Some(&b.line), spot(b)),
            );
        }
    }
}

/// Where the neutral line lies, whatever the school: DIN 6935 above 165° of opening is left out, its v = 0
/// there means no K.
fn neutral(m: &PieceContext, out: &mut Vec<Finding>) {
    let flattish = 15f64.to_radians() - ROUNDING;
    let of = |possible: bool| {
        m.blank.bends.iter().find(|b| {
            b.is_struck()
                && b.angle > flattish
                && K_POSSIBLE.contains(&b.allowance.k) == possible
                && !within(b.allowance.k)
        })
    };
    let (impossible, odd) = (of(false), of(true));
    let n = |v: f64| ground::quantity::trim_number(v, 3);
    for (b, check, severity) in [(impossible, "k_impossible", Severity::Stop), (odd, "k_odd", Severity::Warn)]
    {
        let Some(b) = b else { continue };
        let what = if severity == Severity::Stop {
            "where no bend has it: its flat is not to be cut"
        } else {
            "outside the inner half of the sheet"
        };
        let message = format!(
            "{} puts the neutral line of bend {} at K = {}, {what}",
            b.allowance.rule,
            b.label,
            n(b.allowance.k)
        );
        let rule = if severity == Severity::Stop {
            "−0.2 ≤ K ≤ 0.8 for any bend"
        } else {
            "0 < K ≤ 0.5 for ordinary bending"
        };
        out.push(finding(check, severity, message, rule, "common practice").on(
            vec![b.name.clone()],
            Some(&b.line),
            spot(b),
        ));
    }
}

fn within(k: f64) -> bool {
    k > *K_USUAL.start() && k <= *K_USUAL.end() + ROUNDING
}

/// Two bends that run into one corner tear there unless something is cut out.
fn corners(m: &PieceContext, out: &mut Vec<Finding>) {
    let bare: Vec<_> = m.blank.corners.iter().filter(|c| c.relief == CornerRelief::None).collect();
    let Some(first) = bare.first() else { return };
    let id = (1..)
        .map(|k| format!("corner-{k}"))
        .find(|id| m.piece.lines.iter().all(|l| l.id != *id))
        .unwrap_or_default();
    let tray = m.piece.lines.iter().position(|l| matches!(l.say, Operation::StartTray(_)) && !l.off);
    let told = m.piece.lines.iter().position(|l| matches!(l.say, Operation::Corner(_)) && !l.off);
    let patch = match told.or(tray) {
        Some(i) => Patch::add(format!("/lines/{i}/say/relief"), "round".into()),
        None => {
            let line =
                Line::new(id, Operation::Corner(Corner { relief: CornerRelief::Round, ..Corner::default() }));
            Patch::add("/lines/-".into(), serde_json::to_value(line).unwrap_or_default())
        }
    };
    let n = bare.len();
    let message = if n == 1 {
        "At one corner two bends meet with no relief: the material may tear".into()
    } else {
        format!("At {n} corners two bends meet with no relief: the material may tear")
    };
    let names = first.panels.to_vec();
    out.push(
        finding("corner_bare", Severity::Note, message, "a relief where bends meet", "common practice")
            .on(names, None, Some(first.at.to_array()))
            .with(Some(Mend { label: "cut round reliefs".into(), patch: vec![patch] })),
    );
}

/// The bend begins inside the panel; where that tapers, the fold is narrower than its edge was told.
fn narrowed(m: &PieceContext, out: &mut Vec<Finding>) {
    let d = &m.display;
    for n in &m.blank.narrowed {
        let message = format!(
            "{} is {} wide for an edge of {}: its bend begins inside a panel that tapers. Make the panel \
             wider by {}, or bend from the edge",
            n.name,
            d.fine(n.got),
            d.length_unit(n.told),
            d.length_unit(n.told - n.got)
        );
        let line = m.piece.lines.iter().position(|l| l.id == n.line && matches!(l.say, Operation::Fold(_)));
        let mend = line.map(|i| Mend {
            label: "bend from the edge, which keeps its width; the panel grows by the setback".into(),
            patch: vec![Patch::add(format!("/lines/{i}/say/bend_at"), "from_edge".into())],
        });
        out.push(
            finding(
                "edge_narrowed",
                Severity::Note,
                message,
                "an edge keeps the size that it was told",
                "geometry",
            )
            .by(format!("{} narrower", d.length_unit(n.told - n.got)))
            .on(vec![n.name.clone()], Some(&n.line), Some(n.at.to_array()))
            .with(mend),
        );
    }
}

fn legs(m: &PieceContext, strip: &Strip, v: f64, out: &mut Vec<Finding>) {
    let d = &m.display;
    let part = |i: Option<usize>| i.and_then(|i| strip.parts.get(i)).map(|p| &p.made);
    let setback = |i: Option<usize>| match part(i) {
        Some(SegmentForm::Bend { ossb, .. }) => *ossb,
        _ => 0.0,
    };
    // A leg that is folded back on itself is a hem's, not a flange.
    let angle = |i: Option<usize>| match part(i) {
        Some(SegmentForm::Bend { angle, .. }) if *angle < CLOSED => *angle,
        _ => 0.0,
    };
    for (i, p) in strip.parts.iter().enumerate() {
        let SegmentForm::Leg { told, straight } = &p.made else { continue };
        let (before, after) = (setback(i.checked_sub(1)), setback(Some(i + 1)));
        if before + after == 0.0 {
            continue;
        }
        if *straight < -ROUNDING {
            let message = format!(
                "Leg {} is too short for its bends: their zones run into one another in the flat",
                p.id
            );
            let mend = pointer(p, "length").map(|path| Mend {
                label: format!("make leg {} {} long", p.id, d.length_unit(told - straight)),
                patch: vec![Patch::replace(path, d.typed(told - straight))],
            });
            out.push(
                finding(
                    "leg_crowded",
                    Severity::Stop,
                    message,
                    "a leg is at least as long as its setbacks",
                    "geometry",
                )
                .by(format!("{} short", d.length_unit(-straight)))
                .on(vec![name(m, p)], Some(&m.blank.line), middle(p))
                .with(mend),
            );
            continue;
        }
        let least = shortest_flange(v, angle(i.checked_sub(1)).max(angle(Some(i + 1))));
        // Outside length, whatever face the strip is told from; the further setback only counts at a bend.
        let outside = straight + before + after;
        if outside < least.value - ROUNDING {
            let message = format!(
                "Leg {} is {} outside, below the shortest flange, {}",
                p.id,
                d.fine(outside),
                d.length_unit(least.value)
            );
            let more = least.value - outside;
            let mend = pointer(p, "length").map(|path| Mend {
                label: format!("make leg {} {} longer", p.id, d.length_unit(more)),
                patch: vec![Patch::replace(path, d.typed(told + more))],
            });
            out.push(
                finding("flange_short", Severity::Warn, message, &least.rule, least.source)
                    .by(format!("{} short", d.length_unit(more)))
                    .on(vec![name(m, p)], Some(&m.blank.line), middle(p))
                    .with(mend),
            );
        }
    }
    if strip.measure != Measure::Outside
        && strip.parts.iter().any(|p| {
            matches!(&p.made, SegmentForm::Bend { angle,
                .. } if *angle > std::f64::consts::FRAC_PI_2 + COINCIDENT)
        })
    {
        let message =
            "Legs beside a bend over 90° are told to its outermost tangent on the told face, not to a sharp"
                .to_string();
        out.push(
            finding(
                "measure_note",
                Severity::Note,
                message,
                "lengths beyond 90° run to the tangent",
                "common practice",
            )
            .on(Vec::new(), Some(&m.blank.line), None),
        );
    }
}

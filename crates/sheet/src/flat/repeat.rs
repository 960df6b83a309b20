//! `repeat`, `ring`, `path` and `mirror`: the features of earlier lines again.

use glam::DVec2;

use super::blank::Blank;
use super::feature::{Feature, MOST_CORNERS, MOST_FEATURES};
use super::punch::{field, set, spot};
use crate::verbs::{Axis, Mirror, Path, Repeat, Ring, Spacing};
use ground::reader::{Range, Reader};

/// The features that the lines `of` made, or a fault naming the one that made none.
fn targets(reader: &mut Reader, of: &[String], made: &[(String, Vec<Feature>)]) -> Option<Vec<Feature>> {
    if of.is_empty() {
        reader.refuse("/say/of", "", "nothing is picked", "pick at least one cut above this line");
        return None;
    }
    let mut out = Vec::new();
    for (i, id) in of.iter().enumerate() {
        match made.iter().find(|m| m.0 == *id) {
            Some((_, features)) => out.extend(features.iter().cloned()),
            None if reader.bending.contains(id) => {
                let message = format!("'{id}' bends; only what is cut or pressed can be copied");
                reader.refuse(
                    &format!("/say/of/{i}"),
                    id,
                    message,
                    "name both edges in the line that folds, or tell the second fold in a line of its own",
                );
                return None;
            }
            None => {
                let known: Vec<&str> =
                    made.iter().filter(|m| !m.1.is_empty()).map(|m| m.0.as_str()).take(12).collect();
                let mend = if known.is_empty() {
                    "cut or press something above this line first".to_string()
                } else {
                    format!("pick from {}", known.join(", "))
                };
                reader.refuse(&format!("/say/of/{i}"), id, format!("no cut above is called '{id}'"), mend);
                return None;
            }
        }
    }
    Some(out)
}

fn within_limits(reader: &mut Reader, path: &str, features: &[Feature], times: usize, had: usize) -> bool {
    let corners: usize = features.iter().map(|f| f.contour.vertices.len()).sum();
    let count = features.len().saturating_mul(times).saturating_add(had);
    if count <= MOST_FEATURES && corners.saturating_mul(times) <= MOST_CORNERS {
        return true;
    }
    reader.refuse(
        path,
        "",
        format!("this makes {count} cuts; {MOST_FEATURES} is the most for one piece"),
        "repeat fewer, or split the piece",
    );
    false
}

fn unit(axis: Axis) -> DVec2 {
    match axis {
        Axis::East => DVec2::X,
        Axis::North => DVec2::Y,
    }
}

pub fn repeat(
    reader: &mut Reader,
    id: &str,
    line: usize,
    say: &Repeat,
    made: &[(String, Vec<Feature>)],
    blank: &Blank,
) -> Option<Vec<Feature>> {
    let features = targets(reader, &say.of, made)?;
    let field = features.first()?.field;
    let spread = |d: DVec2| (field.min.dot(d).min(field.max.dot(d)), field.min.dot(d).max(field.max.dot(d)));
    let (dir, other, ends) = if say.along.trim().is_empty() {
        let other = if say.axis == Axis::East { Axis::North } else { Axis::East };
        (unit(say.axis), unit(other), spread(unit(say.axis)))
    } else {
        // From left to right, seen from the piece looking out: against the travel of the outline.
        let (a, b) = blank.edge(reader, "/say/along", &say.along)?;
        let dir = (a - b).normalize_or_zero();
        (dir, dir.perp(), (b.dot(dir), a.dot(dir)))
    };
    let along = steps(reader, "/say/spacing", &say.spacing, dir, ends, &features);
    let across = match &say.across {
        Some(s) => steps(reader, "/say/across", s, other, spread(other), &features),
        None => Some(vec![DVec2::ZERO]),
    };
    let (along, across) = (along?, across?);
    let had = made.iter().map(|m| m.1.len()).sum();
    if !within_limits(reader, "/say/spacing", &features, along.len().saturating_mul(across.len()), had) {
        return None;
    }
    let mut out = Vec::with_capacity(features.len() * along.len() * across.len());
    for (j, up) in across.iter().enumerate() {
        for (i, by) in along.iter().enumerate() {
            ground::halt::point();
            if i == 0 && j == 0 {
                continue;
            }
            for f in &features {
                let name = match say.across {
                    None => format!("{id}.{}#{}", f.name, i + 1),
                    Some(_) => format!("{id}.{}#{}.{}", f.name, j + 1, i + 1),
                };
                out.push(f.moved(name, line, *by + *up).at_home(blank));
            }
        }
    }
    Some(out)
}

/// Where the members stand relative to the first, itself included.
fn steps(
    reader: &mut Reader,
    path: &str,
    spacing: &Spacing,
    dir: DVec2,
    (low, high): (f64, f64),
    features: &[Feature],
) -> Option<Vec<DVec2>> {
    let first = features.first()?;
    let at = first.centre.dot(dir);
    // Extent of what is repeated, along the row.
    let extent = || {
        let turned = features.iter().map(|f| f.contour.moved(-dir.to_angle(), DVec2::ZERO).bounds());
        turned.fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), b| (l.min(b.min.x), h.max(b.max.x)))
    };
    let most = MOST_FEATURES + 1;
    let (count, pitch) = match spacing {
        Spacing::Pitch { count, pitch } => {
            let n = reader.count(&format!("{path}/count"), count, 1, most);
            let p = reader.length(&format!("{path}/pitch"), pitch, Range::Any);
            (n?, p?)
        }
        Spacing::Gap { count, gap } => {
            let n = reader.count(&format!("{path}/count"), count, 1, most);
            let g = reader.length(&format!("{path}/gap"), gap, Range::Any);
            let (n, g) = (n?, g?);
            if g < 0.0 {
                let by = reader.display.length_unit(-g);
                let message = format!(
                    "a gap of less than nothing: shapes that overlap by {by}, or a row the other way?"
                );
                reader.refuse(
                    &format!("{path}/gap"),
                    gap,
                    message,
                    "write a gap above zero; for a row the other way, or for overlaps, write a pitch",
                );
                return None;
            }
            let (least, most_along) = extent();
            (n, most_along - least + g)
        }
        Spacing::Last { count, distance } => {
            let n = reader.count(&format!("{path}/count"), count, 2, most);
            let d = reader.length(&format!("{path}/distance"), distance, Range::Any);
            let (n, d) = (n?, d?);
            // The far end is the one further from the first.
            let to = if high - at >= at - low { high - d } else { low + d };
            (n, (to - at) / (n - 1) as f64)
        }
        Spacing::Fill { pitch, margin } => {
            let p = reader.length(&format!("{path}/pitch"), pitch, Range::Any);
            let m = reader.length(&format!("{path}/margin"), margin, Range::ZeroUp);
            let (p, m) = (p?, m?);
            if p.abs() < 1e-3 {
                reader.refuse(
                    &format!("{path}/pitch"),
                    pitch,
                    "a pitch of nothing never fills",
                    "write a pitch above zero",
                );
                return None;
            }
            // Room from the shape's far side to the margin.
            let (least, most_along) = extent();
            let room = if p > 0.0 { high - m - most_along } else { least - (low + m) };
            let n = (room / p.abs() + 1e-9).floor();
            if n < 0.0 {
                reader.refuse(
                    &format!("{path}/margin"),
                    margin,
                    "the first cut already lies inside the margin",
                    "write a smaller margin, or move the first cut",
                );
                return None;
            }
            if n >= most as f64 {
                reader.refuse(
                    &format!("{path}/pitch"),
                    pitch,
                    format!("this pitch makes {n:.0} cuts in a row"),
                    "write a larger pitch",
                );
                return None;
            }
            (n as usize + 1, p)
        }
    };
    if count > 1 && pitch.abs() < 1e-6 {
        reader.refuse(
            &format!("{path}/pitch"),
            "",
            "the members would lie on one another",
            "write a pitch other than zero",
        );
        return None;
    }
    Some((0..count).map(|k| dir * (pitch * k as f64)).collect())
}

/// Round a point; the first stays.
pub fn ring(
    reader: &mut Reader,
    id: &str,
    line: usize,
    say: &Ring,
    made: &[(String, Vec<Feature>)],
    blank: &Blank,
) -> Option<Vec<Feature>> {
    let features = targets(reader, &say.of, made);
    let count = reader.count("/say/count", &say.count, 2, MOST_FEATURES);
    let sweep = if say.sweep.trim().is_empty() {
        Some(None)
    } else {
        reader.angle("/say/sweep", &say.sweep).map(Some)
    };
    let spot = spot(reader, "/say/centre", &say.centre, blank);
    let (features, count, sweep, spot) = (features?, count?, sweep?, spot?);
    let point = ground::geom::Contour::circle(DVec2::ZERO, 1e-9, 0);
    let (_, centre, _) = set(reader, "/say/centre", &say.centre, &point, &spot)?;
    let had = made.iter().map(|m| m.1.len()).sum();
    if !within_limits(reader, "/say/count", &features, count, had) {
        return None;
    }
    let step = sweep.map_or(std::f64::consts::TAU / count as f64, |s| s / (count - 1) as f64);
    if step.abs() < 1e-9 {
        reader.refuse(
            "/say/sweep",
            &say.sweep,
            "the members would lie on one another",
            "write an angle other than zero",
        );
        return None;
    }
    let first = features.first()?.centre;
    let member = |(f, k): (&Feature, usize)| {
        let (name, angle) = (format!("{id}.{}#{}", f.name, k + 1), step * k as f64);
        let member = match say.upright {
            false => f.turned(name, line, centre, angle),
            true => f.moved(name, line, centre + DVec2::from_angle(angle).rotate(first - centre) - first),
        };
        member.at_home(blank)
    };
    Some((1..count).flat_map(|k| features.iter().map(move |f| (f, k))).map(member).collect())
}

/// Evenly along a path that starts at the first.
pub fn path(
    reader: &mut Reader,
    id: &str,
    line: usize,
    say: &Path,
    made: &[(String, Vec<Feature>)],
) -> Option<Vec<Feature>> {
    let features = targets(reader, &say.of, made);
    let count = reader.count("/say/count", &say.count, 2, MOST_FEATURES);
    if !(1..=2_000).contains(&say.points.len()) {
        reader.refuse(
            "/say/points",
            "",
            format!("a path of {} points leads nowhere", say.points.len()),
            "tell 1 to 2,000 points, from the first cut on",
        );
        return None;
    }
    let (features, count) = (features?, count?);
    let mut segments = Vec::new();
    let (mut from, mut bulge) = (DVec2::ZERO, 0.0);
    for (i, p) in say.points.iter().enumerate() {
        let x = reader.length(&format!("/say/points/{i}/x"), &p.x, Range::Any)?;
        let y = reader.length(&format!("/say/points/{i}/y"), &p.y, Range::Any)?;
        let b = if p.bulge.is_empty() {
            0.0
        } else {
            reader.number(&format!("/say/points/{i}/bulge"), &p.bulge)?
        };
        let to = DVec2::new(x, y);
        if to.distance(from) > 1e-6 {
            segments.push(ground::geom::Segment { a: from, b: to, bulge });
        }
        (from, bulge) = (to, b.clamp(-1.0, 1.0));
    }
    let total: f64 = segments.iter().map(|s| s.length()).sum();
    let had = made.iter().map(|m| m.1.len()).sum();
    if total < 1e-3 {
        reader.refuse("/say/points", "", "the path has no length", "tell a point other than 0, 0");
        return None;
    }
    if !within_limits(reader, "/say/count", &features, count, had) {
        return None;
    }
    let at = |mut s: f64| {
        for g in &segments {
            if s <= g.length() + 1e-9 {
                let share = (s / g.length()).clamp(0.0, 1.0);
                let tangent = g
                    .arc()
                    .map_or_else(|| g.tangent(false), |a| (g.at(share) - a.centre).perp() * a.sweep.signum());
                return (g.at(share), tangent.to_angle());
            }
            s -= g.length();
        }
        segments.last().map_or((DVec2::ZERO, 0.0), |g| (g.b, g.tangent(true).to_angle()))
    };
    let start = at(0.0).1;
    let origin = features.first()?.centre;
    let mut out = Vec::new();
    for k in 1..count {
        ground::halt::point();
        let (by, heading) = at(total * k as f64 / (count - 1) as f64);
        for f in &features {
            let name = format!("{id}.{}#{}", f.name, k + 1);
            let turned =
                if say.turned { f.turned(name.clone(), line, origin, heading - start) } else { f.clone() };
            out.push(turned.moved(name, line, by));
        }
    }
    Some(out)
}

/// What a mirror line stands on: a straight edge or a bend by name.
fn mirror_line(reader: &mut Reader, say: &Mirror, blank: &Blank) -> Option<(DVec2, DVec2)> {
    let named = |b: &&crate::flat::bends::BendFact| b.name == say.about || b.label == say.about;
    match blank.bends.iter().find(named) {
        Some(b) => Some((b.ends[0], b.ends[1])),
        None => blank.edge(reader, "/say/about", &say.about),
    }
}

pub fn mirror(
    reader: &mut Reader,
    id: &str,
    line: usize,
    say: &Mirror,
    made: &[(String, Vec<Feature>)],
    blank: &Blank,
) -> Option<Vec<Feature>> {
    let features = targets(reader, &say.of, made);
    let panel = say.about == "flat" || blank.zones.iter().any(|z| z.name == say.about && z.bend().is_none());
    let (middle, across) = if panel {
        let field = field(reader, "/say/about", &say.about, blank)?;
        (field.centre(), unit(say.axis))
    } else {
        let (a, b) = mirror_line(reader, say, blank)?;
        (a, (b - a).normalize_or_zero().perp())
    };
    let features = features?;
    let had = made.iter().map(|m| m.1.len()).sum();
    if !within_limits(reader, "/say/of", &features, 1, had) {
        return None;
    }
    let flip = |p: DVec2| p - across * (2.0 * (p - middle).dot(across));
    let again = |f: &Feature| f.mirrored(format!("{id}.{}", f.name), line, middle, across).at_home(blank);
    // What lies on the mirror already would be cut twice.
    Some(features.iter().filter(|f| flip(f.centre).distance(f.centre) > 1e-6).map(again).collect())
}

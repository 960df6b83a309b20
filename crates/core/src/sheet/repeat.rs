//! `repeat` and `mirror`: the features of earlier lines again.

use glam::DVec2;

use super::blank::Blank;
use super::feature::{Feature, MOST_CORNERS, MOST_FEATURES};
use super::punch::field;
use super::reader::{Range, Reader};
use crate::job::{Axis, Mirror, Repeat, Spacing};

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
            None => {
                reader.refuse(
                    &format!("/say/of/{i}"),
                    id,
                    format!("no cut above is called '{id}'"),
                    "pick a cut that stands above this line and is carried out",
                );
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
    reader.refuse(path, "", format!("this makes {count} cuts; {MOST_FEATURES} is the most for one piece"), "repeat fewer, or split the piece");
    false
}

fn unit(axis: Axis) -> DVec2 {
    match axis {
        Axis::East => DVec2::X,
        Axis::North => DVec2::Y,
    }
}

pub fn repeat(reader: &mut Reader, id: &str, line: usize, say: &Repeat, made: &[(String, Vec<Feature>)]) -> Option<Vec<Feature>> {
    let features = targets(reader, &say.of, made)?;
    let along = steps(reader, "/say/spacing", &say.spacing, unit(say.axis), &features);
    let other = match say.axis {
        Axis::East => Axis::North,
        Axis::North => Axis::East,
    };
    let across = match &say.across {
        Some(s) => steps(reader, "/say/across", s, unit(other), &features),
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
            if i == 0 && j == 0 {
                continue;
            }
            for f in &features {
                let name = match say.across {
                    None => format!("{id}.{}#{}", f.name, i + 1),
                    Some(_) => format!("{id}.{}#{}.{}", f.name, j + 1, i + 1),
                };
                out.push(f.moved(name, line, *by + *up));
            }
        }
    }
    Some(out)
}

/// Where the members stand relative to the first, itself included.
fn steps(reader: &mut Reader, path: &str, spacing: &Spacing, dir: DVec2, features: &[Feature]) -> Option<Vec<DVec2>> {
    let first = features.first()?;
    let at = first.centre.dot(dir);
    let (low, high) = (first.field.min.dot(dir), first.field.max.dot(dir));
    let most = MOST_FEATURES + 1;
    let (count, pitch) = match spacing {
        Spacing::Pitch { count, pitch } => {
            let n = reader.count(&format!("{path}/count"), count, 1, most);
            let p = reader.length(&format!("{path}/pitch"), pitch, Range::Any);
            (n?, p?)
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
                reader.refuse(&format!("{path}/pitch"), pitch, "a pitch of nothing never fills", "write a pitch above zero");
                return None;
            }
            // Room from the shape's far side to the margin.
            let b = features.iter().fold(first.contour.bounds(), |b, f| b.join(&f.contour.bounds()));
            let room = if p > 0.0 { high - m - b.max.dot(dir) } else { b.min.dot(dir) - (low + m) };
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
                reader.refuse(&format!("{path}/pitch"), pitch, format!("this pitch makes {n:.0} cuts in a row"), "write a larger pitch");
                return None;
            }
            (n as usize + 1, p)
        }
    };
    if count > 1 && pitch.abs() < 1e-6 {
        reader.refuse(&format!("{path}/pitch"), "", "the members would lie on one another", "write a pitch other than zero");
        return None;
    }
    Some((0..count).map(|k| dir * (pitch * k as f64)).collect())
}

pub fn mirror(reader: &mut Reader, id: &str, line: usize, say: &Mirror, made: &[(String, Vec<Feature>)], blank: &Blank) -> Option<Vec<Feature>> {
    let features = targets(reader, &say.of, made);
    let field = field(reader, "/say/about", &say.about, blank);
    let (features, field) = (features?, field?);
    let had = made.iter().map(|m| m.1.len()).sum();
    if !within_limits(reader, "/say/of", &features, 1, had) {
        return None;
    }
    let middle = field.centre();
    let flip = |p: DVec2| match say.axis {
        Axis::East => DVec2::new(2.0 * middle.x - p.x, p.y),
        Axis::North => DVec2::new(p.x, 2.0 * middle.y - p.y),
    };
    let again = |f: &Feature| {
        let contour = f.contour.mirrored(flip);
        let name = format!("{id}.{}", f.name);
        Feature { name, line, centre: flip(f.centre), contour, ..f.clone() }
    };
    // What lies on the midplane already would be cut twice.
    Some(features.iter().filter(|f| flip(f.centre).distance(f.centre) > 1e-6).map(again).collect())
}

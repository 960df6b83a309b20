//! `punch`: a shape and its place → one feature.

use std::f64::consts::TAU;

use glam::DVec2;

use super::blank::{Blank, told_contour};
use super::feature::Feature;
use crate::verbs::{EdgeOf, From, Notch, NotchShape, Offset, Place, Punch, Shape, SlotMeasure, To};
use ground::geom::{Bounds, Contour, fillet};
use ground::reader::{Range, Reader};

pub fn punch(reader: &mut Reader, id: &str, line: usize, say: &Punch, blank: &Blank) -> Option<Feature> {
    let shape = shape(reader, "/say/shape", &say.shape);
    let spot = spot(reader, "/say/place", &say.place, blank);
    let ((shape, least), spot) = (shape?, spot?);
    let (contour, centre, field) = set(reader, "/say/place", &say.place, &shape, &spot)?;
    Some(Feature::cut(id.to_string(), line, contour, centre, least, field))
}

/// Where a place is told: the field, and for a folded panel's own words its frame.
pub struct Spot {
    pub field: Bounds,
    /// The outer faces round the panel: least and greatest x and y of the place's own words. None on the
    /// whole flat.
    outside: Option<[(f64, f64); 2]>,
    turn: f64,
    /// A folded panel's frame: origin on its tangent line, x to the right, y to the tip.
    own: Option<Own>,
}

struct Own {
    origin: DVec2,
    right: DVec2,
    x: (f64, f64),
    y: (f64, f64),
    /// From the outside of its bend to its tangent line.
    setback: f64,
}

/// The field and turn of a place.
pub fn spot(reader: &mut Reader, path: &str, place: &Place, blank: &Blank) -> Option<Spot> {
    let field = field(reader, &format!("{path}/on"), &place.on, blank);
    let turn =
        if place.turn.is_empty() { Some(0.0) } else { reader.angle(&format!("{path}/turn"), &place.turn) };
    let (field, turn) = (field?, turn?);
    let panel = blank.zones.iter().position(|z| z.name == place.on && z.is_panel());
    if !place.x.from.is_own() && !place.y.from.is_own() {
        let far = |d: DVec2| panel.map(|k| outside(blank, k, d));
        let spread = |d: DVec2| Some((-far(-d)?, far(d)?));
        let outside = spread(DVec2::X).zip(spread(DVec2::Y)).map(|(x, y)| [x, y]);
        return Some(Spot { field, outside, turn, own: None });
    }
    let mixed = |f: From| !f.is_own() && f != From::Centre;
    if mixed(place.x.from) || mixed(place.y.from) {
        let which = if mixed(place.x.from) { "x" } else { "y" };
        reader.refuse(
            &format!("{path}/{which}/from"),
            "",
            "one distance is told by the panel's own ends, the other by the compass",
            "tell both the same way",
        );
        return None;
    }
    let zone = blank.zones.iter().find(|z| z.name == place.on);
    let Some((zone, parent)) = zone.and_then(|z| Some((z, z.parent?))) else {
        reader.refuse(
            &format!("{path}/x/from"),
            "",
            "only a folded panel has a left, a right, a fold and a tip",
            "use west, east, south and north, or name a folded panel",
        );
        return None;
    };
    let [y, across] = zone.extent();
    let setback = blank.bends.iter().find(|b| b.zone == parent).map_or(0.0, |b| b.ossb);
    let own = Own { origin: zone.origin, right: zone.right(), x: (-across.1, -across.0), y, setback };
    let outside = panel.map(|k| {
        let spread =
            |d: DVec2| (-outside(blank, k, -d) - own.origin.dot(d), outside(blank, k, d) - own.origin.dot(d));
        [spread(own.right), spread(zone.along)]
    });
    Some(Spot { field, outside, turn, own: Some(own) })
}

/// The outer faces round a panel, in the flat: least x and y, greatest x and y; none of what is no panel.
pub fn outside_box(blank: &Blank, zone: usize) -> Option<[f64; 4]> {
    let far = |d: DVec2| outside(blank, zone, d);
    blank.zones[zone].is_panel().then(|| [-far(-DVec2::X), -far(-DVec2::Y), far(DVec2::X), far(DVec2::Y)])
}

/// How far the outer face reaches in a direction of the flat, beside a panel: of the fold on that edge, of
/// the bend that the panel hangs on, or of the wall that closes the corner there; where nothing is bent, the
/// end of the panel's metal.
fn outside(blank: &Blank, panel: usize, d: DVec2) -> f64 {
    let far = |k: usize| blank.zones[k].region.iter().map(|p| p.dot(d)).fold(f64::NEG_INFINITY, f64::max);
    let bend_of = |zone: usize| blank.bends.iter().find(|b| b.zone == zone && !b.rolled);
    let along = |k: usize| blank.zones[k].along.dot(d) > 1.0 - 1e-9;
    // The folds on this edge of a panel; the one that stands furthest out counts.
    let folded = |k: usize| {
        let on = blank
            .bends
            .iter()
            .filter(|b| !b.rolled && blank.zones[b.zone].parent == Some(k) && along(b.zone));
        on.map(|b| blank.zones[b.zone].origin.dot(d) + b.ossb).reduce(f64::max)
    };
    let zone = &blank.zones[panel];
    if let Some(out) = folded(panel) {
        return out;
    }
    let Some(hangs) = zone.parent.and_then(bend_of) else { return far(panel) };
    if zone.along.dot(d) < -1.0 + 1e-9 {
        return zone.origin.dot(d) + hangs.ossb;
    }
    let square = zone.along.dot(d).abs() < 1e-9;
    blank.zones[hangs.zone].parent.filter(|_| square).and_then(folded).unwrap_or_else(|| far(panel))
}

/// A shape set in its place: its contour, its middle, and the field.
pub fn set(
    reader: &mut Reader,
    path: &str,
    place: &Place,
    shape: &Contour,
    spot: &Spot,
) -> Option<(Contour, DVec2, Bounds)> {
    let shape = shape.moved(spot.turn, DVec2::ZERO);
    let b = shape.bounds();
    let (xs, ys) = ((b.min.x, b.max.x), (b.min.y, b.max.y));
    let (x_path, y_path) = (format!("{path}/x"), format!("{path}/y"));
    match &spot.own {
        None => {
            let f = &spot.field;
            let x = edges(reader, &x_path, &place.x, (f.min.x, f.max.x), spot.outside.map(|o| o[0]))?;
            let y = edges(reader, &y_path, &place.y, (f.min.y, f.max.y), spot.outside.map(|o| o[1]))?;
            let x = along(reader, &x_path, &place.x, [From::West, From::East], xs, x, "east and west");
            let y = along(reader, &y_path, &place.y, [From::South, From::North], ys, y, "south and north");
            let centre = DVec2::new(x?, y?);
            Some((shape.moved(0.0, centre), centre, *f))
        }
        Some(own) => {
            let across = edges(reader, &x_path, &place.x, own.x, spot.outside.map(|o| o[0]))?;
            let up = edges(reader, &y_path, &place.y, own.y, spot.outside.map(|o| o[1]))?;
            let x = along(reader, &x_path, &place.x, [From::Left, From::Right], xs, across, "left and right");
            let y = if place.y.from == From::Outside {
                let from_fold = Offset { from: From::Fold, ..place.y.clone() };
                along(
                    reader,
                    &y_path,
                    &from_fold,
                    [From::Fold, From::Tip],
                    ys,
                    own.y,
                    "fold, outside and tip",
                )
                .map(|y| y - own.setback)
            } else {
                along(reader, &y_path, &place.y, [From::Fold, From::Tip], ys, up, "fold, outside and tip")
            };
            let centre = own.origin + own.right.rotate(DVec2::new(x?, y?));
            Some((shape.moved(own.right.to_angle(), centre), centre, spot.field))
        }
    }
}

/// The two edges that a distance may be told from: the panel's own, or the outer faces where those are meant.
fn edges(
    reader: &mut Reader,
    path: &str,
    o: &Offset,
    panel: (f64, f64),
    outside: Option<(f64, f64)>,
) -> Option<(f64, f64)> {
    if o.edge == EdgeOf::Panel || matches!(o.from, From::Centre | From::Outside) {
        return Some(panel);
    }
    if outside.is_none() {
        reader.refuse(
            &format!("{path}/edge"),
            "",
            "the whole flat has no outer faces to measure from",
            "name the panel that the shape lies on, or tell the flat's edge",
        );
    }
    outside
}

/// `notch`: a shape let into an edge.
pub fn notch(reader: &mut Reader, id: &str, line: usize, say: &Notch, blank: &Blank) -> Option<Feature> {
    let edge = blank.edge(reader, "/say/edge", &say.edge);
    let mut size =
        |field: &str, text: &str| reader.length(&format!("/say/shape/{field}"), text, Range::AboveZero);
    let (NotchShape::Square { width, depth }
    | NotchShape::Vee { width, depth }
    | NotchShape::Round { width, depth }) = &say.shape;
    let (w, d) = (size("width", width), size("depth", depth));
    let place = if say.place.trim().is_empty() {
        Some(None)
    } else {
        reader.length("/say/place", &say.place, Range::ZeroUp).map(Some)
    };
    let ((a, b), w, d, place) = (edge?, w?, d?, place?);
    let length = a.distance(b);
    let middle = place.map_or(length / 2.0, |from_left| length - from_left);
    if middle < -1e-6 || middle > length + 1e-6 {
        reader.refuse(
            "/say/place",
            &say.place,
            "the notch lies beyond the end of its edge",
            "write a smaller distance",
        );
        return None;
    }
    // A little past the edge, so that nothing is left standing on it.
    let past = 0.05;
    let points = match &say.shape {
        NotchShape::Square { .. } => Contour::polygon(
            [(-w / 2.0, -past), (w / 2.0, -past), (w / 2.0, d), (-w / 2.0, d)].map(|(x, y)| DVec2::new(x, y)),
            0,
        ),
        NotchShape::Vee { .. } => {
            let wide = w / 2.0 * (1.0 + past / d);
            Contour::polygon([(-wide, -past), (wide, -past), (0.0, d)].map(|(x, y)| DVec2::new(x, y)), 0)
        }
        NotchShape::Round { .. } => {
            if d < w / 2.0 - 1e-9 {
                reader.refuse(
                    "/say/shape/depth",
                    depth,
                    "a round-ended notch is at least half as deep as it is wide",
                    "write a greater depth, or a vee",
                );
                return None;
            }
            let v = |x: f64, y: f64, bulge: f64| ground::geom::Vertex { p: DVec2::new(x, y), bulge, tag: 0 };
            Contour {
                vertices: vec![
                    v(-w / 2.0, -past, 0.0),
                    v(w / 2.0, -past, 0.0),
                    v(w / 2.0, d - w / 2.0, 1.0),
                    v(-w / 2.0, d - w / 2.0, 0.0),
                ],
            }
            .without_short_sides()
        }
    };
    let dir = (b - a).normalize_or_zero();
    let centre = a + dir * middle;
    Some(Feature::cut(
        id.to_string(),
        line,
        points.moved(dir.to_angle(), centre),
        centre,
        w,
        blank.outer.bounds(),
    ))
}

/// The shape about its own centre, and its smallest width.
pub fn shape(reader: &mut Reader, path: &str, shape: &Shape) -> Option<(Contour, f64)> {
    let mut size =
        |field: &str, text: &str| reader.length(&format!("{path}/{field}"), text, Range::AboveZero);
    let upright =
        |w: f64, h: f64| Contour::rectangle(-DVec2::new(w, h) / 2.0, DVec2::new(w, h) / 2.0, 0).retagged(0);
    Some(match shape {
        Shape::Round { diameter } => {
            let d = size("diameter", diameter)?;
            (Contour::circle(DVec2::ZERO, d / 2.0, 0), d)
        }
        Shape::Square { side, corner } => {
            let s = size("side", side)?;
            (rounded(reader, path, corner, upright(s, s), s)?, s)
        }
        Shape::Rectangle { width, height, corner } => {
            let (w, h) = (size("width", width), size("height", height));
            let (w, h) = (w?, h?);
            (rounded(reader, path, corner, upright(w, h), w.min(h))?, w.min(h))
        }
        Shape::Slot { length, width, measure } => {
            let (told, w) = (size("length", length), size("width", width));
            let (told, w) = (told?, w?);
            let overall = if *measure == SlotMeasure::Centres { told + w } else { told };
            if overall < w + 1e-6 {
                reader.refuse(
                    &format!("{path}/length"),
                    length,
                    "the slot is no longer than it is wide",
                    "write a greater length, or punch a round hole",
                );
                return None;
            }
            (Contour::slot(DVec2::ZERO, overall, w, 0), w)
        }
        Shape::Triangle { base, height } => {
            let (b, h) = (size("base", base), size("height", height));
            let (b, h) = (b?, h?);
            let points =
                [DVec2::new(-b / 2.0, -h / 2.0), DVec2::new(b / 2.0, -h / 2.0), DVec2::new(0.0, h / 2.0)];
            let leg = (b / 2.0).hypot(h);
            (Contour::polygon(points, 0), (b * h / leg.max(b)).min(b).min(h))
        }
        Shape::Polygon { sides, across } => {
            let across = size("across", across);
            let n = reader.count(&format!("{path}/sides"), sides, 3, 64);
            let (n, across) = (n?, across?);
            // Told across flats: twice the inradius. The first flat lies south.
            let radius = across / 2.0 / (TAU / n as f64 / 2.0).cos();
            let first = -TAU / 4.0 - TAU / n as f64 / 2.0;
            let points = (0..n).map(|k| DVec2::from_angle(first + TAU * k as f64 / n as f64) * radius);
            (Contour::polygon(points, 0), across)
        }
        Shape::Keyhole { entry, slot, length } => {
            let (e, w, l) = (size("entry", entry), size("slot", slot), size("length", length));
            let (e, w, l) = (e?, w?, l?);
            if w >= e {
                reader.refuse(
                    &format!("{path}/slot"),
                    slot,
                    "the slot is no narrower than the entry",
                    "write a narrower slot: the shank's, not the head's",
                );
                return None;
            }
            if l < (e + w) / 2.0 - 1e-9 {
                reader.refuse(
                    &format!("{path}/length"),
                    length,
                    "the slot does not come out of the entry",
                    "write at least half the entry and half the slot",
                );
                return None;
            }
            (keyhole(e / 2.0, w / 2.0, l), w)
        }
        Shape::D { diameter, across } => {
            let (d, a) = (size("diameter", diameter), size("across", across));
            let (d, a) = (d?, a?);
            if a >= d || a <= d / 2.0 {
                reader.refuse(
                    &format!("{path}/across"),
                    across,
                    "the flat must cut less than half off the circle",
                    "write more than half the diameter and less than all of it",
                );
                return None;
            }
            let r = d / 2.0;
            // The flat lies `across` below the north end.
            let y = r - a;
            let half = (r * r - y * y).sqrt();
            let v = |x: f64, y: f64, bulge: f64| ground::geom::Vertex { p: DVec2::new(x, y), bulge, tag: 0 };
            let quarter = |from: f64, to: f64| ((to - from) / 4.0).tan();
            let start = y.atan2(half);
            (
                Contour {
                    vertices: vec![
                        v(half, y, quarter(start, TAU / 4.0)),
                        v(0.0, r, quarter(start, TAU / 4.0)),
                        v(-half, y, 0.0),
                    ],
                },
                a,
            )
        }
        Shape::Outline { points } => {
            let contour = told_contour(reader, &format!("{path}/points"), points, 0)?;
            let bounds = contour.bounds();
            // Placed by its middle like every other shape, wherever its points were counted from.
            (contour.moved(0.0, -bounds.centre()), bounds.size().min_element())
        }
    })
}

/// A box with its corners rounded, where that is told.
fn rounded(reader: &mut Reader, path: &str, corner: &str, sharp: Contour, least: f64) -> Option<Contour> {
    if corner.trim().is_empty() {
        return Some(sharp);
    }
    let r = reader.length(&format!("{path}/corner"), corner, Range::AboveZero)?;
    if r > least / 2.0 + 1e-9 {
        let most = reader.display.length_unit(least / 2.0);
        reader.refuse(
            &format!("{path}/corner"),
            corner,
            "the corners are rounder than the shape is wide",
            format!("write at most {most}, or punch a slot or a round hole"),
        );
        return None;
    }
    let picks: Vec<(usize, f64)> = (0..sharp.vertices.len()).map(|i| (i, r.min(least / 2.0))).collect();
    Some(fillet(&sharp, &picks).without_short_sides())
}

/// A circle of radius `e` at the origin with a slot of half width `w` reaching `l` north.
fn keyhole(e: f64, w: f64, l: f64) -> Contour {
    let y = (e * e - w * w).sqrt();
    let v = |x: f64, y: f64, bulge: f64| ground::geom::Vertex { p: DVec2::new(x, y), bulge, tag: 0 };
    // From the slot's west side counter-clockwise round the entry to its east side, in two arcs.
    let from = y.atan2(-w);
    let sweep = TAU - (from - y.atan2(w));
    let half = (sweep / 8.0).tan();
    let mut out = vec![v(-w, y, half), v(0.0, -e, half), v(w, y, 0.0), v(w, l - w, 1.0), v(-w, l - w, 0.0)];
    if l - w - y < 1e-9 {
        out = vec![v(-w, y, half), v(0.0, -e, half), v(w, y, 1.0)];
    }
    Contour { vertices: out }
}

/// The rectangle that places are told in.
pub fn field(reader: &mut Reader, path: &str, on: &str, blank: &Blank) -> Option<Bounds> {
    if on == "flat" {
        return Some(blank.outer.bounds());
    }
    match blank.zones.iter().find(|z| z.name == on && (z.is_panel() || blank.is_shell(z))) {
        Some(z) => Some(Bounds { min: z.min, max: z.max }),
        None => {
            let known: Vec<&str> = blank
                .zones
                .iter()
                .filter(|z| z.is_panel() || blank.is_shell(z))
                .map(|z| z.name.as_str())
                .take(12)
                .collect();
            let mend = if known.is_empty() {
                "pick flat".to_string()
            } else {
                format!("pick flat, or one of {}", known.join(", "))
            };
            reader.refuse(path, on, format!("no panel is called '{on}'"), mend);
            None
        }
    }
}

fn along(
    reader: &mut Reader,
    path: &str,
    o: &Offset,
    [low, high]: [From; 2],
    shape: (f64, f64),
    field: (f64, f64),
    known: &str,
) -> Option<f64> {
    let distance = if o.distance.trim().is_empty() && o.from == From::Centre {
        0.0
    } else {
        reader.length(&format!("{path}/distance"), &o.distance, Range::Any)?
    };
    let side = o.to == To::Side;
    Some(match o.from {
        From::Centre => (field.0 + field.1) / 2.0 + distance,
        f if f == low => field.0 + distance - if side { shape.0 } else { 0.0 },
        f if f == high => field.1 - distance - if side { shape.1 } else { 0.0 },
        _ => {
            reader.refuse(
                &format!("{path}/from"),
                "",
                "this edge runs the other way",
                format!("pick the middle, {known}"),
            );
            return None;
        }
    })
}

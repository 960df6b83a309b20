//! DXF (R2000): the flat pattern out, contours in. Circles stay circles and arcs stay arcs both ways.

use dxf::entities::{Arc, Circle, Entity, EntityType, Line, LwPolyline, Text};
use dxf::enums::{AcadVersion, DrawingUnits, Units};
use dxf::tables::Layer;
use dxf::{Color, Drawing, LwPolylineVertex, Point};
use glam::DVec2;
use steelk_core::geom::{Contour, Segment, Vertex};
use steelk_core::quantity::{LengthUnit, trim_number};
use steelk_core::result::PieceResult;
use steelk_core::sheet::contours;

pub const CUT: &str = "CUT";
pub const BEND_UP: &str = "BEND_UP";
pub const BEND_DOWN: &str = "BEND_DOWN";
/// Where a rolled arc begins and ends.
pub const ROLL_UP: &str = "ROLL_UP";
pub const ROLL_DOWN: &str = "ROLL_DOWN";
pub const MARKS: &str = "MARKS";

/// Larger files are refused before they are read.
pub const MOST_BYTES: usize = 32 * 1024 * 1024;

#[derive(Debug, thiserror::Error)]
pub enum DxfError {
    #[error("the DXF could not be written: {0}")]
    Write(String),
    #[error("the file is not a DXF that can be read: {0}")]
    Read(String),
    #[error("the file is larger than {MOST_BYTES} bytes")]
    TooLarge,
    #[error("the contour is not closed: at {x:.3}, {y:.3} a gap of {gap:.3} is open")]
    Open { x: f64, y: f64, gap: f64 },
    #[error("the file holds no closed contour on its cut layers")]
    Empty,
}

/// The flat pattern in the piece's unit. `saved_at`, seconds since 1970, is the time in its head: the same job gives the same bytes.
pub fn write(piece: &PieceResult, saved_at: i64) -> Result<Vec<u8>, DxfError> {
    let unit = piece.display.length.mm();
    let mut d = Drawing::new();
    d.header.version = AcadVersion::R2000;
    let at = chrono::DateTime::from_timestamp(saved_at, 0).unwrap_or_default();
    (d.header.creation_date_universal, d.header.update_date_universal) = (at, at);
    (d.header.creation_date, d.header.update_date) = (at.into(), at.into());
    (d.header.fingerprint_guid, d.header.version_guid) = Default::default();
    let (units, system) = match piece.display.length {
        LengthUnit::Mm => (Units::Millimeters, DrawingUnits::Metric),
        LengthUnit::In => (Units::Inches, DrawingUnits::English),
    };
    d.header.default_drawing_units = units;
    d.header.drawing_units = system;
    let b = piece.flat.outer.bounds();
    d.header.minimum_drawing_extents = Point::new(b.min.x / unit, b.min.y / unit, 0.0);
    d.header.maximum_drawing_extents = Point::new(b.max.x / unit, b.max.y / unit, 0.0);
    for (name, colour) in [(CUT, 7), (BEND_UP, 5), (BEND_DOWN, 30), (ROLL_UP, 4), (ROLL_DOWN, 40), (MARKS, 8)] {
        d.add_layer(Layer { name: name.into(), color: Color::from_index(colour), ..Layer::default() });
    }
    let mut add = |layer: &str, specific: EntityType| {
        let mut e = Entity::new(specific);
        e.common.layer = layer.into();
        d.add_entity(e);
    };
    for c in contours(piece) {
        add(CUT, contour_entity(c, unit));
    }
    for bend in &piece.flat.bends {
        let p = |v: [f64; 2]| Point::new(v[0] / unit, v[1] / unit, 0.0);
        let layer = match (bend.rolled, bend.up) {
            (true, true) => ROLL_UP,
            (true, false) => ROLL_DOWN,
            (false, true) => BEND_UP,
            (false, false) => BEND_DOWN,
        };
        for [from, to] in bend.lines() {
            add(layer, EntityType::Line(Line::new(p(from), p(to))));
        }
        // A bend says its angle and radius along its longest part; a roll in its middle.
        let [from, to] = bend.longest().map(DVec2::from);
        let dir = (to - from).normalize_or_zero();
        let dir = if dir.x < -1e-9 || dir.x.abs() <= 1e-9 && dir.y < 0.0 { -dir } else { dir };
        let said =
            format!("{} {} {} R{}", if bend.rolled { "ROLL" } else { "BEND" }, if bend.up { "UP" } else { "DOWN" }, degrees(bend.angle), bend.radius_text);
        let height = (from.distance(to) / (said.len() as f64 * 0.8)).min(3.0);
        if height > 0.8 {
            let middle = (from + to) / 2.0 + dir.perp() * height * 0.4 - dir * (said.len() as f64 * 0.4 * height);
            let text =
                Text { location: p(middle.to_array()), text_height: height / unit, value: said, rotation: dir.to_angle().to_degrees(), ..Text::default() };
            add(MARKS, EntityType::Text(text));
        }
    }
    // Pressed shapes are marked, not cut: footprint, and which side they stand out on.
    let small = (b.size().min_element() / unit / 60.0).clamp(1.5 / unit, 4.0 / unit);
    for p in &piece.flat.pressed {
        add(MARKS, contour_entity(&p.footprint, unit));
        let location = Point::new(p.at[0] / unit, p.at[1] / unit, 0.0);
        add(MARKS, EntityType::Text(Text { location, text_height: small, value: p.text.clone(), ..Text::default() }));
    }
    let said = crate::name::file_stem(piece).replace('_', " ");
    let height = (b.size().min_element() / unit / 20.0).clamp(2.0 / unit, 8.0 / unit);
    let text = Text { location: Point::new(b.min.x / unit, b.min.y / unit - 2.0 * height, 0.0), text_height: height, value: said, ..Text::default() };
    add(MARKS, EntityType::Text(text));
    let mut out = Vec::new();
    d.save(&mut out).map_err(|e| DxfError::Write(e.to_string()))?;
    Ok(out)
}

/// `90` or `22.5`, with the sign that every reader of the format knows.
fn degrees(angle: f64) -> String {
    format!("{}%%d", trim_number(angle.to_degrees(), 2))
}

fn contour_entity(c: &Contour, unit: f64) -> EntityType {
    if let Some((centre, radius)) = c.as_circle() {
        return EntityType::Circle(Circle::new(Point::new(centre.x / unit, centre.y / unit, 0.0), radius / unit));
    }
    let vertices = c.vertices.iter().map(|v| LwPolylineVertex { x: v.p.x / unit, y: v.p.y / unit, bulge: v.bulge, ..LwPolylineVertex::default() }).collect();
    EntityType::LwPolyline(LwPolyline { vertices, flags: 1, ..LwPolyline::default() })
}

/// What a DXF holds, in millimetres.
#[derive(Clone, Debug, Default)]
pub struct Content {
    pub unit: Option<LengthUnit>,
    /// Closed contours, the largest first, counter-clockwise.
    pub contours: Vec<Contour>,
    /// Lines on the bend layers: ends, and whether up.
    pub bends: Vec<(DVec2, DVec2, bool)>,
}

/// Groups in groups, as deep as they are followed.
const DEEPEST: usize = 64;
/// Stack of the reader, which descends with them.
const STACK: usize = 64 * 1024 * 1024;

/// The library's reading of a file, in a thread of its own: what it cannot bear ends that thread and nothing else.
fn loaded(bytes: &[u8]) -> Result<Drawing, DxfError> {
    let mut depth = 0usize;
    let mut lines = bytes.split(|b| *b == b'\n').map(|l| l.trim_ascii());
    while let (Some(code), Some(value)) = (lines.next(), lines.next()) {
        match (code, value.first()) {
            (b"102", Some(b'{')) => depth += 1,
            (b"102", Some(b'}')) => depth = depth.saturating_sub(1),
            _ => {}
        }
        if depth > DEEPEST {
            return Err(DxfError::Read(format!("its groups stand more than {DEEPEST} deep in one another")));
        }
    }
    let broken = |_| DxfError::Read("a value in it is out of all bounds".into());
    std::thread::scope(|s| {
        let read = || Drawing::load(&mut std::io::Cursor::new(bytes)).map_err(|e| DxfError::Read(e.to_string()));
        let thread = std::thread::Builder::new().stack_size(STACK).spawn_scoped(s, read).map_err(|e| DxfError::Read(e.to_string()))?;
        thread.join().map_err(broken)?
    })
}

/// Reads contours from every layer but bend and mark layers. `assume` is the unit where the header names none.
pub fn read(bytes: &[u8], assume: LengthUnit) -> Result<Content, DxfError> {
    if bytes.len() > MOST_BYTES {
        return Err(DxfError::TooLarge);
    }
    let d = loaded(bytes)?;
    let (mm, unit) = match d.header.default_drawing_units {
        Units::Millimeters => (1.0, Some(LengthUnit::Mm)),
        Units::Inches => (25.4, Some(LengthUnit::In)),
        Units::Centimeters => (10.0, None),
        Units::Meters => (1000.0, None),
        Units::Feet => (304.8, None),
        _ => (assume.mm(), None),
    };
    let p = |x: f64, y: f64| DVec2::new(x, y) * mm;
    let mut out = Content { unit, ..Content::default() };
    let mut loose: Vec<Segment> = Vec::new();
    for e in d.entities() {
        let layer = e.common.layer.to_ascii_uppercase();
        if layer == BEND_UP || layer == BEND_DOWN {
            if let EntityType::Line(l) = &e.specific {
                out.bends.push((p(l.p1.x, l.p1.y), p(l.p2.x, l.p2.y), layer == BEND_UP));
            }
            continue;
        }
        if [MARKS, ROLL_UP, ROLL_DOWN].contains(&layer.as_str()) {
            continue;
        }
        match &e.specific {
            EntityType::Circle(c) => out.contours.push(Contour::circle(p(c.center.x, c.center.y), c.radius * mm, 0)),
            EntityType::LwPolyline(l) => {
                let vertices: Vec<Vertex> = l.vertices.iter().map(|v| Vertex { p: p(v.x, v.y), bulge: v.bulge, tag: 0 }).collect();
                let c = Contour { vertices };
                if l.is_closed() {
                    out.contours.push(c);
                } else {
                    let n = c.vertices.len();
                    loose.extend(c.segments().take(n.saturating_sub(1)));
                }
            }
            EntityType::Line(l) => loose.push(Segment::line(p(l.p1.x, l.p1.y), p(l.p2.x, l.p2.y))),
            EntityType::Arc(a) => loose.extend(arc_segments(a, mm)),
            _ => {}
        }
    }
    out.contours.extend(chain(loose)?);
    out.contours.retain(|c| c.is_finite() && c.vertices.len() >= 2);
    if out.contours.is_empty() {
        return Err(DxfError::Empty);
    }
    out.contours = std::mem::take(&mut out.contours).into_iter().map(Contour::outward).collect();
    out.contours.sort_by(|a, b| b.area().total_cmp(&a.area()));
    Ok(out)
}

/// An arc entity (counter-clockwise, degrees) as segments of at most a half circle.
fn arc_segments(a: &Arc, mm: f64) -> Vec<Segment> {
    let sweep = (a.end_angle - a.start_angle).to_radians().rem_euclid(std::f64::consts::TAU);
    let sweep = if sweep == 0.0 { std::f64::consts::TAU } else { sweep };
    let parts = if sweep > std::f64::consts::PI { 2 } else { 1 };
    let at =
        |k: usize| DVec2::new(a.center.x, a.center.y) * mm + DVec2::from_angle(a.start_angle.to_radians() + sweep * k as f64 / parts as f64) * a.radius * mm;
    (0..parts).map(|k| Segment { a: at(k), b: at(k + 1), bulge: (sweep / parts as f64 / 4.0).tan() }).collect()
}

/// Ends this near are joined.
const JOIN: f64 = 1e-3;

/// Loose lines and arcs → closed contours, or the place of the first gap.
fn chain(mut loose: Vec<Segment>) -> Result<Vec<Contour>, DxfError> {
    let mut out = Vec::new();
    while let Some(first) = loose.pop() {
        let mut run = vec![first];
        loop {
            let (start, end) = (run[0].a, run[run.len() - 1].b);
            if run.len() > 1 && start.distance(end) <= JOIN {
                break;
            }
            let near = |s: &Segment| s.a.distance(end).min(s.b.distance(end));
            let next = (0..loose.len()).min_by(|&i, &j| near(&loose[i]).total_cmp(&near(&loose[j])));
            match next {
                Some(i) if near(&loose[i]) <= JOIN => {
                    let s = loose.swap_remove(i);
                    let forward = s.a.distance(end) <= s.b.distance(end);
                    run.push(if forward { s } else { Segment { a: s.b, b: s.a, bulge: -s.bulge } });
                }
                other => {
                    let to_next = other.map_or(f64::INFINITY, |i| near(&loose[i]));
                    return Err(DxfError::Open { x: end.x, y: end.y, gap: to_next.min(start.distance(end)) });
                }
            }
        }
        out.push(Contour { vertices: run.iter().map(|s| Vertex { p: s.a, bulge: s.bulge, tag: 0 }).collect() });
    }
    Ok(out)
}

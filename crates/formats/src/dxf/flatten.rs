//! Entities of a document → runs of lines and arcs in millimetres: blocks set in, curves made into arcs, what
//! is not to be seen left out.

use std::rc::Rc;

use glam::{DAffine2, DVec2};
use steelk_core::geom::{Segment, arcs};
use steelk_core::halt;

use super::document::{Document, Entity, Kind, Layer, key};
use super::unreadable;
use crate::drawn::{Assume, DrawingError, Run, SAME, Strokes};

/// Blocks in blocks, as deep as they are followed; entities made of blocks, at most.
const DEEPEST: usize = 16;
const MOST_MADE: usize = 1_000_000;

/// From the drawing's zero, mm.
const FURTHEST: f64 = 1e8;

pub fn flatten(d: &Document, mm: f64) -> Result<Strokes, DrawingError> {
    let leaning = d.metric.map(|m| if m { Assume::Mm } else { Assume::In });
    let mut f = Flattening { d, out: Strokes { leaning, ..Strokes::default() }, made: 0 };
    let place = DAffine2::from_scale(DVec2::splat(mm));
    for e in &d.entities {
        f.entity(e, place, None, 0)?;
    }
    Ok(f.out)
}

struct Flattening<'a> {
    d: &'a Document,
    out: Strokes,
    made: usize,
}

impl Flattening<'_> {
    fn layer(&self, name: &str) -> Layer {
        self.d.layers.get(&key(name)).copied().unwrap_or_default()
    }

    /// `inherited`: the layer of the block's own place, which entities on layer 0 take over.
    fn entity(
        &mut self,
        e: &Entity,
        place: DAffine2,
        inherited: Option<&Rc<str>>,
        depth: usize,
    ) -> Result<(), DrawingError> {
        halt::often();
        self.made += 1;
        if self.made > MOST_MADE {
            return Err(unreadable(format!("its blocks make more than {MOST_MADE} entities")));
        }
        let layer = inherited.filter(|_| &*e.layer == "0").unwrap_or(&e.layer);
        let what = called(&e.called);
        let state = self.layer(layer);
        let insert = matches!(e.kind, Kind::Insert { .. });
        let hidden = match () {
            _ if e.paper => Some("in paper space".into()),
            _ if e.hidden => Some("not visible".into()),
            _ if state.frozen => Some(format!("on layer {layer}, which is frozen")),
            _ if state.off && !insert => Some(format!("on layer {layer}, which is off")),
            _ => None,
        };
        if let Some(why) = hidden {
            self.out.left_out.add(what, why, e.line);
            return Ok(());
        }
        if let Kind::Insert { block, place: own, columns, rows, many } = &e.kind {
            let Some(b) = self.d.blocks.get(block) else {
                self.out.left_out.add(
                    what,
                    format!("of a block '{block}' that the file does not hold"),
                    e.line,
                );
                return Ok(());
            };
            if depth >= DEEPEST {
                return Err(unreadable(format!("its blocks stand more than {DEEPEST} deep in one another")));
            }
            for (i, j) in (0..many[1]).flat_map(|j| (0..many[0]).map(move |i| (i, j))) {
                halt::often();
                self.made += 1;
                if self.made > MOST_MADE {
                    return Err(unreadable(format!("its blocks make more than {MOST_MADE} entities")));
                }
                let shifted = DAffine2::from_translation(*columns * i as f64 + *rows * j as f64)
                    * *own
                    * DAffine2::from_translation(-b.base);
                for inner in &b.entities {
                    self.entity(inner, place * shifted, Some(layer), depth + 1)?;
                }
            }
            return Ok(());
        }
        let (layer, segments) = (
            layer.clone(),
            match &e.kind {
                Kind::Line(a, b) => {
                    vec![Segment::line(place.transform_point2(*a), place.transform_point2(*b))]
                }
                Kind::Round { centre, u, v, from, sweep } => arcs::round(
                    place.transform_point2(*centre),
                    place.transform_vector2(*u),
                    place.transform_vector2(*v),
                    *from,
                    *sweep,
                ),
                Kind::Spline(s) => s.moved(&place).arcs(),
                Kind::Poly { vertices, closed } => self.poly(vertices, *closed, &place),
                Kind::Unfit(why) => {
                    self.out.left_out.add(what, *why, e.line);
                    return Ok(());
                }
                Kind::Other | Kind::Insert { .. } => {
                    if what != "view of the paper" {
                        self.out.left_out.add(what, "which no cut follows", e.line);
                    }
                    return Ok(());
                }
            },
        );
        if segments.iter().any(|s| {
            !s.bulge.is_finite()
                || s.bulge.abs() > 1e6
                || s.a.abs().max_element().max(s.b.abs().max_element()).max(0.0) > FURTHEST
                || !(s.a + s.b).is_finite()
        }) {
            self.out.left_out.add(what, "out of all bounds", e.line);
        } else if segments.is_empty() || segments.iter().all(|s| s.a.distance(s.b) <= SAME) {
            self.out.repeated.extend(segments.first().map(|s| s.a));
        } else {
            *self.out.layers.entry(layer.clone()).or_default() += 1;
            let curve = matches!(&e.kind, Kind::Spline(_)) || is_oblong(&e.kind);
            self.out.runs.push(Run { segments, layer, curve });
        }
        Ok(())
    }

    fn poly(&mut self, vertices: &[(DVec2, f64)], closed: bool, place: &DAffine2) -> Vec<Segment> {
        let m = place.matrix2;
        let alike = (m.x_axis.length() - m.y_axis.length()).abs() < 1e-9 * m.x_axis.length()
            && m.x_axis.dot(m.y_axis).abs() < 1e-9 * m.x_axis.length_squared();
        let hand = m.determinant().signum();
        let mut out: Vec<Segment> = Vec::new();
        let n = vertices.len();
        for i in 0..if closed { n } else { n.saturating_sub(1) } {
            let ((a, bulge), (b, _)) = (vertices[i], vertices[(i + 1) % n]);
            let s = Segment { a, b, bulge };
            let moved =
                Segment { a: place.transform_point2(a), b: place.transform_point2(b), bulge: bulge * hand };
            if moved.a.distance(moved.b) <= SAME {
                // The last step back to a first point that was told again is no fault.
                self.out.repeated.extend((i + 1 < n).then_some(moved.a));
                if let Some(l) = out.last_mut() {
                    l.b = moved.b;
                }
                continue;
            }
            match s.arc().filter(|_| !alike) {
                Some(arc) => {
                    let (u, v) = (m * DVec2::new(arc.radius, 0.0), m * DVec2::new(0.0, arc.radius));
                    out.extend(arcs::round(place.transform_point2(arc.centre), u, v, arc.start, arc.sweep));
                }
                None => out.push(if s.is_line() { Segment::line(moved.a, moved.b) } else { moved }),
            }
        }
        out
    }
}

/// An ellipse that is no circle.
fn is_oblong(kind: &Kind) -> bool {
    matches!(kind, Kind::Round { u, v, .. } if (u.length() - v.length()).abs() > 1e-9 * u.length())
}

/// What the trade calls an entity.
fn called(kind: &str) -> &str {
    match kind {
        "LINE" => "line",
        "CIRCLE" => "circle",
        "ARC" => "arc",
        "ELLIPSE" => "ellipse",
        "LWPOLYLINE" | "POLYLINE" => "polyline",
        "SPLINE" => "spline",
        "INSERT" => "block",
        "TEXT" | "MTEXT" | "ATTRIB" | "ATTDEF" => "text",
        "DIMENSION" | "ARC_DIMENSION" => "dimension",
        "LEADER" | "MULTILEADER" | "MLEADER" => "leader",
        "HATCH" => "hatching",
        "POINT" => "point",
        "SOLID" | "TRACE" | "3DFACE" => "filled area",
        "IMAGE" | "OLE2FRAME" | "WIPEOUT" => "picture",
        "VIEWPORT" => "view of the paper",
        "XLINE" | "RAY" => "endless line",
        _ => "other item",
    }
}

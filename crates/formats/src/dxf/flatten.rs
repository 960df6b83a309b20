//! Entities of a document → runs of lines and arcs in millimetres: blocks set in, curves made into arcs, what
//! is not to be seen left out.

use std::collections::BTreeMap;
use std::rc::Rc;

use glam::{DAffine2, DVec2};
use steelk_core::geom::{Segment, arcs};
use steelk_core::halt;
use steelk_core::quantity::counted;

use super::document::{Document, Entity, Kind, Layer, key};
use super::{BEND_DOWN, BEND_UP, DRILLED, DxfError, MARKS, ROLL_DOWN, ROLL_UP};

/// Lines and arcs one after the other, of one entity.
#[derive(Clone, Debug)]
pub struct Run {
    pub segments: Vec<Segment>,
    pub layer: Rc<str>,
}

/// What is left out and why, with how many there are.
#[derive(Default)]
pub struct LeftOut(BTreeMap<(String, String), (usize, usize)>);

impl LeftOut {
    fn add(&mut self, what: &str, why: String, line: usize) {
        self.0.entry((what.into(), why)).or_insert((0, line)).0 += 1;
    }

    pub fn told(&self) -> Vec<String> {
        let said = |((what, why), (n, line)): (&(String, String), &(usize, usize))| {
            let at = if *n == 1 {
                format!(" (line {line} of the file)")
            } else {
                format!(" (the first at line {line} of the file)")
            };
            format!("{} {why}{at}", counted(*n, what))
        };
        self.0.iter().map(said).collect()
    }
}

#[derive(Default)]
pub struct Flat {
    pub runs: Vec<Run>,
    /// Lines on our own bend layers: ends, and whether up.
    pub bends: Vec<(DVec2, DVec2, bool)>,
    pub left_out: LeftOut,
    /// Steps without length that were taken away.
    pub repeated: usize,
}

/// Blocks in blocks, as deep as they are followed; entities made of blocks, at most.
const DEEPEST: usize = 16;
const MOST_MADE: usize = 1_000_000;

/// Points nearer than this are one, mm.
pub const SAME: f64 = 1e-4;

/// From the drawing's zero, mm.
const FURTHEST: f64 = 1e8;

pub fn flatten(d: &Document, mm: f64) -> Result<Flat, DxfError> {
    let mut f = Flattening { d, out: Flat::default(), made: 0 };
    let place = DAffine2::from_scale(DVec2::splat(mm));
    for e in &d.entities {
        f.entity(e, place, None, 0)?;
    }
    Ok(f.out)
}

struct Flattening<'a> {
    d: &'a Document,
    out: Flat,
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
    ) -> Result<(), DxfError> {
        halt::often();
        self.made += 1;
        if self.made > MOST_MADE {
            return Err(DxfError::Read(format!("its blocks make more than {MOST_MADE} entities")));
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
                return Err(DxfError::Read(format!(
                    "its blocks stand more than {DEEPEST} deep in one another"
                )));
            }
            for (i, j) in (0..many[1]).flat_map(|j| (0..many[0]).map(move |i| (i, j))) {
                halt::often();
                self.made += 1;
                if self.made > MOST_MADE {
                    return Err(DxfError::Read(format!("its blocks make more than {MOST_MADE} entities")));
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
        let upper = layer.to_ascii_uppercase();
        if let Kind::Line(a, b) = e.kind
            && (upper == BEND_UP || upper == BEND_DOWN)
        {
            self.out.bends.push((place.transform_point2(a), place.transform_point2(b), upper == BEND_UP));
            return Ok(());
        }
        let marks = [MARKS, ROLL_UP, ROLL_DOWN, BEND_UP, BEND_DOWN];
        if marks.iter().chain(DRILLED.as_flattened()).any(|l| *l == upper) {
            self.out.left_out.add(what, format!("on layer {layer}, which marks and does not cut"), e.line);
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
                    self.out.left_out.add(what, (*why).into(), e.line);
                    return Ok(());
                }
                Kind::Other | Kind::Insert { .. } => {
                    if what != "view of the paper" {
                        self.out.left_out.add(what, "which no cut follows".into(), e.line);
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
            self.out.left_out.add(what, "out of all bounds".into(), e.line);
        } else if segments.is_empty() || segments.iter().all(|s| s.a.distance(s.b) <= SAME) {
            self.out.repeated += 1;
        } else {
            self.out.runs.push(Run { segments, layer });
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
                self.out.repeated += usize::from(i + 1 < n);
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

//! An SVG → the contours that are to be cut.

use std::collections::HashMap;
use std::rc::Rc;

use glam::{DAffine2, DMat2, DVec2};
use roxmltree::{Document, Node, NodeId, ParsingOptions};
use steelk_core::halt;
use steelk_core::job::{Assume, DrawingOptions as Options};
use svgtypes::{Length, LengthUnit, Transform, ViewBox};

use super::curves::Pen;
use crate::drawn::{Content, DrawingError, MOST_BYTES, Run, SAME, Strokes, Unit, content};

/// Elements of the file, and those that its references make, at most.
const MOST_NODES: u32 = 1_000_000;
const MOST_MADE: usize = 1_000_000;
/// References in references.
const DEEPEST: usize = 16;
/// From the drawing's zero, mm.
const FURTHEST: f64 = 1e8;
/// Groups in groups.
const DEEPEST_GROUP: usize = 200;

fn unreadable(why: impl Into<String>) -> DrawingError {
    DrawingError::Read { kind: "SVG", why: why.into() }
}

/// What an SVG holds. Its y axis points down; contours come out as they are seen.
pub fn read(bytes: &[u8], options: &Options) -> Result<Content, DrawingError> {
    if bytes.len() > MOST_BYTES {
        return Err(DrawingError::TooLarge);
    }
    let text = std::str::from_utf8(bytes).map_err(|_| unreadable("it is not a text in UTF-8"))?;
    let parsing = ParsingOptions { allow_dtd: true, nodes_limit: MOST_NODES, ..ParsingOptions::default() };
    let xml = Document::parse_with_options(text, parsing).map_err(|e| unreadable(e.to_string()))?;
    let root = xml.root_element();
    if root.tag_name().name() != "svg" {
        return Err(unreadable(format!("its first element is '{}', not 'svg'", root.tag_name().name())));
    }
    let size = Size::of(&root);
    let ids: HashMap<&str, NodeId> =
        xml.descendants().filter_map(|n| Some((n.attribute("id")?, n.id()))).collect();
    content(size.unit, options, |mm| {
        let mut reading = Reading { xml: &xml, ids: ids.clone(), out: Strokes::default(), made: 0 };
        reading.out.leaning = Some(Assume::Px);
        let place = DAffine2::from_scale(DVec2::new(mm, -mm)) * size.place;
        let style = Style { layer: None, colour: None, shown: true, stroke: false, fill: true };
        reading.children(&root, place, &style, 0, 0)?;
        Ok(reading.out)
    })
}

/// The size of the whole: its unit where one is named, and from its own numbers to that unit.
struct Size {
    unit: Option<&'static Unit>,
    place: DAffine2,
}

impl Size {
    fn of(root: &Node) -> Size {
        let length = |name| root.attribute(name).and_then(|t| t.parse::<Length>().ok());
        let (w, h) = (length("width"), length("height"));
        let unit = w.or(h).and_then(|l| named(l.unit));
        let view = root.attribute("viewBox").and_then(|t| t.parse::<ViewBox>().ok());
        let place = match view {
            Some(v) => {
                let in_unit = |l: Option<Length>, of: f64| {
                    l.filter(|l| l.number > 0.0 && l.unit != LengthUnit::Percent && of > 0.0).map(|l| {
                        let to = named(l.unit).zip(unit).map_or(1.0, |(own, unit)| own.mm / unit.mm);
                        l.number * to / of
                    })
                };
                let (sx, sy) = (in_unit(w, v.w), in_unit(h, v.h));
                let stretched =
                    root.attribute("preserveAspectRatio").is_some_and(|t| t.trim().starts_with("none"));
                let (sx, sy) = match (sx.or(sy).unwrap_or(1.0), sy.or(sx).unwrap_or(1.0)) {
                    (sx, sy) if stretched => (sx, sy),
                    (sx, sy) => (sx.min(sy), sx.min(sy)),
                };
                DAffine2::from_scale(DVec2::new(sx, sy)) * DAffine2::from_translation(-DVec2::new(v.x, v.y))
            }
            // Numbers without a view are pixels, whatever unit the page has (CSS).
            None => unit
                .map_or(DAffine2::IDENTITY, |u| DAffine2::from_scale(DVec2::splat(Assume::Px.mm() / u.mm))),
        };
        Size { unit, place }
    }
}

fn named(unit: LengthUnit) -> Option<&'static Unit> {
    match unit {
        LengthUnit::Mm => Unit::signed("mm"),
        LengthUnit::Cm => Unit::signed("cm"),
        LengthUnit::In => Unit::signed("in"),
        LengthUnit::Pt => Unit::signed("pt"),
        LengthUnit::Pc => Unit::signed("pc"),
        _ => None,
    }
}

/// What children take over from their groups.
#[derive(Clone)]
struct Style {
    layer: Option<Rc<str>>,
    colour: Option<Rc<str>>,
    shown: bool,
    stroke: bool,
    fill: bool,
}

impl Style {
    fn inner(&self, node: &Node) -> Style {
        let mut s = self.clone();
        let told = |name: &str| {
            let inline = node.attribute("style").and_then(|t| {
                t.split(';').filter_map(|d| d.split_once(':')).find(|(k, _)| k.trim() == name).map(|d| d.1)
            });
            inline.or(node.attribute(name)).map(str::trim)
        };
        match told("visibility") {
            Some("hidden" | "collapse") => s.shown = false,
            Some("visible") => s.shown = true,
            _ => {}
        }
        if let Some(colour) = told("stroke").filter(|c| !matches!(*c, "inherit" | "currentColor")) {
            s.stroke = colour != "none";
            s.colour = s.stroke.then(|| colour.to_lowercase().into());
        }
        if let Some(fill) = told("fill") {
            s.fill = fill != "none";
        }
        s
    }

    /// By its group, else by its colour.
    fn layer(&self) -> Rc<str> {
        self.layer.clone().unwrap_or_else(|| match &self.colour {
            Some(c) => format!("strokes in {c}").into(),
            None => "drawing".into(),
        })
    }
}

struct Reading<'a> {
    xml: &'a Document<'a>,
    ids: HashMap<&'a str, NodeId>,
    out: Strokes,
    made: usize,
}

impl Reading<'_> {
    fn children(
        &mut self,
        of: &Node,
        place: DAffine2,
        style: &Style,
        depth: usize,
        used: usize,
    ) -> Result<(), DrawingError> {
        if depth > DEEPEST_GROUP {
            return Err(unreadable(format!(
                "its groups stand more than {DEEPEST_GROUP} deep in one another"
            )));
        }
        for node in of.children().filter(Node::is_element) {
            self.element(&node, place, style, depth, used)?;
        }
        Ok(())
    }

    fn element(
        &mut self,
        node: &Node,
        place: DAffine2,
        style: &Style,
        depth: usize,
        used: usize,
    ) -> Result<(), DrawingError> {
        halt::often();
        self.made += 1;
        if self.made > MOST_MADE {
            return Err(unreadable(format!("its references make more than {MOST_MADE} elements")));
        }
        let line = || line_of(node);
        let name = node.tag_name().name();
        let what = called(name);
        let hidden = node.attribute("display") == Some("none")
            || node.attribute("style").is_some_and(|t| t.replace(' ', "").contains("display:none"));
        if hidden {
            if what != "definition" {
                self.out.left_out.add(what, "not visible", line());
            }
            return Ok(());
        }
        let mut style = style.inner(node);
        let turned = match node.attribute("transform").map(str::parse::<Transform>) {
            None => DAffine2::IDENTITY,
            Some(Ok(t)) => DAffine2::from_mat2_translation(
                DMat2::from_cols(DVec2::new(t.a, t.b), DVec2::new(t.c, t.d)),
                DVec2::new(t.e, t.f),
            ),
            Some(Err(_)) => {
                self.out.left_out.add(what, "with a transform that cannot be read", line());
                return Ok(());
            }
        };
        let place = place * turned;
        match name {
            "g" | "a" | "switch" | "svg" => {
                if let Some(label) = label(node, depth) {
                    style.layer = Some(label);
                }
                let place = if name == "svg" { place * view(node) } else { place };
                self.children(node, place, &style, depth + 1, used)
            }
            "use" => self.used(node, place, &style, depth, used),
            "path" | "line" | "polyline" | "polygon" | "rect" | "circle" | "ellipse" => {
                if !style.shown || (!style.fill && !style.stroke) {
                    self.out.left_out.add(what, "not visible", line());
                    return Ok(());
                }
                self.shape(node, place, &style);
                Ok(())
            }
            _ => {
                if what != "definition" {
                    self.out.left_out.add(what, "which no cut follows", line());
                }
                Ok(())
            }
        }
    }

    fn used(
        &mut self,
        node: &Node,
        place: DAffine2,
        style: &Style,
        depth: usize,
        used: usize,
    ) -> Result<(), DrawingError> {
        let line = || line_of(node);
        let href = node.attributes().find(|a| a.name() == "href").map_or("", |a| a.value());
        let wanted = href.trim().trim_start_matches('#');
        let Some(target) = self.ids.get(wanted).and_then(|id| self.xml.get_node(*id)) else {
            let why = format!("of '{wanted}', which the file does not hold");
            self.out.left_out.add("reference", why, line());
            return Ok(());
        };
        if used >= DEEPEST {
            return Err(unreadable(format!("its references stand more than {DEEPEST} deep in one another")));
        }
        let at = DAffine2::from_translation(DVec2::new(number(node, "x"), number(node, "y")));
        if target.tag_name().name() == "symbol" {
            return self.children(&target, place * at * view(&target), style, depth + 1, used + 1);
        }
        self.element(&target, place * at, style, depth + 1, used + 1)
    }

    fn shape(&mut self, node: &Node, place: DAffine2, style: &Style) {
        let mut pen = Pen::new(place);
        let whole = draw(node, &mut pen);
        let what = called(node.tag_name().name());
        let line = || line_of(node);
        if !whole {
            self.out.left_out.add(what, "with data that cannot be read to the end", line());
        }
        let layer = style.layer();
        for (mut segments, curve) in pen.strokes {
            let far = |p: DVec2| !p.is_finite() || p.abs().max_element() > FURTHEST;
            if segments.iter().any(|s| far(s.a) || far(s.b) || !s.bulge.is_finite() || s.bulge.abs() > 1e6) {
                self.out.left_out.add(what, "out of all bounds", line());
                continue;
            }
            let first = segments[0].a;
            segments.retain(|s| s.a.distance(s.b) > SAME);
            if segments.is_empty() {
                self.out.repeated.push(first);
                continue;
            }
            *self.out.layers.entry(layer.clone()).or_default() += 1;
            self.out.runs.push(Run { segments, layer: layer.clone(), curve });
        }
    }
}

/// Counted from the file's beginning: asked only of what is told.
fn line_of(node: &Node) -> usize {
    node.document().text_pos_at(node.range().start).row as usize
}

/// The name of a group: its label, or its id where it stands at the top.
fn label(node: &Node, depth: usize) -> Option<Rc<str>> {
    let told = node.attributes().find(|a| a.name() == "label").map(|a| a.value());
    told.or_else(|| node.attribute("id").filter(|_| depth == 0)).map(|t| t.trim().into())
}

/// Of a part of the drawing with a view of its own.
fn view(node: &Node) -> DAffine2 {
    let at = DAffine2::from_translation(DVec2::new(number(node, "x"), number(node, "y")));
    let size = |name| Some(number(node, name)).filter(|n| *n > 0.0);
    match node.attribute("viewBox").and_then(|t| t.parse::<ViewBox>().ok()) {
        Some(v) if v.w > 0.0 && v.h > 0.0 => {
            let (sx, sy) = (size("width").map(|w| w / v.w), size("height").map(|h| h / v.h));
            let s = sx.unwrap_or(f64::INFINITY).min(sy.unwrap_or(f64::INFINITY));
            let s = if s.is_finite() { s } else { 1.0 };
            at * DAffine2::from_scale(DVec2::splat(s)) * DAffine2::from_translation(-DVec2::new(v.x, v.y))
        }
        _ => at,
    }
}

/// A length attribute in the drawing's own numbers (pixels); nothing where it is not told.
fn number(node: &Node, name: &str) -> f64 {
    let read = node.attribute(name).and_then(|t| t.parse::<Length>().ok());
    read.map_or(0.0, |l| named(l.unit).map_or(l.number, |u| l.number * u.mm / Assume::Px.mm()))
}

/// True where all of it could be read.
fn draw(node: &Node, pen: &mut Pen) -> bool {
    let at = |x, y| DVec2::new(number(node, x), number(node, y));
    match node.tag_name().name() {
        "path" => pen.path(node.attribute("d").unwrap_or("")),
        "line" => {
            pen.move_to(at("x1", "y1"));
            pen.line_to(at("x2", "y2"));
            pen.lift();
            true
        }
        "polyline" | "polygon" => {
            let points: Vec<(f64, f64)> =
                svgtypes::PointsParser::from(node.attribute("points").unwrap_or("")).collect();
            let mut points = points.into_iter().map(DVec2::from);
            points.next().into_iter().for_each(|p| pen.move_to(p));
            points.for_each(|p| pen.line_to(p));
            if node.tag_name().name() == "polygon" {
                pen.close()
            } else {
                pen.lift()
            }
            true
        }
        "rect" => {
            rectangle(node, pen);
            true
        }
        _ => {
            let r = match node.attribute("r") {
                Some(_) => DVec2::splat(number(node, "r")),
                None => at("rx", "ry"),
            };
            if r.x > 0.0 && r.y > 0.0 {
                let (u, v) = (DVec2::new(r.x, 0.0), DVec2::new(0.0, r.y));
                pen.round(at("cx", "cy"), u, v, 0.0, std::f64::consts::TAU);
                pen.lift();
            }
            true
        }
    }
}

fn rectangle(node: &Node, pen: &mut Pen) {
    let has = |name| node.attribute(name).filter(|t| t.trim() != "auto").map(|_| number(node, name));
    let (p, s) = (
        DVec2::new(number(node, "x"), number(node, "y")),
        DVec2::new(number(node, "width"), number(node, "height")),
    );
    if s.x <= 0.0 || s.y <= 0.0 {
        return;
    }
    let r = DVec2::new(
        has("rx").or(has("ry")).unwrap_or(0.0).clamp(0.0, s.x / 2.0),
        has("ry").or(has("rx")).unwrap_or(0.0).clamp(0.0, s.y / 2.0),
    );
    let r = if r.x > 0.0 && r.y > 0.0 { r } else { DVec2::ZERO };
    // Round each corner in turn: middle of its arc's ellipse, and where the side before it ends.
    let corners = [(1.0, 0.0, -0.5), (1.0, 1.0, 0.0), (0.0, 1.0, 0.5), (0.0, 0.0, 1.0)];
    pen.move_to(p + DVec2::new(r.x, 0.0));
    for (k, (x, y, quarter)) in corners.into_iter().enumerate() {
        let corner = p + s * DVec2::new(x, y);
        let inward = DVec2::new(1.0 - 2.0 * x, 1.0 - 2.0 * y);
        let centre = corner + inward * r;
        let from = quarter * std::f64::consts::PI;
        let on = |t: f64| centre + DVec2::new(r.x * t.cos(), r.y * t.sin());
        pen.line_to(if r.x > 0.0 { on(from) } else { corner });
        if r.x > 0.0 {
            pen.arc_on(centre, r, from, on(from + std::f64::consts::FRAC_PI_2));
        }
        if k == 3 {
            pen.close();
        }
    }
}

/// What the trade calls an element.
fn called(name: &str) -> &'static str {
    match name {
        "path" => "path",
        "line" => "line",
        "polyline" | "polygon" => "polyline",
        "rect" => "rectangle",
        "circle" => "circle",
        "ellipse" => "ellipse",
        "g" | "a" | "switch" | "svg" => "group",
        "use" => "reference",
        "text" | "flowRoot" => "text",
        "image" => "picture",
        "foreignObject" => "foreign item",
        "defs" | "symbol" | "clipPath" | "mask" | "pattern" | "marker" | "linearGradient"
        | "radialGradient" | "filter" | "metadata" | "title" | "desc" | "style" | "script" | "namedview"
        | "view" => "definition",
        _ => "other item",
    }
}

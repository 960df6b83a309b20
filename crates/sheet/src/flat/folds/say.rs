//! Reads `fold`, `hem`, `joggle`, `tab`, `corner` and the sides of a tray, and hangs them on the tree.

use glam::DVec3;

use super::tree::{Closing, DEEPEST, Edge, ReliefOf, SpanOf, Spec, Told, Tree};
use crate::flat::bend_allowance::bend_by;
use crate::flat::strip::SheetStock;
use crate::verbs::{
    BendAt, Corner, Direction, Fold, FoldMeasure, Further, Hem, HemKind, Joggle, Reach, Relief, Span,
    StartTray, Tab, TrayMeasure,
};
use ground::reader::{Range, Reader};
use shop::BendRule;
use shop::bend::{Allowance, Method, allowance, setback};
use shop::limits;

/// Where a line stands: its index and id.
#[derive(Clone, Copy)]
pub struct At<'a> {
    pub index: usize,
    pub line: &'a str,
}

/// The most panels a piece may be folded from.
pub const MOST_PANELS: usize = 300;

/// The edges that a line names, each to take so many panels one behind the other; none named means every
/// straight side of the start.
fn edges(reader: &mut Reader, tree: &Tree, names: &[String], chain: usize) -> Option<Vec<(String, Edge)>> {
    let all: Vec<String> = if names.is_empty() {
        let sides = tree.nodes[0].sides.iter().filter(|s| s.bulge.abs() < 1e-9 && s.folds.is_empty());
        sides.filter_map(|s| tree.tags.get(s.tag as usize).cloned()).collect()
    } else {
        names.to_vec()
    };
    let mut out: Vec<(String, Edge)> = Vec::new();
    for (i, name) in all.into_iter().enumerate() {
        let found = tree.edge(&name).and_then(|e| {
            let twice = out.iter().any(|o| o.0 == name);
            if twice { Err(format!("'{name}' is named twice")) } else { Ok(e) }
        });
        match found {
            Ok(edge) => out.push((name, edge)),
            Err(message) => {
                let known = tree.edge_names();
                let more = if known.len() > 12 { ", …" } else { "" };
                let mend = format!("pick from {}{more}", known[..known.len().min(12)].join(", "));
                reader.refuse(
                    &if names.is_empty() { "/say/edges".to_string() } else { format!("/say/edges/{i}") },
                    &name,
                    message,
                    mend,
                );
                return None;
            }
        }
    }
    if out.is_empty() {
        reader.refuse("/say/edges", "", "there is no straight edge left to fold", "name an edge of a panel");
        return None;
    }
    if let Some((name, _)) = out.iter().find(|(_, e)| tree.nodes[e.node].deep + chain > DEEPEST) {
        reader.refuse(
            "/say/edges",
            name,
            format!("more than {DEEPEST} panels would hang one behind the other here"),
            "split the piece",
        );
        return None;
    }
    if tree.nodes.len() + out.len() * chain > MOST_PANELS {
        reader.refuse(
            "/say/edges",
            "",
            format!("a piece may have at most {MOST_PANELS} panels"),
            "split the piece",
        );
        return None;
    }
    Some(out)
}

/// `start-1.north` → `north`; elsewhere the whole edge's name, so that no two are alike.
fn short(tree: &Tree, name: &str) -> String {
    let start = tree.base.first().map_or("", |z| z.line.as_str());
    name.strip_prefix(start).and_then(|n| n.strip_prefix('.')).unwrap_or(name).replace('.', "-")
}

fn span(reader: &mut Reader, say: &Span) -> Option<SpanOf> {
    Some(match say {
        Span::Full => SpanOf::Full,
        Span::Inset { left, right } => {
            let l = reader.length("/say/span/left", left, Range::ZeroUp);
            let r = reader.length("/say/span/right", right, Range::ZeroUp);
            match (l?, r?) {
                (l, r) if l < 1e-9 && r < 1e-9 => SpanOf::Full,
                (l, r) => SpanOf::Inset(l, r),
            }
        }
        Span::Centred { width } => {
            SpanOf::Centred(reader.length("/say/span/width", width, Range::AboveZero)?)
        }
    })
}

fn relief(reader: &mut Reader, say: &Option<Relief>, r: f64, t: f64) -> Option<ReliefOf> {
    let Some(say) = say else {
        return Some(ReliefOf {
            kind: Default::default(),
            width: limits::relief_width(t).value,
            depth: limits::relief_depth(t, r).value,
        });
    };
    let mut value = |field: &str, text: &str, usual: f64| match text.trim().is_empty() {
        true => Some(usual),
        false => reader.length(&format!("/say/relief/{field}"), text, Range::AboveZero),
    };
    let torn = say.kind == crate::verbs::ReliefKind::Torn;
    // A slit is drawn as narrow as a contour can be cut.
    let width = value("width", &say.width, if torn { 0.1 } else { limits::relief_width(t).value });
    let depth = value("depth", &say.depth, limits::relief_depth(t, r).value);
    Some(ReliefOf { kind: say.kind, width: if torn { width?.min(0.1) } else { width? }, depth: depth? })
}

fn radius(reader: &mut Reader, path: &str, text: &str, stuff: &SheetStock) -> Option<f64> {
    if text.trim().is_empty() { Some(stuff.r) } else { reader.length(path, text, Range::ZeroUp) }
}

fn bend(
    reader: &mut Reader,
    rule: Option<&BendRule>,
    angle: f64,
    r: f64,
    stuff: &SheetStock,
) -> Option<Allowance> {
    bend_by(reader, if rule.is_some() { "/say" } else { "" }, rule.unwrap_or(stuff.rule), stuff, angle, r)
}

/// The angle at which a fold on this edge comes parallel to a named panel.
fn until_parallel(reader: &mut Reader, tree: &Tree, edge: &Edge, to: &str, up: bool) -> Option<f64> {
    let Some(target) = tree.pose_of(to) else {
        reader.refuse(
            "/say/parallel_to",
            to,
            format!("no panel is called '{to}' above this line"),
            "name a panel that stands already",
        );
        return None;
    };
    let (pose, dir, _) = tree.pose_at(edge);
    let turn = tree.nodes[edge.node].turn;
    let local = if edge.node > 0 { glam::DVec2::new(turn.x, -turn.y).rotate(dir) } else { dir };
    let (axis, out, normal) = (pose * local.extend(0.0), pose * (-local.perp()).extend(0.0), pose * DVec3::Z);
    let m = target * DVec3::Z;
    if m.dot(axis).abs() > 1e-6 {
        reader.refuse(
            "/say/parallel_to",
            to,
            format!("folded along this edge, the panel never comes parallel to '{to}'"),
            "write an angle",
        );
        return None;
    }
    let side = if up { 1.0 } else { -1.0 };
    let angle = (-out.dot(m)).atan2(side * normal.dot(m)).rem_euclid(std::f64::consts::PI);
    Some(if angle < 1e-9 { std::f64::consts::PI } else { angle })
}

/// Length beyond the tangent line.
fn reach(reader: &mut Reader, tree: &Tree, edge: &Edge, say: &Reach, angle: f64, r: f64) -> Option<f64> {
    let t = tree.t;
    let (path, text, straight) = match say {
        Reach::Length { length, measure } => {
            let told = reader.length("/say/reach/length", length, Range::AboveZero)?;
            let back = match measure {
                FoldMeasure::Outside => setback(r + t, angle),
                FoldMeasure::Inside => setback(r, angle),
                FoldMeasure::Tangent => 0.0,
            };
            ("/say/reach/length", length, told - back)
        }
        Reach::Height { height } => {
            let h = reader.length("/say/reach/height", height, Range::AboveZero)?;
            ("/say/reach/height", height, straight_to(h, angle, r, t)?)
        }
        Reach::Level { with } => {
            let twin = tree.panel(with).filter(|n| {
                let above =
                    |n: usize| tree.nodes.iter().position(|p| p.sides.iter().any(|s| s.folds.contains(&n)));
                above(*n) == Some(edge.node)
            });
            let Some(spec) = twin.and_then(|n| tree.nodes[n].spec.as_ref()) else {
                reader.refuse(
                    "/say/reach/with",
                    with,
                    format!("'{with}' is not a fold of the same panel, above this line"),
                    "name a neighbouring fold, or write a height",
                );
                return None;
            };
            ("/say/reach/with", with, straight_to(spec.height(t), angle, r, t)?)
        }
    };
    if straight >= -1e-9 {
        return Some(straight.max(0.0));
    }
    let short = reader.display.length_unit(-straight);
    reader.refuse(
        path,
        text,
        format!("too short for its bend by {short}"),
        "write a greater length, or a smaller radius",
    );
    None
}

fn straight_to(height: f64, angle: f64, r: f64, t: f64) -> Option<f64> {
    let (s, c) = angle.sin_cos();
    if s < 1e-6 {
        return Some(-1.0);
    }
    let face = if c >= 0.0 { r } else { r + t };
    Some((height - t - r + face * c) / s)
}

/// What a fold line asks of every edge it names.
pub fn fold(reader: &mut Reader, tree: &mut Tree, at: At, say: &Fold, stuff: &SheetStock) -> Option<()> {
    let edges = edges(reader, tree, &say.edges, 1 + say.then.len())?;
    let up = say.direction == Direction::Up;
    let r = radius(reader, "/say/radius", &say.radius, stuff);
    let told = if say.parallel_to.trim().is_empty() {
        Some(reader.bend_angle("/say/angle", &say.angle, 180.0))
    } else {
        None
    };
    let span = span(reader, &say.span);
    let r = r?;
    let relief = relief(reader, &say.relief, r, stuff.t);
    let then = further(reader, &say.then, stuff);
    let (span, relief, then) = (span?, relief?, then?);
    for (name, edge) in edges {
        let angle = match told {
            Some(a) => a?,
            None => until_parallel(reader, tree, &edge, &say.parallel_to, up)?,
        };
        let straight = reach(reader, tree, &edge, &say.reach, angle, r)?;
        let allowance = bend(reader, say.bend_rule.as_ref(), angle, r, stuff)?;
        let name = format!("{}.{}", at.line, short(tree, &name));
        let spec = spec(
            at,
            "/say".into(),
            name.clone(),
            (angle, up, r),
            allowance,
            say.bend_at,
            straight,
            span,
            relief,
        );
        let node = tree.hang(&edge, spec);
        hang_further(tree, at, &name, node, &then, relief);
    }
    Some(())
}

#[allow(clippy::too_many_arguments)]
fn spec(
    at: At,
    path: String,
    name: String,
    (angle, up, radius): (f64, bool, f64),
    allowance: Allowance,
    bend_at: BendAt,
    straight: f64,
    span: SpanOf,
    relief: ReliefOf,
) -> Spec {
    Spec {
        index: at.index,
        line: at.line.to_string(),
        path,
        name,
        angle,
        up,
        radius,
        allowance,
        bend_at,
        straight,
        span,
        relief,
        curled: false,
        flat: false,
    }
}

/// A further fold read: id, angle, up, radius, straight, allowance, where its bend sits.
struct Next {
    id: String,
    angle: f64,
    up: bool,
    radius: f64,
    straight: f64,
    allowance: Allowance,
    bend_at: BendAt,
    path: String,
}

fn further(reader: &mut Reader, say: &[Further], stuff: &SheetStock) -> Option<Vec<Next>> {
    if say.len() > 20 {
        reader.refuse(
            "/say/then",
            "",
            "more than 20 folds follow one another",
            "tell the rest in a line of their own",
        );
        return None;
    }
    let mut out: Vec<Next> = Vec::new();
    for (i, f) in say.iter().enumerate() {
        let path = format!("/say/then/{i}");
        if f.id.is_empty() || out.iter().any(|o| o.id == f.id) {
            reader.refuse(
                &format!("{path}/id"),
                &f.id,
                format!("'{}' is not this fold's own id", f.id),
                "give each its own id",
            );
            return None;
        }
        let angle = reader.bend_angle(&format!("{path}/angle"), &f.angle, 180.0);
        let r = radius(reader, &format!("{path}/radius"), &f.radius, stuff);
        let told = reader.length(&format!("{path}/length"), &f.length, Range::AboveZero);
        let (angle, r, told) = (angle?, r?, told?);
        let straight = told - setback(r + stuff.t, angle);
        if straight < 0.0 {
            let short = reader.display.length_unit(-straight);
            reader.refuse(
                &format!("{path}/length"),
                &f.length,
                format!("too short for its bend by {short}"),
                "write a greater length, or a smaller radius",
            );
            return None;
        }
        let allowance = bend(reader, None, angle, r, stuff)?;
        out.push(Next {
            id: f.id.clone(),
            angle,
            up: f.direction == Direction::Up,
            radius: r,
            straight,
            allowance,
            bend_at: BendAt::OuterFace,
            path,
        });
    }
    Some(out)
}

/// Each on the tip of the one before.
fn hang_further(tree: &mut Tree, at: At, name: &str, mut node: usize, then: &[Next], relief: ReliefOf) {
    for n in then {
        let edge = Edge { node, side: super::tree::TIP, part: None };
        let own = format!("{name}.{}", n.id);
        let spec = spec(
            at,
            n.path.clone(),
            own,
            (n.angle, n.up, n.radius),
            n.allowance.clone(),
            n.bend_at,
            n.straight,
            SpanOf::Full,
            relief,
        );
        node = tree.hang(&edge, spec);
    }
}

/// Bent so tight that the schools say nothing: the middle of the sheet is taken as neutral.
fn hem_allowance(reader: &mut Reader, angle: f64, r: f64, stuff: &SheetStock) -> Option<Allowance> {
    if r / stuff.t >= 0.2 {
        return bend(reader, None, angle, r, stuff);
    }
    let mut a = allowance(Method::KFactor(0.5, true), stuff.material, angle, r, stuff.t);
    a.rule = "Hem: the middle of the sheet keeps its length".into();
    a.source = "common practice: a closed hem takes off 0.43 t".into();
    Some(a)
}

pub fn hem(reader: &mut Reader, tree: &mut Tree, at: At, say: &Hem, stuff: &SheetStock) -> Option<()> {
    let edges = edges(reader, tree, &say.edges, 1)?;
    let t = stuff.t;
    let half = std::f64::consts::PI;
    let mut size = |field: &str, text: &str, range| reader.length(&format!("/say/hem/{field}"), text, range);
    let (angle, r, told) = match &say.hem {
        HemKind::Closed { length } => (half, 0.0, Some((length, size("length", length, Range::AboveZero)?))),
        HemKind::Open { length, gap } => {
            let (l, g) = (size("length", length, Range::AboveZero), size("gap", gap, Range::AboveZero));
            (half, g? / 2.0, Some((length, l?)))
        }
        HemKind::Teardrop { length, radius } => {
            let (l, r) = (size("length", length, Range::AboveZero), size("radius", radius, Range::AboveZero));
            let (l, r) = (l?, r?);
            let straight = (l - r - t).max(1e-6);
            // The tip touches the sheet: tan(φ/2) = R/L beyond the half turn.
            (half + 2.0 * (r / straight).atan(), r, Some((length, l)))
        }
        HemKind::Rolled { radius, angle } => {
            let r = size("radius", radius, Range::AboveZero);
            let a = reader.bend_angle("/say/hem/angle", angle, 345.0);
            (a?, r?, None)
        }
    };
    let straight = match told {
        None => 0.0,
        Some((text, l)) => {
            let straight = l - r - t;
            if straight < 1e-6 || angle > 1.75 * half {
                reader.refuse(
                    "/say/hem/length",
                    text,
                    "the hem is too short for its own bend",
                    "write a greater length, or a smaller gap or radius",
                );
                return None;
            }
            straight
        }
    };
    let span = span(reader, &say.span);
    let relief = relief(reader, &say.relief, r, t);
    let allowance = hem_allowance(reader, angle, r, stuff);
    let (span, relief, allowance) = (span?, relief?, allowance?);
    for (name, edge) in edges {
        let name = format!("{}.{}", at.line, short(tree, &name));
        let up = say.direction == Direction::Up;
        let mut spec = spec(
            at,
            "/say/hem".into(),
            name,
            (angle, up, r),
            allowance.clone(),
            say.bend_at,
            straight,
            span,
            relief,
        );
        spec.curled = true;
        tree.hang(&edge, spec);
    }
    Some(())
}

/// Angle and straight between two equal opposite bends that offset a sheet by `height` over `run`, with
/// middle radius `m`.
pub fn joggle_shape(height: f64, run: f64, m: f64) -> Option<(f64, f64)> {
    // run·sin α + (2m − height)·cos α = 2m.
    let reach = run.hypot(2.0 * m - height);
    let ratio = 2.0 * m / reach;
    if ratio > 1.0 + 1e-12 {
        return None;
    }
    let lean = (2.0 * m - height).atan2(run);
    let angle = ratio.min(1.0).asin() - lean;
    let angles = [angle, std::f64::consts::PI - ratio.min(1.0).asin() - lean];
    let fits = |a: &f64| *a > 1e-6 && *a <= std::f64::consts::FRAC_PI_2 + 1e-9;
    let straight = |a: f64| {
        if a.sin() > 0.7 {
            (height - 2.0 * m * (1.0 - a.cos())) / a.sin()
        } else {
            (run - 2.0 * m * a.sin()) / a.cos()
        }
    };
    angles
        .into_iter()
        .filter(fits)
        .map(|a| (a, straight(a)))
        .find(|(_, s)| *s >= -1e-9)
        .map(|(a, s)| (a, s.max(0.0)))
}

pub fn joggle(reader: &mut Reader, tree: &mut Tree, at: At, say: &Joggle, stuff: &SheetStock) -> Option<()> {
    let edges = edges(reader, tree, &say.edges, 2)?;
    let r = radius(reader, "/say/radius", &say.radius, stuff);
    let h = reader.length("/say/height", &say.height, Range::AboveZero);
    let run = reader.length("/say/run", &say.run, Range::AboveZero);
    let length = reader.length("/say/length", &say.length, Range::AboveZero);
    let span = span(reader, &say.span);
    let r = r?;
    let relief = relief(reader, &say.relief, r, stuff.t);
    let (h, run, length, span, relief) = (h?, run?, length?, span?, relief?);
    let Some((angle, straight)) = joggle_shape(h, run, r + stuff.t / 2.0) else {
        reader.refuse(
            "/say/run",
            &say.run,
            "two bends of this radius do not fit in so short a run",
            "write a longer run, or a smaller radius",
        );
        return None;
    };
    let up = say.direction == Direction::Up;
    let allowance = bend(reader, None, angle, r, stuff)?;
    for (name, edge) in edges {
        let name = format!("{}.{}", at.line, short(tree, &name));
        let mut first = spec(
            at,
            "/say".into(),
            name.clone(),
            (angle, up, r),
            allowance.clone(),
            BendAt::FromEdge,
            straight,
            span,
            relief,
        );
        first.curled = true;
        let node = tree.hang(&edge, first);
        let back = Next {
            id: "lip".into(),
            angle,
            up: !up,
            radius: r,
            straight: length,
            allowance: allowance.clone(),
            bend_at: BendAt::FromEdge,
            path: "/say".into(),
        };
        hang_further(tree, at, &name, node, &[back], relief);
    }
    Some(())
}

pub fn tab(reader: &mut Reader, tree: &mut Tree, at: At, say: &Tab) -> Option<()> {
    let named = edges(reader, tree, std::slice::from_ref(&say.edge), 1);
    let width = reader.length("/say/width", &say.width, Range::AboveZero);
    let length = reader.length("/say/length", &say.length, Range::AboveZero);
    let place = if say.place.trim().is_empty() {
        Some(None)
    } else {
        reader.length("/say/place", &say.place, Range::ZeroUp).map(Some)
    };
    let (named, width, length, place) = (named?, width?, length?, place?);
    let edge = named[0].1;
    let taken = |&f: &usize| tree.nodes[f].spec.as_ref().is_some_and(|s| s.span == SpanOf::Full);
    if tree.nodes[edge.node].sides[edge.side].folds.iter().any(taken) {
        reader.refuse(
            "/say/edge",
            &say.edge,
            "this edge is folded already",
            "put the tab on the tip of the fold",
        );
        return None;
    }
    // Where on its edge, and whether it has room there, is known when the corners have closed.
    let span = place.map_or(SpanOf::Centred(width), |middle| SpanOf::At(middle, width));
    tree.hang(&edge, Spec::tab(at.index, at.line, length, span));
    Some(())
}

pub fn corner(reader: &mut Reader, tree: &mut Tree, at: At, say: &Corner) -> Option<()> {
    let gap = if say.gap.trim().is_empty() {
        Some(limits::corner_gap(tree.t).value)
    } else {
        reader.length("/say/gap", &say.gap, Range::ZeroUp)
    };
    let size = if say.relief_size.trim().is_empty() {
        Some(0.0)
    } else {
        reader.length("/say/relief_size", &say.relief_size, Range::AboveZero)
    };
    let how = Closing { close: say.close, gap: gap?, relief: say.relief, relief_size: size? };
    tree.closings.push(Told { line: at.line.into(), index: at.index, at: say.at.clone(), how });
    Some(())
}

/// The four sides of a tray on a plate that stands already, told by the tray's own fields.
pub fn tray_folds(
    reader: &mut Reader,
    tree: &mut Tree,
    at: At,
    say: &StartTray,
    stuff: &SheetStock,
) -> Option<()> {
    let (bend_at, measure) = match say.measure {
        TrayMeasure::Outside => (BendAt::OuterFace, FoldMeasure::Outside),
        TrayMeasure::Inside => (BendAt::InnerFace, FoldMeasure::Inside),
    };
    let lip = (!say.lip.trim().is_empty()).then(|| Further {
        id: "lip".into(),
        angle: "90".into(),
        direction: if say.lips_in { Direction::Up } else { Direction::Down },
        length: say.lip.clone(),
        radius: String::new(),
    });
    let sides = Fold {
        angle: "90deg".into(),
        reach: Reach::Length { length: say.height.clone(), measure },
        bend_at,
        then: lip.into_iter().collect(),
        ..Fold::default()
    };
    let first = reader.faults.len();
    let done = fold(reader, tree, at, &sides, stuff);
    // The faults of the folds belong to the tray's fields.
    for f in &mut reader.faults[first..] {
        f.path = match f.path.as_str() {
            "/say/reach/length" => "/say/height".into(),
            p if p.starts_with("/say/then") => "/say/lip".into(),
            p => p.into(),
        };
    }
    let how = Corner {
        at: Vec::new(),
        close: say.close,
        gap: say.gap.clone(),
        relief: say.relief,
        relief_size: say.relief_size.clone(),
    };
    let closed = corner(reader, tree, at, &how);
    done.and(closed)
}

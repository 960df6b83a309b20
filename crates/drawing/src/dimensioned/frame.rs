//! The drawing of a frame: as a whole with balloons and lists, in views with its sizes, each different bar to
//! scale, each different plate by its flat.

use frame::{BarRow, FrameList, FrameResult, Standing, standing};
use glam::{DAffine3, DVec2, DVec3};
use ground::geom::Bounds;
use ground::quantity::{Display, counted};
use sheet::result::{Margin, Severity};

use super::ordinates::Ordinate;
use super::page::{Head, Projection, Sheet, Subject, finished, room};
use super::piece::flat_sheets;
use super::tables::{self, Table, WIDE};
use super::views_on_paper::{View, laid, of_standing, strokes};
use super::{bar, scale};
use crate::hole_marks::{text_box, text_width};
use crate::labels::{Label, Obstacles, place};
use crate::sizes::Size;
use crate::template::Paper;
use crate::views::{Body, Sight, wires};
use crate::wrapped::broken;
use crate::{Anchor, Drawing, Item, Pen};

/// Heavier frames are drawn by their lists and details alone.
const MOST_FACETS: usize = 400_000;
/// Height of a balloon's text.
const BALLOON: f64 = 2.6;
/// Places of nodes along an axis are told up to so many.
const MOST_STEPS: usize = 24;
/// mm within which nodes stand in one place.
const ONE: f64 = 0.05;

pub fn frame_drawing(r: &FrameResult, list: &FrameList, paper: Paper, head: &Head) -> Vec<Drawing> {
    let d = &r.display;
    let bodies = standing(r, false);
    let room = room(paper);
    let placed: Vec<Body> =
        bodies.iter().flat_map(|s| s.places.iter().map(|p| of_standing(s, &p.at))).collect();
    let subject = Subject {
        mark: list.mark.clone(),
        name: list.name.clone(),
        material: materials(r),
        size: whole_said(&placed, d),
        mass: d.mass(r.mass()),
        quantity: list.quantity,
        unit: if d.length.sign() == "mm" { "mm" } else { "inches" },
    };
    let facets: usize = placed.iter().map(|b| b.solid.triangles.len()).sum();
    let shown: &[Body] = if facets > MOST_FACETS { &[] } else { &placed };
    let mut sheets = overview(r, list, head, &bodies, shown, room);
    if facets <= MOST_FACETS && !placed.is_empty() {
        sheets.push(views(r, &placed, head.projection, room));
    }
    sheets.extend(details(list, &bodies, d, head.projection, room));
    for (row, plate) in list.plates.iter().zip(&r.plates).filter(|(_, p)| p.piece.made) {
        let title =
            format!("{} · {} · {} off · {} · {}", row.mark, row.name, row.quantity, row.stock, row.material);
        sheets.extend(flat_sheets(&plate.piece, head, room, &title));
    }
    finished(sheets, paper, head, &subject)
}

fn materials(r: &FrameResult) -> String {
    let mut out: Vec<&str> = Vec::new();
    for name in r.members.iter().map(|m| m.material.name.as_str()) {
        if !out.contains(&name) {
            out.push(name);
        }
    }
    out.join(", ")
}

/// The corners of the box round all of it.
fn reach(placed: &[Body]) -> (DVec3, DVec3) {
    placed
        .iter()
        .map(|b| b.solid.bounds())
        .fold((DVec3::INFINITY, DVec3::NEG_INFINITY), |a, b| (a.0.min(b.0), a.1.max(b.1)))
}

fn whole_said(placed: &[Body], d: &Display) -> String {
    if placed.is_empty() {
        return String::new();
    }
    let (low, high) = reach(placed);
    let sides = (high - low).to_array().map(|v| d.length(v));
    format!("{} overall", sides.join(" × "))
}

/// The whole in space with a balloon for each mark, and the lists beside it.
fn overview(
    r: &FrameResult,
    list: &FrameList,
    head: &Head,
    bodies: &[Standing],
    placed: &[Body],
    room: Bounds,
) -> Vec<Sheet> {
    let picture = Bounds { min: room.min, max: DVec2::new(room.max.x - WIDE - 5.0, room.max.y) };
    let mut items = Vec::new();
    let mut scale = None;
    if placed.is_empty() {
        let at = picture.min + DVec2::new(0.0, 4.0);
        items.push(Item::text(at, "too many facets for a picture: see the details", 3.0, Anchor::Start));
    } else {
        let sight = Sight::isometric();
        let w = wires(placed, &sight, false);
        let b = w.bounds();
        let free = picture.size() - DVec2::splat(26.0);
        let fit = (free / b.size().max(DVec2::splat(1e-6))).min_element();
        let shift = picture.centre() - DVec2::new(b.centre().x, -b.centre().y) * fit;
        items.extend(strokes(&w, Pen::Cut, fit, shift));
        let to = |p: DVec3| {
            let q = sight.flat(p);
            DVec2::new(q.x, -q.y) * fit + shift
        };
        items.extend(balloons(list, bodies, &items, picture, &to));
        scale = Some("picture".to_string());
    }
    let column = Bounds { min: DVec2::new(room.max.x - WIDE, room.min.y), max: room.max };
    let mut laid = tables::laid(&lists(r, list, head), &[column], room).into_iter();
    items.extend(laid.next().unwrap_or_default());
    let mut out = vec![Sheet { items, scale }];
    out.extend(laid.map(|items| Sheet { items, scale: None }));
    out
}

/// A place of a body that looks to the eye, as near to its middle as it has one: a bent bar has no metal
/// there.
fn metal(s: &Standing, at: &DAffine3, to: &impl Fn(DVec3) -> DVec2) -> DVec2 {
    let seen: Vec<DVec2> = s.body.points.iter().map(|p| to(at.transform_point3(*p))).collect();
    let middle = seen.iter().sum::<DVec2>() / seen.len().max(1) as f64;
    let flipped = if at.matrix3.determinant() < 0.0 { -1.0 } else { 1.0 };
    let facets = s.body.triangles.iter().filter_map(|t| {
        let [a, b, c] = t.map(|i| seen[i as usize]);
        // Paper runs down: what looks to the eye turns with the clock.
        ((b - a).perp_dot(c - a) * flipped < -1e-9).then_some((a + b + c) / 3.0)
    });
    facets.min_by(|a, b| a.distance(middle).total_cmp(&b.distance(middle))).unwrap_or(middle)
}

/// A balloon for each mark, at the first body that carries it; a mark that has no room is in the list alone.
fn balloons(
    list: &FrameList,
    bodies: &[Standing],
    drawn: &[Item],
    view: Bounds,
    to: &impl Fn(DVec3) -> DVec2,
) -> Vec<Item> {
    let mut at: Vec<(&str, DVec2)> = Vec::new();
    for s in bodies {
        at.extend(s.places.iter().map(|p| (p.name.as_str(), metal(s, &p.at, to))));
    }
    let marks = list
        .bars
        .iter()
        .map(|b| (b.mark.as_str(), &b.members))
        .chain(list.plates.iter().map(|p| (p.mark.as_str(), &p.members)));
    let mut labels: Vec<(Label, &str)> = Vec::new();
    for (mark, members) in marks {
        // The one that stands furthest from the middle of the picture has the most room round it.
        let own = at.iter().filter(|(name, _)| members.iter().any(|m| m == name)).map(|a| a.1);
        let Some(anchor) = own.max_by(|a, b| a.distance(view.centre()).total_cmp(&b.distance(view.centre())))
        else {
            continue;
        };
        let size = DVec2::new(text_width(mark, BALLOON) + 3.0, BALLOON + 2.2);
        labels.push((
            Label { anchor, size, clear: 5.0, weight: anchor.distance(view.centre()), before: None },
            mark,
        ));
    }
    let lines = drawn
        .iter()
        .filter_map(|i| if let Item::Path { points, .. } = i { Some(points) } else { None })
        .flat_map(|p| p.windows(2).map(|w| [w[0], w[1]]))
        .collect();
    let keep = Obstacles { boxes: drawn.iter().filter_map(text_box).collect(), lines };
    let only: Vec<Label> = labels.iter().map(|l| l.0).collect();
    let mut out = Vec::new();
    for ((l, mark), at) in labels.iter().zip(place(&only, &keep, view, true)) {
        let Some(at) = at else { continue };
        let half = l.size / 2.0;
        let from = l.anchor.clamp(at.at - half, at.at + half);
        out.push(Item::line(from, l.anchor, Pen::Hair));
        let dot = ground::geom::Contour::circle(l.anchor, 0.5, 0);
        out.push(Item::Shape { loops: vec![dot], pen: Pen::Cut, filled: false });
        let loops = vec![ground::geom::Contour::rectangle(at.at - half, at.at + half, 0)];
        out.push(Item::Shape { loops, pen: Pen::Hair, filled: true });
        out.push(Item::text(at.at + DVec2::new(0.0, BALLOON * 0.36), *mark, BALLOON, Anchor::Middle).bold());
    }
    out
}

fn lists(r: &FrameResult, list: &FrameList, head: &Head) -> Vec<Table> {
    let d = &r.display;
    let cuts = |b: &BarRow| {
        if !b.bends.is_empty() {
            "bent".to_string()
        } else if b.cuts.iter().all(|c| c.text.as_str() == "square") {
            String::new()
        } else {
            format!("{} | {}", b.cuts[0].text, b.cuts[1].text)
        }
    };
    let bars = list.bars.iter().map(|b| {
        vec![b.mark.clone(), b.quantity.to_string(), b.section.clone(), b.length.to_string(), cuts(b)]
    });
    let plates = list.plates.iter().map(|p| {
        vec![p.mark.clone(), p.quantity.to_string(), p.stock.clone(), p.size.clone(), String::new()]
    });
    let cut_list = Table {
        title: "Cut list".into(),
        columns: vec![
            ("mark", 1.5, false),
            ("off", 0.7, true),
            ("section", 2.6, false),
            ("length", 1.5, true),
            ("cuts", 2.4, false),
        ],
        rows: bars.chain(plates).collect(),
    };
    let weld = |w: &frame::WeldRow| {
        vec![
            w.count.to_string(),
            format!("{} {}", w.kind.said(), w.size),
            w.length.to_string(),
            w.between.clone(),
            w.at.clone(),
        ]
    };
    let welds = Table {
        title: "Welds".into(),
        columns: vec![
            ("off", 0.6, true),
            ("kind and size", 2.0, false),
            ("length", 1.2, true),
            ("between", 2.6, false),
            ("at", 1.8, false),
        ],
        rows: list.welds.iter().map(weld).collect(),
    };
    let own = Some(head.note.clone()).filter(|n| !n.is_empty());
    let mut notes: Vec<String> = head.told.iter().cloned().chain(own).collect();
    let sections = list
        .sections
        .iter()
        .map(|s| format!("{}: {}, {}, {}", s.section, counted(s.pieces, "piece"), s.length, s.mass));
    notes.extend(sections);
    notes.extend(list.assemblies.iter().map(|a| {
        format!(
            "Welded first: {} × {} {}, {} each: {}",
            a.quantity,
            a.mark,
            a.name,
            a.unit_mass,
            a.parts.join(", ")
        )
    }));
    notes.push(format!(
        "Welds: {}, {} of metal, not in the masses; sizes by common practice where the joint tells none",
        list.weld_length, list.weld_metal
    ));
    let c = r.centre();
    notes.push(format!(
        "Balances at east {}, north {}, up {}",
        d.length(c.x),
        d.length(c.y),
        d.length_unit(c.z)
    ));
    let worst = |s: Severity| {
        r.findings
            .iter()
            .filter(move |f| f.severity == s && f.check != "section_mass")
            .map(|f| format!("! {}", f.message))
    };
    notes.extend(r.faults.iter().map(|f| format!("! {}: {}", f.line, f.fault.message)));
    notes.extend(worst(Severity::Stop).chain(worst(Severity::Warn)).chain(worst(Severity::Note)));
    vec![cut_list, welds, Table::text("Notes", notes)]
}

/// From the front, from above and from the side, with the whole and the steps from node to node.
fn views(r: &FrameResult, placed: &[Body], projection: Projection, room: Bounds) -> Sheet {
    let d = &r.display;
    let (low, high) = reach(placed);
    let mut chosen = vec![(Sight::FRONT, "from the front")];
    // A frame in one upright plane shows nothing new from above.
    let thin = |k: usize| !r.nodes.is_empty() && steps(r, k).len() < 2;
    if !thin(1) {
        chosen.push((Sight::TOP, "from above"));
    }
    chosen.push(match projection {
        Projection::First => (Sight::LEFT, "from the left"),
        Projection::Third => (Sight::RIGHT, "from the right"),
    });
    let sights: Vec<Sight> = chosen.iter().map(|c| c.0).collect();
    let views: Vec<View> = chosen
        .into_iter()
        .enumerate()
        .map(|(v, (sight, called))| {
            let (sizes, ordinates) = told(r, d, &sights, v, [low, high]);
            View { ordinates, ..View::new(sight, called, wires(placed, &sight, true), sizes) }
        })
        .collect();
    let (mut items, s, corner) = laid(&views, projection, room, d.length);
    // What is made of plates alone is told by its whole, and by its plates' own sheets.
    let mut note = if r.members.is_empty() {
        "Sizes are over the whole: those of each plate stand on its own sheet".to_string()
    } else {
        "Sizes inside the whole are to nodes, where the middle lines of members meet, from the first of them"
            .to_string()
    };
    let untold: usize = (0..3).map(|k| steps(r, k).len().saturating_sub(MOST_STEPS)).sum();
    if untold > 0 {
        note += &format!("; {untold} more places of nodes have no room: the skeleton (CSV) has all");
    }
    let foot = room.max - DVec2::new(0.0, 1.0);
    let most = ((room.max.x - corner.min.x).max(60.0) / text_width("n", 2.7)) as usize;
    for (k, line) in broken(&note, most).into_iter().rev().enumerate() {
        items.push(Item::text(foot - DVec2::new(0.0, 4.0 * k as f64), line, 2.7, Anchor::End));
    }
    Sheet { items, scale: Some(scale::said(s)) }
}

/// Places of nodes along an axis, each once.
fn steps(r: &FrameResult, k: usize) -> Vec<f64> {
    let mut out: Vec<f64> = r.nodes.iter().map(|n| n.at[k]).collect();
    out.sort_by(f64::total_cmp);
    out.dedup_by(|a, b| (*a - *b).abs() < ONE);
    out
}

/// The whole and the nodes along each axis, in the first view that shows it.
fn told(
    r: &FrameResult,
    d: &Display,
    sights: &[Sight],
    v: usize,
    [low, high]: [DVec3; 2],
) -> (Vec<Size>, Vec<Ordinate>) {
    let (mut sizes, mut ordinates) = (Vec::new(), Vec::new());
    for (k, axis) in [(0, DVec3::X), (2, DVec3::Z), (1, DVec3::Y)] {
        if sights.iter().position(|s| axis.dot(s.eye).abs() < 0.5) != Some(v) {
            continue;
        }
        let s = &sights[v];
        let lying = axis.dot(s.right).abs() > 0.5;
        let (a, b) = (s.flat(low), s.flat(high));
        let foot = a.min(b);
        let at = |value: f64| {
            let mut p = low;
            p[k] = value;
            let q = s.flat(p);
            if lying { DVec2::new(q.x, foot.y) } else { DVec2::new(foot.x, q.y) }
        };
        let side = if lying { Margin::South } else { Margin::West };
        let nodes = steps(r, k);
        if nodes.len() > 1 {
            let of = |n: &f64| Ordinate { at: at(*n), text: d.length(n - nodes[0]), side };
            ordinates.extend(nodes.iter().take(MOST_STEPS).map(of));
        }
        if high[k] - low[k] > ONE {
            let text = d.length(high[k] - low[k]);
            sizes.push(Size {
                from: at(low[k]),
                to: at(high[k]),
                side: Some(side),
                out: DVec2::ZERO,
                text,
                overall: true,
            });
        }
    }
    (sizes, ordinates)
}

/// Every different bar, as many to a sheet as have room.
fn details(
    list: &FrameList,
    bodies: &[Standing],
    d: &Display,
    projection: Projection,
    room: Bounds,
) -> Vec<Sheet> {
    let mut out: Vec<Sheet> = Vec::new();
    let mut y = f64::INFINITY;
    for row in &list.bars {
        ground::halt::often();
        let (high, items) = bar::detail(row, bar::body_of(row, bodies), d, projection, room.size().x);
        if y + high > room.max.y {
            y = room.min.y;
            out.push(Sheet { items: Vec::new(), scale: Some("beside each".into()) });
        }
        if let Some(sheet) = out.last_mut() {
            sheet.items.extend(items.into_iter().map(|i| i.moved(DVec2::new(room.min.x, y))));
            let foot = y + high - 1.0;
            sheet.items.push(Item::line(
                DVec2::new(room.min.x, foot),
                DVec2::new(room.max.x, foot),
                Pen::Hair,
            ));
        }
        y += high + 3.0;
    }
    out
}

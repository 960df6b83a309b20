//! The drawing of a piece: the formed piece in its views, then the flat with its tables.

use glam::DVec2;
use ground::geom::Bounds;
use ground::quantity::{Display, LengthUnit, trim_number};
use sheet::mesh::FlatMesh;
use sheet::result::{PieceResult, Severity};

use super::features::{self, Kind};
use super::flat_view::{self, Told};
use super::outline::{self, Point, Way};
use super::page::{Head, Sheet, Subject, finished, room};
use super::patterns::fields;
use super::tables::{self, Table, WIDE};
use super::{formed_views, scale};
use crate::flat::marks_said;
use crate::template::Paper;
use crate::{Anchor, Drawing, Item, ToPaper};

/// A piece as its drawing shows it.
pub struct Piece<'a> {
    pub result: &'a PieceResult,
    /// The mesh that its views are made from, and what is not in it, in words.
    pub mesh: &'a FlatMesh,
    pub unseen: Vec<String>,
}

/// Rows of places that a drawing tells at most.
const MOST_ROWS: usize = 400;

pub fn piece_drawing(of: &Piece, paper: Paper, head: &Head) -> Vec<Drawing> {
    let p = of.result;
    let d = &p.display;
    let unit = if d.length == LengthUnit::Mm { "mm" } else { "inches" };
    let subject = Subject {
        mark: p.mark.clone(),
        name: p.name.clone(),
        material: format!("{} {}", p.material, p.thickness_said()),
        size: format!("flat {} × {}", d.length(p.value("flat_length")), d.length(p.value("flat_width"))),
        mass: d.mass(p.mass_with_pads()),
        quantity: p.quantity,
        unit,
    };
    let room = room(paper);
    let mut sheets = Vec::new();
    if p.flat.bends.iter().any(|b| b.angle > 0.0) || p.zones.iter().any(|z| !z.is_panel()) {
        let mut notes =
            vec!["Outside sizes of the formed piece; holes and outline are told on the flat".to_string()];
        notes.extend(of.unseen.iter().cloned());
        let (items, s) = formed_views::drawn(p, of.mesh, head.projection, room, &notes);
        sheets.push(Sheet { items, scale: Some(scale::said(s)) });
    }
    sheets.extend(flat_sheets(p, head, room, "flat"));
    finished(sheets, paper, head, &subject)
}

/// The flat beside the first of its tables, and sheets of what has no room there.
pub fn flat_sheets(p: &PieceResult, head: &Head, room: Bounds, title: &str) -> Vec<Sheet> {
    let b = p.flat.outer.bounds();
    let points = p.flat.outer.as_circle().map_or_else(|| outline::points(&p.flat.outer), |_| Vec::new());
    let kinds = features::kinds(p);
    // Beside the tables; over them where the flat is long.
    let column = DVec2::new(room.size().x - WIDE - 4.0, room.size().y);
    let strip = DVec2::new(room.size().x, room.size().y * 0.55);
    let laid = |how: Told| {
        let [before, after] = flat_view::margins(&flat_view::ordinates(p, &points, how), &flat_view::kept(p));
        let b = flat_view::extent(p, &points, how);
        let fit = |free: DVec2| ((free - before - after).max(DVec2::splat(8.0)) / b.size()).min_element();
        let (free, over) = if fit(strip) > fit(column) { (strip, true) } else { (column, false) };
        let scale = scale::largest(p.display.length, fit(free));
        let spare = (free - before - after - b.size() * scale).max(DVec2::ZERO) / 2.0;
        (free, over, scale, room.min + before + spare - DVec2::new(b.min.x, -b.max.y) * scale)
    };
    let mut how = Told::Ordinates;
    let (mut free, mut over, mut scale, mut shift) = laid(how);
    if flat_view::told(&points, b, scale) == Told::Table {
        how = Told::Table;
        (free, over, scale, shift) = laid(how);
    }
    let to = ToPaper { scale, shift };
    let view = Bounds { min: room.min, max: room.min + free };
    let (mut items, untold) = flat_view::drawn(p, &points, &kinds, &to, how, view);
    items.push(Item::text(room.min + DVec2::new(0.0, 3.0), title, 3.3, Anchor::Start).bold());
    let mut tables = tables_of(p, &points, &kinds, how);
    tables.push(notes(p, head, &untold));
    let rooms = if over {
        tables::columns(Bounds { min: room.min + DVec2::new(0.0, free.y + 2.0), max: room.max })
    } else {
        vec![Bounds { min: DVec2::new(room.max.x - WIDE, room.min.y), max: room.max }]
    };
    let mut laid = tables::laid(&tables, &rooms, room).into_iter();
    items.extend(laid.next().unwrap_or_default());
    let mut out = vec![Sheet { items, scale: Some(scale::said(scale)) }];
    out.extend(laid.map(|items| Sheet { items, scale: None }));
    out
}

fn tables_of(p: &PieceResult, points: &[Point], kinds: &[Kind], how: Told) -> Vec<Table> {
    let mut out = vec![bends(p)];
    out.extend(holes(p, kinds));
    if how == Told::Table {
        out.push(point_table(p, "Outline", "p", points, p.flat.outer.bounds().min));
    }
    if let Some((centre, r)) = p.flat.outer.as_circle() {
        let at = centre - p.flat.outer.bounds().min;
        let said = |v: f64| p.display.place_number(v).to_string();
        let text = format!("⌀{} about {}, {}", p.display.exact(2.0 * r), said(at.x), said(at.y));
        out.push(Table::text("Outline", [text]));
    }
    for k in kinds {
        if let Some(c) = &k.outline {
            let from = if k.at.len() > 1 { "from its place" } else { "from its middle" };
            let tag = k.tag.to_lowercase();
            out.push(point_table(
                p,
                &format!("Outline of {}, {from}", k.tag),
                &tag,
                &outline::points(c),
                DVec2::ZERO,
            ));
        }
    }
    out
}

fn bends(p: &PieceResult) -> Table {
    let d = &p.display;
    let b = p.flat.outer.bounds();
    let slanting = |m: &_| flat_view::slanting(m, b, |v| d.place_number(v).to_string());
    let place = p.flat.bends.iter().any(|m| !slanting(m).is_empty());
    let mut columns = vec![
        ("", 0.5, true),
        ("bend", 2.0, false),
        ("way", 1.0, false),
        ("angle", 1.0, true),
        ("inside R", 1.1, true),
        ("allowance", 1.2, true),
        ("stop", 1.2, true),
    ];
    if place {
        columns.push(("line from, to", 3.4, false));
    }
    let row = |(n, m): (usize, &sheet::result::BendMark)| {
        let at = p.bend_rows.iter().find(|r| r.name == m.name);
        let mut row = vec![
            (n + 1).to_string(),
            sheet::bend_said(p, &m.label),
            if m.up { "up" } else { "down" }.to_string(),
            m.angle_text.clone(),
            m.radius_text.clone(),
            d.fine(m.allowance),
            at.map_or_else(
                || match (m.rolled, m.creased) {
                    (true, _) => "rolled".into(),
                    (_, true) => "creased".into(),
                    _ => String::new(),
                },
                |r| r.gauge.clone(),
            ),
        ];
        if place {
            row.push(slanting(m));
        }
        row
    };
    Table { title: "Bends".into(), columns, rows: p.flat.bends.iter().enumerate().map(row).collect() }
}

/// What is made, and where.
fn holes(p: &PieceResult, kinds: &[Kind]) -> Vec<Table> {
    let d = &p.display;
    let datum = p.flat.outer.bounds().min;
    let said = |v: f64| d.place_number(v).to_string();
    let all: usize = kinds.iter().map(|k| k.at.len()).sum();
    let back = kinds.iter().any(|k| k.back);
    let what = |k: &Kind| {
        let mut row = vec![k.tag.clone(), k.at.len().to_string(), k.said.clone()];
        if back {
            row.push(if k.back { "back" } else { "top" }.into());
        }
        row
    };
    let mut heads = vec![("", 0.6, false), ("count", 0.8, true), ("what", 6.0, false)];
    if back {
        heads.push(("from", 0.8, false));
    }
    let sizes =
        Table { title: "Holes and shapes".into(), columns: heads, rows: kinds.iter().map(what).collect() };
    let mut columns = vec![("", 0.8, false), ("x", 1.3, true), ("y", 1.3, true)];
    let patterns = all > flat_view::MOST_TAGGED;
    let rows: Vec<Vec<String>> = if patterns {
        columns.push(("and on", 5.0, false));
        let step =
            |(n, by): (usize, f64), way: &str| (n > 1).then(|| format!("{n} at {} {way}", step_said(d, by)));
        kinds
            .iter()
            .flat_map(|k| fields(&k.at).into_iter().map(move |f| (k, f)))
            .map(|(k, f)| {
                let on: Vec<String> =
                    [step(f.across, "east"), step(f.up, "north")].into_iter().flatten().collect();
                vec![k.tag.clone(), said(f.at.x - datum.x), said(f.at.y - datum.y), on.join(", ")]
            })
            .collect()
    } else {
        let one = |k: &Kind| {
            let many = k.at.len() > 1;
            k.at.iter()
                .enumerate()
                .map(|(n, at)| {
                    let tag = if many { format!("{}{}", k.tag, n + 1) } else { k.tag.clone() };
                    vec![tag, said(at.x - datum.x), said(at.y - datum.y)]
                })
                .collect::<Vec<_>>()
        };
        kinds.iter().flat_map(one).collect()
    };
    let left = rows.len().saturating_sub(MOST_ROWS);
    let mut title = "Places, from the datum".to_string();
    if left > 0 {
        title += &format!(": {left} more rows are in the holes CSV");
    }
    vec![sizes, Table { title, columns, rows: rows.into_iter().take(MOST_ROWS).collect() }]
}

/// A step, finer than a place: over a row it adds up.
fn step_said(d: &Display, mm: f64) -> String {
    trim_number(mm / d.length.mm(), if d.length == LengthUnit::Mm { 4 } else { 6 })
}

fn point_table(p: &PieceResult, title: &str, letter: &str, points: &[Point], from: DVec2) -> Table {
    let d = &p.display;
    let rounds = points.iter().any(|q| q.round.is_some());
    let mut columns = vec![("point", 0.8, false), ("x", 1.2, true), ("y", 1.2, true)];
    if rounds {
        columns.push(("rounded", 1.2, true));
    }
    columns.push(("to the next", 3.2, false));
    let row = |(n, q): (usize, &Point)| {
        let at = q.at - from;
        let mut row = vec![
            format!("{letter}{}", n + 1),
            d.place_number(at.x).to_string(),
            d.place_number(at.y).to_string(),
        ];
        if rounds {
            row.push(q.round.map_or(String::new(), |r| format!("R{}", d.fine(r))));
        }
        row.push(match q.next {
            Way::Straight => "straight".into(),
            Way::Arc { radius, out, large, .. } => format!(
                "R{} {}{}",
                d.fine(radius),
                if out { "outwards" } else { "inwards" },
                if large { ", the long way" } else { "" }
            ),
        });
        row
    };
    Table { title: title.into(), columns, rows: points.iter().enumerate().map(row).collect() }
}

fn notes(p: &PieceResult, head: &Head, untold: &[String]) -> Table {
    let mut lines: Vec<String> = head.told.clone();
    if !head.note.is_empty() {
        lines.push(head.note.clone());
    }
    lines.push("Sizes on the flat are from the ring in its corner.".into());
    lines.extend(marks_said(p));
    if !untold.is_empty() {
        lines.push(format!(
            "No room on the flat at this scale for {}: take a larger paper.",
            untold.join(", ")
        ));
    }
    if p.flat.bends.iter().any(|b| !b.rolled && !b.creased) {
        lines.push("The stop is from the middle of the bend to the edge that lies there.".into());
    }
    if !p.flat.guides.is_empty() {
        lines.push("Lines and words that are marked, not cut, are in the DXF.".into());
    }
    for pad in &p.pads {
        lines.push(format!(
            "Laid on it: {} × {} {} {}",
            pad.names.len(),
            pad.piece.mark,
            pad.piece.material,
            pad.piece.thickness_said()
        ));
    }
    let worst =
        |s: Severity| p.findings.iter().filter(move |f| f.severity == s).map(|f| format!("! {}", f.message));
    lines.extend(p.faults.iter().map(|f| format!("! {}: {}", f.line, f.fault.message)));
    lines.extend(worst(Severity::Stop).chain(worst(Severity::Warn)).chain(worst(Severity::Note)));
    Table::text("Notes", lines)
}

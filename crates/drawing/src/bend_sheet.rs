//! The sheet for the brake: the flat with its bends numbered in their order, and a card a bend with the
//! tools, the stop, what to aim at and what to mind. Cards are as tall as their words need: nothing is cut
//! off.

use glam::DVec2;

use super::at_the_tools::at_the_tools;
use super::flat::outline;
use super::wrapped::broken;
use super::{Anchor, Drawing, Item, Pen, ToPaper};
use ground::quantity::LengthUnit;
use sheet::result::{BendRow, PieceResult};
use shop::brake::NOTES;

/// A4 lying down.
const PAGE: DVec2 = DVec2::new(297.0, 210.0);
const BORDER: f64 = 12.0;
/// Where cards begin on the first page and on the others.
const FIRST: f64 = 76.0;
const OTHER: f64 = 20.0;
/// Where they end: below stand the notes.
const FOOT: f64 = PAGE.y - BORDER - 2.0;
const GAP: f64 = 3.0;
const CARD: f64 = (PAGE.x - 2.0 * BORDER - GAP) / 2.0;
const PICTURE: DVec2 = DVec2::new(58.0, 46.0);
const TEXT: f64 = 3.0;
const LINE: f64 = 4.0;

/// The pages; none for a piece without bends.
pub fn bend_sheet(piece: &PieceResult) -> Vec<Drawing> {
    let cards: Vec<(f64, Vec<Item>)> =
        piece.bend_rows.iter().enumerate().map(|(i, r)| card(piece, i, r)).collect();
    let mut pages: Vec<Drawing> = Vec::new();
    let mut y = f64::INFINITY;
    // Two cards stand side by side.
    for pair in cards.chunks(2) {
        let height = pair.iter().map(|c| c.0).fold(0.0, f64::max);
        if y + height > FOOT {
            y = if pages.is_empty() { FIRST } else { OTHER };
            pages.push(page(piece, pages.len() + 1));
        }
        let Some(page) = pages.last_mut() else { break };
        for (k, (_, items)) in pair.iter().enumerate() {
            let corner = DVec2::new(BORDER + k as f64 * (CARD + GAP), y);
            page.items.push(Item::frame(corner, corner + DVec2::new(CARD, height), Pen::Hair));
            page.items.extend(items.iter().cloned().map(|i| i.scaled(1.0, corner)));
        }
        y += height + GAP;
    }
    pages
}

fn page(piece: &PieceResult, number: usize) -> Drawing {
    let d = &piece.display;
    let mut items = vec![
        Item::text(
            DVec2::new(BORDER, BORDER + 2.0),
            format!("{}  {}", piece.mark, piece.name),
            5.5,
            Anchor::Start,
        )
        .bold(),
        Item::text(
            DVec2::new(PAGE.x - BORDER, BORDER + 2.0),
            format!("bend sheet {number}"),
            4.0,
            Anchor::End,
        ),
    ];
    if number == 1 {
        let size = format!(
            "flat {} × {}",
            d.length(piece.value("flat_length")),
            d.length_unit(piece.value("flat_width"))
        );
        let said = format!(
            "{} {}   {size}   quantity {}   {}",
            piece.material,
            piece.thickness_said(),
            piece.quantity,
            d.mass(piece.value("mass"))
        );
        items.push(Item::text(DVec2::new(BORDER, BORDER + 8.0), said, 3.6, Anchor::Start));
        let corner = DVec2::new(BORDER, BORDER + 11.0);
        items.extend(numbered(piece, corner, DVec2::new(CARD, FIRST - corner.y - GAP)));
        items.extend(whole(piece, DVec2::new(BORDER + CARD + GAP, BORDER + 14.0)));
    }
    let unit = if d.length == LengthUnit::Mm { "mm" } else { "in" };
    let notes = [
        format!("Lengths in {unit}. {} Rolled arcs and cones are not made here.", NOTES[0]),
        NOTES[1].to_string(),
    ];
    for (k, note) in notes.into_iter().enumerate() {
        items.push(Item::text(
            DVec2::new(BORDER, PAGE.y - BORDER + 2.0 + 3.6 * k as f64),
            note,
            2.8,
            Anchor::Start,
        ));
    }
    Drawing { size: PAGE, title: format!("{} {} bend sheet", piece.mark, piece.name), items }
}

/// What is true of the whole sheet, beside the numbered flat.
fn whole(piece: &PieceResult, corner: DVec2) -> Vec<Item> {
    let Some(row) = piece.bend_rows.first() else { return Vec::new() };
    let mut said = piece.plan.said.clone();
    if let Some(first) = said.get(..1) {
        said = first.to_uppercase() + &said[1..];
    }
    let tools = &piece.plan.brake.tools;
    let d = &piece.display;
    let n = |v: f64| d.brief(v);
    let whose = if piece.plan.brake.assumed { "Usual tools, none are told" } else { "The shop's tools" };
    let mut lines = vec![
        said,
        format!("Tolerance {}, unless the drawing says closer", row.tolerance),
        format!("Forces with {}", row.strength),
    ];
    lines.push(format!(
        "{whose}: punch {} high, {} thick, {}; V {} in a die {} high; beam {}, bed {} thick",
        n(tools.punch_height),
        n(tools.punch_thickness),
        d.angle(tools.punch_angle),
        row.die,
        n(tools.die_height(piece.plan.brake.opening(piece.thickness))),
        n(tools.beam_thickness),
        n(tools.bed_thickness)
    ));
    if !piece.plan.unseen.is_empty() {
        lines.push(format!("! {}", piece.plan.unseen));
    }
    lines.push(
        "Not looked at: what is pressed out of the sheet, windows (they are taken as filled), how the \
        piece is brought in and taken out"
            .into(),
    );
    let lines: Vec<String> = lines.iter().flat_map(|l| wrapped(l, CARD, 3.2)).collect();
    lines
        .into_iter()
        .enumerate()
        .map(|(k, l)| Item::text(corner + DVec2::new(0.0, 4.4 * k as f64), l, 3.2, Anchor::Start))
        .collect()
}

/// Words on lines of this width.
fn wrapped(text: &str, width: f64, size: f64) -> Vec<String> {
    // Letters of the face are a little less than half as wide as it is tall, on average.
    broken(text, (width / size / 0.47) as usize)
}

/// One bend: its height, and its marks from the upper left corner.
fn card(piece: &PieceResult, index: usize, r: &BendRow) -> (f64, Vec<Item>) {
    let left = PICTURE.x + 7.0;
    let width = CARD - left - 2.0;
    let mut items: Vec<Item> = vec![];
    let way = if r.up { "up" } else { "down" };
    let label = sheet::bend_said(piece, &r.label);
    items.push(Item::text(DVec2::new(2.0, 6.0), format!("{}", r.order), 5.0, Anchor::Start).bold());
    items.push(
        Item::fitted(
            DVec2::new(left, 6.0),
            format!("{label}  {way} {}", r.angle_text),
            4.2,
            (width / 2.1) as usize,
            Anchor::Start,
        )
        .bold(),
    );
    let picture = at_the_tools(piece, index, PICTURE);
    items.extend(picture.items.into_iter().map(|i| i.scaled(1.0, DVec2::new(2.0, 9.0))));
    let mut lines: Vec<(String, bool)> = Vec::new();
    let mut say =
        |text: String, loud: bool| lines.extend(wrapped(&text, width, TEXT).into_iter().map(|l| (l, loud)));
    say(r.turned.clone(), false);
    say(format!("at the stop {}: {}", sheet::said_in(piece, &r.at_stop), r.gauge), false);
    if !r.gauge_note.is_empty() {
        say(r.gauge_note.clone(), true);
    }
    if r.acute.is_empty() {
        say(format!("aim at {}", r.aim), false);
        say(format!("V {}, R {}, {} long, {}", r.die, r.radius, r.length, r.force), false);
    } else {
        say(format!("first stroke {} over V {}, {} long, {}", r.acute, r.die, r.length, r.force), false);
        say(format!("then press flat, {}: see the tool's plate", r.closing_force), false);
    }
    if !r.punch.is_empty() {
        say(r.punch.clone(), false);
    }
    say(format!("then it measures {} outside, {}", r.check, r.tolerance), false);
    r.strikes.iter().for_each(|s| say(format!("! {s}"), true));
    r.cautions.iter().for_each(|c| say(format!("Mind: {c}"), false));
    say(r.reason.clone(), false);
    let mut y = 11.0;
    for (text, loud) in lines {
        let item = Item::text(DVec2::new(left, y), text, TEXT, Anchor::Start);
        items.push(if loud { item.bold() } else { item });
        y += LINE;
    }
    ((PICTURE.y + 11.0).max(y), items)
}

/// The flat with a numbered disc on each bend.
fn numbered(piece: &PieceResult, corner: DVec2, room: DVec2) -> Vec<Item> {
    let b = piece.flat.outer.bounds();
    let scale = (room.x / b.size().x.max(1e-6)).min(room.y / b.size().y.max(1e-6));
    let spare = (room - b.size() * scale) / 2.0;
    let to = ToPaper { scale, shift: corner + spare + DVec2::new(-b.min.x * scale, b.max.y * scale) };
    let mut items = outline(piece, &to);
    for r in &piece.bend_rows {
        let Some(mark) = piece.flat.bends.iter().find(|m| m.name == r.name) else { continue };
        let at = to.point((DVec2::from(mark.from) + DVec2::from(mark.to)) / 2.0);
        let disc = ground::geom::Contour::circle(at, 2.6, 0);
        items.push(Item::Shape { loops: vec![disc], pen: Pen::Hair, filled: true });
        items.push(Item::text(at + DVec2::new(0.0, 1.2), format!("{}", r.order), 3.2, Anchor::Middle).bold());
    }
    items
}

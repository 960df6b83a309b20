//! The frame on paper: a picture with balloons, its list, and a detail of every bar.

use super::bar_detail::detail;
use glam::{DVec2, DVec3};

use super::{Anchor, Drawing, Item, Pen, flat_drawing, picture};
use frame::{FrameList, FrameResult, Plate, PlateRow, whole};
use ground::geom::Contour;
use ground::quantity::counted;
use sheet::result::Severity;

/// A4 lying.
const PAGE: DVec2 = DVec2::new(297.0, 210.0);
const MARGIN: f64 = 12.0;

pub(crate) fn at(x: f64, y: f64) -> DVec2 {
    DVec2::new(x, y)
}

/// Page one: the picture and the list; then six details a page.
pub fn frame_sheet(r: &FrameResult, list: &FrameList, unit: &str) -> Vec<Drawing> {
    let notes = notes(r, list);
    let mut pages = vec![overview(r, list, &notes)];
    for chunk in list.bars.chunks(6) {
        let mut items = title(list, "details of bars, not to scale");
        for (i, row) in chunk.iter().enumerate() {
            let corner = at(MARGIN + (i % 2) as f64 * 138.0, 30.0 + (i / 2) as f64 * 56.0);
            items.extend(detail(row, corner, unit));
        }
        pages.push(Drawing { size: PAGE, title: format!("{} details", list.mark), items });
    }
    pages.extend(plates(r, list));
    pages.extend(welds(list));
    pages.extend(rest_of_list(list));
    if !fits(table(list).len(), notes.len()) {
        for chunk in notes.chunks(40) {
            let mut items = title(list, "notes");
            items.extend(noted(chunk, at(MARGIN, 34.0)));
            pages.push(Drawing { size: PAGE, title: format!("{} notes", list.mark), items });
        }
    }
    let all = pages.len();
    for (i, page) in pages.iter_mut().enumerate() {
        page.items.push(Item::text(
            at(PAGE.x - MARGIN, MARGIN + 4.0),
            format!("page {} of {all}", i + 1),
            3.4,
            Anchor::End,
        ));
    }
    pages
}

fn title(list: &FrameList, what: &str) -> Vec<Item> {
    vec![
        Item::text(at(MARGIN, MARGIN + 4.0), format!("{} · {}", list.mark, list.name), 5.0, Anchor::Start)
            .bold(),
        Item::text(
            at(MARGIN, MARGIN + 10.0),
            format!("{what} · {} off · {} in all", list.quantity, list.mass),
            3.4,
            Anchor::Start,
        ),
    ]
}

/// Rows of the list that page one has room for.
const ROWS: usize = 32;

fn overview(r: &FrameResult, list: &FrameList, notes: &[String]) -> Drawing {
    let mut items = title(list, "frame and cut list");
    let solid = whole(r, false);
    // Heavy frames are drawn by their list alone.
    if solid.triangles.len() < 60_000 {
        let (facets, place) = picture(&solid, 150.0, 165.0);
        let shift = at(MARGIN, 28.0);
        items.extend(facets.into_iter().map(|f| match f {
            Item::Facet { points, shade } => {
                Item::Facet { points: points.into_iter().map(|p| p + shift).collect(), shade }
            }
            other => other,
        }));
        items.extend(balloons(r, list, |p| place(p) + shift));
    }
    let x = 172.0;
    items.extend(heading(x, 28.0));
    let rows = table(list);
    for (i, line) in rows.iter().take(ROWS).enumerate() {
        items.extend(entry(x, 34.0 + 5.0 * i as f64, line));
    }
    if fits(rows.len(), notes.len()) {
        items.extend(noted(notes, at(x, 40.0 + 5.0 * rows.len() as f64)));
    }
    Drawing { size: PAGE, title: format!("{} {}", list.mark, list.name), items }
}

/// Whether the notes have room under the list on page one.
fn fits(rows: usize, notes: usize) -> bool {
    5.0 * rows as f64 + 4.0 * notes as f64 <= 5.0 * ROWS as f64
}

fn noted(notes: &[String], o: DVec2) -> Vec<Item> {
    notes
        .iter()
        .enumerate()
        .map(|(i, t)| Item::text(o + at(0.0, 4.0 * i as f64), t.clone(), 2.6, Anchor::Start))
        .collect()
}

/// What is said under the list: bars by section, what is welded first, welds, where it balances, cautions.
fn notes(r: &FrameResult, list: &FrameList) -> Vec<String> {
    let d = &r.display;
    let c = r.centre();
    let mut out: Vec<String> = list
        .sections
        .iter()
        .map(|s| format!("{}: {}, {}, {}", s.section, counted(s.pieces, "piece"), s.length, s.mass))
        .collect();
    out.extend(list.assemblies.iter().map(|a| {
        format!(
            "welded first: {} × {} {}, {} each: {}",
            a.quantity,
            a.mark,
            a.name,
            a.unit_mass,
            a.parts.join(", ")
        )
    }));
    out.push(format!("welds: {}, {} of metal, not in the masses", list.weld_length, list.weld_metal));
    out.push(format!(
        "balances at east {}, north {}, up {}",
        d.length(c.x),
        d.length(c.y),
        d.length_unit(c.z)
    ));
    out.extend(
        r.findings
            .iter()
            .filter(|f| f.severity == Severity::Note && f.check != "section_mass")
            .map(|f| format!("! {}", f.message)),
    );
    out.iter().flat_map(|t| broken(t, 74)).collect()
}

/// The flat of every plate with its sizes, six a page.
fn plates(r: &FrameResult, list: &FrameList) -> Vec<Drawing> {
    let rows: Vec<(&PlateRow, &Plate)> =
        list.plates.iter().zip(&r.plates).filter(|(_, p)| p.piece.made).collect();
    let page = |chunk: &[(&PlateRow, &Plate)]| {
        let mut items = title(list, "plates, not to scale");
        for (i, (row, plate)) in chunk.iter().enumerate() {
            let corner = at(MARGIN + (i % 2) as f64 * 138.0, 30.0 + (i / 2) as f64 * 56.0);
            items.push(
                Item::text(
                    corner + at(0.0, 4.0),
                    format!(
                        "{} · {} · {} off · {} · {}",
                        row.mark, row.name, row.quantity, row.stock, row.material
                    ),
                    3.4,
                    Anchor::Start,
                )
                .bold(),
            );
            let size = plate.piece.flat.outer.bounds().size();
            let drawn = flat_drawing(&plate.piece, (80.0 / size.x).min(22.0 / size.y), true);
            let fit = (at(128.0, 48.0) / drawn.size).min_element().min(1.0);
            // Its own head is left out: the mark above says it.
            items.extend(
                drawn
                    .items
                    .into_iter()
                    .filter(|i| !matches!(i, Item::Text { bold: true, .. }))
                    .map(|i| i.scaled(fit, corner + at(0.0, 5.0))),
            );
        }
        Drawing { size: PAGE, title: format!("{} plates", list.mark), items }
    };
    rows.chunks(6).map(page).collect()
}

/// Every weld with its kind, size and length.
fn welds(list: &FrameList) -> Vec<Drawing> {
    let page = |chunk: &[frame::WeldRow]| {
        let mut items = title(list, "welds");
        items.push(Item::text(
            at(MARGIN, 28.0),
            "count · kind and size · length of one · between · at; sizes by common practice where the \
             joint tells none",
            2.6,
            Anchor::Start,
        ));
        for (i, w) in chunk.iter().enumerate() {
            let o = at(MARGIN + (i / 30) as f64 * 138.0, 34.0 + (i % 30) as f64 * 5.0);
            items.push(Item::fitted(
                o,
                format!(
                    "{} × {} {} · {} · {} · {}",
                    w.count,
                    w.kind.said(),
                    w.size,
                    w.length,
                    w.between,
                    w.at
                ),
                2.8,
                76,
                Anchor::Start,
            ));
        }
        Drawing { size: PAGE, title: format!("{} welds", list.mark), items }
    };
    list.welds.chunks(60).map(page).collect()
}

/// Rows beyond the first page.
fn rest_of_list(list: &FrameList) -> Vec<Drawing> {
    let rows = table(list);
    let rest = rows.get(ROWS..).unwrap_or_default();
    rest.chunks(60)
        .map(|chunk| {
            let mut items = title(list, "cut list, continued");
            for (i, line) in chunk.iter().enumerate() {
                let x = MARGIN + (i / 30) as f64 * 140.0;
                items.extend(entry(x, 34.0 + 5.0 * (i % 30) as f64, line));
            }
            items.extend(heading(MARGIN, 28.0));
            Drawing { size: PAGE, title: format!("{} cut list", list.mark), items }
        })
        .collect()
}

/// Mark, quantity, name, section, length, cuts.
fn table(list: &FrameList) -> Vec<[String; 6]> {
    let bars = list.bars.iter().map(|b| {
        let cuts = if b.cuts.iter().all(|c| c.text == "square") {
            String::new()
        } else {
            format!("{} | {}", b.cuts[0].text, b.cuts[1].text)
        };
        let name = if b.bends.is_empty() { b.name.clone() } else { format!("{}, bent", b.name) };
        [b.mark.clone(), b.quantity.to_string(), name, b.section.clone(), b.length.to_string(), cuts]
    });
    let plates = list.plates.iter().map(|p| {
        [
            p.mark.clone(),
            p.quantity.to_string(),
            p.name.clone(),
            p.stock.clone(),
            p.size.clone(),
            String::new(),
        ]
    });
    bars.chain(plates).collect()
}

fn heading(x: f64, y: f64) -> Vec<Item> {
    let mut out = entry(x, y, &["mark", "qty", "name", "section", "length", "cuts"].map(String::from));
    out.push(Item::line(at(x, y + 1.5), at(x + 113.0, y + 1.5), Pen::Hair));
    out
}

fn entry(x: f64, y: f64, line: &[String; 6]) -> Vec<Item> {
    let columns = [
        (0.0, Anchor::Start, 11),
        (20.0, Anchor::End, 5),
        (23.0, Anchor::Start, 14),
        (46.0, Anchor::Start, 16),
        (89.0, Anchor::End, 15),
        (92.0, Anchor::Start, 17),
    ];
    line.iter()
        .zip(columns)
        .map(|(t, (dx, anchor, most))| Item::fitted(at(x + dx, y), t.clone(), 2.6, most, anchor))
        .collect()
}

/// One balloon a row, on its first piece, set round the picture so that none covers another.
fn balloons(r: &FrameResult, list: &FrameList, place: impl Fn(DVec3) -> DVec2) -> Vec<Item> {
    let mut out = Vec::new();
    let mut taken: Vec<DVec2> = Vec::new();
    let middle = at(MARGIN + 75.0, 110.0);
    let bars = list.bars.iter().filter_map(|b| {
        let i = r.members.iter().position(|m| b.members.first() == Some(&m.name))?;
        // The centre of a bent bar lies beside its metal.
        let m = &r.members[i];
        Some((b.mark.clone(), if m.is_straight() { r.facts[i].centre } else { m.middle() }))
    });
    let plates = list.plates.iter().zip(&r.plates).filter_map(|(row, p)| {
        let q = p.places.first()?;
        let c = p.piece.flat_centroid();
        Some((row.mark.clone(), q.o + q.x * c.x + q.y * c.y))
    });
    for (mark, centre) in bars.chain(plates) {
        let foot = place(centre);
        let out_of = (foot - middle).normalize_or(DVec2::Y);
        // Further out, or a little to the side, until it stands free.
        let spots = (1..7).flat_map(|k| {
            [0.0, 0.5, -0.5, 1.0, -1.0]
                .map(|a| foot + DVec2::from_angle(a).rotate(out_of) * 9.0 * f64::from(k))
        });
        let inside = |p: &DVec2| p.x > MARGIN + 5.0 && p.x < 166.0 && p.y > 24.0 && p.y < PAGE.y - MARGIN;
        let free = |p: &DVec2| {
            inside(p) && taken.iter().all(|t| (t.x - p.x).abs() > 13.0 || (t.y - p.y).abs() > 6.5)
        };
        let Some(spot) = spots.into_iter().find(free) else { continue };
        taken.push(spot);
        out.push(Item::line(foot, spot, Pen::Hair));
        let half = at(6.0, 2.6);
        out.push(Item::Shape {
            loops: vec![Contour::rectangle(spot - half, spot + half, 0)],
            pen: Pen::Hair,
            filled: true,
        });
        out.push(Item::text(spot + at(0.0, 1.0), mark, 2.6, Anchor::Middle));
    }
    out
}

/// A text in lines of at most so many characters, broken at its gaps.
pub(crate) fn broken(text: &str, most: usize) -> Vec<String> {
    let mut out = vec![String::new()];
    for word in text.split(' ') {
        let line = out.last().map_or(0, |l| l.chars().count());
        if line > 0 && line + 1 + word.chars().count() > most {
            out.push(String::new());
        }
        if let Some(l) = out.last_mut() {
            if !l.is_empty() {
                l.push(' ');
            }
            l.push_str(word);
        }
    }
    out
}

//! A bar on paper: its sides with their cuts and holes, its section, and the way of a bent one.

use super::frame_sheet::{at, broken};
use super::{Anchor, Drawing, Item, Pen};
use frame::{BarRow, EndRelation};
use glam::DVec2;
use ground::geom::ROUNDING;
use ground::geom::{Bounds, Contour, Vertex};

/// One bar on a sheet of its own.
pub fn bar_detail(row: &BarRow, unit: &str) -> Drawing {
    Drawing {
        size: at(150.0, 72.0),
        title: format!("{} {}", row.mark, row.name),
        items: [
            detail(row, at(8.0, 8.0), unit),
            vec![Item::text(at(142.0, 68.0), "not to scale", 2.4, Anchor::End)],
        ]
        .concat(),
    }
}

/// The side of a bar across its first slant, its lengths and cuts; not to scale along.
pub(crate) fn detail(row: &BarRow, o: DVec2, unit: &str) -> Vec<Item> {
    let (w, deep) = (96.0, 14.0);
    let scale = deep / row.look.depth.max(1.0);
    let out = |v: f64| (v * scale).clamp(-16.0, 16.0);
    let (s, e) = (out(row.look.start), out(row.look.end));
    let (x0, x1, top, low) = (o.x + 16.0, o.x + 16.0 + w, o.y + 16.0, o.y + 16.0 + deep);
    let mut corners =
        [at(x0 - s / 2.0, top), at(x1 + e / 2.0, top), at(x1 - e / 2.0, low), at(x0 + s / 2.0, low)];
    let mut outline = corners.to_vec();
    if let Some([start, end]) = &row.ends_seen {
        // Tips at the outermost, everything else as far back as it is, in the scale of the depth.
        let back = |q: &DVec2| (q.y * scale).min(34.0);
        let (left, right) = (x0, x1);
        outline = start
            .iter()
            .map(|q| at(left + back(q), low - deep * q.x))
            .chain(end.iter().rev().map(|q| at(right - back(q), low - deep * q.x)))
            .collect();
        corners = [at(left, top), at(right, top), at(right, low), at(left, low)];
    }
    if !row.way.0.is_empty() {
        outline = Vec::new();
        corners = [at(x0, top), at(x1, top), at(x1, low), at(x0, low)];
    }
    let mut items = vec![
        Item::text(o + at(0.0, 4.0), format!("{} · {}", row.mark, row.name), 4.0, Anchor::Start).bold(),
        Item::text(
            o + at(0.0, 8.5),
            format!(
                "{} off · {} · {} · {} {} each",
                row.quantity,
                row.section,
                row.material,
                row.unit_mass,
                if unit == "mm" { "kg" } else { "lb" }
            ),
            2.8,
            Anchor::Start,
        ),
        Item::text(o + at(0.0, 26.0), row.cuts[0].text.to_string(), 3.2, Anchor::Start),
        Item::text(o + at(w + 32.0, 26.0), row.cuts[1].text.to_string(), 3.2, Anchor::End),
    ];
    if outline.is_empty() {
        items.extend(bent_way(&row.way.0, at(x0, o.y + 10.5), at(w, 19.0)));
    } else {
        items.push(Item::Shape { loops: vec![Contour::polygon(outline, 0)], pen: Pen::Cut, filled: false });
    }
    // The long points stand above where the upper side is the longer one.
    let upper = corners[1].x - corners[0].x >= corners[2].x - corners[3].x;
    // From tip to tip: the outermost corner of either end.
    let tip = |p: DVec2, q: DVec2, sign: f64| {
        if (p.x - q.x) * sign > ROUNDING {
            p
        } else if (q.x - p.x) * sign > ROUNDING {
            q
        } else if upper {
            p
        } else {
            q
        }
    };
    let (a, b) = (tip(corners[0], corners[3], -1.0), tip(corners[1], corners[2], 1.0));
    let (y, text_y) = if upper { (top - 3.0, top - 4.0) } else { (low + 3.0, low + 6.5) };
    if row.way.0.is_empty() {
        items.push(Item::line(at(a.x, y), at(b.x, y), Pen::Hair));
        items.extend([a, b].map(|p| Item::line(at(p.x, p.y), at(p.x, y), Pen::Hair)));
        items.push(
            Item::text(at((a.x + b.x) / 2.0, text_y), format!("{} {unit}", row.length), 3.4, Anchor::Middle)
                .bold(),
        );
    } else {
        // A bent bar is drawn as it is bent; its length is that of its line.
        let seen = if row.way.1 { ", seen from the side: it is bent out of one plane" } else { "" };
        items.push(
            Item::text(
                o + at(0.0, 37.2),
                format!("{} {unit} developed{seen}", row.length),
                3.4,
                Anchor::Start,
            )
            .bold(),
        );
    }
    let lies = match row.lie {
        EndRelation::Plain => String::new(),
        EndRelation::Same => "ends the same way".into(),
        EndRelation::Opposite => "ends opposite".into(),
        EndRelation::Turned => format!("far end {}", row.ends),
    };
    let rounded = row.cuts.iter().any(|c| !c.exact.is_empty() && c.exact != "0°" && c.exact != c.text);
    let exact: Vec<&str> =
        row.cuts.iter().filter(|_| rounded).map(|c| c.exact.as_str()).filter(|e| !e.is_empty()).collect();
    let exact = if exact.is_empty() { String::new() } else { format!("exactly {}", exact.join(" | ")) };
    let edge = if row.edge.is_empty() { String::new() } else { format!("longest edge {}", row.edge) };
    let notes: Vec<String> = [format!("centre {} · short {}", row.centre, row.short), edge, lies, exact]
        .into_iter()
        .filter(|t| !t.is_empty())
        .collect();
    items.push(Item::text(o + at(0.0, 41.0), notes.join(" · "), 2.8, Anchor::Start));
    items.extend(section_seen(row, o + at(120.0, 39.0)));
    // Holes: a centre line each, and how they are told.
    let (first, last) = (corners[0].x.min(corners[3].x), corners[1].x.max(corners[2].x));
    let stations: &[f64] = if row.way.0.is_empty() { &row.stations } else { &[] };
    items.extend(
        stations
            .iter()
            .map(|s| first + (last - first) * s)
            .map(|x| Item::line(at(x, top - 1.5), at(x, low + 1.5), Pen::Hair)),
    );
    let bends = (!row.bends.is_empty()).then(|| format!("bent, length developed: {}", row.bends));
    let mut told: Vec<String> = bends.iter().chain(&row.drilled).flat_map(|t| broken(t, 84)).collect();
    if told.len() > 4 {
        told.truncate(3);
        told.push("more of them: the saw list tells all".into());
    }
    items.extend(
        told.iter()
            .enumerate()
            .map(|(i, t)| Item::text(o + at(0.0, 45.0 + 3.3 * i as f64), t.clone(), 2.4, Anchor::Start)),
    );
    items
}

/// The middle line of a bent bar in a box, its start marked.
pub(crate) fn bent_way(way: &[DVec2], corner: DVec2, room: DVec2) -> Vec<Item> {
    let b = Bounds::of(way.iter().copied());
    let scale = (room / b.size().max(DVec2::splat(1e-6))).min_element();
    let spare = (room - b.size() * scale) / 2.0;
    let to = |p: &DVec2| corner + spare + at(p.x - b.min.x, b.max.y - p.y) * scale;
    let mut out: Vec<Item> = way.windows(2).map(|w| Item::line(to(&w[0]), to(&w[1]), Pen::Cut)).collect();
    let start = to(&way[0]);
    out.push(Item::Shape { loops: vec![Contour::circle(start, 0.9, 0)], pen: Pen::Hair, filled: true });
    out.push(Item::text(start + at(0.0, 4.0), "start", 2.2, Anchor::Middle));
    out
}

/// The section as it is seen from the start of the bar, looking along it, with a mark on each side that is
/// drilled.
pub(crate) fn section_seen(row: &BarRow, o: DVec2) -> Vec<Item> {
    let Some(outer) = row.seen.first() else { return Vec::new() };
    let b = outer.bounds();
    let scale = 11.0 / b.size().max_element().max(1e-6);
    // Its x runs to the left of who looks along the bar.
    let to = |p: DVec2| o + at(-(p.x - b.centre().x), -(p.y - b.centre().y)) * scale;
    let laid = |c: &Contour| Contour {
        vertices: c.vertices.iter().map(|v| Vertex { p: to(v.p), bulge: v.bulge, tag: 0 }).collect(),
    };
    let mut items =
        vec![Item::Shape { loops: row.seen.iter().map(laid).collect(), pen: Pen::Hair, filled: true }];
    for way in &row.drilled_to {
        let out = at(-way.x, -way.y);
        let foot = o + out * (b.size() / 2.0 * scale + 0.6).dot(out.abs());
        items.push(Item::Facet {
            points: vec![foot, foot + out * 2.4 + out.perp() * 1.1, foot + out * 2.4 - out.perp() * 1.1],
            shade: 0.1,
        });
    }
    items.push(Item::text(o + at(0.0, 11.0), "from the start, top up", 2.2, Anchor::Middle));
    items
}

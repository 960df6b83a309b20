//! A sheet with its border and its title block.

use glam::{DVec2, Vec2Swizzles};
use ground::geom::{Bounds, Contour};

use crate::hole_marks::text_width;
use crate::template::Paper;
use crate::{Anchor, Drawing, Item, Pen, Picture};

/// How views stand to one another.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Projection {
    /// What is seen from above stands below (ISO 5456-2).
    #[default]
    First,
    /// What is seen from above stands above.
    Third,
}

/// What the title block says beside the piece itself.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Head {
    pub projection: Projection,
    pub shop: String,
    /// Number and title.
    pub job: String,
    pub customer: String,
    pub drawn: String,
    pub checked: String,
    pub date: String,
    pub revision: String,
    /// Class of tolerances, as it is named.
    pub class: String,
    pub surfaces: String,
    pub edges: String,
    pub note: String,
    /// The shop's own, in the corner of the block.
    pub mark: ShopMark,
    /// What is told of this one piece or frame: its finish, what it goes into.
    pub told: Vec<String>,
}

/// The mark of the shop.
#[derive(Clone, Debug, Default, PartialEq)]
pub enum ShopMark {
    #[default]
    None,
    Picture(Picture),
    /// The name of one that is not at hand where the drawing is made.
    Missing(String),
}

/// What a sheet is of.
#[derive(Clone, Debug, Default)]
pub struct Subject {
    pub mark: String,
    pub name: String,
    pub material: String,
    pub size: String,
    pub mass: String,
    pub quantity: usize,
    pub unit: &'static str,
}

const MARGIN: f64 = 8.0;
const BLOCK: f64 = 25.0;
const GAP: f64 = 4.0;

/// Where a sheet has room.
pub fn room(paper: Paper) -> Bounds {
    let size = paper.size().yx();
    Bounds {
        min: DVec2::splat(MARGIN + GAP),
        max: DVec2::new(size.x - MARGIN - GAP, size.y - MARGIN - BLOCK - GAP),
    }
}

/// A sheet that is being filled.
pub struct Sheet {
    pub items: Vec<Item>,
    /// Of its views; none where it has only tables.
    pub scale: Option<String>,
}

/// The sheets with their title blocks.
pub fn finished(sheets: Vec<Sheet>, paper: Paper, head: &Head, of: &Subject) -> Vec<Drawing> {
    let all = sheets.len();
    let one = |(k, s): (usize, Sheet)| {
        let mut items = block(paper, head, of, s.scale.as_deref().unwrap_or("none"), (k + 1, all));
        items.extend(s.items);
        let title = format!("{} {} drawing, sheet {} of {all}", of.mark, of.name, k + 1);
        Drawing { size: paper.size().yx(), title, items }
    };
    sheets.into_iter().enumerate().map(one).collect()
}

/// A cell: its caption and what stands in it, by shares of the block's width.
type Cell<'a> = (&'a str, String, f64);

fn block(paper: Paper, head: &Head, of: &Subject, scale: &str, (k, all): (usize, usize)) -> Vec<Item> {
    let size = paper.size().yx();
    let (low, high) = (DVec2::splat(MARGIN), size - DVec2::splat(MARGIN));
    let top = high.y - BLOCK;
    let mut items = vec![
        Item::frame(low, high, Pen::Cut),
        Item::line(DVec2::new(low.x, top), DVec2::new(high.x, top), Pen::Cut),
    ];
    let wide = high.x - low.x;
    let rows: [Vec<Cell>; 3] = [
        vec![
            ("name", of.name.clone(), 4.6),
            ("material", of.material.clone(), 3.0),
            ("mass each", of.mass.clone(), 1.5),
            ("quantity", of.quantity.to_string(), 1.0),
            ("scale", scale.to_string(), 1.0),
            ("sheet", format!("{k} of {all}"), 1.2),
        ],
        vec![
            ("job", head.job.clone(), 4.6),
            ("size", of.size.clone(), 3.0),
            ("tolerances", head.class.clone(), 1.9),
            ("sizes in", of.unit.to_string(), 1.6),
            ("revision", head.revision.clone(), 1.2),
        ],
        vec![
            ("for", head.customer.clone(), 2.3),
            ("surfaces", head.surfaces.clone(), 2.3),
            ("edges", head.edges.clone(), 3.0),
            ("drawn", head.drawn.clone(), 1.25),
            ("checked", head.checked.clone(), 1.25),
            ("date", head.date.clone(), 1.2),
        ],
    ];
    // The mark first: what a hand at the rack looks for. Last the sign of the projection.
    let (left, right) = (low.x + wide * 0.14, high.x - 22.0);
    items.push(Item::line(DVec2::new(left, top), DVec2::new(left, high.y), Pen::Cut));
    items.push(Item::line(DVec2::new(right, top), DVec2::new(right, high.y), Pen::Cut));
    let mark = if of.mark.is_empty() { "no mark" } else { &of.mark };
    let tall = fit(mark, left - low.x - 4.0, 8.5);
    items.push(Item::text(DVec2::new(low.x + 2.5, top + 11.5), mark, tall, Anchor::Start).bold());
    items.extend(shop(head, DVec2::new(low.x + 2.5, top + 13.2), DVec2::new(left - 1.5, high.y - 1.6)));
    let deep = BLOCK / rows.len() as f64;
    for (r, cells) in rows.iter().enumerate() {
        let y = top + deep * r as f64;
        if r > 0 {
            items.push(Item::line(DVec2::new(left, y), DVec2::new(right, y), Pen::Hair));
        }
        let shares: f64 = cells.iter().map(|c| c.2).sum();
        let mut x = left;
        for (c, (caption, text, share)) in cells.iter().enumerate() {
            let own = (right - left) * share / shares;
            if c > 0 {
                items.push(Item::line(DVec2::new(x, y), DVec2::new(x, y + deep), Pen::Hair));
            }
            items.push(Item::text(DVec2::new(x + 1.2, y + 2.7), *caption, 2.0, Anchor::Start));
            let high = fit(text, own - 2.4, 3.3);
            items.push(Item::text(DVec2::new(x + 1.2, y + deep - 1.8), text.clone(), high, Anchor::Start));
            x += own;
        }
    }
    items.extend(sign(head.projection, DVec2::new((right + high.x) / 2.0, top + BLOCK / 2.0 - 2.0)));
    let said = match head.projection {
        Projection::First => "first angle",
        Projection::Third => "third angle",
    };
    items.push(Item::text(DVec2::new((right + high.x) / 2.0, high.y - 2.4), said, 2.4, Anchor::Middle));
    items
}

/// The shop's mark and name; ours where it has neither.
fn shop(head: &Head, min: DVec2, max: DVec2) -> Vec<Item> {
    let name = |text: &str, most: f64| {
        let size = fit(text, max.x - min.x, most);
        Item::text(DVec2::new(min.x, max.y - 1.4), text, size, Anchor::Start)
    };
    let over = if head.shop.is_empty() { max } else { DVec2::new(max.x, max.y - 3.8) };
    let mark = match &head.mark {
        ShopMark::None => return vec![name(if head.shop.is_empty() { "Steelk" } else { &head.shop }, 3.6)],
        ShopMark::Picture(picture) => Item::Picture { min, max: over, picture: picture.clone() },
        ShopMark::Missing(file) => {
            let said = format!("mark not at hand: {file}");
            let size = fit(&said, max.x - min.x, 2.4);
            Item::text(DVec2::new(min.x, (min.y + over.y) / 2.0), said, size, Anchor::Start)
        }
    };
    let named = Some(&head.shop).filter(|s| !s.is_empty()).map(|s| name(s, 2.8));
    [mark].into_iter().chain(named).collect()
}

/// As large as it has room.
fn fit(text: &str, room: f64, most: f64) -> f64 {
    most.min(room / text_width(text, 1.0).max(1.0))
}

/// The sign of the projection (ISO 5456-2): a cone from the side, and as its small end is seen.
fn sign(projection: Projection, at: DVec2) -> Vec<Item> {
    let (small, large, long) = (1.9, 3.6, 6.0);
    let side = if projection == Projection::First { -1.0 } else { 1.0 };
    let cone = at + DVec2::new(side * 4.6, 0.0);
    let circles = at - DVec2::new(side * 4.6, 0.0);
    let round =
        |r: f64| Item::Shape { loops: vec![Contour::circle(circles, r, 0)], pen: Pen::Cut, filled: false };
    // Its small end lies on the left, in both.
    let (l, r) = (cone.x - long / 2.0, cone.x + long / 2.0);
    let corners = [(l, -small), (r, -large), (r, large), (l, small)].map(|(x, y)| DVec2::new(x, cone.y + y));
    let axis = |a: DVec2, b: DVec2| Item::line(a, b, Pen::Centre);
    vec![
        round(small),
        round(large),
        Item::Shape { loops: vec![Contour::polygon(corners, 0)], pen: Pen::Cut, filled: false },
        axis(DVec2::new(at.x - 9.4, at.y), DVec2::new(at.x + 9.4, at.y)),
        axis(circles - DVec2::new(0.0, large + 1.0), circles + DVec2::new(0.0, large + 1.0)),
    ]
}

//! Sizes from one datum, written at the end of a line from what they tell; where they would meet they are
//! moved apart along the side, their lines bent to them.

use glam::DVec2;
use ground::geom::Bounds;
use sheet::result::Margin;

use crate::hole_marks::text_width;
use crate::sizes::TOLD;
use crate::{Anchor, Item, Pen};

/// What is told: a place on paper, and the words.
#[derive(Clone, Debug)]
pub struct Ordinate {
    pub at: DVec2,
    pub text: String,
    pub side: Margin,
}

/// From text to text.
pub const PACE: f64 = TOLD * 1.2;
/// From the shape to where the lines begin to bend, and to the texts.
const BEND: f64 = 4.0;
pub const AWAY: f64 = 9.0;

/// Room that they need on a side.
pub fn depth(all: &[Ordinate], side: Margin) -> f64 {
    let own = all.iter().filter(|o| o.side == side).map(|o| text_width(&o.text, TOLD));
    own.reduce(f64::max).map_or(0.0, |w| AWAY + 2.0 + w)
}

/// Drawn outside the box; the texts read along their lines.
pub fn drawn(all: &[Ordinate], shape: Bounds) -> Vec<Item> {
    [Margin::South, Margin::North, Margin::West, Margin::East]
        .into_iter()
        .flat_map(|side| {
            let mut own: Vec<&Ordinate> = all.iter().filter(|o| o.side == side).collect();
            let k = usize::from(matches!(side, Margin::West | Margin::East));
            own.sort_by(|a, b| a.at[k].total_cmp(&b.at[k]));
            let places = apart(&own.iter().map(|o| o.at[k]).collect::<Vec<_>>());
            own.into_iter().zip(places).flat_map(|(o, to)| one(o, to, shape)).collect::<Vec<_>>()
        })
        .collect()
}

fn one(o: &Ordinate, to: f64, shape: Bounds) -> Vec<Item> {
    let (edge, out) = match o.side {
        Margin::South => (shape.max.y, DVec2::Y),
        Margin::North => (shape.min.y, DVec2::NEG_Y),
        Margin::West => (shape.min.x, DVec2::NEG_X),
        Margin::East => (shape.max.x, DVec2::X),
    };
    let upright = out.x == 0.0;
    let at = |along: f64, off: f64| {
        let base = edge + (out.x + out.y) * off;
        if upright { DVec2::new(along, base) } else { DVec2::new(base, along) }
    };
    let own = if upright { o.at.x } else { o.at.y };
    let (bend, knee, end) = (at(own, 2.0), at(to, BEND + 2.0), at(to, AWAY));
    let mut items = vec![Item::line(o.at + out * 0.8, bend, Pen::Hair)];
    items.push(Item::line(bend, knee, Pen::Hair));
    items.push(Item::line(knee, end, Pen::Hair));
    // Read from the right where they stand upright.
    let (anchor, turn) = match o.side {
        Margin::South => (Anchor::End, -90.0),
        Margin::North => (Anchor::Start, -90.0),
        Margin::West => (Anchor::End, 0.0),
        Margin::East => (Anchor::Start, 0.0),
    };
    let drop = if upright { DVec2::new(TOLD * 0.35, 0.0) } else { DVec2::new(0.0, TOLD * 0.35) };
    let foot = end + out * 0.8 + drop;
    items.push(Item::Text { at: foot, text: o.text.clone(), size: TOLD, anchor, turn, bold: false });
    items
}

/// Places in order, none nearer to the next than a text is high, each as near to its own as that lets it:
/// neighbours that meet are moved as one, about their middle.
fn apart(own: &[f64]) -> Vec<f64> {
    // Groups: how many, and the sum of where each would have the group begin.
    let mut groups: Vec<(usize, f64)> = Vec::new();
    for v in own {
        groups.push((1, *v));
        while let [.., a, b] = groups.as_slice() {
            let (start_a, start_b) = (a.1 / a.0 as f64, b.1 / b.0 as f64);
            if start_a + a.0 as f64 * PACE <= start_b {
                break;
            }
            let joined = (a.0 + b.0, a.1 + b.1 - b.0 as f64 * a.0 as f64 * PACE);
            groups.truncate(groups.len() - 2);
            groups.push(joined);
        }
    }
    groups.into_iter().flat_map(|(n, sum)| (0..n).map(move |k| sum / n as f64 + k as f64 * PACE)).collect()
}

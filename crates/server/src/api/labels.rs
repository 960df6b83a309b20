//! Where the labels of a view on the screen stand: by the engine that sets them on paper.

use actix_web::web::Json;
use glam::DVec2;
use serde::{Deserialize, Serialize};
use steelk_core::drawing::labels::{Label, Obstacles, place};
use steelk_core::geom::Bounds;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;

/// More labels or lines than this are no view that anybody reads.
const MOST: usize = 5_000;

/// A label of a view, in its pixels, y downwards.
#[derive(Deserialize, ToSchema)]
pub struct LabelAsk {
    /// What it speaks of.
    pub at: [f64; 2],
    pub wide: f64,
    pub high: f64,
    /// It keeps this far off what it speaks of.
    #[serde(default)]
    pub clear: f64,
    /// Heavier ones find their place first.
    #[serde(default)]
    pub weight: f64,
    /// Where it stood before, from what it speaks of.
    #[serde(default)]
    pub before: Option<[f64; 2]>,
}

#[derive(Deserialize, ToSchema)]
pub struct LabelsAsk {
    /// Width and height of the view.
    pub view: [f64; 2],
    pub labels: Vec<LabelAsk>,
    /// Least x and y, greatest x and y of what no label may cover.
    #[serde(default)]
    pub boxes: Vec<[f64; 4]>,
    /// From and to of lines that labels rather do not cover.
    #[serde(default)]
    pub lines: Vec<[f64; 4]>,
}

/// Where a label came to stand.
#[derive(Serialize, ToSchema)]
pub struct LabelPlace {
    /// Its middle, from what it speaks of.
    pub off: [f64; 2],
    /// From and to of its leader, from what it speaks of; none where they stand together.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub leader: Option<[f64; 4]>,
}

/// No screen is larger, and no label smaller, in pixels.
const WIDEST: f64 = 20_000.0;
const SMALLEST: f64 = 4.0;

/// Places of labels in a view: none lies on another, on a box, or outside. Null for one that has no room.
#[utoipa::path(post, path = "/api/labels", request_body = LabelsAsk, responses((status = 200,
    body = Vec<Option<LabelPlace>>), (status = 400, body = Problem), (status = 422, body = Problem)))]
pub async fn labels(body: Body) -> Result<Json<Vec<Option<LabelPlace>>>, Problem> {
    let ask: LabelsAsk = body.json()?;
    for (n, what) in [(ask.labels.len(), "labels"), (ask.lines.len(), "lines"), (ask.boxes.len(), "boxes")] {
        if n > MOST {
            let mend = format!("ask for {MOST} at most");
            return Err(Problem::new(422, format!("{n} {what} are asked for"), mend));
        }
    }
    let label = |l: &LabelAsk| Label {
        anchor: l.at.into(),
        size: DVec2::new(l.wide, l.high).clamp(DVec2::splat(SMALLEST), DVec2::splat(WIDEST)),
        clear: l.clear.clamp(0.0, WIDEST),
        weight: l.weight,
        before: l.before.map(DVec2::from),
    };
    let labels: Vec<Label> = ask.labels.iter().map(label).collect();
    let view =
        Bounds { min: DVec2::ZERO, max: DVec2::from(ask.view).clamp(DVec2::ZERO, DVec2::splat(WIDEST)) };
    // What lies outside the view is in nobody's way.
    let of_view = |&[a, b, c, d]: &[f64; 4]| {
        let (low, high) = (DVec2::new(a, b).max(view.min), DVec2::new(c, d).min(view.max));
        low.cmplt(high).all().then_some(Bounds { min: low, max: high })
    };
    let keep = Obstacles {
        boxes: ask.boxes.iter().filter_map(of_view).collect(),
        lines: ask.lines.iter().filter_map(|l| within(l, &view)).collect(),
    };
    let places = place(&labels, &keep, view, true).into_iter().zip(&labels).map(|(p, l)| {
        p.map(|p| LabelPlace {
            off: (p.at - l.anchor).to_array(),
            leader: p.leader.map(|[a, b]| {
                let (a, b) = (a - l.anchor, b - l.anchor);
                [a.x, a.y, b.x, b.y]
            }),
        })
    });
    Ok(Json(places.collect()))
}

/// The part of a line in the view.
fn within(&[a, b, c, d]: &[f64; 4], view: &Bounds) -> Option<[DVec2; 2]> {
    let (p, q) = (DVec2::new(a, b), DVec2::new(c, d));
    let way = q - p;
    let (mut from, mut to) = (0.0f64, 1.0f64);
    for k in 0..2 {
        if way[k].abs() < 1e-9 {
            if p[k] < view.min[k] || p[k] > view.max[k] {
                return None;
            }
            continue;
        }
        let (s, e) = ((view.min[k] - p[k]) / way[k], (view.max[k] - p[k]) / way[k]);
        from = from.max(s.min(e));
        to = to.min(s.max(e));
    }
    (from < to).then(|| [p + way * from, p + way * to])
}

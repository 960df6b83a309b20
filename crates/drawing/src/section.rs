//! A section through a bend, to scale: the sheet, its neutral line with the allowance, the sharps and tangent
//! lines.

use glam::DVec2;

use super::{Anchor, Drawing, Item, Pen, ToPaper};
use ground::geom::{Contour, Vertex};
use ground::quantity::trim_number;
use sheet::result::{BendMark, PieceResult};

/// Scales that a drawing is made at: enlarged or reduced by whole steps.
const SCALES: [f64; 13] = [50.0, 30.0, 20.0, 15.0, 10.0, 5.0, 3.0, 2.0, 1.0, 0.5, 0.2, 0.1, 0.05];

/// The section in a picture of `size` mm.
pub fn section(piece: &PieceResult, b: &BendMark, size: DVec2) -> Drawing {
    let (t, r, alpha) = (piece.thickness, b.radius, b.angle);
    let leg = (1.6 * (r + t)).max(4.0 * t);
    // Drawn bent upwards; a bend down is the same turned over.
    let end = |rho: f64| DVec2::new(rho * alpha.sin(), t + r - rho * alpha.cos());
    let ahead = DVec2::from_angle(alpha);
    let v = |p: DVec2, bulge: f64| Vertex { p, bulge, tag: 0 };
    let bulge = |a: f64| (a / 4.0).tan();
    // An arc of more than a half turn is drawn in two.
    let half = alpha / 2.0;
    let mid = |rho: f64| DVec2::new(rho * half.sin(), t + r - rho * half.cos());
    let mut body = vec![
        v(DVec2::new(-leg, 0.0), 0.0),
        v(DVec2::new(0.0, 0.0), bulge(half)),
        v(mid(r + t), bulge(half)),
        v(end(r + t), 0.0),
        v(end(r + t) + ahead * leg, 0.0),
    ];
    body.extend([
        v(end(r) + ahead * leg, 0.0),
        v(end(r), -bulge(half)),
        v(mid(r), -bulge(half)),
        v(DVec2::new(0.0, t), 0.0),
        v(DVec2::new(-leg, t), 0.0),
    ]);
    let body = Contour { vertices: body }.without_short_sides();
    let neutral = r + b.k * t;
    let steps = 48;
    let arc: Vec<DVec2> = (0..=steps)
        .map(|k| {
            let phi = alpha * f64::from(k) / f64::from(steps);
            DVec2::new(neutral * phi.sin(), t + r - neutral * phi.cos())
        })
        .collect();
    let mut bounds = body.bounds();
    let sharp = (alpha < 2.8).then(|| DVec2::new((r + t) * (alpha / 2.0).tan(), 0.0));
    if let Some(s) = sharp {
        bounds.add(s);
    }
    // Words on the left, the section on the right.
    let words = 52.0;
    let room = size - DVec2::new(words + 8.0, 16.0);
    let fit = (room.x / bounds.size().x).min(room.y / bounds.size().y);
    let scale = SCALES.into_iter().find(|s| *s <= fit).unwrap_or(fit);
    let up = DVec2::new(words, 8.0) + (room - bounds.size() * scale) / 2.0;
    let to = ToPaper { scale, shift: DVec2::new(up.x - bounds.min.x * scale, up.y + bounds.max.y * scale) };
    let mut items = vec![Item::Shape { loops: vec![to.contour(&body)], pen: Pen::Cut, filled: true }];
    items.extend(
        arc.windows(2).map(|w| {
            Item::line(to.point(w[0]), to.point(w[1]), if b.up { Pen::BendUp } else { Pen::BendDown })
        }),
    );
    // Tangent lines across the sheet, a little past it.
    for (p, dir) in [(DVec2::ZERO, DVec2::Y), (end(r + t), ahead.perp())] {
        items.push(Item::line(to.point(p - dir * t * 0.5), to.point(p + dir * t * 1.5), Pen::Faint));
    }
    if let Some(s) = sharp {
        items.push(Item::line(to.point(DVec2::ZERO), to.point(s), Pen::Faint));
        items.push(Item::line(to.point(s), to.point(end(r + t)), Pen::Faint));
    }
    let n = |v: f64| piece.display.fine(v);
    let ratio = if scale >= 1.0 {
        format!("{} : 1", trim_number(scale, 2))
    } else {
        format!("1 : {}", trim_number(1.0 / scale, 2))
    };
    items.push(
        Item::text(
            DVec2::new(8.0, 8.0),
            format!("{}  {} {}", b.label, if b.up { "up" } else { "down" }, b.angle_text),
            4.0,
            Anchor::Start,
        )
        .bold(),
    );
    items.push(Item::text(DVec2::new(size.x - 8.0, 8.0), ratio, 3.4, Anchor::End));
    let mut lines = vec![
        format!("thickness {}", n(t)),
        format!("inside R {}", n(r)),
        format!("neutral line R {}", n(neutral)),
        format!("K {:.3}", b.k),
        format!("allowance {}", n(b.allowance)),
    ];
    if b.rolled {
        lines.push("rolled".into());
    } else {
        lines.extend([
            format!("outside setback {}", n((b.deduction + b.allowance) / 2.0)),
            format!("deduction {}", n(b.deduction)),
        ]);
    }
    for (k, text) in lines.into_iter().enumerate() {
        items.push(Item::text(DVec2::new(8.0, 18.0 + 6.0 * k as f64), text, 3.4, Anchor::Start));
    }
    Drawing { size, title: format!("{} section through {}", piece.mark, b.label), items }
}

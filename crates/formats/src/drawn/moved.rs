//! A revised drawing beside the one before: which contours are the same, and what became of the others.

use glam::DVec2;
use steelk_core::geom::Contour;
use steelk_core::halt;

/// What became of a contour; places as in the contours that were compared.
#[derive(Clone, Debug, PartialEq)]
pub enum Change {
    /// As it was.
    Same {
        old: usize,
        new: usize,
    },
    /// The same size and form at another place.
    Moved {
        old: usize,
        new: usize,
        by: DVec2,
    },
    /// Another size or form, and perhaps another place.
    Reshaped {
        old: usize,
        new: usize,
        by: DVec2,
    },
    Gone {
        old: usize,
    },
    New {
        new: usize,
    },
}

/// Differences up to this are none, mm: splines are fitted within as much.
const ALIKE: f64 = 0.01;

/// What tells two forms apart wherever they lie, and where this one lies.
struct Form {
    middle: DVec2,
    size: DVec2,
    perimeter: f64,
    area: f64,
    lean: DVec2,
}

impl Form {
    fn of(c: &Contour) -> Form {
        let b = c.bounds();
        let lean = c.centroid() - b.min;
        Form { middle: b.centre(), size: b.size(), perimeter: c.perimeter(), area: c.area(), lean }
    }

    fn is_like(&self, o: &Form) -> bool {
        (self.size - o.size).abs().max_element() <= 2.0 * ALIKE
            && (self.perimeter - o.perimeter).abs() <= 2.0 * ALIKE
            && (self.area - o.area).abs() <= ALIKE * self.perimeter
            && self.lean.distance(o.lean) <= 2.0 * ALIKE
    }
}

/// Of each contour so many of the nearest are looked at.
const NEAREST: usize = 16;

/// Cuts of one part and of its revision, each in the part's own coordinates: first what lies where it lay,
/// then equal forms, nearest first, then what lies nearest of the rest within its own size.
pub fn changes(old: &[Contour], new: &[Contour]) -> Vec<Change> {
    let (olds, news): (Vec<Form>, Vec<Form>) =
        (old.iter().map(Form::of).collect(), new.iter().map(Form::of).collect());
    let mut of: Vec<Option<Change>> = vec![None; old.len()];
    let mut taken = vec![false; new.len()];
    for rank in 0..3 {
        let mut pairs: Vec<(f64, usize, usize)> = Vec::new();
        for (i, a) in olds.iter().enumerate().filter(|(i, _)| of[*i].is_none()) {
            halt::often();
            let fits = |b: &Form| {
                let away = a.middle.distance(b.middle);
                match rank {
                    0 => a.is_like(b) && away <= 2.0 * ALIKE,
                    1 => a.is_like(b),
                    _ => away <= a.size.max_element() + b.size.max_element(),
                }
            };
            let free = news.iter().enumerate().filter(|(j, b)| !taken[*j] && fits(b));
            let mut near: Vec<(f64, usize, usize)> =
                free.map(|(j, b)| (a.middle.distance(b.middle), i, j)).collect();
            near.sort_by(|p, q| p.0.total_cmp(&q.0));
            near.truncate(NEAREST);
            pairs.extend(near);
        }
        pairs.sort_by(|p, q| p.0.total_cmp(&q.0));
        for (_, old, new) in pairs {
            if of[old].is_none() && !taken[new] {
                taken[new] = true;
                let by = news[new].middle - olds[old].middle;
                of[old] = Some(match rank {
                    0 => Change::Same { old, new },
                    1 => Change::Moved { old, new, by },
                    _ => Change::Reshaped { old, new, by },
                });
            }
        }
    }
    let gone = of.into_iter().enumerate().map(|(old, c)| c.unwrap_or(Change::Gone { old }));
    gone.chain((0..new.len()).filter(|j| !taken[*j]).map(|new| Change::New { new })).collect()
}

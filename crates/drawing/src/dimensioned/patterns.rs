//! Places told together where they stand at equal steps: `12 at 15 east, 8 at 15 north`.

use glam::DVec2;

/// Places at equal steps, from the first one.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Field {
    pub at: DVec2,
    /// How many along x, and their step.
    pub across: (usize, f64),
    pub up: (usize, f64),
}

/// mm within which steps are equal.
const EQUAL: f64 = 1e-5;

/// Every place in one field.
pub fn fields(places: &[DVec2]) -> Vec<Field> {
    let mut left: Vec<DVec2> = places.to_vec();
    left.sort_by(|a, b| a.y.total_cmp(&b.y));
    let mut out: Vec<Field> = Vec::new();
    for row in left.chunk_by_mut(|a, b| b.y - a.y < EQUAL) {
        row.sort_by(|a, b| a.x.total_cmp(&b.x));
        for run in runs(row) {
            stack(&mut out, run);
        }
    }
    out
}

/// A row in runs of equal steps.
fn runs(row: &[DVec2]) -> Vec<Field> {
    let mut out = Vec::new();
    let mut k = 0;
    while k < row.len() {
        let step = row.get(k + 1).map_or(0.0, |p| p.x - row[k].x);
        let mut end = k + 1;
        while end < row.len() && (row[end].x - row[end - 1].x - step).abs() < EQUAL {
            end += 1;
        }
        let n = end - k;
        out.push(Field { at: row[k], across: (n, if n > 1 { step } else { 0.0 }), up: (1, 0.0) });
        k = end;
    }
    out
}

/// On the field that it goes on, or as one of its own.
fn stack(out: &mut Vec<Field>, run: Field) {
    let goes_on = |f: &Field| {
        let alike = f.across.0 == run.across.0
            && (f.across.1 - run.across.1).abs() < EQUAL
            && (f.at.x - run.at.x).abs() < EQUAL;
        let step = run.at.y - f.at.y - f.up.1 * (f.up.0 - 1) as f64;
        alike && (f.up.0 == 1 || (step - f.up.1).abs() < EQUAL)
    };
    // Staggered rows go on every second time: the last of each kind is looked at first.
    match out.iter().rposition(goes_on) {
        Some(k) => {
            let f = &mut out[k];
            if f.up.0 == 1 {
                f.up.1 = run.at.y - f.at.y;
            }
            f.up.0 += 1;
        }
        None => out.push(run),
    }
}

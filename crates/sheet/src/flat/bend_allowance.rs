//! What a bend takes of the flat by the school of its job, piece or own line; and by every school at once.

use super::strip::SheetStock;
use ground::reader::Reader;
use shop::bend::{K_POSSIBLE, Method, USUAL_K, allowance};
use shop::{Allowance, BendRule, School};

/// The allowance of a bend. `at` is the JSON pointer that `/bend_rule` stands below.
pub fn bend_by(
    reader: &mut Reader,
    at: &str,
    rule: &BendRule,
    stuff: &SheetStock,
    angle: f64,
    r: f64,
) -> Option<Allowance> {
    let mut made = by_school(reader, at, rule, stuff, angle, r)?;
    // A knife edge (DIN 6935 at no radius) still is a line that can be wrapped.
    made.length = made.length.max(1e-6);
    Some(made)
}

fn by_school(
    reader: &mut Reader,
    at: &str,
    rule: &BendRule,
    stuff: &SheetStock,
    angle: f64,
    r: f64,
) -> Option<Allowance> {
    let (m, t) = (stuff.material, stuff.t);
    match rule.school {
        School::Din6935 => Some(allowance(Method::Din6935, m, angle, r, t)),
        School::Handbook90 => Some(allowance(Method::Handbook90, m, angle, r, t)),
        School::KFactor => {
            let (k, given) = k_of(reader, &format!("{at}/bend_rule/k"), rule)?;
            Some(allowance(Method::KFactor(k, given), m, angle, r, t))
        }
        School::Table => stuff
            .book
            .look_up(m, t, r, angle)
            .map_err(|e| {
                reader.refuse(
                    &format!("{at}/bend_rule/school"),
                    "",
                    e,
                    "add a row to the bend table, or pick another school",
                )
            })
            .ok(),
        School::TestBend => stuff
            .book
            .by_test(&rule.test, m, t, r, angle)
            .map_err(|e| {
                reader.refuse(
                    &format!("{at}/bend_rule/test"),
                    &rule.test,
                    e,
                    "log a test bend, or pick another school",
                )
            })
            .ok(),
    }
}

/// Curves of r/t ≥ 5 are rolled, whatever the school.
pub fn arc_by(
    reader: &mut Reader,
    rule: &BendRule,
    stuff: &SheetStock,
    angle: f64,
    r: f64,
) -> Option<Allowance> {
    if r / stuff.t >= 5.0 {
        Some(allowance(Method::Rolled, stuff.material, angle, r, stuff.t))
    } else {
        bend_by(reader, "", rule, stuff, angle, r)
    }
}

/// K, and whether the shop gave it.
fn k_of(reader: &mut Reader, path: &str, rule: &BendRule) -> Option<(f64, bool)> {
    if rule.k.trim().is_empty() {
        return Some((USUAL_K, false));
    }
    let k = reader.number(path, &rule.k)?;
    if K_POSSIBLE.contains(&k) {
        return Some((k, true));
    }
    let message = format!("a K-factor of {k} cannot be: the neutral line of a bend lies in the sheet");
    reader.refuse(path, &rule.k, message, "write a K between 0 and 0.5");
    None
}

/// What one school says of a bend.
pub struct SchoolSays {
    pub school: School,
    pub said: Result<Allowance, String>,
}

/// Every school on one bend. The K is that of the rule where it gives one.
pub fn every_school(stuff: &SheetStock, k: Option<f64>, test: &str, angle: f64, r: f64) -> Vec<SchoolSays> {
    let (m, t) = (stuff.material, stuff.t);
    let says = |school| SchoolSays {
        school,
        said: match school {
            School::Din6935 => Ok(allowance(Method::Din6935, m, angle, r, t)),
            School::Handbook90 => Ok(allowance(Method::Handbook90, m, angle, r, t)),
            School::KFactor => {
                Ok(allowance(Method::KFactor(k.unwrap_or(USUAL_K), k.is_some()), m, angle, r, t))
            }
            School::Table => stuff.book.look_up(m, t, r, angle),
            School::TestBend => stuff.book.by_test(test, m, t, r, angle),
        },
    };
    School::ALL.into_iter().map(says).collect()
}

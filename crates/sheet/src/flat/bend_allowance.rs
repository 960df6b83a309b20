//! What a bend takes of the flat by the school of its job, piece or own line; and by every school at once.

use ground::geom::ROUNDING;
use ground::quantity::Fault;
use ground::reader::{Reader, Tell};
use shop::bend::{AllowanceRule, K_POSSIBLE, USUAL_K, allowance};
use shop::{Allowance, BendMethod, BendRule};

use super::stock::SheetStock;

/// A bend rule, read.
#[derive(Clone, Debug)]
pub struct Rule {
    pub school: BendMethod,
    /// The K that it tells; why it cannot be where it is not one. Only the K-factor school minds.
    k: Result<Option<f64>, Fault>,
    pub test: String,
    /// JSON pointer of it.
    at: String,
}

impl Rule {
    pub fn read(reader: &Reader, at: &str, told: &BendRule) -> Rule {
        let k = if told.k.trim().is_empty() {
            Ok(None)
        } else {
            reader.scope().number(&told.k).and_then(|k| possible(k, &told.k)).map(Some)
        };
        Rule { school: told.school, k, test: told.test.clone(), at: at.into() }
    }

    /// The K that it tells.
    pub fn k(&self) -> Option<f64> {
        self.k.clone().ok().flatten()
    }
}

fn possible(k: f64, text: &str) -> Result<f64, Fault> {
    if K_POSSIBLE.contains(&k) {
        return Ok(k);
    }
    let message = format!("a K-factor of {k} cannot be: the neutral line of a bend lies in the sheet");
    Err(Fault::new(message, "write a K between 0 and 0.5", (0, text.chars().count())))
}

/// The allowance of a bend.
pub fn bend_by(tell: &mut Tell, rule: &Rule, stock: &SheetStock, angle: f64, r: f64) -> Option<Allowance> {
    let mut made = by_school(tell, rule, stock, angle, r)?;
    // A knife edge (DIN 6935 at no radius) still is a line that can be wrapped.
    made.length = made.length.max(1e-6);
    Some(made)
}

fn by_school(tell: &mut Tell, rule: &Rule, stock: &SheetStock, angle: f64, r: f64) -> Option<Allowance> {
    let (m, t) = (stock.material, stock.t);
    match rule.school {
        BendMethod::Din6935 => Some(allowance(AllowanceRule::Din6935, m, angle, r, t)),
        BendMethod::Handbook90 => Some(allowance(AllowanceRule::Handbook90, m, angle, r, t)),
        BendMethod::KFactor => match &rule.k {
            Ok(k) => Some(by_k(stock, *k, angle, r)),
            Err(fault) => {
                tell.fault(&format!("{}/k", rule.at), fault.clone());
                None
            }
        },
        BendMethod::Table => stock
            .book
            .look_up(m, t, r, angle)
            .map_err(|e| {
                let mend = "add a row to the bend table, or pick another school";
                tell.refuse(&format!("{}/school", rule.at), "", e, mend)
            })
            .ok(),
        BendMethod::TestBend => stock
            .book
            .by_test(&rule.test, m, t, r, angle)
            .map_err(|e| {
                let mend = "log a test bend, or pick another school";
                tell.refuse(&format!("{}/test", rule.at), &rule.test, e, mend)
            })
            .ok(),
    }
}

/// By the K that the shop gave, or the usual one.
fn by_k(stock: &SheetStock, k: Option<f64>, angle: f64, r: f64) -> Allowance {
    allowance(AllowanceRule::KFactor(k.unwrap_or(USUAL_K), k.is_some()), stock.material, angle, r, stock.t)
}

/// Curves of r/t ≥ 5 are rolled, whatever the school.
pub fn arc_by(tell: &mut Tell, stock: &SheetStock, angle: f64, r: f64) -> Option<Allowance> {
    if r / stock.t >= 5.0 {
        Some(allowance(AllowanceRule::Rolled, stock.material, angle, r, stock.t))
    } else {
        bend_by(tell, stock.rule, stock, angle, r)
    }
}

/// What one school says of a bend.
pub struct SchoolSays {
    pub school: BendMethod,
    pub said: Result<Allowance, String>,
}

/// Every school on one bend of the piece. The K is that of its rule where it gives one.
pub fn every_school(stock: &SheetStock, angle: f64, r: f64) -> Vec<SchoolSays> {
    let (m, t) = (stock.material, stock.t);
    let says = |school| SchoolSays {
        school,
        said: match school {
            BendMethod::Din6935 => Ok(allowance(AllowanceRule::Din6935, m, angle, r, t)),
            BendMethod::Handbook90 => Ok(allowance(AllowanceRule::Handbook90, m, angle, r, t)),
            BendMethod::KFactor => Ok(by_k(stock, stock.rule.k(), angle, r)),
            BendMethod::Table => stock.book.look_up(m, t, r, angle),
            BendMethod::TestBend => stock.book.by_test(&stock.rule.test, m, t, r, angle),
        },
    };
    BendMethod::ALL.into_iter().map(says).collect()
}

/// Inside radius and allowance of a crease: it turns about the middle of the sheet, which keeps its length.
pub fn crease(t: f64) -> (f64, Allowance) {
    // No longer than a line, and yet one that can be wrapped.
    (-t / 2.0, Allowance { length: ROUNDING, k: 0.5, ..Allowance::default() })
}

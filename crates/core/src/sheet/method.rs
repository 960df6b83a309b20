//! What a bend takes of the flat by the school of its job, piece or own line; and by every school at once.

use super::reader::{Range, Reader};
use super::strip::Stuff;
use crate::job::{Job, Piece, TableKind};
use crate::quantity::FigureTable;
use crate::result::LineFault;
use crate::shopbook::bend::{Method, USUAL_K, allowance, setback};
use crate::shopbook::bend_book::{BendBook, Row, Test};
use crate::shopbook::{Allowance, BendRule, School, Shelf};

/// The rule a piece bends by: its own, or the job's.
pub fn rule_of<'a>(job: &'a Job, piece: &'a Piece) -> &'a BendRule {
    piece.bend_rule.as_ref().unwrap_or(&job.bend_rule)
}

/// The allowance of a bend. `at` is the JSON pointer that `/bend_rule` stands below.
pub fn bend_by(reader: &mut Reader, at: &str, rule: &BendRule, stuff: &Stuff, angle: f64, r: f64) -> Option<Allowance> {
    let mut made = by_school(reader, at, rule, stuff, angle, r)?;
    // A knife edge (DIN 6935 at no radius) still is a line that can be wrapped.
    made.length = made.length.max(1e-6);
    Some(made)
}

fn by_school(reader: &mut Reader, at: &str, rule: &BendRule, stuff: &Stuff, angle: f64, r: f64) -> Option<Allowance> {
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
            .map_err(|e| reader.refuse(&format!("{at}/bend_rule/school"), "", e, "add a row to the bend table, or pick another school"))
            .ok(),
        School::TestBend => stuff
            .book
            .by_test(&rule.test, m, t, r, angle)
            .map_err(|e| reader.refuse(&format!("{at}/bend_rule/test"), &rule.test, e, "log a test bend, or pick another school"))
            .ok(),
    }
}

/// Curves of r/t ≥ 5 are rolled, whatever the school.
pub fn arc_by(reader: &mut Reader, rule: &BendRule, stuff: &Stuff, angle: f64, r: f64) -> Option<Allowance> {
    if r / stuff.t >= 5.0 { Some(allowance(Method::Rolled, stuff.material, angle, r, stuff.t)) } else { bend_by(reader, "", rule, stuff, angle, r) }
}

/// K, and whether the shop gave it.
fn k_of(reader: &mut Reader, path: &str, rule: &BendRule) -> Option<(f64, bool)> {
    if rule.k.trim().is_empty() {
        return Some((USUAL_K, false));
    }
    let k = reader.number(path, &rule.k)?;
    if k > 0.0 && k <= 0.5 {
        return Some((k, true));
    }
    let message = format!("a K-factor of {k} cannot be: the neutral line lies between the inside face and the middle");
    reader.refuse(path, &rule.k, message, "write a K above 0, at most 0.5");
    None
}

/// What one school says of a bend.
pub struct SchoolSays {
    pub school: School,
    pub said: Result<Allowance, String>,
}

/// Every school on one bend. The K is that of the rule where it gives one.
pub fn every_school(stuff: &Stuff, k: Option<f64>, test: &str, angle: f64, r: f64) -> Vec<SchoolSays> {
    let (m, t) = (stuff.material, stuff.t);
    let says = |school| SchoolSays {
        school,
        said: match school {
            School::Din6935 => Ok(allowance(Method::Din6935, m, angle, r, t)),
            School::Handbook90 => Ok(allowance(Method::Handbook90, m, angle, r, t)),
            School::KFactor => Ok(allowance(Method::KFactor(k.unwrap_or(USUAL_K), k.is_some()), m, angle, r, t)),
            School::Table => stuff.book.look_up(m, t, r, angle),
            School::TestBend => stuff.book.by_test(test, m, t, r, angle),
        },
    };
    School::ALL.into_iter().map(says).collect()
}

/// The job's bend table and test bends, worked out; what cannot be read is told and left out.
pub fn bend_book(job: &Job, table: &FigureTable, shelf: &Shelf) -> (BendBook, Vec<LineFault>) {
    let mut reader = Reader::new(table, job.display);
    let mut out = BendBook::default();
    for (i, row) in job.bend_table.iter().enumerate().take(2_000) {
        let at = |f: &str| format!("/bend_table/{i}/{f}");
        let t = reader.length(&at("thickness"), &row.thickness, Range::AboveZero);
        let r = reader.length(&at("radius"), &row.radius, Range::ZeroUp);
        let angle = reader.bend_angle(&at("angle"), &row.angle, 180.0);
        let value = reader.length(&at("value"), &row.value, Range::Any);
        let (Some(t), Some(r), Some(angle), Some(value)) = (t, r, angle, value) else { continue };
        let allowance = if row.kind == TableKind::Allowance { value } else { 2.0 * setback(r + t, angle) - value };
        if allowance <= 0.0 {
            reader.refuse(&at("value"), &row.value, "this leaves the bend no length in the flat", "write a greater allowance, or a smaller deduction");
            continue;
        }
        out.rows.push(Row { material: row.material.clone(), t, r, angle, allowance });
    }
    for (i, test) in job.test_bends.iter().enumerate().take(500) {
        let at = |f: &str| format!("/test_bends/{i}/{f}");
        let t = reader.length(&at("thickness"), &test.thickness, Range::AboveZero);
        let r = reader.length(&at("radius"), &test.radius, Range::ZeroUp);
        let angle = reader.bend_angle(&at("angle"), &test.angle, 180.0);
        if shelf.material(&test.material).is_none() {
            reader.refuse(&at("material"), &test.material, format!("neither the shop book nor this job has a material '{}'", test.material), shelf.said());
            continue;
        }
        let mut deductions = Vec::new();
        for (k, strip) in test.strips.iter().enumerate().take(100) {
            let at = |f: &str| format!("/test_bends/{i}/strips/{k}/{f}");
            let l = reader.length(&at("length"), &strip.length, Range::AboveZero);
            let a = reader.length(&at("a"), &strip.a, Range::AboveZero);
            let b = reader.length(&at("b"), &strip.b, Range::AboveZero);
            if let (Some(l), Some(a), Some(b)) = (l, a, b) {
                deductions.push(a + b - l);
            }
        }
        let (Some(t), Some(r), Some(angle)) = (t, r, angle) else { continue };
        if deductions.is_empty() {
            reader.refuse(&at("strips"), "", "no strip of this test is measured yet", "write the length of the strip and both legs after bending");
            continue;
        }
        let made = Test { id: test.id.clone(), material: test.material.clone(), t, r, angle, deductions, said: test.note.clone() };
        let k = made.k();
        if !(-0.2..=0.8).contains(&k) {
            reader.refuse(
                &at("strips"),
                "",
                format!("the legs give K = {k:.3}, which no bend has"),
                "measure the legs from outside, and check the length of the strip",
            );
            continue;
        }
        out.tests.push(made);
    }
    (out, reader.faults)
}

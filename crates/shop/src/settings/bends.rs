//! The shop's bend table and test bends. What cannot be a bend is told and left out.

use ground::quantity::trim_number;
use ground::reader::{Range, Reader};
use ground::{said, word};

use crate::bend::{K_POSSIBLE, setback};
use crate::bend_book::{BendBook, Row, Test};
use crate::thickness::thickness;
use crate::{Material, Shelf};

word! {
    pub enum TableKind {
        #[default]
        Deduction,
        Allowance,
    }
}

said! {
    /// A row of the shop's bend table.
    pub struct TableRow {
        /// Id of a material; empty means any.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub material: String,
        pub thickness: String,
        /// Inside radius.
        pub radius: String,
        /// Angle swept.
        pub angle: String,
        #[serde(default)]
        pub kind: TableKind,
        pub value: String,
        /// The die it was made over, in words.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub die: String,
    }
}

said! {
    /// A strip of known length, bent once, its legs measured outside.
    pub struct TestStrip {
        pub length: String,
        pub a: String,
        pub b: String,
    }
}

said! {
    /// A test bend, repeated or not.
    pub struct TestBend {
        pub id: String,
        pub material: String,
        pub thickness: String,
        pub radius: String,
        pub angle: String,
        pub strips: Vec<TestStrip>,
        /// By how much the bend opens when it comes out of the tools: told, it is added to the angle to aim
        /// at.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub springback: String,
        /// Die, date, who.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub note: String,
    }
}

const MOST_ROWS: usize = 2_000;
const MOST_TESTS: usize = 500;
const MOST_STRIPS: usize = 100;

/// What can be used of both; faults of the rest.
pub fn read(
    reader: &mut Reader,
    bend_table: &[TableRow],
    test_bends: &[TestBend],
    shelf: &Shelf,
) -> BendBook {
    let mut out = BendBook::default();
    for (what, told, most) in
        [("bend_table", bend_table.len(), MOST_ROWS), ("test_bends", test_bends.len(), MOST_TESTS)]
    {
        if told > most {
            reader.refuse(
                &format!("/{what}"),
                "",
                format!("{told} are told; {most} are read"),
                "take some out",
            );
        }
    }
    for (i, told) in bend_table.iter().enumerate().take(MOST_ROWS) {
        let Some(row) = row(reader, i, told, shelf) else { continue };
        if let Some(other) = out.add(row) {
            let message = format!(
                "row {other} tells the same bend otherwise: neither is used, nor any of this material and \
                 thickness"
            );
            reader.refuse(
                &format!("/bend_table/{i}/value"),
                &told.value,
                message,
                format!("take out row {other} or this one"),
            );
        }
    }
    for (i, told) in test_bends.iter().enumerate().take(MOST_TESTS) {
        out.tests.extend(test(reader, i, told, shelf));
    }
    out
}

fn material<'a>(
    reader: &mut Reader,
    at: &str,
    id: &str,
    shelf: &'a Shelf,
) -> Option<std::borrow::Cow<'a, Material>> {
    let found = shelf.material(id).map(|m| std::borrow::Cow::Owned((*m).clone()));
    if found.is_none() {
        reader.refuse(
            at,
            id,
            format!("neither the shop book nor this job has a material '{id}'"),
            shelf.said(),
        );
    }
    found
}

/// What a value amounts to, where no bend has it: told with what it was taken for.
fn impossible(
    reader: &mut Reader,
    at: &str,
    text: &str,
    [t, r, angle]: [f64; 3],
    allowance: f64,
    taken: &str,
) -> bool {
    let k = (allowance / angle - r) / t;
    if K_POSSIBLE.contains(&k) {
        return false;
    }
    let n = |v: f64| trim_number(v, 3);
    let message = format!(
        "taken for {taken} at R{} in {}, bent {}°, this is K = {}: no bend has that",
        n(r),
        n(t),
        n(angle.to_degrees()),
        n(k)
    );
    reader.refuse(
        at,
        text,
        message,
        "check the unit, and whether it is a deduction or an allowance: K lies between −0.2 and 0.8",
    );
    true
}

fn row(reader: &mut Reader, i: usize, told: &TableRow, shelf: &Shelf) -> Option<Row> {
    let at = |f: &str| format!("/bend_table/{i}/{f}");
    let of = if told.material.trim().is_empty() {
        None
    } else {
        Some(material(reader, &at("material"), &told.material, shelf)?)
    };
    let t = thickness(reader, &at("thickness"), &told.thickness, of.as_deref()).map(|t| t.0);
    let r = reader.length(&at("radius"), &told.radius, Range::ZeroUp);
    let angle = reader.bend_angle(&at("angle"), &told.angle, 180.0);
    let value = reader.length(&at("value"), &told.value, Range::Any);
    let (t, r, angle, value) = (t?, r?, angle?, value?);
    let (allowance, what) = match told.kind {
        TableKind::Allowance => (value, "an allowance"),
        TableKind::Deduction => (2.0 * setback(r + t, angle) - value, "a deduction"),
    };
    let taken = format!("{what} of {}", reader.display.length_unit(value));
    if impossible(reader, &at("value"), &told.value, [t, r, angle], allowance, &taken) {
        return None;
    }
    Some(Row { material: told.material.trim().into(), t, r, angle, allowance, number: i + 1, against: None })
}

fn test(reader: &mut Reader, i: usize, told: &TestBend, shelf: &Shelf) -> Option<Test> {
    let at = |f: &str| format!("/test_bends/{i}/{f}");
    let of = material(reader, &at("material"), &told.material, shelf)?;
    let t = thickness(reader, &at("thickness"), &told.thickness, Some(&of)).map(|t| t.0);
    let r = reader.length(&at("radius"), &told.radius, Range::ZeroUp);
    let angle = reader.bend_angle(&at("angle"), &told.angle, 180.0);
    if told.strips.len() > MOST_STRIPS {
        reader.refuse(
            &at("strips"),
            "",
            format!("{} strips are told; {MOST_STRIPS} are read", told.strips.len()),
            "take some out",
        );
    }
    let mut deductions = Vec::new();
    for (k, strip) in told.strips.iter().enumerate().take(MOST_STRIPS) {
        let at = |f: &str| format!("/test_bends/{i}/strips/{k}/{f}");
        let l = reader.length(&at("length"), &strip.length, Range::AboveZero);
        let a = reader.length(&at("a"), &strip.a, Range::AboveZero);
        let b = reader.length(&at("b"), &strip.b, Range::AboveZero);
        if let (Some(l), Some(a), Some(b)) = (l, a, b) {
            deductions.push(a + b - l);
        }
    }
    let springback = match told.springback.trim() {
        "" => None,
        text => match reader.angle(&at("springback"), text) {
            Some(a) if (0.0..=30f64.to_radians()).contains(&a) => Some(a),
            Some(_) => {
                reader.refuse(
                    &at("springback"),
                    text,
                    "a bend opens by 0° to 30°",
                    "write by how much it opened, such as 1.5",
                );
                None
            }
            None => None,
        },
    };
    let (t, r, angle) = (t?, r?, angle?);
    if deductions.is_empty() {
        reader.refuse(
            &at("strips"),
            "",
            "no strip of this test is measured yet",
            "write the length of the strip and both legs after bending",
        );
        return None;
    }
    let made = Test {
        id: told.id.clone(),
        material: told.material.clone(),
        t,
        r,
        angle,
        deductions,
        springback,
        said: told.note.clone(),
    };
    let taken = format!("a mean deduction of {}", reader.display.length_unit(made.deduction()));
    (!impossible(reader, &at("strips"), "", [t, r, angle], made.allowance(), &taken)).then_some(made)
}

//! What the shop itself knows of its bends: a table of allowances, and test bends measured after bending.

use super::Material;
use super::bend::{Allowance, setback};
use ground::geom::COINCIDENT;

/// A row of the shop's bend table, at one angle.
#[derive(Clone, Debug, PartialEq)]
pub struct Row {
    /// Material id; empty means any.
    pub material: String,
    pub t: f64,
    pub r: f64,
    pub angle: f64,
    pub allowance: f64,
    /// Its place in the table, from 1.
    pub number: usize,
    /// Another row that tells the same bend otherwise.
    pub against: Option<usize>,
}

/// A test bend worked out: strips of known length bent, their legs measured outside.
#[derive(Clone, Debug, PartialEq)]
pub struct Test {
    pub id: String,
    pub material: String,
    pub t: f64,
    pub r: f64,
    pub angle: f64,
    /// One deduction a strip.
    pub deductions: Vec<f64>,
    /// By how much it opened out of the tools, rad; none where nobody measured it.
    pub springback: Option<f64>,
    pub said: String,
}

#[derive(Clone, Debug, Default, PartialEq)]
pub struct BendBook {
    pub rows: Vec<Row>,
    pub tests: Vec<Test>,
}

/// Thicknesses and radii nearer than this are one.
const SAME: f64 = 0.011;

impl Test {
    /// BD = A + B − L, averaged.
    pub fn deduction(&self) -> f64 {
        self.deductions.iter().sum::<f64>() / self.deductions.len().max(1) as f64
    }

    /// Standard deviation of the repeats (n − 1); none from a single strip.
    pub fn spread(&self) -> Option<f64> {
        let n = self.deductions.len();
        let mean = self.deduction();
        (n > 1).then(|| {
            (self.deductions.iter().map(|d| (d - mean).powi(2)).sum::<f64>() / (n - 1) as f64).sqrt()
        })
    }

    /// BA = 2·OSSB − BD.
    pub fn allowance(&self) -> f64 {
        2.0 * setback(self.r + self.t, self.angle) - self.deduction()
    }

    /// K = (BA/α − r)/t.
    pub fn k(&self) -> f64 {
        (self.allowance() / self.angle - self.r) / self.t
    }

    /// What the spread of the repeats amounts to in K.
    pub fn k_spread(&self) -> Option<f64> {
        self.spread().map(|s| s / (self.angle * self.t))
    }
}

fn n(v: f64) -> String {
    ground::quantity::trim_number(v, 4)
}

impl BendBook {
    /// A row is added; one that tells a bend otherwise than another makes both of no use. Returns the other.
    pub fn add(&mut self, mut row: Row) -> Option<usize> {
        let same = |o: &&mut Row| {
            o.material == row.material
                && (o.t - row.t).abs() < SAME
                && (o.r - row.r).abs() < 1e-4
                && (o.angle - row.angle).abs() < COINCIDENT
        };
        let other =
            self.rows.iter_mut().filter(same).find(|o| (o.allowance - row.allowance).abs() > COINCIDENT);
        if let Some(other) = other {
            other.against = Some(row.number);
            row.against = Some(other.number);
        }
        let against = row.against;
        self.rows.push(row);
        against
    }

    /// The test that tells how much this stuff opens out of the tools, and the share of its angle.
    pub fn springback(&self, id: &str, material: &Material, t: f64) -> Option<(&Test, f64)> {
        let fits = |x: &&Test| x.springback.is_some() && x.material == material.id && (x.t - t).abs() < SAME;
        let test = self
            .tests
            .iter()
            .filter(fits)
            .find(|x| x.id == id.trim())
            .or_else(|| self.tests.iter().rev().find(fits))?;
        Some((test, test.springback? / test.angle))
    }

    /// The test bend of this id, or the last one for the material and thickness.
    pub fn test(&self, id: &str, material: &Material, t: f64) -> Option<&Test> {
        match id.trim() {
            "" => self.tests.iter().rev().find(|x| x.material == material.id && (x.t - t).abs() < SAME),
            id => self.tests.iter().find(|x| x.id == id),
        }
    }

    /// The allowance that the table gives: interpolated between its radii and angles, refused outside them.
    pub fn look_up(&self, material: &Material, t: f64, r: f64, angle: f64) -> Result<Allowance, String> {
        let own: Vec<&Row> =
            self.rows.iter().filter(|w| w.material == material.id && (w.t - t).abs() < SAME).collect();
        let rows = if own.is_empty() {
            self.rows.iter().filter(|w| w.material.is_empty() && (w.t - t).abs() < SAME).collect()
        } else {
            own
        };
        if rows.is_empty() {
            return Err(format!("the bend table has no row for {} of this thickness", material.name));
        }
        if let Some((row, other)) = rows.iter().find_map(|w| Some((w.number, w.against?))) {
            return Err(format!(
                "rows {} and {} of the bend table tell the same bend differently",
                row.min(other),
                row.max(other)
            ));
        }
        let mut angles: Vec<f64> = rows.iter().map(|w| w.angle).collect();
        angles.sort_by(f64::total_cmp);
        angles.dedup_by(|a, b| (*a - *b).abs() < COINCIDENT);
        let at_angle = |a: f64| {
            let mut line: Vec<(f64, f64)> = rows
                .iter()
                .filter(|w| (w.angle - a).abs() < COINCIDENT)
                .map(|w| (w.r, w.allowance))
                .collect();
            line.sort_by(|p, q| p.0.total_cmp(&q.0));
            between(&line, r)
        };
        let line: Vec<(f64, f64)> = angles.iter().filter_map(|a| at_angle(*a).map(|v| (*a, v))).collect();
        let Some(length) = between(&line, angle) else {
            let far = |v: &dyn Fn(&Row) -> f64| {
                rows.iter()
                    .map(|w| v(w))
                    .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)))
            };
            let (radii, spread) = (far(&|w| w.r), far(&|w| w.angle.to_degrees()));
            return Err(format!(
                "the bend table speaks of radii {} to {} and angles {}° to {}° here; R{} at {}° lies outside",
                n(radii.0),
                n(radii.1),
                n(spread.0),
                n(spread.1),
                n(r),
                n(angle.to_degrees())
            ));
        };
        let exact = rows.iter().any(|w| (w.r - r).abs() < SAME && (w.angle - angle).abs() < 1e-4);
        Ok(Allowance {
            length,
            k: (length / angle - r) / t,
            rule: "Bend table of the shop".into(),
            source: "the shop's own table".into(),
            formula: if exact {
                "BA as the table has it".into()
            } else {
                "BA interpolated between the table's radii and angles".into()
            },
            filled: format!("t {}, r {}, α {}°: BA = {}", n(t), n(r), n(angle.to_degrees()), n(length)),
            assumption: None,
        })
    }

    /// The allowance by the K of a test bend.
    pub fn by_test(
        &self,
        id: &str,
        material: &Material,
        t: f64,
        r: f64,
        angle: f64,
    ) -> Result<Allowance, String> {
        let Some(test) = self.test(id, material, t) else {
            return Err(match id.trim() {
                "" => format!("no test bend is logged for {} of this thickness", material.name),
                id => format!("no test bend is called '{id}'"),
            });
        };
        let k = test.k();
        let length = angle * (r + k * t);
        let spread = test.k_spread().map_or("a single strip, no spread known".to_string(), |s| {
            format!("K ± {} over {} strips", n(s), test.deductions.len())
        });
        let same = test.material == material.id && (test.t - t).abs() < SAME;
        let near = (test.r - r).abs() < SAME && (test.angle - angle).abs() < 0.5f64.to_radians();
        let mut rests = Vec::new();
        if !same {
            rests.push("the test was made in another material or thickness".to_string());
        }
        if !near {
            rests.push(format!("the test was made at R{} and {}°", n(test.r), n(test.angle.to_degrees())));
        }
        if test.deductions.len() < 2 {
            rests.push("one strip only".into());
        }
        Ok(Allowance {
            length,
            k,
            rule: format!("K of test bend {}: {spread}", test.id),
            source: "measured legs of bent strips: BD = A + B − L, K = ((2·OSSB − BD)/α − r)/t".into(),
            formula: "BA = α·π/180·(r + K·t)".into(),
            filled: format!(
                "BD = {}, K = {}; {}·π/180·({} + {}·{}) = {}",
                n(test.deduction()),
                n(k),
                n(angle.to_degrees()),
                n(r),
                n(k),
                n(t),
                n(length)
            ),
            assumption: (!rests.is_empty()).then(|| rests.join("; ")),
        })
    }
}

/// Linear between neighbours; a single point only at itself.
fn between(line: &[(f64, f64)], x: f64) -> Option<f64> {
    if let Some(p) = line.iter().find(|p| (p.0 - x).abs() < 1e-4) {
        return Some(p.1);
    }
    line.windows(2)
        .find(|w| w[0].0 <= x && x <= w[1].0)
        .map(|w| w[0].1 + (w[1].1 - w[0].1) * (x - w[0].0) / (w[1].0 - w[0].0))
}

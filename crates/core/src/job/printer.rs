//! A printer by what it makes of the lines of a template: two caliper readings, kept by its name.

use drawing::{Printed, measured_line};
use ground::quantity::{Display, Fault, FigureTable, PieceNames, Scope};
use ground::said;

use super::Job;

said! {
    /// A printer, and what the two lines of a printed template measured on its paper.
    pub struct Printer {
        pub name: String,
        /// How long the lines were meant to be; empty for what a template prints: 100 mm, or 4 in.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub told: String,
        /// Along the short side of the paper.
        pub short: String,
        /// Along the long side.
        pub long: String,
    }
}

/// Further off than this is no printer's scale but a page fitted to the paper, or a slip of the caliper.
const FURTHEST: f64 = 0.1;

impl Printer {
    /// Its true scale; refused with the field that is wrong.
    pub fn scale(&self, figures: &FigureTable, display: &Display) -> Result<Printed, (&'static str, Fault)> {
        let names = PieceNames { table: figures, t: None, r: None };
        let scope = Scope { unit: display.length, names: &names };
        let told = match self.told.trim() {
            "" => measured_line(display.length).0,
            told => scope.length(told).map_err(|f| ("told", f))?,
        };
        let read = |field: &'static str, text: &str| {
            let of = scope.length(text).map_err(|f| (field, f))? / told;
            if (of - 1.0).abs() < FURTHEST {
                return Ok(of);
            }
            let message = format!("this is not within {} % of what it should be", FURTHEST * 100.0);
            Err((
                field,
                Fault::new(
                    message,
                    "measure the printed line again, printed at 100 %",
                    (0, text.chars().count()),
                ),
            ))
        };
        Ok(Printed {
            name: self.name.clone(),
            short: read("short", &self.short)?,
            long: read("long", &self.long)?,
        })
    }
}

impl Job {
    /// The printer of this name with its true scale; none where none is asked for.
    pub fn printer(&self, name: &str, figures: &FigureTable) -> Result<Option<Printed>, String> {
        if name.is_empty() {
            return Ok(None);
        }
        let found = self.printers.iter().find(|p| p.name == name);
        let printer = found.ok_or_else(|| format!("the job knows no printer '{name}'"))?;
        let scale = printer.scale(figures, &self.display);
        scale.map(Some).map_err(|(_, f)| format!("printer {name}: {}; {}", f.message, f.mend))
    }
}

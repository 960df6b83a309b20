//! Tables of lists: headings and rows, each cell a text or a number as it is printed.

use steelk_core::quantity::Printed;

/// What a cell holds. A number is kept as the list prints it, `1450.0`, `1 1/2`, `45°`, with its value.
#[derive(Clone, Debug, PartialEq)]
pub enum Cell {
    Text(String),
    Number(Printed),
}

impl Cell {
    pub fn text(t: impl Into<String>) -> Cell {
        Cell::Text(t.into())
    }

    pub fn number(n: &Printed) -> Cell {
        Cell::Number(n.clone())
    }

    pub fn count(n: usize) -> Cell {
        Cell::Number(Printed::count(n))
    }

    pub fn said(&self) -> &str {
        match self {
            Cell::Text(t) => t,
            Cell::Number(n) => n,
        }
    }
}

#[derive(Clone, Debug, Default, PartialEq)]
pub struct Table {
    pub names: Vec<String>,
    pub rows: Vec<Vec<Cell>>,
}

//! Tables of lists: headings and rows, each cell a text or a number as it is printed.

/// What a cell holds. A number is kept as the list prints it: `1450.0`, `1 1/2`, `45°`.
#[derive(Clone, Debug, PartialEq)]
pub enum Cell {
    Text(String),
    Number(String),
}

impl Cell {
    pub fn text(t: impl Into<String>) -> Cell {
        Cell::Text(t.into())
    }

    pub fn number(t: impl Into<String>) -> Cell {
        Cell::Number(t.into())
    }

    pub fn count(n: usize) -> Cell {
        Cell::Number(n.to_string())
    }

    pub fn said(&self) -> &str {
        match self {
            Cell::Text(t) | Cell::Number(t) => t,
        }
    }
}

#[derive(Clone, Debug, Default, PartialEq)]
pub struct Table {
    pub names: Vec<String>,
    pub rows: Vec<Vec<Cell>>,
}

/// How a number is shown in a spreadsheet.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Shown {
    Decimals(usize),
    /// Parts of an inch to this denominator.
    Fraction(u32),
    Degrees,
}

/// The value of a printed number, and how it was printed; none where it is none, such as `2 × 45°`.
pub fn value(text: &str) -> Option<(f64, Shown)> {
    let text = text.trim();
    if let Some(degrees) = text.strip_suffix('°') {
        return plain(degrees).map(|v| (v, Shown::Degrees));
    }
    if let Some(v) = plain(text) {
        return Some((v, Shown::Decimals(text.split_once('.').map_or(0, |(_, d)| d.len()))));
    }
    let (sign, text) = text.strip_prefix('-').map_or((1.0, text), |t| (-1.0, t));
    let (whole, part) = text.rsplit_once(' ').unwrap_or(("0", text));
    let (top, bottom) = part.split_once('/')?;
    let (whole, top, bottom): (u32, u32, u32) =
        (whole.parse().ok()?, top.parse().ok()?, bottom.parse().ok()?);
    (bottom > 0)
        .then(|| (sign * (f64::from(whole) + f64::from(top) / f64::from(bottom)), Shown::Fraction(bottom)))
}

/// Digits with a point at most: no exponents, no leading noughts that a part number may have.
fn plain(text: &str) -> Option<f64> {
    let digits = text.strip_prefix('-').unwrap_or(text);
    let well = !digits.is_empty()
        && digits.chars().all(|c| c.is_ascii_digit() || c == '.')
        && digits.chars().filter(|c| *c == '.').count() < 2;
    text.parse().ok().filter(|v: &f64| well && v.is_finite())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn printed_numbers_have_values() {
        for (text, v) in [
            ("1450.0", 1450.0),
            ("1 1/2", 1.5),
            ("-3/8", -0.375),
            ("45°", 45.0),
            ("0.0283", 0.0283),
            ("12", 12.0),
        ] {
            assert_eq!(value(text).map(|v| v.0), Some(v), "{text}");
        }
        for text in ["", "1E5", "inf", "2 × 45°", "PF-080", "16 ga (0.0598)", "1/0", "1.2.3", "square"] {
            assert_eq!(value(text), None, "{text}");
        }
    }
}

//! The shape of an explained figure: the rule, its source, the formula with the numbers in it, and where each
//! number comes from.

use serde::Serialize;

/// One number that goes into a figure.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Term {
    pub symbol: String,
    pub meaning: String,
    /// As printed, with its unit.
    pub value: String,
    /// The recipe line it comes from.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub line: Option<String>,
    /// The figure that explains it further.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub figure: Option<String>,
}

impl Term {
    pub fn plain(symbol: &str, meaning: &str, value: impl Into<String>) -> Self {
        Term { symbol: symbol.into(), meaning: meaning.into(), value: value.into(), ..Term::default() }
    }

    pub fn of_line(mut self, line: &str) -> Self {
        self.line = Some(line.into());
        self
    }

    pub fn of_figure(mut self, key: &str) -> Self {
        self.figure = Some(key.into());
        self
    }
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Working {
    pub rule: String,
    pub source: String,
    pub formula: String,
    /// The formula with the numbers in it, and the result.
    pub filled: String,
    pub terms: Vec<Term>,
    /// What this rests on that nobody has measured.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub assumption: Option<String>,
}

//! What is told of a piece or frame besides its geometry: figures with their workings, findings with their
//! mends, faults of its lines.

use serde::Serialize;

use crate::quantity::Fault;
use crate::working::Working;

/// A figure and how it came about.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FigureResult {
    /// Stable: `flat_length`, `mass`, `start-1.b.allowance`.
    pub key: String,
    pub label: String,
    pub value: f64,
    pub text: String,
    /// Whether it belongs to the short list under the views.
    pub main: bool,
    pub working: Working,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Severity {
    /// Cannot be made.
    Stop,
    /// Will probably go wrong.
    Warn,
    /// Worth knowing.
    Note,
}

/// One change to the piece, as in RFC 6902 (`add` and `replace` only).
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Patch {
    pub op: &'static str,
    /// JSON pointer into the piece.
    pub path: String,
    #[cfg_attr(feature = "utoipa", schema(value_type = Object))]
    pub value: serde_json::Value,
}

impl Patch {
    pub fn replace(path: String, value: impl Into<serde_json::Value>) -> Self {
        Patch { op: "replace", path, value: value.into() }
    }

    pub fn add(path: String, value: serde_json::Value) -> Self {
        Patch { op: "add", path, value }
    }
}

/// A way to put a finding right.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Mend {
    pub label: String,
    pub patch: Vec<Patch>,
}

/// Something that a check has to say about the piece.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Finding {
    /// Which check speaks: `hole_near_bend`.
    pub check: &'static str,
    pub severity: Severity,
    pub message: String,
    /// By how much, printed; empty where there is no measure.
    pub amount: String,
    pub rule: String,
    pub source: String,
    /// Names of the geometry concerned.
    pub names: Vec<String>,
    /// The recipe line to look at.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub line: Option<String>,
    /// Where on the flat.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub at: Option<[f64; 2]>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub mend: Option<Mend>,
}

/// A value of a line that cannot be carried out.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct LineFault {
    /// The line, or empty for the piece itself.
    pub line: String,
    /// JSON pointer inside the line (or piece) to the field.
    pub path: String,
    #[serde(flatten)]
    pub fault: Fault,
}

/// A finding in the making.
pub fn finding(
    check: &'static str,
    severity: Severity,
    message: String,
    rule: &str,
    source: &str,
) -> Finding {
    Finding {
        check,
        severity,
        message,
        amount: String::new(),
        rule: rule.into(),
        source: source.into(),
        names: Vec::new(),
        line: None,
        at: None,
        mend: None,
    }
}

impl Finding {
    pub fn by(mut self, amount: String) -> Self {
        self.amount = amount;
        self
    }

    pub fn on(mut self, names: Vec<String>, line: Option<&str>, at: Option<[f64; 2]>) -> Self {
        self.names = names;
        self.line = line.map(str::to_string);
        self.at = at;
        self
    }

    pub fn with(mut self, mend: Option<Mend>) -> Self {
        self.mend = mend;
        self
    }
}

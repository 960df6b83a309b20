//! Sheet gauges. The number alone is ambiguous: 16 gauge is 1.519 mm of carbon steel, 1.588 of stainless and
//! 1.291 of aluminium.

use std::sync::OnceLock;

use serde::Serialize;

use ground::working::{Term, Working};

#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Series {
    /// Manufacturers' standard gauge for steel sheet.
    Manufacturers,
    /// The same with the zinc on.
    Galvanised,
    /// United States standard gauge, as stainless sheet is sold.
    Stainless,
    /// Brown & Sharpe (American wire) gauge, for aluminium, brass and copper.
    BrownSharpe,
}

impl Series {
    pub fn said(self) -> &'static str {
        match self {
            Series::Manufacturers => "manufacturers' standard gauge for steel",
            Series::Galvanised => "galvanised sheet gauge",
            Series::Stainless => "United States standard gauge (stainless)",
            Series::BrownSharpe => "Brown & Sharpe gauge",
        }
    }

    fn source(self) -> &'static str {
        match self {
            Series::Manufacturers => "Manufacturers' Standard Gauge: sheet weight over 41.82 lb/ft² per inch",
            Series::Galvanised => "Manufacturers' Standard Gauge plus 0.0037 in of zinc (common practice)",
            Series::Stainless => {
                "United States Standard Gauge (Act of 1893): sheet weight over 40 lb/ft² per inch"
            }
            Series::BrownSharpe => "ASTM B258: 0.005 in × 92^((36 − n)/39)",
        }
    }
}

fn weights() -> &'static [(u32, f64)] {
    static TABLE: OnceLock<Vec<(u32, f64)>> = OnceLock::new();
    TABLE.get_or_init(|| {
        let read = |line: &str| {
            let (n, w) = line.split_once(',')?;
            Some((n.parse().ok()?, w.parse().ok()?))
        };
        include_str!("../data/gauges.csv").lines().skip(1).filter_map(read).collect()
    })
}

/// Thickness in mm of gauge `n`; `None` where the series does not have it.
pub fn thickness(series: Series, n: u32) -> Option<f64> {
    let weight = || weights().iter().find(|w| w.0 == n).map(|w| w.1);
    let inches = match series {
        Series::Manufacturers => weight()? / 41.82,
        Series::Galvanised => (8..=30).contains(&n).then(weight)?? / 41.82 + 0.0037,
        Series::Stainless => weight()? / 40.0,
        Series::BrownSharpe => {
            (1..=36).contains(&n).then(|| 0.005 * 92f64.powf((36.0 - f64::from(n)) / 39.0))?
        }
    };
    Some(inches * 25.4)
}

/// Every gauge of a series with its thickness in mm.
pub fn table(series: Series) -> Vec<(u32, f64)> {
    (1..=36).filter_map(|n| Some((n, thickness(series, n)?))).collect()
}

/// How a thickness comes from its gauge number.
pub fn working(series: Series, n: u32, mm: f64) -> Working {
    Working {
        rule: format!("{n} gauge in the {}", series.said()),
        source: series.source().into(),
        formula: "t from the gauge number".into(),
        filled: format!("{n} ga = {:.4} in × 25.4 = {mm:.3} mm", mm / 25.4),
        terms: vec![Term::plain("n", "gauge number", n.to_string())],
        assumption: None,
    }
}

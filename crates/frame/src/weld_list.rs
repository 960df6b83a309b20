//! Welds as a list tells them: those of copies with their originals, in one row with how often.

use std::collections::HashMap;

use serde::Serialize;

use super::{FrameResult, Weld};
use crate::choices::WeldKind;
use ground::quantity::{Display, Printed};

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct WeldRow {
    /// The node, or the plate.
    pub at: String,
    /// `brace-1 – post-1`.
    pub between: String,
    pub kind: WeldKind,
    /// Leg of a fillet, wall of a butt weld.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub size: Printed,
    /// Smallest leg that the rule allows; empty for a butt weld.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub least: Printed,
    /// Of one.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub length: Printed,
    /// In all frames.
    pub count: usize,
    /// Metal of all of them.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub metal: Printed,
    /// Members and plates that it joins, copies with them.
    pub names: Vec<String>,
}

/// Rows in the order that their first welds were made.
pub fn weld_rows(r: &FrameResult, d: &Display) -> Vec<WeldRow> {
    let member: HashMap<&str, usize> =
        r.members.iter().enumerate().map(|(i, m)| (m.name.as_str(), i)).collect();
    let node: HashMap<&str, usize> = r.nodes.iter().enumerate().map(|(i, n)| (n.name.as_str(), i)).collect();
    let first_name = |name: &str| {
        member.get(name).map_or(name, |&i| r.members[r.members[i].root].name.as_str()).to_string()
    };
    let first_node =
        |name: &str| node.get(name).map_or(name, |&i| r.nodes[r.nodes[i].root].name.as_str()).to_string();
    let mut rows: Vec<(Weld, usize, Vec<String>)> = Vec::new();
    let mut known: HashMap<(String, [String; 2], u8, i64, i64), usize> = HashMap::new();
    for w in &r.welds {
        let mut between = w.between.clone().map(|n| first_name(&n));
        between.sort();
        let cell = |v: f64| (v * 10.0).round() as i64;
        let key = (first_node(&w.at), between, w.kind as u8, cell(w.size), cell(w.length));
        let i = *known.entry(key).or_insert_with(|| {
            rows.push((w.clone(), 0, Vec::new()));
            rows.len() - 1
        });
        rows[i].1 += w.count;
        rows[i].2.extend(w.between.iter().filter(|n| !n.is_empty()).cloned());
    }
    let told = |(w, count, names): (Weld, usize, Vec<String>)| WeldRow {
        at: w.at.clone(),
        between: w.between.iter().filter(|n| !n.is_empty()).cloned().collect::<Vec<_>>().join(" – "),
        kind: w.kind,
        size: d.length_number(w.size),
        least: if w.kind == WeldKind::Fillet { d.length_number(w.least) } else { Printed::default() },
        length: d.length_number(w.length),
        count: count * r.quantity,
        metal: d.mass_number(w.mass * (count * r.quantity) as f64),
        names,
    };
    rows.into_iter().map(told).collect()
}

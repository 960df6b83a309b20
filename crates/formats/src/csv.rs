//! The cut list as comma-separated values.

use steelk_core::cutlist::CutList;

pub fn cut_list(list: &CutList) -> Result<Vec<u8>, csv::Error> {
    let (l, m) = (&list.length_unit, &list.mass_unit);
    let mut w = csv::Writer::from_writer(Vec::new());
    w.write_record([
        "mark",
        "name",
        "quantity",
        "material",
        &format!("thickness [{l}]"),
        &format!("flat length [{l}]"),
        &format!("flat width [{l}]"),
        "bends",
        "rolls",
        &format!("unit mass [{m}]"),
        &format!("total mass [{m}]"),
        &format!("cut length [{l}]"),
        "stops",
    ])?;
    for r in &list.rows {
        w.write_record([
            guard(&r.mark),
            guard(&r.name),
            r.quantity.to_string(),
            r.material.clone(),
            r.thickness.clone(),
            r.flat_length.clone(),
            r.flat_width.clone(),
            r.bends.to_string(),
            r.rolls.to_string(),
            r.unit_mass.clone(),
            r.total_mass.clone(),
            r.cut_length.clone(),
            r.stops.to_string(),
        ])?;
    }
    w.into_inner().map_err(|e| e.into_error().into())
}

/// A spreadsheet must not take a name for a formula.
fn guard(text: &str) -> String {
    if text.starts_with(['=', '+', '-', '@', '\t', '\r']) { format!("'{text}") } else { text.to_string() }
}

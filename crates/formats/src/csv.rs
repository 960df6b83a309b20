//! Cut lists as tables and as comma-separated values.

use steelk_core::cutlist::CutList;
use steelk_core::frame::Lie;
use steelk_core::job::WeldKind;

/// Headings and rows.
pub type Table = (Vec<String>, Vec<Vec<String>>);

/// Sheet pieces of the bench.
pub fn sheet_table(list: &CutList) -> Table {
    let (l, m) = (&list.length_unit, &list.mass_unit);
    let names = vec![
        "mark".into(),
        "name".into(),
        "quantity".into(),
        "material".into(),
        format!("thickness [{l}]"),
        format!("flat length [{l}]"),
        format!("flat width [{l}]"),
        "bends".into(),
        "rolls".into(),
        format!("unit mass [{m}]"),
        format!("total mass [{m}]"),
        format!("cut length [{l}]"),
        "stops".into(),
    ];
    let rows = list.rows.iter().map(|r| {
        vec![
            r.mark.clone(),
            r.name.clone(),
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
        ]
    });
    (names, rows.collect())
}

/// Own columns of all frames, each heading once.
fn own_columns(list: &CutList) -> Vec<String> {
    let mut out: Vec<String> = Vec::new();
    for c in list.frames.iter().flat_map(|f| &f.columns) {
        if !out.contains(c) {
            out.push(c.clone());
        }
    }
    out
}

fn own_cells(own: &[String], columns: &[String], cells: &[String]) -> Vec<String> {
    own.iter().map(|name| columns.iter().position(|c| c == name).and_then(|i| cells.get(i)).cloned().unwrap_or_default()).collect()
}

/// Members of frames: the list for the saw.
pub fn bar_table(list: &CutList) -> Table {
    let (l, m) = (&list.length_unit, &list.mass_unit);
    let mut names: Vec<String> = vec![
        "mark".into(),
        "name".into(),
        "quantity".into(),
        "frame".into(),
        "section".into(),
        "material".into(),
        format!("length, tip to tip [{l}]"),
        format!("longest edge [{l}]"),
        format!("centreline [{l}]"),
        format!("shortest edge [{l}]"),
        format!("bends, from the start [{l}]"),
        "start cut, off square".into(),
        "end cut, off square".into(),
        "start cut, exact".into(),
        "end cut, exact".into(),
        "ends lie".into(),
        "holes".into(),
        format!("drilled, from the start's long point [{l}]"),
        format!("unit mass [{m}]"),
        format!("total mass [{m}]"),
        "surface, each".into(),
    ];
    let own = own_columns(list);
    names.extend(own.iter().cloned());
    let mut rows = Vec::new();
    for f in &list.frames {
        for r in &f.bars {
            let lie = match r.lie {
                Lie::Plain => String::new(),
                Lie::Same => "same way".into(),
                Lie::Opposite => "opposite".into(),
                Lie::Turned => r.turned.clone(),
            };
            let mut row = vec![
                r.mark.clone(),
                r.name.clone(),
                r.quantity.to_string(),
                f.mark.clone(),
                r.section.clone(),
                r.material.clone(),
                r.length.clone(),
                if r.edge.is_empty() { r.length.clone() } else { r.edge.clone() },
                r.centre.clone(),
                r.short.clone(),
                r.bends.clone(),
                r.cuts[0].text.clone(),
                r.cuts[1].text.clone(),
                r.cuts[0].exact.clone(),
                r.cuts[1].exact.clone(),
                lie,
                r.holes.to_string(),
                r.drilled.join("; "),
                r.unit_mass.clone(),
                r.total_mass.clone(),
                r.surface.clone(),
            ];
            row.extend(own_cells(&own, &f.columns, &r.cells));
            rows.push(row);
        }
    }
    (names, rows)
}

/// Plates of frames.
pub fn plate_table(list: &CutList) -> Table {
    let (l, m) = (&list.length_unit, &list.mass_unit);
    let mut names: Vec<String> = vec![
        "mark".into(),
        "name".into(),
        "quantity".into(),
        "frame".into(),
        "material".into(),
        "from".into(),
        format!("thickness [{l}]"),
        format!("size [{l}]"),
        format!("unit mass [{m}]"),
        format!("total mass [{m}]"),
    ];
    let own = own_columns(list);
    names.extend(own.iter().cloned());
    let mut rows = Vec::new();
    for f in &list.frames {
        for r in &f.plates {
            let mut row = vec![
                r.mark.clone(),
                r.name.clone(),
                r.quantity.to_string(),
                f.mark.clone(),
                r.material.clone(),
                r.stock.clone(),
                r.thickness.clone(),
                r.size.clone(),
                r.unit_mass.clone(),
                r.total_mass.clone(),
            ];
            row.extend(own_cells(&own, &f.columns, &r.cells));
            rows.push(row);
        }
    }
    (names, rows)
}

/// Welds of frames, joint by joint.
pub fn weld_table(list: &CutList) -> Table {
    let (l, m) = (&list.length_unit, &list.mass_unit);
    let names = ["frame".to_string(), "at".into(), "between".into(), "kind".into(), format!("size [{l}]"), format!("at least [{l}]")];
    let names = names.into_iter().chain([format!("length, each [{l}]"), "times".into(), format!("metal, all [{m}]")]).collect();
    let mut rows = Vec::new();
    for f in &list.frames {
        for w in &f.welds {
            let kind = if w.kind == WeldKind::Butt { "butt" } else { "fillet" };
            let count = w.count.to_string();
            rows.push([&f.mark, &w.at, &w.between, kind, &w.size, &w.least, &w.length, &count, &w.metal].map(str::to_string).to_vec());
        }
    }
    (names, rows)
}

fn written((names, rows): Table) -> Result<Vec<u8>, csv::Error> {
    let mut w = csv::Writer::from_writer(Vec::new());
    w.write_record(names.iter().map(|n| guard(n)))?;
    for row in rows {
        w.write_record(row.iter().map(|c| guard(c)))?;
    }
    w.into_inner().map_err(|e| e.into_error().into())
}

/// Sheet pieces.
pub fn cut_list(list: &CutList) -> Result<Vec<u8>, csv::Error> {
    written(sheet_table(list))
}

/// Members of frames.
pub fn saw_list(list: &CutList) -> Result<Vec<u8>, csv::Error> {
    written(bar_table(list))
}

/// Plates of frames.
pub fn plate_list(list: &CutList) -> Result<Vec<u8>, csv::Error> {
    written(plate_table(list))
}

/// A spreadsheet must not take a name for a formula.
pub fn guard(text: &str) -> String {
    if text.starts_with(['=', '+', '-', '@', '\t', '\r']) { format!("'{text}") } else { text.to_string() }
}

//! Cut lists as tables and as comma-separated values.

use steelk_core::evaluate::CutList;

use steelk_core::quantity::Shown;

use crate::table::{Cell, Table};

/// Sheet pieces of the bench: enough to buy and cut by.
pub fn sheet_table(list: &CutList) -> Table {
    let (l, m) = (&list.length_unit, &list.mass_unit);
    let names = vec![
        "mark".into(),
        "name".into(),
        "quantity".into(),
        "material".into(),
        format!("thickness [{l}]"),
        format!("blank [{l}]"),
        format!("flat length [{l}]"),
        format!("flat width [{l}]"),
        "area, one face".into(),
        format!("inside radius [{l}]"),
        "rolled".into(),
        "hand".into(),
        "finish".into(),
        "assembly".into(),
        "bends".into(),
        "rolls".into(),
        format!("unit mass [{m}]"),
        format!("total mass [{m}]"),
        format!("cut length [{l}]"),
        "stops".into(),
    ];
    let row = |r: &steelk_core::evaluate::CutRow| {
        vec![
            Cell::text(&r.mark),
            Cell::text(&r.name),
            Cell::count(r.quantity),
            Cell::text(&r.material),
            Cell::number(&r.thickness),
            Cell::text(&r.blank),
            Cell::number(&r.flat_length),
            Cell::number(&r.flat_width),
            Cell::text(&r.area),
            Cell::number(&r.radius),
            Cell::text(&r.rolling),
            Cell::text(&r.hand),
            Cell::text(&r.finish),
            Cell::text(&r.assembly),
            Cell::count(r.bends),
            Cell::count(r.rolls),
            Cell::number(&r.unit_mass),
            Cell::number(&r.total_mass),
            Cell::number(&r.cut_length),
            Cell::count(r.stops),
        ]
    };
    Table { names, rows: list.rows.iter().map(row).collect() }
}

/// Sheet and plate to be bought, by material and thickness.
pub fn sheet_totals(list: &CutList) -> Table {
    let names = vec![
        "material".into(),
        format!("thickness [{}]", list.length_unit),
        "pieces".into(),
        "area of the pieces".into(),
        "area of their blanks".into(),
        format!("mass [{}]", list.mass_unit),
    ];
    let row = |t: &steelk_core::evaluate::SheetTotal| {
        vec![
            Cell::text(&t.material),
            Cell::number(&t.thickness),
            Cell::count(t.pieces),
            Cell::text(&t.area),
            Cell::text(&t.blanks),
            Cell::number(&t.mass),
        ]
    };
    Table { names, rows: list.sheets.iter().map(row).collect() }
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

/// What a shop writes in its own columns is text, whatever it looks like.
fn own_cells(own: &[String], columns: &[String], cells: &[String]) -> Vec<Cell> {
    own.iter()
        .map(|name| {
            Cell::text(
                columns
                    .iter()
                    .position(|c| c == name)
                    .and_then(|i| cells.get(i))
                    .cloned()
                    .unwrap_or_default(),
            )
        })
        .collect()
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
            let mut row = vec![
                Cell::text(&r.mark),
                Cell::text(&r.name),
                Cell::count(r.quantity),
                Cell::text(&f.mark),
                Cell::text(&r.section),
                Cell::text(&r.material),
                Cell::number(&r.length),
                Cell::number(if r.edge.is_empty() { &r.length } else { &r.edge }),
                Cell::number(&r.centre),
                Cell::number(&r.short),
                Cell::text(&r.bends),
                Cell::number(&r.cuts[0].text),
                Cell::number(&r.cuts[1].text),
                Cell::number(&r.cuts[0].exact),
                Cell::number(&r.cuts[1].exact),
                Cell::text(&r.ends),
                Cell::count(r.holes),
                Cell::text(r.drilled.join("; ")),
                Cell::number(&r.unit_mass),
                Cell::number(&r.total_mass),
                Cell::text(&r.surface),
            ];
            row.extend(own_cells(&own, &f.columns, &r.cells));
            rows.push(row);
        }
    }
    Table { names, rows }
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
                Cell::text(&r.mark),
                Cell::text(&r.name),
                Cell::count(r.quantity),
                Cell::text(&f.mark),
                Cell::text(&r.material),
                Cell::text(&r.stock),
                Cell::number(&r.thickness),
                Cell::text(&r.size),
                Cell::number(&r.unit_mass),
                Cell::number(&r.total_mass),
            ];
            row.extend(own_cells(&own, &f.columns, &r.cells));
            rows.push(row);
        }
    }
    Table { names, rows }
}

/// Welds of frames, joint by joint.
pub fn weld_table(list: &CutList) -> Table {
    let (l, m) = (&list.length_unit, &list.mass_unit);
    let names = [
        "frame".to_string(),
        "at".into(),
        "between".into(),
        "kind".into(),
        format!("size [{l}]"),
        format!("at least [{l}]"),
    ];
    let names = names
        .into_iter()
        .chain([format!("length, each [{l}]"), "times".into(), format!("metal, all [{m}]")])
        .collect();
    let mut rows = Vec::new();
    for f in &list.frames {
        for w in &f.welds {
            let said = [&f.mark, &w.at, &w.between, w.kind.said()].map(Cell::text);
            let sizes = [&w.size, &w.least, &w.length].map(Cell::number);
            rows.push(
                said.into_iter().chain(sizes).chain([Cell::count(w.count), Cell::number(&w.metal)]).collect(),
            );
        }
    }
    Table { names, rows }
}

/// What job a list is of.
pub fn facts(list: &CutList) -> Vec<(&'static str, &str)> {
    let all =
        [("job", &list.number), ("title", &list.title), ("revision", &list.revision), ("date", &list.date)];
    all.into_iter().filter(|f| !f.1.is_empty()).map(|(name, text)| (name, text.as_str())).collect()
}

/// Common spreadsheets read a file as UTF-8 only when it says so.
const MARK: &[u8] = "\u{feff}".as_bytes();

/// The tables under one another with a line between, then what job they are of. Rows are as long as their own
/// heading.
fn written(list: &CutList, tables: &[Table]) -> Result<Vec<u8>, csv::Error> {
    let mut w = begun();
    rows(&mut w, tables)?;
    let told = facts(list);
    if !told.is_empty() {
        w.write_record([""])?;
    }
    for (name, text) in told {
        w.write_record([name, guard(text).as_str()])?;
    }
    w.into_inner().map_err(|e| e.into_error().into())
}

/// One table, and nothing beside it.
pub fn table(t: &Table) -> Result<Vec<u8>, csv::Error> {
    let mut w = begun();
    rows(&mut w, std::slice::from_ref(t))?;
    w.into_inner().map_err(|e| e.into_error().into())
}

fn begun() -> csv::Writer<Vec<u8>> {
    csv::WriterBuilder::new().flexible(true).from_writer(MARK.to_vec())
}

fn rows(w: &mut csv::Writer<Vec<u8>>, tables: &[Table]) -> Result<(), csv::Error> {
    for (i, t) in tables.iter().enumerate() {
        if i > 0 {
            w.write_record([""])?;
        }
        w.write_record(t.names.iter().map(|n| guard(n)))?;
        for row in &t.rows {
            w.write_record(row.iter().map(cell))?;
        }
    }
    Ok(())
}

/// A cell as a spreadsheet reads it right: `1/16` would become a day in January, `0 1/16` stays a sixteenth.
fn cell(c: &Cell) -> String {
    match c {
        Cell::Text(t) => guard(t),
        Cell::Number(n) => match n.number() {
            Some((v, Shown::Fraction(_))) if v.abs() < 1.0 => {
                n.strip_prefix('-').map_or(format!("0 {n}"), |part| format!("-0 {part}"))
            }
            Some(_) => n.to_string(),
            None => guard(n),
        },
    }
}

/// All that is cut for the job: sheet pieces, members and plates of frames, and what sheet is to be bought.
pub fn cut_list(list: &CutList) -> Result<Vec<u8>, csv::Error> {
    let all = [sheet_table(list), bar_table(list), plate_table(list), sheet_totals(list)];
    let mut told: Vec<Table> = all.into_iter().filter(|t| !t.rows.is_empty()).collect();
    if told.is_empty() {
        told.push(sheet_table(list));
    }
    written(list, &told)
}

/// Members of frames.
pub fn saw_list(list: &CutList) -> Result<Vec<u8>, csv::Error> {
    written(list, &[bar_table(list)])
}

/// Plates of frames.
pub fn plate_list(list: &CutList) -> Result<Vec<u8>, csv::Error> {
    written(list, &[plate_table(list)])
}

/// A spreadsheet must not take a name for a formula.
pub fn guard(text: &str) -> String {
    if text.starts_with(['=', '+', '-', '@', '\t', '\r']) { format!("'{text}") } else { text.to_string() }
}

//! The cut list as a spreadsheet: a sheet each for bars, plates, sheet pieces and totals. Numbers are
//! numbers.

use rust_xlsxwriter::{DocProperties, ExcelDateTime, Format, Workbook, Worksheet, XlsxError};
use steelk_core::evaluate::CutList;

use steelk_core::quantity::Shown;

use crate::table::{Cell, Table};

/// A number with its value and as the list prints it; a text as it stands, whatever it looks like.
fn put(sheet: &mut Worksheet, row: u32, column: u16, cell: &Cell) -> Result<(), XlsxError> {
    let number = if let Cell::Number(n) = cell { n.number() } else { None };
    match number {
        Some((v, shown)) => {
            let format = match shown {
                Shown::Decimals(0) => "0".to_string(),
                Shown::Decimals(n) => format!("0.{}", "0".repeat(n)),
                Shown::Fraction(n) => format!("# {0}/{0}", "?".repeat(n.to_string().len())),
                Shown::Degrees => "0.##\"°\"".to_string(),
            };
            sheet.write_number_with_format(row, column, v, &Format::new().set_num_format(format))?
        }
        None => sheet.write_string(row, column, cell.said())?,
    };
    Ok(())
}

fn head(sheet: &mut Worksheet, row: u32, names: &[String]) -> Result<(), XlsxError> {
    let bold = Format::new().set_bold();
    for (i, name) in names.iter().enumerate() {
        sheet.write_string_with_format(row, i as u16, name, &bold)?;
    }
    Ok(())
}

/// A table from a row on; the row behind it.
fn fill(sheet: &mut Worksheet, from: u32, table: &Table) -> Result<u32, XlsxError> {
    head(sheet, from, &table.names)?;
    for (r, row) in table.rows.iter().enumerate() {
        for (c, cell) in row.iter().enumerate() {
            put(sheet, from + 1 + r as u32, c as u16, cell)?;
        }
    }
    Ok(from + 1 + table.rows.len() as u32)
}

fn page(book: &mut Workbook, name: &str, table: &Table) -> Result<(), XlsxError> {
    let sheet = book.add_worksheet().set_name(name)?;
    fill(sheet, 0, table)?;
    sheet.set_freeze_panes(1, 0)?;
    sheet.autofit();
    Ok(())
}

/// `saved_at`, seconds since 1970, is when it says that it was made: the same job gives the same bytes.
pub fn cut_list(list: &CutList, saved_at: i64) -> Result<Vec<u8>, XlsxError> {
    let mut book = Workbook::new();
    book.set_properties(
        &DocProperties::new().set_creation_datetime(&ExcelDateTime::from_timestamp(saved_at)?),
    );
    page(&mut book, "bars", &super::csv::bar_table(list))?;
    page(&mut book, "plates", &super::csv::plate_table(list))?;
    page(&mut book, "welds", &super::csv::weld_table(list))?;
    page(&mut book, "sheet pieces", &super::csv::sheet_table(list))?;
    let totals = book.add_worksheet().set_name("totals")?;
    let names = ["frame", "section", "pieces", "length", "mass", "worked out", "published", "source"]
        .map(String::from)
        .to_vec();
    let sections = list.frames.iter().flat_map(|f| {
        let row = |s: &steelk_core::frame::SectionTotal| {
            let said = [&s.length, &s.mass, &s.worked, &s.published, &s.source].map(Cell::text);
            [Cell::text(&f.mark), Cell::text(&s.section), Cell::count(s.pieces)]
                .into_iter()
                .chain(said)
                .collect::<Vec<_>>()
        };
        f.sections.iter().map(row).collect::<Vec<_>>()
    });
    let next = fill(totals, 0, &Table { names, rows: sections.collect() })? + 1;
    let next = fill(totals, next, &super::csv::sheet_totals(list))? + 1;
    totals.write_string(next, 0, "all")?;
    totals.write_number(next, 2, list.pieces as f64)?;
    totals.write_string(next, 4, format!("{} {}", list.total_mass, list.mass_unit))?;
    for (k, (name, text)) in super::csv::facts(list).into_iter().enumerate() {
        totals.write_string(next + 2 + k as u32, 0, name)?;
        totals.write_string(next + 2 + k as u32, 1, text)?;
    }
    totals.autofit();
    book.save_to_buffer()
}

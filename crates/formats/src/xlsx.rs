//! The cut list as a spreadsheet: a sheet each for bars, plates, sheet pieces and totals. Numbers are numbers.

use rust_xlsxwriter::{DocProperties, ExcelDateTime, Format, Workbook, Worksheet, XlsxError};
use steelk_core::cutlist::CutList;

/// A cell: a number where the text is one.
fn put(sheet: &mut Worksheet, row: u32, column: u16, text: &str) -> Result<(), XlsxError> {
    match text.parse::<f64>() {
        Ok(v) if v.is_finite() => sheet.write_number(row, column, v)?,
        _ => sheet.write_string(row, column, text)?,
    };
    Ok(())
}

fn head(sheet: &mut Worksheet, names: &[String]) -> Result<(), XlsxError> {
    let bold = Format::new().set_bold();
    for (i, name) in names.iter().enumerate() {
        sheet.write_string_with_format(0, i as u16, name, &bold)?;
    }
    sheet.set_freeze_panes(1, 0)?;
    Ok(())
}

fn fill(sheet: &mut Worksheet, names: &[String], rows: &[Vec<String>]) -> Result<(), XlsxError> {
    head(sheet, names)?;
    for (r, row) in rows.iter().enumerate() {
        for (c, text) in row.iter().enumerate() {
            // Marks and names stay text, whatever they look like.
            if c < 3 && names[c] != "quantity" {
                sheet.write_string(r as u32 + 1, c as u16, text)?;
            } else {
                put(sheet, r as u32 + 1, c as u16, text)?;
            }
        }
    }
    sheet.autofit();
    Ok(())
}

/// `saved_at`, seconds since 1970, is when it says that it was made: the same job gives the same bytes.
pub fn cut_list(list: &CutList, saved_at: i64) -> Result<Vec<u8>, XlsxError> {
    let mut book = Workbook::new();
    book.set_properties(&DocProperties::new().set_creation_datetime(&ExcelDateTime::from_timestamp(saved_at)?));
    let (names, rows) = super::csv::bar_table(list);
    fill(book.add_worksheet().set_name("bars")?, &names, &rows)?;
    let (names, rows) = super::csv::plate_table(list);
    fill(book.add_worksheet().set_name("plates")?, &names, &rows)?;
    let (names, rows) = super::csv::weld_table(list);
    fill(book.add_worksheet().set_name("welds")?, &names, &rows)?;
    let (names, rows) = super::csv::sheet_table(list);
    fill(book.add_worksheet().set_name("sheet pieces")?, &names, &rows)?;
    let totals = book.add_worksheet().set_name("totals")?;
    let names = ["frame", "section", "pieces", "length", "mass", "worked out", "published", "source"].map(String::from);
    let rows: Vec<Vec<String>> = list
        .frames
        .iter()
        .flat_map(|f| {
            f.sections.iter().map(|s| {
                vec![
                    f.mark.clone(),
                    s.section.clone(),
                    s.pieces.to_string(),
                    s.length.clone(),
                    s.mass.clone(),
                    s.worked.clone(),
                    s.published.clone(),
                    s.source.clone(),
                ]
            })
        })
        .collect();
    fill(totals, &names, &rows)?;
    let last = rows.len() as u32 + 2;
    totals.write_string(last, 0, "all")?;
    totals.write_number(last, 2, list.pieces as f64)?;
    totals.write_string(last, 4, format!("{} {}", list.total_mass, list.mass_unit))?;
    book.save_to_buffer()
}

//! The holes of a piece as a table.

use steelk_core::result::PieceResult;
use steelk_core::sheet::{HoleRow, hole_table};

use crate::table::{Cell, Table};

/// The holes of a piece, one row each.
pub fn hole_rows(p: &PieceResult) -> Table {
    let unit = p.display.length.sign();
    let table = hole_table(p);
    let names = vec![
        "hole".into(),
        format!("x [{unit}]"),
        format!("y [{unit}]"),
        "kind".into(),
        "size".into(),
        "side".into(),
        format!("depth [{unit}]"),
        "as told".into(),
        "name".into(),
    ];
    let row = |r: &HoleRow| {
        let k = &table.kinds[r.kind];
        vec![
            Cell::text(&r.tag),
            Cell::number(&r.x),
            Cell::number(&r.y),
            Cell::text(&k.name),
            Cell::text(&k.size),
            Cell::text(if k.back { "back" } else { "front" }),
            Cell::text(&k.depth),
            Cell::text(&k.said),
            Cell::text(&r.name),
        ]
    };
    Table { names, rows: table.rows.iter().map(row).collect() }
}

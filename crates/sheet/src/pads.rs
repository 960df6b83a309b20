//! A piece with the pads that are laid on it: these are pieces of their own; equal ones are one, so many off.

use std::collections::HashMap;
use std::sync::Arc;

use ground::geom::Contour;
use shop::SheetShop;

use crate::brake::{Effort, Search};
use crate::evaluate::evaluate_alone;
use crate::piece::Piece;
use crate::plate::{PlateSpec, evaluate_plate};
use crate::result::{Pads, PieceResult};
use crate::{Pressed, figures};

/// One piece, made in a shop, with what is laid on it.
pub fn evaluate_piece(shop: &SheetShop, piece: &Piece) -> PieceResult {
    evaluate_searching(shop, piece, &mut Search { effort: Effort::SHORT, on: &mut |_| true })
}

/// The same, with an order of bends that is searched for as long as told.
pub fn evaluate_searching(shop: &SheetShop, piece: &Piece, how: &mut Search) -> PieceResult {
    let mut out = evaluate_alone(shop, piece, how);
    out.pads = pads(shop, &out);
    figures::with_pads(&mut out);
    out
}

/// A shape as equal ones have it, to 0.001 mm.
fn shape_key(outline: &Contour) -> Vec<[i64; 3]> {
    let turned = |from: usize| -> Vec<[i64; 3]> {
        let n = outline.vertices.len();
        let of = |k: usize| {
            let v = outline.vertices[(from + k) % n];
            [v.p.x, v.p.y, v.bulge].map(|x| (x * 1000.0).round() as i64)
        };
        (0..n).map(of).collect()
    };
    (0..outline.vertices.len()).map(turned).min().unwrap_or_default()
}

/// The pads of a piece, in the order of its lines.
fn pads(shop: &SheetShop, of: &PieceResult) -> Vec<Pads> {
    let mut out: Vec<(PlateSpec, Vec<String>)> = Vec::new();
    let mut seen: HashMap<(Vec<[i64; 3]>, i64, String), usize> = HashMap::new();
    for mark in &of.flat.pressed {
        let Pressed::Pad { outline, thickness, material, size, .. } = &mark.pressed else { continue };
        let key = (shape_key(outline), (thickness * 1000.0).round() as i64, material.id.clone());
        let at = *seen.entry(key).or_insert_with(|| {
            let n = out.len() + 1;
            let plate = PlateSpec {
                id: format!("{}.{}", of.id, mark.name),
                mark: format!("{}/B{n}", of.mark),
                name: format!("Pad {size}, laid on {}", of.mark),
                quantity: of.quantity,
                material: material.clone(),
                thickness: *thickness,
                display: of.display,
                outer: outline.clone().outward(),
                holes: Vec::new(),
                bores: Vec::new(),
                folds: Vec::new(),
                bevels: Vec::new(),
                is_joined: false,
            };
            out.push((plate, Vec::new()));
            out.len() - 1
        });
        out[at].1.push(mark.name.clone());
    }
    out.into_iter()
        .map(|(mut plate, names)| {
            plate.quantity *= names.len();
            Pads { piece: Arc::new(evaluate_plate(shop, &plate)), names }
        })
        .collect()
}

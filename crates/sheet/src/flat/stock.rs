//! The sheet that a piece is made of, and the rule that its bends go by.

use shop::bend_book::BendBook;
use shop::{Material, Shelf};

use super::bend_allowance::Rule;

pub struct SheetStock<'a> {
    pub material: &'a Material,
    /// Thickness, mm.
    pub t: f64,
    /// The usual inside radius, mm.
    pub r: f64,
    pub rule: &'a Rule,
    pub book: &'a BendBook,
    /// What else the shop has, for what is laid on it.
    pub shelf: &'a Shelf,
}

//! The sheet that a piece is made of, and the rule that its bends go by.

use shop::Material;
use shop::bend_book::BendBook;

use super::bend_allowance::Rule;

pub struct SheetStock<'a> {
    pub material: &'a Material,
    /// Thickness, mm.
    pub t: f64,
    /// The usual inside radius, mm.
    pub r: f64,
    pub rule: &'a Rule,
    pub book: &'a BendBook,
}

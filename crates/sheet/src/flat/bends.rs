//! The bends of a piece, however they were said: what figures, marks, checks and the bend sheet look at.

use glam::DVec2;

use shop::bend::Allowance;

/// What a bend is for: what told it says so.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum BendRole {
    /// Between two parts of a piece that both go on.
    Fold,
    /// Turns an edge over, closed or round.
    TurnedOver,
    /// The first of the two bends that set an edge off.
    SetOff,
    /// A line along which faces meet, without allowance.
    Crease,
}

#[derive(Clone, Debug)]
pub struct BendFact {
    /// Index of its zone.
    pub zone: usize,
    /// Name of its zone.
    pub name: String,
    /// What people call it: `1` in a strip, the panel that it folds elsewhere.
    pub label: String,
    pub line: String,
    pub role: BendRole,
    pub angle: f64,
    pub up: bool,
    pub radius: f64,
    pub allowance: Allowance,
    /// 2·OSSB − BA.
    pub deduction: f64,
    pub ossb: f64,
    /// A rolled arc, not a bend made at the brake.
    pub rolled: bool,
    /// Ends of its middle line in the flat.
    pub ends: [DVec2; 2],
    /// JSON pointer in the piece to what tells it; `/radius` below it is its own radius.
    pub pointer: Option<String>,
    /// Outside length of the panel it folds, where that is a flange with one bend.
    pub flange: Option<f64>,
}

impl BendFact {
    /// Made at the brake with a tool: neither rolled nor creased.
    pub fn is_struck(&self) -> bool {
        !self.rolled && !self.is_crease()
    }

    pub fn is_crease(&self) -> bool {
        self.role == BendRole::Crease
    }

    /// The middle of its line on the flat.
    pub fn middle(&self) -> DVec2 {
        (self.ends[0] + self.ends[1]) / 2.0
    }

    pub fn length(&self) -> f64 {
        self.ends[0].distance(self.ends[1])
    }
}

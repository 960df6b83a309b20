//! What is told of an outline: its sides one after another, and what holds between them.

/// An outline as it is told. Lengths in mm, angles in rad. Corner k is where side k begins; the end of the
/// last side is corner 0 again.
#[derive(Clone, Debug, Default)]
pub struct Told {
    pub sides: Vec<Side>,
    pub conditions: Vec<Condition>,
}

#[derive(Clone, Debug)]
pub struct Side {
    pub run: Run,
    /// The way it sets out, from east, counter-clockwise.
    pub heading: Option<f64>,
    /// By how much it turns to the left of the side before it.
    pub turned: Option<f64>,
    /// It begins at a corner even where an arc meets it.
    pub sharp: bool,
    /// Corners that its end is level with, and plumb with.
    pub level: Option<usize>,
    pub plumb: Option<usize>,
    /// A side that its end lies on, however far that goes on.
    pub meets: Option<usize>,
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Run {
    Line {
        length: Option<f64>,
    },
    Arc {
        left: bool,
        radius: Option<f64>,
        /// How far it turns, above zero.
        sweep: Option<f64>,
    },
    /// Straight back to the start.
    Close,
}

impl Run {
    pub fn is_arc(&self) -> bool {
        matches!(self, Run::Arc { .. })
    }
}

#[derive(Clone, Debug, PartialEq)]
pub enum Condition {
    /// Lines of one length, or arcs of one radius.
    Equal(usize, usize),
    Parallel(usize, usize),
    Square(usize, usize),
    /// Two lines on one.
    InLine(usize, usize),
    /// Two arcs about one middle.
    Concentric(usize, usize),
    /// Between two parallel lines, two middles of arcs, or such a middle and a line.
    Distance(usize, usize, f64),
    /// Each side is the mirror image of its counterpart across the middle of this one.
    Symmetric(usize),
    /// A corner so far to the east (or north) of another.
    Offset {
        corner: usize,
        from: usize,
        north: bool,
        by: f64,
    },
}

/// Something that was told, and could be left out.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Cause {
    /// A figure of a side.
    Figure(usize, Figure),
    /// An arc runs on from the side before it, or that from an arc.
    Tangent(usize),
    Level(usize),
    Plumb(usize),
    Meets(usize),
    Condition(usize),
}

/// A figure that a side can have.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Figure {
    Length,
    Radius,
    Sweep,
    Direction,
}

impl Told {
    /// Whether a side runs on from the one before it without a corner: an arc does, and what follows one.
    pub fn is_tangent(&self, k: usize) -> bool {
        let side = &self.sides[k];
        let before = &self.sides[(k + self.sides.len() - 1) % self.sides.len()];
        let closing = side.run == Run::Close || before.run == Run::Close;
        let told = side.turned.is_some() || (side.run.is_arc() && side.heading.is_some());
        (side.run.is_arc() || before.run.is_arc()) && !closing && !side.sharp && !told
    }

    /// Everything that was told.
    pub fn causes(&self) -> Vec<Cause> {
        let mut out = Vec::new();
        for (k, side) in self.sides.iter().enumerate() {
            let mut told = |is: bool, figure| out.extend(is.then_some(Cause::Figure(k, figure)));
            match side.run {
                Run::Line { length } => told(length.is_some(), Figure::Length),
                Run::Arc { radius, sweep, .. } => {
                    told(radius.is_some(), Figure::Radius);
                    told(sweep.is_some(), Figure::Sweep);
                }
                Run::Close => {}
            }
            told(side.heading.is_some() || side.turned.is_some(), Figure::Direction);
            let mut holds = |is: bool, cause| out.extend(is.then_some(cause));
            holds(self.is_tangent(k), Cause::Tangent(k));
            holds(side.level.is_some(), Cause::Level(k));
            holds(side.plumb.is_some(), Cause::Plumb(k));
            holds(side.meets.is_some(), Cause::Meets(k));
        }
        out.extend((0..self.conditions.len()).map(Cause::Condition));
        out
    }

    /// The middle of the lengths that are told: what a length that is not told may be like.
    pub fn scale(&self) -> f64 {
        let runs = self.sides.iter().filter_map(|s| match s.run {
            Run::Line { length } => length,
            Run::Arc { radius, .. } => radius,
            Run::Close => None,
        });
        let between = self.conditions.iter().filter_map(|c| match c {
            Condition::Distance(.., by) | Condition::Offset { by, .. } => Some(by.abs()),
            _ => None,
        });
        let mut all: Vec<f64> = runs.chain(between).filter(|v| *v > 0.0).collect();
        all.sort_by(f64::total_cmp);
        all.get(all.len() / 2).copied().unwrap_or(1.0)
    }
}

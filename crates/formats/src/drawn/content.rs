//! Strokes → contours with their roles, bend lines, gaps, and a list of all that was mended, each with its
//! places.

use std::collections::HashMap;
use std::rc::Rc;

use glam::DVec2;
use steelk_core::geom::{Bounds, Contour, Grid, Segment};
use steelk_core::halt;
use steelk_core::job::{Assume, DrawingOptions as Options, LayerUse};
use steelk_core::quantity::{LengthUnit, counted, trim_number};
use steelk_core::sheet::DrawnFold;

use super::chain::{Chained, Gap, Open, chain, gaps};
use super::chords::arcs_of;
use super::error::DrawingError;
use super::nest::{Part, nest};
use super::options::usual_use;
use super::overlaps::{cut_at_overlaps, lies_on};
use super::strokes::{Run, Strokes};
use super::units::{Guess, Unit, guess};

/// A layer of the file.
#[derive(Clone, Debug)]
pub struct LayerSeen {
    pub name: String,
    /// Lines, arcs and curves on it.
    pub strokes: usize,
    pub used: LayerUse,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LoopRole {
    Outline,
    Cut,
    /// Left out by hand.
    Skipped,
}

#[derive(Clone, Debug)]
pub struct Loop {
    pub contour: Contour,
    pub layer: Rc<str>,
    pub role: LoopRole,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum RepairKind {
    Doubled,
    Overlapped,
    Twice,
    Repeated,
    GapClosed,
    Joined,
    Arcs,
    Curves,
}

/// What was put right, and where: of many the first places.
#[derive(Clone, Debug)]
pub struct Repair {
    pub kind: RepairKind,
    pub said: String,
    pub places: Vec<DVec2>,
}

/// What a drawing holds, in millimetres.
#[derive(Clone, Debug, Default)]
pub struct Content {
    /// The unit that the file names.
    pub unit: Option<&'static Unit>,
    /// Where the file names none and nobody told: what it is read in.
    pub guess: Option<Guess>,
    /// Its numbers, as many millimetres each.
    pub mm: f64,
    pub sign: &'static str,
    pub layers: Vec<LayerSeen>,
    /// Counter-clockwise, from the largest to the smallest.
    pub loops: Vec<Loop>,
    /// Outlines and what is cut out of them, as places in `loops`; the largest first.
    pub parts: Vec<Part>,
    pub folds: Vec<DrawnFold>,
    pub open: Vec<Open>,
    pub gaps: Vec<Gap>,
    /// What is on layers that are not taken, for the eye.
    pub aside: Vec<Segment>,
    pub repairs: Vec<Repair>,
    /// One sentence each.
    pub left_out: Vec<String>,
}

/// Sentences on what is left out.
const MOST_TOLD: usize = 40;
/// Places of one repair that are kept.
const MOST_PLACES: usize = 500;
/// Contours whose middles, lengths and corners differ by less are the same, mm.
const ALIKE: f64 = 0.01;
/// Contours in all: a recipe takes fewer, and a page that shows more shows nothing.
const MOST_LOOPS: usize = 20_000;

/// `make`: strokes in millimetres, told how many of them one of the file's numbers is.
pub fn content(
    unit: Option<&'static Unit>,
    options: &Options,
    make: impl Fn(f64) -> Result<Strokes, DrawingError>,
) -> Result<Content, DrawingError> {
    let mut out = Content { unit, mm: 1.0, sign: "mm", ..Content::default() };
    let strokes = match (unit, options.assume) {
        (Some(unit), _) => {
            (out.mm, out.sign) = (unit.mm, unit.sign);
            make(unit.mm)?
        }
        (None, Some(told)) => {
            (out.mm, out.sign) = (told.mm(), told.sign());
            make(told.mm())?
        }
        (None, None) => {
            let raw = make(1.0)?;
            let likely = guess(&raw.runs, raw.leaning);
            (out.mm, out.sign) = (likely.unit.mm(), likely.unit.sign());
            let own = likely.unit == Assume::Mm;
            out.guess = Some(likely);
            if own { raw } else { make(out.mm)? }
        }
    };
    out.left_out = strokes.left_out.told();
    out.fill(strokes, options)?;
    Ok(out)
}

impl Content {
    /// The unit to work in.
    pub fn working_unit(&self, assumed: Option<Assume>) -> LengthUnit {
        let told = assumed.or_else(|| self.guess.as_ref().map(|g| g.unit));
        self.unit.map(Unit::working).or(told.map(Assume::working)).unwrap_or_default()
    }

    pub fn contour(&self, k: usize) -> &Contour {
        &self.loops[k].contour
    }

    /// Of one part: its outline, its cuts, and the bend lines that lie on it.
    pub fn part(&self, of: &Part) -> (&Contour, Vec<&Contour>, Vec<DrawnFold>) {
        let outer = self.contour(of.outline);
        let on = |f: &&DrawnFold| outer.contains(f.from.midpoint(f.to));
        let folds = self.folds.iter().filter(on).copied().collect();
        (outer, of.cuts.iter().map(|k| self.contour(*k)).collect(), folds)
    }

    /// Why no part can be taken, and what would help.
    pub fn nothing(&self) -> Option<String> {
        if let Some(o) = self.outline_open() {
            let [from, to] = o.ends();
            let gap = self.gaps.iter().find(|g| [from, to].iter().any(|p| *p == g.from || *p == g.to));
            return Some(format!(
                "the outline is not closed: at {} on layer {} a gap of {} is open",
                self.place(to),
                o.layer,
                self.length(gap.map_or(from.distance(to), Gap::width))
            ));
        }
        self.parts.is_empty().then(|| "the file holds no closed contour on its cut layers".to_string())
    }

    /// An open stretch that is larger than all that closes: the outline itself.
    fn outline_open(&self) -> Option<&Open> {
        let size = |b: DVec2| b.x * b.y;
        let closed = self.parts.first().map(|p| size(self.contour(p.outline).bounds().size()));
        let widest =
            { self.open.iter() }.max_by(|a, b| size(a.bounds.size()).total_cmp(&size(b.bounds.size())))?;
        closed.is_none_or(|c| size(widest.bounds.size()) > c).then_some(widest)
    }

    /// A length in the file's own unit.
    pub fn length(&self, v: f64) -> String {
        format!("{} {}", trim_number(v / self.mm, 4), self.sign)
    }

    pub fn place(&self, p: DVec2) -> String {
        format!("{}, {}", trim_number(p.x / self.mm, 3), trim_number(p.y / self.mm, 3))
    }

    fn repair(&mut self, kind: RepairKind, mut places: Vec<DVec2>, said: impl FnOnce(usize) -> String) {
        if !places.is_empty() {
            let said = said(places.len());
            places.truncate(MOST_PLACES);
            self.repairs.push(Repair { kind, said, places });
        }
    }

    fn fill(&mut self, strokes: Strokes, options: &Options) -> Result<(), DrawingError> {
        let Strokes { runs, layers, repeated, .. } = strokes;
        let seen = |(name, n): (&Rc<str>, &usize)| LayerSeen {
            name: name.to_string(),
            strokes: *n,
            used: used(options, name),
        };
        self.layers = layers.iter().map(seen).collect();
        let mut taken = Vec::new();
        for r in runs {
            match used(options, &r.layer) {
                LayerUse::Cut => taken.push(r),
                LayerUse::Out => self.aside.extend(r.segments),
                used => self.fold(r, used == LayerUse::FoldUp),
            }
        }
        self.told_aside();
        let curves: Vec<(DVec2, usize)> =
            taken.iter().filter(|r| r.curve).map(|r| (r.segments[0].at(0.5), r.segments.len())).collect();
        let chained = self.chained(taken, options);
        self.repair(RepairKind::Repeated, repeated, |n| {
            format!("{} without length taken away", counted(n, "step"))
        });
        let parts: usize = curves.iter().map(|c| c.1).sum();
        self.repair(RepairKind::Curves, curves.into_iter().map(|c| c.0).collect(), |n| {
            format!("{} made into {}, within 0.01 mm", counted(n, "curve"), counted(parts, "line or arc"))
        });
        self.loops(chained.closed, options)?;
        self.gaps = gaps(&chained.open);
        self.open = chained.open;
        self.told_open();
        let more = self.left_out.len().saturating_sub(MOST_TOLD);
        if more > 0 {
            self.left_out.truncate(MOST_TOLD);
            self.left_out.push(format!("{more} more of such"));
        }
        Ok(())
    }

    fn fold(&mut self, r: Run, up: bool) {
        if r.segments.iter().all(Segment::is_line) {
            self.folds.extend(r.segments.iter().map(|s| DrawnFold { from: s.a, to: s.b, up }));
        } else {
            self.left_out.push(format!("a curve on the bend layer {}: a bend is straight", r.layer));
        }
    }

    fn told_aside(&mut self) {
        for l in self.layers.iter().filter(|l| l.used == LayerUse::Out && l.strokes > 0) {
            let n = counted(l.strokes, "stroke");
            self.left_out.push(format!("{n} on layer {}, which marks and does not cut", l.name));
        }
    }

    fn told_open(&mut self) {
        for o in self.open.iter().take(MOST_TOLD + 1) {
            let [from, to] = o.ends();
            let n = o.segments.len();
            let run = if n == 1 { "a line".into() } else { format!("a run of {n} lines") };
            let gap = self.gaps.iter().find(|g| [from, to].iter().any(|p| *p == g.from || *p == g.to));
            let wide = gap.map_or(from.distance(to), Gap::width);
            let said = format!(
                "{run} on layer {} from {} to {}, open by {}: it cuts nothing",
                o.layer,
                self.place(from),
                self.place(to),
                self.length(wide)
            );
            self.left_out.push(said);
        }
    }

    /// What closes for itself stands alone; loose strokes are cut where they lie over one another,
    /// joined, and
    /// what then lies on a contour is dropped.
    fn chained(&mut self, runs: Vec<Run>, options: &Options) -> Chained {
        let (own, mut loose): (Vec<Run>, Vec<Run>) = runs.into_iter().partition(Run::is_closed);
        for [a, b] in &options.joins {
            let (a, b) = (DVec2::from_array(*a), DVec2::from_array(*b));
            if a.is_finite() && b.is_finite() && a.distance(b) > super::SAME {
                let layer = loose.first().map_or("0".into(), |r| r.layer.clone());
                loose.push(Run { segments: vec![Segment::line(a, b)], layer, curve: false });
            }
        }
        let joined = options.joins.iter().map(|[a, b]| DVec2::from_array(*a).midpoint(DVec2::from_array(*b)));
        self.repair(RepairKind::Joined, joined.collect(), |n| {
            format!("{} closed by hand", counted(n, "gap"))
        });
        let (cut, overlaps) = cut_at_overlaps(loose);
        let mut all = chain(own, 0.0);
        let more = chain(cut, options.closes);
        all.closed.extend(more.closed);
        let closed: Vec<Segment> = all.closed.iter().flat_map(|(c, _)| c.segments()).collect();
        let grid = Grid::new(&closed.iter().map(Segment::bounds).collect::<Vec<_>>(), super::SAME);
        let mut over = overlaps;
        let (on, open): (Vec<Open>, Vec<Open>) =
            { more.open.into_iter() }.partition(|o| lies_on(&o.segments, &closed, &grid));
        over.extend(on.iter().map(|o| o.segments[0].at(0.5)));
        all.open = open;
        // Of strokes that lie in part on one another the doubled pieces say no more.
        let mut doubled = std::mem::take(&mut all.doubled);
        if over.is_empty() {
            doubled.extend(more.doubled);
        }
        self.repair(RepairKind::Doubled, doubled, |n| {
            format!("{} drawn over another: counted once", counted(n, "stroke"))
        });
        self.repair(RepairKind::Overlapped, over, |n| {
            format!("strokes that lie partly over one another, at {}: counted once", counted(n, "place"))
        });
        let widest = self.length(more.widest_gap);
        self.repair(RepairKind::GapClosed, more.gaps_closed, |n| {
            format!("{} closed, the widest {widest}", counted(n, "gap"))
        });
        all
    }

    fn loops(&mut self, mut closed: Vec<(Contour, Rc<str>)>, options: &Options) -> Result<(), DrawingError> {
        let (twice, empty) = once(&mut closed);
        self.repair(RepairKind::Twice, twice, |n| {
            format!("{} drawn twice: counted once", counted(n, "contour"))
        });
        if empty > 0 {
            self.left_out.push(format!("{} that encloses nothing", counted(empty, "contour")));
        }
        if closed.len() > MOST_LOOPS {
            return Err(DrawingError::TooMany(counted(closed.len(), "contour"), MOST_LOOPS));
        }
        let mut rounded = Vec::new();
        let skips: Vec<DVec2> = options.skips.iter().map(|p| DVec2::from_array(*p)).collect();
        for (contour, layer) in closed {
            halt::often();
            let contour = straightened(contour);
            let (contour, places) = if options.arcs { arcs_of(&contour) } else { (contour, Vec::new()) };
            rounded.extend(places);
            let skipped = !skips.is_empty() && skips.iter().any(|p| passes(&contour, *p));
            let role = if skipped { LoopRole::Skipped } else { LoopRole::Cut };
            self.loops.push(Loop { contour, layer, role });
        }
        self.repair(RepairKind::Arcs, rounded, |n| {
            format!("{} made of short chords, within 0.01 mm", counted(n, "arc"))
        });
        let taken: Vec<usize> =
            (0..self.loops.len()).filter(|k| self.loops[*k].role != LoopRole::Skipped).collect();
        let contours: Vec<&Contour> = taken.iter().map(|k| self.contour(*k)).collect();
        self.parts = nest(&contours)
            .into_iter()
            .map(|p| Part { outline: taken[p.outline], cuts: p.cuts.iter().map(|k| taken[*k]).collect() })
            .collect();
        for p in &self.parts {
            self.loops[p.outline].role = LoopRole::Outline;
        }
        let skipped = self.loops.len() - taken.len();
        if skipped > 0 {
            self.left_out.push(format!("{} left out by hand", counted(skipped, "contour")));
        }
        Ok(())
    }
}

/// Sides in one line become one: strokes that were cut, joined or drawn in stretches leave corners that are
/// none.
fn straightened(c: Contour) -> Contour {
    let n = c.vertices.len();
    let corner = |k: usize| {
        let (a, b) = (c.segment((k + n - 1) % n), c.segment(k));
        let along = b.b - a.a;
        let flat = a.is_line() && b.is_line() && (a.b - a.a).dot(b.b - b.a) > 0.0;
        !(flat && along.perp_dot(a.b - a.a).abs() < super::SAME * along.length())
    };
    let kept: Vec<_> = (0..n).filter(|k| corner(*k)).map(|k| c.vertices[k]).collect();
    if kept.len() == n || kept.len() < 2 { c } else { Contour { vertices: kept } }
}

/// What a layer is for: as told, else by its name.
fn used(options: &Options, layer: &str) -> LayerUse {
    options.layers.get(layer).copied().unwrap_or_else(|| usual_use(layer))
}

/// Whether the contour runs through a place.
fn passes(c: &Contour, p: DVec2) -> bool {
    c.segments().any(|s| s.nearest(p).distance(p) < ALIKE)
}

/// Contours that say the same, once each. Returns where those stand that were too many, and how many hold
/// nothing.
fn once(closed: &mut Vec<(Contour, Rc<str>)>) -> (Vec<DVec2>, usize) {
    let before = closed.len();
    closed.retain(|(c, _)| c.is_finite() && c.vertices.len() >= 2 && c.area() > 1e-9);
    let empty = before - closed.len();
    closed.iter_mut().for_each(|(c, _)| *c = std::mem::take(c).outward());
    closed.sort_by(|a, b| b.0.area().total_cmp(&a.0.area()));
    // Where a contour is the same its middle is.
    let mut known: HashMap<[i64; 2], Vec<[f64; 5]>> = HashMap::new();
    let cell = |v: f64| (v / (2.0 * ALIKE)).floor() as i64;
    let mut twice = Vec::new();
    closed.retain(|(c, _)| {
        halt::often();
        let Bounds { min, .. } = c.bounds();
        let m = c.centroid();
        let like = [m.x, m.y, c.perimeter(), min.x, min.y];
        let near = (-1..=1)
            .flat_map(|i| (-1..=1).map(move |j| [cell(m.x) + i, cell(m.y) + j]))
            .filter_map(|k| known.get(&k))
            .flatten();
        let same = { near }.any(|k| k.iter().zip(&like).all(|(a, b)| (a - b).abs() < ALIKE));
        if same {
            twice.push(c.vertices[0].p);
        } else {
            known.entry([cell(m.x), cell(m.y)]).or_default().push(like);
        }
        !same
    });
    (twice, empty)
}

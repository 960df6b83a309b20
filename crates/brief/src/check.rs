//! A brief checked off against its model: every figure met, off by so much, or no longer measurable.

use std::collections::BTreeMap;

use grammar::{Context, print};
use ground::finding::{LineFault, Patch};
use ground::lines;
use ground::quantity::{Display, FigureTable};
use ground::reader::Reader;
use ground::word;
use serde::Serialize;

use crate::document::Brief;
use crate::measured::{MeasuredValue, Row, measured};
use crate::model::{Model, SIDES};
use crate::verbs::{BRIEF, Look, Quantity, ROUNDED, Reading, Standing, Tie, Wanted, is_within};
use crate::written::{written, written_fine};

word! {
    /// How a figure of the drawing stands.
    pub enum Verdict {
        /// Nothing says what of the model it is.
        #[default]
        Untied,
        Met,
        Off,
        /// It cannot be measured any more.
        Lost,
    }
}

impl Verdict {
    pub fn said(self) -> &'static str {
        match self {
            Verdict::Untied => "not tied",
            Verdict::Met => "met",
            Verdict::Off => "off",
            Verdict::Lost => "not measurable",
        }
    }
}

/// A figure of the drawing and what the model has of it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Check {
    /// The line of the brief.
    pub line: String,
    /// The view of the drawing that it stands on; empty where none is told above it.
    pub view: String,
    /// The figure as it is typed, without what it is tied to.
    pub figure: String,
    /// What of the line it is; empty for the line itself.
    pub what: String,
    pub verdict: Verdict,
    /// The verdict in words.
    pub stands: &'static str,
    /// What the drawing says, with its unit.
    pub nominal: String,
    /// What it may be, and by what.
    pub allowed: String,
    pub by: String,
    /// What the model has; empty where it cannot be measured.
    pub measured: String,
    /// By how much it is off and which way, or why it cannot be measured.
    pub said: String,
    /// Geometry that it is measured on.
    pub names: Vec<String>,
    /// mm, rad, kg or a number; none where nothing was measured.
    pub value: Option<f64>,
    pub least: Option<f64>,
    pub greatest: Option<f64>,
    /// What the drawing says, in the same.
    pub asked: Option<f64>,
    /// What was measured on pieces that were made.
    pub taken: Vec<MeasuredValue>,
}

/// How many of a brief stand how.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Tally {
    pub all: usize,
    pub met: usize,
    pub off: usize,
    pub lost: usize,
    pub untied: usize,
    /// Of how many something was measured on a piece, and on how many of them that is not allowed.
    pub taken: usize,
    pub out: usize,
}

/// A brief, checked.
#[derive(Clone, Debug, Default)]
pub struct BriefResult {
    pub id: String,
    pub mark: String,
    pub checks: Vec<Check>,
    pub tally: Tally,
    pub faults: Vec<LineFault>,
    /// What of the model can be named: names, and how they are read.
    pub things: Vec<(String, String)>,
}

impl BriefResult {
    /// Figures that the model does not keep.
    pub fn broken(&self) -> impl Iterator<Item = &Check> {
        self.checks.iter().filter(|c| matches!(c.verdict, Verdict::Off | Verdict::Lost))
    }
}

/// Lines of one brief.
pub const MOST_FIGURES: usize = 2000;

/// A figure of a brief, read.
struct Figure {
    line: String,
    view: String,
    wanted: Box<dyn Wanted>,
}

fn read(brief: &Brief, reader: &mut Reader) -> (Vec<Figure>, BTreeMap<String, Vec<String>>) {
    let mut labels: BTreeMap<String, Vec<String>> = BTreeMap::new();
    let mut out = Vec::new();
    let mut view = String::new();
    if brief.lines.len() > MOST_FIGURES {
        let message = format!("the brief has {} figures; {MOST_FIGURES} is the most", brief.lines.len());
        reader.refuse_at("/lines", message, "make a brief for each view");
        return (out, labels);
    }
    for (_, line) in lines::carried_out(reader, &brief.lines) {
        ground::halt::often();
        reader.enter(&line.id);
        let spoken = line.say.spoken();
        if let Some((label, names)) = spoken.label() {
            if labels.contains_key(label) {
                reader.refuse(
                    "/say/label",
                    label,
                    format!("two figures are called '{label}'"),
                    "give this one another letter",
                );
            } else {
                labels.insert(label.to_string(), names.to_vec());
            }
        }
        if let Some(heading) = spoken.heading() {
            view = heading.to_string();
        }
        if let Some(wanted) = spoken.read(reader) {
            out.push(Figure { line: line.id.clone(), view: view.clone(), wanted });
        }
    }
    (out, labels)
}

/// A brief checked; without a model nothing of it can be measured, and `missing` says why.
pub fn check(
    brief: &Brief,
    figures: &FigureTable,
    display: Display,
    model: Option<&Model>,
    missing: &str,
) -> BriefResult {
    let display = brief.display.unwrap_or(display);
    let mut reader = Reader::new(figures, display);
    let (read, labels) = read(brief, &mut reader);
    let (mut checks, mut kinds): (Vec<Check>, Vec<Quantity>) = (Vec::new(), Vec::new());
    for Figure { line, view, wanted } in &read {
        ground::halt::often();
        let figure = typed(brief, line);
        let from = checks.len();
        match model {
            Some(model) => {
                let at = Standing { model, class: brief.class, labels: &labels };
                let looks = wanted.look(&at);
                kinds.extend(looks.iter().map(|l| l.quantity));
                checks.extend(looks.into_iter().map(|l| row(line, &figure, l, &display)));
            }
            None => checks.push(Check {
                line: line.clone(),
                view: String::new(),
                figure,
                what: String::new(),
                verdict: Verdict::Lost,
                stands: Verdict::Lost.said(),
                nominal: String::new(),
                allowed: String::new(),
                by: String::new(),
                measured: String::new(),
                said: missing.into(),
                names: Vec::new(),
                value: None,
                least: None,
                greatest: None,
                asked: None,
                taken: Vec::new(),
            }),
        }
        checks[from..].iter_mut().for_each(|c| c.view.clone_from(view));
    }
    if model.is_some() {
        let row = |(c, quantity): (&Check, &Quantity)| Row {
            line: c.line.clone(),
            what: c.what.clone(),
            quantity: *quantity,
            nominal: c.asked.unwrap_or_default(),
            limits: c.least.zip(c.greatest),
        };
        let rows: Vec<Row> = checks.iter().zip(&kinds).map(row).collect();
        for (at, value) in measured(brief, &mut reader, &rows, &display) {
            checks[at].taken.push(value);
        }
    }
    let of = |v: Verdict| checks.iter().filter(|c| c.verdict == v).count();
    let tally = Tally {
        all: checks.len(),
        met: of(Verdict::Met),
        off: of(Verdict::Off),
        lost: of(Verdict::Lost),
        untied: of(Verdict::Untied),
        taken: checks.iter().filter(|c| !c.taken.is_empty()).count(),
        out: checks.iter().filter(|c| c.taken.iter().any(|t| !t.within)).count(),
    };
    let faults = lines::settled(reader.tell, brief, &brief.lines);
    let things = model.map_or_else(Vec::new, nameable);
    BriefResult { id: brief.id.clone(), mark: brief.mark.clone(), checks, tally, faults, things }
}

/// Things that are offered to be named.
const MOST_OFFERED: usize = 400;

fn nameable(model: &Model) -> Vec<(String, String)> {
    let sides = SIDES.iter().map(|s| (s.0.to_string(), format!("{} side", s.0)));
    let things = model.things.iter().map(|t| (t.name.clone(), t.said.clone()));
    sides.chain(things).take(MOST_OFFERED).collect()
}

/// A line as it is typed, up to what of the model it is.
fn typed(brief: &Brief, line: &str) -> String {
    let said = brief.lines.iter().find(|l| l.id == line).and_then(|l| serde_json::to_value(&l.say).ok());
    let printed = said.and_then(|say| print(&BRIEF, &say, &Context::default()));
    let text = printed.map(|p| p.text).unwrap_or_default();
    text.split(", is ").next().unwrap_or_default().to_string()
}

fn row(line: &str, figure: &str, look: Look, d: &Display) -> Check {
    let Look { what, quantity, nominal, limits, by, more, reading } = look;
    let (value, names, mut said) = match reading {
        Reading::Untied => (None, Vec::new(), String::new()),
        Reading::Lost(why) => (None, Vec::new(), why),
        Reading::Is(v, names) => (Some(v), names, String::new()),
    };
    let verdict = match (value, limits) {
        (None, _) if said.is_empty() => Verdict::Untied,
        (None, _) => Verdict::Lost,
        (Some(_), None) => {
            said = "no tolerance is told and its class has none: write one".into();
            Verdict::Off
        }
        (Some(v), Some((low, high))) if !is_within(limits, v) => {
            let off = v - nominal;
            let way = if off > 0.0 { more[0] } else { more[1] };
            said = format!("{} {way}", written_fine(d, quantity, off.abs()));
            if quantity != Quantity::Count {
                let beyond = if v > high { v - high } else { low - v };
                said += &format!(", {} beyond what is allowed", written_fine(d, quantity, beyond));
            }
            Verdict::Off
        }
        _ => Verdict::Met,
    };
    let allowed = match limits {
        Some((low, high)) if quantity == Quantity::Count || high - low < ROUNDED => String::new(),
        Some((low, high)) if ((nominal - low) - (high - nominal)).abs() < ROUNDED => {
            format!("±{}", written_fine(d, quantity, high - nominal))
        }
        Some((low, high)) => format!("{} to {}", written(d, quantity, low), written(d, quantity, high)),
        None => "none".into(),
    };
    Check {
        line: line.into(),
        view: String::new(),
        figure: figure.into(),
        what: what.into(),
        verdict,
        stands: verdict.said(),
        nominal: written(d, quantity, nominal),
        allowed,
        by,
        measured: value.map_or_else(String::new, |v| written(d, quantity, v)),
        said,
        names,
        value,
        least: limits.map(|l| l.0),
        greatest: limits.map(|l| l.1),
        asked: Some(nominal),
        taken: Vec::new(),
    }
}

/// What a figure that is not tied could be tied to.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Proposal {
    pub line: String,
    /// What it would be measured on; where none or several fit, why it was not tied.
    pub said: String,
    pub names: Vec<String>,
    /// Changes of the brief that tie it; none where no one candidate is clear.
    pub patch: Vec<Patch>,
}

/// For every figure that is not tied what it could be: one that is clear is to be tied, of others it is said
/// why not.
pub fn propose(brief: &Brief, figures: &FigureTable, display: Display, model: &Model) -> Vec<Proposal> {
    let display = brief.display.unwrap_or(display);
    let mut reader = Reader::new(figures, display);
    let (read, mut labels) = read(brief, &mut reader);
    let mut out: Vec<Proposal> = Vec::new();
    // Holes first: what they are tied to is what distances speak of.
    for holes in [true, false] {
        for Figure { line, wanted, .. } in &read {
            let said = brief.lines.iter().find(|l| l.id == *line).map(|l| &l.say);
            let label = said.and_then(|s| s.spoken().label());
            if label.is_some() != holes {
                continue;
            }
            let at = Standing { model, class: brief.class, labels: &labels };
            if wanted.look(&at).iter().all(|l| l.reading != Reading::Untied) {
                continue;
            }
            let fits = likeliest(wanted.ties(&at));
            let proposal = proposed(brief, line, &fits, wanted.tries_all(&at), &display);
            if let ([tie], Some((label, _)), false) = (fits.as_slice(), label, proposal.patch.is_empty()) {
                let names = tie.fields[0].1.as_array().into_iter().flatten();
                labels.insert(
                    label.to_string(),
                    names.filter_map(|n| n.as_str().map(str::to_string)).collect(),
                );
            }
            out.push(proposal);
        }
    }
    let place = |p: &Proposal| brief.lines.iter().position(|l| l.id == p.line);
    out.sort_by_key(place);
    out
}

/// The likeliest ties.
fn likeliest(mut all: Vec<Tie>) -> Vec<Tie> {
    let best = all.iter().map(|t| t.rank).min();
    all.retain(|t| Some(t.rank) == best);
    all
}

/// So many candidates are named where none is clear.
const NAMED: usize = 3;

fn proposed(brief: &Brief, line: &str, fits: &[Tie], all: bool, d: &Display) -> Proposal {
    let index = brief.lines.iter().position(|l| l.id == line).unwrap_or_default();
    let nothing = |said: &str| (said.to_string(), Vec::new(), Vec::new());
    let (said, names, patch) = match fits {
        // What was not tried may fit as well as what was.
        [] | [_] if !all => nothing("there is too much to try each with each: point at it"),
        [] => nothing("nothing of the model measures so"),
        [one] => {
            let step = |(path, value): &(&str, serde_json::Value)| {
                Patch::add(format!("/lines/{index}{path}"), value.clone())
            };
            let said = format!("{}, {}", one.said, d.length_unit(one.value));
            (said, one.names.clone(), one.fields.iter().map(step).collect())
        }
        several => {
            let some: Vec<&str> = several.iter().take(NAMED).map(|t| t.said.as_str()).collect();
            let more = several.len().saturating_sub(NAMED);
            let more = if more > 0 { format!(" or {more} more") } else { String::new() };
            nothing(&format!("it may be {}{more}: point at it", some.join(", or ")))
        }
    };
    Proposal { line: line.into(), said, names, patch }
}

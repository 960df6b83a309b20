//! Which values of a model the drawing speaks of: each is changed a little, and whatever figure follows it
//! depends on it. A value that no figure follows has been forgotten on one of the two.

use std::collections::BTreeSet;
use std::sync::Arc;

use brief::{Brief, BriefResult, Model, check};
use frame::FrameResult;
use grammar::{Bench, Context, print};
use ground::quantity::{Display, PieceNames, Scope};
use serde::Serialize;
use serde_json::Value;
use sheet::brake::{Effort, Search};
use sheet::verbs::PIECE;
use shop::threads::{screw_sizes, thread_sizes};

use super::{JobResult, called};
use crate::job::{Frame, Job, Piece, is_same_mark, texts};

/// A value of the model that no figure of its drawings follows.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Unchecked {
    /// The line that says it; empty for the head.
    pub line: String,
    /// JSON pointer within the piece or frame.
    pub path: String,
    /// The value as it is typed, and the line that it stands in.
    pub value: String,
    pub said: String,
}

#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Coverage {
    /// Values that were changed one at a time.
    pub looked: usize,
    pub unchecked: Vec<Unchecked>,
    /// Lines of the brief that are measured and follow no value of the model.
    pub unmoved: Vec<String>,
    /// Values that could not be changed by themselves, told as `unchecked` ones are.
    pub unknown: Vec<Unchecked>,
}

/// By what share a value is changed, and a value of nothing by how much.
const SHARE: &str = "1.0003";
const STEP: &str = "0.01";

/// A figure that follows a change moves by more than this, mm, rad, kg.
const MOVED: f64 = 1e-7;

/// Values of one piece or frame that are looked at.
const MOST_VALUES: usize = 400;

/// The ways that a value may be written a little larger: as a size, as nothing; as a count also smaller.
fn nudged(text: &str) -> [String; 4] {
    [format!("({text})*{SHARE}"), format!("({text})+{STEP}"), format!("({text})+1"), format!("({text})-1")]
}

/// A screw or thread is changed to the next of its table.
fn sizes_beside(path: &str, text: &str) -> Option<Vec<String>> {
    let table = match path.rsplit('/').next()? {
        "thread" => thread_sizes(),
        "screw" => screw_sizes(),
        _ => return None,
    };
    let at = table.iter().position(|row| row.size == text.trim())?;
    let near = [at.checked_sub(1), Some(at + 1)].into_iter().flatten().filter_map(|k| table.get(k));
    Some(near.map(|row| row.size.to_string()).collect())
}

/// Whether a text is a value, by its letters alone.
fn is_value(text: &str, scope: &Scope) -> bool {
    scope.length(text).is_ok() || scope.angle(text).is_ok() || scope.number(text).is_ok()
}

/// Every text of a line that is a value: its pointer.
fn values(of: &Value, at: &str, scope: &Scope) -> Vec<String> {
    let mut out = Vec::new();
    texts(of, at, &mut |path, _, text, may_be| {
        if may_be && is_value(text, scope) || sizes_beside(path, text).is_some() {
            out.push(path.to_string());
        }
    });
    out
}

/// What is changed: the document of a piece or frame, and how it is made.
struct Subject<'a> {
    doc: Value,
    bench: &'a Bench,
    heads: &'a [&'a str],
    make: &'a dyn Fn(&Value) -> Option<(usize, Model)>,
}

/// What the figures of these briefs measure; none where the model cannot be made as it could.
fn measured(
    s: &Subject,
    doc: &Value,
    faults: usize,
    of: &dyn Fn(&Model) -> Vec<BriefResult>,
) -> Option<Vec<f64>> {
    let (wrong, model) = (s.make)(doc)?;
    let checks = of(&model).into_iter().flat_map(|b| b.checks);
    (wrong <= faults).then(|| checks.map(|c| c.value.unwrap_or(f64::NAN)).collect())
}

/// `id` is the brief whose own figures are looked through for those that follow nothing.
fn look(
    s: &Subject,
    id: &str,
    scope: &Scope,
    lines: &[(usize, String)],
    of: &dyn Fn(&Model) -> Vec<BriefResult>,
) -> Coverage {
    let mut out = Coverage::default();
    let Some((faults, model)) = (s.make)(&s.doc) else { return out };
    let stands: Vec<f64> =
        of(&model).into_iter().flat_map(|b| b.checks).map(|c| c.value.unwrap_or(f64::NAN)).collect();
    let mut all: Vec<(String, String)> = Vec::new();
    for head in s.heads {
        if s.doc.pointer(head).and_then(Value::as_str).is_some_and(|t| is_value(t, scope)) {
            all.push((String::new(), (*head).to_string()));
        }
    }
    for (k, id) in lines {
        let at = format!("/lines/{k}/say");
        let paths = values(s.doc.pointer(&at).unwrap_or(&Value::Null), &at, scope);
        all.extend(paths.into_iter().map(|p| (id.clone(), p)));
    }
    let mut moved: BTreeSet<usize> = BTreeSet::new();
    for (line, path) in all.into_iter().take(MOST_VALUES) {
        ground::halt::point();
        let text = s.doc.pointer(&path).and_then(Value::as_str).unwrap_or_default().to_string();
        let put = |text: String| {
            let mut doc = s.doc.clone();
            if let Some(v) = doc.pointer_mut(&path) {
                *v = text.into();
            }
            measured(s, &doc, faults, of)
        };
        let zero = [scope.length(&text), scope.angle(&text), scope.number(&text)].contains(&Ok(0.0));
        let [share, step, more, fewer] = nudged(&text);
        let beside = sizes_beside(&path, &text);
        let is_size = beside.is_some();
        let mut made: Vec<Vec<f64>> = match beside {
            Some(sizes) => sizes.into_iter().filter_map(put).collect(),
            None => if zero { put(step) } else { put(share) }.into_iter().collect(),
        };
        if made.is_empty() && !is_size {
            made.extend([more, fewer].into_iter().filter_map(put));
        }
        out.looked += 1;
        let told = || Unchecked {
            line: line.clone(),
            path: path.clone(),
            value: text.clone(),
            said: s
                .doc
                .pointer(path.split_inclusive("/say").next().unwrap_or_default())
                .map_or_else(String::new, |say| {
                    print(s.bench, say, &Context::default()).map_or_else(String::new, |p| p.text)
                }),
        };
        if made.is_empty() {
            out.unknown.push(told());
            continue;
        }
        let differs = |k: &usize| {
            let was = stands[*k];
            let off = |now: &f64| (now - was).abs() > MOVED || now.is_nan() != was.is_nan();
            made.iter().any(|now| now.get(*k).is_none_or(off))
        };
        let follows: Vec<usize> = (0..stands.len()).filter(differs).collect();
        if follows.is_empty() {
            out.unchecked.push(told());
        }
        moved.extend(follows);
    }
    // A figure follows the model where any row of it does.
    let rows = of(&model).into_iter().flat_map(|b| b.checks.into_iter().map(move |c| (b.id.clone(), c)));
    let rows: Vec<_> = rows.enumerate().filter(|(_, (of, _))| of == id).map(|(k, (_, c))| (k, c)).collect();
    let follows: BTreeSet<&str> =
        rows.iter().filter(|(k, _)| moved.contains(k)).map(|(_, c)| c.line.as_str()).collect();
    for (_, c) in &rows {
        if c.value.is_some() && !follows.contains(c.line.as_str()) && !out.unmoved.contains(&c.line) {
            out.unmoved.push(c.line.clone());
        }
    }
    out
}

/// What of its piece or frame a brief, with the others of the same, does not speak of.
pub fn coverage(job: &Job, result: &JobResult, id: &str) -> Result<Coverage, String> {
    let brief =
        job.briefs.iter().find(|b| b.id == id).ok_or_else(|| format!("the job has no brief '{id}'"))?;
    let mark = brief.of.trim();
    let briefs: Vec<&Brief> = job.briefs.iter().filter(|b| is_same_mark(&b.of, mark)).collect();
    let shop = &result.shop;
    let figures = &shop.sheet().figures;
    let of = |model: &Model| -> Vec<BriefResult> {
        briefs.iter().map(|b| check(b, figures, job.display, Some(model), "")).collect()
    };
    let told = |lines: Vec<(bool, &str)>| -> Vec<(usize, String)> {
        let on = lines.into_iter().enumerate().filter(|(_, l)| !l.0);
        on.map(|(k, l)| (k, l.1.to_string())).collect()
    };
    let scope = |display: Option<Display>, t: Option<f64>, r: Option<f64>| {
        (display.unwrap_or(job.display), PieceNames { table: figures, t, r })
    };
    if let Some(piece) = called(job, mark) {
        let make = |doc: &Value| {
            let piece: Piece = serde_json::from_value(doc.clone()).ok()?;
            let mut how = Search { effort: Effort::NONE, on: &mut |_| true };
            let made = Arc::new(sheet::evaluate_searching(shop.sheet(), &piece, &mut how));
            Some((made.faults.len(), Model::of_piece(&made)?))
        };
        let found = result.pieces.iter().find(|p| p.id == piece.id);
        let (display, names) = scope(piece.display, found.map(|p| p.thickness), found.map(|p| p.radius));
        let lines = told(piece.lines.iter().map(|l| (l.off, l.id.as_str())).collect());
        let doc = serde_json::to_value(piece).unwrap_or_default();
        let s = Subject { doc, bench: &PIECE, heads: &["/thickness", "/radius", "/quantity"], make: &make };
        return Ok(look(&s, id, &Scope { unit: display.length, names: &names }, &lines, &of));
    }
    let frame = job.frames.iter().find(|f| is_same_mark(&f.mark, mark));
    let frame = frame.ok_or_else(|| format!("the job has no piece or frame with the mark '{mark}'"))?;
    let piece_of = |mark: &str| {
        let at = job.pieces.iter().position(|p| Some(p) == called(job, mark))?;
        result.pieces.get(at).cloned()
    };
    let make = |doc: &Value| {
        let frame: Frame = serde_json::from_value(doc.clone()).ok()?;
        let made: Arc<FrameResult> = Arc::new(frame::evaluate_frame(&shop.frame, &frame, &piece_of));
        Some((made.faults.len(), Model::of_frame(&made)?))
    };
    let (display, names) = scope(frame.display, None, None);
    let lines = told(frame.lines.iter().map(|l| (l.off, l.id.as_str())).collect());
    let doc = serde_json::to_value(frame).unwrap_or_default();
    let s = Subject { doc, bench: &frame::verbs::FRAME, heads: &["/gap", "/quantity"], make: &make };
    Ok(look(&s, id, &Scope { unit: display.length, names: &names }, &lines, &of))
}

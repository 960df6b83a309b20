//! How much work a job looks like, told from its text alone and in no time: for choosing the lane, never for
//! a figure. What is told wrong is put right while it runs.

use std::collections::HashMap;

use steelk_core::job::{Frame, FrameSay, Job, Piece, Say, Spacing};

use crate::cache::{Cache, Shared};
use crate::desk::Weight;

/// Cuts that are worked out and checked within some tens of milliseconds.
const SMALL_CUTS: f64 = 1500.0;
/// A count that is a sum of figures.
const UNREAD: f64 = 50.0;
/// A sheet filled with holes.
const FILLED: f64 = 3000.0;
/// A member of a frame against a cut.
const MEMBER: f64 = 8.0;

/// Small where little is left to be worked out. The piece whose picture is asked for counts even where its
/// figures are known.
pub fn of_job(job: &Job, picture: &str, cache: &Cache) -> Weight {
    let shared = Shared::of(job);
    let left = |p: &&Piece| !cache.holds_piece(&shared, p) || p.id == picture && !picture.is_empty();
    let pieces = job.pieces.iter().filter(left).map(piece).sum::<f64>();
    let frames = job.frames.iter().filter(|f| !cache.holds_frame(&shared, job, f)).map(frame).sum::<f64>();
    if pieces + frames > SMALL_CUTS { Weight::Large } else { Weight::Small }
}

fn number(text: &str) -> f64 {
    text.trim().parse::<f64>().ok().filter(|n| n.is_finite()).unwrap_or(UNREAD).max(1.0)
}

fn spaced(s: &Spacing) -> f64 {
    match s {
        Spacing::Pitch { count, .. } | Spacing::Last { count, .. } | Spacing::Gap { count, .. } => {
            number(count)
        }
        Spacing::Fill { .. } => UNREAD * 2.0,
    }
}

fn piece(p: &Piece) -> f64 {
    let mut made: HashMap<&str, f64> = HashMap::new();
    let mut all = 0.0;
    for line in p.lines.iter().filter(|l| !l.off) {
        let of =
            |ids: &[String]| ids.iter().map(|id| made.get(id.as_str()).copied().unwrap_or(1.0)).sum::<f64>();
        let n = match &line.say {
            Say::Repeat(s) => of(&s.of) * spaced(&s.spacing) * s.across.as_ref().map_or(1.0, spaced),
            Say::Ring(s) => of(&s.of) * number(&s.count),
            Say::Path(s) => of(&s.of) * number(&s.count),
            Say::Mirror(s) => of(&s.of),
            Say::Fill(_) => FILLED,
            Say::StartOutline(s) => s.points.len() as f64 / 4.0,
            _ => 4.0,
        };
        all += n;
        made.insert(&line.id, n);
    }
    all
}

fn frame(f: &Frame) -> f64 {
    let mut all = 0.0;
    for line in f.lines.iter().filter(|l| !l.off) {
        match &line.say {
            FrameSay::Members(m) => all += MEMBER * m.path.len() as f64,
            FrameSay::RepeatFrame(r) => all *= number(&r.count),
            FrameSay::MirrorFrame(_) => all *= 2.0,
            _ => all += MEMBER,
        }
    }
    all
}

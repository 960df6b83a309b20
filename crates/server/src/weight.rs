//! How much work a job looks like, told from its text alone and in no time: for choosing the lane, never for
//! a figure. What is told wrong is put right while it runs.

use std::collections::HashMap;

use steelk_core::job::{Frame, FrameOperation, Job, Operation, Piece, Spacing};

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
            Operation::Repeat(s) => of(&s.of) * spaced(&s.spacing) * s.across.as_ref().map_or(1.0, spaced),
            Operation::Ring(s) => of(&s.of) * number(&s.count),
            Operation::Path(s) => of(&s.of) * number(&s.count),
            Operation::Mirror(s) => of(&s.of),
            Operation::Fill(_) => FILLED,
            Operation::StartOutline(s) => s.points.len() as f64 / 4.0,
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
            FrameOperation::Members(m) => all += MEMBER * m.path.len() as f64,
            FrameOperation::RepeatFrame(r) => all *= number(&r.count),
            FrameOperation::MirrorFrame(_) => all *= 2.0,
            _ => all += MEMBER,
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use serde_json::json;

    use super::*;

    fn job(lines: serde_json::Value) -> Job {
        let mut all = vec![
            json!({ "id": "start-1", "say": { "verb": "start_plate", "width": "900", "height": "900" } }),
        ];
        all.push(json!({ "id": "punch-1", "say": { "verb": "punch",
            "shape": { "kind": "round", "diameter": "5" },
            "place": { "x": { "from": "west", "distance": "9" }, "y": { "from": "south",
                "distance": "9" } } } }));
        all.extend(lines.as_array().unwrap().iter().cloned());
        serde_json::from_value(json!({ "format": 1, "title": "t", "pieces": [{
            "id": "a", "mark": "P-1", "name": "", "quantity": "1", "material": "s235", "thickness": "2",
                "lines": all }] }))
        .unwrap()
    }

    fn rows(id: &str, of: &str, count: &str, across: &str) -> serde_json::Value {
        json!({ "id": id, "say": { "verb": "repeat", "of": [of], "axis": "east",
            "spacing": { "by": "pitch", "count": count, "pitch": "9" },
            "across": { "by": "pitch", "count": across, "pitch": "9" } } })
    }

    fn of(lines: serde_json::Value) -> Weight {
        of_job(&job(lines), "", &Cache::default())
    }

    #[test]
    fn counts_make_the_weight_and_copies_of_copies_multiply() {
        assert_eq!(of(json!([])), Weight::Small);
        assert_eq!(of(json!([rows("repeat-1", "punch-1", "15", "15")])), Weight::Small);
        assert_eq!(of(json!([rows("repeat-1", "punch-1", "25", "25")])), Weight::Large);
        let twice = [rows("repeat-1", "punch-1", "40", "2"), rows("repeat-2", "repeat-1", "30", "1")];
        assert_eq!(of(json!(twice)), Weight::Large);
    }

    #[test]
    fn what_cannot_be_read_is_taken_for_some_and_lines_that_are_off_for_none() {
        assert_eq!(of(json!([rows("repeat-1", "punch-1", "n * 2", "1")])), Weight::Small);
        assert_eq!(of(json!([rows("repeat-1", "punch-1", "n * 2", "m")])), Weight::Large);
        assert_eq!(of(json!([rows("repeat-1", "punch-1", "-9", "1e400")])), Weight::Small);
        let mut off = rows("repeat-1", "punch-1", "500", "500");
        off["off"] = true.into();
        assert_eq!(of(json!([off])), Weight::Small);
    }

    /// What is known already weighs nothing, but a picture that is asked for is made.
    #[test]
    fn a_known_piece_weighs_nothing_until_its_picture_is_wanted() {
        let job = job(json!([rows("repeat-1", "punch-1", "45", "40")]));
        let cache = Cache::default();
        assert_eq!(of_job(&job, "", &cache), Weight::Large);
        cache.job(&job);
        assert_eq!(of_job(&job, "", &cache), Weight::Small);
        assert_eq!(of_job(&job, "a", &cache), Weight::Large);
    }
}

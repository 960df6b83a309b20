//! Pieces and frames by content: an edit of one piece evaluates that piece only. The key holds everything
//! that a result may depend on.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard, Weak};

use sha2::{Digest, Sha256};
use steelk_core::brief::BriefResult;
use steelk_core::evaluate::{BriefSubject, CheckOf, called, evaluate_with};
use steelk_core::frame::{FrameResult, PieceOf, evaluate_frame, pieces_named};
use steelk_core::job::{Brief, Frame, Job, Piece};
use steelk_core::result::{JobResult, PieceResult};
use steelk_core::sheet::evaluate_piece;
use steelk_core::shop::{FrameShop, SheetShop};

/// Weights that may be held at once: a cut or a mesh point of a piece is one, about 150 bytes.
const MOST_WEIGHT: usize = 1_200_000;
/// A member of a frame against that.
const MEMBER: usize = 60;

#[derive(Default)]
pub struct Cache {
    pieces: Mutex<Shelf<PieceResult>>,
    frames: Mutex<Shelf<FrameResult>>,
    briefs: Mutex<Shelf<CheckedBrief>>,
}

/// A brief as it was checked against a piece or frame: it holds as long as that one does.
struct CheckedBrief {
    of: Subject,
    checked: Arc<BriefResult>,
}

enum Subject {
    None,
    Piece(Weak<PieceResult>),
    Frame(Weak<FrameResult>),
}

impl Subject {
    fn of(told: Option<&BriefSubject>) -> Subject {
        match told {
            None => Subject::None,
            Some(BriefSubject::Piece(p)) => Subject::Piece(Arc::downgrade(p)),
            Some(BriefSubject::Frame(f)) => Subject::Frame(Arc::downgrade(f)),
        }
    }

    fn is(&self, told: Option<&BriefSubject>) -> bool {
        match (self, told) {
            (Subject::None, None) => true,
            (Subject::Piece(a), Some(BriefSubject::Piece(b))) => Weak::ptr_eq(a, &Arc::downgrade(b)),
            (Subject::Frame(a), Some(BriefSubject::Frame(b))) => Weak::ptr_eq(a, &Arc::downgrade(b)),
            _ => false,
        }
    }
}

/// Results by key; those not asked for the longest go first.
struct Shelf<T> {
    held: HashMap<Key, (u64, usize, Arc<T>)>,
    clock: u64,
    weight: usize,
}

impl<T> Default for Shelf<T> {
    fn default() -> Self {
        Shelf { held: HashMap::new(), clock: 0, weight: 0 }
    }
}

impl<T> Shelf<T> {
    fn get(&mut self, key: &Key) -> Option<Arc<T>> {
        self.clock += 1;
        let hit = self.held.get_mut(key)?;
        hit.0 = self.clock;
        Some(hit.2.clone())
    }

    fn keep(&mut self, key: Key, weight: usize, made: Arc<T>) {
        // What is heavier than a third of the shelf would push all else off it.
        if weight > MOST_WEIGHT / 3 {
            return;
        }
        self.clock += 1;
        self.weight += weight;
        if let Some(old) = self.held.insert(key, (self.clock, weight, made)) {
            self.weight -= old.1;
        }
        while self.weight > MOST_WEIGHT {
            let Some(oldest) = self.held.iter().min_by_key(|(_, v)| v.0).map(|(k, _)| *k) else {
                break;
            };
            if let Some(gone) = self.held.remove(&oldest) {
                self.weight -= gone.1;
            }
        }
    }
}

fn shelf<T>(of: &Mutex<Shelf<T>>) -> MutexGuard<'_, Shelf<T>> {
    of.lock().unwrap_or_else(|e| e.into_inner())
}

fn checks_weight(b: &BriefResult) -> usize {
    20 + b.checks.len() * 8 + b.things.len()
}

fn weight(p: &PieceResult) -> usize {
    let points: usize =
        p.flat.outer.vertices.len() + p.flat.holes.iter().map(|h| h.contour.vertices.len()).sum::<usize>();
    // A mesh that is asked for later has some four points a hole.
    200 + p.features.len() * 2 + points * 3
}

/// A digest of all that a result depends on.
type Key = [u8; 32];

/// What a job's pieces and frames share: the settings that each may ask for.
pub struct Shared {
    sheet: Key,
    frame: Key,
}

impl Shared {
    pub fn of(job: &Job) -> Self {
        let told = job.settings();
        let key = |text: String| digest([text.as_bytes()]);
        Shared { sheet: key(told.frame.sheet.key()), frame: key(told.frame.key()) }
    }

    fn piece(&self, piece: &Piece) -> Key {
        digest([said(piece).as_bytes(), &self.sheet])
    }

    fn frame(&self, job: &Job, frame: &Frame) -> Key {
        // Pieces whose flats are its sections and its ribs belong to what it depends on.
        let flats: Vec<&Piece> = pieces_named(frame).filter_map(|s| called(job, s)).collect();
        digest([said(frame).as_bytes(), said(&flats).as_bytes(), &self.frame])
    }

    /// What it is of is held beside it.
    fn brief(&self, brief: &Brief) -> Key {
        digest([said(brief).as_bytes(), &self.sheet])
    }
}

fn said(what: &impl serde::Serialize) -> String {
    serde_json::to_string(what).unwrap_or_default()
}

fn digest<const N: usize>(parts: [&[u8]; N]) -> Key {
    let mut all = Sha256::new();
    for part in parts {
        all.update((part.len() as u64).to_le_bytes());
        all.update(part);
    }
    all.finalize().into()
}

impl Cache {
    pub fn holds_piece(&self, shared: &Shared, piece: &Piece) -> bool {
        shelf(&self.pieces).held.contains_key(&shared.piece(piece))
    }

    pub fn holds_frame(&self, shared: &Shared, job: &Job, frame: &Frame) -> bool {
        shelf(&self.frames).held.contains_key(&shared.frame(job, frame))
    }

    pub fn job(&self, job: &Job) -> JobResult {
        let shared = Shared::of(job);
        let piece = |shop: &SheetShop, piece: &Piece| {
            let key = shared.piece(piece);
            if let Some(hit) = shelf(&self.pieces).get(&key) {
                return hit;
            }
            let made = Arc::new(evaluate_piece(shop, piece));
            shelf(&self.pieces).keep(key, weight(&made), made.clone());
            made
        };
        let frame = |shop: &FrameShop, frame: &Frame, piece_of: PieceOf| {
            let key = shared.frame(job, frame);
            if let Some(hit) = shelf(&self.frames).get(&key) {
                return hit;
            }
            let made = Arc::new(evaluate_frame(shop, frame, piece_of));
            shelf(&self.frames).keep(key, 500 + made.members.len() * MEMBER, made.clone());
            made
        };
        let brief = |brief: &Brief, of: Option<&BriefSubject>, check: CheckOf| {
            let key = shared.brief(brief);
            if let Some(hit) = shelf(&self.briefs).get(&key).filter(|hit| hit.of.is(of)) {
                return hit.checked.clone();
            }
            let checked = Arc::new(check());
            let held = CheckedBrief { of: Subject::of(of), checked: checked.clone() };
            shelf(&self.briefs).keep(key, checks_weight(&checked), Arc::new(held));
            checked
        };
        evaluate_with(job, piece, frame, brief)
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;
    use serde_json::json;

    use super::*;

    fn key(n: u8) -> Key {
        [n; 32]
    }

    fn job(widths: &[&str]) -> Job {
        let piece = |(i, width): (usize, &&str)| {
            json!({ "id": format!("p{i}"), "mark": format!("P-{i}"), "name": "", "quantity": "1",
                "material": "s235", "thickness": "2", "lines": [{ "id": "start-1",
                "say": { "verb": "start_plate", "width": width, "height": "50" } }] })
        };
        let pieces: Vec<_> = widths.iter().enumerate().map(piece).collect();
        serde_json::from_value(json!({ "format": 1, "title": "x", "pieces": pieces })).unwrap()
    }

    /// What did not change is not worked out again; what did is, and comes to what it comes to alone.
    #[test]
    fn a_piece_that_changed_is_made_and_the_other_is_the_one_held() {
        let cache = Cache::default();
        let before = cache.job(&job(&["100", "200"]));
        let next = job(&["100", "300"]);
        let shared = Shared::of(&next);
        assert!(cache.holds_piece(&shared, &next.pieces[0]) && !cache.holds_piece(&shared, &next.pieces[1]));
        let after = cache.job(&next);
        assert!(Arc::ptr_eq(&before.pieces[0], &after.pieces[0]));
        assert_eq!(after.pieces[1].value("flat_length"), 300.0);
        assert_eq!(before.pieces[1].value("flat_length"), 200.0);
        assert!(cache.holds_piece(&shared, &next.pieces[1]));
    }

    /// A brief is checked anew when it or what it is of changed, and by what it is of alone.
    #[test]
    fn a_brief_is_checked_anew_with_what_it_is_of() {
        let briefed = |widths: &[&str], nominal: &str| {
            let mut told = job(widths);
            let say = json!({ "verb": "length", "of": "north", "value": nominal });
            let line = json!({ "id": "length-1", "say": say });
            let brief = json!({ "id": "b", "mark": "D-1", "name": "", "of": "P-0", "lines": [line] });
            told.briefs.push(serde_json::from_value(brief).unwrap());
            told
        };
        let cache = Cache::default();
        let met = |r: &JobResult| r.briefs[0].tally.met;
        let first = cache.job(&briefed(&["100", "200"], "100"));
        let other = cache.job(&briefed(&["100", "300"], "100"));
        assert_eq!(met(&first), 1, "{:?}", first.briefs[0]);
        assert!(Arc::ptr_eq(&first.briefs[0], &other.briefs[0]));
        assert_eq!(met(&cache.job(&briefed(&["90", "200"], "100"))), 0);
        assert_eq!(met(&cache.job(&briefed(&["90", "200"], "90"))), 1);
        assert_eq!(met(&cache.job(&briefed(&["100", "200"], "100"))), 1);
    }

    /// A setting that a piece reads makes another key; a title does not.
    #[test]
    fn a_setting_makes_another_key_and_a_title_none() {
        let (mut one, two) = (job(&["100"]), job(&["100"]));
        let same = |a: &Job, b: &Job| Shared::of(a).piece(&a.pieces[0]) == Shared::of(b).piece(&b.pieces[0]);
        one.title = "another".into();
        assert!(same(&one, &two));
        one.bend_rule.k = "0.4".into();
        assert!(!same(&one, &two));
    }

    proptest! {
        /// Against a list in the order of use: the weight is never passed, what was asked for last stays, and
        /// what went is the longest unasked for.
        #[test]
        fn a_shelf_keeps_what_was_asked_for_last(
            acts in prop::collection::vec((0u8..20, 1usize..MOST_WEIGHT / 2, any::<bool>()), 1..80),
        ) {
            let mut shelf: Shelf<u8> = Shelf::default();
            // Key and weight, the one asked for last at the end.
            let mut held: Vec<(u8, usize)> = Vec::new();
            for (n, weight, asks) in acts {
                if asks {
                    let hit = shelf.get(&key(n));
                    prop_assert_eq!(hit.is_some(), held.iter().any(|h| h.0 == n));
                    if let Some(at) = held.iter().position(|h| h.0 == n) {
                        let one = held.remove(at);
                        held.push(one);
                    }
                } else {
                    shelf.keep(key(n), weight, Arc::new(n));
                    if weight <= MOST_WEIGHT / 3 {
                        held.retain(|h| h.0 != n);
                        held.push((n, weight));
                        while held.iter().map(|h| h.1).sum::<usize>() > MOST_WEIGHT {
                            held.remove(0);
                        }
                    }
                }
                prop_assert_eq!(shelf.weight, held.iter().map(|h| h.1).sum::<usize>());
                prop_assert!(held.iter().all(|h| shelf.held.contains_key(&key(h.0))));
                prop_assert_eq!(shelf.held.len(), held.len());
            }
        }
    }
}

//! Pieces and frames by content: an edit of one piece evaluates that piece only. The key holds everything
//! that a result may depend on.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard};

use steelk_core::frame::{FrameResult, evaluate_frame};
use steelk_core::job::{Frame, Job, Piece};
use steelk_core::result::{JobResult, PieceResult};
use steelk_core::sheet;

/// Weights that may be held at once: a cut or a mesh point of a piece is one, about 150 bytes.
const MOST_WEIGHT: usize = 1_200_000;
/// A member of a frame against that.
const MEMBER: usize = 60;

#[derive(Default)]
pub struct Cache {
    pieces: Mutex<Shelf<PieceResult>>,
    frames: Mutex<Shelf<FrameResult>>,
}

/// Results by key; those not asked for the longest go first.
struct Shelf<T> {
    held: HashMap<String, (u64, usize, Arc<T>)>,
    clock: u64,
    weight: usize,
}

impl<T> Default for Shelf<T> {
    fn default() -> Self {
        Shelf { held: HashMap::new(), clock: 0, weight: 0 }
    }
}

impl<T> Shelf<T> {
    fn get(&mut self, key: &str) -> Option<Arc<T>> {
        self.clock += 1;
        let hit = self.held.get_mut(key)?;
        hit.0 = self.clock;
        Some(hit.2.clone())
    }

    fn keep(&mut self, key: String, weight: usize, made: Arc<T>) {
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
            let Some(oldest) = self.held.iter().min_by_key(|(_, v)| v.0).map(|(k, _)| k.clone()) else {
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

fn weight(p: &PieceResult) -> usize {
    let points: usize =
        p.flat.outer.vertices.len() + p.flat.holes.iter().map(|h| h.contour.vertices.len()).sum::<usize>();
    // A mesh that is asked for later has some four points a hole.
    200 + p.features.len() * 2 + points * 3
}

impl Cache {
    /// The job's own settings, all that pieces and frames share, as text.
    pub fn settings(&self, job: &Job) -> String {
        let bare = Job {
            display: job.display,
            bend_rule: job.bend_rule.clone(),
            figures: job.figures.clone(),
            stock: job.stock.clone(),
            bend_table: job.bend_table.clone(),
            test_bends: job.test_bends.clone(),
            brake: job.brake.clone(),
            materials: job.materials.clone(),
            sections: job.sections.clone(),
            saw: job.saw.clone(),
            ..Job::default()
        };
        serde_json::to_string(&bare).unwrap_or_default()
    }

    fn piece_key(settings: &str, piece: &Piece) -> String {
        serde_json::to_string(piece).unwrap_or_default() + settings
    }

    fn frame_key(job: &Job, settings: &str, frame: &Frame) -> String {
        // A piece whose flat is a section belongs to what the frame depends on.
        let said = serde_json::to_string(frame).unwrap_or_default();
        let low = said.to_lowercase();
        let shapes = job.pieces.iter().filter(|p| {
            let mark = p.mark.trim().to_lowercase();
            let mark = serde_json::to_string(&mark).unwrap_or_default();
            mark.len() > 2 && low.contains(&mark[1..mark.len() - 1])
        });
        let shapes = serde_json::to_string(&shapes.collect::<Vec<_>>()).unwrap_or_default();
        said + &shapes + settings
    }

    pub fn holds_piece(&self, settings: &str, piece: &Piece) -> bool {
        shelf(&self.pieces).held.contains_key(&Self::piece_key(settings, piece))
    }

    pub fn holds_frame(&self, job: &Job, settings: &str, frame: &Frame) -> bool {
        shelf(&self.frames).held.contains_key(&Self::frame_key(job, settings, frame))
    }

    pub fn job(&self, job: &Job) -> JobResult {
        let settings = self.settings(job);
        let piece = |job: &Job, piece: &Piece| {
            let key = Self::piece_key(&settings, piece);
            if let Some(hit) = shelf(&self.pieces).get(&key) {
                return hit;
            }
            let made = Arc::new(sheet::evaluate_piece(job, piece));
            shelf(&self.pieces).keep(key, weight(&made), made.clone());
            made
        };
        let frame = |job: &Job, frame: &Frame| {
            let key = Self::frame_key(job, &settings, frame);
            if let Some(hit) = shelf(&self.frames).get(&key) {
                return hit;
            }
            let made = Arc::new(evaluate_frame(job, frame));
            shelf(&self.frames).keep(key, 500 + made.members.len() * MEMBER, made.clone());
            made
        };
        steelk_core::evaluate::evaluate_with(job, piece, frame)
    }
}

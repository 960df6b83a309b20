//! Pieces by content: an edit of one piece evaluates that piece only.

use std::collections::HashMap;
use std::sync::{Arc, Mutex};

use steelk_core::frame::{FrameResult, evaluate_frame};
use steelk_core::job::{Frame, Job, Piece};
use steelk_core::result::{JobResult, PieceResult};
use steelk_core::sheet;

/// Cuts and mesh points that may be held at once.
const MOST_WEIGHT: usize = 3_000_000;

#[derive(Default)]
pub struct Cache {
    inner: Mutex<Inner>,
    frames: Mutex<Vec<(String, Arc<FrameResult>)>>,
}

const MOST_FRAMES_KEPT: usize = 24;

#[derive(Default)]
struct Inner {
    pieces: HashMap<String, (u64, Arc<PieceResult>)>,
    clock: u64,
    weight: usize,
}

fn weight(p: &PieceResult) -> usize {
    200 + p.features.len() * 4 + p.mesh.points.len()
}

/// Everything that a piece's result depends on.
fn key(job: &Job, piece: &Piece) -> String {
    serde_json::to_string(&(piece, &job.figures, job.display, &job.bend_rule, &job.stock)).unwrap_or_default()
}

impl Cache {
    pub fn piece(&self, job: &Job, piece: &Piece) -> Arc<PieceResult> {
        let key = key(job, piece);
        if let Ok(mut inner) = self.inner.lock() {
            inner.clock += 1;
            let clock = inner.clock;
            if let Some(hit) = inner.pieces.get_mut(&key) {
                hit.0 = clock;
                return hit.1.clone();
            }
        }
        let made = Arc::new(sheet::evaluate_piece(job, piece));
        if let Ok(mut inner) = self.inner.lock() {
            inner.keep(key, made.clone());
        }
        made
    }

    pub fn job(&self, job: &Job) -> JobResult {
        sheet::evaluate_with(job, |job, piece| self.piece(job, piece), |job, frame| self.frame(job, frame))
    }

    /// Frames by content, a few of the last.
    pub fn frame(&self, job: &Job, frame: &Frame) -> Arc<FrameResult> {
        // A piece whose flat is a section belongs to what the frame depends on.
        let said = serde_json::to_string(frame).unwrap_or_default();
        let shapes: Vec<&Piece> = job.pieces.iter().filter(|p| !p.mark.is_empty() && said.contains(p.mark.as_str())).collect();
        let key = serde_json::to_string(&(&said, shapes, &job.figures, job.display, &job.sections, &job.saw, &job.bend_rule, &job.stock)).unwrap_or_default();
        if let Ok(kept) = self.frames.lock()
            && let Some((_, hit)) = kept.iter().find(|(k, _)| *k == key)
        {
            return hit.clone();
        }
        let made = Arc::new(evaluate_frame(job, frame));
        if let Ok(mut kept) = self.frames.lock() {
            if kept.len() >= MOST_FRAMES_KEPT {
                kept.remove(0);
            }
            kept.push((key, made.clone()));
        }
        made
    }
}

impl Inner {
    fn keep(&mut self, key: String, made: Arc<PieceResult>) {
        self.weight += weight(&made);
        self.clock += 1;
        if let Some(old) = self.pieces.insert(key, (self.clock, made)) {
            self.weight -= weight(&old.1);
        }
        while self.weight > MOST_WEIGHT && self.pieces.len() > 1 {
            let Some(oldest) = self.pieces.iter().min_by_key(|(_, v)| v.0).map(|(k, _)| k.clone()) else { break };
            if let Some(gone) = self.pieces.remove(&oldest) {
                self.weight -= weight(&gone.1);
            }
        }
    }
}

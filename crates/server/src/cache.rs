//! Pieces by content: an edit of one piece evaluates that piece only.

use std::collections::HashMap;
use std::sync::{Arc, Mutex};

use steelk_core::job::{Job, Piece};
use steelk_core::result::{JobResult, PieceResult};
use steelk_core::sheet;

/// Cuts and mesh points that may be held at once.
const MOST_WEIGHT: usize = 3_000_000;

#[derive(Default)]
pub struct Cache {
    inner: Mutex<Inner>,
}

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
        sheet::evaluate_with(job, |job, piece| self.piece(job, piece))
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

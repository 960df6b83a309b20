//! Pictures that are being traced, unpacked once.

use std::sync::{Arc, Mutex, MutexGuard};

use steelk_core::trace::Gray;

/// Grey values that may be held at once.
const MOST_BYTES: usize = 120_000_000;

/// By digest, the last asked for last.
#[derive(Default)]
pub struct Pictures(Mutex<Vec<(String, Arc<Gray>)>>);

impl Pictures {
    fn held(&self) -> MutexGuard<'_, Vec<(String, Arc<Gray>)>> {
        self.0.lock().unwrap_or_else(|e| e.into_inner())
    }

    pub fn get(&self, digest: &str) -> Option<Arc<Gray>> {
        let mut all = self.held();
        let at = all.iter().position(|p| p.0 == digest)?;
        let found = all.remove(at);
        let picture = found.1.clone();
        all.push(found);
        Some(picture)
    }

    pub fn keep(&self, digest: &str, picture: Arc<Gray>) {
        let mut all = self.held();
        all.retain(|p| p.0 != digest);
        all.push((digest.into(), picture));
        while all.len() > 1 && all.iter().map(|p| p.1.bytes()).sum::<usize>() > MOST_BYTES {
            all.remove(0);
        }
    }
}

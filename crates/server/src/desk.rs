//! Where computing is let in. Small work has a lane of its own and passes large work; what turns out larger
//! than it looked goes on in the lane of large work. A client that hangs up, or asks for a newer draft, ends
//! what it asked for before.

use std::collections::HashMap;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex};
use std::time::Duration;

use steelk_core::halt::{self, Ended, Long, Watch};
use tokio::sync::{OwnedSemaphorePermit, Semaphore};

use crate::line::Line;
use crate::problem::Problem;

/// Threads for small work.
const SMALL_LANE: usize = 2;
/// Small work that keeps a processor longer than this goes on among large work. (By the clock on the wall,
/// work that waited for a processor on a busy machine was taken for large, and then waited for seconds.)
const SMALL_FOR: Duration = Duration::from_millis(50);
/// How long work waits to begin before the client is asked to come again.
const PATIENCE: Duration = Duration::from_secs(20);
/// How often it is looked whether the client is still there.
const LOOK: Duration = Duration::from_millis(50);
/// What a client is told then, seconds.
const COME_AGAIN: u32 = 5;
/// Better plans of bars are looked for so long; the gap that is left is told with the plan.
pub const LONGEST_SEARCH: Duration = Duration::from_secs(10);
/// Clients whose newest draft is remembered.
const MOST_CLIENTS: usize = 4096;

/// How heavy a piece of work looks before it is begun.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Weight {
    Small,
    Large,
}

pub type Stop = Arc<AtomicBool>;
type Permit = Arc<Mutex<Option<OwnedSemaphorePermit>>>;

pub struct Desk {
    small: Arc<Semaphore>,
    large: Arc<Semaphore>,
    /// Large work that has not begun waits here, one of it in the lane: what moves over stands behind that
    /// one alone.
    door: Semaphore,
    /// Work in hand, by client.
    newest: Mutex<HashMap<String, Stop>>,
    running: Mutex<Vec<Stop>>,
    closed: AtomicBool,
}

impl Default for Desk {
    fn default() -> Self {
        // One core stays free for small work and for answering.
        let cores = std::thread::available_parallelism().map_or(2, |n| n.get());
        Desk {
            small: Arc::new(Semaphore::new(SMALL_LANE)),
            large: Arc::new(Semaphore::new(cores.saturating_sub(1).max(1))),
            door: Semaphore::new(1),
            newest: Mutex::default(),
            running: Mutex::default(),
            closed: AtomicBool::new(false),
        }
    }
}

/// A request at work.
pub struct Asker<'a> {
    stop: Stop,
    ends: bool,
    desk: &'a Desk,
}

impl Drop for Asker<'_> {
    fn drop(&mut self) {
        if self.ends {
            self.stop.store(true, Ordering::Relaxed);
        }
        self.desk.done(&self.stop);
    }
}

impl Desk {
    /// Ends all work; nothing more is let in.
    pub fn close(&self) {
        self.closed.store(true, Ordering::Relaxed);
        if let Ok(r) = self.running.lock() {
            r.iter().for_each(|s| s.store(true, Ordering::Relaxed));
        }
    }

    /// A stop of its own for work that streams its answer. The newest of a client ends its older.
    pub fn stop_of(&self, client: &str) -> Stop {
        let stop = Stop::default();
        if let Ok(mut r) = self.running.lock() {
            r.push(stop.clone());
        }
        if !client.is_empty()
            && let Ok(mut newest) = self.newest.lock()
        {
            if newest.len() >= MOST_CLIENTS {
                newest.retain(|_, s| Arc::strong_count(s) > 1);
            }
            if let Some(old) = newest.insert(client.into(), stop.clone()) {
                old.store(true, Ordering::Relaxed);
            }
        }
        stop
    }

    /// Work with this stop is no longer in hand.
    pub fn done(&self, stop: &Stop) {
        if let Ok(mut r) = self.running.lock() {
            r.retain(|s| !Arc::ptr_eq(s, stop));
        }
    }

    /// Tells when a request is over; `ends` its work too when it is dropped before.
    pub fn asker(&self, stop: &Stop, ends: bool) -> Asker<'_> {
        Asker { stop: stop.clone(), ends, desk: self }
    }

    /// Runs work off the request threads, when its turn comes. What has a line is given up when that is gone.
    pub async fn run<T: Send + 'static>(
        &self,
        weight: Weight,
        stop: Stop,
        line: Option<&Line>,
        f: impl FnOnce() -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        let mut work = std::pin::pin!(self.in_turn(weight, stop.clone(), f));
        loop {
            match tokio::time::timeout(LOOK, &mut work).await {
                Ok(done) => return done,
                Err(_) if line.is_some_and(Line::is_gone) => {
                    stop.store(true, Ordering::Relaxed);
                    return Err(Problem::replaced());
                }
                Err(_) => {}
            }
        }
    }

    async fn in_turn<T: Send + 'static>(
        &self,
        weight: Weight,
        stop: Stop,
        f: impl FnOnce() -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        let place = async {
            if weight == Weight::Small {
                return self.small.clone().acquire_owned().await;
            }
            let _first = self.door.acquire().await?;
            self.large.clone().acquire_owned().await
        };
        let permit = match tokio::time::timeout(PATIENCE, place).await {
            Ok(Ok(p)) => p,
            _ => return Err(Problem::busy("The server is at work on other requests", COME_AGAIN)),
        };
        if self.closed.load(Ordering::Relaxed) {
            return Err(Problem::busy("The server is being stopped", COME_AGAIN));
        }
        if stop.load(Ordering::Relaxed) {
            return Err(Problem::replaced());
        }
        let permit: Permit = Arc::new(Mutex::new(Some(permit)));
        // Made inside the thread: what waits there must not leave it.
        let (large, held, ended) = (self.large.clone(), permit.clone(), stop.clone());
        let done = tokio::task::spawn_blocking(move || {
            let long = (weight == Weight::Small).then(|| Long {
                after: SMALL_FOR,
                clock: worked,
                tell: Box::new(move || move_over(&large, &held, &ended)),
            });
            let got = halt::watched(Watch { stop, long }, f);
            drop(permit);
            got
        });
        match done.await {
            Ok(Ok(got)) => got,
            Ok(Err(Ended::Halted)) if self.closed.load(Ordering::Relaxed) => {
                Err(Problem::busy("The server is being stopped", COME_AGAIN))
            }
            Ok(Err(Ended::Halted)) => Err(Problem::replaced()),
            Ok(Err(Ended::Failed(payload))) => {
                Err(Problem::ours(format!("it panicked: {}", said(payload.as_ref()))))
            }
            Err(e) => Err(Problem::ours(e)),
        }
    }
}

/// Time that a processor has given this thread.
#[cfg(unix)]
fn worked() -> Duration {
    let t = rustix::time::clock_gettime(rustix::time::ClockId::ThreadCPUTime);
    Duration::new(t.tv_sec.unsigned_abs(), u32::try_from(t.tv_nsec).unwrap_or(0))
}

/// Time on the wall, where the system's is not asked for.
#[cfg(not(unix))]
fn worked() -> Duration {
    static BEGAN: std::sync::LazyLock<std::time::Instant> = std::sync::LazyLock::new(std::time::Instant::now);
    BEGAN.elapsed()
}

/// Gives the place in the small lane back and waits for one among large work, before all of it that is still
/// at the door, unless nobody wants it any more.
fn move_over(large: &Arc<Semaphore>, held: &Permit, ended: &Stop) {
    if let Ok(mut h) = held.lock() {
        h.take();
    }
    let mut turn = Box::pin(large.clone().acquire_owned());
    while !ended.load(Ordering::Relaxed) {
        let Ok(got) =
            tokio::runtime::Handle::current().block_on(async { tokio::time::timeout(LOOK, &mut turn).await })
        else {
            continue;
        };
        if let Ok(mut h) = held.lock() {
            *h = got.ok();
        }
        break;
    }
}

fn said(payload: &(dyn std::any::Any + Send)) -> String {
    payload
        .downcast_ref::<&str>()
        .map(ToString::to_string)
        .or_else(|| payload.downcast_ref::<String>().cloned())
        .unwrap_or_else(|| "no message".into())
}

#[cfg(all(test, unix))]
mod tests {
    use super::*;

    fn runtime() -> tokio::runtime::Runtime {
        tokio::runtime::Builder::new_current_thread().enable_time().build().unwrap()
    }

    /// Runs small work while large work keeps its lane; tells whether it ended before that.
    fn passes(f: impl FnOnce() + Send + 'static) -> bool {
        runtime().block_on(async {
            let desk = Desk::default();
            let lane = desk.large.clone();
            let kept = lane.acquire_many_owned(desk.large.available_permits() as u32).await.unwrap();
            let small = desk.run(Weight::Small, Stop::default(), None, move || {
                f();
                Ok(())
            });
            let mut small = std::pin::pin!(small);
            let passed = tokio::time::timeout(Duration::from_secs(2), &mut small).await.is_ok();
            drop(kept);
            if !passed {
                small.await.unwrap();
            }
            passed
        })
    }

    fn points() {
        (0..1000).for_each(|_| halt::point());
    }

    #[test]
    fn small_work_that_waits_for_a_processor_stays_small() {
        assert!(passes(|| {
            std::thread::sleep(4 * SMALL_FOR);
            points();
        }));
    }

    fn works_for(time: Duration) {
        let began = worked();
        while worked() - began < time {
            std::hint::black_box(began);
        }
        points();
    }

    /// A machine that stands still for a moment makes small work look large: it must not wait for all who
    /// came later than it and have not begun.
    #[test]
    fn what_turns_out_large_goes_before_large_work_that_has_not_begun() {
        let order = Arc::new(Mutex::new(Vec::new()));
        let together = Desk::default().large.available_permits();
        let ask = |desk: &Arc<Desk>, weight, time, name: &'static str| {
            let (desk, order) = (desk.clone(), order.clone());
            tokio::task::spawn_local(async move {
                let work = move || {
                    works_for(time);
                    order.lock().unwrap().push(name);
                    Ok(())
                };
                desk.run(weight, Stop::default(), None, work).await.unwrap();
            })
        };
        let all = tokio::task::LocalSet::new();
        all.block_on(&runtime(), async {
            let desk = Arc::new(Desk::default());
            let kept = desk.large.clone().acquire_many_owned(together as u32).await.unwrap();
            let mut asked: Vec<_> =
                (0..2 * together + 4).map(|_| ask(&desk, Weight::Large, SMALL_FOR, "large")).collect();
            tokio::time::sleep(SMALL_FOR).await;
            asked.push(ask(&desk, Weight::Small, 2 * SMALL_FOR, "small"));
            tokio::time::sleep(10 * SMALL_FOR).await;
            drop(kept);
            for one in asked {
                one.await.unwrap();
            }
        });
        let order = order.lock().unwrap().clone();
        let place = order.iter().position(|n| *n == "small").unwrap();
        // One stands at the door already, and with more processors some begin together.
        assert!(place <= together + 1, "{order:?}");
    }

    #[test]
    fn work_that_turns_out_large_goes_on_among_large_work() {
        assert!(!passes(|| works_for(2 * SMALL_FOR)));
    }
}

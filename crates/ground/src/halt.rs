//! Long computations ask here, between steps, whether they should go on. A computation that is watched can be
//! ended from outside: it unwinds to where its watch began, without a word on standard error. One that nobody
//! watches pays a look at a thread's own cell.

use std::any::Any;
use std::cell::{Cell, RefCell};
use std::panic::{AssertUnwindSafe, catch_unwind, resume_unwind};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Duration;

/// Ended from outside.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Halted;

/// How a watched computation ended without a result.
pub enum Ended {
    Halted,
    /// A panic, with its payload.
    Failed(Box<dyn Any + Send>),
}

/// What a computation is watched by.
pub struct Watch {
    pub stop: Arc<AtomicBool>,
    pub long: Option<Long>,
}

/// What is done about a computation that takes long.
pub struct Long {
    pub after: Duration,
    /// Time by which it is measured, on the thread of the computation.
    pub clock: fn() -> Duration,
    /// Called once, from within: it may wait.
    pub tell: Box<dyn FnOnce()>,
}

struct Watching {
    watch: Watch,
    /// When it must be told that it takes long, by its clock.
    due: Duration,
    /// The clock is looked at once in so many points.
    points: u32,
}

const CLOCK_EVERY: u32 = 32;

thread_local! {
    static NOW: RefCell<Option<Watching>> = const { RefCell::new(None) };
}

/// Runs `f` under a watch.
pub fn watched<T>(watch: Watch, f: impl FnOnce() -> T) -> Result<T, Ended> {
    let due = watch.long.as_ref().map_or(Duration::MAX, |l| (l.clock)().saturating_add(l.after));
    let before = NOW.with(|n| n.borrow_mut().replace(Watching { watch, due, points: 0 }));
    let got = catch_unwind(AssertUnwindSafe(f));
    NOW.with(|n| *n.borrow_mut() = before);
    got.map_err(|payload| if payload.is::<Halted>() { Ended::Halted } else { Ended::Failed(payload) })
}

/// A place where a long computation may be ended. Cheap enough for every turn of a loop that does some work.
pub fn point() {
    let long = NOW.with(|n| {
        let mut now = n.borrow_mut();
        let w = now.as_mut()?;
        if w.watch.stop.load(Ordering::Relaxed) {
            // A drop that runs while this unwinds must not be halted again.
            *now = None;
            drop(now);
            resume_unwind(Box::new(Halted));
        }
        w.points = w.points.wrapping_add(1);
        let look = w.points.is_multiple_of(CLOCK_EVERY);
        if look && w.watch.long.as_ref().is_some_and(|l| (l.clock)() > w.due) {
            w.watch.long.take()
        } else {
            None
        }
    });
    if let Some(Long { tell, .. }) = long {
        tell();
        point();
    }
}

/// A place that is passed millions of times: one passage in a thousand is a `point`.
#[inline]
pub fn often() {
    thread_local! {
        static PASSED: Cell<u32> = const { Cell::new(0) };
    }
    let passed = PASSED.with(|p| {
        p.set(p.get().wrapping_add(1));
        p.get()
    });
    if passed.is_multiple_of(1024) {
        point();
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn watch(stop: &Arc<AtomicBool>) -> Watch {
        Watch { stop: stop.clone(), long: None }
    }

    #[test]
    fn what_nobody_watches_goes_on() {
        (0..1000).for_each(|_| point());
        assert_eq!(watched(watch(&Arc::default()), || 7).ok(), Some(7));
    }

    #[test]
    fn a_stop_from_outside_ends_it_and_the_thread_can_go_on() {
        let stop = Arc::new(AtomicBool::new(false));
        let other = stop.clone();
        std::thread::spawn(move || {
            std::thread::sleep(Duration::from_millis(20));
            other.store(true, Ordering::Relaxed);
        });
        let ended = watched(watch(&stop), || {
            loop {
                point();
            }
        });
        assert!(matches!(ended, Err(Ended::Halted)));
        assert_eq!(
            watched(watch(&Arc::default()), || {
                point();
                3
            })
            .ok(),
            Some(3)
        );
    }

    #[test]
    fn a_panic_is_told_apart() {
        let ended = watched(watch(&Arc::default()), || -> u8 { resume_unwind(Box::new("broken")) });
        assert!(matches!(ended, Err(Ended::Failed(p)) if p.downcast_ref::<&str>() == Some(&"broken")));
    }

    thread_local! {
        static TICKS: Cell<u64> = const { Cell::new(0) };
    }

    /// A clock that goes on a millisecond each time it is looked at.
    fn ticking() -> Duration {
        TICKS.with(|t| Duration::from_millis(t.replace(t.get() + 1)))
    }

    #[test]
    fn a_long_one_is_told_of_once_by_its_own_clock() {
        for (clock, times) in [(ticking as fn() -> Duration, 1), (|| Duration::ZERO, 0)] {
            let told = Arc::new(std::sync::Mutex::new(0));
            let count = told.clone();
            let tell: Box<dyn FnOnce()> = Box::new(move || *count.lock().unwrap() += 1);
            let long = Some(Long { after: Duration::from_millis(5), clock, tell });
            watched(Watch { stop: Arc::default(), long }, || (0..CLOCK_EVERY * 20).for_each(|_| point()))
                .ok()
                .unwrap();
            assert_eq!(*told.lock().unwrap(), times);
        }
    }
}

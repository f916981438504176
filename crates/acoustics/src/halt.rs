//! Work that is no longer wanted stops: whoever asked raises a flag, and the loops that can take long look at it.
//!
//! A stop unwinds to [`under`], so that nothing between has to know of it and no half result gets out; nothing in these crates
//! holds a lock or a file while it works. Threads a computation starts of its own are given the flag by [`carried`].

use std::cell::RefCell;
use std::panic::{AssertUnwindSafe, catch_unwind, resume_unwind};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

thread_local! {
    static FLAG: RefCell<Option<Arc<AtomicBool>>> = const { RefCell::new(None) };
}

/// The work was stopped before it was done.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Halted;

/// Puts the flag back that was there before.
struct Before(Option<Arc<AtomicBool>>);

impl Drop for Before {
    fn drop(&mut self) {
        FLAG.set(self.0.take());
    }
}

/// Works under a flag.
///
/// # Errors
/// [`Halted`] where the flag was up before the work was done. Any other panic goes on.
pub fn under<T>(flag: &Arc<AtomicBool>, work: impl FnOnce() -> T) -> Result<T, Halted> {
    let before = Before(FLAG.replace(Some(flag.clone())));
    let done = catch_unwind(AssertUnwindSafe(|| {
        check();
        work()
    }));
    drop(before);
    done.map_err(|cause| if cause.is::<Halted>() { Halted } else { resume_unwind(cause) })
}

/// Stops here if the flag of this work is up; does nothing where there is none.
pub fn check() {
    let up = FLAG.with_borrow(|flag| flag.as_ref().is_some_and(|flag| flag.load(Ordering::Relaxed)));
    if up {
        resume_unwind(Box::new(Halted));
    }
}

/// The same work under the flag of this thread, for another thread.
pub fn carried<A, T>(work: impl Fn(A) -> T + Sync) -> impl Fn(A) -> T + Sync {
    let flag = FLAG.with_borrow(Clone::clone);
    move |given| {
        let _before = Before(FLAG.replace(flag.clone()));
        work(given)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn flag(up: bool) -> Arc<AtomicBool> {
        Arc::new(AtomicBool::new(up))
    }

    #[test]
    fn work_under_a_raised_flag_stops_and_other_work_goes_on() {
        check();
        assert_eq!(under(&flag(false), || 3), Ok(3));
        assert_eq!(under(&flag(true), || 3), Err(Halted));
        let raised = flag(false);
        let stopped = under(&raised, || {
            for i in 0.. {
                check();
                if i == 9 {
                    raised.store(true, Ordering::Relaxed);
                }
            }
        });
        assert_eq!(stopped, Err(Halted));
        check();
    }

    #[test]
    fn a_thread_of_its_own_stops_too() {
        let raised = flag(false);
        let seen = under(&raised, || {
            let work = carried(|x: i32| {
                check();
                x
            });
            raised.store(true, Ordering::Relaxed);
            std::thread::scope(|scope| scope.spawn(|| work(1)).join().is_err())
        });
        assert_eq!(seen, Ok(true));
    }

    #[test]
    #[should_panic(expected = "of another kind")]
    fn other_panics_go_on() {
        let _ = under(&flag(false), || panic!("of another kind"));
    }
}

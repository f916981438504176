//! The worker that tries shelves: claims a part, computes it on all cores, stores it; wakes when a trial begins here
//! and looks around now and then for trials of other servers.

use oak_drum_store::tables::trial::{self, Claim};
use oak_drum_store::{Error, Store};
use rayon::prelude::*;
use std::sync::{Arc, Condvar, Mutex, PoisonError};
use std::time::Duration;
use uuid::Uuid;

/// How often an idle worker looks around.
const LOOK_AROUND: Duration = Duration::from_secs(2);

/// Wakes the worker.
#[derive(Clone, Debug, Default)]
pub struct Bell(Arc<(Mutex<bool>, Condvar)>);

impl Bell {
    /// Rings it.
    pub fn ring(&self) {
        *self.0.0.lock().unwrap_or_else(PoisonError::into_inner) = true;
        self.0.1.notify_all();
    }

    /// Waits for a ring, at most for a while.
    fn wait(&self, at_most: Duration) {
        let rung = self.0.0.lock().unwrap_or_else(PoisonError::into_inner);
        let waited = self.0.1.wait_timeout_while(rung, at_most, |rung| !*rung);
        *waited.unwrap_or_else(PoisonError::into_inner).0 = false;
    }
}

/// Works until the process ends.
pub fn work(store: &Store, bell: &Bell) {
    let worker = Uuid::now_v7();
    loop {
        match one_part(store, worker) {
            Ok(true) => {}
            Ok(false) => bell.wait(LOOK_AROUND),
            Err(error) => {
                tracing::warn!(%error, "the worker waits for the store");
                std::thread::sleep(LOOK_AROUND);
            }
        }
    }
}

/// Does one part, if there is one.
fn one_part(store: &Store, worker: Uuid) -> Result<bool, Error> {
    let mut connection = store.connect()?;
    let Some(claim) = trial::claim(&mut connection, worker)? else { return Ok(false) };
    // a sheet that makes the search fall over must not take the worker with it: its part lapses, is tried again
    // and at last given up
    let Ok(outcomes) = std::panic::catch_unwind(|| compute(&claim)) else {
        tracing::error!(trial = %claim.trial, part = claim.part, "the search fell over");
        return Ok(true);
    };
    if !trial::finish(&mut connection, worker, &claim, &outcomes)? {
        tracing::info!(trial = %claim.trial, part = claim.part, "another worker has taken this part over");
    }
    Ok(true)
}

fn compute(claim: &Claim) -> Vec<(usize, oak_drum_matching::Outcome)> {
    claim
        .sheets
        .par_iter()
        .enumerate()
        .flat_map_iter(|(index, (_, sheet))| {
            oak_drum_matching::run(&claim.goal, sheet, &claim.counts, &claim.families)
                .into_iter()
                .map(move |outcome| (index, outcome))
        })
        .collect()
}

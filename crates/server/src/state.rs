//! What the handlers share.

use crate::problem::Problem;
use crate::worker::Bell;
use oak_drum_store::{Connection, Error, Store, demo, tables::owner, tables::photo};
use std::sync::{Arc, OnceLock};
use std::time::Duration;
use uuid::Uuid;

/// The store, and its owner once the database has been seen.
#[derive(Clone)]
pub struct State {
    store: Store,
    owner: Arc<OnceLock<Uuid>>,
    bell: Bell,
}

impl State {
    /// State over a store that may not be there yet.
    pub fn new(store: Store) -> State {
        State { store, owner: Arc::new(OnceLock::new()), bell: Bell::default() }
    }

    /// Migrates, finds the owner and loads the demo if asked to; tries again every second until the database
    /// answers.
    pub fn prepare(&self, with_demo: bool) {
        loop {
            match self.prepare_once(with_demo) {
                Ok(()) => return tracing::info!("the workshop is open"),
                Err(error) => tracing::warn!(%error, "the workshop is not open yet"),
            }
            std::thread::sleep(Duration::from_secs(1));
        }
    }

    fn prepare_once(&self, with_demo: bool) -> Result<(), Error> {
        self.store.migrate()?;
        let mut connection = self.store.connect()?;
        if with_demo && demo::load(&mut connection)? {
            tracing::info!("the demo workshop is loaded");
        }
        let owner = owner::ensure(&mut connection, "Workshop")?;
        let gone = photo::sweep(&mut connection, chrono::Utc::now())?;
        if gone > 0 {
            tracing::info!(gone, "photos that stood in no entry for a month are gone");
        }
        let _ = self.owner.set(owner.id);
        Ok(())
    }

    /// Whether the workshop is open and the database answers now.
    pub async fn ready(&self) -> Result<(), Problem> {
        let store = self.store.clone();
        self.owner()?;
        run(move || store.ping()).await
    }

    /// The owner, once the workshop is open.
    ///
    /// # Errors
    /// 503 before that.
    pub fn owner(&self) -> Result<Uuid, Problem> {
        self.owner.get().copied().ok_or_else(|| Error::Away("the workshop is not open yet".into()).into())
    }

    /// What wakes the worker that tries shelves.
    pub fn bell(&self) -> &Bell {
        &self.bell
    }

    /// The store, for work that goes on after its request was answered.
    pub fn store(&self) -> &Store {
        &self.store
    }

    /// Works on trials until the process ends.
    pub fn work(&self) {
        crate::worker::work(&self.store, &self.bell);
    }

    /// Runs work on a connection, off the event loop.
    pub async fn with<T: Send + 'static>(
        &self,
        work: impl FnOnce(&mut Connection, Uuid) -> Result<T, Error> + Send + 'static,
    ) -> Result<T, Problem> {
        let (store, owner) = (self.store.clone(), self.owner()?);
        run(move || work(&mut store.connect()?, owner)).await
    }
}

async fn run<T: Send + 'static>(work: impl FnOnce() -> Result<T, Error> + Send + 'static) -> Result<T, Problem> {
    match actix_web::web::block(work).await {
        Ok(outcome) => outcome.map_err(Problem::from),
        Err(_) => Err(Error::Unforeseen("the worker pool is gone".into()).into()),
    }
}

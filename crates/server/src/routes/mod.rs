//! The routes: one file a resource.

pub mod airway;
pub mod builds;
pub mod cabinet;
pub mod choose;
pub mod evaluate;
pub mod files;
pub mod health;
pub mod quiet;
pub mod revisions;
pub mod trials;
pub mod woofers;

use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use actix_web::web::ServiceConfig;
use oak_drum_design::Design;
use oak_drum_design::read::Reader;
use serde::de::DeserializeOwned;
use serde_json::Value;
use std::sync::OnceLock;

/// Registers every route under `/api`.
pub fn configure(config: &mut ServiceConfig) {
    config
        .service(health::live)
        .service(health::ready)
        .service(evaluate::evaluate)
        .service(evaluate::curves)
        .service(evaluate::findings)
        .service(evaluate::suggest)
        .service(evaluate::families)
        .service(choose::materials)
        .service(choose::motion)
        .service(choose::tolerance)
        .service(choose::seek)
        .service(airway::pipes)
        .service(airway::airway)
        .service(airway::trim)
        .service(quiet::quiet)
        .service(cabinet::cabinet)
        .service(cabinet::saw)
        .service(cabinet::bench)
        .service(cabinet::sheets)
        .service(cabinet::file)
        .service(quiet::mode)
        .service(builds::list)
        .service(builds::create)
        .service(builds::get)
        .service(builds::rename)
        .service(builds::delete)
        .service(builds::restore)
        .service(revisions::create)
        .service(revisions::save)
        .service(revisions::history)
        .service(revisions::delete)
        .service(revisions::restore)
        .service(files::preview)
        .service(files::import)
        .service(files::export)
        .service(woofers::derive)
        .service(woofers::keep)
        .service(woofers::list)
        .service(woofers::get)
        .service(woofers::create)
        .service(woofers::save)
        .service(woofers::favourite)
        .service(woofers::delete)
        .service(woofers::restore)
        .service(trials::rules)
        .service(trials::begin)
        .service(trials::of_build)
        .service(trials::get)
        .service(trials::stop)
        .service(trials::resume)
        .service(trials::results)
        .service(trials::design);
}

/// A part of a request, read by its published schema, with its problems at their places.
fn part<T: DeserializeOwned + schemars::JsonSchema>(
    reader: &'static OnceLock<Reader>,
    value: Value,
    at: &str,
) -> Result<T, Problem> {
    let reader = reader.get_or_init(|| Reader::new(oak_drum_design::schema::of::<T>()));
    let mut problems = reader.problems(&value);
    for problem in &mut problems {
        problem.pointer = format!("{at}{}", problem.pointer);
    }
    if !problems.is_empty() {
        return Err(Problem::design(&problems));
    }
    serde_json::from_value(value).map_err(|e| Problem::field(at, &e.to_string()))
}

/// Takes a body that is a design to what is worked out about it.
async fn about<T: Send + 'static>(
    pool: &Pool,
    question: Question,
    body: Body,
    work: impl FnOnce(&Design) -> Option<T> + Send + 'static,
) -> Result<T, Problem> {
    let design = pool.take(move || design(body.json()?)).await?;
    pool.work(question, design, work).await
}

/// A design from a request's body.
fn design(value: Value) -> Result<Design, Problem> {
    oak_drum_design::read_value(value).map_err(|problems| Problem::design(&problems))
}

/// A name from a request's body: 1 to 120 characters.
fn name(text: &str) -> Result<String, Problem> {
    let text = text.trim();
    if text.is_empty() || text.chars().count() > 120 || text.contains('\0') {
        return Err(Problem::field("/name", "a name of 1 to 120 characters is expected, for example \"Village hall\""));
    }
    Ok(text.to_owned())
}

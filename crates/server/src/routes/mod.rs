//! The routes: one file a resource.

pub mod builds;
pub mod choose;
pub mod evaluate;
pub mod files;
pub mod health;
pub mod revisions;
pub mod trials;
pub mod woofers;

use crate::problem::Problem;
use actix_web::web::ServiceConfig;
use oak_drum_design::Design;
use serde_json::Value;

/// Registers every route under `/api`.
pub fn configure(config: &mut ServiceConfig) {
    config
        .service(health::live)
        .service(health::ready)
        .service(evaluate::evaluate)
        .service(evaluate::suggest)
        .service(evaluate::families)
        .service(choose::materials)
        .service(choose::motion)
        .service(choose::tolerance)
        .service(choose::seek)
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

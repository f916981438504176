//! The routes: one file a resource.

pub mod builds;
pub mod evaluate;
pub mod health;
pub mod revisions;
pub mod woofers;

use crate::problem::Problem;
use actix_web::web::{Json, ServiceConfig};
use actix_web::{HttpResponse, get};
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
        .service(woofers::list)
        .service(woofers::create)
        .service(woofers::delete)
        .service(openapi)
        .service(schema);
}

/// The OpenAPI document.
#[get("/openapi.json")]
async fn openapi() -> HttpResponse {
    HttpResponse::Ok().json(crate::openapi::document())
}

/// The JSON Schema of a format.
#[get("/schema/{name}")]
async fn schema(name: actix_web::web::Path<String>) -> Result<Json<Value>, Problem> {
    match name.as_str() {
        "design" => Ok(Json(oak_drum_design::schema::design())),
        "result" => Ok(Json(oak_drum_design::schema::result())),
        _ => Err(Problem::not_found("there are two schemas: design and result")),
    }
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

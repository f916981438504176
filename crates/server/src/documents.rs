//! The documents that describe the interface and the formats.

use crate::problem::Problem;
use actix_web::web::{Json, Path};
use actix_web::{HttpResponse, get};
use serde_json::Value;

/// The OpenAPI document.
#[get("/openapi.json")]
pub async fn openapi() -> HttpResponse {
    HttpResponse::Ok().json(crate::openapi::document())
}

/// The JSON Schema of a format.
#[get("/schema/{name}")]
pub async fn schema(name: Path<String>) -> Result<Json<Value>, Problem> {
    match name.as_str() {
        "design" => Ok(Json(oak_drum_document::schema::design())),
        "result" => Ok(Json(oak_drum_design::evaluation::schema())),
        "woofer" => Ok(Json(oak_drum_shelf::schema())),
        _ => Err(Problem::not_found("there are three schemas: design, result and woofer")),
    }
}

//! The documents that describe the interface and the formats.

use crate::problem::Problem;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, get};
use serde_json::Value;

/// What every route takes and gives, as it is handed out.
pub struct Described(pub Value);

/// The OpenAPI document.
#[utoipa::path(operation_id = "openapi", responses((status = 200, body = Value)))]
#[get("/openapi.json")]
pub async fn openapi(described: Data<Described>) -> HttpResponse {
    HttpResponse::Ok().json(&described.0)
}

/// The JSON Schema of a format.
#[utoipa::path(operation_id = "schema", params(("name" = String, Path, description = "design, work-plan, result or woofer")),
    responses((status = 200, body = Value), (status = 404, body = Problem)))]
#[get("/schema/{name}")]
pub async fn schema(name: Path<String>) -> Result<Json<Value>, Problem> {
    match name.as_str() {
        "design" => Ok(Json(oak_drum_document::schema::design())),
        "work-plan" => Ok(Json(oak_drum_document::schema::of::<oak_drum_document::WorkPlan>())),
        "result" => Ok(Json(oak_drum_design::evaluation::schema())),
        "woofer" => Ok(Json(oak_drum_shelf::schema())),
        _ => Err(Problem::not_found("there are four schemas: design, work-plan, result and woofer")),
    }
}

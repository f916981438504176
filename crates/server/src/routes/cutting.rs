//! From a cabinet to what is sawn. Stateless, like evaluation.

use super::worked_out;
use crate::problem::Problem;
use actix_web::web::Json;
use actix_web::{HttpResponse, post};
use serde_json::Value;

/// Cut list and sheets of a design's cabinet.
#[utoipa::path(context_path = "/api", operation_id = "cutting", request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/Cutting")), (status = 422, body = Problem)))]
#[post("/cutting")]
pub async fn cutting(body: Json<Value>) -> Result<HttpResponse, Problem> {
    let design = super::design(body.into_inner())?;
    let found = worked_out(move || Some(oak_drum_design::cutting::cutting(&design))).await?;
    let none = || Problem::field("/cabinet", "there is no cabinet to saw; state its outside");
    Ok(HttpResponse::Ok().json(found.ok_or_else(none)?))
}

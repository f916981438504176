//! What a box says of its own: standing waves, fill, panels, leaks. Stateless, like evaluation.

use super::worked_out;
use crate::problem::Problem;
use actix_web::web::Json;
use actix_web::{HttpResponse, post};
use serde::Deserialize;
use serde_json::Value;
use utoipa::ToSchema;

/// Standing waves, proportions, fill, panels and leaks of a design.
#[utoipa::path(context_path = "/api", operation_id = "quiet", request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/Quiet")), (status = 422, body = Problem)))]
#[post("/quiet")]
pub async fn quiet(body: Json<Value>) -> Result<HttpResponse, Problem> {
    let design = super::design(body.into_inner())?;
    Ok(HttpResponse::Ok().json(worked_out(move || oak_drum_design::quiet::quiet(&design)).await?))
}

/// A design and one of its standing waves.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WithMode {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// The chamber's net volume (JSON pointer into the design).
    pub pointer: String,
    /// Half waves across, up and behind the baffle.
    pub order: [u32; 3],
}

/// The pressure pattern of a standing wave.
#[utoipa::path(context_path = "/api", operation_id = "mode", request_body = WithMode,
    responses((status = 200, body = ref("#/components/schemas/ModePicture")), (status = 422, body = Problem)))]
#[post("/mode")]
pub async fn mode(body: Json<WithMode>) -> Result<HttpResponse, Problem> {
    let WithMode { document, pointer, order } = body.into_inner();
    let design = super::design(document)?;
    if order.iter().any(|n| *n > 40) || order == [0, 0, 0] {
        return Err(Problem::field("/order", "three whole numbers from 0 to 40, not all 0, are expected: [0, 1, 0]"));
    }
    let picture = worked_out(move || Some(oak_drum_design::quiet::mode_picture(&design, &pointer, order))).await?;
    let none = || Problem::field("/pointer", "there is no such chamber; for example /enclosure/net_volume_l");
    Ok(HttpResponse::Ok().json(picture.ok_or_else(none)?))
}

//! The shelf.

use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, delete, get, post};
use oak_drum_store::tables::woofer::{self, WooferRecord};
use serde::Deserialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// Every woofer, by size and name.
#[utoipa::path(context_path = "/api", operation_id = "listWoofers", responses((status = 200, body = Vec<WooferRecord>)))]
#[get("/woofers")]
pub async fn list(state: Data<State>) -> Result<Json<Vec<WooferRecord>>, Problem> {
    Ok(Json(state.with(|c, owner| woofer::list(c, owner)).await?))
}

/// A woofer for the shelf: the design it stands in (its woofer is taken).
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewWoofer {
    /// A design whose woofer is put on the shelf.
    #[schema(schema_with = crate::openapi::design)]
    pub document: Value,
}

/// Puts the woofer of a design on the shelf.
#[utoipa::path(context_path = "/api", operation_id = "createWoofer", request_body = NewWoofer,
    responses((status = 201, body = WooferRecord), (status = 422, body = Problem)))]
#[post("/woofers")]
pub async fn create(state: Data<State>, body: Json<NewWoofer>) -> Result<HttpResponse, Problem> {
    let sheet = super::design(body.into_inner().document)?.woofer;
    if sheet.name.trim().is_empty() {
        return Err(Problem::field("/woofer/name", "a woofer on the shelf needs a name, for example \"Attic 12\""));
    }
    let made = state.with(move |c, owner| woofer::create(c, owner, &sheet)).await?;
    Ok(HttpResponse::Created().json(made))
}

/// Takes a woofer off the shelf; builds keep their own copy.
#[utoipa::path(context_path = "/api", operation_id = "deleteWoofer", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/woofers/{id}")]
pub async fn delete(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| woofer::delete(c, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}

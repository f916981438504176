//! Revisions.

use crate::asking;
use crate::body::Body;
use crate::pool::Pool;
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, delete, get, post, put};
use oak_drum_document::WorkPlan;
use oak_drum_store::Connection;
use oak_drum_store::tables::revision::{self, Beside, HistoryEntry, Revision};
use serde::Deserialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// A new revision.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewRevision {
    /// Its design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// The revision it was copied from, whose prices it takes over.
    pub copied_from: Option<Uuid>,
}

/// Adds a revision to a build, under the next letter.
#[utoipa::path(operation_id = "createRevision", params(("id" = Uuid, Path)),
    request_body = NewRevision, responses((status = 201, body = Revision), (status = 422, body = Problem)))]
#[post("/builds/{id}/revisions")]
pub async fn create(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<HttpResponse, Problem> {
    let read = move || {
        let NewRevision { document, copied_from } = body.json()?;
        let kept = WorkPlan::within(&document);
        Ok((asking::design(document)?, kept, copied_from))
    };
    let (design, kept, copied_from) = pool.take(read).await?;
    let make = move |c: &mut Connection, _| {
        let beside = copied_from.map_or(Beside::Plan(&kept), Beside::AsCopyOf);
        revision::create(c, *id, &design, beside)
    };
    let made = state.with(make).await?;
    Ok(HttpResponse::Created().json(made))
}

/// A save.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Save {
    /// The version the design was made from.
    pub base_version: i32,
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
}

/// Saves a revision; a save from a stale version is answered with 409 and what stands.
#[utoipa::path(operation_id = "saveRevision", params(("id" = Uuid, Path)), request_body = Save,
    responses((status = 200, body = Revision), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/revisions/{id}")]
pub async fn save(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<Json<Revision>, Problem> {
    let read = move || {
        let Save { base_version, document } = body.json()?;
        Ok((base_version, asking::design(document)?))
    };
    let (base_version, design) = pool.take(read).await?;
    Ok(Json(state.with(move |c, _| revision::save(c, *id, base_version, &design)).await?))
}

/// The newest saved states, at most 200.
#[utoipa::path(operation_id = "revisionHistory", params(("id" = Uuid, Path)),
    responses((status = 200, body = Vec<HistoryEntry>), (status = 404, body = Problem)))]
#[get("/revisions/{id}/history")]
pub async fn history(state: Data<State>, id: Path<Uuid>) -> Result<Json<Vec<HistoryEntry>>, Problem> {
    Ok(Json(state.with(move |c, _| revision::history_of(c, *id)).await?))
}

/// Puts a revision away; it can be restored.
#[utoipa::path(operation_id = "deleteRevision", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/revisions/{id}")]
pub async fn delete(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| revision::set_deleted(c, *id, true)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Takes a revision back out.
#[utoipa::path(operation_id = "restoreRevision", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[post("/revisions/{id}/restore")]
pub async fn restore(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| revision::set_deleted(c, *id, false)).await?;
    Ok(HttpResponse::NoContent().finish())
}

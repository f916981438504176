//! Builds.

use crate::asking;
use crate::body::Body;
use crate::pool::Pool;
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, delete, get, patch, post};
use oak_drum_document::WorkPlan;
use oak_drum_store::tables::build::{self, BuildDetail, BuildSummary};
use serde::Deserialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// All builds, the oldest first.
#[utoipa::path(operation_id = "listBuilds", responses((status = 200, body = Vec<BuildSummary>)))]
#[get("/builds")]
pub async fn list(state: Data<State>) -> Result<Json<Vec<BuildSummary>>, Problem> {
    Ok(Json(state.with(|c, owner| build::list(c, owner)).await?))
}

/// A new build.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewBuild {
    /// Its name.
    pub name: String,
    /// The design of its revision A.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// Designs of further revisions, B and so on; at most seven.
    #[schema(schema_with = crate::schemas::designs, required = false)]
    #[serde(default)]
    pub others: Vec<Value>,
}

/// Most revisions a build may begin with.
const MOST_AT_ONCE: usize = 8;

/// Begins a build.
#[utoipa::path(operation_id = "createBuild", request_body = NewBuild,
    responses((status = 201, body = BuildDetail), (status = 422, body = Problem)))]
#[post("/builds")]
pub async fn create(state: Data<State>, pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let read = move || {
        let NewBuild { name, document, others } = body.json()?;
        if others.len() >= MOST_AT_ONCE {
            return Err(Problem::field("/others", "at most seven further revisions are begun at once"));
        }
        let one = |document: Value| {
            let kept = WorkPlan::within(&document);
            Ok((asking::design(document)?, kept))
        };
        let all = std::iter::once(document).chain(others).map(one).collect::<Result<Vec<_>, Problem>>()?;
        Ok((asking::name(&name)?, all))
    };
    let (name, revisions) = pool.take(read).await?;
    let made = state.with(move |c, owner| build::create(c, owner, &name, &revisions)).await?;
    Ok(HttpResponse::Created().json(made))
}

/// One build with its revisions.
#[utoipa::path(operation_id = "getBuild", params(("id" = Uuid, Path)),
    responses((status = 200, body = BuildDetail), (status = 404, body = Problem)))]
#[get("/builds/{id}")]
pub async fn get(state: Data<State>, id: Path<Uuid>) -> Result<Json<BuildDetail>, Problem> {
    Ok(Json(state.with(move |c, _| build::get(c, *id)).await?))
}

/// A build's new name.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Rename {
    /// The name.
    pub name: String,
}

/// Renames a build.
#[utoipa::path(operation_id = "renameBuild", params(("id" = Uuid, Path)), request_body = Rename,
    responses((status = 200, body = BuildDetail), (status = 404, body = Problem)))]
#[patch("/builds/{id}")]
pub async fn rename(state: Data<State>, id: Path<Uuid>, body: Json<Rename>) -> Result<Json<BuildDetail>, Problem> {
    let name = asking::name(&body.name)?;
    Ok(Json(state.with(move |c, _| build::rename(c, *id, &name)).await?))
}

/// Puts a build away; it can be restored.
#[utoipa::path(operation_id = "deleteBuild", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/builds/{id}")]
pub async fn delete(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| build::set_deleted(c, *id, true)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Takes a build back out.
#[utoipa::path(operation_id = "restoreBuild", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[post("/builds/{id}/restore")]
pub async fn restore(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| build::set_deleted(c, *id, false)).await?;
    Ok(HttpResponse::NoContent().finish())
}

//! Builds.

use crate::asking;
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, patch, post};
use oak_drum_bundle::tags::tags;
use oak_drum_design::evaluation;
use oak_drum_document::WorkPlan;
use oak_drum_store::tables::build::{self, BuildDetail, BuildSummary, Shelf};
use serde::Deserialize;
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Which builds are listed.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
pub struct Which {
    /// Those that are put away instead of those on the bench.
    #[serde(default)]
    #[param(required = false)]
    pub away: bool,
}

/// All builds, the oldest first.
#[utoipa::path(operation_id = "listBuilds", params(Which), responses((status = 200, body = Vec<BuildSummary>)))]
#[get("/builds")]
pub async fn list(state: Data<State>, which: Query<Which>) -> Result<Json<Vec<BuildSummary>>, Problem> {
    let shelf = if which.away { Shelf::Away } else { Shelf::Bench };
    Ok(Json(state.with(move |c, owner| build::list(c, owner, shelf)).await?))
}

/// What a build is recognised by on its card, from its first revision.
#[utoipa::path(operation_id = "buildCard", params(("id" = Uuid, Path)),
    responses((status = 200, body = ref("#/components/schemas/Card")), (status = 404, body = Problem)))]
#[get("/builds/{id}/card")]
pub async fn card(state: Data<State>, pool: Pool, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    let document = state.with(move |c, _| build::first_design(c, *id)).await?;
    let design = pool.take(move || asking::design(document)).await?;
    let card = pool.work(Question::Work, design, evaluation::card::card).await?;
    Ok(HttpResponse::Ok().json(card))
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

/// What a build is called and sorted by; what is absent stays.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BuildChange {
    /// Its name.
    #[schema(required = false)]
    #[serde(default)]
    pub name: Option<String>,
    /// Words it is sorted by, all of them.
    #[schema(required = false)]
    #[serde(default)]
    pub tags: Option<Vec<String>>,
}

/// Gives a build another name, other tags, or both.
#[utoipa::path(operation_id = "changeBuild", params(("id" = Uuid, Path)), request_body = BuildChange,
    responses((status = 200, body = BuildDetail), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[patch("/builds/{id}")]
pub async fn change(state: Data<State>, id: Path<Uuid>, body: Json<BuildChange>) -> Result<Json<BuildDetail>, Problem> {
    let BuildChange { name, tags: given } = body.into_inner();
    let name = name.as_deref().map(asking::name).transpose()?;
    let given = given.map(|words| tags(&words)).transpose().map_err(|why| Problem::field("/tags", &why))?;
    Ok(Json(state.with(move |c, _| build::change(c, *id, name, given)).await?))
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

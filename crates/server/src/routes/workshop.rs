//! What belongs to the workshop and to no single build: its currency, its tools, the pieces on its rack; and what of its tools the work
//! on a cabinet wants.

use crate::asking::{self, AtWork};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json};
use actix_web::{HttpResponse, get, post, put};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::kit::kit;
use oak_drum_store::tables::workshop::{self, WorkshopRecord};
use serde::Deserialize;
use serde_json::Value;
use utoipa::ToSchema;

/// What the workshop has; of version 0 where nothing was kept.
#[utoipa::path(operation_id = "getWorkshop", responses((status = 200, body = WorkshopRecord)))]
#[get("/workshop")]
pub async fn get(state: Data<State>) -> Result<Json<WorkshopRecord>, Problem> {
    Ok(Json(state.with(move |c, owner| workshop::get(c, owner)).await?))
}

/// A save of what the workshop has.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SaveWorkshop {
    /// The version it was made from; 0 where there was none.
    pub base_version: i32,
    /// What it has.
    #[schema(schema_with = crate::schemas::workshop)]
    pub workshop: Value,
}

/// Saves what the workshop has; a save from a stale version is answered with 409 and what stands.
#[utoipa::path(operation_id = "saveWorkshop", request_body = SaveWorkshop,
    responses((status = 200, body = WorkshopRecord), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/workshop")]
pub async fn save(state: Data<State>, pool: Pool, body: Body) -> Result<Json<WorkshopRecord>, Problem> {
    let read = move || {
        let SaveWorkshop { base_version, workshop } = body.json()?;
        Ok((base_version, asking::workshop(workshop)?))
    };
    let (base_version, new) = pool.take(read).await?;
    Ok(Json(state.with(move |c, owner| workshop::save(c, owner, base_version, &new)).await?))
}

/// What the work on a design's cabinet is done with, and which of it the workshop has.
#[utoipa::path(operation_id = "kit", request_body = AtWork,
    responses((status = 200, body = ref("#/components/schemas/Kit")), (status = 422, body = Problem)))]
#[post("/kit")]
pub async fn tools(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let read = move || body.json::<AtWork>()?.all();
    let found =
        super::cabinet::about(&pool, Question::Work, read, |a: &Analysis, (work, shop)| kit(a, &work.days, &shop.has));
    Ok(HttpResponse::Ok().json(found.await?))
}

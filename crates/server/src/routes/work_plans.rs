//! Work plans: what the workshop keeps beside a revision while it is built.

use crate::asking;
use crate::body::Body;
use crate::pool::Pool;
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json, Path};
use actix_web::{get, put};
use oak_drum_store::tables::work_plan::{self, WorkPlanRecord};
use serde::Deserialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// The work plan of a revision; of version 0 where nothing was saved.
#[utoipa::path(operation_id = "getWorkPlan", params(("id" = Uuid, Path)),
    responses((status = 200, body = WorkPlanRecord), (status = 404, body = Problem)))]
#[get("/revisions/{id}/work")]
pub async fn get(state: Data<State>, id: Path<Uuid>) -> Result<Json<WorkPlanRecord>, Problem> {
    Ok(Json(state.with(move |c, _| work_plan::get(c, *id)).await?))
}

/// A save of a work plan.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SaveWorkPlan {
    /// The version the plan was made from; 0 where there was none.
    pub base_version: i32,
    /// The plan.
    #[schema(schema_with = crate::schemas::work_plan)]
    pub work: Value,
}

/// Saves a work plan; a save from a stale version is answered with 409 and what stands.
#[utoipa::path(operation_id = "saveWorkPlan", params(("id" = Uuid, Path)), request_body = SaveWorkPlan,
    responses((status = 200, body = WorkPlanRecord), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/revisions/{id}/work")]
pub async fn save(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<Json<WorkPlanRecord>, Problem> {
    let read = move || {
        let SaveWorkPlan { base_version, work } = body.json()?;
        Ok((base_version, asking::work_plan(work)?))
    };
    let (base_version, plan) = pool.take(read).await?;
    Ok(Json(state.with(move |c, _| work_plan::save(c, *id, base_version, &plan)).await?))
}

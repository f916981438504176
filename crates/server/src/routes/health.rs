//! Health and readiness.

use crate::problem::Problem;
use crate::state::State;
use actix_web::{HttpResponse, get, web::Data};

/// The server runs.
#[utoipa::path(operation_id = "live", responses((status = 204, description = "It runs")))]
#[get("/health/live")]
pub async fn live() -> HttpResponse {
    HttpResponse::NoContent().finish()
}

/// The server can reach its store.
#[utoipa::path(operation_id = "ready",
    responses((status = 204, description = "It can work"), (status = 503, body = Problem)))]
#[get("/health/ready")]
pub async fn ready(state: Data<State>) -> Result<HttpResponse, Problem> {
    state.ready().await?;
    Ok(HttpResponse::NoContent().finish())
}

//! The air's way out: ports and radiators of a design, trimming, pipes. Stateless, like evaluation.

use crate::asking::{self, about, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use actix_web::web::{Json, Query};
use actix_web::{HttpResponse, get, post};
use oak_drum_design::airway::trim::{TrimWish, trim as work_out};
use oak_drum_design::airway::{airway as whole, airway_alone};
use oak_drum_document::{Checked, Reader};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};

/// A plastic pipe.
#[derive(Serialize, ToSchema)]
pub struct PipeSize {
    /// Its size as it is asked for.
    pub size: String,
    /// Inside diameter, mm.
    pub inside_mm: f64,
    /// Outside diameter, mm.
    pub outside_mm: f64,
    /// Wall, mm.
    pub wall_mm: f64,
    /// The standard the sizes come from.
    pub standard: String,
}

/// Plastic pipes that ports are cut from, by the published standards.
#[utoipa::path(operation_id = "pipes", responses((status = 200, body = Vec<PipeSize>)))]
#[get("/pipes")]
pub async fn pipes() -> Json<Vec<PipeSize>> {
    let list = oak_drum_acoustics::pipes::PIPES.iter();
    Json(
        list.map(|p| PipeSize {
            size: p.size.into(),
            inside_mm: p.inside_mm(),
            outside_mm: p.outside_mm,
            wall_mm: p.wall_mm,
            standard: p.standard.into(),
        })
        .collect(),
    )
}

/// What is wanted of the ports.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// Whether the trade-offs are left out, which take longest.
    #[serde(default)]
    #[param(inline)]
    pub without_trade: bool,
}

/// Everything about the ports and radiators of a design.
#[utoipa::path(operation_id = "airway", params(Wanted), request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/Airway")), (status = 422, body = Problem)))]
#[post("/airway")]
pub async fn airway(pool: Pool, wanted: Query<Wanted>, body: Body) -> Result<HttpResponse, Problem> {
    let work = if wanted.without_trade { airway_alone } else { whole };
    Ok(HttpResponse::Ok().json(about(&pool, Question::Station, body, work).await?))
}

/// A design and what was measured at it.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Measured {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// What was measured.
    #[schema(schema_with = crate::schemas::trim)]
    pub trim: Value,
}

/// From a measured tuning to what to cut, add, fill or screw on.
#[utoipa::path(operation_id = "trim", request_body = Measured,
    responses((status = 200, body = ref("#/components/schemas/Trim")), (status = 422, body = Problem)))]
#[post("/trim")]
pub async fn trim(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let Measured { document, trim } = body.json()?;
        let wish: TrimWish = part(&READER, trim, "/trim")?;
        Ok((asking::design(document)?, wish))
    };
    let (design, wish) = pool.take(read).await?;
    let work = move |d: &Checked| work_out(d, &wish);
    let done = pool.work(Question::Station, design, work).await?;
    Ok(HttpResponse::Ok().json(done.map_err(|nothing| Problem::field("/trim/pointer", &nothing.to_string()))?))
}

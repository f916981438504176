//! What a box says of its own: standing waves, fill, panels, leaks. Stateless, like evaluation.

use crate::asking::{self, about};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use actix_web::web::Query;
use actix_web::{HttpResponse, post};
use oak_drum_document::Checked;
use serde::Deserialize;
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};

/// What is wanted of a box.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// Whether only standing waves and proportions are; fill, panels and leaks are then left out.
    #[serde(default)]
    #[param(inline)]
    pub waves_alone: bool,
}

/// Standing waves, proportions, fill, panels and leaks of a design.
#[utoipa::path(operation_id = "quiet", params(Wanted), request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/Quiet")), (status = 422, body = Problem)))]
#[post("/quiet")]
pub async fn quiet(pool: Pool, wanted: Query<Wanted>, body: Body) -> Result<HttpResponse, Problem> {
    let work = if wanted.waves_alone { oak_drum_design::quiet::waves } else { oak_drum_design::quiet::quiet };
    Ok(HttpResponse::Ok().json(about(&pool, Question::Station, body, work).await?))
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
#[utoipa::path(operation_id = "mode", request_body = WithMode,
    responses((status = 200, body = ref("#/components/schemas/ModePicture")), (status = 422, body = Problem)))]
#[post("/mode")]
pub async fn mode(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let read = move || {
        let WithMode { document, pointer, order } = body.json()?;
        if order.iter().any(|n| *n > 40) || order == [0, 0, 0] {
            let message = "three whole numbers from 0 to 40, not all 0, are expected: [0, 1, 0]";
            return Err(Problem::field("/order", message));
        }
        Ok((asking::design(document)?, pointer, order))
    };
    let (design, pointer, order) = pool.take(read).await?;
    let work = move |d: &Checked| oak_drum_design::quiet::mode_picture(d, &pointer, order);
    let picture = pool.work(Question::Curves, design, work).await?;
    let none = || Problem::field("/pointer", "there is no such chamber; for example /enclosure/net_volume_l");
    Ok(HttpResponse::Ok().json(picture.ok_or_else(none)?))
}

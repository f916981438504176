//! Choosing and tuning: what moves, how far a design may be off, what a goal asks for. Stateless, like evaluation.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use actix_web::error::ErrorInternalServerError;
use actix_web::web::{Bytes, Json};
use actix_web::{HttpResponse, get, post};
use oak_drum_design::enclosure::tolerance::Tolerances;
use oak_drum_document::{Checked, Reader};
use oak_drum_matching::{Seek, Sought};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;
use tokio::sync::mpsc;
use utoipa::ToSchema;

/// A fill material.
#[derive(Serialize, ToSchema)]
pub struct FillMaterial {
    /// In words.
    pub title: String,
    /// Usual packing, kg/m³.
    pub usual_kg_per_m3: f64,
    /// Flow resistivity at that packing, Pa·s/m².
    pub flow_resistivity_pa_s_per_m2: f64,
    /// The same packed twice as densely, Pa·s/m².
    pub packed_twice_pa_s_per_m2: f64,
    /// Where the law comes from.
    pub source: String,
}

/// The library of fill materials.
#[utoipa::path(operation_id = "materials", responses((status = 200, body = Vec<FillMaterial>)))]
#[get("/materials")]
pub async fn materials() -> Json<Vec<FillMaterial>> {
    let list = oak_drum_acoustics::fill::MATERIALS.iter();
    Json(
        list.map(|m| FillMaterial {
            title: m.title.into(),
            usual_kg_per_m3: m.usual,
            flow_resistivity_pa_s_per_m2: (m.law)(m.usual),
            packed_twice_pa_s_per_m2: (m.law)(m.usual * 2.0),
            source: m.source.into(),
        })
        .collect(),
    )
}

/// A design and a frequency.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AtFrequency {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// The frequency, Hz.
    pub frequency_hz: f64,
}

/// What moves at one frequency, as phasors of displacement.
#[utoipa::path(operation_id = "motion", request_body = AtFrequency,
    responses((status = 200, body = ref("#/components/schemas/Motion")), (status = 422, body = Problem)))]
#[post("/motion")]
pub async fn motion(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let read = move || {
        let AtFrequency { document, frequency_hz } = body.json()?;
        if !(0.1..=20_000.0).contains(&frequency_hz) {
            let message = "a frequency from 0.1 to 20 000 Hz is expected, for example 30";
            return Err(Problem::field("/frequency_hz", message));
        }
        Ok((asking::design(document)?, frequency_hz))
    };
    let (design, frequency) = pool.take(read).await?;
    let motion =
        pool.work(Question::Curves, design, move |d| oak_drum_design::enclosure::motion::motion(d, frequency)).await?;
    Ok(HttpResponse::Ok().json(motion))
}

/// A design and its tolerances.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WithTolerances {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// The tolerances.
    #[schema(schema_with = crate::schemas::tolerances)]
    pub tolerances: Value,
}

/// How far level and tuning move when the figures are off by their tolerance.
#[utoipa::path(operation_id = "tolerance", request_body = WithTolerances,
    responses((status = 200, body = ref("#/components/schemas/Band")), (status = 422, body = Problem)))]
#[post("/tolerance")]
pub async fn tolerance(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let WithTolerances { document, tolerances } = body.json()?;
        let tolerances: Tolerances = part(&READER, tolerances, "/tolerances")?;
        Ok((asking::design(document)?, tolerances))
    };
    let (design, tolerances) = pool.take(read).await?;
    let work = move |d: &Checked| oak_drum_design::enclosure::tolerance::tolerance(d, &tolerances);
    Ok(HttpResponse::Ok().json(pool.work(Question::Work, design, work).await?))
}

/// A design and what is sought in it.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WithGoal {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// What is sought.
    #[schema(schema_with = crate::schemas::seek)]
    pub seek: Value,
}

/// How far a search is, or what came of it: a line of the answer of `seekTelling`.
#[derive(Serialize)]
#[serde(rename_all = "snake_case")]
enum SeekLine {
    /// Boxes tried, and which part of the search is done, from 0 to 1 (an estimate).
    Sofar {
        /// Boxes tried.
        tried: u32,
        /// Part done.
        part: f64,
    },
    /// What was found; the last line.
    Sought(
        /// The same as `seek` answers.
        Box<Sought>,
    ),
    /// Why nothing was worked out; the last line.
    Refused(
        /// In words.
        String,
    ),
}

/// The same as `seek`, told line by line while it is on its way: each line is JSON, the last one says what was found. Whoever leaves
/// stops it.
#[utoipa::path(operation_id = "seekTelling", request_body = WithGoal,
    responses((status = 200, body = String, content_type = "application/x-ndjson"), (status = 422, body = Problem)))]
#[post("/seek/telling")]
pub async fn seek_telling(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let (design, wanted) = pool.take(move || sought(body)).await?;
    let (send, receive) = mpsc::unbounded_channel::<SeekLine>();
    let telling = send.clone();
    actix_web::rt::spawn(async move {
        let tell = move |tried, part| {
            let _ = telling.send(SeekLine::Sofar { tried, part });
        };
        let work = move |d: &Checked| oak_drum_matching::seek_telling(d, &wanted, &tell);
        let last = match pool.work(Question::Work, design, work).await {
            Ok(found) => SeekLine::Sought(Box::new(found)),
            Err(problem) => SeekLine::Refused(problem.detail),
        };
        let _ = send.send(last);
    });
    let lines = futures_util::stream::unfold(receive, |mut receive| async move {
        let line = receive.recv().await?;
        let text = serde_json::to_string(&line).map(|text| Bytes::from(text + "\n"));
        Some((text.map_err(ErrorInternalServerError), receive))
    });
    Ok(HttpResponse::Ok().content_type("application/x-ndjson").streaming(lines))
}

fn sought(body: Body) -> Result<(Checked, Seek), Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let WithGoal { document, seek: goal } = body.json()?;
    let wanted: Seek = part(&READER, goal, "/seek")?;
    Ok((asking::design(document)?, wanted))
}

/// Seeks a goal within a design's family, with the trade-off around it.
#[utoipa::path(operation_id = "seek", request_body = WithGoal,
    responses((status = 200, body = ref("#/components/schemas/Sought")), (status = 422, body = Problem)))]
#[post("/seek")]
pub async fn seek(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let (design, wanted) = pool.take(move || sought(body)).await?;
    let work = move |d: &Checked| oak_drum_matching::seek(d, &wanted);
    Ok(HttpResponse::Ok().json(pool.work(Question::Work, design, work).await?))
}

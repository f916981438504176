//! The tasks for a newcomer.

use crate::asking;
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::routes::listen::RATE;
use crate::routes::recordings::{wav_file, written};
use actix_web::{HttpResponse, get, post};
use oak_drum_curves::formats::wav::Recording;
use oak_drum_document::Checked;
use oak_drum_listening::programme::piece;
use oak_drum_tour::{Tour, named, played};
use serde::Deserialize;
use serde_json::Value;
use utoipa::ToSchema;

/// The tasks, in the order in which they are offered.
#[utoipa::path(operation_id = "tour", responses((status = 200, body = ref("#/components/schemas/Tour"))))]
#[get("/tour")]
pub async fn tour(pool: Pool) -> Result<HttpResponse, Problem> {
    Ok(HttpResponse::Ok().json(pool.take(|| Ok(Tour::all())).await?))
}

/// A design within a task.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WithinTask {
    /// The task's stable name.
    pub task: String,
    /// Steps that were done before.
    pub done: usize,
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
}

/// How far a task is with a design: what it shows counts, not what was pressed.
#[utoipa::path(operation_id = "tourProgress", request_body = WithinTask,
    responses((status = 200, body = ref("#/components/schemas/TourProgress")), (status = 422, body = Problem)))]
#[post("/tour/progress")]
pub async fn progress(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let read = move || {
        let WithinTask { task, done, document } = body.json()?;
        let task = named(&task).ok_or_else(|| Problem::field("/task", "there is no such task"))?;
        Ok((asking::design(document)?, task, done))
    };
    let (design, task, done) = pool.take(read).await?;
    let progress = pool.work(Question::Work, design, move |d: &Checked| task.progress(d, done)).await?;
    Ok(HttpResponse::Ok().json(progress))
}

/// A design and what it is to play.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToPlay {
    /// Stable name of a piece that ships.
    pub piece: String,
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
}

/// A piece as a design plays it, as a WAV file of one channel that goes on where it began; what it plays at 150 Hz keeps its level.
#[utoipa::path(operation_id = "tourSound", request_body = ToPlay,
    responses((status = 200, body = String, content_type = "audio/wav"), (status = 422, body = Problem)))]
#[post("/tour/sound")]
pub async fn sound(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let read = move || {
        let ToPlay { piece: name, document } = body.json()?;
        let found = piece(&name).ok_or_else(|| Problem::field("/piece", "there is no such piece"))?;
        Ok((asking::design(document)?, found))
    };
    let (design, found) = pool.take(read).await?;
    let work = move |d: &Checked| {
        let loud = played(d, &found.samples(RATE), RATE);
        written(&Recording { rate: RATE, channels: vec![loud.into_iter().map(|v| v.clamp(-1.0, 1.0)).collect()] })
    };
    Ok(wav_file("as-it-plays.wav", pool.work(Question::Work, design, work).await??))
}

//! What ships to be played.

use crate::pool::Pool;
use crate::problem::Problem;
use crate::routes::listen::RATE;
use crate::routes::recordings::{wav_file, written};
use actix_web::web::{Json, Path};
use actix_web::{HttpResponse, get};
use oak_drum_curves::formats::wav::Recording;
use oak_drum_listening::hearing::hours;
use oak_drum_listening::programme::{PIECES, piece};
use serde::Serialize;
use utoipa::ToSchema;

/// What ships to be played, and how long a level may be listened to.
#[derive(Serialize, ToSchema)]
pub struct ListeningProgramme {
    /// The pieces.
    pub pieces: Vec<PieceShown>,
    /// Hours a day by level, from 70 dB in steps of 1 dB (NIOSH 1998: 85 dB(A) for 8 h, half for every 3 dB more).
    pub hours_from_70_db: Vec<f64>,
}

/// A piece that ships.
#[derive(Serialize, ToSchema)]
pub struct PieceShown {
    /// The name it is fetched by.
    pub id: &'static str,
    /// What it is called.
    pub title: &'static str,
    /// What it shows.
    pub shows: &'static str,
    /// How long it is, s.
    pub seconds: f64,
    /// Where most of it lies, Hz.
    pub band_hz: [f64; 2],
}

/// What ships to be played: made by the program, nothing sampled.
#[utoipa::path(operation_id = "programme", responses((status = 200, body = ListeningProgramme)))]
#[get("/programme")]
pub async fn programme() -> Json<ListeningProgramme> {
    let pieces = PIECES.iter().map(|p| PieceShown {
        id: p.id,
        title: p.title,
        shows: p.shows,
        seconds: p.seconds,
        band_hz: p.band_hz,
    });
    Json(ListeningProgramme {
        pieces: pieces.collect(),
        hours_from_70_db: (70..=130).map(|l| hours(f64::from(l))).collect(),
    })
}

/// A piece as a WAV file, 48 kHz, one channel; it goes on where it began.
#[utoipa::path(operation_id = "programmePiece", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "audio/wav"), (status = 404, body = Problem)))]
#[get("/programme/{id}")]
pub async fn programme_piece(pool: Pool, id: Path<String>) -> Result<HttpResponse, Problem> {
    let found = piece(&id).ok_or_else(|| Problem::not_found("there is no such piece"))?;
    let made = move || written(&Recording { rate: RATE, channels: vec![found.samples(RATE)] });
    Ok(wav_file(&format!("{}.wav", found.id), pool.take(made).await?))
}

//! Sound out and in: sweeps and steady signals as WAV files, recordings brought back.

use crate::asking::part;
use crate::pool::Pool;
use crate::problem::Problem;
use crate::routes::files::whole;
use crate::state::State;
use actix_web::http::{StatusCode, header};
use actix_web::web::{Bytes, Data, Path, Query};
use actix_web::{Error, HttpResponse, get, post};
use oak_drum_curves::error::CurveError;
use oak_drum_curves::formats::wav::{self, Depth, Recording};
use oak_drum_curves::measurement::Source;
use oak_drum_curves::recorded::{RecordingWish, Unusable, kept};
use oak_drum_curves::sweep::log_sweep::{LogSweep, RATES};
use oak_drum_curves::sweep::tone::Steady;
use oak_drum_document::Reader;
use oak_drum_store::tables::measurement::{self, MeasurementRecord};
use serde::Deserialize;
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// A WAV file that is to be saved.
pub(super) fn wav_file(name: &str, bytes: Vec<u8>) -> HttpResponse {
    let name = format!("attachment; filename=\"{name}\"");
    HttpResponse::Ok().content_type("audio/wav").insert_header((header::CONTENT_DISPOSITION, name)).body(bytes)
}

/// A recording in 24 bit.
pub(super) fn written(recording: &Recording) -> Result<Vec<u8>, Problem> {
    wav::write(recording, Depth::Bits24).map_err(|e| unread(&e))
}

pub(super) fn unread(why: &CurveError) -> Problem {
    let status = StatusCode::UNPROCESSABLE_ENTITY;
    Problem::new("unreadable-recording", "The file is no recording", status, why.to_string())
}

/// JSON in a query.
fn json(given: &str, at: &str) -> Result<Value, Problem> {
    serde_json::from_str(given).map_err(|e| Problem::field(at, &e.to_string()))
}

/// Which sweep.
#[derive(Debug, Deserialize, IntoParams, ToSchema)]
#[into_params(parameter_in = Query)]
pub struct SweepWanted {
    /// The sweep, as JSON; absent is one from 5 Hz to 1 kHz.
    #[param(inline)]
    pub sweep: Option<String>,
    /// Whether a second channel plays the same, for a wire back to the input.
    #[param(inline)]
    pub stereo: Option<bool>,
}

/// A sweep as a WAV file of 24 bit, to be played by anything.
#[utoipa::path(operation_id = "sweepFile", params(SweepWanted),
    responses((status = 200, body = String, content_type = "audio/wav"), (status = 422, body = Problem)))]
#[get("/sweep")]
pub async fn sweep(pool: Pool, wanted: Query<SweepWanted>) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let SweepWanted { sweep, stereo } = wanted.into_inner();
    let work = move || {
        let sweep: LogSweep = match &sweep {
            Some(given) => part(&READER, json(given, "/sweep")?, "/sweep")?,
            None => LogSweep::default(),
        };
        if let Some((field, what)) = sweep.problem() {
            return Err(Problem::field(&format!("/sweep/{field}"), &what));
        }
        let played = sweep.played();
        let channels = if stereo == Some(true) { vec![played.clone(), played] } else { vec![played] };
        let name = format!("sweep-{}-{}-Hz-{}.wav", sweep.from_hz, sweep.to_hz, sweep.rate_hz);
        Ok((name, written(&Recording { rate: sweep.rate_hz, channels })?))
    };
    let (name, bytes) = pool.patient(work).await?;
    Ok(wav_file(&name, bytes))
}

/// Which steady signal.
#[derive(Debug, Deserialize, IntoParams, ToSchema)]
#[into_params(parameter_in = Query)]
pub struct SteadyWanted {
    /// The signal, as JSON.
    #[param(inline)]
    pub signal: String,
    /// Samples a second: 44100, 48000 or 96000.
    #[param(inline)]
    pub rate_hz: f64,
}

/// A stretch of a steady signal at full scale that goes on where it began, as a WAV file.
#[utoipa::path(operation_id = "steadyFile", params(SteadyWanted),
    responses((status = 200, body = String, content_type = "audio/wav"), (status = 422, body = Problem)))]
#[get("/steady")]
pub async fn steady(pool: Pool, wanted: Query<SteadyWanted>) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let SteadyWanted { signal, rate_hz } = wanted.into_inner();
    let work = move || {
        let signal: Steady = part(&READER, json(&signal, "/signal")?, "/signal")?;
        if !RATES.contains(&rate_hz) {
            return Err(Problem::field("/rate_hz", "44100, 48000 or 96000 samples a second are expected"));
        }
        // a hair below full scale, so that rounding clips nothing
        let made = signal.repeating(0.999, rate_hz).map_err(|what| Problem::field("/signal", &what))?;
        written(&Recording { rate: rate_hz, channels: vec![made] })
    };
    Ok(wav_file("steady.wav", pool.take(work).await?))
}

/// A recording that is kept.
#[derive(Debug, Deserialize, IntoParams, ToSchema)]
#[into_params(parameter_in = Query)]
pub struct BroughtBack {
    /// How it is to be understood, as JSON.
    #[param(inline)]
    pub wish: String,
    /// The file's name; absent where it was recorded here.
    #[param(inline)]
    pub file: Option<String>,
    /// The revision it was taken of.
    #[param(inline)]
    pub revision: Option<Uuid>,
}

/// Keeps a recording, a WAV file: the sweep in it taken apart.
#[utoipa::path(operation_id = "keepRecording", params(("id" = Uuid, Path), BroughtBack), request_body(content = String, content_type = "audio/wav"),
    responses((status = 201, body = MeasurementRecord), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/builds/{id}/measurements/recording")]
pub async fn keep(
    state: Data<State>,
    pool: Pool,
    id: Path<Uuid>,
    back: Query<BroughtBack>,
    body: Result<Bytes, Error>,
) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let body = whole(body)?;
    let BroughtBack { wish, file, revision } = back.into_inner();
    let work = move || {
        let wish: RecordingWish = part(&READER, json(&wish, "/wish")?, "/wish")?;
        let recording = wav::read(&body).map_err(|e| unread(&e))?;
        let name: String = file.unwrap_or_default().chars().take(200).collect();
        kept(&wish, &recording, Source::Recording { name }).map_err(|why| match &why {
            Unusable::Sweep(field, what) => Problem::field(&format!("/wish/sweep/{field}"), what),
            Unusable::OneChannel => Problem::field("/wish/loopback", &why.to_string()),
            Unusable::NoSweep => Problem::field("/wish/sweep", &why.to_string()),
            Unusable::Unheard(_) => Problem::field("/wish", &why.to_string()),
        })
    };
    let (made, data) = pool.patient(work).await?;
    let record = state.with(move |c, _| measurement::create(c, *id, revision, &made, &data)).await?;
    Ok(HttpResponse::Created().json(record))
}

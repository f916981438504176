//! The signal's way: the chain of a design, flattening it, and what leaves the door. Stateless, like evaluation.

use crate::asking::{self, about, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::routes::cabinet::{PaperSize, Sizes, paper, system, unprinted};
use actix_web::http::header;
use actix_web::web::{Json, Query};
use actix_web::{HttpResponse, post};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::drive::biquads::{Feedback, NoBiquads, biquads as made};
use oak_drum_design::drive::card::card as laid_out;
use oak_drum_design::drive::flattening::{FlattenResult, FlattenWish, flattened};
use oak_drum_design::drive::heat::power as worked_out;
use oak_drum_design::drive::parts::{PartsFound, PartsWish, parts as solved};
use oak_drum_design::drive::view::{drive as whole, drive_alone};
use oak_drum_document::{Checked, Reader, Stage};
use oak_drum_paper as pdf;
use oak_drum_store::Error;
use serde::Deserialize;
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};

/// What is wanted of the chain.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// Whether the low cuts are left out, which take longest.
    #[serde(default)]
    #[param(inline)]
    pub without_low_cut: bool,
}

/// The chain of a design: every member by itself, what boosts cost, low cuts that save the cone.
#[utoipa::path(operation_id = "drive", params(Wanted), request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/DriveView")), (status = 422, body = Problem)))]
#[post("/drive")]
pub async fn drive(pool: Pool, wanted: Query<Wanted>, body: Body) -> Result<HttpResponse, Problem> {
    let work = if wanted.without_low_cut { drive_alone } else { whole };
    Ok(HttpResponse::Ok().json(about(&pool, Question::Station, body, work).await?))
}

/// A design and how its level is to be flattened.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToFlatten {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// What is wanted.
    #[schema(schema_with = crate::schemas::flatten)]
    pub flatten: Value,
}

/// Bands that bring a design's level near a target.
#[utoipa::path(operation_id = "flatten", request_body = ToFlatten,
    responses((status = 200, body = ref("#/components/schemas/FlattenResult")), (status = 422, body = Problem)))]
#[post("/drive/flatten")]
pub async fn flatten(pool: Pool, body: Body) -> Result<Json<FlattenResult>, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let ToFlatten { document, flatten } = body.json()?;
        let wish: FlattenWish = part(&READER, flatten, "/flatten")?;
        Ok((asking::design(document)?, wish))
    };
    let (design, wish) = pool.take(read).await?;
    let work = move |design: &Checked| flattened(design, &wish);
    let done = pool.work(Question::Work, design, work).await?;
    Ok(Json(done.map_err(|no| Problem::field(&format!("/flatten{}", no.pointer), &no.message.metric()))?))
}

/// A design and what parts at its terminals are wanted for.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ForParts {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// What they are wanted for.
    #[schema(schema_with = crate::schemas::parts)]
    pub parts: Value,
}

/// Parts at the terminals, found by solving.
#[utoipa::path(operation_id = "findParts", request_body = ForParts,
    responses((status = 200, body = ref("#/components/schemas/PartsFound")), (status = 422, body = Problem)))]
#[post("/drive/parts")]
pub async fn parts(pool: Pool, body: Body) -> Result<Json<PartsFound>, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let ForParts { document, parts } = body.json()?;
        let wish: PartsWish = part(&READER, parts, "/parts")?;
        Ok((asking::design(document)?, wish))
    };
    let (design, wish) = pool.take(read).await?;
    let work = move |design: &Checked| solved(&Analysis::of(design), &wish);
    let done = pool.work(Question::Work, design, work).await?;
    Ok(Json(done.map_err(|no| Problem::field(&format!("/parts{}", no.pointer), &no.message.metric()))?))
}

/// Power and heat of a design's programme.
#[utoipa::path(operation_id = "power", request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/PowerView")), (status = 422, body = Problem)))]
#[post("/drive/power")]
pub async fn power(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    Ok(HttpResponse::Ok().json(about(&pool, Question::Station, body, worked_out).await?))
}

/// A format biquads are saved in.
#[derive(Clone, Copy, Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum BiquadFormat {
    /// JSON by a published schema.
    Json,
    /// Comma-separated values.
    Csv,
    /// Plain text, one coefficient a line.
    Text,
    /// The impulse response as WAV, 32-bit floats.
    Wav,
}

/// Which biquads, and how.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WantedBiquads {
    /// Sampling rate, Hz: 44100, 48000 or 96000.
    pub rate: f64,
    /// The format.
    #[param(inline)]
    pub format: BiquadFormat,
    /// Whether a1 and a2 are added instead of taken off.
    #[serde(default)]
    #[param(inline)]
    pub added: bool,
    /// Whether the filters in the amplifier are among them.
    #[serde(default)]
    #[param(inline)]
    pub amplifier: bool,
}

/// The filters at line level of a design as biquads.
#[utoipa::path(operation_id = "biquads", params(WantedBiquads), request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/Biquads")), (status = 422, body = Problem)))]
#[post("/drive/biquads")]
pub async fn biquads(pool: Pool, wanted: Query<WantedBiquads>, body: Body) -> Result<HttpResponse, Problem> {
    let WantedBiquads { rate, format, added, amplifier } = wanted.into_inner();
    let feedback = if added { Feedback::Added } else { Feedback::Subtracted };
    let stages: &[Stage] = if amplifier { &[Stage::Line, Stage::Amplifier] } else { &[Stage::Line] };
    let work = move |design: &Checked| made(design, stages, rate, feedback);
    let done = about(&pool, Question::Station, body, work).await?.map_err(|no| {
        let pointer = match &no {
            NoBiquads::AboveHalf { index, .. } => format!("/chain/filters/{index}/filter/frequency_hz"),
            NoBiquads::Rate(_) => "/rate".into(),
        };
        Problem::field(&pointer, &no.to_string())
    })?;
    let unwritten = |e: &dyn std::fmt::Display| Error::Unforeseen(format!("biquads that cannot be written: {e}"));
    let (kind, bytes) = match format {
        BiquadFormat::Json => ("application/json", serde_json::to_vec_pretty(&done).map_err(|e| unwritten(&e))?),
        BiquadFormat::Csv => ("text/csv; charset=utf-8", done.csv().into_bytes()),
        BiquadFormat::Text => ("text/plain; charset=utf-8", done.text().into_bytes()),
        // a second and what comes before it: a high pass of 10 Hz has died away by then
        BiquadFormat::Wav => {
            let samples = (rate + done.delay_samples) as usize;
            ("audio/wav", done.wav(samples).map_err(|e| unwritten(&e))?)
        }
    };
    Ok(HttpResponse::Ok().insert_header((header::CONTENT_TYPE, kind)).body(bytes))
}

/// Paper of the settings card.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WantedCard {
    /// The paper; A4 where it is not said.
    #[param(inline)]
    pub paper: Option<PaperSize>,
    /// What sizes are said in; millimetres where it is not said.
    #[param(inline)]
    pub system: Option<Sizes>,
}

/// The settings card of a design's chain as PDF.
#[utoipa::path(operation_id = "settingsCard", params(WantedCard), request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = Vec<u8>, content_type = "application/pdf"), (status = 422, body = Problem)))]
#[post("/drive/card")]
pub async fn card(pool: Pool, wanted: Query<WantedCard>, body: Body) -> Result<HttpResponse, Problem> {
    let (paper, system) = (paper(wanted.paper), system(wanted.system));
    let work = move |design: &Checked| {
        let analysis = Analysis::of(design);
        pdf::write("Settings", paper, system, &laid_out(&analysis))
    };
    let bytes = about(&pool, Question::Station, body, work).await?.map_err(unprinted)?;
    Ok(HttpResponse::Ok().insert_header((header::CONTENT_TYPE, "application/pdf")).body(bytes))
}

//! What was measured at a build: read from files, taken at the bench, kept, held against the design.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::routes::files::whole;
use crate::routes::recordings::{wav_file, written};
use crate::state::State;
use actix_web::http::{StatusCode, header};
use actix_web::web::{Bytes, Data, Json, Path, Query};
use actix_web::{Error, HttpResponse, delete, get, post, put};
use oak_drum_curves::about::About;
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::error::CurveError;
use oak_drum_curves::formats::{calibration as calibration_file, json, text};
use oak_drum_curves::measurement::{self as kept, Measurement, Source};
use oak_drum_curves::process::phase::{ends_of, excess};
use oak_drum_curves::process::recipe::{self, cook};
use oak_drum_design::prove::as_built::AsBuilt;
use oak_drum_design::prove::bench::{BenchWish, Idle, measured, play};
use oak_drum_design::prove::hidden::{Difficulty, Flaw, drawn, flawed};
use oak_drum_design::prove::view::{DRAWN, DrawnCurve};
use oak_drum_document::{Checked, Reader};
use oak_drum_store::tables::measurement::{self, MeasurementRecord};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// A file that holds no curve, and why.
fn unread(why: &CurveError) -> Problem {
    Problem::new("unreadable-curve", "The file holds no curve", StatusCode::UNPROCESSABLE_ENTITY, why.to_string())
}

/// The measurements of a build, the oldest first, without their samples.
#[utoipa::path(operation_id = "listMeasurements", params(("id" = Uuid, Path)),
    responses((status = 200, body = Vec<MeasurementRecord>)))]
#[get("/builds/{id}/measurements")]
pub async fn of_build(state: Data<State>, id: Path<Uuid>) -> Result<Json<Vec<MeasurementRecord>>, Problem> {
    Ok(Json(state.with(move |c, _| measurement::of_build(c, *id)).await?))
}

/// How a file is read, where it is told.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Told {
    /// How the columns are read, as JSON; absent is found from the file.
    #[param(inline)]
    pub reading: Option<String>,
}

impl Told {
    fn reading(&self) -> Result<Option<text::ColumnReading>, Problem> {
        static READER: OnceLock<Reader> = OnceLock::new();
        let Some(given) = &self.reading else { return Ok(None) };
        let value: Value = serde_json::from_str(given).map_err(|e| Problem::field("/reading", &e.to_string()))?;
        Ok(Some(part(&READER, value, "/reading")?))
    }
}

/// A file as it was understood; nothing is stored.
#[derive(Serialize, ToSchema)]
pub struct CurvePreview {
    /// How it was read; absent of a file that tells itself (JSON).
    #[schema(schema_with = crate::schemas::reading, required = false)]
    pub reading: Option<text::ColumnReading>,
    /// Why so.
    pub reasons: Vec<String>,
    /// Names over the columns.
    pub names: Vec<String>,
    /// The first rows.
    pub rows: Vec<Vec<String>>,
    /// What was left out or put right.
    pub warnings: Vec<String>,
    /// Why nothing can be read so: the columns are shown, that they can be corrected.
    pub wrong: Option<String>,
    /// How many points there are.
    pub points: usize,
    /// What it tells, `level` or `impedance`.
    pub quantity: String,
    /// The curve, to be drawn.
    #[schema(schema_with = crate::schemas::drawn)]
    pub curve: DrawnCurve,
}

/// A file with a curve: text by its looks or as told, or this program's JSON.
fn read_file(body: &[u8], told: Option<&text::ColumnReading>) -> Result<(CurvePreview, Curve, About), Problem> {
    let quantity = |c: &Curve| {
        serde_json::to_value(c.quantity).ok().and_then(|v| v.as_str().map(str::to_owned)).unwrap_or_default()
    };
    if told.is_none() && body.trim_ascii_start().starts_with(b"{") {
        let file = json::read(body).map_err(|e| unread(&e))?;
        let curve = file.curve();
        let shown = CurvePreview {
            reading: None,
            reasons: Vec::new(),
            names: Vec::new(),
            rows: Vec::new(),
            warnings: Vec::new(),
            wrong: None,
            points: curve.len(),
            quantity: quantity(&curve),
            curve: DrawnCurve::of(&curve),
        };
        return Ok((shown, curve, file.about));
    }
    let read = text::read(body, told).map_err(|e| unread(&e))?;
    let shown = CurvePreview {
        reading: Some(read.reading),
        reasons: read.reasons,
        names: read.names,
        rows: read.rows,
        warnings: read.warnings,
        wrong: None,
        points: read.curve.len(),
        quantity: quantity(&read.curve),
        curve: DrawnCurve::of(&read.curve),
    };
    Ok((shown, read.curve, About::default()))
}

/// Reads a file with a curve and says how; nothing is stored.
#[utoipa::path(operation_id = "previewCurve", params(Told), request_body(content = String),
    responses((status = 200, body = CurvePreview), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/curves/preview")]
pub async fn preview(pool: Pool, told: Query<Told>, body: Result<Bytes, Error>) -> Result<Json<CurvePreview>, Problem> {
    let body = whole(body)?;
    let reading = told.reading()?;
    let look = move || {
        let failed = match read_file(&body, reading.as_ref()) {
            Ok((shown, ..)) => return Ok(shown),
            Err(failed) => failed,
        };
        // columns that do not read as they are taken can still be shown and taken otherwise
        let Ok(looked) = text::look(&body, reading.as_ref()) else { return Err(failed) };
        Ok(CurvePreview {
            quantity: if looked.reading.unit == text::MagnitudeUnit::Ohm { "impedance" } else { "level" }.into(),
            reading: Some(looked.reading),
            reasons: looked.reasons,
            names: looked.names,
            rows: looked.rows,
            warnings: Vec::new(),
            wrong: Some(failed.detail),
            points: 0,
            curve: DrawnCurve::default(),
        })
    };
    Ok(Json(pool.patient(look).await?))
}

/// A file that is kept.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Keeping {
    /// How the columns are read, as JSON; absent is found from the file.
    #[param(inline)]
    pub reading: Option<String>,
    /// The file's name.
    #[param(inline)]
    pub file: Option<String>,
    /// What is known about it, as JSON.
    #[param(inline)]
    pub about: Option<String>,
    /// The revision it was taken of.
    #[param(inline)]
    pub revision: Option<Uuid>,
}

/// Keeps a curve from a file.
#[utoipa::path(operation_id = "importMeasurement", params(("id" = Uuid, Path), Keeping), request_body(content = String),
    responses((status = 201, body = MeasurementRecord), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/builds/{id}/measurements/import")]
pub async fn import(
    state: Data<State>,
    pool: Pool,
    id: Path<Uuid>,
    keeping: Query<Keeping>,
    body: Result<Bytes, Error>,
) -> Result<HttpResponse, Problem> {
    let body = whole(body)?;
    let Keeping { reading, file, about, revision } = keeping.into_inner();
    let read = move || {
        let reading = Told { reading }.reading()?;
        let (_, curve, own) = read_file(&body, reading.as_ref())?;
        let name: String = file.unwrap_or_default().chars().take(200).collect();
        let mut about = match about {
            Some(given) => about_of(&given)?,
            None => own,
        };
        if about.name.is_empty() {
            about.name = name.chars().take(120).collect();
        }
        Ok((Measurement::of(about, Source::File { name }), recipe::Data::Points(curve)))
    };
    let (made, data) = pool.patient(read).await?;
    let record = state.with(move |c, _| measurement::create(c, *id, revision, &made, &data)).await?;
    Ok(HttpResponse::Created().json(record))
}

fn about_of(given: &str) -> Result<About, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let value: Value = serde_json::from_str(given).map_err(|e| Problem::field("/about", &e.to_string()))?;
    part(&READER, value, "/about")
}

/// A measurement on the simulated bench.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct OnBench {
    /// The design whose cabinet stands there.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// What is measured.
    #[schema(schema_with = crate::schemas::bench)]
    pub wish: Value,
    /// What the measurement is called.
    pub name: String,
    /// The revision it is taken of.
    #[serde(default)]
    pub revision: Option<Uuid>,
    /// Whose cabinet it is; absent is one just as designed.
    #[schema(schema_with = crate::schemas::cabinet, required = false)]
    #[serde(default)]
    pub cabinet: Option<Value>,
}

/// Which cabinet stands on the bench.
#[derive(Clone, Debug, Deserialize, Serialize, schemars::JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(title = "Cabinet on the bench")]
pub enum BenchCabinet {
    /// One with flaws that nobody is told.
    Practice {
        /// Which.
        seed: u32,
        /// How hard.
        difficulty: Difficulty,
    },
    /// One with these flaws.
    Flawed {
        /// What is wrong with it.
        #[schemars(length(max = 10))]
        flaws: Vec<Flaw>,
    },
}

impl BenchCabinet {
    pub(super) fn flaws(&self, built: &AsBuilt) -> Vec<Flaw> {
        match self {
            BenchCabinet::Practice { seed, difficulty } => drawn(built, *seed, *difficulty),
            BenchCabinet::Flawed { flaws } => flaws.clone(),
        }
    }
}

pub(super) fn cabinet_of(value: Value) -> Result<BenchCabinet, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    part(&READER, value, "/cabinet")
}

/// Measures a cabinet on the simulated bench and keeps what came of it. Samples are played and recorded, and go the way every
/// recording goes.
#[utoipa::path(operation_id = "measureOnBench", params(("id" = Uuid, Path)), request_body = OnBench,
    responses((status = 201, body = MeasurementRecord), (status = 422, body = Problem)))]
#[post("/builds/{id}/measurements/bench")]
pub async fn bench(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let OnBench { document, wish, name, revision, cabinet } = body.json()?;
        let wish: BenchWish = part(&READER, wish, "/wish")?;
        let cabinet = cabinet.map(cabinet_of).transpose()?;
        Ok((asking::design(document)?, wish, asking::name(&name)?, revision, cabinet))
    };
    let (design, wish, name, revision, cabinet) = pool.take(read).await?;
    let work = move |d: &Checked| on_bench(d, &wish, name, cabinet.as_ref());
    let (made, data) = pool.work(Question::Work, design, work).await??;
    let record = state.with(move |c, _| measurement::create(c, *id, revision, &made, &data)).await?;
    Ok(HttpResponse::Created().json(record))
}

fn on_bench(
    design: &Checked,
    wish: &BenchWish,
    name: String,
    cabinet: Option<&BenchCabinet>,
) -> Result<(Measurement, recipe::Data), Problem> {
    let built = AsBuilt::of(design).ok_or_else(|| Problem::field("/document", "this design cannot be worked out"))?;
    let flaws = cabinet.map_or_else(Vec::new, |c| c.flaws(&built));
    let there = flawed(&built, &flaws)
        .ok_or_else(|| Problem::field("/cabinet/flaws", "no cabinet can be off by so much: is the port that long?"))?;
    let source = match cabinet {
        Some(BenchCabinet::Practice { seed, difficulty }) => {
            Source::Practice { seed: *seed, difficulty: difficulty.name().into() }
        }
        _ => Source::Bench {},
    };
    measured(&there, &flaws, wish, name, source).map_err(|why| idle(&why))
}

/// Why the bench records nothing, at its place.
fn idle(why: &Idle) -> Problem {
    match why {
        Idle::Sweep(field, what) => Problem::field(&format!("/wish/sweep/{field}"), what),
        Idle::Nothing => Problem::field("/wish/taken", &why.to_string()),
        Idle::Unheard(_) => Problem::field("/wish", &why.to_string()),
    }
}

/// What the bench plays into, and what it would record.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct OnTape {
    /// The design whose cabinet stands there.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// What is measured.
    #[schema(schema_with = crate::schemas::bench)]
    pub wish: Value,
}

/// What the simulated bench records of a cabinet just as designed, as a WAV file: the microphone and the loopback, or both inputs of
/// the jig.
#[utoipa::path(operation_id = "benchRecording", request_body = OnTape,
    responses((status = 200, body = String, content_type = "audio/wav"), (status = 422, body = Problem)))]
#[post("/bench/recording")]
pub async fn on_tape(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let OnTape { document, wish } = body.json()?;
        let wish: BenchWish = part(&READER, wish, "/wish")?;
        Ok((asking::design(document)?, wish))
    };
    let (design, wish) = pool.take(read).await?;
    let work = move |d: &Checked| {
        let built = AsBuilt::of(d).ok_or_else(|| Problem::field("/document", "this design cannot be worked out"))?;
        let recorded = play(&built.analysis, &[], &wish).map_err(|why| idle(&why))?;
        written(&recorded.recording)
    };
    Ok(wav_file("bench.wav", pool.work(Question::Work, design, work).await??))
}

/// A measurement's curve after its steps, to be drawn, with what has to be said about it.
#[derive(Serialize, ToSchema)]
pub struct CookedCurve {
    /// The curve.
    #[schema(schema_with = crate::schemas::drawn)]
    pub curve: DrawnCurve,
    /// The impulse response before any gate, thinned: time in ms against the first arrival, share of its top, weight of the gate.
    pub impulse: Vec<[f64; 3]>,
    /// What has to be said about it.
    pub remarks: Vec<String>,
    /// What of its phase is neither minimum phase nor delay; of levels with a phase.
    pub excess: Option<ExcessPhase>,
}

/// A phase taken apart.
#[derive(Serialize, ToSchema)]
pub struct ExcessPhase {
    /// Flight time, ms.
    pub delay_ms: f64,
    /// Whether the polarity is turned.
    pub turned: bool,
    /// Where what is left is largest, within 20 dB of the top, degrees.
    pub most_deg: f64,
    /// There, Hz.
    pub at_hz: f64,
}

impl ExcessPhase {
    /// Over the band in which the level stays within 20 dB of its top.
    fn of(curve: &Curve) -> Option<ExcessPhase> {
        if curve.quantity != Measurand::Level || !curve.has_phase {
            return None;
        }
        let thin = curve.thinned(DRAWN);
        let top = thin.value.iter().map(|v| v.norm()).fold(0.0, f64::max);
        let loud: Vec<usize> = (0..thin.len()).filter(|i| thin.value[*i].norm() > 0.1 * top).collect();
        let (from, to) = (thin.frequency[*loud.first()?], thin.frequency[*loud.last()?]);
        let found = excess(&thin, ends_of(&thin), from, to)?;
        let most = loud.into_iter().max_by(|a, b| found.phase[*a].abs().total_cmp(&found.phase[*b].abs()))?;
        Some(ExcessPhase {
            delay_ms: found.delay * 1e3,
            turned: found.turned,
            most_deg: found.phase[most].to_degrees(),
            at_hz: thin.frequency[most],
        })
    }
}

/// A measurement's curve after its steps.
#[utoipa::path(operation_id = "measuredCurve", params(("id" = Uuid, Path)),
    responses((status = 200, body = CookedCurve), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[get("/measurements/{id}/curve")]
pub async fn cooked(state: Data<State>, pool: Pool, id: Path<Uuid>) -> Result<Json<CookedCurve>, Problem> {
    let (record, data) = state.with(move |c, _| measurement::get(c, *id)).await?;
    let steps = record.measurement()?.steps;
    let work = move || {
        let made = cook(&data, &steps).map_err(|e| Problem::field(&format!("/steps/{}", e.step), &e.what))?;
        let excess = ExcessPhase::of(&made.curve);
        let curve = DrawnCurve::of(&made.curve);
        Ok(CookedCurve { curve, impulse: impulse_of(&data, &steps), remarks: made.remarks, excess })
    };
    Ok(Json(pool.patient(work).await?))
}

/// An impulse response as it is drawn: from 20 ms before its first arrival to 300 ms after, the largest of each of 400 stretches.
fn impulse_of(data: &recipe::Data, steps: &[recipe::RecipeStep]) -> Vec<[f64; 3]> {
    let recipe::Data::Impulse(impulse) = data else { return Vec::new() };
    let gate = steps.iter().find_map(recipe::RecipeStep::gate);
    let zero = impulse.zero as f64 / impulse.rate + impulse.arrival();
    let top = impulse.samples.iter().fold(1e-300, |m: f64, x| m.max(x.abs()));
    let (from, to, count) = (-0.02, 0.3, 400);
    (0..count)
        .filter_map(|i| {
            let at = |k: usize| from + (to - from) * k as f64 / f64::from(count as u32);
            let index = |t: f64| ((t + zero) * impulse.rate).max(0.0) as usize;
            let part = impulse.samples.get(index(at(i))..index(at(i + 1)).max(index(at(i)) + 1))?;
            let most = part.iter().copied().max_by(|a, b| a.abs().total_cmp(&b.abs()))?;
            let weight = gate.map_or(1.0, |g| g.weight(at(i)));
            Some([(at(i) * 1e4).round() / 10.0, (most / top * 1e4).round() / 1e4, (weight * 1e4).round() / 1e4])
        })
        .collect()
}

/// What a calibration file is called.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Called {
    /// Its name.
    #[param(inline)]
    pub name: String,
}

/// A microphone's or sound card's calibration file as a step of a recipe; nothing is stored.
#[utoipa::path(operation_id = "readCalibration", params(Called), request_body(content = String),
    responses((status = 200, body = ref("#/components/schemas/RecipeStep")), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/curves/calibration")]
pub async fn calibration(
    pool: Pool,
    called: Query<Called>,
    body: Result<Bytes, Error>,
) -> Result<Json<recipe::RecipeStep>, Problem> {
    let body = whole(body)?;
    let read = move || {
        Ok(recipe::RecipeStep::calibration(&called.name, &calibration_file::read(&body).map_err(|e| unread(&e))?))
    };
    Ok(Json(pool.patient(read).await?))
}

/// A save of what is known about a measurement and of what is done to it.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SaveMeasurement {
    /// The version it was made from.
    pub base_version: i32,
    /// The measurement.
    #[schema(schema_with = crate::schemas::measurement)]
    pub document: Value,
}

/// Saves what is known about a measurement and its steps; a save from a stale version is answered with 409 and what stands.
#[utoipa::path(operation_id = "saveMeasurement", params(("id" = Uuid, Path)), request_body = SaveMeasurement,
    responses((status = 200, body = MeasurementRecord), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/measurements/{id}")]
pub async fn save(
    state: Data<State>,
    pool: Pool,
    id: Path<Uuid>,
    body: Body,
) -> Result<Json<MeasurementRecord>, Problem> {
    let reading = move || {
        let SaveMeasurement { base_version, document } = body.json()?;
        let made = kept::read_value(document).map_err(|e| match e {
            CurveError::Shape { pointer, message } => Problem::field(&format!("/document{pointer}"), &message),
            other => Problem::field("/document", &other.to_string()),
        })?;
        Ok((base_version, made))
    };
    let (base_version, made) = pool.take(reading).await?;
    // steps are tried on the data before they are kept
    let key = *id;
    let (_, data) = state.with(move |c, _| measurement::get(c, key)).await?;
    let tried = move || {
        cook(&data, &made.steps).map_err(|e| Problem::field(&format!("/document/steps/{}", e.step), &e.what))?;
        Ok(made)
    };
    let made = pool.take(tried).await?;
    Ok(Json(state.with(move |c, _| measurement::save(c, *id, base_version, &made)).await?))
}

/// Takes a measurement away; it can be put back.
#[utoipa::path(operation_id = "deleteMeasurement", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/measurements/{id}")]
pub async fn remove(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| measurement::set_deleted(c, *id, true)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Puts a measurement back.
#[utoipa::path(operation_id = "restoreMeasurement", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[post("/measurements/{id}/restore")]
pub async fn restore(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| measurement::set_deleted(c, *id, false)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// How a curve is written.
#[derive(Clone, Copy, Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CurveFormat {
    /// Three columns.
    Text,
    /// Rows and columns with a header.
    Csv,
    /// This program's own JSON.
    Json,
}

/// Which format is wanted.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// Which format.
    #[param(inline)]
    pub format: CurveFormat,
}

/// A measurement's whole curve after its steps, as a file.
#[utoipa::path(operation_id = "exportMeasurement", params(("id" = Uuid, Path), Wanted),
    responses((status = 200, body = String), (status = 404, body = Problem)))]
#[get("/measurements/{id}/file")]
pub async fn export(
    state: Data<State>,
    pool: Pool,
    id: Path<Uuid>,
    wanted: Query<Wanted>,
) -> Result<HttpResponse, Problem> {
    let (record, data) = state.with(move |c, _| measurement::get(c, *id)).await?;
    let made = record.measurement()?;
    let format = wanted.format;
    let work = move || {
        let done = cook(&data, &made.steps).map_err(|e| Problem::field(&format!("/steps/{}", e.step), &e.what))?;
        let curve = done.curve;
        Ok(match format {
            CurveFormat::Text => (text::write(&curve, &made.about.name), "text/plain; charset=utf-8", "txt"),
            CurveFormat::Csv => (text::write_csv(&curve), "text/csv; charset=utf-8", "csv"),
            CurveFormat::Json => (json::write(&json::CurveFile::of(&curve, made.about)), "application/json", "json"),
        })
    };
    let (body, kind, ending) = pool.patient(work).await?;
    let name = format!("attachment; filename=\"curve.{ending}\"");
    Ok(HttpResponse::Ok().content_type(kind).insert_header((header::CONTENT_DISPOSITION, name)).body(body))
}

//! What was measured held against a design, combined, and practised on.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::routes::measurements::cabinet_of;
use crate::state::State;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, get, post};
use oak_drum_curves::measurement::{Measurement, Source};
use oak_drum_curves::process::recipe::{self, cook, for_fits};
use oak_drum_design::airway::learned::{LearnedEnds, learned as learned_ends};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::prove::as_built::AsBuilt;
use oak_drum_design::prove::combined::{Combining, combined};
use oak_drum_design::prove::hidden::Flaw;
use oak_drum_design::prove::practice::{PracticeVerdict, judged};
use oak_drum_design::prove::view::{Measured, MeasuringPlan, Proof, plan as how, prove as held_against};
use oak_drum_document::{Checked, Reader};
use oak_drum_store::tables::measurement::{self, MeasurementRecord};
use oak_drum_store::tables::revision;
use serde::Deserialize;
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::ToSchema;
use uuid::Uuid;

/// Most measurements that are held against a design at once.
const AT_ONCE: usize = 12;

/// A design and measurements that are held against it.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToProve {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// The measurements, at most twelve.
    pub measurements: Vec<Uuid>,
    /// Where the band begins that they are compared in, Hz; absent is where the model may be trusted.
    #[serde(default)]
    pub from_hz: Option<f64>,
    /// Where it ends, Hz.
    #[serde(default)]
    pub to_hz: Option<f64>,
    /// Whether the box is fitted with its woofer; else the woofer is held.
    #[serde(default)]
    pub woofer_too: bool,
}

/// Measurements held against a design: how far off, why, and what to do.
#[utoipa::path(operation_id = "prove", request_body = ToProve,
    responses((status = 200, body = ref("#/components/schemas/Proof")), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/prove")]
pub async fn prove(state: Data<State>, pool: Pool, body: Body) -> Result<Json<Proof>, Problem> {
    let read = move || {
        let ToProve { document, measurements, from_hz, to_hz, woofer_too } = body.json()?;
        if measurements.len() > AT_ONCE {
            return Err(Problem::field(
                "/measurements",
                &format!("at most {AT_ONCE} measurements are compared at once"),
            ));
        }
        let band = match (from_hz, to_hz) {
            (None, None) => None,
            (from, to) => {
                let (from, to) = (from.unwrap_or(1.0), to.unwrap_or(20_000.0));
                let sound = from.is_finite() && to.is_finite() && from > 0.0 && to > from * 1.2;
                if !sound {
                    return Err(Problem::field("/to_hz", "a band has to end above where it begins"));
                }
                Some((from, to))
            }
        };
        Ok((asking::design(document)?, measurements, band, woofer_too))
    };
    let (design, ids, band, woofer_too) = pool.take(read).await?;
    let load = move |c: &mut oak_drum_store::Connection, _| {
        ids.iter().map(|id| measurement::get(c, *id)).collect::<Result<Vec<_>, _>>()
    };
    let found = state.with(load).await?;
    let work = move |d: &Checked| -> Result<Proof, Problem> {
        let list = found.into_iter().map(measured_of).collect::<Result<Vec<_>, _>>()?;
        held_against(d, &list, band, woofer_too)
            .ok_or_else(|| Problem::field("/document", "this design cannot be worked out"))
    };
    Ok(Json(pool.work(Question::Work, design, work).await??))
}

/// What the other builds of the workshop measured about the ends of their ports.
#[utoipa::path(operation_id = "learnedEnds", params(("id" = Uuid, Path)),
    responses((status = 200, body = ref("#/components/schemas/LearnedEnds"))))]
#[get("/builds/{id}/learned")]
pub async fn learned(state: Data<State>, id: Path<Uuid>) -> Result<Json<LearnedEnds>, Problem> {
    let found = state.with(move |c, owner| revision::with_measured_ends(c, owner, *id)).await?;
    Ok(Json(learned_ends(&found)))
}

/// How a build is measured: where, with what, how loud.
#[utoipa::path(operation_id = "measuringPlan", request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/MeasuringPlan")), (status = 422, body = Problem)))]
#[post("/prove/plan")]
pub async fn plan(pool: Pool, body: Body) -> Result<Json<MeasuringPlan>, Problem> {
    Ok(Json(asking::about(&pool, Question::Station, body, how).await?))
}

/// What is said to be wrong with a practice cabinet.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToJudge {
    /// The design it was built from.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// Which cabinet.
    #[schema(schema_with = crate::schemas::cabinet)]
    pub cabinet: Value,
    /// What is said to be wrong with it.
    #[schema(schema_with = crate::schemas::flaws)]
    pub said: Value,
}

/// Tells how near one came to what is wrong with a practice cabinet.
#[utoipa::path(operation_id = "judgePractice", request_body = ToJudge,
    responses((status = 200, body = ref("#/components/schemas/PracticeVerdict")), (status = 422, body = Problem)))]
#[post("/prove/judge")]
pub async fn judge(pool: Pool, body: Body) -> Result<Json<PracticeVerdict>, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let ToJudge { document, cabinet, said } = body.json()?;
        let said: Vec<Flaw> = part(&READER, said, "/said")?;
        Ok((asking::design(document)?, cabinet_of(cabinet)?, said))
    };
    let (design, cabinet, said) = pool.take(read).await?;
    let work = move |d: &Checked| {
        let built = AsBuilt::of(d).ok_or_else(|| Problem::field("/document", "this design cannot be worked out"))?;
        Ok::<_, Problem>(judged(&cabinet.flaws(&built), &said))
    };
    Ok(Json(pool.work(Question::Station, design, work).await??))
}

/// Measurements that are combined.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToCombine {
    /// The design: what radiates has its areas there.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// Which, at most twelve, in their order.
    pub measurements: Vec<Uuid>,
    /// How.
    #[schema(schema_with = crate::schemas::combining)]
    pub how: Value,
    /// The revision it belongs to.
    #[serde(default)]
    pub revision: Option<Uuid>,
}

/// Makes a measurement of others of the same build and keeps it; those stay as they are.
#[utoipa::path(operation_id = "combineMeasurements", params(("id" = Uuid, Path)), request_body = ToCombine,
    responses((status = 201, body = MeasurementRecord), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/builds/{id}/measurements/combined")]
pub async fn combine(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let ToCombine { document, measurements, how, revision } = body.json()?;
        if measurements.len() > AT_ONCE {
            return Err(Problem::field("/measurements", &format!("at most {AT_ONCE} are combined at once")));
        }
        let how: Combining = part(&READER, how, "/how")?;
        Ok((asking::design(document)?, measurements, how, revision))
    };
    let (design, ids, how, revision) = pool.take(read).await?;
    let build = *id;
    let load = move |c: &mut oak_drum_store::Connection, _| {
        let all = ids.iter().map(|id| measurement::get(c, *id)).collect::<Result<Vec<_>, _>>()?;
        let foreign = all.iter().any(|(record, _)| record.build_id != build);
        if foreign { Err(oak_drum_store::Error::NotFound("measurement")) } else { Ok(all) }
    };
    let found = state.with(load).await?;
    let work = move |d: &Checked| -> Result<_, Problem> {
        let list = found.into_iter().map(measured_of).collect::<Result<Vec<_>, _>>()?;
        let made = combined(&Analysis::of(d), &list, how).map_err(|no| Problem::field("/how", &no.to_string()))?;
        Ok((Measurement::of(made.about, Source::Combined { how: made.how }), recipe::Data::Points(made.curve)))
    };
    let (made, data) = pool.work(Question::Work, design, work).await??;
    let record = state.with(move |c, _| measurement::create(c, build, revision, &made, &data)).await?;
    Ok(HttpResponse::Created().json(record))
}

/// A stored measurement as it is worked with: its curve after the steps that change what is true about it.
pub(super) fn measured_of((record, data): measurement::Whole) -> Result<Measured, Problem> {
    let made = record.measurement()?;
    let plain =
        cook(&data, &for_fits(&made.steps)).map_err(|e| Problem::field(&format!("/steps/{}", e.step), &e.what))?;
    Ok(Measured { id: record.id.to_string(), about: made.about, curve: plain.curve })
}

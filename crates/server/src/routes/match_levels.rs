//! Equally loud: by the model, by what was measured, by a microphone.

use crate::asking;
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::routes::files::whole;
use crate::routes::proving::measured_of;
use crate::routes::recordings::unread;
use crate::state::State;
use actix_web::post;
use actix_web::web::{Bytes, Data, Json, Query};
use oak_drum_curves::curve::Measurand;
use oak_drum_curves::formats::wav;
use oak_drum_curves::process::band_level::level_in_band;
use oak_drum_design::evaluation::outline;
use oak_drum_design::prove::view::Measured;
use oak_drum_document::Checked;
use oak_drum_listening::levels::{TOLERANCE_DB, common_band, pink_db, trims};
use oak_drum_store::tables::measurement;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Cabinets to be brought to one level by the model.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToMatch {
    /// The designs, two to six.
    #[schema(schema_with = crate::schemas::designs)]
    pub documents: Vec<Value>,
    /// Band of the noise, Hz; absent is what all of them play, up to 120 Hz.
    #[schema(required = false)]
    #[serde(default)]
    pub band_hz: Option<[f64; 2]>,
}

/// Cabinets brought to one level.
#[derive(Serialize, ToSchema)]
pub struct LevelsMatched {
    /// Band of the noise, Hz.
    pub band_hz: [f64; 2],
    /// Level of each over it, pink, dB, at its own drive and distance.
    pub levels_db: Vec<f64>,
    /// What each is turned by, dB.
    pub trims_db: Vec<f64>,
    /// How far apart they were, dB.
    pub apart_db: f64,
    /// How far apart they may be, dB.
    pub tolerance_db: f64,
}

/// What brings cabinets to one level, by the model: pink noise over the band they all play.
#[utoipa::path(operation_id = "matchByModel", request_body = ToMatch,
    responses((status = 200, body = LevelsMatched), (status = 422, body = Problem)))]
#[post("/listening/match")]
pub async fn match_levels(pool: Pool, body: Body) -> Result<Json<LevelsMatched>, Problem> {
    let read = move || {
        let ToMatch { documents, band_hz } = body.json()?;
        if !(2..=6).contains(&documents.len()) {
            return Err(Problem::field("/documents", "two to six designs are expected"));
        }
        if band_hz.is_some_and(|[a, b]| !(a >= 5.0 && a < b && b <= 1000.0)) {
            return Err(Problem::field(
                "/band_hz",
                "two frequencies from 5 to 1000 Hz are expected, the lower one first",
            ));
        }
        let designs = documents.into_iter().map(asking::design).collect::<Result<Vec<Checked>, _>>()?;
        Ok((designs, band_hz))
    };
    let (designs, wanted) = pool.take(read).await?;
    let first = designs[0].clone();
    let work = move |_: &Checked| {
        let told: Vec<_> = designs.iter().map(outline).collect();
        let lowest = told.iter().filter_map(|e| e.summary.f3_hz).fold(20.0, f64::max);
        // an octave at least: what all play may begin high
        let band = wanted.unwrap_or([lowest, 120f64.max(2.0 * lowest)]).map(|f| (f * 10.0).round() / 10.0);
        let level = |e: &oak_drum_design::Evaluation| pink_db(&e.curves.frequency_hz, &e.curves.level_db, band);
        told.iter().map(level).collect::<Option<Vec<f64>>>().and_then(|levels| Some((band, trims(&levels)?, levels)))
    };
    let found = pool.work(Question::Station, first, work).await?;
    let (band_hz, turned, levels_db) =
        found.ok_or_else(|| Problem::field("/band_hz", "the curves do not cover this band"))?;
    Ok(Json(LevelsMatched {
        band_hz,
        levels_db,
        trims_db: turned.trims_db,
        apart_db: turned.apart_db,
        tolerance_db: TOLERANCE_DB,
    }))
}

/// Cabinets to be brought to one level by what was measured.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToMatchMeasured {
    /// A measurement of each, two to six, all taken at the same place.
    pub measurements: Vec<Uuid>,
}

/// What brings cabinets to one level, by measurements of them: pink noise over the band all of them play. Levels are taken at the volts
/// they were measured with where those are stated; else all are taken to have had the same.
#[utoipa::path(operation_id = "matchByMeasurement", request_body = ToMatchMeasured,
    responses((status = 200, body = LevelsMatched), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/listening/match/measured")]
pub async fn match_measured(state: Data<State>, pool: Pool, body: Body) -> Result<Json<LevelsMatched>, Problem> {
    let ToMatchMeasured { measurements } = pool.take(move || body.json()).await?;
    if !(2..=6).contains(&measurements.len()) {
        return Err(Problem::field("/measurements", "two to six measurements are expected"));
    }
    let load = move |c: &mut oak_drum_store::Connection, _| {
        measurements.iter().map(|id| measurement::get(c, *id)).collect::<Result<Vec<_>, _>>()
    };
    let found = state.with(load).await?;
    let work = move || {
        let list = found.into_iter().map(measured_of).collect::<Result<Vec<_>, _>>()?;
        let told = one_place(&list)?;
        let curves: Vec<(&[f64], &[f64])> =
            list.iter().zip(&told).map(|(m, level)| (m.curve.frequency.as_slice(), level.as_slice())).collect();
        let none =
            || Problem::field("/measurements", "there is no octave that all of them play and were measured over");
        let band_hz = common_band(&curves).ok_or_else(none)?;
        let levels_db: Option<Vec<f64>> = curves.iter().map(|(f, l)| pink_db(f, l, band_hz)).collect();
        let levels_db = levels_db.ok_or_else(none)?;
        let turned = trims(&levels_db).ok_or_else(none)?;
        Ok(LevelsMatched {
            band_hz,
            levels_db,
            trims_db: turned.trims_db,
            apart_db: turned.apart_db,
            tolerance_db: TOLERANCE_DB,
        })
    };
    Ok(Json(pool.patient(work).await?))
}

/// Levels of measurements at the same volts, dB; what is wrong where they cannot be held against each other.
fn one_place(list: &[Measured]) -> Result<Vec<Vec<f64>>, Problem> {
    let first = &list[0].about;
    for (i, m) in list.iter().enumerate() {
        let at = format!("/measurements/{i}");
        if m.about.taken.is_impedance() || m.curve.quantity != Measurand::Level {
            return Err(Problem::field(&at, "an impedance has no level: take what was measured with a microphone"));
        }
        if m.about.taken != first.taken {
            return Err(Problem::field(&at, "it was taken at another place than the first"));
        }
        if m.about.absolute != first.absolute || m.about.volts.is_some() != first.volts.is_some() {
            let what = "its level is stated otherwise than the first one's: both absolute or neither, both with their volts or neither";
            return Err(Problem::field(&at, what));
        }
    }
    let at_one_volt = |m: &Measured| {
        let by = m.about.volts.map_or(0.0, |v| 20.0 * v.log10());
        m.curve.magnitude().into_iter().map(|db| db - by).collect()
    };
    Ok(list.iter().map(at_one_volt).collect())
}

/// Which band of a recording is read.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Read {
    /// Where it begins, Hz; 30 where it is not said.
    pub from_hz: Option<f64>,
    /// Where it ends, Hz; 120 where it is not said.
    pub to_hz: Option<f64>,
    /// How long nothing was played at its beginning, s: that much tells what the room itself makes.
    pub quiet_s: Option<f64>,
}

/// The level a microphone read.
#[derive(Serialize, ToSchema)]
pub struct LevelRead {
    /// Level within the band, dB of full scale.
    pub level_db: f64,
    /// How far it stands over the quiet before it, dB; absent where there was none.
    pub over_quiet_db: Option<f64>,
    /// What is wrong with it; empty for nothing.
    pub doubt: String,
}

/// The level of a recording, a WAV file, within a band: what a microphone heard while noise was played.
#[utoipa::path(operation_id = "readLevel", params(Read), request_body(content = String, content_type = "audio/wav"),
    responses((status = 200, body = LevelRead), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/listening/level")]
pub async fn read_level(
    pool: Pool,
    wanted: Query<Read>,
    content: Result<Bytes, actix_web::Error>,
) -> Result<Json<LevelRead>, Problem> {
    let content = whole(content)?;
    let Read { from_hz, to_hz, quiet_s } = wanted.into_inner();
    let (from, to, quiet) = (from_hz.unwrap_or(30.0), to_hz.unwrap_or(120.0), quiet_s.unwrap_or(0.0));
    if !(from >= 5.0 && from < to && to <= 1000.0) {
        return Err(Problem::field("/to_hz", "two frequencies from 5 to 1000 Hz are expected, the lower one first"));
    }
    if !(0.0..=10.0).contains(&quiet) {
        return Err(Problem::field("/quiet_s", "0 to 10 s are expected"));
    }
    let work = move || {
        let recording = wav::read(&content).map_err(|e| unread(&e))?;
        let read = level_in_band(&recording, [from, to], quiet);
        let read = read.ok_or_else(|| Problem::field("", "the recording is too short for this band"))?;
        let doubt = if read.clipped {
            "It is clipped: turn the input down, and read all of them again."
        } else if read.over_quiet_db.is_some_and(|db| db < 15.0) {
            "It stands too little over the room's own noise: play louder, or bring the microphone nearer."
        } else {
            ""
        };
        Ok(LevelRead { level_db: read.level_db, over_quiet_db: read.over_quiet_db, doubt: doubt.into() })
    };
    Ok(Json(pool.patient(work).await?))
}

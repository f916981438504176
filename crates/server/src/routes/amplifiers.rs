//! The shelf's amplifiers, and which of them suit a design.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::routes::files::{unreadable, whole};
use crate::state::State;
use actix_web::http::header;
use actix_web::web::{Bytes, Data, Json, Path};
use actix_web::{Error, HttpResponse, delete, get, post, put};
use oak_drum_acoustics::amplifier::Amplifier;
use oak_drum_design::drive::suits::{MOST, Suits, suits as judged};
use oak_drum_document::{Checked, Reader};
use oak_drum_shelf::ShelfAmplifier;
use oak_drum_shelf::amplifier::{NotRead, read_file, read_value, write_file};
use oak_drum_store::tables::amplifier::{self, AmplifierRecord, AmplifiersImported};
use serde::Deserialize;
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::ToSchema;
use uuid::Uuid;

/// Every amplifier of the shelf, by name.
#[utoipa::path(operation_id = "listAmplifiers", responses((status = 200, body = Vec<AmplifierRecord>)))]
#[get("/amplifiers")]
pub async fn list(state: Data<State>) -> Result<Json<Vec<AmplifierRecord>>, Problem> {
    Ok(Json(state.with(|c, owner| amplifier::list(c, owner)).await?))
}

/// An amplifier for the shelf.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewAmplifier {
    /// The amplifier.
    #[schema(schema_with = crate::schemas::shelf_amplifier)]
    pub document: Value,
}

fn read(document: Value) -> Result<ShelfAmplifier, Problem> {
    read_value(document).map_err(|problems| Problem::amplifier(&problems))
}

/// Puts an amplifier on the shelf.
#[utoipa::path(operation_id = "createAmplifier", request_body = NewAmplifier,
    responses((status = 201, body = AmplifierRecord), (status = 422, body = Problem)))]
#[post("/amplifiers")]
pub async fn create(state: Data<State>, pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let made = pool.take(move || read(body.json::<NewAmplifier>()?.document)).await?;
    let record = state.with(move |c, owner| amplifier::create(c, owner, &made)).await?;
    Ok(HttpResponse::Created().json(record))
}

/// A save of an amplifier.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SaveAmplifier {
    /// The version the amplifier was made from.
    pub base_version: i32,
    /// The amplifier.
    #[schema(schema_with = crate::schemas::shelf_amplifier)]
    pub document: Value,
}

/// Saves an amplifier; a save from a stale version is answered with 409 and what stands.
#[utoipa::path(operation_id = "saveAmplifier", params(("id" = Uuid, Path)), request_body = SaveAmplifier,
    responses((status = 200, body = AmplifierRecord), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/amplifiers/{id}")]
pub async fn save(
    state: Data<State>,
    pool: Pool,
    id: Path<Uuid>,
    body: Body,
) -> Result<Json<AmplifierRecord>, Problem> {
    let reading = move || {
        let SaveAmplifier { base_version, document } = body.json()?;
        Ok((base_version, read(document)?))
    };
    let (base_version, made) = pool.take(reading).await?;
    Ok(Json(state.with(move |c, _| amplifier::save(c, *id, base_version, &made)).await?))
}

/// Takes an amplifier off the shelf; it can be put back, and builds keep their own copy.
#[utoipa::path(operation_id = "deleteAmplifier", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/amplifiers/{id}")]
pub async fn delete(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| amplifier::set_deleted(c, *id, true)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Puts an amplifier back on the shelf.
#[utoipa::path(operation_id = "restoreAmplifier", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[post("/amplifiers/{id}/restore")]
pub async fn restore(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| amplifier::set_deleted(c, *id, false)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Takes a file of amplifiers in, all of it or nothing; those on the shelf already are left out.
#[utoipa::path(operation_id = "importAmplifiers", request_body(content = String, content_type = "application/json"),
    responses((status = 200, body = AmplifiersImported), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/amplifiers/import")]
pub async fn import(
    state: Data<State>,
    pool: Pool,
    body: Result<Bytes, Error>,
) -> Result<Json<AmplifiersImported>, Problem> {
    let body = whole(body)?;
    let reading = move || {
        read_file(&body).map_err(|no| match no {
            NotRead::File(error) => unreadable(&error),
            NotRead::Amplifiers(problems) => Problem::amplifier(&problems),
        })
    };
    let made = pool.take(reading).await?;
    Ok(Json(state.with(move |c, owner| amplifier::import(c, owner, &made)).await?))
}

/// The shelf's amplifiers as a JSON file.
#[utoipa::path(operation_id = "exportAmplifiers", responses((status = 200, body = String)))]
#[get("/amplifiers/export")]
pub async fn export(state: Data<State>) -> Result<HttpResponse, Problem> {
    let sheets = state.with(|c, owner| amplifier::sheets(c, owner)).await?;
    Ok(HttpResponse::Ok()
        .content_type("application/json")
        .insert_header((header::CONTENT_DISPOSITION, "attachment; filename=\"oak-drum-amplifiers.json\""))
        .body(write_file(&sheets)))
}

/// A design and amplifiers that may drive it.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToSuit {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// Sheets of amplifiers, at most 500.
    #[schema(schema_with = crate::schemas::amplifiers)]
    pub amplifiers: Vec<Value>,
}

/// What each amplifier would do for a design, the best first; nothing is stored.
#[utoipa::path(operation_id = "suitAmplifiers", request_body = ToSuit,
    responses((status = 200, body = ref("#/components/schemas/Suits")), (status = 422, body = Problem)))]
#[post("/drive/amplifiers")]
pub async fn suits(pool: Pool, body: Body) -> Result<Json<Suits>, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let reading = move || {
        let ToSuit { document, amplifiers } = body.json()?;
        if amplifiers.len() > MOST {
            return Err(Problem::field("/amplifiers", &format!("at most {MOST} amplifiers are expected")));
        }
        let sheets: Vec<Amplifier> = part(&READER, amplifiers.into(), "/amplifiers")?;
        Ok((asking::design(document)?, sheets))
    };
    let (design, sheets) = pool.take(reading).await?;
    Ok(Json(pool.work(Question::Work, design, move |d: &Checked| judged(d, &sheets)).await?))
}

//! The shelf.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, delete, get, post, put};
use oak_drum_design::woofer::in_box::{SetsInBox, in_box as each_in_box};
use oak_drum_document::{Checked, Reader};
use oak_drum_shelf::ShelfWoofer;
use oak_drum_store::tables::woofer::{self, ShelfLine, WooferRecord};
use serde::Deserialize;
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::ToSchema;
use uuid::Uuid;

/// Every woofer in few figures, by size and name.
#[utoipa::path(operation_id = "listWoofers", responses((status = 200, body = Vec<ShelfLine>)))]
#[get("/woofers")]
pub async fn list(state: Data<State>) -> Result<Json<Vec<ShelfLine>>, Problem> {
    Ok(Json(state.with(|c, owner| woofer::list(c, owner)).await?))
}

/// A woofer with all its parameter sets.
#[utoipa::path(operation_id = "getWoofer", params(("id" = Uuid, Path)),
    responses((status = 200, body = WooferRecord), (status = 404, body = Problem)))]
#[get("/woofers/{id}")]
pub async fn get(state: Data<State>, id: Path<Uuid>) -> Result<Json<WooferRecord>, Problem> {
    Ok(Json(state.with(move |c, _| woofer::get(c, *id)).await?))
}

/// A woofer for the shelf.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewWoofer {
    /// The woofer with its parameter sets.
    #[schema(schema_with = crate::schemas::shelf_woofer)]
    pub document: Value,
}

fn read(document: Value) -> Result<ShelfWoofer, Problem> {
    oak_drum_shelf::read_value(document).map_err(|problems| Problem::woofer(&problems))
}

/// Puts a woofer on the shelf.
#[utoipa::path(operation_id = "createWoofer", request_body = NewWoofer,
    responses((status = 201, body = WooferRecord), (status = 422, body = Problem)))]
#[post("/woofers")]
pub async fn create(state: Data<State>, pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let made = pool.take(move || read(body.json::<NewWoofer>()?.document)).await?;
    let record = state.with(move |c, owner| woofer::create(c, owner, &made)).await?;
    Ok(HttpResponse::Created().json(record))
}

/// A woofer for the shelf: the design it stands in (its woofer is taken).
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KeptWoofer {
    /// A design whose woofer is put on the shelf.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
}

/// Puts the woofer of a design on the shelf, its figures as one parameter set.
#[utoipa::path(operation_id = "keepWoofer", request_body = KeptWoofer,
    responses((status = 201, body = WooferRecord), (status = 422, body = Problem)))]
#[post("/woofers/keep")]
pub async fn keep(state: Data<State>, pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let read = move || {
        let made = ShelfWoofer::from_sheet(&asking::design(body.json::<KeptWoofer>()?.document)?.woofer);
        oak_drum_shelf::check(&made).map_err(|problems| Problem::woofer(&problems))?;
        Ok(made)
    };
    let made = pool.take(read).await?;
    let record = state.with(move |c, owner| woofer::create(c, owner, &made)).await?;
    Ok(HttpResponse::Created().json(record))
}

/// What happened to the woofer of a design.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Logged {
    /// The design it stands in.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// Figures that were measured.
    #[schema(schema_with = crate::schemas::parameter_set, required = false)]
    #[serde(default)]
    pub set: Option<Value>,
    /// A line for its notes.
    #[serde(default)]
    pub note: Option<String>,
}

/// Writes down what happened to the woofer of a design, on the shelf: under its maker and name, put there if it is not.
#[utoipa::path(operation_id = "logWoofer", request_body = Logged,
    responses((status = 200, body = WooferRecord), (status = 422, body = Problem)))]
#[post("/woofers/log")]
pub async fn log(state: Data<State>, pool: Pool, body: Body) -> Result<Json<WooferRecord>, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let Logged { document, set, note } = body.json()?;
        let set = set.map(|s| part(&READER, s, "/set")).transpose()?;
        Ok((asking::design(document)?, woofer::Happened { set, note }))
    };
    let (design, happened) = pool.take(read).await?;
    Ok(Json(state.with(move |c, owner| woofer::log(c, owner, &design.woofer, &happened)).await?))
}

/// A save of a woofer.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SaveWoofer {
    /// The version the woofer was made from.
    pub base_version: i32,
    /// The woofer.
    #[schema(schema_with = crate::schemas::shelf_woofer)]
    pub document: Value,
}

/// Saves a woofer; a save from a stale version is answered with 409 and what stands.
#[utoipa::path(operation_id = "saveWoofer", params(("id" = Uuid, Path)), request_body = SaveWoofer,
    responses((status = 200, body = WooferRecord), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/woofers/{id}")]
pub async fn save(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<Json<WooferRecord>, Problem> {
    let reading = move || {
        let SaveWoofer { base_version, document } = body.json()?;
        Ok((base_version, read(document)?))
    };
    let (base_version, made) = pool.take(reading).await?;
    Ok(Json(state.with(move |c, _| woofer::save(c, *id, base_version, &made)).await?))
}

/// Whether a woofer is a favourite.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Favourite {
    /// Whether it is.
    pub favourite: bool,
}

/// Marks a woofer as a favourite or not.
#[utoipa::path(operation_id = "favourWoofer", params(("id" = Uuid, Path)), request_body = Favourite,
    responses((status = 200, body = WooferRecord), (status = 404, body = Problem)))]
#[put("/woofers/{id}/favourite")]
pub async fn favourite(
    state: Data<State>,
    id: Path<Uuid>,
    body: Json<Favourite>,
) -> Result<Json<WooferRecord>, Problem> {
    Ok(Json(state.with(move |c, _| woofer::set_favourite(c, *id, body.favourite)).await?))
}

/// Takes a woofer off the shelf; it can be put back, and builds keep their own copy.
#[utoipa::path(operation_id = "deleteWoofer", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/woofers/{id}")]
pub async fn delete(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| woofer::set_deleted(c, *id, true)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Puts a woofer back on the shelf.
#[utoipa::path(operation_id = "restoreWoofer", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[post("/woofers/{id}/restore")]
pub async fn restore(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| woofer::set_deleted(c, *id, false)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// A sheet as it is typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Typed {
    /// The sheet, as far as it is filled in.
    #[schema(schema_with = crate::schemas::sheet)]
    pub sheet: Value,
}

/// What follows from a sheet, what is missing, what contradicts itself; nothing is stored.
#[utoipa::path(operation_id = "deriveWoofer", request_body = Typed,
    responses((status = 200, body = ref("#/components/schemas/Derived")), (status = 422, body = Problem)))]
#[post("/woofers/derive")]
pub async fn derive(pool: Pool, body: Body) -> Result<Json<oak_drum_shelf::Derived>, Problem> {
    let work = move || {
        let Typed { sheet } = body.json()?;
        let sheet = serde_json::from_value(sheet).map_err(|e| Problem::field("/sheet", &e.to_string()))?;
        Ok(oak_drum_shelf::derive(&sheet))
    };
    Ok(Json(pool.take(work).await?))
}

/// A design and the sheets of a woofer.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct InBox {
    /// The design whose box it is.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// The woofer with each of its parameter sets, at most 100, each as far as it is filled in.
    #[schema(schema_with = crate::schemas::sheets)]
    pub sheets: Vec<Value>,
}

/// What each parameter set of a woofer gives in the box of a design, in their order; nothing is stored.
#[utoipa::path(operation_id = "setsInBox", request_body = InBox,
    responses((status = 200, body = ref("#/components/schemas/SetsInBox")), (status = 422, body = Problem)))]
#[post("/woofers/in-box")]
pub async fn in_box(pool: Pool, body: Body) -> Result<Json<SetsInBox>, Problem> {
    let reading = move || {
        let InBox { document, sheets } = body.json()?;
        if sheets.len() > 100 {
            return Err(Problem::field("/sheets", "at most 100 sheets are expected"));
        }
        let sheet = |(i, sheet)| {
            serde_json::from_value(sheet).map_err(|e| Problem::field(&format!("/sheets/{i}"), &e.to_string()))
        };
        let sheets = sheets.into_iter().enumerate().map(sheet).collect::<Result<Vec<_>, _>>()?;
        Ok((asking::design(document)?, sheets))
    };
    let (design, sheets) = pool.take(reading).await?;
    Ok(Json(pool.work(Question::Work, design, move |d: &Checked| each_in_box(d, &sheets)).await?))
}

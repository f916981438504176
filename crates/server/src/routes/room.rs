//! The workshop's rooms, and a design in one: what is heard, maps, arrangements, waves.

use crate::asking::{self, about, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, post, put};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::room::arrangements::{ArrangementsWish, arrangements as arranged};
use oak_drum_design::room::families::families as all_families;
use oak_drum_design::room::map::{MapWish, map as mapped};
use oak_drum_design::room::modes::picture;
use oak_drum_design::room::playing::{Player, kept_at};
use oak_drum_design::room::response::ears;
use oak_drum_design::room::surroundings::Surroundings;
use oak_drum_design::room::view::view;
use oak_drum_document::{Checked, Reader, Room};
use oak_drum_store::tables::room::{self, RoomRecord};
use serde::Deserialize;
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Every room of the workshop, by name.
#[utoipa::path(operation_id = "listRooms", responses((status = 200, body = Vec<RoomRecord>)))]
#[get("/rooms")]
pub async fn list(state: Data<State>) -> Result<Json<Vec<RoomRecord>>, Problem> {
    Ok(Json(state.with(|c, owner| room::list(c, owner)).await?))
}

/// A room for the workshop.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewRoom {
    /// The room.
    #[schema(schema_with = crate::schemas::room)]
    pub document: Value,
}

fn read(document: Value) -> Result<Room, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    part(&READER, document, "")
}

/// Keeps a room.
#[utoipa::path(operation_id = "createRoom", request_body = NewRoom,
    responses((status = 201, body = RoomRecord), (status = 422, body = Problem)))]
#[post("/rooms")]
pub async fn create(state: Data<State>, pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let made = pool.take(move || read(body.json::<NewRoom>()?.document)).await?;
    let record = state.with(move |c, owner| room::create(c, owner, &made)).await?;
    Ok(HttpResponse::Created().json(record))
}

/// A save of a room.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SaveRoom {
    /// The version the room was made from.
    pub base_version: i32,
    /// The room.
    #[schema(schema_with = crate::schemas::room)]
    pub document: Value,
}

/// Saves a room; a save from a stale version is answered with 409 and what stands.
#[utoipa::path(operation_id = "saveRoom", params(("id" = Uuid, Path)), request_body = SaveRoom,
    responses((status = 200, body = RoomRecord), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/rooms/{id}")]
pub async fn save(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<Json<RoomRecord>, Problem> {
    let reading = move || {
        let SaveRoom { base_version, document } = body.json()?;
        Ok((base_version, read(document)?))
    };
    let (base_version, made) = pool.take(reading).await?;
    Ok(Json(state.with(move |c, _| room::save(c, *id, base_version, &made)).await?))
}

/// Takes a room out of the workshop; it can be put back, and builds keep their own copy.
#[utoipa::path(operation_id = "deleteRoom", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/rooms/{id}")]
pub async fn delete(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| room::set_deleted(c, *id, true)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Puts a room back.
#[utoipa::path(operation_id = "restoreRoom", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[post("/rooms/{id}/restore")]
pub async fn restore(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| room::set_deleted(c, *id, false)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// What is wanted of a room.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// Whether only curves, places and waves are; the neighbour and what the room adds to a goal are then left out.
    #[serde(default)]
    #[param(inline)]
    pub curves_alone: bool,
}

fn in_the_open() -> Problem {
    Problem::field("/room", "the build stands in no room: give it one first")
}

fn no_floor() -> Problem {
    Problem::field(
        "/room/room/space",
        "a room or a ground with such a cabinet or seat is expected: a cabin has no floor plan",
    )
}

/// A design in its room: what is heard at every seat, standing waves, what cannot stand.
#[utoipa::path(operation_id = "room", params(Wanted), request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/RoomView")), (status = 422, body = Problem)))]
#[post("/room")]
pub async fn room_view(pool: Pool, wanted: Query<Wanted>, body: Body) -> Result<HttpResponse, Problem> {
    let whole = !wanted.curves_alone;
    let question = if whole { Question::Station } else { Question::Curves };
    let seen = about(&pool, question, body, move |d: &Checked| view(d, whole)).await?;
    Ok(HttpResponse::Ok().json(seen.ok_or_else(in_the_open)?))
}

/// Every family's starting point in the design's room.
#[utoipa::path(operation_id = "familiesInRoom", request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/FamiliesInRoom")), (status = 422, body = Problem)))]
#[post("/room/families")]
pub async fn families(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let found = about(&pool, Question::Work, body, all_families).await?;
    Ok(HttpResponse::Ok().json(found.ok_or_else(in_the_open)?))
}

/// A design and which map of its room is wanted.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToMap {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// Which map.
    #[schema(schema_with = crate::schemas::map_wish)]
    pub map: Value,
}

/// How even, loud and low it is with a cabinet or a seat at every place of the floor.
#[utoipa::path(operation_id = "mapRoom", request_body = ToMap,
    responses((status = 200, body = ref("#/components/schemas/RoomMap")), (status = 422, body = Problem)))]
#[post("/room/map")]
pub async fn map(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let reading = move || {
        let ToMap { document, map } = body.json()?;
        let wish: MapWish = part(&READER, map, "/map")?;
        Ok((asking::design(document)?, wish))
    };
    let (design, wish) = pool.take(reading).await?;
    let found = pool.work(Question::Work, design, move |d: &Checked| mapped(d, &wish)).await?;
    Ok(HttpResponse::Ok().json(found.ok_or_else(no_floor)?))
}

/// A design and how many of it are to be put.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToArrange {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// How many.
    #[schema(schema_with = crate::schemas::arrangements_wish)]
    pub arrange: Value,
}

/// The usual arrangements of one to four of a design, and what a search finds.
#[utoipa::path(operation_id = "arrangeRoom", request_body = ToArrange,
    responses((status = 200, body = ref("#/components/schemas/Arrangements")), (status = 422, body = Problem)))]
#[post("/room/arrangements")]
pub async fn arrangements(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let reading = move || {
        let ToArrange { document, arrange } = body.json()?;
        let wish: ArrangementsWish = part(&READER, arrange, "/arrange")?;
        Ok((asking::design(document)?, wish))
    };
    let (design, wish) = pool.take(reading).await?;
    let found = pool.work(Question::Work, design, move |d: &Checked| arranged(d, &wish)).await?;
    Ok(HttpResponse::Ok().json(found.ok_or_else(no_floor)?))
}

/// A design and a standing wave of its room.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WithRoomMode {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// Half waves along the length, across the width and from floor to ceiling.
    pub order: [u32; 3],
}

/// The pressure pattern of a standing wave on plan and side view, through the main seat.
#[utoipa::path(operation_id = "roomMode", request_body = WithRoomMode,
    responses((status = 200, body = ref("#/components/schemas/RoomModePicture")), (status = 422, body = Problem)))]
#[post("/room/mode")]
pub async fn mode(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let reading = move || {
        let WithRoomMode { document, order } = body.json()?;
        if order.iter().any(|n| *n > 60) || order == [0, 0, 0] {
            let message = "three whole numbers from 0 to 60, not all 0, are expected: [1, 0, 0]";
            return Err(Problem::field("/order", message));
        }
        Ok((asking::design(document)?, order))
    };
    let (design, order) = pool.take(reading).await?;
    let work = move |design: &Checked| {
        let room = design.room.as_ref()?;
        let air = oak_drum_acoustics::air::Air::from(&design.air);
        let Surroundings::Room(shoebox) = Surroundings::of(&room.room.space, air) else { return None };
        Some(picture(&shoebox, order, ears(&room.seats[0])))
    };
    let none =
        || Problem::field("/document/room/room/space", "a room is expected: what has no walls has no standing waves");
    Ok(HttpResponse::Ok().json(pool.work(Question::Curves, design, work).await?.ok_or_else(none)?))
}

/// A design as it plays, to stand in another build's room.
#[utoipa::path(operation_id = "asOther", request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/OtherBuild")), (status = 422, body = Problem)))]
#[post("/room/other")]
pub async fn other(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let work = |design: &Checked| {
        let hz = kept_at();
        Player::of(&Analysis::of(design), &hz).kept(&design.name, &hz)
    };
    Ok(HttpResponse::Ok().json(about(&pool, Question::Station, body, work).await?))
}

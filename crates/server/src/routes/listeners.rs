//! Pages without an account: who listens joins with a code and answers from his phone; who helps is told what to connect.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::Pool;
use crate::problem::Problem;
use crate::routes::listen::ListenerShown;
use crate::state::State;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, get, post, put};
use oak_drum_document::Reader;
use oak_drum_listening::session::{Hearing, Slip, Switching, Test};
use oak_drum_store::Error;
use oak_drum_store::tables::listening::{self, SessionRecord, WithListeners};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// A session as a listener's page shows it: letters on envelopes, nothing of what is in them.
#[derive(Serialize, ToSchema)]
pub struct ForListeners {
    /// What it is called.
    pub title: String,
    /// What is asked.
    #[schema(schema_with = crate::schemas::listening_test)]
    pub test: Test,
    /// How many are held against each other.
    pub candidates: usize,
    /// What is played, by number.
    pub pieces: Vec<PlayedPiece>,
    /// Who switches.
    #[schema(schema_with = crate::schemas::listening_switching)]
    pub switching: Switching,
    /// Level at the seat, dB.
    #[schema(required = false)]
    pub level_db: Option<f64>,
    /// Whether it has ended.
    pub ended: bool,
}

/// A piece as a listener's page shows it.
#[derive(Serialize, ToSchema)]
pub struct PlayedPiece {
    /// What it is called.
    pub name: String,
    /// The name it is fetched by; absent of the listeners' own.
    #[schema(required = false)]
    pub id: Option<String>,
}

/// A session by the code listeners type.
#[utoipa::path(operation_id = "listeningByCode", params(("code" = String, Path)),
    responses((status = 200, body = ForListeners), (status = 404, body = Problem)))]
#[get("/listen/{code}")]
pub async fn by_code(state: Data<State>, code: Path<String>) -> Result<Json<ForListeners>, Problem> {
    let record = state.with(move |c, _| listening::by_code(c, &code)).await?;
    let session = record.session()?;
    let pieces = session.pieces.iter().map(|p| PlayedPiece {
        name: p.name(),
        id: match p {
            oak_drum_listening::session::Piece::Shipped { id } => Some(id.clone()),
            oak_drum_listening::session::Piece::Own { .. } => None,
        },
    });
    Ok(Json(ForListeners {
        pieces: pieces.collect(),
        title: session.title,
        test: session.test,
        candidates: session.candidates.len(),
        switching: session.switching,
        level_db: session.level_db,
        ended: record.ended_at.is_some(),
    }))
}

/// Somebody who wants to listen.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Joining {
    /// Name.
    pub name: String,
}

/// A listener's own key.
#[derive(Serialize, ToSchema)]
pub struct Joined {
    /// What answers are sent with; it stays on the listener's phone.
    pub key: Uuid,
    /// Name.
    pub name: String,
}

/// Joins a session.
#[utoipa::path(operation_id = "joinListening", params(("code" = String, Path)), request_body = Joining,
    responses((status = 201, body = Joined), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/listen/{code}/listeners")]
pub async fn join(state: Data<State>, pool: Pool, code: Path<String>, body: Body) -> Result<HttpResponse, Problem> {
    let name = pool.take(move || asking::name(&body.json::<Joining>()?.name)).await?;
    let joined = state.with(move |c, _| listening::join(c, &code, &name)).await?;
    Ok(HttpResponse::Created().json(Joined { key: joined.id, name: joined.name }))
}

/// Who asks.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ByKey {
    /// The listener's key.
    pub key: Uuid,
}

/// What a listener hears, hearing by hearing.
#[derive(Serialize, ToSchema)]
pub struct MyHearings {
    /// Each hearing.
    pub hearings: Vec<MyHearing>,
    /// Numbers of those answered, from 0.
    pub answered: Vec<i32>,
    /// The hearing a helper has set up, from 0; absent where the program switches.
    #[schema(required = false)]
    pub set_up: Option<i32>,
    /// Whether the session has ended.
    pub ended: bool,
}

/// One hearing as a listener's page has it.
#[derive(Serialize, ToSchema)]
pub struct MyHearing {
    /// Number of the piece.
    pub piece: usize,
    /// How many envelopes there are.
    pub envelopes: usize,
    /// What each envelope is played through, where the program switches. The page must know it to play it, and shows nothing of it.
    pub sounds: Vec<PlayedThrough>,
}

/// What an envelope is played through.
#[derive(Clone, Serialize, ToSchema)]
pub struct PlayedThrough {
    /// A factor.
    pub gain: f64,
    /// Sections at 48 kHz: b0, b1, b2, a1, a2, the latter taken off.
    pub sections: Vec<[f64; 5]>,
}

/// What a listener hears.
#[utoipa::path(operation_id = "myHearings", params(("code" = String, Path), ByKey),
    responses((status = 200, body = MyHearings), (status = 404, body = Problem)))]
#[get("/listen/{code}/hearings")]
pub async fn hearings(state: Data<State>, code: Path<String>, by: Query<ByKey>) -> Result<Json<MyHearings>, Problem> {
    let work = move |c: &mut oak_drum_store::Connection, _| {
        let (record, me) = listening::listener_of(c, &code, by.key)?;
        let session = record.session()?;
        let sounds = record.sounds()?;
        let own = session.hearings(usize::try_from(me.number).unwrap_or(0));
        let plays = session.switching == Switching::Program;
        let through = |h: &Hearing| -> Vec<PlayedThrough> {
            let of = h.slots.iter().filter_map(|slot| sounds.get(*slot));
            of.map(|s| PlayedThrough { gain: s.gain, sections: s.sections.clone() }).collect()
        };
        let told = own.iter().map(|h| MyHearing {
            piece: h.piece,
            envelopes: h.slots.len(),
            sounds: if plays { through(h) } else { Vec::new() },
        });
        Ok(MyHearings {
            hearings: told.collect(),
            answered: listening::answered(c, me.id)?,
            set_up: (!plays).then_some(record.hearing),
            ended: record.ended_at.is_some(),
        })
    };
    Ok(Json(state.with(work).await?))
}

/// An answer.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct GivenSlip {
    /// The listener's key.
    pub key: Uuid,
    /// The answer.
    #[schema(schema_with = crate::schemas::listening_slip)]
    pub slip: Value,
}

/// Seals an answer; the same once more is no other.
#[utoipa::path(operation_id = "giveSlip", params(("code" = String, Path), ("hearing" = i32, Path)), request_body = GivenSlip,
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/listen/{code}/hearings/{hearing}")]
pub async fn give(
    state: Data<State>,
    pool: Pool,
    at: Path<(String, i32)>,
    body: Body,
) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let GivenSlip { key, slip } = body.json()?;
        Ok((key, part::<Slip>(&READER, slip, "/slip")?))
    };
    let (key, slip) = pool.take(read).await?;
    let (code, hearing) = at.into_inner();
    state.with(move |c, _| listening::give(c, &code, key, hearing, &slip)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// The order, for the helper alone.
#[derive(Serialize, ToSchema)]
pub struct ForHelper {
    /// What it is called.
    pub title: String,
    /// What is asked.
    #[schema(schema_with = crate::schemas::listening_test)]
    pub test: Test,
    /// Each hearing in its order.
    pub hearings: Vec<ToSetUp>,
    /// The one that is set up, from 0.
    pub set_up: i32,
    /// Who listens, and how many hearings each has answered.
    pub listeners: Vec<ListenerShown>,
}

/// One hearing to be set up.
#[derive(Serialize, ToSchema)]
pub struct ToSetUp {
    /// What is played.
    pub piece: String,
    /// What is connected for each envelope, in its order.
    pub envelopes: Vec<ToConnect>,
}

/// What is connected for an envelope.
#[derive(Serialize, ToSchema)]
pub struct ToConnect {
    /// What it is called.
    pub name: String,
    /// What is done to set it up.
    pub setting: String,
    /// What it is turned by, dB.
    pub trim_db: f64,
}

fn for_helper(record: &SessionRecord, list: WithListeners) -> Result<ForHelper, Error> {
    let session = record.session()?;
    let connect = |slot: &usize| {
        let candidate = session.candidates.get(*slot);
        ToConnect {
            name: candidate.map(|c| c.name.clone()).unwrap_or_default(),
            setting: candidate.map(|c| c.setting.clone()).unwrap_or_default(),
            trim_db: session.matched.as_ref().and_then(|m| m.trims_db.get(*slot).copied()).unwrap_or(0.0),
        }
    };
    let all = session.hearings(0).into_iter().map(|h| ToSetUp {
        piece: session.pieces.get(h.piece).map(|p| p.name()).unwrap_or_default(),
        envelopes: h.slots.iter().map(connect).collect(),
    });
    Ok(ForHelper {
        hearings: all.collect(),
        set_up: record.hearing,
        listeners: list.1.into_iter().map(|(l, answered)| ListenerShown { name: l.name, answered }).collect(),
        title: session.title,
        test: session.test,
    })
}

/// The order, for the helper who switches; that it was shown is kept.
#[utoipa::path(operation_id = "helperOrder", params(("code" = String, Path), ("key" = Uuid, Path)),
    responses((status = 200, body = ForHelper), (status = 404, body = Problem), (status = 409, body = Problem)))]
#[get("/listen/{code}/helper/{key}")]
pub async fn helper(state: Data<State>, at: Path<(String, Uuid)>) -> Result<Json<ForHelper>, Problem> {
    help(&state, at.into_inner(), None).await
}

/// Which hearing is set up.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SetUp {
    /// Number from 0.
    pub hearing: i32,
}

/// A helper has set up a hearing: the listeners' pages go there.
#[utoipa::path(operation_id = "helperSetUp", params(("code" = String, Path), ("key" = Uuid, Path)), request_body = SetUp,
    responses((status = 200, body = ForHelper), (status = 404, body = Problem), (status = 409, body = Problem)))]
#[put("/listen/{code}/helper/{key}")]
pub async fn set_up(
    state: Data<State>,
    at: Path<(String, Uuid)>,
    body: Json<SetUp>,
) -> Result<Json<ForHelper>, Problem> {
    help(&state, at.into_inner(), Some(body.hearing)).await
}

async fn help(state: &State, (code, key): (String, Uuid), hearing: Option<i32>) -> Result<Json<ForHelper>, Problem> {
    let work = move |c: &mut oak_drum_store::Connection, _| {
        let record = listening::help(c, &code, key, hearing)?;
        let list = listening::get(c, record.id)?;
        for_helper(&record, list)
    };
    Ok(Json(state.with(work).await?))
}

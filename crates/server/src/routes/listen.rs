//! Listening sessions: begun, joined with a code, answered from phones, helped, ended; and the statistics for themselves.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::routes::recordings::{wav_file, written};
use crate::state::State;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, post, put};
use chrono::{DateTime, Utc};
use oak_drum_curves::formats::wav::Recording;
use oak_drum_design::drive::biquads::{Feedback, biquads};
use oak_drum_design::evaluation::outline;
use oak_drum_document::{Checked, Code, Reader, Stage};
use oak_drum_listening::hearing::hours;
use oak_drum_listening::levels::{TOLERANCE_DB, pink_db, trims};
use oak_drum_listening::outcome::Outcome;
use oak_drum_listening::programme::{PIECES, piece};
use oak_drum_listening::question::{Question as Asked, answer};
use oak_drum_listening::session::{Hearing, Session, Slip, Switching, Test};
use oak_drum_store::Error;
use oak_drum_store::tables::listening::{self, SessionRecord, Sound, WithListeners};
use oak_drum_store::tables::{build, revision::Revision};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Samples a second of what the page plays.
const RATE: f64 = 48_000.0;

/// A session as its build shows it: answers are in it only once it has ended.
#[derive(Serialize, ToSchema)]
pub struct SessionShown {
    /// Key.
    pub id: Uuid,
    /// What listeners type on their phones.
    pub code: String,
    /// What the helper's page is opened with; absent where the program switches, and after the end.
    #[schema(required = false)]
    pub helper_key: Option<Uuid>,
    /// The session.
    #[schema(schema_with = crate::schemas::listening_session)]
    pub document: Value,
    /// When it began.
    pub created_at: DateTime<Utc>,
    /// When the order was first shown to a helper.
    pub shown_at: Option<DateTime<Utc>>,
    /// When it ended; absent as long as answers are sealed.
    pub ended_at: Option<DateTime<Utc>>,
    /// Who listens.
    pub listeners: Vec<ListenerShown>,
    /// Hearings of each listener.
    pub hearings: usize,
    /// What came of it; absent before the end.
    #[schema(schema_with = crate::schemas::listening_outcome, required = false)]
    pub outcome: Option<Outcome>,
}

/// A listener, without what was answered.
#[derive(Serialize, ToSchema)]
pub struct ListenerShown {
    /// Name.
    pub name: String,
    /// Hearings answered.
    pub answered: i64,
}

fn shown(c: &mut oak_drum_store::Connection, (record, list): WithListeners) -> Result<SessionShown, Error> {
    let outcome = listening::outcome_of(c, &record)?;
    let planned = record.session()?;
    let helped = planned.switching == Switching::Helper && record.ended_at.is_none();
    Ok(SessionShown {
        id: record.id,
        code: record.code,
        helper_key: helped.then_some(record.helper_key),
        document: record.document,
        created_at: record.created_at,
        shown_at: record.shown_at,
        ended_at: record.ended_at,
        listeners: list.into_iter().map(|(l, answered)| ListenerShown { name: l.name, answered }).collect(),
        hearings: planned.hearings(0).len(),
        outcome,
    })
}

/// The listening sessions of a build, the newest first.
#[utoipa::path(operation_id = "listListening", params(("id" = Uuid, Path)),
    responses((status = 200, body = Vec<SessionShown>)))]
#[get("/builds/{id}/listening")]
pub async fn of_build(state: Data<State>, id: Path<Uuid>) -> Result<Json<Vec<SessionShown>>, Problem> {
    let all = move |c: &mut oak_drum_store::Connection, _| {
        listening::of_build(c, *id)?.into_iter().map(|s| shown(c, s)).collect::<Result<Vec<_>, Error>>()
    };
    Ok(Json(state.with(all).await?))
}

/// A session that is to begin.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewSession {
    /// The session; from now on it stays as it is.
    #[schema(schema_with = crate::schemas::listening_session)]
    pub session: Value,
}

/// Begins a session: what is asked is fixed from now on.
#[utoipa::path(operation_id = "beginListening", params(("id" = Uuid, Path)), request_body = NewSession,
    responses((status = 201, body = SessionShown), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/builds/{id}/listening")]
pub async fn begin(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let session: Session = part(&READER, body.json::<NewSession>()?.session, "/session")?;
        let problems: Vec<oak_drum_document::Problem> = session
            .problems()
            .into_iter()
            .map(|(at, what)| oak_drum_document::Problem::new(Code::OutOfRange, format!("/session{at}"), what))
            .collect();
        if problems.is_empty() { Ok(session) } else { Err(Problem::design(&problems)) }
    };
    let session = pool.take(read).await?;
    let (id, planned) = (*id, session.clone());
    let revisions = state.with(move |c, _| Ok(build::get(c, id)?.revisions)).await?;
    let sounds = pool.take(move || sounds_of(&planned, &revisions)).await?;
    let made = move |c: &mut oak_drum_store::Connection, _| {
        let record = listening::create(c, id, &session, &sounds)?;
        shown(c, (record, Vec::new()))
    };
    Ok(HttpResponse::Created().json(state.with(made).await?))
}

/// What each candidate is played through: the filters before the amplifier of the revision it is, and its trim.
fn sounds_of(session: &Session, revisions: &[Revision]) -> Result<Vec<Sound>, Problem> {
    let trim = |i: usize| session.matched.as_ref().map_or(0.0, |m| m.trims_db.get(i).copied().unwrap_or(0.0));
    let one = |(i, candidate): (usize, &oak_drum_listening::session::Candidate)| {
        let at = format!("/session/candidates/{i}/revision");
        let gain = 10f64.powf(trim(i) / 20.0);
        let plain = Sound { gain, sections: Vec::new() };
        if session.switching != Switching::Program {
            return Ok(plain);
        }
        let Some(letter) = &candidate.revision else { return Ok(plain) };
        let revision = revisions.iter().find(|r| r.letter == *letter);
        let revision = revision.ok_or_else(|| Problem::field(&at, "this build has no such revision"))?;
        let design: Checked = asking::design(revision.document.clone())?;
        // what the page can put before an amplifier; delays are not heard between one cabinet and itself
        let made = biquads(&design, &[Stage::Line, Stage::Amplifier], RATE, Feedback::Subtracted)
            .map_err(|why| Problem::field(&at, &why.to_string()))?;
        let sections = made.sections.iter().map(|s| {
            let b = &s.biquad;
            [b.b0, b.b1, b.b2, b.a1, b.a2]
        });
        Ok(Sound { gain: gain * made.gain, sections: sections.collect() })
    };
    let sounds = session.candidates.iter().enumerate().map(one).collect::<Result<Vec<Sound>, Problem>>()?;
    if session.switching == Switching::Program {
        one_cabinet(session, revisions)?;
        if sounds.iter().all(|s| s.sections == sounds[0].sections && (s.gain > 0.0) == (sounds[0].gain > 0.0)) {
            let what = "the program would play the same for all: they have the same filters; let a helper switch";
            return Err(Problem::field("/session/switching", what));
        }
    }
    Ok(sounds)
}

/// What the program switches must be one cabinet with other filters: it can put no other box in its place.
fn one_cabinet(session: &Session, revisions: &[Revision]) -> Result<(), Problem> {
    let of = |letter: &Option<String>| revisions.iter().find(|r| Some(&r.letter) == letter.as_ref());
    let mut chosen = session.candidates.iter().filter_map(|c| of(&c.revision));
    let Some(first) = chosen.next() else { return Ok(()) };
    let part = |r: &Revision, name: &str| r.document.get(name).cloned().unwrap_or_default();
    for other in chosen {
        if ["woofer", "array", "enclosure"].iter().any(|name| part(first, name) != part(other, name)) {
            let (a, b) = (&first.letter, &other.letter);
            let what = format!(
                "{a} and {b} differ by more than filters, which the program cannot switch; let a helper switch"
            );
            return Err(Problem::field("/session/switching", &what));
        }
    }
    Ok(())
}

/// Ends a session: the envelopes are opened.
#[utoipa::path(operation_id = "endListening", params(("id" = Uuid, Path)),
    responses((status = 200, body = SessionShown), (status = 404, body = Problem)))]
#[post("/listening/{id}/end")]
pub async fn end(state: Data<State>, id: Path<Uuid>) -> Result<Json<SessionShown>, Problem> {
    let work = move |c: &mut oak_drum_store::Connection, _| {
        listening::end(c, *id)?;
        let found = listening::get(c, *id)?;
        shown(c, found)
    };
    Ok(Json(state.with(work).await?))
}

/// Takes a session out; it can be brought back.
#[utoipa::path(operation_id = "deleteListening", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/listening/{id}")]
pub async fn remove(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| listening::set_deleted(c, *id, true)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Brings a session back.
#[utoipa::path(operation_id = "restoreListening", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[post("/listening/{id}/restore")]
pub async fn restore(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| listening::set_deleted(c, *id, false)).await?;
    Ok(HttpResponse::NoContent().finish())
}

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

/// Cabinets brought to one level by the model.
#[derive(Serialize, ToSchema)]
pub struct MatchedByModel {
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
    responses((status = 200, body = MatchedByModel), (status = 422, body = Problem)))]
#[post("/listening/match")]
pub async fn match_levels(pool: Pool, body: Body) -> Result<Json<MatchedByModel>, Problem> {
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
    Ok(Json(MatchedByModel {
        band_hz,
        levels_db,
        trims_db: turned.trims_db,
        apart_db: turned.apart_db,
        tolerance_db: TOLERANCE_DB,
    }))
}

/// A question about a listening test by itself: probabilities, ranges, rankings, trials needed, orders.
#[utoipa::path(operation_id = "listeningQuestion", request_body = ref("#/components/schemas/ListeningQuestion"),
    responses((status = 200, body = ref("#/components/schemas/ListeningAnswer")), (status = 422, body = Problem)))]
#[post("/listening/question")]
pub async fn question(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let work = move || {
        let asked: Asked = part(&READER, body.json()?, "")?;
        answer(&asked).map_err(|wrong| Problem::field(&wrong.field, &wrong.what))
    };
    Ok(HttpResponse::Ok().json(pool.patient(work).await?))
}

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

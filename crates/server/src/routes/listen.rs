//! Listening sessions of a build: begun, shown, ended; and the statistics for themselves.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::Pool;
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, delete, get, post};
use chrono::{DateTime, Utc};
use oak_drum_design::drive::biquads::{Feedback, biquads};
use oak_drum_document::{Checked, Code, Reader, Stage};
use oak_drum_listening::outcome::Outcome;
use oak_drum_listening::question::{Question as Asked, answer};
use oak_drum_listening::session::{Session, Switching};
use oak_drum_store::Error;
use oak_drum_store::tables::listening::{self, Sound, WithListeners};
use oak_drum_store::tables::{build, revision::Revision};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::ToSchema;
use uuid::Uuid;

/// Samples a second of what the page plays.
pub(super) const RATE: f64 = 48_000.0;

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

//! A build's log: what was written, with photos, and what the program knows of its days by itself.

use crate::asking::part;
use crate::body::Body;
use crate::photo::fit;
use crate::pool::Pool;
use crate::problem::Problem;
use crate::routes::files::whole;
use crate::state::State;
use actix_web::http::{StatusCode, header};
use actix_web::web::{Bytes, Data, Json, Path, Query};
use actix_web::{Error, HttpResponse, delete, get, post, put};
use chrono::{DateTime, Duration, Utc};
use oak_drum_document::timeline::{differences, in_words};
use oak_drum_document::{EntryKind, LogEntry, PhotoOf, Reader};
use oak_drum_store::tables::log_entry::{self, Lesson, LogRecord, PAGE, Shared, digest_of, hex};
use oak_drum_store::tables::{build, measurement, photo, revision};
use oak_drum_text::Text;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Which entries are wanted.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct LogWanted {
    /// Words that stand in its text.
    #[param(inline)]
    pub words: Option<String>,
    /// Its kind: note, mistake, better or remedy.
    #[param(inline)]
    pub kind: Option<String>,
    /// What `next` of the page before said.
    #[param(inline)]
    pub before: Option<String>,
}

/// Entries of a log.
#[derive(Serialize, ToSchema)]
pub struct LogPage {
    /// The entries, the newest first.
    pub entries: Vec<LogRecord>,
    /// What is asked for as `before` to go on; absent at the end.
    #[schema(required = false)]
    pub next: Option<String>,
    /// How many entries the build has.
    pub count: i64,
}

/// The entries of a build, the newest first, 200 at a time.
#[utoipa::path(operation_id = "listLog", params(("id" = Uuid, Path), LogWanted),
    responses((status = 200, body = LogPage), (status = 422, body = Problem)))]
#[get("/builds/{id}/log")]
pub async fn of_build(state: Data<State>, id: Path<Uuid>, wanted: Query<LogWanted>) -> Result<Json<LogPage>, Problem> {
    let LogWanted { words, kind, before } = wanted.into_inner();
    let unknown = || Problem::field("/kind", "note, mistake, better or remedy is expected");
    let kind: Option<EntryKind> =
        kind.map(|k| serde_json::from_value(Value::String(k)).map_err(|_| unknown())).transpose()?;
    let before = before
        .map(|b| place(&b).ok_or_else(|| Problem::field("/before", "what a page gave is expected")))
        .transpose()?;
    let wanted = log_entry::Wanted { words: words.unwrap_or_default(), kind, before };
    let page = move |c: &mut oak_drum_store::Connection, _| {
        let entries = log_entry::of_build(c, *id, &wanted)?;
        let full = entries.len() as i64 == PAGE;
        let next = entries.last().filter(|_| full).map(|e| format!("{}_{}", e.written_at.to_rfc3339(), e.id));
        Ok(LogPage { next, count: log_entry::count(c, *id)?, entries })
    };
    Ok(Json(state.with(page).await?))
}

fn place(text: &str) -> Option<(DateTime<Utc>, Uuid)> {
    let (at, id) = text.rsplit_once('_')?;
    Some((at.parse().ok()?, id.parse().ok()?))
}

/// A save of an entry.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SaveLogEntry {
    /// The version the entry was made from; 0 of a new one.
    pub base_version: i32,
    /// The entry.
    #[schema(schema_with = crate::schemas::log_entry)]
    pub entry: Value,
    /// When it was written, by the clock of who wrote it.
    pub written_at: DateTime<Utc>,
    /// When it is sent, by the same clock: so much of it as is wrong is put right.
    pub sent_at: DateTime<Utc>,
}

/// Keeps an entry under the key it was given where it was written; once more sent, it is kept once.
#[utoipa::path(operation_id = "saveLogEntry", params(("id" = Uuid, Path), ("entry" = Uuid, Path)), request_body = SaveLogEntry,
    responses((status = 200, body = LogRecord), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/builds/{id}/log/{entry}")]
pub async fn save(
    state: Data<State>,
    pool: Pool,
    ids: Path<(Uuid, Uuid)>,
    body: Body,
) -> Result<Json<LogRecord>, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let SaveLogEntry { base_version, entry, written_at, sent_at } = body.json()?;
        let entry: LogEntry = part(&READER, entry, "/entry")?;
        if entry.says_nothing() {
            return Err(Problem::field("/entry/text", "a word or a photo is expected"));
        }
        if entry.text.contains('\0') {
            return Err(Problem::field("/entry/text", "letters are expected"));
        }
        Ok((base_version, entry, by_our_clock(written_at, sent_at, Utc::now())))
    };
    let (base_version, entry, written_at) = pool.take(read).await?;
    let (id, key) = ids.into_inner();
    Ok(Json(state.with(move |c, _| log_entry::save(c, id, key, base_version, &entry, written_at)).await?))
}

/// When something was written by this machine's clock: so long ago as the writer's own clock says it was when it sent it. What was
/// written after it was sent was written just now.
fn by_our_clock(written_at: DateTime<Utc>, sent_at: DateTime<Utc>, now: DateTime<Utc>) -> DateTime<Utc> {
    let ago = sent_at - written_at;
    if ago < Duration::zero() || ago > Duration::days(36_500) { now } else { now - ago }
}

/// Takes an entry away; it can be brought back.
#[utoipa::path(operation_id = "deleteLogEntry", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[delete("/log/{id}")]
pub async fn remove(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| log_entry::set_deleted(c, *id, true)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Brings an entry back.
#[utoipa::path(operation_id = "restoreLogEntry", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
#[post("/log/{id}/restore")]
pub async fn restore(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    state.with(move |c, _| log_entry::set_deleted(c, *id, false)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Keeps a photo (JPEG, PNG or WebP), turned upright, at most 2000 pixels long, and nothing of it but the picture.
#[utoipa::path(operation_id = "keepPhoto", request_body(content = String, content_type = "image/jpeg"),
    responses((status = 201, body = ref("#/components/schemas/PhotoOf")), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/photos")]
pub async fn keep_photo(state: Data<State>, pool: Pool, body: Result<Bytes, Error>) -> Result<HttpResponse, Problem> {
    let body = whole(body)?;
    let unfit = |why: crate::photo::Unfit| {
        Problem::new("unfit-photo", "No photo that is kept", StatusCode::UNPROCESSABLE_ENTITY, why.to_string())
    };
    let picture = pool.patient(move || fit(&body).map_err(unfit)).await?;
    let (width, height) = (picture.width, picture.height);
    let digest = state.with(move |c, _| photo::keep(c, &picture)).await?;
    Ok(HttpResponse::Created().json(PhotoOf { digest: hex(&digest), width, height }))
}

/// Which size of a photo.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PhotoWanted {
    /// Whether the small one is wanted.
    #[param(inline)]
    pub small: Option<bool>,
}

/// A photo as it is kept, JPEG.
#[utoipa::path(operation_id = "getPhoto", params(("digest" = String, Path), PhotoWanted),
    responses((status = 200, body = String, content_type = "image/jpeg"), (status = 404, body = Problem)))]
#[get("/photos/{digest}")]
pub async fn get_photo(
    state: Data<State>,
    digest: Path<String>,
    wanted: Query<PhotoWanted>,
) -> Result<HttpResponse, Problem> {
    let digest = digest_of(&digest).ok_or_else(|| Problem::not_found("there is no such photo"))?;
    let small = wanted.small.unwrap_or(false);
    let bytes = state.with(move |c, _| photo::get(c, &digest, small)).await?;
    // by its content: it never becomes another
    let cached = (header::CACHE_CONTROL, "private, max-age=31536000, immutable");
    Ok(HttpResponse::Ok().content_type("image/jpeg").insert_header(cached).body(bytes))
}

/// What a build that is begun has in common with others.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct LessonsFor {
    /// Family of its enclosure.
    #[param(inline)]
    pub family: Option<String>,
    /// Name of its woofer.
    #[param(inline)]
    pub woofer: Option<String>,
    /// Material of its boards.
    #[param(inline)]
    pub board: Option<String>,
    /// A build whose own log is left aside.
    #[param(inline)]
    pub aside: Option<Uuid>,
}

/// What one would do better, as it was written at other builds of the same woofer, family or boards; who shares most comes first.
#[utoipa::path(operation_id = "lessons", params(LessonsFor), responses((status = 200, body = Vec<Lesson>)))]
#[get("/lessons")]
pub async fn lessons(state: Data<State>, wanted: Query<LessonsFor>) -> Result<Json<Vec<Lesson>>, Problem> {
    let LessonsFor { family, woofer, board, aside } = wanted.into_inner();
    let shared = Shared {
        family: family.unwrap_or_default(),
        woofer: woofer.unwrap_or_default(),
        board: board.unwrap_or_default(),
    };
    Ok(Json(state.with(move |c, owner| log_entry::lessons(c, owner, aside, &shared)).await?))
}

/// Something the program knows of a build's days.
#[derive(Serialize, ToSchema)]
pub struct TimelineEvent {
    /// When.
    pub at: DateTime<Utc>,
    /// What kind.
    pub kind: TimelineKind,
    /// The revision it is about, by its letter.
    #[schema(required = false)]
    pub revision: Option<String>,
    /// What, in words; of a step its stable name.
    #[schema(schema_with = crate::schemas::text)]
    pub text: Text,
}

/// What kind of thing the program knows.
#[derive(Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TimelineKind {
    /// A revision was begun.
    Begun,
    /// Something of a design became another.
    Changed,
    /// Something was measured.
    Measured,
    /// A step of the building was done.
    Step,
}

/// What the program knows of a build's days by itself: revisions begun, what of them became another, measurements, steps done.
#[utoipa::path(operation_id = "timeline", params(("id" = Uuid, Path)),
    responses((status = 200, body = Vec<TimelineEvent>), (status = 404, body = Problem)))]
#[get("/builds/{id}/timeline")]
pub async fn timeline(state: Data<State>, id: Path<Uuid>) -> Result<Json<Vec<TimelineEvent>>, Problem> {
    let all = move |c: &mut oak_drum_store::Connection, _| {
        let detail = build::get(c, *id)?;
        let mut list = Vec::new();
        let ends = revision::day_ends(c, *id)?;
        for pair in ends.iter().zip(std::iter::once(None).chain(ends.iter().map(Some))) {
            let (now, before) = (pair.0, pair.1.filter(|b| b.letter == pair.0.letter));
            let (kind, text) = match before {
                None => (TimelineKind::Begun, Text::default()),
                Some(before) => (TimelineKind::Changed, in_words(&differences(&before.document, &now.document))),
            };
            if kind == TimelineKind::Begun || text != Text::default() {
                list.push(TimelineEvent { at: now.saved_at, kind, revision: Some(now.letter.clone()), text });
            }
        }
        let letter = |id: Option<Uuid>| detail.revisions.iter().find(|r| Some(r.id) == id).map(|r| r.letter.clone());
        for taken in measurement::of_build(c, *id)? {
            let text = taken.measurement()?.about.name.into();
            let revision = letter(taken.revision_id);
            list.push(TimelineEvent { at: taken.created_at, kind: TimelineKind::Measured, revision, text });
        }
        for kept in &detail.plans {
            for tick in kept.plan()?.steps.into_iter().filter(|t| t.done) {
                let Some(at) = tick.done_at.as_deref().and_then(|at| at.parse().ok()) else { continue };
                let revision = letter(Some(kept.revision_id));
                list.push(TimelineEvent { at, kind: TimelineKind::Step, revision, text: tick.step.into() });
            }
        }
        list.sort_by_key(|event| std::cmp::Reverse(event.at));
        Ok(list)
    };
    Ok(Json(state.with(all).await?))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A clock that is wrong is wrong when an entry is sent, too.
    #[test]
    fn wrong_clocks_are_put_right() {
        let now: DateTime<Utc> = "2026-05-04T10:00:00Z".parse().unwrap();
        let at = |text: &str| text.parse::<DateTime<Utc>>().unwrap();
        // an hour ago, by a clock two years ahead
        let told = by_our_clock(at("2028-05-04T09:00:00Z"), at("2028-05-04T10:00:00Z"), now);
        assert_eq!(told, at("2026-05-04T09:00:00Z"));
        // the clock was set back between
        assert_eq!(by_our_clock(at("2026-05-04T12:00:00Z"), at("2026-05-04T10:00:00Z"), now), now);
    }
}

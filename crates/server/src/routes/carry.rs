//! Builds and the whole workshop as files, out and in.

use crate::limits::CARRY_LIMIT;
use crate::photo;
use crate::pool::Pool;
use crate::problem::Problem;
use crate::state::State;
use actix_web::http::StatusCode;
use actix_web::http::header;
use actix_web::http::header::{ContentDisposition, DispositionParam, DispositionType, ExtendedValue};
use actix_web::web::{Bytes, Data, Json, Path, Payload, Query};
use actix_web::{HttpRequest, HttpResponse, get, post};
use futures_util::StreamExt;
use oak_drum_bundle::open::Holds;
use oak_drum_bundle::{FileError, open};
use oak_drum_store::carry::{into, out};
use oak_drum_store::tables::build;
use oak_drum_store::{Connection, Error};
use serde::{Deserialize, Serialize};
use std::fs::File;
use std::io::{Read, Seek, SeekFrom, Write};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Bytes that are written or sent at once.
const PIECE: usize = 1 << 20;

fn unforeseen(what: impl std::fmt::Display) -> Error {
    Error::Unforeseen(what.to_string())
}

/// A file without a name, gone with its last handle.
fn nameless() -> Result<File, Error> {
    tempfile::tempfile().map_err(|e| unforeseen(format!("no room for a file: {e}")))
}

/// The file as an answer, piece by piece.
fn sent(file: File, kind: &'static str, name: &str) -> HttpResponse {
    let pieces = futures_util::stream::unfold(file, |mut file| async move {
        let read = actix_web::web::block(move || {
            let mut piece = vec![0; PIECE];
            let many = file.read(&mut piece)?;
            piece.truncate(many);
            Ok::<_, std::io::Error>((piece, file))
        });
        match read.await {
            Ok(Ok((piece, _))) if piece.is_empty() => None,
            Ok(Ok((piece, file))) => Some((Ok::<_, std::io::Error>(Bytes::from(piece)), file)),
            Ok(Err(error)) => Some((Err(error), nameless().ok()?)),
            Err(_) => None,
        }
    });
    HttpResponse::Ok()
        .content_type(kind)
        // it is packed already
        .insert_header((header::CONTENT_ENCODING, "identity"))
        .insert_header(attachment(name))
        .streaming(pieces)
}

/// What a browser keeps it as; letters of any alphabet.
pub(super) fn attachment(name: &str) -> ContentDisposition {
    let plain: String =
        name.chars().map(|c| if c.is_ascii_alphanumeric() || "-._ ".contains(c) { c } else { '-' }).collect();
    let full = ExtendedValue {
        charset: header::Charset::Ext("UTF-8".into()),
        language_tag: None,
        value: name.as_bytes().to_vec(),
    };
    ContentDisposition {
        disposition: DispositionType::Attachment,
        parameters: vec![DispositionParam::Filename(plain), DispositionParam::FilenameExt(full)],
    }
}

/// A file's name from that of a build: without what systems take amiss in one.
pub(super) fn file_name(name: &str, ending: &str) -> String {
    let kept: String =
        name.chars().map(|c| if c.is_control() || "/\\:*?\"<>|".contains(c) { '-' } else { c }).collect();
    let kept = kept.trim_matches(['.', ' ', '-']);
    format!("{}.{ending}", if kept.is_empty() { "build" } else { kept })
}

fn rewound(mut file: File) -> Result<File, Error> {
    file.seek(SeekFrom::Start(0)).map_err(unforeseen)?;
    Ok(file)
}

/// A build as one file.
#[utoipa::path(operation_id = "exportBuild", params(("id" = Uuid, Path)),
    responses((status = 200, body = Vec<u8>, content_type = "application/zip"), (status = 404, body = Problem)))]
#[get("/builds/{id}/file")]
pub async fn export(state: Data<State>, id: Path<Uuid>) -> Result<HttpResponse, Problem> {
    let work = move |c: &mut Connection, _| {
        let name = build::get(c, *id)?.build.name;
        Ok((rewound(out::write_build(c, *id, nameless()?)?)?, name))
    };
    let (file, name) = state.with(work).await?;
    Ok(sent(file, "application/zip", &file_name(&name, "oak.zip")))
}

/// The whole workshop as one file: shelf, rooms, every build.
#[utoipa::path(operation_id = "backUp",
    responses((status = 200, body = Vec<u8>, content_type = "application/zip")))]
#[get("/workshop/file")]
pub async fn back_up(state: Data<State>) -> Result<HttpResponse, Problem> {
    let file = state.with(|c, owner| rewound(out::write_workshop(c, owner, nameless()?)?)).await?;
    let day = chrono::Utc::now().format("%Y-%m-%d");
    Ok(sent(file, "application/zip", &format!("workshop {day}.oak.zip")))
}

/// What to do with a build that is here already.
#[derive(Clone, Copy, Debug, Default, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
#[schema(as = AgainWish)]
pub enum Again {
    /// The one that is here stays as it is.
    #[default]
    Stays,
    /// It comes in beside it.
    Copy,
}

/// How a build's file is taken in.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct How {
    /// What to do with a build that is here already.
    #[serde(default)]
    #[param(inline)]
    pub again: Again,
}

/// A build that came in a file.
#[derive(Serialize, ToSchema)]
pub struct CameIn {
    /// Its key here.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// Whether it was here before, and nothing was changed.
    pub was_here: bool,
}

/// What is too much to be taken.
fn too_large() -> Problem {
    let detail = format!("the file is larger than {} MB; nothing was read", CARRY_LIMIT >> 20);
    Problem::new("too-large", "Too large", StatusCode::PAYLOAD_TOO_LARGE, detail)
}

/// The request's body in a nameless file.
async fn received(request: &HttpRequest, mut payload: Payload) -> Result<File, Problem> {
    let stated = request.headers().get(header::CONTENT_LENGTH).and_then(|v| v.to_str().ok()?.parse::<u64>().ok());
    if stated.is_some_and(|length| length > CARRY_LIMIT) {
        return Err(too_large());
    }
    let mut file = nameless()?;
    let (mut whole, mut held) = (0, Vec::new());
    loop {
        let next = payload.next().await.transpose().map_err(|_| {
            Problem::new("not-readable", "Not readable", StatusCode::BAD_REQUEST, "the file did not arrive whole")
        })?;
        let ended = next.is_none();
        if let Some(piece) = next {
            whole += piece.len() as u64;
            if whole > CARRY_LIMIT {
                return Err(too_large());
            }
            held.extend_from_slice(&piece);
        }
        if held.len() >= PIECE || ended {
            let piece = std::mem::take(&mut held);
            let written = actix_web::web::block(move || file.write_all(&piece).map(|()| file)).await;
            file = written.map_err(unforeseen)?.map_err(|e| unforeseen(format!("no room for the file: {e}")))?;
        }
        if ended {
            return Ok(rewound(file)?);
        }
    }
}

fn picture(bytes: &[u8]) -> Result<oak_drum_store::tables::photo::Picture, String> {
    photo::kept(bytes).map_err(|e| e.to_string())
}

fn another(what: &str) -> Error {
    Error::File(FileError::NoBuild(what.into()))
}

/// Takes a build's file in, all of it or nothing.
#[utoipa::path(operation_id = "importBuild", params(How), request_body(content = Vec<u8>, content_type = "application/zip"),
    responses((status = 200, body = CameIn), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/builds/file")]
pub async fn import(
    state: Data<State>,
    pool: Pool,
    how: Query<How>,
    request: HttpRequest,
    payload: Payload,
) -> Result<Json<CameIn>, Problem> {
    let file = received(&request, payload).await?;
    let opened = pool.patient(move || open(file).map_err(|e| Error::File(e).into())).await?;
    let again = match how.again {
        Again::Stays => into::Again::Stays,
        Again::Copy => into::Again::Copy,
    };
    let take = move |c: &mut Connection, owner| {
        let (mut file, Holds::Build(made)) = opened else {
            return Err(another("it holds a whole workshop; restore that into an empty one"));
        };
        into::build(c, owner, &mut file, &made, again, &picture)
    };
    let came = state.with(take).await?;
    Ok(Json(CameIn { id: came.id, name: came.name, was_here: came.was_here }))
}

/// A workshop that was restored.
#[derive(Serialize, ToSchema)]
pub struct Restored {
    /// How many builds came.
    pub builds: usize,
}

/// Restores a whole workshop into an empty one, all of it or nothing.
#[utoipa::path(operation_id = "restoreWorkshop", request_body(content = Vec<u8>, content_type = "application/zip"),
    responses((status = 200, body = Restored), (status = 409, body = Problem), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/workshop/file")]
pub async fn restore(
    state: Data<State>,
    pool: Pool,
    request: HttpRequest,
    payload: Payload,
) -> Result<Json<Restored>, Problem> {
    let file = received(&request, payload).await?;
    let opened = pool.patient(move || open(file).map_err(|e| Error::File(e).into())).await?;
    let take = move |c: &mut Connection, owner| {
        let (mut file, Holds::Workshop(made)) = opened else {
            return Err(another("it holds one build; import that"));
        };
        into::workshop(c, owner, &mut file, &made, &picture)
    };
    Ok(Json(Restored { builds: state.with(take).await? }))
}

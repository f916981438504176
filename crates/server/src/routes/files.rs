//! Files of woofers, in and out.

use crate::limits::FILE_LIMIT;
use crate::problem::Problem;
use crate::state::State;
use actix_web::http::{StatusCode, header};
use actix_web::web::{Bytes, Data, Json, Query};
use actix_web::{Error, HttpResponse, get, post};
use oak_drum_shelf::{
    ColumnReport, FileError, Format, Import, RowProblem, ShelfWoofer, export as write, import as read,
};
use oak_drum_store::tables::woofer::{self, Imported, Known};
use serde::{Deserialize, Serialize};
use tokio::sync::mpsc;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Bad rows and good ones shown in a preview.
const SHOWN: usize = 200;

/// How a file is written.
#[derive(Clone, Copy, Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FileFormat {
    /// Rows and columns.
    Csv,
    /// This program's own JSON.
    Json,
}

impl From<FileFormat> for Format {
    fn from(format: FileFormat) -> Format {
        match format {
            FileFormat::Csv => Format::Csv,
            FileFormat::Json => Format::Json,
        }
    }
}

/// Which format a file has.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Which {
    /// Which format.
    #[param(inline)]
    pub format: FileFormat,
}

/// A file as it was understood; nothing is stored.
#[derive(Serialize, ToSchema)]
pub struct Preview {
    /// The columns of a CSV file.
    #[schema(schema_with = crate::schemas::columns)]
    pub columns: Vec<ColumnReport>,
    /// Rows without problems.
    pub good: usize,
    /// Rows with problems.
    pub bad: usize,
    /// Good rows whose maker and name stand on the shelf already.
    pub known: usize,
    /// The first rows with problems.
    pub problems: Vec<BadRow>,
    /// The first rows without.
    pub sample: Vec<GoodRow>,
}

/// A row with problems.
#[derive(Serialize, ToSchema)]
pub struct BadRow {
    /// Line of the file.
    pub line: u64,
    /// Name of the woofer, as far as it was read.
    pub name: String,
    /// What is wrong.
    #[schema(schema_with = crate::schemas::row_problems)]
    pub problems: Vec<RowProblem>,
}

/// A row without problems.
#[derive(Serialize, ToSchema)]
pub struct GoodRow {
    /// Line of the file.
    pub line: u64,
    /// Whether its maker and name stand on the shelf already.
    pub known: bool,
    /// Its figures.
    #[schema(schema_with = crate::schemas::shelf_row)]
    pub row: oak_drum_shelf::ShelfRow,
}

/// A file's bytes, or a clear word where they are too many.
pub(super) fn whole(body: Result<Bytes, Error>) -> Result<Bytes, Problem> {
    body.map_err(|error| {
        if error.as_response_error().status_code() == StatusCode::PAYLOAD_TOO_LARGE {
            let detail = format!("the file is larger than {} MB; nothing was read", FILE_LIMIT >> 20);
            return Problem::new("too-large", "Too large", StatusCode::PAYLOAD_TOO_LARGE, detail);
        }
        Problem::new("not-readable", "Not readable", StatusCode::BAD_REQUEST, "the file did not arrive whole")
    })
}

fn understand(body: &[u8], format: FileFormat) -> Result<Import, Problem> {
    read(body, format.into()).map_err(|wrong| unreadable(&wrong))
}

/// A file that cannot be read, and why.
pub(super) fn unreadable(why: &FileError) -> Problem {
    Problem::new("unreadable-file", "The file cannot be read", StatusCode::UNPROCESSABLE_ENTITY, why.to_string())
}

/// Reads a file of woofers and says what would come of it; nothing is stored.
#[utoipa::path(operation_id = "previewFile", params(Which), request_body(content = String),
    responses((status = 200, body = Preview), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/woofers/preview")]
pub async fn preview(
    state: Data<State>,
    which: Query<Which>,
    body: Result<Bytes, Error>,
) -> Result<Json<Preview>, Problem> {
    let body = whole(body)?;
    let format = which.format;
    let read = actix_web::web::block(move || understand(&body, format))
        .await
        .map_err(|_| oak_drum_store::Error::Unforeseen("the worker pool is gone".into()))??;
    let known = state.with(|c, owner| woofer::keys(c, owner)).await?;
    let is_known = |w: &ShelfWoofer| known.contains(&w.key());
    let problems =
        read.bad().take(SHOWN).map(|r| BadRow { line: r.line, name: r.name.clone(), problems: r.problems.clone() });
    let good = read.rows.iter().filter_map(|r| r.woofer.as_deref().map(|w| (r.line, w)));
    Ok(Json(Preview {
        columns: read.columns.clone(),
        good: read.woofers().count(),
        bad: read.bad().count(),
        known: read.woofers().filter(|w| is_known(w)).count(),
        problems: problems.collect(),
        sample: good
            .take(SHOWN)
            .map(|(line, w)| GoodRow { line, known: is_known(w), row: oak_drum_shelf::row(w) })
            .collect(),
    }))
}

/// How a file is taken in.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct How {
    /// Which format.
    #[param(inline)]
    pub format: FileFormat,
    /// What to do with woofers that stand on the shelf already.
    #[serde(default)]
    #[param(inline)]
    pub known: Known,
    /// Whether to leave rows with problems out; otherwise a file with such rows is refused.
    #[serde(default)]
    pub leave_bad_out: bool,
}

/// One line of the answer to an import.
#[derive(Serialize, ToSchema)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum Step {
    /// How far it has come; nothing counts before the end.
    Progress {
        /// Woofers written.
        done: usize,
        /// Woofers in all.
        of: usize,
    },
    /// All of it is on the shelf.
    Done(Imported),
    /// Nothing of it is on the shelf.
    Failed {
        /// Why.
        detail: String,
    },
}

/// Takes a file of woofers in, all of it or nothing. The answer comes line by line (JSON lines): progress, then how
/// it ended.
#[utoipa::path(operation_id = "importFile", params(How), request_body(content = String),
    responses((status = 200, body = Step, content_type = "application/x-ndjson"), (status = 413, body = Problem), (status = 422, body = Problem)))]
#[post("/woofers/import")]
pub async fn import(state: Data<State>, how: Query<How>, body: Result<Bytes, Error>) -> Result<HttpResponse, Problem> {
    let body = whole(body)?;
    let owner = state.owner()?;
    let How { format, known, leave_bad_out } = how.into_inner();
    let read = actix_web::web::block(move || understand(&body, format))
        .await
        .map_err(|_| oak_drum_store::Error::Unforeseen("the worker pool is gone".into()))??;
    let bad = read.bad().count();
    if bad > 0 && !leave_bad_out {
        let detail = format!("{bad} rows have problems; correct them or leave them out");
        return Err(Problem::new("bad-rows", "Rows with problems", StatusCode::UNPROCESSABLE_ENTITY, detail));
    }
    let made: Vec<ShelfWoofer> = read.rows.into_iter().filter_map(|r| r.woofer.map(|w| *w)).collect();
    let (send, receive) = mpsc::unbounded_channel::<Step>();
    let store = state.store().clone();
    actix_web::rt::task::spawn_blocking(move || {
        let of = made.len();
        let progress = |done| drop(send.send(Step::Progress { done, of }));
        let outcome = store.connect().and_then(|mut c| woofer::import(&mut c, owner, &made, known, progress));
        let _ = send.send(match outcome {
            Ok(imported) => Step::Done(imported),
            Err(error) => Step::Failed { detail: Problem::from(error).detail },
        });
    });
    let lines = futures_util::stream::unfold(receive, |mut receive| async {
        let step = receive.recv().await?;
        let line = format!("{}\n", serde_json::to_string(&step).unwrap_or_default());
        Some((Ok::<_, Error>(Bytes::from(line)), receive))
    });
    Ok(HttpResponse::Ok()
        .content_type("application/x-ndjson")
        // progress goes out line by line, not when a compressor's buffer is full
        .insert_header((header::CONTENT_ENCODING, "identity"))
        .streaming(lines))
}

/// What is written.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Chosen {
    /// Which format.
    #[param(inline)]
    pub format: FileFormat,
    /// Keys of the woofers, separated by commas; absent for the whole shelf.
    pub ids: Option<String>,
}

/// The shelf as a file: CSV with the set in use of each woofer, JSON with everything.
#[utoipa::path(operation_id = "exportShelf", params(Chosen),
    responses((status = 200, body = String), (status = 422, body = Problem)))]
#[get("/shelf/export")]
pub async fn export(state: Data<State>, chosen: Query<Chosen>) -> Result<HttpResponse, Problem> {
    let keys = match &chosen.ids {
        None => None,
        Some(text) => {
            let keys: Result<Vec<Uuid>, _> = text.split(',').map(|key| key.trim().parse()).collect();
            Some(keys.map_err(|_| Problem::field("/ids", "keys of woofers separated by commas are expected"))?)
        }
    };
    let records = state.with(move |c, owner| woofer::records(c, owner, keys.as_deref())).await?;
    let list: Vec<ShelfWoofer> = records.into_iter().map(|(_, w)| w).collect();
    let (kind, name) = match chosen.format {
        FileFormat::Csv => ("text/csv; charset=utf-8", "oak-drum-shelf.csv"),
        FileFormat::Json => ("application/json", "oak-drum-shelf.json"),
    };
    Ok(HttpResponse::Ok()
        .content_type(kind)
        .insert_header((header::CONTENT_DISPOSITION, format!("attachment; filename=\"{name}\"")))
        .body(write(&list, chosen.format.into())))
}

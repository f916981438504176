//! The booklet of a build as pages.

use crate::pool::Pool;
use crate::problem::Problem;
use crate::routes::cabinet::{PaperSize, Sizes, paper, system, unprinted};
use crate::routes::carry::{attachment, file_name};
use crate::routes::proving::measured_of;
use crate::state::State;
use actix_web::web::{Data, Path, Query};
use actix_web::{HttpResponse, get};
use chrono::{FixedOffset, Utc};
use oak_drum_booklet::{HeardSession, Told, WrittenEntry, booklet};
use oak_drum_design::prove::view::Measured;
use oak_drum_document::{LogEntry, WorkPlan, Workshop};
use oak_drum_paper::block::Photo;
use oak_drum_store::tables::log_entry::{self, digest_of};
use oak_drum_store::tables::{build, listening, measurement, photo, revision, work_plan, workshop};
use oak_drum_store::{Connection, Error};
use serde::Deserialize;
use std::collections::HashMap;
use utoipa::IntoParams;
use uuid::Uuid;

/// Bytes of photos that are printed whole; more are printed small.
const WHOLE_PHOTOS: usize = 8 << 20;
/// Bytes of small ones that are printed at all.
const SMALL_PHOTOS: usize = 8 << 20;

/// How the booklet is printed.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// The paper; A4 where it is not said.
    #[param(inline)]
    pub paper: Option<PaperSize>,
    /// What sizes are said in; millimetres where it is not said.
    #[param(inline)]
    pub system: Option<Sizes>,
    /// How far the builder's clock is ahead of UTC, min.
    #[serde(default)]
    #[param(minimum = -840, maximum = 840)]
    pub ahead_min: i32,
}

/// What the store knows of a build.
struct Known {
    name: String,
    letter: String,
    letters: Vec<String>,
    document: serde_json::Value,
    work: WorkPlan,
    workshop: Workshop,
    measured: Vec<measurement::Whole>,
    log: Vec<WrittenEntry>,
    photos: HashMap<String, Photo>,
    reduced: bool,
    heard: Vec<HeardSession>,
}

fn known(c: &mut Connection, owner: Uuid, id: Uuid) -> Result<Known, Error> {
    let told = revision::get(c, id)?;
    let whole = build::get(c, told.build_id)?;
    let mut measured = Vec::new();
    for m in measurement::of_build(c, told.build_id)? {
        // what was taken of another revision is not held against this one
        if m.revision_id.is_none_or(|of| of == id) {
            measured.push(measurement::get(c, m.id)?);
        }
    }
    let mut log = Vec::new();
    for entry in log_entry::whole(c, told.build_id)? {
        let read: LogEntry = serde_json::from_value(entry.document).map_err(|e| Error::Unforeseen(e.to_string()))?;
        log.push(WrittenEntry { at: entry.written_at, entry: read });
    }
    let (photos, reduced) = photos(c, &log)?;
    let mut heard = Vec::new();
    for (session, _) in listening::of_build(c, told.build_id)?.into_iter().rev() {
        if let (Some(ended_at), Some(outcome)) = (session.ended_at, listening::outcome_of(c, &session)?) {
            heard.push(HeardSession { title: session.session()?.title, ended_at, outcome });
        }
    }
    Ok(Known {
        name: whole.build.name,
        letter: told.letter,
        letters: whole.revisions.iter().map(|r| r.letter.clone()).collect(),
        document: told.document,
        work: work_plan::get(c, id)?.plan()?,
        workshop: workshop::get(c, owner)?.workshop()?,
        measured,
        log,
        photos,
        reduced,
        heard,
    })
}

/// The photos of a log, small ones where the whole would be too much, and whether they are.
fn photos(c: &mut Connection, log: &[WrittenEntry]) -> Result<(HashMap<String, Photo>, bool), Error> {
    let shown: Vec<_> = log.iter().flat_map(|e| &e.entry.photos).collect();
    for (small, most) in [(false, WHOLE_PHOTOS), (true, SMALL_PHOTOS)] {
        let (mut kept, mut bytes) = (HashMap::new(), 0);
        for of in &shown {
            if kept.contains_key(&of.digest) || bytes > most {
                continue;
            }
            let Some(key) = digest_of(&of.digest) else { continue };
            let jpeg = photo::get(c, &key, small)?;
            bytes += jpeg.len();
            kept.insert(of.digest.clone(), Photo { jpeg, width: of.width, height: of.height });
        }
        if bytes <= most || small {
            return Ok((kept, small));
        }
    }
    Ok((HashMap::new(), true))
}

/// A build's booklet, one of its revisions told.
#[utoipa::path(operation_id = "booklet", params(("id" = Uuid, Path), Wanted),
    responses((status = 200, body = Vec<u8>, content_type = "application/pdf"), (status = 404, body = Problem)))]
#[get("/revisions/{id}/booklet")]
pub async fn print(
    state: Data<State>,
    pool: Pool,
    id: Path<Uuid>,
    wanted: Query<Wanted>,
) -> Result<HttpResponse, Problem> {
    let known = state.with(move |c, owner| known(c, owner, *id)).await?;
    let (paper, system) = (paper(wanted.paper), system(wanted.system));
    let ahead = FixedOffset::east_opt(wanted.ahead_min.clamp(-840, 840) * 60);
    let ahead = ahead.ok_or_else(|| Problem::field("/ahead_min", "-840 to 840 minutes are expected"))?;
    let file = file_name(&known.name, "pdf");
    let work = move || {
        let design = oak_drum_document::read_value(known.document)
            .map_err(|_| Problem::from(Error::Unforeseen("a design that was kept does not read".into())))?;
        // what cannot be cooked any more is left out
        let measured: Vec<Measured> = known.measured.into_iter().filter_map(|m| measured_of(m).ok()).collect();
        let told = Told {
            name: &known.name,
            letter: &known.letter,
            letters: &known.letters,
            design: &design,
            work: &known.work,
            workshop: &known.workshop,
            measured: &measured,
            log: &known.log,
            photos: &known.photos,
            photos_reduced: known.reduced,
            heard: &known.heard,
            now: Utc::now().with_timezone(&ahead),
        };
        oak_drum_paper::write(&known.name, paper, system, &booklet(&told, system)).map_err(unprinted)
    };
    let pages = pool.patient(work).await?;
    Ok(HttpResponse::Ok().content_type("application/pdf").insert_header(attachment(&file)).body(pages))
}

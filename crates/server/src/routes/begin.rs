//! Beginning from what one has, and a cabinet from the box.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::Data;
use actix_web::{HttpResponse, get, post};
use oak_drum_acoustics::driver::Woofer;
use oak_drum_design::brief::purpose::{PURPOSES, Purposes};
use oak_drum_design::cabinet::from_box::{Form, from_box};
use oak_drum_document::{Checked, Code, Reader};
use oak_drum_matching::begin::{Begin, begin, picked};
use oak_drum_store::tables::woofer;
use oak_drum_text::Text;
use serde::Deserialize;
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::ToSchema;

/// What a subwoofer may be for, with what each asks and why.
#[utoipa::path(operation_id = "purposes", responses((status = 200, body = ref("#/components/schemas/Purposes"))))]
#[get("/purposes")]
pub async fn purposes() -> HttpResponse {
    HttpResponse::Ok().json(Purposes { purposes: &PURPOSES })
}

/// Most woofers of the shelf that are looked at where none is chosen.
const MOST_LOOKED_AT: usize = 60;

/// Three boxes to begin with, each in a cabinet that holds it; where no woofer is stated the shelf's likeliest is taken.
#[utoipa::path(operation_id = "begin", request_body = ref("#/components/schemas/Begin"),
    responses((status = 200, body = ref("#/components/schemas/Begun")), (status = 422, body = Problem)))]
#[post("/begin")]
pub async fn three(state: Data<State>, pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let wish: Begin = pool.take(move || part(&READER, body.json()?, "")).await?;
    let shelf: Vec<Woofer> = if wish.woofer.is_some() {
        Vec::new()
    } else {
        let all = state.with(move |c, owner| woofer::records(c, owner, None)).await?;
        // of a long shelf, which stands by size, evenly many of every size
        let every = all.len().div_ceil(MOST_LOOKED_AT).max(1);
        all.into_iter().step_by(every).map(|(_, w)| w.in_use()).collect()
    };
    let work = move || {
        let mut wish = wish;
        let mut said: Option<Text> = None;
        if wish.woofer.is_none() {
            let none = || match (wish.space, shelf.is_empty()) {
                (Some(_), false) => {
                    Problem::field("/space", "no woofer of the shelf has a box that goes into this space")
                }
                _ => Problem::field("/woofer", "the shelf holds no woofer that could be worked out; add one first"),
            };
            let (found, why) = picked(&wish, &shelf).ok_or_else(none)?;
            wish.woofer = Some(found);
            said = Some(why);
        }
        let mut begun = begin(&wish).map_err(|why| Problem::field("/woofer", &why.to_string()))?;
        begun.reasons.extend(said);
        Ok(begun)
    };
    Ok(HttpResponse::Ok().json(pool.patient(work).await?))
}

/// A design, and how its cabinet is to stand.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToMake {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// The form.
    #[schema(schema_with = crate::schemas::cabinet_form)]
    pub form: Value,
}

/// A cabinet that holds a design's box in a wished form, with nothing in anything.
#[utoipa::path(operation_id = "makeCabinet", request_body = ToMake,
    responses((status = 200, body = ref("#/components/schemas/MadeCabinet")), (status = 422, body = Problem)))]
#[post("/cabinet/made")]
pub async fn cabinet(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let ToMake { document, form } = body.json()?;
        let form: Form = part(&READER, form, "/form")?;
        Ok((asking::design(document)?, form))
    };
    let (design, form) = pool.take(read).await?;
    let made = pool.work(Question::Work, design, move |d: &Checked| from_box(d, &form)).await?;
    made.map(|made| HttpResponse::Ok().json(made)).map_err(|why| {
        Problem::design(&[oak_drum_document::Problem::new(Code::Contradiction, "/form", why.to_string())])
    })
}

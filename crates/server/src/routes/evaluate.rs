//! Evaluation: stateless; a design goes in, a result comes out.

use crate::asking::{self, AtWork};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use actix_web::http::header;
use actix_web::web::{Json, Query};
use actix_web::{HttpResponse, get, post};
use oak_drum_acoustics::families::Searched;
use oak_drum_design::evaluation::packed::pack;
use oak_drum_design::finding::Finding;
use oak_drum_document::Checked;
use oak_drum_store::Error;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};

/// How much of a result is wanted.
#[derive(Clone, Copy, Debug, Default, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Detail {
    /// Everything, to six significant digits, levels, angles and delays to a thousandth of their units.
    #[default]
    Full,
    /// What is drawn: no complex pressures, five significant digits.
    Lanes,
}

/// What may be asked besides the design.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// How much of the result is wanted.
    #[serde(default)]
    #[param(inline)]
    pub detail: Detail,
    /// Whether voltages, currents, powers and the filters' own curves are told too.
    #[serde(default)]
    #[param(inline)]
    pub electrical: bool,
}

/// Evaluates a design. What it answers is rounded.
#[utoipa::path(operation_id = "evaluate", params(Wanted),
    request_body(content = ref("#/components/schemas/Design")),
    responses((status = 200, body = ref("#/components/schemas/Evaluation")), (status = 422, body = Problem)))]
#[post("/evaluate")]
pub async fn evaluate(pool: Pool, body: Body, wanted: Query<Wanted>) -> Result<HttpResponse, Problem> {
    let Wanted { detail, electrical } = wanted.into_inner();
    let work = move |design: &Checked| {
        let mut result = oak_drum_design::evaluation::evaluate(design);
        let digits = match detail {
            Detail::Full => 6,
            Detail::Lanes => {
                result.without_pressures();
                5
            }
        };
        if !electrical {
            result.without_electrical();
        }
        result.round(digits);
        serde_json::to_vec(&result)
    };
    let json = asking::about(&pool, Question::Station, body, work).await?;
    let json = json.map_err(|e| Error::Unforeseen(format!("a result that cannot be written: {e}")))?;
    Ok(HttpResponse::Ok().content_type("application/json").body(json))
}

/// What packed curves are called.
pub const PACKED: &str = "application/vnd.oak-drum.curves";

/// Curves and figures of a design without findings or complex pressures, packed (docs/curves.md): for who draws under a moving
/// hand. The frequencies are the design's own.
#[utoipa::path(operation_id = "curves",
    request_body(content = ref("#/components/schemas/Design")),
    responses((status = 200, body = Vec<u8>, content_type = "application/vnd.oak-drum.curves"),
        (status = 422, body = Problem)))]
#[post("/curves")]
pub async fn curves(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let work = |design: &Checked| {
        let mut result = oak_drum_design::outline(design);
        result.without_pressures();
        pack(result)
    };
    let bytes = asking::about(&pool, Question::Curves, body, work).await?;
    // a compressor would take longer than the way from one program to another on this machine
    let plain = (header::CONTENT_ENCODING, "identity");
    Ok(HttpResponse::Ok().content_type(PACKED).insert_header(plain).body(bytes))
}

/// What was found in a design.
#[derive(Serialize, ToSchema)]
pub struct Found {
    /// The findings, worst first.
    #[schema(schema_with = crate::schemas::findings)]
    pub findings: Vec<Finding>,
}

/// The findings of a design, at the prices of its work plan.
#[utoipa::path(operation_id = "findings", request_body = AtWork,
    responses((status = 200, body = Found), (status = 422, body = Problem)))]
#[post("/findings")]
pub async fn findings(pool: Pool, body: Body) -> Result<Json<Found>, Problem> {
    let (design, work) = pool.take(move || body.json::<AtWork>()?.read()).await?;
    let judge = move |design: &Checked| oak_drum_design::found(design, &work.prices);
    let findings = pool.work(Question::Station, design, judge).await?;
    Ok(Json(Found { findings }))
}

/// Starting points of every family for a design's woofers.
#[derive(Serialize, ToSchema)]
pub struct Suggestions {
    /// The starting points, by family.
    #[schema(schema_with = crate::schemas::suggestions)]
    pub suggestions: Vec<Value>,
}

/// Starting points of every family for a design's woofers.
#[utoipa::path(operation_id = "suggest",
    request_body(content = ref("#/components/schemas/Design")),
    responses((status = 200, body = Suggestions), (status = 422, body = Problem)))]
#[post("/suggest")]
pub async fn suggest(pool: Pool, body: Body) -> Result<Json<Suggestions>, Problem> {
    let work = |design: &Checked| {
        let list = oak_drum_design::suggest(design);
        list.iter().map(|s| serde_json::to_value(s).unwrap_or_default()).collect()
    };
    let suggestions = asking::about(&pool, Question::Station, body, work).await?;
    Ok(Json(Suggestions { suggestions }))
}

/// A family of enclosures.
#[derive(Serialize, ToSchema)]
pub struct FamilyInfo {
    /// The tag in the document.
    pub id: String,
    /// The field's name for it.
    pub title: String,
    /// One sentence.
    pub summary: String,
    /// Where its model comes from.
    pub source: String,
    /// How trying the shelf searches it: `never`, `quickly` or `slowly`.
    #[schema(value_type = String, pattern = "^(never|quickly|slowly)$")]
    pub searched: Searched,
}

/// Every family, in the order in which they are offered.
#[utoipa::path(operation_id = "families", responses((status = 200, body = Vec<FamilyInfo>)))]
#[get("/families")]
pub async fn families() -> Json<Vec<FamilyInfo>> {
    let list = oak_drum_acoustics::families::FAMILIES.iter();
    Json(
        list.map(|f| FamilyInfo {
            id: f.id.into(),
            title: f.title.into(),
            summary: f.summary.into(),
            source: f.source.into(),
            searched: f.searched,
        })
        .collect(),
    )
}

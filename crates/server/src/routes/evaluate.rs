//! Evaluation: stateless; a design goes in, a result comes out.

use crate::problem::Problem;
use actix_web::web::{Json, Query};
use actix_web::{HttpResponse, get, post};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};

/// How much of a result is wanted.
#[derive(Clone, Copy, Debug, Default, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Detail {
    /// Everything, to six significant digits.
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
}

/// Evaluates a design. The curves are rounded.
#[utoipa::path(context_path = "/api", operation_id = "evaluate", params(Wanted),
    request_body(content = ref("#/components/schemas/Design")),
    responses((status = 200, body = ref("#/components/schemas/Evaluation")), (status = 422, body = Problem)))]
#[post("/evaluate")]
pub async fn evaluate(body: Json<Value>, wanted: Query<Wanted>) -> Result<HttpResponse, Problem> {
    let design = super::design(body.into_inner())?;
    let mut result = oak_drum_design::evaluate(&design)
        .ok_or_else(|| oak_drum_store::Error::Unforeseen("a design that reads does not compute".into()))?;
    let digits = match wanted.detail {
        Detail::Full => 6,
        Detail::Lanes => {
            result.without_pressures();
            5
        }
    };
    result.round(digits);
    Ok(HttpResponse::Ok().json(result))
}

/// Starting points of every family for a design's woofers.
#[derive(Serialize, ToSchema)]
pub struct Suggestions {
    /// The starting points, by family.
    #[schema(schema_with = suggestion_list)]
    pub suggestions: Vec<Value>,
}

fn suggestion_list() -> utoipa::openapi::RefOr<utoipa::openapi::Schema> {
    use utoipa::openapi::{ArrayBuilder, Ref, Schema};
    Schema::from(ArrayBuilder::new().items(Ref::from_schema_name("Suggestion")).build()).into()
}

/// Starting points of every family for a design's woofers.
#[utoipa::path(context_path = "/api", operation_id = "suggest",
    request_body(content = ref("#/components/schemas/Design")),
    responses((status = 200, body = Suggestions), (status = 422, body = Problem)))]
#[post("/suggest")]
pub async fn suggest(body: Json<Value>) -> Result<Json<Suggestions>, Problem> {
    let design = super::design(body.into_inner())?;
    let suggestions =
        oak_drum_design::suggest(&design).iter().map(|s| serde_json::to_value(s).unwrap_or_default()).collect();
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
    /// Whether trying the shelf searches it.
    pub searched: bool,
}

/// Every family, in the order in which they are offered.
#[utoipa::path(context_path = "/api", operation_id = "families", responses((status = 200, body = Vec<FamilyInfo>)))]
#[get("/families")]
pub async fn families() -> Json<Vec<FamilyInfo>> {
    let list = oak_drum_design::families().iter();
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

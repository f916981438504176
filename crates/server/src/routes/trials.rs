//! Trials: the shelf tried against a brief.

use crate::body::Body;
use crate::pool::Pool;
use crate::problem::Problem;
use crate::state::State;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, get, post};
use oak_drum_acoustics::families::Searched;
use oak_drum_document::Reader;
use oak_drum_matching::Goal;
use oak_drum_store::tables::trial::{self, Sort, Trial, TrialResult};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Most woofers that may be tried together in one box.
const MOST_TOGETHER: u32 = 8;

/// A rule by which results are ranked.
#[derive(Serialize, ToSchema)]
pub struct RankingRule {
    /// Stable name.
    pub id: String,
    /// What it charges for.
    pub sentence: String,
}

/// The rules by which results are ranked, in the order of a result's charges.
#[utoipa::path(operation_id = "rankingRules", responses((status = 200, body = Vec<RankingRule>)))]
#[get("/trials/rules")]
pub async fn rules() -> Json<Vec<RankingRule>> {
    let rule = |r: &oak_drum_matching::Rule| RankingRule { id: r.id.into(), sentence: r.sentence.into() };
    Json(oak_drum_matching::RULES.iter().map(rule).collect())
}

/// A new trial.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewTrial {
    /// What is wanted.
    #[schema(schema_with = crate::schemas::goal)]
    pub goal: Value,
    /// How many woofers each are tried: 1 to 8, without repeats.
    pub counts: Vec<u32>,
    /// The families tried.
    pub families: Vec<String>,
    /// The woofers of the shelf; absent for all.
    pub woofers: Option<Vec<Uuid>>,
}

fn goal(value: Value) -> Result<Goal, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let reader = READER.get_or_init(|| Reader::new(oak_drum_document::schema::of::<Goal>()));
    let mut problems = reader.problems(&value);
    for problem in &mut problems {
        problem.pointer = format!("/goal{}", problem.pointer);
    }
    if !problems.is_empty() {
        return Err(Problem::design(&problems));
    }
    serde_json::from_value(value).map_err(|e| Problem::field("/goal", &e.to_string()))
}

/// Begins a trial for a build; an older one of the build is dropped.
#[utoipa::path(operation_id = "beginTrial", params(("id" = Uuid, Path)), request_body = NewTrial,
    responses((status = 201, body = Trial), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/builds/{id}/trial")]
pub async fn begin(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<HttpResponse, Problem> {
    let read = move || {
        let NewTrial { goal: wanted, counts, families, woofers } = body.json()?;
        Ok((goal(wanted)?, counts, families, woofers))
    };
    let (goal, mut counts, families, woofers) = pool.take(read).await?;
    counts.sort_unstable();
    counts.dedup();
    if counts.is_empty() || counts.iter().any(|n| !(1..=MOST_TOGETHER).contains(n)) {
        return Err(Problem::field("/counts", "one or more numbers from 1 to 8 are expected, for example [1, 2]"));
    }
    let known: Vec<&str> =
        oak_drum_acoustics::families::FAMILIES.iter().filter(|f| f.searched != Searched::Never).map(|f| f.id).collect();
    if families.is_empty() || families.iter().any(|f| !known.contains(&f.as_str())) {
        return Err(Problem::field("/families", &format!("one or more of {} are expected", known.join(", "))));
    }
    let begun =
        state.with(move |c, owner| trial::begin(c, owner, *id, &goal, &counts, &families, woofers.as_deref())).await?;
    state.bell().ring();
    Ok(HttpResponse::Created().json(begun))
}

/// The trial of a build; null where it has none.
#[utoipa::path(operation_id = "buildTrial", params(("id" = Uuid, Path)),
    responses((status = 200, body = Option<Trial>)))]
#[get("/builds/{id}/trial")]
pub async fn of_build(state: Data<State>, id: Path<Uuid>) -> Result<Json<Option<Trial>>, Problem> {
    Ok(Json(state.with(move |c, _| trial::of_build(c, *id)).await?))
}

/// A trial as it stands.
#[utoipa::path(operation_id = "getTrial", params(("id" = Uuid, Path)),
    responses((status = 200, body = Trial), (status = 404, body = Problem)))]
#[get("/trials/{id}")]
pub async fn get(state: Data<State>, id: Path<Uuid>) -> Result<Json<Trial>, Problem> {
    Ok(Json(state.with(move |c, _| trial::get(c, *id)).await?))
}

/// Stops a trial; what is in hand is finished.
#[utoipa::path(operation_id = "stopTrial", params(("id" = Uuid, Path)),
    responses((status = 200, body = Trial), (status = 404, body = Problem)))]
#[post("/trials/{id}/stop")]
pub async fn stop(state: Data<State>, id: Path<Uuid>) -> Result<Json<Trial>, Problem> {
    Ok(Json(state.with(move |c, _| trial::set_running(c, *id, false)).await?))
}

/// Lets a stopped trial go on.
#[utoipa::path(operation_id = "resumeTrial", params(("id" = Uuid, Path)),
    responses((status = 200, body = Trial), (status = 404, body = Problem)))]
#[post("/trials/{id}/resume")]
pub async fn resume(state: Data<State>, id: Path<Uuid>) -> Result<Json<Trial>, Problem> {
    let resumed = state.with(move |c, _| trial::set_running(c, *id, true)).await?;
    state.bell().ring();
    Ok(Json(resumed))
}

/// Which results.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Page {
    /// What they are sorted by.
    #[serde(default)]
    #[param(inline)]
    pub sort: Sort,
    /// How many to pass over.
    #[serde(default)]
    pub offset: i64,
    /// How many, at most 100.
    #[serde(default = "fifty")]
    pub limit: i64,
}

fn fifty() -> i64 {
    50
}

/// Results so far, sorted.
#[utoipa::path(operation_id = "trialResults", params(("id" = Uuid, Path), Page),
    responses((status = 200, body = Vec<TrialResult>)))]
#[get("/trials/{id}/results")]
pub async fn results(state: Data<State>, id: Path<Uuid>, page: Query<Page>) -> Result<Json<Vec<TrialResult>>, Problem> {
    let Page { sort, offset, limit } = page.into_inner();
    Ok(Json(state.with(move |c, _| trial::results(c, *id, sort, offset, limit)).await?))
}

/// The design of a result, ready to be opened as a revision.
#[utoipa::path(operation_id = "resultDesign", params(("id" = i64, Path)),
    responses((status = 200, body = ref("#/components/schemas/Design")), (status = 404, body = Problem)))]
#[get("/trials/results/{id}/design")]
pub async fn design(state: Data<State>, id: Path<i64>) -> Result<Json<Value>, Problem> {
    Ok(Json(state.with(move |c, _| trial::design(c, *id)).await?))
}

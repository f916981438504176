//! From a design to a cabinet: how it stands, what is sawn, drawn, bought and done. Stateless, like evaluation.

use crate::asking::{self, AtWork};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use actix_web::http::header;
use actix_web::web::{Json, Query};
use actix_web::{HttpResponse, post};
use oak_drum_cabinet::drawing::{dxf, svg};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::materials::{Bill, Spent};
use oak_drum_design::cabinet::mistakes::{Mistake, mistakes};
use oak_drum_design::cabinet::{cutting, drawings, materials, printed_plan, step, steps, view};
use oak_drum_design::evaluation::findings::findings;
use oak_drum_design::finding::Severity;
use oak_drum_document::{Checked, Design, Reader, WorkPlan, Workshop};
use oak_drum_paper::{self as pdf, Unprinted};
use oak_drum_store::Error;
use oak_drum_text::{System, Text};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::{IntoParams, ToSchema};

/// Most pieces that are laid out for several cabinets at once.
const MOST_CABINETS: u32 = 24;

/// Works out what a design's cabinet gives; a clear word where it has none.
async fn of<T: Send + 'static>(
    pool: &Pool,
    question: Question,
    body: Body,
    work: impl FnOnce(&Analysis) -> Option<T> + Send + 'static,
) -> Result<T, Problem> {
    let read = move || Ok((asking::design(body.json()?)?, ()));
    about(pool, question, read, move |a, ()| work(a)).await
}

/// The same of a design with what the workshop keeps beside it.
async fn at_work<T: Send + 'static>(
    pool: &Pool,
    body: Body,
    work: impl FnOnce(&Analysis, WorkPlan) -> Option<T> + Send + 'static,
) -> Result<T, Problem> {
    about(pool, Question::Work, move || body.json::<AtWork>()?.read(), work).await
}

pub(super) async fn about<B: Send + 'static, T: Send + 'static>(
    pool: &Pool,
    question: Question,
    read: impl FnOnce() -> Result<(Checked, B), Problem> + Send + 'static,
    work: impl FnOnce(&Analysis, B) -> Option<T> + Send + 'static,
) -> Result<T, Problem> {
    let none = || Problem::field("/cabinet", "there is no cabinet; state its outside");
    let (design, beside) = pool
        .take(move || {
            let (design, beside) = read()?;
            if design.cabinet.is_none() { Err(none()) } else { Ok((design, beside)) }
        })
        .await?;
    let made = pool.work(question, design, |d| work(&Analysis::of(d), beside)).await?;
    made.ok_or_else(none)
}

/// How a design's cabinet stands: boards, faces, what sits on them, clearances, the fold.
#[utoipa::path(operation_id = "cabinet", request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/CabinetView")), (status = 422, body = Problem)))]
#[post("/cabinet")]
pub async fn cabinet(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    Ok(HttpResponse::Ok().json(of(&pool, Question::Station, body, view::view).await?))
}

/// How many equal cabinets are sawn together.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Many {
    /// How many; one where it is not said.
    #[param(minimum = 1, maximum = 24)]
    pub cabinets: Option<u32>,
}

/// Cut list and sheets of a design's cabinet, or of several equal ones.
#[utoipa::path(operation_id = "cutting", params(Many),
    request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/Cutting")), (status = 422, body = Problem)))]
#[post("/cutting")]
pub async fn saw(pool: Pool, many: Query<Many>, body: Body) -> Result<HttpResponse, Problem> {
    let cabinets = many.cabinets.unwrap_or(1);
    if !(1..=MOST_CABINETS).contains(&cabinets) {
        return Err(Problem::field("/cabinets", "1 to 24 cabinets are expected"));
    }
    let found = of(&pool, Question::Work, body, move |a| cutting::cutting_for(a, cabinets)).await?;
    Ok(HttpResponse::Ok().json(found))
}

/// What is done step by step, and what has to be bought.
#[derive(Serialize, ToSchema)]
pub struct Building {
    /// The steps, in order.
    #[schema(schema_with = crate::schemas::steps)]
    pub steps: Vec<step::Step>,
    /// What to buy, its cost and its weight.
    #[schema(schema_with = crate::schemas::bill)]
    pub bill: Bill,
    /// Planned against paid.
    #[schema(schema_with = crate::schemas::spent)]
    pub spent: Spent,
}

/// Steps, materials and cost of a design's cabinet.
#[utoipa::path(operation_id = "building", request_body = AtWork,
    responses((status = 200, body = Building), (status = 422, body = Problem)))]
#[post("/building")]
pub async fn building(pool: Pool, body: Body) -> Result<Json<Building>, Problem> {
    let both = |a: &Analysis, work: WorkPlan| {
        let bill = materials::bill(a, &work.prices)?;
        Some(Building { steps: steps::steps_with(a, &work.days)?, spent: materials::spent(&bill, &work.bought), bill })
    };
    Ok(Json(at_work(&pool, body, both).await?))
}

/// A design, and what went wrong while it was built.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WentWrong {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// The mistake; absent asks what can go wrong.
    #[schema(schema_with = crate::schemas::mistake, required = false)]
    #[serde(default)]
    pub mistake: Option<Value>,
}

/// What can go wrong with a design's cabinet, and what to do about what did.
#[utoipa::path(operation_id = "mistake", request_body = WentWrong,
    responses((status = 200, body = ref("#/components/schemas/Mistakes")), (status = 422, body = Problem)))]
#[post("/mistake")]
pub async fn mistake(pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let WentWrong { document, mistake } = body.json()?;
        let mistake: Option<Mistake> = mistake.map(|m| asking::part(&READER, m, "/mistake")).transpose()?;
        Ok((asking::design(document)?, mistake))
    };
    let found = about(&pool, Question::Work, read, |a, mistake| mistakes(a, mistake.as_ref())).await?;
    Ok(HttpResponse::Ok().json(found.map_err(|(field, what)| Problem::field(&field, &what))?))
}

/// A drawing for the screen.
#[derive(Serialize, ToSchema)]
pub struct DrawingSheet {
    /// Stable name.
    pub id: String,
    /// What it shows.
    #[schema(schema_with = crate::schemas::text)]
    pub title: Text,
    /// What to mind; may be empty.
    #[schema(schema_with = crate::schemas::text)]
    pub note: Text,
    /// Whether it is printed at its real size only.
    pub real_size: bool,
    /// The drawing as SVG.
    pub svg: String,
}

/// Every drawing of a design's cabinet.
#[utoipa::path(operation_id = "drawings", request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = [DrawingSheet]), (status = 422, body = Problem)))]
#[post("/drawings")]
pub async fn sheets(pool: Pool, body: Body) -> Result<Json<Vec<DrawingSheet>>, Problem> {
    let list = of(&pool, Question::Work, body, |a| {
        let all = drawings::drawings(a)?;
        Some(
            all.into_iter()
                .map(|named| DrawingSheet {
                    svg: svg::write(&named.drawing),
                    title: named.drawing.title.into(),
                    note: named.drawing.note.into(),
                    real_size: named.drawing.real_size,
                    id: named.id,
                })
                .collect(),
        )
    })
    .await?;
    Ok(Json(list))
}

/// A format drawings are saved in.
#[derive(Clone, Copy, Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum DrawingFormat {
    /// Scalable vector graphics.
    Svg,
    /// Drawing exchange format, millimetres.
    Dxf,
    /// Pages.
    Pdf,
}

/// Paper.
#[derive(Clone, Copy, Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PaperSize {
    /// 210 x 297 mm.
    A4,
    /// 8 1/2 x 11 in.
    Letter,
}

/// What sizes are said in.
#[derive(Clone, Copy, Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Sizes {
    /// Millimetres.
    Metric,
    /// Inches.
    Inch,
}

/// Which drawing, and how.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// Stable name of the drawing; `plan` is all of it to be printed, with cut list and steps.
    pub drawing: String,
    /// The format.
    #[param(inline)]
    pub format: DrawingFormat,
    /// The paper of PDF pages; A4 where it is not said.
    #[param(inline)]
    pub paper: Option<PaperSize>,
    /// What sizes are said in; millimetres where it is not said.
    #[param(inline)]
    pub system: Option<Sizes>,
}

/// A drawing of a design's cabinet as a file.
#[utoipa::path(operation_id = "drawingFile", params(Wanted), request_body = AtWork,
    responses((status = 200, body = String), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/drawings/file")]
pub async fn file(pool: Pool, wanted: Query<Wanted>, body: Body) -> Result<HttpResponse, Problem> {
    let wanted = wanted.into_inner();
    let name = wanted.drawing.clone();
    let read = move || body.json::<AtWork>()?.all();
    let work = move |a: &Analysis, (work, workshop): (WorkPlan, Workshop)| Some(write(a, &wanted, &work, &workshop));
    let made = about(&pool, Question::Work, read, work).await??;
    let Some((kind, bytes)) = made else {
        return Err(Problem::field("/drawing", &format!("there is no drawing called \"{name}\" of this cabinet")));
    };
    Ok(HttpResponse::Ok().insert_header((header::CONTENT_TYPE, kind)).body(bytes))
}

/// The paper asked for; A4 where none is.
pub fn paper(wanted: Option<PaperSize>) -> pdf::Paper {
    match wanted {
        Some(PaperSize::Letter) => pdf::Paper::Letter,
        _ => pdf::Paper::A4,
    }
}

/// What sizes are to be said in; millimetres where nothing is asked for.
pub fn system(wanted: Option<Sizes>) -> System {
    match wanted {
        Some(Sizes::Inch) => System::Inch,
        _ => System::Metric,
    }
}

/// Pages that did not come about.
pub fn unprinted(why: Unprinted) -> Problem {
    Error::Unforeseen(why.to_string()).into()
}

type File = (&'static str, Vec<u8>);

fn write(analysis: &Analysis, wanted: &Wanted, work: &WorkPlan, workshop: &Workshop) -> Result<Option<File>, Problem> {
    let (paper, system) = (paper(wanted.paper), system(wanted.system));
    let title = title(&analysis.design);
    if wanted.drawing == "plan" {
        let broken = findings(analysis).into_iter().filter(|f| f.severity == Severity::Broken);
        let against: Vec<Text> = broken.map(|f| f.sentence).collect();
        let blocks = printed_plan::plan(analysis, &title, &against, work, workshop);
        let pages = blocks.map(|blocks| pdf::write(&title, paper, system, &blocks).map_err(unprinted)).transpose()?;
        return Ok(pages.map(|pages| ("application/pdf", pages)));
    }
    let all = drawings::drawings(analysis).unwrap_or_default();
    let Some(named) = all.into_iter().find(|n| n.id == wanted.drawing) else { return Ok(None) };
    Ok(Some(match wanted.format {
        DrawingFormat::Svg => ("image/svg+xml", svg::write(&named.drawing.said(system)).into_bytes()),
        DrawingFormat::Dxf => {
            let unwritten = |e: dxf::Unwritten| Error::Unforeseen(format!("a drawing as DXF: {}", e.0));
            ("image/vnd.dxf", dxf::write(&named.drawing.said(system)).map_err(unwritten)?)
        }
        DrawingFormat::Pdf => {
            let block = if named.drawing.real_size {
                pdf::Block::RealSize(named.drawing)
            } else {
                pdf::Block::Picture(named.drawing)
            };
            ("application/pdf", pdf::write(&title, paper, system, &[block]).map_err(unprinted)?)
        }
    }))
}

/// What a plan is headed with.
fn title(design: &Design) -> String {
    if design.name.is_empty() { "Cabinet".to_owned() } else { design.name.clone() }
}

//! The plan of days, and the same as a calendar.

use crate::asking;
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::state::State;
use actix_web::http::header;
use actix_web::web::Data;
use actix_web::{HttpResponse, post};
use chrono::{Duration, NaiveDateTime};
use icalendar::{Calendar, Component, Event, EventLike};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::days::{DaysPlan, Pace, plan};
use oak_drum_design::cabinet::steps::steps_with;
use oak_drum_document::{Checked, WorkPlan};
use oak_drum_store::tables::work_plan;
use oak_drum_text::System;
use serde::Deserialize;
use serde_json::Value;
use utoipa::ToSchema;

/// A design that is built, and the builder's clock.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DaysWish {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    document: Value,
    /// What the workshop keeps beside it; nothing where it is absent.
    #[schema(schema_with = crate::schemas::work_plan, required = false)]
    #[serde(default)]
    work: Option<Value>,
    /// What the builder's clock says, as 2026-11-28T10:00.
    #[schema(max_length = 16)]
    now: String,
    /// How far that clock is ahead of UTC, min.
    #[schema(minimum = -840, maximum = 840)]
    #[serde(default)]
    ahead_min: i32,
    /// What sizes are said in; millimetres where it is not said.
    #[schema(inline)]
    #[serde(default)]
    system: Option<crate::routes::cabinet::Sizes>,
}

/// The wish, looked at.
struct Wished {
    design: Checked,
    work: WorkPlan,
    now: NaiveDateTime,
    ahead: Duration,
    system: System,
}

fn read(wish: DaysWish) -> Result<Wished, Problem> {
    let now = NaiveDateTime::parse_from_str(&wish.now, "%Y-%m-%dT%H:%M")
        .map_err(|_| Problem::field("/now", "a day and an hour are expected, for example 2026-11-28T10:00"))?;
    if wish.ahead_min.abs() > 840 {
        return Err(Problem::field("/ahead_min", "-840 to 840 minutes are expected"));
    }
    let work = wish.work.map(asking::work_plan).transpose()?.unwrap_or_default();
    let system = crate::routes::cabinet::system(wish.system);
    let design = asking::design(wish.document)?;
    if design.cabinet.is_none() {
        return Err(Problem::field("/document/cabinet", "there is no cabinet; state its outside"));
    }
    Ok(Wished { design, work, now, ahead: Duration::minutes(i64::from(wish.ahead_min)), system })
}

/// What the clocks of the workshop's builds say: of each step the middle of what it took over what it was reckoned at.
fn paces(mut clocks: Vec<(String, f64)>) -> Vec<Pace> {
    clocks.sort_by(|a, b| a.0.cmp(&b.0).then(a.1.total_cmp(&b.1)));
    let middle = |own: &[(String, f64)]| {
        let k = own.len();
        (own[(k - 1) / 2].1 + own[k / 2].1) / 2.0
    };
    clocks.chunk_by(|a, b| a.0 == b.0).map(|own| Pace { step: own[0].0.clone(), ratio: middle(own) }).collect()
}

async fn planned<T: Send + 'static>(
    state: &State,
    pool: &Pool,
    body: Body,
    then: impl FnOnce(&Analysis, &Wished, DaysPlan) -> T + Send + 'static,
) -> Result<T, Problem> {
    let wished = pool.take(move || read(body.json()?)).await?;
    let paces = paces(state.with(|c, owner| work_plan::clocks(c, owner)).await?);
    let design = wished.design.clone();
    let work = move |d: &Checked| {
        let analysis = Analysis::of(d);
        let made = plan(&analysis, &wished.work, &paces, wished.now, wished.ahead)?;
        Some(then(&analysis, &wished, made))
    };
    let none = || Problem::field("/document/cabinet", "there is no cabinet; state its outside");
    pool.work(Question::Work, design, work).await?.ok_or_else(none)
}

/// What is done when: steps laid into free times, with what dries meanwhile.
#[utoipa::path(operation_id = "days", request_body = DaysWish,
    responses((status = 200, body = ref("#/components/schemas/DaysPlan")), (status = 422, body = Problem)))]
#[post("/days")]
pub async fn days(state: Data<State>, pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    Ok(HttpResponse::Ok().json(planned(&state, &pool, body, |_, _, plan| plan).await?))
}

/// The same as an open calendar file (iCalendar, RFC 5545), hours as the builder's clock shows them.
#[utoipa::path(operation_id = "daysCalendar", request_body = DaysWish,
    responses((status = 200, body = String, content_type = "text/calendar"), (status = 422, body = Problem)))]
#[post("/days/calendar")]
pub async fn calendar(state: Data<State>, pool: Pool, body: Body) -> Result<HttpResponse, Problem> {
    let text = planned(&state, &pool, body, |a, wished, plan| written(a, wished, &plan)).await?;
    Ok(HttpResponse::Ok()
        .content_type("text/calendar; charset=utf-8")
        .insert_header((header::CONTENT_DISPOSITION, "attachment; filename=\"days.ics\""))
        .body(text))
}

fn written(analysis: &Analysis, wished: &Wished, plan: &DaysPlan) -> String {
    let steps = steps_with(analysis, &wished.work.days).unwrap_or_default();
    let name = if analysis.design.name.is_empty() { "Cabinet" } else { analysis.design.name.as_str() };
    let mut made = Calendar::new();
    made.name(name);
    for (i, s) in plan.sittings.iter().enumerate() {
        let at = |text: &str| NaiveDateTime::parse_from_str(text, "%Y-%m-%dT%H:%M").ok();
        let (Some(from), Some(to)) = (at(&s.from), at(&s.to)) else { continue };
        let part = if s.part[1] > 1 { format!(" ({} of {})", s.part[0], s.part[1]) } else { String::new() };
        let step = steps.iter().find(|o| o.id == s.step);
        let mut told: Vec<String> = step.map(|o| o.text.said(wished.system)).into_iter().collect();
        told.extend(step.and_then(|o| o.caution.as_ref()).map(|c| c.said(wished.system)));
        told.extend((s.hands > 1).then(|| format!("{} people are needed.", s.hands)));
        told.extend(s.then.as_ref().map(|d| {
            format!(
                "Then {} dries: go on from {}, hard from {}.",
                d.what,
                d.next_at.replace('T', " "),
                d.hard_at.replace('T', " ")
            )
        }));
        let event = Event::new()
            .uid(&format!("{}-{}-{i}@oak-drum", s.step, s.from))
            .summary(&format!("{}{part}", s.title.said(wished.system)))
            .description(&told.join("\n"))
            .starts(from)
            .ends(to)
            .done();
        made.push(event);
    }
    made.done().to_string()
}

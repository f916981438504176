//! Trials: a shelf tried against a brief. The question is kept with its woofers' sheets as they stood, cut into
//! parts; workers of any number of servers claim parts (SKIP LOCKED), and a part whose worker died is claimed again.

use crate::error::Error;
use crate::schema::{trial, trial_part, trial_result};
use crate::tables::woofer;
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use diesel::sql_types;
use oak_drum_acoustics::driver::Woofer;
use oak_drum_matching::{Candidate, Goal, Outcome};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// Woofers in one part: so few that a stop is felt at once and a lost part costs little.
const PART: usize = 8;
/// How long a worker may take over a part before it is thought dead, s.
const LEASE_S: i32 = 20;
/// How often a part is tried before it is given up.
const MOST_ATTEMPTS: i32 = 4;
/// Most results in one answer.
pub const MOST_RESULTS: i64 = 100;

/// A trial as it stands.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Trial {
    /// Key.
    pub id: Uuid,
    /// The build it is for.
    pub build_id: Uuid,
    /// What is wanted.
    #[schema(schema_with = crate::openapi::goal)]
    pub goal: Value,
    /// How many woofers each are tried.
    pub counts: Vec<i32>,
    /// The families tried.
    pub families: Vec<String>,
    /// Where it stands: running, stopped or done.
    pub state: String,
    /// Woofers in all.
    pub woofers: i32,
    /// Woofers done.
    pub done: i64,
    /// Woofers given up after several workers died over them.
    pub given_up: i64,
    /// Results so far.
    pub results: i64,
    /// Results that meet the brief.
    pub meet: i64,
    /// When it was begun.
    pub created_at: DateTime<Utc>,
    /// When it was done.
    pub finished_at: Option<DateTime<Utc>>,
}

/// One result.
#[derive(Clone, Debug, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = trial_result, check_for_backend(diesel::pg::Pg))]
pub struct TrialResult {
    /// Key.
    pub id: i64,
    /// The woofer of the shelf.
    pub woofer_id: Uuid,
    /// Its name.
    pub name: String,
    /// Its maker.
    pub maker: String,
    /// Price of all woofers, where stated.
    pub price: Option<f64>,
    /// Weight of all woofers, kg, where stated.
    pub weight_kg: Option<f64>,
    /// The best box.
    #[schema(schema_with = crate::openapi::outcome)]
    pub outcome: Value,
}

/// What results are sorted by.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Sort {
    /// What does the brief first, then the least cost.
    #[default]
    Best,
    /// Most level to spare.
    Spare,
    /// Lowest note at full level.
    Reaches,
    /// Lowest f3.
    F3,
    /// Smallest box.
    Size,
    /// Cheapest.
    Price,
    /// Lightest.
    Weight,
    /// By name.
    Name,
}

/// A part in a worker's hands.
#[derive(Clone, Debug)]
pub struct Claim {
    /// The trial.
    pub trial: Uuid,
    /// The part.
    pub part: i32,
    /// What is wanted.
    pub goal: Goal,
    /// How many woofers each are tried.
    pub counts: Vec<u32>,
    /// The families tried.
    pub families: Vec<String>,
    /// The woofers with their sheets.
    pub sheets: Vec<(Uuid, Woofer)>,
}

/// Begins a trial of some woofers of the shelf (all where none are named) for a build; an older one of the build is
/// dropped.
///
/// # Errors
/// [`Error::NotFound`] where there is none of these woofers; those of the database.
pub fn begin(
    connection: &mut PgConnection,
    owner: Uuid,
    build: Uuid,
    goal: &Goal,
    counts: &[u32],
    families: &[String],
    keys: Option<&[Uuid]>,
) -> Result<Trial, Error> {
    let json = |value: serde_json::Result<Value>| value.map_err(|e| Error::Unforeseen(e.to_string()));
    connection.transaction(|c| {
        crate::tables::build::get(c, build)?;
        let sheets: Vec<(Uuid, Woofer)> =
            woofer::records(c, owner, keys)?.into_iter().map(|(id, w)| (id, w.in_use())).collect();
        if sheets.is_empty() {
            return Err(Error::NotFound("woofer"));
        }
        diesel::delete(trial::table.filter(trial::build_id.eq(build))).execute(c)?;
        let id = Uuid::now_v7();
        let counts: Vec<i32> = counts.iter().map(|n| i32::try_from(*n).unwrap_or(1)).collect();
        diesel::insert_into(trial::table)
            .values((
                trial::id.eq(id),
                trial::owner_id.eq(owner),
                trial::build_id.eq(build),
                trial::goal.eq(json(serde_json::to_value(goal))?),
                trial::counts.eq(counts),
                trial::families.eq(families),
                trial::woofers.eq(i32::try_from(sheets.len()).unwrap_or(i32::MAX)),
                trial::state.eq("running"),
            ))
            .execute(c)?;
        let mut parts = Vec::new();
        for (part, chunk) in sheets.chunks(PART).enumerate() {
            parts.push((
                trial_part::trial_id.eq(id),
                trial_part::part.eq(i32::try_from(part).unwrap_or(i32::MAX)),
                trial_part::sheets.eq(json(serde_json::to_value(chunk))?),
                trial_part::size.eq(i32::try_from(chunk.len()).unwrap_or(0)),
            ));
        }
        for chunk in parts.chunks(1000) {
            diesel::insert_into(trial_part::table).values(chunk).execute(c)?;
        }
        get(c, id)
    })
}

/// A trial as it stands.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn get(connection: &mut PgConnection, id: Uuid) -> Result<Trial, Error> {
    type Row = (Uuid, Value, Vec<i32>, Vec<String>, String, i32, DateTime<Utc>, Option<DateTime<Utc>>);
    let (build_id, goal, counts, families, state, woofers, created_at, finished_at): Row = trial::table
        .find(id)
        .select((
            trial::build_id,
            trial::goal,
            trial::counts.assume_not_null(),
            trial::families.assume_not_null(),
            trial::state,
            trial::woofers,
            trial::created_at,
            trial::finished_at,
        ))
        .first(connection)
        .optional()?
        .ok_or(Error::NotFound("trial"))?;
    let of = |c: &mut PgConnection, state: &str| -> Result<i64, Error> {
        let sum: Option<i64> = trial_part::table
            .filter(trial_part::trial_id.eq(id).and(trial_part::state.eq(state)))
            .select(diesel::dsl::sum(trial_part::size))
            .first(c)?;
        Ok(sum.unwrap_or(0))
    };
    let own = || trial_result::table.filter(trial_result::trial_id.eq(id));
    Ok(Trial {
        id,
        build_id,
        goal,
        counts,
        families,
        state,
        woofers,
        done: of(connection, "done")?,
        given_up: of(connection, "given_up")?,
        results: own().count().get_result(connection)?,
        meet: own().filter(trial_result::verdict.eq(0)).count().get_result(connection)?,
        created_at,
        finished_at,
    })
}

/// The trial of a build, if it has one.
///
/// # Errors
/// Those of the database.
pub fn of_build(connection: &mut PgConnection, build: Uuid) -> Result<Option<Trial>, Error> {
    let id: Option<Uuid> = trial::table
        .filter(trial::build_id.eq(build))
        .order(trial::created_at.desc())
        .select(trial::id)
        .first(connection)
        .optional()?;
    id.map(|id| get(connection, id)).transpose()
}

/// Stops a running trial, or lets a stopped one go on; parts being worked on are finished.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_running(connection: &mut PgConnection, id: Uuid, running: bool) -> Result<Trial, Error> {
    let (from, to) = if running { ("stopped", "running") } else { ("running", "stopped") };
    diesel::update(trial::table.find(id).filter(trial::state.eq(from))).set(trial::state.eq(to)).execute(connection)?;
    get(connection, id)
}

/// Results of a trial in an order, at most [`MOST_RESULTS`] from an offset on.
///
/// # Errors
/// Those of the database.
pub fn results(
    connection: &mut PgConnection,
    id: Uuid,
    sort: Sort,
    offset: i64,
    limit: i64,
) -> Result<Vec<TrialResult>, Error> {
    let query = trial_result::table
        .filter(trial_result::trial_id.eq(id))
        .select(TrialResult::as_select())
        .offset(offset.max(0))
        .limit(limit.clamp(1, MOST_RESULTS))
        .into_boxed();
    use trial_result as r;
    let last = (r::verdict.asc(), r::cost_db.asc().nulls_last(), r::name.asc(), r::count.asc(), r::family.asc());
    let list: Vec<TrialResult> = match sort {
        Sort::Best => query.order(last).load(connection)?,
        Sort::Spare => query.order((r::spare_db.desc().nulls_last(), last)).load(connection)?,
        Sort::Reaches => query.order((r::reaches_hz.asc().nulls_last(), last)).load(connection)?,
        Sort::F3 => query.order((r::f3_hz.asc().nulls_last(), last)).load(connection)?,
        Sort::Size => query.order((r::outside_l.asc().nulls_last(), last)).load(connection)?,
        Sort::Price => query.order((r::price.asc().nulls_last(), last)).load(connection)?,
        Sort::Weight => query.order((r::weight_kg.asc().nulls_last(), last)).load(connection)?,
        Sort::Name => query.order((r::name.asc(), last)).load(connection)?,
    };
    Ok(list.into_iter().map(told_as_now).collect())
}

/// A result stored when its reason was plain words, told as one is now.
fn told_as_now(mut result: TrialResult) -> TrialResult {
    if let Some(reason) = result.outcome.get_mut("reason").filter(|reason| reason.is_string()) {
        *reason = Value::Array(vec![reason.take()]);
    }
    result
}

/// The design of a result, as a JSON document ready to be opened as a revision.
///
/// # Errors
/// [`Error::NotFound`] where there is none (nothing was found for that candidate), or those of the database.
pub fn design(connection: &mut PgConnection, result: i64) -> Result<Value, Error> {
    let found: Option<(Value, Value, Value)> = trial_result::table
        .inner_join(trial::table.on(trial::id.eq(trial_result::trial_id)))
        .filter(trial_result::id.eq(result))
        .select((trial::goal, trial_result::sheet, trial_result::outcome))
        .first(connection)
        .optional()?;
    let (goal, sheet, outcome) = found.ok_or(Error::NotFound("result"))?;
    let unread = |e: serde_json::Error| Error::Unforeseen(format!("a stored result does not read: {e}"));
    let goal: Goal = serde_json::from_value(goal).map_err(unread)?;
    let woofer: Woofer = serde_json::from_value(sheet).map_err(unread)?;
    let outcome: Outcome = serde_json::from_value(outcome).map_err(unread)?;
    let candidate = Candidate { woofer: &woofer, count: outcome.count, family: &outcome.family };
    let design = outcome.design(&goal, &candidate).ok_or(Error::NotFound("box in this result"))?;
    serde_json::to_value(design).map_err(unread)
}

/// Claims the next open part of the oldest running trial for a worker; `None` when there is nothing to do.
///
/// # Errors
/// Those of the database.
pub fn claim(connection: &mut PgConnection, worker: Uuid) -> Result<Option<Claim>, Error> {
    #[derive(QueryableByName)]
    struct Row {
        #[diesel(sql_type = sql_types::Uuid)]
        trial_id: Uuid,
        #[diesel(sql_type = sql_types::Integer)]
        part: i32,
        #[diesel(sql_type = sql_types::Jsonb)]
        sheets: Value,
    }
    connection.transaction(|c| {
        let lost: Vec<Uuid> = diesel::update(
            trial_part::table.filter(
                trial_part::state
                    .eq("claimed")
                    .and(trial_part::claimed_until.lt(diesel::dsl::now))
                    .and(trial_part::attempts.ge(MOST_ATTEMPTS)),
            ),
        )
        .set(trial_part::state.eq("given_up"))
        .returning(trial_part::trial_id)
        .get_results(c)?;
        for id in lost {
            close_if_done(c, id)?;
        }
        let row: Option<Row> = diesel::sql_query(
            "UPDATE trial_part SET state = 'claimed', claimed_by = $1, attempts = attempts + 1,
                    claimed_until = now() + make_interval(secs => $2)
             WHERE (trial_id, part) = (
                SELECT p.trial_id, p.part FROM trial_part p JOIN trial t ON t.id = p.trial_id
                WHERE t.state = 'running'
                  AND (p.state = 'waiting' OR (p.state = 'claimed' AND p.claimed_until < now()))
                ORDER BY t.created_at, p.part
                FOR UPDATE OF p SKIP LOCKED LIMIT 1)
             RETURNING trial_id, part, sheets",
        )
        .bind::<sql_types::Uuid, _>(worker)
        .bind::<sql_types::Integer, _>(LEASE_S)
        .get_result(c)
        .optional()?;
        let Some(row) = row else { return Ok(None) };
        let whole = get(c, row.trial_id)?;
        let unread = |e: serde_json::Error| Error::Unforeseen(format!("a stored trial does not read: {e}"));
        Ok(Some(Claim {
            trial: row.trial_id,
            part: row.part,
            goal: serde_json::from_value(whole.goal).map_err(unread)?,
            counts: whole.counts.iter().map(|n| u32::try_from(*n).unwrap_or(1)).collect(),
            families: whole.families,
            sheets: serde_json::from_value(row.sheets).map_err(unread)?,
        }))
    })
}

/// Stores a part's outcomes; one that another worker has taken over meanwhile is passed over (`false`).
///
/// # Errors
/// Those of the database.
pub fn finish(
    connection: &mut PgConnection,
    worker: Uuid,
    claim: &Claim,
    outcomes: &[(usize, Outcome)],
) -> Result<bool, Error> {
    connection.transaction(|c| {
        let mine = diesel::update(
            trial_part::table
                .find((claim.trial, claim.part))
                .filter(trial_part::state.eq("claimed").and(trial_part::claimed_by.eq(worker))),
        )
        .set(trial_part::state.eq("done"))
        .execute(c)?;
        if mine == 0 {
            return Ok(false);
        }
        let mut rows = Vec::with_capacity(outcomes.len());
        for (index, outcome) in outcomes {
            let Some((id, sheet)) = claim.sheets.get(*index) else { continue };
            let count = f64::from(outcome.count);
            let json = |value: serde_json::Result<Value>| value.map_err(|e| Error::Unforeseen(e.to_string()));
            rows.push((
                trial_result::trial_id.eq(claim.trial),
                trial_result::woofer_id.eq(*id),
                trial_result::name.eq(&sheet.name),
                trial_result::maker.eq(&sheet.maker),
                trial_result::count.eq(i32::try_from(outcome.count).unwrap_or(1)),
                trial_result::family.eq(&outcome.family),
                trial_result::verdict.eq(outcome.verdict as i32),
                trial_result::cost_db.eq(outcome.cost_db),
                trial_result::spare_db.eq(outcome.spare_db),
                trial_result::reaches_hz.eq(outcome.reaches_hz),
                trial_result::f3_hz.eq(outcome.f3_hz),
                trial_result::outside_l.eq(outcome.outside_l),
                trial_result::price.eq(sheet.price.map(|p| p * count)),
                trial_result::weight_kg.eq(sheet.weight_kg.map(|w| w * count)),
                trial_result::sheet.eq(json(serde_json::to_value(sheet))?),
                trial_result::outcome.eq(json(serde_json::to_value(outcome))?),
            ));
        }
        diesel::insert_into(trial_result::table).values(&rows).execute(c)?;
        close_if_done(c, claim.trial)?;
        Ok(true)
    })
}

/// Marks a trial as done when nothing of it is open. The trial's row is locked first, so that of two last parts
/// finished at once the later one sees both.
fn close_if_done(connection: &mut PgConnection, id: Uuid) -> Result<(), Error> {
    let _locked: Option<Uuid> = trial::table.find(id).select(trial::id).for_update().first(connection).optional()?;
    let open: i64 = trial_part::table
        .filter(trial_part::trial_id.eq(id).and(trial_part::state.eq_any(["waiting", "claimed"])))
        .count()
        .get_result(connection)?;
    if open == 0 {
        diesel::update(trial::table.find(id))
            .set((trial::state.eq("done"), trial::finished_at.eq(diesel::dsl::now)))
            .execute(connection)?;
    }
    Ok(())
}

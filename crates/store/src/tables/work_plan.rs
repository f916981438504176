//! Work plans: what the workshop keeps beside a revision while it is built. No history; a revision that was never worked on has
//! none, which is version 0.

use crate::error::Error;
use crate::schema::{build, revision, work_plan};
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_document::WorkPlan;
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// The work plan of a revision.
#[derive(Clone, Debug, PartialEq, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = work_plan, check_for_backend(diesel::pg::Pg))]
pub struct WorkPlanRecord {
    /// The revision it belongs to.
    pub revision_id: Uuid,
    /// The plan.
    #[schema(schema_with = crate::openapi::work_plan)]
    pub document: Value,
    /// Version of this record: what a save must name; 0 where nothing was saved.
    pub version: i32,
    /// When it was last saved.
    pub updated_at: DateTime<Utc>,
}

impl WorkPlanRecord {
    /// What the workshop keeps.
    ///
    /// # Errors
    /// [`Error::Unforeseen`] where what is stored does not read.
    pub fn plan(&self) -> Result<WorkPlan, Error> {
        serde_json::from_value(self.document.clone()).map_err(|e| Error::Unforeseen(format!("a work plan: {e}")))
    }
}

fn document(plan: &WorkPlan) -> Result<Value, Error> {
    serde_json::to_value(plan).map_err(|e| Error::Unforeseen(e.to_string()))
}

/// The work plans of some revisions, as far as they have one.
pub(crate) fn of_revisions(connection: &mut PgConnection, revisions: &[Uuid]) -> Result<Vec<WorkPlanRecord>, Error> {
    Ok(work_plan::table
        .filter(work_plan::revision_id.eq_any(revisions))
        .order(work_plan::revision_id)
        .select(WorkPlanRecord::as_select())
        .load(connection)?)
}

/// The work plan of a revision; an empty one of version 0 where nothing was saved.
///
/// # Errors
/// [`Error::NotFound`] for the revision, or those of the database.
pub fn get(connection: &mut PgConnection, revision_id: Uuid) -> Result<WorkPlanRecord, Error> {
    let begun: DateTime<Utc> = revision::table
        .find(revision_id)
        .filter(revision::deleted_at.is_null())
        .select(revision::created_at)
        .first(connection)
        .optional()?
        .ok_or(Error::NotFound("revision"))?;
    let kept = of_revisions(connection, &[revision_id])?.pop();
    Ok(match kept {
        Some(kept) => kept,
        None => {
            WorkPlanRecord { revision_id, document: document(&WorkPlan::default())?, version: 0, updated_at: begun }
        }
    })
}

/// What the clocks of an owner's builds say: of steps that are done, what each took over what it was reckoned at.
///
/// # Errors
/// Those of the database.
pub fn clocks(connection: &mut PgConnection, owner: Uuid) -> Result<Vec<(String, f64)>, Error> {
    let plans: Vec<Value> = work_plan::table
        .inner_join(revision::table.on(revision::id.eq(work_plan::revision_id)))
        .inner_join(build::table.on(build::id.eq(revision::build_id)))
        .filter(build::owner_id.eq(owner).and(build::deleted_at.is_null()).and(revision::deleted_at.is_null()))
        .filter(diesel::dsl::sql::<diesel::sql_types::Bool>("work_plan.document::text LIKE '%\"reckoned_min\"%'"))
        .order(work_plan::updated_at.desc())
        .limit(500)
        .select(work_plan::document)
        .load(connection)?;
    let ratio = |tick: &Value| {
        let number = |name: &str| tick.get(name).and_then(Value::as_f64).filter(|m| *m > 0.0);
        let done = tick.get("done").and_then(Value::as_bool) == Some(true);
        let name = tick.get("step").and_then(Value::as_str)?;
        done.then_some((name.to_owned(), number("minutes")? / number("reckoned_min")?))
    };
    let ticks = plans.iter().filter_map(|p| p.get("steps")?.as_array()).flatten();
    Ok(ticks.filter_map(ratio).collect())
}

/// Saves a work plan that was made from `base_version`.
///
/// # Errors
/// [`Error::Stale`] with what stands when another save came first; [`Error::NotFound`] for the revision; those of the database.
pub fn save(
    connection: &mut PgConnection,
    revision_id: Uuid,
    base_version: i32,
    plan: &WorkPlan,
) -> Result<WorkPlanRecord, Error> {
    connection.transaction(|c| {
        let standing = get(c, revision_id)?;
        let document = document(plan)?;
        let saved: Option<WorkPlanRecord> = if base_version == 0 {
            // of two that begin at once the second finds a row
            diesel::insert_into(work_plan::table)
                .values((work_plan::revision_id.eq(revision_id), work_plan::document.eq(&document)))
                .on_conflict_do_nothing()
                .returning(WorkPlanRecord::as_returning())
                .get_result(c)
                .optional()?
        } else {
            diesel::update(work_plan::table.find(revision_id).filter(work_plan::version.eq(base_version)))
                .set((
                    work_plan::document.eq(&document),
                    work_plan::version.eq(base_version + 1),
                    work_plan::updated_at.eq(diesel::dsl::now),
                ))
                .returning(WorkPlanRecord::as_returning())
                .get_result(c)
                .optional()?
        };
        match saved {
            Some(saved) => Ok(saved),
            None => {
                let now = of_revisions(c, &[revision_id])?.pop().unwrap_or(standing);
                Err(Error::Stale { version: now.version, current: now.document })
            }
        }
    })
}

//! Builds: what a builder works on.

use super::revision::{self, Beside, Revision};
use super::work_plan::{self, WorkPlanRecord};
use crate::error::Error;
use crate::schema::build;
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_document::{Checked, WorkPlan};
use serde::Serialize;
use serde_json::Value;
use std::collections::HashMap;
use utoipa::ToSchema;
use uuid::Uuid;

/// A build without its documents.
#[derive(Clone, Debug, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = build, check_for_backend(diesel::pg::Pg))]
pub struct Build {
    /// Key.
    pub id: Uuid,
    /// Name.
    pub name: String,
    /// Version of this record.
    pub version: i32,
    /// When it was begun.
    pub created_at: DateTime<Utc>,
    /// When it was last saved.
    pub updated_at: DateTime<Utc>,
    /// Words it is sorted by.
    pub tags: Vec<String>,
}

/// A build as the workshop's list shows it.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct BuildSummary {
    /// The build.
    #[serde(flatten)]
    pub build: Build,
    /// Letters of its revisions.
    pub letters: Vec<String>,
    /// Family of its first revision.
    pub family: String,
    /// Woofer of its first revision.
    pub woofer_name: String,
    /// Purpose, from the first revision's brief.
    pub purpose: String,
}

/// A build with its revisions.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct BuildDetail {
    /// The build.
    #[serde(flatten)]
    pub build: Build,
    /// Its revisions by letter.
    pub revisions: Vec<Revision>,
    /// What the workshop keeps beside those that were worked on.
    pub plans: Vec<WorkPlanRecord>,
}

/// Which of an owner's builds are listed.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Shelf {
    /// Those that are worked on.
    Bench,
    /// Those that are put away.
    Away,
}

/// An owner's builds, the oldest first.
///
/// # Errors
/// Those of the database.
pub fn list(connection: &mut PgConnection, owner: Uuid, shelf: Shelf) -> Result<Vec<BuildSummary>, Error> {
    let builds: Vec<Build> = build::table
        .filter(build::owner_id.eq(owner))
        .filter(build::deleted_at.is_null().eq(shelf == Shelf::Bench))
        .order((build::created_at, build::id))
        .select(Build::as_select())
        .load(connection)?;
    let mut told: HashMap<Uuid, Vec<revision::Told>> = HashMap::new();
    for r in revision::told(connection, &builds.iter().map(|b| b.id).collect::<Vec<_>>())? {
        told.entry(r.build_id).or_default().push(r);
    }
    let each = |build: Build| {
        let own = told.remove(&build.id).unwrap_or_default();
        let letters = own.iter().map(|r| r.letter.clone()).collect();
        let first = own.into_iter().next().unwrap_or_default();
        let revision::Told { family, woofer_name, purpose, .. } = first;
        BuildSummary { build, letters, family, woofer_name, purpose: purpose.unwrap_or_default() }
    };
    Ok(builds.into_iter().map(each).collect())
}

/// The design of a build's first revision.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn first_design(connection: &mut PgConnection, id: Uuid) -> Result<Value, Error> {
    let found = revision::of_builds(connection, &[id])?.into_iter().next();
    found.map(|r| r.document).ok_or(Error::NotFound("build"))
}

/// One build with its revisions.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn get(connection: &mut PgConnection, id: Uuid) -> Result<BuildDetail, Error> {
    let build = build::table
        .find(id)
        .filter(build::deleted_at.is_null())
        .select(Build::as_select())
        .first(connection)
        .optional()?
        .ok_or(Error::NotFound("build"))?;
    let revisions = revision::of_builds(connection, &[id])?;
    let plans = work_plan::of_revisions(connection, &revisions.iter().map(|r| r.id).collect::<Vec<_>>())?;
    Ok(BuildDetail { build, revisions, plans })
}

/// A new build with its revisions A, B, C... and what is kept beside them.
///
/// # Errors
/// Those of the database.
pub fn create(
    connection: &mut PgConnection,
    owner: Uuid,
    name: &str,
    revisions: &[(Checked, WorkPlan)],
) -> Result<BuildDetail, Error> {
    connection.transaction(|c| {
        let id = Uuid::now_v7();
        diesel::insert_into(build::table)
            .values((build::id.eq(id), build::owner_id.eq(owner), build::name.eq(name)))
            .execute(c)?;
        for (design, plan) in revisions {
            revision::create(c, id, design, Beside::Plan(plan))?;
        }
        get(c, id)
    })
}

/// Gives a build another name, other tags, or both; what is absent stays.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn change(
    connection: &mut PgConnection,
    id: Uuid,
    name: Option<String>,
    tags: Option<Vec<String>>,
) -> Result<BuildDetail, Error> {
    let named = name.map(|n| build::name.eq(n));
    let tagged = tags.map(|t| build::tags.eq(t));
    let rows = diesel::update(build::table.find(id).filter(build::deleted_at.is_null()))
        .set((named, tagged, build::version.eq(build::version + 1), build::updated_at.eq(diesel::dsl::now)))
        .execute(connection)?;
    if rows == 0 { Err(Error::NotFound("build")) } else { get(connection, id) }
}

/// Marks a build as deleted, or takes the mark back.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_deleted(connection: &mut PgConnection, id: Uuid, deleted: bool) -> Result<(), Error> {
    let mark = deleted.then(Utc::now);
    let rows = diesel::update(build::table.find(id)).set(build::deleted_at.eq(mark)).execute(connection)?;
    if rows == 0 { Err(Error::NotFound("build")) } else { Ok(()) }
}

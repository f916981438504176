//! What routes take out of a request's body.

use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use oak_drum_document::{Checked, Reader, WorkPlan, Workshop};
use serde::Deserialize;
use serde::de::DeserializeOwned;
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::ToSchema;

/// A part of a request, read by its published schema, with its problems at their places.
pub fn part<T: DeserializeOwned + schemars::JsonSchema>(
    reader: &'static OnceLock<Reader>,
    value: Value,
    at: &str,
) -> Result<T, Problem> {
    let reader = reader.get_or_init(|| Reader::new(oak_drum_document::schema::of::<T>()));
    let mut problems = reader.problems(&value);
    for problem in &mut problems {
        problem.pointer = format!("{at}{}", problem.pointer);
    }
    if !problems.is_empty() {
        return Err(Problem::design(&problems));
    }
    serde_json::from_value(value).map_err(|e| Problem::field(at, &e.to_string()))
}

/// Takes a body that is a design to what is worked out about it.
pub async fn about<T: Send + 'static>(
    pool: &Pool,
    question: Question,
    body: Body,
    work: impl FnOnce(&Checked) -> T + Send + 'static,
) -> Result<T, Problem> {
    let design = pool.take(move || design(body.json()?)).await?;
    pool.work(question, design, work).await
}

/// A design and what the workshop keeps beside it.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AtWork {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    document: Value,
    /// What the workshop keeps beside it; nothing where it is absent.
    #[schema(schema_with = crate::schemas::work_plan, required = false)]
    #[serde(default)]
    work: Option<Value>,
    /// What the workshop has; nothing where it is absent.
    #[schema(schema_with = crate::schemas::workshop, required = false)]
    #[serde(default)]
    workshop: Option<Value>,
}

impl AtWork {
    /// The design and what is kept beside it, looked at.
    pub fn read(self) -> Result<(Checked, WorkPlan), Problem> {
        let (design, (work, _)) = self.all()?;
        Ok((design, work))
    }
    /// All of it, looked at.
    pub fn all(self) -> Result<(Checked, (WorkPlan, Workshop)), Problem> {
        let work = self.work.map(work_plan).transpose()?.unwrap_or_default();
        let workshop = self.workshop.map(workshop).transpose()?.unwrap_or_default();
        Ok((design(self.document)?, (work, workshop)))
    }
}

/// What a workshop has, from a request's body.
pub fn workshop(value: Value) -> Result<Workshop, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    part(&READER, value, "/workshop")
}

/// A work plan from a request's body.
pub fn work_plan(value: Value) -> Result<WorkPlan, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let plan: WorkPlan = part(&READER, value, "/work")?;
    let mut faults = plan.faults();
    faults.iter_mut().for_each(|p| p.pointer = format!("/work{}", p.pointer));
    if faults.is_empty() { Ok(plan) } else { Err(Problem::design(&faults)) }
}

/// A design from a request's body.
pub fn design(value: Value) -> Result<Checked, Problem> {
    oak_drum_document::read_value(value).map_err(|problems| Problem::design(&problems))
}

/// A name from a request's body: 1 to 120 characters.
pub fn name(text: &str) -> Result<String, Problem> {
    let text = text.trim();
    if text.is_empty() || text.chars().count() > 120 || text.contains('\0') {
        return Err(Problem::field("/name", "a name of 1 to 120 characters is expected, for example \"Village hall\""));
    }
    Ok(text.to_owned())
}

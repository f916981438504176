//! `oak-drum listening FILE|-`: one question about a listening test in, its answer out; JSON by published schemas.

use super::evaluate::load;
use super::files::print_json;
use anyhow::{Context, Result, anyhow, bail};
use oak_drum_document::Reader;
use oak_drum_listening::question::{Question, answer};
use serde_json::Value;

#[derive(clap::Args)]
pub struct Arguments {
    /// A question (schema listening-question): right answers, scores, votes, trials needed, a balanced order, a level match; - for standard input.
    file: String,
}

pub fn run(arguments: &Arguments) -> Result<()> {
    let file = &arguments.file;
    let value: Value = serde_json::from_str(&load(file)?).with_context(|| format!("{file}: not JSON"))?;
    let problems = Reader::new(oak_drum_document::schema::of::<Question>()).problems(&value);
    if !problems.is_empty() {
        bail!("{file}: {}", problems.iter().map(ToString::to_string).collect::<Vec<_>>().join("\n"));
    }
    let question: Question = serde_json::from_value(value).with_context(|| file.to_owned())?;
    print_json(&answer(&question).map_err(|wrong| anyhow!("{file}: {wrong}"))?)
}

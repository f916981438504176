//! `oak-drum rig DESIGN FILE`: the simulated bench writes the recording a measurement would have given.

use super::compare::Place;
use super::files::write_bytes;
use super::sweep::Sweep;
use crate::commands::evaluate::design;
use anyhow::{Context, Result, anyhow};
use clap::ValueEnum;
use oak_drum_curves::formats::wav::{self, Depth};
use oak_drum_curves::rig::Bench;
use oak_drum_design::prove::as_built::AsBuilt;
use oak_drum_design::prove::bench::{BenchWish, play};
use oak_drum_design::prove::hidden::{Difficulty, drawn, flawed};

#[derive(clap::Args)]
pub struct Arguments {
    /// A design document: the cabinet on the bench is built from it.
    design: String,
    /// Where the recording goes: microphone and loopback, or both inputs of the jig; - for standard output.
    file: String,
    /// Where it is taken.
    #[arg(long, value_enum, default_value_t = Place::Terminals)]
    taken: Place,
    /// Distance of a microphone in front of the box, m.
    #[arg(long, default_value_t = 1.0)]
    distance: f64,
    #[command(flatten)]
    sweep: Sweep,
    /// Seed of noise and of the hidden flaws.
    #[arg(long, default_value_t = 1)]
    seed: u32,
    /// Noise of the inputs, dB re full scale.
    #[arg(long, default_value_t = -80.0, allow_hyphen_values = true)]
    noise: f64,
    /// Hide flaws in the cabinet.
    #[arg(long, value_enum)]
    hidden: Option<Hidden>,
    /// The microphone hears a room.
    #[arg(long)]
    room: bool,
}

#[derive(Clone, Copy, ValueEnum)]
enum Hidden {
    /// One thing, plainly wrong.
    Plain,
    /// Two things.
    Mixed,
    /// Three smaller things.
    Hard,
}

pub fn run(arguments: &Arguments) -> Result<()> {
    let built = AsBuilt::of(&design(&arguments.design)?).context("this design cannot be worked out")?;
    let flaws = match arguments.hidden {
        None => Vec::new(),
        Some(how) => {
            let difficulty = match how {
                Hidden::Plain => Difficulty::Plain,
                Hidden::Mixed => Difficulty::Mixed,
                Hidden::Hard => Difficulty::Hard,
            };
            drawn(&built, arguments.seed, difficulty)
        }
    };
    let cabinet = flawed(&built, &flaws).context("no cabinet can be off by so much")?;
    let wish = BenchWish {
        taken: arguments.taken.taken(arguments.distance),
        sweep: arguments.sweep.read()?,
        bench: Bench { seed: arguments.seed, noise_dbfs: arguments.noise, ..Bench::default() },
        room: arguments.room,
        ..BenchWish::default()
    };
    let recorded = play(&cabinet, &flaws, &wish).map_err(|no| anyhow!("{}: {no}", arguments.design))?;
    write_bytes(&arguments.file, &wav::write(&recorded.recording, Depth::Bits24)?)
}

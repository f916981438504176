//! `oak-drum sweep make|analyse`: a sweep as WAV, a recording of it taken apart.

use super::files::{print_json, recording, write_bytes};
use anyhow::{Result, anyhow, bail};
use clap::Subcommand;
use oak_drum_curves::about::About;
use oak_drum_curves::formats::json::CurveFile;
use oak_drum_curves::formats::wav::{self, Depth, Recording};
use oak_drum_curves::recorded::taken_apart;
use oak_drum_curves::sweep::log_sweep::LogSweep;
use oak_drum_curves::sweep::repeats::MOST_TIMES;
use serde_json::json;

#[derive(clap::Args)]
pub struct Arguments {
    #[command(subcommand)]
    what: What,
}

/// What sweep it is.
#[derive(clap::Args)]
pub struct Sweep {
    /// Where it begins, Hz.
    #[arg(long, default_value_t = 5.0)]
    from: f64,
    /// Where it ends, Hz.
    #[arg(long, default_value_t = 1000.0)]
    to: f64,
    /// How long it is asked to be, s.
    #[arg(long, default_value_t = 6.0)]
    seconds: f64,
    /// 44100, 48000 or 96000 samples a second.
    #[arg(long, default_value_t = 48_000.0)]
    rate: f64,
    /// Amplitude, full scale being 1.
    #[arg(long, default_value_t = 0.5)]
    amplitude: f64,
    /// How many times it is played; what is recorded is averaged.
    #[arg(long, default_value_t = 1)]
    times: u32,
}

impl Sweep {
    /// The sweep, looked at.
    pub fn read(&self) -> Result<LogSweep> {
        let sweep = LogSweep {
            from_hz: self.from,
            to_hz: self.to,
            seconds: self.seconds,
            rate_hz: self.rate,
            amplitude: self.amplitude,
            times: self.times,
            ..LogSweep::default()
        };
        let within = |name: &str, x: f64, from: f64, to: f64| {
            if (from..=to).contains(&x) {
                Ok(())
            } else {
                Err(anyhow!("--{name}: between {from} and {to} is expected"))
            }
        };
        within("from", self.from, 1.0, 2000.0)?;
        within("to", self.to, 20.0, 40_000.0)?;
        within("seconds", self.seconds, 0.5, 60.0)?;
        within("times", f64::from(self.times), 1.0, f64::from(MOST_TIMES))?;
        within("amplitude", self.amplitude, 0.001, 1.0)?;
        if let Some((field, what)) = sweep.problem() {
            bail!("--{}: {what}", field.trim_end_matches("_hz"));
        }
        Ok(sweep)
    }
}

#[derive(Subcommand)]
enum What {
    /// Writes the sweep as WAV, 24 bit.
    Make {
        /// Where to, - for standard output.
        file: String,
        #[command(flatten)]
        sweep: Sweep,
        /// A second channel with the same, for a loopback.
        #[arg(long)]
        stereo: bool,
    },
    /// Takes a recording apart: response, distortion by order, signal over noise.
    Analyse {
        /// The recording, or - for standard input.
        file: String,
        #[command(flatten)]
        sweep: Sweep,
        /// Which channel was measured, from 1.
        #[arg(long, default_value_t = 1)]
        channel: usize,
        /// Which channel is the loopback, from 1.
        #[arg(long)]
        loopback: Option<usize>,
    },
}

pub fn run(arguments: &Arguments) -> Result<()> {
    match &arguments.what {
        What::Make { file, sweep, stereo } => {
            let sweep = sweep.read()?;
            let played = sweep.played();
            let channels = if *stereo { vec![played.clone(), played] } else { vec![played] };
            write_bytes(file, &wav::write(&Recording { rate: sweep.rate_hz, channels }, Depth::Bits24)?)
        }
        What::Analyse { file, sweep, channel, loopback } => {
            let sweep = sweep.read()?;
            let recorded = recording(file)?;
            let from_one = |n: usize| n.checked_sub(1).ok_or_else(|| anyhow!("channels are counted from 1"));
            let (channel, loopback) = (from_one(*channel)?, loopback.map(from_one).transpose()?);
            let taken = taken_apart(&sweep, &recorded, channel, loopback).map_err(|no| anyhow!("{file}: {no}"))?;
            let found = taken.found;
            print_json(&json!({
                "curve": CurveFile::of(&found.curve, About { name: file.clone(), ..About::default() }),
                "harmonics": found.harmonics, "buzz": taken.buzzes, "peak_dbfs": found.peak_dbfs,
                "arrival_ms": found.impulse.arrival() * 1e3,
            }))
        }
    }
}

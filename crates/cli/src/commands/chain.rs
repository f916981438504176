//! `oak-drum chain response|biquads|protect|flatten FILE|-`

use crate::commands::evaluate::{design, load};
use anyhow::{Context, Result, bail, ensure};
use clap::{Subcommand, ValueEnum};
use oak_drum_acoustics::filters::slope::Slope;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::drive::biquads::{Feedback, biquads};
use oak_drum_design::drive::flattening::{FlattenWish, HeardAt, Target, flattened, flattened_curve};
use oak_drum_design::drive::low_cut::{low_cut, low_cut_of};
use oak_drum_document::Stage;
use serde::Serialize;
use serde_json::json;

#[derive(clap::Args)]
pub struct Arguments {
    #[command(subcommand)]
    what: What,
}

#[derive(Subcommand)]
enum What {
    /// Response of the filters, group delay, voltage, power and heat, over frequency.
    Response {
        /// A design document, or - for standard input.
        file: String,
        /// Frequencies in Hz, separated by commas.
        #[arg(long, value_delimiter = ',', value_name = "HZ,HZ,...")]
        frequencies: Option<Vec<f64>>,
        /// Print CSV, one row a frequency, instead of JSON.
        #[arg(long)]
        csv: bool,
    },
    /// The filters as biquads at a sampling rate (see `schema biquads`).
    Biquads {
        /// A design document, or - for standard input.
        file: String,
        /// 44100, 48000 or 96000 Hz.
        #[arg(long, default_value_t = 48_000.0)]
        rate: f64,
        /// What is printed.
        #[arg(long, value_enum, default_value_t = Format::Json)]
        format: Format,
        /// Write a1 and a2 to be added instead of taken off.
        #[arg(long)]
        added: bool,
    },
    /// The lowest corner of a low cut that keeps cone, radiators and air within their limits at full power.
    Protect {
        /// A design document, or - for standard input.
        file: String,
        /// A shape, in place of those the amplifier has.
        #[arg(long, value_enum, requires = "order")]
        shape: Option<Shape>,
        /// Its order.
        #[arg(long, requires = "shape")]
        order: Option<u32>,
    },
    /// Bands that bring a level near flat, cuts preferred: of a design, or of a curve.
    Flatten {
        /// A design document, a curve with --curve, or - for standard input.
        file: String,
        /// The file is a curve: a frequency in Hz and a level in dB on each line, and what else stands there is left alone.
        #[arg(long)]
        curve: bool,
        /// How many bands.
        #[arg(long, default_value_t = 1)]
        bands: u32,
        /// Where the band begins, Hz.
        #[arg(long, default_value_t = 25.0)]
        from: f64,
        /// Where it ends, Hz.
        #[arg(long, default_value_t = 120.0)]
        to: f64,
        /// The bands are the amplifier's own.
        #[arg(long, conflicts_with = "curve")]
        amplifier: bool,
        /// The level at the seats of the design's room: only what stands out at every one is cut.
        #[arg(long)]
        seats: bool,
    },
}

#[derive(Clone, Copy, ValueEnum)]
enum Format {
    /// JSON.
    Json,
    /// Comma-separated values.
    Csv,
    /// Plain text.
    Text,
}

#[derive(Clone, Copy, ValueEnum)]
enum Shape {
    /// Butterworth, order 1 to 8.
    Butterworth,
    /// Bessel, order 1 to 8.
    Bessel,
    /// Linkwitz-Riley, order 2, 4 or 8.
    LinkwitzRiley,
}

pub fn run(arguments: &Arguments) -> Result<()> {
    match &arguments.what {
        What::Response { file, frequencies, csv } => response(file, frequencies.as_deref(), *csv),
        What::Biquads { file, rate, format, added } => {
            let feedback = if *added { Feedback::Added } else { Feedback::Subtracted };
            let stages = [Stage::Player, Stage::Line, Stage::Amplifier];
            let made = biquads(&design(file)?, &stages, *rate, feedback)?;
            match format {
                Format::Json => print(&made),
                Format::Csv => crate::output::print(&made.csv()),
                Format::Text => crate::output::print(&made.text()),
            }
        }
        What::Protect { file, shape, order } => {
            let analysis = Analysis::of(&design(file)?);
            let found = match shape.zip(*order) {
                None => low_cut(&analysis),
                Some((shape, order)) => low_cut_of(&analysis, Some(&[slope(shape, order)?])),
            };
            print(
                &found
                    .with_context(|| format!("{file}: nothing is tuned, or neither Xmax nor a radiator's is stated"))?,
            )
        }
        What::Flatten { file, curve, bands, from, to, amplifier, seats } => {
            ensure!((1..=12).contains(bands), "--bands: from 1 to 12 are expected");
            ensure!((5.0..=500.0).contains(from), "--from: between 5 and 500 Hz is expected");
            ensure!((10.0..=2000.0).contains(to), "--to: between 10 and 2000 Hz is expected");
            let stage = if *amplifier { Stage::Amplifier } else { Stage::Line };
            let target = Target::Flat {};
            let heard = if *seats { HeardAt::Seats } else { HeardAt::Open };
            ensure!(!(*seats && *curve), "--seats: a curve stands in no room");
            let wish = FlattenWish { bands: *bands, from_hz: *from, to_hz: *to, target, stage, heard };
            let found = if *curve {
                let (hz, level) = read_curve(&load(file)?).with_context(|| file.clone())?;
                flattened_curve(&hz, &level, &wish)
            } else {
                flattened(&design(file)?, &wish)
            };
            print(
                &found
                    .map_err(|no| anyhow::anyhow!("{}: {}", no.pointer.trim_start_matches('/'), no.message.metric()))?,
            )
        }
    }
}

fn print(value: &impl Serialize) -> Result<()> {
    let json = serde_json::to_string_pretty(value).context("cannot be written")?;
    crate::output::print(&format!("{json}\n"))
}

fn slope(shape: Shape, order: u32) -> Result<Slope> {
    let (slope, most) = match shape {
        Shape::Butterworth => (Slope::Butterworth { order }, 8),
        Shape::Bessel => (Slope::Bessel { order }, 8),
        Shape::LinkwitzRiley => (Slope::LinkwitzRiley { order }, 8),
    };
    ensure!((1..=most).contains(&order), "--order: from 1 to {most} is expected");
    if let Some(wrong) = slope.problem() {
        bail!("--order: {wrong}");
    }
    Ok(slope)
}

fn response(file: &str, frequencies: Option<&[f64]>, csv: bool) -> Result<()> {
    let mut design = design(file)?;
    if let Some(list) = frequencies {
        ensure!(list.iter().all(|f| (0.01..=20_000.0).contains(f)), "--frequencies: 0.01 to 20000 Hz are expected");
        design = design.at(list.to_vec());
    }
    let source = design.chain.source(1.0);
    let c = oak_drum_design::outline(&design).curves;
    let own: Vec<_> = c.frequency_hz.iter().map(|f| source.filters.at(*f)).collect();
    let delay: Vec<f64> = c.frequency_hz.iter().map(|f| source.filters.group_delay(*f) * 1e3).collect();
    let columns: Vec<(&str, Vec<f64>)> = vec![
        ("frequency_hz", c.frequency_hz.clone()),
        ("filter_db", own.iter().map(|h| 20.0 * h.norm().log10()).collect()),
        ("filter_phase_deg", own.iter().map(|h| h.arg().to_degrees()).collect()),
        ("filter_delay_ms", delay),
        ("emf_v", c.emf_v),
        ("terminal_v", c.terminal_v),
        ("amplifier_a", c.amplifier_a),
        ("real_power_w", c.real_power_w),
        ("apparent_power_va", c.apparent_power_va),
        ("coil_heat_w", c.coil_heat_w),
    ];
    if !csv {
        let object: serde_json::Map<String, serde_json::Value> =
            columns.into_iter().map(|(name, list)| (name.to_owned(), json!(list))).collect();
        return print(&object);
    }
    let mut text = columns.iter().map(|c| c.0).collect::<Vec<_>>().join(",") + "\n";
    for i in 0..columns[0].1.len() {
        text += &(columns.iter().map(|c| c.1[i].to_string()).collect::<Vec<_>>().join(",") + "\n");
    }
    crate::output::print(&text)
}

/// A frequency (Hz) and a level (dB) on each line, in columns divided by commas, semicolons, tabs or spaces; lines that begin with no
/// number are left out.
fn read_curve(text: &str) -> Result<(Vec<f64>, Vec<f64>)> {
    let (mut hz, mut level) = (Vec::new(), Vec::new());
    for (number, line) in text.lines().enumerate() {
        let mut columns = line.split([',', ';', '\t', ' ']).filter(|c| !c.is_empty());
        let Some(Ok(f)) = columns.next().map(str::parse::<f64>) else { continue };
        let Some(Ok(db)) = columns.next().map(str::parse::<f64>) else {
            bail!("line {}: a level in dB is expected behind the frequency", number + 1);
        };
        ensure!(f > 0.0 && f.is_finite() && db.is_finite(), "line {}: not a frequency with a level", number + 1);
        ensure!(hz.last().is_none_or(|last| f > *last), "line {}: frequencies have to rise", number + 1);
        hz.push(f);
        level.push(db);
    }
    ensure!(hz.len() > 1, "two lines at least with a frequency and a level are expected");
    Ok((hz, level))
}

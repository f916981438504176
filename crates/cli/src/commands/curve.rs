//! `oak-drum curve FILE|-`: reads a curve, treats it, writes it.

use super::files::{bytes, curve, print_json};
use anyhow::{Context, Result, ensure};
use clap::ValueEnum;
use oak_drum_curves::about::About;
use oak_drum_curves::curve::Curve;
use oak_drum_curves::formats::{calibration, json, text};
use oak_drum_curves::process::near_field::{Radiating, far_field, sum};
use oak_drum_curves::process::recipe::{Data, RecipeStep, cook};
use oak_drum_curves::process::splice::splice;

#[derive(clap::Args)]
pub struct Arguments {
    /// A curve: text in columns, CSV, or this program's JSON; - for standard input.
    file: String,
    /// Say how the file was read, as JSON, instead of writing the curve.
    #[arg(long)]
    how: bool,
    /// Keep only from this frequency, Hz.
    #[arg(long)]
    from: Option<f64>,
    /// Keep only up to this frequency, Hz.
    #[arg(long)]
    to: Option<f64>,
    /// Take a microphone's deviation off: its file.
    #[arg(long, value_name = "FILE")]
    calibration: Option<String>,
    /// Move it, dB.
    #[arg(long, value_name = "DB", allow_hyphen_values = true)]
    offset: Option<f64>,
    /// Smooth it over one part of an octave in 1, 3, 6, 12, 24 or 48.
    #[arg(long, value_name = "PARTS")]
    smooth: Option<u32>,
    /// Give it the phase of a minimum-phase system.
    #[arg(long)]
    minimum_phase: bool,
    /// A port's near field to be added to this one, a cone's; both want areas and phases.
    #[arg(long, value_name = "FILE", requires = "cone_cm2", requires = "port_cm2")]
    port: Option<String>,
    /// Area of one cone, cm².
    #[arg(long)]
    cone_cm2: Option<f64>,
    /// Area of one port, cm².
    #[arg(long)]
    port_cm2: Option<f64>,
    /// How many equal ports there are.
    #[arg(long, default_value_t = 1)]
    ports: u32,
    /// Tell the near field as half-space far field at this distance, m.
    #[arg(long, value_name = "M", requires = "cone_cm2")]
    far_at: Option<f64>,
    /// A far field that goes on above.
    #[arg(long, value_name = "FILE", requires = "splice_at")]
    splice: Option<String>,
    /// Where the far field takes over, Hz.
    #[arg(long, value_name = "HZ")]
    splice_at: Option<f64>,
    /// How it is written.
    #[arg(long, value_enum, default_value_t = Format::Text)]
    format: Format,
}

#[derive(Clone, Copy, ValueEnum)]
enum Format {
    /// Three columns.
    Text,
    /// CSV with a header.
    Csv,
    /// JSON (see `schema curve`).
    Json,
}

pub fn run(arguments: &Arguments) -> Result<()> {
    if arguments.how {
        let read = text::read(&bytes(&arguments.file)?, None).with_context(|| arguments.file.clone())?;
        return print_json(&serde_json::json!({
            "reading": read.reading, "reasons": read.reasons, "names": read.names, "rows": read.rows,
            "warnings": read.warnings, "points": read.curve.len(),
        }));
    }
    let (mut made, about) = curve(&arguments.file)?;
    if let Some(file) = &arguments.port {
        let (port, _) = curve(file)?;
        let (cone_area, port_area) =
            (arguments.cone_cm2.unwrap_or(0.0) * 1e-4, arguments.port_cm2.unwrap_or(0.0) * 1e-4);
        ensure!(cone_area > 0.0 && port_area > 0.0, "--cone-cm2, --port-cm2: areas above 0 are expected");
        let parts = [
            Radiating { curve: &made, area: cone_area, count: 1 },
            Radiating { curve: &port, area: port_area, count: arguments.ports },
        ];
        made = sum(&parts, cone_area).context("both curves need a phase to be added")?;
    }
    if let Some(distance) = arguments.far_at {
        ensure!(distance > 0.0, "--far-at: a distance above 0 is expected");
        made = far_field(&made, arguments.cone_cm2.unwrap_or(0.0) * 1e-4, distance);
    }
    if let (Some(file), Some(at)) = (&arguments.splice, arguments.splice_at) {
        let (far, _) = curve(file)?;
        let joined =
            splice(&made, &far, at).with_context(|| format!("the two have no whole octave in common about {at} Hz"))?;
        made = joined.curve;
    }
    let made = cook(&Data::Points(made), &arguments.steps()?)?.curve;
    ensure!(made.len() > 1, "nothing is left of the curve");
    write(&made, about, arguments.format)
}

impl Arguments {
    fn steps(&self) -> Result<Vec<RecipeStep>> {
        let mut list = Vec::new();
        if let Some(file) = &self.calibration {
            let read = calibration::read(&bytes(file)?).with_context(|| file.clone())?;
            list.push(RecipeStep::calibration(file, &read));
        }
        if self.from.is_some() || self.to.is_some() {
            list.push(RecipeStep::Trim { from_hz: self.from.unwrap_or(0.1), to_hz: self.to.unwrap_or(1e5) });
        }
        list.extend(self.offset.map(|db| RecipeStep::Offset { db }));
        list.extend(self.minimum_phase.then_some(RecipeStep::MinimumPhase {}));
        list.extend(self.smooth.map(|per_octave| RecipeStep::Smooth { per_octave }));
        Ok(list)
    }
}

fn write(curve: &Curve, about: About, format: Format) -> Result<()> {
    crate::output::print(&match format {
        Format::Text => text::write(curve, &about.name),
        Format::Csv => text::write_csv(curve),
        Format::Json => json::write(&json::CurveFile::of(curve, about)),
    })
}

//! Files of curves and recordings, for the commands that read them.

use anyhow::{Context, Result, bail};
use oak_drum_curves::about::About;
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::formats::wav::{self, Recording};
use oak_drum_curves::formats::{json, text};
use serde::Serialize;
use std::io::Read;

/// Largest file, bytes: a million points, five minutes of a recording.
const LARGEST: u64 = 256 << 20;

/// The bytes of a file, or of standard input.
pub fn bytes(file: &str) -> Result<Vec<u8>> {
    let mut bytes = Vec::new();
    let read = if file == "-" {
        std::io::stdin().take(LARGEST + 1).read_to_end(&mut bytes)
    } else {
        std::fs::File::open(file).and_then(|f| f.take(LARGEST + 1).read_to_end(&mut bytes))
    };
    match read {
        Err(error) => Err(error).with_context(|| file.to_owned()),
        Ok(n) if n as u64 > LARGEST => bail!("{file}: larger than {} MB", LARGEST >> 20),
        Ok(_) => Ok(bytes),
    }
}

/// A curve from a file with what is known about it.
pub fn curve(file: &str) -> Result<(Curve, About)> {
    let bytes = bytes(file)?;
    if bytes.trim_ascii_start().starts_with(b"{") {
        let read = json::read(&bytes).with_context(|| file.to_owned())?;
        return Ok((read.curve(), read.about));
    }
    let read = text::read(&bytes, None).with_context(|| file.to_owned())?;
    Ok((read.curve, About::default()))
}

/// An impedance from a file.
pub fn impedance(file: &str) -> Result<Curve> {
    let (curve, _) = curve(file)?;
    if curve.quantity == Measurand::Impedance {
        return Ok(curve);
    }
    // a file without a header may have been taken for levels
    let read = text::read(&bytes(file)?, None).with_context(|| file.to_owned())?;
    let told = text::ColumnReading { unit: text::MagnitudeUnit::Ohm, ..read.reading };
    let again = text::read(&bytes(file)?, Some(&told)).with_context(|| format!("{file}: no impedance"))?;
    Ok(again.curve)
}

/// A recording from a file.
pub fn recording(file: &str) -> Result<Recording> {
    wav::read(&bytes(file)?).with_context(|| file.to_owned())
}

/// Prints a value as JSON.
pub fn print_json(value: &impl Serialize) -> Result<()> {
    let json = serde_json::to_string_pretty(value).context("cannot be written")?;
    crate::output::print(&format!("{json}\n"))
}

/// Writes bytes to a file, or to standard output.
pub fn write_bytes(file: &str, bytes: &[u8]) -> Result<()> {
    use std::io::Write;
    if file == "-" {
        return std::io::stdout().write_all(bytes).context("standard output");
    }
    std::fs::write(file, bytes).with_context(|| file.to_owned())
}

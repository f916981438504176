//! A chain's filters for a digital equaliser: biquads at a rate, as JSON, CSV or plain text, and as an impulse response.

use crate::drive::power::decibels;
use oak_drum_acoustics::filters::Cascade;
use oak_drum_acoustics::filters::digital::{Biquad, RATES, response};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_document::{ChainFilter, Checked, Stage};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::fmt::Write;

/// How a1 and a2 are written.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Feedback {
    /// They are taken off: y = b0·x + b1·x₁ + b2·x₂ - a1·y₁ - a2·y₂.
    #[default]
    Subtracted,
    /// They are added, so that their signs are the other way: y = b0·x + b1·x₁ + b2·x₂ + a1·y₁ + a2·y₂.
    Added,
}

impl Feedback {
    /// In words, for the head of a file.
    pub fn in_words(self) -> &'static str {
        match self {
            Feedback::Subtracted => "a1 and a2 are taken off: y = b0 x + b1 x1 + b2 x2 - a1 y1 - a2 y2",
            Feedback::Added => "a1 and a2 are added, their signs turned: y = b0 x + b1 x1 + b2 x2 + a1 y1 + a2 y2",
        }
    }
}

/// Biquads of a chain.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(title = "Oak Drum biquads")]
pub struct Biquads {
    /// Always `oak-drum-biquads`.
    #[schemars(extend("const" = FORMAT))]
    pub format: String,
    /// Version of this format.
    #[schemars(extend("const" = 1))]
    pub version: u32,
    /// Sampling rate, Hz.
    pub rate_hz: f64,
    /// How a1 and a2 are written.
    pub feedback: Feedback,
    /// The same in words.
    pub convention: String,
    /// A factor before all of them; negative where the polarity is turned.
    pub gain: f64,
    /// Delay, samples of this rate (not whole).
    pub delay_samples: f64,
    /// Most that the sampled filters differ from the analog ones from 10 to 500 Hz, dB: the bilinear transform moves frequencies, and
    /// is no fault of the design.
    pub off_analog_db: f64,
    /// Most that coefficients held as 32-bit floats change from 10 to 500 Hz, dB: the poles crowd near z = 1 at low frequencies.
    pub off_in_floats_db: f64,
    /// The sections in their order.
    pub sections: Vec<NamedBiquad>,
}

/// A section with the filter it belongs to.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct NamedBiquad {
    /// What the filter is called.
    pub filter: String,
    /// Its coefficients.
    #[serde(flatten)]
    pub biquad: Biquad,
}

const FORMAT: &str = "oak-drum-biquads";

/// Why there are none.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum NoBiquads {
    /// A filter that is not below half the rate.
    #[error("{filter} at {hz:.0} Hz is not below half of {rate:.0} Hz")]
    AboveHalf {
        /// Which filter of the document, counted from 0.
        index: usize,
        /// What it is called.
        filter: String,
        /// Its frequency, Hz.
        hz: f64,
        /// The rate, Hz.
        rate: f64,
    },
    /// No such rate.
    #[error("biquads are made for 44100, 48000 and 96000 Hz, not for {0} Hz")]
    Rate(f64),
}

fn called(f: &ChainFilter) -> String {
    if f.name.is_empty() { f.filter.info().title.to_owned() } else { f.name.clone() }
}

/// The filters at some stages of a design that are on, as biquads at a rate (Hz).
///
/// # Errors
/// A rate there is not, or a filter at half of it or above.
pub fn biquads(design: &Checked, stages: &[Stage], rate: f64, feedback: Feedback) -> Result<Biquads, NoBiquads> {
    if !RATES.contains(&rate) {
        return Err(NoBiquads::Rate(rate));
    }
    let on = design.chain.filters.iter().enumerate().filter(|(_, f)| !f.off && stages.contains(&f.stage));
    let filters: Vec<(usize, &ChainFilter)> = on.collect();
    let cascade = Cascade::of(filters.iter().map(|(_, f)| &f.filter));
    let mut sections = Vec::new();
    let mut plain = Vec::new();
    for (index, f) in filters {
        for section in f.filter.sections() {
            let Some(mut biquad) = Biquad::of(&section, rate) else {
                let hz = section.omega / std::f64::consts::TAU;
                return Err(NoBiquads::AboveHalf { index, filter: called(f), hz, rate });
            };
            plain.push(biquad);
            if feedback == Feedback::Added {
                (biquad.a1, biquad.a2) = (-biquad.a1, -biquad.a2);
            }
            sections.push(NamedBiquad { filter: called(f), biquad });
        }
    }
    let analog = cascade.clone().bare();
    let coarse: Vec<Biquad> = plain.iter().map(Biquad::in_floats).collect();
    let most = |off: &dyn Fn(f64) -> f64| {
        log_frequencies(10.0, 500.0, 60).into_iter().map(|f| off(f).abs()).fold(0.0, f64::max)
    };
    let level = |biquads: &[Biquad], f: f64| decibels(response(biquads, f, rate).norm());
    Ok(Biquads {
        off_analog_db: most(&|f| level(&plain, f) - decibels(analog.at(f).norm())),
        off_in_floats_db: most(&|f| level(&coarse, f) - level(&plain, f)),
        format: FORMAT.into(),
        version: 1,
        rate_hz: rate,
        feedback,
        convention: feedback.in_words().into(),
        gain: cascade.factor,
        delay_samples: cascade.delay * rate,
        sections,
    })
}

/// A number with the figures a double has.
fn exact(x: f64) -> String {
    format!("{x:.17e}")
}

impl Biquads {
    /// As CSV, the conventions in comment lines.
    pub fn csv(&self) -> String {
        let mut text = format!(
            "# {} Hz; {}; gain {}; delay {} samples\nfilter,b0,b1,b2,a1,a2\n",
            self.rate_hz,
            self.convention,
            exact(self.gain),
            self.delay_samples
        );
        for NamedBiquad { filter, biquad: b } in &self.sections {
            let quoted = filter.replace('"', "\"\"");
            let row = [b.b0, b.b1, b.b2, b.a1, b.a2].map(exact).join(",");
            let _ = writeln!(text, "\"{quoted}\",{row}");
        }
        text
    }

    /// As plain text, one coefficient a line.
    pub fn text(&self) -> String {
        let mut text = format!("{} Hz\n{}\n", self.rate_hz, self.convention);
        let _ = writeln!(text, "gain {}\ndelay {} samples", exact(self.gain), self.delay_samples);
        for (i, NamedBiquad { filter, biquad: b }) in self.sections.iter().enumerate() {
            let _ = writeln!(text, "\nsection {}, {filter}", i + 1);
            for (name, value) in [("b0", b.b0), ("b1", b.b1), ("b2", b.b2), ("a1", b.a1), ("a2", b.a2)] {
                let _ = writeln!(text, "{name} {}", exact(value));
            }
        }
        text
    }

    /// The impulse response as a WAV of 32-bit floats, one channel.
    ///
    /// # Errors
    /// Where it cannot be written.
    pub fn wav(&self, samples: usize) -> Result<Vec<u8>, hound::Error> {
        let spec = hound::WavSpec {
            channels: 1,
            sample_rate: self.rate_hz as u32,
            bits_per_sample: 32,
            sample_format: hound::SampleFormat::Float,
        };
        let mut bytes = std::io::Cursor::new(Vec::new());
        let mut writer = hound::WavWriter::new(&mut bytes, spec)?;
        for sample in self.impulse(samples) {
            writer.write_sample(sample as f32)?;
        }
        writer.finalize()?;
        Ok(bytes.into_inner())
    }

    /// The impulse response, so many samples: what the sections make of one sample of 1, delayed by whole samples.
    pub fn impulse(&self, samples: usize) -> Vec<f64> {
        let sign = if self.feedback == Feedback::Added { -1.0 } else { 1.0 };
        let mut x = vec![0.0; samples];
        if let Some(first) = x.get_mut(self.delay_samples.round() as usize) {
            *first = self.gain;
        }
        for NamedBiquad { biquad: b, .. } in &self.sections {
            // the transposed second direct form: two memories a section
            let (mut one, mut two) = (0.0, 0.0);
            for sample in &mut x {
                let y = b.b0 * *sample + one;
                one = b.b1 * *sample - sign * b.a1 * y + two;
                two = b.b2 * *sample - sign * b.a2 * y;
                *sample = y;
            }
        }
        x
    }
}

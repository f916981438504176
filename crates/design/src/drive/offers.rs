//! What an amplifier has of what is asked of it.

use oak_drum_acoustics::amplifier::{Amplifier, Pass};
use oak_drum_acoustics::filters::Filter;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What one field of a filter may be in an amplifier.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FieldRange {
    /// The field, as a place in the filter.
    pub field: String,
    /// Least.
    pub from: f64,
    /// Most.
    pub to: f64,
    /// Unit; empty for a plain number.
    pub unit: String,
}

impl FieldRange {
    fn new(field: &str, from: f64, to: f64, unit: &str) -> FieldRange {
        FieldRange { field: field.into(), from, to, unit: unit.into() }
    }
}

/// What an amplifier has of a kind of filter: ranges of its fields; `None` where it has no such filter.
pub fn ranges(amplifier: &Amplifier, filter: &Filter) -> Option<Vec<FieldRange>> {
    let pass =
        |pass: &Option<Pass>| pass.as_ref().map(|p| vec![FieldRange::new("/frequency_hz", p.from_hz, p.to_hz, "Hz")]);
    match filter {
        Filter::Band(_) => amplifier.equaliser.map(|e| {
            vec![
                FieldRange::new("/frequency_hz", e.from_hz, e.to_hz, "Hz"),
                FieldRange::new("/level_db", e.lowest_db, e.highest_db, "dB"),
                FieldRange::new("/q", e.from_q, e.to_q, ""),
            ]
        }),
        Filter::HighPass(_) => pass(&amplifier.low_cut),
        Filter::LowPass(_) => pass(&amplifier.low_pass),
        Filter::Delay(_) => amplifier.longest_delay_ms.map(|t| vec![FieldRange::new("/delay_ms", 0.0, t, "ms")]),
        Filter::Polarity(_) => amplifier.polarity.then(Vec::new),
        // every amplifier can be turned up and down
        Filter::Gain(_) => Some(Vec::new()),
        _ => None,
    }
}

/// What of a filter an amplifier has not.
#[derive(Clone, Debug, PartialEq)]
pub enum Lack {
    /// No such filter.
    Kind,
    /// No such shape of a pass.
    Slope,
    /// A field beyond its range, and its value.
    Beyond(FieldRange, f64),
}

/// What of a filter an amplifier has not; `None` where it has it.
pub fn lack(amplifier: &Amplifier, filter: &Filter) -> Option<Lack> {
    let Some(ranges) = ranges(amplifier, filter) else { return Some(Lack::Kind) };
    let slopes = match filter {
        Filter::HighPass(f) => amplifier.low_cut.as_ref().map(|p| (&p.slopes, f.slope)),
        Filter::LowPass(f) => amplifier.low_pass.as_ref().map(|p| (&p.slopes, f.slope)),
        _ => None,
    };
    if slopes.is_some_and(|(has, asked)| !has.contains(&asked)) {
        return Some(Lack::Slope);
    }
    let written = serde_json::to_value(filter).unwrap_or_default();
    ranges.into_iter().find_map(|range| {
        let value = written.pointer(&range.field)?.as_f64()?;
        let margin = 1e-9 * range.from.abs().max(range.to.abs());
        let within = (range.from - margin..=range.to + margin).contains(&value);
        (!within).then_some(Lack::Beyond(range, value))
    })
}

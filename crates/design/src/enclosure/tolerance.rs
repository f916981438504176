//! How far level and tuning move when the figures of a design are off by their tolerance.
//!
//! The box is taken as built: a port that is given by its tuning keeps the length that follows, so that its tuning moves
//! with the box. Every figure is moved on its own within its tolerance, all of them at once and evenly spread, by a
//! sequence without chance (additive recurrence on the roots of x^(d+1) = x + 1; Roberts 2018, from memory), so that the
//! same design has the same band.

use crate::analysis::Analysis;
use oak_drum_acoustics::driver::{Array, Resolved, ThieleSmall};
use oak_drum_acoustics::families::{Context, Enclosure};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::{Reference, Sweep};
use oak_drum_document::Checked;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// Tolerances, per cent either way.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Tolerances")]
pub struct Tolerances {
    /// Of fs.
    #[schemars(title = "fs", range(min = 0.0, max = 50.0))]
    pub fs_percent: f64,
    /// Of Qts (Qes and Qms alike).
    #[schemars(title = "Qts", range(min = 0.0, max = 50.0))]
    pub qts_percent: f64,
    /// Of Vas.
    #[schemars(title = "Vas", range(min = 0.0, max = 50.0))]
    pub vas_percent: f64,
    /// Of volumes and of a line's or horn's length.
    #[schemars(title = "Box", range(min = 0.0, max = 50.0))]
    pub box_percent: f64,
    /// Of what the fill does: its flow resistivity, its packing, its plain factor above 1.
    #[schemars(title = "Fill", range(min = 0.0, max = 50.0))]
    pub fill_percent: f64,
}

impl Default for Tolerances {
    fn default() -> Self {
        Tolerances { fs_percent: 10.0, qts_percent: 10.0, vas_percent: 10.0, box_percent: 3.0, fill_percent: 20.0 }
    }
}

/// The band a design may lie in.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Band {
    /// How many variants were computed.
    pub samples: u32,
    /// Frequencies, Hz.
    pub frequency_hz: Vec<f64>,
    /// Level that 5 % of the variants lie under, dB.
    pub low_db: Vec<f64>,
    /// Level that 5 % of the variants lie over, dB.
    pub high_db: Vec<f64>,
    /// The family's most telling figure: its name.
    pub figure: String,
    /// Its unit.
    pub unit: String,
    /// Its value from the 5th to the 95th of a hundred variants.
    pub figure_range: [f64; 2],
    /// f3 from the 5th to the 95th of a hundred variants, Hz; absent where some have none.
    pub f3_range_hz: Option<[f64; 2]>,
}

/// Variants computed.
const SAMPLES: u32 = 200;
/// Frequencies of the band.
const POINTS: usize = 120;
/// How many figures move.
const FIGURES: usize = 5;

/// The share from 0 to 1 of figure `k` in variant `i`.
fn spread(i: u32, k: usize) -> f64 {
    // the positive root of x^6 = x + 1
    let mut root: f64 = 1.2;
    for _ in 0..60 {
        root = (1.0 + root).powf(1.0 / (FIGURES as f64 + 1.0));
    }
    (0.5 + f64::from(i) * root.powi(-(k as i32 + 1))).fract()
}

/// Scales what a tolerance is about, wherever it stands in an enclosure's document.
fn scale(value: &mut Value, boxes: f64, fill: f64) {
    let Value::Object(object) = value else {
        if let Value::Array(list) = value {
            list.iter_mut().for_each(|v| scale(v, boxes, fill));
        }
        return;
    };
    for (name, entry) in object {
        // a port is made as drawn; its length is no tolerance of the box
        if name.ends_with("port") || name == "sizing" {
            continue;
        }
        match (name.as_str(), entry.as_f64()) {
            ("net_volume_l" | "rear_volume_l" | "front_volume_l" | "length_mm", Some(x)) => *entry = (x * boxes).into(),
            ("flow_resistivity_pa_s_per_m2" | "density_kg_per_m3", Some(x)) => *entry = (x * fill).into(),
            ("factor", Some(x)) => *entry = (1.0 + (x - 1.0) * fill).into(),
            (
                "woofer_at_mm" | "inner_tap_mm" | "outer_tap_mm" | "at_mm" | "from_mm" | "to_mm" | "step_at_mm",
                Some(x),
            ) => {
                *entry = (x * boxes).into();
            }
            _ => scale(entry, boxes, fill),
        }
    }
}

/// The 5th and 95th of a hundred of a list.
fn percentiles(list: &mut [f64]) -> [f64; 2] {
    list.sort_by(f64::total_cmp);
    let at = |share: f64| list[((list.len() - 1) as f64 * share).round() as usize];
    [at(0.05), at(0.95)]
}

/// The band of a design.
pub fn tolerance(design: &Checked, tolerances: &Tolerances) -> Band {
    let nominal = Analysis::of(design);
    let mut document = serde_json::to_value(&nominal.enclosure).unwrap_or_default();
    for port in &nominal.wired.ports {
        if let Some(sizing) = document.pointer_mut(&format!("{}/sizing", port.pointer)) {
            *sizing = serde_json::json!({"by": "length", "length_mm": port.realised.length.max(1e-3) * 1e3});
        }
    }
    let frequency_hz = log_frequencies(10.0, 400.0, POINTS);
    let mut levels: Vec<Vec<f64>> = vec![Vec::new(); POINTS];
    let (mut figures, mut edges) = (Vec::new(), Vec::new());
    let ts = nominal.woofer.ts;
    for i in 0..SAMPLES {
        let off = |k: usize, percent: f64| 1.0 + (2.0 * spread(i, k) - 1.0) * percent / 100.0;
        let q = off(1, tolerances.qts_percent);
        let moved = ThieleSmall {
            fs: ts.fs * off(0, tolerances.fs_percent),
            qms: ts.qms * q,
            qes: ts.qes * q,
            vas: ts.vas * off(2, tolerances.vas_percent),
            ..ts
        };
        let woofer = Resolved { ts: moved, ..nominal.woofer.clone() };
        let mut variant = document.clone();
        scale(&mut variant, off(3, tolerances.box_percent), off(4, tolerances.fill_percent));
        // what was written as an enclosure reads as one with other numbers in it
        let Ok(enclosure) = serde_json::from_value::<Enclosure>(variant) else { continue };
        let air = nominal.context.air;
        let context =
            Context { array: Array::new(&woofer, &air, &design.array.arrangement()), ..nominal.context.clone() };
        let wired = enclosure.wire(&context);
        let mut sweep = Sweep::new(&wired.network, nominal.conditions);
        for (list, level) in levels.iter_mut().zip(sweep.curves(&frequency_hz).level_db) {
            list.push(level);
        }
        figures.extend(wired.figures.first().map(|f| f.value));
        let reference =
            if wired.measured_by_efficiency { design.listening.band_edge_reference } else { Reference::Maximum };
        edges.extend(sweep.band_edges(context.array.ts.fs, reference).edges[0]);
    }
    let bounds: Vec<[f64; 2]> = levels.iter_mut().map(|list| percentiles(list)).collect();
    let first = nominal.wired.figures.first();
    Band {
        samples: SAMPLES,
        frequency_hz,
        low_db: bounds.iter().map(|b| b[0]).collect(),
        high_db: bounds.iter().map(|b| b[1]).collect(),
        figure: first.map_or_else(String::new, |f| f.label.clone()),
        unit: first.map_or_else(String::new, |f| f.unit.clone()),
        figure_range: if figures.is_empty() { [0.0; 2] } else { percentiles(&mut figures) },
        f3_range_hz: (edges.len() == SAMPLES as usize).then(|| percentiles(&mut edges)),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Every figure visits its whole tolerance evenly, whatever the others do.
    #[test]
    fn the_sequence_is_even() {
        for k in 0..FIGURES {
            let mut list: Vec<f64> = (0..SAMPLES).map(|i| spread(i, k)).collect();
            list.sort_by(f64::total_cmp);
            let widest = list.windows(2).map(|w| w[1] - w[0]).fold(0.0, f64::max);
            assert!(widest < 4.0 / f64::from(SAMPLES), "{k}: {widest}");
            assert!((list.iter().sum::<f64>() / f64::from(SAMPLES) - 0.5).abs() < 0.02);
        }
    }
}

//! Leaks: how large a gap ruins a box.

use crate::analysis::Analysis;
use oak_drum_acoustics::families::Chamber;
use oak_drum_acoustics::network::leak::joint;
use oak_drum_document::Change;
use oak_drum_text::{Text, mm, square_mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// Width of the open joint the gaps are reckoned with, m: a board that was not pressed home.
const WIDTH: f64 = 0.5e-3;

/// What leaks do to one chamber.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Leaks {
    /// Where its loss factor stands (JSON pointer into the design).
    pub pointer: String,
    /// What the chamber is called.
    pub title: String,
    /// The frequency the losses are told at, Hz: the chamber's own resonance.
    pub at_hz: f64,
    /// Width of the open joint reckoned with, mm.
    pub joint_mm: f64,
    /// The loss factor stated now; absent is airtight.
    pub stated_q: Option<f64>,
    /// From tight to ruined.
    pub rows: Vec<LeakRow>,
    /// The gap that costs 1 dB at the tuning, mm².
    pub ruins_mm2: Option<f64>,
    /// In words.
    pub sentence: Text,
}

/// One loss factor.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct LeakRow {
    /// Loss factor of the leaks.
    pub q: f64,
    /// The gap, mm².
    pub gap_mm2: f64,
    /// As a length of open joint, mm.
    pub joint_length_mm: f64,
    /// What it costs at the tuning against the airtight box, dB.
    pub lost_db: f64,
}

const ROWS: [f64; 8] = [100.0, 50.0, 20.0, 10.0, 7.0, 5.0, 3.0, 1.5];

/// A table for each chamber; none in families whose leaks are not stated by a loss factor.
pub fn leaks(analysis: &Analysis) -> Vec<Leaks> {
    let stated = analysis.wired.chambers.iter().filter(|c| !c.pointer.is_empty());
    stated.filter_map(|chamber| of_chamber(analysis, chamber)).collect()
}

fn of_chamber(analysis: &Analysis, chamber: &Chamber) -> Option<Leaks> {
    let document = serde_json::to_value(&analysis.design).ok()?;
    let pointer = format!("/enclosure{}", chamber.part("leak_q"));
    let at_hz = chamber.resonance;
    let air = &analysis.context.air;
    let compliance = chamber.net * chamber.fill_factor / air.bulk_modulus();
    let through = analysis.design.cabinet.as_ref().map_or(0.018, |c| c.panel_mm * 1e-3);
    // Q_L = ω·R·C, so the gap is that of a square metre's resistance over R
    let gap = |q: f64| joint(air, 1.0, WIDTH, through) * TAU * at_hz * compliance / q * 1e6;
    let level = |q: Option<f64>| -> Option<f64> {
        let value = q.map_or(serde_json::Value::Null, serde_json::Value::from);
        let tried = analysis.at_frequencies(&[Change::set(pointer.clone(), value)], &[at_hz])?;
        Some(tried.curves().level_db[0])
    };
    let tight = level(None)?;
    let lost = |q: f64| level(Some(q)).map(|l| tight - l);
    let rows: Vec<LeakRow> = ROWS
        .iter()
        .filter_map(|&q| {
            let gap_mm2 = gap(q);
            Some(LeakRow { q, gap_mm2, joint_length_mm: gap_mm2 / (WIDTH * 1e3), lost_db: lost(q)? })
        })
        .collect();
    // where 1 dB is lost, by bisection in the logarithm of Q
    let (mut low, mut high) = (0.5f64, 1000.0f64);
    let ruined = lost(low)? > 1.0 && lost(high)? < 1.0;
    if ruined {
        for _ in 0..24 {
            let middle = (low * high).sqrt();
            if lost(middle)? > 1.0 { low = middle } else { high = middle }
        }
    }
    let ruins_mm2 = ruined.then(|| gap((low * high).sqrt()));
    let sentence = match ruins_mm2 {
        Some(gap) => format!(
            "{gap:.0} of open joint, {:.0} of it {} wide, cost this {} 1 dB at {at_hz:.0} Hz. An estimate: joints are never even.",
            mm(gap / (WIDTH * 1e3)),
            mm(WIDTH * 1e3),
            chamber.title().to_lowercase(),
            gap = square_mm(gap)
        ),
        None => format!("Leaks hardly change the level at the resonance of this {}.", chamber.title().to_lowercase()),
    };
    Some(Leaks {
        title: chamber.title().into(),
        at_hz,
        joint_mm: WIDTH * 1e3,
        stated_q: document.pointer(&pointer).and_then(serde_json::Value::as_f64),
        rows,
        pointer,
        ruins_mm2,
        sentence: sentence.into(),
    })
}

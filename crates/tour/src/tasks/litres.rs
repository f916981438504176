//! Air that boards and parts take, and where it is found again.

use super::{amplifier, woofer};
use crate::task::{Step, Task};
use oak_drum_text::litres;
use serde_json::{Value, json};

/// What is to be lost, L.
const LOST: f64 = 8.0;

pub(crate) const TASK: Task = Task {
    id: "litres",
    title: "Lose air and find it again",
    teaches: "What a box holds is what its boards and parts leave: the air ledger accounts for every litre.",
    minutes: 3,
    station: "cabinet",
    plays: None,
    start,
    steps: &[
        Step {
            says: || {
                format!(
                    "Make the boards and the baffle thicker and leave the outside as it is, until {:.0} of the ledger's net are gone.",
                    litres(LOST)
                )
                .into()
            },
            done: |now, start| net(now) <= net(start) - LOST,
            told: |now, start| {
                format!("{:.1} of air is gone: the ledger's first lines say where.", litres(net(start) - net(now)))
                    .into()
            },
        },
        Step {
            says: || {
                "Keep the thick boards. Find the air again: take the remedy that makes the cabinet larger, or pull its sizes yourself.".into()
            },
            done: |now, start| {
                let wanted = start.evaluation.ledger.as_ref().map_or(f64::NAN, |l| l.wanted_net_l);
                (net(now) / wanted - 1.0).abs() < 0.03 && boards(now) > boards(start) + 5.0
            },
            told: |now, _| format!("{:.1} of air again, in a larger outside.", litres(net(now))).into(),
        },
    ],
};

fn start() -> Value {
    json!({
        "format": "oak-drum-design", "version": 8, "name": "Fifty litres, closed",
        "brief": {"lowest_note_hz": 40, "level_db": 95, "distance_m": 1}, "woofer": woofer(), "enclosure": {"family": "sealed", "net_volume_l": 50},
        "cabinet": {"width_mm": 380, "height_mm": 446, "depth_mm": 400, "panel_mm": 18, "baffle_mm": 18, "bracing_l": 0.3},
        "drive": {"kind": "voltage", "volts": 10}, "chain": {"amplifier": amplifier()}
    })
}

fn net(seen: &crate::seen::Seen) -> f64 {
    seen.evaluation.ledger.as_ref().map_or(f64::NAN, |l| l.net_l)
}

fn boards(seen: &crate::seen::Seen) -> f64 {
    seen.design.cabinet.as_ref().map_or(0.0, |c| c.panel_mm)
}

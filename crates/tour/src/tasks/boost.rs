//! A cone that a boost drives too far, and how it is saved without giving the boost up.

use super::{amplifier, woofer};
use crate::seen::Seen;
use crate::task::{Step, Task};
use oak_drum_text::travel;
use serde_json::{Value, json};

pub(crate) const TASK: Task = Task {
    id: "boost",
    title: "Save a cone from a boost",
    teaches: "Six decibels more take twice the stroke: what saves a cone is what it no longer has to play.",
    minutes: 3,
    station: "drive",
    plays: None,
    start,
    steps: &[
        Step {
            says: || {
                "Raise the bass: pull the peg up on the level line, by four decibels or more, until a finding says that the cone goes too far.".into()
            },
            done: |now, _| now.boost_db() >= 4.0 && too_far(now),
            told: |now, _| {
                let most = now
                    .evaluation
                    .curves
                    .cone_excursion_mm
                    .iter()
                    .copied()
                    .filter(|x| x.is_finite())
                    .fold(0.0, f64::max);
                format!("The cone would go {:.1} one way.", travel(most)).into()
            },
        },
        Step {
            says: || {
                "Save it and keep the boost: take a remedy that cuts what lies below, or add a low cut yourself.".into()
            },
            done: |now, start| !too_far(now) && now.boost_db() >= 3.0 && now.volts() >= 0.98 * start.volts(),
            told: |now, _| format!("The boost of {:.0} dB stays, and the cone is safe.", now.boost_db()).into(),
        },
    ],
};

fn start() -> Value {
    json!({
        "format": "oak-drum-design", "version": 8, "name": "A little lean",
        "brief": {"lowest_note_hz": 40, "level_db": 95, "distance_m": 1}, "woofer": woofer(),
        "enclosure": {"family": "vented", "net_volume_l": 70, "leak_q": 10, "absorption_q": 80, "port_q": 100, "port": {
            "section": {"shape": "round", "diameter_mm": 110}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 30},
            "inner_end": {"kind": "flared", "radius_mm": 20}, "outer_end": {"kind": "flared", "radius_mm": 20}, "wall_mm": 4}},
        "drive": {"kind": "voltage", "volts": 7},
        "chain": {"amplifier": amplifier(), "filters": [
            {"name": "Boost", "filter": {"kind": "low_shelf", "frequency_hz": 60, "level_db": 0, "q": 0.7}}]}
    })
}

/// Whether the cone, or what it is fed with, passes its limit.
fn too_far(seen: &Seen) -> bool {
    ["excursion_over_limit", "unloads_below_tuning", "boost_below_tuning"].iter().any(|kind| seen.found(kind).is_some())
}

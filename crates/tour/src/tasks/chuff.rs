//! Air that is heard, and how it is cured.

use super::{amplifier, woofer};
use crate::seen::Seen;
use crate::task::{Step, Task};
use oak_drum_document::{Design, check};
use serde_json::{Value, json};

pub(crate) const TASK: Task = Task {
    id: "chuff",
    title: "Make it chuff, then cure it",
    teaches: "A port is wide enough for one loudness only: what it takes to be quiet at another.",
    minutes: 2,
    station: "box",
    plays: None,
    start,
    steps: &[
        Step {
            says: || "Turn the drive up, in the bar at the top, until a finding says that the air is loud.".into(),
            done: |now, _| now.found("port_air_fast").is_some(),
            told: |now, _| {
                format!("At {:.0} V the air moves at {:.0} m/s: that is heard.", now.volts(), now.air()).into()
            },
        },
        Step {
            says: || "Leave the drive where it is and take one of the remedies of that finding.".into(),
            done: |now, start| now.found("port_air_fast").is_none() && chuffs_as_it_began(start, now),
            told: |now, _| format!("Cured at the same {:.0} V: {:.0} m/s, and quiet.", now.volts(), now.air()).into(),
        },
    ],
};

fn start() -> Value {
    json!({
        "format": "oak-drum-design", "version": 8, "name": "A port for soft music",
        "brief": {"lowest_note_hz": 30, "level_db": 95, "distance_m": 1}, "woofer": woofer(),
        "enclosure": {"family": "vented", "net_volume_l": 70, "leak_q": 10, "absorption_q": 80, "port_q": 100, "port": {
            "section": {"shape": "round", "diameter_mm": 90}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 28},
            "inner_end": {"kind": "free"}, "outer_end": {"kind": "flanged"}, "wall_mm": 3}},
        "drive": {"kind": "voltage", "volts": 4}, "chain": {"amplifier": amplifier()}
    })
}

/// Whether the box the task began with would chuff at today's drive: a quieter drive is no cure.
fn chuffs_as_it_began(start: &Seen, now: &Seen) -> bool {
    let design = Design { drive: now.design.drive, ..Design::clone(&start.design) };
    check(design).is_ok_and(|d| Seen::of(&d).found("port_air_fast").is_some())
}

//! What a leak takes from the lowest notes.

use super::{amplifier, woofer};
use crate::seen::Seen;
use crate::task::{Step, Task};
use oak_drum_acoustics::families::Enclosure;
use serde_json::{Value, json};

/// Where the box is tuned and its level is watched, Hz.
const TUNED: f64 = 28.0;
/// A leak that is heard takes as much, dB.
const HEARD: f64 = 1.5;

pub(crate) const TASK: Task = Task {
    id: "leak",
    title: "Hear what a leak does to the curve",
    teaches: "A gap under the woofer costs the lowest notes most: how to know one by its sound.",
    minutes: 2,
    station: "quiet/leaks",
    plays: Some("slide"),
    start,
    steps: &[
        Step {
            says: || {
                "Make it leak: bring the leak loss QL down until the box has lost a decibel and a half at its tuning. Play it as it was and as it is now."
                    .into()
            },
            done: |now, start| lost(now, start) >= HEARD,
            told: |now, start| {
                format!(
                    "{:.1} dB less at {TUNED:.0} Hz, {:.1} dB two octaves above: that is how a leak sounds.",
                    lost(now, start),
                    lost_at(4.0 * TUNED, now, start)
                )
                .into()
            },
        },
        Step {
            says: || "Seal it again: QL of ten or more, as gaskets and glue give it.".into(),
            done: |now, start| lost(now, start) < 0.2 && tight(now),
            told: |now, _| format!("Tight again: {:.1} dB at {TUNED:.0} Hz.", now.level_db(TUNED)).into(),
        },
    ],
};

fn start() -> Value {
    json!({
        "format": "oak-drum-design", "version": 8, "name": "Tight, as it was built",
        "brief": {"lowest_note_hz": 28, "level_db": 95, "distance_m": 1}, "woofer": woofer(),
        "enclosure": {"family": "vented", "net_volume_l": 80, "leak_q": 15, "absorption_q": 80, "port_q": 100, "port": {
            "section": {"shape": "round", "diameter_mm": 110}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": TUNED},
            "inner_end": {"kind": "flared", "radius_mm": 15}, "outer_end": {"kind": "flared", "radius_mm": 15}, "wall_mm": 3}},
        "drive": {"kind": "voltage", "volts": 8}, "chain": {"amplifier": amplifier()}
    })
}

fn lost(now: &Seen, start: &Seen) -> f64 {
    lost_at(TUNED, now, start)
}

/// What of the level is lost at a frequency, dB.
fn lost_at(hz: f64, now: &Seen, start: &Seen) -> f64 {
    start.level_db(hz) - now.level_db(hz)
}

fn tight(seen: &Seen) -> bool {
    matches!(&seen.design.enclosure, Enclosure::Vented(v) if v.leak_q.is_none_or(|q| q >= 10.0))
}

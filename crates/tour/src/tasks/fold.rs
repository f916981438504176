//! A long path in a box that goes through the door.

use super::{amplifier, woofer};
use crate::seen::Seen;
use crate::task::{Step, Task};
use oak_drum_cabinet::fold::Pattern;
use oak_drum_text::mm;
use serde_json::{Value, json};

pub(crate) const TASK: Task = Task {
    id: "fold",
    title: "Fold a line",
    teaches: "A line is as long as its tuning wants and is laid back and forth in its box; each board between costs air of its own.",
    minutes: 3,
    station: "cabinet",
    plays: None,
    start,
    steps: &[
        Step {
            says: || {
                "This line lies open on the bench. Press one of the forms offered here: the program folds it into a cabinet.".into()
            },
            done: |now, _| now.design.cabinet.as_ref().is_some_and(|c| c.fold.is_some()) && holds(now),
            told: |now, _| {
                let c = now.design.cabinet.as_ref();
                let sides = c.map_or([0.0; 3], |c| [c.width_mm, c.height_mm, c.depth_mm]);
                format!("Folded into {:.0}, and as long as it was wanted.", mm(sides)).into()
            },
        },
        Step {
            says: || {
                "Now break it: choose another pattern under Fold, until a finding says that it does not fold so, or folds to another length.".into()
            },
            done: |now, _| !holds(now),
            told: |now, _| format!("As a {} it is no longer the line that was wanted.", words(now)).into(),
        },
        Step {
            says: || "Mend it: take a remedy of that finding, or choose a pattern that holds.".into(),
            done: |now, _| now.design.cabinet.as_ref().is_some_and(|c| c.fold.is_some()) && holds(now),
            told: |now, _| format!("Folded as a {}, and the same line again.", words(now)).into(),
        },
    ],
};

fn start() -> Value {
    json!({
        "format": "oak-drum-design", "version": 8, "name": "A line, not folded",
        "brief": {"lowest_note_hz": 35, "level_db": 90, "distance_m": 1}, "woofer": woofer(),
        "enclosure": {"family": "transmission_line", "length_mm": 2300, "profile": {"shape": "straight", "area_cm2": 520},
            "woofer_at_mm": 700, "fills": [{"from_mm": 0, "to_mm": 1200, "model": "allard_champoux",
                "stuffing": {"kind": "material", "material": "long_fibre_wool", "density_kg_per_m3": 8}}]},
        "drive": {"kind": "voltage", "volts": 8}, "chain": {"amplifier": amplifier()}
    })
}

/// The pattern in words.
fn words(seen: &Seen) -> &'static str {
    match seen.design.cabinet.as_ref().and_then(|c| c.fold.as_ref()).map(|f| f.pattern) {
        Some(Pattern::S) => "line of three segments",
        Some(Pattern::FourSegments) => "line of four segments",
        Some(Pattern::Spiral) => "spiral",
        Some(Pattern::MirroredW) => "mirrored line",
        Some(Pattern::U) | None => "line out and back",
    }
}

/// Whether the cabinet holds the line with nothing in anything.
fn holds(seen: &Seen) -> bool {
    ["does_not_fold", "folds_otherwise", "not_folded", "parts_collide", "boards_cross"]
        .iter()
        .all(|k| seen.found(k).is_none())
}

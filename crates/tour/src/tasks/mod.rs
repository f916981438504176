//! The tasks, one file each.

pub mod boost;
pub mod chuff;
pub mod fold;
pub mod leak;
pub mod litres;

use serde_json::{Value, json};

/// A woofer of twelve inches that nobody makes.
fn woofer() -> Value {
    json!({
        "name": "Practice 12", "size_in": 12, "fs_hz": 26, "qms": 5.5, "qes": 0.42, "vas_l": 105, "re_ohm": 5.6, "le_mh": 1.2,
        "sd_cm2": 500, "xmax_mm": 10, "xmech_mm": 18, "power_w": 400, "nominal_ohm": 8, "outside_diameter_mm": 312,
        "cutout_mm": 283, "depth_mm": 145, "magnet_diameter_mm": 160, "displacement_l": 2.4, "weight_kg": 7
    })
}

/// An amplifier that does not stand in the way.
fn amplifier() -> Value {
    json!({"power_w": 500, "load_ohm": 8, "minimum_load_ohm": 4})
}

//! What drives the woofers, and the limits it meets.

pub mod power;
mod rules;

use crate::finding::Rule;

/// The rules of this station: name, station where it is seen, function.
pub const RULES: &[Rule] = &[
    ("excursion_over_limit", "box", rules::excursion_over_limit),
    ("unloads_below_tuning", "box", rules::unloads_below_tuning),
    ("radiator_over_limit", "box", rules::radiator_over_limit),
    ("coil_over_power", "woofer", rules::coil_over_power),
    ("load_below_amplifier", "woofer", rules::load_below_amplifier),
    ("drive_over_amplifier", "brief", rules::drive_over_amplifier),
];

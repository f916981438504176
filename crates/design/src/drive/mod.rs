//! What drives the woofers, and the limits it meets.

pub mod biquads;
pub mod card;
mod chain_rules;
pub mod flattening;
pub mod heat;
pub mod likely;
pub mod low_cut;
pub mod offers;
pub mod parts;
pub mod power;
mod rules;
pub mod suits;
pub mod view;

use crate::finding::Rule;

/// The rules of this station: name, station where it is seen, function.
pub const RULES: &[Rule] = &[
    ("excursion_over_limit", "box", rules::excursion_over_limit),
    ("unloads_below_tuning", "box", rules::unloads_below_tuning),
    ("radiator_over_limit", "box", rules::radiator_over_limit),
    ("coil_over_power", "woofer", rules::coil_over_power),
    ("load_below_amplifier", "woofer", rules::load_below_amplifier),
    ("amplifier_not_stated", "drive", rules::amplifier_not_stated),
    ("drive_over_amplifier", "drive", rules::drive_over_amplifier),
    ("boost_below_tuning", "drive", chain_rules::boost_below_tuning),
    ("boost_into_limit", "drive", chain_rules::boost_into_limit),
    ("peak_wants_cut", "drive", chain_rules::peak_wants_cut),
    ("beyond_amplifier", "drive", chain_rules::beyond_amplifier),
    ("amplifier_far_from_rating", "drive", chain_rules::amplifier_far_from_rating),
    ("crossover_fights", "drive", chain_rules::crossover_fights),
    ("transform_misses", "drive", chain_rules::transform_misses),
];

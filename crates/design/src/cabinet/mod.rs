//! The cabinet as it is built: places and clearances, what goes to the saw and the bench, and the rules about it.

mod amplifier_rules;
mod assembly;
mod board_rules;
pub mod built_cabinet;
pub mod clearance;
pub mod cutting;
pub mod days;
pub mod drawings;
pub mod fasteners;
pub mod finishing;
mod fold_rules;
pub mod from_box;
pub mod kit;
pub mod labour;
pub mod leads;
pub mod lifting;
pub mod materials;
pub mod mistakes;
pub mod mounted_part;
mod places;
pub mod printed_plan;
pub mod products;
pub mod shaking;
pub mod step;
pub mod steps;
pub mod view;

use crate::analysis::Analysis;
use crate::finding::Rule;
use crate::trial::Trouble;

/// The rules of this station: name, station where it is seen, function.
pub const RULES: &[Rule] = &[
    ("cabinet_not_stated", "cabinet", board_rules::cabinet_not_stated),
    ("does_not_fold", "cabinet", fold_rules::does_not_fold),
    ("folds_otherwise", "cabinet", fold_rules::folds_otherwise),
    ("not_folded", "cabinet", fold_rules::not_folded),
    ("parts_collide", "cabinet", fold_rules::parts_collide),
    ("gap_under_woofer", "cabinet", fold_rules::gap_under_woofer),
    ("boards_cross", "cabinet", board_rules::boards_cross),
    ("bay_through_walls", "cabinet", board_rules::bay_through_walls),
    ("amplifier_without_place", "cabinet", amplifier_rules::amplifier_without_place),
    ("amplifier_by_no_sheet", "cabinet", amplifier_rules::amplifier_by_no_sheet),
    ("amplifier_differs", "cabinet", amplifier_rules::amplifier_differs),
    ("part_over_sheet", "cabinet", board_rules::part_over_sheet),
];

/// Things that are in each other.
pub fn clashing(analysis: &Analysis) -> Vec<Trouble> {
    let built = analysis.design.cabinet.as_ref().zip(built_cabinet::built(analysis));
    let found = built.map_or_else(Vec::new, |(cabinet, built)| clearance::clashes(cabinet, &built, None));
    found.into_iter().map(|c| Trouble::Clash(format!("{} and {}, {:?}", c.name, c.other, c.how))).collect()
}

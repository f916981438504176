//! The woofer as its sheet has it, how several are wired, and the rules about both.

pub mod arrangement;
mod array_rules;
pub mod in_box;
pub mod likely;
pub mod sheet;
mod sheet_rules;

use crate::finding::Rule;

/// The rules of this station: name, station where it is seen, function.
pub const RULES: &[Rule] = &[
    ("isobaric_too_shallow", "woofer", array_rules::isobaric_too_shallow),
    ("isobaric_uncouples", "woofer", array_rules::isobaric_uncouples),
    ("sheet_contradicts_itself", "woofer", sheet_rules::sheet_contradicts_itself),
    ("limits_not_stated", "woofer", sheet_rules::limits_not_stated),
];

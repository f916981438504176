//! What the build is for, and the rules about that.

pub mod purpose;
mod rules;

use crate::finding::Rule;

/// The rules of this station: name, station where it is seen, function.
pub const RULES: &[Rule] = &[
    ("box_over_brief", "box", rules::box_over_brief),
    ("over_budget", "cabinet", rules::over_budget),
    ("brief_not_stated", "brief", rules::brief_not_stated),
    ("brief_level", "brief", rules::brief_level),
    ("spaces_differ", "box", rules::spaces_differ),
    ("hearing", "brief", rules::hearing),
    ("heavy", "box", rules::heavy),
];

//! The box: its figures, its air in motion, what building tolerances do to it, and the rules about it.

pub mod figures;
pub mod handles;
pub mod motion;
pub(crate) mod rules;
pub mod section;
pub mod tolerance;

use crate::analysis::Analysis;
use crate::finding::Rule;
use crate::trial::Trouble;

/// The rules of this station: name, station where it is seen, function.
pub const RULES: &[Rule] = &[
    ("volume_missing", "box", rules::volume_missing),
    ("volume_left_over", "box", rules::volume_left_over),
    ("woofer_too_deep", "box", rules::woofer_too_deep),
    ("response_humps", "box", rules::response_humps),
    ("response_sags", "box", rules::response_sags),
    ("fill_out_of_range", "box", rules::fill_out_of_range),
];

/// A woofer that the box is not deep enough for.
pub fn too_deep(analysis: &Analysis) -> Vec<Trouble> {
    let deeper = rules::too_deep(analysis).is_some();
    if deeper { vec![Trouble::Unbuildable("the woofer is deeper than the box")] } else { Vec::new() }
}

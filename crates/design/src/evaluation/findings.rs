//! Every rule of every station, and what they find.

use crate::analysis::Analysis;
use crate::finding::{Finding, Rule};
use crate::trial::{Case, Probe};
use crate::{airway, brief, cabinet, drive, enclosure, quiet, room, woofer};
use oak_drum_document::Prices;

/// The rules, station by station in the order in which builders work through what stands against a design.
const STATIONS: &[&[Rule]] = &[
    airway::RULES,
    drive::RULES,
    woofer::RULES,
    enclosure::RULES,
    quiet::RULES,
    cabinet::RULES,
    room::RULES,
    brief::RULES,
];

/// What the stations say of a design that cannot be built.
const PROBES: &[Probe] = &[cabinet::clashing, quiet::in_the_way, enclosure::too_deep, airway::impossible];

/// Every rule.
pub fn rules() -> impl Iterator<Item = &'static Rule> {
    STATIONS.iter().copied().flatten()
}

/// A design before the rules.
pub fn case(analysis: &Analysis) -> Case<'_> {
    Case::new(analysis, PROBES)
}

/// All findings of a design, worst first, where nothing has a price.
pub fn findings(analysis: &Analysis) -> Vec<Finding> {
    judged(&case(analysis))
}

/// All findings of a design at these prices, worst first.
pub fn findings_at(analysis: &Analysis, prices: &Prices) -> Vec<Finding> {
    judged(&case(analysis).at_prices(prices.clone()))
}

fn judged(case: &Case) -> Vec<Finding> {
    let mut list: Vec<Finding> = rules()
        .flat_map(|(kind, station, rule)| {
            rule(case).into_iter().map(|mut finding| {
                finding.kind = (*kind).into();
                finding.station = (*station).into();
                finding
            })
        })
        .collect();
    list.sort_by_key(|f| f.severity);
    list
}

//! What makes one box better than another: each rule a cost in decibels, and the best box has the least sum.
//!
//! Costs are stated as what they are worth in level, so that they can be added and argued with; there are no other
//! weights. What a box must not do at all (be larger than allowed, have a port that finds no room) is no cost but a
//! bound of the search.

use crate::evaluator::TriedBox;
use crate::goal::Goal;

/// A rule.
#[derive(Clone, Copy, Debug)]
pub struct Rule {
    /// Stable name.
    pub id: &'static str,
    /// What it charges for, in a sentence.
    pub sentence: &'static str,
    /// The charge, dB, >= 0.
    pub cost: fn(&TriedBox, &Goal) -> f64,
}

/// Every rule.
pub const RULES: &[Rule] = &[
    Rule {
        id: "short",
        sentence: "Every decibel that is missing at the worst place from the lowest note two octaves up costs 1 dB.",
        cost: short,
    },
    Rule {
        id: "uneven",
        sentence: "Level that swings by more than 6 dB over these two octaves costs a quarter of what is over.",
        cost: uneven,
    },
    Rule { id: "size", sentence: "A box of the full allowed size costs 1 dB, half of it half a dB.", cost: size },
];

/// The sum of all rules, dB.
pub fn cost(trial: &TriedBox, goal: &Goal) -> f64 {
    RULES.iter().map(|rule| (rule.cost)(trial, goal)).sum()
}

/// How many dB the highest level falls short of the wanted one at the worst place of the band.
pub fn short(trial: &TriedBox, goal: &Goal) -> f64 {
    (goal.level_db - trial.worst.level_db).max(0.0)
}

/// A quarter of the dB by which the level swings more than 6 dB over the band (small signal). An equaliser or a room
/// mends 6 dB easily (common practice).
pub fn uneven(trial: &TriedBox, _: &Goal) -> f64 {
    ((trial.swing_db - 6.0) * 0.25).max(0.0)
}

/// The outside volume as a share of the largest one allowed, in dB.
pub fn size(trial: &TriedBox, goal: &Goal) -> f64 {
    trial.outside_l / goal.largest_outside_l
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::evaluator::Worst;
    use crate::goal::PortAir;
    use oak_drum_acoustics::outputs::LimitingFactor;

    fn goal() -> Goal {
        Goal {
            lowest_note_hz: 30.0,
            level_db: 105.0,
            distance_m: 1.0,
            largest_outside_l: 100.0,
            chain: Default::default(),
            port_air: PortAir::Quiet,
            port_fits: true,
            solid_angle: Default::default(),
            room_adds_db: Vec::new(),
            air: Default::default(),
        }
    }

    fn trial(level: f64, swing: f64, outside: f64) -> TriedBox {
        let worst = Worst { level_db: level, frequency: 30.0, limiting: LimitingFactor::Excursion };
        TriedBox { highest_db: [level; 16], worst, swing_db: swing, outside_l: outside, room: None }
    }

    #[test]
    fn short_counts_what_is_missing_and_nothing_beyond() {
        assert_eq!(short(&trial(99.0, 0.0, 50.0), &goal()), 6.0);
        assert_eq!(short(&trial(110.0, 0.0, 50.0), &goal()), 0.0);
    }

    #[test]
    fn uneven_counts_beyond_six_decibels() {
        assert_eq!(uneven(&trial(105.0, 5.0, 50.0), &goal()), 0.0);
        assert_eq!(uneven(&trial(105.0, 10.0, 50.0), &goal()), 1.0);
    }

    #[test]
    fn size_counts_the_share() {
        assert_eq!(size(&trial(105.0, 0.0, 50.0), &goal()), 0.5);
    }

    #[test]
    fn the_cost_is_the_sum_and_every_rule_says_what_it_is() {
        let t = trial(99.0, 10.0, 50.0);
        assert_eq!(cost(&t, &goal()), 6.0 + 1.0 + 0.5);
        assert!(RULES.iter().all(|r| r.sentence.ends_with('.')));
    }
}

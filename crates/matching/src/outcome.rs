//! What came of a candidate, and why it stands where it stands.

use crate::Candidate;
use crate::evaluator::{Evaluator, Refusal};
use crate::goal::Goal;
use crate::rules::{RULES, cost};
use oak_drum_acoustics::families::Enclosure;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::{LimitingFactor, Reference};
use oak_drum_document::{ArraySpec, Design};
use oak_drum_text::{Text, litres, metres};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How a candidate did.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Verdict {
    /// Does all the brief asks.
    Meets,
    /// Falls short of the level.
    Short,
    /// Its port finds no room, or the box grows too large.
    NoFit,
    /// Could not be tried: figures missing, no wiring, no room.
    NotTried,
}

/// How close to the wanted level counts as reaching it, dB: what nobody hears, and more than lies between the
/// frequencies of the band.
const WITHIN_DB: f64 = 0.25;

/// The best box of a candidate.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Outcome {
    /// How many woofers.
    pub count: u32,
    /// The family's id.
    pub family: String,
    /// How it did.
    pub verdict: Verdict,
    /// Sum of the rules, dB; absent where nothing was found.
    pub cost_db: Option<f64>,
    /// What each rule charges, dB, in the order of [`RULES`].
    pub charges_db: Vec<f64>,
    /// Level to spare at the worst place (negative: short), dB.
    pub spare_db: Option<f64>,
    /// Lowest note that comes as loud as wanted, Hz; absent where none does.
    pub reaches_hz: Option<f64>,
    /// f3, Hz.
    pub f3_hz: Option<f64>,
    /// Net volume, L.
    pub net_l: Option<f64>,
    /// Outside volume, estimated with 18 mm boards, L.
    pub outside_l: Option<f64>,
    /// Tuning of the first port, Hz.
    pub tuning_hz: Option<f64>,
    /// Length of the first port, mm.
    pub port_length_mm: Option<f64>,
    /// Why it stands where it stands.
    pub reason: Text,
    /// The woofers' wiring; absent where nothing was found.
    pub array: Option<ArraySpec>,
    /// The box; absent where nothing was found.
    pub enclosure: Option<Enclosure>,
}

impl Outcome {
    fn empty(candidate: &Candidate, reason: String) -> Outcome {
        Outcome {
            count: candidate.count,
            family: candidate.family.into(),
            verdict: Verdict::NotTried,
            cost_db: None,
            charges_db: Vec::new(),
            spare_db: None,
            reaches_hz: None,
            f3_hz: None,
            net_l: None,
            outside_l: None,
            tuning_hz: None,
            port_length_mm: None,
            reason: reason.into(),
            array: None,
            enclosure: None,
        }
    }

    pub(crate) fn refused(candidate: &Candidate, refusal: Refusal) -> Outcome {
        let reason = match refusal {
            Refusal::Undetermined => "the sheet leaves figures open that cannot be derived".into(),
            Refusal::NoLimits => "without Xmax and rated power its highest level is not known".into(),
            Refusal::NoWiring if candidate.count == 1 => "its load is too low for the amplifier".into(),
            Refusal::NoWiring => format!("no wiring of {} that the amplifier can carry", candidate.count),
            Refusal::NoRoom => "the woofers alone fill the largest box".into(),
            Refusal::NoFamily => format!("there is no family \"{}\"", candidate.family),
        };
        Outcome::empty(candidate, reason)
    }

    pub(crate) fn nothing(candidate: &Candidate) -> Outcome {
        Outcome::empty(candidate, "no box of this family can be built for it".into())
    }

    /// The outcome at a place of the search, everything computed afresh from the rounded box.
    pub(crate) fn of(goal: &Goal, candidate: &Candidate, evaluator: &Evaluator, place: &[f64]) -> Outcome {
        let Some(enclosure) = evaluator.rounded_enclosure(candidate.family, place) else {
            return Outcome::nothing(candidate);
        };
        let wired = evaluator.wire(goal, &enclosure);
        let trial = evaluator.try_box(&wired);
        let mut sweep = evaluator.sweep(&wired);
        let edges = sweep.band_edges(evaluator.context.array.ts.fs, Reference::Efficiency);
        let spare = trial.worst.level_db - goal.level_db;
        // the note it comes down to without a gap, from the top of the band
        let top = goal.lowest_note_hz * 4.0;
        let frequencies = log_frequencies(8f64.min(goal.lowest_note_hz * 0.5), top, 96);
        let highest = sweep.curves(&frequencies).max_level_db;
        let loud = |i: &usize| highest[*i] + goal.room_at(frequencies[*i]) >= goal.level_db - WITHIN_DB;
        let lowest = (0..frequencies.len()).rev().take_while(loud).last();

        let port = wired.ports.first();
        let length = port.map(|p| p.realised.length);
        let too_long = goal.port_fits && trial.room.is_some_and(|room| room < -1e-3);
        // a rounded volume may be over by its last digit
        let too_large = trial.outside_l > goal.largest_outside_l * 1.01;
        let what = match trial.worst.limiting {
            LimitingFactor::None => "nothing stated limits it",
            LimitingFactor::Thermal => "the coil gets too hot",
            LimitingFactor::Excursion => "runs out of stroke",
            LimitingFactor::PortAir => "the air in the port gets too fast",
            LimitingFactor::RadiatorExcursion => "the passive radiator runs out of stroke",
            LimitingFactor::AmplifierVoltage => "the amplifier runs out of voltage",
            LimitingFactor::AmplifierCurrent => "the amplifier runs out of current",
        };
        let place = format!("{what} at {:.0} Hz", trial.worst.frequency);
        let limit = match trial.worst.limiting {
            LimitingFactor::None => "nothing stated",
            LimitingFactor::Thermal => "coil heat",
            LimitingFactor::Excursion => "stroke",
            LimitingFactor::PortAir => "the air in the port",
            LimitingFactor::RadiatorExcursion => "the passive radiator's stroke",
            LimitingFactor::AmplifierVoltage => "the amplifier's voltage",
            LimitingFactor::AmplifierCurrent => "the amplifier's current",
        };
        let first = format!("limited by {limit} at {:.0} Hz", trial.worst.frequency);
        let (verdict, reason) = if too_long {
            let out = port.is_some_and(|p| p.realised.out_of_reach);
            let long = length.unwrap_or_default();
            let words = if out {
                "no port tunes so small a box".to_owned()
            } else {
                format!(
                    "needs a {metres:.1} port, no room for it in {:.0}",
                    litres(trial.outside_l),
                    metres = metres(long)
                )
            };
            (Verdict::NoFit, words)
        } else if too_large {
            (Verdict::NoFit, format!("needs {:.0} outside", litres(trial.outside_l)))
        } else if spare < -WITHIN_DB {
            (Verdict::Short, format!("{place}, {:.1} dB short", -spare))
        } else {
            let words = match spare {
                spare if spare >= 0.5 => format!("does it with {spare:.1} dB to spare; {first}"),
                _ => format!("does it; {first}"),
            };
            (Verdict::Meets, words)
        };
        Outcome {
            verdict,
            cost_db: Some(cost(&trial, goal)),
            charges_db: RULES.iter().map(|rule| (rule.cost)(&trial, goal)).collect(),
            spare_db: Some(spare),
            reaches_hz: lowest.map(|i| frequencies[i]),
            f3_hz: edges.edges[0],
            net_l: Some(wired.chambers.iter().map(|c| c.net).sum::<f64>() * 1e3),
            outside_l: Some(trial.outside_l),
            tuning_hz: port.map(|p| p.realised.tuning),
            port_length_mm: length.map(|l| l * 1e3),
            array: Some(evaluator.array),
            enclosure: Some(enclosure),
            ..Outcome::empty(candidate, reason)
        }
    }

    /// The whole design of an outcome; `None` where nothing was found.
    pub fn design(&self, goal: &Goal, candidate: &Candidate) -> Option<Design> {
        let evaluator = Evaluator::new(goal, candidate).ok()?;
        Some(evaluator.design(goal, candidate, self.enclosure.clone()?))
    }
}

//! Practice: what was said to be wrong held against what is.

use crate::prove::hidden::Flaw;
use oak_drum_text::{Text, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How near one came.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PracticeVerdict {
    /// Points of a hundred.
    pub points: u32,
    /// One sentence a flaw, found or missed or wrongly said.
    pub told: Vec<FlawTold>,
    /// In a sentence.
    pub sentence: Text,
}

/// One flaw, found or not.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FlawTold {
    /// What came of it.
    pub outcome: FlawOutcome,
    /// In a sentence.
    pub sentence: Text,
}

/// What came of a flaw.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum FlawOutcome {
    /// Found, and its amount is near.
    Found,
    /// Found, its amount is off.
    Near,
    /// Not found.
    Missed,
    /// Said, but not so.
    Wrong,
}

/// Holds what was said against what is.
pub fn judged(hidden: &[Flaw], said: &[Flaw]) -> PracticeVerdict {
    let mut told = Vec::new();
    let mut points = 0.0;
    let share = 100.0 / hidden.len().max(1) as f64;
    for flaw in hidden {
        let Some(guess) = said.iter().find(|s| s.same_kind(flaw)) else {
            told.push(FlawTold { outcome: FlawOutcome::Missed, sentence: format!("Missed: {}.", words(flaw)).into() });
            continue;
        };
        let near = closeness(flaw, guess);
        points += share * (0.5 + 0.5 * near);
        let outcome = if near >= 0.7 { FlawOutcome::Found } else { FlawOutcome::Near };
        let sentence = if outcome == FlawOutcome::Found {
            format!("Found: {}.", words(flaw))
        } else {
            format!("Found, but it is {}, not {}.", words(flaw), words(guess))
        };
        told.push(FlawTold { outcome, sentence: sentence.into() });
    }
    for guess in said.iter().filter(|s| !hidden.iter().any(|h| h.same_kind(s))) {
        points -= share / 2.0;
        let sentence = format!("Nothing is wrong with {}.", guess.title().trim_start_matches("a "));
        let sentence = match guess {
            Flaw::Leak { .. } => "There is no leak.".to_owned(),
            Flaw::Buzz { .. } => "Nothing buzzes.".to_owned(),
            _ => sentence,
        };
        told.push(FlawTold { outcome: FlawOutcome::Wrong, sentence: sentence.into() });
    }
    let points = points.clamp(0.0, 100.0).round() as u32;
    let sentence = match points {
        90.. => "You would have put the saw to the right place.",
        60..90 => "Near enough to know what to look at.",
        30..60 => "Part of it. Which measurement would have told the rest?",
        _ => "Not this time. Begin with the impedance: it tells box and woofer apart.",
    };
    PracticeVerdict { points, told, sentence: sentence.into() }
}

/// How near a guess is, 1 where it is right, 0 where it is off by as much as the flaw itself.
fn closeness(flaw: &Flaw, guess: &Flaw) -> f64 {
    let near = |truth: f64, said: f64, scale: f64| (1.0 - (said - truth).abs() / scale).clamp(0.0, 1.0);
    match (flaw, guess) {
        // a factor of two in a leak is half right
        (Flaw::Leak { q }, Flaw::Leak { q: said }) => (1.0 - (said / q).log2().abs() / 2.0).clamp(0.0, 1.0),
        (Flaw::Volume { percent }, Flaw::Volume { percent: said }) => near(*percent, *said, percent.abs().max(3.0)),
        (Flaw::Port { mm }, Flaw::Port { mm: said }) => near(*mm, *said, mm.abs().max(5.0)),
        (Flaw::Suspension { fs_percent }, Flaw::Suspension { fs_percent: said }) => {
            near(*fs_percent, *said, fs_percent.abs().max(4.0))
        }
        (Flaw::Buzz { at_hz }, Flaw::Buzz { at_hz: said }) => (1.0 - (said / at_hz).log2().abs()).clamp(0.0, 1.0),
        (Flaw::Microphone { at_hz }, Flaw::Microphone { at_hz: said }) => {
            (1.0 - (said / at_hz).log2().abs() / 2.0).clamp(0.0, 1.0)
        }
        _ => 0.0,
    }
}

/// A flaw with its amount.
pub fn words(flaw: &Flaw) -> String {
    let way = |x: f64, less: &'static str, more: &'static str| if x < 0.0 { less } else { more };
    match *flaw {
        Flaw::Leak { q } => format!("a leak of QL {q:.1}"),
        Flaw::Volume { percent } => {
            format!("{:.1} % {} air than planned", percent.abs(), way(percent, "less", "more"))
        }
        Flaw::Port { mm: off } => format!("a port {:.0} too {}", mm(off.abs()), way(off, "short", "long")),
        Flaw::Suspension { fs_percent } => {
            format!("a suspension {} than stated, fs off by {:+.1} %", way(fs_percent, "softer", "stiffer"), fs_percent)
        }
        Flaw::Buzz { at_hz } => format!("a buzz at {at_hz:.0} Hz"),
        Flaw::Microphone { at_hz } => format!("a microphone 3 dB down at {at_hz:.0} Hz"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_right_answer_is_worth_all_and_a_wrong_one_costs() {
        let hidden = [Flaw::Leak { q: 3.0 }, Flaw::Volume { percent: -6.0 }];
        assert_eq!(judged(&hidden, &hidden).points, 100);
        assert_eq!(judged(&hidden, &[]).points, 0);
        let half = judged(&hidden, &[Flaw::Leak { q: 3.3 }]);
        assert!((44..=50).contains(&half.points), "{}", half.points);
        assert_eq!(half.told[1].outcome, FlawOutcome::Missed);
        let wild = judged(&hidden, &[Flaw::Leak { q: 3.0 }, Flaw::Buzz { at_hz: 50.0 }, Flaw::Port { mm: 9.0 }]);
        assert_eq!(wild.points, 0, "saying everything does not help: {:?}", wild.told);
        let off = judged(&hidden, &[Flaw::Leak { q: 3.0 }, Flaw::Volume { percent: 6.0 }]);
        assert_eq!(off.told[1].outcome, FlawOutcome::Near);
        assert_eq!(off.points, 75, "its place is right, its amount is not");
    }
}

//! One question, one answer, as JSON.

use crate::bootstrap::mean_range;
use crate::difference::{MOST_TRIALS, Method, RightOrWrong, TrialsNeeded, judge, trials_needed};
use crate::friedman::{Friedman, friedman};
use crate::levels::{Trims, trims};
use crate::order::{Orders, balanced};
use crate::signed_rank::{PairOfScores, holm, signed_rank};
use crate::votes::{Strengths, strengths};
use crate::words;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Most cabinets that are held against each other.
pub const MOST_CABINETS: usize = 6;
/// Most listeners, or hearings, of one question.
pub const MOST_LISTENERS: usize = 500;

fn alpha() -> f64 {
    0.05
}

fn wished_power() -> f64 {
    0.8
}

/// What is asked of the statistics of a listening test.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(rename = "ListeningQuestion")]
#[schemars(title = "Listening question")]
pub enum Question {
    /// So many answers right: could it be chance?
    Difference {
        /// Kind of trial.
        method: Method,
        /// Right answers.
        #[schemars(range(min = 0, max = 5000))]
        right: u64,
        /// Trials, fixed before.
        #[schemars(range(min = 1, max = 5000))]
        trials: u64,
        /// Probability of chance that is called unlikely.
        #[serde(default = "alpha")]
        #[schemars(range(min = 0.0001, max = 0.5))]
        alpha: f64,
        /// Whether somebody looked before the planned number was reached and went on.
        #[serde(default)]
        looked_early: bool,
    },
    /// How many trials find a share of right answers?
    Trials {
        /// Kind of trial.
        method: Method,
        /// Share of right answers that is to be found.
        #[schemars(range(min = 0.34, max = 1.0))]
        share: f64,
        /// Probability of chance that is called unlikely.
        #[serde(default = "alpha")]
        #[schemars(range(min = 0.0001, max = 0.5))]
        alpha: f64,
        /// How often the test finds it.
        #[serde(default = "wished_power")]
        #[schemars(range(min = 0.5, max = 0.999))]
        power: f64,
    },
    /// Scores of every listener for every cabinet.
    Scores {
        /// What the cabinets are called.
        #[schemars(length(min = 2, max = 6))]
        cabinets: Vec<String>,
        /// A row for each listener, a score for each cabinet.
        #[schemars(length(min = 1, max = 500))]
        scores: Vec<Vec<f64>>,
        /// Probability of chance that is called unlikely.
        #[serde(default = "alpha")]
        #[schemars(range(min = 0.0001, max = 0.5))]
        alpha: f64,
        /// Seed of what is drawn where not all can be counted.
        #[serde(default)]
        seed: u32,
    },
    /// Votes over pairs.
    Votes {
        /// What the cabinets are called.
        #[schemars(length(min = 2, max = 6))]
        cabinets: Vec<String>,
        /// How often each (row) was preferred to each other (column).
        #[schemars(length(min = 2, max = 6))]
        wins: Vec<Vec<f64>>,
        /// Probability of chance that is called unlikely.
        #[serde(default = "alpha")]
        #[schemars(range(min = 0.0001, max = 0.5))]
        alpha: f64,
    },
    /// A balanced order.
    Order {
        /// How many cabinets.
        #[schemars(range(min = 2, max = 6))]
        cabinets: usize,
        /// How many hearings.
        #[schemars(range(min = 1, max = 500))]
        hearings: usize,
        /// Seed: the same gives the same order.
        seed: u32,
    },
    /// Trims that bring cabinets to one level.
    Match {
        /// Their levels, dB.
        #[schemars(length(min = 2, max = 6))]
        levels_db: Vec<f64>,
    },
}

/// What came of scores.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct ScoresTold {
    /// Mean score of each cabinet.
    pub means: Vec<f64>,
    /// Range of 95 % of each, by resampling listeners; absent of one.
    pub ranges: Vec<Option<[f64; 2]>>,
    /// Whether those ranges come from fewer than six listeners, and so are too narrow.
    pub narrow: bool,
    /// Friedman's test; absent where nothing can be tested.
    pub friedman: Option<Friedman>,
    /// Every pair.
    pub pairs: Vec<PairOfScores>,
}

/// The answer to a [`Question`].
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[schemars(rename = "ListeningAnswer")]
#[schemars(title = "Listening answer")]
pub enum Answer {
    /// Of right and wrong.
    Difference {
        /// What it tells.
        told: RightOrWrong,
        /// What may be said.
        sentence: String,
    },
    /// Of trials needed.
    Trials {
        /// How many; absent where no number of them is enough.
        needed: Option<TrialsNeeded>,
        /// In words.
        sentence: String,
    },
    /// Of scores.
    Scores {
        /// What they tell.
        told: ScoresTold,
        /// What may be said.
        sentence: String,
    },
    /// Of votes.
    Votes {
        /// What they tell.
        told: Strengths,
        /// Cabinets from the strongest to the weakest.
        ranking: Vec<String>,
        /// What may be said.
        sentence: String,
    },
    /// Of an order.
    Order {
        /// The order.
        orders: Orders,
        /// In words.
        sentence: String,
    },
    /// Of a level match.
    Match {
        /// The trims.
        told: Trims,
    },
}

/// A question that cannot be answered.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[error("{field}: {what}")]
pub struct Unanswerable {
    /// Field, as a JSON pointer.
    pub field: String,
    /// What is wrong, and what is expected.
    pub what: String,
}

fn wrong(field: &str, what: impl Into<String>) -> Unanswerable {
    Unanswerable { field: field.into(), what: what.into() }
}

fn within(field: &str, value: f64, low: f64, high: f64) -> Result<(), Unanswerable> {
    if (low..=high).contains(&value) { Ok(()) } else { Err(wrong(field, format!("from {low} to {high} is expected"))) }
}

/// Scores held against each other; each row of a judge, complete.
pub fn held(scores: &[Vec<f64>], seed: u64) -> ScoresTold {
    let k = scores.first().map_or(0, Vec::len);
    let n = scores.len();
    let of = |j: usize| scores.iter().map(|row| row[j]).collect::<Vec<_>>();
    let mean = |v: &[f64]| v.iter().sum::<f64>() / v.len().max(1) as f64;
    let both: Vec<(usize, usize)> = (0..k).flat_map(|i| (i + 1..k).map(move |j| (i, j))).collect();
    let differences: Vec<Vec<f64>> =
        both.iter().map(|(i, j)| scores.iter().map(|row| row[*i] - row[*j]).collect()).collect();
    let p: Vec<f64> = differences.iter().map(|d| signed_rank(d)).collect();
    let pairs = both
        .iter()
        .zip(&differences)
        .zip(p.iter().zip(holm(&p)))
        .map(|(((first, second), d), (p, p_adjusted))| PairOfScores {
            first: *first,
            second: *second,
            difference: mean(d),
            range: mean_range(d, seed),
            p: *p,
            p_adjusted,
        })
        .collect();
    ScoresTold {
        means: (0..k).map(|j| mean(&of(j))).collect(),
        ranges: (0..k).map(|j| mean_range(&of(j), seed)).collect(),
        narrow: n < 6,
        friedman: friedman(scores, seed),
        pairs,
    }
}

/// Answers a question.
///
/// # Errors
/// [`Unanswerable`] with the field that is wrong.
pub fn answer(question: &Question) -> Result<Answer, Unanswerable> {
    match question {
        Question::Difference { method, right, trials, alpha, looked_early } => {
            within("/trials", *trials as f64, 1.0, MOST_TRIALS as f64)?;
            within("/alpha", *alpha, 0.0001, 0.5)?;
            if right > trials {
                return Err(wrong("/right", format!("at most {trials}, as many as there are trials, is expected")));
            }
            let told = judge(*method, *right, *trials, *alpha);
            let sentence = words::right_or_wrong(*method, &told, *alpha, *looked_early);
            Ok(Answer::Difference { told, sentence })
        }
        Question::Trials { method, share, alpha, power } => {
            within("/share", *share, 0.0, 1.0)?;
            within("/alpha", *alpha, 0.0001, 0.5)?;
            within("/power", *power, 0.5, 0.999)?;
            let needed = trials_needed(*method, *share, *alpha, *power);
            let sentence = match &needed {
                Some(n) => format!(
                    "{} trials find {:.0} % right answers in {:.0} of 100 cases if {} are right; from {} on every number does.",
                    n.first,
                    share * 100.0,
                    n.power_at_first * 100.0,
                    n.right_at_first,
                    n.always_from
                ),
                None => "no number of trials finds a share so close to guessing".into(),
            };
            Ok(Answer::Trials { needed, sentence })
        }
        Question::Scores { cabinets, scores, alpha, seed } => {
            let k = cabinets.len();
            within("/cabinets", k as f64, 2.0, MOST_CABINETS as f64)?;
            within("/scores", scores.len() as f64, 1.0, MOST_LISTENERS as f64)?;
            within("/alpha", *alpha, 0.0001, 0.5)?;
            for (i, row) in scores.iter().enumerate() {
                if row.len() != k || row.iter().any(|v| !v.is_finite()) {
                    return Err(wrong(&format!("/scores/{i}"), format!("{k} numbers are expected, one a cabinet")));
                }
            }
            let told = held(scores, u64::from(*seed));
            let sentence =
                words::scores(cabinets, "listener", scores.len(), told.friedman.as_ref(), &told.pairs, *alpha);
            Ok(Answer::Scores { told, sentence })
        }
        Question::Votes { cabinets, wins, alpha } => {
            let k = cabinets.len();
            within("/cabinets", k as f64, 2.0, MOST_CABINETS as f64)?;
            within("/alpha", *alpha, 0.0001, 0.5)?;
            let good = |v: &f64| v.is_finite() && (0.0..=1e6).contains(v);
            if wins.len() != k || wins.iter().any(|row| row.len() != k || !row.iter().all(good)) {
                return Err(wrong("/wins", format!("{k} rows of {k} numbers of votes are expected")));
            }
            let told = strengths(wins)
                .ok_or_else(|| wrong("/wins", "every cabinet must have met another, over some chain"))?;
            let ranking = words::ranked(&told.log_strengths).into_iter().map(|i| cabinets[i].clone()).collect();
            let sentence = words::votes(cabinets, &told, *alpha);
            Ok(Answer::Votes { told, ranking, sentence })
        }
        Question::Order { cabinets, hearings, seed } => {
            within("/cabinets", *cabinets as f64, 2.0, MOST_CABINETS as f64)?;
            within("/hearings", *hearings as f64, 1.0, MOST_LISTENERS as f64)?;
            let orders = balanced(*cabinets, *hearings, u64::from(*seed));
            let sentence = match orders.missing {
                0 => "Each cabinet stands in each place, and follows each other, equally often.".to_owned(),
                more => format!("{more} more hearings would balance it: a whole set has {}.", orders.set),
            };
            Ok(Answer::Order { orders, sentence })
        }
        Question::Match { levels_db } => {
            within("/levels_db", levels_db.len() as f64, 2.0, MOST_CABINETS as f64)?;
            let told = trims(levels_db).ok_or_else(|| wrong("/levels_db", "levels in dB are expected"))?;
            Ok(Answer::Match { told })
        }
    }
}

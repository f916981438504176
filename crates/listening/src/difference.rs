//! Are they different? So many answers right of so many, where guessing is right now and then.
//!
//! Source: the binomial distribution; Clopper and Pearson, Biometrika 26 (1934), for the range; Abbott, Journal of Economic
//! Entomology 18 (1925), for the share beyond guessing.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use statrs::distribution::{Beta, Binomial, ContinuousCDF, DiscreteCDF};

/// Most trials that are reckoned with.
pub const MOST_TRIALS: u64 = 5000;

/// Most trials that are planned: nobody sits through more.
const MOST_PLANNED: u64 = 1000;

/// How a difference is asked for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(title = "Kind of trial")]
pub enum Method {
    /// A, B, then X, which is one of the two: which?
    Abx,
    /// A reference, then two, of which one is the same: which?
    DuoTrio,
    /// Three, of which one is another: which?
    Triangle,
}

impl Method {
    /// How often guessing is right.
    pub fn guessing(self) -> f64 {
        match self {
            Method::Abx | Method::DuoTrio => 0.5,
            Method::Triangle => 1.0 / 3.0,
        }
    }
}

/// P(X >= right) of `trials` where each is right with probability `p`.
pub fn tail(right: u64, trials: u64, p: f64) -> f64 {
    if right == 0 {
        return 1.0;
    }
    Binomial::new(p, trials).map_or(f64::NAN, |b| b.sf(right - 1))
}

/// Range of the true share, both ends of a `level` (0.95) interval after Clopper and Pearson: exact, never too narrow.
pub fn range(right: u64, trials: u64, level: f64) -> [f64; 2] {
    let (r, n, half) = (right as f64, trials as f64, (1.0 - level) / 2.0);
    let quantile = |a: f64, b: f64, p: f64| Beta::new(a, b).map_or(f64::NAN, |d| d.inverse_cdf(p));
    let low = if right == 0 { 0.0 } else { quantile(r, n - r + 1.0, half) };
    let high = if right == trials { 1.0 } else { quantile(r + 1.0, n - r, 1.0 - half) };
    [low, high]
}

/// The share of trials in which the difference was really heard, the rest guessed: (p - p0)/(1 - p0), not below 0.
pub fn beyond_guessing(share: f64, method: Method) -> f64 {
    let p0 = method.guessing();
    ((share - p0) / (1.0 - p0)).max(0.0)
}

/// The fewest right answers whose probability by guessing is at most `alpha`; `None` where even all right are not enough.
pub fn needed(trials: u64, method: Method, alpha: f64) -> Option<u64> {
    let enough = |right: u64| tail(right, trials, method.guessing()) <= alpha;
    if !enough(trials) {
        return None;
    }
    let (mut low, mut high) = (0, trials);
    while low < high {
        let middle = (low + high) / 2;
        if enough(middle) {
            high = middle;
        } else {
            low = middle + 1;
        }
    }
    Some(high)
}

/// How likely a test of so many trials finds somebody who is right with the probability `share`.
pub fn power(trials: u64, method: Method, alpha: f64, share: f64) -> f64 {
    needed(trials, method, alpha).map_or(0.0, |right| tail(right, trials, share))
}

/// How many trials are worth planning.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct TrialsNeeded {
    /// The fewest with which the wished power is reached.
    pub first: u64,
    /// From here on every number reaches it: the power goes up in a saw tooth.
    pub always_from: u64,
    /// Right answers needed of the first.
    pub right_at_first: u64,
    /// Power there.
    pub power_at_first: f64,
}

/// How many trials find somebody who is right with the probability `share`, with the power wished for; `None` where
/// 1000 are not enough (a share at or below guessing never is).
pub fn trials_needed(method: Method, share: f64, alpha: f64, wished: f64) -> Option<TrialsNeeded> {
    if share <= method.guessing() {
        return None;
    }
    let enough = |n: u64| power(n, method, alpha, share) >= wished;
    let first = (1..=MOST_PLANNED).find(|n| enough(*n))?;
    // teeth get smaller; a stretch as long again, and one of the needed right answers' steps, holds the last that fails
    let last_failing = (first + 1..=2 * first + 40).rev().find(|n| !enough(*n));
    let right_at_first = needed(first, method, alpha)?;
    Some(TrialsNeeded {
        first,
        always_from: last_failing.map_or(first, |n| n + 1),
        right_at_first,
        power_at_first: tail(right_at_first, first, share),
    })
}

/// The share of right answers such a test finds with the power wished for; `None` where even one always right is missed.
pub fn share_found(trials: u64, method: Method, alpha: f64, wished: f64) -> Option<f64> {
    let right = needed(trials, method, alpha)?;
    // all right are found always: there is one
    let (mut low, mut high) = (method.guessing(), 1.0);
    for _ in 0..60 {
        let middle = (low + high) / 2.0;
        if tail(right, trials, middle) >= wished { high = middle } else { low = middle }
    }
    Some(high)
}

/// What so many right answers tell.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RightOrWrong {
    /// Right answers.
    pub right: u64,
    /// Trials.
    pub trials: u64,
    /// Probability of as many or more by guessing.
    pub p: f64,
    /// Share of right answers, and its range of 95 %.
    pub share: f64,
    /// Its range of 95 %.
    pub range: [f64; 2],
    /// Share of trials in which it was really heard, with the ends of the range.
    pub heard: [f64; 3],
    /// The share of right answers a test of so many finds in 8 of 10 cases; absent where it can find none.
    pub share_found: Option<f64>,
    /// Right answers that would have been needed; absent where so few trials tell nothing.
    pub needed: Option<u64>,
}

/// What so many right answers of so many tell at the level `alpha`.
pub fn judge(method: Method, right: u64, trials: u64, alpha: f64) -> RightOrWrong {
    let share = right as f64 / trials as f64;
    let range = range(right, trials, 0.95);
    RightOrWrong {
        right,
        trials,
        p: tail(right, trials, method.guessing()),
        share,
        range,
        heard: [share, range[0], range[1]].map(|s| beyond_guessing(s, method)),
        share_found: share_found(trials, method, alpha, 0.8),
        needed: needed(trials, method, alpha),
    }
}

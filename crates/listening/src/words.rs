//! What may be said of a result: never that there is no difference, never that something is proved.

use crate::difference::{Method, RightOrWrong, trials_needed};
use crate::friedman::Friedman;
use crate::signed_rank::{PairOfScores, listeners_needed};
use crate::votes::Strengths;

/// A probability as it is said: two digits, and no zero.
pub fn probability(p: f64) -> String {
    if p < 0.0001 {
        "p < 0.0001".into()
    } else if p < 0.1 {
        format!("p = {}", significant(p, 2))
    } else {
        format!("p = {p:.2}")
    }
}

fn significant(value: f64, digits: i32) -> String {
    let places = (digits - 1 - value.abs().log10().floor() as i32).max(0) as usize;
    format!("{value:.places$}")
}

fn percent(share: f64) -> String {
    format!("{:.0} %", share * 100.0)
}

/// Chance or not, at the level `alpha`.
fn chance(p: f64, alpha: f64) -> String {
    if p <= alpha {
        format!("this is unlikely to be chance ({})", probability(p))
    } else if p > 0.3 {
        format!("this could well be chance ({})", probability(p))
    } else {
        format!("this could be chance ({})", probability(p))
    }
}

/// One sentence or two about right and wrong answers.
pub fn right_or_wrong(method: Method, told: &RightOrWrong, alpha: f64, looked_early: bool) -> String {
    let RightOrWrong { right, trials, p, .. } = told;
    let mut words = format!("{right} of {trials} right: {}", chance(*p, alpha));
    if *p <= alpha {
        words += &format!(
            "; the share of right answers lies between {} and {}.",
            percent(told.range[0]),
            percent(told.range[1])
        );
    } else {
        match told.share_found {
            Some(found) => {
                words += &format!(
                    "; this test would have found a share of {} right answers in 8 of 10 cases.",
                    percent(found)
                );
            }
            None => words += "; of so few trials even all right would tell nothing.",
        }
        let share = told.share.max(0.0);
        match trials_needed(method, share, alpha, 0.8) {
            Some(plan) => {
                words += &format!(
                    " If {} is what is heard, a new test of {} trials would tell in 8 of 10 cases.",
                    percent(share),
                    plan.first
                );
            }
            None if share > method.guessing() => {
                words += " A share so close to guessing takes more than a thousand trials to tell.";
            }
            None => {
                if let Some(plan) = trials_needed(method, 0.7, alpha, 0.8) {
                    words += &format!(
                        " Guessing alone does as well; a new test of {} trials would find 70 % right answers in 8 of 10 cases.",
                        plan.first
                    );
                }
            }
        }
    }
    if looked_early {
        words += " The answers were looked at before the planned number was reached: the probability does not hold.";
    }
    words
}

/// How well listeners agree, in a word.
pub fn agreement(w: f64) -> &'static str {
    match w {
        w if w < 0.2 => "hardly agree",
        w if w < 0.5 => "agree somewhat",
        w if w < 0.8 => "agree well",
        _ => "agree closely",
    }
}

/// A sentence or two about scores on one scale.
pub fn scores(
    names: &[String],
    of: &str,
    judges: usize,
    friedman: Option<&Friedman>,
    pairs: &[PairOfScores],
    alpha: f64,
) -> String {
    let Some(f) = friedman else {
        return match judges {
            0 => "Nothing was scored yet.".into(),
            1 => format!("One {of} alone cannot be tested: the scores stand for themselves."),
            _ => "All scores are the same: nothing was told apart.".into(),
        };
    };
    let mut words =
        format!("{judges} {of}s {} (W = {:.2}); {}.", agreement(f.agreement), f.agreement, chance(f.p, alpha));
    let best =
        pairs.iter().filter(|p| p.p_adjusted <= alpha).max_by(|a, b| a.difference.abs().total_cmp(&b.difference.abs()));
    if let Some(pair) = best.filter(|_| f.p <= alpha) {
        let (high, low) = if pair.difference > 0.0 { (pair.first, pair.second) } else { (pair.second, pair.first) };
        words += &format!(
            " {} was scored {:.1} above {} ({} after correction for {} pairs).",
            names[high],
            pair.difference.abs(),
            names[low],
            probability(pair.p_adjusted),
            pairs.len()
        );
    } else if judges < listeners_needed(pairs.len(), alpha) {
        words += &format!(
            " No single pair can be told apart with fewer than {} {of}s.",
            listeners_needed(pairs.len(), alpha)
        );
    } else {
        words += " No single pair stands out after correction for many.";
    }
    words
}

/// A sentence or two about votes over pairs.
pub fn votes(names: &[String], told: &Strengths, alpha: f64) -> String {
    let order = ranked(&told.log_strengths);
    let (first, last) = (order[0], order[order.len() - 1]);
    let often = 1.0 / (1.0 + (told.log_strengths[last] - told.log_strengths[first]).exp());
    let mut words = format!(
        "{:.0} votes: {} is preferred to {} in {} of cases as they came out; {}.",
        told.votes,
        names[first],
        names[last],
        percent(often),
        chance(told.p, alpha)
    );
    if told.fewest < 10.0 {
        words += " With fewer than ten votes a pair that probability is an estimate.";
    }
    if told.half_wins {
        words += " One was never beaten or never won, so half a win each way was added.";
    }
    words
}

/// Numbers from the strongest to the weakest.
pub fn ranked(values: &[f64]) -> Vec<usize> {
    let mut order: Vec<usize> = (0..values.len()).collect();
    order.sort_by(|a, b| values[*b].total_cmp(&values[*a]));
    order
}

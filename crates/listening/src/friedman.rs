//! Do listeners rank the cabinets alike? Friedman's test with ties, its probability by all rank permutations where they can be
//! counted, and Kendall's coefficient of concordance.
//!
//! Source: Friedman, JASA 32 (1937); Kendall and Babington Smith, Annals of Mathematical Statistics 10 (1939); the correction for
//! ties as in Conover, Practical Nonparametric Statistics, section 5.8.

use crate::ranks::{doubled, ties};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use statrs::distribution::{ChiSquared, ContinuousCDF};
use std::collections::HashMap;

/// What Friedman's test tells.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Friedman {
    /// The statistic, corrected for ties.
    pub chi2: f64,
    /// Its probability if nobody preferred anything.
    pub p: f64,
    /// Where `p` comes from.
    pub by: CountedBy,
    /// The same by the chi-squared distribution: approximate.
    pub p_approximate: f64,
    /// Kendall's W: 0 no agreement, 1 full.
    pub agreement: f64,
    /// Mean rank of each cabinet, the highest score the highest rank.
    pub mean_ranks: Vec<f64>,
}

/// Where a probability comes from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum CountedBy {
    /// Every possibility counted.
    All,
    /// 100 000 random ones, seeded.
    Sample,
}

/// Most cabinets and listeners whose permutations are all counted.
const MOST_CABINETS: usize = 5;
const MOST_LISTENERS: usize = 12;
/// How many are drawn where they are too many.
const DRAWN: u32 = 100_000;

/// The test over `scores[listener][cabinet]`; `None` where there are fewer than two of either, rows differ in length, or every
/// listener gave all the same.
pub fn friedman(scores: &[Vec<f64>], seed: u64) -> Option<Friedman> {
    let k = scores.first()?.len();
    let n = scores.len();
    if k < 2 || n < 2 || scores.iter().any(|row| row.len() != k) {
        return None;
    }
    let rows: Vec<Vec<u32>> = scores.iter().map(|row| doubled(row)).collect();
    let sums = |rows: &[Vec<u32>]| -> Vec<u32> { (0..k).map(|j| rows.iter().map(|r| r[j]).sum()).collect() };
    let observed = sums(&rows);
    // n k (k² - 1) less what ties take from it
    let taken: f64 = scores.iter().flat_map(|row| ties(row)).map(|t| (t * t * t - t) as f64).sum();
    let (kf, nf) = (k as f64, n as f64);
    let spread = nf * kf * (kf * kf - 1.0) - taken;
    if spread <= 0.0 {
        return None;
    }
    // of doubled ranks, whose mean sum is n (k + 1)
    let squares = |sums: &[u32]| -> u64 {
        let mean = n as i64 * (k as i64 + 1);
        sums.iter().map(|s| (i64::from(*s) - mean).unsigned_abs().pow(2)).sum()
    };
    let s = squares(&observed) as f64 / 4.0;
    let agreement = 12.0 * s / (nf * spread);
    let chi2 = agreement * nf * (kf - 1.0);
    let (p, by) = if k <= MOST_CABINETS && n <= MOST_LISTENERS {
        (counted(&rows, squares(&observed), &squares), CountedBy::All)
    } else {
        (drawn(&rows, squares(&observed), &squares, seed), CountedBy::Sample)
    };
    Some(Friedman {
        chi2,
        p,
        by,
        p_approximate: ChiSquared::new(kf - 1.0).map_or(f64::NAN, |d| d.sf(chi2)),
        agreement,
        mean_ranks: observed.iter().map(|s| f64::from(*s) / 2.0 / nf).collect(),
    })
}

/// Sums of doubled ranks in ascending order, twelve bits each: 24 times the doubled rank of the last of five fits.
fn packed(sums: &mut [u32]) -> u64 {
    sums.sort_unstable();
    sums.iter().fold(0, |key, s| key << 12 | u64::from(*s))
}

/// Probability of a sum of squares as large or larger over all permutations of every row. Columns are alike when nobody prefers
/// anything, so that sums may be kept sorted: there are k! fewer. For the same reason the first row may stand as it is.
fn counted(rows: &[Vec<u32>], observed: u64, squares: &dyn Fn(&[u32]) -> u64) -> f64 {
    let k = rows[0].len();
    let unpacked = |key: u64| -> Vec<u32> { (0..k).rev().map(|j| (key >> (12 * j) & 0xfff) as u32).collect() };
    let mut reached: HashMap<u64, f64> = HashMap::from([(packed(&mut rows[0].clone()), 1.0)]);
    let mut made = vec![0; k];
    let (last, between) = rows[1..].split_last().unwrap_or((&rows[0], &[]));
    for row in between {
        let orders = distinct_orders(row);
        let each = 1.0 / orders.len() as f64;
        let mut next: HashMap<u64, f64> = HashMap::with_capacity(reached.len() * 2);
        for (key, weight) in &reached {
            let sums = unpacked(*key);
            for order in &orders {
                (0..k).for_each(|j| made[j] = sums[j] + order[j]);
                *next.entry(packed(&mut made)).or_insert(0.0) += weight * each;
            }
        }
        reached = next;
    }
    let orders = distinct_orders(last);
    let each = 1.0 / orders.len() as f64;
    let mut p = 0.0;
    for (key, weight) in &reached {
        let sums = unpacked(*key);
        for order in &orders {
            (0..k).for_each(|j| made[j] = sums[j] + order[j]);
            if squares(&made) >= observed {
                p += weight * each;
            }
        }
    }
    p.min(1.0)
}

/// Every different order of some values.
fn distinct_orders(values: &[u32]) -> Vec<Vec<u32>> {
    let mut sorted = values.to_vec();
    sorted.sort_unstable();
    let mut list = vec![sorted.clone()];
    // the next one in lexical order, until there is none
    loop {
        let Some(i) = (1..sorted.len()).rev().find(|i| sorted[i - 1] < sorted[*i]) else { return list };
        let Some(j) = (i..sorted.len()).rev().find(|j| sorted[*j] > sorted[i - 1]) else { return list };
        sorted.swap(i - 1, j);
        sorted[i..].reverse();
        list.push(sorted.clone());
    }
}

fn drawn(rows: &[Vec<u32>], observed: u64, squares: &dyn Fn(&[u32]) -> u64, seed: u64) -> f64 {
    let mut dice = fastrand::Rng::with_seed(seed);
    let mut rows = rows.to_vec();
    let k = rows[0].len();
    let mut as_large = 0u32;
    for _ in 0..DRAWN {
        for row in &mut rows {
            dice.shuffle(row);
        }
        let sums: Vec<u32> = (0..k).map(|j| rows.iter().map(|r| r[j]).sum()).collect();
        as_large += u32::from(squares(&sums) >= observed);
    }
    // what was seen is one of them: a probability of zero is never said
    f64::from(as_large + 1) / f64::from(DRAWN + 1)
}

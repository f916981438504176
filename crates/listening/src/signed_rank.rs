//! Which of two is scored higher by the same listeners: Wilcoxon's signed ranks, exact, and Holm's correction for many pairs.
//!
//! Source: Wilcoxon, Biometrics Bulletin 1 (1945); Holm, Scandinavian Journal of Statistics 6 (1979).

use crate::ranks::doubled;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Two cabinets held against each other.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PairOfScores {
    /// The first, by its number from 0.
    pub first: usize,
    /// The second.
    pub second: usize,
    /// Mean score of the first less that of the second.
    pub difference: f64,
    /// Range of 95 % of that, by resampling listeners; absent of one listener.
    pub range: Option<[f64; 2]>,
    /// Two-sided probability of its ranks if neither were preferred.
    pub p: f64,
    /// The same after Holm's correction for all pairs.
    pub p_adjusted: f64,
}

/// Two-sided probability of signed ranks by all signs, zeros dropped, ties sharing their ranks; 1 where nothing differs.
pub fn signed_rank(differences: &[f64]) -> f64 {
    let told: Vec<f64> = differences.iter().copied().filter(|d| *d != 0.0).collect();
    if told.is_empty() {
        return 1.0;
    }
    let ranks = doubled(&told.iter().map(|d| d.abs()).collect::<Vec<_>>());
    let whole: u32 = ranks.iter().sum();
    let positive: u32 = ranks.iter().zip(&told).filter(|(_, d)| **d > 0.0).map(|(r, _)| r).sum();
    // how often each sum of the positive ones comes about, as a probability
    let mut ways = vec![0.0; whole as usize + 1];
    ways[0] = 1.0;
    for rank in &ranks {
        for sum in (0..ways.len()).rev() {
            let taken = sum.checked_sub(*rank as usize).map_or(0.0, |left| ways[left]);
            ways[sum] = (ways[sum] + taken) / 2.0;
        }
    }
    // as far from the middle or further
    let off = |sum: u32| (2 * i64::from(sum) - i64::from(whole)).abs();
    let far = ways.iter().enumerate().filter(|(sum, _)| off(*sum as u32) >= off(positive));
    far.map(|(_, p)| p).sum::<f64>().min(1.0)
}

/// Holm's adjusted probabilities, in the order they came in.
pub fn holm(p: &[f64]) -> Vec<f64> {
    let mut order: Vec<usize> = (0..p.len()).collect();
    order.sort_by(|a, b| p[*a].total_cmp(&p[*b]));
    let mut adjusted = vec![0.0; p.len()];
    let mut so_far: f64 = 0.0;
    for (i, at) in order.into_iter().enumerate() {
        so_far = so_far.max(((p.len() - i) as f64 * p[at]).min(1.0));
        adjusted[at] = so_far;
    }
    adjusted
}

/// The fewest listeners with whom one of so many pairs can reach `alpha` after Holm's correction: all must agree, two signs of 2^n.
pub fn listeners_needed(pairs: usize, alpha: f64) -> usize {
    (1..64).find(|n| pairs as f64 * 2.0f64.powi(1 - n) <= alpha).unwrap_or(64) as usize
}

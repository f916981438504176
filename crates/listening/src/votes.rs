//! Which is better, by votes over pairs: Bradley and Terry's strengths.
//!
//! P(i beats j) = exp(s_i)/(exp(s_i) + exp(s_j)), the strengths s adding up to zero; maximum likelihood. It exists only where each
//! has beaten each other over some chain (Ford); otherwise half a win each way is added to every pair that met.
//!
//! Source: Bradley and Terry, Biometrika 39 (1952); Ford, American Mathematical Monthly 64 (1957); Hunter, Annals of Statistics 32
//! (2004), for the iteration.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use statrs::distribution::{ChiSquared, ContinuousCDF};

/// Strengths by votes.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Strengths {
    /// Log strength of each; they add up to zero.
    pub log_strengths: Vec<f64>,
    /// Their standard errors.
    pub errors: Vec<f64>,
    /// Twice the log of the likelihood ratio against all equal.
    pub likelihood_ratio: f64,
    /// Its probability by the chi-squared distribution, if all were equal: an estimate, poor below ten votes a pair.
    pub p: f64,
    /// Whether half a win each way was added, since the votes alone fix no strengths.
    pub half_wins: bool,
    /// Votes of the pair that met least.
    pub fewest: f64,
    /// Votes in all.
    pub votes: f64,
}

/// The strengths from `wins[i][j]`, how often i was preferred to j; `None` where there are fewer than two, the table is not square,
/// or some never met any other, over any chain.
pub fn strengths(wins: &[Vec<f64>]) -> Option<Strengths> {
    let k = wins.len();
    let good = |v: f64| v.is_finite() && v >= 0.0;
    if k < 2 || wins.iter().any(|row| row.len() != k || row.iter().any(|v| !good(*v))) {
        return None;
    }
    let met = |i: usize, j: usize| wins[i][j] + wins[j][i];
    if !reaches_all(k, |i, j| met(i, j) > 0.0) {
        return None;
    }
    let half_wins = !(reaches_all(k, |i, j| wins[i][j] > 0.0) && reaches_all(k, |i, j| wins[j][i] > 0.0));
    let more = |i: usize, j: usize| if half_wins && i != j && met(i, j) > 0.0 { 0.5 } else { 0.0 };
    let table: Vec<Vec<f64>> =
        (0..k).map(|i| (0..k).map(|j| if i == j { 0.0 } else { wins[i][j] + more(i, j) }).collect()).collect();
    let n = |i: usize, j: usize| table[i][j] + table[j][i];
    let mut s = vec![0.0; k];
    for _ in 0..100 {
        // Newton on the log strengths: gradient and information, the last direction held by the sum of zero
        let p = |s: &[f64], i: usize, j: usize| 1.0 / (1.0 + (s[j] - s[i]).exp());
        let gradient: Vec<f64> =
            (0..k).map(|i| (0..k).filter(|j| *j != i).map(|j| table[i][j] - n(i, j) * p(&s, i, j)).sum()).collect();
        let step = multiply(&inverse(&information(&s, &n))?, &gradient);
        let longest = step.iter().fold(0.0f64, |m, v| m.max(v.abs()));
        // far from the top a whole step may run away
        let scale = if longest > 1.0 { 1.0 / longest } else { 1.0 };
        for (value, by) in s.iter_mut().zip(&step) {
            *value += scale * by;
        }
        let mean = s.iter().sum::<f64>() / k as f64;
        s.iter_mut().for_each(|v| *v -= mean);
        if longest < 1e-13 {
            break;
        }
    }
    let covariance = inverse(&information(&s, &n))?;
    // of the strengths less their mean
    let flat = 1.0 / k as f64;
    let errors = (0..k).map(|i| (covariance[i][i] - flat).max(0.0).sqrt()).collect();
    let likelihood = |s: &[f64]| -> f64 {
        let each = |(i, j): (usize, usize)| -table[i][j] * (1.0 + (s[j] - s[i]).exp()).ln();
        (0..k).flat_map(|i| (0..k).map(move |j| (i, j))).filter(|(i, j)| i != j).map(each).sum()
    };
    let ratio = (2.0 * (likelihood(&s) - likelihood(&vec![0.0; k]))).max(0.0);
    let pairs = || (0..k).flat_map(|i| (i + 1..k).map(move |j| (i, j)));
    Some(Strengths {
        errors,
        likelihood_ratio: ratio,
        p: ChiSquared::new(k as f64 - 1.0).map_or(f64::NAN, |d| d.sf(ratio)),
        half_wins,
        fewest: pairs().map(|(i, j)| met(i, j)).fold(f64::INFINITY, f64::min),
        votes: pairs().map(|(i, j)| met(i, j)).sum(),
        log_strengths: s,
    })
}

/// Whether from the first every other is reached over a chain.
fn reaches_all(k: usize, leads: impl Fn(usize, usize) -> bool) -> bool {
    let mut seen = vec![false; k];
    let mut open = vec![0];
    seen[0] = true;
    while let Some(i) = open.pop() {
        for j in (0..k).filter(|j| *j != i) {
            if !seen[j] && leads(i, j) {
                seen[j] = true;
                open.push(j);
            }
        }
    }
    seen.into_iter().all(|s| s)
}

/// Fisher's information with one added to every place over k: then it can be inverted, and the inverse holds the covariance of
/// strengths that add up to zero, with 1/k added to every place.
fn information(s: &[f64], n: &dyn Fn(usize, usize) -> f64) -> Vec<Vec<f64>> {
    let k = s.len();
    let weight = |i: usize, j: usize| {
        let p = 1.0 / (1.0 + (s[j] - s[i]).exp());
        n(i, j) * p * (1.0 - p)
    };
    (0..k)
        .map(|i| {
            let along: f64 = (0..k).filter(|j| *j != i).map(|j| weight(i, j)).sum();
            (0..k).map(|j| 1.0 / k as f64 + if i == j { along } else { -weight(i, j) }).collect()
        })
        .collect()
}

fn multiply(matrix: &[Vec<f64>], vector: &[f64]) -> Vec<f64> {
    matrix.iter().map(|row| row.iter().zip(vector).map(|(a, b)| a * b).sum()).collect()
}

/// Gauss and Jordan over a handful of rows, with the largest pivot.
fn inverse(matrix: &[Vec<f64>]) -> Option<Vec<Vec<f64>>> {
    let k = matrix.len();
    let mut rows: Vec<Vec<f64>> = matrix
        .iter()
        .enumerate()
        .map(|(i, row)| row.iter().copied().chain((0..k).map(|j| if i == j { 1.0 } else { 0.0 })).collect())
        .collect();
    for at in 0..k {
        let pivot = (at..k).max_by(|a, b| rows[*a][at].abs().total_cmp(&rows[*b][at].abs()))?;
        rows.swap(at, pivot);
        let by = rows[at][at];
        if by.abs() < 1e-300 {
            return None;
        }
        rows[at].iter_mut().for_each(|v| *v /= by);
        let own = rows[at].clone();
        for (i, row) in rows.iter_mut().enumerate().filter(|(i, _)| *i != at) {
            debug_assert_ne!(i, at);
            let factor = row[at];
            row.iter_mut().zip(&own).for_each(|(v, o)| *v -= factor * o);
        }
    }
    Some(rows.into_iter().map(|row| row[k..].to_vec()).collect())
}

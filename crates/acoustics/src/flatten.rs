//! Bands of an equaliser that bring a level near a target, computed or measured: least squares in decibels over ln f.
//!
//! Sought are frequency, level and Q of each band and, where the target's own level is left open, that level too:
//!
//! minimise ∫ (L + ΣG_k - S - t)² d ln f / ∫ d ln f + λ·Σ max(0, g_k)²/36 + what exceeds the room there is
//!
//! with L the level, G_k the bands' responses, S the target's shape, t its level, g_k the bands' levels. The middle term prefers cuts:
//! a boost of 6 dB weighs as much as λ dB² left over. Steps by Levenberg and Marquardt (SIAM J. 11, 1963), held within the ranges;
//! bands are put one by one, each from several starts where most is left.

use crate::filters::band::Band;
use crate::halt;
use crate::network::phasor::Phasor;
use nalgebra::{DMatrix, DVector};
use num_complex::Complex64;
use std::f64::consts::TAU;

/// What bands may be.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Ranges {
    /// Lowest and highest frequency, Hz.
    pub hz: [f64; 2],
    /// Deepest cut and highest boost, dB.
    pub level_db: [f64; 2],
    /// Widest and narrowest, as Q.
    pub q: [f64; 2],
}

/// What is wanted.
#[derive(Clone, Debug, PartialEq)]
pub struct Wish {
    /// How many bands.
    pub bands: usize,
    /// What they may be.
    pub ranges: Ranges,
    /// The target's level (dB); `None` lets it be where least is asked of the bands.
    pub level_db: Option<f64>,
    /// λ: how much cuts are preferred, dB².
    pub prefer_cuts: f64,
}

/// A level to be brought near a target; all lists have one entry a frequency.
#[derive(Clone, Copy, Debug)]
pub struct Curve<'a> {
    /// Frequencies, Hz, rising.
    pub hz: &'a [f64],
    /// Level, dB.
    pub level_db: &'a [f64],
    /// The target's shape, dB.
    pub target_db: &'a [f64],
    /// By how much the bands together may lift there, dB; empty where nothing holds them.
    pub room_db: &'a [f64],
}

/// Bands found.
#[derive(Clone, Debug, PartialEq)]
pub struct Flattened {
    /// The bands, by frequency.
    pub bands: Vec<Band>,
    /// The target's level, dB.
    pub level_db: f64,
    /// Root mean square of what is left, before, dB.
    pub before_db: f64,
    /// The same after, dB.
    pub after_db: f64,
}

/// Weight of what exceeds the room, over that of what is left.
const HELD: f64 = 5.0;
/// Steps of a start that is tried, and of the one that is taken.
const STEPS: [usize; 2] = [16, 150];
/// Starts of all bands together.
const SPREAD: usize = 24;

/// Numbers whose roots have nothing in common.
const PRIMES: [f64; 15] = [2.0, 3.0, 5.0, 7.0, 11.0, 13.0, 17.0, 19.0, 23.0, 29.0, 31.0, 37.0, 41.0, 43.0, 47.0];

struct Problem<'a> {
    curve: Curve<'a>,
    wish: &'a Wish,
    /// Trapezoids over ln f, their sum 1; as roots.
    weights: Vec<f64>,
}

impl Problem<'_> {
    fn bands(&self, p: &[f64]) -> usize {
        (p.len() - usize::from(self.wish.level_db.is_none())) / 3
    }

    /// Level of one band over the frequencies, dB.
    fn response(&self, band: &[f64]) -> Vec<f64> {
        let (hz, level, q) = (band[0].exp(), band[1], band[2].exp());
        let a = 10f64.powf(level / 40.0);
        let db = |f: &f64| {
            let above = Complex64::quadratic(TAU * f, TAU * hz, [1.0, a / q, 1.0]).norm_sqr();
            let below = Complex64::quadratic(TAU * f, TAU * hz, [1.0, 1.0 / (a * q), 1.0]).norm_sqr();
            10.0 * (above / below).log10()
        };
        self.curve.hz.iter().map(db).collect()
    }

    fn level(&self, p: &[f64]) -> f64 {
        self.wish.level_db.unwrap_or_else(|| p[p.len() - 1])
    }

    /// What is left at each frequency, then what each boost weighs, then what exceeds the room.
    fn residuals(&self, p: &[f64], lifted: &[f64]) -> DVector<f64> {
        let (c, t) = (&self.curve, self.level(p));
        let left = (0..c.hz.len()).map(|i| (c.level_db[i] + lifted[i] - c.target_db[i] - t) * self.weights[i]);
        let root = self.wish.prefer_cuts.sqrt() / 6.0;
        let boosts = (0..self.bands(p)).map(|k| p[3 * k + 1].max(0.0) * root);
        let over = (0..c.room_db.len()).map(|i| (lifted[i] - c.room_db[i].max(0.0)).max(0.0) * self.weights[i] * HELD);
        DVector::from_iterator(c.hz.len() + self.bands(p) + c.room_db.len(), left.chain(boosts).chain(over))
    }

    fn sum(&self, each: &[Vec<f64>]) -> Vec<f64> {
        (0..self.curve.hz.len()).map(|i| each.iter().map(|band| band[i]).sum()).collect()
    }

    fn held(&self, p: &mut [f64]) {
        let r = &self.wish.ranges;
        for k in 0..self.bands(p) {
            let band = &mut p[3 * k..3 * k + 3];
            band[0] = band[0].clamp(r.hz[0].ln(), r.hz[1].ln());
            band[1] = band[1].clamp(r.level_db[0], r.level_db[1]);
            band[2] = band[2].clamp(r.q[0].ln(), r.q[1].ln());
        }
    }

    /// Goes down from a start until nothing is gained any more, so many steps at most.
    fn descend(&self, mut p: Vec<f64>, steps: usize) -> (Vec<f64>, f64) {
        let n = self.bands(&p);
        let mut each: Vec<Vec<f64>> = (0..n).map(|k| self.response(&p[3 * k..3 * k + 3])).collect();
        let mut r = self.residuals(&p, &self.sum(&each));
        let mut damping = 1e-2;
        for _ in 0..steps {
            halt::check();
            let together = self.sum(&each);
            let mut slopes = DMatrix::zeros(r.len(), p.len());
            for j in 0..p.len() {
                let step = 1e-5;
                let mut moved = p.clone();
                moved[j] += step;
                let lifted = if j < 3 * n {
                    let k = j / 3;
                    let there = self.response(&moved[3 * k..3 * k + 3]);
                    (0..together.len()).map(|i| together[i] - each[k][i] + there[i]).collect()
                } else {
                    together.clone()
                };
                slopes.set_column(j, &((self.residuals(&moved, &lifted) - &r) / step));
            }
            let (normal, down) = (slopes.tr_mul(&slopes), -slopes.tr_mul(&r));
            let before = r.norm_squared();
            let mut gained = 0.0;
            while damping < 1e8 {
                let mut held = normal.clone();
                for j in 0..p.len() {
                    held[(j, j)] += damping * (normal[(j, j)] + 1e-9);
                }
                let Some(step) = held.cholesky().map(|c| c.solve(&down)) else {
                    damping *= 4.0;
                    continue;
                };
                let mut next: Vec<f64> = p.iter().zip(step.iter()).map(|(x, d)| x + d).collect();
                self.held(&mut next);
                let there: Vec<Vec<f64>> = (0..n).map(|k| self.response(&next[3 * k..3 * k + 3])).collect();
                let after = self.residuals(&next, &self.sum(&there));
                if after.norm_squared() < before {
                    gained = before - after.norm_squared();
                    (p, each, r) = (next, there, after);
                    damping = (damping * 0.3).max(1e-9);
                    break;
                }
                damping *= 4.0;
            }
            if gained <= 1e-9 * before + 1e-14 {
                break;
            }
        }
        let cost = r.norm_squared();
        (p, cost)
    }

    /// The i-th of starts that fill what the bands may be evenly (additive recurrence of square roots of primes, Weyl 1916).
    fn spread(&self, i: usize) -> Vec<f64> {
        let r = &self.wish.ranges;
        let share = |d: usize| (i as f64 * PRIMES[d % PRIMES.len()].sqrt() * (1.0 + (d / PRIMES.len()) as f64)).fract();
        let between = |[low, high]: [f64; 2], x: f64| low + (high - low) * x;
        (0..self.wish.bands)
            .flat_map(|k| {
                // each band has its share of the range
                let x = (k as f64 + share(3 * k)) / self.wish.bands as f64;
                let level = between(r.level_db.map(|g| g.clamp(-8.0, 8.0)), share(3 * k + 1));
                [between(r.hz.map(f64::ln), x), level, between(r.q.map(f64::ln), share(3 * k + 2))]
            })
            .collect()
    }

    /// Where a further band may begin: at the stretches of one sign where most is left, and a wide one at either end.
    fn starts(&self, p: &[f64], lifted: &[f64]) -> Vec<[f64; 3]> {
        let (c, t, r) = (&self.curve, self.level(p), &self.wish.ranges);
        let left: Vec<f64> = (0..c.hz.len()).map(|i| c.level_db[i] + lifted[i] - c.target_db[i] - t).collect();
        let within = |i: &usize| (r.hz[0]..=r.hz[1]).contains(&c.hz[*i]);
        let mut stretches: Vec<(f64, usize)> = Vec::new();
        let mut from = 0;
        for i in 1..=left.len() {
            if i == left.len() || (left[i] > 0.0) != (left[from] > 0.0) {
                let weight: f64 = (from..i).map(|k| (left[k] * self.weights[k]).powi(2)).sum();
                let top = (from..i).filter(within).max_by(|a, b| left[*a].abs().total_cmp(&left[*b].abs()));
                stretches.extend(top.map(|top| (weight, top)));
                from = i;
            }
        }
        stretches.sort_by(|a, b| b.0.total_cmp(&a.0));
        let narrow = stretches.iter().take(3).map(|(_, top)| {
            let top = *top;
            let half = |i: &usize| left[*i] / left[top] < 0.5;
            let at = |i: Option<usize>| c.hz[i.unwrap_or(top)];
            let (low, high) = (at((0..top).rev().find(half)), at((top..left.len()).find(half)));
            let q = crate::filters::band::q_of((high / low).log2().clamp(0.2, 4.0));
            [c.hz[top].ln(), -left[top], q.ln()]
        });
        let wide = [r.hz[0], r.hz[1]].map(|hz| [hz.ln(), -1.0, r.q[0].max(0.5).ln()]);
        narrow.chain(wide).collect()
    }
}

/// Finds bands that bring a curve near its target.
pub fn flatten(curve: Curve, wish: &Wish) -> Flattened {
    let n = curve.hz.len();
    let mut weights: Vec<f64> = (0..n)
        .map(|i| {
            let (low, high) = (curve.hz[i.saturating_sub(1)], curve.hz[(i + 1).min(n - 1)]);
            0.5 * (high / low).ln()
        })
        .collect();
    let total: f64 = weights.iter().sum();
    let mean: f64 = (0..n).map(|i| (curve.level_db[i] - curve.target_db[i]) * weights[i]).sum::<f64>() / total;
    weights.iter_mut().for_each(|w| *w = (*w / total).sqrt());
    let problem = Problem { curve, wish, weights };
    let level = wish.level_db.unwrap_or(mean);
    let mut p: Vec<f64> = if wish.level_db.is_none() { vec![mean] } else { Vec::new() };
    let put = |p: Vec<f64>, k: usize| {
        let each: Vec<Vec<f64>> = (0..k).map(|k| problem.response(&p[3 * k..3 * k + 3])).collect();
        let tried = problem.starts(&p, &problem.sum(&each)).into_iter().map(|fresh| {
            let mut begun = p.clone();
            begun.splice(3 * k..3 * k, fresh);
            problem.held(&mut begun);
            problem.descend(begun, STEPS[0])
        });
        tried.min_by(|a, b| a.1.total_cmp(&b.1)).unwrap_or((p.clone(), f64::INFINITY))
    };
    let mut cost = f64::INFINITY;
    for k in 0..wish.bands {
        (p, cost) = put(p, k);
    }
    // each is taken out once more and put where it then does most
    for k in 0..wish.bands {
        let mut others = p.clone();
        others.drain(3 * k..3 * k + 3);
        let (again, less) = put(others, wish.bands - 1);
        if less < cost {
            (p, cost) = (again, less);
        }
    }
    // and all of them are begun together, spread evenly over what they may be
    let spread = (1..=SPREAD).map(|i| {
        let mut begun = problem.spread(i);
        begun.extend(wish.level_db.is_none().then_some(mean));
        problem.descend(begun, STEPS[0])
    });
    let mut all: Vec<(Vec<f64>, f64)> = spread.chain([(p, cost)]).collect();
    all.sort_by(|a, b| a.1.total_cmp(&b.1));
    let polished = all.into_iter().take(3).map(|(p, _)| problem.descend(p, STEPS[1]));
    let p = polished.min_by(|a, b| a.1.total_cmp(&b.1)).map_or_else(Vec::new, |best| best.0);
    let each: Vec<Vec<f64>> = (0..wish.bands).map(|k| problem.response(&p[3 * k..3 * k + 3])).collect();
    let lifted = problem.sum(&each);
    let rms = |lifted: &[f64], t: f64| {
        let left = |i: usize| (curve.level_db[i] + lifted[i] - curve.target_db[i] - t) * problem.weights[i];
        (0..n).map(|i| left(i).powi(2)).sum::<f64>().sqrt()
    };
    let found = problem.level(&p);
    let (before_db, after_db) = (rms(&vec![0.0; n], level), rms(&lifted, found));
    let band = |b: &[f64]| Band { frequency_hz: b[0].exp(), level_db: b[1], q: b[2].exp() };
    let mut bands: Vec<Band> = p.chunks_exact(3).take(wish.bands).map(band).collect();
    bands.sort_by(|a, b| a.frequency_hz.total_cmp(&b.frequency_hz));
    Flattened { bands, level_db: found, before_db, after_db }
}

//! Orders in which cabinets are heard: balanced where that is asked for, and the same for the same seed.
//!
//! Source: Williams, Australian Journal of Scientific Research A 2 (1949): each cabinet stands in each place, and follows each
//! other, equally often; k rows for an even number, twice as many for an odd one.

use fastrand::Rng;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Dice from a seed. The generator's first draws of seeds that follow each other are alike, so that listeners who are counted up would
/// hear related orders: the seed is stirred first (the last step of SplitMix64: Steele, Lea and Flood, OOPSLA 2014, from memory).
pub(crate) fn dice(seed: u64) -> Rng {
    let mut z = seed.wrapping_add(0x9e37_79b9_7f4a_7c15);
    z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    Rng::with_seed(z ^ (z >> 31))
}

/// A Williams design of `k` cabinets, numbers from 0: k rows where k is even, 2k where it is odd; one row of none or one.
pub fn williams(k: usize) -> Vec<Vec<usize>> {
    if k < 2 {
        return vec![(0..k).collect()];
    }
    // 0, 1, k - 1, 2, k - 2, ...
    let first: Vec<usize> = (0..k).map(|i| if i % 2 == 1 { i.div_ceil(2) } else { (k - i / 2) % k }).collect();
    let mut rows: Vec<Vec<usize>> = (0..k).map(|by| first.iter().map(|c| (c + by) % k).collect()).collect();
    if k % 2 == 1 {
        let back: Vec<Vec<usize>> = rows.iter().map(|row| row.iter().rev().copied().collect()).collect();
        rows.extend(back);
    }
    rows
}

/// Orders for some hearings.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Orders {
    /// For each hearing the cabinets in their order, by number from 0.
    pub rows: Vec<Vec<usize>>,
    /// Rows of one whole balanced set.
    pub set: usize,
    /// Hearings that are missing until the last set is whole; 0 is balanced.
    pub missing: usize,
}

/// Balanced orders of `k` cabinets for so many hearings: whole Williams designs, letters and rows shuffled by the seed.
pub fn balanced(k: usize, hearings: usize, seed: u64) -> Orders {
    let mut dice = self::dice(seed);
    let mut rows: Vec<Vec<usize>> = Vec::new();
    let set = williams(k).len();
    while rows.len() < hearings {
        let mut names: Vec<usize> = (0..k).collect();
        dice.shuffle(&mut names);
        let mut fresh = williams(k);
        fresh.iter_mut().flatten().for_each(|c| *c = names[*c]);
        dice.shuffle(&mut fresh);
        rows.extend(fresh);
    }
    rows.truncate(hearings);
    Orders { rows, set, missing: hearings.next_multiple_of(set) - hearings }
}

/// For each of some ABX or duo-trio trials which of the two X is, 0 or 1. Each is drawn by itself: a sequence that is balanced could
/// be guessed towards its end, and its right answers would follow no binomial distribution.
pub fn coins(trials: usize, seed: u64) -> Vec<usize> {
    let mut dice = self::dice(seed);
    (0..trials).map(|_| dice.usize(0..2)).collect()
}

/// For each of some triangle trials the three in their order, 0 or 1 each, one of them the odd one. Each of the six orders is drawn
/// with the same probability, each trial by itself.
pub fn triangles(trials: usize, seed: u64) -> Vec<[usize; 3]> {
    let mut dice = self::dice(seed);
    let one = |_| {
        let (odd, at) = (dice.usize(0..2), dice.usize(0..3));
        let mut row = [1 - odd; 3];
        row[at] = odd;
        row
    };
    (0..trials).map(one).collect()
}

/// Every pair of `k` cabinets so often, in an order drawn by the seed; which of the two comes first changes from time to time.
pub fn pairs(k: usize, times: usize, seed: u64) -> Vec<[usize; 2]> {
    let mut dice = self::dice(seed);
    let mut list = Vec::new();
    for i in 0..k {
        for j in i + 1..k {
            let turned = dice.usize(0..2);
            list.extend((0..times).map(|t| if (t + turned).is_multiple_of(2) { [i, j] } else { [j, i] }));
        }
    }
    dice.shuffle(&mut list);
    list
}

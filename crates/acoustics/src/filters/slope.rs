//! The shapes of low and high passes: their prototypes with the corner at 1, as poles.
//!
//! | symbol | meaning |
//! |---|---|
//! | k, Q | frequency and Q of a pair of poles, over the corner |

use super::contract::Section;
use nalgebra::DMatrix;
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;
use std::sync::OnceLock;

/// The shape of a low or high pass.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "shape", rename_all = "snake_case", deny_unknown_fields)]
pub enum Slope {
    /// Flat as long as can be, 3 dB down at its corner.
    #[schemars(title = "Butterworth")]
    Butterworth {
        /// How steep: 6 dB an octave for each order.
        #[schemars(title = "Order", range(min = 1, max = 8), extend("x-start" = 2))]
        order: u32,
    },
    /// As a low pass with an even delay and no ringing, 3 dB down at its corner; as a high pass the delay is not even.
    #[schemars(title = "Bessel")]
    Bessel {
        /// How steep: 6 dB an octave for each order, far from the corner.
        #[schemars(title = "Order", range(min = 1, max = 8), extend("x-start" = 2))]
        order: u32,
    },
    /// Two equal Butterworths, 6 dB down at its corner: low and high pass of one corner add up to a flat level.
    #[schemars(title = "Linkwitz-Riley")]
    LinkwitzRiley {
        /// How steep: 2, 4 or 8, 6 dB an octave for each.
        #[schemars(title = "Order", range(min = 2, max = 8), extend("x-start" = 4))]
        order: u32,
    },
    /// Second order with a Q of one's own: above 0.71 it lifts what lies at the corner.
    #[schemars(title = "Second order, own Q")]
    OwnQ {
        /// Q; its level at the corner is 20 log Q.
        #[schemars(title = "Q", range(min = 0.1, max = 30.0), extend("x-start" = 1.0))]
        q: f64,
    },
}

/// One pole on the real axis, or a pair, over the corner.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Poles {
    One(f64),
    Pair { k: f64, q: f64 },
}

impl Slope {
    /// How many orders it has, 6 dB an octave each.
    pub fn order(&self) -> u32 {
        match *self {
            Slope::Butterworth { order } | Slope::Bessel { order } | Slope::LinkwitzRiley { order } => order,
            Slope::OwnQ { .. } => 2,
        }
    }

    /// What is wrong with its order, in words.
    pub fn problem(&self) -> Option<String> {
        match *self {
            Slope::LinkwitzRiley { order } if ![2, 4, 8].contains(&order) => {
                Some(format!("a Linkwitz-Riley pass has order 2, 4 or 8, not {order}"))
            }
            _ => None,
        }
    }

    fn poles(&self) -> Vec<Poles> {
        match *self {
            Slope::Butterworth { order } => butterworth(order),
            Slope::Bessel { order } => bessel(order),
            Slope::LinkwitzRiley { order } => {
                let half = butterworth(order / 2);
                // two equal real poles are a pair of Q 1/2
                if half == [Poles::One(1.0)] { vec![Poles::Pair { k: 1.0, q: 0.5 }] } else { half.repeat(2) }
            }
            Slope::OwnQ { q } => vec![Poles::Pair { k: 1.0, q }],
        }
    }

    /// The low pass of this shape with its corner at a frequency (Hz).
    pub(super) fn low_pass(&self, hz: f64) -> Vec<Section> {
        let section = |poles| match poles {
            Poles::One(k) => Section::new(hz, [1.0, 0.0, 0.0], [1.0, 1.0 / k, 0.0]),
            Poles::Pair { k, q } => Section::new(hz, [1.0, 0.0, 0.0], [1.0, 1.0 / (k * q), 1.0 / (k * k)]),
        };
        self.poles().into_iter().map(section).collect()
    }

    /// The high pass: the low pass with x turned into 1/x.
    pub(super) fn high_pass(&self, hz: f64) -> Vec<Section> {
        let section = |poles| match poles {
            Poles::One(k) => Section::new(hz, [0.0, 1.0, 0.0], [1.0 / k, 1.0, 0.0]),
            Poles::Pair { k, q } => Section::new(hz, [0.0, 0.0, 1.0], [1.0 / (k * k), 1.0 / (k * q), 1.0]),
        };
        self.poles().into_iter().map(section).collect()
    }
}

/// Q of the pairs is 1/(2 sin((2k - 1)π/2n)), and one real pole of an odd order (Butterworth 1930).
fn butterworth(order: u32) -> Vec<Poles> {
    let n = f64::from(order);
    let pair = |k: u32| Poles::Pair { k: 1.0, q: 0.5 / ((2.0 * f64::from(k) - 1.0) * PI / (2.0 * n)).sin() };
    let one = (order % 2 == 1).then_some(Poles::One(1.0));
    one.into_iter().chain((1..=order / 2).rev().map(pair)).collect()
}

/// The roots of the reverse Bessel polynomials (Thomson 1949), scaled so that half the power passes at 1.
fn bessel(order: u32) -> Vec<Poles> {
    static TABLE: OnceLock<Vec<Vec<Poles>>> = OnceLock::new();
    let table = TABLE.get_or_init(|| (1..=8).map(bessel_poles).collect());
    table.get(order as usize - 1).cloned().unwrap_or_default()
}

fn bessel_poles(order: usize) -> Vec<Poles> {
    // a_k = (2n - k)!/(2^(n-k)·k!·(n - k)!)
    let factorial = |m: usize| (1..=m).map(|x| x as f64).product::<f64>();
    let a: Vec<f64> = (0..=order)
        .map(|k| factorial(2 * order - k) / (2f64.powi((order - k) as i32) * factorial(k) * factorial(order - k)))
        .collect();
    let value = |s: Complex64| a.iter().rev().fold(Complex64::new(0.0, 0.0), |sum, c| sum * s + c);
    let slope = |s: Complex64| {
        let terms = a.iter().enumerate().skip(1).rev();
        terms.fold(Complex64::new(0.0, 0.0), |sum, (k, c)| sum * s + c * k as f64)
    };
    // half the power: |θ(0)/θ(jω)|² = 1/2
    let (mut low, mut high) = (0.0, 10.0);
    for _ in 0..100 {
        let middle = 0.5 * (low + high);
        if value(Complex64::new(0.0, middle)).norm_sqr() > 2.0 * a[0] * a[0] { high = middle } else { low = middle }
    }
    let corner: f64 = 0.5 * (low + high);
    let companion = DMatrix::from_fn(order, order, |r, c| {
        if c + 1 == order {
            -a[r] / a[order]
        } else if r == c + 1 {
            1.0
        } else {
            0.0
        }
    });
    let mut roots: Vec<Complex64> = companion.complex_eigenvalues().iter().copied().collect();
    for root in &mut roots {
        for _ in 0..3 {
            *root -= value(*root) / slope(*root);
        }
    }
    roots.retain(|r| r.im > -1e-9);
    roots.sort_by(|a, b| a.im.total_cmp(&b.im));
    let poles = |r: Complex64| {
        let k = r.norm() / corner;
        if r.im < 1e-9 { Poles::One(k) } else { Poles::Pair { k, q: r.norm() / (-2.0 * r.re) } }
    };
    roots.into_iter().map(poles).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Bessel pairs for orders 2 to 8 with -3.01 dB at 1, k and Q of each, as tables of active filters print
    /// them (from memory); held again to scipy in `tests/suite/filters.rs`.
    #[test]
    fn bessel_prototypes_are_those_of_the_tables() {
        let pair = |k, q| Poles::Pair { k, q };
        let table = [
            vec![pair(1.27202, 0.57735)],
            vec![Poles::One(1.32268), pair(1.44762, 0.69105)],
            vec![pair(1.43017, 0.52193), pair(1.60336, 0.80554)],
            vec![Poles::One(1.50232), pair(1.55635, 0.56354), pair(1.75538, 0.91648)],
            vec![pair(1.60392, 0.51032), pair(1.68917, 0.61119), pair(1.90471, 1.02331)],
        ];
        for (i, expected) in table.iter().enumerate() {
            let found = bessel(i as u32 + 2);
            assert_eq!(found.len(), expected.len());
            for (ours, theirs) in found.iter().zip(expected) {
                let near = match (*ours, *theirs) {
                    (Poles::One(a), Poles::One(b)) => (a - b).abs() < 1e-5,
                    (Poles::Pair { k, q }, Poles::Pair { k: k2, q: q2 }) => {
                        (k - k2).abs() < 1e-5 && (q - q2).abs() < 1e-5
                    }
                    _ => false,
                };
                assert!(near, "order {}: {ours:?} against {theirs:?}", i + 2);
            }
        }
    }
}

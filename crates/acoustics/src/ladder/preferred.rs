//! Preferred values of resistors and capacitors: E12 and E24 of IEC 60063, which coils are sold in as well.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

const E12: [f64; 12] = [1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2];
const E24: [f64; 24] = [
    1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2,
    9.1,
];

/// A series of preferred values.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Series {
    /// Twelve a decade.
    E12,
    /// Twenty-four a decade.
    E24,
}

impl Series {
    /// The preferred value next below or above a value (> 0).
    pub fn next(self, value: f64, up: bool) -> f64 {
        let nearest = self.nearest(value);
        let beyond = if up { nearest > value * 1.001 } else { nearest < value * 0.999 };
        if beyond {
            return nearest;
        }
        // a step of the series further than the nearest, and the nearest to that
        let step = if self == Series::E12 { 10f64.powf(1.0 / 12.0) } else { 10f64.powf(1.0 / 24.0) };
        self.nearest(if up { nearest * step } else { nearest / step })
    }

    /// The preferred value nearest to a value (> 0), as a ratio.
    pub fn nearest(self, value: f64) -> f64 {
        let values: &[f64] = if self == Series::E12 { &E12 } else { &E24 };
        let decade = value.log10().floor();
        let candidates = (-1..=1).flat_map(|d| values.iter().map(move |v| v * 10f64.powf(decade + f64::from(d))));
        let off = |x: &f64| (x / value).ln().abs();
        let found = candidates.min_by(|a, b| off(a).total_cmp(&off(b))).unwrap_or(value);
        // without the dust of the power of ten
        format!("{found:.6e}").parse().unwrap_or(found)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Stepping up and down goes through every value of the series once.
    #[test]
    fn steps_go_through_the_series() {
        for (series, values) in [(Series::E12, &E12[..]), (Series::E24, &E24[..])] {
            let mut value = values[0];
            for next in values.iter().skip(1).copied().chain([10.0]) {
                assert_eq!(series.next(value, true), next, "up from {value}");
                assert_eq!(series.next(next, false), value, "down from {next}");
                value = next;
            }
        }
        assert_eq!((Series::E12.next(5.0, true), Series::E12.next(5.0, false)), (5.6, 4.7));
    }

    #[test]
    fn the_nearest_preferred_value() {
        for (value, e12, e24) in [(5.0, 4.7, 5.1), (31.8878, 33.0, 33.0), (97.0, 100.0, 100.0), (0.43, 0.47, 0.43)] {
            assert_eq!((Series::E12.nearest(value), Series::E24.nearest(value)), (e12, e24));
        }
        // no value is further off than half a step of its series
        for i in 0..400 {
            let value = 10f64.powf(f64::from(i) / 80.0);
            assert!((Series::E12.nearest(value) / value).ln().abs() < 0.5 * (1.5f64 / 1.2).ln() + 1e-9);
            assert!((Series::E24.nearest(value) / value).ln().abs() < 0.5 * (1.3f64 / 1.15).ln());
        }
    }
}

//! A curve as it was measured: a quantity over frequency, with what is known about how it was taken.

use num_complex::Complex64;
use oak_drum_acoustics::level::P_REF;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// Most points a curve may have.
pub const MOST_POINTS: usize = 1_000_000;

/// What a curve tells.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Measurand {
    /// A sound pressure level, dB re 20 µPa; relative where nothing was calibrated.
    #[default]
    Level,
    /// An electrical impedance, Ω.
    Impedance,
}

/// Points of a curve, by rising frequency.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Curve {
    /// What it tells.
    pub quantity: Measurand,
    /// Frequencies, Hz, rising, more than zero.
    pub frequency: Vec<f64>,
    /// Value at each: Pa rms, or Ω. Without a phase it is real and positive.
    pub value: Vec<Complex64>,
    /// Whether the phase is known.
    pub has_phase: bool,
    /// Signal over noise at each, dB; empty where not known.
    pub snr_db: Vec<f64>,
}

impl Curve {
    /// How many points there are.
    pub fn len(&self) -> usize {
        self.frequency.len()
    }

    /// Whether there are none.
    pub fn is_empty(&self) -> bool {
        self.frequency.is_empty()
    }

    /// A curve of levels (dB) without a phase, or with one (rad).
    pub fn of_level(frequency: Vec<f64>, level_db: &[f64], phase: Option<&[f64]>) -> Curve {
        let magnitude = level_db.iter().map(|db| P_REF * 10f64.powf(db / 20.0));
        Curve::of(Measurand::Level, frequency, magnitude, phase)
    }

    /// A curve of impedances (Ω) without a phase, or with one (rad).
    pub fn of_impedance(frequency: Vec<f64>, ohm: &[f64], phase: Option<&[f64]>) -> Curve {
        Curve::of(Measurand::Impedance, frequency, ohm.iter().copied(), phase)
    }

    fn of(
        quantity: Measurand,
        frequency: Vec<f64>,
        magnitude: impl Iterator<Item = f64>,
        phase: Option<&[f64]>,
    ) -> Curve {
        let value = magnitude.enumerate().map(|(i, m)| Complex64::from_polar(m, phase.map_or(0.0, |p| p[i]))).collect();
        Curve { quantity, frequency, value, has_phase: phase.is_some(), snr_db: Vec::new() }
    }

    /// Magnitude at each point: dB of a level, Ω of an impedance.
    pub fn magnitude(&self) -> Vec<f64> {
        self.value.iter().map(|v| self.shown(v.norm())).collect()
    }

    fn shown(&self, magnitude: f64) -> f64 {
        match self.quantity {
            Measurand::Level => 20.0 * (magnitude.max(1e-30) / P_REF).log10(),
            Measurand::Impedance => magnitude,
        }
    }

    /// Phase at each point, degrees from -180 to 180; `None` where it is not known.
    pub fn phase_deg(&self) -> Option<Vec<f64>> {
        self.has_phase.then(|| self.value.iter().map(|v| v.arg().to_degrees()).collect())
    }

    /// Phase at each point, rad, without jumps: each step from one point to the next taken the short way.
    pub fn phase_unwrapped(&self) -> Option<Vec<f64>> {
        self.has_phase.then(|| {
            let mut last: Option<f64> = None;
            self.value
                .iter()
                .map(|v| {
                    let wrapped = v.arg();
                    let phase = last.map_or(wrapped, |l| wrapped + TAU * ((l - wrapped) / TAU).round());
                    last = Some(phase);
                    phase
                })
                .collect()
        })
    }

    /// The value at a frequency between two points: the logarithm of the magnitude and the unwrapped phase are linear in the
    /// logarithm of the frequency. `None` outside the curve.
    pub fn at(&self, frequency: f64) -> Option<Complex64> {
        let (&first, &last) = (self.frequency.first()?, self.frequency.last()?);
        if !(first..=last).contains(&frequency) {
            return None;
        }
        let above = self.frequency.partition_point(|f| *f < frequency);
        if self.frequency[above] == frequency {
            return Some(self.value[above]);
        }
        let below = above - 1;
        let share = (frequency / self.frequency[below]).ln() / (self.frequency[above] / self.frequency[below]).ln();
        let (a, b) = (self.value[below], self.value[above]);
        let (least, turn) = (1e-30, (b / a).arg());
        let magnitude = (a.norm().max(least).ln() * (1.0 - share) + b.norm().max(least).ln() * share).exp();
        let turn = if turn.is_finite() { turn } else { 0.0 };
        Some(Complex64::from_polar(magnitude, a.arg() + turn * share))
    }

    /// The curve on other frequencies (Hz, rising); those outside are left out.
    pub fn on(&self, frequencies: &[f64]) -> Curve {
        let (frequency, value): (Vec<f64>, Vec<Complex64>) =
            frequencies.iter().filter_map(|f| self.at(*f).map(|v| (*f, v))).unzip();
        let snr_db = if self.snr_db.is_empty() {
            Vec::new()
        } else {
            frequency
                .iter()
                .map(|f| self.snr_db[self.frequency.partition_point(|x| x < f).min(self.snr_db.len() - 1)])
                .collect()
        };
        Curve { frequency, value, snr_db, ..self.empty() }
    }

    /// The points from one frequency to another, Hz.
    pub fn between(&self, from: f64, to: f64) -> Curve {
        let range = self.frequency.partition_point(|f| *f < from)..self.frequency.partition_point(|f| *f <= to);
        if range.start >= range.end {
            return self.empty();
        }
        Curve {
            frequency: self.frequency[range.clone()].to_vec(),
            value: self.value[range.clone()].to_vec(),
            snr_db: if self.snr_db.is_empty() { Vec::new() } else { self.snr_db[range].to_vec() },
            ..self.empty()
        }
    }

    /// A curve of the same kind without points.
    pub fn empty(&self) -> Curve {
        Curve {
            quantity: self.quantity,
            has_phase: self.has_phase,
            frequency: Vec::new(),
            value: Vec::new(),
            snr_db: Vec::new(),
        }
    }

    /// The curve with its values put through a function of frequency (Hz) and value.
    pub fn mapped(&self, f: impl Fn(f64, Complex64) -> Complex64) -> Curve {
        let value = self.frequency.iter().zip(&self.value).map(|(hz, v)| f(*hz, *v)).collect();
        Curve { value, ..self.clone() }
    }

    /// At most so many points, evenly over the logarithm of the frequency, for drawing and for fits: of each stretch the mean
    /// of what lies in it (so that noise is averaged, not picked), or the value between its neighbours where nothing does.
    pub fn thinned(&self, most: usize) -> Curve {
        if self.len() <= most || most < 2 {
            return self.clone();
        }
        let (low, high) = (self.frequency[0], self.frequency[self.len() - 1]);
        let step = (high / low).ln() / (most - 1) as f64;
        let mut out = self.empty();
        let mut at = 0;
        for i in 0..most {
            let end = low * (step * (i as f64 + 0.5)).exp();
            let from = at;
            while at < self.len() && self.frequency[at] <= end {
                at += 1;
            }
            if at == from {
                continue;
            }
            let n = (at - from) as f64;
            let centre = self.frequency[from..at].iter().map(|f| f.ln()).sum::<f64>() / n;
            out.frequency.push(centre.exp());
            out.value.push(mean(&self.value[from..at], self.has_phase));
            if !self.snr_db.is_empty() {
                out.snr_db.push(self.snr_db[from..at].iter().sum::<f64>() / n);
            }
        }
        out
    }
}

/// Mean of values that lie close together: root of the mean power, with the phase of their sum where it is known.
fn mean(values: &[Complex64], has_phase: bool) -> Complex64 {
    let power = values.iter().map(Complex64::norm_sqr).sum::<f64>() / values.len() as f64;
    let phase = if has_phase { values.iter().sum::<Complex64>().arg() } else { 0.0 };
    Complex64::from_polar(power.sqrt(), phase)
}

/// What is wrong with a list of points, as a sentence; `None` if nothing.
pub fn wrong_points(
    frequency: &[f64],
    magnitude: &[f64],
    phase: Option<&[f64]>,
    quantity: Measurand,
) -> Option<String> {
    let n = frequency.len();
    if n < 2 {
        return Some("a curve needs two points at least".into());
    }
    if n > MOST_POINTS {
        return Some(format!("a curve has at most {MOST_POINTS} points; this one has {n}"));
    }
    if magnitude.len() != n || phase.is_some_and(|p| p.len() != n) {
        return Some("frequency, magnitude and phase have to be equally long".into());
    }
    if let Some(i) = frequency.iter().position(|f| !(f.is_finite() && *f > 0.0)) {
        return Some(format!("point {}: a frequency above 0 Hz is expected", i + 1));
    }
    if let Some(i) = frequency.windows(2).position(|w| w[1] <= w[0]) {
        return Some(format!("point {}: frequencies have to rise", i + 2));
    }
    let sound = |m: &f64| match quantity {
        Measurand::Level => m.is_finite() && m.abs() < 400.0,
        Measurand::Impedance => m.is_finite() && *m > 0.0 && *m < 1e6,
    };
    if let Some(i) = magnitude.iter().position(|m| !sound(m)) {
        let expected = match quantity {
            Measurand::Level => "a level between -400 and 400 dB is expected",
            Measurand::Impedance => "an impedance above 0 and below a million ohm is expected",
        };
        return Some(format!("point {}: {expected}", i + 1));
    }
    if let Some(i) = phase.and_then(|p| p.iter().position(|x| !(x.is_finite() && x.abs() < 1e6))) {
        return Some(format!("point {}: the phase is no number of degrees", i + 1));
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    #[test]
    fn values_lie_between_their_neighbours() {
        let c = Curve::of_level(vec![10.0, 40.0], &[80.0, 92.0], Some(&[3.0, -3.0]));
        let v = c.at(20.0).unwrap();
        assert_relative_eq!(20.0 * (v.norm() / P_REF).log10(), 86.0, epsilon = 1e-9);
        // the short way from 3 rad to -3 rad leads over 180 degrees
        assert_relative_eq!(v.arg().abs(), std::f64::consts::PI, epsilon = 1e-9);
        assert!(c.at(9.9).is_none() && c.at(40.1).is_none());
        assert_eq!(c.at(40.0).unwrap(), c.value[1]);
        assert_eq!(c.on(&[5.0, 20.0, 50.0]).frequency, [20.0]);
    }

    #[test]
    fn phases_are_unwrapped_and_curves_cut() {
        let phase: Vec<f64> = (0..50).map(|i| -0.5 * f64::from(i)).collect();
        let f: Vec<f64> = (0..50).map(|i| 10.0 + f64::from(i)).collect();
        let c = Curve::of_level(f, &[90.0; 50], Some(&phase));
        for (a, b) in c.phase_unwrapped().unwrap().iter().zip(&phase) {
            assert_relative_eq!(*a, *b, epsilon = 1e-9);
        }
        let cut = c.between(12.0, 14.0);
        assert_eq!(cut.frequency, [12.0, 13.0, 14.0]);
        assert!(c.between(12.2, 12.8).is_empty() && c.between(70.0, 80.0).is_empty());
    }

    #[test]
    fn thinning_averages_the_power_of_what_lies_together() {
        let f: Vec<f64> = (1..=4000).map(f64::from).collect();
        let level: Vec<f64> = (0..4000).map(|i| if i % 2 == 0 { 90.0 } else { 84.0 }).collect();
        let thin = Curve::of_level(f, &level, None).thinned(60);
        assert!(thin.len() <= 60 && thin.len() > 40, "{}", thin.len());
        let mean = 10.0 * ((10f64.powf(9.0) + 10f64.powf(8.4)) / 2.0).log10();
        assert_relative_eq!(*thin.magnitude().last().unwrap(), mean, epsilon = 0.05);
        assert!(thin.frequency.windows(2).all(|w| w[1] > w[0]));
    }
}

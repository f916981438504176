//! Heat in voice coils: what a programme puts in, how far the coil warms, and when.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | R1, R2 | thermal resistance from coil to magnet and from magnet to air | K/W |
//! | C1, C2 | heat capacity of coil and magnet | J/K |
//! | T1, T2, Ta | temperature of coil, magnet and air | °C |
//! | P | heat in the coil | W |
//!
//! C1·dT1/dt = P(T1) - (T1 - T2)/R1, C2·dT2/dt = (T1 - T2)/R1 - (T2 - Ta)/R2 (Button, JAES 40 (1992), from memory). The coil's
//! resistance grows with it, Re·(1 + α(T - 20 °C)), so that P falls on a given voltage.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// α of copper, per K at 20 °C (IEC 60028).
pub const COPPER: f64 = 0.00393;
/// Temperature a sheet's Re is read at, °C.
pub const COLD: f64 = 20.0;
/// A coil hotter than this is in danger, °C (common practice).
pub const HOT: f64 = 200.0;

/// The way heat leaves a coil.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct HeatPath {
    /// Coil to magnet, K/W.
    pub r1: f64,
    /// Magnet to air, K/W.
    pub r2: f64,
    /// Of the coil, J/K.
    pub c1: f64,
    /// Of the magnet, J/K.
    pub c2: f64,
}

/// Share of a woofer's thermal resistance between coil and magnet: an estimate.
const TO_MAGNET: f64 = 0.7;
/// Time constants of coil and magnet, s: estimates.
const SECONDS: [f64; 2] = [30.0, 1000.0];

impl HeatPath {
    /// An estimate from the rated power (W) of all coils together: it is taken for what holds them at 200 °C in a room of 20 °C.
    pub fn estimated(rated: f64) -> HeatPath {
        let all = (HOT - COLD) / rated;
        let (r1, r2) = (TO_MAGNET * all, (1.0 - TO_MAGNET) * all);
        HeatPath { r1, r2, c1: SECONDS[0] / r1, c2: SECONDS[1] / r2 }
    }

    /// Temperature the coil comes to rest at in air of `air` °C, with the heat (W) it takes at each temperature: found by halving.
    pub fn rest(&self, air: f64, heat: impl Fn(f64) -> f64) -> f64 {
        let off = |t: f64| air + (self.r1 + self.r2) * heat(t) - t;
        let (mut low, mut high) = (air, air + 1.0);
        while off(high) > 0.0 && high < 1e5 {
            high = air + 2.0 * (high - air);
        }
        for _ in 0..60 {
            let middle = 0.5 * (low + high);
            if off(middle) > 0.0 { low = middle } else { high = middle }
        }
        0.5 * (low + high)
    }

    /// Temperatures of the coil at times (s, rising), begun at `air` °C: steps of Runge and Kutta, each a twentieth of the shorter
    /// time constant at most.
    pub fn warming(&self, air: f64, heat: impl Fn(f64) -> f64, times: &[f64]) -> Vec<f64> {
        let slope = |[t1, t2]: [f64; 2]| {
            let through = (t1 - t2) / self.r1;
            [(heat(t1) - through) / self.c1, (through - (t2 - air) / self.r2) / self.c2]
        };
        let longest = 0.05 * (self.r1 * self.c1).min(self.r2 * self.c2);
        let (mut at, mut now) = (0.0, [air, air]);
        let go = |[a, b]: [f64; 2], [x, y]: [f64; 2], h: f64| [a + x * h, b + y * h];
        times
            .iter()
            .map(|time| {
                let steps = ((time - at) / longest).ceil().max(1.0);
                let h = (time - at) / steps;
                for _ in 0..steps as usize {
                    let k1 = slope(now);
                    let k2 = slope(go(now, k1, 0.5 * h));
                    let k3 = slope(go(now, k2, 0.5 * h));
                    let k4 = slope(go(now, k3, h));
                    for i in 0..2 {
                        now[i] += h / 6.0 * (k1[i] + 2.0 * k2[i] + 2.0 * k3[i] + k4[i]);
                    }
                }
                at = *time;
                now[0]
            })
            .collect()
    }
}

/// How the power of a programme is spread over its band.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Spectrum {
    /// The same in every third of an octave.
    Pink,
    /// The simulated programme of IEC 60268-1 as IEC 60268-5 uses it (from memory): less the lower it goes.
    Programme,
}

/// dB re its highest, per third of an octave from 20 Hz on (IEC 60268-1 as used by 60268-5, from memory).
const PROGRAMME: [f64; 11] = [-13.5, -10.2, -7.4, -5.2, -3.3, -2.0, -1.1, -0.6, -0.2, -0.1, 0.0];

impl Spectrum {
    /// Exact centres of the thirds of an octave within a band (Hz), 1000·10^(k/10) (IEC 61260-1), and the share of the power in each.
    /// One band at least: of a band narrower than a third its middle.
    pub fn bands(self, from: f64, to: f64) -> Vec<(f64, f64)> {
        let edge = 10f64.powf(0.05);
        let centre = |k: i32| 1000.0 * 10f64.powf(f64::from(k) / 10.0);
        let within = (-23..=13).filter(|k| centre(*k) * edge > from * 1.0001 && centre(*k) / edge < to / 1.0001);
        let mut list: Vec<(f64, f64)> = within
            .map(|k| {
                let db = match self {
                    Spectrum::Pink => 0.0,
                    // 20 Hz is the band of k = -17; lower ones fall on as the last step does
                    Spectrum::Programme if k < -17 => PROGRAMME[0] + 3.3 * f64::from(k + 17),
                    Spectrum::Programme => PROGRAMME[((k + 17) as usize).min(PROGRAMME.len() - 1)],
                };
                (centre(k), 10f64.powf(db / 10.0))
            })
            .collect();
        if list.is_empty() {
            list.push(((from * to).sqrt(), 1.0));
        }
        let sum: f64 = list.iter().map(|b| b.1).sum();
        list.iter_mut().for_each(|b| b.1 /= sum);
        list
    }
}

/// Voltage (rms) of a programme whose peaks reach those of a sine of so many volts (rms): √2·E·10^(-CF/20).
pub fn programme_volts(sine: f64, crest_db: f64) -> f64 {
    std::f64::consts::SQRT_2 * sine * 10f64.powf(-crest_db / 20.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// 80 W held constant on 1.0 and 0.4 K/W, 40 and 2000 J/K: the exact sum of two exponentials at four times.
    #[test]
    fn warming_is_that_of_two_exponentials() {
        let path = HeatPath { r1: 1.0, r2: 0.4, c1: 40.0, c2: 2000.0 };
        let found = path.warming(0.0, |_| 80.0, &[10.0, 60.0, 600.0, 3600.0]);
        for (ours, theirs) in found.iter().zip([17.6996, 62.5868, 95.0453, 111.5693]) {
            assert!((ours - theirs).abs() < 2e-3, "{ours} against {theirs}");
        }
        assert!((path.rest(0.0, |_| 80.0) - 112.0).abs() < 1e-6);
    }

    /// A plain resistance on a constant voltage comes to rest at (-1 + √(1 + 4·α·P0·Rth))/(2α) over the air: 100 W cold on 1.5 K/W.
    #[test]
    fn rest_on_a_constant_voltage() {
        let path = HeatPath { r1: 1.0, r2: 0.5, c1: 40.0, c2: 2000.0 };
        let rise = path.rest(COLD, |t| 100.0 / (1.0 + COPPER * (t - COLD))) - COLD;
        let exact = (-1.0 + (1.0 + 4.0 * COPPER * 100.0 * 1.5f64).sqrt()) / (2.0 * COPPER);
        assert!((rise - exact).abs() < 1e-6 && (rise - 105.914).abs() < 1e-3, "{rise}");
    }

    #[test]
    fn a_programme() {
        assert!((programme_volts(2400f64.sqrt(), 12.0) - 17.4029).abs() < 1e-4);
        let bands = Spectrum::Programme.bands(20.0, 160.0);
        assert_eq!(bands.len(), 10);
        assert!((bands.iter().map(|b| b.1).sum::<f64>() - 1.0).abs() < 1e-12);
        // exact centres of IEC 61260-1: 31.5 Hz is 31.623
        assert!(bands.iter().any(|b| (b.0 - 31.6228).abs() < 1e-4));
        assert!((10.0 * (bands[0].1 / bands[9].1).log10() - (-13.5 + 0.1)).abs() < 1e-9);
    }
}

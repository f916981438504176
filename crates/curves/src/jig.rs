//! Impedance from two voltages: a reference resistor in line, one channel before it (V1), one across the woofer (V2), m = V2/V1.
//!
//! Simple: Z = Rref·m/(1 - m). Calibrated: whatever is linear between (gains of the channels, leads, their input resistance) maps Z to
//! m by a bilinear function, which three known loads determine: with nothing connected (open), the clips joined (short) and a known
//! resistor, Z = Rk·(m - ms)(mo - mk)/((mo - m)(mk - ms)), exactly, at each frequency.

use crate::curve::{Curve, Measurand};
use num_complex::Complex64;

/// Ratios m of the three known loads at one frequency.
#[derive(Clone, Copy, Debug)]
pub struct KnownLoads {
    /// With nothing connected.
    pub open: Complex64,
    /// With the clips joined.
    pub short: Complex64,
    /// With the known resistor.
    pub known: Complex64,
}

/// Z (Ω) from the ratio and the reference resistor (Ω) alone.
pub fn simple(m: Complex64, reference: f64) -> Complex64 {
    reference * m / (1.0 - m)
}

/// Z (Ω) from the ratio and three known loads, the known resistor's value in Ω.
pub fn calibrated(m: Complex64, loads: &KnownLoads, known: f64) -> Complex64 {
    let KnownLoads { open, short, known: k } = *loads;
    known * (m - short) * (open - k) / ((open - m) * (k - short))
}

/// How the ratios are turned into impedances.
#[derive(Clone, Copy, Debug)]
pub enum Means<'a> {
    /// By the reference resistor (Ω) alone.
    Simple {
        /// Its value, Ω.
        reference: f64,
    },
    /// The same with the leads' impedance, measured with the clips joined, taken off.
    LeadsOff {
        /// The reference resistor, Ω.
        reference: f64,
        /// Ratio with the clips joined.
        short: &'a Curve,
    },
    /// By three known loads.
    Calibrated {
        /// Ratio with nothing connected.
        open: &'a Curve,
        /// Ratio with the clips joined.
        short: &'a Curve,
        /// Ratio with the known resistor.
        known: &'a Curve,
        /// That resistor, Ω.
        ohm: f64,
    },
}

/// The impedance over frequency from the ratio; where a calibration has no value the point is left out.
pub fn impedance(ratio: &Curve, means: &Means) -> Curve {
    let mut out = Curve { quantity: Measurand::Impedance, has_phase: ratio.has_phase, ..Curve::default() };
    for (i, (f, m)) in ratio.frequency.iter().zip(&ratio.value).enumerate() {
        let z = match means {
            Means::Simple { reference } => Some(simple(*m, *reference)),
            Means::LeadsOff { reference, short } => {
                short.at(*f).map(|s| simple(*m, *reference) - simple(s, *reference))
            }
            Means::Calibrated { open, short, known, ohm } => {
                let loads = open.at(*f).zip(short.at(*f)).zip(known.at(*f));
                loads.map(|((open, short), known)| calibrated(*m, &KnownLoads { open, short, known }, *ohm))
            }
        };
        if let Some(z) = z.filter(|z| z.is_finite() && z.norm() > 0.0) {
            out.frequency.push(*f);
            out.value.push(z);
            if let Some(snr) = ratio.snr_db.get(i) {
                out.snr_db.push(*snr);
            }
        }
    }
    out
}

/// By how much (as a share) Z is off for a share by which m is off: |1 + Z/Rref|. Least for Rref near the geometric mean of the
/// impedances that are read.
pub fn sensitivity(z: Complex64, reference: f64) -> f64 {
    (1.0 + z / reference).norm()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn c(re: f64, im: f64) -> Complex64 {
        Complex64::new(re, im)
    }

    /// A jig with unequal channels, leads and an input resistance; the ratios computed outside this program give 6 + 3j Ω.
    #[test]
    fn three_known_loads_take_the_jig_out() {
        let woofer = c(0.229583933, 0.087061486);
        let loads = KnownLoads {
            open: c(1.017710038, 0.010177440),
            short: c(0.004606753, 0.000964996),
            known: c(0.320692465, 0.003642006),
        };
        let z = calibrated(woofer, &loads, 10.0);
        assert!((z - c(6.0, 3.0)).norm() < 1e-7, "{z}");
        let raw = simple(woofer, 22.0);
        assert!((raw - c(6.196, 3.186)).norm() < 1e-3, "{raw}");
    }

    #[test]
    fn curves_are_turned_point_by_point() {
        let ratio = |z: Complex64| (z + 0.3) / (z + 0.3 + 22.0);
        let make = |f: &[f64], z: Complex64| Curve {
            value: vec![ratio(z); f.len()],
            frequency: f.to_vec(),
            has_phase: true,
            ..Curve::default()
        };
        let z = c(7.0, -2.0);
        let (m, short) = (make(&[10.0, 20.0, 40.0], z), make(&[15.0, 50.0], c(0.0, 0.0)));
        let plain = impedance(&m, &Means::Simple { reference: 22.0 });
        assert!((plain.value[0] - z - 0.3).norm() < 1e-12 && plain.quantity == Measurand::Impedance);
        let made = impedance(&m, &Means::LeadsOff { reference: 22.0, short: &short });
        assert_eq!(made.frequency, [20.0, 40.0]);
        assert!((made.value[0] - z).norm() < 1e-12);
        assert!(sensitivity(c(22.0, 0.0), 22.0) > sensitivity(c(5.0, 0.0), 22.0));
    }
}

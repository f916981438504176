//! The voice coil as the amplifier sees it while the cone is held.

use crate::network::phasor::Phasor;

/// The blocked coil: Re in series with Le and, if given, L2 in parallel with R2 and a semi-inductance K·(jω)^n
/// (Leach, *Loudspeaker voice-coil inductance losses*, JAES 2002).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Coil {
    /// Resistance, Ω.
    pub re: f64,
    /// Series inductance, H.
    pub le: f64,
    /// (L2 in H, R2 in Ω).
    pub parallel: Option<(f64, f64)>,
    /// (K in Ω·s^n, n) of the semi-inductance.
    pub semi: Option<(f64, f64)>,
}

impl Coil {
    /// Its impedance, Ω: Re + jωLe + jωL2·R2/(R2 + jωL2) + K·(jω)^n, of what there is.
    #[inline(always)]
    pub fn impedance<P: Phasor>(&self, omega: P::Omega) -> P {
        let mut z = P::j_omega(omega, self.le) + P::constant(self.re, 0.0);
        if let Some((l2, r2)) = self.parallel {
            let x = P::j_omega(omega, l2 / r2);
            z = z + (x / (P::one() + x)).scale(r2);
        }
        if let Some((k, n)) = self.semi {
            z = z + P::j_omega_power(omega, k, n);
        }
        z
    }

    /// The same with every impedance `ratio` times as large.
    pub fn scaled(&self, ratio: f64) -> Coil {
        Coil {
            re: self.re * ratio,
            le: self.le * ratio,
            parallel: self.parallel.map(|(l, r)| (l * ratio, r * ratio)),
            semi: self.semi.map(|(k, n)| (k * ratio, n)),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use num_complex::Complex64;

    /// Each law by its own formula; all together are their sum.
    #[test]
    fn impedance_is_the_sum_of_what_there_is() {
        let (omega, j) = (2.0 * std::f64::consts::PI * 80.0, Complex64::new(0.0, 1.0));
        let plain = Coil { re: 5.6, le: 1e-3, parallel: None, semi: None };
        let near = |coil: &Coil, should: Complex64| {
            let is: Complex64 = coil.impedance(omega);
            assert!((is - should).norm() < 1e-12 * should.norm(), "{is} against {should}");
        };
        near(&plain, 5.6 + j * omega * 1e-3);
        let branch = j * omega * 2e-3 * 9.0 / (9.0 + j * omega * 2e-3);
        near(&Coil { parallel: Some((2e-3, 9.0)), ..plain }, 5.6 + j * omega * 1e-3 + branch);
        let lossy = 0.03 * (j * omega).powf(0.7);
        near(&Coil { le: 0.0, semi: Some((0.03, 0.7)), ..plain }, 5.6 + lossy);
        let doubled: Complex64 = plain.scaled(2.0).impedance(omega);
        let one: Complex64 = plain.impedance(omega);
        assert!((doubled - 2.0 * one).norm() < 1e-12);
    }
}

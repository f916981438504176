//! A sprung mass between two nodes: a passive radiator.

use super::element::{ElementLaw, branch};
use super::phasor::Phasor;

/// Mass, loss and compliance in series: y = 1/(jωM + R + 1/(jωC)) (Small, *Passive-Radiator Loudspeaker Systems*,
/// JAES 1974).
#[derive(Clone, Debug)]
pub struct Resonator {
    /// Acoustic mass, kg/m⁴.
    pub mass: f64,
    /// Acoustic resistance, Pa·s/m³.
    pub resistance: f64,
    /// Acoustic compliance of the suspension, m³/Pa.
    pub compliance: f64,
}

impl ElementLaw for Resonator {
    #[inline(always)]
    fn admittance<P: Phasor>(&self, omega: P::Omega, out: &mut [P]) {
        let series = P::j_omega(omega, self.mass)
            + P::constant(self.resistance, 0.0)
            + P::j_omega(omega, self.compliance).recip();
        branch(series.recip(), out);
    }
}

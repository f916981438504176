//! A leak as a plain resistance.

use super::element::{ElementLaw, branch};
use super::phasor::Phasor;

/// Leak resistance R_AL between a chamber and the outside (or between two chambers).
#[derive(Clone, Debug)]
pub struct Leak {
    /// R_AL, Pa·s/m³.
    pub resistance: f64,
}

impl ElementLaw for Leak {
    #[inline(always)]
    fn admittance<P: Phasor>(&self, _omega: P::Omega, out: &mut [P]) {
        branch(P::constant(1.0 / self.resistance, 0.0), out);
    }
}

//! A leak as a plain resistance.

use crate::air::Air;

use super::element::{ElementLaw, branch};
use super::phasor::Phasor;

/// Leak resistance R_AL between a chamber and the outside (or between two chambers).
#[derive(Clone, Debug)]
pub struct Leak {
    /// R_AL, Pa·s/m³.
    pub resistance: f64,
}

/// Resistance (Pa·s/m³) of an open joint: a slit of `area` m² and `width` m through a board of thickness `through` m.
///
/// Laminar flow between parallel walls, R = 12·μ·t/(A·w²) (Morse & Ingard, *Theoretical Acoustics*, and every book on
/// viscous flow); an estimate: at high level the ends of the slit resist more, and real joints are never even.
pub fn joint(air: &Air, area: f64, width: f64, through: f64) -> f64 {
    12.0 * air.viscosity * through / (area * width * width)
}

impl ElementLaw for Leak {
    #[inline(always)]
    fn admittance<P: Phasor>(&self, _omega: P::Omega, out: &mut [P]) {
        branch(P::constant(1.0 / self.resistance, 0.0), out);
    }
}

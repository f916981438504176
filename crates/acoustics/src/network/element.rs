//! What an element of the network must say about itself.

use super::phasor::{Jet, Phasor};
use num_complex::Complex64;

/// The law of an element: the short-circuit admittances between its terminals, written once for every
/// number type. Positive current runs from the node into the element.
///
/// `y` is the packed upper triangle of the symmetric admittance matrix, row by row: for two terminals
/// `[y11, y12, y22]` in m³/(s·Pa). Elements are reciprocal, hence symmetric.
pub trait ElementLaw: std::fmt::Debug + Send + Sync {
    /// How many terminals the element has (1 or more); one to the outside counts.
    fn terminals(&self) -> usize {
        2
    }
    /// Where it resonates by itself, Hz, up to a frequency (Hz), and the time (s) sound takes through it: a duct resonates
    /// again after every half of that. So that no narrow resonance is stepped over.
    fn resonances(&self, _highest: f64) -> (Vec<f64>, f64) {
        (Vec::new(), 0.0)
    }
    /// Resistance (Pa·s/m³) at ω (rad/s) that stands for what its last terminal radiates; 0 where it has none.
    fn radiation_resistance(&self, _omega: f64) -> f64 {
        0.0
    }
    /// How much reckoning it takes at one frequency, in that of a plain mass (a rough count, for who has to bound work).
    fn weight(&self) -> usize {
        1
    }
    /// Writes the admittances at the angular frequency ω (rad/s, > 0).
    fn admittance<P: Phasor>(&self, omega: P::Omega, y: &mut [P]);
}

/// An element as the solvers see it; implemented for every [`ElementLaw`].
pub trait Element: std::fmt::Debug + Send + Sync {
    /// See [`ElementLaw::terminals`].
    fn terminals(&self) -> usize;
    /// See [`ElementLaw::resonances`].
    fn resonances(&self, highest: f64) -> (Vec<f64>, f64);
    /// See [`ElementLaw::radiation_resistance`].
    fn radiation_resistance(&self, omega: f64) -> f64;
    /// See [`ElementLaw::weight`].
    fn weight(&self) -> usize;
    /// Admittances at one frequency: the plain path.
    fn plain(&self, omega: f64, y: &mut [Complex64]);
    /// Admittances with derivatives at four frequencies: the fast path.
    fn at_four(&self, omega: wide::f64x4, y: &mut [Jet]);
}

impl<T: ElementLaw> Element for T {
    fn terminals(&self) -> usize {
        ElementLaw::terminals(self)
    }
    fn resonances(&self, highest: f64) -> (Vec<f64>, f64) {
        ElementLaw::resonances(self, highest)
    }
    fn radiation_resistance(&self, omega: f64) -> f64 {
        ElementLaw::radiation_resistance(self, omega)
    }
    fn weight(&self) -> usize {
        ElementLaw::weight(self)
    }
    fn plain(&self, omega: f64, y: &mut [Complex64]) {
        self.admittance::<Complex64>(omega, y)
    }
    fn at_four(&self, omega: wide::f64x4, y: &mut [Jet]) {
        self.admittance::<Jet>(omega, y)
    }
}

/// Writes a plain branch of admittance `y` between two terminals.
#[inline(always)]
pub fn branch<P: Phasor>(y: P, out: &mut [P]) {
    out[0] = y;
    out[1] = -y;
    out[2] = y;
}

//! The electrical side, as the terminals of the woofers see it: a voltage behind an impedance (Thévenin 1883), both over frequency.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | E | open-circuit voltage, rms | V |
//! | Z | impedance in series with the woofers | Ω |
//!
//! Everything that lies before the terminals, amplifier and leads today, comes through here: who computes asks for [`Source::voltage`]
//! and [`Source::impedance`] at a frequency and knows nothing else of it.

use crate::network::phasor::Phasor;
use num_complex::Complex64;

/// What drives the woofers.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Source {
    /// Open-circuit voltage of the amplifier, V rms.
    pub volts: f64,
    /// Resistance of amplifier and leads, Ω.
    pub resistance: f64,
}

impl Source {
    /// A source of so many volts behind a resistance.
    pub fn new(volts: f64, resistance: f64) -> Source {
        Source { volts, resistance }
    }

    /// E at a frequency, V rms.
    #[inline(always)]
    pub fn voltage<P: Phasor>(&self, _omega: P::Omega) -> P {
        P::constant(self.volts, 0.0)
    }

    /// Z at a frequency, Ω.
    #[inline(always)]
    pub fn impedance<P: Phasor>(&self, _omega: P::Omega) -> P {
        P::constant(self.resistance, 0.0)
    }

    /// Z where it is a resistance, at the low end, Ω: what the woofers' Q is counted with.
    pub fn low_resistance(&self) -> f64 {
        self.impedance::<Complex64>(0.0).re
    }

    /// Current into a load (Ω) at an angular frequency, A rms.
    pub fn current(&self, omega: f64, load: Complex64) -> f64 {
        self.voltage::<Complex64>(omega).norm() / (load + self.impedance::<Complex64>(omega)).norm()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A divider by hand: 12 V behind 2 Ω into 3 + 4j Ω, |5 + 4j| = √41.
    #[test]
    fn a_divider() {
        let source = Source::new(12.0, 2.0);
        assert!((source.current(100.0, Complex64::new(3.0, 4.0)) - 12.0 / 41f64.sqrt()).abs() < 1e-12);
        assert_eq!(source.low_resistance(), 2.0);
    }
}

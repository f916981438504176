//! The electrical side, as the terminals of the woofers see it: a voltage behind an impedance (Thévenin 1883), both over frequency.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | E | open-circuit voltage the amplifier would have with every filter at gain 1, rms | V |
//! | H | response of all filters before it and in it | |
//! | Rs | resistance of amplifier and leads | Ω |
//! | Z | impedance in series with the woofers | Ω |
//!
//! Everything that lies before the terminals comes through here, filters, amplifier, leads and parts: who computes asks for
//! [`Source::terminals`] at a frequency and knows nothing else of it.

use crate::filters::Cascade;
use crate::ladder::{Behind, Ladder};
use crate::network::phasor::Phasor;
use num_complex::Complex64;
use std::f64::consts::TAU;

/// Q above which a filter's bend may be narrower than two steps of a tenth in ln f: its half width is 1/(2Q) of its frequency.
const NARROW: f64 = 3.0;

/// What drives the woofers.
#[derive(Clone, Debug, PartialEq)]
pub struct Source {
    /// Open-circuit voltage of the amplifier with every filter at gain 1, V rms.
    pub volts: f64,
    /// Resistance of amplifier and leads, Ω.
    pub resistance: f64,
    /// Every filter before the amplifier and in it.
    pub filters: Cascade,
    /// The parts between leads and woofers.
    pub ladder: Ladder,
}

/// The electrical side at one frequency or several.
#[derive(Clone, Copy, Debug)]
pub struct Terminals<P: Phasor> {
    /// Open-circuit voltage of the amplifier, E·H, V rms.
    pub emf: P,
    /// Open-circuit voltage at the woofers' terminals, V rms.
    pub voltage: P,
    /// Impedance in series with the woofers, Ω.
    pub impedance: P,
    /// The open-circuit voltage at the woofers' terminals over that of the amplifier.
    pub transfer: P,
    /// The parts between, behind the resistance; `None` without any.
    pub parts: Option<Behind<P>>,
}

impl Source {
    /// A source of so many volts behind a resistance.
    pub fn new(volts: f64, resistance: f64) -> Source {
        Source { volts, resistance, filters: Cascade::default(), ladder: Ladder::default() }
    }

    /// The electrical side at an angular frequency.
    #[inline(always)]
    pub fn terminals<P: Phasor>(&self, omega: P::Omega) -> Terminals<P> {
        let emf = if self.filters.is_plain() {
            P::constant(self.volts, 0.0)
        } else {
            self.filters.response::<P>(omega).scale(self.volts)
        };
        if self.ladder.rungs.is_empty() {
            let impedance = P::constant(self.resistance, 0.0);
            return Terminals { emf, voltage: emf, impedance, transfer: P::one(), parts: None };
        }
        let parts = self.ladder.behind::<P>(omega, self.resistance);
        let transfer = parts.open.recip();
        Terminals { emf, voltage: emf * transfer, impedance: parts.short * transfer, transfer, parts: Some(parts) }
    }

    /// Z at an angular frequency, Ω.
    #[inline(always)]
    pub fn impedance<P: Phasor>(&self, omega: P::Omega) -> P {
        if self.ladder.rungs.is_empty() {
            return P::constant(self.resistance, 0.0);
        }
        self.terminals::<P>(omega).impedance
    }

    /// What of Z is a resistance at a frequency (Hz), Ω: what the woofers' Q is counted with.
    pub fn resistance_at(&self, frequency: f64) -> f64 {
        self.impedance::<Complex64>(TAU * frequency).re
    }

    /// Where its filters and parts resonate more narrowly than steps of a tenth in ln f would see, Hz.
    pub fn resonances(&self) -> Vec<f64> {
        let narrow = self.filters.sections.iter().filter(|s| s.narrower_than(NARROW));
        let filters = narrow.map(|s| s.omega / TAU);
        filters.chain(self.ladder.rungs.iter().filter_map(|r| r.made_of.resonance())).collect()
    }

    /// Current into a load (Ω) at the woofers' terminals at an angular frequency, A rms.
    pub fn current(&self, omega: f64, load: Complex64) -> f64 {
        let there = self.terminals::<Complex64>(omega);
        there.voltage.norm() / (load + there.impedance).norm()
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
        assert_eq!(source.resistance_at(30.0), 2.0);
    }
}

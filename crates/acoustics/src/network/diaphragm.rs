//! The driver's cone and motor between the air behind it and the air in front of it.

use super::element::{ElementLaw, branch};
use super::phasor::Phasor;
use crate::driver::Motor;

/// A driven diaphragm: terminal 0 is the rear, terminal 1 the front.
///
/// (p_r - p_f)·Sd + Bl·i = Zm·v and E = (Rg + Ze)·i + Bl·v give the volume velocity U = Sd·v toward the front,
/// U = Y·(p_r - p_f) + Y·P, with 1/Y = Zm/Sd² + (Bl/Sd)²/(Rg + Ze) and P = (Bl/Sd)·E/(Rg + Ze).
/// Beranek, *Acoustics* (1954), ch. 7-8.
#[derive(Clone, Debug)]
pub struct Diaphragm {
    /// Motor and suspension of the whole array.
    pub motor: Motor,
    /// Resistance of source and leads Rg, Ω.
    pub source_resistance: f64,
}

impl Diaphragm {
    /// Rg + Ze, Ω.
    #[inline(always)]
    pub fn loop_impedance<P: Phasor>(&self, omega: P::Omega) -> P {
        let coil = &self.motor.coil;
        let series = P::j_omega(omega, coil.le) + P::constant(coil.re + self.source_resistance, 0.0);
        match coil.parallel {
            None => series,
            Some((l2, r2)) => {
                let x = P::j_omega(omega, l2 / r2);
                series + (x / (P::one() + x)).scale(r2)
            }
        }
    }

    /// Y of the law above and the pressure source P per volt.
    #[inline(always)]
    pub fn norton<P: Phasor>(&self, omega: P::Omega) -> (P, P) {
        let m = &self.motor;
        let (force, area2) = (m.bl / m.sd, m.sd * m.sd);
        let loop_admittance = self.loop_impedance::<P>(omega).recip();
        let source = loop_admittance.scale(force);
        let mass = P::j_omega(omega, m.mms / area2);
        // 1/(jωC) as -j·(1/C)·ω^-1, written through the reciprocal of jω
        let spring = P::j_omega(omega, m.cms * area2).recip();
        let z = mass + spring + P::constant(m.rms / area2, 0.0) + source.scale(force);
        (z.recip(), source)
    }
}

impl ElementLaw for Diaphragm {
    #[inline(always)]
    fn admittance<P: Phasor>(&self, omega: P::Omega, out: &mut [P]) {
        branch(self.norton::<P>(omega).0, out);
    }
}

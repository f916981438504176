//! The driver's cone and motor between the air behind it and the air in front of it.
//!
//! One diaphragm (all cones of an array moving alike), E the voltage behind Rg:
//! (p_r - p_f) + φ·i = Z·U and E = L·i + φ·U, with φ = Bl/Sd, Z = (jωMms + Rms + 1/jωCms)/Sd², L = Rg + Ze. Hence
//! U = Y·(p_r - p_f) + Y·P with 1/Y = Z + φ²/L, P = φ·E/L. Beranek, *Acoustics* (1954), ch. 7-8.
//!
//! Isobaric pairs are two equal banks with the air between them at p_c = (U_r - U_f)/(jωC). Sum and difference of
//! their equations part: s = U_r + U_f = Ys·(p_r - p_f) + Ys·P and d = U_r - U_f = Yd·(p_r + p_f), with
//! * banks on one voltage: L = 2Rg + Ze, 1/Ys = Z + φ²/L, P = 2φE/L, i = (2E - φs)/L, 1/Yd = Z + φ²/Ze + 2/(jωC);
//! * banks on one current: L = Rg + 2Ze, 1/Ys = Z + 2φ²/L, P = 2φE/L, i = (E - φs)/L, 1/Yd = Z + 2/(jωC).
//!
//! (This project's own elimination of the textbook equations; held to the uneliminated ones by property tests and
//! to ngspice.)

use super::phasor::Phasor;
use crate::driver::{Motor, Pairing};
use crate::source::Source;

/// A driven diaphragm, or two behind one another.
#[derive(Clone, Debug)]
pub struct Diaphragm {
    /// Motor and suspension of the whole array; of isobaric pairs, of each bank.
    pub motor: Motor,
    /// What drives it: E behind Rg.
    pub source: Source,
    /// The air and wiring between the banks of isobaric pairs.
    pub pairing: Option<Pairing>,
}

/// A diaphragm as the network sees it, per volt of the source: the flow taken from the rear node is
/// y_own·p_r + y_across·p_f + injected, the flow given to the front node is -(y_across·p_r + y_own·p_f) + injected.
#[derive(Clone, Copy, Debug)]
pub struct Driven<P> {
    /// Admittance of each side by itself, m³/(s·Pa).
    pub own: P,
    /// Admittance between the sides, m³/(s·Pa).
    pub across: P,
    /// Flow from rear to front with no pressure on either side, m³/s per V.
    pub injected: P,
    /// φ/L: what the cones' flow (of pairs the sum of both) takes from the current, A·s/m³.
    pub back: P,
    /// Current with the cones held, A per V.
    pub held: P,
}

impl Diaphragm {
    /// Ze of the motor's coil, Ω.
    #[inline(always)]
    pub fn coil_impedance<P: Phasor>(&self, omega: P::Omega) -> P {
        self.motor.coil.impedance(omega)
    }

    /// Z of one bank without its motor: mass, loss and compliance over Sd².
    #[inline(always)]
    pub fn mechanical<P: Phasor>(&self, omega: P::Omega) -> P {
        let m = &self.motor;
        let area2 = m.sd * m.sd;
        P::in_series(omega, m.rms / area2, m.mms / area2, 1.0 / (m.cms * area2))
    }

    /// The law of this module's head, behind an impedance (Ω) of the source's.
    #[inline(always)]
    pub fn driven<P: Phasor>(&self, omega: P::Omega, rg: P) -> Driven<P> {
        let force = self.motor.bl / self.motor.sd;
        let ze = self.coil_impedance::<P>(omega);
        let z = self.mechanical::<P>(omega);
        let Some(pairing) = self.pairing else {
            let per_loop = (ze + rg).recip();
            let back = per_loop.scale(force);
            let y = (z + back.scale(force)).recip();
            return Driven { own: y, across: -y, injected: y * back, back, held: per_loop };
        };
        let air = P::j_omega(omega, pairing.compliance).recip().scale(2.0);
        let (per_loop, weight, volts, apart) = if pairing.series {
            ((ze.scale(2.0) + rg).recip(), 2.0, 1.0, z + air)
        } else {
            let apart = z + air + ze.recip().scale(force * force);
            ((ze + rg.scale(2.0)).recip(), 1.0, 2.0, apart)
        };
        let back = per_loop.scale(force);
        let sum = (z + back.scale(force * weight)).recip().scale(0.5);
        let difference = apart.recip().scale(0.5);
        Driven {
            own: sum + difference,
            across: difference - sum,
            injected: sum * back.scale(2.0),
            back,
            held: per_loop.scale(volts),
        }
    }

    /// Resonance of the cones by themselves, Hz.
    fn resonance(&self) -> f64 {
        1.0 / (std::f64::consts::TAU * (self.motor.mms * self.motor.cms).sqrt())
    }

    /// Resistance of all coils in their wiring, Ω.
    pub fn resistance(&self) -> f64 {
        match self.pairing {
            None => self.motor.coil.re,
            Some(Pairing { series: true, .. }) => 2.0 * self.motor.coil.re,
            Some(Pairing { series: false, .. }) => 0.5 * self.motor.coil.re,
        }
    }

    /// Flow times ω far above resonance, coil inductance left out, m³/s² per V: what the motor gives against its
    /// mass alone.
    pub fn acceleration(&self) -> f64 {
        let m = &self.motor;
        let (rg, re) = (self.source.resistance_at(self.resonance()), m.coil.re);
        let per_volt = match self.pairing {
            None => 1.0 / (rg + re),
            Some(Pairing { series: true, .. }) => 1.0 / (rg + 2.0 * re),
            Some(Pairing { series: false, .. }) => 1.0 / (2.0 * rg + re),
        };
        m.sd * m.bl * per_volt / m.mms
    }
}

//! The six figures everything else follows from.

use crate::air::Air;
use crate::level::P_REF;
use std::f64::consts::{PI, TAU};

/// The six figures everything else follows from, SI.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ThieleSmall {
    /// Resonance, Hz.
    pub fs: f64,
    /// Mechanical Q.
    pub qms: f64,
    /// Electrical Q with Re alone.
    pub qes: f64,
    /// Vas, m³.
    pub vas: f64,
    /// Coil resistance, Ω; of two coils, both in parallel.
    pub re: f64,
    /// Cone area, m².
    pub sd: f64,
}

impl ThieleSmall {
    /// Total Q.
    pub fn qts(&self) -> f64 {
        self.qms * self.qes / (self.qms + self.qes)
    }
    /// Total Q with a resistance (Ω) of source and leads before the coil.
    pub fn qts_with_source(&self, rg: f64) -> f64 {
        let qes = self.qes * (self.re + rg) / self.re;
        self.qms * qes / (self.qms + qes)
    }
    /// Compliance, m/N.
    pub fn cms(&self, air: &Air) -> f64 {
        self.vas / (air.bulk_modulus() * self.sd * self.sd)
    }
    /// Moving mass with air load, kg.
    pub fn mms(&self, air: &Air) -> f64 {
        1.0 / ((TAU * self.fs).powi(2) * self.cms(air))
    }
    /// Suspension loss, N·s/m.
    pub fn rms(&self, air: &Air) -> f64 {
        TAU * self.fs * self.mms(air) / self.qms
    }
    /// Force factor, T·m; of two coils in parallel, which is that of each.
    pub fn bl(&self, air: &Air) -> f64 {
        (TAU * self.fs * self.mms(air) * self.re / self.qes).sqrt()
    }
    /// Reference efficiency in half space (1): (4π²/c³)·fs³·Vas/Qes.
    pub fn efficiency(&self, air: &Air) -> f64 {
        4.0 * PI * PI / air.c.powi(3) * self.fs.powi(3) * self.vas / self.qes
    }
    /// Half-space level at 1 m, dB, for `volts` rms on Re (two coils in parallel). The handbooks' rounded 112.0 + 10·log η0 + 10·log(V²/Re)
    /// lies 0.16 dB lower at ρc = 413, since it takes a rounded ρc.
    pub fn reference_level_db(&self, air: &Air, volts: f64) -> f64 {
        let watts = self.efficiency(air) * volts * volts / self.re;
        10.0 * (watts * air.rho * air.c / (TAU * P_REF * P_REF)).log10()
    }
    /// The same woofer with a mass (kg) fixed to its cone: fs falls, the Qs rise with the root of the mass, Vas, Re
    /// and Sd stay.
    pub fn with_added_mass(&self, mass: f64, air: &Air) -> ThieleSmall {
        if mass == 0.0 {
            return *self;
        }
        let ratio = (1.0 + mass / self.mms(air)).sqrt();
        ThieleSmall { fs: self.fs / ratio, qms: self.qms * ratio, qes: self.qes * ratio, ..*self }
    }
    /// The same woofer in another air: masses, compliance and motor stay, Vas goes as ρc² (the air load in Mms is taken as it is).
    pub fn in_air(&self, from: &Air, to: &Air) -> ThieleSmall {
        ThieleSmall { vas: self.vas * to.bulk_modulus() / from.bulk_modulus(), ..*self }
    }
    /// Efficiency-bandwidth product fs/Qes, Hz.
    pub fn ebp(&self) -> f64 {
        self.fs / self.qes
    }
}

//! A volume of air as a compliance, plain or filled, with the absorption resistance in series.

use super::element::{ElementLaw, branch};
use super::phasor::Phasor;
use crate::fill::FibreModel;

/// Compliance of a closed volume against the outside: y = 1/(R_AB + 1/(jωC_AB)).
///
/// C_AB = C_free + V_fill/K(ω). Small (JAES 1972/1973) for the lumped form.
#[derive(Clone, Debug)]
pub struct Volume {
    /// Compliance of the part without a fibre model, m³/Pa.
    pub compliance: f64,
    /// The filled part: its volume (m³) and the model of its bulk modulus.
    pub filled: Option<(f64, FibreModel)>,
    /// Absorption R_AB in series, Pa·s/m³; 0 for none.
    pub absorption: f64,
}

impl Volume {
    /// The complex compliance C_AB(ω), m³/Pa, without the absorption resistance.
    pub fn complex_compliance<P: Phasor>(&self, omega: P::Omega) -> P {
        let plain = P::constant(self.compliance, 0.0);
        match &self.filled {
            None => plain,
            Some((volume, model)) => plain + model.bulk_modulus::<P>(omega).recip().scale(*volume),
        }
    }
}

impl ElementLaw for Volume {
    #[inline(always)]
    fn admittance<P: Phasor>(&self, omega: P::Omega, out: &mut [P]) {
        let susceptance = match &self.filled {
            None => P::j_omega(omega, self.compliance),
            Some(_) => P::j_omega(omega, 1.0) * self.complex_compliance::<P>(omega),
        };
        branch(
            if self.absorption == 0.0 {
                susceptance
            } else {
                susceptance / (P::one() + susceptance.scale(self.absorption))
            },
            out,
        );
    }
}

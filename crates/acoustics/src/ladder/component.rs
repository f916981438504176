//! What elements are made of: coils with their wire, capacitors with their loss, resistors.

use crate::network::phasor::Phasor;
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What one component is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Sort {
    /// A coil.
    Coil,
    /// A capacitor.
    Capacitor,
    /// A resistor.
    Resistor,
}

/// One component: a reactance with the resistance in it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Component {
    /// What it is.
    pub sort: Sort,
    /// H, F or Ω.
    pub value: f64,
    /// Resistance of a coil's wire or a capacitor's loss, Ω; 0 of a resistor.
    pub resistance: f64,
    /// The field of its value in the element's part of the document.
    pub field: &'static str,
}

/// Least resistance an element is reckoned with, Ω: a perfect resonance would be a short circuit without bounds.
const LEAST: f64 = 1e-12;

impl Component {
    /// A coil, from mH.
    pub fn coil(mh: f64, resistance: f64) -> Component {
        Component { sort: Sort::Coil, value: mh * 1e-3, resistance, field: "inductance_mh" }
    }
    /// A capacitor, from µF.
    pub fn capacitor(uf: f64, resistance: f64) -> Component {
        Component { sort: Sort::Capacitor, value: uf * 1e-6, resistance, field: "capacitance_uf" }
    }
    /// A resistor.
    pub fn resistor(ohm: f64) -> Component {
        Component { sort: Sort::Resistor, value: ohm, resistance: 0.0, field: "resistance_ohm" }
    }

    /// Its value in the unit of its field.
    pub fn in_field(&self) -> f64 {
        match self.sort {
            Sort::Coil => self.value * 1e3,
            Sort::Capacitor => self.value * 1e6,
            Sort::Resistor => self.value,
        }
    }

    /// Resistance (Ω), inductance (H) and elastance (1/F) that it is in series.
    #[inline(always)]
    fn in_series(&self) -> (f64, f64, f64) {
        match self.sort {
            Sort::Resistor => (self.value, 0.0, 0.0),
            Sort::Coil => (self.resistance, self.value, 0.0),
            Sort::Capacitor => (self.resistance, 0.0, 1.0 / self.value),
        }
    }

    /// Its impedance, Ω.
    #[inline(always)]
    pub fn impedance<P: Phasor>(&self, omega: P::Omega) -> P {
        let (r, l, e) = self.in_series();
        P::in_series(omega, r, l, e)
    }

    /// Its admittance, S.
    #[inline(always)]
    pub fn admittance<P: Phasor>(&self, omega: P::Omega) -> P {
        match self.sort {
            Sort::Resistor => P::constant(1.0 / (self.value + LEAST), 0.0),
            Sort::Capacitor if self.resistance == 0.0 => P::j_omega(omega, self.value),
            _ => {
                let (r, l, e) = self.in_series();
                P::in_series(omega, r + LEAST, l, e).recip()
            }
        }
    }

    /// Resistance that turns power to heat in it, Ω.
    fn loss(&self) -> f64 {
        if self.sort == Sort::Resistor { self.value } else { self.resistance }
    }
}

/// Components joined to one element.
#[derive(Clone, Debug, PartialEq)]
pub struct Joined {
    /// Whether one current flows through all of them; else one voltage lies across all.
    pub in_series: bool,
    /// The components.
    pub of: Vec<Component>,
}

/// What a component bears, rms.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stress {
    /// The component.
    pub component: Component,
    /// Current through it, A.
    pub amperes: f64,
    /// Voltage across it, V.
    pub volts: f64,
    /// Heat in it, W.
    pub watts: f64,
}

impl Joined {
    /// One after another.
    pub fn series(of: Vec<Component>) -> Joined {
        Joined { in_series: true, of }
    }
    /// Side by side.
    pub fn parallel(of: Vec<Component>) -> Joined {
        Joined { in_series: false, of }
    }

    /// Impedance of all of it, Ω.
    #[inline(always)]
    pub fn impedance<P: Phasor>(&self, omega: P::Omega) -> P {
        match self.of.as_slice() {
            [one] => one.impedance(omega),
            of if self.in_series => {
                let each = of.iter().map(Component::in_series);
                let (r, l, e) = each.fold((LEAST, 0.0, 0.0), |sum, c| (sum.0 + c.0, sum.1 + c.1, sum.2 + c.2));
                P::in_series(omega, r, l, e)
            }
            _ => self.admittance::<P>(omega).recip(),
        }
    }

    /// Admittance of all of it, S.
    #[inline(always)]
    pub fn admittance<P: Phasor>(&self, omega: P::Omega) -> P {
        match self.of.as_slice() {
            [one] => one.admittance(omega),
            _ if self.in_series => self.impedance::<P>(omega).recip(),
            of => of.iter().fold(P::zero(), |sum, c| sum + c.admittance(omega)),
        }
    }

    /// Where its coil and its capacitor resonate, Hz; `None` without both.
    pub fn resonance(&self) -> Option<f64> {
        let value = |sort| self.of.iter().find(|c| c.sort == sort).map(|c| c.value);
        let (coil, capacitor) = (value(Sort::Coil)?, value(Sort::Capacitor)?);
        Some(1.0 / (std::f64::consts::TAU * (coil * capacitor).sqrt()))
    }

    /// What each component bears with a current (A) through all of it at an angular frequency.
    pub fn stresses(&self, omega: f64, current: Complex64) -> Vec<Stress> {
        let volts = current * self.impedance::<Complex64>(omega);
        let one = |component: &Component| {
            let z = component.impedance::<Complex64>(omega);
            let through = if self.in_series { current } else { volts / (z + LEAST) };
            Stress {
                component: *component,
                amperes: through.norm(),
                volts: (through * z).norm(),
                watts: through.norm_sqr() * component.loss(),
            }
        };
        self.of.iter().map(one).collect()
    }
}

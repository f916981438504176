//! Electro-acoustic networks of woofers and enclosures.
//!
//! Conventions, held everywhere in this crate:
//! * SI units and `f64` inside; a name without a unit is SI, a name with one (`vas_l`) is a boundary value.
//! * Phasors with the time factor e^{+jωt}; magnitudes are rms, a *peak* figure is √2 times that.
//! * Acoustic-impedance analogy: pressure (Pa) plays voltage, volume velocity (m³/s) plays current.
//! * The source voltage stands behind the source resistance; impedance is what the terminals show without it.
//! * Pressure at distance r into the solid angle Ω: p = jωρU/(Ωr), the flight time r/c left out.
//!
//! The crate has no interface and does no I/O. A family of enclosures ([`families`]) wires elements
//! ([`network`]) together; the solver and the outputs ([`outputs`]) know no families.
#![deny(missing_docs)]

pub mod air;
pub mod alignments;
pub mod driver;
pub mod families;
pub mod fill;
pub mod halt;
pub mod level;
pub mod network;
pub mod outputs;
pub mod panels;
pub mod path;
pub mod pipes;
pub mod port;
pub mod radiation;
pub mod source;

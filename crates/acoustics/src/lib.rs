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
//!
//! ```
//! use oak_drum_acoustics::air::Air;
//! use oak_drum_acoustics::driver::Woofer;
//! let sheet = Woofer { fs_hz: Some(30.0), qms: Some(5.0), qes: Some(0.4), vas_l: Some(120.0), re_ohm: Some(5.6),
//!     sd_cm2: Some(530.0), ..Woofer::default() };
//! let woofer = sheet.resolve(&Air::at(20.0, 101_325.0)).unwrap();
//! // what the sheet leaves out follows from what it states: 1/Qts = 1/Qms + 1/Qes
//! assert!((woofer.ts.qts() - 1.0 / (1.0 / 5.0 + 1.0 / 0.4)).abs() < 1e-12);
//! ```
#![deny(missing_docs)]

pub mod air;
pub mod alignments;
pub mod amplifier;
pub mod cable;
pub mod driver;
pub mod families;
pub mod fault;
pub mod fill;
pub mod filters;
pub mod flatten;
pub mod halt;
pub mod heat;
pub mod info;
pub mod ladder;
pub mod level;
pub mod network;
pub mod outputs;
pub mod panels;
pub mod path;
pub mod pipes;
pub mod port;
pub mod radiation;
pub mod room;
pub mod source;

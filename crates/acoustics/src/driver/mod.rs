//! The driver: from the figures of a data sheet to a motor, and what the sheet says against itself.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | fs | resonance in free air | Hz |
//! | Qms, Qes, Qts | mechanical, electrical, total Q at fs | 1 |
//! | Vas | volume of air as stiff as the suspension | m³ |
//! | Re, Le | resistance, inductance of the coil | Ω, H |
//! | Sd | cone area | m² |
//! | Mms, Cms, Rms | moving mass with air load, compliance, loss | kg, m/N, N·s/m |
//! | Bl | force factor | T·m |
//!
//! Relations (Thiele 1961; Small, JAES 1972): Cms = 1/((2πfs)²Mms), Vas = ρc²Sd²Cms, Qes = 2πfs·Mms·Re/Bl²,
//! Qms = 2πfs·Mms/Rms, 1/Qts = 1/Qes + 1/Qms, η0 = (4π²/c³)·fs³·Vas/Qes. Qes is stated with Re alone.

mod array;
mod coil;
mod indications;
mod resolve;
mod sheet;
mod thiele_small;

pub use array::{Arrangement, Array, CoilWiring, Motor, Pairing, wirings};
pub use coil::Coil;
pub use indications::{INDICATIONS, Indication, Reading, indications};
pub use resolve::{Contradiction, Resolved, Undetermined};
pub use sheet::{VoiceCoils, Woofer};
pub use thiele_small::ThieleSmall;

//! Taking a curve: the sweep that is played, what is heard taken apart again (Farina, AES 108th Convention, 2000).
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | f1, f2 | where the sweep begins and ends | Hz |
//! | T | its length | s |
//! | L | T/ln(f2/f1): the time in which its frequency grows e-fold | s |

pub mod analyse;
pub mod buzz;
pub mod impulse;
pub mod log_sweep;
pub mod repeats;
pub mod tone;
pub mod track;
pub mod transform;

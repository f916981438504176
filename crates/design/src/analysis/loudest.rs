//! How loud a whole programme may be: the highest common drive at which nothing passes its limit anywhere in its band.
//!
//! g = min over f of E_lim(f)/|H(f)|, E_lim the highest voltage behind the amplifier's resistance that every limit allows, H the
//! filters. A sine's highest level does not know H; a programme's does: a boost costs level wherever it makes a limit come first.

use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::network::Network;
use oak_drum_acoustics::outputs::{Conditions, LimitingFactor, Sweep};

/// Frequencies of the programme's band it is looked at: the result hangs a little on how many.
const POINTS: usize = 61;

/// The loudest a programme may be.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Loudest {
    /// Drive with every filter at gain 1, V rms.
    pub volts: f64,
    /// Where a limit is met first, Hz.
    pub at_hz: f64,
    /// Which.
    pub limiting: LimitingFactor,
}

/// The loudest a programme between two frequencies (Hz) may be; `None` where nothing limits.
pub fn loudest(network: &Network, conditions: Conditions, from: f64, to: f64) -> Option<Loudest> {
    let volts = network.diaphragm.source.volts;
    let curves = Sweep::new(network, conditions).curves(&log_frequencies(from, to, POINTS));
    let least = curves.headroom.iter().enumerate().min_by(|a, b| a.1.total_cmp(b.1))?;
    let (at, factor) = least;
    if curves.limiting[at] == LimitingFactor::None {
        return None;
    }
    Some(Loudest { volts: volts * factor, at_hz: curves.frequency[at], limiting: curves.limiting[at] })
}

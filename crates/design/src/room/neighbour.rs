//! What gets to a neighbour, and for how long of an evening it may.

use crate::analysis::Analysis;
use crate::room::heard::Heard;
use oak_drum_acoustics::room::partition::{a_weighting_db, loss_db};
use oak_drum_document::Neighbour;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What gets to a neighbour at this drive: an estimate by the mass law, with the wall's area taken equal to what the neighbour's room
/// absorbs.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct NeighbourView {
    /// Mass per area of what stands between, kg/m².
    pub mass_kg_per_m2: f64,
    /// Level of the programme at the seats, dB.
    pub here_db: f64,
    /// The same behind the wall, dB.
    pub there_db: f64,
    /// The same weighted A, dB.
    pub there_dba: f64,
    /// How many hours of the evening it may play under the limit, at most all.
    pub hours: f64,
    /// By how much it is turned down to play all evening, dB; 0 where it may.
    pub softer_db: f64,
}

/// At this drive, the programme spread evenly over ln f in the band (pink), its mean level that of a sine at this drive.
pub fn neighbour(analysis: &Analysis, heard: &Heard, behind: &Neighbour) -> NeighbourView {
    let mass = behind.mass_kg_per_m2.unwrap_or(behind.wall.mass_per_area());
    let hz = &heard.playing.hz;
    let power = |db: f64| 10f64.powf(db / 10.0);
    let mean = |each: &dyn Fn(usize) -> f64| {
        10.0 * (hz.iter().enumerate().map(|(i, _)| each(i)).sum::<f64>() / hz.len() as f64).log10()
    };
    let seats = heard.levels.len() as f64;
    let here = |i: usize| heard.levels.iter().map(|seat| power(seat[i])).sum::<f64>() / seats;
    let through = |i: usize| here(i) * power(-loss_db(&analysis.context.air, mass, hz[i]));
    let there_dba = mean(&|i| through(i) * power(a_weighting_db(hz[i])));
    let over = there_dba - behind.limit_dba;
    NeighbourView {
        mass_kg_per_m2: mass,
        here_db: mean(&here),
        there_db: mean(&through),
        there_dba,
        hours: behind.evening_h * power(-over.max(0.0)),
        softer_db: over.max(0.0),
    }
}

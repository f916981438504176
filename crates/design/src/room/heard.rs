//! A design in its room over the band it plays: what rules, maps and searches begin from.

use crate::analysis::Analysis;
use crate::room::playing::Playing;
use crate::room::response::{Evenness, at_seats, evenness, level};
use crate::room::surroundings::Surroundings;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_document::InRoom;

/// The lowest frequency that is looked at, Hz.
const LOWEST: f64 = 12.0;
/// Frequencies an octave.
const AN_OCTAVE: f64 = 24.0;

/// A design in its room.
#[derive(Clone, Debug)]
pub struct Heard {
    /// What surrounds it.
    pub surroundings: Surroundings,
    /// What plays there, at the band's frequencies.
    pub playing: Playing,
    /// Levels by seat and frequency, dB.
    pub levels: Vec<Vec<f64>>,
    /// How many frequencies make the lowest octave.
    pub octave: usize,
}

/// The band a design is judged in within its room, Hz: from its lowest note to how far it plays, at least an octave, and not above
/// where single modes say nothing.
pub fn band(analysis: &Analysis, surroundings: &Surroundings) -> [f64; 2] {
    let low = analysis.lowest_note().clamp(LOWEST, 150.0);
    let high = analysis.design.brief.plays_to().min(surroundings.ends()).min(300.0);
    [low, high.max(2.0 * low)]
}

/// Frequencies evenly over ln f, about so many an octave, and how many make the lowest one.
pub fn frequencies([low, high]: [f64; 2], an_octave: f64) -> (Vec<f64>, usize) {
    let octaves = (high / low).log2();
    let count = (octaves * an_octave).round().max(8.0) as usize + 1;
    let octave = ((count - 1) as f64 / octaves).round() as usize + 1;
    (log_frequencies(low, high, count), octave.min(count))
}

impl Heard {
    /// A design in its room.
    pub fn of(analysis: &Analysis, room: &InRoom) -> Heard {
        let surroundings = Surroundings::of(&room.room.space, analysis.context.air);
        let (hz, octave) = frequencies(band(analysis, &surroundings), AN_OCTAVE);
        let playing = Playing::of(analysis, room, &hz);
        let levels = levels(&surroundings, &playing, room);
        Heard { surroundings, playing, levels, octave }
    }

    /// The same with things moved in the room (or other seats), the same builds playing.
    pub fn moved(&self, room: &InRoom) -> Heard {
        Heard { levels: levels(&self.surroundings, &self.playing, room), ..self.clone() }
    }

    /// How even it is.
    pub fn evenness(&self) -> Evenness {
        evenness(&self.levels, self.octave)
    }
}

fn levels(surroundings: &Surroundings, playing: &Playing, room: &InRoom) -> Vec<Vec<f64>> {
    at_seats(surroundings, playing, room).into_iter().map(|seat| seat.into_iter().map(level).collect()).collect()
}

/// What a design's room adds to its level, dB at each frequency: the mean over the seats, against the level it has at a distance (m)
/// in a solid angle (sr) by itself; several cabinets are all counted.
pub fn gain(analysis: &Analysis, room: &InRoom, hz: &[f64], distance: f64, solid_angle: f64) -> Vec<f64> {
    let surroundings = Surroundings::of(&room.room.space, analysis.context.air);
    let playing = Playing::of(analysis, room, hz);
    let seats = levels(&surroundings, &playing, room);
    let mean = crate::room::response::mean_over_seats(&seats);
    let own = crate::room::playing::Player::of(analysis, hz);
    let scale = analysis.context.air.rho / (solid_angle * distance);
    let free = |i: usize| level(own.all(i) * std::f64::consts::TAU * hz[i] * scale);
    mean.into_iter().enumerate().map(|(i, there)| there - free(i)).collect()
}

//! A design in its room over the band it plays: what rules, maps and searches begin from.

use crate::analysis::Analysis;
use crate::room::clashes::{Against, clashes, outsides};
use crate::room::playing::{Player, Playing};
use crate::room::response::{Evenness, at_seats, evenness, level, mean_over_seats};
use crate::room::surroundings::Surroundings;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_document::InRoom;
use std::f64::consts::TAU;

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

    /// Levels by seat and frequency of a design in its room, at frequencies (Hz), dB.
    pub fn levels_at(analysis: &Analysis, room: &InRoom, hz: &[f64]) -> Vec<Vec<f64>> {
        let surroundings = Surroundings::of(&room.room.space, analysis.context.air);
        levels(&surroundings, &Playing::of(analysis, room, hz), room)
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
    let mean = mean_over_seats(&Heard::levels_at(analysis, room, hz));
    let own = Player::of(analysis, hz);
    let scale = analysis.context.air.rho / (solid_angle * distance);
    let free = |i: usize| level(own.all(i) * TAU * hz[i] * scale);
    mean.into_iter().enumerate().map(|(i, there)| there - free(i)).collect()
}

/// The room a design's brief is held to: where that is wished, and nothing stands where it cannot.
pub fn held_by_brief(analysis: &Analysis) -> Option<&InRoom> {
    let room = analysis.design.room.as_ref().filter(|room| room.holds_brief)?;
    can_be_told(analysis, room).then_some(room)
}

/// Whether everything in a room stands where it can.
pub fn can_be_told(analysis: &Analysis, room: &InRoom) -> bool {
    !clashes(room, &outsides(analysis, room)).iter().any(|c| c.against != Against::KeptFree)
}

/// What a room adds in the third of an octave around a note (Hz), dB: as [`gain`].
pub fn gain_around(analysis: &Analysis, room: &InRoom, note: f64, distance: f64, solid_angle: f64) -> f64 {
    let sixth = 2f64.powf(1.0 / 6.0);
    let hz = log_frequencies(note / sixth, note * sixth, 7);
    let gain = gain(analysis, room, &hz, distance, solid_angle);
    gain.iter().sum::<f64>() / gain.len() as f64
}

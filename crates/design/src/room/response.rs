//! What is heard at the seats of a room, and how even it is.

use crate::room::playing::{Playing, in_room};
use crate::room::surroundings::Surroundings;
use num_complex::Complex64;
use oak_drum_acoustics::halt;
use oak_drum_acoustics::level::P_REF;
use oak_drum_acoustics::room::Place;
use oak_drum_document::{InRoom, Seat, StandingCabinet};
use rayon::prelude::*;
use std::f64::consts::TAU;

/// The quietest level that is told, dB.
const SILENCE: f64 = -60.0;

/// A level, dB re 20 µPa, of a pressure (Pa rms).
pub fn level(pressure: Complex64) -> f64 {
    (20.0 * (pressure.norm() / P_REF).log10()).max(SILENCE)
}

/// Where a seat's ears are, m.
pub fn ears(seat: &Seat) -> Place {
    [seat.x_m, seat.y_m, seat.ears_m]
}

/// Pressure (Pa rms) of one cabinet at a place, at each frequency; in the open where `open`.
pub fn of_cabinet(
    surroundings: &Surroundings,
    playing: &Playing,
    which: usize,
    cabinet: &StandingCabinet,
    at: Place,
    open: bool,
) -> Vec<Complex64> {
    let player = &playing.players[which];
    let mut sum = vec![Complex64::default(); playing.hz.len()];
    for (place, flow) in &player.openings {
        let heard = way(surroundings, &playing.hz, in_room(cabinet, player.outside, *place), at, open);
        sum.iter_mut().zip(heard).zip(flow).for_each(|((sum, t), u)| *sum += t[0] * u);
    }
    sum.iter().zip(&playing.hz).map(|(p, f)| p * Playing::set(cabinet, TAU * f)).collect()
}

fn way(surroundings: &Surroundings, hz: &[f64], from: Place, to: Place, open: bool) -> Vec<[Complex64; 2]> {
    if open { surroundings.open(hz, from, to) } else { surroundings.heard(hz, from, to) }
}

/// Pressure (Pa rms) of all cabinets at a place, at each frequency.
pub fn at(surroundings: &Surroundings, playing: &Playing, room: &InRoom, place: Place, open: bool) -> Vec<Complex64> {
    let mut sum = vec![Complex64::default(); playing.hz.len()];
    for (i, cabinet) in room.cabinets.iter().enumerate() {
        let own = of_cabinet(surroundings, playing, i, cabinet, place, open);
        sum.iter_mut().zip(own).for_each(|(sum, p)| *sum += p);
    }
    sum
}

/// Group delay (s) of all cabinets at a place, the way's own included: -Im(p'/p). `nudged` is what plays at frequencies larger by
/// [`NUDGE`], for what the flows turn; what the room turns is exact.
pub fn group_delay(
    surroundings: &Surroundings,
    [playing, nudged]: [&Playing; 2],
    room: &InRoom,
    place: Place,
    open: bool,
) -> Vec<f64> {
    let mut sums = vec![[Complex64::default(); 2]; playing.hz.len()];
    for ((cabinet, now), then) in room.cabinets.iter().zip(&playing.players).zip(&nudged.players) {
        for ((at, flow), (_, after)) in now.openings.iter().zip(&then.openings) {
            let heard = way(surroundings, &playing.hz, in_room(cabinet, now.outside, *at), place, open);
            for (i, (sum, [t, slope])) in sums.iter_mut().zip(heard).enumerate() {
                let omega = TAU * playing.hz[i];
                let (u, du) = (flow[i], (after[i] - flow[i]) / (omega * NUDGE));
                let late = Complex64::new(0.0, -cabinet.delay_ms * 1e-3);
                let set = Playing::set(cabinet, omega);
                sum[0] += t * u * set;
                sum[1] += (slope * u + t * du + t * u * late) * set;
            }
        }
    }
    sums.into_iter().map(|[p, slope]| if p.norm() > 0.0 { -(slope / p).im } else { 0.0 }).collect()
}

/// By how much frequencies are larger for what flows turn, as a share.
pub const NUDGE: f64 = 1e-5;

/// Pressure (Pa rms) of all cabinets at every seat: a list a seat, one entry a frequency.
pub fn at_seats(surroundings: &Surroundings, playing: &Playing, room: &InRoom) -> Vec<Vec<Complex64>> {
    let seat = halt::carried(|seat: &Seat| at(surroundings, playing, room, ears(seat), false));
    room.seats.par_iter().map(seat).collect()
}

/// How even a band is at some seats. Levels are means over the frequencies, which lie evenly in ln f.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Evenness {
    /// How far seats differ: the standard deviation of their levels at a frequency, mean over the band, dB.
    pub between: f64,
    /// How far the mean over the seats goes up and down along the band: standard deviation, dB.
    pub along: f64,
    /// Both together: root mean square of what any seat is at any frequency off the mean of all, dB.
    pub uneven: f64,
    /// Mean over seats and band, dB.
    pub level: f64,
    /// The same over the lowest octave of the band, dB.
    pub low: f64,
}

/// Over levels (dB) by seat and frequency; `octave` is how many of the frequencies make the lowest octave.
pub fn evenness(levels: &[Vec<f64>], octave: usize) -> Evenness {
    let (seats, frequencies) = (levels.len(), levels.first().map_or(0, Vec::len));
    if seats == 0 || frequencies == 0 {
        return Evenness::default();
    }
    let (n, m) = (seats as f64, frequencies as f64);
    let means = mean_over_seats(levels);
    let level = means.iter().sum::<f64>() / m;
    let octave = octave.clamp(1, frequencies);
    let low = means[..octave].iter().sum::<f64>() / octave as f64;
    let (mut between, mut square) = (0.0, 0.0);
    for (i, mean) in means.iter().enumerate() {
        let off: f64 = levels.iter().map(|seat| (seat[i] - mean).powi(2)).sum();
        between += (off / n).sqrt();
        square += levels.iter().map(|seat| (seat[i] - level).powi(2)).sum::<f64>();
    }
    let along = (means.iter().map(|mean| (mean - level).powi(2)).sum::<f64>() / m).sqrt();
    Evenness { between: between / m, along, uneven: (square / (n * m)).sqrt(), level, low }
}

/// The mean of the seats' levels (dB) at each frequency.
pub fn mean_over_seats(levels: &[Vec<f64>]) -> Vec<f64> {
    let frequencies = levels.first().map_or(0, Vec::len);
    (0..frequencies).map(|i| levels.iter().map(|seat| seat[i]).sum::<f64>() / levels.len() as f64).collect()
}

/// The standard deviation of the seats' levels (dB) at each frequency.
pub fn spread_over_seats(levels: &[Vec<f64>]) -> Vec<f64> {
    let means = mean_over_seats(levels);
    let off = |i: usize| levels.iter().map(|seat| (seat[i] - means[i]).powi(2)).sum::<f64>() / levels.len() as f64;
    (0..means.len()).map(|i| off(i).sqrt()).collect()
}

/// Mean of a curve over an octave around each of its places, at the ends over what there is; frequencies lie evenly over ln f.
pub fn around(level: &[f64], octave: usize) -> Vec<f64> {
    let half = octave / 2;
    let of = |i: usize| {
        let part = &level[i.saturating_sub(half)..(i + half + 1).min(level.len())];
        part.iter().sum::<f64>() / part.len() as f64
    };
    (0..level.len()).map(of).collect()
}

/// By how much every seat at least stands over the octave around it, dB at each frequency.
pub fn shared_excess(levels: &[Vec<f64>], octave: usize) -> Vec<f64> {
    let over: Vec<Vec<f64>> = levels
        .iter()
        .map(|seat| seat.iter().zip(around(seat, octave)).map(|(level, mean)| level - mean).collect())
        .collect();
    let frequencies = over.first().map_or(0, Vec::len);
    (0..frequencies).map(|i| over.iter().map(|seat| seat[i]).fold(f64::INFINITY, f64::min)).collect()
}

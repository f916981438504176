//! A sweep played several times over: the repeats in a recording found and averaged, sample by sample.
//!
//! What is noise adds up as power, what is signal as amplitude: doubling the repeats brings 3 dB.

use crate::formats::wav::Recording;
use crate::sweep::analyse::{Unheard, deconvolved};
use crate::sweep::log_sweep::LogSweep;
use std::borrow::Cow;

/// Most repeats of a sweep.
pub const MOST_TIMES: u32 = 16;
/// How far a clock of a player may be off that of the recorder for the repeats to be looked for, as a share (an estimate; crystals
/// keep a tenth of it).
const CLOCKS: f64 = 300e-6;

/// One sweep, the mean of the repeats, from a recording of several; each repeat is looked for where it lies in the stated channel
/// (from 0), so that two clocks that drift apart blur nothing but what lies within one sweep.
///
/// # Errors
/// [`Unheard::Short`] where the repeats do not all lie in it, [`Unheard::NoChannel`].
pub fn averaged<'a>(sweep: &LogSweep, recording: &'a Recording, timing: usize) -> Result<Cow<'a, Recording>, Unheard> {
    let times = sweep.times as usize;
    if times <= 1 {
        return Ok(Cow::Borrowed(recording));
    }
    let period = sweep.period();
    let channel = recording.channels.get(timing).ok_or(Unheard::NoChannel(timing + 1))?;
    let short = Unheard::Short { recorded: recording.seconds(), sweep: (times * period) as f64 / sweep.rate_hz };
    let last = (times - 1) * period;
    if channel.len() < last + sweep.samples() {
        return Err(short);
    }
    let mut response = deconvolved(channel, &sweep.signal(), sweep);
    response.truncate(channel.len());
    let power = |i: usize| response[i] * response[i];
    let together = |i: usize| (0..times).map(|k| power(i + k * period)).sum::<f64>();
    let first = (0..channel.len() - last).max_by(|a, b| together(*a).total_cmp(&together(*b))).unwrap_or(0);
    let silence = sweep.silence_samples();
    let before = silence.min(first);
    let starts: Vec<usize> = (0..times)
        .map(|k| {
            let (there, about) = (first + k * period, (CLOCKS * (k * period) as f64).ceil() as usize);
            let near = there.saturating_sub(about)..(there + about + 1).min(response.len());
            near.max_by(|a, b| power(*a).total_cmp(&power(*b))).unwrap_or(there) - before
        })
        .collect();
    // as long as from one repeat to the next; the last may be cut off sooner
    let length = (period - silence + before).min(channel.len() - starts[times - 1]);
    if length < before + sweep.samples() {
        return Err(short);
    }
    let mean =
        |list: &Vec<f64>| (0..length).map(|i| starts.iter().map(|s| list[s + i]).sum::<f64>() / times as f64).collect();
    Ok(Cow::Owned(Recording { rate: recording.rate, channels: recording.channels.iter().map(mean).collect() }))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn sweep(times: u32) -> LogSweep {
        LogSweep {
            from_hz: 20.0,
            to_hz: 500.0,
            seconds: 1.0,
            silence_s: 0.2,
            tail_s: 0.3,
            times,
            ..LogSweep::default()
        }
    }

    /// A recording that began before the sweep, on a clock that runs 50 millionths fast.
    fn recorded(sweep: &LogSweep, early: usize, drift: f64) -> Recording {
        let played = sweep.played();
        let one = (0..early + played.len())
            .map(|i| {
                let at = (i as f64 - early as f64) * (1.0 + drift);
                let (whole, share) = (at.floor(), at.fract());
                let there = |k: f64| if k < 0.0 { 0.0 } else { played.get(k as usize).copied().unwrap_or(0.0) };
                0.5 * (there(whole) * (1.0 - share) + there(whole + 1.0) * share)
            })
            .collect();
        Recording { rate: sweep.rate_hz, channels: vec![one] }
    }

    #[test]
    fn repeats_are_found_wherever_they_lie_and_drift_apart_no_further_than_one_sweep() {
        let (asked, alone) = (sweep(4), sweep(1).signal());
        for drift in [0.0, 50e-6] {
            let recording = recorded(&asked, 31_234, drift);
            let mean = averaged(&asked, &recording, 0).unwrap();
            let at = asked.silence_samples();
            assert_eq!(mean.channels[0].len(), asked.period());
            // the middle of the sweep stands where it stands in one alone
            let worst = (alone.len() / 4..alone.len() / 2)
                .map(|i| (mean.channels[0][at + i] - 0.5 * alone[i]).abs())
                .fold(0.0, f64::max);
            assert!(worst < 0.02, "{drift}: {worst}");
        }
        let one = recorded(&sweep(1), 100, 0.0);
        assert_eq!(*averaged(&sweep(1), &one, 0).unwrap(), one, "one is left as it is");
    }

    #[test]
    fn what_holds_fewer_is_refused() {
        let cut = recorded(&sweep(3), 0, 0.0);
        assert!(matches!(averaged(&sweep(4), &cut, 0), Err(Unheard::Short { .. })));
        assert_eq!(averaged(&sweep(3), &cut, 1), Err(Unheard::NoChannel(2)));
    }
}

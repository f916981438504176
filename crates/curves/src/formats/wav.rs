//! Recordings: WAV of 16, 24 or 32 bit and of floats, one channel or more.

use crate::error::CurveError;
use hound::{SampleFormat, WavReader, WavSpec, WavWriter};
use std::io::Cursor;

/// Longest recording, s.
pub const LONGEST: f64 = 300.0;
/// Most channels of a recording.
pub const MOST_CHANNELS: usize = 8;

/// Samples, full scale being 1.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Recording {
    /// Samples a second.
    pub rate: f64,
    /// Each channel's samples, all equally long.
    pub channels: Vec<Vec<f64>>,
}

impl Recording {
    /// How long it is, s.
    pub fn seconds(&self) -> f64 {
        self.channels.first().map_or(0.0, |c| c.len() as f64 / self.rate)
    }

    /// The largest sample of a channel, of either sign.
    pub fn peak(&self, channel: usize) -> f64 {
        self.channels.get(channel).map_or(0.0, |c| c.iter().fold(0.0, |m: f64, x| m.max(x.abs())))
    }
}

/// Reads a recording.
///
/// # Errors
/// [`CurveError::Wav`] with the reason.
pub fn read(bytes: &[u8]) -> Result<Recording, CurveError> {
    let wrong = |what: String| CurveError::Wav(what);
    let mut reader = WavReader::new(Cursor::new(bytes)).map_err(|e| wrong(e.to_string()))?;
    let WavSpec { channels, sample_rate, bits_per_sample, sample_format } = reader.spec();
    let count = usize::from(channels);
    if count == 0 || count > MOST_CHANNELS {
        return Err(wrong(format!("{count} channels; from 1 to {MOST_CHANNELS} are expected")));
    }
    if !(8_000..=192_000).contains(&sample_rate) {
        return Err(wrong(format!("{sample_rate} samples a second; from 8000 to 192000 are expected")));
    }
    let most = (LONGEST * f64::from(sample_rate)) as usize * count;
    let said = reader.len() as usize;
    if said > most {
        return Err(wrong(format!("longer than {LONGEST} s")));
    }
    // what the header says may be more than there is
    let expected = said.min(bytes.len()) / count;
    let mut lists = vec![Vec::with_capacity(expected); count];
    let mut take = |i: usize, x: f64| lists[i % count].push(x);
    let cut = |e: hound::Error| match e {
        hound::Error::IoError(_) => wrong("it is cut off before its end".into()),
        other => wrong(other.to_string()),
    };
    match sample_format {
        SampleFormat::Float => {
            for (i, x) in reader.samples::<f32>().enumerate() {
                take(i, f64::from(x.map_err(cut)?));
            }
        }
        SampleFormat::Int => {
            let scale = 1.0 / f64::from(2f32.powi(i32::from(bits_per_sample) - 1));
            for (i, x) in reader.samples::<i32>().enumerate() {
                take(i, f64::from(x.map_err(cut)?) * scale);
            }
        }
    }
    let length = lists.iter().map(Vec::len).min().unwrap_or(0);
    if length < 2 {
        return Err(wrong("it holds no samples".into()));
    }
    if lists.iter().flatten().any(|x| !x.is_finite()) {
        return Err(wrong("a sample is no number".into()));
    }
    for list in &mut lists {
        list.truncate(length);
    }
    Ok(Recording { rate: f64::from(sample_rate), channels: lists })
}

/// Whether and how samples are rounded.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Depth {
    /// 16 bit integers.
    Bits16,
    /// 24 bit integers.
    Bits24,
    /// 32 bit floats.
    Float,
}

/// A recording as a WAV file; what is beyond full scale is clipped where it is rounded.
///
/// # Errors
/// [`CurveError::Wav`] where it has no samples, or more than fit into a file.
pub fn write(recording: &Recording, depth: Depth) -> Result<Vec<u8>, CurveError> {
    let wrong = |e: hound::Error| CurveError::Wav(e.to_string());
    let spec = WavSpec {
        channels: u16::try_from(recording.channels.len()).unwrap_or(0),
        sample_rate: recording.rate as u32,
        bits_per_sample: match depth {
            Depth::Bits16 => 16,
            Depth::Bits24 => 24,
            Depth::Float => 32,
        },
        sample_format: if depth == Depth::Float { SampleFormat::Float } else { SampleFormat::Int },
    };
    let mut bytes = Vec::new();
    let mut writer = WavWriter::new(Cursor::new(&mut bytes), spec).map_err(wrong)?;
    let length = recording.channels.iter().map(Vec::len).min().unwrap_or(0);
    for i in 0..length {
        for channel in &recording.channels {
            let x = channel[i];
            let whole = |bits: i32| {
                let top = f64::from(2f32.powi(bits - 1));
                (x * top).round().clamp(-top, top - 1.0) as i32
            };
            match depth {
                Depth::Float => writer.write_sample(x as f32),
                Depth::Bits16 => writer.write_sample(whole(16)),
                Depth::Bits24 => writer.write_sample(whole(24)),
            }
            .map_err(wrong)?;
        }
    }
    writer.finalize().map_err(wrong)?;
    Ok(bytes)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_written_is_read_back() {
        let left: Vec<f64> = (0..500).map(|i| (f64::from(i) * 0.1).sin() * 0.9).collect();
        let right: Vec<f64> = left.iter().map(|x| -x / 3.0).collect();
        let made = Recording { rate: 48_000.0, channels: vec![left, right] };
        for (depth, step) in [(Depth::Bits16, 1.6e-5), (Depth::Bits24, 6.1e-8), (Depth::Float, 6.1e-8)] {
            let back = read(&write(&made, depth).unwrap()).unwrap();
            assert_eq!((back.rate, back.channels.len()), (48_000.0, 2));
            for (a, b) in back.channels.iter().flatten().zip(made.channels.iter().flatten()) {
                assert!((a - b).abs() <= step, "{depth:?}: {a} {b}");
            }
        }
        let loud = Recording { rate: 44_100.0, channels: vec![vec![1.5, -1.5]] };
        let back = read(&write(&loud, Depth::Bits16).unwrap()).unwrap();
        assert!((back.channels[0][0] - 1.0).abs() < 1e-4 && back.channels[0][1] == -1.0, "clipped, not turned over");
    }

    #[test]
    fn a_recording_cut_short_says_so() {
        let made = Recording { rate: 48_000.0, channels: vec![vec![0.25; 400]] };
        let bytes = write(&made, Depth::Bits24).unwrap();
        let error = read(&bytes[..bytes.len() - 100]).unwrap_err().to_string();
        assert!(error.contains("cut off"), "{error}");
        assert!(read(b"RIFF").is_err() && read(b"").is_err());
    }
}

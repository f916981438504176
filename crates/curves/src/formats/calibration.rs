//! What a microphone or a sound card adds to a curve by itself, and how it is taken off.

use crate::curve::{Curve, Measurand};
use crate::error::CurveError;
use crate::formats::text;
use num_complex::Complex64;
use oak_drum_acoustics::level::{P_REF, log_frequencies};

/// Deviation of a microphone or a sound card over frequency.
#[derive(Clone, Debug, PartialEq)]
pub struct Calibration {
    /// Its gain over frequency, as a ratio, with its phase where known.
    curve: Curve,
}

/// Reads a calibration file: frequency, deviation in dB, and perhaps a phase in degrees, with '#', ';' or '*' before comments.
///
/// # Errors
/// [`CurveError`] where it is no such text.
pub fn read(bytes: &[u8]) -> Result<Calibration, CurveError> {
    let mut looked = text::read(bytes, None)?;
    // deviations are small numbers that look like ohms
    if looked.reading.unit != text::MagnitudeUnit::Decibel {
        looked =
            text::read(bytes, Some(&text::ColumnReading { unit: text::MagnitudeUnit::Decibel, ..looked.reading }))?;
    }
    Ok(Calibration { curve: looked.curve })
}

impl Calibration {
    /// From a curve of deviations.
    pub fn of(curve: Curve) -> Calibration {
        Calibration { curve }
    }

    /// The gain at a frequency, as a ratio; dB are linear in the logarithm of the frequency, the ends are held.
    pub fn at(&self, frequency: f64) -> Complex64 {
        let list = &self.curve.frequency;
        let held = frequency.clamp(list[0], list[list.len() - 1]);
        self.curve.at(held).unwrap_or(Complex64::new(P_REF, 0.0)) / P_REF
    }

    /// At most so many points of it: frequencies (Hz) and deviations (dB); its own where there are no more.
    pub fn points(&self, most: usize) -> (Vec<f64>, Vec<f64>) {
        let (from, to) = self.range();
        let own = &self.curve.frequency;
        let frequencies = if own.len() <= most { own.clone() } else { log_frequencies(from, to, most) };
        let deviations = frequencies.iter().map(|f| 20.0 * self.at(*f).norm().log10()).collect();
        (frequencies, deviations)
    }

    /// Where it is known, Hz.
    pub fn range(&self) -> (f64, f64) {
        (self.curve.frequency[0], self.curve.frequency[self.curve.len() - 1])
    }

    /// The curve with this deviation taken off, and what has to be said about it. Impedances are left as they are.
    pub fn taken_off(&self, curve: &Curve) -> (Curve, Option<String>) {
        if curve.quantity == Measurand::Impedance {
            return (curve.clone(), Some("a calibration of levels has nothing to say about an impedance".into()));
        }
        let made = curve.mapped(|f, v| v / self.at(f));
        let (from, to) = self.range();
        let outside =
            curve.frequency.first().is_some_and(|f| *f < from) || curve.frequency.last().is_some_and(|f| *f > to);
        (
            made,
            outside.then(|| format!("the calibration is known from {from:.0} to {to:.0} Hz; its ends are held beyond")),
        )
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    #[test]
    fn a_deviation_is_taken_off_and_its_ends_are_held() {
        let file = read(b"* sensitivity at 1 kHz\n10 -6.0\n40 -2.0\n1000 0\n").unwrap();
        let flat = Curve::of_level(vec![5.0, 20.0, 40.0], &[80.0; 3], None);
        let (made, said) = file.taken_off(&flat);
        // -4 dB half way, by octaves, between -6 and -2
        for (is, should) in made.magnitude().into_iter().zip([86.0, 84.0, 82.0]) {
            assert_relative_eq!(is, should, epsilon = 1e-9);
        }
        assert!(said.unwrap().contains("10 to 1000 Hz"));
        let ohms = Curve::of_impedance(vec![20.0, 40.0], &[8.0, 9.0], None);
        assert_eq!(file.taken_off(&ohms).0, ohms);
    }
}

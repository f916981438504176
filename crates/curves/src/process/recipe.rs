//! What was done to a measurement, step by step, kept beside its untouched data.

use crate::curve::{Curve, Measurand};
use crate::formats::calibration::Calibration;
use crate::process::{phase, smoothing};
use crate::sweep::impulse::{Gate, Impulse};
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::borrow::Cow;

/// Most steps of a recipe.
pub const MOST_STEPS: usize = 20;

/// One step.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum RecipeStep {
    /// Only what arrives within a time counts; of a measurement with an impulse response.
    #[schemars(title = "Gate")]
    Gate {
        /// From, against the first arrival.
        #[schemars(title = "From", range(min = -500.0, max = 5000.0), extend("x-unit" = "ms", "x-start" = -5))]
        from_ms: f64,
        /// To, against the first arrival.
        #[schemars(title = "To", range(min = 0.5, max = 5000.0), extend("x-unit" = "ms", "x-start" = 300))]
        to_ms: f64,
    },
    /// Only a band is kept.
    #[schemars(title = "Cut to a band")]
    Trim {
        /// From.
        #[schemars(title = "From", range(min = 0.1, max = 100000.0), extend("x-unit" = "Hz", "x-start" = 10))]
        from_hz: f64,
        /// To.
        #[schemars(title = "To", range(min = 0.1, max = 100000.0), extend("x-unit" = "Hz", "x-start" = 500))]
        to_hz: f64,
    },
    /// Moved up or down.
    #[schemars(title = "Offset")]
    Offset {
        /// By how much.
        #[schemars(title = "By", range(min = -200.0, max = 200.0), extend("x-unit" = "dB", "x-start" = 0))]
        db: f64,
    },
    /// A flight time taken off.
    #[schemars(title = "Delay taken off")]
    Delay {
        /// How much.
        #[schemars(title = "Delay", range(min = -1000.0, max = 1000.0), extend("x-unit" = "ms", "x-start" = 0))]
        ms: f64,
    },
    /// Smoothed as power.
    #[schemars(title = "Smoothed")]
    Smooth {
        /// Over one part of an octave in so many: 1, 3, 6, 12, 24 or 48.
        #[schemars(title = "1 / octave", range(min = 1, max = 48), extend("x-start" = 6))]
        per_octave: u32,
    },
    /// The phase replaced by that of a minimum-phase system of this magnitude.
    #[schemars(title = "Minimum phase")]
    MinimumPhase {},
    /// A microphone's or a sound card's deviation taken off.
    #[schemars(title = "Calibration")]
    Calibration {
        /// Whose.
        #[schemars(title = "Of", length(max = 120))]
        name: String,
        /// Frequencies, Hz, rising.
        #[schemars(length(min = 2, max = 4000))]
        frequency_hz: Vec<f64>,
        /// Deviation at each, dB.
        #[schemars(length(min = 2, max = 4000))]
        deviation_db: Vec<f64>,
    },
}

/// Most points of a calibration as a step keeps it.
const KEPT: usize = 2000;

impl RecipeStep {
    /// A calibration, under a name, taken off.
    pub fn calibration(name: &str, calibration: &Calibration) -> RecipeStep {
        let (frequency_hz, deviation_db) = calibration.points(KEPT);
        RecipeStep::Calibration { name: name.chars().take(120).collect(), frequency_hz, deviation_db }
    }

    /// The gate it is, if it is one.
    pub fn gate(&self) -> Option<Gate> {
        match self {
            RecipeStep::Gate { from_ms, to_ms } => Some(Gate { from: from_ms * 1e-3, to: to_ms * 1e-3 }),
            _ => None,
        }
    }
}

/// Untouched data of a measurement.
#[derive(Clone, Debug)]
pub enum Data {
    /// Points as they were read.
    Points(Curve),
    /// An impulse response.
    Impulse(Impulse),
}

/// A step that could not be taken.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[error("step {}: {what}", .step + 1)]
pub struct Untaken {
    /// Which, from 0.
    pub step: usize,
    /// Why, in words.
    pub what: String,
}

/// What came of a recipe.
#[derive(Clone, Debug)]
pub struct Cooked {
    /// The curve.
    pub curve: Curve,
    /// What has to be said about it.
    pub remarks: Vec<String>,
}

/// The curve that comes of data by a recipe. A gate counts wherever it stands, since it belongs before the points.
///
/// # Errors
/// [`Untaken`] with the step that does not fit.
pub fn cook(data: &Data, steps: &[RecipeStep]) -> Result<Cooked, Untaken> {
    let fail = |step: usize, what: &str| Untaken { step, what: what.into() };
    if steps.len() > MOST_STEPS {
        return Err(fail(MOST_STEPS, "there are too many steps"));
    }
    let mut remarks = Vec::new();
    let gates: Vec<_> = steps.iter().enumerate().filter_map(|(i, s)| s.gate().map(|g| (i, g))).collect();
    if let Some((i, _)) = gates.get(1) {
        return Err(fail(*i, "one gate is enough"));
    }
    let mut curve = match data {
        Data::Points(curve) => {
            if let Some((i, _)) = gates.first() {
                return Err(fail(*i, "only a measurement with an impulse response can be gated"));
            }
            Cow::Borrowed(curve)
        }
        Data::Impulse(impulse) => {
            let gate = match gates.first() {
                None => None,
                Some((i, gate)) if gate.to <= gate.from => return Err(fail(*i, "a gate has to end after it begins")),
                Some((_, gate)) => {
                    remarks.push(format!(
                        "gated: nothing below {:.0} Hz is true, and it is trusted above {:.0} Hz",
                        gate.valid_from(),
                        gate.trusted_from()
                    ));
                    Some(*gate)
                }
            };
            Cow::Owned(impulse.curve(gate))
        }
    };
    for (i, step) in steps.iter().enumerate() {
        let made = match step {
            RecipeStep::Gate { .. } => continue,
            RecipeStep::Trim { from_hz, to_hz } => {
                if to_hz <= from_hz {
                    return Err(fail(i, "a band has to end above where it begins"));
                }
                curve.between(*from_hz, *to_hz)
            }
            RecipeStep::Offset { db } => {
                if curve.quantity == Measurand::Impedance {
                    return Err(fail(i, "an impedance has no offset in dB"));
                }
                let gain = 10f64.powf(db / 20.0);
                curve.mapped(|_, v| v * gain)
            }
            RecipeStep::Delay { ms } => phase::without_delay(&curve, ms * 1e-3),
            RecipeStep::Smooth { per_octave } => {
                if !smoothing::FRACTIONS.contains(per_octave) {
                    return Err(fail(i, "1, 3, 6, 12, 24 or 48 is expected"));
                }
                remarks.push(format!("smoothed over 1/{per_octave} octave: fits use it unsmoothed"));
                smoothing::smoothed(&curve, *per_octave)
            }
            RecipeStep::MinimumPhase {} => {
                let phases = phase::minimum_phase(&curve, phase::ends_of(&curve));
                let value = curve.value.iter().zip(&phases).map(|(v, p)| Complex64::from_polar(v.norm(), *p)).collect();
                remarks.push("its phase is reckoned from its magnitude, not measured".into());
                Curve { value, has_phase: true, ..curve.into_owned() }
            }
            RecipeStep::Calibration { name, frequency_hz, deviation_db } => {
                if let Some(wrong) = crate::curve::wrong_points(frequency_hz, deviation_db, None, Measurand::Level) {
                    return Err(fail(i, &wrong));
                }
                let calibration = Calibration::of(Curve::of_level(frequency_hz.clone(), deviation_db, None));
                let (made, said) = calibration.taken_off(&curve);
                remarks.extend(said.map(|s| format!("{name}: {s}")));
                made
            }
        };
        if made.len() < 2 {
            return Err(fail(i, "nothing is left of the curve"));
        }
        curve = Cow::Owned(made);
    }
    Ok(Cooked { curve: curve.into_owned(), remarks })
}

/// The steps that change what is true about a curve, smoothing left out: fits look at that.
pub fn for_fits(steps: &[RecipeStep]) -> Vec<RecipeStep> {
    steps.iter().filter(|s| !matches!(s, RecipeStep::Smooth { .. } | RecipeStep::MinimumPhase {})).cloned().collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    fn points() -> Data {
        let f: Vec<f64> = (10..200).map(f64::from).collect();
        let level: Vec<f64> = f.iter().map(|f| 90.0 + (f * 3.0).sin()).collect();
        Data::Points(Curve::of_level(f, &level, Some(&[0.2; 190])))
    }

    #[test]
    fn steps_follow_one_another_and_leave_the_data_alone() {
        let data = points();
        let steps = [
            RecipeStep::Trim { from_hz: 20.0, to_hz: 100.0 },
            RecipeStep::Offset { db: -6.0 },
            RecipeStep::Smooth { per_octave: 1 },
            RecipeStep::MinimumPhase {},
        ];
        let made = cook(&data, &steps).unwrap();
        assert_eq!((made.curve.frequency[0], *made.curve.frequency.last().unwrap()), (20.0, 100.0));
        assert_relative_eq!(made.curve.magnitude()[40], 84.0, epsilon = 0.4);
        assert!(made.curve.value[40].arg().abs() < 0.05, "a flat curve has next to no phase");
        assert_eq!(made.remarks.len(), 2);
        assert_eq!(for_fits(&steps).len(), 2);
        assert_eq!(cook(&data, &[]).unwrap().curve.len(), 190);
    }

    #[test]
    fn a_calibration_as_a_step_takes_off_what_the_file_says() {
        let file = crate::formats::calibration::read(b"* sensitivity at 1 kHz\n10 -6.0\n40 -2.0\n1000 0\n").unwrap();
        let flat = Data::Points(Curve::of_level(vec![5.0, 20.0, 40.0], &[80.0; 3], None));
        let made = cook(&flat, &[RecipeStep::calibration("m", &file)]).unwrap();
        for (is, should) in made.curve.magnitude().into_iter().zip([86.0, 84.0, 82.0]) {
            assert_relative_eq!(is, should, epsilon = 1e-9);
        }
    }

    #[test]
    fn a_step_that_does_not_fit_is_named() {
        let data = points();
        let bad = [
            (RecipeStep::Gate { from_ms: 0.0, to_ms: 5.0 }, "impulse response"),
            (RecipeStep::Trim { from_hz: 100.0, to_hz: 20.0 }, "above where it begins"),
            (RecipeStep::Trim { from_hz: 1000.0, to_hz: 2000.0 }, "nothing is left"),
            (RecipeStep::Smooth { per_octave: 7 }, "1, 3, 6, 12, 24 or 48"),
            (
                RecipeStep::Calibration {
                    name: "m".into(),
                    frequency_hz: vec![20.0, 10.0],
                    deviation_db: vec![0.0, 0.0],
                },
                "have to rise",
            ),
        ];
        for (step, words) in bad {
            let error = cook(&data, &[RecipeStep::Offset { db: 0.0 }, step]).unwrap_err();
            assert_eq!(error.step, 1);
            assert!(error.to_string().contains(words), "{error}");
        }
    }
}

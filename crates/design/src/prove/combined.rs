//! Measurements made of others: repeats and places averaged, what radiates summed, near and far field spliced.

use crate::analysis::Analysis;
use crate::prove::predicted::face;
use crate::prove::view::Measured;
use oak_drum_curves::about::{About, Taken};
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::process::average::{power_mean, repeats};
use oak_drum_curves::process::near_field::{Radiating, far_field, sum};
use oak_drum_curves::process::splice::splice;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// How measurements are combined.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(title = "Combine")]
pub enum Combining {
    /// The same thing measured again and again: signal over noise comes of it.
    #[schemars(title = "Mean of repeats")]
    Repeats {},
    /// Several places: the mean of their power, without a phase.
    #[schemars(title = "Average of places")]
    Average {},
    /// Near fields of cone, port and passive radiator as the far field in front of the box.
    #[schemars(title = "Sum of near fields")]
    Sum {
        /// Where it is told for.
        #[schemars(title = "At", range(min = 0.1, max = 100.0), extend("x-unit" = "m", "x-start" = 1))]
        distance_m: f64,
    },
    /// A near field below, a far field above.
    #[schemars(title = "Near and far spliced")]
    Splice {
        /// Where the far one takes over.
        #[schemars(title = "At", range(min = 20.0, max = 5000.0), extend("x-unit" = "Hz", "x-start" = 200))]
        at_hz: f64,
    },
}

/// What came of it.
#[derive(Clone, Debug)]
pub struct Combined {
    /// What is known about it.
    pub about: About,
    /// The curve.
    pub curve: Curve,
    /// How it was made, in words.
    pub how: String,
}

/// Why they cannot be combined, in words.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{0}")]
pub struct Uncombined(pub String);

/// Combines measurements of a cabinet.
///
/// # Errors
/// [`Uncombined`] with the reason.
pub fn combined(analysis: &Analysis, list: &[Measured], how: Combining) -> Result<Combined, Uncombined> {
    let no = |words: &str| Err(Uncombined(words.into()));
    let [first, second, ..] = list else { return no("two measurements at least are expected") };
    if list.iter().any(|m| m.curve.quantity != first.curve.quantity) {
        return no("levels and impedances have nothing to be combined to");
    }
    let names = list.iter().map(|m| m.about.name.as_str()).collect::<Vec<_>>().join(", ");
    let about = About { name: String::new(), notes: String::new(), ..first.about.clone() };
    let made = |name: &str, about: About, curve: Curve, how: String| {
        if curve.len() < 2 {
            return Err(Uncombined("they have no frequencies in common".into()));
        }
        let how = how.chars().take(400).collect();
        Ok(Combined { about: About { name: name.into(), ..about }, curve, how })
    };
    match how {
        Combining::Repeats {} => {
            if list.iter().any(|m| m.about.taken != first.about.taken) {
                return no("repeats are of one place; of several take the average");
            }
            let curves: Vec<Curve> = list.iter().map(|m| m.curve.clone()).collect();
            match repeats(&curves) {
                Some(curve) => {
                    made("Mean of repeats", about, curve, format!("mean of {} repeats: {names}", list.len()))
                }
                None => no("repeats have to have phases and the same frequencies: take them with the same sweep"),
            }
        }
        Combining::Average {} => {
            let absolute = list.iter().all(|m| m.about.absolute && m.about.volts == first.about.volts);
            let curves: Vec<Curve> = list.iter().map(|m| m.curve.clone()).collect();
            let about = About { absolute, ..about };
            made("Average", about, power_mean(&curves), format!("mean power of {names}"))
        }
        Combining::Sum { distance_m } => summed(analysis, list, distance_m, about, &names, &made),
        Combining::Splice { at_hz } => {
            if list.len() > 2 {
                return no("a near and a far field are expected, no more");
            }
            if first.curve.quantity == Measurand::Impedance {
                return no("impedances are not spliced");
            }
            // the near one is the one that was taken near
            let near_first =
                !matches!(second.about.taken, Taken::NearCone {} | Taken::NearPort {} | Taken::NearRadiator {});
            let (near, far) = if near_first { (first, second) } else { (second, first) };
            match splice(&near.curve, &far.curve, at_hz) {
                Some(joined) => {
                    let about =
                        About { taken: far.about.taken, absolute: far.about.absolute, volts: far.about.volts, ..about };
                    let how = format!(
                        "{} below {at_hz:.0} Hz, moved by {:+.1} dB, {} above",
                        near.about.name, joined.moved_db, far.about.name
                    );
                    made("Near and far", about, joined.curve, how)
                }
                None => no("the two have no whole octave in common about that frequency"),
            }
        }
    }
}

/// Something that is made into a measurement: name, what is known, curve, words.
type Maker<'a> = dyn Fn(&str, About, Curve, String) -> Result<Combined, Uncombined> + 'a;

fn summed(
    analysis: &Analysis,
    list: &[Measured],
    distance: f64,
    about: About,
    names: &str,
    made: &Maker,
) -> Result<Combined, Uncombined> {
    let no = |words: String| Err(Uncombined(words));
    let absolute = list.iter().all(|m| m.about.absolute && m.about.volts.is_some());
    let volts = list[0].about.volts;
    let mut faces = Vec::new();
    for (i, one) in list.iter().enumerate() {
        if list[..i].iter().any(|m| m.about.taken == one.about.taken) {
            return no(format!("{} is there twice: equal ones are counted by the design", one.about.taken.words()));
        }
        let Some(face) = face(analysis, &one.about.taken) else {
            return no(format!("{}: this is no near field of something the design has", one.about.taken.words()));
        };
        // each as it would be at the first one's drive
        let drive = if absolute { volts.zip(one.about.volts).map_or(1.0, |(a, b)| a / b) } else { 1.0 };
        faces.push((face, one.curve.mapped(|_, v| v * drive)));
    }
    let reference = faces[0].0.area;
    let parts: Vec<Radiating> =
        faces.iter().map(|(face, curve)| Radiating { curve, area: face.area, count: face.count }).collect();
    let Some(near) = sum(&parts, reference) else {
        return no("near fields are summed with their phases: take them with one sweep and one input".into());
    };
    // half space, told for the space the design stands in
    let space = TAU / analysis.conditions.solid_angle.steradians();
    let curve = far_field(&near, reference, distance).mapped(|_, v| v * space);
    let about = About { taken: Taken::InFront { distance_m: distance }, absolute, volts, ..about };
    made("Sum of near fields", about, curve, format!("near fields of {names}, summed with their areas"))
}

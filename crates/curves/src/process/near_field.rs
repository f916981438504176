//! Curves taken close to what radiates (Keele, JAES 22, 1974).
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | a | radius of what radiates, √(S/π) | m |
//! | z | distance of the microphone from it | m |
//! | r | distance the far field is told for | m |

use crate::curve::Curve;
use num_complex::Complex64;
use oak_drum_acoustics::air::Air;
use std::f64::consts::{PI, TAU};

/// Radius of a round opening of an area (m²), m.
pub fn radius(area: f64) -> f64 {
    (area / PI).sqrt()
}

/// The frequency (Hz) up to which a near field speaks for the far one: ka = 1.
pub fn valid_to(area: f64, air: &Air) -> f64 {
    air.c / (TAU * radius(area))
}

/// What a microphone at a distance (m) reads too little, dB: √(1 + (z/a)²) - z/a on the axis of a piston while k·a is small.
pub fn error_of_distance_db(distance: f64, area: f64) -> f64 {
    let x = distance / radius(area);
    20.0 * ((1.0 + x * x).sqrt() - x).log10()
}

/// What a near field reads too little at a frequency (Hz), dB: sin(ka/2)/(ka/2).
pub fn error_of_frequency_db(frequency: f64, area: f64, air: &Air) -> f64 {
    let half = TAU * frequency / air.c * radius(area) / 2.0;
    20.0 * (half.sin() / half).abs().log10()
}

/// The curve as a microphone at the face would have read it.
pub fn at_the_face(curve: &Curve, distance: f64, area: f64) -> Curve {
    let gain = 10f64.powf(-error_of_distance_db(distance, area) / 20.0);
    curve.mapped(|_, v| v * gain)
}

/// A thing that radiates, with what was measured at it.
#[derive(Clone, Copy, Debug)]
pub struct Radiating<'a> {
    /// The near field of one of them.
    pub curve: &'a Curve,
    /// Its area, m².
    pub area: f64,
    /// How many equal ones there are.
    pub count: u32,
}

/// Sum of near fields as the level of one thing of a reference area (m²): each weighted with n·√(S/S_ref). On the first one's
/// frequencies where all have a value. `None` where a phase is missing or there is nothing to sum.
pub fn sum(parts: &[Radiating], reference: f64) -> Option<Curve> {
    let first = parts.first()?;
    if parts.len() > 1 && parts.iter().any(|p| !p.curve.has_phase) {
        return None;
    }
    let mut out = first.curve.empty();
    for f in &first.curve.frequency {
        let weighted = |p: &Radiating| p.curve.at(*f).map(|v| v * f64::from(p.count) * (p.area / reference).sqrt());
        let all: Option<Vec<Complex64>> = parts.iter().map(weighted).collect();
        if let Some(all) = all {
            out.frequency.push(*f);
            out.value.push(all.iter().sum());
        }
    }
    Some(out)
}

/// The half-space far field at a distance r (m) that belongs to a near field over an area (m²): p·a/(2r).
pub fn far_field(near: &Curve, area: f64, distance: f64) -> Curve {
    let gain = radius(area) / (2.0 * distance);
    near.mapped(|_, v| v * gain)
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// Keele's relations; check values by two routes outside this program.
    #[test]
    fn errors_of_place_and_frequency() {
        let area = PI * 0.13 * 0.13;
        for (z, db) in [(0.05, -0.43411), (0.11, -0.95353), (0.25, -2.14947)] {
            assert_relative_eq!(error_of_distance_db(z * 0.13, area), db, epsilon = 5e-6);
        }
        let air = Air::given(343.2, 1.2041);
        for (ka, db) in [(0.5, -0.09067), (1.0, -0.36498), (1.5, -0.83014)] {
            let f = ka * air.c / (TAU * 0.13);
            assert_relative_eq!(error_of_frequency_db(f, area, &air), db, epsilon = 5e-6);
        }
        // Keele's rule of thumb, 10 924 over the diameter in cm, from another speed of sound
        assert_relative_eq!(valid_to(area, &air), 10_924.0 / 26.0, max_relative = 2e-3);
    }

    /// A cone and a port as the flows of a network give them: the sum is the far field of both flows.
    #[test]
    fn cone_and_port_add_to_the_far_field() {
        let air = Air::given(343.2, 1.2041);
        let (sd, sp, r) = (0.053, 0.012, 1.0);
        let f = vec![20.0, 30.0, 60.0];
        let near =
            |flow: Complex64, area: f64, f: f64| Complex64::new(0.0, air.rho * TAU * f) * flow / (PI * radius(area));
        let (cone, port) = (Complex64::new(1e-3, 2e-4), Complex64::new(-3e-4, 1.1e-3));
        let curve = |flow, area| Curve {
            value: f.iter().map(|f| near(flow, area, *f)).collect(),
            frequency: f.clone(),
            has_phase: true,
            ..Curve::default()
        };
        let (c, p) = (curve(cone, sd), curve(port / 2.0, sp / 2.0));
        let parts = [Radiating { curve: &c, area: sd, count: 1 }, Radiating { curve: &p, area: sp / 2.0, count: 2 }];
        let far = far_field(&sum(&parts, sd).unwrap(), sd, r);
        for (f, v) in far.frequency.iter().zip(&far.value) {
            let should = Complex64::new(0.0, air.rho * TAU * f) * (cone + port) / (TAU * r);
            assert!((v - should).norm() < 1e-9 * should.norm());
        }
        let mute = Curve { has_phase: false, ..p.clone() };
        let parts = [Radiating { curve: &c, area: sd, count: 1 }, Radiating { curve: &mute, area: sp, count: 1 }];
        assert!(sum(&parts, sd).is_none());
    }
}

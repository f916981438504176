//! A source before a floor and walls, nothing else around: outdoors, or what the nearest walls of a room do.

use super::Place;
use crate::air::Air;
use num_complex::Complex64;
use std::f64::consts::PI;

/// A plane across one axis that sends sound back.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Plane {
    /// Which axis it stands across: 0 the length, 1 the width, 2 the height.
    pub axis: usize,
    /// Where, m.
    pub at: f64,
    /// What part of the pressure comes back, 0 to 1.
    pub reflection: f64,
}

impl Plane {
    /// By the part of the energy it takes, 0 to 1.
    pub fn taking(axis: usize, at: f64, absorption: f64) -> Plane {
        Plane { axis, at, reflection: (1.0 - absorption).max(0.0).sqrt() }
    }
}

/// Every image of a source in planes that stand across different axes, itself among them, with what part of the pressure each has.
fn images(planes: &[Plane], from: Place) -> Vec<(Place, f64)> {
    let mut list = vec![(from, 1.0)];
    for plane in planes {
        let mirrored: Vec<(Place, f64)> = list
            .iter()
            .map(|(at, part)| {
                let mut image = *at;
                image[plane.axis] = 2.0 * plane.at - image[plane.axis];
                (image, part * plane.reflection)
            })
            .collect();
        list.extend(mirrored);
    }
    list
}

fn distance(a: Place, b: Place) -> f64 {
    (0..3).map(|i| (a[i] - b[i]).powi(2)).sum::<f64>().sqrt()
}

/// Pressure at one place per volume velocity at another, Pa·s/m³, at an angular frequency (rad/s), before up to three planes across
/// different axes: jωρ/(4π)·Σ R·e^{-jkr}/r. Exact for rigid planes; of others an estimate, since what part comes back is taken to be
/// the same at every angle.
pub fn transfer(air: &Air, planes: &[Plane], omega: f64, from: Place, to: Place) -> Complex64 {
    sloped(air, planes, omega, from, to)[0]
}

/// The same with its derivative by ω.
pub fn sloped(air: &Air, planes: &[Plane], omega: f64, from: Place, to: Place) -> [Complex64; 2] {
    let k = omega / air.c;
    let (mut sum, mut slope) = (Complex64::default(), Complex64::default());
    for (at, part) in images(planes, from) {
        let r = distance(at, to).max(super::NEAREST / 10.0);
        let wave = Complex64::from_polar(part / r, -k * r);
        sum += wave;
        slope += wave * Complex64::new(0.0, -r / air.c);
    }
    let factor = Complex64::new(0.0, air.rho / (4.0 * PI));
    [factor * omega * sum, factor * (sum + slope * omega)]
}

/// Power a source gives before planes over what it gives in free space: 1 + Σ R·sin(kd)/(kd), d from source to image (Waterhouse
/// 1955, from memory): 2 near a wall, 4 in an edge, 8 in a corner.
pub fn power_factor(air: &Air, planes: &[Plane], omega: f64, from: Place) -> f64 {
    let k = omega / air.c;
    images(planes, from)
        .into_iter()
        .map(|(at, part)| {
            let kd = k * distance(at, from);
            part * if kd < 1e-9 { 1.0 } else { kd.sin() / kd }
        })
        .sum()
}

//! The same room by image sources, slow and plain: what [`Shoebox::transfer`] and [`super::field`] are held to.

use super::{Place, Shoebox};
use num_complex::Complex64;
use std::f64::consts::PI;

/// Pressure at one place per volume velocity at another, Pa·s/m³, at an angular frequency (rad/s): the images of the source in rigid
/// walls, their waves of wave number √(ω² - 2jωδ)/c (Allen & Berkley 1979). Exact for a room whose modes all decay alike, and
/// without a leak of its own; images beyond a distance (m) are left out.
pub fn transfer(room: &Shoebox, omega: f64, from: Place, to: Place, reach: f64) -> Complex64 {
    let k = room.wave_number_sqr::<Complex64>(omega, room.decays[7]).sqrt();
    // of the two roots the one that falls with the distance
    let k = if k.im > 0.0 { -k } else { k };
    Complex64::new(0.0, omega * room.air.rho)
        * sum(room.sides, from, to, reach, |r| (Complex64::new(0.0, -1.0) * k * r).exp())
}

/// Σ wave(r)/(4πr) over the images of a source in the walls of a box of these sides (m).
pub(super) fn sum<T>(sides: [f64; 3], from: Place, to: Place, reach: f64, wave: impl Fn(f64) -> T) -> T
where
    T: std::ops::Mul<f64, Output = T> + std::iter::Sum<T>,
{
    let along = |i: usize| {
        let cells = (reach / (2.0 * sides[i])).ceil() as i64 + 1;
        (-cells..=cells)
            .flat_map(move |cell| [from[i], -from[i]].map(|x| 2.0 * cell as f64 * sides[i] + x - to[i]))
            .filter(move |d| d.abs() <= reach)
            .map(|d| d * d)
            .collect::<Vec<f64>>()
    };
    let [x, y, z] = [along(0), along(1), along(2)];
    let mut near = Vec::new();
    for a in &x {
        for b in &y {
            near.extend(z.iter().map(|c| a + b + c).filter(|r| *r <= reach * reach));
        }
    }
    near.into_iter().map(|r| r.sqrt().max(super::NEAREST / 10.0)).map(|r| wave(r) * (1.0 / (4.0 * PI * r))).sum()
}

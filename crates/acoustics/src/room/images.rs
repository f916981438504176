//! The same room by image sources, slow and plain: what [`Shoebox::transfer`] and [`super::field`] are held to.

use super::mirrors::sum;
use super::{Place, Shoebox};
use num_complex::Complex64;

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

//! What a woofer likely is where its sheet does not say: to be judged at all, and to be put right when it is known.

use std::f64::consts::PI;

/// What a coil of unknown rating is taken to stand, W (common practice).
pub const USUAL_W: f64 = 200.0;

/// Ordinary woofers move one way by about a fortieth of their cone's diameter before they are no longer linear; long-stroke ones by two
/// or three times as much (common practice, from memory).
const STROKE: f64 = 1.0 / 40.0;

/// The likely Xmax (mm) of a cone of so much area (m²), on the cautious side, to half a millimetre.
pub fn likely_xmax_mm(sd: f64) -> f64 {
    let diameter = 2e3 * (sd / PI).sqrt();
    (diameter * STROKE * 2.0).round().max(1.0) / 2.0
}

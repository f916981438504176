//! The amplifier a builder would likely buy for some woofers, where none is stated yet.

use crate::analysis::Analysis;
use crate::woofer::likely::USUAL_W;
use oak_drum_acoustics::amplifier::Amplifier;

/// Powers amplifiers are sold with, W (common practice).
const POWERS: [f64; 8] = [50.0, 100.0, 150.0, 200.0, 300.0, 500.0, 1000.0, 2000.0];
/// Loads they are rated into, Ω.
const LOADS: [f64; 4] = [2.0, 4.0, 8.0, 16.0];
/// An amplifier of about the woofers' rating, into the load that their coils' resistance is sold as: a coil's resistance is some four
/// fifths of its nominal impedance (common practice).
pub fn likely_amplifier(analysis: &Analysis) -> Amplifier {
    let re = analysis.context.array.ts.re;
    let woofers = f64::from(analysis.design.array.count);
    let wanted = analysis.design.woofer.power_w.map_or(USUAL_W, |w| w * woofers);
    let near = |list: &[f64], x: f64| {
        list.iter().copied().min_by(|a, b| (a / x).ln().abs().total_cmp(&(b / x).ln().abs())).unwrap_or(x)
    };
    let load = near(&LOADS, re * 1.25);
    let least = (load / 2.0).min(re).max(0.5);
    Amplifier::rated(near(&POWERS, wanted), load, (least * 10.0).floor() / 10.0)
}

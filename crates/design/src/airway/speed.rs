//! Air speed in the ports: at the drive chosen, at the highest the other parts allow, and what the port then costs.

use crate::analysis::Analysis;
use num_complex::Complex64;
use oak_drum_acoustics::families::PortReport;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::network::{Radiator, RadiatorKind};
use oak_drum_acoustics::outputs::{Curves, Sweep};
use oak_drum_acoustics::port::{End, Port};
use oak_drum_document::Change;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, SQRT_2, TAU};

/// Air speed of a port, peak, and what it costs.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct AirSpeed {
    /// At the drive chosen, m/s.
    pub at_drive_m_per_s: f64,
    /// Where that is, Hz.
    pub at_drive_hz: f64,
    /// At the most that coil, cone and amplifier allow, m/s; absent where none of them is stated.
    pub at_most_m_per_s: Option<f64>,
    /// Where that is, Hz.
    pub at_most_hz: Option<f64>,
    /// The limit it is held against, m/s.
    pub limit_m_per_s: f64,
    /// Whether that is the builder's own limit instead of the quiet one of the ends.
    pub own_limit: bool,
    /// Level lost at that place by the jets at the port's ends at the drive chosen, dB: an estimate.
    pub lost_at_drive_db: f64,
    /// The same at the most the other parts allow, dB: an estimate.
    pub lost_at_most_db: Option<f64>,
}

/// Frequencies air and radiators are looked at: from the brief's lowest note (without one from the lower of f3 and tuning)
/// to twice the tuning or that note; above, where a long port rings, they move little.
pub fn frequencies(analysis: &Analysis, count: usize) -> Vec<f64> {
    let (from, to) = band(analysis);
    log_frequencies(from, to, count)
}

/// The band [`frequencies`] looks at, Hz.
pub fn band(analysis: &Analysis) -> (f64, f64) {
    let ports = analysis.wired.ports.iter().map(|p| p.realised.tuning);
    let tuning = ports.chain(analysis.wired.unloads_below).fold(0.0, f64::max);
    let from = analysis.design.brief.lowest_note_hz.unwrap_or_else(|| {
        let lowest = analysis.lowest_note();
        if tuning > 0.0 { lowest.min(tuning) } else { lowest }
    });
    let from = from.min(300.0);
    (from, 2.0 * from.max(tuning))
}

/// The largest of a list and the frequency it is at: between neighbours by the parabola through them.
fn top(frequencies: &[f64], values: impl Fn(usize) -> f64) -> (f64, f64) {
    let i = (0..frequencies.len()).max_by(|&a, &b| values(a).total_cmp(&values(b))).unwrap_or(0);
    let here = (values(i), frequencies.get(i).copied().unwrap_or(0.0));
    if i == 0 || i + 1 >= frequencies.len() {
        return here;
    }
    let (before, after) = (values(i - 1), values(i + 1));
    let bend = before - 2.0 * here.0 + after;
    let shift = if bend < 0.0 { 0.5 * (before - after) / bend } else { 0.0 };
    (here.0 - 0.25 * (before - after) * shift, here.1 * (frequencies[i + 1] / here.1).powf(shift))
}

/// Fastest air at the drive within that band in each of the network's radiators, m/s, and where it is, Hz; `None` of those
/// that have no air (leaks, sprung masses).
pub fn each_opening(analysis: &Analysis) -> Vec<Option<(f64, f64)>> {
    let network = &analysis.wired.network;
    let airy = |r: &Radiator| r.area > 0.0 && matches!(r.kind, RadiatorKind::Port | RadiatorKind::Inner);
    if !network.radiators.iter().any(airy) {
        return vec![None; network.radiators.len()];
    }
    let frequencies = frequencies(analysis, 64);
    let flows = Sweep::new(network, analysis.conditions).with_each_opening().curves(&frequencies).flows;
    let speed = |(r, flow): (&Radiator, &Vec<Complex64>)| {
        airy(r).then(|| top(&frequencies, |i| SQRT_2 * flow[i].norm() / r.area))
    };
    network.radiators.iter().zip(&flows).map(speed).collect()
}

/// The fastest of all openings, m/s, and where it is, Hz; `None` without an opening.
pub fn fastest(analysis: &Analysis) -> Option<(f64, f64)> {
    each_opening(analysis).into_iter().flatten().max_by(|a, b| a.0.total_cmp(&b.0))
}

/// The fastest air in one port, m/s, and where it is, Hz.
pub fn fastest_in(analysis: &Analysis, report: &PortReport) -> Option<(f64, f64)> {
    each_opening(analysis).get(report.radiator).copied().flatten()
}

/// (Speed, frequency) at the drive, and at the most the other limits allow.
pub fn speeds(analysis: &Analysis, curves: &Curves) -> ((f64, f64), Option<(f64, f64)>) {
    let best = |speed: &dyn Fn(usize) -> f64| {
        (0..curves.frequency.len())
            .map(|i| (speed(i), curves.frequency[i]))
            .fold((0.0, curves.frequency.first().copied().unwrap_or(0.0)), |a, b| if b.0 > a.0 { b } else { a })
    };
    let at_drive = best(&|i| curves.air_speed[i]);
    let limits = analysis.conditions.limits;
    let limited = limits.heat.is_some() || limits.excursion.is_some() || limits.volts.is_some();
    let at_most = limited.then(|| {
        best(&|i| {
            let gain = (curves.max_level_db[i] - curves.level_db[i]) / 20.0;
            if gain.is_finite() { curves.air_speed[i] * 10f64.powf(gain) } else { 0.0 }
        })
    });
    (at_drive, at_most)
}

/// An air limit no port reaches: it takes the ports' own limit out of the reckoning.
pub const UNLIMITED: Option<f64> = Some(1e9);

/// Loss factor ξ of both ends together, Δp = ½ρξu²: sharp ends 0.5 in and 1 out; a flare of radius r takes the way in to
/// 0.05 and spreads the way out over its opening, (a/(a + r))⁴ (Idelchik, *Handbook of Hydraulic Resistance*, diagrams 3-2,
/// 3-4 and 11-1, from memory; steady flow, so an estimate for sound: Ingard & Ising, JASA 42, 1967).
fn loss_factor(port: &Port) -> f64 {
    let a = (port.section.area() / PI).sqrt();
    let one = |end: End| match end {
        End::Flared { radius_mm } => 0.05 + (a / (a + radius_mm * 1e-3)).powi(4),
        End::Flanged => 1.5,
        End::Free => 1.8,
    };
    // each end lets in during one half of the cycle and out during the other
    (one(port.inner_end) + one(port.outer_end)) / 2.0
}

/// Level (dB) lost at a frequency (Hz) by the jets when the drive is `gain` times that of the design.
///
/// The quadratic loss acts on the fundamental like a resistance of (4/3π)·ρ·ξ·û/S (describing function), which is put with
/// the port's friction and brought together with the speed û it leaves.
fn lost(analysis: &Analysis, report: &PortReport, frequency: f64, gain: f64) -> Option<f64> {
    let document = serde_json::to_value(&analysis.design.enclosure).ok()?;
    let own =
        document.pointer(&format!("{}_q", report.pointer)).and_then(serde_json::Value::as_f64).map_or(0.0, |q| 1.0 / q);
    let there = &report.realised;
    let rho = analysis.context.air.rho;
    let before = analysis.rewired(&[], None, report, &[frequency])?;
    let mut speed = before.air_speed[0] * gain;
    let mut level = before.level_db[0];
    for _ in 0..10 {
        let resistance = 4.0 / (3.0 * PI) * rho * loss_factor(&report.port) * speed / there.area;
        let damping = own + resistance / (TAU * there.tuning * there.mass);
        let after = analysis.rewired(
            &[Change::set(format!("{}_q", report.pointer), 1.0 / damping)],
            None,
            report,
            &[frequency],
        )?;
        level = after.level_db[0];
        // half way, so that it settles
        speed = (speed + after.air_speed[0] * gain) / 2.0;
    }
    Some((before.level_db[0] - level).max(0.0))
}

/// A port's air.
pub fn air_speed(analysis: &Analysis, report: &PortReport) -> Option<AirSpeed> {
    let free = analysis.rewired(&[], UNLIMITED, report, &frequencies(analysis, 96))?;
    let (_, most) = speeds(analysis, &free);
    let (speed, at) = fastest_in(analysis, report)?;
    let gain = most.and_then(|(_, f)| {
        let c = analysis.rewired(&[], UNLIMITED, report, &[f])?;
        Some((f, 10f64.powf((c.max_level_db[0] - c.level_db[0]) / 20.0)))
    });
    Some(AirSpeed {
        at_drive_m_per_s: speed,
        at_drive_hz: at,
        at_most_m_per_s: most.map(|m| m.0),
        at_most_hz: most.map(|m| m.1),
        limit_m_per_s: analysis.context.air_limit.unwrap_or(report.port.quiet_speed()),
        own_limit: analysis.context.air_limit.is_some(),
        lost_at_drive_db: lost(analysis, report, at, 1.0)?,
        lost_at_most_db: gain.and_then(|(f, gain)| lost(analysis, report, f, gain)),
    })
}

/// Fastest air at the drive, m/s.
pub fn loudest_air(analysis: &Analysis) -> f64 {
    fastest(analysis).map_or(0.0, |(v, _)| v)
}

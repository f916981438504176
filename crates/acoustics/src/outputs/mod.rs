//! From a solved network to curves: level, excursion, air speed, group delay, impedance, limits, band edges.

mod edges;

use crate::air::Air;
use crate::halt;
use crate::level::{P_REF, SolidAngle};
use crate::network::phasor::{Complex4, Jet, Phasor};
use crate::network::solve::{Flows, Workspace};
use crate::network::{Network, RadiatorKind};
pub use edges::{Band, BandEdges, Reference};
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{SQRT_2, TAU};
use wide::f64x4;

/// The conditions a sweep is computed under.
#[derive(Clone, Copy, Debug)]
pub struct Conditions {
    /// The air.
    pub air: Air,
    /// Distance, m.
    pub distance: f64,
    /// Solid angle radiated into.
    pub solid_angle: SolidAngle,
    /// The limits the maximum level is taken from.
    pub limits: Limits,
}

/// What the parts can stand; `None` is no limit. The air-speed limits belong to the openings.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Limits {
    /// Heat in all coils together, W (I²·Re).
    pub heat: Option<f64>,
    /// Cone excursion, peak one way, m.
    pub excursion: Option<f64>,
    /// Open-circuit voltage of the amplifier, V rms.
    pub volts: Option<f64>,
    /// Amplifier current, A rms.
    pub amperes: Option<f64>,
}

/// Where levels end below, as a power re that of 0 dB: -300 dB.
const SILENCE: f64 = 1e-30;

/// Which limit rules the maximum level at a frequency.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum LimitingFactor {
    /// Nothing limits: no limit was stated.
    #[default]
    None,
    /// Heat in the voice coil.
    Thermal,
    /// Cone excursion.
    Excursion,
    /// Air speed in a port.
    PortAir,
    /// Excursion of a passive radiator.
    RadiatorExcursion,
    /// The amplifier's voltage.
    AmplifierVoltage,
    /// The amplifier's current.
    AmplifierCurrent,
}

/// Every ruling, in the order they are counted in.
pub const LIMITING_FACTORS: [LimitingFactor; 7] = [
    LimitingFactor::None,
    LimitingFactor::Thermal,
    LimitingFactor::Excursion,
    LimitingFactor::PortAir,
    LimitingFactor::AmplifierVoltage,
    LimitingFactor::AmplifierCurrent,
    LimitingFactor::RadiatorExcursion,
];

/// The curves over the frequencies asked for; every vector has one entry per frequency, in their order.
#[derive(Clone, Debug, Default)]
pub struct Curves {
    /// Frequencies, Hz.
    pub frequency: Vec<f64>,
    /// Pressure of the cone alone, Pa rms.
    pub cone: Vec<Complex64>,
    /// Pressure of the ports alone, Pa rms.
    pub port: Vec<Complex64>,
    /// Pressure of everything that radiates, Pa rms.
    pub sum: Vec<Complex64>,
    /// Level of the sum, dB re 20 µPa.
    pub level_db: Vec<f64>,
    /// The same with every filter at gain 1, dB.
    pub unfiltered_level_db: Vec<f64>,
    /// Cone excursion, peak one way, m; of isobaric pairs the larger of the two.
    pub excursion: Vec<f64>,
    /// Excursion of the inner over that of the outer cone; only of isobaric pairs.
    pub excursion_ratio: Vec<f64>,
    /// Air speed, peak, m/s, in the fastest opening (ports at their outer end, throats, mouths); 0 without one.
    pub air_speed: Vec<f64>,
    /// Excursion of the passive radiators, peak one way, m; empty without one.
    pub radiator_excursion: Vec<f64>,
    /// Force of cones and passive radiators on the cabinet, peak, N: by their places and directions where those are known (air
    /// in ports left out). Of several directions out of step the root of the sum of squares.
    pub shaking_force: Vec<f64>,
    /// Their moment about the cabinet's middle, peak, N·m; empty where places are not known.
    pub shaking_moment: Vec<f64>,
    /// Flow out of each of the network's radiators in their order, m³/s rms; empty unless asked for.
    pub flows: Vec<Vec<Complex64>>,
    /// Group delay, s.
    pub group_delay: Vec<f64>,
    /// Impedance at the terminals, Ω.
    pub impedance: Vec<Complex64>,
    /// Open-circuit voltage of the amplifier, V rms.
    pub emf: Vec<Complex64>,
    /// Current through the woofers' terminals, A rms.
    pub current: Vec<Complex64>,
    /// Current out of the amplifier, A rms.
    pub amplifier_current: Vec<Complex64>,
    /// What the amplifier sees behind its leads, Ω.
    pub load: Vec<Complex64>,
    /// How far the drive may grow before a limit is met there, as a factor; without bounds where nothing limits.
    pub headroom: Vec<f64>,
    /// Highest level the limits allow, dB; infinite where nothing limits.
    pub max_level_db: Vec<f64>,
    /// Which limit rules.
    pub limiting: Vec<LimitingFactor>,
}

/// A network made ready for sweeps.
#[derive(Debug)]
pub struct Sweep<'a> {
    network: &'a Network,
    conditions: Conditions,
    workspace: Workspace,
    /// Pressure per volume velocity is jω times this: ρ/(Ωr).
    pressure_scale: f64,
    /// Whether the flow of each opening is told.
    each: bool,
}

impl<'a> Sweep<'a> {
    /// Prepares a sweep.
    pub fn new(network: &'a Network, conditions: Conditions) -> Self {
        let c = &conditions;
        let pressure_scale = c.air.rho / (c.solid_angle.steradians() * c.distance);
        Sweep { network, conditions, workspace: Workspace::new(network), pressure_scale, each: false }
    }

    /// Tells the flow of each opening too ([`Curves::flows`]).
    pub fn with_each_opening(self) -> Self {
        Sweep { each: true, ..self }
    }

    /// The network's flows; where the unpivoted elimination meets an exact zero, the frequency is moved by 1e-9.
    #[inline]
    fn flows(&mut self, omega: f64x4) -> Flows {
        let flows = self.workspace.solve(self.network, omega);
        let probe = flows.sum.v.norm_sqr() + flows.current.norm_sqr();
        if probe.to_array().iter().all(|x| x.is_finite()) {
            return flows;
        }
        self.workspace.solve(self.network, omega * (1.0 + 1e-9))
    }

    /// Computes all curves at the frequencies (Hz, > 0).
    pub fn curves(&mut self, frequency: &[f64]) -> Curves {
        let n = frequency.len();
        let mut out = Curves { frequency: frequency.to_vec(), ..Curves::default() };
        for list in [
            &mut out.cone,
            &mut out.port,
            &mut out.sum,
            &mut out.impedance,
            &mut out.emf,
            &mut out.current,
            &mut out.amplifier_current,
            &mut out.load,
        ] {
            list.reserve_exact(n);
        }
        for list in
            [&mut out.level_db, &mut out.excursion, &mut out.air_speed, &mut out.group_delay, &mut out.max_level_db]
        {
            list.reserve_exact(n);
        }
        out.limiting.reserve_exact(n);
        if self.each {
            out.flows = vec![Vec::with_capacity(n); self.network.radiators.len()];
        }
        let shake = self.network.shake;

        let conditions = self.conditions;
        let limits = conditions.limits;
        let motor = self.network.diaphragm.motor;
        let paired = self.network.diaphragm.pairing.is_some();
        let volts_sqr = self.network.diaphragm.source.volts.powi(2);
        let plain = self.network.diaphragm.source.filters.is_plain();
        let source_resistance = self.network.diaphragm.source.resistance;
        let unlimited = 1e300;
        // Squared open-circuit voltage at the terminals that meets each limit: limit²/value per volt².
        let heat = limits.heat.map(|w| w / self.network.diaphragm.resistance());
        let excursion_limit = limits.excursion.map(|x| (x / SQRT_2).powi(2));
        let volt_limit = limits.volts.map(|v| v.powi(2));
        let current_limit = limits.amperes.map(|i| i.powi(2));
        let speed_has_limit =
            self.network.radiators.iter().any(|r| r.limit.is_some() && r.kind != RadiatorKind::Sprung);
        let sprung = self.network.radiators.iter().any(|r| r.kind == RadiatorKind::Sprung);
        let swing_has_limit =
            self.network.radiators.iter().any(|r| r.limit.is_some() && r.kind == RadiatorKind::Sprung);
        let to_db = 10.0 / std::f64::consts::LN_10;

        for start in (0..n).step_by(4) {
            if start.is_multiple_of(64) {
                halt::check();
            }
            let count = (n - start).min(4);
            let mut f = [frequency[start + count - 1]; 4];
            f[..count].copy_from_slice(&frequency[start..start + count]);
            let omega = f64x4::from(f) * TAU;
            let flows = self.flows(omega);

            let there = &flows.terminals;
            let e = there.voltage;
            let e_sqr = e.v.norm_sqr();
            let volts = e_sqr.sqrt();
            let jw = Jet::j_omega(omega, self.pressure_scale) * e;
            let sum = jw * flows.sum;
            let cone = jw.v * flows.cone.v;
            let port = jw.v * flows.port.v;
            let level_sqr = sum.v.norm_sqr() * (1.0 / (P_REF * P_REF));
            // a filter may take a frequency out altogether
            let level = level_sqr.max(f64x4::splat(SILENCE)).ln() * to_db;
            // -Im(p'/p) = -Im(p'·conj p)/|p|²
            let power = sum.v.norm_sqr();
            let heard = power.simd_gt(f64x4::splat(0.0));
            let turn = (sum.d.re * sum.v.im - sum.d.im * sum.v.re) / power;
            let delay = heard.select(turn, f64x4::splat(0.0));
            let outer_sqr = flows.cone.v.norm_sqr();
            let inner_sqr = if paired { flows.inner_cone.norm_sqr() } else { outer_sqr };
            let displacement_sqr = outer_sqr.max(inner_sqr) / (omega * omega * (motor.sd * motor.sd));
            let excursion = displacement_sqr.sqrt() * volts * SQRT_2;
            let speed = flows.speed_sqr.sqrt() * volts * SQRT_2;
            let impedance = flows.current.recip();
            let current_sqr = flows.current.norm_sqr();
            // The terminals show the loop without the source's own impedance.
            let terminals = impedance - there.impedance.v;
            let current = flows.current * e.v;
            let (seen, own) = match &there.parts {
                Some(m) => {
                    // a·Z + b over c·Z + d, of which a + c·Rs and b + d·Rs are known
                    let own = m.c * terminals + m.d;
                    let whole = (m.open.v * terminals + m.short.v) * own.recip();
                    (whole - Complex4::splat(source_resistance, 0.0), own)
                }
                None => (terminals, Complex4::splat(1.0, 0.0)),
            };
            let taken = current * own;

            let mut scale = f64x4::splat(unlimited);
            let mut limiting = f64x4::splat(0.0);
            let mut consider = |candidate: f64x4, index: f64| {
                let lower = candidate.simd_lt(scale);
                scale = lower.select(candidate, scale);
                limiting = lower.select(f64x4::splat(index), limiting);
            };
            if let Some(limit) = heat {
                consider(f64x4::splat(limit) / current_sqr, 1.0);
            }
            if let Some(limit) = excursion_limit {
                consider(f64x4::splat(limit) / displacement_sqr, 2.0);
            }
            if speed_has_limit {
                consider(f64x4::splat(0.5) / flows.speed_over_limit_sqr, 3.0);
            }
            if let Some(limit) = volt_limit {
                consider(there.transfer.v.norm_sqr() * limit, 4.0);
            }
            if let Some(limit) = current_limit {
                consider(f64x4::splat(limit) / (current_sqr * own.norm_sqr()), 5.0);
            }
            if swing_has_limit {
                // |v|² = ω²·|x|²
                consider(omega * omega * 0.5 / flows.swing_over_limit_sqr, 6.0);
            }
            // what lies before the limits does not move them
            let per_volt = (Jet::j_omega(omega, self.pressure_scale).v * flows.sum.v).norm_sqr();
            let maximum = (per_volt * scale * (1.0 / (P_REF * P_REF))).ln() * to_db;
            let headroom = (scale / e_sqr).sqrt();
            let unfiltered = if plain {
                level
            } else {
                let power = per_volt * there.transfer.v.norm_sqr() * (volts_sqr / (P_REF * P_REF));
                power.max(f64x4::splat(SILENCE)).ln() * to_db
            };

            out.level_db.extend_from_slice(&level.to_array()[..count]);
            out.unfiltered_level_db.extend_from_slice(&unfiltered.to_array()[..count]);
            out.excursion.extend_from_slice(&excursion.to_array()[..count]);
            if paired {
                out.excursion_ratio.extend_from_slice(&(inner_sqr / outer_sqr).sqrt().to_array()[..count]);
            }
            if sprung {
                let swing = (flows.swing_sqr.sqrt() / omega) * volts * SQRT_2;
                out.radiator_excursion.extend_from_slice(&swing.to_array()[..count]);
            }
            // root of the sum over three of the six components
            let shaken = |from: usize| {
                let mut square = f64x4::splat(0.0);
                for i in from..from + 3 {
                    let cones = flows.cone_momentum.scale(f64x4::splat(shake.cones[i]));
                    let all = cones + flows.sprung_momentum.scale(f64x4::splat(shake.sprung[i]));
                    square += all.norm_sqr();
                }
                (square.sqrt() * omega * volts * SQRT_2).to_array()
            };
            out.shaking_force.extend_from_slice(&shaken(0)[..count]);
            if shake.placed {
                out.shaking_moment.extend_from_slice(&shaken(3)[..count]);
            }
            out.air_speed.extend_from_slice(&speed.to_array()[..count]);
            out.group_delay.extend_from_slice(&delay.to_array()[..count]);
            let rules = limiting.to_array().map(|index| LIMITING_FACTORS[index as usize]);
            out.limiting.extend_from_slice(&rules[..count]);
            let limited = rules[0] != LimitingFactor::None;
            let endless = f64x4::splat(f64::INFINITY);
            let (maximum, headroom) = if limited { (maximum, headroom) } else { (endless, endless) };
            out.headroom.extend_from_slice(&headroom.to_array()[..count]);
            out.max_level_db.extend_from_slice(&maximum.to_array()[..count]);
            let split = |z: Complex4| {
                let (re, im) = (z.re.to_array(), z.im.to_array());
                [0, 1, 2, 3].map(|which| Complex64::new(re[which], im[which]))
            };
            for (list, flow) in out.flows.iter_mut().zip(&self.workspace.each) {
                list.extend_from_slice(&split(*flow * e.v)[..count]);
            }
            out.sum.extend_from_slice(&split(sum.v)[..count]);
            out.cone.extend_from_slice(&split(cone)[..count]);
            out.port.extend_from_slice(&split(port)[..count]);
            out.impedance.extend_from_slice(&split(terminals)[..count]);
            out.emf.extend_from_slice(&split(there.emf.v)[..count]);
            out.current.extend_from_slice(&split(current)[..count]);
            out.amplifier_current.extend_from_slice(&split(taken)[..count]);
            out.load.extend_from_slice(&split(seen)[..count]);
        }
        out
    }

    /// The level far above resonance, coil inductance left out, dB: what the driver's efficiency gives,
    /// p = ρ·Sd·Bl·E/(Ωr·(Re + Rg)·Mms).
    pub fn reference_level_db(&self) -> f64 {
        let driven = &self.network.diaphragm;
        crate::level::pressure_level_db(
            self.pressure_scale * driven.source.volts * driven.source.filters.factor.abs() * driven.acceleration(),
        )
    }
}

/// The ratio by which a near-field pressure exceeds the half-space far field at distance r: 2r/a (Keele 1974),
/// a = √(area/π). Multiply by the far-field pressure in half space at `distance` (m).
pub fn near_field_ratio(area: f64, distance: f64) -> f64 {
    2.0 * distance / (area / std::f64::consts::PI).sqrt()
}

/// Level (dB) in the near field of one of `count` equal openings of an area (m², all together) that give a flow (m³/s rms) at a
/// frequency (Hz): p = ρω(U/n)/(π·a), a the radius of one (Keele 1974, from the far field by [`near_field_ratio`]).
pub fn near_field_db(air: &Air, flow: f64, area: f64, count: u32, frequency: f64) -> f64 {
    let n = f64::from(count);
    let radius = (area / n / std::f64::consts::PI).sqrt();
    crate::level::pressure_level_db(air.rho * TAU * frequency * flow / n / (std::f64::consts::PI * radius))
}

#[cfg(test)]
mod tests {
    use super::near_field_ratio;
    use std::f64::consts::{PI, TAU};

    /// The exact pressure at the centre of a piston in a wide wall is 2ρcv·sin(ka/2) (Rayleigh's integral on the
    /// axis; Kinsler et al., *Fundamentals of Acoustics*, eq. 7.4.4, from memory); Keele's ratio must give it from
    /// the far field ρωU/(2πr) while ka is small.
    #[test]
    fn the_near_field_is_that_of_a_piston() {
        let (c, rho, a, distance, velocity) = (343.2, 1.2041, 0.13, 2.0, 0.4);
        let area = PI * a * a;
        for frequency in [20.0, 60.0, 150.0] {
            let ka = TAU * frequency / c * a;
            let exact = 2.0 * rho * c * velocity * f64::sin(ka / 2.0);
            let far = rho * TAU * frequency * velocity * area / (TAU * distance);
            let near = far * near_field_ratio(area, distance);
            assert!((near / exact - 1.0).abs() < ka * ka / 20.0, "{frequency} Hz: {near} against {exact}");
        }
    }
}

//! Sealed box: the air behind the cone is a spring (Small, *Closed-Box Loudspeaker Systems*, JAES 1972).

use super::bandpass_fourth::sealed_resonance;
use super::chamber::{Losses, Plan, USUAL};
use super::inside::Inside;
use super::{Axis, ChamberRole, Context, Family, Fault, Figure, Info, Knob, Searched, Start, Wired, Wish, tidy};
use crate::fill::Fill;
use crate::network::Network;
use crate::network::diaphragm::Diaphragm;
use crate::network::element::ElementLaw;
use crate::network::phasor::{Continued, Phasor};
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// A sealed box.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Sealed")]
pub struct Sealed {
    /// Air behind the cone, with everything that displaces air taken off.
    #[schemars(title = "Net volume", range(min = 0.2, max = 5000.0), extend("x-rank" = "main", "x-unit" = "L"))]
    pub net_volume_l: f64,
    /// What the box is filled with.
    #[schemars(title = "Fill", extend("x-group" = "Fill and losses"))]
    #[serde(default)]
    pub fill: Fill,
    /// Q of the leaks at the box's resonance: 5 to 20 in well-built boxes; empty is airtight.
    #[schemars(title = "Leak loss QL", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub leak_q: Option<f64>,
    /// Q of the absorption in the box at its resonance: 50 to 100 unlined; empty is none.
    #[schemars(title = "Absorption loss QA", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub absorption_q: Option<f64>,
    /// Inside sizes and places, for the standing waves.
    #[schemars(title = "Standing waves", extend("x-group" = "Standing waves"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub inside: Option<Inside>,
}

impl Family for Sealed {
    const INFO: Info = Info {
        id: "sealed",
        title: "Sealed",
        summary: "A closed box: the smallest, the gentlest slope, forgiving of mistakes.",
        source: "Small, Closed-Box Loudspeaker Systems, JAES 1972",
        searched: Searched::Quickly,
    };

    fn wire(&self, context: &Context) -> Wired {
        let array = &context.array;
        let plan = self.plan();
        // fc = fs·√(1 + Vas/V_eff), V_eff = ρc²·C_AB(ω) at fc itself
        let omega = sealed_resonance(context, &plan);
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        let seated = plan.place(&mut wired.network, context, omega, None);
        wired.network.rear = seated.cone;
        let alpha = array.vas() / (seated.chamber.net * seated.chamber.fill_factor);

        let qtc = total_q(context, &plan, omega);
        wired.figures = vec![
            Figure::new(
                "qtc",
                "Qtc",
                qtc,
                "",
                "Total Q of woofer, box, fill and losses, from the pole of their motion (coil inductance left out): 0.707 is flattest, higher bumps, lower sags early.",
            ),
            Figure::new("fc_hz", "fc", omega / TAU, "Hz", "Resonance of the woofer in the box."),
            Figure::new("alpha", "Vas/Vb", alpha, "", "How much stiffer the box's air is than the suspension."),
        ];
        wired.marks = seated.marks;
        wired.chambers = vec![seated.chamber];
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let qts = context.qts();
        [
            (0.707, "flattest level, the usual aim"),
            (0.577, "flattest delay (Bessel): more box and an earlier, gentler fall"),
            (0.5, "critically damped: no overshoot at all, the largest box and the earliest fall"),
            (1.0, "smallest box, a bump of 1.2 dB before it falls"),
        ]
        .into_iter()
        .map(|(qtc, what)| {
            let enclosure = Sealed::of_total_q(context, qtc);
            let sentence = match &enclosure {
                Some(_) => format!("Qtc {qtc}: {what}."),
                None => format!("Qtc {qtc} is out of reach: this woofer's own Qts is {qts:.2}."),
            };
            Start { id: format!("sealed_qtc_{qtc}"), title: format!("Sealed, Qtc {qtc}"), sentence, enclosure }
        })
        .collect()
    }

    fn axes(context: &Context, wish: &Wish) -> Vec<Axis> {
        let high = wish.largest_net * 1e3;
        let low = (context.array.vas() * 1e3 * 0.02).min(high * 0.5);
        vec![Axis { id: "net_volume_l", low, high }]
    }

    fn at(_: &Context, values: &[f64]) -> Option<Sealed> {
        Some(Sealed::usual(values[0]))
    }

    fn one_chamber(&mut self) -> Option<(&mut f64, &mut Option<Inside>)> {
        Some((&mut self.net_volume_l, &mut self.inside))
    }

    fn problems(&self) -> Vec<Fault> {
        super::chamber_faults(self.inside.as_ref(), &self.fill, self.net_volume_l, "/")
    }

    fn knobs() -> &'static [Knob] {
        &[Knob { pointer: "/net_volume_l", low: 1.0, high: 1000.0 }]
    }
}

/// Qtc: of the pole pair s1, s2 of woofer and box, √(s1·s2)/|s1 + s2|, coil inductance left out.
///
/// The poles are where the woofer's motor and mechanics and the box's air, fill and losses together take no flow,
/// 1/Y_cone + 1/Y_box = 0; laws of fill are continued from the real axis. A leak adds a slow third pole. All are found together
/// (Ehrlich 1967, Aberth 1973) from those of the lossless box; the slow one is left out.
fn total_q(context: &Context, plan: &Plan, omega: f64) -> f64 {
    let bare = context.diaphragm();
    let mut motor = bare.motor;
    motor.coil = crate::driver::Coil { le: 0.0, parallel: None, semi: None, ..motor.coil };
    let diaphragm = Diaphragm { motor, ..bare };
    // parts before the woofers have poles of their own; they count as the resistance they are near the resonance
    let source = Continued::constant(context.source.resistance_at(omega / TAU), 0.0);
    let (volume, leak) = plan.air(&context.air, omega);
    // in units of ω, where the pair lies near 1; times s and Y_box it is a cubic but for fill and absorption
    let left = |x: Complex64| -> Complex64 {
        let w = -Complex64::i() * x * omega;
        let mut y = [Continued::zero(); 3];
        volume.admittance::<Continued>(w, &mut y);
        let box_of = y[0] + Continued::constant(leak.map_or(0.0, |r| 1.0 / r), 0.0);
        x * ((box_of / diaphragm.driven::<Continued>(w, source).own).0 + 1.0)
    };
    let alpha = context.array.vas() / (plan.compliance(&context.air, omega) * context.air.bulk_modulus());
    let q = context.qts() * (1.0 + alpha).sqrt();
    let middle = -0.5 / q;
    // begun apart from the real axis, so that none of them is a mirror of another
    let spread = Complex64::new(middle * middle - 1.0, 0.05).sqrt();
    let mut roots = vec![middle + spread, middle - spread];
    roots.extend(leak.map(|_| Complex64::new(-0.01, 0.003)));
    for _ in 0..200 {
        let mut moved = 0.0f64;
        for k in 0..roots.len() {
            let x = roots[k];
            let h = 1e-5;
            let (f, slope) = (left(x), (left(x + h) - left(x - h)) / (2.0 * h));
            if f.norm() == 0.0 {
                continue;
            }
            let newton = f / slope;
            let others: Complex64 = (0..roots.len()).filter(|j| *j != k).map(|j| (x - roots[j]).inv()).sum();
            let step = newton / (1.0 - newton * others);
            let step = step * (0.5 / step.norm().max(1e-300)).min(1.0);
            roots[k] -= step;
            moved = moved.max(step.norm());
        }
        if moved < 1e-12 {
            break;
        }
    }
    // a pair that swings is told by its root above the real axis, the one a law of fill was fitted on
    if let Some(pole) = roots.iter().copied().max_by(|a, b| a.im.total_cmp(&b.im)).filter(|s| s.im > 1e-4) {
        return pole.norm() / (2.0 * pole.re.abs());
    }
    roots.sort_by(|a, b| b.norm().total_cmp(&a.norm()));
    (roots[0] * roots[1]).norm().sqrt() / (roots[0] + roots[1]).norm()
}

impl Sealed {
    /// The box with usual losses that makes a wanted Qtc; `None` where the woofer's own Q is not below it.
    fn of_total_q(context: &Context, wanted: f64) -> Option<Sealed> {
        let q = |litres: f64| {
            let made = Sealed::usual(litres);
            let plan = made.plan();
            total_q(context, &plan, sealed_resonance(context, &plan))
        };
        let vas = context.array.vas() * 1e3;
        let (mut small, mut large) = (vas * 1e-3, vas * 1e3);
        if !(q(small) > wanted && q(large) < wanted) {
            return None;
        }
        for _ in 0..40 {
            let middle = (small * large).sqrt();
            if q(middle) > wanted { small = middle } else { large = middle }
        }
        Some(Sealed::usual(tidy(large)))
    }

    fn plan(&self) -> Plan<'_> {
        Plan {
            role: ChamberRole::Only,
            pointer: "/net_volume_l",
            net_l: self.net_volume_l,
            fill: &self.fill,
            inside: self.inside.as_ref(),
            losses: Losses { leak_q: self.leak_q, absorption_q: self.absorption_q, port_q: None },
        }
    }

    /// A box of this net volume (L) with usual losses.
    fn usual(net_volume_l: f64) -> Sealed {
        Sealed { net_volume_l, fill: Fill::None, leak_q: USUAL.leak_q, absorption_q: USUAL.absorption_q, inside: None }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::air::Air;
    use crate::driver::{Arrangement, Array, Woofer};
    use crate::fill::{FibreLaw, Material};
    use crate::level::{SolidAngle, log_frequencies};
    use crate::outputs::{Conditions, Limits, Sweep};
    use crate::source::Source;
    use approx::assert_relative_eq;

    fn context(qes: f64, coil_mh: f64) -> Context {
        let sheet = Woofer {
            fs_hz: Some(30.0),
            qes: Some(qes),
            qms: Some(5.0),
            vas_l: Some(120.0),
            re_ohm: Some(5.6),
            sd_cm2: Some(530.0),
            le_mh: Some(coil_mh),
            ..Woofer::default()
        };
        let air = Air::given(343.2, 1.2041);
        Context::new(
            air,
            Array::new(&sheet.resolve(&air).unwrap(), &air, &Arrangement::plain(1)),
            Source::new(1.0, 0.0),
        )
    }

    fn qtc(context: &Context, made: &Sealed) -> f64 {
        let wired = made.wire(context);
        wired.figures.iter().find(|f| f.id == "qtc").unwrap().value
    }

    /// Small, JAES 1972: lossless Qtc = Qts·√(1 + Vas/V), above and below a half.
    #[test]
    fn lossless_it_is_the_closed_form() {
        for qes in [0.12, 0.25, 0.40, 0.9] {
            let context = context(qes, 1.0);
            for litres in [6.0, 60.0, 900.0] {
                let made = Sealed { leak_q: None, absorption_q: None, ..Sealed::usual(litres) };
                let closed = context.array.ts.qts() * (1.0f64 + 120.0 / litres).sqrt();
                assert_relative_eq!(qtc(&context, &made), closed, max_relative = 1e-8);
            }
        }
    }

    /// With a leak the motion is of third order: (s² + s/Qts + 1)·(s + g) + α·s = 0 in units of ωs, g = ωc/(ωs·QL)·α/(1+α)^½...
    /// written out from the masses, its roots by the Durand-Kerner iteration.
    #[test]
    fn with_a_leak_it_is_the_root_of_the_cubic() {
        let context = context(0.40, 0.0);
        let (qts, alpha) = (context.array.ts.qts(), 2.0f64);
        for ql in [3.0, 10.0, 40.0] {
            let made = Sealed { leak_q: Some(ql), absorption_q: None, ..Sealed::usual(60.0) };
            // the box's spring behind a leak: α·s/(s + g) in place of α, with g = ωc/QL
            let g = (1.0 + alpha).sqrt() / ql;
            let cubic = |s: Complex64| ((s + 1.0 / qts) * s + 1.0) * (s + g) + alpha * s;
            let mut roots = [0, 1, 2].map(|k| Complex64::new(0.4, 0.9).powu(k));
            for _ in 0..200 {
                for k in 0..3 {
                    let apart: Complex64 = (0..3).filter(|j| *j != k).map(|j| roots[k] - roots[j]).product();
                    roots[k] -= cubic(roots[k]) / apart;
                }
            }
            let pole = roots.into_iter().max_by(|a, b| a.im.total_cmp(&b.im)).unwrap();
            assert_relative_eq!(qtc(&context, &made), pole.norm() / (2.0 * pole.re.abs()), max_relative = 1e-8);
        }
    }

    /// The level's own second-order fit (least squares over Q, frequency and gain, from half to four times fc): within 2 %
    /// with usual losses, within 4 % with fill, whose spring changes over that band.
    #[test]
    fn the_level_itself_has_that_q() {
        let context = context(0.40, 0.0);
        let air = context.air;
        let material = |density, part| Fill::Material {
            material: Material::PolyesterWadding,
            density_kg_per_m3: density,
            mass_g: None,
            filled_part: part,
        };
        let dense =
            Fill::Fibrous { model: FibreLaw::AllardChampoux, flow_resistivity_pa_s_per_m2: 8000.0, filled_part: 0.9 };
        for (fill, within) in [(Fill::None, 0.02), (material(10.0, 0.6), 0.04), (dense, 0.04)] {
            let made = Sealed { fill, ..Sealed::usual(45.0) };
            let wired = made.wire(&context);
            let fc = wired.figures.iter().find(|f| f.id == "fc_hz").unwrap().value;
            let list = log_frequencies(fc * 0.5, fc * 4.0, 60);
            let conditions =
                Conditions { air, distance: 1.0, solid_angle: SolidAngle::Half, limits: Limits::default() };
            let level = Sweep::new(&wired.network, conditions).curves(&list).level_db;
            let misfit = |q: f64, f0: f64| {
                let model = |f: f64| {
                    let x = f / f0;
                    10.0 * (x.powi(4) / ((1.0 - x * x).powi(2) + (x / q).powi(2))).log10()
                };
                let off: Vec<f64> = list.iter().zip(&level).map(|(f, l)| l - model(*f)).collect();
                let mean = off.iter().sum::<f64>() / off.len() as f64;
                off.iter().map(|x| (x - mean).powi(2)).sum::<f64>()
            };
            let (mut q, mut f0, mut step) = (0.7, fc, 0.1);
            while step > 1e-5 {
                let best = [-1.0, 0.0, 1.0]
                    .into_iter()
                    .flat_map(|i| [-1.0, 0.0, 1.0].map(|k| (q * (1.0 + step * i), f0 * (1.0 + step * k))))
                    .min_by(|a, b| misfit(a.0, a.1).total_cmp(&misfit(b.0, b.1)))
                    .unwrap();
                if best == (q, f0) {
                    step /= 2.0;
                }
                (q, f0) = best;
            }
            assert_relative_eq!(qtc(&context, &made), q, max_relative = within);
        }
    }

    /// A suggestion has the Qtc its title says, to what three digits of volume leave.
    #[test]
    fn a_suggestion_keeps_its_promise() {
        let context = context(0.40, 1.0);
        for suggestion in Sealed::suggestions(&context) {
            let Some(made) = suggestion.enclosure else { continue };
            let promised: f64 = suggestion.id.trim_start_matches("sealed_qtc_").parse().unwrap();
            assert_relative_eq!(qtc(&context, &made), promised, max_relative = 4e-3);
        }
    }
}

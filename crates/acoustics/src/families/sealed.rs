//! Sealed box: the air behind the cone is a spring (Small, *Closed-Box Loudspeaker Systems*, JAES 1972).

use super::bandpass_fourth::sealed_resonance;
use super::chamber::{Inside, Losses, Plan, USUAL};
use super::{Axis, Context, Enclosure, Family, Fault, Figure, Info, Knob, Suggestion, Wired, Wish, tidy};
use crate::alignments::sealed_volume_ratio;
use crate::fill::Fill;
use crate::network::Network;
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
        searched: true,
    };

    fn wire(&self, context: &Context) -> Wired {
        let Context { array, source_resistance, .. } = context;
        let plan = Plan {
            pointer: "/net_volume_l",
            net_l: self.net_volume_l,
            fill: &self.fill,
            inside: self.inside.as_ref(),
            losses: Losses { leak_q: self.leak_q, absorption_q: self.absorption_q, port_q: None },
        };
        // fc = fs·√(1 + Vas/V_eff), V_eff = ρc²·C_AB(ω) at fc itself
        let omega = sealed_resonance(context, &plan);
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        let seated = plan.place(&mut wired.network, context, omega, None);
        wired.network.rear = seated.cone;
        let alpha = array.vas() / (seated.chamber.net * seated.chamber.fill_factor);

        let qts = array.qts_with_source(*source_resistance);
        let lossless = qts * (1.0 + alpha).sqrt();
        // The box's losses act on its share α/(1 + α) of the total stiffness (first order in the losses).
        let loss = self.leak_q.map_or(0.0, |q| 1.0 / q) + self.absorption_q.map_or(0.0, |q| 1.0 / q);
        let qtc = 1.0 / (1.0 / lossless + loss * alpha / (1.0 + alpha));
        wired.figures = vec![
            Figure::new("qtc", "Qtc", qtc, "", "Total Q of woofer, box and losses at fc: 0.707 is flattest, higher bumps, lower sags early."),
            Figure::new("fc_hz", "fc", omega / TAU, "Hz", "Resonance of the woofer in the box."),
            Figure::new("alpha", "Vas/Vb", alpha, "", "How much stiffer the box's air is than the suspension."),
        ];
        wired.marks = seated.marks;
        wired.chambers = vec![seated.chamber];
        wired
    }

    fn suggestions(context: &Context) -> Vec<Suggestion> {
        let qts = context.array.qts_with_source(context.source_resistance);
        [
            (0.707, "flattest level, the usual aim"),
            (0.577, "flattest delay (Bessel): more box and an earlier, gentler fall"),
            (0.5, "critically damped: no overshoot at all, the largest box and the earliest fall"),
            (1.0, "smallest box, a bump of 1.2 dB before it falls"),
        ]
        .into_iter()
        .map(|(qtc, what)| {
            let enclosure = sealed_volume_ratio(qts, qtc).map(|ratio| {
                Enclosure::Sealed(Sealed::usual(tidy(ratio * context.array.vas() * 1e3)))
            });
            let sentence = match &enclosure {
                Some(_) => format!("Qtc {qtc}: {what}."),
                None => format!("Qtc {qtc} is out of reach: this woofer's own Qts is {qts:.2}."),
            };
            Suggestion { id: format!("sealed_qtc_{qtc}"), title: format!("Sealed, Qtc {qtc}"), sentence, enclosure }
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

    fn problems(&self) -> Vec<Fault> {
        super::chamber_faults(self.inside.as_ref(), &self.fill, self.net_volume_l, "/")
    }

    fn knobs() -> &'static [Knob] {
        &[Knob { pointer: "/net_volume_l", low: 1.0, high: 1000.0 }]
    }
}

impl Sealed {
    /// A box of this net volume (L) with usual losses.
    fn usual(net_volume_l: f64) -> Sealed {
        Sealed {
            net_volume_l,
            fill: Fill::None,
            leak_q: USUAL.leak_q,
            absorption_q: USUAL.absorption_q,
            inside: None,
        }
    }
}

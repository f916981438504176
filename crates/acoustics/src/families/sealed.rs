//! Sealed box: the air behind the cone is a spring (Small, *Closed-Box Loudspeaker Systems*, JAES 1972).

use super::{
    Axis, Chamber, Context, Enclosure, Family, Figure, Info, Suggestion, Wired, Wish, chamber_volume, fixed_point,
    real_compliance, tidy,
};
use crate::alignments::sealed_volume_ratio;
use crate::fill::Fill;
use crate::network::leak::Leak;
use crate::network::{Network, Node, RadiatorKind};
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
}

impl Family for Sealed {
    const INFO: Info = Info {
        id: "sealed",
        title: "Sealed",
        summary: "A closed box: the smallest, the gentlest slope, forgiving of mistakes.",
        source: "Small, Closed-Box Loudspeaker Systems, JAES 1972",
    };

    fn wire(&self, context: &Context) -> Wired {
        let Context { air, array, source_resistance } = context;
        let net = self.net_volume_l * 1e-3;
        let mut volume = chamber_volume(air, net, &self.fill);
        // fc = fs·√(1 + Vas/V_eff), V_eff = ρc²·C_AB(ω) at fc itself
        let fs = array.ts.fs;
        let effective = |omega: f64| real_compliance(&volume, omega) * air.bulk_modulus();
        let omega = fixed_point(fs, |w| TAU * fs * (1.0 + array.vas() / effective(w)).sqrt());
        let compliance = real_compliance(&volume, omega);
        let effective = effective(omega);
        let alpha = array.vas() / effective;
        let fc = omega / TAU;

        let qts = array.qts_with_source(*source_resistance);
        let lossless = qts * (1.0 + alpha).sqrt();
        // The box's losses act on its share α/(1 + α) of the total stiffness (first order in the losses).
        let loss = self.leak_q.map_or(0.0, |q| 1.0 / q) + self.absorption_q.map_or(0.0, |q| 1.0 / q);
        let qtc = 1.0 / (1.0 / lossless + loss * alpha / (1.0 + alpha));

        volume.absorption = self.absorption_q.map_or(0.0, |q| 1.0 / (omega * q * compliance));
        let mut network = Network::new(context.diaphragm());
        let inside = network.node();
        network.rear = inside;
        network.place(volume, &[inside, Node::Outside]);
        if let Some(q) = self.leak_q {
            let leak = Leak { resistance: q / (omega * compliance) };
            network.place_radiator(leak, inside, RadiatorKind::Leak, 0.0, None);
        }
        Wired {
            network,
            figures: vec![
                Figure::new("qtc", "Qtc", qtc, "", "Total Q of woofer, box and losses at fc: 0.707 is flattest, higher bumps, lower sags early."),
                Figure::new("fc_hz", "fc", fc, "Hz", "Resonance of the woofer in the box."),
                Figure::new("alpha", "Vas/Vb", alpha, "", "How much stiffer the box's air is than the suspension."),
            ],
            chambers: vec![Chamber {
                pointer: "/net_volume_l",
                net,
                fill_factor: effective / net,
                fill: self.fill.clone(),
            }],
            ports: Vec::new(),
            unloads_below: None,
        }
    }

    fn suggestions(context: &Context) -> Vec<Suggestion> {
        let qts = context.array.qts_with_source(context.source_resistance);
        [
            (0.707, "flattest level, the usual aim"),
            (0.577, "best transient, a little more box and an earlier, gentler fall"),
            (1.0, "smallest box, a bump of 1.2 dB before it falls"),
        ]
        .into_iter()
        .map(|(qtc, what)| {
            let enclosure = sealed_volume_ratio(qts, qtc).map(|ratio| {
                Enclosure::Sealed(Sealed::at(context, &[tidy(ratio * context.array.vas() * 1e3)]))
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

    fn at(_: &Context, values: &[f64]) -> Sealed {
        Sealed { net_volume_l: values[0], fill: Fill::None, leak_q: Some(10.0), absorption_q: Some(80.0) }
    }
}

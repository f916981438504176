//! Fourth-order bandpass: sealed behind the cone, tuned in front of it (Fincham, *A Bandpass Loudspeaker Enclosure*,
//! AES preprint 1512, 1979; Geddes, JAES 1989; from memory).

use super::chamber::{Losses, Plan, USUAL};
use super::inside::Inside;
use super::{
    Axis, ChamberRole, Context, Family, Fault, Figure, Info, Knob, Searched, Stands, Start, Wired, Wish, fixed_point,
    tidy,
};
use crate::fill::Fill;
use crate::network::{Network, Node};
use crate::port::Port;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// A fourth-order bandpass box.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Fourth-order bandpass")]
pub struct BandpassFourth {
    /// Air in the closed chamber behind the cone.
    #[schemars(title = "Rear volume", range(min = 0.2, max = 5000.0), extend("x-rank" = "main", "x-unit" = "L"))]
    pub rear_volume_l: f64,
    /// Air in the tuned chamber in front of the cone.
    #[schemars(title = "Front volume", range(min = 0.2, max = 5000.0), extend("x-rank" = "main", "x-unit" = "L"))]
    pub front_volume_l: f64,
    /// The port of the front chamber.
    #[schemars(title = "Front port")]
    pub front_port: Port,
    /// What the rear chamber is filled with.
    #[schemars(title = "Rear fill", extend("x-group" = "Fill and losses"))]
    #[serde(default)]
    pub rear_fill: Fill,
    /// What the front chamber is lined with.
    #[schemars(title = "Front fill", extend("x-group" = "Fill and losses"))]
    #[serde(default)]
    pub front_fill: Fill,
    /// Q of the rear chamber's leaks at its resonance with the woofer; empty is airtight.
    #[schemars(title = "Rear leak QL", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rear_leak_q: Option<f64>,
    /// Q of the rear chamber's absorption at its resonance with the woofer; empty is none.
    #[schemars(title = "Rear absorption QA", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rear_absorption_q: Option<f64>,
    /// Q of the front chamber's leaks at its tuning; empty is airtight.
    #[schemars(title = "Front leak QL", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub front_leak_q: Option<f64>,
    /// Q of the front chamber's absorption at its tuning; empty is none.
    #[schemars(title = "Front absorption QA", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub front_absorption_q: Option<f64>,
    /// Q of the friction in the front port at its chamber's tuning; empty is none.
    #[schemars(title = "Front port QP", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub front_port_q: Option<f64>,
    /// Inside sizes of the rear chamber, for its standing waves.
    #[schemars(title = "Rear chamber", extend("x-group" = "Standing waves"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rear_inside: Option<Inside>,
    /// Inside sizes of the front chamber, for its standing waves.
    #[schemars(title = "Front chamber", extend("x-group" = "Standing waves"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub front_inside: Option<Inside>,
}

impl Family for BandpassFourth {
    const INFO: Info = Info {
        id: "bandpass_fourth",
        title: "Bandpass, fourth order",
        summary: "Sealed behind the cone, tuned in front: only the port plays, in a band; a strong filter of its own.",
        source: "Fincham, A Bandpass Loudspeaker Enclosure, AES preprint 1512, 1979 (from memory)",
        searched: Searched::Quickly,
    };

    const STANDS: Stands = Stands::BetweenChambers;

    fn wire(&self, context: &Context) -> Wired {
        let array = &context.array;
        let rear = Plan {
            role: ChamberRole::Rear,
            pointer: "/rear_volume_l",
            net_l: self.rear_volume_l,
            fill: &self.rear_fill,
            inside: self.rear_inside.as_ref(),
            losses: Losses { leak_q: self.rear_leak_q, absorption_q: self.rear_absorption_q, port_q: None },
        };
        let front = Plan {
            role: ChamberRole::Front,
            pointer: "/front_volume_l",
            net_l: self.front_volume_l,
            fill: &self.front_fill,
            inside: self.front_inside.as_ref(),
            losses: Losses {
                leak_q: self.front_leak_q,
                absorption_q: self.front_absorption_q,
                port_q: self.front_port_q,
            },
        };
        let omega = sealed_resonance(context, &rear);
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        let behind = rear.place(&mut wired.network, context, omega, None);
        let (before, port) =
            front.place_tuned(&mut wired.network, context, &self.front_port, "/front_port", Node::Outside);
        wired.network.rear = behind.cone;
        wired.network.front = before.cone;
        let ratio = array.vas() / (behind.chamber.net * behind.chamber.fill_factor);
        let qtc = context.qts() * (1.0 + ratio).sqrt();
        wired.figures = vec![
            Figure::new(
                "fb_hz",
                "Front tuning",
                port.realised.tuning,
                "Hz",
                "Where the front port and the front chamber's air swing against each other.",
            ),
            Figure::new(
                "rear_fc_hz",
                "Rear fc",
                omega / TAU,
                "Hz",
                "Resonance of the woofer on the rear chamber alone: the middle of the band when the front is tuned to it.",
            ),
            Figure::new("rear_qtc", "Rear Qtc", qtc, "", "Total Q of the woofer on the rear chamber alone (lossless)."),
        ];
        wired.bandpass = true;
        wired.measured_by_efficiency = false;
        wired.marks = [behind.marks, before.marks].concat();
        wired.chambers = vec![behind.chamber, before.chamber];
        wired.ports = vec![port];
        wired
    }

    /// Lossless prototype: front tuned to the rear's fc; front volume from S = 1/(2·Qtc·√...), kept as three schools of
    /// how wide against how loud. The band's gain against the woofer's own level is about (Qtc/Qts)².
    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let array = &context.array;
        let qts = context.qts();
        [
            ("wide", 0.6, "flat over more than an octave, hardly louder than the woofer itself"),
            ("middle", 0.8, "a band of about an octave with some gain"),
            ("loud", 1.1, "narrow and loud: gain at the price of bandwidth and delay"),
        ]
        .into_iter()
        .map(|(id, qtc, what)| {
            let alpha = (qtc / qts).powi(2) - 1.0;
            let enclosure = (alpha > 0.05).then(|| {
                let rear = array.vas() / alpha * 1e3;
                let tuning = array.ts.fs * (1.0 + alpha).sqrt();
                // Vf = (2·S·Qts)²·Vas with S = 0.6 (Fincham's chart, from memory): a ripple of about 0.4 dB
                let front = (2.0 * 0.6 * qts).powi(2) * array.vas() * 1e3;
                BandpassFourth::with(context, rear, front, tuning)
            });
            let sentence = match enclosure {
                Some(_) => format!("Qtc {qtc} behind: {what}."),
                None => format!("Qtc {qtc} behind is out of reach: this woofer's own Qts is {qts:.2}."),
            };
            Start { id: format!("bandpass_fourth_{id}"), title: format!("Bandpass, {id}"), sentence, enclosure }
        })
        .collect()
    }

    fn front_volume_l(&self) -> Option<f64> {
        Some(self.front_volume_l)
    }

    fn problems(&self) -> Vec<Fault> {
        let mut list = super::chamber_faults(self.rear_inside.as_ref(), &self.rear_fill, self.rear_volume_l, "/rear_");
        list.extend(super::port_faults(&self.front_port, "/front_port"));
        list.extend(super::chamber_faults(
            self.front_inside.as_ref(),
            &self.front_fill,
            self.front_volume_l,
            "/front_",
        ));
        list
    }

    fn knobs() -> &'static [Knob] {
        &[
            Knob { pointer: "/rear_volume_l", low: 1.0, high: 1000.0 },
            Knob { pointer: "/front_volume_l", low: 1.0, high: 1000.0 },
            Knob { pointer: "/front_port/sizing/tuning_hz", low: 15.0, high: 150.0 },
        ]
    }

    fn axes(context: &Context, wish: &Wish) -> Vec<Axis> {
        // both chambers share what there is
        let high = wish.largest_net * 1e3 * 0.5;
        let low = (context.array.vas() * 1e3 * 0.05).min(high * 0.3);
        vec![
            Axis { id: "rear_volume_l", low, high },
            Axis { id: "front_volume_l", low, high },
            Axis { id: "tuning_hz", low: wish.lowest_note, high: wish.lowest_note * 3.0 },
        ]
    }

    fn at(context: &Context, values: &[f64]) -> Option<BandpassFourth> {
        Some(BandpassFourth::with(context, values[0], values[1], values[2]))
    }
}

/// fc of the woofer on a closed chamber, rad/s: fs·√(1 + Vas/V_eff).
pub(super) fn sealed_resonance(context: &Context, rear: &Plan) -> f64 {
    let (air, array) = (&context.air, &context.array);
    let fs = array.ts.fs;
    fixed_point(fs, |w| {
        let effective = rear.compliance(air, w) * air.bulk_modulus();
        TAU * fs * (1.0 + array.vas() / effective).sqrt()
    })
}

impl BandpassFourth {
    fn with(context: &Context, rear: f64, front: f64, tuning: f64) -> BandpassFourth {
        BandpassFourth {
            rear_volume_l: tidy(rear),
            front_volume_l: tidy(front),
            front_port: super::usual_port(context, tuning, 0.12),
            rear_fill: Fill::None,
            front_fill: Fill::None,
            rear_leak_q: USUAL.leak_q,
            rear_absorption_q: USUAL.absorption_q,
            front_leak_q: USUAL.leak_q,
            front_absorption_q: USUAL.absorption_q,
            front_port_q: USUAL.port_q,
            rear_inside: None,
            front_inside: None,
        }
    }
}

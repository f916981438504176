//! Sixth-order bandpass, both chambers tuned: to the outside (parallel), or the rear one into the front one (series)
//! (Geddes, *An Introduction to Band-Pass Loudspeaker Systems*, JAES 1989; from memory).

use super::chamber::{Losses, Plan, USUAL};
use super::inside::Inside;
use super::{
    Axis, ChamberRole, Context, Family, Fault, Figure, Info, Knob, Searched, Stands, Start, Wired, Wish, tidy,
    usual_port,
};
use crate::fill::Fill;
use crate::network::{Network, Node};
use crate::port::{Face, Port};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What both kinds state.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Sixth-order bandpass")]
pub struct BandpassSixth {
    /// Where the rear chamber's port leads.
    #[schemars(title = "Rear port leads")]
    pub leads: RearPortLeads,
    /// Air in the chamber behind the cone.
    #[schemars(title = "Rear volume", range(min = 0.2, max = 5000.0), extend("x-rank" = "main", "x-unit" = "L"))]
    pub rear_volume_l: f64,
    /// The port of the rear chamber.
    #[schemars(title = "Rear port")]
    pub rear_port: Port,
    /// Air in the chamber in front of the cone.
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
    /// Q of the rear chamber's leaks at its tuning; empty is airtight.
    #[schemars(title = "Rear leak QL", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rear_leak_q: Option<f64>,
    /// Q of the rear chamber's absorption at its tuning; empty is none.
    #[schemars(title = "Rear absorption QA", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rear_absorption_q: Option<f64>,
    /// Q of the friction in the rear port at its chamber's tuning; empty is none.
    #[schemars(title = "Rear port QP", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rear_port_q: Option<f64>,
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

/// Where the rear chamber's port leads.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum RearPortLeads {
    /// To the outside, beside the front one: parallel.
    Outside,
    /// Into the front chamber: series. The rear tuning is then the rear chamber with this port alone.
    FrontChamber,
}

impl BandpassSixth {
    /// Two chambers (rear and front, L) and their tunings (Hz) with usual ports and losses.
    fn with(context: &Context, leads: RearPortLeads, litres: [f64; 2], tunings: [f64; 2]) -> BandpassSixth {
        BandpassSixth {
            leads,
            rear_volume_l: litres[0],
            // straight out of its own chamber
            rear_port: Port {
                leaves: if leads == RearPortLeads::Outside { Face::Back } else { Face::Baffle },
                ..usual_port(context, tunings[0], 0.1)
            },
            front_volume_l: litres[1],
            front_port: usual_port(context, tunings[1], 0.15),
            rear_fill: Fill::None,
            front_fill: Fill::None,
            rear_leak_q: USUAL.leak_q,
            rear_absorption_q: USUAL.absorption_q,
            rear_port_q: USUAL.port_q,
            front_leak_q: USUAL.leak_q,
            front_absorption_q: USUAL.absorption_q,
            front_port_q: USUAL.port_q,
            rear_inside: None,
            front_inside: None,
        }
    }
}

impl Family for BandpassSixth {
    const INFO: Info = Info {
        id: "bandpass_sixth",
        title: "Bandpass, sixth order",
        summary: "Both chambers tuned, side by side or one through the other: loud over a band, steep on both sides.",
        source: "Geddes, An Introduction to Band-Pass Loudspeaker Systems, JAES 1989 (from memory)",
        searched: Searched::Slowly,
    };

    const STANDS: Stands = Stands::BetweenChambers;

    fn wire(&self, context: &Context) -> Wired {
        let rear = Plan {
            role: ChamberRole::Rear,
            pointer: "/rear_volume_l",
            net_l: self.rear_volume_l,
            fill: &self.rear_fill,
            inside: self.rear_inside.as_ref(),
            losses: Losses { leak_q: self.rear_leak_q, absorption_q: self.rear_absorption_q, port_q: self.rear_port_q },
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
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        let network = &mut wired.network;
        let (before, front_port) = front.place_tuned(network, context, &self.front_port, "/front_port", Node::Outside);
        let to = match self.leads {
            RearPortLeads::Outside => Node::Outside,
            RearPortLeads::FrontChamber => before.cone,
        };
        let (behind, rear_port) = rear.place_tuned(network, context, &self.rear_port, "/rear_port", to);
        network.rear = behind.cone;
        network.front = before.cone;
        wired.figures = vec![
            Figure::new(
                "fb_hz",
                "Rear tuning",
                rear_port.realised.tuning,
                "Hz",
                "Where the rear chamber's air and its own port swing against each other.",
            ),
            Figure::new(
                "front_fb_hz",
                "Front tuning",
                front_port.realised.tuning,
                "Hz",
                "Where the front chamber's air and its own port swing against each other.",
            ),
        ];
        wired.bandpass = true;
        wired.measured_by_efficiency = false;
        wired.marks = [behind.marks, before.marks].concat();
        wired.chambers = vec![behind.chamber, before.chamber];
        wired.unloads_below = Some(rear_port.realised.tuning.min(front_port.realised.tuning));
        wired.ports = vec![rear_port, front_port];
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let vas = context.array.vas() * 1e3;
        let fs = context.array.ts.fs;
        let qts = context.qts();
        // starting points of this project's own, found by looking at the computed band; an estimate to tune from
        let rear = vas * (2.2 * qts).powi(2);
        [
            (
                RearPortLeads::Outside,
                "parallel",
                0.6,
                fs * 1.0,
                fs * 2.2,
                "both ports to the outside: two tunings an octave apart",
            ),
            (
                RearPortLeads::FrontChamber,
                "series",
                1.0,
                fs * 0.95,
                fs * 1.9,
                "the rear port into the front chamber: lower for its size, a single opening outside",
            ),
        ]
        .into_iter()
        .map(|(leads, id, share, low, high, what)| {
            let made = BandpassSixth::with(context, leads, [tidy(rear), tidy(rear * share)], [low, high]);
            Start {
                id: format!("bandpass_sixth_{id}"),
                title: format!("Bandpass 6th, {id}"),
                sentence: format!("A start to tune from, {what}."),
                enclosure: Some(made),
            }
        })
        .collect()
    }

    fn axes(context: &Context, wish: &Wish) -> Vec<Axis> {
        // both chambers share what there is
        let high = wish.largest_net * 1e3 * 0.6;
        let low = (context.array.vas() * 1e3 * 0.05).min(high * 0.3);
        vec![
            Axis { id: "rear_volume_l", low, high },
            Axis { id: "front_volume_l", low: low * 0.5, high },
            Axis { id: "rear_tuning_hz", low: wish.lowest_note * 0.6, high: wish.lowest_note * 1.8 },
            Axis { id: "front_tuning_hz", low: wish.lowest_note * 1.2, high: wish.lowest_note * 4.0 },
        ]
    }

    fn at(context: &Context, values: &[f64]) -> Option<BandpassSixth> {
        Some(BandpassSixth::with(context, RearPortLeads::Outside, [values[0], values[1]], [values[2], values[3]]))
    }

    fn front_volume_l(&self) -> Option<f64> {
        Some(self.front_volume_l)
    }

    fn problems(&self) -> Vec<Fault> {
        let mut list = super::chamber_faults(self.rear_inside.as_ref(), &self.rear_fill, self.rear_volume_l, "/rear_");
        list.extend(super::port_faults(&self.front_port, "/front_port"));
        list.extend(super::port_faults(&self.rear_port, "/rear_port"));
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
            Knob { pointer: "/rear_port/sizing/tuning_hz", low: 12.0, high: 120.0 },
            Knob { pointer: "/front_port/sizing/tuning_hz", low: 15.0, high: 200.0 },
        ]
    }
}

//! Vented box: the air in the port is a mass on the spring of the box (Thiele 1961; Small, *Vented-Box
//! Loudspeaker Systems*, JAES 1973).

use super::{
    Axis, Chamber, Context, Enclosure, Family, Figure, Info, PortReport, Suggestion, Wired, Wish, chamber_volume,
    real_compliance, tidy,
};
use crate::alignments::{Kind, flattest_vented};
use crate::fill::Fill;
use crate::network::leak::Leak;
use crate::network::{Network, Node, RadiatorKind};
use crate::port::{End, Port, PortModel, QUIET_SPEED_FLARED, Section, Sizing};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// Usual losses of a well-built box (common practice).
const LEAK_Q: f64 = 10.0;
const ABSORPTION_Q: f64 = 80.0;
const PORT_Q: f64 = 100.0;

/// A vented box.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Vented")]
pub struct Vented {
    /// Air behind the cone, with everything that displaces air taken off, the port too.
    #[schemars(title = "Net volume", range(min = 0.2, max = 5000.0), extend("x-rank" = "main", "x-unit" = "L"))]
    pub net_volume_l: f64,
    /// The port or ports.
    #[schemars(title = "Port")]
    pub port: Port,
    /// What the box is filled or lined with.
    #[schemars(title = "Fill", extend("x-group" = "Fill and losses"))]
    #[serde(default)]
    pub fill: Fill,
    /// Q of the leaks at the tuning: 7 is the usual planning value; empty is airtight.
    #[schemars(title = "Leak loss QL", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub leak_q: Option<f64>,
    /// Q of the absorption in the box at the tuning: 50 to 100 unlined; empty is none.
    #[schemars(title = "Absorption loss QA", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub absorption_q: Option<f64>,
    /// Q of the friction in the port at the tuning: 80 to 150; empty is none.
    #[schemars(title = "Port loss QP", range(min = 0.5, max = 1000.0), extend("x-group" = "Fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub port_q: Option<f64>,
}

impl Family for Vented {
    const INFO: Info = Info {
        id: "vented",
        title: "Vented",
        summary: "A box with a tuned port: deeper and louder per watt, larger, and steep below its tuning.",
        source: "Thiele, Loudspeakers in Vented Boxes, 1961; Small, Vented-Box Loudspeaker Systems, JAES 1973",
    };

    fn wire(&self, context: &Context) -> Wired {
        let Context { air, array, source_resistance } = context;
        let net = self.net_volume_l * 1e-3;
        let mut volume = chamber_volume(air, net, &self.fill);
        let realised = self.port.realise(air, |omega| real_compliance(&volume, omega));
        let fb = realised.tuning;
        let omega = TAU * fb;
        let compliance = real_compliance(&volume, omega);
        let effective = compliance * air.bulk_modulus();

        volume.absorption = self.absorption_q.map_or(0.0, |q| 1.0 / (omega * q * compliance));
        let friction = self.port_q.map_or(0.0, |q| omega * realised.mass / q);
        let mut network = Network::new(context.diaphragm());
        let inside = network.node();
        network.rear = inside;
        network.place(volume, &[inside, Node::Outside]);
        let chain = self.port.chain(air, &realised, friction);
        let limit = Some(self.port.quiet_speed());
        network.place_radiator(chain, inside, RadiatorKind::Port, realised.area, limit);
        if let Some(q) = self.leak_q {
            let leak = Leak { resistance: q / (omega * compliance) };
            network.place_radiator(leak, inside, RadiatorKind::Leak, 0.0, None);
        }
        let alpha = array.vas() / effective;
        Wired {
            network,
            figures: vec![
                Figure::new("fb_hz", "Tuning fb", fb, "Hz", "Where the air in the port and the air in the box swing against each other."),
                Figure::new("alpha", "Vas/Vb", alpha, "", "How much stiffer the box's air is than the suspension."),
                Figure::new("h", "fb/fs", fb / array.ts.fs, "", "Tuning against the woofer's own resonance."),
                Figure::new("qts_in_circuit", "Qts in circuit", array.qts_with_source(*source_resistance), "", "Total Q with the source and lead resistance counted."),
            ],
            chambers: vec![Chamber {
                pointer: "/net_volume_l",
                net,
                fill_factor: effective / net,
                fill: self.fill.clone(),
            }],
            ports: vec![PortReport { pointer: "/port", port: self.port.clone(), realised }],
            unloads_below: Some(fb),
        }
    }

    fn suggestions(context: &Context) -> Vec<Suggestion> {
        let array = &context.array;
        let qts = array.qts_with_source(context.source_resistance);
        // Small 1973: small losses of all three kinds act together nearly as one leak.
        let together = 1.0 / (1.0 / LEAK_Q + 1.0 / ABSORPTION_Q + 1.0 / PORT_Q);
        let found = flattest_vented(qts, together);
        let title = |kind: Kind| match kind {
            Kind::QuasiButterworth => "quasi-Butterworth",
            Kind::Butterworth => "Butterworth",
            Kind::Chebyshev => "Chebyshev",
        };
        let make = |volume: f64, tuning: f64| {
            // Opening: a tube whose air stays under the flared limit when the cone's full stroke at the tuning
            // is moved by the port; a fifth of the cone's area where no stroke is stated.
            let by_stroke = array.motor.sd * TAU * tuning * 0.010 / QUIET_SPEED_FLARED;
            let area = by_stroke.clamp(array.motor.sd * 0.06, array.motor.sd * 0.25);
            let diameter = ((4.0 * area / PI).sqrt() * 1e3 / 5.0).round() * 5.0;
            Enclosure::Vented(Vented::at(context, &[tidy(volume * 1e3), tidy(tuning), diameter]))
        };
        vec![match found {
            Some(a) => Suggestion {
                id: "vented_flattest".into(),
                title: format!("Vented, flattest ({})", title(a.kind)),
                sentence: format!(
                    "The flattest this woofer allows: ripple {:.1} dB, f3 about {:.0} Hz.",
                    a.ripple_db,
                    a.f3 * array.ts.fs
                ),
                enclosure: Some(make(array.vas() / a.alpha, a.h * array.ts.fs)),
            },
            None => Suggestion {
                id: "vented_flattest".into(),
                title: "Vented, flattest".into(),
                sentence: format!("No vented box is flat with a Qts of {qts:.2}; take a sealed one."),
                enclosure: None,
            },
        }]
    }

    fn axes(context: &Context, wish: &Wish) -> Vec<Axis> {
        let array = &context.array;
        let high = wish.largest_net * 1e3;
        let low = (array.vas() * 1e3 * 0.05).min(high * 0.5);
        let diameter = |share: f64| (4.0 * array.motor.sd * share / PI).sqrt() * 1e3;
        vec![
            Axis { id: "net_volume_l", low, high },
            Axis { id: "tuning_hz", low: wish.lowest_note * 0.5, high: wish.lowest_note * 2.0 },
            Axis { id: "diameter_mm", low: diameter(0.01), high: diameter(0.5) },
        ]
    }

    fn at(_: &Context, values: &[f64]) -> Vented {
        let (volume, tuning, diameter) = (values[0], values[1], values[2]);
        let flare = End::Flared { radius_mm: (diameter * 0.12).round().max(1.0) };
        Vented {
            net_volume_l: volume,
            port: Port {
                section: Section::Round { diameter_mm: diameter },
                count: 1,
                sizing: Sizing::Tuning { tuning_hz: tuning },
                inner_end: flare,
                outer_end: flare,
                walls_alongside: 0,
                wall_mm: 4.0,
                model: PortModel::default(),
            },
            fill: Fill::None,
            leak_q: Some(LEAK_Q),
            absorption_q: Some(ABSORPTION_Q),
            port_q: Some(PORT_Q),
        }
    }
}

//! Vented box: the air in the port is a mass on the spring of the box (Thiele 1961; Small, *Vented-Box
//! Loudspeaker Systems*, JAES 1973).

use super::chamber::{Losses, Plan, USUAL};
use super::inside::Inside;
use super::{Axis, ChamberRole, Context, Family, Fault, Figure, Info, Knob, Searched, Start, Wired, Wish, tidy};
use crate::alignments::{
    Kind, Vented as Alignment, at_own_resonance, bessel, butterworth, flattest_vented, oversize, sub_chebyshev,
};
use crate::fill::Fill;
use crate::network::{Network, Node};
use crate::port::{End, Port, QUIET_SPEED_FLARED, Section, Sizing};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

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
    /// Inside sizes and places, for the standing waves.
    #[schemars(title = "Standing waves", extend("x-group" = "Standing waves"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub inside: Option<Inside>,
}

impl Family for Vented {
    const INFO: Info = Info {
        id: "vented",
        title: "Vented",
        summary: "A box with a tuned port: deeper and louder per watt, larger, and steep below its tuning.",
        source: "Thiele, Loudspeakers in Vented Boxes, 1961; Small, Vented-Box Loudspeaker Systems, JAES 1973",
        searched: Searched::Quickly,
    };

    fn wire(&self, context: &Context) -> Wired {
        let Context { array, .. } = context;
        let plan = Plan {
            role: ChamberRole::Only,
            pointer: "/net_volume_l",
            net_l: self.net_volume_l,
            fill: &self.fill,
            inside: self.inside.as_ref(),
            losses: Losses { leak_q: self.leak_q, absorption_q: self.absorption_q, port_q: self.port_q },
        };
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        let (seated, port) = plan.place_tuned(&mut wired.network, context, &self.port, "/port", Node::Outside);
        wired.network.rear = seated.cone;
        let fb = port.realised.tuning;
        let alpha = array.vas() / (seated.chamber.net * seated.chamber.fill_factor);
        wired.figures = vec![
            Figure::new(
                "fb_hz",
                "Tuning fb",
                fb,
                "Hz",
                "Where the air in the port and the air in the box swing against each other.",
            ),
            Figure::new("alpha", "Vas/Vb", alpha, "", "How much stiffer the box's air is than the suspension."),
            Figure::new("h", "fb/fs", fb / array.ts.fs, "", "Tuning against the woofer's own resonance."),
            Figure::new(
                "qts_in_circuit",
                "Qts in circuit",
                context.qts(),
                "",
                "Total Q with the source and lead resistance counted.",
            ),
        ];
        wired.marks = seated.marks;
        wired.chambers = vec![seated.chamber];
        wired.ports = vec![port];
        wired.unloads_below = Some(fb);
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let array = &context.array;
        let qts = context.qts();
        // Small 1973: small losses of all three kinds act together nearly as one leak.
        let q = |loss: Option<f64>| loss.map_or(0.0, |q| 1.0 / q);
        let together = 1.0 / (q(USUAL.leak_q) + q(USUAL.absorption_q) + q(USUAL.port_q));
        let make = |a: &Alignment| {
            let (volume, tuning) = (array.vas() / a.alpha, a.h * array.ts.fs);
            // Opening: a tube whose air stays under the flared limit when the cone's full excursion at the tuning
            // is moved by the port; a fifth of the cone's area where no excursion is stated.
            let by_excursion = array.motor.sd * TAU * tuning * 0.010 / QUIET_SPEED_FLARED;
            let area = by_excursion.clamp(array.motor.sd * 0.06, array.motor.sd * 0.25);
            let diameter = ((4.0 * area / PI).sqrt() * 1e3 / 5.0).round() * 5.0;
            Vented::usual(tidy(volume * 1e3), tidy(tuning), diameter)
        };
        let school = |id: &str, title: &str, found: Option<Alignment>, what: &str, cannot: String| Start {
            id: format!("vented_{id}"),
            title: format!("Vented, {title}"),
            sentence: match &found {
                Some(_) => what.into(),
                None => cannot,
            },
            enclosure: found.as_ref().map(make),
        };
        let flattest = flattest_vented(qts, together);
        let words = |kind: Kind| match kind {
            Kind::QuasiButterworth => "quasi-Butterworth",
            Kind::Butterworth => "Butterworth",
            _ => "Chebyshev",
        };
        let mut list = vec![school(
            "flattest",
            &flattest.as_ref().map_or("flattest".into(), |a| format!("flattest ({})", words(a.kind))),
            flattest,
            &format!(
                "The flattest this woofer allows, ripple {:.1} dB.",
                flattest.as_ref().map_or(0.0, |a| a.ripple_db)
            ),
            format!("No vented box is flat with a Qts of {qts:.2}; take a sealed one."),
        )];
        let (wanted, exact) = butterworth(together);
        if flattest.as_ref().is_none_or(|a| a.kind != Kind::Butterworth) {
            list.push(school(
                "butterworth",
                "Butterworth",
                (qts / wanted - 1.0).abs().le(&0.1).then_some(exact),
                "Flat as long as can be.",
                format!("Butterworth needs a Qts of {wanted:.2}; this woofer's is {qts:.2}."),
            ));
        }
        for (kind, id, word) in [(Kind::QuasiButterworth, "quasi", "low"), (Kind::Chebyshev, "chebyshev", "high")] {
            if flattest.as_ref().is_none_or(|a| a.kind != kind) {
                let cannot = format!(
                    "{} is for woofers of a {word} Qts, {} {wanted:.2}; this one's is {qts:.2}.",
                    oak_drum_text::capital(words(kind)),
                    if word == "low" { "below" } else { "above" }
                );
                list.push(school(id, words(kind), None, "", cannot));
            }
        }
        let (wanted, exact) = bessel(together);
        list.push(school(
            "bessel",
            "Bessel",
            (qts / wanted - 1.0).abs().le(&0.1).then_some(exact),
            "Even delay, an early and gentle fall.",
            format!("Bessel needs a Qts of {wanted:.2}; this woofer's is {qts:.2}."),
        ));
        list.push(school(
            "sub_chebyshev",
            "sub-Chebyshev",
            sub_chebyshev(qts, together),
            "Larger and lower than the flattest, sagging a little on the way.",
            format!("Sub-Chebyshev is for woofers of a low Qts; this one's is {qts:.2}."),
        ));
        list.push(school(
            "at_fs",
            "at the woofer's own resonance",
            at_own_resonance(qts, together),
            "Tuned to fs, the volume as flat as that allows.",
            format!("Tuned to fs no volume is flat with a Qts of {qts:.2}."),
        ));
        let shelf = flattest.map(|a| oversize(qts, together, a.alpha / 1.8, a.h * 0.72));
        list.push(school(
            "oversize",
            "oversize and low",
            shelf,
            "Nearly twice the box tuned low: an extended shelf with more power behind it.",
            format!("With a Qts of {qts:.2} an oversize box only booms."),
        ));
        list
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

    fn at(_: &Context, values: &[f64]) -> Option<Vented> {
        Some(Vented::usual(values[0], values[1], values[2]))
    }

    fn one_chamber(&mut self) -> Option<(&mut f64, &mut Option<Inside>)> {
        Some((&mut self.net_volume_l, &mut self.inside))
    }

    fn problems(&self) -> Vec<Fault> {
        let mut list = super::chamber_faults(self.inside.as_ref(), &self.fill, self.net_volume_l, "/");
        list.extend(super::port_faults(&self.port, "/port"));
        list
    }

    fn knobs() -> &'static [Knob] {
        &[
            Knob { pointer: "/net_volume_l", low: 1.0, high: 1000.0 },
            Knob { pointer: "/port/sizing/tuning_hz", low: 10.0, high: 120.0 },
        ]
    }
}

impl Vented {
    /// A box of this net volume (L), tuning (Hz) and tube (inside diameter, mm), both ends flared, with usual losses.
    fn usual(net_volume_l: f64, tuning: f64, diameter: f64) -> Vented {
        let flare = End::Flared { radius_mm: (diameter * 0.12).round().max(1.0) };
        Vented {
            net_volume_l,
            port: Port {
                inner_end: flare,
                outer_end: flare,
                wall_mm: 4.0,
                ..Port::plain(Section::Round { diameter_mm: diameter }, Sizing::Tuning { tuning_hz: tuning })
            },
            fill: Fill::None,
            leak_q: USUAL.leak_q,
            absorption_q: USUAL.absorption_q,
            port_q: USUAL.port_q,
            inside: None,
        }
    }
}

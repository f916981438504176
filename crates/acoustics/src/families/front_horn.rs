//! Front-loaded horn: the cone's front drives the horn, a chamber closes its rear (Leach, *On the Specification of
//! Moving-Coil Drivers for Low-Frequency Horn-Loaded Loudspeakers*, JAES 1979; Webster 1919).

use super::bandpass_fourth::sealed_resonance;
use super::chamber::{Losses, Plan, USUAL};
use super::horn::Horn;
use super::{
    Axis, ChamberRole, Context, Family, Fault, Figure, Info, Knob, Searched, Stands, Start, Wired, Wish, tidy,
};
use crate::fill::Fill;
use crate::network::Network;
use crate::path::MouthPlace;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// A front-loaded horn.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Front-loaded horn")]
pub struct FrontHorn {
    /// Air in the closed chamber behind the cone; empty leaves the back open.
    #[schemars(title = "Rear chamber", range(min = 0.2, max = 5000.0), extend("x-rank" = "main", "x-unit" = "L", "x-start" = 50))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rear_volume_l: Option<f64>,
    /// Air between the cone and the throat; empty is none.
    #[schemars(title = "Throat chamber", range(min = 0.05, max = 500.0), extend("x-unit" = "L"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub throat_chamber_l: Option<f64>,
    /// The horn.
    #[schemars(title = "Horn")]
    pub horn: Horn,
    /// What the rear chamber is filled with.
    #[schemars(title = "Rear fill", extend("x-group" = "Rear chamber's fill and losses"))]
    #[serde(default)]
    pub rear_fill: Fill,
    /// Q of the rear chamber's leaks at the woofer's resonance on it; empty is airtight.
    #[schemars(title = "Leak loss QL", range(min = 0.5, max = 1000.0), extend("x-group" = "Rear chamber's fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rear_leak_q: Option<f64>,
    /// Q of the rear chamber's absorption there; empty is none.
    #[schemars(title = "Absorption loss QA", range(min = 0.5, max = 1000.0), extend("x-group" = "Rear chamber's fill and losses"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rear_absorption_q: Option<f64>,
}

/// The lowest note a horn for this woofer is started for, Hz: an octave's third above its resonance.
pub(super) fn lowest(context: &Context) -> f64 {
    (context.array.ts.fs * 1.3).clamp(25.0, 120.0)
}

/// Two schools of a horn's length: half a wavelength with a large mouth, a quarter and the room's corner for the rest.
pub(super) const SCHOOLS: [(&str, &str, f64, MouthPlace, &str); 2] = [
    (
        "half",
        "half a wave long",
        0.5,
        MouthPlace::HalfSpace,
        "Half a wavelength at its lowest note and a mouth of full size for a floor: the smooth, large one.",
    ),
    (
        "quarter",
        "a quarter wave long",
        0.25,
        MouthPlace::EighthSpace,
        "A quarter wavelength, the room's corner for the rest: half as long, and the corner is part of it.",
    ),
];

impl FrontHorn {
    /// A horn before a closed rear chamber (L), with a shallow throat chamber and usual losses.
    fn usual(context: &Context, rear_volume_l: f64, horn: Horn) -> FrontHorn {
        FrontHorn {
            rear_volume_l: Some(rear_volume_l),
            throat_chamber_l: Some(tidy(context.array.cone_area() * 0.05 * 1e3)),
            horn,
            rear_fill: Fill::None,
            rear_leak_q: USUAL.leak_q,
            rear_absorption_q: USUAL.absorption_q,
        }
    }
}

impl Family for FrontHorn {
    const INFO: Info = Info {
        id: "front_horn",
        title: "Front-loaded horn",
        summary: "The cone plays through a widening pipe: many times as efficient, and as large as the note is low.",
        source: "Webster's equation (1919); Leach, JAES 1979",
        searched: Searched::Slowly,
    };

    const STANDS: Stands = Stands::AtThroat;

    fn wire(&self, context: &Context) -> Wired {
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        if let Some(litres) = self.rear_volume_l {
            let plan = Plan {
                role: ChamberRole::Rear,
                pointer: "/rear_volume_l",
                net_l: litres,
                fill: &self.rear_fill,
                inside: None,
                losses: Losses { leak_q: self.rear_leak_q, absorption_q: self.rear_absorption_q, port_q: None },
            };
            let omega = sealed_resonance(context, &plan);
            let seated = plan.place(&mut wired.network, context, omega, None);
            wired.network.rear = seated.cone;
            wired.figures.push(Figure::new(
                "rear_fc_hz",
                "Rear fc",
                omega / TAU,
                "Hz",
                "Resonance of the woofer on the rear chamber alone.",
            ));
            wired.chambers.push(seated.chamber);
        }
        let node = wired.network.node();
        wired.network.front = node;
        self.horn.place(&mut wired, context, node, self.throat_chamber_l);
        // the horn's own figures first
        wired.figures.rotate_left(usize::from(self.rear_volume_l.is_some()));
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let low = lowest(context);
        SCHOOLS
            .into_iter()
            .map(|(id, title, part, mouth, sentence)| {
                let rear = tidy(context.array.vas() * 1e3 * 0.4);
                let made = FrontHorn::usual(context, rear, Horn::start(context, low, part, mouth, 2.0));
                Start {
                    id: format!("front_horn_{id}"),
                    title: format!("Front horn, {title}"),
                    sentence: sentence.into(),
                    enclosure: Some(made),
                }
            })
            .collect()
    }

    fn axes(context: &Context, wish: &Wish) -> Vec<Axis> {
        let high = wish.largest_net * 1e3 * 0.5;
        let rear = Axis { id: "rear_volume_l", low: (context.array.vas() * 1e3 * 0.05).min(high * 0.3), high };
        std::iter::once(rear).chain(Horn::axes(context, wish.lowest_note)).collect()
    }

    fn at(context: &Context, values: &[f64]) -> Option<FrontHorn> {
        Some(FrontHorn::usual(context, values[0], Horn::of(context, values[1], values[2], 2.0)))
    }

    fn head_l(&self) -> Option<f64> {
        self.throat_chamber_l
    }

    fn problems(&self) -> Vec<Fault> {
        self.horn.faults("/horn")
    }

    fn knobs() -> &'static [Knob] {
        &[
            Knob { pointer: "/rear_volume_l", low: 2.0, high: 500.0 },
            Knob { pointer: "/horn/profile/length_mm", low: 300.0, high: 8000.0 },
            Knob { pointer: "/horn/mouth_cm2", low: 100.0, high: 40000.0 },
            Knob { pointer: "/horn/throat_cm2", low: 20.0, high: 2000.0 },
        ]
    }
}

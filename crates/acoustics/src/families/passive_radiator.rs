//! Passive radiator: a sprung mass in place of a port (Small, *Passive-Radiator Loudspeaker Systems*, JAES 1974).

use super::chamber::{Losses, Plan, USUAL};
use super::inside::Inside;
use super::radiators::{Mounted, Radiators};
use super::{
    Axis, ChamberRole, Context, Family, Fault, Figure, Info, Knob, Mark, Searched, Start, Step, Wired, Wish, tidy,
};
use crate::air::Air;
use crate::alignments::flattest_vented;
use crate::fill::Fill;
use crate::network::resonator::Resonator;
use crate::network::{Network, Node, Opening, RadiatorKind, Shake};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// A box with passive radiators.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Passive radiator")]
pub struct PassiveRadiator {
    /// Air behind the cone, with everything that displaces air taken off.
    #[schemars(title = "Net volume", range(min = 0.2, max = 5000.0), extend("x-rank" = "main", "x-unit" = "L"))]
    pub net_volume_l: f64,
    /// The radiators, all alike.
    #[schemars(title = "Radiators")]
    pub radiators: Radiators,
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
    /// Inside sizes and places, for the standing waves.
    #[schemars(title = "Standing waves", extend("x-group" = "Standing waves"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub inside: Option<Inside>,
}

impl Radiators {
    /// ω of the tuning with a chamber (m³/Pa) and an added mass (g): ω² = (1/C_AB + 1/C_AP)/M_AP.
    fn tuned(&self, stated: &Air, chamber: impl Fn(f64) -> f64, added_g: f64) -> f64 {
        let (mass, _, own) = self.acoustic(stated, added_g);
        super::fixed_point(self.fs_hz, |w| ((1.0 / chamber(w) + 1.0 / own) / mass).sqrt())
    }
}

impl PassiveRadiator {
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

    /// Radiators of twice the woofers' area at a tuning (Hz) in a volume (L), their figures rounded by `round`.
    fn with(context: &Context, net_volume_l: f64, tuning: f64, round: fn(f64) -> f64) -> PassiveRadiator {
        let air = &context.air;
        let array = &context.array;
        let one = (array.cone_area() * 1e4 * 2.0).min(2000.0);
        let count = ((array.cone_area() * 2e4) / one).ceil().max(1.0);
        let n = count;
        let chamber = air.compliance(net_volume_l * 1e-3);
        // a suspension three times as soft as the box, and no mass below that of a bare cone
        let own = chamber * 3.0 / n;
        let mass = (1.0 / chamber + 1.0 / (own * n)) / (TAU * tuning).powi(2) * n;
        let area = one * 1e-4;
        let bare = mass * 0.75;
        let fs = 1.0 / (TAU * (bare * own).sqrt());
        PassiveRadiator {
            net_volume_l,
            radiators: Radiators {
                count: count as u32,
                fs_hz: round(fs),
                qms: 6.0,
                vas_l: round(own * context.stated.bulk_modulus() * 1e3),
                sd_cm2: round(one),
                xmax_mm: None,
                added_mass_g: round(0.25 * mass * area * area * 1e3),
                weight_g: 75.0,
                nut_g: 0.0,
                mounted: Mounted::BesideWoofer,
            },
            fill: Fill::None,
            leak_q: USUAL.leak_q,
            absorption_q: USUAL.absorption_q,
            inside: None,
        }
    }
}

impl Family for PassiveRadiator {
    const INFO: Info = Info {
        id: "passive_radiator",
        title: "Passive radiator",
        summary: "A sprung mass in place of a port: no air noise and no pipe resonance, where a port would not fit.",
        source: "Small, Passive-Radiator Loudspeaker Systems, JAES 1974",
        searched: Searched::Quickly,
    };

    fn wire(&self, context: &Context) -> Wired {
        let air = &context.air;
        let r = &self.radiators;
        let plan = self.plan();
        let chamber = |w: f64| plan.compliance(air, w);
        let stated = &context.stated;
        let omega = r.tuned(stated, chamber, r.added_mass_g);
        let (mass, resistance, compliance) = r.acoustic(stated, r.added_mass_g);
        let area = r.sd_cm2 * 1e-4 * f64::from(r.count);
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        let seated = plan.place(&mut wired.network, context, omega, Some(area));
        wired.network.rear = seated.cone;
        let limit = r.xmax_mm.map(|x| x * 1e-3);
        let cone = Resonator { mass, resistance, compliance };
        let opening = Opening { count: r.count, limit, ..Opening::one("radiators", RadiatorKind::Sprung, area) };
        wired.network.place_opening(cone, [seated.opening, Node::Outside], opening);
        let tuning = omega / TAU;
        let notch = 1.0 / (TAU * (mass * compliance).sqrt());
        let alpha = context.array.vas() / (seated.chamber.net * seated.chamber.fill_factor);
        wired.figures = vec![
            Figure::new(
                "fb_hz",
                "Tuning fp",
                tuning,
                "Hz",
                "Where the radiators and the air in the box swing against the cone.",
            ),
            Figure::new(
                "notch_hz",
                "Notch",
                notch,
                "Hz",
                "Own resonance of the radiators in free air: they take back what the cone gives there.",
            ),
            Figure::new("alpha", "Vas/Vb", alpha, "", "How much stiffer the box's air is than the suspension."),
            Figure::new(
                "radiator_mass_g",
                "Radiator mass",
                r.moving_mass(stated) * 1e3,
                "g",
                "Moving mass of each radiator with what is screwed to it.",
            ),
        ];
        wired.marks = seated.marks;
        wired.marks.push(Mark::new(notch, "notch".into(), "The radiators' own resonance in free air."));
        wired.chambers = vec![seated.chamber];
        wired.unloads_below = Some(tuning);
        wired.steps = (0..=6)
            .map(|k| {
                let added = if k == 0 { 0.0 } else { f64::from(k) * r.weight_g + r.nut_g };
                Step {
                    pointer: "/radiators/added_mass_g",
                    value: added,
                    title: match k {
                        0 => "bare".into(),
                        1 => "1 weight".into(),
                        _ => format!("{k} weights"),
                    },
                    tuning: r.tuned(stated, chamber, added) / TAU,
                }
            })
            .collect();
        // seen along the woofer's axis; a pair cancels
        let way = match r.mounted {
            Mounted::BesideWoofer => 1.0,
            Mounted::OppositeWoofer => -1.0,
            Mounted::InOpposedPairs => f64::from(r.count % 2) / f64::from(r.count),
        };
        if let Some(radiator) = wired.network.radiators.iter_mut().find(|r| r.kind == RadiatorKind::Sprung) {
            radiator.mass_per_area = mass * area;
        }
        wired.network.shake = Shake::along_one_axis(way);
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let array = &context.array;
        let qts = context.qts();
        let make = |title: &str, id: &str, found: Option<(f64, f64)>, what: &str| Start {
            id: format!("passive_radiator_{id}"),
            title: format!("Passive radiator, {title}"),
            sentence: match found {
                Some(_) => what.into(),
                None => format!("No flat box exists for a Qts of {qts:.2} this way."),
            },
            enclosure: found.map(|(litres, tuning)| PassiveRadiator::with(context, tidy(litres), tidy(tuning), tidy)),
        };
        let flat = flattest_vented(qts, 9.0).map(|a| (array.vas() / a.alpha * 1e3, a.h * array.ts.fs));
        vec![
            make(
                "as a vented box",
                "flat",
                flat,
                "The vented box's flattest tuning without its port: steeper at the bottom, where the radiators' own resonance makes a notch.",
            ),
            make(
                "half the size",
                "small",
                flat.map(|(litres, tuning)| (litres * 0.5, tuning)),
                "Half the box at the same tuning: no port would fit; a little less level at the bottom.",
            ),
        ]
    }

    fn one_chamber(&mut self) -> Option<(&mut f64, &mut Option<Inside>)> {
        Some((&mut self.net_volume_l, &mut self.inside))
    }

    fn radiators(&self) -> Option<&Radiators> {
        Some(&self.radiators)
    }

    fn problems(&self) -> Vec<Fault> {
        super::chamber_faults(self.inside.as_ref(), &self.fill, self.net_volume_l, "/")
    }

    fn knobs() -> &'static [Knob] {
        &[
            Knob { pointer: "/net_volume_l", low: 1.0, high: 1000.0 },
            Knob { pointer: "/radiators/added_mass_g", low: 1.0, high: 2000.0 },
        ]
    }

    fn axes(context: &Context, wish: &Wish) -> Vec<Axis> {
        let high = wish.largest_net * 1e3;
        let low = (context.array.vas() * 1e3 * 0.05).min(high * 0.5);
        vec![
            Axis { id: "net_volume_l", low, high },
            Axis { id: "tuning_hz", low: wish.lowest_note * 0.5, high: wish.lowest_note * 2.0 },
        ]
    }

    fn at(context: &Context, values: &[f64]) -> Option<PassiveRadiator> {
        // five digits: a search must not walk on steps
        Some(PassiveRadiator::with(context, values[0], values[1], |x| super::rounded(x, 5)))
    }
}

//! Chambers as several families place them: closed or tuned, plain or with standing waves.

use super::inside::Inside;
use super::{Chamber, ChamberRole, Context, Mark, PortReport, chamber_volume, real_compliance};
use crate::air::Air;
use crate::fill::{FibreModel, Fill};
use crate::network::cavity::{Cavity, MOST_MODES, modes};
use crate::network::leak::Leak;
use crate::network::volume::Volume;
use crate::network::{Network, Node, Opening as Hole, RadiatorKind};
use crate::port::Port;
use std::f64::consts::TAU;

/// Highest frequency standing waves are counted to, Hz.
const HIGHEST_MODE: f64 = 2000.0;

/// Losses of a chamber and its port, as Q at its own resonance; `None` is lossless.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Losses {
    pub leak_q: Option<f64>,
    pub absorption_q: Option<f64>,
    pub port_q: Option<f64>,
}

/// Usual losses of a well-built box (common practice).
pub(crate) const USUAL: Losses = Losses { leak_q: Some(10.0), absorption_q: Some(80.0), port_q: Some(100.0) };

/// A chamber as a family states it.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Plan<'a> {
    /// Which chamber it is.
    pub role: ChamberRole,
    /// Place of its net volume in the family's part of the document.
    pub pointer: &'static str,
    /// Net volume, L.
    pub net_l: f64,
    pub fill: &'a Fill,
    pub inside: Option<&'a Inside>,
    pub losses: Losses,
}

/// A chamber placed in the network.
#[derive(Debug)]
pub(crate) struct Seated {
    /// Where the cone meets it.
    pub cone: Node,
    /// Where its port or radiator meets it.
    pub opening: Node,
    pub chamber: Chamber,
    pub marks: Vec<Mark>,
}

impl Plan<'_> {
    /// The fill packed by density, a lining taken into account.
    fn fill(&self) -> Fill {
        self.fill.packed(self.net_l * 1e-3, self.inside.and_then(Inside::lined))
    }

    fn volume(&self, air: &Air) -> Volume {
        chamber_volume(air, self.net_l * 1e-3, &self.fill())
    }

    /// Real part of its compliance at ω (rad/s), m³/Pa.
    pub fn compliance(&self, air: &Air, omega: f64) -> f64 {
        real_compliance(&self.volume(air), omega)
    }

    /// Its air with the absorption, and the leak's resistance (Pa·s/m³), where losses belong to the resonance `omega` (rad/s).
    pub fn air(&self, air: &Air, omega: f64) -> (Volume, Option<f64>) {
        let mut volume = self.volume(air);
        let compliance = real_compliance(&volume, omega);
        volume.absorption = self.losses.absorption_q.map_or(0.0, |q| 1.0 / (omega * q * compliance));
        (volume, self.losses.leak_q.map(|q| q / (omega * compliance)))
    }

    /// Places air and leak; losses belong to the resonance `omega` (rad/s). `opening` is the area of a port or
    /// radiator in it, m².
    pub fn place(&self, network: &mut Network, context: &Context, omega: f64, opening: Option<f64>) -> Seated {
        let air = &context.air;
        let packed = self.fill();
        // what leaks is pushed by the chamber's mean pressure
        let (volume, leak) = self.air(air, omega);
        let compliance = real_compliance(&volume, omega);
        let cone = network.node();
        let mut marks = Vec::new();
        let seat = match self.inside {
            None => {
                network.place(volume, &[cone, Node::Outside]);
                if let Some(resistance) = leak {
                    network.place_opening(Leak { resistance }, [cone, Node::Outside], Hole::LEAK);
                }
                cone
            }
            Some(inside) => {
                let (part, fill) = match packed.fibres() {
                    Some((law, sigma, part)) => (part, Some(FibreModel::new(law, sigma, *air))),
                    None => (0.0, None),
                };
                let sides = inside.sides();
                let mut list = modes(air, sides, HIGHEST_MODE, part, inside.place());
                list.retain(|mode| Some(mode.order) != context.left_out);
                marks = mode_marks(&list, inside, sides, context.array.cone_area(), opening);
                let mut openings = vec![inside.woofer(context.array.cone_area())];
                openings.extend(opening.map(|area| inside.opening(area)));
                let mut nodes = vec![cone];
                nodes.extend(opening.map(|_| network.node()));
                let seat = nodes[nodes.len() - 1];
                let cavity = Cavity::new(air, sides, volume, fill, &openings, &list).with_wall_q(inside.wall_q);
                match leak {
                    None => {
                        network.place(cavity, &nodes);
                    }
                    Some(resistance) => {
                        nodes.push(Node::Outside);
                        let element = network.place(cavity.with_leak(resistance), &nodes);
                        network.watch(element, nodes.len() - 1, Hole::LEAK);
                    }
                }
                seat
            }
        };
        let net = self.net_l * 1e-3;
        let fill_factor = compliance * air.bulk_modulus() / net;
        let filled = packed.fibres().map_or(0.0, |(_, _, part)| part * net);
        let inside = self.inside.copied();
        let resonance = omega / TAU;
        let chamber = Chamber {
            role: self.role,
            pointer: self.pointer,
            net,
            fill_factor,
            fill: packed,
            filled,
            inside,
            opening,
            resonance,
        };
        Seated { cone, opening: seat, chamber, marks }
    }

    /// Places the chamber with a port to `to`; losses belong to its own tuning (all its ports, this chamber).
    pub fn place_tuned(
        &self,
        network: &mut Network,
        context: &Context,
        port: &Port,
        pointer: &'static str,
        to: Node,
    ) -> (Seated, PortReport) {
        let air = &context.air;
        let realised = port.realise(air, self.net_l * 1e-3, |omega| self.compliance(air, omega));
        let omega = TAU * realised.tuning;
        let seated = self.place(network, context, omega, Some(realised.area));
        let friction = self.losses.port_q.map_or(0.0, |q| omega * realised.mass / q);
        let chain = port.chain(air, &realised, friction);
        let kind = if to == Node::Outside { RadiatorKind::Port } else { RadiatorKind::Inner };
        let limit = context.air_limit.unwrap_or(port.quiet_speed());
        let hole = Hole { count: port.count, limit: Some(limit), ..Hole::one(self.role.port(), kind, realised.area) };
        network.place_opening(chain, [seated.opening, to], hole);
        let radiator = network.radiators.len() - 1;
        (
            seated,
            PortReport {
                role: self.role,
                outside: to == Node::Outside,
                pointer,
                port: port.clone(),
                realised,
                radiator,
            },
        )
    }
}

/// The lowest modes that woofer and opening excite, as marks: at most three.
fn mode_marks(
    list: &[crate::network::cavity::Mode],
    inside: &Inside,
    sides: [f64; 3],
    cone: f64,
    opening: Option<f64>,
) -> Vec<Mark> {
    debug_assert!(list.len() <= MOST_MODES);
    list.iter()
        .filter(|mode| {
            let driven = mode.seen_from(&inside.woofer(cone), sides).abs();
            let heard = opening.map_or(driven, |area| mode.seen_from(&inside.opening(area), sides).abs());
            driven * heard > 0.1
        })
        .take(3)
        .map(|mode| {
            let [l, m, n] = mode.order;
            Mark::new(mode.omega / TAU, format!("{l}-{m}-{n}"), "A standing wave: half waves across, up and behind.")
        })
        .collect()
}

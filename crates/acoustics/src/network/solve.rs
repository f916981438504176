//! The fast solver: four frequencies at a time, with the exact derivative by ω.
//!
//! Y = LDLᵀ without pivoting, then Y·p' = s' - Y'·p with the same factors. Held to [`super::plain`].

use super::phasor::{Complex4, Jet, Phasor};
use super::{Network, Node, RadiatorKind, RearSound, packed};
use crate::source::Terminals;
use wide::f64x4;

/// Volume velocities per volt of the source, and the current, at four frequencies.
#[derive(Clone, Copy, Debug)]
pub struct Flows {
    /// Cone toward the front (of isobaric pairs the outer one), m³/s per V.
    pub cone: Jet,
    /// The inner cone of isobaric pairs toward the front; else the same as `cone`, m³/s per V.
    pub inner_cone: Complex4,
    /// All openings of kind [`RadiatorKind::Port`] and [`RadiatorKind::Sprung`], m³/s per V.
    pub port: Jet,
    /// Everything that radiates (cone, ports, leaks), m³/s per V.
    pub sum: Jet,
    /// Current from the source, A per V.
    pub current: Complex4,
    /// Largest ratio (air speed)²/(limit)² over the openings that have a limit, (m/s per V)²/(m/s)², rms.
    pub speed_over_limit_sqr: f64x4,
    /// Largest squared rms air speed over all openings, (m/s per V)².
    pub speed_sqr: f64x4,
    /// Largest squared rms velocity of the sprung masses, (m/s per V)².
    pub swing_sqr: f64x4,
    /// The same over the squared limit of each one's excursion, (m/s per V)²/m².
    pub swing_over_limit_sqr: f64x4,
    /// What drives the woofers.
    pub terminals: Terminals<Jet>,
    /// Momentum of all cones together, kg·m/s per V.
    pub cone_momentum: Complex4,
    /// Momentum of all sprung masses together, kg·m/s per V.
    pub sprung_momentum: Complex4,
}

/// Scratch space for [`Workspace::solve`]; make one per sweep.
#[derive(Debug)]
pub struct Workspace {
    matrix: Vec<Jet>,
    pressure: Vec<Jet>,
    admittance: Vec<Jet>,
    /// Where each element's admittances begin, and how many they are.
    blocks: Vec<(usize, usize)>,
    /// From an admittance to the entry of the matrix it is added to.
    stamps: Vec<(usize, usize)>,
    /// Per radiator: (admittance, inner node) pairs whose products, negated, are its flow.
    outlets: Vec<Vec<(usize, usize)>>,
    /// Flow out of each of the network's radiators as last solved, m³/s per V.
    pub each: Vec<Complex4>,
}

impl Workspace {
    /// Space for one network.
    pub fn new(network: &Network) -> Self {
        let n = network.inner_nodes();
        let (mut blocks, mut stamps, mut total) = (Vec::new(), Vec::new(), 0);
        for placed in &network.elements {
            let t = placed.nodes.len();
            blocks.push((total, t * (t + 1) / 2));
            for i in 0..t {
                let Node::Inner(row) = placed.nodes[i] else { continue };
                for j in i..t {
                    let Node::Inner(column) = placed.nodes[j] else { continue };
                    let stamp = (total + packed(t, i, j), packed(n, row, column));
                    stamps.push(stamp);
                    // two terminals on one node: both halves of the symmetric pair fall on the diagonal
                    if i != j && row == column {
                        stamps.push(stamp);
                    }
                }
            }
            total += t * (t + 1) / 2;
        }
        let outlets = network
            .radiators
            .iter()
            .map(|radiator| {
                let nodes = &network.elements[radiator.element].nodes;
                let at = blocks[radiator.element].0;
                let inner = nodes.iter().enumerate().filter_map(|(j, node)| match node {
                    Node::Outside => None,
                    Node::Inner(index) => Some((at + packed(nodes.len(), radiator.terminal, j), *index)),
                });
                inner.collect()
            })
            .collect();
        Workspace {
            matrix: vec![Jet::zero(); n * (n + 1) / 2],
            pressure: vec![Jet::zero(); n],
            admittance: vec![Jet::zero(); total],
            blocks,
            stamps,
            each: vec![Complex4::splat(0.0, 0.0); network.radiators.len()],
            outlets,
        }
    }

    /// Solves the network for four angular frequencies (rad/s, > 0) at one volt.
    #[inline]
    pub fn solve(&mut self, network: &Network, omega: f64x4) -> Flows {
        let n = network.inner_nodes();
        self.matrix.fill(Jet::zero());
        self.pressure.fill(Jet::zero());
        for (placed, &(at, count)) in network.elements.iter().zip(&self.blocks) {
            placed.element.at_four(omega, &mut self.admittance[at..at + count]);
        }
        for &(from, to) in &self.stamps {
            self.matrix[to] = self.matrix[to] + self.admittance[from];
        }
        let terminals = network.diaphragm.source.terminals::<Jet>(omega);
        let driven = network.diaphragm.driven::<Jet>(omega, terminals.impedance);
        if let Node::Inner(r) = network.rear {
            let entry = &mut self.matrix[packed(n, r, r)];
            *entry = *entry + driven.own;
            self.pressure[r] = self.pressure[r] - driven.injected;
        }
        if let Node::Inner(f) = network.front {
            let entry = &mut self.matrix[packed(n, f, f)];
            *entry = *entry + driven.own;
            self.pressure[f] = self.pressure[f] + driven.injected;
            if let Node::Inner(r) = network.rear {
                let entry = &mut self.matrix[packed(n, r, f)];
                *entry = *entry + driven.across;
            }
        }
        self.eliminate(n);

        let paired = network.diaphragm.pairing.is_some();
        // flow taken from the rear and flow given to the front; one cone has one flow
        let mut cone = driven.injected;
        if let Node::Inner(r) = network.rear {
            cone = cone - driven.across * self.pressure[r];
        }
        if let Node::Inner(f) = network.front {
            cone = cone - driven.own * self.pressure[f];
        }
        let rear = if paired {
            let pressure = |node: Node| match node {
                Node::Outside => Jet::zero(),
                Node::Inner(i) => self.pressure[i],
            };
            driven.injected + driven.own * pressure(network.rear) + driven.across * pressure(network.front)
        } else {
            cone
        };
        let (rear_out, front_out) = network.cone_radiates();
        let mut sum = match (rear_out, front_out) {
            (false, true) => cone,
            (true, false) => -rear,
            // both sides radiate into one point: what a pair does not swallow between its cones is left
            (true, true) => match &network.rear_sound {
                RearSound::Unheard => cone,
                RearSound::Heard if paired => cone - rear,
                RearSound::Heard => Jet::zero(),
                RearSound::Around(delays) => {
                    let share = 1.0 / delays.len().max(1) as f64;
                    let late = |sum: Jet, delay: &f64| sum + Jet::j_omega(omega, -delay).exp().scale(share);
                    cone - rear * delays.iter().fold(Jet::zero(), late)
                }
            },
            _ => Jet::zero(),
        };
        let mut port = Jet::zero();
        let mut speed_sqr = f64x4::splat(0.0);
        let mut speed_over_limit_sqr = f64x4::splat(0.0);
        let mut swing_sqr = f64x4::splat(0.0);
        let mut swing_over_limit_sqr = f64x4::splat(0.0);
        let mass = network.diaphragm.motor.mms / network.diaphragm.motor.sd;
        let moved = if paired { rear.v + cone.v } else { cone.v };
        let cone_momentum = moved.scale(f64x4::splat(mass));
        let mut sprung_momentum = Complex4::splat(0.0, 0.0);
        for ((radiator, outlet), each) in network.radiators.iter().zip(&self.outlets).zip(&mut self.each) {
            let mut flow = Jet::zero();
            for &(admittance, node) in outlet {
                flow = flow - self.admittance[admittance] * self.pressure[node];
            }
            *each = flow.v;
            if radiator.kind != RadiatorKind::Inner {
                sum = sum + flow;
            }
            if matches!(radiator.kind, RadiatorKind::Port | RadiatorKind::Sprung) {
                port = port + flow;
            }
            if radiator.area > 0.0 {
                let sqr = flow.v.norm_sqr() * (1.0 / (radiator.area * radiator.area));
                let (most, over) = if radiator.kind == RadiatorKind::Sprung {
                    sprung_momentum = sprung_momentum + flow.v.scale(f64x4::splat(radiator.mass_per_area));
                    (&mut swing_sqr, &mut swing_over_limit_sqr)
                } else {
                    (&mut speed_sqr, &mut speed_over_limit_sqr)
                };
                *most = most.max(sqr);
                if let Some(limit) = radiator.limit {
                    *over = over.max(sqr * (1.0 / (limit * limit)));
                }
            }
        }
        let current = driven.held.v - driven.back.v * moved;
        Flows {
            inner_cone: rear.v,
            cone,
            port,
            sum,
            current,
            speed_over_limit_sqr,
            speed_sqr,
            swing_sqr,
            swing_over_limit_sqr,
            terminals,
            cone_momentum,
            sprung_momentum,
        }
    }

    /// LDLᵀ of the values in place, then the solution with its derivative in `self.pressure`.
    #[inline(always)]
    fn eliminate(&mut self, n: usize) {
        if n == 1 {
            self.pressure[0] = self.pressure[0] / self.matrix[0];
            return;
        }
        // The derivative needs Y' as it stood: keep it in `d`, factor `v` in place.
        for k in 0..n {
            let pivot = self.matrix[packed(n, k, k)].v.recip();
            for i in k + 1..n {
                let factor = self.matrix[packed(n, k, i)].v * pivot;
                for j in i..n {
                    let product = factor * self.matrix[packed(n, k, j)].v;
                    let entry = &mut self.matrix[packed(n, i, j)].v;
                    *entry = *entry - product;
                }
            }
            for i in k + 1..n {
                let entry = &mut self.matrix[packed(n, k, i)].v;
                *entry = *entry * pivot;
            }
            self.matrix[packed(n, k, k)].v = pivot;
        }
        self.substitute(n, |p| &mut p.v);
        for i in 0..n {
            let mut right = self.pressure[i].d;
            for j in 0..n {
                right = right - self.matrix[packed(n, i, j)].d * self.pressure[j].v;
            }
            self.pressure[i].d = right;
        }
        self.substitute(n, |p| &mut p.d);
    }

    #[inline(always)]
    fn substitute(&mut self, n: usize, part: impl Fn(&mut Jet) -> &mut Complex4) {
        for i in 0..n {
            let x = *part(&mut self.pressure[i]);
            for j in i + 1..n {
                let product = self.matrix[packed(n, i, j)].v * x;
                let entry = part(&mut self.pressure[j]);
                *entry = *entry - product;
            }
        }
        for i in (0..n).rev() {
            let mut x = *part(&mut self.pressure[i]) * self.matrix[packed(n, i, i)].v;
            for j in i + 1..n {
                x = x - self.matrix[packed(n, i, j)].v * *part(&mut self.pressure[j]);
            }
            *part(&mut self.pressure[i]) = x;
        }
    }
}

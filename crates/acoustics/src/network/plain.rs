//! The slow, plain reference path: one frequency, a dense matrix, Gaussian elimination with partial pivoting.
//!
//! It exists to hold [`super::solve`] to account and is written for reading, not for speed.

use super::element::ElementLaw;
use super::{Network, Node, RadiatorKind, RearSound, packed};
use num_complex::Complex64;

/// The flows of one frequency at one volt.
#[derive(Clone, Debug)]
pub struct PlainFlows {
    /// Pressure of each inner node, Pa per V.
    pub pressure: Vec<Complex64>,
    /// Cone toward the front (of isobaric pairs the outer one), m³/s per V.
    pub cone: Complex64,
    /// The inner cone of isobaric pairs toward the front; else the same as `cone`, m³/s per V.
    pub inner_cone: Complex64,
    /// Ports, m³/s per V.
    pub port: Complex64,
    /// Everything that radiates, m³/s per V.
    pub sum: Complex64,
    /// Out of each of the network's radiators in their order, m³/s per V.
    pub radiators: Vec<Complex64>,
    /// Current from the source, A per V.
    pub current: Complex64,
}

/// The dense matrix and right-hand side of a network: inner pressures first, then each cone's volume velocity
/// and current as unknowns of their own (so the equations are the textbook ones, not the reduced ones); of isobaric
/// pairs the pressure between the cones too.
pub fn solve(network: &Network, omega: f64) -> PlainFlows {
    let n = network.inner_nodes();
    let pairing = network.diaphragm.pairing;
    // (flow, current) of the inner cone, then of the outer one; a single cone is both
    let (inner, outer) = ((n, n + 1), if pairing.is_some() { (n + 2, n + 3) } else { (n, n + 1) });
    let between = n + 4;
    let size = if pairing.is_some() { n + 5 } else { n + 2 };
    let zero = Complex64::new(0.0, 0.0);
    let mut a = vec![vec![zero; size]; size];
    let mut b = vec![zero; size];
    let mut blocks = Vec::new();
    for placed in &network.elements {
        let t = placed.nodes.len();
        let mut block = vec![zero; t * (t + 1) / 2];
        placed.element.plain(omega, &mut block);
        for r in 0..t {
            for c in 0..t {
                if let (Node::Inner(row), Node::Inner(column)) = (placed.nodes[r], placed.nodes[c]) {
                    a[row][column] += block[packed(t, r, c)];
                }
            }
        }
        blocks.push(block);
    }
    // A cone takes U from the node behind it and gives it to the node before it.
    let one = Complex64::new(1.0, 0.0);
    let motor = &network.diaphragm.motor;
    let rg = network.diaphragm.source.impedance::<Complex64>(omega);
    if let Node::Inner(r) = network.rear {
        a[r][inner.0] += one;
        a[inner.0][r] += motor.sd;
    }
    if let Node::Inner(f) = network.front {
        a[f][outer.0] -= one;
        a[outer.0][f] -= motor.sd;
    }
    let jw = Complex64::new(0.0, omega);
    let zm = jw * motor.mms + motor.rms + 1.0 / (jw * motor.cms);
    let ze = network.diaphragm.coil_impedance::<Complex64>(omega);
    // (p_behind - p_before)·Sd + Bl·i - Zm·U/Sd = 0
    let mut cone = |(u, i): (usize, usize)| {
        a[u][u] -= zm / motor.sd;
        a[u][i] += motor.bl;
    };
    cone(inner);
    match pairing {
        None => {
            // (Rg + Ze)·i + Bl·U/Sd = E
            let (u, i) = inner;
            a[i][i] += ze + rg;
            a[i][u] += motor.bl / motor.sd;
            b[i] = one;
        }
        Some(pairing) => {
            cone(outer);
            // the air between: U_inner - U_outer = jωC·p
            a[inner.0][between] -= motor.sd;
            a[outer.0][between] += motor.sd;
            a[between][inner.0] += one;
            a[between][outer.0] -= one;
            a[between][between] -= jw * pairing.compliance;
            let back = motor.bl / motor.sd;
            if pairing.series {
                // (Rg + 2Ze)·i + Bl·(U_inner + U_outer)/Sd = E, and one current
                a[inner.1][inner.1] += ze * 2.0 + rg;
                a[inner.1][inner.0] += back;
                a[inner.1][outer.0] += back;
                b[inner.1] = one;
                a[outer.1][outer.1] += one;
                a[outer.1][inner.1] -= one;
            } else {
                // Rg·(i_inner + i_outer) + Ze·i + Bl·U/Sd = E for each
                for ((u, i), other) in [(inner, outer.1), (outer, inner.1)] {
                    a[i][i] += ze + rg;
                    a[i][other] += rg;
                    a[i][u] += back;
                    b[i] = one;
                }
            }
        }
    }

    let x = gauss(a, b);
    let pressure = |node: Node| match node {
        Node::Outside => zero,
        Node::Inner(k) => x[k],
    };
    let (rear_out, front_out) = network.cone_radiates();
    let mut sum = zero;
    if front_out {
        sum += x[outer.0];
    }
    if rear_out {
        let heard = match &network.rear_sound {
            RearSound::Heard => one,
            RearSound::Unheard => zero,
            RearSound::Around(delays) => {
                delays.iter().map(|t| (-jw * t).exp()).sum::<Complex64>() / delays.len().max(1) as f64
            }
        };
        sum -= heard * x[inner.0];
    }
    let mut port = zero;
    let mut each = Vec::new();
    for radiator in &network.radiators {
        let placed = &network.elements[radiator.element];
        let t = placed.nodes.len();
        let mut flow = zero;
        for (j, &node) in placed.nodes.iter().enumerate() {
            flow -= blocks[radiator.element][packed(t, radiator.terminal, j)] * pressure(node);
        }
        each.push(flow);
        if radiator.kind != RadiatorKind::Inner {
            sum += flow;
        }
        if matches!(radiator.kind, RadiatorKind::Port | RadiatorKind::Sprung) {
            port += flow;
        }
    }
    let current = match pairing {
        Some(p) if !p.series => x[inner.1] + x[outer.1],
        _ => x[inner.1],
    };
    PlainFlows {
        pressure: x[..n].to_vec(),
        cone: x[outer.0],
        inner_cone: x[inner.0],
        port,
        sum,
        radiators: each,
        current,
    }
}

/// The short-circuit admittances of an element at one frequency, packed (for tests of single elements).
pub fn admittance(element: &impl ElementLaw, omega: f64) -> Vec<Complex64> {
    let t = element.terminals();
    let mut y = vec![Complex64::new(0.0, 0.0); t * (t + 1) / 2];
    element.admittance::<Complex64>(omega, &mut y);
    y
}

fn gauss(mut a: Vec<Vec<Complex64>>, mut b: Vec<Complex64>) -> Vec<Complex64> {
    let n = b.len();
    for k in 0..n {
        // Row scaling makes the pivots of pressures, flows and currents comparable.
        let weight = |row: &[Complex64]| row.iter().map(|z| z.norm()).fold(f64::MIN_POSITIVE, f64::max);
        let best = (k..n)
            .max_by(|&r, &s| (a[r][k].norm() / weight(&a[r])).total_cmp(&(a[s][k].norm() / weight(&a[s]))))
            .unwrap_or(k);
        a.swap(k, best);
        b.swap(k, best);
        for r in k + 1..n {
            let factor = a[r][k] / a[k][k];
            let (above, below) = a.split_at_mut(r);
            for (entry, upper) in below[0][k..].iter_mut().zip(&above[k][k..]) {
                *entry -= factor * upper;
            }
            let product = factor * b[k];
            b[r] -= product;
        }
    }
    for k in (0..n).rev() {
        for c in k + 1..n {
            let product = a[k][c] * b[c];
            b[k] -= product;
        }
        b[k] /= a[k][k];
    }
    b
}

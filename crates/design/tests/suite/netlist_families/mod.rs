//! Netlists of the other families for ngspice, written from the figures of a design document alone. Pressures are
//! voltages, volume velocities currents; the cone is a transformer between force and pressure.

use crate::netlist::{C, RHO, number};
use serde_json::Value;
use std::f64::consts::{PI, TAU};
use std::fmt::Write;

/// A circuit with the sources whose currents, times their sign, are what radiates.
pub struct Circuit {
    text: String,
    heard: Vec<(String, f64)>,
    leaks: usize,
}

fn compliance(litres: f64) -> f64 {
    litres * 1e-3 / (RHO * C * C)
}

/// A loss factor of the chamber at a node: its own, or the only one there is.
fn loss(d: &Value, node: &str, name: &str) -> Option<f64> {
    number(d, &format!("/enclosure/{node}_{name}")).or(number(d, &format!("/enclosure/{name}")))
}

impl Circuit {
    /// The woofer between two acoustic nodes; "0" is the outside.
    pub fn woofer(d: &Value, rear: &str, front: &str) -> Circuit {
        let w = |name: &str| number(d, &format!("/woofer/{name}"));
        let (fs, qms, qes) = (w("fs_hz").unwrap(), w("qms").unwrap(), w("qes").unwrap());
        let (re, sd) = (w("re_ohm").unwrap(), w("sd_cm2").unwrap() * 1e-4);
        let cms = compliance(w("vas_l").unwrap()) / (sd * sd);
        let mms = 1.0 / ((TAU * fs).powi(2) * cms);
        let rms = TAU * fs * mms / qms;
        let bl = (TAU * fs * mms * re / qes).sqrt();
        let rg = number(d, "/source/source_resistance_ohm").unwrap_or(0.0).max(1e-9);
        let le = w("le_mh").unwrap_or(0.0).max(1e-9) * 1e-3;
        let mut text = String::from("* woofer\nV1 in 0 AC 2.83\n");
        let _ = writeln!(text, "Rg in a {rg:e}\nRe a b {re:e}\nLe b c {le:e}\nVi c emf 0\nHemf emf 0 Vv {bl:e}");
        // Bl·i + Sd·(p_rear - p_front) = (jωM + R + 1/jωC)·v
        let _ = writeln!(
            text,
            "Hf m0 0 Vi {bl:e}\nLm m0 m1 {mms:e}\nRm m1 m2 {rms:e}\nCm m2 m3 {cms:e}\nVv m3 m4 0\nEb m4 0 {front} {rear} {sd:e}"
        );
        let mut heard = Vec::new();
        for (node, sign) in [(rear, 1.0), (front, -1.0)] {
            if node == "0" {
                if sign < 0.0 {
                    heard.push(("vv".to_owned(), sd));
                }
            } else {
                let _ = writeln!(text, "Fc{node} {node} 0 Vv {:e}\nRdc{node} {node} 0 1e16", sd * sign);
            }
        }
        Circuit { text, heard, leaks: 0 }
    }

    /// A chamber at a node, its losses at the angular frequency `w`.
    pub fn chamber(&mut self, d: &Value, node: &str, litres: f64, w: f64) {
        let c = compliance(litres);
        match loss(d, node, "absorption_q") {
            Some(q) => {
                let _ = writeln!(
                    self.text,
                    "Rab{node} {node} ab{node} {:e}\nCab{node} ab{node} 0 {c:e}",
                    1.0 / (w * q * c)
                );
            }
            None => {
                let _ = writeln!(self.text, "Cab{node} {node} 0 {c:e}");
            }
        }
        if let Some(q) = loss(d, node, "leak_q") {
            self.leaks += 1;
            let k = self.leaks;
            let _ = writeln!(self.text, "Ral{k} {node} al{k} {:e}\nVl{k} al{k} 0 0", q / (w * c));
            self.heard.push((format!("vl{k}"), 1.0));
        }
    }

    /// A port that tunes a chamber (L) to `w`, as a mass with its friction, to another node.
    pub fn port(&mut self, d: &Value, node: &str, to: &str, litres: f64, w: f64) {
        let mass = 1.0 / (w * w * compliance(litres));
        let friction = loss(d, node, "port_q").map_or(1e-9, |q| w * mass / q);
        let _ = writeln!(
            self.text,
            "Rap{node} {node} x{node} {friction:e}\nLap{node} x{node} y{node} {mass:e}\nVp{node} y{node} {to} 0"
        );
        if to == "0" {
            self.heard.push((format!("vp{node}"), 1.0));
        }
    }

    /// Passive radiators between a node and the outside.
    pub fn radiators(&mut self, d: &Value, node: &str) {
        let r = |name: &str| number(d, &format!("/enclosure/radiators/{name}")).unwrap();
        let n = r("count");
        let sd = r("sd_cm2") * 1e-4;
        let each = compliance(r("vas_l"));
        let stock = 1.0 / ((TAU * r("fs_hz")).powi(2) * each);
        let mass = stock + r("added_mass_g") * 1e-3 / (sd * sd);
        let loss = TAU * r("fs_hz") * stock / r("qms");
        let _ = writeln!(
            self.text,
            "Lpr {node} q1 {:e}\nRpr q1 q2 {:e}\nCpr q2 q3 {:e}\nVpr q3 0 0",
            mass / n,
            loss / n,
            each * n
        );
        self.heard.push(("vpr".into(), 1.0));
    }

    /// A lossless pipe of a length (m) and area (m²) between two nodes.
    pub fn pipe(&mut self, from: &str, to: &str, length: f64, area: f64) {
        let name = format!("{from}{to}");
        let _ = writeln!(self.text, "T{name} {from} 0 {to} 0 Z0={:e} TD={:e}", RHO * C / area, length / C);
        let _ = writeln!(self.text, "Rdc{name} {to} 0 1e16");
    }

    /// An open end in a wall (Nomura et al. 1960) at a node.
    pub fn open_end(&mut self, node: &str, area: f64) {
        let _ = writeln!(self.text, "Lend {node} e1 {:e}\nVend e1 0 0", RHO * 0.8217 * (area / PI).sqrt() / area);
        self.heard.push(("vend".into(), 1.0));
    }

    /// The whole netlist.
    pub fn finish(&self, sweep: &str, output: &str) -> String {
        let list: String = self.heard.iter().map(|(name, _)| format!("i({name}) ")).collect();
        format!(
            "{}.control\nset numdgt=14\nset wr_singlescale\n{sweep}\nwrdata {output} i(v1) {list}\nquit 0\n.endc\n.end\n",
            self.text
        )
    }

    /// What radiates, from a row of ngspice's table.
    pub fn sum(&self, row: &[f64]) -> f64 {
        let part = |offset: usize| -> f64 {
            self.heard.iter().enumerate().map(|(i, (_, sign))| sign * row[3 + 2 * i + offset]).sum()
        };
        part(0).hypot(part(1))
    }
}

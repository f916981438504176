//! Netlists for ngspice, written from the figures of a design document alone: mechanical force and acoustic pressure
//! as voltages, velocity and volume velocity as currents, joined by controlled sources. Not from this project's
//! network.

use serde_json::Value;
use std::f64::consts::{PI, TAU};
use std::fmt::Write;

/// Speed of sound of the designs compared, m/s.
pub const C: f64 = 343.2;
/// Density, kg/m3.
pub const RHO: f64 = 1.2041;

/// A number of the document.
pub fn number(document: &Value, pointer: &str) -> Option<f64> {
    document.pointer(pointer).and_then(Value::as_f64)
}

/// Parts between leads and woofers, by the names of the document; the node behind them.
fn ladder(net: &mut String, mut node: String, parts: &[Value]) -> String {
    for (i, entry) in parts.iter().enumerate() {
        let part = &entry["part"];
        let value = |field: &str| part[field].as_f64().unwrap_or(0.0);
        let across = entry["placement"] == "across";
        let end = if across { "0".to_owned() } else { format!("p{i}") };
        let side_by_side = part["kind"] == "trap";
        // letter, value, and the resistance in it
        let made = [
            ("R", value("resistance_ohm"), 0.0),
            ("L", value("inductance_mh") * 1e-3, value("coil_ohm")),
            ("C", value("capacitance_uf") * 1e-6, value("loss_ohm")),
        ];
        let made: Vec<_> = made.into_iter().filter(|m| m.1 > 0.0).collect();
        let mut from = node.clone();
        for (k, (letter, size, loss)) in made.iter().enumerate() {
            let to = if side_by_side || k + 1 == made.len() { end.clone() } else { format!("p{i}x{k}") };
            let begin = if side_by_side { node.clone() } else { from };
            if *loss > 0.0 {
                let _ = writeln!(net, "R{i}loss{k} {begin} p{i}l{k} {loss:e}\n{letter}{i}p{k} p{i}l{k} {to} {size:e}");
            } else {
                let _ = writeln!(net, "{letter}{i}p{k} {begin} {to} {size:e}");
            }
            from = to;
        }
        if !across {
            node = end;
        }
    }
    node
}

/// The netlist; flows are read as currents of 0 V sources.
pub fn netlist(d: &Value, sweep: &str, output: &str) -> String {
    let w = |name: &str| number(d, &format!("/woofer/{name}"));
    let n = number(d, "/array/count").unwrap_or(1.0);
    let series = number(d, "/array/woofers_in_series").unwrap_or(1.0);
    let k = series * series / n;
    let (fs, qms, qes) = (w("fs_hz").unwrap(), w("qms").unwrap(), w("qes").unwrap());
    let (re, sd) = (w("re_ohm").unwrap(), w("sd_cm2").unwrap() * 1e-4);
    let cms = w("vas_l").unwrap() * 1e-3 / (RHO * C * C * sd * sd);
    let mms = 1.0 / ((TAU * fs).powi(2) * cms);
    let rms = TAU * fs * mms / qms;
    let bl = (TAU * fs * mms * re / qes).sqrt() * series;
    let sd_all = sd * n;
    let volume =
        number(d, "/enclosure/net_volume_l").unwrap() * 1e-3 * number(d, "/enclosure/fill/factor").unwrap_or(1.0);
    let cab = volume / (RHO * C * C);
    let tuning = number(d, "/enclosure/port/sizing/tuning_hz");
    let wb = TAU * tuning.unwrap_or_else(|| fs * (1.0 + n * w("vas_l").unwrap() * 1e-3 / volume).sqrt());

    let mut net = String::from("* woofer in a box\nV1 in 0 AC 2.83\n");
    let mut node = "in".to_owned();
    let mut step = 0;
    let mut in_series = |net: &mut String, part: &str, value: f64| {
        if value > 0.0 {
            step += 1;
            let _ = writeln!(net, "{part}{step} {node} e{step} {value:e}");
            node = format!("e{step}");
        }
    };
    let rg = number(d, "/source/source_resistance_ohm").unwrap_or(0.0)
        + number(d, "/source/lead_resistance_ohm").unwrap_or(0.0)
        + number(d, "/chain/cable/lead_resistance_ohm").unwrap_or(0.0);
    in_series(&mut net, "R", rg);
    let parts = d.pointer("/chain/parts").and_then(Value::as_array).cloned().unwrap_or_default();
    if !parts.is_empty() {
        node = ladder(&mut net, node, &parts);
    }
    let mut in_series = |net: &mut String, part: &str, value: f64| {
        if value > 0.0 {
            let _ = writeln!(net, "{part}w{part} {node} w{part} {value:e}");
            node = format!("w{part}");
        }
    };
    in_series(&mut net, "R", re * k);
    in_series(&mut net, "L", w("le_mh").unwrap_or(0.0) * 1e-3 * k);
    if let Some(l2) = w("l2_mh") {
        let _ = writeln!(net, "L99 {node} e99 {:e}\nR99 {node} e99 {:e}", l2 * 1e-3 * k, w("r2_ohm").unwrap() * k);
        node = "e99".into();
    }
    let _ = writeln!(net, "Vi {node} emf 0\nHemf emf 0 Vv {bl:e}");
    // force: Bl·i + Sd·p_box = (jωM + R + 1/jωC)·v
    let _ = writeln!(
        net,
        "Hf m0 0 Vi {bl:e}\nLm m0 m1 {:e}\nRm m1 m2 {:e}\nCm m2 m3 {:e}\nVv m3 m4 0\nEb m4 0 box 0 {:e}",
        mms * n,
        rms * n,
        cms / n,
        -sd_all
    );
    // the cone takes Sd·v from the box
    let _ = writeln!(net, "Fc box 0 Vv {sd_all:e}\nRdc box 0 1e16");
    match number(d, "/enclosure/absorption_q") {
        Some(q) => {
            let _ = writeln!(net, "Rab box ab {:e}\nCab ab 0 {cab:e}", 1.0 / (wb * q * cab));
        }
        None => {
            let _ = writeln!(net, "Cab box 0 {cab:e}");
        }
    }
    match number(d, "/enclosure/leak_q") {
        Some(q) => {
            let _ = writeln!(net, "Ral box al {:e}\nVl al 0 0", q / (wb * cab));
        }
        None => {
            let _ = writeln!(net, "Vl al 0 0\nRal al 0 1");
        }
    }
    if tuning.is_some() {
        let map = 1.0 / (wb * wb * cab);
        let _ = match number(d, "/enclosure/port_q") {
            Some(q) => writeln!(net, "Rap box ap {:e}", wb * map / q),
            None => writeln!(net, "Vap box ap 0"),
        };
        if d.pointer("/enclosure/port/model/kind").and_then(Value::as_str) == Some("duct") {
            let a = number(d, "/enclosure/port/section/diameter_mm").unwrap() * 0.5e-3;
            let s = PI * a * a * number(d, "/enclosure/port/count").unwrap();
            // a free inner end (Levine & Schwinger 1948) and a flanged outer one (Nomura et al. 1960)
            let (inner, outer) = (0.6133 * a, 0.8217 * a);
            let tube = map * s / RHO - inner - outer;
            let _ = writeln!(
                net,
                "Lin ap d1 {:e}\nT1 d1 0 d2 0 Z0={:e} TD={:e}\nLout d2 d3 {:e}\nVp d3 0 0",
                RHO * inner / s,
                RHO * C / s,
                tube / C,
                RHO * outer / s
            );
        } else {
            let _ = writeln!(net, "Lap ap d3 {map:e}\nVp d3 0 0");
        }
    } else {
        net.push_str("Vp d3 0 0\nRp d3 0 1\n");
    }
    let _ = writeln!(
        net,
        ".control\nset numdgt=14\nset wr_singlescale\n{sweep}\nwrdata {output} i(vv) i(vp) i(vl) i(v1)\nquit 0\n.endc\n.end"
    );
    net
}

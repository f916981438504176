//! Netlists of arrays in a sealed box, with every woofer and every coil written out by itself: nothing here knows
//! how this project takes an array together.

use crate::netlist::{C, RHO, number};
use serde_json::Value;
use std::f64::consts::TAU;
use std::fmt::Write;

/// The netlist of a sealed, lossless design at a frequency (Hz); a semi-inductance is given there by its own
/// resistance and inductance. Reads the flow of the cones at the outside and the source's current.
pub fn netlist(d: &Value, frequency: f64, output: &str) -> String {
    let w = |name: &str| number(d, &format!("/woofer/{name}"));
    let count = number(d, "/array/count").unwrap_or(1.0) as usize;
    let in_series = number(d, "/array/woofers_in_series").unwrap_or(1.0) as usize;
    let coils = if d.pointer("/woofer/coils") == Some(&Value::from("dual")) { 2 } else { 1 };
    let coils_in_series = d.pointer("/array/coils") == Some(&Value::from("series"));
    let chamber = number(d, "/array/isobaric/chamber_l").map(|l| l * 1e-3 / (RHO * C * C));
    let (fs, sd) = (w("fs_hz").unwrap(), w("sd_cm2").unwrap() * 1e-4);
    let cms = w("vas_l").unwrap() * 1e-3 / (RHO * C * C * sd * sd);
    let mms = 1.0 / ((TAU * fs).powi(2) * cms);
    let rms = TAU * fs * mms / w("qms").unwrap();
    // the brakes of all coils add up to Qes
    let bl = (TAU * fs * mms * w("re_ohm").unwrap() / (w("qes").unwrap() * coils as f64)).sqrt();
    let mass = mms + number(d, "/array/added_mass_g").unwrap_or(0.0) * 1e-3;
    let (k, n) = (w("semi_inductance_k"), w("semi_inductance_n").unwrap_or(1.0));
    let omega = TAU * frequency;
    let angle = std::f64::consts::FRAC_PI_2 * n;
    let lossy = k.map(|k| (k * omega.powf(n) * angle.cos(), k * omega.powf(n - 1.0) * angle.sin()));

    let mut net = String::from("* an array, coil by coil\nV1 in 0 AC 2.83\n");
    let rg = number(d, "/source/source_resistance_ohm").unwrap_or(0.0).max(1e-9);
    let _ = writeln!(net, "Rg in top {rg:e}");
    let _ = writeln!(
        net,
        "Cab box 0 {:e}\nRbox box 0 1e16",
        number(d, "/enclosure/net_volume_l").unwrap() * 1e-3 / (RHO * C * C)
    );
    // of isobaric pairs the even woofers are inside, each odd one before its neighbour
    let sides = |i: usize| match (chamber, i % 2) {
        (None, _) => ("box".to_owned(), "0".to_owned()),
        (Some(_), 0) => ("box".to_owned(), format!("c{}", i / 2)),
        (Some(_), _) => (format!("c{}", i / 2), "out".to_owned()),
    };
    if let Some(c) = chamber {
        for pair in 0..count / 2 {
            let _ = writeln!(net, "Cc{pair} c{pair} 0 {c:e}\nRc{pair} c{pair} 0 1e16");
        }
    }
    net.push_str("Vout out 0 0\nRsum sum 0 1\n");
    for i in 0..count {
        let (string, place) = (i / in_series, i % in_series);
        let node = |p: usize| match p {
            0 => "top".to_owned(),
            p if p == in_series => "0".to_owned(),
            p => format!("s{string}p{p}"),
        };
        let (from, to) = (node(place), node(place + 1));
        let mut force = String::new();
        for c in 0..coils {
            let id = format!("{i}x{c}");
            let (a, b) = match (coils_in_series && coils == 2, c) {
                (false, _) => (from.clone(), to.clone()),
                (true, 0) => (from.clone(), format!("mid{i}")),
                (true, _) => (format!("mid{i}"), to.clone()),
            };
            let _ = writeln!(net, "Vi{id} {a} a{id} 0\nRe{id} a{id} b{id} {:e}", w("re_ohm").unwrap());
            let (r, l) = lossy.unwrap_or((0.0, w("le_mh").unwrap_or(0.0) * 1e-3));
            // a coil on the same former: what runs in the other induces as much as what runs in this one
            let other = format!("{i}x{}", (c + 1) % coils);
            // a resistance of nothing is a source of nothing: tiny ones would cost the solver its digits
            let resistance =
                if r > 0.0 { format!("Rl{id} b{id} d{id} {r:e}") } else { format!("Vl{id} b{id} d{id} 0") };
            let _ = writeln!(net, "{resistance}\nL{id} d{id} e{id} {l:e}");
            if coils == 2 {
                let _ = writeln!(net, "Hr{id} e{id} f{id} Vi{other} {r:e}");
                if c == 1 {
                    let _ = writeln!(net, "K{i} L{i}x0 L{i}x1 0.999999999");
                }
            } else {
                let _ = writeln!(net, "Vj{id} e{id} f{id} 0");
            }
            let _ = writeln!(net, "He{id} f{id} {b} Vv{i} {bl:e}");
            let last = if c + 1 == coils { format!("m{i}z") } else { format!("m{i}f{c}") };
            let first = if c == 0 { "0".to_owned() } else { format!("m{i}f{}", c - 1) };
            let _ = writeln!(force, "Hf{id} {last} {first} Vi{id} {bl:e}");
        }
        net.push_str(&force);
        let (rear, front) = sides(i);
        let _ = writeln!(
            net,
            "Lm{i} m{i}z m{i}a {mass:e}\nRm{i} m{i}a m{i}b {rms:e}\nCm{i} m{i}b m{i}c {cms:e}\nVv{i} m{i}c m{i}d 0\nEp{i} m{i}d 0 {front} {rear} {sd:e}"
        );
        let _ = writeln!(net, "Fr{i} {rear} 0 Vv{i} {sd:e}\nFf{i} 0 {front} Vv{i} {sd:e}");
        if front == "0" || front == "out" {
            let _ = writeln!(net, "Fs{i} 0 sum Vv{i} {sd:e}");
        }
    }
    let _ = writeln!(
        net,
        ".control\nset numdgt=14\nset wr_singlescale\nac lin 1 {frequency:e} {frequency:e}\nwrdata {output} v(sum) i(v1)\nquit 0\n.endc\n.end"
    );
    net
}

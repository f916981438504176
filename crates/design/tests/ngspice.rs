//! ngspice solves the same circuits: level within 0.01 dB and impedance within 0.1 % from 10 Hz to 1 kHz.
//!
//! The netlists are written from the figures of the document alone, in mechanical-force and acoustic-pressure
//! analogies with controlled sources, not from this project's network. Where ngspice is not installed the test
//! says so and passes; scripts/test installs it.

use oak_drum_design::{evaluate, read_value};
use serde_json::{Value, json};
use std::f64::consts::{PI, TAU};
use std::fmt::Write;
use std::process::Command;

const C: f64 = 343.2;
const RHO: f64 = 1.2041;

fn document(woofer: Value, enclosure: Value, array: Value, source: Value) -> Value {
    json!({
        "format": "oak-drum-design", "version": 2, "woofer": woofer, "enclosure": enclosure, "array": array,
        "source": source, "drive": {"kind": "voltage", "volts": 2.83},
        "air": {"kind": "given", "speed_of_sound_m_per_s": C, "density_kg_per_m3": RHO},
    })
}

fn tube(area_cm2: f64, count: u32, tuning: f64, model: Value) -> Value {
    json!({"section": {"shape": "round", "diameter_mm": (4.0 * area_cm2 / 1e4 / f64::from(count) / PI).sqrt() * 1e3},
           "count": count, "sizing": {"by": "tuning", "tuning_hz": tuning}, "model": model})
}

fn designs() -> Vec<(&'static str, Value)> {
    let twelve = json!({"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1});
    let eight = json!({"fs_hz": 38, "qms": 3.2, "qes": 0.55, "vas_l": 28, "re_ohm": 3.4, "sd_cm2": 215, "le_mh": 0.6, "l2_mh": 0.9, "r2_ohm": 4.2});
    let eighteen = json!({"fs_hz": 24, "qms": 9, "qes": 0.31, "vas_l": 310, "re_ohm": 5.1, "sd_cm2": 1180, "le_mh": 2.1, "l2_mh": 1.7, "r2_ohm": 11});
    let mass = json!({"kind": "mass"});
    let duct = json!({"kind": "duct", "wall_losses": false, "end_radiation": false});
    let one = json!({});
    vec![
        (
            "sealed, lossless",
            document(twelve.clone(), json!({"family": "sealed", "net_volume_l": 60}), one.clone(), json!({})),
        ),
        (
            "sealed, leaks, absorption, fill factor",
            document(
                eight.clone(),
                json!({"family": "sealed", "net_volume_l": 18, "leak_q": 8, "absorption_q": 30, "fill": {"kind": "factor", "factor": 1.15}}),
                one.clone(),
                json!({"source_resistance_ohm": 0.3}),
            ),
        ),
        (
            "sealed, two in series",
            document(
                eight.clone(),
                json!({"family": "sealed", "net_volume_l": 40, "leak_q": 15}),
                json!({"count": 2, "wiring": "series"}),
                json!({"lead_resistance_ohm": 0.2}),
            ),
        ),
        (
            "vented, lossless",
            document(
                twelve.clone(),
                json!({"family": "vented", "net_volume_l": 90, "port": tube(120.0, 1, 32.0, mass.clone())}),
                one.clone(),
                json!({}),
            ),
        ),
        (
            "vented, all losses",
            document(
                twelve.clone(),
                json!({"family": "vented", "net_volume_l": 90, "leak_q": 7, "absorption_q": 50, "port_q": 60, "port": tube(120.0, 1, 32.0, mass.clone())}),
                one.clone(),
                json!({"source_resistance_ohm": 0.1, "lead_resistance_ohm": 0.15}),
            ),
        ),
        (
            "vented, four in pairs, three ports",
            document(
                eighteen.clone(),
                json!({"family": "vented", "net_volume_l": 900, "leak_q": 12, "port": tube(900.0, 3, 26.0, mass.clone())}),
                json!({"count": 4, "wiring": "series_pairs_in_parallel"}),
                json!({"source_resistance_ohm": 0.05}),
            ),
        ),
        (
            "vented, two in parallel, low tuning",
            document(
                eighteen,
                json!({"family": "vented", "net_volume_l": 500, "absorption_q": 80, "port_q": 90, "port": tube(400.0, 2, 18.0, mass)}),
                json!({"count": 2, "wiring": "parallel"}),
                json!({}),
            ),
        ),
        (
            "vented, port as a lossless duct",
            document(
                eight,
                json!({"family": "vented", "net_volume_l": 25, "leak_q": 7, "port_q": 40, "port": tube(40.0, 1, 36.0, duct)}),
                one,
                json!({}),
            ),
        ),
    ]
}

fn number(document: &Value, pointer: &str) -> Option<f64> {
    document.pointer(pointer).and_then(Value::as_f64)
}

/// The netlist; flows are read as currents of 0 V sources.
fn netlist(d: &Value, output: &str) -> String {
    let w = |name: &str| number(d, &format!("/woofer/{name}"));
    let n = number(d, "/array/count").unwrap_or(1.0);
    let series = match d.pointer("/array/wiring").and_then(Value::as_str) {
        Some("series") => n,
        Some("series_pairs_in_parallel") => 2.0,
        _ => 1.0,
    };
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
        + number(d, "/source/lead_resistance_ohm").unwrap_or(0.0);
    in_series(&mut net, "R", rg);
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
        ".control\nset numdgt=14\nset wr_singlescale\nac dec 60 10 1000\nwrdata {output} i(vv) i(vp) i(vl) i(v1)\nquit 0\n.endc\n.end"
    );
    net
}

#[test]
fn ngspice_agrees() {
    if Command::new("ngspice").arg("--version").output().is_err() {
        eprintln!("ngspice is not installed: its comparison was left out");
        return;
    }
    let folder = std::env::temp_dir().join(format!("oak-drum-ngspice-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    for (index, (name, document)) in designs().into_iter().enumerate() {
        let (circuit, output) = (folder.join(format!("{index}.cir")), folder.join(format!("{index}.txt")));
        std::fs::write(&circuit, netlist(&document, output.to_str().unwrap())).unwrap();
        let run = Command::new("ngspice").arg("-b").arg(&circuit).output().unwrap();
        assert!(run.status.success(), "{name}: {}", String::from_utf8_lossy(&run.stderr));
        let table: Vec<Vec<f64>> = std::fs::read_to_string(&output)
            .unwrap_or_else(|_| panic!("{name}: {}", String::from_utf8_lossy(&run.stderr)))
            .lines()
            .map(|line| line.split_whitespace().map(|x| x.parse().unwrap()).collect())
            .collect();
        assert!(table.len() > 100, "{name}");
        let mut asked = document.clone();
        asked["frequencies_hz"] = table.iter().map(|row| json!(row[0])).collect();
        let ours = evaluate(&read_value(asked).unwrap()).unwrap();
        let n = number(&document, "/array/count").unwrap_or(1.0);
        let sd = number(&document, "/woofer/sd_cm2").unwrap() * 1e-4 * n;
        let rg = ours.conditions.source_resistance_ohm;
        for (i, row) in table.iter().enumerate() {
            let sum = (sd * row[1] + row[3] + row[5], sd * row[2] + row[4] + row[6]);
            let pressure = TAU * row[0] * RHO * sum.0.hypot(sum.1) / TAU;
            let level = 20.0 * (pressure / 20e-6).log10();
            let (mine, z) = (ours.curves.level_db[i], ours.curves.impedance_ohm[i]);
            assert!((mine - level).abs() < 0.01, "{name}: {} Hz: {mine} against {level} dB", row[0]);
            // the source's current runs the other way through V1
            let (re, im) = (-row[7], -row[8]);
            let square = re * re + im * im;
            let terminals = (2.83 * re / square - rg).hypot(2.83 * im / square);
            assert!((z / terminals - 1.0).abs() < 1e-3, "{name}: {} Hz: {z} against {terminals} ohm", row[0]);
        }
    }
    std::fs::remove_dir_all(&folder).unwrap();
}

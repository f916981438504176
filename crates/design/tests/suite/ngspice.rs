//! ngspice solves the same circuits: level within 0.01 dB and impedance within 0.1 % from 10 Hz to 1 kHz.
//!
//! The netlists (netlist/mod.rs) are written from the figures of the document alone, not from this project's
//! network. They want ngspice, so that cargo alone reports them as ignored; scripts/test installs it and runs them.

use crate::netlist::{C, RHO, netlist, number};
use crate::netlist_families::Circuit;
use oak_drum_design::evaluation::evaluate;
use oak_drum_document::read_value;
use serde_json::{Value, json};
use std::f64::consts::{PI, TAU};
use std::process::Command;

fn document(woofer: Value, enclosure: Value, array: Value, source: Value) -> Value {
    json!({
        "format": "oak-drum-design", "version": 5, "woofer": woofer, "enclosure": enclosure, "array": array,
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
                json!({"count": 2, "woofers_in_series": 2}),
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
                json!({"count": 4, "woofers_in_series": 2}),
                json!({"source_resistance_ohm": 0.05}),
            ),
        ),
        (
            "vented, two in parallel, low tuning",
            document(
                eighteen,
                json!({"family": "vented", "net_volume_l": 500, "absorption_q": 80, "port_q": 90, "port": tube(400.0, 2, 18.0, mass)}),
                json!({"count": 2}),
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

/// Five ladders before a woofer in its box.
fn ladders() -> Vec<(&'static str, Value)> {
    let part = |placement: &str, part: Value| json!({"placement": placement, "part": part});
    let coil = |mh: f64, ohm: f64| json!({"kind": "coil", "inductance_mh": mh, "coil_ohm": ohm});
    let capacitor = |uf: f64| json!({"kind": "capacitor", "capacitance_uf": uf, "loss_ohm": 0.05});
    let zobel = json!({"kind": "zobel", "resistance_ohm": 5.6, "capacitance_uf": 33});
    let trap =
        json!({"kind": "trap", "inductance_mh": 8.2, "coil_ohm": 0.3, "capacitance_uf": 470, "resistance_ohm": 8.2});
    let notch = json!({"kind": "series_notch", "inductance_mh": 12, "coil_ohm": 0.4, "capacitance_uf": 820,
                       "resistance_ohm": 2.2});
    let resistor = |ohm: f64| json!({"kind": "resistor", "resistance_ohm": ohm});
    let twelve = json!({"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1});
    let eight = json!({"fs_hz": 38, "qms": 3.2, "qes": 0.55, "vas_l": 28, "re_ohm": 3.4, "sd_cm2": 215, "le_mh": 0.6, "l2_mh": 0.9, "r2_ohm": 4.2});
    let vented = json!({"family": "vented", "net_volume_l": 90, "leak_q": 7, "port_q": 60, "port": tube(120.0, 1, 32.0, json!({"kind": "mass"}))});
    let sealed = json!({"family": "sealed", "net_volume_l": 18, "leak_q": 10});
    let of = |woofer: &Value, enclosure: &Value, parts: Vec<Value>| {
        let mut document = document(woofer.clone(), enclosure.clone(), json!({}), json!({}));
        document["version"] = json!(oak_drum_document::VERSION);
        document.as_object_mut().unwrap().remove("source");
        document["chain"] = json!({"cable": {"kind": "resistance", "lead_resistance_ohm": 0.1}, "parts": parts});
        document
    };
    vec![
        (
            "coil and capacitor",
            of(&twelve, &vented, vec![part("in_line", coil(10.0, 0.4)), part("across", capacitor(220.0))]),
        ),
        ("trap and levelled coil", of(&twelve, &vented, vec![part("in_line", trap), part("across", zobel)])),
        ("notch across, sealed", of(&eight, &sealed, vec![part("in_line", coil(3.3, 0.2)), part("across", notch)])),
        (
            "capacitor in line, coil across",
            of(
                &eight,
                &sealed,
                vec![
                    part("in_line", capacitor(470.0)),
                    part("across", coil(15.0, 0.6)),
                    part("in_line", resistor(1.0)),
                ],
            ),
        ),
        (
            "pad and two coils",
            of(
                &twelve,
                &vented,
                vec![
                    part("in_line", coil(4.7, 0.3)),
                    part("across", capacitor(330.0)),
                    part("in_line", coil(2.2, 0.2)),
                    part("in_line", resistor(2.2)),
                    part("across", resistor(15.0)),
                ],
            ),
        ),
    ]
}

#[test]
#[ignore = "wants ngspice: scripts/test installs it and runs this"]
fn ngspice_agrees() {
    let folder = std::env::temp_dir().join(format!("oak-drum-ngspice-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    for (index, (name, document)) in designs().into_iter().chain(ladders()).enumerate() {
        let (circuit, output) = (folder.join(format!("{index}.cir")), folder.join(format!("{index}.txt")));
        std::fs::write(&circuit, netlist(&document, "ac dec 60 10 1000", output.to_str().unwrap())).unwrap();
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
        let ours = evaluate(&read_value(asked).unwrap());
        let n = number(&document, "/array/count").unwrap_or(1.0);
        let sd = number(&document, "/woofer/sd_cm2").unwrap() * 1e-4 * n;
        let rg = ours.conditions.source_resistance_ohm;
        for (i, row) in table.iter().enumerate() {
            let sum = (sd * row[1] + row[3] + row[5], sd * row[2] + row[4] + row[6]);
            let pressure = TAU * row[0] * RHO * sum.0.hypot(sum.1) / TAU;
            let level = 20.0 * (pressure / 20e-6).log10();
            // what the amplifier sees behind its leads; without parts the woofers themselves
            let seen = if ours.curves.load_ohm.is_empty() { &ours.curves.impedance_ohm } else { &ours.curves.load_ohm };
            let (mine, z) = (ours.curves.level_db[i], seen[i]);
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

/// Arrays: every wiring of a dual-coil pair, strings, isobaric pairs on one voltage and on one current, coils with
/// semi-inductance, mass on the cones.
fn arrays() -> Vec<(String, Value)> {
    let ten = json!({"fs_hz": 31, "qms": 5.5, "qes": 0.48, "vas_l": 52, "re_ohm": 3.5, "sd_cm2": 345, "le_mh": 0.9});
    let mut dual = ten.clone();
    dual["coils"] = json!("dual");
    let mut leach = dual.clone();
    leach["semi_inductance_k"] = json!(0.035);
    leach["semi_inductance_n"] = json!(0.68);
    let sealed = |litres: f64| json!({"family": "sealed", "net_volume_l": litres});
    let rg = json!({"source_resistance_ohm": 0.25});
    let mut list = Vec::new();
    for (coils, in_series) in [("parallel", 1), ("series", 1), ("parallel", 2), ("series", 2)] {
        let array = json!({"count": 2, "coils": coils, "woofers_in_series": in_series});
        list.push((
            format!("two, coils in {coils}, {in_series} in series"),
            document(dual.clone(), sealed(70.0), array, rg.clone()),
        ));
    }
    let more = |count: u32, in_series: u32, litres: Option<f64>| {
        let mut array = json!({"count": count, "woofers_in_series": in_series, "added_mass_g": 14});
        if let Some(litres) = litres {
            array["isobaric"] = json!({"mounting": "front_to_back", "chamber_l": litres});
        }
        array
    };
    for (count, in_series, litres) in [
        (6, 3, None),
        (2, 1, Some(6.0)),
        (2, 2, Some(6.0)),
        (2, 1, Some(40.0)),
        (2, 2, Some(40.0)),
        (4, 2, Some(9.0)),
        (4, 1, Some(9.0)),
    ] {
        let name = format!("{count} woofers, {in_series} in series, {litres:?} L between");
        list.push((name, document(ten.clone(), sealed(45.0), more(count, in_series, litres), rg.clone())));
    }
    let array = json!({"count": 2, "coils": "series", "woofers_in_series": 1});
    list.push(("two with lossy coils".into(), document(leach, sealed(60.0), array, rg)));
    list
}

#[test]
#[ignore = "wants ngspice: scripts/test installs it and runs this"]
fn ngspice_agrees_on_arrays() {
    let folder = std::env::temp_dir().join(format!("oak-drum-arrays-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let frequencies = [14.0, 38.0, 95.0, 320.0];
    for (index, (name, document)) in arrays().into_iter().enumerate() {
        let mut asked = document.clone();
        asked["frequencies_hz"] = json!(frequencies);
        let ours = evaluate(&read_value(asked).unwrap());
        for (i, &frequency) in frequencies.iter().enumerate() {
            let (circuit, output) = (folder.join(format!("{index}.cir")), folder.join(format!("{index}.txt")));
            let text = crate::netlist_array::netlist(&document, frequency, output.to_str().unwrap());
            std::fs::write(&circuit, text).unwrap();
            let run = Command::new("ngspice").arg("-b").arg(&circuit).output().unwrap();
            let table = std::fs::read_to_string(&output)
                .unwrap_or_else(|_| panic!("{name}: {}", String::from_utf8_lossy(&run.stderr)));
            std::fs::remove_file(&output).unwrap();
            let row: Vec<f64> = table.split_whitespace().map(|x| x.parse().unwrap()).collect();
            let level = 20.0 * (frequency * RHO * row[1].hypot(row[2]) / 20e-6).log10();
            let mine = ours.curves.level_db[i];
            assert!((mine - level).abs() < 0.01, "{name}: {frequency} Hz: {mine} against {level} dB");
            let (re, im) = (-row[3], -row[4]);
            let square = re * re + im * im;
            let rg = ours.conditions.source_resistance_ohm;
            let terminals = (2.83 * re / square - rg).hypot(2.83 * im / square);
            let z = ours.curves.impedance_ohm[i];
            assert!((z / terminals - 1.0).abs() < 1e-3, "{name}: {frequency} Hz: {z} against {terminals} ohm");
        }
    }
    std::fs::remove_dir_all(&folder).unwrap();
}

/// The other families: passive radiators, bandpass boxes of three kinds, the infinite baffle, and lines and a tapped
/// pipe of straight lossless tubes.
fn families() -> Vec<(&'static str, Value, Circuit)> {
    let ten = json!({"fs_hz": 31, "qms": 5.5, "qes": 0.48, "vas_l": 52, "re_ohm": 3.5, "sd_cm2": 345, "le_mh": 0.9});
    let rg = json!({"source_resistance_ohm": 0.25});
    let with = |enclosure: Value| document(ten.clone(), enclosure, json!({}), rg.clone());
    let mass = json!({"kind": "mass"});
    let port = |tuning: f64| tube(60.0, 1, tuning, mass.clone());
    let mut list = Vec::new();

    let d = with(json!({"family": "passive_radiator", "net_volume_l": 24, "leak_q": 9, "absorption_q": 60,
        "radiators": {"count": 2, "fs_hz": 21, "qms": 7, "vas_l": 60, "sd_cm2": 330, "added_mass_g": 150}}));
    let (sd, each) = (330e-4, 60e-3 / (RHO * C * C));
    let m = (1.0 / ((TAU * 21.0f64).powi(2) * each) + 0.150 / (sd * sd)) / 2.0;
    let w = ((RHO * C * C / 24e-3 + 1.0 / (2.0 * each)) / m).sqrt();
    let mut c = Circuit::woofer(&d, "box", "0");
    c.chamber(&d, "box", 24.0, w);
    c.radiators(&d, "box");
    list.push(("passive radiators", d, c));

    let d = with(json!({"family": "bandpass_fourth", "rear_volume_l": 20, "front_volume_l": 14, "rear_leak_q": 11,
        "front_leak_q": 6, "rear_absorption_q": 70, "front_absorption_q": 45, "front_port_q": 80, "front_port": port(55.0)}));
    let mut c = Circuit::woofer(&d, "rear", "front");
    c.chamber(&d, "rear", 20.0, TAU * 31.0 * (1.0f64 + 52.0 / 20.0).sqrt());
    c.chamber(&d, "front", 14.0, TAU * 55.0);
    c.port(&d, "front", "0", 14.0, TAU * 55.0);
    list.push(("bandpass, fourth order", d, c));

    for (leads, to) in [("outside", "0"), ("front_chamber", "front")] {
        let d = with(json!({"family": "bandpass_sixth", "leads": leads, "rear_volume_l": 42, "front_volume_l": 15,
            "rear_leak_q": 12, "front_leak_q": 7, "rear_port_q": 90, "front_port_q": 60, "rear_port": port(33.0), "front_port": port(72.0)}));
        let mut c = Circuit::woofer(&d, "rear", "front");
        c.chamber(&d, "rear", 42.0, TAU * 33.0);
        c.port(&d, "rear", to, 42.0, TAU * 33.0);
        c.chamber(&d, "front", 15.0, TAU * 72.0);
        c.port(&d, "front", "0", 15.0, TAU * 72.0);
        list.push(("bandpass, sixth order", d, c));
    }

    let d = with(json!({"family": "infinite_baffle"}));
    let c = Circuit::woofer(&d, "0", "0");
    list.push(("infinite baffle", d, c));

    let d = with(json!({"family": "transmission_line", "length_mm": 2600, "woofer_at_mm": 700, "coupling_l": 4,
        "profile": {"shape": "stepped", "closed_end_cm2": 420, "open_end_cm2": 260, "step_at_mm": 1500},
        "wall_losses": false, "mouth_model": "lossless"}));
    let mut c = Circuit::woofer(&d, "line", "0");
    let lossless = json!({});
    c.chamber(&lossless, "line", 4.0, 1.0);
    c.pipe("line", "shut", 0.7, 0.042);
    c.pipe("line", "step", 0.8, 0.042);
    c.pipe("step", "end", 1.1, 0.026);
    c.open_end("end", 0.026);
    list.push(("line in two steps", d, c));

    let stations = json!([{"at_mm": 0, "area_cm2": 300}, {"at_mm": 2400, "area_cm2": 300}]);
    let d = with(json!({"family": "tapped_horn", "inner_tap_mm": 200, "outer_tap_mm": 2100, "horn": {
        "throat_cm2": 300, "mouth_cm2": 300, "profile": {"shape": "free", "stations": stations},
        "wall_losses": false, "mouth_model": "lossless"}}));
    let mut c = Circuit::woofer(&d, "inner", "outer");
    c.pipe("inner", "shut", 0.2, 0.03);
    c.pipe("inner", "outer", 1.9, 0.03);
    c.pipe("outer", "end", 0.3, 0.03);
    c.open_end("end", 0.03);
    list.push(("tapped pipe", d, c));
    list
}

#[test]
#[ignore = "wants ngspice: scripts/test installs it and runs this"]
fn ngspice_agrees_on_families() {
    let folder = std::env::temp_dir().join(format!("oak-drum-families-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    for (index, (name, document, circuit)) in families().into_iter().enumerate() {
        let (file, output) = (folder.join(format!("{index}.cir")), folder.join(format!("{index}.txt")));
        std::fs::write(&file, circuit.finish("ac dec 60 10 1000", output.to_str().unwrap())).unwrap();
        let run = Command::new("ngspice").arg("-b").arg(&file).output().unwrap();
        let table: Vec<Vec<f64>> = std::fs::read_to_string(&output)
            .unwrap_or_else(|_| panic!("{name}: {}", String::from_utf8_lossy(&run.stderr)))
            .lines()
            .map(|line| line.split_whitespace().map(|x| x.parse().unwrap()).collect())
            .collect();
        assert!(table.len() > 100, "{name}");
        let mut asked = document.clone();
        asked["frequencies_hz"] = table.iter().map(|row| json!(row[0])).collect();
        let ours = evaluate(&read_value(asked).unwrap_or_else(|p| panic!("{name}: {p:?}")));
        let rg = ours.conditions.source_resistance_ohm;
        for (i, row) in table.iter().enumerate() {
            let level = 20.0 * (row[0] * RHO * circuit.sum(row) / 20e-6).log10();
            let mine = ours.curves.level_db[i];
            assert!((mine - level).abs() < 0.01, "{name}: {} Hz: {mine} against {level} dB", row[0]);
            let (re, im) = (-row[1], -row[2]);
            let square = re * re + im * im;
            let terminals = (2.83 * re / square - rg).hypot(2.83 * im / square);
            let z = ours.curves.impedance_ohm[i];
            assert!((z / terminals - 1.0).abs() < 1e-3, "{name}: {} Hz: {z} against {terminals} ohm", row[0]);
        }
    }
    std::fs::remove_dir_all(&folder).unwrap();
}

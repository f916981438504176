//! The command line as a whole process: one design from start to end, beside ngspice with the least there is to solve; and many designs a
//! second through `--each`, on all cores. Prints figures, asserts nothing.

use std::io::Write;
use std::process::{Command, Stdio};
use std::time::Instant;

const PLAIN: &str = r#"{"format":"oak-drum-design","version":5,"woofer":{"fs_hz":30,"qms":5,"qes":0.4,"vas_l":120,"re_ohm":5.6,"sd_cm2":530,"xmax_mm":12,"power_w":400},"enclosure":{"family":"vented","net_volume_l":NET,"leak_q":7,"absorption_q":50,"port_q":60,"port":{"section":{"shape":"round","diameter_mm":124},"count":1,"sizing":{"by":"tuning","tuning_hz":32}}},"drive":{"kind":"voltage","volts":30}CABINET}"#;
const CABINET: &str = r#","cabinet":{"width_mm":420,"height_mm":600,"depth_mm":500,"panel_mm":18,"baffle_mm":18}"#;

fn run(program: &str, arguments: &[&str], input: &str) -> f64 {
    let begin = Instant::now();
    let mut child = Command::new(program)
        .args(arguments)
        .stdin(Stdio::piped())
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .spawn()
        .expect("a program that starts");
    let _ = child.stdin.take().expect("its input").write_all(input.as_bytes());
    let ended = child.wait().expect("an end");
    let took = begin.elapsed().as_secs_f64();
    assert!(ended.success(), "{program} {arguments:?} did not do what is timed");
    took
}

fn median(mut times: Vec<f64>) -> f64 {
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

fn main() {
    let oak_drum = env!("CARGO_BIN_EXE_oak-drum");
    let design = |net: usize, cabinet: &str| PLAIN.replace("CABINET", cabinet).replace("NET", &net.to_string());
    let one = design(90, CABINET);
    let ours = median((0..41).map(|_| run(oak_drum, &["evaluate", "-"], &one)).collect());
    println!("one design, whole process: median {:.2} ms", ours * 1e3);
    if Command::new("ngspice").arg("-v").output().is_ok() {
        let theirs =
            median((0..21).map(|_| run("ngspice", &["-b"], "least\nV1 1 0 1\nR1 1 0 1\n.op\n.end\n")).collect());
        println!("ngspice with one resistor: median {:.2} ms", theirs * 1e3);
    }
    let list: Vec<String> = (0..200).map(|i| format!("{:.3}", 10.0 * 100f64.powf(f64::from(i) / 199.0))).collect();
    let frequencies = list.join(",");
    const MANY: usize = 6000;
    for (what, cabinet, more) in [
        ("plain", "", None),
        ("plain, without findings", "", Some("--without-findings")),
        ("in a cabinet", CABINET, None),
    ] {
        let lines: String = (0..MANY).map(|i| design(40 + i % 120, cabinet) + "\n").collect();
        let mut arguments = vec!["evaluate", "--each", "-", "--frequencies", &frequencies];
        arguments.extend(more);
        let times = (0..3).map(|_| run(oak_drum, &arguments, &lines)).collect();
        println!("{what}, 200 frequencies: {:.0} designs a second on all cores", MANY as f64 / median(times));
    }
}

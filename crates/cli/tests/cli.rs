//! The command line: what it prints, and how it refuses.

use std::io::Write;
use std::process::{Command, Output, Stdio};

const DESIGN: &str = r#"{"format":"oak-drum-design","version":2,
  "woofer":{"fs_hz":30,"qms":5,"qes":0.4,"vas_l":120,"re_ohm":5.6,"sd_cm2":530},
  "enclosure":{"family":"sealed","net_volume_l":60}}"#;

fn run(arguments: &[&str], input: &str) -> Output {
    let mut child = Command::new(env!("CARGO_BIN_EXE_oak-drum"))
        .args(arguments)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    // a program that refuses early may close its input first
    let _ = child.stdin.take().unwrap().write_all(input.as_bytes());
    child.wait_with_output().unwrap()
}

#[test]
fn evaluate_prints_the_result() {
    let output = run(&["evaluate", "-", "--frequencies", "20,51.9615,1000"], DESIGN);
    assert!(output.status.success());
    let result: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap();
    assert_eq!(result["curves"]["frequency_hz"], serde_json::json!([20.0, 51.9615, 1000.0]));
    let figures = result["summary"]["figures"].as_array().unwrap();
    let qtc = figures.iter().find(|f| f["id"] == "qtc").unwrap()["value"].as_f64().unwrap();
    assert!((qtc - 0.6415).abs() < 1e-4);
}

#[test]
fn csv_has_one_row_a_frequency() {
    let output = run(&["evaluate", "-", "--csv", "--frequencies", "20,40"], DESIGN);
    let text = String::from_utf8(output.stdout).unwrap();
    let lines: Vec<&str> = text.lines().collect();
    assert_eq!(lines.len(), 3);
    assert!(lines[0].starts_with("frequency_hz,level_db,cone_excursion_mm,air_speed_m_per_s"));
    assert!(lines.iter().all(|l| l.split(',').count() == lines[0].split(',').count()));
    assert!(lines[1].starts_with("20,") && lines[2].starts_with("40,"));
}

#[test]
fn each_line_is_answered_by_a_line() {
    let one = DESIGN.replace('\n', " ");
    let lines: Vec<String> =
        (0..300).map(|i| if i == 40 { "{".into() } else { one.replace("60}", &format!("{}}}", 20 + i)) }).collect();
    let output = run(&["evaluate", "--each", "-", "--frequencies", "40"], &(lines.join("\n") + "\n\n"));
    assert_eq!(output.status.code(), Some(2));
    assert!(String::from_utf8(output.stderr).unwrap().contains("1 of 301 lines"));
    let text = String::from_utf8(output.stdout).unwrap();
    let answers: Vec<serde_json::Value> = text.lines().map(|l| serde_json::from_str(l).unwrap()).collect();
    assert_eq!(answers.len(), 300);
    assert_eq!((&answers[40]["line"], &answers[40]["problems"][0]["code"]), (&41.into(), &"not_json".into()));
    for (i, answer) in answers.iter().enumerate().filter(|(i, _)| *i != 40) {
        assert_eq!(answer["summary"]["chambers"][0]["net_l"].as_f64().unwrap().round(), 20.0 + i as f64);
        assert!(answer["findings"].is_array());
    }
    let bare = run(&["evaluate", "--each", "-", "--without-findings"], &one);
    assert!(bare.status.success() && !String::from_utf8(bare.stdout).unwrap().contains("\"findings\""));
}

#[test]
fn a_bad_file_is_one_clear_line_and_exit_code_two() {
    for (arguments, input, words) in [
        (vec!["evaluate", "-"], "{", "not JSON"),
        (vec!["evaluate", "-"], &DESIGN.replace("net_volume_l", "net_volum_l"), "did you mean \"net_volume_l\"?"),
        (vec!["evaluate", "-"], &DESIGN.replace("60}", "-60}"), "/enclosure/net_volume_l: -60 L is too small"),
        (vec!["evaluate", "/nowhere/at/all.json"], "", "/nowhere/at/all.json"),
        (vec!["evaluate", "-", "--frequencies", "0"], DESIGN, "between 0.01 and 20000"),
    ] {
        let output = run(&arguments, input);
        let error = String::from_utf8(output.stderr).unwrap();
        assert_eq!(output.status.code(), Some(2), "{error}");
        assert!(error.contains(words) && error.trim().lines().count() == 1, "{error}");
        assert!(output.stdout.is_empty());
    }
}

/// Prices come from a work plan of one's own and are held against the brief's budget; one that is not one is refused by its field.
#[test]
fn prices_come_from_a_work_plan() {
    let folder = std::env::temp_dir().join(format!("oak-drum-work-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let (good, bad) = (folder.join("good.json"), folder.join("bad.json"));
    std::fs::write(&good, r#"{"prices": {"sheet": 60}}"#).unwrap();
    std::fs::write(&bad, r#"{"prices": {"sheet": -60}}"#).unwrap();
    let boxed = DESIGN.replacen(
        '{',
        r#"{"brief": {"budget": 50}, "cabinet": {"width_mm": 400, "height_mm": 500, "depth_mm": 450, "panel_mm": 18, "baffle_mm": 18},"#,
        1,
    );
    let kinds = |more: &[&str]| {
        let output = run(&[&["evaluate", "-", "--frequencies", "40"], more].concat(), &boxed);
        assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
        let result: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap();
        result["findings"].as_array().unwrap().iter().map(|f| f["kind"].to_string()).collect::<Vec<_>>()
    };
    assert!(!kinds(&[]).contains(&"\"over_budget\"".to_owned()));
    assert!(kinds(&["--work", good.to_str().unwrap()]).contains(&"\"over_budget\"".to_owned()));
    let refused = run(&["evaluate", "-", "--work", bad.to_str().unwrap()], &boxed);
    assert_eq!(refused.status.code(), Some(2));
    assert!(String::from_utf8(refused.stderr).unwrap().contains("/prices/sheet"));
    std::fs::remove_dir_all(&folder).unwrap();
}

#[test]
fn schemas_are_the_published_ones() {
    for (name, published) in [
        ("build", include_str!("../../../docs/schema/build.json")),
        ("workshop", include_str!("../../../docs/schema/workshop.json")),
        ("design", include_str!("../../../docs/schema/design.json")),
        ("work-plan", include_str!("../../../docs/schema/work-plan.json")),
        ("workshop-has", include_str!("../../../docs/schema/workshop-has.json")),
        ("result", include_str!("../../../docs/schema/result.json")),
    ] {
        let output = run(&["schema", name], "");
        assert_eq!(String::from_utf8(output.stdout).unwrap(), published);
    }
}

/// One design alone and the same on a line of many are answered alike, to the six digits a line has.
#[test]
fn a_line_of_many_says_what_one_says() {
    let arguments = ["--frequencies", "20,40,80", "--without-findings"];
    let alone = run(&[&["evaluate", "-"], &arguments[..]].concat(), DESIGN);
    let line = run(&[&["evaluate", "--each", "-"], &arguments[..]].concat(), &DESIGN.replace('\n', " "));
    let read = |output: Output| serde_json::from_slice::<serde_json::Value>(&output.stdout).unwrap();
    let (alone, line) = (read(alone), read(line));
    for name in ["level_db", "cone_excursion_mm", "impedance_ohm", "group_delay_ms"] {
        let list = |of: &serde_json::Value| -> Vec<f64> {
            of["curves"][name].as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect()
        };
        for (a, b) in list(&alone).into_iter().zip(list(&line)) {
            assert!((a - b).abs() <= 5e-4 + 1e-6 * a.abs(), "{name}: {a} and {b}");
        }
    }
    assert_eq!(alone["summary"]["figures"][0]["id"], line["summary"]["figures"][0]["id"]);
}

/// What cannot be opened, is no work plan, or is larger than any design says which file it is about; nothing is printed.
#[test]
fn files_that_cannot_be_used_are_named() {
    let folder = std::env::temp_dir().join(format!("oak-drum-files-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let large = folder.join("large.json");
    std::fs::write(&large, vec![b' '; (8 << 20) + 1]).unwrap();
    let broken = folder.join("broken.json");
    std::fs::write(&broken, "{").unwrap();
    let at = |path: &std::path::Path| path.to_str().unwrap().to_owned();
    for (arguments, input, words) in [
        (vec!["evaluate".to_owned(), at(&folder)], "", vec![at(&folder)]),
        (vec!["evaluate".to_owned(), at(&large)], "", vec![at(&large), "8 MB".to_owned()]),
        (vec!["evaluate".into(), "-".into(), "--work".into(), at(&broken)], DESIGN, vec![at(&broken), "EOF".into()]),
        (vec!["evaluate".into(), "--each".into(), at(&folder.join("none"))], "", vec![at(&folder.join("none"))]),
    ] {
        let arguments: Vec<&str> = arguments.iter().map(String::as_str).collect();
        let output = run(&arguments, input);
        let error = String::from_utf8(output.stderr).unwrap();
        assert_eq!(output.status.code(), Some(2), "{arguments:?}: {error}");
        assert!(error.starts_with("oak-drum: ") && words.iter().all(|w| error.contains(w)), "{arguments:?}: {error}");
        assert!(output.stdout.is_empty(), "{arguments:?}");
    }
    std::fs::remove_dir_all(&folder).unwrap();
}

/// The chain: its response, its biquads, a low cut of a shape, bands that flatten a curve; bad files end with 2 and one line.
#[test]
fn chain_prints_responses_biquads_low_cuts_and_bands() {
    let design = r#"{"format":"oak-drum-design","version":7,
      "woofer":{"fs_hz":30,"qms":5,"qes":0.4,"vas_l":120,"re_ohm":5.6,"sd_cm2":530,"xmax_mm":10},
      "enclosure":{"family":"vented","net_volume_l":90,"leak_q":7,"port":{"section":{"shape":"round","diameter_mm":123.6},
        "count":1,"sizing":{"by":"tuning","tuning_hz":32},"model":{"kind":"mass"}}},
      "brief":{"lowest_note_hz":32,"port_air_m_per_s":100},
      "drive":{"kind":"voltage","volts":30},
      "chain":{"filters":[{"filter":{"kind":"band","frequency_hz":40,"level_db":-6,"q":2}}]}}"#;
    let json = |arguments: &[&str], input: &str| -> serde_json::Value {
        let output = run(arguments, input);
        assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
        serde_json::from_slice(&output.stdout).unwrap()
    };
    let response = json(&["chain", "response", "-", "--frequencies", "20,40"], design);
    assert!((response["filter_db"][1].as_f64().unwrap() + 6.0).abs() < 1e-9);
    assert!((response["emf_v"][1].as_f64().unwrap() - 30.0 * 10f64.powf(-0.3)).abs() < 1e-9);
    let csv =
        String::from_utf8(run(&["chain", "response", "-", "--csv", "--frequencies", "20,40"], design).stdout).unwrap();
    assert_eq!(csv.lines().count(), 3);

    let biquads = json(&["chain", "biquads", "-", "--rate", "96000"], design);
    assert_eq!((&biquads["rate_hz"], biquads["sections"].as_array().unwrap().len()), (&96_000.0.into(), 1));
    let text =
        String::from_utf8(run(&["chain", "biquads", "-", "--format", "text", "--added"], design).stdout).unwrap();
    assert!(text.contains("signs turned"));

    let found = json(&["chain", "protect", "-", "--shape", "linkwitz-riley", "--order", "4"], design);
    assert!(found["wanted"].as_bool().unwrap() && found["choices"][0]["does"].as_bool().unwrap());
    assert_eq!(found["choices"].as_array().unwrap().len(), 1);

    // a peak of 6 dB is found again, as a cut
    let peak: String = (0..200)
        .map(|i| {
            let f = 15.0 * 10f64.powf(f64::from(i) / 180.0);
            let (x, a) = (f / 50.0, 10f64.powf(6.0 / 40.0));
            let square = |q: f64| (1.0 - x * x).powi(2) + (x / q).powi(2);
            format!("{f}\t{}\n", 90.0 + 10.0 * (square(3.0 / a) / square(3.0 * a)).log10())
        })
        .collect();
    let flat = json(&["chain", "flatten", "-", "--curve", "--from", "20", "--to", "150"], &format!("Hz dB\n{peak}"));
    let band = &flat["bands"][0];
    let near = |field: &str, value: f64, off: f64| (band[field].as_f64().unwrap() - value).abs() < off;
    assert!(near("frequency_hz", 50.0, 0.5) && near("level_db", -6.0, 0.2) && near("q", 3.0, 0.2), "{flat}");

    for (arguments, input, words) in [
        (&["chain", "biquads", "-", "--rate", "32000"][..], design, "96000"),
        (&["chain", "protect", "-", "--shape", "linkwitz-riley", "--order", "3"], design, "2, 4 or 8"),
        (&["chain", "flatten", "-", "--curve"], "20 90\n10 90\n", "rise"),
        (&["chain", "flatten", "-", "--curve"], "20\n", "line 1"),
        (&["chain", "flatten", "-", "--amplifier"], design, "no equaliser"),
        (&["chain", "response", "-"], "{", "not JSON"),
    ] {
        let output = run(arguments, input);
        let said = String::from_utf8(output.stderr).unwrap();
        assert_eq!(output.status.code(), Some(2), "{arguments:?}");
        assert!(said.contains(words) && said.lines().count() == 1, "{arguments:?}: {said}");
    }
}

const VENTED: &str = r#"{"format":"oak-drum-design","version":7,
  "woofer":{"fs_hz":30,"qms":5,"qes":0.4,"vas_l":120,"re_ohm":5.6,"sd_cm2":530,"le_mh":1.0},
  "enclosure":{"family":"vented","net_volume_l":90,"leak_q":12,
    "port":{"section":{"shape":"round","diameter_mm":110},"count":1,"sizing":{"by":"tuning","tuning_hz":32}}}}"#;

fn json(output: &Output) -> serde_json::Value {
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    serde_json::from_slice(&output.stdout).unwrap()
}

/// The whole road on the command line: the bench records, the recording is taken apart, the curve converted and held against the design.
#[test]
fn a_measurement_from_the_bench_to_its_cause() {
    let folder = std::env::temp_dir().join(format!("oak-drum-curves-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let at = |name: &str| folder.join(name).to_str().unwrap().to_owned();
    std::fs::write(at("design.json"), VENTED).unwrap();
    let (design, wav) = (at("design.json"), at("cone.wav"));
    let rig = run(&["rig", &design, &wav, "--taken", "cone", "--to", "500", "--seconds", "4"], "");
    assert!(rig.status.success(), "{}", String::from_utf8_lossy(&rig.stderr));
    let made = run(&["sweep", "analyse", &wav, "--to", "500", "--seconds", "4", "--loopback", "2"], "");
    let answer = json(&made);
    assert_eq!(answer["curve"]["format"], "oak-drum-curve");
    assert!(answer["harmonics"].as_array().unwrap().len() >= 2 && answer["peak_dbfs"].as_f64().unwrap() < -1.0);
    std::fs::write(at("cone.json"), answer["curve"].to_string()).unwrap();
    let smooth =
        run(&["curve", &at("cone.json"), "--smooth", "6", "--from", "20", "--to", "200", "--format", "csv"], "");
    let text = String::from_utf8(smooth.stdout).unwrap();
    assert!(text.starts_with("frequency_hz,level_db,phase_deg\n2"), "{text}");
    let compared = json(&run(&["compare", &design, &at("cone.json"), "--taken", "cone"], ""));
    let rms = compared["measured"][0]["deviation"]["rms_db"].as_f64().unwrap();
    assert!(rms < 1.0, "{rms}");

    // an impedance of the design itself, with its volume 8 % short, through a text file with decimal commas
    let short =
        VENTED.replace("\"net_volume_l\":90", "\"net_volume_l\":82.8").replace("tuning_hz\":32", "tuning_hz\":33.362");
    let csv = String::from_utf8(run(&["evaluate", "-", "--csv", "--without-findings"], &short).stdout).unwrap();
    let rows: Vec<Vec<&str>> = csv.lines().map(|l| l.split(',').collect()).collect();
    let column = |name: &str| rows[0].iter().position(|c| *c == name).unwrap();
    let (z, phase) = (column("impedance_ohm"), column("impedance_phase_deg"));
    let text: String =
        rows[1..].iter().map(|r| format!("{};{};{}\n", r[0], r[z], r[phase]).replace('.', ",")).collect();
    std::fs::write(at("z.txt"), text).unwrap();
    let how = json(&run(&["curve", &at("z.txt"), "--how"], ""));
    assert_eq!(
        (how["reading"]["separator"].as_str(), how["reading"]["decimal_comma"].as_bool()),
        (Some("semicolon"), Some(true))
    );
    let fitted = json(&run(&["fit", "box", &design, &at("z.txt")], ""));
    let figure = |id: &str| {
        fitted["figures"].as_array().unwrap().iter().find(|f| f["id"] == id).unwrap()["value"].as_f64().unwrap()
    };
    assert!((figure("net_volume_l") - 82.8).abs() < 0.5, "{}", figure("net_volume_l"));
    assert!((figure("fb_hz") - 33.36).abs() < 0.1, "{}", figure("fb_hz"));

    let stereo = at("sweep.wav");
    assert!(run(&["sweep", "make", &stereo, "--stereo"], "").status.success());
    assert!(std::fs::metadata(&stereo).unwrap().len() > 1_000_000);

    // a woofer from three files
    let woofer = |name: &str, heavier: f64, stiffer: f64| {
        let mut text = String::from("Hz,ohm,degree\n");
        for i in 0..200 {
            let f = 5.0 * 1.03f64.powi(i);
            // 5.6 ohm, fs 30, Qes 0.4, Qms 5, 1 mH
            let x = f / 30.0;
            let (re, im) = (0.2, x * (1.0 + heavier) - (1.0 + stiffer) / x);
            let size = re * re + im * im;
            let z = (5.6 + 14.0 * re / size, std::f64::consts::TAU * f * 1e-3 - 14.0 * im / size);
            text += &format!("{f},{},{}\n", z.0.hypot(z.1), z.1.atan2(z.0).to_degrees());
        }
        std::fs::write(at(name), text).unwrap();
    };
    woofer("free.csv", 0.0, 0.0);
    woofer("mass.csv", 40.0 / 93.438, 0.0);
    woofer("box.csv", 0.0, 2.0);
    let (free, mass, boxed) = (at("free.csv"), at("mass.csv"), at("box.csv"));
    let fitted = json(&run(
        &[
            "fit", "woofer", &free, "--mass", &mass, "--grams", "40", "--box", &boxed, "--litres", "60", "--sd-cm2",
            "530",
        ],
        "",
    ));
    for (id, truth) in [("fs_hz", 30.0), ("qes", 0.4), ("mms_g", 93.438), ("vas_l", 120.0), ("le_mh", 1.0)] {
        let found = fitted["figures"].as_array().unwrap().iter().find(|f| f["id"] == id).unwrap();
        assert!((found["value"].as_f64().unwrap() / truth - 1.0).abs() < 1e-3, "{id}: {found}");
    }

    // bad files: exit code 2 and one line
    std::fs::write(at("bad.txt"), "hello\nworld\n").unwrap();
    for arguments in [
        vec!["curve", "/nowhere"],
        vec!["fit", "woofer", "bad"],
        vec!["sweep", "analyse", "bad"],
        vec!["compare", design.as_str(), "bad"],
        vec!["sweep", "make", "-", "--from", "900", "--to", "950"],
        vec!["rig", design.as_str(), "-", "--taken", "radiator"],
    ] {
        let bad = at("bad.txt");
        let arguments: Vec<&str> = arguments.into_iter().map(|a| if a == "bad" { bad.as_str() } else { a }).collect();
        let refused = run(&arguments, "");
        let said = String::from_utf8(refused.stderr).unwrap();
        assert_eq!((refused.status.code(), said.trim_end().lines().count()), (Some(2), 1), "{arguments:?}: {said}");
    }
    std::fs::remove_dir_all(&folder).unwrap();
}

/// A design in a room from the command line: seats, a map, arrangements and families; what cannot be is one line and exit code 2.
#[test]
fn a_room() {
    let design = r#"{"format": "oak-drum-design", "version": 8, "brief": {"lowest_note_hz": 25}, "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4,
        "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530}, "enclosure": {"family": "sealed", "net_volume_l": 60}}"#;
    let folder = std::env::temp_dir().join(format!("oak-drum-cli-room-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let room = folder.join("room.json").display().to_string();
    let text = r#"{"room": {"name": "Parlour", "space": {"kind": "room", "length_m": 6, "width_m": 4, "height_m": 2.5,
        "damping": {"by": "time", "t60_s": 0.5}}}, "cabinets": [{"x_m": 0.6, "y_m": 0.6}], "seats": [{"x_m": 4.2, "y_m": 2.2}]}"#;
    std::fs::write(&room, text).unwrap();
    let ask = |more: &[&str]| run(&[&["room", "-", "--room", room.as_str()], more].concat(), design);
    let seats = json(&ask(&[]));
    assert_eq!(seats["modes"][0]["order"], serde_json::json!([1, 0, 0]));
    assert!((seats["modes"][0]["frequency_hz"].as_f64().unwrap() - 28.6).abs() < 0.1);
    let map = json(&ask(&["--tell", "map-cabinet", "--columns", "8", "--rows", "6"]));
    assert_eq!((map["uneven_db"].as_array().unwrap().len(), map["best"].as_array().unwrap().is_empty()), (48, false));
    let two = json(&ask(&["--tell", "arrange", "--count", "2"]));
    assert_eq!(two["list"][0]["cabinets"].as_array().unwrap().len(), 2);
    assert!(json(&ask(&["--tell", "families"]))["list"].as_array().unwrap().len() > 3);
    for arguments in [
        vec!["room", "-"],
        vec!["room", "-", "--room", "/nowhere"],
        vec!["room", "-", "--room", room.as_str(), "--which", "0"],
    ] {
        let refused = run(&arguments, design);
        let said = String::from_utf8(refused.stderr).unwrap();
        assert_eq!((refused.status.code(), said.trim_end().lines().count()), (Some(2), 1), "{arguments:?}: {said}");
    }
    std::fs::remove_dir_all(&folder).unwrap();
}

/// Questions about listening tests: each kind's answer, and what is wrong in one line with exit code 2.
#[test]
fn listening_tests() {
    let ask = |question: &str| run(&["listening", "-"], question);
    let abx = json(&ask(r#"{"kind": "difference", "method": "abx", "right": 12, "trials": 16}"#));
    assert!((abx["told"]["p"].as_f64().unwrap() - 0.0384064).abs() < 1e-7);
    assert!(abx["sentence"].as_str().unwrap().starts_with("12 of 16 right"));
    let trials = json(&ask(r#"{"kind": "trials", "method": "triangle", "share": 0.5}"#));
    assert_eq!((trials["needed"]["first"].as_u64(), trials["needed"]["always_from"].as_u64()), (Some(58), Some(60)));
    let scores = json(&ask(r#"{"kind": "scores", "cabinets": ["A", "B"], "scores": [[7, 5], [8, 4], [6, 7]]}"#));
    assert_eq!(scores["told"]["means"].as_array().unwrap().len(), 2);
    let votes = json(&ask(r#"{"kind": "votes", "cabinets": ["A", "B"], "wins": [[0, 2], [7, 0]]}"#));
    assert_eq!(votes["ranking"], serde_json::json!(["B", "A"]));
    let order = r#"{"kind": "order", "cabinets": 4, "hearings": 4, "seed": 3}"#;
    assert_eq!(ask(order).stdout, ask(order).stdout, "the same for the same seed");
    let matched = json(&ask(r#"{"kind": "match", "levels_db": [84, 82.5]}"#));
    assert_eq!(matched["told"]["trims_db"], serde_json::json!([-1.5, 0.0]));
    for bad in
        [r#"{"kind": "differnce"}"#, r#"{"kind": "difference", "method": "abx", "right": 9, "trials": 6}"#, "{", "[]"]
    {
        let refused = ask(bad);
        let said = String::from_utf8(refused.stderr).unwrap();
        assert_eq!((refused.status.code(), said.trim_end().lines().count()), (Some(2), 1), "{bad}: {said}");
    }
}

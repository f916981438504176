//! Measurements over HTTP: files in and out, the bench, what is held against the design, bad input at its place.

use crate::client::Client;
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

pub fn design() -> Value {
    json!({"format": "oak-drum-design", "version": oak_drum_document::VERSION, "name": "V",
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1.0, "xmax_mm": 8},
        "enclosure": {"family": "vented", "net_volume_l": 90, "leak_q": 12,
            "port": {"section": {"shape": "round", "diameter_mm": 110}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 32}}}})
}

/// JSON in a query, for the address.
pub fn escaped(value: &Value) -> String {
    value.to_string().bytes().fold(String::new(), |mut text, b| {
        use std::fmt::Write;
        let _ = write!(text, "%{b:02X}");
        text
    })
}

#[test]
fn from_a_file_and_from_the_bench_to_what_to_do() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let made = client.post("/api/builds", &json!({"name": "Barn", "document": design()}));
    assert_eq!(made.status, 201, "{}", made.text);
    let build = made.body["id"].as_str().unwrap().to_owned();
    let revision = made.body["revisions"][0]["id"].as_str().unwrap().to_owned();
    let all = format!("/api/builds/{build}/measurements");
    assert_eq!(client.get(&all).body, json!([]));

    // a file with a column too many: read wrong, told, mended, kept
    let text = "0.5 20 6.5 10\n1.1 30 31.0 -4\n1.9 40 12.0 -30\n2.2 60 8.0 5\n";
    let looked = client.raw("POST", "/api/curves/preview", text, "text/plain");
    assert_eq!(looked.status, 200, "{}", looked.text);
    assert_eq!(looked.body["reading"]["columns"][0], "frequency");
    let mut reading = looked.body["reading"].clone();
    reading["columns"] = json!(["left_out", "frequency", "magnitude", "phase"]);
    reading["unit"] = json!("ohm");
    reading["kilohertz"] = json!(false);
    let at = format!("/api/curves/preview?reading={}", escaped(&reading));
    let mended = client.raw("POST", &at, text, "text/plain");
    assert_eq!((mended.body["quantity"].as_str(), mended.body["points"].as_u64()), (Some("impedance"), Some(4)));
    let about = json!({"name": "By hand", "taken": {"kind": "in_box"}});
    let at = format!("{all}/import?reading={}&file=a.txt&about={}", escaped(&reading), escaped(&about));
    let kept = client.raw("POST", &at, text, "text/plain");
    assert_eq!(kept.status, 201, "{}", kept.text);
    assert_eq!(kept.body["document"]["about"]["name"], "By hand");
    let id = kept.body["id"].as_str().unwrap().to_owned();
    let curve = client.get(&format!("/api/measurements/{id}/curve"));
    assert_eq!(curve.body["curve"]["frequency_hz"], json!([20.0, 30.0, 40.0, 60.0]));
    let out = client.get(&format!("/api/measurements/{id}/file?format=csv"));
    assert!(out.text.starts_with("frequency_hz,impedance_ohm,phase_deg\n20,6.5"), "{}", out.text);

    // steps are tried before they are kept; a stale save changes nothing
    let mut document = kept.body["document"].clone();
    document["steps"] = json!([{"kind": "smooth", "per_octave": 7}]);
    let bad = client.put(&format!("/api/measurements/{id}"), &json!({"base_version": 1, "document": document}));
    assert_eq!((bad.status, bad.body["errors"][0]["pointer"].as_str()), (422, Some("/document/steps/0")));
    document["steps"] = json!([{"kind": "trim", "from_hz": 25, "to_hz": 50}]);
    let saved = client.put(&format!("/api/measurements/{id}"), &json!({"base_version": 1, "document": document}));
    assert_eq!((saved.status, saved.body["version"].as_i64()), (200, Some(2)), "{}", saved.text);
    let stale = client.put(&format!("/api/measurements/{id}"), &json!({"base_version": 1, "document": document}));
    assert_eq!(stale.status, 409);
    let curve = client.get(&format!("/api/measurements/{id}/curve"));
    assert_eq!(curve.body["curve"]["frequency_hz"], json!([30.0, 40.0]));
    assert_eq!(client.agent.delete(format!("{}/api/measurements/{id}", server.address)).call().unwrap().status(), 204);
    assert_eq!(client.get(&all).body, json!([]));
    assert_eq!(client.post(&format!("/api/measurements/{id}/restore"), &json!({})).status, 204);
    assert_eq!(client.get(&all).body.as_array().unwrap().len(), 1);

    // a leaky cabinet on the bench: the leak is found, a design kept as measured is offered
    let wish = json!({"taken": {"kind": "in_box"}});
    let leaky = json!({"kind": "flawed", "flaws": [{"kind": "leak", "q": 2.5}]});
    let bench = json!({"document": design(), "wish": wish, "name": "Leaky", "revision": revision, "cabinet": leaky});
    let taken = client.post(&format!("{all}/bench"), &bench);
    assert_eq!(taken.status, 201, "{}", taken.text);
    assert_eq!(taken.body["document"]["source"]["kind"], "bench");
    let ids = json!([taken.body["id"]]);
    let proof = client.post("/api/prove", &json!({"document": design(), "measurements": ids}));
    assert_eq!(proof.status, 200, "{}", proof.text);
    let causes = &proof.body["causes"];
    assert_eq!(causes["each"][0]["unknown"], "leak", "{causes}");
    let q = causes["each"][0]["value"].as_f64().unwrap();
    assert!((q / 2.5 - 1.0).abs() < 0.1, "{q}");
    assert_eq!(proof.body["cures"][0]["id"], "leak");
    assert!(proof.body["cures"].as_array().unwrap().iter().any(|c| c["id"] == "keep"));
    assert!(proof.body["fitted_box"]["turns"].as_array().unwrap().len() >= 3, "{}", proof.body["fitted_box"]);

    // the same samples are kept once
    let again = client.post(&format!("{all}/bench"), &bench);
    assert_eq!(again.status, 201);

    // practice tells nothing of what is wrong
    let practice = json!({"kind": "practice", "seed": 11, "difficulty": "plain"});
    let near = json!({"taken": {"kind": "near_cone"}, "volts": 2});
    let bench = json!({"document": design(), "wish": near, "name": "Practice", "cabinet": practice});
    let taken = client.post(&format!("{all}/bench"), &bench);
    assert_eq!(taken.status, 201, "{}", taken.text);
    assert_eq!(taken.body["document"]["source"], json!({"kind": "practice", "seed": 11, "difficulty": "plain"}));
    assert!(!taken.text.contains("flaw"), "{}", taken.text);
    let curve = client.get(&format!("/api/measurements/{}/curve", taken.body["id"].as_str().unwrap()));
    assert!(curve.body["impulse"].as_array().unwrap().len() > 300);
    let mut gated = taken.body["document"].clone();
    gated["steps"] = json!([{"kind": "gate", "from_ms": -5, "to_ms": 100}]);
    let at = format!("/api/measurements/{}", taken.body["id"].as_str().unwrap());
    assert_eq!(client.put(&at, &json!({"base_version": 1, "document": gated})).status, 200);
    let shown = client.get(&format!("{at}/curve"));
    let weight = |ms: f64| {
        let list = shown.body["impulse"].as_array().unwrap();
        list.iter().find(|p| p[0].as_f64().unwrap() >= ms).unwrap()[2].as_f64().unwrap()
    };
    // whole between its flanks, half in the middle of one (a quarter of 105 ms long), nothing outside
    assert_eq!((weight(-15.0), weight(20.0), weight(150.0)), (0.0, 1.0, 0.0));
    assert!((weight(100.0 - 26.25 / 2.0) - 0.5).abs() < 0.05);

    let judged = json!({"document": design(), "cabinet": practice, "said": []});
    let verdict = client.post("/api/prove/judge", &judged);
    assert_eq!((verdict.status, verdict.body["points"].as_u64()), (200, Some(0)), "{}", verdict.text);

    // bad input
    let says = |body: Value, pointer: &str| {
        let answer = client.post(&format!("{all}/bench"), &body);
        assert_eq!(answer.status, 422, "{}", answer.text);
        assert_eq!(answer.body["errors"][0]["pointer"], pointer, "{}", answer.text);
    };
    let radiator = json!({"document": design(), "wish": {"taken": {"kind": "near_radiator"}}, "name": "x"});
    says(radiator, "/wish/taken");
    let sweep = json!({"document": design(), "wish": {"sweep": {"from_hz": 100, "to_hz": 120}}, "name": "x"});
    says(sweep, "/wish/sweep/to_hz");
    let port = json!({"kind": "flawed", "flaws": [{"kind": "port", "mm": -500}]});
    says(json!({"document": design(), "wish": {}, "name": "x", "cabinet": port}), "/cabinet/flaws");
    let junk = client.raw("POST", "/api/curves/preview", "hello\nworld\n", "text/plain");
    assert_eq!(junk.status, 422);
    assert!(junk.text.contains("no two lines"), "{}", junk.text);
    let gone = json!({"document": design(), "measurements": ["00000000-0000-7000-8000-000000000000"]});
    assert_eq!(client.post("/api/prove", &gone).status, 404);
    let band = json!({"document": design(), "measurements": ids, "from_hz": 100, "to_hz": 50});
    assert_eq!(client.post("/api/prove", &band).body["errors"][0]["pointer"], "/to_hz");
}

//! A woofer fitted over HTTP and what is measured of it kept on the shelf.

use crate::client::Client;
use crate::measurements::design;
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

#[test]
fn a_woofer_is_fitted_and_kept_as_a_parameter_set() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let mut named = design();
    named["woofer"]["name"] = json!("Bench ten");
    let made = client.post("/api/builds", &json!({"name": "Bench", "document": named}));
    let all = format!("/api/builds/{}/measurements", made.body["id"].as_str().unwrap());
    let measured = |taken: Value, seed: u32| {
        // a woofer whose resonance lies 8 % high
        let flaws = json!({"kind": "flawed", "flaws": [{"kind": "suspension", "fs_percent": 8}]});
        let wish = json!({"taken": taken, "bench": {"seed": seed}});
        let body = json!({"document": named, "wish": wish, "name": "Bench", "cabinet": flaws});
        let kept = client.post(&format!("{all}/bench"), &body);
        assert_eq!(kept.status, 201, "{}", kept.text);
        kept.body["id"].clone()
    };
    let free = measured(json!({"kind": "free_air"}), 1);
    let mass = measured(json!({"kind": "added_mass", "mass_g": 60}), 2);
    let body = json!({"document": named, "free": free, "mass": mass, "wish": {"mass_percent": 0.5}});
    let proof = client.post("/api/fit/woofer", &body);
    assert_eq!(proof.status, 200, "{}", proof.text);
    let figures = proof.body["figures"].as_array().unwrap();
    let fs = figures.iter().find(|f| f["id"] == "fs_hz").unwrap()["value"].as_f64().unwrap();
    assert!((fs / (30.0 * 1.08) - 1.0).abs() < 0.01, "{fs}");
    assert!(figures.iter().any(|f| f["id"] == "mms_g"));
    assert!(proof.body["effect"]["sentence"].to_string().contains("instead of"));

    // kept under its name: put on the shelf at first, then extended
    let set = json!({"provenance": "measured_new", "date": "2026-11-26", "method": "impedance, added mass",
        "figures": proof.body["sheet"]});
    let log = |body: Value| client.post("/api/woofers/log", &body);
    let first = log(json!({"document": named, "set": set}));
    assert_eq!(first.status, 200, "{}", first.text);
    assert_eq!(first.body["document"]["sets"].as_array().unwrap().len(), 2);
    assert_eq!(first.body["document"]["in_use"], 1);
    let second = log(json!({"document": named, "note": "broken in for 2 h"}));
    assert_eq!((second.body["id"].clone(), second.body["version"].as_i64()), (first.body["id"].clone(), Some(2)));
    assert_eq!(second.body["document"]["notes"], "broken in for 2 h");
    let third = log(json!({"document": named, "set": set, "note": "again"}));
    assert_eq!(third.body["document"]["notes"], "broken in for 2 h\nagain");
    assert_eq!(client.get("/api/woofers").body.as_array().unwrap().len(), 1);

    // bad input at its place
    let says = |body: Value, status: u16, pointer: &str| {
        let answer = client.post("/api/fit/woofer", &body);
        assert_eq!(answer.status, status, "{}", answer.text);
        if status == 422 {
            assert_eq!(answer.body["errors"][0]["pointer"], pointer, "{}", answer.text);
        }
    };
    says(json!({"document": named, "free": free, "mass": free}), 422, "/mass");
    says(json!({"document": named, "free": free, "boxed": mass}), 422, "/boxed");
    says(json!({"document": named, "free": free, "wish": {"sd_cm2": -3}}), 422, "/wish/sd_cm2");
    says(json!({"document": named, "free": "00000000-0000-7000-8000-000000000000"}), 404, "");
    let wrong = json!({"provenance": "hearsay", "figures": {}});
    let answer = log(json!({"document": named, "set": wrong}));
    assert_eq!((answer.status, answer.body["errors"][0]["pointer"].as_str()), (422, Some("/set/provenance")));

    // another box's measured port is offered to this one, not to itself
    let learned = |id: &Value| client.get(&format!("/api/builds/{}/learned", id.as_str().unwrap())).body;
    assert_eq!(learned(&made.body["id"])["builds"], json!([]));
    let mut measured = design();
    measured["enclosure"]["port"]["end_factor"] = json!(1.12);
    let other = client.post("/api/builds", &json!({"name": "Barn", "document": measured}));
    let found = learned(&made.body["id"]);
    assert_eq!((found["factor"].as_f64(), found["builds"][0][0].as_str()), (Some(1.12), Some("Barn")), "{found}");
    assert_eq!(learned(&other.body["id"])["builds"], json!([]));
}

//! Sound over HTTP: sweeps and steady signals out, recordings in; what comes of a file is what comes of the bench itself.

use crate::client::{Answer, Client};
use crate::measurements::{design, escaped};
use oak_drum_curves::formats::wav;
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

/// Levels or ohms of a kept measurement by frequency.
fn curve(client: &Client, kept: &Answer) -> Vec<(f64, f64)> {
    let answer = client.get(&format!("/api/measurements/{}/curve", kept.body["id"].as_str().unwrap()));
    let list = |name: &str| -> Vec<f64> {
        answer.body["curve"][name].as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect()
    };
    list("frequency_hz").into_iter().zip(list("magnitude")).collect()
}

#[test]
fn a_sweep_goes_out_and_its_recording_comes_back() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let made = client.post("/api/builds", &json!({"name": "Shed", "document": design()}));
    let build = made.body["id"].as_str().unwrap().to_owned();

    // out: a sweep of two channels, a tone that goes round
    let asked = json!({"from_hz": 10, "to_hz": 500, "seconds": 2, "rate_hz": 44100, "times": 2});
    let file = client.get(&format!("/api/sweep?stereo=true&sweep={}", escaped(&asked)));
    assert_eq!((file.status, file.kind.as_str()), (200, "audio/wav"));
    let sweep = wav::read(&file.bytes).unwrap();
    assert_eq!((sweep.rate, sweep.channels.len()), (44_100.0, 2));
    assert_eq!(sweep.channels[0], sweep.channels[1]);
    assert!((sweep.peak(0) - 0.5).abs() < 1e-3);
    let tone = client.get(&format!("/api/steady?rate_hz=48000&signal={}", escaped(&json!({"kind": "tone", "hz": 30}))));
    let tone = wav::read(&tone.bytes).unwrap();
    assert!((tone.peak(0) - 0.999).abs() < 1e-4 && (tone.seconds() - 4.0).abs() < 1e-9);

    // back: what the bench records, as a file, gives the curve the bench gives, less where it stands
    let wish = json!({"taken": {"kind": "near_cone"}, "volts": 1});
    let tape = client.post("/api/bench/recording", &json!({"document": design(), "wish": wish}));
    assert_eq!((tape.status, tape.kind.as_str()), (200, "audio/wav"), "{}", tape.text);
    let back = |wish: &Value, bytes: &[u8]| {
        let at = format!("/api/builds/{build}/measurements/recording?file=cone.wav&wish={}", escaped(wish));
        client.sent(&at, bytes, "audio/wav")
    };
    let about = json!({"name": "Cone", "taken": {"kind": "near_cone"}});
    let kept = back(&json!({"channel": 1, "loopback": 2, "about": about}), &tape.bytes);
    assert_eq!(kept.status, 201, "{}", kept.text);
    assert_eq!(kept.body["document"]["source"], json!({"kind": "recording", "name": "cone.wav"}));
    let bench = json!({"document": design(), "wish": wish, "name": "Bench"});
    let own = client.post(&format!("/api/builds/{build}/measurements/bench"), &bench);
    let pairs: Vec<f64> =
        curve(&client, &kept).iter().zip(curve(&client, &own)).map(|((_, a), (_, b))| a - b).collect();
    assert!(pairs.len() > 100);
    assert!(pairs.iter().all(|d| (d - pairs[0]).abs() < 0.01), "{pairs:?}");

    // by the jig the same file way gives ohms; the bench's own jig is calibrated, this one is not
    let tape = client.post("/api/bench/recording", &json!({"document": design(), "wish": {}}));
    let about = json!({"name": "Terminals", "taken": {"kind": "in_box"}});
    let jig = json!({"channel": 2, "loopback": 1, "reference_ohm": 22, "leads_ohm": 0.15, "about": about});
    let kept = back(&jig, &tape.bytes);
    assert_eq!(kept.status, 201, "{}", kept.text);
    let own = client.post(
        &format!("/api/builds/{build}/measurements/bench"),
        &json!({"document": design(), "wish": {}, "name": "Bench"}),
    );
    for ((f, a), (_, b)) in curve(&client, &kept).into_iter().zip(curve(&client, &own)) {
        assert!((a / b - 1.0).abs() < 0.06, "{f} Hz: {a} against {b} ohm");
    }

    // bad input, each at its place, nothing kept
    let says = |answer: Answer, pointer: &str, words: &str| {
        assert_eq!(answer.status, 422, "{}", answer.text);
        assert_eq!(answer.body["errors"][0]["pointer"], pointer, "{}", answer.text);
        assert!(answer.text.contains(words), "{}", answer.text);
    };
    says(back(&json!({"about": {"taken": {"kind": "in_box"}}}), &tape.bytes), "/wish/loopback", "two channels");
    says(back(&json!({"channel": 9}), &tape.bytes), "/wish/channel", "");
    let near = json!({"taken": {"kind": "near_cone"}});
    says(back(&json!({"about": near, "channel": 3}), &tape.bytes), "/wish", "no channel 3");
    let other = json!({"about": near, "sweep": {"from_hz": 30, "to_hz": 900}});
    says(back(&other, &tape.bytes), "/wish", "not found");
    says(back(&json!({"about": near, "sweep": {"from_hz": 30, "to_hz": 31}}), &tape.bytes), "/wish/sweep/to_hz", "");
    let junk = back(&json!({}), b"RIFF, but no more");
    assert_eq!((junk.status, junk.body["title"].as_str()), (422, Some("The file is no recording")), "{}", junk.text);
    let wrong = client.get(&format!("/api/sweep?sweep={}", escaped(&json!({"rate_hz": 50000}))));
    says(wrong, "/sweep/rate_hz", "44100");
    says(client.get("/api/steady?rate_hz=8000&signal=%7B%22kind%22%3A%22tone%22%2C%22hz%22%3A30%7D"), "/rate_hz", "");
    says(client.get("/api/steady?rate_hz=48000&signal=x"), "/signal", "");
    assert_eq!(client.get(&format!("/api/builds/{build}/measurements")).body.as_array().unwrap().len(), 4);

    // two near fields become what stands in front of the box; a calibration file becomes a step
    let near = |kind: &str| {
        let body = json!({"document": design(), "wish": {"taken": {"kind": kind}, "volts": 1}, "name": kind});
        client.post(&format!("/api/builds/{build}/measurements/bench"), &body).body["id"].clone()
    };
    let (cone, port) = (near("near_cone"), near("near_port"));
    let combine = |of: Value, how: Value| {
        let body = json!({"document": design(), "measurements": of, "how": how});
        client.post(&format!("/api/builds/{build}/measurements/combined"), &body)
    };
    let sum = combine(json!([cone, port]), json!({"kind": "sum", "distance_m": 1}));
    assert_eq!(sum.status, 201, "{}", sum.text);
    let document = &sum.body["document"];
    assert_eq!(document["about"]["taken"], json!({"kind": "in_front", "distance_m": 1.0}));
    assert!(document["source"]["how"].to_string().contains("near_cone, near_port"), "{document}");
    let shown = client.get(&format!("/api/measurements/{}/curve", sum.body["id"].as_str().unwrap()));
    assert!(shown.body["excess"]["delay_ms"].as_f64().unwrap().abs() < 20.0, "{}", shown.body["excess"]);
    says(combine(json!([cone]), json!({"kind": "average"})), "/how", "two measurements");
    says(combine(json!([cone, port]), json!({"kind": "splice", "at_hz": 5})), "/how/at_hz", "");
    let step = client.sent("/api/curves/calibration?name=mic", b"20 -3.0\n200 0\n2000 1.5\n", "text/plain");
    assert_eq!((step.body["kind"].as_str(), step.body["name"].as_str()), (Some("calibration"), Some("mic")));
    let mut with = document.clone();
    with["steps"] = json!([step.body, {"kind": "trim", "from_hz": 20, "to_hz": 200}]);
    let at = format!("/api/measurements/{}", sum.body["id"].as_str().unwrap());
    let saved = client.put(&at, &json!({"base_version": 1, "document": with}));
    assert_eq!(saved.status, 200, "{}", saved.text);
    let after = client.get(&format!("{at}/curve"));
    let level = |a: &Answer| a.body["curve"]["magnitude"][0].as_f64().unwrap();
    let before = shown.body["curve"]["frequency_hz"].as_array().unwrap();
    let there = before.iter().position(|f| f.as_f64().unwrap() >= 20.0).unwrap();
    assert!((level(&after) - shown.body["curve"]["magnitude"][there].as_f64().unwrap() - 3.0).abs() < 0.4);
    assert_eq!(client.sent("/api/curves/calibration?name=mic", b"no numbers", "text/plain").status, 422);
}

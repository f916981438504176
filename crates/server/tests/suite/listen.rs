//! Listening over HTTP: a session begun, joined from phones, answered under seal, helped and ended.

use crate::client::Client;
use oak_drum_curves::formats::wav::{self, Depth, Recording};
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

fn design(litres: f64, boost: Option<f64>) -> Value {
    let filters = boost.map(|db| json!({"name": "Lift", "stage": "line", "filter": {"kind": "band", "frequency_hz": 40, "q": 1.2, "level_db": db}}));
    json!({"format": "oak-drum-design", "version": 8, "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120,
        "re_ohm": 5.6, "sd_cm2": 530}, "enclosure": {"family": "sealed", "net_volume_l": litres},
        "chain": {"filters": filters.into_iter().collect::<Vec<_>>()}})
}

#[test]
fn sessions_over_http() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let made = client.post("/api/builds", &json!({"name": "Barn", "document": design(60.0, None)}));
    let build = made.body["id"].as_str().unwrap().to_owned();
    let lifted = client.post(&format!("/api/builds/{build}/revisions"), &json!({"document": design(60.0, Some(6.0))}));
    assert_eq!(lifted.status, 201, "{}", lifted.text);
    a_difference(&client, &build);
    scores_with_a_helper(&client, &build);
    what_does_not_fit(&client, &build);
    levels_and_programme(&client);
}

fn abx(trials: u32) -> Value {
    json!({"title": "Lift or not", "test": {"kind": "difference", "method": "abx", "trials": trials},
        "candidates": [{"name": "Flat", "revision": "A"}, {"name": "Lifted", "revision": "B"}],
        "pieces": [{"kind": "shipped", "id": "walk"}, {"kind": "shipped", "id": "drum"}], "switching": "program",
        "matched": {"by": "model", "band_hz": [30, 120], "levels_db": [85, 86], "trims_db": [0, -1], "tolerance_db": 0.1},
        "level_db": 78, "seed": 7})
}

/// Somebody who hears by the sections what a page would play finds every X; answers stay sealed until the end; an answer stands.
fn a_difference(client: &Client, build: &str) {
    let all = format!("/api/builds/{build}/listening");
    let begun = client.post(&all, &json!({"session": abx(10)}));
    assert_eq!(begun.status, 201, "{}", begun.text);
    let code = begun.body["code"].as_str().unwrap().to_owned();
    assert!(code.len() == 6 && begun.body["helper_key"].is_null());
    let seen = client.get(&format!("/api/listen/{}", code.to_lowercase()));
    assert_eq!((seen.status, &seen.body["candidates"]), (200, &json!(2)));
    assert!(!seen.text.contains("Lifted") && !seen.text.contains("Flat"), "letters only: {}", seen.text);

    let join = |name: &str| client.post(&format!("/api/listen/{code}/listeners"), &json!({"name": name}));
    let (ida, bo) = (join("Ida"), join("Bo"));
    assert_eq!((ida.status, join(" ida ").status, join("").status), (201, 422, 422));
    let key = |joined: &crate::client::Answer| joined.body["key"].as_str().unwrap().to_owned();
    let (ida, bo) = (key(&ida), key(&bo));
    let mine = |key: &str| client.get(&format!("/api/listen/{code}/hearings?key={key}"));
    let hearings = mine(&ida).body["hearings"].as_array().unwrap().clone();
    assert_eq!((hearings.len(), hearings[0]["envelopes"].as_u64()), (10, Some(3)));
    let give = |key: &str, at: usize, slip: Value| {
        client.put(&format!("/api/listen/{code}/hearings/{at}"), &json!({"key": key, "slip": slip}))
    };
    for (i, h) in hearings.iter().enumerate() {
        let sounds = h["sounds"].as_array().unwrap();
        assert_ne!(sounds[0], sounds[1]);
        let right = usize::from(sounds[2] == sounds[1]);
        assert_eq!(give(&ida, i, json!({"choice": right, "note": if i == 2 { "fuller" } else { "" }})).status, 204);
    }
    // the same again is no other answer; another is refused, from whichever phone
    let first = usize::from(hearings[0]["sounds"][2] == hearings[0]["sounds"][1]);
    assert_eq!(give(&ida, 0, json!({"choice": first})).status, 204);
    let changed = give(&ida, 0, json!({"choice": 1 - first}));
    assert_eq!((changed.status, changed.body["type"].as_str()), (409, Some("urn:oak-drum:problem:closed")));
    assert_eq!(mine(&ida).body["answered"].as_array().unwrap().len(), 10);
    assert_eq!(give(&bo, 0, json!({"choice": 5})).status, 422);
    assert_eq!(give(&bo, 10, json!({"choice": 1})).body["errors"][0]["pointer"], "/hearing");
    assert_eq!(give(&bo, 0, json!({})).body["errors"][0]["pointer"], "/slip/choice");
    // two phones of one listener at once: one answer stands
    let statuses: Vec<u16> = std::thread::scope(|s| {
        let phones: Vec<_> = [0, 1].iter().map(|c| s.spawn(|| give(&bo, 1, json!({"choice": *c})).status)).collect();
        phones.into_iter().map(|p| p.join().unwrap()).collect()
    });
    assert!(statuses == [204, 409] || statuses == [409, 204], "{statuses:?}");
    // nothing of it is told before the end
    let sealed = client.get(&all);
    assert!(sealed.body[0]["outcome"].is_null() && !sealed.text.contains("fuller") && !sealed.text.contains("choice"));
    assert_eq!(sealed.body[0]["listeners"], json!([{"name": "Ida", "answered": 10}, {"name": "Bo", "answered": 1}]));

    let path = format!("/api/listening/{}", begun.body["id"].as_str().unwrap());
    let ended = client.post(&format!("{path}/end"), &json!({}));
    assert_eq!(ended.status, 200, "{}", ended.text);
    let told = &ended.body["outcome"];
    assert_eq!(
        (&told["listeners"][0]["difference"]["right"], &told["listeners"][0]["difference"]["trials"]),
        (&json!(10), &json!(10))
    );
    assert_eq!(told["listeners"][0]["notes"], json!([{"hearing": 3, "note": "fuller"}]));
    assert!(told["warnings"].to_string().contains("Bo") && !told["warnings"].to_string().contains("apart"));
    assert!(told["conditions"].as_str().unwrap().contains("sealed until the end"));
    assert_eq!((give(&bo, 2, json!({"choice": 0})).status, join("Late").status), (409, 409));
    assert_eq!(client.post(&format!("{path}/end"), &json!({})).body["ended_at"], ended.body["ended_at"]);
    assert_eq!(client.get(&all).body[0]["outcome"], *told);
    assert_eq!(Client::answer(client.agent.delete(format!("{}{path}", client.base)).call()).status, 204);
    assert_eq!((client.get(&all).body, client.get(&format!("/api/listen/{code}")).status), (json!([]), 404));
    assert_eq!(client.post(&format!("{path}/restore"), &json!({})).status, 204);
}

/// With a helper everybody hears one order, told to the helper's page alone; that it was shown is kept.
fn scores_with_a_helper(client: &Client, build: &str) {
    let all = format!("/api/builds/{build}/listening");
    let session = json!({"title": "Three boxes", "test": {"kind": "scores", "scales": ["deep", "overall"]},
        "candidates": [{"name": "Old"}, {"name": "New", "setting": "port shut"}, {"name": "Borrowed"}],
        "pieces": [{"kind": "own", "name": "Our own recording"}], "switching": "helper", "seed": 3});
    let begun = client.post(&all, &json!({"session": session}));
    let (code, key) = (begun.body["code"].as_str().unwrap(), begun.body["helper_key"].as_str().unwrap());
    assert!(begun.body["shown_at"].is_null());
    let helper = format!("/api/listen/{code}/helper/{key}");
    let order = client.get(&helper);
    assert_eq!(order.status, 200, "{}", order.text);
    let envelopes = order.body["hearings"][0]["envelopes"].as_array().unwrap().clone();
    assert!(envelopes.iter().any(|e| e["name"] == "New" && e["setting"] == "port shut"));
    assert!(!client.get(&all).body[0]["shown_at"].is_null());
    let other = format!("/api/listen/{code}/helper/018f0000-0000-4000-8000-00000000000f");
    assert_eq!(client.get(&other).status, 404);
    assert_eq!(client.put(&helper, &json!({"hearing": 40})).body["set_up"], 0, "there is one");
    let taste = |name: &str| match name {
        "Old" => 3,
        "New" => 8,
        _ => 5,
    };
    for name in ["Ann", "Ben", "Cia", "Dov"] {
        let joined = client.post(&format!("/api/listen/{code}/listeners"), &json!({"name": name}));
        let own = joined.body["key"].as_str().unwrap();
        let mine = client.get(&format!("/api/listen/{code}/hearings?key={own}"));
        assert_eq!((&mine.body["set_up"], &mine.body["hearings"][0]["sounds"]), (&json!(0), &json!([])));
        let scores: Vec<Value> = envelopes.iter().map(|e| json!([taste(e["name"].as_str().unwrap()), 5])).collect();
        let given =
            client.put(&format!("/api/listen/{code}/hearings/0"), &json!({"key": own, "slip": {"scores": scores}}));
        assert_eq!(given.status, 204, "{}", given.text);
    }
    let ended = client.post(&format!("/api/listening/{}/end", begun.body["id"].as_str().unwrap()), &json!({}));
    let deep = &ended.body["outcome"]["scales"][0];
    assert_eq!(deep["told"]["means"], json!([3.0, 8.0, 5.0]));
    assert!(ended.body["outcome"]["warnings"].to_string().contains("same order"));
    assert_eq!(client.get(&helper).status, 409);
}

fn what_does_not_fit(client: &Client, build: &str) {
    let all = format!("/api/builds/{build}/listening");
    let with = |pointer: &str, value: Value| {
        let mut session = abx(10);
        *session.pointer_mut(pointer).unwrap() = value;
        client.post(&all, &json!({"session": session}))
    };
    for (pointer, value, at) in [
        ("/title", json!(""), "/session/title"),
        ("/test/trials", json!(0), "/session/test/trials"),
        ("/candidates/1/name", json!("flat"), "/session/candidates/1/name"),
        ("/candidates/1/revision", json!("Q"), "/session/candidates/1/revision"),
        ("/pieces/0/id", json!("hit"), "/session/pieces/0/id"),
        ("/matched/levels_db", json!([1, 2, 3]), "/session/matched"),
        ("/switching", json!("nobody"), "/session/switching"),
        ("/level_db", json!(200), "/session/level_db"),
    ] {
        let refused = with(pointer, value);
        assert_eq!((refused.status, &refused.body["errors"][0]["pointer"]), (422, &json!(at)), "{}", refused.text);
    }
    // the program can switch filters alone, and something must be switched
    let other = client.post(&format!("/api/builds/{build}/revisions"), &json!({"document": design(80.0, None)}));
    assert_eq!(other.status, 201);
    for letter in ["A", "C"] {
        let refused = with("/candidates/1/revision", json!(letter));
        assert_eq!(refused.body["errors"][0]["pointer"], "/session/switching", "{}", refused.text);
    }
    assert_eq!(client.get("/api/listen/ZZZZZZ").status, 404);
    assert_eq!(client.post("/api/listen/ZZZZZZ/listeners", &json!({"name": "Ida"})).status, 404);
    let nobody = "/api/builds/018f0000-0000-7000-8000-00000000000f/listening";
    assert_eq!(client.post(nobody, &json!({"session": abx(4)})).status, 404);
}

/// Levels by what was measured, at the volts it was measured with, and by a microphone.
fn microphone_and_measurements(client: &Client) {
    let made = client.post("/api/builds", &json!({"name": "Loud", "document": design(60.0, None)}));
    let build = made.body["id"].as_str().unwrap().to_owned();
    let taken = |document: Value, taken: Value, volts: f64| {
        let wish = json!({"taken": taken, "volts": volts});
        let body = json!({"document": document, "wish": wish, "name": "In front"});
        let kept = client.post(&format!("/api/builds/{build}/measurements/bench"), &body);
        assert_eq!(kept.status, 201, "{}", kept.text);
        kept.body["id"].clone()
    };
    let front = || json!({"kind": "in_front", "distance_m": 1});
    let (one, twice) = (taken(design(60.0, None), front(), 1.0), taken(design(60.0, None), front(), 2.0));
    let small = taken(design(25.0, None), front(), 1.0);
    let ask = |list: &[&Value]| client.post("/api/listening/match/measured", &json!({"measurements": list}));
    // the same box at twice the volts is the same box
    let same = ask(&[&one, &twice]);
    assert_eq!(same.status, 200, "{}", same.text);
    assert!(same.body["apart_db"].as_f64().unwrap() < 0.2, "{}", same.text);
    let other = ask(&[&one, &small]);
    let (levels, trims) = (&other.body["levels_db"], &other.body["trims_db"]);
    let at = |list: &Value, i: usize| list[i].as_f64().unwrap();
    assert!((at(levels, 0) + at(trims, 0) - at(levels, 1) - at(trims, 1)).abs() < 1e-9, "{}", other.text);
    assert!(at(trims, 0) <= 0.0 && at(trims, 1) <= 0.0 && other.body["apart_db"].as_f64().unwrap() > 0.2);
    let says = |answer: &crate::client::Answer, at: &str| {
        assert_eq!((answer.status, answer.body["errors"][0]["pointer"].as_str()), (422, Some(at)), "{}", answer.text);
    };
    says(&ask(&[&one]), "/measurements");
    let ohms = taken(design(60.0, None), json!({"kind": "in_box"}), 1.0);
    says(&ask(&[&one, &ohms]), "/measurements/1");
    let cone = taken(design(60.0, None), json!({"kind": "near_cone"}), 1.0);
    says(&ask(&[&one, &cone]), "/measurements/1");
    assert_eq!(ask(&[&one, &json!("00000000-0000-7000-8000-000000000000")]).status, 404);

    // a microphone hears a tone of a tenth of full scale after a second of hardly anything
    let rate = 48_000.0;
    let tone = |i: usize| {
        let t = i as f64 / rate;
        if t < 1.0 { 1e-4 * (t * 400.0).sin() } else { 0.1 * (std::f64::consts::TAU * 60.0 * t).sin() }
    };
    let heard = Recording { rate, channels: vec![(0..(6.0 * rate) as usize).map(tone).collect()] };
    let file = wav::write(&heard, Depth::Bits24).unwrap();
    let read = client.sent("/api/listening/level?quiet_s=1", &file, "audio/wav");
    assert_eq!(read.status, 200, "{}", read.text);
    let level = read.body["level_db"].as_f64().unwrap();
    assert!((level - 20.0 * (0.1 / 2f64.sqrt()).log10()).abs() < 0.05 && read.body["doubt"] == "", "{}", read.text);
    assert!(read.body["over_quiet_db"].as_f64().unwrap() > 40.0);
    says(&client.sent("/api/listening/level?from_hz=90&to_hz=40", &file, "audio/wav"), "/to_hz");
    assert_eq!(client.sent("/api/listening/level", b"no recording", "audio/wav").status, 422);
}

fn levels_and_programme(client: &Client) {
    let matched =
        client.post("/api/listening/match", &json!({"documents": [design(60.0, None), design(60.0, Some(6.0))]}));
    assert_eq!(matched.status, 200, "{}", matched.text);
    let trims = matched.body["trims_db"].as_array().unwrap();
    assert!(trims[0].as_f64() == Some(0.0) && trims[1].as_f64().unwrap() < -1.0, "{}", matched.text);
    // turned so, they are level
    let level = |i: usize| matched.body["levels_db"][i].as_f64().unwrap() + trims[i].as_f64().unwrap();
    assert!((level(0) - level(1)).abs() < 1e-9);
    let one = client.post("/api/listening/match", &json!({"documents": [design(60.0, None)]}));
    assert_eq!(one.body["errors"][0]["pointer"], "/documents");
    let wide = json!({"documents": [design(60.0, None), design(50.0, None)], "band_hz": [900, 20]});
    assert_eq!(client.post("/api/listening/match", &wide).body["errors"][0]["pointer"], "/band_hz");

    microphone_and_measurements(client);

    let asked = client.post("/api/listening/question", &json!({"kind": "trials", "method": "abx", "share": 0.7}));
    assert_eq!(asked.body["needed"]["first"], 37, "{}", asked.text);
    let wrong = json!({"kind": "difference", "method": "abx", "right": 9, "trials": 4});
    assert_eq!(client.post("/api/listening/question", &wrong).body["errors"][0]["pointer"], "/right");

    let programme = client.get("/api/programme").body;
    assert!((programme["hours_from_70_db"][15].as_f64().unwrap() - 8.0).abs() < 1e-9);
    for piece in programme["pieces"].as_array().unwrap() {
        let wav = client.get(&format!("/api/programme/{}", piece["id"].as_str().unwrap()));
        assert_eq!((wav.status, wav.kind.as_str(), &wav.bytes[..4]), (200, "audio/wav", &b"RIFF"[..]));
        let seconds = (wav.bytes.len() - 44) as f64 / 3.0 / 48_000.0;
        assert!((seconds - piece["seconds"].as_f64().unwrap()).abs() < 0.01, "{piece}: {seconds}");
    }
    assert_eq!(client.get("/api/programme/hit").status, 404);
}

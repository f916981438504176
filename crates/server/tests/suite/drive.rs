//! The electrical side over HTTP: files that leave the door, and bad input named at its field.

use crate::client::{Answer, Client};
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;

fn design() -> Value {
    json!({
        "format": "oak-drum-design", "version": oak_drum_document::VERSION, "name": "Test",
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "xmax_mm": 10},
        "enclosure": {"family": "sealed", "net_volume_l": 60},
        "chain": {
            "filters": [
                {"stage": "line", "filter": {"kind": "high_pass", "frequency_hz": 25,
                                             "slope": {"shape": "butterworth", "order": 4}}},
                {"stage": "amplifier", "filter": {"kind": "band", "frequency_hz": 40, "level_db": -3, "q": 1.4}},
                {"stage": "line", "filter": {"kind": "delay", "delay_ms": 5}},
            ],
            "amplifier": {"name": "Plate", "power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4},
        },
    })
}

fn with(pointer: &str, value: Value) -> Value {
    let mut document = design();
    let mut here = &mut document;
    for key in pointer.split('/').skip(1) {
        here = match key.parse::<usize>() {
            Ok(index) if here.is_array() => &mut here[index],
            _ => &mut here[key],
        };
    }
    *here = value;
    document
}

/// What an answer says is wrong, and where.
fn refused(answer: &Answer, pointer: &str, words: &str) {
    assert_eq!(answer.status, 422, "{}", answer.text);
    let errors = answer.body["errors"].as_array().unwrap();
    let at = errors.iter().find(|e| e["pointer"] == pointer).unwrap_or_else(|| panic!("{pointer}: {}", answer.text));
    assert!(at["message"].to_string().contains(words), "{pointer}: {} without {words}", at["message"]);
}

#[test]
fn the_electrical_side_over_http() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let binary = Path::new(env!("CARGO_BIN_EXE_oak-drum-server"));
    let server = Server::start(binary, &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();

    saves_biquads_in_every_format(&client);
    saves_the_settings_card(&client);
    names_what_is_wrong_at_its_field(&client);
    leaves_the_low_cut_out_where_it_is_not_asked_for(&client);
    keeps_amplifiers(&client);
}

fn saves_biquads_in_every_format(client: &Client) {
    let ask = |query: &str| client.post(&format!("/api/drive/biquads?{query}"), &design());
    let made = ask("rate=48000&format=json");
    assert_eq!((made.status, made.body["format"].as_str()), (200, Some("oak-drum-biquads")));
    let of = |answer: &Answer| answer.body["sections"].as_array().unwrap().len();
    // two sections of the fourth-order pass; the amplifier's band only where it is asked for
    assert_eq!((of(&made), of(&ask("rate=48000&format=json&amplifier=true"))), (2, 3));
    assert_eq!(made.body["delay_samples"], 240.0);
    let csv = ask("rate=96000&format=csv");
    assert!(csv.kind.starts_with("text/csv") && csv.text.starts_with("# 96000 Hz"), "{}", csv.text);
    let text = ask("rate=44100&format=text&added=true");
    assert!(text.kind.starts_with("text/plain") && text.text.contains("signs turned"));
    let wav = ask("rate=48000&format=wav");
    assert_eq!((wav.kind.as_str(), &wav.text[..4]), ("audio/wav", "RIFF"));
    refused(&ask("rate=32000&format=json"), "/rate", "96000");
    // a rate that is no number, and a format there is not, are refused too
    assert_eq!(ask("rate=fast&format=json").status, 422);
    assert_eq!(ask("rate=48000&format=mp3").status, 422);
}

fn saves_the_settings_card(client: &Client) {
    for query in ["", "?paper=letter&system=inch"] {
        let card = client.post(&format!("/api/drive/card{query}"), &design());
        assert_eq!((card.status, card.kind.as_str()), (200, "application/pdf"));
        assert!(card.text.starts_with("%PDF-"));
    }
}

fn names_what_is_wrong_at_its_field(client: &Client) {
    let evaluate = |document: Value| client.post("/api/evaluate", &document);
    let filter = |f: Value| evaluate(with("/chain/filters/1/filter", f));
    refused(
        &filter(json!({"kind": "band", "frequency_hz": 40, "level_db": -3, "q": 0})),
        "/chain/filters/1/filter/q",
        "0.1",
    );
    refused(
        &filter(json!({"kind": "band", "frequency_hz": 40, "level_db": 40, "q": 1})),
        "/chain/filters/1/filter/level_db",
        "24",
    );
    refused(
        &filter(json!({"kind": "low_pass", "frequency_hz": 80, "slope": {"shape": "linkwitz_riley", "order": 3}})),
        "/chain/filters/1/filter/slope/order",
        "2, 4 or 8",
    );
    refused(&filter(json!({"kind": "echo", "delay_ms": 3})), "/chain/filters/1/filter/kind", "delay");
    let many: Vec<Value> = (0..10_000).map(|_| json!({"filter": {"kind": "polarity"}})).collect();
    refused(&evaluate(with("/chain/filters", json!(many))), "/chain/filters", "20");
    refused(
        &evaluate(with("/chain/amplifier", json!({"power_w": 300, "minimum_load_ohm": 4}))),
        "/chain/amplifier/load_ohm",
        "missing",
    );
    let part = |part: Value| evaluate(with("/chain/parts", json!([{"placement": "in_line", "part": part}])));
    let coil = json!({"kind": "coil", "inductance_mh": 0});
    refused(&part(coil), "/chain/parts/0/part/inductance_mh", "0.01");
    let capacitor = json!({"kind": "capacitor", "capacitance_uf": 0});
    refused(&part(capacitor), "/chain/parts/0/part/capacitance_uf", "0.1");
    let range =
        json!({"bands": 1, "from_hz": 80, "to_hz": 18, "from_q": 0.5, "to_q": 8, "lowest_db": -12, "highest_db": 6});
    refused(&evaluate(with("/chain/amplifier/equaliser", range)), "/chain/amplifier/equaliser/to_hz", "80");

    let flatten = |wish: Value| client.post("/api/drive/flatten", &json!({"document": design(), "flatten": wish}));
    let wish = |bands: u32, from: f64, to: f64, stage: &str| json!({"bands": bands, "from_hz": from, "to_hz": to, "target": {"kind": "flat"}, "stage": stage});
    refused(&flatten(wish(1, 100.0, 50.0, "line")), "/flatten/to_hz", "120");
    refused(&flatten(wish(1, 25.0, 120.0, "amplifier")), "/flatten/stage", "no equaliser");
    refused(&flatten(wish(40, 25.0, 120.0, "line")), "/flatten/bands", "12");
    let pad = json!({"document": design(), "parts": {"kind": "pad", "softer_db": -6}});
    refused(&client.post("/api/drive/parts", &pad), "/parts/softer_db", "0.1");
    let flat = json!({"document": design(), "parts": {"kind": "trap", "peak_hz": 700}});
    refused(&client.post("/api/drive/parts", &flat), "/parts/peak_hz", "no peak");
    let drive = evaluate(with("/drive", json!({"kind": "loudest"})));
    assert_eq!(drive.status, 200, "{}", drive.text);
}

fn leaves_the_low_cut_out_where_it_is_not_asked_for(client: &Client) {
    let whole = client.post("/api/drive", &design());
    let alone = client.post("/api/drive?without_low_cut=true", &design());
    assert!(whole.body["low_cut"]["choices"].is_array() && alone.body.get("low_cut").is_none());
    assert_eq!(whole.body["filters"], alone.body["filters"]);
}

/// Amplifiers over HTTP: one is put on the shelf, bad ones are refused at their fields, a stale save is told what stands, a file goes
/// out and comes in again; one that is taken off can be put back.
fn keeps_amplifiers(client: &Client) {
    let shelf = || client.get("/api/amplifiers").body.as_array().unwrap().len();
    let before = shelf();
    let document = |more: Value| {
        let mut sheet =
            json!({"name": "Plate", "maker": "Nobody", "power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4});
        sheet.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        json!({"format": "oak-drum-amplifier", "version": 1, "amplifier": sheet})
    };
    let made = client.post("/api/amplifiers", &json!({"document": document(json!({}))}));
    assert_eq!((made.status, shelf()), (201, before + 1));
    let nameless = client.post("/api/amplifiers", &json!({"document": document(json!({"name": " "}))}));
    refused(&nameless, "/amplifier/name", "name");
    let turned = json!({"low_cut": {"from_hz": 30, "to_hz": 20, "slopes": [{"shape": "butterworth", "order": 2}]}});
    refused(&client.post("/api/amplifiers", &json!({"document": document(turned)})), "/amplifier/low_cut/to_hz", "30");
    let no_load = client.post("/api/amplifiers", &json!({"document": document(json!({"load_ohm": 0}))}));
    refused(&no_load, "/amplifier/load_ohm", "0.5");
    let path = format!("/api/amplifiers/{}", made.body["id"].as_str().unwrap());
    let save = |base: i32, watts: i32| {
        client.put(&path, &json!({"base_version": base, "document": document(json!({"power_w": watts}))}))
    };
    assert_eq!(save(1, 400).body["version"], 2);
    let stale = save(1, 500);
    assert_eq!((stale.status, &stale.body["current"]["amplifier"]["power_w"]), (409, &json!(400.0)));
    let file = client.get("/api/amplifiers/export").text;
    assert_eq!(Client::answer(client.agent.delete(format!("{}{path}", client.base)).call()).status, 204);
    assert_eq!(shelf(), before);
    let taken = client.raw("POST", "/api/amplifiers/import", &file, "application/json").body;
    assert_eq!((&taken["added"], &taken["left_out"]), (&json!(1), &json!(before)));
    assert_eq!(client.post(&format!("{path}/restore"), &json!({})).status, 204);
    assert_eq!(shelf(), before + 2);
    let bad = file.replace("\"minimum_load_ohm\": 4.0", "\"minimum_load_ohm\": 0");
    let refused_whole = client.raw("POST", "/api/amplifiers/import", &bad, "application/json");
    assert_eq!((refused_whole.status, shelf()), (422, before + 2));
    assert!(refused_whole.body["errors"][0]["pointer"].as_str().unwrap().starts_with("/amplifiers/"));
    for (text, words) in [("", "empty"), ("{\"format\"", "JSON"), ("{\"format\": \"other\"}", "oak-drum-amplifiers")] {
        let refused = client.raw("POST", "/api/amplifiers/import", text, "application/json");
        assert!(refused.status == 422 && refused.body["detail"].as_str().unwrap().contains(words), "{}", refused.text);
    }
    let many = vec![json!({"power_w": 1, "load_ohm": 8, "minimum_load_ohm": 4}); 501];
    refused(
        &client.post("/api/drive/amplifiers", &json!({"document": design(), "amplifiers": many})),
        "/amplifiers",
        "500",
    );
    let bad = json!([{"power_w": 1, "load_ohm": 8, "minimum_load_ohm": 4}, {"power_w": 1, "load_ohm": 8}]);
    let answer = client.post("/api/drive/amplifiers", &json!({"document": design(), "amplifiers": bad}));
    refused(&answer, "/amplifiers/1/minimum_load_ohm", "missing");
}

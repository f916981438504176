//! The HTTP interface against a real server program and a real PostgreSQL: what it answers, what it refuses, what
//! survives. One cluster and one server for all of it.

use crate::client::Client;
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;
use std::time::Duration;
use ureq::Agent;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

fn design(litres: f64) -> Value {
    json!({
        "format": "oak-drum-design", "version": 5,
        "woofer": {"name": "Test 12", "fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
        "enclosure": {"family": "sealed", "net_volume_l": litres},
    })
}

/// The same in a cabinet so wide.
fn boxed(width: f64) -> Value {
    let mut made = design(50.0);
    made["cabinet"] = json!({"width_mm": width, "height_mm": 500, "depth_mm": 400, "panel_mm": 18, "baffle_mm": 18});
    made
}

fn start(cluster: &Cluster, listen: &str) -> Server {
    Server::start(Path::new(BINARY), &["--database", &cluster.url, "--listen", listen, "--demo"]).unwrap()
}

#[test]
fn the_interface() {
    let cluster = Cluster::start(true).unwrap();
    let mut server = start(&cluster, "127.0.0.1:0");
    let client = Client::new(&server.address);
    client.wait_until_ready();

    serves_its_documents_and_headers(&client);
    refuses_foreign_names(&client);
    refuses_bad_input_with_words(&client);
    large_answers_stay_small(&client);
    two_writers_lose_nothing(&client);
    let saved = saves(&client);
    survives_kill_nine(&cluster, &mut server, &saved);
    let client = Client::new(&server.address);
    survives_the_database_going_away(&cluster, &client, &saved);
    let took = server.terminate().unwrap();
    assert!(took < Duration::from_secs(11), "a graceful end took {took:?}");
}

fn serves_its_documents_and_headers(client: &Client) {
    assert_eq!(client.get("/api/health/live").status, 204);
    assert_eq!(client.get("/api/openapi.json").body, oak_drum_server::openapi::document());
    assert_eq!(client.get("/api/schema/design").body, oak_drum_document::schema::design());
    assert_eq!(client.get("/api/families").body.as_array().unwrap().len(), 11);
    assert_eq!(client.get("/api/builds").body.as_array().unwrap().len(), 8);
    assert!(client.get("/api/woofers").body.as_array().unwrap().len() >= 16);
    let response = client.agent.get(format!("{}/api/builds", client.base)).call().unwrap();
    let policy = response.headers()["content-security-policy"].to_str().unwrap();
    assert!(policy.contains("script-src 'self'") && !policy.contains("unsafe-eval"));
    assert!(!policy.split(';').any(|p| p.contains("script-src") && p.contains("unsafe-inline")));
}

fn refuses_foreign_names(client: &Client) {
    let host = client.get_as("/api/builds", "host", "workshop.example");
    assert_eq!((host.status, host.kind.as_str()), (421, "application/problem+json"));
    let origin = client.get_as("/api/builds", "origin", "http://elsewhere.example");
    assert_eq!((origin.status, origin.kind.as_str()), (403, "application/problem+json"));
    assert_eq!(client.get_as("/api/builds", "origin", &client.base).status, 200);
}

fn refuses_bad_input_with_words(client: &Client) {
    let json = "application/json";
    let nobody = "00000000-0000-7000-8000-000000000000";
    let mut hertz = design(50.0);
    hertz["frequencies_hz"] = json!(vec![50; 30_000]);
    let mut tiny = design(0.001);
    tiny["woofer"]["sd_cm2"] = json!(0.07);
    tiny["woofer"]["qts"] = json!(40);
    let huge = format!("{{\"format\": \"{}\"}}", "x".repeat(50 << 20));
    for (method, path, body, kind, status, pointer) in [
        ("POST", "/api/evaluate", "{".to_owned(), json, 400, ""),
        ("POST", "/api/evaluate", "NaN".to_owned(), json, 400, ""),
        ("POST", "/api/evaluate", "[]".to_owned(), json, 422, ""),
        ("POST", "/api/evaluate", "{}".to_owned(), json, 422, "/format"),
        ("POST", "/api/evaluate", design(50.0).to_string(), "text/plain", 415, ""),
        ("POST", "/api/evaluate", design(-1.0).to_string(), json, 422, "/enclosure/net_volume_l"),
        ("POST", "/api/evaluate", tiny.to_string(), json, 422, "/woofer/sd_cm2"),
        ("POST", "/api/evaluate", hertz.to_string(), json, 422, "/frequencies_hz"),
        ("POST", "/api/evaluate", huge, json, 413, ""),
        ("POST", "/api/cabinet", design(50.0).to_string(), json, 422, "/cabinet"),
        ("POST", "/api/building", json!({"document": design(50.0)}).to_string(), json, 422, "/cabinet"),
        ("POST", "/api/building", json!({"document": boxed(350.0), "work": {"prices": {"sheet": -1}}}).to_string(), json, 422, "/work/prices/sheet"),
        ("POST", "/api/findings", json!({"document": design(50.0), "werk": {}}).to_string(), json, 400, ""),
        ("PUT", &format!("/api/revisions/{nobody}/work"), json!({"base_version": 0, "work": {}}).to_string(), json, 404, ""),
        ("PUT", &format!("/api/revisions/{nobody}/work"), json!({"base_version": 0, "work": {"steps": [{"step": ""}]}}).to_string(), json, 422, "/work/steps/0/step"),
        ("POST", "/api/cutting?cabinets=0", boxed(350.0).to_string(), json, 422, "/cabinets"),
        ("POST", "/api/cutting", boxed(-350.0).to_string(), json, 422, "/cabinet/width_mm"),
        ("POST", "/api/drawings/file?drawing=nothing&format=svg", json!({"document": boxed(350.0)}).to_string(), json, 422, "/drawing"),
        ("POST", "/api/drawings/file?drawing=front&format=dwg", json!({"document": boxed(350.0)}).to_string(), json, 422, ""),
        ("POST", "/api/suggest", "{\"format\":\"oak-drum-design\",\"version\":2}".to_owned(), json, 422, "/woofer"),
        ("POST", "/api/builds", json!({"name": "", "document": design(50.0)}).to_string(), json, 422, "/name"),
        ("POST", "/api/builds", json!({"name": "a\0b", "document": design(50.0)}).to_string(), json, 422, "/name"),
        ("POST", "/api/builds", json!({"nome": "x"}).to_string(), json, 400, ""),
        ("POST", &format!("/api/builds/{nobody}/revisions"), json!({"document": design(9.0)}).to_string(), json, 404, ""),
        ("PUT", &format!("/api/revisions/{nobody}"), json!({"base_version": 1, "document": design(9.0)}).to_string(), json, 404, ""),
        ("PUT", "/api/revisions/not-an-id", json!({"base_version": 1, "document": design(9.0)}).to_string(), json, 404, ""),
        ("PATCH", &format!("/api/builds/{nobody}"), json!({"name": "x"}).to_string(), json, 404, ""),
        ("POST", "/api/woofers", json!({"document": {"format": "oak-drum-woofer", "version": 1, "woofer": {"name": "A"}, "sets": [{"provenance": "data_sheet", "figures": {}}]}}).to_string(), json, 422, "/sets/0/figures/fs_hz"),
        ("POST", "/api/woofers/keep", json!({"document": {"format": "oak-drum-design", "version": 5, "woofer": {}, "enclosure": {"family": "sealed", "net_volume_l": 9}}}).to_string(), json, 422, "/woofer/fs_hz"),
        ("POST", "/api/woofers/derive", json!({"sheet": {"fs": 3}}).to_string(), json, 422, "/sheet"),
        ("POST", "/api/woofers/in-box", json!({"document": design(50.0), "sheets": [{"fs_hz": 30}, {"fs": 3}]}).to_string(), json, 422, "/sheets/1"),
        ("PUT", &format!("/api/woofers/{nobody}/favourite"), json!({"favourite": true}).to_string(), json, 404, ""),
        ("POST", &format!("/api/builds/{nobody}/trial"), json!({"goal": {"lowest_note_hz": 30, "level_db": 300, "distance_m": 1, "largest_outside_l": 90}, "counts": [1], "families": ["sealed"]}).to_string(), json, 422, "/goal/level_db"),
        ("POST", &format!("/api/builds/{nobody}/trial"), json!({"goal": {"lowest_note_hz": 30, "level_db": 100, "distance_m": 1, "largest_outside_l": 90}, "counts": [0], "families": ["sealed"]}).to_string(), json, 422, "/counts"),
        ("POST", &format!("/api/builds/{nobody}/trial"), json!({"goal": {"lowest_note_hz": 30, "level_db": 100, "distance_m": 1, "largest_outside_l": 90}, "counts": [1], "families": ["pyramid"]}).to_string(), json, 422, "/families"),
        ("POST", &format!("/api/builds/{nobody}/trial"), json!({"goal": {"lowest_note_hz": 30, "level_db": 100, "distance_m": 1, "largest_outside_l": 90}, "counts": [1], "families": ["sealed"]}).to_string(), json, 404, ""),
        ("POST", "/api/nowhere", "{}".to_owned(), json, 404, ""),
    ] {
        let answer = client.raw(method, path, &body, kind);
        let shown = body.chars().take(60).collect::<String>();
        assert_eq!(answer.status, status, "{method} {path} {shown}: {}", answer.body);
        assert_eq!(answer.kind, "application/problem+json", "{method} {path} {shown}");
        assert!(!answer.body["detail"].as_str().unwrap().is_empty());
        let pointers: Vec<&str> =
            answer.body["errors"].as_array().into_iter().flatten().filter_map(|e| e["pointer"].as_str()).collect();
        assert!(pointer.is_empty() || pointers.contains(&pointer), "{method} {path} {shown}: {}", answer.body);
    }
    assert_eq!(client.get(&format!("/api/builds/{nobody}")).status, 404);
    assert_eq!(client.get("/api/builds/..%2F..%2Fetc").status, 404);
    assert_eq!(client.get("/assets/../../Cargo.toml").status, 404);
}

/// An evaluation of 512 frequencies stays within 64 kB compressed.
fn large_answers_stay_small(client: &Client) {
    let id = client.get("/api/builds").body[0]["id"].as_str().unwrap().to_owned();
    let mut document = client.get(&format!("/api/builds/{id}")).body["revisions"][0]["document"].clone();
    document["frequencies_hz"] = (0..512).map(|i| json!(10.0 * 100f64.powf(f64::from(i) / 511.0))).collect();
    let config = Agent::config_builder().build();
    let mut response = config
        .new_agent()
        .post(format!("{}/api/evaluate", client.base))
        .header("content-type", "application/json")
        .header("accept-encoding", "gzip")
        .send(document.to_string())
        .unwrap();
    assert_eq!(response.headers()["content-encoding"], "gzip");
    let bytes = response.body_mut().read_to_vec().unwrap();
    assert!(bytes.starts_with(&[0x1f, 0x8b]), "not gzip");
    println!("evaluation of 512 frequencies, compressed: {} bytes", bytes.len());
    assert!(bytes.len() <= 64_000, "{} bytes", bytes.len());
}

/// Eight writers save from the same version at once: one wins, seven are told, and none is answered otherwise.
fn two_writers_lose_nothing(client: &Client) {
    let made = client.post("/api/builds", &json!({"name": "Two writers", "document": design(40.0)}));
    assert_eq!(made.status, 201);
    let id = made.body["revisions"][0]["id"].as_str().unwrap().to_owned();
    let statuses: Vec<(u16, Value)> = std::thread::scope(|scope| {
        let writers: Vec<_> = (0..8)
            .map(|i| {
                let (client, id) = (&client, &id);
                scope.spawn(move || {
                    let body = json!({"base_version": 1, "document": design(50.0 + f64::from(i))});
                    let answer = client.put(&format!("/api/revisions/{id}"), &body);
                    (answer.status, answer.body)
                })
            })
            .collect();
        writers.into_iter().map(|w| w.join().unwrap()).collect()
    });
    let won: Vec<_> = statuses.iter().filter(|s| s.0 == 200).collect();
    assert_eq!(won.len(), 1);
    for (status, body) in statuses.iter().filter(|s| s.0 != 200) {
        assert_eq!(*status, 409);
        assert_eq!((&body["version"], &body["current"]), (&json!(2), &won[0].1["document"]));
    }
}

struct Saved {
    build: String,
    document: Value,
}

fn saves(client: &Client) -> Saved {
    let made = client.post("/api/builds", &json!({"name": "Kept", "document": design(60.0)})).body;
    let id = made["revisions"][0]["id"].as_str().unwrap();
    let saved = client.put(&format!("/api/revisions/{id}"), &json!({"base_version": 1, "document": design(66.0)}));
    assert_eq!(saved.status, 200);
    let history = client.get(&format!("/api/revisions/{id}/history")).body;
    assert_eq!(history.as_array().unwrap().len(), 2);
    Saved { build: made["id"].as_str().unwrap().to_owned(), document: saved.body["document"].clone() }
}

fn survives_kill_nine(cluster: &Cluster, server: &mut Server, saved: &Saved) {
    server.kill().unwrap();
    *server = start(cluster, "127.0.0.1:0");
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let after = client.get(&format!("/api/builds/{}", saved.build));
    assert_eq!(after.body["revisions"][0]["document"], saved.document);
    assert_eq!(client.get("/api/builds").body.as_array().unwrap().len(), 10, "the demo is not loaded twice");
}

fn survives_the_database_going_away(cluster: &Cluster, client: &Client, saved: &Saved) {
    cluster.stop().unwrap();
    let away = client.get(&format!("/api/builds/{}", saved.build));
    assert_eq!((away.status, away.kind.as_str()), (503, "application/problem+json"));
    assert_eq!(client.get("/api/health/ready").status, 503);
    assert_eq!(client.get("/api/health/live").status, 204);
    assert_eq!(client.post("/api/evaluate", &design(50.0)).status, 200, "evaluation needs no store");
    cluster.start_again().unwrap();
    client.wait_until_ready();
    let after = client.get(&format!("/api/builds/{}", saved.build));
    assert_eq!(after.body["revisions"][0]["document"], saved.document);
}

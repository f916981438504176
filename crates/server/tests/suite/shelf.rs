//! Files of woofers and trials over HTTP: what is taken in whole or not at all, what two servers share, what a killed
//! one leaves to the other.

use crate::client::Client;
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::io::{Read, Write};
use std::path::Path;
use std::time::{Duration, Instant};

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");
const HEADER: &str = "name,maker,fs_hz,qms,qes,vas_l,re_ohm,sd_cm2,xmax_mm,power_w\n";

fn start(cluster: &Cluster) -> (Server, Client) {
    let server =
        Server::start(Path::new(BINARY), &["--database", &cluster.url, "--listen", "127.0.0.1:0", "--demo"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    (server, client)
}

fn rows(count: usize) -> String {
    let row = |i: usize| format!("File {i},Nobody,{},5,0.4,{},5.6,530,9,250\n", 24 + i % 20, 60 + i % 90);
    HEADER.to_owned() + &(0..count).map(row).collect::<String>()
}

#[test]
fn the_shelf_over_http() {
    let cluster = Cluster::start(true).unwrap();
    let (mut server, client) = start(&cluster);
    let shelf = || client.get("/api/woofers").body.as_array().unwrap().len();
    let before = shelf();
    a_preview_stores_nothing(&client);
    bad_files_are_refused(&client);
    too_large_is_said_at_once(&server.address);
    assert_eq!(shelf(), before);
    five_thousand_rows(&client);
    assert_eq!(shelf(), before + 5000);
    what_is_exported_reads_back(&client);
    a_trial_outlives_its_server(&cluster, &client, &mut server);
}

fn a_preview_stores_nothing(client: &Client) {
    let text = format!(
        "{HEADER}Good,Nobody,30,5,0.4,100,5.6,530,9,250\nBad,Nobody,30,5,0.4,0,5.6,530,9,250\nMarl 12-D,Brackwater,22,5,0.4,100,5.6,530,9,250\n"
    );
    let preview = client.raw("POST", "/api/woofers/preview?format=csv", &text, "text/csv").body;
    assert_eq!((&preview["good"], &preview["bad"], &preview["known"]), (&json!(2), &json!(1), &json!(1)));
    assert_eq!(preview["problems"][0]["line"], 3);
    assert_eq!(preview["problems"][0]["problems"][0]["column"], "vas_l");
    assert_eq!(preview["columns"].as_array().unwrap().len(), 10);
    // a file with bad rows is refused whole, unless they are to be left out
    let refused = client.raw("POST", "/api/woofers/import?format=csv", &text, "text/csv");
    assert_eq!((refused.status, refused.body["type"].as_str()), (422, Some("urn:oak-drum:problem:bad-rows")));
}

fn bad_files_are_refused(client: &Client) {
    for (path, text, words) in [
        ("preview?format=csv", "", "empty"),
        ("preview?format=csv", "fs_hz\n30\n", "names"),
        ("import?format=csv", "name,fs_hz\n\"cut", "never closed"),
        ("import?format=json", "{\"format\": \"oak-drum-shelf\", \"version\": 1, \"woof", "cut off"),
    ] {
        let answer = client.raw("POST", &format!("/api/woofers/{path}"), text, "text/plain");
        assert_eq!((answer.status, answer.kind.as_str()), (422, "application/problem+json"), "{text}");
        assert!(answer.body["detail"].as_str().unwrap().contains(words), "{}", answer.body);
    }
    assert_eq!(client.raw("POST", "/api/woofers/preview?format=xml", "x", "text/plain").status, 422);
}

/// A file of 200 MB is refused when its size is announced, not when it has been sent.
fn too_large_is_said_at_once(address: &str) {
    let mut stream = std::net::TcpStream::connect(address.trim_start_matches("http://")).unwrap();
    stream.set_read_timeout(Some(Duration::from_secs(10))).unwrap();
    let head = format!(
        "POST /api/woofers/preview?format=csv HTTP/1.1\r\nhost: {}\r\ncontent-type: text/csv\r\ncontent-length: 209715200\r\n\r\nname,fs_hz\n",
        address.trim_start_matches("http://")
    );
    stream.write_all(head.as_bytes()).unwrap();
    let mut answer = vec![0; 4096];
    let count = stream.read(&mut answer).unwrap();
    let text = String::from_utf8_lossy(&answer[..count]);
    assert!(text.starts_with("HTTP/1.1 413") && text.contains("larger than 48 MB"), "{text}");
}

/// Five thousand rows with progress line by line; how long they took is printed, not asserted.
fn five_thousand_rows(client: &Client) {
    let text = rows(5000);
    let begin = Instant::now();
    let answer = client.raw("POST", "/api/woofers/import?format=csv", &text, "text/csv");
    println!("5 000 rows imported in {:.2} s", begin.elapsed().as_secs_f64());
    let steps: Vec<Value> = answer.text.lines().map(|l| serde_json::from_str(l).unwrap()).collect();
    assert_eq!(steps[0], json!({"kind": "progress", "done": 250, "of": 5000}));
    assert_eq!(steps.len(), 21);
    assert_eq!(steps[20], json!({"kind": "done", "added": 5000, "extended": 0, "left_out": 0}));
    let again = client.raw("POST", "/api/woofers/import?format=csv", &rows(3), "text/csv");
    assert!(again.text.ends_with("{\"kind\":\"done\",\"added\":0,\"extended\":0,\"left_out\":3}\n"), "{}", again.text);
}

fn what_is_exported_reads_back(client: &Client) {
    let list = client.get("/api/woofers").body;
    let ids: Vec<&str> = list.as_array().unwrap().iter().take(5).map(|l| l["id"].as_str().unwrap()).collect();
    let csv = client.get(&format!("/api/shelf/export?format=csv&ids={}", ids.join(",")));
    assert!(csv.kind.starts_with("text/csv"));
    let preview = client.raw("POST", "/api/woofers/preview?format=csv", &csv.text, "text/csv").body;
    assert_eq!((&preview["good"], &preview["bad"], &preview["known"]), (&json!(5), &json!(0), &json!(5)));
    let json = client.get("/api/shelf/export?format=json");
    assert_eq!(json.body["woofers"].as_array().unwrap().len(), list.as_array().unwrap().len());
    assert_eq!(client.get("/api/shelf/export?format=csv&ids=nonsense").status, 422);
}

/// Two servers share a trial's parts; one is killed in the midst and the other brings it to its end.
fn a_trial_outlives_its_server(cluster: &Cluster, client: &Client, server: &mut Server) {
    let build = client.get("/api/builds").body[0]["id"].as_str().unwrap().to_owned();
    assert_eq!(client.get(&format!("/api/builds/{build}/trial")).body, Value::Null);
    let list = client.get("/api/woofers").body;
    let ids: Vec<&Value> = list.as_array().unwrap().iter().take(400).map(|l| &l["id"]).collect();
    let body = json!({
        "goal": {"lowest_note_hz": 32, "level_db": 104, "distance_m": 2, "largest_outside_l": 120,
                 "chain": {"amplifier": {"power_w": 300, "load_ohm": 4, "minimum_load_ohm": 4}}},
        "counts": [1, 2], "families": ["sealed", "vented"], "woofers": ids,
    });
    // the other one stands ready first, so that the trial is still young when its server is killed
    let (_other_server, other) = start(cluster);
    let begun = client.post(&format!("/api/builds/{build}/trial"), &body);
    assert_eq!(begun.status, 201, "{}", begun.body);
    let id = begun.body["id"].as_str().unwrap().to_owned();
    server.kill().unwrap();
    let stopped = other.post(&format!("/api/trials/{id}/stop"), &json!({})).body;
    assert_eq!(stopped["state"], "stopped");
    std::thread::sleep(Duration::from_millis(1500));
    let held = other.get(&format!("/api/trials/{id}")).body["done"].clone();
    std::thread::sleep(Duration::from_millis(800));
    assert_eq!(other.get(&format!("/api/trials/{id}")).body["done"], held, "a stopped trial stands still");
    other.post(&format!("/api/trials/{id}/resume"), &json!({}));
    let end = Instant::now() + Duration::from_secs(120);
    let done = loop {
        let now = other.get(&format!("/api/trials/{id}")).body;
        if now["state"] == "done" {
            break now;
        }
        assert!(Instant::now() < end, "the trial does not end: {now}");
        std::thread::sleep(Duration::from_millis(200));
    };
    assert_eq!((&done["done"], &done["given_up"], &done["results"]), (&json!(400), &json!(0), &json!(1600)));
    let results = other.get(&format!("/api/trials/{id}/results?sort=best&limit=100")).body;
    assert_eq!(results.as_array().unwrap().len(), 100);
    let best = &results[0];
    let document = other.get(&format!("/api/trials/results/{}/design", best["id"])).body;
    assert_eq!(document["enclosure"], best["outcome"]["enclosure"]);
    assert_eq!(other.post(&format!("/api/builds/{build}/revisions"), &json!({"document": document})).status, 201);
    assert_eq!(other.get(&format!("/api/builds/{build}/trial")).body["id"], json!(id));
    let rules = other.get("/api/trials/rules").body;
    assert_eq!(rules.as_array().unwrap().len(), best["outcome"]["charges_db"].as_array().unwrap().len());
}

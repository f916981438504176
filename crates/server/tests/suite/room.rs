//! Rooms over HTTP: kept, saved and taken away like other records; questions about a design in one, and how they are refused.

use crate::client::{Answer, Client};
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;

fn parlour() -> Value {
    json!({"name": "Parlour", "space": {"kind": "room", "length_m": 6.0, "width_m": 4.0, "height_m": 2.5,
        "damping": {"by": "time", "t60_s": 0.5}}})
}

fn design() -> Value {
    json!({"format": "oak-drum-design", "version": 8, "name": "R", "brief": {"lowest_note_hz": 25.0},
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
        "enclosure": {"family": "sealed", "net_volume_l": 60},
        "room": {"room": parlour(), "cabinets": [{"x_m": 0.6, "y_m": 0.6}], "seats": [{"x_m": 4.2, "y_m": 2.2}]}})
}

fn refused(answer: &Answer, pointer: &str) {
    assert_eq!(answer.status, 422, "{}", answer.text);
    let errors = answer.body["errors"].as_array().unwrap();
    assert!(errors.iter().any(|e| e["pointer"] == pointer), "{pointer}: {}", answer.text);
}

#[test]
fn rooms_over_http() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let binary = Path::new(env!("CARGO_BIN_EXE_oak-drum-server"));
    let server = Server::start(binary, &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    keeps_rooms(&client);
    tells_what_is_heard(&client);
    refuses_at_the_field(&client);
}

fn keeps_rooms(client: &Client) {
    let made = client.post("/api/rooms", &json!({"document": parlour()}));
    assert_eq!((made.status, client.get("/api/rooms").body.as_array().unwrap().len()), (201, 1));
    let path = format!("/api/rooms/{}", made.body["id"].as_str().unwrap());
    let mut larger = parlour();
    larger["space"]["length_m"] = json!(7.0);
    let save = |base: i32| client.put(&path, &json!({"base_version": base, "document": larger}));
    assert_eq!(save(1).body["version"], 2);
    let stale = save(1);
    assert_eq!((stale.status, &stale.body["current"]["space"]["length_m"]), (409, &json!(7.0)));
    let mut endless = parlour();
    endless["space"]["length_m"] = json!(1000.0);
    refused(&client.post("/api/rooms", &json!({"document": endless})), "/space/length_m");
    let mut nameless = parlour();
    nameless["name"] = json!("");
    refused(&client.post("/api/rooms", &json!({"document": nameless})), "/name");
    assert_eq!(Client::answer(client.agent.delete(format!("{}{path}", client.base)).call()).status, 204);
    assert!(client.get("/api/rooms").body.as_array().unwrap().is_empty());
    assert_eq!(client.post(&format!("{path}/restore"), &json!({})).status, 204);
    assert_eq!(client.get("/api/rooms").body[0]["version"], 2);
}

fn tells_what_is_heard(client: &Client) {
    let whole = client.post("/api/room", &design()).body;
    assert_eq!(whole["modes"][0]["order"], json!([1, 0, 0]));
    let quick = client.post("/api/room?curves_alone=true", &design()).body;
    assert_eq!((&quick["seats"], &quick["modes"][0]["order"]), (&whole["seats"], &whole["modes"][0]["order"]));
    assert!(
        quick["modes"][0]["moves"].as_array().unwrap().is_empty()
            && !whole["modes"][0]["moves"].as_array().unwrap().is_empty()
    );
    assert_eq!(
        (quick["brief_gain_db"].as_array().unwrap().len(), whole["brief_gain_db"].as_array().unwrap().len()),
        (0, 16)
    );
    // another build's kept air in the same place is heard as the build itself
    let other = client.post("/api/room/other", &design()).body;
    let mut again = design();
    again["room"]["cabinets"][0]["other"] = other;
    let kept = client.post("/api/room", &again).body;
    let level = |view: &Value| view["seats"][0]["mean_db"].as_f64().unwrap();
    assert!((level(&kept) - level(&whole)).abs() < 0.05);
    let wish = json!({"of": "seat", "index": 0, "columns": 10, "rows": 6});
    let map = client.post("/api/room/map", &json!({"document": design(), "map": wish})).body;
    assert_eq!((map["loud_db"].as_array().unwrap().len(), map["best"].as_array().unwrap().is_empty()), (60, false));
}

fn refuses_at_the_field(client: &Client) {
    let mut open = design();
    open.as_object_mut().unwrap().remove("room");
    refused(&client.post("/api/room", &open), "/room");
    refused(&client.post("/api/room/families", &open), "/room");
    let wish = |more: Value| {
        let mut wish = json!({"of": "cabinet", "index": 0, "columns": 10, "rows": 6});
        wish.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        client.post("/api/room/map", &json!({"document": design(), "map": wish}))
    };
    refused(&wish(json!({"columns": 1000})), "/map/columns");
    refused(&wish(json!({"index": 3})), "/room/room/space");
    refused(
        &client.post("/api/room/arrangements", &json!({"document": design(), "arrange": {"count": 9}})),
        "/arrange/count",
    );
    refused(&client.post("/api/room/mode", &json!({"document": design(), "order": [0, 0, 0]})), "/order");
    let mut cabin = design();
    cabin["room"]["room"]["space"] =
        json!({"kind": "cabin", "volume_m3": 3.0, "length_m": 2.6, "distance_m": 1.5, "leak_hz": 8.0});
    refused(
        &client.post("/api/room/mode", &json!({"document": cabin, "order": [1, 0, 0]})),
        "/document/room/room/space",
    );
    assert_eq!(client.post("/api/room", &cabin).status, 200);
}

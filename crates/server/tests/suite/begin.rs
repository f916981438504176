//! Beginning over HTTP: purposes, three boxes of a woofer or of the shelf's likeliest, builds of several revisions, a cabinet by form.

use crate::client::Client;
use crate::measurements::design;
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

#[test]
fn a_build_begins_from_what_there_is() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let purposes = client.get("/api/purposes").body["purposes"].as_array().unwrap().len();
    assert_eq!(purposes, 9);

    // nothing on the shelf, and none stated
    let none = client.post("/api/begin", &json!({}));
    assert_eq!((none.status, none.body["errors"][0]["pointer"].as_str()), (422, Some("/woofer")), "{}", none.text);
    let bad = client.post("/api/begin", &json!({"purpose": "a party", "woofer": design()["woofer"]}));
    assert_eq!(bad.body["errors"][0]["pointer"], "/purpose", "{}", bad.text);

    let begun = client.post("/api/begin", &json!({"purpose": "music", "woofer": design()["woofer"]}));
    assert_eq!(begun.status, 200, "{}", begun.text);
    let boxes = begun.body["boxes"].as_array().unwrap();
    assert!(
        !boxes.is_empty() && boxes.iter().all(|b| b["design"]["cabinet"]["width_mm"].is_number()),
        "{}",
        begun.text
    );
    // they become one build of as many revisions, or nothing does
    let designs: Vec<Value> = boxes.iter().map(|b| b["design"].clone()).collect();
    let made = client.post("/api/builds", &json!({"name": "Three", "document": designs[0], "others": designs[1..]}));
    assert_eq!(made.status, 201, "{}", made.text);
    let letters: Vec<&str> =
        made.body["revisions"].as_array().unwrap().iter().map(|r| r["letter"].as_str().unwrap()).collect();
    assert_eq!(letters, ["A", "B", "C"][..designs.len()]);
    let broken = json!({"name": "Broken", "document": designs[0], "others": [{"format": "none"}]});
    assert_eq!(client.post("/api/builds", &broken).status, 422);
    let many: Vec<&Value> = std::iter::repeat_n(&designs[0], 8).collect();
    let many = client.post("/api/builds", &json!({"name": "Many", "document": designs[0], "others": many}));
    assert_eq!(many.body["errors"][0]["pointer"], "/others", "{}", many.text);
    assert_eq!(client.get("/api/builds").body.as_array().unwrap().len(), 1);

    // a cabinet of a form; what does not go says why, in both systems
    let ask = |form: Value| client.post("/api/cabinet/made", &json!({"document": design(), "form": form}));
    let slim = ask(json!({"kind": "slim"}));
    assert_eq!(slim.status, 200, "{}", slim.text);
    let cabinet = &slim.body["changes"][0]["value"];
    assert!(cabinet["height_mm"].as_f64().unwrap() > 1.4 * cabinet["width_mm"].as_f64().unwrap(), "{}", slim.text);
    let tight = ask(json!({"kind": "within", "width_mm": 400, "height_mm": 400, "depth_mm": 300}));
    assert_eq!((tight.status, tight.body["errors"][0]["pointer"].as_str()), (422, Some("/form")), "{}", tight.text);
    assert!(tight.body["errors"][0]["message"].to_string().contains("\"inch\""), "{}", tight.text);
    assert_eq!(ask(json!({"kind": "round"})).body["errors"][0]["pointer"], "/form/kind");

    // tags, and what a card tells of the first revision
    let id = made.body["id"].as_str().unwrap();
    let tag = |tags: Value| client.raw("PATCH", &format!("/api/builds/{id}"), &tags.to_string(), "application/json");
    assert_eq!(tag(json!({"tags": [" hall ", "Hall", "loud"]})).body["tags"], json!(["hall", "loud"]));
    let wrong = tag(json!({"tags": ["a,b"]}));
    assert_eq!((wrong.status, wrong.body["errors"][0]["pointer"].as_str()), (422, Some("/tags")), "{}", wrong.text);
    assert_eq!(client.get("/api/builds").body[0]["tags"], json!(["hall", "loud"]));
    let card = client.get(&format!("/api/builds/{id}/card"));
    assert_eq!(card.status, 200, "{}", card.text);
    let level = card.body["level_db"].as_array().unwrap();
    assert_eq!(level.len(), card.body["frequency_hz"].as_array().unwrap().len());
    // the curve is that of the evaluation
    let whole = client.post("/api/evaluate", &designs[0]).body;
    let f3 = |of: &Value| of.as_f64().unwrap();
    assert!((f3(&card.body["f3_hz"]) / f3(&whole["summary"]["f3_hz"]) - 1.0).abs() < 1e-3);
    assert_eq!(client.get("/api/builds/00000000-0000-7000-8000-000000000000/card").status, 404);
    // put away it is in the other list
    assert_eq!(client.get("/api/builds?away=true").body, json!([]));
}

#[test]
fn a_search_tells_how_far_it_is_and_ends_with_what_it_found() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let wish = json!({"document": design(), "seek": {"reach": "lowest_f3", "lowest_note_hz": 35, "volume_l": 50}});
    let told = client.post("/api/seek/telling", &wish);
    let lines: Vec<Value> = told.text.lines().map(|l| serde_json::from_str(l).unwrap()).collect();
    let (last, before) = lines.split_last().unwrap();
    assert!(before.len() > 2, "{}", told.text);
    let parts: Vec<f64> = before.iter().map(|l| l["sofar"]["part"].as_f64().unwrap()).collect();
    assert!(parts.windows(2).all(|w| w[0] <= w[1]) && (0.0..=1.0).contains(parts.last().unwrap()), "{parts:?}");
    let tried: Vec<u64> = before.iter().map(|l| l["sofar"]["tried"].as_u64().unwrap()).collect();
    assert!(tried.windows(2).all(|w| w[0] < w[1]), "{tried:?}");
    let plain = client.post("/api/seek", &wish).body;
    assert_eq!(last["sought"], plain);
    // a wish that cannot be read is refused before anything is told
    let wrong = client.post("/api/seek/telling", &json!({"document": design(), "seek": {"reach": "the moon"}}));
    assert_eq!(wrong.status, 422, "{}", wrong.text);
}

#[test]
fn the_tour_is_checked_by_what_a_design_shows() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let tour = client.get("/api/tour");
    let tasks = tour.body["tasks"].as_array().unwrap();
    assert_eq!(tasks.len(), 5, "{}", tour.text);
    for task in tasks {
        let ask = json!({"task": task["id"], "done": 0, "document": task["start"]});
        let progress = client.post("/api/tour/progress", &ask);
        assert_eq!((progress.status, &progress.body["done"]), (200, &json!(0)), "{}", progress.text);
    }
    let mut loud = tasks[0]["start"].clone();
    loud["drive"]["volts"] = json!(24);
    let progress = client.post("/api/tour/progress", &json!({"task": "chuff", "done": 0, "document": loud}));
    assert_eq!((&progress.body["done"], progress.body["told"].as_array().unwrap().len()), (&json!(1), 1));
    let none = client.post("/api/tour/progress", &json!({"task": "no such", "done": 0, "document": loud}));
    assert_eq!((none.status, none.body["errors"][0]["pointer"].as_str()), (422, Some("/task")), "{}", none.text);
    let heard = |piece: &str| client.post("/api/tour/sound", &json!({"piece": piece, "document": tasks[2]["start"]}));
    assert_eq!((heard("slide").status, heard("no such").status), (200, 422));
}

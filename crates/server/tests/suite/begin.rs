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
}

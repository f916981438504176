//! What belongs to the workshop over HTTP: its currency, tools and rack; what of its tools a cabinet wants; how its boxes came out.

use crate::client::Client;
use crate::measurements::design;
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

#[test]
fn a_workshop_has_tools_and_habits() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    kept_by_version(&client);
    tools_of_a_cabinet(&client);
    boxes_that_came_out(&client);
}

fn kept_by_version(client: &Client) {
    let none = client.get("/api/workshop");
    assert_eq!((none.status, none.body["version"].as_i64(), &none.body["document"]), (200, Some(0), &json!({})));
    let save =
        |base: i64, workshop: Value| client.put("/api/workshop", &json!({"base_version": base, "workshop": workshop}));
    let piece = json!({"board": "mdf", "length_mm": 600, "width_mm": 300, "thickness_mm": 18, "from": "Barn, A"});
    let first = save(0, json!({"currency": "EUR", "rack": [piece]}));
    assert_eq!((first.status, first.body["version"].as_i64()), (200, Some(1)), "{}", first.text);
    // who comes second is told what stands
    let stale = save(0, json!({"currency": "kr"}));
    assert_eq!((stale.status, stale.body["version"].as_i64()), (409, Some(1)), "{}", stale.text);
    assert_eq!(stale.body["current"]["currency"], "EUR");
    let second =
        save(1, json!({"currency": "EUR", "has": [{"thing": "clamp", "size_mm": 900, "many": 4}], "rack": [piece]}));
    assert_eq!(second.body["version"], 2, "{}", second.text);
    assert_eq!(client.get("/api/workshop").body["document"], second.body["document"]);
    for (workshop, pointer) in [
        (json!({"currency": "far too long a name"}), "/workshop/currency"),
        (
            json!({"rack": [{"board": "mdf", "length_mm": 5, "width_mm": 300, "thickness_mm": 18}]}),
            "/workshop/rack/0/length_mm",
        ),
        (json!({"has": [{"thing": ""}]}), "/workshop/has/0/thing"),
        (json!({"tools": []}), "/workshop/tools"),
    ] {
        let refused = save(2, workshop);
        assert_eq!(
            (refused.status, refused.body["errors"][0]["pointer"].as_str()),
            (422, Some(pointer)),
            "{}",
            refused.text
        );
    }
    assert_eq!(client.get("/api/workshop").body["version"], 2, "nothing of what was refused is kept");
}

fn tools_of_a_cabinet(client: &Client) {
    let mut boxed = design();
    assert_eq!(client.post("/api/kit", &json!({"document": boxed})).body["errors"][0]["pointer"], "/cabinet");
    boxed["cabinet"] = json!({"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 18});
    let workshop = client.get("/api/workshop").body["document"].clone();
    let kit = client.post("/api/kit", &json!({"document": boxed, "workshop": workshop}));
    let clamps: Vec<(u64, u64)> = kit.body["things"]
        .as_array()
        .unwrap_or_else(|| panic!("{}", kit.text))
        .iter()
        .filter(|t| t["thing"] == "clamp")
        .map(|t| (t["many"].as_u64().unwrap(), t["has"].as_u64().unwrap()))
        .collect();
    assert_eq!(clamps, [(4, 4), (4, 0)], "four long ones go to the longest need");
}

/// Two boxes were made with ports 12 mm too long; the third is told, and what it takes makes its tube shorter.
fn boxes_that_came_out(client: &Client) {
    let mut plain = design();
    plain["woofer"].as_object_mut().unwrap().remove("le_mh");
    let made = |name: &str| {
        let made = client.post("/api/builds", &json!({"name": name, "document": plain}));
        made.body["id"].as_str().unwrap_or_else(|| panic!("{}", made.text)).to_owned()
    };
    let bench = |build: &str, cabinet: Value, name: &str| {
        let wish = json!({"taken": {"kind": "in_box"}, "bench": {"seed": 3}});
        let body = json!({"document": plain, "wish": wish, "name": name, "cabinet": cabinet});
        let kept = client.post(&format!("/api/builds/{build}/measurements/bench"), &body);
        assert_eq!(kept.status, 201, "{}", kept.text);
    };
    let [barn, shed, third] = ["Barn", "Shed", "Third"].map(made);
    let long = json!({"kind": "flawed", "flaws": [{"kind": "port", "mm": 12}]});
    bench(&barn, long.clone(), "Terminals");
    bench(&shed, long, "Terminals");
    // a practice cabinet is nobody's box
    bench(&third, json!({"kind": "practice", "seed": 4, "difficulty": "plain"}), "Practice");
    let asked = |build: &str| client.post(&format!("/api/builds/{build}/habits"), &plain);
    let found = asked(&third);
    assert_eq!(found.status, 200, "{}", found.text);
    assert_eq!(found.body["boxes"].as_array().unwrap().len(), 2, "{}", found.text);
    let habit =
        |name: &str| found.body["habits"].as_array().unwrap().iter().find(|h| h["of"] == name).cloned().unwrap();
    let low = habit("tuning")["off_percent"].as_f64().unwrap();
    assert!((-6.0..-1.0).contains(&low), "{low}");
    let ends = found.body["corrections"].as_array().unwrap().iter().find(|c| c["id"] == "habit_ends").unwrap().clone();
    let change = &ends["changes"][0];
    assert_eq!(change["pointer"], "/enclosure/port/end_factor");
    assert!(change["value"].as_f64().unwrap() > 1.05, "{ends}");
    let mut taken = plain.clone();
    taken["enclosure"]["port"]["end_factor"] = change["value"].clone();
    let length = |d: &Value| client.post("/api/airway", d).body["ports"][0]["length_mm"].as_f64().unwrap();
    assert!((length(&plain) - length(&taken) - 12.0).abs() < 4.0, "{} {}", length(&plain), length(&taken));
    // one's own box is shown and not learned from
    let own = asked(&barn);
    let owns: Vec<bool> = own.body["boxes"].as_array().unwrap().iter().map(|b| b["own"].as_bool().unwrap()).collect();
    assert_eq!(owns.iter().filter(|o| **o).count(), 1, "{}", own.text);
    assert_eq!(own.body["habits"][0]["boxes"], 1);
}

//! The plan of days over HTTP: read by Python's icalendar besides (testdata/bundle/days.py); clocks of other builds are learned.

use crate::client::Client;
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::path::Path;
use std::process::Command;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

fn design() -> Value {
    json!({"format": "oak-drum-design", "version": 8, "name": "Sýpka", "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120,
        "re_ohm": 5.6, "sd_cm2": 530, "depth_mm": 120, "cutout_mm": 283}, "enclosure": {"family": "sealed", "net_volume_l": 60},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 400, "panel_mm": 18, "baffle_mm": 18}})
}

fn wish(work: Value) -> Value {
    json!({"document": design(), "work": work, "now": "2026-11-27T08:00", "ahead_min": 60})
}

#[test]
#[ignore = "wants icalendar in target/python: scripts/test installs it and runs this"]
fn days_and_their_calendar() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let free =
        json!([{"day": "saturday", "from": "10:00", "hours": 6}, {"day": "wednesday", "from": "18:30", "hours": 2.5}]);
    let work = json!({"days": {"free": free, "warmth_c": 18}});
    let plan = client.post("/api/days", &wish(work.clone()));
    assert_eq!(plan.status, 200, "{}", plan.text);
    let sittings = plan.body["sittings"].as_array().unwrap();
    assert!(sittings.len() > 12 && plan.body["done_at"].is_string());

    // the calendar says the same, read by another
    let calendar = client.post("/api/days/calendar", &wish(work.clone()));
    assert_eq!((calendar.status, calendar.kind.as_str()), (200, "text/calendar; charset=utf-8"));
    let project = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let path = std::env::temp_dir().join(format!("oak-drum-days-{}.ics", std::process::id()));
    std::fs::write(&path, &calendar.bytes).unwrap();
    let run = Command::new(project.join("target/python/bin/python"))
        .arg(project.join("testdata/bundle/days.py"))
        .arg(&path)
        .output()
        .unwrap();
    std::fs::remove_file(&path).unwrap();
    assert!(run.status.success(), "{}", String::from_utf8_lossy(&run.stderr));
    let read: Value = serde_json::from_slice(&run.stdout).unwrap();
    assert_eq!(read["name"], "Sýpka");
    let events = read["events"].as_array().unwrap();
    assert_eq!(events.len(), sittings.len());
    let mut keys: Vec<&str> = events.iter().filter_map(|e| e["uid"].as_str()).collect();
    for (event, sitting) in events.iter().zip(sittings) {
        assert_eq!((&event["from"], &event["to"]), (&sitting["from"], &sitting["to"]));
        // hours as the clock on the wall: no zone that would move them
        assert_eq!(event["zone"], Value::Null);
    }
    keys.sort_unstable();
    keys.dedup();
    assert_eq!(keys.len(), events.len());
    let all = run.stdout.clone();
    let all = String::from_utf8_lossy(&all);
    assert!(all.contains("Dust drawn off") && all.contains("wood glue dries: go on from"), "{all}");

    learned(&client, &work);
    refused(&client);
}

/// What other builds' clocks say is learned: half as long again at the saw.
fn learned(client: &Client, work: &Value) {
    let minutes = |step: &str| {
        let plan = client.post("/api/days", &wish(work.clone())).body;
        let list = plan["reckoned"].as_array().unwrap().clone();
        list.into_iter().find(|r| r["step"] == step).unwrap()
    };
    let usual = minutes("cut");
    assert_eq!(usual["by"], "practice");
    for took in [120.0, 150.0, 900.0] {
        let made = client.post("/api/builds", &json!({"name": format!("Barn {took}"), "document": design()}));
        let id = made.body["revisions"][0]["id"].as_str().unwrap().to_owned();
        let ticks = json!([{"step": "cut", "done": true, "minutes": took, "reckoned_min": 100},
            {"step": "sand", "done": false, "minutes": 500, "reckoned_min": 10}, {"step": "close", "done": true, "minutes": 30}]);
        let kept =
            client.put(&format!("/api/revisions/{id}/work"), &json!({"base_version": 0, "work": {"steps": ticks}}));
        assert_eq!(kept.status, 200, "{}", kept.text);
    }
    // the middle of the three, so that one clock left running is no measure
    let now = minutes("cut");
    assert_eq!(
        (&now["by"], &now["minutes"]),
        (&json!("clocks"), &json!((usual["minutes"].as_f64().unwrap() * 1.5).round()))
    );
    // what is not done, or was not reckoned, tells nothing
    assert_eq!((&minutes("sand")["by"], &minutes("close")["by"]), (&json!("practice"), &json!("practice")));
}

fn refused(client: &Client) {
    let mut late = wish(json!({}));
    late["now"] = json!("tomorrow");
    let mut flat = wish(json!({}));
    flat["document"].as_object_mut().unwrap().remove("cabinet");
    let mut far = wish(json!({}));
    far["ahead_min"] = json!(5000);
    let free = |f: Value| wish(json!({"days": {"free": [f]}}));
    for (body, at) in [
        (late, "/now"),
        (flat, "/document/cabinet"),
        (far, "/ahead_min"),
        (free(json!({"day": "caturday", "from": "10:00", "hours": 2})), "/work/days/free/0/day"),
        (free(json!({"day": "monday", "from": "25:00", "hours": 2})), "/work/days/free/0/from"),
        (free(json!({"day": "monday", "from": "10:00", "hours": 40})), "/work/days/free/0/hours"),
    ] {
        for path in ["/api/days", "/api/days/calendar"] {
            let answer = client.post(path, &body);
            assert_eq!(answer.status, 422, "{at}: {}", answer.text);
            assert_eq!(answer.body["errors"][0]["pointer"], at, "{}", answer.text);
        }
    }
}

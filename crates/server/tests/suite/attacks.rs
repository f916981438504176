//! What was found by attack, one test each: a heavy design does not stop the others, heavy bodies are refused in few words and
//! little memory, and what is stored always reads back.

use crate::client::Client;
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::io::Write;
use std::net::TcpStream;
use std::path::Path;
use std::process::Command;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::Duration;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

fn woofer() -> Value {
    json!({"name": "Test 12", "fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "xmax_mm": 12,
           "power_w": 400})
}

fn design(enclosure: Value) -> Value {
    json!({"format": "oak-drum-design", "version": 5, "woofer": woofer(), "enclosure": enclosure})
}

fn sealed() -> Value {
    design(json!({"family": "sealed", "net_volume_l": 60}))
}

/// As many woofers as there may be, in a cabinet far too small for them.
fn crowd() -> Value {
    let mut crowd = design(json!({"family": "vented", "net_volume_l": 90,
        "port": {"section": {"shape": "round", "diameter_mm": 120}, "count": 4, "sizing": {"by": "tuning", "tuning_hz": 34}}}));
    crowd["array"] = json!({"count": 32, "woofers_in_series": 1});
    crowd["cabinet"] = json!({"width_mm": 420, "height_mm": 600, "depth_mm": 500, "panel_mm": 18, "baffle_mm": 18,
        "braces": [{"kind": "window", "lies": "level", "at_mm": 200, "thickness_mm": 18, "open_part": 0.4}]});
    crowd
}

/// A line of forty stations with eight fills.
fn long_line(frequencies: usize) -> Value {
    let stations: Vec<Value> =
        (0..40).map(|i| json!({"at_mm": f64::from(i) * 100.0, "area_cm2": 400.0 + f64::from(i % 7) * 30.0})).collect();
    let fills: Vec<Value> = (0..8)
        .map(|i| {
            json!({"from_mm": i * 400, "to_mm": i * 400 + 390,
            "stuffing": {"kind": "resistivity", "flow_resistivity_pa_s_per_m2": 900 + 100 * i}})
        })
        .collect();
    let mut line =
        design(json!({"family": "transmission_line", "length_mm": 3900, "woofer_at_mm": 0, "wall_losses": true,
        "fills": fills, "profile": {"shape": "free", "stations": stations}}));
    if frequencies > 0 {
        line["frequencies_hz"] = (0..frequencies).map(|i| json!(5.0 + 0.04 * i as f64)).collect();
    }
    line
}

#[test]
fn attacks() {
    let cluster = Cluster::start(false).unwrap();
    let server =
        Server::start(Path::new(BINARY), &["--database", &cluster.url, "--listen", "127.0.0.1:0", "--demo"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    unknown_names_are_told_in_fifty(&client);
    the_zero_character_is_refused_at_its_field(&client);
    large_files_are_read_as_they_come(&client, &server);
    what_is_stored_reads_back(&client);
    the_most_that_can_be_asked_is_answered(&client);
    heavy_designs_stop_nobody(&client);
    work_ends_with_its_asker(&client, &server);
}

fn pointers(body: &Value) -> Vec<String> {
    let list = body["errors"].as_array().into_iter().flatten();
    list.filter_map(|e| e["pointer"].as_str().map(str::to_owned)).collect()
}

fn unknown_names_are_told_in_fifty(client: &Client) {
    let mut document = sealed();
    for i in 0..60_000 {
        document[format!("volume_{i}")] = json!(1);
    }
    // two at once, and the others are answered meanwhile
    std::thread::scope(|scope| {
        let asked: Vec<_> = (0..2).map(|_| scope.spawn(|| client.post("/api/evaluate", &document))).collect();
        assert_eq!(client.get("/api/health/live").status, 204);
        for answer in asked {
            let answer = answer.join().unwrap();
            assert_eq!(answer.status, 422);
            let told = pointers(&answer.body);
            assert!((1..=50).contains(&told.len()) && told.contains(&"/volume_0".to_owned()), "{}", told.len());
        }
    });
    let mut long = sealed();
    long["x".repeat(300_000)] = json!(1);
    let answer = client.post("/api/evaluate", &long);
    assert!(answer.status == 422 && answer.body["detail"].as_str().unwrap().len() < 310_000);
}

fn the_zero_character_is_refused_at_its_field(client: &Client) {
    let with = |pointer: &str| {
        let mut document = sealed();
        let mut here = &mut document;
        for key in pointer.trim_start_matches('/').split('/') {
            here = &mut here[key];
        }
        *here = json!("a\0b");
        document
    };
    let id = client.get("/api/builds").body[0]["id"].as_str().unwrap().to_owned();
    for pointer in ["/name", "/brief/purpose", "/woofer/name", "/woofer/maker"] {
        let document = with(pointer);
        for (path, body) in [
            ("/api/evaluate".to_owned(), document.clone()),
            ("/api/builds".to_owned(), json!({"name": "x", "document": document})),
            (format!("/api/builds/{id}/revisions"), json!({"document": document})),
            ("/api/woofers/keep".to_owned(), json!({"document": document})),
        ] {
            let answer = client.post(&path, &body);
            assert_eq!((answer.status, pointers(&answer.body)), (422, vec![pointer.to_owned()]), "{path}");
        }
    }
    let kept = |field: &str| {
        let mut document = json!({"format": "oak-drum-woofer", "version": 1, "woofer": {"name": "Zero", "maker": "Nobody"},
            "sets": [{"provenance": "data_sheet", "note": "", "figures": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120,
            "re_ohm": 5.6, "sd_cm2": 530}}], "tags": ["loud"], "notes": ""});
        *document.pointer_mut(field).unwrap() = json!("a\0b");
        document
    };
    for field in ["/woofer/name", "/woofer/maker", "/sets/0/note", "/tags/0", "/notes"] {
        let answer = client.post("/api/woofers", &json!({"document": kept(field)}));
        assert_eq!((answer.status, pointers(&answer.body)), (422, vec![field.to_owned()]));
        let file = json!({"format": "oak-drum-shelf", "version": 1, "woofers": [kept(field)]}).to_string();
        let preview = client.raw("POST", "/api/woofers/preview?format=json", &file, "application/json");
        assert_eq!((preview.status, &preview.body["bad"]), (200, &json!(1)), "{field}");
    }
    let row = "name,notes,fs_hz,qms,qes,vas_l,re_ohm,sd_cm2\nA\0B,n,30,5,0.4,120,5.6,530\n";
    let preview = client.raw("POST", "/api/woofers/preview?format=csv", row, "text/csv");
    assert_eq!((preview.status, &preview.body["bad"]), (200, &json!(1)));
}

/// Sixteen megabytes of nonsense in several shapes: refused or told in part, in little memory.
fn large_files_are_read_as_they_come(client: &Client, server: &Server) {
    let size = 16_000_000;
    let head = "name,fs_hz,qms,qes,vas_l,re_ohm,sd_cm2\n";
    let columns: String = format!("name{}\n", ",x".repeat(size / 2));
    let cells = format!("{head}{}", ",".repeat(size));
    let rows = format!("{head}{}", "a\n".repeat(size / 2));
    let wrong = format!("{head}{}", "a,b,c,d,e,f,g\n".repeat(19_900));
    let open = format!("{{\"format\":\"oak-drum-shelf\",\"version\":1,\"woofers\":[{}", "[],".repeat(size / 3));
    let empty = format!("{{\"format\":\"oak-drum-shelf\",\"version\":1,\"woofers\":[{}0]}}", "[],".repeat(size / 4));
    let one = format!("{{\"format\":\"oak-drum-woofer\",\"version\":1,\"woofer\":[{}0]}}", "[],".repeat(size / 4));
    let keys: String = (0..40_000).map(|i| format!("\"k{i}\":1,")).collect();
    let wide = format!("{{{keys}\"format\":\"oak-drum-woofer\"}}");
    let many = format!(
        "{{\"format\":\"oak-drum-shelf\",\"version\":1,\"woofers\":[{wide}{}]}}",
        format!(",{wide}").repeat(25)
    );
    let before = server.most_memory_mb();
    for (name, format, body, status) in [
        ("columns", "csv", &columns, 422),
        ("cells", "csv", &cells, 422),
        ("rows", "csv", &rows, 422),
        ("wrong", "csv", &wrong, 200),
        ("open", "json", &open, 422),
        ("empty", "json", &empty, 422),
        ("one", "json", &one, 200),
        ("many", "json", &many, 200),
    ] {
        let answer = client.raw("POST", &format!("/api/woofers/preview?format={format}"), body, "text/plain");
        assert_eq!(answer.status, status, "{name}: {}", answer.text.chars().take(300).collect::<String>());
        println!("{name}: most memory so far {:?} MB", server.most_memory_mb());
    }
    if let Some((before, after)) = before.zip(server.most_memory_mb()) {
        assert!(after - before < 100.0, "{} MB", after - before);
    }
}

fn what_is_stored_reads_back(client: &Client) {
    let woofer = |sets: std::ops::Range<u32>| {
        let sets: Vec<Value> = sets
            .map(|i| json!({"provenance": "measured_new", "note": format!("no. {i}"), "figures": {"fs_hz": 30.0 + f64::from(i) * 0.1,
                "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530}}))
            .collect();
        json!({"format": "oak-drum-woofer", "version": 1, "woofer": {"name": "Often measured", "maker": "Nobody"}, "sets": sets})
    };
    let import = |sets| {
        let file = json!({"format": "oak-drum-shelf", "version": 1, "woofers": [woofer(sets)]}).to_string();
        let path = "/api/woofers/import?format=json&known=add_sets";
        let answer = client.raw("POST", path, &file, "application/json");
        let last = answer.text.lines().last().unwrap_or_default().to_owned();
        serde_json::from_str::<Value>(&last).unwrap()
    };
    assert_eq!(import(0..60)["kind"], "done");
    // the same again adds nothing, further ones go in until there are a hundred
    assert_eq!(import(20..90)["kind"], "done");
    let refused = import(90..150);
    assert!(refused["kind"] == "failed" && refused["detail"].as_str().unwrap().contains("Often measured"), "{refused}");
    // the same woofer by hand, twice
    for _ in 0..2 {
        assert_eq!(client.post("/api/woofers/keep", &json!({"document": sealed()})).status, 201);
    }
    let shelf = client.get("/api/woofers").body.as_array().unwrap().len();
    for format in ["json", "csv"] {
        let file = client.get(&format!("/api/shelf/export?format={format}")).text;
        let preview = client.raw("POST", &format!("/api/woofers/preview?format={format}"), &file, "text/plain").body;
        assert_eq!((&preview["good"], &preview["bad"]), (&json!(shelf), &json!(0)), "{format}: {preview}");
    }
}

/// The most the format lets a line ask for is answered, and one frequency more is refused before any work.
fn the_most_that_can_be_asked_is_answered(client: &Client) {
    assert_eq!(client.post("/api/evaluate", &long_line(20_000)).status, 200);
    let answer = client.post("/api/evaluate", &long_line(20_001));
    assert_eq!((answer.status, pointers(&answer.body)), (422, vec!["/frequencies_hz".to_owned()]));
}

/// What takes long beside what is quick: the quick ones are answered while the others are still under way.
fn heavy_designs_stop_nobody(client: &Client) {
    let under_way = AtomicUsize::new(0);
    let seek = json!({"document": long_line(0), "seek": {"reach": "lowest_f3", "lowest_note_hz": 30}});
    std::thread::scope(|scope| {
        let heavy: Vec<_> = (0..8)
            .map(|i| {
                let (under_way, seek) = (&under_way, &seek);
                scope.spawn(move || {
                    under_way.fetch_add(1, Ordering::SeqCst);
                    let answer = match i % 2 {
                        0 => client.post("/api/evaluate", &crowd()),
                        _ => client.post("/api/seek", seek),
                    };
                    under_way.fetch_sub(1, Ordering::SeqCst);
                    answer
                })
            })
            .collect();
        while under_way.load(Ordering::SeqCst) < 6 {
            std::thread::sleep(Duration::from_millis(5));
        }
        for _ in 0..10 {
            assert_eq!(client.get("/api/health/live").status, 204);
            assert_eq!(client.post("/api/curves", &sealed()).status, 200);
            assert_eq!(client.post("/api/evaluate", &sealed()).status, 200);
        }
        assert!(under_way.load(Ordering::SeqCst) > 0, "the heavy ones were done before ten quick ones");
        for answer in heavy {
            let answer = answer.join().unwrap();
            assert!([200, 503].contains(&answer.status), "{} {}", answer.status, answer.body);
        }
    });
}

/// Searches that nobody waits for any more stop: they keep the server busy as long as the connections are open, and no longer.
fn work_ends_with_its_asker(client: &Client, server: &Server) {
    let body = json!({"document": long_line(0), "seek": {"reach": "lowest_f3", "lowest_note_hz": 30}}).to_string();
    let host = client.base.trim_start_matches("http://");
    let used = |of: Duration| {
        let before = server.ticks_used()?;
        std::thread::sleep(of);
        Some(server.ticks_used()? - before)
    };
    let streams: Vec<TcpStream> = (0..12)
        .map(|_| {
            let mut stream = TcpStream::connect(host).unwrap();
            let head = format!(
                "POST /api/seek HTTP/1.1\r\nhost: {host}\r\ncontent-type: application/json\r\ncontent-length: {}\r\n\r\n",
                body.len()
            );
            stream.write_all(head.as_bytes()).unwrap();
            stream.write_all(body.as_bytes()).unwrap();
            stream
        })
        .collect();
    std::thread::sleep(Duration::from_millis(300));
    // a machine that has no time for it yet is waited for
    let busy = (0..10).map(|_| used(Duration::from_millis(500))).find(|ticks| ticks.is_none_or(|t| t > 5)).flatten();
    drop(streams);
    std::thread::sleep(Duration::from_millis(1500));
    // ticks of processor time, not of a clock: a machine that is busy with other things does not matter
    if let Some((busy, idle)) = busy.zip(used(Duration::from_millis(500))) {
        assert!(busy > 5 && idle * 4 < busy, "{busy} ticks while they were asked for, {idle} after");
    }
}

/// Where others can reach it only if it was told so in words.
#[test]
fn it_listens_on_this_machine_alone() {
    let nowhere = "postgres://nobody@127.0.0.1:1/none";
    let output = Command::new(BINARY)
        .args(["--database", nowhere, "--listen", "0.0.0.0:0"])
        .env_remove("OAK_DRUM_LISTEN")
        .output();
    let output = output.unwrap();
    let said = String::from_utf8_lossy(&output.stderr);
    assert!(!output.status.success() && said.contains("--without-accounts") && output.stdout.is_empty(), "{said}");
    let told = ["--database", nowhere, "--listen", "0.0.0.0:0", "--without-accounts"];
    assert!(Server::start(Path::new(BINARY), &told).unwrap().address.contains("0.0.0.0"));
}

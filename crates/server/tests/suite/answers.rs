//! Every question that stores nothing, asked over HTTP about every design of the demo: the answer is what its schema in the OpenAPI
//! document says (held to it by a library that knows all of JSON Schema), and bad input is refused at its place.

use crate::client::{Answer, Client};
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

/// A question: its path, and its body about a design.
type Question = (&'static str, fn(&Value) -> Value);

/// The questions that take a design and store nothing.
const QUESTIONS: &[Question] = &[
    ("/api/evaluate", Value::clone),
    ("/api/findings", |design| json!({"document": design, "work": {"prices": {"sheet": 58}}})),
    ("/api/suggest", Value::clone),
    ("/api/motion", |design| json!({"document": design, "frequency_hz": 40})),
    ("/api/tolerance", |design| json!({"document": design, "tolerances": {}})),
    ("/api/mistake", |design| json!({"document": design, "mistake": {"kind": "leak", "at": "wires"}})),
    ("/api/kit", |design| json!({"document": design, "workshop": {"has": [{"thing": "router"}]}})),
    ("/api/airway", Value::clone),
    ("/api/quiet", Value::clone),
    ("/api/drive", Value::clone),
    ("/api/drive/power", Value::clone),
    ("/api/drive/parts", |design| json!({"document": design, "parts": {"kind": "low_pass_second", "corner_hz": 110}})),
    ("/api/drive/flatten", |design| {
        let wish = json!({"bands": 2, "from_hz": 30, "to_hz": 110, "target": {"kind": "flat"}, "stage": "line"});
        json!({"document": design, "flatten": wish})
    }),
    ("/api/drive/amplifiers", |design| {
        let small = json!({"name": "Small", "power_w": 20, "load_ohm": 8, "minimum_load_ohm": 16});
        json!({"document": design, "amplifiers": [small, {"power_w": 300, "load_ohm": 4, "minimum_load_ohm": 2}]})
    }),
    ("/api/room", in_a_room),
    ("/api/room/families", in_a_room),
    (
        "/api/room/map",
        |design| json!({"document": in_a_room(design), "map": {"of": "cabinet", "index": 0, "columns": 12, "rows": 8}}),
    ),
    ("/api/room/arrangements", |design| json!({"document": in_a_room(design), "arrange": {"count": 2}})),
    ("/api/room/mode", |design| json!({"document": in_a_room(design), "order": [1, 0, 0]})),
    ("/api/room/other", Value::clone),
    ("/api/prove/plan", Value::clone),
    ("/api/prove", |design| json!({"document": design, "measurements": []})),
    ("/api/prove/judge", |design| {
        let cabinet = json!({"kind": "practice", "seed": 7, "difficulty": "mixed"});
        json!({"document": design, "cabinet": cabinet, "said": [{"kind": "leak", "q": 4}, {"kind": "buzz", "at_hz": 60}]})
    }),
    ("/api/cabinet", Value::clone),
    ("/api/cutting", Value::clone),
    ("/api/building", |design| json!({"document": design})),
    ("/api/days", |design| json!({"document": design, "now": "2026-11-27T08:00"})),
    ("/api/drawings", Value::clone),
    ("/api/woofers/in-box", |design| {
        let mut other = design["woofer"].clone();
        other["fs_hz"] = json!(other["fs_hz"].as_f64().unwrap() * 1.1);
        // no sheet at all, and one that contradicts itself beyond reading
        json!({"document": design, "sheets": [design["woofer"], {}, other, {"fs_hz": 30, "qts": 0.9, "qms": 0.5}]})
    }),
];

/// A design in a room with walls and two seats.
fn in_a_room(design: &Value) -> Value {
    let mut design = design.clone();
    let space = json!({"kind": "room", "length_m": 6.0, "width_m": 4.0, "height_m": 2.6, "damping": {"by": "time", "t60_s": 0.6}});
    design["room"] = json!({"room": {"name": "Parlour", "space": space}, "cabinets": [{"x_m": 1.0, "y_m": 1.0}],
        "seats": [{"x_m": 4.0, "y_m": 2.2}, {"x_m": 4.6, "y_m": 3.0}], "neighbour": {}});
    design
}

/// Those about boards.
const OF_CABINETS: [&str; 7] =
    ["/api/days", "/api/kit", "/api/cabinet", "/api/mistake", "/api/cutting", "/api/building", "/api/drawings"];

/// Questions that take a design and are asked elsewhere: where, and why not here.
const ELSEWHERE: &[(&str, &str)] = &[
    ("/api/curves", "packed: design/tests/suite/packed.rs"),
    ("/api/seek", "takes seconds a design: matching/tests"),
    ("/api/seek/telling", "lines, not one answer: begin.rs"),
    ("/api/tour/progress", "within a task: begin.rs"),
    ("/api/tour/sound", "a WAV file: begin.rs"),
    ("/api/drawings/file", "files: api.rs"),
    ("/api/drive/biquads", "files: drive.rs"),
    ("/api/days/calendar", "a calendar: days.rs"),
    ("/api/drive/card", "files: drive.rs"),
    ("/api/mode", "wants a chamber's pointer: below"),
    ("/api/trim", "wants a port's pointer: below"),
    ("/api/fit/woofer", "wants measurements: recordings.rs"),
    ("/api/woofers/keep", "stores: shelf.rs"),
    ("/api/woofers/log", "stores: recordings.rs"),
    ("/api/bench/recording", "a WAV file: measurements.rs"),
    ("/api/builds", "stores: api.rs"),
    ("/api/builds/{id}/revisions", "stores: api.rs"),
    ("/api/cabinet/made", "makes one: begin.rs"),
    ("/api/builds/{id}/habits", "wants measured builds: workshop.rs"),
    ("/api/builds/{id}/measurements/bench", "stores: measurements.rs"),
    ("/api/builds/{id}/measurements/combined", "stores: recordings.rs"),
];

/// Whether an answer is of the schema that the OpenAPI document gives it.
struct Contract {
    document: Value,
    known: BTreeMap<String, jsonschema::Validator>,
}

impl Contract {
    fn new() -> Contract {
        Contract { document: oak_drum_server::openapi::document(), known: BTreeMap::new() }
    }

    /// The operations whose body is a design or holds one.
    fn about_designs(&self) -> BTreeSet<&str> {
        let design = "#/components/schemas/Design";
        let takes = |operation: &Value| {
            let schema = &operation["requestBody"]["content"]["application/json"]["schema"]["$ref"];
            let Some(name) = schema.as_str() else { return false };
            let body = self.document.pointer(name.trim_start_matches('#')).unwrap();
            name == design || body["properties"]["document"]["$ref"] == design
        };
        let paths = self.document["paths"].as_object().unwrap();
        paths.iter().filter(|(_, item)| item.get("post").is_some_and(takes)).map(|(path, _)| path.as_str()).collect()
    }

    fn holds(&mut self, path: &str, answer: &Answer) -> Result<(), String> {
        let status = answer.status.to_string();
        let kind = if answer.status < 300 { "application/json" } else { "application/problem+json" };
        if answer.kind != kind {
            return Err(format!("{path} is {}", answer.kind));
        }
        let responses = &self.document["paths"][path]["post"]["responses"];
        let schema = responses[&status]["content"]["application/json"]["schema"].clone();
        assert!(!schema.is_null(), "{path} does not say what its {status} is");
        let components = self.document["components"].clone();
        let validator = self.known.entry(format!("{path} {status}")).or_insert_with(|| {
            let whole = json!({"allOf": [schema], "components": components});
            jsonschema::validator_for(&whole).expect("a schema that is one")
        });
        let first = validator.iter_errors(&answer.body).next();
        first.map_or(Ok(()), |e| {
            Err(format!("{path}: {} at {}", e.to_string().split_at(200.min(e.to_string().len())).0, e.instance_path()))
        })
    }
}

/// The designs of the demo, one of each family at least.
fn designs(client: &Client) -> Vec<(String, Value)> {
    let builds = client.get("/api/builds").body;
    let mut list = Vec::new();
    for build in builds.as_array().unwrap() {
        let detail = client.get(&format!("/api/builds/{}", build["id"].as_str().unwrap())).body;
        for revision in detail["revisions"].as_array().unwrap() {
            let name = format!("{} {}", detail["name"].as_str().unwrap(), revision["letter"].as_str().unwrap());
            list.push((name, revision["document"].clone()));
        }
    }
    // what the demo does not build is asked about too: every family's first suggestion for its first woofer
    let (_, first) = list[0].clone();
    let suggested = client.post("/api/suggest", &first).body;
    let mut families: BTreeSet<String> =
        list.iter().map(|(_, d)| d["enclosure"]["family"].as_str().unwrap().to_owned()).collect();
    for suggestion in suggested["suggestions"].as_array().unwrap() {
        let Some(family) = suggestion["enclosure"]["family"].as_str() else { continue };
        if families.insert(family.to_owned()) {
            let mut design = first.clone();
            design["enclosure"] = suggestion["enclosure"].clone();
            design.as_object_mut().unwrap().shift_remove("cabinet");
            list.push((family.to_owned(), design));
        }
    }
    assert_eq!(families.len(), client.get("/api/families").body.as_array().unwrap().len(), "{families:?}");
    list
}

#[test]
fn answers_are_what_their_schemas_say() {
    let cluster = Cluster::start(false).unwrap();
    let server =
        Server::start(Path::new(BINARY), &["--database", &cluster.url, "--listen", "127.0.0.1:0", "--demo"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let mut contract = Contract::new();

    let known: BTreeSet<&str> = QUESTIONS.iter().map(|q| q.0).chain(ELSEWHERE.iter().map(|q| q.0)).collect();
    assert_eq!(contract.about_designs(), known, "a question nobody asks");

    let mut wrong = Vec::new();
    for (name, design) in designs(&client) {
        for (path, body) in QUESTIONS {
            let answer = client.post(path, &body(&design));
            // boards are refused where none are stated
            let expected = if OF_CABINETS.contains(path) && design.get("cabinet").is_none() { 422 } else { 200 };
            if answer.status != expected {
                wrong.push(format!("{name}: {path} is answered {}: {}", answer.status, answer.body["detail"]));
            } else if let Err(why) = contract.holds(path, &answer) {
                wrong.push(format!("{name}: {why}"));
            }
        }
        parts_of_a_design(&client, &mut contract, &name, &design, &mut wrong);
    }
    refusals_are_problems(&client, &mut contract, &mut wrong);
    assert!(wrong.is_empty(), "{wrong:#?}");
}

/// A standing wave of each chamber that has some, and what to do to each port that was measured too low.
fn parts_of_a_design(client: &Client, contract: &mut Contract, name: &str, design: &Value, wrong: &mut Vec<String>) {
    let quiet = client.post("/api/quiet", design).body;
    let mut asked = Vec::new();
    for chamber in quiet["chambers"].as_array().into_iter().flatten() {
        let wave = &chamber["modes"][0]["order"];
        if !wave.is_null() {
            asked.push(("/api/mode", json!({"document": design, "pointer": chamber["pointer"], "order": wave})));
        }
    }
    for port in client.post("/api/airway", design).body["ports"].as_array().into_iter().flatten() {
        let trim = json!({"pointer": port["pointer"], "measured_hz": 28});
        asked.push(("/api/trim", json!({"document": design, "trim": trim})));
    }
    for (path, body) in asked {
        let answer = client.post(path, &body);
        if answer.status != 200 {
            wrong.push(format!("{name}: {path} is answered {}: {}", answer.status, answer.body["detail"]));
        } else if let Err(why) = contract.holds(path, &answer) {
            wrong.push(format!("{name}: {why}"));
        }
    }
}

/// A design whose woofer says nothing is refused by every question at the woofer, in the shape of a problem; so is a slip of the pen.
fn refusals_are_problems(client: &Client, contract: &mut Contract, wrong: &mut Vec<String>) {
    let bare = json!({"format": "oak-drum-design", "version": oak_drum_document::VERSION, "woofer": {"name": "Nobody's", "fs_hz": 30},
        "enclosure": {"family": "sealed", "net_volume_l": 40}});
    let mut slip = bare.clone();
    slip["woofer"] = json!({"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530});
    slip["enclosure"] = json!({"family": "sealed", "net_volum_l": 40});
    for (path, body) in QUESTIONS {
        for (design, at) in [(&bare, "/woofer/"), (&slip, "/enclosure/net_volum")] {
            let answer = client.post(path, &body(design));
            let first = answer.body["errors"][0]["pointer"].as_str().unwrap_or_default();
            if answer.status != 422 || !first.starts_with(at) {
                wrong.push(format!("{path} refuses {at} with {} at {first}", answer.status));
            } else if let Err(why) = contract.holds(path, &answer) {
                wrong.push(why);
            }
        }
    }
}

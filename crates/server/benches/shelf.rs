//! The shelf as its user waits for it, over HTTP with a durable PostgreSQL: 5 000 rows taken in, the list fetched, and
//! 480 woofers tried (two families, one and two each). Prints seconds and the server's largest memory.

use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::fmt::Write;
use std::path::Path;
use std::time::{Duration, Instant};

fn rows(count: usize) -> String {
    let mut text = String::from(
        "name,maker,fs_hz,qms,qes,vas_l,re_ohm,nominal_ohm,sd_cm2,le_mh,xmax_mm,power_w,cutout_mm,depth_mm\n",
    );
    let spread = |i: usize, step: f64| (i as f64 * step).fract();
    for i in 0..count {
        let size = 6.0 + 15.0 * spread(i, 0.618_034);
        let sd = 3.3 * size * size + 20.0 * spread(i, 0.414_214);
        let _ = writeln!(
            text,
            "Bench {i},Nobody,{:.2},{:.2},{:.3},{:.1},{},{},{sd:.0},{:.2},{:.1},{:.0},{:.0},{:.0}",
            (58.0 - 1.6 * size) * (0.8 + 0.4 * spread(i, 0.732_051)),
            3.0 + 6.0 * spread(i, 0.236_068),
            0.25 + 0.45 * spread(i, 0.645_751),
            0.000_35 * sd * sd * (0.6 + 0.8 * spread(i, 0.316_625)),
            if i % 2 == 0 { 3.4 } else { 5.8 },
            if i % 2 == 0 { 4 } else { 8 },
            0.5 + 2.0 * spread(i, 0.141_593),
            4.0 + 0.8 * size * spread(i, 0.718_282),
            20.0 * size,
            size * 23.0,
            size * 12.0,
        );
    }
    text
}

fn main() {
    let cluster = Cluster::start(true).expect("a cluster");
    let binary = Path::new(env!("CARGO_BIN_EXE_oak-drum-server"));
    let server =
        Server::start(binary, &["--database", &cluster.url, "--listen", "127.0.0.1:0", "--demo"]).expect("a server");
    let agent = ureq::Agent::config_builder().http_status_as_error(false).build().new_agent();
    let url = |path: &str| format!("{}{path}", server.address);
    let get = |path: &str| -> Value {
        agent.get(url(path)).call().expect("an answer").body_mut().read_json().unwrap_or(Value::Null)
    };
    while agent.get(url("/api/health/ready")).call().expect("an answer").status() != 204 {
        std::thread::sleep(Duration::from_millis(100));
    }
    let begin = Instant::now();
    let mut answer = agent
        .post(url("/api/woofers/import?format=csv"))
        .header("content-type", "text/csv")
        .send(rows(5000))
        .expect("an answer");
    let text = answer.body_mut().read_to_string().expect("a body");
    println!(
        "5 000 rows taken in: {:.2} s ({})",
        begin.elapsed().as_secs_f64(),
        text.lines().last().unwrap_or_default()
    );
    let begin = Instant::now();
    let list = get("/api/woofers");
    let lines = list.as_array().expect("a list");
    println!("the list of {} woofers: {:.2} s", lines.len(), begin.elapsed().as_secs_f64());

    let build = get("/api/builds")[0]["id"].as_str().expect("a build").to_owned();
    let own: Vec<&Value> = lines.iter().filter(|l| l["row"]["maker"] == "Nobody").map(|l| &l["id"]).collect();
    for count in [60, 240, 480, 960] {
        let body = json!({
            "goal": {"lowest_note_hz": 30, "level_db": 105, "distance_m": 2, "largest_outside_l": 150,
                     "amplifier": {"power_w": 400, "load_ohm": 4, "minimum_load_ohm": 4}},
            "counts": [1, 2], "families": ["sealed", "vented"], "woofers": own.iter().step_by(5).take(count).collect::<Vec<_>>(),
        });
        let begin = Instant::now();
        let begun: Value = agent
            .post(url(&format!("/api/builds/{build}/trial")))
            .send_json(&body)
            .expect("an answer")
            .body_mut()
            .read_json()
            .expect("a trial");
        let id = begun["id"].as_str().expect("an id").to_owned();
        let done = loop {
            let now = get(&format!("/api/trials/{id}"));
            if now["state"] == "done" {
                break now;
            }
            std::thread::sleep(Duration::from_millis(50));
        };
        println!(
            "{count} woofers tried: {:.2} s, {} results, {} do what is asked, server at most {:.0} MB",
            begin.elapsed().as_secs_f64(),
            done["results"],
            done["meet"],
            server.most_memory_mb().unwrap_or(f64::NAN)
        );
    }
}

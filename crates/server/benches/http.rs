//! The evaluate call over HTTP on loopback, 512 frequencies, four clients at once; and a plain design beside eight of the worst.
//! Prints percentiles.

use oak_drum_testkit::Server;
use serde_json::{Value, json};
use std::path::Path;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::time::Instant;

const CLIENTS: usize = 4;
const CALLS: usize = 150;

fn main() {
    // Evaluation needs no store: the address of the database leads nowhere.
    let database = "postgres://nobody@127.0.0.1:1/none";
    let binary = Path::new(env!("CARGO_BIN_EXE_oak-drum-server"));
    let server = Server::start(binary, &["--database", database, "--listen", "127.0.0.1:0"]).expect("a server");
    let frequencies: Vec<Value> = (0..512).map(|i| json!(10.0 * 100f64.powf(f64::from(i) / 511.0))).collect();
    let design = json!({
        "format": "oak-drum-design", "version": 5,
        "brief": {"lowest_note_hz": 30, "level_db": 105, "distance_m": 2,
                  "amplifier": {"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4}},
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1,
                   "xmax_mm": 12, "power_w": 400},
        "enclosure": {"family": "vented", "net_volume_l": 90, "leak_q": 7, "absorption_q": 50, "port_q": 60,
                      "port": {"section": {"shape": "round", "diameter_mm": 124}, "count": 1,
                               "sizing": {"by": "tuning", "tuning_hz": 32}}},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 500, "panel_mm": 18, "baffle_mm": 18},
        "drive": {"kind": "voltage", "volts": 30},
        "frequencies_hz": frequencies,
    })
    .to_string();
    for question in ["curves", "evaluate?detail=lanes", "evaluate?detail=full"] {
        let url = format!("{}/api/{question}", server.address);
        let mut times: Vec<f64> = std::thread::scope(|scope| {
            let clients: Vec<_> = (0..CLIENTS)
                .map(|_| {
                    scope.spawn(|| {
                        let agent = ureq::Agent::config_builder().build().new_agent();
                        let call = || {
                            let begin = Instant::now();
                            let request = agent.post(&url).header("content-type", "application/json");
                            let mut answer =
                                request.header("accept-encoding", "gzip").send(&design).expect("an answer");
                            let bytes = answer.body_mut().read_to_vec().expect("a body").len();
                            (begin.elapsed().as_secs_f64() * 1e3, bytes)
                        };
                        (0..10).for_each(|_| _ = call());
                        (0..CALLS).map(|_| call().0).collect::<Vec<f64>>()
                    })
                })
                .collect();
            clients.into_iter().flat_map(|c| c.join().expect("a client")).collect()
        });
        times.sort_by(f64::total_cmp);
        let at = |share: f64| times[(times.len() as f64 * share) as usize];
        println!(
            "{question} over HTTP, 512 frequencies, {CLIENTS} clients at once: median {:.2} ms, 95th percentile {:.2} ms",
            at(0.5),
            at(0.95)
        );
    }
    beside_the_worst(&server.address);
}

/// A plain design evaluated again and again while eight askers keep asking for the worst: thirty-two woofers in a cabinet too
/// small for them, a line of forty stations with eight fills at twenty thousand frequencies.
fn beside_the_worst(address: &str) {
    let woofer = json!({"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "xmax_mm": 12});
    let design =
        |enclosure: Value| json!({"format": "oak-drum-design", "version": 5, "woofer": woofer, "enclosure": enclosure});
    let plain = design(json!({"family": "sealed", "net_volume_l": 60})).to_string();
    let mut crowd = design(json!({"family": "vented", "net_volume_l": 90, "port": {"count": 4,
        "section": {"shape": "round", "diameter_mm": 120}, "sizing": {"by": "tuning", "tuning_hz": 34}}}));
    crowd["array"] = json!({"count": 32, "woofers_in_series": 1});
    crowd["cabinet"] = json!({"width_mm": 420, "height_mm": 600, "depth_mm": 500, "panel_mm": 18, "baffle_mm": 18});
    let stations: Vec<Value> = (0..40).map(|i| json!({"at_mm": i * 100, "area_cm2": 400 + i % 7 * 30})).collect();
    let fills: Vec<Value> = (0..8)
        .map(|i| {
            json!({"from_mm": i * 400, "to_mm": i * 400 + 390,
            "stuffing": {"kind": "resistivity", "flow_resistivity_pa_s_per_m2": 900 + 100 * i}})
        })
        .collect();
    let mut line =
        design(json!({"family": "transmission_line", "length_mm": 3900, "woofer_at_mm": 0, "wall_losses": true,
        "fills": fills, "profile": {"shape": "free", "stations": stations}}));
    line["frequencies_hz"] = (0..20_000).map(|i| json!(5.0 + 0.04 * f64::from(i))).collect();
    let worst = [crowd.to_string(), line.to_string()];
    let url = format!("{address}/api/evaluate");
    let (done, answered) = (AtomicBool::new(false), AtomicUsize::new(0));
    let call = |body: &str| {
        let begin = Instant::now();
        let request = ureq::post(&url).header("content-type", "application/json");
        // a worst one may be told to come again
        if let Ok(mut answer) = request.send(body) {
            let _ = answer.body_mut().with_config().limit(100 << 20).read_to_vec();
        }
        begin.elapsed().as_secs_f64() * 1e3
    };
    let alone = median_and_95((0..200).map(|_| call(&plain)).collect());
    let beside = std::thread::scope(|scope| {
        for i in 0..8 {
            let (worst, done, answered, call) = (&worst[i % 2], &done, &answered, &call);
            scope.spawn(move || {
                while !done.load(Ordering::Relaxed) {
                    call(worst);
                    answered.fetch_add(1, Ordering::Relaxed);
                }
            });
        }
        std::thread::sleep(std::time::Duration::from_millis(500));
        let times = (0..200).map(|_| call(&plain)).collect();
        done.store(true, Ordering::Relaxed);
        median_and_95(times)
    });
    println!("a plain design alone: median {:.2} ms, 95th percentile {:.2} ms", alone.0, alone.1);
    println!(
        "beside eight of the worst ({} of them answered meanwhile): median {:.2} ms, 95th percentile {:.2} ms",
        answered.load(Ordering::Relaxed),
        beside.0,
        beside.1
    );
}

fn median_and_95(mut times: Vec<f64>) -> (f64, f64) {
    times.sort_by(f64::total_cmp);
    (times[times.len() / 2], times[times.len() * 95 / 100])
}

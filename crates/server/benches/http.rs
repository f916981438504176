//! The evaluate call over HTTP on loopback, 512 frequencies, four clients at once. Prints percentiles.

use oak_drum_testkit::Server;
use serde_json::{Value, json};
use std::path::Path;
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
        "format": "oak-drum-design", "version": 4,
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
    for detail in ["lanes", "full"] {
        let url = format!("{}/api/evaluate?detail={detail}", server.address);
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
            "evaluate over HTTP, 512 frequencies, {CLIENTS} clients at once, {detail}: median {:.2} ms, 95th percentile {:.2} ms",
            at(0.5),
            at(0.95)
        );
    }
}

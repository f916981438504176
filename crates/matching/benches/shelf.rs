//! Times the search over shelves of 60, 240, 480 and 960 woofers, two families, one and two woofers each, and reads
//! the most memory the process ever held. Ratios in one run; nothing is asserted.

use oak_drum_acoustics::driver::Woofer;
use oak_drum_matching::{Goal, Verdict, run};
use rayon::prelude::*;
use std::time::Instant;

/// An invented shelf: sizes from 6 to 21 in, with the figures such woofers have.
fn shelf(count: usize) -> Vec<Woofer> {
    // a low-discrepancy sequence instead of chance, so that every run tries the same woofers
    let spread = |i: usize, step: f64| (i as f64 * step).fract();
    (0..count)
        .map(|i| {
            let size = 6.0 + 15.0 * spread(i, 0.618_034);
            let sd = 3.3 * size * size + 20.0 * spread(i, 0.414_214);
            let fs = (58.0 - 1.6 * size) * (0.8 + 0.4 * spread(i, 0.732_051));
            Woofer {
                name: format!("Evaluator {i}"),
                size_in: Some(size),
                fs_hz: Some(fs),
                qms: Some(3.0 + 6.0 * spread(i, 0.236_068)),
                qes: Some(0.25 + 0.45 * spread(i, 0.645_751)),
                vas_l: Some(0.000_35 * sd * sd * (0.6 + 0.8 * spread(i, 0.316_625))),
                re_ohm: Some(if i % 2 == 0 { 3.4 } else { 5.8 }),
                nominal_ohm: Some(if i % 2 == 0 { 4.0 } else { 8.0 }),
                sd_cm2: Some(sd),
                le_mh: Some(0.5 + 2.0 * spread(i, 0.141_593)),
                xmax_mm: Some(4.0 + 0.8 * size * spread(i, 0.718_282)),
                power_w: Some(20.0 * size),
                cutout_mm: Some(size * 23.0),
                depth_mm: Some(size * 12.0),
                ..Woofer::default()
            }
        })
        .collect()
}

fn most_memory_mb() -> f64 {
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let line = status.lines().find(|l| l.starts_with("VmHWM")).unwrap_or_default();
    line.split_whitespace().nth(1).and_then(|kb| kb.parse::<f64>().ok()).unwrap_or(f64::NAN) / 1024.0
}

fn main() {
    let goal: Goal = serde_json::from_value(serde_json::json!({
        "lowest_note_hz": 30, "level_db": 105, "distance_m": 2, "largest_outside_l": 150,
        "amplifier": {"power_w": 400, "load_ohm": 4, "minimum_load_ohm": 4},
    }))
    .unwrap_or_else(|e| panic!("the bench's goal reads: {e}"));
    let families: Vec<String> = ["sealed", "vented"].map(str::to_owned).to_vec();
    let mut first = None;
    for count in [60, 240, 480, 960] {
        let woofers = shelf(count);
        let start = Instant::now();
        let kept: Vec<_> = woofers.par_iter().flat_map_iter(|w| run(&goal, w, &[1, 2], &families)).collect();
        let took = start.elapsed().as_secs_f64();
        let meet = kept.iter().filter(|o| o.verdict == Verdict::Meets).count();
        let each = took / count as f64;
        let ratio = each / *first.get_or_insert(each);
        println!(
            "{count} woofers, {} candidates: {took:.2} s ({meet} meet the goal), {ratio:.2} times the time a woofer of the first, {:.0} MB at most",
            kept.len(),
            most_memory_mb()
        );
    }
}

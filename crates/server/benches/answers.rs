//! What each demo design's answer costs on one core: reading, curves packed, findings, the whole; then designs of up to eight
//! woofers in and out of cabinets, the slowest first. Prints tables, asserts nothing. With a build's name as argument: its findings
//! rule by rule.

use oak_drum_design::analysis::Analysis;
use oak_drum_design::evaluation::findings::{case, rules};
use oak_drum_design::evaluation::{evaluate, packed};
use oak_drum_design::{airway, cabinet, found, outline, quiet};
use oak_drum_document::{Checked, Prices, read_value};
use serde_json::{Value, json};
use std::hint::black_box;
use std::time::Instant;

/// As the server has it.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn time(work: impl FnMut()) -> f64 {
    median_of(15, work)
}

/// Median of so many runs, ms.
fn median_of(runs: usize, mut work: impl FnMut()) -> f64 {
    work();
    let mut times: Vec<f64> = (0..runs)
        .map(|_| {
            let begin = Instant::now();
            work();
            begin.elapsed().as_secs_f64() * 1e3
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

fn main() {
    let wanted: Vec<String> = std::env::args().skip(1).filter(|a| !a.starts_with('-')).collect();
    let builds = oak_drum_store::demo::builds().expect("the demo");
    let designs: Vec<(String, Checked)> = builds
        .into_iter()
        .flat_map(|(name, list)| {
            list.into_iter().zip('A'..).map(move |(d, letter)| (format!("{name} {letter}"), d)).collect::<Vec<_>>()
        })
        .collect();
    if let Some(name) = wanted.first() {
        for (_, design) in designs.iter().filter(|(n, _)| n.contains(name.as_str())) {
            by_rule(design);
        }
        return;
    }
    println!(
        "demo designs, one core, ms: read | curves, packed | findings | whole as JSON | airway, quiet and cabinet as they follow a hand"
    );
    for (name, design) in &designs {
        row(name, design);
    }
    println!("up to eight woofers, findings, ms, the slowest ten:");
    let mut list: Vec<(f64, String)> = crowds(&designs)
        .iter()
        .map(|(name, d)| (median_of(3, || _ = black_box(found(d, &Prices::default()))), name.clone()))
        .collect();
    list.sort_by(|a, b| b.0.total_cmp(&a.0));
    for (ms, name) in list.iter().take(10) {
        println!("  {name:<60} {ms:8.2}");
    }
}

fn row(name: &str, design: &Checked) {
    let value = serde_json::to_value(design).expect("a document");
    let read = time(|| _ = black_box(read_value(value.clone())));
    let curves = time(|| _ = black_box(packed::pack(outline(design))));
    let findings = time(|| _ = black_box(found(design, &Prices::default())));
    let whole = time(|| {
        let mut result = evaluate(design);
        result.round(6);
        black_box(serde_json::to_string(&result).expect("JSON"));
    });
    let at_airway = time(|| _ = black_box(airway::airway_alone(design)));
    let at_quiet = time(|| _ = black_box(quiet::waves(design)));
    let at_cabinet = time(|| _ = black_box(cabinet::view::view(&Analysis::of(design))));
    println!(
        "  {name:<28} {read:7.3} {curves:7.3} {findings:7.3} {whole:7.3} {at_airway:7.3} {at_quiet:7.3} {at_cabinet:7.3}"
    );
}

fn by_rule(design: &Checked) {
    let analysis = Analysis::of(design);
    println!("{}: analysis {:.3} ms", design.name, time(|| _ = black_box(Analysis::of(design))));
    for (kind, _, rule) in rules() {
        let ms = time(|| {
            // what one rule found out another may use: a fresh one each time
            let analysis = Analysis::of(design);
            black_box(rule(&case(&analysis)));
        }) - time(|| _ = black_box(Analysis::of(design)));
        let found = rule(&case(&analysis));
        let remedies: usize = found.iter().map(|f| f.remedies.len()).sum();
        if ms > 0.02 {
            println!("  {kind:<28} {ms:8.3} ms   {} found, {remedies} remedies", found.len());
        }
    }
}

/// The demo's designs with more woofers, with cabinets too small or too full, with ports too long.
fn crowds(designs: &[(String, Checked)]) -> Vec<(String, Checked)> {
    let mut list = Vec::new();
    for (name, design) in designs {
        let document = serde_json::to_value(design).expect("a document");
        for count in [1, 2, 3, 4, 6, 8] {
            for (how, changes) in [
                ("as it is", vec![]),
                ("narrow", vec![("/cabinet/width_mm", json!(330)), ("/cabinet/depth_mm", json!(250))]),
                ("tuned low", vec![("/enclosure/port/sizing", json!({"by": "tuning", "tuning_hz": 14}))]),
                ("four ports", vec![("/enclosure/port/count", json!(4))]),
                ("driven hard", vec![("/drive", json!({"kind": "voltage", "volts": 70}))]),
                ("thin", vec![("/cabinet/panel_mm", json!(9)), ("/cabinet/baffle_mm", json!(9))]),
            ] {
                let mut made = document.clone();
                made["array"]["count"] = json!(count);
                made["array"]["woofers_in_series"] = json!(1);
                let mut fits = true;
                for (pointer, value) in changes {
                    match made.pointer_mut(pointer) {
                        Some(place) => *place = value,
                        None if pointer == "/drive" => made["drive"] = value,
                        None => fits = false,
                    }
                }
                if let Some(design) = Some(made).filter(|_| fits).and_then(|d: Value| read_value(d).ok()) {
                    list.push((format!("{name}, {count} woofers, {how}"), design));
                }
            }
        }
    }
    list
}

//! Folded paths against finite elements in two dimensions (testdata/folds/scikit-fem: script and versions there): what is fed
//! back to the acoustics, lengths, areas and bends, rings as the air between the boards does.

use oak_drum_cabinet::fold::{Fold, Leaves, Pattern, Plan, Runs};
use serde_json::{Value, json};
use std::path::Path;

/// Speed of sound the reference was computed with, m/s.
const C: f64 = 343.2;

fn plan(pattern: Pattern, leaves: Leaves, width: f64) -> Plan {
    Plan {
        pattern,
        runs: if pattern == Pattern::MirroredW { Runs::Level } else { Runs::Upright },
        starts_far: false,
        first_far: false,
        leaves,
        board: 18.0,
        room: [300.0, 900.0],
        corner: [18.0, 18.0],
        width,
        wall: 0.0,
        chamber: None,
        head: 0.0,
    }
}

/// Name, pattern, how it leaves, wanted areas, wanted length.
type Wish<'a> = (&'static str, Pattern, Leaves, &'a dyn Fn(f64) -> f64, f64);

fn cases() -> Vec<(&'static str, Plan, Fold)> {
    let straight = |_: f64| 26_000.0;
    let tapered = |s: f64| 36_000.0 - 22_000.0 * s;
    let widening = |s: f64| 16_000.0 * 3.0f64.powf(s);
    let list: [Wish; 7] = [
        ("straight U", Pattern::U, Leaves::Straight, &straight, 1900.0),
        ("tapered U, turned", Pattern::U, Leaves::Turned, &tapered, 1980.0),
        ("widening U", Pattern::U, Leaves::Straight, &widening, 1800.0),
        ("straight S", Pattern::S, Leaves::Straight, &straight, 2600.0),
        ("four lanes, tapered", Pattern::FourLanes, Leaves::Straight, &tapered, 3000.0),
        ("spiral", Pattern::Spiral, Leaves::Straight, &straight, 2500.0),
        ("widening S", Pattern::S, Leaves::Straight, &widening, 2400.0),
    ];
    list.into_iter()
        .map(|(name, pattern, leaves, profile, length)| {
            let mut plan = plan(pattern, leaves, 220.0);
            plan.room = plan.room_for(length, profile).unwrap().map(f64::round);
            let fold = plan.fold(profile).unwrap();
            (name, plan, fold)
        })
        .collect()
}

/// Mass of a right-angled bend against the squares of its centre line: 0.559 of each, as the acoustics counts it.
const BEND: f64 = 0.441;

/// Resonances of a fold closed at its beginning and open at its end, Hz: a chain of short ducts with the bends' masses taken
/// off, by the zeros of the flow at the closed end. The same arithmetic as the acoustics, written out plainly.
fn resonances(fold: &Fold, count: usize) -> Vec<f64> {
    let s = &fold.stations;
    let area = |x: f64, after: bool| {
        let i = s.partition_point(|p| if after { p[0] <= x + 1e-9 } else { p[0] < x - 1e-9 });
        match (i.checked_sub(1).map(|k| s[k]), s.get(i)) {
            (Some(a), Some(b)) if b[0] - a[0] > 1e-9 => a[1] + (b[1] - a[1]) * (x - a[0]) / (b[0] - a[0]),
            (Some(a), _) => a[1],
            (None, Some(b)) => b[1],
            (None, None) => 0.0,
        }
    };
    let mut marks: Vec<f64> = s.iter().map(|p| p[0]).collect();
    marks.dedup_by(|a, b| (*a - *b).abs() < 1e-9);
    // with e^{jωt}: from the closed end on, p real and U imaginary; U = j·q
    let end_pressure = |f: f64| {
        let k = std::f64::consts::TAU * f / (C * 1e3);
        let (mut p, mut q) = (1.0, 0.0);
        for pair in marks.windows(2) {
            let pieces = ((pair[1] - pair[0]) / 10.0).ceil();
            for i in 0..pieces as usize {
                let at = |i: f64| pair[0] + (pair[1] - pair[0]) * i / pieces;
                let (x1, x2) = (at(i as f64), at(i as f64 + 1.0));
                let a = 0.5 * (area(x1, true) + area(x2, false));
                let (c, d) = ((k * (x2 - x1)).cos(), (k * (x2 - x1)).sin());
                // in units of ρc: p' = p·cos + q·sin/a, q' = q·cos - p·a·sin
                (p, q) = (p * c + q * d / a, q * c - p * a * d);
            }
            for bend in fold.bends.iter().filter(|b| (b[0] - pair[1]).abs() < 1e-9) {
                // less mass: Δp = -jω·(-ρ·BEND·w/S)·U
                p -= q * k * BEND * bend[1] / area(pair[1], false);
            }
        }
        p
    };
    let mut found = Vec::new();
    let step = C * 1e3 / (4.0 * fold.length) / 40.0;
    let (mut f, mut before) = (step, end_pressure(step));
    while found.len() < count && f < 2000.0 {
        let after = end_pressure(f + step);
        if before * after < 0.0 {
            let (mut low, mut high) = (f, f + step);
            for _ in 0..50 {
                let middle = 0.5 * (low + high);
                if end_pressure(middle) * before > 0.0 { low = middle } else { high = middle }
            }
            found.push(0.5 * (low + high));
        }
        before = after;
        f += step;
    }
    found
}

#[test]
fn folds_ring_as_the_air_between_their_boards() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../testdata/folds/scikit-fem");
    let cases = cases();
    let plans: Vec<Value> = cases
        .iter()
        .map(|(name, plan, fold)| {
            json!({"name": name, "room": plan.room, "corner": plan.corner, "mouth": fold.mouths[0],
                   "boards": fold.boards.iter().map(|b| b.1).collect::<Vec<_>>()})
        })
        .collect();
    if std::env::var_os("OAK_DRUM_WRITE").is_some() {
        std::fs::write(folder.join("plans.json"), serde_json::to_string(&plans).unwrap() + "\n").unwrap();
    }
    let reference: Value = serde_json::from_str(&std::fs::read_to_string(folder.join("folds.json")).unwrap()).unwrap();
    let theirs = reference["cases"].as_array().unwrap();
    assert_eq!(theirs.len(), cases.len());
    for (((name, _, fold), plan), case) in cases.iter().zip(&plans).zip(theirs) {
        // the reference is of these very boards
        for (ours, stored) in plan["boards"].as_array().unwrap().iter().zip(case["boards"].as_array().unwrap()) {
            for (a, b) in ours
                .as_array()
                .unwrap()
                .iter()
                .flat_map(|p| p.as_array().unwrap())
                .zip(stored.as_array().unwrap().iter().flat_map(|p| p.as_array().unwrap()))
            {
                assert!((a.as_f64().unwrap() - b.as_f64().unwrap()).abs() < 1e-6, "{name}: make the reference anew");
            }
        }
        let ours = resonances(fold, 3);
        for (k, (a, b)) in ours.iter().zip(case["resonances_hz"].as_array().unwrap()).enumerate() {
            let off = a / b.as_f64().unwrap() - 1.0;
            assert!(off.abs() < 0.01, "{name}, resonance {}: {a:.2} against {b}", k + 1);
        }
    }
}

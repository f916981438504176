//! Folded paths against finite elements in two dimensions (testdata/folds/scikit-fem: script and versions there): what is fed
//! back to the acoustics, lengths, areas and bends, rings as the air between the boards does.

use num_complex::Complex64;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::path::{Bend, Path};
use oak_drum_cabinet::fold::{Fold, Leaves, Pattern, Plan, Runs};
use serde_json::{Value, json};

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
        ("four segments, tapered", Pattern::FourSegments, Leaves::Straight, &tapered, 3000.0),
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

/// Resonances of the fold as the acoustics has it, closed at its beginning and open without any correction at its end, Hz: where
/// the flow at the closed end vanishes with no pressure at the open one.
fn resonances(fold: &Fold, count: usize) -> Vec<f64> {
    let places = fold.stations.iter().map(|s| (s[0], s[1] * 1e-2)).collect();
    let bends: Vec<Bend> = fold.bends.iter().map(|b| Bend { at_mm: b[0], channel_mm: b[1] }).collect();
    let path = Path::new(places, &[], &bends, false);
    let chain = path.chain(&Air::given(C, 1.2041), 0.0, path.length());
    let flow = |f: f64| chain.matrix::<Complex64>(std::f64::consts::TAU * f)[3].re;
    let mut found = Vec::new();
    let step = C / (4.0 * path.length()) / 40.0;
    let (mut f, mut before) = (step, flow(step));
    while found.len() < count && f < 2000.0 {
        let after = flow(f + step);
        if before * after < 0.0 {
            // as good as straight over a fortieth of the first
            found.push(f + step * before / (before - after));
        }
        before = after;
        f += step;
    }
    found
}

#[test]
fn folds_ring_as_the_air_between_their_boards() {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../testdata/folds/scikit-fem");
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

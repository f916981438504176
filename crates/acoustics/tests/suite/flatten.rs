//! Bands that flatten a level, against the best that scipy finds from sixty starts (testdata/flatten/scipy) and what must hold.

use num_complex::Complex64;
use oak_drum_acoustics::filters::{Cascade, Filter};
use oak_drum_acoustics::flatten::{Curve, Flattened, Ranges, Wish, flatten};
use serde_json::Value;

fn list(value: &Value) -> Vec<f64> {
    value.as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect()
}

fn pair(value: &Value) -> [f64; 2] {
    list(value).try_into().unwrap()
}

/// What is minimised, from the bands alone.
fn cost(curve: &Curve, found: &Flattened, prefer_cuts: f64) -> f64 {
    let cascade = Cascade::of(&found.bands.iter().map(|b| Filter::Band(*b)).collect::<Vec<_>>());
    let left = |i: usize| {
        let lifted = 20.0 * cascade.response::<Complex64>(std::f64::consts::TAU * curve.hz[i]).norm().log10();
        (curve.level_db[i] + lifted - curve.target_db[i] - found.level_db).powi(2)
    };
    let total = (curve.hz[curve.hz.len() - 1] / curve.hz[0]).ln();
    let trapezoids = (1..curve.hz.len()).map(|i| 0.5 * (left(i - 1) + left(i)) * (curve.hz[i] / curve.hz[i - 1]).ln());
    let boosts = found.bands.iter().map(|b| b.level_db.max(0.0).powi(2));
    trapezoids.sum::<f64>() / total + prefer_cuts * boosts.sum::<f64>() / 36.0
}

/// Within 0.05 dB (as the root of what is minimised) of the best of sixty starts, with one band to five.
#[test]
fn as_good_as_scipys_best() {
    let data: Value = serde_json::from_str(include_str!("../../../../testdata/flatten/scipy/flatten.json")).unwrap();
    let hz = list(&data["hz"]);
    let prefer_cuts = data["prefer_cuts"].as_f64().unwrap();
    let range = |name: &str| pair(&data["ranges"][name]);
    let ranges = Ranges { hz: range("hz"), level_db: range("level_db"), q: range("q") };
    let target = vec![0.0; hz.len()];
    for case in data["cases"].as_array().unwrap() {
        let level = list(&case["level_db"]);
        let curve = Curve { hz: &hz, level_db: &level, target_db: &target, room_db: &[] };
        let wish = Wish { bands: case["bands"].as_u64().unwrap() as usize, ranges, level_db: None, prefer_cuts };
        let found = flatten(curve, &wish);
        let (ours, theirs) = (cost(&curve, &found, prefer_cuts).sqrt(), case["best"].as_f64().unwrap().sqrt());
        assert!(ours < theirs + 0.05, "{} with {} bands: {ours} against {theirs}", case["name"], case["bands"]);
        assert!(found.after_db <= found.before_db + 1e-9);
    }
}

/// Nothing is lifted past the room there is, by more than a tenth of a decibel.
#[test]
fn the_room_is_kept() {
    let hz: Vec<f64> = (0..61).map(|i| 20.0 * 6f64.powf(f64::from(i) / 60.0)).collect();
    let level: Vec<f64> = hz.iter().map(|f| 100.0 - 9.0 * (40.0 / f).log2().max(0.0)).collect();
    let room: Vec<f64> = hz.iter().map(|f| if *f < 30.0 { 1.0 } else { 4.0 }).collect();
    let target = vec![0.0; hz.len()];
    let ranges = Ranges { hz: [18.0, 80.0], level_db: [-12.0, 12.0], q: [0.3, 8.0] };
    let wish = Wish { bands: 3, ranges, level_db: Some(100.0), prefer_cuts: 0.0 };
    let free = flatten(Curve { hz: &hz, level_db: &level, target_db: &target, room_db: &[] }, &wish);
    let held = flatten(Curve { hz: &hz, level_db: &level, target_db: &target, room_db: &room }, &wish);
    let most = |found: &Flattened| {
        let cascade = Cascade::of(&found.bands.iter().map(|b| Filter::Band(*b)).collect::<Vec<_>>());
        let over = hz.iter().zip(&room).map(|(f, room)| 20.0 * cascade.at(*f).norm().log10() - room);
        over.fold(f64::NEG_INFINITY, f64::max)
    };
    assert!(most(&free) > 3.0, "{}", most(&free));
    assert!(most(&held) < 0.35, "{}", most(&held));
}

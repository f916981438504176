//! Filters against scipy's (testdata/filters/scipy: script and versions there), against worked figures and what must hold of any.

use num_complex::Complex64;
use oak_drum_acoustics::filters::digital::{Biquad, RATES, moved, response};
use oak_drum_acoustics::filters::slope::Slope;
use oak_drum_acoustics::filters::{Cascade, FILTERS, Filter};
use oak_drum_acoustics::filters::{high_pass::HighPass, low_pass::LowPass};
use proptest::prelude::*;
use serde_json::{Value, json};

fn list(value: &Value) -> Vec<f64> {
    value.as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect()
}

fn complex(value: &Value) -> Vec<Complex64> {
    list(&value["re"]).into_iter().zip(list(&value["im"])).map(|(re, im)| Complex64::new(re, im)).collect()
}

fn read(value: Value) -> Filter {
    serde_json::from_value(value).unwrap()
}

fn near(ours: Complex64, theirs: Complex64, relative: f64, what: &str) {
    assert!((ours - theirs).norm() <= relative * theirs.norm() + 1e-15, "{what}: {ours} against {theirs}");
}

/// Every prototype: its response within 1e-9, its poles within 1e-9, its group delay within a nanosecond, its biquads at three rates
/// within 1e-9 (at 3 and 10 Hz scipy's own zeros and poles lie so near one another that 1e-7 is asked for).
#[test]
fn every_prototype_is_scipys() {
    let data: Value = serde_json::from_str(include_str!("../../../../testdata/filters/scipy/filters.json")).unwrap();
    let frequencies = list(&data["frequency_hz"]);
    let mut kinds = Vec::new();
    for case in data["cases"].as_array().unwrap() {
        let what = case["filter"].to_string();
        let filter = read(case["filter"].clone());
        kinds.push(filter.info().id);
        let cascade = Cascade::of([&filter]);
        let delays = list(&case["group_delay_s"]);
        for ((f, theirs), delay) in frequencies.iter().zip(complex(case)).zip(delays) {
            near(cascade.at(*f), theirs, 1e-9, &what);
            let ours = cascade.group_delay(*f);
            assert!((ours - delay).abs() < 1e-9 + 1e-9 * delay.abs(), "{what} at {f} Hz: {ours} against {delay} s");
        }
        let mut poles: Vec<Complex64> = filter.sections().iter().flat_map(|s| s.poles()).collect();
        let theirs: Vec<Vec<f64>> = case["poles"].as_array().unwrap().iter().map(list).collect();
        assert_eq!(poles.len(), theirs.len(), "{what}");
        for p in theirs {
            let p = Complex64::new(p[0], p[1]);
            let nearest = (0..poles.len()).min_by(|a, b| (poles[*a] - p).norm().total_cmp(&(poles[*b] - p).norm()));
            near(poles.swap_remove(nearest.unwrap()), p, 1e-9, &what);
        }
        for digital in case["digital"].as_array().unwrap() {
            let rate = digital["rate"].as_f64().unwrap();
            let biquads: Vec<Biquad> = cascade.sections.iter().map(|s| Biquad::of(s, rate).unwrap()).collect();
            assert!(biquads.iter().all(Biquad::is_stable), "{what}");
            for (f, theirs) in frequencies.iter().zip(complex(digital)) {
                let within = if *f < 20.0 { 1e-7 } else { 1e-9 };
                near(response(&biquads, *f, rate), theirs, within, &format!("{what} at {f} Hz, {rate} Hz"));
            }
        }
    }
    // all that has a response of its own is among them
    for info in FILTERS.iter().filter(|f| !["delay", "polarity", "gain"].contains(&f.id)) {
        assert!(kinds.contains(&info.id), "{}", info.id);
    }
}

/// Coefficients by the cookbook's formulas worked out with alpha = sin w/(2Q) (Bristow-Johnson, from memory).
#[test]
fn coefficients_are_the_cookbooks() {
    let (rate, q, f0) = (48_000.0, 2.0, 30.0);
    let w = std::f64::consts::TAU * f0 / rate;
    let (alpha, a) = (w.sin() / (2.0 * q), 10f64.powf(6.0 / 40.0));
    let band = read(json!({"kind": "band", "frequency_hz": f0, "level_db": 6, "q": q}));
    let ours = Biquad::of(&band.sections()[0], rate).unwrap();
    let a0 = 1.0 + alpha / a;
    let theirs = [(1.0 + alpha * a) / a0, -2.0 * w.cos() / a0, (1.0 - alpha * a) / a0, (1.0 - alpha / a) / a0];
    for (ours, theirs) in [ours.b0, ours.b1, ours.b2, ours.a2].iter().zip(theirs) {
        assert!((ours - theirs).abs() < 1e-13, "{ours} against {theirs}");
    }
    assert_eq!(ours.a1, ours.b1);
}

/// What coarse coefficients do to a low cut of 20 Hz at 96 kHz: the poles crowd at z = 1, so that 1 + a1 + a2 is no more than ω0²/fs².
/// The figures are the poles numpy finds of scipy's own coefficients, rounded to 32-bit floats and to 2^-22.
#[test]
fn coarse_coefficients_move_a_low_filter() {
    let cut = read(json!({"kind": "high_pass", "frequency_hz": 20, "slope": {"shape": "butterworth", "order": 2}}));
    let exact = Biquad::of(&cut.sections()[0], 96_000.0).unwrap();
    let (f0, q) = exact.pole_pair(96_000.0).unwrap();
    assert!((f0 - 20.0).abs() < 1e-6 && (q - 0.5f64.sqrt()).abs() < 1e-6, "{f0} {q}");
    assert!((1.0 + exact.a1 + exact.a2 - (std::f64::consts::TAU * 20.0 / 96_000.0).powi(2)).abs() < 1e-8);
    for (rounded, f0, q) in [(exact.in_floats(), 20.0970, 0.71054), (exact.in_fixed_point(22), 19.7475, 0.69821)] {
        let found = rounded.pole_pair(96_000.0).unwrap();
        assert!((found.0 - f0).abs() < 5e-4 && (found.1 - q).abs() < 5e-5, "{found:?} against {f0} {q}");
    }
}

/// The bilinear transform moves frequencies and does nothing else.
#[test]
fn digital_is_analog_at_a_moved_frequency() {
    let pass = read(json!({"kind": "low_pass", "frequency_hz": 80, "slope": {"shape": "butterworth", "order": 2}}));
    let section = pass.sections()[0];
    for rate in RATES {
        let biquad = Biquad::of(&section, rate).unwrap();
        for f in [5.0, 80.0, 1000.0, 5000.0, 20_000.0] {
            let analog = Cascade::of([&pass]).at(moved(f, 80.0, rate));
            near(biquad.at(f, rate), analog, 1e-9, &format!("{f} Hz at {rate}"));
        }
    }
    assert_eq!(
        Biquad::of(&read(json!({"kind": "notch", "frequency_hz": 20_000, "q": 1})).sections()[0], 40_000.0),
        None
    );
}

fn a_slope() -> impl Strategy<Value = Slope> {
    prop_oneof![
        (1u32..9).prop_map(|order| Slope::Butterworth { order }),
        (1u32..9).prop_map(|order| Slope::Bessel { order }),
        (1u32..4).prop_map(|p| Slope::LinkwitzRiley { order: 1 << p }),
        (0.1..30.0).prop_map(|q| Slope::OwnQ { q }),
    ]
}

fn any_filter() -> impl Strategy<Value = Filter> {
    let q = 0.1..30.0;
    prop_oneof![
        (1.0..20_000.0, a_slope()).prop_map(|(frequency_hz, slope)| Filter::HighPass(HighPass { frequency_hz, slope })),
        (1.0..20_000.0, a_slope()).prop_map(|(frequency_hz, slope)| Filter::LowPass(LowPass { frequency_hz, slope })),
        (prop_oneof!["band", "low_shelf", "high_shelf"], 1.0..20_000.0, -24.0..24.0, q.clone())
            .prop_map(|(kind, f, g, q)| read(json!({"kind": kind, "frequency_hz": f, "level_db": g, "q": q}))),
        (prop_oneof!["all_pass", "notch"], 1.0..20_000.0, q.clone())
            .prop_map(|(kind, f, q)| read(json!({"kind": kind, "frequency_hz": f, "q": q}))),
        (1.0..200.0, q.clone(), 1.0..200.0, q).prop_map(|(a, b, c, d)| read(
            json!({"kind": "transform", "from_hz": a, "from_q": b, "to_hz": c, "to_q": d})
        )),
        (0.0..500.0).prop_map(|t| read(json!({"kind": "delay", "delay_ms": t}))),
        Just(read(json!({"kind": "polarity"}))),
        (-60.0..24.0).prop_map(|g| read(json!({"kind": "gain", "level_db": g}))),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(256))]

    /// Twenty filters of any kind give finite figures over the whole band, whatever their order; every pole lies in the left half
    /// plane, every biquad is stable, and what is written reads back the same.
    #[test]
    fn any_chain_is_sound(filters in prop::collection::vec(any_filter(), 1..21), f in 1.0..20_000.0) {
        let there = Cascade::of(&filters).at(f);
        prop_assert!(there.re.is_finite() && there.im.is_finite());
        prop_assert!(Cascade::of(&filters).group_delay(f).is_finite());
        let back = Cascade::of(filters.iter().rev()).at(f);
        prop_assert!((there - back).norm() <= 1e-9 * there.norm());
        for filter in &filters {
            prop_assert_eq!(*filter, read(serde_json::to_value(filter).unwrap()));
            for section in filter.sections() {
                prop_assert!(section.poles().iter().all(|p| p.re < 0.0));
                prop_assert!(RATES.iter().all(|rate| Biquad::of(&section, *rate).unwrap().is_stable()));
            }
        }
    }

    /// A cut undoes the boost of the same figures; a level of zero does nothing; an all-pass has no level.
    #[test]
    fn what_undoes_and_what_does_nothing(f0 in 1.0..2000.0, g in -24.0..24.0, q in 0.1..30.0, f in 1.0..2000.0) {
        for kind in ["band", "low_shelf", "high_shelf"] {
            let of = |g: f64| read(json!({"kind": kind, "frequency_hz": f0, "level_db": g, "q": q}));
            let both = Cascade::of([&of(g), &of(-g)]).at(f);
            prop_assert!((both - 1.0).norm() < 1e-9, "{kind}: {both}");
            prop_assert!((Cascade::of([&of(0.0)]).at(f) - 1.0).norm() < 1e-12);
        }
        let turn = read(json!({"kind": "all_pass", "frequency_hz": f0, "q": q}));
        prop_assert!((Cascade::of([&turn]).at(f).norm() - 1.0).abs() < 1e-9);
    }

    /// Linkwitz-Riley passes of one corner add up to a flat level (Linkwitz 1976), those of order 2 with one of them turned.
    #[test]
    fn linkwitz_riley_adds_up(f0 in 5.0..500.0, f in 1.0..2000.0, p in 1u32..4) {
        let slope = Slope::LinkwitzRiley { order: 1 << p };
        let low = Cascade::of([&Filter::LowPass(LowPass { frequency_hz: f0, slope })]).at(f);
        let high = Cascade::of([&Filter::HighPass(HighPass { frequency_hz: f0, slope })]).at(f);
        let sum = if p == 1 { low - high } else { low + high };
        prop_assert!((sum.norm() - 1.0).abs() < 1e-9);
    }
}

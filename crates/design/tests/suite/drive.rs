//! The electrical side of one worked driver in its boxes: figures computed outside this project by two independent routes (own
//! algebra with scipy.signal, and ngspice) that agree to 1e-6 or better.
//!
//! Driver: fs 30 Hz, Qes 0.40, Qms 5, Vas 120 L, Re 5.6 Ω, Sd 530 cm², Le 1.0 mH; c 343.2 m/s, ρ 1.2041 kg/m³.

use oak_drum_acoustics::amplifier::{Amplifier, Rating};
use oak_drum_acoustics::filters::slope::Slope;
use oak_drum_acoustics::heat::HeatPath;
use oak_drum_acoustics::outputs::LimitingFactor;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::drive::biquads::{Feedback, NoBiquads, biquads};
use oak_drum_design::drive::heat::{CoilHeat, power, told};
use oak_drum_design::drive::low_cut::low_cut;
use oak_drum_design::drive::parts::{PartsFound, PartsWish, parts};
use oak_drum_design::drive::suits::{Verdict, suits};
use oak_drum_design::drive::view::prices;
use oak_drum_design::evaluate;
use oak_drum_design::evaluation::Evaluation;
use oak_drum_document::{Checked, Stage, VERSION, read_value};
use serde_json::{Value, json};
use std::f64::consts::PI;

/// 90 L tuned to 32 Hz, QL 7, QA 50, QP 60, 120 cm².
pub fn vented() -> Value {
    document(json!({"family": "vented", "net_volume_l": 90, "leak_q": 7, "absorption_q": 50, "port_q": 60,
        "port": {"section": {"shape": "round", "diameter_mm": (4.0 * 0.012 / PI).sqrt() * 1e3},
                 "count": 1, "sizing": {"by": "tuning", "tuning_hz": 32}, "model": {"kind": "mass"}}}))
}

/// 60 L with QL 10.
fn sealed() -> Value {
    document(json!({"family": "sealed", "net_volume_l": 60, "leak_q": 10}))
}

fn document(enclosure: Value) -> Value {
    json!({"format": "oak-drum-design", "version": VERSION,
        "woofer": {"fs_hz": 30, "qes": 0.4, "qms": 5, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1},
        "enclosure": enclosure,
        "air": {"kind": "given", "speed_of_sound_m_per_s": 343.2, "density_kg_per_m3": 1.2041}})
}

/// With values set at places; parents are made.
pub fn with(mut document: Value, values: &[(&str, Value)]) -> Value {
    for (pointer, value) in values {
        let mut here = &mut document;
        for key in pointer.split('/').skip(1) {
            here = &mut here[key];
        }
        *here = value.clone();
    }
    document
}

pub fn read(document: Value) -> Checked {
    read_value(document).unwrap_or_else(|problems| panic!("{problems:?}"))
}

fn result(document: Value, frequencies: &[f64], values: &[(&str, Value)]) -> Evaluation {
    evaluate(&read(with(with(document, values), &[("/frequencies_hz", json!(frequencies))])))
}

fn near(ours: &[f64], theirs: &[f64], relative: f64) {
    assert_eq!(ours.len(), theirs.len());
    for (a, b) in ours.iter().zip(theirs) {
        assert!((a - b).abs() <= relative * b.abs(), "{ours:?} against {theirs:?}");
    }
}

fn two_filters() -> Value {
    json!([
        {"filter": {"kind": "high_pass", "frequency_hz": 25, "slope": {"shape": "butterworth", "order": 2}}},
        {"filter": {"kind": "band", "frequency_hz": 45, "level_db": -3, "q": 1.5}},
    ])
}

fn limits() -> Vec<(&'static str, Value)> {
    vec![
        ("/woofer/xmax_mm", json!(8)),
        ("/woofer/power_w", json!(200)),
        ("/brief/port_air_m_per_s", json!(17)),
        ("/chain/amplifier", json!({"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4})),
        ("/programme", json!({"from_hz": 15, "to_hz": 120})),
    ]
}

#[test]
fn filters_go_through_to_every_curve() {
    let at = [20.0, 32.0, 50.0, 100.0];
    let r = result(
        vented(),
        &at,
        &[("/drive", json!({"kind": "voltage", "volts": 20})), ("/chain/filters", two_filters())],
    );
    let c = &r.curves;
    near(&c.level_db, &[86.9651, 102.6390, 105.9807, 109.5229], 1e-6);
    near(&c.cone_excursion_mm, &[6.24751, 1.67592, 3.38883, 1.90455], 2e-6);
    near(&c.group_delay_ms, &[27.0243, 23.2722, 6.87473, 2.45252], 3e-6);
    near(&c.emf_v, &[10.3378, 14.4668, 14.1820, 19.1137], 4e-6);
    near(&c.real_power_w, &[3.19576, 27.6937, 5.91521, 37.4188], 3e-6);
    near(&c.coil_heat_w, &[0.77998, 20.5309, 1.12951, 34.2212], 8e-6);
    near(&c.air_speed_m_per_s, &[5.58529, 8.28946, 3.19383, 0.60115], 1e-5);
    // a filter that is off is no filter, and what is left out of account is told
    let mut off = two_filters();
    off.as_array_mut().unwrap().iter_mut().for_each(|f| f["off"] = json!(true));
    let bare = result(vented(), &at, &[("/drive", json!({"kind": "voltage", "volts": 20}))]);
    let silent = result(vented(), &at, &[("/drive", json!({"kind": "voltage", "volts": 20})), ("/chain/filters", off)]);
    assert_eq!(bare.curves.level_db, silent.curves.level_db);
    near(&c.unfiltered_level_db, &bare.curves.level_db, 1e-12);
    assert!(bare.curves.filter_db.is_empty() && silent.curves.filter_db.is_empty());
}

#[test]
fn the_loudest_of_a_sine_and_of_a_programme() {
    let at = [20.0, 32.0, 50.0, 100.0];
    for filters in [json!([]), two_filters()] {
        let r = result(vented(), &at, &[limits(), vec![("/chain/filters", filters)]].concat());
        // a sine's highest level does not know the filters
        let most: Vec<f64> = r.curves.max_level_db.iter().map(|l| l.unwrap()).collect();
        near(&most, &[89.1128, 108.8774, 113.4415, 117.1902], 1e-6);
        use LimitingFactor::{Excursion, PortAir, Thermal};
        assert_eq!(r.curves.max_level_ruled_by, [Excursion, PortAir, Excursion, Thermal]);
    }
    let plain = result(vented(), &at, &limits()).summary.drive.loudest.unwrap();
    near(&[plain.volts, plain.at_hz], &[9.75103, 15.0], 1e-6);
    let shaped = result(vented(), &at, &[limits(), vec![("/chain/filters", two_filters())]].concat());
    let shaped = shaped.summary.drive.loudest.unwrap();
    near(&[shaped.volts, shaped.at_hz], &[25.5282, 19.118], 3e-5);
    assert_eq!(shaped.limiting, LimitingFactor::Excursion);
    // the curves of a design driven as loud as it goes touch a limit there and nowhere pass it
    let loud = [limits(), vec![("/chain/filters", two_filters()), ("/drive", json!({"kind": "loudest"}))]].concat();
    let loud = result(vented(), &at, &loud);
    near(&[loud.conditions.volts], &[25.5282], 1e-5);
    assert!(loud.summary.drive.loudest.unwrap().over_drive_db.abs() < 1e-9);
    near(&loud.curves.loudest_level_db, &loud.curves.level_db, 1e-12);
    // where nothing ends it there is no such drive
    let endless = read_value(with(vented(), &[("/drive", json!({"kind": "loudest"}))])).unwrap_err();
    assert_eq!(endless[0].pointer, "/drive");
}

#[test]
fn parts_at_the_terminals() {
    let leads = ("/chain/cable", json!({"kind": "resistance", "lead_resistance_ohm": 0.1}));
    let volts = ("/drive", json!({"kind": "voltage", "volts": 10}));
    let at = [30.0, 60.0, 120.0];
    let low_pass = json!([
        {"placement": "in_line", "part": {"kind": "coil", "inductance_mh": 10, "coil_ohm": 0.4}},
        {"placement": "across", "part": {"kind": "capacitor", "capacitance_uf": 220, "loss_ohm": 0.05}},
    ]);
    let r = result(sealed(), &at, &[leads.clone(), volts.clone(), ("/chain/parts", low_pass)]);
    near(&r.curves.level_db, &[91.5278, 104.9828, 101.3160], 1e-6);
    near(&r.curves.terminal_v, &[9.16399, 16.3746, 7.63726], 4e-6);
    near(&r.curves.load_ohm, &[14.1200, 5.31802, 4.77245], 4e-6);
    near(&r.curves.load_phase_deg, &[26.038, -64.674, 63.780], 2e-5);

    let levelled = json!([
        {"placement": "in_line", "part": {"kind": "trap", "inductance_mh": 8, "coil_ohm": 0.3, "capacitance_uf": 500,
                                          "resistance_ohm": 8}},
        {"placement": "across", "part": {"kind": "zobel", "resistance_ohm": 5.6, "capacitance_uf": 31.887_755_1}},
    ]);
    let r = result(vented(), &at, &[leads, volts, ("/chain/parts", levelled)]);
    near(&r.curves.level_db, &[97.4634, 103.2739, 99.7327], 1e-6);
    near(&r.curves.load_ohm, &[8.15009, 19.0774, 9.96236], 4e-6);
}

/// 8 m of 16 gauge copper before the worked driver; a sealed lossless box without inductance taken to 25 Hz and 0.7071.
#[test]
fn leads_and_the_transform() {
    let wire = json!({"kind": "wire", "length_m": 8, "area_mm2": PI / 4.0 * 1.290_85f64.powi(2)});
    let r = result(vented(), &[50.0], &[("/chain/cable", wire)]);
    near(&[r.conditions.source_resistance_ohm], &[0.210_792], 1e-5);
    let qts = r.summary.figures.iter().find(|f| f.id == "qts_in_circuit").unwrap().value;
    near(&[qts], &[0.383_243], 1e-5);

    let lossless = with(
        document(json!({"family": "sealed", "net_volume_l": 60})),
        &[("/woofer/le_mh", json!(0)), ("/drive", json!({"kind": "voltage", "volts": 2.83}))],
    );
    let bare = result(lossless.clone(), &[25.0], &[]);
    let figure = |id: &str| bare.summary.figures.iter().find(|f| f.id == id).unwrap().value;
    let transform = json!([{"filter": {"kind": "transform", "from_hz": figure("fc_hz"), "from_q": figure("qtc"),
                                       "to_hz": 25, "to_q": 0.5f64.sqrt()}}]);
    let r = result(lossless, &[25.0], &[("/chain/filters", transform)]);
    assert!((r.curves.level_db[0] - r.summary.reference_level_db + 3.0103).abs() < 1e-4);
    assert!((r.curves.filter_db[0] - 10.3181).abs() < 1e-4, "{}", r.curves.filter_db[0]);
}

/// The lowest corners that keep the worked box's cone within 10 mm under its tuning at 30 V; from 10 mm per 1.194 mm/V on, none
/// is wanted.
#[test]
fn the_low_cut_that_saves_the_cone() {
    let at = |volts: f64| {
        let values = [
            ("/woofer/xmax_mm", json!(10)),
            ("/drive", json!({"kind": "voltage", "volts": volts})),
            ("/brief", json!({"lowest_note_hz": 32, "port_air_m_per_s": 100})),
        ];
        low_cut(&Analysis::of(&read(with(vented(), &values)))).unwrap()
    };
    let found = at(30.0);
    assert!(found.wanted);
    let corner = |order: u32| {
        let choice = found.choices.iter().find(|c| c.slope == Slope::Butterworth { order }).unwrap();
        assert!(choice.does && choice.holds_v >= 30.0);
        choice.frequency_hz
    };
    // told to a tenth of a hertz upward: 24.6183 and 22.8502 Hz
    near(&[corner(2), corner(4)], &[24.7, 22.9], 1e-9);
    // steeper costs less at the lowest note and adds more delay there
    let by = |order: u32| found.choices.iter().find(|c| c.slope == Slope::Butterworth { order }).unwrap();
    assert!(by(4).loss_db < by(2).loss_db && by(4).later_ms > by(2).later_ms);
    assert_eq!(found.choices[0].slope, Slope::Butterworth { order: 4 });
    // the cone's excursion toward 0 Hz is 1.194474 mm per volt in any vented box
    assert!(!at(10.0 / 1.194_474 * 0.97).wanted);
    let still = at(10.0 / 1.194_474 * 1.2);
    assert!(still.wanted);
}

/// An amplifier's own low cut is taken where it has one; where its highest corner does not do, the drive it holds to is told.
#[test]
fn a_low_cut_of_the_amplifiers_own() {
    let amplifier = |to: f64| {
        json!({"power_w": 112.5, "load_ohm": 8, "minimum_load_ohm": 4, "low_cut": {"from_hz": 15, "to_hz": to,
               "slopes": [{"shape": "butterworth", "order": 2}, {"shape": "own_q", "q": 1.2}]}})
    };
    let own = |to: f64| {
        let values = [
            ("/woofer/xmax_mm", json!(10)),
            ("/brief", json!({"lowest_note_hz": 32, "port_air_m_per_s": 100})),
            ("/drive", json!({"kind": "voltage", "volts": 12})),
            ("/chain/amplifier", amplifier(to)),
        ];
        let analysis = Analysis::of(&read(with(vented(), &values)));
        let found = low_cut(&analysis).unwrap();
        let done = analysis.with(&found.choices[0].changes).unwrap();
        (found, done)
    };
    let (found, done) = own(40.0);
    near(&[found.volts], &[30.0], 1e-9);
    assert_eq!(found.choices.len(), 2);
    let butterworth = found.choices.iter().find(|c| c.slope == Slope::Butterworth { order: 2 }).unwrap();
    near(&[butterworth.frequency_hz], &[24.7], 1e-9);
    assert_eq!((done.design.chain.filters.len(), done.design.chain.filters[0].stage), (1, Stage::Amplifier));
    // found again it takes the place of the one there is
    let again = done.with(&low_cut(&done).unwrap().choices[1].changes).unwrap();
    assert_eq!(again.design.chain.filters.len(), 1);
    assert_ne!(again.design.chain.filters, done.design.chain.filters);
    let (short, _) = own(20.0);
    assert!(short.choices.iter().all(|c| !c.does && c.frequency_hz == 20.0 && c.holds_v < 30.0));
}

/// Boosts are priced by the voltage they add: at its own frequency a boost of 6 dB takes four times the watts and twice the stroke; one
/// where a limit rules costs the loudest as much as it lifts.
#[test]
fn boosts_are_priced() {
    let boost =
        |hz: f64, db: f64| json!([{"filter": {"kind": "band", "frequency_hz": hz, "level_db": db, "q": 1.414}}]);
    let of = |hz: f64, db: f64| {
        let document = with(vented(), &[limits(), vec![("/chain/filters", boost(hz, db))]].concat());
        prices(&Analysis::of(&read(document))).remove(0)
    };
    let price = of(60.0, 6.0).unwrap();
    let quadruple = 10f64.powf(0.6);
    near(
        &[price.watts / price.watts_without, price.excursion_mm / price.excursion_without_mm],
        &[quadruple, quadruple.sqrt()],
        1e-9,
    );
    // the limit is met at 15 Hz, far from it
    assert!(price.level_cost_db.unwrap() < 0.6);
    let there = of(15.0, 6.0).unwrap();
    near(&[there.level_cost_db.unwrap()], &[6.0], 1e-6);
    assert_eq!(of(60.0, -6.0), None);
}

/// Any chain of any parts takes power and gives none back, and a ladder with all its parts off is none.
#[test]
fn parts_never_make_power() {
    let part = |kind: u64, x: f64| match kind % 6 {
        0 => json!({"kind": "coil", "inductance_mh": 0.1 + 40.0 * x, "coil_ohm": x}),
        1 => json!({"kind": "capacitor", "capacitance_uf": 1.0 + 2000.0 * x}),
        2 => json!({"kind": "resistor", "resistance_ohm": 0.5 + 20.0 * x}),
        3 => json!({"kind": "zobel", "resistance_ohm": 1.0 + 10.0 * x, "capacitance_uf": 1.0 + 100.0 * x}),
        4 => json!({"kind": "series_notch", "inductance_mh": 0.5 + 20.0 * x, "capacitance_uf": 10.0 + 900.0 * x}),
        _ => json!({"kind": "trap", "inductance_mh": 0.5 + 20.0 * x, "capacitance_uf": 10.0 + 900.0 * x,
                    "resistance_ohm": 1.0 + 30.0 * x}),
    };
    for seed in 0..40u64 {
        let next = |k: u64| (seed * 7 + k * 13) as f64 * 0.618_033_988_75 % 1.0;
        let parts: Vec<Value> = (0..1 + seed % 7)
            .map(|k| {
                let placement = if next(k + 3) < 0.5 { "in_line" } else { "across" };
                json!({"placement": placement, "part": part((next(k) * 60.0) as u64, next(k + 1))})
            })
            .collect();
        let at = [12.0, 33.0, 70.0, 180.0, 700.0];
        let r = result(vented(), &at, &[("/chain/parts", json!(parts))]);
        let c = &r.curves;
        for i in 0..at.len() {
            assert!(c.real_power_w[i] >= -1e-12 && c.real_power_w[i] <= c.apparent_power_va[i] * (1.0 + 1e-12));
            // the woofers take no more than the amplifier gives
            assert!(c.coil_heat_w[i] <= c.real_power_w[i] * (1.0 + 1e-9), "{parts:?}");
        }
        let off: Vec<Value> = parts
            .into_iter()
            .map(|mut p| {
                p["off"] = json!(true);
                p
            })
            .collect();
        let none = result(vented(), &at, &[("/chain/parts", json!(off))]);
        assert_eq!(none.curves.level_db, result(vented(), &at, &[]).curves.level_db);
        assert!(none.curves.load_ohm.is_empty());
    }
}

/// The worked box on a programme of 18 V rms from 20 to 160 Hz, 1.0 and 0.4 K/W, in air of 22 °C: the coil at rest, its heat, and what
/// that takes of the level; the amplifier worth having.
#[test]
fn a_programme_warms_the_coil() {
    let values = [
        ("/programme", json!({"spectrum": "programme", "from_hz": 20, "to_hz": 160, "minutes": 1440})),
        ("/woofer/power_w", json!(200)),
    ];
    let analysis = || Analysis::of(&read(with(vented(), &values)));
    let path = HeatPath { r1: 1.0, r2: 0.4, c1: 40.0, c2: 2000.0 };
    let view = told(analysis(), 18.0, Some(path), 22.0);
    let coil = view.coil.unwrap();
    near(&[coil.rest_c, coil.rest_w], &[57.9198, 25.6570], 2e-5);
    // after a day it is there
    near(&[coil.after_c], &[57.9198], 2e-5);
    for (hz, db) in [(20.0, 0.21528), (50.0, 0.21101), (100.0, 0.72839)] {
        let i = coil.frequency_hz.iter().position(|f| (f / hz - 1.0).abs() < 0.025).unwrap();
        assert!((coil.compression_db[i] - db).abs() < 0.03, "{hz} Hz: {} against {db}", coil.compression_db[i]);
    }
    // with an amplifier alone the highest level falls by what heat takes; with a stroke alone it stays, the volts rising with it
    let alone = |limit: (&'static str, Value)| {
        let quick = ("/brief/port_air_m_per_s", json!(120));
        let values = [values.to_vec(), vec![limit, quick, ("/woofer/power_w", Value::Null)]].concat();
        told(Analysis::of(&read(with(vented(), &values))), 18.0, Some(path), 22.0).coil.unwrap()
    };
    let amplifier = alone(("/chain/amplifier", json!({"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 0.25})));
    let stroke = alone(("/woofer/xmax_mm", json!(8)));
    for i in 0..amplifier.frequency_hz.len() {
        let fall = |c: &CoilHeat| c.max_level_db[i].unwrap() - c.max_level_hot_db[i].unwrap();
        assert!((fall(&amplifier) - amplifier.compression_db[i]).abs() < 1e-9);
        assert!(fall(&stroke).abs() < 1e-9);
    }
    assert!(coil.max_level_db.iter().all(Option::is_some), "a rated power limits everywhere");
    // what is taken goes somewhere: leads, heat and the rest, of which sound is part
    let watts = |title: &str| view.flow.iter().find(|f| f.title == title).unwrap().watts;
    assert!(watts("lost in leads and parts").abs() < 1e-9);
    assert!(watts("heat in the coils") + watts("sound") < watts("out of the amplifier"));

    let worth = told(Analysis::of(&read(with(vented(), &limits()))), 18.0, None, 20.0).worth.unwrap();
    near(&[worth.volts], &[34.2342], 1e-5);
}

/// Of amplifiers on a shelf: one of the worked voltage costs 1 dB; one that may not drive the load comes last, one far above or below
/// the coil is to be minded, and so is one without a low cut for a box that lets the cone go.
#[test]
fn amplifiers_are_judged_for_a_design() {
    let rated = |volts: f64, least: f64| Amplifier::rated(volts * volts / 8.0, 8.0, least);
    let design = read(with(vented(), &limits()));
    let one = suits(&design, &[rated(34.2342, 4.0)]);
    near(&[one.amplifiers[0].costs_db.unwrap()], &[1.0], 1e-4);
    // least impedance of this box: close above Re
    assert!(one.lowest_load_ohm > 5.6 && one.lowest_load_ohm < 6.5);
    let cut = oak_drum_acoustics::amplifier::Pass {
        from_hz: 15.0,
        to_hz: 40.0,
        slopes: vec![Slope::Butterworth { order: 4 }],
    };
    let able = |volts: f64, least: f64| Amplifier { low_cut: Some(cut.clone()), ..rated(volts, least) };
    let strong = Amplifier { second: Some(Rating { power_w: 9000.0, load_ohm: 4.0 }), ..able(200.0, 4.0) };
    let list = [able(60.0, 16.0), able(60.0, 4.0), able(6.0, 4.0), rated(60.0, 4.0), strong];
    let design = read(with(
        vented(),
        &[limits(), vec![("/woofer/power_w", json!(300)), ("/woofer/nominal_ohm", json!(8))]].concat(),
    ));
    let judged = suits(&design, &list);
    let of = |i: usize| judged.amplifiers.iter().find(|s| s.index == i).unwrap();
    let says = |i: usize, words: &str| of(i).reasons.iter().any(|r| r.contains(words));
    assert_eq!((judged.amplifiers[0].index, of(1).verdict), (1, Verdict::Suits), "{judged:#?}");
    assert!(of(0).verdict == Verdict::Not && says(0, "ohm") && judged.amplifiers[4].index == 0);
    assert!(of(2).verdict == Verdict::Mind && says(2, "clips first"));
    assert!(of(3).verdict == Verdict::Mind && says(3, "no low cut"));
    assert!(of(4).verdict == Verdict::Mind && says(4, "burns them"));
    // what it gives: 60 V over 8 ohm
    near(&[of(1).gives_w.unwrap()], &[450.0], 1e-9);
    // a level is that of the design with it, as loud as its programme may be
    let document = with(
        serde_json::to_value(&*design).unwrap(),
        &[
            ("/chain", json!({"amplifier": list[1]})),
            ("/drive", json!({"kind": "loudest"})),
            ("/frequencies_hz", json!([judged.note_hz])),
        ],
    );
    near(&[of(1).level_db.unwrap()], &[evaluate(&read(document)).curves.level_db[0]], 1e-9);
}

/// What is given over 0.85 and 8 W idle, for 5 h, on four fifths of what is written on the battery; with a charger it lasts longer, and a better box asks for less.
#[test]
fn an_evening_on_a_battery() {
    let amplifier = json!({"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4, "supply": "battery", "idle_w": 8, "efficiency": 0.85});
    let of = |charger: Option<f64>| {
        let battery = json!({"chemistry": "lithium", "capacity_wh": 500, "charger_w": charger});
        let values = [
            ("/chain/amplifier", amplifier.clone()),
            ("/chain/battery", battery),
            ("/programme", json!({"minutes": 300})),
        ];
        power(&read(with(vented(), &values)))
    };
    let view = of(None);
    let out = view.flow.iter().find(|f| f.title == "out of the amplifier").unwrap().watts;
    let supply = view.supply.clone().unwrap();
    near(
        &[supply.playing_w, supply.needed_wh, supply.capacity_wh[0]],
        &[out / 0.85 + 8.0, (out / 0.85 + 8.0) * 5.0, (out / 0.85 + 8.0) * 5.0 / 0.8],
        1e-12,
    );
    near(&[supply.lasts_h.unwrap()], &[400.0 / supply.playing_w], 1e-12);
    assert!(supply.if_3_db_more_efficient_wh < supply.needed_wh);
    assert!(of(Some(1000.0)).supply.unwrap().endless);
}

/// Parts found by solving, against the plain formulas where they hold: a pad, the network that levels a coil, and the one that levels
/// a sealed box's peak (Leach, from memory).
#[test]
fn parts_are_found_by_solving() {
    let of = |document: Value, wish: Value| {
        parts(&Analysis::of(&read(document)), &serde_json::from_value::<PartsWish>(wish).unwrap())
    };
    let fields = |found: &PartsFound, i: usize| serde_json::to_value(found.parts[i].part).unwrap();
    let value = |part: &Value, field: &str| part[field].as_f64().unwrap();

    // 6 dB on 8 ohm is 3.9905 and 8.0381 ohm
    let pad = of(
        with(sealed(), &[("/woofer/re_ohm", json!(8)), ("/woofer/le_mh", json!(0))]),
        json!({"kind": "pad", "softer_db": 6}),
    )
    .unwrap();
    near(
        &[value(&fields(&pad, 0), "resistance_ohm"), value(&fields(&pad, 1), "resistance_ohm")],
        &[3.9905, 8.0381],
        2e-3,
    );
    assert!(serde_json::from_value::<PartsWish>(json!({"kind": "pad", "softer_db": 6, "ohm": 4})).is_err());

    // 5.6 ohm and 1 mH with next to no motor behind them are levelled by 5.6 ohm and 31.9 uF
    let coil = of(with(sealed(), &[("/woofer/qes", json!(9.9))]), json!({"kind": "level_coil"})).unwrap();
    let network = fields(&coil, 0);
    near(&[value(&network, "resistance_ohm"), value(&network, "capacitance_uf")], &[5.6, 31.8878], 0.02);
    assert!(coil.left < 2.5, "{}", coil.left);

    // a sealed box without losses or inductance, as one resonance: L = Re·Qec/wc, C = 1/(wc·Qec·Re), R = Re(1 + Qec/Qmc)
    let lossless = with(document(json!({"family": "sealed", "net_volume_l": 60})), &[("/woofer/le_mh", json!(0))]);
    let peak = of(lossless, json!({"kind": "level_peak"})).unwrap();
    let notch = fields(&peak, 0);
    let (fc, ratio) = (30.0 * 3f64.sqrt(), 3f64.sqrt());
    let (qec, qmc, wc) = (0.4 * ratio, 5.0 * ratio, 2.0 * PI * fc);
    let all = value(&notch, "resistance_ohm") + value(&notch, "coil_ohm");
    near(
        &[value(&notch, "inductance_mh"), value(&notch, "capacitance_uf"), all],
        &[5.6 * qec / wc * 1e3, 1e6 / (wc * qec * 5.6), 5.6 * (1.0 + qec / qmc)],
        6e-3,
    );
    assert!(peak.left < 1.0);

    // a second-order pass falls as meant with the real, rising, resonant impedance
    let low = of(sealed(), json!({"kind": "low_pass_second", "corner_hz": 160})).unwrap();
    assert!(low.left < 2.0, "{}", low.left);
    // a flat level has no peak to trap, a vented box no one peak to level
    assert_eq!(of(sealed(), json!({"kind": "trap", "peak_hz": 600})).unwrap_err().pointer, "/peak_hz");
    assert!(of(vented(), json!({"kind": "level_peak"})).is_err());
}

/// Files for a digital equaliser: the two signs say the same, the text reads back to the last bit, the impulse response is that of the
/// filters, a filter above half the rate is named.
#[test]
fn biquads_leave_the_door() {
    let design = |filters: Value| read(with(vented(), &[("/chain/filters", filters)]));
    let two = design(two_filters());
    let line = &[Stage::Line];
    let plain = biquads(&two, line, 48_000.0, Feedback::Subtracted).unwrap();
    let turned = biquads(&two, line, 48_000.0, Feedback::Added).unwrap();
    assert_eq!(plain.sections.len(), 2);
    for (a, b) in plain.sections.iter().zip(&turned.sections) {
        assert_eq!((a.biquad.a1, a.biquad.a2, a.biquad.b0), (-b.biquad.a1, -b.biquad.a2, b.biquad.b0));
    }
    assert_eq!(plain.impulse(512), turned.impulse(512));
    // y of one sample is b0·b0', and the sum of all of it is H at 0 Hz, where a high pass has none
    let impulse = plain.impulse(96_000);
    near(&[impulse[0]], &[plain.sections[0].biquad.b0 * plain.sections[1].biquad.b0], 1e-12);
    assert!(impulse.iter().sum::<f64>().abs() < 1e-6);
    // the text holds every bit
    let rows: Vec<&str> = plain.csv().leak().lines().skip(2).collect();
    let read: Vec<f64> = rows[0].split(',').skip(1).map(|x| x.parse().unwrap()).collect();
    let b = plain.sections[0].biquad;
    assert_eq!(read, [b.b0, b.b1, b.b2, b.a1, b.a2]);
    assert!(plain.csv().contains("taken off") && turned.text().contains("added"));
    let wav = plain.wav(4800).unwrap();
    let mut reader = hound::WavReader::new(&wav[..]).unwrap();
    assert_eq!((reader.spec().sample_rate, reader.len()), (48_000, 4800));
    let first = reader.samples::<f32>().next().unwrap().unwrap();
    assert_eq!(first, impulse[0] as f32);

    let above = design(json!([{"filter": {"kind": "band", "frequency_hz": 20_000, "level_db": 3, "q": 1}}]));
    assert!(biquads(&above, line, 44_100.0, Feedback::Subtracted).is_ok());
    let filter = json!({"kind": "notch", "frequency_hz": 20_000, "q": 1});
    let notched = design(json!([{ "filter": filter }]));
    assert!(biquads(&notched, line, 44_100.0, Feedback::Subtracted).is_ok());
    assert!(matches!(biquads(&two, line, 32_000.0, Feedback::Subtracted), Err(NoBiquads::Rate(_))));
    assert!(biquads(&two, &[Stage::Amplifier], 48_000.0, Feedback::Subtracted).unwrap().sections.is_empty());
}

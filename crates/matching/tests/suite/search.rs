//! The search against a brute-force grid, its rules in action, and that it repeats itself.

use oak_drum_acoustics::amplifier::Amplifier;
use oak_drum_acoustics::driver::{VoiceCoils, Woofer};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::evaluation::evaluate;
use oak_drum_document::{Chain, read_value};
use oak_drum_matching::rules::cost;
use oak_drum_matching::{Candidate, Evaluator, Goal, Outcome, PortAir, Verdict, run, search};
use rayon::prelude::*;
use serde_json::json;

fn goal() -> Goal {
    serde_json::from_value(json!({
        "lowest_note_hz": 30, "level_db": 104, "distance_m": 2, "largest_outside_l": 140,
        "chain": {"amplifier": {"power_w": 300, "load_ohm": 4, "minimum_load_ohm": 4}},
    }))
    .unwrap()
}

/// Twelve invented woofers from 6.5 to 18 in.
fn shelf() -> Vec<Woofer> {
    let sheet =
        |(name, fs, qms, qes, vas, re, sd, le, xmax, power): (&str, f64, f64, f64, f64, f64, f64, f64, f64, f64)| {
            Woofer {
                name: name.into(),
                fs_hz: Some(fs),
                qms: Some(qms),
                qes: Some(qes),
                vas_l: Some(vas),
                re_ohm: Some(re),
                sd_cm2: Some(sd),
                le_mh: Some(le),
                xmax_mm: Some(xmax),
                power_w: Some(power),
                nominal_ohm: Some(if re > 4.5 { 8.0 } else { 4.0 }),
                cutout_mm: Some((sd * 1.27f64).sqrt() * 11.0),
                depth_mm: Some((sd * 1.27f64).sqrt() * 5.0),
                ..Woofer::default()
            }
        };
    [
        ("six", 45.0, 4.2, 0.44, 11.5, 3.3, 136.0, 0.4, 6.0, 80.0),
        ("six, soft", 33.0, 3.1, 0.38, 17.0, 5.7, 130.0, 0.5, 9.0, 100.0),
        ("eight", 34.0, 5.1, 0.41, 31.0, 5.6, 220.0, 0.9, 8.5, 150.0),
        ("eight, stiff", 52.0, 6.0, 0.72, 12.0, 3.4, 214.0, 1.1, 7.0, 200.0),
        ("ten", 28.0, 5.0, 0.45, 62.0, 3.6, 345.0, 1.4, 12.0, 300.0),
        ("ten, strong", 31.0, 4.4, 0.27, 48.0, 5.5, 340.0, 0.8, 10.0, 250.0),
        ("twelve", 24.0, 6.0, 0.42, 120.0, 5.6, 520.0, 1.2, 13.0, 400.0),
        ("twelve, car", 32.0, 7.5, 0.61, 45.0, 3.2, 480.0, 2.2, 16.0, 500.0),
        ("twelve, stage", 42.0, 6.5, 0.33, 95.0, 5.4, 530.0, 0.9, 6.0, 350.0),
        ("fifteen", 21.0, 5.2, 0.36, 260.0, 5.8, 850.0, 1.9, 12.0, 500.0),
        ("fifteen, stage", 36.0, 7.0, 0.29, 190.0, 5.2, 880.0, 1.0, 8.0, 600.0),
        ("eighteen", 27.0, 8.0, 0.33, 310.0, 5.1, 1180.0, 2.1, 11.0, 800.0),
    ]
    .into_iter()
    .map(sheet)
    .collect()
}

/// Least cost on a dense grid over the same space, among boxes that keep the bounds.
fn brute_force(goal: &Goal, candidate: &Candidate, steps: usize) -> Option<f64> {
    let evaluator = Evaluator::new(goal, candidate).ok()?;
    let axes = evaluator.axes.len() as u32;
    (0..steps.pow(axes))
        .into_par_iter()
        .filter_map(|mut index| {
            let place: Vec<f64> = (0..axes)
                .map(|_| {
                    let step = index % steps;
                    index /= steps;
                    step as f64 / (steps - 1) as f64
                })
                .collect();
            let wired = evaluator.wire(goal, &evaluator.enclosure(candidate.family, &place)?);
            let trial = evaluator.try_box(&wired);
            let kept =
                trial.outside_l <= goal.largest_outside_l && (!goal.port_fits || trial.room.is_none_or(|r| r >= 0.0));
            kept.then(|| cost(&trial, goal))
        })
        .reduce_with(f64::min)
}

/// Never more than 1 % worse than the best of 24 389 boxes (vented), 2 000 (sealed) or 3 600 (passive radiator), for twelve woofers, alone and
/// in pairs, under two briefs.
#[test]
fn no_grid_finds_a_better_box() {
    let small =
        Goal { largest_outside_l: 45.0, level_db: 98.0, lowest_note_hz: 38.0, port_air: PortAir::Contest, ..goal() };
    let mut worst: f64 = 0.0;
    for goal in [goal(), small] {
        for woofer in &shelf() {
            for (family, steps) in [("sealed", 2000), ("vented", 29), ("passive_radiator", 60)] {
                for count in [1, 2] {
                    let candidate = Candidate { woofer, count, family };
                    let found = search(&goal, &candidate);
                    let Some(best) = brute_force(&goal, &candidate, steps) else {
                        let none = matches!(found.verdict, Verdict::NoFit | Verdict::NotTried);
                        assert!(none, "{} {family}: {found:?}", woofer.name);
                        continue;
                    };
                    let mine = found.cost_db.unwrap_or(f64::INFINITY);
                    worst = worst.max(mine / best - 1.0);
                    assert!(
                        mine <= best * 1.01,
                        "{count} {} {family}: {mine} against {best}; {}",
                        woofer.name,
                        found.reason
                    );
                }
            }
        }
    }
    println!("the grid's best is beaten or met within {:.2} %", worst * 100.0);
}

#[test]
fn the_same_question_has_the_same_answer() {
    let families = ["sealed".to_owned(), "vented".to_owned()];
    let all = |threads: usize| -> Vec<Outcome> {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
        pool.install(|| shelf().par_iter().flat_map_iter(|w| run(&goal(), w, &[1, 2], &families)).collect())
    };
    assert_eq!(all(1), all(3));
}

fn one(goal: &Goal, name: &str, count: u32, family: &str) -> Outcome {
    let shelf = shelf();
    let woofer = shelf.iter().find(|w| w.name == name).unwrap();
    search(goal, &Candidate { woofer, count, family })
}

#[test]
fn reasons_say_why() {
    let loud = Goal { level_db: 118.0, chain: Chain::default(), ..goal() };
    let short = one(&loud, "eight", 1, "sealed");
    assert_eq!(short.verdict, Verdict::Short);
    assert!(
        short.reason.contains("runs out of stroke at 30 Hz") && short.reason.metric().ends_with("dB short"),
        "{}",
        short.reason
    );
    assert!((short.charges_db.iter().sum::<f64>() - short.cost_db.unwrap()).abs() < 1e-12);

    // a quarter cubic foot at 45 Hz from one 6.5 in woofer wants a port that finds no room (common practice)
    let tiny = Goal { largest_outside_l: 11.0, lowest_note_hz: 42.0, level_db: 97.0, ..goal() };
    let wanted = one(&tiny, "six", 1, "vented");
    assert!(wanted.verdict == Verdict::NoFit || wanted.port_length_mm.unwrap() < 300.0, "{wanted:?}");

    let strict =
        Goal { chain: Chain { amplifier: Some(Amplifier::rated(100.0, 8.0, 8.0)), ..Chain::default() }, ..goal() };
    let refused = one(&strict, "ten", 1, "sealed");
    assert_eq!(
        (refused.verdict, refused.reason.metric().as_str()),
        (Verdict::NotTried, "its load is too low for the amplifier")
    );
    // two in series make 8 ohm
    assert_eq!(one(&strict, "ten", 2, "sealed").array.unwrap().woofers_in_series, 2);
    let mut unlimited = shelf().remove(0);
    unlimited.xmax_mm = None;
    let unknown = search(&goal(), &Candidate { woofer: &unlimited, count: 1, family: "sealed" });
    assert!(unknown.reason.contains("Xmax"), "{}", unknown.reason);
}

/// Two woofers of two 4 ohm coils on an amplifier for 4 ohm: coils in series, woofers in parallel, or the other way
/// round (common practice).
#[test]
fn dual_coils_are_wired_to_the_amplifier() {
    let mut dual = shelf().remove(4);
    dual.coils = VoiceCoils::Dual;
    let found = search(&goal(), &Candidate { woofer: &dual, count: 2, family: "sealed" });
    let array = found.array.unwrap();
    let context = Evaluator::new(&goal(), &Candidate { woofer: &dual, count: 2, family: "sealed" }).unwrap().context;
    assert!((context.array.resistance() - 3.6).abs() < 1e-9, "{array:?}");
}

/// An outcome opens as a design that reads, and what was promised is what the evaluation computes.
#[test]
fn an_outcome_opens_as_a_design() {
    let goal = goal();
    for woofer in &shelf() {
        for family in ["sealed", "vented"] {
            let candidate = Candidate { woofer, count: 1, family };
            let found = search(&goal, &candidate);
            let Some(design) = found.design(&goal, &candidate) else { continue };
            let read = read_value(serde_json::to_value(&design).unwrap()).unwrap_or_else(|p| panic!("{p:?}"));
            let evaluation = evaluate(&read);
            let f3 = |x: Option<f64>| x.map(|f| (f * 1e6).round());
            assert_eq!(f3(evaluation.summary.f3_hz), f3(found.f3_hz));
            let analysis = Analysis::of(&read);
            let spread = 20.0 * (goal.distance_m / 1.0).log10();
            let highest =
                goal.band().iter().map(|f| analysis.at(*f).max_level_db[0] - spread).fold(f64::INFINITY, f64::min);
            assert!((highest - goal.level_db - found.spare_db.unwrap()).abs() < 1e-6, "{}", woofer.name);
        }
    }
}

/// More room, more woofers, no port to house: none of them makes a best box worse.
#[test]
fn freedom_never_costs() {
    let close = goal();
    let free = Goal { port_fits: false, ..goal() };
    for woofer in &shelf() {
        let cost = |goal: &Goal| {
            let found = search(goal, &Candidate { woofer, count: 1, family: "vented" });
            if found.verdict == Verdict::NoFit { f64::INFINITY } else { found.cost_db.unwrap_or(f64::INFINITY) }
        };
        assert!(cost(&free) <= cost(&close) * 1.01, "{}: {} against {}", woofer.name, cost(&free), cost(&close));
    }
}

/// What a room adds counts as level: with 6 dB everywhere the same woofers reach 6 dB more, and between its frequencies it is straight.
#[test]
fn a_room_adds_to_the_level() {
    let shelf = shelf();
    let candidate = Candidate { woofer: &shelf[5], family: "sealed", count: 1 };
    let lifted = Goal { room_adds_db: vec![6.0; 16], ..goal() };
    let of = |goal: &Goal| {
        let evaluator = Evaluator::new(goal, &candidate).unwrap();
        let enclosure = evaluator.enclosure("sealed", &vec![0.5; evaluator.axes.len()]).unwrap();
        let wired = evaluator.wire(goal, &enclosure);
        evaluator.try_box(&wired)
    };
    let (open, room) = (of(&goal()), of(&lifted));
    assert!((room.worst.level_db - open.worst.level_db - 6.0).abs() < 1e-9);
    assert!((room.swing_db - open.swing_db).abs() < 1e-9);
    let sloped = Goal { room_adds_db: (0..16).map(f64::from).collect(), ..goal() };
    assert_eq!((sloped.room_at(5.0), sloped.room_at(1000.0)), (0.0, 15.0));
    let between = sloped.room_at(30.0 * 4f64.powf(7.5 / 15.0));
    assert!((between - 7.5).abs() < 1e-9);
}

/// Lines, horns and bandpasses of the sixth order too: the cost is never more than a twentieth over the best of a dense grid (under 1 dB,
/// 0.05 dB), and what does all that is asked stays within the size it may have.
#[test]
fn paths_and_two_ports_are_searched() {
    let goal = Goal { largest_outside_l: 400.0, lowest_note_hz: 40.0, level_db: 100.0, ..goal() };
    let shelf = shelf();
    for woofer in [&shelf[4], &shelf[8]] {
        for (family, steps) in [
            ("transmission_line", 24),
            ("tapped_horn", 24),
            ("back_horn", 24),
            ("front_horn", 10),
            ("bandpass_sixth", 7),
        ] {
            let candidate = Candidate { woofer, count: 1, family };
            let found = search(&goal, &candidate);
            let Some(best) = brute_force(&goal, &candidate, steps) else {
                assert!(matches!(found.verdict, Verdict::NoFit | Verdict::NotTried), "{family}: {found:?}");
                continue;
            };
            let mine = found.cost_db.unwrap_or(f64::INFINITY);
            assert!(mine <= best + 0.05 * best.max(1.0), "{} {family}: {mine} against {best}", woofer.name);
            // it stays within what it may take, the horn's own air counted
            let outside = found.outside_l.unwrap_or(f64::INFINITY);
            assert!(
                outside <= goal.largest_outside_l * 1.001 || !matches!(found.verdict, Verdict::Meets),
                "{family}: {outside} L"
            );
        }
    }
}

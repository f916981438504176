//! How fast one vented box is computed, against ngspice as a whole process and against a vectorised numpy solution
//! in a warm interpreter, in one run on one machine. Prints a table; asserts only that all three agree.

#[path = "../tests/suite/netlist/mod.rs"]
mod netlist;

use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::amplifier::Amplifier;
use oak_drum_acoustics::driver::{Arrangement, Array};
use oak_drum_acoustics::families::Context;
use oak_drum_acoustics::level::{SolidAngle, log_frequencies};
use oak_drum_acoustics::outputs::{Conditions, Limits, Reference, Sweep};
use oak_drum_acoustics::source::Source;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::analysis::inside::Shell;
use oak_drum_design::drive::flattening::{FlattenWish, flattened};
use oak_drum_design::drive::low_cut::low_cut;
use oak_drum_design::drive::suits::suits;
use oak_drum_design::enclosure::tolerance::{Tolerances, tolerance};
use oak_drum_design::evaluation::evaluate;
use oak_drum_design::{airway, cabinet, quiet, room};
use oak_drum_document::{Checked, Design, read_value};
use serde_json::{Value, json};
use std::hint::black_box;
use std::process::Command;
use std::time::Instant;

fn document(model: &str) -> Value {
    let model = match model {
        "mass" => json!({"kind": "mass"}),
        _ => json!({"kind": "duct", "wall_losses": true, "end_radiation": true}),
    };
    json!({
        "format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1,
                   "xmax_mm": 12, "power_w": 400},
        "enclosure": {"family": "vented", "net_volume_l": 90, "leak_q": 7, "absorption_q": 50, "port_q": 60,
                      "port": {"section": {"shape": "round", "diameter_mm": 123.607_744_64}, "count": 1,
                               "sizing": {"by": "tuning", "tuning_hz": 32}, "model": model}},
        "drive": {"kind": "voltage", "volts": 2.83},
        "air": {"kind": "given", "speed_of_sound_m_per_s": netlist::C, "density_kg_per_m3": netlist::RHO},
    })
}

fn median(mut times: Vec<f64>) -> f64 {
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

fn time(runs: usize, mut work: impl FnMut()) -> f64 {
    work();
    let once = |work: &mut dyn FnMut()| {
        let begin = Instant::now();
        work();
        begin.elapsed().as_secs_f64()
    };
    median((0..runs).map(|_| once(&mut work)).collect())
}

/// Wiring, band edges and every curve with every limit.
fn sweep(design: &Design, list: &[f64]) -> f64 {
    let air = Air::from(&design.air);
    let one = design.woofer.resolve(&air).expect("a full set");
    let context = Context::new(air, Array::new(&one, &air, &Arrangement::plain(1)), Source::new(2.83, 0.0));
    let limits = Limits { heat: Some(400.0), excursion: Some(0.012), volts: Some(45.0), amperes: Some(12.0) };
    let conditions = Conditions { air, distance: 1.0, solid_angle: SolidAngle::Half, limits };
    let wired = design.enclosure.wire(&context);
    let mut sweep = Sweep::new(&wired.network, conditions);
    black_box(sweep.band_edges(context.array.ts.fs, Reference::Efficiency));
    black_box(sweep.curves(list)).level_db[0]
}

fn main() {
    let list = log_frequencies(10.0, 1000.0, 1000);
    let (mass, duct) = (read_value(document("mass")).unwrap(), read_value(document("duct")).unwrap());
    let ours_mass = time(2001, || _ = black_box(sweep(&mass, &list)));
    let ours_duct = time(2001, || _ = black_box(sweep(&duct, &list)));
    let asked = duct.clone().at(list.clone());
    let whole = time(301, || _ = black_box(evaluate(&asked)));
    println!("1000 frequencies, all outputs, one core, median of many runs:");
    println!("  vented, port as a mass                 {:8.4} ms", ours_mass * 1e3);
    println!("  vented, port as a duct with losses     {:8.4} ms", ours_duct * 1e3);
    println!("  the same with findings and remedies    {:8.4} ms", whole * 1e3);

    let folder = std::env::temp_dir();
    let (circuit, output) = (folder.join("oak-drum-bench.cir"), folder.join("oak-drum-bench.txt"));
    // 500 a decade over two decades: 1001 frequencies
    let net = netlist::netlist(&document("mass"), "ac dec 500 10 1000", output.to_str().unwrap());
    std::fs::write(&circuit, net).unwrap();
    let spice = || Command::new("ngspice").arg("-b").arg(&circuit).output();
    if spice().is_ok() {
        let theirs = time(15, || _ = spice().unwrap());
        println!(
            "  ngspice, whole process                 {:8.4} ms   {:6.0} times ours",
            theirs * 1e3,
            theirs / ours_mass
        );
    } else {
        println!("  ngspice is not installed");
    }
    let script = concat!(env!("CARGO_MANIFEST_DIR"), "/benches/nodal.py");
    let python = std::env::var("OAK_DRUM_PYTHON").unwrap_or_else(|_| "/usr/bin/python3".into());
    match Command::new(python).arg(script).env("OPENBLAS_NUM_THREADS", "1").output() {
        Ok(answer) if answer.status.success() => {
            let text = String::from_utf8_lossy(&answer.stdout).into_owned();
            let figures: Vec<f64> = text.split_whitespace().map(|x| x.parse().unwrap()).collect();
            println!(
                "  numpy, nodal, warm interpreter         {:8.4} ms   {:6.1} times ours",
                figures[0] * 1e3,
                figures[0] / ours_mass
            );
            let ours = sweep(&mass, &[figures[2]]);
            assert!((ours - figures[1]).abs() < 1e-6, "numpy {} dB, ours {ours} dB", figures[1]);
        }
        _ => println!("  numpy is not installed (Debian: python3-numpy)"),
    }
    lines(&list);
    electrical(&list, whole);
    stations(whole);
    rooms();
}

/// A design in rooms: what a moving hand asks for, maps of the floor, pairs of cabinets; and how cost grows with places, seats and the
/// room's size.
fn rooms() {
    let design = |sides: [f64; 3], seats: usize, cabinets: usize| {
        let mut d = document("duct");
        d["version"] = json!(8);
        d["brief"] = json!({"lowest_note_hz": 25.0});
        let seat =
            |i: usize| json!({"x_m": sides[0] * (0.5 + 0.02 * i as f64), "y_m": sides[1] * (0.3 + 0.02 * i as f64)});
        let cabinet = |i: usize| json!({"x_m": 0.5 + 0.6 * i as f64, "y_m": 0.6});
        d["room"] = json!({"room": {"name": "R", "space": {"kind": "room", "length_m": sides[0], "width_m": sides[1],
                "height_m": sides[2], "damping": {"by": "time", "t60_s": 0.5}}},
            "cabinets": (0..cabinets).map(cabinet).collect::<Vec<_>>(), "seats": (0..seats).map(seat).collect::<Vec<_>>()});
        read_value(d).expect("a room")
    };
    let living = [6.0, 4.0, 2.5];
    let four = design(living, 4, 1);
    println!("rooms, both cores:");
    for (what, d) in [
        ("one cabinet, one seat, as a hand moves it", design(living, 1, 1)),
        ("one cabinet, four seats, the same", four.clone()),
        ("four cabinets, sixteen seats, the same", design(living, 16, 4)),
        ("four cabinets, sixteen seats, a hall of 30 m", design([30.0, 18.0, 7.0], 16, 4)),
    ] {
        println!("  {what:46} {:8.3} ms", time(15, || _ = black_box(room::view::view(&d, false))) * 1e3);
    }
    let wish = |columns, rows| room::map::MapWish { of: room::map::MapOf::Cabinet, index: 0, columns, rows };
    let unit = time(5, || _ = black_box(room::map::map(&four, &wish(60, 40))));
    println!("  {:46} {:8.1} ms", "map of 60 x 40 places, four seats", unit * 1e3);
    for (what, d, wish) in [
        ("a quarter of the places", four.clone(), wish(30, 20)),
        ("one seat", design(living, 1, 1), wish(60, 40)),
        ("sixteen seats", design(living, 16, 1), wish(60, 40)),
        ("a room of 12 x 8 x 3 m (four times the pairs)", design([12.0, 8.0, 3.0], 4, 1), wish(60, 40)),
        ("a hall of 30 x 18 x 7 m", design([30.0, 18.0, 7.0], 4, 1), wish(60, 40)),
    ] {
        let seconds = time(3, || _ = black_box(room::map::map(&d, &wish)));
        println!("  {what:46} {:8.1} ms   {:6.2} times that", seconds * 1e3, seconds / unit);
    }
    for count in 1..=4 {
        let wish = room::arrangements::ArrangementsWish { count };
        let seconds = time(3, || _ = black_box(room::arrangements::arrangements(&four, &wish)));
        println!("  {:46} {:8.1} ms", format!("best places for {count}"), seconds * 1e3);
    }
}

/// Ten bands and a ladder of four parts before the vented box, against the same box without, in turn; the low cut that saves its
/// cone, five bands that flatten it, and a shelf of amplifiers judged.
fn electrical(list: &[f64], evaluation: f64) {
    let mut plain = document("duct");
    plain["programme"] = json!({"from_hz": 15, "to_hz": 120});
    plain["chain"] = json!({"amplifier": {"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4}});
    plain["woofer"]["nominal_ohm"] = json!(8);
    let mut full = plain.clone();
    let band = |i: u32| json!({"filter": {"kind": "band", "frequency_hz": 20 + 12 * i, "level_db": -1.5, "q": 1.4 + 0.4 * f64::from(i)}});
    full["chain"]["filters"] = (0..10).map(band).collect();
    full["chain"]["parts"] = json!([
        {"placement": "in_line", "part": {"kind": "coil", "inductance_mh": 3.3, "coil_ohm": 0.4}},
        {"placement": "across", "part": {"kind": "capacitor", "capacitance_uf": 120}},
        {"placement": "in_line", "part": {"kind": "trap", "inductance_mh": 8.2, "coil_ohm": 0.5, "capacitance_uf": 470,
                                          "resistance_ohm": 8.2}},
        {"placement": "across", "part": {"kind": "zobel", "resistance_ohm": 6.8, "capacitance_uf": 68}},
    ]);
    let (plain, full) = (read_value(plain).expect("a box"), read_value(full).expect("a box"));
    // as they are wired once and then swept, the band edges too
    let (without, with) = (Analysis::of(&plain), Analysis::of(&full));
    let swept = |analysis: &Analysis| {
        time(101, || {
            let mut sweep = Sweep::new(&analysis.wired.network, analysis.conditions);
            black_box(sweep.band_edges(analysis.context.array.ts.fs, Reference::Efficiency));
            black_box(sweep.curves(list));
        })
    };
    let each: Vec<(f64, f64)> = (0..9).map(|_| (swept(&without), swept(&with))).collect();
    let times = |pick: fn(&(f64, f64)) -> f64| median(each.iter().map(pick).collect());
    println!("  vented, without filters and parts      {:8.4} ms", times(|t| t.0) * 1e3);
    println!(
        "  ten bands and four parts before it     {:8.4} ms   {:6.2} times",
        times(|t| t.1) * 1e3,
        times(|t| t.1 / t.0)
    );
    let row = |what: &str, seconds: f64| {
        println!("  {what:<38} {:8.4} ms   {:6.1} times an evaluation", seconds * 1e3, seconds / evaluation);
    };
    let analysis = Analysis::of(&plain);
    assert!(low_cut(&analysis).is_some_and(|c| c.choices.iter().any(|c| c.does)), "a low cut that saves it");
    row("low cuts that save the cone", time(31, || _ = black_box(low_cut(&analysis))));
    let wish: FlattenWish = serde_json::from_value(
        json!({"bands": 5, "from_hz": 25, "to_hz": 110, "target": {"kind": "flat"}, "stage": "line"}),
    )
    .expect("a wish");
    assert!(flattened(&plain, &wish).is_ok_and(|r| !r.bands.is_empty()), "bands that flatten it");
    row("five bands that flatten it", time(31, || _ = black_box(flattened(&plain, &wish))));
    let shelf: Vec<Amplifier> = (1..=20).map(|i| Amplifier::rated(40.0 * f64::from(i), 8.0, 4.0)).collect();
    row("a shelf of 20 amplifiers judged", time(31, || _ = black_box(suits(&plain, &shelf))));
}

/// What stands beside the inputs at Airway and Quiet: a port's fixed point with its trade-off over 60 areas, a mode's
/// picture, and each station whole, against one evaluation of this run.
fn stations(evaluation: f64) {
    let mut d = document("duct");
    d["cabinet"] = json!({"width_mm": 420, "height_mm": 620, "depth_mm": 500, "panel_mm": 18, "baffle_mm": 18});
    d["enclosure"]["inside"] = json!({"width_mm": 384, "height_mm": 584, "depth_mm": 464, "woofer_across_mm": 192,
        "woofer_up_mm": 400, "opening_across_mm": 192, "opening_up_mm": 90});
    let design = read_value(d).expect("a box");
    let analysis = Analysis::of(&design);
    let shell = Shell::of(&analysis);
    let report = &analysis.wired.ports[0];
    let row = |what: &str, seconds: f64| {
        println!("  {what:<38} {:8.4} ms   {:6.1} times an evaluation", seconds * 1e3, seconds / evaluation);
    };
    row(
        "fixed point and trade-off of 60 areas",
        time(101, || {
            black_box(airway::port_volume::solve_port_volume(&analysis, report));
            black_box(airway::trade::trade(&analysis, report, &shell));
        }),
    );
    row("everything at Airway", time(51, || _ = black_box(airway::airway(&design))));
    row(
        "picture of a standing wave",
        time(101, || {
            _ = black_box(quiet::mode_picture(&design, "/enclosure/net_volume_l", [1, 2, 1]));
        }),
    );
    row("everything at Quiet", time(51, || _ = black_box(quiet::quiet(&design))));
    cabinets(&design, row);
}

/// A braced cabinet as built, its ledger, its drawings, and cut plans of 40 and of 200 parts.
fn cabinets(design: &Design, row: impl Fn(&str, f64)) {
    let mut d = serde_json::to_value(design).expect("a document");
    d["cabinet"]["strips_mm"] = json!(19);
    d["cabinet"]["braces"] = json!([100, 180, 260].map(|at| json!({"kind": "window", "lies": "level", "at_mm": at,
        "thickness_mm": 18, "open_part": 0.5})));
    let plain = read_value(d.clone()).expect("a box");
    d["cabinet"]["held"] = json!("width_and_height");
    let follows = read_value(d).expect("a box");
    let analysis = Analysis::of(&plain);
    let of = |d: &Checked| black_box(Analysis::of(d));
    row("model and ledger of a braced cabinet", time(101, || _ = of(&plain)));
    row("the same, its depth following", time(101, || _ = of(&follows)));
    row("boards, faces, clearances, section", time(101, || _ = black_box(cabinet::view::view(&analysis))));
    row("every drawing", time(31, || _ = black_box(cabinet::drawings::drawings(&analysis))));
    let built = cabinet::built_cabinet::built(&analysis).expect("a cabinet");
    let stated = analysis.design.cabinet.as_ref().expect("a cabinet");
    for (what, cabinets) in [("cut plan of about 40 parts", 4), ("cut plan of about 200 parts", 22)] {
        let parts: u32 = cabinet::cutting::cutting_of(stated, &built, cabinets)
            .map_or(0, |c| c.stocks.iter().map(|s| s.layout.placed.len() as u32).sum());
        let seconds = time(5, || _ = black_box(cabinet::cutting::cutting_of(stated, &built, cabinets)));
        row(&format!("{what} ({parts})"), seconds);
    }
}

/// A line of 100 sections, our whole evaluation of it, against numpy multiplying the same sections' chain matrices (which
/// gives the line's input impedance alone); and the tolerance band.
fn lines(list: &[f64]) {
    let line = |walls: bool, fills: Value| {
        let mut d = document("mass");
        d["enclosure"] = json!({"family": "transmission_line", "length_mm": 3000, "woofer_at_mm": 0,
            "wall_losses": walls, "fills": fills, "mouth_model": "lossless",
            "profile": {"shape": "tapered", "closed_end_cm2": 2008, "open_end_cm2": 100}});
        read_value(d).expect("a line")
    };
    let (bare, filled) = (
        line(false, json!([])),
        line(
            true,
            json!([{"from_mm": 0, "to_mm": 1500, "stuffing": {"kind": "resistivity", "flow_resistivity_pa_s_per_m2": 2000}}]),
        ),
    );
    let (ours, lossy) =
        (time(101, || _ = black_box(sweep(&bare, list))), time(101, || _ = black_box(sweep(&filled, list))));
    println!("  line of 100 sections, lossless         {:8.4} ms", ours * 1e3);
    println!("  line of 100 sections, walls and fill   {:8.4} ms", lossy * 1e3);
    let script = concat!(env!("CARGO_MANIFEST_DIR"), "/benches/chain.py");
    let python = std::env::var("OAK_DRUM_PYTHON").unwrap_or_else(|_| "/usr/bin/python3".into());
    match Command::new(python).arg(script).env("OPENBLAS_NUM_THREADS", "1").output() {
        Ok(answer) if answer.status.success() => {
            let text = String::from_utf8_lossy(&answer.stdout).into_owned();
            let figures: Vec<f64> = text.split_whitespace().map(|x| x.parse().unwrap()).collect();
            println!(
                "  numpy, chain matrices of 100 sections  {:8.4} ms   {:6.1} times ours",
                figures[0] * 1e3,
                figures[0] / ours
            );
        }
        _ => println!("  numpy is not installed (Debian: python3-numpy)"),
    }
    let vented = read_value(document("duct")).expect("a box");
    let band = time(31, || _ = black_box(tolerance(&vented, &Tolerances::default())));
    println!("  tolerance band, 200 variants           {:8.4} ms", band * 1e3);
}

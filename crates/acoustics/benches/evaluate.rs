//! Times one evaluation of a vented design at 1000 frequencies with all outputs, wiring included.

use criterion::{Criterion, criterion_group, criterion_main};
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Arrangement, Array, Woofer};
use oak_drum_acoustics::families::{Context, Enclosure, FAMILIES, suggestions};
use oak_drum_acoustics::level::{SolidAngle, log_frequencies};
use oak_drum_acoustics::network::cavity::{Cavity, Opening, Place, modes};
use oak_drum_acoustics::network::element::Element;
use oak_drum_acoustics::network::phasor::{Jet, Phasor};
use oak_drum_acoustics::network::volume::Volume;
use oak_drum_acoustics::outputs::{Conditions, Limits, Reference, Sweep};
use oak_drum_acoustics::source::Source;
use std::hint::black_box;

fn evaluate(criterion: &mut Criterion) {
    let air = Air::at(20.0, 101_325.0);
    let woofer = Woofer {
        fs_hz: Some(24.0),
        qms: Some(6.0),
        qes: Some(0.42),
        vas_l: Some(180.0),
        re_ohm: Some(5.6),
        sd_cm2: Some(855.0),
        le_mh: Some(1.4),
        l2_mh: Some(1.1),
        r2_ohm: Some(9.0),
        ..Woofer::default()
    };
    let one = woofer.resolve(&air).expect("a full set");
    let context = Context::new(air, Array::new(&one, &air, &Arrangement::plain(1)), Source::new(28.0, 0.1));
    let limits = Limits { heat: Some(400.0), excursion: Some(0.012), volts: Some(45.0), amperes: Some(12.0) };
    let conditions = Conditions { air, distance: 1.0, solid_angle: SolidAngle::Half, limits };
    let list = log_frequencies(10.0, 1000.0, 1000);
    let mut time = |name: &str, enclosure: &Enclosure| {
        criterion.bench_function(name, |bencher| {
            bencher.iter(|| {
                let wired = black_box(enclosure).wire(&context);
                let mut sweep = Sweep::new(&wired.network, conditions);
                let edges = sweep.band_edges(context.array.ts.fs, Reference::Efficiency);
                black_box((sweep.curves(&list), edges))
            });
        });
    };
    let starts: Vec<Enclosure> = suggestions(&context).into_iter().filter_map(|s| s.enclosure).collect();
    for family in FAMILIES {
        let first = starts.iter().find(|e| e.info().id == family.id);
        time(&format!("{}, 1000 frequencies", family.id), first.expect("a start for this woofer"));
    }
    // a hundred sections: an area that changes by 3 % in each
    let line = |walls: bool, fills: serde_json::Value| -> Enclosure {
        serde_json::from_value(serde_json::json!({
            "family": "transmission_line", "length_mm": 3000, "woofer_at_mm": 0, "wall_losses": walls, "fills": fills,
            "profile": {"shape": "tapered", "closed_end_cm2": 2008, "open_end_cm2": 100},
        }))
        .expect("a line")
    };
    let fill = serde_json::json!([{"from_mm": 0, "to_mm": 1500,
        "stuffing": {"kind": "material", "material": "polyester_wadding", "density_kg_per_m3": 10}}]);
    time("line of 100 sections, lossless, 1000 frequencies", &line(false, serde_json::json!([])));
    time("line of 100 sections, walls and fill, 1000 frequencies", &line(true, fill));

    let sides = [0.9, 1.1, 1.0];
    let mut list_of_modes = modes(&air, sides, 2000.0, 0.2, Place::Walls);
    list_of_modes.truncate(200);
    let openings = [0.2, 0.5, 0.8].map(|x| Opening { centre: [x, 0.4, 0.0], area: 0.03 });
    let volume = Volume { compliance: air.compliance(0.99), filled: None, absorption: 0.0 };
    let cavity = Cavity::new(&air, sides, volume, None, &openings, &list_of_modes);
    criterion.bench_function("cavity of 200 modes and three openings, 1000 frequencies", |bencher| {
        bencher.iter(|| {
            let mut y = [Jet::zero(); 6];
            for four in list.chunks_exact(4) {
                let omega = wide::f64x4::from([four[0], four[1], four[2], four[3]]) * std::f64::consts::TAU;
                Element::at_four(black_box(&cavity), omega, &mut y);
                black_box(&y);
            }
        });
    });
}

criterion_group!(benches, evaluate);
criterion_main!(benches);

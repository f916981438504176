//! Times one evaluation of a vented design at 1000 frequencies with all outputs, wiring included.

use criterion::{Criterion, criterion_group, criterion_main};
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Arrangement, Array, Woofer};
use oak_drum_acoustics::families::{Context, Enclosure, suggestions};
use oak_drum_acoustics::level::{SolidAngle, log_frequencies};
use oak_drum_acoustics::outputs::{Conditions, Limits, Reference, Sweep};
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
    let context = Context { air, array: Array::new(&one, &air, &Arrangement::plain(1)), source_resistance: 0.1 };
    let limits = Limits { heat: Some(400.0), stroke: Some(0.012), volts: Some(45.0), amperes: Some(12.0) };
    let conditions = Conditions { air, volts: 28.0, distance: 1.0, solid_angle: SolidAngle::Half, limits };
    let list = log_frequencies(10.0, 1000.0, 1000);
    for suggestion in suggestions(&context) {
        let Some(enclosure) = suggestion.enclosure else { continue };
        let name = match &enclosure {
            Enclosure::Vented(_) => "vented, duct with wall losses, 1000 frequencies",
            Enclosure::Sealed(_) if suggestion.id.ends_with("707") => "sealed, 1000 frequencies",
            Enclosure::Sealed(_) => continue,
        };
        criterion.bench_function(name, |bencher| {
            bencher.iter(|| {
                let wired = black_box(&enclosure).wire(&context);
                let mut sweep = Sweep::new(&wired.network, conditions);
                let edges = sweep.band_edges(context.array.ts.fs, Reference::Efficiency);
                black_box((sweep.curves(&list), edges))
            });
        });
    }
}

criterion_group!(benches, evaluate);
criterion_main!(benches);

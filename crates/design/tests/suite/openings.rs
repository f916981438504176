//! Cone and port as one statement, measured on the bench: a port that acts long lowers both, what rings in it is named.

use oak_drum_curves::about::Taken;
use oak_drum_curves::curve::Curve;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::prove::as_built::AsBuilt;
use oak_drum_design::prove::bench::{BenchWish, play, taken_apart};
use oak_drum_design::prove::hidden::{Flaw, flawed};
use oak_drum_design::prove::openings::openings;
use oak_drum_design::prove::predicted::predicted;
use oak_drum_document::{Checked, read_value};
use serde_json::json;

fn vented() -> Checked {
    read_value(json!({"format": "oak-drum-design", "version": oak_drum_document::VERSION, "name": "V",
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1.0, "xmax_mm": 8},
        "enclosure": {"family": "vented", "net_volume_l": 90, "leak_q": 12,
            "port": {"section": {"shape": "round", "diameter_mm": 110}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 32}}}}))
    .unwrap()
}

fn measured(cabinet: &Analysis, taken: Taken) -> Curve {
    let wish = BenchWish { taken, volts: Some(1.0), ..BenchWish::default() };
    taken_apart(&play(cabinet, &[], &wish).unwrap(), &wish, None).unwrap().curve
}

#[test]
fn notch_and_peak_are_one_statement_about_the_tuning() {
    let design = vented();
    let whole = Analysis::of(&design);
    let built = AsBuilt::of(&design).unwrap();
    let long = [Flaw::Port { mm: 25.0 }];
    let there = flawed(&built, &long).unwrap();
    let truth = there.wired.ports[0].realised.tuning;
    assert!(truth < 31.0, "{truth}");
    let (cone, port) = (measured(&there, Taken::NearCone {}), measured(&there, Taken::NearPort {}));
    let both = openings(&whole, Some(&cone), Some(&port)).unwrap();
    // each microphone hears the other opening a little, which moves the notch
    for by in [both.by_cone_hz, both.by_port_hz] {
        assert!((by.unwrap() / truth - 1.0).abs() < 0.04, "{by:?} against {truth}");
    }
    let clean = |taken: Taken| {
        let wide = oak_drum_acoustics::level::log_frequencies(8.0, 800.0, 500);
        predicted(&there, &taken, false, &wide).unwrap()
    };
    let alone = openings(&whole, Some(&clean(Taken::NearCone {})), Some(&clean(Taken::NearPort {}))).unwrap();
    assert!((alone.by_cone_hz.unwrap() / truth - 1.0).abs() < 0.005, "{:?} against {truth}", alone.by_cone_hz);
    assert!((alone.by_port_hz.unwrap() / truth - 1.0).abs() < 0.02, "{:?} against {truth}", alone.by_port_hz);
    assert!((both.planned_hz - 32.0).abs() < 0.01);
    assert!(both.sentence.contains("both say the box is tuned to"), "{}", both.sentence.metric());
    let cone_alone = openings(&whole, Some(&cone), None).unwrap();
    assert!(cone_alone.sentence.contains("plays alone") && cone_alone.peak_hz.is_none());
    let port_alone = openings(&whole, None, Some(&port)).unwrap();
    assert!(port_alone.sentence.contains("more sharply"));
    // a cone of one box and a port of another
    let other = measured(&flawed(&built, &[Flaw::Port { mm: -60.0 }]).unwrap(), Taken::NearPort {});
    let mixed = openings(&whole, Some(&cone), Some(&other)).unwrap();
    assert!(mixed.sentence.contains("contradict"), "{}", mixed.sentence.metric());
}

#[test]
fn what_rings_in_the_pipe_is_named() {
    let whole = Analysis::of(&vented());
    let pipe = whole.context.air.c / (2.0 * whole.wired.ports[0].realised.effective_length);
    let port = measured(&whole, Taken::NearPort {});
    let found = openings(&whole, None, Some(&port)).unwrap();
    let tone =
        found.tones.iter().find(|t| t.pipe_hz.is_some()).unwrap_or_else(|| panic!("{:?}, pipe {pipe}", found.tones));
    assert!((tone.frequency_hz / tone.pipe_hz.unwrap() - 1.0).abs() < 0.12, "{tone:?}");
    assert!(found.sentence.contains("resonance of the port's pipe"), "{}", found.sentence.metric());
    assert!(openings(&whole, None, None).is_none());
    // a sealed box has no port to speak of
    let sealed = read_value(json!({"format": "oak-drum-design", "version": oak_drum_document::VERSION, "name": "S",
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
        "enclosure": {"family": "sealed", "net_volume_l": 60}}))
    .unwrap();
    assert!(openings(&Analysis::of(&sealed), Some(&port), Some(&port)).is_none());
}

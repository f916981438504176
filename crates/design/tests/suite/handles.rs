//! What is pulled along the frequency axis: each handle of every family takes its resonance where it is pulled to.

use crate::remedies::demo;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::enclosure::handles::{Handle, handles};
use oak_drum_document::{Checked, Design, apply, read_value};
use std::collections::BTreeSet;

/// A design without a cabinet, whose fold would hold a path to its own length.
fn bare(design: &Checked) -> Checked {
    let mut made = Design::clone(design);
    made.cabinet = None;
    Checked::assembled(made).unwrap()
}

fn pulled(design: &Checked, handle: &Handle, hz: f64) -> Option<Analysis> {
    let mut document = serde_json::to_value(&**design).unwrap();
    apply(&mut document, &handle.to(hz));
    Some(Analysis::of(&read_value(document).ok()?))
}

#[test]
fn handles_take_what_they_stand_on_along() {
    let mut seen = BTreeSet::new();
    let boxes = demo().into_iter().flat_map(|(name, design)| {
        let bare = bare(&design);
        let others = oak_drum_design::suggest(&bare).into_iter().filter_map(move |s| {
            let made = Design { enclosure: s.enclosure?, ..Design::clone(&bare) };
            Some((format!("{name}, {}", s.id), Checked::assembled(made)?))
        });
        others.chain(std::iter::once((String::from("the demo's own"), self::bare(&design)))).collect::<Vec<_>>()
    });
    for (name, design) in boxes {
        for (i, handle) in handles(&Analysis::of(&design)).into_iter().enumerate() {
            for ratio in [0.9, 1.1] {
                let wanted = handle.hz * ratio;
                let Some(after) = pulled(&design, &handle, wanted) else { continue };
                let there = &handles(&after)[i];
                // a path's ends do not grow with it, its quarter wave follows within some per cent; whole millimetres and
                // tenths of a hertz elsewhere
                let within = if handle.id == "path" { 0.05 } else { 0.01 };
                // the least mass that can hang on a radiator is none
                let bound = handle.follows.iter().any(|f| f.plus + f.times * ratio.powi(f.power) < f.least);
                let off = (there.hz / wanted - 1.0).abs();
                assert!(bound || off < within, "{name}: {} pulled to {wanted:.1} stands at {:.1}", handle.id, there.hz);
                seen.insert((design.enclosure.info().id, handle.id.clone()));
            }
        }
    }
    let kinds: BTreeSet<&str> = seen.iter().map(|(_, id)| id.split('-').next().unwrap()).collect();
    assert_eq!(kinds, BTreeSet::from(["path", "port", "radiator"]), "{seen:?}");
    assert!(seen.len() >= 8, "{seen:?}");
}

/// What boxes are compared by is what the curves say, wherever their frequencies lie.
#[test]
fn what_is_compared_is_what_the_curves_say() {
    for (name, design) in demo() {
        let whole = oak_drum_design::outline(&design);
        let coarse = oak_drum_design::outline(&design.at(vec![10.0, 100.0, 1000.0]));
        let (a, b) = (&whole.summary.compared, &coarse.summary.compared);
        assert!((a.level_db - b.level_db).abs() < 1e-9 && a.highest_db == b.highest_db, "{name}");
        let c = &whole.curves;
        let i = c.frequency_hz.iter().position(|f| *f >= a.note_hz).unwrap();
        assert!((c.level_db[i] - a.level_db).abs() < 0.6, "{name}: {} against {}", c.level_db[i], a.level_db);
        let most = c.frequency_hz.iter().zip(&c.cone_excursion_mm).filter(|(f, _)| (a.note_hz..=500.0).contains(*f));
        let most = most.map(|p| *p.1).fold(0.0, f64::max);
        assert!(a.excursion_mm >= most && a.excursion_mm < most * 1.1, "{name}: {} against {most}", a.excursion_mm);
        assert!(a.swing_db >= 0.0 && a.delay_ms > 0.0 && a.impedance_ohm > 1.0, "{name}: {a:?}");
    }
}

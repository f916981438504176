//! Mistakes and what to do about them: sizes are the cabinet's own, an outline leans as geometry has it, a part that is put in is read
//! back and worked out.

use crate::remedies::demo;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::mistakes::{LeakAt, Mistake, Mistakes, mistakes};
use oak_drum_document::{Checked, read_value};
use oak_drum_text::{System, Text};
use serde_json::json;

fn hall() -> Checked {
    demo().into_iter().find(|(name, _)| name.starts_with("Village hall")).unwrap().1
}

fn told(design: &Checked, mistake: &Mistake) -> Result<Mistakes, (String, String)> {
    mistakes(&Analysis::of(design), Some(mistake)).unwrap()
}

fn metric(text: &Text) -> String {
    text.said(System::Metric)
}

#[test]
fn a_hole_is_opened_with_a_ring_of_its_size() {
    let design = hall();
    let all = mistakes(&Analysis::of(&design), None).unwrap().unwrap();
    let woofer = all.holes.iter().position(|h| h.name.to_lowercase().contains("woofer")).unwrap();
    let size = all.holes[woofer].size_mm;
    let cutout = design.woofer.cutout_mm.unwrap_or(size);
    assert!(all.holes[woofer].round && (size - cutout).abs() < 5.0, "{size} {cutout}");
    let small = told(&design, &Mistake::Hole { hole: woofer, too_small_mm: 3.0 }).unwrap();
    let text = metric(&small.cures[0].text);
    assert!(text.contains(&format!("{size:.1} mm inside")) && text.contains("takes 1.50 mm all round"), "{text}");
    assert!(small.cures[0].caution.as_ref().is_some_and(|c| metric(c).contains("Router")));
    // a hair is sanded
    let hair = told(&design, &Mistake::Hole { hole: woofer, too_small_mm: 0.8 }).unwrap();
    assert_eq!(metric(&hair.cures[0].title), "Sand it open");
    // too large: as long as the frame covers it it stays, else a ring goes behind it
    let frame = design.woofer.outside_diameter_mm.unwrap();
    let little = told(&design, &Mistake::Hole { hole: woofer, too_small_mm: -2.0 }).unwrap();
    let land = (frame - size - 2.0) / 2.0;
    let covers = land >= 9.0;
    assert_eq!(metric(&little.cures[0].title).starts_with("Leave it"), covers, "{land}");
    let much = told(&design, &Mistake::Hole { hole: woofer, too_small_mm: -(frame - size) }).unwrap();
    assert_eq!((much.cures.len(), metric(&much.cures[0].title).as_str()), (1, "A ring from inside"));
    assert_eq!(told(&design, &Mistake::Hole { hole: 99, too_small_mm: 1.0 }).unwrap_err().0, "/mistake/hole");
    assert_eq!(told(&design, &Mistake::Hole { hole: 0, too_small_mm: 0.0 }).unwrap_err().0, "/mistake/too_small_mm");
}

/// The corners of a leaning carcass are set down and its diagonals measured: the lean comes back.
#[test]
fn a_lean_is_found_from_the_diagonals() {
    let design = hall();
    let cabinet = design.cabinet.as_ref().unwrap();
    let (w, h) = (cabinet.width_mm, cabinet.height_mm);
    for lean in [0.6f64, 3.0, 9.0] {
        let rise = (h * h - lean * lean).sqrt();
        let (longer, shorter) = ((w + lean).hypot(rise), (w - lean).hypot(rise));
        let of =
            |glued| told(&design, &Mistake::OutOfSquare { longer_mm: longer, shorter_mm: shorter, glued }).unwrap();
        assert!(metric(&of(true).said).contains(&format!("the top stands {lean:.1} mm")), "{}", metric(&of(true).said));
        assert_eq!(metric(&of(false).cures[0].title), "Pull the longer diagonal in");
        let titles: Vec<String> = of(true).cures.iter().map(|c| metric(&c.title)).collect();
        if lean < 1.0 {
            assert_eq!(titles, ["Leave it"]);
        } else {
            assert_eq!(titles, ["Cut the back to the opening", "A filler strip"]);
        }
    }
    let wrong = |longer_mm, shorter_mm| told(&design, &Mistake::OutOfSquare { longer_mm, shorter_mm, glued: true });
    assert_eq!(wrong(400.0, 300.0).unwrap_err().0, "/mistake/longer_mm");
    assert_eq!(wrong(900.0, 905.0).unwrap_err().0, "/mistake/longer_mm");
}

#[test]
fn a_leak_is_sealed_where_it_is() {
    for at in [LeakAt::Joint, LeakAt::Gasket, LeakAt::Wires] {
        let found = told(&hall(), &Mistake::Leak { at }).unwrap();
        assert_eq!(found.cures.len(), 2);
        assert!(metric(&found.cures[0].predicted).contains("takes f3 from"), "{}", metric(&found.cures[0].predicted));
    }
}

/// A part that measures otherwise is put into the design, read back, and its air and clearances are the new ones.
#[test]
fn another_part_is_put_into_the_plan() {
    let design = hall();
    let before = Analysis::of(&design).ledger.unwrap().net_l;
    let found = told(&design, &Mistake::Part { pointer: "/woofer/displacement_l".into(), value: 9.0 }).unwrap();
    let cure = &found.cures[0];
    let mut document = serde_json::to_value(&*design).unwrap();
    oak_drum_document::apply(&mut document, &cure.changes);
    let after = Analysis::of(&read_value(document).unwrap()).ledger.unwrap().net_l;
    assert!(after < before - 1.0);
    let words = metric(&cure.predicted);
    assert!(words.contains(&format!("{after:.1} L (was {before:.1} L)")), "{words}");
    let other = told(&design, &Mistake::Part { pointer: "/woofer/fs_hz".into(), value: 9.0 });
    assert_eq!(other.unwrap_err().0, "/mistake/pointer");
    let never = told(&design, &Mistake::Part { pointer: "/cabinet/panel_mm".into(), value: 900.0 });
    assert_eq!(never.unwrap_err().0, "/mistake/value");
}

/// For every cabinet of the demo something can go wrong, and something can be done about each; all of it is said in both systems.
#[test]
fn every_cabinet_has_its_cures() {
    let mut cured = 0;
    for (name, design) in demo() {
        let Some(all) = mistakes(&Analysis::of(&design), None) else { continue };
        let all = all.unwrap();
        let mut list: Vec<Mistake> = vec![Mistake::Leak { at: LeakAt::Joint }];
        for hole in 0..all.holes.len() {
            list.extend([4.0, 1.0, -1.0, -12.0].map(|too_small_mm| Mistake::Hole { hole, too_small_mm }));
        }
        list.extend(all.diagonal_mm.map(|d| Mistake::OutOfSquare {
            longer_mm: d + 3.0,
            shorter_mm: d - 3.0,
            glued: true,
        }));
        for m in &all.measurable {
            let value = m.drawn.map_or(120.0, |v| v * 1.04);
            list.push(Mistake::Part { pointer: m.pointer.clone(), value });
        }
        for mistake in list {
            let found = told(&design, &mistake).unwrap_or_else(|e| panic!("{name}: {mistake:?}: {e:?}"));
            assert!(!found.cures.is_empty() && found.said != Text::default(), "{name}: {mistake:?}");
            let inch = json!(
                found
                    .cures
                    .iter()
                    .map(|c| [c.text.said(System::Inch), c.predicted.said(System::Inch)])
                    .collect::<Vec<_>>()
            );
            assert!(!inch.to_string().contains(" mm"), "{name}: {inch}");
            assert!(!inch.to_string().contains("NaN"), "{name}: {inch}");
            cured += found.cures.len();
        }
    }
    assert!(cured > 60, "{cured}");
}

//! The booklet of builds: every part is there, numbers are those of the program, sentences are right in both systems. Read back by
//! pypdf (testdata/paper/read.py).

use oak_drum_booklet::{HeardSession, Told, WrittenEntry, booklet, fields};
use oak_drum_document::{Checked, EntryKind, LogEntry, WorkPlan, Workshop, read_value, schema};
use oak_drum_listening::outcome::{Heard, outcome};
use oak_drum_listening::session::{Session, Slip};
use oak_drum_paper::{Block, Paper, write};
use oak_drum_text::{System, Text};
use serde_json::{Value, json};
use std::collections::HashMap;
use std::path::Path;
use std::process::Command;

fn vented() -> Checked {
    read_value(json!({
        "format": "oak-drum-design", "version": 8, "name": "Šuplík",
        "brief": {"purpose": "Kuchyně, Κουζίνα, Kuchnia", "lowest_note_hz": 31, "level_db": 100},
        "woofer": {"name": "Žďár 12", "fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "xmax_mm": 9,
            "depth_mm": 120, "cutout_mm": 283, "outside_diameter_mm": 315, "magnet_diameter_mm": 150},
        "enclosure": {"family": "vented", "net_volume_l": 70, "port": {"section": {"shape": "round", "diameter_mm": 105}, "count": 1,
            "sizing": {"by": "tuning", "tuning_hz": 30}}},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 36, "baffle_layers": 2},
    }))
    .unwrap_or_else(|p| panic!("{p:?}"))
}

fn bare() -> Checked {
    read_value(
        json!({"format": "oak-drum-design", "version": 8, "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120,
        "re_ohm": 5.6, "sd_cm2": 530}, "enclosure": {"family": "sealed", "net_volume_l": 60}}),
    )
    .unwrap_or_else(|p| panic!("{p:?}"))
}

fn heard() -> HeardSession {
    let session: Session = serde_json::from_value(json!({"title": "Στο σαλόνι", "test": {"kind": "scores", "scales": ["deep"]},
        "candidates": [{"name": "A"}, {"name": "B"}], "pieces": [{"kind": "own", "name": "Largo"}], "switching": "helper"}))
    .unwrap();
    let listeners: Vec<Heard> = ["Żaneta", "Bo"]
        .iter()
        .enumerate()
        .map(|(i, name)| {
            let hearings = session.hearings(i);
            let slips = hearings
                .iter()
                .map(|h| {
                    Some(Slip {
                        choice: None,
                        scores: h.slots.iter().map(|c| vec![*c as f64 * 3.0 + 2.0]).collect(),
                        note: "ładne".into(),
                    })
                })
                .collect();
            Heard { name: (*name).into(), hearings, slips }
        })
        .collect();
    HeardSession {
        title: session.title.clone(),
        ended_at: "2026-11-20T19:00:00Z".parse().unwrap(),
        outcome: outcome(&session, &listeners),
    }
}

fn with_told<T>(design: &Checked, log: &[WrittenEntry], heard: &[HeardSession], then: impl FnOnce(&Told) -> T) -> T {
    let workshop = Workshop { currency: "zł".into(), ..Workshop::default() };
    let (work, photos, letters) = (WorkPlan::default(), HashMap::new(), ["A".to_owned(), "B".to_owned()]);
    then(&Told {
        name: "Žluťoučký kůň",
        letter: "B",
        letters: &letters,
        design,
        work: &work,
        workshop: &workshop,
        measured: &[],
        log,
        photos: &photos,
        photos_reduced: false,
        heard,
        now: "2026-11-27T23:30:00+02:00".parse().unwrap(),
    })
}

fn titles(blocks: &[Block]) -> Vec<String> {
    let title = |b: &Block| match b {
        Block::Part(t) => Some(t.metric()),
        _ => None,
    };
    blocks.iter().filter_map(title).collect()
}

#[test]
#[ignore = "wants pypdf in target/python: scripts/test installs it and runs this"]
fn every_part_is_printed() {
    let entry = LogEntry {
        kind: EntryKind::Better,
        text: "Zaoblit hranu dřív. Najpierw zmierzyć.".into(),
        ..LogEntry::default()
    };
    let log = [WrittenEntry { at: "2026-11-03T22:30:00Z".parse().unwrap(), entry }];
    let heard = [heard()];
    let design = vented();
    for (system, paper, size) in [(System::Metric, Paper::A4, "70 L"), (System::Inch, Paper::Letter, "2.47 ft³")] {
        let blocks = with_told(&design, &log, &heard, |told| booklet(told, system));
        let pdf = write("Žluťoučký kůň", paper, system, &blocks).unwrap();
        assert!(pdf.len() < 15_000_000);
        let path = std::env::temp_dir().join(format!("oak-drum-booklet-{}-{paper:?}.pdf", std::process::id()));
        std::fs::write(&path, &pdf).unwrap();
        let project = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
        let run = Command::new(project.join("target/python/bin/python"))
            .arg(project.join("testdata/paper/read.py"))
            .arg(&path)
            .output()
            .unwrap();
        std::fs::remove_file(&path).unwrap();
        assert!(run.status.success(), "{}", String::from_utf8_lossy(&run.stderr));
        let read: Value = serde_json::from_slice(&run.stdout).unwrap();
        let pages: Vec<&str> = read["pages"].as_array().unwrap().iter().filter_map(|p| p["words"].as_str()).collect();
        let whole = pages.join("\n").split_whitespace().collect::<Vec<_>>().join(" ");
        for words in [
            "Žluťoučký kůň",
            "Revision B: Šuplík",
            "27 November 2026",
            "Kuchyně, Κουζίνα, Kuchnia",
            "Žďár 12",
            size,
            "Tuning fb",
            "Cone stroke, peak",
            "Cut plan",
            "Building it",
            "MDF dust wants a mask",
            "Nothing was measured of this revision yet",
            // half past ten in London is half past midnight two hours further east
            "4 November 2026, 00:30: what I would do better",
            "Zaoblit hranu dřív. Najpierw zmierzyć.",
            "Στο σαλόνι",
            "Żaneta",
            "ładne",
            "Sources and estimates",
            "Small, JAES",
            "In the open",
            "Print at 100 %",
        ] {
            assert!(whole.contains(words), "{paper:?}: no \"{words}\"");
        }
        // the contents tell of every part, and every part is where they say
        let outline = read["outline"].as_array().unwrap();
        assert_eq!(outline.iter().filter_map(|e| e[0].as_str()).collect::<Vec<_>>(), titles(&blocks));
        for e in outline {
            let page = pages[e[1].as_u64().unwrap() as usize];
            assert!(page.contains(e[0].as_str().unwrap()), "{e}");
        }
    }
}

/// Of a design of which nothing is known everything unknown says so, and nothing is called fine.
#[test]
fn what_was_never_judged_is_never_called_fine() {
    let design = bare();
    let blocks = with_told(&design, &[], &[], |told| booklet(told, System::Metric));
    let words: Vec<String> = blocks
        .iter()
        .filter_map(|b| match b {
            Block::Words(t) => Some(t.metric()),
            _ => None,
        })
        .collect();
    let all = words.join("\n");
    for expected in [
        "never judged",
        "No cabinet is drawn",
        "Nothing was measured of this revision yet",
        "Nothing is written down",
        "Nobody has listened",
        "no room was stated",
        "Without a cabinet no air was counted",
    ] {
        assert!(all.contains(expected), "no \"{expected}\": {all}");
    }
    assert!(!titles(&blocks).contains(&"Templates".to_owned()));
    assert!(write("t", Paper::A4, System::Metric, &blocks).is_ok());
}

/// Every number a hand put into a design stands in its table once, with its unit, in both systems.
#[test]
fn fields_are_told_with_their_names_and_units() {
    let document = serde_json::to_value(&*vented()).unwrap();
    let schema = schema::design();
    let rows = |part: &str| -> Vec<[String; 3]> {
        let said = |t: &Text, system| t.said(system);
        fields::rows(&schema, &document, part)
            .iter()
            .map(|r| [said(&r[0], System::Metric), said(&r[1], System::Metric), said(&r[1], System::Inch)])
            .collect()
    };
    let has =
        |list: &[[String; 3]], row: [&str; 3]| assert!(list.iter().any(|r| r == &row), "{row:?} is not in {list:#?}");
    let the_box = rows("/enclosure");
    has(&the_box, ["Kind", "Vented", "Vented"]);
    has(&the_box, ["Net volume", "70 L", "2.47 ft³"]);
    has(&the_box, ["Port, opening, inside diameter", "105 mm", "4 1/8 in"]);
    has(&rows("/woofer"), ["Xmax", "9 mm", "11/32 in"]);
    has(&rows("/brief"), ["Lowest note", "31 Hz", "31 Hz"]);
    // what is not there has no rows
    assert!(rows("/room").is_empty() && rows("/nothing/here").is_empty());
    // no number of the woofer's sheet is lost
    let numbers = document["woofer"].as_object().unwrap().values().filter(|v| v.is_number()).count();
    let told = rows("/woofer").iter().filter(|r| r[1].starts_with(|c: char| c.is_ascii_digit())).count();
    assert_eq!(told, numbers);
}

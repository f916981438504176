//! Files of woofers: what is understood, what is refused and how, and that what is written reads back.

use oak_drum_acoustics::amplifier::Amplifier;
use oak_drum_acoustics::driver::{VoiceCoils, Woofer};
use oak_drum_shelf::{Format, ParameterSet, Provenance, ShelfAmplifier, ShelfWoofer, amplifier, export, import};
use proptest::prelude::*;
use serde_json::{Value, json};

const HEADER: &str = "Name,Maker,fs (Hz),Qms,Qes,Vas (L),Re (ohm),Sd (cm2)\n";

fn csv(text: &str) -> Result<oak_drum_shelf::Import, oak_drum_shelf::FileError> {
    import(text.as_bytes(), Format::Csv)
}

fn only(text: &str) -> ShelfWoofer {
    let read = csv(text).unwrap();
    assert_eq!(read.rows.len(), 1);
    read.rows[0].woofer.as_deref().cloned().unwrap_or_else(|| panic!("{:?}", read.rows[0].problems))
}

#[test]
fn units_and_decimal_commas() {
    let metric = only(&format!("{HEADER}Attic 12,Nobody,28,5.5,0.42,110,5.6,520\n")).in_use();
    // the same in the units of another sheet, semicolons, decimal commas and a byte-order mark
    let other = only(
        "\u{feff}model;manufacturer;Fs [Hz];QMS;QES;Vas [ft³];Re;Sd m²\r\nAttic 12;Nobody;28,0;5,5;0,42;3,884616;5,6;0,0520\r\n",
    )
    .in_use();
    assert_eq!((other.name.as_str(), other.fs_hz, other.sd_cm2), ("Attic 12", Some(28.0), Some(520.0)));
    assert!((other.vas_l.unwrap() / metric.vas_l.unwrap() - 1.0).abs() < 1e-6);
    let tabs = only(
        "name\tfs_hz\tqms\tqes\tmms_g\tre\tsd\tcoils\tprovenance\tdrive_v\ttags\nA\t30\t5\t0.4\t90\t5,6\t530\tdual\tMeasured new\t0.1\tattic; loud\n",
    );
    assert_eq!(tabs.woofer.coils, VoiceCoils::Dual);
    assert_eq!((tabs.sets[0].provenance, tabs.sets[0].drive_v), (Provenance::MeasuredNew, Some(0.1)));
    assert_eq!(tabs.tags, ["attic", "loud"]);
}

#[test]
fn columns_are_reported() {
    let read = csv("name,fs,qms,qes,vas,re,sd,colour,Vas (gallon),fs_hz\nA,30,5,0.4,100,5.6,530,red,1,31\n").unwrap();
    let note =
        |header: &str| read.columns.iter().find(|c| c.header == header).unwrap().note.clone().unwrap_or_default();
    assert!(note("fs").contains("read as hz"), "{}", note("fs"));
    assert!(note("colour").contains("left out"));
    assert!(note("Vas (gallon)").contains("gallon"));
    assert!(note("fs_hz").contains("twice"));
    assert_eq!(read.rows[0].woofer.as_ref().unwrap().in_use().fs_hz, Some(30.0));
}

/// Each bad row is named with its line, its column and what is expected; the good ones stand.
#[test]
fn bad_rows() {
    let text = format!(
        "{HEADER}Good,Nobody,28,5.5,0.42,110,5.6,520\n\
         Zero,Nobody,28,5.5,0.42,0,5.6,520\n\
         NoArea,Nobody,28,5.5,0.42,110,5.6,\n\
         Words,Nobody,deep,5.5,0.42,110,5.6,520\n\
         ,Nobody,28,5.5,0.42,110,5.6,520\n\
         good , nobody,28,5.5,0.42,110,5.6,520\n\
         Short,Nobody,28\n"
    );
    let read = csv(&text).unwrap();
    let said: Vec<(u64, String, String)> =
        read.bad().map(|r| (r.line, r.problems[0].column.clone(), r.problems[0].message.clone())).collect();
    let expected = [
        (3, "vas_l", "at least 0.2"),
        (4, "sd_cm2", "missing"),
        (5, "fs_hz", "not a number"),
        (6, "name", "needs a name"),
        (7, "name", "as line 2"),
        (8, "", "cut off"),
    ];
    assert_eq!(said.len(), expected.len(), "{said:?}");
    for ((line, column, message), (l, c, m)) in said.iter().zip(expected) {
        assert_eq!((*line, column.as_str()), (l, c), "{message}");
        assert!(message.contains(m), "{message}");
    }
    assert_eq!(read.woofers().count(), 1);
}

#[test]
fn sheets_that_cannot_be() {
    let read = csv("name,fs_hz,qts,qes,qms,vas_l,re_ohm,sd_cm2\nA,30,0.5,0.4,5,100,5.6,530\n").unwrap();
    assert!(read.rows[0].problems[0].message.contains("must lie below"), "{:?}", read.rows[0].problems);
}

#[test]
fn files_that_are_none() {
    for (bytes, words) in [
        (b"".to_vec(), "empty"),
        (b"\xFF\xFEn\0a\0".to_vec(), "UTF-16"),
        (b"name,fs_hz\nB\xE4r,30\n".to_vec(), "line 2 holds a byte (0xE4)"),
        (b"fs_hz,qms\n30,5\n".to_vec(), "names of the woofers"),
        (b"name,fs_hz\n\"cut,30\n".to_vec(), "never closed"),
        (b"name,fs_hz\n".to_vec(), "nothing under it"),
    ] {
        let error = import(&bytes, Format::Csv).unwrap_err();
        assert!(error.to_string().contains(words), "{error}");
    }
    for (text, words) in [
        ("{", "cut off"),
        ("{\"format\": \"other\"}", "oak-drum-shelf"),
        ("{\"format\": \"oak-drum-shelf\", \"version\": 1}", "woofers"),
    ] {
        let error = import(text.as_bytes(), Format::Json).unwrap_err();
        assert!(error.to_string().contains(words), "{error}");
    }
    let wrong = json!({"format": "oak-drum-shelf", "version": 1, "woofers": [
        {"format": "oak-drum-woofer", "version": 1, "woofer": {"name": "A", "fs_hz": 30}, "sets": [{"provenance": "data_sheet", "figures": {}}]},
        {"format": "oak-drum-woofer", "version": 1, "woofer": {"name": "B"}, "sets": []},
        {"format": "oak-drum-woofer", "version": 1, "woofer": {"nam": "C"}, "sets": [{"provenance": "dreamt", "figures": {}}]},
    ]});
    let read = import(wrong.to_string().as_bytes(), Format::Json).unwrap();
    let said: Vec<String> = read.rows.iter().map(|r| format!("{:?}", r.problems)).collect();
    assert!(said[0].contains("parameter set") && said[0].contains("sd_cm2"), "{}", said[0]);
    assert!(said[1].contains("too short"), "{}", said[1]);
    assert!(said[2].contains("did you mean") && said[2].contains("dreamt"), "{}", said[2]);
}

/// A spreadsheet finds nothing to compute in what is written, and it reads back as it was.
#[test]
fn formulas_are_made_harmless() {
    let mut woofer = only(&format!("{HEADER}Attic 12,Nobody,28,5.5,0.42,110,5.6,520\n"));
    woofer.woofer.name = "=HYPERLINK(\"x\")".into();
    woofer.woofer.maker = "@maker".into();
    woofer.notes = "+1, -1".into();
    let text = export(std::slice::from_ref(&woofer), Format::Csv);
    for line in text.lines().skip(1) {
        for cell in line.split(',') {
            assert!(!cell.trim_start_matches('"').starts_with(['=', '@', '+']), "{cell}");
        }
    }
    assert_eq!(only(&text), woofer);
}

/// docs/schema/woofer.json and amplifier.json are what the types say; `OAK_DRUM_WRITE=1` writes them anew.
#[test]
fn the_published_schemas_are_current() {
    for (name, schema) in [("woofer", oak_drum_shelf::schema()), ("amplifier", amplifier::schema())] {
        let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../docs/schema/{name}.json"));
        let fresh = format!("{schema:#}\n");
        if std::env::var_os("OAK_DRUM_WRITE").is_some() {
            std::fs::write(&path, &fresh).unwrap();
        }
        assert!(
            std::fs::read_to_string(&path).unwrap_or_default() == fresh,
            "{name}: stale: run with OAK_DRUM_WRITE=1"
        );
    }
}

/// A file of amplifiers is read whole or not at all, and what is wrong stands at its place in the file.
#[test]
fn a_file_of_amplifiers_is_read_whole() {
    let one =
        |name: &str| ShelfAmplifier::from_sheet(Amplifier { name: name.into(), ..Amplifier::rated(300.0, 8.0, 4.0) });
    let list = [one("Plate"), one("Field")];
    assert_eq!(amplifier::read_file(amplifier::write_file(&list).as_bytes()).unwrap(), list);
    // one alone is a file too, with the mark some editors write before it
    let alone = format!("\u{feff}{}", serde_json::to_string(&list[0]).unwrap());
    assert_eq!(amplifier::read_file(alone.as_bytes()).unwrap(), list[..1]);
    let twice = amplifier::write_file(&[one("Plate"), one("plate ")]);
    let mut nothing = serde_json::to_value(&list[1]).unwrap();
    nothing["amplifier"]["load_ohm"] = Value::Null;
    nothing["amplifier"]["watts"] = 3.into();
    let bad = format!("{{\"format\": \"{}\", \"version\": 1, \"amplifiers\": [{nothing}]}}", amplifier::COLLECTION);
    for (text, places) in [
        (twice, vec!["/amplifiers/1/amplifier/name"]),
        (bad, vec!["/amplifiers/0/amplifier/load_ohm", "/amplifiers/0/amplifier/watts"]),
    ] {
        let Err(amplifier::NotRead::Amplifiers(problems)) = amplifier::read_file(text.as_bytes()) else {
            panic!("{text}")
        };
        let mut told: Vec<&str> = problems.iter().map(|p| p.pointer.as_str()).collect();
        told.sort_unstable();
        assert_eq!(told, places);
    }
    let list = |many: usize| amplifier::write_file(&vec![one("A"); many]);
    for (text, words) in [
        (" ".to_owned(), "empty"),
        ("{\"format\": ".to_owned(), "JSON"),
        ("[]".to_owned(), "oak-drum-amplifiers"),
        ("{\"format\": \"oak-drum-amplifiers\", \"version\": 1, \"amplifiers\": 3}".to_owned(), "no list"),
        (list(0), "nothing under"),
        (list(amplifier::MOST + 1), "more than 500"),
    ] {
        let said = amplifier::read_file(text.as_bytes()).unwrap_err().to_string();
        assert!(said.contains(words), "{said}");
    }
}

prop_compose! {
    fn woofer()(name in "[A-Za-z=+@-][ A-Za-z0-9,\"';-]{0,20}[a-z]", maker in "[A-Za-z ]{0,12}[a-z]", fs in 15.0..80.0f64, qms in 1.5..12.0f64,
                qes in 0.15..1.2f64, vas in 5.0..600.0f64, re in 1.5..14.0f64, sd in 80.0..2200.0f64, dual in any::<bool>(),
                xmax in proptest::option::of(2.0..40.0f64), screws in proptest::option::of(4u32..12),
                sets in 1usize..4, favourite in any::<bool>(), notes in "[^\u{0}\r]{0,30}") -> ShelfWoofer {
        let digits = |x: f64| Some((x * 1e4).round() / 1e4);
        let sheet = Woofer {
            name: name.trim().into(), maker: maker.trim().into(), fs_hz: digits(fs), qms: digits(qms), qes: digits(qes),
            vas_l: digits(vas), re_ohm: digits(re), sd_cm2: digits(sd), xmax_mm: xmax.and_then(digits), screws,
            coils: if dual { VoiceCoils::Dual } else { VoiceCoils::Single }, ..Woofer::default()
        };
        let mut made = ShelfWoofer::from_sheet(&sheet);
        made.favourite = favourite;
        made.notes = notes.trim().into();
        for i in 1..sets {
            let figures = Woofer { fs_hz: digits(fs * (1.0 - 0.02 * i as f64)), ..sheet.figures() };
            made.sets.push(ParameterSet { provenance: Provenance::MeasuredBrokenIn, hours: Some(i as f64), figures, ..ParameterSet::default() });
        }
        made.in_use = sets as u32 - 1;
        made
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 64, ..ProptestConfig::default() })]

    /// JSON keeps everything; CSV keeps the set in use.
    #[test]
    fn what_is_written_reads_back(made in woofer()) {
        let json = import(export(std::slice::from_ref(&made), Format::Json).as_bytes(), Format::Json).unwrap();
        prop_assert_eq!(json.rows[0].woofer.as_deref(), Some(&made), "{:?}", json.rows[0].problems);
        let csv = import(export(std::slice::from_ref(&made), Format::Csv).as_bytes(), Format::Csv).unwrap();
        let back = csv.rows[0].woofer.as_deref();
        prop_assert_eq!(back.map(ShelfWoofer::in_use), Some(made.in_use()), "{:?}", csv.rows[0].problems);
        prop_assert_eq!(&back.unwrap().notes, &made.notes);
    }

    /// No text makes the reader fall over.
    #[test]
    fn any_text_is_answered(text in "(name|fs_hz|vas \\(L\\)|,|;|\n|\"|[0-9.,]+|=x|\\PC){0,60}") {
        let _ = import(text.as_bytes(), Format::Csv);
        let _ = import(text.as_bytes(), Format::Json);
    }

    /// Sets keep frame and figures apart, and put them together again.
    #[test]
    fn frame_and_figures_part_and_join(made in woofer()) {
        let whole = made.in_use();
        prop_assert_eq!(whole.without_figures().with_figures(&whole.figures()), whole.clone());
        prop_assert_eq!(ShelfWoofer::from_sheet(&whole).in_use(), whole);
        prop_assert!(made.problems().is_empty());
        let value: Value = serde_json::to_value(&made).unwrap();
        prop_assert_eq!(oak_drum_shelf::read_value(value).unwrap(), made);
    }
}

//! Text files as people and programs write them.

use oak_drum_curves::about::About;
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::error::CurveError;
use oak_drum_curves::formats::text::{ColumnRole, MagnitudeUnit, look, read, write, write_csv};
use oak_drum_curves::formats::{calibration, json};

fn near(list: &[f64], should: &[f64]) -> bool {
    list.len() == should.len() && list.iter().zip(should).all(|(a, b)| (a - b).abs() < 1e-9 * b.abs().max(1.0))
}

#[test]
fn many_ways_of_writing_one_curve() {
    let ways = [
        "20 81.5 -90\n40 88.25 -45\n80 88.5 10\n",
        "20\t81.5\t-90\n40\t88.25\t-45\n80\t88.5\t10\n",
        "20,81.5,-90\r\n40,88.25,-45\r\n80,88.5,10\r\n",
        "20;81,5;-90\n40;88,25;-45\n80;88,5;10\n",
        "20,0 81,5 -90,0\n40,0 88,25 -45,0\n80,0 88,5 10,0\n",
        "20,0\t81,5\t-90,0\n40,0\t88,25\t-45,0\n80,0\t88,5\t10,0\n",
        "20.0, 81.5, -90.0\n40.0, 88.25, -45.0\n80.0, 88.5, 10.0\n",
        "* a comment\n# another\nfreq (Hz)\tSPL (dB)\tphase (deg)\n20\t81.5\t-90\n40\t88.25\t-45\n80\t88.5\t10\n",
        "\"frequency_hz\",\"level_db\",\"phase_deg\"\n20,81.5,-90\n40,88.25,-45\n80,88.5,10\n",
        "0.02 81.5 -90\n0.04 88.25 -45\n0.08 88.5 10\n",
        "frequency kHz;level;phase\n0,02;81,5;-90\n0,04;88,25;-45\n0,08;88,5;10\n",
        "80 88.5 10\n40 88.25 -45\n20 81.5 -90\n",
        "2.0e1 8.15e1 -9e1\n4.0E1 88.25 -45\n+80 88.5 10\n",
        "\u{feff}20 81.5 -90\n\n40 88.25 -45\n# in between\n80 88.5 10\n\n",
        "27.11.2026 12:30\n20 81.5 -90\n40 88.25 -45\n80 88.5 10\n",
        "level_db,phase_deg,frequency_hz\n81.5,-90,20\n88.25,-45,40\n88.5,10,80\n",
        "freq_hz,coherence,level_db,phase_rad\n20,1,81.5,-1.5707963267948966\n40,1,88.25,-0.7853981633974483\n80,1,88.5,0.17453292519943295\n",
    ];
    for text in ways {
        let read = read(text.as_bytes(), None).unwrap_or_else(|e| panic!("{text:?}: {e}"));
        assert_eq!(read.curve.quantity, Measurand::Level, "{text:?}: {:?}", read.reasons);
        assert!(near(&read.curve.frequency, &[20.0, 40.0, 80.0]), "{text:?}: {:?}", read.curve.frequency);
        assert!(near(&read.curve.magnitude(), &[81.5, 88.25, 88.5]), "{text:?}: {:?}", read.curve.magnitude());
        assert!(near(&read.curve.phase_deg().unwrap(), &[-90.0, -45.0, 10.0]), "{text:?}");
    }
}

#[test]
fn impedances_and_parts() {
    let header = read(b"Hz,ohm,degree\n10,6.1,2\n20,18,40\n40,9,-30\n", None).unwrap();
    assert_eq!((header.reading.unit, header.curve.quantity), (MagnitudeUnit::Ohm, Measurand::Impedance));
    let bare = read(b"10 6.1\n20 18\n30 38\n40 9\n80 6.5\n", None).unwrap();
    assert_eq!(bare.reading.unit, MagnitudeUnit::Ohm);
    assert!(bare.reasons.iter().any(|r| r.contains("taken for ohms")), "{:?}", bare.reasons);
    assert!(!bare.curve.has_phase);
    let parts = read(b"frequency_hz,real_ohm,imag_ohm\n10,6,1\n20,3,-4\n", None).unwrap();
    assert_eq!(parts.reading.columns, [ColumnRole::Frequency, ColumnRole::Real, ColumnRole::Imaginary]);
    // the header names no unit of a part: real and imaginary part of decibels there are none
    assert!((parts.curve.value[1].norm() - 5.0).abs() < 1e-12 && parts.curve.has_phase);
}

/// A wrong guess is told and mended.
#[test]
fn a_reading_can_be_corrected() {
    // a running number is seen through
    let numbered = read(b"1 20 81.5 -90\n2 40 88.25 -45\n3 80 88.5 10\n", None).unwrap();
    assert!(near(&numbered.curve.frequency, &[20.0, 40.0, 80.0]), "{:?}", numbered.reasons);
    assert!(near(&numbered.curve.magnitude(), &[81.5, 88.25, 88.5]), "nor is it the magnitude");
    // a clock is not
    let text = b"0.5 20 81.5 -90\n0.9 40 88.25 -45\n1.6 80 88.5 10\n";
    let first = read(text, None).unwrap();
    assert_eq!(first.reading.columns[0], ColumnRole::Frequency, "the first rising column is taken");
    let mut told = first.reading.clone();
    told.columns = vec![ColumnRole::LeftOut, ColumnRole::Frequency, ColumnRole::Magnitude, ColumnRole::Phase];
    told.unit = MagnitudeUnit::Decibel;
    told.kilohertz = false;
    let second = read(text, Some(&told)).unwrap();
    assert!(near(&second.curve.frequency, &[20.0, 40.0, 80.0]));
    assert_eq!(second.rows[0], ["0.5", "20", "81.5", "-90"]);
    // where nothing can be read so, its looks are told all the same
    let odd = b"0.5 800 81.5\n0.9 900 88.25\n1.6 950 88.5\n";
    assert!(read(odd, None).is_err());
    assert_eq!(look(odd, None).unwrap().rows.len(), 3);
    told.columns[0] = ColumnRole::Frequency;
    let error = read(text, Some(&told)).unwrap_err().to_string();
    assert!(error.contains("two columns hold the same"), "{error}");
}

#[test]
fn what_is_wrong_is_named_by_line_and_column() {
    let cases: [(&[u8], &str); 9] = [
        (b"", "empty"),
        (b"\xFF\xFE2\x000\x00", "UTF-16"),
        (b"20 81\x00", "no text"),
        (b"hello\nworld\n", "no two lines begin with numbers"),
        (b"20\n40\n", "only one column"),
        (b"20 81\n40 x81\n80 88\n", "line 2, column 2: \"x81\" is no number"),
        (b"20 81 -90\n40 81\n80 88 -9\n", ""),
        (b"20 81\n40 5000\n80 88\n", "line 2, column 2: a level"),
        (b"20 81\n-40 85\n80 85\n", "line 2, column 1: a frequency"),
    ];
    for (text, words) in cases {
        let outcome = read(text, None);
        if words.is_empty() {
            // the shortest row tells how many columns there are
            assert!(!outcome.unwrap().curve.has_phase);
            continue;
        }
        let error = outcome.unwrap_err().to_string();
        assert!(error.contains(words), "{error}");
    }
    let long = read(b"20 81 -90\n40 81 -80\n".as_slice(), None).unwrap();
    let told = long.reading;
    let error = read(b"20 81 -90\n40 81\n", Some(&told)).unwrap_err();
    assert_eq!(error, CurveError::NoColumn { line: 2, column: 3 });
}

#[test]
fn what_was_put_right_is_said() {
    let odd = read(b"0 70\n20 81\n20 82\n80 88\n40 85\nend of data\n160 89\n", None).unwrap();
    assert!(near(&odd.curve.frequency, &[20.0, 40.0, 80.0, 160.0]));
    assert!(near(&odd.curve.magnitude(), &[81.0, 85.0, 88.0, 89.0]));
    let said = odd.warnings.join("; ");
    for words in ["0 Hz", "did not rise", "1 points at the frequency", "line 6"] {
        assert!(said.contains(words), "{said}");
    }
}

#[test]
fn what_is_written_is_read_back() {
    let f: Vec<f64> = (0..60).map(|i| 10.0 * 1.07f64.powi(i)).collect();
    let level: Vec<f64> = f.iter().map(|f| 80.0 + (f / 9.0).sin()).collect();
    let phase: Vec<f64> = f.iter().map(|f| (f / 30.0).sin()).collect();
    let full = Curve::of_level(f.clone(), &level, Some(&phase));
    let ohms = Curve::of_impedance(f, &level, None);
    for curve in [&full, &ohms] {
        for text in [write(curve, "a title, with 3 numbers"), write_csv(curve)] {
            let back = read(text.as_bytes(), None).unwrap().curve;
            assert_eq!((back.quantity, back.has_phase), (curve.quantity, curve.has_phase), "{text}");
            for (a, b) in back.value.iter().zip(&curve.value) {
                assert!((a - b).norm() < 1e-9 * b.norm());
            }
        }
        let file = json::CurveFile::of(curve, About { name: "x".into(), ..About::default() });
        let back = json::read(json::write(&file).as_bytes()).unwrap();
        assert_eq!(back.about, file.about);
        assert!((back.curve().value[7] - curve.value[7]).norm() < 1e-9 * curve.value[7].norm());
    }
}

#[test]
fn json_is_read_by_its_schema() {
    let says = |text: &str, words: &str| {
        let error = json::read(text.as_bytes()).unwrap_err().to_string();
        assert!(error.contains(words), "{error}");
    };
    says("{", "cut off");
    says("{}", "oak-drum-curve");
    let head = r#""format": "oak-drum-curve", "version": 1, "quantity""#;
    says(&format!(r#"{{{head}: "level", "frequency_hz": [10, 20], "magnitude": [1, 2], "phase": [0, 0]}}"#), "phase");
    says(&format!(r#"{{{head}: "level", "frequency_hz": [20, 10], "magnitude": [1, 2]}}"#), "have to rise");
    says(&format!(r#"{{{head}: "impedance", "frequency_hz": [10, 20], "magnitude": [1, -2]}}"#), "above 0");
    says(&format!(r#"{{{head}: "level", "frequency_hz": [10, 20], "magnitude": [1, 2, 3]}}"#), "equally long");
}

#[test]
fn a_million_points_are_read() {
    let mut text = String::with_capacity(30 << 20);
    for i in 0..1_000_000 {
        text += &format!(
            "{:.3}\t{:.3}\t{:.2}\n",
            1.0 + f64::from(i) * 0.02,
            80.0 + f64::from(i % 100) * 0.01,
            f64::from(i % 360) - 180.0
        );
    }
    assert_eq!(read(text.as_bytes(), None).unwrap().curve.len(), 1_000_000);
    text += "30000\t1\t1\n";
    assert_eq!(read(text.as_bytes(), None).unwrap_err(), CurveError::TooMany { most: 1_000_000 });
}

#[test]
fn a_calibration_file_is_read_in_decibels() {
    let file = calibration::read(b"Sens 12.1\n;10 is the lowest\n10\t1.5\t3\n100\t2.0\t1\n20000\t7.5\t-9\n").unwrap();
    assert!((20.0 * file.at(10.0).norm().log10() - 1.5).abs() < 1e-9);
    assert_eq!(file.range(), (10.0, 20_000.0));
}

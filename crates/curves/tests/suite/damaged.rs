//! A thousand damaged files through every reader: none may panic or hang.

use oak_drum_curves::about::About;
use oak_drum_curves::curve::Curve;
use oak_drum_curves::formats::wav::{Depth, Recording};
use oak_drum_curves::formats::{calibration, json, text, wav};

#[test]
fn damaged_files_are_read_or_refused() {
    let f: Vec<f64> = (0..80).map(|i| 10.0 * 1.05f64.powi(i)).collect();
    let curve = Curve::of_level(f.clone(), &vec![80.25; 80], Some(&vec![0.3; 80]));
    let recording = Recording { rate: 48_000.0, channels: vec![vec![0.25; 300], vec![-0.5; 300]] };
    let whole: Vec<Vec<u8>> = vec![
        text::write(&curve, "title").into_bytes(),
        text::write_csv(&curve).into_bytes(),
        text::write_csv(&curve).replace('.', ",").replace(",\n", "\n").into_bytes(),
        json::write(&json::CurveFile::of(&curve, About::default())).into_bytes(),
        wav::write(&recording, Depth::Bits24).unwrap(),
        wav::write(&recording, Depth::Float).unwrap(),
    ];
    let mut random = fastrand::Rng::with_seed(20_261_126);
    let (mut read, mut refused) = (0, 0);
    for round in 0..1200 {
        let mut bytes = whole[round % whole.len()].clone();
        match random.u8(0..6) {
            0 => bytes.truncate(random.usize(0..bytes.len())),
            1 => {
                for _ in 0..random.usize(1..20) {
                    let at = random.usize(0..bytes.len());
                    bytes[at] = random.u8(..);
                }
            }
            2 => {
                let at = random.usize(0..bytes.len());
                let junk: Vec<u8> = (0..random.usize(1..40)).map(|_| random.u8(..)).collect();
                bytes.splice(at..at, junk);
            }
            3 => {
                let from = random.usize(0..bytes.len());
                let to = (from + random.usize(1..60)).min(bytes.len());
                bytes.drain(from..to);
            }
            4 => {
                let (a, b) = (random.usize(0..bytes.len()), random.usize(0..bytes.len()));
                bytes.swap(a, b);
            }
            _ => {
                // numbers as files of instruments have them when something went wrong
                let word =
                    [&b"NaN"[..], b"inf", b"-1e999", b"--", b"1.2.3", b"9999999999999999999"][random.usize(0..6)];
                let at = random.usize(0..bytes.len());
                bytes.splice(at..at, word.iter().copied());
            }
        }
        let mut told = |ok: bool| if ok { read += 1 } else { refused += 1 };
        let as_text = text::read(&bytes, None);
        if let Ok(found) = &as_text {
            assert!(found.curve.frequency.windows(2).all(|w| w[1] > w[0]));
            assert!(found.curve.value.iter().all(|v| v.is_finite()));
        }
        told(as_text.is_ok());
        told(calibration::read(&bytes).is_ok());
        told(json::read(&bytes).is_ok());
        told(wav::read(&bytes).is_ok_and(|r| r.channels.iter().flatten().all(|x| x.is_finite())));
    }
    assert!(read > 500 && refused > 500, "{read} read, {refused} refused");
}

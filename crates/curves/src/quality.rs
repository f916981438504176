//! What a curve is worth, said plainly.

use crate::about::Taken;
use crate::curve::Curve;
use crate::process::near_field::valid_to;
use oak_drum_acoustics::air::Air;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Signal over noise below which a point is drawn faint and takes no part in fits, dB.
pub const LEAST_SNR_DB: f64 = 10.0;

/// What is wrong with a stretch of a curve.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct CurveDoubt {
    /// Which kind.
    pub kind: CurveDoubtKind,
    /// In a sentence.
    pub sentence: String,
    /// Where it begins, Hz; absent where it is all of it.
    pub from_hz: Option<f64>,
    /// Where it ends, Hz.
    pub to_hz: Option<f64>,
}

/// Kinds of doubt.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum CurveDoubtKind {
    /// Too few points an octave.
    Sparse,
    /// Noise.
    Noisy,
    /// A near field beyond ka = 1.
    NearFieldEnds,
    /// The room is in it.
    Room,
    /// No phase.
    NoPhase,
    /// It does not reach low enough.
    BeginsHigh,
}

/// Says what a curve is worth: taken so, over a thing that radiates of an area (m²) where that is known.
pub fn doubts(curve: &Curve, taken: &Taken, area: Option<f64>, air: &Air) -> Vec<CurveDoubt> {
    let mut list = Vec::new();
    let (Some(&first), Some(&last)) = (curve.frequency.first(), curve.frequency.last()) else { return list };
    let mut say = |kind, sentence: String, from_hz: Option<f64>, to_hz: Option<f64>| {
        list.push(CurveDoubt { kind, sentence, from_hz, to_hz });
    };
    let bass = curve.between(first, 200.0f64.max(first * 2.0));
    let octaves = bass.frequency.last().map_or(0.0, |l| (l / first).log2());
    if octaves > 0.0 && (bass.len() as f64) < 10.0 * octaves {
        let each = bass.len() as f64 / octaves;
        say(
            CurveDoubtKind::Sparse,
            format!("{each:.0} points an octave below 200 Hz are few: what is narrow falls between"),
            None,
            None,
        );
    }
    let noisy = |i: &usize| curve.snr_db.get(*i).is_some_and(|s| *s < LEAST_SNR_DB);
    if let Some(until) = (0..curve.len()).take_while(noisy).last() {
        let f = curve.frequency[until];
        say(
            CurveDoubtKind::Noisy,
            format!("noisy below {f:.0} Hz: those points are left out of fits"),
            Some(first),
            Some(f),
        );
    }
    let within = (0..curve.len()).filter(noisy).count();
    if within * 3 > curve.len() {
        let percent = 100.0 * within as f64 / curve.len() as f64;
        say(
            CurveDoubtKind::Noisy,
            format!("{percent:.0} % of it is in noise: turn it up, or take it more often"),
            None,
            None,
        );
    }
    match taken {
        Taken::NearCone {} | Taken::NearPort {} | Taken::NearRadiator {} => {
            if let Some(top) = area.map(|a| valid_to(a, air)).filter(|top| *top < last) {
                say(
                    CurveDoubtKind::NearFieldEnds,
                    format!("a near field of this size speaks up to {top:.0} Hz (ka = 1), not above"),
                    Some(top),
                    Some(last),
                );
            }
        }
        Taken::AtSeat {} => {
            say(CurveDoubtKind::Room, "the room is in all of it: it tells the seat, not the box".into(), None, None);
        }
        Taken::InFront { .. } => {
            say(
                CurveDoubtKind::Room,
                "indoors the room is in it above some 60 Hz, and below its first mode: close to cone and port it is not".into(),
                Some(60.0),
                Some(last),
            );
        }
        _ => {}
    }
    if !curve.has_phase {
        let what =
            if taken.is_impedance() { "fits go by the magnitude alone" } else { "it cannot be added to another curve" };
        say(CurveDoubtKind::NoPhase, format!("it has no phase: {what}"), None, None);
    }
    if taken.is_impedance() && first > 15.0 {
        say(
            CurveDoubtKind::BeginsHigh,
            format!("it begins at {first:.0} Hz: the lower peak of a tuned box, and Re, want 5 to 10 Hz"),
            None,
            None,
        );
    }
    list
}

#[cfg(test)]
mod tests {
    use super::*;
    use oak_drum_acoustics::level::log_frequencies;

    #[test]
    fn what_is_doubtful_is_said_and_what_is_not_is_not() {
        let air = Air::given(343.2, 1.2041);
        let f = log_frequencies(8.0, 1000.0, 300);
        let mut curve = Curve::of_level(f.clone(), &[80.0; 300], Some(&[0.0; 300]));
        let kinds = |curve: &Curve, taken: Taken, area: Option<f64>| {
            doubts(curve, &taken, area, &air).iter().map(|d| d.kind).collect::<Vec<_>>()
        };
        assert!(kinds(&curve, Taken::NearCone {}, Some(0.002)).is_empty());
        assert_eq!(kinds(&curve, Taken::NearCone {}, Some(0.053)), [CurveDoubtKind::NearFieldEnds]);
        curve.snr_db = f.iter().map(|f| if *f < 20.0 { 3.0 } else { 40.0 }).collect();
        let list = doubts(&curve, &Taken::AtSeat {}, None, &air);
        assert_eq!(list.iter().map(|d| d.kind).collect::<Vec<_>>(), [CurveDoubtKind::Noisy, CurveDoubtKind::Room]);
        assert!(list[0].to_hz.unwrap() < 20.0 && list[0].to_hz.unwrap() > 19.0);
        let ohms = Curve::of_impedance(vec![20.0, 40.0, 80.0, 160.0], &[8.0; 4], None);
        let list = kinds(&ohms, Taken::InBox {}, None);
        assert_eq!(list, [CurveDoubtKind::Sparse, CurveDoubtKind::NoPhase, CurveDoubtKind::BeginsHigh]);
    }
}

//! What custom reads out of fs, Qts and the efficiency-bandwidth product: indications, not verdicts.
//!
//! Two schools are kept side by side. Both thresholds are common practice (from memory, without one published
//! source); what a box really does is computed.

use super::ThieleSmall;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Which way a figure leans.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Reading {
    /// Toward a sealed box.
    Sealed,
    /// Either will do.
    Either,
    /// Toward a vented box.
    Vented,
    /// Toward a very large box, or a wall.
    Large,
}

/// What one school reads from a woofer.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Indication {
    /// The school.
    pub school: String,
    /// The figure it looks at.
    pub figure: f64,
    /// Unit of the figure.
    pub unit: String,
    /// Which way it leans.
    pub reading: Reading,
    /// The threshold in words.
    pub sentence: String,
}

/// A school: its name and its reading.
pub type School = (&'static str, fn(&ThieleSmall) -> Indication);

/// Every school.
pub const INDICATIONS: &[School] = &[("fs/Qes", by_bandwidth_product), ("Qts", by_total_q)];

/// What every school reads.
pub fn indications(ts: &ThieleSmall) -> Vec<Indication> {
    INDICATIONS.iter().map(|(_, read)| read(ts)).collect()
}

/// Efficiency-bandwidth product: below 50 Hz sealed, above 100 Hz vented, between them either (common practice).
fn by_bandwidth_product(ts: &ThieleSmall) -> Indication {
    let ebp = ts.ebp();
    let (reading, words) = match ebp {
        x if x < 50.0 => (Reading::Sealed, "below 50 Hz custom takes a sealed box"),
        x if x > 100.0 => (Reading::Vented, "above 100 Hz custom takes a vented box"),
        _ => (Reading::Either, "between 50 and 100 Hz custom allows either"),
    };
    Indication {
        school: "fs/Qes".into(),
        figure: ebp,
        unit: "Hz".into(),
        reading,
        sentence: format!("fs/Qes is {ebp:.0} Hz: {words}."),
    }
}

/// Total Q: below 0.4 vented, to 0.7 sealed, above that a very large box or none (common practice).
fn by_total_q(ts: &ThieleSmall) -> Indication {
    let q = ts.qts();
    let (reading, words) = match q {
        x if x < 0.4 => (Reading::Vented, "below 0.4 custom takes a vented box"),
        x if x <= 0.7 => (Reading::Sealed, "from 0.4 to 0.7 custom takes a sealed box"),
        _ => (Reading::Large, "above 0.7 custom takes a very large box or an open wall"),
    };
    Indication {
        school: "Qts".into(),
        figure: q,
        unit: String::new(),
        reading,
        sentence: format!("Qts is {q:.2}: {words}."),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The thresholds, from either side.
    #[test]
    fn thresholds() {
        let with = |fs: f64, qes: f64, qms: f64| {
            let ts = ThieleSmall { fs, qms, qes, vas: 0.1, re: 5.6, sd: 0.05 };
            indications(&ts).iter().map(|i| i.reading).collect::<Vec<_>>()
        };
        assert_eq!(with(30.0, 0.61, 5.0), [Reading::Sealed, Reading::Sealed]);
        assert_eq!(with(30.0, 0.31, 5.0), [Reading::Either, Reading::Vented]);
        assert_eq!(with(40.0, 0.39, 5.0), [Reading::Vented, Reading::Vented]);
        assert_eq!(with(30.0, 1.2, 5.0), [Reading::Sealed, Reading::Large]);
    }
}

//! What the workshop's other boxes measured about the ends of their ports, offered to the next one with its scatter.
//!
//! A factor multiplies the reckoned corrections of both ends (`end_factor` of a port, put there by a trim). Mean and standard deviation
//! of the builds that have one; with a single one nothing is known of the scatter, and that is said.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// Ends of ports as measured in other builds.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct LearnedEnds {
    /// Mean of the factors, to two digits behind the point.
    pub factor: f64,
    /// Their standard deviation; none of a single one.
    pub scatter: Option<f64>,
    /// Where they were measured: build and factor.
    pub builds: Vec<(String, f64)>,
    /// In a sentence.
    pub sentence: String,
}

/// The factors that stand in a design document, one for each port that was measured.
pub fn factors(document: &Value) -> Vec<f64> {
    fn walk(value: &Value, found: &mut Vec<f64>) {
        match value {
            Value::Object(map) => {
                found.extend(map.get("end_factor").and_then(Value::as_f64));
                map.values().for_each(|v| walk(v, found));
            }
            Value::Array(list) => list.iter().for_each(|v| walk(v, found)),
            _ => {}
        }
    }
    let mut found = Vec::new();
    walk(&document["enclosure"], &mut found);
    found
}

/// What builds (name, and their newest design with a measured port) have in common: 1 from no builds where nothing was measured.
pub fn learned(builds: &[(String, Value)]) -> LearnedEnds {
    let all: Vec<(String, f64)> = builds
        .iter()
        .filter_map(|(name, document)| {
            let own = factors(document);
            let mean = own.iter().sum::<f64>() / own.len() as f64;
            (!own.is_empty()).then(|| (name.clone(), (mean * 100.0).round() / 100.0))
        })
        .collect();
    let n = all.len() as f64;
    let mean = if all.is_empty() { 1.0 } else { all.iter().map(|(_, f)| f).sum::<f64>() / n };
    let scatter = (all.len() > 1)
        .then(|| (all.iter().map(|(_, f)| (f - mean).powi(2)).sum::<f64>() / (n - 1.0)).sqrt())
        .map(|s| (s * 100.0).round() / 100.0);
    let factor = (mean * 100.0).round() / 100.0;
    let sentence = match (all.as_slice(), scatter) {
        ([], _) => "No other box of this workshop has its port measured yet.".into(),
        ([(name, _)], _) => format!(
            "In \"{name}\" the port's ends were measured to act {factor:.2} times as reckoned. It is one box: how far others scatter is not known."
        ),
        (list, scatter) => format!(
            "In {} boxes of this workshop the ports' ends were measured to act {factor:.2} times as reckoned, give or take {:.2}.",
            list.len(),
            scatter.unwrap_or_default()
        ),
    };
    LearnedEnds { factor, scatter, builds: all, sentence }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    fn build(name: &str, factors: &[f64]) -> (String, Value) {
        let ports: Vec<Value> = factors.iter().map(|f| json!({"end_factor": f})).collect();
        (name.into(), json!({"enclosure": {"family": "vented", "rear": {"ports": ports}}, "end_factor": 9.0}))
    }

    #[test]
    fn nothing_one_and_several() {
        assert_eq!(learned(&[]), learned(&[build("Plain", &[])]));
        assert_eq!((learned(&[]).factor, learned(&[]).builds.len()), (1.0, 0));
        let one = learned(&[build("Barn", &[1.13]), build("Plain", &[])]);
        assert_eq!((one.factor, one.scatter), (1.13, None));
        assert!(one.sentence.contains("\"Barn\"") && one.sentence.contains("not known"), "{}", one.sentence);
        // 1.1, 1.3 (the mean of two ports) and 1.2: mean 1.2, standard deviation 0.1
        let three = learned(&[build("A", &[1.1]), build("B", &[1.2, 1.4]), build("C", &[1.2])]);
        assert_eq!((three.factor, three.scatter), (1.2, Some(0.1)));
        assert_eq!(three.builds[1], ("B".into(), 1.3));
        assert!(three.sentence.contains("3 boxes") && three.sentence.contains("give or take 0.10"));
    }
}

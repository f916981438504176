//! From older versions of the document to the newest: one function a step.

use crate::design::VERSION;
use serde_json::{Value, json};

/// The steps in order; step `i` takes version `i + 1` to `i + 2`.
const STEPS: &[fn(&mut Value)] =
    &[one_to_two, two_to_three, three_to_four, four_to_five, five_to_six, six_to_seven, seven_to_eight];

/// Upgrades a document in place as far as it is older than [`VERSION`]; others are left as they are.
pub fn upgrade(document: &mut Value) {
    while let Some(version) = document.get("version").and_then(Value::as_u64) {
        let Some(step) = usize::try_from(version).ok().and_then(|v| v.checked_sub(1)).and_then(|i| STEPS.get(i)) else {
            return;
        };
        step(document);
        document["version"] = json!(version + 1);
        debug_assert!(version < u64::from(VERSION));
    }
}

/// Version 1 knew one tube only: `enclosure.port` was {diameter_mm, tuning_hz or length_mm, flared}, the drive
/// was `drive_volts`, and the two resistances were one.
fn one_to_two(document: &mut Value) {
    if let Some(volts) = take(document, "drive_volts") {
        document["drive"] = json!({"kind": "voltage", "volts": volts});
    }
    if let Some(ohm) = take(document, "resistance_ohm") {
        document["source"] = json!({"source_resistance_ohm": ohm});
    }
    let Some(port) = document.pointer_mut("/enclosure/port") else { return };
    let Some(diameter) = take(port, "diameter_mm") else { return };
    let sizing = match (take(port, "tuning_hz"), take(port, "length_mm")) {
        (_, Some(length)) => json!({"by": "length", "length_mm": length}),
        (tuning, None) => json!({"by": "tuning", "tuning_hz": tuning}),
    };
    let flared = take(port, "flared") == Some(Value::Bool(true));
    let count = take(port, "count").unwrap_or(json!(1));
    let end =
        |plain: &str| if flared { json!({"kind": "flared", "radius_mm": 15.0}) } else { json!({ "kind": plain }) };
    let fresh = json!({
        "section": {"shape": "round", "diameter_mm": diameter},
        "count": count,
        "sizing": sizing,
        "inner_end": end("free"),
        "outer_end": end("flanged"),
    });
    // what version 1 did not know stays in place, so that the reader names it
    if let (Value::Object(port), Value::Object(fresh)) = (port, fresh) {
        port.extend(fresh);
    }
}

/// Version 2 named three wirings; version 3 counts the woofers in series.
fn two_to_three(document: &mut Value) {
    let Some(array) = document.get_mut("array") else { return };
    let count = array.get("count").cloned().unwrap_or(json!(1));
    let in_series = match array.get("wiring").and_then(Value::as_str) {
        Some("series") => count,
        Some("series_pairs_in_parallel") => json!(2),
        Some("parallel") => json!(1),
        // what version 2 did not know either stays in place, so that the reader names it
        _ => return,
    };
    take(array, "wiring");
    array["woofers_in_series"] = in_series;
}

/// Version 3 had one set of losses for both chambers of a bandpass box, did not say that a front horn's were the rear
/// chamber's, and let a port be shorter than its flares.
fn three_to_four(document: &mut Value) {
    let Some(enclosure) = document.get_mut("enclosure") else { return };
    for port in ["port", "rear_port", "front_port"] {
        if let Some(port) = enclosure.get_mut(port) {
            shorten_flares(port);
        }
    }
    let chambers: &[(&str, &[&str])] = match enclosure.get("family").and_then(Value::as_str) {
        Some("bandpass_fourth") => {
            &[("leak_q", &["rear", "front"]), ("absorption_q", &["rear", "front"]), ("port_q", &["front"])]
        }
        Some("bandpass_sixth") => {
            &[("leak_q", &["rear", "front"]), ("absorption_q", &["rear", "front"]), ("port_q", &["rear", "front"])]
        }
        Some("front_horn") => &[("leak_q", &["rear"]), ("absorption_q", &["rear"])],
        _ => return,
    };
    for (name, ends) in chambers {
        let Some(value) = take(enclosure, name) else { continue };
        for end in *ends {
            enclosure[format!("{end}_{name}")] = value.clone();
        }
    }
}

/// Version 4 kept prices and steps, which are the workshop's ([`crate::WorkPlan::within`] reads them before they go).
fn four_to_five(document: &mut Value) {
    take(document, "prices");
    take(document, "steps");
}

/// Flares that are longer together than the port that is given are cut to what there is of it, as they could be built; under
/// 2 mm the edge is plain.
fn shorten_flares(port: &mut Value) {
    let Some(length) = port.pointer("/sizing/length_mm").and_then(Value::as_f64) else { return };
    let radius = |port: &Value, end: &str| port.pointer(&format!("/{end}/radius_mm")).and_then(Value::as_f64);
    let both: f64 = ["inner_end", "outer_end"].iter().filter_map(|end| radius(port, end)).sum();
    if both <= length {
        return;
    }
    for (end, plain) in [("inner_end", "free"), ("outer_end", "flanged")] {
        if let Some(r) = radius(port, end) {
            let cut = (r * length / both * 100.0).floor() / 100.0;
            port[end] = if cut < 2.0 { json!({ "kind": plain }) } else { json!({"kind": "flared", "radius_mm": cut}) };
        }
    }
}

/// Version 5 called a stretch of a folded path a lane.
fn five_to_six(document: &mut Value) {
    let Some(fold) = document.pointer_mut("/cabinet/fold") else { return };
    if let Some(pattern) = fold.get("pattern").and_then(Value::as_str).map(|p| p.replace("lanes", "segments")) {
        fold["pattern"] = json!(pattern);
    }
    if let Some(first) = take(fold, "first_lane") {
        fold["first_segment"] = first;
    }
}

/// Version 6 had the amplifier in the brief, and two resistances before the woofers.
fn six_to_seven(document: &mut Value) {
    let amplifier = document.get_mut("brief").and_then(|brief| take(brief, "amplifier"));
    let source = take(document, "source");
    if let Some(chain) = chain_of(amplifier, source) {
        document["chain"] = chain;
    }
}

/// Version 7 knew no room: every design of it stands in the open field still.
fn seven_to_eight(_: &mut Value) {}

/// The chain that an amplifier of its rating and two resistances were, each where it was stated. Without an amplifier its resistance
/// is the leads'.
fn chain_of(amplifier: Option<Value>, source: Option<Value>) -> Option<Value> {
    if amplifier.is_none() && source.is_none() {
        return None;
    }
    let mut chain = json!({});
    let mut source = source.unwrap_or(json!({}));
    let mut output = take(&mut source, "source_resistance_ohm");
    if let Some(mut amplifier) = amplifier {
        if let (Value::Object(of), Some(ohm)) = (&mut amplifier, output.take()) {
            of.insert("output_resistance_ohm".into(), ohm);
        }
        chain["amplifier"] = amplifier;
    }
    let lead = take(&mut source, "lead_resistance_ohm");
    let both = match (output.as_ref().and_then(Value::as_f64), lead.as_ref().and_then(Value::as_f64)) {
        (Some(a), Some(b)) => Some(json!(a + b)),
        _ => lead.or(output),
    };
    if let Some(ohm) = both.filter(|ohm| ohm.as_f64() != Some(0.0)) {
        chain["cable"] = json!({"kind": "resistance", "lead_resistance_ohm": ohm});
    }
    // what version 6 did not know either stays, so that the reader names it
    if let (Value::Object(chain), Value::Object(rest)) = (&mut chain, source) {
        chain.extend(rest);
    }
    Some(chain)
}

fn take(object: &mut Value, key: &str) -> Option<Value> {
    object.as_object_mut()?.shift_remove(key)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn upgraded(mut document: Value) -> Value {
        upgrade(&mut document);
        document
    }

    /// Every older version goes through all the steps behind it, and ends as the newest; what is newest already, newer, or no
    /// version at all is left as it is.
    #[test]
    fn every_version_becomes_the_newest() {
        for version in 1..=VERSION {
            assert_eq!(upgraded(json!({"version": version}))["version"], VERSION, "from {version}");
        }
        for left in
            [json!({"version": VERSION + 1}), json!({"version": 0}), json!({"version": "1"}), json!({}), json!([])]
        {
            assert_eq!(upgraded(left.clone()), left);
        }
        assert_eq!(STEPS.len() as u32, VERSION - 1);
    }

    /// A document of version 1 goes through every step that touches it: its tube, its drive and its fold are today's.
    #[test]
    fn the_steps_join() {
        let first = json!({"version": 1, "drive_volts": 20, "resistance_ohm": 0.2,
            "enclosure": {"family": "vented", "net_volume_l": 90,
                "port": {"diameter_mm": 100, "tuning_hz": 30, "flared": true, "count": 2}},
            "prices": {"sheet": 58}, "steps": [{"step": "cut", "done": true}],
            "cabinet": {"fold": {"pattern": "three_lanes", "first_lane": "front_or_floor"}}});
        let now = upgraded(first);
        assert_eq!(now["drive"], json!({"kind": "voltage", "volts": 20}));
        assert_eq!(now["chain"], json!({"cable": {"kind": "resistance", "lead_resistance_ohm": 0.2}}));
        let port = &now["enclosure"]["port"];
        assert_eq!(port["section"], json!({"shape": "round", "diameter_mm": 100}));
        assert_eq!((&port["count"], &port["sizing"]["by"]), (&json!(2), &json!("tuning")));
        assert_eq!(now["cabinet"]["fold"], json!({"pattern": "three_segments", "first_segment": "front_or_floor"}));
        // the workshop's own went to the work plan
        assert_eq!((now.get("prices"), now.get("steps")), (None, None));
    }

    /// Amplifier and resistances of version 6 become the chain; without an amplifier both resistances are the leads'.
    #[test]
    fn an_amplifier_joins_the_chain() {
        let amplifier = json!({"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4});
        let of = |brief: Value, source: Value| {
            upgraded(json!({"version": 6, "brief": brief, "source": source}))["chain"].clone()
        };
        let both = json!({"source_resistance_ohm": 0.1, "lead_resistance_ohm": 0.25});
        let chain = of(json!({"amplifier": amplifier}), both.clone());
        assert_eq!(chain["amplifier"]["output_resistance_ohm"], 0.1);
        assert_eq!(chain["amplifier"]["power_w"], 300);
        assert_eq!(chain["cable"]["lead_resistance_ohm"], 0.25);
        assert_eq!(of(json!({}), both)["cable"]["lead_resistance_ohm"], 0.35);
        assert_eq!(of(json!({}), json!({})), json!({}));
        assert_eq!(of(json!({"amplifier": amplifier}), Value::Null)["amplifier"], amplifier);
        // a slip stays to be named
        assert_eq!(of(json!({}), json!({"lead_ohm": 1}))["lead_ohm"], 1);
        let bare = upgraded(json!({"version": 6, "brief": {"lowest_note_hz": 30}}));
        assert_eq!((bare.get("chain"), bare["brief"]["lowest_note_hz"].as_f64()), (None, Some(30.0)));
    }

    /// What an older version did not know either stays, so that the reader can name it.
    #[test]
    fn what_was_never_known_stays() {
        let odd =
            json!({"version": 2, "array": {"count": 4, "wiring": "criss-cross"}, "cabinet": {"fold": {"pattern": 7}}});
        let now = upgraded(odd);
        assert_eq!(now["array"]["wiring"], "criss-cross");
        assert_eq!(now["cabinet"]["fold"], json!({"pattern": 7}));
    }
}

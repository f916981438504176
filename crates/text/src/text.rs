//! A text that carries quantities.

use crate::System;
use crate::quantity::{CLOSE, OPEN, Said};
use schemars::JsonSchema;
use serde::{Deserialize, Deserializer, Serialize};
use std::fmt;

/// A part of a text.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(untagged)]
pub enum Part {
    /// Words.
    Words(String),
    /// A quantity.
    Quantity(Said),
}

/// Words and quantities in their order.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(transparent)]
pub struct Text(#[serde(deserialize_with = "parts")] Vec<Part>);

/// The parts, or plain words, as texts were written before they carried quantities.
fn parts<'de, D: Deserializer<'de>>(from: D) -> Result<Vec<Part>, D::Error> {
    #[derive(Deserialize)]
    #[serde(untagged)]
    enum Written {
        Words(String),
        Parts(Vec<Part>),
    }
    Ok(match Written::deserialize(from)? {
        Written::Words(words) => Text::from(words).0,
        Written::Parts(parts) => parts,
    })
}

impl Text {
    /// All of it in words.
    pub fn said(&self, system: System) -> String {
        self.0
            .iter()
            .map(|part| match (part, system) {
                (Part::Words(words), _) => words.as_str(),
                (Part::Quantity(said), System::Metric) => said.metric.as_str(),
                (Part::Quantity(said), System::Inch) => said.inch.as_str(),
            })
            .collect()
    }

    /// All of it in words, in millimetres.
    pub fn metric(&self) -> String {
        self.said(System::Metric)
    }

    /// Its quantities in their order.
    pub fn quantities(&self) -> impl Iterator<Item = &Said> {
        self.0.iter().filter_map(|part| if let Part::Quantity(said) = part { Some(said) } else { None })
    }

    /// Whether it says so in millimetres.
    pub fn contains(&self, words: &str) -> bool {
        self.metric().contains(words)
    }

    /// Whether it begins so in millimetres.
    pub fn starts_with(&self, words: &str) -> bool {
        self.metric().starts_with(words)
    }

    /// Adds words and quantities at its end.
    pub fn add(&mut self, more: impl Into<Text>) {
        for part in more.into().0 {
            match (self.0.last_mut(), part) {
                (Some(Part::Words(words)), Part::Words(more)) => words.push_str(&more),
                (_, part) => self.0.push(part),
            }
        }
    }

    /// Whether there is nothing in it.
    pub fn is_empty(&self) -> bool {
        self.0.is_empty()
    }
}

impl fmt::Display for Text {
    /// The text with its quantities between marks, to be part of another.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.0.iter().try_for_each(|part| match part {
            Part::Words(words) => f.write_str(words),
            Part::Quantity(said) => said.fmt(f),
        })
    }
}

impl From<&str> for Text {
    fn from(text: &str) -> Text {
        let mut parts = Vec::new();
        let mut words = String::new();
        let mut rest = text;
        while let Some(begin) = rest.find(OPEN) {
            words.push_str(&rest[..begin]);
            let inside = &rest[begin + OPEN.len_utf8()..];
            let read = inside.find(CLOSE).and_then(|end| Some((Said::between(&inside[..end])?, end)));
            match read {
                Some((said, end)) => {
                    if !words.is_empty() {
                        parts.push(Part::Words(std::mem::take(&mut words)));
                    }
                    parts.push(Part::Quantity(said));
                    rest = &inside[end + CLOSE.len_utf8()..];
                }
                // a mark that is none is nothing
                None => rest = inside,
            }
        }
        words.push_str(rest);
        if !words.is_empty() {
            parts.push(Part::Words(words));
        }
        Text(parts)
    }
}

impl From<String> for Text {
    fn from(text: String) -> Text {
        Text::from(text.as_str())
    }
}

/// A string that may hold quantities, in words.
pub fn said(text: &str, system: System) -> String {
    if text.contains(OPEN) { Text::from(text).said(system) } else { text.to_owned() }
}

/// A sentence with a capital first letter.
pub fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or(String::new(), |first| first.to_uppercase().collect::<String>() + letters.as_str())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Unit;
    use crate::quantity::FIELD;
    use crate::{bolt, drill, kg, litres, metres, mm, screw, size, square_cm, square_metres, wire};
    use proptest::prelude::*;

    fn both(text: String) -> (String, String) {
        let text = Text::from(text);
        (text.said(System::Metric), text.said(System::Inch))
    }

    /// Factors of the international yard and pound (1959): an inch is 25.4 mm, a pound 0.453 592 37 kg.
    #[test]
    fn quantities_are_said_in_both() {
        for (text, metric, inch) in [
            (format!("{:.0}", mm(288.0)), "288 mm", "11 11/32 in"),
            (format!("{:.0}", mm([400.0, 600.0, 450.0])), "400 x 600 x 450 mm", "15 3/4 x 23 5/8 x 17 23/32 in"),
            (format!("{}", mm(24.2)), "24.2 mm", "15/16 in"),
            (format!("{:+.2}", mm(0.25)), "+0.25 mm", "+0.010 in"),
            (format!("{:+.1}", mm(-12.7)), "-12.7 mm", "-1/2 in"),
            (format!("{:.0}", mm(-0.2)), "0 mm", "-0.008 in"),
            (format!("{:.1} wide", size(18.0)), "18.0 wide", "23/32\" wide"),
            (format!("{}", size([590.1, 300.0])), "590.1 x 300", "23 7/32\" x 11 13/16\""),
            (format!("{:.1}", metres(3.048)), "3.0 m", "10 ft"),
            (format!("{:.0}", square_cm(645.16)), "645 cm²", "100 in²"),
            (format!("{:.2}", square_metres(1.5)), "1.50 m²", "16.1 ft²"),
            (format!("{:.0}", litres(95.0)), "95 L", "3.35 ft³"),
            (format!("{:.1}", litres(1.5)), "1.5 L", "91.5 in³"),
            (format!("{:.0}", kg(25.0)), "25 kg", "55.1 lb"),
            (format!("{:.0}", kg(1000.0)), "1000 kg", "2200 lb"),
            // ASME B18.6.1 and B1.1, ASTM B258: no. 8 is 0.164 in, no. 10 0.190 in; AWG 14 is 2.08 mm², AWG 12 3.31 mm²
            (format!("{}", drill(2.5)), "2.5 mm", "3/32 in"),
            (format!("{}", drill(12.7)), "12.7 mm", "1/2 in"),
            (format!("{}", screw([4.0, 40.0])), "4 x 40 mm", "no. 8 x 1 1/2 in"),
            (format!("{}", screw([5.0, 25.4])), "5 x 25.4 mm", "no. 10 x 1 in"),
            (format!("{}", bolt([5.0, 25.0])), "M5 x 25", "no. 10-24 x 1 in"),
            (format!("{}", bolt([6.0, 26.0])), "M6 x 26", "1/4-20 x 1 1/8 in"),
            (format!("{}", wire(2.5)), "2.5 mm²", "AWG 14"),
            (format!("{}", wire(4.0)), "4 mm²", "AWG 12"),
            ("nothing to count".into(), "nothing to count", "nothing to count"),
        ] {
            assert_eq!(both(text), (metric.into(), inch.into()));
        }
    }

    #[test]
    fn a_text_is_words_and_quantities_in_their_order() {
        let text = Text::from(format!("The {} and {:.1} of air.", mm(18.0), litres(40.0)));
        assert_eq!(
            text.quantities().map(|q| (q.values[0], q.unit)).collect::<Vec<_>>(),
            [(18.0, Unit::Mm), (40.0, Unit::L)]
        );
        assert!(text.contains("18 mm and 40.0 L of air"));
        let json = serde_json::to_string(&text).unwrap();
        assert!(
            json.starts_with(r#"["The ",{"values":[18.0],"unit":"mm","metric":"18 mm","inch":"23/32 in"}," and "#),
            "{json}"
        );
        assert_eq!(serde_json::from_str::<Text>(&json).unwrap(), text);
        assert_eq!(serde_json::from_str::<Text>("\"as before\"").unwrap(), Text::from("as before"));
    }

    #[test]
    fn more_is_added_at_the_end() {
        let mut text = Text::from(format!("{} long", mm(18.0)));
        text.add(format!("; {} outside", litres(95.0)));
        let whole = Text::from(format!("{} long; {} outside", mm(18.0), litres(95.0)));
        assert_eq!(text, whole);
        assert_eq!(Text::from(whole.to_string()), whole, "a text is part of another with its quantities");
    }

    #[test]
    fn broken_marks_are_dropped() {
        assert_eq!(both(format!("a{OPEN}b")).0, "ab");
        assert_eq!(both(format!("a{OPEN}yd{FIELD}{FIELD}{FIELD}3{CLOSE}b")).0.replace([FIELD, CLOSE], ""), "ayd3b");
    }

    proptest! {
        /// Whatever stands around them, quantities come out as they went in, and no mark is left in what is said.
        #[test]
        fn what_goes_in_comes_out(before in "[ -~]{0,12}", value in -1e4..1e4f64, between in "[ -~]{0,12}", other in 0.0..1e3f64) {
            let text = Text::from(format!("{before}{:.1}{between}{:.0}", mm(value), litres(other)));
            let found: Vec<f64> = text.quantities().map(|q| q.values[0]).collect();
            prop_assert_eq!(found.len(), 2);
            prop_assert!(found.iter().zip([value, other]).all(|(f, v)| (f - v).abs() <= 5e-6 * v.abs()), "{:?}", found);
            for system in [System::Metric, System::Inch] {
                let said = text.said(system);
                prop_assert!(!said.contains([OPEN, FIELD, CLOSE]));
                prop_assert!(said.starts_with(&before));
            }
        }

        /// In inches it is the same length: within half of a 32nd, and of half a thousandth where it is short.
        #[test]
        fn inches_are_the_same_length(value in 0.01..3000.0f64) {
            let said = Text::from(format!("{:.1}", mm(value))).said(System::Inch);
            let number = |part: &str| match part.split_once('/') {
                Some((a, b)) => a.parse::<f64>().unwrap() / b.parse::<f64>().unwrap(),
                None => part.parse().unwrap(),
            };
            let inches: f64 = said.trim_end_matches(" in").split(' ').map(number).sum();
            let within = if value / 25.4 < 0.125 { 0.0005 } else { 1.0 / 64.0 };
            prop_assert!((inches - value / 25.4).abs() <= within + 1e-9, "{} is {}", value, said);
        }
    }
}

//! The reader's verdict held against a library that knows all of JSON Schema (jsonschema, from crates.io), over demo designs with
//! something changed; and every problem stands at a place that there is.

use crate::remedies::demo;
use oak_drum_document::{MOST_PROBLEMS, Reader, schema};
use proptest::prelude::*;
use serde_json::{Value, json};
use std::sync::OnceLock;

fn both() -> &'static (Reader, jsonschema::Validator) {
    static BOTH: OnceLock<(Reader, jsonschema::Validator)> = OnceLock::new();
    BOTH.get_or_init(|| {
        (Reader::new(schema::design()), jsonschema::validator_for(&schema::design()).expect("a schema that is one"))
    })
}

fn documents() -> &'static [Value] {
    static LIST: OnceLock<Vec<Value>> = OnceLock::new();
    LIST.get_or_init(|| demo().iter().map(|(_, design)| serde_json::to_value(design).unwrap()).collect())
}

fn places(value: &Value, at: &str, into: &mut Vec<String>) {
    into.push(at.to_owned());
    match value {
        Value::Object(object) => object.iter().for_each(|(k, v)| places(v, &format!("{at}/{k}"), into)),
        Value::Array(list) => list.iter().enumerate().for_each(|(i, v)| places(v, &format!("{at}/{i}"), into)),
        _ => {}
    }
}

fn other() -> impl Strategy<Value = Option<Value>> {
    prop_oneof![
        Just(None),
        Just(Some(Value::Null)),
        any::<bool>().prop_map(|b| Some(json!(b))),
        (-3i64..5000).prop_map(|n| Some(json!(n))),
        (-10.0..30_000.0f64).prop_map(|x| Some(json!(x + 0.5e-3))),
        "[a-z_]{0,12}".prop_map(|t| Some(json!(t))),
        (0usize..3000).prop_map(|n| Some(json!("x".repeat(n)))),
        prop::sample::select(vec![
            "round", "sealed", "vented", "power", "mass", "half", "butt", "duct", "free", "tuning"
        ])
        .prop_map(|word| Some(json!(word))),
        (0usize..45).prop_map(|n| Some(json!(vec![json!({}); n]))),
        Just(Some(json!({}))),
        Just(Some(json!({"shape": "round", "diameter_mm": 100}))),
        Just(Some(json!({"kind": "window", "lies": "level", "at_mm": 200, "thickness_mm": 18, "open_part": 0.4}))),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, ..ProptestConfig::default() })]

    #[test]
    fn the_verdict_is_that_of_json_schema(
        which in any::<prop::sample::Index>(), where_to in any::<prop::sample::Index>(), value in other(),
        extra in prop::option::weighted(0.15, "[a-z]{1,9}"),
    ) {
        let (reader, library) = both();
        let mut document = documents()[which.index(documents().len())].clone();
        let mut list = Vec::new();
        places(&document, "", &mut list);
        let place = &list[where_to.index(list.len())];
        if let (Some(name), Some(Value::Object(object))) = (extra, document.pointer_mut(place)) {
            object.insert(name, json!(1));
        } else if let Some(value) = value {
            *document.pointer_mut(place).unwrap() = value;
        } else if let Some((parent, key)) = place.rsplit_once('/')
            && let Some(Value::Object(object)) = document.pointer_mut(parent)
        {
            object.remove(key);
        }
        let problems = reader.problems(&document);
        prop_assert_eq!(problems.is_empty(), library.is_valid(&document), "{}: {:?}", place, problems);
        prop_assert!(problems.len() <= MOST_PROBLEMS);
        for problem in problems {
            // at something there is, or at the member that is missing from something there is
            let parent = problem.pointer.rsplit_once('/').map_or("", |p| p.0);
            prop_assert!(document.pointer(parent).is_some(), "{}", problem.pointer);
        }
    }
}

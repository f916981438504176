//! From a text to a design, or to the list of what is wrong with it.

use crate::checked::Checked;
use crate::design::{Design, FORMAT, VERSION};
use crate::problem::{Code, Problem};
use crate::reader::Reader;
use crate::{schema, upgrade};
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::Woofer;
use serde_json::Value;
use std::sync::OnceLock;

/// Reads a design from JSON text.
///
/// # Errors
/// Every problem found, at most 50, each with its place.
pub fn read(text: &str) -> Result<Checked, Vec<Problem>> {
    let value: Value = serde_json::from_str(text)
        .map_err(|e| vec![Problem::new(Code::NotJson, "", format!("this is not JSON: {e}"))])?;
    read_value(value)
}

/// Reads a design from parsed JSON.
///
/// # Errors
/// As [`read`].
pub fn read_value(mut value: Value) -> Result<Checked, Vec<Problem>> {
    let only = |code, pointer: &str, message: String| Err(vec![Problem::new(code, pointer, message)]);
    if !value.is_object() {
        return only(Code::WrongType, "", "a design is a JSON object".into());
    }
    match value.get("format").and_then(Value::as_str) {
        Some(FORMAT) => {}
        _ => return only(Code::UnknownFormat, "/format", format!("expected \"{FORMAT}\"")),
    }
    match value.get("version").and_then(Value::as_u64) {
        Some(v) if (1..=u64::from(VERSION)).contains(&v) => {}
        _ => return only(Code::UnknownFormat, "/version", format!("expected a whole number from 1 to {VERSION}")),
    }
    upgrade::upgrade(&mut value);
    read_current(value)
}

/// Reads a document of the present version.
///
/// # Errors
/// As [`read`].
pub fn read_current(value: Value) -> Result<Checked, Vec<Problem>> {
    let problems = reader().problems(&value);
    if !problems.is_empty() {
        return Err(problems);
    }
    let design: Design = serde_json::from_value(value)
        .map_err(|e| vec![Problem::new(Code::WrongType, "", format!("cannot be read as a design: {e}"))])?;
    sound(design)
}

/// A design without contradictions.
fn sound(design: Design) -> Result<Checked, Vec<Problem>> {
    let problems = contradictions(&design);
    if !problems.is_empty() {
        return Err(problems);
    }
    // whatever keeps it from being worked out is among the contradictions; the last word is for what is not foreseen
    let unforeseen = || vec![Problem::new(Code::Contradiction, "/woofer", "this woofer cannot be worked out")];
    Checked::assembled(design).ok_or_else(unforeseen)
}

/// What a design made by this program would be told on being read: nothing where it may stand.
///
/// # Errors
/// As [`read`].
pub fn check(design: Design) -> Result<Checked, Vec<Problem>> {
    let value = serde_json::to_value(&design)
        .map_err(|e| vec![Problem::new(Code::WrongType, "", format!("cannot be written: {e}"))])?;
    let mut problems = reader().problems(&value);
    match sound(design) {
        Ok(checked) if problems.is_empty() => Ok(checked),
        Ok(_) => Err(problems),
        Err(more) => {
            problems.extend(more);
            Err(problems)
        }
    }
}

fn reader() -> &'static Reader {
    static READER: OnceLock<Reader> = OnceLock::new();
    READER.get_or_init(|| Reader::new(schema::design()))
}

/// What is wrong with a woofer's sheet that only several fields together can tell; `at` is its place.
pub fn sheet_problems(woofer: &Woofer, air: &Air, at: &str) -> Vec<Problem> {
    let mut list = Vec::new();
    let mut add = |field: &str, message: String| {
        list.push(Problem::new(Code::Contradiction, format!("{at}/{field}"), message));
    };
    if woofer.l2_mh.is_some() != woofer.r2_ohm.is_some() {
        let field = if woofer.l2_mh.is_some() { "r2_ohm" } else { "l2_mh" };
        add(field, "L2 and R2 belong together: state both or neither".into());
    }
    if woofer.semi_inductance_k.is_some() != woofer.semi_inductance_n.is_some() {
        let field = if woofer.semi_inductance_k.is_some() { "n" } else { "k" };
        add(&format!("semi_inductance_{field}"), "K and n belong together: state both or neither".into());
    }
    for (name, part) in [("qms", woofer.qms), ("qes", woofer.qes)] {
        if let Some((q, qts)) = part.zip(woofer.qts)
            && qts >= q
        {
            add("qts", format!("Qts {qts} must lie below {name} {q}: 1/Qts = 1/Qms + 1/Qes"));
        }
    }
    if let Err(undetermined) = woofer.resolve(air) {
        for field in &undetermined.missing {
            add(field, format!("missing, and not to be derived; {}", undetermined.hint));
        }
    }
    list
}

/// What only several fields of a design together can tell.
fn contradictions(design: &Design) -> Vec<Problem> {
    let woofer = &design.woofer;
    let mut list = sheet_problems(woofer, &design.air.of_sheets(), "/woofer");
    let mut add = |pointer: &str, message: String| list.push(Problem::new(Code::Contradiction, pointer, message));
    let array = &design.array;
    let (count, in_series) = (array.count, array.woofers_in_series);
    if !array.arrangement().possible() {
        if array.isobaric.is_some() && !count.is_multiple_of(2) {
            add("/array/count", format!("isobaric pairs need an even number of woofers, not {count}"));
        } else {
            let message = format!("{count} woofers cannot be wired in equal strings of {in_series}");
            add("/array/woofers_in_series", message);
        }
    }
    for fault in design.enclosure.problems() {
        add(&format!("/enclosure{}", fault.pointer), fault.message);
    }
    if matches!(design.drive, crate::design::Drive::Power { .. }) && woofer.nominal_ohm.is_none() {
        add("/woofer/nominal_ohm", "a drive in watts needs the nominal impedance it refers to, for example 8".into());
    }
    if design.drive == (crate::design::Drive::Loudest {}) && !design.ends_somewhere() {
        let message = "as loud as it goes needs something that ends it: Xmax, a rated power or an amplifier";
        add("/drive", message.into());
    }
    for (field, message) in design.cabinet.iter().flat_map(|cabinet| cabinet.problems()) {
        add(&format!("/cabinet/{field}"), message);
    }
    for (field, message) in design.room.iter().flat_map(|room| room.problems()) {
        add(&format!("/room/{field}"), message);
    }
    list.extend(design.chain.problems("/chain"));
    list
}

//! The columns a CSV file may have: one line each.

use crate::error::ColumnError;
use crate::record::{ParameterSet, Provenance};
use crate::units::*;
use oak_drum_acoustics::driver::{VoiceCoils, Woofer};
use serde_json::{Map, Value};

/// Where a cell goes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Kind {
    /// A number of the woofer.
    Number(Quantity),
    /// A whole number of the woofer.
    Whole,
    /// A text of the woofer.
    Text,
    /// One or two voice coils.
    Coils,
    /// A text of the parameter set.
    SetText,
    /// A number of the parameter set.
    SetNumber(Quantity),
    /// Where the set comes from.
    Provenance,
    /// Words separated by commas or semicolons.
    Tags,
    /// Notes of the woofer.
    Notes,
}

/// A column.
#[derive(Clone, Copy, Debug)]
pub struct Column {
    /// Field name, which is also the header this program writes.
    pub field: &'static str,
    /// Other names for it, in small letters, without unit.
    pub names: &'static [&'static str],
    /// Where a cell goes.
    pub kind: Kind,
}

const fn column(field: &'static str, names: &'static [&'static str], kind: Kind) -> Column {
    Column { field, names, kind }
}

/// Every column, in the order in which they are written.
pub const COLUMNS: &[Column] = &[
    column("name", &["name", "woofer", "model", "driver", "type"], Kind::Text),
    column("maker", &["maker", "manufacturer", "make"], Kind::Text),
    column("size_in", &["size", "nominal size", "nominal diameter"], Kind::Number(SIZE)),
    column("coils", &["coils", "voice coils"], Kind::Coils),
    column("nominal_ohm", &["nominal", "nominal impedance", "impedance", "z"], Kind::Number(RESISTANCE)),
    column("fs_hz", &["fs", "f_s", "resonance"], Kind::Number(FREQUENCY)),
    column("qms", &["qms"], Kind::Number(PLAIN)),
    column("qes", &["qes"], Kind::Number(PLAIN)),
    column("qts", &["qts"], Kind::Number(PLAIN)),
    column("vas_l", &["vas"], Kind::Number(VOLUME)),
    column("re_ohm", &["re", "rdc", "dc resistance"], Kind::Number(RESISTANCE)),
    column("sd_cm2", &["sd", "cone area"], Kind::Number(AREA)),
    column("le_mh", &["le", "inductance"], Kind::Number(INDUCTANCE)),
    column("l2_mh", &["l2"], Kind::Number(INDUCTANCE)),
    column("r2_ohm", &["r2"], Kind::Number(RESISTANCE)),
    column("semi_inductance_k", &["semi inductance k", "k"], Kind::Number(SEMI)),
    column("semi_inductance_n", &["semi inductance n", "n"], Kind::Number(PLAIN)),
    column("xmax_mm", &["xmax"], Kind::Number(LENGTH)),
    column("xmech_mm", &["xmech"], Kind::Number(LENGTH)),
    column("power_w", &["power", "rated power", "pe"], Kind::Number(POWER)),
    column("mms_g", &["mms"], Kind::Number(MASS)),
    column("cms_mm_per_n", &["cms"], Kind::Number(COMPLIANCE)),
    column("rms_n_s_per_m", &["rms"], Kind::Number(LOSS)),
    column("bl_t_m", &["bl", "force factor"], Kind::Number(FORCE_FACTOR)),
    column("sensitivity_db", &["sensitivity", "spl", "sensitivity 2.83 v"], Kind::Number(LEVEL)),
    column("outside_diameter_mm", &["outside diameter", "overall diameter"], Kind::Number(LENGTH)),
    column("cutout_mm", &["cutout", "cut-out", "cut out", "hole"], Kind::Number(LENGTH)),
    column("depth_mm", &["depth", "mounting depth"], Kind::Number(LENGTH)),
    column("flange_mm", &["flange", "flange thickness"], Kind::Number(LENGTH)),
    column("magnet_diameter_mm", &["magnet diameter", "magnet"], Kind::Number(LENGTH)),
    column("displacement_l", &["displacement", "displaced volume"], Kind::Number(VOLUME)),
    column("weight_kg", &["weight", "net weight"], Kind::Number(WEIGHT)),
    column("screws", &["screws", "mounting screws"], Kind::Whole),
    column("screw_circle_mm", &["screw circle", "bolt circle", "bolt circle diameter"], Kind::Number(LENGTH)),
    column("screw_hole_mm", &["screw holes", "screw hole diameter"], Kind::Number(LENGTH)),
    column("price", &["price", "cost"], Kind::Number(PLAIN)),
    column("provenance", &["provenance", "comes from"], Kind::Provenance),
    column("date", &["date", "when"], Kind::SetText),
    column("by", &["by", "who"], Kind::SetText),
    column("method", &["method", "how"], Kind::SetText),
    column("drive_v", &["drive", "drive level"], Kind::SetNumber(VOLTAGE)),
    column("hours", &["hours", "broken in"], Kind::SetNumber(HOURS)),
    column("tags", &["tags"], Kind::Tags),
    column("notes", &["notes", "note", "remarks"], Kind::Notes),
];

/// What a header means.
#[derive(Clone, Debug, PartialEq)]
pub struct Meaning {
    /// The column.
    pub field: &'static str,
    /// Factor to the canonical unit.
    pub factor: f64,
    /// The unit the header names, or the canonical one it is taken for.
    pub unit: String,
    /// Something to say about it.
    pub note: Option<String>,
}

/// Reads a header; `Err` says why the column is left out.
pub fn meaning(header: &str) -> Result<Meaning, ColumnError> {
    let text = header.trim().to_lowercase();
    if let Some(column) = COLUMNS.iter().find(|c| c.field == text) {
        let unit = quantity(column).map_or("", |q| q.canonical());
        return Ok(Meaning { field: column.field, factor: 1.0, unit: unit.into(), note: None });
    }
    // a unit in brackets, or the last word or words
    let bracket = text.find(['(', '[']).map(|at| {
        let unit = text[at + 1..].trim_end_matches([')', ']', ' ']);
        (text[..at].trim().to_owned(), unit.to_owned())
    });
    let tidy = |name: &str| name.replace('_', " ").trim().trim_end_matches([',', ':']).to_owned();
    let named = |name: &str| COLUMNS.iter().find(|c| c.names.contains(&tidy(name).as_str()));
    let candidates = bracket.into_iter().chain(std::iter::once((text.clone(), String::new()))).chain(
        text.char_indices()
            .filter(|(_, c)| [' ', '_', ',', '/'].contains(c))
            .map(|(at, _)| (text[..at].to_owned(), text[at + 1..].replace("_per_", "/"))),
    );
    let mut wrong_unit = None;
    for (name, unit) in candidates {
        let Some(column) = named(&name) else { continue };
        let Some(quantity) = quantity(column) else {
            if unit.is_empty() {
                return Ok(Meaning { field: column.field, factor: 1.0, unit: String::new(), note: None });
            }
            continue;
        };
        if unit.is_empty() && !quantity.canonical().is_empty() {
            let unit = quantity.canonical();
            let note = format!("no unit in the name: read as {unit}");
            return Ok(Meaning { field: column.field, factor: 1.0, unit: unit.into(), note: Some(note) });
        }
        match quantity.factor(&unit) {
            Some(factor) => return Ok(Meaning { field: column.field, factor, unit: plain(&unit), note: None }),
            None => {
                let known: Vec<&str> = quantity.units.iter().map(|u| u.0).filter(|u| !u.is_empty()).collect();
                wrong_unit.get_or_insert(ColumnError::UnknownUnit { unit, known: known.join(", ") });
            }
        }
    }
    Err(wrong_unit.unwrap_or_else(|| {
        let known: Vec<String> = COLUMNS.iter().map(|c| c.field.to_owned()).collect();
        ColumnError::Unknown { nearest: oak_drum_document::nearest(&text, &known) }
    }))
}

fn quantity(column: &Column) -> Option<Quantity> {
    match column.kind {
        Kind::Number(q) | Kind::SetNumber(q) => Some(q),
        Kind::Whole => Some(PLAIN),
        _ => None,
    }
}

/// The column of a field.
pub fn of(field: &str) -> Option<&'static Column> {
    COLUMNS.iter().find(|c| c.field == field)
}

/// The kinds of provenance as a cell names them.
pub fn provenance(text: &str) -> Option<Provenance> {
    let word = text.trim().to_lowercase().replace([' ', '-'], "_");
    serde_json::from_value(Value::from(word)).ok()
}

/// Voice coils as a cell names them.
pub fn coils(text: &str) -> Option<VoiceCoils> {
    match text.trim().to_lowercase().as_str() {
        "1" | "single" | "svc" => Some(VoiceCoils::Single),
        "2" | "dual" | "dvc" => Some(VoiceCoils::Dual),
        _ => None,
    }
}

/// A woofer's and a set's numbers and texts as JSON objects, for reading and writing by field name.
pub fn as_objects(woofer: &Woofer, set: &ParameterSet) -> (Map<String, Value>, Map<String, Value>) {
    let object = |value: serde_json::Result<Value>| match value {
        Ok(Value::Object(map)) => map,
        _ => Map::new(),
    };
    (object(serde_json::to_value(woofer)), object(serde_json::to_value(set)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::BTreeSet;

    /// Every field of a woofer that is stated has its column, and no name is claimed twice.
    #[test]
    fn every_field_has_a_column() {
        let schema = oak_drum_document::schema::of::<Woofer>();
        let fields: BTreeSet<&str> = schema["properties"].as_object().unwrap().keys().map(String::as_str).collect();
        let columns: BTreeSet<&str> = COLUMNS.iter().map(|c| c.field).collect();
        assert!(fields.is_subset(&columns), "{:?}", fields.difference(&columns));
        let mut names = BTreeSet::new();
        for column in COLUMNS {
            for name in column.names {
                assert!(names.insert(name), "{name} is claimed twice");
            }
        }
    }

    #[test]
    fn headers_as_people_write_them() {
        for (header, field, factor) in [
            ("vas_l", "vas_l", 1.0),
            ("Vas (ft³)", "vas_l", 28.316846592),
            ("VAS [L]", "vas_l", 1.0),
            ("vas_ft3", "vas_l", 28.316846592),
            ("Sd m²", "sd_cm2", 1e4),
            ("Cms (mm/N)", "cms_mm_per_n", 1.0),
            ("cms_m_per_n", "cms_mm_per_n", 1e3),
            ("Bl (T·m)", "bl_t_m", 1.0),
            ("Mounting depth (in)", "depth_mm", 25.4),
            ("Re_ohm", "re_ohm", 1.0),
            ("Qts", "qts", 1.0),
            ("Manufacturer", "maker", 1.0),
            ("Le, mH", "le_mh", 1.0),
            ("weight lb", "weight_kg", 0.45359237),
        ] {
            let found = meaning(header).unwrap_or_else(|e| panic!("{header}: {e}"));
            assert_eq!((found.field, found.factor), (field, factor), "{header}");
            assert!(found.note.is_none(), "{header}: {:?}", found.note);
        }
        assert_eq!(meaning("Vas").unwrap().note.as_deref(), Some("no unit in the name: read as l"));
        assert!(meaning("Vas (gallon)").unwrap_err().to_string().contains("gallon"));
        assert!(meaning("fs_herz").is_err());
        assert!(meaning("colour of the dust cap").unwrap_err().to_string().contains("left out"));
    }
}

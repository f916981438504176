//! What could be off in a build: each a factor on one thing, as it was built 1.

use crate::analysis::Analysis;
use crate::analysis::inside::chamber_of;
use crate::prove::as_built::AsBuilt;
use oak_drum_acoustics::driver::ThieleSmall;
use oak_drum_document::{Change, lengths_along};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};

/// Leak loss a fit begins with where none is stated.
const TIGHT: f64 = 40.0;

/// A thing that could be off.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Unknown {
    /// Net volume of a chamber, its port kept.
    Volume,
    /// The length a port's air acts with: its own length and its ends.
    Port,
    /// Leaks.
    Leak,
    /// Stiffness of the woofer's suspension: Vas, and fs and both Q with its root.
    Suspension,
    /// Mass of the moving parts, with its air.
    MovingMass,
    /// Strength of the motor: Qes alone.
    Motor,
    /// How much larger the fill makes the box.
    Fill,
    /// Mass of the passive radiators.
    RadiatorMass,
    /// Length of a line or a horn.
    Path,
    /// Resistance of the coil.
    CoilResistance,
    /// Inductance of the coil.
    Inductance,
}

/// All of them, in the order they are looked at.
pub const UNKNOWNS: [Unknown; 11] = [
    Unknown::Port,
    Unknown::Volume,
    Unknown::Leak,
    Unknown::Suspension,
    Unknown::MovingMass,
    Unknown::Motor,
    Unknown::Fill,
    Unknown::RadiatorMass,
    Unknown::Path,
    Unknown::CoilResistance,
    Unknown::Inductance,
];

impl Unknown {
    /// In words.
    pub fn title(self) -> &'static str {
        match self {
            Unknown::Volume => "the net volume",
            Unknown::Port => "the port, its ends counted",
            Unknown::Leak => "a leak",
            Unknown::Suspension => "the woofer's suspension",
            Unknown::MovingMass => "the moving mass",
            Unknown::Motor => "the woofer's motor",
            Unknown::Fill => "the fill",
            Unknown::RadiatorMass => "the passive radiators' mass",
            Unknown::Path => "the length of the path",
            Unknown::CoilResistance => "the coil's resistance",
            Unknown::Inductance => "the coil's inductance",
        }
    }

    /// Where a fit of it begins; `None` where the build has nothing of the kind.
    pub fn start(self, built: &AsBuilt) -> Option<f64> {
        let analysis = &built.analysis;
        let document = serde_json::to_value(&analysis.design).ok()?;
        let has = |pointer: &str| document.pointer(pointer).is_some();
        let chamber = analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty());
        match self {
            Unknown::Volume => chamber.map(|_| 1.0),
            Unknown::Port => outer_port(analysis).map(|_| 1.0),
            Unknown::Leak => {
                let chamber = chamber?;
                let stated = document.pointer(&format!("/enclosure{}", chamber.part("leak_q"))).and_then(Value::as_f64);
                Some(stated.unwrap_or(TIGHT))
            }
            Unknown::Suspension | Unknown::MovingMass | Unknown::Motor | Unknown::CoilResistance => Some(1.0),
            Unknown::Inductance => has_inductance(&document).then_some(1.0),
            Unknown::Fill => chamber.filter(|c| c.fill != oak_drum_acoustics::fill::Fill::None).map(|_| 1.0),
            Unknown::RadiatorMass => has("/enclosure/radiators/fs_hz").then_some(1.0),
            Unknown::Path => analysis.wired.path.as_ref().map(|_| 1.0),
        }
    }
}

/// Fields of a sheet that are inductances or go with them.
const INDUCTANCES: [&str; 4] = ["le_mh", "l2_mh", "r2_ohm", "semi_inductance_k"];

fn has_inductance(document: &Value) -> bool {
    INDUCTANCES.iter().any(|field| document["woofer"][*field].is_number())
}

/// The port that leads outside, with its place.
fn outer_port(analysis: &Analysis) -> Option<usize> {
    let ports = &analysis.wired.ports;
    (0..ports.len()).find(|i| ports[*i].outside && chamber_of(analysis, &ports[*i]).is_some())
}

/// The changes that put values of unknowns into the frozen design; `None` where one cannot be (a port shorter than nothing).
pub fn changes(built: &AsBuilt, values: &[(Unknown, f64)]) -> Option<Vec<Change>> {
    let analysis = &built.analysis;
    let mut list = Vec::new();
    let mut woofer: ThieleSmall = built.woofer;
    let chamber = analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty());
    for (unknown, value) in values {
        let k = *value;
        match unknown {
            Unknown::Volume => {
                let chamber = chamber?;
                list.push(Change::set(format!("/enclosure{}", chamber.pointer), chamber.net * 1e3 * k));
            }
            Unknown::Port => {
                let index = outer_port(analysis)?;
                let (own, acting) = built.port_lengths(index)?;
                let length = own + (k - 1.0) * acting;
                if length < 1e-3 {
                    return None;
                }
                let by = json!({"by": "length", "length_mm": length * 1e3});
                list.push(Change::set(format!("/enclosure{}/sizing", analysis.wired.ports[index].pointer), by));
            }
            Unknown::Leak => list.push(Change::set(format!("/enclosure{}", chamber?.part("leak_q")), k)),
            Unknown::Suspension => {
                let root = k.sqrt();
                woofer = ThieleSmall {
                    vas: woofer.vas * k,
                    fs: woofer.fs / root,
                    qes: woofer.qes / root,
                    qms: woofer.qms / root,
                    ..woofer
                };
            }
            Unknown::MovingMass => {
                let root = k.sqrt();
                woofer = ThieleSmall { fs: woofer.fs / root, qes: woofer.qes * root, qms: woofer.qms * root, ..woofer };
            }
            Unknown::Motor => woofer.qes *= k,
            // the motor stays: Qes goes with Re
            Unknown::CoilResistance => woofer = ThieleSmall { re: woofer.re * k, qes: woofer.qes * k, ..woofer },
            Unknown::Inductance => {
                let document = serde_json::to_value(&analysis.design.woofer).ok()?;
                for field in INDUCTANCES {
                    if let Some(value) = document[field].as_f64() {
                        list.push(Change::set(format!("/woofer/{field}"), value * k));
                    }
                }
            }
            Unknown::Fill => list.extend(denser(analysis, &format!("/enclosure{}", chamber?.part("fill")), k)?),
            Unknown::RadiatorMass => {
                let document = serde_json::to_value(&analysis.design.enclosure).ok()?;
                let fs = document.pointer("/radiators/fs_hz")?.as_f64()?;
                list.push(Change::set("/enclosure/radiators/fs_hz", fs / k.sqrt()));
            }
            Unknown::Path => list.extend(longer(analysis, k)?),
        }
    }
    if woofer != built.woofer {
        let coils = f64::from(analysis.woofer.coils);
        for (field, value) in [
            ("fs_hz", woofer.fs),
            ("qes", woofer.qes),
            ("qms", woofer.qms),
            ("vas_l", woofer.vas * 1e3),
            ("re_ohm", woofer.re * coils),
        ] {
            list.push(Change::set(format!("/woofer/{field}"), value));
        }
    }
    Some(list)
}

/// A fill that does more or less by a factor: its plain factor's surplus, its flow resistivity, or its weight.
fn denser(analysis: &Analysis, at: &str, k: f64) -> Option<Vec<Change>> {
    let document = serde_json::to_value(&analysis.design).ok()?;
    let fill = document.pointer(at)?;
    if let Some(factor) = fill["factor"].as_f64() {
        return Some(vec![Change::set(format!("{at}/factor"), 1.0 + (factor - 1.0) * k)]);
    }
    let fields = ["flow_resistivity_pa_s_per_m2", "density_kg_per_m3", "mass_g"];
    let denser = |field: &&str| fill[*field].as_f64().map(|v| Change::set(format!("{at}/{field}"), v * k));
    let list: Vec<Change> = fields.iter().filter_map(denser).collect();
    (!list.is_empty()).then_some(list)
}

/// A line or horn longer by a factor: every length along it.
fn longer(analysis: &Analysis, k: f64) -> Option<Vec<Change>> {
    let enclosure = serde_json::to_value(&analysis.design.enclosure).ok()?;
    let longer = |(at, mm): (String, f64)| Change::set(format!("/enclosure{at}"), mm * k);
    let list: Vec<Change> = lengths_along(&enclosure).into_iter().map(longer).collect();
    (!list.is_empty()).then_some(list)
}

/// The frozen design with values of unknowns, worked out.
pub fn varied(built: &AsBuilt, values: &[(Unknown, f64)]) -> Option<Analysis> {
    if values.iter().any(|(_, v)| !(v.is_finite() && (1e-3..1e6).contains(v))) {
        return None;
    }
    built.with(&changes(built, values)?)
}

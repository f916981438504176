//! What of a box is pulled along a frequency axis: the tuning of each port, of radiators, of a path.
//!
//! A handle says in numbers what moves with it, so that a page under a moving hand need ask nobody.

use crate::analysis::Analysis;
use oak_drum_acoustics::families::{ChamberRole, Enclosure};
use oak_drum_acoustics::port::Sizing;
use oak_drum_document::{Change, lengths_along};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::json;

/// Something that is pulled along the frequency axis.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Handle {
    /// Stable name.
    pub id: String,
    /// What stands on it.
    pub label: String,
    /// Where it stands, Hz.
    pub hz: f64,
    /// Lowest frequency it is pulled to, Hz.
    pub lowest_hz: f64,
    /// Highest, Hz.
    pub highest_hz: f64,
    /// What is set before the first move.
    pub first: Vec<Change>,
    /// What moves with it.
    pub follows: Vec<Follows>,
}

/// A value of the design that moves with a handle: `plus` + `times` · (f / `hz`)^`power`, at least `least`, rounded.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Follows {
    /// Its place in the design (JSON pointer).
    pub pointer: String,
    /// What is added.
    pub plus: f64,
    /// What moves.
    pub times: f64,
    /// With which power of the frequency.
    pub power: i32,
    /// The least it may be.
    pub least: f64,
    /// How many decimals it is rounded to.
    pub decimals: u32,
}

impl Handle {
    /// The changes that take it to a frequency (Hz), or to the nearest it is pulled to.
    pub fn to(&self, hz: f64) -> Vec<Change> {
        let hz = hz.clamp(self.lowest_hz, self.highest_hz);
        let moved = |f: &Follows| {
            let value = (f.plus + f.times * (hz / self.hz).powi(f.power)).max(f.least);
            let scale = 10f64.powi(f.decimals as i32);
            Change::set(f.pointer.clone(), (value * scale).round() / scale)
        };
        self.first.iter().cloned().chain(self.follows.iter().map(moved)).collect()
    }
}

/// Between which frequencies anything is pulled, Hz: what the format takes as a port's tuning.
const PULLED: [f64; 2] = [5.0, 300.0];

/// The handles of a design.
pub fn handles(analysis: &Analysis) -> Vec<Handle> {
    let mut list: Vec<Handle> = analysis
        .wired
        .ports
        .iter()
        .enumerate()
        .map(|(i, report)| {
            let sizing = format!("/enclosure{}/sizing", report.pointer);
            let wanted = match report.port.sizing {
                Sizing::Tuning { tuning_hz } => tuning_hz,
                Sizing::Length { .. } => report.realised.tuning,
            };
            Handle {
                id: format!("port-{i}"),
                label: match report.role {
                    ChamberRole::Only => "tune",
                    ChamberRole::Rear => "rear",
                    ChamberRole::Front => "front",
                }
                .into(),
                hz: wanted,
                lowest_hz: PULLED[0],
                highest_hz: PULLED[1],
                first: vec![Change::set(sizing.clone(), json!({"by": "tuning", "tuning_hz": wanted}))],
                follows: vec![Follows {
                    pointer: format!("{sizing}/tuning_hz"),
                    plus: 0.0,
                    times: wanted,
                    power: 1,
                    least: PULLED[0],
                    decimals: 1,
                }],
            }
        })
        .collect();
    let figure = |id: &str| analysis.wired.figures.iter().find(|f| f.id == id).map(|f| f.value);
    if let Some((radiators, (hz, mass))) =
        analysis.enclosure.radiators().zip(figure("fb_hz").zip(figure("radiator_mass_g")))
    {
        // the tuning falls as the root of the moving mass; what is not added stays
        let added = radiators.added_mass_g;
        list.push(Handle {
            id: "radiator".into(),
            label: "tune".into(),
            hz,
            lowest_hz: PULLED[0],
            highest_hz: PULLED[1],
            first: Vec::new(),
            follows: vec![Follows {
                pointer: "/enclosure/radiators/added_mass_g".into(),
                plus: added - mass,
                times: mass,
                power: -2,
                least: 0.0,
                decimals: 1,
            }],
        });
    } else if analysis.wired.path.is_some()
        && let Some(hz) = figure("quarter_hz").or(figure("fb_hz"))
    {
        list.extend(along_path(&analysis.design.enclosure, hz));
    }
    list
}

/// A path's quarter wave: everything along it is stretched. `None` of a path whose length follows from other sizes.
fn along_path(enclosure: &Enclosure, hz: f64) -> Option<Handle> {
    let document = serde_json::to_value(enclosure).unwrap_or_default();
    let lengths = lengths_along(&document);
    lengths.iter().find(|(pointer, _)| pointer.ends_with("/length_mm"))?;
    let follows = lengths.into_iter().map(|(pointer, mm)| Follows {
        pointer: format!("/enclosure{pointer}"),
        plus: 0.0,
        times: mm,
        power: -1,
        least: 0.0,
        decimals: 0,
    });
    Some(Handle {
        id: "path".into(),
        label: "λ/4".into(),
        hz,
        lowest_hz: PULLED[0],
        highest_hz: PULLED[1],
        first: Vec::new(),
        follows: follows.collect(),
    })
}

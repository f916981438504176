//! A step of the building, the cautions that recur, and how boards are named in it.

use crate::cabinet::built_cabinet::BuiltCabinet;
use crate::cabinet::cutting::Cutting;
use oak_drum_cabinet::drawing::tenth;
use oak_drum_text::{Quantity, Text};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A step.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "BuildStep")]
pub struct Step {
    /// Stable name.
    pub id: String,
    /// The part of the work it belongs to.
    pub stage: String,
    /// What, in a few words.
    pub title: Text,
    /// How.
    pub text: Text,
    /// The caution that belongs here.
    pub caution: Option<Text>,
    /// Working minutes: an estimate.
    pub minutes: f64,
    /// How many people it wants.
    pub hands: u32,
    /// What it is done with.
    pub tools: Vec<String>,
}

pub(super) const SAW: &str = "Saw: guard and riving knife on, push sticks, eyes and ears protected, nobody reaches over the blade. Dust drawn off; MDF dust wants a mask.";
pub(super) const ROUTER: &str =
    "Router: both hands, work clamped, against the cutter's turn, eyes and ears protected, mask against dust.";
pub(super) const SOLVENT: &str =
    "Solvents and finishes: open windows, no flame, oily rags spread out to dry or under water. Follow the tin.";
/// Said wherever an amplifier is handled.
pub const MAINS: &str = "An amplifier carries mains: closed and unplugged while you work on it. Local electrical codes apply; fixed wiring is for a licensed electrician. Lithium batteries are charged outdoors.";
pub(super) const LOUD: &str = "Ears: 85 dBA for eight hours is the recommended limit (NIOSH), 3 dB more halves the time; beside the box it is far louder. Mind the neighbours.";

/// A length as at the saw.
pub(super) fn mm(value: f64) -> Quantity {
    oak_drum_text::mm(tenth(value))
}

/// Boards by their letters in the cut list.
pub(super) struct Letters<'a> {
    pub cutting: &'a Cutting,
    pub built: &'a BuiltCabinet,
}

impl Letters<'_> {
    /// The letter of a board in the cut list, by its name.
    pub(super) fn of(&self, name: &str) -> String {
        let Some(i) = self.built.solids.boards.iter().position(|b| b.name == name) else { return name.to_owned() };
        let part = self.cutting.parts.iter().find(|p| p.part.boards.contains(&(i as u32)));
        part.map_or_else(|| name.to_owned(), |p| p.part.label.clone())
    }
}

/// A, B and C.
pub(super) fn words(list: &[String]) -> String {
    let mut list = list.to_vec();
    list.dedup();
    match list.as_slice() {
        [] => String::new(),
        [one] => one.clone(),
        [rest @ .., last] => format!("{} and {last}", rest.join(", ")),
    }
}

//! Passive radiators as the document has them.

use crate::air::Air;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// Equal passive radiators, each by its own figures.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Radiators")]
pub struct Radiators {
    /// How many.
    #[schemars(title = "Radiators", range(min = 1, max = 16))]
    pub count: u32,
    /// Resonance of one in free air without added mass.
    #[schemars(title = "Radiator fs", range(min = 2.0, max = 200.0), extend("x-unit" = "Hz"))]
    pub fs_hz: f64,
    /// Mechanical Q of one in free air without added mass.
    #[schemars(title = "Radiator Qms", range(min = 0.3, max = 100.0))]
    pub qms: f64,
    /// The volume of air as stiff as the suspension of one.
    #[schemars(title = "Radiator Vas", range(min = 0.2, max = 5000.0), extend("x-unit" = "L"))]
    pub vas_l: f64,
    /// Moving area of one.
    #[schemars(title = "Radiator Sd", range(min = 10.0, max = 5000.0), extend("x-unit" = "cm2"))]
    pub sd_cm2: f64,
    /// Excursion one way that one can do; empty is not stated.
    #[schemars(title = "Radiator Xmax", range(min = 0.5, max = 200.0), extend("x-unit" = "mm"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub xmax_mm: Option<f64>,
    /// Mass screwed to each, nut and washer counted: it lowers the tuning.
    #[schemars(title = "Added mass", range(min = 0.0, max = 5000.0), extend("x-rank" = "main", "x-unit" = "g"))]
    #[serde(default)]
    pub added_mass_g: f64,
    /// Mass of one of the weights at hand.
    #[schemars(title = "One weight", range(min = 1.0, max = 2000.0), extend("x-unit" = "g", "x-start" = 75))]
    #[serde(default = "weight")]
    pub weight_g: f64,
    /// Mass of the nut that holds the weights; it counts too.
    #[schemars(title = "Nut", range(min = 0.0, max = 500.0), extend("x-unit" = "g"))]
    #[serde(default)]
    pub nut_g: f64,
    /// Where they look: two on opposite sides cancel each other's shake.
    #[schemars(title = "Mounted")]
    #[serde(default)]
    pub mounted: Mounted,
}

fn weight() -> f64 {
    75.0
}

/// Where passive radiators look.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Mounted {
    /// Beside the woofer, looking the same way.
    #[default]
    BesideWoofer,
    /// On the wall opposite the woofer.
    OppositeWoofer,
    /// In pairs on opposite walls: their shake cancels.
    InOpposedPairs,
}

impl Radiators {
    /// Acoustic (mass, resistance, compliance) of all together, SI; `stated` is the air their Vas is stated in.
    pub(crate) fn acoustic(&self, stated: &Air, added_g: f64) -> (f64, f64, f64) {
        let n = f64::from(self.count);
        let area = self.sd_cm2 * 1e-4;
        let each = self.vas_l * 1e-3 / stated.bulk_modulus();
        // Cms = Vas/(ρc²·Sd²), Mmp = 1/((2πfs)²·Cms), Rmp = 2πfs·Mmp/Qms
        let stock = 1.0 / ((TAU * self.fs_hz).powi(2) * each);
        let resistance = TAU * self.fs_hz * stock / self.qms;
        ((stock + added_g * 1e-3 / (area * area)) / n, resistance / n, each * n)
    }

    /// Moving mass of one with what is added, kg.
    pub(crate) fn moving_mass(&self, stated: &Air) -> f64 {
        let (mass, ..) = self.acoustic(stated, self.added_mass_g);
        mass * f64::from(self.count) * (self.sd_cm2 * 1e-4).powi(2)
    }
}

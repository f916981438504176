//! Leads from an amplifier to its woofers.
//!
//! R = 2·l·ρ/S with ρ = 1/58·10⁶ Ω·m of annealed copper at 20 °C (IEC 60028, International Annealed Copper Standard). American wire
//! gauges by ASTM B258: d = 0.127 mm·92^((36-n)/39).

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// Resistivity of annealed copper at 20 °C, Ω·m (IEC 60028).
pub const COPPER: f64 = 1.0 / 58e6;
/// By how much copper-clad aluminium resists more than copper: about one and a half times, an estimate.
pub const CLAD: f64 = 1.5;

/// What a lead is made of.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Metal {
    /// Copper.
    #[default]
    Copper,
    /// Copper-clad aluminium: about one and a half times the resistance, an estimate.
    CopperCladAluminium,
}

/// The leads between amplifier and woofers.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(title = "Leads")]
pub enum Cable {
    /// By their resistance.
    #[schemars(title = "By resistance")]
    Resistance {
        /// Resistance of the leads, both ways.
        #[schemars(title = "Lead resistance", range(min = 0.0, max = 100.0), extend("x-unit" = "ohm", "x-start" = 0.0))]
        lead_resistance_ohm: f64,
    },
    /// By length and wire.
    #[schemars(title = "By length and wire")]
    Wire {
        /// How long the pair is, one way.
        #[schemars(title = "Length", range(min = 0.05, max = 200.0), extend("x-unit" = "m", "x-start" = 3.0))]
        length_m: f64,
        /// Copper of one conductor in section.
        #[schemars(title = "Section", range(min = 0.05, max = 50.0), extend("x-unit" = "mm2", "x-start" = 2.5))]
        area_mm2: f64,
        /// What it is made of.
        #[schemars(title = "Metal")]
        #[serde(default)]
        metal: Metal,
    },
}

impl Default for Cable {
    fn default() -> Self {
        Cable::Resistance { lead_resistance_ohm: 0.0 }
    }
}

impl Cable {
    /// Resistance both ways at 20 °C, Ω.
    pub fn resistance(&self) -> f64 {
        match *self {
            Cable::Resistance { lead_resistance_ohm } => lead_resistance_ohm,
            Cable::Wire { length_m, area_mm2, metal } => {
                let worse = if metal == Metal::Copper { 1.0 } else { CLAD };
                2.0 * length_m * COPPER * worse / (area_mm2 * 1e-6)
            }
        }
    }
}

/// Diameter of an American wire gauge, mm (ASTM B258); 0, 00, 000 are 0, -1, -2.
pub fn gauge_mm(gauge: i32) -> f64 {
    0.127 * 92f64.powf(f64::from(36 - gauge) / 39.0)
}

/// Section of an American wire gauge, mm².
pub fn gauge_mm2(gauge: i32) -> f64 {
    PI / 4.0 * gauge_mm(gauge).powi(2)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Diameters of ASTM B258's own table (from memory, in its rounding) and milliohms per metre of a pair worked from the standard
    /// resistivity.
    #[test]
    fn gauges_and_their_resistance() {
        let table = [(10, 2.588, 6.5542), (12, 2.053, 10.4216), (14, 1.628, 16.5710), (16, 1.291, 26.3490)];
        for (gauge, mm, milliohm) in table {
            assert!((gauge_mm(gauge) - mm).abs() < 5e-4);
            let pair = Cable::Wire { length_m: 1.0, area_mm2: gauge_mm2(gauge), metal: Metal::Copper };
            assert!((pair.resistance() * 1e3 - milliohm).abs() < 1e-3, "{gauge}: {}", pair.resistance());
        }
        let clad = Cable::Wire { length_m: 8.0, area_mm2: gauge_mm2(16), metal: Metal::CopperCladAluminium };
        assert!((clad.resistance() - 0.210_792 * 1.5).abs() < 1e-6);
    }
}

//! An amplifier as its maker states it: what it can give, what it can do to the signal, and what it takes.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | P, R | rated power and the load it is rated into | W, Ω |
//! | Rout | output resistance | Ω |
//! | E_max | highest open-circuit voltage, rms of a sine: √(PR)·(1 + Rout/R) | V |
//! | I_max | highest current: E_max over the lowest load with Rout, or √(P2/R2) of a second rating | A |

use crate::filters::Filter;
use crate::filters::slope::Slope;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// An amplifier by its sheet.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Amplifier")]
pub struct Amplifier {
    /// The amplifier's name.
    #[schemars(title = "Name", length(max = 120))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub name: String,
    /// Who makes it.
    #[schemars(title = "Maker", length(max = 120))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub maker: String,
    /// Rated power into the rated load: sets its highest voltage.
    #[schemars(title = "Amplifier power", range(min = 1.0, max = 20000.0), extend("x-start" = 300, "x-unit" = "W"))]
    pub power_w: f64,
    /// The load that power is rated into.
    #[schemars(title = "into", range(min = 0.5, max = 32.0), extend("x-start" = 8, "x-unit" = "ohm"))]
    pub load_ohm: f64,
    /// The lowest load it may drive: sets its highest current where no second rating does.
    #[schemars(title = "Lowest load", range(min = 0.25, max = 32.0), extend("x-start" = 4, "x-unit" = "ohm"))]
    pub minimum_load_ohm: f64,
    /// A second rating, into a lower load: sets its highest current.
    #[schemars(title = "Second rating", extend("x-group" = "What it gives"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub second: Option<Rating>,
    /// Output resistance; the rated load over the damping factor.
    #[schemars(title = "Output resistance", range(min = 0.0, max = 100.0), extend("x-unit" = "ohm", "x-group" = "What it gives"))]
    #[serde(default)]
    pub output_resistance_ohm: f64,
    /// Filters it always has, whether wanted or not.
    #[schemars(title = "Always in it", length(max = 8), extend("x-group" = "What it can do to the signal"))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub always: Vec<Filter>,
    /// The bands of its equaliser.
    #[schemars(title = "Equaliser", extend("x-group" = "What it can do to the signal"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub equaliser: Option<Equaliser>,
    /// Its low cut.
    #[schemars(title = "Low cut", extend("x-group" = "What it can do to the signal"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub low_cut: Option<Pass>,
    /// Its low pass.
    #[schemars(title = "Low pass", extend("x-group" = "What it can do to the signal"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub low_pass: Option<Pass>,
    /// Its longest delay.
    #[schemars(title = "Delay up to", range(min = 0.0, max = 500.0), extend("x-unit" = "ms", "x-group" = "What it can do to the signal"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub longest_delay_ms: Option<f64>,
    /// Whether its polarity can be turned.
    #[schemars(title = "Polarity switch", extend("x-group" = "What it can do to the signal"))]
    #[serde(default)]
    pub polarity: bool,
    /// What feeds it.
    #[schemars(title = "Fed by", extend("x-group" = "What it takes"))]
    #[serde(default)]
    pub supply: Supply,
    /// Power it takes while it plays nothing.
    #[schemars(title = "Idle", range(min = 0.0, max = 1000.0), extend("x-unit" = "W", "x-group" = "What it takes"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub idle_w: Option<f64>,
    /// Share of what it takes that it gives, while it plays loud; empty is taken for 0.85 (switching amplifiers give 0.8 to 0.9), an
    /// estimate.
    #[schemars(title = "Efficiency", range(min = 0.05, max = 1.0), extend("x-group" = "What it takes"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub efficiency: Option<f64>,
    /// What it takes up in a cabinet.
    #[schemars(title = "Built in", extend("x-group" = "Built in"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub back: Option<Back>,
    /// Its weight.
    #[schemars(title = "Weight", range(min = 0.0, max = 100.0), extend("x-unit" = "kg", "x-group" = "Built in"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub weight_kg: Option<f64>,
    /// What it costs, in the workshop's own money.
    #[schemars(title = "Price", range(min = 0.0, max = 100000.0), extend("x-group" = "Built in"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub price: Option<f64>,
}

/// A power into a load.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Rating")]
pub struct Rating {
    /// Rated power.
    #[schemars(title = "Power", range(min = 1.0, max = 20000.0), extend("x-start" = 500, "x-unit" = "W"))]
    pub power_w: f64,
    /// The load it is rated into.
    #[schemars(title = "into", range(min = 0.25, max = 32.0), extend("x-start" = 4, "x-unit" = "ohm"))]
    pub load_ohm: f64,
}

/// What the bands of an equaliser can do.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Equaliser")]
pub struct Equaliser {
    /// How many bands.
    #[schemars(title = "Bands", range(min = 1, max = 20), extend("x-start" = 1))]
    pub bands: u32,
    /// Lowest frequency.
    #[schemars(title = "From", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 18.0))]
    pub from_hz: f64,
    /// Highest frequency.
    #[schemars(title = "to", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 80.0))]
    pub to_hz: f64,
    /// Widest, as Q.
    #[schemars(title = "Q from", range(min = 0.1, max = 30.0), extend("x-start" = 0.5))]
    pub from_q: f64,
    /// Narrowest, as Q.
    #[schemars(title = "Q to", range(min = 0.1, max = 30.0), extend("x-start" = 8.0))]
    pub to_q: f64,
    /// Deepest cut.
    #[schemars(title = "Level from", range(min = -24.0, max = 0.0), extend("x-unit" = "dB", "x-start" = -12.0))]
    pub lowest_db: f64,
    /// Highest boost.
    #[schemars(title = "Level to", range(min = 0.0, max = 24.0), extend("x-unit" = "dB", "x-start" = 6.0))]
    pub highest_db: f64,
}

/// What a pass of it can be set to.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Pass")]
pub struct Pass {
    /// Lowest corner.
    #[schemars(title = "From", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 15.0))]
    pub from_hz: f64,
    /// Highest corner.
    #[schemars(title = "to", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 40.0))]
    pub to_hz: f64,
    /// The shapes it has.
    #[schemars(title = "Shapes", length(min = 1, max = 12))]
    pub slopes: Vec<Slope>,
}

/// What feeds an amplifier.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Supply {
    /// The mains.
    #[default]
    Mains,
    /// A battery.
    Battery,
}

/// What an amplifier takes up where it is built in.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Built in")]
pub struct Back {
    /// Whether its back is open: it then stands in a chamber of its own.
    #[schemars(title = "Open back")]
    #[serde(default)]
    pub open: bool,
    /// Width of its cut-out.
    #[schemars(title = "Cut-out, width", range(min = 20.0, max = 1000.0), extend("x-unit" = "mm", "x-start" = 230))]
    pub width_mm: f64,
    /// Height of its cut-out.
    #[schemars(title = "Cut-out, height", range(min = 20.0, max = 1000.0), extend("x-unit" = "mm", "x-start" = 230))]
    pub height_mm: f64,
    /// How deep it reaches.
    #[schemars(title = "Depth", range(min = 10.0, max = 1000.0), extend("x-unit" = "mm", "x-start" = 90))]
    pub depth_mm: f64,
}

/// Efficiency of an amplifier that states none, while it plays loud: an estimate.
pub const EFFICIENCY: f64 = 0.85;

impl Amplifier {
    /// By power, load and lowest load alone.
    pub fn rated(power_w: f64, load_ohm: f64, minimum_load_ohm: f64) -> Amplifier {
        Amplifier {
            name: String::new(),
            maker: String::new(),
            power_w,
            load_ohm,
            minimum_load_ohm,
            second: None,
            output_resistance_ohm: 0.0,
            always: Vec::new(),
            equaliser: None,
            low_cut: None,
            low_pass: None,
            longest_delay_ms: None,
            polarity: false,
            supply: Supply::Mains,
            idle_w: None,
            efficiency: None,
            back: None,
            weight_kg: None,
            price: None,
        }
    }

    /// Highest open-circuit voltage, V rms of a sine.
    pub fn volts(&self) -> f64 {
        (self.power_w * self.load_ohm).sqrt() * (1.0 + self.output_resistance_ohm / self.load_ohm)
    }

    /// Power it gives into a resistance (Ω), by its voltage or by its current, W.
    pub fn power_into(&self, load: f64) -> f64 {
        let by_voltage = (self.volts() / (load + self.output_resistance_ohm)).powi(2) * load;
        by_voltage.min(self.amperes().powi(2) * load)
    }

    /// Highest current, A rms.
    pub fn amperes(&self) -> f64 {
        match self.second {
            Some(second) => (second.power_w / second.load_ohm).sqrt(),
            None => self.volts() / (self.minimum_load_ohm + self.output_resistance_ohm),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// 300 W into 8 Ω is √2400 V; with an output resistance that power still comes out at the load.
    #[test]
    fn a_rating_is_kept_at_the_load() {
        let plain = Amplifier::rated(300.0, 8.0, 4.0);
        assert!((plain.volts() - 2400f64.sqrt()).abs() < 1e-12);
        assert!((plain.amperes() - 2400f64.sqrt() / 4.0).abs() < 1e-12);
        let soft = Amplifier { output_resistance_ohm: 0.4, ..plain.clone() };
        let at_load = soft.volts() * 8.0 / 8.4;
        assert!((at_load * at_load / 8.0 - 300.0).abs() < 1e-9);
        assert!((soft.power_into(8.0) - 300.0).abs() < 1e-9);
        // halved load, doubled power, as far as its current goes
        assert!((plain.power_into(4.0) - 600.0).abs() < 1e-9 && (plain.power_into(2.0) - 300.0).abs() < 1e-9);
        let second = Amplifier { second: Some(Rating { power_w: 500.0, load_ohm: 4.0 }), ..plain };
        assert!((second.amperes().powi(2) * 4.0 - 500.0).abs() < 1e-9);
    }
}

//! Air: speed of sound, density, viscosity.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | c | speed of sound | m/s |
//! | ρ | density | kg/m³ |
//! | γ | ratio of specific heats, 1.40 | 1 |
//! | μ | dynamic viscosity (Sutherland) | Pa·s |
//! | Pr | Prandtl number, 0.71 | 1 |
//!
//! Humidity is left out: it moves c by well under 1 % in rooms (ISO 9613-1).

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Ratio of the specific heats of dry air.
pub const GAMMA: f64 = 1.40;
/// Prandtl number of air.
pub const PRANDTL: f64 = 0.71;
/// Gas constant of dry air, J/(kg·K).
const GAS_CONSTANT: f64 = 287.05;
/// 0 °C in kelvin.
const ZERO_CELSIUS: f64 = 273.15;

/// The air of a design as its author states it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum AirSpec {
    /// From temperature and pressure: c = 331.3·√(1 + T/273.15), ρ = p/(287.05·(T + 273.15)).
    #[schemars(title = "By weather")]
    Weather {
        /// Air temperature.
        #[schemars(title = "Temperature", range(min = -30.0, max = 60.0), extend("x-start" = 20, "x-unit" = "°C"))]
        temperature_c: f64,
        /// Static pressure; about 101 325 Pa at sea level and 89 900 Pa at 1 000 m.
        #[schemars(title = "Pressure", range(min = 50000.0, max = 110000.0), extend("x-start" = 101325, "x-unit" = "Pa"))]
        pressure_pa: f64,
    },
    /// Speed of sound and density given outright, to hold a design against another tool.
    #[schemars(title = "Given outright")]
    Given {
        /// Speed of sound.
        #[schemars(title = "Speed of sound", range(min = 250.0, max = 450.0), extend("x-start" = 343.2, "x-unit" = "m/s"))]
        speed_of_sound_m_per_s: f64,
        /// Density.
        #[schemars(title = "Density", range(min = 0.5, max = 2.0), extend("x-start" = 1.204, "x-unit" = "kg/m3"))]
        density_kg_per_m3: f64,
        /// Whether the sheets' Vas is stated in this air too, as for a tool that knows but one; else it is that of 20 °C and
        /// 101 325 Pa.
        #[schemars(title = "Sheets in this air")]
        #[serde(default = "yes", skip_serializing_if = "is_yes")]
        sheets_too: bool,
    },
}

fn yes() -> bool {
    true
}

fn is_yes(value: &bool) -> bool {
    *value
}

impl AirSpec {
    /// The air in which sheets state their Vas: 20 °C and 101 325 Pa (common practice), whatever the weather.
    pub fn of_sheets(&self) -> Air {
        match self {
            AirSpec::Given { sheets_too: true, .. } => Air::from(self),
            _ => Air::at(20.0, 101_325.0),
        }
    }
}

impl Default for AirSpec {
    fn default() -> Self {
        AirSpec::Weather { temperature_c: 20.0, pressure_pa: 101_325.0 }
    }
}

/// Air as the models use it, SI.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Air {
    /// Speed of sound c, m/s.
    pub c: f64,
    /// Density ρ, kg/m³.
    pub rho: f64,
    /// Dynamic viscosity μ, Pa·s.
    pub viscosity: f64,
}

impl Air {
    /// Air at a temperature (°C) and static pressure (Pa).
    ///
    /// Sutherland's law for the viscosity: μ = 1.716e-5·(T/273.15)^1.5·(273.15 + 110.4)/(T + 110.4), T in
    /// kelvin (White, *Viscous Fluid Flow*, eq. 1-36), good to 2 % from 210 K to 1 900 K.
    pub fn at(temperature_c: f64, pressure_pa: f64) -> Air {
        let kelvin = temperature_c + ZERO_CELSIUS;
        Air {
            c: 331.3 * (1.0 + temperature_c / ZERO_CELSIUS).sqrt(),
            rho: pressure_pa / (GAS_CONSTANT * kelvin),
            viscosity: sutherland(kelvin),
        }
    }

    /// Air with c and ρ given; its viscosity is that of the temperature belonging to c.
    pub fn given(c: f64, rho: f64) -> Air {
        Air { c, rho, viscosity: sutherland((c / 331.3).powi(2) * ZERO_CELSIUS) }
    }

    /// Adiabatic bulk modulus ρc², Pa.
    pub fn bulk_modulus(&self) -> f64 {
        self.rho * self.c * self.c
    }

    /// Acoustic compliance V/(ρc²) of a volume in m³, m³/Pa.
    pub fn compliance(&self, volume: f64) -> f64 {
        volume / self.bulk_modulus()
    }
}

impl From<&AirSpec> for Air {
    fn from(spec: &AirSpec) -> Air {
        match *spec {
            AirSpec::Weather { temperature_c, pressure_pa } => Air::at(temperature_c, pressure_pa),
            AirSpec::Given { speed_of_sound_m_per_s, density_kg_per_m3, .. } => {
                Air::given(speed_of_sound_m_per_s, density_kg_per_m3)
            }
        }
    }
}

fn sutherland(kelvin: f64) -> f64 {
    1.716e-5 * (kelvin / ZERO_CELSIUS).powf(1.5) * (ZERO_CELSIUS + 110.4) / (kelvin + 110.4)
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// ISO 2533 (standard atmosphere, 15 °C): c = 340.294 m/s, ρ = 1.225 kg/m³, μ = 1.7894e-5 Pa·s.
    #[test]
    fn standard_atmosphere() {
        let air = Air::at(15.0, 101_325.0);
        assert_relative_eq!(air.c, 340.294, max_relative = 3e-4);
        assert_relative_eq!(air.rho, 1.225, max_relative = 2e-4);
        assert_relative_eq!(air.viscosity, 1.7894e-5, max_relative = 2e-3);
    }
}

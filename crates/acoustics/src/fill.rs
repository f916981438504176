//! Fill and lining as an equivalent fluid.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | σ | static flow resistivity | Pa·s/m² |
//! | X | f/σ, the variable of the regressions | m³/kg |
//! | K | complex bulk modulus | Pa |
//! | ρ | complex density | kg/m³ |

use crate::air::{Air, GAMMA};
use crate::network::phasor::Phasor;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// The fill of a chamber as its author states it.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Fill {
    /// Nothing in the box.
    #[default]
    #[schemars(title = "None")]
    None,
    /// The box acts larger by a plain factor, without loss.
    #[schemars(title = "Plain factor")]
    Factor {
        /// Net volume is multiplied by this: 1.0 adiabatic (empty) to 1.4 isothermal; 1.05 to 1.25 in practice.
        #[schemars(title = "Acts larger by", range(min = 1.0, max = 1.4), extend("x-start" = 1.1, "x-unit" = "", "x-step" = 0.01))]
        factor: f64,
    },
    /// A fibrous material by its flow resistivity.
    #[schemars(title = "Fibrous")]
    Fibrous {
        /// The regression used.
        #[schemars(title = "Model", extend("x-start" = "allard_champoux"))]
        model: FibreLaw,
        /// Static flow resistivity: about 2 000 for loose wadding, 10 000 and more for dense mineral wool.
        #[schemars(title = "Flow resistivity", range(min = 100.0, max = 200000.0), extend("x-start" = 3000, "x-unit" = "Pa·s/m2", "x-step" = 500))]
        flow_resistivity_pa_s_per_m2: f64,
        /// The part of the net volume that is filled.
        #[schemars(title = "Part filled", range(min = 0.0, max = 1.0), extend("x-start" = 0.5, "x-unit" = "", "x-step" = 0.05))]
        filled_part: f64,
    },
    /// A material of the library by its packing; by Allard & Champoux.
    #[schemars(title = "Material")]
    Material {
        /// Which material.
        #[schemars(title = "Material")]
        material: Material,
        /// How densely it is packed.
        #[schemars(title = "Packed", range(min = 1.0, max = 3000.0), extend("x-start" = 10, "x-unit" = "kg/m3"))]
        density_kg_per_m3: f64,
        /// The weight at hand; stated, it says how densely it is packed.
        #[schemars(title = "Weight of fill", range(min = 1.0, max = 100000.0), extend("x-unit" = "g"))]
        #[serde(default, skip_serializing_if = "Option::is_none")]
        mass_g: Option<f64>,
        /// The part of the net volume that is filled.
        #[schemars(title = "Part filled", range(min = 0.0, max = 1.0), extend("x-start" = 0.5, "x-unit" = "", "x-step" = 0.05))]
        filled_part: f64,
    },
}

impl Fill {
    /// The same fill in a chamber (m³), a lining that takes `lined` of it (a part) in place of the part filled, and packed
    /// by density where it is given by mass.
    pub fn packed(&self, chamber: f64, lined: Option<f64>) -> Fill {
        let mut fill = self.clone();
        match &mut fill {
            Fill::None | Fill::Factor { .. } => {}
            Fill::Fibrous { filled_part, .. } => *filled_part = lined.unwrap_or(*filled_part),
            Fill::Material { density_kg_per_m3, mass_g, filled_part, .. } => {
                *filled_part = lined.unwrap_or(*filled_part);
                if let Some(grams) = mass_g.take()
                    && *filled_part > 0.0
                {
                    *density_kg_per_m3 = grams * 1e-3 / (*filled_part * chamber);
                }
            }
        }
        fill
    }

    /// What is wrong with it in a chamber of `net` litres: (field, message).
    pub fn problems(&self, net: f64, lined: Option<f64>) -> Vec<(&'static str, String)> {
        let Fill::Material { material, mass_g, .. } = self else { return Vec::new() };
        let Fill::Material { density_kg_per_m3: packed, filled_part, .. } = self.packed(net * 1e-3, lined) else {
            return Vec::new();
        };
        let info = material.info();
        if packed <= info.solid {
            return Vec::new();
        }
        if mass_g.is_some() {
            let most = info.solid * filled_part * net;
            let message = format!(
                "packs {packed:.0} kg/m3, denser than solid {} ({:.0} kg/m3); at most {most:.0} g go in, and {:.0} g is usual",
                info.title,
                info.solid,
                info.usual * filled_part * net
            );
            return vec![("mass_g", message)];
        }
        let message = format!(
            "{packed:.0} kg/m3 is denser than solid {} ({:.0} kg/m3); {:.0} kg/m3 is usual",
            info.title, info.solid, info.usual
        );
        vec![("density_kg_per_m3", message)]
    }

    /// Law, flow resistivity (Pa·s/m²) and the part filled, of a fibrous fill.
    pub fn fibres(&self) -> Option<(FibreLaw, f64, f64)> {
        match *self {
            Fill::None | Fill::Factor { .. } => None,
            Fill::Fibrous { model, flow_resistivity_pa_s_per_m2, filled_part } => {
                Some((model, flow_resistivity_pa_s_per_m2, filled_part))
            }
            Fill::Material { material, density_kg_per_m3, filled_part, .. } => {
                Some((FibreLaw::AllardChampoux, material.flow_resistivity(density_kg_per_m3), filled_part))
            }
        }
    }
}

/// The library of fill materials; [`MATERIALS`] says where each law comes from.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Material {
    /// Polyester wadding, fibres of about 33 µm; usually packed 6 to 20 kg/m³.
    #[default]
    PolyesterWadding,
    /// Mineral wool, light: about 30 kg/m³, fibres of about 8 µm.
    MineralWoolLight,
    /// Mineral wool, medium: about 50 kg/m³, fibres of about 7 µm.
    MineralWoolMedium,
    /// Mineral wool, dense: about 90 kg/m³, fibres of about 6 µm.
    MineralWoolDense,
    /// Long-fibre sheep's wool, fibres of about 25 µm; usually packed 6 to 12 kg/m³.
    LongFibreWool,
    /// Open foam, 25 to 30 kg/m³; it is not packed.
    OpenFoam,
}

/// What is known of a material.
#[derive(Clone, Copy, Debug)]
pub struct MaterialInfo {
    /// Which.
    pub material: Material,
    /// In words.
    pub title: &'static str,
    /// Usual packing, kg/m³.
    pub usual: f64,
    /// Density of the solid its fibres or walls are made of, kg/m³ (handbook values, from memory).
    pub solid: f64,
    /// Flow resistivity (Pa·s/m²) from packing (kg/m³).
    pub law: fn(f64) -> f64,
    /// Where the law comes from.
    pub source: &'static str,
}

/// Every material, in the order of [`Material`].
pub const MATERIALS: &[MaterialInfo] = &[
    MaterialInfo {
        material: Material::PolyesterWadding,
        title: "polyester wadding",
        usual: 10.0,
        solid: 1380.0,
        law: |density| 25.989 * density.powf(1.404),
        source: "Garai & Pompoli, Applied Acoustics 66 (2005): 25.989·density^1.404 (from memory)",
    },
    MaterialInfo {
        material: Material::MineralWoolLight,
        title: "mineral wool, light",
        usual: 30.0,
        solid: 2700.0,
        law: |density| bies_hansen(density, 8e-6),
        source: BIES_HANSEN,
    },
    MaterialInfo {
        material: Material::MineralWoolMedium,
        title: "mineral wool, medium",
        usual: 50.0,
        solid: 2700.0,
        law: |density| bies_hansen(density, 7e-6),
        source: BIES_HANSEN,
    },
    MaterialInfo {
        material: Material::MineralWoolDense,
        title: "mineral wool, dense",
        usual: 90.0,
        solid: 2700.0,
        law: |density| bies_hansen(density, 6e-6),
        source: BIES_HANSEN,
    },
    MaterialInfo {
        material: Material::LongFibreWool,
        title: "long-fibre wool",
        usual: 8.0,
        solid: 1310.0,
        law: |density| 490.0 * density.powf(1.61) / 25.0,
        source: "Ballagh, Applied Acoustics 48 (1996): 490·density^1.61/diameter in µm (from memory)",
    },
    MaterialInfo {
        material: Material::OpenFoam,
        title: "open foam",
        usual: 28.0,
        solid: 1200.0,
        law: |density| 5000.0 * (density / 28.0).powf(1.5),
        source: "a typical foam of 5 000 Pa·s/m² at 28 kg/m³ (common practice): an estimate, no regression; ask its maker",
    },
];

const BIES_HANSEN: &str = "Bies & Hansen, Applied Acoustics 13 (1980): 3.18e-9·density^1.53/diameter² (from memory)";

/// Flow resistivity (Pa·s/m²) of glass and mineral fibres from packing (kg/m³) and fibre diameter (m).
fn bies_hansen(density: f64, diameter: f64) -> f64 {
    3.18e-9 * density.powf(1.53) / (diameter * diameter)
}

impl Material {
    /// What is known of it.
    pub fn info(self) -> MaterialInfo {
        MATERIALS[self as usize]
    }
    /// Flow resistivity, Pa·s/m², packed so densely (kg/m³).
    pub fn flow_resistivity(self, density: f64) -> f64 {
        (self.info().law)(density)
    }
}

/// Which published regression describes a fibrous fill.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum FibreLaw {
    /// Miki 1990; fitted for 0.01 < f/σ < 1 m³/kg.
    Miki,
    /// Allard & Champoux 1992: the bulk modulus goes from isothermal to adiabatic.
    #[default]
    AllardChampoux,
}

/// A fibrous fill ready to be evaluated.
#[derive(Clone, Debug, PartialEq)]
pub struct FibreModel {
    law: FibreLaw,
    sigma: f64,
    air: Air,
}

impl FibreModel {
    /// `sigma`: flow resistivity, Pa·s/m².
    pub fn new(law: FibreLaw, sigma: f64, air: Air) -> Self {
        FibreModel { law, sigma, air }
    }

    /// Lowest frequency (Hz) of the regression's fitted range, if it has one.
    pub fn fitted_from(law: FibreLaw, sigma: f64) -> Option<f64> {
        (law == FibreLaw::Miki).then_some(0.01 * sigma)
    }

    /// Propagation in units of 1/c and characteristic impedance in units of ρc (γ = jω·√(ρ/K), Z = √(ρ·K)).
    #[inline(always)]
    pub fn waves<P: Phasor>(&self, omega: P::Omega) -> (P, P) {
        let jw = P::j_omega(omega, 1.0);
        if self.law == FibreLaw::Miki {
            let (z, k) = self.miki::<P>(omega);
            return (jw * k, z);
        }
        let density = self.density::<P>(omega).scale(1.0 / self.air.rho);
        let softness = self.bulk_modulus::<P>(omega).recip().scale(self.air.bulk_modulus());
        (jw * (density * softness).sqrt(), (density / softness).sqrt())
    }

    /// Complex bulk modulus K(ω), Pa.
    pub fn bulk_modulus<P: Phasor>(&self, omega: P::Omega) -> P {
        match self.law {
            FibreLaw::Miki => {
                let (z, k) = self.miki::<P>(omega);
                (z / k).scale(self.air.bulk_modulus())
            }
            FibreLaw::AllardChampoux => {
                let root = self.champoux_root::<P>(omega);
                let k = (root + P::constant(0.0, 29.64)) / (root + P::constant(0.0, 21.17));
                k.scale(self.air.bulk_modulus() / GAMMA)
            }
        }
    }

    /// Complex density ρ(ω), kg/m³.
    pub fn density<P: Phasor>(&self, omega: P::Omega) -> P {
        match self.law {
            FibreLaw::Miki => {
                let (z, k) = self.miki::<P>(omega);
                (z * k).scale(self.air.rho)
            }
            FibreLaw::AllardChampoux => {
                // ρ = ρ0·[1 + √(-0.0364 u² - j·0.1144 u)/1.2], u = σ/(ρ0 f), eq. (7) with 1.2 kg/m³ made general
                let u = P::omega_power(omega, TAU * self.sigma / self.air.rho, -1.0);
                let inside = (u * u).scale(-0.0364) - u.scale(0.1144).times_j();
                // The principal root has a positive real part and a negative imaginary part, as e^{+jωt} asks.
                (P::one() + inside.sqrt().scale(1.0 / 1.2)).scale(self.air.rho)
            }
        }
    }

    /// Zc/(ρc) and k·c/ω of Miki 1990: 1 + 0.0699 X^-0.632 - j·0.1071 X^-0.632 and
    /// 1 + 0.1093 X^-0.618 - j·0.1597 X^-0.618, X = f/σ.
    fn miki<P: Phasor>(&self, omega: P::Omega) -> (P, P) {
        let per_omega = 1.0 / (TAU * self.sigma);
        let term = |power: f64, re: f64, im: f64| {
            let x = P::omega_power(omega, per_omega.powf(power), power);
            P::one() + x.scale(re) - x.scale(im).times_j()
        };
        (term(-0.632, 0.0699, 0.1071), term(-0.618, 0.1093, 0.1597))
    }

    /// √(2.82 u² + j·24.9 u), u = σ/(ρ0 f): Allard & Champoux (JASA 91, 1992, p. 3346), the bulk modulus.
    fn champoux_root<P: Phasor>(&self, omega: P::Omega) -> P {
        let u = P::omega_power(omega, TAU * self.sigma / self.air.rho, -1.0);
        ((u * u).scale(2.82) + u.scale(24.9).times_j()).sqrt()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use num_complex::Complex64;

    /// Miki (J. Acoust. Soc. Jpn (E) 11, 1990) writes Zc/ρc = 1 + 5.50·Y^-0.632 - j·8.43·Y^-0.632 and
    /// k·c/ω = 1 + 7.81·Y^-0.618 - j·11.41·Y^-0.618 with Y = 1000·f/σ (from memory). At 100 Hz, σ = 5000,
    /// c = 343.2 m/s, ρ = 1.2041 kg/m³ the coefficients rounded to three decimals give
    /// k = 4.0696 - j3.2864 1/m, Zc = 756.06 - j524.01 Pa·s/m (computed outside this project).
    #[test]
    fn miki_at_its_published_coefficients() {
        let air = Air::given(343.2, 1.2041);
        let model = FibreModel::new(FibreLaw::Miki, 5000.0, air);
        let omega = TAU * 100.0;
        let (k, rho) = (model.bulk_modulus::<Complex64>(omega), model.density::<Complex64>(omega));
        let (zc, wave) = ((k * rho).sqrt(), omega * (rho / k).sqrt());
        let y = 1000.0f64 * 100.0 / 5000.0;
        let (z, w) = (y.powf(-0.632), y.powf(-0.618));
        let rc = 343.2 * 1.2041;
        for (found, original, rounded) in [
            (wave.re, omega / 343.2 * (1.0 + 7.81 * w), 4.0696),
            (wave.im, -omega / 343.2 * 11.41 * w, -3.2864),
            (zc.re, rc * (1.0 + 5.50 * z), 756.06),
            (zc.im, -rc * 8.43 * z, -524.01),
        ] {
            assert_relative_eq!(found, original, max_relative = 5e-4);
            assert_relative_eq!(found, rounded, max_relative = 2e-3);
        }
    }

    /// Theory: a fibrous fill is isothermal (K = p0 = ρc²/γ) toward 0 Hz and adiabatic at high frequencies.
    #[test]
    fn allard_champoux_goes_from_isothermal_to_adiabatic() {
        let air = Air::at(20.0, 101_325.0);
        let model = FibreModel::new(FibreLaw::AllardChampoux, 10_000.0, air);
        let low = model.bulk_modulus::<Complex64>(TAU * 0.01);
        let high = model.bulk_modulus::<Complex64>(TAU * 1e7);
        assert_relative_eq!(low.re, 101_325.0, max_relative = 2e-3);
        assert_relative_eq!(high.re, air.bulk_modulus(), max_relative = 1e-2);
        // and its density grows toward σ/ω and falls to that of air
        assert_relative_eq!(model.density::<Complex64>(TAU * 1e7).re, air.rho, max_relative = 5e-2);
        assert!(model.density::<Complex64>(TAU * 50.0).im < 0.0);
    }

    /// Each material stands at its own place, denser packing resists more, and the usual packings lie in the range
    /// builders speak of (about 500 for loose wadding to some 10 000 for dense wool; common practice).
    #[test]
    fn the_library_of_materials() {
        for info in MATERIALS {
            assert_eq!(info.material.info().title, info.title);
            assert!(info.material.flow_resistivity(info.usual * 1.5) > info.material.flow_resistivity(info.usual));
            let usual = info.material.flow_resistivity(info.usual);
            assert!((300.0..100_000.0).contains(&usual), "{}: {usual}", info.title);
            assert!(!info.source.is_empty());
        }
    }
}

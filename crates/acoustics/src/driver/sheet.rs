//! A woofer's sheet: any sufficient subset of its figures, and the sizes of its frame.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// A woofer as its data sheet or a measurement states it: any sufficient subset of the figures.
///
/// Sufficient is what yields fs, Qms, Qes, Vas, Re and Sd by the relations of the field.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Woofer")]
pub struct Woofer {
    /// The woofer's name.
    #[schemars(title = "Name", length(max = 120))]
    #[serde(skip_serializing_if = "String::is_empty")]
    pub name: String,
    /// Who makes it.
    #[schemars(title = "Maker", length(max = 120))]
    #[serde(skip_serializing_if = "String::is_empty")]
    pub maker: String,
    /// Nominal size of the frame.
    #[schemars(title = "Size", range(min = 2.0, max = 40.0), extend("x-unit" = "in"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub size_in: Option<f64>,
    /// Resonance of the cone in free air.
    #[schemars(title = "fs", range(min = 5.0, max = 300.0), extend("x-unit" = "Hz", "x-group" = "Small signal"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub fs_hz: Option<f64>,
    /// Mechanical Q at fs: friction and surround alone.
    #[schemars(title = "Qms", range(min = 0.2, max = 50.0), extend("x-unit" = "", "x-group" = "Small signal"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub qms: Option<f64>,
    /// Electrical Q at fs: the magnet's brake on the cone, with the coil's own resistance alone.
    #[schemars(title = "Qes", range(min = 0.05, max = 10.0), extend("x-unit" = "", "x-group" = "Small signal"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub qes: Option<f64>,
    /// Total Q at fs; follows from Qms and Qes.
    #[schemars(title = "Qts", range(min = 0.05, max = 10.0), extend("x-unit" = "", "x-group" = "Small signal"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub qts: Option<f64>,
    /// The volume of air that is as stiff as the suspension.
    #[schemars(title = "Vas", range(min = 0.2, max = 5000.0), extend("x-unit" = "L", "x-group" = "Small signal"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub vas_l: Option<f64>,
    /// Resistance of the voice coil at direct current; of two coils, each.
    #[schemars(title = "Re", range(min = 0.2, max = 100.0), extend("x-unit" = "ohm", "x-group" = "Small signal"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub re_ohm: Option<f64>,
    /// Area of the moving cone with half of the surround.
    #[schemars(title = "Sd", range(min = 20.0, max = 5000.0), extend("x-unit" = "cm2", "x-group" = "Small signal"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sd_cm2: Option<f64>,
    /// One voice coil or two.
    #[schemars(title = "Voice coils", extend("x-group" = "Coil"))]
    #[serde(skip_serializing_if = "VoiceCoils::is_single")]
    pub coils: VoiceCoils,
    /// Inductance of the voice coil in series, of two coils each; empty is taken as none.
    #[schemars(title = "Le", range(min = 0.0, max = 50.0), extend("x-unit" = "mH", "x-group" = "Coil"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub le_mh: Option<f64>,
    /// Second inductance, in parallel with R2, both in series with Le.
    #[schemars(title = "L2", range(min = 0.0001, max = 50.0), extend("x-unit" = "mH", "x-group" = "Coil"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub l2_mh: Option<f64>,
    /// Resistance in parallel with L2.
    #[schemars(title = "R2", range(min = 0.01, max = 1000.0), extend("x-unit" = "ohm", "x-group" = "Coil"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub r2_ohm: Option<f64>,
    /// Size K of the lossy semi-inductance K·(jω)^n, which then stands in place of Le, L2 and R2.
    #[schemars(title = "K", range(min = 0.000_001, max = 100.0), extend("x-unit" = "ohm·s^n", "x-group" = "Coil"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub semi_inductance_k: Option<f64>,
    /// Exponent n of the semi-inductance: 1 is a plain coil, 0.5 to 0.8 are usual with eddy currents in the pole.
    #[schemars(title = "n", range(min = 0.2, max = 1.0), extend("x-unit" = "", "x-group" = "Coil"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub semi_inductance_n: Option<f64>,
    /// Excursion one way, from rest, within which the motor holds.
    #[schemars(title = "Xmax", range(min = 0.2, max = 100.0), extend("x-unit" = "mm", "x-group" = "Limits"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub xmax_mm: Option<f64>,
    /// Excursion one way at which something strikes; empty is taken as one and a half times Xmax, an estimate.
    #[schemars(title = "Xmech", range(min = 0.2, max = 200.0), extend("x-unit" = "mm", "x-group" = "Limits"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub xmech_mm: Option<f64>,
    /// Rated power of the whole woofer: the heat its coils may carry.
    #[schemars(title = "Rated power", range(min = 1.0, max = 20000.0), extend("x-unit" = "W", "x-group" = "Limits"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub power_w: Option<f64>,
    /// Nominal impedance, of two coils each: what a wattage on the sheet refers to.
    #[schemars(title = "Nominal impedance", range(min = 0.5, max = 100.0), extend("x-unit" = "ohm", "x-group" = "Limits"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub nominal_ohm: Option<f64>,
    /// Moving mass with its air load.
    #[schemars(title = "Mms", range(min = 1.0, max = 3000.0), extend("x-unit" = "g", "x-group" = "Physical"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub mms_g: Option<f64>,
    /// Compliance of the suspension.
    #[schemars(title = "Cms", range(min = 0.005, max = 20.0), extend("x-unit" = "mm/N", "x-group" = "Physical"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub cms_mm_per_n: Option<f64>,
    /// Loss of the suspension.
    #[schemars(title = "Rms", range(min = 0.05, max = 200.0), extend("x-unit" = "N·s/m", "x-group" = "Physical"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rms_n_s_per_m: Option<f64>,
    /// Force factor of the motor; of two coils each, which is also that of both in parallel.
    #[schemars(title = "Bl", range(min = 0.5, max = 100.0), extend("x-unit" = "T·m", "x-group" = "Physical"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub bl_t_m: Option<f64>,
    /// Level at 1 m in half space with 2.83 V (two coils in parallel), as the sheet states it; only compared, never used.
    #[schemars(title = "Sensitivity, 2.83 V", range(min = 60.0, max = 115.0), extend("x-unit" = "dB", "x-group" = "Physical"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sensitivity_db: Option<f64>,
    /// Diameter over the flange.
    #[schemars(title = "Outside diameter", range(min = 30.0, max = 1100.0), extend("x-unit" = "mm", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub outside_diameter_mm: Option<f64>,
    /// Hole in the baffle.
    #[schemars(title = "Cut-out", range(min = 30.0, max = 1000.0), extend("x-unit" = "mm", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub cutout_mm: Option<f64>,
    /// Depth behind the flange.
    #[schemars(title = "Depth", range(min = 10.0, max = 600.0), extend("x-unit" = "mm", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub depth_mm: Option<f64>,
    /// Thickness of the flange.
    #[schemars(title = "Flange", range(min = 0.5, max = 60.0), extend("x-unit" = "mm", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub flange_mm: Option<f64>,
    /// Diameter of the magnet.
    #[schemars(title = "Magnet diameter", range(min = 20.0, max = 600.0), extend("x-unit" = "mm", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub magnet_diameter_mm: Option<f64>,
    /// Volume the frame and magnet take from the box; empty is estimated from cut-out, depth and magnet.
    #[schemars(title = "Displacement", range(min = 0.0, max = 60.0), extend("x-unit" = "L", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub displacement_l: Option<f64>,
    /// Weight.
    #[schemars(title = "Weight", range(min = 0.1, max = 100.0), extend("x-unit" = "kg", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub weight_kg: Option<f64>,
    /// Number of mounting screws.
    #[schemars(title = "Screws", range(min = 2, max = 32), extend("x-unit" = "", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub screws: Option<u32>,
    /// Diameter of the circle they stand on; empty is midway between hole and rim.
    #[schemars(title = "Screw circle", range(min = 30.0, max = 1100.0), extend("x-unit" = "mm", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub screw_circle_mm: Option<f64>,
    /// Diameter of the holes in the frame they go through.
    #[schemars(title = "Screw holes", range(min = 2.0, max = 14.0), extend("x-unit" = "mm", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub screw_hole_mm: Option<f64>,
    /// What it costs, in the workshop's own money.
    #[schemars(title = "Price", range(min = 0.0, max = 1_000_000.0), extend("x-unit" = "", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub price: Option<f64>,
}

/// How many voice coils are wound on the former.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum VoiceCoils {
    /// One.
    #[default]
    Single,
    /// Two equal ones; Re, Le, L2, R2, K, the nominal impedance and Bl are those of each.
    Dual,
}

impl VoiceCoils {
    /// How many.
    pub fn count(self) -> u32 {
        match self {
            VoiceCoils::Single => 1,
            VoiceCoils::Dual => 2,
        }
    }
    fn is_single(&self) -> bool {
        *self == VoiceCoils::Single
    }
}

impl Woofer {
    /// The same woofer with another set of measured figures; name, coils, limits, frame and price stay.
    pub fn with_figures(&self, figures: &Woofer) -> Woofer {
        Woofer {
            name: self.name.clone(),
            maker: self.maker.clone(),
            coils: self.coils,
            size_in: self.size_in,
            xmax_mm: self.xmax_mm,
            xmech_mm: self.xmech_mm,
            power_w: self.power_w,
            nominal_ohm: self.nominal_ohm,
            outside_diameter_mm: self.outside_diameter_mm,
            cutout_mm: self.cutout_mm,
            depth_mm: self.depth_mm,
            flange_mm: self.flange_mm,
            magnet_diameter_mm: self.magnet_diameter_mm,
            displacement_l: self.displacement_l,
            weight_kg: self.weight_kg,
            screws: self.screws,
            price: self.price,
            ..figures.clone()
        }
    }

    /// The figures alone that a measurement gives anew: small-signal, physical and coil; the rest left empty.
    pub fn figures(&self) -> Woofer {
        Woofer::default().with_figures(self)
    }

    /// The rest: name, coils, limits, frame and price.
    pub fn without_figures(&self) -> Woofer {
        self.with_figures(&Woofer::default())
    }

    /// What frame and magnet take from the box, L, and whether that is an estimate; `None` without depth and cut-out.
    ///
    /// The estimate (this project's own; within about a fifth of stated values) takes the magnet as a cylinder of
    /// two fifths of the depth, and the cone as a frustum over a third of it from nine tenths of the cut-out down
    /// to a third. A magnet whose diameter is not stated is taken as 0.6 of the cut-out.
    pub fn displacement(&self) -> Option<(f64, bool)> {
        if let Some(stated) = self.displacement_l {
            return Some((stated, false));
        }
        let (depth, cutout) = (self.depth_mm? * 1e-3, self.cutout_mm? * 1e-3);
        let magnet = self.magnet_diameter_mm.map_or(0.6 * cutout, |d| d * 1e-3);
        let (wide, narrow) = (0.9 * cutout, 0.3 * cutout);
        let cone = PI / 12.0 * (wide * wide + wide * narrow + narrow * narrow) * 0.35 * depth;
        let motor = PI / 4.0 * magnet * magnet * 0.4 * depth;
        Some(((cone + motor) * 1e3, true))
    }

    /// Excursion one way at which something strikes, mm, and whether that is an estimate (one and a half times Xmax).
    pub fn mechanical_excursion(&self) -> Option<(f64, bool)> {
        self.xmech_mm.map(|x| (x, false)).or(self.xmax_mm.map(|x| (1.5 * x, true)))
    }
}

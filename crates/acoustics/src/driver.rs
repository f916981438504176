//! The driver: from the figures of a data sheet to a motor, and what the sheet says against itself.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | fs | resonance in free air | Hz |
//! | Qms, Qes, Qts | mechanical, electrical, total Q at fs | 1 |
//! | Vas | volume of air as stiff as the suspension | m³ |
//! | Re, Le | resistance, inductance of the coil | Ω, H |
//! | Sd | cone area | m² |
//! | Mms, Cms, Rms | moving mass with air load, compliance, loss | kg, m/N, N·s/m |
//! | Bl | force factor | T·m |
//!
//! Relations (Thiele 1961; Small, JAES 1972): Cms = 1/((2πfs)²Mms), Vas = ρc²Sd²Cms, Qes = 2πfs·Mms·Re/Bl²,
//! Qms = 2πfs·Mms/Rms, 1/Qts = 1/Qes + 1/Qms, η0 = (4π²/c³)·fs³·Vas/Qes. Qes is stated with Re alone.

use crate::air::Air;
use crate::level::P_REF;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// A woofer as its data sheet or a measurement states it: any sufficient subset of the figures.
///
/// Sufficient is what yields fs, Qms, Qes, Vas, Re and Sd by the relations of the field.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Woofer")]
pub struct Woofer {
    /// The woofer's name.
    #[schemars(title = "Name", length(max = 120))]
    pub name: String,
    /// Who makes it.
    #[schemars(title = "Maker", length(max = 120))]
    pub maker: String,
    /// Nominal size of the frame.
    #[schemars(title = "Size", range(min = 2.0, max = 40.0), extend("x-unit" = "in", "x-group" = "Frame"))]
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
    /// Resistance of the voice coil at direct current.
    #[schemars(title = "Re", range(min = 0.2, max = 100.0), extend("x-unit" = "ohm", "x-group" = "Small signal"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub re_ohm: Option<f64>,
    /// Area of the moving cone with half of the surround.
    #[schemars(title = "Sd", range(min = 20.0, max = 5000.0), extend("x-unit" = "cm2", "x-group" = "Small signal"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sd_cm2: Option<f64>,
    /// Inductance of the voice coil in series; empty is taken as none.
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
    /// Stroke one way, from rest, within which the motor holds.
    #[schemars(title = "Xmax", range(min = 0.2, max = 100.0), extend("x-unit" = "mm", "x-group" = "Limits"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub xmax_mm: Option<f64>,
    /// Rated power: the heat the coil may carry.
    #[schemars(title = "Rated power", range(min = 1.0, max = 20000.0), extend("x-unit" = "W", "x-group" = "Limits"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub power_w: Option<f64>,
    /// Nominal impedance: what a wattage on the sheet refers to.
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
    /// Force factor of the motor.
    #[schemars(title = "Bl", range(min = 0.5, max = 100.0), extend("x-unit" = "T·m", "x-group" = "Physical"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub bl_t_m: Option<f64>,
    /// Level at 1 m in half space with 2.83 V, as the sheet states it; only compared, never used.
    #[schemars(title = "Sensitivity, 2.83 V", range(min = 60.0, max = 115.0), extend("x-unit" = "dB", "x-group" = "Physical"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sensitivity_db: Option<f64>,
    /// Hole in the baffle.
    #[schemars(title = "Cut-out", range(min = 30.0, max = 1000.0), extend("x-unit" = "mm", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub cutout_mm: Option<f64>,
    /// Depth behind the flange.
    #[schemars(title = "Depth", range(min = 10.0, max = 600.0), extend("x-unit" = "mm", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub depth_mm: Option<f64>,
    /// Volume the frame and magnet take from the box.
    #[schemars(title = "Displacement", range(min = 0.0, max = 60.0), extend("x-unit" = "L", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub displacement_l: Option<f64>,
    /// Weight.
    #[schemars(title = "Weight", range(min = 0.1, max = 100.0), extend("x-unit" = "kg", "x-group" = "Frame"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub weight_kg: Option<f64>,
}

/// The six figures everything else follows from, SI.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ThieleSmall {
    /// Resonance, Hz.
    pub fs: f64,
    /// Mechanical Q.
    pub qms: f64,
    /// Electrical Q with Re alone.
    pub qes: f64,
    /// Vas, m³.
    pub vas: f64,
    /// Coil resistance, Ω.
    pub re: f64,
    /// Cone area, m².
    pub sd: f64,
}

impl ThieleSmall {
    /// Total Q.
    pub fn qts(&self) -> f64 {
        self.qms * self.qes / (self.qms + self.qes)
    }
    /// Total Q with a resistance (Ω) of source and leads before the coil.
    pub fn qts_with_source(&self, rg: f64) -> f64 {
        let qes = self.qes * (self.re + rg) / self.re;
        self.qms * qes / (self.qms + qes)
    }
    /// Compliance, m/N.
    pub fn cms(&self, air: &Air) -> f64 {
        self.vas / (air.bulk_modulus() * self.sd * self.sd)
    }
    /// Moving mass with air load, kg.
    pub fn mms(&self, air: &Air) -> f64 {
        1.0 / ((TAU * self.fs).powi(2) * self.cms(air))
    }
    /// Suspension loss, N·s/m.
    pub fn rms(&self, air: &Air) -> f64 {
        TAU * self.fs * self.mms(air) / self.qms
    }
    /// Force factor, T·m.
    pub fn bl(&self, air: &Air) -> f64 {
        (TAU * self.fs * self.mms(air) * self.re / self.qes).sqrt()
    }
    /// Reference efficiency in half space (1): (4π²/c³)·fs³·Vas/Qes.
    pub fn efficiency(&self, air: &Air) -> f64 {
        4.0 * PI * PI / air.c.powi(3) * self.fs.powi(3) * self.vas / self.qes
    }
    /// Half-space level at 1 m, dB, for `volts` rms on Re. The handbooks' rounded 112.0 + 10·log η0 + 10·log(V²/Re)
    /// lies 0.16 dB lower at ρc = 413, since it takes a rounded ρc.
    pub fn reference_level_db(&self, air: &Air, volts: f64) -> f64 {
        let watts = self.efficiency(air) * volts * volts / self.re;
        10.0 * (watts * air.rho * air.c / (TAU * P_REF * P_REF)).log10()
    }
    /// Efficiency-bandwidth product fs/Qes, Hz.
    pub fn ebp(&self) -> f64 {
        self.fs / self.qes
    }
}

/// One disagreement of a data sheet with itself.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Contradiction {
    /// The figure that is contradicted, by its field name.
    pub field: String,
    /// What the sheet states, in the field's unit.
    pub stated: f64,
    /// What follows from fs, Qms, Qes, Vas, Re and Sd, in the same unit.
    pub derived: f64,
    /// How far the stated value is off the derived one, per cent (for decibels: of the power).
    pub percent: f64,
}

/// A woofer with everything known.
#[derive(Clone, Debug)]
pub struct Resolved {
    /// The six figures the simulation uses.
    pub ts: ThieleSmall,
    /// The coil.
    pub coil: Coil,
    /// Disagreements of more than 1 %, worst first.
    pub contradictions: Vec<Contradiction>,
}

/// A sheet that does not determine the driver.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[error("{} cannot be derived: {hint}", .missing.join(", "))]
pub struct Undetermined {
    /// Field names that are missing and cannot be derived.
    pub missing: Vec<&'static str>,
    /// What would help.
    pub hint: &'static str,
}

impl Woofer {
    /// Derives the rest and compares what was stated twice.
    ///
    /// The small-signal figures that are stated are used as they stand; Mms, Cms, Rms, Bl and Qts only fill
    /// gaps. Where a sheet states more than it needs, the surplus is compared with what the six figures give.
    ///
    /// # Errors
    /// [`Undetermined`] names what is missing.
    pub fn resolve(&self, air: &Air) -> Result<Resolved, Undetermined> {
        let stiffness = air.bulk_modulus();
        let si = |value: Option<f64>, factor: f64| value.map(|v| v * factor);
        let mut fs = self.fs_hz;
        let mut qms = self.qms;
        let mut qes = self.qes;
        let mut qts = self.qts;
        let mut vas = si(self.vas_l, 1e-3);
        let mut re = self.re_ohm;
        let mut sd = si(self.sd_cm2, 1e-4);
        let mut mms = si(self.mms_g, 1e-3);
        let mut cms = si(self.cms_mm_per_n, 1e-3);
        let mut rms = self.rms_n_s_per_m;
        let mut bl = self.bl_t_m;
        // Each pass fills what one relation can give; the longest chain of relations is shorter than ten.
        for _ in 0..10 {
            fill(&mut qts, both(qms, qes).map(|(m, e)| m * e / (m + e)));
            fill(&mut qes, both(qms, qts).map(|(m, t)| m * t / (m - t)));
            fill(&mut qms, both(qes, qts).map(|(e, t)| e * t / (e - t)));
            fill(&mut cms, both(vas, sd).map(|(v, s)| v / (stiffness * s * s)));
            fill(&mut cms, both(fs, mms).map(|(f, m)| 1.0 / ((TAU * f).powi(2) * m)));
            fill(&mut mms, both(fs, cms).map(|(f, c)| 1.0 / ((TAU * f).powi(2) * c)));
            fill(&mut fs, both(mms, cms).map(|(m, c)| 1.0 / (TAU * (m * c).sqrt())));
            fill(&mut vas, both(cms, sd).map(|(c, s)| stiffness * s * s * c));
            fill(&mut sd, both(vas, cms).map(|(v, c)| (v / (stiffness * c)).sqrt()));
            if let Some((f, m)) = both(fs, mms) {
                let wm = TAU * f * m;
                fill(&mut qms, rms.map(|r| wm / r));
                fill(&mut rms, qms.map(|q| wm / q));
                fill(&mut qes, both(re, bl).map(|(r, b)| wm * r / (b * b)));
                fill(&mut bl, both(re, qes).map(|(r, q)| (wm * r / q).sqrt()));
                fill(&mut re, both(qes, bl).map(|(q, b)| q * b * b / wm));
            }
        }
        let sound = |v: Option<f64>| v.filter(|x| x.is_finite() && *x > 0.0);
        let core = [
            ("fs_hz", sound(fs)),
            ("qms", sound(qms)),
            ("qes", sound(qes)),
            ("vas_l", sound(vas)),
            ("re_ohm", sound(re)),
            ("sd_cm2", sound(sd)),
        ];
        let missing: Vec<_> = core.iter().filter(|(_, v)| v.is_none()).map(|(n, _)| *n).collect();
        if !missing.is_empty() {
            return Err(Undetermined {
                missing,
                hint: "state fs, Qms, Qes (or Qts below both), Vas, Re and Sd, or Mms, Cms, Bl in place of some",
            });
        }
        let value = |i: usize| core[i].1.unwrap_or(f64::NAN);
        let ts = ThieleSmall { fs: value(0), qms: value(1), qes: value(2), vas: value(3), re: value(4), sd: value(5) };
        let parallel = both(self.l2_mh, self.r2_ohm).map(|(l, r)| (l * 1e-3, r));
        let coil = Coil { re: ts.re, le: self.le_mh.unwrap_or(0.0) * 1e-3, parallel };
        Ok(Resolved { ts, coil, contradictions: self.contradictions(&ts, air) })
    }

    /// Compares each surplus figure with what the six give; more than 1 % is listed, worst first.
    fn contradictions(&self, ts: &ThieleSmall, air: &Air) -> Vec<Contradiction> {
        let checks = [
            ("qts", self.qts, ts.qts()),
            ("mms_g", self.mms_g, ts.mms(air) * 1e3),
            ("cms_mm_per_n", self.cms_mm_per_n, ts.cms(air) * 1e3),
            ("rms_n_s_per_m", self.rms_n_s_per_m, ts.rms(air)),
            ("bl_t_m", self.bl_t_m, ts.bl(air)),
        ];
        let sensitivity = self.sensitivity_db.map(|stated| {
            let derived = ts.reference_level_db(air, 2.83);
            (stated, derived, (10f64.powf((stated - derived) / 10.0) - 1.0) * 100.0)
        });
        let mut list: Vec<Contradiction> = checks
            .iter()
            .filter_map(|&(field, stated, derived)| stated.map(|s| (field, s, derived, (s / derived - 1.0) * 100.0)))
            .chain(sensitivity.map(|(s, d, p)| ("sensitivity_db", s, d, p)))
            .filter(|(_, _, _, percent)| percent.abs() > 1.0)
            .map(|(field, stated, derived, percent)| Contradiction { field: field.into(), stated, derived, percent })
            .collect();
        list.sort_by(|a, b| b.percent.abs().total_cmp(&a.percent.abs()));
        list
    }
}

fn fill(slot: &mut Option<f64>, value: Option<f64>) {
    if slot.is_none() {
        *slot = value.filter(|v| v.is_finite() && *v > 0.0);
    }
}

fn both(a: Option<f64>, b: Option<f64>) -> Option<(f64, f64)> {
    a.zip(b)
}

/// The blocked coil: Re in series with Le and, if given, L2 in parallel with R2.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Coil {
    /// Resistance, Ω.
    pub re: f64,
    /// Series inductance, H.
    pub le: f64,
    /// (L2 in H, R2 in Ω).
    pub parallel: Option<(f64, f64)>,
}

/// How several equal woofers are wired.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Wiring {
    /// All in parallel.
    #[default]
    Parallel,
    /// All in series.
    Series,
    /// Pairs in series, the pairs in parallel; needs an even count.
    SeriesPairsInParallel,
}

impl Wiring {
    /// How many woofers are in series in one string, if the count allows this wiring.
    pub fn in_series(self, count: u32) -> Option<u32> {
        match self {
            Wiring::Parallel => Some(1),
            Wiring::Series => Some(count),
            Wiring::SeriesPairsInParallel => count.is_multiple_of(2).then_some(2),
        }
    }
}

/// Motor and suspension of one woofer or of an array taken as one, SI.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Motor {
    /// Cone area of all, m².
    pub sd: f64,
    /// Moving mass of all, kg.
    pub mms: f64,
    /// Compliance of all together, m/N.
    pub cms: f64,
    /// Suspension loss of all, N·s/m.
    pub rms: f64,
    /// Force per ampere at the terminals, T·m.
    pub bl: f64,
    /// The coils in their wiring.
    pub coil: Coil,
}

/// Several equal woofers on one source, moving alike.
#[derive(Clone, Debug)]
pub struct Array {
    /// One woofer's figures.
    pub ts: ThieleSmall,
    /// How many.
    pub count: u32,
    /// All of them as one motor.
    pub motor: Motor,
}

impl Array {
    /// `count` equal woofers, `in_series` of them in each string (a divisor of the count). The force on all cones
    /// is count·Bl·(I/strings) = in_series·Bl·I; impedances scale by in_series/strings.
    pub fn new(one: &Resolved, air: &Air, count: u32, in_series: u32) -> Array {
        let n = f64::from(count);
        let series = f64::from(in_series);
        let ratio = series * series / n;
        let ts = one.ts;
        Array {
            ts,
            count,
            motor: Motor {
                sd: ts.sd * n,
                mms: ts.mms(air) * n,
                cms: ts.cms(air) / n,
                rms: ts.rms(air) * n,
                bl: ts.bl(air) * series,
                coil: Coil {
                    re: one.coil.re * ratio,
                    le: one.coil.le * ratio,
                    parallel: one.coil.parallel.map(|(l, r)| (l * ratio, r * ratio)),
                },
            },
        }
    }

    /// Vas of all together, m³.
    pub fn vas(&self) -> f64 {
        self.ts.vas * f64::from(self.count)
    }

    /// Total Q with a source resistance (Ω) before the whole array.
    pub fn qts_with_source(&self, rg: f64) -> f64 {
        self.ts.qts_with_source(rg * self.ts.re / self.motor.coil.re)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    fn worked() -> Woofer {
        Woofer {
            fs_hz: Some(30.0),
            qes: Some(0.40),
            qms: Some(5.0),
            vas_l: Some(120.0),
            re_ohm: Some(5.6),
            sd_cm2: Some(530.0),
            le_mh: Some(1.0),
            ..Woofer::default()
        }
    }

    /// A worked driver computed outside this project (nodal equations and ngspice agree to 1e-9).
    #[test]
    fn worked_driver() {
        let air = Air::given(343.2, 1.2041);
        let ts = worked().resolve(&air).unwrap().ts;
        assert_relative_eq!(ts.cms(&air) * 1e3, 0.301212, max_relative = 2e-6);
        assert_relative_eq!(ts.mms(&air) * 1e3, 93.438, max_relative = 1e-5);
        assert_relative_eq!(ts.rms(&air), 3.52254, max_relative = 2e-6);
        assert_relative_eq!(ts.bl(&air), 15.7028, max_relative = 3e-6);
        assert_relative_eq!(ts.qts(), 0.37037, max_relative = 1e-5);
        assert_relative_eq!(ts.efficiency(&air) * 100.0, 0.79105, max_relative = 1e-5);
    }

    #[test]
    fn the_physical_set_determines_the_small_signal_set() {
        let air = Air::at(20.0, 101_325.0);
        let full = worked().resolve(&air).unwrap().ts;
        let physical = Woofer {
            mms_g: Some(full.mms(&air) * 1e3),
            cms_mm_per_n: Some(full.cms(&air) * 1e3),
            rms_n_s_per_m: Some(full.rms(&air)),
            bl_t_m: Some(full.bl(&air)),
            re_ohm: Some(5.6),
            sd_cm2: Some(530.0),
            ..Woofer::default()
        };
        let ts = physical.resolve(&air).unwrap().ts;
        assert_relative_eq!(ts.fs, 30.0, max_relative = 1e-12);
        assert_relative_eq!(ts.qes, 0.40, max_relative = 1e-12);
        assert_relative_eq!(ts.qms, 5.0, max_relative = 1e-12);
        assert_relative_eq!(ts.vas, 0.120, max_relative = 1e-12);
    }

    #[test]
    fn a_sheet_against_itself_is_named_in_per_cent() {
        let air = Air::at(20.0, 101_325.0);
        let mut sheet = worked();
        sheet.bl_t_m = Some(15.7 * 1.08);
        sheet.qts = Some(0.3704);
        let list = sheet.resolve(&air).unwrap().contradictions;
        assert_eq!(list.len(), 1);
        assert_eq!(list[0].field, "bl_t_m");
        assert!((list[0].percent - 8.0).abs() < 0.1);
    }

    #[test]
    fn what_is_missing_is_named() {
        let mut sheet = worked();
        sheet.sd_cm2 = None;
        sheet.qes = None;
        let error = sheet.resolve(&Air::at(20.0, 101_325.0)).unwrap_err();
        assert_eq!(error.missing, vec!["qes", "sd_cm2"]);
    }

    /// Two on the same voltage: four times the power into half the impedance; force and area double.
    #[test]
    fn wiring_scales_impedance() {
        let air = Air::at(20.0, 101_325.0);
        let one = worked().resolve(&air).unwrap();
        assert_relative_eq!(Array::new(&one, &air, 2, 1).motor.coil.re, 2.8);
        assert_relative_eq!(Array::new(&one, &air, 2, 2).motor.coil.re, 11.2);
        assert_relative_eq!(Array::new(&one, &air, 4, 2).motor.coil.re, 5.6);
        assert_eq!(Wiring::SeriesPairsInParallel.in_series(3), None);
    }
}

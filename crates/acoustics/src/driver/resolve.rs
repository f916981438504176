//! From a sheet to the six figures, and what the sheet says against itself.

use super::{Coil, ThieleSmall, Woofer};
use crate::air::Air;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

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

impl Contradiction {
    /// How the figure is called on a sheet, and its unit.
    pub fn name(&self) -> (&'static str, &'static str) {
        match self.field.as_str() {
            "fs_hz" => ("fs", "Hz"),
            "re_ohm" => ("Re", "ohm"),
            "qts" => ("Qts", ""),
            "mms_g" => ("Mms", "g"),
            "cms_mm_per_n" => ("Cms", "mm/N"),
            "rms_n_s_per_m" => ("Rms", "N·s/m"),
            "bl_t_m" => ("Bl", "T·m"),
            "sensitivity_db" => ("the sensitivity", "dB"),
            _ => ("a figure", ""),
        }
    }

    /// Whether a builder should care: more than 3 %; for the sensitivity, which is rarely an average of the same
    /// band, more than 1.5 dB.
    pub fn matters(&self) -> bool {
        match self.field.as_str() {
            "sensitivity_db" => (self.stated - self.derived).abs() > 1.5,
            _ => self.percent.abs() > 3.0,
        }
    }

    /// The sentence a sceptical builder would use.
    pub fn sentence(&self) -> String {
        let (what, unit) = self.name();
        let (stated, derived) = (three_digits(self.stated), three_digits(self.derived));
        if self.field == "sensitivity_db" {
            let doubt = if self.stated > self.derived { " A sheet rarely errs on the quiet side." } else { "" };
            return format!(
                "It states {stated} dB at 2.83 V; fs, Vas, Qes and Re give {derived} dB, {:.0} % apart in power.{doubt} The simulation uses the latter.",
                self.percent.abs()
            );
        }
        format!(
            "It states {what} {stated} {unit}; fs, Q, Vas, Re and Sd give {derived} {unit}, {:.0} % apart. The simulation uses the latter; measure before you cut.",
            self.percent.abs()
        )
    }
}

/// A number as a builder would say it: three significant digits.
pub(super) fn three_digits(value: f64) -> String {
    let digits = 2 - value.abs().max(1e-12).log10().floor() as i32;
    format!("{value:.*}", digits.clamp(0, 3) as usize)
}

/// A woofer with everything known.
#[derive(Clone, Debug)]
pub struct Resolved {
    /// The six figures the simulation uses.
    pub ts: ThieleSmall,
    /// The coil; of two, both in parallel.
    pub coil: Coil,
    /// How many voice coils the woofer has.
    pub coils: u32,
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

impl Resolved {
    /// The same woofer in another air than its sheet speaks of; what the sheet says against itself stays.
    pub fn in_air(self, stated: &Air, air: &Air) -> Resolved {
        Resolved { ts: self.ts.in_air(stated, air), ..self }
    }
}

impl Woofer {
    /// Derives the rest and compares what was stated twice.
    ///
    /// The small-signal figures that are stated are used as they stand; Mms, Cms, Rms, Bl and Qts only fill
    /// gaps. `air` is the one the sheet speaks of. Where a sheet states more than it needs, the surplus is compared with what the six figures give.
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
        // two coils are worked with in parallel: half of each one's Re, the Bl of each
        let coils = f64::from(self.coils.count());
        let mut re = self.re_ohm.map(|r| r / coils);
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
            fill(&mut mms, both(fs, rms).zip(qms).map(|((f, r), q)| r * q / (TAU * f)));
            fill(&mut mms, both(fs, bl).zip(both(re, qes)).map(|((f, b), (r, q))| q * b * b / (TAU * f * r)));
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
        // Coils on one former share their flux: two in parallel have the inductance of each (perfect coupling).
        let semi = both(self.semi_inductance_k, self.semi_inductance_n);
        let coil = Coil {
            re: ts.re,
            le: if semi.is_some() { 0.0 } else { self.le_mh.unwrap_or(0.0) * 1e-3 },
            parallel: both(self.l2_mh, self.r2_ohm).map(|(l, r)| (l * 1e-3, r)).filter(|_| semi.is_none()),
            semi,
        };
        Ok(Resolved { ts, coil, coils: self.coils.count(), contradictions: self.contradictions(&ts, air) })
    }

    /// Compares each surplus figure with what the six give; more than 1 % is listed, worst first.
    fn contradictions(&self, ts: &ThieleSmall, air: &Air) -> Vec<Contradiction> {
        let re_each = ts.re * f64::from(self.coils.count());
        let checks = [
            ("fs_hz", self.fs_hz, ts.fs),
            ("re_ohm", self.re_ohm, re_each),
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

#[cfg(test)]
mod tests {
    use super::super::VoiceCoils;
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

    /// Worked examples of Small's, from memory: a 12 in driver of fs 19 Hz, Qms 3.7, Qes 0.35, Vas 540 dm3 has Qts 0.32
    /// and an efficiency of 1.02 % (*Closed-Box Loudspeaker Systems*, JAES 1973, part II); one of fs 33 Hz, Qms 2.0, Qes
    /// 0.45, Vas 57 dm3 has Qts 0.37 and 0.44 % (*Vented-Box Loudspeaker Systems*, JAES 1973, part IV). He takes c as
    /// 345 m/s and ρ as 1.18 kg/m³.
    #[test]
    fn published_examples() {
        let air = Air::given(345.0, 1.18);
        for (fs, qms, qes, vas, qts, percent) in
            [(19.0, 3.7, 0.35, 540.0, 0.32, 1.02), (33.0, 2.0, 0.45, 57.0, 0.37, 0.44)]
        {
            let sheet = Woofer { fs_hz: Some(fs), qms: Some(qms), qes: Some(qes), vas_l: Some(vas), ..worked() };
            let ts = sheet.resolve(&air).unwrap().ts;
            assert!((ts.qts() - qts).abs() < 0.005, "{}", ts.qts());
            assert!((ts.efficiency(&air) * 100.0 - percent).abs() < 0.01, "{}", ts.efficiency(&air));
        }
    }

    /// Two coils of 8 ohm are what one of 4 ohm is when they are paralleled: same Q, Bl of each.
    #[test]
    fn two_coils_are_one_of_half_the_resistance() {
        let air = Air::at(20.0, 101_325.0);
        let single = worked().resolve(&air).unwrap();
        let dual = Woofer { coils: VoiceCoils::Dual, re_ohm: Some(11.2), ..worked() };
        let both = dual.resolve(&air).unwrap();
        assert_eq!(both.ts, single.ts);
        // the motor of each coil: Qes = 2πfs·Mms·Re/Bl² with the two brakes added
        let sheet = Woofer { qes: None, bl_t_m: Some(single.ts.bl(&air)), ..dual };
        assert_relative_eq!(sheet.resolve(&air).unwrap().ts.qes, 0.40, max_relative = 1e-12);
    }

    /// A woofer keeps its masses, compliance and motor wherever it plays: at 60 kPa Vas goes as ρc², and a consistent sheet
    /// stays consistent.
    #[test]
    fn altitude_leaves_the_woofer_alone() {
        let (sheet_air, high) = (Air::at(20.0, 101_325.0), Air::at(5.0, 60_000.0));
        let ts = worked().resolve(&sheet_air).unwrap().ts;
        let stated = Woofer {
            mms_g: Some(ts.mms(&sheet_air) * 1e3),
            cms_mm_per_n: Some(ts.cms(&sheet_air) * 1e3),
            bl_t_m: Some(ts.bl(&sheet_air)),
            ..worked()
        };
        let there = stated.resolve(&sheet_air).unwrap().in_air(&sheet_air, &high);
        assert!(there.contradictions.is_empty());
        assert_relative_eq!(there.ts.mms(&high), ts.mms(&sheet_air), max_relative = 1e-12);
        assert_relative_eq!(there.ts.cms(&high), ts.cms(&sheet_air), max_relative = 1e-12);
        assert_relative_eq!(there.ts.bl(&high), ts.bl(&sheet_air), max_relative = 1e-12);
        assert_relative_eq!(there.ts.rms(&high), ts.rms(&sheet_air), max_relative = 1e-12);
        // ideal gas: ρc² is γ·p
        assert_relative_eq!(there.ts.vas / ts.vas, 60_000.0 / 101_325.0, max_relative = 1e-4);
    }

    #[test]
    fn what_is_missing_is_named() {
        let mut sheet = worked();
        sheet.sd_cm2 = None;
        sheet.qes = None;
        let error = sheet.resolve(&Air::at(20.0, 101_325.0)).unwrap_err();
        assert_eq!(error.missing, vec!["qes", "sd_cm2"]);
    }
}

//! A woofer's complete set, in the units of its sheet.

use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::Resolved;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// One woofer's complete set as simulated, before any mass is added.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct WooferResult {
    /// Resonance, Hz.
    pub fs_hz: f64,
    /// Mechanical Q.
    pub qms: f64,
    /// Electrical Q.
    pub qes: f64,
    /// Total Q.
    pub qts: f64,
    /// Vas, L.
    pub vas_l: f64,
    /// Coil resistance, Ω; of two coils, each.
    pub re_ohm: f64,
    /// Cone area, cm².
    pub sd_cm2: f64,
    /// Moving mass with air load, g.
    pub mms_g: f64,
    /// Compliance, mm/N.
    pub cms_mm_per_n: f64,
    /// Suspension loss, N·s/m.
    pub rms_n_s_per_m: f64,
    /// Force factor, T·m.
    pub bl_t_m: f64,
    /// Reference efficiency in half space, per cent.
    pub efficiency_percent: f64,
    /// Half-space level at 1 m with 2.83 V, dB.
    pub sensitivity_db: f64,
    /// Efficiency-bandwidth product fs/Qes, Hz.
    pub efficiency_bandwidth_hz: f64,
}

impl WooferResult {
    /// The complete set of a woofer, in the units and for the coil its sheet speaks of.
    pub fn of(woofer: &Resolved, air: &Air) -> WooferResult {
        let ts = &woofer.ts;
        WooferResult {
            fs_hz: ts.fs,
            qms: ts.qms,
            qes: ts.qes,
            qts: ts.qts(),
            vas_l: ts.vas * 1e3,
            re_ohm: ts.re * f64::from(woofer.coils),
            sd_cm2: ts.sd * 1e4,
            mms_g: ts.mms(air) * 1e3,
            cms_mm_per_n: ts.cms(air) * 1e3,
            rms_n_s_per_m: ts.rms(air),
            bl_t_m: ts.bl(air),
            efficiency_percent: ts.efficiency(air) * 100.0,
            sensitivity_db: ts.reference_level_db(air, 2.83),
            efficiency_bandwidth_hz: ts.ebp(),
        }
    }
}

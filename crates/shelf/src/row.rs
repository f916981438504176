//! A woofer as the shelf's table shows it: few figures, all derived ones filled in.

use crate::{Provenance, ShelfWoofer, sheet_air};
use oak_drum_acoustics::driver::VoiceCoils;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A line of the shelf.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct ShelfRow {
    /// Name.
    pub name: String,
    /// Maker.
    pub maker: String,
    /// Nominal size, in.
    pub size_in: Option<f64>,
    /// Voice coils.
    pub coils: u32,
    /// Nominal impedance of each coil, ohm.
    pub nominal_ohm: Option<f64>,
    /// Resonance, Hz.
    pub fs_hz: Option<f64>,
    /// Total Q.
    pub qts: Option<f64>,
    /// Electrical Q.
    pub qes: Option<f64>,
    /// Mechanical Q.
    pub qms: Option<f64>,
    /// Vas, L.
    pub vas_l: Option<f64>,
    /// Cone area, cm².
    pub sd_cm2: Option<f64>,
    /// Coil resistance, of two coils each, ohm.
    pub re_ohm: Option<f64>,
    /// Xmax, mm.
    pub xmax_mm: Option<f64>,
    /// Rated power, W.
    pub power_w: Option<f64>,
    /// Level at 1 m in half space with 2.83 V, dB, derived.
    pub sensitivity_db: Option<f64>,
    /// Efficiency-bandwidth product fs/Qes, Hz.
    pub ebp_hz: Option<f64>,
    /// Air the full excursion moves, Sd·Xmax, cm³.
    pub excursion_volume_cm3: Option<f64>,
    /// Depth behind the flange, mm.
    pub depth_mm: Option<f64>,
    /// Weight, kg.
    pub weight_kg: Option<f64>,
    /// Price.
    pub price: Option<f64>,
    /// Where the set in use comes from.
    pub provenance: Provenance,
    /// How many sets there are.
    pub sets: usize,
    /// The worst disagreement of the set in use with itself that matters, per cent; absent where there is none.
    pub doubt_percent: Option<f64>,
    /// Tags.
    pub tags: Vec<String>,
    /// Whether it is a favourite.
    pub favourite: bool,
}

/// The line of a woofer.
pub fn row(woofer: &ShelfWoofer) -> ShelfRow {
    let air = sheet_air();
    let sheet = woofer.in_use();
    let resolved = sheet.resolve(&air).ok();
    let ts = resolved.as_ref().map(|r| r.ts);
    let doubt = resolved.as_ref().and_then(|r| r.contradictions.iter().find(|c| c.matters()));
    ShelfRow {
        name: sheet.name.clone(),
        maker: sheet.maker.clone(),
        size_in: sheet.size_in,
        coils: if sheet.coils == VoiceCoils::Dual { 2 } else { 1 },
        nominal_ohm: sheet.nominal_ohm,
        fs_hz: ts.map(|t| t.fs),
        qts: ts.map(|t| t.qts()),
        qes: ts.map(|t| t.qes),
        qms: ts.map(|t| t.qms),
        vas_l: ts.map(|t| t.vas * 1e3),
        sd_cm2: ts.map(|t| t.sd * 1e4),
        re_ohm: ts.map(|t| t.re * f64::from(sheet.coils.count())),
        xmax_mm: sheet.xmax_mm,
        power_w: sheet.power_w,
        sensitivity_db: ts.map(|t| t.reference_level_db(&air, 2.83)),
        ebp_hz: ts.map(|t| t.ebp()),
        excursion_volume_cm3: ts.zip(sheet.xmax_mm).map(|(t, x)| t.sd * 1e4 * x * 0.1),
        depth_mm: sheet.depth_mm,
        weight_kg: sheet.weight_kg,
        price: sheet.price,
        provenance: woofer.sets.get(woofer.in_use as usize).map_or(Provenance::DataSheet, |s| s.provenance),
        sets: woofer.sets.len(),
        doubt_percent: doubt.map(|c| c.percent.abs()),
        tags: woofer.tags.clone(),
        favourite: woofer.favourite,
    }
}

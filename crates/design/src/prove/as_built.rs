//! A design frozen as it was built: what was cut stays as it was cut, so that one thing can be varied without the others following.

use crate::analysis::Analysis;
use crate::analysis::inside::chamber_of;
use oak_drum_acoustics::driver::{ThieleSmall, Woofer};
use oak_drum_document::{Change, Checked, apply};
use serde_json::{Value, json};

/// A design as it was built.
#[derive(Debug)]
pub struct AsBuilt {
    /// The frozen document.
    document: Value,
    /// It, worked out.
    pub analysis: Analysis,
    /// The figures of one woofer, in the air its sheet speaks of.
    pub woofer: ThieleSmall,
}

impl AsBuilt {
    /// Freezes a design; `None` where it cannot be worked out so (no known design).
    pub fn of(design: &Checked) -> Option<AsBuilt> {
        let whole = Analysis::of(design);
        let mut document = serde_json::to_value(&whole.design).ok()?;
        document["enclosure"] = serde_json::to_value(&whole.enclosure).ok()?;
        let object = document.as_object_mut()?;
        // sizes that would follow: they are what they are now
        object.remove("cabinet");
        object.remove("frequencies_hz");
        document["drive"] = json!({"kind": "voltage", "volts": 1.0});
        let woofer = design.woofer().ts;
        let mut changes: Vec<Change> = Vec::new();
        for port in &whole.wired.ports {
            let length_mm = port.realised.length * 1e3;
            let by = json!({"by": "length", "length_mm": length_mm});
            changes.push(Change::set(format!("/enclosure{}/sizing", port.pointer), by));
        }
        apply(&mut document, &changes);
        document["woofer"] = frozen(design, &woofer)?;
        let analysis = Analysis::of(&Checked::assembled(serde_json::from_value(document.clone()).ok()?)?);
        Some(AsBuilt { document, analysis, woofer })
    }

    /// The frozen design with changes; `None` where it is then no longer a design.
    pub fn with(&self, changes: &[Change]) -> Option<Analysis> {
        let mut document = self.document.clone();
        apply(&mut document, changes);
        Some(Analysis::of(&Checked::assembled(serde_json::from_value(document).ok()?)?))
    }

    /// The length (m) of a port and the length its air acts with, its ends counted.
    pub fn port_lengths(&self, index: usize) -> Option<(f64, f64)> {
        let report = self.analysis.wired.ports.get(index)?;
        let chamber = chamber_of(&self.analysis, report)?;
        let ends = report.port.ends(chamber.net).added();
        Some((report.realised.length, report.realised.length + ends))
    }
}

/// The woofer as the figures the network takes, so that nothing else of the sheet has a say; sizes and limits stay.
fn frozen(design: &Checked, ts: &ThieleSmall) -> Option<Value> {
    let coils = f64::from(design.woofer().coils);
    let sheet = Woofer {
        fs_hz: Some(ts.fs),
        qms: Some(ts.qms),
        qes: Some(ts.qes),
        qts: None,
        vas_l: Some(ts.vas * 1e3),
        re_ohm: Some(ts.re * coils),
        sd_cm2: Some(ts.sd * 1e4),
        mms_g: None,
        cms_mm_per_n: None,
        rms_n_s_per_m: None,
        bl_t_m: None,
        sensitivity_db: None,
        ..design.woofer.clone()
    };
    serde_json::to_value(sheet).ok()
}

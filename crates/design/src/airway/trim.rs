//! Trim: from the tuning that was measured to the length to cut or add, the volume to fill or the mass to change, with what
//! the measurement says about this port's ends kept.

use crate::airway::port_volume::realised_in;
use crate::analysis::Analysis;
use crate::analysis::inside::chamber_of;
use oak_drum_acoustics::families::{Chamber, PortReport, chamber_compliance};
use oak_drum_acoustics::port::{Port, Sizing};
use oak_drum_document::{Change, Checked};
use oak_drum_text::{Text, litres, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use std::f64::consts::TAU;

/// What was measured.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Trim")]
pub struct TrimWish {
    /// The port, or the radiators (JSON pointer into the design).
    pub pointer: String,
    /// The tuning that was measured.
    #[schemars(title = "Measured tuning", range(min = 4.0, max = 400.0), extend("x-unit" = "Hz"))]
    pub measured_hz: f64,
    /// The tuning that is wanted; absent is the design's.
    #[schemars(title = "Wanted", range(min = 5.0, max = 300.0), extend("x-unit" = "Hz"))]
    #[serde(default)]
    pub wanted_hz: Option<f64>,
    /// The length it was built with; absent is the design's.
    #[schemars(title = "Built with", range(min = 1.0, max = 6000.0), extend("x-unit" = "mm"))]
    #[serde(default)]
    pub built_mm: Option<f64>,
}

/// What to do about it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Trim {
    /// The tuning that was expected, Hz.
    pub expected_hz: f64,
    /// The tuning that is wanted, Hz.
    pub wanted_hz: f64,
    /// What the end corrections (of radiators: the moving mass) are multiplied by from now on.
    pub factor: f64,
    /// Whether the factor is so far from 1 that something else is the cause, and what.
    pub doubtful: Option<String>,
    /// Keeps what was measured: the design as built then shows the measured tuning.
    pub keep: Vec<Change>,
    /// Ways to the wanted tuning, the plainest first; each keeps what was measured too.
    pub ways: Vec<Way>,
}

/// One way to the wanted tuning.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Way {
    /// What to do, with its figure.
    pub title: Text,
    /// What it comes to.
    pub sentence: Text,
    /// The changes to the design.
    pub changes: Vec<Change>,
}

/// There is no port and no radiator at the place that was named.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct NothingToTrim;

impl std::fmt::Display for NothingToTrim {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "there is no port and no radiator here; for example /enclosure/port")
    }
}

impl std::error::Error for NothingToTrim {}

/// Works a measured tuning out.
///
/// # Errors
/// [`NothingToTrim`] where there is no port or radiator at the field `pointer`.
pub fn trim(design: &Checked, wish: &TrimWish) -> Result<Trim, NothingToTrim> {
    let analysis = Analysis::of(design);
    let port = analysis.wired.ports.iter().find(|p| format!("/enclosure{}", p.pointer) == wish.pointer);
    let trimmed = match port {
        Some(report) => chamber_of(&analysis, report).map(|chamber| trim_port(&analysis, report, chamber, wish)),
        None if wish.pointer == "/enclosure/radiators" => trim_radiators(&analysis, wish),
        None => None,
    };
    trimmed.ok_or(NothingToTrim)
}

fn doubt(factor: f64) -> Option<String> {
    let what =
        "a leak, a net volume other than assumed, or fill in the way is more likely than the ends: check those first";
    (!(0.4..=1.8).contains(&factor))
        .then(|| format!("The ends would have to count {factor:.2} times what theory gives them; {what}."))
}

fn trim_port(analysis: &Analysis, report: &PortReport, chamber: &Chamber, wish: &TrimWish) -> Trim {
    let air = &analysis.context.air;
    let port = &report.port;
    let at = &wish.pointer;
    let built = wish.built_mm.map_or(report.realised.length, |mm| mm * 1e-3);
    let (net, area) = (chamber.net, report.realised.area);
    let effective = |hz: f64, net: f64| {
        let omega = TAU * hz;
        area / (air.rho * omega * omega * chamber_compliance(air, net, &chamber.fill, omega))
    };
    // with the ends as theory has them
    let plain = Port { end_factor: None, ..port.clone() }.ends(net);
    let factor =
        ((effective(wish.measured_hz, net) - built + plain.flares) / (plain.inner + plain.outer)).clamp(-3.0, 5.0);
    let factor = (factor * 1e4).round() / 1e4;
    let expected = {
        let as_built = Port { sizing: Sizing::Length { length_mm: built * 1e3 }, ..port.clone() };
        realised_in(analysis, &as_built, chamber, net * 1e3).tuning
    };
    let wanted = wish.wanted_hz.unwrap_or(match port.sizing {
        Sizing::Tuning { tuning_hz } => tuning_hz,
        Sizing::Length { .. } => expected,
    });
    let calibrate = Change::set(format!("{at}/end_factor"), factor);
    let sizing = |by: Value| Change::set(format!("{at}/sizing"), by);
    let keep = vec![calibrate.clone(), sizing(json!({"by": "length", "length_mm": (built * 1e4).round() / 10.0}))];
    let measured = Port { end_factor: Some(factor), ..port.clone() };
    let length = effective(wanted, net) - measured.ends(net).added();
    let mut ways = Vec::new();
    let by_tuning = sizing(json!({"by": "tuning", "tuning_hz": wanted}));
    let cut = (built - length) * 1e3;
    if length > 0.0 {
        let title = if cut.abs() < 0.5 {
            "Leave it".to_owned()
        } else if cut > 0.0 {
            format!("Cut {cut:.0} off", cut = mm(cut))
        } else {
            format!("Add {:.0}", mm(-cut))
        };
        ways.push(Way {
            title: title.into(),
            sentence: format!(
                "{:.0} long in place of {:.0}; cut a little less, measure again, then glue.",
                mm(length * 1e3),
                mm(built * 1e3)
            )
            .into(),
            changes: vec![calibrate.clone(), by_tuning.clone()],
        });
    }
    // solid filler lowers the volume and raises the tuning; V·fb² holds for a fill that does not change
    let volume = net * (wish.measured_hz / wanted).powi(2);
    let filler = (net - volume) * 1e3;
    if filler.abs() > 0.05 && filler.abs() < net * 400.0 {
        let (title, sentence) = if filler > 0.0 {
            let sentence = format!("{:.1} of air remain; the port stays as it is.", litres(volume * 1e3));
            (format!("Fill {filler:.1} with something solid", filler = litres(filler)), sentence)
        } else {
            let sentence = "Take braces or solid parts out, or let the fill do some of it; the port stays as it is.";
            (format!("Make {:.1} more room", litres(-filler)), sentence.to_owned())
        };
        let litres = Change::set(format!("/enclosure{}", chamber.pointer), (volume * 1e5).round() / 100.0);
        let (title, sentence) = (title.into(), sentence.into());
        ways.push(Way { title, sentence, changes: keep.iter().cloned().chain([litres]).collect() });
    }
    Trim { expected_hz: expected, wanted_hz: wanted, factor, doubtful: doubt(factor), keep, ways }
}

/// The mass that a measured tuning means is put down to the radiators' own: their suspension stays, fs moves.
fn trim_radiators(analysis: &Analysis, wish: &TrimWish) -> Option<Trim> {
    let chamber = analysis.wired.chambers.first()?;
    let document = serde_json::to_value(&analysis.design.enclosure).ok()?;
    let number = |name: &str| document.pointer(&format!("/radiators/{name}")).and_then(Value::as_f64);
    let (count, fs, vas, sd) = (number("count")?, number("fs_hz")?, number("vas_l")?, number("sd_cm2")?);
    let added = number("added_mass_g").unwrap_or(0.0);
    let air = &analysis.context.air;
    let area = sd * 1e-4;
    // acoustic, of all together
    let own = vas * 1e-3 / analysis.context.stated.bulk_modulus() * count;
    let per_gram = 1e-3 / (area * area) / count;
    let mass_at = |hz: f64| {
        let omega = TAU * hz;
        (1.0 / chamber_compliance(air, chamber.net, &chamber.fill, omega) + 1.0 / own) / (omega * omega)
    };
    let stock = 1.0 / ((TAU * fs).powi(2) * own);
    let measured_stock = mass_at(wish.measured_hz) - added * per_gram;
    if measured_stock <= 0.0 {
        return None;
    }
    let factor = measured_stock / stock;
    let fresh_fs = 1.0 / (TAU * (measured_stock * own).sqrt());
    let expected = analysis.wired.figures.iter().find(|f| f.id == "fb_hz")?.value;
    let wanted = wish.wanted_hz.unwrap_or(expected);
    let grams = (mass_at(wanted) - measured_stock) / per_gram;
    let calibrate = Change::set("/enclosure/radiators/fs_hz", (fresh_fs * 1e4).round() / 1e4);
    let more = grams - added;
    let mut ways = Vec::new();
    if grams >= 0.0 {
        let title = match more {
            m if m.abs() < 0.5 => "Leave it".to_owned(),
            m if m > 0.0 => format!("Screw {m:.0} g more to each"),
            m => format!("Take {:.0} g off each", -m),
        };
        ways.push(Way {
            title: title.into(),
            sentence: format!(
                "{grams:.0} g on each in place of {added:.0} g; count the nut, and tighten: loose weights rattle."
            )
            .into(),
            changes: vec![
                calibrate.clone(),
                Change::set("/enclosure/radiators/added_mass_g", (grams * 10.0).round() / 10.0),
            ],
        });
    }
    let doubtful = (!(0.6..=1.6).contains(&factor)).then(|| {
        format!("The bare radiators would have to weigh {factor:.2} times what their sheet gives; check leaks, volume and sheet first.")
    });
    Some(Trim { expected_hz: expected, wanted_hz: wanted, factor, doubtful, keep: vec![calibrate], ways })
}

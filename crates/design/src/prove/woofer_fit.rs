//! A woofer from its impedances, held against the sheet its build was designed with: figures with ranges, what they do to the design,
//! and the changes that take them over.

use crate::analysis::Analysis;
use crate::prove::view::DrawnCurve;
use crate::woofer::in_box::{Shift, levels_between, shift};
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::Woofer;
use oak_drum_curves::curve::Curve;
use oak_drum_curves::fit::woofer::{CoilLaw, Given, LawTried, NoFit, Ranged, WooferFit, fit_woofer};
use oak_drum_document::{Change, Checked, Design, check};
use oak_drum_text::{Text, capital};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// What is known besides the curves.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Woofer to be fitted")]
pub struct WooferWish {
    /// By how much the scale may be off.
    #[schemars(title = "Scale off by", range(min = 0.0, max = 50.0), extend("x-unit" = "%"))]
    pub mass_percent: f64,
    /// By how much the known box's volume may be off.
    #[schemars(title = "Its air off by", range(min = 0.0, max = 50.0), extend("x-unit" = "%"))]
    pub volume_percent: f64,
    /// Area of the cone with half of the surround; the sheet's where absent.
    #[schemars(title = "Sd", range(min = 1.0, max = 10000.0), extend("x-unit" = "cm2"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sd_cm2: Option<f64>,
    /// By how much that may be off.
    #[schemars(title = "Sd off by", range(min = 0.0, max = 50.0), extend("x-unit" = "%"))]
    pub sd_percent: f64,
    /// Resistance of the coil as a meter reads it, leads off: held; fitted where absent.
    #[schemars(title = "Re by meter", range(min = 0.1, max = 200.0), extend("x-unit" = "ohm"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub re_ohm: Option<f64>,
    /// Temperature of the air.
    #[schemars(title = "Temperature", range(min = -30.0, max = 60.0), extend("x-unit" = "°C"))]
    pub temperature_c: f64,
}

impl Default for WooferWish {
    fn default() -> Self {
        WooferWish {
            mass_percent: 1.0,
            volume_percent: 2.0,
            sd_cm2: None,
            sd_percent: 2.0,
            re_ohm: None,
            temperature_c: 20.0,
        }
    }
}

/// The impedances of a woofer.
#[derive(Clone, Copy, Debug)]
pub struct Impedances<'a> {
    /// In free air.
    pub free: &'a Curve,
    /// With a mass (g) on the cone.
    pub mass: Option<(&'a Curve, f64)>,
    /// On a closed box of so much air (L).
    pub boxed: Option<(&'a Curve, f64)>,
    /// Another woofer, or this one at another time, in free air.
    pub other: Option<&'a Curve>,
}

/// A measured impedance with the fitted one.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FittedCurve {
    /// Where it was taken, in words.
    pub taken: String,
    /// As measured.
    pub measured: DrawnCurve,
    /// As fitted, at the points that were fitted.
    pub fitted: DrawnCurve,
    /// What is left at those, per cent of the impedance.
    pub left_percent: Vec<f64>,
}

/// What the measured figures do to the design.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Effect {
    /// Where the box falls to half power with the sheet's figures, Hz.
    pub planned_f3_hz: Option<f64>,
    /// With the measured ones.
    pub f3_hz: Option<f64>,
    /// Lower end of what the ranges leave open.
    pub f3_low_hz: Option<f64>,
    /// Upper end.
    pub f3_high_hz: Option<f64>,
    /// Where the level moves most from the lowest note to 200 Hz.
    pub shift: Option<Shift>,
    /// By how much the ranges leave the level open at most there, dB.
    pub open_db: f64,
    /// In a sentence.
    pub sentence: Text,
}

/// Another woofer beside the first.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Beside {
    /// Its figures.
    pub figures: Vec<Ranged>,
    /// How they differ, in a sentence.
    pub sentence: Text,
}

/// A woofer, fitted and held against the design.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct WooferProof {
    /// Figures with ranges.
    pub figures: Vec<Ranged>,
    /// The same figures of the design's sheet, where they are known.
    pub planned: Vec<Option<f64>>,
    /// The law of the coil that does best.
    pub law: CoilLaw,
    /// All that fitted, the best first.
    pub laws: Vec<LawTried>,
    /// What is left over, per cent of the impedance.
    pub left_percent: f64,
    /// Each curve with its fit.
    pub curves: Vec<FittedCurve>,
    /// What has to be said.
    pub remarks: Vec<Text>,
    /// The figures as a sheet has them, for a parameter set.
    pub sheet: Woofer,
    /// What the design takes over.
    pub changes: Vec<Change>,
    /// What they do to it; none where it cannot be worked out with them.
    pub effect: Option<Effect>,
    /// Another woofer beside it.
    pub other: Option<Beside>,
}

/// Fits a woofer and holds it against a design.
///
/// # Errors
/// [`NoFit`] with the reason in words.
pub fn woofer_proof(design: &Checked, curves: &Impedances, wish: &WooferWish) -> Result<WooferProof, NoFit> {
    let planned = design.woofer().ts;
    let air = Air::at(wish.temperature_c, 101_325.0);
    let share = |percent: f64| percent / 100.0;
    let sd = wish.sd_cm2.map_or(planned.sd, |s| s * 1e-4);
    let given = Given {
        free: curves.free,
        mass: curves.mass.map(|(c, g)| (c, g * 1e-3, share(wish.mass_percent))),
        boxed: curves.boxed.map(|(c, l)| (c, l * 1e-3, share(wish.volume_percent))),
        sd: Some((sd, share(wish.sd_percent))),
        re: wish.re_ohm,
        air,
        law: None,
    };
    let fit = fit_woofer(&given)?;
    let mut remarks: Vec<Text> = fit.remarks.iter().map(|r| capital(r).into()).collect();
    let sheet = sheet_of(design, &fit, sd, &mut remarks);
    let mut names = vec!["Woofer in free air".to_owned()];
    names.extend(curves.mass.map(|(_, g)| format!("With {g:.1} g on the cone")));
    names.extend(curves.boxed.map(|_| "On the known box".to_owned()));
    let measured = [Some(curves.free), curves.mass.map(|m| m.0), curves.boxed.map(|b| b.0)].into_iter().flatten();
    let drawn = names
        .into_iter()
        .zip(measured)
        .zip(fit.fitted.iter().zip(&fit.residuals))
        .map(|((taken, measured), (fitted, residual))| FittedCurve {
            taken,
            measured: DrawnCurve::of(measured),
            fitted: DrawnCurve::of(fitted),
            left_percent: residual
                .thinned(super::view::DRAWN)
                .value
                .iter()
                .map(|r| (r.norm() * 1e4).round() / 1e2)
                .collect(),
        })
        .collect();
    let other = curves.other.map(|curve| beside(&given, &fit, curve)).transpose()?;
    let effect = effect(design, &sheet, &fit);
    Ok(WooferProof {
        planned: fit.figures.iter().map(|f| planned_value(design, &f.id)).collect(),
        changes: changes(design, &sheet),
        law: fit.law,
        laws: fit.laws,
        left_percent: fit.rms * 100.0,
        figures: fit.figures,
        curves: drawn,
        remarks,
        sheet,
        effect,
        other,
    })
}

/// A figure of the design's sheet by its name, as it is worked with: of two coils, that of both in parallel.
fn planned_value(design: &Checked, id: &str) -> Option<f64> {
    let resolved = design.woofer();
    let (ts, coil) = (&resolved.ts, &resolved.coil);
    let air = Air::at(20.0, 101_325.0);
    match id {
        "fs_hz" => Some(ts.fs),
        "qes" => Some(ts.qes),
        "qms" => Some(ts.qms),
        "qts" => Some(ts.qts()),
        "re_ohm" => Some(ts.re),
        "vas_l" => Some(ts.vas * 1e3),
        "mms_g" => Some(ts.mms(&air) * 1e3),
        "bl_t_m" => Some(ts.bl(&air)),
        "cms_mm_per_n" => Some(ts.cms(&air) * 1e3),
        "le_mh" => Some(coil.le * 1e3).filter(|l| *l > 0.0),
        "l2_mh" => coil.parallel.map(|p| p.0 * 1e3),
        "r2_ohm" => coil.parallel.map(|p| p.1),
        "semi_inductance_k" => coil.semi.map(|s| s.0),
        "semi_inductance_n" => coil.semi.map(|s| s.1),
        _ => None,
    }
}

/// The measured figures as a sheet has them. Where neither mass nor box was measured, Vas follows from the moving mass of the design's
/// sheet, since a suspension changes and a cone does not.
fn sheet_of(design: &Checked, fit: &WooferFit, sd: f64, remarks: &mut Vec<Text>) -> Woofer {
    let resolved = design.woofer();
    let coils = f64::from(resolved.coils);
    let of = |id: &str| fit.figure(id).map(|f| f.value);
    let fs = of("fs_hz").unwrap_or(resolved.ts.fs);
    let vas = of("vas_l").unwrap_or_else(|| {
        remarks.push(
            "Vas needs a mass on the cone or a known box: here the sheet's moving mass and area are kept, and Vas follows from fs".into(),
        );
        resolved.ts.vas * 1e3 * (resolved.ts.fs / fs).powi(2)
    });
    if resolved.coils > 1 {
        remarks.push(
            "measured with both coils in parallel, as it is taken here; the sheet has the figures of each".into(),
        );
    }
    let same = |id: &str| of(id).map(tidy);
    Woofer {
        fs_hz: Some(tidy(fs)),
        qes: same("qes"),
        qms: same("qms"),
        vas_l: Some(tidy(vas)),
        // of two coils the sheet has the resistance of each; they share their flux, so that inductances are those of both
        re_ohm: of("re_ohm").map(|v| tidy(v * coils)),
        sd_cm2: Some(tidy(sd * 1e4)),
        le_mh: same("le_mh"),
        l2_mh: same("l2_mh"),
        r2_ohm: same("r2_ohm"),
        semi_inductance_k: same("semi_inductance_k"),
        semi_inductance_n: same("semi_inductance_n"),
        ..Woofer::default()
    }
}

/// Four digits: more than any range leaves.
fn tidy(value: f64) -> f64 {
    if value == 0.0 {
        return 0.0;
    }
    let scale = 10f64.powf(3.0 - value.abs().log10().floor());
    (value * scale).round() / scale
}

/// What makes a design's sheet this one: name, limits and frame stay.
fn changes(design: &Checked, sheet: &Woofer) -> Vec<Change> {
    let as_object = |woofer: &Woofer| match serde_json::to_value(woofer) {
        Ok(Value::Object(map)) => map,
        _ => serde_json::Map::new(),
    };
    let (now, then) = (as_object(&design.woofer), as_object(&design.woofer.with_figures(sheet)));
    let gone = now.keys().filter(|k| !then.contains_key(*k)).map(|k| Change::set(format!("/woofer/{k}"), Value::Null));
    let set = then.iter().filter(|(k, v)| now.get(*k) != Some(v));
    gone.chain(set.map(|(k, v)| Change::set(format!("/woofer/{k}"), v.clone()))).collect()
}

/// A design with a sheet's figures, worked out.
fn with(design: &Checked, sheet: &Woofer) -> Option<Analysis> {
    let woofer = design.woofer.with_figures(sheet);
    check(Design { woofer, ..Design::clone(design) }).ok().as_ref().map(Analysis::of)
}

/// What the figures and their ranges do: each is moved by its range alone, and what that does is added as squares (they are taken for
/// independent of one another, which Qes, Qms and Re are not quite).
fn effect(design: &Checked, sheet: &Woofer, fit: &WooferFit) -> Option<Effect> {
    let before = Analysis::of(design);
    let now = with(design, sheet)?;
    let f3 = |a: &Analysis| a.edges().edges[0];
    let level = levels_between(&now);
    let (mut f3_open, mut open) = (0.0, vec![0.0; level.len()]);
    for figure in &fit.figures {
        let mut moved = sheet.clone();
        let by = figure.high / figure.value;
        let field = match figure.id.as_str() {
            "fs_hz" => &mut moved.fs_hz,
            "qes" => &mut moved.qes,
            "qms" => &mut moved.qms,
            "vas_l" => &mut moved.vas_l,
            "re_ohm" => &mut moved.re_ohm,
            _ => continue,
        };
        *field = field.map(|v| v * by);
        let Some(other) = with(design, &moved) else { continue };
        if let (Some(a), Some(b)) = (f3(&now), f3(&other)) {
            f3_open += (b / a).ln().powi(2);
        }
        for (sum, (a, b)) in open.iter_mut().zip(level.iter().zip(levels_between(&other))) {
            *sum += (b - a).powi(2);
        }
    }
    let open_db = open.iter().copied().fold(0.0, f64::max).sqrt();
    let (by, f3_hz) = (f3_open.sqrt().exp(), f3(&now));
    let moved = shift(&now, &before);
    let level = moved.map(|shift| {
        let by = if shift.by_db.abs() < 0.05 {
            "the level stays as it was".to_owned()
        } else {
            format!("the level moves by {:+.1} dB at most, at {:.0} Hz", shift.by_db, shift.at_hz)
        };
        format!("{by}; the ranges leave {open_db:.1} dB of it open.")
    });
    let sentence = match (level, f3(&before), f3_hz) {
        (Some(level), Some(was), Some(is)) => {
            format!("With these figures the box is 3 dB down at {is:.1} Hz instead of {was:.1} Hz; {level}")
        }
        (Some(level), ..) => format!("With these figures {level}"),
        _ => "With these figures the design cannot be compared.".into(),
    };
    Some(Effect {
        planned_f3_hz: f3(&before),
        f3_hz,
        f3_low_hz: f3_hz.map(|f| f / by),
        f3_high_hz: f3_hz.map(|f| f * by),
        shift: moved,
        open_db,
        sentence: sentence.into(),
    })
}

/// Another woofer in free air beside the first, by the same law of the coil.
fn beside(given: &Given, first: &WooferFit, curve: &Curve) -> Result<Beside, NoFit> {
    let other = fit_woofer(&Given { free: curve, mass: None, boxed: None, law: Some(first.law), ..given.clone() })?;
    let apart = |id: &str| {
        let (a, b) = (first.figure(id)?, other.figure(id)?);
        Some((b.value / a.value - 1.0, a.high < b.low || b.high < a.low))
    };
    let told: Vec<String> = [("fs_hz", "fs"), ("qts", "Qts"), ("re_ohm", "Re")]
        .iter()
        .filter_map(|(id, name)| apart(id).map(|(by, plain)| (name, by, plain)))
        .map(|(name, by, plain)| {
            let plain = if plain { "" } else { " (within the ranges)" };
            format!("{name} {:+.1} %{plain}", by * 100.0)
        })
        .collect();
    let most = ["fs_hz", "qts"].iter().filter_map(|id| apart(id)).map(|(by, _)| by.abs()).fold(0.0, f64::max);
    // common practice: samples of one model lie within a tenth of one another
    let verdict = if most < 0.1 {
        "close enough to share a box (within a tenth: common practice)"
    } else {
        "too far apart to share one air: give each its own chamber, or exchange one"
    };
    Ok(Beside {
        figures: other.figures,
        sentence: format!("Against the first: {}; {verdict}.", told.join(", ")).into(),
    })
}

//! The station's one answer: each measurement beside what the model says, what explains the difference, what to do.

use crate::analysis::Analysis;
use crate::prove::as_built::AsBuilt;
use crate::prove::bench::safe_volts;
use crate::prove::box_fit::{BoxFit, fit_box};
use crate::prove::break_in::{BreakIn, break_in};
use crate::prove::causes::{Causes, causes};
use crate::prove::comparison::{Deviation, deviation};
use crate::prove::cures::{Cure, changed, cures};
use crate::prove::evidence::{Evidence, fits_place, trusted_to};
use crate::prove::openings::{Openings, openings};
use crate::prove::predicted::{applies, face, predicted};
use crate::prove::ripples::{Ripple, ripples};
use crate::prove::unknown::Unknown;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_curves::about::{About, Taken};
use oak_drum_curves::curve::Curve;
use oak_drum_curves::fit::features::Turn;
use oak_drum_curves::fit::woofer::Ranged;
use oak_drum_curves::quality::{CurveDoubt, doubts};
use oak_drum_document::Checked;
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Most points of a curve that is drawn.
pub const DRAWN: usize = 400;

/// A curve to be drawn.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct DrawnCurve {
    /// Frequencies, Hz.
    pub frequency_hz: Vec<f64>,
    /// dB, or Ω.
    pub magnitude: Vec<f64>,
    /// Degrees, where known.
    pub phase_deg: Option<Vec<f64>>,
    /// Signal over noise, dB, where known.
    pub snr_db: Option<Vec<f64>>,
}

impl DrawnCurve {
    /// A curve thinned so that it can be drawn, to five digits.
    pub fn of(curve: &Curve) -> DrawnCurve {
        let thin = curve.thinned(DRAWN);
        let short = |list: Vec<f64>| list.into_iter().map(|x| (x * 1e4).round() / 1e4).collect::<Vec<_>>();
        DrawnCurve {
            magnitude: short(thin.magnitude()),
            phase_deg: thin.phase_deg().map(short),
            snr_db: (!thin.snr_db.is_empty()).then(|| short(thin.snr_db.clone())),
            frequency_hz: short(thin.frequency),
        }
    }
}

/// A measurement as it comes to the station.
#[derive(Clone, Debug)]
pub struct Measured {
    /// Its key.
    pub id: String,
    /// How it was taken.
    pub about: About,
    /// Its curve, unsmoothed.
    pub curve: Curve,
}

/// A measurement beside what the model says.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Proved {
    /// Its key.
    pub id: String,
    /// What the model says, offset not taken off; none where the design has nothing of the kind.
    pub predicted: Option<DrawnCurve>,
    /// How far apart they are.
    pub deviation: Option<Deviation>,
    /// What it is worth.
    pub doubts: Vec<CurveDoubt>,
    /// In a sentence.
    pub sentence: Text,
}

/// A box as fitted.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FittedBox {
    /// Key of the measurement it was fitted to.
    pub id: String,
    /// Figures with ranges.
    pub figures: Vec<Ranged>,
    /// The same figures of the design, where it has them.
    pub expected: Vec<Option<f64>>,
    /// Peaks and dips of the fitted impedance.
    pub turns: Vec<Turn>,
    /// Those of the design.
    pub expected_turns: Vec<Turn>,
    /// What is left over, per cent of the impedance.
    pub left_percent: f64,
    /// The fitted impedance.
    pub fitted: DrawnCurve,
    /// Standing waves found in it.
    pub ripples: Vec<Ripple>,
    /// What has to be said.
    pub remarks: Vec<Text>,
}

/// A cure with what the model then says.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Offered {
    /// What is done.
    #[serde(flatten)]
    pub cure: Cure,
    /// What each measurement would then show, in their order; none where the design has nothing of the kind.
    pub then: Vec<Option<DrawnCurve>>,
}

/// The station's answer.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Proof {
    /// Each measurement.
    pub measured: Vec<Proved>,
    /// What explains the difference.
    pub causes: Option<Causes>,
    /// The box, fitted to the first impedance at its terminals.
    pub fitted_box: Option<FittedBox>,
    /// Why there is no fit, where there is an impedance.
    pub no_fit: Option<String>,
    /// What the near fields of cone and port say together.
    pub openings: Option<Openings>,
    /// What to do.
    pub cures: Vec<Offered>,
}

/// Holds measurements against a design, over a band (Hz) where one is stated.
///
/// The box is fitted to its impedance with the woofer held, or with it where `woofer_too` says so.
pub fn prove(design: &Checked, list: &[Measured], band: Option<(f64, f64)>, woofer_too: bool) -> Option<Proof> {
    let built = AsBuilt::of(design)?;
    let whole = Analysis::of(design);
    let mut measured = Vec::new();
    let mut evidence = Vec::new();
    for one in list {
        let (proved, ready) = held_against(&built, &whole, one, band);
        measured.push(proved);
        evidence.extend(ready);
    }
    let impedance = evidence.iter().find(|e| e.taken == Taken::InBox {});
    let mut no_fit = None;
    let fitted = impedance.and_then(|e| match fit_box(&built, e, woofer_too) {
        Ok(fit) => Some((e, fit)),
        Err(why) => {
            no_fit = Some(why.to_string());
            None
        }
    });
    let causes = if evidence.is_empty() { None } else { causes(&built, &evidence) };
    let values: Vec<(Unknown, f64)> =
        causes.as_ref().map_or_else(Vec::new, |c| c.together.iter().map(|x| (x.unknown, x.value)).collect());
    let fitted_box = fitted.map(|(e, fit)| told(&built, &whole, e, fit));
    let offered = if values.is_empty() { Vec::new() } else { cures(design, &built, &values) };
    let cures = offered
        .into_iter()
        .map(|cure| {
            let after = changed(design, &cure.changes).filter(|_| !cure.changes.is_empty()).map(|d| Analysis::of(&d));
            let then = list
                .iter()
                .map(|one| {
                    let after = after.as_ref()?;
                    said(after, &one.about, &one.curve).map(|c| DrawnCurve::of(&c))
                })
                .collect();
            Offered { cure, then }
        })
        .collect();
    let near = |taken: Taken| list.iter().find(|m| m.about.taken == taken).map(|m| &m.curve);
    let openings = openings(&whole, near(Taken::NearCone {}), near(Taken::NearPort {}));
    Some(Proof { measured, causes, fitted_box, no_fit, openings, cures })
}

/// Each measurement beside what the model says, and nothing else: who only prints them need not wait for their causes.
pub fn compared(design: &Checked, list: &[Measured]) -> Option<Vec<Proved>> {
    let built = AsBuilt::of(design)?;
    let whole = Analysis::of(design);
    Some(list.iter().map(|one| held_against(&built, &whole, one, None).0).collect())
}

/// What a model says of a measurement, at its drive.
fn said(model: &Analysis, about: &About, curve: &Curve) -> Option<Curve> {
    let (from, to) = (curve.frequency.first()?, curve.frequency.last()?);
    let grid = log_frequencies(from.max(1.0), to.min(20_000.0).max(from.max(1.0) * 1.01), DRAWN);
    let made = predicted(model, &about.taken, about.filtered, &grid)?;
    let gain = about.volts.filter(|_| !about.taken.is_impedance()).map_or(1.0, |v| v / model.context.source.volts);
    Some(made.mapped(|_, v| v * gain))
}

fn held_against(
    built: &AsBuilt,
    whole: &Analysis,
    one: &Measured,
    band: Option<(f64, f64)>,
) -> (Proved, Option<Evidence>) {
    let (about, taken) = (&one.about, &one.about.taken);
    let area = face(&built.analysis, taken).map(|f| f.area);
    let doubts = doubts(&one.curve, taken, area, &built.analysis.context.air);
    let nothing = |sentence: &str| {
        (
            Proved {
                id: one.id.clone(),
                predicted: None,
                deviation: None,
                doubts: doubts.clone(),
                sentence: sentence.into(),
            },
            None,
        )
    };
    if !fits_place(&one.curve, taken) {
        let what = if taken.is_impedance() { "levels" } else { "an impedance" };
        return nothing(&format!("These are {what}, which are not measured there: say where it was taken."));
    }
    if !applies(&built.analysis, taken) {
        return nothing("This design has nothing that could be measured there.");
    }
    let Some(model) = said(whole, about, &one.curve) else {
        return nothing("The model has no such curve.");
    };
    let mut ready = Evidence::of(&built.analysis, &one.id, *taken, one.curve.clone(), band);
    ready.filtered = about.filtered;
    ready.absolute = about.absolute && about.volts.is_some();
    ready.volts = about.volts;
    let (from, to) = band.unwrap_or((0.0, trusted_to(&built.analysis, taken)));
    let heard = ready.fitted.len() >= 10;
    let against = deviation(&ready.fitted, &model, from, to);
    let sentence = match &against {
        Some(d) if taken.is_impedance() || ready.absolute => format!(
            "{:.1} dB rms from {:.0} to {:.0} Hz, at worst {:+.1} dB at {:.0} Hz.",
            d.rms_with_offset_db,
            d.from_hz,
            d.to_hz,
            d.worst_db + d.offset_db,
            d.worst_hz
        ),
        Some(d) => format!(
            "{:.1} dB rms from {:.0} to {:.0} Hz once {:+.1} dB are taken off, at worst {:+.1} dB at {:.0} Hz.",
            d.rms_db, d.from_hz, d.to_hz, d.offset_db, d.worst_db, d.worst_hz
        ),
        None => format!("Nothing of it lies between {from:.0} and {to:.0} Hz, where the model may be held against it."),
    };
    let proved = Proved {
        id: one.id.clone(),
        predicted: Some(DrawnCurve::of(&model)),
        deviation: against,
        doubts,
        sentence: sentence.into(),
    };
    (proved, heard.then_some(ready))
}

fn told(built: &AsBuilt, whole: &Analysis, evidence: &Evidence, fit: BoxFit) -> FittedBox {
    let expected = fit
        .figures
        .iter()
        .map(|figure| match figure.id.as_str() {
            "net_volume_l" => built.analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty()).map(|c| c.net * 1e3),
            "leak_q" => Unknown::Leak.start(built),
            id => built.analysis.wired.figures.iter().find(|f| f.id == id).map(|f| f.value),
        })
        .collect();
    let above = trusted_to(&built.analysis, &evidence.taken);
    FittedBox {
        id: evidence.name.clone(),
        expected,
        left_percent: fit.rms * 100.0,
        ripples: ripples(whole, &evidence.whole, &fit.fitted, above),
        fitted: DrawnCurve::of(&fit.fitted),
        figures: fit.figures,
        turns: fit.turns,
        expected_turns: fit.expected_turns,
        remarks: fit.remarks,
    }
}

/// A place where something can be measured at a build.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Place {
    /// Which.
    pub taken: Taken,
    /// What it is called.
    pub title: String,
    /// What it tells.
    pub tells: String,
    /// What to do, step by step.
    pub steps: Vec<Text>,
}

/// How a build is measured.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct MeasuringPlan {
    /// Places worth measuring at, the first one first.
    pub places: Vec<Place>,
    /// A safe level to begin with, V rms at the terminals.
    pub safe_volts: f64,
    /// What sets it.
    pub safe_why: String,
    /// What to mind.
    pub cautions: Vec<Text>,
    /// How the woofer is broken in; none where its Xmax is not stated.
    pub break_in: Option<BreakIn>,
}

/// How a build is measured: where, with what, how loud.
pub fn plan(design: &Checked) -> MeasuringPlan {
    let analysis = Analysis::of(design);
    let (safe_volts, safe_why) = safe_volts(&analysis, 5.0, 1000.0);
    // two thirds of the cone's own mass, and a box that raises the resonance by half: both plain to see
    let (ts, air) = (&analysis.context.array.ts, &analysis.context.air);
    let round = |x: f64| if x < 10.0 { x.round().max(1.0) } else { (x / 5.0).round() * 5.0 };
    let (mass, volume) = (round(ts.mms(air) * 1e3 * 2.0 / 3.0), round(ts.vas * 1e3 / 1.25));
    let all = [
        (
            Taken::InBox {},
            "Box and woofer: tuning, volume, leaks, standing waves. It needs no microphone and no quiet room.",
        ),
        (Taken::NearCone {}, "What the cone does without the room, and the notch where a port takes over."),
        (Taken::NearPort {}, "What the port does: its tuning, its pipe resonances, noise."),
        (Taken::NearRadiator {}, "What the passive radiators do."),
        (Taken::InFront { distance_m: 1.0 }, "The whole box; out of doors, since a room is in it below some 300 Hz."),
        (
            Taken::AtSeat {},
            "What arrives where somebody sits: box and room. It is held against the main seat of the Room station, if there is one.",
        ),
        (Taken::FreeAir {}, "The woofer's own figures, before it is built in."),
        (Taken::AddedMass { mass_g: mass }, "With the curve in free air: its moving mass, Bl and Vas."),
        (Taken::KnownBox { volume_l: volume }, "With the curve in free air: its Vas, whatever the cone's area."),
    ];
    let places = all
        .into_iter()
        .filter(|(taken, _)| applies(&analysis, taken))
        .map(|(taken, tells)| Place {
            taken,
            title: oak_drum_text::capital(taken.words()),
            tells: tells.into(),
            steps: steps(&analysis, &taken).into_iter().map(Text::from).collect(),
        })
        .collect();
    let cautions = [
        "Ears: begin with the volume down. A sweep near the tuning is louder than it seems, and a rattling room hides it.",
        "Mains: a measuring lead goes to the speaker terminals, never into an amplifier that is open. Many amplifiers must not have either output terminal joined to another ground: if in doubt, ask who services it.",
        "Look first at what the source itself puts out: a receiver's low cut or an equaliser left on is measured as if it were the box.",
    ];
    MeasuringPlan {
        places,
        safe_volts,
        safe_why: safe_why.into(),
        cautions: cautions.map(Text::from).into(),
        break_in: break_in(&analysis),
    }
}

fn steps(analysis: &Analysis, taken: &Taken) -> Vec<String> {
    use oak_drum_text::mm;
    let radius = face(analysis, taken).map(|f| (f.area / std::f64::consts::PI).sqrt());
    let near = radius.map_or(10.0, |a| (a * 1e3 * 0.1).clamp(5.0, 20.0));
    let to =
        face(analysis, taken).map(|f| oak_drum_curves::process::near_field::valid_to(f.area, &analysis.context.air));
    match taken {
        Taken::InBox {} | Taken::FreeAir {} | Taken::AddedMass { .. } | Taken::KnownBox { .. } => {
            let re = analysis.context.array.resistance();
            let mut list = vec![
                format!("A resistor of about {:.0} ohm in line from the amplifier's output to the woofer's plus terminal.", (re * re * 8.0).sqrt()),
                "Sound card input 1 before the resistor, input 2 across the woofer; both grounds at the minus terminal.".into(),
                "Turn it down to less than a volt. Join the clips first: what is read then is the leads', and is taken off.".into(),
            ];
            if matches!(taken, Taken::FreeAir {}) {
                list.push("Hold the woofer upright and clear of walls and bench, so that nothing is near the cone on either side.".into());
            }
            if let Taken::AddedMass { .. } = taken {
                list.push("Putty or magnets in pairs about the dust cap, weighed to a part in a hundred, where nothing can rattle or fall off; same drive as without.".into());
            }
            if let Taken::KnownBox { .. } = taken {
                list.push("A stiff, tight box with nothing in it, its air measured with what the woofer takes off; screw the woofer down, or turn it round on the hole and press it tight.".into());
            }
            list
        }
        Taken::NearCone {} | Taken::NearRadiator {} => vec![
            format!(
                "Microphone on the axis, {:.0} from the middle of the cone where it does not touch at full stroke.",
                mm(near)
            ),
            format!("It speaks up to {:.0} Hz and needs no quiet room.", to.unwrap_or(300.0)),
            "Of several, one at a time; the others keep playing.".into(),
        ],
        Taken::NearPort {} => vec![
            "Microphone in the plane of the port's mouth, in its middle, out of the wind: a foam ball helps.".into(),
            format!(
                "It speaks up to {:.0} Hz, and only where it is within 10 dB of its top: elsewhere it hears the cone.",
                to.unwrap_or(300.0)
            ),
        ],
        Taken::InFront { .. } => vec![
            "Out of doors, box and microphone on the ground, nothing large within five times their distance.".into(),
            "Note the distance; the level goes with it.".into(),
        ],
        Taken::AtSeat {} => {
            vec!["Microphone where the ears are, everything else as it is when one listens.".into()]
        }
    }
}

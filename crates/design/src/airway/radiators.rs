//! Passive radiators: the size needed for what they must displace, the weights, what is to spare.

use crate::airway::speed::frequencies;
use crate::analysis::Analysis;
use oak_drum_acoustics::outputs::Curves;
use oak_drum_document::Change;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How the radiators are sized.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RadiatorDesign {
    /// What all together move, one way, at the drive chosen, cm³.
    pub at_drive_cm3: f64,
    /// What they would have to move at the most that coil, cone and amplifier allow, cm³; absent where none is stated.
    pub needed_cm3: Option<f64>,
    /// Where that is, Hz.
    pub at_hz: f64,
    /// What they can move, cm³; absent where their excursion is not stated.
    pub can_cm3: Option<f64>,
    /// How many like these are needed.
    pub count_needed: Option<u32>,
    /// Usual sizes with the excursion each would need.
    pub sizes: Vec<RadiatorSize>,
    /// The weights at hand with the tuning each gives; the one screwed on now is among them where it is a step.
    pub weights: Vec<Weight>,
}

/// A usual size of radiator.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RadiatorSize {
    /// Its nominal size, inches.
    pub size_in: f64,
    /// Its usual moving area, cm² (common practice).
    pub sd_cm2: f64,
    /// Excursion one way that one of it would need, mm.
    pub excursion_of_one_mm: f64,
    /// Excursion one way that each of two would need, mm.
    pub excursion_of_two_mm: f64,
    /// Moving mass, weights counted, of one at this tuning, g.
    pub mass_of_one_g: f64,
}

/// Weights on a radiator.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Weight {
    /// In words.
    pub title: String,
    /// Mass, nut counted, g.
    pub mass_g: f64,
    /// The tuning it gives, Hz.
    pub tuning_hz: f64,
    /// Excursion at the drive chosen, mm.
    pub excursion_mm: f64,
    /// What it changes in the design.
    pub changes: Vec<Change>,
}

/// Usual moving areas by nominal size (common practice).
const SIZES: [(f64, f64); 6] =
    [(6.5, 133.0), (8.0, 220.0), (10.0, 350.0), (12.0, 520.0), (15.0, 850.0), (18.0, 1200.0)];

/// Sizes the radiators of a design; `None` in other families.
pub fn radiators(analysis: &Analysis) -> Option<RadiatorDesign> {
    let document = serde_json::to_value(&analysis.design.enclosure).ok()?;
    let given = document.get("radiators")?;
    let number = |name: &str| given.get(name).and_then(serde_json::Value::as_f64);
    let (count, area) = (number("count")?, number("sd_cm2")?);
    let frequencies = frequencies(analysis, 96);
    // their own limit taken out of the reckoning
    let free = analysis
        .at_frequencies(&[Change::set("/enclosure/radiators/xmax_mm", serde_json::Value::Null)], &frequencies)?;
    let largest = |of: &dyn Fn(&Curves, usize) -> f64| {
        (0..frequencies.len())
            .map(|i| (of(free.curves(), i), frequencies[i]))
            .fold((0.0, frequencies[0]), |a, b| if b.0 > a.0 { b } else { a })
    };
    let limits = analysis.conditions.limits;
    let limited = limits.heat.is_some() || limits.excursion.is_some() || limits.volts.is_some();
    let volume = |excursion: f64| excursion * area * 1e-4 * count * 1e6;
    let at_drive = largest(&|c, i| c.radiator_excursion[i]);
    let at_most = limited.then(|| {
        largest(&|c, i| {
            let gain = (c.max_level_db[i] - c.level_db[i]) / 20.0;
            if gain.is_finite() { c.radiator_excursion[i] * 10f64.powf(gain) } else { 0.0 }
        })
    });
    let needed = at_most.map(|(excursion, _)| volume(excursion));
    let can = number("xmax_mm").map(|x| volume(x * 1e-3));
    let wanted = needed.unwrap_or(volume(at_drive.0));
    let mass = analysis.wired.figures.iter().find(|f| f.id == "radiator_mass_g").map_or(0.0, |f| f.value);
    let weights = analysis
        .wired
        .steps
        .iter()
        .filter_map(|step| {
            let changes = vec![Change::set(format!("/enclosure{}", step.pointer), step.value)];
            let tried = analysis.at_frequencies(&changes, &frequencies)?;
            let excursion = tried.curves().radiator_excursion.iter().copied().fold(0.0, f64::max);
            Some(Weight {
                title: step.title.clone(),
                mass_g: step.value,
                tuning_hz: step.tuning,
                excursion_mm: excursion * 1e3,
                changes,
            })
        })
        .collect();
    Some(RadiatorDesign {
        at_drive_cm3: volume(at_drive.0),
        needed_cm3: needed,
        at_hz: at_most.map_or(at_drive.1, |m| m.1),
        can_cm3: can,
        count_needed: can.filter(|c| *c > 0.0).map(|can| (wanted / (can / count)).ceil().max(1.0) as u32),
        sizes: SIZES
            .iter()
            .map(|&(size_in, sd)| RadiatorSize {
                size_in,
                sd_cm2: sd,
                excursion_of_one_mm: wanted / sd * 10.0,
                excursion_of_two_mm: wanted / sd * 5.0,
                // the same acoustic mass on another area: M·S² of one in place of all
                mass_of_one_g: mass / count * (sd / area).powi(2),
            })
            .collect(),
        weights,
    })
}

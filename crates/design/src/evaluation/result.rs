//! What an evaluation says: figures, curves, ports, ledger and findings.

use crate::analysis::ledger::Ledger;
use crate::drive::power::DriveSummary;
use crate::enclosure::figures::{Compared, Passband};
use crate::enclosure::handles::Handle;
use crate::enclosure::section::SectionResult;
use crate::finding::Finding;
use crate::woofer::arrangement::ArrayResult;
use crate::woofer::sheet::WooferResult;
use oak_drum_acoustics::driver::{Contradiction, Indication};
use oak_drum_acoustics::families::inside::Inside;
use oak_drum_acoustics::families::{Figure, Mark};
use oak_drum_acoustics::outputs::LimitingFactor;
use schemars::JsonSchema;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::{Number, Value};

/// The result of evaluating a design. Arrays have one entry per frequency, in the order asked for.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
#[schemars(title = "Oak Drum result")]
pub struct Evaluation {
    /// Always `oak-drum-result`.
    #[schemars(extend("const" = "oak-drum-result"))]
    pub format: String,
    /// Version of this format.
    #[schemars(extend("const" = 3))]
    pub version: u32,
    /// The conditions everything was computed under.
    pub conditions: ResultConditions,
    /// The figures that sum the design up.
    pub summary: Summary,
    /// The curves.
    pub curves: CurveArrays,
    /// The ports, worked out.
    pub ports: Vec<PortResult>,
    /// What is pulled along the frequency axis.
    pub handles: Vec<Handle>,
    /// The box in section; absent of those that have no chamber or several, or a path.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub section: Option<SectionResult>,
    /// The line or horn as it was computed; absent in other families.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub path: Option<PathResult>,
    /// The air ledger; absent without a cabinet.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ledger: Option<Ledger>,
    /// Findings, worst first; absent where they were not asked for.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub findings: Option<Vec<Finding>>,
}

/// The conditions a result holds under.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct ResultConditions {
    /// Voltage of the amplifier behind its resistance with every filter at gain 1, V rms.
    pub volts: f64,
    /// Distance, m.
    pub distance_m: f64,
    /// Solid angle, sr.
    pub solid_angle_sr: f64,
    /// Speed of sound, m/s.
    pub speed_of_sound_m_per_s: f64,
    /// Density of the air, kg/m³.
    pub density_kg_per_m3: f64,
    /// Resistance of source and leads, Ω.
    pub source_resistance_ohm: f64,
}

/// Figures that sum a design up.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct Summary {
    /// The family's own figures, the most telling first.
    pub figures: Vec<Figure>,
    /// Level the band edges are measured against, dB.
    pub reference_level_db: f64,
    /// Highest level below five times fs, dB.
    pub peak_level_db: f64,
    /// Where that is, Hz.
    pub peak_frequency_hz: f64,
    /// Highest frequency below the passband at half power (3.01 dB under the reference), Hz.
    pub f3_hz: Option<f64>,
    /// The same 6 dB under the reference, Hz.
    pub f6_hz: Option<f64>,
    /// The same 10 dB under the reference, Hz.
    pub f10_hz: Option<f64>,
    /// The woofer as it is simulated.
    pub woofer: WooferResult,
    /// Where the woofer's sheet contradicts itself by more than 1 %, worst first.
    pub contradictions: Vec<Contradiction>,
    /// What custom reads out of fs, Qts and fs/Qes.
    pub indications: Vec<Indication>,
    /// Wiring, isobaric pairs and added mass, worked out.
    pub array: ArrayResult,
    /// The chambers, the one behind the cone first.
    pub chambers: Vec<ChamberResult>,
    /// What is worth seeing on the frequency axis.
    pub marks: Vec<Mark>,
    /// Values at hand for a field with the tuning each gives (weights on a passive radiator).
    pub steps: Vec<StepResult>,
    /// Edges, gain and ripple of a box that plays in a band; absent in others.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub passband: Option<Passband>,
    /// Excursion one way the passive radiators can do, mm; absent without them, or where it is not stated.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub radiator_limit_mm: Option<f64>,
    /// What of it is an estimate, in a sentence.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub estimate: Option<String>,
    /// Lowest standing wave of the chamber behind the cone as stated or assumed, Hz; absent in families without one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lowest_wave_hz: Option<f64>,
    /// Lowest mode of the cabinet's panels, between clamped and supported (an estimate), Hz; absent without a cabinet.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lowest_panel_hz: Option<f64>,
    /// What drives it.
    pub drive: DriveSummary,
    /// What boxes are compared by, at this drive.
    pub compared: Compared,
    /// Air speed in the fastest port, mouth or throat at this drive, from the lowest note to twice the tuning, peak, m/s; absent
    /// without one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub fastest_air_m_per_s: Option<f64>,
}

/// A chamber, worked out.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct ChamberResult {
    /// Place of its net volume in the design (JSON pointer); empty where it follows from other sizes.
    pub pointer: String,
    /// Net air volume, L.
    pub net_l: f64,
    /// Place of its inside in the design (JSON pointer); empty where it has none.
    pub inside_pointer: String,
    /// Its inside as stated, as the cabinet has it, or assumed; absent where it has none.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub inside: Option<Inside>,
    /// By how much the fill makes it act larger.
    pub fill_factor: f64,
}

/// A value at hand.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct StepResult {
    /// Place of the field (JSON pointer).
    pub pointer: String,
    /// The value.
    pub value: f64,
    /// In words.
    pub title: String,
    /// The tuning it gives, Hz.
    pub tuning_hz: f64,
}

/// A line or horn as it was computed.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct PathResult {
    /// Places along the centre line, mm.
    pub at_mm: Vec<f64>,
    /// Areas there, cm².
    pub area_cm2: Vec<f64>,
    /// Where the woofer looks in, mm.
    pub taps_mm: Vec<f64>,
    /// Length along the centre line, mm.
    pub length_mm: f64,
    /// The room it takes folded, with the chambers and the boards between, L: a fifth more than its air, an estimate.
    pub room_l: f64,
}

/// A port, worked out.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct PortResult {
    /// Place of the port in the design (JSON pointer).
    pub pointer: String,
    /// Length from opening to opening, flares included, mm; negative only for a plain mass whose tuning no
    /// real tube of this area reaches.
    pub length_mm: f64,
    /// Length with both end corrections, mm.
    pub effective_length_mm: f64,
    /// Area of all openings, cm².
    pub area_cm2: f64,
    /// The box's tuning with this port, Hz.
    pub tuning_hz: f64,
    /// The highest tuning this opening can give in this box, Hz.
    pub highest_tuning_hz: f64,
    /// Whether the wanted tuning lies above that.
    pub out_of_reach: bool,
    /// First pipe resonance, c/(2·L_eff), Hz.
    pub first_pipe_resonance_hz: f64,
    /// Air-speed limit of common practice for its ends, m/s peak.
    pub quiet_speed_m_per_s: f64,
    /// The limit it is held against, m/s peak: the brief's own, or that of common practice.
    pub air_limit_m_per_s: f64,
}

/// The curves.
#[derive(Clone, Debug, Default, Serialize, Deserialize, JsonSchema)]
pub struct CurveArrays {
    /// Frequencies, Hz.
    pub frequency_hz: Vec<f64>,
    /// Level of everything that radiates, dB re 20 µPa rms.
    pub level_db: Vec<f64>,
    /// Cone excursion, peak one way, mm.
    pub cone_excursion_mm: Vec<f64>,
    /// Air speed in the fastest port, mouth or throat, peak, m/s; empty without one.
    pub air_speed_m_per_s: Vec<f64>,
    /// Excursion of the passive radiators, peak one way, mm; empty without one.
    pub radiator_excursion_mm: Vec<f64>,
    /// Force of cones and passive radiators on the cabinet, by their places and directions, peak, N.
    pub shaking_force_n: Vec<f64>,
    /// Their moment about the cabinet's middle, peak, N·m; empty without a cabinet.
    pub shaking_moment_nm: Vec<f64>,
    /// Sound power over the power taken, per cent; empty where the mouth stands in another part of space than the listener.
    pub efficiency_percent: Vec<f64>,
    /// Group delay, flight time removed, ms.
    pub group_delay_ms: Vec<f64>,
    /// Impedance at the terminals, magnitude, Ω.
    pub impedance_ohm: Vec<f64>,
    /// Impedance at the terminals, phase, degrees.
    pub impedance_phase_deg: Vec<f64>,
    /// Response of all filters before the amplifier and in it, dB; empty without any.
    pub filter_db: Vec<f64>,
    /// The same, phase, degrees; empty without any.
    pub filter_phase_deg: Vec<f64>,
    /// Level with every filter left out, dB; empty without any.
    pub unfiltered_level_db: Vec<f64>,
    /// Open-circuit voltage of the amplifier, V rms.
    pub emf_v: Vec<f64>,
    /// Voltage at the woofers' terminals, V rms.
    pub terminal_v: Vec<f64>,
    /// Current out of the amplifier, A rms.
    pub amplifier_a: Vec<f64>,
    /// Real power out of the amplifier behind its leads, W.
    pub real_power_w: Vec<f64>,
    /// Apparent power there, VA.
    pub apparent_power_va: Vec<f64>,
    /// Heat in all voice coils, W.
    pub coil_heat_w: Vec<f64>,
    /// What the amplifier sees behind its leads, magnitude, Ω; empty where no parts lie between it and the woofers.
    pub load_ohm: Vec<f64>,
    /// The same, phase, degrees; empty likewise.
    pub load_phase_deg: Vec<f64>,
    /// Level at the highest common drive at which nothing passes its limit anywhere in the programme's band, dB; empty where nothing
    /// limits it.
    pub loudest_level_db: Vec<f64>,
    /// Highest level the limits allow, dB; null where no limit was stated.
    pub max_level_db: Vec<Option<f64>>,
    /// Which limit rules there.
    pub max_level_ruled_by: Vec<LimitingFactor>,
    /// Pressure of everything that radiates, real part, Pa rms (flight time left out).
    pub pressure_sum_re_pa: Vec<f64>,
    /// The same, imaginary part, Pa rms.
    pub pressure_sum_im_pa: Vec<f64>,
    /// Pressure of the cones alone, real part, Pa rms; empty where no cone is seen from outside.
    pub pressure_cone_re_pa: Vec<f64>,
    /// The same, imaginary part, Pa rms.
    pub pressure_cone_im_pa: Vec<f64>,
    /// Pressure of ports, mouths and passive radiators alone, real part, Pa rms; empty without one.
    pub pressure_port_re_pa: Vec<f64>,
    /// The same, imaginary part, Pa rms; empty without one.
    pub pressure_port_im_pa: Vec<f64>,
    /// Level at the cone's centre at this drive (Keele 1974; while ka < 1), dB; empty where no cone is seen from
    /// outside.
    pub near_field_cone_db: Vec<f64>,
    /// Each port, mouth, throat and radiator by itself.
    pub openings: Vec<OpeningCurves>,
}

/// One opening's air.
#[derive(Clone, Debug, Default, Serialize, Deserialize, JsonSchema)]
pub struct OpeningCurves {
    /// What it is: "port", "rear port", "front port", "mouth", "throat", "open end", "outer tap", "radiators".
    pub name: String,
    /// How many equal ones make it up.
    pub count: u32,
    /// Area of all together, cm².
    pub area_cm2: f64,
    /// Whether it is heard outside.
    pub outside: bool,
    /// Air speed it is held against, peak, m/s; absent where none is.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub limit_m_per_s: Option<f64>,
    /// Air speed, peak, m/s; empty of radiators.
    pub air_speed_m_per_s: Vec<f64>,
    /// Level in the middle of one of them at this drive (Keele 1974; while ka < 1), dB; empty inside.
    pub near_field_db: Vec<f64>,
}

impl CurveArrays {
    /// Every list of numbers with its name, one entry a frequency; those of the openings follow under their own
    /// ([`OpeningCurves::lists_mut`]).
    pub fn lists_mut(&mut self) -> [(&'static str, &mut Vec<f64>); 30] {
        [
            ("frequency_hz", &mut self.frequency_hz),
            ("level_db", &mut self.level_db),
            ("cone_excursion_mm", &mut self.cone_excursion_mm),
            ("air_speed_m_per_s", &mut self.air_speed_m_per_s),
            ("radiator_excursion_mm", &mut self.radiator_excursion_mm),
            ("shaking_force_n", &mut self.shaking_force_n),
            ("shaking_moment_nm", &mut self.shaking_moment_nm),
            ("efficiency_percent", &mut self.efficiency_percent),
            ("group_delay_ms", &mut self.group_delay_ms),
            ("impedance_ohm", &mut self.impedance_ohm),
            ("impedance_phase_deg", &mut self.impedance_phase_deg),
            ("filter_db", &mut self.filter_db),
            ("filter_phase_deg", &mut self.filter_phase_deg),
            ("unfiltered_level_db", &mut self.unfiltered_level_db),
            ("emf_v", &mut self.emf_v),
            ("terminal_v", &mut self.terminal_v),
            ("amplifier_a", &mut self.amplifier_a),
            ("real_power_w", &mut self.real_power_w),
            ("apparent_power_va", &mut self.apparent_power_va),
            ("coil_heat_w", &mut self.coil_heat_w),
            ("load_ohm", &mut self.load_ohm),
            ("load_phase_deg", &mut self.load_phase_deg),
            ("loudest_level_db", &mut self.loudest_level_db),
            ("near_field_cone_db", &mut self.near_field_cone_db),
            ("pressure_sum_re_pa", &mut self.pressure_sum_re_pa),
            ("pressure_sum_im_pa", &mut self.pressure_sum_im_pa),
            ("pressure_cone_re_pa", &mut self.pressure_cone_re_pa),
            ("pressure_cone_im_pa", &mut self.pressure_cone_im_pa),
            ("pressure_port_re_pa", &mut self.pressure_port_re_pa),
            ("pressure_port_im_pa", &mut self.pressure_port_im_pa),
        ]
    }
}

impl OpeningCurves {
    /// Every list of numbers with its name.
    pub fn lists_mut(&mut self) -> [(&'static str, &mut Vec<f64>); 2] {
        [("air_speed_m_per_s", &mut self.air_speed_m_per_s), ("near_field_db", &mut self.near_field_db)]
    }
}

impl Evaluation {
    /// Leaves voltages, currents, powers and the filters' own curves out, which follow from the drive and the level.
    pub fn without_electrical(&mut self) {
        let electrical = ["emf_v", "terminal_v", "amplifier_a", "real_power_w", "apparent_power_va", "coil_heat_w"];
        let filters = ["filter_db", "filter_phase_deg", "unfiltered_level_db", "loudest_level_db"];
        for (name, list) in self.curves.lists_mut() {
            if electrical.contains(&name) || filters.contains(&name) {
                list.clear();
            }
        }
    }

    /// Leaves the complex pressures out, for a reader who draws levels only.
    pub fn without_pressures(&mut self) {
        for (name, list) in self.curves.lists_mut() {
            if name.starts_with("pressure_") {
                list.clear();
            }
        }
    }

    /// Rounds figures and curves to `digits` significant digits, levels, angles and delays to a thousandth of a decibel, degree
    /// and millisecond (for the wire; a screen shows fewer). What remedies set stays as it is.
    pub fn round(&mut self, digits: i32) {
        let round = |x: &mut f64| *x = significant(*x, digits);
        let thousandth = |x: &mut f64| *x = (*x * 1e3).round() / 1e3;
        let coarse = |name: &str| ["_db", "_deg", "_ms"].iter().any(|unit| name.ends_with(unit));
        let each = |(name, list): (&str, &mut Vec<f64>)| {
            if coarse(name) { list.iter_mut().for_each(thousandth) } else { list.iter_mut().for_each(round) }
        };
        self.curves.lists_mut().into_iter().for_each(each);
        self.curves.openings.iter_mut().flat_map(OpeningCurves::lists_mut).for_each(each);
        self.curves.max_level_db.iter_mut().flatten().for_each(thousandth);
        for finding in self.findings.iter_mut().flatten() {
            std::iter::once(&mut finding.figure).chain(&mut finding.limit).for_each(|q| round(&mut q.value));
        }
        self.summary = figures_of(&self.summary, digits);
        self.ports = figures_of(&self.ports, digits);
        self.section = figures_of(&self.section, digits);
        self.path = figures_of(&self.path, digits);
        self.ledger = figures_of(&self.ledger, digits);
    }
}

/// A number with so many significant digits.
fn significant(x: f64, digits: i32) -> f64 {
    if x == 0.0 || !x.is_finite() {
        return x;
    }
    let scale = 10f64.powi(digits - 1 - x.abs().log10().floor() as i32);
    (x * scale).round() / scale
}

/// The same with every figure in it rounded.
fn figures_of<T: Serialize + DeserializeOwned + Clone>(part: &T, digits: i32) -> T {
    fn walk(value: &mut Value, digits: i32) {
        match value {
            Value::Number(n) if n.is_f64() => {
                let rounded = n.as_f64().and_then(|x| Number::from_f64(significant(x, digits)));
                if let Some(rounded) = rounded {
                    *n = rounded;
                }
            }
            Value::Array(list) => list.iter_mut().for_each(|v| walk(v, digits)),
            Value::Object(object) => object.values_mut().for_each(|v| walk(v, digits)),
            _ => {}
        }
    }
    let mut value = serde_json::to_value(part).unwrap_or_default();
    walk(&mut value, digits);
    serde_json::from_value(value).unwrap_or_else(|_| part.clone())
}

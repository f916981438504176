//! The signal's way from what plays it to the woofers' terminals: filters, amplifier, leads, parts.

use crate::problem::{Code, Problem};
use oak_drum_acoustics::amplifier::{Amplifier, Pass};
use oak_drum_acoustics::cable::Cable;
use oak_drum_acoustics::fault::Fault;
use oak_drum_acoustics::filters::{Cascade, Filter};
use oak_drum_acoustics::heat::Spectrum;
use oak_drum_acoustics::ladder::{Ladder, Part, Placement};
use oak_drum_acoustics::source::Source;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Most filters of a chain.
pub const MOST_FILTERS: usize = 20;
/// Most parts between leads and woofers.
pub const MOST_PARTS: usize = 20;

/// The signal's way: filters of what plays, of what lies between and of the amplifier; the amplifier; the leads; parts at the
/// terminals, in their order.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Signal chain")]
pub struct Chain {
    /// Filters at line level and in the amplifier. What is linear does not mind the order; each says where it is.
    #[schemars(title = "Filters", length(max = MOST_FILTERS))]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub filters: Vec<ChainFilter>,
    /// The amplifier at hand.
    #[schemars(title = "Amplifier")]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub amplifier: Option<Amplifier>,
    /// Leaves the amplifier's limits, its output resistance and what is always in it out of account.
    #[schemars(title = "Without the amplifier")]
    #[serde(skip_serializing_if = "is_false")]
    pub amplifier_off: bool,
    /// The leads from amplifier to woofers.
    #[schemars(title = "Leads")]
    #[serde(skip_serializing_if = "is_none")]
    pub cable: Cable,
    /// Leaves the leads out of account.
    #[schemars(title = "Without the leads")]
    #[serde(skip_serializing_if = "is_false")]
    pub cable_off: bool,
    /// The battery that feeds the amplifier.
    #[schemars(title = "Battery")]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub battery: Option<Battery>,
    /// Parts at the terminals, from the amplifier to the woofers.
    #[schemars(title = "Parts", length(max = MOST_PARTS))]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub parts: Vec<ChainPart>,
}

fn is_false(off: &bool) -> bool {
    !off
}

fn is_none(cable: &Cable) -> bool {
    *cable == Cable::default()
}

/// A battery.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Battery")]
pub struct Battery {
    /// What it is made of: a lithium one gives about four fifths of what is written on it, a lead one half (estimates).
    #[schemars(title = "Kind")]
    pub chemistry: Chemistry,
    /// What is written on it.
    #[schemars(title = "Capacity", range(min = 1.0, max = 100000.0), extend("x-unit" = "Wh", "x-start" = 500.0))]
    pub capacity_wh: f64,
    /// What charges it while it plays, a panel or a charger; nothing where it is empty.
    #[schemars(title = "Charged with", range(min = 0.0, max = 10000.0), extend("x-unit" = "W"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub charger_w: Option<f64>,
}

/// What a battery is made of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Chemistry {
    /// Lithium: four fifths of its capacity is usable, an estimate.
    Lithium,
    /// Lead: half of its capacity is usable, an estimate.
    Lead,
}

impl Chemistry {
    /// Share of its capacity that can be used: an estimate.
    pub fn usable(self) -> f64 {
        match self {
            Chemistry::Lithium => 0.8,
            Chemistry::Lead => 0.5,
        }
    }
}

/// Where in the chain a filter is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Stage {
    /// In what plays: a receiver's low pass is there whether asked for or not.
    Player,
    /// Between player and amplifier, at line level.
    #[default]
    Line,
    /// In the amplifier: only what it has.
    Amplifier,
}

/// A filter at its place.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Filter")]
pub struct ChainFilter {
    /// What it is called, where that helps.
    #[schemars(title = "Name", length(max = 60))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub name: String,
    /// Where it is.
    #[schemars(title = "Where")]
    #[serde(default)]
    pub stage: Stage,
    /// Whether it is switched off; it stays where it is.
    #[schemars(title = "Off")]
    #[serde(default, skip_serializing_if = "is_false")]
    pub off: bool,
    /// What it does.
    #[schemars(title = "Kind")]
    pub filter: Filter,
}

/// A part at its place.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Part")]
pub struct ChainPart {
    /// Where it lies.
    #[schemars(title = "Placed")]
    pub placement: Placement,
    /// Whether it is switched off: bridged in line, lifted across it. It stays where it is.
    #[schemars(title = "Off")]
    #[serde(default, skip_serializing_if = "is_false")]
    pub off: bool,
    /// What it is.
    #[schemars(title = "Kind")]
    pub part: Part,
    /// What all of it costs, in the workshop's own money.
    #[schemars(title = "Price", range(min = 0.0, max = 100000.0))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub price: Option<f64>,
}

impl Chain {
    /// The amplifier, where it is counted.
    pub fn amplifier_on(&self) -> Option<&Amplifier> {
        self.amplifier.as_ref().filter(|_| !self.amplifier_off)
    }

    /// Resistance of amplifier and leads, Ω.
    pub fn resistance(&self) -> f64 {
        let leads = if self.cable_off { 0.0 } else { self.cable.resistance() };
        leads + self.amplifier_on().map_or(0.0, |a| a.output_resistance_ohm)
    }

    /// The filters that are on, with those an amplifier always has.
    pub fn filters_on(&self) -> impl Iterator<Item = &Filter> {
        let own = self.amplifier_on().into_iter().flat_map(|a| &a.always);
        self.filters.iter().filter(|f| !f.off).map(|f| &f.filter).chain(own)
    }

    /// The electrical side with so many volts (rms) at the amplifier's output where every filter has gain 1.
    pub fn source(&self, volts: f64) -> Source {
        let parts = self.parts.iter().filter(|p| !p.off).map(|p| (p.placement, p.part));
        Source {
            volts,
            resistance: self.resistance(),
            filters: Cascade::of(self.filters_on()),
            ladder: Ladder::of(parts),
        }
    }

    /// What is wrong with it that its ranges cannot tell; `at` is its place.
    pub fn problems(&self, at: &str) -> Vec<Problem> {
        let told = |place: String, faults: Vec<Fault>| {
            faults
                .into_iter()
                .map(move |f| Problem::new(Code::Contradiction, format!("{place}{}", f.pointer), f.message))
        };
        let each = |(i, f): (usize, &ChainFilter)| told(format!("{at}/filters/{i}/filter"), f.filter.problems());
        let mut list: Vec<Problem> = self.filters.iter().enumerate().flat_map(each).collect();
        if let Some(amplifier) = &self.amplifier {
            list.extend(told(format!("{at}/amplifier"), amplifier_faults(amplifier)));
        }
        list
    }
}

/// What is wrong with an amplifier's sheet that only several fields together can tell.
pub fn amplifier_faults(amplifier: &Amplifier) -> Vec<Fault> {
    let mut list = Vec::new();
    for (i, filter) in amplifier.always.iter().enumerate() {
        list.extend(filter.problems().into_iter().map(|f| Fault::new(format!("/always/{i}{}", f.pointer), f.message)));
    }
    let mut range = |pointer: String, from: f64, to: f64, unit: &str| {
        if to < from {
            list.push(Fault::new(pointer, format!("has to be {from}{unit} or more, where the range begins")));
        }
    };
    if let Some(e) = &amplifier.equaliser {
        range("/equaliser/to_hz".into(), e.from_hz, e.to_hz, " Hz");
        range("/equaliser/to_q".into(), e.from_q, e.to_q, "");
    }
    let passes = [("low_cut", &amplifier.low_cut), ("low_pass", &amplifier.low_pass)];
    let passes = || passes.iter().filter_map(|(name, pass)| Some((*name, pass.as_ref()?)));
    for (name, pass) in passes() {
        range(format!("/{name}/to_hz"), pass.from_hz, pass.to_hz, " Hz");
    }
    for (name, Pass { slopes, .. }) in passes() {
        for (i, slope) in slopes.iter().enumerate() {
            let message = slope.problem();
            list.extend(message.map(|message| Fault::new(format!("/{name}/slopes/{i}/order"), message)));
        }
    }
    list
}

/// What is played, for what depends on more than one frequency: heat, a battery, the loudest a whole programme may be.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Programme")]
pub struct Programme {
    /// How its power is spread over the band.
    #[schemars(title = "Kind")]
    pub spectrum: Spectrum,
    /// Where it begins.
    #[schemars(title = "From", range(min = 5.0, max = 500.0), extend("x-unit" = "Hz"))]
    pub from_hz: f64,
    /// Where it ends; empty is how far the brief says it plays.
    #[schemars(title = "to", range(min = 10.0, max = 20000.0), extend("x-unit" = "Hz"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub to_hz: Option<f64>,
    /// How far its peaks stand over its mean: a sine 3, test noise 6 (IEC 60268-5), heavily limited electronic music 6 to 9, rock 10 to
    /// 14, wide-range music 14 to 20 (common practice).
    #[schemars(title = "Crest", range(min = 3.01, max = 30.0), extend("x-unit" = "dB"))]
    pub crest_db: f64,
    /// How long it plays.
    #[schemars(title = "For", range(min = 0.1, max = 1440.0), extend("x-unit" = "min"))]
    pub minutes: f64,
}

impl Default for Programme {
    fn default() -> Self {
        Programme { spectrum: Spectrum::Pink, from_hz: 20.0, to_hz: None, crest_db: 12.0, minutes: 60.0 }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Design, VERSION, read_value};
    use serde_json::{Value, json};

    fn design(chain: Value) -> Value {
        json!({"format": "oak-drum-design", "version": VERSION,
            "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
            "enclosure": {"family": "sealed", "net_volume_l": 60}, "chain": chain})
    }

    fn wrong(chain: Value) -> Vec<String> {
        read_value(design(chain)).unwrap_err().into_iter().map(|p| p.pointer).collect()
    }

    /// What is wrong is named at its field, ranges and what several fields tell alike.
    #[test]
    fn faults_stand_at_their_fields() {
        let filter = |f: Value| json!({"filters": [{ "filter": f }]});
        let pass = |shape: &str, order: u32| json!({"kind": "low_pass", "frequency_hz": 80, "slope": {"shape": shape, "order": order}});
        assert_eq!(wrong(filter(pass("linkwitz_riley", 6))), ["/chain/filters/0/filter/slope/order"]);
        assert_eq!(wrong(filter(pass("butterworth", 9))), ["/chain/filters/0/filter/slope/order"]);
        assert_eq!(wrong(filter(json!({"kind": "delay", "delay_ms": -1}))), ["/chain/filters/0/filter/delay_ms"]);
        let amplifier = |more: Value| {
            let mut all = json!({"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4});
            all.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
            json!({ "amplifier": all })
        };
        let cut = json!({"low_cut": {"from_hz": 30, "to_hz": 20, "slopes": [{"shape": "butterworth", "order": 2}]}});
        assert_eq!(wrong(amplifier(cut)), ["/chain/amplifier/low_cut/to_hz"]);
        let shape =
            json!({"low_pass": {"from_hz": 30, "to_hz": 90, "slopes": [{"shape": "linkwitz_riley", "order": 5}]}});
        assert_eq!(wrong(amplifier(shape)), ["/chain/amplifier/low_pass/slopes/0/order"]);
        let always = json!({ "always": [pass("linkwitz_riley", 3)] });
        assert_eq!(wrong(amplifier(always)), ["/chain/amplifier/always/0/slope/order"]);
        // no shapes at all, and none of a battery's figures
        let none = json!({"low_cut": {"from_hz": 10, "to_hz": 20, "slopes": []}});
        assert_eq!(wrong(amplifier(none)), ["/chain/amplifier/low_cut/slopes"]);
        assert_eq!(wrong(json!({"battery": {"chemistry": "lithium"}})), ["/chain/battery/capacity_wh"]);
    }

    /// What is off is kept and does nothing; an empty chain is written as nothing but its braces.
    #[test]
    fn what_is_off_is_kept() {
        let chain = json!({
            "filters": [{"off": true, "stage": "line", "filter": {"kind": "gain", "level_db": -6.0}}],
            "amplifier": {"power_w": 100.0, "load_ohm": 8.0, "minimum_load_ohm": 4.0, "output_resistance_ohm": 0.5,
                          "polarity": false, "supply": "mains"},
            "amplifier_off": true,
            "cable": {"kind": "resistance", "lead_resistance_ohm": 0.2},
            "cable_off": true,
            "parts": [{"placement": "in_line", "off": true, "part": {"kind": "resistor", "resistance_ohm": 3.0}}],
        });
        let read = read_value(design(chain.clone())).unwrap();
        assert_eq!(serde_json::to_value(&read.chain).unwrap(), chain);
        let source = read.chain.source(10.0);
        assert!(source.filters.is_plain() && source.ladder.rungs.is_empty() && source.resistance == 0.0);
        assert!(read.chain.amplifier_on().is_none() && !read.ends_somewhere());
        let on = Chain { amplifier_off: false, cable_off: false, ..read.chain.clone() };
        assert!((on.resistance() - 0.7).abs() < 1e-12);
        assert_eq!(serde_json::to_value(Chain::default()).unwrap(), json!({}));
        let plain: Design = serde_json::from_value(design(json!({}))).unwrap();
        assert_eq!((plain.programme, plain.programme_to()), (Programme::default(), crate::PLAYS_TO));
    }
}

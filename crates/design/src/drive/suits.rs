//! Which amplifiers of a shelf suit a design: what each would give, what ends the level then, what it lacks.

use crate::analysis::Analysis;
use crate::drive::chain_rules::{FAR, called};
use crate::drive::heat::Room;
use crate::drive::offers::lack;
use crate::drive::power::{as_sold, decibels, in_words, lowest_load, nominal};
use crate::drive::rules::UNDER;
use crate::finding::{say, value};
use oak_drum_acoustics::amplifier::Amplifier;
use oak_drum_acoustics::filters::Filter;
use oak_drum_acoustics::outputs::LimitingFactor;
use oak_drum_document::{Change, Checked, Stage};
use oak_drum_text::{Text, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Most amplifiers that are looked at in one question.
pub const MOST: usize = 500;

/// Whether an amplifier suits.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Verdict {
    /// Nothing speaks against it.
    Suits,
    /// It would do; something is to be minded.
    Mind,
    /// It may not drive this load.
    Not,
    /// The design does not read with it.
    Unread,
}

/// How an amplifier suits a design.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Suited {
    /// Its place in the list that was asked about.
    pub index: usize,
    /// Whether it suits.
    pub verdict: Verdict,
    /// Why, the weightiest first.
    pub reasons: Vec<Text>,
    /// What it gives into the nominal load of the array, W; absent where no nominal impedance is stated.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub gives_w: Option<f64>,
    /// Level at the lowest note with the loudest programme it lets through, dB at the design's reference; absent where nothing limits.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub level_db: Option<f64>,
    /// What ends that programme.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub limiting: Option<LimitingFactor>,
    /// Level it costs on average of what the woofers could do, dB; absent where something is not limited by them.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub costs_db: Option<f64>,
}

/// What amplifiers would do for a design.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Suits {
    /// The lowest note the levels are told at, Hz.
    pub note_hz: f64,
    /// Lowest impedance of the present chain that an amplifier would see, Ω.
    pub lowest_load_ohm: f64,
    /// What the coils are rated for together, W.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub coils_w: Option<f64>,
    /// Every amplifier, the best first.
    pub amplifiers: Vec<Suited>,
}

/// Level an amplifier may cost on average before it is worth a word, dB.
const COSTS: f64 = 3.0;

/// How amplifiers suit a design, best first: those that carry the load, then by what they cost of the level, then by their price.
pub fn suits(design: &Checked, amplifiers: &[Amplifier]) -> Suits {
    let analysis = Analysis::of(design);
    let mut list: Vec<Suited> =
        amplifiers.iter().enumerate().map(|(i, amplifier)| suited(&analysis, i, amplifier)).collect();
    let price = |s: &Suited| amplifiers[s.index].price.unwrap_or(f64::INFINITY);
    let tenths = |s: &Suited| (s.costs_db.unwrap_or(f64::INFINITY) * 10.0).round();
    list.sort_by(|a, b| {
        let by_cost = tenths(a).total_cmp(&tenths(b)).then(price(a).total_cmp(&price(b)));
        a.verdict.cmp(&b.verdict).then(by_cost)
    });
    Suits {
        note_hz: analysis.lowest_note(),
        lowest_load_ohm: lowest_load(analysis.curves()).0,
        coils_w: analysis.conditions.limits.heat,
        amplifiers: list,
    }
}

fn suited(design: &Analysis, index: usize, amplifier: &Amplifier) -> Suited {
    let changes = [
        Change::set("/chain/amplifier", value(amplifier)),
        Change::set("/chain/amplifier_off", serde_json::Value::Null),
    ];
    let Some(analysis) = design.with(&changes) else {
        let reasons = vec!["The design does not read with it: look at its sheet.".into()];
        return Suited {
            index,
            verdict: Verdict::Unread,
            reasons,
            gives_w: None,
            level_db: None,
            limiting: None,
            costs_db: None,
        };
    };
    let mut verdict = Verdict::Suits;
    let mut reasons: Vec<Text> = Vec::new();
    let (lowest, at) = lowest_load(analysis.curves());
    let least = amplifier.minimum_load_ohm * UNDER;
    let sold = as_sold(&analysis, amplifier.minimum_load_ohm, lowest).is_some();
    if lowest < least && !sold {
        verdict = Verdict::Not;
        reasons.push(
            format!("The load falls to {lowest:.2} ohm at {at:.0} Hz; it may go down to {least:.2}. Another wiring may help.")
                .into(),
        );
    }
    let mut mind = |reason: String| {
        verdict = verdict.max(Verdict::Mind);
        reasons.push(reason.into());
    };
    if lowest < least && sold {
        mind(format!(
            "The load falls to {lowest:.2} ohm at {at:.0} Hz, as woofers sold so often do: feel whether it gets hot."
        ));
    }
    let gives = nominal(&analysis).map(|load| amplifier.power_into(load));
    if let (Some(power), Some(rated)) = (gives, analysis.conditions.limits.heat) {
        if power > rated * FAR[1] {
            mind(format!(
                "It gives {} W, the coils are rated for {} W: turned up, it burns them.",
                say(power),
                say(rated)
            ));
        } else if power < rated * FAR[0] {
            mind(format!("It gives {} W, the coils could take {} W: it clips first.", say(power), say(rated)));
        }
    }
    let costs = Room::of(&analysis).map(|room| room.cost(amplifier.volts()));
    if let Some(costs) = costs.filter(|c| *c > COSTS) {
        mind(format!("It costs {costs:.1} dB on average of what the woofers could do."));
    }
    let inside = analysis.design.chain.filters.iter().filter(|f| f.stage == Stage::Amplifier && !f.off);
    for f in inside.filter(|f| lack(amplifier, &f.filter).is_some()) {
        mind(format!("It cannot do the {} that is set in the amplifier now.", called(f)));
    }
    // one an octave or more under the tuning lets the cone go where it runs free
    let cut = |fb: f64| {
        analysis.design.chain.filters_on().any(|f| matches!(f, Filter::HighPass(f) if f.frequency_hz > 0.5 * fb))
    };
    if let Some(hz) = analysis.wired.unloads_below.filter(|fb| !cut(*fb) && amplifier.low_cut.is_none()) {
        mind(format!("It has no low cut, and under {hz:.0} Hz nothing holds the cone."));
    }
    let loudest = analysis.loudest();
    let note = analysis.lowest_note();
    let level_db = loudest.map(|l| {
        let drawn = analysis.context.source.volts;
        analysis.at(note).level_db[0] + decibels(l.volts / drawn)
    });
    if let Some(l) = loudest {
        reasons.push(
            format!("{} ends a programme at {} V.", oak_drum_text::capital(in_words(l.limiting)), say(l.volts)).into(),
        );
    }
    if let Some(back) = amplifier.back.filter(|b| b.open) {
        let cut_out = mm([back.width_mm, back.height_mm]);
        reasons
            .push(format!("Its back is open: it wants a chamber of its own behind a cut-out of {cut_out:.0}.").into());
    }
    Suited { index, verdict, reasons, gives_w: gives, level_db, limiting: loudest.map(|l| l.limiting), costs_db: costs }
}

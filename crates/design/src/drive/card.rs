//! A settings card for the amplifier: what each knob is set to, to be printed and laid beside it.

use crate::analysis::Analysis;
use crate::drive::low_cut::slope_in_words;
use crate::finding::say;
use oak_drum_acoustics::filters::Filter;
use oak_drum_acoustics::filters::band::octaves_of;
use oak_drum_document::{ChainFilter, Stage};
use oak_drum_paper::Block;
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// One setting.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Setting {
    /// Where it is set.
    pub stage: Stage,
    /// Which filter.
    pub filter: String,
    /// Which knob of it.
    pub knob: String,
    /// What it is set to.
    pub value: String,
}

/// A level in words: "cut 4.5 dB", "level +2 dB".
fn level(db: f64) -> String {
    if db == 0.0 { "0 dB: does nothing".into() } else { format!("{db:+.1} dB") }
}

/// The knobs of one filter.
fn knobs(f: &ChainFilter) -> Vec<(&'static str, String)> {
    let hz = |x: f64| format!("{} Hz", say(x));
    let shelf = |frequency: f64, db: f64, q: Option<f64>| {
        let steep = q.map_or("first order".to_owned(), |q| format!("second order, Q {}", say(q)));
        vec![("frequency", hz(frequency)), ("level", level(db)), ("shape", steep)]
    };
    match &f.filter {
        Filter::HighPass(p) => vec![("corner", hz(p.frequency_hz)), ("shape", slope_in_words(&p.slope))],
        Filter::LowPass(p) => vec![("corner", hz(p.frequency_hz)), ("shape", slope_in_words(&p.slope))],
        Filter::Band(b) => vec![
            ("frequency", hz(b.frequency_hz)),
            ("level", level(b.level_db)),
            ("width", format!("Q {}, {} octaves at half its level", say(b.q), say(octaves_of(b.q)))),
        ],
        Filter::LowShelf(s) => shelf(s.frequency_hz, s.level_db, s.q),
        Filter::HighShelf(s) => shelf(s.frequency_hz, s.level_db, s.q),
        Filter::AllPass(p) => vec![
            ("phase, turns at", hz(p.frequency_hz)),
            ("shape", p.q.map_or("first order".into(), |q| format!("second order, Q {}", say(q)))),
        ],
        Filter::Notch(n) => vec![("frequency", hz(n.frequency_hz)), ("width", format!("Q {}", say(n.q)))],
        Filter::Transform(t) => vec![
            ("from", format!("{}, Q {}", hz(t.from_hz), say(t.from_q))),
            ("to", format!("{}, Q {}", hz(t.to_hz), say(t.to_q))),
        ],
        Filter::Delay(d) => vec![("delay", format!("{} ms", say(d.delay_ms)))],
        Filter::Polarity(_) => vec![("polarity", "180 degrees".into())],
        Filter::Gain(g) => vec![("gain", level(g.level_db))],
    }
}

/// What every knob is set to; filters that are off are left out.
pub fn settings(filters: &[ChainFilter]) -> Vec<Setting> {
    let mut on: Vec<&ChainFilter> = filters.iter().filter(|f| !f.off).collect();
    on.sort_by_key(|f| f.stage);
    on.into_iter()
        .flat_map(|f| {
            let called = if f.name.is_empty() { f.filter.info().title.to_owned() } else { f.name.clone() };
            knobs(f).into_iter().map(move |(knob, value)| Setting {
                stage: f.stage,
                filter: called.clone(),
                knob: knob.into(),
                value,
            })
        })
        .collect()
}

/// Where, in words.
fn place(stage: Stage) -> &'static str {
    match stage {
        Stage::Player => "in what plays",
        Stage::Line => "at line level",
        Stage::Amplifier => "in the amplifier",
    }
}

/// The card as the pages of a PDF.
pub fn card(analysis: &Analysis) -> Vec<Block> {
    let design = &analysis.design;
    let name = if design.name.is_empty() { "Settings" } else { design.name.as_str() };
    let mut blocks = vec![Block::Heading(format!("Settings: {name}").into())];
    if let Some(amplifier) = &design.chain.amplifier {
        let called = [amplifier.maker.as_str(), amplifier.name.as_str()].join(" ");
        blocks.push(Block::Words(
            format!(
                "Amplifier {}: {} W into {} ohm, lowest load {} ohm.",
                called.trim(),
                say(amplifier.power_w),
                say(amplifier.load_ohm),
                say(amplifier.minimum_load_ohm)
            )
            .replace("Amplifier :", "Amplifier:")
            .into(),
        ));
        blocks.push(Block::Caution(crate::cabinet::step::MAINS.into()));
    }
    let list = settings(&design.chain.filters);
    if list.is_empty() {
        blocks.push(Block::Words("Everything off: no filter is set.".into()));
    } else {
        let mut rows = vec![["where", "filter", "knob", "set to"].map(Text::from).to_vec()];
        rows.extend(
            list.into_iter().map(|s| vec![place(s.stage).into(), s.filter.into(), s.knob.into(), s.value.into()]),
        );
        blocks.push(Block::Table { widths: vec![1.3, 1.6, 1.2, 3.0], rows });
    }
    if let Some(loudest) = analysis.loudest() {
        blocks.push(Block::Words(
            format!(
                "As loud as a programme from {} Hz may be: {} V before the filters; {} ends it at {} Hz.",
                say(design.programme.from_hz),
                say(loudest.volts),
                crate::drive::power::in_words(loudest.limiting),
                say(loudest.at_hz)
            )
            .into(),
        ));
    }
    blocks.push(Block::Words(
        "Knobs differ from their marks by a tenth and more, and devices count width differently: measure what comes out.".into(),
    ));
    blocks
}

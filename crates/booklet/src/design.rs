//! Brief, woofer, box, airway, fill, drive, room, and what the program finds.

use crate::fields;
use crate::plot::{Line, Plot};
use crate::told::Told;
use oak_drum_cabinet::drawing::Layer;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::drive::card::card;
use oak_drum_design::evaluation::Evaluation;
use oak_drum_design::finding::{LimitSource, Severity};
use oak_drum_document::schema;
use oak_drum_paper::Block;
use oak_drum_text::{Quantity, System, Text, Unit, litres, metres, mm, square_cm};

/// These parts.
pub fn parts(told: &Told, system: System, evaluation: &Evaluation, analysis: &Analysis) -> Vec<Block> {
    let schema = schema::design();
    let document = serde_json::to_value(&**told.design).unwrap_or_default();
    let of = |part: &str| fields::table(&schema, &document, part);
    let mut blocks = Vec::new();
    let mut part = |title: &str, inside: Vec<Block>, nothing: &str| {
        blocks.push(Block::Part(title.into()));
        if inside.is_empty() {
            blocks.push(Block::Words(nothing.into()));
        }
        blocks.extend(inside);
    };
    part("Brief", of("/brief").into_iter().collect(), "Nothing was stated: what it is for was never judged.");
    part("What the program finds", findings(evaluation), "");
    part("Woofer", woofer(evaluation, of("/woofer"), of("/array")), "");
    part("Box", the_box(told, system, evaluation, of("/enclosure")), "");
    part("Airway", airway(evaluation), "No port, mouth or passive radiator: nothing of this kind has to be judged.");
    part("Air and fill", ledger(evaluation), "Without a cabinet no air was counted.");
    part("Drive", drive(analysis, of("/drive"), of("/chain")), "");
    let room = told.design.room.as_ref().and_then(|_| of("/room"));
    part("Room", room.into_iter().collect(), "In the open: no room was stated, and none was judged.");
    blocks
}

fn findings(evaluation: &Evaluation) -> Vec<Block> {
    let list = evaluation.findings.as_deref().unwrap_or_default();
    let mut blocks = vec![Block::Words(
        "Each sentence names its figure and its limit; behind it stands whose limit that is. What is not stated in the design is not judged."
            .into(),
    )];
    if list.is_empty() {
        blocks.push(Block::Words("Of what was stated nothing stands out.".into()));
        return blocks;
    }
    let mut rows = vec![["", "finding", "whose limit"].map(Text::from).to_vec()];
    for f in list {
        let how = match f.severity {
            Severity::Broken => "broken",
            Severity::Look => "look here",
            Severity::Caution => "caution",
            Severity::Note => "note",
            Severity::Good => "as wished",
        };
        let whose = match f.limit_source {
            LimitSource::Physics => "physics",
            LimitSource::CommonPractice => "common practice",
            LimitSource::Brief => "the brief",
            LimitSource::DataSheet => "the maker",
        };
        rows.push(vec![how.into(), f.sentence.clone(), if f.limit.is_some() { whose.into() } else { Text::default() }]);
    }
    blocks.push(Block::Table { widths: vec![0.9, 6.0, 1.3], rows });
    blocks
}

fn woofer(evaluation: &Evaluation, sheet: Option<Block>, array: Option<Block>) -> Vec<Block> {
    let mut blocks: Vec<Block> = sheet.into_iter().collect();
    for c in &evaluation.summary.contradictions {
        blocks.push(Block::Words(
            format!(
                "The sheet contradicts itself: {} is stated as {:.4} and follows as {:.4}, {:+.1} % apart.",
                c.field, c.stated, c.derived, c.percent
            )
            .into(),
        ));
    }
    if let Some(array) = array {
        blocks.push(Block::Heading("How many, and how they are wired".into()));
        blocks.push(array);
    }
    blocks
}

/// A figure with its unit, in either system.
fn figure(value: f64, unit: &str) -> Text {
    let rounded = if value.abs() >= 100.0 { value.round() } else { (value * 100.0).round() / 100.0 };
    match Unit::named(unit) {
        Some(unit) => format!("{}", Quantity { values: vec![rounded], unit }).into(),
        None => format!("{rounded} {unit}").trim_end().into(),
    }
}

fn the_box(told: &Told, system: System, evaluation: &Evaluation, stated: Option<Block>) -> Vec<Block> {
    let mut blocks: Vec<Block> = stated.into_iter().collect();
    let s = &evaluation.summary;
    let mut rows = vec![["figure", "value", "what it is"].map(Text::from).to_vec()];
    rows.extend(
        s.figures.iter().map(|f| vec![f.label.as_str().into(), figure(f.value, &f.unit), f.help.as_str().into()]),
    );
    for (name, edge, help) in [
        ("f3", s.f3_hz, "half power (3.01 dB under the reference)"),
        ("f6", s.f6_hz, "6 dB under it"),
        ("f10", s.f10_hz, "10 dB under it"),
    ] {
        let value = edge.map_or("not reached".into(), |f| figure(f, "Hz"));
        rows.push(vec![name.into(), value, help.into()]);
    }
    blocks.push(Block::Heading("Figures".into()));
    blocks.push(Block::Table { widths: vec![1.2, 1.2, 4.0], rows });
    if let Some(estimate) = &s.estimate {
        blocks.push(Block::Words(format!("An estimate: {estimate}").into()));
    }
    let c = &evaluation.curves;
    let k = &evaluation.conditions;
    let at = format!("{:.2} V, {:.2} away, in {:.2} sr of space.", k.volts, metres(k.distance_m), k.solid_angle_sr);
    let f = &c.frequency_hz;
    let span = [f.first().copied().unwrap_or(10.0), f.last().copied().unwrap_or(1000.0)];
    let plot = |title: &'static str,
                unit: &'static str,
                least: f64,
                from_zero: bool,
                limits: Vec<(String, f64)>,
                note: &str| { Plot { title, note: note.into(), unit, limits, least, from_zero, span } };
    let line = |name: &'static str, value: &'_ [f64], layer: Layer| -> (&'static str, Vec<f64>, Layer) {
        (name, value.to_vec(), layer)
    };
    let (travel, each) = match system {
        System::Metric => ("mm", 1.0),
        System::Inch => ("in", 1.0 / 25.4),
    };
    let strokes = |list: &[f64]| list.iter().map(|x| x * each).collect::<Vec<_>>();
    let xmax = told.design.woofer.xmax_mm;
    let limit = |name: &str, value: Option<f64>| value.map(|v| (name.to_owned(), v)).into_iter().collect::<Vec<_>>();
    let air = evaluation.ports.first().map(|p| p.air_limit_m_per_s);
    let drawn = [
        (
            plot("Level", "dB", 30.0, false, Vec::new(), &at),
            vec![line("", &c.level_db, Layer::Outline), line("most", &unlimited(&c.max_level_db), Layer::Hidden)],
        ),
        (
            plot("Cone stroke, peak", travel, each, true, limit("Xmax", xmax.map(|x| x * each)), ""),
            vec![line("", &strokes(&c.cone_excursion_mm), Layer::Outline)],
        ),
        (
            plot("Air speed, peak", "m/s", 5.0, true, limit("limit", air), ""),
            vec![line("", &c.air_speed_m_per_s, Layer::Outline)],
        ),
        (
            plot(
                "Stroke of the radiators, peak",
                travel,
                each,
                true,
                limit("their limit", s.radiator_limit_mm.map(|x| x * each)),
                "",
            ),
            vec![line("", &strokes(&c.radiator_excursion_mm), Layer::Outline)],
        ),
        (
            plot("Group delay", "ms", 5.0, true, Vec::new(), "Flight time taken off."),
            vec![line("", &c.group_delay_ms, Layer::Outline)],
        ),
        (
            plot("Impedance", "ohm", 5.0, true, Vec::new(), "Magnitude at the terminals."),
            vec![line("", &c.impedance_ohm, Layer::Outline)],
        ),
        (
            plot("Filters", "dB", 6.0, false, Vec::new(), "Response of all filters before the amplifier and in it."),
            vec![line("", &c.filter_db, Layer::Outline)],
        ),
    ];
    blocks.push(Block::Heading("Curves".into()));
    for (plot, lines) in drawn {
        let lines: Vec<Line> =
            lines.iter().map(|(name, value, layer)| Line { name, frequency: f, value, layer: *layer }).collect();
        blocks.extend(plot.drawn(&lines).map(Block::Plot));
    }
    blocks
}

/// Highest levels; where no limit rules there is no number.
fn unlimited(list: &[Option<f64>]) -> Vec<f64> {
    list.iter().map(|v| v.unwrap_or(f64::NAN)).collect()
}

fn airway(evaluation: &Evaluation) -> Vec<Block> {
    let mut blocks = Vec::new();
    for (i, p) in evaluation.ports.iter().enumerate() {
        let name = if evaluation.ports.len() > 1 { format!("Port {}", i + 1) } else { "Port".into() };
        let reach = if p.out_of_reach { ", which is out of reach of any real tube" } else { "" };
        blocks.push(Block::Words(
            format!(
                "{name}: {:.0} long from opening to opening, {:.1} of opening; tuned to {:.1} Hz{reach}; first pipe resonance {:.0} Hz; held against {:.0} m/s.",
                mm(p.length_mm),
                square_cm(p.area_cm2),
                p.tuning_hz,
                p.first_pipe_resonance_hz,
                p.air_limit_m_per_s
            )
            .into(),
        ));
    }
    if let Some(path) = &evaluation.path {
        blocks.push(Block::Words(
            format!("Path: {:.0} along its centre line; folded it takes about {:.0} with chambers and boards (an estimate).", mm(path.length_mm), litres(path.room_l)).into(),
        ));
    }
    blocks.extend(
        evaluation
            .summary
            .steps
            .iter()
            .map(|s| Block::Words(format!("{} gives {:.1} Hz.", s.title, s.tuning_hz).into())),
    );
    if let Some(speed) = evaluation.summary.fastest_air_m_per_s {
        blocks.push(Block::Words(format!("The fastest air at this drive: {speed:.1} m/s, peak.").into()));
    }
    blocks
}

fn ledger(evaluation: &Evaluation) -> Vec<Block> {
    let Some(ledger) = &evaluation.ledger else { return Vec::new() };
    let mut rows = vec![["air", "", ""].map(Text::from).to_vec()];
    for line in &ledger.lines {
        rows.push(vec![line.label.clone(), format!("{:.2}", litres(line.litres)).into(), Text::default()]);
    }
    rows.push(vec!["left for the air".into(), format!("{:.2}", litres(ledger.net_l)).into(), Text::default()]);
    rows.push(vec![
        "with the fill it acts like".into(),
        format!("{:.2}", litres(ledger.acts_like_l)).into(),
        format!("times {:.3}", ledger.fill_factor).into(),
    ]);
    rows.push(vec!["the design wants".into(), format!("{:.2}", litres(ledger.wanted_net_l)).into(), Text::default()]);
    vec![Block::Table { widths: vec![3.0, 1.2, 1.2], rows }]
}

fn drive(analysis: &Analysis, drive: Option<Block>, chain: Option<Block>) -> Vec<Block> {
    let mut blocks: Vec<Block> = drive.into_iter().collect();
    if let Some(chain) = chain {
        blocks.push(Block::Heading("Chain".into()));
        blocks.push(chain);
    }
    blocks.extend(card(analysis));
    blocks
}

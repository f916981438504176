//! What was measured beside what the model says.

use crate::plot::{Line, Plot};
use crate::told::Told;
use oak_drum_cabinet::drawing::Layer;
use oak_drum_design::prove::view::{DrawnCurve, compared};
use oak_drum_paper::Block;

/// This part.
pub fn part(told: &Told) -> Vec<Block> {
    let mut blocks = vec![Block::Part("Measured against predicted".into())];
    let found = compared(told.design, told.measured).unwrap_or_default();
    if found.is_empty() {
        blocks
            .push(Block::Words("Nothing was measured of this revision yet: all figures here are predictions.".into()));
        return blocks;
    }
    blocks.push(Block::Words("The strong line is what was measured, the dashed one what the model says.".into()));
    for (one, proved) in told.measured.iter().zip(&found) {
        let about = &one.about;
        let name = if about.name.is_empty() { "A measurement" } else { about.name.as_str() };
        blocks.push(Block::Heading(name.into()));
        let with: Vec<String> = [("by", &about.by), ("on", &about.on), ("with", &about.with)]
            .into_iter()
            .filter(|(_, what)| !what.is_empty())
            .map(|(how, what)| format!("{how} {what}"))
            .collect();
        if !with.is_empty() {
            blocks.push(Block::Words(oak_drum_text::capital(&format!("{}.", with.join(", "))).into()));
        }
        blocks.push(Block::Words(proved.sentence.clone()));
        let measured = DrawnCurve::of(&one.curve);
        let impedance = about.taken.is_impedance();
        let offset =
            proved.deviation.as_ref().map_or(0.0, |d| if impedance || about.absolute { 0.0 } else { d.offset_db });
        let raised: Vec<f64> = measured.magnitude.iter().map(|v| v - offset).collect();
        let (first, last) = (measured.frequency_hz.first(), measured.frequency_hz.last());
        let span = [first.copied().unwrap_or(10.0).max(5.0), last.copied().unwrap_or(1000.0).min(1000.0)];
        let plot = Plot {
            title: "",
            note: if offset.abs() > 0.05 {
                format!("{offset:+.1} dB are taken off what was measured.")
            } else {
                String::new()
            },
            unit: if impedance { "ohm" } else { "dB" },
            limits: Vec::new(),
            least: if impedance { 5.0 } else { 20.0 },
            from_zero: impedance,
            span,
        };
        let mut lines =
            vec![Line { name: "", frequency: &measured.frequency_hz, value: &raised, layer: Layer::Outline }];
        if let Some(p) = &proved.predicted {
            lines.push(Line { name: "", frequency: &p.frequency_hz, value: &p.magnitude, layer: Layer::Hidden });
        }
        if span[1] > span[0] {
            blocks.extend(plot.drawn(&lines).map(Block::Plot));
        }
        blocks.extend((!about.notes.is_empty()).then(|| Block::Words(about.notes.as_str().into())));
    }
    blocks
}

//! Curves over frequency as drawings.

use oak_drum_cabinet::drawing::{Anchor, Drawing, Item, Layer};

/// Width of the plot's field, mm.
const WIDE: f64 = 150.0;
/// Height of it, mm.
const HIGH: f64 = 52.0;
/// Height of its words, mm.
const WORDS: f64 = 2.6;

/// A curve of a plot.
#[derive(Clone, Debug)]
pub struct Line<'a> {
    /// What it is called at its end; may be empty.
    pub name: &'a str,
    /// Frequencies, Hz.
    pub frequency: &'a [f64],
    /// Values; what is no number is left out.
    pub value: &'a [f64],
    /// How it is drawn: [`Layer::Outline`] strong, [`Layer::Hidden`] in dashes, [`Layer::Dimension`] thin.
    pub layer: Layer,
}

/// A plot.
#[derive(Clone, Debug)]
pub struct Plot<'a> {
    /// What it shows.
    pub title: &'a str,
    /// What to mind; may be empty.
    pub note: String,
    /// Unit of the values.
    pub unit: &'a str,
    /// Limits: what each is called, and its value.
    pub limits: Vec<(String, f64)>,
    /// The least range shown, in the unit.
    pub least: f64,
    /// Whether zero belongs to it.
    pub from_zero: bool,
    /// Frequencies it goes from and to, Hz.
    pub span: [f64; 2],
}

/// A step of 1, 2 or 5 of a power of ten, of which at most so many fit into a range.
fn step(range: f64, most: f64) -> f64 {
    let raw = (range / most).max(1e-9);
    let ten = 10f64.powf(raw.log10().floor());
    [1.0, 2.0, 5.0, 10.0].into_iter().map(|k| k * ten).find(|s| *s >= raw * 0.999).unwrap_or(10.0 * ten)
}

/// Whole frequencies that are written at the foot.
const MARKED: [f64; 12] = [5.0, 10.0, 20.0, 30.0, 50.0, 100.0, 200.0, 300.0, 500.0, 1000.0, 5000.0, 10_000.0];

impl Plot<'_> {
    /// The plot of curves; `None` where there is nothing to draw.
    pub fn drawn(&self, lines: &[Line]) -> Option<Drawing> {
        let [from, to] = self.span;
        let inside = |f: f64| f >= from * 0.999 && f <= to * 1.001;
        let seen =
            lines.iter().flat_map(|l| l.frequency.iter().zip(l.value)).filter(|(f, v)| inside(**f) && v.is_finite());
        let (mut low, mut high) = (f64::INFINITY, f64::NEG_INFINITY);
        for (_, v) in seen {
            low = low.min(*v);
            high = high.max(*v);
        }
        if !low.is_finite() {
            return None;
        }
        // a limit is shown where it is near enough to tell
        let near: Vec<&(String, f64)> =
            self.limits.iter().filter(|l| l.1 <= high + 1.5 * (high - low).max(self.least)).collect();
        for (_, value) in &near {
            low = low.min(*value);
            high = high.max(*value);
        }
        if self.from_zero {
            low = low.min(0.0);
        }
        if high - low < self.least {
            if self.from_zero { high = low + self.least } else { low = high - self.least }
        }
        let tick = step(high - low, 6.0);
        let (low, high) = ((low / tick).floor() * tick, ((high / tick).ceil() * tick).max(low + tick));
        let x = |f: f64| (f / from).ln() / (to / from).ln() * WIDE;
        let y = |v: f64| (v - low) / (high - low) * HIGH;

        let title = if self.title.is_empty() { self.unit.to_owned() } else { format!("{}, {}", self.title, self.unit) };
        let mut d = Drawing::new(title, WORDS);
        d.note.clone_from(&self.note);
        let count = ((high - low) / tick).round() as usize;
        for i in 0..=count {
            let v = low + tick * i as f64;
            d.add(Layer::Grid, Item::Line([0.0, y(v)], [WIDE, y(v)]));
            let digits = if tick < 1.0 { (-tick.log10()).ceil() as usize } else { 0 };
            d.word([-1.5, y(v) - 0.35 * WORDS], format!("{v:.digits$}"), Anchor::End);
        }
        for f in MARKED.into_iter().filter(|f| inside(*f)) {
            d.add(Layer::Grid, Item::Line([x(f), 0.0], [x(f), HIGH]));
            let words = if f >= 1000.0 { format!("{} k", f / 1000.0) } else { format!("{f}") };
            d.word([x(f), -1.4 * WORDS], words, Anchor::Middle);
        }
        d.word([WIDE, -2.7 * WORDS], "Hz", Anchor::End);
        for (name, value) in near {
            d.add(Layer::Centre, Item::Line([0.0, y(*value)], [WIDE, y(*value)]));
            d.word([WIDE - 1.0, y(*value) + 0.8], name.as_str(), Anchor::End);
        }
        for line in lines {
            let mut run: Vec<[f64; 2]> = Vec::new();
            let mut end = None;
            for (f, v) in line.frequency.iter().zip(line.value) {
                if inside(*f) && v.is_finite() {
                    run.push([x(*f), y(*v)]);
                    end = Some([x(*f), y(*v)]);
                } else if run.len() > 1 {
                    d.add(line.layer, Item::Run(std::mem::take(&mut run)));
                } else {
                    run.clear();
                }
            }
            if run.len() > 1 {
                d.add(line.layer, Item::Run(run));
            }
            if let (Some(end), false) = (end, line.name.is_empty()) {
                d.word([WIDE.min(end[0]) + 1.5, end[1] - 0.35 * WORDS], line.name, Anchor::Start);
            }
        }
        Some(d)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn steps_are_of_one_two_and_five() {
        assert_eq!([step(60.0, 6.0), step(13.0, 6.0), step(0.9, 6.0), step(24.0, 6.0)], [10.0, 5.0, 0.2, 5.0]);
    }

    #[test]
    fn a_curve_stands_where_its_numbers_are() {
        let plot = Plot {
            title: "t",
            note: String::new(),
            unit: "dB",
            limits: vec![("limit".into(), 100.0)],
            least: 10.0,
            from_zero: false,
            span: [10.0, 1000.0],
        };
        let (f, v) = ([10.0, 100.0, 1000.0], [60.0, 80.0, f64::NAN]);
        let line = Line { name: "A", frequency: &f, value: &v, layer: Layer::Outline };
        let d = plot.drawn(&[line]).unwrap();
        let run = d.items.iter().find_map(|(l, i)| match i {
            Item::Run(points) if *l == Layer::Outline => Some(points.clone()),
            _ => None,
        });
        // a decade is half of two; 60 to 80 of 60 to 100
        assert_eq!(run.unwrap(), [[0.0, 0.0], [75.0, 26.0]]);
        assert!(d.items.iter().any(|(_, i)| matches!(i, Item::Text(_, w, ..) if w == "limit")));
        let nothing = [f64::NAN; 3];
        assert!(plot.drawn(&[Line { name: "", frequency: &f, value: &nothing, layer: Layer::Outline }]).is_none());
    }
}

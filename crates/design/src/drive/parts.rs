//! Parts at the terminals, found by solving: passes for a wanted slope of the sound, a trap for a peak, a level impedance, a pad; and
//! what rounding them to preferred values does.
//!
//! With the woofers' impedance Zw and their level per volt known at each frequency a ladder's sound is known without solving the box
//! again: V_w = E·Zw/(A·Zw + B + Rs·(C·Zw + D)). What is minimised is ∫ (level - target)² d ln f by a search that halves its steps
//! (Hooke & Jeeves 1961, over the logarithms of the values).

use crate::analysis::Analysis;
use crate::drive::power::decibels;
use crate::finding::{rounded, value};
use num_complex::Complex64;
use oak_drum_acoustics::filters::low_pass::LowPass;
use oak_drum_acoustics::filters::slope::Slope;
use oak_drum_acoustics::filters::{Cascade, Filter};
use oak_drum_acoustics::ladder::preferred::Series;
use oak_drum_acoustics::ladder::winding::{Winding, winding};
use oak_drum_acoustics::ladder::{
    Component, Ladder, Part, Placement, Sort, capacitor, coil, resistor, series_notch, trap, zobel,
};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_acoustics::source::Source;
use oak_drum_document::{ChainPart, Change, MOST_PARTS};
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// What parts are wanted for.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(title = "Parts for")]
pub enum PartsWish {
    /// A low pass of one coil whose sound falls as wanted.
    #[schemars(title = "Low pass, one coil")]
    LowPassFirst {
        /// Where the sound is 3 dB down.
        #[schemars(title = "Corner", range(min = 20.0, max = 2000.0), extend("x-unit" = "Hz", "x-start" = 120.0))]
        corner_hz: f64,
    },
    /// A low pass of a coil and a capacitor whose sound falls as wanted.
    #[schemars(title = "Low pass, two parts")]
    LowPassSecond {
        /// Where the sound is 3 dB down.
        #[schemars(title = "Corner", range(min = 20.0, max = 2000.0), extend("x-unit" = "Hz", "x-start" = 120.0))]
        corner_hz: f64,
    },
    /// A trap in line that takes a peak away.
    #[schemars(title = "Trap for a peak")]
    Trap {
        /// Where the peak is.
        #[schemars(title = "Peak at", range(min = 15.0, max = 1000.0), extend("x-unit" = "Hz", "x-start" = 60.0))]
        peak_hz: f64,
    },
    /// R and C across the woofers that level the rise of their coils.
    #[schemars(title = "Level the coil's rise")]
    LevelCoil {},
    /// A series notch across the woofers that levels a sealed box's impedance peak.
    #[schemars(title = "Level the impedance peak")]
    LevelPeak {},
    /// Two resistors that make it softer and keep the load.
    #[schemars(title = "Pad")]
    Pad {
        /// How much softer.
        #[schemars(title = "Softer by", range(min = 0.1, max = 40.0), extend("x-unit" = "dB", "x-start" = 3.0))]
        softer_db: f64,
    },
}

/// Parts found.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PartsFound {
    /// The parts, from the amplifier on.
    pub parts: Vec<ChainPart>,
    /// The changes that add them before the woofers.
    pub changes: Vec<Change>,
    /// What they do, in a sentence.
    pub sentence: Text,
    /// What is left between what they do and what was wanted, rms, in the unit told.
    pub left: f64,
    /// Its unit: dB of level, or per cent of impedance.
    pub left_unit: String,
}

/// Why there are none, and at which field.
#[derive(Clone, Debug, PartialEq)]
pub struct NoParts {
    /// The field of the wish (JSON pointer).
    pub pointer: &'static str,
    /// What would do.
    pub message: Text,
}

/// The woofers as the ladder sees them.
struct Load {
    hz: Vec<f64>,
    impedance: Vec<Complex64>,
    /// Level with one volt at the terminals, dB.
    per_volt_db: Vec<f64>,
    resistance: f64,
}

impl Load {
    fn of(analysis: &Analysis, from: f64, to: f64) -> Load {
        let hz = log_frequencies(from, to, 49);
        let c = Sweep::new(&analysis.wired.network, analysis.conditions).curves(&hz);
        let volts = |i: usize| c.current[i].norm() * c.impedance[i].norm();
        let per_volt_db = (0..hz.len()).map(|i| c.level_db[i] - decibels(volts(i))).collect();
        Load { per_volt_db, impedance: c.impedance, resistance: analysis.design.chain.resistance(), hz }
    }

    /// Level through a ladder with one volt, dB.
    fn level(&self, ladder: &Ladder) -> Vec<f64> {
        let source = Source { ladder: ladder.clone(), ..Source::new(1.0, self.resistance) };
        (0..self.hz.len())
            .map(|i| {
                let there = source.terminals::<Complex64>(TAU * self.hz[i]);
                let z = self.impedance[i];
                self.per_volt_db[i] + decibels((there.voltage * z / (z + there.impedance)).norm())
            })
            .collect()
    }
}

/// Goes down from logarithms of a start by halving steps.
fn descend(start: &[f64], cost: impl Fn(&[f64]) -> f64) -> (Vec<f64>, f64) {
    let mut x: Vec<f64> = start.iter().map(|v| v.ln()).collect();
    let of = |x: &[f64]| cost(&x.iter().map(|v| v.exp()).collect::<Vec<_>>());
    let mut least = of(&x);
    let mut step = 0.5;
    while step > 1e-4 {
        let before = least;
        for k in 0..x.len() {
            for way in [step, -step] {
                let mut tried = x.clone();
                tried[k] += way;
                let there = of(&tried);
                if there < least {
                    (x, least) = (tried, there);
                    break;
                }
            }
        }
        if least >= before * (1.0 - 1e-9) {
            step *= 0.5;
        }
    }
    (x.into_iter().map(f64::exp).collect(), least)
}

fn mean_square(values: impl ExactSizeIterator<Item = f64>) -> f64 {
    let n = values.len() as f64;
    values.map(|v| v * v).sum::<f64>() / n
}

/// Resistance of the wire of a usual coil of an inductance (mH), Ω: 1.2 mm of copper wound in Brooks' shape.
fn wire_ohm(mh: f64) -> f64 {
    winding(mh * 1e-3, 1.2e-3).resistance_ohm
}

fn coil_of(mh: f64) -> Part {
    Part::Coil(coil::Coil { inductance_mh: rounded(mh), coil_ohm: rounded(wire_ohm(mh)) })
}

fn in_line(part: Part) -> ChainPart {
    ChainPart { placement: Placement::InLine, off: false, part, price: None }
}

fn across(part: Part) -> ChainPart {
    ChainPart { placement: Placement::Across, off: false, part, price: None }
}

fn ladder(parts: &[ChainPart]) -> Ladder {
    Ladder::of(parts.iter().map(|p| (p.placement, p.part)))
}

/// Parts for a wish.
///
/// # Errors
/// Where the chain is full, or a box has no such peak.
pub fn parts(analysis: &Analysis, wish: &PartsWish) -> Result<PartsFound, NoParts> {
    let present = &analysis.design.chain.parts;
    let re = analysis.wired.network.diaphragm.resistance();
    let (found, sentence, left, unit) = match *wish {
        PartsWish::LowPassFirst { corner_hz } => low_pass(analysis, corner_hz, false),
        PartsWish::LowPassSecond { corner_hz } => low_pass(analysis, corner_hz, true),
        PartsWish::Trap { peak_hz } => trap_for(analysis, peak_hz, re)?,
        PartsWish::LevelCoil {} => level_coil(analysis, re),
        PartsWish::LevelPeak {} => level_peak(analysis, re)?,
        PartsWish::Pad { softer_db } => pad(softer_db, re),
    };
    if present.len() + found.len() > MOST_PARTS {
        let message = format!("{} more parts are possible in this chain", MOST_PARTS - present.len());
        return Err(NoParts { pointer: "", message: message.into() });
    }
    // what levels the woofers stands next to them, what filters before it
    let levels = matches!(wish, PartsWish::LevelCoil {} | PartsWish::LevelPeak {} | PartsWish::Pad { .. });
    let all: Vec<&ChainPart> =
        if levels { present.iter().chain(&found).collect() } else { found.iter().chain(present).collect() };
    let changes = vec![Change::set("/chain/parts", value(all))];
    Ok(PartsFound { changes, parts: found, sentence, left, left_unit: unit.into() })
}

type Solved = (Vec<ChainPart>, Text, f64, &'static str);

fn low_pass(analysis: &Analysis, corner: f64, second: bool) -> Solved {
    let load = Load::of(analysis, corner / 3.0, corner * 3.0);
    let order = if second { 2 } else { 1 };
    let filter = Filter::LowPass(LowPass { frequency_hz: corner, slope: Slope::Butterworth { order } });
    let shape = Cascade::of([&filter]);
    // the sound without parts falls through the pass; its own slopes are no business of the coil
    let plain = load.level(&Ladder::default());
    let wanted: Vec<f64> = (0..load.hz.len()).map(|i| plain[i] + decibels(shape.at(load.hz[i]).norm())).collect();
    let of = |x: &[f64]| {
        let mut list = vec![in_line(coil_of(x[0]))];
        if second {
            list.push(across(Part::Capacitor(capacitor::Capacitor { capacitance_uf: x[1], loss_ohm: 0.0 })));
        }
        list
    };
    let cost = |x: &[f64]| {
        if !(0.01..=200.0).contains(&x[0]) || (second && !(0.1..=20_000.0).contains(&x[1])) {
            return f64::INFINITY;
        }
        let level = load.level(&ladder(&of(x)));
        mean_square((0..level.len()).map(|i| level[i] - wanted[i]))
    };
    let re = analysis.wired.network.diaphragm.resistance();
    let omega = TAU * corner;
    let start = [(re / omega * 1e3).clamp(0.02, 190.0), (1e6 / (omega * re)).clamp(0.2, 19_000.0)];
    let (x, least) = descend(&start[..if second { 2 } else { 1 }], cost);
    let x: Vec<f64> = x.into_iter().map(rounded).collect();
    let off = least.sqrt();
    let sentence = format!(
        "With the woofers' own impedance the sound falls by {} dB an octave about {corner:.0} Hz, within {off:.1} dB rms of what is meant.",
        6 * order
    );
    (of(&x), sentence.into(), off, "dB")
}

fn trap_for(analysis: &Analysis, peak: f64, re: f64) -> Result<Solved, NoParts> {
    let load = Load::of(analysis, peak / 2.0, peak * 2.0);
    let plain = load.level(&Ladder::default());
    let (first, last) = (plain[0], plain[plain.len() - 1]);
    // a straight line under the peak, from an octave below to an octave above
    let n = (plain.len() - 1) as f64;
    let line = |i: usize| first + (last - first) * i as f64 / n;
    let top = (0..plain.len()).map(|i| plain[i] - line(i)).fold(f64::NEG_INFINITY, f64::max);
    // over the middle of its sides half an octave and an octave away: a mere bend stands out a quarter as much at half the distance
    let middle = plain.len() / 2;
    let over = |away: usize| plain[middle] - 0.5 * (plain[middle - away] + plain[middle + away]);
    let (near, far) = (over(middle / 2), over(middle));
    if top < 0.5 || near < 0.45 * far {
        let message = format!(
            "there is no peak at {peak:.0} Hz: the level lies on a line from an octave below to an octave above"
        );
        return Err(NoParts { pointer: "/peak_hz", message: message.into() });
    }
    let of = |x: &[f64]| {
        vec![in_line(Part::Trap(trap::Trap {
            inductance_mh: x[0],
            coil_ohm: rounded(wire_ohm(x[0])),
            capacitance_uf: x[1],
            resistance_ohm: x[2],
        }))]
    };
    let cost = |x: &[f64]| {
        if !(0.01..=200.0).contains(&x[0]) || !(0.1..=20_000.0).contains(&x[1]) || !(0.05..=1000.0).contains(&x[2]) {
            return f64::INFINITY;
        }
        let level = load.level(&ladder(&of(x)));
        // a trap costs level at its sides too: what counts is how straight it gets
        let off: Vec<f64> = (0..level.len()).map(|i| level[i] - line(i)).collect();
        let mean = off.iter().sum::<f64>() / off.len() as f64;
        mean_square(off.iter().map(|o| o - mean))
    };
    let omega = TAU * peak;
    let r = re * (10f64.powf(top / 20.0) - 1.0).max(0.1);
    let start = [(r / omega * 1e3).clamp(0.02, 190.0), (1e6 / (omega * r)).clamp(0.2, 19_000.0), r];
    let (x, least) = descend(&start, cost);
    let x: Vec<f64> = x.into_iter().map(rounded).collect();
    let sentence = format!(
        "The peak of {top:.1} dB at {peak:.0} Hz is straightened to {:.1} dB rms from an octave below to an octave above.",
        least.sqrt()
    );
    Ok((of(&x), sentence.into(), least.sqrt(), "dB"))
}

/// How far an impedance is from a resistance, rms, as a share.
fn unlevel(load: &Load, parts: &[ChainPart], re: f64) -> f64 {
    let ladder = ladder(parts);
    let off = |i: usize| (ladder.matrix::<Complex64>(TAU * load.hz[i]).seen(load.impedance[i]) / re - 1.0).norm();
    mean_square((0..load.hz.len()).map(off)).sqrt()
}

fn level_coil(analysis: &Analysis, re: f64) -> Solved {
    let load = Load::of(analysis, 150.0, 2000.0);
    let of = |x: &[f64]| vec![across(Part::Zobel(zobel::Zobel { resistance_ohm: x[0], capacitance_uf: x[1] }))];
    let inside = |x: &[f64]| (0.01..=1000.0).contains(&x[0]) && (0.1..=20_000.0).contains(&x[1]);
    let cost = |x: &[f64]| if inside(x) { unlevel(&load, &of(x), re) } else { f64::INFINITY };
    let le = load.impedance[load.hz.len() / 2].im.max(0.01) / (TAU * load.hz[load.hz.len() / 2]);
    let (x, least) = descend(&[re, (le / (re * re) * 1e6).clamp(0.2, 19_000.0)], cost);
    let x: Vec<f64> = x.into_iter().map(rounded).collect();
    let before = unlevel(&load, &[], re);
    let sentence = format!(
        "From 150 to 2000 Hz the load then is {re:.1} ohm within {:.0} % rms, in place of {:.0} %.",
        least * 100.0,
        before * 100.0
    );
    (of(&x), sentence.into(), least * 100.0, "%")
}

/// L = Re·Qec/ωc, C = 1/(ωc·Qec·Re), R = Re·(1 + Qec/Qmc) of a sealed box (Leach, JAES 50 (2002), from memory): begun there and fitted
/// to the box with its losses.
fn level_peak(analysis: &Analysis, re: f64) -> Result<Solved, NoParts> {
    let figure = |id: &str| analysis.wired.figures.iter().find(|f| f.id == id).map(|f| f.value);
    let Some(fc) = figure("fc_hz") else {
        let message = "only a sealed box has one peak that one notch levels";
        return Err(NoParts { pointer: "", message: message.into() });
    };
    let load = Load::of(analysis, fc / 4.0, fc * 4.0);
    let ts = &analysis.context.array.ts;
    let qec = ts.qes * fc / ts.fs;
    let top = load.impedance.iter().map(|z| z.norm()).fold(0.0, f64::max);
    let qmc = qec * (top / re - 1.0).max(0.2);
    let omega = TAU * fc;
    let of = |x: &[f64]| {
        vec![across(Part::SeriesNotch(series_notch::SeriesNotch {
            inductance_mh: x[0],
            coil_ohm: 0.0,
            capacitance_uf: x[1],
            resistance_ohm: x[2],
        }))]
    };
    let inside = |x: &[f64]| {
        (0.01..=200.0).contains(&x[0]) && (0.1..=20_000.0).contains(&x[1]) && (0.01..=1000.0).contains(&x[2])
    };
    let cost = |x: &[f64]| if inside(x) { unlevel(&load, &of(x), re) } else { f64::INFINITY };
    let start = [re * qec / omega * 1e3, 1e6 / (omega * qec * re), re * (1.0 + qec / qmc)];
    let (x, least) = descend(&start, cost);
    let mut x: Vec<f64> = x.into_iter().map(rounded).collect();
    // the wire's resistance is part of what is wanted
    let wire = rounded(wire_ohm(x[0])).min(x[2]);
    x[2] = rounded((x[2] - wire).max(0.0));
    let found = vec![across(Part::SeriesNotch(series_notch::SeriesNotch {
        inductance_mh: x[0],
        coil_ohm: wire,
        capacitance_uf: x[1],
        resistance_ohm: x[2],
    }))];
    let sentence = format!(
        "About the peak at {fc:.0} Hz the load then is {re:.1} ohm within {:.0} % rms, in place of {:.0} %.",
        least * 100.0,
        unlevel(&load, &[], re) * 100.0
    );
    Ok((found, sentence.into(), least * 100.0, "%"))
}

/// Series R(1 - k), across R·k/(1 - k), k = 10^(-a/20): the load stays R where the woofers are R.
fn pad(softer: f64, re: f64) -> Solved {
    let k = 10f64.powf(-softer / 20.0);
    let part = |ohm: f64| Part::Resistor(resistor::Resistor { resistance_ohm: ohm.clamp(0.01, 1000.0) });
    let list = vec![in_line(part(rounded(re * (1.0 - k)))), across(part(rounded(re * k / (1.0 - k))))];
    let sentence = format!(
        "{softer:.1} dB softer where the woofers are {re:.1} ohm; at their impedance peaks less, so the shape changes. It turns power to heat."
    );
    (list, sentence.into(), 0.0, "dB")
}

/// What rounding every value to a series does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Snapped {
    /// The series.
    pub series: Series,
    /// The changes that take the rounded values.
    pub changes: Vec<Change>,
    /// Most that the level changes from 10 to 1 000 Hz, dB.
    pub off_db: f64,
}

/// Every value of every part, rounded to a series.
pub fn snapped(analysis: &Analysis, series: Series) -> Option<Snapped> {
    let mut written = value(&analysis.design.chain.parts);
    let list = written.as_array_mut().filter(|l| !l.is_empty())?;
    for part in list {
        let Some(fields) = part.get_mut("part").and_then(|p| p.as_object_mut()) else { continue };
        for field in ["inductance_mh", "capacitance_uf", "resistance_ohm"] {
            if let Some(x) = fields.get(field).and_then(|v| v.as_f64()).filter(|x| *x > 0.0) {
                fields.insert(field.into(), value(series.nearest(x)));
            }
        }
    }
    let changes = vec![Change::set("/chain/parts", written)];
    let hz = log_frequencies(10.0, 1000.0, 97);
    let after = analysis.at_frequencies(&changes, &hz)?;
    let before = analysis.at_frequencies(&[], &hz)?;
    let off = after.curves().level_db.iter().zip(&before.curves().level_db).map(|(a, b)| (a - b).abs());
    Some(Snapped { series, changes, off_db: off.fold(0.0, f64::max) })
}

/// A coil of a chain, to be wound from usual wires.
pub fn windings(inductance_mh: f64) -> Vec<Winding> {
    [0.8e-3, 1.0e-3, 1.2e-3, 1.4e-3, 2.0e-3].map(|wire| winding(inductance_mh * 1e-3, wire)).to_vec()
}

/// A part in words, as one buys it: what it is made of, with values.
pub fn in_words(part: &Part) -> String {
    let one = |c: &Component| {
        let value = (c.in_field() * 1e4).round() / 1e4;
        match c.sort {
            Sort::Coil if c.resistance > 0.0 => {
                format!("coil {value} mH, at most {} ohm", (c.resistance * 1e3).round() / 1e3)
            }
            Sort::Coil => format!("coil {value} mH"),
            Sort::Capacitor => format!("capacitor {value} µF"),
            Sort::Resistor => format!("resistor {value} ohm"),
        }
    };
    let made_of: Vec<String> = part.made_of().of.iter().map(one).collect();
    made_of.join("; ")
}

//! Power and heat of a programme: what the amplifier gives, what warms the coil, what a battery lasts. All of it follows from the
//! programme's spectrum through the filters, one sine at the middle of each third of an octave.

use crate::analysis::Analysis;
use crate::drive::power::nominal;
use crate::enclosure::figures::efficiency;
use oak_drum_acoustics::air::AirSpec;
use oak_drum_acoustics::amplifier::EFFICIENCY;
use oak_drum_acoustics::heat::{COLD, COPPER, HeatPath, programme_volts};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::{Curves, Limits, Sweep};
use oak_drum_document::{Checked, Chemistry};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Power and heat of a design's programme.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PowerView {
    /// Voltage of the programme out of the filters, V rms: its peaks reach those of a sine at the present drive, or where that is
    /// less, at the amplifier's most.
    pub programme_v: f64,
    /// Where each watt goes while it plays with a cold coil, from the supply to the sound.
    pub flow: Vec<FlowStep>,
    /// The coil; absent where no rated power is stated, from which the way of its heat is estimated.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub coil: Option<CoilHeat>,
    /// What a battery lasts; absent where no amplifier is stated.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub supply: Option<SupplyView>,
    /// The amplifier worth having: more costs less than 1 dB on average; absent where nothing else limits.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub worth: Option<Worth>,
}

/// One step of the way of power.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FlowStep {
    /// What it is: "taken from the supply", "out of the amplifier", "lost in leads and parts", "heat in the coils", "sound".
    pub title: String,
    /// Power, W.
    pub watts: f64,
}

/// How far the coil warms: an estimate.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct CoilHeat {
    /// Air around it, °C.
    pub air_c: f64,
    /// Times, min.
    pub minutes: Vec<f64>,
    /// Temperature of the coil then, °C.
    pub coil_c: Vec<f64>,
    /// After the programme's time, °C.
    pub after_c: f64,
    /// Where it comes to rest, °C.
    pub rest_c: f64,
    /// Heat in all coils at that rest, W.
    pub rest_w: f64,
    /// Frequencies, Hz.
    pub frequency_hz: Vec<f64>,
    /// What heat takes of the level after the programme's time, dB.
    pub compression_db: Vec<f64>,
    /// Highest level a sine may have at those frequencies with the coil cold, dB; `null` where nothing limits.
    pub max_level_db: Vec<Option<f64>>,
    /// The same with the coil as warm as it gets.
    pub max_level_hot_db: Vec<Option<f64>>,
    /// The same on the average of the programme's power, dB.
    pub mean_compression_db: f64,
}

/// What the supply has to give.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct SupplyView {
    /// Taken while it plays, W.
    pub playing_w: f64,
    /// Taken while it is silent, W.
    pub idle_w: f64,
    /// Energy for the programme's time, Wh.
    pub needed_wh: f64,
    /// A battery's capacity that gives it, Wh: lithium, then lead.
    pub capacity_wh: [f64; 2],
    /// How long the stated battery lasts, h; absent without one, or where its charger gives as much as is taken.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lasts_h: Option<f64>,
    /// Whether the charger alone would do.
    pub endless: bool,
    /// What a box that is 3 dB louder for the same watts would need, Wh.
    pub if_3_db_more_efficient_wh: f64,
}

/// The amplifier worth having.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Worth {
    /// Its highest voltage, V rms.
    pub volts: f64,
    /// As watts into the nominal impedance; absent where none is stated.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub nominal_w: Option<f64>,
    /// Least load it has to carry, Ω.
    pub lowest_load_ohm: f64,
}

/// Temperatures the heat is computed at, the rest between them, °C.
const TEMPERATURES: [f64; 7] = [20.0, 60.0, 100.0, 150.0, 200.0, 280.0, 400.0];
/// Points of the warming curve.
const POINTS: usize = 49;

/// A programme through a design: its thirds of an octave with the power of each at the amplifier's output, V².
struct Programme {
    hz: Vec<f64>,
    volts_sqr: Vec<f64>,
}

impl Programme {
    fn of(analysis: &Analysis, volts: f64) -> Programme {
        let programme = &analysis.design.programme;
        let bands = programme.spectrum.bands(programme.from_hz, analysis.design.programme_to());
        let filters = &analysis.context.source.filters;
        let weighed: Vec<f64> = bands.iter().map(|(f, share)| share * filters.at(*f).norm_sqr()).collect();
        let sum: f64 = weighed.iter().sum::<f64>().max(1e-300);
        Programme {
            hz: bands.iter().map(|b| b.0).collect(),
            volts_sqr: weighed.iter().map(|w| volts * volts * w / sum).collect(),
        }
    }

    /// Sums a quantity that goes with the square of the voltage, given for curves drawn at the design's drive.
    fn sum(&self, curves: &Curves, each: impl Fn(usize) -> f64) -> f64 {
        (0..self.hz.len())
            .map(|i| {
                let emf = curves.emf[i].norm_sqr();
                if emf > 0.0 { each(i) * self.volts_sqr[i] / emf } else { 0.0 }
            })
            .sum()
    }
}

fn sweep(analysis: &Analysis, hz: &[f64]) -> Curves {
    Sweep::new(&analysis.wired.network, analysis.conditions).with_each_opening().curves(hz)
}

/// Heat in the coils and level at frequencies, with the coil at a temperature (°C).
fn hot(analysis: &mut Analysis, cold: f64, temperature: f64, hz: &[f64]) -> Curves {
    analysis.wired.network.diaphragm.motor.coil.re = cold * (1.0 + COPPER * (temperature - COLD));
    let curves = sweep(analysis, hz);
    analysis.wired.network.diaphragm.motor.coil.re = cold;
    curves
}

/// Power and heat of a design's programme.
pub fn power(design: &Checked) -> PowerView {
    let analysis = Analysis::of(design);
    let chain = &design.chain;
    let most = chain.amplifier_on().map_or(f64::INFINITY, |a| a.volts());
    let volts = programme_volts(analysis.context.source.volts.min(most), design.programme.crest_db);
    let path = design.woofer.power_w.map(|p| HeatPath::estimated(p * f64::from(design.array.count)));
    let air = match design.air {
        AirSpec::Weather { temperature_c, .. } => temperature_c,
        AirSpec::Given { .. } => COLD,
    };
    told(analysis, volts, path, air)
}

/// The same with the voltage, the way of the heat and the air stated.
pub fn told(mut analysis: Analysis, volts: f64, path: Option<HeatPath>, air: f64) -> PowerView {
    let programme = Programme::of(&analysis, volts);
    let resistance = analysis.wired.network.diaphragm.resistance();
    let cold = analysis.wired.network.diaphragm.motor.coil.re;
    let c = sweep(&analysis, &programme.hz);
    let out = programme.sum(&c, |i| c.amplifier_current[i].norm_sqr() * c.load[i].re);
    let behind = programme.sum(&c, |i| {
        let leads = analysis.context.source.resistance
            - analysis.design.chain.amplifier_on().map_or(0.0, |a| a.output_resistance_ohm);
        c.amplifier_current[i].norm_sqr() * leads
    });
    let heat = programme.sum(&c, |i| c.current[i].norm_sqr() * resistance);
    let shares = efficiency(&analysis, &c);
    let taken = |i: usize| c.current[i].norm_sqr() * c.impedance[i].re;
    let sound = (!shares.is_empty()).then(|| programme.sum(&c, |i| taken(i) * shares[i] / 100.0));
    let into_woofers = programme.sum(&c, taken);
    let supply = supply(&analysis, out + behind);
    let mut flow = Vec::new();
    let mut add = |title: &str, watts: f64| flow.push(FlowStep { title: title.into(), watts });
    if let Some(supply) = &supply {
        add("taken from the supply", supply.playing_w);
    }
    add("out of the amplifier", out + behind);
    add("lost in leads and parts", out + behind - into_woofers);
    add("heat in the coils", heat);
    if let Some(sound) = sound {
        add("sound", sound);
    }
    let coil = path.map(|path| coil_heat(&mut analysis, &programme, &path, air, (cold, resistance)));
    let worth = worth(&analysis);
    PowerView { programme_v: volts, flow, coil, supply, worth }
}

fn coil_heat(
    analysis: &mut Analysis,
    programme: &Programme,
    path: &HeatPath,
    air: f64,
    (cold, resistance): (f64, f64),
) -> CoilHeat {
    let table: Vec<f64> = TEMPERATURES
        .iter()
        .map(|t| {
            let c = hot(analysis, cold, *t, &programme.hz);
            let warm = resistance * (1.0 + COPPER * (t - COLD));
            programme.sum(&c, |i| c.current[i].norm_sqr() * warm)
        })
        .collect();
    // a smooth, slow function: a polynomial through the seven
    let heat = |t: f64| {
        (0..table.len())
            .map(|i| {
                let others = (0..table.len()).filter(|j| *j != i);
                table[i] * others.map(|j| (t - TEMPERATURES[j]) / (TEMPERATURES[i] - TEMPERATURES[j])).product::<f64>()
            })
            .sum::<f64>()
    };
    let within = |t: f64| heat(t.clamp(TEMPERATURES[0] - 40.0, TEMPERATURES[TEMPERATURES.len() - 1]));
    let rest = path.rest(air, within);
    let lasts = analysis.design.programme.minutes;
    let mut minutes = vec![0.0];
    minutes.extend(log_frequencies(lasts.min(0.1), lasts.max(0.2), POINTS - 1));
    let seconds: Vec<f64> = minutes.iter().map(|m| m * 60.0).collect();
    let coil_c = path.warming(air, within, &seconds);
    let after = coil_c[coil_c.len() - 1];
    let hz = log_frequencies(10.0, 1000.0, 97);
    let (before, hot_level) = (sweep(analysis, &hz), hot(analysis, cold, after, &hz));
    let limited = |c: &Curves| c.max_level_db.iter().map(|l| Some(*l).filter(|l| l.is_finite())).collect();
    let compression = before.level_db.iter().zip(&hot_level.level_db).map(|(a, b)| a - b).collect();
    let (bands, bands_hot) = (sweep(analysis, &programme.hz), hot(analysis, cold, after, &programme.hz));
    let power = |c: &Curves| programme.sum(c, |i| c.sum[i].norm_sqr());
    CoilHeat {
        air_c: air,
        minutes,
        coil_c,
        after_c: after,
        rest_c: rest,
        rest_w: within(rest),
        frequency_hz: hz,
        compression_db: compression,
        max_level_db: limited(&before),
        max_level_hot_db: limited(&hot_level),
        mean_compression_db: 10.0 * (power(&bands) / power(&bands_hot)).log10(),
    }
}

fn supply(analysis: &Analysis, out: f64) -> Option<SupplyView> {
    let chain = &analysis.design.chain;
    let amplifier = chain.amplifier_on()?;
    let share = amplifier.efficiency.unwrap_or(EFFICIENCY);
    let idle = amplifier.idle_w.unwrap_or(0.0);
    let hours = analysis.design.programme.minutes / 60.0;
    let of = |out: f64| out / share + idle;
    let playing = of(out);
    let needed = playing * hours;
    let battery = chain.battery;
    let net = battery.map_or(0.0, |b| playing - b.charger_w.unwrap_or(0.0));
    let lasts = battery.filter(|_| net > 0.0).map(|b| b.capacity_wh * b.chemistry.usable() / net);
    Some(SupplyView {
        playing_w: playing,
        idle_w: idle,
        needed_wh: needed,
        capacity_wh: [Chemistry::Lithium, Chemistry::Lead].map(|c| needed / c.usable()),
        lasts_h: lasts,
        endless: battery.is_some() && net <= 0.0,
        if_3_db_more_efficient_wh: of(out / 2.0) * hours,
    })
}

/// What an amplifier costs on average over ln f, dB, by its voltage: mean of 20 log max(1, E_lim/E), E_lim what the other limits
/// allow.
pub(super) struct Room {
    volts: Vec<f64>,
    /// Least load it has to carry, Ω.
    pub(super) lowest_load: f64,
}

impl Room {
    /// What a design's limits other than the amplifier's allow; `None` where nothing else limits somewhere.
    pub(super) fn of(analysis: &Analysis) -> Option<Room> {
        let limits = Limits { volts: None, amperes: None, ..analysis.conditions.limits };
        let conditions = oak_drum_acoustics::outputs::Conditions { limits, ..analysis.conditions };
        let programme = &analysis.design.programme;
        let hz = log_frequencies(programme.from_hz, analysis.design.programme_to(), 61);
        let c = Sweep::new(&analysis.wired.network, conditions).curves(&hz);
        let volts: Vec<f64> = c.headroom.iter().zip(&c.emf).map(|(g, e)| g * e.norm()).collect();
        let lowest_load = c.load.iter().map(|z| z.norm()).fold(f64::INFINITY, f64::min);
        volts.iter().all(|v| v.is_finite()).then_some(Room { volts, lowest_load })
    }

    /// What an amplifier of so many volts costs, dB; the frequencies are evenly spaced in ln f, so the ends count half.
    pub(super) fn cost(&self, e: f64) -> f64 {
        let each = self.volts.iter().map(|v| 20.0 * (v / e).max(1.0).log10());
        let n = self.volts.len() - 1;
        each.enumerate().map(|(i, db)| if i == 0 || i == n { 0.5 * db } else { db }).sum::<f64>() / n as f64
    }
}

/// The voltage at which an amplifier costs 1 dB on average.
fn worth(analysis: &Analysis) -> Option<Worth> {
    let room = Room::of(analysis)?;
    let (mut low, mut high) = (1e-3, room.volts.iter().copied().fold(0.0, f64::max));
    if room.cost(low) < 1.0 {
        return None;
    }
    for _ in 0..60 {
        let middle = 0.5 * (low + high);
        if room.cost(middle) > 1.0 { low = middle } else { high = middle }
    }
    Some(Worth {
        volts: high,
        nominal_w: nominal(analysis).map(|z| high * high / z),
        lowest_load_ohm: room.lowest_load,
    })
}

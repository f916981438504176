//! One woofer at hand, and one box tried for it.

use crate::Candidate;
use crate::goal::{Goal, PortAir};
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Arrangement, Array, CoilWiring, Resolved, wirings};
use oak_drum_acoustics::families::{Axis, Context, Enclosure, Wired, Wish, at, axes, rounded};
use oak_drum_acoustics::outputs::{Conditions, LimitingFactor, Limits, Sweep};
use oak_drum_document::{ArraySpec, Brief, Design, Drive, FORMAT, Listening, Programme, VERSION};

/// Thickness of the boards the outside volume is estimated with, m.
const BOARD: f64 = 0.018;
/// Inside proportions the outside volume and the room for a port are estimated with (a favoured ratio, common
/// practice).
const PROPORTIONS: [f64; 3] = [1.0, 1.17, 1.47];

/// What was computed for one box.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TriedBox {
    /// Highest level the limits allow at each frequency of the band, dB at the listener.
    pub highest_db: [f64; 16],
    /// Where the highest level is lowest in the band.
    pub worst: Worst,
    /// Highest less lowest level in the band, dB (small signal).
    pub swing_db: f64,
    /// Outside volume, estimated, L.
    pub outside_l: f64,
    /// Room left at the inner end of the longest port, m; negative where it does not fit, `None` without a port.
    pub room: Option<f64>,
}

/// The worst place of the band.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Worst {
    /// Highest level there, dB at the listener.
    pub level_db: f64,
    /// Where, Hz.
    pub frequency: f64,
    /// What limits it there.
    pub limiting: LimitingFactor,
}

/// Inside edges of a box of a volume (m³) in the usual proportions, m, the shortest first.
fn edges(inside: f64) -> [f64; 3] {
    let unit = (inside / PROPORTIONS.iter().product::<f64>()).cbrt();
    PROPORTIONS.map(|p| p * unit)
}

/// Outside volume of a box of 18 mm boards in the usual proportions around an inside volume, L; an estimate.
pub fn outside_l(inside_l: f64) -> f64 {
    edges(inside_l * 1e-3).iter().map(|e| e + 2.0 * BOARD).product::<f64>() * 1e3
}

/// Inside volume of such a box, L; 0 where the boards leave none.
pub fn inside_l(outside: f64) -> f64 {
    // the outside grows with the inside: halving finds it
    let (mut low, mut high) = (0.0, outside);
    for _ in 0..60 {
        let middle = 0.5 * (low + high);
        if outside_l(middle) > outside { high = middle } else { low = middle }
    }
    low
}

/// Air of a horn, m³: a line stands among the chambers already, a horn does not.
pub(crate) fn horn_volume(wired: &Wired) -> f64 {
    wired.path.as_ref().filter(|_| !wired.measured_by_efficiency).map_or(0.0, |p| p.path.volume())
}

/// A candidate made ready: woofers wired, limits known, bounds of the search set.
#[derive(Clone, Debug)]
pub struct Evaluator {
    /// Air, woofers and source.
    pub context: Context,
    /// The wiring taken.
    pub array: ArraySpec,
    /// What the search may choose.
    pub axes: Vec<Axis>,
    conditions: Conditions,
    band: [f64; 16],
    /// What a room adds in the band, dB.
    room: [f64; 16],
    displacement: f64,
}

/// Why a candidate is not tried.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Refusal {
    /// The sheet does not determine the woofer.
    Undetermined,
    /// Neither Xmax nor rated power, so no highest level.
    NoLimits,
    /// No wiring the amplifier can carry.
    NoWiring,
    /// The woofers alone fill the largest box.
    NoRoom,
    /// A family this program does not have.
    NoFamily,
}

/// The wiring with the lowest load the amplifier can carry: by nominal impedance where it is stated, else by four
/// fifths of its lowest load against the coils' resistance (IEC 60268-5). Without an amplifier all in parallel.
pub fn wiring(
    goal: &Goal,
    woofer: &Resolved,
    nominal: Option<f64>,
    count: u32,
    air: &Air,
) -> Option<(CoilWiring, u32)> {
    let each = woofer.ts.re * f64::from(woofer.coils);
    wirings(count, woofer.coils).into_iter().find(|&(coils, in_series)| {
        let Some(amplifier) = goal.chain.amplifier_on() else { return true };
        let arrangement = Arrangement { coils, in_series, ..Arrangement::plain(count) };
        let resistance = Array::new(woofer, air, &arrangement).resistance();
        match nominal {
            Some(nominal) => nominal * resistance / each >= amplifier.minimum_load_ohm * 0.99,
            None => resistance >= amplifier.minimum_load_ohm * 0.8,
        }
    })
}

impl Evaluator {
    /// Makes a candidate ready.
    ///
    /// # Errors
    /// Why it cannot be tried.
    pub fn new(goal: &Goal, candidate: &Candidate) -> Result<Evaluator, Refusal> {
        let air = Air::from(&goal.air);
        let sheet = candidate.woofer;
        let stated = goal.air.of_sheets();
        let woofer = sheet.resolve(&stated).map_err(|_| Refusal::Undetermined)?.in_air(&stated, &air);
        let (Some(xmax), Some(power)) = (sheet.xmax_mm, sheet.power_w) else { return Err(Refusal::NoLimits) };
        let (coils, in_series) =
            wiring(goal, &woofer, sheet.nominal_ohm, candidate.count, &air).ok_or(Refusal::NoWiring)?;
        let array = ArraySpec { count: candidate.count, coils, woofers_in_series: in_series, ..ArraySpec::default() };
        let source = goal.chain.source(2.83);
        let array_of = Array::new(&woofer, &air, &array.arrangement());
        let context = Context { stated, ..Context::new(air, array_of, source) };
        let count = f64::from(candidate.count);
        let displacement = sheet.displacement().map_or(0.0, |d| d.0) * count;
        let largest = inside_l(goal.largest_outside_l) - displacement;
        if largest <= 0.2 {
            return Err(Refusal::NoRoom);
        }
        let wish = Wish { lowest_note: goal.lowest_note_hz, largest_net: largest * 1e-3 };
        let limits = Limits {
            heat: Some(power * count),
            excursion: Some(xmax * 1e-3),
            volts: goal.chain.amplifier_on().map(|a| a.volts()),
            amperes: goal.chain.amplifier_on().map(|a| a.amperes()),
        };
        Ok(Evaluator {
            axes: axes(candidate.family, &context, &wish).ok_or(Refusal::NoFamily)?,
            conditions: Conditions { air, distance: goal.distance_m, solid_angle: goal.solid_angle, limits },
            context,
            array,
            band: goal.band(),
            room: goal.room(),
            displacement,
        })
    }

    /// The enclosure at a place of the search, each coordinate from 0 (least) to 1 (greatest).
    pub fn enclosure(&self, family: &str, place: &[f64]) -> Option<Enclosure> {
        at(family, &self.context, &self.values(place))
    }

    /// The same rounded to four digits: what can be written down without costing a tenth of a decibel.
    pub fn rounded_enclosure(&self, family: &str, place: &[f64]) -> Option<Enclosure> {
        let values: Vec<f64> = self.values(place).into_iter().map(|v| rounded(v, 4)).collect();
        at(family, &self.context, &values)
    }

    fn values(&self, place: &[f64]) -> Vec<f64> {
        let value = |(axis, x): (&Axis, &f64)| axis.low * (axis.high / axis.low).powf(x.clamp(0.0, 1.0));
        self.axes.iter().zip(place).map(value).collect()
    }

    /// Wires an enclosure; with a contest's port the air speed limits nothing.
    pub fn wire(&self, goal: &Goal, enclosure: &Enclosure) -> Wired {
        let mut wired = enclosure.wire(&self.context);
        if goal.port_air == PortAir::Contest {
            wired.network.radiators.iter_mut().for_each(|r| r.limit = None);
        }
        wired
    }

    /// Computes what the rules look at.
    pub fn try_box(&self, wired: &Wired) -> TriedBox {
        let mut curves = self.sweep(wired).curves(&self.band);
        for (i, added) in self.room.iter().enumerate() {
            curves.level_db[i] += added;
            curves.max_level_db[i] += added;
        }
        let worst = (0..self.band.len())
            .min_by(|&a, &b| curves.max_level_db[a].total_cmp(&curves.max_level_db[b]))
            .unwrap_or(0);
        let highest = curves.level_db.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        let lowest = curves.level_db.iter().copied().fold(f64::INFINITY, f64::min);
        let inside = self.inside_l(wired);
        let longest = edges(inside * 1e-3)[2];
        // a port keeps its own diameter clear at its inner end (common practice)
        let room = |p: &oak_drum_acoustics::families::PortReport| {
            let size = 2.0 * (p.realised.area / f64::from(p.port.count) / std::f64::consts::PI).sqrt();
            let reach = if p.realised.out_of_reach { longest } else { 0.0 };
            longest - p.realised.length - size - reach
        };
        let mut highest_db = [0.0; 16];
        highest_db.copy_from_slice(&curves.max_level_db);
        TriedBox {
            highest_db,
            worst: Worst {
                level_db: curves.max_level_db[worst],
                frequency: self.band[worst],
                limiting: curves.limiting[worst],
            },
            swing_db: highest - lowest,
            outside_l: outside_l(inside),
            room: wired.ports.iter().map(room).reduce(f64::min),
        }
    }

    /// A sweep of a wired box under the goal's conditions.
    pub fn sweep<'a>(&self, wired: &'a Wired) -> Sweep<'a> {
        Sweep::new(&wired.network, self.conditions)
    }

    /// Everything inside: air, horn, woofers, ports with their walls, L.
    fn inside_l(&self, wired: &Wired) -> f64 {
        let air: f64 = wired.chambers.iter().map(|c| c.net).sum();
        let ports: f64 = wired.ports.iter().map(|p| p.port.displacement(p.realised.length, 0.0)).sum();
        (air + ports + horn_volume(wired)) * 1e3 + self.displacement
    }

    /// The whole design, ready to be opened as a revision.
    pub fn design(&self, goal: &Goal, candidate: &Candidate, enclosure: Enclosure) -> Design {
        Design {
            format: FORMAT.into(),
            version: VERSION,
            name: String::new(),
            brief: Brief {
                lowest_note_hz: Some(goal.lowest_note_hz),
                level_db: Some(goal.level_db),
                distance_m: Some(goal.distance_m),
                largest_outside_l: Some(goal.largest_outside_l),
                ..Brief::default()
            },
            woofer: candidate.woofer.clone(),
            array: self.array,
            enclosure,
            cabinet: None,
            drive: Drive::default(),
            chain: goal.chain.clone(),
            programme: Programme::default(),
            room: None,
            listening: Listening { solid_angle: goal.solid_angle, ..Listening::default() },
            air: goal.air,
            frequencies_hz: None,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn outside_and_inside_undo_each_other() {
        for litres in [5.0, 62.0, 400.0] {
            assert!((inside_l(outside_l(litres)) / litres - 1.0).abs() < 1e-9);
        }
        // a box of 50 x 58.5 x 73.5 cm inside, the favoured ratio (common practice)
        assert!((outside_l(500.0 * 585.0 * 735.0 * 1e-6) - 536.0 * 621.0 * 771.0 * 1e-6).abs() < 1e-6);
    }
}

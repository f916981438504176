//! Seeking a goal within one design: what to hold, what to reach, and what it costs.
//!
//! The family says what may be turned ([`Enclosure::knobs`]); a coarse grid over them, then COBYLA (Powell 1994) from
//! its best places, with what is held as bounds. No chance is involved.

use crate::evaluator::{horn_volume, outside_l};
use oak_drum_acoustics::families::{Enclosure, Knob, rounded};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_acoustics::port::Port;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::room::heard::{gain, held_by_brief};
use oak_drum_document::{Checked, Design, lengths_along};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::cell::{Cell, RefCell};

/// What is sought.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Seek")]
pub struct Seek {
    /// What to reach.
    #[schemars(title = "Reach")]
    pub reach: Reach,
    /// Most air in all chambers, or in the line; absent leaves it free.
    #[schemars(title = "At most", range(min = 0.5, max = 20000.0), extend("x-unit" = "L"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub volume_l: Option<f64>,
    /// Greatest outside volume of a box of 18 mm boards around it in the usual proportions (an estimate); absent leaves it
    /// free.
    #[schemars(title = "Outside, at most", range(min = 1.0, max = 20000.0), extend("x-unit" = "L"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub outside_l: Option<f64>,
    /// Greatest length of a line or horn; absent leaves it free.
    #[schemars(title = "No longer than", range(min = 50.0, max = 30000.0), extend("x-unit" = "mm"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub length_mm: Option<f64>,
    /// Greatest group delay from the lowest note two octaves up; absent leaves it free.
    #[schemars(title = "Group delay under", range(min = 0.5, max = 500.0), extend("x-unit" = "ms"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub delay_ms: Option<f64>,
    /// Whether a straight port has to find room in a box of the usual proportions.
    #[schemars(title = "Port has to fit")]
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub port_fits: bool,
    /// The note everything is looked at from.
    #[schemars(title = "Lowest note", range(min = 5.0, max = 200.0), extend("x-unit" = "Hz"))]
    pub lowest_note_hz: f64,
}

/// What is to be reached.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Reach {
    /// The lowest f3, the level never more than 2 dB proud (6 in a line).
    LowestF3,
    /// The least swing of the level from the lowest note two octaves up.
    Flattest,
    /// The highest level the limits allow at the lowest note.
    Loudest,
    /// The least air that still has its f3 at the lowest note, never more than 2 dB proud (6 in a line).
    Smallest,
}

/// What is measured of a design.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Measures {
    /// Air in all chambers and the line, L.
    pub volume_l: f64,
    /// Outside volume of a box of 18 mm boards around air, woofers, ports and horn, L (an estimate).
    pub outside_l: f64,
    /// Length of the line or horn, mm; 0 without one.
    pub length_mm: f64,
    /// f3, Hz; absent where it is not reached.
    pub f3_hz: Option<f64>,
    /// Highest less lowest level from the lowest note two octaves up, dB; at the seats of its room where the brief is held to it.
    pub swing_db: f64,
    /// Highest level above the reference from half the lowest note to 300 Hz, dB.
    pub proud_db: f64,
    /// Longest port, mm; 0 without one.
    pub longest_port_mm: f64,
    /// The most that a port takes of the depth, the clear end it wants inside counted with its length, mm; 0 without one.
    pub port_depth_mm: f64,
    /// Highest level the limits allow at the lowest note, dB; without limits the level at this drive. Where the brief is held to its
    /// room, at the seats there.
    pub loudest_db: f64,
    /// Longest group delay from the lowest note two octaves up, ms.
    pub delay_ms: f64,
}

/// A point of the trade-off.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Trade {
    /// What was held: litres, or millimetres.
    pub held: f64,
    /// What was reached with it.
    pub measures: Measures,
    /// The enclosure.
    pub enclosure: Enclosure,
}

/// What came of it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Sought {
    /// The best enclosure found; absent where nothing keeps what is held.
    pub best: Option<Trade>,
    /// How the design stands now.
    pub now: Measures,
    /// Whether the trade-off holds a length (else a volume).
    pub by_length: bool,
    /// The same sought with other values held, the least first.
    pub trades: Vec<Trade>,
    /// Why nothing was found, in a sentence.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub reason: Option<String>,
}

/// Level above the reference that is still taken as flat, dB; a line's own resonances stand higher by nature.
const PROUD: f64 = 2.0;
const PROUD_OF_PATHS: f64 = 6.0;
/// A longer port is never taken, mm: nothing of the kind is built.
const LONGEST_PORT: f64 = 2000.0;
/// Behind a straight port and its clear end stands one board, mm; the depth is in the usual proportions the cube root of the outside,
/// of which two hundredths are left for what the estimate of the outside misses.
const BEHIND_PORT: f64 = 18.0;
const PORT_OF_DEPTH: f64 = 0.98;
/// Points of the coarse grid along each knob, by their number.
const GRID: [usize; 5] = [0, 24, 9, 5, 4];
/// Points of the trade-off.
const TRADES: usize = 9;
/// Parts of a search that are done after the grid, after the best and after the trade-off on its way up: estimates.
const GRID_PART: f64 = 0.3;
const BEST_PART: f64 = 0.5;
const BACK_PART: f64 = 0.85;
/// Starts refined for one question.
const STARTS: usize = 4;
/// How far a bound may be broken, as a share of it: the rounding of what is computed.
const KEPT: f64 = 1e-6;
/// By how much the search stays within its bounds, as a share of them, so that no rounding breaks them.
const MARGIN: f64 = 2e-4;

struct Seeker<'a> {
    design: &'a Design,
    knobs: Vec<Knob>,
    seek: Seek,
    /// What the room adds ([`room_of`]).
    room: &'a [f64],
    told: &'a Told<'a>,
}

/// Tells how far a search is: boxes tried, and which part of it is done (an estimate: no two steps take as long).
struct Told<'a> {
    tell: &'a dyn Fn(u32, f64),
    tried: Cell<u32>,
    part: Cell<f64>,
}

/// Boxes between two tellings.
const TOLD_EVERY: u32 = 8;

impl<'a> Told<'a> {
    fn by(tell: &'a dyn Fn(u32, f64)) -> Told<'a> {
        Told { tell, tried: Cell::new(0), part: Cell::new(0.0) }
    }
    fn tried(&self) {
        self.tried.set(self.tried.get() + 1);
        if self.tried.get().is_multiple_of(TOLD_EVERY) {
            (self.tell)(self.tried.get(), self.part.get());
        }
    }
}

#[derive(Clone, Debug)]
struct Found {
    place: Vec<f64>,
    measures: Measures,
    enclosure: Enclosure,
    cost: f64,
    broken: f64,
}

impl Found {
    fn better_than(&self, other: &Found) -> bool {
        match (self.broken > KEPT, other.broken > KEPT) {
            (false, false) => self.cost < other.cost,
            (true, true) => self.broken < other.broken,
            (mine, _) => !mine,
        }
    }
}

/// Frequencies of the band that swing, loudness and delay are looked at in, Hz.
fn band_of(lowest_note: f64) -> Vec<f64> {
    log_frequencies(lowest_note, lowest_note * 4.0, 24)
}

/// What the room a design's brief is held to adds in that band, dB; empty in the open. It depends on where things stand, hardly on
/// the box.
fn room_of(design: &Checked, lowest_note: f64) -> Vec<f64> {
    let analysis = Analysis::of(design);
    let conditions = &analysis.conditions;
    let added = |room| {
        let angle = conditions.solid_angle.steradians();
        gain(&analysis, room, &band_of(lowest_note), conditions.distance, angle)
    };
    held_by_brief(&analysis).map_or(Vec::new(), added)
}

/// Measures a design; in the room its brief is held to, if it is.
pub fn measures(design: &Checked, lowest_note: f64) -> Measures {
    measured(design, lowest_note, &room_of(design, lowest_note))
}

fn measured(design: &Checked, lowest_note: f64, room: &[f64]) -> Measures {
    let analysis = Analysis::of(design);
    let wide = log_frequencies(lowest_note * 0.5, 300f64.max(lowest_note * 4.0), 40);
    let everywhere = Sweep::new(&analysis.wired.network, analysis.conditions).curves(&wide).level_db;
    let band = band_of(lowest_note);
    let mut curves = Sweep::new(&analysis.wired.network, analysis.conditions).curves(&band);
    for (i, added) in room.iter().enumerate() {
        curves.level_db[i] += added;
        curves.max_level_db[i] += added;
    }
    let highest = curves.level_db.iter().copied().fold(f64::MIN, f64::max);
    let lowest = curves.level_db.iter().copied().fold(f64::MAX, f64::min);
    let limit = curves.max_level_db[0];
    let wired = &analysis.wired;
    let volume_l: f64 = wired.chambers.iter().map(|c| c.net * 1e3).sum();
    let woofers = design.woofer.displacement().map_or(0.0, |d| d.0) * f64::from(design.array.count);
    let ports: f64 = wired.ports.iter().map(|p| p.port.displacement(p.realised.length, 0.0) * 1e3).sum();
    let horn = horn_volume(wired) * 1e3;
    let longest = |more: fn(&Port) -> f64| -> f64 {
        wired.ports.iter().map(|p| (p.realised.length + more(&p.port)) * 1e3).fold(0.0, f64::max)
    };
    Measures {
        volume_l,
        outside_l: outside_l(volume_l + woofers + ports + horn),
        length_mm: analysis.wired.path.as_ref().map_or(0.0, |p| p.path.length() * 1e3),
        f3_hz: analysis.edges().edges[0],
        swing_db: highest - lowest,
        proud_db: everywhere.iter().copied().fold(analysis.edges().peak.0, f64::max) - analysis.edges().reference_db,
        longest_port_mm: longest(|_| 0.0),
        port_depth_mm: longest(|port| port.section.clearance()),
        loudest_db: if limit.is_finite() { limit } else { curves.level_db[0] },
        delay_ms: curves.group_delay.iter().copied().fold(0.0, f64::max) * 1e3,
    }
}

impl Seeker<'_> {
    fn values(&self, place: &[f64]) -> Vec<f64> {
        let value = |(k, x): (&Knob, &f64)| rounded(k.low * (k.high / k.low).powf(x.clamp(0.0, 1.0)), 4);
        self.knobs.iter().zip(place).map(value).collect()
    }

    fn enclosure(&self, place: &[f64]) -> Option<Enclosure> {
        let mut document = serde_json::to_value(&self.design.enclosure).ok()?;
        let before = length_of(&document);
        for (knob, value) in self.knobs.iter().zip(self.values(place)) {
            *document.pointer_mut(knob.pointer)? = value.into();
        }
        stretch(&mut document, before);
        let made: Enclosure = serde_json::from_value(document).ok()?;
        made.problems().is_empty().then_some(made)
    }

    /// How much of a bound is broken, each as a share of what is allowed.
    fn over(&self, m: &Measures) -> [f64; 7] {
        let share = |value: f64, most: Option<f64>| most.map_or(-1.0, |most| value / most - 1.0);
        let proud = if m.length_mm > 0.0 { PROUD_OF_PATHS } else { PROUD };
        let steady = matches!(self.seek.reach, Reach::LowestF3 | Reach::Smallest);
        let deep = match (self.seek.reach, m.f3_hz) {
            (Reach::Smallest, Some(f3)) => f3 / self.seek.lowest_note_hz - 1.0,
            (Reach::Smallest, None) => 1.0,
            _ => -1.0,
        };
        [
            share(m.volume_l, self.seek.volume_l),
            share(m.length_mm, self.seek.length_mm.filter(|_| m.length_mm > 0.0)),
            share(m.delay_ms, self.seek.delay_ms),
            if steady { (m.proud_db - proud) / 10.0 } else { -1.0 },
            deep,
            if self.seek.port_fits {
                share(m.port_depth_mm, Some(room_for_port(m.outside_l)))
            } else {
                share(m.longest_port_mm, Some(LONGEST_PORT))
            },
            share(m.outside_l, self.seek.outside_l),
        ]
    }

    fn look(&self, place: &[f64]) -> Option<Found> {
        self.told.tried();
        let enclosure = self.enclosure(place)?;
        let design = Checked::assembled(Design { enclosure, ..Design::clone(self.design) })?;
        let m = measured(&design, self.seek.lowest_note_hz, self.room);
        self.judged(place, design.into_design().enclosure, m)
    }

    /// What was measured, by what is sought here.
    fn judged(&self, place: &[f64], enclosure: Enclosure, m: Measures) -> Option<Found> {
        let cost = self.cost(&m);
        let broken = self.over(&m).iter().map(|x| x.max(0.0)).sum();
        let whole = cost.is_finite() && m.volume_l.is_finite() && m.delay_ms.is_finite();
        whole.then(|| Found { place: place.to_vec(), measures: m, enclosure, cost, broken })
    }

    fn cost(&self, m: &Measures) -> f64 {
        match self.seek.reach {
            Reach::LowestF3 => m.f3_hz.map_or(10.0, |f| (f / 10.0).ln()) * 10.0,
            Reach::Flattest => m.swing_db,
            Reach::Loudest => -m.loudest_db,
            Reach::Smallest => m.volume_l.ln() * 10.0,
        }
    }

    fn grid(&self) -> Vec<Found> {
        let axes = self.knobs.len().min(GRID.len() - 1);
        let steps = GRID[axes];
        (0..steps.pow(axes as u32))
            .filter_map(|at| {
                let mut index = at;
                let place: Vec<f64> = (0..axes)
                    .map(|_| {
                        let step = index % steps;
                        index /= steps;
                        (step as f64 + 0.5) / steps as f64
                    })
                    .collect();
                self.told.part.set(GRID_PART * at as f64 / steps.pow(axes as u32) as f64);
                self.look(&place)
            })
            .collect()
    }

    /// The best of what was seen, judged by what is sought here: at most so many, none beside another.
    fn starts(&self, seen: &[Found], most: usize) -> Vec<Found> {
        let mut judged: Vec<Found> =
            seen.iter().filter_map(|f| self.judged(&f.place, f.enclosure.clone(), f.measures)).collect();
        judged.sort_by(|a, b| {
            let kept = (a.broken > KEPT).cmp(&(b.broken > KEPT));
            kept.then(if a.broken > KEPT { a.broken.total_cmp(&b.broken) } else { a.cost.total_cmp(&b.cost) })
        });
        let mut list: Vec<Found> = Vec::new();
        for found in judged {
            let near = |other: &Found| {
                let far = other.place.iter().zip(&found.place).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
                far < 0.15
            };
            if !list.iter().any(near) {
                list.push(found);
                if list.len() == most {
                    break;
                }
            }
        }
        list
    }

    /// The best there is, or why there is none.
    fn best(&self, grid: &[Found]) -> Result<Found, &'static str> {
        if self.knobs.is_empty() {
            return Err("this family has nothing to turn, or its port is given by its length: give the tuning instead");
        }
        let best = self.best_of(self.starts(grid, STARTS), &[0.12, 0.03, 0.008]);
        let best = best.ok_or("no box of this family can be built for it")?;
        if best.broken > KEPT { Err(refusal(self, &best)) } else { Ok(best) }
    }

    /// The best that refining these comes to.
    fn best_of(&self, starts: Vec<Found>, rounds: &[f64]) -> Option<Found> {
        let refined = starts.into_iter().map(|start| self.refine(start, rounds));
        refined.reduce(|best, next| if next.better_than(&best) { next } else { best })
    }

    fn refine(&self, seed: Found, rounds: &[f64]) -> Found {
        let best = RefCell::new(seed);
        let last: RefCell<Option<Found>> = RefCell::new(None);
        let visit = |x: &[f64], read: &dyn Fn(&Found) -> f64| -> f64 {
            let place: Vec<f64> = x.iter().map(|c| c.clamp(0.0, 1.0)).collect();
            let mut last = last.borrow_mut();
            if last.as_ref().is_none_or(|f| f.place != place) {
                *last = self.look(&place);
                if let Some(found) = &*last
                    && found.better_than(&best.borrow())
                {
                    *best.borrow_mut() = found.clone();
                }
            }
            last.as_ref().map_or(1e3, read)
        };
        let cost = |x: &[f64], (): &mut ()| visit(x, &|f| f.cost);
        let kept: Vec<_> = (0..7)
            .map(|i| {
                let visit = &visit;
                move |x: &[f64], (): &mut ()| -> f64 {
                    let value = visit(x, &|f| self.over(&f.measures)[i]);
                    -10.0 * (value + MARGIN)
                }
            })
            .collect();
        let kept: Vec<&dyn cobyla::Func<()>> = kept.iter().map(|f| f as &dyn cobyla::Func<()>).collect();
        let bounds = vec![(0.0, 1.0); self.knobs.len()];
        for step in rounds {
            let start = best.borrow().place.clone();
            let stop = cobyla::StopTols { ftol_abs: 1e-4, ..cobyla::StopTols::default() };
            // its status does not matter: the best place seen is kept
            let _ = cobyla::minimize(cost, &start, &bounds, &kept, (), 60, cobyla::RhoBeg::All(*step), Some(stop));
        }
        best.into_inner()
    }
}

/// The depth that a straight port and its clear end may take of a box, by its outside, mm.
fn room_for_port(outside_l: f64) -> f64 {
    PORT_OF_DEPTH * 100.0 * outside_l.cbrt() - BEHIND_PORT
}

fn length_of(document: &Value) -> Option<f64> {
    let at = ["/length_mm", "/horn/profile/length_mm"];
    at.iter().find_map(|p| document.pointer(p)).and_then(Value::as_f64)
}

/// Moves what lies along a path with its length: woofer, taps, fills, bends, step.
fn stretch(document: &mut Value, before: Option<f64>) {
    let (Some(before), Some(after)) = (before, length_of(document)) else { return };
    let ratio = after / before;
    if ratio == 1.0 {
        return;
    }
    for (pointer, mm) in lengths_along(document).into_iter().filter(|(pointer, _)| !pointer.ends_with("/length_mm")) {
        if let Some(entry) = document.pointer_mut(&pointer) {
            *entry = (mm * ratio).into();
        }
    }
}

/// What may be turned in a design's enclosure.
fn knobs_of(design: &Design) -> Vec<Knob> {
    let document = serde_json::to_value(&design.enclosure).unwrap_or_default();
    let stated = |k: &&Knob| document.pointer(k.pointer).is_some_and(Value::is_number);
    design.enclosure.knobs().iter().filter(stated).take(GRID.len() - 1).copied().collect()
}

/// The best enclosure alone, without the trade-off around it.
///
/// # Errors
/// Why nothing was found, in a sentence.
pub fn seek_best(design: &Checked, seek: &Seek) -> Result<Trade, &'static str> {
    let room = room_of(design, seek.lowest_note_hz);
    let told = Told::by(&|_, _| ());
    let seeker = Seeker { design, knobs: knobs_of(design), seek: *seek, room: &room, told: &told };
    let best = seeker.best(&seeker.grid())?;
    let held = if best.measures.length_mm > 0.0 { best.measures.length_mm } else { best.measures.volume_l };
    Ok(Trade { held, measures: best.measures, enclosure: best.enclosure })
}

/// Seeks.
pub fn seek(design: &Checked, seek: &Seek) -> Sought {
    seek_telling(design, seek, &|_, _| ())
}

/// Seeks, and tells on the way how many boxes were tried and which part of the search is done, from 0 to 1 (an estimate).
pub fn seek_telling(design: &Checked, seek: &Seek, tell: &dyn Fn(u32, f64)) -> Sought {
    let told = Told::by(tell);
    let knobs = knobs_of(design);
    let room = room_of(design, seek.lowest_note_hz);
    let now = measured(design, seek.lowest_note_hz, &room);
    let by_length = now.length_mm > 0.0;
    let none = |reason: &str| Sought { best: None, now, by_length, trades: Vec::new(), reason: Some(reason.into()) };
    let seeker = Seeker { design, knobs, seek: *seek, room: &room, told: &told };
    let grid = if seeker.knobs.is_empty() { Vec::new() } else { seeker.grid() };
    let best = match seeker.best(&grid) {
        Ok(best) => best,
        Err(reason) => return none(reason),
    };
    told.part.set(BEST_PART);
    let held = |m: &Measures| if by_length { m.length_mm } else { m.volume_l };
    let middle = if by_length { seek.length_mm } else { seek.volume_l }.unwrap_or(held(&best.measures));
    let seekers: Vec<Seeker> = (0..TRADES)
        .map(|i| {
            // a path of a third of its length has nothing to say any more
            let reach = if by_length { 2f64 } else { 3f64 };
            let limit = middle * reach.powf((i as f64 - (TRADES - 1) as f64 / 2.0) / ((TRADES - 1) as f64 / 2.0));
            let mut other = *seek;
            if by_length {
                other.length_mm = Some(limit);
            } else {
                other.volume_l = Some(limit);
            }
            // the least volume is what Smallest finds by itself; its trade-off is f3 against volume
            if other.reach == Reach::Smallest {
                other.reach = Reach::LowestF3;
            }
            Seeker { design, knobs: seeker.knobs.clone(), seek: other, room: &room, told: &told }
        })
        .collect();
    // from the least to the greatest, each from the grid, the best of all and the point before it; then back, from the one after
    let mut points: Vec<Option<Found>> = Vec::new();
    for (i, there) in seekers.iter().enumerate() {
        told.part.set(BEST_PART + (BACK_PART - BEST_PART) * i as f64 / TRADES as f64);
        let mut starts = there.starts(&grid, 2);
        let known = [Some(&best), points.last().and_then(Option::as_ref)];
        starts.extend(
            known.into_iter().flatten().filter_map(|f| there.judged(&f.place, f.enclosure.clone(), f.measures)),
        );
        points.push(there.best_of(starts, &[0.08, 0.015]).filter(|f| f.broken <= KEPT));
    }
    for i in (0..TRADES.saturating_sub(1)).rev() {
        told.part.set(1.0 - (1.0 - BACK_PART) * (i + 1) as f64 / TRADES as f64);
        let (there, after) = (&seekers[i], points[i + 1].clone());
        let Some(start) = after.and_then(|f| there.judged(&f.place, f.enclosure, f.measures)) else { continue };
        let found = there.refine(start, &[0.05, 0.01]);
        if found.broken <= KEPT && points[i].as_ref().is_none_or(|now| found.better_than(now)) {
            points[i] = Some(found);
        }
    }
    // a point that another beats, with no more held and no worse a result, is none
    let quality = |f: &Found| seekers[0].cost(&f.measures);
    let mut found: Vec<Found> = points.into_iter().flatten().collect();
    found.sort_by(|a, b| held(&a.measures).total_cmp(&held(&b.measures)).then(quality(a).total_cmp(&quality(b))));
    let mut trades: Vec<Trade> = Vec::new();
    let mut least = f64::INFINITY;
    for f in found {
        if quality(&f) < least - 1e-3 {
            least = quality(&f);
            trades.push(Trade { held: held(&f.measures), measures: f.measures, enclosure: f.enclosure });
        }
    }
    let best = Trade { held: held(&best.measures), measures: best.measures, enclosure: best.enclosure };
    Sought { best: Some(best), now, by_length, trades, reason: None }
}

fn refusal(seeker: &Seeker, nearest: &Found) -> &'static str {
    let over = seeker.over(&nearest.measures);
    let worst = (0..over.len()).max_by(|&a, &b| over[a].total_cmp(&over[b])).unwrap_or(0);
    [
        "nothing of this family stays within that volume",
        "nothing of this family stays within that length",
        "nothing of this family keeps the group delay under that",
        "with this woofer the level always stands too proud: more than 2 dB, or 6 in a line",
        "with this woofer f3 never comes down to that note",
        "every port would be longer than 2 m, or than the box is deep; take a smaller opening, or let it be bent",
        "nothing of this family stays within that outside volume",
    ][worst]
}

//! Standing waves of the chambers: which, whether woofer and port drive them, what they do to the level, and what cures them.

use crate::analysis::Analysis;
use crate::analysis::inside::inside_of;
use crate::finding::Remedy;
use oak_drum_acoustics::families::inside::Inside;
use oak_drum_acoustics::families::{Chamber, Context};
use oak_drum_acoustics::fill::{FibreModel, Fill, Material};
use oak_drum_acoustics::network::cavity::{Mode, modes};
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_document::Change;
use oak_drum_text::{Text, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// Most modes of a chamber shown.
const SHOWN: usize = 14;
/// A mode that moves the level by less is left in peace, dB (common practice).
pub const HARMLESS: f64 = 1.5;
/// What the remedies aim at, dB.
const AIM: f64 = 1.0;
/// How far above the band a mode still matters: its skirts reach down.
pub const REACH: f64 = 1.26;
/// From this resistance of 0.3 m of fill on, in units of ρc, first-order damping is stretched.
const STRETCHED: f64 = 8.0;
/// From this ratio of the longest side to the next a chamber counts as long, like a tube.
const LONG: f64 = 2.2;

/// The standing waves of one chamber.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct ChamberModes {
    /// The chamber's net volume (JSON pointer into the design).
    pub pointer: String,
    /// The chamber's inside (JSON pointer into the design).
    pub inside_pointer: String,
    /// In words.
    pub title: String,
    /// Whether the inside is stated, so that the level has its standing waves in it; else it is assumed here.
    pub stated: bool,
    /// Where an assumed inside comes from.
    pub assumed_from: Option<String>,
    /// The inside.
    pub inside: Inside,
    /// Effective radius of the cone, mm.
    pub woofer_radius_mm: f64,
    /// Effective radius of the port or radiator, mm.
    pub opening_radius_mm: Option<f64>,
    /// The lowest standing wave, Hz.
    pub lowest_hz: f64,
    /// The all-clear, where the lowest lies so far above the band that none matters.
    pub all_clear: Option<String>,
    /// Said of a fill so dense that it throws a wave back rather than damping it: Q and effect are then stretched.
    pub fill_note: Option<String>,
    /// Said of long shapes: the wave along comes first.
    pub long: Option<Text>,
    /// The modes, the lowest first (of long shapes those along it first).
    pub modes: Vec<ModeRow>,
}

/// One mode.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct ModeRow {
    /// Half waves across, up and behind the baffle.
    pub order: [u32; 3],
    /// In words: "1st across", "across and up".
    pub name: String,
    /// In the empty chamber, Hz.
    pub frequency_hz: f64,
    /// With the fill, Hz.
    pub filled_hz: f64,
    /// How sharp it is.
    pub q: f64,
    /// How sharp it is without fill.
    pub empty_q: f64,
    /// How much the woofer drives it: 1 is all, 0 not at all.
    pub woofer: f64,
    /// How much the port or radiator hears it.
    pub opening: Option<f64>,
    /// How far it moves the level near its frequency, dB.
    pub effect_db: f64,
    /// Whether that lies in the band, or near above it.
    pub in_band: bool,
    /// Whether it lies there and moves the level by more than is left in peace.
    pub harmful: bool,
}

/// The pressure of a mode on two cuts through a chamber, from -1 to 1.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct ModePicture {
    /// Half waves across, up and behind the baffle.
    pub order: [u32; 3],
    /// Frequency in the empty chamber, Hz.
    pub frequency_hz: f64,
    /// Places across, mm.
    pub across_mm: Vec<f64>,
    /// Places up, mm.
    pub up_mm: Vec<f64>,
    /// Places behind the baffle, mm.
    pub behind_mm: Vec<f64>,
    /// Seen from the front, at the baffle: a row for each place up, the lowest first.
    pub front: Vec<Vec<f64>>,
    /// Seen from the side, at the left wall: a row for each place up, a column for each behind.
    pub side: Vec<Vec<f64>>,
}

/// The same design with a chamber's inside stated, worked out on a few frequencies; as it is where it is stated already.
fn counted(analysis: &Analysis, chamber: &Chamber, inside: &Inside) -> Option<Analysis> {
    let changes = match chamber.inside {
        Some(_) => Vec::new(),
        None => vec![state(chamber, inside)],
    };
    analysis.with(&changes)
}

/// The change that states a chamber's inside.
pub fn state(chamber: &Chamber, inside: &Inside) -> Change {
    Change::set(format!("/enclosure{}", chamber.part("inside")), serde_json::to_value(inside).unwrap_or_default())
}

/// How far leaving a mode out moves the level between a sixth of an octave below and above it, dB.
pub fn effect(analysis: &Analysis, order: [u32; 3], frequency: f64) -> f64 {
    let places: Vec<f64> = (0..16).map(|i| frequency * 2f64.powf((i as f64 - 7.5) / 45.0)).collect();
    let with = Sweep::new(&analysis.wired.network, analysis.conditions).curves(&places).level_db;
    let context = Context { left_out: Some(order), ..analysis.context.clone() };
    let wired = analysis.enclosure.wire(&context);
    let without = Sweep::new(&wired.network, analysis.conditions).curves(&places).level_db;
    with.iter().zip(&without).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max)
}

const DIRECTIONS: [&str; 3] = ["across", "up", "behind"];

fn name(order: [u32; 3]) -> String {
    let moving: Vec<usize> = (0..3).filter(|i| order[*i] > 0).collect();
    match moving[..] {
        [one] => {
            let n = order[one];
            let th = match n {
                1 => "st",
                2 => "nd",
                3 => "rd",
                _ => "th",
            };
            format!("{n}{th} {}", ["across", "up and down", "front to back"][one])
        }
        _ => moving.iter().map(|i| format!("{} {}", order[*i], DIRECTIONS[*i])).collect::<Vec<_>>().join(", "),
    }
}

/// The lowest modes of an inside, at most so many, and up to a frequency (Hz) but at least three.
fn list(analysis: &Analysis, inside: &Inside, part: f64, up_to: f64, most: usize) -> Vec<Mode> {
    let air = &analysis.context.air;
    let sides = inside.sides();
    let longest = sides.iter().copied().fold(0.0, f64::max).max(0.01);
    let highest = up_to.max(air.c / longest * 2.0);
    let mut found = modes(air, sides, highest, part, inside.place());
    found.truncate(most);
    found
}

fn fibres(analysis: &Analysis, chamber: &Chamber) -> (f64, Option<FibreModel>) {
    match chamber.fill.fibres() {
        Some((law, sigma, part)) => (part, Some(FibreModel::new(law, sigma, analysis.context.air))),
        None => (0.0, None),
    }
}

/// The standing waves of every chamber whose volume is stated.
pub fn chambers(analysis: &Analysis) -> Vec<ChamberModes> {
    let stated = analysis.wired.chambers.iter().filter(|c| !c.pointer.is_empty());
    stated.filter_map(|chamber| chamber_modes(analysis, chamber)).collect()
}

fn chamber_modes(analysis: &Analysis, chamber: &Chamber) -> Option<ChamberModes> {
    let (inside, from) = inside_of(analysis, chamber);
    let with = counted(analysis, chamber, &inside)?;
    let plays_to = analysis.design.brief.plays_to();
    let (part, model) = fibres(analysis, chamber);
    let sides = inside.sides();
    let cone = analysis.context.array.cone_area();
    let found = list(analysis, &inside, part, plays_to * 4.0, SHOWN);
    let lowest = found.first().map_or(f64::INFINITY, |m| m.omega / TAU);
    let mut rows: Vec<ModeRow> = found
        .iter()
        .map(|mode| {
            let frequency = mode.omega / TAU;
            let (q, filled) = mode.damped(&analysis.context.air, model.as_ref(), inside.wall_q);
            let moves = effect(&with, mode.order, filled / TAU);
            let in_band = filled / TAU <= plays_to * REACH;
            ModeRow {
                order: mode.order,
                name: name(mode.order),
                frequency_hz: frequency,
                filled_hz: filled / TAU,
                q,
                empty_q: inside.wall_q,
                woofer: mode.seen_from(&inside.woofer(cone), sides).abs(),
                opening: chamber.opening.map(|area| mode.seen_from(&inside.opening(area), sides).abs()),
                effect_db: moves,
                in_band,
                harmful: in_band && moves > HARMLESS,
            }
        })
        .collect();
    let mut sorted = sides;
    sorted.sort_by(|a, b| b.total_cmp(a));
    let long = (sorted[0] > LONG * sorted[1]).then(|| {
        let along = (0..3).max_by(|a, b| sides[*a].total_cmp(&sides[*b])).unwrap_or(1);
        rows.sort_by_key(|row| usize::from((0..3).any(|i| i != along && row.order[i] > 0)));
        format!(
            "A long shape: the waves along its {:.0} come first, from {:.0} Hz in steps of as much.",
            mm(sorted[0] * 1e3),
            analysis.context.air.c / (2.0 * sorted[0])
        )
        .into()
    });
    let clear = lowest > plays_to * REACH;
    let all_clear = clear.then(|| {
        format!(
            "Nothing to do: the lowest standing wave, {lowest:.0} Hz, lies above what this box is sent (up to {plays_to:.0} Hz)."
        )
    });
    let air_impedance = analysis.context.air.rho * analysis.context.air.c;
    Some(ChamberModes {
        pointer: format!("/enclosure{}", chamber.pointer),
        inside_pointer: format!("/enclosure{}", chamber.part("inside")),
        title: chamber.title().into(),
        stated: from.is_none(),
        assumed_from: from.map(str::to_owned),
        woofer_radius_mm: (cone / std::f64::consts::PI).sqrt() * 1e3,
        opening_radius_mm: chamber.opening.map(|area| (area / std::f64::consts::PI).sqrt() * 1e3),
        inside,
        lowest_hz: lowest,
        all_clear,
        fill_note: chamber.fill.fibres().filter(|(_, sigma, part)| *part > 0.0 && sigma * 0.3 > STRETCHED * air_impedance).map(
            |(_, sigma, _)| {
                format!("With {sigma:.0} Pa·s/m2 this fill throws waves back rather than damping them; the Q beside is stretched. Looser wool damps better.")
            },
        ),
        long,
        modes: rows,
    })
}

/// The pressure pattern of a mode of the chamber whose net volume stands at `pointer`; `None` where there is none.
pub fn picture(analysis: &Analysis, pointer: &str, order: [u32; 3]) -> Option<ModePicture> {
    const PLACES: usize = 25;
    let chamber = analysis.wired.chambers.iter().find(|c| format!("/enclosure{}", c.pointer) == pointer)?;
    let (inside, _) = inside_of(analysis, chamber);
    let sides = inside.sides();
    let along =
        |axis: usize| -> Vec<f64> { (0..PLACES).map(|i| sides[axis] * i as f64 / (PLACES - 1) as f64 * 1e3).collect() };
    let wave =
        |axis: usize, i: usize| (f64::from(order[axis]) * std::f64::consts::PI * i as f64 / (PLACES - 1) as f64).cos();
    let cut = |axis: usize| -> Vec<Vec<f64>> {
        (0..PLACES).map(|up| (0..PLACES).map(|i| wave(1, up) * wave(axis, i)).collect()).collect()
    };
    let square: f64 = (0..3).map(|i| (f64::from(order[i]) / sides[i]).powi(2)).sum();
    Some(ModePicture {
        order,
        frequency_hz: analysis.context.air.c / 2.0 * square.sqrt(),
        across_mm: along(0),
        up_mm: along(1),
        behind_mm: along(2),
        front: cut(0),
        side: cut(2),
    })
}

/// The worst mode in or near the band of a chamber with a stated inside: (order, frequency in Hz, effect in dB).
pub fn worst(analysis: &Analysis, chamber: &Chamber) -> Option<([u32; 3], f64, f64)> {
    let inside = chamber.inside?;
    let up_to = analysis.design.brief.plays_to() * REACH;
    let (part, model) = fibres(analysis, chamber);
    list(analysis, &inside, part, up_to, SHOWN)
        .iter()
        .map(|mode| (mode.order, mode.damped(&analysis.context.air, model.as_ref(), inside.wall_q).1 / TAU))
        .filter(|(_, f)| *f <= up_to)
        .map(|(order, f)| (order, f, effect(analysis, order, f)))
        .max_by(|a, b| a.2.total_cmp(&b.2))
}

/// What cures the standing waves of a chamber with a stated inside: another place for the woofer, for the port, or fill; of
/// places those where `stands` says that the changed design can be built.
pub fn cures(analysis: &Analysis, chamber: &Chamber, stands: &dyn Fn(&[Change]) -> bool) -> Vec<Remedy> {
    let Some(inside) = chamber.inside else { return Vec::new() };
    let Some((_, _, before)) = worst(analysis, chamber) else { return Vec::new() };
    let at = format!("/enclosure{}", chamber.part("inside"));
    let figure = |a: &Analysis| a.wired.figures.first().map_or((String::new(), 0.0), |f| (f.label.clone(), f.value));
    // the remedy with what it leaves, dB; none where it helps little
    let tried = |title: String, changes: Vec<Change>| -> Option<(Remedy, f64)> {
        let after = analysis.with(&changes)?;
        let chamber = after.wired.chambers.iter().find(|c| c.pointer == chamber.pointer)?;
        let left = worst(&after, chamber).map_or(0.0, |w| w.2);
        if left >= before * 0.75 {
            return None;
        }
        let mut predicted = format!("{left:.1} dB in place of {before:.1}");
        let ((label, was), (_, now)) = (figure(analysis), figure(&after));
        if (now / was - 1.0).abs() > 2e-3 {
            predicted += &format!("; {label} {was:.3} to {now:.3}");
        }
        Some((Remedy { title: title.into(), changes, predicted: predicted.into() }, left))
    };
    let mut list = Vec::new();
    let cone = analysis.context.array.cone_area();
    let put = |what: &str, field: &str, area: f64, woofer: bool| -> Option<Remedy> {
        let places = best_places(analysis, chamber, &inside, area, woofer);
        let sets = |x: f64, y: f64| {
            vec![Change::set(format!("{at}/{field}_across_mm"), x), Change::set(format!("{at}/{field}_up_mm"), y)]
        };
        // whether it can be built is quickly told, what it does is not
        places.into_iter().filter(|(x, y)| stands(&sets(*x, *y))).take(2).find_map(|(x, y)| {
            Some(tried(format!("{what} to {x:.0} across, {y:.0} up", x = mm(x), y = mm(y)), sets(x, y))?.0)
        })
    };
    list.extend(put("Woofer", "woofer", cone, true));
    list.extend(chamber.opening.and_then(|area| put("Opening", "opening", area, false)));
    if let [woofer, port] = &list[..]
        && let (Some(x), Some(y)) = (port.changes[0].value.as_f64(), port.changes[1].value.as_f64())
    {
        let changes: Vec<Change> = woofer.changes.iter().chain(&port.changes).cloned().collect();
        let title = format!("{}, opening to {x:.0} across, {y:.0} up", woofer.title);
        list.extend(tried(title, changes).map(|t| t.0).filter(|r| stands(&r.changes)));
    }
    let fill_at = format!("/enclosure{}", chamber.part("fill"));
    let recipes = [
        (Material::PolyesterWadding, 12.0, 0.35),
        (Material::PolyesterWadding, 20.0, 0.5),
        (Material::MineralWoolLight, 30.0, 0.5),
        (Material::MineralWoolMedium, 50.0, 0.6),
    ];
    let mut best: Option<Remedy> = None;
    for (material, density, part) in recipes {
        let fill = Fill::Material { material, density_kg_per_m3: density, mass_g: None, filled_part: part };
        let Ok(fill) = serde_json::to_value(&fill) else { continue };
        let grams = density * part * chamber.net * 1e3;
        let changes = vec![
            Change::set(fill_at.clone(), fill),
            Change::set(format!("{at}/fill_lies"), "middle"),
            Change::set(format!("{at}/lining"), serde_json::Value::Null),
        ];
        let title = format!("{grams:.0} g of {} in the middle {:.0} %", material.info().title, part * 100.0);
        let Some((remedy, left)) = tried(title, changes) else { continue };
        best = Some(remedy);
        if left < AIM {
            break;
        }
    }
    list.extend(best);
    list
}

/// Places tried for one remedy.
const PLACES: usize = 12;

/// Places (mm across, up) on a grid, the best first: as near as can be to the present one, the waves in and above the band
/// least driven from there; the opening keeps clear of the walls and of the other one.
fn best_places(analysis: &Analysis, chamber: &Chamber, inside: &Inside, area: f64, woofer: bool) -> Vec<(f64, f64)> {
    const GRID: u32 = 28;
    let sides = inside.sides();
    let up_to = analysis.design.brief.plays_to() * REACH;
    let (part, model) = fibres(analysis, chamber);
    let found = list(analysis, inside, part, up_to * 1.6, SHOWN);
    let radius = (area / std::f64::consts::PI).sqrt() * 1e3;
    let margin = (radius * 1.15 + 10.0).min(inside.width_mm / 2.0).min(inside.height_mm / 2.0);
    let (now, other, other_area) = {
        let w = (inside.woofer_across_mm, inside.woofer_up_mm);
        let o = (inside.opening_across_mm, inside.opening_up_mm);
        let cone = analysis.context.array.cone_area();
        if woofer { (w, chamber.opening.map(|_| o), chamber.opening.unwrap_or(0.0)) } else { (o, Some(w), cone) }
    };
    let apart = radius * 1.15 + (other_area / std::f64::consts::PI).sqrt() * 1e3 * 1.15 + 10.0;
    let cost = |x: f64, y: f64| {
        let moved = if woofer {
            Inside { woofer_across_mm: x, woofer_up_mm: y, ..*inside }
        } else {
            Inside { opening_across_mm: x, opening_up_mm: y, ..*inside }
        };
        let waves: f64 = found
            .iter()
            .map(|mode| {
                let cone = mode.seen_from(&moved.woofer(analysis.context.array.cone_area()), sides);
                let heard = chamber.opening.map_or(cone, |area| mode.seen_from(&moved.opening(area), sides));
                // what the cone feels itself counts too: it dents the cone's own output
                let coupled = (cone * heard).abs().max(cone * cone);
                let (q, omega) = mode.damped(&analysis.context.air, model.as_ref(), inside.wall_q);
                // what lies beyond the band only decides between places as good within it
                let weight = if omega / TAU <= up_to { 1.0 } else { 0.05 };
                (coupled / mode.norm * q.sqrt()).powi(2) * weight
            })
            .sum();
        let moved = ((x - now.0) / inside.width_mm).hypot((y - now.1) / inside.height_mm);
        waves * (1.0 + 0.15 * moved)
    };
    let span = |most: f64, k: u32| margin + (most - 2.0 * margin) * f64::from(k) / f64::from(GRID);
    let mut list: Vec<(f64, f64, f64)> = (0..=GRID)
        .flat_map(|k| (0..=GRID).map(move |l| (k, l)))
        .map(|(k, l)| (span(inside.width_mm, k).round(), span(inside.height_mm, l).round()))
        .filter(|(x, y)| other.is_none_or(|o| (x - o.0).hypot(y - o.1) >= apart))
        .map(|(x, y)| (cost(x, y), x, y))
        .collect();
    list.sort_by(|a, b| a.0.total_cmp(&b.0));
    // one beside another is no other choice
    let mut apart_from: Vec<(f64, f64)> = Vec::new();
    for (_, x, y) in list {
        if apart_from.iter().all(|o| (x - o.0).hypot(y - o.1) > 0.08 * inside.width_mm.max(inside.height_mm)) {
            apart_from.push((x, y));
            if apart_from.len() == PLACES {
                break;
            }
        }
    }
    apart_from
}

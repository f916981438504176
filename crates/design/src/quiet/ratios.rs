//! Which proportions spread the standing waves of a box best, at the volume it has.

use crate::analysis::Analysis;
use crate::analysis::inside::inside_of;
use oak_drum_acoustics::network::cavity::{Place, modes};
use oak_drum_document::Change;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// A ratio with what it would give.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Ratio {
    /// Stable name.
    pub id: String,
    /// In words.
    pub title: String,
    /// Where it comes from.
    pub source: String,
    /// Inside width, height, depth of this volume, mm.
    pub inside_mm: [f64; 3],
    /// Lowest standing wave, Hz.
    pub lowest_hz: f64,
    /// Least distance between neighbours among the ten lowest, per cent; the wider the better.
    pub closest_percent: f64,
    /// How many of the ten lowest have a neighbour within 3 %.
    pub crowded: u32,
    /// The changes that make it so; empty for the present one.
    pub changes: Vec<Change>,
}

/// Named ratios, shortest side first.
const NAMED: [(&str, &str, [f64; 3], &str); 7] = [
    ("favoured", "1 : 1.17 : 1.47", [1.0, 1.17, 1.47], "a favourite of builders (common practice)"),
    ("sepmeyer_a", "1 : 1.14 : 1.39", [1.0, 1.14, 1.39], "Sepmeyer, JASA 37 (1965), for rooms (from memory)"),
    ("sepmeyer_b", "1 : 1.28 : 1.54", [1.0, 1.28, 1.54], "Sepmeyer, JASA 37 (1965), for rooms (from memory)"),
    (
        "thirds",
        "1 : 1.26 : 1.59",
        [1.0, 1.259_921, 1.587_401],
        "thirds of an octave, 2^(1/3) and 2^(2/3) (common practice)",
    ),
    ("louden", "1 : 1.4 : 1.9", [1.0, 1.4, 1.9], "Louden, Acustica 24 (1971), for rooms (from memory)"),
    ("golden", "0.62 : 1 : 1.62", [0.618_034, 1.0, 1.618_034], "the golden section (common practice)"),
    ("cube", "1 : 1 : 1", [1.0, 1.0, 1.0], "a cube, to see why not: three waves on one another"),
];

/// Sides that are within this of one another count as equal.
pub const EQUAL: f64 = 0.03;

/// Which sides of an inside (any unit) are equal: 0, 2 or 3.
pub fn equal_sides(sides: [f64; 3]) -> u32 {
    let near = |a: f64, b: f64| (a / b - 1.0).abs() < EQUAL;
    match [near(sides[0], sides[1]), near(sides[1], sides[2]), near(sides[0], sides[2])].iter().filter(|n| **n).count()
    {
        0 => 0,
        1 => 2,
        _ => 3,
    }
}

/// How the ten lowest modes of sides (m) are spread: lowest (Hz), least distance (per cent), crowded ones.
fn spread(analysis: &Analysis, sides: [f64; 3]) -> (f64, f64, u32) {
    let longest = sides.iter().copied().fold(0.0, f64::max).max(0.01);
    let found = modes(&analysis.context.air, sides, analysis.context.air.c / longest * 2.5, 0.0, Place::Everywhere);
    let f: Vec<f64> = found.iter().take(10).map(|m| m.omega / TAU).collect();
    let gaps: Vec<f64> = f.windows(2).map(|pair| (pair[1] / pair[0] - 1.0) * 100.0).collect();
    let near = |i: usize| (i > 0 && gaps[i - 1] < 3.0) || gaps.get(i).is_some_and(|g| *g < 3.0);
    let crowded = (0..f.len()).filter(|i| near(*i)).count() as u32;
    (f.first().copied().unwrap_or(0.0), gaps.iter().copied().fold(f64::INFINITY, f64::min), crowded)
}

/// The present proportions and the named ones, the present first; empty where there are several chambers or none.
pub fn ratios(analysis: &Analysis) -> Vec<Ratio> {
    let [chamber] = &analysis.wired.chambers[..] else { return Vec::new() };
    if chamber.pointer.is_empty() {
        return Vec::new();
    }
    let (inside, _) = inside_of(analysis, chamber);
    let now = [inside.width_mm, inside.height_mm, inside.depth_mm];
    let volume: f64 = now.iter().product();
    let row = |id: &str, title: &str, source: &str, sides: [f64; 3], changes: Vec<Change>| {
        let (lowest_hz, closest_percent, crowded) = spread(analysis, sides.map(|s| s * 1e-3));
        Ratio {
            id: id.into(),
            title: title.into(),
            source: source.into(),
            inside_mm: sides,
            lowest_hz,
            closest_percent,
            crowded,
            changes,
        }
    };
    let mut list = vec![row("now", "as it is", "this box", now, Vec::new())];
    // the longest side stays the longest, the shortest the shortest
    let mut order = [0, 1, 2];
    order.sort_by(|a, b| now[*a].total_cmp(&now[*b]));
    for (id, title, ratio, source) in NAMED {
        let unit = (volume / ratio.iter().product::<f64>()).cbrt();
        let mut sides = [0.0; 3];
        for (rank, axis) in order.iter().enumerate() {
            sides[*axis] = (ratio[rank] * unit).round();
        }
        let mut changes = Vec::new();
        if let Some(cabinet) = &analysis.design.cabinet {
            let outside = [
                sides[0] + 2.0 * cabinet.panel_mm,
                sides[1] + 2.0 * cabinet.panel_mm,
                sides[2] + cabinet.panel_mm + cabinet.baffle_mm,
            ];
            for (field, size) in ["width_mm", "height_mm", "depth_mm"].iter().zip(outside) {
                changes.push(Change::set(format!("/cabinet/{field}"), size));
            }
        }
        if let Some(stated) = chamber.inside {
            let at = format!("/enclosure{}", chamber.part("inside"));
            let fields = [
                (
                    "width_mm",
                    sides[0],
                    "woofer_across_mm",
                    stated.woofer_across_mm,
                    "opening_across_mm",
                    stated.opening_across_mm,
                ),
                ("height_mm", sides[1], "woofer_up_mm", stated.woofer_up_mm, "opening_up_mm", stated.opening_up_mm),
            ];
            for (i, (side, size, woofer, w, opening, o)) in fields.into_iter().enumerate() {
                let scale = size / now[i];
                changes.push(Change::set(format!("{at}/{side}"), size));
                changes.push(Change::set(format!("{at}/{woofer}"), (w * scale).round()));
                changes.push(Change::set(format!("{at}/{opening}"), (o * scale).round()));
            }
            changes.push(Change::set(format!("{at}/depth_mm"), sides[2]));
            let behind = (stated.opening_behind_mm * sides[2] / now[2]).round();
            changes.push(Change::set(format!("{at}/opening_behind_mm"), behind));
        }
        list.push(row(id, title, source, sides, changes));
    }
    list
}

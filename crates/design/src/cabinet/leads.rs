//! The wires inside a cabinet: how long, how thick, how many ends.
//!
//! A wire runs along walls, so its way is the sum of the three distances; at every part it goes to there is enough more to lift the
//! part out and work behind it. Each string of woofers has a wire to it, one between each two, and one back.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::BuiltCabinet;
use crate::cabinet::mounted_part::{Kind, MountedPart};
use oak_drum_acoustics::cable::{COPPER, Cable};
use oak_drum_acoustics::driver::CoilWiring;
use oak_drum_cabinet::board::{V3, along};
use oak_drum_text::{Text, metres, wire};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The wires inside a cabinet.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Leads {
    /// Where they begin.
    pub from: String,
    /// Single wire altogether, m: half of it of one colour, half of another.
    pub wire_m: f64,
    /// Section, mm².
    pub area_mm2: f64,
    /// Ends that are crimped or soldered.
    pub ends: u32,
    /// Resistance both ways of what lies inside, Ω.
    pub ohm: f64,
    /// From the amplifier to the cabinet, one way, m; absent where the amplifier is in it or it is not stated.
    pub outside_m: Option<f64>,
    /// Whether where they begin is a guess.
    pub estimated: bool,
    /// All of it in a sentence.
    pub said: Text,
}

/// What is left over at each part a wire goes to, so that it can be lifted out and laid down with its wires on, mm (common practice).
pub const SLACK: f64 = 300.0;
/// Sections as they are sold, mm².
const SECTIONS: [f64; 3] = [2.5, 4.0, 6.0];
/// The part of the load's resistance the wires inside may have (common practice).
const MAY_HAVE: f64 = 0.01;

/// Where a wire meets a part: at its inner end.
fn behind(part: &MountedPart) -> V3 {
    along(part.at, part.inward, part.depth_mm)
}

/// The way along walls, mm.
fn way(a: V3, b: V3) -> f64 {
    (0..3).map(|k| (a[k] - b[k]).abs()).sum()
}

/// The wires of a design's cabinet; `None` without woofers in one.
pub fn leads(analysis: &Analysis, built: &BuiltCabinet) -> Option<Leads> {
    let design = &analysis.design;
    let cabinet = design.cabinet.as_ref()?;
    let of = |kind: Kind| built.mounted_parts.iter().find(|p| p.kind == kind);
    let (from, start, slack) = match (of(Kind::Amplifier), of(Kind::Terminals)) {
        (Some(amplifier), _) => ("the amplifier", behind(amplifier), SLACK),
        (None, Some(cup)) => ("the terminals", behind(cup), SLACK),
        // low in the middle of the back, as is usual
        (None, None) => ("the cable's hole", [cabinet.width_mm / 2.0, 100.0, cabinet.depth_mm - cabinet.panel_mm], 0.0),
    };
    let places: Vec<V3> = built.mounted_parts.iter().filter(|p| p.kind == Kind::Woofer).map(behind).collect();
    let count = design.array.count.max(1) as usize;
    if places.is_empty() {
        return None;
    }
    // two cones on one opening are at one place
    let at = |i: usize| places[i * places.len() / count];
    let series = (design.array.woofers_in_series.max(1) as usize).min(count);
    let mut single = 0.0;
    let mut ends = 0;
    for string in 0..count / series {
        let stops: Vec<V3> = (0..series).map(|i| at(string * series + i)).collect();
        let (Some(first), Some(last)) = (stops.first(), stops.last()) else { continue };
        single += way(start, *first) + way(*last, start) + 2.0 * (slack + SLACK);
        single += stops.windows(2).map(|s| way(s[0], s[1]) + 2.0 * SLACK).sum::<f64>();
        ends += 2 * (series as u32 + 1);
    }
    // short pieces between the two coils of a woofer
    let coils = analysis.woofer.coils;
    if coils == 2 {
        let pieces = if design.array.coils == CoilWiring::Series { 1 } else { 2 };
        ends += 2 * pieces * count as u32;
        single += 150.0 * f64::from(pieces) * count as f64;
    }
    let wire_m = (single / 500.0).ceil() / 2.0;
    let load = analysis.context.array.ts.re;
    // strings lie side by side
    let each = single * 1e-3 / (count / series) as f64;
    let ohm = |area: f64| each * COPPER / (area * 1e-6) / (count / series) as f64;
    let area = SECTIONS.into_iter().find(|a| ohm(*a) <= MAY_HAVE * load).unwrap_or(SECTIONS[2]);
    let outside_m = match design.chain.cable {
        Cable::Wire { length_m, .. } if design.built_in().is_none() => Some(length_m),
        _ => None,
    };
    let mut said = format!(
        "{wire_m:.1} of single wire, {}, from {from} to the woofer{}, half of each colour: along the walls, and at each part {slack:.1} more, so that it comes out with its wires on. {ends} ends, crimped, soldered and sleeved, since everything inside shakes; together {milliohm:.0} milliohm.",
        wire(area),
        if count > 1 { "s" } else { "" },
        wire_m = metres(wire_m),
        slack = metres(SLACK * 1e-3),
        milliohm = ohm(area) * 1e3,
    );
    let estimated = of(Kind::Amplifier).is_none() && of(Kind::Terminals).is_none();
    if estimated {
        said.push_str(" Neither a terminal cup nor an amplifier has a place on the cabinet: its hole is taken to be low in the back.");
    }
    match outside_m {
        Some(m) => said.push_str(&format!(" From the amplifier to the cabinet {m:.1} of pair.", m = metres(m))),
        None if design.built_in().is_none() => {
            said.push_str(" How far it is from the amplifier to the cabinet is not stated.");
        }
        None => {}
    }
    Some(Leads {
        from: from.into(),
        wire_m,
        area_mm2: area,
        ends,
        ohm: ohm(area),
        outside_m,
        estimated,
        said: said.into(),
    })
}

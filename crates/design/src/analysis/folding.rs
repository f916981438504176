//! A line or horn folded into its cabinet: what is built is what is computed.

use oak_drum_acoustics::families::Enclosure;
use oak_drum_acoustics::families::horn::{Horn, HornProfile};
use oak_drum_acoustics::families::transmission_line::{LineProfile, Station};
use oak_drum_acoustics::path::{Bend, Path, PathFill};
use oak_drum_cabinet::fold::{Fold, Leaves, Pattern, Plan, Runs, Unfit};
use oak_drum_document::{Cabinet, Design, FirstSegment, FoldSpec, Near, Shape, WooferOn};
use oak_drum_text::mm;

/// A path folded, and the enclosure with its real lengths and areas.
#[derive(Clone, Debug)]
pub struct Folded {
    /// The fold.
    pub fold: Fold,
    /// The enclosure as it is then built.
    pub enclosure: Enclosure,
    /// Length the design asks for, mm.
    pub wanted_mm: f64,
    /// Where a woofer on a board of the fold stands along it, mm from the end the segments begin at.
    pub woofer_along: f64,
    /// Where the woofer's axis meets the side section (z, y), mm.
    pub woofer_at: [f64; 2],
}

/// What is to be folded.
struct Wanted {
    path: Path,
    /// A closed chamber beside the first segment, L.
    chamber_l: Option<f64>,
    /// A chamber at the beginning of the path, L.
    head_l: f64,
}

fn wanted(enclosure: &Enclosure) -> Option<Wanted> {
    Some(match enclosure {
        Enclosure::TransmissionLine(line) => {
            Wanted { path: line.path(), chamber_l: None, head_l: line.coupling_l.unwrap_or(0.0) }
        }
        Enclosure::FrontHorn(horn) => Wanted {
            path: horn.horn.path(),
            chamber_l: horn.rear_volume_l,
            head_l: horn.throat_chamber_l.unwrap_or(0.0),
        },
        Enclosure::BackHorn(horn) => {
            Wanted { path: horn.horn.path(), chamber_l: None, head_l: horn.throat_chamber_l.unwrap_or(0.0) }
        }
        Enclosure::TappedHorn(horn) => Wanted { path: horn.horn.path(), chamber_l: None, head_l: 0.0 },
        _ => return None,
    })
}

/// Whether a family has a path that can be folded.
pub fn can_fold(enclosure: &Enclosure) -> bool {
    wanted(enclosure).is_some()
}

fn plan(cabinet: &Cabinet, spec: &FoldSpec, wanted: &Wanted, displaced: f64) -> Plan {
    let t = cabinet.panel_mm;
    let runs = if spec.pattern == Pattern::MirroredW { Runs::Level } else { spec.runs };
    let starts_far = spec.begins == Near::TopOrBack;
    // the wall the path leaves through
    let segments = spec.pattern.segments();
    let out_far = (segments % 2 == 1) != starts_far;
    let front = match (spec.leaves, runs) {
        (Leaves::Straight, Runs::Level) => !out_far,
        (Leaves::Turned, Runs::Upright) => spec.first_segment == FirstSegment::BackOrTop,
        _ => false,
    };
    Plan {
        pattern: spec.pattern,
        runs,
        starts_far,
        first_far: spec.first_segment == FirstSegment::BackOrTop,
        leaves: spec.leaves,
        board: spec.board_mm.unwrap_or(t),
        room: [cabinet.depth_mm - t - cabinet.baffle_mm, cabinet.height_mm - 2.0 * t],
        corner: [cabinet.baffle_mm, t],
        width: cabinet.width_mm - 2.0 * t,
        wall: if front { cabinet.baffle_mm } else { t },
        // the woofer's bulk stands in the chamber
        chamber: wanted.chamber_l.map(|l| (l + displaced) * 1e6),
        head: wanted.head_l * 1e6,
    }
}

/// The plan of a design's fold with its wanted path; `None` where nothing is to be folded.
fn planned(design: &Design) -> Option<(Plan, Wanted)> {
    let cabinet = design.cabinet.as_ref()?;
    let spec = cabinet.fold.as_ref()?;
    let wanted = wanted(&design.enclosure)?;
    if matches!(cabinet.shape, Shape::Tube { .. }) {
        return None;
    }
    let displaced = design.woofer.displacement().map_or(0.0, |d| d.0) * f64::from(design.array.count);
    Some((plan(cabinet, spec, &wanted, displaced), wanted))
}

/// Whether a design's path is to be folded, well or not.
pub fn is_folded(design: &Design) -> bool {
    planned(design).is_some()
}

/// Folds a design's path; `None` where there is nothing to fold.
pub fn folded(design: &Design) -> Option<Result<Folded, Unfit>> {
    let (plan, wanted) = planned(design)?;
    let spec = design.cabinet.as_ref()?.fold?;
    Some(fold(design, &spec, &plan, &wanted))
}

/// Outside depth and height (mm) that would give the path its wanted length and areas.
///
/// # Errors
/// [`Unfit`] where no size would.
pub fn outside_for(design: &Design) -> Option<Result<[f64; 2], Unfit>> {
    let (plan, wanted) = planned(design)?;
    let cabinet = design.cabinet.as_ref()?;
    let length = wanted.path.length();
    let profile = |s: f64| wanted.path.area(s * length * (1.0 - 1e-9)) * 1e6;
    let room = plan.room_for(length * 1e3, &profile);
    Some(room.map(|[depth, height]| {
        let t = cabinet.panel_mm;
        [(depth + t + cabinet.baffle_mm).round(), (height + 2.0 * t).round()]
    }))
}

fn fold(design: &Design, spec: &FoldSpec, plan: &Plan, wanted: &Wanted) -> Result<Folded, Unfit> {
    let length = wanted.path.length();
    let profile = |s: f64| wanted.path.area(s * length * (1.0 - 1e-9)) * 1e6;
    let fold = plan.fold(&profile)?;
    let stations: Vec<Station> = fold.stations.iter().map(|s| Station { at_mm: s[0], area_cm2: s[1] * 1e-2 }).collect();
    let bends: Vec<Bend> = fold.bends.iter().map(|b| Bend { at_mm: b[0], channel_mm: b[1] }).collect();
    let real = fold.length;
    let fit = |fills: &[PathFill]| -> Vec<PathFill> {
        fills.iter().filter(|f| f.from_mm < real - 1.0).map(|f| PathFill { to_mm: f.to_mm.min(real), ..*f }).collect()
    };
    let cutout = design.woofer.cutout_mm.unwrap_or_else(|| {
        design.woofer.sd_cm2.map_or(250.0, |sd| 1.15 * 2.0 * (sd * 100.0 / std::f64::consts::PI).sqrt())
    });
    // the hole stays clear of the first segment's beginning
    let least = cutout / 2.0 + 15.0;
    let shape = |horn: &Horn| {
        let ends = (stations[0].area_cm2, stations[stations.len() - 1].area_cm2);
        Horn {
            throat_cm2: ends.0,
            mouth_cm2: ends.1,
            profile: HornProfile::Free { stations: stations.clone() },
            bends: bends.clone(),
            fills: fit(&horn.fills),
            ..horn.clone()
        }
    };
    let start = fold.start_a();
    let not_there = |message: &str| Unfit { message: message.into(), least: 0.0, along: false };
    let (enclosure, woofer_along) = match &design.enclosure {
        Enclosure::TransmissionLine(line) => {
            let mut made = line.clone();
            made.length_mm = real;
            made.profile = LineProfile::Free { stations: stations.clone() };
            made.bends = bends.clone();
            made.fills = fit(&line.fills);
            let on_baffle = spec.woofer_on == WooferOn::Baffle;
            if plan.runs == Runs::Level && on_baffle {
                // the baffle is the end of the segments: the woofer looks in at the path's very beginning
                if plan.starts_far {
                    return Err(not_there(
                        "the woofer is on the baffle, but the path begins at the back; begin at the front",
                    ));
                }
                made.woofer_at_mm = 0.0;
            } else {
                // a woofer at the very end stands its own radius from it
                made.woofer_at_mm = line.woofer_at_mm.max(least).min(real * 0.9);
                let Some((_, segment)) = fold.on_centre(made.woofer_at_mm) else {
                    return Err(not_there("the woofer lies behind the last segment"));
                };
                if on_baffle && !fold.behind_baffle(segment) {
                    let message = format!(
                        "the woofer at {:.0} lies in a segment that is not behind the baffle; turn the segments around, move it, or put it on a side",
                        mm(made.woofer_at_mm)
                    );
                    return Err(not_there(&message));
                }
            }
            let along = start;
            (Enclosure::TransmissionLine(made), along)
        }
        Enclosure::FrontHorn(horn) => {
            let mut made = horn.clone();
            made.horn = shape(&horn.horn);
            let displaced = design.woofer.displacement().map_or(0.0, |d| d.0) * f64::from(design.array.count);
            if let Some((_, volume)) = &fold.chamber {
                made.rear_volume_l = Some((volume * 1e-6 - displaced).max(0.2));
            }
            (Enclosure::FrontHorn(made), least.max(fold.head_length / 2.0))
        }
        Enclosure::BackHorn(horn) => {
            let mut made = horn.clone();
            made.horn = shape(&horn.horn);
            let along = if plan.runs == Runs::Level { start } else { least.max(fold.head_length / 2.0) };
            (Enclosure::BackHorn(made), along)
        }
        Enclosure::TappedHorn(horn) => {
            if spec.pattern != Pattern::U {
                return Err(not_there("a tapped horn's two taps lie beside each other: fold it as a U"));
            }
            let mut made = horn.clone();
            made.horn = shape(&horn.horn);
            let along = horn.inner_tap_mm.max(least).min(fold.first_segment - least);
            made.inner_tap_mm = along;
            made.outer_tap_mm = fold.beside(along);
            (Enclosure::TappedHorn(made), along)
        }
        other => (other.clone(), start),
    };
    let x = match &enclosure {
        Enclosure::TransmissionLine(line) => line.woofer_at_mm,
        _ => (woofer_along - start).max(0.0),
    };
    let woofer_at = fold.on_centre(x).map_or([plan.corner[0], plan.corner[1]], |p| p.0);
    Ok(Folded { wanted_mm: length * 1e3, enclosure, woofer_along, woofer_at, fold })
}

/// Areas along the path as designed: (mm, cm²).
pub fn designed(design: &Design) -> Vec<[f64; 2]> {
    let Some(wanted) = wanted(&design.enclosure) else { return Vec::new() };
    wanted.path.places.iter().map(|p| [p.0 * 1e3, p.1 * 1e4]).collect()
}

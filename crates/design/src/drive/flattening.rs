//! Flattening a design: bands within what an amplifier has, limits kept at the present drive.

use crate::analysis::Analysis;
use crate::finding::value;
use crate::room::heard::{Heard, can_be_told};
use crate::room::response::mean_over_seats;
use oak_drum_acoustics::filters::Filter;
use oak_drum_acoustics::filters::band::Band;
use oak_drum_acoustics::flatten::{Curve, Ranges, Wish, flatten};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_document::{ChainFilter, Change, Checked, MOST_FILTERS, Stage};
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What a level is brought near.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Target {
    /// The same everywhere.
    #[schemars(title = "Flat")]
    Flat {},
    /// Rising toward the low end below a corner.
    #[schemars(title = "Sloped")]
    Sloped {
        /// Where it begins to rise or fall.
        #[schemars(title = "Below", range(min = 5.0, max = 500.0), extend("x-unit" = "Hz", "x-start" = 60.0))]
        corner_hz: f64,
        /// By how much toward the low end.
        #[schemars(title = "An octave lower", range(min = -24.0, max = 24.0), extend("x-unit" = "dB", "x-start" = 3.0))]
        db_per_octave: f64,
    },
    /// Drawn by hand: levels at frequencies, straight between them over ln f.
    #[schemars(title = "Drawn")]
    Drawn {
        /// Places, the lowest first.
        #[schemars(title = "Places", length(min = 2, max = 64))]
        points: Vec<Drawn>,
    },
}

/// A place of a target drawn by hand.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Place")]
pub struct Drawn {
    /// Frequency.
    #[schemars(title = "At", range(min = 5.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 40.0))]
    pub hz: f64,
    /// Level, against the others.
    #[schemars(title = "Level", range(min = -60.0, max = 60.0), extend("x-unit" = "dB", "x-start" = 0.0))]
    pub db: f64,
}

/// What is asked for.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Flatten")]
pub struct FlattenWish {
    /// How many bands.
    #[schemars(title = "Bands", range(min = 1, max = 12), extend("x-start" = 1))]
    pub bands: u32,
    /// Where the band to be flattened begins.
    #[schemars(title = "From", range(min = 5.0, max = 500.0), extend("x-unit" = "Hz", "x-start" = 25.0))]
    pub from_hz: f64,
    /// Where it ends.
    #[schemars(title = "to", range(min = 10.0, max = 2000.0), extend("x-unit" = "Hz", "x-start" = 120.0))]
    pub to_hz: f64,
    /// What the level is brought near.
    #[schemars(title = "Toward")]
    pub target: Target,
    /// Where the bands are: in the amplifier only what it has.
    #[schemars(title = "Bands of")]
    pub stage: Stage,
    /// Whose level it is.
    #[schemars(title = "Level")]
    #[serde(default)]
    pub heard: HeardAt,
}

/// Where a level that is flattened is heard.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum HeardAt {
    /// In the open.
    #[default]
    #[schemars(title = "In the open")]
    Open,
    /// At the seats of its room: bands only cut what stands out at every seat, and nothing is filled.
    #[schemars(title = "At the seats")]
    Seats,
}

/// Bands found.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FlattenResult {
    /// The bands, in the place of those there were at that stage.
    pub bands: Vec<Band>,
    /// The changes that take them.
    pub changes: Vec<Change>,
    /// Root mean square of what the level is off, in the band, as it is now, dB.
    pub before_db: f64,
    /// The same with the bands, dB.
    pub after_db: f64,
    /// What a better equaliser would reach with as many bands, dB; absent where these are not an amplifier's.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub fuller_db: Option<f64>,
}

/// Why nothing can be flattened, and at which field.
#[derive(Clone, Debug, PartialEq)]
pub struct Refusal {
    /// The field of the wish (JSON pointer).
    pub pointer: &'static str,
    /// What would do.
    pub message: Text,
}

/// Frequencies the level is looked at.
const POINTS: usize = 72;
/// How much cuts are preferred, dB²: a boost of 6 dB weighs as a third of a decibel left over everywhere.
const PREFER_CUTS: f64 = 0.1;
/// What bands at line level may be.
const FREE: Ranges = Ranges { hz: [5.0, 500.0], level_db: [-15.0, 9.0], q: [0.3, 10.0] };

impl Target {
    /// Its shape at a frequency, dB.
    fn at(&self, hz: f64) -> f64 {
        match self {
            Target::Flat {} => 0.0,
            Target::Sloped { corner_hz, db_per_octave } => db_per_octave * (corner_hz / hz).log2().max(0.0),
            Target::Drawn { points } => {
                let after = points.partition_point(|p| p.hz < hz);
                let (Some(low), Some(high)) = (points.get(after.saturating_sub(1)), points.get(after)) else {
                    return points.last().map_or(0.0, |p| p.db);
                };
                if after == 0 || high.hz <= low.hz {
                    return high.db;
                }
                low.db + (high.db - low.db) * (hz / low.hz).ln() / (high.hz / low.hz).ln()
            }
        }
    }
}

/// Bands that bring a design's level near a target.
///
/// # Errors
/// Where the wish cannot be met: a band that ends before it begins, an amplifier without an equaliser, a chain that is full.
pub fn flattened(design: &Checked, wish: &FlattenWish) -> Result<FlattenResult, Refusal> {
    if wish.to_hz < wish.from_hz * 1.2 {
        let message = format!("has to be {:.0} Hz or more, a little over where the band begins", wish.from_hz * 1.2);
        return Err(Refusal { pointer: "/to_hz", message: message.into() });
    }
    if let Target::Drawn { points } = &wish.target
        && points.windows(2).any(|pair| pair[1].hz <= pair[0].hz)
    {
        return Err(Refusal {
            pointer: "/target/points",
            message: "has to rise in frequency from place to place".into(),
        });
    }
    let own = design.chain.amplifier.as_ref().and_then(|a| a.equaliser);
    let ranges = match (wish.stage, own) {
        (Stage::Amplifier, None) => {
            let message = "the amplifier has no equaliser; at line level bands can be had";
            return Err(Refusal { pointer: "/stage", message: message.into() });
        }
        (Stage::Amplifier, Some(e)) if wish.bands > e.bands => {
            let message = format!("the amplifier has {} band{}", e.bands, if e.bands == 1 { "" } else { "s" });
            return Err(Refusal { pointer: "/bands", message: message.into() });
        }
        (Stage::Amplifier, Some(e)) => {
            Ranges { hz: [e.from_hz, e.to_hz], level_db: [e.lowest_db, e.highest_db], q: [e.from_q, e.to_q] }
        }
        _ => FREE,
    };
    let replaced = |f: &ChainFilter| f.stage == wish.stage && matches!(f.filter, Filter::Band(_));
    let mut kept: Vec<ChainFilter> = design.chain.filters.iter().filter(|f| !replaced(f)).cloned().collect();
    if kept.len() + wish.bands as usize > MOST_FILTERS {
        let message = format!("{} more filters are possible in this chain", MOST_FILTERS - kept.len());
        return Err(Refusal { pointer: "/bands", message: message.into() });
    }
    let now = Analysis::of(design);
    let without = vec![Change::set("/chain/filters", value(&kept))];
    let hz = log_frequencies(wish.from_hz, wish.to_hz, POINTS);
    let nothing = || Refusal { pointer: "", message: "this design cannot be worked out without its bands".into() };
    let analysis = now.at_frequencies(&without, &hz).ok_or_else(nothing)?;
    let c = analysis.curves();
    let target: Vec<f64> = hz.iter().map(|f| wish.target.at(*f)).collect();
    if wish.heard == HeardAt::Seats {
        return at_seats(&now, &analysis, wish, &target, ranges, kept);
    }
    let room: Vec<f64> = c.headroom.iter().map(|g| 20.0 * g.log10().min(10.0)).collect();
    let curve = Curve { hz: &hz, level_db: &c.level_db, target_db: &target, room_db: &room };
    let of = |ranges| Wish { bands: wish.bands as usize, ranges, level_db: None, prefer_cuts: PREFER_CUTS };
    let found = flatten(curve, &of(ranges));
    let bands = put(&mut kept, &found.bands, wish.stage);
    // as it is now, with the bands it has
    let present = now.at_frequencies(&[], &hz).ok_or_else(nothing)?;
    let before = rms(&present.curves().level_db, &target);
    let changes = vec![Change::set("/chain/filters", value(&kept))];
    let after = now.at_frequencies(&changes, &hz).ok_or_else(nothing)?;
    let fuller = (wish.stage == Stage::Amplifier).then(|| flatten(curve, &of(FREE)).after_db);
    Ok(FlattenResult {
        bands,
        changes,
        before_db: before,
        after_db: rms(&after.curves().level_db, &target),
        fuller_db: fuller,
    })
}

/// Bands as a device would be set to them, behind the filters that are kept.
fn put(kept: &mut Vec<ChainFilter>, found: &[Band], stage: Stage) -> Vec<Band> {
    let tenth = |x: f64| (x * 10.0).round() / 10.0;
    let hundredth = |x: f64| (x * 100.0).round() / 100.0;
    let set = |b: &Band| Band { frequency_hz: tenth(b.frequency_hz), level_db: tenth(b.level_db), q: hundredth(b.q) };
    let bands: Vec<Band> = found.iter().map(set).filter(|b| b.level_db != 0.0).collect();
    let filter = |b: &Band| ChainFilter { name: String::new(), stage, off: false, filter: Filter::Band(*b) };
    kept.extend(bands.iter().map(filter));
    bands
}

/// Cuts of what stands out at every seat of the design's room over the middle of all; `analysis` is the design without its bands, at
/// the frequencies of the band.
fn at_seats(
    now: &Analysis,
    analysis: &Analysis,
    wish: &FlattenWish,
    target: &[f64],
    ranges: Ranges,
    mut kept: Vec<ChainFilter>,
) -> Result<FlattenResult, Refusal> {
    let Some(room) = analysis.design.room.as_ref().filter(|room| can_be_told(analysis, room)) else {
        let message =
            "the build stands in no room, or not as it can; without one the level in the open can be flattened";
        return Err(Refusal { pointer: "/heard", message: message.into() });
    };
    let hz = &analysis.curves().frequency;
    let off = |analysis: &Analysis| -> Vec<Vec<f64>> {
        let seats = Heard::levels_at(analysis, room, hz);
        seats.into_iter().map(|seat| seat.iter().zip(target).map(|(l, t)| l - t).collect()).collect()
    };
    let seats = off(analysis);
    let mut middle = mean_over_seats(&seats);
    middle.sort_by(f64::total_cmp);
    let middle = middle[middle.len() / 2];
    let shared = |i: usize| seats.iter().map(|seat| seat[i]).fold(f64::INFINITY, f64::min);
    let over: Vec<f64> = (0..hz.len()).map(|i| (shared(i) - middle).max(0.0)).collect();
    let flat = vec![0.0; over.len()];
    let curve = Curve { hz, level_db: &over, target_db: &flat, room_db: &[] };
    let cuts = Ranges { level_db: [ranges.level_db[0], 0.0], ..ranges };
    let sought = Wish { bands: wish.bands as usize, ranges: cuts, level_db: Some(0.0), prefer_cuts: 0.0 };
    let bands = put(&mut kept, &flatten(curve, &sought).bands, wish.stage);
    let changes = vec![Change::set("/chain/filters", value(&kept))];
    let told = |changes: &[Change]| {
        let there = now.at_frequencies(changes, hz)?;
        Some(rms(&mean_over_seats(&off(&there)), &flat))
    };
    let nothing = || Refusal { pointer: "", message: "this design cannot be worked out with these bands".into() };
    let (before_db, after_db) = told(&[]).zip(told(&changes)).ok_or_else(nothing)?;
    if bands.is_empty() || after_db >= before_db {
        let message = "nothing that stands out at every seat is mended by such cuts better than by what is there; a place or a seat moved does more";
        return Err(Refusal { pointer: "/heard", message: message.into() });
    }
    Ok(FlattenResult { bands, changes, before_db, after_db, fuller_db: None })
}

/// Bands at line level that bring any curve near a target: computed or measured, a level (dB) at each of rising frequencies (Hz).
///
/// # Errors
/// Where fewer than eight of its places lie in the band, or none of the wish makes sense.
pub fn flattened_curve(hz: &[f64], level: &[f64], wish: &FlattenWish) -> Result<FlattenResult, Refusal> {
    let inside: Vec<usize> = (0..hz.len()).filter(|i| (wish.from_hz..=wish.to_hz).contains(&hz[*i])).collect();
    if inside.len() < 8 {
        let message = format!("the curve has {} places in that band; eight are wanted at least", inside.len());
        return Err(Refusal { pointer: "/from_hz", message: message.into() });
    }
    // evenly over ln f, so that a curve of even steps in Hz weighs the same
    let even = log_frequencies(hz[inside[0]], hz[inside[inside.len() - 1]], POINTS);
    let at = |f: f64| {
        let after = hz.partition_point(|x| *x < f).clamp(1, hz.len() - 1);
        let (a, b) = (after - 1, after);
        level[a] + (level[b] - level[a]) * (f / hz[a]).ln() / (hz[b] / hz[a]).ln()
    };
    let level: Vec<f64> = even.iter().map(|f| at(*f)).collect();
    let target: Vec<f64> = even.iter().map(|f| wish.target.at(*f)).collect();
    let curve = Curve { hz: &even, level_db: &level, target_db: &target, room_db: &[] };
    let sought = Wish { bands: wish.bands as usize, ranges: FREE, level_db: None, prefer_cuts: PREFER_CUTS };
    let found = flatten(curve, &sought);
    Ok(FlattenResult {
        before_db: rms(&level, &target),
        after_db: found.after_db,
        bands: found.bands,
        changes: Vec::new(),
        fuller_db: None,
    })
}

/// Root mean square of what a level is off a shape, its mean taken off; the frequencies lie evenly in ln f.
fn rms(level: &[f64], shape: &[f64]) -> f64 {
    let off: Vec<f64> = level.iter().zip(shape).map(|(l, s)| l - s).collect();
    let mean = off.iter().sum::<f64>() / off.len() as f64;
    (off.iter().map(|x| (x - mean).powi(2)).sum::<f64>() / off.len() as f64).sqrt()
}

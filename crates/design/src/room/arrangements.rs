//! Where one to four cabinets are best put: the usual arrangements, and a search over the floor.

use crate::analysis::Analysis;
use crate::room::clashes::clashes;
use crate::room::heard::{band, frequencies};
use crate::room::map::{MapValues, against_own, from_walls, over_plane};
use crate::room::playing::{Player, Playing, footprint, outside};
use crate::room::response::{ears, evenness};
use crate::room::surroundings::Surroundings;
use num_complex::Complex64;
use oak_drum_acoustics::halt;
use oak_drum_document::{Change, Checked, Facing, InRoom, MOST_CABINETS, StandingCabinet};
use oak_drum_text::Text;
use rayon::prelude::*;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What is asked for.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Arrangements")]
pub struct ArrangementsWish {
    /// How many cabinets of this build.
    #[schemars(title = "Cabinets", range(min = 1, max = MOST_CABINETS), extend("x-start" = 2))]
    pub count: usize,
}

/// Ways to put them, the most even first.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Arrangements {
    /// As it stands now.
    pub now: MapValues,
    /// What was tried and fits.
    pub list: Vec<Arrangement>,
    /// How many places the search tried together.
    pub tried: usize,
}

/// One way to put them.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Arrangement {
    /// In a few words: "in two opposite corners", "found by search".
    pub title: Text,
    /// Whether a search found it; else it is a usual one.
    pub searched: bool,
    /// What is had with it.
    pub values: MapValues,
    /// Where they stand.
    pub cabinets: Vec<StandingCabinet>,
    /// What puts them there.
    pub changes: Vec<Change>,
}

/// Air left between a cabinet and a wall, m.
const CLEAR: f64 = 0.05;
/// Most places of the search's floor.
const PLACES: f64 = 420.0;
/// Nearest its places lie, m.
const STEP: f64 = 0.2;
/// Frequencies an octave of the search, and of what is told.
const AN_OCTAVE: [f64; 2] = [12.0, 24.0];
/// Rounds of exchanging one place after the other.
const ROUNDS: usize = 6;

/// Arrangements of so many cabinets of a design in its room; `None` in the open field or in a cabin.
pub fn arrangements(design: &Checked, wish: &ArrangementsWish) -> Option<Arrangements> {
    let analysis = Analysis::of(design);
    let room = analysis.design.room.clone()?;
    let sides = room.room.space.sides()?;
    let surroundings = Surroundings::of(&room.room.space, analysis.context.air);
    let limits = band(&analysis, &surroundings);
    let (hz, octave) = frequencies(limits, AN_OCTAVE[1]);
    let own = Player::of(&analysis, &hz);
    let outside = outside(&analysis).0;
    let judged = |cabinets: Vec<StandingCabinet>, title: Text, searched: bool| -> Option<Arrangement> {
        let changed = InRoom { cabinets, ..room.clone() };
        let outsides = vec![outside; changed.cabinets.len()];
        if clashes(&changed, &outsides).iter().any(|c| !c.seat) {
            return None;
        }
        let playing = Playing { hz: hz.clone(), players: vec![own.clone(); changed.cabinets.len()] };
        let values = evenness(&against_own(&surroundings, &playing, &changed), octave).into();
        let value = serde_json::to_value(&changed.cabinets).unwrap_or_default();
        let changes = vec![Change::set("/room/cabinets", value)];
        Some(Arrangement { title, searched, values, cabinets: changed.cabinets, changes })
    };
    let here = room.cabinets[0].clone();
    let raised = here.raised_m;
    let walls = Walls { sides, outside, raised };
    let mut list: Vec<Arrangement> = usual(wish.count)
        .into_iter()
        .filter_map(|(title, spots)| judged(spots.iter().map(|spot| walls.at(*spot)).collect(), title.into(), false))
        .collect();
    let floor = Floor::of(&analysis, &room, &surroundings, limits, &walls);
    let mut tried = 0;
    // where cabinets usually stand, and anywhere
    for (where_, most) in [("along the walls", NEAR_WALLS), ("anywhere on the floor", f64::INFINITY)] {
        let places = floor.within(&walls, most);
        let (found, sets) = floor.search(&places, wish.count);
        tried += sets;
        let Some(found) = found else { continue };
        let words: Vec<String> = found.iter().map(|c| from_walls([c.x_m, c.y_m], sides)).collect();
        list.extend(judged(found, format!("found by search {where_}: {}", words.join("; ")).into(), true));
    }
    list.sort_by(|a, b| a.values.uneven_db.total_cmp(&b.values.uneven_db));
    let playing = Playing::of(&analysis, &room, &hz);
    let now = evenness(&against_own(&surroundings, &playing, &room), octave).into();
    Some(Arrangements { now, list, tried })
}

/// A place by the walls: parts of the length and of the width, 0 and 1 at the walls.
pub(crate) type Spot = [f64; 2];

/// The usual arrangements (common practice) of so many cabinets.
pub(crate) fn usual(count: usize) -> Vec<(&'static str, Vec<Spot>)> {
    const LOWER_LEFT: Spot = [0.0, 0.0];
    const LOWER_RIGHT: Spot = [1.0, 0.0];
    const UPPER_LEFT: Spot = [0.0, 1.0];
    const UPPER_RIGHT: Spot = [1.0, 1.0];
    const LEFT: Spot = [0.0, 0.5];
    const RIGHT: Spot = [1.0, 0.5];
    const LOWER: Spot = [0.5, 0.0];
    const UPPER: Spot = [0.5, 1.0];
    let quarters = |axis: usize, end: f64| [0.25, 0.75].map(|part| if axis == 0 { [part, end] } else { [end, part] });
    match count {
        1 => vec![
            ("in the lower left corner", vec![LOWER_LEFT]),
            ("in the lower right corner", vec![LOWER_RIGHT]),
            ("in the upper left corner", vec![UPPER_LEFT]),
            ("in the upper right corner", vec![UPPER_RIGHT]),
            ("in the middle of the left wall", vec![LEFT]),
            ("in the middle of the right wall", vec![RIGHT]),
            ("in the middle of the lower wall", vec![LOWER]),
            ("in the middle of the upper wall", vec![UPPER]),
        ],
        2 => vec![
            ("in the middle of the left and the right wall", vec![LEFT, RIGHT]),
            ("in the middle of the lower and the upper wall", vec![LOWER, UPPER]),
            ("in both left corners", vec![LOWER_LEFT, UPPER_LEFT]),
            ("in both right corners", vec![LOWER_RIGHT, UPPER_RIGHT]),
            ("in both lower corners", vec![LOWER_LEFT, LOWER_RIGHT]),
            ("in both upper corners", vec![UPPER_LEFT, UPPER_RIGHT]),
            ("in the lower left and the upper right corner", vec![LOWER_LEFT, UPPER_RIGHT]),
            ("in the upper left and the lower right corner", vec![UPPER_LEFT, LOWER_RIGHT]),
            ("at the quarter points of the left wall", quarters(1, 0.0).to_vec()),
            ("at the quarter points of the right wall", quarters(1, 1.0).to_vec()),
            ("at the quarter points of the lower wall", quarters(0, 0.0).to_vec()),
            ("at the quarter points of the upper wall", quarters(0, 1.0).to_vec()),
        ],
        3 => vec![
            ("in both left corners and the middle of the right wall", vec![LOWER_LEFT, UPPER_LEFT, RIGHT]),
            ("in both right corners and the middle of the left wall", vec![LOWER_RIGHT, UPPER_RIGHT, LEFT]),
            ("in both lower corners and the middle of the upper wall", vec![LOWER_LEFT, LOWER_RIGHT, UPPER]),
            ("in both upper corners and the middle of the lower wall", vec![UPPER_LEFT, UPPER_RIGHT, LOWER]),
        ],
        _ => vec![
            ("in all four corners", vec![LOWER_LEFT, LOWER_RIGHT, UPPER_LEFT, UPPER_RIGHT]),
            ("in the middle of all four walls", vec![LEFT, RIGHT, LOWER, UPPER]),
            ("at the quarter points of the left and the right wall", [quarters(1, 0.0), quarters(1, 1.0)].concat()),
            ("at the quarter points of the lower and the upper wall", [quarters(0, 0.0), quarters(0, 1.0)].concat()),
        ],
    }
}

/// The walls cabinets are put along.
pub(crate) struct Walls {
    /// Of the room, m.
    pub sides: [f64; 3],
    /// Of a cabinet: width, height, depth, m.
    pub outside: [f64; 3],
    /// A cabinet's underside above the floor, m.
    pub raised: f64,
}

impl Walls {
    /// A cabinet with its middle there, looking away from the nearest wall.
    fn facing(&self, x_m: f64, y_m: f64) -> StandingCabinet {
        let [length, width, _] = self.sides;
        let ways =
            [(x_m, Facing::Right), (length - x_m, Facing::Left), (y_m, Facing::Upper), (width - y_m, Facing::Lower)];
        let faces = ways.iter().min_by(|a, b| a.0.total_cmp(&b.0)).map_or(Facing::Right, |w| w.1);
        StandingCabinet {
            x_m: (x_m * 100.0).round() / 100.0,
            y_m: (y_m * 100.0).round() / 100.0,
            raised_m: self.raised,
            faces,
            level_db: 0.0,
            delay_ms: 0.0,
            inverted: false,
            other: None,
        }
    }

    /// A cabinet at a spot, clear of the walls.
    pub fn at(&self, [along, across]: Spot) -> StandingCabinet {
        let [length, width, _] = self.sides;
        let mut cabinet = self.facing(along * length, across * width);
        let [long, wide] = footprint(self.outside, cabinet.faces);
        let within = |part: f64, side: f64, size: f64| {
            let least = (size / 2.0 + CLEAR).min(side / 2.0);
            ((part * side).clamp(least, side - least) * 100.0).round() / 100.0
        };
        cabinet.x_m = within(along, length, long);
        cabinet.y_m = within(across, width, wide);
        cabinet
    }
}

/// A cabinet so near a wall stands along it, m beyond its own half depth.
const NEAR_WALLS: f64 = 0.25;

/// Places of a floor, and the pressures of one cabinet there by seat and frequency together.
struct Floor {
    cabinets: Vec<StandingCabinet>,
    heard: Vec<Vec<Complex64>>,
}

impl Floor {
    fn of(analysis: &Analysis, room: &InRoom, surroundings: &Surroundings, limits: [f64; 2], walls: &Walls) -> Floor {
        let [length, width, _] = walls.sides;
        let step = STEP.max((length * width / PLACES).sqrt());
        let along = |side: f64| -> Vec<f64> {
            let n = (side / step).floor().max(2.0) as usize;
            (0..n).map(|i| (i as f64 + 0.5) / n as f64 * side).collect()
        };
        let (hz, _) = frequencies(limits, AN_OCTAVE[0]);
        let height = walls.raised + Player::of(analysis, &hz).height();
        let (x, y) = (along(length), along(width));
        let stands = |cabinet: &StandingCabinet| {
            let alone = InRoom { cabinets: vec![cabinet.clone()], ..room.clone() };
            !clashes(&alone, &[walls.outside]).iter().any(|c| !c.seat)
        };
        // the outermost places are moved in until the cabinet stands clear
        let grid = y.iter().flat_map(|y| x.iter().map(move |x| walls.at([x / length, y / width])));
        let cabinets: Vec<(usize, StandingCabinet)> = grid.enumerate().filter(|(_, cabinet)| stands(cabinet)).collect();
        let planes: Vec<Vec<Vec<Complex64>>> =
            room.seats.iter().map(|seat| over_plane(surroundings, &hz, &x, &y, height, ears(seat))).collect();
        // against the build's own level: the frequency's rise is taken off, and its flow is the same everywhere
        let heard = |p: usize| {
            planes.iter().flat_map(|seat| seat.iter().zip(&hz).map(move |(plane, f)| plane[p] / *f)).collect()
        };
        Floor {
            heard: cabinets.iter().map(|(p, _)| heard(*p)).collect(),
            cabinets: cabinets.into_iter().map(|(_, cabinet)| cabinet).collect(),
        }
    }

    /// The places whose cabinet stands so near a wall (m) at most.
    fn within(&self, walls: &Walls, most: f64) -> Vec<usize> {
        let [length, width, _] = walls.sides;
        let near = |p: &usize| {
            let cabinet = &self.cabinets[*p];
            let [long, wide] = footprint(walls.outside, cabinet.faces);
            let gap = |at: f64, size: f64, side: f64| (at - size / 2.0).min(side - at - size / 2.0);
            gap(cabinet.x_m, long, length).min(gap(cabinet.y_m, wide, width)) <= most
        };
        (0..self.cabinets.len()).filter(near).collect()
    }

    /// How uneven places are together: as [`crate::room::response::Evenness::uneven`], squared.
    fn uneven(sum: &[Complex64]) -> f64 {
        let (mut first, mut second) = (0.0, 0.0);
        for p in sum {
            let level = p.norm_sqr().max(1e-18).ln();
            first += level;
            second += level * level;
        }
        let n = sum.len() as f64;
        second / n - (first / n).powi(2)
    }

    fn added(&self, sum: &[Complex64], place: usize) -> Vec<Complex64> {
        sum.iter().zip(&self.heard[place]).map(|(a, b)| a + b).collect()
    }

    fn sum_of(&self, list: &[usize]) -> Vec<Complex64> {
        let nothing = vec![Complex64::default(); self.heard.first().map_or(0, Vec::len)];
        list.iter().fold(nothing, |sum, place| self.added(&sum, *place))
    }

    /// The place that makes the sound of those that are taken most even.
    fn best_beside(&self, places: &[usize], taken: &[usize]) -> Option<(usize, f64)> {
        let sum = self.sum_of(taken);
        let free = places.par_iter().filter(|place| taken.iter().all(|t| self.apart(*t, **place)));
        free.map(halt::carried(|place: &usize| {
            halt::check();
            (*place, Floor::uneven(&self.added(&sum, *place)))
        }))
        .min_by(|a, b| a.1.total_cmp(&b.1))
    }

    /// Whether two places are so far apart that both can be taken.
    fn apart(&self, a: usize, b: usize) -> bool {
        let (a, b) = (&self.cabinets[a], &self.cabinets[b]);
        (a.x_m - b.x_m).hypot(a.y_m - b.y_m) > 0.6
    }

    /// The most even of these places for so many, and how many sets were tried: all pairs, then one more after the other, then each
    /// moved again while that helps.
    fn search(&self, places: &[usize], count: usize) -> (Option<Vec<StandingCabinet>>, usize) {
        let mut tried = places.len();
        let mut taken: Vec<usize> = if count == 1 {
            self.best_beside(places, &[]).into_iter().map(|(p, _)| p).collect()
        } else {
            tried = places.len() * places.len().saturating_sub(1) / 2;
            let pair = |i: usize| {
                halt::check();
                let a = places[i];
                let later = places[i + 1..].iter().filter(|b| self.apart(a, **b));
                let rated = later.map(|b| (a, *b, Floor::uneven(&self.added(&self.heard[a], *b))));
                rated.min_by(|p, q| p.2.total_cmp(&q.2))
            };
            let all = (0..places.len()).into_par_iter().filter_map(halt::carried(pair));
            all.min_by(|p, q| p.2.total_cmp(&q.2)).map_or(Vec::new(), |(a, b, _)| vec![a, b])
        };
        while taken.len() < count {
            tried += places.len();
            let Some((place, _)) = self.best_beside(places, &taken) else { return (None, tried) };
            taken.push(place);
        }
        let mut best = Floor::uneven(&self.sum_of(&taken));
        for _ in 0..if count > 2 { ROUNDS } else { 0 } {
            let before = best;
            for i in 0..taken.len() {
                let others: Vec<usize> = taken.iter().enumerate().filter(|(k, _)| *k != i).map(|(_, p)| *p).collect();
                tried += places.len();
                if let Some((place, value)) = self.best_beside(places, &others)
                    && value < best - 1e-9
                {
                    (taken[i], best) = (place, value);
                }
            }
            if best >= before - 1e-9 {
                break;
            }
        }
        (Some(taken.into_iter().map(|p| self.cabinets[p].clone()).collect()), tried)
    }
}

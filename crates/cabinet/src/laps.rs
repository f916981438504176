//! Where boards inside cross each other: half-laps, openings for bars, holes for round bars.
//!
//! Two boards that both end where they cross slide into each other: each is slotted from its own end as far as the other keeps
//! its wood (the cross-halving joint, common practice). A board that ends on neither side of another goes through an opening in
//! that other. Either way no wood is in one place twice.

use crate::board::{BAR_HOLE, Board, Hole, LAP, Opening, Outline, P2, Role, THROUGH, V3, clipped, dot, reach, without};
use oak_drum_text::size;

/// Overlaps that count, mm.
const LEAST: f64 = 0.05;

/// The axis of the cabinet a direction lies along.
fn axis_of(direction: V3) -> Option<usize> {
    (0..3).find(|k| direction[*k].abs() > 0.9999)
}

/// A flat board whose sides lie along the cabinet's axes.
struct Plate {
    /// The axis across its thickness.
    thin: usize,
    /// Where it begins and ends on that axis, mm.
    through: P2,
    /// The axes of the cabinet its u and v lie along.
    axes: [usize; 2],
    /// The ring half-way through it, on those axes, mm.
    ring: Vec<P2>,
    /// The rings of its two faces; they differ where ends are bevelled.
    faces: [Vec<P2>; 2],
    /// Its outline as sawn, on those axes: lowest and highest.
    sawn: [P2; 2],
    /// Its rectangular holes on those axes: lowest and highest.
    holes: Vec<[P2; 2]>,
}

impl Plate {
    fn of(board: &Board) -> Option<Plate> {
        if !matches!(board.outline, Outline::Corners { .. }) {
            return None;
        }
        let (thin, axes) = (axis_of(board.normal())?, [axis_of(board.u)?, axis_of(board.v)?]);
        let on_axes = |p: P2| {
            let there = board.place(p, board.thickness_mm / 2.0);
            axes.map(|k| there[k])
        };
        let ends = [board.at[thin], board.place([0.0; 2], board.thickness_mm)[thin]];
        let cut = match board.cut() {
            Outline::Corners { face, back } => face.iter().chain(back).map(|p| on_axes(*p)).collect::<Vec<_>>(),
            Outline::Disc { .. } => return None,
        };
        let holes = board.holes.iter().filter(|h| matches!(h.opening, Opening::Rectangle { .. }));
        Some(Plate {
            thin,
            through: [ends[0].min(ends[1]), ends[0].max(ends[1])],
            axes,
            ring: board.ring(0.5).into_iter().map(on_axes).collect(),
            faces: [0.0, 1.0].map(|part| board.ring(part).into_iter().map(on_axes).collect()),
            sawn: reach(&cut),
            holes: holes
                .map(|h| {
                    let corners: Vec<P2> = h.opening.corners(h.at).into_iter().flatten().map(on_axes).collect();
                    reach(&corners)
                })
                .collect(),
        })
    }

    fn slot(&self, axis: usize) -> usize {
        usize::from(self.axes[1] == axis)
    }

    /// Where the plate begins and ends along an axis, in the middle of a strip across it.
    fn along(&self, axis: usize, [from, to]: P2) -> Option<P2> {
        let (l, c) = (self.slot(axis), 1 - self.slot(axis));
        let [low, high] = reach(&self.ring);
        let (from, to) = (from.max(low[c]), to.min(high[c]));
        if to - from < LEAST {
            return None;
        }
        let middle = 0.5 * (from + to);
        let line = clipped(&clipped(&self.ring, c, middle - 1e-3, false), c, middle + 1e-3, true);
        let [low, high] = reach(&line);
        (high[l] - low[l] > LEAST).then_some([low[l], high[l]])
    }

    /// The farthest the plate reaches along an axis anywhere in a strip across it.
    fn farthest(&self, axis: usize, [from, to]: P2) -> P2 {
        let (l, c) = (self.slot(axis), 1 - self.slot(axis));
        let pieces = self.faces.iter().flat_map(|ring| clipped(&clipped(ring, c, from, false), c, to, true));
        let [low, high] = reach(&pieces.collect::<Vec<_>>());
        [low[l], high[l]]
    }

    /// The wood in a strip across an axis: rectangles on the plate's axes.
    fn strip(&self, axis: usize, [from, to]: P2) -> Vec<[P2; 2]> {
        let Some([begins, ends]) = self.along(axis, [from, to]) else { return Vec::new() };
        let (l, c) = (self.slot(axis), 1 - self.slot(axis));
        let [low, high] = reach(&self.ring);
        let (mut a, mut b) = ([0.0; 2], [0.0; 2]);
        (a[l], b[l]) = (begins, ends);
        (a[c], b[c]) = (from.max(low[c]), to.min(high[c]));
        self.holes.iter().fold(vec![[a, b]], |wood, hole| without(wood, *hole))
    }

    /// Where along an axis there is wood in a strip, in order.
    fn wood(&self, axis: usize, strip: P2) -> Vec<P2> {
        let l = self.slot(axis);
        let mut list: Vec<P2> = self.strip(axis, strip).iter().map(|[a, b]| [a[l], b[l]]).collect();
        list.sort_by(|a, b| a[0].total_cmp(&b[0]));
        list.dedup_by(|next, last| {
            let joins = next[0] <= last[1] + 1e-6;
            if joins {
                last[1] = last[1].max(next[1]);
            }
            joins
        });
        list
    }
}

/// What two plates share along the axis neither is thin in.
fn shared(a: &[P2], b: &[P2]) -> Vec<P2> {
    let pairs = a.iter().flat_map(|x| b.iter().map(move |y| [x[0].max(y[0]), x[1].min(y[1])]));
    let mut list: Vec<P2> = pairs.filter(|[from, to]| to - from > LEAST).collect();
    list.sort_by(|x, y| x[0].total_cmp(&y[0]));
    list
}

/// What an end of an axis is called: across, up, back.
const ENDS: [[&str; 2]; 3] = [["left end", "right end"], ["lower edge", "upper edge"], ["front edge", "back edge"]];

/// How one board gives way to another.
struct Cut {
    /// Which board is sawn.
    board: usize,
    /// Which one it makes room for.
    other: usize,
    /// The parts along the crossing that go.
    parts: Vec<P2>,
    /// The end of the crossing's axis it is sawn in from; an opening in the board's middle has none.
    end: Option<bool>,
}

/// Lets braces that cross into each other. Boards that lie in one plane, or not along the cabinet's axes, are left as they are.
pub fn lap(boards: &mut [Board]) {
    for i in 0..boards.len() {
        for k in i + 1..boards.len() {
            if boards[i].role == Role::Brace && boards[k].role == Role::Brace {
                cross(boards, i, k);
            }
        }
    }
}

fn cross(boards: &mut [Board], i: usize, k: usize) {
    let (Some(a), Some(b)) = (Plate::of(&boards[i]), Plate::of(&boards[k])) else { return };
    if a.thin == b.thin {
        return;
    }
    let axis = 3 - a.thin - b.thin;
    let both = shared(&a.wood(axis, b.through), &b.wood(axis, a.through));
    let (Some(first), Some(last)) = (both.first(), both.last()) else { return };
    let (Some(of_a), Some(of_b)) = (a.along(axis, b.through), b.along(axis, a.through)) else { return };
    let at = |end: f64, wood: f64| (end - wood).abs() < 0.5;
    let (low, high) = ([at(of_a[0], first[0]), at(of_b[0], first[0])], [at(of_a[1], last[1]), at(of_b[1], last[1])]);
    // where the wood parts, or half-way
    let (before, after) = match both.len() {
        1 => {
            let middle = 0.5 * (first[0] + first[1]);
            (vec![[first[0], middle]], vec![[middle, first[1]]])
        }
        n => (both[..n.div_ceil(2)].to_vec(), both[n.div_ceil(2)..].to_vec()),
    };
    let cuts = if high[0] && low[1] {
        vec![
            Cut { board: i, other: k, parts: after, end: Some(true) },
            Cut { board: k, other: i, parts: before, end: Some(false) },
        ]
    } else if low[0] && high[1] {
        vec![
            Cut { board: i, other: k, parts: before, end: Some(false) },
            Cut { board: k, other: i, parts: after, end: Some(true) },
        ]
    } else {
        // the one that goes on on both sides gives way
        let (board, other) = if low[0] || high[0] { (k, i) } else { (i, k) };
        vec![Cut { board, other, parts: both, end: None }]
    };
    let plates = [(i, a), (k, b)];
    for cut in cuts {
        let of = |board: usize| plates.iter().find(|(p, _)| *p == board).map(|(_, plate)| plate);
        if let (Some(plate), Some(other)) = (of(cut.board), of(cut.other)) {
            saw(boards, &cut, plate, other, axis);
        }
    }
}

fn saw(boards: &mut [Board], cut: &Cut, plate: &Plate, other: &Plate, axis: usize) {
    let (l, c) = (plate.slot(axis), 1 - plate.slot(axis));
    let (Some(first), Some(last)) = (cut.parts.first(), cut.parts.last()) else { return };
    let farthest = plate.farthest(axis, other.through);
    let wood: Vec<[P2; 2]> = plate
        .strip(axis, other.through)
        .into_iter()
        .flat_map(|[a, b]| {
            cut.parts.iter().map(move |part| {
                let (mut low, mut high) = (a, b);
                (low[l], high[l]) = (a[l].max(part[0]), b[l].min(part[1]));
                [low, high]
            })
        })
        .filter(|[a, b]| b[l] - a[l] > LEAST && b[c] - a[c] > LEAST)
        .map(|[mut a, mut b]| {
            // out through an end that leans
            match cut.end {
                Some(false) if (a[l] - first[0]).abs() < 1e-6 => a[l] = farthest[0],
                Some(true) if (b[l] - last[1]).abs() < 1e-6 => b[l] = farthest[1],
                _ => {}
            }
            [a, b]
        })
        .collect();
    let name = boards[cut.other].name.to_lowercase();
    let wide = size(other.through[1] - other.through[0]);
    let middle = 0.5 * (other.through[0] + other.through[1]);
    let [low, high] = plate.sawn;
    // from the square back edge where it lies across the front
    let (from, end) =
        if plate.axes[c] == 2 { (high[c] - middle, ENDS[2][1]) } else { (middle - low[c], ENDS[plate.axes[c]][0]) };
    let from = size(from);
    let words = match cut.end {
        Some(true) => format!(
            "half-lap for the {name}: {wide:.1} wide, {:.1} deep from its {}, its middle {from:.1} from its {end}",
            size(high[l] - first[0]),
            ENDS[axis][1]
        ),
        Some(false) => format!(
            "half-lap for the {name}: {wide:.1} wide, {:.1} deep from its {}, its middle {from:.1} from its {end}",
            size(last[1] - low[l]),
            ENDS[axis][0]
        ),
        None => format!(
            "opening for the {name}: {:.1}, its middle {from:.1} from its {end} and {:.1} from its {}",
            size([other.through[1] - other.through[0], last[1] - first[0]]),
            size(if axis == 2 { high[l] - 0.5 * (first[0] + last[1]) } else { 0.5 * (first[0] + last[1]) - low[l] }),
            ENDS[axis][usize::from(axis == 2)],
        ),
    };
    let board = &mut boards[cut.board];
    let axes = plate.axes;
    for [a, b] in wood {
        let corner = |p: P2| {
            let mut there = board.at;
            (there[axes[0]], there[axes[1]]) = (p[0], p[1]);
            board.on_face(there)
        };
        let (p, q) = (corner(a), corner(b));
        board.holes.push(Hole {
            name: if cut.end.is_some() { LAP } else { THROUGH }.into(),
            at: [(p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0],
            opening: Opening::Rectangle { length_mm: (q[0] - p[0]).abs(), width_mm: (q[1] - p[1]).abs() },
            screw_circle_mm: None,
            screws: 0,
            frame_mm: None,
            recess: None,
        });
    }
    board.add_words(&words);
}

/// Drills the braces for round bars that pass through them squarely, clear of their edges and windows.
pub fn pierce(boards: &mut [Board]) {
    let bars: Vec<(V3, V3, f64, f64)> = boards
        .iter()
        .filter_map(|b| match b.outline {
            Outline::Disc { diameter_mm } if b.role == Role::Dowel => {
                Some((b.at, b.normal(), b.thickness_mm, diameter_mm))
            }
            _ => None,
        })
        .collect();
    for board in boards.iter_mut().filter(|b| b.role == Role::Brace) {
        for (at, way, length, diameter) in &bars {
            let leans = dot(board.normal(), *way);
            if leans.abs() < 0.9999 {
                continue;
            }
            let below = |p: V3| dot(crate::board::along(p, board.at, -1.0), board.normal());
            let (from, to) = (below(*at), below(crate::board::along(*at, *way, *length)));
            let place = board.on_face(*at);
            let r = diameter / 2.0;
            let beside = |[low, high]: [P2; 2]| {
                (0..2).any(|k| place[k] + r <= low[k] + LEAST || place[k] - r >= high[k] - LEAST)
            };
            let rings = [board.ring(0.0), board.ring(1.0)];
            let inside = rings.iter().all(|ring| {
                (0..2).all(|k| {
                    let cut = clipped(&clipped(ring, 1 - k, place[1 - k] - r, false), 1 - k, place[1 - k] + r, true);
                    let [low, high] = reach(&cut);
                    place[k] - r >= low[k] - LEAST && place[k] + r <= high[k] + LEAST
                })
            });
            let clear = board.holes.iter().all(|h| {
                let half = h.opening.half();
                beside([[h.at[0] - half[0], h.at[1] - half[1]], [h.at[0] + half[0], h.at[1] + half[1]]])
            });
            if from.min(to) < LEAST && from.max(to) > board.thickness_mm - LEAST && inside && clear {
                board.holes.push(Hole {
                    name: BAR_HOLE.into(),
                    at: place,
                    opening: Opening::Round { diameter_mm: *diameter },
                    screw_circle_mm: None,
                    screws: 0,
                    frame_mm: None,
                    recess: None,
                });
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bodies::{Body, clearance};
    use crate::carcass::{Carcass, Front, Housing, Inner, Joint, Through};
    use approx::assert_relative_eq;

    fn carcass(front: Front, inner: Vec<Inner>) -> Carcass {
        Carcass {
            outside: [400.0, 600.0, 500.0],
            panel: 20.0,
            baffle: 20.0,
            front,
            joint: Joint::Butt,
            through: Through::FloorAndTop,
            housing: Housing::Butt,
            inner,
            lid: None,
            open_front: Vec::new(),
        }
    }

    fn level(at: f64, reach: f64, open: f64) -> Inner {
        Inner::Level { name: "Level".into(), at, thickness: 18.0, reach, open }
    }

    fn upright(at: f64, reach: f64, open: f64) -> Inner {
        Inner::Upright { name: "Upright".into(), at, thickness: 15.0, reach, open }
    }

    /// Two whole boards that cross: each is slotted half-way, 18 wide in one and 15 in the other, and together they take their two
    /// volumes less the bar they would share.
    fn told(board: &Board) -> String {
        oak_drum_text::said(&board.edges, oak_drum_text::System::Metric)
    }

    #[test]
    fn a_half_lap_by_hand() {
        let boards = carcass(Front::Straight, vec![level(200.0, 1.0, 0.0), upright(100.0, 1.0, 0.0)]).inside_boards();
        let (w, h, d) = (360.0, 560.0, 460.0);
        let wood: f64 = boards.iter().map(Board::volume).sum();
        assert_relative_eq!(wood, w * d * 18.0 + h * d * 15.0 - d * 18.0 * 15.0, max_relative = 1e-12);
        assert_eq!(
            told(&boards[0]),
            "half-lap for the upright: 15.0 wide, 230.0 deep from its back edge, its middle 100.0 from its left end"
        );
        assert_eq!(
            told(&boards[1]),
            "half-lap for the level: 18.0 wide, 230.0 deep from its front edge, its middle 200.0 from its lower edge"
        );
    }

    /// Windows that cross are slotted through their frames alone, one in front and one behind; where one board ends within the
    /// other it goes in from that end; a bar goes through an opening.
    #[test]
    fn windows_shelves_and_bars() {
        let share = 0.25f64.sqrt();
        let boards = carcass(Front::Straight, vec![level(280.0, 1.0, 0.25), upright(180.0, 1.0, 0.25)]).inside_boards();
        let frame = 460.0 * (1.0 - share) / 2.0;
        assert!(told(&boards[0]).contains(&format!("{frame:.1} deep from its back edge")), "{}", told(&boards[0]));
        assert!(told(&boards[1]).contains(&format!("{frame:.1} deep from its front edge")), "{}", told(&boards[1]));
        // the shelf ends at 230 in front of the back: half of that from its own end
        let boards = carcass(Front::Straight, vec![level(280.0, 0.5, 0.0), upright(180.0, 1.0, 0.0)]).inside_boards();
        assert!(told(&boards[0]).contains("115.0 deep from its front edge"), "{}", told(&boards[0]));
        assert!(told(&boards[1]).contains("115.0 deep from its back edge"), "{}", told(&boards[1]));
        let bar = Inner::Block {
            name: "Cross bar".into(),
            role: Role::Brace,
            at: [0.0, 400.0, 100.0],
            size: [360.0, 30.0, 30.0],
        };
        let boards = carcass(Front::Straight, vec![bar, upright(180.0, 1.0, 0.0)]).inside_boards();
        assert_eq!(boards[1].holes.len(), 1);
        assert_relative_eq!(boards[1].holes[0].opening.area(), 900.0, max_relative = 1e-9);
        assert!(
            told(&boards[1]).starts_with("opening for the cross bar: 30.0 x 30.0, its middle"),
            "{}",
            told(&boards[1])
        );
    }

    /// Whatever crosses, whatever the front: no two pieces are in each other, and wood and air fill the inside.
    #[test]
    fn nothing_is_there_twice() {
        for front in [Front::Straight, Front::Sloped { back: 120.0 }] {
            for open in [0.0, 0.5] {
                let frontal = Inner::Frontal { name: "Frontal".into(), at: 250.0, thickness: 16.0, reach: 0.8, open };
                let c = carcass(front, vec![level(200.0, 1.0, open), upright(110.0, 1.0, open), frontal]);
                let boards = c.inside_boards();
                let bodies: Vec<Vec<Body>> = boards.iter().map(Body::of_board).collect();
                for i in 0..bodies.len() {
                    for k in i + 1..bodies.len() {
                        let pairs = bodies[i].iter().flat_map(|a| bodies[k].iter().map(move |b| clearance(a, b)));
                        let deep = pairs.fold(f64::INFINITY, f64::min);
                        assert!(deep > -0.05, "{front:?} {open}: {} in {}: {deep}", boards[i].name, boards[k].name);
                    }
                }
                let wood: f64 = c.boards().iter().map(Board::volume).sum();
                assert_relative_eq!(wood + c.air(), c.bulk(), max_relative = 1e-12);
            }
        }
    }
}

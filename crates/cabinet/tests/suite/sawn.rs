//! What is sawn, against what stands: sizes by hand, put together by their own numbers.

use oak_drum_cabinet::board::{Board, Role, reach};
use oak_drum_cabinet::carcass::{Carcass, Front, Housing, Inner, Joint, Lid, Through};
use oak_drum_cabinet::drawing::{Item, Layer, views::parts_flat};
use oak_drum_cabinet::parts::{Part, parts};

fn carcass(front: Front, joint: Joint, through: Through, lid: Option<Lid>) -> Carcass {
    Carcass {
        outside: [420.0, 800.0, 500.0],
        panel: 18.0,
        baffle: 18.0,
        front,
        joint,
        through,
        housing: Housing::Dado,
        inner: vec![Inner::Level { name: "Shelf".into(), at: 300.0, thickness: 18.0, reach: 0.6, open: 0.0 }],
        lid,
        open_front: Vec::new(),
    }
}

fn named<'a>(boards: &'a [Board], name: &str) -> &'a Board {
    boards.iter().find(|b| b.name == name).unwrap()
}

fn every() -> Vec<Carcass> {
    let mut list = Vec::new();
    for front in [Front::Straight, Front::Sloped { back: 120.0 }, Front::Stepped { at: 500.0, back: 60.0 }] {
        for joint in [Joint::Butt, Joint::Rebate, Joint::Mitre] {
            for through in [Through::FloorAndTop, Through::Sides] {
                for lid in [None, Some(Lid::Back), Some(Lid::RightSide)] {
                    list.push(carcass(front, joint, through, lid));
                }
            }
        }
    }
    list
}

/// Every flat piece has the sizes of its line in the cut list, whatever the joint, the front, the layers and what comes off.
#[test]
fn flat_pieces_are_the_cut_list() {
    for c in every() {
        let boards = c.boards();
        let list: Vec<Part> = parts(&boards, |b| match b.role {
            Role::Baffle => vec![9.0; 2],
            Role::Wall => vec![12.0, 6.0],
            _ => vec![b.thickness_mm],
        });
        let pieces: Vec<_> = list
            .iter()
            .flat_map(|p| p.boards.iter().map(|i| (p.label.clone(), &boards[*i as usize], p.thickness_mm)))
            .collect();
        assert_eq!(pieces.len() as u32, list.iter().map(|p| p.count).sum::<u32>());
        let drawing = parts_flat(&pieces);
        let rings: Vec<_> = drawing
            .items
            .iter()
            .filter_map(|(layer, item)| match item {
                Item::Ring(points, _) if *layer == Layer::Outline => Some(reach(points)),
                _ => None,
            })
            .collect();
        assert_eq!(rings.len(), pieces.len());
        // a lid's screws, as many as are told, in each of its layers
        let screws = drawing.items.iter().filter(|(layer, _)| *layer == Layer::Screws).count() as u32;
        assert_eq!(screws, pieces.iter().map(|(_, b, _)| b.lid_screws).sum::<u32>(), "{c:?}");
        for ((label, ..), [low, high]) in pieces.iter().zip(&rings) {
            let part = list.iter().find(|p| p.label == *label).unwrap();
            let (a, b) = (high[0] - low[0], high[1] - low[1]);
            assert!(
                (a.max(b) - part.length_mm).abs() < 0.06 && (a.min(b) - part.width_mm).abs() < 0.06,
                "{c:?} {part:?} {a} {b}"
            );
        }
    }
}

/// By hand: 800 high of 18 mm. Sides between floor and top are 764 butt, 782 in rebates of 9, 800 mitred; a shelf 384 wide stands
/// 6 deep in both sides.
#[test]
fn ends_in_joints_by_hand() {
    let high = |joint: Joint| {
        let c = carcass(Front::Straight, joint, Through::FloorAndTop, None);
        named(&c.boards(), "Left side").size()[1]
    };
    assert_eq!([Joint::Butt, Joint::Rebate, Joint::Mitre].map(high), [764.0, 782.0, 800.0]);
    let c = carcass(Front::Straight, Joint::Butt, Through::FloorAndTop, None);
    assert_eq!(named(&c.boards(), "Shelf").size()[1], 396.0);
}

/// A leaning front by hand: 120 back over 800, so 0.15 a millimetre. A mitred side is as deep below as the inside at y = 0, which is
/// 18 · 0.15 = 2.7 more than at y = 18; in rebates half that. Floor and top keep their bevel of atan 0.15 in every joint.
#[test]
fn a_leaning_front_goes_on_into_the_joints() {
    let lean: f64 = 0.15;
    let baffle = 18.0 * (1.0 + lean * lean).sqrt();
    let deep = |joint: Joint| {
        let c = carcass(Front::Sloped { back: 120.0 }, joint, Through::FloorAndTop, None);
        let boards = c.boards();
        for name in ["Floor", "Top"] {
            let bevel = named(&boards, name).bevels()[0].abs();
            assert!((bevel - lean.atan().to_degrees()).abs() < 1e-9, "{joint:?} {bevel}");
            assert!(named(&boards, name).edges.contains("8.5 degrees"), "{joint:?}: {}", named(&boards, name).edges);
        }
        named(&boards, "Left side").size()[0]
    };
    let at = |y: f64| 500.0 - 18.0 - baffle - lean * y;
    for (joint, y) in [(Joint::Butt, 18.0), (Joint::Rebate, 9.0), (Joint::Mitre, 0.0)] {
        assert!((deep(joint) - at(y)).abs() < 1e-9, "{joint:?}: {} {}", deep(joint), at(y));
    }
}

/// A board whose ends lean the same way is as long along one face as along the other; its blank is longer by t·tan.
#[test]
fn parallel_ends() {
    let by = 18.0 * 25.0f64.to_radians().tan();
    let quad = [[0.0, 0.0], [0.0, 334.7], [18.0, by], [18.0, 334.7 + by]];
    let mut board = Board::across("Slanted", Role::Fold, quad, 0.0, 300.0);
    board.add_words(&oak_drum_cabinet::carcass::bevel_words(board.bevels()));
    let part = &parts(&[board], |b| vec![b.thickness_mm])[0];
    assert!((part.length_mm - 334.7).abs() < 1e-9 && (part.blank_length_mm - 334.7 - by).abs() < 1e-9);
    assert!(part.edges.contains("both ends 25.0 degrees off square, leaning the same way"), "{}", part.edges);
    let towards = [[0.0, 0.0], [0.0, 334.7], [18.0, by], [18.0, 334.7 - by]];
    let mut board = Board::across("Wedge", Role::Fold, towards, 0.0, 300.0);
    board.add_words(&oak_drum_cabinet::carcass::bevel_words(board.bevels()));
    let part = &parts(&[board], |b| vec![b.thickness_mm])[0];
    assert!((part.length_mm - 334.7).abs() < 1e-9 && (part.blank_length_mm - 334.7).abs() < 1e-9);
    assert!(part.edges.contains("leaning towards each other"), "{}", part.edges);
}

/// The bars of a cross in grooves of 6: the one that runs through is longer by both, each half by the one at its wall, and no bar is
/// wider than it is thick.
#[test]
fn a_cross_in_grooves() {
    for (axis, lies) in [(0, "upright"), (1, "level"), (2, "frontal")] {
        let mut c = carcass(Front::Straight, Joint::Butt, Through::FloorAndTop, None);
        let inside = c.inside();
        let (one, other) = ((axis + 1) % 3, (axis + 2) % 3);
        let bar = 30.0;
        let block = |along: usize, across: usize, from: f64, length: f64| {
            let (mut at, mut size) = ([0.0; 3], [bar; 3]);
            at[axis] = 200.0;
            at[across] = (inside[across] - bar) / 2.0;
            at[along] = from;
            size[along] = length;
            Inner::Block { name: "Cross bar".into(), role: Role::Brace, at, size }
        };
        let half = (inside[other] - bar) / 2.0;
        c.inner = vec![
            block(one, other, 0.0, inside[one]),
            block(other, one, 0.0, half),
            block(other, one, inside[other] - half, half),
        ];
        // the front is no groove: the baffle goes on last
        let ends = |k: usize| if k == 2 { [0.0, 6.0] } else { [6.0, 6.0] };
        let wanted = [inside[one] + ends(one)[0] + ends(one)[1], half + ends(other)[0], half + ends(other)[1]];
        for (board, wanted) in c.inside_boards().iter().zip(wanted) {
            let [a, b] = board.size();
            assert!((a.max(b) - wanted).abs() < 1e-9 && (a.min(b) - bar).abs() < 1e-9, "{lies}: {a} {b} for {wanted}");
        }
    }
}

/// With a wall that comes off, boards and air still fill the outside; its screws stand on the ends of what it meets.
#[test]
fn a_wall_that_comes_off() {
    for c in every() {
        let boards = c.boards();
        let wood: f64 = boards.iter().map(Board::volume).sum();
        assert!((wood + c.air() - c.bulk()).abs() < 1e-6 * c.bulk(), "{c:?}");
        let lids: Vec<&Board> = boards.iter().filter(|b| b.lid_screws > 0).collect();
        assert_eq!(lids.len(), usize::from(c.lid.is_some()));
        for lid in lids {
            let places = lid.lid_places(c.panel);
            assert_eq!(places.len() as u32, lid.lid_screws);
            for p in places {
                // just behind the lid there is wood: the end of a wall
                let inside = [lid.place(p, lid.thickness_mm + 1.0), lid.place(p, -1.0)];
                let stands = |q: [f64; 3]| boards.iter().filter(|b| b.lid_screws == 0).any(|b| holds(b, q));
                assert!(inside.into_iter().any(stands), "{:?} {p:?}", c);
            }
        }
    }
}

/// Whether a point is in a board's wood, by its faces.
fn holds(board: &Board, q: [f64; 3]) -> bool {
    let off = [0, 1, 2].map(|k| q[k] - board.at[k]);
    let dot = |a: [f64; 3], b: [f64; 3]| a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    let below = dot(off, board.normal());
    if !(0.0..=board.thickness_mm).contains(&below) {
        return false;
    }
    let ring = board.ring(below / board.thickness_mm);
    let p = [dot(off, board.u), dot(off, board.v)];
    // even-odd rule
    let mut inside = false;
    for (a, b) in ring.iter().zip(ring.iter().cycle().skip(1)) {
        if (a[1] > p[1]) != (b[1] > p[1]) && p[0] < (b[0] - a[0]) * (p[1] - a[1]) / (b[1] - a[1]) + a[0] {
            inside = !inside;
        }
    }
    inside
}

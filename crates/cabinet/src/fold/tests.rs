use super::*;
use crate::board::area;
use approx::assert_relative_eq;
use proptest::prelude::*;

pub(super) fn plan(pattern: Pattern, room: [f64; 2]) -> Plan {
    Plan {
        pattern,
        runs: if pattern == Pattern::MirroredW { Runs::Level } else { Runs::Upright },
        starts_far: false,
        first_far: false,
        leaves: Leaves::Straight,
        board: 18.0,
        room,
        corner: [18.0, 18.0],
        width: 220.0,
        wall: 0.0,
        chamber: None,
        head: 0.0,
    }
}

/// The air along the centre line is the air between the boards: the inside less the wood.
fn air_is_kept(fold: &Fold, plan: &Plan) {
    let wood: f64 = fold.boards.iter().map(|(_, q)| area(&[q[0], q[1], q[3], q[2]]).abs()).sum();
    let chamber = fold.chamber.as_ref().map_or(0.0, |c| c.1 / plan.width);
    let there = plan.room[0] * plan.room[1] - wood - chamber;
    let along = fold.volume() / plan.width + fold.head_length * fold.stations[0][1] / plan.width;
    // slanted segments are told square to their middle: a few parts in a thousand
    assert!((along / there - 1.0).abs() < 0.006, "{along} against {there}: {:?}", plan.pattern);
}

/// A straight line folded once, worked by hand: segments of 100, board 18, 800 long inside.
#[test]
fn a_u_by_hand() {
    let p = plan(Pattern::U, [218.0, 800.0]);
    let fold = p.fold(&|_| 100.0 * 220.0).unwrap();
    // down 750, across 118, up 750
    assert_relative_eq!(fold.length, 750.0 + 118.0 + 750.0, max_relative = 1e-9);
    assert_relative_eq!(fold.scale[0], 1.0, max_relative = 1e-9);
    assert_eq!(fold.bends.len(), 2);
    assert_relative_eq!(fold.bends[0][0], 750.0);
    assert_eq!(fold.mouths, [Mouth { face: 5, from_mm: 136.0, to_mm: 236.0, width_mm: 220.0 }]);
    let air = 218.0 * 800.0 - 18.0 * 700.0;
    assert_relative_eq!(fold.volume() / 220.0, air, max_relative = 1e-9);
    // 200 along the first segment from the floor, behind the baffle; then down the second
    assert_eq!(fold.on_centre(200.0), Some(([68.0, 218.0], 0)));
    assert_eq!(fold.on_centre(1000.0).map(|p| p.1), Some(1));
    assert!(fold.behind_baffle(0) && !fold.behind_baffle(1));
    // beside a place of the first segment lies its mirror in the second
    assert_relative_eq!(fold.beside(150.0), fold.length - 150.0);
}

/// Every pattern keeps its air; a tapered line keeps the wanted areas where the box is as large as it wants.
#[test]
fn every_pattern_keeps_its_air() {
    for pattern in [Pattern::U, Pattern::S, Pattern::FourSegments, Pattern::Spiral, Pattern::MirroredW] {
        let mut p = plan(pattern, [400.0, 900.0]);
        let wanted = |s: f64| (300.0 - 150.0 * s) * 100.0;
        p.room = p.room_for(2400.0, &wanted).unwrap_or_else(|u| panic!("{pattern:?} {u:?}"));
        let fold = p.fold(&wanted).unwrap();
        air_is_kept(&fold, &p);
        assert!((fold.length - 2400.0).abs() < 1.0, "{pattern:?}: {}", fold.length);
        assert!(fold.scale.iter().all(|s| (s - 1.0).abs() < 0.1), "{pattern:?}: {:?}", fold.scale);
        let middle = fold.stations.iter().find(|s| s[0] > 1150.0).unwrap();
        assert!((middle[1] / wanted(middle[0] / 2400.0) - 1.0).abs() < 0.12, "{pattern:?} {middle:?}");
    }
}

/// A horn beside its rear chamber: the segments have the wanted areas at their ends, the chamber the wanted air.
#[test]
fn a_horn_beside_its_chamber() {
    let mut p = plan(Pattern::S, [600.0, 1200.0]);
    (p.runs, p.width, p.chamber, p.starts_far) = (Runs::Level, 864.0, Some(76e6), true);
    let wanted = |s: f64| 44_000.0 * (506_000.0f64 / 44_000.0).powf(s);
    p.room = p.room_for(1780.0, &wanted).unwrap();
    let fold = p.fold(&wanted).unwrap();
    assert!((fold.length - 1780.0).abs() < 1.0);
    assert_relative_eq!(fold.chamber.as_ref().unwrap().1, 76e6, max_relative = 1e-3);
    assert_relative_eq!(fold.stations[0][1], 44_000.0, max_relative = 0.08);
    assert_relative_eq!(fold.stations.last().unwrap()[1], 506_000.0, max_relative = 0.08);
    assert_eq!(fold.mouths[0].face, 0);
}

/// What does not go in is told with the least room that would do.
#[test]
fn a_fold_that_would_cross_itself() {
    let p = plan(Pattern::FourSegments, [60.0, 800.0]);
    let unfit = p.fold(&|_| 20_000.0).unwrap_err();
    assert!(unfit.message.contains("cross") && !unfit.along && unfit.least > 300.0, "{unfit:?}");
    let mut larger = p.clone();
    larger.room[0] = unfit.least;
    assert!(larger.fold(&|_| 20_000.0).is_ok());
    let low = plan(Pattern::U, [218.0, 110.0]).fold(&|_| 22_000.0).unwrap_err();
    assert!(low.along && low.least > 110.0);
}

proptest! {
    /// Whatever is folded: x runs forward, areas are positive, the air is kept.
    #[test]
    fn any_fold_is_sound(from in 60.0..900.0f64, to in 60.0..1300.0f64, depth in 260.0..700.0f64, height in 600.0..1400.0f64,
                         kind in 0usize..4, far in any::<bool>(), first in any::<bool>(), turned in any::<bool>()) {
        let pattern = [Pattern::U, Pattern::S, Pattern::FourSegments, Pattern::Spiral][kind];
        let mut p = plan(pattern, [depth, height]);
        (p.starts_far, p.first_far) = (far, first);
        // a turned mouth may be nearly as tall as its segment
        p.leaves = if turned { Leaves::Turned } else { Leaves::Straight };
        if let Ok(fold) = p.fold(&|s| (from + (to - from) * s) * 100.0) {
            prop_assert!(fold.stations.windows(2).all(|w| w[0][0] <= w[1][0]));
            prop_assert!(fold.stations.iter().all(|s| s[1] > 0.0));
            let wood: f64 = fold.boards.iter().map(|(_, q)| area(&[q[0], q[1], q[3], q[2]]).abs()).sum();
            let there = depth * height - wood;
            prop_assert!((fold.volume() / p.width / there - 1.0).abs() < 0.006, "{} {}", fold.volume() / p.width, there);
            // everything lies inside
            for (_, quad) in &fold.boards {
                for corner in quad {
                    prop_assert!(corner[0] >= 17.9 && corner[0] <= 18.1 + depth && corner[1] >= 17.9 && corner[1] <= 18.1 + height);
                }
            }
        }
    }
}

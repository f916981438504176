//! Every statistic against scipy.stats, statsmodels or plain counting (testdata/listening/scipy/reference.py), and against tables.

use approx::assert_relative_eq;
use oak_drum_listening::bootstrap::mean_range;
use oak_drum_listening::difference::{Method, beyond_guessing, needed, power, range, share_found, tail, trials_needed};
use oak_drum_listening::friedman::{CountedBy, friedman};
use oak_drum_listening::hearing::{dose, hours};
use oak_drum_listening::levels::{common_band, noise_error_db, pink_db, seconds_needed, trims};
use oak_drum_listening::order::{balanced, coins, pairs, triangles, williams};
use oak_drum_listening::question::{Answer, Question, answer, held};
use oak_drum_listening::signed_rank::{holm, listeners_needed, signed_rank};
use oak_drum_listening::votes::strengths;
use proptest::prelude::*;
use serde_json::Value;

fn expected(part: &str) -> Vec<Value> {
    let all: Value = serde_json::from_str(include_str!("../../../../testdata/listening/scipy/expected.json")).unwrap();
    let list = all[part].as_array().unwrap().clone();
    assert!(!list.is_empty());
    list
}

fn numbers(v: &Value) -> Vec<f64> {
    v.as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect()
}

fn table(v: &Value) -> Vec<Vec<f64>> {
    v.as_array().unwrap().iter().map(numbers).collect()
}

fn method(guessing: &Value) -> Method {
    if guessing.as_f64().unwrap() == 0.5 { Method::Abx } else { Method::Triangle }
}

#[test]
fn tails_and_ranges_are_those_of_scipy_and_statsmodels() {
    for case in expected("tails") {
        let (right, trials) = (case["right"].as_u64().unwrap(), case["trials"].as_u64().unwrap());
        assert_relative_eq!(
            tail(right, trials, case["guessing"].as_f64().unwrap()),
            case["p"].as_f64().unwrap(),
            max_relative = 1e-9
        );
        for (own, theirs) in range(right, trials, 0.95).into_iter().zip(numbers(&case["range"])) {
            assert_relative_eq!(own, theirs, epsilon = 1e-9);
        }
    }
}

#[test]
fn trials_needed_are_those_of_counting() {
    for case in expected("trials") {
        let (share, wished) = (case["share"].as_f64().unwrap(), case["power"].as_f64().unwrap());
        let found = trials_needed(method(&case["guessing"]), share, 0.05, wished).unwrap();
        assert_eq!(found.first, case["first"].as_u64().unwrap(), "{case}");
        assert_eq!(found.always_from, case["always_from"].as_u64().unwrap(), "{case}");
        assert_eq!(found.right_at_first, case["right_at_first"].as_u64().unwrap(), "{case}");
        // and the share found turns it round
        let share_there = share_found(found.first, method(&case["guessing"]), 0.05, wished).unwrap();
        assert!(share_there <= share, "{share_there} {case}");
        assert!(share_found(found.first - 1, method(&case["guessing"]), 0.05, wished).is_none_or(|s| s > share));
    }
    assert_eq!(trials_needed(Method::Abx, 0.5, 0.05, 0.8), None);
    assert_eq!(needed(4, Method::Abx, 0.05), None);
    assert_eq!(power(4, Method::Abx, 0.05, 1.0), 0.0);
}

/// Right answers needed at p <= 0.05: tables of Roessler, Pangborn, Sidel and Stone, Journal of Food Science 43 (1978), as printed in
/// ISO 4120 (triangle) and ISO 5495 (one-sided pairs); from memory.
#[test]
fn the_printed_tables_are_met() {
    let triangle = [
        (6, 5),
        (7, 5),
        (8, 6),
        (9, 6),
        (10, 7),
        (11, 7),
        (12, 8),
        (15, 9),
        (16, 9),
        (18, 10),
        (20, 11),
        (24, 13),
        (30, 15),
    ];
    for (trials, right) in triangle {
        assert_eq!(needed(trials, Method::Triangle, 0.05), Some(right), "triangle of {trials}");
    }
    let pairs = [
        (5, 5),
        (6, 6),
        (7, 7),
        (8, 7),
        (9, 8),
        (10, 9),
        (12, 10),
        (15, 12),
        (16, 12),
        (18, 13),
        (20, 15),
        (24, 17),
        (25, 18),
        (30, 20),
    ];
    for (trials, right) in pairs {
        assert_eq!(needed(trials, Method::Abx, 0.05), Some(right), "pairs of {trials}");
    }
}

/// Check values worked out by two routes outside the program.
#[test]
fn known_right_and_wrong_answers() {
    let known = [
        (Method::Abx, 12, 16, 0.0384064, [0.476229, 0.927338]),
        (Method::Abx, 9, 10, 0.0107422, [0.554984, 0.997471]),
        (Method::Triangle, 13, 24, 0.0284411, [0.328208, 0.744470]),
        (Method::DuoTrio, 15, 20, 0.0206947, [0.508954, 0.913429]),
    ];
    for (method, right, trials, p, ends) in known {
        assert_relative_eq!(tail(right, trials, method.guessing()), p, max_relative = 2e-6);
        assert_relative_eq!(range(right, trials, 0.95)[..], ends[..], epsilon = 1e-6);
    }
    assert_eq!(range(0, 10, 0.95)[0], 0.0);
    assert_eq!(range(10, 10, 0.95)[1], 1.0);
    assert_relative_eq!(beyond_guessing(0.75, Method::Abx), 0.5);
    assert_eq!(beyond_guessing(0.2, Method::Triangle), 0.0);
}

#[test]
fn friedman_is_that_of_scipy_and_of_counting() {
    for case in expected("friedman") {
        let found = friedman(&table(&case["scores"]), 1).unwrap();
        assert_eq!(found.by, CountedBy::All);
        assert_relative_eq!(found.p, case["p"].as_f64().unwrap(), epsilon = 1e-9);
        if let Some(chi2) = case["chi2"].as_f64() {
            assert_relative_eq!(found.chi2, chi2, max_relative = 1e-9);
            assert_relative_eq!(found.p_approximate, case["p_approximate"].as_f64().unwrap(), max_relative = 1e-7);
        }
    }
    // of six cabinets no longer counted: near scipy's approximation with many listeners, and the same for the same seed
    let many: Vec<Vec<f64>> =
        (0..30).map(|i| (0..6).map(|j| f64::from((i * 7 + j * 5) % 11) + 0.25 * f64::from(j)).collect()).collect();
    let one = friedman(&many, 4).unwrap();
    assert_eq!(one.by, CountedBy::Sample);
    assert_eq!(friedman(&many, 4).unwrap().p, one.p);
    assert!((one.p - one.p_approximate).abs() < 0.02, "{} {}", one.p, one.p_approximate);
    // the two ways of counting agree
    let five: Vec<Vec<f64>> = many.iter().take(12).map(|r| r[..5].to_vec()).collect();
    let six: Vec<Vec<f64>> = many.iter().take(13).map(|r| r[..5].to_vec()).collect();
    let (counted, sampled) = (friedman(&five, 1).unwrap(), friedman(&six, 1).unwrap());
    assert_eq!((counted.by, sampled.by), (CountedBy::All, CountedBy::Sample));
    assert!((counted.p - counted.p_approximate).abs() < 0.05);
    assert!(friedman(&[vec![3.0, 3.0], vec![5.0, 5.0]], 1).is_none());
}

#[test]
fn known_scores() {
    let scores =
        [[7., 5., 6.], [8., 4., 6.], [6., 5., 5.], [9., 6., 7.], [5., 6., 4.], [8., 5., 7.]].map(|r| r.to_vec());
    let found = held(&scores, 0);
    let f = found.friedman.unwrap();
    assert_relative_eq!(f.chi2, 6.869565, epsilon = 1e-6);
    assert_relative_eq!(f.p_approximate, 0.0322324, epsilon = 1e-7);
    assert_relative_eq!(f.p, 0.0275206, epsilon = 1e-7);
    assert_relative_eq!(f.agreement, 0.572464, epsilon = 1e-6);
    let p: Vec<f64> = found.pairs.iter().map(|p| p.p).collect();
    let adjusted: Vec<f64> = found.pairs.iter().map(|p| p.p_adjusted).collect();
    assert_relative_eq!(p[..], [0.09375, 0.03125, 0.4375][..], epsilon = 1e-12);
    assert_relative_eq!(adjusted[..], [0.1875, 0.09375, 0.4375][..], epsilon = 1e-12);
    assert_relative_eq!(found.pairs[0].range.unwrap()[..], [0.66667, 3.16667][..], epsilon = 1e-5);
    assert_relative_eq!(found.means[..], [43.0 / 6.0, 31.0 / 6.0, 35.0 / 6.0][..], epsilon = 1e-12);
}

#[test]
fn signed_ranks_are_those_of_counting_and_of_scipy() {
    for case in expected("wilcoxon") {
        assert_relative_eq!(signed_rank(&numbers(&case["differences"])), case["p"].as_f64().unwrap(), epsilon = 1e-12);
    }
    for case in expected("holm") {
        let (own, theirs) = (holm(&numbers(&case["p"])), numbers(&case["adjusted"]));
        assert_relative_eq!(own[..], theirs[..], epsilon = 1e-12);
    }
    assert_eq!(listeners_needed(1, 0.05), 6);
    assert_eq!(listeners_needed(3, 0.05), 7);
    assert_eq!(signed_rank(&[0.0, 0.0]), 1.0);
}

#[test]
fn votes_are_those_of_a_logit_fit() {
    for case in expected("votes") {
        let found = strengths(&table(&case["wins"])).unwrap();
        let (theirs, errors) = (numbers(&case["log_strengths"]), numbers(&case["errors"]));
        assert_relative_eq!(found.log_strengths[..], theirs[..], epsilon = 1e-7);
        assert_relative_eq!(found.errors[..], errors[..], epsilon = 1e-6);
        assert_relative_eq!(found.likelihood_ratio, case["likelihood_ratio"].as_f64().unwrap(), epsilon = 1e-7);
        assert_relative_eq!(found.p, case["p"].as_f64().unwrap(), epsilon = 1e-7);
        assert!(!found.half_wins);
    }
    let known = strengths(&[vec![0., 8., 6.], vec![2., 0., 4.], vec![4., 6., 0.]]).unwrap();
    assert_relative_eq!(known.log_strengths[..], [0.575962, -0.575962, 0.0][..], epsilon = 1e-6);
    assert_relative_eq!(known.errors[..], [0.328797, 0.328797, 0.310591][..], epsilon = 1e-6);
    // the first was never beaten: no strengths by the votes alone
    let never = strengths(&[vec![0., 5., 4.], vec![0., 0., 3.], vec![0., 2., 0.]]).unwrap();
    assert!(never.half_wins && never.log_strengths[0] > 1.0 && never.log_strengths[0].is_finite());
    assert!(strengths(&[vec![0., 1., 0.], vec![1., 0., 0.], vec![0., 0., 0.]]).is_none(), "the third met nobody");
}

#[test]
fn resampling_is_that_of_counting_every_draw() {
    for case in expected("bootstrap") {
        let own = mean_range(&numbers(&case["values"]), 0).unwrap();
        assert_relative_eq!(own[..], numbers(&case["range"])[..], epsilon = 1e-9);
    }
    // drawn ones come near the normal range of many
    let many: Vec<f64> = (0..60).map(|i| f64::from(i % 10)).collect();
    let [low, high] = mean_range(&many, 5).unwrap();
    let error = (8.25f64 / 60.0).sqrt() * 1.96;
    assert!((low - (4.5 - error)).abs() < 0.06 && (high - (4.5 + error)).abs() < 0.06, "{low} {high}");
    assert_eq!(mean_range(&[3.0], 0), None);
}

#[test]
fn pink_levels_are_those_of_quadrature() {
    for case in expected("pink") {
        let band = numbers(&case["band"]);
        let own = pink_db(&numbers(&case["f"]), &numbers(&case["l"]), [band[0], band[1]]).unwrap();
        assert_relative_eq!(own, case["level"].as_f64().unwrap(), epsilon = 1e-9);
    }
    assert_eq!(pink_db(&[20.0, 100.0], &[0.0, 0.0], [15.0, 80.0]), None, "not covered");
    assert_relative_eq!(noise_error_db(60.0, 30.0), 0.102364, epsilon = 1e-6);
    assert_relative_eq!(seconds_needed(60.0, 0.1), 125.741, epsilon = 1e-3);
    let turned = trims(&[84.0, 82.5, 83.25]).unwrap();
    assert_eq!(turned.trims_db, [-1.5, 0.0, -0.75]);
    assert_eq!(turned.apart_db, 1.5);
}

/// 85 dB for eight hours, 3 dB more for half as long (NIOSH 1998, its table: 88 for 4 h, 94 for 1 h, 100 for 15 min).
#[test]
fn hours_at_a_level() {
    for (level, wanted) in [(85.0, 8.0), (88.0, 4.0), (94.0, 1.0), (100.0, 0.25)] {
        assert_relative_eq!(hours(level), wanted, epsilon = 1e-12);
    }
    assert_relative_eq!(dose(94.0, 30.0), 0.5, epsilon = 1e-12);
}

/// Williams 1949: in a design each stands in each place, and right after each other, equally often.
#[test]
fn orders_are_balanced() {
    for k in 2..=6 {
        let rows = williams(k);
        assert_eq!(rows.len(), if k % 2 == 0 { k } else { 2 * k });
        let orders = balanced(k, rows.len() * 2, 99);
        assert_eq!((orders.set, orders.missing), (rows.len(), 0));
        for design in [&rows[..], &orders.rows[..rows.len()], &orders.rows[rows.len()..]] {
            let (mut place, mut after) = (vec![vec![0; k]; k], vec![vec![0; k]; k]);
            for row in design {
                row.iter().enumerate().for_each(|(i, c)| place[*c][i] += 1);
                row.windows(2).for_each(|w| after[w[0]][w[1]] += 1);
            }
            let each = rows.len() / k;
            assert!(place.iter().flatten().all(|n| *n == each), "{k}: {place:?}");
            for (i, row) in after.iter().enumerate() {
                assert!(row.iter().enumerate().all(|(j, n)| *n == if i == j { 0 } else { each }), "{k}: {after:?}");
            }
        }
    }
    assert_eq!(balanced(3, 4, 1).missing, 2);
    assert_eq!(balanced(4, 9, 5), balanced(4, 9, 5));
    assert_ne!(balanced(4, 9, 5).rows, balanced(4, 9, 6).rows);
    // a longer one begins with the shorter one
    assert_eq!(balanced(4, 11, 5).rows[..9], balanced(4, 9, 5).rows[..]);
}

/// Coins fall evenly and one by one; the odd one of three stands in each place; each pair is heard both ways.
#[test]
fn drawn_orders_are_fair() {
    let many = coins(4000, 3);
    let heads = many.iter().sum::<usize>() as f64;
    assert!((heads - 2000.0).abs() < 3.3 * 31.6, "{heads}");
    let turns = many.windows(2).filter(|w| w[0] != w[1]).count() as f64;
    assert!((turns - 1999.5).abs() < 3.3 * 31.6, "{turns}: what came says nothing of what comes");
    let mut seen = std::collections::BTreeMap::new();
    for row in triangles(6000, 8) {
        *seen.entry(row).or_insert(0) += 1;
    }
    assert_eq!(seen.len(), 6);
    assert!(seen.values().all(|n| (*n as f64 - 1000.0f64).abs() < 3.5 * 29.0), "{seen:?}");
    let list = pairs(4, 2, 1);
    assert_eq!(list.len(), 12);
    for i in 0..4 {
        for j in (0..4).filter(|j| *j != i) {
            assert_eq!(list.iter().filter(|p| **p == [i, j]).count(), 1);
        }
    }
}

/// A panel whose taste is known: the strengths come back within three standard errors, and the one it prefers stands first.
#[test]
fn the_taste_of_a_simulated_panel_is_found() {
    let truth = [0.9f64, 0.2, -0.3, -0.8];
    let mut dice = fastrand::Rng::with_seed(21);
    let mut wins = vec![vec![0.0; 4]; 4];
    for i in 0..4 {
        for j in i + 1..4 {
            for _ in 0..150 {
                let p = 1.0 / (1.0 + (truth[j] - truth[i]).exp());
                if dice.f64() < p { wins[i][j] += 1.0 } else { wins[j][i] += 1.0 }
            }
        }
    }
    let found = strengths(&wins).unwrap();
    for (i, known) in truth.iter().enumerate() {
        let off = (found.log_strengths[i] - known).abs();
        assert!(off < 3.0 * found.errors[i], "{i}: {} for {known}", found.log_strengths[i]);
    }
    assert!(found.p < 1e-6);
    // nobody prefers anything: chance is called unlikely in one case of twenty, not more often
    let mut unlikely = 0;
    for seed in 0..400 {
        let mut dice = fastrand::Rng::with_seed(1000 + seed);
        let scores: Vec<Vec<f64>> = (0..8).map(|_| (0..3).map(|_| f64::from(dice.u32(1..11))).collect()).collect();
        unlikely += usize::from(friedman(&scores, seed).is_some_and(|f| f.p <= 0.05));
    }
    // 20 expected, 4.4 its standard deviation
    assert!((5..=34).contains(&unlikely), "{unlikely} of 400");
}

#[test]
fn what_cannot_be_answered_is_told_by_its_field() {
    let wrong = |json: Value| answer(&serde_json::from_value::<Question>(json).unwrap()).unwrap_err();
    use serde_json::json;
    assert_eq!(wrong(json!({"kind": "difference", "method": "abx", "right": 7, "trials": 6})).field, "/right");
    assert_eq!(wrong(json!({"kind": "difference", "method": "abx", "right": 0, "trials": 0})).field, "/trials");
    assert_eq!(wrong(json!({"kind": "scores", "cabinets": ["A", "B"], "scores": [[1, 2], [3]]})).field, "/scores/1");
    assert_eq!(wrong(json!({"kind": "votes", "cabinets": ["A", "B"], "wins": [[0, 0], [0, 0]]})).field, "/wins");
    assert_eq!(wrong(json!({"kind": "order", "cabinets": 7, "hearings": 3, "seed": 1})).field, "/cabinets");
    assert_eq!(wrong(json!({"kind": "trials", "method": "abx", "share": 1.2})).field, "/share");
    let never = answer(&Question::Trials { method: Method::Abx, share: 0.5, alpha: 0.05, power: 0.8 }).unwrap();
    assert!(matches!(never, Answer::Trials { needed: None, .. }));
}

/// No sentence ever says that there is no difference, or that something is proved; and it says its numbers.
#[test]
fn sentences_promise_nothing() {
    let mut seen = 0;
    for method in [Method::Abx, Method::DuoTrio, Method::Triangle] {
        for trials in [1, 3, 6, 10, 16, 40] {
            for right in 0..=trials {
                let asked = Question::Difference { method, right, trials, alpha: 0.05, looked_early: right == 2 };
                let Answer::Difference { sentence, told } = answer(&asked).unwrap() else { panic!() };
                for never in ["no difference", "prove", "equal", "identical", "NaN", "p = 0.0 "] {
                    assert!(!sentence.contains(never), "{sentence}");
                }
                assert!(sentence.starts_with(&format!("{right} of {trials} right")));
                assert_eq!(sentence.contains("unlikely"), told.p <= 0.05, "{sentence}");
                assert_eq!(sentence.contains("does not hold"), right == 2);
                seen += 1;
            }
        }
    }
    assert!(seen > 200);
    let six = Question::Difference { method: Method::Abx, right: 6, trials: 10, alpha: 0.05, looked_early: false };
    let Answer::Difference { sentence, .. } = answer(&six).unwrap() else { panic!() };
    assert_eq!(
        sentence,
        "6 of 10 right: this could well be chance (p = 0.38); this test would have found a share of 92 % right answers in 8 of 10 cases. If 60 % is what is heard, a new test of 158 trials would tell in 8 of 10 cases."
    );
}

proptest! {
    /// What is called unlikely happens to guessers in at most one case of twenty, whatever the number of trials.
    #[test]
    fn guessers_are_believed_seldom(trials in 5u64..300, triangle in any::<bool>()) {
        let method = if triangle { Method::Triangle } else { Method::Abx };
        if let Some(right) = needed(trials, method, 0.05) {
            prop_assert!(tail(right, trials, method.guessing()) <= 0.05);
            prop_assert!(tail(right - 1, trials, method.guessing()) > 0.05);
        }
    }

    /// The range holds the share, and gets narrower with more trials of the same share.
    #[test]
    fn ranges_hold_their_share(right in 0u64..50, more in 0u64..50) {
        let trials = right + more;
        prop_assume!(trials > 0);
        let share = right as f64 / trials as f64;
        let [low, high] = range(right, trials, 0.95);
        prop_assert!(low <= share && share <= high);
        let [low2, high2] = range(right * 4, trials * 4, 0.95);
        prop_assert!(high2 - low2 < high - low);
    }

    /// Ranks do not care for units: scores on another rising scale give the same tests.
    #[test]
    fn ranks_are_all_that_counts(scores in prop::collection::vec(prop::collection::vec(1u8..10, 3), 2..7)) {
        let plain: Vec<Vec<f64>> = scores.iter().map(|r| r.iter().map(|v| f64::from(*v)).collect()).collect();
        let bent: Vec<Vec<f64>> = plain.iter().map(|r| r.iter().map(|v| v.powi(3) + 5.0).collect()).collect();
        match (friedman(&plain, 2), friedman(&bent, 2)) {
            (Some(a), Some(b)) => {
                prop_assert!((a.p - b.p).abs() < 1e-12 && (a.chi2 - b.chi2).abs() < 1e-9);
                prop_assert!(a.agreement <= 1.0 + 1e-12);
            }
            (a, b) => prop_assert_eq!(a.is_some(), b.is_some()),
        }
    }
}

/// By hand: a curve that has come up to 10 dB below its top at 36 Hz and one that has at 50 Hz are both played from 50 Hz on, up to 120 Hz
/// or where one of them ends.
#[test]
fn the_band_that_all_play() {
    let hz: Vec<f64> = (0..=400).map(|i| 10.0 * 10f64.powf(f64::from(i) / 200.0)).collect();
    // 24 dB an octave below a corner
    let slope = |corner: f64| -> Vec<f64> { hz.iter().map(|f| 80.0 - (24.0 * (corner / f).log2()).max(0.0)).collect() };
    let (low, high) = (slope(48.0), slope(66.74));
    let [from, to] = common_band(&[(&hz, &low), (&hz, &high)]).unwrap();
    // 10 dB at 24 dB an octave are 2^(10/24) below the corner
    assert!((from - 50.0).abs() < 0.7 && (to - 120.0).abs() < 0.11, "{from} {to}");
    let short: Vec<f64> = hz.iter().copied().filter(|f| *f < 90.0).collect();
    let [_, to] = common_band(&[(&hz, &low), (&short, &high[..short.len()])]).unwrap();
    assert!((88.0..=90.0).contains(&to), "{to}");
    let none: Vec<f64> = hz.iter().copied().filter(|f| *f < 60.0).collect();
    assert_eq!(common_band(&[(&hz, &low), (&none, &high[..none.len()])]), None, "less than half an octave");
}

//! A session from its plan to what came of it.

use oak_drum_listening::difference::Method;
use oak_drum_listening::outcome::{Heard, outcome};
use oak_drum_listening::programme::PIECES;
use oak_drum_listening::session::{Candidate, Matched, MatchedBy, Piece, Session, Slip, Switching, Test};

fn named(name: &str) -> Candidate {
    Candidate { name: name.into(), revision: None, setting: String::new() }
}

fn session(test: Test, names: &[&str], pieces: &[&str], switching: Switching) -> Session {
    Session {
        title: "Trial".into(),
        test,
        candidates: names.iter().map(|n| named(n)).collect(),
        pieces: pieces.iter().map(|id| Piece::Shipped { id: (*id).into() }).collect(),
        switching,
        matched: Some(Matched {
            by: MatchedBy::Noise,
            band_hz: [30.0, 120.0],
            levels_db: vec![80.0; names.len()],
            trims_db: vec![0.0; names.len()],
            tolerance_db: 0.1,
        }),
        level_db: Some(78.0),
        seed: 12,
    }
}

/// A listener who answers by knowing.
fn heard(session: &Session, number: usize, name: &str, answer: impl Fn(usize, &[usize]) -> Option<Slip>) -> Heard {
    let hearings = session.hearings(number);
    let slips = hearings.iter().enumerate().map(|(i, h)| answer(i, &h.slots)).collect();
    Heard { name: name.into(), hearings, slips }
}

fn choice(at: usize) -> Option<Slip> {
    Some(Slip { choice: Some(at), ..Slip::default_empty() })
}

trait Empty {
    fn default_empty() -> Slip;
}

impl Empty for Slip {
    fn default_empty() -> Slip {
        Slip { choice: None, scores: Vec::new(), note: String::new() }
    }
}

/// Who knows is always right, who answers the opposite never, in each kind of trial.
#[test]
fn right_is_right() {
    for method in [Method::Abx, Method::DuoTrio, Method::Triangle] {
        let plan = session(Test::Difference { method, trials: 20 }, &["A", "B"], &["walk", "drum"], Switching::Program);
        assert!(plan.problems().is_empty());
        let knows = |_: usize, s: &[usize]| match method {
            Method::Abx => choice(s[2]),
            Method::DuoTrio => choice(usize::from(s[2] == s[0])),
            Method::Triangle => choice((0..3).find(|i| s.iter().filter(|c| **c == s[*i]).count() == 1).unwrap()),
        };
        let one = heard(&plan, 0, "Ida", knows);
        for (h, s) in one.hearings.iter().zip(&one.slips) {
            assert_eq!(plan.wrong_with(h, s.as_ref().unwrap()), None);
        }
        let told = outcome(&plan, &[one]);
        let all = told.difference.unwrap();
        assert_eq!((all.right, all.trials), (20, 20));
        assert_eq!(told.difference_by_piece.iter().map(|p| p.trials).sum::<u64>(), 20);
        assert!(told.sentence.contains("unlikely"), "{}", told.sentence);
    }
    let plan =
        session(Test::Difference { method: Method::Abx, trials: 20 }, &["A", "B"], &["walk"], Switching::Program);
    let never = outcome(&plan, &[heard(&plan, 0, "Ida", |_, s| choice(1 - s[2]))]);
    assert_eq!(never.difference.unwrap().right, 0);
}

/// Everybody hears the helper's order; by the program each has one of his own, balanced over all listeners and pieces.
#[test]
fn orders_belong_to_listeners_or_to_all() {
    let scales = vec!["deep".to_owned(), "overall".to_owned()];
    let own =
        session(Test::Scores { scales: scales.clone() }, &["A", "B", "C", "D"], &["walk", "drum"], Switching::Program);
    let together = Session { switching: Switching::Helper, ..own.clone() };
    assert_eq!(together.hearings(0), together.hearings(3));
    let all: Vec<Vec<usize>> = (0..4).flat_map(|l| own.hearings(l)).map(|h| h.slots).collect();
    assert_eq!(all.len(), 8);
    for place in 0..4 {
        for candidate in 0..4 {
            let there = all.iter().filter(|row| row[place] == candidate).count();
            assert_eq!(there, 2, "candidate {candidate} in place {place}");
        }
    }
    for l in 0..4 {
        let mut played: Vec<usize> = own.hearings(l).iter().map(|h| h.piece).collect();
        played.sort_unstable();
        assert_eq!(played, [0, 1], "each piece once");
    }
}

/// Scores come back to the right cabinet whatever the order, listeners who left are told and not counted.
#[test]
fn scores_find_their_cabinet() {
    let scales = vec!["tight".to_owned(), "overall".to_owned()];
    let plan = session(Test::Scores { scales }, &["Oak", "Ash", "Elm"], &["walk", "drum"], Switching::Program);
    let taste = [8.0, 3.0, 5.0];
    let score = |_: usize, s: &[usize]| {
        Some(Slip { scores: s.iter().map(|c| vec![taste[*c], 10.0 - taste[*c]]).collect(), ..Slip::default_empty() })
    };
    let mut all: Vec<Heard> = (0..7).map(|i| heard(&plan, i, &format!("L{i}"), score)).collect();
    all.push(heard(&plan, 7, "Tove", |i, s| if i == 0 { score(i, s) } else { None }));
    let told = outcome(&plan, &all);
    assert_eq!(told.scales[0].told.means, taste);
    assert_eq!(told.scales[1].told.means, taste.map(|v| 10.0 - v));
    assert_eq!(told.scales[0].told.friedman.as_ref().unwrap().agreement, 1.0);
    assert_eq!(told.scales[0].by_listener[7], Vec::<f64>::new());
    assert_eq!(told.scales[0].by_piece[0], taste);
    assert!(told.warnings.iter().any(|w| w.contains("Tove")), "{:?}", told.warnings);
    assert!(told.sentence.starts_with("Overall: ") && told.sentence.contains("Ash was scored"), "{}", told.sentence);
    assert_eq!(told.listeners[0].preferred.as_deref(), Some("Ash"), "by the scale of the whole");
    // one listener: the pieces stand for themselves
    let alone = outcome(&plan, &all[..1]);
    assert!(alone.scales[0].sentence.contains("piece"), "{}", alone.scales[0].sentence);
    assert!(alone.warnings.iter().any(|w| w.contains("for himself")));
}

#[test]
fn votes_find_their_cabinet() {
    let plan = session(Test::Pairs { times: 4 }, &["Oak", "Ash", "Elm"], &["walk"], Switching::Helper);
    let strong = |s: &[usize]| choice(usize::from(s[1] == 2 || (s[1] == 0 && s[0] == 1)));
    let all: Vec<Heard> = (0..3).map(|i| heard(&plan, i, &format!("L{i}"), |_, s| strong(s))).collect();
    let told = outcome(&plan, &all);
    let votes = told.votes.unwrap();
    assert_eq!(told.wins[2], [12.0, 12.0, 0.0]);
    assert!(votes.log_strengths[2] > votes.log_strengths[0] && votes.log_strengths[0] > votes.log_strengths[1]);
    assert!(votes.half_wins);
    assert_eq!(told.listeners[1].preferred.as_deref(), Some("Elm"));
    let nobody = outcome(&plan, &[]);
    assert!(nobody.votes.is_none() && nobody.sentence.contains("Too few"));
}

#[test]
fn a_poor_match_is_told() {
    let mut plan = session(Test::Pairs { times: 1 }, &["A", "B"], &["walk"], Switching::Helper);
    assert!(!outcome(&plan, &[]).warnings.iter().any(|w| w.contains("apart")));
    plan.matched.as_mut().unwrap().levels_db = vec![80.0, 80.4];
    assert!(outcome(&plan, &[]).warnings.iter().any(|w| w.contains("0.40 dB apart")));
    plan.matched.as_mut().unwrap().trims_db = vec![0.0, -0.4];
    assert!(!outcome(&plan, &[]).warnings.iter().any(|w| w.contains("apart")));
    plan.matched = None;
    assert!(outcome(&plan, &[]).warnings.iter().any(|w| w.contains("not matched")));
}

#[test]
fn what_does_not_fit_is_told_by_its_field() {
    let plan = session(Test::Difference { method: Method::Abx, trials: 10 }, &["A", "B"], &["walk"], Switching::Helper);
    let at = |change: fn(&mut Session)| {
        let mut bad = plan.clone();
        change(&mut bad);
        bad.problems().into_iter().map(|(at, _)| at).collect::<Vec<_>>()
    };
    assert_eq!(
        at(|p| p.candidates.push(Candidate { name: "C".into(), revision: None, setting: String::new() }))
            .first()
            .unwrap(),
        "/candidates"
    );
    assert_eq!(at(|p| p.candidates[1].name = " a ".into()), ["/candidates/1/name"]);
    assert_eq!(at(|p| p.pieces[0] = Piece::Shipped { id: "song".into() }), ["/pieces/0/id"]);
    assert_eq!(at(|p| p.matched.as_mut().unwrap().levels_db = vec![1.0]), ["/matched"]);
    assert_eq!(at(|p| p.test = Test::Scores { scales: vec!["deep".into(), "deep".into()] }), ["/test/scales/1"]);
    let h = &plan.hearings(0)[0];
    assert_eq!(plan.wrong_with(h, &Slip { choice: Some(2), ..Slip::default_empty() }).unwrap().0, "/choice");
    assert_eq!(plan.wrong_with(h, &Slip::default_empty()).unwrap().0, "/choice");
    let scored = Session { test: Test::Scores { scales: vec!["deep".into()] }, ..plan };
    let slip = |v: f64| Slip { scores: vec![vec![v]; 2], ..Slip::default_empty() };
    assert_eq!(scored.wrong_with(h, &slip(5.0)).map(|p| p.0), Some("/scores".into()), "three envelopes");
    let h = &scored.hearings(0)[0];
    assert_eq!(scored.wrong_with(h, &slip(5.0)), None);
    assert_eq!(scored.wrong_with(h, &slip(11.0)).unwrap().0, "/scores");
    assert_eq!(scored.wrong_with(h, &slip(f64::NAN)).unwrap().0, "/scores");
}

/// Pieces last as long as they say, peak where they say, go on where they began, and lie in the band they say: nine tenths of their
/// energy within an octave of it.
#[test]
fn pieces_are_what_they_say() {
    for p in &PIECES {
        let rate = 2000.0;
        let made = p.samples(rate);
        assert_eq!(made.len(), (p.seconds * rate) as usize, "{}", p.id);
        let peak = made.iter().fold(0.0f64, |m, v| m.max(v.abs()));
        assert!((peak - 0.7).abs() < 1e-9, "{}", p.id);
        let largest = made.windows(2).map(|w| (w[1] - w[0]).abs()).fold(0.0, f64::max);
        assert!((made[0] - made[made.len() - 1]).abs() <= 1.5 * largest, "{}: a click where it goes on", p.id);
        let mut bins = made.clone();
        let transform = realfft::RealFftPlanner::<f64>::new().plan_fft_forward(bins.len());
        let mut spectrum = transform.make_output_vec();
        transform.process(&mut bins, &mut spectrum).unwrap();
        let energy = |within: &dyn Fn(f64) -> bool| -> f64 {
            let at = spectrum.iter().enumerate().map(|(i, v)| (i as f64 / p.seconds, v.norm_sqr()));
            at.filter(|(hz, _)| within(*hz)).map(|(_, e)| e).sum()
        };
        let (whole, band) = (energy(&|_| true), (p.band_hz[0] / 2.0)..=(p.band_hz[1] * 2.0));
        let inside = energy(&|hz| band.contains(&hz));
        assert!(inside > 0.9 * whole, "{}: {:.2} of it lies there", p.id, inside / whole);
    }
}

/// What one listener hears says nothing of what the next one does, nor one session's seed of another's: X is the same in half of the
/// trials, within three and a half standard deviations.
#[test]
fn orders_of_listeners_are_unrelated() {
    let test = Test::Difference { method: Method::Abx, trials: 100 };
    let plan = session(test, &["A", "B"], &["walk"], Switching::Program);
    let x = |seed: u32, listener: usize| -> Vec<usize> {
        Session { seed, ..plan.clone() }.hearings(listener).iter().map(|h| h.slots[2]).collect()
    };
    let same = |a: &[usize], b: &[usize]| a.iter().zip(b).filter(|(a, b)| a == b).count() as f64;
    for of in [|i: usize| (5, i), |i: usize| (i as u32, 0)] {
        let all: Vec<Vec<usize>> = (0..61).map(|i| x(of(i).0, of(i).1)).collect();
        let alike: f64 = all.windows(2).map(|w| same(&w[0], &w[1])).sum();
        assert!((alike - 3000.0).abs() < 3.5 * 1500f64.sqrt(), "{alike} of 6000");
        // the first trial, too, which comes straight from the seed
        let first = all.iter().filter(|row| row[0] == 0).count() as f64;
        assert!((first - 30.5).abs() < 3.5 * 15.25f64.sqrt(), "{first} of 61");
    }
}

//! What came of a session: of the whole, of each listener, of each piece.

use crate::difference::{RightOrWrong, judge};
use crate::question::{ScoresTold, held};
use crate::session::{Hearing, Session, Slip, Switching, Test};
use crate::signed_rank::listeners_needed;
use crate::votes::{Strengths, strengths};
use crate::words;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Probability of chance that is called unlikely.
pub const ALPHA: f64 = 0.05;

/// A listener with what was heard and what was answered, hearing by hearing.
#[derive(Clone, Debug)]
pub struct Heard {
    /// Name.
    pub name: String,
    /// What was heard.
    pub hearings: Vec<Hearing>,
    /// What was answered; `None` where nothing was.
    pub slips: Vec<Option<Slip>>,
}

impl Heard {
    fn answered(&self) -> impl Iterator<Item = (&Hearing, &Slip)> {
        self.hearings.iter().zip(&self.slips).filter_map(|(h, s)| s.as_ref().map(|s| (h, s)))
    }
}

/// What came of a session.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "ListeningOutcome")]
#[schemars(title = "Listening outcome")]
pub struct Outcome {
    /// What may be said of it.
    pub sentence: String,
    /// What to mind: match, order, numbers.
    pub warnings: Vec<String>,
    /// How it was heard: blind, matched to what, by whom switched.
    pub conditions: String,
    /// What is held against each other.
    pub candidates: Vec<String>,
    /// What was played.
    pub pieces: Vec<String>,
    /// Each listener.
    pub listeners: Vec<ListenerTold>,
    /// Right and wrong of all; absent where nothing is right or wrong.
    pub difference: Option<RightOrWrong>,
    /// The same by piece, as far as it was played.
    pub difference_by_piece: Vec<PieceTold>,
    /// Scores by scale.
    pub scales: Vec<ScaleTold>,
    /// Strengths by votes; absent where there were none.
    pub votes: Option<Strengths>,
    /// How often each (row) was preferred to each other (column); empty where nothing was voted.
    pub wins: Vec<Vec<f64>>,
}

/// One listener.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct ListenerTold {
    /// Name.
    pub name: String,
    /// Hearings answered.
    pub answered: usize,
    /// Hearings there were.
    pub of: usize,
    /// Right and wrong; absent where nothing was answered, or nothing is right or wrong.
    pub difference: Option<RightOrWrong>,
    /// The candidate this listener preferred most, where that was asked.
    pub preferred: Option<String>,
    /// Votes for each candidate; empty where nothing was voted.
    pub votes: Vec<f64>,
    /// What was noted.
    pub notes: Vec<Noted>,
}

/// A note of a listener.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "ListenersNote")]
pub struct Noted {
    /// Number of the hearing, from 1.
    pub hearing: usize,
    /// What was noted.
    pub note: String,
}

/// Right answers with one piece.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PieceTold {
    /// What was played.
    pub piece: String,
    /// Right answers.
    pub right: u64,
    /// Trials.
    pub trials: u64,
    /// Range of 95 % of the share.
    pub range: [f64; 2],
}

/// Scores on one scale.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct ScaleTold {
    /// The scale.
    pub scale: String,
    /// What it tells.
    pub told: ScoresTold,
    /// What may be said.
    pub sentence: String,
    /// Mean score by listener (rows; empty where one did not hear everything) and candidate.
    pub by_listener: Vec<Vec<f64>>,
    /// Mean score by piece (rows; empty where nobody scored it) and candidate.
    pub by_piece: Vec<Vec<f64>>,
}

/// What came of a session.
pub fn outcome(session: &Session, heard: &[Heard]) -> Outcome {
    let names: Vec<String> = session.candidates.iter().map(|c| c.name.clone()).collect();
    let mut told = Outcome {
        sentence: String::new(),
        warnings: warnings(session, heard),
        conditions: conditions(session),
        candidates: names.clone(),
        pieces: session.pieces.iter().map(crate::session::Piece::name).collect(),
        listeners: heard.iter().map(|h| listener(session, h, &names)).collect(),
        difference: None,
        difference_by_piece: Vec::new(),
        scales: Vec::new(),
        votes: None,
        wins: Vec::new(),
    };
    match &session.test {
        Test::Difference { method, .. } => {
            let all: Vec<(usize, bool)> = heard
                .iter()
                .flat_map(Heard::answered)
                .filter_map(|(h, s)| Some((h.piece, session.is_right(h, s)?)))
                .collect();
            let right = |list: &[(usize, bool)]| list.iter().filter(|(_, r)| *r).count() as u64;
            if all.is_empty() {
                told.sentence = "Nothing was answered.".into();
                return told;
            }
            let judged = judge(*method, right(&all), all.len() as u64, ALPHA);
            told.sentence = words::right_or_wrong(*method, &judged, ALPHA, false);
            told.difference = Some(judged);
            told.difference_by_piece = (0..session.pieces.len())
                .filter_map(|i| {
                    let of: Vec<(usize, bool)> = all.iter().copied().filter(|(p, _)| *p == i).collect();
                    let (right, trials) = (right(&of), of.len() as u64);
                    let piece = session.pieces[i].name();
                    let range = crate::difference::range(right, trials, 0.95);
                    (trials > 0).then_some(PieceTold { piece, right, trials, range })
                })
                .collect();
        }
        Test::Scores { scales } => {
            told.scales = (0..scales.len()).map(|i| scale(session, heard, i, &scales[i], &names)).collect();
            // what is asked last is the whole, where there is one of that name
            let whole = told.scales.iter().find(|s| s.scale == "overall").or(told.scales.first());
            told.sentence = whole.map_or_else(String::new, |s| {
                if scales.len() > 1 {
                    format!("{}: {}", oak_drum_text::capital(&s.scale), s.sentence)
                } else {
                    s.sentence.clone()
                }
            });
        }
        Test::Pairs { .. } => {
            let mut wins = vec![vec![0.0; names.len()]; names.len()];
            for (h, s) in heard.iter().flat_map(Heard::answered) {
                if let Some((better, other)) = preferred(h, s) {
                    wins[better][other] += 1.0;
                }
            }
            told.votes = strengths(&wins);
            told.sentence = match &told.votes {
                Some(votes) => words::votes(&names, votes, ALPHA),
                None => "Too few pairs were heard to put them in an order.".into(),
            };
            told.wins = wins;
        }
    }
    told
}

/// The better and the other one of a pair.
fn preferred(hearing: &Hearing, slip: &Slip) -> Option<(usize, usize)> {
    let choice = slip.choice.filter(|c| *c < 2 && hearing.slots.len() == 2)?;
    Some((hearing.slots[choice], hearing.slots[1 - choice]))
}

/// One scale: of each listener the mean over the pieces is what counts; of one alone every piece does.
fn scale(session: &Session, heard: &[Heard], at: usize, name: &str, names: &[String]) -> ScaleTold {
    let k = names.len();
    // scores of a hearing by candidate
    let row = |h: &Hearing, s: &Slip| {
        let mut row = vec![0.0; k];
        for (slot, candidate) in h.slots.iter().enumerate() {
            row[*candidate] = s.scores[slot][at];
        }
        row
    };
    let mean = |rows: &[Vec<f64>]| -> Vec<f64> {
        if rows.is_empty() {
            return Vec::new();
        }
        (0..k).map(|j| rows.iter().map(|r| r[j]).sum::<f64>() / rows.len() as f64).collect()
    };
    let whole = |h: &Heard| h.slips.iter().all(Option::is_some);
    let by_listener: Vec<Vec<f64>> = heard
        .iter()
        .map(|h| if whole(h) { mean(&h.answered().map(|(h, s)| row(h, s)).collect::<Vec<_>>()) } else { Vec::new() })
        .collect();
    let by_piece = (0..session.pieces.len())
        .map(|i| {
            let of = heard.iter().flat_map(Heard::answered).filter(|(h, _)| h.piece == i);
            mean(&of.map(|(h, s)| row(h, s)).collect::<Vec<_>>())
        })
        .collect();
    let judges: Vec<Vec<f64>> = by_listener.iter().filter(|r| !r.is_empty()).cloned().collect();
    let (judges, of) = match (heard, judges.len()) {
        ([one], _) => (one.answered().map(|(h, s)| row(h, s)).collect(), "piece"),
        _ => (judges, "listener"),
    };
    let told = held(&judges, u64::from(session.seed));
    let sentence = words::scores(names, of, judges.len(), told.friedman.as_ref(), &told.pairs, ALPHA);
    ScaleTold { scale: name.to_owned(), told, sentence, by_listener, by_piece }
}

fn listener(session: &Session, heard: &Heard, names: &[String]) -> ListenerTold {
    let answered: Vec<(&Hearing, &Slip)> = heard.answered().collect();
    let mut votes = Vec::new();
    let mut liked: Option<usize> = None;
    let difference = match &session.test {
        Test::Difference { method, .. } => {
            let right = answered.iter().filter(|(h, s)| session.is_right(h, s) == Some(true)).count() as u64;
            (!answered.is_empty()).then(|| judge(*method, right, answered.len() as u64, ALPHA))
        }
        Test::Pairs { .. } => {
            votes = vec![0.0; names.len()];
            for (better, _) in answered.iter().filter_map(|(h, s)| preferred(h, s)) {
                votes[better] += 1.0;
            }
            liked = most(&votes);
            None
        }
        Test::Scores { scales } => {
            let at = scales.iter().position(|s| s == "overall").unwrap_or(0);
            let mut sums = vec![0.0; names.len()];
            for (h, s) in &answered {
                for (slot, candidate) in h.slots.iter().enumerate() {
                    sums[*candidate] += s.scores[slot][at];
                }
            }
            liked = most(&sums);
            None
        }
    };
    let notes = heard.slips.iter().enumerate().filter_map(|(i, s)| {
        let note = s.as_ref()?.note.trim().to_owned();
        (!note.is_empty()).then_some(Noted { hearing: i + 1, note })
    });
    ListenerTold {
        name: heard.name.clone(),
        answered: answered.len(),
        of: heard.hearings.len(),
        difference,
        preferred: liked.map(|i| names[i].clone()),
        votes,
        notes: notes.collect(),
    }
}

/// The one that stands above all others; none where two share the first place.
fn most(values: &[f64]) -> Option<usize> {
    let order = words::ranked(values);
    (values[order[0]] > values[order[1]]).then_some(order[0])
}

fn warnings(session: &Session, heard: &[Heard]) -> Vec<String> {
    let mut list = Vec::new();
    match &session.matched {
        None => list.push("The levels were not matched: the louder one is often taken for the better one.".into()),
        Some(m) if m.apart_db() > m.tolerance_db + 1e-9 => list.push(format!(
            "The levels are {:.2} dB apart, more than the {:.2} dB allowed: what is heard may be the level.",
            m.apart_db(),
            m.tolerance_db
        )),
        Some(_) => {}
    }
    let left: Vec<&str> =
        heard.iter().filter(|h| h.slips.iter().any(Option::is_none)).map(|h| h.name.as_str()).collect();
    if !left.is_empty() {
        let what = match session.test {
            Test::Scores { .. } => "the scores of who did not hear all pieces stand in the table of pieces only",
            _ => "what was answered counts",
        };
        list.push(format!("Not all was answered by {}: {what}.", left.join(", ")));
    }
    if let Test::Scores { .. } = session.test {
        let pairs = session.candidates.len() * (session.candidates.len() - 1) / 2;
        let wanted = listeners_needed(pairs, ALPHA);
        if heard.len() > 1 && heard.len() < wanted {
            list.push(format!(
                "{} listeners cannot tell a single pair apart at p = 0.05: {wanted} could, if they all agreed.",
                heard.len()
            ));
        }
        if heard.len() < 6 {
            list.push("With fewer than six listeners the ranges are too narrow.".into());
        }
        if session.switching == Switching::Helper && session.pieces.len() == 1 {
            list.push("All heard the same order: what comes first may be scored otherwise for that alone.".into());
        }
    }
    if heard.len() == 1 {
        list.push("One listener speaks for himself.".into());
    }
    list
}

fn conditions(session: &Session) -> String {
    use crate::session::MatchedBy;
    let switched = match session.switching {
        Switching::Helper => "switched by a helper who knew the order",
        Switching::Program => "switched by the program",
    };
    let matched = session.matched.as_ref().map_or_else(
        || "levels not matched".to_owned(),
        |m| {
            let by = match m.by {
                MatchedBy::Model => "by the model",
                MatchedBy::Measurement => "by measurement",
                MatchedBy::Noise => "by noise and a meter",
                MatchedBy::Ear => "by ear",
            };
            let band = if m.band_hz[0] < m.band_hz[1] {
                format!("from {:.0} to {:.0} Hz", m.band_hz[0], m.band_hz[1])
            } else {
                format!("at {:.0} Hz", m.band_hz[0])
            };
            format!("levels matched {by} {band}, {:.2} dB apart", m.apart_db())
        },
    );
    let level = session.level_db.map_or_else(String::new, |l| format!(", {l:.0} dB at the seat"));
    format!("Blind, {switched}; {matched}{level}; answers sealed until the end.")
}

//! A listening session as a workshop keeps it: what is held against what, how it is asked, in which order it is heard, and what was
//! answered.

use crate::difference::Method;
use crate::order::{balanced, coins, dice, pairs, triangles};
use crate::question::MOST_CABINETS;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Most listeners of a session.
pub const MOST_LISTENERS: usize = 24;
/// Most trials of one listener.
pub const MOST_TRIALS: u32 = 200;
/// Scores go from here to there.
pub const SCORES: [f64; 2] = [1.0, 10.0];

/// A listening session.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(rename = "ListeningSession")]
#[schemars(title = "Listening session")]
pub struct Session {
    /// What it is called.
    #[schemars(title = "Name", length(min = 1, max = 120))]
    pub title: String,
    /// What is asked.
    #[schemars(title = "What is asked")]
    pub test: Test,
    /// What is held against each other.
    #[schemars(title = "What is heard", length(min = 2, max = 6))]
    pub candidates: Vec<Candidate>,
    /// What is played.
    #[schemars(title = "Programme", length(min = 1, max = 12))]
    pub pieces: Vec<Piece>,
    /// Who switches.
    #[schemars(title = "Who switches")]
    pub switching: Switching,
    /// How they were brought to one level; absent is not at all.
    #[schemars(title = "Level match")]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub matched: Option<Matched>,
    /// Level at the seat, dB.
    #[schemars(title = "Level at the seat", range(min = 40.0, max = 140.0))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub level_db: Option<f64>,
    /// Seed of every order.
    #[schemars(title = "Seed")]
    #[serde(default)]
    pub seed: u32,
}

/// What is asked.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(rename = "ListeningTest")]
#[schemars(title = "Test")]
pub enum Test {
    /// Are the two different?
    Difference {
        /// Kind of trial.
        #[schemars(title = "Kind of trial")]
        method: Method,
        /// Trials of each listener, fixed before.
        #[schemars(title = "Trials", range(min = 1, max = 200))]
        trials: u32,
    },
    /// How do they score?
    Scores {
        /// The builder's own scales.
        #[schemars(title = "Scales", length(min = 1, max = 8))]
        scales: Vec<String>,
    },
    /// Which of two is better?
    Pairs {
        /// How often each pair is heard.
        #[schemars(title = "Times each pair", range(min = 1, max = 20))]
        times: u32,
    },
}

/// Something that is heard: a cabinet, or a setting of one.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(rename = "ListeningCandidate")]
#[schemars(title = "Heard")]
pub struct Candidate {
    /// What it is called once the envelopes are open.
    #[schemars(title = "Name", length(min = 1, max = 80))]
    pub name: String,
    /// The revision it is, by its letter.
    #[schemars(title = "Revision", length(max = 8))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub revision: Option<String>,
    /// What is done to set it up: "port shut", "with the wool".
    #[schemars(title = "Setting", length(max = 400))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub setting: String,
}

/// Something that is played.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(rename = "ListeningPiece")]
#[schemars(title = "Piece")]
pub enum Piece {
    /// One that ships with the program.
    Shipped {
        /// Stable name.
        #[schemars(length(min = 1, max = 40))]
        id: String,
    },
    /// The listeners' own; a file of it stays in the browser it is chosen in.
    Own {
        /// What it is called.
        #[schemars(length(min = 1, max = 120))]
        name: String,
    },
}

impl Piece {
    /// What it is called.
    pub fn name(&self) -> String {
        match self {
            Piece::Shipped { id } => {
                crate::programme::PIECES.iter().find(|p| p.id == id).map_or_else(|| id.clone(), |p| p.title.to_owned())
            }
            Piece::Own { name } => name.clone(),
        }
    }
}

/// Who switches from one to the other.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(title = "Who switches")]
pub enum Switching {
    /// A helper who is told on a page of his own; everybody hears the same order.
    Helper,
    /// The program, where they differ by what comes before the amplifier; each listener has an order of his own.
    Program,
}

/// How levels were matched.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(rename = "LevelMatch")]
#[schemars(title = "Level match")]
pub struct Matched {
    /// By what.
    #[schemars(title = "By")]
    pub by: MatchedBy,
    /// Band of the noise or the tone's frequency twice, Hz.
    #[schemars(title = "Band")]
    pub band_hz: [f64; 2],
    /// Level each was read at before it was turned, dB.
    #[schemars(title = "Levels", length(min = 2, max = 6))]
    pub levels_db: Vec<f64>,
    /// What each was turned by, dB.
    #[schemars(title = "Trims", length(min = 2, max = 6))]
    pub trims_db: Vec<f64>,
    /// How far apart they may be, dB.
    #[schemars(title = "Tolerance", range(min = 0.05, max = 6.0))]
    pub tolerance_db: f64,
}

/// What levels were matched by.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(title = "Matched by")]
pub enum MatchedBy {
    /// The model.
    Model,
    /// A measurement.
    Measurement,
    /// A meter or microphone and band-limited noise.
    Noise,
    /// The ear and a tone.
    Ear,
}

impl Matched {
    /// How far apart they are after they were turned, dB.
    pub fn apart_db(&self) -> f64 {
        let after = self.levels_db.iter().zip(&self.trims_db).map(|(l, t)| l + t);
        let (low, high) = after.fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| (a.min(v), b.max(v)));
        high - low
    }
}

/// One hearing: what is played, and which candidate stands behind each envelope.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(title = "Hearing")]
pub struct Hearing {
    /// Number of the piece.
    pub piece: usize,
    /// Numbers of the candidates in the order of the envelopes; of ABX A, B and X.
    pub slots: Vec<usize>,
}

/// What a listener answers to one hearing.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(rename = "ListeningSlip")]
#[schemars(title = "Listening slip")]
pub struct Slip {
    /// The envelope that is chosen, from 0: the one X is, the odd one, the better one. Absent of scores.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schemars(title = "Choice", range(min = 0, max = 5))]
    pub choice: Option<usize>,
    /// For each envelope in its order, the score on each scale.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schemars(title = "Scores", length(max = 6))]
    pub scores: Vec<Vec<f64>>,
    /// What the listener noted.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    #[schemars(title = "Note", length(max = 2000))]
    pub note: String,
}

/// A field with a problem: its JSON pointer, and what is expected.
pub type FieldProblem = (String, String);

impl Session {
    /// What only several fields together can tell to be wrong.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut list = Vec::new();
        let mut add = |at: &str, what: String| list.push((at.to_owned(), what));
        let k = self.candidates.len();
        if !(2..=MOST_CABINETS).contains(&k) {
            add("/candidates", format!("two to {MOST_CABINETS} are held against each other"));
        }
        for (i, c) in self.candidates.iter().enumerate() {
            if self.candidates[..i].iter().any(|o| o.name.trim().eq_ignore_ascii_case(c.name.trim())) {
                add(&format!("/candidates/{i}/name"), "there is another of this name".into());
            }
        }
        if matches!(self.test, Test::Difference { .. }) && k != 2 {
            add("/candidates", "whether they are different is asked of two".into());
        }
        if let Test::Difference { trials, .. } = self.test
            && !(1..=MOST_TRIALS).contains(&trials)
        {
            add("/test/trials", format!("1 to {MOST_TRIALS} trials are expected"));
        }
        if let Test::Scores { scales } = &self.test {
            for (i, scale) in scales.iter().enumerate() {
                if scale.trim().is_empty() || scale.chars().count() > 40 {
                    add(&format!("/test/scales/{i}"), "a word of up to 40 letters is expected".into());
                }
                if scales[..i].contains(scale) {
                    add(&format!("/test/scales/{i}"), "this scale is there twice".into());
                }
            }
        }
        for (i, piece) in self.pieces.iter().enumerate() {
            if let Piece::Shipped { id } = piece
                && !crate::programme::PIECES.iter().any(|p| p.id == id)
            {
                add(&format!("/pieces/{i}/id"), "there is no such piece".into());
            }
        }
        if let Some(m) = &self.matched {
            if m.levels_db.len() != k || m.trims_db.len() != k {
                add("/matched", format!("a level and a trim are expected for each of the {k}"));
            }
            if m.levels_db.iter().chain(&m.trims_db).any(|v| !v.is_finite() || v.abs() > 200.0) {
                add("/matched", "levels in dB are expected".into());
            }
            if !(m.band_hz[0] > 0.0 && m.band_hz[0] <= m.band_hz[1] && m.band_hz[1] <= 20000.0) {
                add("/matched/band_hz", "two frequencies in Hz are expected, the lower one first".into());
            }
        }
        list
    }

    /// What a listener hears, in order; the same again for the same session and number of the listener (from 0).
    pub fn hearings(&self, listener: usize) -> Vec<Hearing> {
        // with a helper everybody hears the first one's order
        let own = if self.switching == Switching::Program { listener } else { 0 };
        let seed = u64::from(self.seed) << 16 | own as u64;
        let (k, pieces) = (self.candidates.len(), self.pieces.len().max(1));
        let mut played: Vec<usize> = (0..pieces).collect();
        dice(seed ^ 0x9e37).shuffle(&mut played);
        let piece = |i: usize| played[i % pieces];
        match &self.test {
            Test::Difference { method: Method::Triangle, trials } => triangles(*trials as usize, seed)
                .into_iter()
                .enumerate()
                .map(|(i, slots)| Hearing { piece: piece(i), slots: slots.to_vec() })
                .collect(),
            Test::Difference { method, trials } => coins(*trials as usize, seed)
                .into_iter()
                .enumerate()
                .map(|(i, x)| {
                    // of duo-trio the reference comes first, then the two in an order that is drawn too
                    let turned = coins(*trials as usize, seed ^ 0x51ed)[i];
                    let slots = match method {
                        Method::DuoTrio => vec![x, turned, 1 - turned],
                        _ => vec![0, 1, x],
                    };
                    Hearing { piece: piece(i), slots }
                })
                .collect(),
            Test::Pairs { times } => pairs(k, *times as usize, seed)
                .into_iter()
                .enumerate()
                .map(|(i, pair)| Hearing { piece: piece(i), slots: pair.to_vec() })
                .collect(),
            Test::Scores { .. } => {
                // one long balanced sequence over all listeners
                let rows = balanced(k, (own + 1) * pieces, u64::from(self.seed)).rows;
                let mine = rows.into_iter().skip(own * pieces);
                mine.enumerate().map(|(i, slots)| Hearing { piece: piece(i), slots }).collect()
            }
        }
    }

    /// What is wrong with an answer to a hearing; `None` where nothing is.
    pub fn wrong_with(&self, hearing: &Hearing, slip: &Slip) -> Option<FieldProblem> {
        let field = |at: &str, what: String| Some((at.to_owned(), what));
        if slip.note.chars().count() > 2000 {
            return field("/note", "a note has at most 2000 letters".into());
        }
        match &self.test {
            Test::Scores { scales } => {
                let whole =
                    slip.scores.len() == hearing.slots.len() && slip.scores.iter().all(|row| row.len() == scales.len());
                let inside = slip.scores.iter().flatten().all(|v| (SCORES[0]..=SCORES[1]).contains(v));
                if !whole {
                    return field("/scores", "every scale of every envelope is expected".into());
                }
                if !inside {
                    return field("/scores", format!("scores go from {} to {}", SCORES[0], SCORES[1]));
                }
                None
            }
            _ => {
                let choices = self.choices(hearing);
                match slip.choice {
                    Some(c) if c < choices && slip.scores.is_empty() => None,
                    _ => field("/choice", format!("one of {choices} is expected")),
                }
            }
        }
    }

    /// How many envelopes may be chosen.
    pub fn choices(&self, hearing: &Hearing) -> usize {
        match self.test {
            Test::Difference { method: Method::Abx | Method::DuoTrio, .. } => 2,
            _ => hearing.slots.len(),
        }
    }

    /// Whether an answer to a hearing is right; `None` where nothing is right or wrong.
    pub fn is_right(&self, hearing: &Hearing, slip: &Slip) -> Option<bool> {
        let Test::Difference { method, .. } = self.test else { return None };
        let (s, choice) = (&hearing.slots, slip.choice?);
        Some(match method {
            Method::Abx => s[choice] == s[2],
            Method::DuoTrio => s[choice + 1] == s[0],
            Method::Triangle => s.iter().filter(|c| **c == s[choice]).count() == 1,
        })
    }
}

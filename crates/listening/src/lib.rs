//! Listening tests: what is asked of whom in which order, and what came of it.
//!
//! | file | what |
//! |---|---|
//! | `difference` | right or wrong (ABX, duo-trio, triangle): exact probability, range, trials needed |
//! | `ranks`, `friedman`, `signed_rank`, `votes`, `bootstrap` | scores and votes, exact where that can be had |
//! | `order` | balanced orders from a seed |
//! | `levels` | level match and how well noise tells a level |
//! | `hearing` | how long a level may be listened to |
//! | `words` | what may be said |
//! | `question` | all of it as JSON, one question, one answer |
//! | `session`, `outcome` | a session as a workshop keeps it, and what came of it |
//! | `programme` | what is played, made by the program |
//!
//! Nothing here knows an interface or does input or output. Probabilities are between 0 and 1, levels in dB, times in seconds.
#![deny(missing_docs)]

pub mod bootstrap;
pub mod difference;
pub mod friedman;
pub mod hearing;
pub mod levels;
pub mod order;
pub mod outcome;
pub mod programme;
pub mod question;
pub mod ranks;
pub mod session;
pub mod signed_rank;
pub mod votes;
pub mod words;

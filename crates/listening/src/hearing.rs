//! How long one may listen to a level.
//!
//! Source: NIOSH, Criteria for a Recommended Standard: Occupational Noise Exposure (1998): 85 dB(A) for eight hours, half the time for
//! every 3 dB more, from memory. Bass weighs little in dB(A); the level as it is told here is not weighted, which errs on the safe
//! side for the ear's high notes and says nothing of what very low notes do to how one feels.

/// The level that may be heard for eight hours, dB.
pub const LIMIT_DB: f64 = 85.0;

/// Hours a level may be listened to in a day.
pub fn hours(level_db: f64) -> f64 {
    8.0 * 2f64.powf((LIMIT_DB - level_db) / 3.0)
}

/// The share of a day's dose that so many minutes at a level take; 1 is all of it.
pub fn dose(level_db: f64, minutes: f64) -> f64 {
    minutes / 60.0 / hours(level_db)
}

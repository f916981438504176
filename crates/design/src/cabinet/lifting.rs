//! Who lifts what.
//!
//! One person: 25 kg held close at knuckle height; a team of two manages two thirds of what its members would manage alone, a team
//! of three half (Health and Safety Executive, Manual handling at work, L23, guideline weights and team handling; from memory). Above
//! that wheels do it.

use oak_drum_text::kg;

/// What one person lifts, kg.
pub const ONE_LIFTS: f64 = 25.0;
/// What two lift, kg.
pub const TWO_LIFT: f64 = 2.0 * ONE_LIFTS * 2.0 / 3.0;
/// What three lift, kg.
pub const THREE_LIFT: f64 = 3.0 * ONE_LIFTS / 2.0;

/// What is said of a whole sheet of so many kilograms; nothing of one that one person lifts.
pub fn whole_sheet(weight: f64) -> Option<String> {
    (weight > ONE_LIFTS)
        .then(|| format!("A whole sheet weighs about {:.0}: {}.", kg(weight), Lifting::of(weight).how()))
}

/// Who lifts it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Lifting {
    /// One person.
    One,
    /// Two people.
    Two,
    /// Three people.
    Three,
    /// A trolley.
    Trolley,
}

impl Lifting {
    /// Who lifts so many kilograms.
    pub fn of(kg: f64) -> Lifting {
        if kg <= ONE_LIFTS {
            Lifting::One
        } else if kg <= TWO_LIFT {
            Lifting::Two
        } else if kg <= THREE_LIFT {
            Lifting::Three
        } else {
            Lifting::Trolley
        }
    }

    /// In a few words, for a title.
    pub fn title(self) -> &'static str {
        match self {
            Lifting::One => "One may lift it",
            Lifting::Two => "Two to lift it",
            Lifting::Three => "Three to lift it",
            Lifting::Trolley => "Needs a trolley",
        }
    }

    /// A sentence for so many kilograms.
    pub fn words(weight: f64) -> String {
        format!("About {:.0}: {}.", kg(weight), Lifting::of(weight).how())
    }

    /// How it is moved, as the end of a sentence.
    pub fn how(self) -> &'static str {
        match self {
            Lifting::One => "one person may lift it, from the knees",
            Lifting::Two => "two people lift it",
            Lifting::Three => "three people lift it",
            Lifting::Trolley => "tip it onto a trolley",
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn bands() {
        let of = [20.0, 25.0, 25.1, 33.3, 34.0, 37.5, 38.0, 174.0].map(Lifting::of);
        use Lifting::{One, Three, Trolley, Two};
        assert_eq!(of, [One, One, Two, Two, Three, Three, Trolley, Trolley]);
    }
}

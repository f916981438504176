//! Filters between a source and an amplifier's output: one file a kind, one line below to register it.
//!
//! Each is a rational function of s = jω (analog prototype), a factor and a delay; [`digital`] makes biquads of them.
//!
//! ```
//! use oak_drum_acoustics::filters::{Cascade, Filter};
//! let low_cut: Filter = serde_json::from_str(
//!     r#"{"kind": "high_pass", "frequency_hz": 25, "slope": {"shape": "butterworth", "order": 4}}"#).unwrap();
//! // half the power passes at the corner (Butterworth 1930)
//! assert!((Cascade::of([&low_cut]).at(25.0).norm_sqr() - 0.5).abs() < 1e-12);
//! ```

mod contract;
pub mod digital;
pub mod slope;

pub use contract::{Info, Kind, Place, Section};

use crate::fault::Fault;
use crate::network::phasor::Phasor;
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

macro_rules! filters {
    ($($(#[$doc:meta])* $module:ident :: $name:ident),+ $(,)?) => {
        $(pub mod $module;)+

        /// A filter: one variant a kind.
        #[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
        #[serde(tag = "kind", rename_all = "snake_case")]
        pub enum Filter {
            $($(#[$doc])* $name($module::$name),)+
        }

        /// Every kind, in the order in which they are offered.
        pub const FILTERS: &[Info] = &[$(<$module::$name as Kind>::INFO),+];

        impl Filter {
            /// Its sections of first and second order.
            pub fn sections(&self) -> Vec<Section> {
                match self { $(Filter::$name(filter) => filter.sections(),)+ }
            }
            /// A factor without a frequency.
            pub fn factor(&self) -> f64 {
                match self { $(Filter::$name(filter) => filter.factor(),)+ }
            }
            /// Its delay, s.
            pub fn delay(&self) -> f64 {
                match self { $(Filter::$name(filter) => filter.delay(),)+ }
            }
            /// What is wrong with it that its ranges cannot tell.
            pub fn problems(&self) -> Vec<Fault> {
                match self { $(Filter::$name(filter) => filter.problems(),)+ }
            }
            /// Where it is taken hold of.
            pub fn place(&self) -> Place {
                match self { $(Filter::$name(filter) => filter.place(),)+ }
            }
            /// What it says about itself.
            pub fn info(&self) -> Info {
                match self { $(Filter::$name(_) => <$module::$name as Kind>::INFO,)+ }
            }
        }
    };
}

filters! {
    /// Takes away what lies below its corner.
    high_pass::HighPass,
    /// Takes away what lies above its corner.
    low_pass::LowPass,
    /// A rise or a dip about one frequency.
    band::Band,
    /// Lifts or cuts everything below its frequency.
    low_shelf::LowShelf,
    /// Lifts or cuts everything above its frequency.
    high_shelf::HighShelf,
    /// Phase without level.
    all_pass::AllPass,
    /// One frequency taken out.
    notch::Notch,
    /// Another resonance and Q for a sealed box.
    transform::Transform,
    /// Everything later.
    delay::Delay,
    /// Plus and minus changed over.
    polarity::Polarity,
    /// Everything louder or softer.
    gain::Gain,
}

/// Filters one after another: what is linear does not mind their order.
#[derive(Clone, Debug, PartialEq)]
pub struct Cascade {
    /// All sections.
    pub sections: Vec<Section>,
    /// The same, multiplied out two by two.
    pairs: Vec<Pair>,
    /// The product of all factors.
    pub factor: f64,
    /// The sum of all delays, s.
    pub delay: f64,
}

/// Two sections multiplied out, at a frequency between both: half as many factors to carry a derivative through.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Pair {
    /// rad/s.
    omega: f64,
    above: [f64; 5],
    below: [f64; 5],
}

impl Pair {
    /// Of one section or two.
    fn of(sections: &[&Section]) -> Pair {
        let mean = sections.iter().map(|s| s.omega.ln()).sum::<f64>() / sections.len() as f64;
        let omega = mean.exp();
        let part = |c: fn(&Section) -> [f64; 3]| {
            let mut product = [0.0; 5];
            product[0] = 1.0;
            for section in sections {
                let k = omega / section.omega;
                let [c0, c1, c2] = c(section);
                let by = [c0, c1 * k, c2 * k * k];
                product = std::array::from_fn(|i| (0..=i.min(2)).map(|j| by[j] * product[i - j]).sum());
            }
            product
        };
        Pair { omega, above: part(|s| s.above), below: part(|s| s.below) }
    }
}

impl Default for Cascade {
    fn default() -> Self {
        Cascade { sections: Vec::new(), pairs: Vec::new(), factor: 1.0, delay: 0.0 }
    }
}

impl Cascade {
    /// Filters one after another.
    pub fn of<'a>(filters: impl IntoIterator<Item = &'a Filter>) -> Cascade {
        let mut all = Cascade::default();
        for filter in filters {
            all.sections.extend(filter.sections());
            all.factor *= filter.factor();
            all.delay += filter.delay();
        }
        // those that lie next to each other in frequency, so that no term dwarfs the others
        let mut by_frequency: Vec<&Section> = all.sections.iter().collect();
        by_frequency.sort_by(|a, b| a.omega.total_cmp(&b.omega));
        all.pairs = by_frequency.chunks(2).map(Pair::of).collect();
        all
    }

    /// Its sections alone, without factor and delay.
    pub fn bare(self) -> Cascade {
        Cascade { factor: 1.0, delay: 0.0, ..self }
    }

    /// Whether it does nothing.
    pub fn is_plain(&self) -> bool {
        self.sections.is_empty() && self.factor == 1.0 && self.delay == 0.0
    }

    /// H at an angular frequency.
    #[inline(always)]
    pub fn response<P: Phasor>(&self, omega: P::Omega) -> P {
        let mut all = P::constant(self.factor, 0.0);
        // one division for several of them; more at once would leave the range of numbers
        for some in self.pairs.chunks(8) {
            let mut below: Option<P> = None;
            for pair in some {
                let under = P::quartic(omega, pair.omega, &pair.below);
                all = all * P::quartic(omega, pair.omega, &pair.above);
                below = Some(below.map_or(under, |before| before * under));
            }
            if let Some(below) = below {
                all = all / below;
            }
        }
        if self.delay != 0.0 {
            all = all * P::j_omega(omega, -self.delay).exp();
        }
        all
    }

    /// H at a frequency (Hz).
    pub fn at(&self, frequency: f64) -> Complex64 {
        self.response::<Complex64>(TAU * frequency)
    }

    /// Group delay at a frequency (Hz), s: -Im(H'/H), summed over the factors of numerator and denominator, T for the delay.
    pub fn group_delay(&self, frequency: f64) -> f64 {
        let omega = TAU * frequency;
        // d/dω of ln(c0 + c1·jx + c2·(jx)²)
        let log_slope = |w0: f64, c: [f64; 3]| {
            let value = Complex64::quadratic(omega, w0, c);
            Complex64::new(-2.0 * c[2] * omega / w0, c[1]) / (value * w0)
        };
        let each = |s: &Section| log_slope(s.omega, s.above) - log_slope(s.omega, s.below);
        self.delay - self.sections.iter().map(each).sum::<Complex64>().im
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The registry: unique ids, words and a source for each.
    #[test]
    fn every_filter_describes_itself() {
        crate::info::assert_described(FILTERS);
    }
}

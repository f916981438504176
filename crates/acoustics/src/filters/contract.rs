//! What a kind of filter is to the rest of the program: what it says of itself and the rational function it is.

use crate::fault::Fault;
pub use crate::info::Info;
use crate::network::phasor::Phasor;
use num_complex::Complex64;

/// A kind of filter.
pub trait Kind {
    /// What it says about itself.
    const INFO: Info;

    /// Its sections of first and second order, in their order.
    fn sections(&self) -> Vec<Section> {
        Vec::new()
    }
    /// A factor without a frequency; negative where it turns the polarity.
    fn factor(&self) -> f64 {
        1.0
    }
    /// Its delay, s.
    fn delay(&self) -> f64 {
        0.0
    }
    /// What is wrong with it that its ranges cannot tell.
    fn problems(&self) -> Vec<Fault> {
        Vec::new()
    }
    /// The frequency it is about, Hz, and a level at it that can be pulled, dB.
    fn place(&self) -> Place {
        Place::default()
    }
}

/// Where on a level lane a filter is taken hold of.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Place {
    /// Its frequency, Hz.
    pub hz: Option<f64>,
    /// The level there that it was given, dB.
    pub level_db: Option<f64>,
}

/// A section of first or second order, (b0 + b1·x + b2·x²)/(a0 + a1·x + a2·x²) with x = s/ω0: the frequency ω0 (rad/s) is the
/// one that stays where it is when the section is made digital.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Section {
    /// ω0, rad/s.
    pub omega: f64,
    /// b0, b1, b2.
    pub above: [f64; 3],
    /// a0, a1, a2.
    pub below: [f64; 3],
}

impl Section {
    /// A section about a frequency (Hz).
    pub fn new(frequency_hz: f64, above: [f64; 3], below: [f64; 3]) -> Section {
        Section { omega: std::f64::consts::TAU * frequency_hz, above, below }
    }

    /// Its response at an angular frequency.
    #[inline(always)]
    pub fn response<P: Phasor>(&self, omega: P::Omega) -> P {
        P::quadratic(omega, self.omega, self.above) / P::quadratic(omega, self.omega, self.below)
    }

    /// Whether it is narrower than this Q: its poles, or its zeros.
    pub fn narrower_than(&self, q: f64) -> bool {
        // Q of c0 + c1·x + c2·x² is √(c0·c2)/c1
        let narrow = |[c0, c1, c2]: [f64; 3]| (c0 * c2).max(0.0) > (q * c1).powi(2);
        narrow(self.below) || narrow(self.above)
    }

    /// Its poles, rad/s.
    pub fn poles(&self) -> Vec<Complex64> {
        roots(self.below).into_iter().map(|x| x * self.omega).collect()
    }
}

/// The roots of c0 + c1·x + c2·x²; none of a constant.
pub(super) fn roots([c0, c1, c2]: [f64; 3]) -> Vec<Complex64> {
    if c2 != 0.0 {
        let root = Complex64::new(c1 * c1 - 4.0 * c2 * c0, 0.0).sqrt();
        // the root that adds to c1 first: no figures are lost where the two lie far apart
        let far = if c1 < 0.0 { root - c1 } else { -root - c1 };
        if far.norm() == 0.0 {
            return vec![Complex64::new(0.0, 0.0); 2];
        }
        vec![far / (2.0 * c2), Complex64::new(2.0 * c0, 0.0) / far]
    } else if c1 != 0.0 {
        vec![Complex64::new(-c0 / c1, 0.0)]
    } else {
        Vec::new()
    }
}

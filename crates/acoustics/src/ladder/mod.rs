//! Parts between an amplifier and its woofers: a ladder of elements in line and across the line, one file a kind and one line below
//! to register it.
//!
//! | symbol | meaning |
//! |---|---|
//! | A, B, C, D | chain matrix, [V1; I1] = [A B; C D]·[V2; I2], from amplifier to woofer |
//! | Rs | resistance of amplifier and leads before the ladder, Ω |
//!
//! In line [1 Z; 0 1], across [1 0; 1/Z 1]; the matrix of a ladder is their product (two-port theory, e.g. Desoer & Kuh, *Basic
//! Circuit Theory*, ch. 17, from memory). A voltage E behind Rs is then E/(A + Rs·C) behind (B + Rs·D)/(A + Rs·C).

mod component;
mod contract;
pub mod preferred;
pub mod winding;

pub use component::{Component, Joined, Sort, Stress};
pub use contract::{Info, Kind};

use crate::network::phasor::Phasor;
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

macro_rules! parts {
    ($($(#[$doc:meta])* $module:ident :: $name:ident),+ $(,)?) => {
        $(pub mod $module;)+

        /// A part at the terminals: one variant a kind.
        #[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
        #[serde(tag = "kind", rename_all = "snake_case")]
        #[schemars(rename = "TerminalPart")]
        pub enum Part {
            $($(#[$doc])* $name($module::$name),)+
        }

        /// Every kind, in the order in which they are offered.
        pub const PARTS: &[Info] = &[$(<$module::$name as Kind>::INFO),+];

        impl Part {
            /// The components it is made of.
            pub fn made_of(&self) -> Joined {
                match self { $(Part::$name(part) => part.made_of(),)+ }
            }
            /// What it says about itself.
            pub fn info(&self) -> Info {
                match self { $(Part::$name(_) => <$module::$name as Kind>::INFO,)+ }
            }
        }
    };
}

parts! {
    /// A coil.
    coil::Coil,
    /// A capacitor.
    capacitor::Capacitor,
    /// A resistor.
    resistor::Resistor,
    /// A resistor and a capacitor in series.
    zobel::Zobel,
    /// A coil, a capacitor and a resistor in series.
    series_notch::SeriesNotch,
    /// A coil, a capacitor and a resistor side by side.
    trap::Trap,
}

/// Where a part lies.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Placement {
    /// In the line from amplifier to woofer.
    InLine,
    /// Across it, beside the woofer.
    Across,
}

/// One rung of a ladder.
#[derive(Clone, Debug, PartialEq)]
pub struct Rung {
    /// Where it lies.
    pub placement: Placement,
    /// What it is made of.
    pub made_of: Joined,
}

/// Parts from the amplifier to the woofers, in their order.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Ladder {
    /// The rungs.
    pub rungs: Vec<Rung>,
}

/// A chain matrix: a, b (Ω), c (S), d.
#[derive(Clone, Copy, Debug)]
pub struct Matrix<P> {
    /// V1 per V2 with nothing connected.
    pub a: P,
    /// V1 per I2 into a short circuit, Ω.
    pub b: P,
    /// I1 per V2 with nothing connected, S.
    pub c: P,
    /// I1 per I2 into a short circuit.
    pub d: P,
}

/// A ladder behind a resistance Rs: of its chain matrix a + c·Rs and b + d·Rs, and c and d.
#[derive(Clone, Copy, Debug)]
pub struct Behind<P: Phasor> {
    /// a + c·Rs.
    pub open: P,
    /// b + d·Rs, Ω.
    pub short: P,
    /// c, S.
    pub c: P::Value,
    /// d.
    pub d: P::Value,
}

impl<P: Copy + std::ops::Add<Output = P> + std::ops::Mul<Output = P> + std::ops::Div<Output = P>> Matrix<P> {
    /// What is seen before it with a load (Ω) behind it, Ω.
    pub fn seen(&self, load: P) -> P {
        (self.a * load + self.b) / (self.c * load + self.d)
    }
}

impl Ladder {
    /// A ladder of parts.
    pub fn of(parts: impl IntoIterator<Item = (Placement, Part)>) -> Ladder {
        Ladder {
            rungs: parts.into_iter().map(|(placement, part)| Rung { placement, made_of: part.made_of() }).collect(),
        }
    }

    /// Its chain matrix at an angular frequency.
    #[inline(always)]
    pub fn matrix<P: Phasor>(&self, omega: P::Omega) -> Matrix<P> {
        let mut m = Matrix { a: P::one(), b: P::zero(), c: P::zero(), d: P::one() };
        for rung in &self.rungs {
            match rung.placement {
                Placement::InLine => {
                    let z = rung.made_of.impedance::<P>(omega);
                    m.b = m.b + m.a * z;
                    m.d = m.d + m.c * z;
                }
                Placement::Across => {
                    let y = rung.made_of.admittance::<P>(omega);
                    m.a = m.a + m.b * y;
                    m.c = m.c + m.d * y;
                }
            }
        }
        m
    }

    /// The ladder behind a resistance (Ω), at an angular frequency: what the woofers' side needs with its derivative, what the
    /// amplifier's side needs without.
    #[inline(always)]
    pub fn behind<P: Phasor>(&self, omega: P::Omega, resistance: f64) -> Behind<P> {
        // a + c·Rs and b + d·Rs go through a rung as a and b do
        let (mut open, mut short) = (P::one(), P::constant(resistance, 0.0));
        let (mut c, mut d) = (P::zero().value(), P::one().value());
        for rung in &self.rungs {
            match rung.placement {
                Placement::InLine => {
                    let z = rung.made_of.impedance::<P>(omega);
                    short = short + open * z;
                    d = d + c * z.value();
                }
                Placement::Across => {
                    let y = rung.made_of.admittance::<P>(omega);
                    open = open + short * y;
                    c = c + d * y.value();
                }
            }
        }
        Behind { open, short, c, d }
    }

    /// What each component of each rung bears with a voltage (V) and a current (A) at the woofers, at an angular frequency.
    pub fn stresses(&self, omega: f64, woofer_volts: Complex64, woofer_amperes: Complex64) -> Vec<Vec<Stress>> {
        let (mut volts, mut amperes) = (woofer_volts, woofer_amperes);
        let mut all: Vec<Vec<Stress>> = self
            .rungs
            .iter()
            .rev()
            .map(|rung| {
                let z = rung.made_of.impedance::<Complex64>(omega);
                match rung.placement {
                    Placement::InLine => {
                        volts += amperes * z;
                        rung.made_of.stresses(omega, amperes)
                    }
                    Placement::Across => {
                        let through = volts / z;
                        amperes += through;
                        rung.made_of.stresses(omega, through)
                    }
                }
            })
            .collect();
        all.reverse();
        all
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Both ways through a ladder are one: with a resistance before it they differ by its matrix alone.
    #[test]
    fn behind_a_resistance() {
        let coil = Part::Coil(coil::Coil { inductance_mh: 3.3, coil_ohm: 0.4 });
        let zobel = Part::Zobel(zobel::Zobel { resistance_ohm: 6.8, capacitance_uf: 68.0 });
        let capacitor = Part::Capacitor(capacitor::Capacitor { capacitance_uf: 120.0, loss_ohm: 0.0 });
        let list = [(Placement::Across, zobel), (Placement::InLine, coil), (Placement::Across, capacitor)];
        let ladder = Ladder::of(list);
        for omega in [60.0, 600.0, 6000.0] {
            let m = ladder.matrix::<Complex64>(omega);
            let there = ladder.behind::<Complex64>(omega, 1.7);
            let off = [there.open - m.a - m.c * 1.7, there.short - m.b - m.d * 1.7, there.c - m.c, there.d - m.d];
            assert!(off.iter().all(|z| z.norm() < 1e-12 * (1.0 + m.b.norm())), "{off:?}");
            assert!((m.a * m.d - m.b * m.c - 1.0).norm() < 1e-12, "reciprocal");
        }
    }

    /// The registry: unique ids, words and a law for each.
    #[test]
    fn every_part_describes_itself() {
        crate::info::assert_described(PARTS);
    }
}

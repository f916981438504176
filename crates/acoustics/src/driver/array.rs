//! Several equal woofers on one source: wiring, isobaric pairs, added mass.

use super::{Coil, Resolved, ThieleSmall};
use crate::air::Air;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How the two coils of a woofer are joined; of no effect with one.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum CoilWiring {
    /// Both on the same voltage.
    #[default]
    Parallel,
    /// Both on the same current.
    Series,
}

/// Motor and suspension of one woofer or of several taken as one, SI.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Motor {
    /// Cone area of all, m².
    pub sd: f64,
    /// Moving mass of all, kg.
    pub mms: f64,
    /// Compliance of all together, m/N.
    pub cms: f64,
    /// Suspension loss of all, N·s/m.
    pub rms: f64,
    /// Force per ampere at the terminals, T·m.
    pub bl: f64,
    /// The coils in their wiring.
    pub coil: Coil,
}

/// How equal woofers are mounted and wired.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Arrangement {
    /// How many in all.
    pub count: u32,
    /// How many of them follow one another in each string; a divisor of the count.
    pub in_series: u32,
    /// The two coils of each.
    pub coils: CoilWiring,
    /// Volume of air between the two cones of all isobaric pairs together, m³; `None` for plain mounting.
    pub isobaric: Option<f64>,
    /// Mass fixed to each cone, kg.
    pub added_mass: f64,
}

impl Arrangement {
    /// `count` woofers in parallel, mounted plainly.
    pub fn plain(count: u32) -> Arrangement {
        Arrangement { count, in_series: 1, coils: CoilWiring::Parallel, isobaric: None, added_mass: 0.0 }
    }

    /// Whether the count can be wired and paired so.
    pub fn possible(&self) -> bool {
        let strings = self.count > 0 && self.in_series > 0 && self.count.is_multiple_of(self.in_series);
        strings && (self.isobaric.is_none() || self.count.is_multiple_of(2))
    }
}

/// Every way to wire `count` woofers of `coils` coils each: (coils, woofers in series), the lowest load first.
///
/// Woofers in a string and strings in parallel; unequal strings are left out, since they share the power unevenly.
pub fn wirings(count: u32, coils: u32) -> Vec<(CoilWiring, u32)> {
    let ways: &[CoilWiring] =
        if coils > 1 { &[CoilWiring::Parallel, CoilWiring::Series] } else { &[CoilWiring::Parallel] };
    let mut list: Vec<(CoilWiring, u32)> = (1..=count)
        .filter(|in_series| count.is_multiple_of(*in_series))
        .flat_map(|in_series| ways.iter().map(move |way| (*way, in_series)))
        .collect();
    let load = |(way, in_series): &(CoilWiring, u32)| in_series * if *way == CoilWiring::Series { coils } else { 1 };
    list.sort_by_key(load);
    list
}

/// The two banks of isobaric pairs: inner cones toward the box, outer cones toward the listener.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pairing {
    /// Compliance of the air between the cones of all pairs, m³/Pa.
    pub compliance: f64,
    /// Whether both banks carry the same current; otherwise they are on the same voltage.
    pub series: bool,
}

/// Several equal woofers on one source.
#[derive(Clone, Debug)]
pub struct Array {
    /// One woofer's figures, with the mass added.
    pub ts: ThieleSmall,
    /// How many in all.
    pub count: u32,
    /// All of them as one motor; of isobaric pairs, each bank (half of them).
    pub motor: Motor,
    /// How the two banks of isobaric pairs are joined.
    pub pairing: Option<Pairing>,
}

impl Array {
    /// Equal woofers in their arrangement, which must be [`Arrangement::possible`].
    ///
    /// In a string of s the force on all cones is s·Bl·I, and impedances scale by s²/count. Two coils in series
    /// carry twice the force per ampere and four times the impedance of two in parallel. Of isobaric pairs an even
    /// number in series runs alternately through both banks, an odd one stays within a bank.
    pub fn new(one: &Resolved, air: &Air, arrangement: &Arrangement) -> Array {
        let Arrangement { count, in_series, coils, isobaric, added_mass } = *arrangement;
        let ts = one.ts.with_added_mass(added_mass, air);
        let pairing =
            isobaric.map(|volume| Pairing { compliance: air.compliance(volume), series: in_series.is_multiple_of(2) });
        let (bank, bank_series) = match pairing {
            None => (count, in_series),
            Some(Pairing { series: true, .. }) => (count / 2, in_series / 2),
            Some(Pairing { series: false, .. }) => (count / 2, in_series),
        };
        let way = if coils == CoilWiring::Series { f64::from(one.coils) } else { 1.0 };
        let (n, series) = (f64::from(bank), f64::from(bank_series));
        Array {
            ts,
            count,
            pairing,
            motor: Motor {
                sd: ts.sd * n,
                mms: ts.mms(air) * n,
                cms: ts.cms(air) / n,
                rms: ts.rms(air) * n,
                bl: ts.bl(air) * series * way,
                coil: one.coil.scaled(way * way * series * series / n),
            },
        }
    }

    /// Volume of air as stiff as all suspensions that act on the box, m³: two cones on one area are twice as stiff.
    pub fn vas(&self) -> f64 {
        let share = if self.pairing.is_some() { 4.0 } else { 1.0 };
        self.ts.vas * f64::from(self.count) / share
    }

    /// Area of all cones that look into the box, m² (of isobaric pairs the inner ones).
    pub fn cone_area(&self) -> f64 {
        self.motor.sd
    }

    /// Resistance of all coils in their wiring, Ω.
    pub fn resistance(&self) -> f64 {
        let bank = self.motor.coil.re;
        match self.pairing {
            None => bank,
            Some(Pairing { series: true, .. }) => bank * 2.0,
            Some(Pairing { series: false, .. }) => bank / 2.0,
        }
    }

    /// Total Q with a source resistance (Ω) before the whole array.
    pub fn qts_with_source(&self, rg: f64) -> f64 {
        self.ts.qts_with_source(rg * self.ts.re / self.resistance())
    }

    /// Where the two cones of an isobaric pair would swing against each other on the air between them, Hz:
    /// fs·√(1 + 2·Vas/V) for one pair, V the air between its cones. Well above that the outer cone runs alone.
    pub fn uncouples_near(&self, air: &Air) -> Option<f64> {
        let volume = self.pairing?.compliance * air.bulk_modulus() / f64::from(self.count / 2);
        Some(self.ts.fs * (1.0 + 2.0 * self.ts.vas / volume).sqrt())
    }
}

#[cfg(test)]
mod tests {
    use super::super::Woofer;
    use super::*;
    use approx::assert_relative_eq;

    fn one(coils: u32) -> Resolved {
        let sheet = Woofer {
            fs_hz: Some(30.0),
            qes: Some(0.4),
            qms: Some(5.0),
            vas_l: Some(120.0),
            re_ohm: Some(5.6 * f64::from(coils)),
            sd_cm2: Some(530.0),
            coils: if coils == 2 { super::super::VoiceCoils::Dual } else { super::super::VoiceCoils::Single },
            ..Woofer::default()
        };
        sheet.resolve(&Air::at(20.0, 101_325.0)).unwrap()
    }

    /// Two on the same voltage: four times the power into half the impedance; force and area double.
    #[test]
    fn wiring_scales_impedance() {
        let air = Air::at(20.0, 101_325.0);
        let re = |count, in_series, coils, way| {
            let arrangement = Arrangement { in_series, coils: way, ..Arrangement::plain(count) };
            Array::new(&one(coils), &air, &arrangement).resistance()
        };
        assert_relative_eq!(re(2, 1, 1, CoilWiring::Parallel), 2.8);
        assert_relative_eq!(re(2, 2, 1, CoilWiring::Parallel), 11.2);
        assert_relative_eq!(re(4, 2, 1, CoilWiring::Parallel), 5.6);
        assert_relative_eq!(re(2, 1, 2, CoilWiring::Parallel), 2.8);
        assert_relative_eq!(re(2, 1, 2, CoilWiring::Series), 11.2);
        assert_relative_eq!(re(2, 2, 2, CoilWiring::Series), 44.8);
    }

    /// Two 4 ohm coils each, two woofers: 1, 4 (two ways) and 16 ohm (common practice: coils in series, woofers in
    /// parallel make 4).
    #[test]
    fn all_wirings_are_listed() {
        let list = wirings(2, 2);
        let load = |(way, s): &(CoilWiring, u32)| {
            let coil = if *way == CoilWiring::Series { 8.0 } else { 2.0 };
            coil * f64::from(s * s) / 2.0
        };
        assert_eq!(list.iter().map(load).collect::<Vec<_>>(), [1.0, 4.0, 4.0, 16.0]);
        assert_eq!(wirings(6, 1).iter().map(|w| w.1).collect::<Vec<_>>(), [1, 2, 3, 6]);
        assert_eq!(wirings(1, 1), [(CoilWiring::Parallel, 1)]);
    }

    /// An isobaric pair is one woofer of half the Vas and twice the moving mass (common practice; the limit of a
    /// small chamber).
    #[test]
    fn a_pair_has_half_the_vas() {
        let air = Air::at(20.0, 101_325.0);
        let pair = Arrangement { isobaric: Some(1e-6), ..Arrangement::plain(2) };
        let array = Array::new(&one(1), &air, &pair);
        assert_relative_eq!(array.vas(), 0.060, max_relative = 1e-12);
        assert_relative_eq!(array.resistance(), 2.8);
        assert!(!Arrangement { isobaric: Some(1e-3), ..Arrangement::plain(3) }.possible());
    }

    /// fs falls by √(Mms/(Mms + Δm)), the Qs rise by its inverse, the efficiency falls as 1/Mms².
    #[test]
    fn added_mass() {
        let air = Air::at(20.0, 101_325.0);
        let ts = one(1).ts;
        let mass = ts.mms(&air);
        let heavy = ts.with_added_mass(mass, &air);
        assert_relative_eq!(heavy.fs, ts.fs / 2f64.sqrt(), max_relative = 1e-12);
        assert_relative_eq!(heavy.qts(), ts.qts() * 2f64.sqrt(), max_relative = 1e-12);
        assert_relative_eq!(heavy.mms(&air), 2.0 * mass, max_relative = 1e-12);
        assert_relative_eq!(heavy.bl(&air), ts.bl(&air), max_relative = 1e-12);
        assert_relative_eq!(heavy.efficiency(&air), ts.efficiency(&air) / 4.0, max_relative = 1e-12);
    }
}

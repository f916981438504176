//! The wire and turns of an air-core coil in Brooks' shape: a square winding as wide as its core's radius, which takes the least wire.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | c | side of the winding, and radius of its core | m |
//! | a | mean radius, 3c/2 | m |
//! | N | turns | |
//! | d | diameter of the wire over its enamel | m |
//!
//! L = 1.6994·10⁻⁶·a·N² (Brooks, Bureau of Standards Journal of Research 7 (1931), from memory), c = d·√N where the turns lie in square
//! order.

use crate::cable::COPPER;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// H per metre of mean radius and turn squared, of a square winding whose core has its side for radius.
pub const BROOKS: f64 = 1.6994e-6;
/// Over its enamel a wire is about a sixteenth thicker: an estimate.
const ENAMEL: f64 = 1.06;

/// A coil to be wound.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Winding {
    /// Diameter of the copper, mm.
    pub wire_mm: f64,
    /// Turns.
    pub turns: u32,
    /// Diameter of the core, mm.
    pub core_mm: f64,
    /// Width of the winding, which is its depth too, mm.
    pub width_mm: f64,
    /// Outside diameter, mm.
    pub outside_mm: f64,
    /// Wire, m.
    pub length_m: f64,
    /// Resistance at 20 °C, Ω.
    pub resistance_ohm: f64,
    /// Copper, g.
    pub copper_g: f64,
}

/// The winding of an inductance (H) from a wire (diameter of the copper, m).
pub fn winding(inductance: f64, wire: f64) -> Winding {
    let over = wire * ENAMEL;
    // L = 1.6994e-6·(3/2)·d·N^(5/2)
    let turns = (inductance / (BROOKS * 1.5 * over)).powf(0.4).round().max(1.0);
    let side = over * turns.sqrt();
    let length = TAU * 1.5 * side * turns;
    let area = PI / 4.0 * wire * wire;
    Winding {
        wire_mm: wire * 1e3,
        turns: turns as u32,
        core_mm: 2e3 * side,
        width_mm: 1e3 * side,
        outside_mm: 4e3 * side,
        length_m: length,
        resistance_ohm: length * COPPER / area,
        // 8 920 kg/m³ (handbook value)
        copper_g: length * area * 8920.0 * 1e3,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Wheeler's formula for a short coil of many layers, L = 0.8·a²N²/(6a + 9b + 10c) in inches and µH (Wheeler, Proc. IRE 16 (1928),
    /// from memory, good to 1 % for such a shape): the two agree for this one.
    #[test]
    fn brooks_and_wheeler_agree() {
        for (henry, wire) in [(1e-3, 1.0e-3), (8.2e-3, 1.4e-3), (22e-3, 0.9e-3)] {
            let w = winding(henry, wire);
            let inch = |mm: f64| mm / 25.4;
            let (a, b) = (inch(0.75 * w.core_mm), inch(w.width_mm));
            let micro = 0.8 * (a * f64::from(w.turns)).powi(2) / (6.0 * a + 9.0 * b + 10.0 * b);
            assert!((micro * 1e-6 / henry - 1.0).abs() < 0.02, "{micro} µH against {henry} H");
            assert!((w.outside_mm - 2.0 * w.core_mm).abs() < 1e-9);
        }
    }
}

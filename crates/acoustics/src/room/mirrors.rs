//! Images of a place in the six walls of a box.

use std::f64::consts::PI;

/// Nearer than this no image is, m.
const LEAST: f64 = 0.015;

/// Σ wave(r)/(4πr) over the images of a source in the walls of a box of these sides (m).
pub(super) fn sum<T>(sides: [f64; 3], from: [f64; 3], to: [f64; 3], reach: f64, wave: impl Fn(f64) -> T) -> T
where
    T: std::ops::Mul<f64, Output = T> + std::iter::Sum<T>,
{
    let along = |i: usize| {
        let cells = (reach / (2.0 * sides[i])).ceil() as i64 + 1;
        (-cells..=cells)
            .flat_map(move |cell| [from[i], -from[i]].map(|x| 2.0 * cell as f64 * sides[i] + x - to[i]))
            .filter(move |d| d.abs() <= reach)
            .map(|d| d * d)
            .collect::<Vec<f64>>()
    };
    let [x, y, z] = [along(0), along(1), along(2)];
    let mut near = Vec::new();
    for a in &x {
        for b in &y {
            near.extend(z.iter().map(|c| a + b + c).filter(|r| *r <= reach * reach));
        }
    }
    near.into_iter().map(|r| r.sqrt().max(LEAST)).map(|r| wave(r) * (1.0 / (4.0 * PI * r))).sum()
}

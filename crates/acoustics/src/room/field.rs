//! The sound of a room over a whole plane at once: a map of places in the time of a few hundred single ones.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | κ | how fast the screened field e^{-κr}/(4πr) falls | 1/m |
//! | γ² | k² of a pair of indices plus κ² | 1/m² |
//!
//! By indices along length and width, closed along the height, the sum is separable: first over the length for every x, then over
//! the width for every place. Near the source it converges slowly, since the field is 1/r there; so a screened field that has the
//! same 1/r, by indices too, is taken off, and given back by its images, which fall away within a room (Kummer's transformation).
//! What is left falls with the cube of the index. It is held to [`Shoebox::transfer`].

use super::{Closed, Place, Shoebox, mirrors};
use crate::halt;
use num_complex::Complex64;
use std::f64::consts::PI;

/// A plane of places at one height, and a place whose sound is asked for over it (or which hears them: both are the same).
#[derive(Clone, Debug)]
pub struct Field<'a> {
    room: &'a Shoebox,
    at: Place,
    height: f64,
    screen: f64,
    /// Wave numbers along length and width that are summed.
    along: [Vec<f64>; 2],
    /// Shapes: over the plane's places and at the place, Λ in it; by index, then place.
    shapes: [Vec<Vec<f64>>; 2],
    /// The screened field over the plane, row by row of the width.
    screened: Vec<f64>,
    places: [usize; 2],
}

/// Steepest index summed, 1/m.
const STEEPEST: f64 = 15.0;
/// Most pairs of indices.
const MOST: f64 = 6000.0;
/// e to this is what is left out.
const LEFT_OUT: f64 = 11.0;

impl<'a> Field<'a> {
    /// Makes ready for the places at `x` and `y` (m) of a height (m), and one more place.
    pub fn new(room: &'a Shoebox, x: &[f64], y: &[f64], height: f64, at: Place) -> Field<'a> {
        let [lx, ly, _] = room.sides;
        let apart = (height - at[2]).abs();
        // pairs within a quarter of an ellipse: reach²·Lx·Ly/(4π)
        let reach = STEEPEST.min(LEFT_OUT / apart.max(0.01)).max(6.0).min((MOST * 4.0 * PI / (lx * ly)).sqrt());
        let numbers = |l: f64| (0..=(reach * l / PI) as usize).map(|i| i as f64 * PI / l).collect::<Vec<f64>>();
        let along = [numbers(lx), numbers(ly)];
        let shapes = |numbers: &[f64], places: &[f64], at: f64, l: f64| {
            let norm = |k: f64| if k == 0.0 { 1.0 / l } else { 2.0 / l };
            numbers.iter().map(|k| places.iter().map(|p| norm(*k) * (k * p).cos() * (k * at).cos()).collect()).collect()
        };
        let shapes = [shapes(&along[0], x, at[0], lx), shapes(&along[1], y, at[1], ly)];
        // images within a few metres, or within a few of a large room's sides
        let screen = room.screen();
        let near =
            |x: f64, y: f64| mirrors::sum(room.sides, at, [x, y, height], LEFT_OUT / screen, |r| (-screen * r).exp());
        let screened = y.iter().flat_map(|y| x.iter().map(move |x| (*x, *y))).map(|(x, y)| near(x, y)).collect();
        Field { room, at, height, screen, along, shapes, screened, places: [x.len(), y.len()] }
    }

    /// How many pairs of indices are summed at a frequency.
    pub fn pairs(&self) -> usize {
        self.along[0].len() * self.along[1].len()
    }

    /// Pressure per volume velocity over the plane, Pa·s/m³, at an angular frequency (rad/s); row by row of the width.
    pub fn transfer(&self, omega: f64) -> Vec<Complex64> {
        halt::check();
        let room = self.room;
        let [columns, rows] = self.places;
        let low = self.height.min(self.at[2]);
        let high = self.height.max(self.at[2]);
        let along = Closed { length: room.sides[2], low, high };
        let (kx, ky) = (&self.along[0], &self.along[1]);
        let reach = kx.last().copied().unwrap_or(0.0).max(ky.last().copied().unwrap_or(0.0)) * 1.000_001;
        let mut out: Vec<Complex64> = vec![Complex64::default(); columns * rows];
        let mut over_x = vec![Complex64::default(); columns];
        for (m, b) in ky.iter().enumerate() {
            over_x.fill(Complex64::default());
            for (l, a) in kx.iter().enumerate() {
                let across = a * a + b * b;
                if across > reach * reach {
                    break;
                }
                let bits = usize::from(l > 0) | usize::from(m > 0) << 1;
                let screened: Complex64 = along.sum(Complex64::new((across + self.screen * self.screen).sqrt(), 0.0));
                let term = room.line::<Complex64>(omega, across, bits, 2, &along) - screened;
                for (sum, shape) in over_x.iter_mut().zip(&self.shapes[0][l]) {
                    *sum += term * *shape;
                }
            }
            for (row, shape) in out.chunks_mut(columns).zip(&self.shapes[1][m]) {
                for (sum, x) in row.iter_mut().zip(&over_x) {
                    *sum += *x * *shape;
                }
            }
        }
        let factor = Complex64::new(0.0, omega * room.air.rho);
        out.iter().zip(&self.screened).map(|(sum, near)| factor * (*sum + near)).collect()
    }
}

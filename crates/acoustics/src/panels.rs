//! Panels of a cabinet: boards as plates, their lowest frequencies with clamped and with supported edges, and what braces
//! do to them.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | E, ν | Young's modulus, Poisson's ratio | Pa, 1 |
//! | D | bending stiffness E·h³/(12(1 - ν²)) | N·m |
//! | m'' | mass per area | kg/m² |
//! | λ² | 2πf·a²·√(m''/D), a the side along x | 1 |
//!
//! Kirchhoff's thin plate, isotropic (of plywood and solid wood the geometric mean of both directions), without the air's
//! load: good while a panel is some twenty times as wide as thick. The edges of a real box lie between clamped and
//! supported, so both are given as a bracket (Leissa, *Vibration of Plates*, NASA SP-160, ch. 4).

use nalgebra::{Cholesky, DMatrix, DVector};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// What boards are made of; [`BOARDS`] says what is known of each.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum BoardMaterial {
    /// Medium-density fibreboard.
    #[default]
    #[schemars(title = "MDF")]
    Mdf,
    /// Birch plywood, all plies birch.
    #[schemars(title = "Birch plywood")]
    BirchPlywood,
    /// Softwood plywood.
    #[schemars(title = "Softwood plywood")]
    SoftwoodPlywood,
    /// Particle board.
    #[schemars(title = "Particle board")]
    ParticleBoard,
    /// Solid pine boards, glued edge to edge.
    #[schemars(title = "Pine, glued")]
    Pine,
    /// Rigid PVC, as of heavy tubes.
    #[schemars(title = "Rigid PVC")]
    Pvc,
}

/// What is known of a board material.
#[derive(Clone, Copy, Debug)]
pub struct BoardInfo {
    /// Which.
    pub board: BoardMaterial,
    /// In words.
    pub title: &'static str,
    /// Young's modulus in bending, Pa.
    pub modulus: f64,
    /// Poisson's ratio.
    pub poisson: f64,
    /// Density, kg/m³.
    pub density: f64,
    /// Loss factor of bending.
    pub loss: f64,
    /// Where the figures come from.
    pub source: &'static str,
}

/// Every material, in the order of [`BoardMaterial`]. Loss factors are estimates from the usual ranges.
pub const BOARDS: &[BoardInfo] = &[
    BoardInfo {
        board: BoardMaterial::Mdf,
        title: "MDF",
        modulus: 3.59e9,
        poisson: 0.25,
        density: 740.0,
        loss: 0.02,
        source: "USDA Wood Handbook, FPL-GTR-190, table 12-1: E 3.59 GPa (from memory); density usual; loss an estimate",
    },
    BoardInfo {
        board: BoardMaterial::BirchPlywood,
        title: "birch plywood",
        modulus: 8.6e9,
        poisson: 0.3,
        density: 680.0,
        loss: 0.015,
        source: "Handbook of Finnish Plywood: means along and across about 10.0 and 7.4 GPa at 18 mm (from memory), their geometric mean; loss an estimate",
    },
    BoardInfo {
        board: BoardMaterial::SoftwoodPlywood,
        title: "softwood plywood",
        modulus: 5.0e9,
        poisson: 0.3,
        density: 520.0,
        loss: 0.015,
        source: "USDA Wood Handbook, FPL-GTR-190, table 12-1: 7.0 to 8.6 GPa along the face (from memory); geometric mean with a third of it across; loss an estimate",
    },
    BoardInfo {
        board: BoardMaterial::ParticleBoard,
        title: "particle board",
        modulus: 3.45e9,
        poisson: 0.25,
        density: 680.0,
        loss: 0.02,
        source: "USDA Wood Handbook, FPL-GTR-190, table 12-1: 2.76 to 4.14 GPa (from memory), the middle; loss an estimate",
    },
    BoardInfo {
        board: BoardMaterial::Pine,
        title: "pine, glued boards",
        modulus: 2.6e9,
        poisson: 0.3,
        density: 450.0,
        loss: 0.01,
        source: "USDA Wood Handbook, FPL-GTR-190, tables 5-1 and 5-3: about 9.4 GPa along, 0.078 of it across (from memory), geometric mean; loss an estimate",
    },
    BoardInfo {
        board: BoardMaterial::Pvc,
        title: "rigid PVC",
        modulus: 3.0e9,
        poisson: 0.4,
        density: 1400.0,
        loss: 0.02,
        source: "EN 1401-1: at least 3.0 GPa (from memory); loss an estimate",
    },
];

impl BoardMaterial {
    /// What is known of it.
    pub fn info(self) -> BoardInfo {
        BOARDS[self as usize]
    }
}

/// A plate's bending stiffness, mass and loss.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Plate {
    /// D, N·m.
    pub stiffness: f64,
    /// m'', kg/m².
    pub mass: f64,
    /// Loss factor.
    pub loss: f64,
}

/// Layers bonded over their whole area, from one face to the other: (material, thickness in m).
///
/// D about the neutral axis of the plane-strain moduli E/(1 - ν²); the loss factor is that of each layer by its share of
/// the stiffness (equal strain). A viscoelastic glue line is not in it.
pub fn laminate(layers: &[(BoardMaterial, f64)]) -> Plate {
    let plane = |b: BoardMaterial| b.info().modulus / (1.0 - b.info().poisson.powi(2));
    let mut at = 0.0;
    let places: Vec<(BoardMaterial, f64, f64)> = layers
        .iter()
        .map(|&(board, thickness)| {
            let from = at;
            at += thickness;
            (board, from, at)
        })
        .collect();
    let stretch: f64 = places.iter().map(|(b, from, to)| plane(*b) * (to - from)).sum();
    let moment: f64 = places.iter().map(|(b, from, to)| plane(*b) * (to * to - from * from) / 2.0).sum();
    let axis = if stretch > 0.0 { moment / stretch } else { 0.0 };
    let shares = places.iter().map(|(b, from, to)| {
        let d = plane(*b) * ((to - axis).powi(3) - (from - axis).powi(3)) / 3.0;
        (d, b.info().loss)
    });
    let (stiffness, lost) = shares.fold((0.0, 0.0), |(d, lost), (share, loss)| (d + share, lost + share * loss));
    let mass = places.iter().map(|(b, from, to)| b.info().density * (to - from)).sum();
    Plate { stiffness, mass, loss: if stiffness > 0.0 { lost / stiffness } else { 0.0 } }
}

/// How all four edges of a panel are held.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Edges {
    /// Glued into stiff neighbours: neither moves nor turns.
    Clamped,
    /// Held, but free to turn.
    Supported,
}

/// What holds a panel between its edges.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Hold {
    /// A line across the panel at this share of the side along x: the panel does not move there but may turn.
    Upright(f64),
    /// The same at a share of the side along y.
    Level(f64),
    /// A point, as shares of both sides.
    Point(f64, f64),
}

/// Functions along each side.
const FUNCTIONS: usize = 9;
/// Places of Gauss's rule along a side.
const PLACES: usize = 32;

/// Value, first and second derivative of Legendre's polynomial of degree n at x, by its recurrence.
fn legendre(n: usize, x: f64) -> [f64; 3] {
    let (mut before, mut here) = ([0.0; 3], [1.0, 0.0, 0.0]);
    for k in 1..=n {
        let k = k as f64;
        let next = [0, 1, 2].map(|d| {
            let lower = if d == 0 { 0.0 } else { d as f64 * here[d - 1] };
            ((2.0 * k - 1.0) * (x * here[d] + lower) - (k - 1.0) * before[d]) / k
        });
        (before, here) = (here, next);
    }
    here
}

/// Value, first and second derivative of the i-th function (from 1) at a share s of the side; derivatives by s.
fn function(edges: Edges, i: usize, s: f64) -> [f64; 3] {
    let n = i as f64;
    match edges {
        Edges::Supported => {
            let k = n * PI;
            [(k * s).sin(), k * (k * s).cos(), -k * k * (k * s).sin()]
        }
        // s²(1 - s)² times Legendre's polynomial of 2s - 1: zero with its slope at both ends
        Edges::Clamped => {
            let [p, p1, p2] = legendre(i - 1, 2.0 * s - 1.0);
            let (p1, p2) = (2.0 * p1, 4.0 * p2);
            let r = 1.0 - s;
            let q = s * s * r * r;
            let q1 = 2.0 * s * r * (r - s);
            let q2 = 2.0 * (r * r - 4.0 * s * r + s * s);
            [q * p, q1 * p + q * p1, q2 * p + 2.0 * q1 * p1 + q * p2]
        }
    }
}

/// Gauss-Legendre places and weights on 0 to 1, by Newton's method on the Legendre polynomial.
fn gauss() -> Vec<(f64, f64)> {
    let n = PLACES;
    (0..n)
        .map(|i| {
            let mut x = (PI * (i as f64 + 0.75) / (n as f64 + 0.5)).cos();
            let mut slope = 1.0;
            for _ in 0..20 {
                let [value, derivative, _] = legendre(n, x);
                slope = derivative;
                x -= value / slope;
            }
            (0.5 - x / 2.0, 1.0 / ((1.0 - x * x) * slope * slope))
        })
        .collect()
}

/// The functions along one side with what they integrate to: ∫φφ, ∫φ'φ', ∫φ''φ''.
struct Side {
    /// Columns are combinations of the plain functions that vanish at every line held.
    combinations: DMatrix<f64>,
    plain: DMatrix<f64>,
    slope: DMatrix<f64>,
    bend: DMatrix<f64>,
}

impl Side {
    fn new(edges: Edges, lines: &[f64]) -> Side {
        let n = FUNCTIONS + lines.len();
        // an orthonormal basis of the combinations that vanish on the lines: Gram and Schmidt after the lines' own values
        let mut taken: Vec<DVector<f64>> = Vec::new();
        let mut kept: Vec<DVector<f64>> = Vec::new();
        let values = |s: &f64| DVector::from_fn(n, |i, _| function(edges, i + 1, *s)[0]);
        let unit = |i: usize| DVector::from_fn(n, |k, _| f64::from(u8::from(i == k)));
        for (candidate, is_line) in lines.iter().map(|s| (values(s), true)).chain((0..n).map(|i| (unit(i), false))) {
            let mut v = candidate;
            for _ in 0..2 {
                for other in taken.iter().chain(&kept) {
                    let along = other.dot(&v);
                    v -= other * along;
                }
            }
            let length = v.norm();
            if length < 1e-6 || (!is_line && kept.len() == FUNCTIONS) {
                continue;
            }
            if is_line { taken.push(v / length) } else { kept.push(v / length) }
        }
        let combinations = DMatrix::from_columns(&kept);
        let mut sums = [DMatrix::zeros(n, n), DMatrix::zeros(n, n), DMatrix::zeros(n, n)];
        for (s, weight) in gauss() {
            let at: Vec<[f64; 3]> = (0..n).map(|i| function(edges, i + 1, s)).collect();
            for (order, sum) in sums.iter_mut().enumerate() {
                for i in 0..n {
                    for j in 0..n {
                        sum[(i, j)] += weight * at[i][order] * at[j][order];
                    }
                }
            }
        }
        let [plain, slope, bend] = sums.map(|sum| combinations.transpose() * sum * &combinations);
        Side { combinations, plain, slope, bend }
    }

    fn at(&self, edges: Edges, s: f64) -> DVector<f64> {
        let n = self.combinations.nrows();
        self.combinations.transpose() * DVector::from_fn(n, |i, _| function(edges, i + 1, s)[0])
    }
}

/// The lowest λ² of a rectangular plate, 2πf·a²·√(m''/D), of sides in the ratio `b_over_a`, held as told.
///
/// Rayleigh and Ritz on products of functions that meet the edges' conditions (energy ∬(∇²w)², for panels whose edges do
/// not move); lines held are conditions on the functions, points a stiff spring. An upper bound: within 0.1 % of
/// Leissa's tables for plain plates, a few parts in a thousand with lines held.
pub fn lowest(b_over_a: f64, edges: Edges, holds: &[Hold]) -> f64 {
    let within = |s: &f64| *s > 1e-3 && *s < 1.0 - 1e-3;
    let uprights: Vec<f64> =
        holds.iter().filter_map(|h| if let Hold::Upright(s) = h { Some(*s) } else { None }).filter(within).collect();
    let levels: Vec<f64> =
        holds.iter().filter_map(|h| if let Hold::Level(s) = h { Some(*s) } else { None }).filter(within).collect();
    let (x, y) = (Side::new(edges, &uprights), Side::new(edges, &levels));
    let r = b_over_a;
    // a = 1, b = r: derivatives along y are by s/r, the area element is r
    let mut stiff = x.bend.kronecker(&y.plain) * r
        + x.slope.kronecker(&y.slope) * (2.0 / r)
        + x.plain.kronecker(&y.bend) * (1.0 / r.powi(3));
    let mass = x.plain.kronecker(&y.plain) * r;
    for hold in holds {
        if let Hold::Point(s, t) = hold {
            let value = x.at(edges, *s).kronecker(&y.at(edges, *t));
            stiff += &value * value.transpose() * 1e7;
        }
    }
    let n = stiff.nrows();
    let Some(factor) = Cholesky::new(stiff.clone()) else { return f64::NAN };
    // inverse iteration on the lowest: the quotient settles well before the shape does
    let mut shape = DVector::from_fn(n, |i, _| 1.0 / (1.0 + i as f64) + 0.1 * ((i * 7 % 5) as f64));
    let mut square = f64::INFINITY;
    for _ in 0..400 {
        let loaded = &mass * &shape;
        let scale = shape.dot(&loaded);
        let next = shape.dot(&(&stiff * &shape)) / scale;
        let settled = (square - next).abs() < 1e-10 * next;
        square = next;
        if settled {
            break;
        }
        shape = factor.solve(&loaded) / scale.sqrt();
        shape /= shape.norm();
    }
    square.sqrt()
}

/// The lowest frequency (Hz) of a panel of sides `a` and `b` (m), held as told (x along `a`).
pub fn lowest_frequency(plate: &Plate, a: f64, b: f64, edges: Edges, holds: &[Hold]) -> f64 {
    lowest(b / a, edges, holds) / (TAU * a * a) * (plate.stiffness / plate.mass).sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// Leissa, *The free vibration of rectangular plates*, JSV 31 (1973), tables for C-C-C-C and S-S-S-S (as in NASA
    /// SP-160; from memory): λ² = ωa²·√(ρh/D) for a/b. The clamped values there are upper bounds too, by beam functions.
    #[test]
    fn plain_plates_as_leissa_has_them() {
        for (a_over_b, clamped, supported) in [
            (0.4, 23.648, 11.4487),
            (2.0 / 3.0, 27.010, 14.2561),
            (1.0, 35.992, 19.7392),
            (1.5, 60.772, 32.0762),
            (2.5, 147.80, 71.5546),
        ] {
            assert_relative_eq!(lowest(1.0 / a_over_b, Edges::Clamped, &[]), clamped, max_relative = 1e-3);
            assert_relative_eq!(lowest(1.0 / a_over_b, Edges::Supported, &[]), supported, max_relative = 1e-5);
        }
        // the sharper values of Rayleigh and Ritz with more terms
        assert_relative_eq!(lowest(1.0, Edges::Clamped, &[]), 35.985, max_relative = 1e-4);
        assert_relative_eq!(lowest(1.0 / 1.5, Edges::Clamped, &[]), 60.761, max_relative = 1e-4);
    }

    /// Theory: a supported plate held on its middle line moves as two supported halves; a point in the middle of a square
    /// one leaves the mode with a node there, λ² = 5π².
    #[test]
    fn lines_and_points_held() {
        let half = lowest(2.0, Edges::Supported, &[]) * 4.0;
        assert_relative_eq!(lowest(1.0, Edges::Supported, &[Hold::Upright(0.5)]), half, max_relative = 1e-4);
        let thirds = lowest(3.0, Edges::Supported, &[]) * 9.0;
        let found = lowest(1.0, Edges::Supported, &[Hold::Level(1.0 / 3.0), Hold::Level(2.0 / 3.0)]);
        assert_relative_eq!(found, thirds, max_relative = 1e-3);
        assert_relative_eq!(
            lowest(1.0, Edges::Supported, &[Hold::Point(0.5, 0.5)]),
            5.0 * PI * PI,
            max_relative = 1e-3
        );
        // whatever is held, the plate only gets stiffer
        let plain = lowest(1.4, Edges::Clamped, &[]);
        for hold in [Hold::Upright(0.3), Hold::Level(0.8), Hold::Point(0.4, 0.4)] {
            assert!(lowest(1.4, Edges::Clamped, &[hold]) > plain * 1.01);
        }
    }

    /// Layers of one board are one thick board; a stiff skin on a soft core beats both alone; doubling the thickness is
    /// eight times the stiffness.
    #[test]
    fn layers_bonded() {
        let thick = laminate(&[(BoardMaterial::Mdf, 0.036)]);
        let twice = laminate(&[(BoardMaterial::Mdf, 0.018), (BoardMaterial::Mdf, 0.018)]);
        assert_relative_eq!(thick.stiffness, twice.stiffness, max_relative = 1e-12);
        assert_relative_eq!(
            thick.stiffness,
            8.0 * laminate(&[(BoardMaterial::Mdf, 0.018)]).stiffness,
            max_relative = 1e-12
        );
        // D = E·h³/(12(1 - ν²))
        assert_relative_eq!(thick.stiffness, 3.59e9 * 0.036f64.powi(3) / 12.0 / (1.0 - 0.0625), max_relative = 1e-12);
        let skinned = laminate(&[(BoardMaterial::BirchPlywood, 0.006), (BoardMaterial::Mdf, 0.012)]);
        let apart = laminate(&[(BoardMaterial::BirchPlywood, 0.006)]).stiffness
            + laminate(&[(BoardMaterial::Mdf, 0.012)]).stiffness;
        assert!(skinned.stiffness > 2.0 * apart && skinned.loss > 0.015 && skinned.loss < 0.02);
        for (i, info) in BOARDS.iter().enumerate() {
            assert!(info.board as usize == i && !info.source.is_empty() && info.board.info().title == info.title);
        }
    }
}

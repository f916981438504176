//! A rectangular chamber with standing waves, seen from its openings.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | ψ | cos(lπx/Lx)·cos(mπy/Ly)·cos(nπz/Lz), its mean over an opening | 1 |
//! | Λ | mean of ψ² over the volume: ½ for each index above 0 | 1 |
//! | φp | share of a mode's potential energy that lies in the fill | 1 |
//! | wi | share of its kinetic energy that moves along direction i | 1 |
//! | s, x | share of the sin² along i that lies in the fill; ρ(ω)/ρ0 of the fill | 1 |
//!
//! The pressure at opening r for a volume velocity at s is the sum over the modes of
//! jω·ψr·ψs/(Λ·V·κn·(Ωn² - ω²)), the rigid rectangular room (Morse & Ingard, *Theoretical Acoustics*, ch. 9). Fill
//! enters by its share of each mode's energy (a first-order Rayleigh quotient): κn = (1 - φp)/K0 + φp/K(ω) and
//! Ωn² = ωn²·N(ω)/(1 - φp + φp·K0/K(ω)); an empty chamber has ωn²·(1 + j/Qn)-like losses from its walls instead, jω·ωn/Qn.
//!
//! N is what air and fill weigh together. In a layer across the motion the flow is continuous, so that along a column that
//! runs through both the densities add: 1/(1 - s + s·x). Columns beside one another share the pressure's slope, so that their
//! inverse densities add: N = Σ wi·[Wi/(1 - si + si·x) + Fi/x + 1 - Wi - Fi], Wi and Fi the parts of the cross-section whose
//! columns run through both and through fill alone. (This project's own composition of the two bounds; a layer across is held to
//! the exact layered fluid, within 12 % of its Q.)
//!
//! The (0,0,0) term is the plain compliance with the absorption in series. A leak sees the mean pressure, which is that
//! term's alone, and has a terminal of its own outside.
//!
//! The static inertance of the higher modes is taken out of each opening's own term (the port's and the cone's end
//! masses hold it already) and kept between openings.

use super::element::ElementLaw;
use super::packed;
use super::phasor::Phasor;
use super::volume::Volume;
use crate::air::Air;
use crate::fill::FibreModel;
use num_complex::Complex64;
use std::f64::consts::PI;

/// Most openings a cavity has.
pub const MOST_OPENINGS: usize = 4;
/// Most entries of a packed matrix of openings.
const PAIRS: usize = MOST_OPENINGS * (MOST_OPENINGS + 1) / 2;
/// Most modes counted.
pub const MOST_MODES: usize = 200;

/// A round opening in a wall parallel to the baffle (or one of that area), by its centre.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Opening {
    /// Centre, m from the corner: across, up, behind the baffle.
    pub centre: [f64; 3],
    /// Area, m².
    pub area: f64,
}

/// Where the fill of a cavity lies.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Place {
    /// Evenly everywhere.
    Everywhere,
    /// On all six walls.
    Walls,
    /// In the middle, away from the walls.
    Middle,
    /// As a lining that leaves the box between these two corners free (shares of each side).
    Lined {
        /// Lower corner of what stays free.
        low: [f64; 3],
        /// Upper corner.
        high: [f64; 3],
    },
}

/// How a mode's motion along one direction meets the fill.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Motion {
    /// Share of the mode's kinetic energy that moves along it.
    pub weight: f64,
    /// Part of the cross-section whose columns run through air and fill.
    pub mixed: f64,
    /// Share of the motion within such a column that lies in the fill.
    pub in_fill: f64,
    /// Part of the cross-section whose columns are fill alone.
    pub filled: f64,
}

/// One mode.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Mode {
    /// Half waves across, up, behind.
    pub order: [u32; 3],
    /// Angular frequency of the empty chamber, rad/s.
    pub omega: f64,
    /// Λ.
    pub norm: f64,
    /// How each direction's motion meets the fill.
    pub motion: [Motion; 3],
    /// Share of the potential energy in the fill.
    pub potential: f64,
}

impl Mode {
    /// Mean of ψ over an opening of a chamber of these sides (m): ψ at the centre times 2·J1(κa)/(κa), κ the part of
    /// the wave number along the wall.
    pub fn seen_from(&self, opening: &Opening, sides: [f64; 3]) -> f64 {
        let k = [0, 1, 2].map(|i| f64::from(self.order[i]) * PI / sides[i]);
        let centre: f64 = (0..3).map(|i| (k[i] * opening.centre[i]).cos()).product();
        let along = k[0].hypot(k[1]) * (opening.area / PI).sqrt();
        centre * over_opening(along)
    }
}

impl Mode {
    /// N of the module's head; `heavy` is ρ(ω)/ρ0 of the fill.
    #[inline(always)]
    fn lightness<P: Phasor>(&self, heavy: P, light: P) -> P {
        let mut sum = P::zero();
        for m in &self.motion {
            if m.weight == 0.0 {
                continue;
            }
            sum = sum + P::constant(m.weight * (1.0 - m.mixed - m.filled), 0.0) + light.scale(m.weight * m.filled);
            let column = m.weight * m.mixed;
            if column > 0.0 {
                sum = sum
                    + if m.in_fill == 0.0 {
                        P::constant(column, 0.0)
                    } else {
                        (P::one() + (heavy - P::one()).scale(m.in_fill)).recip().scale(column)
                    };
            }
        }
        sum
    }

    /// Q of the mode (resonance over half-power width) and its frequency in the filled chamber, rad/s, by the first-order
    /// Rayleigh quotient of the module's head; `wall_q` is that of the bare walls.
    pub fn damped(&self, air: &Air, fill: Option<&FibreModel>, wall_q: f64) -> (f64, f64) {
        let mut omega = self.omega;
        let mut loss = 1.0 / wall_q;
        if let Some(fill) = fill {
            // the fluid changes with frequency: a few turns bring both together
            for _ in 0..8 {
                let heavy = fill.density::<Complex64>(omega) / air.rho;
                let softness = fill.bulk_modulus::<Complex64>(omega).inv() * air.bulk_modulus();
                let square = self.lightness(heavy, heavy.inv()) / (1.0 + (softness - 1.0) * self.potential);
                // the complex resonance; of one that hardly swings any more its size still says where it lies
                let resonance = square.sqrt();
                omega = self.omega * resonance.norm();
                loss = 2.0 * resonance.im.abs() / resonance.re.abs().max(1e-9) + 1.0 / wall_q;
            }
        }
        (1.0 / loss, omega)
    }
}

/// Half waves along each edge that the static share of the modes beyond the counted ones is summed to.
const TAIL: u32 = 14;

/// Static inertance between openings (packed, kg/m⁴) of the modes above an angular frequency: they are far from their
/// resonance, but near openings feel each other through them.
fn tail(air: &Air, sides: [f64; 3], openings: &[Opening], above: f64) -> Vec<f64> {
    const COUNT: usize = TAIL as usize + 1;
    let t = openings.len();
    let compliance = sides.iter().product::<f64>() / air.bulk_modulus();
    let wave = |axis: usize, n: usize| n as f64 * PI / sides[axis];
    // ψ of each opening as factors: along each direction, and of its size along the wall
    let seen: Vec<_> = openings
        .iter()
        .map(|o| {
            let along = [0, 1, 2].map(|axis| {
                let mut list = [0.0; COUNT];
                list.iter_mut().enumerate().for_each(|(n, x)| *x = (wave(axis, n) * o.centre[axis]).cos());
                list
            });
            let radius = (o.area / PI).sqrt();
            let mut size = [[1.0; COUNT]; COUNT];
            for (l, row) in size.iter_mut().enumerate() {
                for (m, entry) in row.iter_mut().enumerate() {
                    *entry = over_opening(wave(0, l).hypot(wave(1, m)) * radius);
                }
            }
            (along, size)
        })
        .collect();
    let mut sum = vec![0.0; t * (t + 1) / 2];
    for l in 0..COUNT {
        for m in 0..COUNT {
            let across = wave(0, l).powi(2) + wave(1, m).powi(2);
            let flat: Vec<f64> = seen.iter().map(|(along, size)| along[0][l] * along[1][m] * size[l][m]).collect();
            for n in 0..COUNT {
                let square = air.c * air.c * (across + wave(2, n).powi(2));
                if square <= above * above || square == 0.0 {
                    continue;
                }
                let norm = [l, m, n].iter().map(|i| if *i == 0 { 1.0 } else { 0.5 }).product::<f64>();
                let scale = 1.0 / (norm * compliance * square);
                for i in 0..t {
                    for j in i + 1..t {
                        sum[packed(t, i, j)] += flat[i] * seen[i].0[2][n] * flat[j] * seen[j].0[2][n] * scale;
                    }
                }
            }
        }
    }
    sum
}

/// Mean of a plane wave over a round opening against its middle, 2·J1(x)/x.
fn over_opening(x: f64) -> f64 {
    if x < 1e-6 { 1.0 } else { 2.0 * libm::j1(x) / x }
}

/// The modes of a rectangular chamber up to a frequency (Hz), the lowest first, at most [`MOST_MODES`].
pub fn modes(air: &Air, sides: [f64; 3], highest: f64, filled_part: f64, place: Place) -> Vec<Mode> {
    let most = sides.map(|side| (2.0 * side * highest / air.c).floor() as u32);
    let mut list = Vec::new();
    for l in 0..=most[0] {
        for m in 0..=most[1] {
            for n in 0..=most[2] {
                let order = [l, m, n];
                let k = [0, 1, 2].map(|i| f64::from(order[i]) * PI / sides[i]);
                let omega = air.c * (k[0] * k[0] + k[1] * k[1] + k[2] * k[2]).sqrt();
                if omega == 0.0 || omega > highest * 2.0 * PI {
                    continue;
                }
                let norm = order.iter().map(|i| if *i == 0 { 1.0 } else { 0.5 }).product();
                let (motion, potential) = shares(order, sides, filled_part, place);
                list.push(Mode { order, omega, norm, motion, potential });
            }
        }
    }
    list.sort_by(|a, b| a.omega.total_cmp(&b.omega).then(a.order.cmp(&b.order)));
    list.truncate(MOST_MODES);
    list
}

/// How a mode's motion meets a fill that takes `part` of the volume, and the share of its potential energy in it: a box in
/// the middle similar to the chamber, what is left around it or around a box that stays free, or the same share of everything.
fn shares(order: [u32; 3], sides: [f64; 3], part: f64, place: Place) -> ([Motion; 3], f64) {
    let part = part.clamp(0.0, 1.0);
    // kinetic energy along a direction goes as the square of the half waves per length
    let squared = [0, 1, 2].map(|i| (f64::from(order[i]) / sides[i]).powi(2));
    let weight = squared.map(|k| k / squared.iter().sum::<f64>());
    let centred = |share: f64| ([0.5 - share.cbrt() / 2.0; 3], [0.5 + share.cbrt() / 2.0; 3]);
    let ((low, high), filled_within) = match place {
        Place::Everywhere => {
            let motion = weight.map(|weight| Motion { weight, filled: part, ..Motion::default() });
            return (motion, part);
        }
        Place::Middle => (centred(part), true),
        Place::Walls => (centred(1.0 - part), false),
        Place::Lined { low, high } => ((low, high), false),
    };
    // share of ∫cos² and ∫sin² of n half waves along direction i between the box's faces
    let squares = |i: usize| -> (f64, f64) {
        let length = high[i] - low[i];
        if order[i] == 0 {
            return (length, 0.0);
        }
        let k = f64::from(order[i]) * PI;
        let swing = ((2.0 * k * high[i]).sin() - (2.0 * k * low[i]).sin()) / (2.0 * k);
        (length + swing, length - swing)
    };
    let parts = [0, 1, 2].map(squares);
    let potential: f64 = parts.iter().map(|p| p.0).product();
    let motion = [0, 1, 2].map(|i| {
        let mixed = parts[(i + 1) % 3].0 * parts[(i + 2) % 3].0;
        let within = parts[i].1;
        if filled_within {
            Motion { weight: weight[i], mixed, in_fill: within, filled: 0.0 }
        } else {
            Motion { weight: weight[i], mixed, in_fill: 1.0 - within, filled: 1.0 - mixed }
        }
    });
    (motion, if filled_within { potential } else { 1.0 - potential })
}

/// The chamber as an element: one terminal an opening; with a leak the last terminal is the leak's, outside.
#[derive(Clone, Debug)]
pub struct Cavity {
    volume: Volume,
    openings: usize,
    /// Per mode: itself, ωn², and ψr·ψs/(Λ·V·κ0) of each pair of openings, packed.
    modes: Vec<(Mode, f64, [f64; PAIRS])>,
    /// Inertance added to each pair's term, packed, kg/m⁴: the static share of the modes not counted, and less that of
    /// the counted ones in each opening's own term.
    still: Vec<f64>,
    fill: Option<FibreModel>,
    rho: f64,
    bulk_modulus: f64,
    loss: f64,
    /// Admittance of the leak, m³/(s·Pa); 0 is airtight and has no terminal.
    leak: f64,
}

/// Q of the modes of an unlined wooden box: walls, joints and the air's own losses (common practice; an estimate).
pub const BARE_Q: f64 = 40.0;

impl Cavity {
    /// A chamber of these inside `sides` (m) with its plain volume (compliance, fill and absorption), the places of at
    /// most four openings, and the modes counted.
    pub fn new(
        air: &Air,
        sides: [f64; 3],
        volume: Volume,
        fill: Option<FibreModel>,
        openings: &[Opening],
        modes: &[Mode],
    ) -> Cavity {
        let t = openings.len().min(MOST_OPENINGS);
        let bulk_modulus = air.bulk_modulus();
        let compliance = sides.iter().product::<f64>() / bulk_modulus;
        let openings = &openings[..t];
        let above = modes.last().map_or(0.0, |m| m.omega * (1.0 + 1e-9));
        let mut still = if t > 1 { tail(air, sides, openings, above) } else { vec![0.0; t] };
        let counted = modes
            .iter()
            .map(|mode| {
                let seen: Vec<f64> = openings.iter().map(|o| mode.seen_from(o, sides)).collect();
                let scale = 1.0 / (mode.norm * compliance);
                let mut products = [0.0; PAIRS];
                for i in 0..t {
                    for j in i..t {
                        products[packed(t, i, j)] = seen[i] * seen[j] * scale;
                    }
                    still[packed(t, i, i)] -= seen[i] * seen[i] * scale / (mode.omega * mode.omega);
                }
                (*mode, mode.omega * mode.omega, products)
            })
            .collect();
        Cavity {
            volume,
            openings: t,
            modes: counted,
            still,
            fill,
            rho: air.rho,
            bulk_modulus,
            loss: 1.0 / BARE_Q,
            leak: 0.0,
        }
    }

    /// The same with another Q of the bare walls than [`BARE_Q`].
    pub fn with_wall_q(self, q: f64) -> Cavity {
        Cavity { loss: 1.0 / q, ..self }
    }

    /// The same with a leak of this resistance (Pa·s/m³) from the chamber's mean pressure to a terminal of its own.
    pub fn with_leak(self, resistance: f64) -> Cavity {
        Cavity { leak: 1.0 / resistance, ..self }
    }

    /// The mean pressure per volume velocity into any opening, the leak beside it, Pa·s/m³.
    #[inline(always)]
    fn mean<P: Phasor>(&self, omega: P::Omega) -> P {
        let mut flow = [P::zero(); 3];
        self.volume.admittance::<P>(omega, &mut flow);
        if self.leak == 0.0 { flow[0].recip() } else { (flow[0] + P::constant(self.leak, 0.0)).recip() }
    }

    /// Pressure at each opening per volume velocity into each, packed, Pa·s/m³.
    pub fn impedance<P: Phasor>(&self, omega: P::Omega, z: &mut [P]) {
        let t = self.openings;
        let plain = self.mean::<P>(omega);
        let count = t * (t + 1) / 2;
        z[..count].fill(plain);
        let jw = P::j_omega(omega, 1.0);
        let minus_square = jw * jw;
        let fill = self.fill.as_ref().map(|fill| {
            let heavy = fill.density::<P>(omega).scale(1.0 / self.rho);
            (heavy, heavy.recip(), fill.bulk_modulus::<P>(omega).recip().scale(self.bulk_modulus))
        });
        for (mode, square, products) in &self.modes {
            // κn·(Ωn² - ω²) in units of κ0
            let bare = jw.scale(mode.omega * self.loss);
            let term = match fill {
                None => jw / (P::constant(*square, 0.0) + minus_square + bare),
                Some((heavy, light, softness)) => {
                    let stiff = mode.lightness(heavy, light);
                    let soft = P::one() + (softness - P::one()).scale(mode.potential);
                    jw / (stiff.scale(*square) + soft * minus_square + bare)
                }
            };
            for (entry, product) in z[..count].iter_mut().zip(products) {
                *entry = *entry + term.scale(*product);
            }
        }
        for (entry, mass) in z[..count].iter_mut().zip(&self.still) {
            *entry = *entry + jw.scale(*mass);
        }
    }
}

impl ElementLaw for Cavity {
    fn terminals(&self) -> usize {
        self.openings + usize::from(self.leak != 0.0)
    }

    fn resonances(&self, highest: f64) -> (Vec<f64>, f64) {
        let list = self.modes.iter().map(|(mode, ..)| mode.omega / (2.0 * PI)).filter(|f| *f < highest).collect();
        (list, 0.0)
    }

    fn weight(&self) -> usize {
        4 + self.modes.len()
    }

    /// The inverse of the impedances, by Gauss and Jordan without pivoting (the matrix is symmetric and its diagonal
    /// holds the chamber's whole stiffness). With Z the mean pressure per flow and G the leak, the leak's terminal takes
    /// -G·Z·(sum of the openings' flows) plus G - G²Z + (GZ)²·(sum of all admittances) of its own pressure.
    fn admittance<P: Phasor>(&self, omega: P::Omega, out: &mut [P]) {
        let t = self.openings;
        let mut z = [P::zero(); PAIRS];
        self.impedance(omega, &mut z);
        let mut a = [[P::zero(); 2 * MOST_OPENINGS]; MOST_OPENINGS];
        for (i, row) in a.iter_mut().enumerate().take(t) {
            for j in 0..t {
                row[j] = z[packed(t, i, j)];
            }
            row[t + i] = P::one();
        }
        for k in 0..t {
            let pivot = a[k][k].recip();
            for entry in &mut a[k][..2 * t] {
                *entry = *entry * pivot;
            }
            let above = a[k];
            for (i, row) in a.iter_mut().enumerate().take(t) {
                if i != k {
                    let factor = row[k];
                    for (entry, upper) in row[..2 * t].iter_mut().zip(&above[..2 * t]) {
                        *entry = *entry - factor * *upper;
                    }
                }
            }
        }
        let n = self.terminals();
        for i in 0..t {
            for j in i..t {
                out[packed(n, i, j)] = a[i][t + j];
            }
        }
        if n > t {
            let mean = self.mean::<P>(omega);
            let (g, part) = (self.leak, mean.scale(self.leak));
            let mut all = P::zero();
            for i in 0..t {
                let mut row = P::zero();
                for entry in &a[i][t..2 * t] {
                    row = row + *entry;
                }
                all = all + row;
                out[packed(n, i, t)] = -(row * part);
            }
            out[packed(n, t, t)] = P::constant(g, 0.0) - part.scale(g) + part * part * all;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use std::f64::consts::TAU;

    /// 0.5 x 0.4 x 0.6 m: 286.000 Hz (0,0,1), 446.746 Hz (1,0,1); a cube piles three modes on one another.
    #[test]
    fn rectangular_modes() {
        let air = Air::given(343.2, 1.2041);
        let list = modes(&air, [0.5, 0.4, 0.6], 500.0, 0.0, Place::Everywhere);
        let of = |order| list.iter().find(|m| m.order == order).unwrap().omega / TAU;
        assert_relative_eq!(of([0, 0, 1]), 286.0, max_relative = 1e-6);
        assert_relative_eq!(of([1, 0, 1]), 446.746, max_relative = 1e-6);
        let cube = modes(&air, [0.4; 3], 500.0, 0.0, Place::Everywhere);
        assert_eq!(cube.iter().take(3).filter(|m| (m.omega / TAU - 429.0).abs() < 1e-6).count(), 3);
    }

    /// Far below the first mode the cavity is its volume, whatever the openings.
    #[test]
    fn low_down_it_is_a_volume() {
        let air = Air::given(343.2, 1.2041);
        let sides = [0.5, 0.4, 0.6];
        let volume = Volume { compliance: air.compliance(0.12), filled: None, absorption: 0.0 };
        let openings =
            [Opening { centre: [0.25, 0.25, 0.0], area: 0.05 }, Opening { centre: [0.2, 0.1, 0.3], area: 0.01 }];
        let list = modes(&air, sides, 1500.0, 0.0, Place::Everywhere);
        let cavity = Cavity::new(&air, sides, volume, None, &openings, &list);
        let mut z = [Complex64::default(); 3];
        cavity.impedance::<Complex64>(TAU * 3.0, &mut z);
        for entry in z {
            assert_relative_eq!(entry.im, -1.0 / (TAU * 3.0 * air.compliance(0.12)), max_relative = 1e-3);
        }
        // and the admittances undo the impedances
        let mut y = [Complex64::default(); 3];
        cavity.admittance::<Complex64>(TAU * 300.0, &mut y);
        cavity.impedance::<Complex64>(TAU * 300.0, &mut z);
        assert!((z[0] * y[0] + z[1] * y[1] - 1.0).norm() < 1e-9);
        assert!((z[0] * y[1] + z[1] * y[2]).norm() < 1e-9);
    }

    /// A lining works where the air moves: little at the walls for the lowest mode, most in the middle of the path;
    /// all shares together are one.
    #[test]
    fn the_middle_of_the_path_damps_best() {
        let sides = [0.5, 0.4, 0.6];
        let in_fill = |order, part, place| {
            let (motion, _) = shares(order, sides, part, place);
            motion.iter().map(|m| m.weight * (m.mixed * m.in_fill + m.filled)).sum::<f64>()
        };
        let walls = in_fill([1, 0, 0], 0.3, Place::Walls);
        let middle = in_fill([1, 0, 0], 0.3, Place::Middle);
        assert!(middle > 0.3 && walls < 0.3, "{middle} {walls}");
        for order in [[1, 0, 0], [1, 2, 0], [2, 1, 3]] {
            let both = in_fill(order, 0.4, Place::Middle) + in_fill(order, 0.6, Place::Walls);
            assert_relative_eq!(both, 1.0, max_relative = 1e-12);
            let potential = |part, place| shares(order, sides, part, place).1;
            assert_relative_eq!(
                potential(0.4, Place::Middle) + potential(0.6, Place::Walls),
                1.0,
                max_relative = 1e-12
            );
        }
    }

    /// The lowest wave across layers of fill and air between rigid walls, exactly: the plane waves of both fluids joined
    /// (chain matrices of an equivalent fluid; Allard & Atalla, *Propagation of Sound in Porous Media*, ch. 11, from memory),
    /// the complex frequency at which no flow is left at the far wall. Layers of 50 to 150 mm at 10 to 20 kg/m³ on one end
    /// and on both: Q within 12 %, the frequency within 3 %.
    #[test]
    fn a_lining_across_the_wave_against_the_layered_fluid() {
        let air = Air::given(343.2, 1.2041);
        for (length, thick, density) in [(0.6, 0.15, 20.0), (0.8, 0.15, 20.0), (0.6, 0.05, 20.0), (0.7, 0.1, 10.0)] {
            let sigma = crate::fill::Material::PolyesterWadding.flow_resistivity(density);
            let fluid = FibreModel::new(crate::fill::FibreLaw::AllardChampoux, sigma, air);
            for both in [false, true] {
                let free = length - if both { 2.0 } else { 1.0 } * thick;
                // of a wave that decays slowly the fluid is that of the real frequency
                let flow_left = |w: Complex64| {
                    let mut m = [Complex64::new(1.0, 0.0), 0.0.into(), 0.0.into(), Complex64::new(1.0, 0.0)];
                    for (d, filled) in
                        [(thick, true), (free, false), (thick, both)].into_iter().take(if both { 3 } else { 2 })
                    {
                        let (rho, k) = if filled {
                            (fluid.density::<Complex64>(w.re), fluid.bulk_modulus::<Complex64>(w.re))
                        } else {
                            (air.rho.into(), air.bulk_modulus().into())
                        };
                        let (phase, z) = (w * (rho / k).sqrt() * d, (rho * k).sqrt());
                        let (cos, sin) = (phase.cos(), Complex64::i() * phase.sin());
                        m = [
                            m[0] * cos + m[1] * sin / z,
                            m[0] * z * sin + m[1] * cos,
                            m[2] * cos + m[3] * sin / z,
                            m[2] * z * sin + m[3] * cos,
                        ];
                    }
                    m[2]
                };
                let mut w = Complex64::new(PI * air.c / length, 0.0) * Complex64::new(1.0, 0.03);
                for _ in 0..60 {
                    let h = w * 1e-6;
                    let step = flow_left(w) * (h * 2.0) / (flow_left(w + h) - flow_left(w - h));
                    w -= step * (0.05 * w.norm() / step.norm()).min(1.0);
                }
                assert!(flow_left(w).norm() < 1e-9);
                let (q, hz) = (w.re / (2.0 * w.im), w.re / TAU);
                let lining = Place::Lined {
                    low: [thick / length, 0.0, 0.0],
                    high: [if both { 1.0 - thick / length } else { 1.0 }, 1.0, 1.0],
                };
                let list = modes(&air, [length, 0.3, 0.3], 800.0, 0.0, lining);
                let mode = list.iter().find(|m| m.order == [1, 0, 0]).unwrap();
                let (ours, omega) = mode.damped(&air, Some(&fluid), 1e12);
                assert!((ours / q - 1.0).abs() < 0.12, "{length} {thick} {density} {both}: Q {ours} against {q}");
                assert!((omega / TAU / hz - 1.0).abs() < 0.03, "{} against {hz}", omega / TAU);
            }
        }
    }

    /// A leak belongs to the mean pressure: what flows through it is G times that, whatever the modes; the element with the
    /// leak is passive and reciprocal, and airtight it is the one without.
    #[test]
    fn the_leak_sees_the_mean_pressure() {
        let air = Air::given(343.2, 1.2041);
        let sides = [0.5, 0.4, 0.6];
        let volume = Volume { compliance: air.compliance(0.12), filled: None, absorption: 400.0 };
        let openings =
            [Opening { centre: [0.1, 0.05, 0.0], area: 0.05 }, Opening { centre: [0.4, 0.3, 0.0], area: 0.01 }];
        let list = modes(&air, sides, 1500.0, 0.0, Place::Everywhere);
        let tight = Cavity::new(&air, sides, volume, None, &openings, &list);
        let leaky = tight.clone().with_leak(9e3);
        assert_eq!((ElementLaw::terminals(&tight), ElementLaw::terminals(&leaky)), (2, 3));
        for f in [4.0, 90.0, 287.0, 430.0] {
            let w = TAU * f;
            let mut y = [Complex64::default(); 6];
            leaky.admittance::<Complex64>(w, &mut y);
            // pressures at the openings for one unit of flow into the first, none into the second, leak outside at 0
            let det = y[0] * y[3] - y[1] * y[1];
            let (p1, p2) = (y[3] / det, -y[1] / det);
            let through_leak = -(y[2] * p1 + y[4] * p2);
            // the mean pressure by itself: the whole flow onto compliance and leak
            let jwc = Complex64::new(0.0, w * air.compliance(0.12));
            let mean = 1.0 / (jwc / (1.0 + jwc * 400.0) + 1.0 / 9e3);
            assert!((through_leak / (mean / 9e3) - 1.0).norm() < 1e-9, "{f} Hz: {through_leak}");
            // with one pressure on all terminals nothing flows through a leak that everything pushes alike at 0 Hz
            assert!(y[5].re >= 0.0);
        }
    }
}

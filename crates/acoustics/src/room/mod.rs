//! What a room, a cabin or a wall outdoors does with a volume velocity. All of it is an estimate of a real place: walls give way,
//! furniture scatters, doors stand ajar.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | L | length, width, height of the room | m |
//! | ψ | cos(lπx/Lx)·cos(mπy/Ly)·cos(nπz/Lz) | 1 |
//! | Λ | mean of ψ² over the room: ½ for each index above 0 | 1 |
//! | ωn | angular frequency of a mode, πc·√((l/Lx)² + (m/Ly)² + (n/Lz)²) | rad/s |
//! | δn | decay of its pressure, 3·ln10/T60 | 1/s |
//! | T60 | time in which the level falls by 60 dB | s |
//!
//! A rectangular room of slightly yielding walls: p/U = jωρc²/V·Σ ψ(r)ψ(s)/(Λ(ωn² - ω² + 2jωδn)) (Kuttruff, *Room Acoustics*,
//! ch. 3, from memory). [`Shoebox::transfer`] sums it to rounding between two places, [`field`] over a whole plane at once, and
//! [`images`] says the same by image sources; [`boundary`] is a source before one to three walls, [`cabin`] a space smaller than the
//! wave, [`partition`] what gets through a wall.

pub mod boundary;
pub mod cabin;
pub mod field;
pub mod images;
mod mirrors;
pub mod partition;

use crate::air::Air;
use crate::network::phasor::{Jet, Phasor};
use num_complex::Complex64;
use std::f64::consts::{LN_10, PI, TAU};
use wide::f64x4;

/// A place in a room: along its length, across its width, above its floor, m.
pub type Place = [f64; 3];

/// Decay of a mode's pressure, 1/s, that a time of reverberation (s) stands for.
pub fn decay(t60: f64) -> f64 {
    3.0 * LN_10 / t60
}

/// Time of reverberation, s, of a volume (m³) with an absorbing area (m²), by Sabine: 24·ln10·V/(c·A).
pub fn sabine(air: &Air, volume: f64, area: f64) -> f64 {
    24.0 * LN_10 * volume / (air.c * area)
}

/// A rectangular room.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Shoebox {
    /// Length, width, height, m.
    pub sides: [f64; 3],
    /// Decay of the modes, 1/s, by which of their indices are above 0: bit 0 the length's, bit 1 the width's, bit 2 the height's.
    pub decays: [f64; 8],
    /// Below it the room's air goes out through its leaks, Hz; without one the (0,0,0) term decays as the others do.
    pub leak: Option<f64>,
    /// Its air.
    pub air: Air,
}

/// A standing wave of a room.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Mode {
    /// Half waves along the length, the width, the height.
    pub order: [u32; 3],
    /// Its frequency, Hz.
    pub frequency: f64,
    /// Its decay, 1/s.
    pub decay: f64,
}

impl Mode {
    /// ψ at a place of a room of these sides (m).
    pub fn shape(&self, at: Place, sides: [f64; 3]) -> f64 {
        (0..3).map(|i| (f64::from(self.order[i]) * PI * at[i] / sides[i]).cos()).product()
    }

    /// Λ.
    pub fn norm(&self) -> f64 {
        self.order.iter().map(|n| if *n == 0 { 1.0 } else { 0.5 }).product()
    }

    /// Time in which it falls by 60 dB, s.
    pub fn t60(&self) -> f64 {
        3.0 * LN_10 / self.decay
    }
}

/// Nearest two places may come for what is told of them, m: nearer, a source is not a point.
pub const NEAREST: f64 = 0.15;
/// e to this is what a term left out would be of the first.
const LEFT_OUT: f64 = 18.0;
/// The same where a hand waits for it.
const LEFT_OUT_QUICK: f64 = 11.0;
/// More pairs of indices than this are not summed plainly there: a screened field is taken off, and given back by its images.
const MOST_PLAIN: f64 = 1200.0;
/// Most pairs then.
const MOST_SCREENED: f64 = 3000.0;

impl Shoebox {
    /// A room whose modes all die away alike.
    pub fn with_time(sides: [f64; 3], t60: f64, air: Air) -> Shoebox {
        Shoebox { sides, decays: [decay(t60); 8], leak: None, air }
    }

    /// A room by how much each wall takes (absorption 0 to 1; both ends of the length, of the width, floor and ceiling) and the area
    /// of what stands open (m², taken evenly). δn = (c/2)·Σ ε(β0 + β1)/L over the axes, ε 1 for index 0, else 2, β = absorption/8:
    /// oblique modes decay as Sabine says, axial ones slower (Kuttruff, from memory).
    pub fn with_walls(sides: [f64; 3], absorption: [[f64; 2]; 3], open: f64, air: Air) -> Shoebox {
        let volume: f64 = sides.iter().product();
        let through = air.c * open / (8.0 * volume);
        let mut decays = [through; 8];
        for (bits, decay) in decays.iter_mut().enumerate() {
            for i in 0..3 {
                let share = if bits & (1 << i) == 0 { 1.0 } else { 2.0 };
                *decay += air.c / 2.0 * share * (absorption[i][0] + absorption[i][1]) / 8.0 / sides[i];
            }
        }
        Shoebox { sides, decays, leak: None, air }
    }

    /// The same with a leak (Hz).
    pub fn leaking(self, leak: Option<f64>) -> Shoebox {
        Shoebox { leak, ..self }
    }

    /// Its air, m³.
    pub fn volume(&self) -> f64 {
        self.sides.iter().product()
    }

    /// Time of reverberation of its oblique modes, s.
    pub fn t60(&self) -> f64 {
        3.0 * LN_10 / self.decays[7]
    }

    /// Above it single modes say nothing, Hz: 2000·√(T60/V) (Schroeder 1954, from memory).
    pub fn schroeder(&self) -> f64 {
        2000.0 * (self.t60() / self.volume()).sqrt()
    }

    /// Corner of the pressure zone, Hz: below it the pressure no longer rises.
    pub fn corner(&self) -> f64 {
        self.leak.unwrap_or(self.decays[0] / PI)
    }

    /// A mode by its half waves.
    pub fn mode(&self, order: [u32; 3]) -> Mode {
        let k: f64 = (0..3).map(|i| (f64::from(order[i]) / self.sides[i]).powi(2)).sum();
        let bits = (0..3).fold(0, |bits, i| bits | usize::from(order[i] > 0) << i);
        Mode { order, frequency: self.air.c / 2.0 * k.sqrt(), decay: self.decays[bits] }
    }

    /// Its standing waves up to a frequency (Hz), the lowest first; the pressure zone is not among them.
    pub fn modes(&self, up_to: f64) -> Vec<Mode> {
        let most = self.sides.map(|side| (2.0 * up_to * side / self.air.c).floor() as u32);
        let mut list = Vec::new();
        for l in 0..=most[0] {
            for m in 0..=most[1] {
                list.extend((0..=most[2]).map(|n| self.mode([l, m, n])).filter(|mode| mode.frequency <= up_to));
            }
        }
        list.retain(|mode| mode.order != [0, 0, 0]);
        list.sort_by(|a, b| a.frequency.total_cmp(&b.frequency));
        list
    }

    /// (ω² - 2jωδ)/c² of the modes of these bits.
    #[inline(always)]
    fn wave_number_sqr<P: Phasor>(&self, omega: P::Omega, decay: f64) -> P {
        let s = P::j_omega(omega, 1.0);
        -(s * s + s.scale(2.0 * decay)).scale(1.0 / (self.air.c * self.air.c))
    }

    /// Pressure at one place per volume velocity at another, Pa·s/m³, at an angular frequency (rad/s, > 0). Two axes are summed, the
    /// third, along which both lie farthest apart, is closed: Σ ψψ/(Λ·L·(k² + g²)) = cosh g(L - x>)·cosh(g·x<)/(g·sinh gL).
    /// Places nearer than [`NEAREST`] are summed as if they were so far apart, which rounds the peak off.
    pub fn transfer(&self, omega: f64, from: Place, to: Place) -> Complex64 {
        self.summed(omega, omega, from, to, LEFT_OUT, None)
    }

    /// The same at many angular frequencies (rad/s, rising) with its derivative by ω, four at a time; what is left out is 1e-5 of the
    /// first term. Where places are near for the room, a screened field does most of it as in [`field`]: within 0.3 dB.
    pub fn transfers(&self, omegas: &[f64], from: Place, to: Place) -> Vec<[Complex64; 2]> {
        let [closed, a, b] = axes(from, to);
        let pairs = |reach: f64| reach * reach * self.sides[a] * self.sides[b] / (4.0 * PI);
        let steepest = LEFT_OUT_QUICK / (from[closed] - to[closed]).abs().max(NEAREST);
        let highest = omegas.last().map_or(0.0, |omega| omega / self.air.c);
        let screen = (pairs(highest.hypot(steepest)) > MOST_PLAIN).then(|| {
            let kappa = self.screen();
            let wave = mirrors::sum(self.sides, from, to, LEFT_OUT_QUICK / kappa, |r| (-kappa * r).exp());
            let reach = steepest.min((MOST_SCREENED / pairs(1.0)).sqrt()).max(1.5 * highest);
            Screen { kappa, wave, reach }
        });
        let mut list = Vec::with_capacity(omegas.len());
        for chunk in omegas.chunks(4) {
            let mut four = [chunk[chunk.len() - 1]; 4];
            four[..chunk.len()].copy_from_slice(chunk);
            let sum: Jet = self.summed(f64x4::from(four), four[3], from, to, LEFT_OUT_QUICK, screen);
            let parts = [sum.v.re, sum.v.im, sum.d.re, sum.d.im].map(|x| x.to_array());
            let at = |i: usize| [Complex64::new(parts[0][i], parts[1][i]), Complex64::new(parts[2][i], parts[3][i])];
            list.extend((0..chunk.len()).map(at));
        }
        list
    }

    /// How fast a screened field falls, 1/m: so that its images die away within a room, or within a few metres of a large one.
    fn screen(&self) -> f64 {
        6.0 / self.sides.iter().copied().fold(f64::INFINITY, f64::min).clamp(1.5, 4.0)
    }

    #[inline(always)]
    fn summed<P: Phasor>(
        &self,
        omega: P::Omega,
        highest: f64,
        from: Place,
        to: Place,
        left_out: f64,
        screen: Option<Screen>,
    ) -> P {
        let [closed, a, b] = axes(from, to);
        let apart = (from[closed] - to[closed]).abs();
        let reach = screen.map_or((highest / self.air.c).hypot(left_out / apart.max(NEAREST)), |s| s.reach);
        let low = from[closed].min(to[closed]);
        let along = Closed { length: self.sides[closed], low, high: low + apart };
        let mut sum = P::zero();
        for l in 0..=(reach * self.sides[a] / PI) as u32 {
            let ka = f64::from(l) * PI / self.sides[a];
            let shape_a = (ka * from[a]).cos() * (ka * to[a]).cos() * if l == 0 { 1.0 } else { 2.0 };
            let most = ((reach * reach - ka * ka).max(0.0).sqrt() * self.sides[b] / PI) as u32;
            for m in 0..=most {
                let kb = f64::from(m) * PI / self.sides[b];
                let shape = shape_a * (kb * from[b]).cos() * (kb * to[b]).cos() * if m == 0 { 1.0 } else { 2.0 };
                let bits = usize::from(l > 0) << a | usize::from(m > 0) << b;
                let across = ka * ka + kb * kb;
                let mut term = self.line::<P>(omega, across, bits, closed, &along);
                if let Some(Screen { kappa, .. }) = screen {
                    let taken: Complex64 = along.sum(Complex64::new((across + kappa * kappa).sqrt(), 0.0));
                    term = term - P::constant(taken.re, 0.0);
                }
                sum = sum + term.scale(shape);
            }
        }
        let across = self.sides[a] * self.sides[b];
        if let Some(Screen { wave, .. }) = screen {
            sum = sum + P::constant(wave * across, 0.0);
        }
        P::j_omega(omega, self.air.rho / across) * sum
    }

    /// One pair of indices summed over the closed axis: its index 0 decays otherwise than the rest of them do.
    #[inline(always)]
    fn line<P: Phasor>(&self, omega: P::Omega, across_sqr: f64, bits: usize, closed: usize, along: &Closed) -> P {
        let decay = self.decays[bits | 1 << closed];
        let across = P::constant(across_sqr, 0.0);
        let rest = across - self.wave_number_sqr(omega, decay);
        let sum = along.sum(rest.sqrt());
        // jωρ·c²/(V·(−ω² + jω·2πf)) is the leaking pressure zone
        let leak = self.leak.filter(|_| bits == 0).map(|leak| PI * leak);
        let own = leak.unwrap_or(self.decays[bits]);
        if own == decay {
            return sum;
        }
        let zero: P = across - self.wave_number_sqr(omega, own);
        sum + (zero.recip() - rest.recip()).scale(1.0 / along.length)
    }
}

/// A screened field that is taken off a sum: how fast it falls (1/m), what it is between the two places (1/m), and how far indices are
/// summed then (1/m).
#[derive(Clone, Copy, Debug)]
struct Screen {
    kappa: f64,
    wave: f64,
    reach: f64,
}

/// The axis along which two places lie farthest apart, and the other two.
fn axes(from: Place, to: Place) -> [usize; 3] {
    let apart = [0, 1, 2].map(|i| (from[i] - to[i]).abs());
    let closed = (0..3).fold(0, |best, i| if apart[i] > apart[best] { i } else { best });
    [closed, (closed + 1) % 3, (closed + 2) % 3]
}

/// Two places on one axis: Σ ψψ/(Λ·L·(k² + g²)) in closed form.
#[derive(Clone, Copy, Debug)]
struct Closed {
    /// Length of the axis, m.
    length: f64,
    /// The place nearer 0, m.
    low: f64,
    /// The other, m.
    high: f64,
}

impl Closed {
    /// The sum for a g whose real part is not below 0, by falling exponentials only: of a = e^(-2g·x<), b = e^(-2g(L - x>)) and
    /// d = e^(-g(x> - x<)) it is d(1 + a)(1 + b)/(2g(1 - d²ab)).
    #[inline(always)]
    fn sum<P: Phasor>(&self, g: P) -> P {
        let d = g.scale(self.low - self.high).exp();
        let a = g.scale(-2.0 * self.low).exp();
        let b = g.scale(-2.0 * (self.length - self.high)).exp();
        let one = P::one();
        d * (one + a) * (one + b) / (g.scale(2.0) * (one - d * d * a * b))
    }
}

/// Level (dB) of a transfer (Pa·s/m³) against that of the same source in half of free space at a distance (m).
pub fn gain_db(air: &Air, omega: f64, transfer: Complex64, distance: f64) -> f64 {
    20.0 * (transfer.norm() * TAU * distance / (omega * air.rho)).log10()
}

//! A chain of links from one terminal to the other: ports, lines, horns.
//!
//! Each link is a 2x2 chain matrix [A B; C D] with (p1, U1) = M·(p2, U2). The whole chain as admittances:
//! y11 = D/B, y12 = -1/B, y22 = A/B (reciprocal, AD - BC = 1).

use super::element::{ElementLaw, branch};
use super::phasor::Phasor;
use crate::air::{Air, GAMMA, PRANDTL};
use crate::fill::FibreModel;

/// One link of a chain.
#[derive(Clone, Debug)]
pub enum Link {
    /// A resistance and a mass in series.
    Series {
        /// Acoustic resistance, Pa·s/m³.
        resistance: f64,
        /// Acoustic mass, kg/m⁴; negative where a bend's air weighs less than its centre line.
        mass: f64,
    },
    /// A uniform duct.
    Duct(Duct),
    /// The radiation resistance of a small opening, in series.
    Radiation(RadiationResistance),
    /// A mouth of any size, in series.
    Mouth(Mouth),
}

impl Link {
    /// The same seen from its other end.
    pub fn turned(self) -> Link {
        match self {
            Link::Duct(duct) => Link::Duct(duct.turned()),
            same => same,
        }
    }
}

/// What a duct is filled with.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Medium {
    /// Air without loss.
    Air,
    /// Air that loses at the walls: coefficients of the propagation and of the impedance, divided by √ω.
    Walls(f64, f64),
    /// The fill of this number in [`Chain::fills`].
    Fill(usize),
}

/// A uniform duct or a piece of a cone as a transmission line.
#[derive(Clone, Debug)]
pub struct Duct {
    /// Length, m.
    pub length: f64,
    /// Area of all parallel ducts together, m²; of a cone the geometric mean of its ends.
    pub area: f64,
    /// Time sound takes through it in free air, s.
    time: f64,
    /// ρc/S, Pa·s/m³.
    impedance: f64,
    /// Radius at its end over that at its beginning: 1 for a uniform one.
    widens: f64,
    medium: Medium,
}

impl Duct {
    /// A duct of `length` (m) and total `area` (m²). `hydraulic_radius` (m; 2·area/perimeter of one duct, the
    /// radius of a round one) switches the viscothermal wall losses on.
    ///
    /// Wide-duct limit of Kirchhoff's theory (Chaigne & Kergomard, *Acoustics of Musical Instruments*, 2016,
    /// ch. 5): with the viscous layer δ = √(2μ/(ρω)), γ = (jω/c)·[1 + (1-j)(δ/r)(1 + (γ_a-1)/√Pr)/2] and
    /// Zc = (ρc/S)·[1 + (1-j)(δ/r)(1 - (γ_a-1)/√Pr)/2]. Good for r > 10 δ, that is from 5 mm at 20 Hz.
    pub fn new(air: &Air, length: f64, area: f64, hydraulic_radius: Option<f64>) -> Duct {
        let medium = hydraulic_radius.map_or(Medium::Air, |r| {
            let layer = (2.0 * air.viscosity / air.rho).sqrt() / r;
            let thermal = (GAMMA - 1.0) / PRANDTL.sqrt();
            Medium::Walls(layer * (1.0 + thermal) / 2.0, layer * (1.0 - thermal) / 2.0)
        });
        Duct { length, area, time: length / air.c, impedance: air.rho * air.c / area, widens: 1.0, medium }
    }

    /// A duct filled with the chain's fill of this number: γ = jω·√(ρ(ω)/K(ω)), Zc = √(ρ(ω)·K(ω))/S.
    pub fn filled(air: &Air, length: f64, area: f64, fill: usize) -> Duct {
        Duct { medium: Medium::Fill(fill), ..Duct::new(air, length, area, None) }
    }

    /// The same as a piece of a cone whose radius grows `widens`-fold along it; its area stays the geometric mean of both ends.
    ///
    /// Spherical waves in one parameter (Webster 1919; Kinsler et al., *Fundamentals of Acoustics*, ch. 14, from memory): with
    /// t the ratio of the radii and σ = sinh(γL)/(γL), A = t·cosh γL - (t - 1)·σ, B = Zc·sinh γL,
    /// C = [sinh γL + ((t - 1)²/t)·(cosh γL - σ)/(γL)]/Zc, D = cosh(γL)/t + (1 - 1/t)·σ, Zc that of the mean area. Wall
    /// losses are those of the mean area.
    pub fn widening(self, widens: f64) -> Duct {
        Duct { widens, ..self }
    }

    /// The same seen from its other end.
    pub fn turned(self) -> Duct {
        Duct { widens: 1.0 / self.widens, ..self }
    }
}

/// Radiation resistance of an opening, from its low-frequency limit, bounded by ρc/S.
///
/// R = (ρc/S)·x/(1 + x), x = (ka)²·`factor`; factor 1/2 for an end in a wall (Rayleigh), 1/4 for a free end
/// (Levine & Schwinger 1948), a = √(S/π) of all openings together, which radiate as one while they lie
/// within a small part of a wavelength. The limit holds for ka < 0.5; the bound keeps it passive above.
#[derive(Clone, Debug)]
pub struct RadiationResistance {
    characteristic: f64,
    coefficient: f64,
}

impl RadiationResistance {
    /// For a total `area` (m²) and the factor above (1).
    pub fn new(air: &Air, area: f64, factor: f64) -> Self {
        RadiationResistance {
            characteristic: air.rho * air.c / area,
            coefficient: factor * area / (std::f64::consts::PI * air.c * air.c),
        }
    }

    #[inline(always)]
    fn impedance<P: Phasor>(&self, omega: P::Omega) -> P {
        let x = P::omega_power(omega, self.coefficient, 2.0);
        (x / (P::one() + x)).scale(self.characteristic)
    }
}

/// The whole radiation impedance of a mouth as a flanged piston ([`crate::radiation`]).
///
/// In a part of space the walls are mirrors: a mouth S in the n-th part of a half space is the n-th part of a piston
/// of area n·S in half space, Z = (ρc/S)·F(2k√(nS/π)); n = 2 beside a floor or wall, 4 in a corner. Free in space it
/// is taken as n = 1/2: resistance exactly, end correction within 2 % of Levine & Schwinger's while ka is small.
#[derive(Clone, Debug)]
pub struct Mouth {
    characteristic: f64,
    /// 2a/c, s.
    time: f64,
}

impl Mouth {
    /// For an `area` (m²) that radiates into a solid angle (sr).
    pub fn new(air: &Air, area: f64, steradians: f64) -> Mouth {
        let n = std::f64::consts::TAU / steradians;
        let radius = (n * area / std::f64::consts::PI).sqrt();
        Mouth { characteristic: air.rho * air.c / area, time: 2.0 * radius / air.c }
    }

    #[inline(always)]
    fn impedance<P: Phasor>(&self, omega: P::Omega) -> P {
        P::piston(omega, self.time).scale(self.characteristic)
    }
}

/// Links in order from the first terminal to the second.
#[derive(Clone, Debug, Default)]
pub struct Chain {
    /// The links.
    pub links: Vec<Link>,
    /// The fills its ducts name by their number.
    pub fills: Vec<FibreModel>,
}

/// Most nepers a filled or lossy link is let lose, so that a long chain cannot overflow; nothing is heard through
/// that anyway.
const MOST_NEPERS: f64 = 300.0;

impl Chain {
    /// The chain matrix [A, B, C, D].
    #[inline(always)]
    pub fn matrix<P: Phasor>(&self, omega: P::Omega) -> [P; 4] {
        // M starts as the unit matrix; impedances in series are summed up and multiplied in once.
        let (mut a, mut b, mut c, mut d) = (P::one(), P::zero(), P::zero(), P::one());
        let mut fresh = true; // no duct yet: A = D = 1, C = 0
        let mut series = P::zero();
        let mut joined = false; // whether anything stands in series since the last duct
        let cap = MOST_NEPERS / self.links.len().max(1) as f64;
        // the fill last met: γ in units of 1/c, and Zc in units of ρc/S with its inverse
        let mut fill = (usize::MAX, P::zero(), P::one(), P::one());
        // √ω and 1/√ω, only where walls lose
        let lossy = self.links.iter().any(|l| matches!(l, Link::Duct(Duct { medium: Medium::Walls(..), .. })));
        let root = if lossy { P::omega_power(omega, 1.0, 0.5) } else { P::one() };
        let inverse_root = if lossy { root.recip() } else { P::one() };
        // equal ducts one after the other share their hyperbolic functions
        let mut last: Option<(f64, Medium, bool, [P; 4])> = None;
        for link in &self.links {
            match link {
                Link::Series { resistance, mass } => {
                    joined = true;
                    series = series + P::j_omega(omega, *mass) + P::constant(*resistance, 0.0);
                }
                Link::Radiation(radiation) => {
                    joined = true;
                    series = series + radiation.impedance::<P>(omega);
                }
                Link::Mouth(mouth) => {
                    joined = true;
                    series = series + mouth.impedance::<P>(omega);
                }
                Link::Duct(duct) => {
                    if let Medium::Fill(k) = duct.medium
                        && k != fill.0
                    {
                        let (gamma, z) = self.fills[k].waves::<P>(omega);
                        fill = (k, gamma, z, z.recip());
                    }
                    let cone = duct.widens != 1.0;
                    let [cosh, sinh, mean, bend] = match last {
                        Some((time, medium, shaped, found))
                            if time == duct.time && medium == duct.medium && shaped == cone =>
                        {
                            found
                        }
                        _ => {
                            let gamma_l = match duct.medium {
                                Medium::Air => P::j_omega(omega, duct.time),
                                Medium::Walls(propagation, _) => {
                                    // jω(1-j)/√ω = (1+j)√ω
                                    let loss = root.scale(propagation * duct.time);
                                    (P::j_omega(omega, duct.time) + loss + loss.times_j()).capped(cap)
                                }
                                Medium::Fill(_) => fill.1.scale(duct.time).capped(cap),
                            };
                            let up = gamma_l.exp();
                            let down = up.recip();
                            let (cosh, sinh) = ((up + down).scale(0.5), (up - down).scale(0.5));
                            // σ and (cosh γL - σ)/(γL), which only cones ask for
                            let per = if cone { gamma_l.recip() } else { P::zero() };
                            let mean = sinh * per;
                            let found = [cosh, sinh, mean, (cosh - mean) * per];
                            last = Some((duct.time, duct.medium, cone, found));
                            found
                        }
                    };
                    // of a cone C has a part of its own, in units of 1/Zc
                    let (t, curved) = (duct.widens, (duct.widens - 1.0).powi(2) / duct.widens);
                    let rear = if cone { sinh + bend.scale(curved) } else { sinh };
                    let (up, down) = match duct.medium {
                        Medium::Air => (sinh.scale(duct.impedance), rear.scale(1.0 / duct.impedance)),
                        Medium::Walls(_, impedance) => {
                            let layer = inverse_root.scale(impedance * duct.impedance);
                            let zc = P::constant(duct.impedance, 0.0) + layer - layer.times_j();
                            (sinh * zc, rear / zc)
                        }
                        Medium::Fill(_) => {
                            ((sinh * fill.2).scale(duct.impedance), (rear * fill.3).scale(1.0 / duct.impedance))
                        }
                    };
                    let (first, second) = if cone {
                        (cosh.scale(t) - mean.scale(t - 1.0), cosh.scale(1.0 / t) + mean.scale(1.0 - 1.0 / t))
                    } else {
                        (cosh, cosh)
                    };
                    if fresh {
                        (a, b, c, d) = (first + series * down, up + series * second, down, second);
                        fresh = false;
                    } else {
                        if joined {
                            (b, d) = (b + a * series, d + c * series);
                        }
                        if duct.medium == Medium::Air {
                            // without loss A and D are real, B and C imaginary
                            let (aa, ba) = (a.times_real(first), b.times_real(second));
                            let (ca, da) = (c.times_real(first), d.times_real(second));
                            (a, b) = (aa + b.times_imaginary(down), ba + a.times_imaginary(up));
                            (c, d) = (ca + d.times_imaginary(down), da + c.times_imaginary(up));
                        } else {
                            (a, b) = (a * first + b * down, a * up + b * second);
                            (c, d) = (c * first + d * down, c * up + d * second);
                        }
                    }
                    if joined {
                        series = P::zero();
                        joined = false;
                    }
                }
            }
        }
        (b, d) = if fresh { (series, d) } else { (b + a * series, d + c * series) };
        [a, b, c, d]
    }
}

impl Chain {
    /// Time sound takes through it in free air, s.
    fn time(&self) -> f64 {
        self.links.iter().map(|link| if let Link::Duct(duct) = link { duct.time } else { 0.0 }).sum()
    }
}

impl ElementLaw for Chain {
    fn radiation_resistance(&self, omega: f64) -> f64 {
        // what stands behind the last duct carries the flow of the open end
        let behind = self.links.iter().rev().take_while(|link| !matches!(link, Link::Duct(_)));
        behind
            .map(|link| match link {
                Link::Radiation(r) => r.impedance::<num_complex::Complex64>(omega).re,
                Link::Mouth(mouth) => mouth.impedance::<num_complex::Complex64>(omega).re,
                _ => 0.0,
            })
            .sum()
    }

    fn resonances(&self, _highest: f64) -> (Vec<f64>, f64) {
        (Vec::new(), self.time())
    }

    fn weight(&self) -> usize {
        2 * self.links.len()
    }

    #[inline(always)]
    fn admittance<P: Phasor>(&self, omega: P::Omega, out: &mut [P]) {
        let [a, b, _, d] = self.matrix::<P>(omega);
        let inverse = b.recip();
        out[0] = d * inverse;
        out[1] = -inverse;
        out[2] = a * inverse;
    }
}

/// A chain closed at its far end, between one node and the outside (its second terminal takes no part in the sound):
/// U2 = 0, so y = C/A.
#[derive(Clone, Debug)]
pub struct Stub(pub Chain);

impl ElementLaw for Stub {
    fn resonances(&self, highest: f64) -> (Vec<f64>, f64) {
        ElementLaw::resonances(&self.0, highest)
    }

    fn weight(&self) -> usize {
        ElementLaw::weight(&self.0)
    }

    fn admittance<P: Phasor>(&self, omega: P::Omega, out: &mut [P]) {
        let [a, _, c, _] = self.0.matrix::<P>(omega);
        branch(c / a, out);
    }
}

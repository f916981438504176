//! A chain of links from one terminal to the other: ports, lines, horns.
//!
//! Each link is a 2x2 chain matrix [A B; C D] with (p1, U1) = M·(p2, U2). The whole chain as admittances:
//! y11 = D/B, y12 = -1/B, y22 = A/B (reciprocal, AD - BC = 1).

use super::element::ElementLaw;
use super::phasor::Phasor;
use crate::air::{Air, GAMMA, PRANDTL};

/// One link of a chain.
#[derive(Clone, Debug)]
pub enum Link {
    /// A resistance and a mass in series.
    Series {
        /// Acoustic resistance, Pa·s/m³.
        resistance: f64,
        /// Acoustic mass, kg/m⁴.
        mass: f64,
    },
    /// A uniform duct.
    Duct(Duct),
    /// The radiation resistance of a small opening, in series.
    Radiation(RadiationResistance),
}

/// A uniform duct as a transmission line.
#[derive(Clone, Debug)]
pub struct Duct {
    /// Length, m.
    pub length: f64,
    /// Area of all parallel ducts together, m².
    pub area: f64,
    /// Speed of sound, m/s.
    c: f64,
    /// ρc/S, Pa·s/m³.
    impedance: f64,
    /// Coefficients of the wall losses divided by √ω: of the propagation and of the impedance.
    wall: Option<(f64, f64)>,
}

impl Duct {
    /// A duct of `length` (m) and total `area` (m²). `hydraulic_radius` (m; 2·area/perimeter of one duct, the
    /// radius of a round one) switches the viscothermal wall losses on.
    ///
    /// Wide-duct limit of Kirchhoff's theory (Chaigne & Kergomard, *Acoustics of Musical Instruments*, 2016,
    /// ch. 5): with the viscous layer δ = √(2μ/(ρω)), γ = (jω/c)·[1 + (1-j)(δ/r)(1 + (γ_a-1)/√Pr)/2] and
    /// Zc = (ρc/S)·[1 + (1-j)(δ/r)(1 - (γ_a-1)/√Pr)/2]. Good for r > 10 δ, that is from 5 mm at 20 Hz.
    pub fn new(air: &Air, length: f64, area: f64, hydraulic_radius: Option<f64>) -> Duct {
        let wall = hydraulic_radius.map(|r| {
            let layer = (2.0 * air.viscosity / air.rho).sqrt() / r;
            let thermal = (GAMMA - 1.0) / PRANDTL.sqrt();
            (layer * (1.0 + thermal) / 2.0, layer * (1.0 - thermal) / 2.0)
        });
        Duct { length, area, c: air.c, impedance: air.rho * air.c / area, wall }
    }

    /// cosh γL, sinh γL and the characteristic impedance (Pa·s/m³).
    #[inline(always)]
    fn waves<P: Phasor>(&self, omega: P::Omega) -> (P, P, P) {
        let time = self.length / self.c;
        let (gamma_l, zc) = match self.wall {
            None => (P::j_omega(omega, time), P::constant(self.impedance, 0.0)),
            Some((propagation, impedance)) => {
                // jω(1-j)/√ω = (1+j)√ω
                let root = P::omega_power(omega, 1.0, 0.5);
                let loss = root.scale(propagation * time);
                let g = P::j_omega(omega, time) + loss + loss.times_j();
                // 1/√ω by the reciprocal of the root just taken
                let layer = root.recip().scale(impedance * self.impedance);
                (g, P::constant(self.impedance, 0.0) + layer - layer.times_j())
            }
        };
        let up = gamma_l.exp();
        let down = up.recip();
        ((up + down).scale(0.5), (up - down).scale(0.5), zc)
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

/// Links in order from the first terminal to the second.
#[derive(Clone, Debug, Default)]
pub struct Chain {
    /// The links.
    pub links: Vec<Link>,
}

impl ElementLaw for Chain {
    #[inline(always)]
    fn admittance<P: Phasor>(&self, omega: P::Omega, out: &mut [P]) {
        // M starts as the unit matrix; impedances in series are summed up and multiplied in once.
        let (mut a, mut b, mut c, mut d) = (P::one(), P::zero(), P::zero(), P::one());
        let mut fresh = true; // no duct yet: A = D = 1, C = 0
        let mut series = P::zero();
        for link in &self.links {
            match link {
                Link::Series { resistance, mass } => {
                    series = series + P::j_omega(omega, *mass) + P::constant(*resistance, 0.0);
                }
                Link::Radiation(radiation) => series = series + radiation.impedance::<P>(omega),
                Link::Duct(duct) => {
                    let (cosh, sinh, zc) = duct.waves::<P>(omega);
                    let (up, down) = (sinh * zc, sinh / zc);
                    if fresh {
                        (a, b, c, d) = (cosh + series * down, up + series * cosh, down, cosh);
                        fresh = false;
                    } else {
                        (b, d) = (b + a * series, d + c * series);
                        (a, b) = (a * cosh + b * down, a * up + b * cosh);
                        (c, d) = (c * cosh + d * down, c * up + d * cosh);
                    }
                    series = P::zero();
                }
            }
        }
        (b, d) = if fresh { (series, d) } else { (b + a * series, d + c * series) };
        let inverse = b.recip();
        out[0] = d * inverse;
        out[1] = -inverse;
        out[2] = a * inverse;
    }
}

//! The number a frequency-dependent quantity is written in.
//!
//! An element states its law once, generically over [`Phasor`]. The plain path runs it on [`Complex64`], one
//! frequency at a time; the fast path on [`Jet`], four frequencies at a time with the exact derivative by ω
//! carried along (forward-mode differentiation), which yields the group delay without finite differences.

use num_complex::Complex64;
use std::ops::{Add, Div, Mul, Neg, Sub};
use wide::f64x4;

/// A complex quantity over frequency; closed under the arithmetic that element laws need.
pub trait Phasor:
    Copy + Add<Output = Self> + Sub<Output = Self> + Mul<Output = Self> + Div<Output = Self> + Neg<Output = Self>
{
    /// The angular frequency or frequencies ω (rad/s) a value belongs to.
    type Omega: Copy;
    /// The value alone, where a derivative is carried along.
    type Value: Copy + std::fmt::Debug + Add<Output = Self::Value> + Mul<Output = Self::Value>;
    /// The value alone.
    fn value(self) -> Self::Value;
    /// A constant re + j·im.
    fn constant(re: f64, im: f64) -> Self;
    /// jω·k.
    fn j_omega(omega: Self::Omega, k: f64) -> Self;
    /// The real quantity k·ω^p.
    fn omega_power(omega: Self::Omega, k: f64, p: f64) -> Self;
    /// k·(jω)^p: a lossy inductance for 0 < p < 1.
    fn j_omega_power(omega: Self::Omega, k: f64, p: f64) -> Self {
        let (sin, cos) = (std::f64::consts::FRAC_PI_2 * p).sin_cos();
        Self::omega_power(omega, k, p) * Self::constant(cos, sin)
    }
    /// k times this.
    fn scale(self, k: f64) -> Self;
    /// j times this.
    fn times_j(self) -> Self;
    /// This times a quantity without an imaginary part, its derivative's included.
    #[inline(always)]
    fn times_real(self, real: Self) -> Self {
        self * real
    }
    /// This times a quantity without a real part, its derivative's included.
    #[inline(always)]
    fn times_imaginary(self, imaginary: Self) -> Self {
        self * imaginary
    }
    /// 1 over this.
    fn recip(self) -> Self;
    /// e to this.
    fn exp(self) -> Self;
    /// The root with positive real part.
    fn sqrt(self) -> Self;
    /// The same with its real part held at most at `most`.
    fn capped(self, most: f64) -> Self;
    /// R1 + j·X1 of a flanged piston at x = ω·k ([`crate::radiation::piston`]).
    fn piston(omega: Self::Omega, k: f64) -> Self;
    /// c0 + c1·s + c2·s² at s = jω/ω0.
    #[inline(always)]
    fn quadratic(omega: Self::Omega, omega_0: f64, [c0, c1, c2]: [f64; 3]) -> Self {
        let s = Self::j_omega(omega, 1.0 / omega_0);
        Self::constant(c0, 0.0) + s.scale(c1) + (s * s).scale(c2)
    }
    /// c0 + c1·s + … + c4·s⁴ at s = jω/ω0.
    #[inline(always)]
    fn quartic(omega: Self::Omega, omega_0: f64, c: &[f64; 5]) -> Self {
        let s = Self::j_omega(omega, 1.0 / omega_0);
        c.iter().rev().fold(Self::zero(), |sum, c| sum * s + Self::constant(*c, 0.0))
    }
    /// r + jω·l + e/(jω): resistance, inductance (or mass) and elastance (or stiffness) in series; 0 for what is not there.
    #[inline(always)]
    fn in_series(omega: Self::Omega, r: f64, l: f64, e: f64) -> Self {
        let without = Self::constant(r, 0.0) + Self::j_omega(omega, l);
        if e == 0.0 { without } else { without + Self::j_omega(omega, 1.0).recip().scale(e) }
    }
    /// Zero.
    fn zero() -> Self {
        Self::constant(0.0, 0.0)
    }
    /// One.
    fn one() -> Self {
        Self::constant(1.0, 0.0)
    }
}

impl Phasor for Complex64 {
    type Omega = f64;
    type Value = Complex64;
    fn value(self) -> Complex64 {
        self
    }
    fn constant(re: f64, im: f64) -> Self {
        Complex64::new(re, im)
    }
    fn j_omega(omega: f64, k: f64) -> Self {
        Complex64::new(0.0, omega * k)
    }
    fn omega_power(omega: f64, k: f64, p: f64) -> Self {
        Complex64::new(k * omega.powf(p), 0.0)
    }
    fn scale(self, k: f64) -> Self {
        self * k
    }
    fn times_j(self) -> Self {
        Complex64::new(-self.im, self.re)
    }
    fn recip(self) -> Self {
        self.inv()
    }
    fn exp(self) -> Self {
        Complex64::exp(self)
    }
    fn sqrt(self) -> Self {
        Complex64::sqrt(self)
    }
    fn capped(self, most: f64) -> Self {
        Complex64::new(self.re.min(most), self.im)
    }
    fn piston(omega: f64, k: f64) -> Self {
        let [re, im] = crate::radiation::piston(omega * k).0;
        Complex64::new(re, im)
    }
}

/// A quantity at a complex frequency, for poles: laws are continued from the real axis, s = jω.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Continued(pub Complex64);

macro_rules! continued {
    ($trait:ident, $f:ident) => {
        impl $trait for Continued {
            type Output = Self;
            fn $f(self, o: Self) -> Self {
                Continued(self.0.$f(o.0))
            }
        }
    };
}
continued!(Add, add);
continued!(Sub, sub);
continued!(Mul, mul);
continued!(Div, div);
impl Neg for Continued {
    type Output = Self;
    fn neg(self) -> Self {
        Continued(-self.0)
    }
}

impl Phasor for Continued {
    /// ω = -js, rad/s.
    type Omega = Complex64;
    type Value = Self;
    fn value(self) -> Self {
        self
    }
    fn constant(re: f64, im: f64) -> Self {
        Continued(Complex64::new(re, im))
    }
    fn j_omega(omega: Complex64, k: f64) -> Self {
        Continued(Complex64::i() * omega * k)
    }
    fn omega_power(omega: Complex64, k: f64, p: f64) -> Self {
        Continued(omega.powf(p) * k)
    }
    fn scale(self, k: f64) -> Self {
        Continued(self.0 * k)
    }
    fn times_j(self) -> Self {
        Continued(Complex64::i() * self.0)
    }
    fn recip(self) -> Self {
        Continued(self.0.inv())
    }
    fn exp(self) -> Self {
        Continued(self.0.exp())
    }
    fn sqrt(self) -> Self {
        Continued(self.0.sqrt())
    }
    fn capped(self, most: f64) -> Self {
        Continued(Complex64::new(self.0.re.min(most), self.0.im))
    }
    /// The first terms of the power series, for mouths that are small against the wavelength.
    fn piston(omega: Complex64, k: f64) -> Self {
        let x = omega * k;
        Continued(x * x / 8.0 + Complex64::i() * x * 4.0 / (3.0 * std::f64::consts::PI))
    }
}

/// Four complex numbers, one a frequency.
#[derive(Clone, Copy, Debug)]
pub struct Complex4 {
    /// Real parts.
    pub re: f64x4,
    /// Imaginary parts.
    pub im: f64x4,
}

impl Complex4 {
    /// The same number at all four frequencies.
    #[inline(always)]
    pub fn splat(re: f64, im: f64) -> Self {
        Complex4 { re: f64x4::splat(re), im: f64x4::splat(im) }
    }
    /// Squared magnitude.
    #[inline(always)]
    pub fn norm_sqr(self) -> f64x4 {
        self.re * self.re + self.im * self.im
    }
    /// 1/z.
    #[inline(always)]
    pub fn recip(self) -> Self {
        let s = f64x4::splat(1.0) / self.norm_sqr();
        Complex4 { re: self.re * s, im: -self.im * s }
    }
    /// k·z with a real k for each frequency.
    #[inline(always)]
    pub fn scale(self, k: f64x4) -> Self {
        Complex4 { re: self.re * k, im: self.im * k }
    }
    /// z·a + b.
    #[inline(always)]
    fn times_plus(self, a: Self, b: Self) -> Self {
        let minus = -self.im;
        Complex4 {
            re: self.re.mul_add(a.re, minus.mul_add(a.im, b.re)),
            im: self.re.mul_add(a.im, self.im.mul_add(a.re, b.im)),
        }
    }
    /// j·z.
    #[inline(always)]
    pub fn times_j(self) -> Self {
        Complex4 { re: -self.im, im: self.re }
    }
}

macro_rules! lanewise {
    ($trait:ident, $f:ident) => {
        impl $trait for Complex4 {
            type Output = Self;
            #[inline(always)]
            fn $f(self, o: Self) -> Self {
                Complex4 { re: self.re.$f(o.re), im: self.im.$f(o.im) }
            }
        }
    };
}
lanewise!(Add, add);
lanewise!(Sub, sub);
impl Mul for Complex4 {
    type Output = Self;
    #[inline(always)]
    fn mul(self, o: Self) -> Self {
        Complex4 { re: self.re.mul_add(o.re, -(self.im * o.im)), im: self.re.mul_add(o.im, self.im * o.re) }
    }
}
impl Neg for Complex4 {
    type Output = Self;
    #[inline(always)]
    fn neg(self) -> Self {
        Complex4 { re: -self.re, im: -self.im }
    }
}

/// Four complex numbers with their derivatives by ω.
#[derive(Clone, Copy, Debug)]
pub struct Jet {
    /// Value.
    pub v: Complex4,
    /// d/dω.
    pub d: Complex4,
}

impl Add for Jet {
    type Output = Self;
    #[inline(always)]
    fn add(self, o: Self) -> Self {
        Jet { v: self.v + o.v, d: self.d + o.d }
    }
}
impl Sub for Jet {
    type Output = Self;
    #[inline(always)]
    fn sub(self, o: Self) -> Self {
        Jet { v: self.v - o.v, d: self.d - o.d }
    }
}
impl Mul for Jet {
    type Output = Self;
    #[inline(always)]
    fn mul(self, o: Self) -> Self {
        Jet { v: self.v * o.v, d: self.d.times_plus(o.v, self.v * o.d) }
    }
}
impl Div for Jet {
    type Output = Self;
    #[inline(always)]
    fn div(self, o: Self) -> Self {
        let r = o.v.recip();
        let v = self.v * r;
        Jet { v, d: (self.d - v * o.d) * r }
    }
}
impl Neg for Jet {
    type Output = Self;
    #[inline(always)]
    fn neg(self) -> Self {
        Jet { v: -self.v, d: -self.d }
    }
}

impl Phasor for Jet {
    type Omega = f64x4;
    type Value = Complex4;
    #[inline(always)]
    fn value(self) -> Complex4 {
        self.v
    }
    #[inline(always)]
    fn constant(re: f64, im: f64) -> Self {
        Jet { v: Complex4::splat(re, im), d: Complex4::splat(0.0, 0.0) }
    }
    #[inline(always)]
    fn j_omega(omega: f64x4, k: f64) -> Self {
        let zero = f64x4::splat(0.0);
        Jet { v: Complex4 { re: zero, im: omega * k }, d: Complex4::splat(0.0, k) }
    }
    #[inline(always)]
    fn omega_power(omega: f64x4, k: f64, p: f64) -> Self {
        let zero = f64x4::splat(0.0);
        // The root (wall losses) and the square (radiation) are worth their own short ways.
        let v = k * if p == 0.5 {
            omega.sqrt()
        } else if p == 2.0 {
            omega * omega
        } else {
            (omega.ln() * p).exp()
        };
        Jet { v: Complex4 { re: v, im: zero }, d: Complex4 { re: v * p / omega, im: zero } }
    }
    #[inline(always)]
    fn scale(self, k: f64) -> Self {
        let k = f64x4::splat(k);
        Jet { v: self.v.scale(k), d: self.d.scale(k) }
    }
    #[inline(always)]
    fn times_j(self) -> Self {
        Jet { v: self.v.times_j(), d: self.d.times_j() }
    }
    #[inline(always)]
    fn times_real(self, real: Self) -> Self {
        Jet { v: self.v.scale(real.v.re), d: self.v.scale(real.d.re) + self.d.scale(real.v.re) }
    }
    #[inline(always)]
    fn times_imaginary(self, imaginary: Self) -> Self {
        let turned = self.v.times_j();
        Jet {
            v: turned.scale(imaginary.v.im),
            d: turned.scale(imaginary.d.im) + self.d.times_j().scale(imaginary.v.im),
        }
    }
    #[inline(always)]
    fn recip(self) -> Self {
        let v = self.v.recip();
        Jet { v, d: -(v * v * self.d) }
    }
    #[inline(always)]
    fn exp(self) -> Self {
        let (sin, cos) = self.v.im.sin_cos();
        let v = Complex4 { re: cos, im: sin }.scale(self.v.re.exp());
        Jet { v, d: v * self.d }
    }
    #[inline(always)]
    fn sqrt(self) -> Self {
        let half = f64x4::splat(0.5);
        let re = ((self.v.norm_sqr().sqrt() + self.v.re) * half).sqrt();
        let v = Complex4 { re, im: self.v.im * half / re };
        Jet { v, d: (v.recip() * self.d).scale(half) }
    }
    #[inline(always)]
    fn capped(self, most: f64) -> Self {
        let most = f64x4::splat(most);
        let over = self.v.re.simd_gt(most);
        let zero = f64x4::splat(0.0);
        Jet {
            v: Complex4 { re: over.select(most, self.v.re), im: self.v.im },
            d: Complex4 { re: over.select(zero, self.d.re), im: self.d.im },
        }
    }
    #[inline(always)]
    fn quadratic(omega: f64x4, omega_0: f64, [c0, c1, c2]: [f64; 3]) -> Self {
        let k = 1.0 / omega_0;
        let x = omega * k;
        Jet {
            v: Complex4 { re: f64x4::splat(c0) - x * x * c2, im: x * c1 },
            d: Complex4 { re: x * (-2.0 * c2 * k), im: f64x4::splat(c1 * k) },
        }
    }
    /// Real and imaginary part each a polynomial in x², x = ω/ω0.
    #[inline(always)]
    fn quartic(omega: f64x4, omega_0: f64, &[c0, c1, c2, c3, c4]: &[f64; 5]) -> Self {
        let k = 1.0 / omega_0;
        let x = omega * k;
        let square = x * x;
        let line = |slope: f64, constant: f64| square.mul_add(f64x4::splat(slope), f64x4::splat(constant));
        Jet {
            v: Complex4 { re: square.mul_add(line(c4, -c2), f64x4::splat(c0)), im: x * line(-c3, c1) },
            d: Complex4 { re: x * line(4.0 * k * c4, -2.0 * k * c2), im: line(-3.0 * k * c3, k * c1) },
        }
    }
    #[inline(always)]
    fn in_series(omega: f64x4, r: f64, l: f64, e: f64) -> Self {
        let (r, zero) = (f64x4::splat(r), f64x4::splat(0.0));
        if e == 0.0 {
            return Jet { v: Complex4 { re: r, im: omega * l }, d: Complex4::splat(0.0, l) };
        }
        let under = f64x4::splat(e) / omega;
        Jet {
            v: Complex4 { re: r, im: omega.mul_sub(f64x4::splat(l), under) },
            d: Complex4 { re: zero, im: f64x4::splat(l) + under / omega },
        }
    }
    fn piston(omega: f64x4, k: f64) -> Self {
        let found = (omega * k).to_array().map(crate::radiation::piston);
        let part = |value: fn(&([f64; 2], [f64; 2])) -> f64| f64x4::from([0, 1, 2, 3].map(|i| value(&found[i])));
        Jet {
            v: Complex4 { re: part(|f| f.0[0]), im: part(|f| f.0[1]) },
            d: Complex4 { re: part(|f| f.1[0]) * k, im: part(|f| f.1[1]) * k },
        }
    }
}

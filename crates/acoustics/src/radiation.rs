//! The flanged piston: what a mouth meets outside.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | x | 2ka, k the wave number, a the piston's radius | 1 |
//! | R1 | 1 - 2·J1(x)/x | 1 |
//! | X1 | 2·H1(x)/x, H1 the Struve function | 1 |
//!
//! Z = (ρc/S)·(R1 + j·X1) (Rayleigh; Kinsler et al., *Fundamentals of Acoustics*, ch. 7).

use std::f64::consts::FRAC_2_PI;

/// Where the power series gives way to the asymptotic expansion of the Struve functions. Both are then good to 1e-8:
/// the series loses e^x·ε, the expansion is cut at its smallest term, near e^-x.
const SERIES_BELOW: f64 = 20.0;

/// R1, X1 and their derivatives by x, for x >= 0.
pub fn piston(x: f64) -> ([f64; 2], [f64; 2]) {
    if x < SERIES_BELOW { series(x) } else { asymptotic(x) }
}

/// R1 = Σ (-1)^(m+1)·(x/2)^(2m)/(m!(m+1)!) from m = 1, X1 = Σ (-1)^m·(x/2)^(2m+1)/(Γ(m+3/2)Γ(m+5/2)) from m = 0
/// (Abramowitz & Stegun 9.1.10, 12.1.3).
fn series(x: f64) -> ([f64; 2], [f64; 2]) {
    let half = x / 2.0;
    let square = half * half;
    let mut even = square / 2.0;
    // 1/(Γ(3/2)Γ(5/2)) = 8/(3π)
    let mut odd = half * 8.0 / (3.0 * std::f64::consts::PI);
    let (mut value, mut slope) = ([0.0; 2], [0.0; 2]);
    let per_x = if x > 0.0 { 1.0 / x } else { 0.0 };
    for m in 0..80 {
        let n = f64::from(m);
        value[0] += even;
        value[1] += odd;
        slope[0] += even * (2.0 * n + 2.0) * per_x;
        slope[1] += odd * (2.0 * n + 1.0) * per_x;
        if even.abs() < 1e-18 && odd.abs() < 1e-18 {
            break;
        }
        even *= -square / ((n + 2.0) * (n + 3.0));
        odd *= -square / ((n + 1.5) * (n + 2.5));
    }
    if x == 0.0 {
        slope[1] = 4.0 / (3.0 * std::f64::consts::PI);
    }
    (value, slope)
}

/// H1 = Y1 + (2/π)(1 + x^-2 - 3x^-4 + 45x^-6 - ...), H0 = Y0 + (2/π)(x^-1 - x^-3 + 9x^-5 - ...), cut at the smallest
/// term (Abramowitz & Stegun 12.1.30, 12.1.31); d/dx(J1/x) = J0/x - 2J1/x², and so for H.
fn asymptotic(x: f64) -> ([f64; 2], [f64; 2]) {
    let (j0, j1, y0, y1) = (libm::j0(x), libm::j1(x), libm::y0(x), libm::y1(x));
    let inverse = 1.0 / (x * x);
    // Σ (-1)^k·((2k-1)!!)²·x^-2k for H0, Σ (-1)^(k+1)·(2k-1)!!·(2k-3)!!·x^-2k for H1
    let (mut zero, mut one) = (0.0, 1.0);
    let (mut term0, mut term1) = (1.0, inverse);
    for k in 0..40 {
        let n = f64::from(k);
        zero += term0;
        one += term1;
        let next0 = -term0 * (2.0 * n + 1.0).powi(2) * inverse;
        let next1 = -term1 * (2.0 * n + 3.0) * (2.0 * n + 1.0) * inverse;
        if next0.abs() >= term0.abs() || next1.abs() >= term1.abs() {
            break;
        }
        (term0, term1) = (next0, next1);
    }
    let h0 = y0 + FRAC_2_PI * zero / x;
    let h1 = y1 + FRAC_2_PI * one;
    ([1.0 - 2.0 * j1 / x, 2.0 * h1 / x], [-2.0 * (j0 / x - 2.0 * j1 * inverse), 2.0 * (h0 / x - 2.0 * h1 * inverse)])
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// scipy's Bessel and Struve functions (testdata/radiation/scipy: version and script there); and Rayleigh's
    /// reactance by quadrature, computed outside this project to seven places.
    #[test]
    fn piston_against_scipy() {
        let text = include_str!("../../../testdata/radiation/scipy/piston.json");
        let data: serde_json::Value = serde_json::from_str(text).unwrap();
        let cases = data["cases"].as_array().unwrap();
        assert_eq!(cases.len(), 13);
        for case in cases {
            let of = |name: &str| case[name].as_f64().unwrap();
            let found = piston(of("x")).0;
            assert_relative_eq!(found[0], of("r1"), epsilon = 1e-8);
            assert_relative_eq!(found[1], of("x1"), epsilon = 1e-8);
        }
        for (x, reactance) in [(0.3, 0.126_562_0), (2.0, 0.646_763_8), (6.0, 0.159_391_8)] {
            assert_relative_eq!(piston(x).0[1], reactance, epsilon = 1.1e-7);
        }
    }

    /// Series and expansion agree where they meet, and the slopes are slopes.
    #[test]
    fn one_curve() {
        let (a, b) = (series(SERIES_BELOW), asymptotic(SERIES_BELOW));
        for k in 0..2 {
            assert_relative_eq!(a.0[k], b.0[k], epsilon = 2e-8);
            assert_relative_eq!(a.1[k], b.1[k], epsilon = 2e-8);
        }
        for x in [0.01, 0.7, 5.0, 13.0, 26.0, 90.0] {
            let h = 1e-4 * f64::max(x, 0.1);
            for k in 0..2 {
                let slope = (piston(x + h).0[k] - piston(x - h).0[k]) / (2.0 * h);
                assert_relative_eq!(piston(x).1[k], slope, epsilon = 1e-7);
            }
        }
    }
}

//! Alignments: which box makes a woofer's response a wanted polynomial, found by solving for its coefficients.
//!
//! Vented box with leak loss, frequency in units of √(fs·fb) (Small, JAES 1973): the response is
//! s⁴/(s⁴ + a1·s³ + a2·s² + a3·s + 1) with
//! a1 = 1/(Qts·√h) + √h/QL, a2 = (α + 1 + h²)/h + 1/(QL·Qts), a3 = √h/Qts + 1/(QL·√h),
//! α = Vas/Vb, h = fb/fs.

/// A one-parameter road through the flattest alignments.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Kind {
    /// Third-order quasi-Butterworth: woofers with a lower Qts than the Butterworth box asks for.
    QuasiButterworth,
    /// Fourth-order Butterworth.
    Butterworth,
    /// Fourth-order Chebyshev (equal ripple): higher Qts.
    Chebyshev,
}

/// A vented alignment.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Vented {
    /// Which polynomial.
    pub kind: Kind,
    /// Vas/Vb.
    pub alpha: f64,
    /// fb/fs.
    pub h: f64,
    /// f3/fs, against the level far above resonance.
    pub f3: f64,
    /// Height of the ripple, dB.
    pub ripple_db: f64,
}

/// √(4 + 2√2), the outer coefficients of the fourth-order Butterworth polynomial.
const BUTTERWORTH_OUTER: f64 = 2.613_125_929_752_753;

/// Coefficients [a1, a2, a3] along the road: Chebyshev for t < 1 (t the ratio by which the real parts of the
/// Butterworth poles shrink), Butterworth at 1, quasi-Butterworth above (a1 = t times Butterworth's; the squared
/// response is ω⁸/(ω⁸ + A·ω² + 1): a2 = a1²/2, a3 = (a2² + 2)/(2·a1)).
pub fn flattest_coefficients(t: f64) -> [f64; 3] {
    if t >= 1.0 {
        let a1 = BUTTERWORTH_OUTER * t;
        let a2 = a1 * a1 / 2.0;
        return [a1, a2, (a2 * a2 + 2.0) / (2.0 * a1)];
    }
    let quadratic = |angle: f64| {
        let (sigma, omega) = (t * angle.sin(), angle.cos());
        (2.0 * sigma, sigma * sigma + omega * omega)
    };
    let (p, q) = quadratic(std::f64::consts::PI / 8.0);
    let (r, s) = quadratic(3.0 * std::f64::consts::PI / 8.0);
    // low-pass s⁴ + b1 s³ + b2 s² + b3 s + b4, reversed for the high-pass and scaled to a last coefficient of 1
    let (b1, b2, b3, b4) = (p + r, q + s + p * r, p * s + q * r, q * s);
    let w = b4.powf(-0.25);
    [b3 / b4 / w, b2 / b4 / (w * w), b1 / b4 / w.powi(3)]
}

/// √h and 1/Qts of a polynomial at a leak loss `g` = 1/QL: the root near √(a3/a1) of
/// g·x⁴ - a1·x³ + a3·x - g = 0.
fn tuning_and_damping(a: [f64; 3], g: f64) -> (f64, f64) {
    let mut x = (a[2] / a[0]).sqrt();
    for _ in 0..50 {
        let value = g * x.powi(4) - a[0] * x.powi(3) + a[2] * x - g;
        let slope = 4.0 * g * x.powi(3) - 3.0 * a[0] * x * x + a[2];
        let step = value / slope;
        x -= step;
        if step.abs() < 1e-15 {
            break;
        }
    }
    (x, a[0] * x - g * x * x)
}

/// The flattest vented alignment for a woofer of this `qts` (with the source's resistance in it) at leak loss
/// `ql` (infinite for none). `None` where no box of positive volume does it.
///
/// Range: Qts from about 0.1 to 2; above, the ripple passes any use.
pub fn flattest_vented(qts: f64, ql: f64) -> Option<Vented> {
    let g = 1.0 / ql;
    let wanted = 1.0 / qts;
    let damping = |t: f64| tuning_and_damping(flattest_coefficients(t), g).1;
    let (mut low, mut high) = (0.01f64, 40.0f64);
    if !(damping(low) < wanted && wanted < damping(high)) {
        return None;
    }
    for _ in 0..200 {
        let middle = (low * high).sqrt();
        if damping(middle) < wanted {
            low = middle;
        } else {
            high = middle;
        }
    }
    let t = (low * high).sqrt();
    let a = flattest_coefficients(t);
    let (x, q) = tuning_and_damping(a, g);
    let h = x * x;
    let alpha = h * (a[1] - g * q) - 1.0 - h * h;
    if alpha <= 0.0 || !alpha.is_finite() || t < 0.15 {
        // below a sixth of the Butterworth damping the ripple passes 5 dB: no flat box
        return None;
    }
    let kind = match t {
        t if (t - 1.0).abs() < 1e-9 => Kind::Butterworth,
        t if t > 1.0 => Kind::QuasiButterworth,
        _ => Kind::Chebyshev,
    };
    let ripple_db = if t < 1.0 {
        let epsilon = 1.0 / (4.0 * t.atanh()).sinh();
        10.0 * (1.0 + epsilon * epsilon).log10()
    } else {
        0.0
    };
    Some(Vented { kind, alpha, h, f3: half_power(a) * x, ripple_db })
}

/// The highest frequency at which a fourth-order high-pass with these coefficients is at half power.
fn half_power(a: [f64; 3]) -> f64 {
    let excess = |w: f64| {
        let (re, im) = (w.powi(4) - a[1] * w * w + 1.0, a[2] * w - a[0] * w.powi(3));
        2.0 * w.powi(8) - re * re - im * im
    };
    let mut high = 50.0;
    while excess(high * 0.98) > 0.0 && high > 1e-3 {
        high *= 0.98;
    }
    let mut low = high * 0.98;
    for _ in 0..100 {
        let middle = 0.5 * (low + high);
        if excess(middle) > 0.0 {
            high = middle;
        } else {
            low = middle;
        }
    }
    high
}

/// Net volume over Vas (1/α) of a sealed box for a wanted Qtc: α = (Qtc/Qts)² - 1 (Small, JAES 1972).
/// `None` when the woofer's own Qts is not below the wanted Qtc.
pub fn sealed_volume_ratio(qts: f64, qtc: f64) -> Option<f64> {
    let alpha = (qtc / qts).powi(2) - 1.0;
    (alpha > 1e-6).then(|| 1.0 / alpha)
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// Thiele 1961 (lossless) and the fourth-order polynomial itself: 1/Qts + 1/QL = √(4+2√2),
    /// α = √2 - 1/(QL·Qts), h = 1, f3 = fs.
    #[test]
    fn butterworth_is_exact_with_and_without_leak() {
        for ql in [f64::INFINITY, 7.0, 20.0] {
            let qts = 1.0 / (BUTTERWORTH_OUTER - 1.0 / ql);
            let found = flattest_vented(qts, ql).unwrap();
            assert_relative_eq!(found.alpha, 2f64.sqrt() - 1.0 / (ql * qts), epsilon = 1e-6);
            assert_relative_eq!(found.h, 1.0, epsilon = 1e-6);
            assert_relative_eq!(found.f3, 1.0, epsilon = 1e-6);
        }
    }

    /// Alignments solved by pole matching outside this project (leak loss only): Qts, QL, α, h, f3/fs.
    #[test]
    fn quasi_butterworth_and_chebyshev_against_pole_matching() {
        let none = f64::INFINITY;
        for (qts, ql, alpha, h, f3) in [
            (0.25, none, 4.8667, 1.4606, 1.8494),
            (0.30, none, 3.0293, 1.2354, 1.4679),
            (0.36, none, 1.7499, 1.0527, 1.1142),
            (0.42, none, 1.0093, 0.9167, 0.8491),
            (0.50, none, 0.6036, 0.7769, 0.6659),
            (0.25, 7.0, 4.5822, 1.5629, 1.9667),
            (0.30, 7.0, 2.8452, 1.3145, 1.5732),
            (0.36, 7.0, 1.6371, 1.1106, 1.2167),
            (0.42, 7.0, 0.9113, 0.9662, 0.9373),
            (0.50, 7.0, 0.4642, 0.8031, 0.7155),
        ] {
            let found = flattest_vented(qts, ql).unwrap();
            assert_relative_eq!(found.alpha, alpha, max_relative = 2e-4);
            assert_relative_eq!(found.h, h, max_relative = 2e-4);
            assert_relative_eq!(found.f3, f3, max_relative = 2e-4);
        }
    }

    /// scipy's analogue Butterworth and Chebyshev prototypes (testdata/alignments/scipy: version and script there).
    #[test]
    fn polynomials_against_scipy() {
        let text = include_str!("../../../testdata/alignments/scipy/coefficients.json");
        let data: serde_json::Value = serde_json::from_str(text).unwrap();
        let cases = data["cases"].as_array().unwrap();
        assert_eq!(cases.len(), 7);
        for case in cases {
            let ripple = case["ripple_db"].as_f64().unwrap();
            // epsilon of the ripple, and the shrinking of the Butterworth poles it means: tanh(asinh(1/ε)/4)
            let epsilon = (10f64.powf(ripple / 10.0) - 1.0).sqrt();
            let t = if ripple == 0.0 { 1.0 } else { ((1.0 / epsilon).asinh() / 4.0).tanh() };
            for (ours, theirs) in flattest_coefficients(t).iter().zip(case["coefficients"].as_array().unwrap()) {
                assert_relative_eq!(*ours, theirs.as_f64().unwrap(), max_relative = 1e-9);
            }
        }
    }

    #[test]
    fn no_box_is_offered_where_there_is_none() {
        assert_eq!(flattest_vented(1.6, 7.0), None);
        assert_eq!(sealed_volume_ratio(0.8, 0.707), None);
    }
}

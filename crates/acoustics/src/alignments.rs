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
    /// Fourth-order Bessel (flattest delay): one Qts alone.
    Bessel,
    /// Sub-Chebyshev: the Butterworth poles' real parts stretched; lower Qts, sags a little.
    SubChebyshev,
    /// By choice of volume and tuning, no polynomial of a name.
    Free,
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
    stretched_coefficients(t)
}

/// Coefficients of the fourth-order Butterworth polynomial with the real parts of its poles times `t`: Chebyshev below
/// 1, sub-Chebyshev above.
fn stretched_coefficients(t: f64) -> [f64; 3] {
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

/// The place along a `road` of polynomials whose damping fits a woofer of this `qts`, between two parameters.
fn along(road: fn(f64) -> [f64; 3], qts: f64, g: f64, from: f64, to: f64) -> Option<f64> {
    let wanted = 1.0 / qts;
    let damping = |t: f64| tuning_and_damping(road(t), g).1;
    let (mut low, mut high) = (from, to);
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
    Some((low * high).sqrt())
}

/// The box of a polynomial; `None` where it has no positive volume.
fn box_of(kind: Kind, a: [f64; 3], g: f64) -> Option<(f64, Vented)> {
    let (x, q) = tuning_and_damping(a, g);
    let h = x * x;
    let alpha = h * (a[1] - g * q) - 1.0 - h * h;
    (alpha > 0.0 && alpha.is_finite())
        .then(|| (1.0 / q, Vented { kind, alpha, h, f3: half_power(a) * x, ripple_db: 0.0 }))
}

/// The flattest vented alignment for a woofer of this `qts` (with the source's resistance in it) at leak loss
/// `ql` (infinite for none). `None` where no box of positive volume does it.
///
/// Range: Qts from about 0.1 to 2; above, the ripple passes any use.
pub fn flattest_vented(qts: f64, ql: f64) -> Option<Vented> {
    let g = 1.0 / ql;
    let t = along(flattest_coefficients, qts, g, 0.01, 40.0)?;
    if t < 0.15 {
        // below a sixth of the Butterworth damping the ripple passes 5 dB: no flat box
        return None;
    }
    let kind = match t {
        t if (t - 1.0).abs() < 1e-9 => Kind::Butterworth,
        t if t > 1.0 => Kind::QuasiButterworth,
        _ => Kind::Chebyshev,
    };
    let mut found = box_of(kind, flattest_coefficients(t), g)?.1;
    if t < 1.0 {
        let epsilon = 1.0 / (4.0 * t.atanh()).sinh();
        found.ripple_db = 10.0 * (1.0 + epsilon * epsilon).log10();
    }
    Some(found)
}

/// The Butterworth box at a leak loss, and the Qts it needs.
pub fn butterworth(ql: f64) -> (f64, Vented) {
    exact(Kind::Butterworth, flattest_coefficients(1.0), ql)
}

/// The fourth-order Bessel box at a leak loss, and the Qts it needs: s⁴ + 10s³ + 45s² + 105s + 105, reversed for the
/// high-pass (Thomson 1949; Small, JAES 1973, BL4).
pub fn bessel(ql: f64) -> (f64, Vented) {
    let w = (1.0f64 / 105.0).powf(0.25);
    exact(Kind::Bessel, [1.0 / w, 45.0 / 105.0 / (w * w), 10.0 / 105.0 / w.powi(3)], ql)
}

fn exact(kind: Kind, a: [f64; 3], ql: f64) -> (f64, Vented) {
    // both polynomials have a box at every leak loss of a box that deserves the name (QL > 2)
    box_of(kind, a, 1.0 / ql.max(2.0))
        .unwrap_or((f64::NAN, Vented { kind, alpha: f64::NAN, h: f64::NAN, f3: f64::NAN, ripple_db: 0.0 }))
}

/// The sub-Chebyshev box of a woofer whose Qts is below the Butterworth one.
pub fn sub_chebyshev(qts: f64, ql: f64) -> Option<Vented> {
    let g = 1.0 / ql;
    let t = along(stretched_coefficients, qts, g, 1.0, 12.0)?;
    box_of(Kind::SubChebyshev, stretched_coefficients(t), g).map(|found| found.1)
}

/// A box tuned to the woofer's own resonance, h = 1, as flat as that allows: the first condition of a flat response,
/// a2 = a1²/2, gives the volume.
pub fn at_own_resonance(qts: f64, ql: f64) -> Option<Vented> {
    let g = 1.0 / ql;
    let a1 = 1.0 / qts + g;
    let alpha = a1 * a1 / 2.0 - g / qts - 2.0;
    (alpha > 0.1).then(|| oversize(qts, ql, alpha, 1.0))
}

/// A box of any α = Vas/Vb and h = fb/fs.
pub fn oversize(qts: f64, ql: f64, alpha: f64, h: f64) -> Vented {
    let (g, x) = (1.0 / ql, h.sqrt());
    let a = [1.0 / (qts * x) + x * g, (alpha + 1.0 + h * h) / h + g / qts, x / qts + g / x];
    Vented { kind: Kind::Free, alpha, h, f3: half_power(a) * x, ripple_db: 0.0 }
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

    /// Small (JAES 1973, from memory): the lossless Bessel box has a1 = 3.20108, a2 = 4.39155, a3 = 3.12394, hence
    /// Qts = 1/√(a1·a3) = 0.3162 and h = a3/a1 = 0.9759.
    #[test]
    fn bessel_as_small_has_it() {
        let (qts, found) = bessel(f64::INFINITY);
        assert_relative_eq!(qts, 1.0 / (3.20108f64 * 3.12394).sqrt(), max_relative = 1e-5);
        assert_relative_eq!(found.h, 3.12394 / 3.20108, max_relative = 1e-5);
        assert_relative_eq!(found.alpha, found.h * 4.39155 - 1.0 - found.h * found.h, max_relative = 1e-5);
    }

    /// Roads meet where they must: sub-Chebyshev and the tuning to fs are the Butterworth box at its Qts.
    #[test]
    fn roads_meet_at_butterworth() {
        let (qts, exact) = butterworth(f64::INFINITY);
        let near = sub_chebyshev(qts * 0.9999, f64::INFINITY).unwrap();
        assert_relative_eq!(near.alpha, exact.alpha, max_relative = 2e-3);
        let own = at_own_resonance(qts, f64::INFINITY).unwrap();
        assert_relative_eq!(own.alpha, exact.alpha, max_relative = 1e-9);
        assert_relative_eq!(own.f3, exact.f3, max_relative = 1e-6);
        assert!(sub_chebyshev(0.5, 7.0).is_none() && at_own_resonance(0.6, 7.0).is_none());
    }
}

//! Least squares over parameters that are more than zero (Marquardt, SIAM J. 11, 1963; the library's is MINPACK's), with ranges.
//!
//! Parameters are fitted as logarithms, so that a range is a factor and nothing can become negative. The covariance of the
//! logarithms is s²·(JᵀJ)⁻¹, s² = rss/(m - p) of m residuals.

use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::{DMatrix, DVector, Dyn, Owned};
use oak_drum_acoustics::halt;

/// Step of the derivative by central differences, in the logarithm.
const STEP: f64 = 1e-5;
/// 97.5 % of a normal distribution.
pub const SIGMAS: f64 = 1.959_963_985;
/// Lag-one correlation of residuals beyond which the model itself is doubted.
pub const CORRELATED: f64 = 0.3;

/// What a fit came to.
#[derive(Clone, Debug)]
pub struct Fitted {
    /// The parameters.
    pub values: Vec<f64>,
    /// Covariance of their logarithms.
    pub covariance: DMatrix<f64>,
    /// Sum of the squared residuals.
    pub rss: f64,
    /// The residuals.
    pub residuals: Vec<f64>,
    /// How many times the model was asked.
    pub asked: usize,
}

/// A fit that came to nothing.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
pub enum Unfitted {
    /// More parameters than data.
    #[error("there are too few points for so many figures")]
    TooFew,
    /// The model has no value at the start.
    #[error("the model cannot be computed where the fit begins")]
    NoStart,
    /// It went astray.
    #[error("no set of figures fits")]
    Astray,
    /// Figures that the data do not tell.
    #[error("the data do not tell these figures apart")]
    Undetermined,
}

impl Fitted {
    /// Standard deviation of a parameter's logarithm.
    pub fn sigma(&self, i: usize) -> f64 {
        self.covariance[(i, i)].max(0.0).sqrt()
    }

    /// Standard deviation of the logarithm of a figure made from the parameters, by its gradient in their logarithms.
    pub fn sigma_of(&self, gradient: &[f64]) -> f64 {
        let g = DVector::from_column_slice(gradient);
        (g.transpose() * &self.covariance * &g)[(0, 0)].max(0.0).sqrt()
    }

    /// N·ln(rss/N) + p·ln N: of several models the one with the least is named (Schwarz 1978).
    pub fn bic(&self) -> f64 {
        let n = self.residuals.len() as f64;
        n * (self.rss / n).max(1e-300).ln() + self.values.len() as f64 * n.ln()
    }

    /// The same with ranges widened by a factor.
    pub fn widened(mut self, by: f64) -> Fitted {
        self.covariance *= by * by;
        self
    }
}

struct Problem<'a> {
    logs: DVector<f64>,
    residuals: &'a dyn Fn(&[f64]) -> Option<Vec<f64>>,
    asked: std::cell::Cell<usize>,
}

impl Problem<'_> {
    fn at(&self, logs: &DVector<f64>) -> Option<Vec<f64>> {
        halt::check();
        self.asked.set(self.asked.get() + 1);
        let values: Vec<f64> = logs.iter().map(|x| x.exp()).collect();
        (self.residuals)(&values).filter(|list| list.iter().all(|r| r.is_finite()))
    }

    fn slopes(&self) -> Option<DMatrix<f64>> {
        let mut columns = Vec::with_capacity(self.logs.len());
        for i in 0..self.logs.len() {
            let moved = |by: f64| {
                let mut logs = self.logs.clone();
                logs[i] += by;
                self.at(&logs)
            };
            let (up, down) = (moved(STEP)?, moved(-STEP)?);
            let slope = up.iter().zip(&down).map(|(u, d)| (u - d) / (2.0 * STEP));
            columns.push(DVector::from_iterator(up.len(), slope));
        }
        Some(DMatrix::from_columns(&columns))
    }
}

impl LeastSquaresProblem<f64, Dyn, Dyn> for Problem<'_> {
    type ResidualStorage = Owned<f64, Dyn>;
    type JacobianStorage = Owned<f64, Dyn, Dyn>;
    type ParameterStorage = Owned<f64, Dyn>;

    fn set_params(&mut self, x: &DVector<f64>) {
        self.logs.copy_from(x);
    }
    fn params(&self) -> DVector<f64> {
        self.logs.clone()
    }
    fn residuals(&self) -> Option<DVector<f64>> {
        self.at(&self.logs).map(DVector::from_vec)
    }
    fn jacobian(&self) -> Option<DMatrix<f64>> {
        self.slopes()
    }
}

/// Fits parameters, all more than zero, from a start; the model answers with its residuals, or with nothing where it cannot be.
///
/// # Errors
/// [`Unfitted`] with the reason.
pub fn fit(start: &[f64], residuals: &dyn Fn(&[f64]) -> Option<Vec<f64>>) -> Result<Fitted, Unfitted> {
    let logs = DVector::from_iterator(start.len(), start.iter().map(|x| x.ln()));
    let problem = Problem { logs, residuals, asked: 0.into() };
    let first = problem.residuals().ok_or(Unfitted::NoStart)?;
    if first.len() <= start.len() {
        return Err(Unfitted::TooFew);
    }
    let solver = LevenbergMarquardt::new().with_ftol(1e-12).with_xtol(1e-10).with_gtol(1e-12).with_patience(60);
    let (problem, report) = solver.minimize(problem);
    let residuals = problem.residuals().ok_or(Unfitted::Astray)?;
    // a search that stops where nothing gets better any more has arrived, whatever it calls it
    if !report.objective_function.is_finite() || problem.logs.iter().any(|x| !x.is_finite() || x.abs() > 60.0) {
        return Err(Unfitted::Astray);
    }
    let jacobian = problem.slopes().ok_or(Unfitted::Astray)?;
    let rss = residuals.norm_squared();
    let (m, p) = (residuals.len(), problem.logs.len());
    let mut normal = jacobian.transpose() * &jacobian;
    // to a diagonal of ones, so that a direction the data do not tell shows as what it is
    let scale: Vec<f64> = (0..p).map(|i| normal[(i, i)].sqrt()).collect();
    if scale.iter().any(|s| *s <= 0.0) {
        return Err(Unfitted::Undetermined);
    }
    let scaled = DMatrix::from_fn(p, p, |i, k| normal[(i, k)] / scale[i] / scale[k]);
    if scaled.clone().symmetric_eigenvalues().min() < 1e-9 {
        return Err(Unfitted::Undetermined);
    }
    normal = scaled.cholesky().ok_or(Unfitted::Undetermined)?.inverse();
    let covariance = DMatrix::from_fn(p, p, |i, k| normal[(i, k)] / scale[i] / scale[k]) * (rss / (m - p) as f64);
    let sound = (0..p).all(|i| covariance[(i, i)].is_finite() && covariance[(i, i)] >= 0.0);
    if !sound {
        return Err(Unfitted::Undetermined);
    }
    Ok(Fitted {
        values: problem.logs.iter().map(|x| x.exp()).collect(),
        covariance,
        rss,
        residuals: residuals.iter().copied().collect(),
        asked: problem.asked.get(),
    })
}

/// Correlation of each residual with the next, of a list in the order of frequency.
pub fn lag_one(residuals: &[f64]) -> f64 {
    let power: f64 = residuals.iter().map(|r| r * r).sum();
    if power == 0.0 {
        return 0.0;
    }
    residuals.windows(2).map(|w| w[0] * w[1]).sum::<f64>() / power
}

/// By how much ranges have to be wider for residuals that hang together, and whether they do: √((1 + r)/(1 - r)).
pub fn widening(r: f64) -> (f64, bool) {
    if r <= CORRELATED {
        return (1.0, false);
    }
    let r = r.min(0.999);
    (((1.0 + r) / (1.0 - r)).sqrt(), true)
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// y = a·x^b: the logarithms make it a straight line, whose fit and covariance are in closed form.
    #[test]
    fn a_straight_line_in_disguise() {
        let x: Vec<f64> = (1..=40).map(|i| 1.0 + f64::from(i) * 0.1).collect();
        let noise: Vec<f64> = (1..=40).map(|i| (f64::from(i) * 12.9898).sin() * 0.01).collect();
        let y: Vec<f64> = x.iter().zip(&noise).map(|(x, n)| (3.0 * x.powf(1.7)).ln() + n).collect();
        let residuals = |p: &[f64]| Some(x.iter().zip(&y).map(|(x, y)| p[0].ln() + p[1] * x.ln() - y).collect());
        let found = fit(&[1.0, 1.0], &residuals).unwrap();
        let n = x.len() as f64;
        let u: Vec<f64> = x.iter().map(|x| x.ln()).collect();
        let (mu, my) = (u.iter().sum::<f64>() / n, y.iter().sum::<f64>() / n);
        let suu: f64 = u.iter().map(|u| (u - mu).powi(2)).sum();
        let slope = u.iter().zip(&y).map(|(u, y)| (u - mu) * (y - my)).sum::<f64>() / suu;
        assert_relative_eq!(found.values[1], slope, max_relative = 1e-9);
        let s2 = found.rss / (n - 2.0);
        // the second parameter is fitted as a logarithm: its deviation is a share
        assert_relative_eq!(found.sigma(1), (s2 / suu).sqrt() / slope, max_relative = 1e-5);
        assert_relative_eq!(found.sigma(0), (s2 * (1.0 / n + mu * mu / suu)).sqrt(), max_relative = 1e-5);
        assert_relative_eq!(found.sigma_of(&[1.0, 0.0]), found.sigma(0));
    }

    #[test]
    fn what_cannot_be_fitted_is_said() {
        let flat = |p: &[f64]| Some(vec![p[0] * p[1] - 2.0; 30]);
        assert_eq!(fit(&[1.0, 1.0], &flat).unwrap_err(), Unfitted::Undetermined);
        assert_eq!(fit(&[1.0, 1.0], &|_| Some(vec![1.0])).unwrap_err(), Unfitted::TooFew);
        assert_eq!(fit(&[1.0], &|_| None).unwrap_err(), Unfitted::NoStart);
    }

    #[test]
    fn residuals_that_hang_together_widen_the_ranges() {
        let slow: Vec<f64> = (0..200).map(|i| (f64::from(i) * 0.1).sin()).collect();
        let fast: Vec<f64> = (0..200).map(|i| if i % 2 == 0 { 1.0 } else { -1.0 }).collect();
        assert!(lag_one(&slow) > 0.9 && lag_one(&fast) < -0.9);
        assert_eq!(widening(lag_one(&fast)), (1.0, false));
        let (by, doubted) = widening(0.6);
        assert_relative_eq!(by, 2.0);
        assert!(doubted);
    }
}

//! Fourier transforms of real signals, by a library.

use num_complex::Complex64;
use oak_drum_acoustics::halt;
use realfft::RealFftPlanner;

/// A length that transforms fast: the least 2^a·3^b not below n, even.
pub fn fast_length(n: usize) -> usize {
    let mut best = n.next_power_of_two().max(2);
    let mut three = 3;
    while three < best {
        let mut length = three * 2;
        while length < n {
            length *= 2;
        }
        if length >= n {
            best = best.min(length);
        }
        three *= 3;
    }
    best
}

/// Spectrum of a signal followed by zeros up to a length (even): length/2 + 1 values.
pub fn forward(signal: &[f64], length: usize) -> Vec<Complex64> {
    halt::check();
    let plan = RealFftPlanner::<f64>::new().plan_fft_forward(length);
    let mut padded = vec![0.0; length];
    padded[..signal.len()].copy_from_slice(signal);
    let mut out = plan.make_output_vec();
    // only lengths that do not fit can fail
    if plan.process(&mut padded, &mut out).is_err() {
        out.fill(Complex64::default());
    }
    out
}

/// The signal of a spectrum of length/2 + 1 values.
pub fn backward(spectrum: &mut [Complex64], length: usize) -> Vec<f64> {
    halt::check();
    let plan = RealFftPlanner::<f64>::new().plan_fft_inverse(length);
    // of a real signal both ends are real
    if let Some(first) = spectrum.first_mut() {
        first.im = 0.0;
    }
    if let Some(last) = spectrum.last_mut() {
        last.im = 0.0;
    }
    let mut out = plan.make_output_vec();
    if plan.process(spectrum, &mut out).is_err() {
        out.fill(0.0);
    }
    let scale = 1.0 / length as f64;
    out.iter_mut().for_each(|x| *x *= scale);
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn there_and_back() {
        for n in [2, 6, 100, 1000, 4097, 1_048_577] {
            let length = fast_length(n);
            assert!(length >= n && length.is_multiple_of(2) && length < 2 * n + 2, "{n}: {length}");
        }
        let signal: Vec<f64> = (0..1000).map(|i| (f64::from(i) * 0.37).sin()).collect();
        let length = fast_length(1500);
        let back = backward(&mut forward(&signal, length), length);
        for (i, x) in back.iter().enumerate() {
            assert!((x - signal.get(i).unwrap_or(&0.0)).abs() < 1e-12);
        }
    }
}

//! Untouched data as bytes: what a database keeps, by its content.
//!
//! Little-endian. Points: `P`, quantity (0 level, 1 impedance), phase (0, 1), noise (0, 1), count u32; then frequencies f64, real and
//! imaginary parts f64, and signal over noise f32. Impulse response: `I`, quantity, two zeros, count u32; then rate, time 0, band from and to
//! f64, and samples f32 (a sixteen-millionth of their largest is kept, which is below any recording's noise).

use crate::curve::{Curve, MOST_POINTS, Measurand};
use crate::error::CurveError;
use crate::process::recipe::Data;
use crate::sweep::impulse::Impulse;
use num_complex::Complex64;

/// Most samples of an impulse response.
const MOST_SAMPLES: usize = 1 << 21;

/// Data as bytes.
pub fn pack(data: &Data) -> Vec<u8> {
    let quantity = |q: Measurand| u8::from(q == Measurand::Impedance);
    match data {
        Data::Points(curve) => {
            let noise = u8::from(!curve.snr_db.is_empty());
            let mut out = vec![b'P', quantity(curve.quantity), u8::from(curve.has_phase), noise];
            out.extend((curve.len() as u32).to_le_bytes());
            out.extend(curve.frequency.iter().flat_map(|x| x.to_le_bytes()));
            out.extend(curve.value.iter().flat_map(|v| [v.re, v.im]).flat_map(f64::to_le_bytes));
            out.extend(curve.snr_db.iter().flat_map(|x| (*x as f32).to_le_bytes()));
            out
        }
        Data::Impulse(impulse) => {
            let mut out = vec![b'I', quantity(impulse.quantity), 0, 0];
            out.extend((impulse.samples.len() as u32).to_le_bytes());
            let head = [impulse.rate, impulse.zero as f64, impulse.band.0, impulse.band.1];
            out.extend(head.iter().flat_map(|x| x.to_le_bytes()));
            out.extend(impulse.samples.iter().flat_map(|x| (*x as f32).to_le_bytes()));
            out
        }
    }
}

/// Bytes as data.
///
/// # Errors
/// [`CurveError::Wav`] where they are not what [`pack`] makes.
pub fn unpack(bytes: &[u8]) -> Result<Data, CurveError> {
    let broken = || CurveError::Wav("the stored samples are damaged".into());
    let (head, rest) = bytes.split_at_checked(8).ok_or_else(broken)?;
    let count = u32::from_le_bytes([head[4], head[5], head[6], head[7]]) as usize;
    let quantity = if head[1] == 1 { Measurand::Impedance } else { Measurand::Level };
    let doubles = |bytes: &[u8]| -> Vec<f64> {
        bytes.chunks_exact(8).map(|c| f64::from_le_bytes(c.try_into().unwrap_or_default())).collect()
    };
    let floats = |bytes: &[u8]| -> Vec<f64> {
        bytes.chunks_exact(4).map(|c| f64::from(f32::from_le_bytes(c.try_into().unwrap_or_default()))).collect()
    };
    match head[0] {
        b'P' => {
            let noise = head[3] == 1;
            if count > MOST_POINTS || rest.len() != count * (24 + if noise { 4 } else { 0 }) {
                return Err(broken());
            }
            let (frequency, rest) = rest.split_at(count * 8);
            let (parts, snr) = rest.split_at(count * 16);
            let value = doubles(parts).chunks_exact(2).map(|p| Complex64::new(p[0], p[1])).collect();
            Ok(Data::Points(Curve {
                quantity,
                frequency: doubles(frequency),
                value,
                has_phase: head[2] == 1,
                snr_db: floats(snr),
            }))
        }
        b'I' => {
            if count > MOST_SAMPLES || rest.len() != 32 + count * 4 {
                return Err(broken());
            }
            let (head, samples) = rest.split_at(32);
            let head = doubles(head);
            let (rate, zero, band) = (head[0], head[1] as isize, (head[2], head[3]));
            Ok(Data::Impulse(Impulse { quantity, rate, zero, samples: floats(samples), band }))
        }
        _ => Err(broken()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_packed_is_unpacked() {
        let mut curve = Curve::of_level(vec![10.0, 20.0, 40.0], &[80.0, 81.0, 82.5], Some(&[0.1, 0.2, -0.3]));
        curve.snr_db = vec![30.0, 20.0, 10.5];
        let Ok(Data::Points(back)) = unpack(&pack(&Data::Points(curve.clone()))) else { panic!() };
        assert_eq!(back, curve);
        let samples: Vec<f64> = (0..500).map(|i| (f64::from(i) * 0.3).sin()).collect();
        let impulse = Impulse { quantity: Measurand::Level, rate: 48e3, zero: -7, samples, band: (5.0, 900.0) };
        let Ok(Data::Impulse(back)) = unpack(&pack(&Data::Impulse(impulse.clone()))) else { panic!() };
        assert_eq!((back.zero, back.rate, back.band), (-7, 48e3, (5.0, 900.0)));
        assert!(back.samples.iter().zip(&impulse.samples).all(|(a, b)| (a - b).abs() < 1e-7));
        let whole = pack(&Data::Points(curve));
        for cut in 0..whole.len() {
            assert!(unpack(&whole[..cut]).is_err());
        }
    }
}

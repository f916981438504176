//! Files a curve comes in and goes out as: plain text, JSON, recordings.

pub mod calibration;
pub mod json;
pub mod packed;
pub mod text;
pub mod wav;

use crate::error::CurveError;

/// The text of a file: UTF-8, with or without its mark, or the one-byte text of old programs, of which only degree signs and
/// the like are not ASCII.
///
/// # Errors
/// [`CurveError`] where the bytes are no text.
pub fn decode(bytes: &[u8]) -> Result<std::borrow::Cow<'_, str>, CurveError> {
    if bytes.starts_with(&[0xFF, 0xFE]) || bytes.starts_with(&[0xFE, 0xFF]) {
        return Err(CurveError::Utf16);
    }
    let bytes = bytes.strip_prefix(&[0xEF, 0xBB, 0xBF]).unwrap_or(bytes);
    if let Some(at) = bytes.iter().position(|b| *b < 9 || (14..27).contains(b) || (28..32).contains(b)) {
        let line = bytes[..at].iter().filter(|b| **b == b'\n').count() + 1;
        return Err(CurveError::NotText { line, byte: bytes[at] });
    }
    Ok(match std::str::from_utf8(bytes) {
        Ok(text) => text.into(),
        Err(_) => bytes.iter().map(|b| char::from(*b)).collect::<String>().into(),
    })
}

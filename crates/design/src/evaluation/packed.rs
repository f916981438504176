//! A result without its findings as bytes: what is drawn under a moving hand, in a fraction of the JSON's size and time.
//!
//! Layout, numbers with their lowest byte first:
//!
//! | bytes | what |
//! |---|---|
//! | 4 | `ODC1` |
//! | 4 | length of the header, a whole number without sign; a multiple of 4 |
//! | so many | the header, JSON in UTF-8, filled up with spaces |
//! | the rest | the lists one after another, 32-bit floats |
//!
//! The header is the result of the JSON form (see the schema `result`) with `curves` left to the openings' names and sizes, and
//! with `lists`: the name and the length of each list in the order of the body. An opening's lists are named
//! `openings/0/air_speed_m_per_s`. `max_level_db` is NaN where no limit is stated; `max_level_ruled_by` counts into `limiting_factors`.

use crate::evaluation::{CurveArrays, Evaluation, OpeningCurves};
use oak_drum_acoustics::outputs::{LIMITING_FACTORS, LimitingFactor};
use serde::{Deserialize, Serialize};

/// What the bytes begin with.
pub const MAGIC: &[u8; 4] = b"ODC1";

#[derive(Serialize, Deserialize)]
struct Header {
    /// The result, its lists taken out.
    result: Evaluation,
    /// Names and lengths of the lists that follow.
    lists: Vec<(String, usize)>,
    /// What the numbers of `max_level_ruled_by` stand for.
    limiting_factors: Vec<LimitingFactor>,
}

/// Packs a result; its findings, if it has any, are left out.
pub fn pack(mut result: Evaluation) -> Vec<u8> {
    result.findings = None;
    let mut lists = Vec::new();
    let mut body: Vec<u8> = Vec::with_capacity(64 << 10);
    let mut put = |name: String, values: &mut dyn ExactSizeIterator<Item = f64>| {
        if values.len() > 0 {
            lists.push((name, values.len()));
            values.for_each(|x| body.extend_from_slice(&(x as f32).to_le_bytes()));
        }
    };
    for (name, list) in result.curves.lists_mut() {
        put(name.to_owned(), &mut std::mem::take(list).into_iter());
    }
    for (i, opening) in result.curves.openings.iter_mut().enumerate() {
        for (name, list) in opening.lists_mut() {
            put(format!("openings/{i}/{name}"), &mut std::mem::take(list).into_iter());
        }
    }
    let most = std::mem::take(&mut result.curves.max_level_db);
    put("max_level_db".into(), &mut most.into_iter().map(|level| level.unwrap_or(f64::NAN)));
    let ruled_by = std::mem::take(&mut result.curves.max_level_ruled_by);
    let index = |limiting| LIMITING_FACTORS.iter().position(|known| *known == limiting).unwrap_or(0) as f64;
    put("max_level_ruled_by".into(), &mut ruled_by.into_iter().map(index));
    let header = Header { result, lists, limiting_factors: LIMITING_FACTORS.to_vec() };
    let mut text = serde_json::to_vec(&header).unwrap_or_else(|e| unreachable!("a result can be written: {e}"));
    text.resize(text.len().next_multiple_of(4), b' ');
    let mut all = Vec::with_capacity(8 + text.len() + body.len());
    all.extend_from_slice(MAGIC);
    all.extend_from_slice(&(text.len() as u32).to_le_bytes());
    all.extend_from_slice(&text);
    all.extend_from_slice(&body);
    all
}

/// Why bytes are not what [`pack`] writes.
#[derive(Debug, thiserror::Error)]
pub enum UnpackError {
    /// They begin otherwise.
    #[error("these bytes do not begin with ODC1")]
    OtherFormat,
    /// They end before this.
    #[error("{0} is cut off")]
    CutOff(String),
    /// Their header is no header of a result.
    #[error("the header: {0}")]
    Header(serde_json::Error),
    /// They hold a list that a result has not.
    #[error("there is no list called {0}")]
    UnknownList(String),
    /// They go on behind the last list.
    #[error("more bytes follow than there are lists")]
    TooLong,
}

/// Takes bytes apart again.
///
/// # Errors
/// Where they are not what [`pack`] writes.
pub fn unpack(bytes: &[u8]) -> Result<Evaluation, UnpackError> {
    let rest = bytes.strip_prefix(MAGIC).ok_or(UnpackError::OtherFormat)?;
    let (length, rest) = rest.split_first_chunk::<4>().ok_or(UnpackError::CutOff("the length of the header".into()))?;
    let (text, mut body) =
        rest.split_at_checked(u32::from_le_bytes(*length) as usize).ok_or(UnpackError::CutOff("the header".into()))?;
    let Header { mut result, lists, limiting_factors } = serde_json::from_slice(text).map_err(UnpackError::Header)?;
    let places: Vec<usize> = (0..result.curves.openings.len()).collect();
    for (name, length) in lists {
        let (bytes, after) = body.split_at_checked(4 * length).ok_or_else(|| UnpackError::CutOff(name.clone()))?;
        body = after;
        let (floats, _) = bytes.as_chunks::<4>();
        let values: Vec<f64> = floats.iter().map(|b| f64::from(f32::from_le_bytes(*b))).collect();
        let curves: &mut CurveArrays = &mut result.curves;
        if name == "max_level_db" {
            curves.max_level_db = values.into_iter().map(|x| x.is_finite().then_some(x)).collect();
        } else if name == "max_level_ruled_by" {
            let known = |x: f64| limiting_factors.get(x as usize).copied().unwrap_or_default();
            curves.max_level_ruled_by = values.into_iter().map(known).collect();
        } else {
            let own = places.iter().find_map(|i| Some((*i, name.strip_prefix(&format!("openings/{i}/"))?)));
            let place = match own {
                Some((i, own)) => OpeningCurves::lists_mut(&mut curves.openings[i]).into_iter().find(|l| l.0 == own),
                None => curves.lists_mut().into_iter().find(|list| list.0 == name),
            };
            *place.ok_or_else(|| UnpackError::UnknownList(name.clone()))?.1 = values;
        }
    }
    if body.is_empty() { Ok(result) } else { Err(UnpackError::TooLong) }
}

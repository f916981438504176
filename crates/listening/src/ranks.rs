//! Ranks of scores, ties shared.

/// Ranks from 1 for the smallest, times two so that shared ranks are whole; equal values share the middle of their places.
pub fn doubled(values: &[f64]) -> Vec<u32> {
    values
        .iter()
        .map(|v| {
            let below = values.iter().filter(|w| *w < v).count() as u32;
            let equal = values.iter().filter(|w| *w == v).count() as u32;
            // places below + 1 to below + equal
            2 * below + equal + 1
        })
        .collect()
}

/// The same as they are written: 1, 2.5, 2.5, 4.
pub fn ranks(values: &[f64]) -> Vec<f64> {
    doubled(values).into_iter().map(|r| f64::from(r) / 2.0).collect()
}

/// Sizes of the groups of equal values.
pub fn ties(values: &[f64]) -> Vec<usize> {
    let mut sorted = values.to_vec();
    sorted.sort_by(f64::total_cmp);
    sorted.chunk_by(|a, b| a == b).map(<[f64]>::len).collect()
}

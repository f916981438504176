//! How much a file may hold.

/// Most members of a file.
pub const MOST_MEMBERS: usize = 200_000;
/// Most bytes of a file's JSON.
pub const MOST_JSON: u64 = 64 << 20;
/// Most bytes of a measurement's samples.
pub const MOST_SAMPLES: u64 = 256 << 20;
/// Most bytes of a photo.
pub const MOST_PHOTO: u64 = 16 << 20;
/// Most bytes of all that is read of one file.
pub const MOST_WHOLE: u64 = 2 << 30;

//! How much a request may bring.

/// Largest request body, bytes. A design is a few kilobytes, a long list of frequencies a few hundred.
pub const BODY_LIMIT: usize = 1 << 20;

/// Largest file of a build or a workshop, bytes: what one may unpack to, and some more for its frame.
pub const CARRY_LIMIT: u64 = oak_drum_bundle::limits::MOST_WHOLE + (64 << 20);

/// Largest file, bytes: 20 000 woofers with every column filled stay under it, a million points of a curve, and five minutes of a
/// recording in one channel.
pub const FILE_LIMIT: usize = 48 << 20;

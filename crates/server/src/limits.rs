//! How much a request may bring.

/// Largest request body, bytes. A design is a few kilobytes, a long list of frequencies a few hundred.
pub const BODY_LIMIT: usize = 1 << 20;

/// Largest file of woofers, bytes: 20 000 rows with every column filled stay under it.
pub const FILE_LIMIT: usize = 16 << 20;

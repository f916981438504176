//! What a command gives back.

use anyhow::{Context, Result};

/// Prints to standard output; a closed pipe is no error.
pub fn print(text: &str) -> Result<()> {
    use std::io::{ErrorKind, Write};
    match std::io::stdout().write_all(text.as_bytes()) {
        Err(error) if error.kind() != ErrorKind::BrokenPipe => Err(error).context("cannot write"),
        _ => Ok(()),
    }
}

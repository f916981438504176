//! What a command gives back.

/// What went wrong, in one line.
pub type Outcome = Result<(), String>;

/// Prints to standard output; a closed pipe is no error.
pub fn print(text: &str) -> Outcome {
    use std::io::{ErrorKind, Write};
    match std::io::stdout().write_all(text.as_bytes()) {
        Err(error) if error.kind() != ErrorKind::BrokenPipe => Err(format!("cannot write: {error}")),
        _ => Ok(()),
    }
}
